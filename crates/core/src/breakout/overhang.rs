//! What reaches over the edge of an opening.

use crate::memo::Weight;
use kurbo::{BezPath, Point};

/// A part of the subject that reaches over the edge of the opening.
#[derive(Debug, Clone)]
pub struct Overhang {
    /// Its deepest point, in photo space.
    pub anchor: Point,
    /// Its outline, in photo space.
    pub outline: BezPath,
    /// Its area as a share of the photo's.
    pub share: f64,
    /// Whether it lies in a hole of the opening, as within the ring of an O.
    pub counter: bool,
    /// Whether it is cut off by the end of the photo: let out, it shows a straight cut.
    pub cut_off: bool,
    /// The contours of the opening that it lies against, by their place in it.
    pub touches: Vec<usize>,
    /// Which of the given anchors let it out; none if it stays in.
    pub let_out_by: Vec<usize>,
}

/// All overhangs, the largest first, and the region that is let out.
#[derive(Debug, Clone, Default)]
pub struct Overhangs {
    pub parts: Vec<Overhang>,
    /// Where the cut-out shows, in photo space: the parts that are let out with their soft edges, reaching a little
    /// under the photo inside of the opening. Empty if nothing is let out.
    pub released: BezPath,
}

impl Weight for Overhangs {
    fn weight(&self) -> u64 {
        let paths = self.parts.iter().map(|p| &p.outline).chain([&self.released]);
        let elements: usize = paths.map(|p| p.elements().len()).sum();
        (elements * size_of::<kurbo::PathEl>() + self.parts.len() * size_of::<Overhang>()) as u64
    }
}
