//! Calibration on riders made here: a model with other lengths, habits and landmarks than those measured, seen with
//! noise. What was hidden is drawn from what the craft thinks of riders before anything is seen.
use crate::ask::calibrate;
use proptest::strategy::{Strategy, ValueTree};
use proptest::test_runner::TestRunner;
use wedge_core::example;
use wedge_core::foresee::{Calibration, Change, ForeseeInput, Foresight, Look, Sighting, foresee};
use wedge_core::measure::{Method, Output, Quantity};
use wedge_core::plane::Point;
use wedge_core::rider::{Body, FootPitch, Reach, Rider};
use wedge_core::units::{Degrees, Kilograms, Millimetres, Side, Sides};

const RIDERS: usize = 60;
/// 90 % of a normal distribution lies within this many standard deviations.
const NINETY: f64 = 1.645;

/// Chance that is the same at every run.
struct Dice(TestRunner);

impl Dice {
    fn even(&mut self, low: f64, high: f64) -> f64 {
        (low..high).new_tree(&mut self.0).unwrap().current()
    }

    /// Around zero, nearly normal: twelve even draws.
    fn off(&mut self, sd: f64) -> f64 {
        ((0..12).map(|_| self.even(0.0, 1.0)).sum::<f64>() - 6.0) * sd
    }
}

/// By how much angles are seen larger than they are.
struct Eye {
    knee: f64,
    hip: f64,
    ankle: f64,
    torso: f64,
    shoulder: f64,
    foot: f64,
}

impl Eye {
    fn adds(&self, output: Output) -> f64 {
        match output {
            Output::KneeAtFullReach
            | Output::KneeAtTop
            | Output::KneeForward
            | Output::KneeAtBottom
            | Output::KneeMostBent => self.knee,
            Output::HipClosed | Output::HipOpen => self.hip,
            Output::AnkleSmallest | Output::AnkleLargest => self.ankle,
            Output::Torso => self.torso,
            Output::Shoulder => self.shoulder,
            Output::FootAtTop | Output::FootForward | Output::FootAtBottom | Output::FootRising => {
                self.foot
            }
            _ => 0.0,
        }
    }
}

/// A rider as measured, and as they are.
struct Pair {
    measured: ForeseeInput,
    hidden: ForeseeInput,
    eye: Eye,
}

/// What a frame of film at each quarter of the stroke gives, and one at full reach.
const SEEN: [(Output, bool); 14] = [
    (Output::KneeAtFullReach, true),
    (Output::KneeAtTop, true),
    (Output::KneeForward, true),
    (Output::KneeAtBottom, true),
    (Output::KneeMostBent, true),
    (Output::HipClosed, true),
    (Output::AnkleSmallest, true),
    (Output::AnkleLargest, true),
    (Output::FootAtTop, true),
    (Output::FootForward, true),
    (Output::FootAtBottom, true),
    (Output::FootRising, true),
    (Output::Torso, false),
    (Output::Shoulder, false),
];

fn sides(per_side: bool) -> &'static [Side] {
    if per_side {
        &Side::BOTH
    } else {
        &[Side::Right]
    }
}

macro_rules! mm {
    ($value:expr) => {
        Some(Millimetres($value))
    };
}

