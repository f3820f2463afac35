//! Changes to an opening: what they leave, what they refuse, and any number of them in any order.

use crate::edits::{Word, word};
use inky_core::check::check_sheet;
use inky_core::combine::{area, contains, parts};
use inky_core::edit::*;
use inky_core::library::LoadedLibrary;
use inky_core::outline::{opening_outline, opening_path};
use inky_core::sheet::*;
use kurbo::{Affine, Point, Shape};
use proptest::prelude::*;
use std::f64::consts::PI;

fn basic(figure: Figure, x: f64, y: f64, width: f64, height: f64) -> Form {
    Form::new(FormId::fresh(), Pose::at(x, y), FormShape::Basic(BasicShape { width, height, figure }))
}

fn disc(x: f64, y: f64, r: f64) -> Form {
    basic(Figure::Ellipse, x, y, 2.0 * r, 2.0 * r)
}

impl Word {
    /// A sheet whose only window has one form.
    fn of(form: Form) -> Self {
        let (piece, id) = (PieceId::fresh(), form.id);
        let mut sheet = word();
        sheet.edit(Edit::RemovePiece { piece: sheet.piece });
        sheet.edit(Edit::AddWindow { piece, form, fill: FillId::fresh() });
        Self { piece, form: id, ..sheet }
    }

    fn change(&mut self, change: OpeningChange) {
        self.sheet = self.try_change(change).unwrap();
    }

    fn try_change(&self, change: OpeningChange) -> Result<Sheet, Refusal> {
        self.try_edit(Edit::Opening { piece: self.piece, change })
    }

    fn add(&mut self, form: Form, join: Join) -> FormId {
        let id = form.id;
        self.change(OpeningChange::AddForm { form: Form { join, ..form } });
        id
    }

    fn opening(&self) -> &Opening {
        &self.sheet.piece(self.piece).unwrap().window().unwrap().opening
    }

    fn area(&self) -> f64 {
        area(&opening_path(self.opening(), &self.library).unwrap())
    }

    fn order(&self) -> Vec<FormId> {
        self.opening().forms.iter().map(|f| f.id).collect()
    }
}

#[test]
fn a_window_takes_in_another_one_where_it_is() {
    let mut sheet = Word::of(disc(40.0, 60.0, 20.0));
    let (other, form) = (PieceId::fresh(), disc(110.0, 60.0, 20.0));
    sheet.edit(Edit::AddWindow { piece: other, form: form.clone(), fill: FillId::fresh() });
    let take = |sheet: &Word, piece, other| {
        sheet.try_edit(Edit::TakeIn { piece, other, form: FormId::fresh(), join: Join::Add })
    };
    assert!(matches!(take(&sheet, sheet.piece, sheet.piece), Err(Refusal::WithinItself)));
    let both = take(&sheet, sheet.piece, other).unwrap();
    assert_eq!(both.pieces.len(), 1);
    let opening = both.pieces[0].window().unwrap().opening.clone();
    let path = opening_path(&opening, &sheet.library).unwrap();
    assert!(near(area(&path), 800.0 * PI) && near(path.bounding_box().x1, 130.0));
    // still a disc of its own, though not the same one
    assert!(opening.forms[1].shape == form.shape && opening.forms[1].id != form.id);
    // several of them are a list, joined among themselves
    let hole = Form { join: Join::CutAway, ..disc(110.0, 60.0, 10.0) };
    sheet.edit(Edit::Opening { piece: other, change: OpeningChange::AddForm { form: hole } });
    let opening = take(&sheet, sheet.piece, other).unwrap().pieces[0].window().unwrap().opening.clone();
    assert!(matches!(&opening.forms[1].shape, FormShape::List { forms } if forms.len() == 2));
    assert!(near(area(&opening_path(&opening, &sheet.library).unwrap()), 700.0 * PI));
    // a reshaped outline is taken in as it is seen; what is locked stays
    let grown =
        Edit::Opening { piece: other, change: OpeningChange::Reshape { grow: 5.0, rounding: 0.0, simplify: 0.0 } };
    sheet.edit(grown);
    let opening = take(&sheet, sheet.piece, other).unwrap().pieces[0].window().unwrap().opening.clone();
    assert!(near(opening_path(&opening, &sheet.library).unwrap().bounding_box().x1, 135.0));
    sheet.edit(Edit::LockPiece { piece: other, locked: true });
    assert!(matches!(take(&sheet, sheet.piece, other), Err(Refusal::Locked(_))));
}

