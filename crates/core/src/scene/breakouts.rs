//! What breaks out of a window as SVG.

use super::View;
use super::drawn::{let_out, placed};
use super::fills::moves;
use super::layer::{CrossingView, Layer, OverhangView, image, needed};
use super::markup::{matrix, path_data};
use super::paint::Definitions;
use super::row::Row;
use crate::breakout::{Overhangs, PlacedMatte, contours, crosses, overhangs};
use crate::combine::{Rule, bounds, grow, inner_point, join_pair, parts, unite};
use crate::cutout::SubjectStroke;
use crate::outline::DrawnPicture;
use crate::sheet::{Anchor, DrawingFill, Fill, FillId, Photo, PhotoFill, PhotoSubject, Window};
use kurbo::{Affine, BezPath, ParamCurveNearest, Point, Rect, Shape};

/// The overhangs of one photo that are let out.
pub(super) struct Breakout<'a> {
    pub markup: String,
    /// What throws a shadow.
    pub silhouette: String,
    /// Sheet space.
    pub bounds: Rect,
    /// Where it shows, in sheet space.
    released: BezPath,
    /// What of it lies along the edge, in sheet space: where it reaches under the fills, if it does and the edge has rims.
    strips: BezPath,
    /// Where it runs under the rims, in sheet space.
    under: Vec<BezPath>,
    image: String,
    pub row: &'a Row<'a>,
}

/// What of one photo's subjects is let out; describes all overhangs in `layer` where that is asked for. `row` is the window with those it shares a photo with.
#[allow(clippy::too_many_arguments)]
pub(super) fn breakouts<'a>(
    window: &Window,
    fill: &Fill,
    photo_fill: &PhotoFill,
    photo: &Photo,
    row: &'a Row<'a>,
    tone: &str,
    view: &View<'_>,
    layer: &mut Layer,
    definitions: &mut Definitions<'_>,
) -> Vec<Breakout<'a>> {
    let each = photo.subjects.iter().filter_map(|subject| {
        breakout(window, fill, (photo_fill, photo, subject), row, tone, view, layer, definitions)
    });
    each.collect()
}

