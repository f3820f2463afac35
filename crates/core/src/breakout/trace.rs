//! Level lines of a grid as closed polygons.

use crate::grid::Grid;
use imageproc::geometry::approximate_polygon_dp;
use kurbo::{BezPath, Point};

/// The closed lines along which a grid passes 0.5, in grid coordinates (pixel centres at halves), by marching squares
/// with linear interpolation. Beyond the border the grid counts as 0. To be filled by either rule.
pub fn trace(grid: &Grid<f32>) -> BezPath {
    let mut path = BezPath::new();
    polygons(grid).iter().for_each(|points| draw(&mut path, points));
    path
}

/// [`trace`] with fewer corners: lines stray by `tolerance` pixels at most (D. Douglas, T. Peucker, "Algorithms for the reduction of the number
/// of points required to represent a digitized line", 1973).
pub fn trace_within(grid: &Grid<f32>, tolerance: f64) -> BezPath {
    let mut path = BezPath::new();
    for points in polygons(grid).iter().filter(|points| points.len() > 2) {
        let first = points[0];
        let far = |i: &usize| points[*i].distance_squared(first);
        let split = (1..points.len()).max_by(|a, b| far(a).total_cmp(&far(b))).unwrap_or(1);
        // the two halves are open: a closed line has no chord
        let mut few = fewer(&points[..=split], tolerance);
        let back: Vec<Point> = points[split..].iter().copied().chain([first]).collect();
        few.pop();
        few.extend(fewer(&back, tolerance));
        few.pop();
        draw(&mut path, &few);
    }
    path
}

fn fewer(line: &[Point], tolerance: f64) -> Vec<Point> {
    let line: Vec<_> = line.iter().map(|p| imageproc::point::Point::new(p.x, p.y)).collect();
    approximate_polygon_dp(&line, tolerance, false).iter().map(|p| Point::new(p.x, p.y)).collect()
}

const LEVEL: f32 = 0.5;
/// Stands for an edge that no line crosses.
const NOWHERE: u32 = u32::MAX;

/// Edges between neighbouring samples, of a grid with a border of one sample around it. An edge is named by its first sample and its direction.
struct Edges {
    /// Samples of a row, with the border.
    stride: usize,
    /// For every edge the one to which the line goes on that crosses it.
    next: Vec<u32>,
}

impl Edges {
    fn along(&self, at: usize) -> usize {
        2 * at
    }

    fn down(&self, at: usize) -> usize {
        2 * at + 1
    }

    /// The lines of the cell below and right of a sample, whose corners are inside or not.
    fn cell(&mut self, at: usize, corners: [bool; 4]) {
        let (top, right) = (self.along(at), self.down(at + 1));
        let (bottom, left) = (self.along(at + self.stride), self.down(at));
        let mut line = |from: usize, to: usize| self.next[from] = to as u32;
        // lines run with the inside on their right
        match corners {
            [false, false, false, false] | [true, true, true, true] => {}
            [true, false, false, false] => line(top, left),
            [false, true, false, false] => line(right, top),
            [false, false, true, false] => line(bottom, right),
            [false, false, false, true] => line(left, bottom),
            [true, true, false, false] => line(right, left),
            [false, true, true, false] => line(bottom, top),
            [false, false, true, true] => line(left, right),
            [true, false, false, true] => line(top, bottom),
            [false, true, true, true] => line(left, top),
            [true, false, true, true] => line(top, right),
            [true, true, false, true] => line(right, bottom),
            [true, true, true, false] => line(bottom, left),
            [true, false, true, false] => {
                line(top, left);
                line(bottom, right);
            }
            [false, true, false, true] => {
                line(right, top);
                line(left, bottom);
            }
        }
    }
}

const BLOCK: usize = 16;

fn polygons(grid: &Grid<f32>) -> Vec<Vec<Point>> {
    let (w, h) = (grid.width, grid.height);
    let stride = w + 2;
    let mut edges = Edges { stride, next: vec![NOWHERE; 2 * stride * (h + 2)] };
    let mut starts = Vec::new();
    // the rows above and below the cells, with the border
    let (mut above, mut below, mut mixed) = (vec![false; stride], vec![false; stride], vec![false; w + 1]);
    for y in 0..=h {
        std::mem::swap(&mut above, &mut below);
        match grid.data.get(y * w..(y + 1) * w) {
            Some(line) => below[1..=w].iter_mut().zip(line).for_each(|(b, v)| *b = *v > LEVEL),
            None => below.fill(false),
        }
        // most cells have four corners alike: many are looked at together
        let (above, below) = (&above[..=w + 1], &below[..=w + 1]);
        for (x, mixed) in mixed.iter_mut().enumerate() {
            *mixed = (above[x] ^ above[x + 1]) | (below[x] ^ below[x + 1]) | (above[x] ^ below[x]);
        }
        for block in (0..=w).step_by(BLOCK).filter(|x| mixed[*x..(x + BLOCK).min(w + 1)].contains(&true)) {
            for x in (block..(block + BLOCK).min(w + 1)).filter(|x| mixed[*x]) {
                edges.cell(y * stride + x, [above[x], above[x + 1], below[x + 1], below[x]]);
                starts.push(y * stride + x);
            }
        }
    }
    let value = |at: usize| {
        let (x, y) = (at % stride, at / stride);
        if (1..=w).contains(&x) && (1..=h).contains(&y) { grid.at(x - 1, y - 1) } else { 0.0 }
    };
    let place = |edge: usize| {
        let (at, is_down) = (edge / 2, edge % 2 == 1);
        let (p, q) = (value(at), value(if is_down { at + stride } else { at + 1 }));
        let t = f64::from(((LEVEL - p) / (q - p)).clamp(0.0, 1.0));
        let (dx, dy) = if is_down { (0.0, t) } else { (t, 0.0) };
        // the first sample of the grid is the second one with the border
        Point::new((at % stride) as f64 - 0.5 + dx, (at / stride) as f64 - 0.5 + dy)
    };
    let mut polygons = Vec::new();
    for start in starts.into_iter().flat_map(|at| [2 * at, 2 * at + 1]) {
        let mut points = Vec::new();
        let mut at = start;
        while edges.next[at] != NOWHERE {
            points.push(place(at));
            at = std::mem::replace(&mut edges.next[at], NOWHERE) as usize;
        }
        if !points.is_empty() {
            polygons.push(points);
        }
    }
    polygons
}

/// A closed polygon, without the points that lie on the line between their neighbours.
fn draw(path: &mut BezPath, points: &[Point]) {
    let n = points.len();
    let bends = (0..n).filter(|&i| {
        let (a, b) = (points[i] - points[(i + n - 1) % n], points[(i + 1) % n] - points[i]);
        a.cross(b).abs() > 1e-3 * (a.hypot() * b.hypot()).max(1e-9)
    });
    let mut started = false;
    for i in bends {
        if started {
            path.line_to(points[i]);
        } else {
            path.move_to(points[i]);
            started = true;
        }
    }
    if started {
        path.close_path();
    }
}
