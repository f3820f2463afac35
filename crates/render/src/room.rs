//! How much memory the making of a file takes: reckoned from the scene before any picture is fetched, and compared with what is there.

use crate::RenderError;
use crate::bands::threads;
use crate::pictures::{Use, uses};
use crate::plan::BAND_PIXELS;
use inky_core::scene::Scene;
use inky_core::scene::tree::Source;
use inky_core::sheet::MM_PER_INCH;
use std::collections::BTreeMap;
use sysinfo::System;

/// Bytes for a pixel of a band that is drawn: as it is drawn, as rows, and three planes of floats for masks and blurs.
const BAND_BYTES: f64 = 4.0 + 3.0 + 12.0;
/// Bytes for a pixel of a picture, its halves included.
const PICTURE_BYTES: f64 = 4.0 * 4.0 / 3.0;
/// Bytes for a pixel of a picture while it is decoded.
const DECODING_BYTES: f64 = 7.0;
/// What there is besides: the program, fonts, outlines.
const BESIDES: f64 = 100e6;
/// The part of the free memory that may be taken. Others want some, too.
const SHARE: f64 = 0.9;
const GIGA: f64 = 1e9;

/// Whether there is memory enough for a file of a scene with so many millimetres of bleed, `ppi` pixels per inch.
///
/// # Errors
/// [`RenderError::NoRoom`] with the resolution that would work.
pub fn has_room(scene: &Scene, ppi: f64, bleed: f64) -> Result<(), RenderError> {
    // where nobody says how much there is, nothing is refused
    match free_memory() {
        Some(free) => fits(scene, ppi, bleed, free),
        None => Ok(()),
    }
}

/// Bytes of memory that this process may still take. None where nobody says.
pub fn free_memory() -> Option<f64> {
    let mut system = System::new().ok()?;
    system.refresh_memory();
    // a group of processes may be allowed less than the machine has; what files take of that is given back when it is asked for
    let allowed = system.cgroup_limits().map_or(u64::MAX, |limits| limits.total_memory.saturating_sub(limits.rss));
    Some(system.available_memory().min(allowed) as f64)
}

/// The same for so many bytes of free memory.
///
/// # Errors
/// Those of [`has_room`].
pub fn fits(scene: &Scene, ppi: f64, bleed: f64, free: f64) -> Result<(), RenderError> {
    let uses = uses(scene);
    let bytes = |ppi: f64| memory(scene, &uses, ppi, bleed);
    let needed = bytes(ppi);
    if needed <= SHARE * free {
        return Ok(());
    }
    // memory grows with the resolution: the largest that works lies between none and what was asked for
    let (mut works, mut fails) = (0.0, ppi);
    while fails - works > 1.0 {
        let middle = (works + fails) / 2.0;
        if bytes(middle) <= SHARE * free { works = middle } else { fails = middle }
    }
    Err(RenderError::NoRoom { ppi, needed: needed / GIGA, free: free / GIGA, works: works.floor() })
}

/// Bytes that the making of a file takes at most.
fn memory(scene: &Scene, uses: &[Use<'_>], ppi: f64, bleed: f64) -> f64 {
    let density = ppi / MM_PER_INCH;
    let width = (scene.width + 2.0 * bleed) * density;
    let height = (scene.height + 2.0 * bleed) * density;
    // sixteen rows at least
    let band = (BAND_PIXELS as f64).max(16.0 * width).min(width * height);
    let bands = (threads() + 1) as f64 * band * BAND_BYTES;
    BESIDES + bands + pictures(uses, density)
}

/// Bytes of the pictures, as they are fetched and as they are drawn.
fn pictures(uses: &[Use<'_>], density: f64) -> f64 {
    // for each picture the pixels that are fetched, those of all sizes in which it is drawn, and whether one is as it was fetched
    let mut all: BTreeMap<String, (f64, f64)> = BTreeMap::new();
    let mut besides = 0.0;
    for each in uses {
        let (id, size) = match &each.picture.source {
            Source::Photo(p) => (format!("photo {}", p.id), (p.width, p.height)),
            Source::Cutout(c) => (format!("cut-out {}", c.id), (c.width, c.height)),
            Source::Computed(computed) => {
                besides += computed.0.as_raw().len() as f64 * 4.0 / 3.0;
                continue;
            }
            Source::Paper { .. } => continue,
        };
        let full = f64::from(size.0) * f64::from(size.1);
        let drawn = full * (each.scale * density).powi(2);
        let known = all.entry(id).or_default();
        // stored levels halve: one of up to twice the side is fetched
        known.0 = known.0.max((4.0 * drawn).min(full));
        known.1 += drawn.min(full);
    }
    let fetched: f64 = all.values().map(|(fetched, _)| 4.0 * fetched).sum();
    let drawn: f64 = all.values().map(|(_, drawn)| PICTURE_BYTES * drawn).sum();
    let decoded = all.values().map(|(fetched, _)| DECODING_BYTES * fetched).fold(0.0, f64::max);
    besides + fetched + drawn + decoded
}
