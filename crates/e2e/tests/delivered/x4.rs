//! PDF/X-4: what ISO 15930-7 asks for and can be read off the file. Spot inks on plates of their own, and the sheet that travels inside.

use super::{run, text};
use anyhow::{Context, Result, ensure};
use image::GrayImage;
use inky_core::cutout::{Saliency, Unwatched};
use inky_core::scene::scene;
use inky_core::sheet::{Piece, Sheet};
use inky_e2e::renderers::Loaded;
use inky_e2e::root;
use inky_press::press;
use inky_render::{PdfOptions, PdfPage, PdfX4, Plan, SHEET_INSIDE, pdf, pixels, sheet_inside};
use inky_saliency::Network;
use serde_json::Value;
use std::path::Path;
use std::sync::Arc;
use time::OffsetDateTime;

/// The demo poster in two inks, with both of them as spot inks.
fn in_two_inks() -> Result<(Sheet, Loaded)> {
    let folder = root().join("demo");
    let network: Arc<dyn Saliency> = Arc::new(Network::load()?);
    let loaded = Loaded::read(&std::fs::read(folder.join("press-night.sheet.json"))?, &folder, Some(network))?;
    let mut sheet = Sheet { ppi: 72.0, bleed: 3.0, ..loaded.sheet.clone() };
    sheet.inks.iter_mut().filter(|ink| ink.name != "Uncoated").for_each(|ink| ink.spot = true);
    Ok((sheet, loaded))
}

fn x4() -> Result<PdfX4> {
    let made = OffsetDateTime::from_unix_timestamp(1_790_000_000)?;
    Ok(PdfX4 { press: press("coated").context("no press")?, made })
}

/// All objects of a PDF as qpdf tells them, streams with what is in them.
fn objects(file: &Path) -> Result<Vec<Value>> {
    let json: Value = serde_json::from_str(&run("qpdf", &["--json", "--json-stream-data=inline", text(file)])?)?;
    let all = json["qpdf"][1].as_object().context("no objects")?;
    Ok(all.values().map(|o| if o["value"].is_null() { o["stream"].clone() } else { o["value"].clone() }).collect())
}

