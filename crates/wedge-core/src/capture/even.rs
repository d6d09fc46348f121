//! One coordinate of one marker made even, whole and smooth: evenly timed, short gaps bridged, filtered.

use super::spline::Curve;
use super::stat::middle;
use crate::rule::rules;
use biquad::{Biquad, Coefficients, DirectForm2Transposed, Q_BUTTERWORTH_F64, ToHertz, Type};
use std::ops::Range;

rules! {
    rules "Markers";
    /// The longest gap that is bridged, by a cubic through two frames on either side.
    const GAP_S: f64 = 0.1, " s", House;
    /// The least unbroken run that is filtered.
    const RUN_S: f64 = 0.3, " s", House;
    /// What is left of a signal at this frequency is half its power: Butterworth, second order, forward and backward.
    const CUT_HZ: f64 = 10.0, " Hz", House ("Winter, Biomechanics and Motor Control, ch. 3");
    /// One pass is designed this much higher, so that both together cut where one should.
    const PASSES: f64 = 0.802, "", Published ("Winter, Biomechanics and Motor Control, ch. 3");
    /// No pass is designed above this share of the rate.
    const OF_RATE: f64 = 0.38, "", House;
    /// A piece between two jumps that lasts no longer than this is taken out: two markers were taken for one another.
    const JUMPED_S: f64 = 0.15, " s", House;
    /// A jump is so many times as fast as this marker goes for nine tenths of the time.
    const JUMP: f64 = 5.0, "", House;
    /// How far a run is reflected at its ends before it is filtered.
    const REFLECTED_S: f64 = 0.15, " s", House;
    /// Times that differ from even by more than this share of a frame are brought to an even rate.
    const UNEVEN: f64 = 0.02, "", House;
}

/// When frames were, evenly.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Clock {
    pub(crate) start: f64,
    pub(crate) rate_hz: f64,
    pub(crate) frames: usize,
}

impl Clock {
    /// The time of a frame, s.
    pub(crate) fn at(&self, frame: usize) -> f64 {
        self.start + frame as f64 / self.rate_hz
    }

    /// Frames in so many seconds.
    pub(crate) fn count(&self, seconds: f64) -> usize {
        (seconds * self.rate_hz).round() as usize
    }
}

/// A place a frame, where it is known.
pub(crate) type Places = Vec<Option<[f64; 3]>>;

/// From one frame to the next, s: the middle of what lies between them.
pub(crate) fn step(times: &[f64]) -> Option<f64> {
    middle(times.windows(2).map(|pair| pair[1] - pair[0]))
}

/// The even clock of these times, and whether they were even already.
pub(crate) fn clock(times: &[f64], rate_hz: f64) -> (Clock, bool) {
    let frames = times.len();
    let (start, end) = (times[0], times[frames - 1]);
    let step = step(times).unwrap_or(1.0 / rate_hz);
    let even = times.iter().enumerate().all(|(frame, time)| {
        (time - start - frame as f64 * step).abs() < (UNEVEN * step).max(0.000_6)
    });
    let clock = if even {
        // Times in a file are rounded: their whole length says more of the rate than one step.
        let whole = (end - start) / (frames - 1).max(1) as f64;
        Clock {
            start,
            rate_hz: 1.0 / whole,
            frames,
        }
    } else {
        let frames = ((end - start) / step).floor() as usize + 1;
        Clock {
            start,
            rate_hz: 1.0 / step,
            frames,
        }
    };
    (clock, even)
}

/// Brings places to an even clock by splines through each unbroken run.
pub(crate) fn evened(times: &[f64], places: &Places, clock: &Clock) -> Places {
    let mut out = vec![None; clock.frames];
    // A run is unbroken when no two of its times are farther apart than a bridged gap.
    let seen: Vec<usize> = (0..places.len()).filter(|i| places[*i].is_some()).collect();
    let broken = 2.5 / clock.rate_hz;
    for run in seen.chunk_by(|a, b| times[*b] - times[*a] <= broken) {
        let x: Vec<f64> = run.iter().map(|i| times[*i]).collect();
        let known: Vec<[f64; 3]> = run.iter().filter_map(|i| places[*i]).collect();
        let Some(curve) = Curve::through(&x, &known) else {
            continue;
        };
        for (frame, out) in out.iter_mut().enumerate() {
            let at = clock.at(frame);
            if (x[0]..=x[x.len() - 1]).contains(&at) {
                *out = Some(curve.at(at));
            }
        }
    }
    out
}

