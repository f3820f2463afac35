//! Fills as nodes: what shows through an opening, from back to front.

use super::breakouts::cutout;
use super::builder::Builder;
use super::drawing::{Parts, drawing_node};
use super::roles::{covering, moves, role_of};
use super::tile::tile_node;
use crate::combine::unite;
use crate::outline::form_path;
use crate::scene::model::PieceScene;
use crate::scene::tree::{
    Geometry, Group, Moves, Node, PhotoSource, Picture, Reuse, Role, Shape, Share, Source, ToneId,
};
use crate::sheet::{Fill, FillPaint, FormFill, Photo, PhotoFill, PhotoId, PieceId, Placement, WindowFill};
use kurbo::{Rect, Shape as _};

impl Builder<'_> {
    /// One fill, unlimited by the opening. `bounds` (sheet space) is what it has to cover. None where there is nothing to be seen.
    pub fn fill(&mut self, fill: &Fill, bounds: Rect, tone: Option<ToneId>) -> Option<Node> {
        let node = match &fill.paint {
            FillPaint::Plain(paint) => {
                let paint = self.paint(paint, bounds, moves(fill));
                // the gradient moves, what it is seen on stays
                Some(covering(bounds, paint, fill))
            }
            FillPaint::Photo(photo) => self.photo_fill(fill, photo, tone),
            FillPaint::Tile(tile) => tile_node(self, fill, tile, bounds, tone),
            FillPaint::Drawing(drawing) => {
                let imported = self.drawing(&drawing.drawing)?;
                Some(drawing_node(self, &imported.picture, drawing, role_of(fill), Parts::All))
            }
            FillPaint::Window(shown) => self.window_fill(fill, shown),
            FillPaint::Form(form) => self.form_fill(fill, form),
        }?;
        Some(laid_on(fill, node))
    }

    fn photo_fill(&mut self, fill: &Fill, photo_fill: &PhotoFill, tone: Option<ToneId>) -> Option<Node> {
        let photo = self.sheet.photos.get(&photo_fill.photo)?;
        let role = role_of(fill);
        if photo_fill.alone && !photo.subjects.is_empty() {
            let cutouts = photo.drawn_subjects().filter_map(|s| cutout(photo_fill, photo, s.key, tone));
            let cutouts: Vec<Node> = cutouts.map(Node::from).collect();
            return Some(Group { role, ..Group::of(cutouts) }.into());
        }
        let picture = photo_picture(&photo_fill.photo, photo, &photo_fill.placement, tone);
        Some(Picture { role, ..picture }.into())
    }

    /// Lettering or another form, seen only where the opening is.
    fn form_fill(&mut self, fill: &Fill, form: &FormFill) -> Option<Node> {
        let path = match form_path(&form.form, &[], self.library) {
            Ok(path) => unite(&path),
            Err(_) => {
                self.incomplete = true;
                return None;
            }
        };
        if path.is_empty() {
            return None;
        }
        let paint = self.paint(&form.paint, path.bounding_box(), Moves::WithPiece);
        Some(Shape { role: role_of(fill), geometry: Geometry::path(path), fill: Some(paint), stroke: None }.into())
    }

    /// Another window of the sheet, with what keeps it from being drawn.
    pub(super) fn shown(&mut self, window: PieceId) -> Option<std::sync::Arc<PieceScene>> {
        let other = self.windows.shown(window)?;
        self.incomplete |= other.key.is_none();
        self.problem = self.problem.take().or(other.problem.clone());
        Some(other)
    }

    /// Another window of the sheet, as part of this one.
    fn window_fill(&mut self, fill: &Fill, shown: &WindowFill) -> Option<Node> {
        let other = self.shown(shown.piece)?;
        let fragment = std::sync::Arc::clone(&other.fragment);
        Some(Reuse { role: role_of(fill), fragment, transform: shown.by.affine() }.into())
    }
}

/// With the strength and the blend mode of its fill.
fn laid_on(fill: &Fill, node: Node) -> Node {
    let group = Group { opacity: Share::new(fill.strength), blend: fill.blend, ..Group::of(vec![node]) };
    if group.is_isolated() {
        group.into()
    } else {
        group.nodes.into_iter().next().unwrap_or_else(|| Group::default().into())
    }
}

/// A photo at its place.
pub(super) fn photo_picture(id: &PhotoId, photo: &Photo, place: &Placement, tone: Option<ToneId>) -> Picture {
    let source = PhotoSource { id: id.clone(), width: photo.width, height: photo.height, pull: place.pull };
    Picture {
        role: Role::PART,
        source: Source::Photo(source),
        frame: place.frame(photo.width, photo.height),
        transform: place.affine(photo.width, photo.height),
        tone,
    }
}
