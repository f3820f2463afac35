//! The strip along a part of an edge.

use crate::flatten::{Flat, flatten_tolerance};
use crate::joins::unite;
use i_overlay::core::fill_rule::FillRule;
use i_overlay::float::clip::FloatClip;
use i_overlay::string::clip::ClipRule;
use kurbo::{BezPath, Cap, Join, Point, Shape, Stroke, StrokeOpts};

/// The strip to both sides, `reach` wide on each, of those stretches of an outline's edge that lie in `within`: an outline without overlaps,
/// as `outline` is. Where a stretch ends, the strip ends in a line straight across the edge. Units of the paths.
pub fn strip_along(outline: &BezPath, within: &BezPath, reach: f64) -> BezPath {
    if outline.is_empty() || within.is_empty() || reach <= 0.0 {
        return BezPath::new();
    }
    let tolerance = flatten_tolerance(outline.bounding_box().union(within.bounding_box()));
    let near = within.bounding_box().inflate(reach, reach);
    let flat = |path: &BezPath| -> Vec<Vec<[f64; 2]>> {
        let contours = crate::round::contours(path).into_iter().filter(|c| c.bounding_box().overlaps(near));
        contours.map(|c| Flat::new(&c, tolerance).corners()).filter(|c| c.len() > 2).collect()
    };
    let edges: Vec<Vec<[f64; 2]>> = flat(outline)
        .into_iter()
        .map(|mut c| {
            c.push(c[0]);
            c
        })
        .collect();
    let area = flat(within);
    if edges.is_empty() || area.is_empty() {
        return BezPath::new();
    }
    let rule = ClipRule { invert: false, boundary_included: false };
    let stretches = joined(edges.clip_by(&area, FillRule::NonZero, rule));
    let style = Stroke::new(2.0 * reach).with_join(Join::Round).with_caps(Cap::Butt);
    let mut strip = BezPath::new();
    for stretch in stretches {
        let mut line = BezPath::new();
        for (i, [x, y]) in stretch.iter().enumerate() {
            if i == 0 { line.move_to((*x, *y)) } else { line.line_to((*x, *y)) }
        }
        let stroked = kurbo::stroke(line, &style, &StrokeOpts::default(), tolerance);
        strip.extend(stroked.elements().iter().copied());
    }
    unite(&strip)
}

/// Stretches that end where another begins, as one.
fn joined(mut stretches: Vec<Vec<[f64; 2]>>) -> Vec<Vec<[f64; 2]>> {
    let near = |a: Option<&[f64; 2]>, b: Option<&[f64; 2]>| {
        a.zip(b).is_some_and(|(a, b)| Point::from((a[0], a[1])).distance(Point::from((b[0], b[1]))) < 1e-6)
    };
    let mut all: Vec<Vec<[f64; 2]>> = Vec::new();
    while let Some(mut stretch) = stretches.pop() {
        while let Some(k) = stretches.iter().position(|s| near(stretch.last(), s.first())) {
            stretch.extend(stretches.swap_remove(k).into_iter().skip(1));
        }
        while let Some(k) = stretches.iter().position(|s| near(s.last(), stretch.first())) {
            let mut before = stretches.swap_remove(k);
            before.extend(stretch.into_iter().skip(1));
            stretch = before;
        }
        all.push(stretch);
    }
    all
}
