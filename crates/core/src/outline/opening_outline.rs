//! The compound outline of an opening.

use crate::combine;
use crate::memo::Weight;
use kurbo::{BezPath, Rect};
use std::sync::Arc;

/// The compound outline of an opening.
#[derive(Debug, Clone, Default)]
pub struct OpeningOutline {
    /// Sheet space: contours that do not overlap, to be filled by the nonzero rule. Empty where nothing is left.
    pub path: Arc<BezPath>,
    /// Nodes that it would have if it were not simplified.
    pub nodes_before: usize,
    /// What it covers without its open sides, if there are any; sheet space.
    pub closed: Option<Rect>,
}

impl OpeningOutline {
    /// An outline that is what it is: nothing was simplified or extended.
    pub fn plain(path: BezPath) -> Self {
        Self { nodes_before: combine::nodes(&path), path: Arc::new(path), closed: None }
    }
}

impl Weight for OpeningOutline {
    fn weight(&self) -> u64 {
        (std::mem::size_of_val(self.path.elements()) + size_of::<Self>()) as u64
    }
}
