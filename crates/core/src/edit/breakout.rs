//! Edits of what passes over the edge.

use super::forms::baked;
use super::target::{subject_at, window};
use crate::breakout::part_contour;
use crate::check::{self, Refusal};
use crate::combine::{simplify, unite};
use crate::library::Library;
use crate::outline::opening_path;
use crate::sheet::{Anchor, FormId, PieceId, Sheet};
use kurbo::Point;

/// Turns the part of a subject that an anchor means into a contour of the opening, which lies within the subject: `tolerance` is how far it may
/// stray from the part's own edge, `smooth` how small bumps and dents may be; millimetres.
pub(super) fn merge(
    sheet: &mut Sheet,
    piece: PieceId,
    anchor: &Anchor,
    form: FormId,
    (tolerance, smooth): (f64, f64),
    library: &dyn Library,
) -> Result<(), Refusal> {
    check::within("The tolerance", tolerance, 0.01, 50.0)?;
    check::within("The smoothing", smooth, 0.0, 100.0)?;
    let subject = subject_at(sheet, piece, anchor)?;
    library.matte(&subject.subject.matte).ok_or(Refusal::NoSubject)?;
    let placed = subject.placed(library).ok_or(Refusal::NoPart)?;
    let place = subject.photo_fill.placement;
    let at = placed.there(Point::new(anchor.x, anchor.y));
    let opening = opening_path(&subject.window.opening, library)?;
    let within = (tolerance / place.scale, smooth / place.scale);
    let meant = (&subject.chosen(&placed), at);
    let contour = part_contour(&placed.matte, &opening, placed.to_sheet, meant, within).ok_or(Refusal::TooThin)?;
    let contour = simplify(&unite(&(placed.to_sheet * contour)), 0.9 * tolerance);
    if contour.is_empty() {
        return Err(Refusal::TooThin);
    }
    let window = window(sheet, piece)?;
    window.opening.forms.push(baked(form, &contour));
    check::opening(&window.opening.clone(), sheet)
}
