//! What lies at the cut, near it, or beside the sheet.

use super::finding::{Finding, FindingKind, Severity, called};
use super::looks::{Look, printed};
use super::terms::ProofTerms;
use crate::edit::Edit;
use crate::sheet::{Colour, FormShape, Piece, Sheet};
use kurbo::Rect;

/// What comes so near to the cut is meant to reach it, in millimetres.
const AT: f64 = 0.3;

/// Pieces at the cut that do not reach beyond it, that stand too near it, or that are not on the sheet at all.
pub(super) fn of_piece(sheet: &Sheet, piece: &Piece, looks: &[Look], terms: &ProofTerms) -> Vec<Finding> {
    let Some(window) = piece.window() else { return Vec::new() };
    let Some(seen) = looks.iter().map(Look::bounds).filter(|b| b.area() > 0.0).reduce(|a, b| a.union(b)) else {
        return Vec::new();
    };
    if window.finish.negative {
        return Vec::new();
    }
    let page = Rect::new(0.0, 0.0, sheet.width, sheet.height);
    if seen.intersect(printed(sheet)).area() <= 0.0 {
        let sentence = format!("{} lies beside the sheet and is not printed.", called(sheet, piece));
        return vec![Finding::of_piece(FindingKind::BesideTheSheet, Severity::Note, piece, "", sentence).at(seen)];
    }
    // how far it reaches beyond each side of the sheet
    let beyond = [page.x0 - seen.x0, page.y0 - seen.y0, seen.x1 - page.x1, seen.y1 - page.y1];
    let sides = ["left", "top", "right", "bottom"];
    let mut all = Vec::new();
    let short: Vec<&str> =
        (0..4).filter(|k| beyond[*k] > -AT && beyond[*k] < sheet.bleed.max(AT) - 0.05).map(|k| sides[k]).collect();
    if !short.is_empty() && sheet.bleed > 0.0 {
        let sentence = format!(
            "{} ends at the cut ({}) and does not reach {:.1} mm beyond it. A cut that is a hair off shows the paper.",
            called(sheet, piece),
            short.join(", "),
            sheet.bleed
        );
        all.push(Finding::of_piece(FindingKind::NoBleed, Severity::Doubtful, piece, "", sentence).at(seen));
    }
    let has_lettering = window.opening.forms.iter().any(|f| !f.off && matches!(f.shape, FormShape::Lettering(_)));
    let near: Vec<&str> = (0..4).filter(|k| (-terms.safe..=-AT).contains(&beyond[*k])).map(|k| sides[k]).collect();
    if has_lettering && !near.is_empty() {
        let sentence = format!(
            "{} stands less than {:.1} mm from the cut ({}) and may be cut into.",
            called(sheet, piece),
            terms.safe,
            near.join(", ")
        );
        all.push(Finding::of_piece(FindingKind::NearTheCut, Severity::Doubtful, piece, "", sentence).at(seen));
    }
    all
}

/// A sheet that is printed up to its edge, by its ground or (`reached`) a piece, with less bleed than is asked for.
pub(super) fn of_sheet(sheet: &Sheet, terms: &ProofTerms, reached: bool) -> Option<Finding> {
    let has_ground = sheet.backdrop.is_some() || sheet.background != Colour::PAPER;
    if sheet.bleed >= terms.bleed - 1e-9 || !(reached || has_ground) {
        return None;
    }
    let has = if sheet.bleed > 0.0 { format!("a bleed of {:.1} mm", sheet.bleed) } else { "no bleed".into() };
    let sentence = format!(
        "What is printed reaches the edge of the sheet, which has {has}. With {:.0} mm, a cut that is a hair off shows no paper.",
        terms.bleed
    );
    let finding = Finding::of_sheet(FindingKind::NoBleed, Severity::Doubtful, "sheet", sentence);
    Some(finding.mended_by("Give it a bleed", vec![Edit::SetBleed { bleed: terms.bleed }]))
}

/// Whether a piece is seen at the edge of the sheet.
pub(super) fn reaches(sheet: &Sheet, looks: &[Look]) -> bool {
    let page = Rect::new(0.0, 0.0, sheet.width, sheet.height);
    let inner = page.inflate(-AT, -AT);
    let at_edge = |seen: Rect| seen.intersect(page).area() > 0.0 && !inner.contains_rect(seen);
    looks.iter().any(|look| look.window.finish.negative || at_edge(look.bounds()))
}
