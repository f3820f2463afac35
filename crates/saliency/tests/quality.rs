//! The whole chain with the real network, on rendered photos whose mattes are known exactly.

use image::GrayImage;
use inky_core::cutout::{
    CutoutError, Hints, PhotoBox, Saliency, Standout, Start, SubjectStroke, Unwatched, Watch, find_subject, iou,
};
use inky_core::grid::Grid;
use inky_core::photo::decode;
use inky_saliency::Network;
use std::path::Path;
use std::sync::Mutex;

fn demo(name: &str) -> Vec<u8> {
    let path = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/photos").join(name);
    std::fs::read(&path).unwrap_or_else(|e| panic!("{}: {e}", path.display()))
}

fn mask(matte: &GrayImage) -> Grid<bool> {
    let data = matte.pixels().map(|p| p.0[0] > 127).collect();
    Grid { width: matte.width() as usize, height: matte.height() as usize, data }
}

#[test]
fn octopus_kite_and_balloon_are_found_in_a_box_and_by_themselves() {
    let network = Network::load().unwrap();
    let kite = PhotoBox { x: 48.0, y: 168.0, width: 2686.0, height: 1699.0 };
    let balloon = PhotoBox { x: 259.0, y: 234.0, width: 1148.0, height: 2166.0 };
    let all = [("octopus-kite", Some(kite), 0.95), ("balloon", Some(balloon), 0.95)];
    for (name, within, least) in all.into_iter().chain([("octopus-kite", None, 0.95), ("balloon", None, 0.97)]) {
        let photo = decode(&demo(&format!("{name}.jpg"))).unwrap();
        let truth = image::load_from_memory(&demo(&format!("{name}.alpha.png"))).unwrap().into_luma8();
        let found = find_subject(&photo, &Hints::within(within), &network, &Unwatched).unwrap();
        let overlap = iou(&mask(&found.matte), &mask(&truth));
        println!("{name}: IoU {overlap:.4}");
        assert!(overlap >= least, "{name}: IoU {overlap:.4}");
        // soft where the truth is soft: not a mere mask
        assert!(
            found.matte.pixels().filter(|p| (20..235).contains(&p.0[0])).count() > 2_000,
            "{name} has no soft edge"
        );
    }
}

#[test]
fn strokes_take_in_what_was_left_out_and_leave_out_what_was_taken_in() {
    let network = Network::load().unwrap();
    let photo = decode(&demo("balloon.jpg")).unwrap();
    let photo = inky_core::photo::resize(&photo, 600, 900);
    let stroke = |keep, points: &[[f64; 2]]| SubjectStroke::new(keep, 16.0, points.to_vec());
    let covered = |strokes: Vec<SubjectStroke>, at: [u32; 2]| {
        let found = find_subject(&photo, &Hints { strokes, ..Hints::default() }, &network, &Unwatched).unwrap();
        found.matte.get_pixel(at[0], at[1]).0[0]
    };
    // a corner of the sky is no subject until it is said to be one, and the middle of the balloon is until it is said not to be
    let (sky, balloon) = ([40, 60], [270, 300]);
    assert!(covered(vec![], sky) < 10 && covered(vec![], balloon) > 245);
    assert!(covered(vec![stroke(true, &[[20.0, 60.0], [60.0, 60.0]])], sky) > 245);
    let both = vec![stroke(true, &[[240.0, 420.0]]), stroke(false, &[[250.0, 300.0], [290.0, 300.0]])];
    assert!(covered(both, balloon) < 10);
    // strokes that contradict one another: the later one is meant
    let later = vec![stroke(true, &[[40.0, 60.0]]), stroke(false, &[[40.0, 60.0]])];
    assert!(covered(later, sky) < 10);
    // on a photo without anything in it, strokes alone tell
    let even = image::RgbaImage::from_fn(300, 200, |x, _| {
        image::Rgba(if x < 150 { [120, 130, 140, 255] } else { [200, 90, 60, 255] })
    });
    let hints = Hints {
        strokes: vec![stroke(true, &[[200.0, 40.0], [260.0, 160.0]]), stroke(false, &[[40.0, 40.0], [90.0, 160.0]])],
        ..Hints::default()
    };
    let found = find_subject(&even, &hints, &network, &Unwatched).unwrap();
    assert!(found.matte.get_pixel(280, 20).0[0] > 200 && found.matte.get_pixel(20, 180).0[0] < 50);
}

#[test]
fn both_engines_see_the_same() {
    let photo = inky_core::photo::resize(&decode(&demo("balloon.jpg")).unwrap(), 600, 900);
    let [library, built_in] = [Network::load().unwrap(), Network::built_in().unwrap()];
    assert_eq!([library.engine(), built_in.engine()], ["ONNX Runtime", "rten"], "run scripts/onnxruntime.sh");
    let [a, b] = [library, built_in].map(|network| network.saliency(&photo, &Unwatched).unwrap());
    assert_eq!((a.width, a.height), (b.width, b.height));
    let most = a.data.iter().zip(&b.data).map(|(a, b)| (a - b).abs()).fold(0.0, f32::max);
    assert!(most < 1.0 / 255.0, "{most}");
    assert!(a.data.iter().any(|v| *v > 0.9) && a.data.iter().any(|v| *v < 0.1));
}

#[test]
fn an_even_photo_has_no_subject_and_a_far_box_is_refused() {
    let network = Network::load().unwrap();
    let even = image::RgbaImage::from_pixel(300, 200, image::Rgba([120, 130, 140, 255]));
    let outside = PhotoBox { x: 400.0, y: 10.0, width: 50.0, height: 50.0 };
    let far = find_subject(&even, &Hints::within(Some(outside)), &network, &Unwatched);
    assert_eq!(far.err(), Some(CutoutError::BoxOutside));
    // whatever is made of it, it must not be a panic or an endless search
    let _ = find_subject(&even, &Hints::default(), &network, &Unwatched);
}

