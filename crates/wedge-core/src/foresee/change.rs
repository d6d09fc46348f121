//! Changes a fitter can make, what they do to the setup, and the bolts they turn.

use crate::bike::{Placed, Setup, clamp_at, sit_after};
use crate::measure::{Convention, Quantity, Reading, Refusal, Unit, sit_reference};
use crate::plane::{Point, root};
use crate::position::Ride;
use crate::units::Side;
use crate::words::{capital, lower, written};
use serde::{Deserialize, Serialize};

/// One change: a quantity `to` a value (in its convention) or `by` an amount.
///
/// `saddle_height_mm` by an amount is travel of the post along its actual axis, up positive; `setback_mm` by an
/// amount is travel along the rails, back positive. `to` a value finds the travel that gives the number.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Change {
    /// What to change.
    pub quantity: Quantity,
    /// One side only, for what is per side.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub side: Option<Side>,
    /// The value wanted.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub to: Option<f64>,
    /// The amount wanted.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub by: Option<f64>,
    /// The convention of `to`; the chosen one when left out.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub convention: Option<Convention>,
}

impl Change {
    /// A quantity to a value, on both sides where there are two.
    pub fn to(quantity: Quantity, value: f64) -> Self {
        Self {
            quantity,
            side: None,
            to: Some(value),
            by: None,
            convention: None,
        }
    }

    /// A quantity by an amount, on both sides where there are two.
    pub fn by(quantity: Quantity, amount: f64) -> Self {
        Self {
            quantity,
            side: None,
            to: None,
            by: Some(amount),
            convention: None,
        }
    }

    /// Whether it places the saddle.
    fn is_of_the_saddle(&self) -> bool {
        matches!(self.quantity, Quantity::SaddleHeight | Quantity::Setback)
    }

    pub(crate) fn refusals(&self, at: &str, twice: bool) -> Vec<Refusal> {
        let spec = self.quantity.spec();
        let mut all = Vec::new();
        if !self.quantity.is_turned() {
            all.push(Refusal::new(
                format!("{at}/quantity"),
                not_turned(self.quantity),
            ));
        }
        if twice {
            all.push(Refusal::new(
                format!("{at}/quantity"),
                format!("{} is changed twice: give it once", spec.label),
            ));
        }
        match (self.to, self.by) {
            (Some(value), None) => {
                let reading = Reading {
                    convention: self.convention,
                    side: self.side,
                    ..Reading::new(self.quantity, value)
                };
                all.extend(reading.refusals(at).into_iter().map(|refusal| Refusal {
                    pointer: refusal.pointer.replace("/value", "/to"),
                    ..refusal
                }));
            }
            (None, Some(amount)) => {
                let most = spec.max - spec.min;
                if amount.is_nan() || amount.abs() > most {
                    all.push(Refusal::new(
                        format!("{at}/by"),
                        format!("{} moves by {} at the most", spec.label, written(most)),
                    ));
                }
                if self.side.is_some() && !spec.per_side {
                    all.push(Refusal::new(
                        format!("{at}/side"),
                        format!("{} has no left and right", spec.label),
                    ));
                }
            }
            _ => all.push(Refusal::new(at, "Give either `to` or `by`")),
        }
        all
    }
}

