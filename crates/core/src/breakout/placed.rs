//! A subject's matte where its photo lies on the sheet.

use super::working_matte::WorkingMatte;
use crate::sheet::{Photo, Placement};
use kurbo::{Affine, Point, Vec2};
use std::sync::Arc;

/// A matte in the space in which overhangs are looked for: that of the photo, or, where its corners are pulled, that of the pulled picture, whose
/// origin is that of its frame.
pub struct PlacedMatte {
    pub matte: Arc<WorkingMatte>,
    /// From that space to the sheet.
    pub to_sheet: Affine,
    place: Placement,
    size: (u32, u32),
    origin: Vec2,
}

impl PlacedMatte {
    /// None where pulled corners make no convex quadrilateral.
    pub fn new(matte: Arc<WorkingMatte>, photo: &Photo, place: &Placement) -> Option<Self> {
        let size = (photo.width, photo.height);
        let origin = place.frame(size.0, size.1).origin().to_vec2();
        let matte = match &place.pull {
            Some(pull) => Arc::new(matte.pulled(pull, size)?),
            None => matte,
        };
        let to_sheet = place.affine(size.0, size.1) * Affine::translate(origin);
        Some(Self { matte, to_sheet, place: *place, size, origin })
    }

    /// Where the photo lies, and its width and height in pixels.
    pub fn place(&self) -> (Placement, (u32, u32)) {
        (self.place, self.size)
    }

    /// From the photo's own pixels.
    pub fn there(&self, p: Point) -> Point {
        self.place.pulled(p, self.size.0, self.size.1, false) - self.origin
    }

    /// Back to the photo's own pixels.
    pub fn back(&self, p: Point) -> Point {
        self.place.pulled(p + self.origin, self.size.0, self.size.1, true)
    }
}
