//! Several pieces moved, turned, scaled, slanted and mirrored as one.

use super::edits::{Word, word};
use inky_core::edit::*;
use inky_core::sheet::*;
use kurbo::{Affine, Point};
use proptest::prelude::*;

/// A word and a copy of it, both with a photo of their own; or with one photo between them.
fn two_words(shared: bool) -> (Word, PieceId) {
    let mut w = word();
    let other = PieceId::fresh();
    w.edit(Edit::CopyPiece { piece: w.piece, copy: other });
    let fill = FillId::fresh();
    w.edit(Edit::FillWithPhoto { piece: w.piece, fill, photo: "wide".into() });
    w.edit(match shared {
        true => Edit::ShareFill { piece: other, fill: FillId::fresh(), of: fill },
        false => Edit::FillWithPhoto { piece: other, fill: FillId::fresh(), photo: "wide".into() },
    });
    (w, other)
}

fn photo(w: &Word, piece: PieceId) -> Placement {
    w.sheet.piece(piece).unwrap().window().unwrap().photos().next().unwrap().1.placement
}

/// Corners of the forms and of the photo of a piece, on the sheet.
fn points(w: &Word, piece: PieceId) -> Vec<Point> {
    let window = w.sheet.piece(piece).unwrap().window().unwrap();
    let outline = inky_core::outline::opening_path(&window.opening, &w.library).unwrap();
    let corners = photo(w, piece).corners(600, 400).map(|[x, y]| Point::new(x, y));
    kurbo::segments(outline.iter()).map(|s| kurbo::ParamCurve::start(&s)).chain(corners).collect()
}

proptest! {
    #[test]
    fn whatever_is_transformed_lies_where_the_transform_takes_it(
        scale in (0.3..3.0, 0.3..3.0), turn in -3.0..3.0, slant in -0.8..0.8, mirrored: bool, shift in (-200.0..200.0, -200.0..200.0),
    ) {
        let (mut w, other) = two_words(false);
        let mirror = if mirrored { -1.0 } else { 1.0 };
        let by = Affine::translate(shift)
            * Affine::rotate(turn)
            * Affine::skew(slant, 0.0)
            * Affine::scale_non_uniform(mirror * scale.0, scale.1);
        let before = [w.piece, other].map(|p| points(&w, p));
        w.edit(Edit::Transform { pieces: vec![w.piece, other], what: Grip::Both, by: by.as_coeffs() });
        for (piece, before) in [w.piece, other].into_iter().zip(before) {
            let after = points(&w, piece);
            prop_assert_eq!(before.len(), after.len());
            for was in before {
                // a mirrored outline begins elsewhere
                let far = after.iter().map(|now| (by * was).distance(*now)).fold(f64::INFINITY, f64::min);
                prop_assert!(far < 1e-3, "{was:?} is {far} away from where it was to go");
            }
        }
        // and back again
        let back = Edit::Transform { pieces: vec![w.piece], what: Grip::Both, by: by.inverse().as_coeffs() };
        w.edit(back);
        prop_assert!(photo(&w, w.piece).pull.is_none(), "{:?}", photo(&w, w.piece));
    }
}

#[test]
fn a_photo_behind_several_windows_goes_along_with_all_of_them_alone() {
    let by = Affine::translate((30.0, 10.0)).as_coeffs();
    let (w, other) = two_words(true);
    let x = |w: &Word, piece| photo(w, piece).x;
    for (pieces, moves) in [(vec![w.piece], 0.0), (vec![w.piece, other], 30.0)] {
        let mut moved = Word { library: w.library.clone(), sheet: w.sheet.clone(), ..w };
        moved.edit(Edit::Transform { pieces, what: Grip::Both, by });
        assert!((moved.bounds().x0 - w.bounds().x0 - 30.0).abs() < 1e-9);
        for piece in [w.piece, other] {
            assert!((x(&moved, piece) - x(&w, piece) - moves).abs() < 1e-9);
        }
    }
}

#[test]
fn what_is_said_about_sides_and_reach_goes_along() {
    let mut w = word();
    let open = OpenSide { side: Side::Left, from: 0.0, to: 0.25, far: 10.0 };
    w.edit(Edit::Opening { piece: w.piece, change: OpeningChange::OpenSides { sides: vec![open] } });
    w.edit(Edit::SetReach { piece: w.piece, reach: Some(ReachLine { from: [0.0, 10.0], to: [420.0, 10.0] }) });
    let mirror = [-1.0, 0.0, 0.0, 1.0, 420.0, 0.0];
    w.edit(Edit::Transform { pieces: vec![w.piece], what: Grip::Both, by: mirror });
    let window = w.sheet.piece(w.piece).unwrap().window().unwrap();
    assert_eq!(window.opening.open, [OpenSide { side: Side::Right, ..open }]);
    assert_eq!(window.breakout.reach.as_deref(), Some(&ReachLine { from: [420.0, 10.0], to: [0.0, 10.0] }));
    let down = [1.0, 0.0, 0.0, -1.0, 0.0, 297.0];
    w.edit(Edit::Transform { pieces: vec![w.piece], what: Grip::Opening, by: down });
    let window = w.sheet.piece(w.piece).unwrap().window().unwrap();
    assert_eq!(window.opening.open, [OpenSide { side: Side::Right, from: 0.75, to: 1.0, far: 10.0 }]);
    assert_eq!(window.breakout.reach.as_deref().map(|r| r.from), Some([420.0, 10.0]), "the opening alone leaves it");
}

#[test]
fn what_cannot_be_transformed_says_why() {
    let (mut w, other) = two_words(false);
    let try_by =
        |w: &Word, by: [f64; 6]| w.try_edit(Edit::Transform { pieces: vec![w.piece, other], what: Grip::Both, by });
    for by in
        [[0.0; 6], [f64::NAN, 0.0, 0.0, 1.0, 0.0, 0.0], [1.0, 0.0, 0.0, 1.0, 1e9, 0.0], [1e9, 0.0, 0.0, 1.0, 0.0, 0.0]]
    {
        assert_eq!(try_by(&w, by), Err(Refusal::Number("The move")));
    }
    let shown = FillPaint::Window(WindowFill { piece: other, by: Similarity::default() });
    w.edit(Edit::AddFill { piece: w.piece, fill: Fill::new(FillId::fresh(), shown) });
    assert_eq!(try_by(&w, [-1.0, 0.0, 0.0, 1.0, 420.0, 0.0]), Err(Refusal::ShownWindow));
    assert!(try_by(&w, [0.0, 1.0, -1.0, 0.0, 420.0, 0.0]).is_ok());
    w.edit(Edit::LockPiece { piece: other, locked: true });
    assert!(matches!(try_by(&w, [1.0, 0.0, 0.0, 1.0, 1.0, 0.0]), Err(Refusal::Locked(_))));
}
