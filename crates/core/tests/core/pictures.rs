//! Photos without a mask, and windows that become such and are made of such; fills that are taken from other pieces.

use crate::edits::{Word, word};
use crate::tree::all_nodes;
use inky_core::breakout::WorkingMatte;
use inky_core::check::{Refusal, check_sheet};
use inky_core::edit::*;
use inky_core::outline::{basic_path, shown_outline};
use inky_core::scene::tree::{Fragment, Node, Source};
use inky_core::scene::{SceneBuilder, SceneMemo};
use inky_core::sheet::*;
use kurbo::{Rect, Shape};
use std::sync::Arc;

/// A word, and a photo that lies on the sheet.
fn with_picture() -> (Word, PieceId) {
    let mut w = word();
    let piece = PieceId::fresh();
    w.edit(Edit::AddPicture { piece, photo: "wide".into() });
    (w, piece)
}

fn window(w: &Word, piece: PieceId) -> &Window {
    w.sheet.piece(piece).unwrap().window().unwrap()
}

fn place(w: &Word, piece: PieceId) -> Placement {
    window(w, piece).photos().last().unwrap().1.placement
}

fn bounds(w: &Word, piece: PieceId) -> Rect {
    shown_outline(&w.sheet, window(w, piece), &w.library).unwrap().path.bounding_box()
}

fn fragment(w: &Word, piece: PieceId) -> Arc<Fragment> {
    let memo = SceneMemo::of(1 << 20);
    let builder = SceneBuilder::new(&w.sheet, &w.library, &memo);
    Arc::clone(&builder.piece(w.sheet.piece(piece).unwrap()).fragment)
}

fn disc(x: f64, y: f64) -> Form {
    let shape = BasicShape { width: 60.0, height: 60.0, figure: Figure::Ellipse };
    Form::new(FormId::fresh(), Pose::at(x, y), FormShape::Basic(shape))
}

fn change(w: &mut Word, piece: PieceId, change: OpeningChange) {
    w.edit(Edit::Opening { piece, change });
}

#[test]
fn a_picture_is_masked_by_what_is_drawn_on_it_and_freed_again() {
    let (mut w, piece) = with_picture();
    let (whole, at) = (bounds(&w, piece), place(&w, piece));
    assert!((whole.width() / whole.height() - 1.5).abs() < 1e-9, "the photo's own proportions");
    let form = disc(whole.center().x, whole.center().y);
    let id = form.id;
    change(&mut w, piece, OpeningChange::AddForm { form });
    assert!((bounds(&w, piece).width() - 60.0).abs() < 1e-3);
    change(&mut w, piece, OpeningChange::SwitchForm { form: id, off: true });
    assert_eq!(bounds(&w, piece), whole, "with its only form switched off it is seen whole");
    change(&mut w, piece, OpeningChange::SwitchForm { form: id, off: false });
    change(&mut w, piece, OpeningChange::RemoveForms { forms: vec![id] });
    assert_eq!((bounds(&w, piece), place(&w, piece)), (whole, at), "the photo stays where it was");
    let by = Similarity { a: 1.0, b: 0.0, dx: 5.0, dy: 7.0 };
    w.edit(Edit::Move { piece, what: Grip::Opening, by });
    assert_eq!(place(&w, piece), at.moved(&by), "a picture has no halves");
    // a word, set into the picture
    let word =
        OpeningChange::AddWord { form: FormId::fresh(), text: "SEA".into(), font: "anton".into(), join: Join::Add };
    change(&mut w, piece, word);
    assert!(bounds(&w, piece).width() <= whole.width());
    assert!(check_sheet(&w.sheet).is_ok());
}

#[test]
fn pictures_of_earlier_sheets_are_read() {
    let json = r#"{ "id": "0192a3b4-c5d6-7e8f-9a0b-1c2d3e4f5a6b", "kind": { "kind": "picture", "photo": "wide",
        "placement": { "x": 20.0, "y": 30.0, "scale": 0.1, "turn": 0.0, "mirrored": false } } }"#;
    let [piece, again]: [Piece; 2] = [0, 1].map(|_| serde_json::from_str(json).unwrap());
    assert_eq!(piece, again, "its fill is called the same whenever it is read");
    let window = piece.window().unwrap();
    assert!(!window.is_masked() && window.photos().next().unwrap().1.placement.x == 20.0);
    let written = serde_json::to_string(&piece).unwrap();
    assert_eq!(serde_json::from_str::<Piece>(&written).unwrap(), piece);
}