fn near(a: f64, b: f64) -> bool {
    (a - b).abs() < 1e-4 * b.abs().max(1.0)
}

#[test]
fn forms_are_joined_switched_off_and_removed() {
    let whole = PI * 400.0;
    let mut w = Word::of(disc(100.0, 100.0, 20.0));
    assert!(near(w.area(), whole));
    let hole = w.add(disc(100.0, 100.0, 10.0), Join::CutAway);
    assert!(near(w.area(), whole * 0.75));
    w.change(OpeningChange::SetJoin { form: hole, join: Join::KeepShared });
    assert!(near(w.area(), whole * 0.25));
    w.change(OpeningChange::SwitchForm { form: hole, off: true });
    assert!(near(w.area(), whole));
    w.change(OpeningChange::RemoveForms { forms: vec![hole] });
    assert_eq!(w.order(), [w.form]);
    let last = OpeningChange::RemoveForms { forms: vec![w.form] };
    assert_eq!(w.try_change(last), Err(Refusal::LastForm));
    let twice = OpeningChange::AddForm { form: w.opening().forms[0].clone() };
    assert!(matches!(w.try_change(twice), Err(Refusal::Inconsistent(_))));
    assert_eq!(w.try_change(OpeningChange::SetJoin { form: hole, join: Join::Add }), Err(Refusal::NoPart));
}

#[test]
fn gathered_forms_stay_where_they_are_seen() {
    let mut w = Word::of(disc(60.0, 60.0, 20.0));
    let b = w.add(disc(90.0, 60.0, 20.0), Join::Add);
    let c = w.add(disc(75.0, 80.0, 12.0), Join::CutAway);
    let before = w.area();
    let list = FormId::fresh();
    w.change(OpeningChange::Gather { forms: vec![w.form, c], list });
    assert_eq!(w.order(), [list, b]);
    // the hole is cut out of the first disc alone now
    assert!(w.area() > before);
    // a turned list: what is moved into it stays where it is seen
    let turn = Affine::rotate_about(0.7, (70.0, 60.0));
    w.change(OpeningChange::Transform { forms: vec![list], by: turn.as_coeffs() });
    let (turned, at) = (w.area(), w.bounds());
    w.change(OpeningChange::OrderForm { form: b, into: Some(list), to: 2 });
    assert_eq!(w.order(), [list]);
    assert!((w.bounds().x1 - at.x1).abs() < 1e-3 && near(w.area(), turned), "{} and {turned}", w.area());
    w.change(OpeningChange::Spread { list });
    assert_eq!(w.order(), [w.form, c, b]);
    assert!(near(w.area(), turned));
}

#[test]
fn a_copy_has_identifiers_of_its_own() {
    let mut w = Word::of(disc(60.0, 60.0, 20.0));
    let b = w.add(disc(90.0, 60.0, 20.0), Join::Add);
    let (list, copy) = (FormId::fresh(), FormId::fresh());
    w.change(OpeningChange::Gather { forms: vec![w.form, b], list });
    w.change(OpeningChange::CopyForm { form: list, copy });
    assert_eq!(w.order(), [list, copy]);
    let FormShape::List { forms } = &w.opening().forms[1].shape else { unreachable!() };
    assert!(forms.iter().all(|f| f.id != w.form && f.id != b));
    assert!(check_sheet(&w.sheet).is_ok());
}

