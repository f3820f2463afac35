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

    /// What names end in: what it is called on the command line.
    pub fn ending(self) -> String {
        self.to_possible_value().map(|value| value.get_name().to_owned()).unwrap_or_default()
    }

    pub fn has_opacity(self) -> bool {
        matches!(self, Self::Png | Self::Tiff | Self::Webp)
    }
}
