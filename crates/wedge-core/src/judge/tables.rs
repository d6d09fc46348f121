//! The judge's tables: what bolts do to the axes, what angles and limits say of them, what hidden faults are, what each place
//! costs, and what may be done. Data alone, all house: craft, no measurement.

use super::axis::{About, Axis, Hidden, Suspect};
use super::case::{Bolt, Limited, Ranged};
use crate::looking::Sign;
use crate::units::Side;

/// What each bolt does to the axes, for the rider of the sanity line: from the linkage.
pub(super) fn bolt(bolt: Bolt) -> &'static [(Axis, f64)] {
    use Axis as A;
    match bolt {
        Bolt::Post => &[
            (A::Height, 1.0),
            (A::Setback, 0.28),
            (A::Reach, 0.28),
            (A::Bars, -0.96),
        ],
        Bolt::Rails => &[(A::Setback, 1.0), (A::Height, 0.2), (A::Reach, 1.0)],
        Bolt::Cleats => &[(A::CleatL, 1.0), (A::CleatR, 1.0), (A::Height, 0.54)],
        Bolt::CleatL => &[(A::CleatL, 1.0), (A::Height, 0.27)],
        Bolt::CleatR => &[(A::CleatR, 1.0), (A::Height, 0.27)],
        Bolt::Crank => &[(A::Crank, 1.0), (A::Height, 0.93)],
        Bolt::Stem => &[(A::Reach, 0.98), (A::Bars, 0.19)],
        Bolt::Spacers => &[(A::Bars, 0.96), (A::Reach, -0.29)],
        Bolt::Tilt => &[(A::Tilt, 1.0)],
        Bolt::BarWidth => &[(A::BarWidth, 1.0)],
        Bolt::Levers => &[(A::Levers, 1.0)],
        Bolt::Saddle => &[(A::SaddleWidth, 1.0)],
        Bolt::TurnL => &[(A::TurnL, 1.0)],
        Bolt::TurnR => &[(A::TurnR, 1.0)],
        Bolt::StanceL => &[(A::StanceL, 1.0)],
        Bolt::StanceR => &[(A::StanceR, 1.0)],
    }
}

/// Degrees of room a limit loses for each mm of an axis.
pub(super) fn limit_slopes(joint: Limited) -> &'static [(Axis, f64)] {
    use Axis as A;
    match joint {
        Limited::Hip => &[
            (A::Bars, -0.039),
            (A::Reach, 0.032),
            (A::Crank, 0.17),
            (A::Setback, 0.10),
            (A::Height, -0.065),
        ],
        Limited::Knee => &[(A::Crank, 0.30), (A::Height, -0.14)],
        Limited::Back => &[(A::Bars, -0.083), (A::Reach, 0.07)],
        Limited::Shoulder => &[(A::Reach, 0.128)],
    }
}

/// An angle's range, how well it is read, how far people differ, and what a mm (degree) of an axis does to it.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Against {
    pub(super) range: (f64, f64),
    pub(super) reading: f64,
    pub(super) people: f64,
    pub(super) slopes: Vec<(Axis, f64)>,
}

pub(super) fn against(reading: Ranged) -> Against {
    use Axis as A;
    let of = |range, reading, people, slopes: &[(Axis, f64)]| Against {
        range,
        reading,
        people,
        slopes: slopes.to_vec(),
    };
    match reading {
        Ranged::Knee => of((35.0, 40.0), 3.0, 3.0, &[(A::Height, -0.38)]),
        Ranged::Plumb => of(
            (-10.0, 10.0),
            3.0,
            12.0,
            &[(A::Setback, -0.80), (A::Height, -0.39)],
        ),
        Ranged::Torso => of(
            (40.0, 50.0),
            3.0,
            3.0,
            &[(A::Bars, 0.083), (A::Reach, -0.07)],
        ),
        Ranged::Shoulder => of(
            (65.0, 78.0),
            3.0,
            3.0,
            &[(A::Reach, 0.128), (A::Bars, -0.016)],
        ),
        Ranged::DropShare => of((13.0, 17.0), 1.0, 1.5, &[(A::Bars, -0.134)]),
        Ranged::SeatAngle => of((78.0, 82.0), 0.5, 1.0, &[(A::Setback, -0.076)]),
        Ranged::Tilt => of((-1.5, 0.5), 0.5, 1.0, &[(A::Tilt, 1.0)]),
        Ranged::SaddleWidth => of((128.0, 145.0), 1.0, 8.0, &[(A::SaddleWidth, 1.0)]),
    }
}

