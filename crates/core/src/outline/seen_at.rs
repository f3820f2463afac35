//! Where what belongs to a single pane or member is seen.

use super::divided::bundle_outline;
use super::error::OutlineError;
use super::panes::sheet_panes;
use super::repeats::member_transforms;
use super::shown::shown_outline;
use super::sources::OutlineSources;
use crate::sheet::{Fill, Piece, Sheet};
use kurbo::Affine;

/// From where a fill of a single pane or member would lie to where it is seen; sheet space. Others are seen where they lie.
///
/// # Errors
/// As for [`shown_outline`].
pub fn seen_at(
    sheet: &Sheet,
    piece: &Piece,
    fill: &Fill,
    sources: &dyn OutlineSources,
) -> Result<Affine, OutlineError> {
    let mut seen = Affine::IDENTITY;
    let Some(window) = piece.window().filter(|_| !fill.is_common()) else { return Ok(seen) };
    let at = |all: Vec<Affine>, member: u32| all.get(member as usize).copied().unwrap_or_default();
    if fill.pane.is_some() || fill.member.is_some() {
        let outline = shown_outline(sheet, window, sources)?;
        if let Some(at) = &fill.pane {
            let all = sheet_panes(sheet, &window.split, &outline.path);
            seen = all.iter().find(|pane| pane.at == *at).map_or(seen, |pane| pane.transform(&window.split));
        }
        if let (Some(member), Some(repeat)) = (fill.member, &window.repeat) {
            seen = at(member_transforms(repeat, &outline.path), member) * seen;
        }
    }
    if let (Some(member), Some(bundle)) = (fill.bundle_member, sheet.repeated_around(piece))
        && let Some(repeat) = &bundle.repeat
    {
        seen = at(member_transforms(repeat, &bundle_outline(sheet, bundle.id, sources)), member) * seen;
    }
    Ok(seen)
}
