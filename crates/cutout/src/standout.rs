//! What stands out in a photo, as the network sees it.

use crate::frame::Frame;
use crate::grid::Grid;
use crate::hanging::frame_with_hanging;
use crate::regions::tidied;
use crate::working::{COARSE, coarse_size, colours_of, scaled};
use crate::{CutoutError, PhotoBox, Saliency, Stretch, Watch, WorkingPhoto};
use image::RgbaImage;

/// What stands out by itself is made of parts of at least this share of its largest one.
const LEAST: f64 = 0.02;

const LOOKING: &str = "Looking for what stands out";

/// What stands out in a photo or in a box: it does not depend on strokes, and is the costliest of what they are read with.
#[derive(Debug, Clone)]
pub struct Standout {
    /// 0 to 1 at the coarse working size.
    pub(crate) map: Grid<f32>,
    /// Where the subject is looked for, in pixels of the photo.
    pub(crate) frame: Frame,
    /// Whether a person has drawn a box, which ends where the subject does.
    pub(crate) boxed: bool,
    /// Whether anything stands out at all.
    pub(crate) anything: bool,
}

impl Standout {
    /// Looks at a box with some room around it, or at the whole photo and then closer at what stood out.
    ///
    /// # Errors
    /// A box that misses the photo, a network that cannot run, a cancelled watch.
    pub fn find(
        photo: &RgbaImage,
        within: Option<&PhotoBox>,
        network: &dyn Saliency,
        watch: &dyn Watch,
    ) -> Result<Self, CutoutError> {
        let looks = Looks { photo, network, watch };
        if let Some(within) = within {
            let frame = Frame::of_box(within, photo)?;
            return Ok(Self { map: looks.in_box(frame)?, frame, boxed: true, anything: true });
        }
        let Some((map, found)) = looks.anywhere()? else { return Ok(Self::nothing(photo)) };
        if let Some(frame) = looks.with_hanging(&map) {
            return Ok(Self { map: looks.in_box(frame)?, frame, boxed: true, anything: true });
        }
        Ok(Self { map, frame: found, boxed: false, anything: true })
    }

    /// Nothing stands out.
    pub fn nothing(photo: &RgbaImage) -> Self {
        Self::silent(coarse_size(photo), photo.dimensions())
    }

    /// Nothing is looked for in a photo of this size.
    pub fn none(photo: &WorkingPhoto) -> Self {
        Self::silent((photo.coarse.width, photo.coarse.height), photo.size)
    }

    fn silent((width, height): (usize, usize), (across, down): (u32, u32)) -> Self {
        let frame = Frame { x0: 0, y0: 0, x1: across as usize, y1: down as usize };
        Self { map: Grid::filled(width, height, 0.0), frame, boxed: false, anything: false }
    }
}

/// The looks that the network takes at a photo, two at most.
struct Looks<'a> {
    photo: &'a RgbaImage,
    network: &'a dyn Saliency,
    watch: &'a dyn Watch,
}

/// The halves of the work that the two looks are.
const FIRST: (f32, f32) = (0.0, 0.5);
const CLOSER: (f32, f32) = (0.5, 1.0);

impl Looks<'_> {
    /// The network on a cut of the photo; the map is laid back into a grid as large as the photo, scaled to the coarse size.
    fn at(&self, cut: Frame, stretch: (f32, f32)) -> Result<Grid<f32>, CutoutError> {
        let photo = self.photo;
        let (w, h) = ((cut.x1 - cut.x0) as u32, (cut.y1 - cut.y0) as u32);
        let part = image::imageops::crop_imm(photo, cut.x0 as u32, cut.y0 as u32, w, h).to_image();
        let watch = Stretch::begin(self.watch, stretch, LOOKING);
        let map = self.network.saliency(&part, &watch);
        self.watch.go_on()?;
        let map = map.map_err(CutoutError::Network)?;
        let scale = (f64::from(COARSE) / f64::from(photo.width().max(photo.height()))).min(1.0);
        let (width, height) = coarse_size(photo);
        let inner = cut.scaled(scale);
        let map = map.resized((inner.x1 - inner.x0).max(1), (inner.y1 - inner.y0).max(1));
        Ok(Grid::from_fn(
            width,
            height,
            |x, y| if inner.holds(x, y) { map.at(x - inner.x0, y - inner.y0) } else { 0.0 },
        ))
    }

    /// Looks at the box with some room around it. A box is drawn so that the subject touches its sides (the tightness prior of
    /// Lempitsky et al., "Image Segmentation with a Bounding Box Prior", ICCV 2009): where what stands out ends well before a
    /// side, as a balloon outshines the basket below it, the strip that is left over is looked at once more by itself.
    fn in_box(&self, frame: Frame) -> Result<Grid<f32>, CutoutError> {
        let photo = self.photo;
        let map = self.at(frame.padded(0.12, photo), FIRST)?;
        let scale = map.width as f64 / f64::from(photo.width());
        let inner = frame.scaled(scale);
        let inside = Grid::from_fn(map.width, map.height, |x, y| inner.holds(x, y) && map.at(x, y) > 0.5);
        let Some(found) = Frame::around(&inside).map(|f| f.scaled(1.0 / scale)) else {
            return Ok(map);
        };
        let Some(strip) = frame.widest_gap(found).filter(|strip| strip.worth_a_look()) else {
            return Ok(map);
        };
        let closer = self.at(strip.padded(0.08, photo), CLOSER)?;
        let strip = strip.scaled(scale);
        Ok(Grid::from_fn(map.width, map.height, |x, y| {
            if strip.holds(x, y) { map.at(x, y).max(closer.at(x, y)) } else { map.at(x, y) }
        }))
    }

    /// The frame around what stands out and what hangs on it, where something does.
    fn with_hanging(&self, map: &Grid<f32>) -> Option<Frame> {
        let colours = colours_of(&scaled(self.photo, COARSE));
        let subject = tidied(&map.map(|s| s > 0.5), LEAST);
        let frame = frame_with_hanging(&colours, &subject)?;
        Some(frame.scaled(f64::from(self.photo.width()) / map.width as f64).padded(0.02, self.photo))
    }

    /// Looks at the whole photo, then closer at what stood out.
    fn anywhere(&self) -> Result<Option<(Grid<f32>, Frame)>, CutoutError> {
        let photo = self.photo;
        let whole = Frame::of(photo);
        let map = self.at(whole, FIRST)?;
        let scale = map.width as f64 / f64::from(photo.width());
        let mask = tidied(&map.map(|s| s > 0.5), LEAST);
        let Some(found) = Frame::around(&mask) else {
            return Ok(None);
        };
        let full = found.scaled(1.0 / scale);
        let share = (full.x1 - full.x0) as f64 * (full.y1 - full.y0) as f64 / (whole.x1 * whole.y1) as f64;
        let frame = full.padded(0.08, photo);
        if share > 0.7 {
            return Ok(Some((map, frame)));
        }
        Ok(Some((self.at(full.padded(0.2, photo), CLOSER)?, frame)))
    }
}
