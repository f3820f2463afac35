//! Edits that say which members of a value change, and leave the others as they are.

use super::edits::Edit;
use super::opening_change::OpeningChange;
use crate::check::Refusal;
use crate::sheet::{FillId, Form, FormId, FormShape, InkId, PhotoId, PieceId, Sheet, Window, limits::CHANGES};
use json_patch::{Patch, PatchOperation, patch};
use serde::de::DeserializeOwned;
use serde::{Deserialize, Serialize};
use serde_json::Value;
use ts_rs::TS;

/// A value of a sheet that can be changed member by member.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "of", rename_all = "snake_case")]
pub enum Amended {
    Fill {
        piece: PieceId,
        fill: FillId,
    },
    Finish {
        piece: PieceId,
    },
    /// Where a fill lies.
    Placement {
        piece: PieceId,
        fill: FillId,
    },
    /// A form of the opening, or one that fills the window.
    Form {
        piece: PieceId,
        form: FormId,
    },
    /// A word; with `fit` it is set as large as the sheet allows.
    Lettering {
        piece: PieceId,
        form: FormId,
        #[serde(default)]
        fit: bool,
    },
    /// The list of an opening's chosen cells.
    Cells {
        piece: PieceId,
    },
    /// The list of a breakout's corrections by hand.
    Strokes {
        piece: PieceId,
    },
    Ink {
        ink: InkId,
    },
    Backdrop,
    Border,
    Subject {
        photo: PhotoId,
        key: u32,
    },
}

/// A member that comes, goes, or gets another value: an operation of JSON Patch (RFC 6902). `path` is a JSON Pointer (RFC 6901)
/// within the value; `-` is the end of a list.
///
/// The other operations of the standard are left out: `copy` can make much of little, and `move` and `test` are not needed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "op", rename_all = "snake_case")]
pub enum MemberChange {
    Add {
        path: String,
        #[ts(type = "unknown")]
        value: Value,
    },
    Remove {
        path: String,
    },
    Replace {
        path: String,
        #[ts(type = "unknown")]
        value: Value,
    },
}

impl MemberChange {
    /// The changes from one value to another.
    pub fn between(before: &Value, after: &Value) -> Vec<Self> {
        let all = json_patch::diff(before, after).0.into_iter();
        all.filter_map(|operation| match operation {
            PatchOperation::Add(o) => Some(Self::Add { path: o.path.to_string(), value: o.value }),
            PatchOperation::Remove(o) => Some(Self::Remove { path: o.path.to_string() }),
            PatchOperation::Replace(o) => Some(Self::Replace { path: o.path.to_string(), value: o.value }),
            _ => None,
        })
        .collect()
    }

    /// Texts that become the member of this name, here or further down.
    fn texts(&self, name: &str) -> Vec<String> {
        let (Self::Add { path, value } | Self::Replace { path, value }) = self else {
            return Vec::new();
        };
        let mut found = Vec::new();
        match value.as_str() {
            Some(text) if path.rsplit('/').next() == Some(name) => found.push(text.to_owned()),
            _ => texts_below(value, name, &mut found),
        }
        found
    }
}

fn texts_below(value: &Value, name: &str, found: &mut Vec<String>) {
    match value {
        Value::Object(members) => {
            found.extend(members.get(name).and_then(Value::as_str).map(str::to_owned));
            members.values().for_each(|v| texts_below(v, name, found));
        }
        Value::Array(all) => all.iter().for_each(|v| texts_below(v, name, found)),
        _ => {}
    }
}

/// What members of this name become: the fonts, drawings or mattes that changes bring in.
pub(super) fn named(changes: &[MemberChange], member: &str) -> Vec<String> {
    changes.iter().flat_map(|c| c.texts(member)).collect()
}

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
        let edit = match of {
            Amended::Fill { piece, fill } => {
                let old = there(piece)?.fill(*fill).ok_or(Refusal::NoPart)?;
                Edit::SetFill { piece: *piece, fill: amended(old, changes, |new| new.id == *fill)? }
            }
            Amended::Finish { piece } => {
                Edit::SetFinish { piece: *piece, finish: amended(&there(piece)?.finish, changes, |_| true)? }
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
