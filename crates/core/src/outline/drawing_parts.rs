//! From a parsed SVG file to the parts of a picture.

use super::drawing_error::DrawingError;
use super::drawing_tree::{
    DrawingGradient, DrawingPaint, DrawingPart, DrawingShape, DrawingTree, GradientAxis, Spread,
};
use crate::combine::{Rule, join_pair, nodes, unite, unite_even_odd};
use crate::sheet::limits::DRAWING_NODES;
use crate::sheet::{Blend, Colour, MM_PER_INCH};
use kurbo::{Affine, BezPath};
use std::collections::BTreeMap;
use std::sync::Arc;
use usvg::{BaseGradient, BlendMode, Group, PaintOrder, SpreadMethod, Tree, tiny_skia_path};

/// What was found in a file.
pub(super) struct Found {
    pub picture: DrawingTree,
    /// What was left out, in sentences.
    pub notes: Vec<String>,
    /// Texts of the file that no font could set.
    pub spare_text: usize,
}

/// Everything a file paints. `names` are those of its elements by identifier; `texts` is how many texts it has.
pub(super) fn picture_of(tree: &Tree, names: BTreeMap<String, String>, texts: usize) -> Result<Found, DrawingError> {
    let mut reader = Reader { names, parts: Vec::new(), nodes: 0, spare_text: texts, left_out: LeftOut::default() };
    reader.group(tree.root(), String::new(), None, 0)?;
    let mm = MM_PER_INCH / 96.0;
    let picture = DrawingTree {
        width: f64::from(tree.size().width()) * mm,
        height: f64::from(tree.size().height()) * mm,
        parts: reader.parts,
    };
    Ok(Found { picture, notes: reader.left_out.sentences(), spare_text: reader.spare_text })
}

#[derive(Default)]
struct LeftOut {
    pictures: bool,
    effects: bool,
    patterns: bool,
}

impl LeftOut {
    fn sentences(&self) -> Vec<String> {
        let all = [
            (self.pictures, "Pictures in the drawing were left out."),
            (self.effects, "Masks and filters in the drawing were left out."),
            (self.patterns, "Patterns in the drawing became plain colours."),
        ];
        all.iter().filter(|(met, _)| *met).map(|(_, sentence)| (*sentence).to_owned()).collect()
    }
}

struct Reader {
    names: BTreeMap<String, String>,
    parts: Vec<DrawingPart>,
    nodes: usize,
    /// Texts of the file that were not met yet.
    spare_text: usize,
    left_out: LeftOut,
}

impl Reader {
    fn named(&self, id: &str) -> String {
        self.names.get(id).cloned().unwrap_or_default()
    }

    /// `limit` is what the clip paths around the group leave, in pixels of the whole drawing.
    fn group(
        &mut self,
        group: &Group,
        name: String,
        limit: Option<&BezPath>,
        depth: usize,
    ) -> Result<(), DrawingError> {
        if depth > 300 || group.opacity().get() <= 0.0 {
            return Ok(());
        }
        self.left_out.effects |= group.mask().is_some() || !group.filters().is_empty();
        let own = group.clip_path().map(|clip| {
            let place = affine(group.abs_transform());
            let mut own = place * affine(clip.transform()) * clip_outline(clip, 0);
            for outer in [clip.clip_path().map(|outer| place * clip_outline(outer, 0)), limit.cloned()] {
                own = outer.map_or(own.clone(), |outer| join_pair(&own, &outer, Rule::Intersection));
            }
            own
        });
        let limit = own.as_ref().or(limit);
        let at = self.open(name, group.opacity().get().into(), blend(group.blend_mode()));
        for node in group.children() {
            match node {
                usvg::Node::Group(inner) => self.group(inner, self.named(inner.id()), limit, depth + 1)?,
                usvg::Node::Path(path) => self.path(path, limit)?,
                usvg::Node::Text(text) => {
                    if !text.flattened().children().is_empty() {
                        self.spare_text = self.spare_text.saturating_sub(1);
                    }
                    let said: String = text.chunks().iter().map(|c| c.text()).collect();
                    let name = said.split_whitespace().collect::<Vec<_>>().join(" ").chars().take(24).collect();
                    self.group(text.flattened(), name, limit, depth + 1)?;
                }
                usvg::Node::Image(_) => self.left_out.pictures = true,
            }
        }
        self.close(at, depth == 0);
        Ok(())
    }

