//! How well subjects are found, and how quickly strokes are answered. Prints two tables: overlap with the exact masks in a box and after each of a
//! robot's strokes, on the rendered photos and on composites that are hard to find; and how exact edges are. Then the single steps beside those of
//! OpenCV and pymatting. All at 1,600 pixels on the long side.
//!
//! `cargo bench --workspace --profile dev --bench subjects`, with `-- balloon hair` for these alone and without the peers, and with
//! `-- seed=7` for other composites of the same kinds. `-- overlap` leaves out the second table, with `-- picks` the robot takes the wider answer to a
//! stroke where that is better, `-- pictures=DIR` writes what was found after each stroke. `-- network` sets one look of the network beside onnxruntime.

mod network;
mod peers;

use image::{Rgba, RgbaImage};
use inky_core::breakout::trace;
use inky_core::cutout::steps::{colours_of, foreground};
use inky_core::cutout::{Hint, Hints, Standout, Start, Unwatched, find_subject, finish_subject};
use inky_core::grid::Grid;
use inky_core::photo::{decode, resize};
use inky_saliency::Network;
use inky_trials::subjects::{Case, Robot, Round, Stroking, backdrops, hard_ones};
use peak_alloc::PeakAlloc;
use std::path::Path;

#[global_allocator]
static MEMORY: PeakAlloc = PeakAlloc;

const LONG: u32 = 1600;
/// Strokes over what is wrong, one after the other.
const STROKES: usize = 4;
/// The composites that are made where no seed is given.
const SEED: u64 = 1;

