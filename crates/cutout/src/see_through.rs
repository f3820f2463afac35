//! What covers the ground in part, and not at its edge alone: glass and smoke, and shadows that lie on the ground.
//!
//! How much is covered follows from the ground's own colours, which are told from around it (`ground`): a colour is a mixture of the ground's
//! and of that of the film's densest places. A shadow's own colour is black.

use crate::Hints;
use crate::grid::Grid;
use crate::ground::Ground;
use crate::hints::{Hint, SubjectStroke};
use crate::mixture::Rgb;
use crate::regions::{Connectivity, distance_to, regions};
use crate::shadow::{is_ground, shadow};
use rayon::prelude::*;

/// What lies over a pixel of the ground.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Over {
    Nothing,
    Film,
    Shadow,
}

/// What is seen at a pixel.
struct Seen {
    /// How much of it lies beneath strokes over a film, and how much the film covers there, with which colour.
    film: f32,
    cover: f32,
    own: Rgb,
    /// How much a shadow covers, and how much of what was taken for the subject is ground.
    shadow: f32,
    freed: f32,
}

impl Seen {
    /// Coverage by the subject's solid part and by the film, where the subject covers so much by itself.
    fn parts(&self, solid: f32) -> [f32; 2] {
        [solid * (1.0 - self.freed) * (1.0 - self.film), self.film * self.cover]
    }

    /// Coverage by the shadow on what these leave free.
    fn shadow_beside(&self, [solid, film]: [f32; 2]) -> f32 {
        self.shadow * (1.0 - solid - film)
    }
}

/// Where something is seen through, and what is needed to tell how much of it.
pub(crate) struct SeeThrough<'a> {
    hints: &'a Hints,
    ground: Ground,
    /// The colours of the film's brightest and of its darkest places.
    bright: Rgb,
    dark: Rgb,
    /// Differences of colours up to this are the ground's own pattern.
    pattern: f32,
    /// Where strokes lie over a film; at the fine size, like all that follows.
    film: Grid<f32>,
    /// How much it fades towards the bare ground; nothing is left on it.
    fade: Grid<f32>,
    /// How much a shadow covers.
    shadow: Grid<f32>,
    /// Where what was taken for the subject is ground in its shadow.
    freed: Grid<f32>,
}

/// Coverage that counts as none.
const BARE: f32 = 0.02;
/// Over so many pixels of the fine size what is seen through fades towards the bare ground at the end of a stroke.
const FADE: f32 = 4.0;
/// A film's own colour differs from the ground's by this at least, of 255.
const APART: f32 = 30.0;
/// The shares of a film's pixels that are darker than its darkest places, and brighter than its brightest.
const EXTREMES: f64 = 0.01;
/// A shadow has no pattern of its own: it is told from means over so many pixels of the fine size to either side.
const EVEN: usize = 3;
/// A shadow that takes no more of the light is the ground's own pattern.
const TRACE: f32 = 0.03;

impl<'a> SeeThrough<'a> {
    /// `fine` has `scale` pixels for one of the photo, `solid` is the subject's own coverage. None where nothing is
    /// seen through, or no ground is seen.
    pub fn find(fine: &Grid<Rgb>, solid: &Grid<f32>, hints: &'a Hints, scale: f64) -> Option<Self> {
        let found = if hints.shadow_alone { shadow(fine, solid) } else { None };
        if hints.see_through.is_empty() && found.is_none() {
            return None;
        }
        let over = over(hints, found.as_ref(), fine.width, fine.height, scale);
        let is = |x, y, wanted| over.at(x, y) == wanted && solid.at(x, y) < BARE;
        let bare = Grid::from_fn(fine.width, fine.height, |x, y| is(x, y, Over::Nothing));
        let ground = Ground::beneath(fine, &bare)?;
        let pattern = (2.0 * ground.pattern).min(COARSEST);
        let fade = distance_to(&bare).map(|d| ((d - 1.0) / FADE).clamp(0.0, 1.0));
        let freed = Grid::from_fn(fine.width, fine.height, |x, y| {
            let is_free = over.at(x, y) == Over::Shadow && is_ground(fine.at(x, y), ground.below(x, y));
            f32::from(u8::from(is_free))
        });
        let darker = Grid::from_fn(fine.width, fine.height, |x, y| {
            let is_free = is(x, y, Over::Shadow) || freed.at(x, y) > 0.0;
            is_free.then(|| darker(fine.at(x, y), ground.below(x, y)))
        });
        let mut covered = means(&darker, EVEN);
        without_faint(&mut covered, hints, scale);
        covered.data.iter_mut().zip(&fade.data).for_each(|(s, f)| *s = f * ((*s - TRACE) / (1.0 - TRACE)).max(0.0));
        let [dark, bright] = extremes(fine, &over, &ground, pattern);
        let film = over.map(|over| f32::from(u8::from(over == Over::Film)));
        Some(Self { hints, ground, bright, dark, pattern, film, fade, shadow: covered, freed })
    }

