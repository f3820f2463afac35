//! Inks for a photo: its main colours, with names.

use crate::sheet::Colour;
use image::RgbaImage;
use serde::Serialize;
use ts_rs::TS;

/// Colours that a photo is made of.
pub const COLOURS: usize = 6;
/// Pixels that are looked at, at most.
const LOOKED_AT: usize = 12_000;
/// Rounds of Lloyd's algorithm; it has settled by then.
const ROUNDS: usize = 12;

/// A colour of a photo, to be taken as an ink.
#[derive(Debug, Clone, PartialEq, Serialize, TS)]
pub struct InkProposal {
    pub name: String,
    pub colour: Colour,
    /// How much of the photo it stands for, 0 to 1.
    pub share: f64,
}

/// Lightness 0 to 1, and two axes from green to red and from blue to yellow (Ottosson, "A perceptual color space for image
/// processing", 2020).
pub(crate) type Lab = [f64; 3];

/// The main colours of a photo, those that cover most of it first. Clear pixels do not count.
///
/// Clustered with k-means in Oklab, from starts that lie as far from one another as can be, so that the same photo always gives
/// the same colours. Vivid colours count for more than their area: a red lantern in a grey dusk is what people want.
pub fn main_colours(photo: &RgbaImage) -> Vec<InkProposal> {
    let all = photo.pixels().len();
    let step = all.div_ceil(LOOKED_AT).max(1);
    // not in rows: a step that divides the width would look at a few columns only
    let step = if step > 1 && (photo.width() as usize).is_multiple_of(step) { step + 1 } else { step };
    let points: Vec<(Lab, f64)> = photo
        .pixels()
        .step_by(step)
        .filter(|p| p.0[3] > 127)
        .map(|p| {
            let lab = to_lab(Colour([p.0[0], p.0[1], p.0[2]]));
            (lab, 1.0 + 12.0 * lab[1].hypot(lab[2]))
        })
        .collect();
    if points.is_empty() {
        return Vec::new();
    }
    let mut centres = starts(&points);
    let mut members = vec![0_usize; points.len()];
    for _ in 0..ROUNDS {
        for (m, (p, _)) in members.iter_mut().zip(&points) {
            *m = nearest(&centres, p).0;
        }
        for (k, centre) in centres.iter_mut().enumerate() {
            let (mut sum, mut weight) = ([0.0; 3], 0.0);
            for ((p, w), _) in points.iter().zip(&members).filter(|(_, m)| **m == k) {
                (0..3).for_each(|i| sum[i] += p[i] * w);
                weight += w;
            }
            if weight > 0.0 {
                *centre = sum.map(|s| s / weight);
            }
        }
    }
    let mut found: Vec<InkProposal> = centres
        .iter()
        .enumerate()
        .map(|(k, centre)| {
            let share = members.iter().filter(|m| **m == k).count() as f64 / points.len() as f64;
            InkProposal { name: name(centre), colour: from_lab(centre), share }
        })
        .filter(|p| p.share > 0.0)
        .collect();
    found.sort_by(|a, b| b.share.total_cmp(&a.share));
    number_twins(&mut found);
    found
}

/// The mean first, then again and again the point that counts most for its distance from those before it.
fn starts(points: &[(Lab, f64)]) -> Vec<Lab> {
    let n = points.len() as f64;
    let mean = [0, 1, 2].map(|i| points.iter().map(|(p, _)| p[i]).sum::<f64>() / n);
    let mut centres =
        vec![points.iter().map(|(p, _)| *p).min_by(|a, b| far(a, &mean).total_cmp(&far(b, &mean))).unwrap_or(mean)];
    while centres.len() < COLOURS {
        let next = points.iter().map(|(p, w)| (nearest(&centres, p).1 * w, p)).max_by(|a, b| a.0.total_cmp(&b.0));
        match next {
            // what is left is no other colour to anybody
            Some((d, p)) if d > 4e-4 => centres.push(*p),
            _ => break,
        }
    }
    centres
}

/// Squared distance.
fn far(a: &Lab, b: &Lab) -> f64 {
    (0..3).map(|i| (a[i] - b[i]).powi(2)).sum()
}

