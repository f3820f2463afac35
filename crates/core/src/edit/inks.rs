//! Edits of a sheet's inks.

use crate::check::{self, Refusal};
use crate::sheet::{FillPaint, Gradient, Ink, InkId, Mix, Paint, Print, Sheet, Tint, Tone};

pub(super) fn set(sheet: &mut Sheet, ink: &Ink) -> Result<(), Refusal> {
    check::ink(ink)?;
    match sheet.inks.iter_mut().find(|i| i.id == ink.id) {
        Some(known) => *known = ink.clone(),
        None => sheet.inks.push(ink.clone()),
    }
    check::inks(sheet)
}

/// What was painted with it is painted with what it was.
pub(super) fn remove(sheet: &mut Sheet, id: InkId) -> Result<(), Refusal> {
    let ink = sheet.ink(id).ok_or(Refusal::NoInk)?.clone();
    let colour = sheet.colour(&Tint::Ink(id));
    let tint = |t: &mut Tint| {
        if t.ink() == Some(id) {
            *t = Tint::Colour(colour);
        }
    };
    each_paint(sheet, &mut |paint| match paint {
        Paint::Ink { ink: used, vector } if *used == id => {
            *paint = match &ink.mix {
                Mix::Colour { colour } => Paint::colour(*colour),
                Mix::Gradient { gradient } => Paint::Gradient { gradient: gradient.clone(), vector: *vector },
            };
        }
        Paint::Gradient { gradient: Gradient { stops, .. }, .. } => stops.iter_mut().for_each(|s| tint(&mut s.tint)),
        _ => {}
    });
    each_tint(sheet, &tint);
    sheet.inks.retain(|i| i.id != id);
    Ok(())
}

fn each_paint(sheet: &mut Sheet, act: &mut dyn FnMut(&mut Paint)) {
    sheet.backdrop.iter_mut().for_each(&mut *act);
    sheet.border.iter_mut().for_each(|b| act(&mut b.paint));
    for window in sheet.pieces.iter_mut().filter_map(|p| p.window_mut()) {
        for fill in &mut window.fills {
            match &mut fill.paint {
                FillPaint::Plain(paint) => act(paint),
                FillPaint::Form(form) => act(&mut form.paint),
                FillPaint::Drawing(d) => d.looks.iter_mut().filter_map(|l| l.paint.as_mut()).for_each(&mut *act),
                FillPaint::Photo(_) | FillPaint::Tile(_) | FillPaint::Window(_) => {}
            }
        }
        window.finish.rims.iter_mut().for_each(|r| act(&mut r.paint));
    }
}

/// Every tint that is not a stop of a gradient.
fn each_tint(sheet: &mut Sheet, act: &dyn Fn(&mut Tint)) {
    let tone = |tone: &mut Tone| match &mut tone.print {
        Some(Print::One { dark }) => act(dark),
        Some(Print::Two { dark, light }) => {
            act(dark);
            act(light);
        }
        None => {}
    };
    for window in sheet.pieces.iter_mut().filter_map(|p| p.window_mut()) {
        for fill in &mut window.fills {
            match &mut fill.paint {
                FillPaint::Photo(p) => tone(&mut p.tone),
                FillPaint::Tile(t) => tone(&mut t.tone),
                FillPaint::Drawing(_) | FillPaint::Form(_) | FillPaint::Window(_) | FillPaint::Plain(_) => {}
            }
        }
        window.finish.shadows.iter_mut().for_each(|s| act(&mut s.tint));
    }
    sheet.bundles.iter_mut().flat_map(|b| &mut b.finish.shadows).for_each(|s| act(&mut s.tint));
}
