//! Days for any calendar: RFC 5545, by a well-kept library. An event keeps its UID, and its SEQUENCE grows with every change.

use icalendar::{Calendar, Component as _, Event, Property};
use jiff::Timestamp;
use jiff::civil::Date;

/// A day with what is on it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Day {
    /// What tells it from every other one, for ever.
    pub uid: String,
    /// How often it was changed.
    pub sequence: u32,
    /// When it was written down.
    pub stamp: Timestamp,
    /// The day.
    pub on: Date,
    /// What is on.
    pub title: String,
    /// More of it.
    pub words: String,
}

/// The days as a calendar file. The same days give the same bytes.
pub fn calendar(name: &str, days: &[Day]) -> String {
    let mut calendar = Calendar::empty();
    calendar.append_property(Property::new("VERSION", "2.0"));
    calendar.append_property(Property::new("PRODID", "-//Wedge//Wedge//EN"));
    calendar.append_property(Property::new("CALSCALE", "GREGORIAN"));
    calendar.name(name);
    for day in days {
        let date = |date: Date| date.strftime("%Y%m%d").to_string();
        let mut event = Event::new();
        event
            .uid(&day.uid)
            .sequence(day.sequence)
            .summary(&day.title)
            .description(&day.words)
            .add_property("DTSTAMP", day.stamp.strftime("%Y%m%dT%H%M%SZ").to_string());
        for (key, on) in [
            ("DTSTART", day.on),
            ("DTEND", day.on.tomorrow().unwrap_or(day.on)),
        ] {
            let mut property = Property::new(key, date(on));
            property.add_parameter("VALUE", "DATE");
            event.append_property(property);
        }
        calendar.push(event.done());
    }
    calendar.to_string()
}
