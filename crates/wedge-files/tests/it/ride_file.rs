//! What ride computers write: TCX, GPX and CSV, each with a ride whose figures are known.

use jiff::civil::date;
use jiff::tz::TimeZone;
use std::fmt::Write as _;
use wedge_files::{Recorded, read_recorded};

/// Power and cadence second by second: 10 minutes at 150 W and 80 rpm, a stop of five minutes, 10 minutes of which a half coasts
/// and a half is at 250 W and 90 rpm.
fn seconds() -> Vec<(u32, u32, u32)> {
    let first = (0..=600).map(|s| (s, 150, 80));
    let second = (900..=1500).map(|s| if s < 1200 { (s, 0, 0) } else { (s, 250, 90) });
    first.chain(second).collect()
}

/// 20 minutes; a mean of (150·600 + 250·300) / 1200 W; of cadence where it was pedalled (80·600 + 90·300) / 900 rpm.
fn known() -> Recorded {
    Recorded {
        on: date(2026, 11, 3),
        minutes: 20.0,
        power_w: Some(138.0),
        cadence_rpm: Some(83.0),
        left_out: 0,
    }
}

fn time(second: u32) -> String {
    let (hours, minutes) = (second / 3600 + 17, second / 60 % 60);
    format!("2026-11-03T{hours}:{minutes:02}:{:02}Z", second % 60)
}

fn tcx() -> String {
    let mut text = String::from(
        r#"<?xml version="1.0" encoding="UTF-8"?>
<TrainingCenterDatabase xmlns="urn:one" xmlns:x="urn:two"><Activities><Activity Sport="Biking"><Id>1</Id><Lap><Track>
"#,
    );
    for (second, watts, rpm) in seconds() {
        writeln!(
            text,
            "<Trackpoint><Time>{}</Time><Cadence>{rpm}</Cadence><Extensions><x:TPX><x:Watts>{watts}</x:Watts></x:TPX></Extensions></Trackpoint>",
            time(second)
        )
        .unwrap();
    }
    text + "</Track></Lap></Activity></Activities></TrainingCenterDatabase>"
}

fn gpx() -> String {
    let mut text = String::from("<gpx version=\"1.1\" xmlns=\"urn:gpx\"><trk><trkseg>\n");
    for (second, watts, rpm) in seconds() {
        writeln!(
            text,
            "<trkpt lat=\"50\" lon=\"8\"><time>{}</time><extensions><power>{watts}</power><t:ext xmlns:t=\"urn:t\"><t:cad>{rpm}</t:cad></t:ext></extensions></trkpt>",
            time(second)
        )
        .unwrap();
    }
    text + "</trkseg></trk></gpx>"
}

fn csv(header: &str, of_time: impl Fn(u32) -> String) -> String {
    let mut text = format!("{header}\n");
    for (second, watts, rpm) in seconds() {
        writeln!(text, "{},120,{watts},{rpm}", of_time(second)).unwrap();
    }
    text
}

fn read(text: &str) -> Result<Vec<Recorded>, wedge_files::FileError> {
    read_recorded(text, &TimeZone::UTC, None)
}

#[test]
fn one_ride_reads_alike_from_every_format() {
    assert_eq!(read(&tcx()).unwrap(), [known()]);
    assert_eq!(read(&gpx()).unwrap(), [known()]);
    assert_eq!(
        read(&csv("time,heart,power,cadence", time)).unwrap(),
        [known()]
    );
    let seconds = csv("SECONDS,heart,Watts,RPM", |second| second.to_string());
    let day = Some(date(2026, 11, 3));
    assert_eq!(
        read_recorded(&seconds, &TimeZone::UTC, day).unwrap(),
        [known()]
    );
    let semicolons = seconds.replace(',', ";");
    assert_eq!(
        read_recorded(&semicolons, &TimeZone::UTC, day).unwrap(),
        [known()]
    );
}

#[test]
fn the_day_is_that_where_the_studio_is() {
    let east = TimeZone::fixed(jiff::tz::offset(9));
    assert_eq!(
        read_recorded(&gpx(), &east, None).unwrap()[0].on,
        date(2026, 11, 4)
    );
}

#[test]
fn what_no_rider_can_do_is_left_out_and_counted() {
    let spiked = tcx().replacen("<x:Watts>150<", "<x:Watts>65535<", 3);
    let read = &read(&spiked).unwrap()[0];
    // (165000 − 3·150) W·s over 1197 s.
    assert_eq!((read.left_out, read.power_w), (3, Some(137.0)));
    // Without power and cadence it is still a ride.
    let bare = gpx().replace("power>", "other>").replace("t:cad>", "t:hr>");
    let bare = &read_recorded(&bare, &TimeZone::UTC, None).unwrap()[0];
    assert_eq!(
        (bare.minutes, bare.power_w, bare.cadence_rpm),
        (20.0, None, None)
    );
}

#[test]
fn a_bad_file_is_refused_with_its_line() {
    let line = |text: &str| read(text).unwrap_err().path;
    assert_eq!(line(&tcx().replacen(">150<", ">many<", 1)), "line 3");
    assert_eq!(
        line(&gpx().replacen("T17:00:01Z", "T17:61:01Z", 1)),
        "line 3"
    );
    assert_eq!(line(&gpx().replace("</trkseg>", "")), "line 1204");
    assert_eq!(line("<kml></kml>"), "line 1");
    assert_eq!(line("<gpx></gpx>"), ".");
    assert_eq!(line("power\n150\n"), "line 1");
    assert_eq!(line("seconds,power\n0,150\n1,150\n"), "time");
    assert_eq!(
        line("time,power\n2026-11-03T17:00:00Z,much\n"),
        "line 2, power"
    );
    assert_eq!(line("time,power\nnoon,150\n"), "line 2, time");
    assert_eq!(line("time,power\n2026-11-03T17:00:00Z\n"), "line 2");
    // Entities that grow without end are not followed at all.
    let bomb = "<!DOCTYPE g [<!ENTITY a \"aaaaaaaaaa\"><!ENTITY b \"&a;&a;&a;&a;\">]><gpx><trk>&b;</trk></gpx>";
    assert!(line(bomb).starts_with("line "));
}
