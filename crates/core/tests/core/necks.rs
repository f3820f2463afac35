//! Parts at their necks.

use inky_core::breakout::divided;
use inky_core::grid::Grid;
#[test]
fn an_arm_is_parted_from_the_body() {
    let mask = Grid::from_fn(160, 100, |x, y| {
        let body = (x as f32 - 40.0).hypot(y as f32 - 50.0) < 32.0;
        body || ((60..150).contains(&x) && (46..54).contains(&y))
    });
    let (labels, count) = divided(&mask, None, 60, usize::MAX);
    assert_eq!(count, 2);
    assert_ne!(labels.at(40, 50), labels.at(140, 50));
    assert!(mask.data.iter().zip(&labels.data).all(|(m, l)| *m == (*l > 0)));
}

#[test]
fn a_corner_is_no_limb() {
    // two corners of 45 degrees and one of 90, of which a disc leaves enough to be parts of their own
    let mask = Grid::from_fn(160, 120, |x, y| x > 8 && y > 8 && x + y < 120);
    let (labels, count) = divided(&mask, None, 20, usize::MAX);
    assert_eq!(count, 1);
    assert!(mask.data.iter().zip(&labels.data).all(|(m, l)| *m == (*l > 0)));
}

#[test]
fn a_limb_is_parted_straight_across_its_mouth() {
    // a slot of 14 pixels between two blocks, under a body whose left end is too sharp for a disc
    let mask = Grid::from_fn(240, 160, |x, y| {
        let body = y < 80 && x + y > 130 && x < 230;
        body || ((70..84).contains(&x) && (80..150).contains(&y))
    });
    let (labels, count) = divided(&mask, None, 60, usize::MAX);
    assert_eq!(count, 2);
    let body = labels.at(150, 40);
    for x in 70..84 {
        let first = (0..150).find(|y| mask.at(x, *y) && labels.at(x, *y) != body);
        assert!(first.is_some_and(|y: usize| y.abs_diff(80) < 6), "at {x}: {first:?}");
    }
}

#[test]
fn two_arms_from_one_stump_are_parted_where_they_part_and_stay_whole() {
    // arms that run to points, from a root that an edge cuts off
    let arm = |x: f32, y: f32, tip: f32| {
        let along = ((150.0 - y) / 130.0).clamp(0.0, 1.0);
        (x - (120.0 + along * (tip - 120.0))).abs() < 22.0 - 16.0 * along
    };
    let mask = Grid::from_fn(240, 160, |x, y| {
        let (x, y) = (x as f32, y as f32);
        (20.0..132.0).contains(&y) && (arm(x, y, 40.0) || arm(x, y, 200.0))
    });
    let (labels, count) = divided(&mask, None, 60, usize::MAX);
    assert_eq!(count, 2);
    let (left, right) = (labels.at(41, 22), labels.at(199, 22));
    assert_ne!(left, right);
    for y in 22..90 {
        let along = (150 - y) * 80 / 130;
        assert_eq!((labels.at(120 - along, y), labels.at(120 + along, y)), (left, right), "at {y}");
    }
}

/// Two arms that part above a stump, and the strength of edges in it: even noise, and an edge along which one lies before the other.
fn side_by_side(edge: u8) -> (Grid<bool>, Grid<u8>) {
    let mask = Grid::from_fn(240, 220, |x, y| {
        let aside = 90_usize.saturating_sub(y) / 2;
        (10..205).contains(&y)
            && [119 - aside, 120 + aside].into_iter().any(|from| {
                let (first, last) = if from < 120 { (from - 24, from) } else { (from, from + 24) };
                (first..=last).contains(&x)
            })
    });
    let edges = Grid::from_fn(240, 220, |x, y| {
        let noise = 20 + ((x * 7 + y * 13 + x * y) % 11) as u8;
        if (118..=121).contains(&x) && y > 60 { noise.max(edge) } else { noise }
    });
    (mask, edges)
}

#[test]
fn a_stump_of_two_limbs_is_parted_along_the_edge_between_them() {
    let (mask, edges) = side_by_side(120);
    let (labels, count) = divided(&mask, Some(&edges), 60, 2_000);
    assert_eq!(count, 2);
    let (left, right) = (labels.at(70, 12), labels.at(170, 12));
    assert_ne!(left, right);
    for y in 100..200 {
        assert_eq!((labels.at(108, y), labels.at(131, y)), (left, right), "at {y}");
    }
    // a pattern of its own shows nothing
    let (mask, edges) = side_by_side(0);
    let (labels, _) = divided(&mask, Some(&edges), 60, 2_000);
    assert_eq!(labels.at(108, 190), labels.at(131, 190));
    assert_eq!(divided(&mask, None, 60, 2_000).0.data, labels.data);
}
