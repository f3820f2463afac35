//! What nodes refer to, as elements.

use super::element::Element;
use super::path_data::{fine_number, matrix, number};
use super::writer::{Scope, Writer, framed, reference, role, stroked};
use crate::scene::tree::{Coverage, Gradient, GradientAxis, Mask, Pattern, Shadow, Spread, ToneCurve, ToneStep};
use crate::sheet::Blend;
use kurbo::{Affine, Rect};

/// What a mask is drawn in: its share is the luminance (CSS Masking Level 1, section 7.10).
#[derive(Clone, Copy, PartialEq, Eq)]
enum Tint {
    White,
    Black,
}

impl Tint {
    fn colour(self) -> &'static str {
        match self {
            Self::White => "#fff",
            Self::Black => "#000",
        }
    }
}

impl Writer<'_> {
    /// The definitions of a fragment, those that are referred to by others first.
    pub fn definitions(&mut self, scope: Scope<'_>) {
        let all = &scope.fragment.definitions;
        for (k, gradient) in all.gradients.iter().enumerate() {
            self.gradient(scope, &scope.id("gradient", k), gradient);
        }
        for (k, tone) in all.tones.iter().enumerate() {
            self.tone(&scope.id("tone", k), tone);
        }
        for (k, pattern) in all.patterns.iter().enumerate() {
            self.pattern(scope, &scope.id("pattern", k), pattern);
        }
        for (k, clip) in all.clips.iter().enumerate() {
            let name = self.markup.open(Element::new("clipPath").with("id", scope.id("clip", k)));
            let mut path = role(self.outlined(scope, &clip.geometry, "clip-rule"), scope, clip.role);
            if clip.transform != Affine::IDENTITY {
                path = path.with("transform", matrix(clip.transform));
            }
            self.markup.empty(path);
            self.markup.close(name);
        }
        for (k, mask) in all.masks.iter().enumerate() {
            self.mask(scope, &scope.id("mask", k), mask);
        }
    }

    fn gradient(&mut self, scope: Scope<'_>, id: &str, gradient: &Gradient) {
        let fine = fine_number;
        let (name, element) = match gradient.axis {
            GradientAxis::Linear { from, to } => {
                let element = Element::new("linearGradient").with("id", id).with("gradientUnits", "userSpaceOnUse");
                let element = element.with("x1", fine(from.x)).with("y1", fine(from.y));
                ("linearGradient", element.with("x2", fine(to.x)).with("y2", fine(to.y)))
            }
            GradientAxis::Radial { centre, radius, focus } => {
                let element = Element::new("radialGradient").with("id", id).with("gradientUnits", "userSpaceOnUse");
                let element = element.with("cx", fine(centre.x)).with("cy", fine(centre.y)).with("r", fine(radius));
                let focused =
                    if focus == centre { element } else { element.with("fx", fine(focus.x)).with("fy", fine(focus.y)) };
                ("radialGradient", focused)
            }
        };
        let mut element = role(element, scope, gradient.role);
        element = match gradient.spread {
            Spread::Pad => element,
            Spread::Reflect => element.with("spreadMethod", "reflect"),
            Spread::Repeat => element.with("spreadMethod", "repeat"),
        };
        if gradient.transform != Affine::IDENTITY {
            element = element.with("gradientTransform", matrix(gradient.transform));
        }
        self.markup.open(element);
        for stop in &gradient.stops {
            let element = Element::new("stop").with("offset", number(stop.at.get()));
            let element = element.with("stop-color", stop.swatch.colour.to_string());
            let clear = (!stop.opacity.is_whole()).then(|| number(stop.opacity.get()));
            self.markup.empty(element.with_some("stop-opacity", clear));
        }
        self.markup.close(name);
    }

    fn tone(&mut self, id: &str, tone: &ToneCurve) {
        let filter = Element::new("filter").with("id", id).with("x", "0").with("y", "0").with("width", "1");
        let name = self.markup.open(filter.with("height", "1").with("color-interpolation-filters", "sRGB"));
        for step in &tone.steps {
            match step {
                ToneStep::Power(exponent) => {
                    self.transfer(|_, function| function.with("type", "gamma").with("exponent", number(*exponent)))
                }
                ToneStep::Linear { slopes, intercept } => self.transfer(|channel, function| {
                    let function = function.with("type", "linear").with("slope", number(slopes[channel]));
                    function.with("intercept", number(*intercept))
                }),
                ToneStep::Mix(rows) => {
                    let row = |[r, g, b]: &[f64; 3]| format!("{} {} {} 0 0", number(*r), number(*g), number(*b));
                    let rows: Vec<String> = rows.iter().map(row).collect();
                    let element = Element::new("feColorMatrix").with("type", "matrix");
                    self.markup.empty(element.with("values", format!("{} 0 0 0 1 0", rows.join(" "))));
                }
                ToneStep::Between(dark, light) => self.transfer(|channel, function| {
                    let [a, b] = [dark, light].map(|c| number(f64::from(c.0[channel]) / 255.0));
                    function.with("type", "table").with("tableValues", format!("{a} {b}"))
                }),
            }
        }
        self.markup.close(name);
    }

    fn transfer(&mut self, function: impl Fn(usize, Element) -> Element) {
        let name = self.markup.open(Element::new("feComponentTransfer"));
        for (channel, name) in ["feFuncR", "feFuncG", "feFuncB"].into_iter().enumerate() {
            self.markup.empty(function(channel, Element::new(name)));
        }
        self.markup.close(name);
    }

    fn pattern(&mut self, scope: Scope<'_>, id: &str, pattern: &Pattern) {
        let element = Element::new("pattern").with("id", id).with("patternUnits", "userSpaceOnUse");
        let element = role(element, scope, pattern.role);
        let element = element.with("width", number(pattern.cell.width)).with("height", number(pattern.cell.height));
        let name = self.markup.open(element.with("patternTransform", matrix(pattern.transform)));
        let scale = scope.scale * pattern.transform.determinant().abs().sqrt();
        self.nodes(Scope { scale, ..scope }, &pattern.nodes);
        self.markup.close(name);
    }

    fn mask(&mut self, scope: Scope<'_>, id: &str, mask: &Mask) {
        self.mask_of(id, mask.region, |writer| {
            writer.coverage(scope, &mask.coverage, mask.region, Tint::White, true);
        });
    }

    /// A mask around what `contents` writes.
    fn mask_of(&mut self, id: &str, region: Rect, contents: impl FnOnce(&mut Self)) {
        let element = framed(Element::new("mask").with("id", id).with("maskUnits", "userSpaceOnUse"), region);
        let name = self.markup.open(element);
        contents(self);
        self.markup.close(name);
    }

    /// Draws a coverage in white or black: on nothing if it is `alone`, else over what is there.
    fn coverage(&mut self, scope: Scope<'_>, coverage: &Coverage, region: Rect, tint: Tint, alone: bool) {
        let colour = tint.colour();
        match coverage {
            Coverage::Inside { role: own, geometry } => {
                let element = role(self.outlined(scope, geometry, "fill-rule"), scope, *own);
                self.markup.empty(element.with("fill", colour));
            }
            Coverage::Along { role: own, geometry, line } => {
                let element = role(self.outlined(scope, geometry, "fill-rule"), scope, *own);
                self.markup.empty(stroked(element.with("fill", "none"), colour, line));
            }
            Coverage::All => self.markup.empty(framed(Element::new("rect"), region).with("fill", colour)),
            Coverage::Any { role: own, of } => {
                let group = role(Element::new("g"), scope, *own);
                let name = self.markup.open(group);
                for (k, each) in of.iter().enumerate() {
                    self.coverage(scope, each, region, tint, alone && k == 0);
                }
                self.markup.close(name);
            }
            // on nothing, black takes white away again
            Coverage::Without(from, what) if alone && tint == Tint::White => {
                self.coverage(scope, from, region, Tint::White, true);
                self.coverage(scope, what, region, Tint::Black, false);
            }
            Coverage::Without(from, what) => self.limited(scope, from, region, tint, |writer, scope| {
                writer.coverage(scope, &Coverage::All, region, Tint::White, true);
                writer.coverage(scope, what, region, Tint::Black, false);
            }),
            Coverage::Both(a, b) => self.limited(scope, a, region, tint, |writer, scope| {
                writer.coverage(scope, b, region, Tint::White, true);
            }),
            Coverage::OneOf(a, b) => self.limited(scope, &Coverage::All, region, tint, |writer, scope| {
                // white on black: the blend mode "exclusion" (Compositing and Blending Level 1, section 9.1.11) is a + b - 2ab
                writer.coverage(scope, &Coverage::All, region, Tint::Black, true);
                writer.coverage(scope, a, region, Tint::White, false);
                let exclusion = writer.blended(Element::new("g"), Blend::Exclusion);
                let name = writer.markup.open(exclusion);
                writer.coverage(scope, &Coverage::All, region, Tint::Black, true);
                writer.coverage(scope, b, region, Tint::White, false);
                writer.markup.close(name);
            }),
            Coverage::Blurred(of, deviation) => {
                let id = self.fresh(scope, "blur");
                let (far, around) = (3.0 * deviation.mm(), of.bounds(&scope.fragment.opening, region));
                let around = around.unwrap_or(region).inflate(far + 2.0, far + 2.0).expand();
                let filter = Element::new("filter").with("id", &id).with("filterUnits", "userSpaceOnUse");
                let name = self.markup.open(framed(filter, around));
                self.markup.empty(Element::new("feGaussianBlur").with("stdDeviation", number(deviation.mm())));
                self.markup.close(name);
                let name = self.markup.open(Element::new("g").with("filter", reference(&id)));
                self.coverage(scope, of, region, tint, true);
                self.markup.close(name);
            }
        }
    }

    /// A coverage, seen through a mask of its own.
    fn limited(
        &mut self,
        scope: Scope<'_>,
        coverage: &Coverage,
        region: Rect,
        tint: Tint,
        contents: impl FnOnce(&mut Self, Scope<'_>),
    ) {
        let id = self.fresh(scope, "mask-within");
        self.mask_of(&id, region, |writer| contents(writer, scope));
        let name = self.markup.open(Element::new("g").with("mask", reference(&id)));
        self.coverage(scope, coverage, region, tint, true);
        self.markup.close(name);
    }

    /// A shadow as a filter.
    pub fn shadow(&mut self, id: &str, shadow: &Shadow) {
        let filter = Element::new("filter").with("id", id).with("filterUnits", "userSpaceOnUse");
        let filter = framed(filter, shadow.region).with("color-interpolation-filters", "sRGB");
        let name = self.markup.open(filter);
        let mut from = "SourceAlpha";
        if shadow.from_outside {
            self.alpha_line("SourceAlpha", "outside", -1.0, 1.0);
            from = "outside";
        }
        if !shadow.spread.is_zero() {
            let blur = Element::new("feGaussianBlur").with("in", from);
            self.markup.empty(blur.with("stdDeviation", number(shadow.spread.mm())).with("result", "spread"));
            self.alpha_line("spread", "wide", Shadow::STEEP, Shadow::intercept());
            from = "wide";
        }
        let offset = Element::new("feOffset").with("in", from);
        let offset = offset.with("dx", number(shadow.falls.x)).with("dy", number(shadow.falls.y));
        self.markup.empty(offset.with("result", "there"));
        if !shadow.blur.is_zero() {
            let blur = Element::new("feGaussianBlur").with("in", "there");
            self.markup.empty(blur.with("stdDeviation", number(shadow.blur.mm())).with("result", "there"));
        }
        let flood = Element::new("feFlood").with("flood-color", shadow.swatch.colour.to_string());
        self.markup.empty(flood.with("flood-opacity", number(shadow.opacity.get())));
        self.markup.empty(Element::new("feComposite").with("operator", "in").with("in2", "there"));
        self.markup.close(name);
    }

    fn alpha_line(&mut self, from: &str, result: &str, slope: f64, intercept: f64) {
        let element = Element::new("feComponentTransfer").with("in", from).with("result", result);
        let name = self.markup.open(element);
        let function = Element::new("feFuncA").with("type", "linear").with("slope", number(slope));
        self.markup.empty(function.with("intercept", number(intercept)));
        self.markup.close(name);
    }
}
