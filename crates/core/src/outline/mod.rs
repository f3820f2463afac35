//! Forms to Bézier paths, and the list of forms to the one compound outline of an opening.

mod lettering;
mod shelf;

pub use lettering::{LetteringError, lettering_path};
pub use shelf::{Face, FontError, Shelf};

use crate::combine::{self, Operand};
use crate::sheet::{Form, FormShape, Opening};
use kurbo::BezPath;

/// The outline of a single form in sheet space, before it is joined to others; overlaps are still in it.
pub fn form_path(form: &Form, shelf: &Shelf) -> Result<BezPath, LetteringError> {
    let FormShape::Lettering(lettering) = &form.shape;
    Ok(form.pose.affine() * lettering_path(lettering, shelf)?)
}

/// The compound outline of an opening in sheet space: contours that do not overlap, to be filled by the
/// nonzero rule. Empty where nothing is left.
pub fn opening_path(opening: &Opening, shelf: &Shelf) -> Result<BezPath, LetteringError> {
    let operands = opening
        .forms
        .iter()
        .map(|f| Ok(Operand { path: form_path(f, shelf)?, join: f.join }))
        .collect::<Result<Vec<_>, LetteringError>>()?;
    Ok(combine::join_all(&operands))
}

#[cfg(test)]
mod tests;
