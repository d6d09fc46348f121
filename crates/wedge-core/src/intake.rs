//! Intake: what the rider comes with, where it hurts, and what stops a fit before it begins.

mod goals;

pub use goals::{Goal, Goals};

use crate::measure::{Quantity, Refusal, within};
use crate::units::Side;
use crate::words::{ended, words};
use serde::{Deserialize, Serialize};

words! {
    /// Where on the body.
    pub enum Place {
        Head "head" "Head",
        Neck "neck" "Neck",
        Shoulder "shoulder" "Shoulder",
        ShoulderBlades "shoulder_blades" "Between the shoulder blades",
        UpperArm "upper_arm" "Upper arm",
        Elbow "elbow" "Elbow",
        Wrist "wrist" "Wrist",
        Hand "hand" "Hand",
        Chest "chest" "Chest",
        LowBack "low_back" "Low back",
        HipFront "hip_front" "Front of the hip",
        HipOutside "hip_outside" "Outside of the hip",
        Seat "seat" "Sit bone",
        Saddle "saddle" "Saddle area, front",
        ThighFront "thigh_front" "Front of the thigh",
        ThighBack "thigh_back" "Back of the thigh",
        KneeFront "knee_front" "Front of the knee",
        KneeBehind "knee_behind" "Behind the knee",
        KneeInside "knee_inside" "Inside of the knee",
        KneeOutside "knee_outside" "Outside of the knee",
        Shin "shin" "Shin",
        Calf "calf" "Calf",
        Achilles "achilles" "Achilles tendon",
        Ankle "ankle" "Ankle",
        FootBall "foot_ball" "Ball of the foot",
        FootSole "foot_sole" "Arch and heel",
        Toes "toes" "Toes",
    }
}

impl Place {
    /// Whether the body has it twice.
    pub fn per_side(self) -> bool {
        !matches!(
            self,
            Self::Head
                | Self::Neck
                | Self::ShoulderBlades
                | Self::Chest
                | Self::LowBack
                | Self::Saddle
        )
    }
}

words! {
    /// How it feels.
    pub enum Feel {
        Pain "pain" "Pain",
        Numb "numb" "Numb",
        Sore "sore" "Sore skin",
        Tight "tight" "Tight",
    }
}

words! {
    /// When it comes.
    pub enum When {
        Start "start" "From the start",
        AfterAWhile "after_a_while" "After a while",
        Late "late" "Late in the ride",
        After "after" "After the ride",
        NextDay "next_day" "The day after",
    }
}

words! {
    /// Where in the stroke.
    pub enum Stroke {
        AllRound "all_round" "All the way round",
        Top "top" "Over the top",
        Pushing "pushing" "Pushing down",
        Bottom "bottom" "At the bottom",
        Rising "rising" "Coming up",
        NotTied "not_tied" "Not tied to the stroke",
    }
}

words! {
    /// At what effort.
    pub enum At {
        Any "any" "At any effort",
        Easy "easy" "Riding easy",
        Steady "steady" "Riding steady",
        Hard "hard" "Riding hard",
        Standing "standing" "Out of the saddle",
    }
}

words! {
    /// What the rider rides on.
    pub enum Surface {
        Paved "paved" "Paved",
        Mixed "mixed" "Mixed",
        Rough "rough" "Rough",
        Indoors "indoors" "Indoors",
    }
}

words! {
    /// How long the rider has been riding.
    pub enum Experience {
        New "new" "New to it",
        Some "some" "A few seasons",
        Seasoned "seasoned" "Many years",
        Racing "racing" "Races",
    }
}

words! {
    /// How small a change the rider notices.
    pub enum Notices {
        Little "little" "Large changes only",
        Centimetres "centimetres" "A centimetre",
        Millimetres "millimetres" "A few millimetres",
    }
}

words! {
    /// A sign that no fit should go on before a clinician has looked (workshop rule).
    pub enum Flag {
        NightPain "night_pain" "Pain at night or at rest",
        Swelling "swelling" "A swollen joint",
        GivesWay "gives_way" "A joint that locks or gives way",
        NumbnessStays "numbness_stays" "Numbness that stays after the ride",
        AfterCrash "after_crash" "Pain since a crash",
        FreshSurgery "fresh_surgery" "Surgery in the last weeks",
        ChestPain "chest_pain" "Chest pain",
        Fever "fever" "Fever with joint pain",
    }
}

