//! What the nodes of fills are for.

use crate::scene::tree::{Geometry, Moves, Node, Paint, Role, Shape, Shows};
use crate::sheet::Fill;
use kurbo::Rect;

/// Which drags take a fill along.
pub(super) fn moves(fill: &Fill) -> Moves {
    if fill.follows_opening { Moves::WithBoth(fill.id) } else { Moves::WithFill(fill.id) }
}

/// A node that shows a fill and moves with it.
pub(super) fn role_of(fill: &Fill) -> Role {
    Role::moving(moves(fill)).showing(Shows::Fill(fill.id))
}

/// A rectangle over all that the opening can show, and over as much again: it stays when the opening is dragged.
pub(super) fn covering(bounds: Rect, paint: Paint, fill: &Fill) -> Node {
    let room = bounds.width().max(bounds.height());
    let role = Role::PART.showing(Shows::Fill(fill.id));
    Shape { role, geometry: Geometry::Rect(bounds.inflate(room, room)), fill: Some(paint), stroke: None }.into()
}
