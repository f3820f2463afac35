//! The lines that split a window, and its panes.

use super::refusal::Refusal;
use super::values::within;
use crate::sheet::limits::{NAME, PANES, SPLIT_LINES, SPLIT_POINTS, TEETH};
use crate::sheet::{Course, Split, SplitLine};
use kurbo::Affine;
use std::collections::BTreeSet;

/// How far from the sheet's corner a line may run, in millimetres.
const FARTHEST: f64 = 1e5;
/// Points of a line lie at least so far apart, in millimetres.
const NEAREST: f64 = 0.01;

/// What can be told without computing outlines.
pub(crate) fn split(split: &Split) -> Result<(), Refusal> {
    if split.lines.len() > SPLIT_LINES || split.looks.len() > 4 * PANES {
        return Err(Refusal::TooManyPanes);
    }
    let mut ids = BTreeSet::new();
    if !split.lines.iter().all(|m| ids.insert(m.id)) {
        return Err(Refusal::Inconsistent("two lines share an identifier"));
    }
    within("The gap", split.gap, 0.0, 1000.0)?;
    within("How far the panes are apart", split.apart, -5000.0, 5000.0)?;
    split.lines.values().try_for_each(line)?;
    for look in split.looks.values() {
        if look.name.chars().count() > NAME {
            return Err(Refusal::LongName);
        }
        let size = Affine::new(look.by).determinant().abs();
        let sound = look.by.iter().all(|v| v.abs() <= 1e6) && (1e-6..=1e6).contains(&size);
        if !sound {
            return Err(Refusal::Number("The place of a pane"));
        }
        if !split.has(&look.pane) {
            return Err(Refusal::NoPane);
        }
    }
    let lost = split.lines.values().filter_map(|l| l.within.as_ref()).any(|pane| !split.has(pane));
    if lost { Err(Refusal::NoPane) } else { Ok(()) }
}

fn line(line: &SplitLine) -> Result<(), Refusal> {
    if line.points.iter().flatten().any(|v| v.is_nan() || v.abs() > FARTHEST) {
        return Err(Refusal::Number("A place on the sheet"));
    }
    let apart = |w: &[[f64; 2]]| (w[0][0] - w[1][0]).hypot(w[0][1] - w[1][1]) >= NEAREST;
    if !(2..=SPLIT_POINTS).contains(&line.points.len()) || !line.points.windows(2).all(apart) {
        return Err(Refusal::SplitPoints);
    }
    match line.course {
        Course::Straight | Course::Smooth => Ok(()),
        Course::Zigzag { count, .. } if !(1..=TEETH).contains(&count) => Err(Refusal::Teeth),
        Course::Zigzag { depth, .. } | Course::Torn { depth, .. } => {
            within("The depth of a line that splits", depth, -1000.0, 1000.0)
        }
    }
}
