//! Edits of the subjects of a photo.

use crate::check::{self, Refusal};
use crate::library::Library;
use crate::sheet::{FillPaint, PhotoId, PhotoSubject, Sheet, limits};

/// A new subject, or a known one found anew or named anew.
pub(super) fn set(
    sheet: &mut Sheet,
    photo: &PhotoId,
    subject: &PhotoSubject,
    library: &dyn Library,
) -> Result<(), Refusal> {
    library.matte(&subject.matte).ok_or(Refusal::NoSubject)?;
    subject.hints.check()?;
    check::subject_name(&subject.name)?;
    let all = &mut sheet.photos.get_mut(photo).ok_or(Refusal::NoPhoto)?.subjects;
    match all.iter().position(|s| s.key == subject.key) {
        Some(at) => all[at] = subject.clone(),
        None if all.len() >= limits::SUBJECTS => return Err(Refusal::TooManySubjects),
        None => all.push(subject.clone()),
    }
    Ok(())
}

/// Removes a subject; nothing of it is let out any more.
pub(super) fn remove(sheet: &mut Sheet, photo: &PhotoId, key: u32) -> Result<(), Refusal> {
    let all = &mut sheet.photos.get_mut(photo).ok_or(Refusal::NoPhoto)?.subjects;
    let at = all.iter().position(|s| s.key == key).ok_or(Refusal::NoSubject)?;
    all.remove(at);
    for window in sheet.pieces.iter_mut().filter_map(|p| p.window_mut()) {
        let shows = |f: &crate::sheet::Fill| matches!(&f.paint, FillPaint::Photo(p) if p.photo == *photo);
        let fills: Vec<_> = window.fills.iter().filter(|f| shows(f)).map(|f| f.id).collect();
        window.breakout.retain(|fill, subject| subject != key || !fills.contains(&fill));
    }
    Ok(())
}

pub(super) fn rename(sheet: &mut Sheet, photo: &PhotoId, key: u32, name: &str) -> Result<(), Refusal> {
    check::subject_name(name)?;
    let all = &mut sheet.photos.get_mut(photo).ok_or(Refusal::NoPhoto)?.subjects;
    let known = all.iter_mut().find(|s| s.key == key).ok_or(Refusal::NoSubject)?;
    known.name = name.trim().to_owned();
    Ok(())
}
