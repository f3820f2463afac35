//! A window or a bundle shown several times by rule: in a row, a grid or a ring, or along a line.

use super::Members;
use super::paint::{is_whole, whole};
use super::placement::is_zero;
use super::split::{is_unmoved, unmoved};
use kurbo::{Affine, Point, Vec2};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// How a window or a bundle is repeated. The first member lies where that lies, except along a line. Members share everything but what is given to
/// one of them: fills that say so, a word, a place. Lengths are millimetres, places are in sheet space.
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
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Layout {
    /// One after the other. `gap` is how far neighbours are from each other along the row; `along` is a direction.
    Row { count: u32, gap: f64, along: [f64; 2] },
    /// In columns along `along` and rows along `down`, with a gap for each of the two.
    Grid { columns: u32, rows: u32, gaps: [f64; 2], along: [f64; 2], down: [f64; 2] },
    /// Around a centre, over so many degrees, clockwise; all around, the last one stands before the first. They turn with the ring, unless they
    /// stay `upright`.
    Ring { count: u32, centre: [f64; 2], sweep: f64, upright: bool },
    /// Along a line, their middles on it: the first one at its first point, and each so far along it from the one before it. Where the line is too
    /// short, they go on straight beyond its end.
    Line(LineLayout),
}

/// A line along which members lie.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct LineLayout {
    pub count: u32,
    /// How far it is along the line from one member to the next.
    pub distance: f64,
    /// Two or more places: x and y in sheet space, and the pressure there from 0 to 1.
    pub points: Vec<[f64; 3]>,
    /// It runs as a curve through its points; else from point to point.
    pub smooth: bool,
    /// Members stay upright; else they turn with the line.
    pub upright: bool,
    /// Which way the line runs where a member stands as what is repeated does: degrees clockwise from the right.
    #[serde(default, skip_serializing_if = "is_zero")]
    pub level: f64,
    /// How much smaller a member is where there is no pressure: 0 leaves all of one size, at 1 they vanish.
    pub thinning: f64,
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
            Self::Row { count, .. } | Self::Ring { count, .. } | Self::Line(LineLayout { count, .. }) => *count,
            Self::Grid { columns, rows, .. } => columns.saturating_mul(*rows),
        }
    }
}

impl Repeat {
    /// What is given to one member, if anything is.
    pub fn look(&self, member: u32) -> Option<&MemberLook> {
        self.looks.values().find(|look| look.member == member)
    }

    /// The same without what is given to members that are not there.
    pub(crate) fn with_looks_of_members(&self) -> Self {
        let mut own = self.clone();
        let count = own.layout.count();
        own.looks.retain(|look| look.member < count);
        own
    }

    /// The same after what is repeated was transformed.
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
            Layout::Line(line) => {
                line.distance *= by.determinant().abs().sqrt();
                let ([x, y], _) = turned(<(f64, f64)>::from(Vec2::from_angle(line.level.to_radians())).into());
                line.level = y.atan2(x).to_degrees();
                for [x, y, _] in &mut line.points {
                    let p = by * Point::new(*x, *y);
                    (*x, *y) = (p.x, p.y);
                }
            }
        }
        self.turn = if mirrors { -self.turn } else { self.turn };
        for look in self.looks.iter_mut().map(|m| &mut m.value).filter(|l| !is_unmoved(&l.by)) {
            look.by = (by * Affine::new(look.by) * by.inverse()).as_coeffs();
        }
    }
}