#[test]
fn a_subject_stands_alone() {
    let (mut w, piece) = with_picture();
    let matte =
        WorkingMatte::new(&image::GrayImage::from_fn(600, 400, |x, _| image::Luma([if x < 200 { 255 } else { 0 }])));
    w.library.mattes.insert("figure".into(), Arc::new(matte));
    let cutouts = |w: &Word| {
        let shown = fragment(w, piece);
        let is = |n: &&Node| matches!(n, Node::Picture(p) if matches!(p.source, Source::Cutout(_)));
        all_nodes(&shown).into_iter().filter(is).count()
    };
    let mut fill = window(&w, piece).fills[0].clone();
    let FillPaint::Photo(photo) = &mut fill.paint else { panic!("no photo") };
    photo.alone = true;
    w.edit(Edit::SetFill { piece, fill });
    assert_eq!(cutouts(&w), 0, "nothing is found yet: the whole photo is seen");
    w.edit(Edit::found("wide".into(), "figure".into()));
    assert_eq!(cutouts(&w), 1);
    // its shadow is that of the figure, not of the photo's frame
    let shadow = Shadow {
        place: ShadowPlace::Behind,
        tint: Tint::Colour(Colour::INK),
        strength: 0.5,
        angle: 45.0,
        distance: 3.0,
        size: 2.0,
        spread: 0.0,
        blend: Blend::Normal,
        off: false,
    };
    w.edit(Edit::SetFinish { piece, finish: Finish { shadows: vec![shadow].into(), ..Finish::default() } });
    assert_eq!(cutouts(&w), 2);
}

#[test]
fn a_picture_becomes_a_fill_and_the_first_ink_gives_way() {
    let (mut w, piece) = with_picture();
    let at = place(&w, piece);
    w.edit(Edit::TakeFills { piece: w.piece, of: piece });
    assert!(w.sheet.piece(piece).is_none(), "it is no piece of its own any more");
    assert_eq!((window(&w, w.piece).fills.len(), place(&w, w.piece)), (1, at));
    let masked = Edit::TakeFills { piece: w.piece, of: w.piece };
    assert_eq!(w.try_edit(masked), Err(Refusal::WithinItself));
    // a photo that is dropped on a new word takes the place of its ink as well; one that is laid over it does not
    let mut other = word();
    other.edit(Edit::FillWithPhoto { piece: other.piece, fill: FillId::fresh(), photo: "wide".into() });
    assert_eq!(window(&other, other.piece).fills.len(), 1);
    other.edit(Edit::AddPhoto { piece: other.piece, fill: FillId::fresh(), photo: "tall".into() });
    assert_eq!(window(&other, other.piece).fills.len(), 2);
}

#[test]
fn a_window_is_the_tile_of_another() {
    let (mut w, piece) = with_picture();
    let placement = Placement { x: 100.0, y: 100.0, scale: 0.2, turn: 0.0, mirrored: false, slant: 0.0, pull: None };
    let tile = |piece| {
        let tile =
            TileFill { motif: Motif::Window(piece), placement, step: [1.2, 1.2], offset: 0.5, tone: Tone::default() };
        Fill::new(FillId::fresh(), FillPaint::Tile(tile))
    };
    w.edit(Edit::AddFill { piece: w.piece, fill: tile(piece) });
    let again = all_nodes(&fragment(&w, w.piece)).into_iter().filter(|n| matches!(n, Node::Reuse(_))).count();
    assert!(again > 4, "{again} copies");
    assert_eq!(w.try_edit(Edit::AddFill { piece, fill: tile(w.piece) }), Err(Refusal::WithinItself));
    w.edit(Edit::RemovePiece { piece });
    assert_eq!(window(&w, w.piece).fills.len(), 1, "what it repeated is gone");
}

#[test]
fn shapes_fill_the_box_that_they_are_drawn_in() {
    let figures = [
        Figure::Triangle { lean: 0.3, rounding: 0.0 },
        Figure::Polygon { sides: 5, rounding: 0.0, fitted: true },
        Figure::Star { points: 5, depth: 0.5, rounding: 0.0, fitted: true },
        Figure::Star { points: 7, depth: 0.2, rounding: 0.0, fitted: true },
    ];
    for figure in figures {
        let shape = BasicShape { width: 90.0, height: 40.0, figure };
        let b = basic_path(&shape).bounding_box();
        assert!((b.width() - 90.0).abs() < 1e-6 && (b.height() - 40.0).abs() < 1e-6, "{shape:?}: {b:?}");
    }
}

#[test]
fn a_new_word_is_as_large_as_the_sheet_allows() {
    for text in ["I", "KITE", "LANTERN WALK AT NIGHT"] {
        let mut w = word();
        let plain = Lettering::plain(text, "anton".into(), 10.0);
        w.edit(Edit::SetLettering { piece: w.piece, form: w.form, lettering: plain, fit: true });
        let (b, room) = (w.bounds(), Rect::new(29.7, 29.7, 420.0 - 29.7, 297.0 - 29.7));
        assert!(room.inflate(0.01, 0.01).contains_rect(b), "{text}: {b:?}");
        let full = (b.width() - room.width()).abs() < 0.01 || (b.height() - room.height()).abs() < 0.01;
        assert!(full, "{text}: {b:?}");
    }
}
