//! What limits nodes: clips with a clear edge, and masks that fade.

use super::{Geometry, Length, Line, Role};
use kurbo::{Affine, BezPath, Rect};

/// What is outside of an outline is not seen.
#[derive(Debug, Clone, PartialEq)]
pub struct Clip {
    pub role: Role,
    pub geometry: Geometry,
    /// From the outline's space to that of the group it limits.
    pub transform: Affine,
}

/// Each place is seen by its share.
#[derive(Debug, Clone, PartialEq)]
pub struct Mask {
    /// Nothing is seen beyond it.
    pub region: Rect,
    pub coverage: Coverage,
}

/// A share, from 0 to 1, for every place.
#[derive(Debug, Clone, PartialEq)]
pub enum Coverage {
    /// Inside of an outline.
    Inside { role: Role, geometry: Geometry },
    /// Along an outline.
    Along { role: Role, geometry: Geometry, line: Line },
    /// All of the mask's region.
    All,
    /// Any of them: 1 - (1 - a)(1 - b).
    Any { role: Role, of: Vec<Coverage> },
    /// The first where the second is not: a (1 - b).
    Without(Box<Coverage>, Box<Coverage>),
    /// Where both are: a b.
    Both(Box<Coverage>, Box<Coverage>),
    /// Where just one is: a + b - 2 a b.
    OneOf(Box<Coverage>, Box<Coverage>),
    /// Blurred by a Gaussian of this standard deviation.
    Blurred(Box<Coverage>, Length),
}

impl Coverage {
    /// Nothing at all.
    pub const NOTHING: Self = Self::Any { role: Role::PART, of: Vec::new() };

    /// Whether no place has a share, as far as it can be told without drawing.
    pub fn is_nothing(&self) -> bool {
        matches!(self, Self::Any { of, .. } if of.iter().all(Self::is_nothing))
    }

    /// A box that holds all places with a share; three standard deviations of a blur count.
    pub fn bounds(&self, opening: &BezPath, region: Rect) -> Option<Rect> {
        match self {
            Self::Inside { geometry, .. } => Some(geometry.bounds(opening)),
            Self::Along { geometry, line, .. } => {
                // a mitre reaches four times as far as the line is wide, half of it on either side
                let far = 2.0 * line.width.mm();
                Some(geometry.bounds(opening).inflate(far, far))
            }
            Self::All => Some(region),
            Self::Any { of, .. } => of.iter().filter_map(|c| c.bounds(opening, region)).reduce(|a, b| a.union(b)),
            Self::Without(a, _) => a.bounds(opening, region),
            Self::Both(a, b) => {
                let both = a.bounds(opening, region)?.intersect(b.bounds(opening, region)?);
                (both.width() > 0.0 && both.height() > 0.0).then_some(both)
            }
            Self::OneOf(a, b) => {
                let each = [a, b].into_iter().filter_map(|c| c.bounds(opening, region));
                each.reduce(|a, b| a.union(b))
            }
            Self::Blurred(of, deviation) => {
                let far = 3.0 * deviation.mm();
                Some(of.bounds(opening, region)?.inflate(far, far))
            }
        }
    }
}
