//! What is done to the colours of a picture, and what a group throws.

use super::{Length, Share, Swatch};
use crate::sheet::Colour;
use kurbo::{Rect, Vec2};

/// Steps that change the colours of a picture one after the other, in sRGB without alpha. Alpha stays.
#[derive(Debug, Clone, PartialEq)]
pub struct ToneCurve {
    pub steps: Vec<ToneStep>,
}

/// One change of colours. Values are from 0 to 1 and are cut off there after each step.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum ToneStep {
    /// Each channel to this power.
    Power(f64),
    /// Each channel multiplied by its slope, then the intercept added.
    Linear { slopes: [f64; 3], intercept: f64 },
    /// Red, green and blue mixed anew, row by row.
    Mix([[f64; 3]; 3]),
    /// Each channel from the one colour's (at 0) to the other's (at 1).
    Between(Colour, Colour),
}

/// What is seen of a group in place of the group itself.
#[derive(Debug, Clone, PartialEq)]
pub enum Effect {
    Shadow(Shadow),
}

/// The shadow of a group, by its alpha. First it spreads, then it falls, then it is blurred.
#[derive(Debug, Clone, PartialEq)]
pub struct Shadow {
    pub swatch: Swatch,
    pub opacity: Share,
    /// What is outside of the group throws it.
    pub from_outside: bool,
    /// How much wider it is than what throws it.
    pub spread: Length,
    pub falls: Vec2,
    /// Standard deviation of its blur.
    pub blur: Length,
    /// Nothing of it is seen beyond; also, beyond it nothing throws it.
    pub region: Rect,
}

impl Shadow {
    /// How steep a blur by the spread is made: its edge is where the blur has come down to [`Self::EDGE`].
    pub const STEEP: f64 = 6.0;
    /// One standard deviation outside of a straight edge, a Gaussian blur has come down to this.
    pub const EDGE: f64 = 0.159;

    /// What is added after the slope so that the new edge is in the middle of the ramp.
    pub fn intercept() -> f64 {
        0.5 - Self::EDGE * Self::STEEP
    }

    /// How far it reaches from what throws it, in millimetres.
    pub fn extent(&self) -> f64 {
        self.falls.hypot() + 3.0 * (self.blur.mm() + self.spread.mm())
    }
}

impl ToneStep {
    /// The colour after this step.
    pub fn of(&self, colour: [f64; 3]) -> [f64; 3] {
        let cut = |v: f64| v.clamp(0.0, 1.0);
        match self {
            Self::Power(exponent) => colour.map(|v| cut(v.powf(*exponent))),
            Self::Linear { slopes, intercept } => std::array::from_fn(|c| cut(colour[c] * slopes[c] + intercept)),
            Self::Mix(rows) => rows.map(|row| cut(row.iter().zip(colour).map(|(m, v)| m * v).sum())),
            Self::Between(dark, light) => std::array::from_fn(|c| {
                let [a, b] = [dark, light].map(|colour| f64::from(colour.0[c]) / 255.0);
                a + (b - a) * colour[c]
            }),
        }
    }
}
