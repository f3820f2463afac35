//! Why a form has no outline.

use super::lettering::LetteringError;
use crate::sheet::DrawingId;

/// Why a form has no outline.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum OutlineError {
    #[error(transparent)]
    Lettering(#[from] LetteringError),
    #[error("An imported drawing is not here. Bring it in again.")]
    NoDrawing(DrawingId),
    #[error("The corners of a form are pulled across one another. Pull one of them back.")]
    Crossed,
}
