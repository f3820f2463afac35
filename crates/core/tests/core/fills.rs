//! What shows through an opening, how its edge is finished, and the inks of the sheet.

use crate::edits::{Word, word};
use inky_core::check::check_sheet;
use inky_core::edit::*;
use inky_core::sheet::*;

fn colour(text: &str) -> Colour {
    text.parse().unwrap()
}

fn ramp(stops: &[(f64, &str)]) -> Gradient {
    let stop = |&(at, c): &(f64, &str)| Stop { at, tint: Tint::Colour(colour(c)), opacity: 1.0 };
    Gradient { kind: GradientKind::Linear, stops: stops.iter().map(stop).collect() }
}

fn window(w: &Word) -> &Window {
    w.sheet.piece(w.piece).unwrap().window().unwrap()
}

fn add(w: &mut Word, paint: FillPaint, follows_opening: bool) -> FillId {
    let fill = Fill { follows_opening, ..Fill::new(FillId::fresh(), paint) };
    w.edit(Edit::AddFill { piece: w.piece, fill: fill.clone() });
    fill.id
}

#[test]
fn fills_lie_in_their_order_and_ride_or_stay() {
    let mut w = word();
    w.edit(Edit::AddPhoto { piece: w.piece, fill: FillId::fresh(), photo: "wide".into() });
    w.edit(Edit::AddPhoto { piece: w.piece, fill: FillId::fresh(), photo: "tall".into() });
    let vector = GradientVector { from: [10.0, 20.0], to: [30.0, 20.0] };
    let gradient = Paint::Gradient { gradient: ramp(&[(0.0, "#000000"), (1.0, "#ffffff")]), vector: Some(vector) };
    let riding = add(&mut w, FillPaint::Plain(gradient), true);
    assert_eq!(window(&w).fills.len(), 4, "the ink, two photos and a gradient");
    w.edit(Edit::OrderFill { piece: w.piece, fill: riding, to: 0 });
    assert_eq!(window(&w).fills[0].id, riding);

    let before: Vec<Placement> = window(&w).photos().map(|(_, p)| p.placement).collect();
    let by = Similarity { a: 0.0, b: 1.0, dx: 5.0, dy: 7.0 };
    w.edit(Edit::Move { piece: w.piece, what: Grip::Opening, by });
    let after: Vec<Placement> = window(&w).photos().map(|(_, p)| p.placement).collect();
    assert_eq!(before, after, "photos stay on the sheet");
    let FillPaint::Plain(Paint::Gradient { vector: Some(moved), .. }) = &window(&w).fills[0].paint else {
        panic!("the gradient is gone");
    };
    for (p, known) in [(moved.from, [-15.0, 17.0]), (moved.to, [-15.0, 37.0])] {
        assert!((p[0] - known[0]).abs() < 1e-9 && (p[1] - known[1]).abs() < 1e-9, "{p:?} for {known:?}");
    }
    // one of two photos by itself, then all fills
    let first = window(&w).photos().next().unwrap().0;
    w.edit(Edit::MoveFill { piece: w.piece, fill: first, by });
    let one: Vec<Placement> = window(&w).photos().map(|(_, p)| p.placement).collect();
    assert_eq!((one[0], one[1]), (before[0].moved(&by), before[1]));
    w.edit(Edit::SetPlacement { piece: w.piece, fill: first, placement: before[0] });
    w.edit(Edit::Move { piece: w.piece, what: Grip::Fill, by });
    let moved: Vec<Placement> = window(&w).photos().map(|(_, p)| p.placement).collect();
    assert!(moved.iter().zip(&before).all(|(a, b)| *a == b.moved(&by)));
}

