//! One piece of a sheet as SVG, with what people need to handle it.

use super::View;
use super::form_view::{FormView, form_views};
use super::markup::{escape, matrix, number, path_data, path_data_from_start};
use super::window::window_markup;
use crate::combine::{bounds, clusters, nodes};
use crate::outline::{OpeningOutline, opening_outline};
use crate::sheet::{Anchor, FillId, Photo, PhotoId, Piece, PieceId, PieceKind, Placement, Sheet};
use kurbo::{BezPath, Point};
use serde::Serialize;
use ts_rs::TS;

/// From this many nodes on, an outline is painted in parts while it is handled.
const BUSY: usize = 1_000;

/// A piece, drawn.
#[derive(Debug, Clone, Serialize, TS)]
pub struct Layer {
    pub piece: PieceId,
    /// One SVG group in sheet space. For handling, paths that follow the outline say `data-outline` in place of `d`: a print's path
    /// data crosses once, and browsers read it once;
    /// its value is path data that comes before the outline.
    pub markup: String,
    /// Path data of the opening (or of the picture's border), in sheet space. Of a busy one, contours that lie apart stand on lines of
    /// their own, each with its start in absolute numbers (`M`) and all the rest in relative ones: what a drag only moves need not be read
    /// again, and what it leaves alone not even painted.
    pub outline: String,
    /// Left, top, right and bottom of the outline, in millimetres.
    pub bounds: [f64; 4],
    /// The same without the open sides, if there are any.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub closed: Option<[f64; 4]>,
    /// The corners of each photo, in sheet space, clockwise from its own top left.
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
    /// The forms of the opening, lists before what they hold.
    pub forms: Vec<FormView>,
    /// Nodes of the opening.
    pub nodes: usize,
    /// Nodes that it would have if it were not simplified.
    pub nodes_before: usize,
    /// Why the piece cannot be drawn.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub problem: Option<String>,
}

/// Where a photo of a piece lies.
#[derive(Debug, Clone, Serialize, TS)]
pub struct PhotoView {
    /// None for a picture that is a piece itself.
    #[ts(optional = nullable)]
    pub fill: Option<FillId>,
    pub corners: [[f64; 2]; 4],
    /// As it is seen where its corners are pulled.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub pulled: Option<PulledView>,
    /// Address of the whole photo.
    pub href: String,
    /// The photo's `transform`, from photo space to sheet space.
    pub transform: String,
    pub width: u32,
    pub height: u32,
    /// Photo pixels for an inch of the sheet.
    pub ppi: f64,
}

/// Where a drawing of a window lies.
#[derive(Debug, Clone, Serialize, TS)]
pub struct DrawingView {
    pub fill: FillId,
    /// The corners of its page, in sheet space, clockwise from its own top left.
    pub corners: [[f64; 2]; 4],
    /// Width of its page in millimetres of its own.
    pub width: f64,
    /// Height of its page in millimetres of its own.
    pub height: f64,
}

/// A photo in perspective, as a picture in photo space.
#[derive(Debug, Clone, Serialize, TS)]
pub struct PulledView {
    pub href: String,
    pub x: f64,
    pub y: f64,
    pub width: f64,
    pub height: f64,
}

/// A part of a subject outside of the opening.
#[derive(Debug, Clone, Serialize, TS)]
pub struct OverhangView {
    /// What lets it out.
    pub anchor: Anchor,
    /// The name of the subject that it is a part of, where the photo has several.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub of: Option<String>,
    /// The anchors that let it out now; none if it stays in.
    pub let_out_by: Vec<Anchor>,
    /// Path data in the space of the photo or the drawing, drawn with its transform.
    pub outline: String,
    pub transform: String,
    /// Whether it lies in a hole of the opening.
    pub counter: bool,
    /// Whether it is cut off by the end of the photo: let out, it shows a straight cut. Not known where corners are pulled.
    #[serde(skip_serializing_if = "std::ops::Not::not")]
    #[ts(optional, as = "Option<bool>")]
    pub cut_off: bool,
    /// The keys of the edges that it lies against.
    pub touches: Vec<u32>,
    /// Its area as a share of the photo's.
    pub share: f64,
    /// The piece of a drawing that it is a part of; none for a photo's subject.
    #[serde(skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub part: Option<u32>,
    /// A few words on where it lies: "above", "right", "in a counter".
    pub place: String,
}

/// One contour of an opening that overhangs lie against.
#[derive(Debug, Clone, Serialize, TS)]
pub struct EdgeView {
    /// What overhangs call it by.
    pub key: u32,
    /// Path data in sheet space.
    pub path: String,
}

/// A place where what is let out crosses the edge.
#[derive(Debug, Clone, Serialize, TS)]
pub struct CrossingView {
    /// What it is told by.
    pub anchor: Anchor,
    /// In sheet space.
    pub at: [f64; 2],
    /// The anchors that say it runs under the edge; none where it runs over.
    pub under_by: Vec<Anchor>,
}

