//! The scene as pixels, drawn with `vello_cpu` tile by tile.
//!
//! A tile knows nothing of its neighbours: everything is drawn from the tree for each of them, effects only where they are seen. Blurs are
//! computed as coarsely as their width allows, so that a wide one costs no more than a narrow one.

mod blur;
mod canvas;
mod cells;
mod coverage;
mod painter;
mod paints;
mod pen;
mod pixels;
mod plane;
mod prepared;
mod shadow;
mod space;

pub(crate) use canvas::Canvas;
pub(crate) use cells::PatternCells;
pub(crate) use coverage::{coverage, is_drawn_at_once};
pub(crate) use painter::{Painter, pattern_cell};
pub(crate) use pen::Pen;
pub(crate) use plane::Plane;
pub(crate) use prepared::Prepared;
pub(crate) use shadow::thrown;
pub(crate) use space::Space;

use vello_cpu::Pixmap;

/// What lies beneath all pieces.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Ground {
    /// The sheet's own colour and backdrop.
    OfTheSheet,
    /// Nothing: where there is no piece, the picture is clear.
    Clear,
}

/// A tile of a scene.
pub(crate) fn draw_scene(prepared: &Prepared, canvas: Canvas, ground: Ground) -> Pixmap {
    let mut painter = Painter::new(prepared, canvas);
    let sheet = Space::sheet();
    if ground == Ground::OfTheSheet {
        painter.pen.ground(prepared.scene.background);
        painter.fragment(&prepared.scene.backdrop, sheet);
    }
    for layer in &prepared.scene.layers {
        painter.fragment(&layer.fragment, sheet);
    }
    painter.fragment(&prepared.scene.border, sheet);
    painter.finish()
}
