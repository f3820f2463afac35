//! Files: what is drawn, and what is never read.

use image::{Rgba, RgbaImage};
use inky_core::breakout::WorkingMatte;
use inky_core::cutout::Unwatched;
use inky_core::edit::{Edit, apply};
use inky_core::library::Books;
use inky_core::outline::{Face, Shelf};
use inky_core::sheet::{
    Anchor, Colour, FillId, Finish, FormId, LineSide, Paint, Photo, PieceId, Placement, Rim, Sheet, Unit,
};
use inky_render::{DeliveredSvg, Originals, Plan, RenderError, jpeg, png, svg};
use std::sync::Arc;

fn poster() -> (Sheet, Books, Originals) {
    let mut shelf = Shelf::default();
    let f = inky_fonts::FACES[0];
    shelf.add(Face::new(f.id.into(), f.name, f.data).unwrap());
    let photo = Photo { name: "red".into(), width: 300, height: 200, subject: None, hints: None };
    let books = Books { shelf: Arc::new(shelf), photos: [("red".into(), photo)].into(), ..Books::default() };
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
        sheet = apply(&sheet, edit, &books).unwrap();
    }
    let red = Arc::new(RgbaImage::from_pixel(300, 200, Rgba([210, 20, 30, 255])));
    (sheet, books, Originals { photos: [("red".into(), red)].into(), ..Originals::default() })
}

#[test]
fn the_photo_shows_in_the_letter_and_the_ground_beside_it() {
    let (sheet, books, originals) = poster();
    let plan = Plan::new(&sheet, &books, &originals, 100.0).unwrap();
    let file = png(&plan, &Unwatched).unwrap();
    let picture = image::load_from_memory(&file).unwrap().into_rgb8();
    assert_eq!(picture.dimensions(), (394, 278));
    assert_eq!(picture.get_pixel(197, 139).0, [210, 20, 30]);
    for (x, y) in [(2, 2), (391, 275), (393, 277), (60, 139)] {
        assert_eq!(picture.get_pixel(x, y).0, [0x20, 0x40, 0x60], "at {x}, {y}");
    }
    let small = image::load_from_memory(&jpeg(&plan, 95, &Unwatched).unwrap()).unwrap().into_rgb8();
    assert!(small.get_pixel(197, 139).0[0].abs_diff(210) < 8);
}

/// The poster with a red pole up the middle of its photo, narrower than the letter and with a soft edge, that is let out above.
fn with_pole() -> (Sheet, Books, Originals, Placement) {
    let (mut sheet, mut books, mut originals) = poster();
    // a red pole up the middle of the photo, narrower than the letter, with a soft edge
    let alpha = |x: u32| (255.0 * (1.0 - ((f64::from(x) - 150.0).abs() - 7.0) / 3.0).clamp(0.0, 1.0)) as u8;
    let matte = image::GrayImage::from_fn(300, 200, |x, _| image::Luma([alpha(x)]));
    let pole = RgbaImage::from_fn(300, 200, |x, _| Rgba([210, 20, 30, alpha(x)]));
    books.mattes.insert("pole".into(), Arc::new(WorkingMatte::new(&matte)));
    originals.cutouts.insert("pole".into(), Arc::new(pole));
    let piece = sheet.pieces[0].id;
    let fill = sheet.pieces[0].window().unwrap().photos().next().unwrap().0;
    let placement = Placement { x: 50.0, y: 35.0, scale: 0.35, turn: 3.0, mirrored: false, slant: 0.0, pull: None };
    for edit in [
        Edit::SetPlacement { piece, fill, placement },
        Edit::SetSubject { photo: "red".into(), subject: Some("pole".into()), hints: None },
        Edit::LetOut { piece, anchor: Anchor { fill, x: 150.0, y: 20.0 } },
    ] {
        sheet = apply(&sheet, &edit, &books).unwrap();
    }
    (sheet, books, originals, placement)
}

