//! Pictures, by reference: the tree holds no pixels of photos.

use super::{Role, ToneId};
use crate::photo::Pull;
use crate::sheet::{PhotoId, SubjectId};
use image::RgbaImage;
use kurbo::{Affine, Rect};
use std::sync::Arc;

/// A picture at its place.
#[derive(Debug, Clone, PartialEq)]
pub struct Picture {
    pub role: Role,
    pub source: Source,
    /// The rectangle that it fills, in its own space: pixels of the whole photo, millimetres for what is computed.
    pub frame: Rect,
    /// From its own space to that of the node's parent.
    pub transform: Affine,
    pub tone: Option<ToneId>,
}

/// Where the pixels of a picture come from.
#[derive(Debug, Clone, PartialEq)]
pub enum Source {
    Photo(PhotoSource<PhotoId>),
    /// A subject with its cleaned colours, on nothing.
    Cutout(PhotoSource<SubjectId>),
    /// The grain of paper, from 0 to 1.
    Paper {
        grain: f64,
    },
    /// Computed for the scene.
    Computed(Computed),
}

/// A photo, or something as large as a photo.
#[derive(Debug, Clone, PartialEq)]
pub struct PhotoSource<Id> {
    pub id: Id,
    /// Pixels of the whole photo.
    pub width: u32,
    /// Pixels of the whole photo.
    pub height: u32,
    /// Its corners are pulled: the frame is the bounds of the pulled corners.
    pub pull: Option<Pull>,
}

/// A picture that was computed for the scene, told by its content.
#[derive(Debug, Clone)]
pub struct Computed(pub Arc<RgbaImage>);

impl PartialEq for Computed {
    fn eq(&self, other: &Self) -> bool {
        Arc::ptr_eq(&self.0, &other.0) || self.0 == other.0
    }
}

impl Source {
    /// Pixels of the long side of the whole picture; None for what has no pixels of its own.
    pub fn long_side(&self) -> Option<u32> {
        match self {
            Self::Photo(PhotoSource { width, height, .. }) | Self::Cutout(PhotoSource { width, height, .. }) => {
                Some(*width.max(height))
            }
            Self::Paper { .. } | Self::Computed(_) => None,
        }
    }

    /// How far its corners are pulled.
    pub fn pull(&self) -> Option<&Pull> {
        match self {
            Self::Photo(PhotoSource { pull, .. }) | Self::Cutout(PhotoSource { pull, .. }) => pull.as_ref(),
            Self::Paper { .. } | Self::Computed(_) => None,
        }
    }
}
