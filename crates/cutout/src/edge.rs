//! How the edge of a subject is to be: how wide it is soft, where it lies, how smooth it is, and whether it has hair.

use crate::CutoutError;
use crate::grid::Grid;
use crate::regions::{Connectivity, depth, distance_to, regions};
use crate::share::{is_whole, whole};
use imageproc::filter::gaussian_blur_f32;
use rayon::prelude::*;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Lengths in pixels of the photo.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct SubjectEdge {
    /// Hair and fluff are looked for in the band (closed-form matting); without it the matte runs evenly across the band.
    #[serde(default = "yes")]
    pub hair: bool,
    /// How far the soft band reaches to either side of the edge; what is usual where none is given.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub band: Option<f64>,
    /// Outwards; inwards where it is negative.
    #[serde(default)]
    pub shift: f64,
    /// Dents and bumps smaller than this go.
    #[serde(default)]
    pub smooth: f64,
    /// How much of the ground's colour is taken out where the subject is seen through, from 0 to 1.
    #[serde(default = "whole", skip_serializing_if = "is_whole")]
    #[ts(optional, as = "Option<f64>")]
    pub spill: f32,
}

fn yes() -> bool {
    true
}

impl Default for SubjectEdge {
    fn default() -> Self {
        Self { hair: true, band: None, shift: 0.0, smooth: 0.0, spill: 1.0 }
    }
}

/// The band's usual half width, in pixels of the fine working size: with hair, and without.
const BAND: f32 = 12.0;
const CLEAR_BAND: f32 = 1.0;
/// The longest of its lengths, in pixels of the photo.
const LONGEST: f64 = 1000.0;
/// The widest band and the farthest shift that are computed, in pixels of the fine working size.
const WIDEST: f32 = 60.0;

impl SubjectEdge {
    pub(crate) fn is_usual(&self) -> bool {
        *self == Self::default()
    }

    /// # Errors
    /// Lengths that are none, or that are longer than any edge is wide.
    pub(crate) fn check(&self) -> Result<(), CutoutError> {
        let lengths = [self.band.unwrap_or(0.0), self.shift.abs(), self.smooth];
        let sound = lengths.iter().all(|v| (0.0..=LONGEST).contains(v)) && (0.0..=1.0).contains(&self.spill);
        if sound { Ok(()) } else { Err(CutoutError::Edge) }
    }

    /// Half the width of the band in pixels of the fine size; `scale` is its pixels for one of the photo.
    pub(crate) fn band_at(&self, scale: f64) -> f32 {
        let usual = if self.hair { BAND } else { CLEAR_BAND };
        self.band.map_or(usual, |b| (b * scale) as f32).clamp(0.5, WIDEST)
    }

    /// The shift in pixels of a grid with `scale` pixels for one of the photo, `fine` being that of the fine size.
    pub(crate) fn shift_at(&self, scale: f64, fine: f64) -> f32 {
        let farthest = f64::from(WIDEST) * scale / fine;
        (self.shift * scale).clamp(-farthest, farthest) as f32
    }
}

/// Coverage that closed-form matting leaves where there is none, and that it takes away from what is whole: grain of the photo, of which
/// flecks would show in print. On the rendered photos, whose mattes are known, the error is least with about these (a fifth less than without).
const TRACE: f32 = 0.06;
const GAP: f32 = 0.10;

/// A computed matte without traces of what is not there, and without gaps in what is.
pub(crate) fn cleaned(matte: &Grid<f32>) -> Grid<f32> {
    matte.map(|a| ((a - TRACE) / (1.0 - TRACE - GAP)).clamp(0.0, 1.0))
}

/// A fleck has at most so many pixels on a photo of 1600 pixels, and is nowhere as opaque as this.
const FLECK: f64 = 10.0;
const FAINT: f32 = 0.6;

/// A matte without faint flecks of a few pixels that lie apart from everything else: grain beside the edge, which shows on another ground.
pub(crate) fn without_flecks(mut matte: Grid<f32>) -> Grid<f32> {
    let scale = (matte.width.max(matte.height) as f64 / 1600.0).max(1.0);
    let (labels, sizes) = regions(&matte.map(|a| a > 0.0), Connectivity::Eight);
    let mut most = vec![0.0_f32; sizes.len()];
    for (l, a) in labels.data.iter().zip(&matte.data) {
        most[*l as usize] = most[*l as usize].max(*a);
    }
    for (l, a) in labels.data.iter().zip(&mut matte.data) {
        let l = *l as usize;
        if l > 0 && most[l] < FAINT && sizes[l] as f64 <= FLECK * scale * scale {
            *a = 0.0;
        }
    }
    matte
}

/// A mask without dents and bumps narrower than about `radius` pixels.
pub fn smoothed(mask: &Grid<bool>, radius: f32) -> Grid<bool> {
    if radius < 0.3 {
        return mask.clone();
    }
    Grid::above(&gaussian_blur_f32(&mask.to_gray(), radius.min(WIDEST)), 127)
}

