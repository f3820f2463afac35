//! What the fuzzer began with and what it found, tried again; and new random bytes. Longer: `fuzz/run`.

use inky_trials::TARGETS;
use peak_alloc::PeakAlloc;
use std::panic::{AssertUnwindSafe, catch_unwind};
use std::path::Path;

#[global_allocator]
static MEMORY: PeakAlloc = PeakAlloc;

/// Megabytes that an input may take.
const MOST: f32 = 2048.0;

fn tried(name: &str, target: fn(&[u8]), input: &str, bytes: &[u8]) {
    MEMORY.reset_peak_usage();
    let ended = catch_unwind(AssertUnwindSafe(|| target(bytes)));
    assert!(ended.is_ok(), "{name} panics on {input}");
    let peak = MEMORY.peak_usage_as_mb();
    assert!(peak < MOST, "{name} takes {peak} MB for {input}");
}

#[test]
fn known_inputs_end_well() {
    let corpus = Path::new(env!("CARGO_MANIFEST_DIR")).join("../../fuzz/corpus");
    for (name, target) in TARGETS {
        let files: Vec<_> = std::fs::read_dir(corpus.join(name)).unwrap().map(|f| f.unwrap().path()).collect();
        assert!(!files.is_empty(), "{name} has no corpus");
        for file in files {
            tried(name, target, &file.display().to_string(), &std::fs::read(&file).unwrap());
        }
    }
}

#[test]
fn random_inputs_end_well() {
    for (name, target) in TARGETS {
        for seed in 0..40 {
            let mut random = fastrand::Rng::with_seed(seed);
            let bytes: Vec<u8> = (0..random.usize(1..1500)).map(|_| random.u8(..)).collect();
            tried(name, target, &format!("seed {seed}"), &bytes);
        }
    }
}
