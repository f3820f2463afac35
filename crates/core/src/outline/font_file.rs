//! Font files that people bring in.

use super::font_collection::Face;
use super::font_error::FontError;
use super::woff2::unpacked;
use crate::sheet::{FontId, limits};
use skrifa::raw::TableProvider;
use skrifa::string::StringId;
use skrifa::{FontRef, MetadataProvider};

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

fn full_name(font: &FontRef<'_>) -> Option<String> {
    let read = |id: StringId| {
        let name: String = font.localized_strings(id).english_or_first()?.chars().collect();
        let name: String = name.chars().filter(|c| !c.is_control()).take(80).collect();
        (!name.trim().is_empty()).then(|| name.trim().to_owned())
    };
    read(StringId::FULL_NAME).or_else(|| read(StringId::FAMILY_NAME))
}
