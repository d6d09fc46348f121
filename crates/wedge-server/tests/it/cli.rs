//! The `wedge` command as people type it.
use crate::support::{Server, data, session};
use reqwest::StatusCode;
use serde_json::Value;
use std::io::Write;
use std::process::{Command, Output, Stdio};
use wedge_server::schema::{Format, json_schema};

fn wedge(arguments: &[&str]) -> Output {
    Command::new(env!("CARGO_BIN_EXE_wedge"))
        .args(arguments)
        .output()
        .unwrap()
}

/// Runs it with `text` on standard input.
fn wedge_on(text: &str, arguments: &[&str]) -> Output {
    let mut child = Command::new(env!("CARGO_BIN_EXE_wedge"))
        .args(arguments)
        .stdin(Stdio::piped())
        .stdout(Stdio::piped())
        .stderr(Stdio::piped())
        .spawn()
        .unwrap();
    // One that refuses its arguments does not read to the end.
    let _ = child.stdin.take().unwrap().write_all(text.as_bytes());
    child.wait_with_output().unwrap()
}

fn out(output: &Output) -> String {
    assert_eq!(output.status.code(), Some(0), "{}", said(output));
    String::from_utf8(output.stdout.clone()).unwrap()
}

fn json(output: &Output) -> Value {
    serde_json::from_str(&out(output)).unwrap()
}

fn said(output: &Output) -> String {
    String::from_utf8_lossy(&output.stderr).into_owned()
}

#[test]
fn the_version_says_commit_and_schema() {
    let said = Command::new(env!("CARGO_BIN_EXE_wedge"))
        .arg("--version")
        .output()
        .unwrap();
    let said = String::from_utf8(said.stdout).unwrap();
    let schema = wedge_store::Store::schema();
    assert!(schema >= 10);
    assert!(
        said.trim_end().ends_with(&format!("), schema {schema}")),
        "{said}"
    );
    let page = Command::new(env!("CARGO_BIN_EXE_wedge"))
        .arg("man")
        .output()
        .unwrap();
    assert!(String::from_utf8_lossy(&page.stdout).contains(".TH wedge 1"));
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
    for command in [
        "serve",
        "demo",
        "foresee",
        "schema",
        "export",
        "import",
        "backup",
        "completions",
        "openapi",
    ] {
        assert!(text.contains(command), "{text}");
        let own = out(&wedge(&[command, "--help"]));
        assert!(own.contains("Usage: wedge"), "{own}");
    }
    assert_eq!(wedge(&["fly"]).status.code(), Some(2));
}

#[test]
fn every_example_is_accepted_back_with_all_outputs_and_their_bands() {
    for kind in ["road", "time-trial", "flat-bar", "gravel"] {
        let example = out(&wedge(&["foresee", "--example", kind]));
        let answer = json(&wedge_on(&example, &["foresee", "-"]));
        let rows = answer["rows"].as_array().unwrap();
        assert!(rows.len() > 30, "{kind}: {} outputs", rows.len());
        for row in rows {
            assert!(
                row["band"].as_f64().is_some_and(|band| band >= 0.0),
                "{kind}: {row}"
            );
            assert_eq!(row["before"], row["after"]);
        }
    }
    assert_eq!(
        out(&wedge(&["foresee", "--example"])),
        out(&wedge(&["foresee", "--example", "road"]))
    );
}

#[test]
fn changes_are_foreseen_for_scripts_and_for_people() {
    let example = out(&wedge(&["foresee", "--example"]));
    let changes = ["--change", "saddle_height=-6", "--change", "shim.left=3"];
    let answer = json(&wedge_on(
        &example,
        &[&["foresee", "-"], &changes[..]].concat(),
    ));
    assert_eq!(answer["title"], "Saddle down 6, left shim 3");
    let knee = answer["rows"]
        .as_array()
        .unwrap()
        .iter()
        .find(|row| row["output"] == "knee_at_full_reach_deg" && row["side"] == "right")
        .unwrap()
        .clone();
    let (change, spread) = (
        knee["change"].as_f64().unwrap(),
        knee["spread"].as_f64().unwrap(),
    );
    assert!(change > 1.5 && change < 3.0, "{knee}");
    assert!(spread < knee["band"].as_f64().unwrap(), "{knee}");

    let table = out(&wedge_on(
        &example,
        &["foresee", "-", "--table", "-c", "stem=90"],
    ));
    assert!(table.starts_with("Stem 90\n"), "{table}");
    assert!(table.contains("Torso"), "{table}");
    assert!(
        table.lines().all(|line| line.chars().count() < 200),
        "{table}"
    );

    let turned = json(&wedge_on(&example, &["foresee", "-", "--rotate", "-2.5"]));
    assert_eq!(turned["by_deg"], -2.5);
}

