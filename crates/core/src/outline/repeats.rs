//! Where the members of what is repeated lie.

use super::split_line::{polyline, smooth};
use crate::sheet::{Layout, LineLayout, Repeat};
use kurbo::{Affine, BezPath, ParamCurve, ParamCurveArclen, ParamCurveDeriv, PathSeg, Point, Shape, Vec2};

/// Lines across an outline along which its width is measured, beside those through its nodes.
const LINES: usize = 64;
/// An outline with more nodes than this is measured along the lines alone.
const NODES: usize = 400;
/// How well lengths along a line are known, in millimetres.
const ACCURACY: f64 = 1e-3;
/// No member is smaller than this share of what is repeated.
const SMALLEST: f64 = 0.01;

/// The members that are seen, by their numbers; see [`member_transforms`].
pub fn seen_members(repeat: &Repeat, outline: &BezPath) -> Vec<(u32, Affine)> {
    let is_seen = |k: &u32| !repeat.look(*k).is_some_and(|look| look.hidden);
    (0u32..).zip(member_transforms(repeat, outline)).filter(|(k, _)| is_seen(k)).collect()
}

/// From where a window or bundle lies to where each of its members lies, in the order of the layout; sheet space. `outline` is its own.
pub fn member_transforms(repeat: &Repeat, outline: &BezPath) -> Vec<Affine> {
    let centre = crate::combine::bounds(outline).center();
    let grown = |k: u32| repeat.scale.powi(k as i32);
    let own = |k: u32, shift: Vec2, turn: f64| {
        Affine::translate(shift)
            * Affine::rotate_about((turn + repeat.turn * f64::from(k)).to_radians(), centre)
            * Affine::scale_about(grown(k), centre)
    };
    let plain: Vec<Affine> = match &repeat.layout {
        &Layout::Row { count, gap, along } => {
            let along = Vec2::new(along[0], along[1]);
            let width = width_along(outline, along);
            let mut far = 0.0;
            (0..count)
                .map(|k| {
                    let here = own(k, along * far, 0.0);
                    // the gap stays the same while members grow or shrink
                    far += width * (grown(k) + grown(k + 1)) / 2.0 + gap;
                    here
                })
                .collect()
        }
        &Layout::Grid { columns, rows, gaps, along, down } => {
            let [along, down] = [along, down].map(|[x, y]| Vec2::new(x, y));
            let step = [along * (width_along(outline, along) + gaps[0]), down * (width_along(outline, down) + gaps[1])];
            let at = |k: u32| step[0] * f64::from(k % columns) + step[1] * f64::from(k / columns);
            (0..columns * rows).map(|k| own(k, at(k), 0.0)).collect()
        }
        &Layout::Ring { count, centre: middle, sweep, upright } => {
            let middle = Point::new(middle[0], middle[1]);
            // all around, the first is not met again
            let steps = if sweep.abs() >= 360.0 { count } else { count.saturating_sub(1) }.max(1);
            let at = |k: u32| {
                let angle = sweep * f64::from(k) / f64::from(steps);
                let shift = Affine::rotate_about(angle.to_radians(), middle) * centre - centre;
                own(k, shift, if upright { 0.0 } else { angle })
            };
            (0..count).map(at).collect()
        }
        Layout::Line(line) => {
            let way = Way::along(line);
            let at = |k: u32| {
                let Stamp { at, turn, pressure } = way.at(f64::from(k) * line.distance);
                let size = 1.0 - line.thinning * (1.0 - pressure);
                let turn = if line.upright { 0.0 } else { turn - line.level };
                own(k, at - centre, turn) * Affine::scale_about(size.max(SMALLEST), centre)
            };
            (0..line.count).map(at).collect()
        }
    };
    let moved = |(k, plain): (usize, Affine)| match repeat.look(k as u32) {
        Some(look) => Affine::new(look.by) * plain,
        None => plain,
    };
    plain.into_iter().enumerate().map(moved).collect()
}

