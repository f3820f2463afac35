//! Edits, made so that the sheet can be drawn afterwards.

use crate::edit::{Edit, Refusal, apply};
use crate::library::Library;
use crate::merge::{Conflict, MergeError, merge};
use crate::outline::OutlineError;
use crate::piece_tree::Unit;
use crate::scene::{Keys, PieceProblem, SceneBuilder, SceneMemo};
use crate::sheet::Sheet;
use std::sync::Arc;

/// Why edits are not made.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum ChangeError {
    #[error(transparent)]
    Refused(#[from] Refusal),
    /// The name of a piece or a bundle, and why it could not be drawn.
    #[error("“{0}”: {1}")]
    NotDrawable(String, PieceProblem),
    /// What they change was changed by somebody else since.
    #[error("somebody else changed {0} meanwhile")]
    Met(String, Conflict),
    /// A sheet that cannot be compared with another one.
    #[error("{0}")]
    Unreadable(String),
}

/// The sheet after edits, one after the other.
///
/// # Errors
/// The first edit that is refused, or a piece that would take too much to be drawn and did not before; nothing has happened then. A piece
/// that took too much already can be changed, so that it can be mended.
pub fn change(sheet: &Sheet, edits: &[Edit], library: &dyn Library, memo: &SceneMemo) -> Result<Sheet, ChangeError> {
    let keys = Arc::new(Keys::of(sheet));
    change_keyed((sheet, &keys), edits, library, memo).map(|(after, _)| after)
}

/// The same where the keys of the sheet are known; also those of the sheet after the edits.
///
/// # Errors
/// Those of [`change`].
pub fn change_keyed(
    (sheet, keys): Keyed<'_>,
    edits: &[Edit],
    library: &dyn Library,
    memo: &SceneMemo,
) -> Result<(Sheet, Arc<Keys>), ChangeError> {
    let mut next = sheet.clone();
    for edit in edits {
        next = apply(&next, edit, library)?;
    }
    let next_keys = Arc::new(keys.after(sheet, &next));
    check_cost((sheet, keys), (&next, &next_keys), library, memo)?;
    in_time(library)?;
    Ok((next, next_keys))
}

/// A document with what its pieces depend on.
pub type Keyed<'a> = (&'a Sheet, &'a Arc<Keys>);

/// What `mine` changed of `base`, made on the newer sheet `theirs`, so that it can be drawn.
///
/// # Errors
/// Something that both changed; a sheet that would break a rule, or take too much to be drawn and did not before.
pub fn put_together(
    base: &Sheet,
    mine: &Sheet,
    (theirs, keys): Keyed<'_>,
    library: &dyn Library,
    memo: &SceneMemo,
) -> Result<(Sheet, Arc<Keys>), ChangeError> {
    let merged = merge(base, mine, theirs).map_err(|error| match error {
        MergeError::Conflict(conflict) => ChangeError::Met(conflict.place(&[theirs, mine, base]), conflict),
        MergeError::Refused(refusal) => refusal.into(),
        MergeError::Unreadable(why) => ChangeError::Unreadable(why),
    })?;
    let merged_keys = Arc::new(keys.after(theirs, &merged));
    check_cost((theirs, keys), (&merged, &merged_keys), library, memo)?;
    in_time(library)?;
    Ok((merged, merged_keys))
}

/// Pieces whose scenes were not finished in time have no cost: nobody knows whether they can be drawn.
fn in_time(library: &dyn Library) -> Result<(), ChangeError> {
    library.watch().go_on().map_err(|_| Refusal::from(OutlineError::Ended).into())
}

fn check_cost(
    (before, keys_before): Keyed<'_>,
    (after, keys): Keyed<'_>,
    library: &dyn Library,
    memo: &SceneMemo,
) -> Result<(), ChangeError> {
    let too_much = costly(after, keys, library, memo);
    if too_much.is_empty() {
        return Ok(());
    }
    let were = costly(before, keys_before, library, memo);
    match too_much.into_iter().find(|(unit, _)| !were.iter().any(|(u, _)| u == unit)) {
        Some((unit, problem)) => {
            let label = match unit {
                Unit::Piece(piece) => after.piece(piece).map(|p| p.label(after)),
                Unit::Bundle(bundle) => after.bundle(bundle).and_then(|b| b.name.clone()),
            };
            Err(ChangeError::NotDrawable(label.unwrap_or_else(|| "Bundle".into()), problem))
        }
        None => Ok(()),
    }
}

/// The pieces and bundles that take too much to be drawn.
fn costly(sheet: &Sheet, keys: &Arc<Keys>, library: &dyn Library, memo: &SceneMemo) -> Vec<(Unit, PieceProblem)> {
    let scene = SceneBuilder::with_keys(sheet, Arc::clone(keys), library, memo).scene();
    let costly = |problem: &PieceProblem| matches!(problem, PieceProblem::TooCostly(_) | PieceProblem::TooDeep);
    scene.problems().filter(|(_, p)| costly(p)).map(|(unit, p)| (unit, p.clone())).collect()
}
