//! Repeated bundles whose photos run behind all members.

use super::divided::bundle_outline;
use super::repeats::seen_members;
use super::shown::shown_outline;
use super::sources::OutlineSources;
use crate::combine::unite;
use crate::sheet::{Bundle, Piece, Sheet};
use kurbo::{Affine, BezPath};

/// The members of a repeated bundle that are seen: their numbers, and from where the bundle lies to where each of them lies; sheet space.
pub fn seen_bundle_members(sheet: &Sheet, bundle: &Bundle, sources: &dyn OutlineSources) -> Vec<(u32, Affine)> {
    let repeat = bundle.repeat.as_ref();
    repeat.map_or_else(Vec::new, |r| seen_members(r, &bundle_outline(sheet, bundle.id, sources)))
}

/// What a piece opens in these members of the bundle around it, as one; sheet space. A window that is negative or repeated itself is none of them
/// alone: there is nothing for it.
pub fn opened_in(
    sheet: &Sheet,
    piece: &Piece,
    members: &[(u32, Affine)],
    sources: &dyn OutlineSources,
) -> Option<BezPath> {
    let window = piece.window().filter(|w| !w.finish.negative && w.repeat.is_none())?;
    let common = shown_outline(sheet, window, sources).ok()?;
    let mut all = BezPath::new();
    for (member, at) in members {
        let own = window.bundle_word(*member).map(|_| shown_outline(sheet, &window.in_bundle_member(*member), sources));
        let outline = own.and_then(Result::ok).unwrap_or_else(|| common.clone());
        all.extend(*at * (*outline.path).clone());
    }
    Some(unite(&all))
}

/// The same for all members of the bundle behind whose members the photos of the piece run; None where there is no such bundle.
pub fn opened_in_members(sheet: &Sheet, piece: &Piece, sources: &dyn OutlineSources) -> Option<BezPath> {
    let bundle = sheet.repeated_behind(piece)?;
    opened_in(sheet, piece, &seen_bundle_members(sheet, bundle, sources), sources)
}
