//! What the judge proposes, in the fitter's words: what it is called, where on the way it is done, and what it rests on.

use super::axis::{About, Axis, Suspect};
use super::decide::{AxisBelief, Candidate, Charged};
use super::fault::Fault;
use crate::trial::Protocol;
use crate::units::Side;
use crate::words::{capital, written};
use crate::work::Station;

/// What a proposal is called and where it is done.
#[derive(Debug, Clone, PartialEq)]
pub struct Called {
    /// "Saddle height: creep up".
    pub title: String,
    /// Where on the way.
    pub station: Station,
    /// What to do, where the title does not say it.
    pub how: &'static str,
    /// The protocol it is, where it is one.
    pub protocol: Option<Protocol>,
}

impl Axis {
    /// Where on the way it is decided.
    pub fn station(self) -> Station {
        match self {
            Self::Height => Station::SaddleHeight,
            Self::Setback | Self::Tilt | Self::SaddleWidth => Station::Setback,
            Self::Reach | Self::Bars | Self::BarWidth | Self::Levers => Station::Bars,
            Self::Crank => Station::Cranks,
            Self::CleatL
            | Self::CleatR
            | Self::TurnL
            | Self::TurnR
            | Self::StanceL
            | Self::StanceR => Station::Feet,
        }
    }

    /// The axis of a key; "cleat" is the left one's.
    pub fn of_key(key: &str) -> Option<Self> {
        let key = if key == "cleat" { "cleat_l" } else { key };
        Self::ALL.iter().copied().find(|axis| axis.key() == key)
    }

    /// Its unit, as it follows a number.
    pub fn unit(self) -> &'static str {
        if self.spec().is_mm { " mm" } else { "°" }
    }

    /// "8 mm", "1.5°".
    pub fn amount(self, by: f64) -> String {
        written(by.abs()) + self.unit()
    }
}

/// The fault of a key, with its side where it has one; nothing where there is no such fault.
pub fn fault_of(key: &str) -> Option<(Fault, Option<Side>)> {
    let suspect = Suspect::all().find(|suspect| suspect.key() == key)?;
    Fault::ALL.iter().find_map(|fault| {
        let sides = [None, Some(Side::Left), Some(Side::Right)];
        sides.into_iter().find_map(|side| {
            let of = fault.suspects(side, false);
            (of.len() == 1 && of[0] == suspect).then_some((*fault, side))
        })
    })
}

/// "Saddle too high", "Cleat too far forward, left".
pub fn fault_words(key: &str) -> String {
    fault_of(key).map_or_else(
        || key.to_owned(),
        |(fault, side)| crate::words::sided(fault.label(), side),
    )
}

/// What would prove a fault wrong once it was mended.
pub fn wrong_if(key: &str) -> Option<&'static str> {
    fault_of(key).map(|(fault, _)| fault.settling().wrong_if)
}

impl Charged {
    /// Whether it is an axis's, and which.
    pub fn axis(&self) -> Option<Axis> {
        let suspect = Suspect::all().find(|suspect| suspect.key() == self.fault)?;
        match suspect.about {
            About::Place(axis) => Some(axis),
            About::There(_) => None,
        }
    }
}

impl AxisBelief {
    /// Which axis.
    pub fn of(&self) -> Axis {
        Axis::of_key(self.axis).unwrap_or(Axis::Height)
    }

    /// Which way it most likely stands out, and how likely: 1 too far in +, −1 in −.
    pub fn leans(&self) -> (f64, f64) {
        let (plus, _, minus) = self.chances;
        if plus >= minus {
            (1.0, plus)
        } else {
            (-1.0, minus)
        }
    }

    /// "97 % too high", "68 % in its window".
    pub fn words(&self) -> String {
        let (way, chance) = self.leans();
        let (plus, minus) = self.of().spec().words;
        let fine = self.chances.1;
        if fine >= chance {
            return format!("{} in its window", percent(fine));
        }
        let word = if way > 0.0 { plus } else { minus };
        format!("{} too {}", percent(chance), end(word))
    }
}

