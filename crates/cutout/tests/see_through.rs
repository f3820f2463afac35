//! Glass, smoke and shadows, from strokes to the cut-out at full size.

mod common;

use common::Reds;
use image::{GrayImage, Luma, Rgba, RgbaImage};
use inky_cutout::{
    CutoutError, Hints, PhotoBox, SeeThroughStroke, Standout, Start, SubjectStroke, Unwatched, WorkingPhoto, draft,
    find_subject,
};

const SIZE: (u32, u32) = (1200, 900);
const FOOT: [f32; 2] = [480.0, 640.0];

fn is_post(x: u32, y: u32) -> bool {
    (420..540).contains(&x) && (240..640).contains(&y)
}

/// How much a shadow takes at a place: it runs to the right from the foot of the post, and ends softly.
fn shade(x: u32, y: u32) -> f32 {
    let (along, across) = (x as f32 - FOOT[0], (y as f32 - FOOT[1] + 25.0).abs());
    let soft = 6.0 + along.max(0.0) / 40.0;
    let side = ((28.0 - across) / soft + 0.5).clamp(0.0, 1.0);
    if is_post(x, y) || along < 0.0 { 0.0 } else { 0.5 * side * ((420.0 - along) / 60.0).clamp(0.0, 1.0) }
}

/// How much smoke covers.
fn smoke(x: u32, y: u32) -> f32 {
    let off = (x as f32 - 900.0).hypot(y as f32 - 300.0);
    (-off * off / 8000.0).exp()
}

/// A red post on sand with its shadow, and smoke beside it.
fn photo() -> RgbaImage {
    RgbaImage::from_fn(SIZE.0, SIZE.1, |x, y| {
        let grain = ((x * 31 + y * 57 + x * y) % 7) as f32;
        let ground = if is_post(x, y) {
            [200.0 + grain, 40.0, 30.0]
        } else {
            [150.0 + grain, 140.0 + grain - y as f32 / 60.0, 110.0].map(|v| v * (1.0 - shade(x, y)))
        };
        let mixed = ground.map(|v| v * (1.0 - smoke(x, y)) + 240.0 * smoke(x, y));
        Rgba([mixed[0] as u8, mixed[1] as u8, mixed[2] as u8, 255])
    })
}

/// How far a matte is off, as a share of what there is.
fn off(matte: &GrayImage, truth: impl Fn(u32, u32) -> f32) -> f32 {
    let all = matte.enumerate_pixels().map(|(x, y, Luma([a]))| (f32::from(*a) / 255.0 - truth(x, y)).abs());
    all.sum::<f32>() / (0..SIZE.0).flat_map(|x| (0..SIZE.1).map(move |y| (x, y))).map(|(x, y)| truth(x, y)).sum::<f32>()
}

fn around(x: f64, y: f64, width: f64) -> SeeThroughStroke {
    SeeThroughStroke { shadow: false, width, points: vec![[x, y]] }
}

#[test]
fn smoke_is_painted_over_and_keeps_its_own_colour() {
    let hints = Hints { start: Start::Nothing, see_through: vec![around(900.0, 300.0, 440.0)], ..Hints::default() };
    let found = find_subject(&photo(), &hints, &Reds, &Unwatched).unwrap();
    assert!(off(&found.matte, smoke) < 0.12, "{}", off(&found.matte, smoke));
    let half = found.cutout.get_pixel(960, 320);
    assert!(half.0[..3].iter().all(|v| v.abs_diff(240) < 16), "{half:?}");
    // the ground at its foot is as bare as before
    assert_eq!(found.matte.get_pixel(480, 500).0[0], 0);
    let thin = find_subject(&photo(), &Hints { density: 0.5, ..hints.clone() }, &Reds, &Unwatched).unwrap();
    assert!(thin.matte.get_pixel(960, 320).0[0] < found.matte.get_pixel(960, 320).0[0]);
    // what surely does not belong to it covers nothing
    let beside = SubjectStroke::new(false, 60.0, vec![[960.0, 320.0]]);
    let without = find_subject(&photo(), &Hints { strokes: vec![beside], ..hints }, &Reds, &Unwatched).unwrap();
    assert_eq!(without.matte.get_pixel(960, 320).0[0], 0);
}

#[test]
fn a_shadow_is_found_by_itself_and_kept_apart() {
    let within = PhotoBox { x: 380.0, y: 200.0, width: 200.0, height: 480.0 };
    let hints = Hints { shadow_alone: true, ..Hints::within(Some(within)) };
    let found = find_subject(&photo(), &hints, &Reds, &Unwatched).unwrap();
    assert!(off(&found.matte, shade) < 0.2, "{}", off(&found.matte, shade));
    assert!(found.cutout.pixels().filter(|p| p.0[3] > 20).all(|p| p.0[..3] == [0, 0, 0]));
    assert_eq!((found.matte.get_pixel(480, 400).0[0], found.matte.get_pixel(900, 300).0[0]), (0, 0));
    // at the working size it is the same
    let working = WorkingPhoto::new(&photo());
    let standout = Standout::find(&photo(), Some(&within), &Reds, &Unwatched).unwrap();
    let drawn = draft(&working, &standout, &hints, None, &Unwatched).unwrap();
    let small = drawn.matte();
    let at = |x: u32, y: u32| small.get_pixel(x * small.width() / SIZE.0, y * small.height() / SIZE.1).0[0];
    assert!(at(700, 615).abs_diff(found.matte.get_pixel(700, 615).0[0]) < 12 && at(480, 400) == 0);
    // what goes on with a draft gives what it gives at once
    let shadow = SeeThroughStroke { shadow: true, ..around(930.0, 615.0, 60.0) };
    let more = Hints { see_through: vec![shadow, around(900.0, 300.0, 440.0)], ..hints };
    let on = draft(&working, &standout, &more, Some(&drawn), &Unwatched).unwrap();
    let at_once = draft(&working, &standout, &more, None, &Unwatched).unwrap();
    assert_eq!(on.matte(), at_once.matte());
    // smoke is no shadow
    let smoky = on.matte().get_pixel(900 * small.width() / SIZE.0, 300 * small.height() / SIZE.1).0[0];
    assert_eq!(smoky, 0);
}

#[test]
fn without_a_shadow_it_is_said() {
    let flat = RgbaImage::from_fn(300, 200, |x, y| {
        if (100..160).contains(&x) && (40..140).contains(&y) {
            Rgba([200, 40, 30, 255])
        } else {
            Rgba([150, 140, 110, 255])
        }
    });
    let hints = Hints { shadow_alone: true, ..Hints::default() };
    assert_eq!(find_subject(&flat, &hints, &Reds, &Unwatched).err(), Some(CutoutError::NoShadow));
    let thick = Hints { density: 1.5, ..Hints::default() };
    assert_eq!(thick.check(), Err(CutoutError::Density));
}
