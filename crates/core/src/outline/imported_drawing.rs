//! An imported drawing: its outline in pieces, and its picture.

use super::DrawingTree;
use crate::combine::{Part, parts};
use crate::sheet::Drawing;
use kurbo::BezPath;
use serde::{Deserialize, Serialize};

/// What an imported drawing comes to.
#[derive(Debug, Clone, Serialize, Deserialize)]
#[serde(from = "Kept", into = "Kept")]
pub struct ImportedDrawing {
    /// The name of its file, without the ending.
    pub name: String,
    /// The connected pieces of all it paints, united, the largest first; millimetres, with their centre at the origin.
    pub pieces: Vec<Part>,
    /// The same in its own groups and colours.
    pub picture: DrawingTree,
    /// What was left out, in sentences.
    pub notes: Vec<String>,
}

impl ImportedDrawing {
    /// From its united outline and its picture.
    pub fn new(name: impl Into<String>, path: &BezPath, picture: DrawingTree, notes: Vec<String>) -> Self {
        let mut pieces = parts(path);
        pieces.sort_by(|a, b| b.area.total_cmp(&a.area));
        Self { name: name.into(), pieces, picture, notes }
    }

    /// Bytes that it takes, roughly.
    pub fn bytes(&self) -> u64 {
        let shapes = self.picture.parts.iter().filter_map(|p| p.shape.as_ref()).map(|s| s.path.elements().len());
        let pieces = self.pieces.iter().map(|p| p.path.elements().len());
        let elements: usize = shapes.chain(pieces).sum();
        (elements * size_of::<kurbo::PathEl>() + self.picture.parts.len() * 200) as u64
    }

    /// Whether a form shows a piece, by its place in the list.
    pub fn shows(&self, drawing: &Drawing, piece: usize) -> bool {
        self.pieces.get(piece).is_some_and(|p| p.area >= drawing.specks)
            && !drawing.picked_off.contains(&(piece as u32))
    }
}

/// How a drawing is kept: its pieces as SVG path data, which holds every number exactly.
#[derive(Serialize, Deserialize)]
struct Kept {
    name: String,
    pieces: Vec<String>,
    picture: DrawingTree,
    notes: Vec<String>,
}

impl From<ImportedDrawing> for Kept {
    fn from(drawn: ImportedDrawing) -> Self {
        let pieces = drawn.pieces.iter().map(|p| p.path.to_svg()).collect();
        Self { name: drawn.name, pieces, picture: drawn.picture, notes: drawn.notes }
    }
}

impl From<Kept> for ImportedDrawing {
    fn from(kept: Kept) -> Self {
        let pieces = kept.pieces.iter().filter_map(|data| BezPath::from_svg(data).ok()).map(Part::new).collect();
        Self { name: kept.name, pieces, picture: kept.picture, notes: kept.notes }
    }
}

/// The outline of what a form shows of its drawing.
pub fn drawing_path(drawing: &Drawing, drawn: &ImportedDrawing) -> BezPath {
    let shown = drawn.pieces.iter().enumerate().filter(|(i, _)| drawn.shows(drawing, *i));
    shown.flat_map(|(_, p)| p.path.elements().iter().copied()).collect()
}
