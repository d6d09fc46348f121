//! The `wedge` command as people type it.
#![allow(clippy::unwrap_used)]

mod support;

use std::process::{Command, Output};
use support::{Server, data};

fn wedge(arguments: &[&str]) -> Output {
    Command::new(env!("CARGO_BIN_EXE_wedge"))
        .args(arguments)
        .output()
        .unwrap()
}

fn said(output: &Output) -> String {
    String::from_utf8_lossy(&output.stderr).into_owned()
}

#[test]
fn the_demo_never_throws_away_a_file_somebody_named() {
    let (_folder, file) = data();
    std::fs::write(&file, "a studio's record").unwrap();
    let refused = wedge(&["demo", "--port", "0", "--data", file.to_str().unwrap()]);
    assert_eq!(refused.status.code(), Some(1));
    assert!(
        said(&refused).contains("is there already"),
        "{}",
        said(&refused)
    );
    assert_eq!(std::fs::read_to_string(&file).unwrap(), "a studio's record");
}

#[test]
fn a_taken_port_is_said_before_any_file_is_touched() {
    let (_folder, file) = data();
    let server = Server::start(&file);
    let port = server.url.rsplit(':').next().unwrap().to_owned();
    let (_other_folder, other) = data();
    let refused = wedge(&["serve", "--port", &port, "--data", other.to_str().unwrap()]);
    assert_eq!(refused.status.code(), Some(1));
    assert!(
        said(&refused).contains("choose another with --port"),
        "{}",
        said(&refused)
    );
    assert!(!other.exists());
}

#[test]
fn a_file_that_cannot_be_a_record_is_refused_and_kept() {
    let (_folder, file) = data();
    std::fs::write(&file, "not a database, but somebody's words".repeat(40)).unwrap();
    let refused = wedge(&["serve", "--port", "0", "--data", file.to_str().unwrap()]);
    assert_eq!(refused.status.code(), Some(1));
    assert!(
        std::fs::read_to_string(&file)
            .unwrap()
            .starts_with("not a database")
    );
}

#[test]
fn help_names_the_commands() {
    let help = wedge(&["--help"]);
    let text = String::from_utf8_lossy(&help.stdout).into_owned();
    for command in ["serve", "demo", "openapi"] {
        assert!(text.contains(command), "{text}");
    }
    assert_eq!(wedge(&["fly"]).status.code(), Some(2));
}
