//! Nodes onto a page.

use super::geometry::{path, placed, rect_path, size};
use super::islands::{Island, Islands};
use super::paints::{SpotColours, blend_of, colour, gradients, share, stroke};
use super::pictures::PdfPictures;
use crate::RenderError;
use crate::draw::{Space, is_drawn_at_once};
use crate::pictures::has_islands;
use inky_core::cutout::Watch;
use inky_core::scene::tree::{
    Coverage, Effect, Fragment, Geometry, Group, Mask, Node, Paint, Pattern, Picture, Shape, Share,
};
use inky_core::sheet::{Blend, Colour};
use krilla::color::Color;
use krilla::image::Image;
use krilla::mask::MaskType;
use krilla::num::NormalizedF32;
use krilla::paint::{Fill, FillRule};
use krilla::stream::Stream;
use krilla::surface::Surface;
use kurbo::{Affine, BezPath, Rect};
use vello_cpu::peniko::ImageAlphaType;

/// Draws nodes onto one surface, whose coordinates are those of the nodes' space.
pub(super) struct Writer<'a, 's> {
    pub surface: &'a mut Surface<'s>,
    pub pictures: &'a PdfPictures,
    pub islands: &'a Islands,
    pub spots: &'a SpotColours,
    pub watch: &'a dyn Watch,
}

impl Writer<'_, '_> {
    /// All nodes of a fragment.
    pub fn fragment(&mut self, fragment: &Fragment, space: Space) -> Result<(), RenderError> {
        self.watch.go_on()?;
        self.nodes(fragment, &fragment.nodes, space)
    }

    fn nodes(&mut self, fragment: &Fragment, nodes: &[Node], space: Space) -> Result<(), RenderError> {
        for node in nodes {
            match node {
                Node::Group(group) => {
                    self.within(group.transform, space, |own, space| own.group(fragment, group, space))?;
                }
                Node::Shape(shape) => self.shape(fragment, shape, space)?,
                Node::Picture(picture) => {
                    self.within(picture.transform, space, |own, _| own.picture(fragment, picture))?;
                }
                Node::Reuse(reuse) => {
                    self.within(reuse.transform, space, |own, space| own.fragment(&reuse.fragment, space))?;
                }
            }
        }
        Ok(())
    }

    /// Draws in a space within this one; nothing where that has no extent.
    fn within(
        &mut self,
        transform: Affine,
        space: Space,
        draw: impl FnOnce(&mut Self, Space) -> Result<(), RenderError>,
    ) -> Result<(), RenderError> {
        let space = space.within(transform);
        if space.to_sheet.determinant().abs() < 1e-12 {
            return Ok(());
        }
        if transform == Affine::IDENTITY {
            return draw(self, space);
        }
        self.surface.push_transform(&placed(transform));
        let drawn = draw(self, space);
        self.surface.pop();
        drawn
    }

    fn group(&mut self, fragment: &Fragment, group: &Group, space: Space) -> Result<(), RenderError> {
        let all = &fragment.definitions;
        let mut pushed = 0;
        if let Some(clip) = group.clip.map(|id| all.clip(id)) {
            let outline = clip.transform * clip.geometry.outline(&fragment.opening).into_owned();
            let Some(limit) = path(&outline) else { return Ok(()) };
            self.surface.push_clip_path(&limit, &rule(&clip.geometry));
            pushed += 1;
        }
        let drawn = self.limited(fragment, group, space, &mut pushed);
        (0..pushed).for_each(|_| self.surface.pop());
        drawn
    }

