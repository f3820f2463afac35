//! What is costly to compute and asked for again and again.

use std::collections::HashMap;
use std::hash::Hash;
use std::sync::{Arc, Mutex, PoisonError};

/// Entries that a cache holds at most.
const CACHED: usize = 64;

/// Things that were computed once, by their identifiers.
pub(crate) struct Cache<K, V>(Mutex<HashMap<K, Arc<V>>>);

impl<K, V> Default for Cache<K, V> {
    fn default() -> Self {
        Self(Mutex::default())
    }
}

impl<K: Hash + Eq + Clone, V> Cache<K, V> {
    pub(crate) fn get(&self, key: &K) -> Option<Arc<V>> {
        self.0.lock().unwrap_or_else(PoisonError::into_inner).get(key).cloned()
    }

    /// Past [`CACHED`] entries it starts anew.
    pub(crate) fn put(&self, key: &K, value: V) -> Arc<V> {
        let value = Arc::new(value);
        let mut held = self.0.lock().unwrap_or_else(PoisonError::into_inner);
        if held.len() >= CACHED {
            held.clear();
        }
        held.insert(key.clone(), Arc::clone(&value));
        value
    }
}
