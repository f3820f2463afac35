//! Where a subject's shadow lies on the ground: what is darker than the ground around it, of the ground's own hue, and begins at the subject's foot.

use crate::grid::Grid;
use crate::ground::cells;
use crate::mixture::Rgb;
use crate::regions::{Connectivity, distance_to, grown, regions};

/// Long side of the size at which it is looked for, in pixels.
const SIDE: usize = 120;
/// The ground is as bright as this share of what lies around is at most: most of it is lit.
const LIT: f64 = 0.65;
/// A shadow is darker than the ground by this share at least.
const DARKER: f32 = 0.1;
/// It takes about as much of every colour: by this share of the light at most, more of one than of another.
const HUE: f32 = 0.2;
/// How far it reaches, and how far around the ground is looked at, in lengths of a square as large as the subject.
const REACH: f32 = 1.6;
const AROUND: f32 = 0.7;
/// It begins in this lower share of the subject's height.
const FOOT: f32 = 0.2;
/// Its smallest share of the subject.
const LEAST: f64 = 0.005;

/// `solid` is the subject's coverage, as large as `fine`. None where no shadow is seen.
pub(crate) fn shadow(fine: &Grid<Rgb>, solid: &Grid<f32>) -> Option<Grid<bool>> {
    let cell = fine.width.max(fine.height).div_ceil(SIDE).max(1);
    let (w, h) = (fine.width.div_ceil(cell), fine.height.div_ceil(cell));
    let bare = cells(fine, cell, |x, y| solid.at(x, y) < 0.02);
    let subject = Grid::from_fn(w, h, |x, y| {
        let middle = |v: usize, end: usize| (v * cell + cell / 2).min(end - 1);
        solid.at(middle(x, fine.width), middle(y, fine.height)) > 0.5
    });
    let (_, top, _, bottom) = subject.bounds()?;
    let foot = bottom as f32 - (bottom - top) as f32 * FOOT;
    let side = (subject.count() as f32).sqrt();
    let near = distance_to(&subject);
    let reach = (side * AROUND).round().max(2.0) as usize;
    let dark = Grid::from_fn(w, h, |x, y| {
        let Some(own) = bare.at(x, y).filter(|_| near.at(x, y) <= side * REACH) else { return false };
        let rows = y.saturating_sub(reach)..(y + reach + 1).min(h);
        let columns = x.saturating_sub(reach)..(x + reach + 1).min(w);
        let mut around: Vec<Rgb> =
            rows.flat_map(|v| columns.clone().filter_map(|u| bare.at(u, v)).collect::<Vec<_>>()).collect();
        let at = ((around.len() - 1) as f64 * LIT) as usize;
        let (_, ground, _) = around.select_nth_unstable_by(at, |a, b| light(*a).total_cmp(&light(*b)));
        is_shaded(own, *ground)
    });
    // it may be hidden by the subject's soft edge
    let (labels, sizes) = regions(&dark, Connectivity::Eight);
    let mut begins = vec![false; sizes.len()];
    for (i, label) in labels.data.iter().enumerate() {
        begins[*label as usize] |= *label > 0 && near.data[i] <= 2.0 && (i / w) as f32 >= foot;
    }
    let large = |label: usize| sizes[label] as f64 >= LEAST * subject.count() as f64;
    let found = labels.map(|label| begins[label as usize] && large(label as usize));
    if !found.data.contains(&true) {
        return None;
    }
    let found = grown(&found, 1.5);
    Some(Grid::from_fn(fine.width, fine.height, |x, y| found.at(x / cell, y / cell)))
}

fn light(colour: Rgb) -> f32 {
    colour.iter().sum()
}

/// Whether a colour is that of the ground in the shade.
fn is_shaded(own: Rgb, ground: Rgb) -> bool {
    light(own) < (1.0 - DARKER) * light(ground) && is_ground(own, ground)
}

/// Whether a colour is that of the ground, lit or in the shade.
pub(crate) fn is_ground(own: Rgb, ground: Rgb) -> bool {
    let left = [0, 1, 2].map(|c| own[c] / ground[c].max(8.0));
    let (low, high) = (left.iter().copied().fold(f32::MAX, f32::min), left.iter().copied().fold(0.0, f32::max));
    light(own) < (1.0 + DARKER) * light(ground) && high - low < HUE
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_shadow_begins_at_the_foot_and_is_of_the_ground_s_hue() {
        let solid =
            Grid::from_fn(600, 400, |x, y| f32::from(u8::from((250..320).contains(&x) && (100..300).contains(&y))));
        let with = |shade: &dyn Fn(usize, usize) -> [f32; 3]| {
            Grid::from_fn(600, 400, |x, y| {
                let ground = [200.0 - y as f32 / 10.0, 170.0, 120.0 + x as f32 / 20.0];
                let left = shade(x, y);
                if solid.at(x, y) > 0.5 { [40.0, 60.0, 160.0] } else { [0, 1, 2].map(|c| ground[c] * left[c]) }
            })
        };
        let lies = |x: usize, y: usize| (280..450).contains(&x) && (280..320).contains(&y);
        let cast = with(&|x, y| if lies(x, y) { [0.6, 0.62, 0.66] } else { [1.0; 3] });
        let found = shadow(&cast, &solid).unwrap();
        assert!(found.at(400, 300) && !found.at(400, 240) && !found.at(100, 300) && !found.at(520, 300));
        // a puddle of paint is none, nor is a dark place that lies apart
        assert!(shadow(&with(&|x, y| if lies(x, y) { [0.9, 0.5, 0.4] } else { [1.0; 3] }), &solid).is_none());
        assert!(shadow(&with(&|x, y| if lies(x - x.min(130), y) { [0.6; 3] } else { [1.0; 3] }), &solid).is_none());
        assert!(shadow(&cast, &solid.map(|_| 0.0)).is_none());
    }
}