    /// A group within its clip; `pushed` counts what has to be popped.
    fn limited(
        &mut self,
        fragment: &Fragment,
        group: &Group,
        space: Space,
        pushed: &mut usize,
    ) -> Result<(), RenderError> {
        let thrown = match &group.effect {
            None => None,
            Some(Effect::Shadow(shadow)) => match self.islands.shadow(fragment, group, shadow, space)? {
                Some(island) => Some((island, shadow)),
                None => return Ok(()),
            },
        };
        if group.blend != Blend::Normal {
            self.surface.push_blend_mode(blend_of(group.blend));
            *pushed += 1;
        }
        if let Some(mask) = group.mask.map(|id| fragment.definitions.mask(id)) {
            let Some(stream) = self.mask(fragment, mask, space)? else { return Ok(()) };
            self.surface.push_mask(krilla::mask::Mask::new(stream, MaskType::Luminosity));
            *pushed += 1;
        }
        let opacity = Share::new(group.opacity.get() * thrown.as_ref().map_or(1.0, |t| t.1.opacity.get()));
        if !opacity.is_whole() {
            self.surface.push_opacity(share(opacity));
            *pushed += 1;
        } else if group.is_isolated() && group.mask.is_none() && mixes(group) {
            self.surface.push_isolated();
            *pushed += 1;
        }
        match thrown {
            None => self.nodes(fragment, &group.nodes, space),
            Some((island, shadow)) => {
                let stream = self.stream(|own| island.draw(own.surface, space))?;
                self.surface.push_mask(krilla::mask::Mask::new(stream, MaskType::Luminosity));
                let painted = self.fill_rect(shadow.region, self.spots.colour(shadow.swatch));
                self.surface.pop();
                painted
            }
        }
    }

    fn shape(&mut self, fragment: &Fragment, shape: &Shape, space: Space) -> Result<(), RenderError> {
        let outline = shape.geometry.outline(&fragment.opening);
        let Some(drawn) = path(&outline) else { return Ok(()) };
        for paint in self.paints(fragment, shape.fill.as_ref(), space)? {
            let fill = Fill { paint, opacity: NormalizedF32::ONE, rule: rule(&shape.geometry) };
            self.surface.set_stroke(None);
            self.surface.set_fill(Some(fill));
            self.surface.draw_path(&drawn);
        }
        if let Some(line) = &shape.stroke
            && !line.line.width.is_zero()
        {
            for paint in self.paints(fragment, Some(&line.paint), space)? {
                self.surface.set_fill(None);
                self.surface.set_stroke(Some(stroke(&line.line, paint)));
                self.surface.draw_path(&drawn);
            }
        }
        Ok(())
    }

    /// What an area or a line is painted with, one over the other; nothing where there is nothing to paint with.
    fn paints(
        &mut self,
        fragment: &Fragment,
        paint: Option<&Paint>,
        space: Space,
    ) -> Result<Vec<krilla::paint::Paint>, RenderError> {
        let Some(paint) = paint else { return Ok(Vec::new()) };
        Ok(match paint {
            Paint::Solid(swatch) => vec![self.spots.colour(*swatch).into()],
            Paint::Gradient(id) => gradients(fragment.definitions.gradient(*id), self.spots),
            Paint::Pattern(id) => {
                let pattern = fragment.definitions.pattern(*id);
                let cell = self.cell(fragment, pattern, space)?.map(|stream| krilla::paint::Pattern {
                    stream,
                    transform: placed(pattern.transform),
                    width: pattern.cell.width as f32,
                    height: pattern.cell.height as f32,
                });
                cell.into_iter().map(Into::into).collect()
            }
        })
    }

    /// What one cell of a pattern shows.
    fn cell(&mut self, fragment: &Fragment, pattern: &Pattern, space: Space) -> Result<Option<Stream>, RenderError> {
        let cell = pattern.cell.to_rect();
        if !(cell.width() > 0.0 && cell.height() > 0.0) {
            return Ok(None);
        }
        if !has_islands(&pattern.nodes) {
            let space = space.within(pattern.transform);
            return self.stream(|own| own.nodes(fragment, &pattern.nodes, space)).map(Some);
        }
        let Some(pixels) = self.islands.cell(fragment, pattern, space) else { return Ok(None) };
        let (width, height) = (pixels.width().into(), pixels.height().into());
        let image = Image::from_rgba8(pixels.take_rgba8(ImageAlphaType::Alpha), width, height);
        self.stream(|own| {
            own.surface.draw_image(image, size(pattern.cell)?);
            Ok(())
        })
        .map(Some)
    }

    fn picture(&mut self, fragment: &Fragment, picture: &Picture) -> Result<(), RenderError> {
        let tone = picture.tone.map(|id| fragment.definitions.tone(id));
        let known = self.pictures.get(&picture.source, tone).ok_or(RenderError::MissingPicture)?;
        let frame = picture.frame;
        let extent = size(frame.size())?;
        let alpha = known.alpha.clone().map(|alpha| {
            self.stream(|own| {
                own.surface.draw_image(alpha, extent);
                Ok(())
            })
        });
        let alpha = alpha.transpose()?;
        self.surface.push_transform(&placed(Affine::translate(frame.origin().to_vec2())));
        match alpha {
            None => self.surface.draw_image(known.colours.clone(), extent),
            Some(stream) => {
                self.surface.push_mask(krilla::mask::Mask::new(stream, MaskType::Luminosity));
                self.surface.draw_image(known.colours.clone(), extent);
                self.surface.pop();
            }
        }
        self.surface.pop();
        Ok(())
    }

