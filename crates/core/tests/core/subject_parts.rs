//! Parts of a subject as they are kept: regions that are let out, cut, softened and named.

use crate::shown::{Shown, square};
use inky_core::combine::bounds;
use inky_core::edit::{Edit, OpeningChange, PartChange, Refusal, apply};
use inky_core::handles::OverhangView;
use inky_core::scene::scene;
use inky_core::sheet::*;
use kurbo::Shape;

/// An arm to the right of a square that ends at x = 240, and a leg below it that ends at y = 250; a pixel is a millimetre.
fn limbs() -> Shown {
    Shown::new(square(), |x, y| {
        let body = (x - 140.0).hypot(y - 150.0) < 70.0;
        let arm = (140.0..380.0).contains(&x) && (120.0..150.0).contains(&y);
        let leg = (120.0..150.0).contains(&x) && (150.0..290.0).contains(&y);
        body || arm || leg
    })
}

fn parts(shown: &Shown) -> &Members<SubjectPart> {
    &shown.sheet.pieces[0].window().unwrap().breakout.parts
}

fn at(shown: &Shown, x: f64, y: f64) -> OverhangView {
    let all = shown.overhangs();
    let near = |o: &OverhangView| (o.anchor.x - x).hypot(o.anchor.y - y);
    all.into_iter().min_by(|a, b| near(a).total_cmp(&near(b))).unwrap()
}

fn change(shown: &mut Shown, overhang: &OverhangView, change: PartChange) -> Result<(), Refusal> {
    let edit = Edit::ChangePart { piece: shown.piece, anchor: overhang.anchor, change };
    shown.sheet = apply(&shown.sheet, &edit, &shown.library)?;
    Ok(())
}

/// Cuts the arm at a place from left to right.
fn cut_arm(shown: &mut Shown, x: f64) -> Result<(), Refusal> {
    let arm = at(shown, x, 135.0);
    change(shown, &arm, PartChange::Cut { along: [[x, 110.0], [x, 160.0]] })
}

/// How far what is let out reaches to the left and to the right.
fn reach(shown: &Shown) -> (f64, f64) {
    let b = bounds(&shown.release().released);
    (b.x0, b.x1)
}

#[test]
fn what_is_let_out_is_a_region_that_goes_on_under_the_opening() {
    let mut shown = limbs();
    shown.let_out(&at(&shown, 300.0, 135.0));
    let breakout = &shown.sheet.pieces[0].window().unwrap().breakout;
    assert!(breakout.let_out.is_empty() && breakout.parts.len() == 1);
    let (x0, x1) = reach(&shown);
    assert!(x0 < 240.0 && x1 > 378.0, "{x0} {x1}");

    // the window becomes narrower: more of the arm comes out, and is out
    let piece = shown.piece;
    let aside = |x: f64| {
        let change = OpeningChange::Transform { forms: Vec::new(), by: [1.0, 0.0, 0.0, 1.0, x, 0.0] };
        Edit::Opening { piece, change }
    };
    shown.edit(aside(-25.0));
    let all = shown.overhangs();
    let out: Vec<_> = all.iter().filter(|o| !o.let_out_by.is_empty()).collect();
    assert_eq!((out.len(), all.len()), (1, 2));
    assert!(reach(&shown).0 < 216.0);
    // swallowed, it is told, and out again as soon as it is there again
    shown.edit(aside(185.0));
    assert_eq!(shown.handles().unmatched.len(), 1);
    shown.edit(aside(-160.0));
    assert!(shown.handles().unmatched.is_empty() && reach(&shown).1 > 378.0);

    shown.edit(Edit::KeepIn { piece, anchors: at(&shown, 300.0, 135.0).let_out_by });
    assert!(parts(&shown).is_empty() && shown.overhangs().iter().all(|o| o.let_out_by.is_empty()));
}

#[test]
fn a_region_stays_what_it_is_however_the_subject_is_divided() {
    let mut shown = limbs();
    shown.let_out(&at(&shown, 300.0, 135.0));
    // as if the arm had been divided in another way when it was let out: only what lies beyond x = 310
    let half = vec![vec![[310.0, 100.0], [400.0, 100.0], [400.0, 170.0], [310.0, 170.0]]];
    shown.sheet.pieces[0].window_mut().unwrap().breakout.parts[0].value.region = half;
    let (x0, x1) = reach(&shown);
    assert!((x0 - 310.0).abs() < 1.5 && x1 > 378.0, "{x0} {x1}");
    let all = shown.overhangs();
    assert_eq!((all.len(), all.iter().filter(|o| !o.let_out_by.is_empty()).count()), (3, 1));
    // what is left of the arm is a part of its own, and joins on
    shown.let_out(&at(&shown, 270.0, 135.0));
    assert!(reach(&shown).0 < 240.0 && parts(&shown).len() == 2);
}

