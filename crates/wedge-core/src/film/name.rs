//! Which found dot is which joint: by how a body on a bike goes together.

use super::find::Blob;
use super::squaring::{BB_ASIDE_MM, Pixel, Squared};
use super::still::{FilmMark, aside};
use crate::capture::{BodyPoint, Told};
use crate::plane::Point;
use crate::rider::{Body, Lengths};
use crate::rule::rules;
use crate::units::{Millimetres, Sides};

rules! {
    rules "Film";
    /// How far an axle may be off the crank's circle, of it.
    const ON_CRANK: f64 = 0.10, "", House;
    /// How far foot, leg and arm may be off their lengths, of them.
    const LENGTHS: [f64; 3] = [0.22, 0.16, 0.20], "", House;
    /// A length beyond so many of these is no part of this body.
    const OUT: f64 = 1.9, "", House;
    /// The toe's dot ahead of the pedal axle.
    const TOE_AHEAD_MM: (f64, f64) = (-45.0, 60.0), " mm", House;
    /// And above it.
    const TOE_ABOVE_MM: (f64, f64) = (8.0, 75.0), " mm", House;
    /// The hip ahead of the BB.
    const HIP_AHEAD_MM: (f64, f64) = (-420.0, 60.0), " mm", House;
    /// And above it.
    const HIP_ABOVE_MM: (f64, f64) = (450.0, 1100.0), " mm", House;
    /// The most an elbow is above the shoulder.
    const ELBOW_ABOVE_MM: f64 = 40.0, " mm", House;
    /// The least a wrist is ahead of the elbow.
    const WRIST_AHEAD_MM: f64 = 40.0, " mm", House;
    /// Legs that are carried on to arms.
    const LEGS_KEPT: usize = 32, "", House;
}

/// What the body and the bike are known to be.
#[derive(Debug, Clone, PartialEq)]
pub struct Naming<'a> {
    /// The squared picture.
    pub squared: &'a Squared,
    /// Bottom bracket.
    pub bb: Pixel,
    /// Lengths of rider and bike.
    pub told: &'a Told,
}

/// Lengths between dots.
struct Spans {
    crank: f64,
    foot: f64,
    shank: f64,
    thigh: f64,
    trunk: f64,
    upper_arm: f64,
    forearm: f64,
}

impl Naming<'_> {
    fn spans(&self) -> Spans {
        let told = self.told;
        let usual = Lengths::of(
            &Body::new(Millimetres(told.stature_mm)),
            &Sides::default(),
            &Sides::default(),
        );
        let leg = usual.legs.right;
        Spans {
            crank: told.crank_or_usual(),
            foot: told
                .ankle_to_ball_mm
                .hypot(told.ankle_height_mm - told.toe_marker_mm),
            shank: told
                .shank_mm
                .right
                .or(told.shank_mm.left)
                .unwrap_or(leg.shank.value_mm.0),
            thigh: told.thigh_mm.unwrap_or(leg.thigh.value_mm.0),
            trunk: usual.trunk.value_mm.0,
            upper_arm: usual.upper_arm.value_mm.0,
            forearm: usual.forearm.value_mm.0,
        }
    }

    pub(crate) fn place(&self, at: Pixel, part: BodyPoint) -> Option<Point> {
        let camera = &self.squared.camera;
        let bb = camera.on_plane(self.bb, BB_ASIDE_MM)?;
        Some(camera.on_plane(at, aside(part))? - bb)
    }
}

/// Who may be what: a blob's middle on that part's plane, with what it costs to take it.
struct Candidate {
    blob: Option<usize>,
    at: Pixel,
    place: Point,
    cost: f64,
}

/// Costs of a length: squared tolerances off, none beyond 1.9 of them.
fn off(length: f64, expected: f64, tolerance: f64) -> Option<f64> {
    let off = (length - expected) / (tolerance * expected);
    (off.abs() <= OUT).then_some(off * off)
}

fn within(value: f64, (low, high): (f64, f64)) -> bool {
    (low..=high).contains(&value)
}