impl Flag {
    /// Why it stops a fit.
    pub fn why(self) -> &'static str {
        match self {
            Self::NightPain => {
                "Pain at rest is not made by the position, so no position takes it away."
            }
            Self::Swelling => {
                "A swollen joint is injured or inflamed: load and range must be cleared first."
            }
            Self::GivesWay => {
                "Locking and giving way point at something torn or loose inside the joint."
            }
            Self::NumbnessStays => {
                "A nerve that stays numb is being harmed, above all in the saddle area; waiting makes it worse."
            }
            Self::AfterCrash => {
                "A break or a torn ligament must be ruled out before the joint is loaded."
            }
            Self::FreshSurgery => "What may be loaded and bent is the surgeon's to say.",
            Self::ChestPain => "Chest pain on effort can be the heart.",
            Self::Fever => "Fever with a painful joint can be an infection, which is urgent.",
        }
    }

    /// What to do instead.
    pub fn instead(self) -> &'static str {
        match self {
            Self::ChestPain => {
                "Stop. No effort today: call a doctor now, the emergency number if it is there now."
            }
            Self::Fever => "Stop. A doctor today.",
            Self::FreshSurgery => {
                "Stop. Ask for the surgeon's word on load and range, in writing; come back with it."
            }
            _ => "Stop. Refer to a licensed clinician; fit when they have cleared it.",
        }
    }
}

/// A place that hurts.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Complaint {
    /// What tells it from the others, made by whoever wrote it down; empty of those of before.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub id: String,
    /// Where.
    pub place: Place,
    /// On which side, where there are two; both when none.
    #[serde(default)]
    pub side: Option<Side>,
    /// How it feels.
    pub feel: Feel,
    /// When in the ride.
    #[serde(default)]
    pub when: Option<When>,
    /// Where in the stroke.
    #[serde(default)]
    pub stroke: Option<Stroke>,
    /// At what effort.
    #[serde(default)]
    pub effort: Option<At>,
    /// How bad, from 0, nothing, to 10, the worst there is.
    #[serde(default)]
    pub how_bad: Option<u8>,
    /// In the rider's words.
    #[serde(default)]
    pub words: String,
}

impl Complaint {
    /// How bad, 0 to 10: the middle where nobody said.
    pub fn badness(&self) -> f64 {
        const MIDDLE: u8 = 5;
        f64::from(self.how_bad.unwrap_or(MIDDLE))
    }

    /// "Left front of the knee, pain 6 of 10, late in the ride, over the top, riding hard".
    pub fn line(&self) -> String {
        let place = self.place.label();
        let place = match (self.side, self.place.per_side()) {
            (Some(side), _) => format!("{place}, {}", side.word()),
            (None, true) => format!("{place}, both sides"),
            (None, false) => place.to_owned(),
        };
        let feel = self.feel.label().to_lowercase();
        let felt = match self.how_bad {
            Some(bad) => format!("{place}: {feel} {bad} of 10"),
            None => format!("{place}: {feel}"),
        };
        let parts = [
            self.when.map(When::label),
            self.stroke.map(Stroke::label),
            self.effort.map(At::label),
        ];
        let rest = parts.into_iter().flatten().map(str::to_lowercase);
        [felt]
            .into_iter()
            .chain(rest)
            .collect::<Vec<_>>()
            .join(", ")
    }
}

words! {
    /// A joint whose limit decides what a position may ask.
    pub enum Joint {
        Hip "hip" "Hip",
        Knee "knee" "Knee",
        Back "back" "Back",
    }
}

