//! What the proof finds, and what mends it.

use super::edits::{Word, word};
use inky_core::check::Refusal;
use inky_core::edit::*;
use inky_core::proof::{Finding, FindingKind, ProofTerms, Severity, proof};
use inky_core::sheet::*;

/// A sheet of 200 mm with a bleed, with a box of 60 by 60 mm in its middle that shows a photo of 1200 by 1200 pixels.
fn boxed() -> Word {
    let mut w = word();
    w.sheet = Sheet::new("Proof", 200.0, 200.0, Unit::Mm, 150.0);
    w.sheet.bleed = 3.0;
    w.library.photos.insert("a".into(), Photo::new("a", 1200, 1200));
    let shape = BasicShape { width: 60.0, height: 60.0, figure: Figure::Box { corners: [0.0; 4] } };
    let form = Form::new(FormId::fresh(), Pose::at(100.0, 100.0), FormShape::Basic(shape));
    (w.piece, w.form) = (PieceId::fresh(), form.id);
    let fill = FillId::fresh();
    w.edit(Edit::AddWindow { piece: w.piece, form, fill });
    w.edit(Edit::RemoveFill { piece: w.piece, fill });
    w.edit(Edit::FillWithPhoto { piece: w.piece, fill: FillId::fresh(), photo: "a".into() });
    w
}

fn found(w: &Word) -> Vec<Finding> {
    proof(&w.sheet, &ProofTerms::of(&w.sheet), &w.library)
}

fn kinds(w: &Word) -> Vec<FindingKind> {
    found(w).iter().map(|f| f.kind).collect()
}

/// Makes what mends the only finding of a kind, and looks again.
fn mended(w: &mut Word, kind: FindingKind) {
    let all = found(w);
    let of_kind: Vec<_> = all.iter().filter(|f| f.kind == kind).collect();
    let [finding] = of_kind[..] else { panic!("{all:#?}") };
    let mend = finding.mend.clone().unwrap_or_else(|| panic!("{finding:?} has nothing that mends it"));
    mend.edits.into_iter().for_each(|edit| w.edit(edit));
    assert!(!kinds(w).contains(&kind), "{:#?}", found(w));
}

fn placement(w: &Word) -> (FillId, Placement) {
    let fill = &w.sheet.piece(w.piece).unwrap().window().unwrap().fills[0];
    let FillPaint::Photo(photo) = &fill.paint else { panic!("no photo") };
    (fill.id, photo.placement)
}

fn place(w: &mut Word, change: impl Fn(&mut Placement)) {
    let (fill, mut placement) = placement(w);
    change(&mut placement);
    w.edit(Edit::SetPlacement { piece: w.piece, fill, placement });
}

#[test]
fn a_sound_sheet_has_no_findings() {
    let w = boxed();
    assert_eq!(found(&w), []);
}

#[test]
fn what_shows_no_photo_is_measured_and_covered_again() {
    let mut w = boxed();
    // a strip of 3 mm along its left edge
    place(&mut w, |p| p.x += 3.0 + (p.scale * 600.0 - 30.0));
    let all = found(&w);
    assert!(all[0].severity == Severity::Wrong && all[0].sentence.starts_with("180 mm²"), "{}", all[0].sentence);
    let at = all[0].at.unwrap();
    assert!((at[0] - 70.0).abs() < 1e-6 && (at[2] - 73.0).abs() < 1e-6, "{at:?}");
    let middle = placement(&w).1.x;
    mended(&mut w, FindingKind::Uncovered);
    assert_eq!(placement(&w).1.x, middle, "it grows about its own middle");
    // one that lies elsewhere is brought back
    place(&mut w, |p| p.x += 900.0);
    mended(&mut w, FindingKind::Uncovered);
    // with a colour beneath it nothing is open
    place(&mut w, |p| p.x += 20.0);
    assert_eq!(kinds(&w), [FindingKind::Uncovered]);
    w.edit(Edit::AddFill {
        piece: w.piece,
        fill: Fill::new(FillId::fresh(), FillPaint::Plain(Paint::colour(Colour::CREAM))),
    });
    assert_eq!(found(&w), []);
}

#[test]
fn pixels_are_counted_for_the_distance() {
    let mut w = boxed();
    let terms = |distance| ProofTerms { distance, ..ProofTerms::of(&w.sheet) };
    // one minute of arc: 291 ppi at 30 cm, 87 at a metre
    assert_eq!([300.0, 1000.0].map(|d| terms(d).least_ppi().round()), [291.0, 87.0]);
    // 10 pixels a millimetre are 254 ppi
    place(&mut w, |p| p.scale = 0.1);
    let of = |w: &Word, distance| {
        let terms = ProofTerms { distance, ..ProofTerms::of(&w.sheet) };
        proof(&w.sheet, &terms, &w.library).first().map(|f| (f.kind, f.severity))
    };
    assert_eq!(of(&w, 300.0), Some((FindingKind::Coarse, Severity::Doubtful)));
    assert_eq!(of(&w, 400.0), None);
    place(&mut w, |p| p.scale = 0.3);
    assert_eq!(of(&w, 300.0), Some((FindingKind::Coarse, Severity::Wrong)));
}

