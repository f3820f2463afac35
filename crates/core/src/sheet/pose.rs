//! Where a form lies.

use kurbo::{Affine, Point};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Where a form lies: from its own space to the sheet, or to the space of the list that holds it.
///
/// In this order: the corners are pulled, then the form is stretched, slanted, turned and moved.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct Pose {
    /// Millimetres from the left edge of the sheet to the form's origin.
    pub x: f64,
    /// Millimetres from the top edge of the sheet to the form's origin.
    pub y: f64,
    /// Clockwise, in degrees.
    #[serde(default)]
    pub turn: f64,
    /// How far upright lines lean to the right, in degrees.
    #[serde(default)]
    pub slant: f64,
    /// Stretch of its width; negative where left and right are exchanged.
    #[serde(default = "one")]
    pub wide: f64,
    /// Stretch of its height.
    #[serde(default = "one")]
    pub tall: f64,
    /// How far each corner of the form's own box is pulled away, as shares of the box's width and height; clockwise from the
    /// top left.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub pull: Option<[[f64; 2]; 4]>,
}

fn one() -> f64 {
    1.0
}

impl Default for Pose {
    fn default() -> Self {
        Self::at(0.0, 0.0)
    }
}

impl Pose {
    /// Upright and unstretched at a point.
    pub fn at(x: f64, y: f64) -> Self {
        Self { x, y, turn: 0.0, slant: 0.0, wide: 1.0, tall: 1.0, pull: None }
    }

    /// From the form's own space, its corners already pulled, to the space it lies in.
    pub fn affine(&self) -> Affine {
        // y points down: what leans to the right has its lower y further right
        Affine::translate((self.x, self.y))
            * Affine::rotate(self.turn.to_radians())
            * Affine::new([1.0, 0.0, -self.slant.to_radians().tan(), 1.0, 0.0, 0.0])
            * Affine::scale_non_uniform(self.wide, self.tall)
    }

    /// The pose after `by`, which is taken apart into turn, slant and stretch. A mirrored form has a negative width.
    pub fn transformed(self, by: Affine) -> Self {
        let whole = by * self.affine();
        let [a, b, c, d, ..] = whole.as_coeffs();
        let mirrored = if whole.determinant() < 0.0 { -1.0 } else { 1.0 };
        let wide = mirrored * a.hypot(b);
        let turn = (mirrored * b).atan2(mirrored * a);
        // the second axis turned back: (-tan(slant) * tall, tall)
        let (sin, cos) = turn.sin_cos();
        let (lean, tall) = (c * cos + d * sin, d * cos - c * sin);
        let slant = (-lean / tall).atan().to_degrees();
        let p = whole * Point::ORIGIN;
        let slant = if slant.abs() < 1e-9 { 0.0 } else { slant };
        Self { x: p.x, y: p.y, turn: whole_turn(turn.to_degrees()), slant, wide, tall, pull: self.pull }
    }

    /// Whether every number is finite and of a size that can be drawn.
    pub fn is_sound(&self) -> bool {
        let within = |v: f64, most: f64| v.is_finite() && v.abs() <= most;
        let pulls = self.pull.iter().flatten().flatten();
        within(self.x, 1e6)
            && within(self.y, 1e6)
            && within(self.turn, 1e6)
            && within(self.slant, 85.0)
            && [self.wide, self.tall].iter().all(|v| within(*v, 1e4) && v.abs() >= 1e-4)
            && pulls.into_iter().all(|v| within(*v, 100.0))
    }
}

/// The same angle in -180 .. 180 degrees, without the dust that adding angles leaves.
pub(super) fn whole_turn(degrees: f64) -> f64 {
    let t = (degrees + 180.0).rem_euclid(360.0) - 180.0;
    if t.abs() < 1e-9 { 0.0 } else { t }
}
