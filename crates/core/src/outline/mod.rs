//! Forms to Bézier paths, and the list of forms to the one compound outline of an opening.

mod along;
mod basic;
mod bend;
mod brush;
mod cell;
mod drawing_file;
mod drawing_parts;
mod drawing_tree;
mod engine;
mod fade;
mod font_collection;
mod font_file;
mod imported_drawing;
mod lettering;
mod open_side;
mod recipe;
mod sources;
mod warp;

pub use along::lettering_along;
pub use basic::basic_path;
pub use bend::{bent, bent_with, pulled};
pub use brush::{brush_path, painted_path};
pub use cell::{OpeningCell, cell_outlines, chosen_cells, opening_cells};
pub use drawing_file::{DrawingError, read_drawing};
pub use drawing_tree::{
    DrawingGradient, DrawingPaint, DrawingPart, DrawingShape, DrawingTree, GradientAxis, Spread, placed_part,
};
pub use fade::widest_fade_of;
pub(crate) use fade::{mean_scale, widest_fade};
pub use font_collection::{Face, FontCollection};
pub use font_file::{FontError, read_font};
pub use imported_drawing::{ImportedDrawing, drawing_path};
pub use lettering::{LetteringError, lettering_path};
pub use open_side::extension;
pub use recipe::{Recipe, RecipeError, read_recipe};
pub use sources::OutlineSources;

use crate::combine::{self, Operand};
use crate::memo::{KeyBuilder, Weight};
use crate::sheet::{DrawingId, Figure, Form, FormShape, Opening};
use kurbo::{BezPath, Rect};
use std::sync::Arc;

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
        FormShape::Lettering(l) => match along::edge_of(l, form, siblings, sources)? {
            Some((along, edge)) => along::lettering_along(l, &along, &edge, sources.fonts())?,
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

/// The compound outline of an opening.
#[derive(Debug, Clone, Default)]
pub struct OpeningOutline {
    /// Sheet space: contours that do not overlap, to be filled by the nonzero rule. Empty where nothing is left.
    pub path: Arc<BezPath>,
    /// Nodes that it would have if it were not simplified.
    pub nodes_before: usize,
    /// What it covers without its open sides, if there are any; sheet space.
    pub closed: Option<Rect>,
}

/// The compound outline of an opening, see [`OpeningOutline`].
///
/// # Errors
/// As for [`form_path`].
pub fn opening_path(opening: &Opening, sources: &dyn OutlineSources) -> Result<BezPath, OutlineError> {
    Ok((*opening_outline(opening, sources)?.path).clone())
}

/// The compound outline of an opening: as it was kept, or computed now.
///
/// In this order: forms are joined in the order of the list, cells are taken in or left out, then the outline is grown, rounded
/// and simplified, and its open sides are extended.
///
/// # Errors
/// As for [`form_path`].
pub fn opening_outline(opening: &Opening, sources: &dyn OutlineSources) -> Result<Arc<OpeningOutline>, OutlineError> {
    let kept = sources.outlines().zip(KeyBuilder::default().with(opening).finish());
    if let Some(known) = kept.and_then(|(memo, key)| memo.get(key)) {
        return Ok(known);
    }
    let outline = compute(opening, sources)?;
    Ok(match kept {
        Some((memo, key)) => memo.put(key, outline),
        None => Arc::new(outline),
    })
}

fn compute(opening: &Opening, sources: &dyn OutlineSources) -> Result<OpeningOutline, OutlineError> {
    let joined = cell::joined_path(opening, sources)?;
    let mut path = combine::grow(&joined, opening.grow);
    if opening.rounding > 0.0 {
        // fillets of neighbouring corners may run into each other
        path = combine::unite(&combine::round_corners(&path, opening.rounding));
    }
    let nodes_before = combine::nodes(&path);
    let path = combine::simplify(&path, opening.simplify);
    if opening.open.is_empty() {
        return Ok(OpeningOutline { path: Arc::new(path), nodes_before, closed: None });
    }
    let closed = Some(combine::bounds(&path));
    let (nodes, path) = (combine::nodes(&path), open_side::opened(&path, &opening.open));
    // an extension may swallow nodes as well as add some
    let nodes_before = (nodes_before + combine::nodes(&path)).saturating_sub(nodes);
    Ok(OpeningOutline { path: Arc::new(path), nodes_before, closed })
}

impl OpeningOutline {
    /// An outline that is what it is: nothing was simplified or extended.
    pub fn plain(path: BezPath) -> Self {
        Self { nodes_before: combine::nodes(&path), path: Arc::new(path), closed: None }
    }
}

impl Weight for OpeningOutline {
    fn weight(&self) -> u64 {
        (std::mem::size_of_val(self.path.elements()) + size_of::<Self>()) as u64
    }
}
