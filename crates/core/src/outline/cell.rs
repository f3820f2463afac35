//! The cells of an opening: taken in or left out by hand, whatever the joins say.

use super::error::OutlineError;
use super::form::{form_path, list_path};
use super::sources::OutlineSources;
use crate::combine::{self, Rule, contains, flatten_tolerance, inner_point, join_local, join_pair};
use crate::sheet::{CellChoice, Opening};
use kurbo::{BezPath, Shape};

/// A region of an opening that the same forms cover all over.
#[derive(Debug, Clone)]
pub struct OpeningCell {
    /// The forms that cover it, and whether it belongs to the opening.
    pub choice: CellChoice,
    /// Whether it would belong to it by the joins alone.
    pub by_joins: bool,
    /// Sheet space, holes included, no overlaps.
    pub path: BezPath,
    /// Square millimetres.
    pub area: f64,
}

/// Every cell of an opening. One cover may fall into several cells, which share their state.
///
/// # Errors
/// A form that has no outline.
pub fn opening_cells(opening: &Opening, sources: &dyn OutlineSources) -> Result<Vec<OpeningCell>, OutlineError> {
    let ids: Vec<_> = opening.forms.iter().filter(|f| !f.off).map(|f| f.id).collect();
    let joined = list_path(&opening.forms, sources)?;
    let tolerance = if joined.is_empty() { 1.0 } else { flatten_tolerance(joined.bounding_box()) };
    let found = combine::cells(&cell_outlines(opening, sources)?);
    Ok(found
        .into_iter()
        .filter_map(|cell| {
            let mut cover: Vec<_> = cell.cover.iter().filter_map(|&i| ids.get(i).copied()).collect();
            cover.sort();
            let by_joins = !joined.is_empty() && contains(&joined, inner_point(&cell.path)?, tolerance);
            let taken = opening.cells.iter().rfind(|c| c.cover == cover).map_or(by_joins, |c| c.taken);
            let choice = CellChoice { cover, taken };
            Some(OpeningCell { choice, by_joins, path: cell.path, area: cell.area })
        })
        .collect())
}

/// The opening's outline before it is grown, rounded and simplified.
pub(super) fn joined_path(opening: &Opening, sources: &dyn OutlineSources) -> Result<BezPath, OutlineError> {
    let mut path = list_path(&opening.forms, sources)?;
    for (cell, taken) in chosen_cells(opening, sources)? {
        path = join_local(&path, &cell, if taken { Rule::Union } else { Rule::Difference });
    }
    Ok(path)
}

/// The outlines of the cells that were chosen by hand, and whether each is taken into the opening.
///
/// # Errors
/// A form that has no outline.
pub fn chosen_cells(opening: &Opening, sources: &dyn OutlineSources) -> Result<Vec<(BezPath, bool)>, OutlineError> {
    if opening.cells.is_empty() {
        return Ok(Vec::new());
    }
    let outlines = cell_outlines(opening, sources)?;
    let chosen = |c: &CellChoice| chosen_cell(c, opening, &outlines).map(|cell| (cell, c.taken));
    Ok(opening.cells.iter().filter_map(chosen).collect())
}

/// The outlines whose overlaps are the opening's cells: one for each form of its list that is not switched off, in order.
///
/// # Errors
/// A form that has no outline.
pub fn cell_outlines(opening: &Opening, sources: &dyn OutlineSources) -> Result<Vec<BezPath>, OutlineError> {
    opening
        .forms
        .iter()
        .filter(|f| !f.off)
        .map(|f| Ok(combine::unite(&form_path(f, &opening.forms, sources)?)))
        .collect()
}

/// What the forms of a choice share and no other form covers. None where one of them is no longer there.
fn chosen_cell(choice: &CellChoice, opening: &Opening, outlines: &[BezPath]) -> Option<BezPath> {
    let ids: Vec<_> = opening.forms.iter().filter(|f| !f.off).map(|f| f.id).collect();
    let covering: Vec<usize> = choice.cover.iter().map(|id| ids.iter().position(|i| i == id)).collect::<Option<_>>()?;
    let (first, rest) = covering.split_first()?;
    let mut cell = outlines.get(*first)?.clone();
    for &i in rest {
        cell = join_pair(&cell, &outlines[i], Rule::Intersection);
    }
    for (_, other) in outlines.iter().enumerate().filter(|(i, _)| !covering.contains(i)) {
        cell = join_local(&cell, other, Rule::Difference);
    }
    Some(cell)
}
