//! Masks as shares of pixels.

use super::blur::{Precision, blurred};
use super::canvas::Canvas;
use super::paints::solid;
use super::pen::Pen;
use super::plane::Plane;
use super::space::Space;
use crate::pictures::mean_scale;
use inky_core::scene::tree::{Coverage, Fragment, Geometry, Mask};
use inky_core::sheet::Colour;
use kurbo::{Affine, Rect};

/// What a mask lets through of the pen's canvas; None where that is nothing.
pub(crate) fn coverage(pen: &Pen, fragment: &Fragment, mask: &Mask, space: Space) -> Option<Plane> {
    let seen = pen.to_canvas(space).transform_rect_bbox(mask.region);
    let canvas = pen.canvas.part(seen)?;
    let shares = Shares { bleed: pen.bleed, fragment, region: mask.region, space };
    let plane = shares.of(&mask.coverage, canvas);
    // nothing is seen beyond the region, to a part of a pixel
    let edge = shares.drawn(canvas, |pen| pen.fill(fragment, &Geometry::Rect(mask.region), space));
    Some(plane.with(&edge, |share, inside| share * inside))
}

struct Shares<'a> {
    bleed: f64,
    fragment: &'a Fragment,
    region: Rect,
    space: Space,
}

impl Shares<'_> {
    fn of(&self, coverage: &Coverage, canvas: Canvas) -> Plane {
        if is_drawn_at_once(coverage) {
            return self.drawn(canvas, |pen| self.draw(coverage, pen));
        }
        let both =
            |a: &Coverage, b: &Coverage, mix: fn(f32, f32) -> f32| self.of(a, canvas).with(&self.of(b, canvas), mix);
        match coverage {
            Coverage::Any { of, .. } => of
                .iter()
                .fold(Plane::nothing(canvas), |all, each| all.with(&self.of(each, canvas), |a, b| a + b - a * b)),
            Coverage::Without(a, b) => both(a, b, |a, b| a * (1.0 - b)),
            Coverage::Both(a, b) => both(a, b, |a, b| a * b),
            Coverage::OneOf(a, b) => both(a, b, |a, b| a + b - 2.0 * a * b),
            Coverage::Blurred(of, deviation) => {
                let deviation = deviation.mm() * mean_scale(self.space.to_sheet);
                blurred(canvas, deviation, Precision::Smooth, |canvas| self.of(of, canvas))
            }
            Coverage::Inside { .. } | Coverage::Along { .. } | Coverage::All => Plane::nothing(canvas),
        }
    }

    /// The alpha of what is drawn in one colour.
    fn drawn(&self, canvas: Canvas, draw: impl FnOnce(&mut Pen)) -> Plane {
        let mut pen = Pen::new(canvas, self.bleed);
        pen.context.set_paint(solid(Colour([255; 3]), 1.0));
        pen.context.set_paint_transform(Affine::IDENTITY);
        draw(&mut pen);
        Plane::alpha(canvas, &pen.finish())
    }

    fn draw(&self, coverage: &Coverage, pen: &mut Pen) {
        match coverage {
            Coverage::Inside { geometry, .. } => pen.fill(self.fragment, geometry, self.space),
            Coverage::Along { geometry, line, .. } => pen.stroke(self.fragment, geometry, line, self.space),
            Coverage::All => pen.fill(self.fragment, &Geometry::Rect(self.region), self.space),
            Coverage::Any { of, .. } => of.iter().for_each(|each| self.draw(each, pen)),
            Coverage::Without(..) | Coverage::Both(..) | Coverage::OneOf(..) | Coverage::Blurred(..) => {}
        }
    }
}

/// Whether a coverage is what several outlines give that are drawn one over the other.
pub(crate) fn is_drawn_at_once(coverage: &Coverage) -> bool {
    match coverage {
        Coverage::Inside { .. } | Coverage::Along { .. } | Coverage::All => true,
        Coverage::Any { of, .. } => of.iter().all(is_drawn_at_once),
        Coverage::Without(..) | Coverage::Both(..) | Coverage::OneOf(..) | Coverage::Blurred(..) => false,
    }
}
