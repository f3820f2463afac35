//! How the edge of an opening looks, and what light does to it.

use super::paint::{is_whole, whole};
use super::{Blend, Members, Paint, Tint};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// The finish of a window. Lengths are in millimetres on the sheet.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Finish {
    #[serde(default, skip_serializing_if = "Softness::is_clear")]
    pub softness: Softness,
    /// How opaque the whole window is, 0 to 1.
    #[serde(default = "whole", skip_serializing_if = "is_whole")]
    pub strength: f64,
    /// The outside shows instead.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub negative: bool,
    /// Lines along the edge, from the lowest up.
    #[serde(default, skip_serializing_if = "Members::is_none")]
    pub rims: Members<Rim>,
    /// Shadows and glows, from the lowest up.
    #[serde(default, skip_serializing_if = "Members::is_none")]
    pub shadows: Members<Shadow>,
    /// Light on it, as if it were wet ink.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub gloss: Option<Gloss>,
}

/// How the edge of the whole opening fades.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize, TS)]
pub struct Softness {
    /// Over how many millimetres it fades from full to nothing.
    pub width: f64,
    #[serde(default)]
    pub side: FadeSide,
}

/// Where an edge fades.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum FadeSide {
    /// Half within the outline, half beyond it.
    #[default]
    Both,
    Inward,
    Outward,
}

/// A line along the edge of an opening.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Rim {
    pub width: f64,
    pub side: super::LineSide,
    pub paint: Paint,
    /// Lengths of dashes and gaps in turn; empty for a line without gaps.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub dashes: Vec<f64>,
    /// Round ends of dashes and round corners; else flat ends and mitred corners.
    #[serde(default)]
    pub round: bool,
    /// Whether it runs over what breaks out, not beneath it.
    #[serde(default)]
    pub over: bool,
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub off: bool,
}

impl Rim {
    /// How far it reaches out of the opening, in millimetres.
    pub fn outward(&self) -> f64 {
        match self.side {
            super::LineSide::Outside => self.width,
            super::LineSide::Centre => self.width / 2.0,
            super::LineSide::Inside => 0.0,
        }
    }

    /// How far it reaches into the opening, in millimetres.
    pub fn inward(&self) -> f64 {
        match self.side {
            super::LineSide::Inside => self.width,
            super::LineSide::Centre => self.width / 2.0,
            super::LineSide::Outside => 0.0,
        }
    }
}

/// Where a shadow falls.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum ShadowPlace {
    /// On the sheet behind the window and what breaks out of it.
    Behind,
    /// From the edge into the opening.
    Inside,
    /// On the sheet, thrown by nothing but what breaks out.
    Contact,
}

/// A shadow, or a glow: one without distance, in a light tint.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Shadow {
    pub place: ShadowPlace,
    pub tint: Tint,
    #[serde(default, skip_serializing_if = "Blend::is_normal")]
    pub blend: Blend,
    /// 0 to 1.
    pub strength: f64,
    /// Where it falls to: degrees clockwise from the right.
    pub angle: f64,
    /// How far it falls.
    pub distance: f64,
    /// How much wider than what throws it.
    #[serde(default)]
    pub spread: f64,
    /// Over how many millimetres its edge fades.
    pub size: f64,
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub off: bool,
}

impl Shadow {
    /// Every length grows by this factor: what throws it is scaled.
    pub(crate) fn scale(&mut self, by: f64) {
        self.distance *= by;
        self.spread *= by;
        self.size *= by;
    }
}

/// Light on the opening as if it were raised.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct Gloss {
    /// 0 to 1.
    pub strength: f64,
    /// How far from the edge it rises until it is flat.
    pub reach: f64,
    /// From dull to wet, 0 to 1: how small and bright the shine is.
    pub shine: f64,
    /// Where the light comes from: degrees clockwise from the right.
    pub light: f64,
    /// How high the light stands, in degrees: 90 for right above.
    pub rise: f64,
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub off: bool,
}

impl Default for Finish {
    fn default() -> Self {
        Self {
            softness: Softness::default(),
            strength: 1.0,
            negative: false,
            rims: Members::default(),
            shadows: Members::default(),
            gloss: None,
        }
    }
}

impl Finish {
    pub(super) fn is_plain(&self) -> bool {
        *self == Self::default()
    }

    /// Every length grows by this factor: the window is scaled.
    pub(crate) fn scale(&mut self, by: f64) {
        self.softness.width *= by;
        for rim in &mut self.rims {
            rim.width *= by;
            rim.dashes.iter_mut().for_each(|d| *d *= by);
        }
        self.shadows.iter_mut().for_each(|shadow| shadow.scale(by));
        if let Some(gloss) = &mut self.gloss {
            gloss.reach *= by;
        }
    }
}

impl Softness {
    fn is_clear(&self) -> bool {
        *self == Self::default()
    }
}
