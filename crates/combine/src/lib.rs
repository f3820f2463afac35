//! Joining forms into one compound outline.
//!
//! Curves are flattened, every flat edge remembering the piece of curve it came from; the polygon engine
//! computes the join; then the runs of edges of the same curve are replaced by that stretch of the curve. So the
//! result keeps true curves, and has about as many nodes as what went in.

mod cells;
pub mod check;
mod crossing;
mod flatten;
mod line;
mod provenance;
mod round;
mod specks;

pub use cells::{Cell, cells, cells_one_by_one, covering, inner_point};
pub use flatten::{area, closed_segments, contains, flatten_tolerance, steps};
pub use line::{LineSide, LineStyle, grow, own_line};
pub use provenance::{Rule, join_pair, unite, unite_even_odd};
pub use round::{contours, nodes, round_corners, simplify};
pub use specks::{Part, parts};

use kurbo::{BezPath, Shape};

/// A form on its way into a join: its outline (nonzero rule), and how it acts on what stands before it.
#[derive(Debug, Clone)]
pub struct Operand {
    pub path: BezPath,
    pub rule: Rule,
    /// Its contours are known not to overlap.
    pub united: bool,
}

/// Joins a list of forms in order into contours that do not overlap (nonzero rule, even-odd gives the same).
///
/// The first operand is always added, whatever its rule says.
pub fn join_all(operands: &[Operand]) -> BezPath {
    let Some((first, rest)) = operands.split_first() else {
        return BezPath::new();
    };
    let mut result = if first.united { first.path.clone() } else { unite(&first.path) };
    for operand in rest {
        result = join_local(&result, &operand.path, operand.rule);
    }
    result
}

/// [`join_pair`] for an `a` without overlaps: contours of `a` whose boxes lie away from `b` are taken or left as they are, so
/// that a small form joined to a print of thousands of nodes costs little.
pub fn join_local(a: &BezPath, b: &BezPath, rule: Rule) -> BezPath {
    if b.is_empty() || !b.is_finite() {
        return if rule == Rule::Intersection { BezPath::new() } else { a.clone() };
    }
    let reach = b.bounding_box();
    // boxes that only touch take part: flush sides must merge
    let slack = 1e-6 * (reach.width() + reach.height());
    let reach = reach.inflate(slack, slack);
    let (near, far): (Vec<BezPath>, Vec<BezPath>) =
        contours(a).into_iter().partition(|c| c.bounding_box().overlaps(reach));
    let near: BezPath = near.iter().flat_map(|c| c.elements().iter().copied()).collect();
    let mut result = join_pair(&near, b, rule);
    if rule != Rule::Intersection {
        far.iter().for_each(|c| result.extend(c.elements().iter().copied()));
    }
    result
}
