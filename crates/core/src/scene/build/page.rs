//! What belongs to the sheet itself: its backdrop and its border.

use super::builder::Builder;
use super::paper::SIDE_MM;
use crate::scene::tree::{
    Fragment, Geometry, Length, Line, Moves, Node, Paint, Pattern, Picture, Role, Shape, Source, Stroke,
};
use kurbo::{Affine, Rect, Size};

/// The paint on the background's colour, and the grain of the paper; empty where there is neither.
pub(super) fn backdrop(mut builder: Builder<'_>) -> Fragment {
    let sheet = builder.sheet;
    let page = Rect::new(0.0, 0.0, sheet.width, sheet.height);
    let all = page.inflate(sheet.bleed, sheet.bleed);
    let painted = |paint: Paint| {
        Node::from(Shape { role: Role::PART, geometry: Geometry::Rect(all), fill: Some(paint), stroke: None })
    };
    let mut nodes = Vec::new();
    if let Some(paint) = &sheet.backdrop {
        nodes.push(painted(builder.paint(paint, page, Moves::WithPiece)));
    }
    if sheet.paper > 0.0 {
        let grain = Picture {
            role: Role::PART,
            source: Source::Paper { grain: sheet.paper },
            frame: Rect::new(0.0, 0.0, SIDE_MM, SIDE_MM),
            transform: Affine::IDENTITY,
            tone: None,
        };
        let pattern = builder.definitions.add_pattern(Pattern {
            role: Role::PART,
            cell: Size::new(SIDE_MM, SIDE_MM),
            transform: Affine::IDENTITY,
            nodes: vec![grain.into()],
        });
        nodes.push(painted(Paint::Pattern(pattern)));
    }
    builder.fragment(nodes)
}

/// The line around the sheet; empty where there is none, or no room for it.
pub(super) fn border(mut builder: Builder<'_>) -> Fragment {
    let sheet = builder.sheet;
    let page = Rect::new(0.0, 0.0, sheet.width, sheet.height);
    let Some(border) = sheet.border.as_ref().filter(|b| b.width > 0.0) else {
        return Fragment::default();
    };
    // the inset is that of the line's outer edge
    let inset = border.inset + border.width / 2.0;
    let line = page.inset(-inset);
    if line.width() <= 0.0 || line.height() <= 0.0 {
        return Fragment::default();
    }
    let paint = builder.paint(&border.paint, page, Moves::WithPiece);
    let stroke = Some(Stroke { paint, line: Line::plain(Length::new(border.width)) });
    let shape = Shape { role: Role::PART, geometry: Geometry::Rect(line), fill: None, stroke };
    builder.fragment(vec![shape.into()])
}
