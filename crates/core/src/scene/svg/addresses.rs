//! Where the pictures of a scene are found.

use crate::scene::tree::Source;

/// Says where the pictures of a file are found.
pub trait PictureFiles: Sync {
    /// An address, or the picture itself as a `data:` address. `scale` is millimetres of the sheet for one unit of the picture's space.
    fn address(&self, source: &Source, scale: f64) -> String;
}

/// Says where the levels of a picture are found on the screen.
pub trait PictureLevels: Sync {
    fn levels(&self, source: &Source) -> Levels;
}

/// A picture at several sizes.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Levels {
    /// With `*` in the place of the side; without one there is only one level.
    pub address: String,
    /// Long sides in pixels, falling.
    pub sides: Vec<u32>,
}
