//! Overhangs as a person would name them: one arm, the head, a leg. Regions of the demo subjects are named here by hand; behind letters, each of
//! what is left of them is looked for among the parts.

use image::{GrayImage, imageops};
use inky_core::breakout::{Chosen, WorkingMatte, coverage, overhangs};
use inky_core::cutout::regions::{Connectivity, regions};
use inky_core::grid::Grid;
use inky_core::outline::{Face, FontCollection, lettering_path};
use inky_core::photo::decode;
use inky_core::sheet::Lettering;
use kurbo::{Affine, BezPath, Rect, Shape};
use std::path::Path;

/// Around what a named region lies: points with a radius, in thousandths of the photo's long side. A pixel of the subject belongs to the region
/// whose rounds it lies deepest in, or nearest to.
type Named = &'static [[f64; 3]];

const OCTOPUS: &[Named] = &[
    &[[480., 165., 95.], [480., 225., 95.]],
    &[[372., 228., 26.], [300., 165., 26.], [200., 115., 26.], [140., 150., 26.], [150., 200., 26.], [205., 210., 26.]],
    &[[600., 232., 26.], [690., 150., 26.], [780., 112., 26.], [845., 150., 26.], [835., 205., 26.], [770., 205., 26.]],
    &[[395., 282., 26.], [230., 395., 26.], [150., 435., 26.], [80., 430., 26.], [35., 380., 26.], [45., 320., 26.]],
    &[[610., 268., 26.], [770., 380., 26.], [850., 405., 26.], [930., 400., 26.], [960., 350., 26.], [910., 290., 26.]],
    &[
        [415., 335., 20.],
        [392., 384., 20.],
        [350., 440., 16.],
        [329., 484., 16.],
        [281., 525., 18.],
        [243., 517., 16.],
        [224., 489., 14.],
        [243., 460., 8.],
    ],
    &[
        [472., 322., 26.],
        [439., 365., 26.],
        [396., 410., 28.],
        [366., 456., 24.],
        [365., 494., 22.],
        [386., 532., 18.],
        [425., 541., 16.],
        [453., 522., 10.],
    ],
    &[[597., 455., 15.], [630., 493., 22.], [678., 550., 22.], [700., 590., 22.], [690., 640., 22.], [655., 655., 22.]],
    &[[535., 320., 30.], [575., 375., 30.], [630., 446., 26.], [680., 500., 22.], [730., 527., 22.], [785., 490., 22.]],
];

const BALLOON: &[Named] = &[
    &[[347., 300., 230.], [348., 480., 166.], [330., 600., 92.], [330., 660., 48.]],
    &[[140., 455., 12.], [160., 490., 12.]],
    &[[512., 488., 16.], [520., 522., 14.], [540., 470., 14.]],
    &[[190., 545., 15.], [195., 600., 15.], [210., 690., 15.], [240., 770., 15.], [285., 830., 15.]],
    &[[478., 550., 15.], [465., 620., 15.], [440., 700., 15.], [400., 780., 15.], [350., 830., 15.]],
    &[[322., 722., 30.], [322., 860., 40.]],
    &[[300., 890., 15.], [320., 1000., 15.]],
    &[[350., 890., 8.], [330., 1000., 8.]],
];

const SHEEP: &[Named] = &[
    &[[215., 190., 60.], [150., 290., 60.]],
    &[[350., 330., 150.], [720., 330., 150.]],
    &[[365., 545., 28.], [365., 650., 28.]],
    &[[412., 530., 22.], [412., 600., 22.]],
    &[[738., 540., 30.], [710., 640., 30.]],
];

/// Pixels of the long side at which regions and parts are compared.
const SIDE: u32 = 500;
/// A named region is found if a part overlaps it by so much: pixels in both, divided by pixels in either.
const FOUND: f64 = 0.6;
/// Regions smaller than this share of the photo are not looked for.
const SMALLEST: f64 = 0.0012;

fn depth(named: Named, x: f64, y: f64) -> f64 {
    let within = |[a, b]: [[f64; 3]; 2]| {
        let (dx, dy) = (b[0] - a[0], b[1] - a[1]);
        let t = (((x - a[0]) * dx + (y - a[1]) * dy) / (dx * dx + dy * dy)).clamp(0.0, 1.0);
        a[2] + t * (b[2] - a[2]) - (x - a[0] - t * dx).hypot(y - a[1] - t * dy)
    };
    named.windows(2).map(|w| within([w[0], w[1]])).fold(f64::NEG_INFINITY, f64::max)
}

/// A letter over the middle of a subject or a little lower, in pixels of its photo.
fn letter(text: &str, subject: Rect, lower: bool) -> BezPath {
    let mut fonts = FontCollection::default();
    let f = inky_fonts::FACES[0];
    fonts.add(Face::new(f.id.into(), f.name, f.data).unwrap());
    let path = lettering_path(&Lettering::plain(text, f.id.into(), 100.0), &fonts).unwrap();
    let own = path.bounding_box();
    let middle = subject.center() + kurbo::Vec2::new(0.0, if lower { 0.18 * subject.height() } else { 0.0 });
    let to = Affine::translate(middle.to_vec2()) * Affine::scale(0.7 * subject.height() / own.height());
    to * Affine::translate(-own.center().to_vec2()) * path
}

