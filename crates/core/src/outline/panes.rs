//! What the panes of a window show.

use super::split_line::Extended;
use crate::combine::{LineSide, LineStyle, Rule, area, join_pair, own_line};
use crate::sheet::{PanePath, Sheet, Split, SplitLine, limits};
use kurbo::{Affine, BezPath, Cap, Join, Rect, Shape, Vec2};

/// A pane, before it is moved. Sheet space.
#[derive(Debug, Clone)]
pub struct Pane {
    pub at: PanePath,
    /// All that lies on its side of the lines, as far as anything of the window is drawn, without the gaps.
    pub region: BezPath,
    /// What of the opening lies in it.
    pub opening: BezPath,
    /// How far it is moved away from its neighbours.
    pub apart: Vec2,
}

impl Pane {
    /// From where it would lie to where it lies.
    pub fn transform(&self, split: &Split) -> Affine {
        let by = split.look(&self.at).map_or(Affine::IDENTITY, |look| Affine::new(look.by));
        Affine::translate(self.apart) * by
    }
}

/// Less than this share of an opening is no pane of its own.
const LEAST_SHARE: f64 = 1e-5;
/// Less than this many square millimetres neither.
const LEAST_AREA: f64 = 0.01;

/// The panes of what opens this on a sheet; see [`panes`].
pub fn sheet_panes(sheet: &Sheet, split: &Split, opening: &BezPath) -> Vec<Pane> {
    panes(split, opening, Rect::new(0.0, 0.0, sheet.width, sheet.height))
}

/// The panes of a window or a bundle, in the order of their lines' sides. `opening` is its outline without overlaps, and `frame` holds all that is drawn of it.
///
/// A line that leaves less than a sliver of a pane on one of its sides leaves it whole. Takes two joins of outlines for each pane and line.
pub fn panes(split: &Split, opening: &BezPath, frame: Rect) -> Vec<Pane> {
    let frame = frame.union(opening.bounding_box());
    let least = (LEAST_SHARE * area(opening)).max(LEAST_AREA);
    let frame = frame.inflate(frame.width() / 2.0, frame.height() / 2.0);
    let whole =
        Pane { at: PanePath::default(), region: frame.to_path(0.1), opening: opening.clone(), apart: Vec2::ZERO };
    let mut all = vec![whole];
    for member in split.lines.iter() {
        let line = &member.value;
        let extended = Extended::new(line, frame);
        let right = extended.right();
        let strip = gap_strip(&extended.path, split.gap);
        let away = extended.to_the_right() * split.apart / 2.0;
        let mut count = all.len();
        let mut next = Vec::with_capacity(count + 1);
        for pane in all {
            let meant = count < limits::PANES && line.within.as_ref().is_none_or(|one| pane.at.lies_in(one));
            let open = meant
                .then(|| [Rule::Intersection, Rule::Difference].map(|side| join_pair(&pane.opening, &right, side)));
            let Some(open) = open.filter(|open| open.iter().all(|part| area(part) > least)) else {
                next.push(pane);
                continue;
            };
            count += 1;
            let regions = [Rule::Intersection, Rule::Difference].map(|side| join_pair(&pane.region, &right, side));
            let halves = open.into_iter().zip(regions).zip([(line.flipped, away), (!line.flipped, -away)]);
            let mut halves: Vec<_> = halves.collect();
            halves.sort_by_key(|(_, (far, _))| *far);
            for ((opening, region), (far, away)) in halves {
                let cut = |path: BezPath| match &strip {
                    Some(strip) => join_pair(&path, strip, Rule::Difference),
                    None => path,
                };
                let at = pane.at.side(member.id, far);
                next.push(Pane { at, region: cut(region), opening: cut(opening), apart: pane.apart + away });
            }
        }
        all = next;
    }
    all
}

/// What is cut away along a line.
fn gap_strip(path: &BezPath, gap: f64) -> Option<BezPath> {
    let style = LineStyle { width: gap, side: LineSide::Centre, corners: Join::Miter, ends: Cap::Butt };
    (gap > 0.0).then(|| own_line(path, &style))
}

/// Whether a line meets itself, also where it runs on beyond its ends within `frame`.
pub fn split_line_crosses_itself(line: &SplitLine, frame: Rect) -> bool {
    let frame = frame.inflate(frame.width(), frame.height());
    Extended::new(line, frame).crosses_itself(0.01)
}
