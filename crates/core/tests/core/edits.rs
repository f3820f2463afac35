//! Edits that are taken and edits that are refused.

use inky_core::check::check_sheet;
use inky_core::edit::*;
use inky_core::library::LoadedLibrary;
use inky_core::outline::{Face, FontCollection};
use inky_core::sheet::*;
use std::sync::Arc;

fn library() -> LoadedLibrary {
    let mut fonts = FontCollection::default();
    for f in &inky_fonts::FACES[..2] {
        fonts.add(Face::new(f.id.into(), f.name, f.data).unwrap());
    }
    let photo = |width, height| Photo::new("a photo", width, height);
    LoadedLibrary {
        fonts: Arc::new(fonts),
        photos: [("wide".into(), photo(600, 400)), ("half".into(), photo(300, 200)), ("tall".into(), photo(200, 500))]
            .into(),
        ..LoadedLibrary::default()
    }
}

/// A sheet with one word.
pub struct Word {
    pub library: LoadedLibrary,
    pub sheet: Sheet,
    pub piece: PieceId,
    pub form: FormId,
}

pub fn word() -> Word {
    let (library, piece, form) = (library(), PieceId::fresh(), FormId::fresh());
    let add = Edit::AddLettering { piece, form, fill: FillId::fresh(), text: "KITE".into(), font: "anton".into() };
    let sheet = apply(&Sheet::new("Fair", 420.0, 297.0, Unit::Mm, 150.0), &add, &library).unwrap();
    Word { library, sheet, piece, form }
}

impl Word {
    pub fn try_edit(&self, edit: Edit) -> Result<Sheet, Refusal> {
        let after = apply(&self.sheet, &edit, &self.library);
        // an edit that is tried and one that is kept do the same
        assert_eq!(after, apply(&self.sheet, &edit, &self.library));
        after
    }

    pub fn edit(&mut self, edit: Edit) {
        self.sheet = self.try_edit(edit).unwrap();
    }

    pub fn bounds(&self) -> kurbo::Rect {
        let window = self.sheet.piece(self.piece).unwrap().window().unwrap();
        kurbo::Shape::bounding_box(&inky_core::outline::opening_path(&window.opening, &self.library).unwrap())
    }

    fn lettering(&self) -> Lettering {
        self.sheet.piece(self.piece).unwrap().window().unwrap().lettering(self.form).unwrap().clone()
    }

    fn placement(&self) -> Placement {
        self.sheet.piece(self.piece).unwrap().window().unwrap().photos().next().unwrap().1.placement
    }
}

#[test]
fn a_new_word_stands_in_the_middle() {
    let w = word();
    let b = w.bounds();
    assert!((b.center().x - 210.0).abs() < 1e-6 && (b.center().y - 148.5).abs() < 1e-6);
}

#[test]
fn the_grip_moves_the_opening_the_fill_or_both() {
    let mut w = word();
    w.edit(Edit::FillWithPhoto { piece: w.piece, fill: FillId::fresh(), photo: "wide".into() });
    let by = Similarity { a: 1.0, b: 0.0, dx: 12.0, dy: -5.0 };
    let (b0, p0) = (w.bounds(), w.placement());
    for (what, opening, fill) in [(Grip::Opening, 1.0, 0.0), (Grip::Fill, 0.0, 1.0), (Grip::Both, 1.0, 1.0)] {
        let mut moved = Word { library: w.library.clone(), sheet: w.sheet.clone(), ..w };
        moved.edit(Edit::Move { piece: w.piece, what, by });
        assert!((moved.bounds().x0 - b0.x0 - 12.0 * opening).abs() < 1e-6, "{what:?}");
        assert!((moved.placement().x - p0.x - 12.0 * fill).abs() < 1e-6, "{what:?}");
    }
    // scaling about the middle of the word
    let c = b0.center();
    let by = Similarity { a: 0.5, b: 0.0, dx: c.x * 0.5, dy: c.y * 0.5 };
    w.edit(Edit::Move { piece: w.piece, what: Grip::Opening, by });
    assert!((w.bounds().width() - b0.width() * 0.5).abs() < 1e-3 && (w.bounds().center() - c).hypot() < 1e-3);
}

#[test]
fn a_photo_replaces_a_photo_and_covers_the_word() {
    let mut w = word();
    w.edit(Edit::FillWithPhoto { piece: w.piece, fill: FillId::fresh(), photo: "wide".into() });
    let placed = Placement { x: 111.0, turn: 9.0, ..w.placement() };
    let fill = w.sheet.piece(w.piece).unwrap().window().unwrap().photos().next().unwrap().0;
    w.edit(Edit::SetPlacement { piece: w.piece, fill, placement: placed });
    w.edit(Edit::FillWithPhoto { piece: w.piece, fill: FillId::fresh(), photo: "half".into() });
    assert_eq!(w.placement(), Placement { scale: placed.scale * 2.0, ..placed }, "same proportions keep the place");
    w.edit(Edit::FillWithPhoto { piece: w.piece, fill: FillId::fresh(), photo: "tall".into() });
    assert_eq!((w.placement().x, w.placement().turn), (111.0, 9.0), "another photo lies where the one before it lay");
    let fills = &w.sheet.piece(w.piece).unwrap().window().unwrap().fills;
    assert_eq!(fills.iter().filter(|f| matches!(f.paint, FillPaint::Photo(_))).count(), 1);
    // and covers all that it covered
    let wide = w.sheet.photos[&"wide".into()].clone();
    let covered = placed.affine(wide.width, wide.height);
    let now = w.placement().affine(200, 500).inverse() * covered;
    for (x, y) in [(0, 0), (wide.width, 0), (wide.width, wide.height), (0, wide.height)] {
        let p = now * kurbo::Point::new(f64::from(x), f64::from(y));
        assert!((-1e-6..=200.0 + 1e-6).contains(&p.x) && (-1e-6..=500.0 + 1e-6).contains(&p.y), "{p:?}");
    }
}

