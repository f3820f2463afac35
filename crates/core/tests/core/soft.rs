//! Edges that fade.

use inky_core::library::Books;
use inky_core::outline::{Face, Shelf, opening_path};
use inky_core::scene::soft_mask;
use inky_core::sheet::*;
use kurbo::Shape;

fn opening(hardness: f64) -> Opening {
    let stroke = |erase, x| Stroke { points: vec![[x, 0.0, 1.0], [x + 20.0, 0.0, 1.0]], size: 10.0, hardness, erase };
    let brush = Brush { strokes: vec![stroke(false, 0.0), stroke(true, 15.0)] };
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
    let piece = PieceId::fresh();
    assert!(soft_mask(&opening(1.0), piece, &Books::default()).is_none());
    let mask = soft_mask(&opening(0.4), piece, &Books::default()).unwrap();
    // the eraser and the form that is cut away
    assert_eq!(mask.definitions.matches("<mask").count(), 2, "{}", mask.definitions);
    assert_eq!(mask.definitions.matches("feGaussianBlur").count(), 2);
    assert!(mask.bounds.x0 < 45.5 && mask.bounds.contains(kurbo::Point::new(50.0, 50.0)));
}

#[test]
fn fading_areas_act_by_any_join() {
    let piece = PieceId::fresh();
    let mut opening = opening(0.4);
    opening.forms.swap(0, 1);
    for (join, masks) in [(Join::Add, 1), (Join::CutAway, 2), (Join::KeepShared, 2), (Join::DropShared, 2)] {
        opening.forms[1].join = join;
        let mask = soft_mask(&opening, piece, &Books::default()).unwrap();
        assert_eq!(mask.definitions.matches("<mask").count(), masks, "{join:?}");
        let wide = mask.bounds.width();
        assert!(if join == Join::CutAway { (wide - 8.0).abs() < 0.01 } else { wide > 30.0 }, "{join:?}: {wide}");
    }
    // a form that is switched off takes no part
    opening.forms[1].off = true;
    assert!(soft_mask(&opening, piece, &Books::default()).is_none());
}

#[test]
fn paint_fades_within_lists_bent_and_pulled() {
    let piece = PieceId::fresh();
    let plain = opening(0.4);
    let books = Books::default();
    let flat = soft_mask(&plain, piece, &books).unwrap();

    // a list that is moved: as many masks, moved as it is
    let list = Form::new(FormId::fresh(), Pose::at(100.0, 20.0), FormShape::List { forms: plain.forms.clone() });
    let nested = Opening { forms: vec![list.clone()], ..Opening::default() };
    let mask = soft_mask(&nested, piece, &books).unwrap();
    for kind in ["<mask", "feGaussianBlur"] {
        assert_eq!(mask.definitions.matches(kind).count(), flat.definitions.matches(kind).count(), "{kind}");
    }
    assert!(
        (mask.bounds.x0 - flat.bounds.x0 - 100.0).abs() < 1e-9 && (mask.bounds.y1 - flat.bounds.y1 - 20.0).abs() < 1e-9
    );
    // a list that is scaled fades over more, one that is bent or pulled takes its paint along
    let mut large = nested.clone();
    large.forms[0].pose.wide = 2.0;
    large.forms[0].pose.tall = 2.0;
    let mask = soft_mask(&large, piece, &books).unwrap();
    assert!(mask.definitions.contains("stdDeviation=\"1.8\""), "{}", mask.definitions);
    let mut bent = nested.clone();
    bent.forms[0].bend = Some(Bend { way: BendWay::BowUp, amount: 1.0 });
    let bounds = soft_mask(&bent, piece, &books).unwrap().bounds;
    assert!(bounds.height() > 1.3 * flat.bounds.height(), "{bounds:?} and {:?}", flat.bounds);
    let mut wide = nested.clone();
    wide.forms[0].pose.pull = Some([[-0.5, 0.0], [0.5, 0.0], [0.0, 0.0], [0.0, 0.0]]);
    let bounds = soft_mask(&wide, piece, &books).unwrap().bounds;
    assert!(bounds.width() > 1.4 * flat.bounds.width(), "{bounds:?} and {:?}", flat.bounds);
    // what is switched off in it does not count, nor does a list that is its own line
    let mut off = nested.clone();
    if let FormShape::List { forms } = &mut off.forms[0].shape {
        forms[0].off = true;
    }
    assert!(soft_mask(&off, piece, &books).is_none());

    // bent and pulled, the strokes go where the outline goes, and still fade
    let mut bent = plain.clone();
    bent.forms[0].bend = Some(Bend { way: BendWay::BowUp, amount: 1.0 });
    let mask = soft_mask(&bent, piece, &books).unwrap();
    assert_eq!(mask.definitions.matches("feGaussianBlur").count(), 2);
    assert!(mask.bounds.height() > 1.3 * flat.bounds.height(), "{:?} and {:?}", mask.bounds, flat.bounds);
    let mut pulled = plain.clone();
    pulled.forms[0].pose.pull = Some([[-0.5, 0.0], [0.5, 0.0], [0.0, 0.0], [0.0, 0.0]]);
    let mask = soft_mask(&pulled, piece, &books).unwrap();
    assert!(mask.bounds.width() > 1.4 * flat.bounds.width(), "{:?} and {:?}", mask.bounds, flat.bounds);
    // as its own line it is as soft as its edge was
    let mut line = plain;
    line.forms[0].line =
        Some(OwnLine { width: 1.0, side: LineSide::Centre, corners: LineCorner::Round, ends: LineEnd::Round });
    let mask = soft_mask(&line, piece, &books).unwrap();
    assert_eq!(mask.definitions.matches("stdDeviation=\"0.9\"").count(), 1, "{}", mask.definitions);
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
    let mask = soft_mask(&opening, PieceId::fresh(), &Books::default()).unwrap();
    // an eraser and a join for each form but the first
    assert_eq!(mask.definitions.matches("<mask").count(), 12 + 11);
    assert_eq!(mask.definitions.matches("exclusion").count(), 11);
}

