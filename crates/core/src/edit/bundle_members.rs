//! What pieces have for single members of the repeated bundle around them.

use super::repeat::deal_out;
use super::target::{free, window};
use crate::check::{self, Refusal};
use crate::library::Library;
use crate::outline::shown_outline;
use crate::sheet::{BundleId, Fill, FillId, MemberWord, PhotoId, PieceId, Sheet, limits};

/// How many members the repeated bundle around a piece has; none where there is no such bundle.
fn count_around(sheet: &Sheet, piece: PieceId) -> u32 {
    let bundle = sheet.piece(piece).and_then(|p| sheet.repeated_around(p));
    bundle.and_then(|b| b.repeat.as_ref()).map_or(0, |r| r.layout.count())
}

/// Deals photos out to members of the bundle around a window, one each, from one on; what the window had for such a member gives way.
pub(super) fn deal(
    sheet: &mut Sheet,
    piece: PieceId,
    from: u32,
    photos: &[(FillId, PhotoId)],
    library: &dyn Library,
) -> Result<(), Refusal> {
    let count = count_around(sheet, piece);
    if photos.len() as u64 + u64::from(from) > u64::from(count) {
        return Err(Refusal::NoMember);
    }
    let given = |member, fill| Fill { bundle_member: Some(member), ..fill };
    deal_out(sheet, piece, (from..count).zip(photos), given, library)
}

/// Gives a window a word of its own in one member, or takes it away.
pub(super) fn set_word(
    sheet: &mut Sheet,
    piece: PieceId,
    member: u32,
    word: Option<&str>,
    library: &dyn Library,
) -> Result<(), Refusal> {
    if member >= count_around(sheet, piece) {
        return Err(Refusal::NoMember);
    }
    let mut changed = window(sheet, piece)?.clone();
    changed.bundle_words.retain(|own| own.member != member);
    if let Some(word) = word {
        changed.bundle_words.push(MemberWord { member, word: word.to_owned() });
        // each word is an opening of its own
        if changed.bundle_words.len() > limits::MEMBER_WORDS {
            return Err(Refusal::Members);
        }
        // a word that cannot be set is not kept
        shown_outline(sheet, &changed.in_bundle_member(member), library)?;
    }
    *window(sheet, piece)? = changed;
    check::amounts(sheet)
}

/// Pieces look as one member shows them, and have nothing for members any more.
pub(super) fn look_as(sheet: &mut Sheet, pieces: &[PieceId], member: u32) -> Result<(), Refusal> {
    for piece in pieces {
        let Some(window) = free(sheet, *piece)?.window_mut() else { continue };
        let own = window.in_bundle_member(member);
        let kept: Vec<FillId> = own.fills.iter().map(|f| f.id).collect();
        *window = own;
        window.breakout.retain(|fill, _| kept.contains(&fill));
    }
    Ok(())
}

/// Takes away what pieces have for members of a repeated bundle from this one on.
pub(super) fn keep(sheet: &mut Sheet, bundle: BundleId, count: u32) {
    let is_around = |p: &&crate::sheet::Piece| sheet.repeated_around(p).is_some_and(|b| b.id == bundle);
    let inside: Vec<PieceId> = sheet.pieces.iter().filter(is_around).map(|p| p.id).collect();
    for piece in sheet.pieces.iter_mut().filter(|p| inside.contains(&p.id)) {
        if let Some(window) = piece.window_mut() {
            window.keep_bundle_members(count);
        }
    }
}
