//! Files: what is written reads back, and a bad one names the path of what is wrong.
use serde_json::{Value, json};
use uuid::Uuid;
use wedge_core::example;
use wedge_core::intake::Joint;
use wedge_core::measure::Quantity;
use wedge_core::units::Side;
use wedge_files::{EntryBody, House, LookBody, PositionFile, RiderFile, StudioFile, read_studio};

const DEMO: &str = include_str!("../../../../demo/tobin-arkle.wedge.json");

#[test]
fn what_is_written_reads_back_without_loss() {
    let file = RiderFile::read(DEMO).unwrap();
    let text = file.write().unwrap();
    assert_eq!(RiderFile::read(&text).unwrap(), file);
    assert_eq!(
        serde_json::from_str::<Value>(&text).unwrap(),
        serde_json::from_str::<Value>(DEMO).unwrap()
    );
}

#[test]
fn the_format_before_reads_as_it_was_and_a_held_minute_is_kept_to_sense() {
    let mut value: Value = serde_json::from_str(DEMO).unwrap();
    value["format"] = json!("wedge.rider/11");
    assert_eq!(
        RiderFile::read(&value.to_string()).unwrap(),
        RiderFile::read(DEMO).unwrap()
    );
    let mut file = RiderFile::read(DEMO).unwrap();
    let trial = &mut file.rider.bikes[0].sessions[0].trials[0];
    let mut held = trial.entries[0].clone();
    held.id = Uuid::from_u128(7);
    held.body = EntryBody::Held(25.0);
    trial.entries.insert(0, held.clone());
    assert_eq!(trial.held_min(), Some(25.0));
    let text = file.write().unwrap();
    assert_eq!(RiderFile::read(&text).unwrap(), file);
    file.rider.bikes[0].sessions[0].trials[0].entries[0].body = EntryBody::Held(9999.0);
    let refused = RiderFile::read(&file.write().unwrap()).unwrap_err();
    assert!(refused.path.ends_with("entries[0].body.held"), "{refused}");
}

#[test]
fn a_studio_keeps_its_limits_and_federations_and_refuses_what_cannot_be() {
    let mut house = House::default();
    assert_eq!(house.bodies.len(), 1);
    house.budget.slide_mm = 500.0;
    house.bodies[0].read_on = "lately".to_owned();
    let pointers: Vec<String> = house.refusals().into_iter().map(|r| r.pointer).collect();
    assert_eq!(pointers, ["/budget/slide_mm", "/bodies/0/read_on"]);
    // What a version before wrote has neither: the house's stand there.
    let before: House = serde_json::from_str("{}").unwrap();
    assert_eq!(before, House::default());
}

#[test]
fn a_bad_file_names_the_path() {
    let cases: [(&str, Value, &str); 9] = [
        ("/format", json!("wedge.rider/18"), "format"),
        ("/rider/name", json!(" "), "rider.name"),
        (
            "/rider/readings/0/value",
            json!(18.0),
            "rider.readings[0].value",
        ),
        ("/rider/readings", json!([]), "rider.readings"),
        (
            "/rider/bikes/0/frame/head_angle_deg",
            json!(7.3),
            "rider.bikes[0].frame.head_angle_deg",
        ),
        (
            "/rider/bikes/0/frame/head_angle_deg",
            json!("steep"),
            "rider.bikes[0].frame.head_angle_deg",
        ),
        (
            "/rider/bikes/0/sessions/0/trials/0/before",
            json!("01a208ad-0000-7000-8000-000000000000"),
            "rider.bikes[0].sessions[0].trials[0].before",
        ),
        (
            "/rider/bikes/0/sessions/0/effort",
            json!({"power_w": 180.0, "cadence_rpm": 8500.0}),
            "rider.bikes[0].sessions[0].effort.cadence_rpm",
        ),
        (
            "/rider/bikes/0/sessions/0/now",
            Value::Null,
            "rider.bikes[0].sessions[0].now",
        ),
    ];
    for (pointer, value, path) in cases {
        let mut file: Value = serde_json::from_str(DEMO).unwrap();
        *file.pointer_mut(pointer).unwrap() = value;
        let error = RiderFile::read(&file.to_string()).unwrap_err();
        assert_eq!(error.path, path, "{error}");
    }
}

