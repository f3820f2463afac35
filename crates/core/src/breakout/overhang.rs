//! What reaches over the edge of an opening.

use crate::memo::Weight;
use kurbo::{BezPath, Line, Point};

/// A part of the subject that reaches over the edge of the opening.
#[derive(Debug, Clone)]
pub struct Overhang {
    /// What it is called by, from 1 on.
    pub number: u32,
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
    /// Whether it is let out.
    pub out: bool,
    /// The chosen region that it is; None for a part that was found.
    pub region: Option<usize>,
    /// Which of the given points let it out.
    pub let_out_by: Vec<usize>,
}

/// A place where a part that is let out is cut from one that stays in.
#[derive(Debug, Clone)]
pub struct Cut {
    /// The [`Overhang::number`] of the part that is let out.
    pub of: u32,
    /// The straight line that comes nearest to it, in photo space.
    pub line: Line,
}

/// All overhangs, the largest first, and the region that is let out.
#[derive(Debug, Clone, Default)]
pub struct Overhangs {
    pub parts: Vec<Overhang>,
    pub cuts: Vec<Cut>,
    /// Where the cut-out shows, in photo space: the parts that are let out with their soft edges, reaching a little
    /// under the photo inside of the opening. Empty if nothing is let out.
    pub released: BezPath,
}

impl Weight for Overhangs {
    fn weight(&self) -> u64 {
        let paths = self.parts.iter().map(|p| &p.outline).chain([&self.released]);
        let elements: usize = paths.map(|p| p.elements().len()).sum();
        (elements * size_of::<kurbo::PathEl>()
            + self.parts.len() * size_of::<Overhang>()
            + self.cuts.len() * size_of::<Cut>()) as u64
    }
}
