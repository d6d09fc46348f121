//! The front end is embedded from `web/dist`. On a fresh clone that folder is not there yet; a page that says so
//! stands in until `make` has built it. And a released binary says which commit it was built from.

use std::path::Path;
use std::process::Command;
use std::{fs, io};

fn main() -> io::Result<()> {
    let dist = Path::new("../../web/dist");
    if !dist.join("index.html").exists() {
        fs::create_dir_all(dist)?;
        fs::write(
            dist.join("index.html"),
            "<!doctype html><title>Wedge</title><p>The front end is not built yet: run <code>make web</code>.</p>\n",
        )?;
    }
    println!("cargo::rerun-if-changed=../../web/dist");
    println!("cargo::rerun-if-changed=../../demo");
    println!("cargo::rustc-env=WEDGE_COMMIT={}", commit());
    Ok(())
}

/// The commit of a release. A development build only says that it is one: a commit must not build it anew.
fn commit() -> String {
    if !std::env::var("PROFILE").is_ok_and(|profile| profile == "release") {
        return "development build".to_owned();
    }
    println!("cargo::rerun-if-changed=../../.git/HEAD");
    println!("cargo::rerun-if-changed=../../.git/refs/heads");
    let said = Command::new("git")
        .args(["rev-parse", "--short=12", "HEAD"])
        .output();
    said.ok()
        .filter(|output| output.status.success())
        .and_then(|output| String::from_utf8(output.stdout).ok())
        .map_or_else(
            || "commit unknown".to_owned(),
            |said| said.trim().to_owned(),
        )
}