/// What was hurt before.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields, default)]
#[expect(
    clippy::struct_excessive_bools,
    reason = "four questions, each answered yes or no"
)]
pub struct Injury {
    /// What tells it from the others, made by whoever wrote it down; empty of those of before.
    #[serde(skip_serializing_if = "String::is_empty")]
    pub id: String,
    /// What, where and when.
    pub what: String,
    /// Which joint, where it is one whose limit matters.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub joint: Option<Joint>,
    /// On which side, where there are two; both when none.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub side: Option<Side>,
    /// Operated on.
    pub surgery: bool,
    /// A joint was replaced.
    pub replaced: bool,
    /// A knee or hip that will not fold any more.
    pub will_not_fold: bool,
    /// Who diagnosed it; empty when nobody did.
    pub diagnosed_by: String,
    /// Whether they looked at the rider as a rider.
    pub as_rider: bool,
}

impl Injury {
    /// Whether it takes from what a joint can do.
    pub fn stiffens(&self) -> bool {
        self.replaced || self.will_not_fold
    }

    /// Which joint it is of, and on which side: as chosen, else as its words say.
    pub fn of_the_joint(&self) -> Option<(Joint, Option<Side>)> {
        let says = |word: &str| {
            self.what
                .split(|c: char| !c.is_alphabetic())
                .any(|said| said.eq_ignore_ascii_case(word))
        };
        let joint = self
            .joint
            .or_else(|| Joint::ALL.iter().copied().find(|joint| says(joint.key())))?;
        let side = self
            .side
            .or_else(|| match Side::BOTH.map(|side| says(side.word())) {
                [true, false] => Some(Side::Left),
                [false, true] => Some(Side::Right),
                _ => None,
            });
        Some((joint, side))
    }
}

/// A written reason to go on with what would stop a fit.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct GoOn {
    /// The reason, in the fitter's words.
    pub reason: String,
    /// The flags it was given for; another one stops the fit again.
    pub flags: Vec<Flag>,
}

words! {
    /// What a visit is for.
    pub enum Visit {
        Full "full" "A whole fit",
        Complaint "complaint" "For what hurts",
    }
}

/// What the rider comes with.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields, default)]
pub struct Intake {
    /// What the visit is for: a whole fit, in which what is silent counts too, or a complaint; as it follows from the fit when
    /// nobody said.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub visit: Option<Visit>,
    /// What the fit is for.
    pub goals: Goals,
    /// What kind of riding, in the rider's words.
    pub riding: String,
    /// On what.
    pub surface: Option<Surface>,
    /// Hours of the longest ride.
    pub longest_ride_h: Option<f64>,
    /// What the rider trains for.
    pub event: String,
    /// Hours it takes.
    pub event_h: Option<f64>,
    /// Whether a run follows.
    pub run_follows: bool,
    /// Grade of the climb the rider usually rides, in hundredths.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub usual_climb_percent: Option<f64>,
    /// The rider's own drag area, as somebody measured it, m².
    #[serde(skip_serializing_if = "Option::is_none")]
    pub drag_area_m2: Option<f64>,
    /// The air it is reckoned in, kg/m³.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub air_density_kg_m3: Option<f64>,
    /// The speed it is reckoned at, m/s.
    #[serde(skip_serializing_if = "Option::is_none")]
    pub speed_m_s: Option<f64>,
    /// The rider's work.
    pub work: String,
    /// Hours seated a day.
    pub seated_h: Option<f64>,
    /// Past injuries, surgery and replaced joints.
    pub injuries: Vec<Injury>,
    /// What the rider has been riding lately.
    pub load: String,
    /// Whether that rose suddenly: a cause of its own.
    pub load_rose: bool,
    /// How long the rider has been riding.
    pub experience: Option<Experience>,
    /// How small a change the rider notices.
    pub notices: Option<Notices>,
    /// Where it hurts.
    pub complaints: Vec<Complaint>,
    /// Whether the rider was asked for red flags.
    pub flags_asked: bool,
    /// The red flags that are there.
    pub flags: Vec<Flag>,
    /// Why the fit goes on all the same.
    pub go_on: Option<GoOn>,
}

/// What stops a fit, why, and what to do instead.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Stop {
    /// The flag.
    pub flag: Flag,
    /// What was found.
    pub label: String,
    /// Why it stops a fit.
    pub why: String,
    /// What to do.
    pub instead: String,
    /// Whether a written reason covers it.
    pub covered: bool,
}

