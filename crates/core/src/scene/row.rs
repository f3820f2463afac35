//! Windows that show one photo between them: for what breaks out of it they are one opening.

use super::View;
use super::layer::{EdgeView, OverhangView};
use super::markup::path_data;
use super::soft::widest_fade_of;
use crate::breakout::contours;
use crate::combine::{Rule, grow, join_pair};
use crate::outline::opening_path;
use crate::sheet::{FadeSide, Finish, PhotoFill, Piece, PieceId, Rim, ShadowPlace, Sheet, Window};
use kurbo::BezPath;
use std::borrow::Cow;
use std::collections::BTreeSet;

/// A window with those that share a photo with it.
pub(super) struct Row<'a> {
    /// All that is open, in sheet space; without overlaps.
    pub opening: Cow<'a, BezPath>,
    /// Edges of different rows are told apart by counting on from this number, see [`OverhangView::touches`].
    pub first_edge: u32,
    /// What the window itself opens.
    own: &'a BezPath,
    windows: Vec<&'a Window>,
    others: Vec<PieceId>,
}

/// The rows that a window is part of: one for each set of windows with which it shares photos.
pub(super) struct Rows<'a> {
    /// The window alone comes first.
    all: Vec<Row<'a>>,
    sheet: &'a Sheet,
    piece: PieceId,
}

/// How far what is let out reaches under the rim of another window at least, in millimetres.
const UNDER: f64 = 0.1;

impl<'a> Rows<'a> {
    /// `shown` is what the window itself opens, in sheet space.
    pub fn of(sheet: &'a Sheet, piece: PieceId, window: &'a Window, shown: &'a BezPath, view: &View<'_>) -> Self {
        let (opening, windows) = (Cow::Borrowed(shown), vec![window]);
        let alone = Row { opening, first_edge: 0, own: shown, windows, others: Vec::new() };
        let mut rows = Self { all: vec![alone], sheet, piece };
        for (_, photo) in window.photos() {
            let others = rows.others(window, photo);
            if !rows.all.iter().any(|row| row.others == others) {
                let row = rows.with(&others, view);
                rows.all.push(row);
            }
        }
        rows
    }

    /// The pieces behind whose windows a photo of this window lies too.
    fn others(&self, window: &Window, photo: &PhotoFill) -> Vec<PieceId> {
        let shows = |p: &&Piece| {
            // what is open of a negative window is all around it
            let others = |w: &Window| !w.finish.negative && w.shows(photo);
            p.id != self.piece && !p.hidden && p.window().is_some_and(others)
        };
        if window.finish.negative {
            return Vec::new();
        }
        self.sheet.pieces.iter().filter(shows).map(|p| p.id).collect()
    }

    /// The window with others.
    fn with(&self, others: &[PieceId], view: &View<'_>) -> Row<'a> {
        let last = self.all.last().map_or(0, |row| row.first_edge + contours(&row.opening).count() as u32);
        let (own, mut windows) = (self.all[0].own, self.all[0].windows.clone());
        let mut opening = Cow::Borrowed(own);
        for other in others.iter().filter_map(|id| self.sheet.piece(*id)?.window()) {
            if let Ok(path) = opening_path(&other.opening, view.library) {
                opening = Cow::Owned(join_pair(&opening, &path, Rule::Union));
                windows.push(other);
            }
        }
        Row { opening, first_edge: last, own, windows, others: others.to_vec() }
    }

    /// The window alone.
    pub fn alone(&self) -> &Row<'a> {
        &self.all[0]
    }

    /// The window with those behind which this one of its photos lies too.
    pub fn of_photo(&self, window: &Window, photo: &PhotoFill) -> &Row<'a> {
        let others = self.others(window, photo);
        self.all.iter().find(|row| row.others == others).unwrap_or(self.alone())
    }

    /// The contours that any of the overhangs lies against.
    pub fn edges(&self, overhangs: &[OverhangView]) -> Vec<EdgeView> {
        let touched: BTreeSet<u32> = overhangs.iter().flat_map(|o| o.touches.iter().copied()).collect();
        let all = self.all.iter().flat_map(|row| contours(&row.opening).zip(row.first_edge..));
        let touched = all.filter(|(_, key)| touched.contains(key));
        touched.map(|(path, key)| EdgeView { key, path: path_data(&path) }).collect()
    }
}

impl<'a> Row<'a> {
    fn finishes(&self) -> impl Iterator<Item = &'a Finish> {
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

    /// What the other windows open, with their rims; None where there are no others.
    pub fn others(&self) -> Option<BezPath> {
        let rims = self.finishes().skip(1).flat_map(|f| &f.rims).filter(|r| !r.off);
        let outward = rims.map(Rim::reach_outward).fold(0.0, f64::max);
        let others = join_pair(&self.opening, self.own, Rule::Difference);
        (!self.others.is_empty()).then(|| grow(&others, outward))
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

    /// How far into the openings and out of them there is something that what breaks out can run over or under: rims beneath it, on whichever side
    /// they run, and shadows into the openings. In millimetres; None where there is nothing.
    pub fn edged(&self) -> Option<(f64, f64)> {
        let rims = || self.finishes().flat_map(|f| &f.rims).filter(|r| !r.off && !r.over && r.width > 0.0);
        let shadows = self.finishes().flat_map(|f| &f.shadows);
        let shadows = shadows.filter(|s| !s.off && s.place == ShadowPlace::Inside);
        let inward = rims().map(Rim::reach_inward).chain(shadows.map(|s| s.distance + s.size)).reduce(f64::max)?;
        Some((inward, rims().map(Rim::reach_outward).fold(0.0, f64::max)))
    }
}
