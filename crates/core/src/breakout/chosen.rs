//! What a person has decided on of one subject, as overhangs are looked for by it.

use crate::cutout::{SubjectStroke, coverage};
use crate::grid::Grid;
use kurbo::{Affine, BezPath, Point, Shape};
use serde::Serialize;

/// What was chosen of one subject. All of it is in the space of the placed matte.
#[derive(Debug, Default)]
pub struct Chosen {
    /// Points that let out the part that each lies in.
    pub points: Vec<Point>,
    /// Parts with regions of their own, later ones over earlier ones.
    pub regions: Vec<ChosenRegion>,
    /// Corrections by hand.
    pub strokes: Vec<SubjectStroke>,
}

/// The region of a part. See [`crate::sheet::SubjectPart`].
#[derive(Debug, Clone)]
pub struct ChosenRegion {
    /// Closed polygons, to be filled by the even-odd rule.
    pub outline: BezPath,
    pub out: bool,
}

impl Chosen {
    /// All that results depend on but the outlines: those are hashed as paths.
    pub(super) fn told(&self) -> impl Serialize + '_ {
        let out: Vec<bool> = self.regions.iter().map(|r| r.out).collect();
        (&self.points, out, &self.strokes)
    }

    /// The number of the region, from 1 on, that each pixel of the working size lies in; 0 in none.
    pub(super) fn drawn(&self, to_working: Affine, width: usize, height: usize) -> Grid<u32> {
        let mut all = Grid::filled(width, height, 0);
        for (k, region) in self.regions.iter().enumerate() {
            draw(&mut all, &(to_working * &region.outline), k as u32 + 1);
        }
        all
    }
}

/// Polygons as a path.
pub fn region_path<'p>(
    polygons: impl IntoIterator<Item = &'p Vec<[f64; 2]>>,
    place: impl Fn(Point) -> Point,
) -> BezPath {
    let mut path = BezPath::new();
    for polygon in polygons {
        let mut points = polygon.iter().map(|[x, y]| place(Point::new(*x, *y)));
        if let Some(first) = points.next() {
            path.move_to(first);
            points.for_each(|p| path.line_to(p));
            path.close_path();
        }
    }
    path
}

/// Gives a label to the pixels that lie in a path (pixels) by more than half.
fn draw(all: &mut Grid<u32>, path: &BezPath, label: u32) {
    let bounds = path.bounding_box();
    let within = |v: f64, most: usize| v.clamp(0.0, most as f64) as usize;
    let (x0, y0) = (within(bounds.x0.floor(), all.width), within(bounds.y0.floor(), all.height));
    let (x1, y1) = (within(bounds.x1.ceil(), all.width), within(bounds.y1.ceil(), all.height));
    if x0 >= x1 || y0 >= y1 {
        return;
    }
    let cover = coverage(&(Affine::translate((-(x0 as f64), -(y0 as f64))) * path), x1 - x0, y1 - y0);
    for (y, line) in cover.data.chunks(x1 - x0).enumerate() {
        let own = &mut all.data[(y0 + y) * all.width + x0..];
        own.iter_mut().zip(line).filter(|(_, c)| **c > 0.5).for_each(|(own, _)| *own = label);
    }
}
