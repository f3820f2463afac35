//! What was computed is kept by the hash of what it depends on, so that it is computed once.

use kurbo::{BezPath, PathEl, Point};
use quick_cache::Weighter;
use quick_cache::sync::Cache;
use serde::Serialize;
use sha2::{Digest, Sha256};
use std::convert::Infallible;
use std::sync::Arc;

/// A hash of everything that a result depends on: the first half of a SHA-256.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Key([u8; 16]);

/// Puts a [`Key`] together, part by part.
#[derive(Clone, Default)]
pub struct KeyBuilder {
    hash: Sha256,
    /// What is added next, as JSON: serde writes it in many short pieces.
    buffer: Vec<u8>,
    /// Something could not be hashed: the key stands for nothing.
    broken: bool,
}

impl KeyBuilder {
    /// Adds a value as serde sees it, with its length before it, so that neighbours do not run into one another.
    pub fn with<T: Serialize + ?Sized>(mut self, value: &T) -> Self {
        self.buffer.clear();
        self.broken |= serde_json::to_writer(&mut self.buffer, value).is_err();
        self.hash.update((self.buffer.len() as u64).to_le_bytes());
        self.hash.update(&self.buffer);
        self
    }

    /// Adds the numbers of a path.
    pub fn with_path(mut self, path: &BezPath) -> Self {
        self.buffer.clear();
        for element in path.elements() {
            let (mark, points): (u8, &[Point]) = match element {
                PathEl::MoveTo(p) => (0, &[*p]),
                PathEl::LineTo(p) => (1, &[*p]),
                PathEl::QuadTo(a, p) => (2, &[*a, *p]),
                PathEl::CurveTo(a, b, p) => (3, &[*a, *b, *p]),
                PathEl::ClosePath => (4, &[]),
            };
            self.buffer.push(mark);
            self.buffer.extend(points.iter().flat_map(|p| [p.x, p.y]).flat_map(f64::to_le_bytes));
        }
        self.hash.update((self.buffer.len() as u64).to_le_bytes());
        self.hash.update(&self.buffer);
        self
    }

    /// Adds a key that was made before.
    pub fn with_key(mut self, key: Key) -> Self {
        self.hash.update(key.0);
        self
    }

    /// None where a part could not be hashed.
    pub fn finish(self) -> Option<Key> {
        let hash = self.hash.finalize();
        let mut key = [0; 16];
        key.copy_from_slice(&hash[..16]);
        (!self.broken).then_some(Key(key))
    }
}

/// How much memory a result takes, roughly.
pub trait Weight {
    /// Bytes.
    fn weight(&self) -> u64;
}

/// Results of one kind, up to so many bytes of them; those that were not asked for lately go first.
pub struct Memo<V: Weight>(Cache<Key, Arc<V>, ByWeight>);

#[derive(Clone)]
struct ByWeight;

impl<V: Weight> Weighter<Key, Arc<V>> for ByWeight {
    fn weight(&self, _: &Key, value: &Arc<V>) -> u64 {
        value.weight().max(1)
    }
}

impl<V: Weight> Memo<V> {
    /// Room for so many bytes.
    pub fn of(bytes: u64) -> Self {
        Self(Cache::with_weighter(1_000, bytes, ByWeight))
    }

    /// What is kept under a key.
    pub fn get(&self, key: Key) -> Option<Arc<V>> {
        self.0.get(&key)
    }

    /// Keeps a result, unless another thread has put it there meanwhile: then that one, so that all hold the same.
    pub fn put(&self, key: Key, value: V) -> Arc<V> {
        let value = Arc::new(value);
        let kept: Result<_, Infallible> = self.0.get_or_insert_with(&key, || Ok(Arc::clone(&value)));
        kept.unwrap_or(value)
    }
}
