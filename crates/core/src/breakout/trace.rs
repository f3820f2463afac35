//! Level lines of a grid as closed polygons.

use crate::grid::Grid;
use imageproc::geometry::approximate_polygon_dp;
use kurbo::{BezPath, Point};
use std::collections::HashMap;

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

fn polygons(grid: &Grid<f32>) -> Vec<Vec<Point>> {
    const LEVEL: f32 = 0.5;
    let (w, h) = (grid.width as i64, grid.height as i64);
    let value = |x: i64, y: i64| {
        if (0..w).contains(&x) && (0..h).contains(&y) { grid.at(x as usize, y as usize) } else { 0.0 }
    };
    // an edge is named by its first sample and its direction; every crossing lies on one
    type EdgeId = (i64, i64, bool);
    let mut next: HashMap<EdgeId, EdgeId> = HashMap::new();
    for y in -1..h {
        let inside = |x, y| value(x, y) > LEVEL;
        // the right side of one cell is the left side of the next
        let (mut b, mut c) = (false, false);
        for x in -1..w {
            let (a, d) = (b, c);
            (b, c) = (inside(x + 1, y), inside(x + 1, y + 1));
            if (a, a, a) == (b, c, d) {
                continue;
            }
            let (top, right, bottom, left) = ((x, y, true), (x + 1, y, false), (x, y + 1, true), (x, y, false));
            // lines run with the inside on their right
            match (a, b, c, d) {
                (false, false, false, false) | (true, true, true, true) => {}
                (true, false, false, false) => drop(next.insert(top, left)),
                (false, true, false, false) => drop(next.insert(right, top)),
                (false, false, true, false) => drop(next.insert(bottom, right)),
                (false, false, false, true) => drop(next.insert(left, bottom)),
                (true, true, false, false) => drop(next.insert(right, left)),
                (false, true, true, false) => drop(next.insert(bottom, top)),
                (false, false, true, true) => drop(next.insert(left, right)),
                (true, false, false, true) => drop(next.insert(top, bottom)),
                (false, true, true, true) => drop(next.insert(left, top)),
                (true, false, true, true) => drop(next.insert(top, right)),
                (true, true, false, true) => drop(next.insert(right, bottom)),
                (true, true, true, false) => drop(next.insert(bottom, left)),
                (true, false, true, false) => {
                    next.insert(top, left);
                    next.insert(bottom, right);
                }
                (false, true, false, true) => {
                    next.insert(right, top);
                    next.insert(left, bottom);
                }
            }
        }
    }
    let place = |(x, y, along): EdgeId| {
        let (p, q) = (value(x, y), if along { value(x + 1, y) } else { value(x, y + 1) });
        let t = f64::from(((LEVEL - p) / (q - p)).clamp(0.0, 1.0));
        let (dx, dy) = if along { (t, 0.0) } else { (0.0, t) };
        Point::new(x as f64 + 0.5 + dx, y as f64 + 0.5 + dy)
    };
    let mut starts: Vec<EdgeId> = next.keys().copied().collect();
    starts.sort_unstable();
    let mut polygons = Vec::new();
    for start in starts {
        let Some(mut at) = next.remove(&start) else {
            continue;
        };
        let mut points = vec![place(start)];
        while at != start {
            points.push(place(at));
            match next.remove(&at) {
                Some(n) => at = n,
                None => break,
            }
        }
        polygons.push(points);
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
