//! Saliency where strokes contradict it.
//!
//! A network that looks at 320 x 320 pixels sees a wheel as a disc, and nothing of a string of flags. Whoever drops a gap between two spokes means
//! all gaps, and whoever keeps one flag the others too: what saliency says against the strokes counts less wherever the colours are like
//! those beneath them.

use crate::frame::Frame;
use crate::grid::Grid;
use crate::hints::{Hint, SubjectStroke};
use crate::mixture::Rgb;
use rayon::prelude::*;

/// Colours so far apart (of 255, Euclidean) are hardly alike any more.
const ALIKE: f32 = 24.0;
/// Colours of strokes that others are compared with, of each kind.
const SAMPLES: usize = 64;

/// After so many strokes against it, saliency counts half.
const HALF: f32 = 2.0;

/// Saliency (0 to 1) with less of what strokes contradict, within `scope`: everywhere with every stroke more, and hardly at all where
/// colours are like theirs. Everything at the coarse size; `scale` is its pixels for one of the photo, `drawn` are all strokes together.
pub(crate) fn corrected(
    saliency: &Grid<f32>,
    colours: &Grid<Rgb>,
    (strokes, drawn, scale): (&[SubjectStroke], &Grid<Hint>, f64),
    scope: Frame,
) -> Grid<f32> {
    let kept = sampled(colours, |i| drawn.data[i] == Hint::Keep && saliency.data[i] < 0.5);
    let dropped = sampled(colours, |i| drawn.data[i] == Hint::Drop && saliency.data[i] > 0.5);
    if kept.is_empty() && dropped.is_empty() {
        return saliency.clone();
    }
    let against = |keep: bool, wrong: fn(f32) -> bool| {
        let one = |s: &&SubjectStroke| {
            let beneath = s.pixels(saliency.width, saliency.height, scale);
            let sum: f32 = beneath.iter().map(|i| saliency.data[*i]).sum();
            !beneath.is_empty() && wrong(sum / beneath.len() as f32)
        };
        strokes.iter().filter(|s| s.keep == keep).filter(one).count() as f32
    };
    let trust = |n: f32| HALF / (HALF + n);
    let (trust_low, trust_high) = (trust(against(true, |s| s < 0.5)), trust(against(false, |s| s > 0.5)));
    let width = saliency.width;
    let data = (saliency.data.par_iter().zip(&colours.data).enumerate())
        .map(|(i, (&s, colour))| {
            let (others, trust) = if s < 0.5 { (&kept, trust_low) } else { (&dropped, trust_high) };
            if others.is_empty() || !scope.holds(i % width, i / width) {
                return s;
            }
            // less by its logarithmic odds, which is what enters the energy
            let s = s.clamp(0.03, 0.97);
            let odds = (s / (1.0 - s)).ln() * trust * (1.0 - likeness(colour, others));
            1.0 / (1.0 + (-odds).exp())
        })
        .collect();
    Grid { width, height: saliency.height, data }
}

/// What the colours of both sides are learnt from next: a mask, less what is like the colours that strokes drop from it, and more of what is
/// like those that they keep. Without it the wrong side would have learnt them already, and keep them.
pub(crate) fn relearnt(mask: &Grid<bool>, colours: &Grid<Rgb>, drawn: &Grid<Hint>) -> Grid<bool> {
    let kept = sampled(colours, |i| drawn.data[i] == Hint::Keep && !mask.data[i]);
    let dropped = sampled(colours, |i| drawn.data[i] == Hint::Drop && mask.data[i]);
    if kept.is_empty() && dropped.is_empty() {
        return mask.clone();
    }
    let data = (mask.data.par_iter().zip(&colours.data))
        .map(|(&inside, colour)| {
            // what speaks against the mask, and what for it
            let (against, with) = if inside { (&dropped, &kept) } else { (&kept, &dropped) };
            let against = likeness(colour, against);
            inside == (against < 0.5 || likeness(colour, with) > against)
        })
        .collect();
    Grid { width: mask.width, height: mask.height, data }
}

/// Some of the colours of the pixels for which `wanted` holds.
fn sampled(colours: &Grid<Rgb>, wanted: impl Fn(usize) -> bool) -> Vec<Rgb> {
    let all: Vec<Rgb> = (0..colours.data.len()).filter(|i| wanted(*i)).map(|i| colours.data[i]).collect();
    all.iter().step_by(all.len().div_ceil(SAMPLES).max(1)).copied().collect()
}

/// 1 for a colour that is one of the others, 0 for one far from all of them.
fn likeness(colour: &Rgb, others: &[Rgb]) -> f32 {
    if others.is_empty() {
        return 0.0;
    }
    let square = |o: &Rgb| (0..3).map(|k| (colour[k] - o[k]).powi(2)).sum::<f32>();
    let nearest = others.iter().map(square).fold(f32::INFINITY, f32::min);
    (-nearest / (ALIKE * ALIKE)).exp()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_stroke_in_one_gap_speaks_for_the_others() {
        // two blue gaps in something brown, and a red flag outside of it, all told wrongly
        let (brown, blue, red) = ([120.0, 80.0, 40.0], [60.0, 90.0, 200.0], [210.0, 40.0, 40.0]);
        let colours = Grid::from_fn(60, 40, |x, y| match (x, y) {
            (8..18, 10..30) | (24..34, 10..30) => blue,
            (50.., 30..) | (50.., 0..10) => red,
            _ => brown,
        });
        let saliency = Grid::from_fn(60, 40, |x, _| if x < 45 { 0.95 } else { 0.05 });
        let stroke = |keep, at: [f64; 2]| SubjectStroke::new(keep, 6.0, vec![at]);
        let heard = |strokes: &[SubjectStroke]| {
            let drawn = SubjectStroke::drawn(strokes, 60, 40, 1.0);
            corrected(&saliency, &colours, (strokes, &drawn, 1.0), Frame { x0: 0, y0: 0, x1: 60, y1: 40 })
        };
        assert_eq!(heard(&[stroke(true, [40.0, 35.0])]).data, saliency.data, "what saliency says as well");
        let told = heard(&[stroke(false, [12.0, 20.0])]);
        assert!(told.at(28, 20) < 0.55, "the other gap: {}", told.at(28, 20));
        assert!(told.at(40, 35) > 0.8 && told.at(55, 20) < 0.06, "what is not like it");
        let both = heard(&[stroke(false, [12.0, 20.0]), stroke(true, [55.0, 35.0])]);
        assert!(both.at(55, 4) > 0.45 && both.at(55, 20) < 0.2, "the other flag, not what is around it");

        let mask = Grid::from_fn(60, 40, |x, _| x < 45);
        let strokes = [stroke(false, [12.0, 20.0]), stroke(true, [55.0, 35.0])];
        let next = relearnt(&mask, &colours, &SubjectStroke::drawn(&strokes, 60, 40, 1.0));
        assert_eq!([(28, 20), (40, 35), (55, 4), (55, 20)].map(|(x, y)| next.at(x, y)), [false, true, true, false]);
    }
}
