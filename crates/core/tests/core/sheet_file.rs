//! Reading sheet files.

use inky_core::sheet::*;
use inky_core::sheet::{Photo, Unit};

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
