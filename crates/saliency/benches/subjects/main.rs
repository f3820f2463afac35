//! How well subjects are found, and how quickly strokes are answered. Prints a table: the rendered photos with their exact mattes, and composites
//! made here (hair, spokes, limbs), all at 1,600 pixels on the long side; then the single steps beside those of OpenCV and pymatting.
//!
//! `cargo bench --workspace --profile dev --bench subjects`, with `-- balloon hair` for these alone and without the peers.

mod composites;
mod peers;

use image::{GrayImage, RgbaImage};
use inky_core::breakout::trace;
use inky_core::cutout::regions::depth;
use inky_core::cutout::steps::{colours_of, foreground};
use inky_core::cutout::{
    Hints, PhotoBox, Standout, Start, SubjectStroke, Unwatched, WorkingPhoto, draft, find_subject, finish_subject, iou,
};
use inky_core::grid::Grid;
use inky_core::photo::{decode, resize};
use inky_saliency::Network;
use peak_alloc::PeakAlloc;
use std::path::Path;
use std::time::Instant;

#[global_allocator]
static MEMORY: PeakAlloc = PeakAlloc;

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
    let args: Vec<String> = std::env::args().skip(1).collect();
    if args.iter().any(|a| a == "--list") {
        return;
    }
    let only: Vec<&String> = args.iter().filter(|a| !a.starts_with('-')).collect();
    let wanted = |name: &str| only.is_empty() || only.iter().any(|o| name.contains(*o));
    let network = Network::load().expect("the network");
    let photos = ["octopus-kite", "balloon", "diamond-kite", "woolly-sheep", "dandelion"];
    let photos = photos.into_iter().filter(|name| wanted(name)).map(rendered);
    println!(
        "{:<16}{:>9}{:>9}{:>9}{:>9}{:>9}{:>9}{:>9}",
        "", "box", "strokes", "SAD", "mask", "plain", "colours", "stroke"
    );
    println!("{:<16}{:>9}{:>9}{:>9}{:>9}{:>9}{:>9}{:>9}", "", "IoU", "IoU", "", "SAD", "SAD", "error", "ms");
    let mut sums = [[0.0_f64; 7]; 2];
    let mut counts = [0.0_f64; 2];
    let drawn = composites::all(&backdrops()).into_iter().filter(|c| wanted(&c.name));
    let cases = photos.map(|c| (0, c)).chain(drawn.map(|c| (1, c)));
    let mut told = Vec::new();
    for (set, case) in cases {
        let (figures, hints) = measure(&case, &network);
        print(&case.name, &figures);
        counts[set] += 1.0;
        sums[set].iter_mut().zip(figures).for_each(|(s, f)| *s += f);
        told.push((case, hints));
    }
    for (name, set) in [("mean of photos", 0), ("mean of composites", 1)] {
        print(name, &sums[set].map(|s| s / counts[set]));
    }
    if !only.is_empty() {
        return;
    }
    let (case, hints) = &told[0];
    let standout =
        Standout::find(&case.photo, hints.within.as_ref(), &network, &Unwatched).expect("a box around the subject");
    MEMORY.reset_peak_usage();
    let before = MEMORY.current_usage_as_mb();
    let found = finish_subject(&case.photo, &standout, hints, &Unwatched);
    let pixels = f64::from(case.photo.width() * case.photo.height()) / 1e6;
    println!(
        "memory of the chain beyond the network, {pixels:.1} megapixels: {:.0} MB{}",
        MEMORY.peak_usage_as_mb() - before,
        if found.is_err() { ", and nothing found" } else { "" }
    );
    peers::compare(&told, &MEMORY);
}

fn print(name: &str, f: &[f64; 7]) {
    let [by_box, by_strokes, sad, by_mask, plain, colours, stroke] = f;
    println!("{name:<18}{by_box:>7.3}{by_strokes:>9.3}{sad:>9.1}{by_mask:>9.1}{plain:>9.1}{colours:>9.1}{stroke:>9.0}");
}

/// IoU from a box, from a box and six strokes over what is wrong, the SAD of the latter's matte, the SAD from a correct mask and that of the mask itself, the mean
/// error of the edge's colours where the matte is given, and the milliseconds that a stroke takes; and the strokes.
fn measure(case: &Case, network: &Network) -> ([f64; 7], Hints) {
    let hard = hard(&case.truth);
    let overlap = |matte: &GrayImage| iou(&Grid::above(matte, 127), &hard);
    let within = Some(around(&hard));
    let by_box = find_subject(&case.photo, &Hints::within(within), network, &Unwatched);
    let by_box = by_box.map_or(0.0, |s| overlap(&s.matte));

    let mut hints = Hints::within(within);
    let standout = Standout::find(&case.photo, within.as_ref(), network, &Unwatched).expect("a box around the subject");
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
    let stroke = times.get(times.len() / 2).copied().unwrap_or(f64::NAN);
    ([by_box, by_strokes, sad, by_mask, plain, colour_error(case), stroke], hints)
}

