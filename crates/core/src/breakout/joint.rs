//! Windows, and members of a repeated bundle, that show one photo between them: for what breaks out of it they are one opening.

use crate::combine::contours;
use crate::combine::{Rule, grow, join_pair};
use crate::outline::{OutlineSources, opening_outline, widest_fade_of};
use crate::sheet::{FadeSide, FillId, Finish, PhotoFill, Piece, PieceId, Rim, ShadowPlace, Sheet, Window};
use kurbo::BezPath;
use std::sync::Arc;

/// How far what is let out reaches under the rim of another window at least, in millimetres.
const UNDER: f64 = 0.1;

/// A window with those that share a photo with it. Paths are in sheet space, lengths in millimetres.
#[derive(Debug, Clone)]
pub struct JointOpening {
    /// All that is open, without overlaps.
    pub opening: Arc<BezPath>,
    /// Edges of different joint openings are told apart by counting on from this number.
    pub first_edge: u32,
    /// How far the openings fade inwards from their outlines at most.
    pub fades_inward: f64,
    /// How far into the openings and out of them there is something that what breaks out can run over or under: rims beneath it, on
    /// whichever side they run, and shadows into the openings. None where there is nothing.
    pub edged: Option<(f64, f64)>,
    /// What the window itself opens.
    own: Arc<BezPath>,
    sharing: Sharing,
    /// The photos that lie behind all of it; none for the window alone.
    fills: Vec<FillId>,
    /// How far the rims of the other openings reach outwards: those beneath what breaks out, and all.
    rims_beneath: f64,
    rims: f64,
}

/// What else a photo of a window lies behind.
#[derive(Debug, Clone, PartialEq, Default)]
struct Sharing {
    /// Other windows.
    others: Vec<PieceId>,
    /// What the window opens in all members of the bundle around it; sheet space.
    members: Option<BezPath>,
}

impl Sharing {
    fn is_none(&self) -> bool {
        self.others.is_empty() && self.members.is_none()
    }
}

/// The joint openings that a window is part of: one for each set of windows with which it shares photos.
#[derive(Debug, Clone)]
pub struct JointOpenings {
    /// The window alone comes first.
    all: Vec<JointOpening>,
}

impl JointOpenings {
    /// `shown` is what the window itself opens; `in_members` what it opens in all members of a repeated bundle behind which its photos run. Sheet space.
    pub fn of(
        sheet: &Sheet,
        piece: PieceId,
        window: &Window,
        shown: Arc<BezPath>,
        in_members: Option<&BezPath>,
        sources: &dyn OutlineSources,
    ) -> Self {
        let mut joints = Self { all: vec![JointOpening::new(shown, Sharing::default(), &[window], sources, 0)] };
        for (fill, photo) in window.photos() {
            let stays = window.fill(fill).is_some_and(|f| !f.follows_opening);
            let sharing = Sharing {
                others: sharers(sheet, piece, window, photo),
                members: in_members.filter(|_| stays).cloned(),
            };
            if sharing.is_none() {
                continue;
            }
            if let Some(known) = joints.all.iter_mut().find(|joint| joint.sharing == sharing) {
                known.fills.push(fill);
                continue;
            }
            let last = joints.all.last().map_or(0, |j| j.first_edge + contours(&j.opening).len() as u32);
            let mut windows = vec![window];
            windows.extend(sharing.others.iter().filter_map(|id| sheet.piece(*id)?.window()));
            let own = Arc::clone(&joints.all[0].own);
            let joint = JointOpening::new(own, sharing, &windows, sources, last);
            joints.all.push(JointOpening { fills: vec![fill], ..joint });
        }
        joints
    }

    /// The window alone.
    pub fn alone(&self) -> &JointOpening {
        &self.all[0]
    }

    /// The window with whatever else a fill of it lies behind.
    pub fn of_fill(&self, fill: FillId) -> &JointOpening {
        self.all.iter().find(|joint| joint.fills.contains(&fill)).unwrap_or(self.alone())
    }

