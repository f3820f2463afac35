//! Whatever people make of a sheet, two renderers draw it alike.

use super::{cases, edit, library, start};
use image::{Rgba, RgbaImage};
use inky_core::change::change;
use inky_core::scene::SceneMemo;
use inky_e2e::renderers::Loaded;
use inky_render::Originals;
use proptest::prelude::*;
use std::sync::Arc;

/// Four pixels for a millimetre: the paper's grain is repeated after whole pixels, to which the other renderer rounds. That one also knows four shades
/// of an upright or level edge only; with fewer pixels, those along the border of a sheet would count for too much.
const PPI: f64 = 101.6;

/// A photo with soft colours and hard edges.
fn picture(width: u32, height: u32) -> Arc<RgbaImage> {
    Arc::new(RgbaImage::from_fn(width, height, |x, y| {
        let board = if (x / 40 + y / 40).is_multiple_of(2) { 60 } else { 0 };
        Rgba([(x * 255 / width) as u8, (y * 255 / height) as u8, 120 + board, 255])
    }))
}

fn originals() -> Originals {
    let wide = picture(600, 400);
    let arms = super::breakouts::picture(600, 400);
    let cutout = RgbaImage::from_fn(600, 400, |x, y| {
        let [r, g, b, _] = wide.get_pixel(x, y).0;
        Rgba([r, g, b, arms.get_pixel(x, y).0[0]])
    });
    Originals {
        photos: [("wide".into(), wide), ("tall".into(), picture(200, 500))].into(),
        cutouts: [("arms".into(), Arc::new(cutout))].into(),
    }
}

/// Millimetres, on a sheet of A4.
const WIDEST_FADE: f64 = 250.0;

proptest! {
    #![proptest_config(ProptestConfig { cases: cases(200), failure_persistence: None, max_shrink_iters: 100, ..ProptestConfig::default() })]

    #[test]
    fn two_renderers_draw_them_alike(edits in prop::collection::vec(edit(), 1..14)) {
        let library = library();
        let memo = SceneMemo::of(64 << 20);
        let mut sheet = start(&library);
        for edit in &edits {
            if let Ok(next) = change(&sheet, std::slice::from_ref(edit), &library, &memo) {
                sheet = next;
            }
        }
        // the other renderer draws no effect that reaches several sheets far
        for piece in &mut sheet.pieces {
            if let Some(window) = piece.window_mut() {
                window.finish.softness.width = window.finish.softness.width.min(WIDEST_FADE);
            }
        }
        let loaded = Loaded { sheet, library, originals: originals() };
        let compared = loaded.renderers_agree(PPI);
        prop_assert!(compared.is_ok(), "{:?}", compared);
    }
}
