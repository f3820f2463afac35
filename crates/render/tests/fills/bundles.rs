//! Bundles that are drawn as a whole, pixel by pixel.

use super::panes::shown;
use super::{Poster, colour, near, poster};
use image::RgbImage;
use inky_core::edit::{Edit, Grip, apply};
use inky_core::sheet::*;
use kurbo::Affine;
use proptest::prelude::*;

/// The box, and a copy of it 20 mm further right and down; both black, in a bundle.
fn pair() -> (Poster, BundleId) {
    let mut p = poster();
    let first = p.sheet.pieces[0].window().unwrap().fills[0].id;
    p.edit(Edit::SetFill {
        piece: p.piece,
        fill: Fill::new(first, FillPaint::Plain(Paint::colour(colour("#000000")))),
    });
    p.edit(Edit::RemoveFill { piece: p.piece, fill: p.photo });
    let copy = PieceId::fresh();
    p.edit(Edit::CopyPiece { piece: p.piece, copy });
    p.edit(Edit::Transform { pieces: vec![copy], what: Grip::Both, by: [0.5, 0.0, 0.0, 0.5, 40.0, 40.0] });
    let bundle = BundleId::fresh();
    p.edit(Edit::Bundle { bundle, within: None, pieces: vec![p.piece, copy], bundles: Vec::new() });
    (p, bundle)
}

fn shadow() -> Shadow {
    Shadow {
        place: ShadowPlace::Behind,
        tint: Tint::Colour(colour("#c02020")),
        blend: Blend::Normal,
        strength: 0.5,
        angle: 180.0,
        distance: 12.0,
        spread: 0.0,
        size: 0.0,
        off: false,
    }
}

fn with(p: &mut Poster, bundle: BundleId, finish: BundleFinish) -> RgbImage {
    p.edit(Edit::SetBundleFinish { bundle, finish });
    p.picture()
}

#[test]
fn what_is_in_a_bundle_fades_as_one_picture() {
    let (mut p, bundle) = pair();
    let half = with(&mut p, bundle, BundleFinish { strength: 0.5, ..BundleFinish::default() });
    for (x, y) in [(30, 30), (60, 60), (75, 75)] {
        assert!(near(half.get_pixel(x, y).0, [128; 3]), "{:?} at {x}, {y}", half.get_pixel(x, y));
    }
    // black multiplied is black, screened it is nothing
    let blend = |blend| BundleFinish { blend, ..BundleFinish::default() };
    assert_eq!(with(&mut p, bundle, blend(Blend::Screen)).get_pixel(60, 60).0, [255; 3]);
    assert_eq!(with(&mut p, bundle, blend(Blend::Multiply)).get_pixel(60, 60).0, [0; 3]);
}

#[test]
fn a_bundle_throws_one_shadow() {
    let (mut p, bundle) = pair();
    let finish = BundleFinish { shadows: vec![shadow()].into(), ..BundleFinish::default() };
    let thrown = with(&mut p, bundle, finish.clone());
    // where the shadows of two pieces would lie over each other
    let once = thrown.get_pixel(12, 30).0;
    assert!(near(once, [223, 143, 143]), "{once:?}");
    assert_eq!(
        [thrown.get_pixel(12, 60).0, thrown.get_pixel(60, 60).0, thrown.get_pixel(90, 60).0],
        [once, [0; 3], [255; 3]]
    );
    // half as large, with all that it throws
    let pieces = p.sheet.pieces.iter().map(|p| p.id).collect();
    p.edit(Edit::Transform { pieces, what: Grip::Both, by: [0.5, 0.0, 0.0, 0.5, 0.0, 0.0] });
    let half = p.picture();
    assert_eq!([half.get_pixel(6, 20).0, half.get_pixel(2, 20).0], [once, [255; 3]]);
    // a hidden piece throws nothing; a bundle within one that fades is drawn once
    let outer = BundleId::fresh();
    p.edit(Edit::Bundle { bundle: outer, within: None, pieces: Vec::new(), bundles: vec![bundle] });
    let faint = with(&mut p, outer, BundleFinish { strength: 0.5, ..BundleFinish::default() });
    assert!(near(faint.get_pixel(6, 20).0, [239, 199, 199]) && near(faint.get_pixel(20, 20).0, [128; 3]));
    for piece in p.sheet.pieces.clone() {
        p.edit(Edit::HidePiece { piece: piece.id, hidden: true });
    }
    assert!(p.picture().pixels().all(|pixel| pixel.0 == [255; 3]));
}

