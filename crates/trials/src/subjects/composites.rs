//! Subjects drawn over photos and patterns, with all that makes them hard to find: thin limbs, spokes with gaps between them, colours of the
//! ground, motion, defocus, hair.

use super::Case;
use image::{ImageBuffer, Luma, Rgba, RgbaImage};
use inky_core::breakout::coverage;
use inky_core::grid::Grid;
use kurbo::{Affine, BezPath, Cap, Circle, Ellipse, Point, Shape, Stroke, StrokeOpts, Vec2, stroke};
use std::f64::consts::TAU;

/// What a part of a subject is painted with.
#[derive(Clone, Copy)]
enum Paint {
    Hue([f64; 3]),
    /// The ground's own texture, from elsewhere and a little lighter or darker.
    Ground(f64),
}

#[derive(Clone, Copy)]
enum Blur {
    None,
    /// Along a line, in shares of the shorter side.
    Motion(f64),
    /// In all directions: the radius, in shares of the shorter side.
    Defocus(f64),
}

/// Subpaths that cross count once. From -1 to 1, y down.
type Strands = Vec<BezPath>;

struct Drawn {
    name: &'static str,
    parts: Vec<(Strands, Paint)>,
    blur: Blur,
}

/// Random numbers from 0 to 1, the same ones for the same seed.
struct Chance(u64);

impl Chance {
    fn next(&mut self) -> f64 {
        self.0 = self.0.wrapping_mul(6_364_136_223_846_793_005).wrapping_add(1_442_695_040_888_963_407);
        (self.0 >> 11) as f64 / (1_u64 << 53) as f64
    }

    fn within(&mut self, from: f64, to: f64) -> f64 {
        from + (to - from) * self.next()
    }

    fn hue(&mut self) -> Paint {
        Paint::Hue([self.within(20.0, 235.0), self.within(20.0, 235.0), self.within(20.0, 235.0)])
    }
}

/// Ten subjects that are hard to find. Another seed gives others of the same kinds, over other grounds.
pub fn hard_ones(grounds: &[RgbaImage], seed: u64) -> Vec<Case> {
    let mut chance = Chance(seed.wrapping_mul(0x9e37_79b9_7f4a_7c15) ^ 0x5bd1_e995);
    for _ in 0..8 {
        chance.next();
    }
    let kinds: [fn(&mut Chance) -> Drawn; 10] =
        [legs, spokes, leaves, camouflage, dancer, motion, defocus, hair, flags, beams];
    let all = kinds.iter().enumerate();
    all.map(|(k, kind)| composite(&kind(&mut chance), &grounds[(k + seed as usize) % grounds.len()], &mut chance))
        .collect()
}

/// Grounds of a size: photos, and patterns of two hues in clouds, leaves and bricks.
pub fn backdrops(photos: Vec<RgbaImage>) -> Vec<RgbaImage> {
    let (w, h) = photos.first().map_or((1600, 1067), RgbaImage::dimensions);
    let mut all = photos;
    all.push(pattern(w, h, [[94, 118, 62], [38, 62, 30]], |x, y| clouds(x * 14.0, y * 14.0)));
    all.push(pattern(w, h, [[150, 82, 62], [196, 182, 168]], |x, y| {
        let row = (y * 24.0).floor();
        let (u, v) = ((x * 12.0 + 0.5 * (row % 2.0)).fract(), (y * 24.0).fract());
        let mortar = if u < 0.05 || v < 0.1 { 0.9 } else { 0.0 };
        (mortar + 0.25 * clouds(x * 60.0, y * 60.0)).min(1.0)
    }));
    all
}

fn pattern(w: u32, h: u32, [from, to]: [[u8; 3]; 2], share: impl Fn(f64, f64) -> f64) -> RgbaImage {
    let long = f64::from(w.max(h));
    RgbaImage::from_fn(w, h, |x, y| {
        let s = share(f64::from(x) / long, f64::from(y) / long);
        let mix = |k: usize| (f64::from(from[k]) * (1.0 - s) + f64::from(to[k]) * s).round() as u8;
        Rgba([mix(0), mix(1), mix(2), 255])
    })
}

