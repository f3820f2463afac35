//! What edits are called.

use super::edits::{Edit, Grip};
use super::opening_change::OpeningChange;
use crate::sheet::{
    BundleFinish, Fill, FillPaint, Finish, Form, FormId, FormShape, Join, Layout, Paint, PieceId, Repeat, Sheet,
    Similarity, Split, Window,
};
use kurbo::Affine;

impl Edit {
    /// What undo and redo call several edits that are one step, and whether the step adds something: it is called after what it adds, else after
    /// its last edit.
    pub fn name_of_all(edits: &[Edit], sheet: &Sheet) -> (String, bool) {
        if let Some(name) = several(edits) {
            return (name, false);
        }
        let adding = edits.iter().find(|e| e.adds(sheet));
        let named = adding.or(edits.last());
        (named.map(|e| e.name(sheet)).unwrap_or_default(), adding.is_some())
    }

    /// What undo and redo call it.
    pub fn name(&self, sheet: &Sheet) -> String {
        let label = |id: &PieceId| sheet.piece(*id).map_or("piece".into(), |p| short(&p.label(sheet)));
        match self {
            Edit::Amend { .. } => match self.whole(sheet) {
                Ok(Some(whole)) => whole.name(sheet),
                _ => "change".into(),
            },
            Edit::RenameSheet { .. } => "rename the sheet".into(),
            Edit::ResizeSheet { .. } => "size of the sheet".into(),
            Edit::SetBackground { .. } | Edit::SetBackdrop { .. } => "background".into(),
            Edit::SetPaper { .. } => "paper".into(),
            Edit::SetGuides { .. } => "guides".into(),
            Edit::SetBleed { .. } => "bleed".into(),
            Edit::SetBorder { .. } => "border".into(),
            Edit::SetCredit { .. } => "credit".into(),
            Edit::WaveFinding { why: Some(_), .. } => "wave a finding through".into(),
            Edit::WaveFinding { why: None, .. } => "look at a finding again".into(),
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
            Edit::TakeFills { piece, .. } => format!("picture into “{}”", label(piece)),
            Edit::AddFill { .. } | Edit::ShareFill { .. } => "add a fill".into(),
            Edit::SetFill { piece, fill } => {
                let old = sheet.piece(*piece).and_then(|p| p.window()).and_then(|w| w.fill(fill.id));
                fill_name(old, fill).into()
            }
            Edit::OrderFill { .. } => "order of fills".into(),
            Edit::SetFinish { piece, finish } => {
                let old = sheet.piece(*piece).and_then(|p| p.window()).map(|w| &w.finish);
                finish_name(old, finish).into()
            }
            Edit::SetRepeat { piece, repeat } => {
                let old = sheet.piece(*piece).and_then(|p| p.window()).is_some_and(|w| w.repeat.is_some());
                repeat_name(old, repeat.as_ref()).into()
            }
            Edit::SetBundleRepeat { bundle, repeat } => {
                let old = sheet.bundle(*bundle).is_some_and(|b| b.repeat.is_some());
                repeat_name(old, repeat.as_ref()).into()
            }
            Edit::Deal { photos, .. } => match photos.len() {
                1 => "photo for a member".into(),
                many => format!("deal {many} photos"),
            },
            Edit::SetBundleWord { .. } => "word of a member".into(),
            Edit::SetFree { .. } | Edit::LookAsMember { .. } => "set a member free".into(),
            Edit::SetSplit { piece, split } => {
                split_name(sheet.piece(*piece).and_then(|p| p.window()).map(|w| &w.split), split).into()
            }
            Edit::SetBundleSplit { bundle, split } => split_name(sheet.bundle(*bundle).map(|b| &b.split), split).into(),
            Edit::FillWithPhoto { piece, .. } | Edit::AddPhoto { piece, .. } => {
                format!("photo into “{}”", label(piece))
            }
            Edit::FillPane { .. } => "photo into a pane".into(),
            Edit::SetFillColour { .. } => "fill colour".into(),
            Edit::RemoveFill { .. } => "remove fill".into(),
            Edit::MoveFill { .. } => "move a fill".into(),
            Edit::Move { piece, what, by } => {
                let half = match what {
                    Grip::Opening => "the opening of ",
                    Grip::Fill => "the fill of ",
                    Grip::Both => "",
                };
                format!("{} {half}“{}”", move_name(by), label(piece))
            }
            Edit::Transform { pieces, by, .. } => {
                let by = Affine::new(*by);
                let verb = match Similarity::of(by) {
                    Some(by) => move_name(&by),
                    None if by.determinant() < 0.0 => "mirror",
                    None => "reshape",
                };
                match pieces[..] {
                    [one] => format!("{verb} “{}”", label(&one)),
                    _ => format!("{verb} {} pieces", pieces.len()),
                }
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
            Edit::ChangePart { change, .. } => change.step().into(),
            Edit::SetReach { .. } => "reach of the breakout".into(),
            Edit::LetOut { .. } | Edit::LetPiecesOut { out: true, .. } => "let out".into(),
            Edit::KeepIn { .. } | Edit::LetPiecesOut { out: false, .. } => "keep in".into(),
            Edit::RemovePiece { piece } => format!("remove “{}”", label(piece)),
            Edit::CopyPiece { piece, .. } => format!("copy “{}”", label(piece)),
            Edit::Bundle { .. } => "bundle".into(),
            Edit::Dissolve { .. } => "dissolve".into(),
            Edit::NameBundle { .. } => "name the bundle".into(),
            Edit::SetBundleFinish { bundle, finish } => {
                bundle_finish_name(sheet.bundle(*bundle).map(|b| &b.finish), finish).into()
            }
            Edit::Paste { from, copies, .. } => match (&copies[..], &from.pieces[..]) {
                ([_], [only]) => format!("paste “{}”", short(&only.label(from))),
                _ => format!("paste {} pieces", copies.len()),
            },
            Edit::TakeIn { other, .. } => format!("take in “{}”", label(other)),
            Edit::OrderPiece { .. } | Edit::Place { .. } => "order".into(),
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
            Edit::Amend { .. } => matches!(self.whole(sheet), Ok(Some(whole)) if whole.adds(sheet)),
            Edit::AddLettering { .. }
            | Edit::AddWindow { .. }
            | Edit::AddPicture { .. }
            | Edit::CopyPiece { .. }
            | Edit::AddFill { .. }
            | Edit::ShareFill { .. }
            | Edit::Opening { change: OpeningChange::AddForm { .. } | OpeningChange::AddWord { .. }, .. } => true,
            Edit::SetFinish { piece, finish } => sheet.piece(*piece).and_then(|p| p.window()).is_some_and(|w| {
                w.finish.rims.len() < finish.rims.len() || w.finish.shadows.len() < finish.shadows.len()
            }),
            Edit::SetBundleFinish { bundle, finish } => {
                sheet.bundle(*bundle).is_some_and(|b| b.finish.shadows.len() < finish.shadows.len())
            }
            _ => false,
        }
    }
}

/// What edits are called that do the same to several pieces.
fn several(edits: &[Edit]) -> Option<String> {
    let all = |is: fn(&Edit) -> bool| edits.iter().all(is);
    let copies = edits.iter().filter(|e| matches!(e, Edit::CopyPiece { .. })).count();
    let verb = match edits {
        [_, _, ..] if all(|e| matches!(e, Edit::RemovePiece { .. })) => "remove",
        [_, _, ..] if all(|e| matches!(e, Edit::HidePiece { hidden: true, .. })) => "hide",
        [_, _, ..] if all(|e| matches!(e, Edit::HidePiece { hidden: false, .. })) => "show",
        [_, _, ..] if all(|e| matches!(e, Edit::LockPiece { locked: true, .. })) => "lock",
        [_, _, ..] if all(|e| matches!(e, Edit::LockPiece { locked: false, .. })) => "unlock",
        [_, _, ..] if all(|e| matches!(e, Edit::OrderPiece { .. })) => "order",
        [_, _, ..] if all(|e| matches!(e, Edit::Move { .. })) => "move",
        _ if copies > 1 => return Some(format!("copy {copies} pieces")),
        _ => return None,
    };
    Some(format!("{verb} {} pieces", edits.len()))
}

fn move_name(by: &Similarity) -> &'static str {
    if (by.scale() - 1.0).abs() > 1e-6 {
        "scale"
    } else if by.turn().abs() > 1e-6 {
        "turn"
    } else {
        "move"
    }
}

