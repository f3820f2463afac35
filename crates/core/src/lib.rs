//! The rules and the computation of Inky Window, without interface, storage or network.
//!
//! What computes most stands in crates of its own, compiled for speed: [`combine`], [`cutout`], [`photo`].
//!
//! A [`sheet::Sheet`] is a plain document. Everything that changes it is an [`edit::Edit`] value; everything
//! that is seen of it is computed: [`outline`] turns forms into Bézier paths, [`combine`] joins them into one
//! opening, [`livewire`] follows the edges of a photo for tracing, [`cutout`] finds the subject of a photo, [`breakout`] the parts of it that reach over the edge,
//! [`placements`] proposes where a photo could lie, [`palette`] which inks go with it, [`proof`] says what would go wrong, and [`scene`] draws the whole as one SVG.
//!
//! **Spaces.** *Sheet space* is in millimetres, origin at the top left corner of the sheet, y downwards.
//! *Photo space* is in pixels of the upright photo, origin at its top left corner, y downwards.

pub mod breakout;
pub mod change;
pub mod check;
pub mod edit;
pub mod handles;
pub mod library;
pub mod livewire;
pub mod memo;
pub mod merge;
pub mod outline;
pub mod palette;
pub mod piece_tree;
pub mod placements;
pub mod proof;
pub mod recipe;
pub mod scene;
pub mod screen;
pub mod sheet;
pub mod sheet_file;
pub mod unpack;
mod ways;

pub use inky_combine as combine;
pub use inky_cutout as cutout;
pub use inky_cutout::grid;
pub use inky_photo as photo;
