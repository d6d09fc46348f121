//! How near foresight comes to riders whose true lengths are known: `cargo bench -p wedge-devices --bench truth`.
//!
//! 500 riders are drawn from the craft's priors (left and right correlated), their stature, inseam and feet taped with
//! the tape's spread, looked at with the method's noise, and fitted. What is foreseen of a change is held against what
//! a linkage of its own says of the rider as they really are ([`wedge_devices::body`]). Rows that say so have an observer who sees
//! every angle of a kind larger or smaller, and all angles read by one method by something more, and a bike taped with
//! the tape's spread. Only riders whose legs reach are on a bike at all: before anything is seen the bands, which know
//! nothing of that, are wider than such riders are apart. One seed: the table is the same on
//! every run but for the times.

use std::time::{Duration, Instant};
use wedge_core::example;
use wedge_core::foresee::{Change, ForeseeInput, Look, Sighting, calibrate};
use wedge_core::measure::{Method, Output, Quantity};
use wedge_core::position::Fit;
use wedge_core::units::{Degrees, Millimetres, Side};
use wedge_devices::body::{Body, Sight, Two};
use wedge_devices::foresight::{Near, OUTPUTS, foreseen, front, saddle, value, with};
use wedge_devices::observer::Observer;

const RIDERS: u32 = 500;
/// Between the hands, of the example's bar.
const SPACING_MM: f64 = 420.0;
/// How alike the two sides of one rider are.
const ALIKE: f64 = 0.9;
/// A knee this far off at the position that was seen, after the fit, and this many of its bands, is stuck.
const STUCK_DEG: f64 = 8.0;
const STUCK_BANDS: f64 = 4.0;

/// Numbers by splitmix64, normal ones by Box and Muller: the same on every machine.
struct Draw(u64);

impl Draw {
    fn uniform(&mut self) -> f64 {
        self.0 = self.0.wrapping_add(0x9e37_79b9_7f4a_7c15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xbf58_476d_1ce4_e5b9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94d0_49bb_1331_11eb);
        let high = u32::try_from((z ^ (z >> 31)) >> 32).unwrap_or_default();
        (f64::from(high) + 0.5) / 2.0_f64.powi(32)
    }

    fn normal(&mut self, sd: f64) -> f64 {
        let radius = (-2.0 * (1.0 - self.uniform()).ln()).sqrt();
        sd * radius * (std::f64::consts::TAU * self.uniform()).cos()
    }

    /// Both sides, mostly alike.
    fn two(&mut self, middle: f64, sd: f64) -> Two {
        let common = middle + self.normal(sd * ALIKE.sqrt());
        [0; 2].map(|_| common + self.normal(sd * (1.0 - ALIKE).sqrt()))
    }
}

/// A rider as they are, and as they are known.
struct Subject {
    truth: Body,
    known: ForeseeInput,
    /// The bike as it really is, once taped with errors.
    bike: ForeseeInput,
    observer: Observer,
    /// What is added to every angle read in the one visit, in standard deviations of the method; otherwise all of a reading's
    /// noise is its own.
    common: Option<f64>,
}

