//! Parts that were found, kept for those who ask again: what is chosen of a subject changes none of them.

use super::placed::PlacedMatte;
use crate::grid::Grid;
use crate::memo::{KeyBuilder, Memo, Weight};
use crate::sheet::SubjectId;
use kurbo::BezPath;

/// The labels of parts at the working size, 0 for no part.
pub struct FoundParts(Grid<u16>);

impl Weight for FoundParts {
    fn weight(&self) -> u64 {
        (self.0.data.len() * size_of::<u16>()) as u64
    }
}

/// Keeps the parts of one subject where it lies.
#[derive(Clone)]
pub struct PartsKeeper<'a> {
    memo: &'a Memo<FoundParts>,
    of: KeyBuilder,
}

impl<'a> PartsKeeper<'a> {
    /// Keeps them in `memo`.
    pub fn new(id: &SubjectId, placed: &PlacedMatte, memo: &'a Memo<FoundParts>) -> Self {
        Self { memo, of: KeyBuilder::default().with(id).with(&placed.place()) }
    }

    /// The parts outside of an opening (sheet space; an empty one for all of the subject), as they were kept, or as `find` gives them.
    pub(super) fn labels(&self, opening: &BezPath, find: impl FnOnce() -> Grid<u32>) -> Grid<u32> {
        let key = self.of.clone().with_path(opening).finish();
        if let Some(known) = key.and_then(|key| self.memo.get(key)) {
            return known.0.map(u32::from);
        }
        let found = find();
        let most = found.data.iter().copied().max().unwrap_or(0);
        if let Some(key) = key.filter(|_| most <= u32::from(u16::MAX)) {
            self.memo.put(key, FoundParts(found.map(|l| l as u16)));
        }
        found
    }
}
