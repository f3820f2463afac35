//! Own fonts.

use inky_core::outline::{Face, FontError, check_letters, read_font};
use std::io::Read;

fn bundled() -> Vec<u8> {
    inky_fonts::FACES[0].data.to_vec()
}

/// The font with other licence settings; readers do not look at table checksums.
fn with_fs_type(kind: u16) -> Vec<u8> {
    let mut data = bundled();
    let tables = u16::from_be_bytes([data[4], data[5]]) as usize;
    let record = (0..tables).map(|i| 12 + 16 * i).find(|&at| &data[at..at + 4] == b"OS/2").unwrap();
    let offset = u32::from_be_bytes(data[record + 8..record + 12].try_into().unwrap()) as usize;
    data[offset + 8..offset + 10].copy_from_slice(&kind.to_be_bytes());
    data
}

fn read(bytes: &[u8]) -> Result<Face, FontError> {
    read_font("own".into(), "folder/Night Market.ttf", bytes)
}

#[test]
fn a_font_is_called_by_the_name_within() {
    let face = read(&bundled()).unwrap();
    assert!(face.own && face.name.starts_with(inky_fonts::FACES[0].name), "{}", face.name);
    assert!(face.features().iter().any(|f| f == "kern"), "{:?}", face.features());
}

#[test]
fn licence_settings_are_kept_to() {
    for (kind, taken) in [(0, true), (2, false), (4, true), (8, true), (6, true), (0x200, false)] {
        assert_eq!(read(&with_fs_type(kind)).is_ok(), taken, "{kind:#x}");
    }
    let said = read(&with_fs_type(2)).err().map(|e| e.to_string()).unwrap_or_default();
    assert!(said.starts_with("“Night Market.ttf” forbids"), "{said}");
}

#[test]
fn what_is_no_font_is_refused() {
    let cut = &bundled()[..300];
    let mut bomb = b"wOF2".to_vec();
    bomb.resize(48, 0xff);
    for wrong in [&b""[..], b"<svg/>", &bomb] {
        assert_eq!(read(wrong).err(), Some(FontError::Unreadable("Night Market.ttf".into())));
    }
    assert_eq!(read(cut).err(), Some(FontError::NoOutlines("Night Market.ttf".into())));
}

/// A WOFF2 file of one table that packs `zeros` bytes and says that it packs `says`.
fn packed(says: u32, zeros: u64) -> Vec<u8> {
    let mut tables = Vec::new();
    let quick = brotli::enc::BrotliEncoderParams { quality: 1, ..Default::default() };
    brotli::BrotliCompress(&mut std::io::repeat(0).take(zeros), &mut tables, &quick).unwrap();
    let mut file = b"wOF2\0\x01\0\0".to_vec();
    file.resize(48, 0);
    file[13] = 1;
    // the table OS/2, and its length in groups of seven bits
    file.push(6);
    file.extend((0..5).rev().map(|k| (says >> (7 * k)) as u8 & 0x7f | if k > 0 { 0x80 } else { 0 }));
    file.extend(tables);
    file
}

#[test]
fn a_packed_font_has_no_more_bytes_than_it_says() {
    // less than a mebibyte that unpacks to more than a font may have
    for bomb in [packed(1000, 40 << 20), packed(40 << 20, 40 << 20), packed(40, 20)] {
        assert!(bomb.len() < 1 << 20, "{}", bomb.len());
        assert_eq!(read(&bomb).err(), Some(FontError::Unreadable("Night Market.ttf".into())));
    }
}

#[test]
fn letters_that_call_one_another_without_end_are_refused() {
    // subroutines that call the next one four times each, eight deep
    let face = read(include_bytes!("../files/many-subroutines.otf")).unwrap();
    let said = check_letters(&face).expect_err("it was taken").to_string();
    assert_eq!(said, "“Nested Regular” has letters that take too much to be drawn.");
    for face in inky_fonts::FACES {
        assert_eq!(check_letters(&read(face.data).unwrap()), Ok(()), "{}", face.name);
    }
}
