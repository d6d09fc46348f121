//! The links of the judge: from what is felt, seen or found short to what may cause it, each with its strength and with how
//! often it comes without any of them.
//!
//! One table: causes of a complaint, what speaks for a fault, and what a sign tells are all read from it.
//! Strengths are craft, not data: about 0.6 often, 0.35 sometimes, 0.15 seldom, set by ear (house).

use super::Fault as F;
use super::axis::Hidden;
use super::case::Limited;
use crate::intake::{Place, Stroke};
use crate::looking::Sign;
use crate::rule::{Provenance, Rule};
use crate::words::lower;

/// A cause and how strongly it speaks: the chance that it alone brings the thing about when it is well out.
pub type Strength = (F, f64);

/// What may bring something about.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Causes {
    /// How often it comes without any of them.
    pub leak: f64,
    /// Its causes.
    pub links: &'static [Strength],
    /// What the place in the stroke makes of some of them.
    pub stroke: &'static [(Stroke, &'static [Strength])],
}

impl Causes {
    /// Its causes when it is felt at a place in the stroke: what that says of one takes the place of what is said of it
    /// elsewhere.
    pub fn at(&self, stroke: Option<Stroke>) -> Vec<Strength> {
        let told = (self.stroke.iter())
            .find(|(at, _)| Some(*at) == stroke)
            .map_or(&[][..], |(_, told)| *told);
        let mut all = self.links.to_vec();
        for (fault, strength) in told {
            match all.iter_mut().find(|(known, _)| known == fault) {
                Some((_, known)) => *known = *strength,
                None => all.push((*fault, *strength)),
            }
        }
        all
    }
}

