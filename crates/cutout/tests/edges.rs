//! Edges that are looked at closely only where a person asks for it.

mod common;

use common::Reds;
use image::{Rgba, RgbaImage};
use inky_cutout::{
    EdgeStroke, Hints, PhotoBox, Standout, Start, SubjectEdge, Unwatched, WorkingPhoto, draft, find_subject,
};

/// Whether hair lies there: level lines, two pixels high, to both sides of the disc.
fn is_hair(x: u32, y: u32) -> bool {
    (90..210).contains(&x) && (80..120).contains(&y) && y % 6 < 2
}

/// A red disc with hair to its left and its right, `times` as large as 300 x 200 pixels.
fn photo(times: u32) -> RgbaImage {
    RgbaImage::from_fn(300 * times, 200 * times, |x, y| {
        let (x, y) = (x / times, y / times);
        let grain = ((x * 31 + y * 57 + x * y) % 9) as u8;
        let disc = f64::from(x.abs_diff(150)).hypot(f64::from(y.abs_diff(100))) < 45.0;
        if disc || is_hair(x, y) { Rgba([190 + grain, 40, 30, 255]) } else { Rgba([60, 110 + grain, 140, 255]) }
    })
}

fn hints(times: f64, closely: bool) -> Hints {
    let within = PhotoBox { x: 80.0 * times, y: 45.0 * times, width: 140.0 * times, height: 110.0 * times };
    let brush =
        EdgeStroke { width: 44.0 * times, points: vec![[205.0 * times, 90.0 * times], [205.0 * times, 110.0 * times]] };
    Hints {
        start: Start::Salient,
        edge: SubjectEdge { hair: false, band: None, shift: 0.0, smooth: 6.0 * times, spill: 1.0 },
        refined: if closely { vec![brush] } else { Vec::new() },
        ..Hints::within(Some(within))
    }
}

#[test]
fn hair_is_found_beneath_the_brush_and_nowhere_else() {
    let photo = photo(1);
    let working = WorkingPhoto::new(&photo);
    let standout = Standout::find(&photo, hints(1.0, false).within.as_ref(), &Reds, &Unwatched).unwrap();
    let drawn = |closely| draft(&working, &standout, &hints(1.0, closely), None, &Unwatched).unwrap().matte();
    let (even, close) = (drawn(false), drawn(true));
    let at = |m: &image::GrayImage, x: u32, y: u32| m.get_pixel(x, y).0[0];
    // smoothing has taken the hair off
    assert!((82..118).filter(|y| is_hair(200, *y)).all(|y| at(&even, 200, y) < 20));
    let beneath = |hair| {
        let all: Vec<f64> =
            (84..116).filter(|y| is_hair(200, *y) == hair).map(|y| f64::from(at(&close, 200, y))).collect();
        all.iter().sum::<f64>() / all.len() as f64
    };
    assert!(beneath(true) > beneath(false) + 60.0, "{} and {}", beneath(true), beneath(false));
    // to the left nothing is other than before
    assert!((0..170).all(|x| (0..200).all(|y| at(&even, x, y) == at(&close, x, y))));
}

#[test]
fn at_full_size_too() {
    let photo = photo(4);
    let found = |closely| find_subject(&photo, &hints(4.0, closely), &Reds, &Unwatched).unwrap().matte;
    let (even, close) = (found(false), found(true));
    assert!(
        (0..170 * 4).step_by(3).all(|x| (0..800).step_by(3).all(|y| even.get_pixel(x, y) == close.get_pixel(x, y)))
    );
    let changed = (183 * 4..227 * 4).flat_map(|x| (300..500).map(move |y| (x, y)));
    assert!(changed.filter(|(x, y)| even.get_pixel(*x, *y) != close.get_pixel(*x, *y)).count() > 500);
}

#[test]
fn strokes_along_the_edge_are_bounded() {
    let stroke = |width, points| EdgeStroke { width, points };
    let said = |refined: Vec<EdgeStroke>| Hints { refined, ..Hints::default() }.check().map_err(|e| e.to_string());
    assert!(said(vec![stroke(20.0, vec![[5.0, 5.0]])]).is_ok());
    for bad in [stroke(0.0, vec![[5.0, 5.0]]), stroke(20.0, vec![]), stroke(20.0, vec![[f64::NAN, 5.0]])] {
        assert!(said(vec![bad]).is_err_and(|e| e.contains("Draw it again")));
    }
    assert!(said(vec![stroke(20.0, vec![[5.0, 5.0]]); 201]).is_err_and(|e| e.contains("too many strokes")));
}

#[test]
fn the_ground_s_colour_is_taken_out_by_amount() {
    // a red disc out of focus
    let photo = RgbaImage::from_fn(300, 200, |x, y| {
        let far = (f64::from(x) - 150.0).hypot(f64::from(y) - 100.0);
        let share = ((45.0 - far) / 14.0 + 0.5).clamp(0.0, 1.0);
        let grain = f64::from((x * 31 + y * 57 + x * y) % 9);
        let mix = |red: f64, ground: f64| (share * red + (1.0 - share) * ground + grain) as u8;
        Rgba([mix(190.0, 60.0), mix(40.0, 110.0), mix(30.0, 140.0), 255])
    });
    let found = |spill: f32| {
        let edge = SubjectEdge { spill, ..SubjectEdge::default() };
        find_subject(&photo, &Hints { edge, ..hints(1.0, false) }, &Reds, &Unwatched).unwrap()
    };
    let (none, half, all) = (found(0.0), found(0.5), found(1.0));
    assert_eq!(none.matte, all.matte);
    let soft = all.matte.enumerate_pixels().filter(|(.., a)| (40..215).contains(&a.0[0])).map(|(x, y, _)| (x, y));
    let blue = |s: &inky_cutout::Subject| {
        let all = soft.clone().map(|(x, y)| f64::from(s.cutout.get_pixel(x, y).0[2]));
        all.sum::<f64>() / soft.clone().count() as f64
    };
    let [none, half, all] = [&none, &half, &all].map(blue);
    assert!(none > all + 15.0 && (half - (none + all) / 2.0).abs() < 1.0, "{none} {half} {all}");
    for spill in [-0.1, 1.1, f32::NAN] {
        let edge = SubjectEdge { spill, ..SubjectEdge::default() };
        assert!(find_subject(&photo, &Hints { edge, ..hints(1.0, false) }, &Reds, &Unwatched).is_err());
    }
}
