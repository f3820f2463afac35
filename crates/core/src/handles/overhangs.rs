//! What reaches over the edge of a window, to be let out or kept in.

use crate::breakout::{JointOpening, Overhangs, PlacedMatte, SubjectOf, WindowBreakout, crosses};
use crate::combine::{Rule, bounds, contours, join_pair, parts, unite};
use crate::library::Library;
use crate::outline::{DrawingTree, placed_part};
use crate::scene::svg::{matrix, path_data};
use crate::sheet::{Anchor, DrawingFill, FillId, FillPaint, PieceId, Sheet, Window};
use kurbo::{Affine, BezPath, Point, Rect, Shape};
use serde::Serialize;
use std::collections::BTreeSet;
use ts_rs::TS;

/// Pieces of drawings with more of them than this are let out by their groups alone.
const PIECES: usize = 80;

/// A part of a subject outside of the opening.
#[derive(Debug, Clone, Serialize, TS)]
pub struct OverhangView {
    /// What lets it out.
    pub anchor: Anchor,
    /// The name of the subject that it is a part of, where the photo has several.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub of: Option<String>,
    /// The anchors that let it out now; none if it stays in.
    pub let_out_by: Vec<Anchor>,
    /// Path data in the space of the photo or the drawing, drawn with its transform.
    pub outline: String,
    pub transform: String,
    /// Whether it lies in a hole of the opening.
    pub counter: bool,
    /// Whether it is cut off by the end of the photo: let out, it shows a straight cut. Not known where corners are pulled.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    #[ts(optional, as = "Option<bool>")]
    pub cut_off: bool,
    /// The keys of the edges that it lies against.
    pub touches: Vec<u32>,
    /// Its area as a share of the photo's.
    pub share: f64,
    /// The piece of a drawing that it is a part of; none for a photo's subject.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub part: Option<u32>,
    /// A few words on where it lies: "above", "right", "in a counter".
    pub place: String,
}

/// One contour of an opening that overhangs lie against.
#[derive(Debug, Clone, Serialize, TS)]
pub struct EdgeView {
    /// What overhangs call it by.
    pub key: u32,
    /// Path data in sheet space.
    pub path: String,
}

/// A place where what is let out crosses the edge.
#[derive(Debug, Clone, Serialize, TS)]
pub struct CrossingView {
    /// What it is told by.
    pub anchor: Anchor,
    /// In sheet space.
    pub at: [f64; 2],
    /// The anchors that say it runs under the edge; none where it runs over.
    pub under_by: Vec<Anchor>,
}

/// What reaches over the edge of one window, as people handle it.
#[derive(Default)]
pub(super) struct OverhangViews {
    pub overhangs: Vec<OverhangView>,
    pub edges: Vec<EdgeView>,
    pub unmatched: Vec<Anchor>,
    pub crossings: Vec<CrossingView>,
}

/// Describes the overhangs of a window with their edges and crossings.
pub(super) fn overhang_views(
    sheet: &Sheet,
    piece: PieceId,
    window: &Window,
    breakout: &WindowBreakout,
    library: &dyn Library,
) -> OverhangViews {
    let mut views = OverhangViews::default();
    for fill in window.fills.iter().filter(|f| !f.off) {
        match &fill.paint {
            FillPaint::Photo(photo_fill) => {
                let Some(photo) = sheet.photos.get(&photo_fill.photo) else {
                    continue;
                };
                let joint = breakout.joints.of_photo(sheet, piece, window, photo_fill);
                for subject in &photo.subjects {
                    let subject = SubjectOf { window, fill, photo_fill, photo, subject };
                    if let Some((placed, found)) = subject.overhangs(joint, library) {
                        describe_subject(&mut views, &subject, &placed, &found, joint);
                    }
                }
            }
            FillPaint::Drawing(drawing) => {
                if let Some(imported) = library.drawing(&drawing.drawing) {
                    let alone = breakout.joints.alone();
                    views.overhangs.extend(of_drawing(fill.id, drawing, &imported.picture, alone));
                }
            }
            _ => {}
        }
    }
    let crossings = breakout.releases.iter().flat_map(|r| &r.crossings);
    views.crossings = crossings
        .map(|c| CrossingView { anchor: c.anchor, at: [c.at.x, c.at.y], under_by: c.under_by.clone() })
        .collect();
    let touched: BTreeSet<u32> = views.overhangs.iter().flat_map(|o| o.touches.iter().copied()).collect();
    let edges = breakout.joints.edges().filter(|(key, _)| touched.contains(key));
    views.edges = edges.map(|(key, path)| EdgeView { key, path: path_data(&path) }).collect();
    views
}