#[test]
fn what_the_press_cannot_hold_is_found() {
    let mut w = boxed();
    let bar = |width: f64, height: f64, x: f64| {
        let shape = BasicShape { width, height, figure: Figure::Box { corners: [0.0; 4] } };
        Form::new(FormId::fresh(), Pose::at(x, 60.0), FormShape::Basic(shape))
    };
    // a speck, and a hair that hangs on the box
    w.edit(Edit::Opening { piece: w.piece, change: OpeningChange::AddForm { form: bar(0.1, 0.1, 60.0) } });
    w.edit(Edit::Opening { piece: w.piece, change: OpeningChange::AddForm { form: bar(0.1, 40.0, 90.0) } });
    place(&mut w, |p| p.scale *= 2.0);
    let all = found(&w);
    let of = |kind| all.iter().find(|f| f.kind == kind).map(|f| f.sentence.clone()).unwrap_or_default();
    assert!(of(FindingKind::Speck).starts_with("One part of “Box” is smaller"), "{all:#?}");
    assert!(of(FindingKind::Sliver).starts_with("One stretch of “Box” is narrower"), "{all:#?}");
    // the points of a star are no slivers, and letters have none
    let mut w = word();
    w.sheet.bleed = 3.0;
    let shape = BasicShape {
        width: 60.0,
        height: 60.0,
        figure: Figure::Star { points: 12, depth: 0.6, rounding: 0.0, fitted: false },
    };
    let form = Form::new(FormId::fresh(), Pose::at(100.0, 100.0), FormShape::Basic(shape));
    w.edit(Edit::AddWindow { piece: PieceId::fresh(), form, fill: FillId::fresh() });
    assert!(!kinds(&w).iter().any(|k| matches!(k, FindingKind::Speck | FindingKind::Sliver)), "{:#?}", found(&w));
    // a hairline becomes as thick as the press can hold
    let rim = Rim {
        width: 0.05,
        side: LineSide::Centre,
        paint: Paint::colour(Colour::INK),
        dashes: Vec::new(),
        round: false,
        over: false,
        off: false,
    };
    let mut w = boxed();
    w.edit(Edit::SetFinish { piece: w.piece, finish: Finish { rims: vec![rim].into(), ..Finish::default() } });
    mended(&mut w, FindingKind::Hairline);
    assert!(w.sheet.pieces[0].window().unwrap().finish.rims.values().all(|r| (r.width - 0.0882).abs() < 1e-4));
}

#[test]
fn the_cut_is_kept_clear_or_reached_beyond() {
    let mut w = boxed();
    let to = |w: &mut Word, x: f64| {
        w.edit(Edit::Transform { pieces: vec![w.piece], what: Grip::Both, by: [1.0, 0.0, 0.0, 1.0, x, 0.0] });
    };
    to(&mut w, -70.0);
    assert_eq!(kinds(&w), [FindingKind::NoBleed], "it ends at the cut");
    to(&mut w, -3.0);
    assert_eq!(found(&w), [], "it reaches through the bleed");
    w.edit(Edit::SetBleed { bleed: 0.0 });
    mended(&mut w, FindingKind::NoBleed);
    to(&mut w, -200.0);
    assert_eq!(kinds(&w), [FindingKind::BesideTheSheet]);
    // type near the cut, and type too small
    let mut w = word();
    w.sheet.bleed = 3.0;
    let em = |w: &Word| w.sheet.pieces[0].window().unwrap().opening.forms[0].letterings()[0].size;
    let by = 1.5 / em(&w);
    w.edit(Edit::Transform { pieces: vec![w.piece], what: Grip::Both, by: [by, 0.0, 0.0, by, 20.0, 20.0] });
    assert!(kinds(&w).contains(&FindingKind::SmallType), "an em of {} mm", em(&w));
    let shifted = inky_core::outline::shown_outline(&w.sheet, w.sheet.pieces[0].window().unwrap(), &w.library).unwrap();
    let left = kurbo::Shape::bounding_box(&*shifted.path).x0;
    let near = [1.0, 0.0, 0.0, 1.0, 2.0 - left, 0.0];
    w.edit(Edit::Transform { pieces: vec![w.piece], what: Grip::Both, by: near });
    assert!(kinds(&w).contains(&FindingKind::NearTheCut), "{:#?}", found(&w));
}

#[test]
fn pieces_that_are_of_no_use_are_named() {
    let mut w = boxed();
    let copy = PieceId::fresh();
    w.edit(Edit::CopyPiece { piece: w.piece, copy });
    mended(&mut w, FindingKind::IdenticalCopy);
    assert_eq!(w.sheet.pieces.len(), 1);
    w.edit(Edit::HidePiece { piece: w.piece, hidden: true });
    assert_eq!(kinds(&w), [FindingKind::Hidden], "nothing else is asked of it");
    mended(&mut w, FindingKind::Hidden);
    let credit = Credit { title: "Sea".into(), maker: "Ana".into(), licence: Licence::NotForResale };
    w.edit(Edit::SetCredit { of: "a".into(), credit: Some(credit) });
    assert_eq!(kinds(&w), [FindingKind::NotForResale]);
    let fill = placement(&w).0;
    w.edit(Edit::RemoveFill { piece: w.piece, fill });
    let all = kinds(&w);
    assert!(all.contains(&FindingKind::Empty) && !all.contains(&FindingKind::NotForResale), "{all:?}");
}

