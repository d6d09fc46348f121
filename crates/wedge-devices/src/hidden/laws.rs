//! What hidden riders' bodies do with a position and what they say of it: tables of their own, written from the trade, that
//! nothing which judges reads. A judge that is tried on its own assumptions proves nothing, so neither numbers nor form are
//! shared: here what is wrong adds up and each rider bears his own share of it, and a sign shows once that is too much.
//!
//! Every number is a house choice. A change of any is a new [`LAWS`], since riders are kept as their seed and the version of
//! the laws they were thrown by.

use super::trouble::Trouble;
use wedge_core::intake::{Feel, Place, Stroke};
use wedge_core::judge::Axis;
use wedge_core::looking::Sign;

/// The version of these laws. 2: bikes come out as often as makes the ways that believe nothing as good as they are in the
/// trade, on frames that can be fitted. 3: frames are as long in the seat tube as their riders are tall, and a saddle that
/// belongs higher than its post goes is on a frame that cannot be fitted; a leg's way goes on where the leg is straight.
pub const LAWS: u32 = 3;

/// What is wrong with a position or with who sits on it.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Wrong {
    /// Too far in + (1) or − (−1) on an axis, by half-widths beyond the window.
    Out(Axis, i8),
    /// The cleat of the side that speaks too far back (1) or forward (−1).
    Cleat(i8),
    /// The heel of the side that speaks, out (1) or in (−1).
    Turn(i8),
    /// The foot of that side, out (1) or in (−1).
    Stance(i8),
    /// What has no axis.
    Of(Trouble),
    /// The same of the other side.
    Across(Trouble),
}

const HIGH: Wrong = Wrong::Out(Axis::Height, 1);
const LOW: Wrong = Wrong::Out(Axis::Height, -1);
const BACK: Wrong = Wrong::Out(Axis::Setback, 1);
const FORWARD: Wrong = Wrong::Out(Axis::Setback, -1);
const NOSE_UP: Wrong = Wrong::Out(Axis::Tilt, 1);
const NOSE_DOWN: Wrong = Wrong::Out(Axis::Tilt, -1);
const FAR: Wrong = Wrong::Out(Axis::Reach, 1);
const NEAR: Wrong = Wrong::Out(Axis::Reach, -1);
const BARS_HIGH: Wrong = Wrong::Out(Axis::Bars, 1);
const BARS_LOW: Wrong = Wrong::Out(Axis::Bars, -1);
const BAR_WIDE: Wrong = Wrong::Out(Axis::BarWidth, 1);
const BAR_NARROW: Wrong = Wrong::Out(Axis::BarWidth, -1);
const LEVERS_HIGH: Wrong = Wrong::Out(Axis::Levers, 1);
const LEVERS_LOW: Wrong = Wrong::Out(Axis::Levers, -1);
const CRANK_LONG: Wrong = Wrong::Out(Axis::Crank, 1);
const CRANK_SHORT: Wrong = Wrong::Out(Axis::Crank, -1);
const SADDLE_WIDE: Wrong = Wrong::Out(Axis::SaddleWidth, 1);
const SADDLE_NARROW: Wrong = Wrong::Out(Axis::SaddleWidth, -1);
const CLEAT_BACK: Wrong = Wrong::Cleat(1);
const CLEAT_FORWARD: Wrong = Wrong::Cleat(-1);
const TURN_OUT: Wrong = Wrong::Turn(1);
const TURN_IN: Wrong = Wrong::Turn(-1);
const STANCE_WIDE: Wrong = Wrong::Stance(1);
const STANCE_NARROW: Wrong = Wrong::Stance(-1);
const DIP: Wrong = Wrong::Of(Trouble::Dip);
const DIP_ACROSS: Wrong = Wrong::Across(Trouble::Dip);
const TWIST: Wrong = Wrong::Of(Trouble::Twist);
const NOSE: Wrong = Wrong::Of(Trouble::OnNose);
const WEAK: Wrong = Wrong::Of(Trouble::Weak);
const STIFF: Wrong = Wrong::Of(Trouble::Stiff);
const LOAD: Wrong = Wrong::Of(Trouble::LoadRose);
const SHOE: Wrong = Wrong::Of(Trouble::NarrowShoe);
const NO_RELIEF: Wrong = Wrong::Of(Trouble::NoRelief);
const SHORT: Wrong = Wrong::Of(Trouble::ShorterLeg);
const ARCH: Wrong = Wrong::Of(Trouble::LowArch);

