//! A window as SVG.
//!
//! From the bottom up: shadows on the sheet; what breaks out; the fills in the opening's shape, with shadows into it and rims on
//! its inside; rims along its edge; what breaks out once more where a rim would cross it; rims over that. While people drag,
//! elements marked `data-moves` go along with what they name: the opening, the fill.

use super::View;
use super::breakouts::{Breakout, breakouts, drawn_breakout, drawn_overhangs};
use super::edge::{EdgeShape, WITH_OPENING, clear_shape, fading_shape, reach, rect_data, rim, shadow, shift, white};
use super::fills::{fill_markup, laid_on, moves};
use super::gloss::gloss_picture;
use super::layer::{DrawingView, Layer, corners, photo_view};
use super::markup::{escape, matrix, number, path_data};
use super::paint::Definitions;
use super::row::Rows;
use super::soft::{region, soft_mask};
use super::tone::tone_filter;
use crate::combine::{Rule, bounds, grow, join_pair};
use crate::outline::{extension, opening_path};
use crate::sheet::{
    Fill, FillId, FillPaint, Finish, LineSide, Motif, Opening, Paint, Piece, PieceId, ShadowPlace, Sheet, TileFill,
    Window, WindowFill,
};
use kurbo::{BezPath, Rect, Shape};

/// As far as no shadow reaches, in millimetres.
const FAR: f64 = 1000.0;

/// Draws a window whose opening has the outline `opening` (sheet space); says in `layer` what can be handled.
pub(super) fn window_markup(
    sheet: &Sheet,
    piece: &Piece,
    window: &Window,
    opening: &BezPath,
    view: &View<'_>,
    layer: &mut Layer,
) -> String {
    let finish = &window.finish;
    if opening.is_empty() {
        return String::new();
    }
    let mut definitions = Definitions::new(sheet, piece.id.to_string());
    let page = Rect::new(0.0, 0.0, sheet.width, sheet.height);
    let around = bounds(opening);
    // where the outside shows: all of the sheet, and as much around it as no edge of it is seen
    let outside = finish.negative.then(|| page.union(around).inflate(reach(finish), reach(finish)));
    let covered = outside.map_or(around, |_| page);
    let shown = match outside {
        Some(all) if !window.breakout.is_plain() || view.with_handles => {
            join_pair(&all.to_path(0.1), opening, Rule::Difference)
        }
        _ => opening.clone(),
    };

    let rows = Rows::of(sheet, piece.id, window, &shown, view);
    let mut fills = String::new();
    let mut out: Vec<Breakout<'_>> = Vec::new();
    for fill in window.fills.iter().filter(|f| !f.off) {
        let tone = match &fill.paint {
            FillPaint::Photo(p) => tone_filter(&p.tone, &mut definitions),
            FillPaint::Tile(t) => tone_filter(&t.tone, &mut definitions),
            _ => String::new(),
        };
        fills.push_str(&match &fill.paint {
            FillPaint::Window(shown) => another(fill, shown, sheet, piece, view),
            _ => fill_markup(fill, covered, view, &tone, &mut definitions),
        });
        if let FillPaint::Drawing(drawing) = &fill.paint
            && let Some(drawn) = view.library.drawing(&drawing.drawing)
        {
            let (width, height) = (drawn.picture.width, drawn.picture.height);
            let corners = corners(&drawing.placement, width, height);
            layer.drawings.push(DrawingView { fill: fill.id, corners, width, height });
            if view.with_handles {
                drawn_overhangs(fill.id, drawing, &drawn.picture, rows.alone(), layer);
            }
            let drawn = (drawing, &drawn.picture);
            out.extend(drawn_breakout(window, fill, drawn, rows.alone(), view, layer, &mut definitions));
        }
        let (id, place) = match &fill.paint {
            FillPaint::Photo(p) => (&p.photo, &p.placement),
            FillPaint::Tile(TileFill { motif: Motif::Photo(photo), placement, .. }) => (photo, placement),
            FillPaint::Tile(_)
            | FillPaint::Drawing(_)
            | FillPaint::Form(_)
            | FillPaint::Window(_)
            | FillPaint::Plain(_) => continue,
        };
        let Some(photo) = sheet.photos.get(id) else {
            continue;
        };
        layer.photos.push(photo_view((id, photo), place, Some(fill.id), view));
        if let FillPaint::Photo(photo_fill) = &fill.paint {
            let row = rows.of_photo(window, photo_fill);
            out.extend(breakouts(window, fill, photo_fill, photo, row, &tone, view, layer, &mut definitions));
        }
    }

    layer.edges = rows.edges(&layer.overhangs);
    let alone = only_paint(window, &definitions);
    let lit = finish.gloss.is_some_and(|g| !g.off);
    let plain =
        !lit && finish.shadows.iter().all(|s| s.off) && finish.rims.iter().all(|r| r.off) && finish.strength >= 1.0;
    let soft = fading(piece.id, &window.opening, finish, opening, view);
    if let (Some((fill, paint)), true, None, None) = (&alone, plain, &soft, outside) {
        let value = definitions.paint(paint, covered, "");
        let path = layer.outline_attribute(view, "");
        return format!("{}<path data-fill=\"{fill}\"{WITH_OPENING} fill=\"{value}\" {path}/>", definitions.markup);
    }
    if fills.matches("data-fill").count() > 1 {
        // browsers clip each element of a group by itself, and a fill beneath would show at the edge of the one above; an opacity
        // this near to 1 changes no pixel and makes the fills one picture first
        fills = format!("<g opacity=\"0.9999\">{fills}</g>");
    }
    let path = layer.outline_attribute(view, &outside.map(rect_data).unwrap_or_default());
    let shape = match soft {
        Some(soft) => {
            definitions.markup.push_str(&soft.definitions);
            let bounds = outside.unwrap_or(soft.bounds);
            fading_shape(piece.id, &soft.white, &finish.softness, finish.negative, path, bounds, &mut definitions)
        }
        None => clear_shape(piece.id, path, outside.unwrap_or(around), &mut definitions),
    };
    let light = if finish.negative { String::new() } else { gloss(finish, opening, view) };
    fills.push_str(&light);
    finished(finish, &shape, &fills, &out, definitions)
}

