//! Level lines of a grid as closed polygons.

use crate::grid::Grid;
use kurbo::{BezPath, Point};
use std::collections::HashMap;

/// The closed lines along which a grid passes 0.5, in grid coordinates (pixel centres at halves), by marching squares
/// with linear interpolation. Beyond the border the grid counts as 0. To be filled by either rule.
pub fn trace(grid: &Grid<f32>) -> BezPath {
    const LEVEL: f32 = 0.5;
    let (w, h) = (grid.width as i64, grid.height as i64);
    let value = |x: i64, y: i64| {
        if (0..w).contains(&x) && (0..h).contains(&y) { grid.at(x as usize, y as usize) } else { 0.0 }
    };
    // an edge is named by its first sample and its direction; every crossing lies on one
    type EdgeId = (i64, i64, bool);
    let mut next: HashMap<EdgeId, EdgeId> = HashMap::new();
    for y in -1..h {
        for x in -1..w {
            let inside = |dx, dy| value(x + dx, y + dy) > LEVEL;
            let (a, b, c, d) = (inside(0, 0), inside(1, 0), inside(1, 1), inside(0, 1));
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
    let mut path = BezPath::new();
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
        draw(&mut path, &points);
    }
    path
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
