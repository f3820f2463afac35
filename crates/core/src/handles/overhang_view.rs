//! What reaches over an edge, as the screen is told.

use crate::sheet::Anchor;
use kurbo::{BezPath, PathEl, Point, Rect, Shape, Vec2};
use serde::Serialize;
use std::f64::consts::{PI, TAU};
use ts_rs::TS;

/// A part of a subject outside of the opening.
#[derive(Debug, Clone, Serialize, TS)]
pub struct OverhangView {
    /// What lets it out.
    pub anchor: Anchor,
    /// The name of the subject that it is a part of, where the photo has several.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub of: Option<String>,
    /// What a person calls it.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub name: Option<String>,
    /// How wide it fades where it is cut from what stays in, in pixels of the photo.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub soft: Option<f64>,
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

/// A cut between a part that is let out and one that stays in.
#[derive(Debug, Clone, Serialize, TS)]
pub struct CutView {
    /// The anchor of the part that is let out.
    pub of: Anchor,
    /// The straight line that comes nearest to it, in sheet space.
    pub line: [[f64; 2]; 2],
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

/// An opening as the places of parts are told by it.
pub(super) struct Surroundings {
    bounds: Rect,
    /// Points along its edges.
    points: Vec<Point>,
}

impl Surroundings {
    pub fn of(opening: &BezPath) -> Self {
        let bounds = opening.bounding_box();
        let mut points = Vec::new();
        kurbo::flatten(opening, (bounds.width() + bounds.height()) / 1000.0, |el| match el {
            PathEl::MoveTo(p) | PathEl::LineTo(p) => points.push(p),
            _ => {}
        });
        Self { bounds, points }
    }

    /// The way out from a place that lies outside of the convex hull: from there the whole opening is seen within half a turn, and the middle of the
    /// rest is the way out.
    fn way_out(&self, at: Point) -> Option<Vec2> {
        let mut turns: Vec<f64> = self.points.iter().map(|p| (*p - at).atan2()).collect();
        turns.sort_by(f64::total_cmp);
        let around = turns.first().map(|first| first + TAU);
        let gaps = turns.iter().zip(turns.iter().skip(1).copied().chain(around)).map(|(from, to)| (*from, to - from));
        let (from, gap) = gaps.max_by(|a, b| a.1.total_cmp(&b.1))?;
        (gap > PI).then(|| Vec2::from_angle(from + gap / 2.0))
    }
}

/// The side that a way leads to.
fn side(way: Vec2) -> &'static str {
    match (way.x.abs() > way.y.abs(), way.x < 0.0, way.y < 0.0) {
        (true, true, _) => "left",
        (true, false, _) => "right",
        (false, _, true) => "above",
        (false, _, false) => "below",
    }
}

/// Where a part lies about an opening: by its middle, else by the side that most of it reaches beyond, else, outside of the opening's convex hull, by the
/// way out. Within the hull it is between the edges.
pub(super) fn place_of((at, own): (Point, Rect), opening: &Surroundings, counter: bool) -> &'static str {
    let bounds = opening.bounds;
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
        _ => farthest.map(|(place, _)| place).or_else(|| opening.way_out(at).map(side)).unwrap_or("between the edges"),
    }
}