/// Smooth noise of four octaves, 0 to 1.
fn clouds(x: f64, y: f64) -> f64 {
    let corner = |i: f64, j: f64| ((i * 127.1 + j * 311.7).sin() * 43_758.545_3).rem_euclid(1.0);
    let noise = |x: f64, y: f64| {
        let (i, j) = (x.floor(), y.floor());
        let smooth = |t: f64| t * t * (3.0 - 2.0 * t);
        let (u, v) = (smooth(x - i), smooth(y - j));
        let across = |j: f64| corner(i, j) * (1.0 - u) + corner(i + 1.0, j) * u;
        across(j) * (1.0 - v) + across(j + 1.0) * v
    };
    let octaves = [1.0, 2.0, 4.0, 8.0].map(|f| noise(x * f, y * f) / f);
    octaves.iter().sum::<f64>() / 1.875
}

fn composite(drawn: &Drawn, ground: &RgbaImage, chance: &mut Chance) -> Case {
    let (w, h) = ground.dimensions();
    let short = f64::from(w.min(h));
    let place = Affine::translate((f64::from(w) / 2.0, f64::from(h) / 2.0)) * Affine::scale(short / 2.4);
    let mut truth = Grid::filled(w as usize, h as usize, 0.0_f32);
    let mut colours = ground.clone();
    let (du, dv) = (chance.within(0.2, 0.8), chance.within(0.2, 0.8));
    for (strands, paint) in &drawn.parts {
        let mut part = Grid::filled(w as usize, h as usize, 0.0_f32);
        for strand in strands {
            let cover = coverage(&(place * strand), part.width, part.height);
            part.data.iter_mut().zip(&cover.data).for_each(|(a, c)| *a = 1.0 - (1.0 - *a) * (1.0 - c));
        }
        let part = blurred(part, drawn.blur, short);
        // parts lie over one another; a colour reaches as far as its part does
        for (i, (pixel, a)) in colours.pixels_mut().zip(&part.data).enumerate().filter(|(_, (_, a))| **a > 0.0) {
            let (x, y) = ((i % w as usize) as u32, (i / w as usize) as u32);
            let own = painted(*paint, ground, (x, y), (du, dv));
            let mix = |k: usize| {
                let share = if truth.data[i] > 0.0 { f64::from(*a) } else { 1.0 };
                (own[k] * share + f64::from(pixel.0[k]) * (1.0 - share)).round() as u8
            };
            *pixel = Rgba([mix(0), mix(1), mix(2), 255]);
        }
        truth.data.iter_mut().zip(&part.data).for_each(|(a, c)| *a = 1.0 - (1.0 - *a) * (1.0 - c));
    }
    let photo = RgbaImage::from_fn(w, h, |x, y| {
        let a = truth.at(x as usize, y as usize);
        let (front, back) = (colours.get_pixel(x, y), ground.get_pixel(x, y));
        let mix = |k: usize| (f32::from(front.0[k]) * a + f32::from(back.0[k]) * (1.0 - a)).round() as u8;
        Rgba([mix(0), mix(1), mix(2), 255])
    });
    Case { name: drawn.name.into(), photo, truth, colours: Some(colours) }
}

/// The colour of a part at a pixel: shaded and with a little grain.
fn painted(paint: Paint, ground: &RgbaImage, (x, y): (u32, u32), (du, dv): (f64, f64)) -> [f64; 3] {
    let (w, h) = ground.dimensions();
    let (u, v) = (f64::from(x) / f64::from(w), f64::from(y) / f64::from(h));
    let grain = f64::from((x * 37 + y * 101 + x * y) % 17) - 8.0;
    match paint {
        Paint::Hue(hue) => {
            let shade = 0.8 + 0.3 * (6.0 * u + 9.0 * du).sin() * (5.0 * v + 7.0 * dv).cos();
            hue.map(|c| (c * shade + grain).clamp(0.0, 255.0))
        }
        Paint::Ground(light) => {
            let at = |v: f64, by: f64, side: u32| ((v + by).rem_euclid(1.0) * f64::from(side)) as u32 % side;
            let there = ground.get_pixel(at(u, du, w), at(v, dv, h));
            [0, 1, 2].map(|k| (f64::from(there.0[k]) * light).clamp(0.0, 255.0))
        }
    }
}

