//! Pieces that were copied from a sheet, put on this or another one.

use super::edits::Grip;
use super::moves::{copied, transform};
use super::target::name_drawings;
use super::{inks, subjects};
use crate::check::{self, Refusal};
use crate::library::Library;
use crate::outline::OutlineError;
use crate::sheet::{Bundle, BundleId, Fill, PieceId, Sheet};
use kurbo::{Affine, Vec2};
use std::collections::BTreeSet;

/// Copies of pieces of the sheet `from`, in front of all others and moved by so many millimetres; each pair names a piece and its copy.
///
/// What they refer to comes with them: inks, photos with their subjects, drawings, credits. What is on the sheet already stays as it is there.
/// A window that a copy shows is the copy of that window, else the one of this sheet; a fill that shows one that is on neither is left out.
pub(super) fn paste(
    sheet: &mut Sheet,
    from: &Sheet,
    copies: &[(PieceId, PieceId)],
    by: Vec2,
    library: &dyn Library,
) -> Result<(), Refusal> {
    for ink in from.inks.iter().filter(|ink| sheet.ink(ink.id).is_none()).cloned().collect::<Vec<_>>() {
        inks::set(sheet, &ink)?;
    }
    photos(sheet, from, library)?;
    drawings(sheet, from, library)?;
    for (of, credit) in &from.credits {
        sheet.credits.entry(of.clone()).or_insert_with(|| credit.clone());
    }
    let known: BTreeSet<PieceId> = sheet.pieces.iter().map(|p| p.id).collect();
    let named = copies.first().map(|(_, copy)| copy.0).unwrap_or_default();
    let copy_of = |id: BundleId| id.copied_within(named);
    for bundle in &from.bundles {
        let within = bundle.within.filter(|id| from.bundle(*id).is_some()).map(copy_of);
        sheet.bundles.push(Bundle { id: copy_of(bundle.id), within, ..bundle.clone() });
    }
    for (id, copy) in copies {
        if known.contains(copy) {
            return Err(Refusal::Inconsistent("two pieces share an identifier"));
        }
        let mut piece = copied(from.piece(*id).ok_or(Refusal::NoPiece)?, *copy);
        piece.bundle = piece.bundle.filter(|id| from.bundle(*id).is_some()).map(copy_of);
        if let Some(window) = piece.window_mut() {
            window.fills.retain_mut(|fill| follow(fill, copies, &known));
        }
        sheet.pieces.push(piece);
    }
    let all: Vec<PieceId> = copies.iter().map(|(_, copy)| *copy).collect();
    transform(sheet, &all, Grip::Both, Affine::translate(by))?;
    check::check_sheet(sheet)
}

/// Lets a fill show the copy of the window that it shows, if there is one. False where that window is nowhere.
fn follow(fill: &mut Fill, copies: &[(PieceId, PieceId)], known: &BTreeSet<PieceId>) -> bool {
    let Some(shown) = fill.window() else { return true };
    match copies.iter().find(|(id, _)| *id == shown) {
        Some((_, copy)) => fill.show_window(*copy),
        None => return known.contains(&shown),
    }
    true
}

fn photos(sheet: &mut Sheet, from: &Sheet, library: &dyn Library) -> Result<(), Refusal> {
    for (id, photo) in &from.photos {
        if !sheet.photos.contains_key(id) {
            let mut known = library.photo(id).ok_or(Refusal::NoPhoto)?;
            if check::name(&photo.name).is_ok() {
                known.name.clone_from(&photo.name);
            }
            sheet.photos.insert(id.clone(), known);
        }
        let has = |sheet: &Sheet, key| sheet.photos.get(id).is_some_and(|p| p.subject(key).is_some());
        for subject in &photo.subjects {
            if !has(sheet, subject.key) {
                subjects::set(sheet, id, subject, library)?;
            }
        }
    }
    Ok(())
}

fn drawings(sheet: &mut Sheet, from: &Sheet, library: &dyn Library) -> Result<(), Refusal> {
    let used: Vec<_> = from.used_drawings().collect();
    match used.iter().find(|id| library.drawing(id).is_none()) {
        Some(missing) => Err(OutlineError::NoDrawing((*missing).clone()).into()),
        None => {
            name_drawings(sheet, used, library);
            Ok(())
        }
    }
}
