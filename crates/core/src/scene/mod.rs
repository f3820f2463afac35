//! A sheet as data that is drawn: a tree of plain nodes for each piece.
//!
//! [`SceneBuilder`] computes it from the sheet; [`tree`] says what it is made of; [`svg`] writes it for the screen and for files; `inky-render`
//! draws it as pixels. What people need to handle a piece is computed beside it, in [`crate::handles`].

mod build;
mod cost;
mod depends;
mod model;
pub mod svg;
pub mod tree;

pub use build::{
    PAPER_SIDE_MM, SceneBuilder, SoftOpening, drawing_part, paper_picture, paper_sides, scene, soft_opening,
};
pub use cost::{Cost, Excess};
pub use depends::{Keys, Needs, WINDOWS_DEEP};
pub use model::{BundleMemberScene, LayerScene, PieceProblem, PieceScene, Scene, SceneMemo};