    /// Lays it onto the matte of a photo of these colours, at any size. Where only a shadow is wanted, all else goes.
    pub fn lay(&self, colours: &Grid<Rgb>, matte: &mut Grid<f32>) {
        matte.data.par_chunks_mut(colours.width).enumerate().for_each(|(y, row)| {
            for (x, value) in row.iter_mut().enumerate() {
                let seen = self.seen(colours, x, y);
                let parts = seen.as_ref().map_or([*value, 0.0], |seen| seen.parts(*value));
                let shadow = seen.map_or(0.0, |seen| seen.shadow_beside(parts));
                *value = if self.hints.shadow_alone { shadow } else { parts[0] + parts[1] + shadow };
            }
        });
    }

    /// Puts its own colours in place of those of the photo. `solid` is the matte that it was laid onto.
    pub fn colour(&self, colours: &Grid<Rgb>, solid: &Grid<f32>, front: &mut Grid<Rgb>) {
        front.data.par_chunks_mut(colours.width).enumerate().for_each(|(y, row)| {
            for (x, value) in row.iter_mut().enumerate() {
                let Some(seen) = self.seen(colours, x, y) else { continue };
                if self.hints.shadow_alone {
                    *value = [0.0; 3];
                    continue;
                }
                let [solid, film] = seen.parts(solid.at(x, y));
                let whole = (solid + film + seen.shadow_beside([solid, film])).max(1e-3);
                // the shadow is black
                *value = [0, 1, 2].map(|c| (solid * value[c] + film * seen.own[c]) / whole);
            }
        });
    }

    /// What is seen at a pixel of a photo of any size; none where nothing is seen through.
    fn seen(&self, colours: &Grid<Rgb>, x: usize, y: usize) -> Option<Seen> {
        // a place of the fine size
        let u = (x as f32 + 0.5) * self.fade.width as f32 / colours.width as f32;
        let v = (y as f32 + 0.5) * self.fade.height as f32 / colours.height as f32;
        let at = |grid: &Grid<f32>| grid.sample(u - 0.5, v - 0.5);
        let (film, shadow, freed) = (at(&self.film), self.hints.density * at(&self.shadow), at(&self.freed));
        if film == 0.0 && shadow == 0.0 && freed == 0.0 {
            return None;
        }
        let (cover, own) =
            if film > 0.0 { self.mixed(colours.at(x, y), self.ground.at(u, v)) } else { (0.0, [0.0; 3]) };
        Some(Seen { film, cover: cover * at(&self.fade), own, shadow, freed })
    }

    /// How much a film covers where the photo has a colour, and the film's own colour there: mixed with the ground's they give the photo's
    /// (P. Vlahos's equation of compositing; A. R. Smith, J. F. Blinn, "Blue Screen Matting", 1996). Of all pairs that do, it is the one whose
    /// colour is nearest to the film's densest places.
    fn mixed(&self, colour: Rgb, ground: Rgb) -> (f32, Rgb) {
        let mut off = [0, 1, 2].map(|c| colour[c] - ground[c]);
        let size = off.iter().map(|v| v * v).sum::<f32>().sqrt();
        let rest = (1.0 - self.pattern / size.max(1e-3)).max(0.0);
        off.iter_mut().for_each(|v| *v *= rest);
        let (mut along, mut whole, mut least) = (0.0, 0.0, 0.0_f32);
        for c in 0..3 {
            let to = if off[c] >= 0.0 {
                (self.bright[c] - ground[c]).max(APART)
            } else {
                (self.dark[c] - ground[c]).min(-APART)
            };
            along += off[c] * to;
            whole += to * to;
            // a colour is none beyond black or white
            least = least.max(if off[c] >= 0.0 {
                off[c] / (255.0 - ground[c]).max(1.0)
            } else {
                -off[c] / ground[c].max(1.0)
            });
        }
        let cover = (self.hints.density * along / whole).max(least).clamp(0.0, 1.0);
        let own = [0, 1, 2].map(|c| (ground[c] + off[c] / cover.max(1e-3)).clamp(0.0, 255.0));
        (cover, own)
    }
}

