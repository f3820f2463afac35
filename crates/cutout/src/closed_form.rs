//! Closed-form matting on the unknown band only.
//!
//! A. Levin, D. Lischinski, Y. Weiss, "A Closed-Form Solution to Natural Image Matting" (PAMI 2008): windows of 3 x 3
//! pixels, the matting Laplacian as 25 stencil values for each unknown pixel, solved by conjugate gradients with a
//! Jacobi preconditioner. A small pull to a prior (the binary mask, or the matte from a smaller size) keeps flat
//! regions from drifting.

use crate::grid::Grid;
use crate::laplacian::{LANES, Lanes, Laplacian};
use crate::mixture::Rgb;
use crate::{Cancelled, Stretch, Watch};
use rayon::prelude::*;

/// What the solver is given besides the picture and the trimap.
pub struct Matting<'a> {
    /// Pulls the unknown pixels, with `pull` as weight.
    pub prior: &'a Grid<f32>,
    pub pull: f32,
    /// Where to start; the prior if there is nothing better.
    pub start: &'a Grid<f32>,
    /// Unknown pixels that are solved already, and stay as they are where it starts.
    pub held: Option<&'a Grid<bool>>,
    pub rounds: usize,
    /// Where to stop: residual over right-hand side.
    pub tolerance: f64,
}

/// The tolerance of what is delivered; ten times that would be seen.
pub(crate) const FINE: f64 = 1e-4;
/// The tolerance of what is shown while strokes are drawn.
pub(crate) const QUICK: f64 = 1e-3;

/// The share of the work that setting up its equations is.
const SET_UP: f32 = 0.3;

/// The matte: `trimap` where it is 0 or 1, computed where it is ½. Colours in 0..255.
///
/// # Errors
/// The cancelled watch.
pub fn closed_form(
    colours: &Grid<Rgb>,
    trimap: &Grid<f32>,
    matting: &Matting<'_>,
    watch: &dyn Watch,
) -> Result<Grid<f32>, Cancelled> {
    let is_open = |i: usize| trimap.data[i] > 0.0 && trimap.data[i] < 1.0;
    let is_held = |i: usize| matting.held.is_some_and(|held| held.data[i]);
    let (w, h) = (trimap.width, trimap.height);
    let unknown = Grid { width: w, height: h, data: (0..w * h).map(|i| is_open(i) && !is_held(i)).collect() };
    let start = (0..w * h).map(|i| if is_open(i) { matting.start.data[i] } else { trimap.data[i] });
    if !unknown.data.contains(&true) {
        return Ok(Grid { width: w, height: h, data: start.map(|v| v.clamp(0.0, 1.0)).collect() });
    }
    let laplacian = Laplacian::new(colours, &unknown, &Stretch { watch, from: 0.0, to: SET_UP, what: "" })?;
    let watch = Stretch { watch, from: SET_UP, to: 1.0, what: "" };
    let layout = laplacian.layout;
    let mut x = layout.padded(start);
    let pull = matting.pull;
    let at = &laplacian.at;
    // a value for what of a block is unknown, 0 for the rest
    let asked = |block: usize, value: &dyn Fn(usize) -> f32| -> Lanes {
        let (x, y) = layout.pixel(at[block]);
        std::array::from_fn(|l| if x + l < w && unknown.at(x + l, y) { value(y * w + x + l) } else { 0.0 })
    };
    let pulled = |block: usize| asked(block, &|i| pull * matting.prior.data[i]);
    let of = |all: &[f32], block: usize| -> Lanes { std::array::from_fn(|l| all[at[block] + l]) };
    let each = |f: &(dyn Fn(usize) -> Lanes + Sync)| -> Vec<Lanes> {
        (0..at.len()).into_par_iter().with_min_len(512).map(f).collect()
    };

    // b = pull * prior − L_uk x_k, r = b − (L_uu + pull) x_u
    let goal = {
        let known = (0..w * h).zip(layout.plain(&x)).map(|(i, v)| if unknown.data[i] { 0.0 } else { v });
        let known = layout.padded(known);
        let right = each(&|k| minus(pulled(k), laplacian.apply(k, &known)));
        matting.tolerance * matting.tolerance * dot(&right, &right).max(1e-30)
    };
    let mut r = each(&|k| {
        let held_to = minus(pulled(k), laplacian.apply(k, &x));
        minus(held_to, asked(k, &|i| pull * matting.start.data[i]))
    });
    // Jacobi; nothing for what of a block is known
    let inverse = each(&|k| {
        let (own, is_asked) = (laplacian.diagonal(k), asked(k, &|_| 1.0));
        std::array::from_fn(|l| is_asked[l] / (own[l] + pull).max(1e-12))
    });
    let mut direction = vec![0.0_f32; x.len()];
    for (k, &at) in at.iter().enumerate() {
        (0..LANES).for_each(|l| direction[at + l] = r[k][l] * inverse[k][l]);
    }
    let square = |r: &[Lanes]| dot_by(r.iter().zip(&inverse).map(|(r, inverse)| (*r, times(*r, *inverse))));
    let mut rz = square(&r);
    let mut image = vec![[0.0_f32; LANES]; at.len()];
    let first = dot(&r, &r).max(goal);
    let (mut rest, mut gained) = (first, 0.0_f32);
    for round in 0..matting.rounds {
        if round % 8 == 0 {
            watch.go_on()?;
            // the digits gained; every one takes longer than the one before
            gained = gained.max(((first / rest).ln() / (first / goal).ln().max(1e-9)) as f32);
            watch.step(gained * gained, "");
        }
        image.par_iter_mut().with_min_len(512).enumerate().for_each(|(k, out)| {
            let (sums, way) = (laplacian.apply(k, &direction), of(&direction, k));
            // directions are 0 beside what is unknown
            *out = std::array::from_fn(|l| sums[l] + pull * way[l]);
        });
        let curve = dot_by(image.iter().enumerate().map(|(k, image)| (*image, of(&direction, k))));
        if curve <= 0.0 {
            break;
        }
        let step = (rz / curve) as f32;
        for (k, &at) in at.iter().enumerate() {
            for l in 0..LANES {
                x[at + l] += step * direction[at + l];
                r[k][l] -= step * image[k][l];
            }
        }
        rest = dot(&r, &r);
        if rest < goal {
            break;
        }
        let next = square(&r);
        let beta = (next / rz) as f32;
        rz = next;
        for (k, &at) in at.iter().enumerate() {
            let way = &mut direction[at..at + LANES];
            (0..LANES).for_each(|l| way[l] = r[k][l] * inverse[k][l] + beta * way[l]);
        }
    }
    Ok(Grid { width: w, height: h, data: layout.plain(&x).map(|v| v.clamp(0.0, 1.0)).collect() })
}

