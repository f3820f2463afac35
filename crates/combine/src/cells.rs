//! The cells into which overlapping forms divide the plane.

use crate::components::parts;
use crate::joins::{Rule, join_pair, unite};
use crate::{area, contains};
use kurbo::{BezPath, PathEl, Point, Rect, Shape};
use linesweeper::topology::{ContourIdx, Contours, Topology, WindingNumber};
use std::collections::{BTreeMap, BTreeSet, HashMap};
use std::panic::{AssertUnwindSafe, catch_unwind};

/// A region that the same forms cover all over.
#[derive(Debug, Clone)]
pub struct Cell {
    /// Places of the covering outlines in the list that was given, rising.
    pub cover: Vec<usize>,
    /// Its outline with holes, without overlaps.
    pub path: BezPath,
    /// Square units.
    pub area: f64,
}

/// Divides the plane by outlines without overlaps of their own. What no outline covers is no cell.
///
/// One sweep over all curves; each face between them knows which outlines wind around it. The areas of the result are
/// compared with those of the outlines; where they do not add up, the cells are found by joining outline after outline, which takes longer.
pub fn cells(outlines: &[BezPath]) -> Vec<Cell> {
    let all: BezPath = outlines.iter().flat_map(|p| p.elements().iter().copied()).collect();
    if all.is_empty() || !all.is_finite() {
        return Vec::new();
    }
    // every outline is the sum of the cells that it covers
    let whole: f64 = outlines.iter().map(area).sum();
    // the sweep is another's code on people's input: a panic in it must not end the process
    let swept = catch_unwind(AssertUnwindSafe(|| sweep(outlines))).ok().flatten();
    if let Some(cells) = swept {
        let sum: f64 = cells.iter().map(|c| c.area * c.cover.len() as f64).sum();
        if (sum - whole).abs() <= 2e-5 * whole {
            return cells;
        }
        tracing::warn!(sum, whole, outlines = outlines.len(), "cells did not add up, joined one by one instead");
    } else {
        tracing::warn!(outlines = outlines.len(), "the sweep failed, cells joined one by one instead");
    }
    cells_one_by_one(outlines)
}

/// Which outlines wind how often around a place, sorted by outline, zeros left out.
#[derive(Debug, Clone, Default, PartialEq, Eq, Hash, PartialOrd, Ord)]
struct Cover(Vec<(u32, i32)>);

impl std::ops::AddAssign for Cover {
    fn add_assign(&mut self, other: Self) {
        for (tag, n) in other.0 {
            match self.0.binary_search_by_key(&tag, |c| c.0) {
                Ok(i) => {
                    self.0[i].1 += n;
                    if self.0[i].1 == 0 {
                        self.0.remove(i);
                    }
                }
                Err(i) => self.0.insert(i, (tag, n)),
            }
        }
    }
}

impl std::ops::Add for Cover {
    type Output = Self;

    fn add(mut self, other: Self) -> Self {
        self += other;
        self
    }
}

impl WindingNumber for Cover {
    type Tag = u32;

    fn single(tag: u32, positive: bool) -> Self {
        Self(vec![(tag, if positive { 1 } else { -1 })])
    }

    fn of_tag(&self, tag: u32) -> Self {
        Self(self.0.iter().copied().filter(|c| c.0 == tag).collect())
    }
}

impl Cover {
    fn outlines(&self) -> Vec<usize> {
        self.0.iter().map(|c| c.0 as usize).collect()
    }
}

/// The two ends of an edge, bit by bit.
type Ends = [u64; 4];

fn ends(p: Point, q: Point) -> Ends {
    [p.x.to_bits(), p.y.to_bits(), q.x.to_bits(), q.y.to_bits()]
}

fn sweep(outlines: &[BezPath]) -> Option<Vec<Cell>> {
    let tagged = outlines.iter().enumerate().filter(|(_, p)| !p.is_empty()).map(|(i, p)| (p, i as u32));
    let size = outlines.iter().map(Shape::bounding_box).reduce(|a, b| a.union(b))?;
    let topology = Topology::<Cover>::from_paths(tagged, 1e-9 * size.width().max(size.height())).ok()?;
    // faces that share an edge must be asked for apart, or they come as one
    let mut beside: BTreeMap<Cover, BTreeSet<Cover>> = BTreeMap::new();
    let mut edges: HashMap<Ends, Vec<Cover>> = HashMap::new();
    for segment in topology.segment_indices() {
        let half = segment.first_half();
        let (a, b) = (topology.winding_clockwise(half), topology.winding_counter_clockwise(half));
        if a == b {
            continue;
        }
        let (p, q) = (topology.point(half).to_kurbo(), topology.point(segment.second_half()).to_kurbo());
        for key in [ends(p, q), ends(q, p)] {
            edges.entry(key).or_default().extend([a.clone(), b.clone()]);
        }
        beside.entry(a.clone()).or_default().insert(b.clone());
        beside.entry(b.clone()).or_default().insert(a.clone());
    }
    let colours = coloured(&beside);
    let count = colours.values().copied().max().map_or(0, |k| k + 1);
    let mut cells = Vec::new();
    for colour in 0..count {
        let faces = topology.contours(|w| colours.get(w) == Some(&colour));
        for face in whole_faces(&faces) {
            let cover = cover_of(&face, &edges, |c| colours.get(c) == Some(&colour))
                .map_or_else(|| covering(&face, outlines), |c| c.outlines());
            let area = area(&face);
            cells.push(Cell { cover, path: face, area });
        }
    }
    cells.retain(|c| !c.cover.is_empty());
    cells.sort_by(|a, b| a.cover.cmp(&b.cover));
    Some(cells)
}

