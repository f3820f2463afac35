//! What shapes are painted with.

use super::ids::{GradientId, PatternId};
use super::role::Role;
use super::values::Share;
use crate::sheet::{Colour, InkId};
use kurbo::{Affine, Point};

/// What an outline is painted with.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Paint {
    Solid(Swatch),
    Gradient(GradientId),
    Pattern(PatternId),
}

/// A colour, and the ink that it comes from.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Swatch {
    pub colour: Colour,
    /// The ink of the sheet that it is mixed with: what a plate is made for.
    pub ink: Option<InkId>,
}

impl From<Colour> for Swatch {
    fn from(colour: Colour) -> Self {
        Self { colour, ink: None }
    }
}

impl From<Colour> for Paint {
    fn from(colour: Colour) -> Self {
        Self::Solid(colour.into())
    }
}

/// Colours that run into one another (SVG 1.1, section 13.2), mixed in sRGB without alpha.
#[derive(Debug, Clone, PartialEq)]
pub struct Gradient {
    pub role: Role,
    pub axis: GradientAxis,
    /// From the space of the axis to that of the shape it paints.
    pub transform: Affine,
    pub spread: Spread,
    /// By their places.
    pub stops: Vec<GradientStop>,
}

/// Along what a gradient runs.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum GradientAxis {
    Linear {
        from: Point,
        to: Point,
    },
    /// From the focus to the circle.
    Radial {
        centre: Point,
        radius: f64,
        focus: Point,
    },
}

/// How a gradient goes on beyond its ends (`spreadMethod` of SVG 1.1).
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Spread {
    Pad,
    Reflect,
    Repeat,
}

/// A colour of a gradient at its place.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct GradientStop {
    pub at: Share,
    pub swatch: Swatch,
    pub opacity: Share,
}