/// At most 24 characters of a text, as one line.
fn short(text: &str) -> String {
    let line: Vec<&str> = text.split_whitespace().collect();
    let line = line.join(" ");
    if line.chars().count() <= 24 { line } else { line.chars().take(23).chain(['…']).collect() }
}

impl OpeningChange {
    /// What undo and redo call it.
    pub fn name(&self, window: Option<&Window>) -> String {
        let find = |id: FormId| window.and_then(|w| w.opening.form(id));
        let label = |id: FormId| find(id).map_or("form".into(), |f| short(&f.label().to_lowercase()));
        match self {
            Self::AddForm { form } => format!("add {}", form.label().to_lowercase()),
            Self::AddWord { .. } => "add lettering".into(),
            Self::SetForm { form } => set_name(find(form.id), form),
            Self::SetJoin { join, .. } => match join {
                Join::Add => "join: add".into(),
                Join::CutAway => "join: cut away".into(),
                Join::KeepShared => "join: keep shared".into(),
                Join::DropShared => "join: drop shared".into(),
            },
            Self::SwitchForm { form, off: true } => format!("switch off {}", label(*form)),
            Self::SwitchForm { form, off: false } => format!("switch on {}", label(*form)),
            Self::RemoveForms { forms } => match forms.as_slice() {
                [one] => format!("remove {}", label(*one)),
                _ => "remove forms".into(),
            },
            Self::CopyForm { form, .. } => format!("copy {}", label(*form)),
            Self::OrderForm { .. } => "order forms".into(),
            Self::Gather { .. } => "gather into a list".into(),
            Self::Spread { .. } => "spread the list".into(),
            Self::Transform { by, .. } => transform_name(*by).into(),
            Self::SetCells { .. } => "cells".into(),
            Self::OpenSides { .. } => "open sides".into(),
            Self::Reshape { .. } => "reshape the opening".into(),
            Self::StepInside { form, .. } => format!("step inside {}", label(*form)),
            Self::Bake { form } => format!("bake {}", label(*form)),
            Self::BakeAll { .. } => "bake the opening".into(),
        }
    }
}

