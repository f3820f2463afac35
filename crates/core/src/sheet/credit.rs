//! Whose work is on a sheet, and on what terms.

use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// What may be done with somebody's work.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Licence {
    /// Anything, without a word.
    Free,
    /// Anything, with the maker's name beside it.
    Credit,
    /// With the maker's name, and not on anything that is sold.
    NotForResale,
}

/// Who made a photo or a drawing.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
pub struct Credit {
    pub title: String,
    pub maker: String,
    pub licence: Licence,
}
