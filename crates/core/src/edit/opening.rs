//! Changes to the opening of a window: its forms, joins and cells, and the outline as a whole. Forms that fill a window are set and
//! transformed as those of its opening are.

use super::forms::{baked, copy_ids, drawable};
use super::opening_change::OpeningChange;
use super::target;
use crate::check::{self, Refusal};
use crate::combine::{grow, unite};
use crate::library::Library;
use crate::outline::{form_path, lettering_path, opening_path, shown_outline};
use crate::sheet::{
    Align, FillPaint, FontId, Form, FormId, FormShape, Join, Lettering, Opening, PieceId, Pose, Sheet, Window,
};
use kurbo::{Affine, BezPath, Rect, Shape};

/// Makes a change to a window's opening.
///
/// # Errors
/// A sentence; the opening may be half changed then, the caller drops it.
pub(super) fn change_opening(
    sheet: &Sheet,
    window: &mut Window,
    change: &OpeningChange,
    library: &dyn Library,
) -> Result<(), Refusal> {
    let was = window.clone();
    let opening = &mut window.opening;
    match change {
        OpeningChange::AddForm { form } => {
            unused(opening, form.id)?;
            drawable(form, library)?;
            opening.forms.push(form.clone());
        }
        OpeningChange::AddWord { form, text, font, join } => {
            unused(opening, *form)?;
            let around = shown_outline(sheet, &was, library).ok().filter(|o| !o.path.is_empty());
            let around = around.map(|o| o.path.bounding_box());
            let word = word_in(sheet, around, *form, text, font, library)?;
            opening.forms.push(Form { join: *join, ..word });
        }
        OpeningChange::SetForm { form } => {
            drawable(form, library)?;
            *window.form_mut(form.id).ok_or(Refusal::NoPart)? = form.clone();
        }
        OpeningChange::SetJoin { form, join } => form_mut(opening, *form)?.join = *join,
        OpeningChange::SwitchForm { form, off } => form_mut(opening, *form)?.off = *off,
        OpeningChange::RemoveForms { forms } => {
            for id in forms {
                let (list, at) = opening.place_mut(*id).ok_or(Refusal::NoPart)?;
                list.remove(at);
            }
            drop_empty_lists(&mut opening.forms);
            if opening.forms.is_empty() {
                // the mask is taken off: what was whole behind it stays
                if !window.has_whole() {
                    return Err(Refusal::LastForm);
                }
                window.opening = Opening::default();
                return Ok(());
            }
        }
        OpeningChange::CopyForm { form, copy } => {
            unused(opening, *copy)?;
            let (list, at) = opening.place_mut(*form).ok_or(Refusal::NoPart)?;
            let mut twin = list[at].clone();
            copy_ids(&mut twin, copy.0);
            twin.id = *copy;
            let step = 0.03 * sheet.width.min(sheet.height);
            twin.transform(Affine::translate((step, step)));
            list.insert(at + 1, twin);
        }
        OpeningChange::OrderForm { form, into, to } => order(opening, *form, *into, *to)?,
        OpeningChange::Gather { forms, list } => gather(opening, forms, *list)?,
        OpeningChange::Spread { list } => spread(opening, *list)?,
        OpeningChange::Transform { forms, by } => {
            let by = Affine::new(*by);
            if !by.is_finite() || by.determinant().abs() < 1e-9 {
                return Err(Refusal::Number("The transform"));
            }
            let chosen: Vec<FormId> =
                if forms.is_empty() { opening.forms.iter().map(|f| f.id).collect() } else { forms.clone() };
            for id in chosen {
                // the transform is given on the sheet; a form in a list is moved in the list's own space
                let space =
                    if window.opening.form(id).is_some() { list_space(&window.opening, id)? } else { Affine::IDENTITY };
                window.form_mut(id).ok_or(Refusal::NoPart)?.transform(space.inverse() * by * space);
            }
        }
        OpeningChange::SetCells { cells } => {
            opening.cells = cells.clone();
            opening.cells.iter_mut().for_each(|c| c.cover.sort());
        }
        OpeningChange::Reshape { grow, rounding, simplify } => {
            (opening.grow, opening.rounding, opening.simplify) = (*grow, *rounding, *simplify);
        }
        OpeningChange::OpenSides { sides } => opening.open.clone_from(sides),
        OpeningChange::StepInside { form, by } => {
            check::within("The width", *by, -1000.0, 1000.0)?;
            let path = grow(&own_outline(opening, *form, library)?, -by);
            let form = form_mut(opening, *form)?;
            if path.is_empty() {
                return Err(Refusal::NothingLeft);
            }
            *form = Form { join: form.join, off: form.off, ..baked(form.id, &path) };
        }
        OpeningChange::Bake { form } => {
            // in place: pose, bend and pull become part of the nodes; the join stays
            let path = own_outline(opening, *form, library)?;
            let form = form_mut(opening, *form)?;
            *form = Form { join: form.join, off: form.off, ..baked(form.id, &path) };
        }
        OpeningChange::BakeAll { form } => {
            let path = opening_path(opening, library)?;
            if path.is_empty() {
                return Err(Refusal::NothingLeft);
            }
            *opening = Opening { forms: vec![baked(*form, &path)], ..Opening::default() };
        }
    }
    check::opening(&window.opening, sheet)?;
    window.fills.iter().filter(|f| matches!(f.paint, FillPaint::Form(_))).try_for_each(|f| check::fill(f, sheet))
}

