//! Changes to the opening of a window: its forms, joins and cells, and the outline as a whole.

use super::{Refusal, check};
use crate::combine::{grow, unite};
use crate::library::Library;
use crate::outline::{form_path, lettering_path, opening_path};
use crate::sheet::{
    Align, CellChoice, Contour, FontId, Form, FormId, FormShape, Join, Lettering, OpenSide, Opening, PieceId, Pose,
    Sheet, Window,
};
use kurbo::{Affine, BezPath, Shape};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A change to an opening.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "change", rename_all = "snake_case")]
pub enum OpeningChange {
    /// At the end of the opening's own list.
    AddForm {
        form: Form,
    },
    /// A word, set into the opening's width.
    AddWord {
        form: FormId,
        text: String,
        font: FontId,
        join: Join,
    },
    /// Takes the place of the form with the same identifier.
    SetForm {
        form: Form,
    },
    SetJoin {
        form: FormId,
        join: Join,
    },
    SwitchForm {
        form: FormId,
        off: bool,
    },
    RemoveForms {
        forms: Vec<FormId>,
    },
    CopyForm {
        form: FormId,
        copy: FormId,
    },
    /// To the place `to` of the opening's own list, or of the list `into`.
    OrderForm {
        form: FormId,
        #[serde(default)]
        #[ts(optional = nullable)]
        into: Option<FormId>,
        to: usize,
    },
    /// Gathers neighbours of one list into a new list, in the place of the first of them.
    Gather {
        forms: Vec<FormId>,
        list: FormId,
    },
    /// Puts the forms of a list in its place.
    Spread {
        list: FormId,
    },
    /// Moves, scales, turns, mirrors or slants forms in sheet space; all of the opening's own list where none is named. SVG's
    /// order of coefficients.
    Transform {
        forms: Vec<FormId>,
        by: [f64; 6],
    },
    SetCells {
        cells: Vec<CellChoice>,
    },
    /// How the joined outline is reshaped; millimetres.
    Reshape {
        grow: f64,
        rounding: f64,
        simplify: f64,
    },
    /// Sides at which nothing is cut.
    OpenSides {
        sides: Vec<OpenSide>,
    },
    /// Freezes a form into nodes that lie inside of its edge by a width in millimetres; outside where it is negative.
    StepInside {
        form: FormId,
        by: f64,
    },
    /// Freezes a form into nodes.
    Bake {
        form: FormId,
    },
    /// Freezes the whole opening into one form of nodes.
    BakeAll {
        form: FormId,
    },
}

impl OpeningChange {
    /// What undo and redo call it.
    pub fn name(&self, window: Option<&Window>) -> String {
        let find = |id: FormId| window.and_then(|w| w.opening.form(id));
        let label = |id: FormId| find(id).map_or("form".into(), |f| super::names::short(&f.label().to_lowercase()));
        match self {
            Self::AddForm { form } => format!("add {}", form.label().to_lowercase()),
            Self::AddWord { .. } => "add lettering".into(),
            Self::SetForm { form } => set_name(find(form.id), form),
            Self::SetJoin { join, .. } => match join {
                Join::Add => "join: add".into(),
                Join::CutAway => "join: cut away".into(),
                Join::KeepShared => "join: keep shared".into(),
                Join::DropShared => "join: drop shared".into(),
            },
            Self::SwitchForm { form, off: true } => format!("switch off {}", label(*form)),
            Self::SwitchForm { form, off: false } => format!("switch on {}", label(*form)),
            Self::RemoveForms { forms } => match forms.as_slice() {
                [one] => format!("remove {}", label(*one)),
                _ => "remove forms".into(),
            },
            Self::CopyForm { form, .. } => format!("copy {}", label(*form)),
            Self::OrderForm { .. } => "order forms".into(),
            Self::Gather { .. } => "gather into a list".into(),
            Self::Spread { .. } => "spread the list".into(),
            Self::Transform { by, .. } => transform_name(*by).into(),
            Self::SetCells { .. } => "cells".into(),
            Self::OpenSides { .. } => "open sides".into(),
            Self::Reshape { .. } => "reshape the opening".into(),
            Self::StepInside { form, .. } => format!("step inside {}", label(*form)),
            Self::Bake { form } => format!("bake {}", label(*form)),
            Self::BakeAll { .. } => "bake the opening".into(),
        }
    }
}

