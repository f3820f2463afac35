//! What an edit is aimed at: a piece that may be changed, its window, and what it refers to.

use crate::breakout::SubjectOf;
use crate::check::Refusal;
use crate::library::Library;
use crate::outline::shown_outline;
use crate::sheet::limits::FILLS;
use crate::sheet::{Anchor, DrawingId, Fill, FillPaint, PhotoId, Piece, PieceId, Sheet, Window};
use kurbo::{Rect, Shape};

/// A piece that may be changed.
pub(super) fn free(sheet: &mut Sheet, id: PieceId) -> Result<&mut Piece, Refusal> {
    let piece = sheet.piece(id).ok_or(Refusal::NoPiece)?;
    if piece.locked {
        return Err(Refusal::Locked(piece.label(sheet)));
    }
    sheet.piece_mut(id).ok_or(Refusal::NoPiece)
}

/// A window that may be changed.
pub(super) fn window(sheet: &mut Sheet, id: PieceId) -> Result<&mut Window, Refusal> {
    free(sheet, id)?.window_mut().ok_or(Refusal::NoPart)
}

/// The subject of a photo that an anchor lies in, as it fills a window.
pub(super) fn subject_at<'s>(sheet: &'s Sheet, piece: PieceId, anchor: &Anchor) -> Result<SubjectOf<'s>, Refusal> {
    let window = sheet.piece(piece).and_then(|p| p.window()).ok_or(Refusal::NoPiece)?;
    let fill = window.fill(anchor.fill).ok_or(Refusal::NoPart)?;
    let FillPaint::Photo(photo_fill) = &fill.paint else {
        return Err(Refusal::NoPart);
    };
    let photo = sheet.photos.get(&photo_fill.photo).ok_or(Refusal::NoPhoto)?;
    let subject = photo.subject(anchor.subject).ok_or(Refusal::NoSubject)?;
    Ok(SubjectOf { window, fill, photo_fill, photo, subject })
}

/// The bounds of what a window shows that may be changed; sheet space.
pub(super) fn opening_bounds(sheet: &mut Sheet, piece: PieceId, library: &dyn Library) -> Result<Rect, Refusal> {
    window(sheet, piece)?;
    let own = sheet.piece(piece).and_then(|p| p.window()).ok_or(Refusal::NoPart)?;
    let path = &shown_outline(sheet, own, library)?.path;
    if path.is_empty() { Err(Refusal::EmptyWord) } else { Ok(path.bounding_box()) }
}

/// A fill in front of the others.
pub(super) fn in_front(window: &mut Window, fill: Fill) -> Result<(), Refusal> {
    if window.fill(fill.id).is_some() {
        return Err(Refusal::Inconsistent("two fills share an identifier"));
    }
    if window.fills.len() >= FILLS {
        return Err(Refusal::TooManyFills);
    }
    window.fills.push(fill);
    Ok(())
}

/// Enters a photo into the sheet's list; its width and height.
pub(super) fn bring_in(sheet: &mut Sheet, id: &PhotoId, library: &dyn Library) -> Result<(u32, u32), Refusal> {
    if let Some(photo) = sheet.photos.get(id) {
        return Ok((photo.width, photo.height));
    }
    let photo = library.photo(id).ok_or(Refusal::NoPhoto)?;
    let size = (photo.width, photo.height);
    sheet.photos.insert(id.clone(), photo);
    Ok(size)
}

/// Enters the drawings of a form or a fill into the sheet's list.
pub(super) fn name_drawings(sheet: &mut Sheet, drawings: Vec<&DrawingId>, library: &dyn Library) {
    for id in drawings {
        if let Some(drawn) = library.drawing(id) {
            sheet.drawings.entry(id.clone()).or_insert_with(|| drawn.name.clone());
        }
    }
}