/// The setup after changes.
///
/// Spacers below the stem come from above it and go back there, since the two are a fixed sum unless the steerer is
/// cut. Tilt pivots at the clamp; post and rails then bring the sit reference to where it is wanted.
pub(crate) fn apply(ride: &Ride, changes: &[Change]) -> Result<Placed, Vec<Refusal>> {
    let mut parts = Setup::from(ride.setup);
    let mut height = None;
    let mut setback = None;
    for (index, change) in changes.iter().enumerate() {
        let at = format!("/changes/{index}");
        match change.quantity {
            Quantity::SaddleHeight => height = Some((at, change)),
            Quantity::Setback => setback = Some((at, change)),
            _ => turn_part(ride, &mut parts, &at, change)?,
        }
    }

    // What is taken from below the stem goes above it, unless it is said what stands there.
    if !(changes.iter()).any(|change| change.quantity == Quantity::SpacersAbove) {
        let moved = parts.cockpit.spacers_below_mm - ride.setup.cockpit.spacers_below_mm;
        parts.cockpit.spacers_above_mm.0 = (parts.cockpit.spacers_above_mm - moved).0.max(0.0);
    }

    let found = ride.setup.sit();
    let start = remounted(ride, &parts);
    let sit = place(ride, &parts, start, height.as_ref(), setback.as_ref())?;
    if sit != found {
        parts.saddle.place(sit);
    }
    let mut refusals = parts.refusals("/setup");
    match Placed::of(parts) {
        Some(placed) if refusals.is_empty() => return Ok(placed),
        Some(_) => {}
        None => refusals.push(Placed::refusal("/setup")),
    }
    // What a change drove out of range is the change's fault, not the setup's.
    let at = height.or(setback).map_or_else(
        || "/changes".to_owned(),
        |(at, c)| format!("{at}/{}", key(c)),
    );
    Err(refusals
        .into_iter()
        .map(|refusal| Refusal::new(at.clone(), refusal.detail))
        .collect())
}

/// That a quantity is none to be turned, with the bolts that move it where there are some.
fn not_turned(quantity: Quantity) -> String {
    let words = format!(
        "{} is measured, not changed by a bolt",
        quantity.spec().label
    );
    match quantity {
        Quantity::Drop | Quantity::BbToHand | Quantity::SaddleToHand => {
            let bolts = [Quantity::SpacersBelow, Quantity::Stem, Quantity::StemAngle];
            let names = bolts.map(|bolt| lower(bolt.spec().label));
            format!(
                "{words}: name the bolt that moves the hands, {}",
                names.join(", ")
            )
        }
        _ => words,
    }
}

/// The changes that ask for something, each with its convention spelled out. A number that stands there already is none,
/// but for one: where a part carries the saddle elsewhere by itself, its height or setback is held by being asked for.
pub fn meant(ride: &Ride, changes: &[Change]) -> Vec<Change> {
    let carried = || {
        let mut parts = Setup::from(ride.setup);
        for change in changes.iter().filter(|c| !c.is_of_the_saddle()) {
            // What cannot be turned is refused where it is applied.
            let _ = turn_part(ride, &mut parts, "", change);
        }
        remounted(ride, &parts) != ride.setup.sit()
    };
    let asks = |change: &Change| {
        let Some(to) = change.to else {
            return change.by.is_none_or(|by| by.abs() > NOTHING);
        };
        if !change.is_of_the_saddle() {
            let sides = change.side.map_or(Side::BOTH.to_vec(), |side| vec![side]);
            return sides.into_iter().any(|side| {
                let now = ride.setup.get(change.quantity, Some(side));
                let to = house_value(&ride.setup, change, to);
                now.is_none_or(|now| (to - now).abs() > NOTHING)
            });
        }
        let with = ride
            .setup
            .companions(&ride.frame, ride.conventions.sit_reference);
        let now = (change.convention)
            .and_then(|convention| with.of_the_saddle(convention, ride.setup.sit()));
        now.is_none_or(|now| (to - now).abs() > NOTHING) || carried()
    };
    let spelled = |change: &Change| Change {
        convention: (change.to)
            .and_then(|_| change.convention.or(ride.conventions.of(change.quantity))),
        ..*change
    };
    changes.iter().map(spelled).filter(asks).collect()
}

