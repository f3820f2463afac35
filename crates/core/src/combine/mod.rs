//! Joining forms into one compound outline.
//!
//! Curves are flattened, every flat edge remembering the piece of curve it came from; the polygon engine
//! computes the join; then the runs of edges of the same curve are replaced by that stretch of the curve. So the
//! result keeps true curves, and has about as many nodes as what went in.

mod coverage;
mod crossing;
mod flatten;
mod provenance;

pub use coverage::coverage;
pub use flatten::{area, contains, flatten_tolerance};
pub use provenance::{Rule, join_pair, unite};

use crate::sheet::Join;
use kurbo::BezPath;

/// A form on its way into a join: its outline (nonzero rule), and how it acts on what stands before it.
#[derive(Debug, Clone)]
pub struct Operand {
    pub path: BezPath,
    pub join: Join,
}

/// Joins a list of forms in order into contours that do not overlap (nonzero rule, even-odd gives the same).
///
/// The first operand is always added, whatever its join says.
pub fn join_all(operands: &[Operand]) -> BezPath {
    let Some((first, rest)) = operands.split_first() else {
        return BezPath::new();
    };
    let mut result = unite(&first.path);
    for operand in rest {
        result = join_pair(&result, &operand.path, operand.join.into());
    }
    result
}

impl From<Join> for Rule {
    fn from(join: Join) -> Self {
        match join {
            Join::Add => Rule::Union,
            Join::CutAway => Rule::Difference,
            Join::KeepShared => Rule::Intersection,
            Join::DropShared => Rule::Xor,
        }
    }
}

#[cfg(test)]
mod tests;
