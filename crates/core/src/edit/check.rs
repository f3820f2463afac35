//! What a sheet has to keep to, whoever made it.

use super::Refusal;
use super::check_paint::{border, fill, finish, ink, paint};
use crate::cutout::Hints;
use crate::sheet::limits::{
    BRUSH_POINTS, CHARACTERS, FILLS, FORMS, LISTS_DEEP, MIN_SIDE_MM, NAME, NODES, PHOTO_PIXELS, PIECES, SHEET_PIXELS,
    SIDE_MM, STROKE_POINTS,
};
use crate::sheet::{
    BasicShape, Contour, Credit, Figure, Form, FormShape, Lettering, Opening, PieceKind, Sheet, Stroke,
};
use std::collections::BTreeSet;

/// Checks a whole sheet, as it comes from a file.
///
/// # Errors
/// The first thing that is wrong with it.
pub fn check_sheet(sheet: &Sheet) -> Result<(), Refusal> {
    size(sheet.width, sheet.height, sheet.ppi)?;
    within("The bleed", sheet.bleed, 0.0, 100.0)?;
    pixels(sheet)?;
    name(&sheet.name)?;
    amounts(sheet)?;
    let mut ids = BTreeSet::new();
    for piece in &sheet.pieces {
        if !ids.insert(piece.id) {
            return Err(Refusal::Inconsistent("two pieces share an identifier"));
        }
        if let Some(n) = &piece.name {
            name(n)?;
        }
        if sheet.shows(piece.id, piece.id) {
            return Err(Refusal::WithinItself);
        }
        match &piece.kind {
            PieceKind::Picture(p) => {
                placement(&p.placement)?;
                known(sheet, &p.photo)?;
            }
            PieceKind::Window(w) => {
                opening(&w.opening, sheet)?;
                w.fills.iter().try_for_each(|f| fill(f, sheet))?;
                if w.fills.len() > FILLS {
                    return Err(Refusal::TooManyFills);
                }
                finish(&w.finish, sheet)?;
                breakout(&w.breakout)?;
            }
        }
    }
    sheet.credits.iter().try_for_each(|(of, c)| credit(sheet, of, Some(c)))?;
    within("The grain of the paper", sheet.paper, 0.0, 1.0)?;
    let mut inks = BTreeSet::new();
    for ink in &sheet.inks {
        if !inks.insert(ink.id) {
            return Err(Refusal::Inconsistent("two inks share an identifier"));
        }
        self::ink(ink)?;
    }
    if let Some(p) = &sheet.backdrop {
        paint(p, sheet)?;
    }
    if let Some(b) = &sheet.border {
        border(b, sheet)?;
    }
    for photo in sheet.photos.values() {
        let pixels = u64::from(photo.width) * u64::from(photo.height);
        if pixels == 0 || pixels > PHOTO_PIXELS {
            return Err(Refusal::Inconsistent("a photo of an impossible size"));
        }
        subjects(photo)?;
    }
    Ok(())
}

pub(super) fn known(sheet: &Sheet, photo: &crate::sheet::PhotoId) -> Result<(), Refusal> {
    if sheet.photos.contains_key(photo) { Ok(()) } else { Err(Refusal::NoPhoto) }
}

pub(super) fn size(width: f64, height: f64, ppi: f64) -> Result<(), Refusal> {
    let side = |v: f64| v.is_finite() && (MIN_SIDE_MM..=SIDE_MM).contains(&v);
    if !side(width) || !side(height) {
        return Err(Refusal::SheetSize);
    }
    if !ppi.is_finite() || !(1.0..=2400.0).contains(&ppi) {
        return Err(Refusal::Resolution);
    }
    Ok(())
}

/// Whether a sheet has no more pixels than it may have, its bleed included.
pub(super) fn pixels(sheet: &Sheet) -> Result<(), Refusal> {
    let per_mm = sheet.ppi / crate::sheet::MM_PER_INCH;
    let side = |mm: f64| (mm + 2.0 * sheet.bleed) * per_mm;
    if side(sheet.width) * side(sheet.height) > SHEET_PIXELS {
        return Err(Refusal::SheetPixels);
    }
    Ok(())
}

pub(super) fn name(name: &str) -> Result<(), Refusal> {
    match name.trim().is_empty() {
        true => Err(Refusal::NoName),
        false if name.chars().count() > NAME => Err(Refusal::LongName),
        false => Ok(()),
    }
}

