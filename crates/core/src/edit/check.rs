//! What a sheet has to keep to, whoever made it.

use super::Refusal;
use crate::sheet::limits::{CHARACTERS, MIN_SIDE_MM, NAME, PHOTO_PIXELS, PIECES, SHEET_PIXELS, SIDE_MM};
use crate::sheet::{FillPaint, FormShape, Lettering, PieceKind, Pose, Sheet};
use std::collections::BTreeSet;

/// Checks a whole sheet, as it comes from a file.
///
/// # Errors
/// The first thing that is wrong with it.
pub fn check_sheet(sheet: &Sheet) -> Result<(), Refusal> {
    size(sheet.width, sheet.height, sheet.ppi)?;
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
        match &piece.kind {
            PieceKind::Picture(p) => {
                placement(&p.placement)?;
                known(sheet, &p.photo)?;
            }
            PieceKind::Window(w) => {
                for form in &w.opening.forms {
                    pose(&form.pose)?;
                    let FormShape::Lettering(l) = &form.shape;
                    lettering(l)?;
                }
                for fill in &w.fills {
                    if let FillPaint::Photo(p) = &fill.paint {
                        placement(&p.placement)?;
                        known(sheet, &p.photo)?;
                    }
                }
                if w.breakout.let_out.iter().any(|a| !a.x.is_finite() || !a.y.is_finite()) {
                    return Err(Refusal::Number("A place in a photo"));
                }
            }
        }
    }
    for photo in sheet.photos.values() {
        let pixels = u64::from(photo.width) * u64::from(photo.height);
        if pixels == 0 || pixels > PHOTO_PIXELS {
            return Err(Refusal::Inconsistent("a photo of an impossible size"));
        }
    }
    Ok(())
}

fn known(sheet: &Sheet, photo: &crate::sheet::PhotoId) -> Result<(), Refusal> {
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
    let per_mm = ppi / crate::sheet::MM_PER_INCH;
    if width * height * per_mm * per_mm > SHEET_PIXELS {
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

pub(super) fn amounts(sheet: &Sheet) -> Result<(), Refusal> {
    if sheet.pieces.len() > PIECES {
        return Err(Refusal::TooManyPieces);
    }
    let characters: usize = sheet
        .windows()
        .flat_map(|(_, w)| &w.opening.forms)
        .map(|f| {
            let FormShape::Lettering(l) = &f.shape;
            l.text.chars().count()
        })
        .sum();
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
    Ok(())
}

pub(super) fn pose(p: &Pose) -> Result<(), Refusal> {
    let sound = [p.x, p.y, p.turn].iter().all(|v| v.is_finite() && v.abs() <= 1e6);
    if sound { Ok(()) } else { Err(Refusal::Number("The place of a form")) }
}

pub(super) fn placement(p: &crate::sheet::Placement) -> Result<(), Refusal> {
    if p.is_sound() { Ok(()) } else { Err(Refusal::Number("The place of the photo")) }
}