/// Puts the forms of another window into an opening, as one form: a list where there are several. What a list of forms does not have (cells, a reshaped outline, open sides)
/// freezes them into nodes.
pub(super) fn take_in(
    sheet: &mut Sheet,
    (piece, other): (PieceId, PieceId),
    (id, join): (FormId, Join),
    library: &dyn Library,
) -> Result<(), Refusal> {
    if piece == other {
        return Err(Refusal::WithinItself);
    }
    let taken = sheet.piece(other).ok_or(Refusal::NoPiece)?.window().ok_or(Refusal::NoPart)?.opening.clone();
    let is_list = Opening { forms: taken.forms.clone(), ..Opening::default() } == taken;
    let form = match taken.forms.as_slice() {
        [one] if is_list => Form { id, ..one.clone() },
        _ if is_list => {
            let mut list = Form::new(id, Pose::default(), FormShape::List { forms: taken.forms });
            copy_ids(&mut list, id.0);
            Form { id, ..list }
        }
        _ => baked(id, &opening_path(&taken, library)?),
    };
    let opening = &mut target::window(sheet, piece)?.opening;
    unused(opening, id)?;
    opening.forms.push(Form { join, ..form });
    check::opening(&opening.clone(), sheet)
}

/// The outline of one form in the space of its list, without overlaps.
fn own_outline(opening: &mut Opening, id: FormId, library: &dyn Library) -> Result<BezPath, Refusal> {
    let (list, at) = opening.place_mut(id).ok_or(Refusal::NoPart)?;
    Ok(unite(&form_path(&list[at], list, library)?))
}

fn form_mut(opening: &mut Opening, id: FormId) -> Result<&mut Form, Refusal> {
    opening.form_mut(id).ok_or(Refusal::NoPart)
}

fn unused(opening: &Opening, id: FormId) -> Result<(), Refusal> {
    if opening.form(id).is_some() { Err(Refusal::Inconsistent("two forms share an identifier")) } else { Ok(()) }
}

fn word_in(
    sheet: &Sheet,
    around: Option<Rect>,
    id: FormId,
    text: &str,
    font: &FontId,
    library: &dyn Library,
) -> Result<Form, Refusal> {
    let mut word = Lettering::plain(text, font.clone(), 10.0);
    check::lettering(&word)?;
    let b = lettering_path(&word, library.fonts()).map_err(crate::outline::OutlineError::from)?.bounding_box();
    if b.width() <= 0.0 || b.height() <= 0.0 {
        return Err(Refusal::EmptyWord);
    }
    let page = Rect::new(0.0, 0.0, sheet.width, sheet.height);
    let around = around.unwrap_or(page);
    let factor = (0.8 * around.width() / b.width()).min(0.5 * around.height() / b.height());
    word.size *= factor;
    word.align = Align::Centre;
    let at = around.center() - b.center().to_vec2() * factor;
    Ok(Form::new(id, Pose::at(at.x, at.y), FormShape::Lettering(word)))
}

/// From the space of the list that holds a form to the sheet.
fn list_space(opening: &Opening, id: FormId) -> Result<Affine, Refusal> {
    fn search(forms: &[Form], id: FormId, space: Affine) -> Option<Affine> {
        forms.iter().find_map(|f| match &f.shape {
            _ if f.id == id => Some(space),
            FormShape::List { forms } => search(forms, id, space * f.pose.affine()),
            _ => None,
        })
    }
    search(&opening.forms, id, Affine::IDENTITY).ok_or(Refusal::NoPart)
}

fn order(opening: &mut Opening, id: FormId, into: Option<FormId>, to: usize) -> Result<(), Refusal> {
    let before = list_space(opening, id)?;
    let (list, at) = opening.place_mut(id).ok_or(Refusal::NoPart)?;
    let mut form = list.remove(at);
    let target = match into {
        None => &mut opening.forms,
        Some(into) => match &mut form_mut(opening, into)?.shape {
            FormShape::List { forms } => forms,
            _ => return Err(Refusal::NoPart),
        },
    };
    let to = to.min(target.len());
    target.insert(to, form.clone());
    let after = list_space(opening, id)?;
    if before != after {
        // it stays where it is seen
        form.transform(after.inverse() * before);
        *form_mut(opening, id)? = form;
    }
    drop_empty_lists(&mut opening.forms);
    Ok(())
}

fn gather(opening: &mut Opening, ids: &[FormId], list: FormId) -> Result<(), Refusal> {
    unused(opening, list)?;
    let first = *ids.first().ok_or(Refusal::NoPart)?;
    let (home, _) = opening.place_mut(first).ok_or(Refusal::NoPart)?;
    let at = home.iter().position(|f| ids.contains(&f.id)).ok_or(Refusal::NoPart)?;
    let (inner, rest): (Vec<Form>, Vec<Form>) = std::mem::take(home).into_iter().partition(|f| ids.contains(&f.id));
    if inner.len() != ids.len() {
        return Err(Refusal::NoPart);
    }
    *home = rest;
    let join = inner[0].join;
    let gathered = Form { join, ..Form::new(list, Pose::default(), FormShape::List { forms: inner }) };
    home.insert(at.min(home.len()), gathered);
    Ok(())
}

fn spread(opening: &mut Opening, list: FormId) -> Result<(), Refusal> {
    let (home, at) = opening.place_mut(list).ok_or(Refusal::NoPart)?;
    let gathered = home.remove(at);
    let FormShape::List { forms } = gathered.shape else {
        return Err(Refusal::NoPart);
    };
    let space = gathered.pose.affine();
    for (i, mut form) in forms.into_iter().enumerate() {
        form.transform(space);
        if i == 0 {
            form.join = gathered.join;
        }
        home.insert(at + i, form);
    }
    Ok(())
}

fn drop_empty_lists(forms: &mut Vec<Form>) {
    for form in forms.iter_mut() {
        if let FormShape::List { forms } = &mut form.shape {
            drop_empty_lists(forms);
        }
    }
    forms.retain(|f| !matches!(&f.shape, FormShape::List { forms } if forms.is_empty()));
}
