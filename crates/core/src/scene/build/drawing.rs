//! Imported drawings in their own groups and colours, as nodes.

use super::builder::Builder;
use crate::outline::{self, DrawingPaint, DrawingTree, placed_part};
use crate::scene::tree::{
    Definitions, Fragment, Geometry, Gradient, GradientAxis, GradientStop, Group, Moves, Node, Paint, Role, Shape,
    Share, Spread,
};
use crate::sheet::{DrawingFill, PartLook, Placement};
use kurbo::{Affine, BezPath, Point};
use std::ops::Range;
use std::sync::Arc;

/// Which parts of a drawing are wanted.
#[derive(Clone, Copy, PartialEq, Eq)]
pub(super) enum Parts {
    All,
    /// Those that are let out over the edge.
    LetOut,
}

/// A drawing at its place; corners that are pulled included.
pub(super) fn drawing_node(
    builder: &mut Builder<'_>,
    picture: &DrawingTree,
    drawing: &DrawingFill,
    role: Role,
    parts: Parts,
) -> Node {
    let place = &drawing.placement;
    // paints in place of the file's own, by the parts that have them
    let mut repaints = Vec::new();
    for look in &drawing.looks {
        if let Some(paint) = &look.paint {
            let bounds = picture.bounds(look.part as usize).unwrap_or_default();
            repaints.push((look.part as usize, builder.paint(paint, bounds, Moves::WithPiece)));
        }
    }
    let mut walk = Walk {
        picture,
        looks: &drawing.looks,
        repaints: &repaints,
        pulled: place.pull.map(|_| place),
        parts,
        definitions: &mut builder.definitions,
    };
    let nodes = walk.nodes(picture.within(0), None, false);
    Group { role, transform: place.affine(picture.width, picture.height), ..Group::of(nodes) }.into()
}

/// Parts of a drawing in its own space, as they came.
pub(super) fn drawing_nodes(picture: &DrawingTree, parts: Range<usize>, definitions: &mut Definitions) -> Vec<Node> {
    let mut walk = Walk { picture, looks: &[], repaints: &[], pulled: None, parts: Parts::All, definitions };
    walk.nodes(parts, None, false)
}

/// One part of a drawing by itself, in the drawing's space; None where it paints nothing.
pub fn drawing_part(picture: &DrawingTree, part: usize) -> Option<(Fragment, kurbo::Rect)> {
    let bounds = picture.bounds(part)?;
    let mut definitions = Definitions::default();
    let nodes = drawing_nodes(picture, picture.within(part), &mut definitions);
    Some((Fragment { definitions, nodes, ..Fragment::default() }, bounds))
}

struct Walk<'a> {
    picture: &'a DrawingTree,
    looks: &'a [PartLook],
    repaints: &'a [(usize, Paint)],
    pulled: Option<&'a Placement>,
    parts: Parts,
    definitions: &'a mut Definitions,
}

impl Walk<'_> {
    /// Parts beside one another, in `paint` instead of their own ones if there is one; `out` where what they lie in is let out.
    fn nodes(&mut self, range: Range<usize>, paint: Option<Paint>, out: bool) -> Vec<Node> {
        let mut nodes = Vec::new();
        let mut next = range.start;
        while next < range.end {
            let Some(part) = self.picture.parts.get(next) else {
                break;
            };
            let at = next;
            next = part.end.max(at + 1);
            let look = self.looks.iter().find(|l| l.part as usize == at);
            if look.is_some_and(|l| l.off) {
                continue;
            }
            let out = out || look.is_some_and(|l| l.out);
            let paint = self.repaints.iter().find(|(part, _)| *part == at).map(|(_, paint)| *paint).or(paint);
            let contents = match &part.shape {
                Some(_) if self.parts == Parts::LetOut && !out => continue,
                Some(shape) => {
                    let fill = paint.unwrap_or_else(|| self.paint(&shape.paint));
                    let geometry = Geometry::Path(self.placed(&shape.path));
                    vec![Shape { role: Role::PART, geometry, fill: Some(fill), stroke: None }.into()]
                }
                None => self.nodes(at + 1..next, paint, out),
            };
            let group = Group { opacity: Share::new(part.opacity), blend: part.blend, ..Group::of(contents) };
            if group.is_isolated() { nodes.push(group.into()) } else { nodes.extend(group.nodes) }
        }
        nodes
    }

    fn placed(&self, path: &Arc<BezPath>) -> Arc<BezPath> {
        match self.pulled {
            Some(place) => Arc::new(placed_part(path, self.picture, place).into_owned()),
            None => Arc::clone(path),
        }
    }

    fn paint(&mut self, paint: &DrawingPaint) -> Paint {
        match paint {
            DrawingPaint::Colour(colour) => (*colour).into(),
            DrawingPaint::Gradient(own) => Paint::Gradient(self.definitions.add_gradient(gradient(own))),
        }
    }
}

fn gradient(own: &outline::DrawingGradient) -> Gradient {
    let axis = match own.axis {
        outline::GradientAxis::Linear([x1, y1, x2, y2]) => {
            GradientAxis::Linear { from: Point::new(x1, y1), to: Point::new(x2, y2) }
        }
        outline::GradientAxis::Radial([cx, cy, radius, fx, fy]) => {
            GradientAxis::Radial { centre: Point::new(cx, cy), radius, focus: Point::new(fx, fy) }
        }
    };
    let spread = match own.spread {
        outline::Spread::Pad => Spread::Pad,
        outline::Spread::Reflect => Spread::Reflect,
        outline::Spread::Repeat => Spread::Repeat,
    };
    let stop = |(at, colour, opacity): &(f64, crate::sheet::Colour, f64)| GradientStop {
        at: Share::new(*at),
        swatch: (*colour).into(),
        opacity: Share::new(*opacity),
    };
    let stops = own.stops.iter().map(stop).collect();
    Gradient { role: Role::PART, axis, transform: Affine::new(own.transform), spread, stops }
}
