//! The first look: what is seen of a rider that is no number.

use crate::measure::{Refusal, within};
use crate::rule::rules;
use crate::units::Side;
use crate::words::{sided, words, written};
use serde::{Deserialize, Serialize};

words! {
    /// The way a knee goes, seen from the front.
    pub enum KneePath {
        Straight "straight" "Straight up and down",
        InPushing "in_pushing" "In while pushing",
        OutRising "out_rising" "Out while rising",
        SweptIn "swept_in" "Swept in all the way",
        SweptOut "swept_out" "Swept out all the way",
    }
}

words! {
    /// Where a knee goes in a slow bend to a third, off the bike and barefoot.
    pub enum KneeBend {
        In "in" "Knee goes in",
        Straight "straight" "Straight",
        Out "out" "Knee goes out",
    }
}

words! {
    /// How the pelvis sits.
    pub enum PelvisSeen {
        Quiet "quiet" "Quiet and level",
        Rocks "rocks" "Rocks from side to side",
        DipsLeft "dips_left" "Dips to the left",
        DipsRight "dips_right" "Dips to the right",
        Twisted "twisted" "Twisted, one knee ahead",
        RolledBack "rolled_back" "Rolled back, low back round",
        SlidesForward "slides_forward" "Slides onto the nose",
    }
}

words! {
    /// How the shoulders are held.
    pub enum ShouldersSeen {
        Quiet "quiet" "Quiet",
        Hunched "hunched" "Hunched up",
        DrawnForward "drawn_forward" "Drawn forward",
        PushedBack "pushed_back" "Pushed back",
        Rocking "rocking" "Rocking",
    }
}

impl KneePath {
    /// Whether the knee goes in towards the bike where it should not.
    pub fn goes_in(self) -> bool {
        matches!(self, Self::InPushing | Self::SweptIn)
    }
}

words! {
    /// Something seen or said of a rider that speaks for or against a place of the bike.
    pub enum Sign {
        HipsRock "hips_rock" "Hips rock",
        HipHikes "hip_hikes" "A hip is lifted over the top",
        ToesPoint "toes_point" "Toes point at the bottom",
        BottomChoppy "bottom_choppy" "Bottom of the stroke choppy",
        HeelDrops "heel_drops" "Heel drops",
        BalanceFails "balance_fails" "Falls onto the hands when they are lifted",
        BalanceEasy "balance_easy" "Lifts the hands with ease",
        KicksOverTop "kicks_over_top" "Kicks over the top",
        OnNose "on_nose" "Sits on the nose",
        SlidesForward "slides_forward" "Slides forward",
        SlidesBack "slides_back" "Slides back under load",
        ElbowsLocked "elbows_locked" "Elbows locked",
        ElbowsFlared "elbows_flared" "Elbows flared",
        KneesMeetElbows "knees_meet_elbows" "Knees meet the elbows",
        ShouldersDrawnForward "shoulders_drawn_forward" "Shoulders drawn forward",
        ShouldersHunched "shoulders_hunched" "Shoulders hunched up",
        ShouldersPushedBack "shoulders_pushed_back" "Shoulders pushed back",
        BackRounded "back_rounded" "Mid-back rounded",
        RolledBack "rolled_back" "Pelvis rolled back",
        NeckTired "neck_tired" "Neck tires from looking up",
        AlwaysTops "always_tops" "Always on the tops",
        LikesDrops "likes_drops" "Happier in the drops",
        FeelsLong "feels_long" "Bike feels long",
        BrakesFar "brakes_far" "Levers hard to reach",
        WristsRolled "wrists_rolled" "Wrist rolled outward",
        HandsHeavy "hands_heavy" "Hand heavy",
        VagueSteering "vague_steering" "Steering vague",
        TwitchySteering "twitchy_steering" "Steering twitchy",
        BreathingTight "breathing_tight" "Breathing tight",
        CannotHold "cannot_hold" "Cannot hold the place",
        FallsOntoFront "falls_onto_front" "Falls onto the front",
        Twisted "twisted" "Sits twisted",
        Dips "dips" "A hip dips",
        Aside "aside" "Sits to one side",
        Rubs "rubs" "Saddle rubs the thighs",
        Shuffles "shuffles" "Keeps shuffling",
        KneeSweptIn "knee_swept_in" "Knee swept in",
        KneeSweptOut "knee_swept_out" "Knee swept out",
        KneeInPushing "knee_in_pushing" "Knee in while pushing",
        FloatEndIn "float_end_in" "Heel meets the inner end of its float",
        FloatEndOut "float_end_out" "Heel meets the outer end of its float",
    }
}

