//! What a job is to do, and what it comes to.

use inky_core::cutout::Hints;
use inky_core::sheet::{PhotoId, SubjectId};
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
        kind: FileKind,
        ppi: f64,
        /// With the sheet's bleed on all sides.
        #[serde(default)]
        bleed: bool,
        /// A PDF has marks outside of the bleed: where to cut, how the plates lie on one another, and patches of colour.
        #[serde(default)]
        #[ts(optional, as = "Option<bool>")]
        marks: bool,
    },
}

/// The kinds of files.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum FileKind {
    Png,
    Jpeg,
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
    /// The ending of file names.
    pub fn ending(self) -> &'static str {
        match self {
            Self::Png => "png",
            Self::Jpeg => "jpg",
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
            Self::Svg => "image/svg+xml",
            Self::Pdf => "application/pdf",
            Self::Sheet => "application/json",
        }
    }
}