#[test]
fn an_unknown_key_a_double_id_and_a_torn_file_are_refused() {
    let mut file: Value = serde_json::from_str(DEMO).unwrap();
    file["rider"]["shoe_colour"] = json!("red");
    assert!(
        RiderFile::read(&file.to_string())
            .unwrap_err()
            .message
            .contains("shoe_colour")
    );

    let mut file: Value = serde_json::from_str(DEMO).unwrap();
    file["rider"]["readings"][1]["id"] = file["rider"]["readings"][0]["id"].clone();
    assert!(
        RiderFile::read(&file.to_string())
            .unwrap_err()
            .message
            .contains("stands twice")
    );

    assert!(RiderFile::read(&DEMO[..DEMO.len() / 2]).is_err());
    assert!(RiderFile::read(&format!("{DEMO} and more")).is_err());
}

#[test]
fn nonsense_in_a_trials_entry_or_a_look_is_refused_with_its_path() {
    let long = "a ".repeat(1500);
    let fit = "rider.bikes[0].sessions[0]";
    let in_trial = |body: Value| {
        (
            "trials/0/entries",
            json!([written(&body)]),
            "trials[0].entries[0].body",
        )
    };
    let in_look = |body: Value| {
        let mut look = written(&body);
        look["setup"] = Value::Null;
        ("looks", json!([look]), "looks[0].body")
    };
    for ((place, entries, path), below) in [
        (
            in_trial(json!({"seen": {"output": "knee_at_full_reach_deg", "value": 4000.0}})),
            ".seen.value",
        ),
        (in_trial(json!({"words": long})), ".words"),
        (in_trial(json!({"why": long})), ".why"),
        (
            in_trial(json!({"effort": {"power_w": -3.0, "cadence_rpm": 90.0}})),
            ".effort.power_w",
        ),
        (
            in_trial(json!({"felt": [{"place": "neck", "side": "left"}]})),
            ".felt[0].side",
        ),
        (
            in_look(json!({"seen": {"output": "torso_deg", "value": 412.0}})),
            ".seen.value",
        ),
        (
            in_look(json!({"seen": {"output": "torso_deg", "side": "left", "value": 42.0}})),
            ".seen.side",
        ),
        (in_look(json!({"words": long})), ".words"),
    ] {
        let mut file: Value = serde_json::from_str(DEMO).unwrap();
        let session = file.pointer_mut("/rider/bikes/0/sessions/0").unwrap();
        let setup = session["setups"][0]["id"].clone();
        let there = session.pointer_mut(&format!("/{place}")).unwrap();
        *there = entries;
        if let Some(look) = there.pointer_mut("/0/setup") {
            *look = setup;
        }
        let error = RiderFile::read(&file.to_string()).unwrap_err();
        assert_eq!(error.path, format!("{fit}.{path}{below}"), "{error}");
    }
}

/// Something written down, about a trial or at a look.
fn written(body: &Value) -> Value {
    json!({"id": Uuid::now_v7(), "at": "2026-11-20T10:00:00Z", "body": body})
}

#[test]
fn a_file_of_the_version_before_is_read_without_a_joint_named() {
    let old = include_str!("../files/rider-5.json");
    let file = RiderFile::read(old).unwrap();
    assert_eq!(file.format, "wedge.rider/17");
    let injury = &file.rider.bikes[0].sessions[0].intake.injuries[0];
    assert_eq!((injury.joint, injury.side), (None, None));
    // What was scored is the order it stood for.
    let before: Value = serde_json::from_str(old).unwrap();
    let scores = &before["rider"]["bikes"][0]["sessions"][0]["intake"]["weights"];
    let goals = &file.rider.bikes[0].sessions[0].intake.goals;
    assert_eq!(goals.0.iter().flatten().count(), 4);
    for rank in goals.0.windows(2) {
        let [one, next] = [&rank[0][0], &rank[1][0]].map(|goal| scores[goal.key()].as_u64());
        assert!(one > next, "{scores} {goals:?}");
    }
    // What was written in words is understood.
    assert_eq!(injury.of_the_joint(), Some((Joint::Hip, Some(Side::Right))));
    assert_eq!(RiderFile::read(&file.write().unwrap()).unwrap(), file);
}

