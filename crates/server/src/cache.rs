//! What is costly to compute and asked for again and again.

use std::collections::HashMap;
use std::hash::Hash;
use std::sync::{Arc, Mutex, PoisonError};

/// Entries that a cache holds, where they are small.
const CACHED: usize = 64;

/// Things that were computed once, by their identifiers.
pub(crate) struct Cache<K, V> {
    held: Mutex<HashMap<K, Arc<V>>>,
    most: usize,
}

impl<K, V> Default for Cache<K, V> {
    fn default() -> Self {
        Self::of(CACHED)
    }
}

impl<K, V> Cache<K, V> {
    /// A cache of `most` entries.
    pub(crate) fn of(most: usize) -> Self {
        Self { held: Mutex::default(), most }
    }
}

impl<K: Hash + Eq + Clone, V> Cache<K, V> {
    pub(crate) fn get(&self, key: &K) -> Option<Arc<V>> {
        self.held.lock().unwrap_or_else(PoisonError::into_inner).get(key).cloned()
    }

    /// Once it is full it starts anew.
    pub(crate) fn put(&self, key: &K, value: V) -> Arc<V> {
        let value = Arc::new(value);
        let mut held = self.held.lock().unwrap_or_else(PoisonError::into_inner);
        if held.len() >= self.most {
            held.clear();
        }
        held.insert(key.clone(), Arc::clone(&value));
        value
    }
}