words! {
    /// Where one stands, or whom one asks, to learn of a sign.
    pub enum SignGroup {
        Legs "legs" "Legs and feet",
        Seat "seat" "On the saddle",
        Upper "upper" "Shoulders, elbows, back",
        Hands "hands" "Hands and steering",
    }
}

rules! {
    rules "Looking";
    /// A hand is heavy from here on, of 10.
    pub(crate) const HEAVY_HAND: f64 = 5.0, " of 10", House;
    /// And light up to here.
    pub(crate) const LIGHT_HAND: f64 = 2.0, " of 10", House;
}

impl Sign {
    /// Whether left and right are told apart.
    pub fn per_side(self) -> bool {
        matches!(
            self,
            Self::HipHikes
                | Self::BottomChoppy
                | Self::HeelDrops
                | Self::Dips
                | Self::WristsRolled
                | Self::HandsHeavy
                | Self::KneeSweptIn
                | Self::KneeSweptOut
                | Self::KneeInPushing
                | Self::FloatEndIn
                | Self::FloatEndOut
        )
    }

    /// Where it is looked for. `None` of one that is told by another entry: a knee's path, how the pelvis sits or the
    /// shoulders are held, the weight on a hand, notes of the saddle, a test.
    pub fn group(self) -> Option<SignGroup> {
        Some(match self {
            Self::HipHikes
            | Self::ToesPoint
            | Self::BottomChoppy
            | Self::HeelDrops
            | Self::KicksOverTop
            | Self::FloatEndIn
            | Self::FloatEndOut => SignGroup::Legs,
            Self::OnNose | Self::SlidesBack | Self::FallsOntoFront | Self::CannotHold => {
                SignGroup::Seat
            }
            Self::ElbowsLocked
            | Self::ElbowsFlared
            | Self::KneesMeetElbows
            | Self::BackRounded
            | Self::NeckTired
            | Self::BreathingTight => SignGroup::Upper,
            Self::AlwaysTops
            | Self::LikesDrops
            | Self::FeelsLong
            | Self::BrakesFar
            | Self::WristsRolled
            | Self::VagueSteering
            | Self::TwitchySteering => SignGroup::Hands,
            _ => return None,
        })
    }
}

/// A sign as it was looked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct SignSeen {
    /// Which.
    pub sign: Sign,
    /// On which side, where there are two; both when none.
    #[serde(default)]
    pub side: Option<Side>,
    /// Whether it is there; none takes back what was said of it.
    pub there: Option<bool>,
}

impl SignSeen {
    /// What is wrong with it, pointing below `at`.
    pub fn refusal(self, at: &str) -> Option<Refusal> {
        (self.side.is_some() && !self.sign.per_side())
            .then(|| Refusal::new(format!("{at}/side"), "That has no left and right"))
    }

    /// "Wrist rolled outward, left" and, where it is not, "no: …".
    pub fn words(self) -> String {
        let what = sided(self.sign.label(), self.side);
        match self.there {
            Some(false) => format!("No: {}", crate::words::lower(&what)),
            _ => what,
        }
    }
}

/// Further from the elbow than any ear.
const EAR_FAR_MM: f64 = 400.0;