fn set_name(old: Option<&Form>, new: &Form) -> String {
    let what = new.label().to_lowercase();
    let Some(old) = old else {
        return format!("change {what}");
    };
    let differs = match (&old.shape, &new.shape) {
        _ if old.bend != new.bend => "bend",
        _ if old.line != new.line => "own line of",
        _ if old.pose.pull != new.pose.pull => "pull corners of",
        _ if old.pose != new.pose => "place",
        (FormShape::Drawing(a), FormShape::Drawing(b)) if a.specks != b.specks => "specks of",
        (FormShape::Drawing(_), FormShape::Drawing(_)) => "pick pieces of",
        (FormShape::Contour(_), FormShape::Contour(_)) => "nodes of",
        (FormShape::Brush(_), FormShape::Brush(_)) => "paint",
        _ => "change",
    };
    format!("{differs} {}", short(&what))
}

fn transform_name([a, b, c, d, ..]: [f64; 6]) -> &'static str {
    let near = |x: f64, y: f64| (x - y).abs() < 1e-9;
    match a * d - b * c {
        _ if near(a, 1.0) && near(d, 1.0) && near(b, 0.0) && near(c, 0.0) => "move the form",
        det if det < 0.0 => "mirror the form",
        det if near(det, 1.0) && near(a, d) && near(b, -c) => "turn the form",
        _ if near(b, 0.0) && near(c, 0.0) => "scale the form",
        _ if near(a, 1.0) && near(d, 1.0) => "slant the form",
        _ => "transform the form",
    }
}

