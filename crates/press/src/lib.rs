//! The simulated press: which colours four inks give on a paper, and which inks give a colour.
//!
//! A [`Press`] is a printing condition: paper, solids, dot gain and the most ink that the paper takes. Its colours are computed
//! ([`Press::printed`]), the way back is solved ([`Press::separated`]), and both are written as an ICC profile ([`Press::profile`]), so that other
//! programs see the same press.
//!
//! ```
//! use inky_press::{Lab, PRESSES};
//! let press = &PRESSES[0];
//! // no ink: the paper
//! assert!(press.printed([0.0; 4]).distance(Lab::new(100.0, 0.0, 0.0)) < 0.01);
//! // a colour that the press can print comes out as it was asked for
//! let wanted = Lab::new(60.0, 20.0, 30.0);
//! assert!(press.printed(press.separated(wanted).inks).distance(wanted) < 0.5);
//! ```

mod icc;
mod lab;
mod press;
mod presses;
mod profile;
mod separated;

pub use icc::{ProfileError, encoded};
pub use lab::Lab;
pub use press::{Inks, Press};
pub use presses::{PRESSES, press};
pub use separated::Separated;
