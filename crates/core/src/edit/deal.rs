//! Photos that are dealt out to members.

use super::target::{bring_in, in_front, opening_bounds, window};
use crate::check::Refusal;
use crate::library::Library;
use crate::sheet::{Fill, FillId, FillPaint, PhotoFill, PhotoId, PieceId, Placement, Sheet, Tone};

/// Deals photos out to members of a window, or of the repeated bundle around it, one each, from one on. What the window had for such a member gives
/// way.
pub(super) fn deal(
    sheet: &mut Sheet,
    piece: PieceId,
    (from, within_bundle): (u32, bool),
    photos: &[(FillId, PhotoId)],
    library: &dyn Library,
) -> Result<(), Refusal> {
    let around = sheet.piece(piece).map_or(0, |p| sheet.members_around(p));
    let own = window(sheet, piece)?.repeat.as_ref().map_or(0, |r| r.layout.count());
    let bounds = opening_bounds(sheet, piece, library)?;
    for (member, (id, photo)) in (from..).zip(photos) {
        if member >= if within_bundle { around } else { own } {
            return Err(Refusal::NoMember);
        }
        let (width, height) = bring_in(sheet, photo, library)?;
        let placement = Placement::cover(width, height, bounds);
        let photo = PhotoFill { photo: photo.clone(), placement, tone: Tone::default(), shared: None, alone: false };
        let mut fill = Fill::new(*id, FillPaint::Photo(photo));
        (fill.member, fill.bundle_member) = if within_bundle { (None, Some(member)) } else { (Some(member), None) };
        let window = window(sheet, piece)?;
        let of = |f: &Fill| (f.member, f.bundle_member);
        let was: Vec<FillId> = window.fills.iter().filter(|f| of(f) == of(&fill)).map(|f| f.id).collect();
        window.fills.retain(|f| !was.contains(&f.id));
        window.breakout.retain(|id, _| !was.contains(&id));
        in_front(window, fill)?;
    }
    Ok(())
}