#[test]
fn a_photo_in_place_of_another_keeps_its_tone_and_strength() {
    let mut w = word();
    w.edit(Edit::AddPhoto { piece: w.piece, fill: FillId::fresh(), photo: "wide".into() });
    let mut fill = window(&w).fills[1].clone();
    fill.strength = 0.6;
    fill.blend = Blend::Multiply;
    if let FillPaint::Photo(p) = &mut fill.paint {
        p.tone.warmth = 0.3;
    }
    let edit = Edit::SetFill { piece: w.piece, fill: fill.clone() };
    assert_eq!(edit.name(&w.sheet), "strength of a fill");
    w.edit(edit);
    w.edit(Edit::FillWithPhoto { piece: w.piece, fill: FillId::fresh(), photo: "tall".into() });
    let now = &window(&w).fills[1];
    assert_eq!((now.id, now.strength, now.blend), (fill.id, 0.6, Blend::Multiply));
    assert!(matches!(&now.paint, FillPaint::Photo(p) if p.photo == "tall".into() && p.tone.warmth == 0.3));
}

#[test]
fn the_finish_grows_with_its_opening_and_not_with_its_fill() {
    let mut w = word();
    w.edit(Edit::AddPhoto { piece: w.piece, fill: FillId::fresh(), photo: "wide".into() });
    let rim = Rim {
        width: 2.0,
        side: LineSide::Outside,
        paint: Paint::colour(Colour::INK),
        dashes: vec![3.0, 1.0],
        round: true,
        over: false,
        off: false,
    };
    let shadow = Shadow {
        place: ShadowPlace::Behind,
        tint: Tint::Colour(Colour::INK),
        blend: Blend::Multiply,
        strength: 0.5,
        angle: 45.0,
        distance: 4.0,
        spread: 1.0,
        size: 6.0,
        off: false,
    };
    let finish = Finish {
        softness: Softness { width: 3.0, side: FadeSide::Inward },
        rims: vec![rim].into(),
        shadows: vec![shadow].into(),
        ..Finish::default()
    };
    let edit = Edit::SetFinish { piece: w.piece, finish: finish.clone() };
    assert_eq!(edit.name(&w.sheet), "softness of the edge");
    w.edit(edit);
    let by = Similarity { a: 2.0, b: 0.0, dx: 0.0, dy: 0.0 };
    w.edit(Edit::Move { piece: w.piece, what: Grip::Fill, by });
    assert_eq!(window(&w).finish, finish);
    w.edit(Edit::Move { piece: w.piece, what: Grip::Opening, by });
    let now = &window(&w).finish;
    assert_eq!((now.softness.width, now.rims[0].width, now.rims[0].dashes.as_slice()), (6.0, 4.0, &[6.0, 2.0][..]));
    assert_eq!((now.shadows[0].distance, now.shadows[0].spread, now.shadows[0].size), (8.0, 2.0, 12.0));
}

