//! Where a window or a bundle is seen that is split or repeated.

use super::members::{RepeatMemberView, member_line, member_views};
use super::panes::{PaneView, SplitLineView, split_line_views, views_of};
use crate::outline::Pane;
use crate::sheet::{Repeat, Split};
use kurbo::BezPath;
use serde::Serialize;
use ts_rs::TS;

/// Its panes, the lines between them, and its members. Places are in sheet space.
#[derive(Debug, Clone, PartialEq, Default, Serialize, TS)]
pub struct DividedView {
    /// The panes that it falls into, in their order.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<PaneView>>")]
    pub panes: Vec<PaneView>,
    /// The lines that split it.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<SplitLineView>>")]
    pub split_lines: Vec<SplitLineView>,
    /// Its members, in their order.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<RepeatMemberView>>")]
    pub members: Vec<RepeatMemberView>,
    /// Path data of the line along which its members lie.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub member_line: Option<String>,
}

impl DividedView {
    /// Of what has this outline. `panes` gives its panes where it is split, and `own` the outline of a member with a word of its own.
    pub(super) fn of(
        (split, repeat): (&Split, Option<&Repeat>),
        outline: &BezPath,
        panes: impl FnOnce() -> Vec<Pane>,
        own: impl Fn(u32) -> Option<BezPath>,
    ) -> Self {
        Self {
            panes: if split.is_none() { Vec::new() } else { views_of(split, panes()) },
            split_lines: split_line_views(split),
            members: repeat.map_or(Vec::new(), |repeat| member_views(repeat, outline, own)),
            member_line: repeat.and_then(member_line),
        }
    }

    /// The bounds of all that is seen of it; None where it is seen where it lies.
    pub(super) fn bounds(&self) -> Option<[f64; 4]> {
        let panes = self.panes.iter().filter(|pane| !pane.hidden).map(|pane| pane.bounds).reduce(united);
        let members = self.members.iter().filter(|m| !m.hidden).map(|m| m.bounds).reduce(united);
        members.or(panes)
    }

    /// Bytes of its longer texts, roughly.
    pub(super) fn text_bytes(&self) -> usize {
        let panes = self.panes.iter().map(|p| p.outline.len() + 200);
        panes.chain(self.members.iter().map(|m| m.outline.len() + 200)).sum()
    }
}

fn united(a: [f64; 4], b: [f64; 4]) -> [f64; 4] {
    [a[0].min(b[0]), a[1].min(b[1]), a[2].max(b[2]), a[3].max(b[3])]
}
