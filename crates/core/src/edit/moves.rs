//! Moving pieces, or one half of them, and copying them.

use super::edits::Grip;
use super::forms::copy_ids;
use crate::check::{self, Refusal};
use crate::sheet::{Fill, FillPaint, Piece, PieceId, Sheet, Similarity, Window};

pub(super) fn move_piece(piece: &mut Piece, what: Grip, by: &Similarity) -> Result<(), Refusal> {
    let Some(window) = piece.window_mut() else { return Ok(()) };
    // without a mask there are no halves
    let what = if window.is_masked() { what } else { Grip::Both };
    if what != Grip::Fill {
        move_opening(window, by)?;
    }
    let alone = !window.is_masked();
    for fill in &mut window.fills {
        // a fill that follows the opening goes with it, and with a fill that is moved by itself; a photo behind several windows stays for the others
        let goes_along = fill.follows_opening || (what == Grip::Both && (alone || !fill.is_shared()));
        if what == Grip::Fill || goes_along {
            move_fill(fill, by)?;
        }
    }
    Ok(())
}

pub(super) fn move_fill(fill: &mut Fill, by: &Similarity) -> Result<(), Refusal> {
    fill.moved(by);
    match &mut fill.paint {
        FillPaint::Form(f) => check::form(&f.form),
        FillPaint::Window(w) if !w.by.is_sound() => Err(Refusal::Number("The place of a window")),
        _ => fill.placement_mut().map_or(Ok(()), |p| check::placement(p)),
    }
}

fn move_opening(window: &mut Window, by: &Similarity) -> Result<(), Refusal> {
    for form in &mut window.opening.forms {
        form.transform(by.affine());
        check::form(form)?;
    }
    let opening = &mut window.opening;
    for length in [&mut opening.grow, &mut opening.rounding, &mut opening.simplify] {
        *length *= by.scale();
    }
    opening.open.iter_mut().for_each(|side| side.far *= by.scale());
    window.finish.scale(by.scale());
    window.finish.rims.iter_mut().for_each(|r| r.paint.moved(by));
    Ok(())
}

pub(super) fn copy_piece(sheet: &mut Sheet, id: PieceId, copy: PieceId) -> Result<(), Refusal> {
    let at = sheet.pieces.iter().position(|p| p.id == id).ok_or(Refusal::NoPiece)?;
    if sheet.piece(copy).is_some() {
        return Err(Refusal::Inconsistent("two pieces share an identifier"));
    }
    let mut piece = Piece { id: copy, locked: false, ..sheet.pieces[at].clone() };
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
    sheet.pieces.insert(at + 1, piece);
    check::amounts(sheet)
}
