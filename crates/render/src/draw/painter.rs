//! Nodes onto a canvas.

use super::canvas::Canvas;
use super::coverage::coverage;
use super::paints::{blend_of, brush_of, solid};
use super::shadow::shadow;
use crate::pictures::mean_scale;
use crate::plan::Plan;
use inky_core::scene::tree::{Effect, Fragment, Geometry, Group, Line, Node, Paint, Picture, Shape};
use inky_core::sheet::{Blend, Colour};
use kurbo::{Affine, BezPath, Rect};
use std::borrow::Cow;
use std::sync::Arc;
use vello_cpu::peniko::{Extend, Fill, ImageBrush, ImageQuality, ImageSampler};
use vello_cpu::{Level, Pixmap, RenderContext, RenderSettings, Resources};

/// Where a node lies.
#[derive(Clone, Copy)]
pub(super) struct Space {
    /// To the sheet, in millimetres.
    pub to_sheet: Affine,
    /// Millimetres of the sheet for one unit: what pictures were prepared for.
    pub scale: f64,
}

impl Space {
    pub fn sheet() -> Self {
        Self { to_sheet: Affine::IDENTITY, scale: 1.0 }
    }

    pub fn within(self, transform: Affine) -> Self {
        Self { to_sheet: self.to_sheet * transform, scale: self.scale * mean_scale(transform) }
    }
}

/// Draws onto one canvas.
pub(crate) struct Painter<'p> {
    pub plan: &'p Plan,
    pub canvas: Canvas,
    pub context: RenderContext,
    of_sheet: Affine,
}

impl<'p> Painter<'p> {
    /// A clear canvas.
    pub fn new(plan: &'p Plan, canvas: Canvas) -> Self {
        let settings = RenderSettings { level: Level::try_detect().unwrap_or(Level::baseline()), num_threads: 0 };
        let context = RenderContext::new_with(canvas.width, canvas.height, settings);
        Self { plan, canvas, context, of_sheet: canvas.of_sheet(plan.bleed) }
    }

    pub fn finish(self) -> Pixmap {
        let mut pixels = Pixmap::new(self.canvas.width, self.canvas.height);
        // in floats: whole steps of 1/255 add up where several layers lie over one another
        self.context.render(&mut pixels, &mut Resources::new());
        pixels
    }

    pub fn ground(&mut self, colour: Colour) {
        self.context.set_transform(Affine::IDENTITY);
        self.context.set_paint(solid(colour, 1.0));
        self.context.fill_rect(&self.canvas.area());
    }

    pub fn fragment(&mut self, fragment: &Fragment, space: Space) {
        self.nodes(fragment, &fragment.nodes, space);
    }

    pub fn nodes(&mut self, fragment: &Fragment, nodes: &[Node], space: Space) {
        for node in nodes {
            match node {
                Node::Group(group) => self.group(fragment, group, space.within(group.transform)),
                Node::Shape(shape) => self.shape(fragment, shape, space),
                Node::Picture(picture) => self.picture(fragment, picture, space),
                Node::Reuse(reuse) => self.fragment(&reuse.fragment, space.within(reuse.transform)),
            }
        }
    }

    /// From a space to the canvas.
    pub fn to_canvas(&self, space: Space) -> Affine {
        self.of_sheet * space.to_sheet
    }

    /// Whether anything in a rectangle of a space can be seen.
    fn sees(&self, rect: Rect, space: Space) -> bool {
        let there = self.to_canvas(space).transform_rect_bbox(rect).inflate(1.0, 1.0);
        there.overlaps(self.canvas.area())
    }

    fn group(&mut self, fragment: &Fragment, group: &Group, space: Space) {
        let all = &fragment.definitions;
        let clip = group.clip.map(|id| all.clip(id));
        let clip_bounds = clip.map(|c| c.transform.transform_rect_bbox(c.geometry.bounds(&fragment.opening)));
        let mask = group.mask.map(|id| all.mask(id));
        if clip_bounds.into_iter().chain(mask.map(|m| m.region)).any(|bounds| !self.sees(bounds, space)) {
            return;
        }
        let path = clip.map(|c| {
            let outline = c.geometry.outline(&fragment.opening);
            let placed = if c.transform == Affine::IDENTITY { outline } else { Cow::Owned(c.transform * &*outline) };
            (placed, c.geometry.even_odd())
        });
        let alone = group.mask.is_none() && group.opacity.is_whole() && group.blend == Blend::Normal;
        if let (Some((path, even_odd)), true, true, None) = (&path, alone, is_one(&group.nodes), &group.effect) {
            // one thing that is clipped needs no picture of its own
            self.set_outline(space, *even_odd);
            self.context.push_clip_path(path);
            self.nodes(fragment, &group.nodes, space);
            self.context.pop_clip();
            return;
        }
        if !group.is_isolated() {
            self.nodes(fragment, &group.nodes, space);
            return;
        }
        let mask = match mask {
            None => None,
            Some(mask) => match coverage(self, fragment, mask, space) {
                Some(plane) => Some(plane.mask_of(self.canvas)),
                None => return,
            },
        };
        if let (Some(Effect::Shadow(effect)), None, None) = (&group.effect, &path, &mask) {
            shadow(self, fragment, group, effect, space);
            return;
        }
        self.set_outline(space, path.as_ref().is_some_and(|p| p.1));
        let opacity = group.opacity.get() as f32;
        self.context.push_layer(path.as_ref().map(|p| &*p.0), Some(blend_of(group.blend)), Some(opacity), mask, None);
        match &group.effect {
            Some(Effect::Shadow(effect)) => {
                let thrown = Group { effect: None, blend: Blend::Normal, ..Group::of(group.nodes.clone()) };
                shadow(self, fragment, &thrown, effect, space);
            }
            None => self.nodes(fragment, &group.nodes, space),
        }
        self.context.pop_layer();
    }

