//! A window as nodes.
//!
//! From the bottom up: shadows on the sheet; what breaks out; the fills in the opening's shape, with shadows into it and rims on
//! its inside; rims along its edge; what breaks out once more where a rim would cross it; rims over that.
//!
//! **What breaks out lies beneath** what the opening shows: at a pixel that the opening covers by the share c, the result is
//! c · photo + (1 − c) · (cut-out over sheet). Where the subject is solid both are the same colour, so no seam can show.

use super::breakouts::Breakout;
use super::builder::Builder;
use super::edge::{EdgeShape, overflow, shift};
use super::gloss::gloss_picture;
use super::soft::soft_opening;
use super::tone::tone_curve;
use crate::breakout::WindowBreakout;
use crate::combine::{Rule, bounds, grow, join_pair};
use crate::outline::extension;
use crate::scene::tree::{
    Clip, ClipId, Computed, Coverage, Geometry, Group, Moves, Node, Picture, Role, Shape, Share, Shows, Source, ToneId,
};
use crate::sheet::{Fill, FillId, FillPaint, Finish, LineSide, Opening, Paint, ShadowPlace, Sheet, Window};
use kurbo::{Affine, BezPath, Rect, Shape as _};
use std::sync::Arc;

/// As far as no shadow reaches, in millimetres.
const FAR: f64 = 1000.0;

/// Where a window is open.
pub(super) struct Open {
    /// The outline of its opening, in sheet space.
    pub outline: Arc<BezPath>,
    /// Where the outside shows instead: all of the sheet, and as much around it as no edge of it is seen.
    outside: Option<Rect>,
    /// What its fills have to cover.
    covered: Rect,
    /// The outline is that of a pane or of several members, not that of the opening.
    is_own: bool,
}

impl Open {
    /// What is open of a window with this outline (sheet space).
    pub fn new(sheet: &Sheet, window: &Window, outline: Arc<BezPath>) -> Self {
        let page = Rect::new(0.0, 0.0, sheet.width, sheet.height);
        let around = bounds(&outline);
        let finish = &window.finish;
        let outside = finish.negative.then(|| page.union(around).inflate(overflow(finish), overflow(finish)));
        Self { outline, outside, covered: outside.map_or(around, |_| page), is_own: false }
    }

    /// Several openings as one (sheet space).
    pub fn all(sheet: &Sheet, window: &Window, outline: Arc<BezPath>) -> Self {
        Self { is_own: true, ..Self::new(sheet, window, outline) }
    }

    /// A part of an opening with an edge of its own (sheet space).
    pub fn pane(outline: BezPath, whole: &Open) -> Self {
        Self { outline: Arc::new(outline), outside: None, covered: whole.covered, is_own: true }
    }

    /// What is seen of a window's fills, as the tree says it.
    fn geometry(&self) -> Geometry {
        match self.outside {
            Some(all) if self.is_own => Geometry::AroundPath(all, Arc::clone(&self.outline)),
            Some(all) => Geometry::Around(all),
            None if self.is_own => Geometry::Path(Arc::clone(&self.outline)),
            None => Geometry::Opening,
        }
    }

    /// What its fills are seen in, in sheet space.
    pub fn shown(&self) -> Arc<BezPath> {
        match self.outside {
            Some(all) => Arc::new(join_pair(&all.to_path(0.1), &self.outline, Rule::Difference)),
            None => Arc::clone(&self.outline),
        }
    }
}

