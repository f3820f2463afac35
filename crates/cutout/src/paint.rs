//! Paint on a matte: brush strokes that add to a subject or take away from it, held to its edge where that is wanted.

use crate::contrast::Contrast;
use crate::grabcut::{Label, grabcut};
use crate::grid::Grid;
use crate::guided::enlarge_guided;
use crate::mixture::Rgb;
use crate::segment::distance;
use crate::{Cancelled, CutoutError, Watch};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Strokes at most, and places of all of them.
const STROKES: usize = 500;
const POINTS: usize = 50_000;
/// What of a brush's radius surely lies on what its stroke means.
const CORE: f64 = 0.3;

/// A stroke of a round brush on a matte.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct MatteStroke {
    /// Adds to the subject; else takes away from it.
    pub add: bool,
    /// Paint stays on the same side of the subject's edge as the middle of the stroke: what is added on the subject, what is taken away on
    /// what lies behind it.
    pub inside: bool,
    /// Diameter at full pressure, in pixels of the photo.
    pub width: f64,
    /// 1 for a clear edge; at 0 it fades from the middle on.
    pub hardness: f64,
    /// x and y in pixels of the photo, and the pressure from 0 to 1.
    pub points: Vec<[f64; 3]>,
}

impl MatteStroke {
    /// # Errors
    /// More strokes than are computed in time, or numbers that are none.
    pub(crate) fn check(strokes: &[Self]) -> Result<(), CutoutError> {
        if strokes.len() > STROKES || strokes.iter().map(|s| s.points.len()).sum::<usize>() > POINTS {
            return Err(CutoutError::TooManyStrokes);
        }
        let sound = |s: &Self| {
            let places = s.points.iter().all(|[x, y, p]| x.abs() < 1e6 && y.abs() < 1e6 && (0.0..=1.0).contains(p));
            (0.1..=1e5).contains(&s.width) && (0.0..=1.0).contains(&s.hardness) && !s.points.is_empty() && places
        };
        if strokes.iter().all(sound) { Ok(()) } else { Err(CutoutError::Stroke) }
    }

    /// The part of a grid of `width` x `height` that it may touch; `scale` is the grid's pixels for one of the photo.
    fn touched(&self, (width, height): (usize, usize), scale: f64, more: f64) -> Option<Cut> {
        let far = self.width / 2.0 * scale * (1.0 + more) + 2.0;
        let side = |k: usize, end: usize| {
            let all = self.points.iter().map(|p| p[k] * scale);
            let (low, high) = all.fold((f64::MAX, f64::MIN), |(l, h), v| (l.min(v), h.max(v)));
            ((low - far).max(0.0) as usize, ((high + far).ceil().max(0.0) as usize).min(end))
        };
        let ((x0, x1), (y0, y1)) = (side(0, width), side(1, height));
        (x0 < x1 && y0 < y1).then_some(Cut { x0, y0, x1, y1 })
    }

    /// How much paint lies on every pixel of a cut, 0 to 1; a brush of `share` of its width.
    fn paint(&self, cut: &Cut, scale: f64, share: f64, hardness: f64) -> Grid<f32> {
        let mut paint = Grid::filled(cut.x1 - cut.x0, cut.y1 - cut.y0, 0.0_f32);
        let radius = |pressure: f64| (self.width / 2.0 * scale * share * pressure).max(0.5);
        let ends = self.points.iter().zip(self.points.iter().skip(1).chain(self.points.last()));
        for (a, b) in ends {
            let r = radius(a[2].max(b[2]));
            let [a, b] = [a, b].map(|p| [p[0] * scale - cut.x0 as f64, p[1] * scale - cut.y0 as f64]);
            let low = |k: usize| (a[k].min(b[k]) - r - 1.0).max(0.0) as usize;
            let high = |k: usize, end: usize| ((a[k].max(b[k]) + r + 1.0).ceil().max(0.0) as usize).min(end);
            for y in low(1)..high(1, paint.height) {
                for x in low(0)..high(0, paint.width) {
                    let off = distance([x as f64 + 0.5, y as f64 + 0.5], a, b);
                    // a clear edge is a pixel wide
                    let fade = ((1.0 - hardness) * r).max(1.0);
                    let there = ((r + 0.5 * fade.min(1.0) - off) / fade).clamp(0.0, 1.0);
                    let at = &mut paint.data[y * cut.width() + x];
                    *at = at.max((there * there * (3.0 - 2.0 * there)) as f32);
                }
            }
        }
        paint
    }
}

