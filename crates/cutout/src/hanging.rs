//! What hangs on a subject: a basket on ropes, a stem, a tail. The network overlooks it beside what outshines it.

use crate::frame::Frame;
use crate::grid::Grid;
use crate::mixture::Rgb;
use crate::regions::{Connectivity, grown, regions};
use crate::window_means::WindowMeans;

/// Half the side of the window whose mean is the ground around a pixel, as a share of the photo's long side.
const AROUND: f64 = 0.1;
/// Colours that differ from the ground's mean by as much are other ones: of 255, and of the ground's own spread.
const OTHER: f32 = 24.0;
const SPREAD: f32 = 2.5;
/// Gaps up to twice this part nothing, in pixels.
const GAP: f32 = 2.0;
/// How far it reaches beyond the subject's frame, as a share of the frame's sides: from this on it is looked at, up to this.
const FARTHER: f64 = 0.05;
const FARTHEST: f64 = 1.0;
/// It is no larger than this share of the subject.
const LARGEST: f64 = 0.5;

/// The frame around a subject and what hangs on it. `colours` (0..255) and the subject's mask are at the coarse size. None where nothing does.
pub(crate) fn frame_with_hanging(colours: &Grid<Rgb>, subject: &Grid<bool>) -> Option<Frame> {
    let (w, h) = (colours.width, colours.height);
    let frame = Frame::around(subject)?;
    let reach = frame.grown(FARTHEST, colours);
    let radius = (w.max(h) as f64 * AROUND).ceil() as usize;
    let near = grown(subject, GAP);
    let all = Frame { x0: 0, y0: 0, x1: w, y1: h };
    // means of what is ground at first sight, and then of what is like them
    let mut ground = near.map(|n| !n);
    let mut means = WindowMeans::of(colours, &ground, all, radius);
    for _ in 0..2 {
        ground = Grid::from_fn(w, h, |x, y| !near.at(x, y) && !is_other(&means, colours.at(x, y), x, y));
        means = WindowMeans::of(colours, &ground, all, radius);
    }
    let other =
        Grid::from_fn(w, h, |x, y| reach.holds(x, y) && !subject.at(x, y) && is_other(&means, colours.at(x, y), x, y));
    let joined = grown(&other, GAP);
    let (labels, sizes) = regions(&Grid::from_fn(w, h, |x, y| joined.at(x, y) || near.at(x, y)), Connectivity::Eight);
    let mut holds = vec![0_usize; sizes.len()];
    (0..w * h).filter(|i| subject.data[*i]).for_each(|i| holds[labels.data[i] as usize] += 1);
    let body = (1..sizes.len()).max_by_key(|l| holds[*l])? as u32;
    let hangs = Grid::from_fn(w, h, |x, y| other.at(x, y) && labels.at(x, y) == body);
    if hangs.count() as f64 > LARGEST * subject.count() as f64 {
        return None;
    }
    let both = frame.union(Frame::around(&hangs)?);
    let farther = |a: usize, b: usize, side: usize| a.abs_diff(b) as f64 > FARTHER * side as f64;
    let (across, down) = (frame.x1 - frame.x0, frame.y1 - frame.y0);
    let is_farther = farther(both.x0, frame.x0, across)
        || farther(both.x1, frame.x1, across)
        || farther(both.y0, frame.y0, down)
        || farther(both.y1, frame.y1, down);
    is_farther.then_some(both)
}

/// Whether a colour is another one than those around a place.
fn is_other(around: &WindowMeans, colour: Rgb, x: usize, y: usize) -> bool {
    let Some(near) = around.at(x, y) else { return false };
    let off = (0..3).map(|k| (colour[k] - near.mean[k]).powi(2)).sum::<f32>().sqrt();
    off > OTHER && off > SPREAD * near.spread
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A dark disc, and what else is dark, on a sky that slopes and has grain.
    fn sky(dark: impl Fn(usize, usize) -> bool) -> (Grid<Rgb>, Grid<bool>) {
        let disc = |x: usize, y: usize| (x as f32 - 150.0).hypot(y as f32 - 90.0) < 50.0;
        let colours = Grid::from_fn(300, 350, |x, y| {
            let grain = ((x * 31 + y * 57 + x * y) % 11) as f32;
            let light = if disc(x, y) || dark(x, y) { 40.0 } else { 150.0 + y as f32 / 5.0 };
            [light + grain, light, light + 20.0]
        });
        (colours, Grid::from_fn(300, 350, disc))
    }

    #[test]
    fn a_basket_on_a_rope_hangs_and_a_bird_does_not() {
        let basket = |x: usize, y: usize| {
            (149..151).contains(&x) && (139..220).contains(&y) || (138..162).contains(&x) && (220..240).contains(&y)
        };
        let (colours, subject) = sky(basket);
        let frame = frame_with_hanging(&colours, &subject).unwrap();
        assert_eq!((frame.x0, frame.y0, frame.x1), (101, 41, 200));
        assert!(frame.y1.abs_diff(240) < 3, "{}", frame.y1);
        let bird = |x: usize, y: usize| (220..240).contains(&x) && (200..210).contains(&y);
        let (colours, subject) = sky(bird);
        assert!(frame_with_hanging(&colours, &subject).is_none());
        // the ground's own pattern does not hang on anything
        let (colours, subject) = sky(|x, y| y > 130 && (x + y) % 16 < 8);
        assert!(frame_with_hanging(&colours, &subject).is_none());
        assert!(frame_with_hanging(&colours, &subject.map(|_| false)).is_none());
    }
}