fn blurred(cover: Grid<f32>, blur: Blur, short: f64) -> Grid<f32> {
    match blur {
        Blur::None => cover,
        Blur::Motion(length) => {
            let half = (length * short / 2.0) as i64;
            let mean = |x: usize, y: usize| {
                let all = (-half..=half).map(|d| cover.clamped(x as i64 + d, y as i64 + d / 3));
                all.sum::<f32>() / (2 * half + 1) as f32
            };
            Grid::from_fn(cover.width, cover.height, mean)
        }
        Blur::Defocus(radius) => {
            let (w, h) = (cover.width, cover.height);
            let sharp: ImageBuffer<Luma<f32>, Vec<f32>> =
                ImageBuffer::from_raw(w as u32, h as u32, cover.data).expect("as many values as pixels");
            let soft = image::imageops::blur(&sharp, (radius * short) as f32);
            Grid { width: w, height: h, data: soft.into_raw() }
        }
    }
}

fn line(path: &BezPath, width: f64) -> BezPath {
    let style = Stroke::new(width).with_caps(Cap::Round);
    let ribbon = stroke(path.elements().iter().copied(), &style, &StrokeOpts::default(), 1e-4);
    // one subpath must not cancel itself out under the even-odd rule
    inky_core::combine::unite(&ribbon)
}

fn straight(from: (f64, f64), to: (f64, f64), width: f64) -> BezPath {
    let mut path = BezPath::new();
    path.move_to(from);
    path.line_to(to);
    line(&path, width)
}

fn bent(from: (f64, f64), over: (f64, f64), to: (f64, f64), width: f64) -> BezPath {
    let mut path = BezPath::new();
    path.move_to(from);
    path.quad_to(over, to);
    line(&path, width)
}

fn oval(at: (f64, f64), across: f64, down: f64, turn: f64) -> BezPath {
    Ellipse::new(at, (across, down), turn).to_path(1e-4)
}

fn disc(at: (f64, f64), r: f64) -> BezPath {
    Circle::new(at, r).to_path(1e-4)
}

fn out(at: (f64, f64), turn: f64, far: f64) -> (f64, f64) {
    let p = Point::from(at) + Vec2::from_angle(turn) * far;
    (p.x, p.y)
}

/// A small body on long thin legs.
fn legs(c: &mut Chance) -> Drawn {
    let hue = c.hue();
    let mut all = vec![oval((0.0, -0.15), 0.3, 0.16, c.within(-0.3, 0.3)), oval((0.34, -0.25), 0.12, 0.1, 0.0)];
    for k in 0..6 {
        let x = -0.25 + 0.1 * f64::from(k);
        let foot = (-0.9 + 0.36 * f64::from(k), c.within(0.75, 0.95));
        all.push(bent((x, -0.1), (foot.0 * 0.9, c.within(-0.7, -0.3)), foot, c.within(0.018, 0.03)));
    }
    Drawn { name: "thin legs", parts: vec![(all, hue)], blur: Blur::None }
}

/// Two wheels and a frame, with the ground between the spokes.
fn spokes(c: &mut Chance) -> Drawn {
    let (mut wheels, mut frame) = (Vec::new(), Vec::new());
    let (left, right) = ((-0.5, 0.3), (0.55, 0.3));
    for hub in [left, right] {
        wheels.push(line(&disc(hub, 0.42), 0.05));
        wheels.push(disc(hub, 0.06));
        let first = c.within(0.0, 1.0);
        wheels.extend((0..10).map(|k| straight(hub, out(hub, first + f64::from(k) * TAU / 10.0, 0.42), 0.014)));
    }
    let (seat, bar, pedal) = ((-0.2, -0.35), (0.4, -0.4), (-0.02, 0.3));
    for (a, b) in [(left, seat), (seat, pedal), (pedal, bar), (seat, bar), (bar, right), (left, pedal)] {
        frame.push(straight(a, b, 0.045));
    }
    frame.push(straight((-0.32, -0.38), (-0.1, -0.38), 0.07));
    frame.push(bent(bar, (0.42, -0.6), (0.6, -0.55), 0.04));
    Drawn { name: "spokes", parts: vec![(wheels, c.hue()), (frame, c.hue())], blur: Blur::None }
}

