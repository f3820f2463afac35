//! Where parts that are let out are cut from those that stay in, and how such cuts are moved and drawn.

use super::division::Division;
use super::neighbours::{beside, flood};
use super::overhang::Cut;
use crate::cutout::regions::{Connectivity, regions};
use crate::grid::Grid;
use kurbo::{Line, Point, Vec2};
use std::collections::BTreeMap;

/// A cut that is shorter is none, in working pixels.
const SHORTEST: f64 = 6.0;
/// Lines between parts are so many working pixels wide, and belong to neither.
const LINE: usize = 3;
/// Half the width of a line that severs, in working pixels: no way of pixels beside one another leads across.
const HALF: f64 = 0.71;
/// What lies so near to a cut lies beside it, in working pixels.
const NEAR: f64 = 3.0;
/// A region that has more than this share of its way along a line on the lesser side is not severed by it.
const UNSEVERED: f64 = 0.25;

impl Division<'_> {
    /// The parts, with the lines between them given to one or the other.
    pub fn closed(&self) -> Grid<u32> {
        let mut labels = self.labels.clone();
        flood(&mut labels, LINE, |i| self.out.data[i] > 0.5);
        labels
    }

    /// The cuts between the parts that are let out and the others.
    pub(super) fn cuts(&self, is_out: &[bool]) -> Vec<Cut> {
        if !is_out.contains(&true) || !is_out.contains(&false) {
            return Vec::new();
        }
        let labels = self.closed();
        let (w, h) = (labels.width, labels.height);
        let out = |label: u32| label > 0 && is_out[label as usize - 1];
        // the pixels of parts that are out, beside what stays in, with their neighbour
        let mut edge = Grid::filled(w, h, false);
        let mut neighbours = BTreeMap::new();
        for i in (0..labels.data.len()).filter(|i| out(labels.data[*i])) {
            let other = beside(i, w, h).map(|j| (j, labels.data[j])).find(|(_, l)| *l > 0 && !out(*l));
            if let Some((j, l)) = other {
                edge.data[i] = true;
                neighbours.insert(i, (j, l));
            }
        }
        let (runs, _) = regions(&edge, Connectivity::Eight);
        let mut places: BTreeMap<(u32, u32, u32), Vec<Point>> = BTreeMap::new();
        let middle = |i: usize| Vec2::new((i % w) as f64 + 0.5, (i / w) as f64 + 0.5);
        for (i, (j, other)) in neighbours {
            let place = ((middle(i) + middle(j)) / 2.0).to_point();
            places.entry((labels.data[i], other, runs.data[i])).or_default().push(place);
        }
        let back = self.matte.photo_to_working().inverse();
        let lines = places.into_iter().map(|((of, ..), places)| (of, straight(&places)));
        lines.filter(|(_, l)| l.p0.distance(l.p1) >= SHORTEST).map(|(of, line)| Cut { of, line: back * line }).collect()
    }

    /// The parts with a cut of one of them moved (photo space), and the part that it was cut from; None where the line does not sever what it
    /// would have to, or where nothing lies on the other side of the old one.
    pub fn moved(&self, part: u32, from: Line, to: Line) -> Option<(Grid<u32>, u32)> {
        let map = self.matte.photo_to_working();
        let (from, to) = (map * from, map * to);
        let mut labels = self.closed();
        let (w, h) = (labels.width, labels.height);
        // who lies beside the old line, and on which side
        let (mut sides, mut others) = (0, BTreeMap::new());
        for (i, near) in near(&from, w, h) {
            match labels.data[i] {
                l if l == part => sides += if near > 0.0 { 1 } else { -1 },
                l if l > 0 => *others.entry(l).or_insert(0) += 1,
                _ => {}
            }
        }
        let other = others.into_iter().max_by_key(|(_, count)| *count)?.0;
        let left = sides > 0;
        let (own, rest) = (severed(&labels, part, to)?, severed(&labels, other, to)?);
        let gives: Vec<bool> = own.sides.iter().map(|side| side.is_some_and(|l| l != left)).collect();
        let mut takes: Vec<bool> = rest.sides.iter().map(|side| *side == Some(left)).collect();
        // only what lies between the old line and the new one
        let mut touches = vec![false; takes.len()];
        for i in (0..labels.data.len()).filter(|i| rest.pieces.data[*i] > 0) {
            touches[rest.pieces.data[i] as usize] |= beside(i, w, h).any(|j| labels.data[j] == part);
        }
        takes.iter_mut().zip(touches).for_each(|(takes, touches)| *takes &= touches);
        let mut changed = false;
        for (i, label) in labels.data.iter_mut().enumerate() {
            let was = *label;
            match (own.pieces.data[i] as usize, rest.pieces.data[i] as usize) {
                _ if own.line.data[i] || rest.line.data[i] => *label = 0,
                (k, _) if k > 0 && gives[k] => *label = other,
                (_, k) if k > 0 && takes[k] => *label = part,
                _ => {}
            }
            changed |= *label > 0 && *label != was;
        }
        flood(&mut labels, LINE, |i| self.out.data[i] > 0.5);
        let there = |l: u32| labels.data.contains(&l);
        (changed && there(part) && there(other)).then_some((labels, other))
    }

    /// The parts with one of them cut in two along a line (photo space), and the new one; None where the line does not sever it.
    pub fn cut(&self, part: u32, along: Line) -> Option<(Grid<u32>, u32)> {
        let mut labels = self.closed();
        let new = self.count as u32 + 1;
        let pieces = severed(&labels, part, self.matte.photo_to_working() * along)?;
        for (i, label) in labels.data.iter_mut().enumerate().filter(|(_, l)| **l == part) {
            match pieces.pieces.data[i] as usize {
                _ if pieces.line.data[i] => *label = 0,
                k if pieces.sides[k] == Some(true) => *label = new,
                _ => {}
            }
        }
        flood(&mut labels, LINE, |i| self.out.data[i] > 0.5);
        let there = |l: u32| labels.data.contains(&l);
        (there(part) && there(new)).then_some((labels, new))
    }
}