fn split_at(x: f64, apart: f64) -> Split {
    let line = SplitLine {
        points: vec![[x, -10.0], [x + 9.0, 200.0]],
        course: Course::Straight,
        flipped: false,
        within: None,
    };
    Split { lines: vec![line].into(), apart, ..Split::default() }
}

#[test]
fn a_bundle_is_pulled_apart_and_shown_several_times_as_one() {
    let (mut p, bundle) = pair();
    let before = p.picture();
    // cut at 40: each half goes 10 mm away
    let line = SplitLine {
        points: vec![[40.0, -10.0], [40.0, 200.0]],
        course: Course::Straight,
        flipped: false,
        within: None,
    };
    p.edit(Edit::SetBundleSplit { bundle, split: Split { lines: vec![line].into(), apart: 20.0, ..Split::default() } });
    let apart = p.picture();
    for (x, y) in [(30, 30), (35, 75), (20, 60)] {
        assert_eq!(apart.get_pixel(x - 10, y), before.get_pixel(x, y));
    }
    for (x, y) in [(45, 30), (60, 60), (75, 75)] {
        assert_eq!(apart.get_pixel(x + 10, y), before.get_pixel(x, y));
    }
    assert_eq!(apart.get_pixel(40, 50).0, [255; 3], "nothing lies between the halves");
    // a row downwards of what was pulled apart, with a shadow of the whole
    let layout = Layout::Row { count: 2, gap: 10.0, along: [0.0, 1.0] };
    let repeat = Repeat { layout, turn: 0.0, scale: 0.5, behind: false, looks: Members::default() };
    p.edit(Edit::SetBundleRepeat { bundle, repeat: Some(repeat) });
    let twice = p.picture();
    assert_eq!(twice.get_pixel(20, 30), apart.get_pixel(20, 30));
    let below = |picture: &RgbImage| picture.enumerate_pixels().filter(|(_, y, p)| *y > 85 && p.0 == [0; 3]).count();
    assert!(below(&twice) > below(&apart) + 200);
    p.edit(Edit::SetBundleRepeat { bundle, repeat: None });
    p.edit(Edit::SetBundleSplit { bundle, split: Split::default() });
    assert!(p.picture() == before);
}

#[test]
fn photos_are_there_in_members_of_every_size() {
    let mut p = poster();
    let bundle = BundleId::fresh();
    p.edit(Edit::Bundle { bundle, within: None, pieces: vec![p.piece], bundles: Vec::new() });
    let to_the_corner = [0.5, 0.0, 0.0, 0.5, 0.0, 0.0];
    p.edit(Edit::Transform { pieces: vec![p.piece], what: Grip::Both, by: to_the_corner });
    let layout = Layout::Row { count: 2, gap: 10.0, along: [1.0, 0.0] };
    let repeat = Repeat { layout, turn: 0.0, scale: 0.7, behind: false, looks: Members::default() };
    p.edit(Edit::SetBundleRepeat { bundle, repeat: Some(repeat) });
    let row = shown(&p);
    assert!(row.get_pixel(25, 25).0 != [255; 3] && row.get_pixel(61, 25).0 != [255; 3]);
    // a photo of its own in the second one
    p.library.photos.insert("other".into(), Photo::new("other", 10, 10));
    let photos = vec![(FillId::fresh(), "other".into())];
    p.edit(Edit::Deal { piece: p.piece, from: 1, photos, within_bundle: true });
    let own = shown(&p);
    assert_eq!([own.get_pixel(25, 25), &image::Rgb([200, 40, 40])], [row.get_pixel(25, 25), own.get_pixel(61, 25)]);
}