/// What of one subject is let out.
#[allow(clippy::too_many_arguments)]
fn breakout<'a>(
    window: &Window,
    fill: &Fill,
    (photo_fill, photo, subject): (&PhotoFill, &Photo, &PhotoSubject),
    row: &'a Row<'a>,
    tone: &str,
    view: &View<'_>,
    layer: &mut Layer,
    definitions: &mut Definitions<'_>,
) -> Option<Breakout<'a>> {
    let mine = |a: &Anchor| a.fill == fill.id && a.subject == subject.key;
    let breakout = &window.breakout;
    let anchors: Vec<Anchor> = breakout.let_out.iter().copied().filter(mine).collect();
    let by_hand = breakout.painted.iter().filter(|s| s.fill == fill.id && s.subject == subject.key);
    let by_hand: Vec<&SubjectStroke> = by_hand.map(|s| &s.stroke).collect();
    if anchors.is_empty() && by_hand.is_empty() && !view.with_handles {
        return None;
    }
    let matte = view.library.matte(&subject.matte)?;
    let place = &photo_fill.placement;
    let placed = PlacedMatte::new(matte, photo, place)?;
    let (to_sheet, there, back) = (placed.to_sheet, |p| placed.there(p), |p| placed.back(p));
    let points: Vec<Point> = anchors.iter().map(|a| there(Point::new(a.x, a.y))).collect();
    let strokes: Vec<SubjectStroke> = (by_hand.into_iter())
        .map(|stroke| {
            let points = stroke.points.iter().map(|[x, y]| {
                let p = there(Point::new(*x, *y));
                [p.x, p.y]
            });
            let points = points.collect();
            SubjectStroke { points, ..stroke.clone() }
        })
        .collect();
    let shown = &row.opening;
    let fade = row.fades_inward() / place.scale;
    let mut found = overhangs(&placed.matte, shown, to_sheet, &points, &strokes, fade);
    if view.with_handles {
        describe(&found, (fill.id, photo, subject), &anchors, to_sheet, &back, row, layer);
    }
    if found.released.is_empty() {
        return None;
    }
    let mut released = to_sheet * &found.released;
    if let Some(side) = within_reach(breakout, bounds(shown), released.bounding_box()) {
        released = join_pair(&unite(&released), &side, Rule::Intersection);
        if released.is_empty() {
            return None;
        }
        found.released = to_sheet.inverse() * &released;
    }
    let strips =
        if row.edged().is_some() { join_pair(&unite(&released), shown, Rule::Intersection) } else { BezPath::new() };
    let place_of = |p: Point| to_sheet * there(p);
    let place_in = |p: Point| back(to_sheet.inverse() * p);
    let under = under(breakout, (fill.id, subject.key), &strips, (&place_of, &place_in), view, layer);
    let rims_of_others: Vec<BezPath> = under.iter().filter_map(|strip| row.rim_of_others(strip)).collect();
    if !rims_of_others.is_empty() {
        released = unite(&released);
        for rim in &rims_of_others {
            released = join_pair(&released, rim, Rule::Difference);
        }
        found.released = to_sheet.inverse() * &released;
    }
    let href = view.pictures.cutout(&subject.matte, photo, needed(photo, place, view), place.pull.as_ref());
    let id = definitions.next("released");
    definitions.markup.push_str(&format!(
        "<clipPath id=\"{id}\"><path transform=\"{}\" d=\"{}\"/></clipPath>",
        matrix(to_sheet),
        path_data(&found.released)
    ));
    let faint = faint(fill);
    let image = image(&href, photo, place, "", tone);
    let shape = format!("clip-path=\"url(#{id})\"{}", moves(fill));
    Some(Breakout {
        markup: format!("<g data-breakout=\"{}\" {shape}{faint}>{image}</g>", fill.id),
        silhouette: format!("<g {shape}>{image}</g>"),
        bounds: released.bounding_box(),
        released,
        strips,
        under,
        image: format!("<g{}{faint}>{image}</g>", moves(fill)),
        row,
    })
}

/// A place where what is let out crosses the edge: the strip of it that reaches under the fills.
struct Crossing {
    path: BezPath,
    place: Point,
}

/// Where what is let out runs under the edge; says in `layer` where it crosses it. `strips` are all of what is let out within the opening; the
/// maps lead from the fill's own space to the sheet, and back.
fn under(
    breakout: &crate::sheet::Breakout,
    (fill, subject): (FillId, u32),
    strips: &BezPath,
    (to_sheet, back): (&dyn Fn(Point) -> Point, &dyn Fn(Point) -> Point),
    view: &View<'_>,
    layer: &mut Layer,
) -> Vec<BezPath> {
    let crossings = crossings(strips);
    let mine = |a: &Anchor| a.fill == fill && a.subject == subject;
    let told: Vec<(Anchor, Option<usize>)> = (breakout.under.iter().copied().filter(mine))
        .map(|a| (a, meant(&crossings, to_sheet(Point::new(a.x, a.y)))))
        .collect();
    let said = |k: usize| told.iter().filter(move |(_, at)| *at == Some(k)).map(|(a, _)| *a);
    if view.with_handles {
        for (k, Crossing { place, .. }) in crossings.iter().enumerate() {
            let p = back(*place);
            let anchor = Anchor { fill, subject, x: p.x, y: p.y };
            layer.crossings.push(CrossingView { anchor, at: [place.x, place.y], under_by: said(k).collect() });
        }
    }
    (0..crossings.len()).filter(|k| said(*k).next().is_some()).map(|k| crossings[k].path.clone()).collect()
}

/// The crossing that a place (sheet space) was told for: the nearest one, unless it has slid away since.
fn meant(crossings: &[Crossing], told: Point) -> Option<usize> {
    let off = |c: &Crossing| {
        let near = c.path.segments().map(|s| s.nearest(told, 0.1).distance_sq);
        near.fold(f64::INFINITY, f64::min).sqrt()
    };
    let (at, far) = crossings.iter().map(off).enumerate().min_by(|a, b| a.1.total_cmp(&b.1))?;
    let around = bounds(&crossings[at].path);
    // as far as the limb that crosses is wide
    (far <= around.width().max(around.height()) + 2.0).then_some(at)
}

