//! The outline of a form, alone and joined with the others of its list.

use super::along::lettering_along;
use super::basic::basic_path;
use super::bend;
use super::brush::brush_path;
use super::error::OutlineError;
use super::imported_drawing::drawing_path;
use super::lettering::lettering_path;
use super::sources::OutlineSources;
use crate::combine::{self, Operand};
use crate::sheet::{Along, Figure, Form, FormShape, Lettering};
use kurbo::{BezPath, Rect};

/// The outline of a single form in the space it lies in (the sheet, or its list), before it is joined to others. Overlaps are
/// still in it; it is to be filled by the nonzero rule.
///
/// `siblings` are the forms of the list that it stands in: lettering may run along one of them.
///
/// # Errors
/// A font or drawing that is not there, corners that are pulled across one another.
pub fn form_path(form: &Form, siblings: &[Form], sources: &dyn OutlineSources) -> Result<BezPath, OutlineError> {
    placed_path(form, own_path(form, siblings, sources)?)
}

/// The outline that `own` comes to: pulled, at its place, as its line if it has one.
fn placed_path(form: &Form, own: BezPath) -> Result<BezPath, OutlineError> {
    let mut placed = match &form.pose.pull {
        Some(pull) => bend::pulled(&own, own_frame(form, &own), pull).ok_or(OutlineError::Crossed)?,
        None => own,
    };
    placed.apply_affine(form.pose.affine());
    Ok(match &form.line {
        Some(line) => combine::own_line(&placed, &(*line).into()),
        None => match &form.shape {
            FormShape::Contour(c) if c.even_odd => combine::unite_even_odd(&placed),
            _ => placed,
        },
    })
}

/// The outline in the form's own space, bent.
fn own_path(form: &Form, siblings: &[Form], sources: &dyn OutlineSources) -> Result<BezPath, OutlineError> {
    let plain = match &form.shape {
        FormShape::Lettering(l) => match edge_of(l, form, siblings, sources)? {
            Some((along, edge)) => lettering_along(l, &along, &edge, sources.fonts())?,
            None => lettering_path(l, sources.fonts())?,
        },
        FormShape::Basic(basic) => basic_path(basic),
        FormShape::Contour(contour) => contour.path(),
        FormShape::Drawing(d) => {
            let drawn = sources.drawing(&d.drawing).ok_or_else(|| OutlineError::NoDrawing(d.drawing.clone()))?;
            drawing_path(d, &drawn)
        }
        FormShape::Brush(b) => brush_path(b),
        FormShape::List { forms } => list_path(forms, sources)?,
    };
    Ok(match &form.bend {
        Some(bend) => bend::bent(&plain, bend),
        None => plain,
    })
}

fn own_frame(form: &Form, own: &BezPath) -> Rect {
    match &form.shape {
        // a zigzag or a sector does not reach all sides of the box it is drawn in
        FormShape::Basic(b) if form.bend.is_none() && !matches!(b.figure, Figure::Line { .. }) => {
            Rect::new(-b.width / 2.0, -b.height / 2.0, b.width / 2.0, b.height / 2.0)
        }
        _ => combine::bounds(own),
    }
}

/// The box whose corners are pulled and whose handles are shown, in the form's own space; and its outline as [`form_path`] has it.
///
/// # Errors
/// As for [`form_path`].
pub fn framed_form_path(
    form: &Form,
    siblings: &[Form],
    sources: &dyn OutlineSources,
) -> Result<(Rect, BezPath), OutlineError> {
    let own = own_path(form, siblings, sources)?;
    let frame = own_frame(form, &own);
    Ok((frame, placed_path(form, own)?))
}

/// Whether a form's outline has no overlaps to begin with: a drawing is united when it arrives, a list by its joins.
fn is_united(form: &Form) -> bool {
    let plain = form.bend.is_none() && form.line.is_none() && form.pose.pull.is_none();
    plain && matches!(form.shape, FormShape::Drawing(_) | FormShape::List { .. } | FormShape::Brush(_))
}

/// The outline of the forms of a list, joined, in the list's own space.
pub(crate) fn list_path(forms: &[Form], sources: &dyn OutlineSources) -> Result<BezPath, OutlineError> {
    let operands = forms
        .iter()
        .filter(|f| !f.off)
        .map(|f| Ok(Operand { path: form_path(f, forms, sources)?, rule: f.join.into(), united: is_united(f) }))
        .collect::<Result<Vec<_>, OutlineError>>()?;
    Ok(combine::join_all(&operands))
}

/// The edge that lettering runs along, in the lettering's own space. None where it runs straight, where the form is gone, or
/// where that form is lettering along an edge itself.
fn edge_of(
    lettering: &Lettering,
    form: &Form,
    siblings: &[Form],
    sources: &dyn OutlineSources,
) -> Result<Option<(Along, BezPath)>, OutlineError> {
    let Some(along) = lettering.along.filter(|a| a.form != form.id) else {
        return Ok(None);
    };
    let Some(other) = siblings.iter().find(|f| f.id == along.form) else {
        return Ok(None);
    };
    if matches!(&other.shape, FormShape::Lettering(l) if l.along.is_some()) {
        return Ok(None);
    }
    let path = form_path(other, siblings, sources)?;
    Ok(Some((along, form.pose.affine().inverse() * path)))
}
