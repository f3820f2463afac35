//! What pieces have for single members of the repeated bundle around them.

use super::target::{free, window};
use crate::check::{self, Refusal};
use crate::library::Library;
use crate::outline::shown_outline;
use crate::sheet::{BundleId, FillId, MemberWord, Piece, PieceId, Sheet, limits};
use kurbo::Affine;

/// Gives a window a word of its own in one member, or takes it away.
pub(super) fn set_word(
    sheet: &mut Sheet,
    piece: PieceId,
    member: u32,
    word: Option<&str>,
    library: &dyn Library,
) -> Result<(), Refusal> {
    if member >= sheet.piece(piece).map_or(0, |p| sheet.members_around(p)) {
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
pub(super) fn look_as(sheet: &mut Sheet, pieces: &[PieceId], member: u32, behind: bool) -> Result<(), Refusal> {
    for piece in pieces {
        let Some(window) = free(sheet, *piece)?.window_mut() else { continue };
        let own = match behind {
            false => window.in_bundle_member(member),
            // they are not moved yet
            true => window.in_bundle_member_behind(member, Affine::IDENTITY),
        };
        let kept: Vec<FillId> = own.fills.iter().map(|f| f.id).collect();
        *window = own;
        window.breakout.retain(|fill, _| kept.contains(&fill));
    }
    Ok(())
}

/// Takes away what pieces have for members of a repeated bundle from this one on.
pub(super) fn keep(sheet: &mut Sheet, bundle: BundleId, count: u32) {
    let is_around = |p: &&Piece| sheet.repeated_around(p).is_some_and(|b| b.id == bundle);
    let inside: Vec<PieceId> = sheet.pieces.iter().filter(is_around).map(|p| p.id).collect();
    for piece in sheet.pieces.iter_mut().filter(|p| inside.contains(&p.id)) {
        if let Some(window) = piece.window_mut() {
            window.keep_bundle_members(count);
        }
    }
}
