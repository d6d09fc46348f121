//! The real interface in headless Chromium: runs the Playwright tests of `e2e/` and the front end's own.
use std::path::Path;
use std::process::Command;

fn npm(folder: &str, arguments: &[&str]) {
    let root = Path::new(env!("CARGO_MANIFEST_DIR")).join("../..");
    assert!(
        root.join("node_modules").exists(),
        "the front end's packages are not installed: run `make test`, or `npm ci` first"
    );
    let status = Command::new("npx")
        .args(arguments)
        .current_dir(root.join(folder))
        .env("WEDGE_BIN", env!("CARGO_BIN_EXE_wedge"))
        .env("CI", "true")
        .status()
        .expect("npx starts");
    assert!(status.success(), "npx {} in {folder}", arguments.join(" "));
}

#[test]
fn the_front_ends_own_tests_pass() {
    npm("web", &["vitest", "run"]);
}

#[test]
fn the_interface_works_in_a_browser() {
    npm("e2e", &["playwright", "test"]);
}
