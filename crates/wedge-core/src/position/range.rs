//! The ranges of a kind of riding, each with its convention's output and its source.

use crate::bike::{HandPlace, Kind};
use crate::measure::{Output, Refusal};
use crate::words::written;
use serde::{Deserialize, Serialize};

/// A range an output should lie in.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Range {
    /// What it is a range of.
    pub output: Output,
    /// Where the hands must be for it to hold; anywhere when none.
    pub hands: Option<HandPlace>,
    /// Least of the range.
    pub low: f64,
    /// Largest of the range.
    pub high: f64,
    /// Least of the outer range, beyond which the mark doubles.
    pub outer_low: f64,
    /// Largest of the outer range.
    pub outer_high: f64,
    /// Where it comes from.
    pub source: &'static str,
}

impl Range {
    /// "35–40°".
    pub fn words(&self) -> String {
        let unit = self.output.spec().unit.suffix();
        format!("{}–{}{unit}", written(self.low), written(self.high))
    }
}

const KNEE: Range = Range {
    output: Output::KneeAtFullReach,
    hands: None,
    low: 35.0,
    high: 40.0,
    outer_low: 30.0,
    outer_high: 43.0,
    source: "workshop rule: moving rider, smallest flexion; outer 30–43",
};

const SHOULDER: Range = Range {
    output: Output::Shoulder,
    hands: Some(HandPlace::Hoods),
    low: 65.0,
    high: 78.0,
    outer_low: 60.0,
    outer_high: 80.0,
    source: "workshop rule: never over 80; lower outer end a house choice",
};

const ELBOW: Range = Range {
    output: Output::Elbow,
    hands: Some(HandPlace::Hoods),
    low: 15.0,
    high: 30.0,
    outer_low: 10.0,
    outer_high: 45.0,
    source: "workshop rule; outer ends a house choice",
};

/// Road endurance, hands on the hoods.
const ROAD: &[Range] = &[
    KNEE,
    Range {
        output: Output::Torso,
        hands: Some(HandPlace::Hoods),
        low: 40.0,
        high: 50.0,
        outer_low: 35.0,
        outer_high: 55.0,
        source: "workshop rule: road, hands on the hoods; outer from the race range (house choice)",
    },
    SHOULDER,
    ELBOW,
];

/// Road race, hands on the hoods.
const RACE: &[Range] = &[
    KNEE,
    Range {
        output: Output::Torso,
        hands: Some(HandPlace::Hoods),
        low: 35.0,
        high: 45.0,
        outer_low: 30.0,
        outer_high: 50.0,
        source: "workshop rule: race, hands on the hoods; outer ends 5° further (house choice)",
    },
    SHOULDER,
    ELBOW,
];

/// Drop as a share of straight saddle height, to the pads' centre: modest below it, extreme beyond its outer end.
pub(crate) const DROP_SHARE: Range = Range {
    output: Output::DropShare,
    hands: Some(HandPlace::Pads),
    low: 13.0,
    high: 17.0,
    outer_low: 5.0,
    outer_high: 20.0,
    source: "workshop rule: under 13 modest, 13–17 the usual aim, over 20 extreme; lower outer end a house choice",
};

/// Time trial, elbows on the pads.
const TIME_TRIAL: &[Range] = &[
    KNEE,
    Range {
        output: Output::SeatAngle,
        hands: None,
        low: 78.0,
        high: 82.0,
        outer_low: 76.0,
        outer_high: 84.0,
        source: "workshop rule: 78–80 moderate, 82–84 extreme; lower outer end a house choice",
    },
    DROP_SHARE,
    Range {
        output: Output::Torso,
        hands: Some(HandPlace::Pads),
        low: 18.0,
        high: 25.0,
        outer_low: 14.0,
        outer_high: 32.0,
        source: "house choice: what the linkage reads at 13 to 17 % of drop; outer ends too",
    },
];

/// Gravel, hands on the hoods.
const GRAVEL: &[Range] = &[
    KNEE,
    Range {
        output: Output::Torso,
        hands: Some(HandPlace::Hoods),
        low: 42.0,
        high: 54.0,
        outer_low: 37.0,
        outer_high: 60.0,
        source: "house choice: a little above road, the trade has no range of its own",
    },
];

/// Touring and town, hands on the grips.
const CITY: &[Range] = &[
    KNEE,
    Range {
        output: Output::Torso,
        hands: Some(HandPlace::Grips),
        low: 55.0,
        high: 70.0,
        outer_low: 50.0,
        outer_high: 85.0,
        source: "workshop rule: touring and city; outer ends a house choice",
    },
];

/// Trail, seated, hands on the grips.
const OFF_ROAD: &[Range] = &[
    KNEE,
    Range {
        output: Output::Torso,
        hands: Some(HandPlace::Grips),
        low: 50.0,
        high: 65.0,
        outer_low: 45.0,
        outer_high: 70.0,
        source: "workshop rule: trail, seated; outer ends a house choice",
    },
];