/// Turns one part, on one side or both.
fn turn_part(
    ride: &Ride,
    parts: &mut Setup,
    at: &str,
    change: &Change,
) -> Result<(), Vec<Refusal>> {
    let quantity = change.quantity;
    if !parts.holds(quantity) {
        return Err(vec![Refusal::new(
            format!("{at}/quantity"),
            format!("This bike has no {}", lower(quantity.spec().label)),
        )]);
    }
    for side in Side::BOTH {
        if change.side.is_some_and(|s| s != side) {
            continue;
        }
        let now = ride.setup.get(quantity, Some(side)).unwrap_or_default();
        let to = change.to.map(|to| house_value(parts, change, to));
        let value = to.unwrap_or(now + change.by.unwrap_or_default());
        if let Some(refusal) = quantity.refuse(value, &format!("{at}/{}", key(change))) {
            return Err(vec![refusal]);
        }
        parts.set(quantity, Some(side), value);
    }
    Ok(())
}

/// A value wanted, as it is stored: bar roll may be given by another part of the bar.
fn house_value(setup: &Setup, change: &Change, to: f64) -> f64 {
    change
        .convention
        .and_then(|convention| setup.bar.roll_from(convention, to))
        .unwrap_or(to)
}

/// The key a change's number stands under.
fn key(change: &Change) -> &'static str {
    if change.to.is_some() { "to" } else { "by" }
}

/// Where the sit reference is after tilt, saddle or post were changed and before post and rails travel: the saddle
/// turns about its clamp, a higher saddle stands higher, one that sits elsewhere over its rails stands there, and a post
/// with more setback holds the clamp further back.
fn remounted(ride: &Ride, parts: &Setup) -> Point {
    let (before, sit) = (&ride.setup, ride.setup.sit());
    let (from, to) = (&before.saddle, &parts.saddle);
    // Another saddle is clamped at the same place of its rails.
    let grown = Point::new(
        (from.rail_middle_mm - to.rail_middle_mm).0,
        (to.saddle_stack_mm - from.saddle_stack_mm).0,
    );
    let back = parts.post.post_setback_mm.unwrap_or_default()
        - before.post.post_setback_mm.unwrap_or_default();
    if from.tilt_deg == to.tilt_deg && grown == Point::default() && back.0 == 0.0 {
        return sit;
    }
    let clamp = clamp_at(&ride.frame, before);
    sit_after(clamp, sit, (from.tilt_deg, to.tilt_deg), grown) + ride.frame.post_back() * back.0
}

/// The most a post or rail could travel in a search, mm.
const TRAVEL_MM: f64 = 700.0;

type At<'a> = Option<&'a (String, &'a Change)>;

/// Where the sit reference goes: along the post for height, along the rails for setback.
fn place(
    ride: &Ride,
    setup: &Setup,
    start: Point,
    height: At,
    setback: At,
) -> Result<Point, Vec<Refusal>> {
    let with = setup.companions(&ride.frame, ride.conventions.sit_reference);
    let (post, rails) = (ride.frame.post_axis(), setup.saddle.rails_back());
    let by = |change: At| change.and_then(|(_, c)| c.by).unwrap_or_default();
    let wanted = |change: At, chosen: Convention| {
        change.and_then(|(_, c)| Some((c.convention.unwrap_or(chosen), c.to?)))
    };
    let nowhere = |change: At| {
        let at = change.map_or("/changes", |(at, _)| at);
        vec![Refusal::new(
            format!("{at}/to"),
            "No place of the saddle has this number: check it against the other ones",
        )]
    };

    let moved = start + post * by(height) + rails * by(setback);
    let travel = |along: Point, error: &dyn Fn(Point) -> f64| {
        root(-TRAVEL_MM, TRAVEL_MM, |t| error(moved + along * t)).map(|t| moved + along * t)
    };
    match (
        wanted(height, ride.conventions.saddle_height),
        wanted(setback, ride.conventions.setback),
    ) {
        (None, None) => Ok(moved),
        (Some(h), Some(s)) => {
            sit_reference((h.0, h.1, &with), (s.0, s.1, &with)).ok_or_else(|| nowhere(height))
        }
        (Some((convention, value)), None) => along_post(moved, post, |sit| {
            with.saddle_height(convention, sit)
                .map_or(f64::NAN, |h| h - value)
        })
        .ok_or_else(|| nowhere(height)),
        (None, Some((convention, value))) => travel(rails, &|sit| {
            with.setback(convention, sit)
                .map_or(f64::NAN, |s| s - value)
        })
        .ok_or_else(|| nowhere(setback)),
    }
}

/// Along the post, from just above the BB: below it the straight height would grow again.
fn along_post(from: Point, post: Point, error: impl Fn(Point) -> f64) -> Option<Point> {
    let lowest = 1.0 - from.dot(post);
    root(lowest, lowest + 2.0 * TRAVEL_MM, |t| error(from + post * t)).map(|t| from + post * t)
}

/// One bolt or part to turn, as the fitter does it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Turn {
    /// What is changed.
    pub quantity: Quantity,
    /// The side, when only one is.
    pub side: Option<Side>,
    /// The travel or the difference, signed as the quantity is.
    pub by: f64,
    /// Its unit.
    pub unit: Unit,
    /// "Post down 6 mm".
    pub words: String,
}