/// A part of a grid, the far ends exclusive.
#[derive(Debug, Clone, Copy)]
struct Cut {
    x0: usize,
    y0: usize,
    x1: usize,
    y1: usize,
}

impl Cut {
    fn width(&self) -> usize {
        self.x1 - self.x0
    }

    fn of<T: Copy>(&self, grid: &Grid<T>) -> Grid<T> {
        Grid::from_fn(self.width(), self.y1 - self.y0, |x, y| grid.at(x + self.x0, y + self.y0))
    }
}

/// Where strokes may paint that are held to the subject's edge, found at the fine working size.
#[derive(Clone)]
pub(crate) struct Sides {
    sides: Vec<Option<(Cut, Grid<f32>)>>,
    fine: f64,
}

impl Sides {
    /// Those of these strokes and of the ones after them.
    pub(crate) fn and(&self, more: Self) -> Self {
        Self { sides: self.sides.iter().cloned().chain(more.sides).collect(), fine: self.fine }
    }
}

/// Paints strokes onto the matte of the fine working size, with `scale` pixels for one of the photo.
pub(crate) fn painted(strokes: &[MatteStroke], colours: &Grid<Rgb>, matte: &mut Grid<f32>, scale: f64) -> Sides {
    let mut sides = Vec::new();
    for stroke in strokes {
        let side = stroke.inside.then(|| side_of(stroke, colours, matte, scale)).flatten();
        lay(stroke, matte, scale, side.as_ref().map(|(cut, side)| (*cut, side.clone())));
        sides.push(side);
    }
    Sides { sides, fine: scale }
}

/// The same strokes at another size.
///
/// # Errors
/// A cancelled watch.
pub(crate) fn painted_again(
    strokes: &[MatteStroke],
    sides: &Sides,
    (full, fine): (&Grid<Rgb>, &Grid<Rgb>),
    matte: &mut Grid<f32>,
    scale: f64,
    watch: &dyn Watch,
) -> Result<(), Cancelled> {
    for (stroke, side) in strokes.iter().zip(&sides.sides) {
        let enlarged = |(cut, side): &(Cut, Grid<f32>)| -> Result<(Cut, Grid<f32>), Cancelled> {
            let to = |v: usize, end: usize| ((v as f64 * scale / sides.fine).round() as usize).min(end);
            let large = Cut {
                x0: to(cut.x0, full.width),
                y0: to(cut.y0, full.height),
                x1: to(cut.x1, full.width),
                y1: to(cut.y1, full.height),
            };
            Ok((large, enlarge_guided(&large.of(full), &cut.of(fine), side, watch)?))
        };
        lay(stroke, matte, scale, side.as_ref().map(enlarged).transpose()?);
    }
    Ok(())
}

fn lay(stroke: &MatteStroke, matte: &mut Grid<f32>, scale: f64, side: Option<(Cut, Grid<f32>)>) {
    let cut = match &side {
        Some((cut, _)) => Some(*cut),
        // held to an edge that could not be found, it paints nothing
        None if stroke.inside => None,
        None => stroke.touched((matte.width, matte.height), scale, 0.0),
    };
    let Some(cut) = cut else { return };
    let paint = stroke.paint(&cut, scale, 1.0, stroke.hardness);
    for (k, paint) in paint.data.iter().enumerate() {
        let share = paint * side.as_ref().map_or(1.0, |(_, side)| side.data[k]);
        let a = &mut matte.data[(k / cut.width() + cut.y0) * matte.width + k % cut.width() + cut.x0];
        *a = if stroke.add { *a + (1.0 - *a) * share } else { *a * (1.0 - share) };
    }
}