#[test]
fn transforms_scale_shapes_and_refuse_to_flatten() {
    let mut w = Word::of(basic(Figure::Box { corners: [0.0; 4] }, 100.0, 100.0, 40.0, 20.0));
    w.change(OpeningChange::Transform { forms: vec![], by: [2.0, 0.0, 0.0, 3.0, 0.0, 0.0] });
    assert!(near(w.area(), 40.0 * 20.0 * 6.0));
    let FormShape::Basic(shape) = &w.opening().forms[0].shape else { unreachable!() };
    assert!(near(shape.width, 80.0) && near(shape.height, 60.0), "{shape:?}");
    // a slant keeps the area, a mirror as well
    w.change(OpeningChange::Transform { forms: vec![w.form], by: [1.0, 0.0, 0.5, 1.0, 0.0, 0.0] });
    assert!(near(w.area(), 4800.0) && near(w.bounds().width(), 80.0 + 30.0));
    w.change(OpeningChange::Transform { forms: vec![w.form], by: [-1.0, 0.0, 0.0, 1.0, 500.0, 0.0] });
    assert!(near(w.area(), 4800.0));
    for by in [[0.0; 6], [1.0, 0.0, 2.0, 0.0, 0.0, 0.0], [f64::NAN, 0.0, 0.0, 1.0, 0.0, 0.0]] {
        let flat = OpeningChange::Transform { forms: vec![], by };
        assert!(matches!(w.try_change(flat), Err(Refusal::Number(_))), "{by:?}");
    }
}

#[test]
fn cells_keep_their_state_when_forms_move() {
    let mut w = Word::of(disc(100.0, 100.0, 20.0));
    let b = w.add(disc(120.0, 100.0, 20.0), Join::Add);
    let leave = |cover: Vec<FormId>| CellChoice { cover, taken: false };
    w.change(OpeningChange::SetCells { cells: vec![leave(vec![w.form]), leave(vec![b])] });
    let leaf = |d: f64| 2.0 * 400.0 * (d / 40.0).acos() - d / 2.0 * (1600.0 - d * d).sqrt();
    assert!(near(w.area(), leaf(20.0)), "{} and {}", w.area(), leaf(20.0));
    w.change(OpeningChange::Transform { forms: vec![b], by: [1.0, 0.0, 0.0, 1.0, 8.0, 0.0] });
    assert!(near(w.area(), leaf(28.0)));
    // a choice about a form that is gone is no longer there
    w.change(OpeningChange::RemoveForms { forms: vec![b] });
    assert!(near(w.area(), 0.0) || near(w.area(), PI * 400.0));
}

#[test]
fn baked_forms_keep_their_outline_and_step_inside() {
    let mut w = word();
    let (b, n) = (w.bounds(), w.area());
    w.change(OpeningChange::Bake { form: w.form });
    assert!(near(w.area(), n) && (w.bounds().x0 - b.x0).abs() < 1e-6);
    assert!(matches!(w.opening().forms[0].shape, FormShape::Contour(_)));

    let mut w = Word::of(disc(100.0, 100.0, 20.0));
    w.change(OpeningChange::StepInside { form: w.form, by: 2.0 });
    assert!((w.area() - PI * 324.0).abs() < 0.5, "{}", w.area());
    w.change(OpeningChange::StepInside { form: w.form, by: -3.0 });
    assert!((w.area() - PI * 441.0).abs() < 1.0, "{}", w.area());
    assert_eq!(w.try_change(OpeningChange::StepInside { form: w.form, by: 30.0 }), Err(Refusal::NothingLeft));

    let hole = w.add(disc(100.0, 100.0, 5.0), Join::CutAway);
    let (both, one) = (w.area(), FormId::fresh());
    w.change(OpeningChange::BakeAll { form: one });
    assert!(w.order() == [one] && near(w.area(), both) && w.opening().form(hole).is_none());
}

#[test]
fn an_opening_is_grown_rounded_and_simplified() {
    let mut w = Word::of(basic(Figure::Box { corners: [0.0; 4] }, 100.0, 100.0, 40.0, 20.0));
    w.change(OpeningChange::Reshape { grow: 1.0, rounding: 0.0, simplify: 0.0 });
    assert!(near(w.area(), 42.0 * 22.0));
    w.change(OpeningChange::Reshape { grow: 0.0, rounding: 3.0, simplify: 0.0 });
    assert!((w.area() - (800.0 - (4.0 - PI) * 9.0)).abs() < 0.05);
    let wild = OpeningChange::Reshape { grow: f64::INFINITY, rounding: 0.0, simplify: 0.0 };
    assert!(matches!(w.try_change(wild), Err(Refusal::Number(_))));
}

