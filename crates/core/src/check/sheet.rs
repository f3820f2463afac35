//! What a sheet has to keep to.

use super::opening::opening;
use super::paint::{border, bundle_finish, fill, finish, ink, paint};
use super::refusal::Refusal;
use super::values::{name, within};
use crate::cutout::Hints;
use crate::sheet::limits::{
    BUNDLES_DEEP, CHARACTERS, FILLS, MEMBER_WORDS, MIN_SIDE_MM, NAME, OPENINGS_BEHIND, PHOTO_PIXELS, PIECES,
    SHEET_PIXELS, SIDE_MM, SUBJECTS, WAVED,
};
use crate::sheet::{Breakout, Credit, Form, MM_PER_INCH, Member, Photo, PieceKind, Sheet, SubjectPart, limits};
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
    bundles(sheet)?;
    super::layout_guides::layout_guides(&sheet.guides)?;
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
        let PieceKind::Window(w) = &piece.kind;
        opening(&w.opening, sheet)?;
        w.fills.iter().try_for_each(|f| fill(f, sheet))?;
        if w.fills.len() > FILLS {
            return Err(Refusal::TooManyFills);
        }
        finish(&w.finish, sheet)?;
        super::split::split(&w.split)?;
        w.repeat.as_deref().map_or(Ok(()), super::repeat::repeat)?;
        if w.bundle_words.len() > MEMBER_WORDS {
            return Err(Refusal::Members);
        }
        breakout(&w.breakout)?;
    }
    sheet.credits.iter().try_for_each(|(of, c)| credit(sheet, of, Some(c)))?;
    waved(sheet)?;
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

/// Bundles: each once, in bundles that are there, none in itself, and not too deep; and pieces in bundles that are there.
pub(crate) fn bundles(sheet: &Sheet) -> Result<(), Refusal> {
    let mut ids = BTreeSet::new();
    for bundle in &sheet.bundles {
        if !ids.insert(bundle.id) {
            return Err(Refusal::Inconsistent("two bundles share an identifier"));
        }
        bundle.name.iter().try_for_each(|n| name(n))?;
        bundle_finish(&bundle.finish, sheet)?;
        super::split::split(&bundle.split)?;
        bundle.repeat.as_deref().map_or(Ok(()), super::repeat::bundle_repeat)?;
        let around = sheet.bundles_around(Some(bundle.id));
        let outermost = around.last().and_then(|id| sheet.bundle(*id));
        match outermost.and_then(|b| b.within) {
            Some(id) if sheet.bundle(id).is_some() => return Err(Refusal::BundleInItself),
            Some(_) => return Err(Refusal::NoBundle),
            None if around.len() > BUNDLES_DEEP => return Err(Refusal::BundlesTooDeep),
            None => {}
        }
    }
    if sheet.bundles.len() > PIECES {
        return Err(Refusal::TooManyPieces);
    }
    let lost = sheet.pieces.iter().filter_map(|p| p.bundle).any(|id| !ids.contains(&id));
    if lost { Err(Refusal::NoBundle) } else { Ok(()) }
}

