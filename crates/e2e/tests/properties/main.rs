//! Whatever people do to a sheet, it stays a sheet: it keeps to the limits, and its scene is well-formed SVG.

use inky_core::check::check_sheet;
use inky_core::edit::{Edit, apply};
use inky_core::scene::scene;
use inky_core::scene::svg::PictureFiles;
use inky_core::scene::tree::Source;
use inky_core::sheet::Sheet;
use inky_trials::random::edit;
use inky_trials::{amending, library, start};
use proptest::prelude::*;
use usvg::roxmltree::Document;

mod renderers;

struct Names;

impl PictureFiles for Names {
    fn address(&self, source: &Source, scale: f64) -> String {
        match source {
            Source::Photo(photo) => format!("photo\"<>&'{}{scale}", photo.id),
            Source::Cutout(cutout) => cutout.id.to_string(),
            Source::Paper { .. } | Source::Computed(_) => "light".into(),
        }
    }
}

/// How many sheets are made: `PROPTEST_CASES` asks for more of them.
fn cases(usual: u32) -> u32 {
    std::env::var("PROPTEST_CASES").ok().and_then(|v| v.parse().ok()).unwrap_or(usual)
}

/// Whether it is the same after its way as JSON, which knows no infinite numbers.
fn can_be_sent(edit: &Edit) -> bool {
    serde_json::from_str::<Edit>(&serde_json::to_string(edit).unwrap()).is_ok_and(|e| e == *edit)
}

proptest! {
    #![proptest_config(ProptestConfig { cases: cases(300), failure_persistence: None, ..ProptestConfig::default() })]

    #[test]
    fn edits_never_break_a_sheet(edits in prop::collection::vec(edit(), 1..14)) {
        let library = library();
        let mut sheet = start(&library);
        for edit in &edits {
            let made = apply(&sheet, edit, &library);
            // naming the members that change does the same, and is called the same
            if let Some(amend) = amending(edit, &sheet).filter(|_| can_be_sent(edit)) {
                prop_assert_eq!(&apply(&sheet, &amend, &library), &made, "{:?}", amend);
                prop_assert_eq!(amend.name(&sheet), edit.name(&sheet));
            }
            match made {
                Ok(next) => {
                    prop_assert_eq!(check_sheet(&next), Ok(()), "after {:?}", edit);
                    // what is stored is what is read again
                    let json = serde_json::to_string(&next).unwrap();
                    prop_assert_eq!(&serde_json::from_str::<Sheet>(&json).unwrap(), &next);
                    prop_assert!(!edit.name(&sheet).is_empty());
                    sheet = next;
                }
                Err(refusal) => prop_assert!(refusal.to_string().ends_with('.'), "{} is no sentence", refusal),
            }
        }
        let svg = scene(&sheet, &library).document(&sheet.name, sheet.bleed, &Names);
        let document = Document::parse(&svg);
        prop_assert!(document.is_ok(), "{:?} in {}", document.err(), svg);
        let scripts = document.unwrap().descendants().any(|n| n.has_tag_name("script"));
        prop_assert!(!scripts);
        prop_assert!(!svg.contains("NaN") && !svg.contains("inf"));
    }
}
