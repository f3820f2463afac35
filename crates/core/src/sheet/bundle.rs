//! Bundles: pieces that are handled as one.

use super::paint::{is_whole, whole};
use super::{Blend, BundleId, Members, Shadow};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Pieces, and other bundles, that are handled as one. Its pieces say that they are in it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Bundle {
    pub id: BundleId,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub name: Option<String>,
    /// The bundle that it is in.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub within: Option<BundleId>,
    #[serde(default, skip_serializing_if = "BundleFinish::is_plain")]
    pub finish: BundleFinish,
}

/// How a bundle looks as a whole, with all that breaks out of its windows.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct BundleFinish {
    /// How opaque the whole bundle is, 0 to 1.
    #[serde(default = "whole", skip_serializing_if = "is_whole")]
    pub strength: f64,
    /// How the whole bundle is mixed with what lies beneath.
    #[serde(default, skip_serializing_if = "Blend::is_normal")]
    pub blend: Blend,
    /// Shadows and glows behind it, from the lowest up.
    #[serde(default, skip_serializing_if = "Members::is_none")]
    pub shadows: Members<Shadow>,
}

impl Default for BundleFinish {
    fn default() -> Self {
        Self { strength: 1.0, blend: Blend::Normal, shadows: Members::default() }
    }
}

impl BundleFinish {
    fn is_plain(&self) -> bool {
        *self == Self::default()
    }

    /// Whether it looks as its pieces do by themselves.
    pub fn shows_nothing(&self) -> bool {
        self.strength >= 1.0 && self.blend.is_normal() && self.shadows.iter().all(|s| s.off)
    }

    /// Every length grows by this factor: the bundle is scaled.
    pub(crate) fn scale(&mut self, by: f64) {
        self.shadows.iter_mut().for_each(|shadow| shadow.scale(by));
    }
}
