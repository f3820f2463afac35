//! What of the subject reaches over the edge of an opening, and what of that is let out.

mod chosen;
mod contour;
mod crossing;
mod crotches;
mod cuts;
mod division;
mod extent;
mod found_parts;
mod joint;
mod neck_lines;
mod necks;
mod neighbours;
mod overhang;
mod parting;
mod placed;
mod region;
mod release;
mod search;
mod touch;
mod trace;
mod working_matte;

pub use crate::cutout::coverage;
pub use chosen::{Chosen, ChosenRegion, region_path};
pub use crossing::Crossing;
pub use division::Division;
pub use found_parts::{FoundParts, PartsKeeper};
pub use joint::{JointOpening, JointOpenings, sharers};
pub use necks::divided;
pub use overhang::{Cut, Overhang, Overhangs};
pub use placed::PlacedMatte;
pub use region::Region;
pub use release::{Fade, Release, SubjectOf, WindowBreakout};
pub use search::{found_overhangs, overhangs, part_contour};
pub use touch::crosses;
pub use trace::trace;
pub use working_matte::WorkingMatte;
