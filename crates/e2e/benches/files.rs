//! How long files take beside the bare encoding of their pixels and beside the way through an SVG, and how much memory.
//!
//! `cargo bench --workspace --profile dev --bench files`; with `-- large` also the gigapixel sheet.

use anyhow::{Context, Result};
use image::{Rgba, RgbaImage};
use inky_core::cutout::{Saliency, Unwatched};
use inky_core::edit::{Edit, apply};
use inky_core::library::LoadedLibrary;
use inky_core::scene::scene;
use inky_core::sheet::{
    BasicShape, FadeSide, Figure, FillId, Finish, Form, FormId, FormShape, MM_PER_INCH, Photo, PieceId, Pose, Sheet,
    Softness, Unit,
};
use inky_e2e::{renderers::Loaded, root};
use inky_render::{BandSource, DeliveredSvg, Originals, Packing, Plan, RenderError, pixels, png, svg};
use peak_alloc::PeakAlloc;
use std::sync::Arc;
use std::time::Instant;

#[global_allocator]
static MEMORY: PeakAlloc = PeakAlloc;

/// Square millimetres of A3 and A2 (ISO 216).
const A3: f64 = 297.0 * 420.0;
const A2: f64 = 420.0 * 594.0;
const ROUNDS: usize = 3;

/// Pixels that are ready.
struct Ready(image::RgbImage, f64);

impl BandSource for Ready {
    fn size(&self) -> (u32, u32) {
        self.0.dimensions()
    }

    fn ppi(&self) -> f64 {
        self.1
    }

    fn rows_at_a_time(&self) -> u32 {
        (3_u32 << 20) / self.0.width()
    }

    fn draw(&self, top: u32, rows: u32, rgb: &mut [u8]) -> Result<(), RenderError> {
        let stride = self.0.width() as usize * 3;
        rgb.copy_from_slice(&self.0.as_raw()[top as usize * stride..][..rows as usize * stride]);
        Ok(())
    }
}

fn main() -> Result<()> {
    let network: Arc<dyn Saliency> = Arc::new(inky_saliency::Network::load()?);
    println!("seconds, the fastest of {ROUNDS}; PNG to nowhere\n");
    println!(
        "{:<22} {:>6} {:>7} {:>7} {:>7} {:>7} {:>8} {:>6}",
        "", "ours", "bare", "packed", "SVG", "of bare", "of SVG", "MB"
    );
    let mut files: Vec<_> = std::fs::read_dir(root().join("demo"))?.map(|e| Ok(e?.path())).collect::<Result<_>>()?;
    files.retain(|f| f.to_string_lossy().ends_with(".sheet.json"));
    files.sort();
    for (name, area) in [("A3", A3), ("A2", A2)] {
        for file in &files {
            let loaded = Loaded::read(&std::fs::read(file)?, &root().join("demo"), Some(Arc::clone(&network)))?;
            // a sheet of another size gets as many pixels as this one at 300 ppi
            let ppi = 300.0 * (area / (loaded.sheet.width * loaded.sheet.height)).sqrt();
            let sheet = Sheet { ppi, ..loaded.sheet };
            measured(&format!("{name} {}", sheet.name), &sheet, &loaded.library, &loaded.originals, name == "A3")?;
        }
    }
    if std::env::args().any(|a| a == "large") {
        gigapixel()?;
    }
    Ok(())
}

fn fastest(rounds: usize, mut work: impl FnMut() -> Result<()>) -> Result<f64> {
    let mut least = f64::INFINITY;
    for _ in 0..rounds {
        let begun = Instant::now();
        work()?;
        least = least.min(begun.elapsed().as_secs_f64());
    }
    Ok(least)
}

fn drawn(sheet: &Sheet, library: &LoadedLibrary, originals: &Originals) -> Result<()> {
    let plan = Plan::of_sheet(sheet, library, originals, sheet.ppi, 0.0)?;
    Ok(png(&plan, &Unwatched, &mut std::io::sink())?)
}

