//! Following an edge of a photo between two points.
//!
//! Method: live-wire (E. Mortensen and W. Barrett, "Intelligent Scissors for Image Composition", 1995): the cheapest way
//! through the pixels, where strong edges cost little. The way is then fitted with curves.

use crate::combine::few_curves;
use crate::grid::Grid;
use crate::photo::resize;
use crate::sheet::{Contour, Node};
use crate::ways::Ways;
use image::RgbaImage;
use kurbo::{Affine, BezPath, PathSeg, Point};

/// Long side of the picture that edges are looked for in.
const WORKING: f64 = 1400.0;
/// How far around a point the strongest edge draws it, in working pixels.
const DRAW: i64 = 5;
/// How far the curves may stray from the pixels, in working pixels.
const STRAY: f64 = 1.3;

/// What it costs to pass each pixel of a photo.
pub struct EdgeMap {
    /// 0 on the strongest edges, 1 where nothing changes.
    cost: Grid<f32>,
    /// Working pixels for one pixel of the photo.
    scale: f64,
}

impl EdgeMap {
    /// Bytes that it takes.
    pub fn bytes(&self) -> u64 {
        (self.cost.data.len() * size_of::<f32>()) as u64
    }

    /// Looks for edges in light and colour (Sobel, the strongest channel).
    pub fn new(photo: &RgbaImage) -> Self {
        let long = f64::from(photo.width().max(photo.height()));
        let scale = (WORKING / long).min(1.0);
        let side = |v: u32| (f64::from(v) * scale).round().max(1.0) as u32;
        let (w, h) = (side(photo.width()), side(photo.height()));
        let small = if scale < 1.0 { resize(photo, w, h) } else { photo.clone() };
        let small = image::imageops::blur(&small, 0.8);
        let (w, h) = (w as usize, h as usize);
        let at = |x: i64, y: i64, c: usize| {
            let x = x.clamp(0, w as i64 - 1) as u32;
            let y = y.clamp(0, h as i64 - 1) as u32;
            f32::from(small.get_pixel(x, y).0[c])
        };
        let mut strength = vec![0.0_f32; w * h];
        for (i, s) in strength.iter_mut().enumerate() {
            let (x, y) = ((i % w) as i64, (i / w) as i64);
            for c in 0..4 {
                let row = |dy: i64| at(x + 1, y + dy, c) - at(x - 1, y + dy, c);
                let column = |dx: i64| at(x + dx, y + 1, c) - at(x + dx, y - 1, c);
                let gx = row(-1) + 2.0 * row(0) + row(1);
                let gy = column(-1) + 2.0 * column(0) + column(1);
                *s = s.max(gx.hypot(gy));
            }
        }
        // the strongest hundredth counts as full strength, so that one highlight does not flatten the rest
        let mut sorted = strength.clone();
        let at = (sorted.len() * 99 / 100).min(sorted.len().saturating_sub(1));
        let (_, full, _) = sorted.select_nth_unstable_by(at, f32::total_cmp);
        let full = full.max(1.0);
        let data = strength.iter().map(|s| 1.0 - (s / full).min(1.0)).collect();
        Self { cost: Grid { width: w, height: h, data }, scale }
    }

    /// The way from one point to another along the strongest edge, as nodes in photo space; the first node lies at `from`.
    ///
    /// The end is drawn to the strongest edge close to `to`. Points outside of the photo are taken to its border.
    pub fn between(&self, from: Point, to: Point) -> Vec<Node> {
        let start = self.cell(from);
        let end = self.drawn(self.cell(to));
        let way = self.way(start, end);
        if way.len() < 2 {
            return vec![Node::corner(from.x, from.y)];
        }
        let sides: Vec<PathSeg> = curve_through(&way).segments().collect();
        let smooth = BezPath::from_path_segments(few_curves(&sides, STRAY).into_iter());
        let mut nodes = Contour::from_path(&(Affine::scale(1.0 / self.scale) * smooth))
            .subpaths
            .into_iter()
            .next()
            .map(|s| s.nodes)
            .unwrap_or_default();
        if let Some(first) = nodes.first_mut() {
            (first.x, first.y) = (from.x, from.y);
        }
        nodes
    }

