//! What is let out of a window, where it lies on the sheet.

use super::chosen::{Chosen, ChosenRegion, region_path};
use super::crossing::{Crossing, crossings};
use super::joint::{JointOpening, JointOpenings};
use super::{Overhangs, PlacedMatte, found_overhangs};
use crate::combine::{Rule, bounds, contours, grow, join_pair, strip_along, unite};
use crate::cutout::SubjectStroke;
use crate::library::Library;
use crate::outline::{DrawingTree, placed_part};
use crate::sheet::{
    Anchor, Breakout, DrawingFill, Fill, FillId, FillPaint, Photo, PhotoFill, PhotoSubject, Placement, Sheet,
    SubjectPart, Window,
};
use kurbo::{Affine, BezPath, Line, Point, Rect, Shape};
use std::sync::Arc;

/// How far the strip of a drawing that crosses the edge reaches into the opening, in millimetres.
const STRIP: f64 = 1.0;

/// How far the outline of a part may stay away from the edge that it lies against, in millimetres.
const TOUCH: f64 = 0.5;

/// What one fill lets out of one of its subjects. Paths are in sheet space.
#[derive(Debug, Clone)]
pub struct Release {
    pub fill: FillId,
    /// The number of the photo's subject; 0 for a drawing.
    pub subject: u32,
    /// Where it shows. Not empty.
    pub released: BezPath,
    /// What shows there may reach beyond that; of a subject, this is where it shows.
    pub bounds: Rect,
    /// A drawing is drawn whole but for what lies beyond the reach line: the side on which it stays.
    pub side: Option<BezPath>,
    pub crossings: Vec<Crossing>,
    /// Where it is drawn once more over the rims, so that it hides them; None where there are none.
    pub over_rims: Option<BezPath>,
    /// Where it fades towards what stays in.
    pub fades: Vec<Fade>,
}

/// A line at which what is let out ends softly. Sheet space, millimetres.
#[derive(Debug, Clone, Copy)]
pub struct Fade {
    /// Here nothing is seen.
    pub line: Line,
    /// So far from the line all of it is seen.
    pub width: f64,
}

/// What all fills of a window let out, from back to front, and the edges that it is cut by.
#[derive(Debug, Clone)]
pub struct WindowBreakout {
    pub joints: JointOpenings,
    pub releases: Vec<Release>,
    /// Something that a fill needs is not there: nothing of what was found may be kept.
    pub incomplete: bool,
}

impl WindowBreakout {
    /// `shown` is what the window itself opens; `in_members` what it opens in all members of a repeated bundle behind which its photos run; sheet space.
    /// `piece` is the piece that it is.
    pub fn of(
        sheet: &Sheet,
        piece: crate::sheet::PieceId,
        window: &Window,
        shown: Arc<BezPath>,
        in_members: Option<&BezPath>,
        library: &dyn Library,
    ) -> Self {
        let joints = JointOpenings::of(sheet, piece, window, shown, in_members, library);
        let mut all = Self { joints, releases: Vec::new(), incomplete: false };
        // without a mask nothing is in
        for fill in window.fills.iter().filter(|f| !f.off && window.is_masked()) {
            match &fill.paint {
                FillPaint::Photo(photo_fill) => {
                    let Some(photo) = sheet.photos.get(&photo_fill.photo) else {
                        continue;
                    };
                    for subject in photo.drawn_subjects() {
                        let joint = all.joints.of_fill(fill.id);
                        let subject = SubjectOf { window, fill, photo_fill, photo, subject };
                        if !subject.lets_out() {
                            continue;
                        }
                        match subject.overhangs(joint, library) {
                            Some((placed, found)) => all.releases.extend(subject.release(joint, &placed, &found)),
                            None => all.incomplete = true,
                        }
                    }
                }
                FillPaint::Drawing(drawing) if drawing.breaks_out() => match library.drawing(&drawing.drawing) {
                    Some(imported) => {
                        let alone = all.joints.alone();
                        all.releases.extend(drawing_release(window, fill.id, drawing, &imported.picture, alone));
                    }
                    None => all.incomplete = true,
                },
                _ => {}
            }
        }
        all
    }

    /// What is let out of one fill.
    pub fn of_fill(&self, fill: FillId) -> impl Iterator<Item = &Release> {
        self.releases.iter().filter(move |r| r.fill == fill)
    }
}

/// One subject of a photo that fills a window.
#[derive(Clone, Copy)]
pub struct SubjectOf<'a> {
    pub window: &'a Window,
    pub fill: &'a Fill,
    pub photo_fill: &'a PhotoFill,
    pub photo: &'a Photo,
    pub subject: &'a PhotoSubject,
}

