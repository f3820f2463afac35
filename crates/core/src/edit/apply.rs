//! From a sheet and an edit to the next sheet.

use super::opening::{change_opening, drawable, fresh_ids};
use super::{Edit, Fit, Grip, Refusal, check};
use crate::library::Library;
use crate::outline::{OutlineError, lettering_path, opening_path};
use crate::sheet::{
    Breakout, Colour, Fill, FillId, FillPaint, FontId, Form, FormId, FormShape, Lettering, Opening, PhotoFill, PhotoId,
    Picture, Piece, PieceId, PieceKind, Placement, Pose, Sheet, Window,
};
use kurbo::{Rect, Shape};

/// The sheet after an edit.
///
/// # Errors
/// A sentence that says why the edit cannot be made; nothing of it has happened then.
pub fn apply(sheet: &Sheet, edit: &Edit, library: &dyn Library) -> Result<Sheet, Refusal> {
    let mut next = sheet.clone();
    change(&mut next, edit, library)?;
    if edit.fonts().iter().any(|id| library.shelf().get(id).is_some_and(|f| f.own)) {
        name_fonts(&mut next, library);
    }
    Ok(next)
}

fn change(sheet: &mut Sheet, edit: &Edit, library: &dyn Library) -> Result<(), Refusal> {
    match edit {
        Edit::RenameSheet { name } => {
            check::name(name)?;
            sheet.name = name.trim().to_owned();
        }
        Edit::ResizeSheet { width, height, unit, ppi } => {
            check::size(*width, *height, *ppi)?;
            (sheet.width, sheet.height, sheet.unit, sheet.ppi) = (*width, *height, *unit, *ppi);
        }
        Edit::SetBackground { colour } => sheet.background = *colour,
        Edit::AddLettering { piece, form, fill, text, font } => {
            let window = new_word(sheet, *form, *fill, text, font, library)?;
            add(
                sheet,
                Piece { id: *piece, name: None, hidden: false, locked: false, kind: PieceKind::Window(window) },
            )?;
            check::amounts(sheet)?;
        }
        Edit::AddWindow { piece, form, fill } => {
            drawable(form, library)?;
            let window = inked(sheet, form.clone(), *fill);
            name_drawings(sheet, &window.opening, library);
            check::opening(&window.opening, sheet)?;
            let kind = PieceKind::Window(window);
            add(sheet, Piece { id: *piece, name: None, hidden: false, locked: false, kind })?;
        }
        Edit::Opening { piece, change } => {
            let mut changed = window(sheet, *piece)?.clone();
            if let super::OpeningChange::AddForm { form } | super::OpeningChange::SetForm { form } = change {
                let only = Opening { forms: vec![form.clone()], ..Opening::default() };
                name_drawings(sheet, &only, library);
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
            let most = Rect::new(0.0, 0.0, sheet.width, sheet.height).inset(-0.1 * sheet.width.min(sheet.height));
            let picture = Picture { photo: photo.clone(), placement: Placement::contain(width, height, most) };
            let kind = PieceKind::Picture(picture);
            add(sheet, Piece { id: *piece, name: None, hidden: false, locked: false, kind })?;
        }
        Edit::FillWithPhoto { piece, fill, photo } => fill_with_photo(sheet, *piece, *fill, photo, library)?,
        Edit::SetFillColour { piece, fill, colour } => {
            let fill = window(sheet, *piece)?.fill_mut(*fill).ok_or(Refusal::NoPart)?;
            fill.paint = FillPaint::Colour { colour: *colour };
        }
        Edit::RemoveFill { piece, fill } => {
            let window = window(sheet, *piece)?;
            let at = window.fills.iter().position(|f| f.id == *fill).ok_or(Refusal::NoPart)?;
            window.fills.remove(at);
            window.breakout.let_out.retain(|a| a.fill != *fill);
        }
        Edit::Move { piece, what, by } => {
            if !by.is_sound() {
                return Err(Refusal::Number("The move"));
            }
            move_piece(free(sheet, *piece)?, *what, by)?;
        }
        Edit::SetPlacement { piece, fill, placement } => {
            check::placement(placement)?;
            photo_fill(sheet, *piece, *fill)?.placement = *placement;
        }
        Edit::FitPhoto { piece, fill, fit } => {
            let target = opening_bounds(sheet, *piece, library)?;
            let photo = photo_fill(sheet, *piece, *fill)?.photo.clone();
            let facts = sheet.photos.get(&photo).ok_or(Refusal::NoPhoto)?;
            let placement = match fit {
                Fit::Cover => Placement::cover(facts.width, facts.height, target),
                Fit::Contain => Placement::contain(facts.width, facts.height, target),
            };
            photo_fill(sheet, *piece, *fill)?.placement = placement;
        }
        Edit::SetSubject { photo, subject } => {
            if let Some(subject) = subject {
                library.matte(subject).ok_or(Refusal::NoSubject)?;
            }
            sheet.photos.get_mut(photo).ok_or(Refusal::NoPhoto)?.subject = subject.clone();
        }
        Edit::LetOut { piece, anchor } => {
            if !anchor.x.is_finite() || !anchor.y.is_finite() {
                return Err(Refusal::Number("The place in the photo"));
            }
            let window = window(sheet, *piece)?;
            window.fill_mut(anchor.fill).ok_or(Refusal::NoPart)?;
            window.breakout.let_out.push(*anchor);
        }
        Edit::KeepIn { piece, anchors } => {
            window(sheet, *piece)?.breakout.let_out.retain(|a| !anchors.contains(a));
        }
        Edit::RemovePiece { piece } => {
            free(sheet, *piece)?;
            sheet.pieces.retain(|p| p.id != *piece);
        }
        Edit::CopyPiece { piece, copy } => copy_piece(sheet, *piece, *copy)?,
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

fn add(sheet: &mut Sheet, piece: Piece) -> Result<(), Refusal> {
    if sheet.piece(piece.id).is_some() {
        return Err(Refusal::Inconsistent("two pieces share an identifier"));
    }
    sheet.pieces.push(piece);
    check::amounts(sheet)
}

/// A piece that may be changed.
fn free(sheet: &mut Sheet, id: PieceId) -> Result<&mut Piece, Refusal> {
    let piece = sheet.piece(id).ok_or(Refusal::NoPiece)?;
    if piece.locked {
        return Err(Refusal::Locked(piece.label(sheet)));
    }
    sheet.piece_mut(id).ok_or(Refusal::NoPiece)
}

fn window(sheet: &mut Sheet, id: PieceId) -> Result<&mut Window, Refusal> {
    free(sheet, id)?.window_mut().ok_or(Refusal::NoPart)
}

fn photo_fill(sheet: &mut Sheet, piece: PieceId, fill: FillId) -> Result<&mut PhotoFill, Refusal> {
    match &mut window(sheet, piece)?.fill_mut(fill).ok_or(Refusal::NoPart)?.paint {
        FillPaint::Photo(photo) => Ok(photo),
        FillPaint::Colour { .. } => Err(Refusal::NoPart),
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
    let pose = fitted(sheet, &mut lettering, library)?;
    Ok(inked(sheet, Form::new(form, pose, FormShape::Lettering(lettering)), fill))
}

/// A window with one form, filled so that it is seen on the sheet.
fn inked(sheet: &Sheet, form: Form, fill: FillId) -> Window {
    let colour = Colour::that_stands_out_from(sheet.background);
    Window {
        opening: Opening { forms: vec![form], ..Opening::default() },
        fills: vec![Fill { id: fill, paint: FillPaint::Colour { colour } }],
        breakout: Breakout::default(),
    }
}

/// Enters the drawings of an opening into the sheet's list.
fn name_drawings(sheet: &mut Sheet, opening: &Opening, library: &dyn Library) {
    for id in opening.forms.iter().flat_map(Form::drawings) {
        if let Some(drawn) = library.drawing(id) {
            sheet.drawings.entry(id.clone()).or_insert_with(|| drawn.name.clone());
        }
    }
}

/// Enters the fonts that lettering is set in and that are not part of the application into the sheet's list.
fn name_fonts(sheet: &mut Sheet, library: &dyn Library) {
    let forms = sheet.windows().flat_map(|(_, w)| &w.opening.forms);
    let used = forms.flat_map(Form::letterings).filter_map(|l| library.shelf().get(&l.font)).filter(|f| f.own);
    let named: Vec<_> = used.map(|f| (f.id.clone(), f.name.clone())).collect();
    sheet.fonts.extend(named);
}

/// Sets the type as large as three quarters of the sheet's width and half of its height allow, and gives the pose that
/// centres it on the sheet.
fn fitted(sheet: &Sheet, lettering: &mut Lettering, library: &dyn Library) -> Result<Pose, Refusal> {
    let path = lettering_path(lettering, library.shelf()).map_err(OutlineError::from)?;
    let b = path.bounding_box();
    if b.width() <= 0.0 || b.height() <= 0.0 {
        return Err(Refusal::EmptyWord);
    }
    let factor = (0.76 * sheet.width / b.width()).min(0.5 * sheet.height / b.height());
    lettering.size *= factor;
    let c = b.center();
    Ok(Pose::at(sheet.width / 2.0 - c.x * factor, sheet.height / 2.0 - c.y * factor))
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
        Some(fitted(sheet, &mut lettering, library)?)
    } else {
        lettering_path(&lettering, library.shelf()).map_err(OutlineError::from)?;
        None
    };
    let form = window(sheet, piece)?.opening.form_mut(form).ok_or(Refusal::NoPart)?;
    form.shape = FormShape::Lettering(lettering);
    if let Some(pose) = pose {
        form.pose = pose;
    }
    Ok(())
}

/// Enters a photo into the sheet's list; its width and height.
fn bring_in(sheet: &mut Sheet, id: &PhotoId, library: &dyn Library) -> Result<(u32, u32), Refusal> {
    if let Some(photo) = sheet.photos.get(id) {
        return Ok((photo.width, photo.height));
    }
    let photo = library.photo(id).ok_or(Refusal::NoPhoto)?;
    let size = (photo.width, photo.height);
    sheet.photos.insert(id.clone(), photo);
    Ok(size)
}

fn opening_bounds(sheet: &mut Sheet, piece: PieceId, library: &dyn Library) -> Result<Rect, Refusal> {
    let path = opening_path(&window(sheet, piece)?.opening, library)?;
    if path.is_empty() { Err(Refusal::EmptyWord) } else { Ok(path.bounding_box()) }
}

fn fill_with_photo(
    sheet: &mut Sheet,
    piece: PieceId,
    fill: FillId,
    photo: &PhotoId,
    library: &dyn Library,
) -> Result<(), Refusal> {
    let target = opening_bounds(sheet, piece, library)?;
    let (width, height) = bring_in(sheet, photo, library)?;
    let window = window(sheet, piece)?;
    let kept = window.photos().next().map(|(_, p)| p.clone());
    // a photo in place of another of the same proportions takes its place exactly
    let placement = match kept.and_then(|old| Some((sheet.photos.get(&old.photo)?, old.placement))) {
        Some((old, place)) if old.width * height == old.height * width => {
            Placement { scale: place.scale * f64::from(old.width) / f64::from(width), ..place }
        }
        _ => Placement::cover(width, height, target),
    };
    let window = self::window(sheet, piece)?;
    window.fills.retain(|f| !matches!(f.paint, FillPaint::Photo(_)));
    window.breakout = Breakout::default();
    window.fills.push(Fill { id: fill, paint: FillPaint::Photo(PhotoFill { photo: photo.clone(), placement }) });
    Ok(())
}

fn move_piece(piece: &mut Piece, what: Grip, by: &crate::sheet::Similarity) -> Result<(), Refusal> {
    match &mut piece.kind {
        PieceKind::Picture(picture) => {
            picture.placement = picture.placement.moved(by);
            check::placement(&picture.placement)
        }
        PieceKind::Window(window) => {
            if what != Grip::Fill {
                for form in &mut window.opening.forms {
                    form.transform(by.affine());
                    check::form(form, 0)?;
                }
                let opening = &mut window.opening;
                for length in [&mut opening.grow, &mut opening.rounding, &mut opening.simplify] {
                    *length *= by.scale();
                }
            }
            if what != Grip::Opening {
                for fill in &mut window.fills {
                    if let FillPaint::Photo(photo) = &mut fill.paint {
                        photo.placement = photo.placement.moved(by);
                        check::placement(&photo.placement)?;
                    }
                }
            }
            Ok(())
        }
    }
}

fn copy_piece(sheet: &mut Sheet, id: PieceId, copy: PieceId) -> Result<(), Refusal> {
    let at = sheet.pieces.iter().position(|p| p.id == id).ok_or(Refusal::NoPiece)?;
    if sheet.piece(copy).is_some() {
        return Err(Refusal::Inconsistent("two pieces share an identifier"));
    }
    let mut piece = Piece { id: copy, locked: false, ..sheet.pieces[at].clone() };
    if let Some(window) = piece.window_mut() {
        let before: Vec<FormId> = window.opening.forms.iter().map(|f| f.id).collect();
        window.opening.forms.iter_mut().for_each(fresh_ids);
        let after: Vec<FormId> = window.opening.forms.iter().map(|f| f.id).collect();
        for id in window.opening.cells.iter_mut().flat_map(|c| &mut c.cover) {
            if let Some(at) = before.iter().position(|b| b == id) {
                *id = after[at];
            }
        }
        for fill in &mut window.fills {
            let fresh = FillId::fresh();
            window.breakout.let_out.iter_mut().filter(|a| a.fill == fill.id).for_each(|a| a.fill = fresh);
            fill.id = fresh;
        }
    }
    let step = 0.04 * sheet.width.min(sheet.height);
    move_piece(&mut piece, Grip::Both, &crate::sheet::Similarity { a: 1.0, b: 0.0, dx: step, dy: step })?;
    sheet.pieces.insert(at + 1, piece);
    check::amounts(sheet)
}
