//! The colours of the ground right around a box.

use crate::frame::Frame;
use crate::grid::Grid;
use crate::mixture::{Mixture, Rgb};

/// The strip around the box whose colours are the ground's, as a share of the box.
const STRIP: f64 = 0.3;
/// The least share of the photo that the strip has to have, as one of so many.
const LEAST: usize = 200;
/// The share of the strip's colours that is usual.
const USUAL: f64 = 0.98;
/// How much less likely than the usual ones a colour of another thing is, in nats.
const UNLIKE: f32 = 2.5;

/// Where colours are other than those in a strip around a box, both at the coarse size; None where too little lies around it.
pub(crate) fn unlike_around(colours: &Grid<Rgb>, frame: Frame) -> Option<Grid<bool>> {
    let (w, h) = (colours.width, colours.height);
    let wide = frame.grown(STRIP, colours);
    let beside = |i: &usize| wide.holds(i % w, i / w) && !frame.holds(i % w, i / w);
    let around: Vec<Rgb> = (0..w * h).filter(beside).map(|i| colours.data[i]).collect();
    if around.len() * LEAST < w * h {
        return None;
    }
    let mut model = Mixture::start(&around)?;
    (0..3).for_each(|_| model.update(&around));
    let mut costs: Vec<f32> = around.iter().map(|c| model.cost(c)).collect();
    let usual = (costs.len() as f64 * USUAL) as usize;
    let limit = *costs.select_nth_unstable_by(usual, f32::total_cmp).1 + UNLIKE;
    Some(colours.map(|c| model.cost(&c) > limit))
}
