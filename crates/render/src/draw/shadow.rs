//! Shadows of groups.

use super::blur::{Precision, blurred};
use super::painter::{Painter, Space};
use super::paints::{blend_of, solid};
use super::plane::Plane;
use crate::pictures::mean_scale;
use inky_core::scene::tree::{Fragment, Group, Shadow};
use kurbo::Affine;

/// Draws the shadow of a group in place of the group, with the group's opacity and blend mode.
pub(super) fn shadow(painter: &mut Painter<'_>, fragment: &Fragment, group: &Group, shadow: &Shadow, space: Space) {
    let seen = painter.to_canvas(space).transform_rect_bbox(shadow.region);
    let Some(canvas) = painter.canvas.part(seen) else {
        return;
    };
    let plan = painter.plan;
    // where the group is drawn, its shadow has fallen already
    let fallen = space.within(Affine::translate(shadow.falls));
    let unit = mean_scale(space.to_sheet);
    let thrown = |canvas| {
        let mut inner = Painter::new(plan, canvas);
        inner.nodes(fragment, &group.nodes, fallen);
        let alpha = Plane::alpha(canvas, &inner.finish());
        if shadow.from_outside { alpha.map(|share| 1.0 - share) } else { alpha }
    };
    let wide = |canvas| {
        if shadow.spread.is_zero() {
            return thrown(canvas);
        }
        let spread = blurred(canvas, shadow.spread.mm() * unit, Precision::Steep, thrown);
        let (slope, intercept) = (Shadow::STEEP as f32, Shadow::intercept() as f32);
        spread.map(|share| (share * slope + intercept).clamp(0.0, 1.0))
    };
    let plane = blurred(canvas, shadow.blur.mm() * unit, Precision::Smooth, wide);
    let opacity = group.opacity.get() as f32;
    let mask = plane.mask_of(painter.canvas);
    painter.context.set_transform(Affine::IDENTITY);
    painter.context.push_layer(None, Some(blend_of(group.blend)), Some(opacity), Some(mask), None);
    painter.context.set_paint(solid(shadow.swatch.colour, shadow.opacity.get()));
    painter.context.set_paint_transform(Affine::IDENTITY);
    let all = painter.canvas.area();
    painter.context.fill_rect(&all);
    painter.context.pop_layer();
}
