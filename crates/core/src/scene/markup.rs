//! Writing SVG.

use kurbo::{Affine, BezPath, PathEl, Point};

/// A number as short as it can be with a ten-thousandth of precision: a tenth of a micrometre on the sheet.
pub fn number(v: f64) -> String {
    let mut out = String::new();
    push_number(&mut out, v);
    out
}

/// [`number`] at the end of `out`: a print has a hundred thousand of them, drawn anew with every step of a drag.
fn push_number(out: &mut String, v: f64) {
    let steps = (v * 1e4).round();
    if steps.is_nan() || steps.abs() >= 1e15 {
        out.push_str(&(steps / 1e4).to_string());
        return;
    }
    let steps = steps as i64;
    if steps < 0 {
        out.push('-');
    }
    let (whole, mut part) = (steps.unsigned_abs() / 10_000, steps.unsigned_abs() % 10_000);
    out.push_str(itoa::Buffer::new().format(whole));
    if part == 0 {
        return;
    }
    out.push('.');
    let mut unit = 1_000;
    while part > 0 {
        out.push(char::from(b'0' + (part / unit) as u8));
        part %= unit;
        unit /= 10;
    }
}

/// Path data (SVG 1.1, section 8.3) in absolute commands.
pub fn path_data(path: &BezPath) -> String {
    let mut d = String::with_capacity(path.elements().len() * 48);
    let mut write = |command: char, points: &[Point]| {
        d.push(command);
        for (i, p) in points.iter().enumerate() {
            if i > 0 {
                d.push(' ');
            }
            push_number(&mut d, p.x);
            d.push(',');
            push_number(&mut d, p.y);
        }
    };
    for el in path.elements() {
        match *el {
            PathEl::MoveTo(p) => write('M', &[p]),
            PathEl::LineTo(p) => write('L', &[p]),
            PathEl::QuadTo(a, p) => write('Q', &[a, p]),
            PathEl::CurveTo(a, b, p) => write('C', &[a, b, p]),
            PathEl::ClosePath => write('Z', &[]),
        }
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
pub fn escape(text: &str) -> String {
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