fn measured(name: &str, sheet: &Sheet, library: &LoadedLibrary, originals: &Originals, by_svg: bool) -> Result<()> {
    MEMORY.reset_peak_usage();
    let ours = fastest(ROUNDS, || drawn(sheet, library, originals))?;
    let memory = MEMORY.peak_usage_as_mb();
    let plan = Plan::of_sheet(sheet, library, originals, sheet.ppi, 0.0)?;
    let ready = Ready(pixels(&plan, &Unwatched)?, sheet.ppi);
    drop(plan);
    let bare = fastest(ROUNDS, || {
        let mut encoder = png::Encoder::new(std::io::sink(), ready.0.width(), ready.0.height());
        encoder.set_color(png::ColorType::Rgb);
        let mut writer = encoder.write_header()?;
        Ok(writer.write_image_data(ready.0.as_raw())?)
    })?;
    let packed = fastest(ROUNDS, || Ok(png(&ready, &Unwatched, &mut std::io::sink())?))?;
    let svg = if by_svg {
        Some(fastest(1, || {
            let text = svg(&scene(sheet, library), &sheet.name, originals, 0.0, Packing::Small)?;
            Ok(png(&DeliveredSvg::read(&text)?.plan(None)?, &Unwatched, &mut std::io::sink())?)
        })?)
    } else {
        None
    };
    let said = |value: Option<f64>| value.map_or(String::new(), |v| format!("{v:.2}"));
    println!(
        "{name:<22} {ours:>6.2} {bare:>7.2} {packed:>7.2} {:>7} {:>7.2} {:>8} {memory:>6.0}",
        said(svg),
        ours / bare,
        said(svg.map(|svg| ours / svg)),
    );
    Ok(())
}

/// One window with a photo of 40 megapixels and a soft edge, on a sheet that is as large as sheets can be.
fn gigapixel() -> Result<()> {
    let side = 1e9_f64.sqrt() / 300.0 * MM_PER_INCH - 1.0;
    let photo = Photo::new("field", 8000, 5000);
    let library = LoadedLibrary { photos: [("field".into(), photo)].into(), ..LoadedLibrary::default() };
    let (piece, shape) =
        (PieceId::fresh(), BasicShape { width: 0.8 * side, height: 0.8 * side, figure: Figure::Ellipse });
    let form = Form::new(FormId::fresh(), Pose::at(side / 2.0, side / 2.0), FormShape::Basic(shape));
    let softness = Softness { width: 20.0, side: FadeSide::Both };
    let mut sheet = Sheet::new("A gigapixel", side, side, Unit::Mm, 300.0);
    for edit in [
        Edit::AddWindow { piece, form, fill: FillId::fresh() },
        Edit::FillWithPhoto { piece, fill: FillId::fresh(), photo: "field".into() },
        Edit::SetFinish { piece, finish: Finish { softness, ..Finish::default() } },
    ] {
        sheet = apply(&sheet, &edit, &library).context("the sheet cannot be made")?;
    }
    let noise = |x: u32, y: u32| (x.wrapping_mul(2_654_435_761) ^ y.wrapping_mul(40_503)).to_le_bytes();
    let field = RgbaImage::from_fn(8000, 5000, |x, y| {
        let [a, b, c, _] = noise(x / 8, y / 8);
        Rgba([a / 2 + 60, b / 3 + 90, c / 4 + 40, 255])
    });
    let originals = Originals { photos: [("field".into(), Arc::new(field))].into(), ..Originals::default() };
    MEMORY.reset_peak_usage();
    let begun = Instant::now();
    drawn(&sheet, &library, &originals)?;
    let (taken, memory) = (begun.elapsed().as_secs_f64(), MEMORY.peak_usage_as_mb());
    println!("{:<22} {taken:>6.1} {:>47} {memory:>6.0}", "A gigapixel", "");
    Ok(())
}