/// "97 %"; nothing is certain.
pub fn percent(chance: f64) -> String {
    match 100.0 * chance {
        sure if sure > 99.0 => "over 99 %".to_owned(),
        unlikely if unlikely < 1.0 => "under 1 %".to_owned(),
        chance => format!("{chance:.0} %"),
    }
}

/// "high", "far back", "far turned out".
fn end(word: &str) -> String {
    match word {
        "back" | "forward" | "up" | "down" => format!("far {word}"),
        "out" | "in" => format!("far turned {word}"),
        _ => word.to_owned(),
    }
}

/// What is proposed besides bolts: its key, what it is called, where on the way it is done, how, and the protocol it is.
type Proposal = (
    &'static str,
    &'static str,
    Station,
    &'static str,
    Option<Protocol>,
);

const PROPOSALS: &[Proposal] = &[
    (
        "creep_up",
        "Creep up",
        Station::SaddleHeight,
        "",
        Some(Protocol::CreepUp),
    ),
    (
        "sweep",
        "Sweep the rails",
        Station::Setback,
        "",
        Some(Protocol::RailSweep),
    ),
    (
        "tilt_gauge",
        "Gauge the tilt",
        Station::Setback,
        "",
        Some(Protocol::Tilt),
    ),
    (
        "bracket_reach",
        "Bracket the reach",
        Station::Bars,
        "",
        Some(Protocol::Bracket),
    ),
    (
        "bracket_bars",
        "Bracket the height",
        Station::Bars,
        "",
        Some(Protocol::Bracket),
    ),
    (
        "crank_compare",
        "Compare cranks",
        Station::Cranks,
        "",
        Some(Protocol::CrankComparison),
    ),
    (
        "wrist_line",
        "Wrists and levers",
        Station::Bars,
        "",
        Some(Protocol::WristLine),
    ),
    (
        "balance",
        "Balance test",
        Station::Setback,
        "",
        Some(Protocol::Balance),
    ),
    (
        "hanging_foot_left",
        "See how the left foot hangs",
        Station::Feet,
        "Sit on a table, let the foot hang, and turn the cleat to where it points by itself",
        None,
    ),
    (
        "hanging_foot_right",
        "See how the right foot hangs",
        Station::Feet,
        "Sit on a table, let the foot hang, and turn the cleat to where it points by itself",
        None,
    ),
    (
        "ladder_left",
        "Climb the left knee’s ladder",
        Station::Feet,
        "Turn, stance, arch, wedge: one rung at a time",
        None,
    ),
    (
        "ladder_right",
        "Climb the right knee’s ladder",
        Station::Feet,
        "Turn, stance, arch, wedge: one rung at a time",
        None,
    ),
    (
        "look_hips",
        "Look at the hips from behind",
        Station::FirstLook,
        "Do they rock, dip, hike or twist?",
        None,
    ),
    (
        "look_upper",
        "Look at elbows and shoulders",
        Station::FirstLook,
        "Locked, drawn forward, hunched, pushed back?",
        None,
    ),
    (
        "look_knees",
        "Look at the knees from the front",
        Station::FirstLook,
        "Their way, and where the heels end in their float",
        None,
    ),
    (
        "look_foot",
        "Look at the feet at the bottom",
        Station::FirstLook,
        "Do the toes point, is the bottom choppy?",
        None,
    ),
    (
        "measure_legs",
        "Measure the legs’ lengths",
        Station::Body,
        "Thigh and shank apart, lying down",
        None,
    ),
    (
        "measure_again",
        "Measure the rider again",
        Station::Body,
        "Still growing, and last measured long ago",
        None,
    ),
    (
        "repeat",
        "Ride the last trial again",
        Station::SaddleHeight,
        "At the same effort, until it can be told from a guess",
        None,
    ),
    (
        "rest",
        "Nothing to turn: two easy weeks",
        Station::Intake,
        "The load rose; turn nothing, ride easy, and look again",
        None,
    ),
    (
        "shoe",
        "Open the shoe, or try a wider one",
        Station::Feet,
        "For one ride, nothing else changed",
        None,
    ),
    (
        "relief",
        "A saddle with relief",
        Station::Setback,
        "A channel or a cut-out, its stack carried over",
        None,
    ),
    (
        "strengthen",
        "Strengthen the trunk",
        Station::HandOut,
        "It is trained, not fitted: the position waits for it",
        None,
    ),
    (
        "stretch",
        "Loosen hips and hamstrings",
        Station::HandOut,
        "It takes weeks: the position waits for it",
        None,
    ),
    (
        "done",
        "Nothing: done",
        Station::HandOut,
        "Nothing left is worth a bolt: write it down",
        None,
    ),
    (
        "refer",
        "Refer",
        Station::HandOut,
        "A clinician’s look first: the question stands on the hand-out",
        None,
    ),
    (
        "put_back",
        "Put it back",
        Station::SaddleHeight,
        "It got worse: the setup before goes back on the bench",
        None,
    ),
];

