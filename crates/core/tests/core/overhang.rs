//! What reaches over the edge.

use image::GrayImage;
use image::Luma;
use inky_core::breakout::*;
use inky_core::combine::contours;
use kurbo::{Affine, BezPath, Point};
use kurbo::{Rect, Shape};

/// A body with an arm to the right and one upwards, in a photo of 400 x 300.
fn matte() -> WorkingMatte {
    WorkingMatte::new(&GrayImage::from_fn(400, 300, |x, y| {
        let body = (x as f32 - 150.0).hypot(y as f32 - 170.0) < 60.0;
        let right = (150..360).contains(&x) && (160..184).contains(&y);
        let up = (140..160).contains(&x) && (20..170).contains(&y);
        Luma([if body || right || up { 255 } else { 0 }])
    }))
}

fn opening() -> BezPath {
    Rect::new(60.0, 80.0, 240.0, 280.0).to_path(0.1)
}

fn at(point: Point) -> Chosen {
    Chosen { points: vec![point], ..Chosen::default() }
}

#[test]
fn parts_are_found_and_only_the_chosen_one_is_let_out() {
    let none = overhangs(&matte(), &opening(), Affine::IDENTITY, &Chosen::default(), 0.0);
    assert_eq!(none.parts.len(), 2);
    assert!(none.released.is_empty() && none.parts.iter().all(|p| p.let_out_by.is_empty() && !p.counter));

    let chosen = overhangs(&matte(), &opening(), Affine::IDENTITY, &at(Point::new(300.0, 172.0)), 0.0);
    assert_eq!(chosen.parts.iter().filter(|p| !p.let_out_by.is_empty()).count(), 1);
    let b = chosen.released.bounding_box();
    assert!(b.x1 >= 359.0 && b.x0 < 240.0 && b.y0 > 150.0 && b.y1 < 200.0, "{b:?}");
}

#[test]
fn the_choice_stays_with_its_arm_when_the_opening_moves() {
    let anchor = Point::new(260.0, 172.0);
    let wider = Rect::new(60.0, 80.0, 290.0, 280.0).to_path(0.1);
    let moved = overhangs(&matte(), &wider, Affine::IDENTITY, &at(anchor), 0.0);
    let out: Vec<_> = moved.parts.iter().filter(|p| !p.let_out_by.is_empty()).collect();
    assert_eq!(out.len(), 1);
    assert!(out[0].anchor.x > 290.0);
}

#[test]
fn the_hole_of_a_ring_is_a_counter() {
    let ring: BezPath = kurbo::Circle::new((150.0, 170.0), 90.0)
        .to_path(0.1)
        .iter()
        .chain(kurbo::Circle::new((150.0, 170.0), 40.0).to_path(0.1).iter())
        .collect();
    let found = overhangs(&matte(), &ring, Affine::IDENTITY, &Chosen::default(), 0.0);
    assert_eq!(found.parts.iter().filter(|p| p.counter).count(), 1);
    assert!(found.parts.len() >= 3);
}

#[test]
fn parts_know_which_contours_they_lie_against() {
    // a ring, and a bar of its own across the arm to the right
    let ring = kurbo::Circle::new((150.0, 170.0), 90.0).to_path(0.1);
    let hole = kurbo::Circle::new((150.0, 170.0), 40.0).to_path(0.1);
    let bar = Rect::new(290.0, 100.0, 310.0, 240.0).to_path(0.1);
    let opening: BezPath = ring.iter().chain(hole.iter()).chain(bar.iter()).collect();
    assert_eq!(contours(&opening).len(), 3);
    let found = overhangs(&matte(), &opening, Affine::IDENTITY, &Chosen::default(), 0.0);
    let touching = |x: f64, y: f64| {
        let part = found.parts.iter().min_by(|a, b| {
            let far = |p: &Overhang| p.anchor.distance(Point::new(x, y));
            far(a).total_cmp(&far(b))
        });
        part.map(|p| p.touches.clone()).unwrap_or_default()
    };
    assert_eq!(touching(150.0, 170.0), [1], "in the hole");
    assert_eq!(touching(150.0, 50.0), [0], "above");
    assert_eq!(touching(265.0, 172.0), [0, 2], "from the ring to the bar");
    assert_eq!(touching(335.0, 172.0), [2], "beyond the bar");
    let pinned = Rect::new(60.0, 80.0, 240.0, 280.0).to_path(0.1);
    assert!(crosses(&Rect::new(200.0, 100.0, 260.0, 110.0).to_path(0.1), &pinned), "between two corners");
    assert!(!crosses(&Rect::new(250.0, 100.0, 260.0, 110.0).to_path(0.1), &pinned));
}

#[test]
fn a_placement_that_collapses_has_none() {
    assert!(overhangs(&matte(), &opening(), Affine::scale(0.0), &Chosen::default(), 0.0).parts.is_empty());
}

/// A part as a contour lies within the subject, whatever is smoothed, and meets the opening.
#[test]
fn a_part_becomes_a_contour_within_the_subject() {
    let anchor = Point::new(300.0, 172.0);
    for (inside, smooth) in [(0.5, 0.0), (3.0, 0.0), (2.0, 6.0)] {
        let contour =
            part_contour(&matte(), &opening(), Affine::IDENTITY, (&Chosen::default(), anchor), (inside, smooth))
                .unwrap();
        for p in contour.segments().map(|s| kurbo::ParamCurve::eval(&s, 0.5)) {
            let (x, y) = (p.x as usize, p.y as usize);
            assert!(matte().alpha.at(x, y) > 0.5, "{inside}, {smooth}: {p:?} lies outside");
        }
        let joined = inky_core::combine::join_pair(&opening(), &contour, inky_core::combine::Rule::Union);
        assert_eq!(inky_core::combine::parts(&joined).len(), inky_core::combine::parts(&opening()).len());
    }
    assert!(part_contour(&matte(), &opening(), Affine::IDENTITY, (&Chosen::default(), anchor), (500.0, 0.0)).is_none());
    assert!(
        part_contour(&matte(), &opening(), Affine::IDENTITY, (&Chosen::default(), Point::new(5.0, 5.0)), (1.0, 0.0))
            .is_none()
    );
}

#[test]
fn what_the_end_of_the_photo_cuts_off_is_known_with_pulled_corners_too() {
    // an arm that runs off the photo to the right, and one that ends in it
    let photo = GrayImage::from_fn(400, 300, |x, y| {
        let right = (150..400).contains(&x) && (160..184).contains(&y);
        let up = (140..160).contains(&x) && (20..170).contains(&y);
        Luma([if right || up { 255 } else { 0 }])
    });
    let own = WorkingMatte::new(&photo);
    // the right side leans: it ends within the picture's frame, not along it
    let leaning = own.pulled(&[[0.0, 0.0], [-0.3, 0.0], [0.0, 0.0], [0.0, 0.0]], (400, 300)).unwrap();
    for matte in [own, leaning] {
        let opening = Rect::new(60.0, 120.0, 200.0, 280.0).to_path(0.1);
        let parts = overhangs(&matte, &opening, Affine::IDENTITY, &Chosen::default(), 0.0).parts;
        let cut: Vec<bool> = parts.iter().map(|p| p.cut_off).collect();
        assert_eq!((parts.len(), cut.iter().filter(|c| **c).count()), (2, 1));
        assert!(parts.iter().all(|p| p.cut_off == (p.anchor.x > 200.0)));
    }
}
