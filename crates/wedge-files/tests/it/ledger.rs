//! The rider's ledger as a file: nothing is lost on the way out and back, and a bad one is refused with its place.

use jiff::civil::date;
use proptest::prelude::*;
use serde_json::{Value, json};
use uuid::Uuid;
use wedge_core::between::{Rated, Rating, RideSign, SelfMove};
use wedge_core::units::Side;
use wedge_files::{LedgerFile, LedgerRide};

fn rated(rating: Rating, side: Option<Side>, value: u8) -> Rated {
    Rated {
        rating,
        side,
        value,
    }
}

fn ride(n: u128) -> LedgerRide {
    LedgerRide {
        id: Uuid::from_u128(n),
        on: date(2026, 11, 3),
        circuit: "Mill loop".to_owned(),
        minutes: Some(62.0),
        effort: Some(5),
        power_w: Some(182.0),
        cadence_rpm: Some(88.0),
        recorded: true,
        plan: 1,
        step: 2,
        moved: vec![SelfMove::SaddleDown],
        ratings: vec![
            rated(Rating::Hands, Some(Side::Left), 2),
            rated(Rating::Hands, Some(Side::Right), 3),
            rated(Rating::Saddle, None, 1),
            rated(Rating::Control, None, 3),
        ],
        signs: vec![RideSign::KneeBehind],
        words: "“heavy” legs <b>\n& a { brace }".to_owned(),
    }
}

fn ledger() -> LedgerFile {
    LedgerFile::new(Uuid::from_u128(7), vec![ride(1), ride(2), ride(3)])
}

#[test]
fn a_ledger_comes_back_as_it_went() {
    let written = ledger().write().unwrap();
    assert_eq!(LedgerFile::read(&written).unwrap(), ledger());
    // On one line, as a phone copies it.
    let line = serde_json::to_string(&ledger()).unwrap();
    assert_eq!(LedgerFile::read(&line).unwrap(), ledger());
}

#[test]
fn a_message_around_it_is_no_part_of_it() {
    let mut plain = ledger();
    for ride in &mut plain.rides {
        ride.words = "heavy legs".to_owned();
    }
    let text = plain.write().unwrap();
    let quoted = format!("> {}", text.trim_end().replace('\n', "\n> "));
    let message = format!("Hello,\n\nhere are my rides:\n{quoted}\nSee you on Friday");
    assert_eq!(LedgerFile::read(&message).unwrap(), plain);
    // A keyboard that bends every quote.
    let bent = message.replace('"', "”");
    assert_eq!(LedgerFile::read(&bent).unwrap(), plain);
}

#[test]
fn a_bad_value_is_named_with_its_place() {
    for (pointer, value, path) in [
        ("/format", json!("wedge.ledger/2"), "format"),
        ("/fit", json!("somebody"), "fit"),
        ("/rides/1/on", json!("2026-13-01"), "rides[1].on"),
        ("/rides/1/on", json!("1926-11-01"), "rides[1].on"),
        ("/rides/1/minutes", json!(0.0), "rides[1].minutes"),
        ("/rides/1/effort", json!(11), "rides[1].effort"),
        ("/rides/1/effort", json!(300), "rides[1].effort"),
        ("/rides/1/power_w", json!(9000.0), "rides[1].power_w"),
        ("/rides/1/step", json!(61), "rides[1].step"),
        ("/rides/1/step", json!(-1), "rides[1].step"),
        ("/rides/1/moved/0", json!("saddle_off"), "rides[1].moved[0]"),
        ("/rides/1/signs/0", json!(4), "rides[1].signs[0]"),
        (
            "/rides/1/ratings/3/value",
            json!(4),
            "rides[1].ratings[3].value",
        ),
        (
            "/rides/1/ratings/2",
            json!({ "rating": "saddle", "side": "left", "value": 1 }),
            "rides[1].ratings[2].side",
        ),
        (
            "/rides/1/ratings/1/side",
            json!("left"),
            "rides[1].ratings[1]",
        ),
        ("/rides/1/words", json!("x".repeat(2001)), "rides[1].words"),
        ("/rides/1/circuit", json!("a\u{7}b"), "rides[1].circuit"),
        ("/rides/2/id", json!(Uuid::from_u128(1)), "rides[2].id"),
    ] {
        let mut file: Value = serde_json::to_value(ledger()).unwrap();
        *file
            .pointer_mut(pointer)
            .unwrap_or_else(|| panic!("{pointer}")) = value;
        let refused = LedgerFile::read(&file.to_string()).unwrap_err();
        assert_eq!(refused.path, path, "{pointer}: {}", refused.message);
    }
    let more = ledger().write().unwrap().replacen("\"on\"", "\"off\"", 1);
    assert_eq!(LedgerFile::read(&more).unwrap_err().path, "rides[0].off");
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(1000))]
    /// A thousand cards that something happened to on the way: each is refused with a place and a reason, or reads, whole, as
    /// what it then says.
    #[test]
    fn a_mutated_card_is_refused_or_read_whole(
        cuts in prop::collection::vec((0..10_000_usize, 0..4_u8, any::<char>()), 1..4),
    ) {
        let mut text: Vec<char> = ledger().write().unwrap().chars().collect();
        for (at, what, with) in cuts {
            let at = at % text.len();
            match what {
                0 => { text.remove(at); }
                1 => text[at] = with,
                2 => text.insert(at, with),
                _ => text.truncate(at.max(1)),
            }
        }
        let text: String = text.into_iter().collect();
        match LedgerFile::read(&text) {
            Ok(read) => {
                let again = LedgerFile::read(&read.write().unwrap()).unwrap();
                prop_assert_eq!(&again, &read);
                prop_assert!(read.rides.len() <= 3);
            }
            Err(refused) => {
                prop_assert!(!refused.path.is_empty() && !refused.message.is_empty());
                // Of the file as a whole a line is told.
                let placed = refused.path != "." || refused.message.contains("line");
                prop_assert!(placed, "{} for {}", refused, text);
            }
        }
    }
}
