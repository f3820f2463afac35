//! Moving pieces, or one half of them, and copying them.

use super::bundles;
use super::edits::Grip;
use super::forms::copy_ids;
use super::target::free;
use crate::check::{self, Refusal};
use crate::sheet::{Fill, FillPaint, PhotoFill, Piece, PieceId, Sheet, Side, Window};
use kurbo::{Affine, Point};

/// Moves, turns, scales, slants or mirrors pieces as one, or one half of each; `by` is a transform of the sheet.
///
/// A photo that lies behind several windows goes along with them if all of them are moved whole. Else it stays where it is for the others.
pub(super) fn transform(sheet: &mut Sheet, pieces: &[PieceId], what: Grip, by: Affine) -> Result<(), Refusal> {
    let size = by.determinant().abs();
    if !by.as_coeffs().iter().all(|v| v.is_finite() && v.abs() <= 1e6) || !(1e-6..=1e6).contains(&size) {
        return Err(Refusal::Number("The move"));
    }
    let elsewhere = sheet.windows().filter(|(p, _)| !pieces.contains(&p.id));
    let stays: Vec<PhotoFill> = elsewhere.flat_map(|(_, w)| w.photos()).map(|(_, photo)| photo.clone()).collect();
    for id in pieces {
        let Some(window) = free(sheet, *id)?.window_mut() else { continue };
        transform_window(window, what, by, &stays)?;
    }
    if what == Grip::Fill { Ok(()) } else { bundles::transform(sheet, pieces, by) }
}

pub(super) fn transform_window(
    window: &mut Window,
    what: Grip,
    by: Affine,
    stays: &[PhotoFill],
) -> Result<(), Refusal> {
    // without a mask there are no halves
    let alone = !window.is_masked();
    let what = if alone { Grip::Both } else { what };
    if what != Grip::Fill {
        transform_opening(window, by)?;
    }
    if let (Grip::Both, Some(line)) = (what, &mut window.breakout.reach) {
        for end in [&mut line.from, &mut line.to] {
            let p = by * Point::new(end[0], end[1]);
            *end = [p.x, p.y];
        }
    }
    for fill in &mut window.fills {
        // a fill that follows the opening goes with it, and with a fill that is moved by itself
        let whole = what == Grip::Both && (alone || !is_kept(fill, stays));
        if what == Grip::Fill || fill.follows_opening || whole {
            transform_fill(fill, by)?;
        }
    }
    Ok(())
}

/// Whether a fill is a photo that other windows hold in its place.
fn is_kept(fill: &Fill, stays: &[PhotoFill]) -> bool {
    matches!(&fill.paint, FillPaint::Photo(photo) if stays.iter().any(|other| photo.is_one_with(other)))
}

/// Moves, turns, scales, slants or mirrors a fill.
pub(super) fn transform_fill(fill: &mut Fill, by: Affine) -> Result<(), Refusal> {
    if !fill.transform(by) {
        return Err(Refusal::ShownWindow);
    }
    match &mut fill.paint {
        FillPaint::Form(f) => check::form(&f.form),
        FillPaint::Window(w) if !w.by.is_sound() => Err(Refusal::Number("The place of a window")),
        _ => fill.placement_mut().map_or(Ok(()), |p| check::placement(p)),
    }
}

fn transform_opening(window: &mut Window, by: Affine) -> Result<(), Refusal> {
    for form in &mut window.opening.forms {
        form.transform(by);
        check::form(form)?;
    }
    let size = by.determinant().abs().sqrt();
    let [a, _, _, d, ..] = by.as_coeffs();
    let mirrors = by.determinant() < 0.0;
    let opening = &mut window.opening;
    for length in [&mut opening.grow, &mut opening.rounding, &mut opening.simplify] {
        *length *= size;
    }
    for open in &mut opening.open {
        open.far *= size;
        let upright = matches!(open.side, Side::Top | Side::Bottom);
        let across = mirrors && a < 0.0;
        let down = mirrors && d < 0.0;
        open.side = match open.side {
            Side::Left if across => Side::Right,
            Side::Right if across => Side::Left,
            Side::Top if down => Side::Bottom,
            Side::Bottom if down => Side::Top,
            side => side,
        };
        if (upright && across) || (!upright && down) {
            (open.from, open.to) = (1.0 - open.to, 1.0 - open.from);
        }
    }
    window.split.transform(by);
    check::split(&window.split)?;
    if let Some(repeat) = &mut window.repeat {
        repeat.transform(by);
        check::repeat(repeat)?;
    }
    window.finish.scale(size);
    window.finish.rims.iter_mut().for_each(|r| r.paint.transform(by));
    Ok(())
}

pub(super) fn copy_piece(sheet: &mut Sheet, id: PieceId, copy: PieceId) -> Result<(), Refusal> {
    let at = sheet.pieces.iter().position(|p| p.id == id).ok_or(Refusal::NoPiece)?;
    if sheet.piece(copy).is_some() {
        return Err(Refusal::Inconsistent("two pieces share an identifier"));
    }
    sheet.pieces.insert(at + 1, copied(&sheet.pieces[at], copy));
    check::amounts(sheet)
}

/// A copy of a piece. What it holds is named after the copy.
pub(super) fn copied(piece: &Piece, copy: PieceId) -> Piece {
    let mut piece = Piece { id: copy, locked: false, ..piece.clone() };
    if let Some(window) = piece.window_mut() {
        window.opening.forms.iter_mut().for_each(|form| copy_ids(form, copy.0));
        for form in window.opening.cells.iter_mut().flat_map(|c| &mut c.cover) {
            *form = form.copied_within(copy.0);
        }
        for cell in &mut window.opening.cells {
            cell.cover.sort();
        }
        window.breakout.fills_mut().for_each(|fill| *fill = fill.copied_within(copy.0));
        window.fills.iter_mut().for_each(|fill| fill.id = fill.id.copied_within(copy.0));
    }
    piece
}
