//! Tests of the core, a file for each of its words.

mod along;
mod bend;
mod brush;
mod colour;
mod contour;
mod coverage;
mod edits;
mod fills;
mod font_file;
mod hostile;
mod lettering;
mod livewire;
mod named_parts;
mod necks;
mod opening_changes;
mod overhang;
mod placement;
mod placements;
mod pose;
mod recipe;
mod scene;
mod sheet_file;
mod soft;
mod trace;
mod tree;
mod unpack;
