//! Edges that fade.

use crate::tree::counted;
use inky_core::library::LoadedLibrary;
use inky_core::outline::{Face, FontCollection, opening_path};
use inky_core::scene::{SoftOpening, soft_opening};
use inky_core::sheet::*;
use kurbo::Shape;

/// How often areas limit one another, and how many are blurred.
fn counts(soft: &SoftOpening) -> (usize, usize) {
    let (limits, blurs) = counted(&soft.coverage);
    (limits, blurs.len())
}

fn blurs(soft: &SoftOpening) -> Vec<f64> {
    counted(&soft.coverage).1
}

fn near(a: f64, b: f64) -> bool {
    (a - b).abs() < 1e-9
}

fn opening(hardness: f64) -> Opening {
    let stroke = |erase, x| Stroke { points: vec![[x, 0.0, 1.0], [x + 20.0, 0.0, 1.0]], size: 10.0, hardness, erase };
    let brush = Brush { strokes: vec![stroke(false, 0.0), stroke(true, 15.0)].into() };
    let disc = BasicShape { width: 8.0, height: 8.0, figure: Figure::Ellipse };
    let cut = Form::new(FormId::fresh(), Pose::at(50.0, 50.0), FormShape::Basic(disc));
    let forms = vec![
        Form::new(FormId::fresh(), Pose::at(50.0, 50.0), FormShape::Brush(brush)),
        Form { join: Join::CutAway, ..cut },
    ];
    Opening { forms, ..Opening::default() }
}

#[test]
fn only_fading_edges_need_a_mask() {
    assert!(soft_opening(&opening(1.0), &LoadedLibrary::default()).is_none());
    let mask = soft_opening(&opening(0.4), &LoadedLibrary::default()).unwrap();
    // the eraser and the form that is cut away; stroke and eraser
    assert_eq!(counts(&mask), (2, 2), "{:?}", mask.coverage);
    assert!(mask.bounds.x0 < 45.5 && mask.bounds.contains(kurbo::Point::new(50.0, 50.0)));
}

#[test]
fn fading_areas_act_by_any_join() {
    let mut opening = opening(0.4);
    opening.forms.swap(0, 1);
    for (join, masks) in [(Join::Add, 1), (Join::CutAway, 2), (Join::KeepShared, 2), (Join::DropShared, 2)] {
        opening.forms[1].join = join;
        let mask = soft_opening(&opening, &LoadedLibrary::default()).unwrap();
        assert_eq!(counts(&mask).0, masks, "{join:?}");
        let wide = mask.bounds.width();
        assert!(if join == Join::CutAway { (wide - 8.0).abs() < 0.01 } else { wide > 30.0 }, "{join:?}: {wide}");
    }
    // a form that is switched off takes no part
    opening.forms[1].off = true;
    assert!(soft_opening(&opening, &LoadedLibrary::default()).is_none());
}

