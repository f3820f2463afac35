//! The scene as data: a tree of plain nodes that is drawn, written and measured.
//!
//! A [`Fragment`] is a tree with all that it refers to. It is built once and then shared; nothing in it changes. Lengths are in millimetres,
//! `x` to the right and `y` downwards. Node spaces are those of their parents unless a transform is given.
//!
//! **How a group is drawn.** Its nodes are drawn one over the other. If the group is a picture of its own ([`Group::is_isolated`]),
//! they are drawn on nothing; then come its effect, its clip, its mask and its opacity, and the result is mixed with what lies beneath by
//! its blend mode. This is the order of Compositing and Blending Level 1, section 2.2.

mod coverage;
mod effect;
mod fragment;
mod ids;
mod paint;
mod picture;
mod role;
mod shape;
mod values;

pub use coverage::{Clip, Coverage, Mask};
pub use effect::{Effect, Shadow, ToneCurve, ToneStep};
pub use fragment::{Definitions, Fragment};
pub use ids::{ClipId, GradientId, MaskId, PatternId, ToneId};
pub use paint::{Gradient, GradientAxis, GradientStop, Paint, Pattern, Spread, Swatch};
pub use picture::{Computed, PhotoSource, Picture, Source};
pub use role::{Moves, Role, Shows};
pub use shape::{Geometry, Line, Shape, Stroke};
pub use values::{Length, Share};

use crate::sheet::Blend;
use kurbo::Affine;
use std::sync::Arc;

/// Anything that is drawn.
#[derive(Debug, Clone, PartialEq)]
pub enum Node {
    Group(Box<Group>),
    Shape(Box<Shape>),
    Picture(Box<Picture>),
    Reuse(Box<Reuse>),
}

/// Nodes that are drawn together.
#[derive(Debug, Clone, PartialEq)]
pub struct Group {
    pub role: Role,
    /// From the group's space to that of its parent. Clip, mask and effect are in the group's space.
    pub transform: Affine,
    pub clip: Option<ClipId>,
    pub mask: Option<MaskId>,
    pub effect: Option<Effect>,
    pub opacity: Share,
    pub blend: Blend,
    /// Its nodes are made one picture first, even if nothing else asks for that.
    pub isolated: bool,
    /// From back to front.
    pub nodes: Vec<Node>,
}

/// A fragment that is drawn here too, with its own definitions.
#[derive(Debug, Clone, PartialEq)]
pub struct Reuse {
    pub role: Role,
    pub fragment: Arc<Fragment>,
    /// From the fragment's space to that of the node's parent.
    pub transform: Affine,
}

impl Default for Group {
    fn default() -> Self {
        Self {
            role: Role::PART,
            transform: Affine::IDENTITY,
            clip: None,
            mask: None,
            effect: None,
            opacity: Share::WHOLE,
            blend: Blend::Normal,
            isolated: false,
            nodes: Vec::new(),
        }
    }
}

impl Group {
    /// A group that only holds nodes together.
    pub fn of(nodes: Vec<Node>) -> Self {
        Self { nodes, ..Self::default() }
    }

    /// Whether it is drawn on nothing first, and then mixed with what lies beneath as one picture.
    pub fn is_isolated(&self) -> bool {
        self.isolated
            || self.clip.is_some()
            || self.mask.is_some()
            || self.effect.is_some()
            || !self.opacity.is_whole()
            || self.blend != Blend::Normal
    }
}

impl From<Group> for Node {
    fn from(group: Group) -> Self {
        Self::Group(Box::new(group))
    }
}

impl From<Shape> for Node {
    fn from(shape: Shape) -> Self {
        Self::Shape(Box::new(shape))
    }
}

impl From<Picture> for Node {
    fn from(picture: Picture) -> Self {
        Self::Picture(Box::new(picture))
    }
}

impl From<Reuse> for Node {
    fn from(reuse: Reuse) -> Self {
        Self::Reuse(Box::new(reuse))
    }
}
