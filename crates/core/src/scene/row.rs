//! Windows that show one photo between them: for what breaks out they are one opening.

use super::View;
use super::soft::widest_fade_of;
use crate::combine::{Rule, grow, join_pair};
use crate::outline::opening_path;
use crate::sheet::{FadeSide, Finish, Piece, Rim, ShadowPlace, Sheet, Window};
use kurbo::BezPath;
use std::borrow::Cow;

/// A window with those that share a photo with it.
pub(super) struct Row<'a> {
    /// All that is open, in sheet space; without overlaps.
    pub opening: Cow<'a, BezPath>,
    /// What the window itself opens.
    own: &'a BezPath,
    windows: Vec<&'a Window>,
}

/// How far what is let out reaches under the rim of another window at least, in millimetres.
const UNDER: f64 = 0.1;

impl<'a> Row<'a> {
    /// `shown` is what the window itself opens, in sheet space.
    pub fn of(sheet: &'a Sheet, piece: &Piece, window: &'a Window, shown: &'a BezPath, view: &View<'_>) -> Self {
        let others = sheet.pieces.iter().filter(|p| p.id != piece.id && !p.hidden).filter_map(|p| p.window());
        let mut row = Self { opening: Cow::Borrowed(shown), own: shown, windows: vec![window] };
        // what is open of a negative window is all around it
        for other in others.filter(|w| !window.finish.negative && !w.finish.negative && window.shares_photo_with(w)) {
            if let Ok(path) = opening_path(&other.opening, view.library) {
                row.opening = Cow::Owned(join_pair(&row.opening, &path, Rule::Union));
                row.windows.push(other);
            }
        }
        row
    }

    pub fn finishes(&self) -> impl Iterator<Item = &'a Finish> {
        self.windows.iter().map(|w| &w.finish)
    }

    /// Where the rims of other windows, which are drawn before this one, are left free by what runs under them at `strip` (sheet space, within the
    /// openings). None where the edge is the window's own.
    pub fn rim_of_others(&self, strip: &BezPath) -> Option<BezPath> {
        let rims = self.finishes().skip(1).flat_map(|f| &f.rims).filter(|r| !r.off && !r.over);
        let outward = rims.map(Rim::reach_outward).fold(0.0, f64::max);
        let apart = join_pair(strip, self.own, Rule::Intersection).is_empty();
        (apart && outward > UNDER).then(|| grow(strip, outward - UNDER))
    }

    /// How far the openings fade inwards from their outlines at most, in millimetres.
    pub fn fades_inward(&self) -> f64 {
        let fade = |w: &&Window| {
            let softness = &w.finish.softness;
            let inward = match softness.side {
                FadeSide::Both => softness.width / 2.0,
                FadeSide::Inward => softness.width,
                FadeSide::Outward => 0.0,
            };
            inward.max(widest_fade_of(&w.opening))
        };
        self.windows.iter().map(fade).fold(0.0, f64::max)
    }

    /// Whether any edge has anything that what breaks out could run under.
    pub fn is_edged(&self) -> bool {
        self.finishes().any(|finish| {
            let rims = finish.rims.iter().any(|r| !r.off && !r.over && r.width > 0.0);
            rims || finish.shadows.iter().any(|s| !s.off && s.place == ShadowPlace::Inside)
        })
    }
}