#[test]
fn it_has_what_the_standard_asks_for() -> Result<()> {
    let (sheet, loaded) = in_two_inks()?;
    let files = tempfile::tempdir()?;
    let file = files.path().join("x4.pdf");
    let inside = serde_json::to_vec(&serde_json::json!({ "format": "a sheet" }))?;
    let built = scene(&sheet, &loaded.library);
    let page = PdfPage { scene: &built, originals: &loaded.originals, ppi: 72.0, bleed: 3.0 };
    let options = PdfOptions { marks: true, x4: Some(x4()?), sheet_file: Some(inside.clone()) };
    let bytes = pdf(&[page], "Press & night", options, &Unwatched)?;
    std::fs::write(&file, &bytes)?;
    run("qpdf", &["--check", text(&file)])?;
    // 6.1: based on PDF 1.6, with an identifier, not encrypted
    ensure!(bytes.starts_with(b"%PDF-1.6"));
    let trailer = run("qpdf", &["--show-object=trailer", text(&file)])?;
    ensure!(trailer.contains("/ID") && !trailer.contains("/Encrypt"), "{trailer}");
    let objects = objects(&file)?;
    let of_type = |name: &str| objects.iter().filter(|o| o["/Type"] == name).collect::<Vec<_>>();
    // 6.2.2: one output intent, with the profile of an output device
    let intents: Vec<&Value> = objects.iter().filter(|o| o["/S"] == "/GTS_PDFX").collect();
    ensure!(intents.len() == 1 && intents[0]["/OutputConditionIdentifier"] == "u:coated", "{intents:?}");
    ensure!(intents[0]["/Info"].is_string() && intents[0]["/DestOutputProfile"].is_string());
    let profile = objects.iter().find(|o| o["dict"]["/N"] == 4).context("no profile")?;
    ensure!(profile["data"].as_str().is_some_and(|data| data.len() > 10_000));
    let catalog = of_type("/Catalog").pop().context("no catalog")?;
    ensure!(catalog["/OutputIntents"].as_array().is_some_and(|all| all.len() == 1));
    // 6.7: the metadata says which standard it keeps to, and the same as the older entries
    let xmp = run("qpdf", &["--show-object=trailer", text(&file)]).and_then(|_| metadata(&bytes))?;
    for part in ["<pdfxid:GTS_PDFXVersion>PDF/X-4<", "Press &amp; night", "<pdf:Trapped>False<", "2026-09-21T14:13:20Z"]
    {
        ensure!(xmp.contains(part), "{part} in {xmp}");
    }
    for part in [
        "xmp:CreateDate",
        "xmp:ModifyDate",
        "xmp:MetadataDate",
        "xmpMM:DocumentID",
        "xmpMM:RenditionClass",
        "xmpMM:VersionID",
    ] {
        ensure!(xmp.contains(part), "{part} in {xmp}");
    }
    let info = objects.iter().find(|o| o["/Trapped"].is_string()).context("no information")?;
    ensure!(info["/Trapped"] == "/False" && info["/Title"] == "u:Press & night", "{info}");
    ensure!(info["/CreationDate"] == "u:D:20260921141320Z" && info["/CreationDate"] == info["/ModDate"], "{info}");
    // 6.10: trim in bleed in media
    for page in of_type("/Page") {
        let of = |name: &str| -> Vec<f64> {
            page[name].as_array().into_iter().flatten().filter_map(Value::as_f64).collect()
        };
        let (media, bleed, trim) = (of("/MediaBox"), of("/BleedBox"), of("/TrimBox"));
        let within = |a: &[f64], b: &[f64]| {
            a.len() == 4 && b.len() == 4 && a[0] >= b[0] && a[1] >= b[1] && a[2] <= b[2] && a[3] <= b[3]
        };
        ensure!(within(&trim, &bleed) && within(&bleed, &media) && page["/ArtBox"].is_null(), "{page}");
        ensure!(page["/Annots"].is_null() && page["/AA"].is_null());
    }
    // 6.2.4: colours with a profile or of the press, never of whatever screen; nothing is run, packed in a forbidden way or bent by a curve
    let all = serde_json::to_string(&objects)?;
    for never in [
        "\"/DeviceRGB\"",
        "\"/JavaScript\"",
        "\"/Launch\"",
        "\"/LZWDecode\"",
        "\"/TR\"",
        "\"/TR2\"",
        "\"/OPI\"",
        "\"/PS\"",
        "\"/Encrypt\"",
    ] {
        ensure!(!all.contains(never), "{never}");
    }
    // the sheet comes out as it went in, also without our name for it
    ensure!(sheet_inside(&bytes, 1 << 20)?.as_deref() == Some(&inside[..]));
    run("qpdf", &["--list-attachments", text(&file)]).and_then(|list| {
        ensure!(list.contains("inky-window.sheet.json"), "{list}");
        Ok(())
    })
}

/// The metadata of a file, found as plain text: that is how programs that know nothing of PDF find it.
fn metadata(bytes: &[u8]) -> Result<String> {
    let text = String::from_utf8_lossy(bytes);
    let from = text.find("<?xpacket begin").context("no metadata")?;
    let to = text[from..].find("<?xpacket end").context("half of the metadata")?;
    Ok(text[from..from + to].to_owned())
}

/// The plate of an ink, as Ghostscript separates a file; 0 is full ink.
fn plate(folder: &Path, ink: &str) -> Result<GrayImage> {
    let name = format!("plates({ink}).tif");
    Ok(image::open(folder.join(&name)).with_context(|| format!("no {name}"))?.into_luma8())
}

