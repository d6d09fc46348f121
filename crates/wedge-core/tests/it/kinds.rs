//! Every kind of bar and of rider: what holds for each, and what differs.
use proptest::prelude::*;
use wedge_core::bike::{Bar, HandPlace};
use wedge_core::example;
use wedge_core::foresee::{Change, ForeseeInput, Foresight, foresee, rotate};
use wedge_core::measure::{Convention, Output, Quantity, Reading};
use wedge_core::position::Position;
use wedge_core::rider::{Effort, Reach};
use wedge_core::units::{Degrees, Millimetres, Side, Sides};

fn after(input: &ForeseeInput, changes: &[Change]) -> Foresight {
    let mut input = input.clone();
    input.changes = changes.to_vec();
    foresee(&input).unwrap()
}

fn of(position: &Position, output: Output) -> f64 {
    output.of(position, Side::Right).unwrap()
}

fn band(foresight: &Foresight, output: Output) -> (f64, f64) {
    let row = foresight.rows.iter().find(|r| r.output == output).unwrap();
    (row.band.unwrap(), row.spread)
}

#[test]
fn every_example_is_reached_and_has_what_its_kind_has() {
    for (input, place, has, has_not) in [
        (
            example::road(),
            HandPlace::Hoods,
            Output::Drop,
            Output::GripLength,
        ),
        (
            example::gravel(),
            HandPlace::Hoods,
            Output::BbToHand,
            Output::GripLength,
        ),
        (
            example::flat_bar(),
            HandPlace::Grips,
            Output::GripLength,
            Output::HandLoad,
        ),
        (
            example::time_trial(),
            HandPlace::Pads,
            Output::DropShare,
            Output::HandLoad,
        ),
    ] {
        let position = foresee(&input).unwrap().before;
        assert!(
            position.is_reached(),
            "{:?} {:?}",
            input.kind,
            position.reach_words()
        );
        assert_eq!(position.hands, place);
        assert!(has.of(&position, Side::Right).is_some(), "{has:?}");
        assert!(has_not.of(&position, Side::Right).is_none(), "{has_not:?}");
    }
}

#[test]
fn riders_sit_as_their_kind_does() {
    let torso = |input: &ForeseeInput| foresee(input).unwrap().before.upper.torso_deg.0;
    // Back low on pads, upright in town, the road between.
    assert!(
        (5.0..30.0).contains(&torso(&example::time_trial())),
        "{}",
        torso(&example::time_trial())
    );
    assert!(
        (40.0..52.0).contains(&torso(&example::road())),
        "{}",
        torso(&example::road())
    );
    assert!(
        torso(&example::flat_bar()) > 60.0,
        "{}",
        torso(&example::flat_bar())
    );
    let seat = of(
        &foresee(&example::time_trial()).unwrap().before,
        Output::SeatAngle,
    );
    assert!((78.0..82.0).contains(&seat), "{seat}");
}

#[test]
fn hands_lower_or_nearer_change_the_back_as_they_must() {
    let torso = |place| {
        let mut input = example::road();
        input.hands = Some(place);
        foresee(&input).unwrap().before.upper.torso_deg.0
    };
    assert!(torso(HandPlace::Drops) < torso(HandPlace::Hoods) - 5.0);
    assert!(torso(HandPlace::Tops) > torso(HandPlace::Hoods) + 3.0);
    let mut pads = example::road();
    pads.hands = Some(HandPlace::Pads);
    let refused = foresee(&pads).unwrap_err();
    assert_eq!(refused[0].pointer, "/hands");
    assert_eq!(refused[0].detail, "This bar has no pads");
}

#[test]
fn what_a_bar_has_not_cannot_be_changed() {
    let mut input = example::flat_bar();
    input.changes = vec![Change::by(Quantity::HoodForward, 5.0)];
    let refused = foresee(&input).unwrap_err();
    assert_eq!(refused[0].pointer, "/changes/0/quantity");
    assert_eq!(refused[0].detail, "This bike has no hood forward");
}