    fn cell(&self, p: Point) -> (usize, usize) {
        let within = |v: f64, n: usize| (v * self.scale).clamp(0.0, n as f64 - 1.0) as usize;
        (within(p.x, self.cost.width), within(p.y, self.cost.height))
    }

    fn at(&self, x: usize, y: usize) -> f32 {
        self.cost.data[y * self.cost.width + x]
    }

    fn drawn(&self, (x, y): (usize, usize)) -> (usize, usize) {
        let mut best = (self.at(x, y), x, y);
        for dy in -DRAW..=DRAW {
            for dx in -DRAW..=DRAW {
                let (Some(u), Some(v)) = (x.checked_add_signed(dx as isize), y.checked_add_signed(dy as isize)) else {
                    continue;
                };
                if dx * dx + dy * dy > DRAW * DRAW || u >= self.cost.width || v >= self.cost.height {
                    continue;
                }
                let cost = self.at(u, v) + 0.01 * ((dx * dx + dy * dy) as f32).sqrt();
                if cost < best.0 {
                    best = (cost, u, v);
                }
            }
        }
        (best.1, best.2)
    }

    /// Dijkstra's cheapest way over eight neighbours, within a box around both ends.
    fn way(&self, start: (usize, usize), end: (usize, usize)) -> Vec<(usize, usize)> {
        let room = 24 + start.0.abs_diff(end.0).max(start.1.abs_diff(end.1)) / 3;
        let (x0, y0) = (start.0.min(end.0).saturating_sub(room), start.1.min(end.1).saturating_sub(room));
        let x1 = (start.0.max(end.0) + room).min(self.cost.width - 1);
        let y1 = (start.1.max(end.1) + room).min(self.cost.height - 1);
        let (w, h) = (x1 - x0 + 1, y1 - y0 + 1);
        let index = |(x, y): (usize, usize)| (y - y0) * w + (x - x0);
        // squared, so that a detour along an edge is worth it; a floor keeps ways short
        let pass = |i: usize| Some(((self.at(i % w + x0, i / w + y0).powi(2) + 0.03) * 1000.0) as u32);
        let way = Ways::new((w, h), index(start), Some(index(end)), pass).way_to(index(end));
        way.into_iter().map(|i| (i % w + x0, i / w + y0)).collect()
    }
}

/// A smooth curve along pixels: every inner point is the mean of itself and its neighbours, twice, against the stairs; every
/// fourth one is kept, and a Catmull-Rom spline runs through those.
fn curve_through(way: &[(usize, usize)]) -> BezPath {
    let mut points: Vec<Point> = way.iter().map(|(x, y)| Point::new(*x as f64 + 0.5, *y as f64 + 0.5)).collect();
    for _ in 0..2 {
        let before = points.clone();
        for i in 1..points.len().saturating_sub(1) {
            let sum = before[i - 1].to_vec2() + before[i].to_vec2() * 2.0 + before[i + 1].to_vec2();
            points[i] = (sum / 4.0).to_point();
        }
    }
    let last = points.len().saturating_sub(1);
    let kept: Vec<Point> =
        points.iter().enumerate().filter(|(i, _)| i % 4 == 0 || *i == last).map(|(_, p)| *p).collect();
    let mut path = BezPath::new();
    let at = |i: usize| kept[i.min(kept.len() - 1)];
    for i in 0..kept.len() {
        if i == 0 {
            path.move_to(kept[0]);
            continue;
        }
        let (before, from, to, after) = (at(i.saturating_sub(2)), at(i - 1), at(i), at(i + 1));
        path.curve_to(from + (to - before) / 6.0, to - (after - from) / 6.0, to);
    }
    path
}
