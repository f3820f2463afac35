//! Edits as the interface sends them.

use inky_core::edit::{Amended, Edit, MemberChange, OpeningChange};
use inky_core::sheet::{FormShape, Sheet};
use serde::Serialize;

/// An edit that gives a value as a whole, as one that names those of its members that change. None where nothing is there to be changed.
pub fn amending(edit: &Edit, sheet: &Sheet) -> Option<Edit> {
    let window = |piece| sheet.piece(piece).and_then(|p| p.window());
    let form = |piece, id| {
        let own = window(piece)?;
        own.opening.form(id).or_else(|| own.filling_forms().find(|f| f.id == id))
    };
    let (of, changes) = match edit {
        Edit::SetFill { piece, fill } => {
            let before = window(*piece)?.fill(fill.id)?;
            (Amended::Fill { piece: *piece, fill: fill.id }, between(before, fill)?)
        }
        Edit::SetFinish { piece, finish } => {
            (Amended::Finish { piece: *piece }, between(&window(*piece)?.finish, finish)?)
        }
        Edit::SetSplit { piece, split } => (Amended::Split { piece: *piece }, between(&window(*piece)?.split, split)?),
        Edit::SetRepeat { piece, repeat } => {
            (Amended::Repeat { piece: *piece }, between(&window(*piece)?.repeat.as_deref(), &repeat.as_ref())?)
        }
        Edit::SetBundleSplit { bundle, split } => {
            (Amended::BundleSplit { bundle: *bundle }, between(&sheet.bundle(*bundle)?.split, split)?)
        }
        Edit::SetBundleRepeat { bundle, repeat } => {
            let before = sheet.bundle(*bundle)?.repeat.as_deref();
            (Amended::BundleRepeat { bundle: *bundle }, between(&before, &repeat.as_ref())?)
        }
        Edit::SetPlacement { piece, fill, placement } => {
            let mut before = window(*piece)?.fill(*fill)?.clone();
            (Amended::Placement { piece: *piece, fill: *fill }, between(before.placement_mut()?, placement)?)
        }
        Edit::SetLettering { piece, form: id, lettering, fit } => {
            let FormShape::Lettering(before) = &form(*piece, *id)?.shape else { return None };
            (Amended::Lettering { piece: *piece, form: *id, fit: *fit }, between(before, lettering)?)
        }
        Edit::PaintBreakout { piece, strokes } => {
            (Amended::Strokes { piece: *piece }, between(&window(*piece)?.breakout.painted, strokes)?)
        }
        Edit::SetInk { ink } => (Amended::Ink { ink: ink.id }, between(sheet.ink(ink.id)?, ink)?),
        Edit::SetBackdrop { paint } => (Amended::Backdrop, between(&sheet.backdrop, paint)?),
        Edit::SetBorder { border } => (Amended::Border, between(&sheet.border, border)?),
        Edit::SetSubject { photo, subject } => {
            let before = sheet.photos.get(photo)?.subject(subject.key)?;
            (Amended::Subject { photo: photo.clone(), key: subject.key }, between(before, subject)?)
        }
        Edit::Opening { piece, change: OpeningChange::SetForm { form: after } } => {
            (Amended::Form { piece: *piece, form: after.id }, between(form(*piece, after.id)?, after)?)
        }
        Edit::Opening { piece, change: OpeningChange::SetCells { cells } } => {
            (Amended::Cells { piece: *piece }, between(&window(*piece)?.opening.cells, cells)?)
        }
        _ => return None,
    };
    Some(Edit::Amend { of, changes })
}

fn between<T: Serialize>(before: &T, after: &T) -> Option<Vec<MemberChange>> {
    let json = |value: &T| serde_json::to_value(value).ok();
    Some(MemberChange::between(&json(before)?, &json(after)?))
}
