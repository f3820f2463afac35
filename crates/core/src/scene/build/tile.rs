//! Tiles: a photo, a drawing or another window, repeated.

use super::builder::Builder;
use super::drawing::drawing_nodes;
use super::roles::{covering, moves, role_of};
use crate::scene::tree::{
    Definitions, Fragment, Group, Node, Paint, Pattern, PhotoSource, Picture, Reuse, Role, Source, ToneId,
};
use crate::sheet::{Fill, Motif, Placement, TileFill};
use kurbo::{Affine, Rect, Size};
use std::sync::Arc;

/// Copies of a drawing up to this many are drawn one by one: patterns are pictures in the end, and lines lose their edge in them.
const DRAWINGS: f64 = 600.0;
/// Copies of a photo up to this many are drawn one by one: the cell of a pattern would be a large picture.
const PHOTOS: f64 = 40.0;

/// Where the copies lie.
struct Lattice {
    cell: [f64; 2],
    /// From copy to copy, in their own width and height.
    step: [f64; 2],
    /// How far every other row is shifted, in cells.
    offset: f64,
    /// From the tile's space, in which cells stand upright from the origin on, to the sheet.
    to_sheet: Affine,
}

impl Lattice {
    /// `size` is that of the motif, in its own pixels or millimetres.
    fn new(tile: &TileFill, size: [f64; 2]) -> Self {
        let place = &tile.placement;
        let cell = [0, 1].map(|k| tile.step[k] * size[k] * place.scale);
        let mirror = if place.mirrored { -1.0 } else { 1.0 };
        let to_sheet = Affine::translate((place.x, place.y))
            * Affine::rotate(place.turn.to_radians())
            * Affine::new([1.0, 0.0, -place.slant.to_radians().tan(), 1.0, 0.0, 0.0])
            * Affine::scale_non_uniform(mirror, 1.0)
            * Affine::translate((-cell[0] / 2.0, -cell[1] / 2.0));
        Self { cell, step: tile.step, offset: tile.offset, to_sheet }
    }

    /// From the motif's own space to the tile's, for one of the copies: in the middle of its cell.
    fn copy(&self, row: i64, column: i64, place: &Placement, size: [f64; 2]) -> Affine {
        let shift = if row.rem_euclid(2) == 0 { 0.5 } else { 0.5 + self.offset };
        let at = [(column as f64 + shift) * self.cell[0], (row as f64 + 0.5) * self.cell[1]];
        let half = [0, 1].map(|k| size[k] * place.scale / 2.0);
        Affine::translate((at[0] - half[0], at[1] - half[1])) * Affine::scale(place.scale)
    }

    /// Rows and columns of the copies that may be seen in `bounds` (sheet space), as first and last; and whether a cell is larger than what is to be
    /// filled.
    fn seen(&self, bounds: Rect) -> ([f64; 2], [f64; 2], bool) {
        let b = self.to_sheet.inverse().transform_rect_bbox(bounds);
        let [w, h] = self.cell;
        // copies that stand closer than they are large reach over their cells
        let over = self.step.map(|step| ((1.0 / step - 1.0) / 2.0).max(0.0));
        let rows = [(b.y0 / h - over[1]).floor(), (b.y1 / h + over[1]).ceil() - 1.0];
        let (later, earlier) = (self.offset.max(0.0), self.offset.min(0.0));
        let columns = [(b.x0 / w - over[0] - later).floor(), (b.x1 / w + over[0] - earlier).ceil() - 1.0];
        (rows, columns, w > b.width() || h > b.height())
    }
}

/// A tile over `bounds` (sheet space): copy by copy where there are few, else as a pattern of one copy, or of two where every other row
/// is shifted. So a pattern's cell is always small beside what it fills.
pub(super) fn tile_node(
    builder: &mut Builder<'_>,
    fill: &Fill,
    tile: &TileFill,
    bounds: Rect,
    tone: Option<ToneId>,
) -> Option<Node> {
    let place = &tile.placement;
    let (size, motif) = motif(builder, &tile.motif, tone)?;
    let motif = Arc::new(motif);
    let lattice = Lattice::new(tile, size);
    let copy = |row, column| {
        let transform = lattice.copy(row, column, place, size);
        Node::from(Reuse { role: Role::PART, fragment: Arc::clone(&motif), transform })
    };
    // a drag shows more of it before the next answer comes
    let room = bounds.width().max(bounds.height()) / 4.0;
    let (rows, columns, is_large) = lattice.seen(bounds.inflate(room, room));
    let count = (rows[1] - rows[0] + 1.0) * (columns[1] - columns[0] + 1.0);
    let most = if is_large || matches!(tile.motif, Motif::Drawing(_) | Motif::Window(_)) { DRAWINGS } else { PHOTOS };
    if count <= most {
        let places = (rows[0] as i64..=rows[1] as i64)
            .flat_map(|row| (columns[0] as i64..=columns[1] as i64).map(move |column| (row, column)));
        let nodes = places.map(|(row, column)| copy(row, column)).collect();
        return Some(Group { role: role_of(fill), transform: lattice.to_sheet, ..Group::of(nodes) }.into());
    }
    // copies may reach over their cell's edge: those of the cells around are drawn as well
    let rows = if tile.offset == 0.0 { 1 } else { 2 };
    let places = (-1..=rows).flat_map(|row| (-2..=1).map(move |column| (row, column)));
    let pattern = builder.definitions.add_pattern(Pattern {
        role: Role::moving(moves(fill)),
        cell: Size::new(lattice.cell[0], lattice.cell[1] * rows as f64),
        transform: lattice.to_sheet,
        nodes: places.map(|(row, column)| copy(row, column)).collect(),
    });
    Some(covering(bounds, Paint::Pattern(pattern), fill))
}

/// What is repeated, with its size in its own pixels or millimetres.
fn motif(builder: &mut Builder<'_>, motif: &Motif, tone: Option<ToneId>) -> Option<([f64; 2], Fragment)> {
    match motif {
        Motif::Photo(id) => {
            let facts = builder.sheet.photos.get(id)?;
            let (width, height) = (facts.width, facts.height);
            let mut definitions = Definitions::default();
            let tone = tone.map(|id| definitions.add_tone(builder.definitions.tone(id).clone()));
            let size = [f64::from(width), f64::from(height)];
            let picture = Picture {
                role: Role::PART,
                source: Source::Photo(PhotoSource { id: id.clone(), width, height, pull: None }),
                frame: Rect::new(0.0, 0.0, size[0], size[1]),
                transform: Affine::IDENTITY,
                tone,
            };
            Some((size, Fragment { definitions, nodes: vec![picture.into()], ..Fragment::default() }))
        }
        Motif::Window(id) => {
            let other = builder.shown(*id)?;
            let bounds = crate::combine::bounds(&other.outline.path);
            if bounds.width() <= 0.0 || bounds.height() <= 0.0 {
                return None;
            }
            let fragment = Arc::clone(&other.fragment);
            let transform = Affine::translate(-bounds.origin().to_vec2());
            let node = Reuse { role: Role::PART, fragment, transform }.into();
            let size = [bounds.width(), bounds.height()];
            Some((size, Fragment { nodes: vec![node], ..Fragment::default() }))
        }
        Motif::Drawing(id) => {
            let imported = builder.drawing(id)?;
            let mut definitions = Definitions::default();
            let nodes = drawing_nodes(&imported.picture, imported.picture.within(0), &mut definitions);
            let size = [imported.picture.width, imported.picture.height];
            Some((size, Fragment { definitions, nodes, ..Fragment::default() }))
        }
    }
}
