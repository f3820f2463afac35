//! Marks around the sheet, for whoever prints and cuts it.

use super::geometry::{path, rect_path};
use crate::RenderError;
use krilla::color::{Color, cmyk, separation};
use krilla::num::NormalizedF32;
use krilla::paint::{Fill, FillRule, Stroke};
use krilla::surface::Surface;
use kurbo::{BezPath, Circle, Line, Point, Rect, Shape};

/// How far marks reach beyond the bleed, in millimetres.
pub(super) const MARKS_MM: f64 = 10.0;
/// How far they keep away from the bleed.
const AWAY: f64 = 2.0;
/// How long a crop mark is.
const LONG: f64 = 6.0;
/// A quarter of a point, in millimetres.
const THIN: f64 = 0.25 * 25.4 / 72.0;
/// Radius of a register mark.
const RADIUS: f64 = 2.0;
/// Side of a patch of colour.
const PATCH: f64 = 4.0;

/// Draws crop marks at the corners, register marks at the middles of the sides, and patches of colour below. `trim` is where the sheet is cut.
pub(super) fn draw(surface: &mut Surface<'_>, trim: Rect, bleed: f64) -> Result<(), RenderError> {
    let far = bleed + AWAY;
    let mut crop = BezPath::new();
    let mut line = |from: Point, to: Point| crop.extend(Line::new(from, to).path_elements(0.1));
    for (x, out) in [(trim.x0, -1.0), (trim.x1, 1.0)] {
        for (y, down) in [(trim.y0, -1.0), (trim.y1, 1.0)] {
            line(Point::new(x + out * far, y), Point::new(x + out * (far + LONG), y));
            line(Point::new(x, y + down * far), Point::new(x, y + down * (far + LONG)));
        }
    }
    let middle = far + LONG / 2.0;
    let c = trim.center();
    let places = [
        Point::new(c.x, trim.y0 - middle),
        Point::new(c.x, trim.y1 + middle),
        Point::new(trim.x0 - middle, c.y),
        Point::new(trim.x1 + middle, c.y),
    ];
    for at in places {
        crop.extend(Circle::new(at, RADIUS).path_elements(0.01));
        for [dx, dy] in [[1.5 * RADIUS, 0.0], [0.0, 1.5 * RADIUS]] {
            crop.extend(Line::new((at.x - dx, at.y - dy), (at.x + dx, at.y + dy)).path_elements(0.1));
        }
    }
    if let Some(marks) = path(&crop) {
        // on every plate
        let fallback = cmyk::Color::new(255, 255, 255, 255).into();
        let space = separation::SeparationSpace::new(separation::SeparationColorant::AllColorants, fallback);
        surface.set_fill(None);
        let paint = Color::from(separation::Color::new(255, space)).into();
        surface.set_stroke(Some(Stroke { paint, width: THIN as f32, ..Stroke::default() }));
        surface.draw_path(&marks);
    }
    patches(surface, Point::new(trim.x0 + 4.0 * PATCH, trim.y1 + far + (LONG - PATCH) / 2.0))
}

/// The four process colours, whole and by half.
fn patches(surface: &mut Surface<'_>, from: Point) -> Result<(), RenderError> {
    surface.set_stroke(None);
    for (k, share) in [(0, 255_u8), (1, 128)] {
        for plate in 0..4 {
            let of = |p: usize| if p == plate { share } else { 0 };
            let fill = cmyk::Color::new(of(0), of(1), of(2), of(3));
            let left = from.x + PATCH * (4 * k + plate) as f64;
            let patch = rect_path(Rect::new(left, from.y, left + PATCH, from.y + PATCH))?;
            surface.set_fill(Some(Fill { paint: fill.into(), opacity: NormalizedF32::ONE, rule: FillRule::NonZero }));
            surface.draw_path(&patch);
        }
    }
    Ok(())
}