fn pair(dice: &mut Dice) -> Pair {
    let stature = dice.even(1520.0, 1980.0);
    let inseam = 0.475 * stature + dice.off(20.0);
    let body = Body {
        mass_kg: Some(Kilograms(70.0)),
        inseam_mm: mm!(inseam),
        shoulder_breadth_mm: mm!(0.23 * stature),
        ..Body::new(Millimetres(stature))
    };
    let mut measured = example::road();
    measured.rider = Rider::new(body, Sides::default());
    let height = 0.883 * inseam + dice.off(10.0);
    measured
        .setup
        .saddle
        .place(Point::new(-0.29 * height, 0.957 * height));
    let hand_forward = 0.30 * stature - 20.0;
    let hand_up = 0.957 * height - dice.even(0.0, 60.0);
    let stands = foresee(&measured).unwrap().before.bike.hand;
    measured.setup.residual.hand_forward_mm.0 += hand_forward - stands.x;
    measured.setup.residual.hand_up_mm.0 += hand_up - stands.y;

    // The same rider as they are: their book was not pressed up quite as firmly, and nobody has average bones.
    let mut hidden = measured.clone();
    hidden.rider.body.inseam_mm = mm!(inseam + dice.off(5.0));
    let lengths = hidden.rider.lengths();
    let arm = dice.off(15.0);
    let rider = &mut hidden.rider;
    rider.body.trunk_mm = mm!(lengths.trunk.value_mm.0 + dice.off(15.0));
    rider.body.upper_arm_mm = mm!(lengths.upper_arm.value_mm.0 + 0.5 * arm);
    rider.body.forearm_mm = mm!(lengths.forearm.value_mm.0 + 0.5 * arm);
    rider.pelvis.rise_mm = mm!((lengths.hip_rise_mm.0 + dice.off(15.0)).max(5.0));
    rider.pelvis.forward_mm = Millimetres(dice.off(20.0));
    rider.pelvis.share = (0.5 + dice.off(0.15)).clamp(0.1, 0.9);
    rider.elbow_deg = Degrees(20.0 + dice.off(5.0)).max(6.0);
    rider.pitch_response_deg_per_mm = (0.15 + dice.off(0.1)).clamp(0.0, 0.4);
    for side in Side::BOTH {
        let bones = lengths.legs.of(side);
        let leg = rider.legs.of_mut(side);
        leg.thigh_mm = mm!(bones.thigh.value_mm.0 + dice.off(12.0));
        leg.shank_mm = mm!(bones.shank.value_mm.0 + dice.off(12.0));
        leg.ankle_height_mm = mm!(bones.ankle_height.value_mm.0 + dice.off(6.0));
        leg.foot_length_mm = mm!(bones.foot_length.value_mm.0 + dice.off(8.0));
        *rider.pitch.of_mut(side) = FootPitch {
            mean_deg: Degrees(20.0 + dice.off(5.0)),
            amp_deg: Degrees((12.0 + dice.off(4.0)).max(1.0)),
            peak_deg: Degrees(270.0 + dice.off(15.0)),
        };
    }
    // And the tape lies by its two millimetres.
    let sit = hidden.setup.saddle.sit().unwrap();
    hidden
        .setup
        .saddle
        .place(sit + Point::new(dice.off(2.0), dice.off(2.0)));
    hidden.setup.residual.hand_forward_mm.0 += dice.off(2.0);
    hidden.setup.residual.hand_up_mm.0 += dice.off(2.0);
    for side in Side::BOTH {
        for quantity in [Quantity::CleatSetback, Quantity::PedalStack, Quantity::Sole] {
            let stands = hidden.setup.get(quantity, Some(side)).unwrap();
            let off = dice.off(quantity.spec().uncertainty);
            hidden.setup.set(quantity, Some(side), stands + off);
        }
    }
    let eye = Eye {
        knee: dice.off(2.0),
        hip: dice.off(3.0),
        ankle: dice.off(3.0),
        torso: dice.off(1.5),
        shoulder: dice.off(3.0),
        foot: dice.off(2.0),
    };
    Pair {
        measured,
        hidden,
        eye,
    }
}

trait AtLeast {
    fn max(self, least: f64) -> Self;
}

impl AtLeast for Degrees {
    fn max(self, least: f64) -> Self {
        Self(self.0.max(least))
    }
}

impl Pair {
    /// A rider who reaches saddle and bars, as measured and as they are.
    fn draw(dice: &mut Dice) -> Self {
        loop {
            let pair = pair(dice);
            let reached = foresee(&pair.measured).unwrap().before.is_reached();
            let truth = pair.truth(Some(Change::by(Quantity::SaddleHeight, 10.0)));
            let knee = |side| Output::KneeAtFullReach.of(&truth.after, side).unwrap();
            // Nobody rides on toes stretched as far as they go, or folded up: such a saddle is moved before it is fitted.
            let rides = Side::BOTH.iter().all(|side| {
                truth.after.legs.of(*side).reach == Reach::Within
                    && (20.0..=50.0).contains(&knee(*side))
            });
            if reached && rides {
                return pair;
            }
        }
    }

    /// What there is to see, without noise.
    fn truth(&self, change: Option<Change>) -> Foresight {
        let mut hidden = self.hidden.clone();
        hidden.changes.extend(change);
        foresee(&hidden).unwrap()
    }