#[test]
fn new_windows_stand_out_from_the_sheet() {
    let mut w = word();
    w.edit(Edit::SetBackground { colour: "#10222c".parse().unwrap() });
    let piece = PieceId::fresh();
    w.edit(Edit::AddWindow { piece, form: disc(50.0, 50.0, 9.0), fill: FillId::fresh() });
    let colour = |piece| match w.sheet.piece(piece).unwrap().window().unwrap().fills[0].paint {
        inky_core::sheet::FillPaint::Plain(inky_core::sheet::Paint::Colour { colour }) => colour,
        _ => unreachable!(),
    };
    assert_eq!((colour(w.piece), colour(piece)), (Colour::INK, Colour::CREAM));
}

/// One step of a person who presses everything: a kind of change, and numbers to make it of.
#[derive(Debug, Clone)]
struct Step {
    kind: u8,
    pick: usize,
    other: usize,
    x: f64,
    y: f64,
}

fn step() -> impl Strategy<Value = Step> {
    (0..16_u8, 0..8_usize, 0..8_usize, -150.0..400.0, -150.0..400.0).prop_map(|(kind, pick, other, x, y)| Step {
        kind,
        pick,
        other,
        x,
        y,
    })
}

impl Step {
    fn change(&self, w: &Word) -> OpeningChange {
        fn all(forms: &[Form], ids: &mut Vec<FormId>) {
            for form in forms {
                ids.push(form.id);
                if let FormShape::List { forms } = &form.shape {
                    all(forms, ids);
                }
            }
        }
        let mut ids = Vec::new();
        all(&w.opening().forms, &mut ids);
        let id = |k: usize| ids[k % ids.len()];
        let (form, other) = (id(self.pick), id(self.other));
        let (x, y) = (self.x, self.y);
        match self.kind {
            0 => OpeningChange::AddForm { form: disc(x, y, 5.0 + self.pick as f64 * 9.0) },
            1 => OpeningChange::AddForm {
                form: basic(
                    Figure::Star { points: 3 + self.pick as u32, depth: 0.5, rounding: 0.2, fitted: false },
                    x,
                    y,
                    80.0,
                    50.0,
                ),
            },
            2 => {
                // crosses itself more often than not
                let nodes = [(x, y), (y, x), (50.0, x), (y, 80.0)].map(|(x, y)| Node::corner(x, y));
                let subpaths = vec![Subpath { nodes: nodes.into(), closed: true }];
                let contour = Contour { subpaths, even_odd: self.other.is_multiple_of(2) };
                let shape = FormShape::Contour(contour);
                OpeningChange::AddForm { form: Form::new(FormId::fresh(), Pose::default(), shape) }
            }
            3 => OpeningChange::AddWord {
                form: FormId::fresh(),
                text: "AIR".into(),
                font: "anton".into(),
                join: Join::DropShared,
            },
            4 => {
                let joins = [Join::Add, Join::CutAway, Join::KeepShared, Join::DropShared];
                OpeningChange::SetJoin { form, join: joins[self.other % 4] }
            }
            5 => OpeningChange::SwitchForm { form, off: x > 0.0 },
            6 => OpeningChange::RemoveForms { forms: vec![form] },
            7 => OpeningChange::CopyForm { form, copy: FormId::fresh() },
            8 => OpeningChange::OrderForm { form, into: (x > 100.0).then_some(other), to: self.pick },
            9 => OpeningChange::Gather { forms: vec![form, other], list: FormId::fresh() },
            10 => OpeningChange::Spread { list: form },
            11 => {
                OpeningChange::Transform { forms: vec![form], by: [x / 100.0, y / 200.0, 0.3, 1.0, x / 9.0, y / 9.0] }
            }
            12 => OpeningChange::SetCells { cells: vec![CellChoice { cover: vec![form], taken: x > 0.0 }] },
            13 => OpeningChange::Reshape { grow: x / 90.0, rounding: y.abs() / 90.0, simplify: 0.0 },
            14 => OpeningChange::StepInside { form, by: x / 90.0 },
            _ => OpeningChange::Bake { form },
        }
    }
}

