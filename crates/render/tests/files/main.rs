//! Files: what is drawn, and what is never read.

mod breakouts;

use image::{Rgba, RgbaImage};
use inky_core::cutout::{Unwatched, Watch};
use inky_core::edit::{Edit, Fit, OpeningChange, apply};
use inky_core::library::LoadedLibrary;
use inky_core::outline::{Face, FontCollection};
use inky_core::scene::scene;
use inky_core::sheet::{FillId, FormId, Photo, PieceId, Sheet, Unit};
use inky_render::{
    BandSource, DeliveredSvg, Originals, Packing, PdfOptions, PdfPage, Plan, RenderError, fits, jpeg, pdf, pixels, png,
    svg,
};
use std::sync::Arc;
use std::sync::atomic::{AtomicUsize, Ordering};

fn poster() -> (Sheet, LoadedLibrary, Originals) {
    let mut fonts = FontCollection::default();
    let f = inky_fonts::FACES[0];
    fonts.add(Face::new(f.id.into(), f.name, f.data).unwrap());
    let photo = Photo::new("red", 300, 200);
    let library =
        LoadedLibrary { fonts: Arc::new(fonts), photos: [("red".into(), photo)].into(), ..LoadedLibrary::default() };
    let piece = PieceId::fresh();
    let mut sheet = Sheet::new("I & I", 100.0, 70.7, Unit::Mm, 100.0);
    let edits = [
        Edit::AddLettering {
            piece,
            form: FormId::fresh(),
            fill: FillId::fresh(),
            text: "I".into(),
            font: "anton".into(),
        },
        Edit::FillWithPhoto { piece, fill: FillId::fresh(), photo: "red".into() },
        Edit::SetBackground { colour: "#204060".parse().unwrap() },
    ];
    for edit in &edits {
        sheet = apply(&sheet, edit, &library).unwrap();
    }
    // half as high as the sheet, whatever room a new word takes
    let path = inky_core::outline::opening_path(&sheet.pieces[0].window().unwrap().opening, &library).unwrap();
    let half = 0.5 * sheet.height / kurbo::Shape::bounding_box(&path).height();
    let (x, y) = (sheet.width / 2.0 * (1.0 - half), sheet.height / 2.0 * (1.0 - half));
    let change = OpeningChange::Transform { forms: Vec::new(), by: [half, 0.0, 0.0, half, x, y] };
    sheet = apply(&sheet, &Edit::Opening { piece, change }, &library).unwrap();
    let fit = Edit::FitPhoto { piece, fill: sheet.pieces[0].window().unwrap().fills[0].id, fit: Fit::Cover };
    sheet = apply(&sheet, &fit, &library).unwrap();
    let red = Arc::new(RgbaImage::from_pixel(300, 200, Rgba([210, 20, 30, 255])));
    (sheet, library, Originals { photos: [("red".into(), red)].into(), ..Originals::default() })
}

#[test]
fn the_photo_shows_in_the_letter_and_the_ground_beside_it() {
    let (sheet, library, originals) = poster();
    let plan = Plan::of_sheet(&sheet, &library, &originals, 100.0, 0.0).unwrap();
    let mut file = Vec::new();
    png(&plan, &Unwatched, &mut file).unwrap();
    let picture = image::load_from_memory(&file).unwrap().into_rgb8();
    assert_eq!(picture.dimensions(), (394, 278));
    assert_eq!(picture.get_pixel(197, 139).0, [210, 20, 30]);
    for (x, y) in [(2, 2), (391, 275), (393, 277), (60, 139)] {
        assert_eq!(picture.get_pixel(x, y).0, [0x20, 0x40, 0x60], "at {x}, {y}");
    }
    let mut small = Vec::new();
    jpeg(&plan, 95, &Unwatched, &mut small).unwrap();
    let small = image::load_from_memory(&small).unwrap().into_rgb8();
    assert!(small.get_pixel(197, 139).0[0].abs_diff(210) < 8);
}

