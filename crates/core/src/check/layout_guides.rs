//! What the guides of a sheet have to keep to.

use super::refusal::Refusal;
use super::values::within;
use crate::sheet::limits::{COLUMNS, GUIDES, SIDE_MM};
use crate::sheet::{LayoutGuides, Sheet};

/// The least distance of baselines, in millimetres.
const LEAST_STEP: f64 = 0.5;

/// Numbers within their limits. Whether the sheet has room for the margins is asked when they are set: a sheet that is made smaller keeps them.
pub(crate) fn layout_guides(guides: &LayoutGuides) -> Result<(), Refusal> {
    let margins = &guides.margins;
    for margin in [margins.left, margins.top, margins.right, margins.bottom] {
        within("A margin", margin, 0.0, SIDE_MM)?;
    }
    within("The gap between columns", guides.gutter, 0.0, SIDE_MM)?;
    if !(1..=COLUMNS).contains(&guides.columns) || !(1..=COLUMNS).contains(&guides.rows) {
        return Err(Refusal::Columns);
    }
    if let Some(baselines) = &guides.baselines {
        within("The first baseline", baselines.first, 0.0, SIDE_MM)?;
        within("The distance of baselines", baselines.step, LEAST_STEP, SIDE_MM)?;
    }
    if guides.lines.len() > GUIDES {
        return Err(Refusal::TooManyGuides);
    }
    guides.lines.iter().try_for_each(|line| within("The place of a guide", line.at, -SIDE_MM, 2.0 * SIDE_MM))
}

/// Whether something is left of the sheet between its margins and gaps.
pub(crate) fn room_between_margins(guides: &LayoutGuides, sheet: &Sheet) -> Result<(), Refusal> {
    let margins = &guides.margins;
    let room = |side: f64, before: f64, after: f64, count: u32| {
        side - before - after - f64::from(count - 1) * guides.gutter > 0.0
    };
    let across = room(sheet.width, margins.left, margins.right, guides.columns);
    if !across || !room(sheet.height, margins.top, margins.bottom, guides.rows) {
        return Err(Refusal::NoRoomBetweenMargins);
    }
    Ok(())
}
