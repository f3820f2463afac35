//! Photos whose corners are pulled.

use image::{Rgba, RgbaImage};
use inky_photo::{Perspective, Pull, in_perspective};
use proptest::prelude::*;

/// Squares of 20 pixels, red where the column and blue where the row is odd.
fn board() -> RgbaImage {
    let level = |odd: bool| if odd { 220 } else { 30 };
    RgbaImage::from_fn(200, 120, |x, y| Rgba([level(x / 20 % 2 == 1), 90, level(y / 20 % 2 == 1), 255]))
}

#[test]
fn nothing_pulled_is_nothing_changed() {
    let board = board();
    let same = in_perspective(&board, &[[0.0; 2]; 4], 200.0).unwrap();
    assert_eq!(same.dimensions(), board.dimensions());
    let off = same.pixels().zip(board.pixels()).filter(|(a, b)| (0..4).any(|c| a.0[c].abs_diff(b.0[c]) > 60)).count();
    assert!(off < 200 * 120 / 100, "{off} pixels differ");
}

#[test]
fn squares_lie_where_the_map_puts_them() {
    let pull: Pull = [[0.2, 0.1], [-0.25, 0.0], [0.1, 0.15], [-0.1, 0.0]];
    let map = Perspective::new(&pull).unwrap();
    let [x0, y0, x1, y1] = map.bounds();
    for long in [200.0, 120.0] {
        let pulled = in_perspective(&board(), &pull, long).unwrap();
        for (column, row) in (0..10).flat_map(|c| (0..6).map(move |r| (c, r))) {
            let (u, v) = ((f64::from(column) + 0.5) / 10.0, (f64::from(row) + 0.5) / 6.0);
            let [x, y] = map.map(u, v);
            let px = ((x - x0) / (x1 - x0) * f64::from(pulled.width())) as u32;
            let py = ((y - y0) / (y1 - y0) * f64::from(pulled.height())) as u32;
            let [r, _, b, a] = pulled.get_pixel(px, py).0;
            assert_eq!((r > 120, b > 120, a), (column % 2 == 1, row % 2 == 1, 255), "square {column}, {row} at {long}");
        }
        // clear beside the quadrilateral
        assert_eq!(pulled.get_pixel(0, 0).0[3], 0);
    }
}

#[test]
fn corners_across_one_another_make_no_picture() {
    for pull in
        [[[1.2, 0.0], [0.0; 2], [0.0; 2], [0.0; 2]], [[0.7, 0.7], [0.0; 2], [0.0; 2], [0.0; 2]], [[f64::NAN; 2]; 4]]
    {
        assert!(in_perspective(&board(), &pull, 100.0).is_none(), "{pull:?}");
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 200, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn there_and_back_is_where_it_was(pull in prop::array::uniform4(prop::array::uniform2(-0.3..0.3_f64)), u in 0.0..1.0_f64, v in 0.0..1.0_f64) {
        let map = Perspective::new(&pull);
        prop_assume!(map.is_some());
        let map = map.unwrap();
        let [x, y] = map.map(u, v);
        let [back_u, back_v] = map.unmap(x, y);
        prop_assert!((back_u - u).abs() < 1e-6 && (back_v - v).abs() < 1e-6);
        let [x0, y0, x1, y1] = map.bounds();
        prop_assert!(x >= x0 - 1e-9 && x <= x1 + 1e-9 && y >= y0 - 1e-9 && y <= y1 + 1e-9);
    }
}
