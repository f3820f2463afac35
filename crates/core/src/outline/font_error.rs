//! Why a file cannot be used as a font.

use crate::sheet::limits;

/// A file that cannot be used as a font.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum FontError {
    #[error("“{0}” is not a font that can be read. TTF, OTF and WOFF2 files can.")]
    Unreadable(String),
    #[error("“{0}” is larger than {limit} MiB.", limit = limits::FONT_BYTES >> 20)]
    TooManyBytes(String),
    #[error("“{0}” forbids in its licence settings that it is embedded in documents, and is not taken in.")]
    Restricted(String),
    #[error("“{0}” has letters that take too much to be drawn.")]
    TooCostly(String),
    #[error("“{0}” has no outlines that type could be cut from.")]
    NoOutlines(String),
}
