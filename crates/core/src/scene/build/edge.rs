//! The edge of a window: its shape, clear or fading, its rims, and the shadows that it throws.

use super::builder::Builder;
use crate::scene::tree::{
    Clip, ClipId, Coverage, Effect, Geometry, Group, Length, Line, Mask, MaskId, Moves, Node, Role, Shape, Share,
    Stroke,
};
use crate::sheet::{Colour, FadeSide, Finish, LineSide, Rim, Shadow, ShadowPlace, Softness};
use kurbo::{Affine, Rect, Vec2};

/// Blur (standard deviation) for a fade from full to nothing of one unit: a Gaussian's edge runs from 5 to 95 % over 3.3 of them.
pub(super) const BLUR: f64 = 0.3;

/// The shape of a window: what its fills are limited to, and what throws its shadow.
pub(super) struct EdgeShape {
    pub geometry: Geometry,
    limit: Limit,
    /// The whole shape in black.
    pub silhouette: Node,
    pub coverage: Coverage,
    /// What it covers at most, in sheet space; where the outside shows, the sheet and more.
    pub bounds: Rect,
}

#[derive(Clone, Copy)]
enum Limit {
    /// Nothing limits it: what it shows has its own edge.
    Whole,
    Clip(ClipId),
    Mask(MaskId),
}

impl EdgeShape {
    /// Nodes that are seen only in the shape.
    pub fn limited(&self, nodes: Vec<Node>) -> Node {
        let group = Group::of(nodes);
        match self.limit {
            Limit::Whole => group.into(),
            Limit::Clip(clip) => Group { clip: Some(clip), ..group }.into(),
            Limit::Mask(mask) => Group { mask: Some(mask), ..group }.into(),
        }
    }

    /// Whether any of it is seen by a share.
    pub fn fades(&self) -> bool {
        matches!(self.limit, Limit::Mask(_))
    }
}

/// For the region of a mask or an effect: the bounds in whole millimetres with room to spare.
pub(super) fn region(bounds: Rect) -> Rect {
    bounds.inflate(2.0, 2.0).expand()
}

/// How far from the opening anything of its finish reaches, in millimetres.
pub(super) fn overflow(finish: &Finish) -> f64 {
    let rims = finish.rims.iter().map(|r| r.width).fold(0.0, f64::max);
    let shadows = finish.shadows.iter().map(|s| s.distance + 3.0 * (s.spread + s.size * BLUR)).fold(0.0, f64::max);
    2.0 + rims + shadows + finish.softness.width
}

/// How far outwards or inwards the outline of a fading edge lies, in millimetres.
pub(super) fn shift(softness: &Softness) -> f64 {
    match softness.side {
        FadeSide::Both => 0.0,
        FadeSide::Inward => -softness.width / 2.0,
        FadeSide::Outward => softness.width / 2.0,
    }
}