pub fn hard(matte: &Grid<f32>) -> Grid<bool> {
    matte.map(|a| a > 0.5)
}

/// Sum of absolute differences, in thousands of pixels.
pub fn difference(a: &Grid<f32>, b: &Grid<f32>) -> f64 {
    a.data.iter().zip(&b.data).map(|(a, b)| f64::from((a - b).abs())).sum::<f64>() / 1000.0
}

/// Mean error of the cleaned colours in the soft pixels, 0 to 255, where the matte is the exact one.
fn colour_error(case: &Case) -> f64 {
    let Some(own) = &case.colours else { return f64::NAN };
    let Ok(found) = foreground(&colours_of(&case.photo), &case.truth, &Unwatched) else { return f64::NAN };
    let soft: Vec<f64> = (found.data.iter().zip(own.pixels()).zip(&case.truth.data))
        .filter(|(_, a)| (0.05..0.95).contains(*a))
        .map(|((f, o), _)| (0..3).map(|k| f64::from((f[k] - f32::from(o.0[k])).abs())).sum::<f64>() / 3.0)
        .collect();
    soft.iter().sum::<f64>() / soft.len().max(1) as f64
}

fn around(mask: &Grid<bool>) -> PhotoBox {
    let (x0, y0, x1, y1) = mask.bounds().expect("a subject");
    PhotoBox { x: x0 as f64, y: y0 as f64, width: (x1 - x0) as f64, height: (y1 - y0) as f64 }
}

/// A stroke through the deepest place that is still wrong, as a person would draw it: along what is missing, or along what is too much.
fn stroke(found: &Grid<bool>, truth: &Grid<bool>) -> Option<SubjectStroke> {
    let wrong = |keep: bool| {
        let mut wrong = truth.clone();
        wrong.data.iter_mut().zip(&found.data).for_each(|(t, f)| *t = *t == keep && *f != keep);
        let inner = depth(&wrong);
        let best = (0..inner.data.len())
            .filter(|i| wrong.data[*i])
            .max_by(|a, b| inner.data[*a].total_cmp(&inner.data[*b]))?;
        Some((inner.data[best].min(1e4), keep, [(best % truth.width) as f64, (best / truth.width) as f64], inner))
    };
    let (deepest, keep, at, depth) =
        [wrong(true), wrong(false)].into_iter().flatten().max_by(|a, b| a.0.total_cmp(&b.0))?;
    let mut points = ridge(&depth, at, 1.0);
    points.reverse();
    points.extend(ridge(&depth, at, -1.0).into_iter().skip(1));
    Some(SubjectStroke { keep, width: f64::from(deepest * 0.6).max(2.0), points })
}

/// From a place to one side along the ridge of a depth, as long as it stays half as deep, and a tenth of the picture at most.
fn ridge(depth: &Grid<f32>, from: [f64; 2], side: f64) -> Vec<[f64; 2]> {
    let value = |[x, y]: [f64; 2]| depth.clamped(x as i64, y as i64);
    let deepest = value(from);
    let step = f64::from(deepest / 2.0).max(1.5);
    let next = |[x, y]: [f64; 2], turn: f64| [x + step * turn.cos(), y + step * turn.sin()];
    let best = |p: [f64; 2], turns: &mut dyn Iterator<Item = f64>| {
        turns.max_by(|a, b| value(next(p, *a)).total_cmp(&value(next(p, *b))))
    };
    let all = |k: i32| f64::from(k) * std::f64::consts::TAU / 32.0;
    let Some(along) = best(from, &mut (0..16).map(all)) else { return vec![from] };
    let mut turn = if side > 0.0 { along } else { along + std::f64::consts::PI };
    let mut points = vec![from];
    let inside = |[x, y]: [f64; 2]| x >= 0.0 && y >= 0.0 && x < depth.width as f64 && y < depth.height as f64;
    while (points.len() as f64) * step < f64::from(LONG) / 10.0 {
        let p = points[points.len() - 1];
        let Some(way) = best(p, &mut (-4..=4).map(|k| turn + all(k))) else { break };
        let to = next(p, way);
        if !inside(to) || value(to) < deepest / 2.0 {
            break;
        }
        points.push(to);
        turn = way;
    }
    points
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
