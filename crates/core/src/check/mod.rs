//! What a sheet has to keep to, whoever made it: numbers within their limits, and references to what is there.

mod layout_guides;
mod opening;
mod paint;
mod refusal;
mod repeat;
mod sheet;
mod split;
mod values;

pub(crate) use layout_guides::{layout_guides, room_between_margins};
pub use opening::check_opening;
pub(crate) use opening::{form, lettering, opening};
pub(crate) use paint::{border, bundle_finish, fill, finish, ink, inks, paint};
pub use refusal::Refusal;
pub(crate) use repeat::{bundle_repeat, repeat};
pub use sheet::check_sheet;
pub(crate) use sheet::{amounts, breakout, bundles, credit, pixels, size, subject_name, waved};
pub(crate) use split::split;
pub(crate) use values::{name, placement, within};
