//! Joining forms into one compound outline.
//!
//! Curves are flattened, every flat edge remembering the piece of curve it came from; the polygon engine
//! computes the join; then the runs of edges of the same curve are replaced by that stretch of the curve. So the
//! result keeps true curves, and has about as many nodes as what went in.

mod bounds;
mod cells;
pub mod check;
mod components;
mod crossing;
mod fit;
mod flatten;
mod joins;
mod line;
mod round;
mod strip;
mod tangle;

pub use bounds::bounds;
pub use cells::{Cell, cells, cells_one_by_one, covering, inner_point};
pub use components::{Part, clusters, parts};
pub use fit::few_curves;
pub use flatten::{area, closed_segments, contains, flatten_tolerance, steps};
pub use joins::{Rule, join_pair, unite, unite_even_odd};
pub use line::{LineSide, LineStyle, grow, own_line};
pub use round::{contours, nodes, round_corners, simplify};
pub use strip::strip_along;
pub use tangle::crossings;

use bounds::{bounds_of, control_box};
use kurbo::{BezPath, Rect};
use round::subpaths;

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
        result = if operand.united {
            join_apart(&result, &operand.path, operand.rule)
        } else {
            join_local(&result, &operand.path, operand.rule)
        };
    }
    result
}

/// [`join_local`] for a `b` without overlaps as well: its contours whose boxes lie away from `a` are taken as they are, or dropped.
///
/// A hole cannot come without what it is a hole of: its box lies in the other's. The other without such a hole acts on `a` no
/// differently, as `a` does not reach into it.
fn join_apart(a: &BezPath, b: &BezPath, rule: Rule) -> BezPath {
    if a.is_empty() || b.is_empty() || !b.is_finite() {
        return join_local(a, b, rule);
    }
    let (near, far) = divided(b, bounds(a));
    let mut result = join_local(a, &near, rule);
    if matches!(rule, Rule::Union | Rule::Xor) {
        result.extend(far);
    }
    result
}

/// The contours of a path whose boxes overlap `area`, and the others.
fn divided(path: &BezPath, area: Rect) -> (BezPath, BezPath) {
    // boxes that only touch take part: flush sides must merge
    let slack = 1e-6 * (area.width() + area.height());
    let area = area.inflate(slack, slack);
    let (mut near, mut far) = (Vec::new(), Vec::with_capacity(path.elements().len()));
    for subpath in subpaths(path) {
        let takes_part = control_box(subpath).overlaps(area) && bounds_of(subpath).overlaps(area);
        if takes_part { &mut near } else { &mut far }.extend_from_slice(subpath);
    }
    (BezPath::from_vec(near), BezPath::from_vec(far))
}

/// [`join_pair`] for an `a` without overlaps: contours of `a` whose boxes lie away from `b` are taken or left as they are, so
/// that a small form joined to a print of thousands of nodes costs little.
pub fn join_local(a: &BezPath, b: &BezPath, rule: Rule) -> BezPath {
    if b.is_empty() || !b.is_finite() {
        return if rule == Rule::Intersection { BezPath::new() } else { a.clone() };
    }
    let (near, far) = divided(a, bounds(b));
    let mut result = join_pair(&near, b, rule);
    if rule != Rule::Intersection {
        result.extend(far);
    }
    result
}
