//! Nodes onto a canvas.

use super::canvas::Canvas;
use super::coverage::coverage;
use super::paints::{blend_of, gradient_brush, solid};
use super::pen::Pen;
use super::pixels::{image, pixels_of};
use super::prepared::Prepared;
use super::shadow::shadow;
use super::space::Space;
use inky_core::scene::tree::{Effect, Fragment, Group, Node, Paint, Pattern, Picture, Shadow, Shape};
use inky_core::sheet::Blend;
use kurbo::Affine;
use std::borrow::Cow;
use vello_cpu::peniko::{Extend, ImageQuality};
use vello_cpu::{PaintType, Pixmap};

/// Pixels of a pattern's cell at most: more are of no use to anybody.
const CELL: f64 = 16e6;
/// Pixels along a side of a cell at most.
const SIDE: f64 = 16_000.0;

/// Draws nodes onto one canvas.
pub(crate) struct Painter<'p> {
    prepared: &'p Prepared,
    pub pen: Pen,
}

impl<'p> Painter<'p> {
    /// A clear canvas.
    pub fn new(prepared: &'p Prepared, canvas: Canvas) -> Self {
        Self { prepared, pen: Pen::new(canvas, prepared.bleed) }
    }

    /// What was drawn.
    pub fn finish(self) -> Pixmap {
        self.pen.finish()
    }

    /// Draws all nodes of a fragment.
    pub fn fragment(&mut self, fragment: &Fragment, space: Space) {
        self.nodes(fragment, &fragment.nodes, space);
    }

    /// Draws nodes of a fragment, from back to front.
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

    fn group(&mut self, fragment: &Fragment, group: &Group, space: Space) {
        let all = &fragment.definitions;
        let clip = group.clip.map(|id| all.clip(id));
        let clip_bounds = clip.map(|c| c.transform.transform_rect_bbox(c.geometry.bounds(&fragment.opening)));
        let mask = group.mask.map(|id| all.mask(id));
        if clip_bounds.into_iter().chain(mask.map(|m| m.region)).any(|bounds| !self.pen.sees(bounds, space)) {
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
            self.pen.set_outline(space, *even_odd);
            self.pen.context.push_clip_path(path);
            self.nodes(fragment, &group.nodes, space);
            self.pen.context.pop_clip();
            return;
        }
        if !group.is_isolated() {
            self.nodes(fragment, &group.nodes, space);
            return;
        }
        let mask = match mask {
            None => None,
            Some(mask) => match coverage(&self.pen, fragment, mask, space) {
                Some(plane) => Some(plane.mask_of(self.pen.canvas)),
                None => return,
            },
        };
        if let (Some(Effect::Shadow(effect)), None, None) = (&group.effect, &path, &mask) {
            self.shadow(fragment, group, effect, space);
            return;
        }
        self.pen.set_outline(space, path.as_ref().is_some_and(|p| p.1));
        let opacity = group.opacity.get() as f32;
        self.pen.context.push_layer(
            path.as_ref().map(|p| &*p.0),
            Some(blend_of(group.blend)),
            Some(opacity),
            mask,
            None,
        );
        match &group.effect {
            Some(Effect::Shadow(effect)) => {
                let thrown = Group { effect: None, blend: Blend::Normal, ..Group::of(group.nodes.clone()) };
                self.shadow(fragment, &thrown, effect, space);
            }
            None => self.nodes(fragment, &group.nodes, space),
        }
        self.pen.context.pop_layer();
    }

    fn shape(&mut self, fragment: &Fragment, shape: &Shape, space: Space) {
        if let Some(paint) = &shape.fill
            && self.set_paint(fragment, paint, space)
        {
            self.pen.fill(fragment, &shape.geometry, space);
        }
        if let Some(stroke) = &shape.stroke
            && self.set_paint(fragment, &stroke.paint, space)
        {
            self.pen.stroke(fragment, &shape.geometry, &stroke.line, space);
        }
    }

    /// False where there is nothing to paint with.
    fn set_paint(&mut self, fragment: &Fragment, paint: &Paint, space: Space) -> bool {
        match self.brush_of(fragment, paint, space) {
            Some((brush, transform)) => {
                self.pen.context.set_paint(brush);
                self.pen.context.set_paint_transform(transform);
                true
            }
            None => false,
        }
    }

