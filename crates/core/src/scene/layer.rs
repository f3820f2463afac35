//! One piece of a sheet as SVG, with what people need to handle it.

use super::View;
use super::form_view::{FormView, form_views};
use super::markup::{escape, matrix, number, path_data};
use super::soft::{region, soft_mask};
use crate::breakout::{Overhangs, overhangs};
use crate::combine::nodes;
use crate::outline::{OpeningOutline, opening_outline};
use crate::sheet::{Anchor, FillId, FillPaint, Photo, PhotoFill, Piece, PieceId, PieceKind, Placement, Sheet, Window};
use kurbo::{BezPath, Point, Rect, Shape};
use serde::Serialize;
use ts_rs::TS;

/// A piece, drawn.
#[derive(Debug, Clone, Serialize, TS)]
pub struct Layer {
    pub piece: PieceId,
    /// One SVG group in sheet space. For handling, paths that follow the outline say `data-outline` in place of `d`: a print's path
    /// data crosses once, and browsers read it once.
    pub markup: String,
    /// Path data of the opening (or of the picture's border), in sheet space.
    pub outline: String,
    /// Left, top, right and bottom of the outline, in millimetres.
    pub bounds: [f64; 4],
    /// The corners of each photo, in sheet space, clockwise from its own top left.
    pub photos: Vec<PhotoView>,
    /// What of the subjects lies outside of the opening.
    pub overhangs: Vec<OverhangView>,
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
    /// Address of the whole photo.
    pub href: String,
    /// The photo's `transform`, from photo space to sheet space.
    pub transform: String,
    pub width: u32,
    pub height: u32,
    /// Photo pixels for an inch of the sheet.
    pub ppi: f64,
}

/// A part of a subject outside of the opening.
#[derive(Debug, Clone, Serialize, TS)]
pub struct OverhangView {
    /// What lets it out.
    pub anchor: Anchor,
    /// The anchors that let it out now; none if it stays in.
    pub let_out_by: Vec<Anchor>,
    /// Path data in photo space, drawn with the photo's transform.
    pub outline: String,
    pub transform: String,
    /// Whether it lies in a hole of the opening.
    pub counter: bool,
    /// Its area as a share of the photo's.
    pub share: f64,
    /// A few words on where it lies: "above", "right", "in a counter".
    pub place: String,
}

/// Draws one piece.
pub fn layer(sheet: &Sheet, piece: &Piece, view: &View<'_>) -> Layer {
    let mut layer = Layer {
        piece: piece.id,
        markup: String::new(),
        outline: String::new(),
        bounds: [0.0; 4],
        photos: Vec::new(),
        overhangs: Vec::new(),
        forms: Vec::new(),
        nodes: 0,
        nodes_before: 0,
        problem: None,
    };
    if view.with_handles
        && let Some(window) = piece.window()
    {
        layer.forms = form_views(&window.opening, view.library);
    }
    let body = match &piece.kind {
        PieceKind::Window(window) => match opening_outline(&window.opening, view.library) {
            Ok(OpeningOutline { path: opening, nodes_before }) => {
                layer.set_outline(&opening);
                layer.nodes_before = nodes_before;
                window_markup(sheet, piece, window, &opening, view, &mut layer)
            }
            Err(error) => {
                layer.problem = Some(error.to_string());
                String::new()
            }
        },
        PieceKind::Picture(picture) => {
            let fill = PhotoFill { photo: picture.photo.clone(), placement: picture.placement };
            let Some(photo) = sheet.photos.get(&fill.photo) else {
                return layer;
            };
            layer.set_outline(&border(photo, &fill.placement));
            layer.photos.push(photo_view(&fill, photo, None, view));
            image(
                &view.pictures.photo(&fill.photo, photo, needed(photo, &fill.placement, view)),
                photo,
                &fill.placement,
                None,
            )
        }
    };
    layer.markup = format!("<g data-piece=\"{}\">{body}</g>", piece.id);
    layer
}