impl Intake {
    /// The red flags that are there: those that were asked for, and numbness in the saddle area that outlasts the ride.
    fn standing(&self) -> Vec<Flag> {
        let numb = self
            .complaints
            .iter()
            .any(|c| c.feel == Feel::Numb && matches!(c.when, Some(When::After | When::NextDay)));
        let chest = self
            .complaints
            .iter()
            .any(|c| c.place == Place::Chest && c.feel == Feel::Pain);
        Flag::ALL
            .iter()
            .copied()
            .filter(|flag| {
                self.flags.contains(flag)
                    || (numb && *flag == Flag::NumbnessStays)
                    || (chest && *flag == Flag::ChestPain)
            })
            .collect()
    }

    /// Everything that stops this fit, covered by a written reason or not.
    pub fn stops(&self) -> Vec<Stop> {
        let covered = |flag: &Flag| {
            (self.go_on.as_ref())
                .is_some_and(|go_on| !go_on.reason.trim().is_empty() && go_on.flags.contains(flag))
        };
        self.standing()
            .into_iter()
            .map(|flag| Stop {
                flag,
                label: flag.label().to_owned(),
                why: flag.why().to_owned(),
                instead: flag.instead().to_owned(),
                covered: covered(&flag),
            })
            .collect()
    }

    /// Whether the way is stopped.
    pub fn is_stopped(&self) -> bool {
        self.stops().iter().any(|stop| !stop.covered)
    }

    /// What the hand-out says of it: why the fit went on, what hurt, what is not the bike's doing.
    pub fn handout(&self) -> Vec<String> {
        let mut lines = Vec::new();
        if let Some(go_on) = &self.go_on {
            let flags: Vec<String> = (self.stops().iter().filter(|s| s.covered))
                .map(|stop| stop.label.to_lowercase())
                .collect();
            if !flags.is_empty() {
                lines.push(format!(
                    "The fit went on in spite of: {}. Reason given: {} This is no clearance: see a licensed clinician.",
                    flags.join(", "),
                    ended(go_on.reason.trim())
                ));
            }
        }
        lines.extend(self.complaints.iter().map(|c| format!("{}.", c.line())));
        if self.load_rose {
            lines.push(
                "Riding rose suddenly of late: that is a cause of its own, whatever the position."
                    .to_owned(),
            );
        }
        lines
    }

    /// Why a new position is reached in smaller steps; none where nothing asks for it.
    pub fn careful(&self) -> Option<String> {
        let why = [
            (!self.complaints.is_empty(), "something hurts"),
            (!self.injuries.is_empty(), "there was an injury"),
            (self.load_rose, "riding rose suddenly"),
            (
                self.experience == Some(Experience::New),
                "the rider is new to it",
            ),
        ];
        let so: Vec<&str> = why
            .iter()
            .filter_map(|(so, why)| so.then_some(*why))
            .collect();
        (!so.is_empty()).then(|| format!("Small steps: {}.", so.join(", ")))
    }

    /// Everything that cannot be accepted, each with its JSON pointer below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all: Vec<Refusal> = self.goals.refusal(at).into_iter().collect();
        for (quantity, value) in [
            (Quantity::LongestRide, self.longest_ride_h),
            (Quantity::Event, self.event_h),
            (Quantity::Seated, self.seated_h),
            (Quantity::UsualClimb, self.usual_climb_percent),
            (Quantity::DragArea, self.drag_area_m2),
            (Quantity::AirDensity, self.air_density_kg_m3),
            (Quantity::Speed, self.speed_m_s),
        ] {
            all.extend(value.and_then(|v| quantity.refuse(v, &format!("{at}/{}", quantity.key()))));
        }
        for (index, complaint) in self.complaints.iter().enumerate() {
            let at = format!("{at}/complaints/{index}");
            if let Some(bad) = complaint.how_bad {
                all.extend(within(
                    format!("{at}/how_bad"),
                    f64::from(bad),
                    0.0,
                    10.0,
                    "How bad it hurts",
                ));
            }
            if complaint.side.is_some() && !complaint.place.per_side() {
                all.push(Refusal::new(
                    format!("{at}/side"),
                    format!("{} has no left and right", complaint.place.label()),
                ));
            }
        }
        if let Some(go_on) = &self.go_on
            && go_on.reason.trim().len() < LEAST_REASON
        {
            all.push(Refusal::new(
                format!("{at}/go_on/reason"),
                "Write the reason so that the next reader understands it",
            ));
        }
        let texts = [
            ("riding", &self.riding),
            ("event", &self.event),
            ("work", &self.work),
            ("load", &self.load),
        ];
        for (key, text) in texts {
            if text.chars().count() > LONGEST_TEXT {
                all.push(Refusal::new(
                    format!("{at}/{key}"),
                    format!("{LONGEST_TEXT} letters at the most"),
                ));
            }
        }
        all
    }
}

