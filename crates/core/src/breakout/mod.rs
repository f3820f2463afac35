//! What of the subject reaches over the edge of an opening, and what of that is let out.

mod coverage;
mod necks;
mod overhang;
mod trace;

pub use coverage::coverage;
pub use necks::divided;
pub use overhang::{Overhang, Overhangs, WorkingMatte, overhangs};
pub use trace::trace;