#[test]
fn inks_are_followed_and_leave_their_colour_behind() {
    let mut w = word();
    let red = Ink {
        spot: false,
        id: InkId::fresh(),
        name: "Lantern red".into(),
        mix: Mix::Colour { colour: colour("#c02020") },
    };
    let dusk = ramp(&[(0.0, "#102040"), (1.0, "#f0a040")]);
    let dusk = Ink { spot: false, id: InkId::fresh(), name: "Dusk".into(), mix: Mix::Gradient { gradient: dusk } };
    for ink in [&red, &dusk] {
        w.edit(Edit::SetInk { ink: ink.clone() });
    }
    let painted = add(&mut w, FillPaint::Plain(Paint::Ink { ink: red.id, vector: None }), true);
    w.edit(Edit::SetBackdrop { paint: Some(Paint::Ink { ink: dusk.id, vector: None }) });
    w.edit(Edit::AddPhoto { piece: w.piece, fill: FillId::fresh(), photo: "wide".into() });
    let mut photo = window(&w).fills.last().unwrap().clone();
    if let FillPaint::Photo(p) = &mut photo.paint {
        p.tone.print = Some(Print::Two { dark: Tint::Ink(red.id), light: Tint::Ink(dusk.id) });
    }
    w.edit(Edit::SetFill { piece: w.piece, fill: photo });
    // a gradient stands for its first colour where only one will do
    assert_eq!(w.sheet.colour(&Tint::Ink(dusk.id)), colour("#102040"));

    let mixed = Ink { mix: Mix::Colour { colour: colour("#209060") }, ..red.clone() };
    w.edit(Edit::SetInk { ink: mixed });
    assert_eq!(w.sheet.inks.len(), 2);
    assert_eq!(w.sheet.solid(&Paint::Ink { ink: red.id, vector: None }), Some(colour("#209060")));

    w.edit(Edit::RemoveInk { ink: red.id });
    w.edit(Edit::RemoveInk { ink: dusk.id });
    assert!(w.sheet.inks.is_empty());
    assert_eq!(window(&w).fill(painted).unwrap().paint, FillPaint::Plain(Paint::colour(colour("#209060"))));
    assert!(matches!(&w.sheet.backdrop, Some(Paint::Gradient { gradient, .. }) if gradient.stops.len() == 2));
    let FillPaint::Photo(p) = &window(&w).fills.last().unwrap().paint else { panic!("no photo") };
    let (dark, light) = (Tint::Colour(colour("#209060")), Tint::Colour(colour("#102040")));
    assert_eq!(p.tone.print, Some(Print::Two { dark, light }));
    check_sheet(&w.sheet).unwrap();
}

#[test]
fn what_cannot_be_painted_is_said() {
    let mut w = word();
    w.edit(Edit::AddPhoto { piece: w.piece, fill: FillId::fresh(), photo: "wide".into() });
    let FillPaint::Photo(photo) = window(&w).fills[1].paint.clone() else { panic!("no photo") };
    let fill = |paint| Fill::new(FillId::fresh(), paint);
    let tile = |step: [f64; 2]| {
        let (motif, placement) = (Motif::Photo(photo.photo.clone()), photo.placement);
        FillPaint::Tile(TileFill { motif, placement, step, offset: 0.0, tone: Tone::default() })
    };
    let gradient = |g: Gradient| FillPaint::Plain(Paint::Gradient { gradient: g, vector: None });
    let strange = PhotoFill { photo: "nowhere".into(), ..photo.clone() };
    let glaring = PhotoFill { tone: Tone { brightness: f64::NAN, ..Tone::default() }, ..photo.clone() };
    let refused = [
        (gradient(ramp(&[(0.0, "#000000")])), "between 2 and"),
        (gradient(ramp(&[(0.7, "#000000"), (0.2, "#ffffff")])), "one after the other"),
        (gradient(ramp(&[(0.0, "#000000"), (1.5, "#ffffff")])), "place of a stop"),
        (tile([0.0, 1.0]), "step of a tile"),
        (tile([1.0, f64::NAN]), "step of a tile"),
        (FillPaint::Plain(Paint::Ink { ink: InkId::fresh(), vector: None }), "no longer among the inks"),
        (FillPaint::Photo(strange), "photo is not here"),
        (FillPaint::Photo(glaring), "brightness"),
    ];
    for (paint, known) in refused {
        let said = w.try_edit(Edit::AddFill { piece: w.piece, fill: fill(paint) }).unwrap_err().to_string();
        assert!(said.contains(known), "“{said}” for “{known}”");
    }
    let own = Ink { spot: false, id: InkId::fresh(), name: "Own".into(), mix: Mix::Colour { colour: Colour::INK } };
    let mut of_own = ramp(&[(0.0, "#000000"), (1.0, "#ffffff")]);
    of_own.stops[0].tint = Tint::Ink(own.id);
    let mixed = Ink { mix: Mix::Gradient { gradient: of_own }, ..own };
    assert_eq!(w.try_edit(Edit::SetInk { ink: mixed }).unwrap_err(), Refusal::InkOfInks);
    let endless = Rim {
        width: 1.0,
        side: LineSide::Centre,
        paint: Paint::colour(Colour::INK),
        dashes: vec![0.0, 0.0],
        round: false,
        over: false,
        off: false,
    };
    let finish = Finish { rims: vec![endless].into(), ..Finish::default() };
    assert_eq!(w.try_edit(Edit::SetFinish { piece: w.piece, finish }).unwrap_err(), Refusal::Number("A dash"));
}