/// A twig with leaves in the colours of the ground.
fn leaves(c: &mut Chance) -> Drawn {
    let mut all = vec![bent((-0.1, 0.95), (0.1, 0.1), (0.0, -0.9), 0.04)];
    for k in 0..11 {
        let y = 0.7 - 0.15 * f64::from(k);
        let side = if k % 2 == 0 { 1.0 } else { -1.0 };
        let tip = (side * c.within(0.5, 0.8), y - c.within(0.05, 0.25));
        let (mx, my) = (tip.0 / 2.0, (y + tip.1) / 2.0);
        all.push(straight((0.02, y), (mx, my), 0.02));
        all.push(oval((mx + tip.0 * 0.2, my), 0.26, 0.085, (tip.1 - y).atan2(tip.0)));
    }
    Drawn { name: "leaves", parts: vec![(all, Paint::Ground(c.within(0.72, 0.85)))], blur: Blur::None }
}

/// A four-legged body of the ground's own texture.
fn camouflage(c: &mut Chance) -> Drawn {
    let mut all = vec![oval((0.0, 0.0), 0.6, 0.3, c.within(-0.1, 0.1)), oval((0.66, -0.3), 0.22, 0.17, 0.4)];
    all.push(bent((0.4, -0.1), (0.5, -0.2), (0.6, -0.25), 0.24));
    all.extend([-0.42, -0.28, 0.3, 0.44].map(|x| straight((x, 0.15), (x + c.within(-0.08, 0.08), 0.85), 0.1)));
    all.push(bent((-0.55, -0.05), (-0.9, -0.3), (-0.85, 0.3), 0.05));
    let light = if c.next() < 0.5 { 0.8 } else { 1.25 };
    Drawn { name: "camouflage", parts: vec![(all, Paint::Ground(light))], blur: Blur::None }
}

/// A figure with limbs and clothes of other colours.
fn dancer(c: &mut Chance) -> Drawn {
    let skin = Paint::Hue([c.within(120.0, 220.0), c.within(80.0, 160.0), c.within(60.0, 120.0)]);
    let reach = |c: &mut Chance, x: f64, y: f64| (x + c.within(-0.1, 0.1), y + c.within(-0.1, 0.1));
    let (left, right) = (reach(c, -0.75, -0.7), reach(c, 0.8, -0.45));
    let limbs = vec![
        disc((0.02, -0.72), 0.12),
        straight((0.0, -0.62), (0.0, -0.5), 0.09),
        bent((-0.12, -0.45), (-0.5, -0.3), left, 0.08),
        bent((0.12, -0.45), (0.5, -0.55), right, 0.08),
        bent((-0.08, 0.15), (-0.5, 0.3), reach(c, -0.65, 0.9), 0.1),
        bent((0.08, 0.15), (0.35, 0.6), reach(c, 0.15, 0.92), 0.1),
    ];
    let mut dress = BezPath::new();
    dress.move_to((-0.14, -0.52));
    dress.line_to((0.14, -0.52));
    dress.curve_to((0.1, -0.1), (0.3, 0.1), (0.42, 0.35));
    dress.quad_to((0.0, 0.2), (-0.38, 0.42));
    dress.curve_to((-0.2, 0.1), (-0.1, -0.1), (-0.14, -0.52));
    Drawn { name: "dancer", parts: vec![(limbs, skin), (vec![dress], c.hue())], blur: Blur::None }
}

/// A ball with a tail of ribbons, moved while it was taken.
fn motion(c: &mut Chance) -> Drawn {
    let mut all = vec![disc((0.35, 0.0), 0.36)];
    all.extend((0..4).map(|k| {
        let y = -0.24 + 0.16 * f64::from(k);
        bent((0.2, y), (-0.3, y + c.within(-0.3, 0.3)), (-0.85, y * 1.8), 0.07)
    }));
    Drawn { name: "motion", parts: vec![(all, c.hue())], blur: Blur::Motion(c.within(0.03, 0.05)) }
}

