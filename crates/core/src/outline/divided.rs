//! What is seen of windows and bundles that fall into panes or are repeated.

use super::panes::{Pane, sheet_panes};
use super::repeats::member_transforms;
use super::shown::shown_outline;
use super::sources::OutlineSources;
use crate::combine::{Rule, join_pair, unite};
use crate::sheet::{BundleId, PieceId, Repeat, Sheet, Split, Window};
use kurbo::{Affine, BezPath};

/// What of a bundle's panes is drawn together: those that are moved alike, so that no seam shows between them.
#[derive(Debug, Clone, PartialEq)]
pub struct BundlePart {
    /// What of the bundle is seen there, before it is moved; sheet space. All of it without one.
    pub region: Option<BezPath>,
    /// From where it would lie to where it lies.
    pub transform: Affine,
    /// Its place among the panes, if it is one alone.
    pub pane: Option<usize>,
}

/// The outline of what the pieces of a bundle open, before its own panes and members; sheet space, without overlaps. What cannot be outlined is left
/// out, as it is not drawn either.
pub fn bundle_outline(sheet: &Sheet, bundle: BundleId, sources: &dyn OutlineSources) -> BezPath {
    let mut all = BezPath::new();
    for piece in sheet.pieces.iter().filter(|p| p.bundle == Some(bundle) && !p.hidden) {
        all.extend(seen_of_piece(sheet, piece.id, sources));
    }
    // a bundle in itself is refused before it is kept
    for inner in sheet.bundles.iter().filter(|b| b.within == Some(bundle) && b.id != bundle) {
        all.extend(divided(sheet, (&inner.split, inner.repeat.as_deref()), bundle_outline(sheet, inner.id, sources)));
    }
    unite(&all)
}

/// What is drawn of a bundle with these panes, from back to front.
pub fn bundle_parts(split: &Split, all: &[Pane]) -> Vec<BundlePart> {
    let mut parts: Vec<(BundlePart, usize)> = Vec::new();
    for (k, pane) in all.iter().enumerate() {
        if split.look(&pane.at).is_some_and(|look| look.hidden) {
            continue;
        }
        let transform = pane.transform(split);
        match parts.iter_mut().find(|(part, _)| part.transform == transform) {
            Some((part, count)) => {
                part.region = part.region.take().map(|region| join_pair(&region, &pane.region, Rule::Union));
                part.pane = None;
                *count += 1;
            }
            None => parts.push((BundlePart { region: Some(pane.region.clone()), transform, pane: Some(k) }, 1)),
        }
    }
    if let [(only, count)] = &mut parts[..]
        && *count == all.len()
        && split.gap == 0.0
    {
        // nothing is cut away
        only.region = None;
    }
    parts.into_iter().map(|(part, _)| part).collect()
}

fn seen_of_piece(sheet: &Sheet, piece: PieceId, sources: &dyn OutlineSources) -> BezPath {
    let Some(window) = sheet.piece(piece).and_then(|p| p.window()) else { return BezPath::new() };
    let Ok(outline) = shown_outline(sheet, window, sources) else { return BezPath::new() };
    match &window.repeat {
        Some(repeat) if repeat.looks.values().any(|look| look.word.is_some()) => {
            worded(sheet, window, repeat, &outline.path, sources)
        }
        repeat => divided(sheet, (&window.split, repeat.as_deref()), (*outline.path).clone()),
    }
}

/// Members with words of their own.
fn worded(sheet: &Sheet, window: &Window, repeat: &Repeat, outline: &BezPath, sources: &dyn OutlineSources) -> BezPath {
    let mut all = BezPath::new();
    for (k, transform) in (0u32..).zip(member_transforms(repeat, outline)) {
        let look = repeat.look(k);
        if look.is_some_and(|look| look.hidden) {
            continue;
        }
        let own = look.filter(|look| look.word.is_some());
        let own = own.and_then(|_| shown_outline(sheet, &window.in_member(k), sources).ok());
        all.extend(transform * own.map_or_else(|| outline.clone(), |own| (*own.path).clone()));
    }
    all
}

/// What is seen of an outline in panes and members.
fn divided(sheet: &Sheet, (split, repeat): (&Split, Option<&Repeat>), outline: BezPath) -> BezPath {
    let mut once = BezPath::new();
    if split.is_none() {
        once = outline.clone();
    } else {
        for pane in sheet_panes(sheet, split, &outline) {
            if !split.look(&pane.at).is_some_and(|look| look.hidden) {
                once.extend(pane.transform(split) * pane.opening);
            }
        }
    }
    let Some(repeat) = repeat else { return once };
    let mut all = BezPath::new();
    for (k, transform) in (0u32..).zip(member_transforms(repeat, &outline)) {
        if !repeat.look(k).is_some_and(|look| look.hidden) {
            all.extend(transform * once.clone());
        }
    }
    all
}
