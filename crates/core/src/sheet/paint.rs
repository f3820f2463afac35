//! What areas and lines are painted with: colours, gradients, and the inks of a sheet.

use super::{Colour, InkId};
use kurbo::{Affine, Point};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// One colour: its own, or that of an ink, which it then follows.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Tint {
    Colour(Colour),
    Ink(InkId),
}

/// What an area or a line is painted with.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Paint {
    Colour {
        colour: Colour,
    },
    /// An ink of the sheet, which it then follows.
    Ink {
        ink: InkId,
        /// Where the ink's gradient runs, if it is one.
        #[serde(default, alias = "span", skip_serializing_if = "Option::is_none")]
        #[ts(optional)]
        vector: Option<GradientVector>,
    },
    Gradient {
        gradient: Gradient,
        /// Without one it runs over the whole of what is painted.
        #[serde(default, alias = "span", skip_serializing_if = "Option::is_none")]
        #[ts(optional)]
        vector: Option<GradientVector>,
    },
}

/// Colours that run into one another (SVG 1.1, section 13.2; beyond the first and last stop their colours go on).
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Gradient {
    #[serde(alias = "way")]
    pub kind: GradientKind,
    /// At least two, in order.
    pub stops: Vec<Stop>,
}

/// The shapes of gradients.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum GradientKind {
    /// Along the vector.
    Linear,
    /// Around the vector's start; its length is the radius.
    Radial,
}

/// A colour of a gradient at its place.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct Stop {
    /// Share of the way, 0 to 1.
    pub at: f64,
    pub tint: Tint,
    /// 0 (clear) to 1.
    #[serde(default = "whole")]
    pub opacity: f64,
}

/// From where to where a gradient runs, in millimetres on the sheet.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct GradientVector {
    pub from: [f64; 2],
    pub to: [f64; 2],
}

/// A named colour or gradient of a sheet. Everything painted with it follows when it is changed.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Ink {
    pub id: InkId,
    pub name: String,
    pub mix: Mix,
    /// It is printed as an ink of its own where a file can say so; of a gradient it means nothing.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    #[ts(optional, as = "Option<bool>")]
    pub spot: bool,
}

/// An ink that is printed as one of its own.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct SpotInk {
    pub id: InkId,
    /// No other spot ink of the sheet is called so, and it is none of the names that mean something else in a PDF.
    pub name: String,
    pub colour: Colour,
}

/// The spot inks among these, in their order.
pub(super) fn spot_inks(inks: &[Ink]) -> Vec<SpotInk> {
    // what a colorant must not be called: all, none, and the process inks (ISO 32000-1, section 8.6.6.4)
    const TAKEN: [&str; 6] = ["All", "None", "Cyan", "Magenta", "Yellow", "Black"];
    let mut spots: Vec<SpotInk> = Vec::new();
    for ink in inks.iter().filter(|ink| ink.spot) {
        let Mix::Colour { colour } = ink.mix else { continue };
        let is_taken = |name: &String, spots: &[SpotInk]| {
            TAKEN.contains(&name.as_str()) || spots.iter().any(|spot| spot.name == *name)
        };
        let called = if ink.name.trim().is_empty() { "Ink" } else { ink.name.trim() };
        let numbered = (2..).map(|n| format!("{called} {n}"));
        let name = std::iter::once(called.to_owned()).chain(numbered).find(|name| !is_taken(name, &spots));
        spots.push(SpotInk { id: ink.id, name: name.unwrap_or_default(), colour });
    }
    spots
}

/// What an ink is.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "mix", rename_all = "snake_case")]
pub enum Mix {
    Colour { colour: Colour },
    Gradient { gradient: Gradient },
}

/// How a paint mixes with what lies beneath it (W3C Compositing and Blending Level 1, section 10).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "kebab-case")]
pub enum Blend {
    #[default]
    Normal,
    Multiply,
    Screen,
    Overlay,
    Darken,
    Lighten,
    ColorDodge,
    ColorBurn,
    HardLight,
    SoftLight,
    Difference,
    Exclusion,
    Hue,
    Saturation,
    Color,
    Luminosity,
}

pub(super) fn whole() -> f64 {
    1.0
}

pub(super) fn is_whole(v: &f64) -> bool {
    *v == 1.0
}

impl Blend {
    /// The keyword of the CSS property `mix-blend-mode`.
    pub fn keyword(self) -> &'static str {
        match self {
            Blend::Normal => "normal",
            Blend::Multiply => "multiply",
            Blend::Screen => "screen",
            Blend::Overlay => "overlay",
            Blend::Darken => "darken",
            Blend::Lighten => "lighten",
            Blend::ColorDodge => "color-dodge",
            Blend::ColorBurn => "color-burn",
            Blend::HardLight => "hard-light",
            Blend::SoftLight => "soft-light",
            Blend::Difference => "difference",
            Blend::Exclusion => "exclusion",
            Blend::Hue => "hue",
            Blend::Saturation => "saturation",
            Blend::Color => "color",
            Blend::Luminosity => "luminosity",
        }
    }

    pub(crate) fn is_normal(&self) -> bool {
        *self == Blend::Normal
    }
}

impl Paint {
    /// A paint of one colour.
    pub fn colour(colour: Colour) -> Self {
        Paint::Colour { colour }
    }

    /// Where its gradient runs, if that was set by hand.
    pub fn vector_mut(&mut self) -> Option<&mut GradientVector> {
        match self {
            Paint::Colour { .. } => None,
            Paint::Ink { vector, .. } | Paint::Gradient { vector, .. } => vector.as_mut(),
        }
    }

    /// Moves it along with what it paints.
    pub(crate) fn transform(&mut self, by: Affine) {
        if let Some(vector) = self.vector_mut() {
            for end in [&mut vector.from, &mut vector.to] {
                let p = by * Point::new(end[0], end[1]);
                *end = [p.x, p.y];
            }
        }
    }

    /// The inks that it is mixed from.
    pub fn inks(&self) -> Vec<InkId> {
        match self {
            Paint::Colour { .. } => Vec::new(),
            Paint::Ink { ink, .. } => vec![*ink],
            Paint::Gradient { gradient, .. } => gradient.inks(),
        }
    }
}

impl Tint {
    /// The ink, if it is one.
    pub fn ink(&self) -> Option<InkId> {
        match self {
            Tint::Ink(ink) => Some(*ink),
            Tint::Colour(_) => None,
        }
    }
}

impl Gradient {
    /// The inks that it is mixed from, one for each stop that has one.
    pub fn inks(&self) -> Vec<InkId> {
        self.stops.iter().filter_map(|s| s.tint.ink()).collect()
    }
}
