//! What two hands made of one sheet, put together: all of it, or a sentence about what both changed.

use super::edits::{Word, word};
use inky_core::cutout::SubjectStroke;
use inky_core::edit::*;
use inky_core::merge::{Conflict, MergeError, Part, merge};
use inky_core::sheet::*;
use proptest::prelude::*;

impl Word {
    fn after(&self, edits: &[Edit]) -> Sheet {
        edits.iter().fold(self.sheet.clone(), |sheet, edit| apply(&sheet, edit, &self.library).unwrap())
    }

    /// What both make of it, the same from either side.
    fn both(&self, mine: &[Edit], theirs: &[Edit]) -> Result<Sheet, MergeError> {
        let (mine, theirs) = (self.after(mine), self.after(theirs));
        let merged = merge(&self.sheet, &mine, &theirs);
        if let Err(MergeError::Conflict(conflict)) = &merged {
            assert_eq!(merge(&self.sheet, &theirs, &mine), Err(MergeError::Conflict(conflict.clone())));
        }
        merged
    }

    fn conflict(&self, mine: &[Edit], theirs: &[Edit]) -> Conflict {
        match self.both(mine, theirs) {
            Err(MergeError::Conflict(conflict)) => conflict,
            other => panic!("no conflict: {other:?}"),
        }
    }

    fn window(&self) -> &Window {
        self.sheet.piece(self.piece).unwrap().window().unwrap()
    }

    fn fill(&self) -> FillId {
        self.window().fills[0].id
    }

    fn finish(&self, how: impl Fn(&mut Finish)) -> Edit {
        let mut finish = self.window().finish.clone();
        how(&mut finish);
        Edit::SetFinish { piece: self.piece, finish }
    }

    fn paint(&self, more: &[f64]) -> Edit {
        let stroke = |x: f64| BreakoutStroke {
            fill: self.fill(),
            subject: 1,
            stroke: SubjectStroke::new(true, 9.0, vec![[x, 5.0], [x + 20.0, 5.0]]),
        };
        let mut strokes = self.window().breakout.painted.clone();
        strokes.extend(more.iter().map(|x| stroke(*x)));
        Edit::PaintBreakout { piece: self.piece, strokes }
    }
}

fn rim(width: f64) -> Rim {
    serde_json::from_value(serde_json::json!({
        "width": width, "side": "outside", "paint": { "kind": "colour", "colour": "#141b34" }, "round": false, "over": false
    }))
    .unwrap()
}

fn shadow() -> Shadow {
    serde_json::from_value(serde_json::json!({
        "place": "behind", "tint": { "colour": "#141b34" }, "strength": 0.5, "angle": 60, "distance": 5, "spread": 0, "size": 6
    }))
    .unwrap()
}

fn shift(dx: f64, dy: f64) -> Similarity {
    Similarity { a: 1.0, b: 0.0, dx, dy }
}

#[test]
fn what_only_one_side_changed_is_taken_from_it() {
    let mut w = word();
    // in one finish, which was plain before
    let both = w.both(&[w.finish(|f| f.rims.push(rim(2.0)))], &[w.finish(|f| f.shadows.push(shadow()))]).unwrap();
    let finish = &both.piece(w.piece).unwrap().window().unwrap().finish;
    assert_eq!((finish.rims.len(), finish.shadows.len()), (1, 1));
    // a rim that both add is two rims, and the one there before is changed by one side alone
    w.edit(w.finish(|f| f.rims.push(rim(2.0))));
    let both = w.both(&[w.finish(|f| f.rims[0].width = 3.0)], &[w.finish(|f| f.rims.push(rim(5.0)))]).unwrap();
    let widths: Vec<f64> = both.piece(w.piece).unwrap().window().unwrap().finish.rims.iter().map(|r| r.width).collect();
    assert_eq!(widths, [3.0, 5.0]);
    // another member of one and the same rim
    let both =
        w.both(&[w.finish(|f| f.rims[0].width = 3.0)], &[w.finish(|f| f.rims[0].side = LineSide::Inside)]).unwrap();
    let merged = &both.piece(w.piece).unwrap().window().unwrap().finish.rims[0];
    assert_eq!((merged.width, merged.side), (3.0, LineSide::Inside));
    // form and fill, page and piece, name and place in the stack
    let colour = "#d7263d".parse().unwrap();
    let mine = [
        Edit::Move { piece: w.piece, what: Grip::Opening, by: shift(10.0, 0.0) },
        Edit::SetBackground { colour },
        Edit::NamePiece { piece: w.piece, name: "Title".into() },
    ];
    let theirs = [
        Edit::SetFillColour { piece: w.piece, fill: w.fill(), colour },
        Edit::RenameSheet { name: "Lamps".into() },
        Edit::HidePiece { piece: w.piece, hidden: true },
    ];
    let mut one_after_the_other = w.after(&theirs);
    for edit in &mine {
        one_after_the_other = apply(&one_after_the_other, edit, &w.library).unwrap();
    }
    assert_eq!(w.both(&mine, &theirs).unwrap(), one_after_the_other);
}

