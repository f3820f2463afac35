//! Members of a repeated window, as people handle them.

use crate::combine::bounds;
use crate::library::Library;
use crate::outline::{member_transforms, shown_outline};
use crate::scene::svg::path_data;
use crate::sheet::{Repeat, Sheet, Window};
use kurbo::BezPath;
use serde::Serialize;
use ts_rs::TS;

/// A member. Places are in sheet space.
#[derive(Debug, Clone, Serialize, TS)]
pub struct RepeatMemberView {
    /// Path data of its opening, where it lies.
    pub outline: String,
    /// Left, top, right and bottom of that.
    pub bounds: [f64; 4],
    /// From where the window lies to where the member lies, in SVG's order.
    pub transform: [f64; 6],
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    #[ts(optional, as = "Option<bool>")]
    pub hidden: bool,
}

/// The members of a window whose opening has this outline.
pub(super) fn member_views(
    sheet: &Sheet,
    window: &Window,
    repeat: &Repeat,
    opening: &BezPath,
    library: &dyn Library,
) -> Vec<RepeatMemberView> {
    let view = |(k, transform): (u32, kurbo::Affine)| {
        let look = repeat.look(k);
        let word = look.filter(|l| l.word.is_some());
        let own = word.and_then(|_| shown_outline(sheet, &window.in_member(k), library).ok());
        let outline = transform * own.map_or_else(|| opening.clone(), |own| (*own.path).clone());
        let b = bounds(&outline);
        RepeatMemberView {
            outline: path_data(&outline),
            bounds: [b.x0, b.y0, b.x1, b.y1],
            transform: transform.as_coeffs(),
            hidden: look.is_some_and(|l| l.hidden),
        }
    };
    (0u32..).zip(member_transforms(repeat, opening)).map(view).collect()
}
