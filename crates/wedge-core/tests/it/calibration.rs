//! Calibration on riders made here: a model with other lengths, habits and landmarks than those measured, seen with
//! noise. What was hidden is drawn from what the craft thinks of riders before anything is seen.
use crate::ask::calibrate;
use proptest::strategy::{Strategy, ValueTree};
use proptest::test_runner::TestRunner;
use wedge_core::bike::HandPlace;
use wedge_core::example;
use wedge_core::foresee::{
    Calibration, Change, ForeseeInput, Foresight, Look, Sighting, Trying, foresee, next_readings,
};
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

    /// Of two sides that are much alike.
    fn both_off(&mut self, sd: f64) -> Sides<f64> {
        let common = self.off(sd * 0.9_f64.sqrt());
        Sides::from_fn(|_| common + self.off(sd * 0.1_f64.sqrt()))
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
    // The two sides of a rider are much alike.
    let [thigh, shank, mean, amp, peak] = [12.0, 12.0, 5.0, 4.0, 15.0].map(|sd| dice.both_off(sd));
    for side in Side::BOTH {
        let bones = lengths.legs.of(side);
        let leg = rider.legs.of_mut(side);
        leg.thigh_mm = mm!(bones.thigh.value_mm.0 + thigh.of(side));
        leg.shank_mm = mm!(bones.shank.value_mm.0 + shank.of(side));
        leg.ankle_height_mm = mm!(bones.ankle_height.value_mm.0 + dice.off(6.0));
        leg.foot_length_mm = mm!(bones.foot_length.value_mm.0 + dice.off(8.0));
        *rider.pitch.of_mut(side) = FootPitch {
            mean_deg: Degrees(20.0 + mean.of(side)),
            amp_deg: Degrees((12.0 + amp.of(side)).max(1.0)),
            peak_deg: Degrees(270.0 + peak.of(side)),
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
                    spread: None,
                });
            }
        }
        Look {
            setup: self.measured.setup,
            hands: None,
            seen,
            weeks: 0.0,
            visit: 0,
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
        spread: None,
    })
    .collect();
    let look = Look {
        setup: measured.setup,
        hands: None,
        seen,
        weeks: 0.0,
        visit: 0,
    };
    let calibration = calibrate(&measured, &[look]).unwrap();
    let fitted = with(&measured, &calibration, None).before;
    let apart = |position: &wedge_core::position::Position| {
        Output::KneeAtFullReach.of(position, Side::Left).unwrap()
            - Output::KneeAtFullReach.of(position, Side::Right).unwrap()
    };
    // Nobody expects it: more than half of it is believed.
    let (told, really) = (apart(&fitted), apart(&truth));
    assert!(told < 0.5 * really && told > really, "{told} {really}");
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
        weeks: 0.0,
        visit: 0,
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
            spread: None,
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

fn film(output: Output, side: Option<Side>, value: f64) -> Sighting {
    Sighting {
        output,
        side,
        value,
        method: Method::Film,
        spread: None,
    }
}

fn one_look(input: &ForeseeInput, seen: Vec<Sighting>) -> Look {
    Look::of(input.setup, seen)
}

#[test]
fn a_leg_thought_too_short_is_fitted_to_the_knee_that_was_seen() {
    // As estimated it does not reach a saddle this high: the knee that was seen bends all the same.
    for height in [790.0, 800.0, 815.0] {
        let mut input = example::road();
        input.setup.saddle.saddle_height_mm = Millimetres(height);
        input.setup.saddle.setback_mm = Millimetres(227.2);
        let seen = vec![film(Output::KneeAtFullReach, None, 32.0)];
        let calibration = calibrate(&input, &[one_look(&input, seen)]).unwrap();
        let fitted = with(&input, &calibration, None);
        let knee = fitted.before.legs.right.knee.smallest_deg.0;
        // The reading against what the body allows: most of the way, in its doubt.
        assert!((knee - 32.0).abs() < 4.0, "{height}: {knee}");
        let doubt = band(&fitted, Output::KneeAtFullReach, Side::Right);
        assert!(
            (knee - 32.0).abs() < 2.0 * doubt,
            "{height}: {knee} ± {doubt}"
        );
        for sighting in &calibration.sightings {
            assert_eq!(sighting.question, None, "{height}");
        }
    }
}