#[test]
fn golden_pads_moved_by_their_spacers() {
    // Pads stand on the clamp, not on the steerer: 15 mm of spacers are 15 mm straight up, and the drop shrinks by 15.
    let foreseen = after(
        &example::time_trial(),
        &[Change::by(Quantity::PadSpacers, 15.0)],
    );
    let moved = foreseen.after.bike.hand - foreseen.before.bike.hand;
    assert!(
        moved.x.abs() < 1e-9 && (moved.y - 15.0).abs() < 1e-9,
        "{moved:?}"
    );
    let drop = of(&foreseen.after, Output::Drop) - of(&foreseen.before, Output::Drop);
    assert!((drop + 15.0).abs() < 1e-9);
    assert!(of(&foreseen.after, Output::Torso) > of(&foreseen.before, Output::Torso));
    assert_eq!(foreseen.title, "Pad spacers 35");
}

#[test]
fn golden_bar_with_more_backsweep_brings_the_grips_back() {
    // Half width 320 − 65 − 70 = 185 swept: back 185 × (sin 40° − sin 25°) = 40.731.
    let foreseen = after(
        &example::flat_bar(),
        &[Change::to(Quantity::Backsweep, 40.0)],
    );
    let moved = foreseen.after.bike.hand - foreseen.before.bike.hand;
    assert!((moved.x + 40.731).abs() < 1e-3, "{moved:?}");
    let grip = foreseen
        .after
        .dimensions
        .get(Convention::GripLength)
        .unwrap();
    assert!((grip - foreseen.after.bike.hand.length()).abs() < 1e-9);
}

#[test]
fn golden_saddle_and_post_swapped() {
    // A saddle 6 mm higher stands 6 mm higher, level; a post with 20 mm less setback, square to a
    // seat tube of 73.5°, stands 20 × sin 73.5° = 19.176 further forward and 20 × cos 73.5° = 5.680 higher.
    let input = example::road();
    let higher = after(&input, &[Change::by(Quantity::SaddleStack, 6.0)]);
    let moved = higher.after.bike.sit - higher.before.bike.sit;
    assert!(
        moved.x.abs() < 1e-6 && (moved.y - 6.0).abs() < 1e-6,
        "{moved:?}"
    );
    let back = after(&input, &[Change::to(Quantity::PostSetback, 0.0)]);
    let moved = back.after.bike.sit - back.before.bike.sit;
    assert!(
        (moved.x - 19.1764).abs() < 1e-3 && (moved.y - 5.6803).abs() < 1e-3,
        "{moved:?}"
    );
    // The rails are where they were on the new post.
    let on_rails = |f: &Position| of(f, Output::RailPlace);
    assert!((on_rails(&back.after) - on_rails(&back.before)).abs() < 1e-6);
}

#[test]
fn a_higher_saddle_runs_out_of_post_and_says_so() {
    let foreseen = after(
        &example::road(),
        &[Change::by(Quantity::SaddleHeight, 70.0)],
    );
    assert!(
        foreseen
            .notes
            .iter()
            .any(|n| n.contains("short of its least insertion of 100 mm")),
        "{:?}",
        foreseen.notes
    );
}

#[test]
fn a_hip_past_its_limit_is_said_where_it_passes() {
    let mut input = example::road();
    let flexion = of(&foresee(&input).unwrap().before, Output::HipFlexion);
    input.rider.legs.left.hip_limit_deg = Some(Degrees(flexion + 0.5));
    let foreseen = after(&input, &[Change::to(Quantity::Crank, 180.0)]);
    let said: Vec<_> = foreseen
        .notes
        .iter()
        .filter(|n| n.contains("past its limit"))
        .collect();
    assert_eq!(said.len(), 1);
    assert!(said[0].starts_with("The left hip folds"), "{said:?}");
}