/// What undo calls a change of a fill.
fn fill_name(old: Option<&Fill>, new: &Fill) -> &'static str {
    let Some(old) = old else {
        return "fill";
    };
    match (&old.paint, &new.paint) {
        _ if old.strength != new.strength => "strength of a fill",
        _ if old.blend != new.blend => "blend mode",
        _ if old.off != new.off && new.off => "switch a fill off",
        _ if old.off != new.off => "switch a fill on",
        _ if old.follows_opening != new.follows_opening && new.follows_opening => "fill rides with the opening",
        _ if old.follows_opening != new.follows_opening => "fill stays on the sheet",
        (FillPaint::Photo(a), FillPaint::Photo(b)) if a.tone != b.tone => "tone of the photo",
        (FillPaint::Tile(a), FillPaint::Tile(b)) if a.tone != b.tone => "tone of the photo",
        (FillPaint::Photo(_), FillPaint::Tile(_)) => "repeat the photo",
        (FillPaint::Tile(_), FillPaint::Photo(_)) => "photo once",
        (FillPaint::Drawing(_), FillPaint::Tile(_)) => "repeat the drawing",
        (FillPaint::Tile(_), FillPaint::Drawing(_)) => "drawing once",
        (FillPaint::Drawing(a), FillPaint::Drawing(b)) if a.looks != b.looks => "parts of the drawing",
        (FillPaint::Drawing(_), FillPaint::Form(_)) => "drawing in one paint",
        (FillPaint::Form(_), FillPaint::Drawing(_)) => "drawing in its own colours",
        (_, FillPaint::Tile(_)) => "tile",
        (_, FillPaint::Plain(Paint::Gradient { .. })) => "gradient",
        _ => "fill",
    }
}

/// What undo calls how something is repeated that was repeated before, or was not.
fn repeat_name(was: bool, new: Option<&Repeat>) -> &'static str {
    match new.map(|repeat| &repeat.layout) {
        Some(Layout::Row { .. }) => "row",
        Some(Layout::Grid { .. }) => "grid",
        Some(Layout::Ring { .. }) => "ring",
        Some(Layout::Line(_)) => "along a line",
        None if was => "show once",
        None => "repeat",
    }
}

/// What undo calls a change of the lines that split something.
fn split_name(old: Option<&Split>, new: &Split) -> &'static str {
    let was = old.map_or(0, |split| split.lines.len());
    match new.lines.len() {
        now if now > was => "split",
        now if now < was => "join panes",
        _ => "panes",
    }
}

/// What undo calls a change of how a whole bundle looks.
fn bundle_finish_name(old: Option<&BundleFinish>, new: &BundleFinish) -> &'static str {
    match old {
        Some(old) if old.strength != new.strength => "strength of the bundle",
        Some(old) if old.blend != new.blend => "blend of the bundle",
        Some(old) if old.shadows.len() < new.shadows.len() => "add a shadow",
        Some(old) if old.shadows.len() > new.shadows.len() => "remove a shadow",
        _ => "shadow of the bundle",
    }
}

/// What undo calls a change of a finish.
fn finish_name(old: Option<&Finish>, new: &Finish) -> &'static str {
    let Some(old) = old else {
        return "finish";
    };
    match () {
        () if old.softness != new.softness => "softness of the edge",
        () if old.strength != new.strength => "strength of the window",
        () if old.negative != new.negative => "negative",
        () if old.rims.len() < new.rims.len() => "add a rim",
        () if old.rims.len() > new.rims.len() => "remove a rim",
        () if old.rims != new.rims => "rim",
        () if old.shadows.len() < new.shadows.len() => "add a shadow",
        () if old.shadows.len() > new.shadows.len() => "remove a shadow",
        () if old.shadows != new.shadows => "shadow",
        () if old.gloss != new.gloss => "gloss",
        () => "finish",
    }
}
