//! What a person says of where the subject is: a box around it, strokes on it and beside it, contours, paint on its matte, and how its edge
//! is to be.

use crate::brush::beneath;
use crate::edge::SubjectEdge;
use crate::grid::Grid;
use crate::paint::MatteStroke;
use crate::regions::{Connectivity, regions, tidied, without_small};
use crate::share::{is_whole, whole};
use crate::{CutoutError, PhotoBox, coverage};
use kurbo::{Affine, BezPath};
use serde::{Deserialize, Serialize};
use ts_rs::TS;

/// Strokes at most.
pub const STROKES: usize = 200;
/// Points of all strokes at most.
pub const STROKE_POINTS: usize = 20_000;
/// Contours at most.
pub const CONTOURS: usize = 50;
/// Characters of all contours at most.
pub const CONTOUR_DATA: usize = 400_000;

/// Where a search begins.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default, Serialize, Deserialize, TS)]
#[serde(rename_all = "snake_case")]
pub enum Start {
    /// With what stands out or with colours alone, whichever fits the box better.
    #[default]
    Search,
    /// With what stands out.
    Salient,
    /// With colours alone.
    Colours,
    /// With what stands out and is not of the colours around the box.
    Apart,
    /// With nothing: the subject is what is traced and painted.
    Nothing,
    /// With the photo's own transparency.
    Alpha,
}

impl Start {
    fn is_search(&self) -> bool {
        *self == Start::Search
    }
}

/// All that a subject is found by, in photo space. It is kept with the sheet and can be changed at any time.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct Hints {
    #[serde(default, skip_serializing_if = "Start::is_search")]
    #[ts(optional, as = "Option<Start>")]
    pub start: Start,
    /// Without one the subject is looked for in the whole photo.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    #[ts(optional)]
    pub within: Option<PhotoBox>,
    /// In the order in which they were made: later ones lie over earlier ones.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    pub strokes: Vec<SubjectStroke>,
    /// Contours that belong to the subject as they are: SVG path data, even-odd.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<String>>")]
    pub traced: Vec<String>,
    #[serde(default, skip_serializing_if = "SubjectEdge::is_usual")]
    #[ts(optional, as = "Option<SubjectEdge>")]
    pub edge: SubjectEdge,
    /// Where the edge is looked at closely, for hair and fluff, whether or not that is done elsewhere.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<EdgeStroke>>")]
    pub refined: Vec<EdgeStroke>,
    /// Paint on the matte itself, over all else.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<MatteStroke>>")]
    pub painted: Vec<MatteStroke>,
    /// Where the ground is seen through it, beneath all paint. Later strokes lie over earlier ones.
    #[serde(default, skip_serializing_if = "Vec::is_empty")]
    #[ts(optional, as = "Option<Vec<SeeThroughStroke>>")]
    pub see_through: Vec<SeeThroughStroke>,
    /// How much the densest places of glass and smoke cover, and how strong shadows are, from 0 to 1.
    #[serde(default = "whole", skip_serializing_if = "is_whole")]
    #[ts(optional, as = "Option<f64>")]
    pub density: f32,
    /// What is wanted is the shadow that the subject casts, without the subject.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    #[ts(optional, as = "Option<bool>")]
    pub shadow_alone: bool,
}

impl Default for Hints {
    fn default() -> Self {
        Self {
            start: Start::default(),
            within: None,
            strokes: Vec::new(),
            traced: Vec::new(),
            edge: SubjectEdge::default(),
            refined: Vec::new(),
            painted: Vec::new(),
            see_through: Vec::new(),
            density: whole(),
            shadow_alone: false,
        }
    }
}

/// A stroke over what belongs to the subject, or over what does not.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct SubjectStroke {
    /// Belongs to the subject.
    pub keep: bool,
    /// Diameter in pixels of the photo.
    pub width: f64,
    /// Pixels of the photo.
    pub points: Vec<[f64; 2]>,
    /// It speaks for all that is like it, wherever that is; else for what is joined to it.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    #[ts(optional, as = "Option<bool>")]
    pub everywhere: bool,
}

