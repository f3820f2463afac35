//! What is found in a box where the network sees something else.

mod common;

use common::Reds;
use image::{Rgba, RgbaImage};
use inky_cutout::grid::Grid;
use inky_cutout::{Hints, PhotoBox, Standout, Unwatched, WorkingPhoto, draft, iou};

/// A blue body on four thin legs.
fn is_subject(x: u32, y: u32) -> bool {
    let body = (x as f32 - 160.0).hypot((y as f32 - 90.0) * 1.6) < 50.0;
    let leg = [112, 144, 176, 206].iter().any(|left| (*left..left + 4).contains(&x)) && (90..190).contains(&y);
    body || leg
}

/// On green, with red balls all over, as many of them behind the subject as beside it.
fn photo() -> RgbaImage {
    RgbaImage::from_fn(320, 240, |x, y| {
        let ball = (f64::from(x % 50) - 25.0).hypot(f64::from(y % 50) - 25.0) < 12.0;
        let grain = ((x * 31 + y * 57 + x * y) % 9) as u8;
        match (is_subject(x, y), ball) {
            (true, _) => Rgba([40 + grain, 60, 200, 255]),
            (_, true) => Rgba([190 + grain, 50, 40, 255]),
            _ => Rgba([70 + grain, 130, 60, 255]),
        }
    })
}

#[test]
fn what_fills_the_box_is_found_though_something_else_stands_out() {
    let photo = photo();
    let within = PhotoBox { x: 110.0, y: 58.0, width: 100.0, height: 132.0 };
    let standout = Standout::find(&photo, Some(&within), &Reds, &Unwatched).unwrap();
    let found = draft(&WorkingPhoto::new(&photo), &standout, &Hints::within(Some(within)), None, &Unwatched).unwrap();
    let truth = Grid::from_fn(320, 240, |x, y| is_subject(x as u32, y as u32));
    let overlap = iou(&Grid::above(&found.matte(), 127), &truth);
    assert!(overlap > 0.93, "{overlap}");
}