/// Light over the fills.
fn gloss(finish: &Finish, opening: &BezPath, view: &View<'_>) -> String {
    let Some(gloss) = finish.gloss.filter(|g| !g.off) else {
        return String::new();
    };
    let Some((picture, area)) = gloss_picture(opening, &gloss, view.density) else {
        return String::new();
    };
    format!(
        "<image{WITH_OPENING} x=\"{}\" y=\"{}\" width=\"{}\" height=\"{}\" preserveAspectRatio=\"none\" xlink:href=\"{}\"/>",
        number(area.x0),
        number(area.y0),
        number(area.width()),
        number(area.height()),
        escape(&view.pictures.computed(&picture))
    )
}

/// Another window as a fill: drawn as it is for a file, with identifiers of its own, as part of this one.
fn another(fill: &Fill, shown: &WindowFill, sheet: &Sheet, within: &Piece, view: &View<'_>) -> String {
    let Some((other, window)) = sheet.piece(shown.piece).and_then(|p| Some((p, p.window()?))) else {
        return String::new();
    };
    let Ok(outline) = opening_path(&window.opening, view.library) else {
        return String::new();
    };
    let flat = View { with_handles: false, ..*view };
    let mut layer = Layer::empty(other.id);
    layer.set_outline(&outline);
    let drawn = window_markup(sheet, other, window, &outline, &flat, &mut layer);
    // drags of what it is part of move it as a whole
    let drawn = drawn.replace(" data-moves=", " data-moved=");
    // the same window may be drawn on the sheet and within several others
    let own = format!("in-{}-", within.id);
    let drawn = drawn.replace(" id=\"", &format!(" id=\"{own}")).replace("url(#", &format!("url(#{own}"));
    let drawn = drawn.replace("xlink:href=\"#", &format!("xlink:href=\"#{own}"));
    format!(
        "<g{}><g data-fill=\"{}\"{} transform=\"{}\">{drawn}</g></g>",
        laid_on(fill),
        fill.id,
        moves(fill),
        matrix(shown.by.affine())
    )
}

/// What of an opening is drawn as a mask.
struct Fade {
    definitions: String,
    white: String,
    bounds: Rect,
}

/// The fading shape of an opening; None if all of its edge is clear.
fn fading(piece: PieceId, opening: &Opening, finish: &Finish, outline: &BezPath, view: &View<'_>) -> Option<Fade> {
    let shift = shift(&finish.softness);
    let shifted = Opening { grow: opening.grow + shift, ..opening.clone() };
    if let Some(soft) = soft_mask(&shifted, piece, view.library) {
        let mut fade = Fade { definitions: soft.definitions, white: soft.contents, bounds: soft.bounds };
        for more in opening.open.iter().filter_map(|side| extension(outline, side)) {
            fade.bounds = fade.bounds.union(bounds(&more));
            fade.white.push_str(&white(&more));
        }
        return Some(fade);
    }
    if finish.softness.width <= 0.0 {
        return None;
    }
    let outline = if shift == 0.0 { outline.clone() } else { grow(outline, shift) };
    Some(Fade { definitions: String::new(), white: white(&outline), bounds: bounds(&outline) })
}

