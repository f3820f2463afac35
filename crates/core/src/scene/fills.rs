//! Fills as SVG: what shows through an opening, from back to front.

use super::View;
use super::layer::{image, needed};
use super::markup::{escape, matrix, number, path_data};
use super::paint::Definitions;
use crate::combine::unite;
use crate::outline::form_path;
use crate::sheet::{Fill, FillPaint, FormFill, PhotoFill, TileFill};
use kurbo::{Affine, Rect};

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
fn covering(bounds: Rect, paint: &str, fill: &Fill) -> String {
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

/// A photo repeated: an SVG pattern of one copy, or of two where every other row is offset.
fn tiled(
    fill: &Fill,
    tile: &TileFill,
    bounds: Rect,
    view: &View<'_>,
    tone: &str,
    definitions: &mut Definitions<'_>,
) -> String {
    let Some(photo) = definitions.sheet.photos.get(&tile.photo) else {
        return String::new();
    };
    let place = &tile.placement;
    let (w, h) = (f64::from(photo.width), f64::from(photo.height));
    let (step_x, step_y) = (tile.step[0], tile.step[1]);
    let href = escape(&view.pictures.photo(&tile.photo, photo, needed(photo, place, view), None));
    let id = definitions.next("tile");
    // in the pattern's space a photo pixel is `scale` millimetres, and the first copy lies in the middle of its cell
    let scale = place.scale;
    let (cell_w, cell_h) = (step_x * w * scale, step_y * h * scale);
    let copy = |x: f64, y: f64| {
        format!(
            "<image{tone} width=\"{w}\" height=\"{h}\" preserveAspectRatio=\"none\" transform=\"{}\" xlink:href=\"{href}\"/>",
            matrix(Affine::translate((x - w * scale / 2.0, y - h * scale / 2.0)) * Affine::scale(scale))
        )
    };
    let mut copies = String::new();
    // copies may reach over their cell's edge: those of the cells around are drawn as well
    let rows = if tile.offset == 0.0 { 1 } else { 2 };
    for row in -1..=rows {
        for column in -2..=1 {
            let shifted = f64::from(column) + if row % 2 == 0 { 0.5 } else { 0.5 + tile.offset };
            copies.push_str(&copy(shifted * cell_w, (f64::from(row) + 0.5) * cell_h));
        }
    }
    let mirror = if place.mirrored { -1.0 } else { 1.0 };
    let to_sheet = Affine::translate((place.x, place.y))
        * Affine::rotate(place.turn.to_radians())
        * Affine::new([1.0, 0.0, -place.slant.to_radians().tan(), 1.0, 0.0, 0.0])
        * Affine::scale_non_uniform(mirror, 1.0)
        * Affine::translate((-cell_w / 2.0, -cell_h / 2.0));
    definitions.markup.push_str(&format!(
        "<pattern id=\"{id}\" patternUnits=\"userSpaceOnUse\"{} width=\"{}\" height=\"{}\" patternTransform=\"{}\">{copies}</pattern>",
        moves(fill),
        number(cell_w),
        number(cell_h * f64::from(rows)),
        matrix(to_sheet)
    ));
    covering(bounds, &format!("url(#{id})"), fill)
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
