//! What openings and forms have to keep to.

use super::refusal::Refusal;
use super::values::within;
use crate::outline::OutlineError;
use crate::sheet::limits::{BRUSH_POINTS, CHARACTERS, FORMS, LISTS_DEEP, NODES, OPEN_SIDES, SIDE_MM, STROKE_POINTS};
use crate::sheet::{BasicShape, Contour, Figure, Form, FormShape, Lettering, Opening, Sheet, Stroke};
use std::collections::BTreeSet;

/// Checks an opening that stands alone.
///
/// # Errors
/// The first thing that is wrong with it.
pub fn check_opening(opening: &Opening, sheet: &Sheet) -> Result<(), Refusal> {
    let characters: usize = opening.forms.iter().flat_map(Form::letterings).map(|l| l.text.chars().count()).sum();
    if characters > CHARACTERS {
        return Err(Refusal::TooMuchType);
    }
    self::opening(opening, sheet)
}

/// An opening as a whole, its forms included.
pub(crate) fn opening(opening: &Opening, sheet: &Sheet) -> Result<(), Refusal> {
    let mut ids = BTreeSet::new();
    let all = opening.all();
    if all.len() > FORMS {
        return Err(Refusal::TooManyForms);
    }
    for form in &all {
        if !ids.insert(form.id) {
            return Err(Refusal::Inconsistent("two forms share an identifier"));
        }
        if let FormShape::Drawing(d) = &form.shape
            && !sheet.drawings.contains_key(&d.drawing)
        {
            return Err(OutlineError::NoDrawing(d.drawing.clone()).into());
        }
    }
    opening.forms.iter().try_for_each(form)?;
    let places: usize = all.iter().map(|f| if let FormShape::Brush(b) = &f.shape { b.points() } else { 0 }).sum();
    if places > BRUSH_POINTS {
        return Err(Refusal::TooManyStrokes);
    }
    let nodes: usize = all.iter().map(|f| if let FormShape::Contour(c) = &f.shape { c.nodes() } else { 0 }).sum();
    if nodes > NODES {
        return Err(Refusal::TooManyNodes);
    }
    if opening.open.len() > OPEN_SIDES {
        return Err(Refusal::OpenSides);
    }
    for side in &opening.open {
        within("The reach of an open side", side.far, 0.0, SIDE_MM)?;
        within("The begin of an open side", side.from, 0.0, 1.0)?;
        within("The end of an open side", side.to, side.from + 1e-3, 1.0)?;
    }
    within("The growth of the opening", opening.grow, -SIDE_MM, SIDE_MM)?;
    within("The rounding of the opening", opening.rounding, 0.0, SIDE_MM)?;
    within("The tolerance", opening.simplify, 0.0, SIDE_MM)
}

pub(crate) fn lettering(l: &Lettering) -> Result<(), Refusal> {
    if l.text.trim().is_empty() {
        return Err(Refusal::EmptyWord);
    }
    if !l.size.is_finite() || !(0.1..=SIDE_MM).contains(&l.size) {
        return Err(Refusal::Number("The size of the type"));
    }
    if !l.tracking.is_finite() || l.tracking.abs() > 5_000.0 {
        return Err(Refusal::Number("The tracking"));
    }
    if !l.leading.is_finite() || !(0.1..=10.0).contains(&l.leading) {
        return Err(Refusal::Number("The leading"));
    }
    let tags = l.features.iter().all(|f| f.tag.len() == 4 && f.tag.bytes().all(|b| b.is_ascii_alphanumeric()));
    if !tags || l.features.len() > 100 {
        return Err(Refusal::Inconsistent("a feature of type without a proper tag"));
    }
    if let Some(along) = &l.along {
        within("The place along the edge", along.start, -100.0, 100.0)?;
        within("The distance from the edge", along.off, -100_000.0, 100_000.0)?;
    }
    for shift in &l.letters {
        within("The shift of a letter", shift.dx.abs() + shift.dy.abs(), 0.0, 1e6)?;
        within("The turn of a letter", shift.turn, -3600.0, 3600.0)?;
        within("The scale of a letter", shift.scale, 0.01, 100.0)?;
    }
    Ok(())
}

