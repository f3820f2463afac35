//! Edits of what passes over the edge.

use super::forms::baked;
use super::target::window;
use crate::breakout::{SubjectOf, part_contour};
use crate::check::{self, Refusal};
use crate::combine::{simplify, unite};
use crate::library::Library;
use crate::outline::opening_path;
use crate::sheet::{Anchor, FillPaint, FormId, PieceId, Sheet};
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
    let own = sheet.piece(piece).and_then(|p| p.window()).ok_or(Refusal::NoPiece)?;
    let fill = own.fill(anchor.fill).ok_or(Refusal::NoPart)?;
    let FillPaint::Photo(photo_fill) = &fill.paint else {
        return Err(Refusal::NoPart);
    };
    let photo = sheet.photos.get(&photo_fill.photo).ok_or(Refusal::NoPhoto)?;
    let subject = photo.subject(anchor.subject).ok_or(Refusal::NoSubject)?;
    let subject = SubjectOf { window: own, fill, photo_fill, photo, subject };
    library.matte(&subject.subject.matte).ok_or(Refusal::NoSubject)?;
    let placed = subject.placed(library).ok_or(Refusal::NoPart)?;
    let place = photo_fill.placement;
    let at = placed.there(Point::new(anchor.x, anchor.y));
    let opening = opening_path(&own.opening, library)?;
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