#[test]
fn photos_that_leave_no_choice_give_a_sentence_or_a_subject() {
    let network = Network::load().unwrap();
    let balloon = inky_core::photo::resize(&decode(&demo("balloon.jpg")).unwrap(), 600, 900);
    let share = |matte: &GrayImage| mask(matte).count() as f64 / f64::from(matte.width() * matte.height());

    // a box around nothing but sky
    let sky = PhotoBox { x: 10.0, y: 10.0, width: 180.0, height: 70.0 };
    match find_subject(&balloon, &Hints::within(Some(sky)), &network, &Unwatched) {
        Err(error) => assert_eq!(error, CutoutError::NothingFound),
        // never more than what the box holds
        Ok(found) => assert!(share(&found.matte) < 180.0 * 70.0 / (600.0 * 900.0)),
    }

    // a subject that fills the photo: told by a stroke, all of it is there
    let close = image::imageops::crop_imm(&balloon, 150, 150, 240, 200).to_image();
    let across = SubjectStroke::new(true, 30.0, vec![[10.0, 20.0], [230.0, 180.0], [10.0, 180.0], [230.0, 20.0]]);
    let within = Some(PhotoBox { x: 0.0, y: 0.0, width: 240.0, height: 200.0 });
    let told = Hints { within, strokes: vec![across], ..Hints::default() };
    let found = find_subject(&close, &told, &network, &Unwatched).unwrap();
    assert!(share(&found.matte) > 0.5, "{}", share(&found.matte));

    // one that cannot be seen at all, and one whose own transparency is taken as it is
    let clear = image::RgbaImage::from_pixel(300, 200, image::Rgba([200, 30, 30, 0]));
    for start in [Start::Search, Start::Alpha, Start::Nothing] {
        let found = find_subject(&clear, &Hints { start, ..Hints::default() }, &network, &Unwatched);
        assert_eq!(found.err(), Some(CutoutError::Clear), "{start:?}");
    }
    let soft = image::RgbaImage::from_fn(300, 200, |x, y| {
        let far = (f64::from(x) - 150.0).hypot(f64::from(y) - 100.0);
        image::Rgba([210, (x % 200) as u8, 40, ((80.0 - far) * 6.0).clamp(0.0, 255.0) as u8])
    });
    let own = find_subject(&soft, &Hints { start: Start::Alpha, ..Hints::default() }, &network, &Unwatched).unwrap();
    assert_eq!(own.cutout, soft, "neither fainter at its edge nor of other colours");
}

#[test]
fn a_photo_of_a_hundred_megapixels_has_a_subject_as_large() {
    // what it is cut out by is told, so that only the size is in question
    let photo = image::RgbaImage::from_fn(12_000, 8_000, |x, y| {
        let inside = (f64::from(x) - 6_000.0).hypot(f64::from(y) - 4_000.0) < 3_000.0;
        image::Rgba(if inside { [210, 60 + (x % 32) as u8, 40, 255] } else { [40, 60, 120 + (y % 32) as u8, 255] })
    });
    let circle = "M3000,4000A3000,3000 0 1 1 9000,4000A3000,3000 0 1 1 3000,4000Z".to_owned();
    let hints = Hints { start: Start::Nothing, traced: vec![circle], ..Hints::default() };
    let found = inky_core::cutout::finish_subject(&photo, &Standout::nothing(&photo), &hints, &Unwatched).unwrap();
    assert_eq!((found.matte.dimensions(), found.cutout.dimensions()), ((12_000, 8_000), (12_000, 8_000)));
    let at = |x: u32| found.matte.get_pixel(x, 4_000).0[0];
    assert!(at(8_940) > 250 && at(9_060) < 5, "{} {}", at(8_940), at(9_060));
    assert_eq!(found.cutout.get_pixel(6_000, 4_000), photo.get_pixel(6_000, 4_000));
}

/// Keeps how far it is said to be, and cancels at a share of the work.
struct Kept(Mutex<Vec<f32>>, f32);

impl Watch for Kept {
    fn step(&self, done: f32, _: &'static str) {
        self.0.lock().unwrap().push(done);
    }

    fn is_cancelled(&self) -> bool {
        self.0.lock().unwrap().last().is_some_and(|done| *done >= self.1)
    }
}

#[test]
fn progress_only_grows_and_a_search_can_be_ended_at_any_of_it() {
    let network = Network::load().unwrap();
    let photo = decode(&demo("octopus-kite.jpg")).unwrap();
    let photo = inky_core::photo::resize(&photo, 1500, 1000);
    let mut hints = Hints::default();
    hints.edge.hair = true;
    let watch = Kept(Mutex::default(), 2.0);
    find_subject(&photo, &hints, &network, &watch).unwrap();
    let said = watch.0.into_inner().unwrap();
    assert!(said[0] < 0.05 && said[said.len() - 1] == 1.0);
    for (a, b) in said.iter().zip(&said[1..]) {
        assert!(b >= a && b - a < 0.15, "from {a} to {b}");
    }
    // while the network looks, while colours are parted, while the edge is enlarged, while its equations are set up and solved, while it is cleaned
    for share in [0.03, 0.2, 0.33, 0.42, 0.55, 0.8] {
        let watch = Kept(Mutex::default(), share);
        let ended = find_subject(&photo, &hints, &network, &watch);
        assert!(matches!(ended, Err(CutoutError::Cancelled)));
        let last = watch.0.into_inner().unwrap().pop().unwrap();
        assert!(last < share + 0.1, "it went on to {last}");
    }
}
