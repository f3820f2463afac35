//! Why a file cannot be made.

use inky_core::cutout::Cancelled;

/// Why a file cannot be made.
#[derive(Debug, thiserror::Error)]
pub enum RenderError {
    #[error("The making of the file was cancelled.")]
    Cancelled,
    #[error("A photo of this sheet is missing, so the file would be incomplete.")]
    MissingPicture,
    #[error("A JPEG has at most 65,535 pixels a side and here up to 250 megapixels. Take fewer ppi, or a PNG.")]
    TooLargeForJpeg,
    #[error("A WebP has at most 16,384 pixels a side and here up to 100 megapixels. Take fewer ppi, or a PNG.")]
    TooLargeForWebp,
    #[error("In the inks of a press nothing is clear: take the sheet with its ground, or without a press.")]
    ClearOnPress,
    #[error("A page of a PDF is at most 5,080 mm long, marks and bleed included.")]
    TooLongForPdf,
    #[error("{0}")]
    BadPiece(String),
    #[error("This SVG cannot be drawn: {0}.")]
    BadSvg(String),
    #[error("This PDF cannot be read: {0}.")]
    BadPdf(String),
    #[error("This PDF has a password. Take it off, and bring the file in again.")]
    PdfWithPassword,
    #[error("The file could not be written: {0}.")]
    Encoding(String),
    #[error(
        "At {ppi:.0} ppi this file needs about {needed:.1} GB of memory, and {free:.1} GB are free. It works up to {works:.0} ppi."
    )]
    NoRoom {
        ppi: f64,
        /// Gigabytes.
        needed: f64,
        /// Gigabytes.
        free: f64,
        /// The largest resolution for which there is room.
        works: f64,
    },
}

impl From<Cancelled> for RenderError {
    fn from(_: Cancelled) -> Self {
        Self::Cancelled
    }
}

impl From<inky_press::ProfileError> for RenderError {
    fn from(e: inky_press::ProfileError) -> Self {
        Self::Encoding(e.to_string())
    }
}

impl From<png::EncodingError> for RenderError {
    fn from(e: png::EncodingError) -> Self {
        Self::Encoding(e.to_string())
    }
}