#[test]
fn refused_edits_say_why() {
    let w = word();
    let with = |f: fn(&mut Lettering)| {
        let mut lettering = w.lettering();
        f(&mut lettering);
        w.try_edit(Edit::SetLettering { piece: w.piece, form: w.form, lettering, fit: false })
    };
    assert_eq!(with(|l| l.text = " \n".into()), Err(Refusal::EmptyWord));
    assert!(with(|l| l.text = "凧".into()).unwrap_err().to_string().contains("no letter for “凧”"));
    assert_eq!(with(|l| l.text = "A".repeat(10_001)), Err(Refusal::TooMuchType));
    assert!(matches!(with(|l| l.size = f64::NAN), Err(Refusal::Number(_))));
    assert!(matches!(with(|l| l.tracking = 1e9), Err(Refusal::Number(_))));
    let by = Similarity { a: f64::INFINITY, b: 0.0, dx: 0.0, dy: 0.0 };
    assert!(matches!(w.try_edit(Edit::Move { piece: w.piece, what: Grip::Both, by }), Err(Refusal::Number(_))));
    let gone = PieceId::fresh();
    assert_eq!(w.try_edit(Edit::RemovePiece { piece: gone }), Err(Refusal::NoPiece));
    assert_eq!(
        w.try_edit(Edit::FillWithPhoto { piece: w.piece, fill: FillId::fresh(), photo: "none".into() }),
        Err(Refusal::NoPhoto)
    );
    let big = Edit::ResizeSheet { width: 5000.0, height: 5000.0, unit: Unit::Mm, ppi: 600.0 };
    assert_eq!(w.try_edit(big), Err(Refusal::SheetPixels));
    assert_eq!(w.try_edit(Edit::RenameSheet { name: "  ".into() }), Err(Refusal::NoName));
}

#[test]
fn locked_pieces_stay() {
    let mut w = word();
    w.edit(Edit::LockPiece { piece: w.piece, locked: true });
    let by = Similarity { a: 1.0, b: 0.0, dx: 1.0, dy: 0.0 };
    assert_eq!(w.try_edit(Edit::Move { piece: w.piece, what: Grip::Both, by }), Err(Refusal::Locked("KITE".into())));
    assert!(matches!(w.try_edit(Edit::RemovePiece { piece: w.piece }), Err(Refusal::Locked(_))));
    assert!(w.try_edit(Edit::LockPiece { piece: w.piece, locked: false }).is_ok());
}

#[test]
fn copies_stand_on_their_own_and_order_changes() {
    let mut w = word();
    let copy = PieceId::fresh();
    w.edit(Edit::CopyPiece { piece: w.piece, copy });
    assert_eq!(w.sheet.pieces.iter().map(|p| p.id).collect::<Vec<_>>(), [w.piece, copy]);
    let [window, twin] = [0, 1].map(|k| w.sheet.pieces[k].window().unwrap());
    assert_ne!(twin.opening.forms[0].id, w.form);
    assert_eq!(
        twin.opening.forms[0].pose, window.opening.forms[0].pose,
        "a copy lies in the place of what it is a copy of"
    );
    w.edit(Edit::OrderPiece { piece: copy, to: 0 });
    assert_eq!(w.sheet.pieces[0].id, copy);
    assert!(check_sheet(&w.sheet).is_ok());
    w.sheet.pieces[1].id = copy;
    assert!(check_sheet(&w.sheet).is_err());
}

#[test]
fn edits_have_names_and_survive_json() {
    let w = word();
    let lettering = Lettering { text: "KITES".into(), ..w.lettering() };
    let edit = Edit::SetLettering { piece: w.piece, form: w.form, lettering, fit: true };
    assert_eq!(edit.name(&w.sheet), "type “KITES”");
    let json = serde_json::to_string(&edit).unwrap();
    assert_eq!(serde_json::from_str::<Edit>(&json).unwrap(), edit);
    assert_eq!(w.lettering().text, "KITE");
    let change = OpeningChange::SetJoin { form: w.form, join: inky_core::sheet::Join::CutAway };
    let edit = Edit::Opening { piece: w.piece, change };
    let json = serde_json::to_string(&edit).unwrap();
    assert!(json.contains("\"edit\":\"opening\"") && json.contains("\"change\":\"set_join\""), "{json}");
    assert_eq!(serde_json::from_str::<Edit>(&json).unwrap(), edit);
}