impl SubjectOf<'_> {
    /// The anchors that let parts of it out.
    pub fn anchors(&self) -> impl Iterator<Item = Anchor> {
        let mine = |a: &&Anchor| a.fill == self.fill.id && a.subject == self.subject.key;
        self.window.breakout.let_out.iter().filter(mine).copied()
    }

    fn strokes(&self) -> impl Iterator<Item = &SubjectStroke> {
        let painted = self.window.breakout.painted.iter();
        painted.filter(|s| s.fill == self.fill.id && s.subject == self.subject.key).map(|s| &s.stroke)
    }

    /// The parts of it that were chosen.
    pub fn parts(&self) -> impl Iterator<Item = &SubjectPart> {
        let parts = self.window.breakout.parts.values();
        parts.filter(|p| p.fill == self.fill.id && p.subject == self.subject.key)
    }

    fn lets_out(&self) -> bool {
        self.anchors().next().is_some() || self.strokes().next().is_some() || self.parts().any(|p| p.out)
    }

    /// Where it lies. None where the matte is not there, or where the photo lies in no way that could be seen.
    pub fn placed(&self, library: &dyn Library) -> Option<PlacedMatte> {
        let matte = library.matte(&self.subject.matte)?;
        PlacedMatte::new(matte, self.photo, &self.photo_fill.placement)
    }

    /// What was chosen of it, in the space of the placed matte.
    pub fn chosen(&self, placed: &PlacedMatte) -> Chosen {
        let there = |p: Point| placed.there(p);
        let place = |[x, y]: &[f64; 2]| {
            let p = there(Point::new(*x, *y));
            [p.x, p.y]
        };
        let moved = |s: &SubjectStroke| SubjectStroke { points: s.points.iter().map(place).collect(), ..s.clone() };
        Chosen {
            points: self.anchors().map(|a| there(Point::new(a.x, a.y))).collect(),
            regions: self
                .parts()
                .map(|part| ChosenRegion { outline: region_path(&part.region, there), out: part.out })
                .collect(),
            strokes: self.strokes().map(moved).collect(),
        }
    }

    /// Its parts that reach over the edge, with the matte where it lies. None where the matte is not there, or where the photo lies in no
    /// way that could be seen.
    pub fn overhangs(&self, joint: &JointOpening, library: &dyn Library) -> Option<(PlacedMatte, Arc<Overhangs>)> {
        let placed = self.placed(library)?;
        let chosen = self.chosen(&placed);
        let fade = joint.fades_inward / self.photo_fill.placement.scale;
        let found = found_overhangs(&self.subject.matte, &placed, &joint.opening, (&chosen, fade), library);
        Some((placed, found))
    }

    /// The parts outside of the opening that stay in, in sheet space.
    fn kept(&self, found: &Overhangs, to_sheet: Affine) -> BezPath {
        let parts = found.parts.iter().filter(|p| !p.out);
        to_sheet * parts.flat_map(|p| p.outline.elements().iter().copied()).collect::<BezPath>()
    }

    /// Where parts end softly that are let out.
    fn fades(&self, found: &Overhangs, to_sheet: Affine) -> Vec<Fade> {
        let soft: Vec<f64> = self.parts().map(|p| p.soft * self.photo_fill.placement.scale).collect();
        let part = |number: u32| found.parts.iter().find(|p| p.number == number);
        let fades = found.cuts.iter().filter_map(|cut| {
            let width = soft[part(cut.of)?.region?];
            (width > 0.0).then(|| Fade { line: to_sheet * cut.line, width })
        });
        fades.collect()
    }

    fn release(&self, joint: &JointOpening, placed: &PlacedMatte, found: &Overhangs) -> Option<Release> {
        if found.released.is_empty() {
            return None;
        }
        let breakout = &self.window.breakout;
        let to_sheet = placed.to_sheet;
        let mut released = to_sheet * &found.released;
        let mut kept = if joint.edged.is_some() { self.kept(found, to_sheet) } else { BezPath::new() };
        if let Some(side) = within_reach(breakout, bounds(&joint.opening), released.bounding_box()) {
            let whole = unite(&released);
            if joint.edged.is_some() {
                kept.extend(join_pair(&whole, &side, Rule::Difference));
            }
            released = join_pair(&whole, &side, Rule::Intersection);
        }
        let strips = if joint.edged.is_some() {
            join_pair(&unite(&released), &joint.opening, Rule::Intersection)
        } else {
            BezPath::new()
        };
        let place_of = |p: Point| to_sheet * placed.there(p);
        let place_in = |p: Point| placed.back(to_sheet.inverse() * p);
        let crossings = crossings(breakout, (self.fill.id, self.subject.key), &strips, (&place_of, &place_in));
        let under = || crossings.iter().filter(|c| !c.under_by.is_empty()).map(|c| &c.strip);
        let rims_of_others: Vec<BezPath> = under().filter_map(|strip| joint.rim_of_others(strip)).collect();
        if !rims_of_others.is_empty() {
            released = unite(&released);
            for rim in &rims_of_others {
                released = join_pair(&released, rim, Rule::Difference);
            }
        }
        if released.is_empty() {
            return None;
        }
        let over_rims = over_rims(joint, &released, (&strips, &kept), under());
        let (fill, subject, bounds) = (self.fill.id, self.subject.key, released.bounding_box());
        let fades = self.fades(found, to_sheet);
        Some(Release { fill, subject, bounds, side: None, crossings, over_rims, fades, released })
    }
}