/// What strokes say of every pixel of a grid with `scale` pixels for one of the photo. Strokes over what surely belongs to the subject say that it
/// is solid.
fn over(hints: &Hints, found: Option<&Grid<bool>>, width: usize, height: usize, scale: f64) -> Grid<Over> {
    let mut grid = Grid::from_fn(width, height, |x, y| match found {
        Some(found) if found.at(x * found.width / width, y * found.height / height) => Over::Shadow,
        _ => Over::Nothing,
    });
    for stroke in &hints.see_through {
        let kind = if stroke.shadow { Over::Shadow } else { Over::Film };
        SubjectStroke::new(true, stroke.width, stroke.points.clone())
            .over(width, height, scale, |i| grid.data[i] = kind);
    }
    let drawn = hints.drawn(width, height, scale);
    grid.data.iter_mut().zip(&drawn.data).filter(|(_, h)| **h != Hint::Nothing).for_each(|(o, _)| *o = Over::Nothing);
    grid
}

/// How much darker than the ground a colour is, from 0 to 1.
fn darker(colour: Rgb, ground: Rgb) -> f32 {
    let along: f32 = (0..3).map(|c| ground[c] * (ground[c] - colour[c])).sum();
    let whole: f32 = ground.iter().map(|g| g * g).sum();
    along / whole.max(1.0)
}

/// A shadow that was found by itself is somewhere as dense as this.
const FAINT: f32 = 0.15;

/// Drops regions of a shadow that are faint everywhere, except those that were painted over.
fn without_faint(covered: &mut Grid<f32>, hints: &Hints, scale: f64) {
    let painted = over(hints, None, covered.width, covered.height, scale);
    let (labels, sizes) = regions(&covered.map(|s| s > TRACE), Connectivity::Eight);
    let mut stays = vec![false; sizes.len()];
    for (i, label) in labels.data.iter().enumerate() {
        stays[*label as usize] |= covered.data[i] > FAINT || painted.data[i] == Over::Shadow;
    }
    covered.data.iter_mut().zip(&labels.data).filter(|(_, l)| !stays[**l as usize]).for_each(|(s, _)| *s = 0.0);
}

/// The mean of what is there within so many pixels to either side, nothing below 0; 0 where nothing is.
fn means(values: &Grid<Option<f32>>, reach: usize) -> Grid<f32> {
    let (w, h) = (values.width, values.height);
    Grid::from_fn(w, h, |x, y| {
        if values.at(x, y).is_none() {
            return 0.0;
        }
        let rows = y.saturating_sub(reach)..(y + reach + 1).min(h);
        let columns = x.saturating_sub(reach)..(x + reach + 1).min(w);
        let near = rows.flat_map(|v| columns.clone().filter_map(move |u| values.at(u, v)));
        let (sum, count) = near.fold((0.0, 0.0_f32), |(sum, count), v| (sum + v, count + 1.0));
        (sum / count).clamp(0.0, 1.0)
    })
}

/// The ground's own pattern is no coarser; what differs by more lies over it.
const COARSEST: f32 = 15.0;