#[test]
fn the_same_thing_is_called_the_same() {
    let mut w = boxed();
    place(&mut w, |p| p.x += 20.0);
    let key = found(&w)[0].key.clone();
    place(&mut w, |p| p.x += 2.0);
    assert_eq!(found(&w)[0].key, key);
    // photos that run behind all members have to cover all of them
    let layout = Layout::Row { count: 2, gap: 5.0, along: [1.0, 0.0] };
    place(&mut w, |p| p.x -= 22.0);
    let repeat = Repeat { layout, turn: 0.0, scale: 1.0, behind: false, looks: Members::default() };
    w.edit(Edit::SetRepeat { piece: w.piece, repeat: Some(repeat.clone()) });
    assert!(!kinds(&w).contains(&FindingKind::Uncovered));
    let behind = Repeat { behind: true, ..repeat };
    // one that is hidden shows nothing
    let hidden = MemberLook { member: 1, by: kurbo::Affine::IDENTITY.as_coeffs(), hidden: true, word: None };
    w.edit(Edit::SetRepeat { piece: w.piece, repeat: Some(Repeat { looks: vec![hidden].into(), ..behind.clone() }) });
    assert!(!kinds(&w).contains(&FindingKind::Uncovered));
    w.edit(Edit::SetRepeat { piece: w.piece, repeat: Some(behind) });
    mended(&mut w, FindingKind::Uncovered);
}

#[test]
fn a_finding_is_waved_through_by_its_key() {
    let mut w = boxed();
    w.edit(Edit::SetBleed { bleed: 0.0 });
    w.edit(Edit::SetBackground { colour: Colour::INK });
    let key = found(&w)[0].key.clone();
    assert_eq!(found(&w)[0].waved, None);
    w.edit(Edit::WaveFinding { finding: key.clone(), why: Some(" the printer adds it ".into()) });
    assert_eq!(found(&w)[0].waved.as_deref(), Some("the printer adds it"));
    // another thing that is wrong is another finding
    place(&mut w, |p| p.x += 20.0);
    let all = found(&w);
    assert!(all.iter().any(|f| f.kind == FindingKind::Uncovered && f.waved.is_none()), "{all:#?}");
    w.edit(Edit::WaveFinding { finding: key, why: None });
    assert!(found(&w).iter().all(|f| f.waved.is_none()) && w.sheet.waved.is_empty());
}

#[test]
fn what_is_waved_through_has_limits() {
    let mut w = boxed();
    let wave = |finding: String, why: &str| Edit::WaveFinding { finding, why: Some(why.into()) };
    assert_eq!(w.try_edit(wave("a".repeat(300), "")), Err(Refusal::LongName));
    assert_eq!(w.try_edit(wave("a".into(), &"b".repeat(300))), Err(Refusal::LongName));
    (0..limits::WAVED).for_each(|k| w.edit(wave(format!("no_bleed:{k}"), "")));
    assert_eq!(w.try_edit(wave("one more".into(), "")), Err(Refusal::TooManyWaved));
}

#[test]
fn spot_inks_that_come_out_as_process_colours_are_told() {
    let mut w = boxed();
    let red =
        Ink { id: InkId::fresh(), name: "Red".into(), mix: Mix::Colour { colour: Colour([200, 30, 30]) }, spot: true };
    w.edit(Edit::SetInk { ink: red.clone() });
    let of = |w: &Word| found(w).into_iter().filter(|f| f.kind == FindingKind::MixedInk).collect::<Vec<_>>();
    let gradient = |at: f64| {
        let stop = |at: f64, tint: Tint| Stop { at, tint, opacity: 1.0 };
        let (ink, other) = (Tint::Ink(red.id), Tint::Colour(Colour::INK));
        let stops = vec![stop(0.0, ink), stop(at, ink), stop(0.5, other), stop(1.0, other)];
        Paint::Gradient { gradient: Gradient { kind: GradientKind::Linear, stops }, vector: None }
    };
    let rimmed = |w: &mut Word, at: f64| {
        let mut finish = w.sheet.piece(w.piece).unwrap().window().unwrap().finish.clone();
        finish.rims = vec![Rim {
            width: 2.0,
            side: LineSide::Centre,
            paint: gradient(at),
            dashes: vec![],
            round: false,
            over: false,
            off: false,
        }]
        .into();
        w.edit(Edit::SetFinish { piece: w.piece, finish });
    };
    // they meet, and do not run into one another
    rimmed(&mut w, 0.5);
    assert_eq!(of(&w), []);
    rimmed(&mut w, 0.2);
    assert!(of(&w)[0].sentence.contains("mixes “Red”"), "{:?}", of(&w));
    // an ink that is mixed from the press's own anyway is not told
    w.edit(Edit::SetInk { ink: Ink { spot: false, ..red.clone() } });
    assert_eq!(of(&w), []);
}
