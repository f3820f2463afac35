//! The edge of a window as SVG: its shape, clear or fading, its rims, and the shadows that it throws.

use super::markup::{number, path_data};
use super::paint::Definitions;
use super::soft::{BLUR, region};
use crate::sheet::{FadeSide, Finish, LineSide, PieceId, Rim, Shadow, ShadowPlace, Softness};
use kurbo::{BezPath, Rect};

/// What goes along when the opening is dragged.
pub(super) const WITH_OPENING: &str = " data-moves=\"opening\"";

/// The shape of a window: what its fills are limited to, and what throws its shadow.
pub(super) struct EdgeShape {
    /// `d="…"`, or where that is to be filled in.
    pub path: String,
    /// `clip-path="…"` or `mask="…"`.
    pub limit: String,
    /// The whole shape in black.
    pub silhouette: String,
    /// What it covers at most, in sheet space; where the outside shows, the sheet and more.
    pub bounds: Rect,
}

/// Rectangles as path data.
pub(super) fn rect_data(r: Rect) -> String {
    let [x0, y0, x1, y1] = [r.x0, r.y0, r.x1, r.y1].map(number);
    format!("M{x0},{y0}L{x1},{y0}L{x1},{y1}L{x0},{y1}Z")
}

/// A clear edge: a clip path.
pub(super) fn clear_shape(piece: PieceId, path: String, bounds: Rect, definitions: &mut Definitions<'_>) -> EdgeShape {
    let id = format!("opening-{piece}");
    definitions
        .markup
        .push_str(&format!("<clipPath id=\"{id}\"><path{WITH_OPENING} clip-rule=\"evenodd\" {path}/></clipPath>"));
    EdgeShape {
        silhouette: format!("<path{WITH_OPENING} fill-rule=\"evenodd\" {path}/>"),
        limit: format!("clip-path=\"url(#{id})\""),
        path,
        bounds,
    }
}

/// A fading edge: a mask, of white shapes on nothing.
pub(super) fn fading_shape(
    piece: PieceId,
    white: &str,
    softness: &Softness,
    negative: bool,
    path: String,
    bounds: Rect,
    definitions: &mut Definitions<'_>,
) -> EdgeShape {
    let id = format!("opening-{piece}");
    let blur = softness.width * BLUR;
    let bounds = bounds.inflate(3.0 * blur, 3.0 * blur);
    let area = region(bounds);
    let mut contents = format!("<g{WITH_OPENING}>{white}</g>");
    if blur > 0.0 {
        let filter = format!("{id}-fade");
        definitions.markup.push_str(&format!(
            "<filter id=\"{filter}\" filterUnits=\"userSpaceOnUse\" {area}><feGaussianBlur stdDeviation=\"{}\"/></filter>",
            number(blur)
        ));
        contents = format!("<g filter=\"url(#{filter})\">{contents}</g>");
    }
    if negative {
        contents = format!("<rect {area} fill=\"#fff\"/>{}", contents.replace("fill=\"#fff\"", "fill=\"#000\""));
    }
    definitions.markup.push_str(&format!("<mask id=\"{id}\" maskUnits=\"userSpaceOnUse\" {area}>{contents}</mask>"));
    let limit = format!("mask=\"url(#{id})\"");
    EdgeShape { silhouette: format!("<rect {area} {limit}/>"), limit, path, bounds }
}

/// How far from the opening anything of its finish reaches, in millimetres.
pub(super) fn reach(finish: &Finish) -> f64 {
    let rims = finish.rims.iter().map(|r| r.width).fold(0.0, f64::max);
    let shadows = finish.shadows.iter().map(|s| s.distance + 3.0 * (s.spread + s.size * BLUR)).fold(0.0, f64::max);
    2.0 + rims + shadows + finish.softness.width
}

/// How far outwards or inwards the outline of a fading edge lies, in millimetres.
pub(super) fn shift(softness: &Softness) -> f64 {
    match softness.side {
        FadeSide::Both => 0.0,
        FadeSide::Inward => -softness.width / 2.0,
        FadeSide::Outward => softness.width / 2.0,
    }
}

/// White shapes of an outline.
pub(super) fn white(path: &BezPath) -> String {
    format!("<path fill=\"#fff\" d=\"{}\"/>", path_data(path))
}

