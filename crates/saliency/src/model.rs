//! The network as a file, and what both engines have to know of it.

/// U²-Net's small variant, in ONNX: takes `1 x 3 x SIDE x SIDE`, and gives `1 x 1 x SIDE x SIDE` first.
pub static MODEL: &[u8] = include_bytes!("../model/u2netp.onnx");

/// Side of the square that the network looks at, in pixels.
pub const SIDE: usize = 320;

/// The model could not be read.
#[derive(Debug, thiserror::Error)]
#[error("the subject network could not be loaded: {0}")]
pub struct LoadError(pub String);
