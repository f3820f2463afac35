//! Edits of what shows through an opening.

use super::edits::Fit;
use super::forms::drawable;
use super::row::open_before;
use super::target::{bring_in, in_front, name_drawings, opening_bounds, window};
use crate::check::{self, Refusal};
use crate::library::Library;
use crate::outline::OutlineError;
use crate::sheet::limits::LOOKS;
use crate::sheet::{
    DrawingFill, Fill, FillId, FillPaint, Motif, PartLook, Photo, PhotoFill, PhotoId, PieceId, Placement, Sheet,
    TileFill, Tone, Window,
};
use kurbo::Rect;

/// A photo in place of the foremost one, or in front where there is none.
pub(super) fn with_photo(
    sheet: &mut Sheet,
    piece: PieceId,
    fill: FillId,
    photo: &PhotoId,
    library: &dyn Library,
) -> Result<(), Refusal> {
    let common = |f: &&Fill| f.is_common() && matches!(f.paint, FillPaint::Photo(_));
    let last = window(sheet, piece)?.fills.iter().rfind(common).cloned();
    let Some(Fill { id: old_fill, paint: FillPaint::Photo(old), .. }) = last else {
        add_photo(sheet, piece, fill, photo, library)?;
        give_way(window(sheet, piece)?, &[fill]);
        return Ok(());
    };
    let (width, height) = bring_in(sheet, photo, library)?;
    // it covers what the one before it covered: exactly, if both have the same proportions
    let scale = sheet
        .photos
        .get(&old.photo)
        .map_or(1.0, |was| (f64::from(was.width) / f64::from(width)).max(f64::from(was.height) / f64::from(height)));
    let placement = Placement { scale: old.placement.scale * scale, ..old.placement };
    check::placement(&placement)?;
    let window = window(sheet, piece)?;
    window.breakout.retain(|fill, _| fill != old_fill);
    if let Some(there) = window.fill_mut(old_fill) {
        let photo = photo.clone();
        there.paint = FillPaint::Photo(PhotoFill { photo, placement, tone: old.tone, shared: None, alone: false });
    }
    Ok(())
}

/// The paint that a new window has, and nothing else, gives way to fills that cover it: else it would shine out wherever they end.
fn give_way(window: &mut Window, to: &[FillId]) {
    let mut others = window.fills.iter().filter(|f| !to.contains(&f.id));
    if let (Some(only), None) = (others.next(), others.next())
        && only.is_plain()
    {
        window.fills.retain(|f| to.contains(&f.id));
    }
}

/// What a piece without a mask shows, in front of the fills of another window.
pub(super) fn take_fills(sheet: &mut Sheet, piece: PieceId, of: PieceId) -> Result<(), Refusal> {
    if piece == of {
        return Err(Refusal::WithinItself);
    }
    let picture =
        sheet.piece(of).ok_or(Refusal::NoPiece)?.window().filter(|w| !w.is_masked()).ok_or(Refusal::NoPart)?;
    let taken = picture.fills.clone();
    if taken.iter().any(|f| f.window().is_some_and(|shown| shown == piece || sheet.shows(shown, piece))) {
        return Err(Refusal::WithinItself);
    }
    let own = window(sheet, piece)?;
    let ids: Vec<FillId> = taken.iter().map(|f| f.id).collect();
    for fill in taken {
        in_front(own, Fill { pane: None, member: None, ..fill })?;
    }
    if own.is_masked() {
        give_way(own, &ids);
    }
    Ok(())
}

/// A photo that covers the opening, in front of the other fills.
pub(super) fn add_photo(
    sheet: &mut Sheet,
    piece: PieceId,
    fill: FillId,
    photo: &PhotoId,
    library: &dyn Library,
) -> Result<(), Refusal> {
    let target = opening_bounds(sheet, piece, library)?;
    let (width, height) = bring_in(sheet, photo, library)?;
    let placement = Placement::cover(width, height, target);
    let (photo, tone) = (photo.clone(), Tone::default());
    let paint = FillPaint::Photo(PhotoFill { photo, placement, tone, shared: None, alone: false });
    in_front(window(sheet, piece)?, Fill::new(fill, paint))
}

pub(super) fn add(sheet: &mut Sheet, piece: PieceId, fill: &Fill, library: &dyn Library) -> Result<(), Refusal> {
    take_in(sheet, piece, fill, library)?;
    in_front(window(sheet, piece)?, fill.clone())
}

pub(super) fn set(sheet: &mut Sheet, piece: PieceId, fill: &Fill, library: &dyn Library) -> Result<(), Refusal> {
    take_in(sheet, piece, fill, library)?;
    let window = window(sheet, piece)?;
    let old = window.fill_mut(fill.id).ok_or(Refusal::NoPart)?;
    let other_photo = old.photo() != fill.photo();
    *old = fill.clone();
    if other_photo {
        window.breakout.retain(|id, _| id != fill.id);
    }
    check::amounts(sheet)
}

/// Checks a fill that is new to the sheet, and enters what it refers to.
fn take_in(sheet: &mut Sheet, piece: PieceId, fill: &Fill, library: &dyn Library) -> Result<(), Refusal> {
    if let FillPaint::Form(form) = &fill.paint {
        drawable(&form.form, library)?;
    }
    name_drawings(sheet, fill.drawings(), library);
    if let Some(shown) = fill.window()
        && (shown == piece || sheet.shows(shown, piece))
    {
        return Err(Refusal::WithinItself);
    }
    check::fill(fill, sheet)
}