#[test]
fn members_of_lists_are_told_by_their_names() {
    let mut w = word();
    w.edit(w.finish(|f| f.rims.extend([1.0, 2.0, 3.0].map(rim))));
    let widths = |mine: Edit, theirs: Edit| {
        let both = w.both(&[mine], &[theirs]).unwrap();
        both.piece(w.piece).unwrap().window().unwrap().finish.rims.values().map(|r| r.width).collect::<Vec<_>>()
    };
    let wider = || w.finish(|f| f.rims[1].width = 9.0);
    let first_gone = || w.finish(|f| f.rims.retain(|r| r.width > 1.0));
    let turned = || w.finish(|f| f.rims.reverse());
    assert_eq!(widths(wider(), first_gone()), [9.0, 3.0]);
    assert_eq!(widths(wider(), turned()), [3.0, 9.0, 1.0]);
    assert_eq!(widths(first_gone(), turned()), [3.0, 2.0]);
    assert_eq!(widths(first_gone(), w.finish(|f| f.rims.push(rim(4.0)))), [2.0, 3.0, 4.0]);
    // who changes it and who takes it away
    let conflict = w.conflict(&[wider()], &[w.finish(|f| f.rims.retain(|r| r.width != 2.0))]);
    assert_eq!((conflict.what, conflict.gone), (Part::Finish, true));
}

#[test]
fn members_without_names_get_lasting_ones() {
    let read = |text: &str| serde_json::from_str::<Members<Rim>>(text).unwrap();
    let plain = r##"{ "width": 2, "side": "outside", "paint": { "kind": "colour", "colour": "#141b34" } }"##;
    let twice = read(&format!("[{plain}, {plain}]"));
    assert_ne!(twice[0].id, twice[1].id);
    assert_eq!(twice, read(&format!("[{plain}, {plain}]")));
    let kept = serde_json::to_string(&twice).unwrap();
    assert_eq!(twice, read(&kept));
    // so many equal ones are named as quickly as different ones
    let many = read(&format!("[{}]", vec![plain; 50_000].join(",")));
    assert_eq!(many.iter().map(|m| m.id).collect::<std::collections::HashSet<_>>().len(), 50_000);
    // the same name twice in one list
    let both = read(&kept.replace(&twice[1].id.0.to_string(), &twice[0].id.0.to_string()));
    assert_eq!(both[0].id, twice[0].id);
    assert_ne!(both[1].id, both[0].id);
}

#[test]
fn strokes_are_appended_on_both_sides() {
    let mut w = word();
    w.edit(w.paint(&[0.0]));
    let both = w.both(&[w.paint(&[100.0])], &[w.paint(&[200.0, 300.0])]).unwrap();
    let painted = &both.piece(w.piece).unwrap().window().unwrap().breakout.painted;
    let starts: Vec<f64> = painted.iter().map(|s| s.stroke.points[0][0]).collect();
    assert_eq!((starts.len(), starts[0]), (4, 0.0));
    assert!([100.0, 200.0, 300.0].iter().all(|x| starts.contains(x)), "{starts:?}");
    // taken back on one side, begun anew on the other one
    let none = Edit::PaintBreakout { piece: w.piece, strokes: Members::default() };
    let both = w.both(&[none], &[w.paint(&[50.0])]).unwrap();
    let painted = &both.piece(w.piece).unwrap().window().unwrap().breakout.painted;
    assert_eq!(painted.iter().map(|s| s.stroke.points[0][0]).collect::<Vec<_>>(), [50.0]);
}