    /// Every contour, with the number by which overhangs call it.
    pub fn edges(&self) -> impl Iterator<Item = (u32, BezPath)> {
        self.all.iter().flat_map(|joint| (joint.first_edge..).zip(contours(&joint.opening)))
    }
}

/// The pieces behind whose windows a photo of this window lies too.
pub fn sharers(sheet: &Sheet, piece: PieceId, window: &Window, photo: &PhotoFill) -> Vec<PieceId> {
    let shows = |p: &&Piece| {
        // what is open of a negative window is all around it
        let others = |w: &Window| !w.finish.negative && w.is_masked() && w.shows(photo);
        p.id != piece && !p.hidden && p.window().is_some_and(others)
    };
    if window.finish.negative || photo.shared.is_none() || !window.is_masked() {
        return Vec::new();
    }
    sheet.pieces.iter().filter(shows).map(|p| p.id).collect()
}

impl JointOpening {
    /// The first window is the one whose own opening `own` is.
    fn new(
        own: Arc<BezPath>,
        sharing: Sharing,
        windows: &[&Window],
        sources: &dyn OutlineSources,
        first_edge: u32,
    ) -> Self {
        let mut opening = Arc::clone(&own);
        for other in windows.iter().skip(1) {
            if let Ok(outline) = opening_outline(&other.opening, sources) {
                opening = Arc::new(join_pair(&opening, &outline.path, Rule::Union));
            }
        }
        if let Some(members) = &sharing.members {
            opening = Arc::new(join_pair(&opening, members, Rule::Union));
        }
        let finishes = || windows.iter().map(|w| &w.finish);
        // in other members the window has its rims too
        let others = if sharing.members.is_some() { 0 } else { 1 };
        let rims_of_others = || finishes().skip(others).flat_map(|f| f.rims.values()).filter(|r| !r.off);
        Self {
            opening,
            first_edge,
            fades_inward: windows.iter().map(|w| fades_inward(w)).fold(0.0, f64::max),
            edged: edged(finishes()),
            own,
            sharing,
            fills: Vec::new(),
            rims_beneath: rims_of_others().filter(|r| !r.over).map(Rim::outward).fold(0.0, f64::max),
            rims: rims_of_others().map(Rim::outward).fold(0.0, f64::max),
        }
    }

    /// Where the rims of other openings, which are drawn before this one, are left free by what runs under them at `strip` (sheet space,
    /// within the openings). None where the edge is the window's own.
    pub fn rim_of_others(&self, strip: &BezPath) -> Option<BezPath> {
        let apart = join_pair(strip, &self.own, Rule::Intersection).is_empty();
        (apart && self.rims_beneath > UNDER).then(|| grow(strip, self.rims_beneath - UNDER))
    }

    /// What is open besides the window itself, with its rims; None where there is nothing.
    pub fn others(&self) -> Option<BezPath> {
        let others = || join_pair(&self.opening, &self.own, Rule::Difference);
        (!self.sharing.is_none()).then(|| grow(&others(), self.rims))
    }
}

fn fades_inward(window: &Window) -> f64 {
    let softness = &window.finish.softness;
    let inward = match softness.side {
        FadeSide::Both => softness.width / 2.0,
        FadeSide::Inward => softness.width,
        FadeSide::Outward => 0.0,
    };
    inward.max(widest_fade_of(&window.opening))
}

fn edged<'a>(finishes: impl Iterator<Item = &'a Finish> + Clone) -> Option<(f64, f64)> {
    let rims = finishes.clone().flat_map(|f| f.rims.values()).filter(|r| !r.off && !r.over && r.width > 0.0);
    let shadows = finishes.flat_map(|f| &f.shadows).filter(|s| !s.off && s.place == ShadowPlace::Inside);
    let inward = rims.clone().map(Rim::inward).chain(shadows.map(|s| s.distance + s.size)).reduce(f64::max)?;
    Some((inward, rims.map(Rim::outward).fold(0.0, f64::max)))
}
