//! What of the subjects passes over the edge of an opening.

use super::{FillId, Members};
use crate::cutout::SubjectStroke;
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// The overhangs that are let out, and how they cross the edge.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, TS)]
pub struct Breakout {
    /// What is let out by a point alone: whichever part lies there. Sheets of earlier versions have only these.
    pub let_out: Vec<Anchor>,
    /// Places of the edge where what is let out runs under the rims, not over them. A place lies where subject and edge cross.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<Anchor>>")]
    pub under: Vec<Anchor>,
    /// Corrections by hand, later ones over earlier ones; they reach no farther than the subject does.
    #[serde(default, skip_serializing_if = "Members::is_none")]
    #[ts(optional, as = "Option<Members<BreakoutStroke>>")]
    pub painted: Members<BreakoutStroke>,
    /// Parts of subjects that were let out, cut or named; later ones over earlier ones.
    #[serde(default, skip_serializing_if = "Members::is_none")]
    #[ts(optional, as = "Option<Members<SubjectPart>>")]
    pub parts: Members<SubjectPart>,
    /// Nothing is let out beyond it.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub reach: Option<Box<ReachLine>>,
}

/// A point of the subject, and with it the part or the crossing it lies in.
///
/// It is kept in photo space (for a drawing in that of its page, in its own millimetres), so that the choice stays with the arm it was made for when photo or opening move.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct Anchor {
    pub fill: FillId,
    /// The number of the subject that it lies in.
    #[serde(default, skip_serializing_if = "is_first")]
    #[ts(optional, as = "Option<u32>")]
    pub subject: u32,
    /// Pixels of the photo.
    pub x: f64,
    /// Pixels of the photo.
    pub y: f64,
}

/// A part of a subject that a person has decided on: a region of the photo, so that it stays what it is however subjects are divided, and wherever
/// photo and opening move.
///
/// Where the subject lies under the opening, the region reaches as far as the part would go if it came out; where there is no subject, a little
/// into the air.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct SubjectPart {
    pub fill: FillId,
    #[serde(default, skip_serializing_if = "is_first")]
    #[ts(optional, as = "Option<u32>")]
    pub subject: u32,
    /// A point within it, in pixels of the photo.
    pub at: [f64; 2],
    /// Closed polygons, in pixels of the photo; what an odd number of them holds is inside.
    pub region: Vec<Vec<[f64; 2]>>,
    /// Whether it is let out, or stays in.
    pub out: bool,
    #[serde(default, skip_serializing_if = "String::is_empty")]
    #[ts(optional, as = "Option<String>")]
    pub name: String,
    /// How wide it fades where it is cut from a part that stays in, in pixels of the photo.
    #[serde(default, skip_serializing_if = "is_none")]
    #[ts(optional, as = "Option<f64>")]
    pub soft: f64,
    /// Whether a cut of it was moved or drawn by hand: it is kept even while it stays in.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    #[ts(optional, as = "Option<bool>")]
    pub shaped: bool,
}

/// A brush stroke that lets a subject out (where it keeps) or holds it in.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct BreakoutStroke {
    pub fill: FillId,
    #[serde(default, skip_serializing_if = "is_first")]
    #[ts(optional, as = "Option<u32>")]
    pub subject: u32,
    #[serde(flatten)]
    #[ts(flatten)]
    pub stroke: SubjectStroke,
}

/// A straight line through two points of the sheet (millimetres). What is let out stays on that side of it on which the middle of the opening
/// lies.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
pub struct ReachLine {
    pub from: [f64; 2],
    pub to: [f64; 2],
}

fn is_first(key: &u32) -> bool {
    *key == 0
}

fn is_none(width: &f64) -> bool {
    *width == 0.0
}

impl SubjectPart {
    /// Whether a point of the photo lies in its region.
    pub fn holds(&self, [x, y]: [f64; 2]) -> bool {
        let crossed = self.region.iter().flat_map(|polygon| {
            let next = polygon.iter().cycle().skip(1);
            polygon
                .iter()
                .zip(next)
                .filter(|([ax, ay], [bx, by])| (*ay > y) != (*by > y) && x < ax + (y - ay) * (bx - ax) / (by - ay))
        });
        crossed.count() % 2 == 1
    }

    /// Whether something about it was said besides that it is let out.
    pub fn is_plain(&self) -> bool {
        self.name.is_empty() && self.soft == 0.0 && !self.shaped
    }
}

impl Breakout {
    /// Whether nothing is let out.
    pub fn is_plain(&self) -> bool {
        let parts = self.parts.iter().any(|p| p.out);
        self.let_out.is_empty() && !parts && !self.painted.iter().any(|s| s.stroke.keep)
    }

    /// Whether anything of a fill is let out.
    pub fn lets_out(&self, fill: FillId) -> bool {
        let painted = self.painted.iter().any(|s| s.fill == fill && s.stroke.keep);
        let parts = self.parts.iter().any(|p| p.fill == fill && p.out);
        painted || parts || self.let_out.iter().any(|a| a.fill == fill)
    }

    /// Keeps only what belongs to fills and subjects for which `wanted` holds.
    pub fn retain(&mut self, wanted: impl Fn(FillId, u32) -> bool) {
        self.let_out.retain(|a| wanted(a.fill, a.subject));
        self.under.retain(|a| wanted(a.fill, a.subject));
        self.painted.retain(|s| wanted(s.fill, s.subject));
        self.parts.retain(|p| wanted(p.fill, p.subject));
    }

    /// Every fill it refers to.
    pub fn fills_mut(&mut self) -> impl Iterator<Item = &mut FillId> {
        let anchors = self.let_out.iter_mut().chain(&mut self.under).map(|a| &mut a.fill);
        let painted = self.painted.iter_mut().map(|s| &mut s.fill);
        anchors.chain(painted).chain(self.parts.iter_mut().map(|p| &mut p.fill))
    }
}
