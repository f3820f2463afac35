//! From a sheet to its scene.

mod breakouts;
mod drawing;
mod edge;
mod fills;
mod gloss;
mod page;
mod paint;
mod paper;
mod soft;
mod tile;
mod tone;
mod window;

pub use drawing::drawing_part;
pub use paper::{SIDE_MM as PAPER_SIDE_MM, paper_picture, paper_sides};
pub use soft::{SoftOpening, soft_opening};

use super::depends::Keys;
use super::tree::{Definitions, Fragment, Node};
use super::{Cost, Excess, PieceProblem, PieceScene, Scene, SceneMemo};
use crate::breakout::WindowBreakout;
use crate::library::Library;
use crate::outline::{ImportedDrawing, OpeningOutline, opening_outline};
use crate::sheet::{DrawingId, Photo, Piece, PieceId, PieceKind, Placement, Sheet, Window};
use kurbo::{BezPath, Point};
use rayon::prelude::*;
use std::collections::HashMap;
use std::sync::{Arc, Mutex, PoisonError};

/// Computes the scenes of pieces, each once.
pub struct SceneBuilder<'a> {
    sheet: &'a Sheet,
    library: &'a dyn Library,
    memo: &'a SceneMemo,
    keys: Keys,
    /// What was built for this sheet, also where it may not be kept.
    built: Mutex<HashMap<PieceId, Arc<PieceScene>>>,
}

impl<'a> SceneBuilder<'a> {
    pub fn new(sheet: &'a Sheet, library: &'a dyn Library, memo: &'a SceneMemo) -> Self {
        Self { sheet, library, memo, keys: Keys::of(sheet), built: Mutex::default() }
    }

    /// What the scenes of the pieces depend on.
    pub fn keys(&self) -> &Keys {
        &self.keys
    }

    /// The scene of the whole sheet. Hidden pieces are left out.
    pub fn scene(&self) -> Scene {
        let pieces: Vec<&Piece> = self.sheet.pieces.iter().filter(|p| !p.hidden).collect();
        let (backdrop, border) = self.page();
        Scene {
            width: self.sheet.width,
            height: self.sheet.height,
            ppi: self.sheet.ppi,
            background: self.sheet.background,
            backdrop,
            border,
            pieces: affordable(pieces.into_par_iter().map(|p| self.piece(p)).collect()),
        }
    }

    /// What lies beneath all pieces, and what lies over them.
    pub fn page(&self) -> (Fragment, Fragment) {
        (page::backdrop(self.builder()), page::border(self.builder()))
    }

    /// The scene of one piece; an empty one where it takes too much to draw it at the sheet's resolution.
    pub fn piece(&self, piece: &Piece) -> Arc<PieceScene> {
        let scene = self.computed(piece);
        match scene.cost.excess(self.sheet.ppi) {
            Some(excess) => Arc::new(scene.refused(excess.into())),
            None => scene,
        }
    }

    /// As it was kept, or computed now.
    fn computed(&self, piece: &Piece) -> Arc<PieceScene> {
        let built = || self.built.lock().unwrap_or_else(PoisonError::into_inner);
        let key = self.keys.of_piece(piece.id);
        let known = built().get(&piece.id).cloned().or_else(|| self.memo.get(key?));
        if let Some(known) = known {
            return known;
        }
        let scene = self.compute(piece);
        let kept = match scene.key {
            Some(key) => self.memo.put(key, scene),
            None => Arc::new(scene),
        };
        // another thread may have built it meanwhile
        Arc::clone(built().entry(piece.id).or_insert(kept))
    }