/// A flower out of focus.
fn defocus(c: &mut Chance) -> Drawn {
    let first = c.within(0.0, 1.0);
    let petals = (0..7).map(|k| {
        let turn = first + f64::from(k) * TAU / 7.0;
        oval(out((0.0, -0.25), turn, 0.36), 0.26, 0.12, turn)
    });
    let stem = vec![bent((0.0, -0.1), (0.15, 0.4), (0.0, 0.95), 0.05)];
    let parts = vec![(stem, c.hue()), (petals.collect(), c.hue()), (vec![disc((0.0, -0.25), 0.17)], c.hue())];
    Drawn { name: "defocus", parts, blur: Blur::Defocus(c.within(0.006, 0.012)) }
}

/// A head with long strands.
fn hair(c: &mut Chance) -> Drawn {
    let mut strands = Vec::new();
    for k in 0..120 {
        let turn = f64::from(k) * 2.399_963;
        let (from, reach) = (out((0.0, -0.2), turn, 0.28), c.within(0.4, 0.75));
        let mut path = BezPath::new();
        path.move_to(from);
        let fall = c.within(0.1, 0.5);
        let far = out((0.0, -0.2), turn, reach);
        path.curve_to(out((0.0, -0.2), turn, 0.45), (far.0, far.1 - 0.1), (far.0 * 0.9, far.1 + fall));
        strands.push(line(&path, c.within(0.006, 0.016)));
    }
    let hue = c.hue();
    let face = Paint::Hue([c.within(120.0, 220.0), c.within(80.0, 160.0), c.within(60.0, 120.0)]);
    let mut bust = BezPath::new();
    bust.move_to((-0.1, 0.0));
    bust.curve_to((-0.1, 0.3), (-0.6, 0.35), (-0.65, 0.95));
    bust.line_to((0.65, 0.95));
    bust.curve_to((0.6, 0.35), (0.1, 0.3), (0.1, 0.0));
    let parts = vec![(strands, hue), (vec![bust], c.hue()), (vec![oval((0.0, -0.15), 0.25, 0.32, 0.0)], face)];
    Drawn { name: "hair", parts, blur: Blur::None }
}

/// A basket below a balloon, on ropes with flags.
fn flags(c: &mut Chance) -> Drawn {
    let balloon = vec![oval((0.0, -0.45), 0.42, 0.45, 0.0)];
    let basket = vec![BezPath::from_svg("M-0.13,0.62 H0.13 L0.1,0.85 H-0.1 Z").expect("a path")];
    let ropes: Strands = [-0.3, -0.1, 0.1, 0.3].map(|x| straight((x, -0.2), (x * 0.4, 0.65), 0.012)).into();
    let mut flags = Vec::new();
    for side in [-1.0, 1.0] {
        for k in 0..5 {
            let t = 0.2 + 0.18 * f64::from(k);
            let at = (side * (0.1 + 0.75 * t), 0.65 - 0.4 * t * (1.0 - t));
            let wide = 0.07;
            let mut flag = BezPath::new();
            flag.move_to((at.0 - wide, at.1));
            flag.line_to((at.0 + wide, at.1));
            flag.line_to((at.0, at.1 + 0.16));
            flag.close_path();
            flags.push(flag);
        }
    }
    let strings = [-1.0, 1.0].map(|side| bent((side * 0.1, 0.65), (side * 0.5, 0.42), (side * 0.9, 0.66), 0.01));
    let rope = c.hue();
    let parts = vec![(ropes, rope), (strings.into(), rope), (balloon, c.hue()), (basket, c.hue()), (flags, c.hue())];
    Drawn { name: "flags", parts, blur: Blur::None }
}

/// A mast of thin beams.
fn beams(c: &mut Chance) -> Drawn {
    let width = c.within(0.02, 0.03);
    let mut all = Vec::new();
    let at = |k: i32, side: f64| (side * (0.42 - 0.045 * f64::from(k)), 0.95 - 0.24 * f64::from(k));
    for k in 0..8 {
        all.push(straight(at(k, -1.0), at(k, 1.0), width));
        if k < 7 {
            for side in [-1.0, 1.0] {
                all.push(straight(at(k, side), at(k + 1, side), width * 1.4));
                all.push(straight(at(k, side), at(k + 1, -side), width));
            }
        }
    }
    Drawn { name: "beams", parts: vec![(all, c.hue())], blur: Blur::None }
}
