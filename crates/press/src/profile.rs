//! A press as an ICC profile of the output class (ICC.1:2010).
//!
//! Its tables are of the type `mft2`. From inks to colours the dot gain is in the curves, and the grid has what is between them. From colours to inks
//! the grid is solved. All is relative to the paper; the perceptual tables bring black to the darkest that the press prints.

use crate::press::Model;
use crate::{Lab, Press, ProfileError, encoded};
use moxcms::{
    ColorProfile, DataColorSpace, LocalizableString, LutDataType, LutStore, LutType, LutWarehouse, Matrix3d,
    ProfileClass, ProfileText, RenderingIntent, Xyzd,
};
use rayon::prelude::*;
use std::collections::BTreeMap;
use std::sync::{LazyLock, Mutex};

/// Grid points on each axis: inks to colours.
const INK_GRID: usize = 9;
/// Grid points on each axis: colours to inks.
const COLOUR_GRID: usize = 17;
/// Entries of the curves that have the dot gain.
const CURVE: usize = 256;
/// The D50 white (ICC.1:2010, 7.2.16).
const D50: [f64; 3] = [0.9642, 1.0, 0.8249];
/// From this on a colour counts as one that cannot be printed; ΔE*ab.
const OUT_OF_GAMUT: f64 = 3.0;

static MADE: LazyLock<Mutex<BTreeMap<&'static str, Vec<u8>>>> = LazyLock::new(Mutex::default);

impl Press {
    /// The profile of this press, as the bytes of a file. It is computed once.
    ///
    /// # Errors
    /// A profile that cannot be written.
    pub fn profile(&self) -> Result<Vec<u8>, ProfileError> {
        let mut made = MADE.lock().unwrap_or_else(std::sync::PoisonError::into_inner);
        if let Some(bytes) = made.get(self.id) {
            return Ok(bytes.clone());
        }
        let bytes = encoded(&written(self))?;
        made.insert(self.id, bytes.clone());
        Ok(bytes)
    }
}

fn written(press: &Press) -> ColorProfile {
    let model = Model::of(press);
    let darkest = model.darkest().l;
    let paper = press.paper.shares();
    let [colorimetric, gamut] = from_colours(&model, |colour| colour);
    // perceptual: from black to the paper becomes from the darkest to the paper
    let [perceptual, _] =
        from_colours(&model, |colour| Lab { l: darkest + colour.l * (100.0 - darkest) / 100.0, ..colour });
    let to_colour = from_inks(&model, |colour| colour);
    let to_perceived =
        from_inks(&model, |colour| Lab { l: (colour.l - darkest) * 100.0 / (100.0 - darkest), ..colour });
    // some of its fields are its own
    let mut profile = ColorProfile::default();
    profile.profile_class = ProfileClass::OutputDevice;
    profile.color_space = DataColorSpace::Cmyk;
    profile.pcs = DataColorSpace::Lab;
    profile.rendering_intent = RenderingIntent::RelativeColorimetric;
    profile.white_point = Xyzd { x: D50[0], y: D50[1], z: D50[2] };
    profile.media_white_point = Some(Xyzd { x: D50[0] * paper[0], y: D50[1] * paper[1], z: D50[2] * paper[2] });
    profile.lut_a_to_b_perceptual = Some(to_perceived.clone());
    profile.lut_a_to_b_colorimetric = Some(to_colour);
    profile.lut_a_to_b_saturation = Some(to_perceived);
    profile.lut_b_to_a_perceptual = Some(perceptual.clone());
    profile.lut_b_to_a_colorimetric = Some(colorimetric);
    profile.lut_b_to_a_saturation = Some(perceptual);
    profile.gamut = Some(gamut);
    profile.description = Some(text(&format!("Inky Window press: {}", press.name)));
    profile.copyright = Some(text("CC0 1.0: no rights reserved"));
    profile
}

fn text(text: &str) -> ProfileText {
    ProfileText::Localizable(vec![LocalizableString::new("en".into(), "US".into(), text.into())])
}

/// A share as a number of 16 bits.
fn sixteen(share: f64) -> u16 {
    (share.clamp(0.0, 1.0) * 65_535.0).round() as u16
}

/// The curves of so many channels that change nothing.
fn straight(channels: usize) -> Vec<u16> {
    [0, u16::MAX].repeat(channels)
}

fn table(inputs: u8, outputs: u8, grid: usize, curves: Vec<u16>, clut: Vec<u16>) -> LutWarehouse {
    LutWarehouse::Lut(LutDataType {
        num_input_channels: inputs,
        num_output_channels: outputs,
        num_clut_grid_points: grid as u8,
        matrix: Matrix3d::IDENTITY,
        num_input_table_entries: (curves.len() / usize::from(inputs)) as u16,
        num_output_table_entries: 2,
        input_table: LutStore::Store16(curves),
        clut_table: LutStore::Store16(clut),
        output_table: LutStore::Store16(straight(outputs.into())),
        lut_type: LutType::Lut16,
    })
}

/// A colour as `mft2` has it, in version 4 as before: 0xff00 is 100, 0x8000 is 0 (ICC.1:2010, 10.10).
fn packed(colour: Lab) -> [u16; 3] {
    let of = |v: f64| v.round().clamp(0.0, 65_535.0) as u16;
    [of(colour.l * 652.8), of((colour.a + 128.0) * 256.0), of((colour.b + 128.0) * 256.0)]
}

/// The place of a grid point on each of so many axes, 0 to 1; the last axis runs fastest.
fn place<const AXES: usize>(mut index: usize, grid: usize) -> [f64; AXES] {
    let mut at = [0.0; AXES];
    for axis in (0..AXES).rev() {
        at[axis] = (index % grid) as f64 / (grid - 1) as f64;
        index /= grid;
    }
    at
}

fn from_inks(model: &Model<'_>, seen: impl Fn(Lab) -> Lab) -> LutWarehouse {
    let curve = |ink: usize| (0..CURVE).map(move |k| sixteen(model.press.grown(ink, k as f64 / (CURVE - 1) as f64)));
    let curves = (0..4).flat_map(curve).collect();
    let clut = (0..INK_GRID.pow(4)).flat_map(|index| packed(seen(model.covered(place(index, INK_GRID))))).collect();
    table(4, 3, INK_GRID, curves, clut)
}

/// The inks for all colours, and whether they can be printed.
fn from_colours(model: &Model<'_>, meant: impl Fn(Lab) -> Lab + Sync) -> [LutWarehouse; 2] {
    let solved: Vec<_> = (0..COLOUR_GRID.pow(3))
        .into_par_iter()
        .map(|index| {
            // the last grid point is 0xffff, a little over 100 and 127
            let [l, a, b] = place(index, COLOUR_GRID).map(|share: f64| share * 65_535.0);
            model.separated(meant(Lab::new(l / 652.8, a / 256.0 - 128.0, b / 256.0 - 128.0)))
        })
        .collect();
    let inks = solved.iter().flat_map(|s| s.inks.map(sixteen)).collect();
    let gamut = solved.iter().map(|s| sixteen((s.off - OUT_OF_GAMUT) / 100.0)).collect();
    [table(3, 4, COLOUR_GRID, straight(3), inks), table(3, 1, COLOUR_GRID, straight(3), gamut)]
}
