//! What it takes to draw a piece. It is measured on its tree and does not depend on a resolution; what that comes to in pixels is reckoned
//! from it.

use super::tree::{Clip, Coverage, Effect, Fragment, Geometry, Line, Node, Source};
use crate::sheet::MM_PER_INCH;
use kurbo::{BezPath, PathEl, Point};
use std::collections::HashMap;
use std::sync::Arc;

/// Nodes of one piece, fragments that are drawn several times counted as often.
const NODES: f64 = 200_000.0;
/// A group that is a picture of its own counts for so many nodes more.
const ISOLATED: f64 = 10.0;
/// Elements of all its paths, counted likewise.
const ELEMENTS: f64 = 20_000_000.0;
/// Elements that one dash of a line counts for.
const DASH: f64 = 8.0;
/// Groups within groups: readers of SVG files go no deeper than this.
const DEPTH: usize = 250;
/// How far a shadow or a blur reaches, in pixels of the delivered picture.
const EXTENT: f64 = 50_000.0;
/// Pixels of one cell of a pattern in the delivered picture.
const CELL: f64 = 64e6;

/// Nodes and elements of all pieces of a sheet.
const OF_SHEET: (f64, f64) = (1_000_000.0, 60_000_000.0);

/// What it takes to draw a fragment once, with all that it draws again.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Cost {
    /// Nodes that are drawn; those of a pattern count once.
    pub nodes: f64,
    /// Elements of the paths of these nodes, and of what limits them.
    pub elements: f64,
    /// Nodes within nodes.
    pub depth: usize,
    /// How far a shadow or a blur reaches at most, in millimetres.
    pub extent: f64,
    /// The largest cell of a pattern, in square millimetres.
    pub cell: f64,
    /// Bytes of the fragment itself, without what it shares with others.
    pub own_bytes: u64,
}

/// What is too much about a piece.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub enum Excess {
    #[error(
        "This piece shows too much to be drawn: windows that show other windows several times, or very many shapes. Take some of it out."
    )]
    Nodes,
    #[error(
        "The outlines of this piece have too many nodes or dashes, all in all, to be drawn. Simplify them, make dashes longer, or show them less often."
    )]
    Elements,
    #[error("This sheet shows too much to be drawn with this piece on it. Take some of it out.")]
    Sheet,
    #[error("What this piece shows lies too deep in one another to be drawn. Take a group or a window out of it.")]
    Depth,
    #[error(
        "A shadow or a soft edge of this piece reaches too far for this resolution. Make it smaller, or take fewer ppi."
    )]
    Extent,
    #[error("One copy of a tile in this piece is too large for this resolution. Make it smaller, or take fewer ppi.")]
    Cell,
}

/// How long a path is at most, in its units: a curve is never longer than the lines between its control points.
fn at_most_long(path: &BezPath) -> f64 {
    let mut long = 0.0;
    let (mut start, mut last) = (Point::ZERO, Point::ZERO);
    for element in path.elements() {
        let points: &[Point] = match element {
            PathEl::MoveTo(p) => {
                (start, last) = (*p, *p);
                &[]
            }
            PathEl::LineTo(p) => &[*p],
            PathEl::QuadTo(a, p) => &[*a, *p],
            PathEl::CurveTo(a, b, p) => &[*a, *b, *p],
            PathEl::ClosePath => &[start],
        };
        for point in points {
            long += last.distance(*point);
            last = *point;
        }
    }
    long
}

impl Cost {
    /// Goes through all nodes once; fragments that are drawn again are measured once each.
    pub fn of(fragment: &Fragment) -> Self {
        let mut measure = Measure { known: HashMap::new() };
        measure.fragment(fragment, true)
    }

    /// What is too much of it, for a picture of this resolution.
    pub fn excess(&self, ppi: f64) -> Option<Excess> {
        let density = ppi / MM_PER_INCH;
        // comparing the other way round lets no NaN through
        let within = |value: f64, most: f64| value <= most;
        match () {
            () if !within(self.nodes, NODES) => Some(Excess::Nodes),
            () if !within(self.elements, ELEMENTS) => Some(Excess::Elements),
            () if self.depth > DEPTH => Some(Excess::Depth),
            () if !within(self.extent * density, EXTENT) => Some(Excess::Extent),
            () if !within(self.cell * density * density, CELL) => Some(Excess::Cell),
            () => None,
        }
    }

    /// Whether a sheet whose pieces take this much together can be drawn.
    pub fn fits_a_sheet(&self) -> bool {
        self.nodes <= OF_SHEET.0 && self.elements <= OF_SHEET.1
    }

