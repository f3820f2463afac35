//! Lettering along the edge of another form.

use super::lettering::set_lines;
use super::{FontCollection, LetteringError};
use crate::combine::{contours, flatten_tolerance, unite};
use crate::sheet::{Along, Lettering};
use kurbo::{Affine, BezPath, PathEl, Point, Shape, Vec2};

/// The outlines of a text whose lines run along the longest contour of an edge; the space of the edge, millimetres.
///
/// Each letter is turned to the chord of the edge under it. The last line stands on the edge, those before it further off.
///
/// # Errors
/// A font that is not there, or text that it cannot set.
pub fn lettering_along(
    lettering: &Lettering,
    along: &Along,
    edge: &BezPath,
    fonts: &FontCollection,
) -> Result<BezPath, LetteringError> {
    let face = fonts.get(&lettering.font).ok_or_else(|| LetteringError::NoFont(lettering.font.clone()))?;
    let Some(track) = Track::new(edge, along.inside) else {
        return super::lettering_path(lettering, fonts);
    };
    let scale = lettering.size / face.units_per_em;
    let mut path = BezPath::new();
    let lines = set_lines(lettering, face)?;
    let count = lines.len();
    for (i, line) in lines.into_iter().enumerate() {
        let start = track.length * along.start + line.start(lettering.align) * scale;
        let rows = (count - 1 - i) as f64;
        let lift = (along.off / 1000.0 + rows * lettering.leading) * lettering.size;
        for glyph in line.glyphs {
            let middle = glyph.x + glyph.advance / 2.0;
            let half = (glyph.advance * scale / 2.0).max(0.02 * lettering.size);
            let s = start + middle * scale;
            let (a, b) = (track.at(s - half), track.at(s + half));
            let t = (b - a).normalize();
            if !t.is_finite() {
                continue;
            }
            let up = Vec2::new(t.y, -t.x);
            let foot = a.midpoint(b) + up * lift;
            // font units, y upwards, the middle of the letter's advance at the origin
            let place = Affine::new([t.x * scale, t.y * scale, up.x * scale, up.y * scale, foot.x, foot.y]);
            path.extend(place * Affine::translate((-middle, 0.0)) * glyph.path);
        }
    }
    Ok(path)
}

/// A contour by the length along it, from where lettering has its anchor.
struct Track {
    points: Vec<(f64, Point)>,
    length: f64,
    closed: bool,
}

impl Track {
    /// Closed contours run clockwise on the sheet from their topmost point, or the other way round from the lowest one.
    fn new(edge: &BezPath, inside: bool) -> Option<Self> {
        let longest = contours(edge).into_iter().max_by(|a, b| a.perimeter(0.1).total_cmp(&b.perimeter(0.1)))?;
        let closed = longest.elements().iter().any(|e| matches!(e, PathEl::ClosePath));
        let path = if closed { contours(&unite(&longest)).into_iter().next()? } else { longest };
        let mut points: Vec<Point> = Vec::new();
        kurbo::flatten(path.elements().iter().copied(), flatten_tolerance(path.bounding_box()), |el| match el {
            PathEl::MoveTo(p) | PathEl::LineTo(p) => points.push(p),
            _ => {}
        });
        points.dedup_by(|a, b| (*a - *b).hypot() < 1e-9);
        if closed {
            if points.first().zip(points.last()).is_some_and(|(a, b)| (*a - *b).hypot() < 1e-9) {
                points.pop();
            }
            // y points down: a positive area runs clockwise
            if (path.area() > 0.0) == inside {
                points.reverse();
            }
            let height = |p: &Point| if inside { -p.y } else { p.y };
            let at = points.iter().enumerate().min_by(|a, b| height(a.1).total_cmp(&height(b.1)))?.0;
            points.rotate_left(at);
            points.push(points[0]);
        }
        let mut far = 0.0;
        let mut list = Vec::with_capacity(points.len());
        for (i, p) in points.iter().enumerate() {
            if i > 0 {
                far += (*p - points[i - 1]).hypot();
            }
            list.push((far, *p));
        }
        (far > 0.0).then_some(Self { points: list, length: far, closed })
    }

    /// The point at a length; beyond the ends of an open track it goes straight on.
    fn at(&self, s: f64) -> Point {
        let s = if self.closed { s.rem_euclid(self.length) } else { s };
        let i = self.points.partition_point(|(far, _)| *far < s).clamp(1, self.points.len() - 1);
        let ((s0, p0), (s1, p1)) = (self.points[i - 1], self.points[i]);
        p0 + (p1 - p0) * ((s - s0) / (s1 - s0).max(1e-12))
    }
}
