//! Tiles: a photo or a drawing, repeated.

use super::View;
use super::drawn::drawing_markup;
use super::fills::{covering, moves};
use super::layer::needed;
use super::markup::{escape, matrix, number};
use super::paint::Definitions;
use crate::sheet::{Fill, Motif, Placement, TileFill};
use kurbo::{Affine, Rect};

/// Copies of a drawing up to this many are drawn one by one.
const DRAWN: f64 = 600.0;

/// Where the copies lie.
struct Lattice {
    cell: [f64; 2],
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
        Self { cell, offset: tile.offset, to_sheet }
    }

    /// From the motif's own space to the tile's, for one of the copies: in the middle of its cell.
    fn copy(&self, row: i64, column: i64, place: &Placement, size: [f64; 2]) -> Affine {
        let shift = if row.rem_euclid(2) == 0 { 0.5 } else { 0.5 + self.offset };
        let at = [(column as f64 + shift) * self.cell[0], (row as f64 + 0.5) * self.cell[1]];
        let half = [0, 1].map(|k| size[k] * place.scale / 2.0);
        Affine::translate((at[0] - half[0], at[1] - half[1])) * Affine::scale(place.scale)
    }

    /// Rows and columns of the copies that may be seen in `bounds` (sheet space), as first and last.
    fn seen(&self, bounds: Rect) -> ([f64; 2], [f64; 2]) {
        let b = self.to_sheet.inverse().transform_rect_bbox(bounds);
        // copies may reach over their cells, and rows be shifted by one
        let rows = [(b.y0 / self.cell[1]).floor() - 2.0, (b.y1 / self.cell[1]).ceil() + 1.0];
        let columns = [(b.x0 / self.cell[0]).floor() - 3.0, (b.x1 / self.cell[0]).ceil() + 2.0];
        (rows, columns)
    }
}

/// A tile over `bounds` (sheet space). Photos are an SVG pattern of one copy, or of two where every other row is shifted; so are drawings of
/// very many copies. Others are drawn copy by copy: patterns are pictures in the end, and lines lose their edge in them.
pub(super) fn tiled(
    fill: &Fill,
    tile: &TileFill,
    bounds: Rect,
    view: &View<'_>,
    tone: &str,
    definitions: &mut Definitions<'_>,
) -> String {
    let place = &tile.placement;
    let id = definitions.next("tile");
    let (size, motif, another) = match &tile.motif {
        Motif::Photo(photo) => {
            let Some(facts) = definitions.sheet.photos.get(photo) else {
                return String::new();
            };
            let href = escape(&view.pictures.photo(photo, facts, needed(facts, place, view), None));
            let (w, h) = (facts.width, facts.height);
            let image = format!(
                "<image{tone} width=\"{w}\" height=\"{h}\" preserveAspectRatio=\"none\" xlink:href=\"{href}\"/>"
            );
            ([w.into(), h.into()], image.clone(), image)
        }
        Motif::Drawing(drawing) => {
            let Some(drawn) = view.library.drawing(drawing) else {
                return String::new();
            };
            let markup = drawing_markup(&drawn.picture, definitions);
            // its paths are written once
            let once = format!("<g id=\"motif-{id}\">{markup}</g>");
            ([drawn.picture.width, drawn.picture.height], once, format!("<use xlink:href=\"#motif-{id}\"/>"))
        }
    };
    let lattice = Lattice::new(tile, size);
    let mut copies = String::new();
    let mut copy = |row, column| {
        let body = if copies.is_empty() { &motif } else { &another };
        let at = lattice.copy(row, column, place, size);
        copies.push_str(&format!("<g transform=\"{}\">{body}</g>", matrix(at)));
    };
    // a drag shows more of it before the next answer comes
    let room = bounds.width().max(bounds.height()) / 4.0;
    let (rows, columns) = lattice.seen(bounds.inflate(room, room));
    let count = (rows[1] - rows[0] + 1.0) * (columns[1] - columns[0] + 1.0);
    if matches!(tile.motif, Motif::Drawing(_)) && count <= DRAWN {
        for row in rows[0] as i64..=rows[1] as i64 {
            for column in columns[0] as i64..=columns[1] as i64 {
                copy(row, column);
            }
        }
        let to_sheet = matrix(lattice.to_sheet);
        return format!("<g data-fill=\"{}\"{} transform=\"{to_sheet}\">{copies}</g>", fill.id, moves(fill));
    }
    // copies may reach over their cell's edge: those of the cells around are drawn as well
    let rows = if tile.offset == 0.0 { 1 } else { 2 };
    for row in -1..=rows {
        for column in -2..=1 {
            copy(row, column);
        }
    }
    definitions.markup.push_str(&format!(
        "<pattern id=\"{id}\" patternUnits=\"userSpaceOnUse\"{} width=\"{}\" height=\"{}\" patternTransform=\"{}\">{copies}</pattern>",
        moves(fill),
        number(lattice.cell[0]),
        number(lattice.cell[1] * rows as f64),
        matrix(lattice.to_sheet)
    ));
    covering(bounds, &format!("url(#{id})"), fill)
}
