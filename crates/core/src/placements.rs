//! Where a photo could lie behind an opening: a few good places, to be chosen from by their pictures.

use crate::breakout::{WorkingMatte, coverage};
use crate::grid::Grid;
use crate::sheet::{MM_PER_INCH, Placement};
use kurbo::{Affine, BezPath, Point, Rect, Shape};
use serde::Serialize;
use ts_rs::TS;

/// Proposals at most.
const PROPOSED: usize = 5;
/// Long side of the raster in which the opening is looked up, in pixels.
const RASTER: usize = 200;
/// Points of the subject that are looked up.
const POINTS: usize = 900;
/// Sizes that are tried, from the one with which the photo just covers the opening.
const SIZES: [f64; 7] = [1.0, 1.12, 1.27, 1.45, 1.7, 2.0, 2.5];
/// Places that are tried along each axis.
const PLACES: usize = 9;

/// A place for a photo, with what speaks for it.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct PlacementProposal {
    pub placement: Placement,
    /// A few words on what it is good for.
    pub good_for: String,
    /// How much of the subject the opening shows, 0 to 1. Without a subject, of the photo.
    pub shown: f64,
    /// How much of the subject would reach over the opening above, below, left and right of it, 0 to 1.
    pub over: [f64; 4],
    /// How much of the opening the photo leaves open, 0 to 1.
    pub uncovered: f64,
    /// How much of the subject would reach beyond the sheet, 0 to 1.
    pub off_sheet: f64,
    /// Photo pixels for an inch of the sheet.
    pub ppi: f64,
}

struct Target {
    bounds: Rect,
    /// The sheet.
    page: Rect,
    /// Which share of each raster pixel lies in the opening.
    cover: Grid<f32>,
    to_raster: Affine,
}

/// Up to five placements, the best for most purposes first. `opening` and `page` (the sheet) are in sheet space; the photo has `width` x
/// `height` pixels. What climbs out stays on the sheet.
///
/// Upright places at seven sizes are tried, all of them with the opening wholly covered, and scored by what of the subject the opening shows
/// and what would reach over which side of it. Of each purpose (show most of the subject, let it climb out above, to a side, fill the
/// opening with it) the best is proposed, unless it is nearly one that is proposed already.
pub fn propose_placements(
    opening: &BezPath,
    page: Rect,
    (width, height): (u32, u32),
    subject: Option<&WorkingMatte>,
) -> Vec<PlacementProposal> {
    let bounds = if opening.is_empty() { Rect::ZERO } else { opening.bounding_box() };
    if bounds.width() <= 0.0 || bounds.height() <= 0.0 || width == 0 || height == 0 {
        return Vec::new();
    }
    let scale = RASTER as f64 / bounds.width().max(bounds.height());
    let to_raster = Affine::scale(scale) * Affine::translate(-bounds.origin().to_vec2());
    let side = |v: f64| ((v * scale).ceil() as usize).max(1);
    let cover = coverage(&(to_raster * opening), side(bounds.width()), side(bounds.height()));
    let target = Target { bounds, page, cover, to_raster };
    let Some(points) = subject.map(solid_points).filter(|p| p.len() > 20) else {
        return slid(&target, width, height);
    };
    let tried: Vec<PlacementProposal> = candidates(&target, width, height)
        .map(|placement| rated(&target, placement, (width, height), &points))
        .collect();
    let mut proposed: Vec<PlacementProposal> = Vec::new();
    for (name, worth) in PURPOSES {
        let best = tried.iter().max_by(|a, b| worth(a).total_cmp(&worth(b)));
        if let Some(best) = best.filter(|b| worth(b) > 0.0 && !proposed.iter().any(|p| alike(p, b, bounds))) {
            proposed.push(PlacementProposal { good_for: (*name).into(), ..best.clone() });
        }
    }
    proposed.truncate(PROPOSED);
    proposed
}

type Worth = fn(&PlacementProposal) -> f64;

/// What placements are good for, and how good one is for it; nothing worth proposing at 0.
const PURPOSES: &[(&str, Worth)] = &[
    ("shows most of the subject", |p| p.shown + small(p)),
    ("climbs out above", |p| if p.over[0] > 0.08 && stays(p) { climbing(p, 0) } else { 0.0 }),
    ("reaches over to a side", |p| {
        let side = if p.over[2] > p.over[3] { 2 } else { 3 };
        if p.over[side] > 0.08 && stays(p) { climbing(p, side) } else { 0.0 }
    }),
    ("hangs out below", |p| if p.over[1] > 0.08 && stays(p) { climbing(p, 1) } else { 0.0 }),
    ("from close by", |p| p.shown * 0.5 + 40.0 / p.ppi.max(1.0)),
];

/// What reaches over the opening ends on the sheet.
fn stays(p: &PlacementProposal) -> bool {
    p.off_sheet < 0.002
}

/// A little for a photo that is not enlarged more than it needs to be.
fn small(p: &PlacementProposal) -> f64 {
    0.1 * (p.ppi / 300.0).min(1.0)
}

/// A third over the edge looks best; the rest should be seen in the opening.
fn climbing(p: &PlacementProposal, side: usize) -> f64 {
    let others: f64 = p.over.iter().sum::<f64>() - p.over[side];
    0.2 + p.shown - 0.5 * others + 1.2 * p.over[side].min(0.35) + small(p)
}

