//! Cells of overlapped outlines.

use inky_combine::*;
use kurbo::Circle;
use kurbo::{BezPath, Rect, Shape};
use proptest::prelude::*;
use std::collections::BTreeMap;

fn disc(x: f64, y: f64, r: f64) -> BezPath {
    Circle::new((x, y), r).to_path(1e-7)
}

#[test]
fn two_circles_have_three_cells() {
    let found = cells(&[disc(0.0, 0.0, 10.0), disc(8.0, 0.0, 10.0)]);
    let covers: Vec<&[usize]> = found.iter().map(|c| c.cover.as_slice()).collect();
    assert_eq!(covers, [&[0][..], &[0, 1], &[1]]);
    assert!((found[0].area - found[2].area).abs() < 1e-6);
}

#[test]
fn a_hole_belongs_to_its_cell() {
    let found = cells(&[disc(0.0, 0.0, 10.0), disc(1.0, 0.0, 4.0), disc(50.0, 0.0, 3.0)]);
    assert_eq!(found.len(), 3);
    let ring = std::f64::consts::PI * (100.0 - 16.0);
    assert!((found[0].area - ring).abs() < 1e-4 * ring);
}

#[test]
fn touching_and_equal_outlines_make_no_slivers() {
    assert_eq!(cells(&[disc(0.0, 0.0, 10.0), disc(20.0, 0.0, 10.0)]).len(), 2);
    let same = cells(&[disc(0.0, 0.0, 10.0), disc(0.0, 0.0, 10.0)]);
    assert_eq!(same.iter().map(|c| c.cover.clone()).collect::<Vec<_>>(), [vec![0, 1]]);
    let flush = cells(&[Rect::new(0.0, 0.0, 5.0, 5.0).to_path(0.1), Rect::new(5.0, 0.0, 9.0, 5.0).to_path(0.1)]);
    assert_eq!(flush.len(), 2);
    assert!(cells(&[]).is_empty() && cells(&[BezPath::new()]).is_empty());
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 48, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn areas_add_up_and_both_ways_agree(
        discs in prop::collection::vec((0.0..60.0, 0.0..60.0, 4.0..25.0), 2..7)
    ) {
        let outlines: Vec<BezPath> = discs.iter().map(|(x, y, r)| disc(*x, *y, *r)).collect();
        let found = cells(&outlines);
        let all: BezPath = outlines.iter().flat_map(|p| p.elements().iter().copied()).collect();
        let (sum, whole) = (found.iter().map(|c| c.area).sum::<f64>(), area(&unite(&all)));
        prop_assert!((sum - whole).abs() < 1e-6 * whole, "{} and {}", sum, whole);
        let covered: f64 = found.iter().map(|c| c.area * c.cover.len() as f64).sum();
        let given: f64 = outlines.iter().map(area).sum();
        prop_assert!((covered - given).abs() < 1e-6 * given, "{} and {}", covered, given);
        for cell in found.iter().filter(|c| c.area > 0.01) {
            prop_assert_eq!(&covering(&cell.path, &outlines), &cell.cover);
        }
        let by_cover = |cells: &[Cell]| {
            let mut areas: BTreeMap<Vec<usize>, f64> = BTreeMap::new();
            cells.iter().for_each(|c| *areas.entry(c.cover.clone()).or_default() += c.area);
            areas
        };
        let (quickly, slowly) = (by_cover(&found), by_cover(&cells_one_by_one(&outlines)));
        for cover in quickly.keys().chain(slowly.keys()) {
            let (a, b) = (quickly.get(cover).unwrap_or(&0.0), slowly.get(cover).unwrap_or(&0.0));
            prop_assert!((a - b).abs() < 1e-4 * whole, "{:?}: {} and {}", cover, a, b);
        }
    }
}