/// The parts of a drawing that are let out. They are drawn whole beneath the opening, so that nothing shows where they cross its edge.
fn drawing_release(
    window: &Window,
    fill: FillId,
    drawing: &DrawingFill,
    picture: &DrawingTree,
    joint: &JointOpening,
) -> Option<Release> {
    let place = &drawing.placement;
    let outline = let_out_outline(picture, drawing);
    if outline.is_empty() {
        return None;
    }
    let mut released = join_pair(&outline, &joint.opening, Rule::Difference);
    let side = within_reach(&window.breakout, bounds(&joint.opening), bounds(&outline));
    if let Some(side) = &side {
        released = join_pair(&released, side, Rule::Intersection);
    }
    if released.is_empty() {
        return None;
    }
    let strips = if joint.edged.is_some() {
        let within = join_pair(&outline, &joint.opening, Rule::Intersection);
        join_pair(&grow(&released, STRIP), &within, Rule::Intersection)
    } else {
        BezPath::new()
    };
    let (width, height) = (picture.width, picture.height);
    let affine = place.affine(width, height);
    let to_sheet = |p: Point| affine * place.pulled(p, width, height, false);
    let back = |p: Point| place.pulled(affine.inverse() * p, width, height, true);
    let crossings = crossings(&window.breakout, (fill, 0), &strips, (&to_sheet, &back));
    let under = crossings.iter().filter(|c| !c.under_by.is_empty()).map(|c| &c.strip);
    let over_rims = over_rims(joint, &released, (&strips, &BezPath::new()), under);
    Some(Release {
        fill,
        subject: 0,
        bounds: bounds(&outline),
        side,
        crossings,
        over_rims,
        fades: Vec::new(),
        released,
    })
}

/// The united outline of the parts of a drawing that are let out, in sheet space.
fn let_out_outline(picture: &DrawingTree, drawing: &DrawingFill) -> BezPath {
    let place: &Placement = &drawing.placement;
    let mut outline = BezPath::new();
    for (at, part) in picture.parts.iter().enumerate() {
        let Some(shape) = &part.shape else {
            continue;
        };
        let looks = || drawing.looks.iter().filter(|l| picture.holds(l.part as usize, at));
        if looks().any(|l| l.out) && !looks().any(|l| l.off) {
            outline.extend(placed_part(&shape.path, picture, place).elements().iter().copied());
        }
    }
    place.affine(picture.width, picture.height) * unite(&outline)
}

/// Where what is released is drawn once more, over the rims: it hides them where it climbs across, but not where it runs under, nor along what
/// is `kept` in: there they end in a line straight across the edge.
fn over_rims<'p>(
    joint: &JointOpening,
    released: &BezPath,
    (strips, kept): (&BezPath, &BezPath),
    under: impl Iterator<Item = &'p BezPath>,
) -> Option<BezPath> {
    let (inward, outward) = joint.edged?;
    let released = unite(released);
    let mut near = join_pair(&grow(strips, inward + 0.2), &joint.opening, Rule::Intersection);
    // what is kept in far from any crossing changes nothing there
    let reach = 2.0 * inward + TOUCH + 1.0;
    let crossed: Vec<Rect> = contours(strips).iter().map(|c| bounds(c).inflate(reach, reach)).collect();
    let close = contours(kept).into_iter().filter(|c| crossed.iter().any(|b| b.overlaps(bounds(c))));
    let kept: BezPath = close.flat_map(BezPath::into_iter).collect();
    if !kept.is_empty() {
        // outlines of parts end a little before the edge
        let beside = join_pair(&grow(&unite(&kept), TOUCH), &released, Rule::Difference);
        near = join_pair(&near, &strip_along(&joint.opening, &beside, inward + 0.4), Rule::Difference);
    }
    let mut whole = join_pair(&near, &released, Rule::Union);
    for strip in under {
        let rim = grow(strip, inward.max(outward) + 0.3);
        whole = join_pair(&whole, &rim, Rule::Difference);
    }
    Some(whole)
}

/// The side of the reach line on which the middle of the opening lies, as far as `extent` goes; None without a line.
fn within_reach(breakout: &Breakout, opening: Rect, extent: Rect) -> Option<BezPath> {
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