/// Where the subject is solid, the photo inside of the letter and what breaks out of it meet without a line, whatever
/// the ground is like.
#[test]
fn no_seam_shows_where_the_subject_crosses_the_edge() {
    let (mut sheet, books, originals, placement) = with_pole();
    for (ground, ppi) in [("#000000", 100.0), ("#ffffff", 300.0), ("#20c0ff", 77.0)] {
        sheet = apply(&sheet, &Edit::SetBackground { colour: ground.parse().unwrap() }, &books).unwrap();
        let plan = Plan::new(&sheet, &books, &originals, ppi).unwrap();
        let picture = image::load_from_memory(&png(&plan, &Unwatched).unwrap()).unwrap().into_rgb8();
        let to_photo = placement.affine(300, 200).inverse();
        let per_mm = ppi / 25.4;
        // down the core of the pole, from well above the letter into it
        let mut seen = 0;
        for y in 0..picture.height() * 2 / 3 {
            for x in 0..picture.width() {
                let p = to_photo * kurbo::Point::new((f64::from(x) + 0.5) / per_mm, (f64::from(y) + 0.5) / per_mm);
                if (p.x - 150.0).abs() < 5.0 && p.y > 12.0 {
                    seen += 1;
                    let c = picture.get_pixel(x, y).0;
                    let off = c[0].abs_diff(210).max(c[1].abs_diff(20)).max(c[2].abs_diff(30));
                    assert!(off <= 3, "a seam at {x}, {y} on {ground} at {ppi} ppi: {c:?}");
                }
            }
        }
        assert!(seen > 500);
    }
}

/// A rim runs beneath what breaks out or over it, as it says, on whichever side of the edge it lies.
#[test]
fn rims_run_beneath_what_breaks_out_or_over_it() {
    let (mut sheet, books, originals, placement) = with_pole();
    let piece = sheet.pieces[0].id;
    let opening = &sheet.pieces[0].window().unwrap().opening;
    let top = kurbo::Shape::bounding_box(&inky_core::outline::opening_path(opening, &books).unwrap()).y0;
    let green = Paint::colour(Colour([0, 200, 0]));
    for (side, from, to) in [
        (LineSide::Inside, top, top + 4.0),
        (LineSide::Centre, top - 2.0, top + 2.0),
        (LineSide::Outside, top - 4.0, top),
    ] {
        for over in [false, true] {
            let paint = green.clone();
            let rim = Rim { width: 4.0, side, paint, dashes: Vec::new(), round: false, over, off: false };
            let finish = Finish { rims: vec![rim], ..Finish::default() };
            sheet = apply(&sheet, &Edit::SetFinish { piece, finish }, &books).unwrap();
            let plan = Plan::new(&sheet, &books, &originals, 254.0).unwrap();
            let picture = image::load_from_memory(&png(&plan, &Unwatched).unwrap()).unwrap().into_rgb8();
            // down the middle of the pole, through the rim
            let mut seen = 0;
            for k in 4..36 {
                let y = from + (to - from) * f64::from(k) / 40.0;
                let down = placement.turn.to_radians().tan();
                let x = placement.x - (y - placement.y) * down;
                let c = picture.get_pixel((x * 10.0) as u32, (y * 10.0) as u32).0;
                let known = if over { [0, 200, 0] } else { [210, 20, 30] };
                assert!(
                    (0..3).all(|i| c[i].abs_diff(known[i]) <= 4),
                    "{side:?}, over: {over}, at {x:.1}, {y:.1}: {c:?}"
                );
                seen += 1;
            }
            assert_eq!(seen, 32);
        }
    }
}

#[test]
fn an_svg_gives_the_same_picture_again() {
    let (sheet, books, originals) = poster();
    let text = svg(&sheet, &books, &originals, 0.0).unwrap();
    let again = DeliveredSvg::read(&text).unwrap().plan(None).unwrap();
    assert_eq!((again.width, again.height, again.ppi), (394, 278, 100.0));
    let picture = |plan| image::load_from_memory(&png(plan, &Unwatched).unwrap()).unwrap().into_rgb8();
    let (a, b) = (picture(&again), picture(&Plan::new(&sheet, &books, &originals, 100.0).unwrap()));
    let off = a.pixels().zip(b.pixels()).filter(|(p, q)| (0..3).any(|c| p.0[c].abs_diff(q.0[c]) > 24)).count();
    assert!(off < 400, "{off} of {} pixels differ", a.width() * a.height());
}

#[test]
fn what_is_missing_is_said() {
    let (sheet, books, _) = poster();
    let error = Plan::new(&sheet, &books, &Originals::default(), 100.0).err();
    assert!(matches!(error, Some(RenderError::MissingPicture)));
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
        let picture = image::load_from_memory(&png(&plan, &Unwatched).unwrap()).unwrap().into_rgb8();
        assert!(picture.pixels().all(|p| p.0 == [255, 255, 255]), "{href} was read");
    }
    std::fs::remove_file(own).unwrap();
    let huge = "<svg xmlns='http://www.w3.org/2000/svg' width='90000mm' height='90000mm'/>";
    assert!(DeliveredSvg::read(huge).unwrap().plan(Some(300.0)).is_err());
    assert!(DeliveredSvg::read("no svg").is_err());
}
