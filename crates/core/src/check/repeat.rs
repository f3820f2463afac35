//! Windows and bundles that are repeated.

use super::refusal::Refusal;
use super::values::within;
use crate::sheet::limits::{LAYOUT_POINTS, MEMBER_WORDS as WORDS, MEMBERS};
use crate::sheet::{Layout, LineLayout, Repeat};
use kurbo::Affine;

/// How far members may lie from each other or from their centre, in millimetres.
const FARTHEST: f64 = 1e5;
/// A line along which members lie is at least so long somewhere, in millimetres.
const NEAREST: f64 = 0.01;

pub(crate) fn repeat(repeat: &Repeat) -> Result<(), Refusal> {
    let count = repeat.layout.count();
    if !(1..=MEMBERS as u32).contains(&count) {
        return Err(Refusal::Members);
    }
    match &repeat.layout {
        Layout::Row { gap, along, .. } => {
            within("The gap", *gap, -FARTHEST, FARTHEST)?;
            direction(along)?;
        }
        Layout::Grid { gaps, along, down, .. } => {
            gaps.iter().try_for_each(|gap| within("The gap", *gap, -FARTHEST, FARTHEST))?;
            direction(along)?;
            direction(down)?;
        }
        Layout::Ring { centre, sweep, .. } => {
            centre.iter().try_for_each(|v| within("The centre of the ring", *v, -FARTHEST, FARTHEST))?;
            within("How far the ring goes around", *sweep, -360.0, 360.0)?;
        }
        Layout::Line(line) => along_line(line)?,
    }
    within("The turn of each member", repeat.turn, -360.0, 360.0)?;
    within("The scale of each member", repeat.scale, 0.5, 2.0)?;
    let smallest = repeat.scale.powi(count as i32);
    if !(1e-3..=1e3).contains(&smallest) {
        return Err(Refusal::Number("The scale of each member"));
    }
    // each word is an opening of its own
    let words = repeat.looks.values().filter(|look| look.word.is_some()).count();
    if repeat.looks.len() > 2 * MEMBERS || words > WORDS {
        return Err(Refusal::Members);
    }
    for look in repeat.looks.values() {
        let size = Affine::new(look.by).determinant().abs();
        if !look.by.iter().all(|v| v.abs() <= 1e6) || !(1e-6..=1e6).contains(&size) {
            return Err(Refusal::Number("The place of a member"));
        }
    }
    Ok(())
}

/// One of a bundle: its members have no words as wholes.
pub(crate) fn bundle_repeat(own: &Repeat) -> Result<(), Refusal> {
    if own.looks.values().any(|look| look.word.is_some()) {
        return Err(Refusal::BundleMember);
    }
    repeat(own)
}

fn along_line(line: &LineLayout) -> Result<(), Refusal> {
    within("The distance of members", line.distance, 0.01, FARTHEST)?;
    within("The direction of the line", line.level, -360.0, 360.0)?;
    within("How much thinner the line becomes", line.thinning, 0.0, 1.0)?;
    let sound =
        line.points.iter().all(|[x, y, p]| x.abs() <= FARTHEST && y.abs() <= FARTHEST && (0.0..=1.0).contains(p));
    let long = line.points.windows(2).any(|w| (w[0][0] - w[1][0]).hypot(w[0][1] - w[1][1]) >= NEAREST);
    if sound && long && line.points.len() <= LAYOUT_POINTS { Ok(()) } else { Err(Refusal::LayoutLine) }
}

fn direction([x, y]: &[f64; 2]) -> Result<(), Refusal> {
    // NaN is none either
    if (0.999..=1.001).contains(&x.hypot(*y)) { Ok(()) } else { Err(Refusal::Number("The direction of a row")) }
}
