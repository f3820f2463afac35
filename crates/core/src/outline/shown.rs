//! What is open of a window: its opening, or, where nothing masks it, the frames of its pictures.

use super::error::OutlineError;
use super::form::form_path;
use super::opening::opening_outline;
use super::opening_outline::OpeningOutline;
use super::sources::OutlineSources;
use crate::combine::unite;
use crate::sheet::{FillPaint, Sheet, Window};
use kurbo::{BezPath, Point};
use std::sync::Arc;

/// The outline of what a window shows, in sheet space: that of its opening. A window without a mask shows its photos, drawings and
/// lettering whole; colours and tiles, which have no end of their own, are seen within those.
///
/// # Errors
/// As for [`super::opening_outline`].
pub fn shown_outline(
    sheet: &Sheet,
    window: &Window,
    sources: &dyn OutlineSources,
) -> Result<Arc<OpeningOutline>, OutlineError> {
    if window.is_masked() {
        return opening_outline(&window.opening, sources);
    }
    Ok(Arc::new(OpeningOutline::plain(frames(sheet, window, sources)?)))
}

/// The frames of the photos, drawings and lettering of a window, whether or not something masks them; sheet space.
///
/// # Errors
/// As for [`super::form_path`].
pub fn frames(sheet: &Sheet, window: &Window, sources: &dyn OutlineSources) -> Result<BezPath, OutlineError> {
    let mut frames = BezPath::new();
    let mut count = 0;
    for fill in window.fills.iter().filter(|f| !f.off && f.is_common()) {
        let frame = match &fill.paint {
            FillPaint::Photo(p) => {
                sheet.photos.get(&p.photo).map(|photo| quad(p.placement.corners(photo.width, photo.height)))
            }
            FillPaint::Drawing(d) => {
                let drawing = sources.drawing(&d.drawing);
                drawing.map(|drawn| quad(d.placement.corners(drawn.picture.width, drawn.picture.height)))
            }
            FillPaint::Form(f) => Some(unite(&form_path(&f.form, &[], sources)?)),
            FillPaint::Tile(_) | FillPaint::Window(_) | FillPaint::Plain(_) => None,
        };
        if let Some(frame) = frame {
            frames.extend(frame);
            count += 1;
        }
    }
    Ok(if count > 1 { unite(&frames) } else { frames })
}

/// A closed path through four corners.
fn quad(corners: [[f64; 2]; 4]) -> BezPath {
    let corners = corners.map(|[x, y]| Point::new(x, y));
    let mut path = BezPath::new();
    path.move_to(corners[0]);
    corners[1..].iter().for_each(|p| path.line_to(*p));
    path.close_path();
    path
}
