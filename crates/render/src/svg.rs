//! SVG files: writing a sheet with its pictures inside, and reading such a file again.

use crate::raster::{CSS_PPI, Plan, complete};
use crate::source::{Originals, Prepared, RenderError, Storage};
use base64::{Engine, engine::general_purpose::STANDARD};
use image::ImageReader;
use inky_core::library::Library;
use inky_core::photo::Pull;
use inky_core::scene::{Pictures, View, scene};
use inky_core::sheet::limits::{PHOTO_PIXELS, SHEET_PIXELS};
use inky_core::sheet::{Colour, MM_PER_INCH, Photo, PhotoId, Sheet, SubjectId};
use std::io::Cursor;
use std::sync::Arc;
use usvg::{ImageHrefResolver, ImageKind, Options, Tree};

/// Attribute of the root element that keeps the sheet's resolution.
const PPI: &str = "data-ppi";
/// A sheet as one SVG file with so many millimetres of bleed, pictures embedded at the size that the sheet's resolution needs.
pub fn svg(sheet: &Sheet, library: &dyn Library, originals: &Originals, bleed: f64) -> Result<String, RenderError> {
    let prepared = Prepared::new(originals, Storage::Kept);
    let embedded = Embedded(&prepared);
    let view = View { library, pictures: &embedded, density: sheet.ppi / MM_PER_INCH, with_handles: false };
    let scene = complete(scene(sheet, &view), &prepared)?;
    let text = scene.to_svg(&sheet.name, bleed);
    Ok(text.replacen("<svg ", &format!("<svg {PPI}=\"{}\" ", sheet.ppi), 1))
}

struct Embedded<'a>(&'a Prepared<'a>);

impl Embedded<'_> {
    fn data(&self, name: &str) -> String {
        let Some((kind, bytes)) = self.0.get(name) else {
            return String::new();
        };
        format!("data:{kind};base64,{}", STANDARD.encode(bytes.as_slice()))
    }
}

impl Pictures for Embedded<'_> {
    fn photo(&self, id: &PhotoId, photo: &Photo, long: f64, pull: Option<&Pull>) -> String {
        self.data(&self.0.photo(id, photo, long, pull))
    }

    fn cutout(&self, id: &SubjectId, photo: &Photo, long: f64, pull: Option<&Pull>) -> String {
        self.data(&self.0.cutout(id, photo, long, pull))
    }

    fn computed(&self, picture: &image::RgbaImage) -> String {
        self.data(&self.0.computed(picture))
    }
}

/// An SVG file that was delivered earlier, ready to be drawn again.
pub struct DeliveredSvg {
    tree: Tree,
    ppi: f64,
}

impl DeliveredSvg {
    /// Reads an SVG file. Pictures embedded in it are checked for their size first; what it refers to outside is never read.
    ///
    /// # Errors
    /// A file that is no SVG or holds an oversized picture.
    pub fn read(text: &str) -> Result<Self, RenderError> {
        let options = Options {
            image_href_resolver: ImageHrefResolver {
                resolve_data: Box::new(|_: &str, data: Arc<Vec<u8>>, _: &Options<'_>| embedded_picture(data)),
                resolve_string: Box::new(|_: &str, _: &Options<'_>| None),
            },
            ..Options::default()
        };
        let bad = |e: &dyn std::fmt::Display| RenderError::BadSvg(e.to_string());
        let document = usvg::roxmltree::Document::parse(text).map_err(|e| bad(&e))?;
        let ppi = document.root_element().attribute(PPI).and_then(|v| v.parse::<f64>().ok());
        let ppi = ppi.filter(|v| (1.0..=2400.0).contains(v)).unwrap_or(150.0);
        let tree = Tree::from_xmltree(&document, &options).map_err(|e| bad(&e))?;
        Ok(Self { tree, ppi })
    }

    /// The drawing plan at `ppi`, or at the resolution that the file gives for itself.
    ///
    /// # Errors
    /// More pixels than a sheet may have.
    pub fn plan(self, ppi: Option<f64>) -> Result<Plan, RenderError> {
        let ppi = ppi.unwrap_or(self.ppi);
        let side = |css: f32| (f64::from(css) / CSS_PPI * ppi).round().max(1.0);
        let (width, height) = (side(self.tree.size().width()), side(self.tree.size().height()));
        if width * height > SHEET_PIXELS {
            return Err(RenderError::BadSvg("it would have more than a gigapixel at this resolution".into()));
        }
        let size = self.tree.size();
        let scale = (width as f32 / size.width(), height as f32 / size.height());
        let (width, height) = (width as u32, height as u32);
        Ok(Plan { width, height, ppi, scale, ground: Colour::PAPER, tree: self.tree })
    }
}

fn embedded_picture(data: Arc<Vec<u8>>) -> Option<ImageKind> {
    let reader = ImageReader::new(Cursor::new(data.as_slice())).with_guessed_format().ok()?;
    let format = reader.format()?;
    let (width, height) = reader.into_dimensions().ok()?;
    if u64::from(width) * u64::from(height) > PHOTO_PIXELS {
        return None;
    }
    match format {
        image::ImageFormat::Png => Some(ImageKind::PNG(data)),
        image::ImageFormat::Jpeg => Some(ImageKind::JPEG(data)),
        image::ImageFormat::WebP => Some(ImageKind::WEBP(data)),
        _ => None,
    }
}
