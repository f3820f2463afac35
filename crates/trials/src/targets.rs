//! What is done with bytes of strangers, by the name of the fuzz target. Refusals are fine; panics, and too much of memory or time, are not.

use crate::random::{self, arms, edit, list_edit, outline};
use crate::{library, start};
use image::{Rgba, RgbaImage};
use inky_combine::{LineSide, LineStyle, Operand, Rule, cells, grow, join_all, own_line};
use inky_core::change::change;
use inky_core::check::check_sheet;
use inky_core::cutout::{Saliency, Unwatched, Watch, find_subject};
use inky_core::edit::Edit;
use inky_core::grid::Grid;
use inky_core::library::LoadedLibrary;
use inky_core::outline::{FontCollection, check_letters, lettering_path, read_drawing, read_font};
use inky_core::scene::{SceneMemo, drawing_part, scene};
use inky_core::sheet::{Lettering, Sheet};
use inky_core::sheet_file::SheetFile;
use inky_core::unpack::unpack;
use inky_photo::read_photo;
use inky_render::{Originals, Plan, RenderError, pixels};
use kurbo::{Cap, Join};
use proptest::prelude::*;
use proptest::strategy::ValueTree;
use proptest::test_runner::{Config, RngAlgorithm, TestRng, TestRunner};
use std::fmt::Debug;
use std::sync::{Arc, LazyLock};