/// A matte that runs evenly from 0 to 1 across a band of `half` pixels to either side of a mask's edge.
pub(crate) fn ramp(mask: &Grid<bool>, half: f32) -> Grid<f32> {
    let (inner, outer) = (depth(mask), distance_to(mask));
    let data = inner.data.iter().zip(&outer.data).map(|(i, o)| {
        // pixels next to the edge lie half a pixel off it
        let off = if *i > 0.0 { i - 0.5 } else { 0.5 - o };
        (0.5 + off / (2.0 * half.max(0.5))).clamp(0.0, 1.0)
    });
    Grid { width: mask.width, height: mask.height, data: data.collect() }
}

/// A matte with its edge `by` pixels further outwards (the largest value within a disc), or inwards where it is negative (the smallest).
pub(crate) fn shifted(matte: &Grid<f32>, by: f32) -> Grid<f32> {
    if by.abs() < 0.02 {
        return matte.clone();
    }
    let (whole, part) = (by.abs().floor(), by.abs().fract());
    let outwards = by > 0.0;
    // far from the edge nothing changes
    let edge = Grid::from_fn(matte.width, matte.height, |x, y| {
        let a = matte.at(x, y);
        let next = |dx, dy| matte.clamped(x as i64 + dx, y as i64 + dy);
        (0.004..0.996).contains(&a) || (a - next(1, 0)).abs() > 0.1 || (a - next(0, 1)).abs() > 0.1
    });
    let near = distance_to(&edge);
    let disc = |radius: f32| -> Vec<(i64, i64)> {
        let r = radius.ceil() as i64;
        let rows = (-r..=r).filter_map(|dy| {
            let half = radius * radius - (dy * dy) as f32;
            (half >= 0.0).then(|| (dy, half.sqrt() as i64))
        });
        rows.collect()
    };
    let (small, large) = (disc(whole), disc(whole + 1.0));
    let best = |rows: &[(i64, i64)], x: usize, y: usize| {
        let mut found = matte.at(x, y);
        for &(dy, half) in rows {
            let line = (y as i64 + dy).clamp(0, matte.height as i64 - 1) as usize * matte.width;
            let from = (x as i64 - half).max(0) as usize;
            let to = ((x as i64 + half) as usize).min(matte.width - 1);
            for v in &matte.data[line + from..=line + to] {
                found = if outwards { found.max(*v) } else { found.min(*v) };
            }
        }
        found
    };
    let mut moved = matte.clone();
    moved.data.par_chunks_mut(matte.width).enumerate().for_each(|(y, row)| {
        for (x, value) in row.iter_mut().enumerate() {
            if near.at(x, y) <= whole + 2.0 {
                *value = best(&small, x, y) * (1.0 - part) + best(&large, x, y) * part;
            }
        }
    });
    moved
}

#[cfg(test)]
mod tests {
    use super::*;

    fn disc(r: f32) -> Grid<bool> {
        Grid::from_fn(120, 120, |x, y| (x as f32 - 59.5).hypot(y as f32 - 59.5) < r)
    }

    fn area(matte: &Grid<f32>) -> f32 {
        matte.data.iter().sum()
    }

    #[test]
    fn a_shifted_edge_lies_that_far_away() {
        let matte = ramp(&disc(30.0), 1.5);
        for by in [-7.0_f32, -2.5, 2.5, 7.0] {
            let radius = (area(&shifted(&matte, by)) / std::f32::consts::PI).sqrt();
            assert!((radius - 30.0 - by).abs() < 0.4, "{by}: {radius}");
        }
        assert_eq!(shifted(&matte, 0.0), matte);
    }

    #[test]
    fn faint_flecks_go_and_hairs_stay() {
        let mut matte = ramp(&disc(30.0), 1.5);
        let clean = matte.clone();
        for (x, y, a) in [(5, 5, 0.3), (6, 6, 0.2), (100, 20, 0.55)] {
            matte.data[y * 120 + x] = a;
        }
        assert_eq!(without_flecks(matte.clone()), clean);
        // a faint hair is long, a bright spot is something, and what touches the rest belongs to it
        let mut fine = clean.clone();
        (100..118).for_each(|y| fine.data[y * 120 + 110] = 0.3);
        fine.data[100 * 120 + 10] = 0.9;
        assert_eq!(without_flecks(fine.clone()), fine);
    }

    #[test]
    fn a_ramp_keeps_the_edge_in_its_middle() {
        let matte = ramp(&disc(30.0), 8.0);
        assert!((matte.at(59 + 30, 60) - 0.5).abs() < 0.07);
        assert!((matte.at(59 + 26, 60) - 0.75).abs() < 0.07);
        assert_eq!((matte.at(60, 60), matte.at(5, 5)), (1.0, 0.0));
    }

    #[test]
    fn smoothing_takes_bumps_and_keeps_the_whole() {
        let bumpy = Grid::from_fn(120, 120, |x, y| disc(30.0).at(x, y) || (y == 60 && (20..100).contains(&x)));
        let smooth = smoothed(&bumpy, 4.0);
        assert!(!smooth.at(96, 60) && smooth.at(60, 60));
        assert!((smooth.count() as f32 / disc(30.0).count() as f32 - 1.0).abs() < 0.03);
    }
}
