//! Photos in which subjects are being looked for: what every stroke is read against is kept, so that it is answered at once.

use crate::cache::Cache;
use inky_core::cutout::{Draft, Hints, Standout, WorkingPhoto};
use inky_core::sheet::PhotoId;
use std::sync::Arc;

/// What a photo at its working size, and what a draft in it takes, about.
const WORKING: u64 = 8 << 20;

/// What is known of photos in which subjects are looked for.
pub(crate) struct SubjectCache {
    pub working: Cache<PhotoId, WorkingPhoto>,
    /// By photo and box.
    pub standouts: Cache<(PhotoId, String), Standout>,
    /// The last answer for a photo: the next one has most of it in common.
    pub drafts: Cache<PhotoId, Draft>,
}

impl Default for SubjectCache {
    fn default() -> Self {
        Self {
            working: Cache::new(72, |_| WORKING),
            standouts: Cache::new(36, |_| WORKING / 16),
            drafts: Cache::new(72, |_| WORKING),
        }
    }
}

/// The photo at its working size, and what stands out in it if that is known or not asked for.
pub(crate) type Known = (Arc<WorkingPhoto>, Option<Arc<Standout>>);

impl SubjectCache {
    /// What is known of a photo that is enough for a draft by these hints.
    pub fn known_of(&self, id: &PhotoId, hints: &Hints) -> Option<Known> {
        let working = self.working.get(id)?;
        let standout = self.standouts.get(&standout_key(id, hints));
        (standout.is_some() || !hints.looks()).then_some((working, standout))
    }
}

/// By what a standout is kept.
pub(crate) fn standout_key(id: &PhotoId, hints: &Hints) -> (PhotoId, String) {
    (id.clone(), hints.within.map_or(String::new(), |b| format!("{b:?}")))
}