#[test]
fn changes_are_read_as_they_are_typed() {
    let example = out(&wedge(&["foresee", "--example"]));
    for (typed, title) in [
        ("saddle_height=-6", "Saddle down 6"),
        ("saddle_height=−6", "Saddle down 6"),
        ("saddle_height_mm=+6", "Saddle up 6"),
        ("crank=165", "Crank 165"),
        ("stem_angle=to:-17", "Stem angle −17°"),
        ("shim.left=3", "Left shim 3"),
    ] {
        let answer = json(&wedge_on(&example, &["foresee", "-", "-c", typed]));
        assert_eq!(answer["title"], title, "{typed}");
    }
    for typed in [
        "saddle_height",
        "saddle_hight=5",
        "shim.top=3",
        "crank=long",
        "crank=inf",
    ] {
        let refused = wedge_on(&example, &["foresee", "-", "-c", typed]);
        assert_ne!(refused.status.code(), Some(0), "{typed}");
        assert!(!said(&refused).is_empty(), "{typed}");
    }
}

#[test]
fn a_file_is_read_as_programs_write_it_and_never_half() {
    let example = out(&wedge(&["foresee", "--example"]));
    let marked = format!("\u{feff}{example}");
    assert_eq!(
        json(&wedge_on(&marked, &["foresee", "-"])),
        json(&wedge_on(&example, &["foresee", "-"]))
    );
    let twice = example.replacen(
        "\"stature_mm\"",
        "\"stature_mm\": 1700.0, \"stature_mm\"",
        1,
    );
    let refused = wedge_on(&twice, &["foresee", "-"]);
    assert_eq!(refused.status.code(), Some(1));
    assert!(
        said(&refused).contains("`stature_mm` is given twice"),
        "{}",
        said(&refused)
    );
}

#[test]
fn what_a_fitter_must_insist_on_is_said() {
    let example = out(&wedge(&["foresee", "--example"]));
    let table = out(&wedge_on(
        &example,
        &["foresee", "-", "--table", "-c", "crank=150"],
    ));
    assert!(table.lines().any(|line| line.starts_with("! ")), "{table}");
    let drop = wedge_on(&example, &["foresee", "-", "-c", "drop=80"]);
    assert!(said(&drop).contains("spacers"), "{}", said(&drop));
}

#[test]
fn what_cannot_be_foreseen_is_said_where_it_stands() {
    let example = out(&wedge(&["foresee", "--example"]));
    let cases: [(&str, &[&str], i32, &str); 8] = [
        (
            &example,
            &["foresee", "-", "-c", "saddle_hight=5"],
            1,
            "there is no saddle_hight",
        ),
        (
            &example,
            &["foresee", "-", "-c", "crank=900"],
            1,
            "--change crank=900: Crank of 900 mm",
        ),
        (
            &example,
            &["foresee", "-", "-c", "pad_tilt=+2"],
            1,
            "This bike has no pad tilt",
        ),
        (
            &example,
            &["foresee", "-", "-c", "stature=1800"],
            1,
            "Stature is measured, not changed",
        ),
        (
            "{",
            &["foresee", "-"],
            1,
            "- is refused: .: EOF while parsing",
        ),
        (
            "{}",
            &["foresee", "-"],
            1,
            "format: a file of Wedge says its format here",
        ),
        (
            "",
            &["foresee", "nowhere.json"],
            1,
            "cannot read nowhere.json",
        ),
        ("", &["foresee"], 2, "required"),
    ];
    for (text, arguments, code, words) in cases {
        let output = wedge_on(text, arguments);
        assert_eq!(
            output.status.code(),
            Some(code),
            "{arguments:?}: {}",
            said(&output)
        );
        assert!(
            said(&output).contains(words),
            "{arguments:?}: {}",
            said(&output)
        );
        assert!(output.stdout.is_empty());
    }
    let bent = example.replace("\"head_angle_deg\": 73.0", "\"head_angle_deg\": 12.0");
    let output = wedge_on(&bent, &["foresee", "-"]);
    assert!(
        said(&output).contains("position.frame.head_angle_deg: Head angle of 12°"),
        "{}",
        said(&output)
    );
    let typo = example.replace("\"stem_mm\"", "\"stemm_mm\"");
    let output = wedge_on(&typo, &["foresee", "-"]);
    assert!(
        said(&output).contains("position.setup.cockpit"),
        "{}",
        said(&output)
    );
}

