//! Places beside straight lines.

pub(crate) fn distance(p: [f64; 2], a: [f64; 2], b: [f64; 2]) -> f64 {
    let (ab, ap) = ([b[0] - a[0], b[1] - a[1]], [p[0] - a[0], p[1] - a[1]]);
    let length = ab[0] * ab[0] + ab[1] * ab[1];
    let along = if length > 0.0 { ((ap[0] * ab[0] + ap[1] * ab[1]) / length).clamp(0.0, 1.0) } else { 0.0 };
    (ap[0] - along * ab[0]).hypot(ap[1] - along * ab[1])
}
