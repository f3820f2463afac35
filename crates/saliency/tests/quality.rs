//! The whole chain with the real network, on rendered photos whose mattes are known exactly.

use image::GrayImage;
use inky_core::cutout::{CutoutError, PhotoBox, Unwatched, find_subject, iou};
use inky_core::grid::Grid;
use inky_core::photo::decode;
use inky_saliency::Network;
use std::path::Path;

fn demo(name: &str) -> Vec<u8> {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/photos").join(name);
    std::fs::read(&path).unwrap_or_else(|e| panic!("{}: {e}", path.display()))
}

fn mask(matte: &GrayImage) -> Grid<bool> {
    let data = matte.pixels().map(|p| p.0[0] > 127).collect();
    Grid { width: matte.width() as usize, height: matte.height() as usize, data }
}

#[test]
fn octopus_kite_and_balloon_are_found_in_a_box() {
    let network = Network::load().unwrap();
    let kite = PhotoBox { x: 48.0, y: 168.0, width: 2686.0, height: 1699.0 };
    let balloon = PhotoBox { x: 259.0, y: 234.0, width: 1148.0, height: 2166.0 };
    for (name, within) in [("octopus-kite", kite), ("balloon", balloon)] {
        let photo = decode(&demo(&format!("{name}.jpg"))).unwrap();
        let truth = image::load_from_memory(&demo(&format!("{name}.alpha.png"))).unwrap().into_luma8();
        let found = find_subject(&photo, Some(within), &network, &Unwatched).unwrap();
        let overlap = iou(&mask(&found.matte), &mask(&truth));
        println!("{name}: IoU {overlap:.4}");
        assert!(overlap >= 0.95, "{name}: IoU {overlap:.4}");
        // soft where the truth is soft: not a mere mask
        assert!(
            found.matte.pixels().filter(|p| (20..235).contains(&p.0[0])).count() > 2_000,
            "{name} has no soft edge"
        );
    }
}

#[test]
fn an_even_photo_has_no_subject_and_a_far_box_is_refused() {
    let network = Network::load().unwrap();
    let even = image::RgbaImage::from_pixel(300, 200, image::Rgba([120, 130, 140, 255]));
    let outside = PhotoBox { x: 400.0, y: 10.0, width: 50.0, height: 50.0 };
    let far = find_subject(&even, Some(outside), &network, &Unwatched);
    assert_eq!(far.err(), Some(CutoutError::BoxOutside));
    // whatever is made of it, it must not be a panic or an endless search
    let _ = find_subject(&even, None, &network, &Unwatched);
}