pub(super) fn order(window: &mut Window, fill: FillId, to: usize) -> Result<(), Refusal> {
    let at = window.fills.iter().position(|f| f.id == fill).ok_or(Refusal::NoPart)?;
    let fill = window.fills.remove(at);
    window.fills.insert(to.min(window.fills.len()), fill);
    Ok(())
}

/// Where the photo of a fill lies.
pub(super) fn placement(sheet: &mut Sheet, piece: PieceId, fill: FillId) -> Result<&mut Placement, Refusal> {
    let fill = window(sheet, piece)?.fill_mut(fill).ok_or(Refusal::NoPart)?;
    fill.placement_mut().ok_or(Refusal::NoPart)
}

pub(super) fn fit(
    sheet: &mut Sheet,
    piece: PieceId,
    fill: FillId,
    fit: Fit,
    library: &dyn Library,
) -> Result<(), Refusal> {
    let target = open_before(sheet, piece, fill, library)?;
    let was = *placement(sheet, piece, fill)?;
    let there = window(sheet, piece)?.fill(fill).ok_or(Refusal::NoPart)?;
    if let FillPaint::Drawing(DrawingFill { drawing, .. })
    | FillPaint::Tile(TileFill { motif: Motif::Drawing(drawing), .. }) = &there.paint
    {
        let drawn = library.drawing(drawing).ok_or_else(|| OutlineError::NoDrawing(drawing.clone()))?;
        let (w, h) = (drawn.picture.width, drawn.picture.height);
        let fitted = match fit {
            Fit::Cover => Placement::cover(w, h, target),
            Fit::Contain => Placement::contain(w, h, target),
            Fit::Subject | Fit::Middle => return Err(Refusal::NoSubject),
        };
        *placement(sheet, piece, fill)? = fitted;
        return Ok(());
    }
    let photo = there.photo().ok_or(Refusal::NoPart)?.clone();
    let facts = sheet.photos.get(&photo).ok_or(Refusal::NoPhoto)?;
    let subject = || {
        let all = facts.subjects.iter().filter_map(|s| library.matte(&s.matte)?.bounds());
        all.reduce(|a, b| a.union(b)).ok_or(Refusal::NoSubject)
    };
    let fitted = match fit {
        Fit::Cover => Placement::cover(facts.width, facts.height, target),
        Fit::Contain => Placement::contain(facts.width, facts.height, target),
        Fit::Subject => on_subject(facts, subject()?, target),
        Fit::Middle => {
            let off = target.center() - was.affine(facts.width, facts.height) * subject()?.center();
            Placement { x: was.x + off.x, y: was.y + off.y, ..was }
        }
    };
    *placement(sheet, piece, fill)? = fitted;
    Ok(())
}

/// The subject's middle (`subject`: its bounds in photo space) in the middle of `target`, as large as it takes to cover all of it.
fn on_subject(photo: &Photo, subject: Rect, target: Rect) -> Placement {
    let (c, at) = (target.center(), subject.center());
    let (w, h) = (f64::from(photo.width), f64::from(photo.height));
    let reach = |at: f64, side: f64| at.min(side - at).max(1.0);
    let scale = (target.width() / 2.0 / reach(at.x, w)).max(target.height() / 2.0 / reach(at.y, h)) * 1.001;
    // a subject at the very edge would blow the photo up: then it is as near to the middle as covering allows
    let scale = scale.min(2.5 * Placement::cover(photo.width, photo.height, target).scale);
    let slide = |c: f64, at: f64, side: f64, room: f64| {
        let free = ((side * scale - room) / 2.0).max(0.0);
        c + ((side / 2.0 - at) * scale).clamp(-free, free)
    };
    Placement {
        x: slide(c.x, at.x, w, target.width()),
        y: slide(c.y, at.y, h, target.height()),
        scale,
        turn: 0.0,
        mirrored: false,
        slant: 0.0,
        pull: None,
    }
}

/// Lets pieces of a drawing out over the edge, or keeps them in. Groups that were let out as a whole give way to their pieces.
pub(super) fn let_pieces_out(
    sheet: &mut Sheet,
    piece: PieceId,
    fill: FillId,
    parts: &[u32],
    out: bool,
    library: &dyn Library,
) -> Result<(), Refusal> {
    let there = window(sheet, piece)?.fill_mut(fill).ok_or(Refusal::NoPart)?;
    let FillPaint::Drawing(drawing) = &mut there.paint else {
        return Err(Refusal::NoPart);
    };
    let drawn = library.drawing(&drawing.drawing).ok_or_else(|| OutlineError::NoDrawing(drawing.drawing.clone()))?;
    let picture = &drawn.picture;
    let is_out = |at: usize| drawing.looks.iter().any(|l| l.out && picture.holds(l.part as usize, at));
    let outside: Vec<usize> = picture
        .pieces()
        .filter(|at| if parts.iter().any(|p| picture.holds(*p as usize, *at)) { out } else { is_out(*at) })
        .collect();
    drawing.looks.iter_mut().for_each(|l| l.out = false);
    // all of it is the whole: nothing is listed one by one
    let outside = if outside.len() == picture.pieces().count() { vec![0] } else { outside };
    for at in outside {
        let part = at as u32;
        match drawing.looks.iter_mut().find(|l| l.part == part) {
            Some(look) => look.out = true,
            None => drawing.looks.push(PartLook { part, off: false, out: true, paint: None }),
        }
    }
    drawing.looks.retain(|l| l.off || l.out || l.paint.is_some());
    drawing.looks.sort_by_key(|l| l.part);
    if drawing.looks.len() > LOOKS { Err(Refusal::Looks) } else { Ok(()) }
}
