//! Areas painted with a brush.

use super::Members;
use kurbo::{BezPath, PathEl, Point};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Strokes in the order in which they were made, in the form's own space.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, TS)]
pub struct Brush {
    pub strokes: Members<Stroke>,
}

/// One stroke of a round brush.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Stroke {
    /// Places of the brush: x and y in millimetres, and the pressure from 0 to 1.
    pub points: Vec<[f64; 3]>,
    /// Diameter at full pressure, in millimetres.
    pub size: f64,
    /// 1 for a clear edge; at 0 it fades from the middle on.
    pub hardness: f64,
    /// Takes away what was painted before.
    #[serde(default)]
    pub erase: bool,
}

impl Brush {
    /// Places of all strokes.
    pub fn points(&self) -> usize {
        self.strokes.iter().map(|s| s.points.len()).sum()
    }
}

impl Stroke {
    /// The way of the brush's middle.
    pub fn way(&self) -> BezPath {
        let mut places = self.points.iter().map(|[x, y, _]| Point::new(*x, *y));
        let start = places.next().map(PathEl::MoveTo);
        start.into_iter().chain(places.map(PathEl::LineTo)).collect()
    }

    /// Fading edges narrower than a hundredth of the brush count as clear ones.
    pub fn is_soft(&self) -> bool {
        self.hardness < 0.99
    }

    /// How far the edge fades, from full to nothing, at full pressure; millimetres.
    pub fn fade(&self) -> f64 {
        (1.0 - self.hardness.clamp(0.0, 1.0)) * self.size / 2.0
    }
}
