//! Edits that say which members of a value change, and leave the others as they are.

use super::edits::Edit;
use super::member_change::{Amended, MemberChange};
use super::opening_change::OpeningChange;
use crate::check::Refusal;
use crate::sheet::{BundleId, Form, FormId, FormShape, PieceId, Sheet, Window, limits::CHANGES};
use json_patch::{Patch, patch};
use serde::Serialize;
use serde::de::DeserializeOwned;

impl Edit {
    /// An edit that names members, as one that gives the value as a whole. Others as they are.
    ///
    /// # Errors
    /// A value that is not there, or changes that do not fit it.
    pub(super) fn whole(&self, sheet: &Sheet) -> Result<Option<Edit>, Refusal> {
        let Edit::Amend { of, changes } = self else {
            return Ok(None);
        };
        if changes.len() > CHANGES {
            return Err(Refusal::TooManyChanges);
        }
        let there = |piece: &PieceId| window(sheet, *piece);
        let bundled = |bundle: &BundleId| sheet.bundle(*bundle).ok_or(Refusal::NoBundle);
        let edit = match of {
            Amended::Fill { piece, fill } => {
                let old = there(piece)?.fill(*fill).ok_or(Refusal::NoPart)?;
                Edit::SetFill { piece: *piece, fill: amended(old, changes, |new| new.id == *fill)? }
            }
            Amended::Finish { piece } => {
                Edit::SetFinish { piece: *piece, finish: amended(&there(piece)?.finish, changes, |_| true)? }
            }
            Amended::BundleFinish { bundle } => {
                Edit::SetBundleFinish { bundle: *bundle, finish: amended(&bundled(bundle)?.finish, changes, |_| true)? }
            }
            Amended::BundleRepeat { bundle } => Edit::SetBundleRepeat {
                bundle: *bundle,
                repeat: amended(&bundled(bundle)?.repeat.as_deref().cloned(), changes, |_| true)?,
            },
            Amended::BundleSplit { bundle } => {
                Edit::SetBundleSplit { bundle: *bundle, split: amended(&bundled(bundle)?.split, changes, |_| true)? }
            }
            Amended::Repeat { piece } => Edit::SetRepeat {
                piece: *piece,
                repeat: amended(&there(piece)?.repeat.as_deref().cloned(), changes, |_| true)?,
            },
            Amended::Split { piece } => {
                Edit::SetSplit { piece: *piece, split: amended(&there(piece)?.split, changes, |_| true)? }
            }
            Amended::Placement { piece, fill } => {
                let mut old = there(piece)?.fill(*fill).ok_or(Refusal::NoPart)?.clone();
                let placement = amended(old.placement_mut().ok_or(Refusal::NoPart)?, changes, |_| true)?;
                Edit::SetPlacement { piece: *piece, fill: *fill, placement }
            }
            Amended::Form { piece, form } => {
                let new = amended(form_of(there(piece)?, *form)?, changes, |new| new.id == *form)?;
                Edit::Opening { piece: *piece, change: OpeningChange::SetForm { form: new } }
            }
            Amended::Lettering { piece, form, fit } => {
                let FormShape::Lettering(old) = &form_of(there(piece)?, *form)?.shape else {
                    return Err(Refusal::NoPart);
                };
                let lettering = amended(old, changes, |_| true)?;
                Edit::SetLettering { piece: *piece, form: *form, lettering, fit: *fit }
            }
            Amended::Cells { piece } => {
                let cells = amended(&there(piece)?.opening.cells, changes, |_| true)?;
                Edit::Opening { piece: *piece, change: OpeningChange::SetCells { cells } }
            }
            Amended::Strokes { piece } => {
                let strokes = amended(&there(piece)?.breakout.painted, changes, |_| true)?;
                Edit::PaintBreakout { piece: *piece, strokes }
            }
            Amended::Ink { ink } => {
                let old = sheet.ink(*ink).ok_or(Refusal::NoInk)?;
                Edit::SetInk { ink: amended(old, changes, |new| new.id == *ink)? }
            }
            Amended::Guides => Edit::SetGuides { guides: amended(&sheet.guides, changes, |_| true)? },
            Amended::Backdrop => Edit::SetBackdrop { paint: amended(&sheet.backdrop, changes, |_| true)? },
            Amended::Border => Edit::SetBorder { border: amended(&sheet.border, changes, |_| true)? },
            Amended::Subject { photo, key } => {
                let own = sheet.photos.get(photo).ok_or(Refusal::NoPhoto)?;
                let old = own.subject(*key).ok_or(Refusal::NoSubject)?;
                let subject = amended(old, changes, |new| new.key == *key)?;
                Edit::SetSubject { photo: photo.clone(), subject }
            }
        };
        Ok(Some(edit))
    }
}

fn window(sheet: &Sheet, piece: PieceId) -> Result<&Window, Refusal> {
    sheet.piece(piece).ok_or(Refusal::NoPiece)?.window().ok_or(Refusal::NoPart)
}

fn form_of(window: &Window, id: FormId) -> Result<&Form, Refusal> {
    window.opening.form(id).or_else(|| window.filling_forms().find(|f| f.id == id)).ok_or(Refusal::NoPart)
}

/// The value with its changes, if it is still the same one.
fn amended<T: Serialize + DeserializeOwned>(
    old: &T,
    changes: &[MemberChange],
    same: impl Fn(&T) -> bool,
) -> Result<T, Refusal> {
    let made = || -> Option<T> {
        let operations: Patch = serde_json::from_value(serde_json::to_value(changes).ok()?).ok()?;
        let mut value = serde_json::to_value(old).ok()?;
        patch(&mut value, &operations).ok()?;
        serde_json::from_value(value).ok()
    };
    made().filter(same).ok_or(Refusal::Misfit)
}