/// What a hand carries, as the rider rates it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct HandWeight {
    /// Which hand.
    pub side: Side,
    /// From 0, nothing, to 10, all there is; none takes the last one back.
    pub weight: Option<f64>,
}

impl HandWeight {
    /// What is wrong with it, pointing below `at`.
    pub fn refusal(self, at: &str) -> Option<Refusal> {
        let what = "The weight on a hand";
        (self.weight).and_then(|weight| within(format!("{at}/weight"), weight, 0.0, 10.0, what))
    }

    /// The sign it stands for: heavy, light, or neither.
    pub fn sign(self) -> Option<SignSeen> {
        let weight = self.weight?;
        let there = match weight {
            heavy if heavy >= HEAVY_HAND => true,
            light if light <= LIGHT_HAND => false,
            _ => return None,
        };
        Some(SignSeen {
            sign: Sign::HandsHeavy,
            side: Some(self.side),
            there: Some(there),
        })
    }

    /// "6 of 10".
    pub fn words(self) -> String {
        self.weight
            .map_or_else(String::new, |weight| format!("{} of 10", written(weight)))
    }
}

/// Where the ear is over the elbow, on pads, as seen from the side: never read off a drawn head.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct EarSeen {
    /// How far ahead of the crease of the elbow, mm, behind it negative; none takes the last one back.
    pub ahead_mm: Option<f64>,
}

impl EarSeen {
    /// What is wrong with it, pointing below `at`.
    pub fn refusal(self, at: &str) -> Option<Refusal> {
        let what = "The ear ahead of the elbow, in mm,";
        (self.ahead_mm)
            .and_then(|mm| within(format!("{at}/ahead_mm"), mm, -EAR_FAR_MM, EAR_FAR_MM, what))
    }

    /// "15 mm ahead of it".
    pub fn words(self) -> Option<String> {
        let mm = self.ahead_mm?;
        let way = if mm < 0.0 { "behind" } else { "ahead of" };
        Some(format!("{} mm {way} it", written(mm.abs())))
    }
}

impl KneePath {
    /// The sign it is; none of a straight one.
    pub fn sign(self) -> Option<Sign> {
        match self {
            Self::InPushing => Some(Sign::KneeInPushing),
            Self::SweptIn => Some(Sign::KneeSweptIn),
            Self::SweptOut => Some(Sign::KneeSweptOut),
            Self::Straight | Self::OutRising => None,
        }
    }
}

impl PelvisSeen {
    /// The sign it is, with its side; none of a quiet one.
    pub fn sign(self) -> Option<(Sign, Option<Side>)> {
        match self {
            Self::Quiet => None,
            Self::Rocks => Some((Sign::HipsRock, None)),
            Self::DipsLeft => Some((Sign::Dips, Some(Side::Left))),
            Self::DipsRight => Some((Sign::Dips, Some(Side::Right))),
            Self::Twisted => Some((Sign::Twisted, None)),
            Self::RolledBack => Some((Sign::RolledBack, None)),
            Self::SlidesForward => Some((Sign::SlidesForward, None)),
        }
    }

    /// What a quiet pelvis is not.
    pub const NOT_QUIET: [Sign; 4] = [
        Sign::HipsRock,
        Sign::Dips,
        Sign::Twisted,
        Sign::SlidesForward,
    ];
}

impl ShouldersSeen {
    /// The sign it is; none of quiet ones.
    pub fn sign(self) -> Option<Sign> {
        match self {
            Self::Hunched => Some(Sign::ShouldersHunched),
            Self::DrawnForward => Some(Sign::ShouldersDrawnForward),
            Self::PushedBack => Some(Sign::ShouldersPushedBack),
            Self::Quiet | Self::Rocking => None,
        }
    }

    /// What quiet shoulders are not.
    pub const NOT_QUIET: [Sign; 3] = [
        Sign::ShouldersHunched,
        Sign::ShouldersDrawnForward,
        Sign::ShouldersPushedBack,
    ];
}