/// A stroke along the edge of a subject, beneath which it is not sure what belongs to it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct EdgeStroke {
    /// Diameter in pixels of the photo.
    pub width: f64,
    /// Pixels of the photo.
    pub points: Vec<[f64; 2]>,
}

/// A stroke over something that the ground is seen through.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, TS)]
pub struct SeeThroughStroke {
    /// A shadow on the ground; else glass, smoke or whatever else lets light through.
    #[serde(default, skip_serializing_if = "std::ops::Not::not")]
    #[ts(optional, as = "Option<bool>")]
    pub shadow: bool,
    /// Diameter in pixels of the photo.
    pub width: f64,
    /// Pixels of the photo.
    pub points: Vec<[f64; 2]>,
}

/// What strokes say of a pixel.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Hint {
    Nothing,
    Keep,
    Drop,
}

impl Hints {
    /// Looking in a box, or everywhere.
    pub fn within(within: Option<PhotoBox>) -> Self {
        Self { within, ..Self::default() }
    }

    /// # Errors
    /// More strokes than can be told apart, or numbers that are none.
    pub fn check(&self) -> Result<(), CutoutError> {
        let strokes = self.strokes.iter().map(|s| (s.width, &s.points));
        let all = strokes.chain(self.refined.iter().map(|s| (s.width, &s.points)));
        let all = all.chain(self.see_through.iter().map(|s| (s.width, &s.points)));
        let points: usize = all.clone().map(|(_, points)| points.len()).sum();
        if all.clone().count() > STROKES || points > STROKE_POINTS {
            return Err(CutoutError::TooManyStrokes);
        }
        let sound = |(width, points): (f64, &Vec<[f64; 2]>)| {
            let near = |v: &f64| v.is_finite() && v.abs() < 1e6;
            (0.1..=1e5).contains(&width) && !points.is_empty() && points.iter().flatten().all(near)
        };
        if !all.clone().all(sound) {
            return Err(CutoutError::Stroke);
        }
        if self.traced.len() > CONTOURS || self.traced.iter().map(String::len).sum::<usize>() > CONTOUR_DATA {
            return Err(CutoutError::TooManyContours);
        }
        self.traced_paths()?;
        MatteStroke::check(&self.painted)?;
        if !(0.0..=1.0).contains(&self.density) {
            return Err(CutoutError::Density);
        }
        self.edge.check()
    }

    /// Whether it is looked at what stands out.
    pub fn looks(&self) -> bool {
        !matches!(self.start, Start::Nothing | Start::Alpha)
    }

    /// Whether the photo's own transparency is the matte as it is.
    pub(crate) fn is_exact(&self) -> bool {
        self.start == Start::Alpha && self.traced.is_empty() && self.refined.is_empty() && self.edge.smooth == 0.0
    }

    /// Whether a person says what belongs to the subject.
    pub(crate) fn keeps(&self) -> bool {
        self.strokes.iter().any(|s| s.keep) || !self.traced.is_empty()
    }

    /// Whether the ground is to be seen through something.
    pub(crate) fn sees_through(&self) -> bool {
        self.shadow_alone || !self.see_through.is_empty()
    }

    /// The contours in photo space.
    fn traced_paths(&self) -> Result<Vec<BezPath>, CutoutError> {
        let read = |data: &String| BezPath::from_svg(data).ok().filter(|p| p.is_finite() && !p.is_empty());
        self.traced.iter().map(|data| read(data).ok_or(CutoutError::Contour)).collect()
    }

    /// How much of every pixel of a grid is traced; `scale` is its pixels for one of the photo. None without contours.
    pub(crate) fn traced(&self, width: usize, height: usize, scale: f64) -> Option<Grid<f32>> {
        let contours = self.traced_paths().ok()?;
        let drawn = contours.iter().map(|path| coverage(&(Affine::scale(scale) * path), width, height));
        drawn.reduce(|mut all, one| {
            all.data.iter_mut().zip(&one.data).for_each(|(a, b)| *a = a.max(*b));
            all
        })
    }

