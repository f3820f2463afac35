//! How often outlines cross: what a join costs grows with it.

use crate::flatten::closed_segments;
use kurbo::{BezPath, ParamCurve, PathSeg, Point};

/// Pairs of edges that are looked at. Where there are more, these are a sample.
const SAMPLE: u64 = 60_000;
/// Edges that a curve counts as.
const PIECES: u32 = 3;

/// About how often the edges of outlines cross one another and themselves, neighbours left out: exact for a few hundred edges, an estimate from a
/// sample of pairs beyond. The same for the same outlines.
pub fn crossings<'a>(outlines: impl IntoIterator<Item = &'a BezPath>) -> f64 {
    let edges: Vec<[Point; 2]> = outlines.into_iter().flat_map(closed_segments).flat_map(flat).collect();
    let count = edges.len() as u64;
    let pairs = count * count.saturating_sub(1) / 2;
    let cross = |i: usize, j: usize| u64::from(edges_cross(edges[i], edges[j]));
    if pairs <= SAMPLE {
        let found: u64 = (0..edges.len()).flat_map(|i| (0..i).map(move |j| (i, j))).map(|(i, j)| cross(i, j)).sum();
        return found as f64;
    }
    // a linear congruential generator (Knuth's constants); no more is asked of it than to be even
    let mut state: u64 = 1;
    let mut any = || {
        state = state.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        ((state >> 33) % count) as usize
    };
    let found: u64 = (0..SAMPLE).map(|_| cross(any(), any())).sum();
    found as f64 * pairs as f64 / SAMPLE as f64
}

fn flat(segment: PathSeg) -> Vec<[Point; 2]> {
    match segment {
        PathSeg::Line(line) => vec![[line.p0, line.p1]],
        curve => {
            let at = |k: u32| curve.eval(f64::from(k) / f64::from(PIECES));
            (0..PIECES).map(|k| [at(k), at(k + 1)]).collect()
        }
    }
}

/// Whether two edges cross within both.
fn edges_cross([a, b]: [Point; 2], [c, d]: [Point; 2]) -> bool {
    let side = |p: Point, q: Point, r: Point| (q - p).cross(r - p);
    side(a, b, c) * side(a, b, d) < 0.0 && side(c, d, a) * side(c, d, b) < 0.0
}