fn nearest(centres: &[Lab], p: &Lab) -> (usize, f64) {
    let far = centres.iter().map(|c| far(c, p)).enumerate();
    far.min_by(|a, b| a.1.total_cmp(&b.1)).unwrap_or((0, 0.0))
}

/// A colour of sRGB in Oklab (B. Ottosson, 2020): lightness from 0 to 1, then green to red and blue to yellow.
pub(crate) fn to_lab(colour: Colour) -> Lab {
    let [r, g, b] = colour.0.map(|v| {
        let v = f64::from(v) / 255.0;
        if v <= 0.04045 { v / 12.92 } else { ((v + 0.055) / 1.055).powf(2.4) }
    });
    let l = (0.412_221_470_8 * r + 0.536_332_536_3 * g + 0.051_445_992_9 * b).cbrt();
    let m = (0.211_903_498_2 * r + 0.680_699_545_1 * g + 0.107_396_956_6 * b).cbrt();
    let s = (0.088_302_461_9 * r + 0.281_718_837_6 * g + 0.629_978_700_5 * b).cbrt();
    [
        0.210_454_255_3 * l + 0.793_617_785_0 * m - 0.004_072_046_8 * s,
        1.977_998_495_1 * l - 2.428_592_205_0 * m + 0.450_593_709_9 * s,
        0.025_904_037_1 * l + 0.782_771_766_2 * m - 0.808_675_766_0 * s,
    ]
}

fn from_lab(lab: &Lab) -> Colour {
    let [lightness, a, b] = *lab;
    let l = (lightness + 0.396_337_777_4 * a + 0.215_803_757_3 * b).powi(3);
    let m = (lightness - 0.105_561_345_8 * a - 0.063_854_172_8 * b).powi(3);
    let s = (lightness - 0.089_484_177_5 * a - 1.291_485_548_0 * b).powi(3);
    let linear = [
        4.076_741_662_1 * l - 3.307_711_591_3 * m + 0.230_969_929_2 * s,
        -1.268_438_004_6 * l + 2.609_757_401_1 * m - 0.341_319_396_5 * s,
        -0.004_196_086_3 * l - 0.703_418_614_7 * m + 1.707_614_701_0 * s,
    ];
    Colour(linear.map(|v: f64| {
        let v = if v <= 0.003_130_8 { 12.92 * v } else { 1.055 * v.max(0.0).powf(1.0 / 2.4) - 0.055 };
        (v.clamp(0.0, 1.0) * 255.0).round() as u8
    }))
}

/// Hues around the circle of Oklab, from red on, in steps of 30 degrees: things of a seaside fair.
const HUES: [&str; 12] = [
    "rosehip",
    "lantern",
    "ember",
    "straw",
    "marram",
    "kelp",
    "samphire",
    "bottle glass",
    "tide",
    "sky",
    "thistle",
    "heather",
];

/// A name after lightness, colourfulness and hue.
fn name(lab: &Lab) -> String {
    let (lightness, chroma) = (lab[0], lab[1].hypot(lab[2]));
    let name = if chroma < 0.03 {
        match lightness {
            l if l < 0.25 => "soot".into(),
            l if l < 0.45 => "slate".into(),
            l if l < 0.65 => "driftwood".into(),
            l if l < 0.85 => "ash".into(),
            _ => "chalk".into(),
        }
    } else {
        let turn = lab[2].atan2(lab[1]).to_degrees().rem_euclid(360.0);
        let hue = HUES[((turn + 15.0) / 30.0) as usize % 12];
        let depth = match lightness {
            l if l < 0.3 => "deep ",
            l if l < 0.48 => "dark ",
            l if l > 0.85 => "pale ",
            _ if chroma < 0.07 => "weathered ",
            _ => "",
        };
        format!("{depth}{hue}")
    };
    let mut letters = name.chars();
    letters.next().map_or(String::new(), |first| first.to_uppercase().chain(letters).collect())
}

/// No two inks of the same name.
fn number_twins(found: &mut [InkProposal]) {
    for k in 0..found.len() {
        let twins =
            found[..k].iter().filter(|p| p.name.trim_end_matches(char::is_numeric).trim_end() == found[k].name).count();
        if twins > 0 {
            found[k].name = format!("{} {}", found[k].name, twins + 1);
        }
    }
}