    /// Where the edge is looked at closely on a grid of `width` x `height`; `scale` is its pixels for one of the photo. None where it is not.
    pub(crate) fn refined(&self, width: usize, height: usize, scale: f64) -> Option<Grid<bool>> {
        let strokes = self.refined.iter().map(|s| SubjectStroke::new(true, s.width, s.points.clone()));
        let drawn = SubjectStroke::drawn(&strokes.collect::<Vec<_>>(), width, height, scale);
        (!self.refined.is_empty()).then(|| drawn.map(|hint| hint == Hint::Keep))
    }

    /// The strokes on a grid of `width` x `height`; `scale` is its pixels for one of the photo.
    pub fn drawn(&self, width: usize, height: usize, scale: f64) -> Grid<Hint> {
        SubjectStroke::drawn(&self.strokes, width, height, scale)
    }
}

impl SubjectStroke {
    /// A stroke that speaks for what is joined to it. Width and places in pixels of the photo.
    pub fn new(keep: bool, width: f64, points: Vec<[f64; 2]>) -> Self {
        Self { keep, width, points, everywhere: false }
    }

    /// How long it is, in pixels of the photo; nothing for a dot.
    pub(crate) fn length(&self) -> f64 {
        self.points.windows(2).map(|p| (p[1][0] - p[0][0]).hypot(p[1][1] - p[0][1])).sum()
    }

    /// Strokes on a grid of `width` x `height`; `scale` is its pixels for one of the photo.
    pub fn drawn(strokes: &[Self], width: usize, height: usize, scale: f64) -> Grid<Hint> {
        let mut grid = Grid::filled(width, height, Hint::Nothing);
        for stroke in strokes {
            let hint = if stroke.keep { Hint::Keep } else { Hint::Drop };
            stroke.over(width, height, scale, |i| grid.data[i] = hint);
        }
        grid
    }

    /// Calls `each` once with the index of every pixel beneath the stroke on such a grid.
    pub(crate) fn over(&self, width: usize, height: usize, scale: f64, each: impl FnMut(usize)) {
        let points: Vec<[f64; 2]> = self.points.iter().map(|p| p.map(|v| v * scale)).collect();
        beneath(&points, (self.width / 2.0 * scale).max(0.5), width, height, each);
    }

    /// The pixels of such a grid beneath the stroke, in their order.
    pub(crate) fn pixels(&self, width: usize, height: usize, scale: f64) -> Vec<usize> {
        let mut all = Vec::new();
        self.over(width, height, scale, |i| all.push(i));
        all
    }
}

/// However small a part is that is kept, parts of less than this share of the largest come only by strokes of their own.
const SPECK: f64 = 0.0006;