/// Unbroken runs of what is known.
pub(crate) fn runs(places: &[Option<[f64; 3]>]) -> Vec<Range<usize>> {
    let mut all = Vec::new();
    let mut from = None;
    for (frame, place) in places.iter().enumerate() {
        match (from, place) {
            (None, Some(_)) => from = Some(frame),
            (Some(start), None) => {
                all.push(start..frame);
                from = None;
            }
            _ => {}
        }
    }
    if let Some(start) = from {
        all.push(start..places.len());
    }
    all
}

/// Bridges short gaps: the cubic through two frames on either side.
fn bridge(places: &mut Places, clock: &Clock) {
    let longest = clock.count(GAP_S);
    let known = runs(places);
    for pair in known.windows(2) {
        let (before, after) = (&pair[0], &pair[1]);
        let gap = before.end..after.start;
        if gap.len() > longest || before.len() < 2 || after.len() < 2 {
            continue;
        }
        let at = [before.end - 2, before.end - 1, after.start, after.start + 1];
        let known: Vec<[f64; 3]> = at.iter().filter_map(|frame| places[*frame]).collect();
        for frame in gap {
            let mut place = [0.0; 3];
            for (one, known) in known.iter().enumerate() {
                let share: f64 = (0..4)
                    .filter(|other| *other != one)
                    .map(|other| {
                        (frame as f64 - at[other] as f64) / (at[one] as f64 - at[other] as f64)
                    })
                    .product();
                for axis in 0..3 {
                    place[axis] += share * known[axis];
                }
            }
            places[frame] = Some(place);
        }
    }
}

/// Takes out what a marker jumped to and soon jumped back from.
pub(crate) fn unjumped(times: &[f64], places: &mut Places) {
    let seen: Vec<(usize, [f64; 3])> = (places.iter().enumerate())
        .filter_map(|(frame, place)| Some((frame, (*place)?)))
        .collect();
    let mut speeds: Vec<f64> = Vec::with_capacity(seen.len());
    for pair in seen.windows(2) {
        let ((one, from), (other, to)) = (pair[0], pair[1]);
        let far = (0..3)
            .map(|i| (to[i] - from[i]).powi(2))
            .sum::<f64>()
            .sqrt();
        speeds.push(far / (times[other] - times[one]).max(1e-9));
    }
    let mut sorted = speeds.clone();
    sorted.sort_by(f64::total_cmp);
    let Some(usual) = sorted
        .get(sorted.len() * 9 / 10)
        .filter(|usual| **usual > 0.0)
    else {
        return;
    };
    let jumps: Vec<usize> = (0..speeds.len())
        .filter(|at| speeds[*at] > JUMP * usual)
        .collect();
    for pair in jumps.windows(2) {
        let (first, last) = (seen[pair[0] + 1].0, seen[pair[1]].0);
        if times[last] - times[first] <= JUMPED_S {
            places[first..=last].fill(None);
        }
    }
}

/// Gaps bridged, runs filtered.
pub(crate) fn smoothed(mut places: Places, clock: &Clock) -> Places {
    bridge(&mut places, clock);
    filter(&mut places, clock);
    places
}

/// Filters each long enough run; shorter ones are taken out.
fn filter(places: &mut Places, clock: &Clock) {
    let design = (CUT_HZ / PASSES).min(OF_RATE * clock.rate_hz);
    let coefficients = Coefficients::<f64>::from_params(
        Type::LowPass,
        clock.rate_hz.hz(),
        design.hz(),
        Q_BUTTERWORTH_F64,
    );
    let Ok(coefficients) = coefficients else {
        return;
    };
    let least = clock.count(RUN_S);
    let ends = clock.count(REFLECTED_S);
    for run in runs(places) {
        if run.len() < least.max(ends + 2) {
            places[run].fill(None);
            continue;
        }
        for axis in 0..3 {
            let own: Vec<f64> = places[run.clone()]
                .iter()
                .flatten()
                .map(|place| place[axis])
                .collect();
            let smooth = both_ways(&own, ends, coefficients);
            for (place, value) in places[run.clone()].iter_mut().zip(smooth) {
                if let Some(place) = place {
                    place[axis] = value;
                }
            }
        }
    }
}

