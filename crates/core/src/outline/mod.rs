//! Forms to Bézier paths, and the list of forms to the one compound outline of an opening.

mod along;
mod basic;
mod bend;
mod brush;
mod cell;
mod drawing_error;
mod drawing_file;
mod drawing_parts;
mod drawing_tree;
mod engine;
mod error;
mod fade;
mod font_collection;
mod font_error;
mod font_file;
mod form;
mod imported_drawing;
mod letter_cost;
mod lettering;
mod open_side;
mod opening;
mod opening_outline;
mod shown;
mod sources;
mod warp;
mod woff2;

pub use along::lettering_along;
pub use basic::basic_path;
pub use bend::{bent, bent_with, pulled};
pub use brush::{brush_path, painted_path};
pub use cell::{OpeningCell, cell_outlines, chosen_cells, opening_cells};
pub use drawing_error::DrawingError;
pub use drawing_file::read_drawing;
pub use drawing_tree::{
    DrawingGradient, DrawingPaint, DrawingPart, DrawingShape, DrawingTree, GradientAxis, Spread, placed_part,
};
pub use error::OutlineError;
pub use fade::widest_fade_of;
pub(crate) use fade::{mean_scale, widest_fade};
pub use font_collection::{Face, FontCollection};
pub use font_error::FontError;
pub use font_file::read_font;
pub(crate) use form::list_path;
pub use form::{form_path, framed_form_path};
pub use imported_drawing::{ImportedDrawing, drawing_path};
pub use letter_cost::check_letters;
pub use lettering::{LetteringError, lettering_path};
pub use open_side::extension;
pub use opening::{opening_outline, opening_path};
pub use opening_outline::OpeningOutline;
pub use shown::{frames, shown_outline};
pub use sources::OutlineSources;
