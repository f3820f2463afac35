//! The steps of the chain beside OpenCV and pymatting, on the same pictures in the same run. They are asked through Python where it has them
//! (`pip install opencv-python-headless pymatting`).

use crate::{Case, difference, hard};
use image::{GrayImage, Luma, RgbaImage};
use inky_core::cutout::grid::Grid;
use inky_core::cutout::steps::{
    Contrast, Label, Matting, closed_form, colours_of, enlarge_guided, foreground, grabcut, refined, trimap,
};
use inky_core::cutout::{Hint, Hints, Unwatched, iou};
use inky_core::photo::resize;
use peak_alloc::PeakAlloc;
use std::collections::BTreeMap;
use std::path::{Path, PathBuf};
use std::process::Command;
use std::time::Instant;

/// Long side at which the steps are compared, as the chain has it.
const FINE: u32 = 700;
/// Half the width of the band, in pixels.
const BAND: f32 = 12.0;
const GRABCUT_ROUNDS: usize = 5;
/// As the chain has it; so has the script.
const PULL: f32 = 0.01;
const FINE_ENOUGH: f64 = 1e-4;

/// A case at the fine size, with what is told of it.
struct Pair {
    name: String,
    small: RgbaImage,
    labels: Grid<Label>,
    band: Grid<f32>,
    truth: Grid<bool>,
}

pub fn compare(cases: &[(Case, Hints)], memory: &PeakAlloc) {
    let has = Command::new("python3").args(["-c", "import cv2, pymatting"]).output();
    if !has.is_ok_and(|o| o.status.success()) {
        println!("\nno peers: pip install opencv-python-headless pymatting");
        return;
    }
    let folder = std::env::temp_dir().join(format!("inky-peers-{}", std::process::id()));
    std::fs::create_dir_all(&folder).expect("a temporary folder");
    let pairs: Vec<Pair> = cases.iter().map(|(case, hints)| written(case, hints, &folder)).collect();
    let script = Path::new(env!("CARGO_MANIFEST_DIR")).join("benches/subjects/peers.py");
    let said = Command::new("python3").arg(script).arg(&folder).output().expect("python3");
    assert!(said.status.success(), "{}", String::from_utf8_lossy(&said.stderr));
    let theirs: BTreeMap<String, BTreeMap<String, f64>> = serde_json::from_slice(&said.stdout).expect("figures");

    println!(
        "\nbeside OpenCV and pymatting, long side {FINE}; times as shares of theirs, differences of the mattes in 1e-4\n{:<16}{:>9}{:>9}{:>9}{:>11}{:>9}{:>9}{:>11}{:>11}",
        "", "GrabCut", "theirs", "time", "band differs", "time", "MB", "full size", "foreground"
    );
    let mut sums = [0.0; 8];
    for (pair, (case, _)) in pairs.iter().zip(cases) {
        let figures = figures(pair, case, &theirs[&pair.name], &folder, memory);
        print(&pair.name, &figures);
        sums.iter_mut().zip(figures).for_each(|(s, f)| *s += f / pairs.len() as f64);
    }
    print("mean", &sums);
    let _ = std::fs::remove_dir_all(&folder);
}

fn print(name: &str, f: &[f64; 8]) {
    let [own, peer, time, differs, matting, megabytes, full, front] = f;
    println!(
        "{name:<16}{own:>9.3}{peer:>9.3}{time:>9.2}{differs:>12.2}{matting:>9.2}{megabytes:>9.1}{full:>11.2}{front:>11.2}"
    );
}

