//! How a piece is seen: whole, and in panes and members that have something of their own.

use crate::combine::{Rule, bounds, join_pair};
use crate::library::Library;
use crate::outline::{OutlineError, opened_in_members, seen_bundle_members, seen_members, sheet_panes, shown_outline};
use crate::sheet::{BundleId, Fill, Piece, Sheet, Window};
use kurbo::{Affine, BezPath, Rect, Shape};

/// One look of a piece.
pub(super) struct Look {
    /// With those fills alone that are seen.
    pub window: Window,
    /// What its fills are seen in, in the space in which they lie.
    pub opening: BezPath,
    /// From there to each of the places where it is seen on the sheet.
    pub places: Vec<Affine>,
}

impl Look {
    /// Every look of a piece that shows other fills or has another outline than the others.
    ///
    /// # Errors
    /// A window that has no outline.
    pub fn all(sheet: &Sheet, piece: &Piece, library: &dyn Library) -> Result<Vec<Self>, OutlineError> {
        let Some(window) = piece.window() else { return Ok(Vec::new()) };
        let around = places_in_bundles(sheet, piece, library);
        let outline = shown_outline(sheet, window, library)?;
        let mut looks = Vec::new();
        let repeat = window.repeat.as_deref();
        let members = repeat.map_or(vec![(0, Affine::IDENTITY)], |r| seen_members(r, &outline.path));
        let behind = repeat.is_some_and(|r| r.behind);
        let common = common(window);
        let whole = if behind {
            let mut all = BezPath::new();
            members.iter().for_each(|(_, at)| all.extend(*at * (*outline.path).clone()));
            all
        } else {
            opened_in_members(sheet, piece, library).unwrap_or_else(|| (*outline.path).clone())
        };
        let in_members: Vec<Affine> = match behind {
            true => around.clone(),
            false => around.iter().flat_map(|a| members.iter().map(|(_, m)| *a * *m)).collect(),
        };
        let opening = shown_in(sheet, &common, whole);
        looks.push(Self { opening, window: common, places: in_members.clone() });
        // what panes have for themselves
        for pane in sheet_panes(sheet, &window.split, &outline.path) {
            if window.has_own_fills(&pane.at) {
                let own = of_fills(window, |f| f.pane.as_ref() == Some(&pane.at));
                let places = in_members.iter().map(|a| *a * pane.transform(&window.split)).collect();
                looks.push(Self { window: own, opening: pane.opening.clone(), places });
            }
        }
        // and what members of its own row have
        for (k, at) in members.iter().filter(|_| !behind) {
            if window.fills.iter().any(|f| !f.off && f.member == Some(*k)) {
                let own = window.in_member(*k);
                let outline = shown_outline(sheet, &own, library)?;
                let places = around.iter().map(|a| *a * *at).collect();
                looks.push(Self { opening: shown_in(sheet, &own, (*outline.path).clone()), window: own, places });
            }
        }
        Ok(looks)
    }

    /// Where it is seen on the sheet.
    pub fn bounds(&self) -> Rect {
        let own = bounds(&self.opening);
        self.places.iter().map(|at| at.transform_rect_bbox(own)).reduce(|a, b| a.union(b)).unwrap_or(own)
    }

    /// Where a rectangle of its own space is first seen on the sheet.
    pub fn seen(&self, own: Rect) -> Rect {
        self.places.first().map_or(own, |at| at.transform_rect_bbox(own))
    }

    /// How much larger it is seen than it lies at most.
    pub fn largest(&self) -> f64 {
        self.places.iter().map(|at| at.determinant().abs().sqrt()).fold(0.0, f64::max)
    }
}

/// What the fills of a window are seen in where this is its outline: that, or what is around it.
fn shown_in(sheet: &Sheet, window: &Window, outline: BezPath) -> BezPath {
    match window.finish.negative {
        true => join_pair(&printed(sheet).to_path(0.1), &outline, Rule::Difference),
        false => outline,
    }
}

/// The sheet with its bleed, in sheet space.
pub(super) fn printed(sheet: &Sheet) -> Rect {
    Rect::new(0.0, 0.0, sheet.width, sheet.height).inflate(sheet.bleed, sheet.bleed)
}

/// The window with what all of its panes and members show.
fn common(window: &Window) -> Window {
    of_fills(window, Fill::is_common)
}

fn of_fills(window: &Window, wanted: impl Fn(&Fill) -> bool) -> Window {
    Window { fills: window.fills.iter().filter(|f| !f.off && wanted(f)).cloned().collect(), ..window.clone() }
}

/// Where the bundles around a piece show it. Photos that run behind all members are asked for once.
fn places_in_bundles(sheet: &Sheet, piece: &Piece, library: &dyn Library) -> Vec<Affine> {
    let behind: Option<BundleId> = sheet.repeated_behind(piece).map(|b| b.id);
    let mut places = vec![Affine::IDENTITY];
    for bundle in sheet.bundles_around(piece.bundle).iter().filter_map(|id| sheet.bundle(*id)) {
        if bundle.repeat.is_some() && Some(bundle.id) != behind {
            let members = seen_bundle_members(sheet, bundle, library);
            places = members.iter().flat_map(|(_, at)| places.iter().map(move |p| *at * *p)).collect();
        }
    }
    places
}