/// Draws a window that is open somewhere. What breaks out is seen within `region` alone.
pub(super) fn window_nodes(
    builder: &mut Builder<'_>,
    window: &Window,
    open: &Open,
    released: &WindowBreakout,
    region: Option<ClipId>,
) -> Vec<Node> {
    let finish = &window.finish;
    let alone = only_paint(window, builder.sheet);
    let lit = finish.gloss.is_some_and(|g| !g.off);
    let plain =
        !lit && finish.shadows.iter().all(|s| s.off) && finish.rims.iter().all(|r| r.off) && finish.strength >= 1.0;
    let fade = fade(builder, &window.opening, finish, open);
    if let (Some((fill, paint)), true, None, None) = (alone, plain, &fade, open.outside) {
        // nothing else to be seen: the outline itself is painted
        let paint = builder.paint(paint, open.covered, Moves::WithPiece);
        let role = Role::OPENING.showing(Shows::Fill(fill));
        return vec![Shape { role, geometry: open.geometry(), fill: Some(paint), stroke: None }.into()];
    }
    let mut fills = Vec::new();
    let mut out: Vec<Breakout<'_>> = Vec::new();
    for fill in window.fills.iter().filter(|f| !f.off) {
        let tone = builder.tone_of(fill);
        fills.extend(builder.fill(fill, open.covered, tone));
        for release in released.of_fill(fill.id) {
            let joint = released.joints.of_fill(fill.id);
            out.extend(builder.breakout(fill, release, joint, tone));
        }
    }
    if let Some(region) = region {
        out.iter_mut().for_each(|b| b.limit(region));
    }
    if let ([_], true, false, None) = (fills.as_slice(), plain, window.is_masked(), open.outside)
        && fade.is_none()
        && !open.is_own
    {
        return fills;
    }
    if fills.len() > 1 {
        // one picture first: a fill beneath must not show at the edge of the one above
        fills = vec![Group { isolated: true, ..Group::of(fills) }.into()];
    }
    let geometry = open.geometry();
    let shape = match fade {
        Some(fade) => {
            let bounds = open.outside.unwrap_or(fade.bounds);
            builder.fading_shape(geometry, fade.coverage, finish, bounds)
        }
        None if !window.is_masked() && open.outside.is_none() && !open.is_own => {
            builder.whole_shape(&fills, bounds(&open.outline))
        }
        None => builder.clear_shape(geometry, open.outside.unwrap_or(bounds(&open.outline))),
    };
    if !finish.negative {
        fills.extend(gloss(finish, &open.outline));
    }
    finished(builder, finish, &shape, fills, &out)
}

impl Builder<'_> {
    fn tone_of(&mut self, fill: &Fill) -> Option<ToneId> {
        let tone = match &fill.paint {
            FillPaint::Photo(p) => &p.tone,
            FillPaint::Tile(t) => &t.tone,
            _ => return None,
        };
        Some(self.definitions.add_tone(tone_curve(tone, self.sheet)?))
    }
}

/// Light over the fills.
fn gloss(finish: &Finish, opening: &BezPath) -> Option<Node> {
    let gloss = finish.gloss.filter(|g| !g.off)?;
    let (picture, frame) = gloss_picture(opening, &gloss)?;
    let source = Source::Computed(Computed(Arc::new(picture)));
    Some(Picture { role: Role::OPENING, source, frame, transform: Affine::IDENTITY, tone: None }.into())
}

/// What of an opening fades.
struct Fade {
    coverage: Coverage,
    bounds: Rect,
}

/// The fading shape of an opening; None if all of its edge is clear.
fn fade(builder: &Builder<'_>, opening: &Opening, finish: &Finish, open: &Open) -> Option<Fade> {
    let outline = &*open.outline;
    let inside = |path: BezPath| Coverage::Inside { role: Role::PART, geometry: Geometry::path(path) };
    let shift = shift(&finish.softness);
    let shifted = Opening { grow: opening.grow + shift, ..opening.clone() };
    if let Some(soft) = soft_opening(&shifted, builder.library) {
        let mut of = vec![soft.coverage];
        let mut reach = soft.bounds;
        for more in opening.open.iter().filter_map(|side| extension(outline, side)) {
            reach = reach.union(bounds(&more));
            of.push(inside(more));
        }
        let mut coverage = Coverage::Any { role: Role::PART, of };
        if open.is_own {
            coverage = Coverage::Both(Box::new(coverage), Box::new(inside(outline.clone())));
            reach = bounds(outline);
        }
        return Some(Fade { coverage, bounds: reach });
    }
    if finish.softness.width <= 0.0 {
        return None;
    }
    let outline = if shift == 0.0 { outline.clone() } else { grow(outline, shift) };
    let reach = bounds(&outline);
    Some(Fade { coverage: inside(outline), bounds: reach })
}

