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
use crate::sheet::limits::{CROSSINGS, LIST_NODES};
use crate::sheet::{Along, Figure, Form, FormId, FormShape, Lettering, Stroke};
use kurbo::{BezPath, Rect};
use std::collections::BTreeMap;

/// The outline of a single form in the space it lies in (the sheet, or its list), before it is joined to others. Overlaps are
/// still in it; it is to be filled by the nonzero rule.
///
/// `siblings` are the forms of the list that it stands in: lettering may run along one of them.
///
/// # Errors
/// A font or drawing that is not there, corners that are pulled across one another.
pub fn form_path(form: &Form, siblings: &[Form], sources: &dyn OutlineSources) -> Result<BezPath, OutlineError> {
    among(form, &mut Siblings::of(siblings), sources)
}

fn among(form: &Form, siblings: &mut Siblings, sources: &dyn OutlineSources) -> Result<BezPath, OutlineError> {
    sources.watch().go_on()?;
    placed_path(form, own_path(form, siblings, sources)?)
}

/// The forms of a list, with the outlines of those that lettering runs along. Each is computed once: where lists hold lists, every lettering would
/// ask for all that is in them otherwise, and their lettering again.
struct Siblings<'a> {
    forms: &'a [Form],
    edges: BTreeMap<FormId, BezPath>,
}

impl<'a> Siblings<'a> {
    fn of(forms: &'a [Form]) -> Self {
        Self { forms, edges: BTreeMap::new() }
    }

    /// Whether lettering runs along a form.
    fn is_edge(&self, form: &Form) -> bool {
        let along =
            |f: &Form| matches!(&f.shape, FormShape::Lettering(l) if l.along.is_some_and(|a| a.form == form.id));
        self.forms.iter().any(along)
    }

    fn edge(&mut self, form: &Form, sources: &dyn OutlineSources) -> Result<&BezPath, OutlineError> {
        if !self.edges.contains_key(&form.id) {
            let path = among(form, self, sources)?;
            self.edges.insert(form.id, path);
        }
        Ok(&self.edges[&form.id])
    }
}

/// Refuses outlines that would take too long to be joined. `share` is the part of the crossings that they may have.
fn check_tangle<'a>(outlines: impl IntoIterator<Item = &'a BezPath>, share: f64) -> Result<(), OutlineError> {
    if combine::crossings(outlines) > share * CROSSINGS { Err(OutlineError::Tangled) } else { Ok(()) }
}

/// What a line with two edges has of the crossings of the path along its middle.
const OF_LINE: f64 = 0.25;

/// The outline that `own` comes to: pulled, at its place, as its line if it has one.
fn placed_path(form: &Form, own: BezPath) -> Result<BezPath, OutlineError> {
    let mut placed = match &form.pose.pull {
        Some(pull) => bend::pulled(&own, own_frame(form, &own), pull).ok_or(OutlineError::Crossed)?,
        None => own,
    };
    placed.apply_affine(form.pose.affine());
    if form.line.is_some() || matches!(form.shape, FormShape::Contour(_)) {
        check_tangle([&placed], if form.line.is_some() { OF_LINE } else { 1.0 })?;
    }
    Ok(match &form.line {
        Some(line) => combine::own_line(&placed, &(*line).into()),
        None => match &form.shape {
            FormShape::Contour(c) if c.even_odd => combine::unite_even_odd(&placed),
            _ => placed,
        },
    })
}

/// The outline in the form's own space, bent.
fn own_path(form: &Form, siblings: &mut Siblings, sources: &dyn OutlineSources) -> Result<BezPath, OutlineError> {
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
        FormShape::Brush(b) => {
            let ways: Vec<BezPath> = b.strokes.values().map(Stroke::way).collect();
            check_tangle(&ways, OF_LINE)?;
            brush_path(b)
        }
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
    let own = own_path(form, &mut Siblings::of(siblings), sources)?;
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
    let (mut operands, mut nodes, mut siblings) = (Vec::new(), 0, Siblings::of(forms));
    for form in forms.iter().filter(|f| !f.off) {
        let known = siblings.edges.get(&form.id).cloned();
        let path = known.map_or_else(|| among(form, &mut siblings, sources), Ok)?;
        if siblings.is_edge(form) {
            siblings.edges.insert(form.id, path.clone());
        }
        nodes += path.elements().len();
        if nodes > LIST_NODES {
            return Err(OutlineError::TooManyNodes);
        }
        operands.push(Operand { path, rule: form.join.into(), united: is_united(form) });
    }
    if operands.len() > 1 {
        check_tangle(operands.iter().map(|o| &o.path), 1.0)?;
    }
    Ok(combine::join_all(&operands))
}

/// The edge that lettering runs along, in the lettering's own space. None where it runs straight, where the form is gone, or
/// where that form is lettering along an edge itself.
fn edge_of(
    lettering: &Lettering,
    form: &Form,
    siblings: &mut Siblings,
    sources: &dyn OutlineSources,
) -> Result<Option<(Along, BezPath)>, OutlineError> {
    let Some(along) = lettering.along.filter(|a| a.form != form.id) else {
        return Ok(None);
    };
    let Some(other) = siblings.forms.iter().find(|f| f.id == along.form) else {
        return Ok(None);
    };
    if matches!(&other.shape, FormShape::Lettering(l) if l.along.is_some()) {
        return Ok(None);
    }
    let path = siblings.edge(other, sources)?;
    Ok(Some((along, form.pose.affine().inverse() * path)))
}