/// The line along which members lie, from its first point to its last one; sheet space.
pub fn layout_line_path(line: &LineLayout) -> BezPath {
    let points: Vec<Point> = line.points.iter().map(|[x, y, _]| Point::new(*x, *y)).collect();
    if line.smooth { smooth(&points) } else { polyline(&points) }
}

/// A line with the lengths of what it is made of.
struct Way {
    /// Each with its length and the pressures at its ends.
    segments: Vec<(PathSeg, f64, [f64; 2])>,
}

/// A place on a line.
struct Stamp {
    at: Point,
    /// Which way the line runs there: degrees clockwise from the right.
    turn: f64,
    pressure: f64,
}

impl Way {
    fn along(line: &LineLayout) -> Self {
        let path = layout_line_path(line);
        let pressures = line.points.windows(2).map(|w| [w[0][2], w[1][2]]);
        Self { segments: path.segments().zip(pressures).map(|(s, p)| (s, s.arclen(ACCURACY), p)).collect() }
    }

    /// The place so many millimetres along it; beyond its end straight on.
    fn at(&self, mut far: f64) -> Stamp {
        let towards = |segment: &PathSeg, t: f64| {
            let tangent = match segment {
                PathSeg::Line(line) => line.p1 - line.p0,
                PathSeg::Quad(quad) => quad.deriv().eval(t).to_vec2(),
                PathSeg::Cubic(cubic) => cubic.deriv().eval(t).to_vec2(),
            };
            // a curve may begin without a direction of its own
            if tangent.hypot() > 1e-9 { tangent } else { segment.end() - segment.start() }
        };
        for (segment, length, [from, to]) in &self.segments {
            if far <= *length {
                let t = segment.inv_arclen(far, ACCURACY);
                let pressure = from + (to - from) * far / length.max(1e-9);
                return Stamp { at: segment.eval(t), turn: towards(segment, t).atan2().to_degrees(), pressure };
            }
            far -= length;
        }
        let Some((last, _, [_, pressure])) = self.segments.last() else {
            return Stamp { at: Point::ORIGIN, turn: 0.0, pressure: 1.0 };
        };
        let along = towards(last, 1.0);
        let at = last.end() + along / along.hypot().max(1e-9) * far;
        Stamp { at, turn: along.atan2().to_degrees(), pressure: *pressure }
    }
}

/// How far an outline has to be moved along a direction to lie clear of where it was: the longest way through it. So slanted panels stand at
/// the gap that is seen between them, not at that between their boxes. Units of the path.
pub fn width_along(outline: &BezPath, along: Vec2) -> f64 {
    let level = Affine::rotate(-along.atan2()) * outline.clone();
    let b = level.bounding_box();
    if !b.is_finite() || b.height() <= 0.0 {
        return b.width().max(0.0);
    }
    let segments: Vec<PathSeg> = level.segments().collect();
    // just within the box: right at its edge a line only touches
    let hair = 1e-6 * b.height();
    let even = (0..=LINES).map(|k| b.y0 + hair + (b.height() - 2.0 * hair) * k as f64 / LINES as f64);
    let nodes = segments.iter().take(NODES).flat_map(|s| [s.end().y - hair, s.end().y + hair]);
    let through = |y: f64| {
        let line = kurbo::Line::new((b.x0 - 1.0, y), (b.x1 + 1.0, y));
        let met = segments.iter().filter(|s| {
            let own = s.bounding_box();
            own.y0 <= y && y <= own.y1
        });
        let places = met.flat_map(|s| s.intersect_line(line)).map(|i| line.eval(i.line_t).x);
        let (least, most) = places.fold((f64::INFINITY, f64::NEG_INFINITY), |(a, b), x| (a.min(x), b.max(x)));
        if most > least { most - least } else { 0.0 }
    };
    even.chain(nodes).filter(|y| b.y0 < *y && *y < b.y1).map(through).fold(0.0, f64::max)
}
