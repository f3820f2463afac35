//! Edits of windows that show one photo between them.

use super::target::{in_front, opening_bounds, window};
use crate::check::Refusal;
use crate::library::Library;
use crate::outline::shown_outline;
use crate::sheet::{Fill, FillId, FillPaint, PhotoFill, PieceId, Placement, Sheet, Window};
use kurbo::{Point, Rect, Shape};

/// The photo of another window behind this one too, in front of its fills. From now on the two are one: it stays on the sheet where either window
/// is moved. A window of which it breaks out already comes in front of the new one; if nothing breaks out yet, a photo that does not reach across the
/// new window grows until it covers them all.
pub(super) fn share(
    sheet: &mut Sheet,
    piece: PieceId,
    fill: FillId,
    of: FillId,
    library: &dyn Library,
) -> Result<(), Refusal> {
    let windows = sheet.pieces.iter_mut().filter(|p| p.id != piece);
    let mut fills = windows.filter_map(|p| p.window_mut()).flat_map(|w| &mut w.fills);
    let source = fills.find(|f| f.id == of).ok_or(Refusal::NoPart)?;
    let FillPaint::Photo(photo) = &mut source.paint else {
        return Err(Refusal::NoPhoto);
    };
    photo.shared.get_or_insert(of);
    source.follows_opening = false;
    let (photo, shared) = (photo.clone(), Fill { id: fill, off: false, ..source.clone() });
    in_front(window(sheet, piece)?, shared)?;
    let breaks_out = |w: &Window| w.photos().any(|(id, p)| p.is_one_with(&photo) && w.breakout.lets_out(id));
    let frontmost = sheet.pieces.iter().rfind(|p| p.window().is_some_and(breaks_out));
    if let Some(owner) = frontmost.map(|p| p.id) {
        before_its_row(sheet, owner, &photo);
        return Ok(());
    }
    let Some(size) = sheet.photos.get(&photo.photo).map(|p| (p.width, p.height)) else {
        return Ok(());
    };
    let old = photo.placement;
    if !covers(&old, size, opening_bounds(sheet, piece, library)?) {
        let cover = Placement::cover(size.0, size.1, open_before(sheet, piece, fill, library)?);
        place(sheet, &PhotoFill { placement: Placement { mirrored: old.mirrored, ..cover }, ..photo });
    }
    Ok(())
}

/// Whether a photo of a size in pixels covers a part of the sheet; one with pulled corners is left as it is.
fn covers(placement: &Placement, (width, height): (u32, u32), target: Rect) -> bool {
    let all = Rect::new(0.0, 0.0, f64::from(width), f64::from(height)).inflate(1e-6, 1e-6);
    let back = placement.affine(width, height).inverse();
    let corners = [target.x0, target.x1].into_iter().flat_map(|x| [target.y0, target.y1].map(|y| Point::new(x, y)));
    placement.pull.is_some() || corners.into_iter().all(|p| all.contains(back * p))
}

/// What is open before a fill, in sheet space: before a shared photo all of its windows.
pub(super) fn open_before(
    sheet: &mut Sheet,
    piece: PieceId,
    fill: FillId,
    library: &dyn Library,
) -> Result<Rect, Refusal> {
    let own = opening_bounds(sheet, piece, library)?;
    let Some(FillPaint::Photo(photo)) = window(sheet, piece)?.fill(fill).map(|f| f.paint.clone()) else {
        return Ok(own);
    };
    let shows = |w: &&Window| w.photos().any(|(_, p)| p.is_one_with(&photo));
    let row = sheet.pieces.iter().filter_map(|p| p.window()).filter(shows);
    let paths = row.filter_map(|w| shown_outline(sheet, w, library).ok()).filter(|o| !o.path.is_empty());
    Ok(paths.map(|o| o.path.bounding_box()).fold(own, |all, one| all.union(one)))
}

/// Where a fill is one of a shared photo: its window comes in front of the other ones behind which the photo lies, so that what breaks out
/// of it stands before their rims.
pub(super) fn come_forward(sheet: &mut Sheet, piece: PieceId, fill: FillId) {
    let own = sheet.piece(piece).and_then(|p| p.window()).and_then(|w| w.fill(fill)).map(|f| &f.paint);
    if let Some(FillPaint::Photo(photo)) = own {
        let photo = photo.clone();
        before_its_row(sheet, piece, &photo);
    }
}

fn before_its_row(sheet: &mut Sheet, piece: PieceId, photo: &PhotoFill) {
    let shows = |w: &Window| w.photos().any(|(_, p)| p.is_one_with(photo));
    let at = sheet.pieces.iter().position(|p| p.id == piece);
    let front = sheet.pieces.iter().rposition(|p| p.window().is_some_and(shows));
    if let (Some(at), Some(front)) = (at, front)
        && at < front
    {
        sheet.pieces[at..=front].rotate_left(1);
    }
}

/// Where one fill of a shared photo lies anew since `before`, the others follow.
pub(super) fn keep_together(before: &Sheet, sheet: &mut Sheet) {
    fn shared(sheet: &Sheet) -> impl Iterator<Item = (FillId, &PhotoFill)> {
        let windows = sheet.pieces.iter().filter_map(|p| p.window());
        windows.flat_map(|w| w.photos()).filter(|(_, p)| p.shared.is_some())
    }
    let was = |id: FillId| shared(before).find(|(other, _)| *other == id).map(|(_, p)| p.placement);
    let moved: Vec<PhotoFill> = shared(sheet)
        .filter(|(id, now)| was(*id).is_some_and(|was| was != now.placement))
        .map(|(_, now)| now.clone())
        .collect();
    moved.iter().for_each(|now| place(sheet, now));
}

/// Puts a shared photo where one of its fills lies.
fn place(sheet: &mut Sheet, one: &PhotoFill) {
    for fill in sheet.pieces.iter_mut().filter_map(|p| p.window_mut()).flat_map(|w| &mut w.fills) {
        if let FillPaint::Photo(photo) = &mut fill.paint
            && photo.is_one_with(one)
        {
            photo.placement = one.placement;
        }
    }
}
