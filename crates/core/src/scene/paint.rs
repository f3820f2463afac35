//! Paints as SVG.

use super::markup::number;
use crate::sheet::{Gradient, GradientWay, Mix, Paint, Sheet, Span};
use kurbo::Rect;

/// What one window's markup refers to by identifier, in the order in which it is defined.
pub(super) struct Definitions<'a> {
    pub sheet: &'a Sheet,
    /// Makes identifiers unique among the windows of a sheet.
    prefix: String,
    count: usize,
    pub markup: String,
}

impl<'a> Definitions<'a> {
    pub fn new(sheet: &'a Sheet, prefix: String) -> Self {
        Self { sheet, prefix, count: 0, markup: String::new() }
    }

    /// An identifier that nothing else has.
    pub fn next(&mut self, kind: &str) -> String {
        self.count += 1;
        format!("{kind}-{}-{}", self.prefix, self.count)
    }

    /// The value of a `fill` or `stroke` attribute. A gradient without a span of its own runs over `bounds` (sheet space): from the
    /// top to the bottom, or from the centre to the corners. `moves` marks what goes along with a drag (see the module's text).
    pub fn paint(&mut self, paint: &Paint, bounds: Rect, moves: &str) -> String {
        let (gradient, span) = match paint {
            Paint::Colour { colour } => return colour.to_string(),
            Paint::Ink { ink, span } => match self.sheet.ink(*ink).map(|i| &i.mix) {
                Some(Mix::Colour { colour }) => return colour.to_string(),
                Some(Mix::Gradient { gradient }) => (gradient, *span),
                // an ink that is not there has been refused before
                None => return crate::sheet::Colour::INK.to_string(),
            },
            Paint::Gradient { gradient, span } => (gradient, *span),
        };
        let span = span.unwrap_or_else(|| gradient.over(bounds));
        let id = self.next("gradient");
        let markup = self.gradient(&id, gradient, &span, moves);
        self.markup.push_str(&markup);
        format!("url(#{id})")
    }

    fn gradient(&self, id: &str, gradient: &Gradient, span: &Span, moves: &str) -> String {
        let ([x1, y1], [x2, y2]) = (span.from, span.to);
        let (element, place) = match gradient.way {
            GradientWay::Linear => {
                let ends = [x1, y1, x2, y2].map(number);
                (
                    "linearGradient",
                    format!("x1=\"{}\" y1=\"{}\" x2=\"{}\" y2=\"{}\"", ends[0], ends[1], ends[2], ends[3]),
                )
            }
            GradientWay::Radial => {
                let radius = (x2 - x1).hypot(y2 - y1);
                let at = format!("cx=\"{}\" cy=\"{}\" r=\"{}\"", number(x1), number(y1), number(radius));
                ("radialGradient", at)
            }
        };
        let stops: String = gradient
            .stops
            .iter()
            .map(|s| {
                let clear =
                    if s.opacity < 1.0 { format!(" stop-opacity=\"{}\"", number(s.opacity)) } else { String::new() };
                format!("<stop offset=\"{}\" stop-color=\"{}\"{clear}/>", number(s.at), self.sheet.colour(&s.tint))
            })
            .collect();
        format!("<{element} id=\"{id}\" gradientUnits=\"userSpaceOnUse\"{moves} {place}>{stops}</{element}>")
    }
}

impl Gradient {
    /// Where it runs on something that lies in `bounds`, if nobody said so.
    pub fn over(&self, bounds: Rect) -> Span {
        let c = bounds.center();
        match self.way {
            GradientWay::Linear => Span { from: [c.x, bounds.y0], to: [c.x, bounds.y1] },
            GradientWay::Radial => {
                let radius = bounds.width().hypot(bounds.height()) / 2.0;
                Span { from: [c.x, c.y], to: [c.x + radius, c.y] }
            }
        }
    }
}