fn describe_subject(
    views: &mut OverhangViews,
    subject: &SubjectOf<'_>,
    placed: &PlacedMatte,
    found: &Overhangs,
    joint: &JointOpening,
) {
    let anchors: Vec<Anchor> = subject.anchors().collect();
    let bounds = joint.opening.bounding_box();
    let matched = |k: usize| found.parts.iter().any(|part| part.let_out_by.contains(&k));
    views.unmatched.extend((0..anchors.len()).filter(|k| !matched(*k)).map(|k| anchors[k]));
    for part in &found.parts {
        let to_sheet = placed.to_sheet;
        let at = to_sheet * part.anchor;
        let anchor = placed.back(part.anchor);
        views.overhangs.push(OverhangView {
            anchor: Anchor { fill: subject.fill.id, subject: subject.subject.key, x: anchor.x, y: anchor.y },
            of: (subject.photo.subjects.len() > 1).then(|| subject.subject.name.clone()),
            let_out_by: part.let_out_by.iter().map(|&k| anchors[k]).collect(),
            outline: path_data(&part.outline),
            transform: matrix(to_sheet),
            counter: part.counter,
            cut_off: part.cut_off,
            touches: part.touches.iter().map(|k| joint.first_edge + *k as u32).collect(),
            share: part.share,
            part: None,
            place: place_of((at, (to_sheet * &part.outline).bounding_box()), bounds, part.counter).into(),
        });
    }
}

/// The pieces of a drawing that reach over the edge of the opening.
fn of_drawing(fill: FillId, drawing: &DrawingFill, picture: &DrawingTree, joint: &JointOpening) -> Vec<OverhangView> {
    let shown = &*joint.opening;
    let pieces: Vec<usize> = picture.pieces().take(PIECES + 1).collect();
    if pieces.len() > PIECES {
        return Vec::new();
    }
    let place = &drawing.placement;
    let to_sheet = place.affine(picture.width, picture.height);
    let around = bounds(shown);
    let page = (picture.width * picture.height).max(1e-9);
    let all = contours(shown);
    let edges = |own: &BezPath| {
        (0..all.len()).filter(|k| crosses(own, &all[*k])).map(|k| joint.first_edge + k as u32).collect()
    };
    let described = pieces.into_iter().filter_map(|at| {
        let looks = || drawing.looks.iter().filter(|l| picture.holds(l.part as usize, at));
        if looks().any(|l| l.off) {
            return None;
        }
        let own: BezPath = picture.shapes(at).flat_map(|s| s.path.elements().iter().copied()).collect();
        let own = unite(&own);
        let placed = placed_part(&own, picture, place);
        let seen = to_sheet * &*placed;
        let outside = join_pair(&seen, shown, Rule::Difference);
        let largest = parts(&outside).into_iter().max_by(|a, b| a.area.total_cmp(&b.area))?;
        // what only grazes the edge cannot be pointed at
        if largest.area < 1e-4 * around.area() {
            return None;
        }
        let middle = largest.bounds.center();
        let anchor = Anchor { fill, subject: 0, x: middle.x, y: middle.y };
        Some(OverhangView {
            anchor,
            let_out_by: if looks().any(|l| l.out) { vec![anchor] } else { Vec::new() },
            outline: path_data(&outside),
            transform: matrix(Affine::IDENTITY),
            counter: false,
            cut_off: false,
            touches: edges(&seen),
            share: placed.area().abs() / page,
            of: None,
            part: Some(at as u32),
            place: place_of((middle, largest.bounds), around, false).into(),
        })
    });
    described.collect()
}

/// Where a part lies about an opening with these bounds: by its middle, else by the side that most of it reaches beyond.
fn place_of((at, own): (Point, Rect), bounds: Rect, counter: bool) -> &'static str {
    let reaches = [
        ("above", (bounds.y0 - own.y0) / own.height()),
        ("below", (own.y1 - bounds.y1) / own.height()),
        ("left", (bounds.x0 - own.x0) / own.width()),
        ("right", (own.x1 - bounds.x1) / own.width()),
    ];
    let farthest = reaches.into_iter().filter(|(_, share)| *share > 0.5).max_by(|a, b| a.1.total_cmp(&b.1));
    match (counter, at.y < bounds.y0, at.y > bounds.y1, at.x < bounds.x0, at.x > bounds.x1) {
        (true, ..) => "in a counter",
        (_, true, ..) => "above",
        (_, _, true, ..) => "below",
        (_, _, _, true, _) => "left",
        (.., true) => "right",
        _ => farthest.map_or("between the edges", |(place, _)| place),
    }
}