    /// What both take together.
    pub fn add(&mut self, other: &Self) {
        self.nodes += other.nodes;
        self.elements += other.elements;
        self.depth = self.depth.max(other.depth);
        self.extent = self.extent.max(other.extent);
        self.cell = self.cell.max(other.cell);
        self.own_bytes += other.own_bytes;
    }
}

struct Measure {
    /// Fragments that are drawn again are measured once.
    known: HashMap<*const Fragment, Cost>,
}

impl Measure {
    fn fragment(&mut self, fragment: &Fragment, own: bool) -> Cost {
        let mut cost = Cost::default();
        let all = &fragment.definitions;
        let opening = &fragment.opening;
        all.clips.iter().for_each(|Clip { geometry, .. }| cost.outline(geometry, opening));
        all.masks.iter().for_each(|mask| cost.coverage(&mask.coverage, opening));
        for pattern in &all.patterns {
            let inside = self.nodes(&pattern.nodes, opening, 1);
            cost.add(&inside);
            cost.cell = cost.cell.max(pattern.cell.area() * pattern.transform.determinant().abs());
        }
        cost.add(&self.nodes(&fragment.nodes, opening, 1));
        if !own {
            cost.own_bytes = 0;
        }
        cost
    }

    fn nodes(&mut self, nodes: &[Node], opening: &BezPath, depth: usize) -> Cost {
        let mut cost = Cost { depth, ..Cost::default() };
        for node in nodes {
            cost.nodes += 1.0;
            cost.own_bytes += 200;
            match node {
                Node::Group(group) => {
                    if let Some(Effect::Shadow(shadow)) = &group.effect {
                        cost.extent = cost.extent.max(shadow.extent());
                    }
                    cost.nodes += if group.is_isolated() { ISOLATED } else { 0.0 };
                    let inside = self.nodes(&group.nodes, opening, depth + 1);
                    cost.add(&inside);
                }
                Node::Shape(shape) => {
                    cost.outline(&shape.geometry, opening);
                    if let Some(stroke) = &shape.stroke {
                        cost.dashes(&shape.geometry, &stroke.line, opening);
                    }
                }
                Node::Picture(picture) => {
                    if let Source::Computed(computed) = &picture.source {
                        cost.own_bytes += computed.0.as_raw().len() as u64;
                    }
                }
                Node::Reuse(reuse) => {
                    let key = Arc::as_ptr(&reuse.fragment);
                    let mut inside = match self.known.get(&key) {
                        Some(known) => *known,
                        None => {
                            let measured = self.fragment(&reuse.fragment, false);
                            self.known.insert(key, measured);
                            measured
                        }
                    };
                    // lengths grow with what they are drawn in
                    let scale = reuse.transform.determinant().abs();
                    inside.extent *= scale.sqrt();
                    inside.cell *= scale;
                    inside.depth += depth + 1;
                    cost.add(&inside);
                }
            }
        }
        cost
    }
}

impl Cost {
    fn outline(&mut self, geometry: &Geometry, opening: &BezPath) {
        let (elements, own) = match geometry {
            Geometry::Opening => (opening.elements().len(), 0),
            Geometry::Around(_) => (opening.elements().len() + 5, 0),
            Geometry::Path(path) | Geometry::AroundPath(_, path) => {
                (path.elements().len() + 5, std::mem::size_of_val(path.elements()))
            }
            Geometry::Rect(_) => (5, 0),
        };
        self.elements += elements as f64;
        self.own_bytes += own as u64;
    }

    /// Each dash of a line is a path of its own.
    fn dashes(&mut self, geometry: &Geometry, line: &Line, opening: &BezPath) {
        let once: f64 = line.dashes.iter().map(|d| d.mm()).sum();
        if !line.dashes.is_empty() {
            let dashes = at_most_long(&geometry.outline(opening)) / once * line.dashes.len() as f64;
            self.elements += DASH * dashes;
        }
    }

    fn coverage(&mut self, coverage: &Coverage, opening: &BezPath) {
        self.nodes += 1.0;
        match coverage {
            Coverage::Inside { geometry, .. } => self.outline(geometry, opening),
            Coverage::Along { geometry, line, .. } => {
                self.outline(geometry, opening);
                self.dashes(geometry, line, opening);
            }
            Coverage::All => {}
            Coverage::Any { of, .. } => of.iter().for_each(|c| self.coverage(c, opening)),
            Coverage::Without(a, b) | Coverage::Both(a, b) | Coverage::OneOf(a, b) => {
                self.coverage(a, opening);
                self.coverage(b, opening);
            }
            Coverage::Blurred(of, deviation) => {
                self.extent = self.extent.max(3.0 * deviation.mm());
                self.coverage(of, opening);
            }
        }
    }
}
