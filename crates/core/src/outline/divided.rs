//! What is seen of windows and bundles that fall into panes or are repeated.

use super::panes::{Pane, sheet_panes};
use super::repeats::seen_members;
use super::shown::shown_outline;
use super::sources::OutlineSources;
use crate::combine::{Rule, join_pair, unite};
use crate::sheet::{Bundle, BundleId, Piece, Repeat, Sheet, Split, Window};
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
    outline_in(sheet, bundle, sources, None)
}

/// The same of one member of a repeated bundle in which a piece has another outline than in the others; None for one that has the outline of all.
pub fn bundle_member_outline(
    sheet: &Sheet,
    bundle: BundleId,
    member: u32,
    sources: &dyn OutlineSources,
) -> Option<BezPath> {
    let own = |piece: &&Piece| {
        let reshaped = piece.window().is_some_and(|w| w.is_reshaped_in_bundle_member(member));
        reshaped && sheet.repeated_around(piece).is_some_and(|b| b.id == bundle)
    };
    sheet.pieces.iter().find(own).map(|_| outline_in(sheet, bundle, sources, Some(member)))
}

/// The outline of a bundle, with what its pieces have for one of its members.
fn outline_in(sheet: &Sheet, bundle: BundleId, sources: &dyn OutlineSources, member: Option<u32>) -> BezPath {
    let mut all = BezPath::new();
    for piece in sheet.pieces.iter().filter(|p| p.bundle == Some(bundle) && !p.hidden) {
        let Some(window) = piece.window() else { continue };
        let own = member.filter(|k| window.is_reshaped_in_bundle_member(*k)).map(|k| window.in_bundle_member(k));
        all.extend(seen_of_window(sheet, own.as_ref().unwrap_or(window), sources));
    }
    // a bundle in itself is refused before it is kept
    for inner in sheet.bundles.iter().filter(|b| b.within == Some(bundle) && b.id != bundle) {
        all.extend(seen_in(sheet, inner, sources, member));
    }
    unite(&all)
}

/// What is seen of what a bundle opens, in its panes and as its members; sheet space.
pub fn seen_of_bundle(sheet: &Sheet, bundle: &Bundle, sources: &dyn OutlineSources) -> BezPath {
    seen_in(sheet, bundle, sources, None)
}

/// The same in one member of the bundle around it.
fn seen_in(sheet: &Sheet, bundle: &Bundle, sources: &dyn OutlineSources, member: Option<u32>) -> BezPath {
    // what is in a bundle that is repeated itself has its own things for the members of that one
    let outline = outline_in(sheet, bundle.id, sources, member.filter(|_| bundle.repeat.is_none()));
    let own = |k| bundle_member_outline(sheet, bundle.id, k, sources);
    divided(sheet, (&bundle.split, bundle.repeat.as_deref()), &outline, own)
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

/// What is seen of what a window opens, in its panes and as its members; sheet space. Members with words of their own have an outline of their own.
pub fn seen_of_window(sheet: &Sheet, window: &Window, sources: &dyn OutlineSources) -> BezPath {
    let Ok(outline) = shown_outline(sheet, window, sources) else { return BezPath::new() };
    let repeat = window.repeat.as_deref();
    let own = |k: u32| {
        repeat?.look(k)?.word.as_ref()?;
        let own = shown_outline(sheet, &window.in_member(k), sources).ok()?;
        Some((*own.path).clone())
    };
    divided(sheet, (&window.split, repeat), &outline.path, own)
}

/// What is seen of an outline in panes and members; `own` gives that of a member which has one for itself.
fn divided(
    sheet: &Sheet,
    (split, repeat): (&Split, Option<&Repeat>),
    outline: &BezPath,
    own: impl Fn(u32) -> Option<BezPath>,
) -> BezPath {
    let once = in_panes(sheet, split, outline);
    let Some(repeat) = repeat else { return once };
    let mut all = BezPath::new();
    for (k, transform) in seen_members(repeat, outline) {
        let shown = own(k).map_or_else(|| once.clone(), |own| in_panes(sheet, split, &own));
        all.extend(transform * shown);
    }
    all
}

/// What is seen of an outline in panes.
fn in_panes(sheet: &Sheet, split: &Split, outline: &BezPath) -> BezPath {
    if split.is_none() {
        return outline.clone();
    }
    let mut seen = BezPath::new();
    for pane in sheet_panes(sheet, split, outline) {
        if !split.look(&pane.at).is_some_and(|look| look.hidden) {
            seen.extend(pane.transform(split) * pane.opening);
        }
    }
    seen
}
