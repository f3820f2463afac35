//! Paints and blend modes for the PDF.

use super::geometry::placed;
use inky_core::scene::tree::{Gradient, GradientAxis, Line, Share, Spread};
use inky_core::sheet::{Blend, Colour};
use krilla::blend::BlendMode;
use krilla::color::rgb;
use krilla::num::NormalizedF32;
use krilla::paint::{LineCap, LineJoin, LinearGradient, Paint, RadialGradient, SpreadMethod, Stop, Stroke, StrokeDash};

/// How often a radial gradient that goes on beyond its end is written out.
const ROUNDS: u32 = 16;

pub(super) fn colour(Colour([r, g, b]): Colour) -> rgb::Color {
    rgb::Color::new(r, g, b)
}

pub(super) fn share(value: Share) -> NormalizedF32 {
    NormalizedF32::new(value.get() as f32).unwrap_or(NormalizedF32::ONE)
}

pub(super) fn blend_of(blend: Blend) -> BlendMode {
    match blend {
        Blend::Normal => BlendMode::Normal,
        Blend::Multiply => BlendMode::Multiply,
        Blend::Screen => BlendMode::Screen,
        Blend::Overlay => BlendMode::Overlay,
        Blend::Darken => BlendMode::Darken,
        Blend::Lighten => BlendMode::Lighten,
        Blend::ColorDodge => BlendMode::ColorDodge,
        Blend::ColorBurn => BlendMode::ColorBurn,
        Blend::HardLight => BlendMode::HardLight,
        Blend::SoftLight => BlendMode::SoftLight,
        Blend::Difference => BlendMode::Difference,
        Blend::Exclusion => BlendMode::Exclusion,
        Blend::Hue => BlendMode::Hue,
        Blend::Saturation => BlendMode::Saturation,
        Blend::Color => BlendMode::Color,
        Blend::Luminosity => BlendMode::Luminosity,
    }
}

/// A gradient; its transform is to the space of what it paints.
pub(super) fn gradient(gradient: &Gradient) -> Paint {
    let stop = |offset: f64, of: &inky_core::scene::tree::GradientStop| Stop {
        offset: share(Share::new(offset)),
        color: colour(of.swatch.colour).into(),
        opacity: share(of.opacity),
    };
    let plain = || gradient.stops.iter().map(|s| stop(s.at.get(), s)).collect::<Vec<_>>();
    let transform = placed(gradient.transform);
    match gradient.axis {
        GradientAxis::Linear { from, to } => LinearGradient {
            x1: from.x as f32,
            y1: from.y as f32,
            x2: to.x as f32,
            y2: to.y as f32,
            transform,
            spread_method: match gradient.spread {
                Spread::Pad => SpreadMethod::Pad,
                Spread::Reflect => SpreadMethod::Reflect,
                Spread::Repeat => SpreadMethod::Repeat,
            },
            stops: plain(),
            anti_alias: false,
        }
        .into(),
        GradientAxis::Radial { centre, radius, focus } => {
            // a focus on the circle or outside of it is moved onto it (SVG 1.1, section 13.2.3)
            let off = focus - centre;
            let most = 0.999 * radius;
            let focus =
                if off.hypot() > most && off.hypot() > 0.0 { centre + off * (most / off.hypot()) } else { focus };
            // PDF has no word for one that goes on: the circle is made larger, and its colours are written again
            let rounds = if gradient.spread == Spread::Pad { 1 } else { ROUNDS };
            let stops = if rounds == 1 { plain() } else { repeated(gradient, rounds, stop) };
            let far = f64::from(rounds);
            let end = focus + (centre - focus) * far;
            RadialGradient {
                fx: focus.x as f32,
                fy: focus.y as f32,
                fr: 0.0,
                cx: end.x as f32,
                cy: end.y as f32,
                cr: (radius * far) as f32,
                transform,
                spread_method: SpreadMethod::Pad,
                stops,
                anti_alias: false,
            }
            .into()
        }
    }
}

/// The stops of a gradient so often one after the other.
fn repeated(
    gradient: &Gradient,
    rounds: u32,
    stop: impl Fn(f64, &inky_core::scene::tree::GradientStop) -> Stop,
) -> Vec<Stop> {
    let mut all = Vec::new();
    for round in 0..rounds {
        let back = gradient.spread == Spread::Reflect && round % 2 == 1;
        let mut each: Vec<_> = gradient.stops.iter().map(|s| (s.at.get(), s)).collect();
        if back {
            each = each.into_iter().rev().map(|(at, s)| (1.0 - at, s)).collect();
        }
        all.extend(each.into_iter().map(|(at, s)| stop((f64::from(round) + at) / f64::from(rounds), s)));
    }
    all
}

/// A line that is painted so.
pub(super) fn stroke(line: &Line, paint: Paint) -> Stroke {
    Stroke {
        paint,
        width: line.width.mm() as f32,
        miter_limit: 4.0,
        line_cap: if line.round { LineCap::Round } else { LineCap::Butt },
        line_join: if line.round { LineJoin::Round } else { LineJoin::Miter },
        opacity: NormalizedF32::ONE,
        dash: (!line.dashes.is_empty())
            .then(|| StrokeDash { array: line.dashes.iter().map(|d| d.mm() as f32).collect(), offset: 0.0 }),
    }
}
