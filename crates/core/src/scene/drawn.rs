//! Imported drawings in their own groups and colours, as SVG.

use super::markup::{matrix, number, path_data};
use super::paint::Definitions;
use crate::combine::unite;
use crate::outline::{DrawnGradient, DrawnPaint, DrawnPicture, GradientAxis, Spread, warp};
use crate::sheet::{DrawingFill, Paint, PartLook, Placement, Sheet, Unit};
use kurbo::{Affine, BezPath};
use std::borrow::Cow;
use std::ops::Range;

/// How near to its true place a pulled line is, in millimetres on the sheet.
const FINE: f64 = 0.01;

/// A drawing at its place, with more attributes (each with a space before it); corners that are pulled included.
pub(super) fn drawing_at(
    picture: &DrawnPicture,
    drawing: &DrawingFill,
    mark: &str,
    definitions: &mut Definitions<'_>,
) -> String {
    let place = &drawing.placement;
    let mut writer =
        Writer { looks: &drawing.looks, pulled: place.pull.map(|_| place), ..Writer::new(picture, definitions) };
    writer.parts(picture.within(0), None, false);
    writer.at(place, mark)
}

/// What of a drawing is let out, at its place; and its outline in sheet space. None where that is nothing.
pub(super) fn let_out(
    picture: &DrawnPicture,
    drawing: &DrawingFill,
    mark: &str,
    definitions: &mut Definitions<'_>,
) -> Option<(String, BezPath)> {
    let place = &drawing.placement;
    let pulled = place.pull.map(|_| place);
    let mut writer = Writer { looks: &drawing.looks, pulled, only_out: true, ..Writer::new(picture, definitions) };
    writer.parts(picture.within(0), None, false);
    let outline = place.affine(picture.width, picture.height) * unite(&writer.outline);
    (!outline.is_empty()).then(|| (writer.at(place, mark), outline))
}

/// A whole drawing in its own space.
pub(super) fn drawing_markup(picture: &DrawnPicture, definitions: &mut Definitions<'_>) -> String {
    let mut writer = Writer::new(picture, definitions);
    writer.parts(picture.within(0), None, false);
    writer.markup
}

/// One part of a drawing as an SVG file of its own, as large as the part is; None where it paints nothing.
pub fn drawing_svg(picture: &DrawnPicture, part: usize) -> Option<String> {
    let bounds = picture.bounds(part)?;
    let sheet = Sheet::new("", 1.0, 1.0, Unit::Mm, 72.0);
    let mut definitions = Definitions::new(&sheet, "part".into());
    let mut writer = Writer::new(picture, &mut definitions);
    writer.parts(picture.within(part), None, false);
    let body = writer.markup;
    Some(format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"{} {} {} {}\">{}{body}</svg>",
        number(bounds.x0),
        number(bounds.y0),
        number(bounds.width().max(0.01)),
        number(bounds.height().max(0.01)),
        definitions.markup
    ))
}

/// A path of a drawing with its corners pulled, in the drawing's own space.
pub(super) fn placed<'p>(path: &'p BezPath, picture: &DrawnPicture, place: &Placement) -> Cow<'p, BezPath> {
    if place.pull.is_none() {
        return Cow::Borrowed(path);
    }
    Cow::Owned(warp(path, |p| place.pulled(p, picture.width, picture.height, false), FINE / place.scale))
}

struct Writer<'a, 'd, 's> {
    picture: &'a DrawnPicture,
    looks: &'a [PartLook],
    pulled: Option<&'a Placement>,
    /// Parts that are not let out are not written.
    only_out: bool,
    markup: String,
    /// What of the drawing is let out, where only that is written.
    outline: BezPath,
    definitions: &'d mut Definitions<'s>,
}

impl<'a, 'd, 's> Writer<'a, 'd, 's> {
    fn new(picture: &'a DrawnPicture, definitions: &'d mut Definitions<'s>) -> Self {
        let (markup, outline) = (String::new(), BezPath::new());
        Self { picture, looks: &[], pulled: None, only_out: false, markup, outline, definitions }
    }

