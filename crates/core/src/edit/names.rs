//! What edits are called.

use super::{Edit, Grip, OpeningChange, fills};
use crate::sheet::{PieceId, Sheet};

impl Edit {
    /// What undo and redo call it.
    pub fn name(&self, sheet: &Sheet) -> String {
        let label = |id: &PieceId| sheet.piece(*id).map_or("piece".into(), |p| short(&p.label(sheet)));
        match self {
            Edit::RenameSheet { .. } => "rename the sheet".into(),
            Edit::ResizeSheet { .. } => "size of the sheet".into(),
            Edit::SetBackground { .. } | Edit::SetBackdrop { .. } => "background".into(),
            Edit::SetPaper { .. } => "paper".into(),
            Edit::SetBleed { .. } => "bleed".into(),
            Edit::SetBorder { .. } => "border".into(),
            Edit::SetCredit { .. } => "credit".into(),
            Edit::SetInk { ink } => format!("ink “{}”", short(&ink.name)),
            Edit::RemoveInk { .. } => "remove an ink".into(),
            Edit::AddLettering { .. } => "add lettering".into(),
            Edit::AddWindow { form, .. } => format!("add {}", form.label().to_lowercase()),
            Edit::Opening { piece, change } => change.name(sheet.piece(*piece).and_then(|p| p.window())),
            Edit::SetLettering { piece, form, lettering, .. } => {
                let old = sheet.piece(*piece).and_then(|p| p.window()).and_then(|w| w.lettering(*form));
                match old {
                    Some(old) if old.text != lettering.text => {
                        format!("type “{}”", short(&lettering.text))
                    }
                    Some(old) if old.font != lettering.font => "font".into(),
                    Some(old) if old.tracking != lettering.tracking => "tracking".into(),
                    Some(old) if old.size != lettering.size => "size of type".into(),
                    _ => "lettering".into(),
                }
            }
            Edit::AddPicture { .. } => "add picture".into(),
            Edit::AddFill { .. } | Edit::ShareFill { .. } => "add a fill".into(),
            Edit::SetFill { piece, fill } => {
                let old = sheet.piece(*piece).and_then(|p| p.window()).and_then(|w| w.fill(fill.id));
                fills::name(old, fill).into()
            }
            Edit::OrderFill { .. } => "order of fills".into(),
            Edit::SetFinish { piece, finish } => {
                let old = sheet.piece(*piece).and_then(|p| p.window()).map(|w| &w.finish);
                fills::finish_name(old, finish).into()
            }
            Edit::FillWithPhoto { piece, .. } | Edit::AddPhoto { piece, .. } => {
                format!("photo into “{}”", label(piece))
            }
            Edit::SetFillColour { .. } => "fill colour".into(),
            Edit::RemoveFill { .. } => "remove fill".into(),
            Edit::MoveFill { .. } => "move a fill".into(),
            Edit::Move { what, by, .. } => {
                let verb = if (by.scale() - 1.0).abs() > 1e-6 {
                    "scale"
                } else if by.turn().abs() > 1e-6 {
                    "turn"
                } else {
                    "move"
                };
                let what = match what {
                    Grip::Opening => "the opening",
                    Grip::Fill => "the fill",
                    Grip::Both => "both",
                };
                format!("{verb} {what}")
            }
            Edit::SetPlacement { .. } => "place the photo".into(),
            Edit::FitPhoto { .. } => "fit to the opening".into(),
            Edit::SetSubject { .. } => "find the subject".into(),
            Edit::RemoveSubject { .. } => "remove a subject".into(),
            Edit::NameSubject { .. } => "name a subject".into(),
            Edit::Cross { under: true, .. } => "under the rim".into(),
            Edit::Cross { under: false, .. } => "over the rim".into(),
            Edit::MergePart { .. } => "part into the outline".into(),
            Edit::PaintBreakout { .. } => "correct the breakout".into(),
            Edit::SetReach { .. } => "reach of the breakout".into(),
            Edit::LetOut { .. } | Edit::LetPiecesOut { out: true, .. } => "let out".into(),
            Edit::KeepIn { .. } | Edit::LetPiecesOut { out: false, .. } => "keep in".into(),
            Edit::RemovePiece { piece } => format!("remove “{}”", label(piece)),
            Edit::CopyPiece { piece, .. } => format!("copy “{}”", label(piece)),
            Edit::TakeIn { other, .. } => format!("take in “{}”", label(other)),
            Edit::OrderPiece { .. } => "order".into(),
            Edit::NamePiece { .. } => "name the piece".into(),
            Edit::HidePiece { hidden: true, .. } => "hide".into(),
            Edit::HidePiece { hidden: false, .. } => "show".into(),
            Edit::LockPiece { locked: true, .. } => "lock".into(),
            Edit::LockPiece { locked: false, .. } => "unlock".into(),
        }
    }
}

impl Edit {
    /// Whether it adds something to a sheet: what people do to it in the same breath is still called that.
    pub fn adds(&self, sheet: &Sheet) -> bool {
        match self {
            Edit::AddLettering { .. }
            | Edit::AddWindow { .. }
            | Edit::AddPicture { .. }
            | Edit::AddFill { .. }
            | Edit::ShareFill { .. }
            | Edit::Opening { change: OpeningChange::AddForm { .. } | OpeningChange::AddWord { .. }, .. } => true,
            Edit::SetFinish { piece, finish } => sheet.piece(*piece).and_then(|p| p.window()).is_some_and(|w| {
                w.finish.rims.len() < finish.rims.len() || w.finish.shadows.len() < finish.shadows.len()
            }),
            _ => false,
        }
    }
}

/// At most 24 characters of a text, as one line.
pub(super) fn short(text: &str) -> String {
    let line: Vec<&str> = text.split_whitespace().collect();
    let line = line.join(" ");
    if line.chars().count() <= 24 { line } else { line.chars().take(23).chain(['…']).collect() }
}
