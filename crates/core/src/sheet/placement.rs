//! Where photos lie on the sheet, and how a grip moves them.

use super::pose::{Pose, whole_turn};
use crate::photo::{Perspective, Pull};
use kurbo::{Affine, Point, Rect, Vec2};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Where a photo or a drawing lies. What is said of a photo's pixels is true of a drawing's millimetres.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct Placement {
    /// The photo's centre, in millimetres from the left edge of the sheet.
    pub x: f64,
    /// The photo's centre, in millimetres from the top edge of the sheet.
    pub y: f64,
    /// Millimetres on the sheet for one pixel of the photo.
    pub scale: f64,
    /// Clockwise, in degrees.
    #[serde(default)]
    pub turn: f64,
    /// Left and right exchanged.
    #[serde(default)]
    pub mirrored: bool,
    /// How far upright lines lean to the right, in degrees.
    #[serde(default, skip_serializing_if = "is_zero")]
    pub slant: f64,
    /// How far each corner is pulled away, in perspective, as shares of the photo's width and height; clockwise from the top left.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub pull: Option<Pull>,
}

pub(super) fn is_zero(v: &f64) -> bool {
    *v == 0.0
}

/// A move, turn and even scaling of the plane: `(x, y) -> (a x - b y + dx, b x + a y + dy)`, in sheet space.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct Similarity {
    pub a: f64,
    pub b: f64,
    pub dx: f64,
    pub dy: f64,
}

impl Placement {
    /// From photo space (pixels of a photo of `width` x `height`) to sheet space.
    ///
    /// ```
    /// use inky_core::sheet::Placement;
    /// let p = Placement { x: 50.0, y: 40.0, scale: 0.1, turn: 0.0, mirrored: false, slant: 0.0, pull: None };
    /// assert_eq!(p.affine(200, 100) * kurbo::Point::new(0.0, 0.0), kurbo::Point::new(40.0, 35.0));
    /// ```
    pub fn affine(&self, width: impl Into<f64>, height: impl Into<f64>) -> Affine {
        let mirror = if self.mirrored { -1.0 } else { 1.0 };
        Affine::translate((self.x, self.y))
            * Affine::rotate(self.turn.to_radians())
            * Affine::new([1.0, 0.0, -self.slant.to_radians().tan(), 1.0, 0.0, 0.0])
            * Affine::scale_non_uniform(self.scale * mirror, self.scale)
            * Affine::translate(Vec2::new(-width.into() / 2.0, -height.into() / 2.0))
    }

    /// The corners of what lies there, `width` x `height` large in its own space: in sheet space, clockwise from its own top left, pulls
    /// included.
    pub fn corners(&self, width: impl Into<f64>, height: impl Into<f64>) -> [[f64; 2]; 4] {
        let (w, h) = (width.into(), height.into());
        let to_sheet = self.affine(w, h);
        [(0.0, 0.0), (w, 0.0), (w, h), (0.0, h)].map(|(x, y)| {
            let p = to_sheet * self.pulled(Point::new(x, y), w, h, false);
            [p.x, p.y]
        })
    }

    /// What its picture covers, in photo space: the bounds of the pulled corners, or the whole photo.
    pub fn frame(&self, width: impl Into<f64>, height: impl Into<f64>) -> Rect {
        let (w, h) = (width.into(), height.into());
        match self.pull.as_ref().and_then(Perspective::new) {
            Some(map) => {
                let [x0, y0, x1, y1] = map.bounds();
                Rect::new(x0 * w, y0 * h, x1 * w, y1 * h)
            }
            None => Rect::new(0.0, 0.0, w, h),
        }
    }

    /// From a point of the photo to where pulling its corners takes it, both in photo space; or (`back`) the other way.
    pub fn pulled(&self, p: Point, width: impl Into<f64>, height: impl Into<f64>, back: bool) -> Point {
        let (w, h) = (width.into(), height.into());
        match self.pull.as_ref().and_then(Perspective::new) {
            Some(map) => {
                let [x, y] = if back { map.unmap(p.x / w, p.y / h) } else { map.map(p.x / w, p.y / h) };
                Point::new(x * w, y * h)
            }
            None => p,
        }
    }

    /// The placement after `by`.
    pub fn moved(self, by: &Similarity) -> Self {
        let p = by.affine() * Point::new(self.x, self.y);
        Self { x: p.x, y: p.y, scale: self.scale * by.scale(), turn: whole_turn(self.turn + by.turn()), ..self }
    }

