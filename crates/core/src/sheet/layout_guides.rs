//! What helps to lay pieces out and is never printed: margins, columns and rows, baselines, guides.

use super::Members;
use super::placement::is_zero;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// The guides of a sheet. Lengths are in millimetres.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct LayoutGuides {
    #[serde(default, skip_serializing_if = "Margins::is_none")]
    pub margins: Margins,
    /// Columns between the margins; 1 for none.
    #[serde(default = "one", skip_serializing_if = "is_one")]
    pub columns: u32,
    /// Rows between the margins; 1 for none.
    #[serde(default = "one", skip_serializing_if = "is_one")]
    pub rows: u32,
    /// The gap between two columns, and between two rows.
    #[serde(default, skip_serializing_if = "is_zero")]
    pub gutter: f64,
    /// Lines of type stand on these lines: the first one's place below the upper margin, and from one to the next.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub baselines: Option<Baselines>,
    /// Lines that were pulled out of a ruler.
    #[serde(default, skip_serializing_if = "Members::is_none")]
    pub lines: Members<GuideLine>,
    /// Nothing of it is seen, and nothing snaps to it.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub hidden: bool,
}

/// How far from each edge of the sheet its margins lie, in millimetres.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize, TS)]
pub struct Margins {
    pub left: f64,
    pub top: f64,
    pub right: f64,
    pub bottom: f64,
}

/// Level lines at equal distances.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct Baselines {
    /// From the upper margin to the first one, in millimetres.
    pub first: f64,
    /// From one to the next, in millimetres.
    pub step: f64,
}

/// One guide.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct GuideLine {
    pub way: GuideWay,
    /// How far from the left edge of the sheet an upright one lies, or from the upper edge a level one; millimetres.
    pub at: f64,
}

/// Which way a guide runs.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum GuideWay {
    Upright,
    Level,
}

impl Default for LayoutGuides {
    fn default() -> Self {
        Self {
            margins: Margins::default(),
            columns: 1,
            rows: 1,
            gutter: 0.0,
            baselines: None,
            lines: Members::default(),
            hidden: false,
        }
    }
}

impl LayoutGuides {
    pub(super) fn is_none(&self) -> bool {
        *self == Self::default()
    }
}

impl Margins {
    fn is_none(&self) -> bool {
        *self == Self::default()
    }
}

fn one() -> u32 {
    1
}

fn is_one(count: &u32) -> bool {
    *count == 1
}