/// A hidden fault: how often it is there before anything is known, and what is done about it, at what cost.
pub(super) struct Node {
    pub(super) prior: f64,
    pub(super) remedy: Option<(&'static str, f64)>,
}

pub(super) fn node(hidden: Hidden) -> Node {
    use Hidden as H;
    let of = |prior, remedy| Node { prior, remedy };
    match hidden {
        H::DipL | H::DipR | H::Twist | H::Nose => of(0.5, None),
        H::Weak => of(0.12, Some(("strengthen", 0.35))),
        H::Stiff => of(0.12, Some(("stretch", 0.45))),
        H::Load => of(0.08, Some(("rest", 0.10))),
        H::Shoe => of(0.06, Some(("shoe", 0.15))),
        H::NoRelief => of(0.08, Some(("relief", 0.15))),
        H::ShortL | H::ShortR => of(0.03, Some(("shim", 0.10))),
        H::ArchL | H::ArchR => of(0.08, Some(("footbed", 0.15))),
    }
}

/// A place costs so much in comfort, freedom from injury, power and speed.
pub(super) fn stakes(suspect: Suspect) -> [f64; 4] {
    use Axis as A;
    let plus = suspect.way > 0;
    match suspect.about {
        About::Place(axis) => match (axis, plus) {
            (A::Height, true) => [0.9, 1.0, 0.5, 0.0],
            (A::Height, false) => [0.6, 0.9, 0.8, 0.0],
            (A::Setback, false) => [1.0, 0.8, 0.3, 0.0],
            (A::Setback, true) => [0.7, 0.6, 0.8, 0.2],
            (A::Tilt, true) => [1.0, 0.7, 0.2, 0.2],
            (A::Reach, true) => [1.0, 0.6, 0.3, 0.0],
            (A::Reach, false) => [0.8, 0.3, 0.5, 0.4],
            (A::Bars, false) => [1.0, 0.7, 0.4, 0.0],
            (A::Bars, true) => [0.5, 0.2, 0.4, 1.0],
            (A::BarWidth, true) => [0.8, 0.4, 0.1, 0.4],
            (A::BarWidth, false) => [0.5, 0.2, 0.1, 0.0],
            (A::Levers, _) => [0.5, 0.4, 0.0, 0.0],
            (A::CleatL | A::CleatR, false) => [0.8, 0.8, 0.2, 0.0],
            (A::CleatL | A::CleatR, true) => [0.2, 0.2, 0.4, 0.0],
            (A::TurnL | A::TurnR, _) => [0.4, 1.0, 0.2, 0.0],
            (A::StanceL | A::StanceR, _) => [0.3, 0.8, 0.3, 0.0],
            (A::Crank, true) => [0.6, 0.9, 0.4, 0.3],
            (A::Crank, false) => [0.4, 0.3, 0.6, 0.0],
            (A::Tilt, false) | (A::SaddleWidth, true) => [0.9, 0.4, 0.3, 0.0],
            (A::SaddleWidth, false) => [0.8, 0.4, 0.2, 0.0],
        },
        About::There(hidden) => match hidden {
            Hidden::Load => [0.3, 1.0, 0.2, 0.0],
            Hidden::Shoe => [0.6, 0.5, 0.2, 0.0],
            Hidden::NoRelief => [0.6, 0.5, 0.1, 0.0],
            Hidden::ShortL | Hidden::ShortR => [0.3, 0.6, 0.2, 0.0],
            Hidden::Weak => [0.2, 0.3, 0.3, 0.0],
            Hidden::Stiff => [0.2, 0.3, 0.2, 0.1],
            Hidden::ArchL | Hidden::ArchR => [0.2, 0.5, 0.2, 0.0],
            Hidden::DipL | Hidden::DipR | Hidden::Twist | Hidden::Nose => [0.0; 4],
        },
    }
}

/// What is upstream of an axis: below it, and before it.
pub(super) fn upstream(axis: Axis) -> &'static [About] {
    use About::{Place, There};
    use Axis as A;
    const FEET: &[About] = &[Place(A::CleatL), Place(A::CleatR)];
    const HEIGHT: &[About] = &[
        Place(A::CleatL),
        Place(A::CleatR),
        Place(A::Crank),
        There(Hidden::Nose),
    ];
    const SETBACK: &[About] = &[
        Place(A::CleatL),
        Place(A::CleatR),
        Place(A::Crank),
        Place(A::Height),
    ];
    const FRONT: &[About] = &[Place(A::Crank), Place(A::Height), Place(A::Setback)];
    match axis {
        A::Height => HEIGHT,
        A::Setback => SETBACK,
        A::Tilt => &[Place(A::Height)],
        A::Reach | A::Bars => FRONT,
        A::Levers => &[Place(A::Bars), Place(A::Reach)],
        A::Crank => FEET,
        _ => &[],
    }
}

