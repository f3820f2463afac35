//! Openings that their fills do not cover, and photos with too few pixels.

use super::finding::{Finding, FindingKind, Severity, called};
use super::looks::{Look, printed};
use super::terms::ProofTerms;
use crate::combine::{Rule, area, bounds, flatten_tolerance, join_pair, unite};
use crate::edit::Edit;
use crate::sheet::{Fill, FillPaint, MM_PER_INCH, Motif, PhotoFill, Piece, Placement, Sheet, Window};
use kurbo::{Affine, BezPath, PathEl, Point, Shape};

/// What is uncovered is said from so many square millimetres on.
const LEAST_AREA: f64 = 0.25;
/// A photo is enlarged so many times at most; one that lies elsewhere is placed anew.
const LARGEST: f64 = 8.0;

/// What of its openings shows no fill. Windows that show no photo in full are left alone: their gaps are what they are made for.
pub(super) fn uncovered(sheet: &Sheet, piece: &Piece, looks: &[Look]) -> Vec<Finding> {
    let find = |(k, look): (usize, &Look)| {
        let window = &look.window;
        if !window.is_masked() || window.fills.iter().any(covers_all) {
            return None;
        }
        let photos: Vec<(&Fill, &PhotoFill)> = window.fills.iter().filter_map(|f| Some((f, full_photo(f)?))).collect();
        let (front, photo) = *photos.last()?;
        let target = within_sheet(sheet, look);
        let whole = area(&target);
        let mut covered = BezPath::new();
        photos.iter().for_each(|(_, photo)| covered.extend(frame(sheet, photo, &photo.placement)));
        let open = join_pair(&target, &unite(&covered), Rule::Difference);
        let left = area(&open).abs();
        if left < LEAST_AREA {
            return None;
        }
        let share = (100.0 * left / whole.abs()).max(0.1);
        let sentence =
            format!("{} of {} show no photo ({share:.1} % of the opening).", surface(left), called(sheet, piece));
        let finding = Finding::of_piece(FindingKind::Uncovered, Severity::Wrong, piece, &number(k), sentence);
        let edit = match enlarged(sheet, photo, &target) {
            Some(placement) => Edit::SetPlacement { piece: piece.id, fill: front.id, placement },
            None => {
                let Some((w, h)) = size(sheet, photo) else { return Some(finding) };
                let placement = Placement::cover(w, h, bounds(&target));
                Edit::SetPlacement { piece: piece.id, fill: front.id, placement }
            }
        };
        Some(finding.at(look.seen(bounds(&open))).mended_by("Enlarge to cover", vec![edit]))
    };
    looks.iter().enumerate().filter_map(find).collect()
}

/// Photos with fewer pixels for an inch than the eye asks for from where the sheet is looked at.
pub(super) fn coarse(sheet: &Sheet, piece: &Piece, looks: &[Look], terms: &ProofTerms) -> Vec<Finding> {
    let mut all = Vec::new();
    for look in looks {
        for fill in &look.window.fills {
            let placement = match &fill.paint {
                FillPaint::Photo(photo) => &photo.placement,
                FillPaint::Tile(tile) if matches!(tile.motif, Motif::Photo(_)) => &tile.placement,
                _ => continue,
            };
            let Some(photo) = fill.photo().and_then(|id| sheet.photos.get(id)) else { continue };
            // pulled corners stretch some of it more than the rest: what counts is the mean
            let shape = quad(&placement.corners(photo.width, photo.height));
            let pixels = f64::from(photo.width) * f64::from(photo.height);
            let ppi = MM_PER_INCH * (pixels / area(&shape).abs().max(1e-9)).sqrt() / look.largest().max(1e-9);
            let least = terms.least_ppi();
            if ppi >= least {
                continue;
            }
            let severity = if ppi < least / 2.0 { Severity::Wrong } else { Severity::Doubtful };
            let sentence = format!(
                "The photo in {} has {ppi:.0} ppi at this size. From {} away, {least:.0} are needed for it to look sharp.",
                called(sheet, piece),
                metres(terms.distance)
            );
            let part = fill.id.to_string();
            all.push(Finding::of_piece(FindingKind::Coarse, severity, piece, &part, sentence).at(look.bounds()));
        }
    }
    all
}

/// Square millimetres in words.
fn surface(area: f64) -> String {
    if area < 1000.0 { format!("{:.0} mm²", area.max(1.0)) } else { format!("{:.0} cm²", area / 100.0) }
}

fn metres(mm: f64) -> String {
    if mm < 1000.0 { format!("{:.0} cm", mm / 10.0) } else { format!("{:.1} m", mm / 1000.0) }
}

fn number(k: usize) -> String {
    if k == 0 { String::new() } else { k.to_string() }
}

/// Whether a fill leaves nothing open, wherever it lies.
fn covers_all(fill: &Fill) -> bool {
    matches!(fill.paint, FillPaint::Plain(_) | FillPaint::Tile(_))
}

/// A photo that is seen with its ground.
fn full_photo(fill: &Fill) -> Option<&PhotoFill> {
    match &fill.paint {
        FillPaint::Photo(photo) if !photo.alone => Some(photo),
        _ => None,
    }
}

/// What of an opening is printed, in its own space.
fn within_sheet(sheet: &Sheet, look: &Look) -> BezPath {
    match look.places[..] {
        [Affine::IDENTITY] => join_pair(&look.opening, &printed(sheet).to_path(0.1), Rule::Intersection),
        // what lies beside the sheet in one place is on it in another
        _ => look.opening.clone(),
    }
}

fn size(sheet: &Sheet, photo: &PhotoFill) -> Option<(u32, u32)> {
    sheet.photos.get(&photo.photo).map(|p| (p.width, p.height))
}

/// What a photo covers where it lies so.
fn frame(sheet: &Sheet, photo: &PhotoFill, placement: &Placement) -> BezPath {
    size(sheet, photo).map_or_else(BezPath::new, |(w, h)| quad(&placement.corners(w, h)))
}

fn quad(corners: &[[f64; 2]; 4]) -> BezPath {
    let mut path = BezPath::new();
    for (k, [x, y]) in corners.iter().enumerate() {
        let p = Point::new(*x, *y);
        if k == 0 { path.move_to(p) } else { path.line_to(p) }
    }
    path.close_path();
    path
}

/// The least enlargement about its own middle with which a photo covers all of an outline; None where that takes too much.
fn enlarged(sheet: &Sheet, photo: &PhotoFill, target: &BezPath) -> Option<Placement> {
    let (w, h) = size(sheet, photo)?;
    let at = |by: f64| Placement { scale: photo.placement.scale * by, ..photo.placement };
    let mut points = Vec::new();
    kurbo::flatten(target, flatten_tolerance(bounds(target)), |el| match el {
        PathEl::MoveTo(p) | PathEl::LineTo(p) => points.push(p),
        _ => {}
    });
    let covers = |by: f64| {
        let shape = quad(&at(by).corners(w, h));
        points.iter().all(|p| shape.contains(*p))
    };
    if !covers(LARGEST) {
        return None;
    }
    let (mut less, mut more) = (1.0, LARGEST);
    for _ in 0..40 {
        let middle = f64::midpoint(less, more);
        if covers(middle) { more = middle } else { less = middle }
    }
    // a hair more, so that no rounding uncovers an edge
    Some(at(more * 1.0005))
}

/// Whether nothing of a window's fills is on.
pub(super) fn shows_nothing(window: &Window) -> bool {
    window.fills.iter().all(|f| f.off || f.strength <= 0.0)
}
