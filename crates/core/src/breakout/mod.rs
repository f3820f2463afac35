//! What of the subject reaches over the edge of an opening, and what of that is let out.

mod contour;
mod crossing;
mod crotches;
mod extent;
mod joint;
mod neck_lines;
mod necks;
mod neighbours;
mod overhang;
mod parting;
mod placed;
mod release;
mod search;
mod touch;
mod trace;
mod working_matte;

pub use crate::cutout::coverage;
pub use crossing::Crossing;
pub use joint::{JointOpening, JointOpenings, sharers};
pub use necks::divided;
pub use overhang::{Overhang, Overhangs};
pub use placed::PlacedMatte;
pub use release::{Release, SubjectOf, WindowBreakout};
pub use search::{found_overhangs, overhangs, part_contour};
pub use touch::crosses;
pub use trace::trace;
pub use working_matte::WorkingMatte;