/// The crossings that `strips`, all of what is let out within the opening, are made of.
fn crossings(strips: &BezPath) -> Vec<Crossing> {
    let strips = parts(strips);
    let largest = strips.iter().map(|s| s.area).fold(0.0, f64::max);
    // what only grazes the edge crosses nothing
    let crossing = strips.into_iter().filter(|s| s.area > 0.02 * largest);
    crossing.filter_map(|s| Some(Crossing { place: inner_point(&s.path)?, path: s.path })).collect()
}

/// The side of the reach line on which the middle of the opening lies, as far as `extent` goes; None without a line.
fn within_reach(breakout: &crate::sheet::Breakout, opening: Rect, extent: Rect) -> Option<BezPath> {
    let line = breakout.reach.as_deref()?;
    let [from, to] = [line.from, line.to].map(|[x, y]| Point::new(x, y));
    let along = (to - from).normalize();
    let across = kurbo::Vec2::new(-along.y, along.x);
    let side = if (opening.center() - from).dot(across) < 0.0 { -across } else { across };
    let far = extent.union(opening).union(Rect::from_points(from, to)).size();
    let far = 2.0 * (far.width + far.height) + 10.0;
    let mut path = BezPath::new();
    path.move_to(from - along * far);
    path.line_to(from + along * far);
    path.line_to(from + along * far + side * far);
    path.line_to(from - along * far + side * far);
    path.close_path();
    Some(path)
}

/// The parts of a drawing that are let out. They are drawn whole beneath the opening, so that nothing shows where they cross its edge.
pub(super) fn drawn_breakout<'a>(
    window: &Window,
    fill: &Fill,
    (drawing, picture): (&DrawingFill, &DrawnPicture),
    row: &'a Row<'a>,
    view: &View<'_>,
    layer: &mut Layer,
    definitions: &mut Definitions<'_>,
) -> Option<Breakout<'a>> {
    if !drawing.breaks_out() {
        return None;
    }
    let shown = &row.opening;
    let (mut body, outline) = let_out(picture, drawing, "", definitions)?;
    let mut released = join_pair(&outline, shown, Rule::Difference);
    if let Some(side) = within_reach(&window.breakout, bounds(shown), bounds(&outline)) {
        released = join_pair(&released, &side, Rule::Intersection);
        let id = definitions.next("reach");
        definitions.markup.push_str(&format!("<clipPath id=\"{id}\"><path d=\"{}\"/></clipPath>", path_data(&side)));
        body = format!("<g clip-path=\"url(#{id})\">{body}</g>");
    }
    let strips = if row.edged().is_some() && !released.is_empty() {
        join_pair(&grow(&released, STRIP), &join_pair(&outline, shown, Rule::Intersection), Rule::Intersection)
    } else {
        BezPath::new()
    };
    let (place, size) = (&drawing.placement, (picture.width, picture.height));
    let affine = place.affine(size.0, size.1);
    let to_sheet = |p: Point| affine * place.pulled(p, size.0, size.1, false);
    let back = |p: Point| place.pulled(affine.inverse() * p, size.0, size.1, true);
    let under = under(&window.breakout, (fill.id, 0), &strips, (&to_sheet, &back), view, layer);
    let faint = faint(fill);
    let breakout = Breakout {
        markup: format!("<g data-breakout=\"{}\"{}{faint}>{body}</g>", fill.id, moves(fill)),
        silhouette: format!("<g{}>{body}</g>", moves(fill)),
        bounds: bounds(&outline),
        image: format!("<g{}{faint}>{body}</g>", moves(fill)),
        under,
        strips,
        released,
        row,
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

/// How far the strip of a drawing that crosses the edge reaches into the opening, in millimetres.
const STRIP: f64 = 1.0;

/// Pieces of drawings with more of them than this are let out by their groups alone.
const PIECES: usize = 80;

/// The pieces of a drawing that reach over the edge of the opening.
pub(super) fn drawn_overhangs(
    fill: FillId,
    drawing: &DrawingFill,
    picture: &DrawnPicture,
    row: &Row<'_>,
    layer: &mut Layer,
) {
    let shown = &*row.opening;
    let pieces: Vec<usize> = picture.pieces().take(PIECES + 1).collect();
    if pieces.len() > PIECES {
        return;
    }
    let place = &drawing.placement;
    let to_sheet = place.affine(picture.width, picture.height);
    let around = bounds(shown);
    let page = (picture.width * picture.height).max(1e-9);
    let all: Vec<BezPath> = contours(shown).collect();
    let edges =
        |own: &BezPath| (0..all.len()).filter(|k| crosses(own, &all[*k])).map(|k| row.first_edge + k as u32).collect();
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
        let anchor = Anchor { fill, subject: 0, x: middle.x, y: middle.y };
        layer.overhangs.push(OverhangView {
            anchor,
            let_out_by: if looks().any(|l| l.out) { vec![anchor] } else { Vec::new() },
            outline: path_data(&outside),
            transform: matrix(Affine::IDENTITY),
            counter: false,
            cut_off: false,
            touches: edges(&seen),
            share: seen.area().abs() / page,
            of: None,
            part: Some(at as u32),
            place: place_of(middle, around, false).into(),
        });
    }
}