pub(crate) fn size(width: f64, height: f64, ppi: f64) -> Result<(), Refusal> {
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
pub(crate) fn pixels(sheet: &Sheet) -> Result<(), Refusal> {
    let per_mm = sheet.ppi / MM_PER_INCH;
    let side = |mm: f64| (mm + 2.0 * sheet.bleed) * per_mm;
    if side(sheet.width) * side(sheet.height) > SHEET_PIXELS {
        return Err(Refusal::SheetPixels);
    }
    Ok(())
}

pub(crate) fn amounts(sheet: &Sheet) -> Result<(), Refusal> {
    if sheet.pieces.len() > PIECES {
        return Err(Refusal::TooManyPieces);
    }
    let forms = sheet.windows().flat_map(|(_, w)| w.forms());
    let set: usize = forms.flat_map(Form::letterings).map(|l| l.text.chars().count()).sum();
    let looks = sheet.windows().filter_map(|(_, w)| w.repeat.as_ref()).flat_map(|r| r.looks.values());
    let in_bundles = sheet.windows().flat_map(|(_, w)| w.bundle_words.values()).map(|own| &own.word);
    let words: usize = looks.filter_map(|look| look.word.as_ref()).chain(in_bundles).map(|w| w.chars().count()).sum();
    if set + words > CHARACTERS {
        return Err(Refusal::TooMuchType);
    }
    // each of them is computed by itself
    let behind = sheet.pieces.iter().filter(|p| sheet.repeated_behind(p).is_some());
    let openings: usize = behind.map(|p| sheet.members_around(p) as usize).sum();
    if openings > OPENINGS_BEHIND { Err(Refusal::OpeningsBehind) } else { Ok(()) }
}

/// A credit, and that what it is for is on the sheet.
pub(crate) fn credit(sheet: &Sheet, of: &str, credit: Option<&Credit>) -> Result<(), Refusal> {
    if !sheet.photos.contains_key(&of.into()) && !sheet.drawings.contains_key(&of.into()) {
        return Err(Refusal::NoPhoto);
    }
    let long = |text: &str| text.chars().count() > NAME;
    match credit {
        Some(c) if long(&c.title) || long(&c.maker) => Err(Refusal::LongName),
        _ => Ok(()),
    }
}

/// Findings that were waved through: so many, with keys and reasons of some length.
pub(crate) fn waved(sheet: &Sheet) -> Result<(), Refusal> {
    if sheet.waved.len() > WAVED {
        return Err(Refusal::TooManyWaved);
    }
    let long = |text: &String| text.chars().count() > NAME;
    if sheet.waved.iter().any(|(key, why)| long(key) || long(why)) { Err(Refusal::LongName) } else { Ok(()) }
}

/// Subjects with names, each with a number of its own.
fn subjects(photo: &Photo) -> Result<(), Refusal> {
    if photo.subjects.len() > SUBJECTS {
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

pub(crate) fn subject_name(name: &str) -> Result<(), Refusal> {
    if name.trim().is_empty() || name.chars().count() > NAME {
        return Err(Refusal::LongName);
    }
    Ok(())
}

pub(crate) fn breakout(breakout: &Breakout) -> Result<(), Refusal> {
    if breakout.let_out.iter().chain(&breakout.under).any(|a| !a.x.is_finite() || !a.y.is_finite()) {
        return Err(Refusal::Number("A place in a photo"));
    }
    subject_parts(&breakout.parts)?;
    let strokes = breakout.painted.iter().map(|s| s.stroke.clone()).collect();
    Hints { strokes, ..Hints::default() }.check()?;
    let Some(line) = &breakout.reach else { return Ok(()) };
    let sound = line.from.iter().chain(&line.to).all(|v| v.abs() <= FARTHEST);
    let long = (line.from[0] - line.to[0]).hypot(line.from[1] - line.to[1]) > 0.01;
    if sound && long { Ok(()) } else { Err(Refusal::Number("The reach line")) }
}

fn subject_parts(parts: &[Member<SubjectPart>]) -> Result<(), Refusal> {
    let corners: usize = parts.iter().flat_map(|p| &p.region).map(Vec::len).sum();
    if parts.len() > limits::SUBJECT_PARTS || corners > limits::SUBJECT_PART_CORNERS {
        return Err(Refusal::TooManyParts);
    }
    for part in parts {
        let places = part.region.iter().flatten().chain([&part.at]).flatten();
        if places.into_iter().any(|v| v.is_nan() || v.abs() > FARTHEST) {
            return Err(Refusal::Number("A place in a photo"));
        }
        within("The softness of a cut", part.soft, 0.0, SOFTEST)?;
        if part.name.chars().count() > NAME {
            return Err(Refusal::LongName);
        }
    }
    Ok(())
}

/// The widest soft edge of a cut, in pixels of the photo.
const SOFTEST: f64 = 4000.0;

/// How far from the sheet's corner a line may lie, in millimetres; how far from its own a place in a photo, in pixels.
const FARTHEST: f64 = 1e5;