#[test]
fn a_rolled_pelvis_straightens_one_leg_and_bends_the_other() {
    let mut input = example::road();
    let level = foresee(&input).unwrap().before;
    input.observed.pitch = Some(input.check().unwrap().observe_pitch());
    input.rider.pelvis.roll_deg = Degrees(4.0);
    let rolled = foresee(&input).unwrap().before;
    let knee = |p: &Position, side: Side| p.legs.of(side).knee.smallest_deg.0;
    assert!(knee(&rolled, Side::Right) < knee(&level, Side::Right) - 1.0);
    assert!(knee(&rolled, Side::Left) > knee(&level, Side::Left) + 1.0);
    // Golden: .05 × 1780 = 89; 89 sin 4° = 6.208 up on the right.
    let up = |p: &Position, side: Side| p.legs.of(side).hip_to_axle_mm.0;
    assert!(up(&rolled, Side::Right) - up(&rolled, Side::Left) > 12.0);
    // Yaw alone sends the right hip forward, and its knee with it.
    input.rider.pelvis.roll_deg = Degrees(0.0);
    input.rider.pelvis.yaw_deg = Degrees(5.0);
    let turned = foresee(&input).unwrap().before;
    let ahead = |side: Side| turned.legs.of(side).knee_over_axle.centre_mm.0;
    assert!(ahead(Side::Right) > ahead(Side::Left) + 5.0);
}

#[test]
fn a_shorter_leg_reads_shorter_and_a_shim_gives_part_of_it_back() {
    let mut input = example::road();
    let legs = foresee(&input).unwrap().lengths.legs;
    input.rider.legs.left.shank_mm = Some(legs.left.shank.value_mm - Millimetres(12.0));
    let uneven = foresee(&input).unwrap();
    let knee = |p: &Position, side: Side| p.legs.of(side).knee.smallest_deg.0;
    let apart = |p: &Position| knee(p, Side::Right) - knee(p, Side::Left);
    assert!(apart(&uneven.before) > 2.0);
    let shimmed = after(
        &input,
        &[Change {
            side: Some(Side::Left),
            ..Change::to(Quantity::Shim, 6.0)
        }],
    );
    assert!(apart(&shimmed.after) < apart(&shimmed.before));
    assert!(apart(&shimmed.after) > 0.0);
    assert_eq!(shimmed.title, "Left shim 6");
}

#[test]
fn a_soft_effort_loads_the_hands() {
    let mut input = example::road();
    let load = |input: &ForeseeInput| of(&foresee(input).unwrap().before, Output::HandLoad);
    input.effort = Some(Effort {
        power_w: 220.0,
        cadence_rpm: 90.0,
    });
    let steady = load(&input);
    input.effort = Some(Effort {
        power_w: 80.0,
        cadence_rpm: 90.0,
    });
    assert!(load(&input) > steady + 20.0);
    let share = of(&foresee(&input).unwrap().before, Output::FrontShare);
    assert!((36.0..46.0).contains(&share), "{share}");
    input.effort = Some(Effort {
        power_w: 80.0,
        cadence_rpm: 0.0,
    });
    assert_eq!(
        foresee(&input).unwrap_err()[0].pointer,
        "/effort/cadence_rpm"
    );
    // Without a mass there is no load to estimate.
    input.effort = None;
    input.rider.body.mass_kg = None;
    assert!(foresee(&input).unwrap().before.loads.is_none());
}

#[test]
fn a_grade_moves_the_saddle_the_rider_feels_and_no_joint() {
    let mut input = example::road();
    let level = foresee(&input).unwrap().before;
    assert!(level.setback_on_grade_mm.is_none());
    input.grade_percent = 8.0;
    let climb = foresee(&input).unwrap().before;
    assert!(climb.setback_on_grade_mm.unwrap().0 > 260.0);
    assert_eq!(climb.legs, level.legs);
    input.grade_percent = 90.0;
    assert_eq!(foresee(&input).unwrap_err()[0].pointer, "/grade_percent");
}

#[test]
fn what_is_measured_narrows_its_band_and_a_change_is_surer_than_its_ends() {
    let down = [Change::by(Quantity::SaddleHeight, -6.0)];
    let estimated = after(&example::road(), &down);
    let (knee, change) = band(&estimated, Output::KneeAtFullReach);
    assert!(
        knee > 3.0 && knee < 15.0,
        "estimated legs leave the knee open: {knee}"
    );
    assert!(change < knee / 4.0, "{change} of {knee}");

    let mut input = example::road();
    let legs = estimated.lengths.legs;
    input.rider.legs = Sides::from_fn(|side| wedge_core::rider::LegBody {
        thigh_mm: Some(legs.of(side).thigh.value_mm),
        shank_mm: Some(legs.of(side).shank.value_mm),
        foot_length_mm: Some(legs.of(side).foot_length.value_mm),
        ..Default::default()
    });
    let measured = after(&input, &down);
    assert!(band(&measured, Output::KneeAtFullReach).0 < knee);
    // A tape's own number has the tape's own band.
    let (height, _) = band(&estimated, Output::SaddleHeight);
    assert!((height - 2.0).abs() < 0.2, "{height}");
}

