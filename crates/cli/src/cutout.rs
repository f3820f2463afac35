//! `inky cutout`: the subject of a photo file.

use anyhow::{Context, Result, anyhow, bail};
use clap::Args;
use inky_core::cutout::{Hints, PhotoBox, Watch, find_subject};
use inky_core::photo::decode;
use inky_saliency::Network;
use std::path::PathBuf;
use std::sync::{Mutex, PoisonError};
use std::time::Instant;

#[derive(Args)]
pub struct Cutout {
    /// PNG, JPEG, WebP or TIFF.
    photo: PathBuf,
    /// A box around the subject, as x,y,w,h in pixels of the upright photo.
    #[arg(long = "box", value_parser = parse_box)]
    within: Option<PhotoBox>,
    /// A JSON file of hints: box, strokes, contours, paint, edge, as sheet files hold them.
    #[arg(long, conflicts_with = "within")]
    hints: Option<PathBuf>,
    /// Folder for matte.png and cutout.png.
    #[arg(long)]
    out: PathBuf,
}

fn parse_box(text: &str) -> Result<PhotoBox> {
    let numbers: Vec<f64> = text.split(',').map(|v| v.trim().parse::<f64>()).collect::<Result<_, _>>()?;
    let [x, y, width, height] = numbers[..] else { bail!("a box is four numbers: x,y,w,h") };
    if numbers.iter().any(|v| !v.is_finite()) {
        bail!("a box is four finite numbers");
    }
    Ok(PhotoBox { x, y, width, height })
}

/// Says on standard error what is being done, and since when.
struct Spoken {
    began: Instant,
    last: Mutex<(f32, &'static str)>,
}

/// The least share of the work between two lines about the same step.
const LINE: f32 = 0.05;

impl Watch for Spoken {
    fn step(&self, done: f32, what: &'static str) {
        let mut last = self.last.lock().unwrap_or_else(PoisonError::into_inner);
        if what != last.1 || done - last.0 >= LINE || done >= 1.0 {
            *last = (done, what);
            eprintln!("{:>5} ms  {:>3.0}%  {what}", self.began.elapsed().as_millis(), done * 100.0);
        }
    }

    fn is_cancelled(&self) -> bool {
        false
    }
}

impl Cutout {
    pub fn run(self) -> Result<()> {
        let bytes = std::fs::read(&self.photo).with_context(|| format!("{} cannot be read", self.photo.display()))?;
        let photo = decode(&bytes)?;
        let hints = match &self.hints {
            Some(file) => {
                let text = std::fs::read(file).with_context(|| format!("{} cannot be read", file.display()))?;
                serde_json::from_slice(&text).with_context(|| format!("{} holds no hints", file.display()))?
            }
            None => Hints::within(self.within),
        };
        let network = Network::load()?;
        let began = Instant::now();
        let subject = find_subject(&photo, &hints, &network, &Spoken { began, last: Mutex::default() })?;
        let milliseconds = began.elapsed().as_millis();
        std::fs::create_dir_all(&self.out).with_context(|| format!("{} cannot be made", self.out.display()))?;
        let write = |name: &str, bytes: Option<Vec<u8>>| -> Result<()> {
            let path = self.out.join(name);
            let bytes = bytes.ok_or_else(|| anyhow!("{name} could not be encoded"))?;
            std::fs::write(&path, bytes).with_context(|| format!("{} cannot be written", path.display()))
        };
        write("matte.png", inky_server::gray_png(&subject.matte))?;
        let cutout = inky_render::encode_rgba(&subject.cutout, inky_render::Compression::Fast)?;
        write("cutout.png", Some(cutout))?;
        let (width, height) = photo.dimensions();
        println!("{}", serde_json::json!({ "width": width, "height": height, "milliseconds": milliseconds }));
        Ok(())
    }
}