/// A function that bytes are handed to, with its name.
pub type Target = (&'static str, fn(&[u8]));

/// Every target, as the folders of its corpus are called.
pub const TARGETS: [Target; 9] = [
    ("drawings", drawings),
    ("fonts", fonts),
    ("photos", photos),
    ("sheet_files", sheet_files),
    ("edits", edits),
    ("lists", lists),
    ("joins", joins),
    ("hints", hints),
    ("rendering", rendering),
];

static LIBRARY: LazyLock<LoadedLibrary> = LazyLock::new(library);
static START: LazyLock<Sheet> = LazyLock::new(|| start(&LIBRARY));

/// Edits of one input.
const MOST: usize = 8;

/// What a strategy makes: one thing for every eight bytes, which are the seed of its randomness. So a byte that changes changes one thing of a list.
fn made<T: Debug>(bytes: &[u8], strategy: impl Strategy<Value = T>) -> Vec<T> {
    let one = |chunk: &[u8]| {
        let mut seed = [0; 32];
        seed[..chunk.len()].copy_from_slice(chunk);
        let rng = TestRng::from_seed(RngAlgorithm::ChaCha, &seed);
        let config = Config { failure_persistence: None, ..Config::default() };
        strategy.new_tree(&mut TestRunner::new_with_rng(config, rng)).ok().map(|tree| tree.current())
    };
    bytes.chunks(8).take(MOST).filter_map(one).collect()
}

/// An SVG file, and each of its parts written anew.
pub fn drawings(bytes: &[u8]) {
    if let Ok(drawn) = read_drawing("a drawing", bytes, &LIBRARY.fonts) {
        for part in 0..drawn.picture.parts.len().min(20) {
            drawing_part(&drawn.picture, part);
        }
    }
}

/// A font file of any kind, with words set in it.
pub fn fonts(bytes: &[u8]) {
    let Ok(face) = read_font("own".into(), "a font", bytes) else { return };
    if check_letters(&face).is_err() {
        return;
    }
    face.features();
    let mut fonts = FontCollection::default();
    fonts.add(face);
    let _ = lettering_path(&Lettering::plain("Ag fi\n&0", "own".into(), 20.0), &fonts);
}

/// A photo file of any kind.
pub fn photos(bytes: &[u8]) {
    let _ = read_photo(bytes);
}

/// Takes what is bright for the subject.
struct Brightness;

impl Saliency for Brightness {
    fn saliency(&self, picture: &RgbaImage, _: &dyn Watch) -> Result<Grid<f32>, String> {
        let (width, height) = (picture.width() as usize, picture.height() as usize);
        let bright = picture.pixels().map(|p| f32::from(p.0[0]) / 255.0).collect();
        Ok(Grid { width, height, data: bright })
    }
}

/// A sheet file, unpacked and made ready to be drawn.
pub fn sheet_files(bytes: &[u8]) {
    let Ok(file) = SheetFile::read(bytes) else { return };
    let beside = |_: &str| Err("nothing lies beside it".to_owned());
    let network = || Ok(Arc::new(Brightness) as Arc<dyn Saliency>);
    if let Ok(unpacked) = unpack(file, &LIBRARY.fonts, &beside, &network, &Unwatched) {
        let library = unpacked.library();
        let memo = SceneMemo::of(16 << 20);
        // what is refused for its cost is not drawn either
        if change(&unpacked.sheet, &[], &library, &memo).is_ok() {
            let _ = scene(&unpacked.sheet, &library);
        }
    }
}

/// The start sheet after edits, as the server keeps them.
fn kept(edits: &[Edit]) -> Sheet {
    let memo = SceneMemo::of(16 << 20);
    let mut sheet = START.clone();
    for edit in edits {
        match change(&sheet, std::slice::from_ref(edit), &*LIBRARY, &memo) {
            Ok(next) => {
                assert_eq!(check_sheet(&next), Ok(()), "after {edit:?}");
                sheet = next;
            }
            Err(refusal) => assert!(refusal.to_string().ends_with('.'), "{refusal} is no sentence"),
        }
    }
    sheet
}

/// Edits, and the scene of what is kept of them.
pub fn edits(bytes: &[u8]) {
    let _ = scene(&kept(&made(bytes, edit())), &*LIBRARY);
}

/// Openings of lists within lists.
pub fn lists(bytes: &[u8]) {
    let _ = scene(&kept(&made(bytes, list_edit())), &*LIBRARY);
}

/// Outlines joined in every way, their cells, and lines along them.
pub fn joins(bytes: &[u8]) {
    let outlines = made(&bytes[..bytes.len().min(32)], outline());
    if outlines.len() < 2 {
        return;
    }
    let width = f64::from(bytes[0]) / 8.0 + 0.01;
    for rule in [Rule::Union, Rule::Difference, Rule::Intersection, Rule::Xor] {
        let operands: Vec<_> =
            outlines.iter().map(|path| Operand { path: path.clone(), rule, united: false }).collect();
        join_all(&operands);
    }
    cells(&outlines);
    grow(&outlines[0], width);
    grow(&outlines[0], -width);
    let style = LineStyle { width, side: LineSide::Outside, corners: Join::Round, ends: Cap::Butt };
    own_line(&outlines[1], &style);
}

/// A subject found and corrected in a small photo.
pub fn hints(bytes: &[u8]) {
    const WIDTH: u32 = 60;
    const HEIGHT: u32 = 44;
    let said = made(&bytes[..bytes.len().min(8)], random::hints(f64::from(WIDTH), f64::from(HEIGHT)));
    let Some(hints) = said.first() else { return };
    let shape = arms(WIDTH, HEIGHT);
    let photo =
        RgbaImage::from_fn(WIDTH, HEIGHT, |x, y| Rgba([shape.get_pixel(x, y).0[0], (x * 4) as u8, (y * 5) as u8, 255]));
    match find_subject(&photo, hints, &Brightness, &Unwatched) {
        Ok(found) => assert_eq!(found.cutout.dimensions(), photo.dimensions()),
        Err(refusal) => assert!(refusal.to_string().ends_with('.'), "{refusal} is no sentence"),
    }
}

/// Pictures for a sheet of the start library.
fn originals() -> Originals {
    let picture = |width, height| Arc::new(RgbaImage::from_pixel(width, height, Rgba([90, 120, 200, 255])));
    Originals {
        photos: [("wide".into(), picture(600, 400)), ("tall".into(), picture(200, 500))].into(),
        cutouts: [("arms".into(), picture(600, 400))].into(),
    }
}

/// What is kept of edits, drawn.
pub fn rendering(bytes: &[u8]) {
    let sheet = kept(&made(bytes, edit()));
    // some hundred pixels a side, however large the sheet
    let ppi = 25.4 * 150.0 / sheet.width.max(sheet.height);
    match Plan::of_sheet(&sheet, &*LIBRARY, &originals(), ppi, sheet.bleed).and_then(|plan| pixels(&plan, &Unwatched)) {
        Ok(_) | Err(RenderError::BadPiece(_)) => {}
        Err(error) => panic!("{error}"),
    }
}
