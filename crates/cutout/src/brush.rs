//! The pixels beneath a stroke of a round brush.

/// Runs of one row are merged when there are so many: a stroke may go over one place thousands of times.
const RUNS: usize = 64;

/// Calls `each` once with the index of every pixel of a grid of `width` x `height` whose middle a disc of `radius` passes over, on its way from point to
/// point; all in pixels of the grid.
///
/// It takes time for every row that a part of the way passes over, and for every pixel once, however often the way comes back.
pub(crate) fn beneath(points: &[[f64; 2]], radius: f64, width: usize, height: usize, mut each: impl FnMut(usize)) {
    let mut rows: Vec<Vec<(usize, usize)>> = vec![Vec::new(); height];
    let ends = points.iter().zip(points.iter().skip(1).chain(points.last()));
    for (a, b) in ends {
        let low = (a[1].min(b[1]) - radius).floor().clamp(0.0, height as f64) as usize;
        let high = (a[1].max(b[1]) + radius).ceil().clamp(0.0, height as f64) as usize;
        for (y, runs) in rows.iter_mut().enumerate().take(high).skip(low) {
            let Some((from, to)) = across(*a, *b, radius, y as f64 + 0.5) else { continue };
            // middles of pixels
            let first = (from - 0.5).ceil().clamp(0.0, width as f64) as usize;
            let end = (to + 0.5).floor().clamp(0.0, width as f64) as usize;
            if first < end {
                runs.push((first, end));
                if runs.len() > RUNS {
                    merge(runs);
                }
            }
        }
    }
    for (y, runs) in rows.iter_mut().enumerate() {
        merge(runs);
        runs.iter().flat_map(|(first, end)| *first..*end).for_each(|x| each(y * width + x));
    }
}

/// From where to where a horizontal line runs within `radius` of a segment; the places that do are one run, as a segment is convex.
fn across(a: [f64; 2], b: [f64; 2], radius: f64, y: f64) -> Option<(f64, f64)> {
    let mut run: Option<(f64, f64)> = None;
    let mut add = |from: f64, to: f64| {
        run = Some(run.map_or((from, to), |(low, high)| (low.min(from), high.max(to))));
    };
    for end in [a, b] {
        let half = radius * radius - (y - end[1]) * (y - end[1]);
        if half >= 0.0 {
            add(end[0] - half.sqrt(), end[0] + half.sqrt());
        }
    }
    // beside the segment: no farther from its line than the radius, and between its ends
    let (dx, dy) = (b[0] - a[0], b[1] - a[1]);
    let (long, rise) = (dx.hypot(dy), y - a[1]);
    if long > 0.0 {
        let beside = between(dy, -rise * dx, -radius * long, radius * long);
        let along = between(dx, rise * dy, 0.0, long * long);
        if let (Some((u0, u1)), Some((v0, v1))) = (beside, along)
            && u0.max(v0) <= u1.min(v1)
        {
            add(a[0] + u0.max(v0), a[0] + u1.min(v1));
        }
    }
    run
}

/// Where `factor` * x + `more` lies between two numbers.
fn between(factor: f64, more: f64, low: f64, high: f64) -> Option<(f64, f64)> {
    if factor == 0.0 {
        return (low..=high).contains(&more).then_some((f64::NEG_INFINITY, f64::INFINITY));
    }
    let (p, q) = ((low - more) / factor, (high - more) / factor);
    Some((p.min(q), p.max(q)))
}

/// Runs in their order, none of which touches another one.
fn merge(runs: &mut Vec<(usize, usize)>) {
    runs.sort_unstable();
    runs.dedup_by(|next, last| {
        let touches = next.0 <= last.1;
        if touches {
            last.1 = last.1.max(next.1);
        }
        touches
    });
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::segment::distance;
    use proptest::prelude::*;

    proptest! {
        #[test]
        fn every_pixel_within_the_radius_is_told_once(
            points in prop::collection::vec([-20.0..60.0, -20.0..50.0], 1..6),
            radius in 0.5..12.0,
        ) {
            let mut counts = vec![0; 40 * 30];
            beneath(&points, radius, 40, 30, |i| counts[i] += 1);
            for (i, count) in counts.into_iter().enumerate() {
                let p = [(i % 40) as f64 + 0.5, (i / 40) as f64 + 0.5];
                let ends = points.iter().zip(points.iter().skip(1).chain(points.last()));
                let nearest = ends.map(|(a, b)| distance(p, *a, *b)).fold(f64::INFINITY, f64::min);
                // what lies on the very edge may go either way
                prop_assert!((nearest - radius).abs() < 1e-9 || count == i32::from(nearest < radius), "{i}: {count}");
            }
        }
    }
}
