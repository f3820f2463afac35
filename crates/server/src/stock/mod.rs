//! Sources of photos and drawings by others. One ships with the application ([`Shipped`]); a service somewhere else would be put in
//! its place by implementing [`Source`] with requests.

mod shipped;

pub use shipped::Shipped;

use inky_core::sheet::Licence;
use serde::{Deserialize, Serialize};
use std::pin::Pin;
use ts_rs::TS;

/// What an entry is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum StockKind {
    Photo,
    /// SVG.
    Drawing,
}

/// Something that a source has.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct StockEntry {
    pub id: String,
    pub title: String,
    pub kind: StockKind,
    pub words: Vec<String>,
    pub maker: String,
    pub licence: Licence,
    /// Pixels; none for drawings.
    #[serde(default)]
    #[ts(optional = nullable)]
    pub width: Option<u32>,
    #[serde(default)]
    #[ts(optional = nullable)]
    pub height: Option<u32>,
}

/// Why a source does not give what it is asked for.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum StockError {
    #[error("The stock drawer cannot be opened: {0}.")]
    Closed(String),
    #[error("The stock drawer has nothing by that name any longer. Search again.")]
    Unknown,
    #[error("The file of “{0}” is missing from the stock drawer. Take another one.")]
    Missing(String),
}

/// What an answer of a source is waited for as.
pub type Answer<'a, T> = Pin<Box<dyn Future<Output = Result<T, StockError>> + Send + 'a>>;

/// Where photos and drawings by others come from.
pub trait Source: Send + Sync {
    /// Entries to which every word of `words` fits, in the source's order; all of them for no words.
    fn search<'a>(&'a self, words: &'a str) -> Answer<'a, Vec<StockEntry>>;
    fn entry<'a>(&'a self, id: &'a str) -> Answer<'a, StockEntry>;
    /// The bytes of an entry's file.
    fn file<'a>(&'a self, id: &'a str) -> Answer<'a, Vec<u8>>;
}
