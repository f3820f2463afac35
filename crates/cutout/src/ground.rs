//! The colours of the ground beneath what lies over it, told from where it is bare.

use crate::grid::Grid;
use crate::mixture::Rgb;
use rayon::prelude::*;
use std::f32::consts::PI;

/// Long side of the size at which it is computed, in pixels: a ground is known by its broad colours alone.
const SIDE: usize = 175;
/// Directions in which it is looked for what is bare, evenly around half a turn: each is looked along both ways.
const WAYS: usize = 8;
/// Colours at both ends of a way that differ by no more are the same, of 255.
const SAME: f32 = 6.0;
/// Where a way ends at the border of the photo, the colours of its ends count as this much apart.
const ONE_END: f32 = 40.0;
/// How it looks beneath is tried out where it is bare: so many pixels from there it is as if it were not.
const TRIED: usize = 6;
/// Every so many pixels it is tried.
const TRIES: usize = 3;

/// A ground that is known everywhere, at a size of its own.
pub(crate) struct Ground {
    colours: Grid<Rgb>,
    /// Its pixels for one of the grid that it was told from.
    scale: f32,
    /// How far its colours are off where it is tried out: the median, as a distance of colours of 0..255.
    pub pattern: f32,
}

impl Ground {
    /// `bare` is where the ground is seen as it is; as large as `colours` (0..255). None where it is seen nowhere.
    ///
    /// From every pixel it is looked in some directions, both ways, for what is bare. In between, colours change evenly. Ways count for more
    /// whose ends are alike, so that a horizon goes on beneath what lies over it, and those that are short.
    pub fn beneath(colours: &Grid<Rgb>, bare: &Grid<bool>) -> Option<Self> {
        let cell = colours.width.max(colours.height).div_ceil(SIDE).max(1);
        let (width, height) = (colours.width.div_ceil(cell), colours.height.div_ceil(cell));
        let seen = cells(colours, cell, |x, y| bare.at(x, y));
        let all: Vec<Rgb> = seen.data.iter().flatten().copied().collect();
        let mean = mixed(all.iter().map(|colour| (*colour, 1.0)))?;
        let beneath = (0..width * height).into_par_iter().map(|i| match seen.data[i] {
            Some(own) => own,
            None => told(&seen, i, 1).unwrap_or(mean),
        });
        let places = (0..height).step_by(TRIES).flat_map(|y| (0..width).step_by(TRIES).map(move |x| y * width + x));
        let tries = places.filter_map(|i| Some(distance(seen.data[i]?, told(&seen, i, TRIED)?)));
        let mut off: Vec<f32> = tries.collect();
        let middle = off.len() / 2;
        let pattern = if off.is_empty() { 0.0 } else { *off.select_nth_unstable_by(middle, f32::total_cmp).1 };
        let colours = Grid { width, height, data: beneath.collect() };
        Some(Self { colours, scale: 1.0 / cell as f32, pattern })
    }

    /// Its colour in the middle of a pixel of that grid.
    pub fn below(&self, x: usize, y: usize) -> Rgb {
        self.at(x as f32 + 0.5, y as f32 + 0.5)
    }

    /// Its colour at a place, in pixels of the grid that it was told from.
    pub fn at(&self, x: f32, y: f32) -> Rgb {
        let (u, v) = (x * self.scale - 0.5, y * self.scale - 0.5);
        let (i, j) = (u.floor(), v.floor());
        let (s, t) = (u - i, v - j);
        let at = |dx: i64, dy: i64| self.colours.clamped(i as i64 + dx, j as i64 + dy);
        between(between(at(0, 0), at(1, 0), s), between(at(0, 1), at(1, 1), s), t)
    }
}

