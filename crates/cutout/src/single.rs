//! The single subjects of a photo in which several stand out.

use crate::PhotoBox;
use crate::frame::Frame;
use crate::grid::Grid;
use crate::regions::{Connectivity, regions};
use image::GrayImage;

/// What is smaller than this share of the largest one belongs to something, and is no subject by itself.
const LEAST: f64 = 0.12;
/// Single subjects at most, the largest ones.
const MOST: usize = 4;
/// Room around a single one, as a share of its box.
const ROOM: f64 = 0.03;

/// One of several subjects that were found at once.
#[derive(Debug, Clone)]
pub struct Single {
    /// The box to look for it in.
    pub within: PhotoBox,
    /// At the coarse working size.
    mask: Grid<bool>,
}

impl Single {
    /// White where it is, long side 350 pixels at most.
    pub fn picture(&self) -> GrayImage {
        self.mask.to_gray()
    }
}

/// The parts of a mask at the coarse size that lie apart, from left to right; none where there is only one. `size` is the photo's, `scale` pixels of
/// the mask for one of the photo.
pub(crate) fn singles(mask: &Grid<bool>, size: (u32, u32), scale: f64) -> Vec<Single> {
    let (labels, sizes) = regions(mask, Connectivity::Eight);
    let largest = sizes.iter().skip(1).copied().max().unwrap_or(0);
    let mut order: Vec<usize> = (1..sizes.len()).filter(|k| sizes[*k] as f64 >= LEAST * largest as f64).collect();
    order.sort_by_key(|k| std::cmp::Reverse(sizes[*k]));
    order.truncate(MOST);
    if order.len() < 2 {
        return Vec::new();
    }
    let single = |k: usize| {
        let mask = labels.map(|l| l as usize == k);
        let frame = Frame::around(&mask)?.scaled(1.0 / scale);
        let (w, h) = ((frame.x1 - frame.x0) as f64, (frame.y1 - frame.y0) as f64);
        let (x, y) = ((frame.x0 as f64 - w * ROOM).max(0.0), (frame.y0 as f64 - h * ROOM).max(0.0));
        let (right, bottom) = (frame.x1 as f64 + w * ROOM, frame.y1 as f64 + h * ROOM);
        let (width, height) = (right.min(f64::from(size.0)) - x, bottom.min(f64::from(size.1)) - y);
        Some(Single { within: PhotoBox { x, y, width, height }, mask })
    };
    let mut all: Vec<Single> = order.into_iter().filter_map(single).collect();
    all.sort_by(|a, b| a.within.x.total_cmp(&b.within.x));
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn what_lies_apart_is_boxed_by_itself() {
        let disc = |x: usize, y: usize, cx: f64, r: f64| (x as f64 - cx).hypot(y as f64 - 30.0) < r;
        let both =
            Grid::from_fn(120, 60, |x, y| disc(x, y, 90.0, 20.0) || disc(x, y, 25.0, 12.0) || disc(x, y, 55.0, 3.0));
        let found = singles(&both, (240, 120), 0.5);
        let boxes: Vec<PhotoBox> = found.iter().map(|s| s.within).collect();
        let [left, right] = boxes[..] else { panic!("{boxes:?}") };
        assert!((20.0..28.0).contains(&left.x) && (46.0..54.0).contains(&left.width), "{left:?}");
        assert!((135.0..142.0).contains(&right.x) && right.y >= 0.0 && right.y + right.height <= 120.0, "{right:?}");
        let one = Grid::from_fn(120, 60, |x, y| disc(x, y, 90.0, 20.0) || disc(x, y, 55.0, 3.0));
        assert!(singles(&one, (240, 120), 0.5).is_empty());
        assert!(singles(&one.map(|_| false), (240, 120), 0.5).is_empty());
    }
}
