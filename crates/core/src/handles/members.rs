//! Members of what is repeated, as people handle them.

use crate::combine::bounds;
use crate::outline::{layout_line_path, member_transforms};
use crate::scene::svg::path_data;
use crate::sheet::{Layout, Repeat};
use kurbo::BezPath;
use serde::Serialize;
use ts_rs::TS;

/// A member. Places are in sheet space.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct RepeatMemberView {
    /// Path data of its opening, where it lies.
    pub outline: String,
    /// Left, top, right and bottom of that.
    pub bounds: [f64; 4],
    /// From where what is repeated lies to where the member lies, in SVG's order.
    pub transform: [f64; 6],
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    #[ts(optional, as = "Option<bool>")]
    pub hidden: bool,
}

/// The line along which members lie, if they do: path data, in sheet space.
pub(super) fn member_line(repeat: &Repeat) -> Option<String> {
    match &repeat.layout {
        Layout::Line(line) => Some(path_data(&layout_line_path(line))),
        _ => None,
    }
}

/// The members of what has this outline; `own` gives that of a member with a word of its own.
pub(super) fn member_views(
    repeat: &Repeat,
    outline: &BezPath,
    own: impl Fn(u32) -> Option<BezPath>,
) -> Vec<RepeatMemberView> {
    let view = |(k, transform): (u32, kurbo::Affine)| {
        let look = repeat.look(k);
        let outline = transform * own(k).unwrap_or_else(|| outline.clone());
        let b = bounds(&outline);
        RepeatMemberView {
            outline: path_data(&outline),
            bounds: [b.x0, b.y0, b.x1, b.y1],
            transform: transform.as_coeffs(),
            hidden: look.is_some_and(|l| l.hidden),
        }
    };
    (0u32..).zip(member_transforms(repeat, outline)).map(view).collect()
}