/// The mean colours of cells of so many pixels a side; none where nothing in a cell is wanted.
pub(crate) fn cells(colours: &Grid<Rgb>, cell: usize, wanted: impl Fn(usize, usize) -> bool) -> Grid<Option<Rgb>> {
    Grid::from_fn(colours.width.div_ceil(cell), colours.height.div_ceil(cell), |x, y| {
        let rows = y * cell..((y + 1) * cell).min(colours.height);
        let all = rows.flat_map(|v| (x * cell..((x + 1) * cell).min(colours.width)).map(move |u| (u, v)));
        mixed(all.filter(|(u, v)| wanted(*u, *v)).map(|(u, v)| (colours.at(u, v), 1.0)))
    })
}

/// What the ground may be at a pixel, from what is bare at least `near` pixels away. None where nothing is to be seen from there.
fn told(seen: &Grid<Option<Rgb>>, i: usize, near: usize) -> Option<Rgb> {
    let from = ((i % seen.width) as f32 + 0.5, (i / seen.width) as f32 + 0.5);
    let look = |turn: f32| {
        let (dy, dx) = turn.sin_cos();
        (near..).map(|far| far as f32).find_map(|far| {
            let (x, y) = ((from.0 + far * dx).floor(), (from.1 + far * dy).floor());
            let inside = x >= 0.0 && y >= 0.0 && x < seen.width as f32 && y < seen.height as f32;
            if inside { seen.at(x as usize, y as usize).map(|colour| Some((colour, far))) } else { Some(None) }
        })?
    };
    let ways = (0..WAYS).filter_map(|k| {
        let turn = PI * k as f32 / WAYS as f32;
        let weight = |apart: f32, long: f32| 1.0 / ((apart * apart + SAME * SAME).powi(2) * long);
        Some(match (look(turn), look(turn + PI)) {
            (Some((a, to_a)), Some((b, to_b))) => {
                (between(a, b, to_a / (to_a + to_b)), weight(distance(a, b), to_a + to_b))
            }
            (Some((one, far)), None) | (None, Some((one, far))) => (one, weight(ONE_END, 2.0 * far)),
            (None, None) => return None,
        })
    });
    mixed(ways)
}

/// The mean of colours by their weights; none of none.
fn mixed(all: impl Iterator<Item = (Rgb, f32)>) -> Option<Rgb> {
    let (sum, whole) = all.fold(([0.0; 3], 0.0), |(sum, whole): (Rgb, f32), (colour, weight)| {
        ([0, 1, 2].map(|c| sum[c] + weight * colour[c]), whole + weight)
    });
    (whole > 0.0).then(|| sum.map(|s| s / whole))
}

fn between(a: Rgb, b: Rgb, share: f32) -> Rgb {
    [0, 1, 2].map(|c| a[c] + (b[c] - a[c]) * share)
}

fn distance(a: Rgb, b: Rgb) -> f32 {
    (0..3).map(|c| (a[c] - b[c]).powi(2)).sum::<f32>().sqrt()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn slopes_and_a_horizon_go_on_beneath_what_covers_them() {
        let truth = |x: usize, y: usize| {
            if y < 220 { [x as f32 / 8.0, 160.0, 230.0] } else { [210.0, 180.0 - y as f32 / 8.0, 90.0] }
        };
        let bare = Grid::from_fn(700, 400, |x, y| (x as f32 - 300.0).hypot(y as f32 - 200.0) > 120.0);
        let covered = Grid::from_fn(700, 400, |x, y| if bare.at(x, y) { truth(x, y) } else { [255.0, 0.0, 0.0] });
        let ground = Ground::beneath(&covered, &bare).unwrap();
        for (x, y) in [(300, 190), (300, 240), (220, 150), (390, 260), (10, 10)] {
            let (found, right) = (ground.below(x, y), truth(x, y));
            assert!(distance(found, right) < 12.0, "{x} {y} {found:?} {right:?}");
        }
        assert!(ground.pattern < 4.0, "{}", ground.pattern);
        assert!(Ground::beneath(&covered, &bare.map(|_| false)).is_none());
        let one = Grid::filled(1, 1, [7.0; 3]);
        assert_eq!(Ground::beneath(&one, &one.map(|_| true)).unwrap().below(0, 0), [7.0; 3]);
    }
}