/// A colour for each cover, so that those which share an edge differ.
fn coloured(beside: &BTreeMap<Cover, BTreeSet<Cover>>) -> HashMap<Cover, usize> {
    let mut colours: HashMap<Cover, usize> = HashMap::new();
    for (cover, others) in beside.iter().filter(|(c, _)| !c.0.is_empty()) {
        let used: BTreeSet<usize> = others.iter().filter_map(|o| colours.get(o).copied()).collect();
        let free = (0..).find(|k| !used.contains(k)).unwrap_or(0);
        colours.insert(cover.clone(), free);
    }
    colours
}

/// Outer contours with their holes.
fn whole_faces(contours: &Contours) -> Vec<BezPath> {
    let mut faces: BTreeMap<usize, BezPath> = BTreeMap::new();
    let list = |i: usize| &contours[ContourIdx(i)];
    let n = contours.contours().count();
    for i in (0..n).filter(|&i| list(i).outer) {
        faces.insert(i, list(i).path.clone());
    }
    for hole in (0..n).map(list).filter(|c| !c.outer) {
        if let Some(face) = hole.parent.and_then(|ContourIdx(p)| faces.get_mut(&p)) {
            face.extend(hole.path.elements().iter().copied());
        }
    }
    faces.into_values().collect()
}

/// The cover that the edges of a face agree on.
fn cover_of(face: &BezPath, edges: &HashMap<Ends, Vec<Cover>>, here: impl Fn(&Cover) -> bool) -> Option<Cover> {
    let mut found: BTreeSet<&Cover> = BTreeSet::new();
    let mut last = Point::ZERO;
    for el in face.elements() {
        let Some(p) = el.end_point() else { continue };
        if !matches!(el, PathEl::MoveTo(_)) {
            found.extend(edges.get(&ends(last, p)).into_iter().flatten().filter(|c| here(c)));
        }
        last = p;
    }
    if found.len() == 1 { found.pop_first().cloned() } else { None }
}

/// Which outlines cover a face, tested at a point well inside of it.
pub fn covering(face: &BezPath, outlines: &[BezPath]) -> Vec<usize> {
    let Some(p) = inner_point(face) else {
        return Vec::new();
    };
    let b = face.bounding_box();
    let tolerance = 1e-4 * b.width().max(b.height());
    (0..outlines.len()).filter(|&i| contains(&outlines[i], p, tolerance)).collect()
}

/// A point inside of an outline, in the middle of the widest of a few level cuts through it.
pub fn inner_point(path: &BezPath) -> Option<Point> {
    let b: Rect = path.bounding_box();
    let mut best: Option<(f64, Point)> = None;
    for share in [0.5, 0.37, 0.63, 0.21, 0.79, 0.07, 0.93] {
        let y = b.y0 + share * b.height();
        let cut = kurbo::Line::new((b.x0 - 1.0, y), (b.x1 + 1.0, y));
        let mut xs: Vec<f64> = path
            .segments()
            .flat_map(|s| s.intersect_line(cut))
            .map(|hit| cut.p0.x + hit.line_t * (cut.p1.x - cut.p0.x))
            .collect();
        xs.sort_by(f64::total_cmp);
        for pair in xs.windows(2) {
            let (wide, middle) = (pair[1] - pair[0], Point::new((pair[0] + pair[1]) / 2.0, y));
            if best.is_none_or(|(w, _)| wide > w) && contains(path, middle, 1e-4 * b.width().max(b.height())) {
                best = Some((wide, middle));
            }
        }
        if best.is_some_and(|(w, _)| w > 0.2 * b.width()) {
            break;
        }
    }
    best.map(|(_, p)| p)
}

/// The same as [`cells`] by splitting every region with each outline in turn: slow, and a check on it.
pub fn cells_one_by_one(outlines: &[BezPath]) -> Vec<Cell> {
    let mut regions: Vec<(Vec<usize>, BezPath)> = Vec::new();
    for (i, outline) in outlines.iter().enumerate() {
        let mut rest = unite(outline);
        let mut next = Vec::new();
        for (cover, region) in regions {
            let shared = join_pair(&region, outline, Rule::Intersection);
            if shared.is_empty() {
                next.push((cover, region));
                continue;
            }
            rest = join_pair(&rest, &region, Rule::Difference);
            let outside = join_pair(&region, outline, Rule::Difference);
            let mut both = cover.clone();
            both.push(i);
            next.extend([(cover, outside), (both, shared)]);
        }
        next.push((vec![i], rest));
        next.retain(|(_, path)| !path.is_empty());
        regions = next;
    }
    let split = |(cover, path): (Vec<usize>, BezPath)| {
        parts(&path).into_iter().map(move |p| Cell { cover: cover.clone(), path: p.path, area: p.area })
    };
    let mut cells: Vec<Cell> = regions.into_iter().flat_map(split).collect();
    cells.sort_by(|a, b| a.cover.cmp(&b.cover));
    cells
}
