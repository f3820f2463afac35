//! Brushed areas whose edges fade: what an outline cannot say, as an SVG mask.

use super::markup::{number, path_data};
use crate::combine::{grow, round_corners, unite};
use crate::library::{Among, Library};
use crate::outline::{bent_with, brush_path, chosen_cells, form_path, list_path, opening_path, painted_path, pulled};
use crate::sheet::{Brush, Form, FormShape, Join, Opening, PieceId};
use kurbo::{BezPath, Rect, Shape};

/// Blur (standard deviation) for a fade from full to nothing of one unit: a Gaussian's edge runs from 5 to 95 % over 3.3 of them.
pub(super) const BLUR: f64 = 0.3;

/// The contents of a mask, and the definitions that it needs: white where the opening is, grey where it fades.
pub struct SoftMask {
    pub definitions: String,
    pub contents: String,
    /// What it shows at most, in sheet space.
    pub bounds: Rect,
    prefix: String,
    masks: usize,
}

/// The mask of an opening with fading edges. None where every edge is clear.
///
/// The forms act on one another in the order of their list, as their joins say, fading ones by their shares: what is cut away
/// by a fading area fades out there; so do those of lists within. Cells act on what is clear.
pub fn soft_mask(opening: &Opening, piece: PieceId, library: &dyn Library) -> Option<SoftMask> {
    let forms: Vec<&Form> = opening.forms.iter().filter(|f| !f.off).collect();
    let first = forms.iter().position(|f| fading(f).is_some())?;
    let mut mask = SoftMask {
        definitions: String::new(),
        contents: String::new(),
        bounds: Rect::ZERO,
        prefix: format!("soft-{piece}"),
        masks: 0,
    };
    // up to the first fading form, outlines are joined as ever; the others stay in the list, as edges that lettering runs along
    let mut clear = Opening { cells: Vec::new(), ..opening.clone() };
    clear.forms.iter_mut().filter(|f| !f.off).skip(first).for_each(|f| f.off = true);
    let mut shown = mask.clear(&opening_path(&clear, library).unwrap_or_default());
    let among = Among { library, forms: &opening.forms };
    let sheet = Space { to_sheet: Box::new(|path| path), scale: 1.0, grow: opening.grow, rounding: opening.rounding };
    for (k, form) in forms.iter().enumerate().skip(first) {
        let join = if k == 0 { Join::Add } else { form.join };
        let area = mask.area(form, &sheet.of_operand(join), &among);
        shown = mask.joined(shown, area, join);
    }
    for (path, taken) in chosen_cells(opening, library).unwrap_or_default() {
        let area = mask.clear(&path);
        shown = mask.joined(shown, area, if taken { Join::Add } else { Join::CutAway });
    }
    mask.contents = shown.markup;
    mask.bounds = shown.bounds;
    Some(mask)
}

/// What of a form fades.
enum Fading<'a> {
    Paint(&'a Brush),
    /// A list with paint in it.
    List(&'a [Form]),
    /// A form with paint in it as its own line, whose edges fade over this many millimetres of the form's own space.
    Line(f64),
}

fn fading(form: &Form) -> Option<Fading<'_>> {
    let fade = widest_fade(form);
    match &form.shape {
        _ if fade <= 0.0 => None,
        _ if form.line.is_some() => Some(Fading::Line(fade)),
        FormShape::Brush(brush) => Some(Fading::Paint(brush)),
        FormShape::List { forms } => Some(Fading::List(forms)),
        _ => None,
    }
}

/// The widest fading edge of an opening's forms, in millimetres; 0 where all are clear.
pub(super) fn widest_fade_of(opening: &Opening) -> f64 {
    opening.forms.iter().filter(|f| !f.off).map(|f| widest_fade(f) * mean_scale(f)).fold(0.0, f64::max)
}

/// The widest fading edge of a form, in millimetres of its own space; 0 where all are clear.
fn widest_fade(form: &Form) -> f64 {
    match &form.shape {
        FormShape::Brush(b) => b.strokes.iter().filter(|s| s.is_soft()).map(|s| s.fade()).fold(0.0, f64::max),
        FormShape::List { forms } => {
            forms.iter().filter(|f| !f.off).map(|f| widest_fade(f) * mean_scale(f)).fold(0.0, f64::max)
        }
        _ => 0.0,
    }
}

