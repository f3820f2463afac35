//! Edits that name the members of a value that change.

use super::edits::word;
use inky_core::edit::*;
use inky_core::sheet::*;
use serde_json::json;

fn changes(all: serde_json::Value) -> Vec<MemberChange> {
    serde_json::from_value(all).unwrap()
}

#[test]
fn what_is_not_named_stays() {
    let mut w = word();
    let of = Amended::Finish { piece: w.piece };
    let rim = json!({ "width": 2.0, "side": "outside", "paint": { "kind": "colour", "colour": "#141b34" } });
    w.edit(Edit::Amend { of: of.clone(), changes: changes(json!([{ "op": "add", "path": "/rims", "value": [rim] }])) });
    let wider = json!([
        { "op": "replace", "path": "/rims/0/width", "value": 3.0 },
        { "op": "add", "path": "/rims/-", "value": rim },
        { "op": "add", "path": "/strength", "value": 0.5 },
    ]);
    w.edit(Edit::Amend { of: of.clone(), changes: changes(wider) });
    let finish = |w: &super::edits::Word| w.sheet.piece(w.piece).unwrap().window().unwrap().finish.clone();
    assert_eq!(finish(&w).rims.iter().map(|r| r.width).collect::<Vec<_>>(), [3.0, 2.0]);
    assert_eq!((finish(&w).strength, finish(&w).rims[0].side), (0.5, LineSide::Outside));
    let gone = json!([{ "op": "remove", "path": "/rims/0" }, { "op": "remove", "path": "/strength" }]);
    let edit = Edit::Amend { of, changes: changes(gone) };
    assert_eq!(edit.name(&w.sheet), "strength of the window");
    w.edit(edit);
    assert_eq!((finish(&w).rims.len(), finish(&w).rims[0].width, finish(&w).strength), (1, 2.0, 1.0));
}

#[test]
fn strokes_are_appended() {
    let mut w = word();
    let fill = w.sheet.piece(w.piece).unwrap().window().unwrap().fills[0].id;
    let of = Amended::Strokes { piece: w.piece };
    for x in [1.0, 2.0] {
        let stroke =
            json!({ "fill": fill, "subject": 0, "keep": true, "width": 9.0, "points": [[x, 5.0], [20.0, 5.0]] });
        let changes = changes(json!([{ "op": "add", "path": "/-", "value": stroke }]));
        w.edit(Edit::Amend { of: of.clone(), changes });
    }
    let painted = &w.sheet.piece(w.piece).unwrap().window().unwrap().breakout.painted;
    assert_eq!(painted.iter().map(|s| s.stroke.points[0][0]).collect::<Vec<_>>(), [1.0, 2.0]);
}

#[test]
fn a_font_in_a_change_is_found() {
    let w = word();
    let of = Amended::Lettering { piece: w.piece, form: w.form, fit: false };
    let edit = |value: serde_json::Value| Edit::Amend { of: of.clone(), changes: changes(json!([value])) };
    let font = edit(json!({ "op": "replace", "path": "/font", "value": "lobster" }));
    assert_eq!(font.fonts(), [FontId::from("lobster")]);
    assert_eq!(font.name(&w.sheet), "font");
    let deeper = edit(json!({ "op": "add", "path": "/spans", "value": [{ "font": "anton" }] }));
    assert_eq!(deeper.fonts(), [FontId::from("anton")]);
    assert_eq!(edit(json!({ "op": "replace", "path": "/text", "value": "font" })).fonts(), []);
}

#[test]
fn changes_that_do_not_fit_are_refused() {
    let w = word();
    let of = Amended::Finish { piece: w.piece };
    let refused = |of: &Amended, all: serde_json::Value| {
        w.try_edit(Edit::Amend { of: of.clone(), changes: changes(all) }).unwrap_err()
    };
    assert_eq!(refused(&of, json!([{ "op": "remove", "path": "/rims/0" }])), Refusal::Misfit);
    assert_eq!(refused(&of, json!([{ "op": "add", "path": "/rims", "value": 7 }])), Refusal::Misfit);
    assert_eq!(refused(&of, json!([{ "op": "replace", "path": "", "value": null }])), Refusal::Misfit);
    // another form in the place of this one
    let form = Amended::Form { piece: w.piece, form: w.form };
    assert_eq!(refused(&form, json!([{ "op": "replace", "path": "/id", "value": FormId::fresh() }])), Refusal::Misfit);
    // the rules hold for what comes out
    assert_ne!(refused(&of, json!([{ "op": "add", "path": "/strength", "value": 9 }])), Refusal::Misfit);
    assert_eq!(refused(&Amended::Finish { piece: PieceId::fresh() }, json!([])), Refusal::NoPiece);
    let many = vec![json!({ "op": "add", "path": "/strength", "value": 1 }); limits::CHANGES + 1];
    assert_eq!(refused(&of, many.into()), Refusal::TooManyChanges);
    // what could make much of little is not known
    let copy = json!([{ "op": "copy", "from": "", "path": "/rims" }]);
    assert!(serde_json::from_value::<Vec<MemberChange>>(copy).is_err());
}