#[test]
fn spot_inks_are_on_plates_of_their_own() -> Result<()> {
    let (mut sheet, loaded) = in_two_inks()?;
    // a photo in the colours of the inks is still one of process colours
    let has_photo = |piece: &Piece| piece.window().is_some_and(|w| w.fills.iter().any(|f| f.photo().is_some()));
    sheet.pieces.retain(|piece| !has_photo(piece));
    let files = tempfile::tempdir()?;
    let file = files.path().join("spots.pdf");
    let built = scene(&sheet, &loaded.library);
    let page = PdfPage { scene: &built, originals: &loaded.originals, ppi: 72.0, bleed: 0.0 };
    let options = PdfOptions { x4: Some(x4()?), ..PdfOptions::default() };
    std::fs::write(&file, pdf(&[page], &sheet.name, options, &Unwatched)?)?;
    let out = format!("-sOutputFile={}", text(&files.path().join("plates.tif")));
    run("gs", &["-q", "-dNOPAUSE", "-dBATCH", "-dSAFER", "-sDEVICE=tiffsep", "-r72", &out, text(&file)])?;
    // where the sheet shows nothing but an ink, its plate is full and the process plates are bare
    let own = pixels(&Plan::new(built, loaded.originals.clone(), 72.0, 0.0)?, &Unwatched)?;
    let process = ["Cyan", "Magenta", "Yellow", "Black"].map(|ink| plate(files.path(), ink));
    let process = process.into_iter().collect::<Result<Vec<_>>>()?;
    for spot in sheet.spot_inks() {
        let plate = plate(files.path(), &spot.name)?;
        ensure!(plate.dimensions() == own.dimensions(), "{:?} and {:?}", plate.dimensions(), own.dimensions());
        let of_it = |x: u32, y: u32| own.get_pixel(x, y).0[..3] == spot.colour.0;
        let inner = |x: u32, y: u32| (0..9).all(|k| of_it(x + k % 3 - 1, y + k / 3 - 1));
        let (w, h) = own.dimensions();
        let places = (1..h - 1).flat_map(|y| (1..w - 1).map(move |x| (x, y))).filter(|(x, y)| inner(*x, *y));
        let (mut seen, mut wrong) = (0, 0);
        for (x, y) in places {
            seen += 1;
            let bare = process.iter().all(|plate| plate.get_pixel(x, y).0[0] > 250);
            wrong += usize::from(plate.get_pixel(x, y).0[0] > 4 || !bare);
        }
        println!("{}: {wrong} of {seen} pixels are not in the ink alone", spot.name);
        ensure!(seen > 1000 && wrong * 100 < seen, "{}: {wrong} of {seen}", spot.name);
    }
    Ok(())
}

#[test]
fn pdfs_of_others_have_a_sentence() -> Result<()> {
    let (sheet, loaded) = in_two_inks()?;
    let files = tempfile::tempdir()?;
    let (plain, locked) = (files.path().join("plain.pdf"), files.path().join("locked.pdf"));
    let built = scene(&sheet, &loaded.library);
    let page = PdfPage { scene: &built, originals: &loaded.originals, ppi: 36.0, bleed: 0.0 };
    let bytes = pdf(&[page], "None", PdfOptions::default(), &Unwatched)?;
    std::fs::write(&plain, &bytes)?;
    ensure!(sheet_inside(&bytes, 1 << 20)?.is_none());
    run("qpdf", &["--encrypt", "open", "own", "256", "--", text(&plain), text(&locked)])?;
    // one that unpacks to more than a sheet file may have, put there by another program
    let (zeros, bomb) = (files.path().join("zeros"), files.path().join("bomb.pdf"));
    std::fs::write(&zeros, vec![0; 3 << 20])?;
    let name = format!("--filename={SHEET_INSIDE}");
    run("qpdf", &[text(&plain), "--add-attachment", text(&zeros), &name, "--", text(&bomb)])?;
    ensure!(std::fs::metadata(&bomb)?.len() < bytes.len() as u64 + (1 << 20), "it is packed");
    let said = |bytes: &[u8]| sheet_inside(bytes, 1 << 20).err().map(|e| e.to_string()).unwrap_or_default();
    ensure!(said(&std::fs::read(&bomb)?).contains("more than 1 MiB"), "{}", said(&std::fs::read(&bomb)?));
    ensure!(said(&std::fs::read(&locked)?).contains("password"), "{}", said(&std::fs::read(&locked)?));
    ensure!(said(b"%PDF-1.7\nnothing of it").contains("cannot be read"), "{}", said(b"%PDF-1.7\nnothing of it"));
    Ok(())
}
