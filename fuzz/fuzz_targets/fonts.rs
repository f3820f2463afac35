#![no_main]

use std::sync::Once;

static QUIET: Once = Once::new();

libfuzzer_sys::fuzz_target!(|bytes: &[u8]| {
    // a panic of the unpacker is caught and a refusal; one that is not caught still ends the fuzzer
    QUIET.call_once(|| std::panic::set_hook(Box::new(|_| {})));
    inky_trials::fonts(bytes);
});