#[test]
fn the_published_schemas_are_the_ones_the_types_have() {
    for format in Format::ALL {
        let file = format!(
            "{}/../../docs/schemas/{}",
            env!("CARGO_MANIFEST_DIR"),
            format.file_name()
        );
        let published = std::fs::read_to_string(&file).unwrap_or_default();
        assert!(
            published == json_schema(format).unwrap(),
            "{file} is not what the types have: run `make api` and commit what it writes"
        );
    }
}

#[tokio::test]
async fn a_studio_goes_out_and_in_while_wedge_is_open() {
    let (folder, file) = data();
    let server = Server::start(&file);
    let view = session(&server).await;
    let name = view["rider"]["name"].as_str().unwrap();
    let place = |name: &str| folder.path().join(name).to_str().unwrap().to_owned();
    let at = file.to_str().unwrap();

    let one = out(&wedge(&["export", name, "--data", at]));
    let studio = place("studio.json");
    out(&wedge(&["export", "-o", &studio, "--data", at]));
    assert_eq!(
        serde_json::from_str::<Value>(&one).unwrap()["rider"],
        serde_json::from_str::<Value>(&std::fs::read_to_string(&studio).unwrap()).unwrap()["riders"]
            [0]
    );
    // It never writes over a file, nor takes in what is on record; a copy it takes.
    let again = wedge(&["export", "-o", &studio, "--data", at]);
    assert_eq!(again.status.code(), Some(1), "{}", said(&again));
    let conflict = wedge(&["import", &studio, "--data", at]);
    assert_eq!(conflict.status.code(), Some(1));
    assert!(
        said(&conflict).contains("on record already"),
        "{}",
        said(&conflict)
    );
    assert!(said(&conflict).contains(name), "{}", said(&conflict));
    let taken = out(&wedge(&["import", &studio, "--as-copy", "--data", at]));
    assert!(taken.contains(name), "{taken}");
    assert_eq!(server.get("/api/riders").await.as_array().unwrap().len(), 2);
    let twice = wedge(&["export", name, "--data", at]);
    assert!(
        said(&twice).contains("several riders are called"),
        "{}",
        said(&twice)
    );

    // A broken file names the path, and nothing of it is kept.
    let mut broken: Value = serde_json::from_str(&one).unwrap();
    broken["rider"]["bikes"][0]["frame"]["chainstay_mm"] = 4.into();
    let refused = wedge_on(
        &broken.to_string(),
        &["import", "-", "--as-copy", "--data", at],
    );
    assert_eq!(refused.status.code(), Some(1));
    assert!(
        said(&refused).contains("rider.bikes[0].frame.chainstay_mm"),
        "{}",
        said(&refused)
    );
    assert_eq!(server.get("/api/riders").await.as_array().unwrap().len(), 2);

    // A backup is a record of its own, taken while the server writes.
    let copy = place("copy.sqlite");
    out(&wedge(&["backup", &copy, "--data", at]));
    let second = wedge(&["backup", &copy, "--data", at]);
    assert!(
        said(&second).contains("is there already"),
        "{}",
        said(&second)
    );
    let (status, _) = server
        .post(
            "/api/riders",
            None,
            &serde_json::json!({"id": crate::support::id(), "name": "Later", "stature_mm": 1700}),
        )
        .await;
    assert_eq!(status, StatusCode::OK);
    let other = Server::start(std::path::Path::new(&copy));
    assert_eq!(other.get("/api/riders").await.as_array().unwrap().len(), 2);

    let nowhere = wedge(&["export", "--data", &place("none.sqlite")]);
    assert!(
        said(&nowhere).contains("there is no record at"),
        "{}",
        said(&nowhere)
    );
    assert!(!folder.path().join("none.sqlite").exists());
}