#[test]
fn sheets_from_before_there_were_finishes_are_read() {
    let old = r##"{"opening": {"forms": []}, "fills": [
        {"id": "0190b7a2-0000-7000-8000-000000000001", "paint": {"kind": "colour", "colour": "#102030"}},
        {"id": "0190b7a2-0000-7000-8000-000000000002", "paint": {"kind": "photo", "photo": "p",
            "placement": {"x": 1, "y": 2, "scale": 0.1}}}]}"##;
    let window: Window = serde_json::from_str(old).unwrap();
    assert_eq!(window.fills[0].paint, FillPaint::Plain(Paint::colour(colour("#102030"))));
    assert_eq!((window.fills[1].strength, window.fills[1].blend), (1.0, Blend::Normal));
    assert_eq!(window.finish, Finish::default());
    // and what is plain is written as plainly as before
    let again = serde_json::to_value(&window).unwrap();
    assert_eq!(again["fills"][0].as_object().unwrap().len(), 2, "{again}");
    assert!(again.get("finish").is_none());
}

#[test]
fn a_window_shows_through_another_but_never_through_itself() {
    let mut w = word();
    let second = PieceId::fresh();
    w.edit(Edit::CopyPiece { piece: w.piece, copy: second });
    let shown = |piece| Fill::new(FillId::fresh(), FillPaint::Window(WindowFill { piece, by: Similarity::default() }));
    assert_eq!(w.try_edit(Edit::AddFill { piece: w.piece, fill: shown(w.piece) }).unwrap_err(), Refusal::WithinItself);
    w.edit(Edit::AddFill { piece: w.piece, fill: shown(second) });
    assert_eq!(w.try_edit(Edit::AddFill { piece: second, fill: shown(w.piece) }).unwrap_err(), Refusal::WithinItself);
    check_sheet(&w.sheet).unwrap();
    // a file that says so all the same is refused as well
    let mut wrong = w.sheet.clone();
    wrong.piece_mut(second).unwrap().window_mut().unwrap().fills.push(shown(w.piece));
    assert_eq!(check_sheet(&wrong).unwrap_err(), Refusal::WithinItself);
    // it moves with the fill, and goes with its window
    let by = Similarity { a: 0.0, b: 1.0, dx: 3.0, dy: 4.0 };
    w.edit(Edit::Move { piece: w.piece, what: Grip::Fill, by });
    assert!(matches!(&window(&w).fills[1].paint, FillPaint::Window(f) if f.by == by));
    w.edit(Edit::RemovePiece { piece: second });
    assert_eq!(window(&w).fills.len(), 1);
}

#[test]
fn photos_of_a_file_keep_their_fills_and_credits_under_new_names() {
    let mut w = word();
    w.edit(Edit::AddPhoto { piece: w.piece, fill: FillId::fresh(), photo: "wide".into() });
    let mut tile = window(&w).fills[1].clone();
    let FillPaint::Photo(photo) = &tile.paint else { panic!("no photo") };
    tile.paint = FillPaint::Tile(TileFill {
        motif: Motif::Photo(photo.photo.clone()),
        placement: photo.placement,
        step: [1.0, 1.2],
        offset: 0.5,
        tone: Tone::default(),
    });
    w.edit(Edit::AddFill { piece: w.piece, fill: Fill { id: FillId::fresh(), ..tile } });
    let credit = Credit { title: "Dunes".into(), maker: "Perrin Ashe".into(), licence: Licence::Credit };
    w.edit(Edit::SetCredit { of: "wide".into(), credit: Some(credit.clone()) });
    assert!(w.try_edit(Edit::SetCredit { of: "nothing".into(), credit: Some(credit) }).is_err());
    let facts = w.sheet.photos.remove(&"wide".into()).unwrap();
    w.sheet.photos.insert("hash".into(), facts);
    w.sheet.rename_photo(&"wide".into(), &"hash".into());
    assert!(window(&w).fills[1..].iter().all(|f| f.photo() == Some(&"hash".into())));
    assert_eq!(w.sheet.credits["hash"].maker, "Perrin Ashe");
    check_sheet(&w.sheet).unwrap();
}

