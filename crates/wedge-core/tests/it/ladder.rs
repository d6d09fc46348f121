//! The rooms of the core are the steps of one ladder: no room imports one above it.

use std::collections::BTreeSet;
use std::fs;
use std::path::{Path, PathBuf};

/// The rooms from the ground up. Rooms of one line do not know of one another.
const LADDER: &[&[&str]] = &[
    &["units"],
    &["plane"],
    &["words"],
    &["rule"],
    &["measure"],
    &["intake", "looking"],
    &["bike"],
    &["work"],
    &["rider"],
    &["capture"],
    &["film"],
    &["position"],
    &["foresee"],
    &["solve"],
    &["limit"],
    &["kinds"],
    &["trial"],
    &["school"],
    &["judge"],
    &["between", "next"],
    &["handout", "example", "rulebook"],
];

fn step_of(room: &str) -> Option<usize> {
    LADDER.iter().position(|step| step.contains(&room))
}

fn source() -> PathBuf {
    Path::new(env!("CARGO_MANIFEST_DIR")).join("src")
}

/// Every source file below a folder, by its path from `src`.
fn files(folder: &Path) -> Vec<PathBuf> {
    let mut all = Vec::new();
    for entry in fs::read_dir(folder).unwrap() {
        let path = entry.unwrap().path();
        if path.is_dir() {
            all.extend(files(&path));
        } else if path.extension().is_some_and(|e| e == "rs") {
            all.push(path);
        }
    }
    all.sort();
    all
}

/// The room a file belongs to.
fn room_of(file: &Path) -> String {
    let first = file.strip_prefix(source()).unwrap().iter().next().unwrap();
    first.to_str().unwrap().trim_end_matches(".rs").to_owned()
}

/// What a file itself says: no comments, and nothing of its tests, which may look anywhere.
fn said(text: &str) -> String {
    let own = text.split("#[cfg(test)]").next().unwrap_or_default();
    own.lines()
        .filter(|line| !line.trim_start().starts_with("//"))
        .collect::<Vec<_>>()
        .join("\n")
}

/// Every room a file names, with the item it wants of it: `crate::room::item`, and `use crate::{room, …}`. `super::` leads
/// out of a room only from the files of the ground floor and from the rooms' first pages.
fn wants(text: &str, first_page: bool) -> BTreeSet<(String, String)> {
    let mut all = BTreeSet::new();
    let mut roots = vec!["crate::"];
    if first_page {
        roots.push("super::");
    }
    for root in roots {
        for (at, _) in text.match_indices(root) {
            let rest = &text[at + root.len()..];
            let word = |text: &str| -> String {
                text.chars()
                    .take_while(|c| c.is_alphanumeric() || *c == '_')
                    .collect()
            };
            if let Some(list) = rest.strip_prefix('{') {
                let list = list.split('}').next().unwrap_or_default();
                all.extend(
                    list.split(',')
                        .map(|room| (word(room.trim()), String::new())),
                );
            } else {
                let room = word(rest);
                let item = rest[room.len()..].trim_start_matches("::");
                all.insert((room, word(item.trim_start_matches('{').trim_start())));
            }
        }
    }
    all
}

/// The file of a room that defines an item, as far as that can be told.
fn home_of(room: &str, item: &str) -> String {
    let defines = |text: &str| {
        [
            "struct",
            "enum",
            "fn",
            "trait",
            "const",
            "type",
            "macro_rules!",
        ]
        .iter()
        .any(|kind| text.contains(&format!("{kind} {item}")))
    };
    let file = files(&source())
        .into_iter()
        .find(|file| room_of(file) == room && defines(&fs::read_to_string(file).unwrap()));
    file.map_or_else(
        || format!("{room}/"),
        |file| file.strip_prefix(source()).unwrap().display().to_string(),
    )
}

#[test]
fn every_room_has_its_step() {
    let rooms: BTreeSet<String> = files(&source()).iter().map(|file| room_of(file)).collect();
    let known: BTreeSet<String> = LADDER
        .iter()
        .flat_map(|step| step.iter())
        .map(|room| (*room).to_owned())
        .chain(["lib".to_owned()])
        .collect();
    assert_eq!(rooms, known);
}

#[test]
fn no_room_imports_one_above_it() {
    let mut upward = Vec::new();
    for file in files(&source()) {
        let room = room_of(&file);
        let Some(step) = step_of(&room) else {
            continue;
        };
        let text = said(&fs::read_to_string(&file).unwrap());
        let first_page = file.parent() == Some(&source()) || file.ends_with("mod.rs");
        for (wanted, item) in wants(&text, first_page) {
            let above = step_of(&wanted).is_some_and(|other| other > step)
                || (step_of(&wanted) == Some(step) && wanted != room);
            if above {
                upward.push(format!(
                    "{} imports {}",
                    file.strip_prefix(source()).unwrap().display(),
                    home_of(&wanted, &item)
                ));
            }
        }
    }
    assert!(upward.is_empty(), "up the ladder:\n{}", upward.join("\n"));
}

#[test]
fn an_import_up_the_ladder_is_seen() {
    let text = "//! crate::judge::causes\nuse crate::foresee::{Change, foresee};\nlet a = crate::rider::Rider::new();\n#[cfg(test)]\nuse crate::example;";
    let wants = wants(&said(text), false);
    let rooms: Vec<&str> = wants.iter().map(|(room, _)| room.as_str()).collect();
    assert_eq!(rooms, ["foresee", "rider"]);
    assert_eq!(home_of("foresee", "ForeseeInput"), "foresee/input.rs");
    assert!(step_of("foresee") > step_of("rider"));
}
