//! Files written by earlier versions, brought up to the current formats.

use crate::rider_file::{RIDER, STUDIO};
use serde_json::{Map, Value, json};
use wedge_core::intake::{Goal, Goals};

/// The parts of a drop bar that `wedge.rider/1` kept in the cockpit.
const IN_COCKPIT: [&str; 6] = [
    "bar_width_mm",
    "bar_reach_mm",
    "bar_drop_mm",
    "bar_roll_deg",
    "hood_forward_mm",
    "hood_rise_mm",
];

/// A file's JSON in the current format; what is current already, or not ours, stays as it is.
pub(crate) fn upgraded(format: String, mut value: Value) -> (String, Value) {
    if format == "wedge.rider/1" {
        from_first(&mut value);
    }
    scores_to_order(&mut value);
    width_to_saddle(&mut value);
    // What came since the second stands empty where it is left out.
    let format = match format.as_str() {
        "wedge.rider/1" | "wedge.rider/2" | "wedge.rider/3" | "wedge.rider/4" | "wedge.rider/5"
        | "wedge.rider/6" | "wedge.rider/7" | "wedge.rider/8" | "wedge.rider/9"
        | "wedge.rider/10" | "wedge.rider/11" | "wedge.rider/12" | "wedge.rider/13"
        | "wedge.rider/14" | "wedge.rider/15" | "wedge.rider/16" => RIDER,
        "wedge.studio/1" | "wedge.studio/2" | "wedge.studio/3" | "wedge.studio/4"
        | "wedge.studio/5" | "wedge.studio/6" | "wedge.studio/7" | "wedge.studio/8"
        | "wedge.studio/9" | "wedge.studio/10" | "wedge.studio/11" | "wedge.studio/12"
        | "wedge.studio/13" | "wedge.studio/14" | "wedge.studio/15" => STUDIO,
        _ => return (format, value),
    };
    value["format"] = json!(format);
    (format.to_owned(), value)
}

/// From `wedge.rider/1`: the drop bar leaves the cockpit, and lengths to the hood are lengths to the hand.
fn from_first(value: &mut Value) {
    match value {
        Value::Array(items) => items.iter_mut().for_each(from_first),
        Value::Object(fields) => {
            bar_out_of_cockpit(fields);
            for (key, field) in fields.iter_mut() {
                let renamed = match (key.as_str(), field.as_str()) {
                    ("quantity", Some("bb_to_hood_mm")) => Some("bb_to_hand_mm"),
                    ("output", Some("bb_to_hood_mm")) => Some("bb_to_hand"),
                    ("output", Some("saddle_to_hood_mm")) => Some("saddle_to_hand"),
                    _ => None,
                };
                match renamed {
                    Some(name) => *field = json!(name),
                    None => from_first(field),
                }
            }
        }
        _ => {}
    }
}

fn bar_out_of_cockpit(setup: &mut Map<String, Value>) {
    let Some(cockpit) = setup.get_mut("cockpit").and_then(Value::as_object_mut) else {
        return;
    };
    let bar: Map<String, Value> = IN_COCKPIT
        .iter()
        .filter_map(|key| Some(((*key).to_owned(), cockpit.remove(*key)?)))
        .collect();
    if !bar.is_empty() {
        setup.insert("bar".to_owned(), json!({ "drop": bar }));
    }
}

/// Before `wedge.rider/7`: what a fit is for was scored; the scores become the order they stood for.
fn scores_to_order(value: &mut Value) {
    match value {
        Value::Array(items) => items.iter_mut().for_each(scores_to_order),
        Value::Object(fields) => {
            if let Some(intake) = fields.get_mut("intake").and_then(Value::as_object_mut) {
                order_of(intake);
            }
            fields.values_mut().for_each(scores_to_order);
        }
        _ => {}
    }
}

fn order_of(intake: &mut Map<String, Value>) {
    let Some(weights) = intake.get("weights").and_then(Value::as_object) else {
        return;
    };
    let score = |goal: &Goal| {
        let said = weights.get(goal.key()).map_or(Some(0), Value::as_u64)?;
        Some((*goal, u8::try_from(said).ok()?))
    };
    let scores: Option<Vec<(Goal, u8)>> = Goal::ALL.iter().map(score).collect();
    // What is no score stays, and is refused as it was.
    if let Some(scores) = scores.and_then(|all| <[_; 4]>::try_from(all).ok()) {
        intake.remove("weights");
        intake.insert("goals".to_owned(), json!(Goals::of_scores(scores)));
    }
}

/// Before `wedge.rider/9`: a saddle's width was a note of the fit, and elbows were locked where shoulders were pushed back.
fn width_to_saddle(value: &mut Value) {
    match value {
        Value::Array(items) => items.iter_mut().for_each(width_to_saddle),
        Value::Object(fields) => {
            if fields.contains_key("setups") {
                width_of_session(fields);
            }
            if fields.get("shoulders") == Some(&json!("locked")) {
                fields.remove("shoulders");
                let sign = json!({ "sign": "elbows_locked", "side": null, "there": true });
                fields.insert("sign".to_owned(), sign);
            }
            fields.values_mut().for_each(width_to_saddle);
        }
        _ => {}
    }
}

fn width_of_session(session: &mut Map<String, Value>) {
    let notes = session.get_mut("saddle").and_then(Value::as_object_mut);
    let Some(width) = notes.and_then(|notes| notes.remove("width_mm")) else {
        return;
    };
    if width.is_null() {
        return;
    }
    let hold = |setup: Option<&mut Value>| {
        let saddle = setup.and_then(|setup| setup.get_mut("saddle"));
        if let Some(saddle) = saddle.and_then(Value::as_object_mut) {
            saddle.insert("saddle_width_mm".to_owned(), width.clone());
        }
    };
    hold(session.get_mut("base"));
    let setups = session.get_mut("setups").and_then(Value::as_array_mut);
    for record in setups.into_iter().flatten() {
        hold(record.get_mut("setup"));
    }
}