fn main() {
    let args: Vec<String> = std::env::args().skip(1).collect();
    if args.iter().any(|a| a == "--list") {
        return;
    }
    let seed = args.iter().find_map(|a| a.strip_prefix("seed=")?.parse().ok()).unwrap_or(SEED);
    let pictures = args.iter().find_map(|a| a.strip_prefix("pictures="));
    let overlap = args.iter().any(|a| a == "overlap");
    let picks = args.iter().any(|a| a == "picks");
    let only = args.iter().filter(|a| !a.starts_with('-') && !a.contains('=') && *a != "overlap" && *a != "picks");
    let only: Vec<&String> = only.collect();
    let wanted = |name: &str| only.is_empty() || only.iter().any(|o| name.contains(*o));
    let network = Network::load().expect("the network");
    if args.iter().any(|a| a == "network") {
        network::compare(&rendered("octopus-kite").photo, &network);
        return;
    }
    let photos = ["octopus-kite", "balloon", "diamond-kite", "woolly-sheep", "dandelion"];
    let photos = photos.into_iter().filter(|name| wanted(name)).map(rendered);
    let drawn = hard_ones(&backdrops(["dunes.jpg", "lanterns.jpg"].map(read).into()), seed);
    let drawn = drawn.into_iter().filter(|c| wanted(&c.name));
    let cases = photos.map(|c| (0, c)).chain(drawn.map(|c| (1, c)));
    println!(
        "{:<18}{:>7}{:>7}{:>7}{:>7}{:>7}{:>7}{:>7}{:>7}",
        "overlap (IoU)", "box", "best", "1", "2", "3", "4", "loss", "ms"
    );
    let mut sums = [[0.0_f64; 8]; 2];
    let mut counts = [0.0_f64; 2];
    let mut told = Vec::new();
    let mut doubts = [0_usize; 4];
    for (set, case) in cases {
        let (figures, hints, doubted) = found(&case, &network, (picks, pictures));
        doubts.iter_mut().zip(doubted).for_each(|(all, d)| *all += d);
        print(&case.name, &figures);
        counts[set] += 1.0;
        sums[set].iter_mut().zip(figures).for_each(|(s, f)| *s += f);
        told.push((case, hints));
    }
    for (name, set) in [("mean of photos", 0), ("mean of composites", 1)] {
        print(name, &sums[set].map(|s| s / counts[set]));
    }
    let [right, all, first, rounds] = doubts;
    println!("places that are doubted: {right} of {all} are wrong, {first} of {rounds} that are doubted first");
    if overlap {
        return;
    }
    println!("\n{:<18}{:>9}{:>9}{:>9}{:>9}", "edges", "matte", "mask", "plain", "colours");
    for (case, hints) in &told {
        let [sad, by_mask, plain, colours] = edges(case, hints, &network);
        println!("{:<18}{sad:>9.1}{by_mask:>9.1}{plain:>9.1}{colours:>9.1}", case.name);
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
    network::compare(&told[0].0.photo, &network);
    peers::compare(&told, &MEMORY);
}

fn print(name: &str, f: &[f64; 8]) {
    let [by_box, best, one, two, three, four, loss, time] = f;
    println!("{name:<18}{by_box:>7.3}{best:>7.3}{one:>7.3}{two:>7.3}{three:>7.3}{four:>7.3}{loss:>7.3}{time:>7.0}");
}

/// IoU in a box, of the best candidate there, and after each of four strokes; the most that a stroke took away, and the milliseconds that one
/// takes; the strokes; and how many doubted places are wrong, of how many, and of the first ones.
fn found(case: &Case, network: &Network, (picks, pictures): (bool, Option<&str>)) -> ([f64; 8], Hints, [usize; 4]) {
    let robot = Robot::look(case, network);
    let by = |start, strokes| robot.correct(start, Stroking { pick: 0, strokes, picks });
    let (rounds, hints) = by(Start::Search, STROKES);
    if let Some(folder) = pictures {
        picture(case, &rounds, folder);
    }
    // where nothing is wrong any more, no stroke is drawn
    let at = |k: usize| rounds.get(k).or(rounds.last()).map_or(0.0, |r| r.iou);
    let others = [Start::Salient, Start::Colours, Start::Apart].map(|start| by(start, 0).0[0].iou);
    let best = others.into_iter().fold(at(0), f64::max);
    let loss = rounds.windows(2).map(|w| w[0].iou - w[1].iou).fold(0.0, f64::max);
    let mut times: Vec<f64> = rounds.iter().skip(1).map(|r| r.time.as_secs_f64() * 1e3).collect();
    times.sort_by(f64::total_cmp);
    let time = times.get(times.len() / 2).copied().unwrap_or(0.0);
    let all = || rounds.iter().flat_map(|r| &r.doubts);
    let firsts = || rounds.iter().filter_map(|r| r.doubts.first());
    let wrong = |d: &&bool| **d;
    let doubted = [all().filter(wrong).count(), all().count(), firsts().filter(wrong).count(), firsts().count()];
    ([at(0), best, at(1), at(2), at(3), at(4), loss, time], hints, doubted)
}

/// Writes the photo, and beside it what was found after each stroke: what is missing red, what is too much blue, the stroke white or black.
fn picture(case: &Case, rounds: &[Round], folder: &str) {
    let (w, h) = (case.photo.width() / 4, case.photo.height() / 4);
    let mut all = RgbaImage::new(w * (rounds.len() as u32 + 1), h);
    image::imageops::overlay(&mut all, &resize(&case.photo, w, h), 0, 0);
    let mask = case.mask();
    for (k, round) in rounds.iter().enumerate() {
        let stroke = Hints { strokes: round.stroke.iter().cloned().collect(), ..Hints::default() };
        let drawn = stroke.drawn(w as usize, h as usize, 0.25);
        let tile = RgbaImage::from_fn(w, h, |x, y| {
            let there = (4 * x as usize, 4 * y as usize);
            let grey = case.photo.get_pixel(4 * x, 4 * y).0[..3].iter().map(|c| u32::from(*c)).sum::<u32>() as u8 / 6;
            match (drawn.at(x as usize, y as usize), round.found.at(there.0, there.1), mask.at(there.0, there.1)) {
                (Hint::Keep, ..) => Rgba([255, 255, 255, 255]),
                (Hint::Drop, ..) => Rgba([0, 0, 0, 255]),
                (_, true, true) => Rgba([grey, 160 + grey / 2, grey, 255]),
                (_, true, false) => Rgba([grey, grey, 255, 255]),
                (_, false, true) => Rgba([255, grey, grey, 255]),
                (_, false, false) => Rgba([80 + grey, 80 + grey, 80 + grey, 255]),
            }
        });
        image::imageops::overlay(&mut all, &tile, i64::from(w) * (k as i64 + 1), 0);
    }
    all.save(Path::new(folder).join(format!("{}.png", case.name))).expect("a folder to write to");
}

/// The SAD of the matte by a box and strokes, from a correct mask, and of the mask itself; and the mean error of the edge's colours where the matte
/// is given.
fn edges(case: &Case, hints: &Hints, network: &Network) -> [f64; 4] {
    let hard = case.mask();
    let sad = find_subject(&case.photo, hints, network, &Unwatched)
        .map_or(f64::NAN, |s| difference(&Grid::from_gray(&s.matte), &case.truth));
    let outline = trace(&hard.to_f32()).to_svg();
    let given = Hints { start: Start::Nothing, traced: vec![outline], ..Hints::default() };
    let from_mask = finish_subject(&case.photo, &Standout::nothing(&case.photo), &given, &Unwatched);
    let by_mask = from_mask.map_or(f64::NAN, |s| difference(&Grid::from_gray(&s.matte), &case.truth));
    let plain = difference(&hard.to_f32(), &case.truth);
    [sad, by_mask, plain, colour_error(case)]
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
