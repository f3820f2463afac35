//! Where a node lies.

use crate::pictures::mean_scale;
use kurbo::Affine;

/// Where a node lies.
#[derive(Clone, Copy)]
pub(crate) struct Space {
    /// To the sheet, in millimetres.
    pub to_sheet: Affine,
    /// Millimetres of the sheet for one unit: what pictures were prepared for.
    pub scale: f64,
}

impl Space {
    /// The sheet itself, in millimetres.
    pub fn sheet() -> Self {
        Self { to_sheet: Affine::IDENTITY, scale: 1.0 }
    }

    /// A space within this one.
    pub fn within(self, transform: Affine) -> Self {
        Self { to_sheet: self.to_sheet * transform, scale: self.scale * mean_scale(transform) }
    }
}