#[test]
fn pieces_come_and_go_on_both_sides() {
    let mut w = word();
    let add = |piece: PieceId, text: &str| Edit::AddLettering {
        piece,
        form: FormId::fresh(),
        fill: FillId::fresh(),
        text: text.into(),
        font: "anton".into(),
    };
    let [a, b, c, d] = [(); 4].map(|()| PieceId::fresh());
    for (piece, text) in [(a, "A"), (b, "B")] {
        w.edit(add(piece, text));
    }
    let order = |sheet: &Sheet| sheet.pieces.iter().map(|p| p.id).collect::<Vec<_>>();
    let both = w.both(&[add(c, "C"), Edit::RemovePiece { piece: a }], &[add(d, "D")]).unwrap();
    let mut now = order(&both);
    assert_eq!(now[..2], [w.piece, b]);
    now[2..].sort();
    let mut new = [c, d];
    new.sort();
    assert_eq!(now[2..], new);
    // one side orders, the other one adds behind a piece
    let theirs = [add(c, "C"), Edit::OrderPiece { piece: c, to: 1 }];
    let both = w.both(&[Edit::OrderPiece { piece: b, to: 0 }], &theirs).unwrap();
    assert_eq!(order(&both), [b, w.piece, c, a]);
    // both order
    let conflict = w.conflict(&[Edit::OrderPiece { piece: b, to: 0 }], &[Edit::OrderPiece { piece: a, to: 0 }]);
    assert_eq!(conflict.what, Part::Order);
    // taken away on both sides; taken away and changed
    let gone = Edit::RemovePiece { piece: a };
    assert_eq!(order(&w.both(std::slice::from_ref(&gone), &[gone.clone(), add(c, "C")]).unwrap()), [w.piece, b, c]);
    let moved = Edit::Move { piece: a, what: Grip::Both, by: shift(5.0, 5.0) };
    let conflict = w.conflict(&[gone], &[moved]);
    assert_eq!((conflict.piece, conflict.gone), (Some(a), true));
    assert_eq!(conflict.place(&[&w.sheet]), "“A”");
}

#[test]
fn what_both_changed_is_said() {
    let mut w = word();
    let moved = |dx| Edit::Move { piece: w.piece, what: Grip::Both, by: shift(dx, 1.0) };
    let conflict = w.conflict(&[moved(4.0)], &[moved(9.0)]);
    assert_eq!(conflict.place(&[&w.sheet]), "the opening of “KITE”");
    // the same change twice is one
    assert_eq!(w.both(&[moved(4.0)], &[moved(4.0)]).unwrap(), w.after(&[moved(4.0)]));
    let coloured = |c: &str| Edit::SetFillColour { piece: w.piece, fill: w.fill(), colour: c.parse().unwrap() };
    let conflict = w.conflict(&[coloured("#d7263d")], &[coloured("#1f4e79")]);
    assert_eq!(conflict.place(&[&w.sheet]), "what fills the opening of “KITE”");
    // a photo in place of the colour that the other side changes: not half of each
    let photo = Edit::FillWithPhoto { piece: w.piece, fill: FillId::fresh(), photo: "wide".into() };
    assert!(matches!(w.both(&[photo], &[coloured("#d7263d")]), Err(MergeError::Conflict(_))));
    w.edit(w.finish(|f| f.rims.push(rim(2.0))));
    let width = |v: f64| w.finish(|f| f.rims[0].width = v);
    assert_eq!(w.conflict(&[width(3.0)], &[width(4.0)]).place(&[&w.sheet]), "the finish of “KITE”");
    let named = |n: &str| Edit::RenameSheet { name: n.into() };
    assert_eq!(w.conflict(&[named("Lamps")], &[named("Kites")]).place(&[&w.sheet]), "the name");
}

