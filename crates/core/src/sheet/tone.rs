//! The tone of a photo: changed for good in how it shows, never in the photo itself.

use super::Tint;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Changes to a photo's colours, each from -1 to 1 with 0 for none; then the print.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize, TS)]
pub struct Tone {
    #[serde(default)]
    pub brightness: f64,
    #[serde(default)]
    pub contrast: f64,
    /// -1 for grey.
    #[serde(default)]
    pub saturation: f64,
    /// Towards yellow and red; cooler below 0.
    #[serde(default)]
    pub warmth: f64,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub print: Option<Print>,
}

/// A photo printed with one ink or with two.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "inks", rename_all = "snake_case")]
pub enum Print {
    /// The darker the photo, the more ink; its lights stay white.
    One { dark: Tint },
    /// Shadows in one ink, lights in the other, mixed between them.
    Two { dark: Tint, light: Tint },
}

impl Tone {
    pub(super) fn is_plain(&self) -> bool {
        *self == Self::default()
    }
}