/// What hurts somewhere, of ten, when something is one half-width out; and where in the stroke it is felt then.
pub(crate) struct Ache {
    pub(crate) place: Place,
    pub(crate) feel: Feel,
    pub(crate) from: &'static [(Wrong, f64, Option<Stroke>)],
}

const fn ache(place: Place, feel: Feel, from: &'static [(Wrong, f64, Option<Stroke>)]) -> Ache {
    Ache { place, feel, from }
}

const TOP: Option<Stroke> = Some(Stroke::Top);
const PUSHING: Option<Stroke> = Some(Stroke::Pushing);
const BOTTOM: Option<Stroke> = Some(Stroke::Bottom);
const ANY: Option<Stroke> = None;

/// Where it hurts.
pub(crate) const ACHES: &[Ache] = &[
    ache(
        Place::KneeFront,
        Feel::Pain,
        &[
            (LOW, 2.4, PUSHING),
            (FORWARD, 1.9, PUSHING),
            (CLEAT_FORWARD, 0.7, ANY),
            (CRANK_LONG, 1.6, TOP),
            (NOSE, 1.2, PUSHING),
            (LOAD, 2.6, ANY),
        ],
    ),
    ache(
        Place::KneeBehind,
        Feel::Pain,
        &[
            (HIGH, 2.6, BOTTOM),
            (BACK, 1.1, BOTTOM),
            (CLEAT_BACK, 0.5, BOTTOM),
            (LOAD, 0.8, ANY),
        ],
    ),
    ache(
        Place::KneeOutside,
        Feel::Pain,
        &[
            (HIGH, 1.4, BOTTOM),
            (BACK, 0.8, ANY),
            (STANCE_NARROW, 1.3, PUSHING),
            (TURN_IN, 1.2, PUSHING),
            (DIP_ACROSS, 1.6, PUSHING),
            (LOAD, 0.7, ANY),
        ],
    ),
    ache(
        Place::KneeInside,
        Feel::Pain,
        &[
            (STANCE_WIDE, 1.5, PUSHING),
            (TURN_OUT, 1.7, PUSHING),
            (TURN_IN, 0.7, PUSHING),
            (ARCH, 1.3, PUSHING),
            (DIP_ACROSS, 1.0, ANY),
        ],
    ),
    ache(
        Place::LowBack,
        Feel::Pain,
        &[
            (BARS_LOW, 1.7, ANY),
            (FAR, 1.5, ANY),
            (BACK, 1.1, ANY),
            (CRANK_LONG, 0.7, ANY),
            (STIFF, 1.8, ANY),
            (WEAK, 1.3, ANY),
            (SHORT, 0.7, ANY),
        ],
    ),
    ache(
        Place::HipFront,
        Feel::Pain,
        &[
            (CRANK_LONG, 2.2, TOP),
            (LOW, 1.2, TOP),
            (BACK, 1.0, TOP),
            (BARS_LOW, 1.1, TOP),
        ],
    ),
    ache(
        Place::Neck,
        Feel::Pain,
        &[(FAR, 1.6, ANY), (BARS_LOW, 1.9, ANY), (BAR_WIDE, 1.1, ANY)],
    ),
    ache(
        Place::Shoulder,
        Feel::Pain,
        &[(FAR, 1.5, ANY), (BAR_WIDE, 1.3, ANY), (BARS_HIGH, 0.5, ANY)],
    ),
    ache(Place::ShoulderBlades, Feel::Pain, &[(FAR, 2.1, ANY)]),
    ache(
        Place::Hand,
        Feel::Numb,
        &[
            (FORWARD, 2.0, ANY),
            (NOSE_DOWN, 1.4, ANY),
            (FAR, 1.0, ANY),
            (NEAR, 1.2, ANY),
            (BARS_LOW, 1.1, ANY),
            (BARS_HIGH, 0.7, ANY),
            (BAR_WIDE, 1.2, ANY),
            (HIGH, 0.8, ANY),
            (WEAK, 0.9, ANY),
            (DIP, 1.9, ANY),
        ],
    ),
    ache(
        Place::Wrist,
        Feel::Pain,
        &[
            (LEVERS_HIGH, 1.5, ANY),
            (LEVERS_LOW, 1.5, ANY),
            (BAR_WIDE, 1.1, ANY),
            (FORWARD, 0.8, ANY),
        ],
    ),
    ache(
        Place::FootBall,
        Feel::Numb,
        &[
            (CLEAT_FORWARD, 2.2, PUSHING),
            (SHOE, 2.4, ANY),
            (BACK, 0.5, ANY),
        ],
    ),
    ache(
        Place::Toes,
        Feel::Numb,
        &[(CLEAT_FORWARD, 1.7, ANY), (SHOE, 2.4, ANY)],
    ),
    ache(
        Place::FootSole,
        Feel::Pain,
        &[
            (CLEAT_FORWARD, 1.0, ANY),
            (ARCH, 1.7, PUSHING),
            (SHOE, 0.7, ANY),
        ],
    ),
    ache(
        Place::Saddle,
        Feel::Numb,
        &[
            (NO_RELIEF, 2.3, ANY),
            (NOSE_UP, 2.3, ANY),
            (HIGH, 1.1, ANY),
            (NOSE, 1.7, ANY),
        ],
    ),
    ache(
        Place::Seat,
        Feel::Sore,
        &[
            (HIGH, 1.5, ANY),
            (SADDLE_WIDE, 1.4, ANY),
            (SADDLE_NARROW, 1.4, ANY),
            (DIP, 1.6, ANY),
            (TWIST, 1.2, ANY),
            (BARS_HIGH, 0.7, ANY),
        ],
    ),
    ache(
        Place::Calf,
        Feel::Tight,
        &[
            (CLEAT_FORWARD, 1.8, ANY),
            (HIGH, 1.3, BOTTOM),
            (LOAD, 0.9, ANY),
        ],
    ),
    ache(
        Place::Achilles,
        Feel::Pain,
        &[
            (CLEAT_FORWARD, 1.8, PUSHING),
            (HIGH, 1.3, BOTTOM),
            (LOAD, 1.2, ANY),
        ],
    ),
    ache(
        Place::ThighBack,
        Feel::Tight,
        &[(BACK, 2.0, ANY), (HIGH, 1.4, BOTTOM)],
    ),
    ache(
        Place::ThighFront,
        Feel::Tight,
        &[(FORWARD, 1.9, PUSHING), (LOW, 1.3, PUSHING)],
    ),
    ache(
        Place::HipOutside,
        Feel::Pain,
        &[
            (HIGH, 1.1, BOTTOM),
            (SHORT, 1.2, ANY),
            (STANCE_NARROW, 0.8, ANY),
        ],
    ),
];

