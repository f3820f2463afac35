//! The network that says which part of a picture stands out: U²-Net in its small variant, run in process.
//!
//! X. Qin et al., "U²-Net: Going Deeper with Nested U-Structure for Salient Object Detection" (Pattern Recognition, 2020);
//! model, notice and licence in `model/`.

use image::RgbaImage;
use inky_core::cutout::Saliency;
use inky_core::grid::Grid;
use inky_core::photo::resize;
use rten::Model;
use rten_tensor::NdTensor;
use rten_tensor::prelude::*;

static MODEL: &[u8] = include_bytes!("../model/u2netp.onnx");

/// Side of the square that the network looks at, in pixels.
const SIDE: usize = 320;
/// Mean and deviation of the pictures it was trained on, per channel.
const MEAN: [f32; 3] = [0.485, 0.456, 0.406];
const DEVIATION: [f32; 3] = [0.229, 0.224, 0.225];

/// The network, loaded once and shared.
pub struct Network {
    model: Model,
}

/// The model could not be read.
#[derive(Debug, thiserror::Error)]
#[error("the subject network could not be loaded: {0}")]
pub struct LoadError(String);

impl Network {
    pub fn load() -> Result<Self, LoadError> {
        let model = Model::load_static_slice(MODEL).map_err(|e| LoadError(e.to_string()))?;
        Ok(Self { model })
    }
}

impl Saliency for Network {
    fn saliency(&self, picture: &RgbaImage) -> Result<Grid<f32>, String> {
        let input = input_of(picture);
        let output = self.model.run_one(input.view().into(), None).map_err(|e| e.to_string())?;
        let map: NdTensor<f32, 4> = output.try_into().map_err(|_| "unexpected output".to_owned())?;
        let data: Vec<f32> = map.iter().take(SIDE * SIDE).copied().collect();
        if data.len() != SIDE * SIDE {
            return Err("unexpected size of output".into());
        }
        let (low, high) = data.iter().fold((f32::MAX, f32::MIN), |(l, h), v| (l.min(*v), h.max(*v)));
        let span = (high - low).max(1e-6);
        Ok(Grid { width: SIDE, height: SIDE, data: data.into_iter().map(|v| (v - low) / span).collect() })
    }
}

/// The picture stretched to the network's square, `1 x 3 x SIDE x SIDE`.
fn input_of(picture: &RgbaImage) -> NdTensor<f32, 4> {
    let square = resize(picture, SIDE as u32, SIDE as u32);
    let pixels = square.as_raw();
    let brightest = f32::from(pixels.chunks_exact(4).flat_map(|p| &p[..3]).copied().max().unwrap_or(1).max(1));
    NdTensor::from_fn([1, 3, SIDE, SIDE], |[_, c, y, x]| {
        let value = f32::from(pixels[(y * SIDE + x) * 4 + c]) / brightest;
        (value - MEAN[c]) / DEVIATION[c]
    })
}