/// IoU of GrabCut and of the peer's, its time as a share of the peer's; the mean difference of the mattes in 1e-4, their time as a share and the
/// memory it took; the steps to full size as a share of the peer's GrabCut, for 1.7 megapixels; edge colours as a share.
fn figures(pair: &Pair, case: &Case, theirs: &BTreeMap<String, f64>, folder: &Path, memory: &PeakAlloc) -> [f64; 8] {
    let file = |kind: &str| folder.join(format!("{}.{kind}", pair.name));
    let colours = colours_of(&pair.small);
    let (mask, cut) = best(|| grabcut((&colours, &Contrast::of(&colours)), &pair.labels, GRABCUT_ROUNDS, None));
    let peer = image::open(file("grabcut.png")).expect("their mask").into_luma8();

    let prior = pair.truth.to_f32();
    let matting = Matting { prior: &prior, pull: PULL, start: &prior, held: None, rounds: 600, tolerance: FINE_ENOUGH };
    memory.reset_peak_usage();
    let before = memory.current_usage_as_mb();
    let solve = || closed_form(&colours, &pair.band, &matting, &Unwatched).expect("a matte");
    let (alpha, solved) = best(solve);
    let megabytes = memory.peak_usage_as_mb() - before;
    let bytes = std::fs::read(file("alpha")).expect("their matte");
    let data = bytes.chunks_exact(4).map(|b| f32::from_le_bytes([b[0], b[1], b[2], b[3]])).collect();
    let peer_alpha = Grid { width: alpha.width, height: alpha.height, data };
    let differs = difference(&alpha, &peer_alpha) * 1000.0 / alpha.data.len() as f64;

    let full = colours_of(&case.photo);
    let (_, enlarged) = best(|| {
        let start = enlarge_guided(&full, &colours, &alpha, &Unwatched).expect("a matte");
        refined(&full, &start, &Unwatched).expect("a matte")
    });
    let (_, cleaned) = best(|| foreground(&full, &case.truth, &Unwatched).expect("colours"));
    let megapixels = full.data.len() as f64 / 1e6;
    [
        iou(&mask, &pair.truth),
        iou(&Grid::above(&peer, 127), &pair.truth),
        cut / theirs["grabcut"],
        differs * 1e4,
        solved / theirs["closed_form"],
        f64::from(megabytes),
        enlarged * 1.7 / megapixels / theirs["grabcut"],
        cleaned / theirs["foreground"],
    ]
}

/// What a step gives, and the seconds of the quickest of three.
fn best<T>(step: impl Fn() -> T) -> (T, f64) {
    let timed = || {
        let start = Instant::now();
        (step(), start.elapsed().as_secs_f64())
    };
    let rest = timed().1.min(timed().1);
    let (result, last) = timed();
    (result, rest.min(last))
}

fn written(case: &Case, hints: &Hints, folder: &Path) -> Pair {
    let name = case.name.replace(' ', "-");
    let (w, h) = case.photo.dimensions();
    let scale = f64::from(FINE) / f64::from(w.max(h));
    let side = |v: u32| (f64::from(v) * scale).round() as u32;
    let small = resize(&case.photo, side(w), side(h));
    let (width, height) = (small.width() as usize, small.height() as usize);
    // a correct mask at the fine size
    let truth = hard(&case.truth).to_f32().resized(width, height).map(|a| a > 0.5);
    let within = hints.within.expect("a box");
    let drawn = hints.drawn(width, height, scale);
    let labels = Grid::from_fn(width, height, |x, y| {
        let (px, py) = ((x as f64 + 0.5) / scale - within.x, (y as f64 + 0.5) / scale - within.y);
        match drawn.at(x, y) {
            Hint::Keep => Label::Subject,
            Hint::Drop => Label::Background,
            Hint::Nothing if (0.0..within.width).contains(&px) && (0.0..within.height).contains(&py) => {
                Label::MaybeSubject
            }
            Hint::Nothing => Label::Background,
        }
    });
    let band = trimap(&truth, BAND);
    let save = |kind: &str, picture: &dyn Fn(PathBuf) -> image::ImageResult<()>| {
        picture(folder.join(format!("{name}.{kind}.png"))).expect("a file of the temporary folder");
    };
    save("photo", &|f| image::DynamicImage::ImageRgba8(small.clone()).into_rgb8().save(f));
    save("labels", &|f| {
        GrayImage::from_fn(small.width(), small.height(), |x, y| {
            Luma([match labels.at(x as usize, y as usize) {
                Label::Background => 0,
                Label::Subject => 1,
                Label::MaybeBackground => 2,
                Label::MaybeSubject => 3,
            }])
        })
        .save(f)
    });
    save("trimap", &|f| band.to_gray().save(f));
    save("mask", &|f| truth.to_gray().save(f));
    save("large", &|f| image::DynamicImage::ImageRgba8(case.photo.clone()).into_rgb8().save(f));
    save("truth", &|f| case.truth.to_gray().save(f));
    Pair { name, small, labels, band, truth }
}
