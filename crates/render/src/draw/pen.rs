//! Outlines onto a canvas.

use super::canvas::Canvas;
use super::paints::solid;
use super::space::Space;
use inky_core::scene::tree::{Fragment, Geometry, Line};
use inky_core::sheet::Colour;
use kurbo::{Affine, BezPath, Rect};
use std::borrow::Cow;
use vello_cpu::peniko::Fill;
use vello_cpu::{Level, Pixmap, RenderContext, RenderSettings, Resources};

/// Draws outlines onto one canvas.
pub(crate) struct Pen {
    pub canvas: Canvas,
    pub context: RenderContext,
    /// Millimetres around the sheet.
    pub bleed: f64,
    of_sheet: Affine,
}

impl Pen {
    /// A clear canvas.
    pub fn new(canvas: Canvas, bleed: f64) -> Self {
        let settings = RenderSettings { level: Level::try_detect().unwrap_or(Level::baseline()), num_threads: 0 };
        let context = RenderContext::new_with(canvas.width, canvas.height, settings);
        Self { canvas, context, bleed, of_sheet: canvas.of_sheet(bleed) }
    }

    /// What was drawn.
    pub fn finish(self) -> Pixmap {
        let mut pixels = Pixmap::new(self.canvas.width, self.canvas.height);
        // in floats: whole steps of 1/255 add up where several layers lie over one another
        self.context.render(&mut pixels, &mut Resources::new());
        pixels
    }

    /// Fills the canvas.
    pub fn ground(&mut self, colour: Colour) {
        self.context.set_transform(Affine::IDENTITY);
        self.context.set_paint(solid(colour, 1.0));
        self.context.fill_rect(&self.canvas.area());
    }

    /// From a space to the canvas.
    pub fn to_canvas(&self, space: Space) -> Affine {
        self.of_sheet * space.to_sheet
    }

    /// Whether anything in a rectangle of a space can be seen.
    pub fn sees(&self, rect: Rect, space: Space) -> bool {
        let there = self.to_canvas(space).transform_rect_bbox(rect).inflate(1.0, 1.0);
        there.overlaps(self.canvas.area())
    }

    /// What is drawn next lies in this space, and is filled by this rule.
    pub fn set_outline(&mut self, space: Space, even_odd: bool) {
        self.context.set_transform(self.to_canvas(space));
        self.context.set_fill_rule(if even_odd { Fill::EvenOdd } else { Fill::NonZero });
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
}