/// The ranges of a kind of riding. Where the trade has none for the hands or the back, there is none.
pub fn ranges(kind: Kind) -> &'static [Range] {
    match kind {
        Kind::Road => ROAD,
        Kind::Race => RACE,
        Kind::TimeTrial => TIME_TRIAL,
        Kind::Gravel => GRAVEL,
        Kind::City => CITY,
        Kind::OffRoad => OFF_ROAD,
        // Stood more than sat: the trade judges it by what is tried.
        Kind::Gravity => &[KNEE],
    }
}

/// A studio's own range in the place of the house's, or where the house has none.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct OwnRange {
    /// What it is a range of.
    pub output: Output,
    /// Where the hands must be for it to hold; anywhere when none.
    #[serde(default)]
    pub hands: Option<HandPlace>,
    /// Least of the range.
    pub low: f64,
    /// Largest of the range.
    pub high: f64,
    /// Least of the outer range.
    pub outer_low: f64,
    /// Largest of the outer range.
    pub outer_high: f64,
}

impl OwnRange {
    /// Whether it stands in the place of this one.
    fn replaces(&self, range: &Range) -> bool {
        (self.output, self.hands) == (range.output, range.hands)
    }

    /// Everything that cannot be accepted, each with its JSON pointer below `at`: the four ends are in order, lie
    /// where such a value can, and leave something between them.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let ends = [
            ("outer_low", self.outer_low),
            ("low", self.low),
            ("high", self.high),
            ("outer_high", self.outer_high),
        ];
        let mut all: Vec<Refusal> = ends
            .iter()
            .filter_map(|(key, value)| self.output.refuse_seen(*value, &format!("{at}/{key}")))
            .collect();
        if !all.is_empty() {
            return all;
        }
        for ([(_, less), (key, more)], what) in [
            (
                [ends[0], ends[1]],
                "The range begins inside the outer range",
            ),
            ([ends[1], ends[2]], "The range ends above where it begins"),
            ([ends[2], ends[3]], "The outer range ends beyond the range"),
        ] {
            let strict = key == "high";
            if less > more || (strict && less >= more) {
                all.push(Refusal::new(format!("{at}/{key}"), what));
            }
        }
        all
    }
}

/// The ranges of a kind of riding in a studio: its own in the place of the house's.
pub fn ranges_with(kind: Kind, own: &[OwnRange]) -> Vec<Range> {
    let kept = ranges(kind)
        .iter()
        .filter(|range| !own.iter().any(|o| o.replaces(range)))
        .copied();
    let mut all: Vec<Range> = kept
        .chain(own.iter().map(|own| Range {
            output: own.output,
            hands: own.hands,
            low: own.low,
            high: own.high,
            outer_low: own.outer_low,
            outer_high: own.outer_high,
            source: "this studio's own",
        }))
        .collect();
    all.sort_by_key(|range| Output::ALL.iter().position(|o| *o == range.output));
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    fn own(outer_low: f64, low: f64, high: f64, outer_high: f64) -> OwnRange {
        OwnRange {
            output: Output::KneeAtFullReach,
            hands: None,
            low,
            high,
            outer_low,
            outer_high,
        }
    }

    #[test]
    fn a_studio_s_range_takes_the_place_of_the_house_s() {
        let all = ranges_with(Kind::Road, &[own(25.0, 28.0, 33.0, 36.0)]);
        assert_eq!(all.len(), ROAD.len());
        assert_eq!(all[0].output, Output::KneeAtFullReach);
        assert_eq!((all[0].low, all[0].high), (28.0, 33.0));
        assert_eq!(all[0].source, "this studio's own");
        assert_eq!(&all[1..], &ROAD[1..]);
        // Where the house has none, it is added, in the order of a fit.
        let torso = OwnRange {
            output: Output::Torso,
            hands: Some(HandPlace::Hoods),
            ..own(40.0, 45.0, 60.0, 70.0)
        };
        let gravel = ranges_with(Kind::Gravel, &[torso]);
        assert_eq!(
            gravel.iter().map(|r| r.output).collect::<Vec<_>>(),
            [Output::KneeAtFullReach, Output::Torso]
        );
    }

    #[test]
    fn ends_out_of_order_are_refused_where_they_stand() {
        for (range, pointer) in [
            (own(30.0, 35.0, 40.0, 43.0), None),
            (own(35.0, 35.0, 40.0, 40.0), None),
            (own(36.0, 35.0, 40.0, 43.0), Some("/low")),
            (own(30.0, 40.0, 40.0, 43.0), Some("/high")),
            (own(30.0, 35.0, 40.0, 39.0), Some("/outer_high")),
            (own(-200.0, 35.0, 40.0, 43.0), Some("/outer_low")),
            (own(30.0, 35.0, f64::NAN, 43.0), Some("/high")),
        ] {
            let refusals = range.refusals("");
            assert_eq!(
                refusals.first().map(|r| r.pointer.as_str()),
                pointer,
                "{range:?}"
            );
        }
    }
}
