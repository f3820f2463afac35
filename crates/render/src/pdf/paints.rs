//! Paints and blend modes for the PDF.

use super::geometry::placed;
use inky_core::scene::tree::{Gradient, GradientAxis, GradientStop, Line, Share, Spread, Swatch};
use inky_core::sheet::{Blend, Colour, InkId, SpotInk};
use krilla::blend::BlendMode;
use krilla::color::separation::{self, SeparationColorant, SeparationSpace};
use krilla::color::{Color, rgb};
use krilla::num::NormalizedF32;
use krilla::paint::{LineCap, LineJoin, LinearGradient, Paint, RadialGradient, SpreadMethod, Stop, Stroke, StrokeDash};
use std::collections::BTreeMap;

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

/// The inks that are printed as inks of their own, as colour spaces of the PDF.
pub(super) struct SpotColours {
    spaces: BTreeMap<InkId, SeparationSpace>,
}

impl SpotColours {
    /// Inks of several sheets that are called the same are one, if they have one colour.
    pub fn of<'a>(spots: impl IntoIterator<Item = &'a SpotInk>) -> Self {
        let mut called: BTreeMap<String, Colour> = BTreeMap::new();
        let mut spaces = BTreeMap::new();
        for spot in spots {
            let numbered = (2..).map(|n| format!("{} {n}", spot.name));
            let mut names = std::iter::once(spot.name.clone()).chain(numbered);
            let Some(name) = names.find(|name| called.get(name).is_none_or(|known| *known == spot.colour)) else {
                continue;
            };
            called.insert(name.clone(), spot.colour);
            let shown = colour(spot.colour).into();
            spaces.insert(spot.id, SeparationSpace::new(SeparationColorant::Custom(name), shown));
        }
        Self { spaces }
    }

    fn space(&self, swatch: Swatch) -> Option<&SeparationSpace> {
        self.spaces.get(&swatch.ink?)
    }

    /// A colour, in its own ink where it has one.
    pub fn colour(&self, swatch: Swatch) -> Color {
        match self.space(swatch) {
            Some(space) => separation::Color::new(255, space.clone()).into(),
            None => colour(swatch.colour).into(),
        }
    }

    /// The stops of a gradient. Between two inks a PDF has no gradient: if none runs into another, each has one of its own, which is clear where the
    /// others are. If some do, all are of process colours.
    fn parts(&self, stops: &[GradientStop]) -> Vec<Vec<GradientPoint>> {
        let space = |stop: &GradientStop| self.space(stop.swatch);
        let runs_together = stops.windows(2).any(|pair| space(&pair[0]) != space(&pair[1]) && pair[0].at != pair[1].at);
        if runs_together {
            let process = |stop: &GradientStop| point(stop, colour(stop.swatch.colour).into(), stop.opacity);
            return vec![stops.iter().map(process).collect()];
        }
        let mut inks: Vec<&GradientStop> = Vec::new();
        for stop in stops {
            if !inks.iter().any(|known| space(known) == space(stop)) {
                inks.push(stop);
            }
        }
        let of_ink = |ink: &&GradientStop| {
            let own = |stop: &GradientStop| match space(stop) == space(ink) {
                true => point(stop, self.colour(stop.swatch), stop.opacity),
                false => point(stop, self.colour(ink.swatch), Share::NONE),
            };
            stops.iter().map(own).collect()
        };
        inks.iter().map(of_ink).collect()
    }
}

/// A colour of a gradient at its place, in one of its inks.
#[derive(Clone)]
struct GradientPoint {
    at: f64,
    colour: Color,
    opacity: Share,
}

fn point(stop: &GradientStop, colour: Color, opacity: Share) -> GradientPoint {
    GradientPoint { at: stop.at.get(), colour, opacity }
}

/// A gradient, as paints that are laid over one another; their transform is to the space of what they paint.
pub(super) fn gradients(gradient: &Gradient, spots: &SpotColours) -> Vec<Paint> {
    spots.parts(&gradient.stops).iter().map(|points| of_points(gradient, points)).collect()
}

fn of_points(gradient: &Gradient, points: &[GradientPoint]) -> Paint {
    let plain = || points.iter().map(|p| stop(p.at, p)).collect::<Vec<_>>();
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
            let stops = if rounds == 1 { plain() } else { repeated(gradient.spread, points, rounds) };
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

fn stop(at: f64, of: &GradientPoint) -> Stop {
    Stop { offset: share(Share::new(at)), color: of.colour.clone(), opacity: share(of.opacity) }
}

/// The stops of a gradient so often one after the other.
fn repeated(spread: Spread, points: &[GradientPoint], rounds: u32) -> Vec<Stop> {
    let mut all = Vec::new();
    for round in 0..rounds {
        let back = spread == Spread::Reflect && round % 2 == 1;
        let mut each: Vec<_> = points.iter().map(|p| (p.at, p)).collect();
        if back {
            each = each.into_iter().rev().map(|(at, p)| (1.0 - at, p)).collect();
        }
        all.extend(each.into_iter().map(|(at, p)| stop((f64::from(round) + at) / f64::from(rounds), p)));
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
