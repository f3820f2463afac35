//! How well subjects are found, and how quickly strokes are answered. Prints a table: the rendered photos with their exact mattes, and composites
//! made here (hair, spokes, limbs), all at 1,600 pixels on the long side.
//!
//! `cargo bench --workspace --profile dev --bench subjects`

mod composites;

use image::{GrayImage, RgbaImage};
use inky_core::breakout::trace;
use inky_core::cutout::regions::depth;
use inky_core::cutout::{
    Hints, PhotoBox, Standout, Start, SubjectStroke, Unwatched, WorkingPhoto, draft, find_subject, finish_subject, iou,
};
use inky_core::grid::Grid;
use inky_core::photo::{decode, resize};
use inky_saliency::Network;
use std::path::Path;
use std::time::Instant;

const LONG: u32 = 1600;
/// Strokes over what is wrong, one after the other.
const STROKES: usize = 6;

/// A photo with its exact matte, and the subject's own colours where they are known.
pub struct Case {
    pub name: String,
    pub photo: RgbaImage,
    pub truth: Grid<f32>,
    pub colours: Option<RgbaImage>,
}

fn main() {
    if std::env::args().any(|a| a == "--list") {
        return;
    }
    let network = Network::load().expect("the network");
    let photos = ["octopus-kite", "balloon", "diamond-kite", "woolly-sheep", "dandelion"].map(rendered);
    println!(
        "{:<16}{:>9}{:>9}{:>9}{:>9}{:>9}{:>9}{:>9}",
        "", "box", "strokes", "SAD", "mask", "plain", "colours", "stroke"
    );
    println!("{:<16}{:>9}{:>9}{:>9}{:>9}{:>9}{:>9}{:>9}", "", "IoU", "IoU", "", "SAD", "SAD", "error", "ms");
    let mut sums = [[0.0_f64; 7]; 2];
    let mut counts = [0.0_f64; 2];
    let cases = photos.into_iter().map(|c| (0, c)).chain(composites::all(&backdrops()).into_iter().map(|c| (1, c)));
    for (set, case) in cases {
        let figures = measure(&case, &network);
        print(&case.name, &figures);
        counts[set] += 1.0;
        sums[set].iter_mut().zip(figures).for_each(|(s, f)| *s += f);
    }
    for (name, set) in [("mean of photos", 0), ("mean of composites", 1)] {
        print(name, &sums[set].map(|s| s / counts[set]));
    }
}

fn print(name: &str, f: &[f64; 7]) {
    let [by_box, by_strokes, sad, by_mask, plain, colours, stroke] = f;
    println!("{name:<18}{by_box:>7.3}{by_strokes:>9.3}{sad:>9.1}{by_mask:>9.1}{plain:>9.1}{colours:>9.1}{stroke:>9.0}");
}

/// IoU from a box, from a box and six strokes over what is wrong, the SAD of the latter's matte, the SAD from a correct mask and that of the mask itself, the mean
/// error of the edge's colours where the matte is given, and the milliseconds that a stroke takes.
fn measure(case: &Case, network: &Network) -> [f64; 7] {
    let hard = case.truth.map(|a| a > 0.5);
    let overlap = |matte: &GrayImage| iou(&Grid::above(matte, 127), &hard);
    let within = Some(around(&hard));
    let by_box = find_subject(&case.photo, &Hints::within(within), network, &Unwatched);
    let by_box = by_box.map_or(0.0, |s| overlap(&s.matte));

    let mut hints = Hints::within(within);
    let standout = Standout::find(&case.photo, within.as_ref(), network).expect("a box around the subject");
    let working = WorkingPhoto::new(&case.photo);
    let (mut times, mut before) = (Vec::new(), None);
    for _ in 0..=STROKES {
        let start = Instant::now();
        let now = draft(&working, &standout, &hints, before.as_ref(), &Unwatched);
        if !hints.strokes.is_empty() {
            times.push(start.elapsed().as_secs_f64() * 1e3);
        }
        let found = now.as_ref().map_or(hard.map(|_| false), |d| {
            Grid::from_gray(&d.matte()).resized(hard.width, hard.height).map(|a| a > 0.5)
        });
        before = now.ok();
        hints.strokes.extend(stroke(&found, &hard).filter(|_| hints.strokes.len() < STROKES));
    }
    times.sort_by(f64::total_cmp);
    let found = finish_subject(&case.photo, &standout, &hints, &Unwatched);
    let (by_strokes, sad) =
        found.map_or((0.0, f64::NAN), |s| (overlap(&s.matte), difference(&Grid::from_gray(&s.matte), &case.truth)));

    let outline = trace(&hard.to_f32()).to_svg();
    let given = Hints { start: Start::Nothing, traced: vec![outline], ..Hints::default() };
    let from_mask = finish_subject(&case.photo, &Standout::nothing(&case.photo), &given, &Unwatched);
    let by_mask = from_mask.map_or(f64::NAN, |s| difference(&Grid::from_gray(&s.matte), &case.truth));
    let plain = difference(&hard.to_f32(), &case.truth);
    [by_box, by_strokes, sad, by_mask, plain, colour_error(case), times[times.len() / 2]]
}

