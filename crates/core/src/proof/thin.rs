//! What is too thin for the press.

use super::finding::{Finding, FindingKind, Severity, called};
use super::looks::Look;
use super::terms::ProofTerms;
use crate::combine::{Rule, area, bounds, grow, join_pair, parts};
use crate::edit::Edit;
use crate::sheet::{Piece, Rim, Sheet};
use kurbo::{BezPath, Rect, Shape};

/// What is narrower than the press can hold is a sliver if it is at least so many times as long as that; the points of stars are not.
const LONG: f64 = 8.0;
/// Outlines with more nodes are not looked through: a print of thousands of letters takes too long.
const NODES: usize = 20_000;

/// Parts of an opening that the press cannot hold. Parts that vanish whole are specks; narrow stretches of larger ones are slivers.
///
/// The outline is shrunk by half of what the press holds and grown again (a morphological opening, Serra 1982). What does not come back is too thin.
pub(super) fn thin_parts(sheet: &Sheet, piece: &Piece, looks: &[Look], terms: &ProofTerms) -> Vec<Finding> {
    let Some(look) = looks.first().filter(|l| l.window.is_masked() && l.opening.elements().len() <= NODES) else {
        return Vec::new();
    };
    let least = terms.least_part / look.largest().max(1e-9);
    let (specks, larger): (Vec<_>, Vec<_>) =
        parts(&look.opening).into_iter().partition(|p| p.bounds.width().min(p.bounds.height()) < least);
    let mut slivers: Vec<Rect> = Vec::new();
    for part in larger {
        let back = grow(&grow(&part.path, -least / 2.0), least / 2.0 * 1.05);
        let lost = join_pair(&part.path, &back, Rule::Difference);
        slivers.extend(parts(&lost).iter().filter(|p| length(&p.path, p.area) > LONG * least).map(|p| p.bounds));
    }
    let specks: Vec<Rect> = specks.iter().map(|p| p.bounds).collect();
    let found = [
        (FindingKind::Speck, &specks, ["part", "parts"], "smaller"),
        (FindingKind::Sliver, &slivers, ["stretch", "stretches"], "narrower"),
    ];
    let finding = |(kind, places, [one, several], how): (FindingKind, &Vec<Rect>, [&str; 2], &str)| {
        let around = places.iter().copied().reduce(|a, b| a.union(b))?;
        let (count, is, them) = match places.len() {
            1 => (format!("One {one}"), "is", "it"),
            n => (format!("{n} {several}"), "are", "them"),
        };
        let (name, size) = (called(sheet, piece), terms.least_part);
        let sentence = format!("{count} of {name} {is} {how} than {size:.2} mm: the press cannot hold {them}.");
        Some(Finding::of_piece(kind, Severity::Doubtful, piece, "", sentence).at(look.seen(around)))
    };
    found.into_iter().filter_map(finding).collect()
}

/// Half of the way around a thin part is about its length.
fn length(path: &BezPath, area: f64) -> f64 {
    if area <= 1e-9 { 0.0 } else { path.perimeter(1e-3) / 2.0 }
}

/// Rims that are thinner than the least line.
pub(super) fn hairlines(sheet: &Sheet, piece: &Piece, terms: &ProofTerms) -> Vec<Finding> {
    let Some(window) = piece.window() else { return Vec::new() };
    let thin = |r: &Rim| !r.off && r.width > 0.0 && r.width < terms.least_line - 1e-9;
    let Some(thinnest) = window.finish.rims.values().filter(|r| thin(r)).map(|r| r.width).reduce(f64::min) else {
        return Vec::new();
    };
    let mut finish = window.finish.clone();
    finish.rims.iter_mut().map(|m| &mut m.value).filter(|r| thin(r)).for_each(|r| r.width = terms.least_line);
    let sentence = format!(
        "A rim of {} is {thinnest:.3} mm thin. The press holds lines from {:.3} mm on.",
        called(sheet, piece),
        terms.least_line
    );
    let finding = Finding::of_piece(FindingKind::Hairline, Severity::Doubtful, piece, "", sentence);
    vec![finding.mended_by("Thicken", vec![Edit::SetFinish { piece: piece.id, finish }])]
}

/// Whether an outline holds next to nothing.
pub(super) fn is_void(path: &BezPath) -> bool {
    path.is_empty() || area(path).abs() < 1e-6 || bounds(path).area() < 1e-9
}
