//! Pieces that are copied from one sheet and put on another.

use super::edits::{Word, word};
use inky_core::check::check_sheet;
use inky_core::edit::*;
use inky_core::sheet::*;

/// A word with a photo in it, its rim in an ink; and a window in front of it that shows the word.
fn source() -> (Word, PieceId) {
    let mut w = word();
    let ink =
        Ink { spot: false, id: InkId::fresh(), name: "Dusk".into(), mix: Mix::Colour { colour: Colour([9, 8, 7]) } };
    let paint = Paint::Ink { ink: ink.id, vector: None };
    w.edit(Edit::SetInk { ink });
    w.edit(Edit::FillWithPhoto { piece: w.piece, fill: FillId::fresh(), photo: "wide".into() });
    w.edit(Edit::AddFill { piece: w.piece, fill: Fill::new(FillId::fresh(), FillPaint::Plain(paint)) });
    let (shape, other) = (BasicShape { figure: Figure::Ellipse, width: 80.0, height: 60.0 }, PieceId::fresh());
    let form = Form::new(FormId::fresh(), Pose::at(100.0, 100.0), FormShape::Basic(shape));
    w.edit(Edit::AddWindow { piece: other, form, fill: FillId::fresh() });
    let shown = FillPaint::Window(WindowFill { piece: w.piece, by: Similarity::default() });
    w.edit(Edit::AddFill { piece: other, fill: Fill::new(FillId::fresh(), shown) });
    (w, other)
}

fn taken(w: &Word, pieces: &[PieceId]) -> Box<Sheet> {
    let mut from = w.sheet.clone();
    from.pieces.retain(|p| pieces.contains(&p.id));
    Box::new(from)
}

fn empty() -> Word {
    Word { sheet: Sheet::new("Other", 300.0, 200.0, Unit::Mm, 150.0), ..word() }
}

#[test]
fn pieces_come_with_what_they_refer_to() {
    let (w, other) = source();
    let mut to = empty();
    let copies = vec![(w.piece, PieceId::fresh()), (other, PieceId::fresh())];
    to.edit(Edit::Paste { from: taken(&w, &[w.piece, other]), copies: copies.clone(), by: [5.0, 0.0] });
    check_sheet(&to.sheet).unwrap();
    assert_eq!(to.sheet.pieces.len(), 2);
    assert_eq!(to.sheet.inks, w.sheet.inks);
    assert!(to.sheet.photos.contains_key(&"wide".into()));
    let window = |at: usize| to.sheet.pieces[at].window().unwrap();
    assert_eq!(window(1).fills.iter().find_map(Fill::window), Some(copies[0].1), "the copy of what it showed");
    let x = |w: &Window| w.photos().next().unwrap().1.placement.x;
    assert!((x(window(0)) - x(w.sheet.pieces[0].window().unwrap()) - 5.0).abs() < 1e-9);
    // alone on a sheet that has it not, what it showed is left out; on its own sheet it is still shown
    let alone = Edit::Paste { from: taken(&w, &[other]), copies: vec![(other, PieceId::fresh())], by: [0.0; 2] };
    let mut bare = empty();
    bare.edit(alone.clone());
    assert!(bare.sheet.pieces[0].window().unwrap().fills.iter().all(|f| f.window().is_none()));
    let mut own = Word { sheet: w.sheet.clone(), ..w };
    own.edit(alone);
    assert_eq!(own.sheet.pieces[2].window().unwrap().fills.iter().find_map(Fill::window), Some(own.piece));
}

#[test]
fn what_cannot_be_pasted_says_why() {
    let (w, other) = source();
    let to = empty();
    let paste = |from: Box<Sheet>, copies| to.try_edit(Edit::Paste { from, copies, by: [0.0; 2] });
    let copies = || vec![(w.piece, PieceId::fresh())];
    let change = |change: fn(&mut Sheet)| {
        let mut from = taken(&w, &[w.piece]);
        change(&mut from);
        paste(from, copies())
    };
    assert_eq!(paste(taken(&w, &[other]), copies()), Err(Refusal::NoPiece));
    let id = PieceId::fresh();
    assert!(matches!(
        paste(taken(&w, &[w.piece, other]), vec![(w.piece, id), (other, id)]),
        Err(Refusal::Inconsistent(_))
    ));
    assert!(matches!(change(|s| s.photos.clear()), Err(Refusal::NoPhoto)), "a photo that it does not name");
    let unknown = change(|s| {
        let photo = s.photos.remove(&"wide".into()).unwrap();
        s.photos.insert("elsewhere".into(), photo);
    });
    assert_eq!(unknown, Err(Refusal::NoPhoto));
    assert!(matches!(change(|s| s.inks.clear()), Err(Refusal::NoInk)), "an ink that is on neither sheet");
    let far = |s: &mut Sheet| s.pieces[0].window_mut().unwrap().opening.forms[0].pose.x = 1e9;
    assert!(matches!(change(far), Err(Refusal::Number(_))));
    let deep = |s: &mut Sheet| s.pieces[0].name = Some("x".repeat(10_000));
    assert_eq!(change(deep), Err(Refusal::LongName));
    assert!(to.sheet.pieces.is_empty());
}
