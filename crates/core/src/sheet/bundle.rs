//! Bundles: pieces that are handled as one.

use super::paint::{is_whole, whole};
use super::{Blend, BundleId, Members, Repeat, Shadow, Split};
use kurbo::Affine;
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
    /// The panes that all of it falls into.
    #[serde(default, skip_serializing_if = "Split::is_none")]
    #[ts(optional, as = "Option<Split>")]
    pub split: Split,
    /// All of it is shown several times.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub repeat: Option<Box<Repeat>>,
}

impl Bundle {
    /// A bundle without a name, in no other one, that looks as its pieces do.
    pub fn new(id: BundleId) -> Self {
        let finish = BundleFinish::default();
        Self { id, name: None, within: None, finish, split: Split::default(), repeat: None }
    }

    /// Whether it is seen in panes, or several times.
    pub fn is_divided(&self) -> bool {
        !self.split.is_none() || self.repeat.is_some()
    }

    /// Whether it looks other than its pieces do by themselves.
    pub fn is_drawn_whole(&self) -> bool {
        self.is_divided() || !self.finish.shows_nothing()
    }

    /// The same after all of its pieces were transformed.
    pub(crate) fn transform(&mut self, by: Affine) {
        self.finish.scale(by.determinant().abs().sqrt());
        self.split.transform(by);
        if let Some(repeat) = &mut self.repeat {
            repeat.transform(by);
        }
    }
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
    fn scale(&mut self, by: f64) {
        self.shadows.iter_mut().for_each(|shadow| shadow.scale(by));
    }
}
