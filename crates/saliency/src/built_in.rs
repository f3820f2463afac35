//! The network in an engine that is compiled in, for machines without ONNX Runtime.

use crate::model::{LoadError, MODEL, SIDE};
use inky_core::cutout::Watch;
use rten::{Model, NodeId, Value};
use rten_tensor::NdTensor;
use rten_tensor::prelude::*;

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

pub struct BuiltIn {
    model: Model,
    stages: Vec<(NodeId, f32)>,
}

impl BuiltIn {
    pub fn load() -> Result<Self, LoadError> {
        let model = Model::load_static_slice(MODEL).map_err(|e| LoadError(e.to_string()))?;
        // a stage whose end is not known is one with the next
        let stages = STAGES.iter().filter_map(|(name, share)| Some((model.find_node(name)?, *share))).collect();
        Ok(Self { model, stages })
    }

    /// What stands out of a `1 x 3 x SIDE x SIDE` picture, row by row, in the network's own range. Stopped between two stages.
    pub fn run(&self, input: Vec<f32>, watch: &dyn Watch) -> Result<Vec<f32>, String> {
        let (Some(&first), Some(&output)) = (self.model.input_ids().first(), self.model.output_ids().first()) else {
            return Err("no input or no output".into());
        };
        let input = NdTensor::<f32, 4>::try_from_data([1, 3, SIDE, SIDE], input).map_err(|e| e.to_string())?;
        let mut known = vec![(first, Value::from(input))];
        for (end, done) in self.stages.iter().copied().chain([(output, 1.0)]) {
            watch.go_on().map_err(|_| "cancelled")?;
            let inputs = known.iter().map(|(id, value)| (*id, value.as_view().into())).collect();
            let [value] = self.model.run_n(inputs, [end], None).map_err(|e| e.to_string())?;
            known.push((end, value));
            watch.step(done, "");
        }
        let (_, output) = known.pop().ok_or("no output")?;
        let map: NdTensor<f32, 4> = output.try_into().map_err(|_| "unexpected output".to_owned())?;
        Ok(map.iter().take(SIDE * SIDE).copied().collect())
    }
}