    fn look(&self, dice: &mut Dice) -> Look {
        let truth = self.truth(None);
        let mut seen = Vec::new();
        for (output, per_side) in SEEN {
            for side in sides(per_side) {
                let value = output.of(&truth.before, *side).unwrap();
                seen.push(Sighting {
                    output,
                    side: per_side.then_some(*side),
                    value: value + self.eye.adds(output) + dice.off(2.0),
                    method: Method::Film,
                });
            }
        }
        Look {
            setup: self.measured.setup,
            hands: None,
            seen,
        }
    }
}

/// The same foresight with what was fitted.
fn with(input: &ForeseeInput, calibration: &Calibration, change: Option<Change>) -> Foresight {
    let mut input = input.clone();
    input.fit = Some(calibration.fit.clone());
    input.changes.extend(change);
    foresee(&input).unwrap()
}

fn band(foresight: &Foresight, output: Output, side: Side) -> f64 {
    foresight
        .rows
        .iter()
        .find(|row| row.output == output && row.side.is_none_or(|s| s == side))
        .and_then(|row| row.band)
        .unwrap()
}

fn rms(errors: &[f64]) -> f64 {
    let count = f64::from(u32::try_from(errors.len()).unwrap());
    (errors.iter().map(|e| e * e).sum::<f64>() / count).sqrt()
}

#[test]
fn sixty_riders_are_foreseen_better_once_they_were_seen() {
    let mut dice = Dice(TestRunner::deterministic());
    let raise = Change::by(Quantity::SaddleHeight, 10.0);
    let knee = Output::KneeAtFullReach;
    let (mut before, mut after, mut changes) = (Vec::new(), Vec::new(), Vec::new());
    let (mut inside, mut all) = (0_u32, 0_u32);
    for _ in 0..RIDERS {
        let pair = Pair::draw(&mut dice);
        let look = pair.look(&mut dice);
        let calibration = calibrate(&pair.measured, &[look]).unwrap();
        assert!(calibration.cost_after <= calibration.cost_before);

        let truth = pair.truth(None).before;
        let raw = foresee(&pair.measured).unwrap();
        let fitted = with(&pair.measured, &calibration, None);
        for side in Side::BOTH {
            let true_knee = knee.of(&truth, side).unwrap() + pair.eye.adds(knee);
            before.push(knee.of(&raw.before, side).unwrap() - true_knee);
            after.push(knee.of(&fitted.before, side).unwrap() - true_knee);
        }
        let answer = |f: &Foresight, side| {
            knee.of(&f.after, side).unwrap() - knee.of(&f.before, side).unwrap()
        };
        let (true_change, foreseen) = (
            pair.truth(Some(raise)),
            with(&pair.measured, &calibration, Some(raise)),
        );
        for side in Side::BOTH {
            changes.push(answer(&foreseen, side) - answer(&true_change, side));
        }
        for (output, per_side) in SEEN {
            for side in sides(per_side) {
                let off = output.of(&fitted.before, *side).unwrap()
                    - output.of(&truth, *side).unwrap()
                    - pair.eye.adds(output);
                all += 1;
                inside += u32::from(off.abs() <= NINETY * band(&fitted, output, *side));
            }
        }
    }
    let (before, after, changes) = (rms(&before), rms(&after), rms(&changes));
    let honest = 100.0 * f64::from(inside) / f64::from(all);
    println!(
        "knee before {before:.2}°, after {after:.2}°; change {changes:.2}°; inside {honest:.1} %"
    );
    assert!(
        after < 1.5,
        "knee after calibration: {after:.2}°, before {before:.2}°"
    );
    assert!(after < before);
    assert!(changes < 1.0, "10 mm of saddle: {changes:.2}°");
    assert!((85.0..=95.0).contains(&honest), "{honest:.1} % inside");
}

