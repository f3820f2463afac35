//! Basic shapes, by the box they are drawn in and the numbers that are their own.

use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// A basic shape, drawn in a box about its own origin.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct BasicShape {
    /// Millimetres.
    pub width: f64,
    /// Millimetres. The thickness of a plain line.
    pub height: f64,
    pub figure: Figure,
}

/// Which shape fills the box. Shares are of half the box's shorter side unless it says otherwise.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "figure", rename_all = "snake_case")]
pub enum Figure {
    Ellipse,
    /// Corner radii in millimetres, from the top left clockwise.
    Box {
        corners: [f64; 4],
    },
    /// An ellipse with a hole; `hole` is the share of its width and height, 0 to 1.
    Ring {
        hole: f64,
    },
    /// A slice of an ellipse, in degrees clockwise from the top.
    Sector {
        from: f64,
        sweep: f64,
    },
    /// Three corners, two of them at the bottom of the box.
    Triangle {
        /// Where the third one lies along the top, 0 (left) to 1 (right).
        lean: f64,
        /// Radius of the corners in millimetres.
        rounding: f64,
    },
    Polygon {
        sides: u32,
        /// Radius of the corners in millimetres.
        rounding: f64,
        /// It reaches to all sides of the box; else its corners lie on the ellipse in the box.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        #[ts(optional, as = "Option<bool>")]
        fitted: bool,
    },
    Star {
        points: u32,
        /// How far the inner corners lie from the tips towards the centre, 0 to 1.
        depth: f64,
        /// Radius of the corners in millimetres.
        rounding: f64,
        /// It reaches to all sides of the box; else its tips lie on the ellipse in the box.
        #[serde(default, skip_serializing_if = "std::ops::Not::not")]
        #[ts(optional, as = "Option<bool>")]
        fitted: bool,
    },
    Heart,
    /// A doorway: upright sides under half an ellipse of the share `rise` of the height.
    Arch {
        rise: f64,
    },
    Drop,
    /// Four arms of the share `arm` of the box's width and height.
    Cross {
        arm: f64,
    },
    /// `head` is the share of the width, `shaft` of the height.
    Arrow {
        head: f64,
        shaft: f64,
    },
    /// A band of `teeth` teeth; `depth` is the share of the height that they take.
    Zigzag {
        teeth: u32,
        depth: f64,
    },
    Cloud {
        bumps: u32,
    },
    /// A spill of ink: the same seed gives the same blot.
    Blot {
        seed: u32,
        roughness: f64,
    },
    /// A straight line as long as the box is wide.
    Line {
        ends: Tip,
    },
}

/// How a plain line ends.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Tip {
    Flat,
    Round,
    Pointed,
}

impl BasicShape {
    /// Wider and taller by these factors; corner radii go with the smaller one.
    pub fn stretch(&mut self, wide: f64, tall: f64) {
        self.width *= wide;
        self.height *= tall;
        let factor = wide.min(tall);
        match &mut self.figure {
            Figure::Box { corners } if (wide - tall).abs() < 1e-9 * wide => {
                corners.iter_mut().for_each(|r| *r *= factor);
            }
            Figure::Triangle { rounding, .. } | Figure::Polygon { rounding, .. } | Figure::Star { rounding, .. } => {
                *rounding *= factor;
            }
            _ => {}
        }
    }
}

impl Figure {
    /// A name people read.
    pub fn label(&self) -> &'static str {
        match self {
            Figure::Ellipse => "Ellipse",
            Figure::Box { .. } => "Box",
            Figure::Ring { .. } => "Ring",
            Figure::Sector { .. } => "Sector",
            Figure::Triangle { .. } => "Triangle",
            Figure::Polygon { .. } => "Polygon",
            Figure::Star { .. } => "Star",
            Figure::Heart => "Heart",
            Figure::Arch { .. } => "Arch",
            Figure::Drop => "Drop",
            Figure::Cross { .. } => "Cross",
            Figure::Arrow { .. } => "Arrow",
            Figure::Zigzag { .. } => "Zigzag",
            Figure::Cloud { .. } => "Cloud",
            Figure::Blot { .. } => "Blot",
            Figure::Line { .. } => "Line",
        }
    }
}