fn mean_scale(form: &Form) -> f64 {
    form.pose.affine().determinant().abs().sqrt()
}

/// Where outlines of a list or of strokes lie, and how the opening reshapes them there.
struct Space<'a> {
    to_sheet: Box<dyn Fn(BezPath) -> BezPath + 'a>,
    /// Millimetres on the sheet for one of this space.
    scale: f64,
    /// Millimetres on the sheet.
    grow: f64,
    /// Millimetres on the sheet.
    rounding: f64,
}

impl<'a> Space<'a> {
    /// The same space for something that is joined this way: what is cut away shrinks as the rest grows.
    fn of_operand(&'a self, join: Join) -> Space<'a> {
        let grow = if join == Join::CutAway { -self.grow } else { self.grow };
        Space { to_sheet: Box::new(|path| (self.to_sheet)(path)), grow, ..*self }
    }

    /// The space of what a form is made of, whose clear outline, not yet bent, is `plain`.
    fn inside(&'a self, form: &'a Form, plain: &BezPath) -> Space<'a> {
        let frame = plain.bounding_box();
        let bend = move |path: BezPath| match &form.bend {
            Some(bend) => bent_with(&path, frame, bend),
            None => path,
        };
        let pull_frame = bend(plain.clone()).bounding_box();
        let to_sheet = move |path: BezPath| {
            let bent = bend(path);
            let placed = match &form.pose.pull {
                // corners pulled across one another have been refused before
                Some(pull) => pulled(&bent, pull_frame, pull).unwrap_or(bent),
                None => bent,
            };
            (self.to_sheet)(form.pose.affine() * placed)
        };
        Space { to_sheet: Box::new(to_sheet), scale: self.scale * mean_scale(form), ..*self }
    }

    fn reshaped(&self, path: BezPath) -> BezPath {
        let path = grow(&unite(&(self.to_sheet)(path)), self.grow);
        if self.rounding > 0.0 { unite(&round_corners(&path, self.rounding)) } else { path }
    }
}

/// White shapes on nothing, and what they reach.
struct Area {
    markup: String,
    bounds: Rect,
}

fn around(a: Rect, b: Rect) -> Rect {
    match (a == Rect::ZERO, b == Rect::ZERO) {
        (true, _) => b,
        (_, true) => a,
        _ => a.union(b),
    }
}

impl SoftMask {
    fn clear(&self, path: &BezPath) -> Area {
        if path.is_empty() {
            return Area { markup: String::new(), bounds: Rect::ZERO };
        }
        Area { markup: format!("<path fill=\"#fff\" d=\"{}\"/>", path_data(path)), bounds: path.bounding_box() }
    }

    /// A form that lies in `space`.
    fn area(&mut self, form: &Form, space: &Space<'_>, library: &dyn Library) -> Area {
        match fading(form) {
            Some(Fading::Paint(brush)) => self.painted(brush, &space.inside(form, &brush_path(brush))),
            Some(Fading::List(forms)) => {
                let plain = list_path(forms, library).unwrap_or_default();
                self.list(forms, &space.inside(form, &plain), library)
            }
            Some(Fading::Line(fade)) => {
                let line = space.reshaped(form_path(form, library).unwrap_or_default());
                self.blurred(&line, fade * mean_scale(form) * space.scale)
            }
            // a form without an outline has been refused before
            None => self.clear(&space.reshaped(form_path(form, library).unwrap_or_default())),
        }
    }

    fn list(&mut self, forms: &[Form], space: &Space<'_>, library: &dyn Library) -> Area {
        let among = Among { library, forms };
        let mut shown = self.clear(&BezPath::new());
        for (k, form) in forms.iter().filter(|f| !f.off).enumerate() {
            let join = if k == 0 { Join::Add } else { form.join };
            let area = self.area(form, &space.of_operand(join), &among);
            shown = self.joined(shown, area, join);
        }
        shown
    }

