//! Proposals of where a photo could lie, and of inks for it.

use crate::edits::word;
use image::{GrayImage, Luma, Rgba, RgbaImage};
use inky_core::breakout::WorkingMatte;
use inky_core::edit::{Edit, Fit};
use inky_core::palette::main_colours;
use inky_core::placements::propose_placements;
use inky_core::sheet::*;
use kurbo::{BezPath, Circle, Rect, Shape};
use std::sync::Arc;

/// Far larger than all that is proposed.
const PAGE: Rect = Rect::new(-1000.0, -1000.0, 1000.0, 1000.0);

/// A tall subject, left of the middle of a photo of 600 x 400.
fn matte() -> WorkingMatte {
    let inside = |x: u32, y: u32| (140..260).contains(&x) && (60..380).contains(&y);
    WorkingMatte::new(&GrayImage::from_fn(600, 400, |x, y| Luma([if inside(x, y) { 255 } else { 0 }])))
}

fn openings() -> [BezPath; 3] {
    let box_ = Rect::new(50.0, 40.0, 250.0, 120.0).to_path(0.1);
    let ring = Circle::new((100.0, 100.0), 60.0).to_path(0.01);
    let mut letters = Rect::new(20.0, 20.0, 50.0, 120.0).to_path(0.1);
    letters.extend(Rect::new(70.0, 20.0, 100.0, 120.0).to_path(0.1));
    [box_, ring, letters]
}

#[test]
fn every_proposal_covers_and_says_what_it_is_good_for() {
    let matte = matte();
    for opening in openings() {
        for subject in [Some(&matte), None] {
            let proposed = propose_placements(&opening, PAGE, (600, 400), subject);
            assert!((3..=5).contains(&proposed.len()), "{} proposals", proposed.len());
            for p in &proposed {
                assert_eq!(p.uncovered, 0.0, "{p:?}");
                let photo = p.placement.affine(600, 400).transform_rect_bbox(Rect::new(0.0, 0.0, 600.0, 400.0));
                let b = opening.bounding_box();
                assert!(photo.contains(b.origin()) && photo.x1 >= b.x1 && photo.y1 >= b.y1, "{photo:?} and {b:?}");
                assert!((p.ppi - 25.4 / p.placement.scale).abs() < 1e-9 && !p.good_for.is_empty());
                assert!(p.shown + p.over.iter().sum::<f64>() <= 1.0 + 1e-6 && p.shown > 0.0);
            }
            let names: std::collections::BTreeSet<&str> = proposed.iter().map(|p| p.good_for.as_str()).collect();
            assert_eq!(names.len(), proposed.len());
        }
    }
    let none = propose_placements(&BezPath::new(), PAGE, (600, 400), Some(&matte));
    assert!(none.is_empty());
}

#[test]
fn proposals_keep_what_they_promise() {
    let opening = &openings()[0];
    let proposed = propose_placements(opening, PAGE, (600, 400), Some(&matte()));
    let find = |name: &str| proposed.iter().find(|p| p.good_for == name);
    let most = find("shows most of the subject").unwrap();
    assert!(proposed.iter().all(|p| p.shown <= most.shown + 0.02), "{proposed:#?}");
    let above = find("climbs out above").unwrap();
    assert!(above.over[0] > 0.08 && above.over[0] > above.over[2] + above.over[3], "{above:?}");
    // counted by hand: how many of the subject's points lie above the opening
    let to_sheet = above.placement.affine(600, 400);
    let (mut beyond, mut all) = (0, 0);
    for (x, y) in (140..260).step_by(4).flat_map(|x| (60..380).step_by(4).map(move |y| (x, y))) {
        let p = to_sheet * kurbo::Point::new(f64::from(x), f64::from(y));
        all += 1;
        beyond += usize::from(p.y < opening.bounding_box().y0);
    }
    let share = beyond as f64 / all as f64;
    assert!((share - above.over[0]).abs() < 0.05, "{share} by hand, {} said", above.over[0]);
}

