//! What reaches over the edge of a window, to be let out or kept in.

use super::drawing_overhangs::of_drawing;
use super::overhang_view::{CrossingView, CutView, EdgeView, OverhangView, Surroundings, place_of};
use crate::breakout::{JointOpening, Overhangs, PlacedMatte, SubjectOf, WindowBreakout};
use crate::library::Library;
use crate::scene::svg::{matrix, path_data};
use crate::sheet::{Anchor, FillPaint, Sheet, SubjectPart, Window};
use kurbo::Shape;
use std::collections::BTreeSet;

/// What reaches over the edge of one window, as people handle it.
#[derive(Default)]
pub(super) struct OverhangViews {
    pub overhangs: Vec<OverhangView>,
    pub edges: Vec<EdgeView>,
    pub unmatched: Vec<Anchor>,
    pub crossings: Vec<CrossingView>,
    pub cuts: Vec<CutView>,
}

/// Describes the overhangs of a window with their edges and crossings.
pub(super) fn overhang_views(
    sheet: &Sheet,
    window: &Window,
    breakout: &WindowBreakout,
    library: &dyn Library,
) -> OverhangViews {
    let mut views = OverhangViews::default();
    for fill in window.fills.iter().filter(|f| !f.off) {
        match &fill.paint {
            FillPaint::Photo(photo_fill) => {
                let Some(photo) = sheet.photos.get(&photo_fill.photo) else {
                    continue;
                };
                let joint = breakout.joints.of_fill(fill.id);
                for subject in &photo.subjects {
                    let subject = SubjectOf { window, fill, photo_fill, photo, subject };
                    if let Some((placed, found)) = subject.overhangs(joint, library) {
                        describe_subject(&mut views, &subject, &placed, &found, joint);
                    }
                }
            }
            FillPaint::Drawing(drawing) => {
                if let Some(imported) = library.drawing(&drawing.drawing) {
                    let alone = breakout.joints.alone();
                    views.overhangs.extend(of_drawing(fill.id, drawing, &imported.picture, alone));
                }
            }
            _ => {}
        }
    }
    let crossings = breakout.releases.iter().flat_map(|r| &r.crossings);
    views.crossings = crossings
        .map(|c| CrossingView { anchor: c.anchor, at: [c.at.x, c.at.y], under_by: c.under_by.clone() })
        .collect();
    let touched: BTreeSet<u32> = views.overhangs.iter().flat_map(|o| o.touches.iter().copied()).collect();
    let edges = breakout.joints.edges().filter(|(key, _)| touched.contains(key));
    views.edges = edges.map(|(key, path)| EdgeView { key, path: path_data(&path) }).collect();
    views
}

fn describe_subject(
    views: &mut OverhangViews,
    subject: &SubjectOf<'_>,
    placed: &PlacedMatte,
    found: &Overhangs,
    joint: &JointOpening,
) {
    let anchors: Vec<Anchor> = subject.anchors().collect();
    let surroundings = Surroundings::of(&joint.opening);
    let matched = |k: usize| found.parts.iter().any(|part| part.let_out_by.contains(&k));
    views.unmatched.extend((0..anchors.len()).filter(|k| !matched(*k)).map(|k| anchors[k]));
    let (fill, key) = (subject.fill.id, subject.subject.key);
    let regions: Vec<&SubjectPart> = subject.parts().collect();
    let seen = |k: usize| found.parts.iter().any(|part| part.region == Some(k));
    let gone = regions.iter().enumerate().filter(|(k, part)| part.out && !seen(*k));
    views.unmatched.extend(gone.map(|(_, part)| Anchor { fill, subject: key, x: part.at[0], y: part.at[1] }));
    let of = |number: u32| found.parts.iter().find(|part| part.number == number);
    views.cuts.extend(found.cuts.iter().filter_map(|cut| {
        let p = placed.back(of(cut.of)?.anchor);
        let line = placed.to_sheet * cut.line;
        let line = [line.p0, line.p1].map(|p| [p.x, p.y]);
        Some(CutView { of: Anchor { fill, subject: key, x: p.x, y: p.y }, line })
    }));
    for part in &found.parts {
        let region = part.region.map(|k| regions[k]);
        let to_sheet = placed.to_sheet;
        let at = to_sheet * part.anchor;
        let anchor = placed.back(part.anchor);
        let anchor = Anchor { fill, subject: key, x: anchor.x, y: anchor.y };
        let own = region.filter(|r| r.out).map(|_| anchor);
        views.overhangs.push(OverhangView {
            anchor,
            name: region.filter(|r| !r.name.is_empty()).map(|r| r.name.clone()),
            soft: region.filter(|r| r.soft > 0.0).map(|r| r.soft),
            of: (subject.photo.subjects.len() > 1).then(|| subject.subject.name.clone()),
            let_out_by: part.let_out_by.iter().map(|&k| anchors[k]).chain(own).collect(),
            outline: path_data(&part.outline),
            transform: matrix(to_sheet),
            counter: part.counter,
            cut_off: part.cut_off,
            touches: part.touches.iter().map(|k| joint.first_edge + *k as u32).collect(),
            share: part.share,
            part: None,
            place: place_of((at, (to_sheet * &part.outline).bounding_box()), &surroundings, part.counter).into(),
        });
    }
}
