//! What the parts of a fragment are put together in.

use crate::library::Library;
use crate::outline::ImportedDrawing;
use crate::scene::model::{PieceProblem, PieceScene};
use crate::scene::tree::{Definitions, Fragment, Node};
use crate::sheet::{DrawingId, PieceId, Sheet};
use kurbo::BezPath;
use std::sync::Arc;

/// Gives the scenes of windows that are shown within other ones.
pub(super) trait ShownWindows {
    /// None where there is no such window.
    fn shown(&self, window: PieceId) -> Option<Arc<PieceScene>>;
}

/// Puts one fragment together.
pub(super) struct Builder<'a> {
    pub sheet: &'a Sheet,
    pub library: &'a dyn Library,
    pub windows: &'a dyn ShownWindows,
    pub definitions: Definitions,
    pub opening: Arc<BezPath>,
    /// Something that the fragment refers to is not there: it must be built again when it is.
    pub incomplete: bool,
    /// Why something within it cannot be drawn.
    pub problem: Option<PieceProblem>,
}

impl Builder<'_> {
    /// The fragment, with all definitions that were added.
    pub fn fragment(self, nodes: Vec<Node>) -> Fragment {
        Fragment { opening: self.opening, definitions: self.definitions, nodes }
    }

    /// An imported drawing; where it is not there, the fragment is incomplete.
    pub fn drawing(&mut self, id: &DrawingId) -> Option<Arc<ImportedDrawing>> {
        let found = self.library.drawing(id);
        self.incomplete |= found.is_none();
        found
    }
}
