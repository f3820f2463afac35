//! The edges of a labelled mask as closed ways along the sides of its pixels, and straight lines through it.

use crate::grid::Grid;
use kurbo::{Line, Point};

/// A closed way around a mask, along the sides of its pixels, with the mask on the right.
pub(super) struct Contour {
    /// Corners of pixels, one step apart.
    pub corners: Vec<(i64, i64)>,
    /// The pixel of the mask beside the step that begins at each corner.
    pub pixels: Vec<usize>,
    /// Twice the area swept, seen from the origin, up to each corner.
    swept: Vec<i64>,
}

impl Contour {
    /// By how much it turns at a corner, in radians, seen from so many pixels away to both sides; less than 0 where it is hollow.
    pub fn turn(&self, at: usize, arm: i64) -> f64 {
        let own = self.corners[at];
        let away = |way: i64| {
            let ends = (arm..=2 * arm).map(|k| self.corners[self.place(at as i64 + way * k)]);
            let mut ends = ends.map(|end| (end.0 - own.0, end.1 - own.1)).peekable();
            let nearest = ends.peek().copied().unwrap_or((0, 0));
            ends.find(|(dx, dy)| dx * dx + dy * dy >= arm * arm).unwrap_or(nearest)
        };
        let ((ux, uy), v) = (away(-1), away(1));
        let u = (-ux, -uy);
        (cross(u, v) as f64).atan2((u.0 * v.0 + u.1 * v.1) as f64)
    }

    /// The place of a corner, in pixels.
    pub fn point(&self, at: usize) -> Point {
        Point::new(self.corners[at].0 as f64, self.corners[at].1 as f64)
    }

    /// The corner that a number of steps from the first one means, around and around.
    pub fn place(&self, at: i64) -> usize {
        at.rem_euclid(self.corners.len() as i64) as usize
    }

    /// The area within it; less than 0 for that of a hole.
    pub fn area(&self) -> f64 {
        self.swept[self.corners.len()] as f64 / 2.0
    }

    /// The area between the way from one corner forward to another one and the straight line back.
    pub fn cut_off(&self, from: usize, to: usize) -> f64 {
        let (p, q) = (self.corners[from], self.corners[to]);
        let around = if to >= from { 0 } else { self.swept[self.corners.len()] };
        (self.swept[to] - self.swept[from] + around + cross(q, p)) as f64 / 2.0
    }
}

fn cross(p: (i64, i64), q: (i64, i64)) -> i64 {
    p.0 * q.1 - p.1 * q.0
}

/// All contours of what is labelled; pixels that meet at a corner belong together.
pub(super) fn traced_contours(labels: &Grid<u32>) -> Vec<Contour> {
    let (w, h) = (labels.width as i64, labels.height as i64);
    let inside = |x: i64, y: i64| (0..w).contains(&x) && (0..h).contains(&y) && labels.at(x as usize, y as usize) > 0;
    // steps along the upper side of a pixel, of which every contour has one
    let mut seen = Grid::filled(labels.width, labels.height, false);
    let mut all = Vec::new();
    for start in 0..labels.data.len() {
        let (x0, y0) = (start as i64 % w, start as i64 / w);
        if seen.data[start] || !inside(x0, y0) || inside(x0, y0 - 1) {
            continue;
        }
        let mut contour = Contour { corners: Vec::new(), pixels: Vec::new(), swept: vec![0] };
        let (mut x, mut y, mut heading) = (x0, y0, 0);
        loop {
            // east, south, west, north: the step, and the pixel on its right
            let ((dx, dy), (px, py)) = match heading {
                0 => ((1, 0), (x, y)),
                1 => ((0, 1), (x - 1, y)),
                2 => ((-1, 0), (x - 1, y - 1)),
                _ => ((0, -1), (x, y - 1)),
            };
            if heading == 0 {
                seen.data[(py * w + px) as usize] = true;
            }
            contour.corners.push((x, y));
            contour.pixels.push((py * w + px) as usize);
            let swept = contour.swept[contour.swept.len() - 1] + cross((x, y), (x + dx, y + dy));
            contour.swept.push(swept);
            (x, y) = (x + dx, y + dy);
            let (left, right) = match heading {
                0 => (inside(x, y - 1), inside(x, y)),
                1 => (inside(x, y), inside(x - 1, y)),
                2 => (inside(x - 1, y), inside(x - 1, y - 1)),
                _ => (inside(x - 1, y - 1), inside(x, y - 1)),
            };
            heading = match (left, right) {
                (true, _) => (heading + 3) % 4,
                (false, true) => heading,
                (false, false) => (heading + 1) % 4,
            };
            if (x, y, heading) == (x0, y0, 0) {
                break;
            }
        }
        all.push(contour);
    }
    all
}

/// What is open of a labelled mask: all but 0.
pub(super) fn is_inside(labels: &Grid<u32>, x: usize, y: usize) -> bool {
    x < labels.width && y < labels.height && labels.at(x, y) > 0
}

/// Whether a line runs within a labelled mask, but for its ends, which lie on the edge.
pub(super) fn runs_within(labels: &Grid<u32>, line: Line) -> bool {
    along(line, 0.8, |x, y| is_inside(labels, x, y))
}

/// Closes what a line goes through.
pub(super) fn lay(open: &mut Grid<u32>, line: Line) {
    pixels(open, line).into_iter().for_each(|at| open.data[at] = 0);
}

/// The pixels of a grid under a line, in a row without gaps.
pub(super) fn pixels(labels: &Grid<u32>, line: Line) -> Vec<usize> {
    let mut all = Vec::new();
    along(line, 0.0, |x, y| {
        if x < labels.width && y < labels.height {
            all.push(y * labels.width + x);
        }
        true
    });
    all
}

/// Visits the pixels under a line but for `short` pixels at its ends, as long as `visit` says so; whether it did to the end.
fn along(line: Line, short: f64, mut visit: impl FnMut(usize, usize) -> bool) -> bool {
    let long = (line.p1 - line.p0).hypot();
    let steps = (4.0 * (long - 2.0 * short)).ceil().max(0.0) as usize;
    (0..=steps).all(|k| {
        let t = (short + k as f64 / 4.0).min(long - short).max(0.0) / long.max(1e-9);
        let p = line.p0.lerp(line.p1, t);
        visit(p.x as usize, p.y as usize)
    })
}