/// A part along a line.
struct Severed {
    /// What the line leaves of it, in connected pieces from 1 on.
    pieces: Grid<u32>,
    /// The line itself, where it lies in the part.
    line: Grid<bool>,
    /// Of each piece whether it lies on the line's left; None for one that does not lie beside it.
    sides: Vec<Option<bool>>,
}

/// None where a piece goes on around an end of the line.
fn severed(labels: &Grid<u32>, part: u32, line: Line) -> Option<Severed> {
    let (w, h) = (labels.width, labels.height);
    let inside = |p: Point| {
        let within = p.x >= 0.0 && p.y >= 0.0 && p.x < w as f64 && p.y < h as f64;
        within && labels.at(p.x as usize, p.y as usize) == part
    };
    let way = line.p1 - line.p0;
    if !way.is_finite() || way.hypot() < 0.5 {
        return None;
    }
    // an end that lies in the part goes on until it is out of it
    let step = way / way.hypot();
    let extended = |mut p: Point, step: Vec2| {
        while inside(p) {
            p += step;
        }
        p + step
    };
    let line = Line::new(extended(line.p0, -step), extended(line.p1, step));
    let mut own = Grid { data: labels.data.iter().map(|l| *l == part).collect(), ..Grid::filled(w, h, false) };
    let mut barrier = Grid::filled(w, h, false);
    let beside: Vec<(usize, f64)> = near(&line, w, h).into_iter().filter(|(i, _)| own.data[*i]).collect();
    for (i, _) in beside.iter().filter(|(_, far)| far.abs() <= HALF) {
        barrier.data[*i] = true;
        own.data[*i] = false;
    }
    let (pieces, sizes) = regions(&own, Connectivity::Four);
    let mut counts = vec![[0_usize; 2]; sizes.len()];
    for (i, far) in beside.iter().filter(|(_, far)| far.abs() > HALF) {
        counts[pieces.data[*i] as usize][usize::from(*far > 0.0)] += 1;
    }
    let mut sides = vec![None; sizes.len()];
    for (k, [right, left]) in counts.into_iter().enumerate().skip(1).filter(|(_, [r, l])| r + l > 0) {
        if right.min(left) as f64 > UNSEVERED * right.max(left) as f64 {
            return None;
        }
        sides[k] = Some(left > right);
    }
    Some(Severed { pieces, line: barrier, sides })
}

/// The pixels beside a line (pixels), with how far they lie from it: positive on its left, where y points down.
fn near(line: &Line, w: usize, h: usize) -> Vec<(usize, f64)> {
    let way = line.p1 - line.p0;
    let long = way.hypot();
    if !long.is_finite() || long == 0.0 {
        return Vec::new();
    }
    let along = way / long;
    let span = |a: f64, b: f64, most: usize| {
        let (from, to) = (a.min(b) - NEAR, a.max(b) + NEAR);
        from.clamp(0.0, most as f64).floor() as usize..to.clamp(0.0, most as f64).ceil() as usize
    };
    let mut all = Vec::new();
    for y in span(line.p0.y, line.p1.y, h) {
        for x in span(line.p0.x, line.p1.x, w) {
            let at = Point::new(x as f64 + 0.5, y as f64 + 0.5) - line.p0;
            let far = at.cross(along);
            if far.abs() <= NEAR && (0.0..=long).contains(&at.dot(along)) {
                all.push((y * w + x, far));
            }
        }
    }
    all
}

/// The straight line that comes nearest to points, as far as they go along it.
fn straight(points: &[Point]) -> Line {
    let mean = points.iter().fold(Vec2::ZERO, |sum, p| sum + p.to_vec2()) / points.len() as f64;
    let [mut xx, mut xy, mut yy] = [0.0; 3];
    for p in points {
        let d = p.to_vec2() - mean;
        xx += d.x * d.x;
        xy += d.x * d.y;
        yy += d.y * d.y;
    }
    // the main direction of their spread
    let along = Vec2::from_angle(0.5 * (2.0 * xy).atan2(xx - yy));
    let ends = points.iter().map(|p| (p.to_vec2() - mean).dot(along));
    let (from, to) = ends.fold((0.0_f64, 0.0_f64), |(a, b), t| (a.min(t), b.max(t)));
    Line::new((mean + along * from).to_point(), (mean + along * to).to_point())
}
