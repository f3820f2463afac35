//! Windows in panes, pixel by pixel.

use super::{Poster, poster};
use image::{RgbImage, Rgba, RgbaImage};
use inky_core::cutout::Unwatched;
use inky_core::edit::Edit;
use inky_core::outline::{panes, shown_outline};
use inky_core::sheet::*;
use inky_render::{Originals, Plan, pixels};
use kurbo::Rect;
use proptest::prelude::*;
use std::sync::Arc;

/// A photo that is nowhere the same.
fn gradient() -> RgbaImage {
    RgbaImage::from_fn(100, 100, |x, y| Rgba([(x * 2) as u8, (y * 2) as u8, ((x * 7 + y * 3) % 256) as u8, 255]))
}

/// The sheet with that photo, and another one that is red all over.
pub fn shown(poster: &Poster) -> RgbImage {
    let red = RgbaImage::from_pixel(10, 10, Rgba([200, 40, 40, 255]));
    let photos = [("grey".into(), Arc::new(gradient())), ("other".into(), Arc::new(red))];
    let originals = Originals { photos: photos.into(), ..Originals::default() };
    let plan = Plan::of_sheet(&poster.sheet, &poster.library, &originals, 25.4, 0.0).unwrap();
    pixels(&plan, &Unwatched).unwrap()
}

impl Poster {
    fn shown(&self) -> RgbImage {
        shown(self)
    }

    fn window(&self) -> &Window {
        self.sheet.pieces[0].window().unwrap()
    }

    fn pane_paths(&self) -> Vec<PanePath> {
        let outline = shown_outline(&self.sheet, self.window(), &self.library).unwrap();
        let page = Rect::new(0.0, 0.0, 100.0, 100.0);
        panes(&self.window().split, &outline.path, page).into_iter().map(|p| p.at).collect()
    }

    fn split(&mut self, change: impl FnOnce(&mut Split)) {
        let mut split = self.window().split.clone();
        change(&mut split);
        self.edit(Edit::SetSplit { piece: self.piece, split });
    }

    /// A slanted line that no pixel lies along.
    fn cut(&mut self, course: Course) {
        let points = vec![[10.0, 43.3], [90.0, 57.9]];
        self.split(|s| s.lines.push(SplitLine { points, course, flipped: false, within: None }));
    }

    fn look(&mut self, pane: usize, by: [f64; 6], hidden: bool) {
        let pane = self.pane_paths()[pane].clone();
        self.split(|s| s.looks.push(PaneLook { pane, by, name: String::new(), hidden }));
    }

    fn edged(&mut self) {
        let ink = Colour([20, 27, 52]);
        let rim = Rim {
            width: 3.0,
            side: LineSide::Outside,
            paint: Paint::colour(ink),
            dashes: Vec::new(),
            round: false,
            over: false,
            off: false,
        };
        self.finish(Finish { rims: vec![rim].into(), ..Finish::default() });
    }
}

const SHIFT: [f64; 6] = [1.0, 0.0, 0.0, 1.0, 7.0, -5.0];

#[test]
fn a_split_window_that_is_not_moved_looks_as_before_and_moved_as_one_as_a_whole() {
    for edged in [false, true] {
        let mut p = poster();
        if edged {
            p.edged();
        }
        let before = p.shown();
        p.cut(Course::Zigzag { count: 5, depth: 6.0 });
        assert!(p.shown() == before, "no pixel changes");
        p.split(|s| {
            s.lines.push(SplitLine {
                points: vec![[40.0, 0.0], [47.0, 100.0]],
                course: Course::Smooth,
                flipped: false,
                within: None,
            })
        });
        assert_eq!(p.pane_paths().len(), 4);
        assert!(p.shown() == before);
        (0..4).for_each(|pane| p.look(pane, SHIFT, false));
        let apart = p.shown();
        let mut whole = poster();
        if edged {
            whole.edged();
        }
        whole.edit(Edit::Transform { pieces: vec![whole.piece], what: inky_core::edit::Grip::Both, by: SHIFT });
        assert!(apart == whole.shown(), "one group, and no seam in it");
    }
}