    /// What is drawn for a mask, in grey; None where nothing is seen through it.
    fn mask(&mut self, fragment: &Fragment, mask: &Mask, space: Space) -> Result<Option<Stream>, RenderError> {
        if is_drawn_at_once(&mask.coverage) {
            let limit = rect_path(mask.region)?;
            return self
                .stream(|own| {
                    own.surface.push_clip_path(&limit, &FillRule::NonZero);
                    let drawn = own.shares(fragment, &mask.coverage, mask.region);
                    own.surface.pop();
                    drawn
                })
                .map(Some);
        }
        let island: Option<Island> = self.islands.mask(fragment, mask, space)?;
        island.map(|island| self.stream(|own| island.draw(own.surface, space))).transpose()
    }

    /// Shares that are whole or nothing, in white.
    fn shares(&mut self, fragment: &Fragment, coverage: &Coverage, region: Rect) -> Result<(), RenderError> {
        let white = || krilla::paint::Paint::from(colour(Colour([255; 3])));
        match coverage {
            Coverage::Inside { geometry, .. } => {
                if let Some(outline) = path(&geometry.outline(&fragment.opening)) {
                    self.surface.set_stroke(None);
                    self.surface.set_fill(Some(Fill {
                        paint: white(),
                        opacity: NormalizedF32::ONE,
                        rule: rule(geometry),
                    }));
                    self.surface.draw_path(&outline);
                }
                Ok(())
            }
            Coverage::Along { geometry, line, .. } => {
                let outline: Option<_> = path(&BezPath::clone(&geometry.outline(&fragment.opening)));
                if let Some(outline) = outline.filter(|_| !line.width.is_zero()) {
                    self.surface.set_fill(None);
                    self.surface.set_stroke(Some(stroke(line, white())));
                    self.surface.draw_path(&outline);
                }
                Ok(())
            }
            Coverage::All => self.fill_rect(region, colour(Colour([255; 3])).into()),
            Coverage::Any { of, .. } => of.iter().try_for_each(|each| self.shares(fragment, each, region)),
            Coverage::Without(..) | Coverage::Both(..) | Coverage::OneOf(..) | Coverage::Blurred(..) => Ok(()),
        }
    }

    fn fill_rect(&mut self, area: Rect, with: Color) -> Result<(), RenderError> {
        let outline = rect_path(area)?;
        self.surface.set_stroke(None);
        let fill = Fill { paint: with.into(), opacity: NormalizedF32::ONE, rule: FillRule::NonZero };
        self.surface.set_fill(Some(fill));
        self.surface.draw_path(&outline);
        Ok(())
    }

    /// What is drawn by itself, in the coordinates of this surface.
    fn stream(
        &mut self,
        draw: impl FnOnce(&mut Writer<'_, '_>) -> Result<(), RenderError>,
    ) -> Result<Stream, RenderError> {
        let mut builder = self.surface.stream_builder();
        let mut surface = builder.surface();
        let mut writer = Writer {
            surface: &mut surface,
            pictures: self.pictures,
            islands: self.islands,
            spots: self.spots,
            watch: self.watch,
        };
        let drawn = draw(&mut writer);
        surface.finish();
        let stream = builder.finish();
        drawn.map(|()| stream)
    }
}

fn rule(geometry: &Geometry) -> FillRule {
    if geometry.even_odd() { FillRule::EvenOdd } else { FillRule::NonZero }
}

/// Whether it makes a difference that a group is one picture first: something within it mixes with what lies beneath, or all of it does.
fn mixes(group: &Group) -> bool {
    group.isolated || group.blend != Blend::Normal || group.nodes.iter().any(mixing)
}

fn mixing(node: &Node) -> bool {
    match node {
        Node::Group(group) => group.blend != Blend::Normal || group.nodes.iter().any(mixing),
        Node::Reuse(reuse) => reuse.fragment.nodes.iter().any(mixing),
        Node::Shape(_) | Node::Picture(_) => false,
    }
}