/// A mask without regions under `least` of the largest, but with those that a keep stroke touches, however small, and without what a drop stroke
/// covers. Whoever keeps a small region means others of its size too.
pub(crate) fn as_stroked(mask: &Grid<bool>, hints: &Grid<Hint>, least: f64) -> Grid<bool> {
    if hints.data.iter().all(|h| *h == Hint::Nothing) {
        return tidied(mask, least);
    }
    let known = regions(mask, Connectivity::Eight);
    let (labels, sizes) = &known;
    let mut touched = vec![false; sizes.len().max(1)];
    for (label, hint) in labels.data.iter().zip(&hints.data) {
        touched[*label as usize] |= *hint == Hint::Keep && *label > 0;
    }
    let largest = sizes.iter().copied().max().unwrap_or(0).max(1) as f64;
    let kept = sizes.iter().zip(&touched).skip(1).filter(|(_, touched)| **touched);
    let smallest = kept.map(|(size, _)| 0.5 * *size as f64 / largest).fold(least, f64::min);
    let tidy = without_small(&known, smallest.max(SPECK.min(least)));
    let (width, height) = (tidy.width, tidy.height);
    let all = tidy.data.iter().zip(&labels.data).zip(&hints.data);
    let data = all.map(|((&kept, &label), hint)| match hint {
        Hint::Keep => true,
        Hint::Drop => false,
        Hint::Nothing => kept || touched[label as usize],
    });
    Grid { width, height, data: data.collect() }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn stroke(keep: bool, points: &[[f64; 2]]) -> SubjectStroke {
        SubjectStroke::new(keep, 8.0, points.to_vec())
    }

    #[test]
    fn strokes_are_drawn_as_wide_as_they_are_and_over_one_another() {
        let hints = Hints {
            strokes: vec![stroke(true, &[[20.0, 40.0], [180.0, 40.0]]), stroke(false, &[[100.0, 20.0], [100.0, 60.0]])],
            ..Hints::default()
        };
        let grid = hints.drawn(100, 50, 0.5);
        let at = |x: usize, y: usize| grid.at(x, y);
        assert_eq!((at(20, 20), at(20, 17), at(20, 23)), (Hint::Keep, Hint::Nothing, Hint::Nothing));
        assert_eq!((at(50, 20), at(50, 12), at(53, 12)), (Hint::Drop, Hint::Drop, Hint::Nothing));
        // a dot is a stroke, and one that lies outside of the photo draws nothing
        let strokes = vec![stroke(true, &[[10.0, 10.0]]), stroke(true, &[[-500.0, -500.0]])];
        let dot = Hints { strokes, ..Hints::default() };
        let dots = dot.drawn(100, 50, 0.5).data.iter().filter(|h| **h == Hint::Keep).count();
        assert!((10..=16).contains(&dots), "{dots}");
    }

    #[test]
    fn kept_regions_stay_however_small_and_dropped_pixels_go() {
        let mask = Grid::from_fn(60, 60, |x, y| (x < 30 && y < 30) || (x > 50 && y > 50));
        let strokes = vec![stroke(true, &[[55.0, 55.0]]), stroke(false, &[[10.0, 10.0]])];
        let hints = Hints { strokes, ..Hints::default() };
        let stroked = as_stroked(&mask, &hints.drawn(60, 60, 1.0), 0.2);
        assert!(stroked.at(52, 58) && !stroked.at(10, 10) && stroked.at(25, 25));
        let tidy = Grid::from_fn(60, 60, |x, y| x < 30 && y < 30);
        assert_eq!(as_stroked(&mask, &Hints::default().drawn(60, 60, 1.0), 0.2).data, tidy.data);
        // one of two small parts is kept: the other is as large, and comes with it
        let mask = Grid::from_fn(60, 60, |x, y| (x < 30 && y < 30) || (x > 50 && !(10..=50).contains(&y)));
        let kept = Hints { strokes: vec![stroke(true, &[[55.0, 55.0]])], ..Hints::default() };
        assert!(as_stroked(&mask, &kept.drawn(60, 60, 1.0), 0.2).at(55, 5));
        assert!(!as_stroked(&mask, &Hints::default().drawn(60, 60, 1.0), 0.2).at(55, 5));
    }

    #[test]
    fn strokes_that_are_none_are_said() {
        let with = |s: SubjectStroke| Hints { strokes: vec![s], ..Hints::default() }.check();
        assert_eq!(with(stroke(true, &[])), Err(CutoutError::Stroke));
        assert_eq!(with(stroke(true, &[[f64::NAN, 1.0]])), Err(CutoutError::Stroke));
        let many = Hints { strokes: vec![stroke(true, &[[1.0, 1.0]]); STROKES + 1], ..Hints::default() };
        assert_eq!(many.check(), Err(CutoutError::TooManyStrokes));
        assert_eq!(with(stroke(false, &[[1.0, 1.0]])), Ok(()));
        let traced = |data: &str| Hints { traced: vec![data.into()], ..Hints::default() }.check();
        assert_eq!(traced("M0,0 L40,0 L20,30 Z"), Ok(()));
        assert_eq!(traced("<script>"), Err(CutoutError::Contour));
        assert_eq!(traced("M0,0 L1e999,0 L20,30 Z"), Err(CutoutError::Contour));
        let wide = SubjectEdge { shift: 1e9, ..SubjectEdge::default() };
        assert_eq!(Hints { edge: wide, ..Hints::default() }.check(), Err(CutoutError::Edge));
    }
}