/// A reason shorter than this is none.
const LEAST_REASON: usize = 10;
/// The most letters of one answer.
const LONGEST_TEXT: usize = 2000;

#[cfg(test)]
mod tests {
    use super::*;

    fn numb(when: When) -> Intake {
        Intake {
            complaints: vec![Complaint {
                id: String::new(),
                place: Place::Saddle,
                side: None,
                feel: Feel::Numb,
                when: Some(when),
                stroke: None,
                effort: Some(At::Steady),
                how_bad: Some(4),
                words: String::new(),
            }],
            ..Intake::default()
        }
    }

    #[test]
    fn every_flag_stops_the_way_until_a_reason_is_written_for_it() {
        assert!(!Intake::default().is_stopped());
        for flag in Flag::ALL {
            let mut intake = Intake {
                flags: vec![*flag],
                ..Intake::default()
            };
            assert!(intake.is_stopped(), "{flag:?}");
            let stop = &intake.stops()[0];
            assert!(stop.instead.starts_with("Stop.") && !stop.why.is_empty());
            intake.go_on = Some(GoOn {
                reason: "Cleared by her surgeon in writing".to_owned(),
                flags: vec![*flag],
            });
            assert!(!intake.is_stopped() && intake.refusals("").is_empty());
            assert!(
                intake.handout()[0]
                    .contains("Cleared by her surgeon in writing. This is no clearance")
            );
            // Another flag is not covered by that reason.
            intake.flags = Flag::ALL.to_vec();
            assert!(intake.is_stopped());
        }
    }

    #[test]
    fn numbness_that_outlasts_the_ride_is_a_flag_wherever_it_was_said() {
        assert!(numb(When::After).is_stopped());
        assert!(numb(When::NextDay).is_stopped());
        assert!(!numb(When::Late).is_stopped());
        assert_eq!(
            numb(When::Late).complaints[0].line(),
            "Saddle area, front: numb 4 of 10, late in the ride, riding steady"
        );
    }

    #[test]
    fn nonsense_is_refused_at_its_field() {
        let mut intake = numb(When::Late);
        intake.complaints[0].how_bad = Some(11);
        intake.complaints[0].side = Some(Side::Left);
        intake.goals = Goals(vec![vec![Goal::Power]]);
        intake.seated_h = Some(30.0);
        intake.go_on = Some(GoOn {
            reason: " ok ".to_owned(),
            flags: Vec::new(),
        });
        let pointers: Vec<String> = intake
            .refusals("/intake")
            .into_iter()
            .map(|r| r.pointer)
            .collect();
        assert_eq!(
            pointers,
            [
                "/intake/goals",
                "/intake/seated_h",
                "/intake/complaints/0/how_bad",
                "/intake/complaints/0/side",
                "/intake/go_on/reason"
            ]
        );
    }

    #[test]
    fn a_complaint_without_a_side_of_something_there_are_two_of_is_of_both() {
        let complaint = Complaint {
            place: Place::KneeFront,
            stroke: Some(Stroke::Top),
            ..numb(When::Start).complaints.remove(0)
        };
        assert_eq!(
            complaint.line(),
            "Front of the knee, both sides: numb 4 of 10, from the start, over the top, riding steady"
        );
    }
}
