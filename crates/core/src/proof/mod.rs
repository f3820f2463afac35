//! The proof: what would go wrong if a sheet were delivered as it is.
//!
//! Every finding says where it is, how bad it is, and in a sentence what it means. Where it can be mended by itself it holds the edits that do so.
//! Nothing here draws a pixel: everything is measured on outlines, places and numbers.

mod breakouts;
mod coverage;
mod edges;
mod finding;
mod inks;
mod lettering;
mod looks;
mod pieces;
mod rights;
mod terms;
mod thin;

pub use finding::{Finding, FindingKind, Mend, Severity};
pub use terms::ProofTerms;

use crate::library::Library;
use crate::sheet::{Piece, Sheet};
use looks::Look;
use rayon::prelude::*;

/// What would go wrong with a sheet on these terms: the worst first, and those of one severity from the front of the sheet to its back.
///
/// Hidden pieces are said to be hidden, and nothing else is asked of them.
pub fn proof(sheet: &Sheet, terms: &ProofTerms, library: &dyn Library) -> Vec<Finding> {
    let seen: Vec<&Piece> = sheet.pieces.iter().filter(|p| !p.hidden).collect();
    let found: Vec<(Vec<Finding>, bool)> =
        seen.par_iter().rev().map(|piece| of_piece(sheet, piece, terms, library)).collect();
    let reached = found.iter().any(|(_, reached)| *reached);
    let mut all: Vec<Finding> = found.into_iter().flat_map(|(all, _)| all).collect();
    all.extend(pieces::identical(sheet, library));
    all.extend(pieces::hidden(sheet));
    all.extend(edges::of_sheet(sheet, terms, reached));
    all.extend(rights::of(sheet));
    all.extend(rights::of_fonts(sheet, library));
    all.iter_mut().for_each(|finding| finding.waved = sheet.waved.get(&finding.key).cloned());
    // stable: what was found first of a severity stays first
    all.sort_by_key(|finding| finding.severity);
    all
}

/// What is found about a piece, and whether it reaches the edge of the sheet.
fn of_piece(sheet: &Sheet, piece: &Piece, terms: &ProofTerms, library: &dyn Library) -> (Vec<Finding>, bool) {
    let looks = match Look::all(sheet, piece, library) {
        Ok(looks) => looks,
        Err(error) => return (vec![pieces::undrawable(sheet, piece, &error)], false),
    };
    let mut all = Vec::new();
    all.extend(pieces::empty(sheet, piece, &looks));
    all.extend(coverage::uncovered(sheet, piece, &looks));
    all.extend(coverage::coarse(sheet, piece, &looks, terms));
    all.extend(thin::thin_parts(sheet, piece, &looks, terms));
    all.extend(thin::hairlines(sheet, piece, terms));
    all.extend(edges::of_piece(sheet, piece, &looks, terms));
    all.extend(inks::mixed(sheet, piece, &looks));
    all.extend(breakouts::cut_off(sheet, piece, library));
    all.extend(lettering::small(sheet, piece, &looks, terms));
    (all, edges::reaches(sheet, &looks))
}
