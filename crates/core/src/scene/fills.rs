//! Fills as SVG: what shows through an opening, from back to front.

use super::View;
use super::drawn::drawing_at;
use super::layer::{image, needed};
use super::markup::{number, path_data};
use super::paint::Definitions;
use super::tile::tiled;
use crate::combine::unite;
use crate::outline::form_path;
use crate::sheet::{DrawingFill, Fill, FillPaint, FormFill, PhotoFill};
use kurbo::Rect;

/// The `data-moves` attribute of a fill: what drags take it along.
pub(super) fn moves(fill: &Fill) -> String {
    let with = if fill.rides { "opening fill" } else { "fill" };
    format!(" data-moves=\"{with}\" data-of=\"{}\"", fill.id)
}

/// One fill but a window, unlimited by the opening. `bounds` (sheet space) is what it has to cover. Empty where what it needs is missing.
pub(super) fn fill_markup(
    fill: &Fill,
    bounds: Rect,
    view: &View<'_>,
    tone: &str,
    definitions: &mut Definitions<'_>,
) -> String {
    let body = match &fill.paint {
        FillPaint::Plain(paint) => {
            let value = definitions.paint(paint, bounds, &moves(fill));
            // the gradient moves, what it is seen on stays
            covering(bounds, &value, fill)
        }
        FillPaint::Photo(photo_fill) => photo(fill, photo_fill, view, tone, definitions),
        FillPaint::Tile(tile) => tiled(fill, tile, bounds, view, tone, definitions),
        FillPaint::Drawing(drawing) => drawn(fill, drawing, view, definitions),
        FillPaint::Window(_) => String::new(),
        FillPaint::Form(form) => formed(fill, form, view, definitions),
    };
    if body.is_empty() { body } else { format!("<g{}>{body}</g>", laid_on(fill)) }
}

/// Strength and blend mode as attributes.
pub(super) fn laid_on(fill: &Fill) -> String {
    let mut attributes = String::new();
    if fill.strength < 1.0 {
        attributes.push_str(&format!(" opacity=\"{}\"", number(fill.strength)));
    }
    let blend = fill.blend.keyword();
    if blend != "normal" {
        attributes.push_str(&format!(" style=\"mix-blend-mode:{blend}\""));
    }
    attributes
}

/// A rectangle over all that the opening can show, and over as much again: it stays when the opening is dragged.
pub(super) fn covering(bounds: Rect, paint: &str, fill: &Fill) -> String {
    let room = bounds.width().max(bounds.height());
    let b = bounds.inflate(room, room);
    format!(
        "<rect data-fill=\"{}\" x=\"{}\" y=\"{}\" width=\"{}\" height=\"{}\" fill=\"{paint}\"/>",
        fill.id,
        number(b.x0),
        number(b.y0),
        number(b.width()),
        number(b.height())
    )
}

fn photo(fill: &Fill, photo_fill: &PhotoFill, view: &View<'_>, tone: &str, definitions: &Definitions<'_>) -> String {
    let Some(photo) = definitions.sheet.photos.get(&photo_fill.photo) else {
        return String::new();
    };
    let place = &photo_fill.placement;
    let href = view.pictures.photo(&photo_fill.photo, photo, needed(photo, place, view), place.pull.as_ref());
    let mark = format!(" data-fill=\"{}\"{}", fill.id, moves(fill));
    image(&href, photo, place, &mark, tone)
}

fn drawn(fill: &Fill, drawing: &DrawingFill, view: &View<'_>, definitions: &mut Definitions<'_>) -> String {
    let Some(drawn) = view.library.drawing(&drawing.drawing) else {
        return String::new();
    };
    let mark = format!(" data-fill=\"{}\"{}", fill.id, moves(fill));
    drawing_at(&drawn.picture, drawing, &mark, definitions)
}

/// Lettering or another form, seen only where the opening is.
fn formed(fill: &Fill, form: &FormFill, view: &View<'_>, definitions: &mut Definitions<'_>) -> String {
    let path = unite(&form_path(&form.form, view.library).unwrap_or_default());
    if path.is_empty() {
        return String::new();
    }
    let bounds = kurbo::Shape::bounding_box(&path);
    let paint = definitions.paint(&form.paint, bounds, "");
    format!("<path data-fill=\"{}\"{} fill=\"{paint}\" d=\"{}\"/>", fill.id, moves(fill), path_data(&path))
}
