//! The tone of a photo as an SVG filter (Filter Effects Module Level 1), so that it shows at once and never touches the photo.

use super::markup::number;
use super::paint::Definitions;
use crate::sheet::{Colour, Print, Tone};

/// Relative luminance of gamma-encoded sRGB, as the `saturate` matrix of Filter Effects has it.
const LUMA: [f64; 3] = [0.2126, 0.7152, 0.0722];

/// The attribute that gives a photo its tone, with the filter defined; nothing for a photo as it is.
///
/// Colours are computed in sRGB: brightness as a power, which leaves black and white where they are, contrast about middle grey,
/// saturation about the luminance, warmth as a balance of red and blue, and at last the print.
pub(super) fn tone_filter(tone: &Tone, definitions: &mut Definitions<'_>) -> String {
    let mut steps = String::new();
    if tone.brightness != 0.0 {
        steps.push_str(&transfer(|_| {
            format!("type=\"gamma\" exponent=\"{}\"", number(2f64.powf(-1.5 * tone.brightness)))
        }));
    }
    if tone.contrast != 0.0 {
        let slope = if tone.contrast < 0.0 { 1.0 + tone.contrast } else { 1.0 + 3.0 * tone.contrast };
        let intercept = number(0.5 - 0.5 * slope);
        steps.push_str(&transfer(|_| format!("type=\"linear\" slope=\"{}\" intercept=\"{intercept}\"", number(slope))));
    }
    if tone.saturation != 0.0 {
        let amount = if tone.saturation < 0.0 { 1.0 + tone.saturation } else { 1.0 + 2.0 * tone.saturation };
        steps.push_str(&matrix(std::array::from_fn(|row| {
            std::array::from_fn(|column| {
                let own = if row == column { amount } else { 0.0 };
                LUMA[column] * (1.0 - amount) + own
            })
        })));
    }
    if tone.warmth != 0.0 {
        let gains = [1.0 + 0.25 * tone.warmth, 1.0 + 0.05 * tone.warmth, 1.0 - 0.35 * tone.warmth];
        steps.push_str(&transfer(|channel| format!("type=\"linear\" slope=\"{}\"", number(gains[channel]))));
    }
    if let Some(print) = &tone.print {
        let (dark, light) = match print {
            Print::One { dark } => (definitions.sheet.colour(dark), Colour::PAPER),
            Print::Two { dark, light } => (definitions.sheet.colour(dark), definitions.sheet.colour(light)),
        };
        steps.push_str(&matrix([LUMA; 3]));
        let share = |c: Colour, channel: usize| number(f64::from(c.0[channel]) / 255.0);
        steps.push_str(&transfer(|c| format!("type=\"table\" tableValues=\"{} {}\"", share(dark, c), share(light, c))));
    }
    if steps.is_empty() {
        return String::new();
    }
    let id = definitions.next("tone");
    definitions.markup.push_str(&format!(
        "<filter id=\"{id}\" x=\"0\" y=\"0\" width=\"1\" height=\"1\" color-interpolation-filters=\"sRGB\">{steps}</filter>"
    ));
    format!(" filter=\"url(#{id})\"")
}

fn transfer(function: impl Fn(usize) -> String) -> String {
    let [r, g, b] = [0, 1, 2].map(function);
    format!("<feComponentTransfer><feFuncR {r}/><feFuncG {g}/><feFuncB {b}/></feComponentTransfer>")
}

/// A matrix of three colours; alpha stays.
fn matrix(rows: [[f64; 3]; 3]) -> String {
    let rows: Vec<String> =
        rows.iter().map(|[r, g, b]| format!("{} {} {} 0 0", number(*r), number(*g), number(*b))).collect();
    format!("<feColorMatrix type=\"matrix\" values=\"{} 0 0 0 1 0\"/>", rows.join(" "))
}
