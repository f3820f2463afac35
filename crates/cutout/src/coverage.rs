//! Outlines to pixels: which share of each pixel lies inside.

use crate::grid::Grid;
use kurbo::{BezPath, PathEl, Point};

/// Rows sampled within a pixel; along the row the share is exact.
const SUBROWS: usize = 4;

/// Coverage (0..1) of `width * height` unit pixels by a path (even-odd rule), in the path's own coordinates.
pub fn coverage(path: &BezPath, width: usize, height: usize) -> Grid<f32> {
    let mut crossings: Vec<Vec<f32>> = vec![Vec::new(); height * SUBROWS];
    let (mut start, mut at) = (Point::ZERO, Point::ZERO);
    kurbo::flatten(path, 0.05, |element| match element {
        PathEl::MoveTo(p) => {
            // every contour counts as closed
            add_edge(&mut crossings, at, start);
            (start, at) = (p, p);
        }
        PathEl::LineTo(p) => {
            add_edge(&mut crossings, at, p);
            at = p;
        }
        _ => {
            add_edge(&mut crossings, at, start);
            at = start;
        }
    });
    add_edge(&mut crossings, at, start);
    let mut grid = Grid::filled(width, height, 0.0_f32);
    let share = 1.0 / SUBROWS as f32;
    for (k, row) in crossings.iter_mut().enumerate() {
        row.sort_by(f32::total_cmp);
        let line = &mut grid.data[k / SUBROWS * width..][..width];
        for span in row.chunks_exact(2) {
            let (from, to) = (span[0].clamp(0.0, width as f32), span[1].clamp(0.0, width as f32));
            let (first, last) = (from as usize, to as usize);
            if first == last {
                if first < width {
                    line[first] += (to - from) * share;
                }
                continue;
            }
            line[first] += (first as f32 + 1.0 - from) * share;
            line[first + 1..last].iter_mut().for_each(|v| *v += share);
            if last < width {
                line[last] += (to - last as f32) * share;
            }
        }
    }
    grid
}

fn add_edge(crossings: &mut [Vec<f32>], a: Point, b: Point) {
    let (top, bottom) = if a.y < b.y { (a, b) } else { (b, a) };
    let rows = SUBROWS as f64;
    // rows are sampled at their middles
    let first = (top.y * rows - 0.5).ceil().max(0.0) as usize;
    let end = ((bottom.y * rows - 0.5).ceil().max(0.0) as usize).min(crossings.len());
    let slope = (bottom.x - top.x) / (bottom.y - top.y);
    for (k, row) in crossings.iter_mut().enumerate().take(end).skip(first) {
        let y = (k as f64 + 0.5) / rows;
        row.push((top.x + (y - top.y) * slope) as f32);
    }
}
