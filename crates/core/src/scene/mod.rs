//! A sheet as one SVG picture, the same for the screen and for files.
//!
//! SVG 1.1: openings are `clipPath`s, photos `image`s with a transform, breakouts a cut-out image limited by a clip path.
//! What is let out lies *beneath* the photo in the opening: at a pixel that the opening covers by the share c, the result is
//! c · photo + (1 − c) · (cut-out over sheet). Where the subject is solid both are the same colour, so no seam can show.

mod breakouts;
mod drawn;
mod edge;
mod fills;
mod form_view;
mod gloss;
mod layer;
mod markup;
mod page;
mod paint;
mod paper;
mod row;
mod soft;
mod tile;
mod tone;
mod window;

pub use drawn::drawing_svg;
pub use form_view::{CellView, FormView, cell_views};
pub use layer::{CrossingView, DrawingView, EdgeView, Layer, OverhangView, layer};
pub use markup::{escape, number, path_data, path_data_from_start};
pub use soft::{SoftMask, soft_mask};

use crate::library::Library;
use crate::photo::Pull;
use crate::sheet::{Colour, Photo, PhotoId, Sheet, SubjectId};

use image::RgbaImage;
use serde::Serialize;
use ts_rs::TS;

/// Says where pictures are found: an address for the screen, a name or embedded data for files.
pub trait Pictures {
    /// `long` is how many pixels the photo's long side needs to look sharp. Pulled, the picture fills the bounds of its corners.
    fn photo(&self, id: &PhotoId, photo: &Photo, long: f64, pull: Option<&Pull>) -> String;
    fn cutout(&self, id: &SubjectId, photo: &Photo, long: f64, pull: Option<&Pull>) -> String;
    /// A picture that was computed for the scene.
    fn computed(&self, picture: &RgbaImage) -> String;
}

/// A sheet as layers from back to front.
#[derive(Debug, Clone, Serialize, TS)]
pub struct Scene {
    /// Millimetres.
    pub width: f64,
    /// Millimetres.
    pub height: f64,
    pub background: Colour,
    /// SVG on the background's colour, beneath all layers.
    pub backdrop: String,
    pub layers: Vec<Layer>,
    /// SVG over all layers.
    pub border: String,
}

/// How a scene is to be drawn.
pub struct View<'a> {
    pub library: &'a dyn Library,
    pub pictures: &'a dyn Pictures,
    /// Pixels of the target for one millimetre of the sheet.
    pub density: f64,
    /// Whether to describe what people handle: forms, and all overhangs to choose from.
    pub with_handles: bool,
}

/// Computes the scene of a sheet. Hidden pieces are left out.
///
/// A piece that cannot be drawn becomes a layer without markup that says why.
pub fn scene(sheet: &Sheet, view: &View<'_>) -> Scene {
    let layers = sheet.pieces.iter().filter(|p| !p.hidden).map(|p| layer(sheet, p, view)).collect();
    let (backdrop, border) = (page::backdrop(sheet, view), page::border(sheet));
    Scene { width: sheet.width, height: sheet.height, background: sheet.background, backdrop, layers, border }
}

impl Scene {
    /// The whole as an SVG document, `width` x `height` millimetres large and so much larger on all sides as `bleed` says.
    pub fn to_svg(&self, title: &str, bleed: f64) -> String {
        let x = number(-bleed);
        let (w, h) = (number(self.width + 2.0 * bleed), number(self.height + 2.0 * bleed));
        let mut svg = format!(
            "<svg xmlns=\"http://www.w3.org/2000/svg\" xmlns:xlink=\"http://www.w3.org/1999/xlink\" \
             width=\"{w}mm\" height=\"{h}mm\" viewBox=\"{x} {x} {w} {h}\">\n<title>{}</title>\n\
             <rect x=\"{x}\" y=\"{x}\" width=\"{w}\" height=\"{h}\" fill=\"{}\"/>\n{}\n",
            escape(title),
            self.background,
            self.backdrop
        );
        for layer in &self.layers {
            svg.push_str(&layer.markup);
            svg.push('\n');
        }
        svg.push_str(&self.border);
        svg.push_str("</svg>\n");
        svg
    }
}
