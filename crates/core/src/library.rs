//! What a sheet refers to and does not hold itself: fonts, drawings, photos, mattes.

use crate::breakout::{FoundParts, Overhangs, WorkingMatte};
use crate::cutout::{Unwatched, Watch};
use crate::memo::Memo;
use crate::outline::{FontCollection, ImportedDrawing, OpeningOutline, OutlineSources};
use crate::sheet::{DrawingId, Photo, PhotoId, SubjectId};
use std::collections::BTreeMap;
use std::sync::Arc;

/// Where edits and scenes look up what a sheet refers to.
pub trait Library: OutlineSources {
    /// What is known of a photo, its subjects left out.
    fn photo(&self, id: &PhotoId) -> Option<Photo>;

    /// The working size of a subject's matte.
    fn matte(&self, id: &SubjectId) -> Option<Arc<WorkingMatte>>;

    /// Where overhangs that were found are kept.
    fn overhangs(&self) -> Option<&Memo<Overhangs>> {
        None
    }

    /// Where parts of subjects that were found are kept.
    fn parts(&self) -> Option<&Memo<FoundParts>> {
        None
    }
}

/// What was computed from forms and mattes, kept for those who ask again.
pub struct Memos {
    pub outlines: Memo<OpeningOutline>,
    pub overhangs: Memo<Overhangs>,
    pub parts: Memo<FoundParts>,
}

impl Default for Memos {
    fn default() -> Self {
        Self { outlines: Memo::of(64 << 20), overhangs: Memo::of(64 << 20), parts: Memo::of(32 << 20) }
    }
}

/// A library in memory: all that one sheet refers to.
#[derive(Clone, Default)]
pub struct LoadedLibrary {
    pub fonts: Arc<FontCollection>,
    pub photos: BTreeMap<PhotoId, Photo>,
    pub mattes: BTreeMap<SubjectId, Arc<WorkingMatte>>,
    pub drawings: BTreeMap<DrawingId, Arc<ImportedDrawing>>,
    pub memos: Arc<Memos>,
    /// Whoever waits for what is computed with it.
    pub watch: Option<Arc<dyn Watch + Send>>,
}

impl OutlineSources for LoadedLibrary {
    fn fonts(&self) -> &FontCollection {
        &self.fonts
    }

    fn drawing(&self, id: &DrawingId) -> Option<Arc<ImportedDrawing>> {
        self.drawings.get(id).cloned()
    }

    fn outlines(&self) -> Option<&Memo<OpeningOutline>> {
        Some(&self.memos.outlines)
    }

    fn watch(&self) -> &dyn Watch {
        match &self.watch {
            Some(watch) => &**watch,
            None => &Unwatched,
        }
    }
}

impl Library for LoadedLibrary {
    fn photo(&self, id: &PhotoId) -> Option<Photo> {
        self.photos.get(id).cloned()
    }

    fn matte(&self, id: &SubjectId) -> Option<Arc<WorkingMatte>> {
        self.mattes.get(id).cloned()
    }

    fn overhangs(&self) -> Option<&Memo<Overhangs>> {
        Some(&self.memos.overhangs)
    }

    fn parts(&self) -> Option<&Memo<FoundParts>> {
        Some(&self.memos.parts)
    }
}