/// A credit, and that what it is for is on the sheet.
pub(super) fn credit(sheet: &Sheet, of: &str, credit: Option<&Credit>) -> Result<(), Refusal> {
    if !sheet.photos.contains_key(&of.into()) && !sheet.drawings.contains_key(&of.into()) {
        return Err(Refusal::NoPhoto);
    }
    let long = |text: &str| text.chars().count() > NAME;
    match credit {
        Some(c) if long(&c.title) || long(&c.maker) => Err(Refusal::LongName),
        _ => Ok(()),
    }
}

pub(super) fn amounts(sheet: &Sheet) -> Result<(), Refusal> {
    if sheet.pieces.len() > PIECES {
        return Err(Refusal::TooManyPieces);
    }
    let forms = sheet.windows().flat_map(|(_, w)| w.forms());
    let characters: usize = forms.flat_map(Form::letterings).map(|l| l.text.chars().count()).sum();
    if characters > CHARACTERS { Err(Refusal::TooMuchType) } else { Ok(()) }
}

pub(super) fn lettering(l: &Lettering) -> Result<(), Refusal> {
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
pub(super) fn opening(opening: &Opening, sheet: &Sheet) -> Result<(), Refusal> {
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
            return Err(crate::outline::OutlineError::NoDrawing(d.drawing.clone()).into());
        }
    }
    opening.forms.iter().try_for_each(|f| self::form(f, 0))?;
    let places: usize = all.iter().map(|f| if let FormShape::Brush(b) = &f.shape { b.points() } else { 0 }).sum();
    if places > BRUSH_POINTS {
        return Err(Refusal::TooManyStrokes);
    }
    let nodes: usize = all.iter().map(|f| if let FormShape::Contour(c) = &f.shape { c.nodes() } else { 0 }).sum();
    if nodes > NODES {
        return Err(Refusal::TooManyNodes);
    }
    if opening.open.len() > crate::sheet::limits::OPEN_SIDES {
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

pub(super) fn within(what: &'static str, value: f64, least: f64, most: f64) -> Result<(), Refusal> {
    if value.is_finite() && (least..=most).contains(&value) { Ok(()) } else { Err(Refusal::Number(what)) }
}

/// One form, and what a list holds.
pub(super) fn form(form: &Form, depth: usize) -> Result<(), Refusal> {
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
        FormShape::Brush(b) => b.strokes.iter().try_for_each(stroke),
        FormShape::Drawing(d) => within("The size of specks", d.specks, 0.0, 1e9),
        FormShape::List { forms } => forms.iter().try_for_each(|f| self::form(f, depth + 1)),
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
        Figure::Polygon { sides, rounding } => count(*sides).and(radius(*rounding)),
        Figure::Star { points, depth, rounding } => count(*points).and(share(*depth)).and(radius(*rounding)),
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

pub(super) fn placement(p: &crate::sheet::Placement) -> Result<(), Refusal> {
    if p.is_sound() { Ok(()) } else { Err(Refusal::Number("The place of the photo")) }
}

/// Subjects with names, each with a number of its own.
fn subjects(photo: &crate::sheet::Photo) -> Result<(), Refusal> {
    if photo.subjects.len() > crate::sheet::limits::SUBJECTS {
        return Err(Refusal::TooManySubjects);
    }
    for (k, subject) in photo.subjects.iter().enumerate() {
        if photo.subjects[..k].iter().any(|s| s.key == subject.key) {
            return Err(Refusal::Inconsistent("two subjects of a photo have one number"));
        }
        subject_name(&subject.name)?;
        subject.hints.check()?;
    }
    Ok(())
}

pub(super) fn subject_name(name: &str) -> Result<(), Refusal> {
    if name.trim().is_empty() || name.chars().count() > NAME {
        return Err(Refusal::LongName);
    }
    Ok(())
}

pub(super) fn breakout(breakout: &crate::sheet::Breakout) -> Result<(), Refusal> {
    if breakout.let_out.iter().chain(&breakout.under).any(|a| !a.x.is_finite() || !a.y.is_finite()) {
        return Err(Refusal::Number("A place in a photo"));
    }
    let strokes = breakout.painted.iter().map(|s| s.stroke.clone()).collect();
    Hints { strokes, ..Hints::default() }.check()?;
    let Some(line) = &breakout.reach else { return Ok(()) };
    let sound = line.from.iter().chain(&line.to).all(|v| v.abs() <= FARTHEST);
    let long = (line.from[0] - line.to[0]).hypot(line.from[1] - line.to[1]) > 0.01;
    if sound && long { Ok(()) } else { Err(Refusal::Number("The reach line")) }
}

/// How far from the sheet's corner a line may lie, in millimetres.
const FARTHEST: f64 = 1e5;
