//! What always holds of strokes, whatever the photo: they cover themselves, the later one wins, and what was found already changes nothing.

mod common;

use common::Reds;
use image::{Rgba, RgbaImage};
use inky_cutout::{
    CutoutError, Draft, Hints, PhotoBox, Standout, Start, SubjectStroke, Unwatched, WorkingPhoto, draft, find_subject,
};
use proptest::prelude::*;

const SIDE: (u32, u32) = (160, 120);

/// A red disc and a yellow one on a striped ground.
fn photo() -> RgbaImage {
    RgbaImage::from_fn(SIDE.0, SIDE.1, |x, y| {
        let within = |cx: f64, cy: f64, r: f64| (f64::from(x) - cx).hypot(f64::from(y) - cy) < r;
        let grain = ((x * 31 + y * 57 + x * y) % 13) as u8;
        if within(60.0, 60.0, 28.0) {
            Rgba([200 - grain, 50, 40 + grain, 255])
        } else if within(115.0, 60.0, 20.0) {
            Rgba([215, 190 - grain, 60, 255])
        } else {
            Rgba([70, 100 + grain + 8 * (y / 8 % 3) as u8, 120, 255])
        }
    })
}

fn everything() -> PhotoBox {
    PhotoBox { x: 20.0, y: 20.0, width: 120.0, height: 80.0 }
}

struct Looked {
    working: WorkingPhoto,
    standout: Standout,
}

impl Looked {
    fn new() -> Self {
        Self::at(&photo())
    }

    fn at(photo: &RgbaImage) -> Self {
        let standout = Standout::find(photo, Some(&everything()), &Reds, &Unwatched).unwrap();
        Self { working: WorkingPhoto::new(photo), standout }
    }

    fn draft(&self, strokes: &[SubjectStroke], before: Option<&Draft>) -> Result<Draft, CutoutError> {
        let hints = Hints { start: Start::Salient, strokes: strokes.to_vec(), ..Hints::within(Some(everything())) };
        draft(&self.working, &self.standout, &hints, before, &Unwatched)
    }

    /// The share of what lies beneath a stroke that belongs to the subject.
    fn beneath(&self, draft: &Draft, stroke: &SubjectStroke) -> f64 {
        let matte = draft.matte();
        let only = Hints { strokes: vec![stroke.clone()], ..Hints::default() };
        let drawn = only.drawn(matte.width() as usize, matte.height() as usize, 1.0);
        let covered: Vec<u8> = (drawn.data.iter().zip(matte.pixels()))
            .filter(|(hint, _)| **hint != inky_cutout::Hint::Nothing)
            .map(|(_, p)| p.0[0])
            .collect();
        covered.iter().filter(|a| **a > 127).count() as f64 / covered.len().max(1) as f64
    }
}

fn stroke() -> impl Strategy<Value = SubjectStroke> {
    let place = || (5.0..155.0, 5.0..115.0);
    (any::<bool>(), 3.0..14.0, place(), place())
        .prop_map(|(keep, width, a, b)| SubjectStroke::new(keep, width, vec![[a.0, a.1], [b.0, b.1]]))
}

/// How many strokes are tried: `PROPTEST_CASES` asks for more of them.
fn cases(usual: u32) -> u32 {
    std::env::var("PROPTEST_CASES").ok().and_then(|v| v.parse().ok()).unwrap_or(usual)
}

proptest! {
    #![proptest_config(ProptestConfig { cases: cases(32), failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn a_stroke_covers_itself_and_the_later_one_wins(first in stroke(), second in stroke()) {
        let looked = Looked::new();
        let Ok(one) = looked.draft(std::slice::from_ref(&first), None) else {
            // everything was dropped
            prop_assert!(!first.keep);
            return Ok(());
        };
        let share = looked.beneath(&one, &first);
        prop_assert!(if first.keep { share > 0.99 } else { share < 0.01 }, "{share} beneath {first:?}");
        let opposite = SubjectStroke { keep: !first.keep, ..first.clone() };
        if let Ok(both) = looked.draft(&[first, opposite.clone()], Some(&one)) {
            let share = looked.beneath(&both, &opposite);
            prop_assert!(if opposite.keep { share > 0.99 } else { share < 0.01 }, "{share} beneath {opposite:?}");
        }
        // one after the other, or both at once
        let strokes = [opposite, second];
        let apart = looked.draft(&strokes[..1], None).and_then(|before| looked.draft(&strokes, Some(&before)));
        let at_once = looked.draft(&strokes, None);
        match (apart, at_once) {
            (Ok(apart), Ok(at_once)) => {
                // a soft edge is solved for from another start, and ends a little elsewhere
                let far = |a: u8, b: u8| a.abs_diff(b) > 64;
                let differ = apart.matte().iter().zip(at_once.matte().iter()).filter(|(a, b)| far(**a, **b)).count();
                prop_assert!(differ < 10, "{differ} pixels");
            }
            (apart, at_once) => prop_assert!(at_once.is_err() || apart.is_err()),
        }
    }
}