/// A move as it is proposed: the bolt with what must follow it.
pub(super) struct MoveSpec {
    pub(super) name: &'static str,
    pub(super) axis: Axis,
    pub(super) bolts: &'static [(Bolt, f64)],
    pub(super) cost: f64,
    pub(super) trust: Option<(f64, f64)>,
    pub(super) linked: bool,
    pub(super) told_as: &'static str,
}

const fn plain(
    name: &'static str,
    axis: Axis,
    bolts: &'static [(Bolt, f64)],
    cost: f64,
) -> MoveSpec {
    MoveSpec {
        name,
        axis,
        bolts,
        cost,
        trust: None,
        linked: false,
        told_as: name,
    }
}

pub(super) const MOVES: [MoveSpec; 16] = [
    plain("height", Axis::Height, &[(Bolt::Post, 1.0)], 0.10),
    plain(
        "setback",
        Axis::Setback,
        &[(Bolt::Rails, 1.0), (Bolt::Post, -0.2)],
        0.12,
    ),
    MoveSpec {
        linked: true,
        told_as: "setback",
        ..plain(
            "setback_stem",
            Axis::Setback,
            &[(Bolt::Rails, 1.0), (Bolt::Post, -0.2), (Bolt::Stem, -1.0)],
            0.30,
        )
    },
    plain("tilt", Axis::Tilt, &[(Bolt::Tilt, 1.0)], 0.08),
    plain("reach", Axis::Reach, &[(Bolt::Stem, 1.0)], 0.20),
    plain(
        "bars",
        Axis::Bars,
        &[(Bolt::Spacers, 1.0), (Bolt::Stem, 0.3)],
        0.15,
    ),
    MoveSpec {
        trust: Some((0.6, 0.75)),
        ..plain("bar_width", Axis::BarWidth, &[(Bolt::BarWidth, 1.0)], 0.30)
    },
    plain("levers", Axis::Levers, &[(Bolt::Levers, 1.0)], 0.10),
    MoveSpec {
        told_as: "cleat",
        ..plain(
            "cleats",
            Axis::CleatL,
            &[(Bolt::Cleats, 1.0), (Bolt::Post, -0.54)],
            0.12,
        )
    },
    plain(
        "cleat_l",
        Axis::CleatL,
        &[(Bolt::CleatL, 1.0), (Bolt::Post, -0.27)],
        0.12,
    ),
    plain(
        "cleat_r",
        Axis::CleatR,
        &[(Bolt::CleatR, 1.0), (Bolt::Post, -0.27)],
        0.12,
    ),
    plain("turn_l", Axis::TurnL, &[(Bolt::TurnL, 1.0)], 0.10),
    plain("turn_r", Axis::TurnR, &[(Bolt::TurnR, 1.0)], 0.10),
    plain("stance_l", Axis::StanceL, &[(Bolt::StanceL, 1.0)], 0.12),
    plain("stance_r", Axis::StanceR, &[(Bolt::StanceR, 1.0)], 0.12),
    MoveSpec {
        trust: Some((0.65, 0.8)),
        ..plain(
            "crank",
            Axis::Crank,
            &[(Bolt::Crank, 1.0), (Bolt::Post, -0.93)],
            0.30,
        )
    },
];