/// One form, and what a list holds.
pub(crate) fn form(form: &Form) -> Result<(), Refusal> {
    form_at(form, 0)
}

fn form_at(form: &Form, depth: usize) -> Result<(), Refusal> {
    if depth > LISTS_DEEP {
        return Err(Refusal::TooDeep);
    }
    if !form.pose.is_sound() {
        return Err(Refusal::Number("The place of a form"));
    }
    if let Some(bend) = &form.bend {
        within("The bend", bend.amount, -1.0, 1.0)?;
    }
    if let Some(line) = &form.line {
        within("The width of the line", line.width, 0.001, SIDE_MM)?;
    }
    match &form.shape {
        FormShape::Lettering(l) => lettering(l),
        FormShape::Basic(b) => basic(b),
        FormShape::Contour(c) => contour(c),
        FormShape::Brush(b) => b.strokes.values().try_for_each(stroke),
        FormShape::Drawing(d) => within("The size of specks", d.specks, 0.0, 1e9),
        FormShape::List { forms } => forms.iter().try_for_each(|f| form_at(f, depth + 1)),
    }
}

fn basic(b: &BasicShape) -> Result<(), Refusal> {
    within("The width of the shape", b.width, 0.001, 4.0 * SIDE_MM)?;
    within("The height of the shape", b.height, 0.001, 4.0 * SIDE_MM)?;
    let share = |v: f64| within("A share of the shape", v, 0.0, 1.0);
    let radius = |v: f64| within("A radius", v, 0.0, 4.0 * SIDE_MM);
    let count = |n: u32| if n <= 200 { Ok(()) } else { Err(Refusal::Number("The count of the shape")) };
    match &b.figure {
        Figure::Box { corners } => corners.iter().try_for_each(|r| radius(*r)),
        Figure::Ring { hole: v } | Figure::Arch { rise: v } | Figure::Cross { arm: v } => share(*v),
        Figure::Sector { from, sweep } => {
            within("An angle", *from, -3600.0, 3600.0)?;
            within("An angle", *sweep, -360.0, 360.0)
        }
        Figure::Triangle { lean, rounding } => share(*lean).and(radius(*rounding)),
        Figure::Polygon { sides, rounding, .. } => count(*sides).and(radius(*rounding)),
        Figure::Star { points, depth, rounding, .. } => count(*points).and(share(*depth)).and(radius(*rounding)),
        Figure::Arrow { head, shaft } => share(*head).and(share(*shaft)),
        Figure::Zigzag { teeth, depth } => count(*teeth).and(share(*depth)),
        Figure::Cloud { bumps } => count(*bumps),
        Figure::Blot { roughness, .. } => share(*roughness),
        Figure::Ellipse | Figure::Heart | Figure::Drop | Figure::Line { .. } => Ok(()),
    }
}

fn stroke(stroke: &Stroke) -> Result<(), Refusal> {
    if stroke.points.len() > STROKE_POINTS {
        return Err(Refusal::LongStroke);
    }
    within("The size of the brush", stroke.size, 0.001, SIDE_MM)?;
    within("The hardness of the brush", stroke.hardness, 0.0, 1.0)?;
    let sound = |[x, y, p]: &[f64; 3]| x.abs() <= 1e6 && y.abs() <= 1e6 && (0.0..=1.0).contains(p);
    if stroke.points.iter().all(sound) { Ok(()) } else { Err(Refusal::Number("A place of the brush")) }
}

fn contour(contour: &Contour) -> Result<(), Refusal> {
    let sound = |v: &f64| v.is_finite() && v.abs() <= 1e6;
    let all_sound = contour.subpaths.iter().flat_map(|s| &s.nodes).all(|n| {
        let handles = [n.before, n.after];
        [n.x, n.y].iter().all(sound) && handles.iter().flatten().flatten().all(sound)
    });
    if all_sound { Ok(()) } else { Err(Refusal::Number("The place of a node")) }
}