/// How many of the named regions of a subject are found behind letters.
#[derive(Debug, Default)]
struct Count {
    regions: usize,
    /// Regions with about the outline of a part.
    found: usize,
    /// Names that are seen: the middle of what is named lies outside of the letter.
    names: usize,
    /// Those in a part of their own: no other name lies in it.
    alone: usize,
}

fn counted(photo: &str, named: &[Named]) -> Count {
    let path_of = |name: &str| Path::new(env!("CARGO_MANIFEST_DIR")).join("../../demo/photos").join(name);
    let alpha = decode(&std::fs::read(path_of(&format!("{photo}.alpha.png"))).unwrap()).unwrap();
    let alpha: GrayImage = imageops::grayscale(&alpha);
    let colours = decode(&std::fs::read(path_of(&format!("{photo}.jpg"))).unwrap()).unwrap();
    let matte = WorkingMatte::new(&alpha).with_colours(&colours);
    let scale = f64::from(SIDE) / f64::from(alpha.width().max(alpha.height()));
    let side = |v: u32| (f64::from(v) * scale).round() as usize;
    let (w, h) = (side(alpha.width()), side(alpha.height()));
    let small = Grid::from_gray(&alpha).resized(w, h);
    let thousandths = 1000.0 / f64::from(SIDE);
    let owner = Grid::from_fn(w, h, |x, y| {
        let depth = |named: Named| depth(named, (x as f64 + 0.5) * thousandths, (y as f64 + 0.5) * thousandths);
        (0..named.len()).max_by(|a, b| depth(named[*a]).total_cmp(&depth(named[*b]))).unwrap()
    });
    let raster = |path: &BezPath| coverage(&(Affine::scale(scale) * path), w, h).map(|c| c > 0.5);
    let mut count = Count::default();
    for (text, lower) in ["O", "A", "H"].into_iter().flat_map(|text| [(text, false), (text, true)]) {
        let opening = letter(text, matte.bounds().unwrap(), lower);
        let inside = raster(&opening);
        let parts = overhangs(&matte, &opening, Affine::IDENTITY, &Chosen::default(), 0.0).parts;
        let parts: Vec<Grid<bool>> = parts.iter().map(|part| raster(&part.outline)).collect();
        for name in 0..named.len() {
            let own = (0..w * h).map(|i| small.data[i] > 0.5 && !inside.data[i] && owner.data[i] == name);
            let (pieces, sizes) = regions(&Grid { width: w, height: h, data: own.collect() }, Connectivity::Eight);
            for piece in (1..sizes.len()).filter(|k| sizes[*k] as f64 >= SMALLEST * (w * h) as f64) {
                let overlap = |part: &Grid<bool>| {
                    let both = |(p, q): (&u32, &bool)| (*p as usize == piece, *q);
                    let pairs = || pieces.data.iter().zip(&part.data).map(both);
                    let shared = pairs().filter(|(a, b)| *a && *b).count() as f64;
                    shared / pairs().filter(|(a, b)| *a || *b).count() as f64
                };
                count.regions += 1;
                count.found += usize::from(parts.iter().any(|part| overlap(part) >= FOUND));
            }
        }
        let middle =
            |n: &Named| [0, 1].map(|k| ((n[n.len() / 2][k] + n[(n.len() - 1) / 2][k]) / 2.0 / thousandths) as usize);
        let middles = named.iter().map(middle);
        let seen = middles.filter(|[x, y]| small.at(*x, *y) > 0.5 && !inside.at(*x, *y));
        let parts_at = |[x, y]: [usize; 2]| (0..parts.len()).find(|k| parts[*k].at(x, y));
        let at: Vec<Option<usize>> = seen.map(parts_at).collect();
        count.names += at.len();
        count.alone += at.iter().filter(|p| p.is_some() && at.iter().filter(|q| q == p).count() == 1).count();
    }
    println!("{photo}: {count:?}");
    count
}

#[test]
fn parts_are_what_a_person_would_name() {
    // by shape alone 34 of 58 regions of the octopus are found: its arms lie side by side and across one another
    let subjects: [(&str, &[Named], usize); 3] =
        [("octopus-kite", OCTOPUS, 52), ("balloon", BALLOON, 12), ("woolly-sheep", SHEEP, 20)];
    let (mut alone, mut names) = (0, 0);
    for (photo, named, least) in subjects {
        let count = counted(photo, named);
        assert!(count.found >= least, "{photo}: {count:?}");
        (alone, names) = (alone + count.alone, names + count.names);
    }
    assert!(alone as f64 >= 0.93 * names as f64, "{alone} of {names}");
}