/// Another saddle stands last.
pub(super) const SADDLE: MoveSpec = MoveSpec {
    trust: Some((0.6, 0.75)),
    ..plain(
        "saddle_width",
        Axis::SaddleWidth,
        &[(Bolt::Saddle, 1.0)],
        0.35,
    )
};

/// A protocol that ends with the bolt where it was found.
pub(super) struct TestSpec {
    pub(super) name: &'static str,
    pub(super) axis: Axis,
    /// How well it finds, one standard deviation.
    pub(super) finds: f64,
    /// What it costs on a visit, on a stand;
    pub(super) cost: f64,
    /// and off one, where that differs.
    pub(super) bare: Option<f64>,
    /// What it costs in a whole fit, where a misfit that nobody feels counts so much more and time is what is short: a gauge of
    /// what is seldom out is dear there, and a sweep of 25 minutes; a bracket of what often is out is not.
    pub(super) whole: f64,
}

const fn test(
    name: &'static str,
    axis: Axis,
    finds: f64,
    (cost, bare): (f64, Option<f64>),
    whole: f64,
) -> TestSpec {
    TestSpec {
        name,
        axis,
        finds,
        cost,
        bare,
        whole,
    }
}

pub(super) const TESTS: [TestSpec; 9] = [
    test("creep_up", Axis::Height, 1.5, (0.25, None), 0.30),
    test("sweep", Axis::Setback, 4.0, (0.45, None), 0.75),
    test("tilt_gauge", Axis::Tilt, 0.8, (0.10, None), 0.10),
    test("bracket_reach", Axis::Reach, 4.0, (0.30, Some(0.55)), 0.25),
    test("bracket_bars", Axis::Bars, 5.0, (0.30, Some(0.45)), 0.28),
    test("crank_compare", Axis::Crank, 2.0, (0.40, None), 0.80),
    test("wrist_line", Axis::Levers, 2.0, (0.08, None), 0.40),
    test("hanging_foot_left", Axis::TurnL, 0.8, (0.12, None), 0.48),
    test("hanging_foot_right", Axis::TurnR, 0.8, (0.12, None), 0.48),
];

/// A look and the signs it tells of.
pub(super) type Look = (&'static str, &'static [(Sign, Option<Side>)], f64);

pub(super) const L: Option<Side> = Some(Side::Left);
pub(super) const R: Option<Side> = Some(Side::Right);

/// The signs a look tells of, by its name.
pub fn look(name: &str) -> &'static [(Sign, Option<Side>)] {
    (LOOKS.iter().find(|(of, ..)| *of == name)).map_or(&[], |(_, signs, _)| *signs)
}

pub(super) const LOOKS: [Look; 5] = [
    ("balance", &[(Sign::BalanceFails, None)], 0.06),
    (
        "look_hips",
        &[
            (Sign::HipsRock, None),
            (Sign::Dips, L),
            (Sign::Dips, R),
            (Sign::HipHikes, None),
            (Sign::Twisted, None),
        ],
        0.05,
    ),
    (
        "look_upper",
        &[
            (Sign::ShouldersDrawnForward, None),
            (Sign::ElbowsLocked, None),
            (Sign::ShouldersHunched, None),
            (Sign::ShouldersPushedBack, None),
        ],
        0.05,
    ),
    (
        "look_knees",
        &[
            (Sign::FloatEndIn, L),
            (Sign::FloatEndIn, R),
            (Sign::FloatEndOut, L),
            (Sign::FloatEndOut, R),
            (Sign::KneeInPushing, L),
            (Sign::KneeInPushing, R),
        ],
        0.05,
    ),
    (
        "look_foot",
        &[(Sign::ToesPoint, None), (Sign::BottomChoppy, None)],
        0.05,
    ),
];