    fn set_outline(&mut self, space: Space, even_odd: bool) {
        self.context.set_transform(self.to_canvas(space));
        self.context.set_fill_rule(if even_odd { Fill::EvenOdd } else { Fill::NonZero });
    }

    fn shape(&mut self, fragment: &Fragment, shape: &Shape, space: Space) {
        if let Some(paint) = &shape.fill
            && self.set_paint(fragment, paint, space)
        {
            self.fill(fragment, &shape.geometry, space);
        }
        if let Some(stroke) = &shape.stroke
            && self.set_paint(fragment, &stroke.paint, space)
        {
            self.stroke(fragment, &shape.geometry, &stroke.line, space);
        }
    }

    /// Fills an outline with the present paint.
    pub fn fill(&mut self, fragment: &Fragment, geometry: &Geometry, space: Space) {
        if !self.sees(geometry.bounds(&fragment.opening), space) {
            return;
        }
        self.set_outline(space, geometry.even_odd());
        match geometry {
            Geometry::Rect(rect) => self.context.fill_rect(rect),
            other => self.context.fill_path(&other.outline(&fragment.opening)),
        }
    }

    /// Draws a line along an outline with the present paint.
    pub fn stroke(&mut self, fragment: &Fragment, geometry: &Geometry, line: &Line, space: Space) {
        // a mitre reaches four times as far as half the line is wide
        let far = 2.0 * line.width.mm();
        if line.width.is_zero() || !self.sees(geometry.bounds(&fragment.opening).inflate(far, far), space) {
            return;
        }
        self.set_outline(space, false);
        self.context.set_stroke(line.to_kurbo());
        let outline: Cow<'_, BezPath> = geometry.outline(&fragment.opening);
        self.context.stroke_path(&outline);
    }

    /// False where there is nothing to paint with.
    fn set_paint(&mut self, fragment: &Fragment, paint: &Paint, space: Space) -> bool {
        match brush_of(self.plan, fragment, paint, space, self.canvas.scale) {
            Some((brush, transform)) => {
                self.context.set_paint(brush);
                self.context.set_paint_transform(transform);
                true
            }
            None => false,
        }
    }

    fn picture(&mut self, fragment: &Fragment, picture: &Picture, space: Space) {
        let space = space.within(picture.transform);
        if !self.sees(picture.frame, space) {
            return;
        }
        let Some(pixels) = pixels_of(self.plan, fragment, picture, space.scale, self.canvas.scale) else {
            return;
        };
        let frame = picture.frame;
        let to_frame = Affine::translate(frame.origin().to_vec2())
            * Affine::scale_non_uniform(
                frame.width() / f64::from(pixels.width()),
                frame.height() / f64::from(pixels.height()),
            );
        self.context.set_paint(image(pixels, Extend::Pad, ImageQuality::High));
        self.context.set_paint_transform(to_frame);
        self.set_outline(space, false);
        self.context.fill_rect(&frame);
    }
}

/// A picture no finer than it is drawn, give or take a factor of two. `scale` is millimetres of the sheet for one unit of its space,
/// `density` pixels for a millimetre.
pub(super) fn pixels_of(
    plan: &Plan,
    fragment: &Fragment,
    picture: &Picture,
    scale: f64,
    density: f64,
) -> Option<Arc<Pixmap>> {
    let tone = picture.tone.map(|id| fragment.definitions.tone(id));
    let levels = plan.pictures.get(&picture.source, tone, scale)?;
    let finest = levels.halved(0);
    // pixels of the picture for one of the canvas
    let ratio = f64::from(finest.width()) / (picture.frame.width() * scale * density);
    Some(if ratio >= 2.0 { levels.halved(ratio.log2() as usize) } else { finest })
}

pub(super) fn image(pixels: Arc<Pixmap>, extend: Extend, quality: ImageQuality) -> vello_cpu::PaintType {
    let sampler = ImageSampler { x_extend: extend, y_extend: extend, quality, alpha: 1.0 };
    ImageBrush { image: vello_cpu::ImageSource::Pixmap(pixels), sampler }.into()
}

/// Whether nodes draw one thing that mixes with nothing else.
fn is_one(nodes: &[Node]) -> bool {
    match nodes {
        [Node::Picture(_)] => true,
        [Node::Shape(shape)] => shape.fill.is_none() || shape.stroke.is_none(),
        // the clip is put to each thing that is drawn, not to a picture of several
        [Node::Group(group)] => !group.is_isolated() && is_one(&group.nodes),
        _ => false,
    }
}