    fn open(&mut self, name: String, opacity: f64, blend: Blend) -> usize {
        self.parts.push(DrawingPart { name, end: 0, opacity, blend, one: false, shape: None });
        self.parts.len() - 1
    }

    /// Ends a group. Groups around nothing, and those that say nothing about the one part they hold, are not kept.
    fn close(&mut self, at: usize, always: bool) {
        let end = self.parts.len();
        let Some(group) = self.parts.get_mut(at) else {
            return;
        };
        group.end = end;
        let says_nothing = group.opacity >= 1.0 && group.blend == Blend::Normal;
        let nameless = group.name.is_empty();
        let name = std::mem::take(&mut group.name);
        let only = self.parts.get(at + 1).is_some_and(|first| first.end == end);
        let only_nameless = self.parts.get(at + 1).is_some_and(|first| first.name.is_empty());
        if always || end > at + 1 && !(only && says_nothing && (nameless || only_nameless)) {
            self.parts[at].name = name;
            return;
        }
        self.parts.remove(at);
        self.parts[at..].iter_mut().for_each(|p| p.end -= 1);
        if let (Some(inner), false) = (self.parts.get_mut(at), nameless) {
            inner.name = name;
        }
    }

    fn path(&mut self, path: &usvg::Path, limit: Option<&BezPath>) -> Result<(), DrawingError> {
        if !path.is_visible() {
            return Ok(());
        }
        let place = affine(path.abs_transform());
        let outline = bez_path(path.data());
        self.nodes += nodes(&outline);
        if self.nodes > DRAWING_NODES {
            return Err(DrawingError::TooManyNodes);
        }
        let at = self.open(self.named(path.id()), 1.0, Blend::Normal);
        let mut painted = Vec::new();
        if let Some(fill) = path.fill().filter(|f| f.opacity().get() > 0.0) {
            let united = match fill.rule() {
                usvg::FillRule::NonZero => unite(&(place * &outline)),
                usvg::FillRule::EvenOdd => unite_even_odd(&(place * &outline)),
            };
            painted.push((united, fill.paint(), fill.opacity().get()));
        }
        if let Some(stroke) = path.stroke().filter(|s| s.opacity().get() > 0.0) {
            let style = stroke.to_tiny_skia();
            let scale = path.abs_transform().get_scale();
            let fineness = 4.0 * scale.0.max(scale.1).clamp(0.01, 100.0);
            let dashed = match &style.dash {
                Some(dash) => path.data().dash(dash, fineness),
                None => None,
            };
            if let Some(line) = dashed.as_ref().unwrap_or(path.data()).stroke(&style, fineness) {
                painted.push((unite(&(place * bez_path(&line))), stroke.paint(), stroke.opacity().get()));
            }
        }
        if path.paint_order() == PaintOrder::StrokeAndFill {
            painted.reverse();
        }
        for (outline, paint, opacity) in painted {
            let paint = self.paint(paint, place);
            self.shape(&outline, limit, paint, opacity.into());
        }
        self.parts[at].one = true;
        self.close(at, false);
        Ok(())
    }

    fn shape(&mut self, outline: &BezPath, limit: Option<&BezPath>, paint: DrawingPaint, opacity: f64) {
        let clipped = limit.map(|limit| join_pair(outline, limit, Rule::Intersection));
        let outline = clipped.as_ref().unwrap_or(outline);
        if outline.is_empty() || !outline.is_finite() {
            return;
        }
        let end = self.parts.len() + 1;
        let shape = Some(DrawingShape { path: Arc::new(Affine::scale(MM_PER_INCH / 96.0) * outline), paint });
        self.parts.push(DrawingPart { name: String::new(), end, opacity, blend: Blend::Normal, one: false, shape });
    }