#[test]
fn what_is_found_already_changes_nothing() {
    let looked = Looked::new();
    let before = looked.draft(&[], None).unwrap();
    let inside = SubjectStroke::new(true, 8.0, vec![[50.0, 60.0], [70.0, 60.0]]);
    let outside = SubjectStroke::new(false, 8.0, vec![[25.0, 25.0], [24.0, 90.0]]);
    let after = looked.draft(&[inside, outside], Some(&before)).unwrap();
    let (before, after) = (before.matte(), after.matte());
    // the soft edge is solved for again, from where it was
    let far = before.iter().zip(after.iter()).map(|(a, b)| a.abs_diff(*b)).max();
    assert!(far <= Some(6), "{far:?}");
}

#[test]
fn a_click_brings_in_all_of_a_disc_and_leaves_the_other_one() {
    let looked = Looked::new();
    let before = looked.draft(&[], None).unwrap();
    let (red, yellow) = ([60_u32, 60], [124_u32, 66]);
    let at = |d: &Draft, p: [u32; 2]| d.matte().get_pixel(p[0], p[1]).0[0];
    assert!(at(&before, red) > 250 && at(&before, yellow) < 5);
    let click = SubjectStroke::new(true, 10.0, vec![[112.0, 56.0]]);
    let after = looked.draft(std::slice::from_ref(&click), Some(&before)).unwrap();
    assert!(at(&after, red) > 250 && at(&after, yellow) > 250);
    let away = SubjectStroke { keep: false, ..click.clone() };
    let again = looked.draft(&[click, away], Some(&after)).unwrap();
    assert!(at(&again, red) > 250 && at(&again, yellow) < 5);
}

#[test]
fn a_stroke_speaks_for_everything_like_it_only_when_asked() {
    let yellows = [[120_u32, 40], [120, 80], [98, 84]];
    let usual = photo();
    let photo = RgbaImage::from_fn(SIDE.0, SIDE.1, |x, y| {
        let near = |at: [u32; 2]| f64::from(x.abs_diff(at[0])).hypot(f64::from(y.abs_diff(at[1]))) < 9.0;
        match x {
            _ if yellows.into_iter().any(near) => Rgba([215, 190 - (x * y % 7) as u8, 60, 255]),
            // in place of the large yellow disc the ground beside the red one
            90.. => *usual.get_pixel(x % 25, y),
            _ => *usual.get_pixel(x, y),
        }
    });
    let looked = Looked::at(&photo);
    let before = looked.draft(&[], None).unwrap();
    assert!(before.wider().is_none());
    let in_it = |d: &Draft| yellows.map(|[x, y]| d.matte().get_pixel(x, y).0[0] > 127);
    let click = SubjectStroke::new(true, 6.0, vec![[120.0, 40.0]]);
    let one = looked.draft(std::slice::from_ref(&click), Some(&before)).unwrap();
    assert_eq!(in_it(&one), [true, false, false]);
    let wider = one.wider().expect("the others are like it");
    assert_eq!(yellows.map(|[x, y]| wider.get_pixel(x, y).0[0]), [255; 3]);
    let all = looked.draft(&[SubjectStroke { everywhere: true, ..click }], Some(&one)).unwrap();
    assert_eq!(in_it(&all), [true; 3]);
    assert!(all.wider().is_none());
}

#[test]
fn photos_that_leave_no_choice_are_answered() {
    let even = |w: u32, h: u32, c: [u8; 4]| RgbaImage::from_pixel(w, h, Rgba(c));
    let grey = [120, 130, 140, 255];
    let all = |w: u32, h: u32| PhotoBox { x: 0.0, y: 0.0, width: f64::from(w), height: f64::from(h) };
    // too small for a box, so narrow that one of its sides vanishes at the working size, without any contrast
    for (w, h) in [(1, 1), (1, 20_000), (20_000, 1), (9, 9), (300, 200)] {
        let photo = even(w, h, grey);
        for within in [None, Some(all(w, h)), Some(PhotoBox { x: 1e6, y: 0.0, width: 20.0, height: 20.0 })] {
            let far = within.is_some_and(|b| b.x > 0.0);
            let found = find_subject(&photo, &Hints::within(within), &Reds, &Unwatched);
            let said = found.err().unwrap_or_else(|| panic!("a subject in {w} x {h}"));
            assert!(said.to_string().ends_with('.') && (!far || said == CutoutError::BoxOutside), "{said:?}");
            // strokes alone, all of the ground
            let strokes = [true, false].map(|keep| SubjectStroke::new(keep, 4.0, vec![[0.5, 0.5]]));
            for strokes in [strokes[..1].to_vec(), strokes[1..].to_vec(), strokes.to_vec()] {
                let hints = Hints { strokes, ..Hints::within(within) };
                if let Ok(found) = find_subject(&photo, &hints, &Reds, &Unwatched) {
                    assert_eq!(found.matte.dimensions(), (w, h));
                }
            }
        }
    }
    assert_eq!(
        find_subject(&even(40, 30, [0, 0, 0, 0]), &Hints::default(), &Reds, &Unwatched).err(),
        Some(CutoutError::Clear)
    );
}
