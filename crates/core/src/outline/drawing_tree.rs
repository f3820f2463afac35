//! An imported drawing as it looks: its groups and painted shapes.

use super::warp::warp;
use crate::combine::Rule;
use crate::combine::{join_pair, unite};
use crate::sheet::{Blend, Colour, Placement};
use kurbo::{BezPath, Rect, Shape};
use serde::{Deserialize, Serialize};
use std::borrow::Cow;
use std::ops::Range;
use std::sync::Arc;

/// The picture of a drawing, in its own space: millimetres (96 pixels of the file to an inch) from the top left of its page.
#[derive(Debug, Clone, Serialize, Deserialize)]
pub struct DrawingTree {
    /// Width of its page.
    pub width: f64,
    /// Height of its page.
    pub height: f64,
    /// From back to front; groups stand before what they hold. The first is the drawing as a whole.
    pub parts: Vec<DrawingPart>,
}

/// A group or a painted shape.
#[derive(Debug, Clone, Serialize, Deserialize)]
pub struct DrawingPart {
    /// What the file calls it, or nothing.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub name: String,
    /// Number of the next part that does not lie within this one.
    pub end: usize,
    #[serde(default = "whole", skip_serializing_if = "is_whole")]
    pub opacity: f64,
    #[serde(default)]
    pub blend: Blend,
    /// The fill and the stroke of one path: taken hold of together.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub one: bool,
    /// None for a group.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub shape: Option<DrawingShape>,
}

/// An area in one paint: a fill, or a stroke as the area it covers.
#[derive(Debug, Clone, Serialize, Deserialize)]
pub struct DrawingShape {
    /// Without overlaps of its own, so that any fill rule gives the same.
    #[serde(with = "svg_path")]
    pub path: Arc<BezPath>,
    pub paint: DrawingPaint,
}

/// What a shape of a drawing is painted with.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum DrawingPaint {
    Colour(Colour),
    Gradient(Box<DrawingGradient>),
}

/// A gradient of a file (SVG 1.1, section 13.2).
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct DrawingGradient {
    pub axis: GradientAxis,
    /// From the gradient's space to the drawing's, SVG's order of coefficients.
    pub transform: [f64; 6],
    /// Value of `spreadMethod`.
    pub spread: Spread,
    /// Place (0 to 1), colour and opacity.
    pub stops: Vec<(f64, Colour, f64)>,
}

/// Along what a gradient of a drawing runs; millimetres of its page.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum GradientAxis {
    /// `x1`, `y1`, `x2`, `y2`
    Linear([f64; 4]),
    /// `cx`, `cy`, `r`, `fx`, `fy`
    Radial([f64; 5]),
}

/// How a gradient goes on beyond its ends (`spreadMethod` of SVG 1.1).
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[serde(rename_all = "snake_case")]
pub enum Spread {
    Pad,
    Reflect,
    Repeat,
}

impl DrawingTree {
    /// A picture of one shape in one paint.
    pub fn of(path: &BezPath, colour: Colour) -> Self {
        let bounds = if path.is_empty() { Rect::ZERO } else { path.bounding_box() };
        let shape = DrawingShape { path: Arc::new(path.clone()), paint: DrawingPaint::Colour(colour) };
        let part = |end, shape| DrawingPart {
            name: String::new(),
            end,
            opacity: 1.0,
            blend: Blend::Normal,
            one: false,
            shape,
        };
        Self { width: bounds.x1, height: bounds.y1, parts: vec![part(2, None), part(2, Some(shape))] }
    }

    /// The numbers of the parts that lie directly within `of`.
    pub fn children(&self, of: usize) -> impl Iterator<Item = usize> {
        let end = self.parts.get(of).map_or(of, |p| p.end);
        let mut next = of + 1;
        std::iter::from_fn(move || {
            let at = next;
            next = self.parts.get(at)?.end.max(at + 1);
            (at < end).then_some(at)
        })
    }

    /// The numbers of a part and of all it holds.
    pub fn within(&self, part: usize) -> Range<usize> {
        part..self.parts.get(part).map_or(part, |p| p.end)
    }

