//! Where the pictures of a scene are found on this server.

use base64::{Engine, engine::general_purpose::STANDARD};
use inky_core::photo::{Perspective, Pull, levels};
use inky_core::scene::paper_sides;
use inky_core::scene::svg::{Levels, PictureLevels};
use inky_core::scene::tree::{PhotoSource, Source};
use inky_render::{Compression, encode_rgba};
use std::fmt::Display;

/// Addresses of pictures on this server.
pub(crate) struct Addresses;

impl PictureLevels for Addresses {
    fn levels(&self, source: &Source) -> Levels {
        match source {
            Source::Photo(photo) => of_photo("photos", photo),
            Source::Cutout(cutout) => of_photo("subjects", cutout),
            Source::Paper { grain } => {
                Levels { address: format!("/api/paper/{grain}/levels/*"), sides: paper_sides().collect() }
            }
            Source::Computed(computed) => {
                let png = encode_rgba(&computed.0, Compression::Fast).unwrap_or_default();
                let address = format!("data:image/png;base64,{}", STANDARD.encode(png));
                Levels { address, sides: vec![computed.0.width().max(computed.0.height())] }
            }
        }
    }
}

fn of_photo<Id: Display>(kind: &str, photo: &PhotoSource<Id>) -> Levels {
    let id = &photo.id;
    let address = match &photo.pull {
        None => format!("/api/{kind}/{id}/levels/*"),
        Some(pull) => {
            let shares: Vec<String> = pull.iter().flatten().map(|v| format!("{v:.5}")).collect();
            format!("/api/{kind}/{id}/pulled/*/{}", shares.join(","))
        }
    };
    Levels { address, sides: levels(photo.width, photo.height) }
}

/// The corners of an address; None where they make no picture.
pub(crate) fn pull_of(text: &str) -> Option<Pull> {
    let shares: Vec<f64> =
        text.split(',').map(|v| v.parse().ok().filter(|v: &f64| v.abs() <= 4.0)).collect::<Option<_>>()?;
    let pull = Pull::try_from(shares.chunks_exact(2).map(|c| [c[0], c[1]]).collect::<Vec<_>>()).ok()?;
    (shares.len() == 8 && Perspective::new(&pull).is_some()).then_some(pull)
}
