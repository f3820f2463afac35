//! Gaussian blurs.

use super::canvas::Canvas;
use super::plane::Plane;

/// Standard deviations, in pixels, with which blurs are computed: wider ones on pixels that are as much larger.
const DEVIATION: f64 = 3.0;
/// The same for a blur whose edge is made steep afterwards.
const FINE_DEVIATION: f64 = 12.0;
/// Beyond so many standard deviations there is nothing more.
const REACH: f64 = 3.0;

/// How exactly a blur has to be computed.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(super) enum Precision {
    /// It is seen as it is.
    Smooth,
    /// Its edge is made steep.
    Steep,
}

/// What `source` gives on a canvas, blurred by a Gaussian with a standard deviation in millimetres of the sheet.
///
/// It is asked for on a larger canvas, as the blur looks at what is around, and on a coarser one where the blur is wide.
pub(super) fn blurred(
    canvas: Canvas,
    deviation: f64,
    precision: Precision,
    source: impl FnOnce(Canvas) -> Plane,
) -> Plane {
    let pixels = deviation * canvas.scale;
    if pixels.is_nan() || pixels <= 0.05 {
        return source(canvas);
    }
    let wanted = if precision == Precision::Steep { FINE_DEVIATION } else { DEVIATION };
    let factor = (pixels / wanted).floor().clamp(1.0, 16_000.0);
    // larger pixels blur by themselves, as boxes, and once more where they are spread over the smaller ones between them, as triangles
    let spread = if factor > 1.0 { 1.0 / 12.0 + 1.0 / 6.0 } else { 0.0 };
    let coarse = ((pixels / factor).powi(2) - spread).max(0.01).sqrt();
    let kernel = kernel(coarse);
    let around = kernel.len() / 2 + usize::from(factor > 1.0);
    let drawn = source(canvas.coarser(factor as u16, around as u16));
    spread_out(&convolved(drawn, &kernel), factor as u16, canvas)
}

/// A Gaussian, cut off and with a sum of 1.
fn kernel(deviation: f64) -> Vec<f32> {
    let reach = (REACH * deviation).ceil().max(1.0) as i64;
    let weights: Vec<f64> = (-reach..=reach).map(|k| (-0.5 * (k as f64 / deviation).powi(2)).exp()).collect();
    let sum: f64 = weights.iter().sum();
    weights.into_iter().map(|w| (w / sum) as f32).collect()
}

/// Along rows, then along columns. There is nothing around the plane.
fn convolved(mut plane: Plane, kernel: &[f32]) -> Plane {
    let width = usize::from(plane.canvas.width);
    let reach = kernel.len() / 2;
    let mut padded = vec![0.0; width + 2 * reach];
    for row in plane.shares.chunks_exact_mut(width) {
        padded[reach..reach + width].copy_from_slice(row);
        row.fill(0.0);
        for (k, weight) in kernel.iter().enumerate() {
            row.iter_mut().zip(&padded[k..]).for_each(|(out, v)| *out += weight * v);
        }
    }
    let height = usize::from(plane.canvas.height);
    let mut out = vec![0.0; plane.shares.len()];
    for (y, row) in out.chunks_exact_mut(width).enumerate() {
        for (k, weight) in kernel.iter().enumerate() {
            let Some(from) = (y + k).checked_sub(reach).filter(|from| *from < height) else {
                continue;
            };
            let source = &plane.shares[from * width..][..width];
            row.iter_mut().zip(source).for_each(|(out, v)| *out += weight * v);
        }
    }
    plane.shares = out;
    plane
}

/// A plane of pixels `factor` times as large, on a canvas that lies in it: between the middles of the large pixels shares run evenly.
fn spread_out(coarse: &Plane, factor: u16, canvas: Canvas) -> Plane {
    // for each small pixel the two large ones it lies between, and how near to the second
    let along = |origin: i64, length: u16, coarse_origin: i64, coarse_length: u16| -> Vec<(usize, usize, f32)> {
        let last = usize::from(coarse_length) - 1;
        let place = |k: u16| {
            let at = ((origin + i64::from(k)) as f64 + 0.5) / f64::from(factor) - 0.5 - coarse_origin as f64;
            let first = (at.floor().max(0.0) as usize).min(last);
            (first, (first + 1).min(last), (at - first as f64).clamp(0.0, 1.0) as f32)
        };
        (0..length).map(place).collect()
    };
    let of = coarse.canvas;
    let columns = along(canvas.origin.0, canvas.width, of.origin.0, of.width);
    let rows = along(canvas.origin.1, canvas.height, of.origin.1, of.height);
    let width = usize::from(of.width);
    let mut plane = Plane::nothing(canvas);
    let mut between = vec![0.0; width];
    for (out, (first, second, share)) in plane.shares.chunks_exact_mut(canvas.width.into()).zip(rows) {
        let (a, b) = (&coarse.shares[first * width..][..width], &coarse.shares[second * width..][..width]);
        between.iter_mut().zip(a.iter().zip(b)).for_each(|(out, (a, b))| *out = a + (b - a) * share);
        for (out, (first, second, share)) in out.iter_mut().zip(&columns) {
            let (a, b) = (between[*first], between[*second]);
            *out = a + (b - a) * share;
        }
    }
    plane
}