/// Whether a knee is where knees are: ahead of the line from hip to ankle, and of the hip.
fn is_knee(hip: Point, knee: Point, ankle: Point) -> bool {
    let share = (knee.y - ankle.y) / (hip.y - ankle.y).max(1.0);
    knee.x > ankle.x + (hip.x - ankle.x) * share && knee.x > hip.x
}

/// Names dots: the eight points of a rider's side, as far as a body can be made of them. What was clicked stays where it is.
pub fn name_dots(blobs: &[Blob], clicked: &[FilmMark], naming: &Naming) -> Vec<FilmMark> {
    let spans = naming.spans();
    let candidates = |part: BodyPoint| -> Vec<Candidate> {
        if let Some(mark) = clicked.iter().find(|mark| mark.part == part) {
            let place = naming.place(mark.at, part);
            return place
                .into_iter()
                .map(|place| Candidate {
                    blob: None,
                    at: mark.at,
                    place,
                    cost: 0.5,
                })
                .collect();
        }
        let of = |(index, blob): (usize, &Blob)| {
            let place = naming.place(blob.at, part)?;
            Some(Candidate {
                blob: Some(index),
                at: blob.at,
                place,
                cost: 0.5 * blob.quality,
            })
        };
        blobs.iter().enumerate().filter_map(of).collect()
    };
    let legs = legs(&spans, &candidates);
    let mut best: Option<(f64, Named)> = None;
    let (shoulders, elbows, wrists) = (
        candidates(BodyPoint::Shoulder),
        candidates(BodyPoint::Elbow),
        candidates(BodyPoint::Wrist),
    );
    for (cost, leg) in legs.into_iter().take(LEGS_KEPT) {
        let hip = leg[4].1;
        let (more, arm) = arm(&spans, hip, [&shoulders, &elbows, &wrists], &leg);
        let cost = cost + more;
        if best.as_ref().is_none_or(|(least, _)| cost < *least) {
            let parts = [
                BodyPoint::Pedal,
                BodyPoint::Toe,
                BodyPoint::Ankle,
                BodyPoint::Knee,
                BodyPoint::Hip,
            ];
            let leg = parts
                .into_iter()
                .zip(&leg)
                .map(|(part, (at, _, blob))| (part, *at, *blob));
            best = Some((cost, leg.chain(arm).collect()));
        }
    }
    let mut named: Vec<FilmMark> = clicked.to_vec();
    for (part, at, blob) in best.map(|(_, all)| all).unwrap_or_default() {
        if blob.is_some() {
            named.push(FilmMark {
                part,
                at,
                dot: true,
            });
        }
    }
    named
}

type Leg = [(Pixel, Point, Option<usize>); 5];

