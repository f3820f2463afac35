//! Where a draft may well be wrong, so that the next stroke goes where it helps most.
//!
//! Two witnesses speak against a draft: other guesses, where they see it the other way and the colours do not contradict them; and colours that
//! are much more like the other side's than like those of their own side. Both together are doubt; thin rims along an edge are none, for there every
//! draft is a little unsure.

use crate::grid::Grid;
use crate::mixture::{Mixture, Rgb};
use crate::regions::{Connectivity, depth, regions};

/// What each guess counts that sees it the other way, and what colours count that speak clearly against their side.
const GUESS: f32 = 0.5;
const COLOUR: f32 = 0.5;
/// Colours speak clearly by so many nats.
const CLEAR: f32 = 4.0;
/// From here on a place is doubted.
const DOUBTED: f32 = 0.45;
/// How far from the edge of a place its pixels count, at most.
const INNER: f32 = 2.0;
/// Places that weigh less than this share of the subject's pixels are not worth a stroke.
const LEAST: f64 = 0.004;
/// Of so many pixels one is taken to learn colours from.
const SAMPLED: usize = 3;
/// Places at most.
const MOST: usize = 12;

/// A place that may be on the wrong side of the subject's edge.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Doubt {
    /// A point well inside of it, in pixels of the photo.
    pub at: [f64; 2],
    /// How wide it is there, in pixels of the photo.
    pub width: f64,
    /// Whether it may be missing; else it may be too much.
    pub missing: bool,
}

/// All that is doubted of a draft.
#[derive(Debug, Clone)]
pub(crate) struct Doubts {
    /// The places, the one first that matters most.
    pub places: Vec<Doubt>,
    /// How much each pixel of these places is doubted, 0 to 1; at the coarse size.
    pub wash: Grid<f32>,
}

impl Doubts {
    /// Nothing is doubted of a mask.
    pub fn none(mask: &Grid<bool>) -> Self {
        Self { places: Vec::new(), wash: mask.map(|_| 0.0) }
    }

    /// What is doubted of a mask at the coarse size, of `scale` pixels for one of the photo. `guesses` are all masks that were guessed. What was `told`
    /// is beyond doubt; so is every place that one of the strokes lies in, whose pixels `stroked` has.
    pub fn of(
        (colours, mask, scale): (&Grid<Rgb>, &Grid<bool>, f64),
        guesses: &[&Grid<bool>],
        (told, stroked): (&Grid<bool>, &[usize]),
    ) -> Self {
        let doubt = doubted(colours, mask, guesses, told);
        let least = (mask.count() as f64 * LEAST).max(4.0);
        let mut wash = Self::none(mask).wash;
        let mut found: Vec<(f32, Doubt)> = Vec::new();
        for missing in [true, false] {
            let mut side = mask.map(|m| m != missing);
            side.data.iter_mut().zip(&doubt.data).for_each(|(s, d)| *s = *s && *d >= DOUBTED);
            let inner = depth(&side);
            let (labels, sizes) = regions(&side, Connectivity::Eight);
            let mut weights = vec![0.0_f32; sizes.len()];
            let mut middles = vec![(0.0_f32, 0_usize); sizes.len()];
            for (i, label) in labels.data.iter().map(|l| *l as usize).enumerate().filter(|(_, l)| *l > 0) {
                weights[label] += doubt.data[i] * (inner.data[i] - 1.0).clamp(0.0, INNER);
                if inner.data[i] > middles[label].0 {
                    middles[label] = (inner.data[i], i);
                }
            }
            stroked.iter().for_each(|i| weights[labels.data[*i] as usize] = 0.0);
            let counts = |label: &usize| *label > 0 && f64::from(weights[*label]) >= least;
            for (i, _) in labels.data.iter().enumerate().filter(|(_, l)| counts(&(**l as usize))) {
                wash.data[i] = doubt.data[i];
            }
            for label in (1..sizes.len()).filter(counts) {
                let (deep, at) = middles[label];
                let point = |v: usize| (v as f64 + 0.5) / scale;
                let at = [point(at % mask.width), point(at / mask.width)];
                found.push((weights[label], Doubt { at, width: f64::from(2.0 * deep) / scale, missing }));
            }
        }
        found.sort_by(|a, b| b.0.total_cmp(&a.0));
        Self { places: found.into_iter().take(MOST).map(|(_, place)| place).collect(), wash }
    }
}

