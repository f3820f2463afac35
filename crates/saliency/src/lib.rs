//! The network that says which part of a picture stands out: U²-Net in its small variant, run in process.
//!
//! X. Qin et al., "U²-Net: Going Deeper with Nested U-Structure for Salient Object Detection" (Pattern Recognition, 2020);
//! model, notice and licence in `model/`.

use image::RgbaImage;
use inky_core::cutout::{Saliency, Watch};
use inky_core::grid::Grid;
use inky_core::photo::resize;
use rten::{Model, NodeId, Value};
use rten_tensor::NdTensor;
use rten_tensor::prelude::*;

static MODEL: &[u8] = include_bytes!("../model/u2netp.onnx");

/// Side of the square that the network looks at, in pixels.
const SIDE: usize = 320;
/// Mean and deviation of the pictures it was trained on, per channel.
const MEAN: [f32; 3] = [0.485, 0.456, 0.406];
const DEVIATION: [f32; 3] = [0.229, 0.224, 0.225];

/// The values at which the stages of the network end, and the share of its time that is past then: the six that look ever more coarsely, and those
/// that come back from there.
const STAGES: [(&str, f32); 11] = [
    ("947", 0.29),
    ("1070", 0.36),
    ("1166", 0.37),
    ("1235", 0.38),
    ("1264", 0.385),
    ("1293", 0.39),
    ("1341", 0.395),
    ("1429", 0.4),
    ("1544", 0.43),
    ("1686", 0.51),
    ("1855", 0.94),
];

/// The network, loaded once and shared.
pub struct Network {
    model: Model,
    stages: Vec<(NodeId, f32)>,
}

/// The model could not be read.
#[derive(Debug, thiserror::Error)]
#[error("the subject network could not be loaded: {0}")]
pub struct LoadError(String);

impl Network {
    /// Reads the network that ships with the program: some hundred milliseconds.
    ///
    /// # Errors
    /// A network that this version of the engine cannot read.
    pub fn load() -> Result<Self, LoadError> {
        let model = Model::load_static_slice(MODEL).map_err(|e| LoadError(e.to_string()))?;
        // a stage whose end is not known is one with the next
        let stages = STAGES.iter().filter_map(|(name, share)| Some((model.find_node(name)?, *share))).collect();
        Ok(Self { model, stages })
    }
}

impl Saliency for Network {
    fn saliency(&self, picture: &RgbaImage, watch: &dyn Watch) -> Result<Grid<f32>, String> {
        let (Some(&input), Some(&output)) = (self.model.input_ids().first(), self.model.output_ids().first()) else {
            return Err("no input or no output".into());
        };
        let mut known = vec![(input, Value::from(input_of(picture)))];
        for (end, done) in self.stages.iter().copied().chain([(output, 1.0)]) {
            watch.go_on().map_err(|_| "cancelled")?;
            let inputs = known.iter().map(|(id, value)| (*id, value.as_view().into())).collect();
            let [value] = self.model.run_n(inputs, [end], None).map_err(|e| e.to_string())?;
            known.push((end, value));
            watch.step(done, "");
        }
        let (_, output) = known.pop().ok_or("no output")?;
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