impl Layer {
    fn outline_attribute(&self, view: &View<'_>) -> String {
        if view.with_handles { "data-outline=\"\"".into() } else { format!("d=\"{}\"", self.outline) }
    }

    fn set_outline(&mut self, path: &BezPath) {
        let b = if path.is_empty() { Rect::ZERO } else { path.bounding_box() };
        self.outline = path_data(path);
        self.nodes = nodes(path);
        self.bounds = [b.x0, b.y0, b.x1, b.y1];
    }
}

fn window_markup(
    sheet: &Sheet,
    piece: &Piece,
    window: &Window,
    opening: &BezPath,
    view: &View<'_>,
    layer: &mut Layer,
) -> String {
    if opening.is_empty() {
        return String::new();
    }
    let id = piece.id;
    let bounds = opening.bounding_box();
    // what is let out lies beneath everything that the opening shows (see the module's text)
    let mut out = String::new();
    let mut fills = String::new();
    for fill in &window.fills {
        match &fill.paint {
            FillPaint::Colour { colour } => {
                // fading edges reach beyond the outline
                let room = 1.0 + 0.5 * bounds.width().max(bounds.height());
                let b = bounds.inflate(room, room);
                fills.push_str(&format!(
                    "<rect data-fill=\"{}\" x=\"{}\" y=\"{}\" width=\"{}\" height=\"{}\" fill=\"{colour}\"/>",
                    fill.id,
                    number(b.x0),
                    number(b.y0),
                    number(b.width()),
                    number(b.height())
                ));
            }
            FillPaint::Photo(photo_fill) => {
                let Some(photo) = sheet.photos.get(&photo_fill.photo) else {
                    continue;
                };
                let place = &photo_fill.placement;
                let href = view.pictures.photo(&photo_fill.photo, photo, needed(photo, place, view));
                fills.push_str(&image(&href, photo, place, Some(fill.id)));
                layer.photos.push(photo_view(photo_fill, photo, Some(fill.id), view));
                out.push_str(&breakout(window, fill.id, photo_fill, photo, opening, view, layer, id));
            }
        }
    }
    if window.fills.len() > 1 {
        // browsers clip each element of a group by itself, and a fill beneath would show at the edge of the one above; an opacity
        // this near to 1 changes no pixel and makes the fills one picture first
        fills = format!("<g opacity=\"0.9999\">{fills}</g>");
    }
    if let Some(soft) = soft_mask(&window.opening, id, view.library) {
        return format!(
            "{out}{}<mask id=\"opening-{id}\" maskUnits=\"userSpaceOnUse\" {}>{}</mask><g mask=\"url(#opening-{id})\">{fills}</g>",
            soft.definitions,
            region(soft.bounds),
            soft.contents
        );
    }
    let only_colour = match window.fills.as_slice() {
        [fill] => match &fill.paint {
            FillPaint::Colour { colour } => Some((fill.id, colour)),
            FillPaint::Photo(_) => None,
        },
        _ => None,
    };
    if let Some((fill, colour)) = only_colour {
        return format!("<path data-fill=\"{fill}\" fill=\"{colour}\" {}/>", layer.outline_attribute(view));
    }
    format!(
        "{out}<clipPath id=\"opening-{id}\"><path {}/></clipPath><g clip-path=\"url(#opening-{id})\">{fills}</g>",
        layer.outline_attribute(view)
    )
}

