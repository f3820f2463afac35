//! Units in which people give sizes. Inside, every length is in millimetres.

use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Millimetres in an inch.
pub const MM_PER_INCH: f64 = 25.4;

/// A unit of length.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "lowercase")]
pub enum Unit {
    Mm,
    Cm,
    In,
    /// Pixels at the sheet's own resolution.
    Px,
}

impl Unit {
    /// Millimetres in one of this unit, on a sheet of `ppi` pixels per inch.
    ///
    /// ```
    /// use inky_core::sheet::Unit;
    /// assert_eq!(Unit::In.in_mm(150.0), 25.4);
    /// ```
    pub fn in_mm(self, ppi: f64) -> f64 {
        match self {
            Unit::Mm => 1.0,
            Unit::Cm => 10.0,
            Unit::In => MM_PER_INCH,
            Unit::Px => MM_PER_INCH / ppi,
        }
    }

    /// As it is written in documents.
    pub fn name(self) -> &'static str {
        match self {
            Unit::Mm => "mm",
            Unit::Cm => "cm",
            Unit::In => "in",
            Unit::Px => "px",
        }
    }

    /// The unit that is written so.
    pub fn named(name: &str) -> Option<Self> {
        [Unit::Mm, Unit::Cm, Unit::In, Unit::Px].into_iter().find(|unit| unit.name() == name)
    }
}
