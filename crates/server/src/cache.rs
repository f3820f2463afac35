//! What is costly to compute and asked for again and again.

use quick_cache::Weighter;
use quick_cache::sync;
use std::hash::Hash;
use std::sync::Arc;

/// Things that were computed once, by their identifiers, up to so many bytes of them; those that were not asked for lately go first.
pub(crate) struct Cache<K, V>(sync::Cache<K, Arc<V>, ByBytes<V>>);

struct ByBytes<V>(fn(&V) -> u64);

impl<V> Clone for ByBytes<V> {
    fn clone(&self) -> Self {
        Self(self.0)
    }
}

impl<K, V> Weighter<K, Arc<V>> for ByBytes<V> {
    fn weight(&self, _: &K, value: &Arc<V>) -> u64 {
        (self.0)(value).max(1)
    }
}

impl<K: Hash + Eq + Clone, V> Cache<K, V> {
    /// Room for so many mebibytes; `bytes` says how many bytes a thing takes.
    pub(crate) fn new(mebibytes: u64, bytes: fn(&V) -> u64) -> Self {
        Self(sync::Cache::with_weighter(256, mebibytes << 20, ByBytes(bytes)))
    }

    pub(crate) fn get(&self, key: &K) -> Option<Arc<V>> {
        self.0.get(key)
    }

    pub(crate) fn put(&self, key: &K, value: impl Into<Arc<V>>) -> Arc<V> {
        let value = value.into();
        self.0.insert(key.clone(), Arc::clone(&value));
        value
    }
}