/// Legs from the pedal up, the cheapest first.
fn legs(spans: &Spans, candidates: &impl Fn(BodyPoint) -> Vec<Candidate>) -> Vec<(f64, Leg)> {
    let free =
        |blob: Option<usize>, taken: &[Option<usize>]| blob.is_none() || !taken.contains(&blob);
    let (pedals, toes, ankles) = (
        candidates(BodyPoint::Pedal),
        candidates(BodyPoint::Toe),
        candidates(BodyPoint::Ankle),
    );
    let (knees, hips) = (candidates(BodyPoint::Knee), candidates(BodyPoint::Hip));
    let of = |one: &Candidate| (one.at, one.place, one.blob);
    let mut all = Vec::new();
    for pedal in &pedals {
        let Some(on_crank) = off(pedal.place.length(), spans.crank, ON_CRANK) else {
            continue;
        };
        for toe in &toes {
            let ahead = toe.place - pedal.place;
            if !within(ahead.x, TOE_AHEAD_MM)
                || !within(ahead.y, TOE_ABOVE_MM)
                || !free(toe.blob, &[pedal.blob])
            {
                continue;
            }
            for ankle in &ankles {
                let foot = off(ankle.place.distance(toe.place), spans.foot, LENGTHS[0]);
                let (Some(foot), true) = (foot, ankle.place.x < toe.place.x) else {
                    continue;
                };
                if !free(ankle.blob, &[pedal.blob, toe.blob]) {
                    continue;
                }
                for knee in &knees {
                    let Some(shank) =
                        off(knee.place.distance(ankle.place), spans.shank, LENGTHS[1])
                    else {
                        continue;
                    };
                    if !free(knee.blob, &[pedal.blob, toe.blob, ankle.blob])
                        || knee.place.y < ankle.place.y
                    {
                        continue;
                    }
                    for hip in &hips {
                        let Some(thigh) =
                            off(hip.place.distance(knee.place), spans.thigh, LENGTHS[1])
                        else {
                            continue;
                        };
                        let sits = within(hip.place.x, HIP_AHEAD_MM)
                            && within(hip.place.y, HIP_ABOVE_MM)
                            && is_knee(hip.place, knee.place, ankle.place);
                        if sits && free(hip.blob, &[pedal.blob, toe.blob, ankle.blob, knee.blob]) {
                            let quality = pedal.cost + toe.cost + ankle.cost + knee.cost + hip.cost;
                            let cost = on_crank + foot + shank + thigh + quality;
                            all.push((cost, [of(pedal), of(toe), of(ankle), of(knee), of(hip)]));
                        }
                    }
                }
            }
        }
    }
    all.sort_by(|a, b| a.0.total_cmp(&b.0));
    all
}

/// What it costs not to find a joint of the arm: more than any it would be found for.
const MISSING: f64 = 6.0;

type Named = Vec<(BodyPoint, Pixel, Option<usize>)>;

/// The arm that goes with a leg, as far as there is one.
fn arm(
    spans: &Spans,
    hip: Point,
    [shoulders, elbows, wrists]: [&[Candidate]; 3],
    leg: &Leg,
) -> (f64, Named) {
    let taken: Vec<Option<usize>> = leg.iter().map(|(_, _, blob)| *blob).collect();
    let free = |one: &Candidate, also: &[Option<usize>]| {
        one.blob.is_none() || !(taken.contains(&one.blob) || also.contains(&one.blob))
    };
    let mut best: (f64, Named) = (3.0 * MISSING, Vec::new());
    let mut offer = |cost: f64, named: Named| {
        if cost < best.0 {
            best = (cost, named);
        }
    };
    for shoulder in shoulders {
        let trunk = off(shoulder.place.distance(hip), spans.trunk, LENGTHS[2]);
        let (Some(trunk), true) = (trunk, free(shoulder, &[]) && shoulder.place.y > hip.y) else {
            continue;
        };
        let first = trunk + shoulder.cost;
        let named = (BodyPoint::Shoulder, shoulder.at, shoulder.blob);
        offer(first + 2.0 * MISSING, vec![named]);
        for elbow in elbows {
            let upper = off(
                elbow.place.distance(shoulder.place),
                spans.upper_arm,
                LENGTHS[2],
            );
            let hangs =
                elbow.place.y <= shoulder.place.y + ELBOW_ABOVE_MM && free(elbow, &[shoulder.blob]);
            let (Some(upper), true) = (upper, hangs) else {
                continue;
            };
            let second = first + upper + elbow.cost;
            let bent = (BodyPoint::Elbow, elbow.at, elbow.blob);
            offer(second + MISSING, vec![named, bent]);
            for wrist in wrists {
                let fore = off(wrist.place.distance(elbow.place), spans.forearm, LENGTHS[2]);
                let ahead = wrist.place.x >= elbow.place.x + WRIST_AHEAD_MM
                    && free(wrist, &[shoulder.blob, elbow.blob]);
                let (Some(fore), true) = (fore, ahead) else {
                    continue;
                };
                offer(
                    second + fore + wrist.cost,
                    vec![named, bent, (BodyPoint::Wrist, wrist.at, wrist.blob)],
                );
            }
        }
    }
    best
}