#[test]
fn a_file_of_the_first_format_is_read_as_it_was_meant() {
    let old = include_str!("../files/rider-1.json");
    let file = RiderFile::read(old).unwrap();
    assert_eq!(file.format, "wedge.rider/17");
    let before: Value = serde_json::from_str(old).unwrap();
    let setup = &before["rider"]["bikes"][0]["sessions"][0]["setups"][0]["setup"];
    let now = &file.rider.bikes[0].sessions[0].setups[0].setup;
    for (quantity, key) in [
        (Quantity::BarReach, "bar_reach_mm"),
        (Quantity::HoodRise, "hood_rise_mm"),
        (Quantity::Stem, "stem_mm"),
    ] {
        assert_eq!(
            now.get(quantity, None),
            setup["cockpit"][key].as_f64(),
            "{key}"
        );
    }
    // What was foreseen then is kept as it was, under the names of now, without a band nobody worked out.
    let rows = &file.rider.bikes[0].sessions[0].trials[0].foreseen.rows;
    assert!(
        rows.iter()
            .any(|r| r.output == wedge_core::measure::Output::BbToHand)
    );
    assert!(rows.iter().all(|r| r.band.is_none()));
    assert_eq!(RiderFile::read(&file.write().unwrap()).unwrap(), file);
}