/// Somebody from the priors on a bike of about their size; `None` for whom it is too large or small.
fn subject(draw: &mut Draw, honest: bool) -> Option<Subject> {
    let stature = draw.normal(90.0).clamp(-200.0, 200.0) + 1750.0;
    let inseam = 0.475 * stature + draw.normal(20.0);
    let (legs, rest) = (
        inseam / (0.475 * stature),
        (stature - inseam) / (0.525 * stature),
    );
    let truth = Body {
        thigh: draw.two(0.245 * stature * legs, 12.0),
        shank: draw.two(0.246 * stature * legs, 12.0),
        ankle_height: draw.two(0.039 * stature * legs, 6.0),
        foot_length: draw.two(0.152 * stature, 8.0),
        trunk: 0.288 * stature * rest + draw.normal(15.0),
        upper_arm: 0.186 * stature + draw.normal(15.0 / 2.0_f64.sqrt()),
        forearm: 0.146 * stature + draw.normal(15.0 / 2.0_f64.sqrt()),
        hand: 0.108 * stature,
        shoulder_breadth: 0.23 * stature + draw.normal(20.0),
        hip_rise: 0.034 * stature + draw.normal(15.0),
        hip_forward: draw.normal(20.0),
        pelvis_share: 0.5 + draw.normal(0.15),
        elbow: (20.0 + draw.normal(5.0)).clamp(6.0, 60.0),
        pitch_mean: draw.two(20.0, 5.0),
        pitch_swing: draw.two(12.0, 4.0).map(|swing| swing.max(1.0)),
        pitch_peak: draw.two(example::road().rider.pitch.left.peak_deg.0, 15.0),
        pitch_response: (0.15 + draw.normal(0.1)).max(0.0),
        slide: 0.0,
        bend: 0.0,
    };
    let mut known = example::road();
    let taped = |draw: &mut Draw, value: f64, quantity: Quantity| {
        Some(Millimetres(
            (value + draw.normal(quantity.spec().uncertainty)).round(),
        ))
    };
    let body = &mut known.rider.body;
    body.stature_mm = taped(draw, stature, Quantity::Stature)?;
    body.inseam_mm = taped(draw, inseam, Quantity::Inseam);
    body.mass_kg = None;
    for (side, foot) in Side::BOTH.into_iter().zip(truth.foot_length) {
        known.rider.legs.of_mut(side).foot_length_mm = taped(draw, foot, Quantity::FootLength);
    }
    let size = stature / 1780.0;
    let frame = &mut known.frame;
    for length in [&mut frame.frame_reach_mm, &mut frame.frame_stack_mm] {
        length.0 = (length.0 * size).round();
    }
    let seat = &mut known.setup.saddle;
    seat.saddle_height_mm = Millimetres((0.883 * inseam + draw.normal(8.0)).round());
    seat.setback_mm = Millimetres((0.28 * seat.saddle_height_mm.0 + draw.normal(10.0)).round());
    let mut bike = known.clone();
    let (mut observer, mut common) = (Observer::default(), None);
    if !honest {
        let seat = &mut bike.setup.saddle;
        seat.saddle_height_mm.0 += draw.normal(Quantity::SaddleHeight.spec().uncertainty);
        seat.setback_mm.0 += draw.normal(Quantity::Setback.spec().uncertainty);
        bike.setup.residual.hand_forward_mm.0 += draw.normal(Quantity::BbToHand.spec().uncertainty);
        bike.setup.residual.hand_up_mm.0 += draw.normal(Quantity::Drop.spec().uncertainty);
        observer = Observer {
            knee: draw.normal(2.0),
            hip: draw.normal(3.0),
            ankle: draw.normal(3.0),
            torso: draw.normal(1.5),
            shoulder: draw.normal(3.0),
            foot: draw.normal(2.0),
        };
        common = Some(draw.normal(1.0));
    }
    let subject = Subject {
        truth,
        known,
        bike,
        observer,
        common,
    };
    // Everything that is asked of them below is within their reach.
    for changes in [Vec::new(), saddle(10.0), saddle(-10.0), front()] {
        let knee = subject.seen(&changes)?.knee_at_full_reach;
        if knee.iter().any(|knee| *knee < 8.0) {
            return None;
        }
    }
    Some(subject)
}

impl Subject {
    /// What there is to see on the bike as it really is, changed so, by this observer and without noise.
    fn seen(&self, changes: &[Change]) -> Option<Sight> {
        let found = with(&self.bike, &[])?;
        let first = self
            .truth
            .on(&found.after.bike, &found.setup, SPACING_MM, None)?;
        let there = with(&self.bike, changes)?;
        let sight = self.truth.on(
            &there.after.bike,
            &there.setup,
            SPACING_MM,
            Some(first.hip_to_axle),
        )?;
        Some(self.observer.sees(&sight))
    }

    /// A look at the rider with the bike changed so.
    fn look(
        &self,
        draw: &mut Draw,
        changes: &[Change],
        outputs: &[Output],
        method: Method,
    ) -> Option<Look> {
        let sight = self.seen(changes)?;
        let mut seen = Vec::new();
        for output in outputs {
            for side in Side::each(output.spec().per_side) {
                let mut sighting = Sighting {
                    output: *output,
                    side: *side,
                    value: value(&sight, *output, *side)?,
                    method,
                    spread: None,
                };
                let shared = self.common.map_or(0.0, |_| common(method));
                let own = (sighting.spread().powi(2) - shared * shared).sqrt();
                sighting.value += self.common.unwrap_or(0.0) * shared + draw.normal(own);
                sighting.value = sighting.value.round();
                seen.push(sighting);
            }
        }
        Some(Look::of(with(&self.known, changes)?.setup, seen))
    }
}

/// The part of a method's noise that is common to a visit.
fn common(method: Method) -> f64 {
    match method {
        Method::Film => 1.0,
        _ => 1.5,
    }
}

const SEVEN: [Output; 7] = [
    Output::KneeAtFullReach,
    Output::KneeForward,
    Output::KneeMostBent,
    Output::HipClosed,
    Output::Torso,
    Output::Shoulder,
    Output::Elbow,
];

/// A row of the table.
#[derive(Default)]
struct Row {
    knee: Near,
    change: Near,
    torso: Near,
    shoulder: Near,
    stuck: u32,
    refused: u32,
    time: Duration,
    riders: u32,
}

