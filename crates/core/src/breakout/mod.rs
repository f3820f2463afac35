//! What of the subject reaches over the edge of an opening, and what of that is let out.

mod contour;
mod crotches;
mod extent;
mod neck_lines;
mod necks;
mod overhang;
mod parting;
mod placed;
mod touch;
mod trace;

pub use crate::cutout::coverage;
pub use necks::divided;
pub use overhang::{Overhang, Overhangs, WorkingMatte, overhangs, part_contour};
pub use placed::PlacedMatte;
pub use touch::{contours, crosses};
pub use trace::trace;