#[test]
fn a_studio_is_a_file_of_riders_and_a_bad_one_names_whose() {
    let one = RiderFile::read(DEMO).unwrap().rider;
    let other = one.clone().copied(Uuid::now_v7);
    let studio = StudioFile::new(vec![one.clone(), other]);
    let text = studio.write().unwrap();
    assert_eq!(StudioFile::read(&text).unwrap(), studio);
    assert_eq!(read_studio(&text).unwrap().riders, studio.riders);
    assert_eq!(
        read_studio(DEMO).unwrap().riders,
        std::slice::from_ref(&one)
    );

    let mut broken: Value = serde_json::from_str(&text).unwrap();
    broken["riders"][1]["bikes"][0]["frame"]["chainstay_mm"] = json!(4);
    let error = read_studio(&broken.to_string()).unwrap_err();
    assert_eq!(error.path, "riders[1].bikes[0].frame.chainstay_mm");
    // The same rider twice is no studio.
    let twice = StudioFile::new(vec![one.clone(), one]).write().unwrap();
    assert!(
        StudioFile::read(&twice)
            .unwrap_err()
            .message
            .contains("stands twice")
    );
    let error = read_studio(r#"{"format": "wedge.position/1"}"#).unwrap_err();
    assert_eq!(error.path, "format");
}

#[test]
fn a_copy_is_the_same_record_under_other_ids() {
    let one = RiderFile::read(DEMO).unwrap().rider;
    let copy = one.clone().copied(Uuid::now_v7);
    assert_ne!(copy.id, one.id);
    let (session, original) = (&copy.bikes[0].sessions[0], &one.bikes[0].sessions[0]);
    // What names a setup names its copy.
    let place =
        |session: &wedge_files::Session, id: Uuid| session.setups.iter().position(|s| s.id == id);
    for (a, b) in session.trials.iter().zip(&original.trials) {
        assert_eq!(place(session, a.after), place(original, b.after));
        assert!(place(session, a.before).is_some());
        assert_eq!(a.foreseen, b.foreseen);
    }
    assert_eq!(
        place(session, session.now.unwrap()),
        place(original, original.now.unwrap())
    );
    // A file of both holds no id twice.
    let both = StudioFile::new(vec![one, copy]).write().unwrap();
    assert!(StudioFile::read(&both).is_ok());
}

#[test]
fn every_example_is_a_position_file_that_reads_back() {
    for input in example::all() {
        let file = PositionFile::new(input);
        assert_eq!(PositionFile::read(&file.write().unwrap()).unwrap(), file);
    }
    let mut file: Value = serde_json::to_value(PositionFile::new(example::time_trial())).unwrap();
    file["position"]["setup"]["bar"]["aero"]["pad_tilt_deg"] = json!(80);
    let error = PositionFile::read(&file.to_string()).unwrap_err();
    assert_eq!(error.path, "position.setup.bar.aero.pad_tilt_deg");
    file["position"]["setup"]["bar"]["aero"]["pad_tilt_deg"] = json!("flat");
    let error = PositionFile::read(&file.to_string()).unwrap_err();
    assert_eq!(error.path, "position.setup.bar.aero.pad_tilt_deg");
    assert_eq!(PositionFile::read("{").unwrap_err().path, ".");
}

#[test]
fn a_finished_fit_keeps_the_body_it_was_made_for() {
    let mut rider = RiderFile::read(DEMO).unwrap().rider;
    let then = rider.measured().unwrap();
    let mut grown = rider.readings[0].clone();
    assert_eq!(grown.reading.quantity, Quantity::Stature);
    grown.id = Uuid::now_v7();
    grown.taken_at = jiff::Timestamp::MAX;
    grown.reading.value += 40.0;
    rider.readings.push(grown);
    let finished = rider.bikes[0].sessions[0].clone();
    let body =
        |session: &wedge_files::Session| rider.measured_for(session).unwrap().body.stature_mm.0;
    assert!((body(&finished) - then.body.stature_mm.0).abs() < 1e-9);
    let open = wedge_files::Session {
        state: wedge_files::SessionState::Open,
        ..finished
    };
    assert!((body(&open) - then.body.stature_mm.0 - 40.0).abs() < 1e-9);
}

#[test]
fn a_file_of_the_third_format_is_read_and_what_came_since_stands_empty() {
    let old = include_str!("../files/rider-3.json");
    let rider = RiderFile::read(old).unwrap().rider;
    let before: Value = serde_json::from_str(old).unwrap();
    assert_eq!(before["format"], "wedge.rider/3");
    assert_eq!((rider.born, rider.archived_at), (None, None));
    let session = &rider.bikes[0].sessions[0];
    assert_eq!(session.follow_up, None);
    assert_eq!(session.shoes.left.width, None);
    let old_trials = before["rider"]["bikes"][0]["sessions"][0]["trials"].as_array();
    assert_eq!(Some(session.trials.len()), old_trials.map(Vec::len));
    let trial = &session.trials[0];
    assert_eq!((trial.why(), trial.sure()), (None, None));
    assert_eq!(trial.ridden_at(), trial.effort);
    for side in [
        wedge_core::units::Side::Left,
        wedge_core::units::Side::Right,
    ] {
        let setup = &session.setups[0].setup;
        assert_eq!(setup.get(Quantity::CleatWedge, Some(side)), Some(0.0));
        assert_eq!(setup.get(Quantity::CleatFloat, Some(side)), None);
    }
}

#[test]
fn a_width_noted_before_becomes_the_saddles_own_and_locked_elbows_a_sign() {
    let mut file: Value =
        serde_json::from_str(include_str!("../../../../demo/tobin-arkle.wedge.json")).unwrap();
    file["format"] = json!("wedge.rider/7");
    let session = &mut file["rider"]["bikes"][0]["sessions"][0];
    session["saddle"]["width_mm"] = json!(143.0);
    let setup = session["now"].clone();
    let look = json!({ "id": "01a2094c-c3c4-765b-b0a1-bbd8983dcd77", "at": "2026-11-14T09:10:00Z", "setup": setup,
                       "hands": null, "effort": null, "body": { "shoulders": "locked" }, "foreseen": null });
    session["looks"] = json!([look]);
    let rider = RiderFile::read(&file.to_string()).unwrap().rider;
    let session = &rider.bikes[0].sessions[0];
    let width = |setup: &wedge_core::bike::Setup| setup.saddle.saddle_width_mm.map(|mm| mm.0);
    assert_eq!(width(&session.base), Some(143.0));
    assert!(
        session
            .setups
            .iter()
            .all(|record| width(&record.setup) == Some(143.0))
    );
    let LookBody::Sign(sign) = session.looks[0].body else {
        panic!("{:?}", session.looks[0].body);
    };
    assert_eq!(
        (sign.sign, sign.there),
        (wedge_core::looking::Sign::ElbowsLocked, Some(true))
    );
}
