//! From a sheet to its scene.

mod breakouts;
mod builder;
mod bundles;
mod drawing;
mod edge;
mod fills;
mod gloss;
mod members;
mod page;
mod paint;
mod panes;
mod paper;
mod roles;
mod scene_builder;
mod soft;
mod tile;
mod tone;
mod window;

pub use drawing::drawing_part;
pub use paper::{SIDE_MM as PAPER_SIDE_MM, paper_picture, paper_sides};
pub use scene_builder::{SceneBuilder, scene};
pub use soft::{SoftOpening, soft_opening};
