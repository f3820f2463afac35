//! The tone of a photo as steps that change its colours, so that the photo itself is never touched.

use crate::scene::tree::{ToneCurve, ToneStep};
use crate::sheet::{Colour, Print, Sheet, Tone};

/// Relative luminance of gamma-encoded sRGB, as the `saturate` matrix of Filter Effects Module Level 1 has it.
const LUMA: [f64; 3] = [0.2126, 0.7152, 0.0722];

/// None for a photo as it is.
///
/// Colours are computed in sRGB: brightness as a power, which leaves black and white where they are, contrast about middle grey,
/// saturation about the luminance, warmth as a balance of red and blue, and at last the print.
pub(super) fn tone_curve(tone: &Tone, sheet: &Sheet) -> Option<ToneCurve> {
    let mut steps = Vec::new();
    if tone.brightness != 0.0 {
        steps.push(ToneStep::Power(2f64.powf(-1.5 * tone.brightness)));
    }
    if tone.contrast != 0.0 {
        let slope = if tone.contrast < 0.0 { 1.0 + tone.contrast } else { 1.0 + 3.0 * tone.contrast };
        steps.push(ToneStep::Linear { slopes: [slope; 3], intercept: 0.5 - 0.5 * slope });
    }
    if tone.saturation != 0.0 {
        let amount = if tone.saturation < 0.0 { 1.0 + tone.saturation } else { 1.0 + 2.0 * tone.saturation };
        let own = |row: usize, column: usize| if row == column { amount } else { 0.0 };
        steps.push(ToneStep::Mix(std::array::from_fn(|row| {
            std::array::from_fn(|column| LUMA[column] * (1.0 - amount) + own(row, column))
        })));
    }
    if tone.warmth != 0.0 {
        let slopes = [1.0 + 0.25 * tone.warmth, 1.0 + 0.05 * tone.warmth, 1.0 - 0.35 * tone.warmth];
        steps.push(ToneStep::Linear { slopes, intercept: 0.0 });
    }
    if let Some(print) = &tone.print {
        let (dark, light) = match print {
            Print::One { dark } => (sheet.colour(dark), Colour::PAPER),
            Print::Two { dark, light } => (sheet.colour(dark), sheet.colour(light)),
        };
        steps.push(ToneStep::Mix([LUMA; 3]));
        steps.push(ToneStep::Between(dark, light));
    }
    (!steps.is_empty()).then_some(ToneCurve { steps })
}
