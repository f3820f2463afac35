//! Photos: reading them safely, standing them upright in sRGB, and making them smaller.
//!
//! A crate of its own because the codecs and filters take long to compile, and change seldom.

mod decode;
mod perspective;
mod resize;

pub use decode::{Decoded, PhotoError, decode, photo_pixels, read_photo};
pub use perspective::{Perspective, Pull, in_perspective};
pub use resize::{levels, resize};

/// A file may have so many bytes.
pub const BYTES: usize = 64 << 20;

/// A photo may have so many pixels.
pub const PIXELS: u64 = 100_000_000;
