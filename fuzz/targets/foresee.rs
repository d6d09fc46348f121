//! What the board asks at every key press: an answer or a refusal, whatever stands in it.
#![no_main]

use libfuzzer_sys::fuzz_target;

fuzz_target!(|body: &[u8]| {
    let _ = wedge_bench::foresee(body);
});