#[test]
fn an_svg_gives_the_same_picture_again() {
    let (sheet, library, originals) = poster();
    let text = svg(&scene(&sheet, &library), &sheet.name, &originals, 0.0, Packing::Small).unwrap();
    let again = DeliveredSvg::read(&text).unwrap().plan(None).unwrap();
    assert_eq!((again.size(), again.ppi()), ((394, 278), 100.0));
    let drawn = |source: &dyn BandSource| pixels(source, &Unwatched).unwrap();
    let (a, b) = (drawn(&again), drawn(&Plan::of_sheet(&sheet, &library, &originals, 100.0, 0.0).unwrap()));
    let off = a.pixels().zip(b.pixels()).filter(|(p, q)| (0..3).any(|c| p.0[c].abs_diff(q.0[c]) > 24)).count();
    assert!(off < 400, "{off} of {} pixels differ", a.width() * a.height());
}

#[test]
fn what_is_missing_is_said() {
    let (sheet, library, _) = poster();
    let error = Plan::of_sheet(&sheet, &library, &Originals::default(), 100.0, 0.0).err();
    assert!(matches!(error, Some(RenderError::MissingPicture)));
}

#[test]
fn what_needs_more_memory_than_there_is_is_refused_with_a_resolution_that_works() {
    let (sheet, library, _) = poster();
    let drawn = scene(&sheet, &library);
    assert!(fits(&drawn, 300.0, 0.0, 4e9).is_ok());
    let Err(RenderError::NoRoom { works, .. }) = fits(&drawn, 2400.0, 3.0, 0.2e9) else {
        panic!("a large file in little memory");
    };
    assert!((50.0..2400.0).contains(&works), "{works} ppi");
    assert!(fits(&drawn, works, 3.0, 0.2e9).is_ok());
    assert!(fits(&drawn, 1.1 * works, 3.0, 0.2e9).is_err());
}

#[test]
fn a_foreign_svg_reads_no_other_file_and_no_oversized_picture() {
    let own = std::env::temp_dir().join(format!("inky-{}.png", std::process::id()));
    RgbaImage::from_pixel(8, 8, Rgba([255, 0, 0, 255])).save(&own).unwrap();
    for href in [own.to_string_lossy().into_owned(), format!("file://{}", own.display())] {
        let text = format!(
            "<svg xmlns='http://www.w3.org/2000/svg' width='20mm' height='20mm'>\
             <script>alert(1)</script><image href='{href}' width='80' height='80'/></svg>"
        );
        let plan = DeliveredSvg::read(&text).unwrap().plan(Some(50.0)).unwrap();
        let picture = pixels(&plan, &Unwatched).unwrap();
        assert!(picture.pixels().all(|p| p.0 == [255, 255, 255]), "{href} was read");
    }
    std::fs::remove_file(own).unwrap();
    let huge = "<svg xmlns='http://www.w3.org/2000/svg' width='90000mm' height='90000mm'/>";
    assert!(DeliveredSvg::read(huge).unwrap().plan(Some(300.0)).is_err());
    assert!(DeliveredSvg::read("no svg").is_err());
}

/// Goes on so many times that it is asked.
struct GoesOn(AtomicUsize);

impl Watch for GoesOn {
    fn step(&self, _: f32, _: &'static str) {}

    fn is_cancelled(&self) -> bool {
        self.0.fetch_update(Ordering::Relaxed, Ordering::Relaxed, |left| left.checked_sub(1)).is_err()
    }
}

#[test]
fn a_pdf_can_be_cancelled_anywhere() {
    let (sheet, library, originals) = poster();
    let scene = scene(&sheet, &library);
    let options = PdfOptions { marks: true, ..PdfOptions::default() };
    let page = PdfPage { scene: &scene, originals: &originals, ppi: 50.0, bleed: 3.0 };
    let made = |times| pdf(&[page, page], "I", options.clone(), &GoesOn(AtomicUsize::new(times)));
    let needed = (0..100).find(|times| match made(*times) {
        Ok(file) => file.starts_with(b"%PDF-1.7"),
        Err(error) => !matches!(error, RenderError::Cancelled),
    });
    let needed = needed.unwrap();
    assert!(needed > 3 && made(needed).is_ok(), "{needed}");
    let none = Originals::default();
    assert!(matches!(
        pdf(&[PdfPage { originals: &none, ..page }], "I", options.clone(), &Unwatched),
        Err(RenderError::MissingPicture)
    ));
}
