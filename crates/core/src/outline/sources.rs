//! What outlines are computed from, beside the forms themselves.

use super::font_collection::FontCollection;
use super::imported_drawing::ImportedDrawing;
use super::opening_outline::OpeningOutline;
use crate::cutout::{Unwatched, Watch};
use crate::memo::Memo;
use crate::sheet::DrawingId;
use std::sync::Arc;

/// Fonts and imported drawings, by the identifiers that forms refer to them by; and outlines that were computed before.
pub trait OutlineSources: Sync {
    fn fonts(&self) -> &FontCollection;

    /// What an imported drawing comes to.
    fn drawing(&self, id: &DrawingId) -> Option<Arc<ImportedDrawing>>;

    /// Where outlines of openings are kept. What an identifier stands for must not change while they are.
    fn outlines(&self) -> Option<&Memo<OpeningOutline>> {
        None
    }

    /// Whoever waits for the outlines. Once nobody does, forms have no outlines any more, and nothing of it is kept.
    fn watch(&self) -> &dyn Watch {
        &Unwatched
    }
}
