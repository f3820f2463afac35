//! The scene as pixels, drawn with `vello_cpu` tile by tile.
//!
//! A tile knows nothing of its neighbours: everything is drawn from the tree for each of them, effects only where they are seen. Blurs are
//! computed as coarsely as their width allows, so that a wide one costs no more than a narrow one.

mod blur;
mod canvas;
mod coverage;
mod painter;
mod paints;
mod plane;
mod shadow;

pub(crate) use canvas::Canvas;
pub(crate) use paints::PatternCells;

use crate::plan::Plan;
use painter::{Painter, Space};
use vello_cpu::Pixmap;

/// A tile of a scene, on the sheet's own ground.
pub(crate) fn draw_scene(plan: &Plan, canvas: Canvas) -> Pixmap {
    let mut painter = Painter::new(plan, canvas);
    painter.ground(plan.scene.background);
    let sheet = Space::sheet();
    painter.fragment(&plan.scene.backdrop, sheet);
    for piece in &plan.scene.pieces {
        painter.fragment(&piece.fragment, sheet);
    }
    painter.fragment(&plan.scene.border, sheet);
    painter.finish()
}
