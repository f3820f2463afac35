//! The simulated press: its colours, its inks, and the profile that other programs read.

use inky_press::{Inks, Lab, PRESSES, press};
use moxcms::{ColorProfile, Layout, RenderingIntent, TransformOptions};
use proptest::prelude::*;

#[test]
fn solids_and_paper_come_out_as_they_were_measured() {
    let press = press("coated").expect("it ships");
    let measured = |inks| press.measured(press.printed(inks));
    assert!(measured([0.0; 4]).distance(press.paper) < 1e-9);
    for (inks, is) in [
        ([1.0, 0.0, 0.0, 0.0], Lab::new(55.0, -36.0, -51.0)),
        ([0.0, 1.0, 1.0, 0.0], Lab::new(47.0, 69.0, 47.0)),
        ([1.0, 1.0, 0.0, 0.0], Lab::new(24.0, 18.0, -46.0)),
        ([0.0, 0.0, 0.0, 1.0], Lab::new(16.0, 0.0, 0.0)),
    ] {
        assert!(measured(inks).distance(is) < 1e-6, "{inks:?}: {:?}", measured(inks));
    }
    // dots grow: half a tint is darker than halfway
    assert!(press.printed([0.0, 0.0, 0.0, 0.5]).l < 58.0);
}

#[test]
fn what_no_ink_prints_is_told_and_black_is_within_the_limit() {
    for press in &PRESSES {
        let green = press.separated(Lab::new(88.0, -80.0, 80.0));
        assert!(green.off > 10.0, "{}: {green:?}", press.id);
        let black = press.separated(Lab::new(0.0, 0.0, 0.0)).inks;
        assert!(black[3] > 0.9 && black.iter().sum::<f64>() <= press.ink_limit + 1e-9, "{}: {black:?}", press.id);
        let white = press.separated(Lab::new(100.0, 0.0, 0.0)).inks;
        assert!(white.iter().all(|share| *share < 1e-3), "{}: {white:?}", press.id);
    }
}

#[test]
fn other_programs_see_the_same_press() {
    for press in &PRESSES {
        let bytes = press.profile().expect("a profile");
        // PDF/X-4 asks for the output class (ISO 15930-7, 6.2.2)
        assert_eq!((&bytes[12..16], &bytes[16..20]), (b"prtr".as_slice(), b"CMYK".as_slice()));
        let profile = ColorProfile::new_from_slice(&bytes).expect("a profile that is read");
        let options =
            TransformOptions { rendering_intent: RenderingIntent::RelativeColorimetric, ..TransformOptions::default() };
        let srgb = ColorProfile::new_srgb();
        let there = srgb.create_transform_f32(Layout::Rgb, &profile, Layout::Rgba, options).expect("to inks");
        let back = profile.create_transform_f32(Layout::Rgba, &srgb, Layout::Rgb, options).expect("to colours");
        let mut off: Vec<f32> = Vec::new();
        for k in 0..125 {
            // muted colours: nearly all presses can print nearly all of them
            let rgb = [k % 5, k / 5 % 5, k / 25].map(|v| 0.5 + 0.05 * v as f32);
            let (mut inks, mut again) = ([0.0; 4], [0.0; 3]);
            there.transform(&rgb, &mut inks).expect("inks");
            back.transform(&inks, &mut again).expect("colours");
            assert!(f64::from(inks.iter().sum::<f32>()) <= press.ink_limit + 0.02, "{}: {inks:?}", press.id);
            off.extend(rgb.iter().zip(again).map(|(a, b)| (a - b).abs()));
        }
        let mean = off.iter().sum::<f32>() / off.len() as f32;
        let far = off.iter().filter(|off| **off > 0.03).count();
        assert!(mean < 0.01 && far * 20 < off.len(), "{}: {mean}, {far} far off", press.id);
    }
}

fn inks() -> impl Strategy<Value = Inks> {
    // within every limit
    [0.0..0.6_f64, 0.0..0.6, 0.0..0.6, 0.0..0.6].prop_map(Inks::from)
}

proptest! {
    /// A colour that the press prints is met, whatever mix it was printed from.
    #[test]
    fn printed_colours_are_separated(inks in inks(), at in 0..PRESSES.len()) {
        let press = &PRESSES[at];
        let colour = press.printed(inks);
        let separated = press.separated(colour);
        prop_assert!(separated.off < 0.6, "{colour:?} {separated:?}");
        prop_assert!(separated.inks.iter().sum::<f64>() <= press.ink_limit + 1e-9);
    }

    /// More of an ink is never lighter.
    #[test]
    fn ink_darkens(inks in inks(), ink in 0..4_usize, more in 0.01..0.4_f64, at in 0..PRESSES.len()) {
        let mut added = inks;
        added[ink] += more;
        prop_assert!(PRESSES[at].printed(added).l < PRESSES[at].printed(inks).l + 1e-9);
    }
}
