//! From a sheet and an edit to the next sheet.

use super::edits::Edit;
use super::forms::drawable;
use super::opening::{change_opening, take_in};
use super::opening_change::OpeningChange;
use super::target::{bring_in, free, name_drawings, window};
use super::{
    breakout, bundle_members, bundles, deal, dissolve, fills, inks, moves, parts, paste, repeat, row, split, subjects,
};
use crate::check::{self, Refusal};
use crate::library::Library;
use crate::outline::{OutlineError, frames, lettering_path, seen_at, shown_outline};
use crate::sheet::{
    Breakout, Colour, Fill, FillId, FillPaint, Finish, FontId, Form, FormId, FormShape, Lettering, Members, Opening,
    Paint, Piece, PieceId, PieceKind, Placement, Pose, Sheet, Split, Window,
};
use kurbo::{Affine, Rect, Shape, Vec2};

/// The sheet after an edit.
///
/// # Errors
/// A sentence that says why the edit cannot be made; nothing of it has happened then.
pub fn apply(sheet: &Sheet, edit: &Edit, library: &dyn Library) -> Result<Sheet, Refusal> {
    if let Some(whole) = edit.whole(sheet)? {
        return apply(sheet, &whole, library);
    }
    let mut next = sheet.clone();
    change(&mut next, edit, library)?;
    row::keep_together(sheet, &mut next);
    next.tidy_bundles();
    if edit.fonts().iter().any(|id| library.fonts().get(id).is_some_and(|f| f.own)) {
        name_fonts(&mut next, library);
    }
    Ok(next)
}

