//! Outlines as the screen handles them.

use crate::combine::{clusters, nodes};
use crate::scene::svg::{MovablePath, path_data};
use kurbo::{BezPath, PathEl};
use serde::Serialize;
use ts_rs::TS;

/// From this many nodes on, an outline is painted in parts while it is handled.
const BUSY: usize = 1_000;
/// Outlines with more nodes than this have nothing to aim at.
const AIMS: usize = 120;

/// An outline: whole, or, where it is busy, in parts that lie apart. What a drag only moves need not be read again then, and what it leaves
/// alone not even painted.
#[derive(Debug, Clone, Serialize, TS)]
#[serde(untagged)]
pub enum OutlineView {
    Whole {
        /// Path data.
        path: String,
        /// The ends of its segments, where there are few.
        ends: Vec<[f64; 2]>,
    },
    Parts {
        /// For each part where it starts, and the path data, in relative commands, that goes on from there.
        parts: Vec<(f64, f64, String)>,
    },
}

impl OutlineView {
    pub(crate) fn of(path: &BezPath) -> Self {
        if nodes(path) < BUSY {
            return Self::Whole { path: path_data(path), ends: ends(path) };
        }
        let movable = clusters(path).into_iter().filter_map(|part| MovablePath::of(&part));
        Self::Parts { parts: movable.map(|p| (p.x, p.y, p.data)).collect() }
    }
}

impl OutlineView {
    pub(super) fn text_bytes(&self) -> usize {
        match self {
            Self::Whole { path, .. } => path.len(),
            Self::Parts { parts } => parts.iter().map(|p| p.2.len() + 40).sum(),
        }
    }
}

/// The ends of a path's segments; none where there are many.
pub(super) fn ends(path: &BezPath) -> Vec<[f64; 2]> {
    if nodes(path) > AIMS {
        return Vec::new();
    }
    path.elements().iter().filter_map(PathEl::end_point).map(|p| [p.x, p.y]).collect()
}