impl Builder<'_> {
    /// A clear edge. `geometry` is the opening or all around it, within `bounds`.
    pub fn clear_shape(&mut self, geometry: Geometry, bounds: Rect) -> EdgeShape {
        let role = Role::OPENING;
        let clip = Clip { role, geometry: geometry.clone(), transform: Affine::IDENTITY };
        let clip = self.definitions.add_clip(clip);
        let fill = Some(Colour([0; 3]).into());
        EdgeShape {
            silhouette: Shape { role, geometry: geometry.clone(), fill, stroke: None }.into(),
            coverage: Coverage::Inside { role, geometry: geometry.clone() },
            limit: Limit::Clip(clip),
            geometry,
            bounds,
        }
    }

    /// What is seen whole: its shadow is that of what it shows.
    pub fn whole_shape(&mut self, shown: &[Node], bounds: Rect) -> EdgeShape {
        let shape = self.clear_shape(Geometry::Opening, bounds);
        EdgeShape { silhouette: Group::of(shown.to_vec()).into(), limit: Limit::Whole, ..shape }
    }

    /// A fading edge. `contents` cover the opening.
    pub fn fading_shape(&mut self, geometry: Geometry, contents: Coverage, finish: &Finish, bounds: Rect) -> EdgeShape {
        let blur = finish.softness.width * BLUR;
        let bounds = bounds.inflate(3.0 * blur, 3.0 * blur);
        let region = region(bounds);
        let mut coverage = Coverage::Any { role: Role::OPENING, of: vec![contents] };
        if blur > 0.0 {
            coverage = Coverage::Blurred(Box::new(coverage), Length::new(blur));
        }
        if finish.negative {
            coverage = Coverage::Without(Box::new(Coverage::All), Box::new(coverage));
        }
        let mask = self.definitions.add_mask(Mask { region, coverage: coverage.clone() });
        let all = Shape {
            role: Role::PART,
            geometry: Geometry::Rect(region),
            fill: Some(Colour([0; 3]).into()),
            stroke: None,
        };
        let silhouette = Group { mask: Some(mask), ..Group::of(vec![all.into()]) }.into();
        EdgeShape { silhouette, limit: Limit::Mask(mask), geometry, coverage, bounds }
    }

    /// A rim as strokes along the edge; one on the inside is to be limited to the shape by the one who draws it.
    pub fn rim(&mut self, rim: &Rim, shape: &EdgeShape) -> Node {
        let outward = if rim.side == LineSide::Centre { rim.width / 2.0 } else { rim.width };
        let paint = self.paint(&rim.paint, shape.bounds.inflate(outward, outward), Moves::WithPiece);
        let dashes = rim.dashes.iter().map(|d| Length::new(*d)).collect();
        let line = Line { width: Length::new(2.0 * outward), dashes, round: rim.round };
        let (role, geometry) = (Role::OPENING, shape.geometry.clone());
        let stroke = Some(Stroke { paint, line });
        let node = Shape { role, geometry: geometry.clone(), fill: None, stroke }.into();
        if rim.side != LineSide::Outside {
            return node;
        }
        // what lies outside, and a hair of the inside: with both edges in the same place, the fill would shine through between them
        let hair = Line::plain(Length::new((0.05 * rim.width).min(0.06)));
        let inside = Coverage::Inside { role, geometry: geometry.clone() };
        let outside = Coverage::Without(Box::new(Coverage::All), Box::new(inside));
        let of = vec![outside, Coverage::Along { role, geometry, line: hair }];
        let region = region(shape.bounds.inflate(outward, outward));
        let mask = Mask { region, coverage: Coverage::Any { role: Role::PART, of } };
        Group { mask: Some(self.definitions.add_mask(mask)), ..Group::of(vec![node]) }.into()
    }

    /// A shadow of `thrown_by`, which lie in `bounds`.
    pub fn shadow(&self, shadow: &Shadow, thrown_by: Vec<Node>, bounds: Rect, strength: f64) -> Node {
        let blur = shadow.size * BLUR;
        let outward = shadow.distance + 3.0 * (blur + shadow.spread) + 1.0;
        let effect = Effect::Shadow(crate::scene::tree::Shadow {
            swatch: self.swatch(&shadow.tint),
            opacity: Share::new(shadow.strength * strength),
            from_outside: shadow.place == ShadowPlace::Inside,
            spread: Length::new(shadow.spread),
            falls: Vec2::from_angle(shadow.angle.to_radians()) * shadow.distance,
            blur: Length::new(blur),
            region: region(bounds.inflate(outward, outward)),
        });
        Group { effect: Some(effect), blend: shadow.blend, ..Group::of(thrown_by) }.into()
    }

    /// What is drawn, where the shape is not.
    pub fn beside(&mut self, nodes: Vec<Node>, shape: &EdgeShape, area: Rect) -> Node {
        let coverage = Coverage::Without(Box::new(Coverage::All), Box::new(shape.coverage.clone()));
        let mask = self.definitions.add_mask(Mask { region: region(area), coverage });
        Group { mask: Some(mask), ..Group::of(nodes) }.into()
    }
}
