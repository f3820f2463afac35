//! Changes to a sheet, each as a value.
//!
//! [`apply`] is the only way a stored sheet changes: it checks an edit against the sheet and the limits, and gives the new
//! sheet or a sentence that says why not. The old sheet is left as it was.

mod amend;
mod apply;
mod breakout;
mod bundle_members;
mod bundles;
mod deal;
mod dissolve;
mod edits;
mod fills;
mod forms;
mod inks;
mod member_change;
mod moves;
mod names;
mod opening;
mod opening_change;
mod parts;
mod paste;
mod repeat;
mod row;
mod split;
mod subjects;
mod target;

pub use crate::check::Refusal;
pub use apply::apply;
pub use edits::{Edit, Fit, Grip, PartChange};
pub use member_change::{Amended, MemberChange};
pub use opening_change::OpeningChange;
