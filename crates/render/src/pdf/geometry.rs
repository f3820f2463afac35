//! Places and outlines for the PDF.

use crate::RenderError;
use kurbo::{Affine, BezPath, PathEl, Rect, Size};

/// A number that the PDF cannot hold.
fn unwritable() -> RenderError {
    RenderError::Encoding("a length is out of range".into())
}

pub(super) fn placed(by: Affine) -> krilla::geom::Transform {
    let [a, b, c, d, e, f] = by.as_coeffs().map(|v| v as f32);
    krilla::geom::Transform::from_row(a, b, c, d, e, f)
}

pub(super) fn rect(r: Rect) -> Result<krilla::geom::Rect, RenderError> {
    krilla::geom::Rect::from_ltrb(r.x0 as f32, r.y0 as f32, r.x1 as f32, r.y1 as f32).ok_or_else(unwritable)
}

pub(super) fn size(s: Size) -> Result<krilla::geom::Size, RenderError> {
    krilla::geom::Size::from_wh(s.width as f32, s.height as f32).ok_or_else(unwritable)
}

pub(super) fn rect_path(r: Rect) -> Result<krilla::geom::Path, RenderError> {
    let mut builder = krilla::geom::PathBuilder::new();
    builder.push_rect(rect(r)?);
    builder.finish().ok_or_else(unwritable)
}

/// An outline; None where there is nothing of it.
pub(super) fn path(outline: &BezPath) -> Option<krilla::geom::Path> {
    let mut builder = krilla::geom::PathBuilder::new();
    let f = |p: kurbo::Point| (p.x as f32, p.y as f32);
    for element in outline.elements() {
        match *element {
            PathEl::MoveTo(p) => builder.move_to(f(p).0, f(p).1),
            PathEl::LineTo(p) => builder.line_to(f(p).0, f(p).1),
            PathEl::QuadTo(a, p) => builder.quad_to(f(a).0, f(a).1, f(p).0, f(p).1),
            PathEl::CurveTo(a, b, p) => builder.cubic_to(f(a).0, f(a).1, f(b).0, f(b).1, f(p).0, f(p).1),
            PathEl::ClosePath => builder.close(),
        }
    }
    builder.finish()
}
