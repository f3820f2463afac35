//! What fills, finishes and inks have to keep to, whoever made them.

use super::opening::form;
use super::refusal::Refusal;
use super::values::{known, name, placement, within};
use crate::outline::OutlineError;
use crate::sheet::limits::{INKS, LOOKS, RIMS, SHADOWS, SIDE_MM, STOPS};
use crate::sheet::{
    Border, BundleFinish, Fill, FillPaint, Finish, Gradient, Ink, InkId, Mix, Paint, Print, Shadow, ShadowPlace, Sheet,
    Tint, Tone,
};

pub(crate) fn fill(fill: &Fill, sheet: &Sheet) -> Result<(), Refusal> {
    within("The strength of a fill", fill.strength, 0.0, 1.0)?;
    if let Some(missing) = fill.drawings().into_iter().find(|id| !sheet.drawings.contains_key(*id)) {
        return Err(OutlineError::NoDrawing(missing.clone()).into());
    }
    match &fill.paint {
        FillPaint::Photo(p) => {
            placement(&p.placement)?;
            known(sheet, &p.photo)?;
            tone(&p.tone, sheet)
        }
        FillPaint::Tile(t) => {
            placement(&t.placement)?;
            t.motif.photo().map_or(Ok(()), |id| known(sheet, id))?;
            tone(&t.tone, sheet)?;
            // nearer to one another, copies would lie on each other without end
            t.step.iter().try_for_each(|s| within("The step of a tile", *s, 0.25, 100.0))?;
            within("The offset of a tile", t.offset, -1.0, 1.0)
        }
        FillPaint::Drawing(d) => {
            placement(&d.placement)?;
            if d.looks.len() > LOOKS || !d.looks.is_sorted_by(|a, b| a.part < b.part) {
                return Err(Refusal::Looks);
            }
            d.looks.iter().filter_map(|l| l.paint.as_ref()).try_for_each(|p| paint(p, sheet))
        }
        FillPaint::Form(f) => {
            form(&f.form)?;
            paint(&f.paint, sheet)
        }
        FillPaint::Window(w) => {
            sheet.piece(w.piece).and_then(|p| p.window()).ok_or(Refusal::NoPiece)?;
            if w.by.is_sound() { Ok(()) } else { Err(Refusal::Number("The place of a window")) }
        }
        FillPaint::Plain(p) => paint(p, sheet),
    }
}

pub(crate) fn paint(paint: &Paint, sheet: &Sheet) -> Result<(), Refusal> {
    let vector = match paint {
        Paint::Colour { .. } => None,
        Paint::Ink { ink, vector } => {
            there(*ink, sheet)?;
            *vector
        }
        Paint::Gradient { gradient, vector } => {
            self::gradient(gradient)?;
            gradient.inks().into_iter().try_for_each(|i| there(i, sheet))?;
            *vector
        }
    };
    let ends = vector.iter().flat_map(|s| [s.from, s.to]).flatten();
    ends.into_iter().try_for_each(|v| within("The place of a gradient", v, -1e6, 1e6))
}

fn there(ink: InkId, sheet: &Sheet) -> Result<(), Refusal> {
    sheet.ink(ink).map(|_| ()).ok_or(Refusal::NoInk)
}

fn tint(tint: &Tint, sheet: &Sheet) -> Result<(), Refusal> {
    tint.ink().map_or(Ok(()), |ink| there(ink, sheet))
}

fn gradient(gradient: &Gradient) -> Result<(), Refusal> {
    if gradient.stops.len() < 2 || gradient.stops.len() > STOPS {
        return Err(Refusal::Stops);
    }
    for stop in &gradient.stops {
        within("The place of a stop", stop.at, 0.0, 1.0)?;
        within("The opacity of a stop", stop.opacity, 0.0, 1.0)?;
    }
    if gradient.stops.is_sorted_by(|a, b| a.at <= b.at) { Ok(()) } else { Err(Refusal::Stops) }
}

