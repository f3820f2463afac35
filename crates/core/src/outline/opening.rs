//! From the forms of an opening to its compound outline.

use super::cell::joined_path;
use super::error::OutlineError;
use super::open_side;
use super::opening_outline::OpeningOutline;
use super::sources::OutlineSources;
use crate::combine;
use crate::memo::KeyBuilder;
use crate::sheet::Opening;
use kurbo::BezPath;
use std::sync::Arc;

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
    let joined = joined_path(opening, sources)?;
    sources.watch().go_on()?;
    let mut path = combine::grow(&joined, opening.grow);
    if opening.rounding > 0.0 {
        // fillets of neighbouring corners may run into each other
        path = combine::unite(&combine::round_corners(&path, opening.rounding));
    }
    sources.watch().go_on()?;
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
