//! Contours of nodes: traced by hand, or what a form is baked into.

use kurbo::{BezPath, PathEl, Point, Vec2};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// One or several Bézier contours in the form's own space, in millimetres.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, TS)]
pub struct Contour {
    #[serde(alias = "strands")]
    pub subpaths: Vec<Subpath>,
    /// What counts as inside where subpaths cross: every second layer, instead of every layer.
    #[serde(default)]
    pub even_odd: bool,
}

/// One run of nodes.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Subpath {
    pub nodes: Vec<Node>,
    pub closed: bool,
}

/// A point of a subpath with its handles.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct Node {
    pub x: f64,
    pub y: f64,
    /// The handle towards the node before, from this node; without one the side is straight.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub before: Option<[f64; 2]>,
    /// The handle towards the node after.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub after: Option<[f64; 2]>,
    /// Handles stay in one line when either is moved.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub smooth: bool,
}

impl Node {
    /// A node without handles.
    pub fn corner(x: f64, y: f64) -> Self {
        Self { x, y, before: None, after: None, smooth: false }
    }

    /// Its place, in the space of the contour.
    pub fn point(&self) -> Point {
        Point::new(self.x, self.y)
    }
}

impl Contour {
    /// How many nodes there are.
    pub fn nodes(&self) -> usize {
        self.subpaths.iter().map(|s| s.nodes.len()).sum()
    }

    /// As a Bézier path; open subpaths stay open.
    pub fn path(&self) -> BezPath {
        let mut path = BezPath::new();
        for subpath in self.subpaths.iter().filter(|s| s.nodes.len() > 1) {
            path.move_to(subpath.nodes[0].point());
            for pair in subpath.nodes.windows(2) {
                side(&mut path, &pair[0], &pair[1]);
            }
            if let (true, [first, .., last]) = (subpath.closed, subpath.nodes.as_slice()) {
                side(&mut path, last, first);
                path.close_path();
            }
        }
        path
    }

    /// The nodes of a path. Handles in one line make a smooth node.
    pub fn from_path(path: &BezPath) -> Self {
        let mut contour = Self::default();
        let mut start = true;
        for el in path.elements() {
            let Some(subpath) = contour.subpaths.last_mut().filter(|_| !start || !matches!(el, PathEl::MoveTo(_)))
            else {
                if let PathEl::MoveTo(p) = el {
                    contour.subpaths.push(Subpath { nodes: vec![Node::corner(p.x, p.y)], closed: false });
                    start = false;
                }
                continue;
            };
            match *el {
                PathEl::MoveTo(p) => {
                    contour.subpaths.push(Subpath { nodes: vec![Node::corner(p.x, p.y)], closed: false });
                }
                PathEl::LineTo(p) => subpath.nodes.push(Node::corner(p.x, p.y)),
                PathEl::QuadTo(q, p) => {
                    let from = subpath.nodes.last().map_or(p, Node::point);
                    subpath.curve(from + (q - from) * (2.0 / 3.0), p + (q - p) * (2.0 / 3.0), p);
                }
                PathEl::CurveTo(a, b, p) => subpath.curve(a, b, p),
                PathEl::ClosePath => subpath.close(),
            }
        }
        contour.subpaths.retain(|s| s.nodes.len() > 1);
        contour.subpaths.iter_mut().flat_map(|s| &mut s.nodes).for_each(|n| n.smooth = in_line(n));
        contour
    }
}

impl Subpath {
    fn curve(&mut self, a: Point, b: Point, p: Point) {
        if let Some(last) = self.nodes.last_mut() {
            last.after = handle(a - last.point());
        }
        self.nodes.push(Node { before: handle(b - p), ..Node::corner(p.x, p.y) });
    }

    /// A last node on top of the first one is the first one.
    fn close(&mut self) {
        self.closed = true;
        if let [first, .., last] = self.nodes.as_mut_slice()
            && (first.point() - last.point()).hypot() < 1e-9
        {
            first.before = last.before;
            self.nodes.pop();
        }
    }
}

fn handle(v: Vec2) -> Option<[f64; 2]> {
    (v.hypot() > 1e-12).then_some([v.x, v.y])
}

fn in_line(node: &Node) -> bool {
    let (Some([ax, ay]), Some([bx, by])) = (node.before, node.after) else {
        return false;
    };
    let (a, b) = (Vec2::new(ax, ay), Vec2::new(bx, by));
    a.dot(b) < 0.0 && a.cross(b).abs() < 1e-3 * a.hypot() * b.hypot()
}

fn side(path: &mut BezPath, from: &Node, to: &Node) {
    let shift = |p: &Node, handle: Option<[f64; 2]>| p.point() + handle.map_or(Vec2::ZERO, |[x, y]| Vec2::new(x, y));
    match (from.after, to.before) {
        (None, None) => path.line_to(to.point()),
        (a, b) => path.curve_to(shift(from, a), shift(to, b), to.point()),
    }
}