/// A rim as strokes along the edge; one on the inside is to be limited to the shape by the one who draws it.
pub(super) fn rim(rim: &Rim, shape: &EdgeShape, definitions: &mut Definitions<'_>) -> String {
    let reach = if rim.side == LineSide::Centre { rim.width / 2.0 } else { rim.width };
    let paint = definitions.paint(&rim.paint, shape.bounds.inflate(reach, reach), "");
    let dashes: Vec<String> = rim.dashes.iter().map(|d| number(*d)).collect();
    let dashes = if dashes.is_empty() { String::new() } else { format!(" stroke-dasharray=\"{}\"", dashes.join(" ")) };
    let ends = if rim.round { " stroke-linejoin=\"round\" stroke-linecap=\"round\"" } else { "" };
    let line = format!(
        "<path{WITH_OPENING} fill=\"none\" stroke=\"{paint}\" stroke-width=\"{}\"{dashes}{ends} {}/>",
        number(2.0 * reach),
        shape.path
    );
    if rim.side != LineSide::Outside {
        return line;
    }
    // what lies outside, and a hair of the inside: with both edges in the same place, the fill would shine through between them
    let id = definitions.next("outside");
    let all = region(shape.bounds.inflate(reach, reach));
    let hair = number((0.05 * rim.width).min(0.06));
    definitions.markup.push_str(&format!(
        "<mask id=\"{id}\" maskUnits=\"userSpaceOnUse\" {all}><rect {all} fill=\"#fff\"/>\
         <path{WITH_OPENING} fill=\"#000\" fill-rule=\"evenodd\" stroke=\"#fff\" stroke-width=\"{hair}\" {}/></mask>",
        shape.path
    ));
    format!("<g mask=\"url(#{id})\">{line}</g>")
}

/// A shadow of what `thrown` draws in black.
pub(super) fn shadow(
    shadow: &Shadow,
    thrown: &str,
    bounds: Rect,
    strength: f64,
    definitions: &mut Definitions<'_>,
) -> String {
    let blur = shadow.size * BLUR;
    let (dy, dx) = shadow.angle.to_radians().sin_cos();
    let (dx, dy) = (dx * shadow.distance, dy * shadow.distance);
    let reach = shadow.distance + 3.0 * (blur + shadow.spread) + 1.0;
    let mut steps = String::new();
    let mut from = "SourceAlpha";
    if shadow.place == ShadowPlace::Inside {
        // what is outside throws it
        steps.push_str("<feComponentTransfer in=\"SourceAlpha\" result=\"outside\"><feFuncA type=\"linear\" slope=\"-1\" intercept=\"1\"/></feComponentTransfer>");
        from = "outside";
    }
    if shadow.spread > 0.0 {
        // one standard deviation outside of a straight edge, a blur has come down to 0.159: made steep there, it is the new edge
        let slope = 6.0;
        steps.push_str(&format!(
            "<feGaussianBlur in=\"{from}\" stdDeviation=\"{}\"/><feComponentTransfer result=\"wide\"><feFuncA type=\"linear\" \
             slope=\"{slope}\" intercept=\"{}\"/></feComponentTransfer>",
            number(shadow.spread),
            number(0.5 - 0.159 * slope)
        ));
        from = "wide";
    }
    let offset = format!("<feOffset in=\"{from}\" dx=\"{}\" dy=\"{}\" result=\"there\"/>", number(dx), number(dy));
    steps.push_str(&offset);
    if blur > 0.0 {
        steps.push_str(&format!("<feGaussianBlur in=\"there\" stdDeviation=\"{}\" result=\"there\"/>", number(blur)));
    }
    steps.push_str(&format!(
        "<feFlood flood-color=\"{}\" flood-opacity=\"{}\"/><feComposite operator=\"in\" in2=\"there\"/>",
        definitions.sheet.colour(&shadow.tint),
        number(shadow.strength * strength)
    ));
    let id = definitions.next("shadow");
    definitions.markup.push_str(&format!(
        "<filter id=\"{id}\" filterUnits=\"userSpaceOnUse\" {} color-interpolation-filters=\"sRGB\">{steps}</filter>",
        region(bounds.inflate(reach, reach))
    ));
    let blend = match shadow.blend.keyword() {
        "normal" => String::new(),
        other => format!(" style=\"mix-blend-mode:{other}\""),
    };
    format!("<g filter=\"url(#{id})\"{blend}>{thrown}</g>")
}