/// The paint of a window that shows nothing else, for which the outline itself is painted.
fn only_paint<'a>(window: &'a Window, sheet: &Sheet) -> Option<(FillId, &'a Paint)> {
    let mut fills = window.fills.iter().filter(|f| !f.off);
    let (only, None) = (fills.next()?, fills.next()) else {
        return None;
    };
    let FillPaint::Plain(paint) = &only.paint else {
        return None;
    };
    let moves_along = only.follows_opening || sheet.solid(paint).is_some();
    (only.strength >= 1.0 && moves_along).then_some((only.id, paint))
}

/// Everything in its order, see the module's text.
fn finished(
    builder: &mut Builder<'_>,
    finish: &Finish,
    shape: &EdgeShape,
    fills: Vec<Node>,
    out: &[Breakout<'_>],
) -> Vec<Node> {
    let climbing = || out.iter().map(|b| b.silhouette.clone());
    let climbs_to = out.iter().map(|b| b.bounds).reduce(|a, b| a.union(b)).unwrap_or_default();
    let thrown_by = out.iter().fold(shape.bounds, |all, b| all.union(b.bounds));
    let (mut nodes, mut contact, mut inside) = (Vec::new(), Vec::new(), fills);
    for s in finish.shadows.iter().filter(|s| !s.off) {
        match s.place {
            ShadowPlace::Behind => {
                let thrown = climbing().chain([shape.silhouette.clone()]).collect();
                nodes.push(builder.shadow(s, thrown, thrown_by, finish.strength));
            }
            ShadowPlace::Contact if out.is_empty() => {}
            ShadowPlace::Contact => contact.push(builder.shadow(s, climbing().collect(), climbs_to, 1.0)),
            ShadowPlace::Inside => inside.push(builder.shadow(s, vec![shape.silhouette.clone()], shape.bounds, 1.0)),
        }
    }
    let (mut along, mut over) = (Vec::new(), Vec::new());
    for r in finish.rims.iter().filter(|r| !r.off && r.width > 0.0) {
        let line = builder.rim(r, shape);
        match (r.side, r.over) {
            (LineSide::Inside, false) => inside.push(line),
            (LineSide::Inside, true) => over.push(shape.limited(vec![line])),
            (_, false) => along.push(line),
            (_, true) => over.push(line),
        }
    }
    if !contact.is_empty() && shape.fades() {
        // a fading photo would let it shine through; beneath a clear edge there is nothing to be seen of it
        let far = finish.shadows.iter().map(|s| s.distance + 3.0 * (s.size + s.spread) + 1.0).fold(0.0, f64::max);
        contact = vec![builder.beside(contact, shape, climbs_to.inflate(far, far))];
    }
    let mut content = beside_others(builder, contact, out, climbs_to);
    content.extend(out.iter().map(|b| b.node.clone()));
    content.push(shape.limited(inside));
    content.extend(along);
    content.extend(out.iter().filter_map(|b| b.over_rims.clone()));
    content.extend(over);
    if finish.strength < 1.0 {
        nodes.push(Group { opacity: Share::new(finish.strength), ..Group::of(content) }.into());
    } else {
        nodes.extend(content);
    }
    nodes
}

/// A contact shadow where it does not fall on what other windows show of its own photo.
fn beside_others(builder: &mut Builder<'_>, contact: Vec<Node>, out: &[Breakout<'_>], around: Rect) -> Vec<Node> {
    if contact.is_empty() {
        return contact;
    }
    let others = out.iter().filter_map(|b| b.joint.others()).reduce(|a, b| join_pair(&a, &b, Rule::Union));
    let Some(others) = others.filter(|path| !path.is_empty()) else {
        return contact;
    };
    let all = around.union(bounds(&others)).inflate(FAR, FAR);
    let geometry = Geometry::AroundPath(all, Arc::new(others));
    let clip = builder.definitions.add_clip(Clip { role: Role::PART, geometry, transform: Affine::IDENTITY });
    vec![Group { clip: Some(clip), ..Group::of(contact) }.into()]
}
