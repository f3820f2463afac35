//! The network that says which part of a picture stands out: U²-Net in its small variant, run in process.
//!
//! X. Qin et al., "U²-Net: Going Deeper with Nested U-Structure for Salient Object Detection" (Pattern Recognition, 2020);
//! model, notice and licence in `model/`.
//!
//! ONNX Runtime runs it where its library is there ([`library`]). Elsewhere an engine that is compiled in does ([`built_in`]), in two to three times the
//! time. What they see differs by less than one step of 8 bits.

mod built_in;
mod library;
mod model;

use built_in::BuiltIn;
use image::RgbaImage;
use inky_core::cutout::{Saliency, Stretch, Watch};
use inky_core::grid::Grid;
use inky_core::photo::resize;
use library::Library;
use model::SIDE;

pub use model::LoadError;

/// Mean and deviation of the pictures it was trained on, per channel.
const MEAN: [f32; 3] = [0.485, 0.456, 0.406];
const DEVIATION: [f32; 3] = [0.229, 0.224, 0.225];

/// The network, loaded once and shared.
pub struct Network(Engine);

enum Engine {
    Library(Library),
    BuiltIn(Box<BuiltIn>),
}

impl Network {
    /// Reads the network that ships with the program, into the fastest engine there is: some hundred milliseconds.
    ///
    /// # Errors
    /// A network that this version of the engine cannot read.
    pub fn load() -> Result<Self, LoadError> {
        match Library::load() {
            Some(library) => Ok(Self(Engine::Library(library))),
            None => Self::built_in(),
        }
    }

    /// Reads the network into the engine that is compiled in, whatever else is there.
    ///
    /// # Errors
    /// As [`Network::load`].
    pub fn built_in() -> Result<Self, LoadError> {
        Ok(Self(Engine::BuiltIn(Box::new(BuiltIn::load()?))))
    }

    /// What runs it, in a word.
    #[must_use]
    pub fn engine(&self) -> &'static str {
        match self.0 {
            Engine::Library(_) => "ONNX Runtime",
            Engine::BuiltIn(_) => "rten",
        }
    }
}

impl Network {
    /// What stands out of a picture in one look, `SIDE x SIDE`, stretched to 0..1.
    ///
    /// # Errors
    /// An engine that cannot run, or a cancelled watch, in a sentence.
    pub fn look(&self, picture: &RgbaImage, watch: &dyn Watch) -> Result<Grid<f32>, String> {
        self.seen(input_of(picture), true, watch)
    }

    fn seen(&self, input: Vec<f32>, last: bool, watch: &dyn Watch) -> Result<Grid<f32>, String> {
        let data = match &self.0 {
            Engine::Library(library) => library.run(input, last, watch),
            Engine::BuiltIn(built_in) => built_in.run(input, watch),
        }?;
        if data.len() != SIDE * SIDE {
            return Err("unexpected size of output".into());
        }
        let (low, high) = data.iter().fold((f32::MAX, f32::MIN), |(l, h), v| (l.min(*v), h.max(*v)));
        let span = (high - low).max(1e-6);
        Ok(Grid { width: SIDE, height: SIDE, data: data.into_iter().map(|v| (v - low) / span).collect() })
    }
}

impl Saliency for Network {
    /// The mean of a look at the picture and of one at its mirror image, which now and then sees something else altogether.
    fn saliency(&self, picture: &RgbaImage, watch: &dyn Watch) -> Result<Grid<f32>, String> {
        let mut input = input_of(picture);
        let mut seen = self.seen(input.clone(), false, &Stretch::begin(watch, (0.0, 0.5), ""))?;
        input.chunks_exact_mut(SIDE).for_each(<[f32]>::reverse);
        let mirrored = self.seen(input, true, &Stretch::begin(watch, (0.5, 1.0), ""))?;
        for (row, mirrored) in seen.data.chunks_exact_mut(SIDE).zip(mirrored.data.chunks_exact(SIDE)) {
            row.iter_mut().zip(mirrored.iter().rev()).for_each(|(a, b)| *a = (*a + b) / 2.0);
        }
        Ok(seen)
    }
}

/// The picture stretched to the network's square, channel by channel: `1 x 3 x SIDE x SIDE`.
fn input_of(picture: &RgbaImage) -> Vec<f32> {
    let square = resize(picture, SIDE as u32, SIDE as u32);
    let pixels = square.as_raw();
    let brightest = f32::from(pixels.chunks_exact(4).flat_map(|p| &p[..3]).copied().max().unwrap_or(1).max(1));
    let channel =
        |c: usize| pixels.chunks_exact(4).map(move |p| (f32::from(p[c]) / brightest - MEAN[c]) / DEVIATION[c]);
    (0..3).flat_map(channel).collect()
}
