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
mod ids;
mod node;
mod paint;
mod picture;
mod role;
mod shape;
mod values;

pub use coverage::{Clip, Coverage, Mask};
pub use effect::{Effect, Shadow, ToneCurve, ToneStep};
pub use ids::{ClipId, GradientId, MaskId, PatternId, ToneId};
pub use node::{Definitions, Fragment, Group, Node, Pattern, Reuse};
pub use paint::{Gradient, GradientAxis, GradientStop, Paint, Spread, Swatch};
pub use picture::{Computed, PhotoSource, Picture, Source};
pub use role::{Moves, Role, Shows};
pub use shape::{Geometry, Line, Shape, Stroke};
pub use values::{Length, Share};