fn alike(a: &PlacementProposal, b: &PlacementProposal, bounds: Rect) -> bool {
    let far = (a.placement.x - b.placement.x).hypot(a.placement.y - b.placement.y);
    let size = a.placement.scale / b.placement.scale;
    far < 0.12 * bounds.width().min(bounds.height()) && (0.88..1.14).contains(&size)
}

/// Upright placements with which the photo covers the whole opening.
fn candidates(target: &Target, width: u32, height: u32) -> impl Iterator<Item = Placement> {
    let (bounds, cover) = (target.bounds, Placement::cover(width, height, target.bounds));
    let (w, h) = (f64::from(width), f64::from(height));
    SIZES.iter().flat_map(move |size| {
        let scale = cover.scale * size;
        // how far the photo can be slid either way and still cover
        let (free_x, free_y) = ((w * scale - bounds.width()) / 2.0, (h * scale - bounds.height()) / 2.0);
        let share = |k: usize| 2.0 * k as f64 / (PLACES - 1) as f64 - 1.0;
        (0..PLACES * PLACES).map(move |k| Placement {
            x: cover.x + free_x * share(k % PLACES) * 0.999,
            y: cover.y + free_y * share(k / PLACES) * 0.999,
            scale,
            ..cover
        })
    })
}

/// Solid points of a subject, in photo space.
fn solid_points(matte: &WorkingMatte) -> Vec<Point> {
    let alpha = &matte.alpha;
    let solid: Vec<usize> = (0..alpha.data.len()).filter(|i| alpha.data[*i] > 0.5).collect();
    let step = solid.len().div_ceil(POINTS).max(1);
    let to_photo = |i: usize| {
        let (x, y) = ((i % alpha.width) as f64 + 0.5, (i / alpha.width) as f64 + 0.5);
        Point::new(x / matte.scale.0, y / matte.scale.1)
    };
    solid.into_iter().step_by(step).map(to_photo).collect()
}

fn rated(target: &Target, placement: Placement, (width, height): (u32, u32), points: &[Point]) -> PlacementProposal {
    let to_sheet = placement.affine(width, height);
    let to_raster = target.to_raster * to_sheet;
    let b = target.bounds;
    let (mut shown, mut over, mut off_sheet) = (0.0, [0.0; 4], 0.0);
    let one = 1.0 / points.len() as f64;
    for p in points {
        let (at, on_sheet) = (to_raster * *p, to_sheet * *p);
        let beyond = [b.y0 - on_sheet.y, on_sheet.y - b.y1, b.x0 - on_sheet.x, on_sheet.x - b.x1];
        match beyond.iter().enumerate().max_by(|x, y| x.1.total_cmp(y.1)) {
            Some((side, far)) if *far > 0.0 => {
                over[side] += one;
                if !target.page.contains(on_sheet) {
                    off_sheet += one;
                }
            }
            _ => {
                let x = (at.x as usize).min(target.cover.width - 1);
                let y = (at.y as usize).min(target.cover.height - 1);
                shown += one * f64::from(target.cover.at(x, y));
            }
        }
    }
    PlacementProposal { shown, over, off_sheet, ..unrated(target, placement, (width, height)) }
}

/// What is known of a placement without a subject.
fn unrated(target: &Target, placement: Placement, (width, height): (u32, u32)) -> PlacementProposal {
    let photo = Rect::new(0.0, 0.0, f64::from(width), f64::from(height));
    let photo = placement.affine(width, height).transform_rect_bbox(photo);
    let uncovered = 1.0 - photo.intersect(target.bounds).area().max(0.0) / target.bounds.area();
    PlacementProposal {
        placement,
        good_for: String::new(),
        shown: (target.bounds.area() / photo.area()).min(1.0),
        over: [0.0; 4],
        off_sheet: 0.0,
        uncovered: if uncovered < 1e-9 { 0.0 } else { uncovered },
        ppi: MM_PER_INCH / placement.scale,
    }
}

/// A photo without a subject: its middle, and slid as far as it goes to each side.
fn slid(target: &Target, width: u32, height: u32) -> Vec<PlacementProposal> {
    let places = [
        ("the middle of the photo", 1.0, 0.0, 0.0),
        ("its upper part", 1.12, 0.0, 1.0),
        ("its lower part", 1.12, 0.0, -1.0),
        ("its left part", 1.12, 1.0, 0.0),
        ("its right part", 1.12, -1.0, 0.0),
    ];
    let cover = Placement::cover(width, height, target.bounds);
    let mut proposed: Vec<PlacementProposal> = Vec::new();
    for (name, size, right, down) in places {
        let scale = cover.scale * size;
        let free = |pixels: u32, room: f64| (f64::from(pixels) * scale - room) / 2.0 * 0.999;
        let placement = Placement {
            x: cover.x + free(width, target.bounds.width()) * right,
            y: cover.y + free(height, target.bounds.height()) * down,
            scale,
            ..cover
        };
        let made = PlacementProposal { good_for: name.into(), ..unrated(target, placement, (width, height)) };
        if !proposed.iter().any(|p| alike(p, &made, target.bounds)) {
            proposed.push(made);
        }
    }
    proposed
}