/// The paint of a window that shows nothing else, for which the outline itself is painted.
fn only_paint<'a>(window: &'a Window, definitions: &Definitions<'_>) -> Option<(FillId, &'a Paint)> {
    let mut fills = window.fills.iter().filter(|f| !f.off);
    let (only, None) = (fills.next()?, fills.next()) else {
        return None;
    };
    let FillPaint::Plain(paint) = &only.paint else {
        return None;
    };
    let moves_along = only.rides || definitions.sheet.solid(paint).is_some();
    (only.strength >= 1.0 && moves_along).then_some((only.id, paint))
}

/// Everything in its order, see the module's text.
fn finished(
    finish: &Finish,
    shape: &EdgeShape,
    fills: &str,
    out: &[Breakout<'_>],
    mut definitions: Definitions<'_>,
) -> String {
    let released: String = out.iter().map(|b| b.markup.as_str()).collect();
    let thrown_by = out.iter().fold(shape.bounds, |all, b| all.union(b.bounds));
    let climbing: String = out.iter().map(|b| b.silhouette.as_str()).collect();
    let climbs_to = out.iter().map(|b| b.bounds).reduce(|a, b| a.union(b)).unwrap_or_default();
    let thrown = format!("{climbing}{}", shape.silhouette);
    let mut contact = String::new();
    let mut behind = String::new();
    let mut inside = String::new();
    for s in finish.shadows.iter().filter(|s| !s.off) {
        match s.place {
            ShadowPlace::Behind => behind += &shadow(s, &thrown, thrown_by, finish.strength, &mut definitions),
            ShadowPlace::Contact if out.is_empty() => {}
            ShadowPlace::Contact => contact += &shadow(s, &climbing, climbs_to, 1.0, &mut definitions),
            ShadowPlace::Inside => inside += &shadow(s, &shape.silhouette, shape.bounds, 1.0, &mut definitions),
        }
    }
    let limit = &shape.limit;
    let mut along = String::new();
    let mut over = String::new();
    for r in finish.rims.iter().filter(|r| !r.off && r.width > 0.0) {
        let line = rim(r, shape, &mut definitions);
        match (r.side, r.over) {
            (LineSide::Inside, false) => inside += &line,
            (LineSide::Inside, true) => over += &format!("<g {limit}>{line}</g>"),
            (_, false) => along += &line,
            (_, true) => over += &line,
        }
    }
    let again: String = out.iter().map(|b| b.over_rim(&mut definitions)).collect();
    if !contact.is_empty() && limit.starts_with("mask") {
        // a fading photo would let it shine through; beneath a clear edge there is nothing to be seen of it
        contact = beside(
            &contact,
            shape,
            climbs_to.inflate(reach_of_contact(finish), reach_of_contact(finish)),
            &mut definitions,
        );
    }
    let contact = beside_others(contact, out, climbs_to, &mut definitions);
    let content = format!("{contact}{released}<g {limit}>{fills}{inside}</g>{along}{again}{over}");
    let content = if finish.strength < 1.0 {
        format!("<g opacity=\"{}\">{content}</g>", number(finish.strength))
    } else {
        content
    };
    format!("{}{behind}{content}", definitions.markup)
}

/// A contact shadow where it does not fall on what other windows show of its own photo.
fn beside_others(contact: String, out: &[Breakout<'_>], around: Rect, definitions: &mut Definitions<'_>) -> String {
    if contact.is_empty() {
        return contact;
    }
    let others = out.iter().filter_map(|b| b.row.others()).reduce(|a, b| join_pair(&a, &b, Rule::Union));
    let Some(others) = others.filter(|path| !path.is_empty()) else {
        return contact;
    };
    let id = definitions.next("beside");
    let all = rect_data(around.union(bounds(&others)).inflate(FAR, FAR));
    definitions.markup.push_str(&format!(
        "<clipPath id=\"{id}\"><path clip-rule=\"evenodd\" d=\"{all}{}\"/></clipPath>",
        path_data(&others)
    ));
    format!("<g clip-path=\"url(#{id})\">{contact}</g>")
}

/// What is drawn, where the shape is not.
fn beside(drawn: &str, shape: &EdgeShape, area: Rect, definitions: &mut Definitions<'_>) -> String {
    let id = definitions.next("beside");
    let area = region(area);
    definitions.markup.push_str(&format!(
        "<mask id=\"{id}\" maskUnits=\"userSpaceOnUse\" {area}><rect {area} fill=\"#fff\"/>{}</mask>",
        shape.silhouette
    ));
    format!("<g mask=\"url(#{id})\">{drawn}</g>")
}

fn reach_of_contact(finish: &Finish) -> f64 {
    finish.shadows.iter().map(|s| s.distance + 3.0 * (s.size + s.spread) + 1.0).fold(0.0, f64::max)
}
