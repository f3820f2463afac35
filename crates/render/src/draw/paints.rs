//! Paints and blend modes for the renderer.

use inky_core::scene::tree::{Gradient, GradientAxis, Spread};
use inky_core::sheet::{Blend, Colour};
use vello_cpu::peniko::color::{AlphaColor, Srgb};
use vello_cpu::peniko::{BlendMode, ColorStop, Compose, Extend, InterpolationAlphaSpace, Mix};
use vello_cpu::{PaintType, peniko};

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

pub(super) fn gradient_brush(gradient: &Gradient) -> PaintType {
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
