//! A robot strokes over what is wrong, on composites that are hard to find: strokes make things better, and hardly ever worse.

use inky_core::cutout::Start;
use inky_core::photo::{decode, resize};
use inky_saliency::Network;
use inky_trials::subjects::{Robot, Stroking, backdrops, hard_ones};
use std::path::Path;

/// How much of the overlap a stroke may take away; how many of a hundred strokes may take more, and how much they may take.
const LOSS: f64 = 0.02;
const RARELY: usize = 1;
const MOST: f64 = 0.04;
/// The share of what is wrong in the box that strokes make right, at least.
const MENDED: f64 = 0.18;
/// Runs: ten kinds of subjects, each made with so many seeds, begun with the largest and with another wrong region.
const SEEDS: std::ops::RangeInclusive<u64> = 1..=5;
const PICKS: [usize; 2] = [0, 2];
const STROKES: usize = 3;

#[test]
fn strokes_make_it_better() {
    let network = Network::load().unwrap();
    let photo = |name: &str| {
        let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/photos").join(name);
        resize(&decode(&std::fs::read(path).unwrap()).unwrap(), 720, 480)
    };
    let grounds = backdrops(vec![photo("dunes.jpg"), photo("lanterns.jpg")]);
    let (mut runs, mut strokes, mut worst, mut worse) = (0, 0, 0.0_f64, Vec::new());
    let (mut gained, mut wrong) = (0.0, 0.0);
    for (seed, case) in SEEDS.flat_map(|seed| hard_ones(&grounds, seed).into_iter().map(move |c| (seed, c))) {
        let robot = Robot::look(&case, &network);
        for pick in PICKS {
            let (rounds, _) = robot.correct(Start::Search, Stroking { pick, strokes: STROKES, picks: false });
            runs += 1;
            strokes += rounds.len() - 1;
            worst = rounds.windows(2).map(|w| w[0].iou - w[1].iou).fold(worst, f64::max);
            wrong += 1.0 - rounds[0].iou;
            gained += rounds[rounds.len() - 1].iou - rounds[0].iou;
            let losses = rounds.windows(2).enumerate().filter(|(_, w)| w[0].iou - w[1].iou > LOSS);
            worse.extend(losses.map(|(k, w)| {
                format!(
                    "{} (seed {seed}, pick {pick}): stroke {} took {:.3} to {:.3}",
                    case.name,
                    k + 1,
                    w[0].iou,
                    w[1].iou
                )
            }));
        }
    }
    println!("{runs} runs, {STROKES} strokes mend {:.2} of what is wrong; {worse:#?}", gained / wrong);
    assert!(100 * worse.len() <= RARELY * strokes && worst <= MOST, "{worse:#?}");
    assert!(runs >= 100 && gained > MENDED * wrong);
}
