//! What is drawn, with all that was made ready for it.

use super::cells::PatternCells;
use crate::pictures::Pictures;
use inky_core::scene::Scene;

/// A scene with its pictures at their sizes.
pub(crate) struct Prepared {
    pub scene: Scene,
    pub pictures: Pictures,
    pub cells: PatternCells,
    /// Millimetres on all sides.
    pub bleed: f64,
}
