//! Which members of which value of a sheet change.

use crate::sheet::{BundleId, FillId, FormId, InkId, PhotoId, PieceId};
use json_patch::PatchOperation;
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
    BundleFinish {
        bundle: BundleId,
    },
    /// How a bundle is repeated.
    BundleRepeat {
        bundle: BundleId,
    },
    /// The lines that split a bundle, and its panes.
    BundleSplit {
        bundle: BundleId,
    },
    /// How a window is repeated.
    Repeat {
        piece: PieceId,
    },
    /// The lines that split a window, and its panes.
    Split {
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
    Guides,
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
