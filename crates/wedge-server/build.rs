//! Which commit a released binary was built from; a development build says that it is one.

use std::process::Command;

fn main() {
    println!("cargo:rerun-if-changed=build.rs");
    let released = std::env::var("PROFILE").is_ok_and(|profile| profile == "release");
    let commit = if released {
        println!("cargo:rerun-if-changed=../../.git/HEAD");
        println!("cargo:rerun-if-changed=../../.git/refs/heads");
        said(Command::new("git").args(["rev-parse", "--short=12", "HEAD"]))
    } else {
        Some("development build".to_owned())
    };
    let commit = commit.unwrap_or_else(|| "commit unknown".to_owned());
    println!("cargo:rustc-env=WEDGE_COMMIT={commit}");
}

fn said(command: &mut Command) -> Option<String> {
    let output = command
        .output()
        .ok()
        .filter(|output| output.status.success())?;
    Some(String::from_utf8(output.stdout).ok()?.trim().to_owned())
}
