//! Shadows of groups.

use super::blur::{Precision, blurred};
use super::canvas::Canvas;
use super::paints::{blend_of, solid};
use super::pen::Pen;
use super::plane::Plane;
use super::space::Space;
use crate::pictures::mean_scale;
use inky_core::scene::tree::{Group, Shadow};
use kurbo::Affine;
use vello_cpu::Pixmap;

/// Draws the shadow of a group in place of the group, with the group's opacity and blend mode. `throw` draws the group alone, in a space, onto a canvas.
pub(super) fn shadow(
    pen: &mut Pen,
    group: &Group,
    shadow: &Shadow,
    space: Space,
    throw: impl Fn(Canvas, Space) -> Pixmap,
) {
    let Some(plane) = thrown(pen, shadow, space, throw) else {
        return;
    };
    let opacity = group.opacity.get() as f32;
    let mask = plane.mask_of(pen.canvas);
    pen.context.set_transform(Affine::IDENTITY);
    pen.context.push_layer(None, Some(blend_of(group.blend)), Some(opacity), Some(mask), None);
    pen.context.set_paint(solid(shadow.swatch.colour, shadow.opacity.get()));
    pen.context.set_paint_transform(Affine::IDENTITY);
    let all = pen.canvas.area();
    pen.context.fill_rect(&all);
    pen.context.pop_layer();
}

/// How much of a shadow there is in every pixel of a part of the pen's canvas; None where it throws nothing onto it. `throw` draws what throws it, in
/// a space, onto a canvas.
pub(crate) fn thrown(
    pen: &Pen,
    shadow: &Shadow,
    space: Space,
    throw: impl Fn(Canvas, Space) -> Pixmap,
) -> Option<Plane> {
    let seen = pen.to_canvas(space).transform_rect_bbox(shadow.region);
    let canvas = pen.canvas.part(seen)?;
    // where the group is drawn, its shadow has fallen already
    let fallen = space.within(Affine::translate(shadow.falls));
    let unit = mean_scale(space.to_sheet);
    let whole = |canvas| {
        let alpha = Plane::alpha(canvas, &throw(canvas, fallen));
        if shadow.from_outside { alpha.map(|share| 1.0 - share) } else { alpha }
    };
    let wide = |canvas| {
        if shadow.spread.is_zero() {
            return whole(canvas);
        }
        let spread = blurred(canvas, shadow.spread.mm() * unit, Precision::Steep, whole);
        let (slope, intercept) = (Shadow::STEEP as f32, Shadow::intercept() as f32);
        spread.map(|share| (share * slope + intercept).clamp(0.0, 1.0))
    };
    Some(blurred(canvas, shadow.blur.mm() * unit, Precision::Smooth, wide))
}
