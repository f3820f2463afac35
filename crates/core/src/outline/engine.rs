//! What the sheet's words for joins and lines mean to the engine in [`crate::combine`].

use crate::combine::{self, LineStyle, Rule};
use crate::sheet::{Join, LineCorner, LineEnd, LineSide, OwnLine};

impl From<Join> for Rule {
    fn from(join: Join) -> Self {
        match join {
            Join::Add => Self::Union,
            Join::CutAway => Self::Difference,
            Join::KeepShared => Self::Intersection,
            Join::DropShared => Self::Xor,
        }
    }
}

impl From<OwnLine> for LineStyle {
    fn from(line: OwnLine) -> Self {
        Self {
            width: line.width,
            side: match line.side {
                LineSide::Inside => combine::LineSide::Inside,
                LineSide::Centre => combine::LineSide::Centre,
                LineSide::Outside => combine::LineSide::Outside,
            },
            corners: match line.corners {
                LineCorner::Miter => kurbo::Join::Miter,
                LineCorner::Round => kurbo::Join::Round,
                LineCorner::Bevel => kurbo::Join::Bevel,
            },
            ends: match line.ends {
                LineEnd::Butt => kurbo::Cap::Butt,
                LineEnd::Round => kurbo::Cap::Round,
                LineEnd::Square => kurbo::Cap::Square,
            },
        }
    }
}