    /// Strokes in their order, what is erased by a fading eraser fading out.
    fn painted(&mut self, brush: &Brush, space: &Space<'_>) -> Area {
        let mut shown = self.clear(&BezPath::new());
        for stroke in &brush.strokes {
            let join = if stroke.erase { Join::CutAway } else { Join::Add };
            let path = space.of_operand(join).reshaped(painted_path(stroke, stroke.fade() / 2.0));
            let area = self.blurred(&path, stroke.fade() * space.scale);
            shown = self.joined(shown, area, join);
        }
        shown
    }

    /// A path in sheet space whose edge fades over so many millimetres.
    fn blurred(&mut self, path: &BezPath, fade: f64) -> Area {
        if path.is_empty() {
            return self.clear(path);
        }
        let blur = fade * BLUR;
        let filter = self.blur(blur);
        let bounds = path.bounding_box().inflate(3.0 * blur, 3.0 * blur);
        Area { markup: format!("<path fill=\"#fff\"{filter} d=\"{}\"/>", path_data(path)), bounds }
    }

    fn joined(&mut self, shown: Area, area: Area, join: Join) -> Area {
        match join {
            Join::Add => Area { markup: shown.markup + &area.markup, bounds: around(shown.bounds, area.bounds) },
            Join::CutAway => self.masked(&shown, &area, true),
            Join::KeepShared => self.masked(&shown, &area, false),
            Join::DropShared => self.exclusive(shown, area),
        }
    }

    /// What lies in one of two areas but not in both: a + b − 2ab, which is the blend mode "exclusion" (W3C Compositing and Blending,
    /// section 9.1.11) of white on black.
    fn exclusive(&mut self, a: Area, b: Area) -> Area {
        let id = self.next();
        let bounds = around(a.bounds, b.bounds);
        let all = region(bounds);
        let ground = format!("<rect {all} fill=\"#000\"/>");
        self.definitions.push_str(&format!(
            "<mask id=\"{id}\" maskUnits=\"userSpaceOnUse\" {all}>{ground}{}<g style=\"mix-blend-mode:exclusion\">{ground}{}</g></mask>",
            a.markup, b.markup
        ));
        Area { markup: format!("<rect {all} fill=\"#fff\" mask=\"url(#{id})\"/>"), bounds }
    }

    fn next(&mut self) -> String {
        self.masks += 1;
        format!("{}-{}", self.prefix, self.masks)
    }

    /// An area where another one is, or (`out`) where it is not.
    fn masked(&mut self, area: &Area, by: &Area, out: bool) -> Area {
        if area.markup.is_empty() || (out && by.markup.is_empty()) {
            return Area { markup: area.markup.clone(), bounds: area.bounds };
        }
        let id = self.next();
        let all = region(area.bounds);
        let (ground, markup) = if out {
            let black = by.markup.replace("fill=\"#fff\"", "fill=\"#000\"");
            (format!("<rect {all} fill=\"#fff\"/>"), black)
        } else {
            (String::new(), by.markup.clone())
        };
        self.definitions
            .push_str(&format!("<mask id=\"{id}\" maskUnits=\"userSpaceOnUse\" {all}>{ground}{markup}</mask>"));
        let bounds = if out { area.bounds } else { by.bounds };
        Area { markup: format!("<g mask=\"url(#{id})\">{}</g>", area.markup), bounds }
    }

    /// The attribute that blurs, its filter defined; nothing for a clear edge.
    fn blur(&mut self, blur: f64) -> String {
        if blur <= 0.0 {
            return String::new();
        }
        let id = self.next();
        self.definitions.push_str(&format!(
            "<filter id=\"{id}\" x=\"-1\" y=\"-1\" width=\"3\" height=\"3\"><feGaussianBlur stdDeviation=\"{}\"/></filter>",
            number(blur)
        ));
        format!(" filter=\"url(#{id})\"")
    }
}

/// For the mask's own region: the bounds in whole millimetres with room to spare.
pub(super) fn region(bounds: Rect) -> String {
    let b = bounds.inflate(2.0, 2.0).expand();
    format!(
        "x=\"{}\" y=\"{}\" width=\"{}\" height=\"{}\"",
        number(b.x0),
        number(b.y0),
        number(b.width()),
        number(b.height())
    )
}
