//! Numbers, names and places.

use super::refusal::Refusal;
use crate::sheet::limits::NAME;
use crate::sheet::{PhotoId, Placement, Sheet};

pub(crate) fn within(what: &'static str, value: f64, least: f64, most: f64) -> Result<(), Refusal> {
    if value.is_finite() && (least..=most).contains(&value) { Ok(()) } else { Err(Refusal::Number(what)) }
}

pub(crate) fn name(name: &str) -> Result<(), Refusal> {
    match name.trim().is_empty() {
        true => Err(Refusal::NoName),
        false if name.chars().count() > NAME => Err(Refusal::LongName),
        false => Ok(()),
    }
}

pub(crate) fn known(sheet: &Sheet, photo: &PhotoId) -> Result<(), Refusal> {
    if sheet.photos.contains_key(photo) { Ok(()) } else { Err(Refusal::NoPhoto) }
}

pub(crate) fn placement(p: &Placement) -> Result<(), Refusal> {
    if p.is_sound() { Ok(()) } else { Err(Refusal::Number("The place of the photo")) }
}
