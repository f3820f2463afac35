//! Finding the subject of a photo, by itself or by what a person hints at ([`Hints`]): a soft matte at full size, and the cut-out with
//! cleaned edge colours.
//!
//! The steps: what stands out ([`Standout`]); then at a working size, so quickly that every stroke is answered at once ([`draft`]): colours with
//! saliency as a hint (`grabcut`) at 350 and again at 700 pixels, a thin-safe band (`trimap`), closed-form matting in it (`closed_form`), shift
//! (`edge`) and paint (`paint`); then at full size ([`finish_subject`]): enlarging along the photo's own edges (`guided`), matting again in
//! the soft pixels, and the subject's own colours there (`foreground`).

mod brush;
mod chain;
mod closed_form;
mod contrast;
mod correct;
mod coverage;
pub mod distance;
mod doubt;
mod draft;
mod edge;
mod foreground;
mod frame;
mod grabcut;
pub mod grid;
mod ground;
mod guesses;
mod guided;
mod half_cover;
mod hanging;
mod hints;
mod laplacian;
mod max_flow;
mod mixture;
mod overlap;
mod paint;
pub mod regions;
mod runs;
mod see_through;
mod segment;
mod shadow;
mod share;
mod sharpness;
mod single;
mod soft_edge;
mod spoken;
mod standout;
pub mod steps;
mod surround;
mod trimap;
mod window_means;
mod working;

pub use chain::{find_subject, finish_subject, looking};
pub use coverage::coverage;
pub use doubt::Doubt;
pub use draft::{Draft, draft};
pub use edge::{SubjectEdge, smoothed};
pub use guesses::Guess;
pub use hints::{EdgeStroke, Hint, Hints, SeeThroughStroke, Start, SubjectStroke};
pub use overlap::iou;
pub use paint::MatteStroke;
pub use single::Single;
pub use standout::Standout;
pub use working::WorkingPhoto;

use grid::Grid;
use image::{GrayImage, RgbaImage};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A rectangle in photo space, in pixels.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct PhotoBox {
    pub x: f64,
    pub y: f64,
    pub width: f64,
    pub height: f64,
}

/// A network that says which part of a picture stands out.
pub trait Saliency: Send + Sync {
    /// 0 (background) to 1 (subject) for every pixel of a picture, at any size the network likes.
    ///
    /// # Errors
    /// A sentence, where the network cannot run or the watch is cancelled.
    fn saliency(&self, picture: &RgbaImage, watch: &dyn Watch) -> Result<Grid<f32>, String>;
}

/// Follows a long computation, and can end it.
pub trait Watch: Sync {
    /// Called when a step begins, with the share of the work that is done (0..1).
    fn step(&self, done: f32, what: &'static str);
    /// Whether nobody waits for the result any more. Asked at least every 100 ms or so.
    fn is_cancelled(&self) -> bool;

    /// # Errors
    /// Once nobody waits any more.
    fn go_on(&self) -> Result<(), Cancelled> {
        if self.is_cancelled() { Err(Cancelled) } else { Ok(()) }
    }
}

/// A stretch of a longer computation: what is done of it is between two shares of the whole, and has one name.
pub struct Stretch<'a> {
    pub watch: &'a dyn Watch,
    pub from: f32,
    pub to: f32,
    pub what: &'static str,
}

impl<'a> Stretch<'a> {
    /// Begins it.
    pub fn begin(watch: &'a dyn Watch, (from, to): (f32, f32), what: &'static str) -> Self {
        watch.step(from, what);
        Self { watch, from, to, what }
    }
}

impl Watch for Stretch<'_> {
    fn step(&self, done: f32, _: &'static str) {
        self.watch.step(self.from + done.clamp(0.0, 1.0) * (self.to - self.from), self.what);
    }

    fn is_cancelled(&self) -> bool {
        self.watch.is_cancelled()
    }
}

/// Nobody watches, nothing is cancelled.
pub struct Unwatched;

impl Watch for Unwatched {
    fn step(&self, _: f32, _: &'static str) {}
    fn is_cancelled(&self) -> bool {
        false
    }
}

/// The computation was ended from outside.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Cancelled;

/// What was found.
pub struct Subject {
    /// Coverage by the subject, as large as the photo.
    pub matte: GrayImage,
    /// The subject in its own colours, its matte as alpha; as large as the photo.
    pub cutout: RgbaImage,
}

/// Why there is no subject.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum CutoutError {
    #[error("The box lies outside of the photo. Draw it over the subject.")]
    BoxOutside,
    #[error("The box is too small to hold a subject. Draw it around the whole subject.")]
    BoxTooSmall,
    #[error("No subject stands out in this photo. Draw a box around what you want.")]
    NothingFound,
    #[error("Nothing is left of the subject. Draw a stroke over what belongs to it.")]
    NothingLeft,
    #[error("These are too many strokes. Take some back, or keep the subject and draw a box.")]
    TooManyStrokes,
    #[error("A stroke has places that are none. Draw it again.")]
    Stroke,
    #[error("A traced contour is none. Trace it again.")]
    Contour,
    #[error("These are too many contours. Trace the subject in fewer pieces.")]
    TooManyContours,
    #[error("An edge is up to 1000 pixels wide, and is shifted and smoothed by as much.")]
    Edge,
    #[error("No shadow on the ground stands out by itself. Paint over it.")]
    NoShadow,
    #[error("What is seen through covers the ground by 0 to 100 %.")]
    Density,
    #[error("This photo is opaque everywhere, so it does not say by itself what is in front.")]
    Opaque,
    #[error("This photo is transparent everywhere: nothing in it can be seen.")]
    Clear,
    #[error("The search was cancelled.")]
    Cancelled,
    #[error("The subject network could not run: {0}")]
    Network(String),
}

impl From<Cancelled> for CutoutError {
    fn from(_: Cancelled) -> Self {
        Self::Cancelled
    }
}