#[test]
fn what_cannot_go_together_is_said_and_nothing_is_fitted() {
    let mut input = example::road();
    for side in Side::BOTH {
        let leg = input.rider.legs.of_mut(side);
        leg.thigh_mm = mm!(430.0);
        leg.shank_mm = mm!(430.0);
    }
    let seen = vec![film(Output::KneeAtFullReach, None, 95.0)];
    let refused = calibrate(&input, &[one_look(&input, seen)]).unwrap_err();
    let words = &refused[0].detail;
    assert!(words.contains("knee at full reach"), "{words}");
    assert!(words.contains("seen as 95°"), "{words}");
    assert!(
        words.contains("thigh") || words.contains("shank") || words.contains("hip"),
        "{words}"
    );
}

#[test]
fn readings_of_one_angle_are_taken_together() {
    let input = example::road();
    let fit = |values: &[f64]| {
        let seen = values
            .iter()
            .map(|value| film(Output::KneeAtFullReach, None, *value))
            .collect();
        calibrate(&input, &[one_look(&input, seen)]).unwrap()
    };
    let (three, one) = (fit(&[40.0, 42.0, 44.0]), fit(&[42.0]));
    for (three, one) in three.sightings.iter().zip(&one.sightings) {
        assert!((three.seen - 42.0).abs() < 1e-9);
        assert!(three.spread < one.spread, "{} {}", three.spread, one.spread);
        // The film stays what it is, however often one looks.
        assert!(three.spread > 2.0_f64.sqrt() * 1.0);
    }
    let told = |calibration: &Calibration| with(&input, calibration, None);
    let sure =
        |calibration: &Calibration| band(&told(calibration), Output::KneeAtFullReach, Side::Right);
    assert!(sure(&three) < sure(&one));

    let odd = fit(&[40.0, 41.0, 40.5, 62.0]);
    let question = odd.sightings[0].question.as_ref().unwrap();
    assert!(question.starts_with("62° stands far"), "{question}");
    // One against one tells nothing of either.
    assert_eq!(fit(&[40.0, 47.0]).sightings[0].question, None);
}

#[test]
fn an_old_look_counts_for_less() {
    let input = example::road();
    let fit = |weeks: f64| {
        let look = Look {
            weeks,
            ..one_look(&input, vec![film(Output::Torso, None, 40.0)])
        };
        calibrate(&input, &[look]).unwrap()
    };
    let torso = |weeks: f64| with(&input, &fit(weeks), None).before.upper.torso_deg.0;
    let prior = foresee(&input).unwrap().before.upper.torso_deg.0;
    let (fresh, old) = (torso(0.0), torso(20.0));
    assert!(
        (fresh - 40.0).abs() < (old - 40.0).abs(),
        "{fresh} {old} {prior}"
    );
    assert!((old - prior).abs() > 0.5, "{old} {prior}");
}

#[test]
fn an_elbow_that_was_seen_is_fitted_and_the_torso_follows() {
    let input = example::road();
    let before = foresee(&input).unwrap().before.upper;
    let seen = vec![film(Output::Elbow, None, 34.0)];
    let calibration = calibrate(&input, &[one_look(&input, seen)]).unwrap();
    assert_eq!(calibration.sightings[0].question, None);
    let after = with(&input, &calibration, None).before.upper;
    assert!(after.elbow_deg.0 > 30.0, "{}", after.elbow_deg.0);
    // Bent further, the arm is shorter: the trunk comes down.
    assert!(
        after.torso_deg.0 < before.torso_deg.0 - 1.0,
        "{} {}",
        after.torso_deg.0,
        before.torso_deg.0
    );
}

#[test]
fn an_elbow_is_the_one_of_the_position_that_was_seen_last() {
    let input = example::road();
    let on = |hands: HandPlace, elbow: f64, weeks: f64| Look {
        hands: Some(hands),
        weeks,
        ..one_look(&input, vec![film(Output::Elbow, None, elbow)])
    };
    let looks = [
        on(HandPlace::Drops, 36.0, 1.0),
        on(HandPlace::Hoods, 20.0, 0.0),
    ];
    let elbow = |looks: &[Look]| {
        let calibration = calibrate(&input, looks).unwrap();
        with(&input, &calibration, None).before.upper.elbow_deg.0
    };
    let (both, last) = (elbow(&looks), elbow(&looks[1..]));
    // What was seen with the hands elsewhere tells a little of the habit, and is not averaged in.
    assert!(both > last && both < 25.0, "{both} {last}");
}