/// Forward and backward, so that nothing is late; the ends reflected about themselves.
fn both_ways(own: &[f64], ends: usize, coefficients: Coefficients<f64>) -> Vec<f64> {
    let (first, last) = (own[0], own[own.len() - 1]);
    let head = own[1..=ends].iter().rev().map(|value| 2.0 * first - value);
    let tail = own[own.len() - 1 - ends..own.len() - 1]
        .iter()
        .rev()
        .map(|value| 2.0 * last - value);
    let mut all: Vec<f64> = head.chain(own.iter().copied()).chain(tail).collect();
    for _ in 0..2 {
        let mut pass = DirectForm2Transposed::<f64>::new(coefficients);
        // Around the first value, so that the filter starts at rest.
        let rest = all[0];
        for value in &mut all {
            *value = rest + pass.run(*value - rest);
        }
        all.reverse();
    }
    all[ends..ends + own.len()].to_vec()
}

/// Places that were seen so much later than their frames' times, brought back to those by splines through unbroken runs.
pub(crate) fn shifted(
    times: &[f64],
    places: &[Option<[f64; 2]>],
    later: impl Fn([f64; 2]) -> f64,
) -> Vec<Option<[f64; 2]>> {
    let mut out = vec![None; places.len()];
    let flat: Places = places
        .iter()
        .map(|place| place.map(|[x, y]| [x, y, 0.0]))
        .collect();
    for run in runs(&flat) {
        let known: Vec<[f64; 2]> = run.clone().filter_map(|frame| places[frame]).collect();
        let x: Vec<f64> = (run.clone().zip(&known))
            .map(|(frame, place)| times[frame] + later(*place))
            .collect();
        let Some(curve) = Curve::through(&x, &known) else {
            continue;
        };
        for frame in run {
            out[frame] = Some(curve.at(times[frame]));
        }
    }
    out
}

#[cfg(test)]
mod tests {
    use super::*;

    fn wave(hz: f64, rate: f64, frames: usize) -> Places {
        (0..frames)
            .map(|i| {
                let v = (std::f64::consts::TAU * hz * i as f64 / rate).sin();
                Some([v, 0.0, 5.0])
            })
            .collect()
    }

    #[test]
    fn both_passes_leave_half_the_power_at_ten_hertz_and_a_stroke_untouched() {
        let clock = Clock {
            start: 0.0,
            rate_hz: 100.0,
            frames: 400,
        };
        for (hz, wanted) in [(10.0, 0.5_f64.sqrt()), (1.5, 1.0), (30.0, 0.0)] {
            let mut places = wave(hz, 100.0, 400);
            filter(&mut places, &clock);
            let most = places[100..300]
                .iter()
                .flatten()
                .map(|p| p[0])
                .fold(0.0, f64::max);
            assert!((most - wanted).abs() < 0.02, "{hz} Hz: {most}");
        }
    }

    #[test]
    fn a_short_gap_is_bridged_and_a_long_one_is_not() {
        let clock = Clock {
            start: 0.0,
            rate_hz: 100.0,
            frames: 200,
        };
        let mut places = wave(1.5, 100.0, 200);
        let whole = places.clone();
        places[50..58].fill(None);
        places[100..115].fill(None);
        bridge(&mut places, &clock);
        for frame in 50..58 {
            let (a, b) = (places[frame].unwrap()[0], whole[frame].unwrap()[0]);
            assert!((a - b).abs() < 0.01, "{a} {b}");
        }
        assert!(places[100..115].iter().all(Option::is_none));
    }

    #[test]
    fn what_two_markers_were_taken_for_one_another_is_taken_out() {
        let times: Vec<f64> = (0..400).map(|i| f64::from(i) / 100.0).collect();
        let mut places = wave(1.5, 100.0, 400);
        let whole = places.clone();
        for place in places[100..106].iter_mut().flatten() {
            place[1] += 3.0;
        }
        // A marker that moved for good jumped once.
        for place in places[300..].iter_mut().flatten() {
            place[2] += 3.0;
        }
        unjumped(&times, &mut places);
        assert!(places[100..106].iter().all(Option::is_none));
        let gone = (0..400).filter(|at| places[*at].is_none() && whole[*at].is_some());
        assert_eq!(gone.count(), 6);
    }

    #[test]
    fn uneven_times_come_to_an_even_rate() {
        let times: Vec<f64> = (0..300)
            .map(|i| f64::from(i) * 0.01 + if i % 3 == 0 { 0.003 } else { 0.0 })
            .collect();
        let places: Places = times
            .iter()
            .map(|t| Some([(6.0 * t).sin(), 0.0, 0.0]))
            .collect();
        let (clock, even) = clock(&times, 100.0);
        assert!(!even);
        let out = evened(&times, &places, &clock);
        for (frame, place) in out.iter().enumerate().skip(2).take(280) {
            let t = clock.at(frame);
            assert!((place.unwrap()[0] - (6.0 * t).sin()).abs() < 1e-4);
        }
    }
}