fn faint(fill: &Fill) -> String {
    if fill.strength < 1.0 { format!(" opacity=\"{}\"", super::number(fill.strength)) } else { String::new() }
}

impl Breakout<'_> {
    /// Once more, over the rims: the subject hides them where it climbs across, but not where it runs under. Nothing where there are none.
    pub fn over_rim(&self, definitions: &mut Definitions<'_>) -> String {
        let Some((reach, outward)) = self.row.edged() else {
            return String::new();
        };
        let shown = &self.row.opening;
        let released = unite(&self.released);
        let near = join_pair(&grow(&self.strips, reach + 0.2), shown, Rule::Intersection);
        let mut whole = join_pair(&near, &released, Rule::Union);
        for strip in &self.under {
            let rim = grow(strip, reach.max(outward) + 0.3);
            whole = join_pair(&whole, &rim, Rule::Difference);
        }
        let id = definitions.next("released");
        definitions.markup.push_str(&format!("<clipPath id=\"{id}\"><path d=\"{}\"/></clipPath>", path_data(&whole)));
        format!("<g clip-path=\"url(#{id})\">{}</g>", self.image)
    }
}

fn describe(
    found: &Overhangs,
    (fill, photo, subject): (FillId, &Photo, &PhotoSubject),
    anchors: &[Anchor],
    to_sheet: Affine,
    back: &dyn Fn(Point) -> Point,
    row: &Row<'_>,
    layer: &mut Layer,
) {
    let bounds = row.opening.bounding_box();
    let matched = |k: usize| found.parts.iter().any(|part| part.let_out_by.contains(&k));
    layer.unmatched.extend((0..anchors.len()).filter(|k| !matched(*k)).map(|k| anchors[k]));
    for part in &found.parts {
        let at = to_sheet * part.anchor;
        let anchor = back(part.anchor);
        layer.overhangs.push(OverhangView {
            anchor: Anchor { fill, subject: subject.key, x: anchor.x, y: anchor.y },
            of: (photo.subjects.len() > 1).then(|| subject.name.clone()),
            let_out_by: part.let_out_by.iter().map(|&k| anchors[k]).collect(),
            outline: path_data(&part.outline),
            transform: matrix(to_sheet),
            counter: part.counter,
            cut_off: part.cut_off,
            touches: part.touches.iter().map(|k| row.first_edge + *k as u32).collect(),
            share: part.share,
            part: None,
            place: place_of(at, bounds, part.counter).into(),
        });
    }
}
