//! What belongs to the sheet itself: its backdrop and its border.

use super::View;
use super::markup::{escape, number};
use super::paint::Definitions;
use super::paper::{SIDE_MM, paper_picture};
use crate::sheet::Sheet;
use kurbo::Rect;

/// The paint on the background's colour, and the grain of the paper; empty where there is neither.
pub(super) fn backdrop(sheet: &Sheet, view: &View<'_>) -> String {
    let mut definitions = Definitions::new(sheet, "backdrop".into());
    let (x, b) = (number(-sheet.bleed), 2.0 * sheet.bleed);
    let area =
        format!("x=\"{x}\" y=\"{x}\" width=\"{}\" height=\"{}\"", number(sheet.width + b), number(sheet.height + b));
    let mut drawn = String::new();
    if let Some(paint) = &sheet.backdrop {
        let value = definitions.paint(paint, Rect::new(0.0, 0.0, sheet.width, sheet.height), "");
        drawn.push_str(&format!("<rect {area} fill=\"{value}\"/>"));
    }
    if sheet.paper > 0.0 {
        let (id, side) = (definitions.next("paper"), number(SIDE_MM));
        let href = escape(&view.pictures.computed(&paper_picture(sheet.paper, view.density)));
        definitions.markup.push_str(&format!(
            "<pattern id=\"{id}\" patternUnits=\"userSpaceOnUse\" width=\"{side}\" height=\"{side}\">\
             <image width=\"{side}\" height=\"{side}\" preserveAspectRatio=\"none\" xlink:href=\"{href}\"/></pattern>"
        ));
        drawn.push_str(&format!("<rect {area} fill=\"url(#{id})\"/>"));
    }
    if drawn.is_empty() { drawn } else { format!("<g>{}{drawn}</g>", definitions.markup) }
}

/// The line around the sheet; empty where there is none, or no room for it.
pub(super) fn border(sheet: &Sheet) -> String {
    let Some(border) = sheet.border.as_ref().filter(|b| b.width > 0.0) else {
        return String::new();
    };
    let page = Rect::new(0.0, 0.0, sheet.width, sheet.height);
    // the inset is that of the line's outer edge
    let inset = border.inset + border.width / 2.0;
    let line = page.inset(-inset);
    if line.width() <= 0.0 || line.height() <= 0.0 {
        return String::new();
    }
    let mut definitions = Definitions::new(sheet, "border".into());
    let value = definitions.paint(&border.paint, page, "");
    format!(
        "<g>{}<rect x=\"{}\" y=\"{}\" width=\"{}\" height=\"{}\" fill=\"none\" stroke=\"{value}\" stroke-width=\"{}\"/></g>",
        definitions.markup,
        number(line.x0),
        number(line.y0),
        number(line.width()),
        number(line.height()),
        number(border.width)
    )
}