    /// The numbers of the pieces that it is taken apart into: shapes, with fill and stroke of one path as one.
    pub fn pieces(&self) -> impl Iterator<Item = usize> {
        let mut next = 0;
        std::iter::from_fn(move || {
            while let Some(part) = self.parts.get(next) {
                let at = next;
                if part.one || part.shape.is_some() {
                    next = part.end.max(at + 1);
                    return Some(at);
                }
                next = at + 1;
            }
            None
        })
    }

    /// Whether `inner` is `outer`, or lies within it.
    pub fn holds(&self, outer: usize, inner: usize) -> bool {
        self.within(outer).contains(&inner)
    }

    /// The shapes of a part.
    pub fn shapes(&self, part: usize) -> impl Iterator<Item = &DrawingShape> {
        self.within(part).filter_map(|i| self.parts.get(i)?.shape.as_ref())
    }

    /// What a part covers; None where it paints nothing.
    pub fn bounds(&self, part: usize) -> Option<Rect> {
        self.shapes(part).map(|s| s.path.bounding_box()).reduce(|a, b| a.union(b))
    }

    /// All of it as one outline, as it is seen: what is painted in (nearly) white on top of something darker is taken away again, as
    /// paper. Where all is white, it is meant to be seen.
    pub fn outline(&self) -> BezPath {
        let mut runs: Vec<(bool, BezPath)> = Vec::new();
        for shape in self.parts.iter().filter_map(|p| p.shape.as_ref()) {
            let white = shape.paint.is_white();
            match runs.last_mut() {
                Some((same, path)) if *same == white => path.extend(shape.path.elements().iter().copied()),
                _ => runs.push((white, (*shape.path).clone())),
            }
        }
        let all_white = runs.iter().all(|(white, _)| *white);
        let united = runs.iter().map(|(white, run)| (*white && !all_white, unite(run)));
        let sum = united.fold(None, |sum: Option<BezPath>, (is_paper, run)| match sum {
            None if is_paper => None,
            None => Some(run),
            Some(sum) => Some(join_pair(&sum, &run, if is_paper { Rule::Difference } else { Rule::Union })),
        });
        sum.unwrap_or_default()
    }
}

/// How near to its true place a pulled line is, in millimetres on the sheet.
const FINE: f64 = 0.01;

/// A path of a drawing with its corners pulled as `place` says, in the drawing's own space.
pub fn placed_part<'p>(path: &'p BezPath, picture: &DrawingTree, place: &Placement) -> Cow<'p, BezPath> {
    if place.pull.is_none() {
        return Cow::Borrowed(path);
    }
    Cow::Owned(warp(path, |p| place.pulled(p, picture.width, picture.height, false), FINE / place.scale))
}

impl DrawingPaint {
    fn is_white(&self) -> bool {
        matches!(self, Self::Colour(Colour(rgb)) if rgb.iter().all(|v| *v >= 247))
    }

    /// One colour for it: that of a gradient's first stop.
    pub fn colour(&self) -> Colour {
        match self {
            Self::Colour(colour) => *colour,
            Self::Gradient(g) => g.stops.first().map_or(Colour::INK, |s| s.1),
        }
    }
}

fn whole() -> f64 {
    1.0
}

fn is_whole(v: &f64) -> bool {
    *v == 1.0
}

/// Paths as SVG path data, which holds every number exactly.
mod svg_path {
    use kurbo::BezPath;
    use serde::{Deserialize, Deserializer, Serializer, de::Error};
    use std::sync::Arc;

    /// As SVG path data, in the space of the path.
    pub fn serialize<S: Serializer>(path: &Arc<BezPath>, to: S) -> Result<S::Ok, S::Error> {
        to.serialize_str(&path.to_svg())
    }

    /// From SVG path data; anything else is an error of the deserializer.
    pub fn deserialize<'de, D: Deserializer<'de>>(from: D) -> Result<Arc<BezPath>, D::Error> {
        BezPath::from_svg(&String::deserialize(from)?).map(Arc::new).map_err(D::Error::custom)
    }
}