impl Row {
    fn add(&mut self, subject: &Subject, fit: Option<Fit>) -> Option<()> {
        let known = ForeseeInput {
            fit,
            ..subject.known.clone()
        };
        self.riders += 1;
        let found = subject.seen(&[])?;
        let now = with(&known, &[])?;
        let sides = || Side::BOTH.into_iter().enumerate();
        let stuck = sides().any(|(at, side)| {
            foreseen(&now, Output::KneeAtFullReach, side).is_none_or(|(knee, band, ..)| {
                (knee - found.knee_at_full_reach[at]).abs() > STUCK_DEG.max(STUCK_BANDS * band)
            })
        });
        self.stuck += u32::from(stuck);
        for by in [10.0, -10.0] {
            let truth = subject.seen(&saddle(by))?;
            let there = with(&known, &saddle(by))?;
            for (at, side) in sides() {
                let Some((knee, band, change, spread)) =
                    foreseen(&there, Output::KneeAtFullReach, side)
                else {
                    continue;
                };
                let really = truth.knee_at_full_reach[at];
                self.knee.add(knee - really, band);
                self.change
                    .add(change - (really - found.knee_at_full_reach[at]), spread);
            }
        }
        let truth = subject.seen(&front())?;
        let there = with(&known, &front())?;
        if let Some((torso, band, ..)) = foreseen(&there, Output::Torso, Side::Right) {
            self.torso.add(torso - truth.torso, band);
        }
        if let Some((shoulder, band, ..)) = foreseen(&there, Output::Shoulder, Side::Right) {
            self.shoulder.add(shoulder - truth.shoulder, band);
        }
        Some(())
    }

    fn print(&self, what: &str) {
        println!(
            "{what:<44}{}  {}  {}  {}  {:3} stuck, {:3} refused, {:5.1} ms",
            self.knee.words(),
            self.change.words(),
            self.torso.words(),
            self.shoulder.words(),
            self.stuck,
            self.refused,
            1000.0 * self.time.as_secs_f64() / f64::from(self.riders.max(1))
        );
    }
}

/// The bike as it was changed for a look, with the outputs that were read and the method.
type Plan = (&'static [f64], &'static [Output], Method);

fn row(what: &str, honest: bool, plan: Option<Plan>) {
    let mut row = Row::default();
    let mut draw = Draw(1);
    let mut noise = Draw(2);
    while row.riders < RIDERS {
        let Some(mut subject) = subject(&mut draw, honest) else {
            continue;
        };
        if plan.is_none() {
            // Before anybody looked it is the angles themselves that are foreseen.
            subject.observer = Observer::default();
        }
        let fit = match plan {
            None => None,
            Some((heights, outputs, method)) => {
                let looks: Option<Vec<Look>> = heights
                    .iter()
                    .map(|by| {
                        let changes = if *by == 0.0 { Vec::new() } else { saddle(*by) };
                        subject.look(&mut noise, &changes, outputs, method)
                    })
                    .collect();
                let (Some(looks), Ok(ride)) = (looks, subject.known.check()) else {
                    continue;
                };
                let begun = Instant::now();
                let fitted = calibrate(&ride, &looks);
                row.time += begun.elapsed();
                row.refused += u32::from(fitted.is_err());
                fitted.ok().map(|calibration| calibration.fit)
            }
        };
        let _ = row.add(&subject, fit);
    }
    row.print(what);
}

const ONE: &[f64] = &[0.0];
const TWO: &[f64] = &[0.0, 10.0];

fn main() {
    println!("RMS off, ° (± band; truths within one band, within two), {RIDERS} riders");
    println!(
        "{:<44}{:<28}{:<28}{:<28}{:<28}",
        "", "knee after ± 10 mm saddle", "its change", "torso, front −20/+15", "shoulder"
    );
    row("nothing seen", true, None);
    row(
        "one goniometer look, 7 outputs",
        true,
        Some((ONE, &SEVEN, Method::Goniometer)),
    );
    row(
        "one film look, 16 outputs",
        true,
        Some((ONE, &OUTPUTS, Method::Film)),
    );
    row(
        "two film looks at two heights",
        true,
        Some((TWO, &OUTPUTS, Method::Film)),
    );
    row("nothing seen, observer and tape off", false, None);
    row(
        "one goniometer look, observer and tape off",
        false,
        Some((ONE, &SEVEN, Method::Goniometer)),
    );
    row(
        "one film look, observer and tape off",
        false,
        Some((ONE, &OUTPUTS, Method::Film)),
    );
    row(
        "two film looks, observer and tape off",
        false,
        Some((TWO, &OUTPUTS, Method::Film)),
    );
    // Where the feet stand is drawn from the model's own prior, whatever that is.
    let Degrees(peak) = example::road().rider.pitch.left.peak_deg;
    println!("heels highest at {peak}°");
    println!(
        "± is what the right linkage with the right priors leaves: no fit of these looks can be nearer on the whole"
    );
}
