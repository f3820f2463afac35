//! Font files that people bring in.

use super::Face;
use crate::sheet::{FontId, limits};
use skrifa::raw::TableProvider;
use skrifa::string::StringId;
use skrifa::{FontRef, MetadataProvider};

/// A file that cannot be used as a font.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum FontError {
    #[error("“{0}” is not a font that can be read. TTF, OTF and WOFF2 files can.")]
    Unreadable(String),
    #[error("“{0}” is larger than {limit} MiB.", limit = limits::FONT_BYTES >> 20)]
    TooManyBytes(String),
    #[error("“{0}” forbids in its licence settings that it is embedded in documents, and is not taken in.")]
    Restricted(String),
    #[error("“{0}” has no outlines that type could be cut from.")]
    NoOutlines(String),
}

/// Restricted licence embedding (OpenType `OS/2`, `fsType`).
const RESTRICTED: u16 = 0x0002;
/// Preview and print, editable: either of these takes the restriction back.
const ALLOWED: u16 = 0x0004 | 0x0008;
/// Only bitmaps may be embedded.
const BITMAPS_ONLY: u16 = 0x0200;

/// Reads a font file: TTF, OTF, or either of them packed as WOFF2. The face is called by the names within the file.
///
/// # Errors
/// A file that is no font, is too large, holds no outlines, or whose licence settings forbid embedding.
pub fn read_font(id: FontId, file_name: &str, bytes: &[u8]) -> Result<Face, FontError> {
    let shown: String = file_name.rsplit(['/', '\\']).next().unwrap_or("").chars().take(limits::NAME).collect();
    if bytes.len() > limits::FONT_BYTES {
        return Err(FontError::TooManyBytes(shown));
    }
    let unreadable = || FontError::Unreadable(shown.clone());
    let data = if bytes.starts_with(b"wOF2") { unpacked(bytes).ok_or_else(unreadable)? } else { bytes.to_vec() };
    let name = {
        let font = FontRef::new(&data).map_err(|_| unreadable())?;
        let kind = font.os2().map(|os2| os2.fs_type()).unwrap_or(0);
        if (kind & RESTRICTED != 0 && kind & ALLOWED == 0) || kind & BITMAPS_ONLY != 0 {
            return Err(FontError::Restricted(shown));
        }
        if font.outline_glyphs().format().is_none() {
            return Err(FontError::NoOutlines(shown));
        }
        full_name(&font).unwrap_or_else(|| shown.clone())
    };
    let face = Face::new(id, name, data).map_err(|_| unreadable())?;
    Ok(Face { own: true, ..face })
}

/// The TTF or OTF file in a WOFF2 file. The size that the file announces is checked before anything is unpacked.
fn unpacked(bytes: &[u8]) -> Option<Vec<u8>> {
    // WOFF2 header: totalSfntSize at byte 16
    let announced = u32::from_be_bytes(bytes.get(16..20)?.try_into().ok()?);
    if announced as usize > limits::FONT_BYTES {
        return None;
    }
    woff2_patched::convert_woff2_to_ttf(&mut std::io::Cursor::new(bytes)).ok()
}

fn full_name(font: &FontRef<'_>) -> Option<String> {
    let read = |id: StringId| {
        let name: String = font.localized_strings(id).english_or_first()?.chars().collect();
        let name: String = name.chars().filter(|c| !c.is_control()).take(80).collect();
        (!name.trim().is_empty()).then(|| name.trim().to_owned())
    };
    read(StringId::FULL_NAME).or_else(|| read(StringId::FAMILY_NAME))
}

#[cfg(test)]
mod tests {
    use super::*;

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
}