#[test]
fn points_of_earlier_sheets_let_out_what_they_did_until_something_is_said_of_the_part() {
    let mut shown = limbs();
    let arm = at(&shown, 300.0, 135.0);
    let mut region = limbs();
    region.let_out(&at(&region, 300.0, 135.0));
    shown.sheet.pieces[0].window_mut().unwrap().breakout.let_out.push(arm.anchor);
    let before = scene(&shown.sheet, &shown.library).pieces[0].breakout.clone().unwrap().releases.remove(0);
    assert_eq!(before.released, region.release().released);
    change(&mut shown, &arm, PartChange::Name { name: " the arm ".into() }).unwrap();
    let breakout = &shown.sheet.pieces[0].window().unwrap().breakout;
    assert!(breakout.let_out.is_empty() && breakout.parts[0].out && breakout.parts[0].name == "the arm");
    assert_eq!(shown.release().released, before.released);
}

#[test]
fn a_name_stays_while_the_part_is_in() {
    let mut shown = limbs();
    let arm = at(&shown, 300.0, 135.0);
    change(&mut shown, &arm, PartChange::Name { name: "arm".into() }).unwrap();
    let named = at(&shown, 300.0, 135.0);
    assert_eq!((named.name.as_deref(), named.let_out_by.len()), (Some("arm"), 0));
    shown.let_out(&named);
    let piece = shown.piece;
    shown.edit(Edit::KeepIn { piece, anchors: at(&shown, 300.0, 135.0).let_out_by });
    assert_eq!(at(&shown, 300.0, 135.0).name.as_deref(), Some("arm"));
    change(&mut shown, &named, PartChange::Name { name: String::new() }).unwrap();
    assert!(parts(&shown).is_empty());
    let long = PartChange::Name { name: "x".repeat(500) };
    assert!(matches!(change(&mut shown, &named, long), Err(Refusal::LongName)));
}

#[test]
fn a_part_is_cut_and_the_cut_is_moved_like_a_line() {
    let mut shown = limbs();
    shown.let_out(&at(&shown, 300.0, 135.0));
    assert!(shown.handles().cuts.is_empty());
    cut_arm(&mut shown, 300.0).unwrap();
    // both halves are out, as the whole was
    assert!(shown.handles().cuts.is_empty() && parts(&shown).iter().all(|p| p.out && p.shaped));
    assert_eq!(shown.overhangs().len(), 3);
    let piece = shown.piece;
    shown.edit(Edit::KeepIn { piece, anchors: at(&shown, 270.0, 135.0).let_out_by });
    let x0 = reach(&shown).0;
    assert!((x0 - 300.0).abs() < 1.5, "{x0}");

    let cuts = shown.handles().cuts;
    assert_eq!(cuts.len(), 1);
    let [a, b] = cuts[0].line;
    assert!((a[0] - 300.0).abs() < 1.5 && (b[0] - 300.0).abs() < 1.5 && (a[1] - b[1]).abs() > 26.0, "{a:?} {b:?}");
    // inwards, outwards, and turned: the ends need not reach across
    for (from, to) in [(290.0, 290.0), (330.0, 330.0), (320.0, 340.0)] {
        let cut = shown.handles().cuts.remove(0);
        let tip = at(&shown, 350.0, 135.0);
        // the same way round as the line that is moved
        let down = cut.line[0][1] < cut.line[1][1];
        let (first, last) = if down { ([from, 125.0], [to, 145.0]) } else { ([to, 145.0], [from, 125.0]) };
        change(&mut shown, &tip, PartChange::MoveCut { from: cut.line, to: [first, last] }).unwrap();
        let x0 = reach(&shown).0;
        assert!((x0 - from.min(to)).abs() < 6.0, "{x0} for {from} to {to}");
        assert_eq!(shown.overhangs().len(), 3, "nothing is lost, and nothing is left over");
    }
    // a line beside the arm cuts nothing
    let (tip, cut) = (at(&shown, 350.0, 135.0), shown.handles().cuts.remove(0));
    let beside = PartChange::MoveCut { from: cut.line, to: [[320.0, 10.0], [320.0, 40.0]] };
    assert!(matches!(change(&mut shown, &tip, beside), Err(Refusal::UncutPart)));
    let cut = change(&mut shown, &tip, PartChange::Cut { along: [[0.0, 0.0], [0.0, 0.0]] });
    assert!(matches!(cut, Err(Refusal::UncutPart)));
}

#[test]
fn a_cut_ends_softly() {
    let mut shown = limbs();
    shown.let_out(&at(&shown, 300.0, 135.0));
    cut_arm(&mut shown, 300.0).unwrap();
    let piece = shown.piece;
    shown.edit(Edit::KeepIn { piece, anchors: at(&shown, 270.0, 135.0).let_out_by });
    let hard = shown.release();
    let tip = at(&shown, 350.0, 135.0);
    change(&mut shown, &tip, PartChange::Soften { width: 20.0 }).unwrap();
    let soft = shown.release();
    assert_eq!((hard.fades.len(), soft.fades.len(), &soft.released), (0, 1, &hard.released));
    let fade = soft.fades[0];
    assert!((fade.width - 20.0).abs() < 1e-9 && (fade.line.p0.x - 300.0).abs() < 1.5);
    assert_eq!(at(&shown, 350.0, 135.0).soft, Some(20.0));
    // an end of the window's own edge is no cut
    assert!(fade.line.to_path(0.1).bounding_box().x0 > 290.0);
    for width in [-1.0, f64::NAN, 1e9] {
        assert!(change(&mut shown, &tip, PartChange::Soften { width }).is_err());
    }
}
