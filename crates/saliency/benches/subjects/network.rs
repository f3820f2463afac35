//! One look of the network beside onnxruntime, in the same run (`pip install onnxruntime`).

use image::RgbaImage;
use inky_core::cutout::{Saliency, Unwatched};
use inky_core::photo::resize;
use inky_saliency::Network;
use std::path::Path;
use std::process::Command;
use std::time::Instant;

/// Side of the square that the network looks at, in pixels.
const SIDE: u32 = 320;
/// Looks in one go; theirs are between two of ours, as machines change their pace.
const LOOKS: usize = 4;

/// Prints the time of one look as a share of theirs, and how much what is seen differs.
pub fn compare(photo: &RgbaImage, network: &Network) {
    let has = Command::new("python3").args(["-c", "import onnxruntime"]).output();
    if !has.is_ok_and(|o| o.status.success()) {
        println!("\nno peer for the network: pip install onnxruntime");
        return;
    }
    let picture = resize(photo, SIDE, SIDE);
    let looks = || {
        let seconds = (0..LOOKS).map(|_| {
            let start = Instant::now();
            network.saliency(&picture, &Unwatched).expect("what stands out");
            // two looks
            start.elapsed().as_secs_f64() / 2.0
        });
        seconds.fold(f64::INFINITY, f64::min)
    };
    let here = Path::new(env!("CARGO_MANIFEST_DIR"));
    let [given, seen] =
        ["given", "seen"].map(|kind| std::env::temp_dir().join(format!("inky-network-{}.{kind}", std::process::id())));
    let colours: Vec<u8> = picture.pixels().flat_map(|p| [p.0[0], p.0[1], p.0[2]]).collect();
    std::fs::write(&given, colours).expect("a temporary file");
    let before = looks();
    let said = Command::new("python3")
        .args([here.join("benches/subjects/network.py"), here.join("model/u2netp.onnx"), given.clone(), seen.clone()])
        .output()
        .expect("python3");
    assert!(said.status.success(), "{}", String::from_utf8_lossy(&said.stderr));
    let theirs: f64 = String::from_utf8_lossy(&said.stdout).trim().parse().expect("seconds");
    let ours = before.min(looks());
    let own = network.look(&picture, &Unwatched).expect("what stands out");
    let bytes = std::fs::read(&seen).expect("what they saw");
    let differences =
        bytes.chunks_exact(4).zip(&own.data).map(|(b, v)| (f32::from_le_bytes([b[0], b[1], b[2], b[3]]) - v).abs());
    let most = differences.fold(0.0, f32::max);
    println!(
        "\none look of the network: {:.0} ms, {:.0} in onnxruntime, {:.2} times that; what is seen differs by {most:.5} at most",
        1e3 * ours,
        1e3 * theirs,
        ours / theirs
    );
    for file in [given, seen] {
        let _ = std::fs::remove_file(file);
    }
}
