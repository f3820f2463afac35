//! What random input is tried on: the fuzz targets in `fuzz/` and the tests hand bytes to the same functions.
//!
//! Structured input (edits, outlines, strokes) is drawn from proptest's strategies, eight bytes being the seed of one edit, so that a fuzzer that
//! changes bytes changes edits.

mod amending;
mod library;
pub mod random;
pub mod subjects;
mod targets;

pub use amending::amending;
pub use library::{library, start};
pub use targets::{TARGETS, Target, drawings, edits, fonts, hints, joins, lists, photos, rendering, sheet_files};
