//! What a sheet is held to.

use crate::sheet::{MM_PER_INCH, Sheet};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Millimetres in a typographic point.
const POINT: f64 = MM_PER_INCH / 72.0;
/// How far apart two lines have to be to be told apart: one minute of arc, what normal eyesight resolves (visual acuity 1.0 in ISO 8596).
const ACUITY: f64 = std::f64::consts::PI / 180.0 / 60.0;
/// A poster is looked at from so many of its diagonals away, where nobody says anything else.
const DIAGONALS: f64 = 1.5;
/// Nothing is looked at from nearer, in millimetres: reading distance.
const NEAREST: f64 = 300.0;
const FARTHEST: f64 = 20_000.0;

/// What a sheet is held to. Lengths are millimetres.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct ProofTerms {
    /// From how far it is looked at.
    pub distance: f64,
    /// What is not to be cut off stays so far from the cut.
    pub safe: f64,
    /// The thinnest line that the press can hold: 0.25 points.
    pub least_line: f64,
    /// The narrowest part of an opening that the press can hold.
    pub least_part: f64,
    /// The least size of type: the height of the em.
    pub least_type: f64,
    /// How far what is cut reaches beyond the cut.
    pub bleed: f64,
}

impl ProofTerms {
    /// What a print shop asks for; the distance follows from the size of the sheet.
    pub fn of(sheet: &Sheet) -> Self {
        let distance = (DIAGONALS * sheet.width.hypot(sheet.height)).clamp(NEAREST, FARTHEST);
        Self { distance, ..Self::default() }
    }

    /// The fewest pixels per inch with which no pixel is seen from that distance.
    pub fn least_ppi(&self) -> f64 {
        MM_PER_INCH / (self.distance * ACUITY.tan())
    }
}

impl Default for ProofTerms {
    fn default() -> Self {
        Self {
            distance: NEAREST,
            safe: 3.0,
            least_line: 0.25 * POINT,
            least_part: 0.15,
            least_type: 5.0 * POINT,
            bleed: 3.0,
        }
    }
}