fn change(sheet: &mut Sheet, edit: &Edit, library: &dyn Library) -> Result<(), Refusal> {
    match edit {
        // made as a whole by `apply`
        Edit::Amend { .. } => return Err(Refusal::Misfit),
        Edit::RenameSheet { name } => {
            check::name(name)?;
            sheet.name = name.trim().to_owned();
        }
        Edit::ResizeSheet { width, height, unit, ppi } => {
            check::size(*width, *height, *ppi)?;
            (sheet.width, sheet.height, sheet.unit, sheet.ppi) = (*width, *height, *unit, *ppi);
            check::pixels(sheet)?;
        }
        Edit::SetBackground { colour } => sheet.background = *colour,
        Edit::SetBackdrop { paint } => {
            paint.iter().try_for_each(|p| check::paint(p, sheet))?;
            sheet.backdrop = paint.clone();
        }
        Edit::SetGuides { guides } => {
            check::layout_guides(guides)?;
            check::room_between_margins(guides, sheet)?;
            sheet.guides = guides.clone();
        }
        Edit::SetBleed { bleed } => {
            check::within("The bleed", *bleed, 0.0, 100.0)?;
            sheet.bleed = *bleed;
            check::pixels(sheet)?;
        }
        Edit::SetPaper { grain } => {
            check::within("The grain of the paper", *grain, 0.0, 1.0)?;
            sheet.paper = *grain;
        }
        Edit::SetBorder { border } => {
            border.iter().try_for_each(|b| check::border(b, sheet))?;
            sheet.border = border.clone();
        }
        Edit::WaveFinding { finding, why } => {
            match why {
                Some(why) => sheet.waved.insert(finding.clone(), why.trim().to_owned()),
                None => sheet.waved.remove(finding),
            };
            check::waved(sheet)?;
        }
        Edit::SetCredit { of, credit } => {
            check::credit(sheet, of, credit.as_ref())?;
            match credit {
                Some(credit) => sheet.credits.insert(of.clone(), credit.clone()),
                None => sheet.credits.remove(of),
            };
        }
        Edit::SetInk { ink } => inks::set(sheet, ink)?,
        Edit::RemoveInk { ink } => inks::remove(sheet, *ink)?,
        Edit::AddLettering { piece, form, fill, text, font } => {
            let window = new_word(sheet, *form, *fill, text, font, library)?;
            add(
                sheet,
                Piece {
                    id: *piece,
                    name: None,
                    hidden: false,
                    locked: false,
                    bundle: None,
                    kind: PieceKind::Window(window),
                },
            )?;
            check::amounts(sheet)?;
        }
        Edit::AddWindow { piece, form, fill } => {
            drawable(form, library)?;
            let window = inked(sheet, form.clone(), *fill);
            name_drawings(sheet, form.drawings(), library);
            check::opening(&window.opening, sheet)?;
            let kind = PieceKind::Window(window);
            add(sheet, Piece { id: *piece, name: None, hidden: false, locked: false, bundle: None, kind })?;
        }
        Edit::Opening { piece, change } => {
            let mut changed = window(sheet, *piece)?.clone();
            if let OpeningChange::AddForm { form } | OpeningChange::SetForm { form } = change {
                name_drawings(sheet, form.drawings(), library);
            }
            change_opening(sheet, &mut changed, change, library)?;
            *window(sheet, *piece)? = changed;
            check::amounts(sheet)?;
        }
        Edit::SetLettering { piece, form, lettering, fit } => {
            set_lettering(sheet, *piece, *form, lettering, *fit, library)?;
            check::amounts(sheet)?;
        }
        Edit::AddPicture { piece, photo } => {
            let (width, height) = bring_in(sheet, photo, library)?;
            let placement = Placement::contain(width, height, within_margin(sheet));
            let kind = PieceKind::Window(Window::picture(*piece, photo.clone(), placement));
            add(sheet, Piece { id: *piece, name: None, hidden: false, locked: false, bundle: None, kind })?;
        }
        Edit::FillWithPhoto { piece, fill, photo } => fills::with_photo(sheet, *piece, *fill, photo, library)?,
        Edit::TakeFills { piece, of } => {
            free(sheet, *of)?;
            fills::take_fills(sheet, *piece, *of)?;
            remove(sheet, *of);
        }
        Edit::AddPhoto { piece, fill, photo } => fills::add_photo(sheet, *piece, *fill, photo, library)?,
        Edit::FillPane { piece, pane, fill, photo } => split::fill(sheet, *piece, pane, (*fill, photo), library)?,
        Edit::ShareFill { piece, fill, of } => {
            row::share(sheet, *piece, *fill, *of, library)?;
            check::amounts(sheet)?;
        }
        Edit::AddFill { piece, fill } => fills::add(sheet, *piece, fill, library)?,
        Edit::SetFill { piece, fill } => fills::set(sheet, *piece, fill, library)?,
        Edit::OrderFill { piece, fill, to } => fills::order(window(sheet, *piece)?, *fill, *to)?,
        Edit::SetFinish { piece, finish } => {
            check::finish(finish, sheet)?;
            window(sheet, *piece)?.finish = finish.clone();
        }
        Edit::SetRepeat { piece, repeat } => repeat::set(sheet, *piece, repeat.as_ref(), library)?,
        Edit::Deal { piece, from, photos, within_bundle } => {
            deal::deal(sheet, *piece, (*from, *within_bundle), photos, library)?;
        }
        Edit::SetBundleWord { piece, member, word } => {
            bundle_members::set_word(sheet, *piece, *member, word.as_deref(), library)?;
        }
        Edit::LookAsMember { pieces, member, behind } => bundle_members::look_as(sheet, pieces, *member, *behind)?,
        Edit::SetFree { piece, member, copy } => repeat::set_free(sheet, *piece, *member, *copy, library)?,
        Edit::SetSplit { piece, split } => split::set(sheet, *piece, split, library)?,
        Edit::SetFillColour { piece, fill, colour } => {
            let fill = window(sheet, *piece)?.fill_mut(*fill).ok_or(Refusal::NoPart)?;
            fill.paint = FillPaint::Plain(Paint::colour(*colour));
        }
        Edit::RemoveFill { piece, fill } => {
            let window = window(sheet, *piece)?;
            let at = window.fills.iter().position(|f| f.id == *fill).ok_or(Refusal::NoPart)?;
            window.fills.remove(at);
            window.breakout.retain(|id, _| id != *fill);
        }
        Edit::Move { piece, what, by } => {
            if !by.is_sound() {
                return Err(Refusal::Number("The move"));
            }
            moves::transform(sheet, &[*piece], *what, by.affine())?;
        }
        Edit::MoveFill { piece, fill, by } => {
            if !by.is_sound() {
                return Err(Refusal::Number("The move"));
            }
            let owner = free(sheet, *piece)?.clone();
            let part = owner.window().and_then(|w| w.fill(*fill)).ok_or(Refusal::NoPart)?;
            let seen = seen_at(sheet, &owner, part, library)?;
            let fill = window(sheet, *piece)?.fill_mut(*fill).ok_or(Refusal::NoPart)?;
            moves::transform_fill(fill, seen.inverse() * by.affine() * seen)?;
        }
        Edit::Transform { pieces, what, by } => moves::transform(sheet, pieces, *what, Affine::new(*by))?,
        Edit::SetPlacement { piece, fill, placement } => {
            check::placement(placement)?;
            *fills::placement(sheet, *piece, *fill)? = *placement;
        }
        Edit::FitPhoto { piece, fill, fit } => fills::fit(sheet, *piece, *fill, *fit, library)?,
        Edit::SetSubject { photo, subject } => subjects::set(sheet, photo, subject, library)?,
        Edit::RemoveSubject { photo, key } => subjects::remove(sheet, photo, *key)?,
        Edit::NameSubject { photo, key, name } => subjects::rename(sheet, photo, *key, name)?,
        Edit::LetOut { piece, anchor } => {
            parts::let_out(sheet, *piece, anchor, library)?;
            row::come_forward(sheet, *piece, anchor.fill);
        }
        Edit::KeepIn { piece, anchors } => parts::keep_in(sheet, *piece, anchors)?,
        Edit::ChangePart { piece, anchor, change } => parts::change(sheet, *piece, anchor, change, library)?,
        Edit::Cross { piece, anchor, under, was } => {
            let window = window(sheet, *piece)?;
            window.fill_mut(anchor.fill).ok_or(Refusal::NoPart)?;
            window.breakout.under.retain(|a| !was.contains(a));
            if *under {
                window.breakout.under.push(*anchor);
            }
            check::breakout(&window.breakout)?;
        }
        Edit::MergePart { piece, anchor, form, tolerance, smooth } => {
            breakout::merge(sheet, *piece, anchor, *form, (*tolerance, *smooth), library)?;
        }
        Edit::PaintBreakout { piece, strokes } => {
            let window = window(sheet, *piece)?;
            window.breakout.painted.clone_from(strokes);
            check::breakout(&window.breakout)?;
            strokes.iter().filter(|s| s.stroke.keep).for_each(|s| row::come_forward(sheet, *piece, s.fill));
        }
        Edit::SetReach { piece, reach } => {
            let window = window(sheet, *piece)?;
            window.breakout.reach = reach.map(Box::new);
            check::breakout(&window.breakout)?;
        }
        Edit::LetPiecesOut { piece, fill, parts, out } => {
            fills::let_pieces_out(sheet, *piece, *fill, parts, *out, library)?;
        }
        Edit::RemovePiece { piece } => {
            free(sheet, *piece)?;
            remove(sheet, *piece);
        }
        Edit::TakeIn { piece, other, form, join } => {
            free(sheet, *other)?;
            take_in(sheet, (*piece, *other), (*form, *join), library)?;
            remove(sheet, *other);
        }
        Edit::Bundle { bundle, within, pieces, bundles: inner } => {
            bundles::make(sheet, *bundle, *within, (pieces, inner))?;
        }
        Edit::Place { pieces, bundles: inner, into, over } => {
            bundles::place(sheet, (pieces, inner), *into, *over)?;
        }
        Edit::Dissolve { bundle } => dissolve::dissolve(sheet, *bundle, library)?,
        Edit::NameBundle { bundle, name } => bundles::name(sheet, *bundle, name)?,
        Edit::SetBundleFinish { bundle, finish } => bundles::finish(sheet, *bundle, finish)?,
        Edit::SetBundleSplit { bundle, split } => bundles::split(sheet, *bundle, split, library)?,
        Edit::SetBundleRepeat { bundle, repeat } => bundles::repeat(sheet, *bundle, repeat.as_ref())?,
        Edit::Paste { from, copies, by } => paste::paste(sheet, from, copies, Vec2::new(by[0], by[1]), library)?,
        Edit::CopyPiece { piece, copy } => moves::copy_piece(sheet, *piece, *copy)?,
        Edit::OrderPiece { piece, to } => {
            let at = sheet.pieces.iter().position(|p| p.id == *piece).ok_or(Refusal::NoPiece)?;
            let piece = sheet.pieces.remove(at);
            sheet.pieces.insert((*to).min(sheet.pieces.len()), piece);
        }
        Edit::NamePiece { piece, name } => {
            let own = name.trim();
            if !own.is_empty() {
                check::name(own)?;
            }
            sheet.piece_mut(*piece).ok_or(Refusal::NoPiece)?.name = (!own.is_empty()).then(|| own.to_owned());
        }
        Edit::HidePiece { piece, hidden } => sheet.piece_mut(*piece).ok_or(Refusal::NoPiece)?.hidden = *hidden,
        Edit::LockPiece { piece, locked } => sheet.piece_mut(*piece).ok_or(Refusal::NoPiece)?.locked = *locked,
    }
    Ok(())
}

