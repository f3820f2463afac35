//! What breaks out of a window as SVG.

use super::View;
use super::drawn::{let_out, placed};
use super::fills::moves;
use super::layer::{Layer, OverhangView, image, needed};
use super::markup::{matrix, path_data};
use super::paint::Definitions;
use crate::breakout::{Overhangs, overhangs};
use crate::combine::{Rule, bounds, grow, join_pair, parts, unite};
use crate::outline::DrawnPicture;
use crate::sheet::{Anchor, DrawingFill, Fill, FillId, Photo, PhotoFill, Window};
use kurbo::{Affine, BezPath, Point, Rect, Shape};

/// The overhangs of one photo that are let out.
pub(super) struct Breakout {
    pub markup: String,
    /// What throws a shadow.
    pub silhouette: String,
    /// Sheet space.
    pub bounds: Rect,
    /// Where it shows, in sheet space.
    released: BezPath,
    image: String,
}

/// What of one photo is let out; describes all overhangs in `layer` where that is asked for. `shown` is the opening's outline.
#[allow(clippy::too_many_arguments)]
pub(super) fn breakouts(
    window: &Window,
    fill: &Fill,
    photo_fill: &PhotoFill,
    photo: &Photo,
    shown: &BezPath,
    tone: &str,
    view: &View<'_>,
    layer: &mut Layer,
    definitions: &mut Definitions<'_>,
) -> Option<Breakout> {
    let subject = photo.subject.as_ref()?;
    let anchors: Vec<Anchor> = window.breakout.let_out.iter().copied().filter(|a| a.fill == fill.id).collect();
    if anchors.is_empty() && !view.with_handles {
        return None;
    }
    let matte = view.library.matte(subject)?;
    let place = &photo_fill.placement;
    // where corners are pulled, overhangs are looked for in the pulled picture, whose origin is that of its frame
    let frame = place.frame(photo.width, photo.height);
    let matte = match &place.pull {
        Some(pull) => std::sync::Arc::new(matte.pulled(pull, (photo.width, photo.height))?),
        None => matte,
    };
    let to_sheet = place.affine(photo.width, photo.height) * Affine::translate(frame.origin().to_vec2());
    let there = |p: Point| place.pulled(p, photo.width, photo.height, false) - frame.origin().to_vec2();
    let back = |p: Point| place.pulled(p + frame.origin().to_vec2(), photo.width, photo.height, true);
    let points: Vec<Point> = anchors.iter().map(|a| there(Point::new(a.x, a.y))).collect();
    let found = overhangs(&matte, shown, to_sheet, &points);
    if view.with_handles {
        describe(&found, fill.id, &anchors, to_sheet, &back, place.pull.is_some(), shown, layer);
    }
    if found.released.is_empty() {
        return None;
    }
    let href = view.pictures.cutout(subject, photo, needed(photo, place, view), place.pull.as_ref());
    let id = definitions.next("released");
    definitions.markup.push_str(&format!(
        "<clipPath id=\"{id}\"><path transform=\"{}\" d=\"{}\"/></clipPath>",
        matrix(to_sheet),
        path_data(&found.released)
    ));
    let faint = faint(fill);
    let image = image(&href, photo, place, "", tone);
    let shape = format!("clip-path=\"url(#{id})\"{}", moves(fill));
    let released = to_sheet * found.released;
    Some(Breakout {
        markup: format!("<g data-breakout=\"{}\" {shape}{faint}>{image}</g>", fill.id),
        silhouette: format!("<g {shape}>{image}</g>"),
        bounds: released.bounding_box(),
        released,
        image: format!("<g{}{faint}>{image}</g>", moves(fill)),
    })
}

/// The parts of a drawing that are let out. They are drawn whole beneath the opening, so that nothing shows where they cross its edge.
pub(super) fn drawn_breakout(
    fill: &Fill,
    drawing: &DrawingFill,
    picture: &DrawnPicture,
    shown: &BezPath,
    definitions: &mut Definitions<'_>,
) -> Option<Breakout> {
    if !drawing.breaks_out() {
        return None;
    }
    let (body, outline) = let_out(picture, drawing, "", definitions)?;
    let released = join_pair(&outline, shown, Rule::Difference);
    let faint = faint(fill);
    let breakout = Breakout {
        markup: format!("<g data-breakout=\"{}\"{}{faint}>{body}</g>", fill.id, moves(fill)),
        silhouette: format!("<g{}>{body}</g>", moves(fill)),
        bounds: bounds(&outline),
        image: format!("<g{}{faint}>{body}</g>", moves(fill)),
        released,
    };
    (!breakout.released.is_empty()).then_some(breakout)
}

