//! What breaks out and ends with a straight cut.

use super::finding::{Finding, FindingKind, Severity, called};
use crate::breakout::{JointOpenings, SubjectOf};
use crate::library::Library;
use crate::outline::{opened_in_members, shown_outline};
use crate::sheet::{FillPaint, Piece, Sheet};
use kurbo::{Rect, Shape};
use std::sync::Arc;

/// Parts that are let out and cut off by the end of their photo.
pub(super) fn cut_off(sheet: &Sheet, piece: &Piece, library: &dyn Library) -> Option<Finding> {
    let window = piece.window().filter(|w| w.is_masked() && !w.finish.negative && !w.breakout.is_plain())?;
    let shown = Arc::clone(&shown_outline(sheet, window, library).ok()?.path);
    let in_members = opened_in_members(sheet, piece, library);
    let joints = JointOpenings::of(sheet, piece.id, window, shown, in_members.as_ref(), library);
    let mut places: Vec<Rect> = Vec::new();
    for fill in window.fills.iter().filter(|f| !f.off) {
        let FillPaint::Photo(photo_fill) = &fill.paint else { continue };
        let Some(photo) = sheet.photos.get(&photo_fill.photo) else { continue };
        for subject in photo.drawn_subjects() {
            let subject = SubjectOf { window, fill, photo_fill, photo, subject };
            let Some((placed, found)) = subject.overhangs(joints.of_fill(fill.id), library) else { continue };
            let cut = found.parts.iter().filter(|part| part.out && part.cut_off);
            places.extend(cut.map(|part| (placed.to_sheet * &part.outline).bounding_box()));
        }
    }
    // where the photo ends beyond the sheet nobody sees it
    let printed = super::looks::printed(sheet);
    let around = places.into_iter().filter(|r| r.intersect(printed).area() > 0.0).reduce(|a, b| a.union(b))?;
    let sentence = format!(
        "What breaks out of {} ends with a straight cut, as its photo ends there. Keep that part in, or hide its end behind something.",
        called(sheet, piece)
    );
    Some(Finding::of_piece(FindingKind::BreakoutCutOff, Severity::Wrong, piece, "", sentence).at(around))
}