/// Less than this is nothing to turn.
const NOTHING: f64 = 0.05;

/// Each bolt between the ride's setup and the setup after.
pub(crate) fn turns(ride: &Ride, after: &Placed) -> Vec<Turn> {
    let before = &ride.setup;
    let mut turns = Vec::new();
    let from = remounted(ride, after);
    // Post and rails are never parallel within the allowed angles.
    let (post, back) =
        (after.sit() - from).split(ride.frame.post_axis(), after.saddle.rails_back());
    for (quantity, by, words) in [
        (
            Quantity::SaddleHeight,
            post,
            way("Post", post, "up", "down"),
        ),
        (
            Quantity::Setback,
            back,
            way("Saddle on its rails", back, "back", "forward"),
        ),
    ] {
        if by.abs() > NOTHING {
            turns.push(Turn {
                quantity,
                side: None,
                by,
                unit: Unit::Mm,
                words,
            });
        }
    }
    for quantity in Quantity::ALL.iter().copied().filter(|q| q.is_turned()) {
        // Spacers above the stem are told with those below it, where both change.
        let cockpit = |setup: &Setup| setup.cockpit.spacers_below_mm.0;
        let told = quantity == Quantity::SpacersAbove
            && (cockpit(before) - cockpit(after)).abs() > NOTHING;
        if told || matches!(quantity, Quantity::SaddleHeight | Quantity::Setback) {
            continue;
        }
        let [left, right] = Side::BOTH.map(|side| part_turn(quantity, side, before, after));
        match (left, right) {
            (Some(left), Some(right)) if left.words == right.words => turns.push(Turn {
                side: None,
                ..right
            }),
            (left, right) => {
                for (side, turn) in Side::BOTH.into_iter().zip([left, right]) {
                    turns.extend(turn.map(|turn| Turn {
                        words: format!("{} {}", capital(side.word()), lower(&turn.words)),
                        ..turn
                    }));
                }
            }
        }
    }
    turns
}

fn part_turn(quantity: Quantity, side: Side, before: &Setup, after: &Setup) -> Option<Turn> {
    let was = before.get(quantity, Some(side));
    let to = after.get(quantity, Some(side))?;
    let from = was.unwrap_or_default();
    let by = to - from;
    if was.is_some() && by.abs() <= NOTHING {
        return None;
    }
    let spec = quantity.spec();
    let unit = spec.unit.suffix();
    let words = match quantity {
        _ if was.is_none() => format!("{} set to {}{unit}", spec.label, written(to)),
        Quantity::CleatSetback => way("Cleat", by, "back", "forward"),
        Quantity::CleatOut => way("Foot", by, "out", "in"),
        Quantity::SpacersBelow => format!(
            "Spacers below the stem {} → {} mm, above it {} → {} mm",
            written(from),
            written(to),
            written(before.cockpit.spacers_above_mm.0),
            written(after.cockpit.spacers_above_mm.0),
        ),
        _ => format!("{} {} → {}{unit}", spec.label, written(from), written(to)),
    };
    Some(Turn {
        quantity,
        side: spec.per_side.then_some(side),
        by,
        unit: spec.unit,
        words,
    })
}

