//! Every demo sheet as a PDF, read by programs that know nothing of this one: qpdf, Poppler and MuPDF.

use super::{run, text};
use anyhow::{Context, Result, ensure};
use image::imageops::blur;
use image::{DynamicImage, RgbImage};
use inky_core::cutout::{Saliency, Unwatched};
use inky_core::scene::scene;
use inky_core::sheet::Sheet;
use inky_e2e::compare::difference;
use inky_e2e::renderers::Loaded;
use inky_e2e::root;
use inky_render::{PdfOptions, PdfPage, Plan, pdf, pixels};
use inky_saliency::Network;
use serde_json::Value;
use std::path::Path;
use std::sync::Arc;

/// Pixels per inch at which pages are compared: four a millimetre, so that the demo's pages are whole pixels.
const PPI: f64 = 101.6;

/// The first page as two programs draw it, in so many pixels.
fn drawn(file: &Path, (width, height): (u32, u32)) -> Result<[RgbImage; 2]> {
    let (ppi, w, h) = (PPI.to_string(), width.to_string(), height.to_string());
    let (poppler, mupdf) = (file.with_extension("poppler"), file.with_extension("mupdf.png"));
    run("pdftoppm", &["-scale-to-x", &w, "-scale-to-y", &h, "-png", "-singlefile", text(file), text(&poppler)])?;
    run("mutool", &["draw", "-q", "-r", &ppi, "-o", text(&mupdf), text(file), "1"])?;
    let read = |path: &Path| -> Result<RgbImage> { Ok(image::open(path)?.into_rgb8()) };
    Ok([read(&poppler.with_extension("poppler.png"))?, read(&mupdf)?])
}

#[test]
fn foreign_readers_draw_the_demo_as_we_do() -> Result<()> {
    let network: Arc<dyn Saliency> = Arc::new(Network::load()?);
    let folder = root().join("demo");
    let files = tempfile::tempdir()?;
    let mut seen = 0;
    for entry in std::fs::read_dir(&folder)? {
        let path = entry?.path();
        if !path.to_string_lossy().ends_with(".sheet.json") {
            continue;
        }
        let loaded = Loaded::read(&std::fs::read(&path)?, &folder, Some(Arc::clone(&network)))?;
        let sheet = Sheet { ppi: PPI, ..loaded.sheet.clone() };
        let scene = scene(&sheet, &loaded.library);
        let file = files.path().join("sheet.pdf");
        let page = PdfPage { scene: &scene, originals: &loaded.originals, ppi: PPI, bleed: 0.0 };
        std::fs::write(&file, pdf(&[page], &sheet.name, PdfOptions::default(), &Unwatched)?)?;
        run("qpdf", &["--check", text(&file)])?;
        let own = pixels(&Plan::new(scene, loaded.originals.clone(), PPI, 0.0)?, &Unwatched)?;
        // readers put pictures on whole pixels, or sample them in ways of their own: seen softened by a pixel, they lie where they should
        for (reader, other) in ["Poppler", "MuPDF"].into_iter().zip(drawn(&file, own.dimensions())?) {
            ensure!(own.dimensions() == other.dimensions(), "{:?}", other.dimensions());
            let seen = |picture: &RgbImage| blur(&DynamicImage::from(picture.clone()).into_rgba8(), 1.0);
            let (mean, off) = difference(&seen(&own), &seen(&other));
            let said = format!("“{}” by {reader}: mean {mean:.2} of 255, {:.2}% off", sheet.name, off * 100.0);
            println!("{said}");
            if mean > 2.0 || off > 0.01 {
                let kept = std::env::temp_dir();
                own.save(kept.join("inky-own.png"))?;
                other.save(kept.join("inky-reader.png"))?;
                std::fs::copy(&file, kept.join("inky.pdf"))?;
                anyhow::bail!("{said}; the pictures and the file are in {}", kept.display());
            }
        }
        seen += 1;
    }
    ensure!(seen >= 7, "{seen} demo sheets");
    Ok(())
}

#[test]
fn boxes_marks_and_pictures_are_what_was_asked_for() -> Result<()> {
    let network: Arc<dyn Saliency> = Arc::new(Network::load()?);
    let folder = root().join("demo");
    let loaded = Loaded::read(&std::fs::read(folder.join("wool-day.sheet.json"))?, &folder, Some(network))?;
    let sheet = Sheet { ppi: 150.0, ..loaded.sheet.clone() };
    let scene = scene(&sheet, &loaded.library);
    let files = tempfile::tempdir()?;
    let file = files.path().join("sheet.pdf");
    let page = PdfPage { scene: &scene, originals: &loaded.originals, ppi: 150.0, bleed: 3.0 };
    let options = PdfOptions { marks: true, ..PdfOptions::default() };
    std::fs::write(&file, pdf(&[page], &sheet.name, options, &Unwatched)?)?;
    run("qpdf", &["--check", text(&file)])?;
    let json: Value = serde_json::from_str(&run("qpdf", &["--json", text(&file)])?)?;
    let objects = json["qpdf"][1].as_object().context("no objects")?;
    let page = objects.values().map(|o| &o["value"]).find(|o| o["/Type"] == "/Page").context("no page")?;
    let mm = |name: &str| -> Vec<f64> {
        let points = page[name].as_array().cloned().unwrap_or_default();
        points.iter().filter_map(Value::as_f64).map(|v| v / 72.0 * 25.4).collect()
    };
    let near = |of: &str, expected: [f64; 4]| {
        let found = mm(of);
        ensure!(found.len() == 4 && found.iter().zip(expected).all(|(a, b)| (a - b).abs() < 0.01), "{of}: {found:?}");
        Ok(())
    };
    let (w, h) = (sheet.width, sheet.height);
    near("/MediaBox", [0.0, 0.0, w + 26.0, h + 26.0])?;
    near("/BleedBox", [10.0, 10.0, w + 16.0, h + 16.0])?;
    near("/TrimBox", [13.0, 13.0, w + 13.0, h + 13.0])?;
    // each photo is there once, and no finer than it was asked for
    let list = run("pdfimages", &["-list", text(&file)])?;
    let photos: Vec<Vec<&str>> = list
        .lines()
        .skip(2)
        .map(|line| line.split_whitespace().collect::<Vec<_>>())
        .filter(|row| row.get(2) == Some(&"image") && row.get(8) == Some(&"jpeg"))
        .collect();
    let mut objects: Vec<&str> = photos.iter().map(|row| row[10]).collect();
    objects.sort_unstable();
    objects.dedup();
    let shown = sheet.photos.len();
    ensure!(!objects.is_empty() && objects.len() <= 2 * shown, "{} pictures of {shown} photos: {list}", objects.len());
    for row in photos {
        let ppi: f64 = row[12].parse()?;
        ensure!(ppi <= 152.0, "{list}");
    }
    Ok(())
}
