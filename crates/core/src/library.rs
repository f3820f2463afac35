//! What a sheet refers to and does not hold itself: fonts, photos, mattes.

use crate::breakout::WorkingMatte;
use crate::outline::Shelf;
use crate::sheet::{Photo, PhotoId, SubjectId};
use std::collections::BTreeMap;
use std::sync::Arc;

/// Where edits and scenes look up what a sheet refers to.
pub trait Library {
    fn shelf(&self) -> &Shelf;
    /// What is known of a photo, its subject left out.
    fn photo(&self, id: &PhotoId) -> Option<Photo>;
    /// The working size of a subject's matte.
    fn matte(&self, id: &SubjectId) -> Option<Arc<WorkingMatte>>;
}

/// A library in memory.
#[derive(Clone, Default)]
pub struct Books {
    pub shelf: Arc<Shelf>,
    pub photos: BTreeMap<PhotoId, Photo>,
    pub mattes: BTreeMap<SubjectId, Arc<WorkingMatte>>,
}

impl Library for Books {
    fn shelf(&self) -> &Shelf {
        &self.shelf
    }

    fn photo(&self, id: &PhotoId) -> Option<Photo> {
        self.photos.get(id).cloned()
    }

    fn matte(&self, id: &SubjectId) -> Option<Arc<WorkingMatte>> {
        self.mattes.get(id).cloned()
    }
}
