//! Subjects drawn here over photos, with all that makes mattes hard: hair, spokes with gaps between them, thin limbs.

use crate::Case;
use image::{Rgba, RgbaImage};
use inky_core::breakout::coverage;
use inky_core::grid::Grid;
use kurbo::{Affine, BezPath, Cap, Circle, Point, Shape, Stroke, StrokeOpts, Vec2, stroke};

pub fn all(backdrops: &[RgbaImage]) -> Vec<Case> {
    let shapes = [("hair", hair()), ("spokes", spokes()), ("limbs", limbs())];
    let with = |k: usize| {
        let (name, shape) = &shapes[k % shapes.len()];
        let photo = &backdrops[k % backdrops.len()];
        composite(&format!("{name} {}", k / shapes.len() + 1), shape, photo, k)
    };
    (0..2 * shapes.len()).map(with).collect()
}

/// Shapes whose coverage is added up: subpaths that cross count once.
type Strands = Vec<BezPath>;

fn composite(name: &str, subpaths: &Strands, behind: &RgbaImage, k: usize) -> Case {
    let (w, h) = behind.dimensions();
    let place = Affine::translate((f64::from(w) / 2.0, f64::from(h) / 2.0)) * Affine::scale(f64::from(w.min(h)) / 2.4);
    let mut truth = Grid::filled(w as usize, h as usize, 0.0_f32);
    for subpath in subpaths {
        let cover = coverage(&(place * subpath), truth.width, truth.height);
        truth.data.iter_mut().zip(&cover.data).for_each(|(a, c)| *a = 1.0 - (1.0 - *a) * (1.0 - c));
    }
    // hues of its own, with shading and a little grain
    let hues = [[196.0, 92.0, 40.0], [58.0, 44.0, 36.0], [228.0, 206.0, 160.0]];
    let hue: [f64; 3] = hues[k % hues.len()];
    let colours = RgbaImage::from_fn(w, h, |x, y| {
        let (u, v) = (f64::from(x) / f64::from(w), f64::from(y) / f64::from(h));
        let grain = f64::from((x * 37 + y * 101 + x * y) % 17) - 8.0;
        let shade = 0.75 + 0.35 * (6.0 * u + 4.0 * v).sin() * (5.0 * v).cos();
        let c = hue.map(|c| (c * shade + grain).clamp(0.0, 255.0) as u8);
        Rgba([c[0], c[1], c[2], 255])
    });
    let photo = RgbaImage::from_fn(w, h, |x, y| {
        let a = truth.at(x as usize, y as usize);
        let (front, back) = (colours.get_pixel(x, y), behind.get_pixel(x, y));
        let mix = |k: usize| (f32::from(front.0[k]) * a + f32::from(back.0[k]) * (1.0 - a)).round() as u8;
        Rgba([mix(0), mix(1), mix(2), 255])
    });
    Case { name: name.into(), photo, truth, colours: Some(colours) }
}

fn line(path: &BezPath, width: f64) -> BezPath {
    let style = Stroke::new(width).with_caps(Cap::Round);
    let ribbon = stroke(path.elements().iter().copied(), &style, &StrokeOpts::default(), 1e-4);
    // one subpath must not cancel itself out under the even-odd rule
    inky_core::combine::unite(&ribbon)
}

fn disc(at: (f64, f64), r: f64) -> BezPath {
    Circle::new(at, r).to_path(1e-4)
}

/// A head with long subpaths all around it.
fn hair() -> Strands {
    let mut all = vec![disc((0.0, 0.0), 0.42)];
    for k in 0..160 {
        let turn = f64::from(k) * 2.399_963;
        let out = |far: f64, side: f64| Point::ORIGIN + Vec2::from_angle(turn + side) * far;
        let reach = 0.62 + 0.3 * (f64::from(k) * 0.77).sin().abs();
        let mut path = BezPath::new();
        path.move_to(out(0.38, 0.0));
        path.curve_to(out(0.5, 0.05), out(reach - 0.1, -0.1), out(reach, 0.12 * (f64::from(k) * 1.3).sin()));
        all.push(line(&path, 0.004 + 0.003 * (f64::from(k) * 0.31).sin().abs()));
    }
    all
}

/// A wheel: a rim, a hub and spokes, with the photo behind it between them.
fn spokes() -> Strands {
    let rim = line(&disc((0.0, 0.0), 0.75), 0.09);
    let mut all = vec![rim, disc((0.0, 0.0), 0.14)];
    for k in 0..9 {
        let mut path = BezPath::new();
        path.move_to((0.0, 0.0));
        path.line_to(Point::ORIGIN + Vec2::from_angle(f64::from(k) * std::f64::consts::TAU / 9.0 + 0.1) * 0.75);
        all.push(line(&path, 0.03));
    }
    all
}

/// A body with thin arms and legs.
fn limbs() -> Strands {
    let mut all = vec![disc((0.0, -0.1), 0.3)];
    for (k, (x, y)) in
        [(-0.85, -0.6), (0.85, -0.7), (-0.8, 0.2), (0.9, 0.1), (-0.4, 0.9), (0.35, 0.92)].into_iter().enumerate()
    {
        let mut path = BezPath::new();
        path.move_to((0.0, -0.1));
        path.quad_to((x * 0.75, y * 0.2 - 0.1), (x, y));
        all.push(line(&path, 0.05 + 0.008 * k as f64));
    }
    all
}