/// What is laid on a sheet keeps this share of its shorter side free all around.
const MARGIN: f64 = 0.1;

fn add(sheet: &mut Sheet, piece: Piece) -> Result<(), Refusal> {
    if sheet.piece(piece.id).is_some() {
        return Err(Refusal::Inconsistent("two pieces share an identifier"));
    }
    sheet.pieces.push(piece);
    check::amounts(sheet)
}

/// Takes a piece off the sheet, and out of the windows that it fills.
fn remove(sheet: &mut Sheet, id: PieceId) {
    sheet.pieces.retain(|p| p.id != id);
    for window in sheet.pieces.iter_mut().filter_map(|p| p.window_mut()) {
        window.fills.retain(|f| f.window() != Some(id));
    }
}

fn new_word(
    sheet: &Sheet,
    form: FormId,
    fill: FillId,
    text: &str,
    font: &FontId,
    library: &dyn Library,
) -> Result<Window, Refusal> {
    let mut lettering = Lettering::plain(text, font.clone(), 10.0);
    check::lettering(&lettering)?;
    let pose = fitted(within_margin(sheet), &mut lettering, library)?;
    Ok(inked(sheet, Form::new(form, pose, FormShape::Lettering(lettering)), fill))
}

/// A window with one form, filled so that it is seen on the sheet.
fn inked(sheet: &Sheet, form: Form, fill: FillId) -> Window {
    let colour = Colour::that_stands_out_from(sheet.background);
    Window {
        opening: Opening { forms: vec![form], ..Opening::default() },
        fills: vec![Fill { follows_opening: true, ..Fill::new(fill, FillPaint::Plain(Paint::colour(colour))) }],
        breakout: Breakout::default(),
        finish: Finish::default(),
        split: Split::default(),
        repeat: None,
        bundle_words: Members::default(),
    }
}