#[test]
fn what_climbs_out_stays_on_the_sheet() {
    let opening = &openings()[0];
    let b = opening.bounding_box();
    for room in [30.0, 12.0, 4.0] {
        let page = Rect::new(0.0, b.y0 - room, 300.0, 300.0);
        for p in propose_placements(opening, page, (600, 400), Some(&matte())) {
            let top = p.placement.affine(600, 400) * kurbo::Point::new(200.0, 60.0);
            let climbs = p.good_for == "climbs out above";
            assert!(!climbs || top.y >= page.y0 - 0.6, "{} with {room} mm of room: {top:?}", p.good_for);
        }
    }
}

#[test]
fn a_photo_is_centred_on_its_subject() {
    let mut w = word();
    w.library.mattes.insert("pole".into(), Arc::new(matte()));
    let fill = FillId::fresh();
    w.edit(Edit::AddPhoto { piece: w.piece, fill, photo: "wide".into() });
    let fit = Edit::FitPhoto { piece: w.piece, fill, fit: Fit::Subject };
    assert_eq!(w.try_edit(fit.clone()).unwrap_err().to_string(), "This subject is not here. Find it again.");
    w.edit(Edit::found("wide".into(), "pole".into()));
    w.edit(fit);
    let place = w.sheet.piece(w.piece).unwrap().window().unwrap().photos().next().unwrap().1.placement;
    let b = w.bounds();
    let middle = place.affine(600, 400) * kurbo::Point::new(200.0, 220.0);
    assert!((middle.x - b.center().x).abs() < 0.02 * b.width(), "{middle:?} in {b:?}");
    let photo = place.affine(600, 400).transform_rect_bbox(Rect::new(0.0, 0.0, 600.0, 400.0));
    assert!(photo.x0 <= b.x0 && photo.y0 <= b.y0 && photo.x1 >= b.x1 && photo.y1 >= b.y1);

    // as large and as turned as it is
    let small = Placement { x: 20.0, y: 30.0, scale: 0.1, turn: 30.0, mirrored: true, ..place };
    w.edit(Edit::SetPlacement { piece: w.piece, fill, placement: small });
    w.edit(Edit::FitPhoto { piece: w.piece, fill, fit: Fit::Middle });
    let moved = w.sheet.piece(w.piece).unwrap().window().unwrap().photos().next().unwrap().1.placement;
    assert_eq!(moved, Placement { x: moved.x, y: moved.y, ..small });
    let subject = w.library.mattes[&"pole".into()].bounds().unwrap().center();
    assert!((moved.affine(600, 400) * subject - b.center()).hypot() < 1e-9);
}

#[test]
fn the_inks_of_a_photo_are_its_colours() {
    // three quarters of sea, a fifth of sand, a little red
    let photo = RgbaImage::from_fn(200, 100, |x, y| match (x, y) {
        (0..150, _) => Rgba([20, 90, 120, 255]),
        (_, 0..10) => Rgba([214, 32, 40, 255]),
        _ => Rgba([230, 205, 160, 255]),
    });
    let found = main_colours(&photo);
    let near = |c: Colour, k: [u8; 3]| (0..3).all(|i| c.0[i].abs_diff(k[i]) <= 3);
    assert_eq!(found.len(), 3, "{found:?}");
    for (p, (colour, share)) in
        found.iter().zip([([20, 90, 120], 0.75), ([230, 205, 160], 0.225), ([214, 32, 40], 0.025)])
    {
        assert!(near(p.colour, colour) && (p.share - share).abs() < 0.02, "{p:?} for {colour:?}");
    }
    // the names differ, and the same photo gives the same ones again
    assert!(found[0].name != found[1].name && found[1].name != found[2].name);
    assert_eq!(found, main_colours(&photo));
    // one colour gives one ink, a clear picture none
    assert_eq!(main_colours(&RgbaImage::from_pixel(50, 50, Rgba([9, 9, 9, 255]))).len(), 1);
    assert!(main_colours(&RgbaImage::from_pixel(50, 50, Rgba([9, 9, 9, 0]))).is_empty());
}
