//! A repeated window as nodes.

use super::builder::Builder;
use super::panes::pane_nodes;
use super::window::{Open, window_nodes};
use crate::breakout::WindowBreakout;
use crate::combine::unite;
use crate::outline::{seen_members, shown_outline};
use crate::scene::model::PieceScene;
use crate::scene::tree::{Group, Node, Role, Shows};
use crate::sheet::{PieceId, Repeat, Window};
use kurbo::{Affine, BezPath};
use std::sync::Arc;

/// A window that is shown once, whole or in panes.
pub(super) fn one_window(
    builder: &mut Builder<'_>,
    window: &Window,
    open: &Open,
    released: &WindowBreakout,
) -> Vec<Node> {
    match window.split.is_none() {
        true => window_nodes(builder, window, open, released, None),
        false => pane_nodes(builder, window, open, released),
    }
}

/// Draws all members, the first one lowest. Where the fills run behind all of them, the members are one opening.
pub(super) fn member_nodes(
    builder: &mut Builder<'_>,
    piece: PieceId,
    (window, repeat): (&Window, &Repeat),
    outline: &Arc<BezPath>,
    scene: &mut PieceScene,
) -> Vec<Node> {
    let seen = seen_members(repeat, outline);
    if repeat.behind {
        let mut all = BezPath::new();
        for (k, transform) in seen {
            let own = member_outline(builder, window, repeat, k, outline);
            all.extend(transform * (*own).clone());
        }
        let open = Open::all(builder.sheet, window, Arc::new(unite(&all)));
        let released = released(builder, piece, window, &open);
        let common =
            Window { fills: window.fills.iter().filter(|f| f.member.is_none()).cloned().collect(), ..window.clone() };
        let nodes = one_window(builder, &common, &open, &released);
        scene.breakout = Some(released);
        return nodes;
    }
    let open = Open::new(builder.sheet, window, Arc::clone(outline));
    let first = released(builder, piece, window, &open);
    // members that show the same are built once
    let mut common: Option<Vec<Node>> = None;
    let mut nodes = Vec::new();
    for (k, transform) in seen {
        let own = window.in_member(k);
        let has_word = repeat.look(k).is_some_and(|look| look.word.is_some());
        let has_fills = own.fills.iter().any(|f| f.member.is_some());
        let shown = if has_word {
            let path = member_outline(builder, window, repeat, k, outline);
            let open = Open::all(builder.sheet, &own, path);
            let released = released(builder, piece, &own, &open);
            one_window(builder, &own, &open, &released)
        } else if has_fills {
            one_window(builder, &own, &open, &first)
        } else {
            common.get_or_insert_with(|| one_window(builder, &own, &open, &first)).clone()
        };
        if transform == Affine::IDENTITY && repeat.layout.count() == 1 {
            nodes.extend(shown);
            continue;
        }
        let role = Role::PART.showing(Shows::Member(k));
        nodes.push(Group { role, transform, ..Group::of(shown) }.into());
    }
    scene.breakout = Some(first);
    nodes
}

/// The outline of a member before it is moved to its place: that of the window, unless it has a word of its own.
fn member_outline(
    builder: &mut Builder<'_>,
    window: &Window,
    repeat: &Repeat,
    member: u32,
    outline: &Arc<BezPath>,
) -> Arc<BezPath> {
    if repeat.look(member).is_none_or(|look| look.word.is_none()) {
        return Arc::clone(outline);
    }
    match shown_outline(builder.sheet, &window.in_member(member), builder.library) {
        Ok(own) => Arc::clone(&own.path),
        Err(_) => {
            builder.incomplete = true;
            Arc::clone(outline)
        }
    }
}

fn released(builder: &mut Builder<'_>, piece: PieceId, window: &Window, open: &Open) -> WindowBreakout {
    let released = WindowBreakout::of(builder.sheet, piece, window, open.shown(), None, builder.library);
    builder.incomplete |= released.incomplete;
    released
}