#[test]
fn bands_are_those_of_a_hand_sum() {
    // Drop to the hood: saddle height's vertical 2, setback's none on a level line, and the bar's own 2: √(2² + 2²).
    let still = foresee(&example::road()).unwrap();
    let (drop, _) = band(&still, Output::Drop);
    assert!((drop - 8.0_f64.sqrt()).abs() < 0.01, "{drop}");
    let (ahead, _) = band(&still, Output::BbToHand);
    assert!((ahead - 2.0).abs() < 1e-6, "{ahead}");
}

#[test]
fn a_reading_settles_in_every_convention_of_its_bar() {
    for input in example::all() {
        let stands = foresee(&input).unwrap().before;
        for convention in Convention::ALL {
            let quantity = convention.quantity();
            let Some(value) = stands.dimensions.get(*convention) else {
                continue;
            };
            // Taped 4 more than it was: what is read afterwards is what was taped.
            let reading = Reading {
                convention: Some(*convention),
                ..Reading::new(
                    quantity,
                    value
                        + if quantity == Quantity::Setback {
                            1.0
                        } else {
                            4.0
                        },
                )
            };
            let mut settled = input.clone();
            settled.setup = crate::ask::settle(&input, &[reading])
                .unwrap_or_else(|r| panic!("{convention:?}: {r:?}"));
            let now = foresee(&settled)
                .unwrap()
                .before
                .dimensions
                .get(*convention)
                .unwrap();
            assert!(
                (now - reading.value).abs() < 0.05,
                "{convention:?}: {now} for {}",
                reading.value
            );
        }
    }
}

#[test]
fn a_reading_to_a_spot_the_bar_has_not_is_refused() {
    let reading = Reading {
        convention: Some(Convention::DropHood),
        ..Reading::new(Quantity::Drop, 40.0)
    };
    let refused = crate::ask::settle(&example::flat_bar(), &[reading]).unwrap_err();
    assert_eq!(refused[0].pointer, "/convention");
}

#[test]
fn nobody_reaches_pads_a_metre_out_and_that_is_an_answer() {
    let mut input = example::time_trial();
    let Bar::Aero(mut bar) = input.setup.bar else {
        panic!("pads");
    };
    bar.pad_forward_mm = Millimetres(200.0);
    input.setup.bar = Bar::Aero(bar);
    input.setup.cockpit.stem_mm = Millimetres(180.0);
    input.frame.frame_reach_mm = Millimetres(600.0);
    let position = foresee(&input).unwrap().before;
    assert!(
        matches!(position.upper.reach, Reach::Beyond { .. }),
        "{:?}",
        position.upper.reach
    );
    assert!(position.reach_words()[0].starts_with("The elbows are"));
    let gap = position.arm_gap.unwrap();
    assert!((gap.from.distance(gap.to) - gap.by_mm.0).abs() < 1e-6);
    // The legs are answered all the same.
    assert!(position.legs.right.reach.is_met());
}

