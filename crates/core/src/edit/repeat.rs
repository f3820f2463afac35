//! Repeating windows, and what is given to single members.

use super::moves::{copied, transform_window};
use super::target::{free, window};
use crate::check::{self, Refusal};
use crate::edit::Grip;
use crate::library::Library;
use crate::outline::{member_transforms, shown_outline};
use crate::sheet::{Fill, FillId, MemberLook, PieceId, Repeat, Sheet};
use kurbo::Affine;

/// Repeats a window so, or shows it once again. Fills of members that are not there any more go.
pub(super) fn set(
    sheet: &mut Sheet,
    piece: PieceId,
    repeat: Option<&Repeat>,
    library: &dyn Library,
) -> Result<(), Refusal> {
    repeat.map_or(Ok(()), check::repeat)?;
    let window = window(sheet, piece)?;
    let count = repeat.map_or(0, |r| r.layout.count());
    let gone = |fill: &Fill| fill.member.is_some_and(|member| member >= count);
    let lost: Vec<FillId> = window.fills.iter().filter(|f| gone(f)).map(|f| f.id).collect();
    window.fills.retain(|f| !lost.contains(&f.id));
    window.breakout.retain(|fill, _| !lost.contains(&fill));
    window.repeat = repeat.map(|r| Box::new(r.with_looks_of_members()));
    // a word that cannot be set is not kept
    let changed = window.clone();
    let words = changed.repeat.iter().flat_map(|r| r.looks.values()).filter(|look| look.word.is_some());
    for look in words {
        shown_outline(sheet, &changed.in_member(look.member), library)?;
    }
    check::amounts(sheet)
}

/// Makes a window of its own of one member, where it lies. Its place in the layout stays empty.
pub(super) fn set_free(
    sheet: &mut Sheet,
    piece: PieceId,
    member: u32,
    copy: PieceId,
    library: &dyn Library,
) -> Result<(), Refusal> {
    let owner = free(sheet, piece)?.clone();
    let whole = owner.window().ok_or(Refusal::NoPart)?;
    let repeat = whole.repeat.as_ref().ok_or(Refusal::NoMember)?;
    let outline = shown_outline(sheet, whole, library)?;
    let by = *member_transforms(repeat, &outline.path).get(member as usize).ok_or(Refusal::NoMember)?;
    if sheet.piece(copy).is_some() {
        return Err(Refusal::Inconsistent("two pieces share an identifier"));
    }
    let mut own = owner.clone();
    if let Some(window) = own.window_mut() {
        *window = whole.in_member(member);
        window.repeat = None;
        window.fills.iter_mut().for_each(|f| f.member = None);
        let kept: Vec<FillId> = window.fills.iter().map(|f| f.id).collect();
        window.breakout.retain(|fill, _| kept.contains(&fill));
        let what = if repeat.behind { Grip::Opening } else { Grip::Both };
        transform_window(window, what, by, &[])?;
    }
    let at = sheet.pieces.iter().position(|p| p.id == piece).ok_or(Refusal::NoPiece)?;
    sheet.pieces.insert(at + 1, copied(&own, copy));
    let window = window(sheet, piece)?;
    let lost: Vec<FillId> = window.fills.iter().filter(|f| f.member == Some(member)).map(|f| f.id).collect();
    window.fills.retain(|f| !lost.contains(&f.id));
    window.breakout.retain(|fill, _| !lost.contains(&fill));
    if let Some(repeat) = &mut window.repeat {
        repeat.looks.retain(|look| look.member != member);
        repeat.looks.push(MemberLook { member, by: Affine::IDENTITY.as_coeffs(), hidden: true, word: None });
    }
    check::amounts(sheet)
}