#[test]
fn a_shared_photo_grows_across_its_windows_until_something_breaks_out() {
    let mut w = word();
    let (photo, other, shared) = (FillId::fresh(), PieceId::fresh(), FillId::fresh());
    w.edit(Edit::AddPhoto { piece: w.piece, fill: photo, photo: "wide".into() });
    let own = w.bounds();
    let box_of = BasicShape { width: 40.0, height: 60.0, figure: Figure::Box { corners: [0.0; 4] } };
    let beside = Pose::at(own.x1 + 60.0, own.center().y);
    let form = |pose| Form::new(FormId::fresh(), pose, FormShape::Basic(box_of.clone()));
    w.edit(Edit::AddWindow { piece: other, form: form(beside), fill: FillId::fresh() });
    let placement =
        |w: &Word, piece: PieceId| w.sheet.piece(piece).unwrap().window().unwrap().photos().next().unwrap().1.placement;
    let before = placement(&w, w.piece);
    w.edit(Edit::ShareFill { piece: other, fill: shared, of: photo });
    let both = placement(&w, other);
    assert_eq!(both, placement(&w, w.piece));
    let facts = w.sheet.photos.values().next().unwrap().clone();
    let reach = |p: &Placement| {
        let size = kurbo::Rect::new(0.0, 0.0, f64::from(facts.width), f64::from(facts.height));
        p.affine(facts.width, facts.height).transform_rect_bbox(size)
    };
    let row = own.union(kurbo::Rect::from_center_size((own.x1 + 60.0, own.center().y), (40.0, 60.0)));
    assert!(!reach(&before).contains_rect(row) && reach(&both).contains_rect(row), "{:?} for {row:?}", reach(&both));
    assert_eq!(w.sheet.pieces.iter().map(|p| p.id).collect::<Vec<_>>(), [w.piece, other]);

    // made smaller by hand, it covers all of them again when that is asked of any of its fills
    w.edit(Edit::SetPlacement { piece: w.piece, fill: photo, placement: before });
    w.edit(Edit::FitPhoto { piece: other, fill: shared, fit: Fit::Cover });
    assert!(reach(&placement(&w, w.piece)).contains_rect(row));

    // what is let out already stays where it is, and stands before the window that is new
    w.edit(Edit::SetPlacement { piece: w.piece, fill: photo, placement: before });
    w.edit(Edit::LetOut { piece: w.piece, anchor: Anchor { fill: photo, subject: 0, x: 1.0, y: 1.0 } });
    assert_eq!(w.sheet.pieces.last().unwrap().id, w.piece, "it comes before the other window");
    let third = PieceId::fresh();
    let far = Pose::at(own.x0 - 80.0, own.center().y);
    w.edit(Edit::AddWindow { piece: third, form: form(far), fill: FillId::fresh() });
    w.edit(Edit::ShareFill { piece: third, fill: FillId::fresh(), of: shared });
    assert_eq!(placement(&w, third), before);
    assert_eq!(w.sheet.pieces.last().unwrap().id, w.piece);
    // moved back in the stack by hand, it stays there
    w.edit(Edit::OrderPiece { piece: w.piece, to: 0 });
    w.edit(Edit::SetPlacement { piece: w.piece, fill: photo, placement: both });
    assert_eq!(w.sheet.pieces[0].id, w.piece);
}