#[test]
fn a_window_looks_other_in_one_member_of_a_bundle() {
    let (mut p, bundle) = pair();
    let layout = Layout::Row { count: 2, gap: 0.0, along: [0.0, 1.0] };
    let repeat = Repeat { layout, turn: 0.0, scale: 0.5, behind: false, looks: Members::default() };
    p.edit(Edit::SetBundleRepeat { bundle, repeat: Some(repeat) });
    let alike = p.picture();
    let red = Fill {
        bundle_member: Some(1),
        ..Fill::new(FillId::fresh(), FillPaint::Plain(Paint::colour(colour("#c02020"))))
    };
    p.edit(Edit::AddFill { piece: p.piece, fill: red });
    let own = p.picture();
    let reds = |picture: &RgbImage| picture.pixels().filter(|p| p.0[0] > 150 && p.0[1] < 60).count();
    let same = own.enumerate_pixels().filter(|(x, y, p)| alike.get_pixel(*x, *y) == *p).count();
    // what of the larger box is seen on the sheet beside the smaller one
    assert_eq!([reds(&own), same], [525, 10_000 - 525], "{:?}", own.get_pixel(40, 85));
    // the first member, and the other piece in the second one, are as they were
    assert_eq!(own.get_pixel(30, 30), alike.get_pixel(30, 30));
    assert!(own.enumerate_pixels().any(|(_, y, p)| y > 90 && p.0 == [0; 3]));
    // what is in panes or within another bundle is reached too
    let outer = BundleId::fresh();
    p.edit(Edit::SetBundleRepeat { bundle, repeat: None });
    assert_eq!(reds(&p.picture()), 0);
    p.edit(Edit::Bundle { bundle: outer, within: None, pieces: Vec::new(), bundles: vec![bundle] });
    p.edit(Edit::SetBundleFinish { bundle, finish: BundleFinish { strength: 0.5, ..BundleFinish::default() } });
    let layout = Layout::Row { count: 2, gap: 0.0, along: [0.0, 1.0] };
    let repeat = Repeat { layout, turn: 0.0, scale: 0.5, behind: false, looks: Members::default() };
    p.edit(Edit::SetBundleRepeat { bundle: outer, repeat: Some(repeat) });
    let red = Fill {
        bundle_member: Some(1),
        ..Fill::new(FillId::fresh(), FillPaint::Plain(Paint::colour(colour("#c02020"))))
    };
    p.edit(Edit::AddFill { piece: p.piece, fill: red });
    assert!(p.picture().pixels().filter(|p| near(p.0, [224, 144, 144])).count() > 100);
}

/// A zigzag across all.
fn zigzag(from: [f64; 2], to: [f64; 2], within: Option<PanePath>) -> SplitLine {
    SplitLine { points: vec![from, to], course: Course::Zigzag { count: 4, depth: 5.0 }, flipped: false, within }
}

#[test]
fn panes_on_two_sides_of_a_line_stay_there_when_a_bundle_is_dissolved() {
    let mut p = poster();
    let line = SplitLine {
        points: vec![[-10.0, 50.0], [200.0, 50.0]],
        course: Course::Straight,
        flipped: false,
        within: None,
    };
    let split = |apart| Split { lines: vec![line.clone()].into(), apart, ..Split::default() };
    p.edit(Edit::SetSplit { piece: p.piece, split: split(20.0) });
    let bundle = BundleId::fresh();
    p.edit(Edit::Bundle { bundle, within: None, pieces: vec![p.piece], bundles: Vec::new() });
    p.edit(Edit::SetBundleSplit { bundle, split: split(10.0) });
    let before = p.picture();
    p.edit(Edit::Dissolve { bundle });
    assert_eq!(clearly_off(&p.picture(), &before), [0, 0]);
    assert_eq!(p.sheet.pieces[0].window().unwrap().split.lines.len(), 1, "no line cuts a pane");
}

