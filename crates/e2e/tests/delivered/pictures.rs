//! TIFF, WebP and clear pictures by the command line, as libtiff, ExifTool and libwebp read them.

use super::{run, text};
use anyhow::{Context, Result, ensure};
use image::{Rgba, RgbaImage};
use inky_e2e::root;
use inky_press::press;
use serde_json::Value;
use std::path::{Path, PathBuf};

/// A demo sheet as a file of this name.
fn exported(folder: &Path, name: &str, more: &[&str]) -> Result<PathBuf> {
    let to = folder.join(name);
    let (inky, sheet) = (root().join("target/debug/inky"), root().join("demo/press-night.sheet.json"));
    run(text(&inky), &[&["export", text(&sheet), "--ppi", "72", "--to", text(&to)], more].concat())?;
    Ok(to)
}

/// What ExifTool says of a file, profiles included.
fn facts(file: &Path) -> Result<Value> {
    let said: Value = serde_json::from_str(&run("exiftool", &["-json", "-n", text(file)])?)?;
    Ok(said[0].clone())
}

#[test]
fn a_tiff_is_what_the_png_is_and_in_the_inks_of_a_press() -> Result<()> {
    let folder = tempfile::tempdir()?;
    let own = image::open(exported(folder.path(), "own.png", &[])?)?.into_rgb8();
    let plain = exported(folder.path(), "plain.tif", &[])?;
    // libtiff unpacks all of it
    let copy = folder.path().join("copy.tif");
    run("tiffcp", &["-c", "none", text(&plain), text(&copy)])?;
    ensure!(image::open(&copy)?.into_rgb8() == own);
    let said = facts(&plain)?;
    ensure!(said["XResolution"] == 72 && said["ResolutionUnit"] == 2 && said["SamplesPerPixel"] == 3, "{said}");
    let description = said["ProfileDescription"].as_str().unwrap_or_default();
    ensure!(description.contains("sRGB"), "{said}");
    let inked = exported(folder.path(), "inked.tif", &["--press", "newsprint"])?;
    run("tiffcp", &["-c", "none", text(&inked), text(&copy)])?;
    let said = facts(&inked)?;
    // separated: cyan, magenta, yellow and black
    ensure!(said["PhotometricInterpretation"] == 5 && said["SamplesPerPixel"] == 4, "{said}");
    ensure!(said["ProfileClass"] == "prtr" && said["ColorSpaceData"] == "CMYK", "{said}");
    let limit = press("newsprint").context("no press")?.ink_limit;
    let all = std::fs::read(&copy)?;
    ensure!(all.len() > (own.len() / 3) * 4, "not unpacked");
    let mut reader = tiff::decoder::Decoder::new(std::io::Cursor::new(all))?;
    let tiff::decoder::DecodingResult::U8(inks) = reader.read_image()? else { anyhow::bail!("not of 8 bits") };
    let most = inks.chunks_exact(4).map(|p| p.iter().map(|v| u32::from(*v)).sum::<u32>()).max().unwrap_or(0);
    ensure!(f64::from(most) / 255.0 <= limit + 0.05, "{most} and {limit}");
    Ok(())
}

/// How far two pixels lie apart where they lie on black: of what is nearly clear nobody sees the colour.
fn apart(a: &Rgba<u8>, b: &Rgba<u8>) -> u32 {
    let seen = |p: &Rgba<u8>| p.0.map(|v| u32::from(v) * u32::from(p.0[3]) / 255);
    seen(a).iter().zip(seen(b)).map(|(a, b)| a.abs_diff(b)).max().unwrap_or(0)
}

#[test]
fn clear_pictures_lie_on_any_ground_and_are_trimmed() -> Result<()> {
    let folder = tempfile::tempdir()?;
    let read = |name: &str, more: &[&str]| -> Result<RgbaImage> {
        Ok(image::open(exported(folder.path(), name, more)?)?.into_rgba8())
    };
    let clear = read("clear.png", &["--clear"])?;
    ensure!(clear.pixels().any(|p| p.0[3] == 0) && clear.pixels().any(|p| p.0[3] == 255));
    // the same in all formats
    ensure!(read("clear.tif", &["--clear"])? == clear && read("clear.webp", &["--clear"])? == clear);
    let decoded = folder.path().join("decoded.png");
    run("dwebp", &["-quiet", text(&folder.path().join("clear.webp")), "-o", text(&decoded)])?;
    ensure!(image::open(&decoded)?.into_rgba8() == clear);
    // trimmed: the same pixels, and something is seen on each side
    let trimmed = read("trimmed.png", &["--clear", "--trimmed"])?;
    let seen = |p: &Rgba<u8>| p.0[3] > 0;
    let columns = (0..clear.width()).filter(|x| (0..clear.height()).any(|y| seen(clear.get_pixel(*x, y))));
    let rows = (0..clear.height()).filter(|y| (0..clear.width()).any(|x| seen(clear.get_pixel(x, *y))));
    let (columns, rows): (Vec<u32>, Vec<u32>) = (columns.collect(), rows.collect());
    let (left, right) = (columns[0], columns[columns.len() - 1]);
    let (top, bottom) = (rows[0], rows[rows.len() - 1]);
    let part = image::imageops::crop_imm(&clear, left, top, right - left + 1, bottom - top + 1).to_image();
    ensure!(trimmed.dimensions() == part.dimensions(), "{:?} and {:?}", trimmed.dimensions(), part.dimensions());
    // edges are rounded where they are drawn
    let off = trimmed.pixels().zip(part.pixels()).map(|(a, b)| apart(a, b)).max();
    ensure!(off <= Some(2), "{off:?}");
    Ok(())
}

#[test]
fn what_cannot_be_is_said_and_leaves_no_file() -> Result<()> {
    let folder = tempfile::tempdir()?;
    for (name, more, sentence) in [
        ("a.tif", vec!["--clear", "--press", "coated"], "nothing is clear"),
        ("a.jpg", vec!["--clear"], "can be clear"),
        ("a.png", vec!["--press", "coated"], "made for a press"),
        ("a.pdf", vec!["--press", "moon"], "the presses are coated"),
        ("a.gif", vec![], "has to end in"),
        ("no/such/folder/a.png", vec![], "cannot be written"),
    ] {
        let said = exported(folder.path(), name, &more).err().map(|e| e.to_string()).unwrap_or_default();
        ensure!(said.contains(sentence), "{name}: {said}");
    }
    ensure!(std::fs::read_dir(folder.path())?.next().is_none(), "something was left there");
    Ok(())
}
