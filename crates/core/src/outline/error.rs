//! Why a form has no outline.

use super::lettering::LetteringError;
use crate::cutout::Cancelled;
use crate::sheet::DrawingId;
use crate::sheet::limits::LIST_NODES;

impl From<Cancelled> for OutlineError {
    fn from(_: Cancelled) -> Self {
        Self::Ended
    }
}

/// Why a form has no outline.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum OutlineError {
    #[error(transparent)]
    Lettering(#[from] LetteringError),
    #[error("An imported drawing is not here. Bring it in again.")]
    NoDrawing(DrawingId),
    #[error("The corners of a form are pulled across one another. Pull one of them back.")]
    Crossed,
    #[error("A form crosses itself, or the others, some hundred thousand times. Simplify it.")]
    Tangled,
    #[error("The forms of an opening have more than {limit} nodes in all. Simplify them.", limit = LIST_NODES)]
    TooManyNodes,
    #[error("This took too long, and was ended.")]
    Ended,
}
