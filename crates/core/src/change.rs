//! Edits, made so that the sheet can be drawn afterwards.

use crate::edit::{Edit, Refusal, apply};
use crate::library::Library;
use crate::merge::{Conflict, MergeError, merge};
use crate::outline::OutlineError;
use crate::scene::{Keys, PieceProblem, PieceScene, SceneBuilder, SceneMemo};
use crate::sheet::{PieceId, Sheet};
use std::sync::Arc;

/// Why edits are not made.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum ChangeError {
    #[error(transparent)]
    Refused(#[from] Refusal),
    /// The name of a piece, and why it could not be drawn.
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
    match too_much.into_iter().find(|(piece, _)| !were.iter().any(|(p, _)| p == piece)) {
        Some((piece, problem)) => {
            let label = after.piece(piece).map(|p| p.label(after)).unwrap_or_default();
            Err(ChangeError::NotDrawable(label, problem))
        }
        None => Ok(()),
    }
}

/// The pieces that take too much to be drawn.
fn costly(sheet: &Sheet, keys: &Arc<Keys>, library: &dyn Library, memo: &SceneMemo) -> Vec<(PieceId, PieceProblem)> {
    let scene = SceneBuilder::with_keys(sheet, Arc::clone(keys), library, memo).scene();
    let problem = |p: &PieceScene| match &p.problem {
        Some(problem @ (PieceProblem::TooCostly(_) | PieceProblem::TooDeep)) => Some((p.piece, problem.clone())),
        Some(PieceProblem::Outline(_)) | None => None,
    };
    scene.pieces.iter().filter_map(|p| problem(p)).collect()
}
