//! Opaque sRGB colours, written `#rrggbb`.

use serde::{Deserialize, Serialize};
use std::{fmt, str::FromStr};
use ts_rs::TS;

/// An opaque sRGB colour. In JSON: `"#rrggbb"`.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(try_from = "String", into = "String")]
#[ts(type = "string")]
pub struct Colour(pub [u8; 3]);

/// A text that is no colour.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("“{0}” is no colour: write six hexadecimal digits after a #, as in #14213d.")]
pub struct ColourError(String);

impl Colour {
    /// The white of the sheet.
    pub const PAPER: Self = Self([0xff, 0xff, 0xff]);
    /// The blue-black with which new lettering is filled.
    pub const INK: Self = Self([0x14, 0x1b, 0x34]);
    /// The off-white with which new lettering is filled on dark sheets.
    pub const CREAM: Self = Self([0xfb, 0xf4, 0xe2]);

    /// [`Self::INK`] or [`Self::CREAM`], whichever stands out more from a ground.
    pub fn that_stands_out_from(ground: Self) -> Self {
        if ground.contrast(Self::INK) >= ground.contrast(Self::CREAM) { Self::INK } else { Self::CREAM }
    }

    /// The contrast ratio of two colours, 1 to 21 (WCAG 2.2).
    pub fn contrast(self, other: Self) -> f64 {
        let (a, b) = (self.luminance() + 0.05, other.luminance() + 0.05);
        a.max(b) / a.min(b)
    }

    /// Relative luminance, 0 to 1 (WCAG 2.2, after IEC 61966-2-1).
    pub fn luminance(self) -> f64 {
        let linear = |v: u8| {
            let v = f64::from(v) / 255.0;
            if v <= 0.04045 { v / 12.92 } else { ((v + 0.055) / 1.055).powf(2.4) }
        };
        let [r, g, b] = self.0.map(linear);
        0.2126 * r + 0.7152 * g + 0.0722 * b
    }
}

impl fmt::Display for Colour {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        let [r, g, b] = self.0;
        write!(f, "#{r:02x}{g:02x}{b:02x}")
    }
}

impl FromStr for Colour {
    type Err = ColourError;

    fn from_str(text: &str) -> Result<Self, ColourError> {
        let wrong = || ColourError(text.chars().take(40).collect());
        let digits = text.strip_prefix('#').ok_or_else(wrong)?;
        if digits.len() != 6 || !digits.bytes().all(|b| b.is_ascii_hexdigit()) {
            return Err(wrong());
        }
        let v = u32::from_str_radix(digits, 16).map_err(|_| wrong())?;
        Ok(Self([(v >> 16) as u8, (v >> 8) as u8, v as u8]))
    }
}

impl TryFrom<String> for Colour {
    type Error = ColourError;
    fn try_from(text: String) -> Result<Self, ColourError> {
        text.parse()
    }
}

impl From<Colour> for String {
    fn from(colour: Colour) -> Self {
        colour.to_string()
    }
}