/// Writes a table down as a function from what is observed to its causes.
macro_rules! causes {
    ($(#[$doc:meta])* $name:ident of $kind:ident:
        $($what:ident $leak:literal [$($fault:path, $strength:literal);* $(;)?]
            $($stroke:ident [$($then:path, $at:literal);* $(;)?])*;)*) => {
        $(#[$doc])*
        pub fn $name(what: $kind) -> Option<Causes> {
            Some(match what {
                $($kind::$what => Causes {
                    leak: $leak,
                    links: &[$(($fault, $strength)),*],
                    stroke: &[$((Stroke::$stroke, &[$(($then, $at)),*])),*],
                },)*
                #[allow(unreachable_patterns)]
                _ => return None,
            })
        }
    };
}

causes! {
    /// What may cause a complaint. `None` where nothing of a position is known to.
    felt of Place:
        KneeFront 0.06 [F::HeightLow, 0.6; F::SetbackForward, 0.5; F::CleatForward, 0.25; F::CrankLong, 0.1; F::Nose, 0.3; F::Load, 0.35]
            Top [F::CrankLong, 0.6; F::SetbackForward, 0.2]
            Pushing [F::CrankLong, 0.03]
            Bottom [F::HeightLow, 0.15; F::CrankLong, 0.03];
        KneeBehind 0.04 [F::HeightHigh, 0.6; F::SetbackBack, 0.3; F::Load, 0.15]
            Top [F::HeightHigh, 0.15];
        KneeOutside 0.05 [F::HeightHigh, 0.5; F::SetbackBack, 0.25; F::StanceNarrow, 0.3; F::StanceWide, 0.3; F::TurnIn, 0.3; F::TurnOut, 0.3; F::Dip, 0.5; F::Load, 0.15; F::Short, 0.15];
        KneeInside 0.05 [F::StanceWide, 0.4; F::StanceNarrow, 0.25; F::TurnIn, 0.5; F::TurnOut, 0.5; F::Dip, 0.35; F::Arch, 0.35; F::Load, 0.15];
        LowBack 0.08 [F::BarsLow, 0.5; F::ReachFar, 0.4; F::SetbackBack, 0.3; F::CrankLong, 0.25; F::Stiff, 0.35; F::Weak, 0.25; F::Short, 0.2];
        HipFront 0.05 [F::CrankLong, 0.6; F::HeightLow, 0.35; F::SetbackBack, 0.3; F::BarsLow, 0.35]
            Top [F::CrankLong, 0.7];
        Neck 0.08 [F::ReachFar, 0.5; F::BarsLow, 0.5; F::BarWidthWide, 0.3];
        Shoulder 0.06 [F::ReachFar, 0.35; F::BarWidthWide, 0.35; F::BarWidthNarrow, 0.2; F::BarsHigh, 0.15];
        ShoulderBlades 0.05 [F::ReachFar, 0.6; F::BarsLow, 0.25];
        Hand 0.07 [F::SetbackForward, 0.55; F::TiltDown, 0.35; F::ReachFar, 0.3; F::ReachClose, 0.35; F::BarsLow, 0.3; F::BarsHigh, 0.35; F::BarWidthWide, 0.35; F::HeightHigh, 0.25; F::Weak, 0.2; F::Dip, 0.6];
        Wrist 0.06 [F::LeversLow, 0.35; F::LeversHigh, 0.35; F::BarWidthWide, 0.35; F::SetbackForward, 0.35; F::TiltDown, 0.15];
        Elbow 0.06 [F::ReachFar, 0.35; F::LeversLow, 0.15; F::BarWidthWide, 0.15];
        FootBall 0.05 [F::CleatForward, 0.6; F::Shoe, 0.6; F::SetbackBack, 0.2];
        Toes 0.05 [F::CleatForward, 0.5; F::Shoe, 0.6; F::SetbackBack, 0.2];
        FootSole 0.06 [F::CleatForward, 0.35; F::Shoe, 0.3; F::Arch, 0.35];
        Saddle 0.06 [F::HeightHigh, 0.4; F::NoRelief, 0.6; F::TiltUp, 0.6; F::Nose, 0.45; F::SaddleNarrow, 0.15; F::SaddleWide, 0.2];
        Seat 0.06 [F::HeightHigh, 0.45; F::SaddleWide, 0.45; F::SaddleNarrow, 0.3; F::Nose, 0.35; F::BarsHigh, 0.25; F::Dip, 0.5; F::Twist, 0.35; F::TiltDown, 0.15];
        Calf 0.05 [F::CleatForward, 0.6; F::HeightHigh, 0.35; F::Load, 0.35];
        Achilles 0.05 [F::CleatForward, 0.55; F::HeightHigh, 0.35; F::Load, 0.35];
        ThighBack 0.05 [F::SetbackBack, 0.6; F::HeightHigh, 0.35];
        ThighFront 0.06 [F::SetbackForward, 0.55; F::HeightLow, 0.35; F::Load, 0.15];
        HipOutside 0.06 [F::HeightHigh, 0.35; F::StanceNarrow, 0.2; F::StanceWide, 0.2; F::Short, 0.2];
}

causes! {
    /// What a sign may come from.
    seen of Sign:
        HipsRock 0.05 [F::HeightHigh, 0.65; F::Weak, 0.3; F::CrankLong, 0.15; F::Short, 0.15];
        HipHikes 0.05 [F::HeightLow, 0.5; F::CrankLong, 0.5];
        ToesPoint 0.1 [F::HeightHigh, 0.4; F::CleatForward, 0.3];
        BottomChoppy 0.05 [F::HeightHigh, 0.7];
        HeelDrops 0.08 [F::CleatForward, 0.35; F::HeightLow, 0.35];
        BalanceFails 0.07 [F::SetbackForward, 0.75; F::ReachFar, 0.35; F::BarsLow, 0.15; F::TiltDown, 0.3; F::Weak, 0.3; F::HeightHigh, 0.15];
        BalanceEasy 0.25 [F::SetbackBack, 0.35];
        KicksOverTop 0.05 [F::SetbackBack, 0.55; F::CrankLong, 0.3];
        OnNose 0.04 [F::Nose, 0.9];
        SlidesForward 0.04 [F::Nose, 0.6; F::TiltDown, 0.6; F::SetbackForward, 0.15];
        ElbowsLocked 0.06 [F::ReachFar, 0.6; F::SetbackBack, 0.35; F::TiltDown, 0.3; F::SetbackForward, 0.15];
        ShouldersDrawnForward 0.05 [F::ReachFar, 0.65; F::SetbackBack, 0.3];
        ShouldersHunched 0.06 [F::BarsHigh, 0.6];
        ShouldersPushedBack 0.05 [F::ReachClose, 0.6];
        SlidesBack 0.05 [F::ReachClose, 0.55; F::SetbackForward, 0.3];
        AlwaysTops 0.12 [F::ReachFar, 0.5; F::BarsLow, 0.45];
        LikesDrops 0.06 [F::BarsHigh, 0.6; F::ReachClose, 0.15];
        VagueSteering 0.06 [F::BarsHigh, 0.4; F::BarWidthWide, 0.15; F::CrankShort, 0.15];
        WristsRolled 0.05 [F::BarWidthWide, 0.6; F::LeversLow, 0.3; F::LeversHigh, 0.3];
        BrakesFar 0.08 [F::BarWidthWide, 0.4; F::ReachFar, 0.4; F::LeversLow, 0.2];
        FeelsLong 0.06 [F::SetbackBack, 0.5; F::ReachFar, 0.45];
        RolledBack 0.08 [F::CrankLong, 0.35; F::NoRelief, 0.4; F::SetbackBack, 0.25; F::Stiff, 0.4; F::HeightLow, 0.15];
        Twisted 0.04 [F::Twist, 0.9];
        Dips 0.03 [F::Dip, 0.9];
        Aside 0.05 [F::NoRelief, 0.5; F::Dip, 0.3; F::Twist, 0.3; F::Short, 0.2];
        Rubs 0.03 [F::SaddleWide, 0.7];
        Shuffles 0.08 [F::SaddleWide, 0.4; F::SaddleNarrow, 0.4; F::TiltUp, 0.3; F::TiltDown, 0.3; F::NoRelief, 0.15];
        KneeSweptIn 0.03 [F::Twist, 0.4; F::TurnOut, 0.3; F::TurnIn, 0.3; F::StanceWide, 0.35; F::Short, 0.35];
        KneeSweptOut 0.03 [F::Twist, 0.4; F::TurnOut, 0.3; F::TurnIn, 0.3; F::StanceNarrow, 0.35; F::Short, 0.35];
        KneeInPushing 0.05 [F::Arch, 0.5; F::StanceWide, 0.35; F::TurnIn, 0.3; F::TurnOut, 0.3; F::Dip, 0.3];
        FloatEndIn 0.03 [F::TurnIn, 0.7];
        FloatEndOut 0.03 [F::TurnOut, 0.7];
        CannotHold 0.08 [F::BarsLow, 0.5; F::ReachFar, 0.3; F::Weak, 0.3];
        FallsOntoFront 0.05 [F::CrankShort, 0.4; F::SetbackForward, 0.3; F::TiltDown, 0.3];
        BackRounded 0.08 [F::ReachFar, 0.35; F::Stiff, 0.3];
        ElbowsFlared 0.06 [F::BarWidthNarrow, 0.35];
        BreathingTight 0.06 [F::BarWidthNarrow, 0.35; F::BarsLow, 0.15];
        TwitchySteering 0.06 [F::BarWidthNarrow, 0.35; F::CrankShort, 0.15];
        KneesMeetElbows 0.04 [F::BarsLow, 0.5; F::ReachClose, 0.2];
        NeckTired 0.08 [F::BarsLow, 0.5; F::ReachFar, 0.2];
        HandsHeavy 0.07 [F::SetbackForward, 0.55; F::TiltDown, 0.35; F::ReachClose, 0.35; F::BarsLow, 0.3; F::BarsHigh, 0.35];
}

/// What a short limit of the table may come from.
pub(super) fn short(joint: Limited) -> Causes {
    let of = |leak, links| Causes {
        leak,
        links,
        stroke: &[],
    };
    match joint {
        Limited::Hip => of(
            0.15,
            &[
                (F::CrankLong, 0.5),
                (F::BarsLow, 0.4),
                (F::SetbackBack, 0.15),
                (F::HeightLow, 0.15),
            ],
        ),
        Limited::Knee => of(0.15, &[(F::CrankLong, 0.5), (F::HeightLow, 0.4)]),
        Limited::Back => of(0.12, &[(F::BarsLow, 0.6), (F::ReachFar, 0.3)]),
        Limited::Shoulder => of(0.12, &[(F::ReachFar, 0.6)]),
    }
}

/// What brings a hidden fault about, where it is itself caused.
pub(super) fn brings(hidden: Hidden) -> Option<Causes> {
    let of = |leak, links| {
        Some(Causes {
            leak,
            links,
            stroke: &[],
        })
    };
    match hidden {
        Hidden::DipL | Hidden::DipR => of(
            0.03,
            &[
                (F::HeightHigh, 0.35),
                (F::SetbackForward, 0.35),
                (F::Short, 0.35),
                (F::Weak, 0.15),
            ],
        ),
        Hidden::Twist => of(
            0.03,
            &[(F::NoRelief, 0.35), (F::HeightHigh, 0.15), (F::Short, 0.35)],
        ),
        Hidden::Nose => of(
            0.04,
            &[
                (F::ReachFar, 0.5),
                (F::SetbackBack, 0.45),
                (F::SaddleWide, 0.35),
                (F::TiltDown, 0.35),
                (F::BarsLow, 0.15),
            ],
        ),
        _ => None,
    }
}

/// Signs of one kind share their vote.
pub(super) fn family(sign: Sign) -> Option<&'static str> {
    match sign {
        Sign::HipsRock | Sign::ToesPoint | Sign::BottomChoppy => Some("reaches down"),
        Sign::ElbowsLocked | Sign::ShouldersDrawnForward | Sign::BrakesFar | Sign::FeelsLong => {
            Some("reaches out")
        }
        Sign::ShouldersPushedBack | Sign::SlidesBack => Some("pushes back"),
        Sign::ShouldersHunched | Sign::LikesDrops | Sign::VagueSteering => Some("hunches"),
        _ => None,
    }
}

/// Whether a dipping hip that causes something is the other side's: of a knee it is.
pub fn dip_is_across(place: Place) -> bool {
    matches!(place, Place::KneeInside | Place::KneeOutside)
}

/// Every link, as a line of the table of rules.
pub(super) fn rules() -> Vec<Rule> {
    let line = |topic: &str, what: &str, causes: Causes, stroke: Option<Stroke>| {
        let of: Vec<String> = (causes.at(stroke).iter())
            .map(|(fault, strength)| format!("{} {strength}", lower(fault.label())))
            .collect();
        let what = match stroke {
            Some(stroke) => format!("{what}, {}", lower(stroke.label())),
            None => what.to_owned(),
        };
        Rule::new(
            topic,
            &what,
            format!("{}; by itself {}", of.join(", "), causes.leak),
            Provenance::House,
            "",
        )
    };
    let felt = Place::ALL
        .iter()
        .filter_map(|place| Some((place.label(), felt(*place)?)));
    let felt = felt.flat_map(|(what, causes)| {
        let strokes = causes.stroke.iter().map(|(at, _)| Some(*at));
        let all: Vec<Option<Stroke>> = [None].into_iter().chain(strokes).collect();
        all.into_iter()
            .map(move |at| line("What may cause it", what, causes, at))
    });
    let seen = Sign::ALL
        .iter()
        .filter_map(|sign| Some((sign.label(), seen(*sign)?)));
    let seen = seen.map(|(what, causes)| line("What a sign may come from", what, causes, None));
    felt.chain(seen).collect()
}