/// The colours of a film's darkest and brightest places.
fn extremes(fine: &Grid<Rgb>, over: &Grid<Over>, ground: &Ground, pattern: f32) -> [Rgb; 2] {
    let film = || (0..fine.data.len()).filter(|i| over.data[*i] == Over::Film);
    let differing = |c: usize, brighter: bool| -> Vec<f32> {
        let pairs = film().map(|i| (fine.data[i][c], ground.below(i % fine.width, i / fine.width)[c]));
        let far = pairs.filter(|(own, ground)| if brighter { own - ground } else { ground - own } > pattern);
        far.map(|(own, _)| own).collect()
    };
    let nth = |mut all: Vec<f32>, share: f64, none: f32| {
        let at = (all.len() as f64 * share) as usize;
        if all.is_empty() { none } else { *all.select_nth_unstable_by(at, f32::total_cmp).1 }
    };
    [
        [0, 1, 2].map(|c| nth(differing(c, false), EXTREMES, 0.0)),
        [0, 1, 2].map(|c| nth(differing(c, true), 1.0 - EXTREMES, 255.0)),
    ]
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::SeeThroughStroke;

    const SIDE: usize = 300;

    /// Ground that slopes, with grain, and over it a colour by `cover`.
    fn photo(own: Rgb, cover: impl Fn(f32, f32) -> f32) -> (Grid<Rgb>, Grid<f32>) {
        let truth = Grid::from_fn(SIDE, SIDE, |x, y| cover(x as f32 - 150.0, y as f32 - 150.0));
        let colours = Grid::from_fn(SIDE, SIDE, |x, y| {
            let grain = ((x * 7 + y * 13) % 5) as f32 - 2.0;
            let ground = [120.0 + x as f32 / 6.0 + grain, 90.0 + grain, 70.0 - y as f32 / 12.0 + grain];
            let a = truth.at(x, y);
            [0, 1, 2].map(|c| own[c] * a + ground[c] * (1.0 - a))
        });
        (colours, truth)
    }

    fn dab(shadow: bool) -> Hints {
        let stroke = SeeThroughStroke { shadow, width: 230.0, points: vec![[150.0, 150.0]] };
        Hints { see_through: vec![stroke], ..Hints::default() }
    }

    fn off(found: &Grid<f32>, truth: &Grid<f32>) -> f32 {
        let all = found.data.iter().zip(&truth.data).map(|(a, b)| (a - b).abs());
        all.sum::<f32>() / truth.data.iter().sum::<f32>()
    }

    /// A bump of this height.
    fn bump(most: f32) -> impl Fn(f32, f32) -> f32 {
        move |x, y| most * (-(x * x + y * y) / 2000.0).exp()
    }

    #[test]
    fn smoke_covers_the_ground_as_much_as_it_does_and_has_its_own_colour() {
        let smoke = [235.0, 232.0, 228.0];
        let (colours, truth) = photo(smoke, bump(1.0));
        let hints = dab(false);
        let mut matte = Grid::filled(SIDE, SIDE, 0.0);
        let found = SeeThrough::find(&colours, &matte, &hints, 1.0).unwrap();
        found.lay(&colours, &mut matte);
        assert!(off(&matte, &truth) < 0.08, "{}", off(&matte, &truth));
        let mut front = colours.clone();
        found.colour(&colours, &Grid::filled(SIDE, SIDE, 0.0), &mut front);
        let half = front.at(150 + 37, 150);
        assert!((0..3).all(|c| (half[c] - smoke[c]).abs() < 12.0), "{half:?} {}", matte.at(187, 150));
    }

    #[test]
    fn a_shadow_is_black_and_leaves_what_casts_it() {
        let (mut colours, truth) = photo([0.0; 3], bump(0.5));
        let is_post = |i: usize| i % SIDE < 120;
        (0..SIDE * SIDE).filter(|i| is_post(*i)).for_each(|i| colours.data[i] = [40.0, 60.0, 190.0]);
        // some of the ground was taken for the subject
        let solid = Grid::from_fn(SIDE, SIDE, |x, y| {
            f32::from(u8::from(x < 120 || ((120..170).contains(&x) && (130..190).contains(&y))))
        });
        let of = |hints: Hints| {
            let mut matte = solid.clone();
            SeeThrough::find(&colours, &solid, &hints, 1.0).unwrap().lay(&colours, &mut matte);
            matte
        };
        let alone = of(Hints { shadow_alone: true, ..dab(true) });
        let free = Grid::from_fn(SIDE, SIDE, |x, y| if x < 120 { 0.0 } else { truth.at(x, y) });
        assert!(off(&alone, &free) < 0.15, "{}", off(&alone, &free));
        let both = of(dab(true));
        assert!((both.at(60, 150), both.at(10, 10)) == (1.0, 1.0) && (both.at(150, 150) - 0.5).abs() < 0.04);
    }

    #[test]
    fn without_strokes_or_bare_ground_nothing_is_seen_through() {
        let (colours, _) = photo([0.0; 3], bump(0.5));
        let none = Grid::filled(SIDE, SIDE, 0.0);
        assert!(SeeThrough::find(&colours, &none, &Hints::default(), 1.0).is_none());
        assert!(SeeThrough::find(&colours, &Grid::filled(SIDE, SIDE, 1.0), &dab(false), 1.0).is_none());
    }
}
