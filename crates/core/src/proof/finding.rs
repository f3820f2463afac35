//! What the proof finds.

use crate::edit::Edit;
use crate::sheet::{Piece, PieceId, Sheet};
use kurbo::Rect;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Something that would go wrong, or that is worth a look before a sheet is delivered.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct Finding {
    /// What it is called by: it is the same as long as the same thing is wrong with the same piece.
    pub key: String,
    pub kind: FindingKind,
    pub severity: Severity,
    /// The piece that it is about; none for one about the whole sheet.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub piece: Option<PieceId>,
    /// Where it is: left, top, right and bottom in sheet space.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub at: Option<[f64; 4]>,
    /// What it means, for a person.
    pub sentence: String,
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub mend: Option<Mend>,
    /// It was waved through; why, if anybody wrote it.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub waved: Option<String>,
}

/// How bad a finding is, the worst first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Severity {
    /// It would come out wrong.
    Wrong,
    /// It may come out wrong.
    Doubtful,
    /// It comes out as it is, and is worth knowing.
    Note,
}

/// What kinds of findings there are.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum FindingKind {
    /// A piece cannot be drawn.
    Undrawable,
    /// Something of an opening shows no fill.
    Uncovered,
    /// A photo has too few pixels for its size and the distance it is looked at from.
    Coarse,
    /// Parts of an opening that are smaller than what the press can hold.
    Speck,
    /// Parts of an opening that are narrower than what the press can hold.
    Sliver,
    /// A rim that is thinner than the least line of the press.
    Hairline,
    /// Something reaches the cut, and not beyond it.
    NoBleed,
    /// Something stands so near the cut that it may be cut off.
    NearTheCut,
    /// Nothing of a piece lies on the sheet.
    BesideTheSheet,
    /// What breaks out ends with a straight cut, as its photo ends there.
    BreakoutCutOff,
    /// Type too small to be read.
    SmallType,
    /// A spot ink that is printed in process colours.
    MixedInk,
    /// A font that must not be embedded.
    FontNotEmbeddable,
    /// A photo or a drawing that must not be on anything that is sold.
    NotForResale,
    /// A piece shows nothing.
    Empty,
    /// A piece is hidden.
    Hidden,
    /// Two pieces that look the same lie on one another.
    IdenticalCopy,
}

/// A press that mends a finding.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct Mend {
    /// What it does, for a person.
    pub label: String,
    /// Made as one step.
    pub edits: Vec<Edit>,
}

impl Finding {
    /// One about a piece. `part` tells it from others of its kind about the same piece.
    pub(super) fn of_piece(kind: FindingKind, severity: Severity, piece: &Piece, part: &str, sentence: String) -> Self {
        let of = if part.is_empty() { piece.id.to_string() } else { format!("{}:{part}", piece.id) };
        Self::new(kind, severity, &of, Some(piece.id), sentence)
    }

    /// One about the sheet, or about what `of` calls.
    pub(super) fn of_sheet(kind: FindingKind, severity: Severity, of: &str, sentence: String) -> Self {
        Self::new(kind, severity, of, None, sentence)
    }

    fn new(kind: FindingKind, severity: Severity, of: &str, piece: Option<PieceId>, sentence: String) -> Self {
        // as it is called in JSON
        let called = serde_json::to_value(kind).unwrap_or_default();
        let key = format!("{}:{of}", called.as_str().unwrap_or_default());
        Self { key, kind, severity, piece, at: None, sentence, mend: None, waved: None }
    }

    pub(super) fn at(self, place: Rect) -> Self {
        Self { at: Some([place.x0, place.y0, place.x1, place.y1]), ..self }
    }

    pub(super) fn mended_by(self, label: &str, edits: Vec<Edit>) -> Self {
        Self { mend: Some(Mend { label: label.into(), edits }), ..self }
    }
}

/// What a piece is called in sentences.
pub(super) fn called(sheet: &Sheet, piece: &Piece) -> String {
    format!("“{}”", piece.label(sheet).replace('\n', " "))
}
