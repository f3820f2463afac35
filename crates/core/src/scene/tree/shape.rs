//! Painted outlines.

use super::{Length, Paint, Role};
use kurbo::{BezPath, Rect, Shape as _};
use std::borrow::Cow;
use std::sync::Arc;

/// A filled or stroked outline.
#[derive(Debug, Clone, PartialEq)]
pub struct Shape {
    pub role: Role,
    pub geometry: Geometry,
    pub fill: Option<Paint>,
    pub stroke: Option<Stroke>,
}

/// An outline. Its space is that of the node that has it.
#[derive(Debug, Clone, PartialEq)]
pub enum Geometry {
    /// The opening of the fragment's piece: contours that do not overlap.
    Opening,
    /// All of a rectangle but the opening.
    Around(Rect),
    /// Filled by the nonzero rule.
    Path(Arc<BezPath>),
    /// All of a rectangle but a path without overlaps.
    AroundPath(Rect, Arc<BezPath>),
    Rect(Rect),
}

/// A line along an outline, half of it on either side.
#[derive(Debug, Clone, PartialEq)]
pub struct Stroke {
    pub paint: Paint,
    pub line: Line,
}

/// How a stroke runs. Corners are mitred up to four times the width and ends are flat, unless it is `round`.
#[derive(Debug, Clone, PartialEq)]
pub struct Line {
    pub width: Length,
    /// Lengths of dashes and gaps in turn; empty for a line without gaps.
    pub dashes: Vec<Length>,
    pub round: bool,
}

impl Line {
    /// A line without gaps and with flat ends.
    pub fn plain(width: Length) -> Self {
        Self { width, dashes: Vec::new(), round: false }
    }

    /// The same for kurbo.
    pub fn to_kurbo(&self) -> kurbo::Stroke {
        let stroke = kurbo::Stroke::new(self.width.mm()).with_miter_limit(4.0);
        let stroke = if self.round {
            stroke.with_join(kurbo::Join::Round).with_caps(kurbo::Cap::Round)
        } else {
            stroke.with_join(kurbo::Join::Miter).with_caps(kurbo::Cap::Butt)
        };
        if self.dashes.is_empty() { stroke } else { stroke.with_dashes(0.0, self.dashes.iter().map(|d| d.mm())) }
    }
}

impl Geometry {
    /// A path that is filled by the nonzero rule.
    pub fn path(path: BezPath) -> Self {
        Self::Path(Arc::new(path))
    }

    /// Whether it is to be filled by the even-odd rule; else by the nonzero one.
    pub fn even_odd(&self) -> bool {
        matches!(self, Self::Around(_) | Self::AroundPath(..))
    }

    /// The whole outline. `opening` is that of the fragment.
    pub fn outline<'a>(&'a self, opening: &'a BezPath) -> Cow<'a, BezPath> {
        let around = |rect: &Rect, path: &BezPath| {
            let mut all = rect.to_path(0.1);
            all.extend(path.elements().iter().copied());
            Cow::Owned(all)
        };
        match self {
            Self::Opening => Cow::Borrowed(opening),
            Self::Path(path) => Cow::Borrowed(path),
            Self::Around(rect) => around(rect, opening),
            Self::AroundPath(rect, path) => around(rect, path),
            Self::Rect(rect) => Cow::Owned(rect.to_path(0.1)),
        }
    }

    /// A box that holds all of it; control points count.
    pub fn bounds(&self, opening: &BezPath) -> Rect {
        match self {
            Self::Opening => crate::combine::bounds(opening),
            Self::Around(rect) | Self::AroundPath(rect, _) | Self::Rect(rect) => *rect,
            Self::Path(path) => crate::combine::bounds(path),
        }
    }
}
