//! Edits of bundles.

use crate::check::{self, Refusal};
use crate::sheet::{Bundle, BundleFinish, BundleId, Piece, PieceId, Sheet};

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
    sheet.bundles.push(Bundle { id: bundle, name: None, within, finish: BundleFinish::default() });
    for id in pieces {
        sheet.piece_mut(*id).ok_or(Refusal::NoPiece)?.bundle = Some(bundle);
    }
    for inner in sheet.bundles.iter_mut().filter(|b| bundles.contains(&b.id)) {
        inner.within = Some(bundle);
    }
    check::bundles(sheet)
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
    check::bundles(sheet)
}

/// Takes a bundle away; what was in it is in the one around it.
pub(super) fn dissolve(sheet: &mut Sheet, id: BundleId) -> Result<(), Refusal> {
    let within = sheet.bundle(id).ok_or(Refusal::NoBundle)?.within;
    sheet.bundles.retain(|b| b.id != id);
    sheet.bundles.iter_mut().filter(|b| b.within == Some(id)).for_each(|b| b.within = within);
    sheet.pieces.iter_mut().filter(|p| p.bundle == Some(id)).for_each(|p| p.bundle = within);
    Ok(())
}

/// An empty name takes the old one away.
pub(super) fn name(sheet: &mut Sheet, id: BundleId, name: &str) -> Result<(), Refusal> {
    let own = name.trim();
    if !own.is_empty() {
        check::name(own)?;
    }
    let bundle = sheet.bundles.iter_mut().find(|b| b.id == id).ok_or(Refusal::NoBundle)?;
    bundle.name = (!own.is_empty()).then(|| own.to_owned());
    Ok(())
}

/// Gives a bundle its finish as a whole.
pub(super) fn finish(sheet: &mut Sheet, id: BundleId, finish: &BundleFinish) -> Result<(), Refusal> {
    check::bundle_finish(finish, sheet)?;
    sheet.bundles.iter_mut().find(|b| b.id == id).ok_or(Refusal::NoBundle)?.finish = finish.clone();
    Ok(())
}

/// Bundles whose pieces are all scaled have shadows of that size.
pub(super) fn scale(sheet: &mut Sheet, pieces: &[PieceId], by: f64) {
    let whole: Vec<BundleId> = sheet.bundles.iter().map(|b| b.id).filter(|id| holds_only(sheet, *id, pieces)).collect();
    sheet.bundles.iter_mut().filter(|b| whole.contains(&b.id)).for_each(|b| b.finish.scale(by));
}

fn holds_only(sheet: &Sheet, bundle: BundleId, pieces: &[PieceId]) -> bool {
    let inside = |p: &&Piece| sheet.bundles_around(p.bundle).contains(&bundle);
    sheet.pieces.iter().filter(inside).all(|p| pieces.contains(&p.id))
}