#[test]
fn what_an_observer_adds_to_everything_is_fitted_once_a_visit() {
    let input = example::road();
    let truth = foresee(&input).unwrap().before;
    let visit = |visit: usize, by: f64| {
        let outputs = [
            Output::KneeAtFullReach,
            Output::KneeForward,
            Output::KneeMostBent,
            Output::HipClosed,
            Output::HipOpen,
            Output::AnkleSmallest,
            Output::Torso,
            Output::Shoulder,
            Output::Elbow,
        ];
        let seen =
            |output: Output| film(output, None, output.of(&truth, Side::Right).unwrap() + by);
        Look {
            visit,
            ..one_look(&input, outputs.map(seen).to_vec())
        }
    };
    let calibration = calibrate(&input, &[visit(0, 2.0), visit(1, -1.0)]).unwrap();
    let added: Vec<f64> = (calibration.parameters.iter())
        .filter(|p| p.label.starts_with("Film, every angle"))
        .map(|p| p.fitted)
        .collect();
    let [first, second] = added[..] else {
        panic!("one for each visit: {added:?}");
    };
    assert!(
        first > 0.5 && second < 0.0 && first - second > 1.5,
        "{added:?}"
    );
    // It is no part of the rider: the angles foreseen move by less than what was added.
    let knee = with(&input, &calibration, None)
        .before
        .legs
        .right
        .knee
        .smallest_deg
        .0;
    assert!(
        (knee - truth.legs.right.knee.smallest_deg.0).abs() < 0.5,
        "{knee}"
    );
    // One angle alone could be the rider as well.
    let alone = one_look(&input, vec![film(Output::KneeAtFullReach, None, 37.0)]);
    let alone = calibrate(&input, &[alone]).unwrap();
    assert!(
        alone
            .parameters
            .iter()
            .all(|p| !p.label.starts_with("Film"))
    );
}

#[test]
fn scales_under_the_wheels_shift_the_front_share_and_the_hands_load_with_it() {
    let mut input = example::road();
    input.effort = Some(wedge_core::rider::Effort {
        power_w: 200.0,
        cadence_rpm: 90.0,
    });
    let before = foresee(&input).unwrap();
    let share = |foresight: &Foresight| {
        Output::FrontShare
            .of(&foresight.before, Side::Right)
            .unwrap()
    };
    let read = Sighting {
        method: Method::Scales,
        ..film(Output::FrontShare, None, 40.0)
    };
    let calibration = calibrate(&input, &[one_look(&input, vec![read])]).unwrap();
    let after = with(&input, &calibration, None);
    assert!(
        share(&before) > 44.0 && (share(&after) - 40.0).abs() < 0.5,
        "{}",
        share(&after)
    );
    let doubt = |foresight: &Foresight| band(foresight, Output::FrontShare, Side::Right);
    assert!(
        doubt(&after) < 0.4 * doubt(&before),
        "{} {}",
        doubt(&after),
        doubt(&before)
    );
    let load = |foresight: &Foresight| Output::HandLoad.of(&foresight.before, Side::Right).unwrap();
    assert!(
        load(&after) < load(&before) - 20.0,
        "{} {}",
        load(&after),
        load(&before)
    );
    // It is where the weight is, and no angle.
    assert!((after.before.upper.torso_deg.0 - before.before.upper.torso_deg.0).abs() < 0.5);
}

#[test]
fn a_fit_from_before_the_foot_began_elsewhere_says_what_it_said() {
    let mut then = example::road();
    for side in Side::BOTH {
        then.rider.pitch.of_mut(side).peak_deg = Degrees(270.0);
    }
    let seen = vec![
        film(Output::KneeAtFullReach, None, 38.0),
        film(Output::Torso, None, 44.0),
    ];
    let fit = calibrate(&then, &[one_look(&then, seen)]).unwrap().fit;
    // As it was written down: without where it began.
    let mut written = serde_json::to_value(&fit).unwrap();
    written
        .as_object_mut()
        .unwrap()
        .remove("peak_from_deg")
        .unwrap();
    let read: wedge_core::position::Fit = serde_json::from_value(written).unwrap();
    assert_eq!(read, fit);
    let knee = |mut input: ForeseeInput| {
        input.fit = Some(read.clone());
        foresee(&input)
            .unwrap()
            .before
            .legs
            .right
            .knee
            .smallest_deg
            .0
    };
    assert!((knee(then) - knee(example::road())).abs() < 1e-9);
}