impl Doubts {
    /// The pixels of the doubted place that a stroke runs through with more than half of its pixels; of those only that are `open`, and joined.
    pub fn beneath(&self, stroke: &[usize], open: impl Fn(usize) -> bool) -> Vec<usize> {
        let (width, height) = (self.wash.width, self.wash.height);
        // what lies beneath the stroke is joined, whether or not it is open
        let mut joined =
            Grid { width, height, data: (0..width * height).map(|i| self.wash.data[i] > 0.0 && open(i)).collect() };
        stroke.iter().for_each(|i| joined.data[*i] = self.wash.data[*i] > 0.0);
        let (labels, sizes) = regions(&joined, Connectivity::Eight);
        let mut touched = vec![0; sizes.len()];
        stroke.iter().for_each(|i| touched[labels.data[*i] as usize] += 1);
        let through = |label: u32| label > 0 && 2 * touched[label as usize] > stroke.len();
        (0..labels.data.len()).filter(|i| through(labels.data[*i])).collect()
    }
}

/// How much each pixel is doubted.
fn doubted(colours: &Grid<Rgb>, mask: &Grid<bool>, guesses: &[&Grid<bool>], told: &Grid<bool>) -> Grid<f32> {
    let side = |keep: bool| {
        let own = (0..mask.data.len()).filter(|i| mask.data[*i] == keep).step_by(SAMPLED);
        let own: Vec<Rgb> = own.map(|i| colours.data[i]).collect();
        let mut model = Mixture::start(&own)?;
        model.update(&own);
        Some(model)
    };
    let models = side(true).zip(side(false));
    Grid::from_fn(mask.width, mask.height, |x, y| {
        if told.at(x, y) {
            return 0.0;
        }
        let here = mask.at(x, y);
        let others = (guesses.iter().filter(|g| g.at(x, y) != here).count() as f32 * GUESS).min(1.0);
        let against = models.as_ref().map_or(0.0, |(subject, ground)| {
            let (s, g) = (subject.cost(&colours.at(x, y)), ground.cost(&colours.at(x, y)));
            ((if here { s - g } else { g - s }) / CLEAR).clamp(-1.0, 1.0)
        });
        (others * (1.0 + against.min(0.0)) + COLOUR * against.max(0.0)).min(1.0)
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A red subject, of which a square is of the ground's blue.
    fn square() -> (Grid<Rgb>, Grid<bool>, Grid<bool>) {
        let subject = |x: usize, y: usize| (10..50).contains(&x) && (5..35).contains(&y);
        let blue = |x: usize, y: usize| !subject(x, y) || (30..42).contains(&x) && (14..26).contains(&y);
        let grain = |x: usize, y: usize| ((x * 31 + y * 17) % 11) as f32;
        let colours = Grid::from_fn(60, 40, |x, y| {
            if blue(x, y) { [40.0 + grain(x, y), 60.0, 150.0] } else { [200.0, 40.0 + grain(x, y), 30.0] }
        });
        (colours, Grid::from_fn(60, 40, subject), Grid::from_fn(60, 40, |x, y| !blue(x, y)))
    }

    #[test]
    fn a_hole_in_the_ground_s_colour_is_doubted_until_it_is_told() {
        let (colours, mask, guess) = square();
        let nothing = mask.map(|_| false);
        let of = |told: &Grid<bool>, stroked: &[usize]| {
            Doubts::of((&colours, &mask, 0.5), &[&mask, &guess], (told, stroked))
        };
        let doubts = of(&nothing, &[]);
        let [place] = doubts.places[..] else { panic!("{:?}", doubts.places) };
        // in pixels of a photo that is twice as large
        assert!(!place.missing && (60.0..84.0).contains(&place.at[0]) && (28.0..52.0).contains(&place.at[1]));
        assert!((10.0..30.0).contains(&place.width), "{}", place.width);
        assert!(doubts.wash.at(36, 20) >= DOUBTED && doubts.wash.at(20, 20) == 0.0);
        assert!(of(&nothing, &[20 * 60 + 36]).places.is_empty());
        assert!(of(&mask, &[]).places.is_empty());
    }

    #[test]
    fn what_all_guesses_and_colours_agree_on_is_not_doubted() {
        let (colours, _, mask) = square();
        let nothing = mask.map(|_| false);
        assert!(Doubts::of((&colours, &mask, 1.0), &[&mask], (&nothing, &[])).places.is_empty());
        // nor a mask of one side only
        let all = mask.map(|_| true);
        Doubts::of((&colours, &all, 1.0), &[&nothing], (&nothing, &[]));
    }
}