/// What a candidate is called. A move that turns bolts is named after them where they are known; this is its plain name.
pub fn called(candidate: &Candidate) -> Called {
    let side = candidate.side.map_or("", Side::word);
    let at_the_feet = |title: String, how| Called {
        title,
        station: Station::Feet,
        how,
        protocol: None,
    };
    let known = PROPOSALS.iter().find(|(key, ..)| *key == candidate.what);
    match (known, candidate.what.as_str()) {
        (Some((_, title, station, how, protocol)), _) => Called {
            title: (*title).to_owned(),
            station: *station,
            how,
            protocol: *protocol,
        },
        (None, "footbed") => at_the_feet(
            format!("A footbed in the {side} shoe"),
            "For one ride, nothing else changed",
        ),
        (None, "shim") => at_the_feet(
            format!("Shim the {side} foot {} mm", written(candidate.amount)),
            "Half of what was measured at most, as the makers of cleat and bolts allow",
        ),
        _ => moved(candidate),
    }
}

/// A move by its axis: "Saddle height down 5 mm".
fn moved(candidate: &Candidate) -> Called {
    let axis = candidate
        .of
        .or_else(|| candidate.axis.as_deref().and_then(Axis::of_key));
    let Some(axis) = axis else {
        return Called {
            title: capital(&candidate.what.replace('_', " ")),
            station: Station::FirstLook,
            how: "",
            protocol: None,
        };
    };
    let more = candidate.dir == Some("+");
    let way = match (axis, more) {
        (Axis::Height | Axis::Bars | Axis::Tilt | Axis::Levers, true) => "up",
        (Axis::Height | Axis::Bars | Axis::Tilt | Axis::Levers, false) => "down",
        (Axis::Setback | Axis::CleatL | Axis::CleatR, true) => "back",
        (Axis::Setback | Axis::CleatL | Axis::CleatR, false) => "forward",
        (Axis::Reach, true) => "farther",
        (Axis::Reach, false) => "nearer",
        (Axis::BarWidth | Axis::SaddleWidth, true) => "wider",
        (Axis::BarWidth | Axis::SaddleWidth, false) => "narrower",
        (Axis::Crank, true) => "longer",
        (Axis::Crank, false) => "shorter",
        (Axis::TurnL | Axis::TurnR | Axis::StanceL | Axis::StanceR, true) => "out",
        (Axis::TurnL | Axis::TurnR | Axis::StanceL | Axis::StanceR, false) => "in",
    };
    let what = match candidate.what.as_str() {
        "cleats" => "Both cleats",
        _ => match axis {
            Axis::Height | Axis::Setback => "Saddle",
            Axis::Tilt => "Saddle’s nose",
            Axis::Reach | Axis::Bars => "Hands",
            Axis::Levers => "Levers",
            Axis::BarWidth => "Bar",
            Axis::SaddleWidth => "Another saddle,",
            Axis::Crank => "Crank",
            Axis::CleatL => "Left cleat",
            Axis::CleatR => "Right cleat",
            Axis::TurnL => "Left heel",
            Axis::TurnR => "Right heel",
            Axis::StanceL => "Left foot",
            Axis::StanceR => "Right foot",
        },
    };
    let title = if candidate.amount > 0.0 {
        format!("{what} {way} {}", axis.amount(candidate.amount))
    } else {
        format!("{what} {way}")
    };
    Called {
        title,
        station: axis.station(),
        how: match axis {
            Axis::SaddleWidth => "The stack carried over, nothing else changed",
            _ => "",
        },
        protocol: None,
    }
}