fn set_name(old: Option<&Form>, new: &Form) -> String {
    let what = new.label().to_lowercase();
    let Some(old) = old else {
        return format!("change {what}");
    };
    let differs = match (&old.shape, &new.shape) {
        _ if old.bend != new.bend => "bend",
        _ if old.line != new.line => "own line of",
        _ if old.pose.pull != new.pose.pull => "pull corners of",
        _ if old.pose != new.pose => "place",
        (FormShape::Drawing(a), FormShape::Drawing(b)) if a.specks != b.specks => "specks of",
        (FormShape::Drawing(_), FormShape::Drawing(_)) => "pick pieces of",
        (FormShape::Contour(_), FormShape::Contour(_)) => "nodes of",
        (FormShape::Brush(_), FormShape::Brush(_)) => "paint",
        _ => "change",
    };
    format!("{differs} {}", super::names::short(&what))
}

fn transform_name([a, b, c, d, ..]: [f64; 6]) -> &'static str {
    let near = |x: f64, y: f64| (x - y).abs() < 1e-9;
    match a * d - b * c {
        _ if near(a, 1.0) && near(d, 1.0) && near(b, 0.0) && near(c, 0.0) => "move the form",
        det if det < 0.0 => "mirror the form",
        det if near(det, 1.0) && near(a, d) && near(b, -c) => "turn the form",
        _ if near(b, 0.0) && near(c, 0.0) => "scale the form",
        _ if near(a, 1.0) && near(d, 1.0) => "slant the form",
        _ => "transform the form",
    }
}

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
    let opening = &mut window.opening;
    match change {
        OpeningChange::AddForm { form } => {
            unused(opening, form.id)?;
            drawable(form, library)?;
            opening.forms.push(form.clone());
        }
        OpeningChange::AddWord { form, text, font, join } => {
            unused(opening, *form)?;
            let word = word_in(sheet, opening, *form, text, font, library)?;
            opening.forms.push(Form { join: *join, ..word });
        }
        OpeningChange::SetForm { form } => {
            drawable(form, library)?;
            *opening.form_mut(form.id).ok_or(Refusal::NoPart)? = form.clone();
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
                return Err(Refusal::LastForm);
            }
        }
        OpeningChange::CopyForm { form, copy } => {
            unused(opening, *copy)?;
            let (list, at) = opening.place_mut(*form).ok_or(Refusal::NoPart)?;
            let mut twin = list[at].clone();
            fresh_ids(&mut twin);
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
                let space = list_space(opening, id)?;
                // the transform is given on the sheet; a form in a list is moved in the list's own space
                form_mut(opening, id)?.transform(space.inverse() * by * space);
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
    check::opening(opening, sheet)
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
            fresh_ids(&mut list);
            Form { id, ..list }
        }
        _ => baked(id, &opening_path(&taken, library)?),
    };
    let opening = &mut super::apply::window(sheet, piece)?.opening;
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

/// Refuses what has no outline: text without letters, crossed corners, a drawing that is not there.
pub(super) fn drawable(form: &Form, library: &dyn Library) -> Result<(), Refusal> {
    check::form(form, 0)?;
    form_path(form, &[], library)?;
    Ok(())
}

/// A form of nodes with its middle as its origin.
pub(super) fn baked(id: FormId, path: &BezPath) -> Form {
    let c = if path.is_empty() { kurbo::Point::ZERO } else { path.bounding_box().center() };
    let contour = Contour::from_path(&(Affine::translate(-c.to_vec2()) * path));
    Form::new(id, Pose::at(c.x, c.y), FormShape::Contour(contour))
}

fn word_in(
    sheet: &Sheet,
    opening: &Opening,
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
    let around = opening_path(opening, library).ok().filter(|p| !p.is_empty()).map(|p| p.bounding_box());
    let around = around.unwrap_or_else(|| kurbo::Rect::new(0.0, 0.0, sheet.width, sheet.height));
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

/// New identifiers for a form and all it holds.
pub(super) fn fresh_ids(form: &mut Form) {
    form.id = FormId::fresh();
    if let FormShape::List { forms } = &mut form.shape {
        forms.iter_mut().for_each(fresh_ids);
    }
}