    fn at(&self, place: &Placement, mark: &str) -> String {
        let to_sheet = place.affine(self.picture.width, self.picture.height);
        format!("<g{mark} transform=\"{}\">{}</g>", matrix(to_sheet), self.markup)
    }

    /// Parts beside one another, in `paint` instead of their own ones if there is one; `out` where what they lie in is let out.
    fn parts(&mut self, range: Range<usize>, paint: Option<&str>, out: bool) {
        let mut next = range.start;
        while next < range.end {
            let Some(part) = self.picture.parts.get(next) else {
                return;
            };
            let at = next;
            next = part.end.max(at + 1);
            let look = self.looks.iter().find(|l| l.part as usize == at);
            if look.is_some_and(|l| l.off) {
                continue;
            }
            let out = out || look.is_some_and(|l| l.out);
            let own = look.and_then(|l| l.paint.as_ref()).map(|p| self.repainted(p, at));
            let paint = own.as_deref().or(paint);
            let mut attributes = String::new();
            if part.opacity < 1.0 {
                attributes.push_str(&format!(" opacity=\"{}\"", number(part.opacity)));
            }
            if part.blend.keyword() != "normal" {
                attributes.push_str(&format!(" style=\"mix-blend-mode:{}\"", part.blend.keyword()));
            }
            match &part.shape {
                Some(_) if self.only_out && !out => {}
                Some(shape) => {
                    let value = paint.map_or_else(|| self.paint(&shape.paint), str::to_owned);
                    let placed = self
                        .pulled
                        .map_or(Cow::Borrowed(&shape.path), |place| placed(&shape.path, self.picture, place));
                    let d = path_data(&placed);
                    if self.only_out {
                        self.outline.extend(placed.elements().iter().copied());
                    }
                    self.markup.push_str(&format!("<path{attributes} fill=\"{value}\" d=\"{d}\"/>"));
                }
                None => {
                    self.markup.push_str(&format!("<g{attributes}>"));
                    self.parts(at + 1..next, paint, out);
                    self.markup.push_str("</g>");
                }
            }
        }
    }

    fn repainted(&mut self, paint: &Paint, part: usize) -> String {
        let bounds = self.picture.bounds(part).unwrap_or_default();
        self.definitions.paint(paint, bounds, "")
    }

    fn paint(&mut self, paint: &DrawnPaint) -> String {
        match paint {
            DrawnPaint::Colour(colour) => colour.to_string(),
            DrawnPaint::Gradient(gradient) => {
                let id = self.definitions.next("gradient");
                self.definitions.markup.push_str(&gradient_markup(&id, gradient));
                format!("url(#{id})")
            }
        }
    }
}

fn gradient_markup(id: &str, gradient: &DrawnGradient) -> String {
    let fine = |v: f64| ((v * 1e9).round() / 1e9).to_string();
    let (element, place) = match gradient.axis {
        GradientAxis::Linear(v) => {
            let [x1, y1, x2, y2] = v.map(fine);
            ("linearGradient", format!("x1=\"{x1}\" y1=\"{y1}\" x2=\"{x2}\" y2=\"{y2}\""))
        }
        GradientAxis::Radial(v) => {
            let [cx, cy, r, fx, fy] = v.map(fine);
            ("radialGradient", format!("cx=\"{cx}\" cy=\"{cy}\" r=\"{r}\" fx=\"{fx}\" fy=\"{fy}\""))
        }
    };
    let spread = match gradient.spread {
        Spread::Pad => "pad",
        Spread::Reflect => "reflect",
        Spread::Repeat => "repeat",
    };
    let stops: String = gradient
        .stops
        .iter()
        .map(|(at, colour, opacity)| {
            let (at, opacity) = (number(*at), number(*opacity));
            format!("<stop offset=\"{at}\" stop-color=\"{colour}\" stop-opacity=\"{opacity}\"/>")
        })
        .collect();
    format!(
        "<{element} id=\"{id}\" gradientUnits=\"userSpaceOnUse\" {place} spreadMethod=\"{spread}\" gradientTransform=\"{}\">{stops}</{element}>",
        matrix(Affine::new(gradient.transform))
    )
}