    /// The placement after any transform of the sheet. What is scaled unevenly has its corners pulled.
    pub fn transformed(self, by: Affine) -> Self {
        if let Some(similarity) = Similarity::of(by) {
            return self.moved(&similarity);
        }
        let wide = if self.mirrored { -self.scale } else { self.scale };
        let own = Pose { x: self.x, y: self.y, turn: self.turn, slant: self.slant, wide, tall: self.scale, pull: None };
        let pose = own.transformed(by);
        let (wide, tall) = (pose.wide.abs(), pose.tall.abs());
        let uneven = (wide / tall).sqrt();
        let base = [[0.0, 0.0], [1.0, 0.0], [1.0, 1.0], [0.0, 1.0]];
        let old = self.pull.unwrap_or_default();
        let pull: Pull = std::array::from_fn(|i| {
            std::array::from_fn(|axis| {
                let stretch = if axis == 0 { uneven } else { 1.0 / uneven };
                (base[i][axis] + old[i][axis] - 0.5) * stretch + 0.5 - base[i][axis]
            })
        });
        let is_pulled = pull.iter().flatten().any(|v| v.abs() > 1e-9);
        Self {
            x: pose.x,
            y: pose.y,
            scale: (wide * tall).sqrt(),
            turn: pose.turn,
            mirrored: pose.wide < 0.0,
            slant: pose.slant,
            pull: is_pulled.then_some(pull),
        }
    }

    /// The smallest upright placement with which a photo covers `target` (sheet space), centred on it.
    pub fn cover(width: impl Into<f64>, height: impl Into<f64>, target: Rect) -> Self {
        let scale = (target.width() / width.into()).max(target.height() / height.into());
        let c = target.center();
        // A hair more, so that no rounding uncovers an edge.
        Self { x: c.x, y: c.y, scale: scale * 1.02, turn: 0.0, mirrored: false, slant: 0.0, pull: None }
    }

    /// The largest upright placement with which a photo lies inside `target` (sheet space), centred on it.
    pub fn contain(width: impl Into<f64>, height: impl Into<f64>, target: Rect) -> Self {
        let scale = (target.width() / width.into()).min(target.height() / height.into());
        let c = target.center();
        Self { x: c.x, y: c.y, scale, turn: 0.0, mirrored: false, slant: 0.0, pull: None }
    }

    /// Whether every number is finite and of a size that can be drawn.
    pub fn is_sound(&self) -> bool {
        [self.x, self.y, self.turn].iter().all(|v| v.is_finite() && v.abs() <= 1e6)
            && self.pull.is_none_or(|p| p.iter().flatten().all(|v| v.abs() <= 4.0) && Perspective::new(&p).is_some())
            && self.slant.is_finite()
            && self.slant.abs() <= 80.0
            && self.scale.is_finite()
            && (1e-5..=1e3).contains(&self.scale)
    }
}

impl Default for Similarity {
    /// Nothing is moved.
    fn default() -> Self {
        Self { a: 1.0, b: 0.0, dx: 0.0, dy: 0.0 }
    }
}

impl Similarity {
    /// This one, and `next` after it.
    pub fn then(&self, next: &Self) -> Self {
        let [a, b, _, _, dx, dy] = (next.affine() * self.affine()).as_coeffs();
        Self { a, b, dx, dy }
    }

    /// What a transform is, if it neither mirrors, slants nor scales unevenly.
    pub fn of(by: Affine) -> Option<Self> {
        let [a, b, c, d, dx, dy] = by.as_coeffs();
        let far = 1e-9 * a.hypot(b);
        ((a - d).abs() <= far && (b + c).abs() <= far).then_some(Self { a, b, dx, dy })
    }

    /// As a transform of the sheet.
    pub fn affine(&self) -> Affine {
        Affine::new([self.a, self.b, -self.b, self.a, self.dx, self.dy])
    }

    /// How much larger things become.
    pub fn scale(&self) -> f64 {
        self.a.hypot(self.b)
    }

    /// Clockwise, in degrees.
    pub fn turn(&self) -> f64 {
        self.b.atan2(self.a).to_degrees()
    }

    /// Whether it is finite and neither collapses nor explodes what it moves.
    pub fn is_sound(&self) -> bool {
        [self.a, self.b, self.dx, self.dy].iter().all(|v| v.is_finite() && v.abs() <= 1e6)
            && (1e-3..=1e3).contains(&self.scale())
    }
}
