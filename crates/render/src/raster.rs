//! A scene as pixels.

use crate::source::{Originals, Prepared, RenderError, Storage};
use inky_core::cutout::Watch;
use inky_core::library::Library;
use inky_core::scene::{Scene, View, scene};
use inky_core::sheet::{Colour, MM_PER_INCH, Sheet};
use resvg::tiny_skia::{Color, Pixmap, Transform};
use std::sync::Arc;
use usvg::{ImageHrefResolver, ImageKind, Options, Tree};

/// Pixels of one band: what is drawn at a time.
const BAND_PIXELS: usize = 48 << 20;

/// CSS pixels in an inch (CSS Values 3, section 6.2): what SVG lengths are measured in.
pub(crate) const CSS_PPI: f64 = 96.0;

/// What is drawn, and how large.
pub struct Plan {
    pub(crate) tree: Tree,
    /// Pixels.
    pub width: u32,
    /// Pixels.
    pub height: u32,
    pub ppi: f64,
    /// Pixels for one of the tree's units, along x and y.
    pub(crate) scale: (f32, f32),
    /// What shows where the tree leaves the last row or column partly open.
    pub(crate) ground: Colour,
}

impl Plan {
    /// A sheet at `ppi` pixels per inch, its photos brought to the size at which they are drawn.
    ///
    /// # Errors
    /// A piece that cannot be drawn, or a picture that is not among the originals: a file is never silently incomplete.
    pub fn new(sheet: &Sheet, library: &dyn Library, originals: &Originals, ppi: f64) -> Result<Self, RenderError> {
        Self::cut(sheet, library, originals, ppi, 0.0)
    }

    /// The same with so many millimetres of bleed on all sides.
    ///
    /// # Errors
    /// Those of [`Plan::new`].
    pub fn cut(
        sheet: &Sheet,
        library: &dyn Library,
        originals: &Originals,
        ppi: f64,
        bleed: f64,
    ) -> Result<Self, RenderError> {
        let prepared = Prepared::new(originals, Storage::Passing);
        let view = View { library, pictures: &prepared, density: ppi / MM_PER_INCH, with_handles: false };
        let scene = complete(scene(sheet, &view), &prepared)?;
        let (width, height) = sheet.pixel_size(ppi, bleed);
        let tree = parse(&scene.to_svg(&sheet.name, bleed), |name| {
            prepared.get(name).map(|(_, bytes)| ImageKind::PNG(bytes))
        })?;
        // not stretched to whole pixels: lengths in the file are the sheet's own, to a hundredth of a pixel
        let scale = (ppi / CSS_PPI) as f32;
        Ok(Self { tree, width, height, ppi, scale: (scale, scale), ground: sheet.background })
    }
}

impl Plan {
    /// How many rows a blur reaches at most: three standard deviations.
    fn blurred_rows(&self) -> u32 {
        let blurs = self.tree.filters().iter().flat_map(|f| f.primitives()).filter_map(|p| match p.kind() {
            usvg::filter::Kind::GaussianBlur(blur) => Some(f64::from(blur.std_dev_y().get())),
            _ => None,
        });
        (3.0 * blurs.fold(0.0, f64::max) * self.ppi / MM_PER_INCH).ceil().min(f64::from(self.height)) as u32
    }
}

/// The scene, if nothing is missing from it.
pub(crate) fn complete(scene: Scene, prepared: &Prepared<'_>) -> Result<Scene, RenderError> {
    if let Some(problem) = scene.layers.iter().find_map(|l| l.problem.clone()) {
        return Err(RenderError::BadPiece(problem));
    }
    if prepared.complete() { Ok(scene) } else { Err(RenderError::MissingPicture) }
}

fn parse<'a>(svg: &str, find: impl Fn(&str) -> Option<ImageKind> + Send + Sync + 'a) -> Result<Tree, RenderError> {
    let options = Options {
        image_href_resolver: ImageHrefResolver {
            resolve_data: Box::new(|_: &str, _: Arc<Vec<u8>>, _: &Options<'_>| None),
            resolve_string: Box::new(move |name: &str, _: &Options<'_>| find(name)),
        },
        ..Options::default()
    };
    Tree::from_str(svg, &options).map_err(|e| RenderError::BadSvg(e.to_string()))
}

/// Draws the plan from top to bottom and hands over its rows, RGB with 8 bits each, in bands.
///
/// # Errors
/// Those of `take`, and the cancelled watch.
pub fn raster(
    plan: &Plan,
    watch: &dyn Watch,
    mut take: impl FnMut(&[u8]) -> Result<(), RenderError>,
) -> Result<(), RenderError> {
    let rows = (BAND_PIXELS / plan.width.max(1) as usize).clamp(1, plan.height as usize) as u32;
    let (sx, sy) = plan.scale;
    let [r, g, b] = plan.ground.0;
    let room = plan.blurred_rows();
    let mut top = 0;
    while top < plan.height {
        watch.go_on()?;
        watch.step(0.2 + 0.75 * top as f32 / plan.height as f32, "Drawing the sheet");
        let here = rows.min(plan.height - top);
        // a blur looks at the rows around: a band is drawn with as many more as it reaches
        let (above, below) = (room.min(top), room.min(plan.height - top - here));
        let mut pixmap = Pixmap::new(plan.width, above + here + below)
            .ok_or_else(|| RenderError::Encoding("the picture has no size".into()))?;
        pixmap.fill(Color::from_rgba8(r, g, b, 255));
        let place = Transform::from_scale(sx, sy).post_translate(0.0, above as f32 - top as f32);
        resvg::render(&plan.tree, place, &mut pixmap.as_mut());
        let mut rgb = Vec::with_capacity(plan.width as usize * here as usize * 3);
        let first = above as usize * plan.width as usize;
        for p in &pixmap.pixels()[first..first + here as usize * plan.width as usize] {
            rgb.extend([p.red(), p.green(), p.blue()]);
        }
        take(&rgb)?;
        top += here;
    }
    Ok(())
}
