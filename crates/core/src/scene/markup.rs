//! Writing SVG.

use kurbo::{Affine, BezPath, PathEl, Point};

/// A number as short as it can be with a ten-thousandth of precision: a tenth of a micrometre on the sheet.
pub fn number(v: f64) -> String {
    let mut out = String::new();
    push_number(&mut out, v);
    out
}

/// [`number`] at the end of `out`.
fn push_number(out: &mut String, v: f64) {
    let steps = (v * 1e4).round();
    if steps.is_nan() || steps.abs() >= 1e15 {
        out.push_str(&(steps / 1e4).to_string());
        return;
    }
    push_steps(out, steps as i64);
}

/// So many ten-thousandths, below 1e15 of them: a print has a hundred thousand such numbers, written anew with every step of a drag.
fn push_steps(out: &mut String, steps: i64) {
    // from the last digit to the first
    let mut digits = [0_u8; 24];
    let mut at = digits.len();
    let mut put = |byte: u8| {
        at -= 1;
        digits[at] = byte;
    };
    let (mut whole, mut part) = (steps.unsigned_abs() / 10_000, (steps.unsigned_abs() % 10_000) as u32);
    if part > 0 {
        let mut places = 4;
        while part % 10 == 0 {
            part /= 10;
            places -= 1;
        }
        for _ in 0..places {
            put(b'0' + (part % 10) as u8);
            part /= 10;
        }
        put(b'.');
    }
    loop {
        put(b'0' + (whole % 10) as u8);
        whole /= 10;
        if whole == 0 {
            break;
        }
    }
    if steps < 0 {
        put(b'-');
    }
    out.push_str(std::str::from_utf8(&digits[at..]).unwrap_or_default());
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

/// Path data that says where the path starts in absolute numbers, and all the rest in relative ones, so that a path that was only moved
/// differs in its first command alone. Rounding does not add up: each number is the difference of two that were rounded by themselves.
pub fn path_data_from_start(path: &BezPath) -> String {
    let Some(PathEl::MoveTo(origin)) = path.elements().first().copied() else {
        return String::new();
    };
    let mut d = format!("M{},{}", number(origin.x), number(origin.y));
    d.reserve(path.elements().len() * 28);
    // numbers that are not finite, or not of this world, become the nearest that can be written
    let step = |v: f64| (v * 1e4).round().clamp(-1e14, 1e14) as i64;
    let local = |p: Point| [step(p.x - origin.x), step(p.y - origin.y)];
    let (mut start, mut last) = ([0, 0], [0, 0]);
    let mut write = |command: char, points: &[Point], last: &mut [i64; 2]| {
        d.push(command);
        let from = *last;
        for (i, p) in points.iter().enumerate() {
            let at = local(*p);
            for k in 0..2 {
                let v = at[k] - from[k];
                // a minus sign parts numbers as well
                if i + k > 0 && v >= 0 {
                    d.push(' ');
                }
                push_steps(&mut d, v);
            }
            *last = at;
        }
    };
    for el in &path.elements()[1..] {
        match *el {
            PathEl::MoveTo(p) => {
                write('m', &[p], &mut last);
                start = last;
            }
            PathEl::LineTo(p) => write('l', &[p], &mut last),
            PathEl::QuadTo(a, p) => write('q', &[a, p], &mut last),
            PathEl::CurveTo(a, b, p) => write('c', &[a, b, p], &mut last),
            PathEl::ClosePath => {
                write('z', &[], &mut last);
                last = start;
            }
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
