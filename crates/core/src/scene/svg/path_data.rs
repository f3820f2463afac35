//! Numbers and path data of SVG (SVG 1.1, section 8.3).

use kurbo::{Affine, BezPath, PathEl, Point, Rect};

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

/// A number with nine places: scales and turns, where a photo has thousands of pixels.
pub(super) fn fine_number(v: f64) -> String {
    ((v * 1e9).round() / 1e9).to_string()
}

/// Path data in absolute commands.
pub fn path_data(path: &BezPath) -> String {
    let mut d = String::with_capacity(path.elements().len() * 48);
    push_path(&mut d, path);
    d
}

/// [`path_data`] at the end of `d`.
pub(super) fn push_path(d: &mut String, path: &BezPath) {
    let mut write = |command: char, points: &[Point]| {
        d.push(command);
        for (i, p) in points.iter().enumerate() {
            if i > 0 {
                d.push(' ');
            }
            push_number(d, p.x);
            d.push(',');
            push_number(d, p.y);
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
}

/// A path that starts at a point, and goes on as relative path data says: a path that was only moved has the same data.
#[derive(Debug, Clone, PartialEq)]
pub struct MovablePath {
    pub x: f64,
    pub y: f64,
    /// Path data in relative commands that follows a `M` to the start.
    pub data: String,
}

impl MovablePath {
    /// Rounding does not add up: each number is the difference of two that were rounded by themselves. None for an empty path.
    pub fn of(path: &BezPath) -> Option<Self> {
        let Some(PathEl::MoveTo(origin)) = path.elements().first().copied() else {
            return None;
        };
        let mut d = String::with_capacity(path.elements().len() * 28);
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
        let rounded = |v: f64| (v * 1e4).round() / 1e4;
        Some(Self { x: rounded(origin.x), y: rounded(origin.y), data: d })
    }

    /// The whole as path data.
    pub fn path_data(&self) -> String {
        format!("M{},{}{}", number(self.x), number(self.y), self.data)
    }
}

/// A rectangle as path data.
pub(super) fn rect_data(r: Rect) -> String {
    let [x0, y0, x1, y1] = [r.x0, r.y0, r.x1, r.y1].map(number);
    format!("M{x0},{y0}L{x1},{y0}L{x1},{y1}L{x0},{y1}Z")
}

/// The value of a `transform` attribute.
pub fn matrix(a: Affine) -> String {
    let [a, b, c, d, e, f] = a.as_coeffs();
    let [a, b, c, d] = [a, b, c, d].map(fine_number);
    format!("matrix({a} {b} {c} {d} {} {})", number(e), number(f))
}
