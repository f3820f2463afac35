//! Windows that fall into panes.

use super::edits::{Word, word};
use inky_core::combine::area;
use inky_core::edit::*;
use inky_core::merge::merge;
use inky_core::outline::{panes, shown_outline};
use inky_core::scene::{SceneBuilder, SceneMemo};
use inky_core::sheet::*;
use kurbo::{Affine, BezPath, Point, Rect, Shape};
use proptest::prelude::*;

const PAGE: Rect = Rect::new(0.0, 0.0, 200.0, 200.0);

/// A sheet of 200 mm with a box from (50, 60) to (150, 140).
struct Boxed {
    w: Word,
}

fn a_box() -> Boxed {
    let mut w = word();
    w.sheet = Sheet::new("Panes", 200.0, 200.0, Unit::Mm, 25.4);
    let shape = BasicShape { width: 100.0, height: 80.0, figure: Figure::Box { corners: [0.0; 4] } };
    let form = Form::new(FormId::fresh(), Pose::at(100.0, 100.0), FormShape::Basic(shape));
    w.piece = PieceId::fresh();
    w.edit(Edit::AddWindow { piece: w.piece, form, fill: FillId::fresh() });
    Boxed { w }
}

fn line(points: &[[f64; 2]]) -> SplitLine {
    SplitLine { points: points.to_vec(), course: Course::Straight, flipped: false, within: None }
}

impl Boxed {
    fn window(&self) -> &Window {
        self.w.sheet.piece(self.w.piece).unwrap().window().unwrap()
    }

    fn split(&self) -> Split {
        self.window().split.clone()
    }

    fn set(&mut self, split: Split) -> Result<(), Refusal> {
        self.w.sheet = self.w.try_edit(Edit::SetSplit { piece: self.w.piece, split })?;
        Ok(())
    }

    fn add(&mut self, line: SplitLine) -> Result<(), Refusal> {
        let mut split = self.split();
        split.lines.push(line);
        self.set(split)
    }

    /// Each pane with its outline where it lies.
    fn panes(&self) -> Vec<(PanePath, BezPath)> {
        let outline = shown_outline(&self.w.sheet, self.window(), &self.w.library).unwrap();
        let split = &self.window().split;
        let all = panes(split, &outline.path, PAGE);
        all.into_iter().map(|p| (p.at.clone(), p.transform(split) * &p.opening)).collect()
    }

    fn bounds(&self) -> Vec<[i32; 4]> {
        let rounded = |b: Rect| [b.x0, b.y0, b.x1, b.y1].map(|v| v.round() as i32);
        self.panes().iter().map(|(_, path)| rounded(path.bounding_box())).collect()
    }
}

#[test]
fn a_line_makes_two_panes_and_another_one_of_each_it_crosses_two_more() {
    let mut b = a_box();
    b.add(line(&[[40.0, 100.0], [160.0, 100.0]])).unwrap();
    // to the right of someone who walks along it: below
    assert_eq!(b.bounds(), [[50, 100, 150, 140], [50, 60, 150, 100]]);
    // a straight line never crosses itself, whatever rounding makes of it
    for k in 0..200 {
        let mut b = a_box();
        let at = f64::from(k) * 0.37;
        b.add(line(&[[43.1 + at / 7.0, 61.3 + at], [158.7 - at / 3.0, 137.9 - at]])).unwrap();
    }
    let below = b.panes()[0].0.clone();
    b.add(SplitLine { within: Some(below), ..line(&[[80.0, 0.0], [80.0, 10.0]]) }).unwrap();
    assert_eq!(b.bounds(), [[50, 100, 80, 140], [80, 100, 150, 140], [50, 60, 150, 100]]);
    b.add(line(&[[120.0, 0.0], [120.0, 10.0]])).unwrap();
    assert_eq!(b.panes().len(), 5, "all that it crosses");
    // the first line taken away takes along what split its panes
    let mut split = b.split();
    let first = split.lines[0].id;
    split.looks.push(PaneLook {
        pane: b.panes()[0].0.clone(),
        by: [1.0, 0.0, 0.0, 1.0, 5.0, 0.0],
        name: "left".into(),
        hidden: false,
    });
    b.set(split.clone()).unwrap();
    split.lines = split.lines.iter().filter(|l| l.id != first).map(|l| l.value.clone()).collect::<Vec<_>>().into();
    b.set(split).unwrap();
    assert_eq!(b.bounds(), [[50, 60, 120, 140], [120, 60, 150, 140]]);
    assert!(b.split().looks.is_empty(), "what belonged to panes that are gone is gone");
}

