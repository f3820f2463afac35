//! How alike two masks are.

use crate::grid::Grid;

/// Overlap of two masks: pixels in both, divided by pixels in either.
pub fn iou(a: &Grid<bool>, b: &Grid<bool>) -> f64 {
    let count = |f: fn(bool, bool) -> bool| a.data.iter().zip(&b.data).filter(|(a, b)| f(**a, **b)).count();
    count(|a, b| a && b) as f64 / count(|a, b| a || b).max(1) as f64
}
