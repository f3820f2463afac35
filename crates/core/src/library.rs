//! What a sheet refers to and does not hold itself: fonts, photos, mattes.

use crate::breakout::WorkingMatte;
use crate::outline::{Drawn, Shelf};
use crate::sheet::{DrawingId, Form, FormId, Photo, PhotoId, SubjectId};
use std::collections::BTreeMap;
use std::sync::Arc;

/// Where edits and scenes look up what a sheet refers to.
pub trait Library {
    fn shelf(&self) -> &Shelf;
    /// What is known of a photo, its subject left out.
    fn photo(&self, id: &PhotoId) -> Option<Photo>;
    /// The working size of a subject's matte.
    fn matte(&self, id: &SubjectId) -> Option<Arc<WorkingMatte>>;
    /// What an imported drawing comes to.
    fn drawing(&self, id: &DrawingId) -> Option<Arc<Drawn>>;
    /// A form beside the one that is being drawn, in the same list.
    fn beside(&self, _id: FormId) -> Option<&Form> {
        None
    }
}

/// A library for the forms of one list, which may refer to each other.
pub struct Among<'a> {
    pub library: &'a dyn Library,
    pub forms: &'a [Form],
}

impl Library for Among<'_> {
    fn shelf(&self) -> &Shelf {
        self.library.shelf()
    }

    fn photo(&self, id: &PhotoId) -> Option<Photo> {
        self.library.photo(id)
    }

    fn matte(&self, id: &SubjectId) -> Option<Arc<WorkingMatte>> {
        self.library.matte(id)
    }

    fn drawing(&self, id: &DrawingId) -> Option<Arc<Drawn>> {
        self.library.drawing(id)
    }

    fn beside(&self, id: FormId) -> Option<&Form> {
        self.forms.iter().find(|f| f.id == id)
    }
}

/// A library in memory.
#[derive(Clone, Default)]
pub struct Books {
    pub shelf: Arc<Shelf>,
    pub photos: BTreeMap<PhotoId, Photo>,
    pub mattes: BTreeMap<SubjectId, Arc<WorkingMatte>>,
    pub drawings: BTreeMap<DrawingId, Arc<Drawn>>,
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

    fn drawing(&self, id: &DrawingId) -> Option<Arc<Drawn>> {
        self.drawings.get(id).cloned()
    }
}