#[test]
fn lines_that_cannot_split_say_why_and_change_nothing() {
    let mut b = a_box();
    let before = b.w.sheet.clone();
    let uncut = [
        line(&[[0.0, 10.0], [200.0, 10.0]]),
        // along an edge, and through a corner
        line(&[[0.0, 60.0], [200.0, 60.0]]),
        line(&[[50.0, 60.0], [40.0, 70.0]]),
    ];
    for line in uncut {
        assert_eq!(b.add(line).unwrap_err(), Refusal::UncutWindow);
    }
    let crossed = [
        line(&[[0.0, 100.0], [120.0, 100.0], [120.0, 80.0], [100.0, 80.0], [100.0, 120.0]]),
        // it meets itself only where it runs on
        line(&[[60.0, 100.0], [100.0, 60.0], [140.0, 100.0], [80.0, 120.0]]),
        line(&[[60.0, 100.0], [140.0, 100.0], [100.0, 100.0]]),
    ];
    for line in crossed {
        assert_eq!(b.add(line).unwrap_err(), Refusal::CrossedLine);
    }
    let across = [[0.0, 100.0], [200.0, 100.0]];
    assert_eq!(b.add(line(&across[..1])).unwrap_err(), Refusal::SplitPoints);
    assert_eq!(b.add(line(&[across[0], across[0]])).unwrap_err(), Refusal::SplitPoints);
    assert!(matches!(b.add(line(&[[f64::NAN, 0.0], across[1]])).unwrap_err(), Refusal::Number(_)));
    for count in [0, 101] {
        let zigzag = SplitLine { course: Course::Zigzag { count, depth: 5.0 }, ..line(&across) };
        assert_eq!(b.add(zigzag).unwrap_err(), Refusal::Teeth);
    }
    let elsewhere = PanePath(vec![PaneStep { line: MemberId::fresh(), far: true }]);
    let photo =
        b.w.try_edit(Edit::FillPane { piece: b.w.piece, pane: elsewhere, fill: FillId::fresh(), photo: "no".into() });
    assert_eq!(photo.unwrap_err(), Refusal::NoPane);
    assert_eq!(b.w.sheet, before);
    // as many panes as there may be, and no more
    for k in 0..64 {
        let x = 51.0 + 1.5 * f64::from(k);
        let made = b.add(line(&[[x, 0.0], [x, 200.0]]));
        assert_eq!(made.err(), (k == 63).then_some(Refusal::TooManyPanes), "{k}");
    }
    assert_eq!(b.panes().len(), 64);
}

