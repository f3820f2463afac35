//! What a sheet knows of a photo, and the subjects that were found in it.

use super::SubjectId;
use crate::cutout::Hints;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// What the sheet knows of a photo.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(from = "Kept")]
pub struct Photo {
    pub name: String,
    /// Width in pixels, upright.
    pub width: u32,
    /// Height in pixels, upright.
    pub height: u32,
    /// The subjects that were found in it, each of them let out by itself.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<PhotoSubject>>")]
    pub subjects: Vec<PhotoSubject>,
}

/// Something that a photo shows in front.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct PhotoSubject {
    /// Its own number among the subjects of the photo; what is let out of it refers to it.
    pub key: u32,
    pub name: String,
    pub matte: SubjectId,
    /// What it was found by, to be gone on with.
    #[serde(default)]
    pub hints: Hints,
}

/// A photo as sheets hold it, those of earlier versions with one subject at most included.
#[derive(Deserialize)]
struct Kept {
    name: String,
    width: u32,
    height: u32,
    #[serde(default)]
    subjects: Vec<PhotoSubject>,
    subject: Option<SubjectId>,
    hints: Option<Hints>,
}

impl From<Kept> for Photo {
    fn from(kept: Kept) -> Self {
        let mut subjects = kept.subjects;
        if let (Some(matte), true) = (kept.subject, subjects.is_empty()) {
            let hints = kept.hints.unwrap_or_default();
            subjects.push(PhotoSubject { key: 0, name: FIRST.into(), matte, hints });
        }
        Self { name: kept.name, width: kept.width, height: kept.height, subjects }
    }
}

/// What the first subject of a photo is called until it has a name.
pub const FIRST: &str = "Subject";

impl PhotoSubject {
    /// Whether it is the shadow of something on the ground.
    pub fn is_shadow(&self) -> bool {
        self.hints.shadow_alone
    }
}

impl Photo {
    /// The subjects in the order in which they are drawn: shadows lie beneath all else.
    pub fn drawn_subjects(&self) -> impl Iterator<Item = &PhotoSubject> {
        let of = |shadow: bool| self.subjects.iter().filter(move |s| s.is_shadow() == shadow);
        of(true).chain(of(false))
    }

    /// A photo in which nothing was looked for yet.
    pub fn new(name: impl Into<String>, width: u32, height: u32) -> Self {
        Self { name: name.into(), width, height, subjects: Vec::new() }
    }

    /// A subject by its number.
    pub fn subject(&self, key: u32) -> Option<&PhotoSubject> {
        self.subjects.iter().find(|s| s.key == key)
    }
}
