//! Where photos and drawings lie.

use crate::outline::DrawingTree;
use crate::photo::{Pull, levels};
use crate::scene::svg::matrix;
use crate::sheet::{FillId, MM_PER_INCH, PhotoId, Placement, Sheet};
use kurbo::{Affine, Point};
use serde::Serialize;
use ts_rs::TS;

/// Where a photo of a piece lies.
#[derive(Debug, Clone, Serialize, TS)]
pub struct PhotoView {
    pub photo: PhotoId,
    /// None for a picture that is a piece itself.
    #[ts(optional = nullable)]
    pub fill: Option<FillId>,
    /// In sheet space, clockwise from its own top left.
    pub corners: [[f64; 2]; 4],
    /// As it is seen where its corners are pulled.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub pulled: Option<PulledView>,
    /// The long sides, in pixels and falling, at which it is kept.
    pub sides: Vec<u32>,
    /// SVG's `transform`, from photo space to sheet space.
    pub transform: String,
    /// Pixels.
    pub width: u32,
    /// Pixels.
    pub height: u32,
    /// Photo pixels for an inch of the sheet.
    pub ppi: f64,
    #[serde(skip)]
    #[ts(skip)]
    to_sheet: Affine,
}

/// A photo in perspective, as a picture in photo space.
#[derive(Debug, Clone, Serialize, TS)]
pub struct PulledView {
    pub pull: Pull,
    pub x: f64,
    pub y: f64,
    pub width: f64,
    pub height: f64,
}

/// Where a drawing of a window lies.
#[derive(Debug, Clone, Serialize, TS)]
pub struct DrawingView {
    pub fill: FillId,
    /// The corners of its page, in sheet space, clockwise from its own top left.
    pub corners: [[f64; 2]; 4],
    /// Width of its page in millimetres of its own.
    pub width: f64,
    /// Height of its page in millimetres of its own.
    pub height: f64,
}

impl PhotoView {
    /// None where the photo is not among those of the sheet.
    pub(super) fn of(sheet: &Sheet, id: &PhotoId, place: &Placement, fill: Option<FillId>) -> Option<Self> {
        let photo = sheet.photos.get(id)?;
        let (width, height) = (photo.width, photo.height);
        let pulled = place.pull.map(|pull| {
            let f = place.frame(width, height);
            PulledView { pull, x: f.x0, y: f.y0, width: f.width(), height: f.height() }
        });
        Some(Self {
            photo: id.clone(),
            fill,
            corners: place.corners(width, height),
            pulled,
            sides: levels(width, height),
            transform: matrix(place.affine(width, height)),
            width,
            height,
            ppi: MM_PER_INCH / place.scale,
            to_sheet: place.affine(width, height),
        })
    }

    /// The same where it is seen, moved by `by` from where it lies.
    pub(super) fn seen(mut self, by: Affine) -> Self {
        for corner in &mut self.corners {
            let p = by * Point::new(corner[0], corner[1]);
            *corner = [p.x, p.y];
        }
        self.to_sheet = by * self.to_sheet;
        self.transform = matrix(self.to_sheet);
        self.ppi /= by.determinant().abs().sqrt();
        self
    }
}

impl DrawingView {
    pub(super) fn of(fill: FillId, place: &Placement, picture: &DrawingTree) -> Self {
        let (width, height) = (picture.width, picture.height);
        Self { fill, corners: place.corners(width, height), width, height }
    }
}
