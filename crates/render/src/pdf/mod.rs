//! The scene as a PDF (ISO 32000-1).
//!
//! Outlines, strokes, gradients and clips stay vectors. Each photo is in the file once, as JPEG, at the resolution of its largest use. What a PDF has
//! no words for (blurs, shadows) becomes a picture at the file's resolution, only where it is: an island. Everything is drawn from the same tree as
//! the pixels.

mod geometry;
mod inside;
mod islands;
mod marks;
mod nodes;
mod paints;
mod pictures;
mod x4;

use crate::RenderError;
use crate::draw::Space;
use crate::pictures::Originals;
use geometry::{placed, rect, size};
use inky_core::cutout::Watch;
use inky_core::scene::Scene;
use inky_core::scene::tree::{Fragment, Geometry, Node, Paint, Role, Shape};
use inky_core::sheet::MM_PER_INCH;
use islands::Islands;
use krilla::Document;
use krilla::SerializeSettings;
use krilla::configure::{ConfigurationBuilder, PdfVersion};
use krilla::metadata::Metadata;
use krilla::page::PageSettings;
use kurbo::{Affine, Rect};
use marks::MARKS_MM;
use nodes::Writer;
use paints::SpotColours;
use pictures::PdfPictures;

pub use inside::{SHEET_INSIDE, sheet_inside};
pub use x4::PdfX4;

/// Points of a PDF for a millimetre.
const POINTS: f64 = 72.0 / MM_PER_INCH;
/// A page is at most so long: 200 inches, in points (ISO 32000-1, annex C).
const LONGEST: f64 = 14_400.0;

/// A sheet as a page.
#[derive(Clone, Copy)]
pub struct PdfPage<'a> {
    pub scene: &'a Scene,
    pub originals: &'a Originals,
    /// Pixels per inch of photos and islands.
    pub ppi: f64,
    /// Millimetres on all sides, to be cut away.
    pub bleed: f64,
}

/// What a file has beside its pages.
#[derive(Debug, Clone, Default)]
pub struct PdfOptions {
    /// Marks outside of the bleed: where to cut, how the plates lie on one another, and patches of colour.
    pub marks: bool,
    /// As a PDF/X-4 for a press; a plain PDF of version 1.7 where it is left out.
    pub x4: Option<PdfX4>,
    /// The sheet file (JSON, with everything in it), to travel inside.
    pub sheet_file: Option<Vec<u8>>,
}

/// Scenes as the pages of a PDF. The trim box is the sheet, the bleed box has the bleed, the media box holds the marks too. A photo of several pages
/// is there once.
///
/// # Errors
/// A piece that cannot be drawn, a picture that is not among the originals, a page that is too long for a PDF, and the cancelled watch.
pub fn pdf(pages: &[PdfPage<'_>], title: &str, options: PdfOptions, watch: &dyn Watch) -> Result<Vec<u8>, RenderError> {
    if let Some((_, problem)) = pages.iter().find_map(|page| page.scene.problems().next()) {
        return Err(RenderError::BadPiece(problem.to_string()));
    }
    // what PDF/X-4 is based on (ISO 15930-7, section 6.1)
    let version = if options.x4.is_some() { PdfVersion::Pdf16 } else { PdfVersion::Pdf17 };
    let configuration = ConfigurationBuilder::new().with_version(version).finish();
    let configuration = configuration.map_err(|e| RenderError::Encoding(format!("{e:?}")))?;
    let mut document = Document::new_with(SerializeSettings {
        // the same colours everywhere: the profile of sRGB goes along
        no_device_cs: true,
        xmp_metadata: true,
        configuration,
        ..SerializeSettings::default()
    });
    let spots = SpotColours::of(pages.iter().flat_map(|page| &page.scene.spots));
    document.set_metadata(Metadata::new().title(title.to_owned()).creator("Inky Window".to_owned()));
    for page in pages {
        add_page(&mut document, page, options.marks, &spots, watch)?;
        watch.go_on()?;
    }
    watch.step(0.9, "Writing the file");
    if let Some(sheet_file) = options.sheet_file {
        inside::attach(&mut document, sheet_file);
    }
    let bytes = document.finish().map_err(|e| RenderError::Encoding(format!("{e:?}")))?;
    match options.x4 {
        Some(terms) => x4::as_x4(bytes, title, terms),
        None => Ok(bytes),
    }
}

fn add_page(
    document: &mut Document,
    of: &PdfPage<'_>,
    marks: bool,
    spots: &SpotColours,
    watch: &dyn Watch,
) -> Result<(), RenderError> {
    let PdfPage { scene, originals, bleed: bleed_mm, .. } = *of;
    let density = of.ppi / MM_PER_INCH;
    let around = bleed_mm + if marks { MARKS_MM } else { 0.0 };
    let trim = Rect::new(0.0, 0.0, scene.width, scene.height);
    let [media, bleed] = [around, bleed_mm].map(|far| trim.inflate(far, far));
    if media.width().max(media.height()) * POINTS > LONGEST {
        return Err(RenderError::TooLongForPdf);
    }
    watch.step(0.2, "Packing the photos");
    let pictures = PdfPictures::of(scene, originals, density, watch)?;
    watch.step(0.6, "Writing the pages");
    let islands = Islands::of(scene, originals, density, bleed_mm)?;
    // from the sheet's millimetres to the page's points
    let to_page = Affine::scale(POINTS) * Affine::translate((around, around));
    let boxed = |mm: Rect| rect(to_page.transform_rect_bbox(mm));
    let settings = PageSettings::new(size(media.size() * POINTS)?)
        .with_bleed_box(Some(boxed(bleed)?))
        .with_trim_box(Some(boxed(trim)?));
    let limit = geometry::rect_path(bleed)?;
    let mut page = document.start_page_with(settings);
    {
        let mut surface = page.surface();
        surface.push_transform(&placed(to_page));
        surface.push_clip_path(&limit, &krilla::paint::FillRule::NonZero);
        let mut writer = Writer { surface: &mut surface, pictures: &pictures, islands: &islands, spots, watch };
        let ground = ground(scene, bleed);
        let below = [&ground, &scene.backdrop].into_iter();
        let layers = scene.layers.iter().map(|layer| &*layer.fragment);
        let mut all = below.chain(layers).chain([&scene.border]);
        let drawn = all.try_for_each(|fragment| writer.fragment(fragment, Space::sheet()));
        surface.pop();
        let marked = if marks { marks::draw(&mut surface, trim, bleed_mm) } else { Ok(()) };
        // a surface with something left on it panics: what went wrong is said after that
        surface.pop();
        drawn.and(marked)?;
    }
    page.finish();
    Ok(())
}

/// The sheet's own colour, over its bleed.
fn ground(scene: &Scene, area: Rect) -> Fragment {
    let fill = Some(Paint::from(scene.background));
    let shape = Shape { role: Role::PART, geometry: Geometry::Rect(area), fill, stroke: None };
    Fragment { nodes: vec![Node::from(shape)], ..Fragment::default() }
}
