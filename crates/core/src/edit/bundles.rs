//! Edits of bundles.

use super::bundle_members;
use super::split::settled;
use crate::check::{self, Refusal};
use crate::library::Library;
use crate::outline::{bundle_outline, sheet_panes};
use crate::sheet::{Bundle, BundleFinish, BundleId, Piece, PieceId, Repeat, Sheet, Split};
use kurbo::Affine;

/// Puts pieces and bundles into a new bundle, which lies within another one or in none.
pub(super) fn make(
    sheet: &mut Sheet,
    bundle: BundleId,
    within: Option<BundleId>,
    (pieces, bundles): (&[PieceId], &[BundleId]),
) -> Result<(), Refusal> {
    if sheet.bundle(bundle).is_some() {
        return Err(Refusal::Inconsistent("two bundles share an identifier"));
    }
    if within.is_some_and(|id| sheet.bundle(id).is_none()) || bundles.iter().any(|id| sheet.bundle(*id).is_none()) {
        return Err(Refusal::NoBundle);
    }
    sheet.bundles.push(Bundle { within, ..Bundle::new(bundle) });
    for id in pieces {
        sheet.piece_mut(*id).ok_or(Refusal::NoPiece)?.bundle = Some(bundle);
    }
    for inner in sheet.bundles.iter_mut().filter(|b| bundles.contains(&b.id)) {
        inner.within = Some(bundle);
    }
    check::bundles(sheet)?;
    check::amounts(sheet)
}

/// Puts pieces, and bundles with all that is in them, right in front of a piece, or (None) behind all others; and into a bundle, or out of all.
/// They keep their order among themselves.
pub(super) fn place(
    sheet: &mut Sheet,
    (pieces, bundles): (&[PieceId], &[BundleId]),
    into: Option<BundleId>,
    over: Option<PieceId>,
) -> Result<(), Refusal> {
    if into.is_some_and(|id| sheet.bundle(id).is_none()) || bundles.iter().any(|id| sheet.bundle(*id).is_none()) {
        return Err(Refusal::NoBundle);
    }
    if pieces.iter().any(|id| sheet.piece(*id).is_none()) {
        return Err(Refusal::NoPiece);
    }
    let moves = |p: &Piece| {
        pieces.contains(&p.id) || sheet.bundles_around(p.bundle).iter().any(|around| bundles.contains(around))
    };
    let (mut moved, mut others): (Vec<Piece>, Vec<Piece>) = sheet.pieces.iter().cloned().partition(moves);
    let at = match over {
        None => 0,
        Some(id) => others.iter().position(|p| p.id == id).ok_or(Refusal::NoPiece)? + 1,
    };
    moved.iter_mut().filter(|p| pieces.contains(&p.id)).for_each(|p| p.bundle = into);
    others.splice(at..at, moved);
    sheet.pieces = others;
    sheet.bundles.iter_mut().filter(|b| bundles.contains(&b.id)).for_each(|b| b.within = into);
    check::bundles(sheet)?;
    check::amounts(sheet)
}

/// An empty name takes the old one away.
pub(super) fn name(sheet: &mut Sheet, id: BundleId, name: &str) -> Result<(), Refusal> {
    let own = name.trim();
    if !own.is_empty() {
        check::name(own)?;
    }
    let bundle = bundle_mut(sheet, id)?;
    bundle.name = (!own.is_empty()).then(|| own.to_owned());
    Ok(())
}

/// Gives a bundle its finish as a whole.
pub(super) fn finish(sheet: &mut Sheet, id: BundleId, finish: &BundleFinish) -> Result<(), Refusal> {
    check::bundle_finish(finish, sheet)?;
    bundle_mut(sheet, id)?.finish = finish.clone();
    Ok(())
}

/// Splits a bundle so, or joins its panes again.
pub(super) fn split(sheet: &mut Sheet, id: BundleId, split: &Split, library: &dyn Library) -> Result<(), Refusal> {
    let old = sheet.bundle(id).ok_or(Refusal::NoBundle)?;
    let outline = bundle_outline(sheet, id, library);
    let split = settled(sheet, split, &old.split, |split| Ok(sheet_panes(sheet, split, &outline)))?;
    bundle_mut(sheet, id)?.split = split;
    Ok(())
}

/// Repeats a bundle so, or shows it once again.
pub(super) fn repeat(sheet: &mut Sheet, id: BundleId, repeat: Option<&Repeat>) -> Result<(), Refusal> {
    repeat.map_or(Ok(()), check::bundle_repeat)?;
    let count = repeat.map_or(0, |r| r.layout.count());
    if sheet.bundle(id).is_some_and(|b| b.repeat.is_some()) {
        bundle_members::keep(sheet, id, count);
    }
    bundle_mut(sheet, id)?.repeat = repeat.map(|r| Box::new(r.with_looks_of_members()));
    check::amounts(sheet)
}

fn bundle_mut(sheet: &mut Sheet, id: BundleId) -> Result<&mut Bundle, Refusal> {
    sheet.bundles.iter_mut().find(|b| b.id == id).ok_or(Refusal::NoBundle)
}

/// Bundles whose pieces are all transformed go along: their shadows are scaled, and their panes and members lie accordingly.
pub(super) fn transform(sheet: &mut Sheet, pieces: &[PieceId], by: Affine) -> Result<(), Refusal> {
    if sheet.bundles.is_empty() {
        return Ok(());
    }
    let whole: Vec<BundleId> = sheet.bundles.iter().map(|b| b.id).filter(|id| holds_only(sheet, *id, pieces)).collect();
    for bundle in sheet.bundles.iter_mut().filter(|b| whole.contains(&b.id)) {
        bundle.transform(by);
        check::split(&bundle.split)?;
        bundle.repeat.as_deref().map_or(Ok(()), check::repeat)?;
    }
    Ok(())
}

fn holds_only(sheet: &Sheet, bundle: BundleId, pieces: &[PieceId]) -> bool {
    let inside = |p: &&Piece| sheet.bundles_around(p.bundle).contains(&bundle);
    sheet.pieces.iter().filter(inside).all(|p| pieces.contains(&p.id))
}