#[test]
fn completions_name_the_commands() {
    for shell in ["bash", "zsh", "fish"] {
        let script = out(&wedge(&["completions", shell]));
        assert!(
            script.contains("foresee") && script.contains("as-copy"),
            "{shell}"
        );
    }
}

#[test]
fn cases_are_judged_in_json_in_words_and_against_what_they_expect() {
    let file = concat!(
        env!("CARGO_MANIFEST_DIR"),
        "/../wedge-core/tests/it/cases/open.json"
    );
    let checked = out(&wedge(&["judge", file, "--check"]));
    assert_eq!(checked.lines().last(), Some("40 of 40"));
    let one = r#"{ "id": "x", "title": "Too high", "evidence": [
        { "kind": "angle", "output": "knee", "value": 28 }, { "kind": "seen", "what": "hips_rock" }],
        "expect": { "faults_first": ["height:low"] } }"#;
    let judged = json(&wedge_on(one, &["judge", "-"]));
    assert_eq!(judged[0]["faults"][0]["fault"], "height:high");
    let height = &judged[0]["axes"][0];
    assert!(
        height["witnesses"]
            .as_array()
            .unwrap()
            .iter()
            .any(|w| w["name"] == "hips rock"),
        "{height}"
    );
    let words = out(&wedge_on(one, &["judge", "-", "--explain"]));
    assert!(words.contains("For it: "), "{words}");
    // What it expects is not met: said, and no success.
    let failed = wedge_on(one, &["judge", "-", "--check"]);
    assert_eq!(failed.status.code(), Some(1));
    let text = String::from_utf8_lossy(&failed.stdout).into_owned();
    assert!(
        text.contains("FAIL x") && text.ends_with("0 of 1\n"),
        "{text}"
    );
    for (text, wanted) in [
        (r#"{ "evidence": [{ "kind": "dowsing" }] }"#, "cases[0]"),
        (r#"{ "format": "wedge.rider/17", "rider": {} }"#, "refused"),
        (
            r#"{ "format": "wedge.studio/16", "riders": [] }"#,
            "wedge.studio/16",
        ),
        ("[", "refused"),
    ] {
        let refused = wedge_on(text, &["judge", "-"]);
        assert_eq!(refused.status.code(), Some(1), "{text}");
        assert!(said(&refused).contains(wanted), "{}", said(&refused));
    }
}

#[test]
fn hidden_riders_are_fitted_from_the_command_line() {
    let asked = [
        "hundred",
        "--riders",
        "2",
        "--seed",
        "1000",
        "--way",
        "fixed-order",
    ];
    let table = out(&wedge(&asked));
    assert!(table.contains("Rules in a fixed order"), "{table}");
    assert!(table.contains("not against people"), "{table}");
    assert_eq!(table, out(&wedge(&asked)), "the same seeds, the same table");
    let all = json(&wedge(&[&asked[..], &["--json"]].concat()));
    assert_eq!(all["fits"][0][1].as_array().unwrap().len(), 2);
    assert_eq!(all["ways"][0]["near"][0]["of"], 2);
    for (arguments, wanted) in [
        (vec!["hundred", "--riders", "0"], "from 1 to 100000"),
        (vec!["hundred", "--noise", "11"], "from 0 to 10"),
        (vec!["hundred", "--way", "dowsing"], "one of judge"),
    ] {
        let refused = wedge(&arguments);
        assert!(!refused.status.success());
        assert!(said(&refused).contains(wanted), "{}", said(&refused));
    }
}

#[test]
fn a_riders_file_is_judged_by_its_open_fit() {
    let demo = |name: &str| {
        format!(
            "{}/../../demo/{name}.wedge.json",
            env!("CARGO_MANIFEST_DIR")
        )
    };
    let file = demo("hedda-solum");
    let judged = json(&wedge(&["judge", &file]));
    assert_eq!(judged[0]["id"], "Hedda Solum");
    assert_eq!(judged[0]["next"]["axis"], "height");
    assert_eq!(judged[0]["next"]["dir"], "-");
    let height = judged[0]["axes"][0]["witnesses"].to_string();
    assert!(height.contains("Creep up: saddle to 712.6 mm"), "{height}");
    let words = out(&wedge(&["judge", &file, "--explain"]));
    assert!(words.starts_with("Hedda Solum fit 1"), "{words}");
    assert!(said(&wedge(&["judge", &file, "--check"])).contains("expects nothing"));
    let finished = wedge(&["judge", &demo("corwin-ashe")]);
    assert!(
        said(&finished).contains("no open fit"),
        "{}",
        said(&finished)
    );
}

#[test]
fn ten_seconds_of_a_stand_in_are_written_and_read_again() {
    let folder = tempfile::tempdir().unwrap();
    let at = |name: &str| folder.path().join(name).display().to_string();
    let rider = out(&wedge(&["stand-in", "--seed", "41"]));
    std::fs::write(at("rider.json"), &rider).unwrap();
    let take = |more: &[&str]| {
        let rider = at("rider.json");
        wedge(&[&["take", "--rider", &rider], more].concat())
    };
    let (trc, c3d) = (at("take.trc"), at("take.c3d"));
    assert!(take(&["--out", &trc]).status.success());
    assert!(take(&["--out", &c3d]).status.success());
    // The same take, whichever way it leaves.
    let knee = |file: &str| {
        let read = json(&wedge(&["look", file]));
        read["R"]["knee_smallest_deg"][0].as_f64().unwrap()
    };
    assert!((knee(&trc) - knee(&c3d)).abs() < 0.01);
    let again = std::fs::read(&trc).unwrap();
    assert!(take(&["--out", &trc]).status.success());
    assert_eq!(again, std::fs::read(&trc).unwrap(), "the same take");
    assert!(take(&["--out", &trc, "--nth", "2"]).status.success());
    assert_ne!(again, std::fs::read(&trc).unwrap(), "another one");
    let (torque, film) = (at("torque.csv"), at("film"));
    assert!(
        take(&["--film", &film, "--seconds", "0.1"])
            .status
            .success()
    );
    assert_eq!(std::fs::read_dir(&film).unwrap().count(), 6);
    assert!(take(&["--torque", &torque]).status.success());
    assert!(std::fs::read_to_string(&torque).unwrap().lines().count() > 24);
    let broken = take(&["--out", &trc, "--fault", "silent"]);
    assert!(!broken.status.success() && said(&broken).contains("nothing was taken"));
    let unplugged = take(&["--out", &trc, "--fault", "unplugged"]);
    assert!(unplugged.status.success() && said(&unplugged).contains("was unplugged after"));
    // A position has nobody behind it until one is named; a real rider never.
    let position = out(&wedge(&["foresee", "--example"]));
    std::fs::write(at("position.json"), position).unwrap();
    let of = |more: &[&str]| {
        let position = at("position.json");
        wedge(&[&["take", "--rider", &position, "--out", &trc], more].concat())
    };
    assert!(said(&of(&[])).contains("--seed"));
    assert!(of(&["--seed", "5"]).status.success());
}

#[test]
fn a_position_is_carried_to_another_bike_and_what_it_is_built_of_misses_by_what_is_said() {
    let folder = tempfile::tempdir().unwrap();
    let file = |name: &str, kind: &str| {
        let path = folder.path().join(name);
        std::fs::write(&path, out(&wedge(&["foresee", "--example", kind]))).unwrap();
        path.to_str().unwrap().to_owned()
    };
    let (road, gravel) = (file("road.json", "road"), file("gravel.json", "gravel"));
    let told = out(&wedge(&["carry", &road, "--to", &road]));
    assert!(
        told.contains("saddle: where they were\nhands: where they were\n"),
        "{told}"
    );
    let carried = json(&wedge(&["carry", &road, "--to", &gravel, "--json"]));
    let off = &carried["hand_off"];
    assert!(
        off[0].as_f64().unwrap().hypot(off[1].as_f64().unwrap()) < 5.0,
        "{off}"
    );
    // Built so, its hands are where they were, but for what was said.
    let mut built: Value =
        serde_json::from_str(&std::fs::read_to_string(&gravel).unwrap()).unwrap();
    built["position"]["setup"] = carried["setup"].clone();
    let path = folder.path().join("built.json");
    std::fs::write(&path, built.to_string()).unwrap();
    let hand = |of: &Value| {
        let row = |output: &str| {
            let rows = of["rows"].as_array().unwrap();
            let found = rows.iter().find(|row| row["output"] == output);
            found.unwrap()["after"].as_f64().unwrap()
        };
        (row("bb_to_hand"), row("bb_to_hand_up_mm"))
    };
    let there = json(&wedge(&["foresee", path.to_str().unwrap()]));
    let here = json(&wedge(&["foresee", &road]));
    let ((x, y), (was_x, was_y)) = (hand(&there), hand(&here));
    assert!(
        (x - was_x - off[0].as_f64().unwrap()).abs() < 0.01,
        "{x} {was_x} {off}"
    );
    assert!(
        (y - was_y - off[1].as_f64().unwrap()).abs() < 0.01,
        "{y} {was_y} {off}"
    );

    // A CSV of frames: one is named, and a name nobody has is answered with those there are.
    let refused = wedge(&["carry", &road, "--to", "/nowhere.csv"]);
    assert_eq!(refused.status.code(), Some(1));
    let csv = folder.path().join("frames.csv");
    std::fs::write(&csv, "name,wings\nWeir,2\n").unwrap();
    let refused = wedge(&["carry", &road, "--to", csv.to_str().unwrap()]);
    assert_eq!(refused.status.code(), Some(1));
    assert!(said(&refused).contains("wings"), "{}", said(&refused));
}

#[test]
fn frames_are_ranked_for_a_position_and_what_a_table_lacks_is_asked_for() {
    let folder = tempfile::tempdir().unwrap();
    let path = |name: &str, text: &str| {
        let path = folder.path().join(name);
        std::fs::write(&path, text).unwrap();
        path.to_str().unwrap().to_owned()
    };
    let road = path("road.json", &out(&wedge(&["foresee", "--example", "road"])));
    let table = "Model,Reach,Stack,HTA,HT,STA,ST,CS,BB drop,FC\nOwn,385,565,73,150,73.5,520,412,70,592\n\
                 Tower,560,780,73,300,73.5,520,412,70,800\n";
    let frames = path("frames.csv", table);
    let lacks = wedge(&["choose", &frames, "--position", &road]);
    assert_eq!(lacks.status.code(), Some(1));
    assert!(
        said(&lacks).contains("wheel_radius_mm, lower_stack_mm"),
        "{}",
        said(&lacks)
    );
    let alike = [
        "--same",
        "wheel_radius_mm=340",
        "--same",
        "lower_stack_mm=5",
    ];
    let choose = |more: &[&str]| {
        wedge(&[&["choose", &frames, "--position", &road][..], &alike, more].concat())
    };
    let told = out(&choose(&[]));
    assert!(
        told.contains("1  Own: ") && told.contains("2  Tower: not reached"),
        "{told}"
    );
    let chosen = json(&choose(&["--json", "--longest-stem", "90"]));
    assert_eq!(chosen["frames"], serde_json::json!(["Own", "Tower"]));
    assert!(chosen["ranked"][0]["stem_mm"].as_f64().unwrap() <= 90.0);
    let refused = choose(&["--longest-stem", "10"]);
    assert_eq!(refused.status.code(), Some(1));
    let frames = path("bad.csv", &table.replace("385", "near"));
    let refused = wedge(&[&["choose", &frames, "--position", &road][..], &alike].concat());
    assert!(
        said(&refused).contains("line 2, Reach: “near” is not a number"),
        "{}",
        said(&refused)
    );
}