#[test]
fn a_pane_takes_its_part_of_the_photo_along() {
    let mut p = poster();
    let before = p.shown();
    p.cut(Course::Straight);
    // the upper one
    p.look(1, [1.0, 0.0, 0.0, 1.0, 10.0, -15.0], false);
    let shown = p.shown();
    assert_eq!(shown.get_pixel(40, 15), before.get_pixel(30, 30));
    assert_eq!(shown.get_pixel(60, 70), before.get_pixel(60, 70));
    assert_eq!(shown.get_pixel(22, 30).0, [255; 3], "the ground, where it was");
    // hidden, nothing of it is seen
    let mut p = poster();
    p.cut(Course::Straight);
    p.look(1, [1.0, 0.0, 0.0, 1.0, 0.0, 0.0], true);
    assert_eq!((p.at(40, 30), p.shown().get_pixel(60, 70)), ([255; 3], before.get_pixel(60, 70)));
}

#[test]
fn a_gap_cuts_a_strip_away_and_apart_moves_both_sides() {
    let mut p = poster();
    let before = p.shown();
    p.split(|s| {
        s.lines.push(SplitLine {
            points: vec![[0.0, 50.0], [100.0, 50.0]],
            course: Course::Straight,
            flipped: false,
            within: None,
        });
        s.gap = 6.0;
    });
    let gap = p.shown();
    assert_eq!([46, 47, 52, 53].map(|y| gap.get_pixel(50, y).0 == [255; 3]), [false, true, true, false]);
    assert_eq!(gap.get_pixel(50, 46), before.get_pixel(50, 46));
    p.split(|s| (s.gap, s.apart) = (0.0, 10.0));
    let apart = p.shown();
    assert_eq!([44, 45, 54, 55].map(|y| apart.get_pixel(50, y).0 == [255; 3]), [false, true, true, false]);
    assert_eq!(apart.get_pixel(50, 30), before.get_pixel(50, 35));
}

#[test]
fn a_pane_with_a_photo_of_its_own_leaves_no_seam() {
    let mut p = poster();
    p.library.photos.insert("other".into(), Photo::new("other", 10, 10));
    p.cut(Course::Straight);
    let (upper, fill) = (p.pane_paths()[1].clone(), FillId::fresh());
    p.edit(Edit::FillPane { piece: p.piece, pane: upper.clone(), fill, photo: "other".into() });
    let shown = p.shown();
    assert_eq!(shown.get_pixel(40, 30).0, [200, 40, 40]);
    let plain = poster().shown();
    for x in 21..79 {
        for y in 40..62 {
            // between the two photos: nothing of the white ground shines through
            let (now, was) = (shown.get_pixel(x, y).0, plain.get_pixel(x, y).0);
            for c in 0..3 {
                let (a, b) = (was[c].min([200, 40, 40][c]), was[c].max([200, 40, 40][c]));
                assert!((a.saturating_sub(2)..=b.saturating_add(2)).contains(&now[c]), "{x}, {y}: {now:?} {was:?}");
            }
        }
    }
    // one photo more gives way to the next, and joining takes it away
    p.edit(Edit::FillPane { piece: p.piece, pane: upper, fill: FillId::fresh(), photo: "grey".into() });
    assert_eq!(p.window().fills.len(), 3);
    p.split(|s| *s = Split::default());
    assert!(p.shown() == plain);
}

#[test]
fn rims_follow_the_old_edge_or_that_of_each_pane() {
    let ink = [20, 27, 52];
    let mut p = poster();
    p.edged();
    p.split(|s| {
        s.lines.push(SplitLine {
            points: vec![[0.0, 50.0], [100.0, 50.0]],
            course: Course::Straight,
            flipped: false,
            within: None,
        });
        s.apart = 20.0;
    });
    // the panes end at 40 and begin at 60
    assert_eq!([p.at(50, 8), p.at(50, 41), p.at(50, 58)], [ink, [255; 3], [255; 3]]);
    p.split(|s| s.edges = PaneEdges::Own);
    assert_eq!([p.at(50, 8), p.at(50, 41), p.at(50, 58)], [ink, ink, ink]);
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(12))]

    /// Splitting changes no pixel, and joining brings none back.
    #[test]
    fn splitting_changes_no_pixel(points in prop::collection::vec([5.0..95.0f64, 5.0..95.0f64], 2..4), seed: u32) {
        let mut p = poster();
        p.edged();
        let before = p.shown();
        let mut split = Split::default();
        split.lines.push(SplitLine { points, course: Course::Torn { depth: 6.0, seed }, flipped: false, within: None });
        if let Ok(sheet) = inky_core::edit::apply(&p.sheet, &Edit::SetSplit { piece: p.piece, split }, &p.library) {
            p.sheet = sheet;
            prop_assert!(p.shown() == before);
        }
    }
}