proptest! {
    #![proptest_config(ProptestConfig { cases: 40, failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn whatever_is_pressed_leaves_a_sound_sheet_or_a_sentence(steps in prop::collection::vec(step(), 1..24)) {
        let mut w = Word::of(disc(150.0, 120.0, 40.0));
        for step in steps {
            let change = step.change(&w);
            let edit = Edit::Opening { piece: w.piece, change };
            prop_assert!(!edit.name(&w.sheet).is_empty());
            let json = serde_json::to_string(&edit).unwrap();
            prop_assert_eq!(serde_json::from_str::<Edit>(&json).unwrap(), edit.clone());
            match w.try_edit(edit) {
                Ok(sheet) => w.sheet = sheet,
                Err(refusal) => {
                    prop_assert!(refusal.to_string().ends_with('.'), "{}", refusal);
                    continue;
                }
            }
            prop_assert!(check_sheet(&w.sheet).is_ok());
            let json = serde_json::to_string(&w.sheet).unwrap();
            prop_assert_eq!(&serde_json::from_str::<Sheet>(&json).unwrap(), &w.sheet);
            match opening_path(w.opening(), &w.library) {
                Ok(path) => prop_assert!(path.is_finite() && path.bounding_box().width() < 1e5),
                Err(e) => prop_assert!(e.to_string().ends_with('.')),
            }
        }
    }
}

/// An ellipse that is open at its top goes straight up from its outermost points, all the way between them; elsewhere nothing changes.
#[test]
fn an_open_top_stays_in_line_with_the_outermost_points() {
    let closed = Opening { forms: vec![basic(Figure::Ellipse, 100.0, 100.0, 80.0, 60.0)], ..Opening::default() };
    let library = LoadedLibrary::default();
    let area = |o: &Opening| area(&opening_path(o, &library).unwrap()).abs();
    let with = |side, from, to| Opening { open: vec![OpenSide { side, from, to, far: 20.0 }], ..closed.clone() };
    let half = std::f64::consts::PI * 40.0 * 30.0 / 2.0;
    // half of it, and a box 80 mm wide that reaches 20 mm beyond its top
    for (side, box_) in
        [(Side::Top, 80.0 * 50.0), (Side::Bottom, 80.0 * 50.0), (Side::Left, 60.0 * 60.0), (Side::Right, 60.0 * 60.0)]
    {
        let open = with(side, 0.0, 1.0);
        assert!((area(&open) - half - box_).abs() < 0.6, "{side:?}: {}", area(&open) - half - box_);
        assert_eq!(parts(&opening_path(&open, &library).unwrap()).len(), 1);
    }
    let bounds = opening_path(&with(Side::Top, 0.0, 1.0), &library).unwrap().bounding_box();
    let off = [bounds.x0 - 60.0, bounds.x1 - 140.0, bounds.y0 - 50.0, bounds.y1 - 130.0];
    assert!(off.iter().all(|v| v.abs() < 1e-3), "{bounds:?}");
    // a stretch of it: only there
    let part = opening_path(&with(Side::Top, 0.5, 1.0), &library).unwrap();
    assert!(contains(&part, Point::new(120.0, 55.0), 0.01) && !contains(&part, Point::new(95.0, 55.0), 0.01));
    // two discs side by side: across the gap between them too
    let mut two = with(Side::Top, 0.0, 1.0);
    two.forms.push(basic(Figure::Ellipse, 200.0, 100.0, 80.0, 60.0));
    let both = opening_path(&two, &library).unwrap();
    assert!(contains(&both, Point::new(150.0, 60.0), 0.01));
    // nodes that the extension swallows were not simplified away
    let plain = opening_outline(&with(Side::Top, 0.0, 1.0), &library).unwrap();
    assert_eq!(plain.nodes_before, inky_core::combine::nodes(&plain.path));
    // beside something lower, the gap is open no farther down than the higher side goes
    let mut low = with(Side::Top, 0.0, 1.0);
    let plate = |x, y, height| basic(Figure::Box { corners: [0.0; 4] }, x, y, 80.0, height);
    low.forms = vec![plate(100.0, 100.0, 60.0), plate(200.0, 120.0, 20.0)];
    let gap = opening_path(&low, &library).unwrap();
    assert!(contains(&gap, Point::new(150.0, 65.0), 0.01) && contains(&gap, Point::new(165.0, 105.0), 0.01));
    assert!(!contains(&gap, Point::new(145.0, 75.0), 0.01) && !contains(&gap, Point::new(158.0, 105.0), 0.01));
}