    /// A paint with the transform from its own space to that of what it paints. None where it paints nothing.
    fn brush_of(&self, fragment: &Fragment, paint: &Paint, space: Space) -> Option<(PaintType, Affine)> {
        let scale = self.pen.canvas.scale;
        match paint {
            Paint::Solid(swatch) => Some((solid(swatch.colour, 1.0), Affine::IDENTITY)),
            Paint::Gradient(id) => {
                let gradient = fragment.definitions.gradient(*id);
                Some((gradient_brush(gradient), gradient.transform))
            }
            Paint::Pattern(id) => {
                let pattern = fragment.definitions.pattern(*id);
                let within = space.within(pattern.transform);
                let pixels = match pattern.nodes.as_slice() {
                    // a picture that is repeated as it is needs no cell: it would be sampled twice
                    [Node::Picture(picture)]
                        if picture.transform == Affine::IDENTITY && picture.frame == pattern.cell.to_rect() =>
                    {
                        pixels_of(self.prepared, fragment, picture, within.scale, scale)?
                    }
                    _ => {
                        let unit = within.scale * scale;
                        let draw = || pattern_cell(self.prepared, fragment, pattern, within.scale, scale);
                        self.prepared.cells.cell(fragment, *id, unit, draw)?
                    }
                };
                let to_cell = Affine::scale_non_uniform(
                    pattern.cell.width / f64::from(pixels.width()),
                    pattern.cell.height / f64::from(pixels.height()),
                );
                Some((image(pixels, Extend::Repeat, ImageQuality::High), pattern.transform * to_cell))
            }
        }
    }

    /// The shadow of a group, in its place.
    fn shadow(&mut self, fragment: &Fragment, group: &Group, effect: &Shadow, space: Space) {
        let prepared = self.prepared;
        shadow(&mut self.pen, group, effect, space, |canvas, fallen| {
            let mut thrower = Painter::new(prepared, canvas);
            thrower.nodes(fragment, &group.nodes, fallen);
            thrower.finish()
        });
    }

    fn picture(&mut self, fragment: &Fragment, picture: &Picture, space: Space) {
        let space = space.within(picture.transform);
        if !self.pen.sees(picture.frame, space) {
            return;
        }
        let Some(pixels) = pixels_of(self.prepared, fragment, picture, space.scale, self.pen.canvas.scale) else {
            return;
        };
        let frame = picture.frame;
        let to_frame = Affine::translate(frame.origin().to_vec2())
            * Affine::scale_non_uniform(
                frame.width() / f64::from(pixels.width()),
                frame.height() / f64::from(pixels.height()),
            );
        self.pen.context.set_paint(image(pixels, Extend::Pad, ImageQuality::High));
        self.pen.context.set_paint_transform(to_frame);
        self.pen.set_outline(space, false);
        self.pen.context.fill_rect(&frame);
    }
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

/// One cell of a pattern. `unit` is millimetres of the sheet for one unit of the pattern's space, `scale` pixels for a millimetre. None where the cell
/// has no extent.
pub(crate) fn pattern_cell(
    prepared: &Prepared,
    fragment: &Fragment,
    pattern: &Pattern,
    unit: f64,
    scale: f64,
) -> Option<Pixmap> {
    let (w, h) = (pattern.cell.width * unit * scale, pattern.cell.height * unit * scale);
    if !(w > 0.0 && h > 0.0) {
        return None;
    }
    let smaller = (CELL / (w * h)).sqrt().min(SIDE / w).min(SIDE / h).min(1.0);
    let side = |v: f64| (v * smaller).round().max(1.0) as u16;
    let canvas = Canvas { scale: scale * smaller, origin: (0, 0), width: side(w), height: side(h) };
    let mut painter = Painter::new(prepared, canvas);
    // whole pixels: the cell is a little stretched
    let to_pixels = Affine::scale_non_uniform(
        f64::from(canvas.width) / pattern.cell.width,
        f64::from(canvas.height) / pattern.cell.height,
    );
    let to_sheet = canvas.of_sheet(prepared.bleed).inverse() * to_pixels;
    painter.nodes(fragment, &pattern.nodes, Space { to_sheet, scale: unit });
    Some(painter.finish())
}