#[test]
fn paint_grows_with_its_opening() {
    let (piece, books) = (PieceId::fresh(), Books::default());
    let mut opening = opening(0.4);
    let before = soft_mask(&opening, piece, &books).unwrap().bounds;
    opening.grow = 2.0;
    let after = soft_mask(&opening, piece, &books).unwrap().bounds;
    assert!(
        (before.x0 - after.x0 - 2.0).abs() < 0.02 && (after.y1 - before.y1 - 2.0).abs() < 0.02,
        "{before:?}, {after:?}"
    );
}

#[test]
fn lettering_after_paint_still_runs_along_its_edge() {
    let mut shelf = Shelf::default();
    let f = inky_fonts::FACES[0];
    shelf.add(Face::new(f.id.into(), f.name, f.data).unwrap());
    let books = Books { shelf: shelf.into(), ..Books::default() };
    let disc = BasicShape { width: 40.0, height: 40.0, figure: Figure::Ellipse };
    let disc = Form::new(FormId::fresh(), Pose::at(50.0, 50.0), FormShape::Basic(disc));
    let along = Along { form: disc.id, inside: false, start: 0.0, off: 0.0 };
    let word = Lettering { along: Some(along), ..Lettering::plain("NIGHT", f.id.into(), 10.0) };
    let word = Form::new(FormId::fresh(), Pose::at(50.0, 50.0), FormShape::Lettering(word));
    let alone = Opening { forms: vec![disc.clone(), word.clone()], ..Opening::default() };
    let known = opening_path(&alone, &books).unwrap().bounding_box();
    assert!(known.y0 < 28.0, "the word stands on the disc: {known:?}");
    for paint_at in [0, 1] {
        let mut forms = vec![disc.clone(), word.clone()];
        forms.insert(paint_at, opening(0.4).forms.swap_remove(0));
        let mask = soft_mask(&Opening { forms, ..Opening::default() }, PieceId::fresh(), &books).unwrap();
        assert!((mask.bounds.y0 - known.y0).abs() < 0.01, "{paint_at}: {:?} for {known:?}", mask.bounds);
    }
}
