//! Pieces that show nothing, are hidden, or lie on one another.

use super::coverage::shows_nothing;
use super::finding::{Finding, FindingKind, Severity, called};
use super::looks::Look;
use super::thin::is_void;
use crate::combine::bounds;
use crate::edit::Edit;
use crate::library::Library;
use crate::outline::{OpeningOutline, OutlineError, shown_outline};
use crate::sheet::{Fill, Piece, Sheet, Window};
use kurbo::Rect;
use std::sync::Arc;

/// A piece without an outline.
pub(super) fn undrawable(sheet: &Sheet, piece: &Piece, error: &OutlineError) -> Finding {
    let sentence = format!("{} cannot be drawn. {error}", called(sheet, piece));
    Finding::of_piece(FindingKind::Undrawable, Severity::Wrong, piece, "", sentence)
}

/// A piece of which nothing is seen.
pub(super) fn empty(sheet: &Sheet, piece: &Piece, looks: &[Look]) -> Option<Finding> {
    let is_empty = |look: &Look| is_void(&look.opening) || (shows_nothing(&look.window) && is_unrimmed(&look.window));
    if !looks.iter().all(is_empty) {
        return None;
    }
    let sentence = format!("{} shows nothing.", called(sheet, piece));
    let finding = Finding::of_piece(FindingKind::Empty, Severity::Note, piece, "", sentence);
    Some(finding.mended_by("Remove it", vec![Edit::RemovePiece { piece: piece.id }]))
}

fn is_unrimmed(window: &Window) -> bool {
    window.finish.rims.values().all(|r| r.off) && window.finish.shadows.values().all(|s| s.off)
}

/// Hidden pieces: they are not delivered.
pub(super) fn hidden(sheet: &Sheet) -> Vec<Finding> {
    let finding = |piece: &Piece| {
        let sentence = format!("{} is hidden and is not delivered.", called(sheet, piece));
        let finding = Finding::of_piece(FindingKind::Hidden, Severity::Note, piece, "", sentence);
        finding.mended_by("Show it", vec![Edit::HidePiece { piece: piece.id, hidden: false }])
    };
    sheet.pieces.iter().rev().filter(|p| p.hidden).map(finding).collect()
}

/// Pieces that look as another one does that lies in the same place: a copy that was forgotten doubles shadows and soft edges, and is cut twice.
pub(super) fn identical(sheet: &Sheet, library: &dyn Library) -> Vec<Finding> {
    let seen = sheet.pieces.iter().filter(|p| !p.hidden);
    let outline = |piece: &Piece| shown_outline(sheet, piece.window()?, library).ok();
    let all: Vec<(&Piece, Rect, Arc<OpeningOutline>)> = seen
        .filter_map(|piece| {
            let outline = outline(piece)?;
            Some((piece, bounds(&outline.path), outline))
        })
        .collect();
    let mut found = Vec::new();
    for (k, (piece, place, outline)) in all.iter().enumerate() {
        let same = |(other, there, lies): &&(&Piece, Rect, Arc<OpeningOutline>)| {
            near(place, there) && other.bundle == piece.bundle && outline.path == lies.path && alike(piece, other)
        };
        if all[..k].iter().any(|other| same(&other)) {
            let sentence = format!("{} lies on a copy that looks the same.", called(sheet, piece));
            let finding = Finding::of_piece(FindingKind::IdenticalCopy, Severity::Doubtful, piece, "", sentence);
            found.push(finding.at(*place).mended_by("Remove it", vec![Edit::RemovePiece { piece: piece.id }]));
        }
    }
    found
}

fn near(a: &Rect, b: &Rect) -> bool {
    [a.x0 - b.x0, a.y0 - b.y0, a.x1 - b.x1, a.y1 - b.y1].iter().all(|d| d.abs() < 1e-6)
}

/// Whether two pieces show the same, whatever their fills and rims are called.
fn alike(a: &Piece, b: &Piece) -> bool {
    let (Some(a), Some(b)) = (a.window(), b.window()) else { return false };
    let fills = |w: &Window| w.fills.iter().filter(|f| !f.off).cloned().collect::<Vec<Fill>>();
    let (a_fills, b_fills) = (fills(a), fills(b));
    let same = |(x, y): (&Fill, &Fill)| (&x.paint, x.strength, x.blend) == (&y.paint, y.strength, y.blend);
    a_fills.len() == b_fills.len()
        && a_fills.iter().zip(&b_fills).all(same)
        && a.finish.rims.values().eq(b.finish.rims.values())
        && a.finish.shadows.values().eq(b.finish.shadows.values())
        && a.split == b.split
        && a.repeat == b.repeat
}