/// How many pixels are clearly lighter than they were, and darker. Edges that two pieces share are smoothed twice, once each: that makes up to a
/// quarter of full contrast.
fn clearly_off(now: &RgbImage, before: &RgbImage) -> [usize; 2] {
    let count = |a: &RgbImage, b: &RgbImage| {
        a.pixels().zip(b.pixels()).filter(|(a, b)| a.0[0] > b.0[0].saturating_add(80)).count()
    };
    [count(now, before), count(before, now)]
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(12))]

    /// What was in a bundle that is dissolved stays where its panes were, whatever of it the lines cut.
    #[test]
    fn a_bundle_in_panes_is_dissolved_where_it_is(
        x in 25.0..70.0, y in 25.0..75.0, gap in prop::sample::select(vec![0.0, 3.0]), apart in 0.0..12.0, turn in -0.3..0.3,
        deep in any::<bool>(), hide in any::<bool>(), own in any::<bool>(),
    ) {
        let (mut p, bundle) = pair();
        if own {
            // a window in panes, one of which is turned
            let mut split = Split { lines: vec![zigzag([10.0, 40.0], [90.0, 45.0], None)].into(), gap, apart: 4.0, ..Split::default() };
            let path = PanePath::default().side(split.lines[0].id, true);
            let by = Affine::rotate_about(0.2, (40.0, 40.0)).as_coeffs();
            split.looks.push(PaneLook { pane: path, by, name: String::new(), hidden: false });
            p.edit(Edit::SetSplit { piece: p.piece, split });
        }
        if deep {
            let inner = BundleId::fresh();
            p.edit(Edit::Bundle { bundle: inner, within: Some(bundle), pieces: p.sheet.pieces[1..].iter().map(|p| p.id).collect(), bundles: Vec::new() });
        }
        let mut split = Split { lines: split_at(x, 0.0).lines, gap, apart, ..Split::default() };
        let left = PanePath::default().side(split.lines[0].id, true);
        split.lines.push(zigzag([5.0, y], [95.0, y + 5.0], Some(left.clone())));
        let part = left.side(split.lines[1].id, false);
        let by = (Affine::rotate_about(turn, (40.0, 40.0)) * Affine::scale(0.9)).as_coeffs();
        split.looks.push(PaneLook { pane: part, by, name: "Corner".into(), hidden: hide });
        let set = Edit::SetBundleSplit { bundle, split };
        prop_assume!(apply(&p.sheet, &set, &p.library).is_ok());
        p.edit(set);
        let before = p.picture();
        p.edit(Edit::Dissolve { bundle });
        prop_assert!(!p.sheet.bundles.iter().any(|b| b.id == bundle));
        let [lighter, darker] = clearly_off(&p.picture(), &before);
        // a gap takes nothing of what its line does not cut
        let regained = if gap > 0.0 { 90 } else { 3 };
        prop_assert!(lighter <= 3 && darker <= regained, "{lighter} pixels are lighter, {darker} are darker");
    }

    /// Neither does a line across a bundle, nor a row of one.
    #[test]
    fn splitting_and_joining_a_bundle_change_no_pixel(x in 25.0..60.0, blend in any::<bool>(), once in any::<bool>()) {
        let (mut p, bundle) = pair();
        if blend {
            p.edit(Edit::SetBundleFinish { bundle, finish: BundleFinish { strength: 0.6, ..BundleFinish::default() } });
        }
        let before = p.picture();
        p.edit(Edit::SetBundleSplit { bundle, split: split_at(x, 0.0) });
        if once {
            let layout = Layout::Row { count: 1, gap: 3.0, along: [1.0, 0.0] };
            let repeat = Repeat { layout, turn: 0.0, scale: 1.0, behind: false, looks: Members::default() };
            p.edit(Edit::SetBundleRepeat { bundle, repeat: Some(repeat) });
        }
        prop_assert!(p.picture() == before);
        p.edit(Edit::SetBundleSplit { bundle, split: Split::default() });
        prop_assert!(p.picture() == before);
    }

    /// Bundling changes no pixel, however deep; nor does a finish that does nothing, nor dissolving.
    #[test]
    fn bundling_and_dissolving_change_no_pixel(moves in prop::collection::vec((-20.0..20.0, -20.0..20.0), 3), deep in any::<bool>(), blend in any::<bool>()) {
        let mut p = poster();
        if blend {
            p.set_fill(|f| f.blend = Blend::Multiply);
        }
        let mut pieces = vec![p.piece];
        for (x, y) in moves {
            let copy = PieceId::fresh();
            p.edit(Edit::CopyPiece { piece: pieces[pieces.len() - 1], copy });
            p.edit(Edit::Transform { pieces: vec![copy], what: Grip::Both, by: [1.0, 0.0, 0.0, 1.0, x, y] });
            pieces.push(copy);
        }
        let before = p.picture();
        let (inner, outer) = (BundleId::fresh(), BundleId::fresh());
        p.edit(Edit::Bundle { bundle: inner, within: None, pieces: pieces[1..3].to_vec(), bundles: Vec::new() });
        if deep {
            p.edit(Edit::Bundle { bundle: outer, within: None, pieces: vec![pieces[3]], bundles: vec![inner] });
        }
        let off = Members::from(vec![shadow()]);
        let mut finish = BundleFinish { shadows: off, ..BundleFinish::default() };
        finish.shadows.iter_mut().for_each(|s| s.off = true);
        let bundled = with(&mut p, inner, finish);
        prop_assert!(bundled == before);
        p.edit(Edit::Dissolve { bundle: inner });
        prop_assert!(p.picture() == before);
    }
}
