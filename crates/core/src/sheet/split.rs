//! A window in panes: the lines that split it, and where its panes lie.

use super::placement::is_zero;
use super::{MemberId, Members};
use kurbo::{Affine, Point};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// How a window falls into panes. Each pane keeps the opening, the fills and the breakout. Lengths are millimetres, places are in sheet space.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize, TS)]
pub struct Split {
    /// In the order in which they split: each one splits the panes that those before it have left.
    #[serde(default, skip_serializing_if = "Members::is_none")]
    pub lines: Members<SplitLine>,
    /// How wide a strip is cut away along every line.
    #[serde(default, skip_serializing_if = "is_zero")]
    pub gap: f64,
    /// How far the two sides of every line are moved away from each other.
    #[serde(default, skip_serializing_if = "is_zero")]
    pub apart: f64,
    #[serde(default)]
    pub edges: PaneEdges,
    /// Panes that are moved, named or hidden.
    #[serde(default, skip_serializing_if = "Members::is_none")]
    pub looks: Members<PaneLook>,
}

/// A line that splits a window. Beyond its ends it runs on straight.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct SplitLine {
    /// Two or more.
    pub points: Vec<[f64; 2]>,
    pub course: Course,
    /// Its sides are exchanged, so that panes stay what they are when a window is mirrored.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    #[ts(optional, as = "Option<bool>")]
    pub flipped: bool,
    /// The one pane that it splits; all of those that it crosses without one.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub within: Option<PanePath>,
}

/// How a line runs through its points.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize, TS)]
#[serde(tag = "kind", rename_all = "snake_case")]
pub enum Course {
    /// From point to point.
    Straight,
    /// As a curve through all of them.
    Smooth,
    /// Teeth along the way from point to point: how many, and how far it is from their tips to their roots.
    Zigzag { count: u32, depth: f64 },
    /// Torn along the way from point to point: how far it strays, and by which chance.
    Torn { depth: f64, seed: u32 },
}

/// What of a finish follows the edges of panes.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum PaneEdges {
    /// Rims and shadows follow the edge that the window had: where it is split there are none.
    #[default]
    Old,
    /// Rims and shadows follow the edge of each pane.
    Own,
}

/// A pane: which side of which lines it lies on, in their order.
#[derive(Debug, Clone, PartialEq, Eq, Hash, PartialOrd, Ord, Default, Serialize, Deserialize, TS)]
#[serde(transparent)]
pub struct PanePath(pub Vec<PaneStep>);

/// A side of a line.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord, Serialize, Deserialize, TS)]
pub struct PaneStep {
    pub line: MemberId,
    /// The side to the left of someone who walks along it; else the right one.
    pub far: bool,
}

/// A pane that is moved, named or hidden.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct PaneLook {
    pub pane: PanePath,
    /// From where it would lie to where it lies, in SVG's order; in sheet space.
    #[serde(default = "unmoved", skip_serializing_if = "is_unmoved")]
    pub by: [f64; 6],
    #[serde(default, skip_serializing_if = "String::is_empty")]
    #[ts(optional, as = "Option<String>")]
    pub name: String,
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    #[ts(optional, as = "Option<bool>")]
    pub hidden: bool,
}

const UNMOVED: [f64; 6] = [1.0, 0.0, 0.0, 1.0, 0.0, 0.0];

pub(super) fn unmoved() -> [f64; 6] {
    UNMOVED
}

pub(super) fn is_unmoved(by: &[f64; 6]) -> bool {
    *by == UNMOVED
}

impl PanePath {
    /// Whether it is a part of `other`, or the same.
    pub fn lies_in(&self, other: &Self) -> bool {
        self.0.starts_with(&other.0)
    }

    /// The part of it on one side of a line.
    pub fn side(&self, line: MemberId, far: bool) -> Self {
        let mut steps = self.0.clone();
        steps.push(PaneStep { line, far });
        Self(steps)
    }
}

impl PaneLook {
    /// How a pane looks; None if that is as it would be anyway.
    pub(crate) fn new(pane: PanePath, by: Affine, name: String, hidden: bool) -> Option<Self> {
        // less is rounding
        let still = by.as_coeffs().iter().zip(UNMOVED).all(|(a, b)| (a - b).abs() < 1e-9);
        let by = if still { UNMOVED } else { by.as_coeffs() };
        (!still || !name.is_empty() || hidden).then_some(Self { pane, by, name, hidden })
    }
}

impl SplitLine {
    /// The same after what it splits was transformed.
    pub(crate) fn transform(&mut self, by: Affine) {
        let size = by.determinant().abs().sqrt();
        let mirrors = by.determinant() < 0.0;
        for point in &mut self.points {
            let p = by * Point::new(point[0], point[1]);
            *point = [p.x, p.y];
        }
        self.flipped ^= mirrors;
        if let Course::Zigzag { depth, .. } | Course::Torn { depth, .. } = &mut self.course {
            *depth *= if mirrors { -size } else { size };
        }
    }
}

impl Split {
    /// Whether nothing is split.
    pub fn is_none(&self) -> bool {
        self.lines.is_empty()
    }

    /// How a pane is moved, named or hidden, if it is.
    pub fn look(&self, pane: &PanePath) -> Option<&PaneLook> {
        self.looks.values().find(|look| look.pane == *pane)
    }

    /// Whether all lines that a pane lies along are still there.
    pub fn has(&self, pane: &PanePath) -> bool {
        pane.0.iter().all(|step| self.lines.iter().any(|line| line.id == step.line))
    }

    /// The same after the window was transformed.
    pub(crate) fn transform(&mut self, by: Affine) {
        let size = by.determinant().abs().sqrt();
        self.lines.iter_mut().for_each(|line| line.value.transform(by));
        self.gap *= size;
        self.apart *= size;
        for look in self.looks.iter_mut().map(|m| &mut m.value).filter(|l| !is_unmoved(&l.by)) {
            look.by = (by * Affine::new(look.by) * by.inverse()).as_coeffs();
        }
    }
}