    /// `place`: from the space of what is painted to pixels of the drawing.
    fn paint(&mut self, paint: &usvg::Paint, place: Affine) -> DrawingPaint {
        let gradient = |base: &BaseGradient, axis| {
            let transform = Affine::scale(MM_PER_INCH / 96.0) * place * affine(base.transform());
            let stops = base.stops().iter();
            let stops = stops.map(|s| (s.offset().get().into(), colour(s.color()), s.opacity().get().into()));
            let spread = match base.spread_method() {
                SpreadMethod::Pad => Spread::Pad,
                SpreadMethod::Reflect => Spread::Reflect,
                SpreadMethod::Repeat => Spread::Repeat,
            };
            let all = DrawingGradient { axis, transform: transform.as_coeffs(), spread, stops: stops.collect() };
            DrawingPaint::Gradient(Box::new(all))
        };
        match paint {
            usvg::Paint::Color(c) => DrawingPaint::Colour(colour(*c)),
            usvg::Paint::LinearGradient(g) => {
                gradient(g, GradientAxis::Linear([g.x1(), g.y1(), g.x2(), g.y2()].map(f64::from)))
            }
            usvg::Paint::RadialGradient(g) => {
                gradient(g, GradientAxis::Radial([g.cx(), g.cy(), g.r().get(), g.fx(), g.fy()].map(f64::from)))
            }
            usvg::Paint::Pattern(pattern) => {
                self.left_out.patterns = true;
                DrawingPaint::Colour(first_colour(pattern.root(), 0).unwrap_or(Colour::INK))
            }
        }
    }
}

fn first_colour(group: &Group, depth: usize) -> Option<Colour> {
    group.children().iter().find_map(|node| match node {
        usvg::Node::Path(path) => match path.fill().map(usvg::Fill::paint).or(path.stroke().map(usvg::Stroke::paint)) {
            Some(usvg::Paint::Color(c)) => Some(colour(*c)),
            _ => None,
        },
        usvg::Node::Group(inner) if depth < 50 => first_colour(inner, depth + 1),
        _ => None,
    })
}

fn colour(c: usvg::Color) -> Colour {
    Colour([c.red, c.green, c.blue])
}

fn blend(mode: BlendMode) -> Blend {
    match mode {
        BlendMode::Normal => Blend::Normal,
        BlendMode::Multiply => Blend::Multiply,
        BlendMode::Screen => Blend::Screen,
        BlendMode::Overlay => Blend::Overlay,
        BlendMode::Darken => Blend::Darken,
        BlendMode::Lighten => Blend::Lighten,
        BlendMode::ColorDodge => Blend::ColorDodge,
        BlendMode::ColorBurn => Blend::ColorBurn,
        BlendMode::HardLight => Blend::HardLight,
        BlendMode::SoftLight => Blend::SoftLight,
        BlendMode::Difference => Blend::Difference,
        BlendMode::Exclusion => Blend::Exclusion,
        BlendMode::Hue => Blend::Hue,
        BlendMode::Saturation => Blend::Saturation,
        BlendMode::Color => Blend::Color,
        BlendMode::Luminosity => Blend::Luminosity,
    }
}

/// The region a clip path leaves, in its own space.
fn clip_outline(clip: &usvg::ClipPath, depth: usize) -> BezPath {
    fn gather(group: &Group, depth: usize, out: &mut BezPath) {
        for node in group.children() {
            match node {
                usvg::Node::Path(path) => {
                    let outline = affine(path.abs_transform()) * bez_path(path.data());
                    let even_odd = path.fill().is_some_and(|f| f.rule() == usvg::FillRule::EvenOdd);
                    let part = if even_odd { unite_even_odd(&outline) } else { unite(&outline) };
                    out.extend(part.elements().iter().copied());
                }
                usvg::Node::Group(inner) if depth < 50 => gather(inner, depth + 1, out),
                usvg::Node::Text(text) if depth < 50 => gather(text.flattened(), depth + 1, out),
                _ => {}
            }
        }
    }
    let mut out = BezPath::new();
    gather(clip.root(), depth, &mut out);
    unite(&out)
}

fn affine(t: usvg::Transform) -> Affine {
    Affine::new([t.sx, t.ky, t.kx, t.sy, t.tx, t.ty].map(f64::from))
}

fn bez_path(path: &tiny_skia_path::Path) -> BezPath {
    use tiny_skia_path::PathSegment;
    let at = |p: tiny_skia_path::Point| kurbo::Point::new(f64::from(p.x), f64::from(p.y));
    let mut out = BezPath::new();
    for segment in path.segments() {
        match segment {
            PathSegment::MoveTo(p) => out.move_to(at(p)),
            PathSegment::LineTo(p) => out.line_to(at(p)),
            PathSegment::QuadTo(a, p) => out.quad_to(at(a), at(p)),
            PathSegment::CubicTo(a, b, p) => out.curve_to(at(a), at(b), at(p)),
            PathSegment::Close => out.close_path(),
        }
    }
    out
}