/// Enters the fonts that lettering is set in and that are not part of the application into the sheet's list.
fn name_fonts(sheet: &mut Sheet, library: &dyn Library) {
    let forms = sheet.windows().flat_map(|(_, w)| w.forms());
    let used = forms.flat_map(Form::letterings).filter_map(|l| library.fonts().get(&l.font)).filter(|f| f.own);
    let named: Vec<_> = used.map(|f| (f.id.clone(), f.name.clone())).collect();
    sheet.fonts.extend(named);
}

/// Sets the type as large as its room allows, and gives the pose that centres it there.
fn fitted(room: Rect, lettering: &mut Lettering, library: &dyn Library) -> Result<Pose, Refusal> {
    let path = lettering_path(lettering, library.fonts()).map_err(OutlineError::from)?;
    let b = path.bounding_box();
    if b.width() <= 0.0 || b.height() <= 0.0 {
        return Err(Refusal::EmptyWord);
    }
    let factor = (room.width() / b.width()).min(room.height() / b.height());
    lettering.size *= factor;
    let at = room.center() - b.center().to_vec2() * factor;
    Ok(Pose::at(at.x, at.y))
}

/// The sheet within its margin.
fn within_margin(sheet: &Sheet) -> Rect {
    Rect::new(0.0, 0.0, sheet.width, sheet.height).inset(-MARGIN * sheet.width.min(sheet.height))
}

/// Where there is room for a word: on the sheet within its margin, and where pictures show through it, within those.
fn room_for_word(sheet: &Sheet, window: &Window, library: &dyn Library) -> Rect {
    let page = within_margin(sheet);
    let pictures = frames(sheet, window, library).ok().filter(|p| !p.is_empty()).map(|p| p.bounding_box());
    let shared = pictures.map(|b| b.inset(-0.06 * b.width().min(b.height())).intersect(page));
    shared.filter(|r| r.width() > 0.0 && r.height() > 0.0).unwrap_or(page)
}

/// Where there is room for a word that fills a window.
fn room_inside(sheet: &Sheet, window: &Window, library: &dyn Library) -> Result<Rect, Refusal> {
    let b = shown_outline(sheet, window, library)?.path.bounding_box();
    let room = b.inset(-0.12 * b.width().min(b.height()));
    if room.width() > 0.0 && room.height() > 0.0 { Ok(room) } else { Err(Refusal::NothingLeft) }
}

fn set_lettering(
    sheet: &mut Sheet,
    piece: PieceId,
    form: FormId,
    lettering: &Lettering,
    fit: bool,
    library: &dyn Library,
) -> Result<(), Refusal> {
    check::lettering(lettering)?;
    let mut lettering = lettering.clone();
    // refuses a text that the font cannot set
    let pose = if fit {
        let own = window(sheet, piece)?.clone();
        let fills = own.filling_forms().any(|f| f.id == form);
        let room = if fills { room_inside(sheet, &own, library)? } else { room_for_word(sheet, &own, library) };
        Some(fitted(room, &mut lettering, library)?)
    } else {
        lettering_path(&lettering, library.fonts()).map_err(OutlineError::from)?;
        None
    };
    let form = window(sheet, piece)?.form_mut(form).ok_or(Refusal::NoPart)?;
    form.shape = FormShape::Lettering(lettering);
    if let Some(pose) = pose {
        form.pose = pose;
    }
    Ok(())
}
