//! Paints of the sheet as paints of the tree.

use super::builder::Builder;
use crate::scene::tree::{
    Gradient as TreeGradient, GradientAxis, GradientStop, Moves, Paint as TreePaint, Role, Share, Spread, Swatch,
};
use crate::sheet::{Colour, Gradient, GradientKind, GradientVector, Mix, Paint, Tint};
use kurbo::{Affine, Point, Rect};

impl Builder<'_> {
    /// A gradient without a vector of its own runs over `bounds` (the space of what is painted): from the top to the bottom, or from the
    /// centre to the corners. `moves` says which drags take the gradient along.
    pub fn paint(&mut self, paint: &Paint, bounds: Rect, moves: Moves) -> TreePaint {
        let (gradient, vector) = match paint {
            Paint::Colour { colour } => return (*colour).into(),
            Paint::Ink { ink, vector } => match self.sheet.ink(*ink).map(|i| &i.mix) {
                Some(Mix::Colour { colour }) => {
                    return TreePaint::Solid(Swatch { colour: *colour, ink: Some(*ink) });
                }
                Some(Mix::Gradient { gradient }) => (gradient, *vector),
                // an ink that is not there has been refused before
                None => return Colour::INK.into(),
            },
            Paint::Gradient { gradient, vector } => (gradient, *vector),
        };
        let vector = vector.unwrap_or_else(|| gradient.over(bounds));
        let [from, to] = [vector.from, vector.to].map(|[x, y]| Point::new(x, y));
        let axis = match gradient.kind {
            GradientKind::Linear => GradientAxis::Linear { from, to },
            GradientKind::Radial => GradientAxis::Radial { centre: from, radius: (to - from).hypot(), focus: from },
        };
        let stop = |s: &crate::sheet::Stop| GradientStop {
            at: Share::new(s.at),
            swatch: self.swatch(&s.tint),
            opacity: Share::new(s.opacity),
        };
        let stops = gradient.stops.iter().map(stop).collect();
        let (role, transform) = (Role::moving(moves), Affine::IDENTITY);
        let gradient = TreeGradient { role, axis, transform, spread: Spread::Pad, stops };
        TreePaint::Gradient(self.definitions.add_gradient(gradient))
    }

    /// A colour of the sheet, with its ink.
    pub fn swatch(&self, tint: &Tint) -> Swatch {
        Swatch { colour: self.sheet.colour(tint), ink: tint.ink() }
    }
}

impl Gradient {
    /// Where it runs on something that lies in `bounds`, if nobody said so.
    pub fn over(&self, bounds: Rect) -> GradientVector {
        let c = bounds.center();
        match self.kind {
            GradientKind::Linear => GradientVector { from: [c.x, bounds.y0], to: [c.x, bounds.y1] },
            GradientKind::Radial => {
                let radius = bounds.width().hypot(bounds.height()) / 2.0;
                GradientVector { from: [c.x, c.y], to: [c.x + radius, c.y] }
            }
        }
    }
}