#[test]
fn together_both_keep_to_the_limits() {
    let w = word();
    let rims = |n: usize| w.finish(|f| f.rims.extend((0..n).map(|k| rim(1.0 + k as f64))));
    assert!(w.both(&[rims(10)], &[w.finish(|f| f.rims.extend((0..10).map(|k| rim(20.5 + k as f64))))]).is_ok());
    let refused = w.both(&[rims(15)], &[w.finish(|f| f.rims.extend((0..15).map(|k| rim(20.5 + k as f64))))]);
    assert_eq!(refused, Err(MergeError::Refused(Refusal::TooMuchFinish)));
    // a window shown by one that the other side takes away
    let mut w = word();
    let (a, b) = (w.piece, PieceId::fresh());
    w.edit(Edit::CopyPiece { piece: a, copy: b });
    let paint = FillPaint::Window(WindowFill { piece: b, by: shift(0.0, 0.0) });
    let shown = Edit::AddFill { piece: a, fill: Fill::new(FillId::fresh(), paint) };
    assert_eq!(w.both(&[shown], &[Edit::RemovePiece { piece: b }]), Err(MergeError::Refused(Refusal::NoPiece)));
}

/// Edits without what they are of: a kind, and two amounts between 0 and 1.
fn any_edits() -> impl Strategy<Value = Vec<(u8, f64, f64)>> {
    prop::collection::vec((0..7_u8, 0.01..1.0, 0.01..1.0), 1..6)
}

fn edits_of(w: &Word, piece: PieceId, made: &[(u8, f64, f64)]) -> Vec<Edit> {
    let fill = w.sheet.piece(piece).unwrap().window().unwrap().fills[0].id;
    let edit = |(kind, a, b): &(u8, f64, f64)| match kind {
        0 => Edit::Move { piece, what: Grip::Both, by: shift(100.0 * a, 100.0 * b) },
        1 => Edit::Move { piece, what: Grip::Opening, by: Similarity { a: *a, b: *b, dx: 0.0, dy: 0.0 } },
        2 => Edit::SetFillColour { piece, fill, colour: format!("#{:06x}", (a * 1e6) as u32).parse().unwrap() },
        3 => Edit::NamePiece { piece, name: format!("Piece {a}") },
        4 => Edit::SetFinish {
            piece,
            finish: Finish { rims: vec![rim(9.0 * a)].into(), strength: *b, ..Finish::default() },
        },
        5 => Edit::SetFinish {
            piece,
            finish: Finish { shadows: vec![shadow()].into(), strength: *b, ..Finish::default() },
        },
        _ => Edit::HidePiece { piece, hidden: *a > 0.5 },
    };
    made.iter().map(edit).collect()
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(64))]

    /// Edits of different pieces: put together they are what they are one after the other, in either order.
    #[test]
    fn different_pieces_never_meet(mine in any_edits(), theirs in any_edits()) {
        let mut w = word();
        let other = PieceId::fresh();
        w.edit(Edit::CopyPiece { piece: w.piece, copy: other });
        let (mine, theirs) = (edits_of(&w, w.piece, &mine), edits_of(&w, other, &theirs));
        let merged = w.both(&mine, &theirs).unwrap();
        prop_assert_eq!(&merged, &w.after(&[mine.clone(), theirs.clone()].concat()));
        prop_assert_eq!(&merged, &w.after(&[theirs, mine].concat()));
    }

    /// Whatever two sides do to one piece, what comes out keeps to the rules, or the piece is named that both changed.
    #[test]
    fn one_piece_stays_sound(mine in any_edits(), theirs in any_edits()) {
        let w = word();
        match w.both(&edits_of(&w, w.piece, &mine), &edits_of(&w, w.piece, &theirs)) {
            Ok(sheet) => prop_assert!(inky_core::check::check_sheet(&sheet).is_ok()),
            Err(MergeError::Conflict(conflict)) => prop_assert_eq!(conflict.piece, Some(w.piece)),
            Err(other) => prop_assert!(false, "{:?}", other),
        }
    }
}