/// Sum of absolute differences, in thousands of pixels.
fn difference(a: &Grid<f32>, b: &Grid<f32>) -> f64 {
    a.data.iter().zip(&b.data).map(|(a, b)| f64::from((a - b).abs())).sum::<f64>() / 1000.0
}

/// Mean error of the cleaned colours in the soft pixels, 0 to 255, where the matte is the exact one.
fn colour_error(case: &Case) -> f64 {
    let Some(own) = &case.colours else { return f64::NAN };
    let mut clear = case.photo.clone();
    clear.pixels_mut().zip(&case.truth.data).for_each(|(p, a)| p.0[3] = (a * 255.0).round() as u8);
    let hints = Hints { start: Start::Alpha, ..Hints::default() };
    let Ok(found) = finish_subject(&clear, &Standout::nothing(&clear), &hints, &Unwatched) else { return f64::NAN };
    let soft: Vec<f64> = (found.cutout.pixels().zip(own.pixels()).zip(&case.truth.data))
        .filter(|(_, a)| (0.05..0.95).contains(*a))
        .map(|((f, o), _)| (0..3).map(|k| f64::from(f.0[k].abs_diff(o.0[k]))).sum::<f64>() / 3.0)
        .collect();
    soft.iter().sum::<f64>() / soft.len().max(1) as f64
}

fn around(mask: &Grid<bool>) -> PhotoBox {
    let (x0, y0, x1, y1) = mask.bounds().expect("a subject");
    PhotoBox { x: x0 as f64, y: y0 as f64, width: (x1 - x0) as f64, height: (y1 - y0) as f64 }
}

/// A stroke in the deepest place that is still wrong, as a person would draw it: over what is missing, or over what is too much.
fn stroke(found: &Grid<bool>, truth: &Grid<bool>) -> Option<SubjectStroke> {
    let wrong = |keep: bool| {
        let mut wrong = truth.clone();
        wrong.data.iter_mut().zip(&found.data).for_each(|(t, f)| *t = *t == keep && *f != keep);
        let inner = depth(&wrong);
        let best = (0..inner.data.len())
            .filter(|i| wrong.data[*i])
            .max_by(|a, b| inner.data[*a].total_cmp(&inner.data[*b]))?;
        Some((f64::from(inner.data[best]).min(1e4), keep, (best % truth.width) as f64, (best / truth.width) as f64))
    };
    let (depth, keep, x, y) = [wrong(true), wrong(false)].into_iter().flatten().max_by(|a, b| a.0.total_cmp(&b.0))?;
    let half = depth * 0.5;
    Some(SubjectStroke { keep, width: (depth * 0.6).max(2.0), points: vec![[x - half, y], [x + half, y]] })
}

fn read(file: &str) -> RgbaImage {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/photos").join(file);
    let picture = decode(&std::fs::read(path).expect("a demo photo")).expect("a picture");
    let scale = f64::from(LONG) / f64::from(picture.width().max(picture.height()));
    let side = |v: u32| (f64::from(v) * scale).round() as u32;
    resize(&picture, side(picture.width()), side(picture.height()))
}

fn rendered(name: &str) -> Case {
    let matte = image::DynamicImage::ImageRgba8(read(&format!("{name}.alpha.png"))).into_luma8();
    Case { name: name.into(), photo: read(&format!("{name}.jpg")), truth: Grid::from_gray(&matte), colours: None }
}

fn backdrops() -> Vec<RgbaImage> {
    ["dunes.jpg", "lanterns.jpg"].map(read).into()
}
