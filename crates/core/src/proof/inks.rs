//! Spot inks that come out as process colours, where a file has no words for them.

use super::finding::{Finding, FindingKind, Severity, called};
use super::looks::Look;
use crate::sheet::{FillPaint, Gradient, InkId, Paint, Piece, Print, Sheet, SpotInk, Tint, Tone, Window};

/// Gradients in which a spot ink runs into another colour, and photos that are toned in spot inks.
pub(super) fn mixed(sheet: &Sheet, piece: &Piece, looks: &[Look]) -> Vec<Finding> {
    let spots = sheet.spot_inks();
    let Some(window) = piece.window().filter(|_| !spots.is_empty()) else { return Vec::new() };
    let names = |mixed: Vec<InkId>| {
        let of = |spot: &&SpotInk| mixed.contains(&spot.id);
        spots.iter().filter(of).map(|spot| format!("“{}”", spot.name)).collect::<Vec<_>>().join(", ")
    };
    let place = looks.iter().map(Look::bounds).reduce(|a, b| a.union(b));
    let finding = |part: &str, sentence: String| {
        let finding = Finding::of_piece(FindingKind::MixedInk, Severity::Note, piece, part, sentence);
        place.map_or(finding.clone(), |place| finding.at(place))
    };
    let mut all = Vec::new();
    let running = names(gradients(window).flat_map(|g| running(g, &spots)).collect());
    if !running.is_empty() {
        let of = called(sheet, piece);
        let sentence =
            format!("In {of} a gradient mixes {running} with other colours: there it is printed in process colours.");
        all.push(finding("gradient", sentence));
    }
    let toned = names(tones(window).flat_map(inks_of).collect());
    if !toned.is_empty() {
        let of = called(sheet, piece);
        let sentence = format!("The photo in {of} is toned in {toned}, and is printed in process colours.");
        all.push(finding("tone", sentence));
    }
    all
}

/// The spot inks of a gradient, if one of them runs into something else.
fn running(gradient: &Gradient, spots: &[SpotInk]) -> Vec<InkId> {
    let spot = |tint: &Tint| tint.ink().filter(|ink| spots.iter().any(|spot| spot.id == *ink));
    let runs =
        gradient.stops.windows(2).any(|pair| spot(&pair[0].tint) != spot(&pair[1].tint) && pair[0].at != pair[1].at);
    if runs { gradient.stops.iter().filter_map(|stop| spot(&stop.tint)).collect() } else { Vec::new() }
}

fn gradients(window: &Window) -> impl Iterator<Item = &Gradient> {
    let fills = window.fills.iter().filter(|fill| !fill.off).flat_map(|fill| paints(&fill.paint));
    let rims = window.finish.rims.iter().filter(|rim| !rim.off).map(|rim| &rim.paint);
    fills.chain(rims).filter_map(|paint| match paint {
        Paint::Gradient { gradient, .. } => Some(gradient),
        Paint::Colour { .. } | Paint::Ink { .. } => None,
    })
}

fn paints(fill: &FillPaint) -> Vec<&Paint> {
    match fill {
        FillPaint::Plain(paint) => vec![paint],
        FillPaint::Form(form) => vec![&form.paint],
        FillPaint::Drawing(drawing) => drawing.looks.iter().filter_map(|look| look.paint.as_ref()).collect(),
        FillPaint::Photo(_) | FillPaint::Tile(_) | FillPaint::Window(_) => Vec::new(),
    }
}

fn tones(window: &Window) -> impl Iterator<Item = &Tone> {
    window.fills.iter().filter(|fill| !fill.off).filter_map(|fill| match &fill.paint {
        FillPaint::Photo(photo) => Some(&photo.tone),
        FillPaint::Tile(tile) => Some(&tile.tone),
        _ => None,
    })
}

fn inks_of(tone: &Tone) -> Vec<InkId> {
    match &tone.print {
        Some(Print::One { dark }) => vec![dark],
        Some(Print::Two { dark, light }) => vec![dark, light],
        None => Vec::new(),
    }
    .into_iter()
    .filter_map(Tint::ink)
    .collect()
}
