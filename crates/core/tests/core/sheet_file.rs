//! Reading sheet files.

use inky_core::sheet::*;
use inky_core::sheet_file::{Content, SheetFile, SheetFileError};
use serde_json::json;

fn file(photo: Content) -> Vec<u8> {
    let mut sheet = Sheet::new("Fair", 100.0, 100.0, Unit::Mm, 100.0);
    let facts = Photo::new("kite", 10, 10);
    sheet.photos.insert("kite".into(), facts);
    let mut file = SheetFile::new(sheet);
    file.photos.insert("kite".into(), photo);
    serde_json::to_vec(&file).unwrap()
}

#[test]
fn reads_what_it_writes() {
    let read = SheetFile::read(&file(Content::File("photos/kite.jpg".into()))).unwrap();
    assert_eq!(read.sheet.name, "Fair");
}

#[test]
fn names_no_file_outside_of_its_folder() {
    for wrong in ["../kite.jpg", "/etc/passwd", "a/../../b", ""] {
        let error = SheetFile::read(&file(Content::File(wrong.into()))).unwrap_err();
        assert_eq!(error, SheetFileError::Outside(wrong.into()));
    }
}

#[test]
fn what_is_no_sheet_file_is_refused() {
    for wrong in ["", "[]", "{\"format\":\"x\"}", "{"] {
        assert!(matches!(SheetFile::read(wrong.as_bytes()), Err(SheetFileError::Unreadable(_))), "{wrong}");
    }
    let text = String::from_utf8(file(Content::Data(String::new()))).unwrap();
    let newer = text.replace("\"version\":1", "\"version\":9");
    assert_eq!(SheetFile::read(newer.as_bytes()).unwrap_err(), SheetFileError::TooNew(9));
    let lost = text.replace("\"photos\":{\"kite\":{\"data\":\"\"}}", "\"photos\":{}");
    assert_eq!(SheetFile::read(lost.as_bytes()).unwrap_err(), SheetFileError::NoPhoto("kite".into()));
}

#[test]
fn fields_are_read_by_their_earlier_names() {
    let stops = json!([{ "at": 0.0, "tint": { "colour": "#141b34" }, "opacity": 1.0 }, { "at": 1.0, "tint": { "colour": "#f3c84b" }, "opacity": 1.0 }]);
    let line = json!({ "from": [1.0, 2.0], "to": [3.0, 4.0] });
    let fill = |kind: &str, vector: &str, follows: &str| {
        let paint = json!({ "kind": "gradient", "gradient": { kind: "linear", "stops": stops }, vector: line });
        json!({ "id": "00000000-0000-4000-8000-000000000001", "paint": paint, follows: true })
    };
    let old: Fill = serde_json::from_value(fill("way", "span", "rides")).unwrap();
    assert_eq!(old, serde_json::from_value(fill("kind", "vector", "follows_opening")).unwrap());
    assert!(old.follows_opening);
    let written = serde_json::to_string(&old).unwrap();
    assert!(["way", "span", "rides"].iter().all(|name| !written.contains(&format!("\"{name}\""))), "{written}");

    let bend: Bend = serde_json::from_value(json!({ "way": "bow_up", "amount": 0.5 })).unwrap();
    assert_eq!(bend, Bend { kind: BendKind::BowUp, amount: 0.5 });
    let node = json!({ "x": 0.0, "y": 0.0 });
    let contour: Contour = serde_json::from_value(json!({ "strands": [{ "nodes": [node], "closed": true }] })).unwrap();
    assert_eq!(contour.subpaths.len(), 1);
}
