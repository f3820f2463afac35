//! Bundles: pieces that are handled as one.

use super::BundleId;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Pieces, and other bundles, that are handled as one. Its pieces say that they are in it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize, TS)]
pub struct Bundle {
    pub id: BundleId,
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub name: Option<String>,
    /// The bundle that it is in.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub within: Option<BundleId>,
}
