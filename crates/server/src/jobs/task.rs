//! What a job is to do, and what it comes to.

use inky_core::cutout::Hints;
use inky_core::sheet::{PhotoId, PieceId, Sheet, SubjectId};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Long work on a sheet.
#[derive(Debug, Clone, Serialize, Deserialize, TS)]
#[serde(tag = "task", rename_all = "snake_case")]
pub enum Task {
    /// Brings the subject of a photo to its full size, as the hints say.
    FindSubject {
        photo: PhotoId,
        #[serde(flatten)]
        #[ts(flatten)]
        hints: Box<Hints>,
    },
    /// Makes a file of the sheet as it is when the work begins.
    Deliver {
        #[serde(flatten)]
        #[ts(flatten)]
        order: FileOrder,
    },
}

/// Which file is made of a sheet.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct FileOrder {
    pub kind: FileKind,
    /// Pixels per inch.
    pub ppi: f64,
    /// With the sheet's bleed on all sides.
    #[serde(default)]
    pub bleed: bool,
    /// A PDF has marks outside of the bleed: where to cut, how the plates lie on one another, and patches of colour.
    #[serde(default)]
    #[ts(optional, as = "Option<bool>")]
    pub marks: bool,
    /// A PDF is a PDF/X-4 for the press of this name, a TIFF is in its inks.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub press: Option<String>,
    /// A PDF has the live sheet inside.
    #[serde(default)]
    #[ts(optional, as = "Option<bool>")]
    pub sheet_inside: bool,
    /// A PNG, TIFF or WebP has nothing beneath its pieces: it is clear there.
    #[serde(default)]
    #[ts(optional, as = "Option<bool>")]
    pub clear: bool,
    /// A clear picture ends where what is seen on it ends.
    #[serde(default)]
    #[ts(optional, as = "Option<bool>")]
    pub trimmed: bool,
    /// A PNG, TIFF or WebP shows these pieces alone; all of them where it is empty.
    #[serde(default)]
    #[ts(optional, as = "Option<Vec<PieceId>>")]
    pub pieces: Vec<PieceId>,
}

impl FileOrder {
    /// The sheet as it is in the file.
    pub fn of(&self, sheet: &Sheet) -> Sheet {
        let mut own = sheet.clone();
        // a file may have another resolution than the sheet
        if self.kind != FileKind::Svg {
            own.ppi = self.ppi;
        }
        if self.kind.has_opacity() && !self.pieces.is_empty() {
            own.pieces.iter_mut().for_each(|piece| piece.hidden |= !self.pieces.contains(&piece.id));
        }
        own
    }
}

/// The kinds of files.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum FileKind {
    Png,
    Jpeg,
    Tiff,
    Webp,
    Svg,
    Pdf,
    /// The sheet file, with everything in it.
    Sheet,
}

/// What came of a job.
#[derive(Debug, Clone, Serialize, Deserialize, TS)]
#[serde(tag = "outcome", rename_all = "snake_case")]
pub enum Outcome {
    Subject {
        subject: SubjectId,
    },
    File {
        name: String,
        hash: String,
        bytes: u64,
    },
    /// One sentence for a person.
    Failed {
        sentence: String,
    },
}

impl FileKind {
    /// Whether its pixels can be clear.
    pub fn has_opacity(self) -> bool {
        matches!(self, Self::Png | Self::Tiff | Self::Webp)
    }

    /// The ending of file names.
    pub fn ending(self) -> &'static str {
        match self {
            Self::Png => "png",
            Self::Jpeg => "jpg",
            Self::Tiff => "tif",
            Self::Webp => "webp",
            Self::Svg => "svg",
            Self::Pdf => "pdf",
            Self::Sheet => "json",
        }
    }

    /// The media type (RFC 6838).
    pub fn content_type(self) -> &'static str {
        match self {
            Self::Png => "image/png",
            Self::Jpeg => "image/jpeg",
            Self::Tiff => "image/tiff",
            Self::Webp => "image/webp",
            Self::Svg => "image/svg+xml",
            Self::Pdf => "application/pdf",
            Self::Sheet => "application/json",
        }
    }
}
