//! The front end is embedded from `web/dist`. On a fresh clone that folder is not there yet; a page that says so
//! stands in until `make` has built it.

use std::path::Path;
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
    Ok(())
}
