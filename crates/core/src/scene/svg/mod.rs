//! The scene as SVG 1.1, for the screen and for files. Nothing else in the program writes or reads markup of the scene.
//!
//! Beyond SVG 1.1: `mix-blend-mode` (Compositing and Blending Level 1), which all browsers know.
//!
//! For the **screen**, elements say in `data-` attributes what they are for: `data-moves` which drags take them along (`opening`, `fill`
//! or both), `data-of` which fill that is. Paths that follow the opening say `data-outline` in place of `d`, with path data that comes
//! before the outline: the outline crosses once. Pictures say where their levels are found (`data-levels`, with `*` for the side),
//! which there are (`data-sides`, pixels, falling) and how long their long side is on the sheet (`data-long`, millimetres). Blend modes are classes,
//! because the interface allows no style attributes.

mod addresses;
mod definitions;
mod element;
mod path_data;
mod writer;

pub use addresses::{Levels, PictureFiles, PictureLevels};
pub use path_data::{MovablePath, matrix, number, path_data};

use super::Scene;
use super::tree::{Fragment, Geometry, Role, Shape, Source};
use crate::piece_tree::Unit;
use crate::sheet::Colour;
use element::{Element, Markup};
use kurbo::{BezPath, Rect};
use writer::{Names, Writer};

impl Scene {
    /// The whole as an SVG document, so much larger on all sides as `bleed` says (millimetres). It keeps its resolution in `data-ppi`.
    pub fn document(&self, title: &str, bleed: f64, files: &dyn PictureFiles) -> String {
        let page = Rect::new(0.0, 0.0, self.width, self.height).inflate(bleed, bleed);
        let [x, y, w, h] = [page.x0, page.y0, page.width(), page.height()].map(number);
        let mut markup = Markup::new();
        let root = Element::new("svg")
            .with("xmlns", "http://www.w3.org/2000/svg")
            .with("xmlns:xlink", "http://www.w3.org/1999/xlink")
            .with(PPI, self.ppi.to_string())
            .with("width", format!("{w}mm"))
            .with("height", format!("{h}mm"))
            .with("viewBox", format!("{x} {y} {w} {h}"));
        let root = markup.open(root);
        let title_element = markup.open(Element::new("title"));
        markup.text(title);
        markup.close(title_element);
        let ground = Element::new("rect").with("x", &x).with("y", &y).with("width", &w).with("height", &h);
        markup.empty(ground.with("fill", self.background.to_string()));
        let mut writer = Writer::new(markup, Names::Files(files));
        writer.fragment("backdrop", &self.backdrop);
        for layer in &self.layers {
            let name = match layer.unit {
                Unit::Piece(piece) => format!("piece-{piece}"),
                Unit::Bundle(bundle) => format!("bundle-{bundle}"),
            };
            writer.fragment(&name, &layer.fragment);
        }
        writer.fragment("border", &self.border);
        let mut markup = writer.finish();
        markup.close(root);
        markup.finish()
    }
}

/// Attribute of the root element that keeps the sheet's resolution.
pub const PPI: &str = "data-ppi";

/// One fragment for the screen, as a group whose identifiers begin with `scope`.
pub fn screen_markup(scope: &str, fragment: &Fragment, levels: &dyn PictureLevels) -> String {
    let mut writer = Writer::new(Markup::new(), Names::Levels(levels));
    writer.fragment(scope, fragment);
    writer.finish().finish()
}

/// Shadows for the screen: groups without nodes, in a fragment without anything else. What throws them is there already, in elements with the
/// identifiers `thrown_by`.
pub fn screen_shadows(scope: &str, shadows: &Fragment, thrown_by: &[String], levels: &dyn PictureLevels) -> String {
    let mut writer = Writer::new(Markup::new(), Names::Levels(levels));
    writer.shadows(scope, shadows, thrown_by);
    writer.finish().finish()
}

/// A fragment without pictures as a document of its own, showing `bounds`.
pub fn picture_document(fragment: &Fragment, bounds: Rect) -> String {
    document_of(fragment, bounds, false)
}

/// An outline (millimetres) as a document of its own in its true size, showing `bounds`.
pub fn outline_document(outline: BezPath, bounds: Rect) -> String {
    let shape =
        Shape { role: Role::PART, geometry: Geometry::path(outline), fill: Some(Colour([0; 3]).into()), stroke: None };
    document_of(&Fragment { nodes: vec![shape.into()], ..Fragment::default() }, bounds, true)
}

fn document_of(fragment: &Fragment, bounds: Rect, true_size: bool) -> String {
    let mut markup = Markup::new();
    let [x, y, w, h] = [bounds.x0, bounds.y0, bounds.width().max(0.01), bounds.height().max(0.01)].map(number);
    let mut root = Element::new("svg").with("xmlns", "http://www.w3.org/2000/svg");
    if true_size {
        root = root.with("width", format!("{w}mm")).with("height", format!("{h}mm"));
    }
    let root = markup.open(root.with("viewBox", format!("{x} {y} {w} {h}")));
    let mut writer = Writer::new(markup, Names::Files(&NoPictures));
    writer.fragment("part", fragment);
    let mut markup = writer.finish();
    markup.close(root);
    markup.finish()
}

struct NoPictures;

impl PictureFiles for NoPictures {
    fn address(&self, _: &Source, _: f64) -> String {
        String::new()
    }
}
