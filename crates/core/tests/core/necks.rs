//! Parts at their necks.

use inky_core::breakout::divided;
use inky_core::grid::Grid;
#[test]
fn an_arm_is_parted_from_the_body() {
    let mask = Grid::from_fn(160, 100, |x, y| {
        let body = (x as f32 - 40.0).hypot(y as f32 - 50.0) < 32.0;
        body || ((60..150).contains(&x) && (46..54).contains(&y))
    });
    let (labels, count) = divided(&mask, 60);
    assert_eq!(count, 2);
    assert_ne!(labels.at(40, 50), labels.at(140, 50));
    assert!(mask.data.iter().zip(&labels.data).all(|(m, l)| *m == (*l > 0)));
}

#[test]
fn a_corner_is_no_limb() {
    // two corners of 45 degrees and one of 90, of which a disc leaves enough to be parts of their own
    let mask = Grid::from_fn(160, 120, |x, y| x > 8 && y > 8 && x + y < 120);
    let (labels, count) = divided(&mask, 20);
    assert_eq!(count, 1);
    assert!(mask.data.iter().zip(&labels.data).all(|(m, l)| *m == (*l > 0)));
}
