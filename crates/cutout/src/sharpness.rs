//! How sharp a photo is from place to place: a lens blurs what lies before and behind the plane that it is focused on.

use crate::grid::Grid;
use image::RgbaImage;

/// Gaps of texture of twice this width, in pixels of the size it is asked for, are as sharp as what lies around them.
const CLOSED: i64 = 1;
/// What cannot be told from the noise of a sensor, in 0..255.
const NOISE: f32 = 0.25;
/// Sharpness is counted in so many steps, each a factor of √2, the first one being that of a smooth surface.
const STEPS: usize = 16;
/// What every step has at least on either side, so that a rare one does not decide.
const RARE: f32 = 0.01;
/// How much sharpness says at most for one side, in nats.
const MOST: f32 = 3.0;

/// How much fine detail there is, as a step from 0 to 15, in a grid of another size; the photo is to be some times as large as that.
pub(crate) fn sharpness(photo: &RgbaImage, (width, height): (usize, usize)) -> Grid<u8> {
    let light = photo.pixels().map(|p| (f32::from(p.0[0]) + 2.0 * f32::from(p.0[1]) + f32::from(p.0[2])) / 4.0);
    let light =
        Grid { width: photo.width() as usize, height: photo.height() as usize, data: light.collect::<Vec<f32>>() };
    // what a binomial blur takes away
    let detail = Grid::from_fn(light.width, light.height, |x, y| {
        let at = |dx: i64, dy: i64| light.clamped(x as i64 + dx, y as i64 + dy);
        let row = |dy: i64| at(-1, dy) + 2.0 * at(0, dy) + at(1, dy);
        (at(0, 0) - (row(-1) + 2.0 * row(0) + row(1)) / 16.0).abs()
    });
    let coarse = detail.resized(width, height).map(|v| (NOISE + v).log2());
    // a morphological closing: texture has smooth places, whose edge must not move
    let closed = around(&around(&coarse, f32::max), f32::min);
    closed.map(|v| ((v + 2.0) * 2.0).clamp(0.0, STEPS as f32 - 1.0) as u8)
}

fn around(grid: &Grid<f32>, pick: fn(f32, f32) -> f32) -> Grid<f32> {
    let line = |at: &dyn Fn(i64) -> f32| (-CLOSED..=CLOSED).map(at).reduce(pick).unwrap_or_default();
    let across = Grid::from_fn(grid.width, grid.height, |x, y| line(&|d| grid.clamped(x as i64 + d, y as i64)));
    Grid::from_fn(grid.width, grid.height, |x, y| line(&|d| across.clamped(x as i64, y as i64 + d)))
}

/// For every step of sharpness how much it speaks for the subject, in nats: how much more of it there is in a mask than beside it. Nothing where one
/// side is empty.
pub(crate) fn for_subject(sharpness: &Grid<u8>, mask: &Grid<bool>) -> [f32; STEPS] {
    let mut counts = [[0.0_f32; STEPS]; 2];
    for (step, subject) in sharpness.data.iter().zip(&mask.data) {
        counts[usize::from(*subject)][usize::from(*step)] += 1.0;
    }
    let wholes = counts.map(|side| side.iter().sum::<f32>());
    if wholes.contains(&0.0) {
        return [0.0; STEPS];
    }
    let share = |side: usize, step: usize| {
        let [before, after] = [step.saturating_sub(1), (step + 1).min(STEPS - 1)];
        let calm = counts[side][before] + 2.0 * counts[side][step] + counts[side][after];
        calm / 4.0 / wholes[side] + RARE
    };
    std::array::from_fn(|step| (share(1, step) / share(0, step)).ln().clamp(-MOST, MOST))
}

#[cfg(test)]
mod tests {
    use super::*;
    use image::Rgba;

    #[test]
    fn what_is_in_focus_stands_apart_from_a_smooth_ground() {
        let photo = RgbaImage::from_fn(1400, 1000, |x, y| {
            let inside = (400..1000).contains(&x) && (300..700).contains(&y);
            let grain = if inside { (x * 7919 + y * 104_729) % 61 } else { (x + y) / 60 };
            Rgba([90 + grain as u8, 100, 110, 255])
        });
        let steps = sharpness(&photo, (350, 250));
        let mask = Grid::from_fn(350, 250, |x, y| (100..250).contains(&x) && (75..175).contains(&y));
        let says = for_subject(&steps, &mask);
        let of = |x: usize, y: usize| says[usize::from(steps.at(x, y))];
        assert!(of(170, 120) > 1.0 && of(20, 20) < -1.0, "{} {}", of(170, 120), of(20, 20));
        assert_eq!(for_subject(&steps, &mask.map(|_| false)), [0.0; STEPS]);
        assert_eq!(sharpness(&RgbaImage::new(1, 1), (1, 1)).data.len(), 1);
    }
}