#[test]
fn panes_stay_what_they_are_when_the_window_is_reshaped() {
    let mut b = a_box();
    let torn = SplitLine { course: Course::Torn { depth: 8.0, seed: 7 }, ..line(&[[45.0, 90.0], [155.0, 110.0]]) };
    b.add(torn).unwrap();
    let at = b.panes()[1].0.clone();
    let mut split = b.split();
    split.looks.push(PaneLook {
        pane: at,
        by: (Affine::rotate_about(0.4, Point::new(100.0, 80.0)) * Affine::translate((3.0, -20.0))).as_coeffs(),
        name: "lid".into(),
        hidden: false,
    });
    (split.gap, split.apart) = (2.0, 6.0);
    b.set(split).unwrap();
    let before = b.panes();
    let split = b.w.sheet.clone();
    for by in [
        Affine::rotate_about(0.7, Point::new(90.0, 90.0)),
        Affine::FLIP_X.then_translate((210.0, 0.0).into()),
        Affine::new([1.0, 0.0, -0.3, 1.0, 40.0, 0.0]),
    ] {
        b.w.sheet = split.clone();
        b.w.edit(Edit::Transform { pieces: vec![b.w.piece], what: Grip::Both, by: by.as_coeffs() });
        for ((at, was), (now_at, now)) in before.iter().zip(b.panes()) {
            assert_eq!(*at, now_at, "each is on its own side");
            let (was, now) = ((by * was.clone()).bounding_box(), now.bounding_box());
            // a torn line strays across itself, which a slant does not keep
            let off = (was.x0 - now.x0)
                .abs()
                .max((was.y0 - now.y0).abs())
                .max((was.x1 - now.x1).abs())
                .max((was.y1 - now.y1).abs());
            assert!(off < 2.5, "{by:?}: {was:?} {now:?}");
        }
    }
}

#[test]
fn two_hands_at_one_split_keep_both() {
    let mut b = a_box();
    b.add(line(&[[0.0, 100.0], [200.0, 100.0]])).unwrap();
    let base = b.w.sheet.clone();
    b.add(line(&[[80.0, 0.0], [80.0, 200.0]])).unwrap();
    let mine = std::mem::replace(&mut b.w.sheet, base.clone());
    let mut split = b.split();
    split.gap = 3.0;
    b.set(split).unwrap();
    b.w.sheet = merge(&base, &mine, &b.w.sheet).unwrap();
    assert_eq!((b.panes().len(), b.split().gap), (4, 3.0));
}

fn courses() -> impl Strategy<Value = Course> {
    prop_oneof![
        Just(Course::Straight),
        Just(Course::Smooth),
        (1u32..12, -20.0..20.0f64).prop_map(|(count, depth)| Course::Zigzag { count, depth }),
        (-15.0..15.0f64, any::<u32>()).prop_map(|(depth, seed)| Course::Torn { depth, seed }),
    ]
}

fn lines() -> impl Strategy<Value = Vec<SplitLine>> {
    let point = || [30.0..170.0f64, 40.0..160.0f64];
    let one = (prop::collection::vec(point(), 2..4), courses(), any::<bool>());
    let one = one.prop_map(|(points, course, flipped)| SplitLine { points, course, flipped, within: None });
    prop::collection::vec(one, 1..4)
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(40))]

    /// Panes leave nothing of the opening out and take nothing twice, and a window that is split and not moved is drawn as before.
    #[test]
    fn panes_tile_the_opening(lines in lines()) {
        let mut b = a_box();
        let fragment = |b: &Boxed| {
            let memo = SceneMemo::of(1 << 20);
            let scene = SceneBuilder::new(&b.w.sheet, &b.w.library, &memo).scene();
            (*scene.pieces[0].fragment).clone()
        };
        let before = fragment(&b);
        let taken = lines.into_iter().filter(|l| b.add(l.clone()).is_ok()).count();
        let all = b.panes();
        prop_assert!(all.len() > taken);
        let sum: f64 = all.iter().map(|(_, path)| area(path)).sum();
        prop_assert!((sum - 8000.0).abs() < 0.5, "{sum}");
        let mut paths: Vec<_> = all.iter().map(|(at, _)| at.clone()).collect();
        paths.sort();
        paths.dedup();
        prop_assert_eq!(paths.len(), all.len(), "each pane has a path of its own");
        prop_assert_eq!(fragment(&b), before);
        // joined again
        b.set(Split::default()).unwrap();
        prop_assert_eq!(b.panes().len(), 1);
    }
}
