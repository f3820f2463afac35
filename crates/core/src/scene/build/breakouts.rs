//! What breaks out of a window, as nodes.

use super::builder::Builder;
use super::drawing::{Parts, drawing_node};
use super::edge::region;
use super::roles::moves;
use crate::breakout::{Fade, JointOpening, Release};
use crate::scene::tree::{
    Clip, ClipId, Coverage, Geometry, Group, Length, Mask, Node, PhotoSource, Picture, Role, Share, Shows, Source,
    ToneId,
};
use crate::sheet::{Fill, FillPaint, Photo, PhotoFill};
use kurbo::{Affine, BezPath, Rect, Shape, Stroke, StrokeOpts, stroke};

/// What one fill lets out of one of its subjects, ready to be laid where it belongs.
pub(super) struct Breakout<'a> {
    /// Beneath what the opening shows.
    pub node: Node,
    /// What throws a shadow.
    pub silhouette: Node,
    /// Sheet space.
    pub bounds: Rect,
    /// Once more, over the rims; None where there are none.
    pub over_rims: Option<Node>,
    pub joint: &'a JointOpening,
}

impl Breakout<'_> {
    /// Lets it be seen within a clip alone.
    pub fn limit(&mut self, clip: ClipId) {
        let limited = |node: Node| Group { clip: Some(clip), ..Group::of(vec![node]) }.into();
        for node in [&mut self.node, &mut self.silhouette].into_iter().chain(&mut self.over_rims) {
            *node = limited(node.clone());
        }
    }
}

impl Builder<'_> {
    /// None where the photo or the drawing is not there.
    pub fn breakout<'a>(
        &mut self,
        fill: &Fill,
        release: &Release,
        joint: &'a JointOpening,
        tone: Option<ToneId>,
    ) -> Option<Breakout<'a>> {
        let (image, clip) = match &fill.paint {
            FillPaint::Photo(photo_fill) => {
                let photo = self.sheet.photos.get(&photo_fill.photo)?;
                let image = Node::from(cutout(photo_fill, photo, release.subject, tone)?);
                (image, Some(release.released.clone()))
            }
            FillPaint::Drawing(drawing) => {
                let imported = self.drawing(&drawing.drawing)?;
                let image = drawing_node(self, &imported.picture, drawing, Role::PART, Parts::LetOut);
                // beyond the reach line nothing of it is seen, wherever it is laid
                let image = match &release.side {
                    Some(side) => self.clipped(side.clone(), Group::of(vec![image])),
                    None => image,
                };
                (image, None)
            }
            _ => return None,
        };
        let role = Role::moving(moves(fill));
        let strength = Share::new(fill.strength);
        let moving = |strength: Share| Group { role, opacity: strength, ..Group::of(vec![image.clone()]) };
        let mut limited = |group: Group| match &clip {
            Some(path) => {
                let node = self.clipped(path.clone(), group);
                self.faded(&release.fades, release.bounds, node)
            }
            None => group.into(),
        };
        let shows = role.showing(Shows::Breakout(fill.id));
        let node = limited(Group { role: shows, ..moving(strength) });
        let silhouette = limited(moving(Share::WHOLE));
        let over_rims = release.over_rims.as_ref().map(|path| {
            let inner = Node::from(moving(strength));
            let node = self.clipped(path.clone(), Group::of(vec![inner]));
            self.faded(&release.fades, release.bounds, node)
        });
        Some(Breakout { node, silhouette, bounds: release.bounds, over_rims, joint })
    }

    /// A node that ends softly at lines.
    fn faded(&mut self, fades: &[Fade], bounds: Rect, node: Node) -> Node {
        let along = |fade: &Fade| {
            // nothing at the line, half at half the width
            let strip = stroke(fade.line.to_path(0.1), &Stroke::new(fade.width), &StrokeOpts::default(), 0.01);
            let strip = Coverage::Inside { role: Role::PART, geometry: Geometry::path(strip) };
            Coverage::Blurred(Box::new(strip), Length::new(fade.width / 4.0))
        };
        if fades.is_empty() {
            return node;
        }
        let all = Coverage::Any { role: Role::PART, of: fades.iter().map(along).collect() };
        let coverage = Coverage::Without(Box::new(Coverage::All), Box::new(all));
        let mask = self.definitions.add_mask(Mask { region: region(bounds), coverage });
        Group { mask: Some(mask), ..Group::of(vec![node]) }.into()
    }

    /// A group that is seen only in a path (sheet space).
    fn clipped(&mut self, path: BezPath, group: Group) -> Node {
        let clip = Clip { role: Role::PART, geometry: Geometry::path(path), transform: Affine::IDENTITY };
        Group { clip: Some(self.definitions.add_clip(clip)), ..group }.into()
    }
}

/// A subject of a photo with its cleaned colours, where the photo lies.
pub(super) fn cutout(photo_fill: &PhotoFill, photo: &Photo, subject: u32, tone: Option<ToneId>) -> Option<Picture> {
    let place = &photo_fill.placement;
    let id = photo.subject(subject)?.matte.clone();
    let source = PhotoSource { id, width: photo.width, height: photo.height, pull: place.pull };
    Some(Picture {
        role: Role::PART,
        source: Source::Cutout(source),
        frame: place.frame(photo.width, photo.height),
        transform: place.affine(photo.width, photo.height),
        tone,
    })
}
