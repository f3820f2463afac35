#![no_main]

libfuzzer_sys::fuzz_target!(|bytes: &[u8]| inky_trials::drawings(bytes));