#[test]
fn paint_fades_within_lists_bent_and_pulled() {
    let plain = opening(0.4);
    let library = LoadedLibrary::default();
    let flat = soft_opening(&plain, &library).unwrap();

    // a list that is moved: as many masks, moved as it is
    let list = Form::new(FormId::fresh(), Pose::at(100.0, 20.0), FormShape::List { forms: plain.forms.clone() });
    let nested = Opening { forms: vec![list.clone()], ..Opening::default() };
    let mask = soft_opening(&nested, &library).unwrap();
    assert_eq!(counts(&mask), counts(&flat));
    assert!(
        (mask.bounds.x0 - flat.bounds.x0 - 100.0).abs() < 1e-9 && (mask.bounds.y1 - flat.bounds.y1 - 20.0).abs() < 1e-9
    );
    // a list that is scaled fades over more, one that is bent or pulled takes its paint along
    let mut large = nested.clone();
    large.forms[0].pose.wide = 2.0;
    large.forms[0].pose.tall = 2.0;
    let mask = soft_opening(&large, &library).unwrap();
    assert!(blurs(&mask).iter().any(|b| near(*b, 1.8)), "{:?}", mask.coverage);
    let mut bent = nested.clone();
    bent.forms[0].bend = Some(Bend { kind: BendKind::BowUp, amount: 1.0 });
    let bounds = soft_opening(&bent, &library).unwrap().bounds;
    assert!(bounds.height() > 1.3 * flat.bounds.height(), "{bounds:?} and {:?}", flat.bounds);
    let mut wide = nested.clone();
    wide.forms[0].pose.pull = Some([[-0.5, 0.0], [0.5, 0.0], [0.0, 0.0], [0.0, 0.0]]);
    let bounds = soft_opening(&wide, &library).unwrap().bounds;
    assert!(bounds.width() > 1.4 * flat.bounds.width(), "{bounds:?} and {:?}", flat.bounds);
    // what is switched off in it does not count, nor does a list that is its own line
    let mut off = nested.clone();
    if let FormShape::List { forms } = &mut off.forms[0].shape {
        forms[0].off = true;
    }
    assert!(soft_opening(&off, &library).is_none());

    // bent and pulled, the strokes go where the outline goes, and still fade
    let mut bent = plain.clone();
    bent.forms[0].bend = Some(Bend { kind: BendKind::BowUp, amount: 1.0 });
    let mask = soft_opening(&bent, &library).unwrap();
    assert_eq!(counts(&mask).1, 2);
    assert!(mask.bounds.height() > 1.3 * flat.bounds.height(), "{:?} and {:?}", mask.bounds, flat.bounds);
    let mut pulled = plain.clone();
    pulled.forms[0].pose.pull = Some([[-0.5, 0.0], [0.5, 0.0], [0.0, 0.0], [0.0, 0.0]]);
    let mask = soft_opening(&pulled, &library).unwrap();
    assert!(mask.bounds.width() > 1.4 * flat.bounds.width(), "{:?} and {:?}", mask.bounds, flat.bounds);
    // as its own line it is as soft as its edge was
    let mut line = plain;
    line.forms[0].line =
        Some(OwnLine { width: 1.0, side: LineSide::Centre, corners: LineCorner::Round, ends: LineEnd::Round });
    let mask = soft_opening(&line, &library).unwrap();
    assert_eq!(blurs(&mask).iter().filter(|b| near(**b, 0.9)).count(), 1, "{:?}", mask.coverage);
}

#[test]
fn many_fading_areas_that_drop_what_they_share_cost_one_mask_each() {
    let one = opening(0.4).forms.swap_remove(0);
    let forms = (0..12).map(|k| Form {
        id: FormId::fresh(),
        join: Join::DropShared,
        pose: Pose::at(50.0 + f64::from(k), 50.0),
        ..one.clone()
    });
    let opening = Opening { forms: forms.collect(), ..Opening::default() };
    let mask = soft_opening(&opening, &LoadedLibrary::default()).unwrap();
    // an eraser and a join for each form but the first
    assert_eq!(counts(&mask).0, 12 + 11);
}

#[test]
fn paint_grows_with_its_opening() {
    let library = LoadedLibrary::default();
    let mut opening = opening(0.4);
    let before = soft_opening(&opening, &library).unwrap().bounds;
    opening.grow = 2.0;
    let after = soft_opening(&opening, &library).unwrap().bounds;
    assert!(
        (before.x0 - after.x0 - 2.0).abs() < 0.02 && (after.y1 - before.y1 - 2.0).abs() < 0.02,
        "{before:?}, {after:?}"
    );
}

#[test]
fn lettering_after_paint_still_runs_along_its_edge() {
    let mut fonts = FontCollection::default();
    let f = inky_fonts::FACES[0];
    fonts.add(Face::new(f.id.into(), f.name, f.data).unwrap());
    let library = LoadedLibrary { fonts: fonts.into(), ..LoadedLibrary::default() };
    let disc = BasicShape { width: 40.0, height: 40.0, figure: Figure::Ellipse };
    let disc = Form::new(FormId::fresh(), Pose::at(50.0, 50.0), FormShape::Basic(disc));
    let along = Along { form: disc.id, inside: false, start: 0.0, off: 0.0 };
    let word = Lettering { along: Some(along), ..Lettering::plain("NIGHT", f.id.into(), 10.0) };
    let word = Form::new(FormId::fresh(), Pose::at(50.0, 50.0), FormShape::Lettering(word));
    let alone = Opening { forms: vec![disc.clone(), word.clone()], ..Opening::default() };
    let known = opening_path(&alone, &library).unwrap().bounding_box();
    assert!(known.y0 < 28.0, "the word stands on the disc: {known:?}");
    for paint_at in [0, 1] {
        let mut forms = vec![disc.clone(), word.clone()];
        forms.insert(paint_at, opening(0.4).forms.swap_remove(0));
        let mask = soft_opening(&Opening { forms, ..Opening::default() }, &library).unwrap();
        assert!((mask.bounds.y0 - known.y0).abs() < 0.01, "{paint_at}: {:?} for {known:?}", mask.bounds);
    }
}