#[test]
fn two_angles_leave_what_they_cannot_tell_as_wide_as_it_was() {
    let mut dice = Dice(TestRunner::deterministic());
    let pair = Pair::draw(&mut dice);
    let mut look = pair.look(&mut dice);
    look.seen
        .retain(|s| matches!(s.output, Output::KneeAtFullReach | Output::Torso));
    let calibration = calibrate(&pair.measured, &[look]).unwrap();
    let said = |label: &str| {
        let of = |p: &&wedge_core::foresee::FittedParameter| p.label == label;
        calibration.parameters.iter().find(of).unwrap().said_percent
    };
    for silent in [
        "Foot pitch, swing, left",
        "Shoulder seen larger by",
        "Ankle seen larger by",
    ] {
        assert!(said(silent) < 10.0, "{silent}: {}", said(silent));
    }
    for parameter in &calibration.parameters {
        assert!(parameter.sd <= parameter.prior_sd + 1e-9, "{parameter:?}");
        let off = (parameter.fitted - parameter.prior).abs();
        assert!(off <= 2.5 * parameter.prior_sd + 1e-9, "{parameter:?}");
    }
    // What was seen is foreseen more closely than before, and no surer than it was seen.
    let fitted = with(&pair.measured, &calibration, None);
    let raw = foresee(&pair.measured).unwrap();
    let knee = Output::KneeAtFullReach;
    assert!(band(&fitted, knee, Side::Left) < 0.6 * band(&raw, knee, Side::Left));
    assert!(band(&fitted, knee, Side::Left) > 1.0);
    for sighting in &calibration.sightings {
        let (before, after) = (
            sighting.before - sighting.seen,
            sighting.after - sighting.seen,
        );
        assert!(after.abs() <= before.abs() + 0.5, "{sighting:?}");
    }
}

#[test]
fn one_short_leg_seen_is_fitted_on_its_own_side() {
    let measured = example::road();
    let mut hidden = measured.clone();
    let bones = hidden.rider.lengths().legs.left;
    hidden.rider.legs.left.shank_mm = mm!(bones.shank.value_mm.0 - 12.0);
    let truth = foresee(&hidden).unwrap().before;
    let seen = [
        Output::KneeAtFullReach,
        Output::KneeForward,
        Output::KneeMostBent,
    ]
    .into_iter()
    .flat_map(|output| Side::BOTH.map(|side| (output, side)))
    .map(|(output, side)| Sighting {
        output,
        side: Some(side),
        value: output.of(&truth, side).unwrap(),
        method: Method::Film,
    })
    .collect();
    let look = Look {
        setup: measured.setup,
        hands: None,
        seen,
    };
    let calibration = calibrate(&measured, &[look]).unwrap();
    let fitted = with(&measured, &calibration, None).before;
    let apart = |position: &wedge_core::position::Position| {
        Output::KneeAtFullReach.of(position, Side::Left).unwrap()
            - Output::KneeAtFullReach.of(position, Side::Right).unwrap()
    };
    assert!(
        (apart(&fitted) - apart(&truth)).abs() < 1.0,
        "{}",
        apart(&fitted)
    );
    let shank = |side: &str| {
        let label = format!("Shank, {side}");
        let of = |p: &&wedge_core::foresee::FittedParameter| p.label == label;
        calibration.parameters.iter().find(of).unwrap().fitted
    };
    assert!(shank("left") < shank("right") - 2.0);
}

#[test]
fn nothing_seen_is_refused_and_a_measured_body_asks_for_a_new_fit() {
    let input = example::road();
    let nothing = Look {
        setup: input.setup,
        hands: None,
        seen: Vec::new(),
    };
    assert_eq!(
        calibrate(&input, std::slice::from_ref(&nothing)).unwrap_err()[0].pointer,
        "/seen"
    );
    let look = Look {
        seen: vec![Sighting {
            output: Output::KneeAtFullReach,
            side: None,
            value: 40.0,
            method: Method::Goniometer,
        }],
        ..nothing
    };
    let calibration = calibrate(&input, &[look]).unwrap();
    assert!(calibration.is_of(&input.rider));
    let mut measured = input.rider;
    measured.legs.left.thigh_mm = mm!(430.0);
    assert!(!calibration.is_of(&measured));

    // A fit that was cut short is refused, not half-used.
    let mut broken = input.clone();
    broken.fit = Some(calibration.fit);
    broken.fit.as_mut().unwrap().shifts.pop();
    assert_eq!(foresee(&broken).unwrap_err()[0].pointer, "/fit");
}