/// Draws one piece.
pub fn layer(sheet: &Sheet, piece: &Piece, view: &View<'_>) -> Layer {
    let mut layer = Layer::empty(piece.id);
    if view.with_handles
        && let Some(window) = piece.window()
    {
        layer.forms = form_views(&window.opening, view.library);
    }
    let body = match &piece.kind {
        PieceKind::Window(window) => match opening_outline(&window.opening, view.library) {
            Ok(OpeningOutline { path: opening, nodes_before, closed }) => {
                layer.set_outline(&opening);
                layer.closed = closed.map(|b| [b.x0, b.y0, b.x1, b.y1]);
                layer.nodes_before = nodes_before;
                window_markup(sheet, piece, window, &opening, view, &mut layer)
            }
            Err(error) => {
                layer.problem = Some(error.to_string());
                String::new()
            }
        },
        PieceKind::Picture(picture) => {
            let Some(photo) = sheet.photos.get(&picture.photo) else {
                return layer;
            };
            let place = &picture.placement;
            layer.set_outline(&border(photo, place));
            layer.photos.push(photo_view((&picture.photo, photo), place, None, view));
            image(
                &view.pictures.photo(&picture.photo, photo, needed(photo, place, view), place.pull.as_ref()),
                photo,
                place,
                "",
                "",
            )
        }
    };
    layer.markup = format!("<g data-piece=\"{}\">{body}</g>", piece.id);
    if view.with_handles {
        // the interface allows no style attributes, and has a class for each blend mode
        layer.markup = layer.markup.replace("style=\"mix-blend-mode:", "class=\"blend-");
    }
    layer
}

impl Layer {
    pub(super) fn empty(piece: PieceId) -> Self {
        Self {
            piece,
            markup: String::new(),
            outline: String::new(),
            bounds: [0.0; 4],
            closed: None,
            photos: Vec::new(),
            drawings: Vec::new(),
            overhangs: Vec::new(),
            edges: Vec::new(),
            unmatched: Vec::new(),
            crossings: Vec::new(),
            forms: Vec::new(),
            nodes: 0,
            nodes_before: 0,
            problem: None,
        }
    }

    /// The outline as path data after that of `before`, or the place where it is to be filled in.
    pub(super) fn outline_attribute(&self, view: &View<'_>, before: &str) -> String {
        if view.with_handles { format!("data-outline=\"{before}\"") } else { format!("d=\"{before}{}\"", self.outline) }
    }

    pub(super) fn set_outline(&mut self, path: &BezPath) {
        let b = bounds(path);
        self.nodes = nodes(path);
        self.outline = if self.nodes < BUSY {
            path_data(path)
        } else {
            clusters(path).iter().map(path_data_from_start).collect::<Vec<_>>().join("\n")
        };
        self.bounds = [b.x0, b.y0, b.x1, b.y1];
    }
}

/// How many pixels the long side of a photo needs.
pub(super) fn needed(photo: &Photo, place: &Placement, view: &View<'_>) -> f64 {
    f64::from(photo.width.max(photo.height)) * place.scale * view.density
}

pub(super) fn photo_view(
    (id, photo): (&PhotoId, &Photo),
    place: &Placement,
    fill: Option<FillId>,
    view: &View<'_>,
) -> PhotoView {
    let to_sheet = place.affine(photo.width, photo.height);
    let long = needed(photo, place, view);
    let pulled = place.pull.as_ref().map(|pull| {
        let f = place.frame(photo.width, photo.height);
        let href = view.pictures.photo(id, photo, long, Some(pull));
        PulledView { href, x: f.x0, y: f.y0, width: f.width(), height: f.height() }
    });
    PhotoView {
        pulled,
        fill,
        corners: corners(place, photo.width.into(), photo.height.into()),
        href: view.pictures.photo(id, photo, long, None),
        transform: matrix(to_sheet),
        width: photo.width,
        height: photo.height,
        ppi: crate::sheet::MM_PER_INCH / place.scale,
    }
}

/// The corners of what lies there, `w` x `h` large in its own space: in sheet space, clockwise from its own top left, pulls included.
pub(super) fn corners(place: &Placement, w: f64, h: f64) -> [[f64; 2]; 4] {
    let to_sheet = place.affine(w, h);
    [(0.0, 0.0), (w, 0.0), (w, h), (0.0, h)].map(|(x, y)| {
        let p = to_sheet * place.pulled(Point::new(x, y), w, h, false);
        [p.x, p.y]
    })
}

fn border(photo: &Photo, place: &Placement) -> BezPath {
    let [first, others @ ..] = corners(place, photo.width.into(), photo.height.into()).map(|[x, y]| Point::new(x, y));
    let mut path = BezPath::new();
    path.move_to(first);
    others.into_iter().for_each(|p| path.line_to(p));
    path.close_path();
    path
}

/// A photo at its place, with more attributes (each with a space before it).
pub(super) fn image(href: &str, photo: &Photo, place: &Placement, mark: &str, tone: &str) -> String {
    let frame = place.frame(photo.width, photo.height);
    let at = if place.pull.is_some() {
        format!(" x=\"{}\" y=\"{}\"", number(frame.x0), number(frame.y0))
    } else {
        String::new()
    };
    format!(
        "<image{mark}{tone}{at} width=\"{}\" height=\"{}\" preserveAspectRatio=\"none\" transform=\"{}\" xlink:href=\"{}\"/>",
        number(frame.width()),
        number(frame.height()),
        matrix(place.affine(photo.width, photo.height)),
        escape(href)
    )
}
