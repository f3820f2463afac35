//! What people need to handle a piece: where its outline, its photos and its forms lie, what of its subjects reaches over the edge. It is
//! computed beside the scene and changes nothing of how a piece is drawn.

mod bundles;
mod divided;
mod drawing_overhangs;
mod forms;
mod members;
mod outline;
mod overhang_view;
mod overhangs;
mod panes;
mod photos;

pub use bundles::{BundleHandles, BundlePartView};
pub use divided::DividedView;
pub use forms::{CellView, FillFormView, FormView, cell_views};
pub use members::RepeatMemberView;
pub use outline::OutlineView;
pub use overhang_view::{CrossingView, CutView, EdgeView, OverhangView};
pub use panes::{PaneView, SplitLineView};
pub use photos::{DrawingView, PhotoView, PulledView};

use crate::library::Library;
use crate::outline::{seen_at, sheet_panes, shown_outline};
use crate::scene::PieceScene;
use crate::sheet::{Anchor, FillPaint, Motif, Piece, PieceId, PieceKind, Sheet, TileFill};
use serde::Serialize;
use ts_rs::TS;

/// A piece as people handle it. Lengths are in millimetres, places in sheet space.
#[derive(Debug, Clone, Serialize, TS)]
pub struct PieceHandles {
    pub piece: PieceId,
    /// The opening of a window, the border of a picture.
    pub outline: OutlineView,
    /// Left, top, right and bottom of the outline.
    pub bounds: [f64; 4],
    /// The same without the open sides, if there are any.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub closed: Option<[f64; 4]>,
    /// The corners of each photo, clockwise from its own top left.
    pub photos: Vec<PhotoView>,
    /// The drawings that fill it in their own colours.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<DrawingView>>")]
    pub drawings: Vec<DrawingView>,
    /// What of the subjects lies outside of the opening.
    pub overhangs: Vec<OverhangView>,
    /// The edges that overhangs lie against: what shows, where the opening is a negative one.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<EdgeView>>")]
    pub edges: Vec<EdgeView>,
    /// Choices to let a part out for which there is none at the moment: the opening has swallowed it, or the subject is another.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<Anchor>>")]
    pub unmatched: Vec<Anchor>,
    /// Where what is let out crosses an edge that has something to run under.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<CrossingView>>")]
    pub crossings: Vec<CrossingView>,
    /// Where parts that are let out are cut from those that stay in.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<CutView>>")]
    pub cuts: Vec<CutView>,
    /// The forms of the opening, lists before what they hold.
    pub forms: Vec<FormView>,
    /// The forms that fill it.
    #[serde(skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<FillFormView>>")]
    pub fill_forms: Vec<FillFormView>,
    #[serde(flatten)]
    #[ts(flatten)]
    pub divided: DividedView,
    /// Nodes of the opening.
    pub nodes: usize,
    /// Nodes that it would have if it were not simplified.
    pub nodes_before: usize,
    /// Why the piece cannot be drawn.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub problem: Option<String>,
}

impl PieceHandles {
    /// `scene` is the piece's own.
    pub fn of(sheet: &Sheet, piece: &Piece, scene: &PieceScene, library: &dyn Library) -> Self {
        let path = &scene.outline.path;
        let b = crate::combine::bounds(path);
        let mut handles = Self {
            piece: piece.id,
            outline: OutlineView::of(path),
            bounds: [b.x0, b.y0, b.x1, b.y1],
            closed: scene.outline.closed.map(|b| [b.x0, b.y0, b.x1, b.y1]),
            photos: Vec::new(),
            drawings: Vec::new(),
            overhangs: Vec::new(),
            edges: Vec::new(),
            unmatched: Vec::new(),
            crossings: Vec::new(),
            cuts: Vec::new(),
            forms: Vec::new(),
            fill_forms: Vec::new(),
            divided: DividedView::default(),
            nodes: crate::combine::nodes(path),
            nodes_before: scene.outline.nodes_before,
            problem: scene.problem.as_ref().map(ToString::to_string),
        };
        let PieceKind::Window(window) = &piece.kind;
        handles.forms = forms::form_views(&window.opening, library);
        let word = |k: u32| {
            let own = window.repeat.as_ref()?.look(k).filter(|look| look.word.is_some())?;
            let own = shown_outline(sheet, &window.in_member(own.member), library).ok()?;
            Some((*own.path).clone())
        };
        let parts = (&window.split, window.repeat.as_deref());
        handles.divided = DividedView::of(parts, path, || sheet_panes(sheet, &window.split, path), word);
        handles.bounds = handles.divided.bounds().unwrap_or(handles.bounds);
        for fill in window.fills.iter().filter(|f| !f.off) {
            // one of a single pane or member is handled where it is seen
            let seen = seen_at(sheet, piece, fill, library).unwrap_or_default();
            match &fill.paint {
                FillPaint::Photo(p) => {
                    let view = PhotoView::of(sheet, &p.photo, &p.placement, Some(fill.id));
                    handles.photos.extend(view.map(|view| view.seen(seen)));
                }
                FillPaint::Tile(TileFill { motif: Motif::Photo(photo), placement, .. }) => {
                    handles.photos.extend(PhotoView::of(sheet, photo, placement, Some(fill.id)));
                }
                FillPaint::Drawing(drawing) => {
                    if let Some(imported) = library.drawing(&drawing.drawing) {
                        let view = DrawingView::of(fill.id, &drawing.placement, &imported.picture);
                        handles.drawings.push(view);
                    }
                }
                FillPaint::Form(form) => {
                    handles.fill_forms.extend(FillFormView::of(fill.id, &form.form, library));
                }
                FillPaint::Tile(_) | FillPaint::Window(_) | FillPaint::Plain(_) => {}
            }
        }
        if let Some(breakout) = &scene.breakout {
            let views = overhangs::overhang_views(sheet, window, breakout, library);
            handles.overhangs = views.overhangs;
            handles.edges = views.edges;
            handles.unmatched = views.unmatched;
            handles.crossings = views.crossings;
            handles.cuts = views.cuts;
        }
        handles
    }

    /// Bytes of its longer texts, roughly.
    pub fn text_bytes(&self) -> usize {
        let filling = self.fill_forms.iter().map(|f| &f.view);
        let forms = self.forms.iter().chain(filling).map(|f| f.outline.len() + 200);
        let overhangs = self.overhangs.iter().map(|o| o.outline.len() + 200);
        let edges = self.edges.iter().map(|e| e.path.len());
        self.outline.text_bytes() + self.divided.text_bytes() + forms.chain(overhangs).chain(edges).sum::<usize>()
    }
}