/// Where a point lies about an opening with these bounds.
fn place_of(at: Point, bounds: Rect, counter: bool) -> &'static str {
    match (counter, at.y < bounds.y0, at.y > bounds.y1, at.x < bounds.x0, at.x > bounds.x1) {
        (true, ..) => "in a counter",
        (_, true, ..) => "above",
        (_, _, true, ..) => "below",
        (_, _, _, true, _) => "left",
        (.., true) => "right",
        _ => "between the edges",
    }
}

/// Pieces of drawings with more of them than this are let out by their groups alone.
const PIECES: usize = 80;

/// The pieces of a drawing that reach over the edge of the opening, with its outline `shown`.
pub(super) fn drawn_overhangs(
    fill: FillId,
    drawing: &DrawingFill,
    picture: &DrawnPicture,
    shown: &BezPath,
    layer: &mut Layer,
) {
    let pieces: Vec<usize> = picture.pieces().take(PIECES + 1).collect();
    if pieces.len() > PIECES {
        return;
    }
    let place = &drawing.placement;
    let to_sheet = place.affine(picture.width, picture.height);
    let around = bounds(shown);
    let page = (picture.width * picture.height).max(1e-9);
    for at in pieces {
        let looks = || drawing.looks.iter().filter(|l| picture.holds(l.part as usize, at));
        if looks().any(|l| l.off) {
            continue;
        }
        let own: BezPath = picture.shapes(at).flat_map(|s| s.path.elements().iter().copied()).collect();
        let own = unite(&own);
        let seen = placed(&own, picture, place);
        let outside = join_pair(&(to_sheet * &*seen), shown, Rule::Difference);
        let Some(largest) = parts(&outside).into_iter().max_by(|a, b| a.area.total_cmp(&b.area)) else {
            continue;
        };
        // what only grazes the edge cannot be pointed at
        if largest.area < 1e-4 * around.area() {
            continue;
        }
        let middle = largest.bounds.center();
        let anchor = Anchor { fill, x: middle.x, y: middle.y };
        layer.overhangs.push(OverhangView {
            anchor,
            let_out_by: if looks().any(|l| l.out) { vec![anchor] } else { Vec::new() },
            outline: path_data(&outside),
            transform: matrix(Affine::IDENTITY),
            counter: false,
            cut_off: false,
            share: seen.area().abs() / page,
            part: Some(at as u32),
            place: place_of(middle, around, false).into(),
        });
    }
}

fn faint(fill: &Fill) -> String {
    if fill.strength < 1.0 { format!(" opacity=\"{}\"", super::number(fill.strength)) } else { String::new() }
}

impl Breakout {
    /// Once more, over a rim that reaches so far into the opening: the subject hides it where it climbs across.
    pub fn over_rim(&self, reach: f64, shown: &BezPath, definitions: &mut Definitions<'_>) -> String {
        let released = unite(&self.released);
        let near = join_pair(&grow(&released, reach + 0.2), shown, Rule::Intersection);
        let whole = join_pair(&near, &released, Rule::Union);
        let id = definitions.next("released");
        definitions.markup.push_str(&format!("<clipPath id=\"{id}\"><path d=\"{}\"/></clipPath>", path_data(&whole)));
        format!("<g clip-path=\"url(#{id})\">{}</g>", self.image)
    }
}

#[allow(clippy::too_many_arguments)]
fn describe(
    found: &Overhangs,
    fill: FillId,
    anchors: &[Anchor],
    to_sheet: Affine,
    back: &dyn Fn(Point) -> Point,
    pulled: bool,
    opening: &BezPath,
    layer: &mut Layer,
) {
    let bounds = opening.bounding_box();
    for part in &found.parts {
        let at = to_sheet * part.anchor;
        let anchor = back(part.anchor);
        layer.overhangs.push(OverhangView {
            anchor: Anchor { fill, x: anchor.x, y: anchor.y },
            let_out_by: part.let_out_by.iter().map(|&k| anchors[k]).collect(),
            outline: path_data(&part.outline),
            transform: matrix(to_sheet),
            counter: part.counter,
            cut_off: part.cut_off && !pulled,
            share: part.share,
            part: None,
            place: place_of(at, bounds, part.counter).into(),
        });
    }
}