/// The overhangs of one photo that are let out; describes all of them in `layer` where that is asked for.
#[allow(clippy::too_many_arguments)]
fn breakout(
    window: &Window,
    fill: FillId,
    photo_fill: &PhotoFill,
    photo: &Photo,
    opening: &BezPath,
    view: &View<'_>,
    layer: &mut Layer,
    piece: PieceId,
) -> String {
    let Some(subject) = &photo.subject else {
        return String::new();
    };
    let anchors: Vec<Anchor> = window.breakout.let_out.iter().copied().filter(|a| a.fill == fill).collect();
    if anchors.is_empty() && !view.with_handles {
        return String::new();
    }
    let Some(matte) = view.library.matte(subject) else {
        return String::new();
    };
    let place = &photo_fill.placement;
    let to_sheet = place.affine(photo.width, photo.height);
    let points: Vec<Point> = anchors.iter().map(|a| Point::new(a.x, a.y)).collect();
    let found = overhangs(&matte, opening, to_sheet, &points);
    if view.with_handles {
        describe(&found, fill, &anchors, to_sheet, opening, layer);
    }
    if found.released.is_empty() {
        return String::new();
    }
    let href = view.pictures.cutout(subject, photo, needed(photo, place, view));
    let id = format!("released-{piece}-{fill}");
    format!(
        "<clipPath id=\"{id}\"><path transform=\"{}\" d=\"{}\"/></clipPath><g data-breakout=\"{fill}\" clip-path=\"url(#{id})\">{}</g>",
        matrix(to_sheet),
        path_data(&found.released),
        image(&href, photo, place, None)
    )
}

fn describe(
    found: &Overhangs,
    fill: FillId,
    anchors: &[Anchor],
    to_sheet: kurbo::Affine,
    opening: &BezPath,
    layer: &mut Layer,
) {
    let bounds = opening.bounding_box();
    for part in &found.parts {
        let at = to_sheet * part.anchor;
        let place = match (part.counter, at.y < bounds.y0, at.y > bounds.y1, at.x < bounds.x0, at.x > bounds.x1) {
            (true, ..) => "in a counter",
            (_, true, ..) => "above",
            (_, _, true, ..) => "below",
            (_, _, _, true, _) => "left",
            (.., true) => "right",
            _ => "between the edges",
        };
        layer.overhangs.push(OverhangView {
            anchor: Anchor { fill, x: part.anchor.x, y: part.anchor.y },
            let_out_by: part.let_out_by.iter().map(|&k| anchors[k]).collect(),
            outline: path_data(&part.outline),
            transform: matrix(to_sheet),
            counter: part.counter,
            share: part.share,
            place: place.into(),
        });
    }
}

/// How many pixels the long side of a photo needs.
fn needed(photo: &Photo, place: &Placement, view: &View<'_>) -> f64 {
    f64::from(photo.width.max(photo.height)) * place.scale * view.density
}

fn photo_view(fill: &PhotoFill, photo: &Photo, id: Option<FillId>, view: &View<'_>) -> PhotoView {
    let to_sheet = fill.placement.affine(photo.width, photo.height);
    let (w, h) = (f64::from(photo.width), f64::from(photo.height));
    let corner = |x, y| {
        let p = to_sheet * Point::new(x, y);
        [p.x, p.y]
    };
    PhotoView {
        fill: id,
        corners: [corner(0.0, 0.0), corner(w, 0.0), corner(w, h), corner(0.0, h)],
        href: view.pictures.photo(&fill.photo, photo, needed(photo, &fill.placement, view)),
        transform: matrix(to_sheet),
        width: photo.width,
        height: photo.height,
        ppi: crate::sheet::MM_PER_INCH / fill.placement.scale,
    }
}

fn border(photo: &Photo, place: &Placement) -> BezPath {
    let r = Rect::new(0.0, 0.0, f64::from(photo.width), f64::from(photo.height));
    place.affine(photo.width, photo.height) * r.to_path(0.1)
}

fn image(href: &str, photo: &Photo, place: &Placement, fill: Option<FillId>) -> String {
    let mark = fill.map(|f| format!(" data-fill=\"{f}\"")).unwrap_or_default();
    format!(
        "<image{mark} width=\"{}\" height=\"{}\" preserveAspectRatio=\"none\" transform=\"{}\" xlink:href=\"{}\"/>",
        photo.width,
        photo.height,
        matrix(place.affine(photo.width, photo.height)),
        escape(href)
    )
}