/// The side of the edge on which the middle of a stroke lies: the colours around it are parted again under the brush (GrabCut), with the middle
/// as what is sure.
fn side_of(stroke: &MatteStroke, colours: &Grid<Rgb>, matte: &Grid<f32>, scale: f64) -> Option<(Cut, Grid<f32>)> {
    let cut = stroke.touched((matte.width, matte.height), scale, 1.0)?;
    let brush = stroke.paint(&cut, scale, 1.0, 1.0);
    let core = stroke.paint(&cut, scale, CORE, 1.0);
    let before = cut.of(matte);
    let labels = Grid::from_fn(brush.width, brush.height, |x, y| match (core.at(x, y) > 0.5, brush.at(x, y) > 0.0) {
        (true, _) if stroke.add => Label::Subject,
        (true, _) => Label::Background,
        (_, true) if stroke.add => Label::MaybeSubject,
        (_, true) => Label::MaybeBackground,
        _ if before.at(x, y) > 0.5 => Label::Subject,
        _ => Label::Background,
    });
    let near = cut.of(colours);
    let subject = grabcut((&near, &Contrast::of(&near)), &labels, 4, None);
    let mine = subject.map(|s| s == stroke.add);
    Some((cut, crate::edge::ramp(&mine, 1.0)))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::Unwatched;

    /// A red disc on blue, with some texture.
    fn photo() -> Grid<Rgb> {
        Grid::from_fn(200, 160, |x, y| {
            let grain = ((x * 7 + y * 13) % 11) as f32;
            if in_disc(x, y) { [190.0 + grain, 60.0, 50.0 + grain] } else { [40.0, 80.0 + grain, 170.0 + grain] }
        })
    }

    fn in_disc(x: usize, y: usize) -> bool {
        (x as f32 - 99.5).hypot(y as f32 - 79.5) < 50.0
    }

    fn stroke(add: bool, inside: bool, points: Vec<[f64; 3]>) -> MatteStroke {
        MatteStroke { add, inside, width: 80.0, hardness: 0.9, points }
    }

    #[test]
    fn paint_that_is_held_inside_does_not_spill() {
        // half of the disc is missing, and a wide brush runs along its edge
        let missing = |x: usize, y: usize| in_disc(x, y) && x < 100;
        let start = Grid::from_fn(200, 160, |x, y| if missing(x, y) { 1.0 } else { 0.0 });
        let way = vec![[125.0, 55.0, 1.0], [132.0, 80.0, 1.0], [125.0, 105.0, 1.0]];
        let wrong = |inside| {
            let mut matte = start.clone();
            painted(&[stroke(true, inside, way.clone())], &photo(), &mut matte, 1.0);
            let spilt =
                (0..matte.data.len()).filter(|i| !in_disc(i % 200, i / 200)).map(|i| matte.data[i]).sum::<f32>();
            (spilt, matte.at(140, 80))
        };
        let (free, held) = (wrong(false), wrong(true));
        assert!(free.0 > 1_500.0, "{free:?}");
        assert!(held.0 < 60.0 && held.1 > 0.98, "{held:?}");
    }

    #[test]
    fn what_is_taken_away_stays_off_the_subject() {
        let mut matte = Grid::filled(200, 160, 1.0);
        painted(&[stroke(false, true, vec![[165.0, 30.0, 1.0], [165.0, 130.0, 1.0]])], &photo(), &mut matte, 1.0);
        assert!(matte.at(165, 80) < 0.02 && matte.at(140, 80) > 0.95 && matte.at(60, 80) == 1.0);
    }

    #[test]
    fn the_same_paint_at_another_size() {
        let fine = photo();
        let full = Grid::from_fn(600, 480, |x, y| fine.at(x / 3, y / 3));
        let (mut small, mut large) = (Grid::filled(200, 160, 0.0), Grid::filled(600, 480, 0.0));
        let strokes = [
            stroke(true, true, vec![[300.0, 240.0, 1.0], [390.0, 240.0, 0.5]]),
            stroke(false, false, vec![[300.0, 240.0, 0.2]]),
        ];
        let sides = painted(&strokes, &fine, &mut small, 1.0 / 3.0);
        painted_again(&strokes, &sides, (&full, &fine), &mut large, 1.0, &Unwatched).unwrap();
        let mean = |g: &Grid<f32>| g.data.iter().sum::<f32>() / g.data.len() as f32;
        assert!(
            mean(&small) > 0.005 && (mean(&small) / mean(&large) - 1.0).abs() < 0.05,
            "{} {}",
            mean(&small),
            mean(&large)
        );
    }
}