#[test]
fn a_fit_from_before_the_elbow_was_fitted_is_still_used() {
    let input = example::road();
    let seen = vec![
        film(Output::KneeAtFullReach, None, 38.0),
        film(Output::Torso, None, 44.0),
    ];
    let whole = calibrate(&input, &[one_look(&input, seen)]).unwrap().fit;
    let mut older = whole.clone();
    let then = 19;
    older.shifts.truncate(then);
    older.spread.truncate(then);
    for held in &mut older.held {
        held.response.truncate(then);
    }
    let told = |fit| {
        let mut input = input.clone();
        input.fit = Some(fit);
        foresee(&input).unwrap()
    };
    let (now, then) = (told(whole), told(older));
    let of = |foresight: &Foresight| band(foresight, Output::Torso, Side::Right);
    // It knows nothing of the elbow, so it is in doubt as it was.
    assert!(of(&then) > of(&now), "{} {}", of(&then), of(&now));
    assert!(of(&then) < 6.0);
}

#[test]
fn of_a_leg_that_does_not_reach_no_angle_is_told() {
    let mut input = example::road();
    input.setup.saddle.saddle_height_mm = Millimetres(905.0);
    let foresight = foresee(&input).unwrap();
    assert!(!foresight.after.is_reached());
    for output in [
        Output::KneeAtFullReach,
        Output::KneeMostBent,
        Output::HipClosed,
        Output::AnkleLargest,
        Output::KneeOverAxle,
        Output::FrontShare,
    ] {
        assert!(
            foresight.rows.iter().all(|row| row.output != output),
            "{output:?}"
        );
    }
    // What is the bike's stays.
    assert!((foresight.rows.iter()).any(|row| row.output == Output::SaddleHeight));
    assert!(!foresight.notes.is_empty());

    // Toes pointed it just reaches: straight, but nobody knows how nearly.
    input.setup.saddle.saddle_height_mm = Millimetres(800.0);
    let foresight = foresee(&input).unwrap();
    assert!(foresight.after.is_reached());
    let doubt = band(&foresight, Output::KneeAtFullReach, Side::Right);
    assert!(doubt > 2.0, "{doubt}");
}

#[test]
fn one_leg_that_does_not_reach_leaves_the_other_told() {
    let mut input = example::road();
    input.setup.saddle.saddle_height_mm = Millimetres(775.0);
    input.rider.legs.left.shank_shorter_mm = mm!(60.0);
    let foresight = foresee(&input).unwrap();
    let sides: Vec<Option<Side>> = (foresight.rows.iter())
        .filter(|row| row.output == Output::KneeAtFullReach)
        .map(|row| row.side)
        .collect();
    assert_eq!(sides, [Some(Side::Right)]);
}

#[test]
fn what_is_worth_reading_next_is_told_and_comes_true() {
    let input = example::road();
    let ride = input.check().unwrap();
    let worth = next_readings(&Trying::of(&ride));
    let knee = worth
        .iter()
        .find(|worth| worth.output == Output::KneeAtFullReach)
        .unwrap();
    let now = foresee(&input).unwrap();
    let before = band(&now, Output::KneeAtFullReach, Side::Right);
    assert!(
        (knee.band - before).abs() < 0.05 * before,
        "{knee:?} {before}"
    );
    assert!(knee.then < 0.9 * knee.band, "{knee:?}");

    // Of a rider whose legs were measured the tape has nothing more to give.
    let mut measured = input.clone();
    for side in Side::BOTH {
        let bones = *input.rider.lengths().legs.of(side);
        let leg = measured.rider.legs.of_mut(side);
        leg.thigh_mm = Some(bones.thigh.value_mm);
        leg.shank_mm = Some(bones.shank.value_mm);
    }
    for worth in next_readings(&Trying::of(&measured.check().unwrap())) {
        assert!(!worth.words.contains("tape"), "{}", worth.words);
    }

    // Done as told, it is as sure as foretold: to first order.
    let torso = worth
        .iter()
        .find(|worth| worth.output == Output::Torso)
        .unwrap();
    assert!(
        torso.words.contains("Torso: by goniometer"),
        "{}",
        torso.words
    );
    let seen = Sighting {
        output: Output::Torso,
        side: None,
        value: now.before.upper.torso_deg.0.round(),
        method: Method::Goniometer,
        spread: None,
    };
    let fitted = calibrate(&input, &[one_look(&input, vec![seen])]).unwrap();
    let then = band(&with(&input, &fitted, None), Output::Torso, Side::Right);
    assert!(
        (then - torso.then).abs() < 0.25 * torso.then,
        "{torso:?} {then}"
    );
}
