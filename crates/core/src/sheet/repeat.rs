//! A window shown several times by rule: in a row, a grid or a ring.

use super::Members;
use super::paint::{is_whole, whole};
use super::placement::is_zero;
use super::split::{is_unmoved, unmoved};
use kurbo::{Affine, Point, Vec2};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// How a window is repeated. The first member lies where the window lies. Members share everything but what is given to one of them: fills that
/// say so, a word, a place. Lengths are millimetres, places are in sheet space.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Repeat {
    pub layout: Layout,
    /// How much further than the one before it each member is turned, clockwise, in degrees.
    #[serde(default, skip_serializing_if = "is_zero")]
    pub turn: f64,
    /// How large each member is beside the one before it.
    #[serde(default = "whole", skip_serializing_if = "is_whole")]
    pub scale: f64,
    /// The fills run behind all members as one; else each member shows them where it lies.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    pub behind: bool,
    /// Members that are moved, hidden, or have a word of their own.
    #[serde(default, skip_serializing_if = "Members::is_none")]
    pub looks: Members<MemberLook>,
}

/// Where members lie.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Layout {
    /// One after the other. `gap` is how far neighbours are from each other along the row; `along` is a direction.
    Row { count: u32, gap: f64, along: [f64; 2] },
    /// In columns along `along` and rows along `down`, with a gap for each of the two.
    Grid { columns: u32, rows: u32, gaps: [f64; 2], along: [f64; 2], down: [f64; 2] },
    /// Around a centre, over so many degrees, clockwise; all around, the last one stands before the first. They turn with the ring, unless they
    /// stay `upright`.
    Ring { count: u32, centre: [f64; 2], sweep: f64, upright: bool },
}

/// A member that is moved, hidden, or has a word of its own.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct MemberLook {
    /// Counted from 0, as the layout counts.
    pub member: u32,
    /// From where it would lie to where it lies, in SVG's order; in sheet space.
    #[serde(default = "unmoved", skip_serializing_if = "is_unmoved")]
    pub by: [f64; 6],
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    #[ts(optional, as = "Option<bool>")]
    pub hidden: bool,
    /// In place of the text of its lettering.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub word: Option<String>,
}

impl Layout {
    /// How many members there are.
    pub fn count(&self) -> u32 {
        match self {
            Self::Row { count, .. } | Self::Ring { count, .. } => *count,
            Self::Grid { columns, rows, .. } => columns.saturating_mul(*rows),
        }
    }
}

impl Repeat {
    /// What is given to one member, if anything is.
    pub fn look(&self, member: u32) -> Option<&MemberLook> {
        self.looks.values().find(|look| look.member == member)
    }

    /// The same after the window was transformed.
    pub(crate) fn transform(&mut self, by: Affine) {
        let mirrors = by.determinant() < 0.0;
        // how a direction is turned, and how much longer it becomes
        let turned = |[x, y]: [f64; 2]| {
            let v = by * Point::new(x, y) - by * Point::ORIGIN;
            let long = v.hypot() / Vec2::new(x, y).hypot();
            let v = v / v.hypot();
            ([v.x, v.y], long)
        };
        match &mut self.layout {
            Layout::Row { gap, along, .. } => {
                let (to, long) = turned(*along);
                (*along, *gap) = (to, *gap * long);
            }
            Layout::Grid { gaps, along, down, .. } => {
                let [(a, across), (d, below)] = [turned(*along), turned(*down)];
                (*along, *down, *gaps) = (a, d, [gaps[0] * across, gaps[1] * below]);
            }
            Layout::Ring { centre, sweep, .. } => {
                let p = by * Point::new(centre[0], centre[1]);
                *centre = [p.x, p.y];
                *sweep = if mirrors { -*sweep } else { *sweep };
            }
        }
        self.turn = if mirrors { -self.turn } else { self.turn };
        for look in self.looks.iter_mut().map(|m| &mut m.value).filter(|l| !is_unmoved(&l.by)) {
            look.by = (by * Affine::new(look.by) * by.inverse()).as_coeffs();
        }
    }
}
