//! Where a soft edge is covered by half: a cut by colours alone lies at its outer rim, where the ground's own colours end.

use crate::distance::{largest_around, squared_depth};
use crate::frame::Frame;
use crate::grid::Grid;
use crate::mixture::Rgb;
use crate::trimap::trimap;
use crate::window_means::WindowMeans;

/// How far around a pixel it is looked for what is sure, in pixels of the fine size.
const AROUND: usize = 14;
/// Pixels that are sure on either side, at least.
const SURE: f32 = 4.0;
/// How far the two sides' colours are apart at least: of 255, and of their spreads together.
const APART: f32 = 24.0;
const SPREADS: f32 = 1.5;
/// How far a mixed colour lies off the line between the two, as a share of its length at most.
const OFF: f32 = 0.35;
/// What is no deeper than this, with nothing deeper so near, is a thread whose own colours are nowhere to be seen unmixed: in pixels of the fine size.
const THIN: (f32, usize) = (2.0, 2);

/// A mask at the fine size, with its edge laid where the colour is halfway from the ground's nearby to the subject's. It moves in a band of `half` pixels
/// on either side, and only where the two sides' colours nearby are clearly apart; only `within` some pixels, where these are told.
pub(crate) fn at_half_cover(
    colours: &Grid<Rgb>,
    mask: &Grid<bool>,
    half: f32,
    within: Option<&Grid<bool>>,
) -> Grid<bool> {
    let band = trimap(mask, half);
    let (w, h) = (mask.width, mask.height);
    let open = |x: usize, y: usize| band.at(x, y) == 0.5 && within.is_none_or(|within| within.at(x, y));
    let Some((x0, y0, x1, y1)) = Grid::from_fn(w, h, open).bounds() else { return mask.clone() };
    let near = Frame {
        x0: x0.saturating_sub(AROUND),
        y0: y0.saturating_sub(AROUND),
        x1: (x1 + AROUND).min(w),
        y1: (y1 + AROUND).min(h),
    };
    let side = |sure: f32| WindowMeans::of(colours, &band.map(|b| b == sure), near, AROUND);
    let (front, back) = rayon::join(|| side(1.0), || side(0.0));
    let depth = squared_depth(mask, half.ceil() as usize);
    let deepest = largest_around(&depth, THIN.1);
    let thin = |x: usize, y: usize| mask.at(x, y) && f32::from(deepest.at(x, y)) <= THIN.0 * THIN.0;
    let covered = |x: usize, y: usize| {
        let (front, back) = (front.at(x, y)?, back.at(x, y)?);
        let line: Rgb = std::array::from_fn(|k| front.mean[k] - back.mean[k]);
        let long = line.iter().map(|v| v * v).sum::<f32>();
        if front.count < SURE || back.count < SURE || long.sqrt() < APART.max(SPREADS * (front.spread + back.spread)) {
            return None;
        }
        let colour = colours.at(x, y);
        let share = (0..3).map(|k| (colour[k] - back.mean[k]) * line[k]).sum::<f32>() / long;
        let off = (0..3).map(|k| (colour[k] - back.mean[k] - share * line[k]).powi(2)).sum::<f32>();
        (off < (OFF * OFF) * long).then_some(share)
    };
    Grid::from_fn(w, h, |x, y| match open(x, y) {
        true if thin(x, y) => true,
        true => covered(x, y).map_or(mask.at(x, y), |a| a > 0.5),
        false => mask.at(x, y),
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    /// How far a place lies within a disc, in pixels.
    fn inside(x: usize, y: usize) -> f32 {
        40.0 - (x as f32 - 80.0).hypot(y as f32 - 80.0)
    }

    #[test]
    fn a_blurred_edge_moves_from_its_rim_to_its_middle() {
        let colours = Grid::from_fn(160, 160, |x, y| {
            let cover = (inside(x, y) / 10.0 + 0.5).clamp(0.0, 1.0);
            let grain = ((x * 31 + y * 57) % 7) as f32;
            [60.0 + 160.0 * cover, 90.0 + grain, 200.0 - 150.0 * cover]
        });
        let wide = Grid::from_fn(160, 160, |x, y| inside(x, y) > -4.0);
        let moved = at_half_cover(&colours, &wide, 6.0, None);
        let wrong =
            |mask: &Grid<bool>| (0..160 * 160).filter(|i| mask.data[*i] != (inside(i % 160, i / 160) > 0.0)).count();
        assert!(wrong(&wide) > 900 && wrong(&moved) < 100, "{} {}", wrong(&wide), wrong(&moved));
        // where both sides look the same, nothing tells where it is
        let flat = colours.map(|_| [90.0, 90.0, 90.0]);
        assert!(at_half_cover(&flat, &wide, 6.0, None).data == wide.data);
    }

    #[test]
    fn a_thread_stays_though_its_colour_is_mixed() {
        let thread =
            Grid::from_fn(120, 60, |x, y| (20..40).contains(&x) || (40..100).contains(&x) && (30..32).contains(&y));
        let colours = Grid::from_fn(120, 60, |x, y| match (thread.at(x, y), x < 40) {
            (true, true) => [200.0, 40.0, 40.0],
            (true, false) => [110.0, 110.0, 190.0],
            _ => [80.0, 120.0, 220.0],
        });
        let kept = at_half_cover(&colours, &thread, 6.0, None);
        assert!((50..95).all(|x| kept.at(x, 30) || kept.at(x, 31)));
    }
}
