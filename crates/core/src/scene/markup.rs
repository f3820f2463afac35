//! Writing SVG.

use kurbo::{Affine, BezPath, PathEl, Point};
use std::fmt::Write;

/// A number as short as it can be with a ten-thousandth of precision: a tenth of a micrometre on the sheet.
pub(super) fn number(v: f64) -> String {
    let rounded = (v * 1e4).round() / 1e4;
    if rounded == 0.0 { "0".into() } else { rounded.to_string() }
}

/// Path data (SVG 1.1, section 8.3) in absolute commands.
pub fn path_data(path: &BezPath) -> String {
    let mut d = String::with_capacity(path.elements().len() * 24);
    let pair = |p: Point| format!("{},{}", number(p.x), number(p.y));
    for el in path.elements() {
        // writing to a string cannot fail
        let _ = match *el {
            PathEl::MoveTo(p) => write!(d, "M{}", pair(p)),
            PathEl::LineTo(p) => write!(d, "L{}", pair(p)),
            PathEl::QuadTo(a, p) => write!(d, "Q{} {}", pair(a), pair(p)),
            PathEl::CurveTo(a, b, p) => write!(d, "C{} {} {}", pair(a), pair(b), pair(p)),
            PathEl::ClosePath => write!(d, "Z"),
        };
    }
    d
}

/// The value of a `transform` attribute. Scale and turn keep more digits than lengths do: a photo has thousands of pixels.
pub(super) fn matrix(a: Affine) -> String {
    let [a, b, c, d, e, f] = a.as_coeffs();
    let fine = |v: f64| ((v * 1e9).round() / 1e9).to_string();
    format!("matrix({} {} {} {} {} {})", fine(a), fine(b), fine(c), fine(d), number(e), number(f))
}

/// Text for element content and for double-quoted attributes; characters that XML 1.0 does not allow are left out.
pub(super) fn escape(text: &str) -> String {
    let mut out = String::with_capacity(text.len());
    for c in text.chars() {
        match c {
            '&' => out.push_str("&amp;"),
            '<' => out.push_str("&lt;"),
            '>' => out.push_str("&gt;"),
            '"' => out.push_str("&quot;"),
            '\t' | '\n' | '\r' => out.push(' '),
            c if c < ' ' || matches!(c, '\u{fffe}' | '\u{ffff}') => {}
            c => out.push(c),
        }
    }
    out
}