fn way(what: &str, by: f64, more: &str, less: &str) -> String {
    format!(
        "{what} {} {} mm",
        if by > 0.0 { more } else { less },
        written(by.abs())
    )
}

/// The changes in a few words, in the fitter's numbers: "Saddle down 6, crank 170".
pub(crate) fn title(ride: &Ride, changes: &[Change], after: &Placed) -> String {
    let phrases: Vec<String> = changes
        .iter()
        .filter_map(|change| phrase(ride, after, change))
        .collect();
    // Each bolt has a line of its own: of many the title names the first.
    let named = if phrases.len() > TITLED {
        2
    } else {
        phrases.len()
    };
    let more = match phrases.len() - named {
        0 => String::new(),
        more => format!(" and {more} more"),
    };
    match phrases[..named].split_first() {
        None => String::new(),
        Some((first, rest)) => {
            rest.iter()
                .fold(first.clone(), |all, next| format!("{all}, {}", lower(next)))
                + &more
        }
    }
}

/// So many bolts are named in a title.
const TITLED: usize = 4;

fn phrase(ride: &Ride, after: &Placed, change: &Change) -> Option<String> {
    let quantity = change.quantity;
    let by = |more: &str, less: &str, amount: f64, what: &str| {
        (amount.abs() > NOTHING).then(|| {
            format!(
                "{what} {} {}",
                if amount > 0.0 { more } else { less },
                written(amount.abs())
            )
        })
    };
    let chosen = change.convention.or(ride.conventions.of(quantity));
    let saddle = |convention: Convention| {
        let value = |setup: &Placed| {
            let with = setup.companions(&ride.frame, ride.conventions.sit_reference);
            with.of_the_saddle(convention, setup.sit())
        };
        Some(value(after)? - value(&ride.setup)?)
    };
    match quantity {
        Quantity::SaddleHeight => {
            let amount = change.by.or_else(|| saddle(chosen?))?;
            by("up", "down", amount, "Saddle")
        }
        Quantity::Setback => {
            if let (Some(to), Some(Convention::SetbackSeatAngle)) = (change.to, chosen) {
                return Some(format!("Seat angle {}°", written(to)));
            }
            let amount = change.by.or_else(|| saddle(chosen?))?;
            by("back", "forward", amount, "Saddle")
        }
        _ => {
            let from = ride.setup.get(quantity, change.side);
            let to = after.get(quantity, change.side)?;
            let amount = from.map_or(f64::INFINITY, |from| to - from);
            let what = match change.side {
                Some(side) => format!("{} {}", capital(side.word()), lower(quantity.spec().label)),
                None => quantity.spec().label.to_owned(),
            };
            match quantity {
                Quantity::CleatSetback => {
                    let what = if change.side.is_none() {
                        "Cleats"
                    } else {
                        &what
                    };
                    by("back", "forward", amount, what)
                }
                Quantity::CleatOut => {
                    let what = change.side.map_or("Feet".to_owned(), |side| {
                        format!("{} foot", capital(side.word()))
                    });
                    by("out", "in", amount, &what)
                }
                Quantity::SpacersBelow => by("up", "down", amount, "Spacers"),
                Quantity::Tilt => by("up", "down", amount, "Saddle nose").map(|words| words + "°"),
                _ if amount.abs() <= NOTHING => None,
                _ => Some(format!(
                    "{what} {}{}",
                    written(to),
                    if quantity.spec().unit == Unit::Deg {
                        "°"
                    } else {
                        ""
                    }
                )),
            }
        }
    }
}