fn minus(a: Lanes, b: Lanes) -> Lanes {
    std::array::from_fn(|l| a[l] - b[l])
}

fn times(a: Lanes, b: Lanes) -> Lanes {
    std::array::from_fn(|l| a[l] * b[l])
}

fn dot(a: &[Lanes], b: &[Lanes]) -> f64 {
    dot_by(a.iter().copied().zip(b.iter().copied()))
}

/// The sum of products: of a few blocks as they are, of all with twice the digits.
fn dot_by(pairs: impl Iterator<Item = (Lanes, Lanes)>) -> f64 {
    const FEW: usize = 64;
    let (mut all, mut sums) = (0.0_f64, [0.0_f32; LANES]);
    for (k, (a, b)) in pairs.enumerate() {
        (0..LANES).for_each(|l| sums[l] += a[l] * b[l]);
        if k % FEW == FEW - 1 {
            all += f64::from(std::mem::take(&mut sums).iter().sum::<f32>());
        }
    }
    all + f64::from(sums.iter().sum::<f32>())
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Unwatched;

    #[test]
    fn a_blend_of_two_colours_gets_its_own_shares() {
        let (front, back) = ([220.0, 60.0, 40.0], [30.0, 80.0, 200.0]);
        let truth = Grid::from_fn(40, 20, |x, _| ((x as f32 - 14.0) / 12.0).clamp(0.0, 1.0));
        // a little grain, as every photo has it
        let colours = Grid::from_fn(40, 20, |x, y| {
            let a = truth.at(x, y);
            std::array::from_fn(|k| a * front[k] + (1.0 - a) * back[k] + ((x * 7 + y * 13 + k * 5) % 5) as f32 - 2.0)
        });
        let trimap = Grid::from_fn(40, 20, |x, _| {
            if x < 10 {
                0.0
            } else if x > 30 {
                1.0
            } else {
                0.5
            }
        });
        let prior = truth.map(|a| if a > 0.5 { 1.0 } else { 0.0 });
        let matting = Matting { prior: &prior, pull: 1e-4, start: &prior, held: None, rounds: 2000, tolerance: FINE };
        let found = closed_form(&colours, &trimap, &matting, &Unwatched).unwrap();
        let off =
            |a: &Grid<f32>, b: &Grid<f32>| a.data.iter().zip(&b.data).map(|(a, b)| (a - b).abs()).fold(0.0, f32::max);
        assert!(off(&found, &truth) < 0.06, "{}", off(&found, &truth));
        // what is solved already stays, and what lies beside it comes out as it would have with it
        let held = Grid::from_fn(40, 20, |x, _| x < 20);
        let matting = Matting { start: &found, held: Some(&held), ..matting };
        let again = closed_form(&colours, &trimap, &matting, &Unwatched).unwrap();
        assert!(off(&again, &found) < 0.01 && (0..20).all(|x| again.at(x, 9) == found.at(x, 9)));
    }
    #[test]
    fn strong_contrast_along_one_line_of_colours_is_solved_to_its_end() {
        // white before sand, from shade to light: within a window colours spread by a third in one direction, and by nothing in the others
        let subject = |x: usize| x >= 60;
        let colours = Grid::from_fn(120, 80, |x, y| {
            let light = 0.15 + 0.8 * ((x * 37 + y * 101 + x * y * 7) % 97) as f32 / 97.0;
            if subject(x) { [255.0; 3] } else { [236.0 * light, 200.0 * light, 140.0 * light] }
        });
        let trimap =
            Grid::from_fn(120, 80, |x, _| if (48..72).contains(&x) { 0.5 } else { f32::from(u8::from(subject(x))) });
        let prior = Grid::from_fn(120, 80, |x, _| f32::from(u8::from(subject(x))));
        let matting = Matting { prior: &prior, pull: 0.01, start: &prior, held: None, rounds: 600, tolerance: FINE };
        let found = closed_form(&colours, &trimap, &matting, &Unwatched).unwrap();
        let off: f32 = found.data.iter().zip(&prior.data).map(|(a, b)| (a - b).abs()).sum();
        assert!(off < 40.0, "{off}");
    }
}
