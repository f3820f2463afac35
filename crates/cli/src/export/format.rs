//! The kinds of files that are written.

use clap::ValueEnum;
use std::path::Path;

/// A kind of file, called as its name ends.
#[derive(Debug, Clone, Copy, PartialEq, ValueEnum)]
pub enum Format {
    Png,
    #[value(name = "jpg", alias = "jpeg")]
    Jpeg,
    #[value(name = "tif", alias = "tiff")]
    Tiff,
    Webp,
    Svg,
    Pdf,
}

impl Format {
    /// By the ending of a name.
    pub fn of(path: &Path) -> Option<Self> {
        Self::from_str(&path.extension()?.to_string_lossy(), true).ok()
    }

    /// What names end in.
    pub fn ending(self) -> &'static str {
        match self {
            Self::Png => "png",
            Self::Jpeg => "jpg",
            Self::Tiff => "tif",
            Self::Webp => "webp",
            Self::Svg => "svg",
            Self::Pdf => "pdf",
        }
    }

    pub fn has_opacity(self) -> bool {
        matches!(self, Self::Png | Self::Tiff | Self::Webp)
    }
}