fn tone(tone: &Tone, sheet: &Sheet) -> Result<(), Refusal> {
    within("The brightness", tone.brightness, -1.0, 1.0)?;
    within("The contrast", tone.contrast, -1.0, 1.0)?;
    within("The saturation", tone.saturation, -1.0, 1.0)?;
    within("The warmth", tone.warmth, -1.0, 1.0)?;
    match &tone.print {
        None => Ok(()),
        Some(Print::One { dark }) => tint(dark, sheet),
        Some(Print::Two { dark, light }) => tint(dark, sheet).and(tint(light, sheet)),
    }
}

fn shadow(shadow: &Shadow, sheet: &Sheet) -> Result<(), Refusal> {
    let length = |what, v| within(what, v, 0.0, SIDE_MM);
    within("The strength of a shadow", shadow.strength, 0.0, 1.0)?;
    within("The angle of a shadow", shadow.angle, -3600.0, 3600.0)?;
    length("The distance of a shadow", shadow.distance)?;
    length("The spread of a shadow", shadow.spread)?;
    length("The size of a shadow", shadow.size)?;
    tint(&shadow.tint, sheet)
}

pub(crate) fn bundle_finish(finish: &BundleFinish, sheet: &Sheet) -> Result<(), Refusal> {
    within("The strength of the bundle", finish.strength, 0.0, 1.0)?;
    if finish.shadows.len() > SHADOWS {
        return Err(Refusal::TooMuchFinish);
    }
    if finish.shadows.iter().any(|s| s.place != ShadowPlace::Behind) {
        return Err(Refusal::BundleShadow);
    }
    finish.shadows.iter().try_for_each(|s| shadow(s, sheet))
}

pub(crate) fn finish(finish: &Finish, sheet: &Sheet) -> Result<(), Refusal> {
    let length = |what, v| within(what, v, 0.0, SIDE_MM);
    within("The strength of the window", finish.strength, 0.0, 1.0)?;
    length("The softness of the edge", finish.softness.width)?;
    if finish.rims.len() > RIMS || finish.shadows.len() > SHADOWS {
        return Err(Refusal::TooMuchFinish);
    }
    for rim in &finish.rims {
        length("The width of a rim", rim.width)?;
        // dashes of no length never end
        let dashes = rim.dashes.iter().try_for_each(|d| within("A dash", *d, 0.0, SIDE_MM));
        dashes?;
        if rim.dashes.len() > 20 || (!rim.dashes.is_empty() && rim.dashes.iter().sum::<f64>() < 0.05) {
            return Err(Refusal::Number("A dash"));
        }
        paint(&rim.paint, sheet)?;
    }
    finish.shadows.iter().try_for_each(|s| shadow(s, sheet))?;
    if let Some(gloss) = &finish.gloss {
        within("The strength of the gloss", gloss.strength, 0.0, 1.0)?;
        length("The reach of the gloss", gloss.reach)?;
        within("The shine", gloss.shine, 0.0, 1.0)?;
        within("The direction of the light", gloss.light, -3600.0, 3600.0)?;
        within("The rise of the light", gloss.rise, 5.0, 90.0)?;
    }
    Ok(())
}

/// An ink by itself. It is mixed from colours only.
pub(crate) fn ink(ink: &Ink) -> Result<(), Refusal> {
    name(&ink.name)?;
    match &ink.mix {
        Mix::Colour { .. } => Ok(()),
        Mix::Gradient { gradient } if gradient.inks().is_empty() => self::gradient(gradient),
        Mix::Gradient { .. } => Err(Refusal::InkOfInks),
    }
}

pub(crate) fn inks(sheet: &Sheet) -> Result<(), Refusal> {
    if sheet.inks.len() > INKS { Err(Refusal::TooManyInks) } else { Ok(()) }
}

pub(crate) fn border(border: &Border, sheet: &Sheet) -> Result<(), Refusal> {
    within("The width of the border", border.width, 0.0, SIDE_MM)?;
    within("The inset of the border", border.inset, 0.0, SIDE_MM)?;
    paint(&border.paint, sheet)
}
