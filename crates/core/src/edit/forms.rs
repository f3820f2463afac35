//! What edits make of forms.

use crate::check::{self, Refusal};
use crate::library::Library;
use crate::outline::form_path;
use crate::sheet::{Contour, Form, FormId, FormShape, Pose};
use kurbo::{Affine, BezPath, Shape};
use uuid::Uuid;

/// Refuses what has no outline: text without letters, crossed corners, a drawing that is not there.
pub(super) fn drawable(form: &Form, library: &dyn Library) -> Result<(), Refusal> {
    check::form(form)?;
    form_path(form, &[], library)?;
    Ok(())
}

/// A form of nodes with its middle as its origin.
pub(super) fn baked(id: FormId, path: &BezPath) -> Form {
    let c = if path.is_empty() { kurbo::Point::ZERO } else { path.bounding_box().center() };
    let contour = Contour::from_path(&(Affine::translate(-c.to_vec2()) * path));
    Form::new(id, Pose::at(c.x, c.y), FormShape::Contour(contour))
}

/// Gives a copied form and all it holds identifiers of its own, which follow from that of the copy.
pub(super) fn copy_ids(form: &mut Form, copy: Uuid) {
    form.id = form.id.copied_within(copy);
    if let FormShape::List { forms } = &mut form.shape {
        forms.iter_mut().for_each(|form| copy_ids(form, copy));
    }
}
