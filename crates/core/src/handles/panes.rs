//! Panes of a window or a bundle, and the lines between them, as people handle them.

use crate::combine::bounds;
use crate::outline::{Pane, split_line_path};
use crate::scene::svg::path_data;
use crate::sheet::{MemberId, PanePath, Split};
use serde::Serialize;
use ts_rs::TS;

/// A pane. Places are in sheet space.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct PaneView {
    pub at: PanePath,
    /// Path data of what of the opening lies in it, where it lies.
    pub outline: String,
    /// Left, top, right and bottom of that.
    pub bounds: [f64; 4],
    /// From where it would lie to where it lies, in SVG's order.
    pub transform: [f64; 6],
    /// How far it is moved away from its neighbours before anything else, in millimetres.
    pub apart: [f64; 2],
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    #[ts(optional, as = "Option<bool>")]
    pub hidden: bool,
}

/// A line that splits a window, as it runs.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct SplitLineView {
    pub line: MemberId,
    /// Path data, in sheet space.
    pub path: String,
}

/// Panes as people handle them.
pub(super) fn views_of(split: &Split, all: Vec<Pane>) -> Vec<PaneView> {
    let view = |pane: Pane| {
        let transform = pane.transform(split);
        let outline = transform * &pane.opening;
        let b = bounds(&outline);
        let hidden = split.look(&pane.at).is_some_and(|look| look.hidden);
        PaneView {
            outline: path_data(&outline),
            bounds: [b.x0, b.y0, b.x1, b.y1],
            transform: transform.as_coeffs(),
            apart: [pane.apart.x, pane.apart.y],
            hidden,
            at: pane.at,
        }
    };
    all.into_iter().map(view).collect()
}

pub(super) fn split_line_views(split: &Split) -> Vec<SplitLineView> {
    let view = |line: &crate::sheet::Member<crate::sheet::SplitLine>| SplitLineView {
        line: line.id,
        path: path_data(&split_line_path(&line.value)),
    };
    split.lines.iter().map(view).collect()
}
