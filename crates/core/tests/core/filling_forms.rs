//! Lettering and other forms that fill a window: changed as those of an opening are.

use crate::edits::{Word, word};
use inky_core::edit::*;
use inky_core::handles::PieceHandles;
use inky_core::outline::form_path;
use inky_core::scene::*;
use inky_core::sheet::*;
use kurbo::{Affine, Rect, Shape};

/// The word, with lettering in it.
fn filled() -> (Word, FillId, FormId) {
    let mut w = word();
    let (fill, form) = (FillId::fresh(), FormId::fresh());
    let lettering = Lettering::plain("in", "anton".into(), 20.0);
    let inside = Form::new(form, Pose::at(200.0, 150.0), FormShape::Lettering(lettering));
    let paint = FillPaint::Form(Box::new(FormFill { form: inside, paint: Paint::colour("#ffffff".parse().unwrap()) }));
    w.edit(Edit::AddFill { piece: w.piece, fill: Fill::new(fill, paint) });
    (w, fill, form)
}

fn inside(w: &Word) -> Form {
    w.sheet.piece(w.piece).unwrap().window().unwrap().filling_forms().next().unwrap().clone()
}

fn bounds(w: &Word) -> Rect {
    form_path(&inside(w), &[], &w.library).unwrap().bounding_box()
}

#[test]
fn a_form_that_fills_is_transformed_and_set_and_leaves_the_opening_alone() {
    let (mut w, _, form) = filled();
    let opening = w.bounds();
    let before = bounds(&w);
    let by = Affine::translate((30.0, -10.0)) * Affine::scale_non_uniform(1.0, 2.0);
    let change = OpeningChange::Transform { forms: vec![form], by: by.as_coeffs() };
    w.edit(Edit::Opening { piece: w.piece, change });
    let known = by.transform_rect_bbox(before);
    let now = bounds(&w);
    assert!((now.x0 - known.x0).abs() < 1e-6 && (now.y1 - known.y1).abs() < 1e-6, "{now:?} for {known:?}");

    let bent = Form { bend: Some(Bend { kind: BendKind::BowUp, amount: 0.5 }), ..inside(&w) };
    w.edit(Edit::Opening { piece: w.piece, change: OpeningChange::SetForm { form: bent.clone() } });
    assert_eq!(inside(&w), bent);
    assert_eq!(w.bounds(), opening, "the opening stays");

    // all forms of the opening, where none is named: not this one
    let all = OpeningChange::Transform { forms: vec![], by: [1.0, 0.0, 0.0, 1.0, 5.0, 0.0] };
    w.edit(Edit::Opening { piece: w.piece, change: all });
    assert_eq!(inside(&w), bent);
    assert!((w.bounds().x0 - opening.x0 - 5.0).abs() < 1e-9);
}

#[test]
fn what_cannot_be_drawn_is_refused_inside_too() {
    let (w, _, form) = filled();
    let flat = OpeningChange::Transform { forms: vec![form], by: [1.0, 0.0, 0.0, 0.0, 0.0, 0.0] };
    assert!(w.try_edit(Edit::Opening { piece: w.piece, change: flat }).is_err());
    let gone = OpeningChange::Transform { forms: vec![FormId::fresh()], by: [1.0, 0.0, 0.0, 1.0, 1.0, 0.0] };
    assert_eq!(w.try_edit(Edit::Opening { piece: w.piece, change: gone }), Err(Refusal::NoPart));
    let pull = Some([[3.0, 3.0], [0.0, 0.0], [0.0, 0.0], [0.0, 0.0]]);
    let crossed = Form { pose: Pose { pull, ..inside(&w).pose }, ..inside(&w) };
    assert!(w.try_edit(Edit::Opening { piece: w.piece, change: OpeningChange::SetForm { form: crossed } }).is_err());
    let mute = Lettering::plain(" ", "anton".into(), 20.0);
    let edit = |fit| Edit::SetLettering { piece: w.piece, form, lettering: mute.clone(), fit };
    assert!(w.try_edit(edit(true)).is_err());
}

#[test]
fn a_word_inside_is_as_large_as_the_opening_has_room_for() {
    let (mut w, _, form) = filled();
    for text in ["A", "LIGHT", "A LONG LINE INSIDE"] {
        let lettering = Lettering::plain(text, "anton".into(), 3.0);
        w.edit(Edit::SetLettering { piece: w.piece, form, lettering, fit: true });
        let (own, opening) = (bounds(&w), w.bounds());
        let room = opening.inset(-0.12 * opening.width().min(opening.height()));
        let room_left = room.inset(1e-6);
        assert!(room_left.contains(own.origin()) && room_left.contains(kurbo::Point::new(own.x1, own.y1)), "{own:?}");
        let share = (own.width() / room.width()).max(own.height() / room.height());
        assert!((share - 1.0).abs() < 1e-6, "{share}");
    }
    // as it is given, where it is not to be fitted
    let lettering = Lettering::plain("SMALL", "anton".into(), 3.0);
    let pose = inside(&w).pose;
    w.edit(Edit::SetLettering { piece: w.piece, form, lettering: lettering.clone(), fit: false });
    assert_eq!((inside(&w).shape, inside(&w).pose), (FormShape::Lettering(lettering), pose));
}

#[test]
fn its_handles_are_where_it_is() {
    let (mut w, fill, form) = filled();
    let turn = Affine::rotate_about(0.3, (200.0, 150.0)).as_coeffs();
    w.edit(Edit::Opening { piece: w.piece, change: OpeningChange::Transform { forms: vec![form], by: turn } });
    let handles = |w: &Word| {
        let scene = scene(&w.sheet, &w.library);
        PieceHandles::of(&w.sheet, &w.sheet.pieces[0], &scene.pieces[0], &w.library)
    };
    let all = handles(&w);
    assert_eq!((all.forms.len(), all.fill_forms.len()), (1, 1));
    let view = &all.fill_forms[0];
    assert_eq!((view.fill, view.view.form), (fill, form));
    let [a, b, ..] = view.view.corners;
    assert!(((b[1] - a[1]).atan2(b[0] - a[0]) - 0.3).abs() < 1e-9, "turned");
    let (own, outline) = (bounds(&w), kurbo::BezPath::from_svg(&view.view.outline).unwrap().bounding_box());
    assert!((own.x0 - outline.x0).abs() < 1e-3 && (own.y1 - outline.y1).abs() < 1e-3, "{own:?} {outline:?}");
    // switched off it has none
    let kept = w.sheet.piece(w.piece).unwrap().window().unwrap().fill(fill).unwrap().clone();
    w.edit(Edit::SetFill { piece: w.piece, fill: Fill { off: true, ..kept } });
    assert!(handles(&w).fill_forms.is_empty());
}
