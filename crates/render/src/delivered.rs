//! SVG files that were delivered earlier, drawn again: by another renderer, which knows nothing of scenes.

use crate::RenderError;
use crate::bands::BandSource;
use image::ImageReader;
use inky_core::scene::svg::PPI;
use inky_core::sheet::MM_PER_INCH;
use inky_core::sheet::limits::{PHOTO_PIXELS, SHEET_PIXELS};
use resvg::tiny_skia::{Color, Pixmap, Transform};
use std::io::Cursor;
use std::sync::Arc;
use usvg::{ImageHrefResolver, ImageKind, Options, Tree};

/// CSS pixels in an inch (CSS Values 3, section 6.2): what SVG lengths are measured in.
const CSS_PPI: f64 = 96.0;
/// Pixels that are drawn at a time.
const BAND_PIXELS: usize = 24 << 20;

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
    pub fn plan(self, ppi: Option<f64>) -> Result<SvgPlan, RenderError> {
        let ppi = ppi.unwrap_or(self.ppi);
        let side = |css: f32| (f64::from(css) / CSS_PPI * ppi).round().max(1.0);
        let size = self.tree.size();
        let (width, height) = (side(size.width()), side(size.height()));
        if width * height > SHEET_PIXELS {
            return Err(RenderError::BadSvg("it would have more than a gigapixel at this resolution".into()));
        }
        // lengths in the file are the sheet's own, to a hundredth of a pixel: it is not stretched to whole pixels
        let scale = (ppi / CSS_PPI) as f32;
        Ok(SvgPlan { width: width as u32, height: height as u32, ppi, scale, tree: self.tree })
    }
}

/// An SVG file at a size.
pub struct SvgPlan {
    tree: Tree,
    width: u32,
    height: u32,
    ppi: f64,
    /// Pixels for one of the tree's units.
    scale: f32,
}

impl SvgPlan {
    /// How many rows a blur reaches at most: three standard deviations.
    fn blurred_rows(&self) -> u32 {
        let blurs = self.tree.filters().iter().flat_map(|f| f.primitives()).filter_map(|p| match p.kind() {
            usvg::filter::Kind::GaussianBlur(blur) => Some(f64::from(blur.std_dev_y().get())),
            _ => None,
        });
        (3.0 * blurs.fold(0.0, f64::max) * self.ppi / MM_PER_INCH).ceil().min(f64::from(self.height)) as u32
    }
}

impl BandSource for SvgPlan {
    fn size(&self) -> (u32, u32) {
        (self.width, self.height)
    }

    fn ppi(&self) -> f64 {
        self.ppi
    }

    fn rows_at_a_time(&self) -> u32 {
        (BAND_PIXELS / self.width.max(1) as usize).max(1) as u32
    }

    fn draw(&self, top: u32, rows: u32, rgb: &mut [u8]) -> Result<(), RenderError> {
        let room = self.blurred_rows();
        // a blur looks at the rows around: a band is drawn with as many more as it reaches
        let (above, below) = (room.min(top), room.min(self.height - top - rows));
        let mut pixmap = Pixmap::new(self.width, above + rows + below)
            .ok_or_else(|| RenderError::Encoding("the picture has no size".into()))?;
        pixmap.fill(Color::WHITE);
        let place = Transform::from_scale(self.scale, self.scale).post_translate(0.0, above as f32 - top as f32);
        resvg::render(&self.tree, place, &mut pixmap.as_mut());
        let first = above as usize * self.width as usize;
        for (p, out) in pixmap.pixels()[first..].iter().zip(rgb.chunks_exact_mut(3)) {
            out.copy_from_slice(&[p.red(), p.green(), p.blue()]);
        }
        Ok(())
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
