//! Fonts packed as WOFF2 (W3C Recommendation, *WOFF File Format 2.0*).

use crate::sheet::limits::FONT_BYTES;
use std::io::{Read, copy, sink};
use std::panic::catch_unwind;

/// Bytes of the header, before the table directory.
const HEADER: usize = 48;
/// Low bits of an entry's flags: which of the well-known tables it is.
const TAG: u8 = 0x3f;
/// The table's tag comes after the flags.
const OTHER_TAG: u8 = 0x3f;
const GLYF: u8 = 10;
const LOCA: u8 = 11;

/// The TTF or OTF file in a WOFF2 file. None for a file that is damaged, that unpacks to more than it announces or to more than a font may have,
/// and for a collection of several fonts.
pub(super) fn unpacked(file: &[u8]) -> Option<Vec<u8>> {
    let announced = u32::from_be_bytes(file.get(16..20)?.try_into().ok()?) as usize;
    let (packed, length) = packed_tables(file)?;
    if announced > FONT_BYTES || length > FONT_BYTES as u64 {
        return None;
    }
    // the unpacker itself takes whatever comes
    let unpacks_to = copy(&mut brotli::Decompressor::new(packed, 4096).take(length + 1), &mut sink()).ok()?;
    if unpacks_to != length {
        return None;
    }
    // it counts on sound tables, and panics on others
    let unpack = || woff2_patched::convert_woff2_to_ttf(&mut std::io::Cursor::new(file)).ok();
    catch_unwind(unpack).ok().flatten()
}

/// The packed tables, and how many bytes they have unpacked, as the table directory says.
fn packed_tables(file: &[u8]) -> Option<(&[u8], u64)> {
    if file.get(4..8)? == b"ttcf" {
        return None;
    }
    let tables = u16::from_be_bytes(file.get(12..14)?.try_into().ok()?);
    let (mut rest, mut length) = (file.get(HEADER..)?, 0);
    for _ in 0..tables {
        let (&flags, after) = rest.split_first()?;
        rest = if flags & TAG == OTHER_TAG { after.get(4..)? } else { after };
        let mut bytes = number(&mut rest)?;
        // these two are transformed by version 0, all others by the other versions
        let version = flags >> 6;
        if (version == 0) == matches!(flags & TAG, GLYF | LOCA) {
            bytes = number(&mut rest)?;
        }
        length += u64::from(bytes);
    }
    Some((rest, length))
}

/// A `UIntBase128`: seven bits a byte, the highest bit says that another one follows.
fn number(rest: &mut &[u8]) -> Option<u32> {
    let mut value: u32 = 0;
    for _ in 0..5 {
        let (&byte, after) = rest.split_first()?;
        *rest = after;
        value = value.checked_mul(128)? | u32::from(byte & 0x7f);
        if byte & 0x80 == 0 {
            return Some(value);
        }
    }
    None
}
