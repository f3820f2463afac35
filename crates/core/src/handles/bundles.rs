//! Bundles in panes and repeated bundles, as people handle them.

use super::divided::DividedView;
use crate::combine::bounds;
use crate::library::Library;
use crate::outline::{bundle_member_outline, bundle_outline, bundle_parts, sheet_panes};
use crate::scene::svg::path_data;
use crate::sheet::{Bundle, Sheet};
use serde::Serialize;
use ts_rs::TS;

/// Where a bundle is seen. Places are in sheet space.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct BundleHandles {
    /// Left, top, right and bottom of what its pieces open, before its own panes and members.
    pub bounds: [f64; 4],
    /// What is drawn of it, from back to front; as often as it has members.
    pub parts: Vec<BundlePartView>,
    #[serde(flatten)]
    #[ts(flatten)]
    pub view: DividedView,
}

/// Panes that are drawn together.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct BundlePartView {
    /// Path data of what is seen there, before it is moved; all of it without one.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub region: Option<String>,
    /// From where it would lie to where it lies, in SVG's order.
    pub transform: [f64; 6],
    /// Its place among the panes, if it is one alone.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub pane: Option<usize>,
}

impl BundleHandles {
    /// Joins the outlines of all its pieces.
    pub fn of(sheet: &Sheet, bundle: &Bundle, library: &dyn Library) -> Self {
        let outline = bundle_outline(sheet, bundle.id, library);
        let b = bounds(&outline);
        let all = sheet_panes(sheet, &bundle.split, &outline);
        let parts = bundle_parts(&bundle.split, &all).into_iter().map(|part| BundlePartView {
            region: part.region.as_ref().map(path_data),
            transform: part.transform.as_coeffs(),
            pane: part.pane,
        });
        let own = |k: u32| bundle_member_outline(sheet, bundle.id, k, library);
        let parts_of = (&bundle.split, bundle.repeat.as_deref());
        Self {
            bounds: [b.x0, b.y0, b.x1, b.y1],
            parts: parts.collect(),
            view: DividedView::of(parts_of, &outline, || all, own),
        }
    }
}
