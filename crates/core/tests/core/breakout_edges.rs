//! Where what breaks out meets the edge: which side it lies at, and where it hides the rims.

use crate::shown::{Shown, basic, square};
use inky_core::combine::contains;
use inky_core::edit::Edit;
use inky_core::sheet::*;
use kurbo::{BezPath, Point};

#[test]
fn a_part_lies_where_most_of_it_reaches_to() {
    // its thickest place is within the width of the triangle, most of it beyond
    let triangle = basic(Figure::Triangle { lean: 0.5, rounding: 0.0 }, 100.0, 150.0, 200.0, 300.0);
    let limb = |x: f32, y: f32| (90.0..390.0).contains(&x) && (y - 95.0).abs() < 24.0 - (x - 90.0) / 18.0;
    let shown = Shown::new(triangle, limb);
    let places: Vec<String> = shown.overhangs().iter().map(|o| o.place.clone()).collect();
    assert!(places.contains(&"right".to_owned()), "{places:?}");
    assert!(!places.contains(&"between the edges".to_owned()), "{places:?}");

    // what lies as far within as beyond is between the edges still
    let ring = basic(Figure::Ring { hole: 0.6 }, 200.0, 150.0, 200.0, 200.0);
    let blob = Shown::new(ring, |x, y| {
        (x - 200.0).hypot(y - 150.0) < 30.0 || ((200.0..320.0).contains(&x) && (140.0..160.0).contains(&y))
    });
    let places: Vec<String> = blob.overhangs().iter().map(|o| o.place.clone()).collect();
    assert!(places.contains(&"in a counter".to_owned()) && places.contains(&"right".to_owned()), "{places:?}");
}

#[test]
fn what_lies_beside_a_round_opening_is_not_between_its_edges() {
    // one blob in the middle, and two in corners of the ellipse's own box
    let blobs = |x: f32, y: f32| {
        (x - 200.0).hypot(y - 150.0) < 40.0 || (x - 118.0).hypot(y - 92.0) < 12.0 || (x - 286.0).hypot(y - 202.0) < 12.0
    };
    let ellipse = basic(Figure::Ellipse, 200.0, 150.0, 200.0, 140.0);
    let shown = Shown::new(ellipse, blobs);
    let mut places: Vec<String> = shown.overhangs().iter().map(|o| o.place.clone()).collect();
    places.sort();
    assert_eq!(places, ["above", "below"]);
    // in the mouth of a slice it is between its edges
    let slice = basic(Figure::Sector { from: 120.0, sweep: 300.0 }, 200.0, 150.0, 200.0, 200.0);
    let mouth = Shown::new(slice, |x, y| (120.0..260.0).contains(&x) && (x - 200.0).abs() * 0.2 > (y - 150.0).abs());
    let parts = mouth.overhangs();
    assert!(!parts.is_empty() && parts.iter().all(|o| o.place == "between the edges"), "{:?}", parts.len());
}

#[test]
fn rims_end_straight_across_where_a_part_is_kept_in_beside() {
    // a broad subject beyond the right edge (x = 240), of which a level line keeps the upper half in
    let mut shown = Shown::new(square(), |x, y| (100.0..330.0).contains(&x) && (90.0..220.0).contains(&y));
    shown.rimmed(8.0);
    let all = shown.overhangs();
    assert_eq!(all.len(), 1);
    shown.let_out(&all[0]);
    let reach = ReachLine { from: [0.0, 140.0], to: [400.0, 140.0] };
    shown.edit(Edit::SetReach { piece: shown.piece, reach: Some(reach) });
    let release = shown.release();
    let covers = |path: &BezPath, x: f64, y: f64| contains(path, Point::new(x, y), 0.01);
    assert!(covers(&release.released, 300.0, 142.0) && !covers(&release.released, 300.0, 138.0));
    let over = release.over_rims.expect("there is a rim");
    // both halves of the rim end at the line: the outer one where the part ends, the inner one across from there
    for x in [233.0, 238.0, 244.0, 247.0] {
        assert!(covers(&over, x, 143.0), "hidden at {x}");
        assert!(!covers(&over, x, 138.5), "seen at {x}");
    }
}

#[test]
fn rims_are_hidden_along_the_whole_of_a_limb_that_leans() {
    // a limb that climbs to the right at 45 degrees: within the edge its outline goes on the same way
    let limb = |x: f32, y: f32| (x + y - 390.0).abs() < 40.0 && (160.0..330.0).contains(&x);
    let mut shown = Shown::new(square(), limb);
    shown.rimmed(6.0);
    for overhang in shown.overhangs() {
        shown.let_out(&overhang);
    }
    let over = shown.release().over_rims.expect("there is a rim");
    let covers = |x: f64, y: f64| contains(&over, Point::new(x, y), 0.01);
    // at the edge (x = 240) the limb reaches from 110 to 190; five millimetres further in its outline is five lower down
    for (x, y) in [(236.0, 192.0), (236.0, 118.0), (244.0, 150.0), (235.0, 150.0)] {
        assert!(covers(x, y), "hidden at {x}, {y}");
    }
}