/// A sign, and how much of what a rider bears a half-width takes.
pub(crate) struct Shows {
    pub(crate) sign: Sign,
    pub(crate) from: &'static [(Wrong, f64)],
}

const fn shows(sign: Sign, from: &'static [(Wrong, f64)]) -> Shows {
    Shows { sign, from }
}

/// What is seen, tested or asked for.
pub(crate) const SIGNS: &[Shows] = &[
    shows(
        Sign::HipsRock,
        &[(HIGH, 1.5), (WEAK, 0.8), (CRANK_LONG, 0.3), (SHORT, 0.4)],
    ),
    shows(Sign::HipHikes, &[(LOW, 1.0), (CRANK_LONG, 1.2)]),
    shows(Sign::ToesPoint, &[(HIGH, 1.0), (CLEAT_FORWARD, 0.5)]),
    shows(Sign::BottomChoppy, &[(HIGH, 1.6)]),
    shows(Sign::HeelDrops, &[(CLEAT_FORWARD, 1.0), (LOW, 0.8)]),
    shows(
        Sign::BalanceFails,
        &[
            (FORWARD, 1.8),
            (FAR, 0.8),
            (BARS_LOW, 0.3),
            (NOSE_DOWN, 0.7),
            (WEAK, 0.7),
        ],
    ),
    shows(Sign::BalanceEasy, &[(BACK, 1.1)]),
    shows(Sign::KicksOverTop, &[(BACK, 1.3), (CRANK_LONG, 0.6)]),
    shows(Sign::OnNose, &[(NOSE, 2.2)]),
    shows(
        Sign::SlidesForward,
        &[(NOSE, 1.2), (NOSE_DOWN, 1.4), (FORWARD, 0.4)],
    ),
    shows(
        Sign::ElbowsLocked,
        &[(FAR, 1.5), (BACK, 0.7), (NOSE_DOWN, 0.6)],
    ),
    shows(Sign::ShouldersDrawnForward, &[(FAR, 1.6), (BACK, 0.6)]),
    shows(Sign::ShouldersHunched, &[(BARS_HIGH, 1.5)]),
    shows(Sign::ShouldersPushedBack, &[(NEAR, 1.5)]),
    shows(Sign::SlidesBack, &[(NEAR, 1.2), (FORWARD, 0.6)]),
    shows(Sign::AlwaysTops, &[(FAR, 1.1), (BARS_LOW, 1.0)]),
    shows(Sign::LikesDrops, &[(BARS_HIGH, 1.4), (NEAR, 0.3)]),
    shows(Sign::VagueSteering, &[(BARS_HIGH, 0.9), (BAR_WIDE, 0.8)]),
    shows(
        Sign::WristsRolled,
        &[(BAR_WIDE, 1.4), (LEVERS_HIGH, 0.7), (LEVERS_LOW, 0.7)],
    ),
    shows(Sign::BrakesFar, &[(BAR_WIDE, 0.9), (FAR, 0.9)]),
    shows(Sign::FeelsLong, &[(BACK, 1.0), (FAR, 1.1)]),
    shows(
        Sign::RolledBack,
        &[
            (CRANK_LONG, 0.8),
            (NO_RELIEF, 0.9),
            (BACK, 0.5),
            (STIFF, 1.0),
        ],
    ),
    shows(Sign::Twisted, &[(TWIST, 2.4)]),
    shows(Sign::Dips, &[(DIP, 2.4)]),
    shows(
        Sign::Aside,
        &[(NO_RELIEF, 0.9), (DIP, 0.7), (TWIST, 0.7), (SHORT, 0.6)],
    ),
    shows(Sign::Rubs, &[(SADDLE_WIDE, 1.6)]),
    shows(
        Sign::Shuffles,
        &[
            (SADDLE_WIDE, 0.8),
            (SADDLE_NARROW, 0.9),
            (NOSE_UP, 0.6),
            (NOSE_DOWN, 0.7),
        ],
    ),
    shows(
        Sign::KneeSweptIn,
        &[(TURN_OUT, 0.7), (STANCE_WIDE, 0.8), (TWIST, 0.8)],
    ),
    shows(
        Sign::KneeSweptOut,
        &[(TURN_IN, 0.7), (STANCE_NARROW, 0.8), (TWIST, 0.8)],
    ),
    shows(
        Sign::KneeInPushing,
        &[
            (ARCH, 1.3),
            (STANCE_WIDE, 0.9),
            (TURN_OUT, 0.7),
            (DIP_ACROSS, 0.7),
        ],
    ),
    shows(Sign::BreathingTight, &[(BAR_NARROW, 1.2)]),
    shows(Sign::TwitchySteering, &[(BAR_NARROW, 0.8), (NEAR, 0.6)]),
    shows(Sign::FloatEndIn, &[(TURN_IN, 1.7)]),
    shows(Sign::FloatEndOut, &[(TURN_OUT, 1.7)]),
    shows(
        Sign::CannotHold,
        &[(BARS_LOW, 1.2), (FAR, 0.7), (WEAK, 0.7)],
    ),
    shows(
        Sign::FallsOntoFront,
        &[(CRANK_SHORT, 1.0), (FORWARD, 0.8), (NOSE_DOWN, 0.8)],
    ),
    shows(
        Sign::HandsHeavy,
        &[
            (FORWARD, 1.2),
            (NEAR, 0.6),
            (BARS_LOW, 0.6),
            (NOSE_DOWN, 0.8),
            (DIP, 0.9),
        ],
    ),
];

