//! Windows that show one photo between them: for what breaks out they are one opening.

use super::View;
use super::soft::widest_fade_of;
use crate::combine::{Rule, join_pair};
use crate::outline::opening_path;
use crate::sheet::{FadeSide, Finish, Piece, ShadowPlace, Sheet, Window};
use kurbo::BezPath;

/// A window with those that share a photo with it.
pub(super) struct Row<'a> {
    /// All that is open, in sheet space; without overlaps.
    pub opening: BezPath,
    windows: Vec<&'a Window>,
}

impl<'a> Row<'a> {
    /// `shown` is what the window itself opens, in sheet space.
    pub fn of(sheet: &'a Sheet, piece: &Piece, window: &'a Window, shown: &BezPath, view: &View<'_>) -> Self {
        let others = sheet.pieces.iter().filter(|p| p.id != piece.id && !p.hidden).filter_map(|p| p.window());
        let mut row = Self { opening: shown.clone(), windows: vec![window] };
        // what is open of a negative window is all around it
        for other in others.filter(|w| !window.finish.negative && !w.finish.negative && window.shares_photo_with(w)) {
            if let Ok(path) = opening_path(&other.opening, view.library) {
                row.opening = join_pair(&row.opening, &path, Rule::Union);
                row.windows.push(other);
            }
        }
        row
    }

    pub fn finishes(&self) -> impl Iterator<Item = &'a Finish> {
        self.windows.iter().map(|w| &w.finish)
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
