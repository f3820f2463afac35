//! What a PDF has no words for, as pictures where it is.

use super::geometry::{placed, size};
use super::pictures::grey;
use crate::RenderError;
use crate::draw::{Canvas, Painter, PatternCells, Pen, Plane, Prepared, Space, coverage, pattern_cell, thrown};
use crate::pictures::{Originals, Pictures, island_uses};
use inky_core::scene::Scene;
use inky_core::scene::tree::{Fragment, Group, Mask, Pattern, Shadow};
use krilla::image::Image;
use krilla::surface::Surface;
use kurbo::{Affine, Size};
use vello_cpu::Pixmap;

/// Draws islands at the file's resolution.
pub(super) struct Islands {
    prepared: Prepared,
    /// The page with its bleed.
    canvas: Canvas,
}

/// Shares of pixels at their place.
pub(super) struct Island {
    shares: Image,
    /// Pixels.
    size: Size,
    /// From pixels to the sheet, in millimetres.
    to_sheet: Affine,
}

impl Islands {
    /// `density` is pixels for a millimetre, `bleed` millimetres on all sides.
    pub fn of(scene: &Scene, originals: &Originals, density: f64, bleed: f64) -> Result<Self, RenderError> {
        let pictures = Pictures::of(island_uses(scene), originals.clone(), density)?;
        let prepared = Prepared { scene: scene.clone(), pictures, cells: PatternCells::default(), bleed };
        let side = |mm: f64| ((mm + 2.0 * bleed) * density).round().clamp(1.0, u16::MAX.into()) as u16;
        let canvas = Canvas { scale: density, origin: (0, 0), width: side(scene.width), height: side(scene.height) };
        Ok(Self { prepared, canvas })
    }

    /// The shares of a shadow; None where nothing is thrown onto the page.
    pub fn shadow(
        &self,
        fragment: &Fragment,
        group: &Group,
        effect: &Shadow,
        space: Space,
    ) -> Result<Option<Island>, RenderError> {
        let pen = Pen::new(self.canvas, self.prepared.bleed);
        let plane = thrown(&pen, effect, space, |canvas, fallen| {
            let mut painter = Painter::new(&self.prepared, canvas);
            painter.nodes(fragment, &group.nodes, fallen);
            painter.finish()
        });
        plane.map_or(Ok(None), |plane| self.island(&plane))
    }

    /// The shares of a mask; None where nothing is seen through it.
    pub fn mask(&self, fragment: &Fragment, mask: &Mask, space: Space) -> Result<Option<Island>, RenderError> {
        let pen = Pen::new(self.canvas, self.prepared.bleed);
        coverage(&pen, fragment, mask, space).map_or(Ok(None), |plane| self.island(&plane))
    }

    /// One cell of a pattern as pixels.
    pub fn cell(&self, fragment: &Fragment, pattern: &Pattern, space: Space) -> Option<Pixmap> {
        pattern_cell(&self.prepared, fragment, pattern, space.within(pattern.transform).scale, self.canvas.scale)
    }

    /// What there is of a plane, without the empty rows and columns around it.
    fn island(&self, plane: &Plane) -> Result<Option<Island>, RenderError> {
        let (width, height) = (usize::from(plane.canvas.width), usize::from(plane.canvas.height));
        let seen = |share: &f32| *share >= 0.5 / 255.0;
        let row = |y: usize| &plane.shares[y * width..][..width];
        let rows: Vec<usize> = (0..height).filter(|y| row(*y).iter().any(seen)).collect();
        let (Some(top), Some(bottom)) = (rows.first(), rows.last()) else { return Ok(None) };
        let left = rows.iter().filter_map(|y| row(*y).iter().position(seen)).min().unwrap_or(0);
        let right = rows.iter().filter_map(|y| row(*y).iter().rposition(seen)).max().unwrap_or(width - 1);
        let cropped = (*top..=*bottom).flat_map(|y| &row(y)[left..=right]).map(|v| (v * 255.0 + 0.5) as u8);
        let (w, h) = (right - left + 1, bottom - top + 1);
        let to_sheet =
            plane.canvas.of_sheet(self.prepared.bleed).inverse() * Affine::translate((left as f64, *top as f64));
        let shares = grey(w as u32, h as u32, cropped.collect())?;
        Ok(Some(Island { shares, size: Size::new(w as f64, h as f64), to_sheet }))
    }
}

impl Island {
    /// Draws the shares in grey onto a surface in a space that lies so on the sheet.
    pub fn draw(&self, surface: &mut Surface<'_>, space: Space) -> Result<(), RenderError> {
        let extent = size(self.size)?;
        surface.push_transform(&placed(space.to_sheet.inverse() * self.to_sheet));
        surface.draw_image(self.shares.clone(), extent);
        surface.pop();
        Ok(())
    }
}
