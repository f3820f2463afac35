//! The fonts that come with the application.

use inky_core::outline::{Face, FontCollection, FontError};

/// Every bundled font, ready for setting type.
///
/// # Errors
/// A bundled file that is no font.
pub fn bundled_fonts() -> Result<FontCollection, FontError> {
    let mut fonts = FontCollection::default();
    for font in inky_fonts::FACES {
        fonts.add(Face::new(font.id.into(), font.name, font.data)?);
    }
    Ok(fonts)
}