/// What makes a rider come to the nose of the saddle.
pub(crate) const ONTO_NOSE: &[(Wrong, f64)] = &[
    (FAR, 0.45),
    (BACK, 0.35),
    (SADDLE_WIDE, 0.35),
    (NOSE_DOWN, 0.3),
];

/// How an axis is thrown and felt.
pub(crate) struct Law {
    /// Half of the window, before the rider's own share.
    pub(crate) half: f64,
    /// How far right places lie from what schools wish, one standard deviation; of what no school has, from where bikes stand.
    pub(crate) around: f64,
    /// How much the rider minds a half-width in + and in −.
    pub(crate) minds: (f64, f64),
    /// The change most riders just notice.
    pub(crate) notices: f64,
    /// How well a protocol finds it, one standard deviation.
    pub(crate) finds: f64,
    /// A change beyond this feels strange for a while.
    pub(crate) strange: f64,
    /// What a tape or a gauge is off by, one way: this near to a window is at it.
    pub(crate) tape: f64,
}

/// The law of an axis.
pub(crate) fn law(axis: Axis) -> Law {
    let of = |half, around, minds, notices, finds, strange, tape| Law {
        half,
        around,
        minds,
        notices,
        finds,
        strange,
        tape,
    };
    match axis {
        Axis::Height => of(4.5, 6.0, (1.0, 0.8), 5.0, 1.6, 15.0, 2.0),
        Axis::Setback => of(8.0, 9.0, (0.7, 0.9), 6.0, 4.0, 18.0, 2.0),
        Axis::Tilt => of(1.2, 1.5, (1.0, 0.8), 1.0, 0.7, 3.0, 0.5),
        Axis::Reach => of(11.0, 12.0, (0.8, 0.6), 8.0, 4.0, 25.0, 2.0),
        Axis::Bars => of(12.0, 12.0, (0.5, 0.9), 8.0, 5.0, 30.0, 2.0),
        Axis::BarWidth => of(14.0, 15.0, (0.6, 0.4), 12.0, 5.0, 45.0, 2.0),
        Axis::Levers => of(5.0, 3.5, (0.5, 0.5), 4.0, 2.0, 12.0, 1.0),
        Axis::CleatL | Axis::CleatR => of(4.0, 4.0, (0.3, 0.8), 4.0, 1.5, 6.0, 2.0),
        Axis::TurnL | Axis::TurnR => of(1.8, 1.2, (0.6, 0.6), 1.2, 0.8, 3.0, 0.5),
        Axis::StanceL | Axis::StanceR => of(3.5, 2.2, (0.5, 0.5), 3.0, 1.5, 6.0, 2.0),
        Axis::Crank => of(3.0, 4.0, (0.8, 0.4), 3.5, 1.8, 7.5, 2.0),
        Axis::SaddleWidth => of(7.0, 5.0, (0.7, 0.6), 8.0, 4.0, 25.0, 2.0),
    }
}
