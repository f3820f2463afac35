//! Paints and blend modes for the renderer.

use super::canvas::Canvas;
use super::painter::{Painter, Space, image, pixels_of};
use crate::plan::Plan;
use inky_core::scene::tree::{Fragment, Gradient, GradientAxis, Node, Paint, Pattern, PatternId, Spread};
use inky_core::sheet::{Blend, Colour};
use kurbo::Affine;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};
use vello_cpu::peniko::color::{AlphaColor, Srgb};
use vello_cpu::peniko::{BlendMode, ColorStop, Compose, Extend, ImageQuality, InterpolationAlphaSpace, Mix};
use vello_cpu::{PaintType, Pixmap, peniko};

/// Pixels of a pattern's cell at most: more are of no use to anybody.
const CELL: f64 = 16e6;
/// Pixels along a side of a cell at most.
const SIDE: f64 = 16_000.0;

pub(super) fn solid(colour: Colour, opacity: f64) -> PaintType {
    AlphaColor::<Srgb>::new(components(colour, opacity)).into()
}

fn components(colour: Colour, opacity: f64) -> [f32; 4] {
    let [r, g, b] = colour.0.map(|v| f32::from(v) / 255.0);
    [r, g, b, opacity as f32]
}

pub(super) fn blend_of(blend: Blend) -> BlendMode {
    let mix = match blend {
        Blend::Normal => Mix::Normal,
        Blend::Multiply => Mix::Multiply,
        Blend::Screen => Mix::Screen,
        Blend::Overlay => Mix::Overlay,
        Blend::Darken => Mix::Darken,
        Blend::Lighten => Mix::Lighten,
        Blend::ColorDodge => Mix::ColorDodge,
        Blend::ColorBurn => Mix::ColorBurn,
        Blend::HardLight => Mix::HardLight,
        Blend::SoftLight => Mix::SoftLight,
        Blend::Difference => Mix::Difference,
        Blend::Exclusion => Mix::Exclusion,
        Blend::Hue => Mix::Hue,
        Blend::Saturation => Mix::Saturation,
        Blend::Color => Mix::Color,
        Blend::Luminosity => Mix::Luminosity,
    };
    BlendMode::new(mix, Compose::SrcOver)
}

/// A paint with the transform from its own space to that of what it paints. None where it paints nothing.
pub(super) fn brush_of(
    plan: &Plan,
    fragment: &Fragment,
    paint: &Paint,
    space: Space,
    scale: f64,
) -> Option<(PaintType, Affine)> {
    match paint {
        Paint::Solid(swatch) => Some((solid(swatch.colour, 1.0), Affine::IDENTITY)),
        Paint::Gradient(id) => {
            let gradient = fragment.definitions.gradient(*id);
            Some((brush(gradient), gradient.transform))
        }
        Paint::Pattern(id) => {
            let pattern = fragment.definitions.pattern(*id);
            let within = space.within(pattern.transform);
            let pixels = match pattern.nodes.as_slice() {
                // a picture that is repeated as it is needs no cell: it would be sampled twice
                [Node::Picture(picture)]
                    if picture.transform == Affine::IDENTITY && picture.frame == pattern.cell.to_rect() =>
                {
                    pixels_of(plan, fragment, picture, within.scale, scale)?
                }
                _ => plan.cells.cell(plan, fragment, *id, within.scale, scale)?,
            };
            let to_cell = Affine::scale_non_uniform(
                pattern.cell.width / f64::from(pixels.width()),
                pattern.cell.height / f64::from(pixels.height()),
            );
            Some((image(pixels, Extend::Repeat, ImageQuality::High), pattern.transform * to_cell))
        }
    }
}

fn brush(gradient: &Gradient) -> PaintType {
    let made = match gradient.axis {
        GradientAxis::Linear { from, to } => peniko::Gradient::new_linear(from, to),
        GradientAxis::Radial { centre, radius, focus } => {
            // a focus on the circle or outside of it is moved onto it (SVG 1.1, section 13.2.3)
            let off = focus - centre;
            let most = 0.999 * radius;
            let focus =
                if off.hypot() > most && off.hypot() > 0.0 { centre + off * (most / off.hypot()) } else { focus };
            peniko::Gradient::new_two_point_radial(focus, 0.0, centre, radius as f32)
        }
    };
    let extend = match gradient.spread {
        Spread::Pad => Extend::Pad,
        Spread::Reflect => Extend::Reflect,
        Spread::Repeat => Extend::Repeat,
    };
    let stops: Vec<ColorStop> = gradient
        .stops
        .iter()
        .map(|stop| {
            let colour = AlphaColor::<Srgb>::new(components(stop.swatch.colour, stop.opacity.get()));
            ColorStop { offset: stop.at.get() as f32, color: colour.into() }
        })
        .collect();
    let made = made.with_extend(extend).with_interpolation_alpha_space(InterpolationAlphaSpace::Unpremultiplied);
    made.with_stops(&stops[..]).into()
}

/// A pattern of a fragment, at a scale: the fragment's place in memory, its number, the bits of the scale.
type CellName = (usize, usize, u64);

/// The cells of patterns as pictures, each drawn once.
#[derive(Default)]
pub(crate) struct PatternCells(Mutex<HashMap<CellName, Arc<Pixmap>>>);

impl PatternCells {
    /// `unit` is millimetres of the sheet for one unit of the pattern's space, `scale` pixels for a millimetre. None where the cell has no
    /// extent.
    fn cell(&self, plan: &Plan, fragment: &Fragment, id: PatternId, unit: f64, scale: f64) -> Option<Arc<Pixmap>> {
        let pattern = fragment.definitions.pattern(id);
        let name = (std::ptr::from_ref(fragment) as usize, id.index(), (unit * scale).to_bits());
        let known = || self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(cell) = known().get(&name) {
            return Some(Arc::clone(cell));
        }
        let cell = Arc::new(drawn(plan, fragment, pattern, unit, scale)?);
        Some(Arc::clone(known().entry(name).or_insert(cell)))
    }
}

fn drawn(plan: &Plan, fragment: &Fragment, pattern: &Pattern, unit: f64, scale: f64) -> Option<Pixmap> {
    let (w, h) = (pattern.cell.width * unit * scale, pattern.cell.height * unit * scale);
    if !(w > 0.0 && h > 0.0) {
        return None;
    }
    let smaller = (CELL / (w * h)).sqrt().min(SIDE / w).min(SIDE / h).min(1.0);
    let side = |v: f64| (v * smaller).round().max(1.0) as u16;
    let canvas = Canvas { scale: scale * smaller, origin: (0, 0), width: side(w), height: side(h) };
    let mut painter = Painter::new(plan, canvas);
    // whole pixels: the cell is a little stretched
    let to_pixels = Affine::scale_non_uniform(
        f64::from(canvas.width) / pattern.cell.width,
        f64::from(canvas.height) / pattern.cell.height,
    );
    let to_sheet = canvas.of_sheet(plan.bleed).inverse() * to_pixels;
    painter.nodes(fragment, &pattern.nodes, Space { to_sheet, scale: unit });
    Some(painter.finish())
}