#[test]
fn a_saddle_out_of_reach_is_drawn_where_the_leg_lacks_most() {
    let far = after(
        &example::road(),
        &[Change::by(Quantity::SaddleHeight, 180.0)],
    )
    .after;
    for side in Side::BOTH {
        let leg = far.legs.of(side);
        let Reach::Beyond { by_mm, .. } = leg.reach else {
            panic!("{:?}", leg.reach);
        };
        let gap = leg.gap.unwrap();
        assert!((gap.by_mm - by_mm).0.abs() < 1e-9);
        assert!((gap.from.distance(gap.to) - by_mm.0).abs() < 1e-6);
        assert!(
            (120.0..240.0).contains(&gap.crank_deg.unwrap().0),
            "{gap:?}"
        );
    }
    assert!(!far.is_reached());
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::with_cases(64) })]

    #[test]
    fn a_rigid_rotation_leaves_every_joint_angle(which in 0..4_usize, by in -6.0..6.0_f64) {
        let input = &example::all()[which];
        let turned = rotate(input, Degrees(by)).unwrap();
        for side in Side::BOTH {
            let (a, b) = (turned.before.legs.of(side), turned.after.legs.of(side));
            // Extremes are read in whole degrees of crank, which a turn shifts by a fraction.
            for (x, y) in [
                (a.knee.smallest_deg, b.knee.smallest_deg),
                (a.knee.largest_deg, b.knee.largest_deg),
                (a.hip_closed_deg, b.hip_closed_deg),
                (a.hip_flexion_deg, b.hip_flexion_deg),
                (a.ankle_smallest_deg, b.ankle_smallest_deg),
            ] {
                prop_assert!((x - y).0.abs() < 0.01, "{x:?} {y:?}");
            }
            prop_assert!((a.clearance.knee_to_elbow_mm - b.clearance.knee_to_elbow_mm).0.abs() < 0.1);
        }
        let (a, b) = (&turned.before.upper, &turned.after.upper);
        prop_assert!((a.torso_deg - b.torso_deg).0 - by < 1e-6);
        prop_assert!((a.shoulder_deg - b.shoulder_deg).0.abs() < 1e-6);
        prop_assert!((a.elbow_deg - b.elbow_deg).0.abs() < 1e-6);
        // Every contact point keeps its distance from the BB.
        prop_assert!((turned.sit.length() - turned.before.bike.sit.length()).abs() < 1e-9);
        let bike = &turned.before.bike;
        match bike.pad_elbow {
            // On pads it is the elbow that turns, and the pads go with it.
            Some(elbow) => {
                let at = elbow + (turned.hand - bike.hand);
                prop_assert!((at.length() - elbow.length()).abs() < 1e-9);
            }
            None => prop_assert!((turned.hand.length() - bike.hand.length()).abs() < 1e-9),
        }
    }

    #[test]
    fn swapping_left_and_right_swaps_every_output(
        which in 0..4_usize, shorter in 0.0..20.0_f64, shim in 0.0..8.0_f64, crank in -5.0..5.0_f64,
        roll in -3.0..3.0_f64, yaw in -4.0..4.0_f64,
    ) {
        let mut one = example::all()[which].clone();
        let shank = foresee(&one).unwrap().lengths.legs.left.shank.value_mm;
        one.rider.legs.left.shank_mm = Some(shank - Millimetres(shorter));
        one.rider.legs.right.shank_mm = Some(shank);
        one.setup.pedalling.left.shim_mm = Millimetres(shim);
        one.setup.pedalling.right.crank_mm.0 += crank;
        one.rider.pelvis.roll_deg = Degrees(roll);
        one.rider.pelvis.yaw_deg = Degrees(yaw);
        let mut other = one.clone();
        std::mem::swap(&mut other.rider.legs.left, &mut other.rider.legs.right);
        std::mem::swap(&mut other.setup.pedalling.left, &mut other.setup.pedalling.right);
        other.rider.pelvis.roll_deg = -one.rider.pelvis.roll_deg;
        other.rider.pelvis.yaw_deg = -one.rider.pelvis.yaw_deg;
        let (one, other) = (foresee(&one).unwrap().before, foresee(&other).unwrap().before);
        for output in Output::ALL {
            let (a, b) = (output.of(&one, Side::Left), output.of(&other, Side::Right));
            // The saddle height from the axle would be the right crank's; the others have no side.
            let same = match (a, b) {
                (Some(a), Some(b)) => (a - b).abs() < 1e-6,
                (a, b) => a == b,
            };
            prop_assert!(same, "{output:?}: {a:?} {b:?}");
        }
    }

    #[test]
    fn a_longer_stem_never_brings_the_hand_nearer_on_any_bar(which in 0..4_usize, more in 0.5..60.0_f64) {
        let foreseen = after(&example::all()[which], &[Change::by(Quantity::Stem, more)]);
        prop_assert!(foreseen.after.bike.hand.x > foreseen.before.bike.hand.x);
    }
}
