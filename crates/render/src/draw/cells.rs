//! The cells of patterns.

use inky_core::scene::tree::{Fragment, PatternId};
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};
use vello_cpu::Pixmap;

/// A pattern of a fragment, at a scale: the fragment's place in memory, its number, the bits of the scale.
type CellName = (usize, usize, u64);

/// The cells of patterns as pictures, each drawn once.
#[derive(Default)]
pub(crate) struct PatternCells(Mutex<HashMap<CellName, Arc<Pixmap>>>);

impl PatternCells {
    /// A cell with so many pixels for one unit of the pattern's space: as it was drawn before, or drawn now. None where `draw` draws nothing.
    pub fn cell(
        &self,
        fragment: &Fragment,
        id: PatternId,
        scale: f64,
        draw: impl FnOnce() -> Option<Pixmap>,
    ) -> Option<Arc<Pixmap>> {
        let name = (std::ptr::from_ref(fragment) as usize, id.index(), scale.to_bits());
        let known = || self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if let Some(cell) = known().get(&name) {
            return Some(Arc::clone(cell));
        }
        let cell = Arc::new(draw()?);
        Some(Arc::clone(known().entry(name).or_insert(cell)))
    }
}