    fn builder(&self) -> Builder<'_> {
        Builder {
            sheet: self.sheet,
            library: self.library,
            scenes: self,
            definitions: Definitions::default(),
            opening: Arc::default(),
            incomplete: false,
            problem: None,
        }
    }

    fn compute(&self, piece: &Piece) -> PieceScene {
        let mut builder = self.builder();
        let mut scene = PieceScene::empty(piece.id);
        let nodes = match &piece.kind {
            PieceKind::Window(_) if self.keys.is_too_deep(piece.id) => {
                scene.problem = Some(PieceProblem::TooDeep);
                Vec::new()
            }
            PieceKind::Window(window) => match opening_outline(&window.opening, self.library) {
                Ok(outline) => {
                    let nodes = builder.window(piece.id, window, &outline, &mut scene);
                    scene.outline = outline;
                    nodes
                }
                Err(error) => {
                    scene.problem = Some(PieceProblem::Outline(error));
                    builder.incomplete = true;
                    Vec::new()
                }
            },
            PieceKind::Picture(picture) => match self.sheet.photos.get(&picture.photo) {
                Some(photo) => {
                    scene.outline = Arc::new(OpeningOutline::plain(border(photo, &picture.placement)));
                    vec![fills::photo_picture(&picture.photo, photo, &picture.placement, None).into()]
                }
                None => Vec::new(),
            },
        };
        if !builder.incomplete {
            scene.key = self.keys.of_piece(piece.id);
        }
        builder.opening = Arc::clone(&scene.outline.path);
        let within = builder.problem.take();
        scene.fragment = Arc::new(builder.fragment(nodes));
        scene.cost = Cost::of(&scene.fragment);
        scene.problem = scene.problem.or(within);
        scene
    }

    /// The scene of a window that is shown within another one.
    fn window(&self, id: PieceId) -> Option<Arc<PieceScene>> {
        let piece = self.sheet.piece(id)?;
        piece.window()?;
        Some(self.computed(piece))
    }
}

/// Puts one fragment together.
struct Builder<'a> {
    sheet: &'a Sheet,
    library: &'a dyn Library,
    scenes: &'a SceneBuilder<'a>,
    definitions: Definitions,
    opening: Arc<BezPath>,
    /// Something that the fragment refers to is not there: it must be built again when it is.
    incomplete: bool,
    /// Why something within it cannot be drawn.
    problem: Option<PieceProblem>,
}

impl Builder<'_> {
    fn fragment(self, nodes: Vec<Node>) -> Fragment {
        Fragment { opening: self.opening, definitions: self.definitions, nodes }
    }

    fn drawing(&mut self, id: &DrawingId) -> Option<Arc<ImportedDrawing>> {
        let found = self.library.drawing(id);
        self.incomplete |= found.is_none();
        found
    }

    fn window(
        &mut self,
        piece: PieceId,
        window: &Window,
        outline: &OpeningOutline,
        scene: &mut PieceScene,
    ) -> Vec<Node> {
        if outline.path.is_empty() {
            return Vec::new();
        }
        let open = window::Open::new(self.sheet, window, Arc::clone(&outline.path));
        let released = WindowBreakout::of(self.sheet, piece, window, open.shown(), self.library);
        self.incomplete |= released.incomplete;
        let nodes = window::window_nodes(self, piece, window, &open, &released);
        scene.breakout = Some(released);
        nodes
    }
}

/// Pieces from back to front, without those that make the whole too much.
fn affordable(mut pieces: Vec<Arc<PieceScene>>) -> Vec<Arc<PieceScene>> {
    let mut sum = Cost::default();
    for piece in &mut pieces {
        let mut with = sum;
        with.add(&piece.cost);
        if with.fits_a_sheet() {
            sum = with;
        } else {
            *piece = Arc::new(piece.refused(Excess::Sheet.into()));
        }
    }
    pieces
}

/// The border of a photo that lies on the sheet, in sheet space.
fn border(photo: &Photo, place: &Placement) -> BezPath {
    let corners = place.corners(photo.width, photo.height).map(|[x, y]| Point::new(x, y));
    let mut path = BezPath::new();
    path.move_to(corners[0]);
    corners[1..].iter().for_each(|p| path.line_to(*p));
    path.close_path();
    path
}
