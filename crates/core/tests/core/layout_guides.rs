//! Margins, columns, baselines and guides: kept, checked, and never printed.

use super::edits::{Word, word};
use inky_core::check::check_sheet;
use inky_core::edit::*;
use inky_core::merge::merge;
use inky_core::scene::Keys;
use inky_core::sheet::*;

fn guides(lines: &[(GuideWay, f64)]) -> LayoutGuides {
    let lines: Vec<GuideLine> = lines.iter().map(|(way, at)| GuideLine { way: *way, at: *at }).collect();
    let margins = Margins { left: 10.0, top: 12.0, right: 10.0, bottom: 20.0 };
    LayoutGuides { margins, columns: 3, gutter: 4.0, lines: lines.into(), ..LayoutGuides::default() }
}

fn set(w: &Word, guides: LayoutGuides) -> Result<Sheet, Refusal> {
    w.try_edit(Edit::SetGuides { guides })
}

#[test]
fn guides_are_kept_and_change_nothing_that_is_drawn() {
    let mut w = word();
    let before = Keys::of(&w.sheet);
    w.edit(Edit::SetGuides { guides: guides(&[(GuideWay::Upright, 40.0), (GuideWay::Level, -5.0)]) });
    let after = Keys::of(&w.sheet);
    assert_eq!((after.of_page(), after.of_piece(w.piece)), (before.of_page(), before.of_piece(w.piece)));
    assert_eq!(w.sheet.header().guides, w.sheet.guides);
    let read: Sheet = serde_json::from_str(&serde_json::to_string(&w.sheet).unwrap()).unwrap();
    assert_eq!(read, w.sheet);
    // a sheet that becomes smaller than its margins keeps them
    w.edit(Edit::ResizeSheet { width: 15.0, height: 15.0, unit: Unit::Mm, ppi: 72.0 });
    check_sheet(&w.sheet).unwrap();
}

#[test]
fn guides_that_cannot_be_say_why() {
    let w = word();
    let plain = guides(&[]);
    let with = |change: fn(&mut LayoutGuides)| {
        let mut changed = plain.clone();
        change(&mut changed);
        set(&w, changed)
    };
    assert_eq!(with(|g| g.columns = 0).unwrap_err(), Refusal::Columns);
    assert_eq!(with(|g| g.rows = 10_000).unwrap_err(), Refusal::Columns);
    assert_eq!(with(|g| g.margins.left = 4_900.0).unwrap_err(), Refusal::NoRoomBetweenMargins);
    assert_eq!(with(|g| (g.gutter, g.columns) = (500.0, 50)).unwrap_err(), Refusal::NoRoomBetweenMargins);
    assert!(with(|g| g.margins.top = f64::NAN).is_err());
    assert!(with(|g| g.baselines = Some(Baselines { first: 0.0, step: 0.0 })).is_err());
    assert!(with(|g| g.baselines = Some(Baselines { first: 3.0, step: 5.0 })).is_ok());
    let many = vec![(GuideWay::Level, 3.0); limits::GUIDES + 1];
    assert_eq!(set(&w, guides(&many)).unwrap_err(), Refusal::TooManyGuides);
}

#[test]
fn two_hands_pull_out_guides_at_once() {
    let mut w = word();
    w.edit(Edit::SetGuides { guides: guides(&[(GuideWay::Upright, 40.0)]) });
    let more = |at| {
        let mut changed = w.sheet.guides.clone();
        changed.lines.push(GuideLine { way: GuideWay::Level, at });
        set(&w, changed).unwrap()
    };
    let both = merge(&w.sheet, &more(50.0), &more(60.0)).unwrap();
    assert_eq!(both.guides.lines.len(), 3);
}
