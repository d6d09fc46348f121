//! One decision with its schools, and the scale they stand on side by side.

use crate::foresee::{Bound, Change, Step, Trying};
use crate::measure::{Quantity, Unit};
use crate::position::wall;
use crate::units::{Side, Sides};
use crate::words::{Word, written};
use serde::Serialize;

/// What the schools of one decision say, on one scale.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Scale {
    /// What is decided.
    pub quantity: Quantity,
    /// On which side, where left and right are apart.
    pub side: Option<Side>,
    /// Its unit.
    pub unit: Unit,
    /// As it stands.
    pub now: f64,
    /// The scale's own ends.
    pub low: f64,
    /// The scale's other end.
    pub high: f64,
    /// Every school, the leading one first.
    pub schools: Vec<Opinion>,
    /// Where they differ by more than is lost in the tape, and why for this rider.
    pub apart: Option<String>,
    /// What holds for several of them.
    pub note: Option<String>,
}

/// What one school says of this rider.
#[derive(Debug, Clone, PartialEq, Default, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Opinion {
    /// Its key among the schools of this decision.
    pub school: String,
    /// As it is called.
    pub label: String,
    /// Whether the studio follows it.
    pub leads: bool,
    /// What it wants; none while something must be measured first.
    pub value: Option<f64>,
    /// Least of what it accepts.
    pub low: Option<f64>,
    /// Largest of what it accepts.
    pub high: Option<f64>,
    /// Left and right, where the legs ask for different values; the value is then what fits between.
    pub sides: Option<Sides<f64>>,
    /// One standard deviation of what it rests on, where that is worth saying.
    pub band: Option<f64>,
    /// Whether that value is an end of what it accepts.
    pub bound: Option<Bound>,
    /// Whether it rests on an estimate.
    pub estimated: bool,
    /// How it comes to that, or what must be measured first.
    pub words: String,
    /// The next trial towards it, the saddle's answer among the changes; none when it is there already.
    pub trial: Option<Step>,
}

/// What a school wants. A place is whatever its decision is solved in: travel of the post or along the rails, the cleat's
/// setback, the crank's length; mm.
#[derive(Debug, Clone, Default)]
pub(super) struct Wish {
    pub(super) place: f64,
    /// The window it accepts.
    pub(super) low: f64,
    pub(super) high: f64,
    /// What each leg wants, where they want different things.
    pub(super) sides: Option<Sides<f64>>,
    /// One standard deviation.
    pub(super) band: Option<f64>,
    pub(super) bound: Option<Bound>,
    pub(super) estimated: bool,
    pub(super) words: String,
}

impl Wish {
    /// A place with so much accepted on either side of it.
    pub(super) fn around(place: f64, either: f64) -> Self {
        Self {
            place,
            low: place - either,
            high: place + either,
            ..Self::default()
        }
    }

    /// Whether it asks for anything from `now`: an end does so only where that is beyond it.
    fn asks(&self, now: f64) -> bool {
        match self.bound {
            None => true,
            Some(Bound::AtLeast) => self.place > now,
            Some(Bound::AtMost) => self.place < now,
        }
    }
}

/// One decision with its schools. A file that implements this and its line in the room are all a decision needs.
pub(super) trait Decision {
    /// Its schools.
    type School: Word;

    /// Room left on either side of the scale, in its unit.
    const ROOM: f64;

    /// What is decided.
    const QUANTITY: Quantity;

    /// The rider it is decided for.
    fn on(&self) -> &Trying<'_>;

    /// On which side, where left and right are apart.
    fn side(&self) -> Option<Side> {
        None
    }

    /// The scale's unit.
    fn unit(&self) -> Unit {
        Unit::Mm
    }

    /// Where it stands.
    fn now(&self) -> f64;

    /// What a school wants, or what must be measured first.
    fn wish(&self, school: Self::School) -> Result<Wish, String>;

    /// A place as it is read on the scale.
    fn read(&self, place: f64) -> f64 {
        place
    }

    /// All the way from where it stands to a place, whatever else must move with it.
    fn way(&self, place: f64) -> Vec<Change>;

    /// The nearest place that can be had, no further from where it stands.
    fn had(&self, place: f64) -> f64 {
        place
    }

    /// The next trial towards a wish, and what of the rider's limits stops it.
    fn step(&self, wish: &Wish) -> (Option<Step>, Option<String>);

    /// What is said of legs that want different things.
    fn between(&self) -> &'static str {
        ""
    }

    /// Where the schools disagree, and why for this rider.
    fn apart(&self, known: &[(Self::School, Wish)]) -> Option<String>;

    /// What holds for several of them.
    fn note(&self) -> Option<String> {
        None
    }
}

/// Every school of a decision on one scale. What a school wants beyond a limit of the rider is cut where that begins, and
/// it says so.
pub(super) fn scale<D: Decision>(decision: &D, lead: D::School) -> Scale {
    let mut known: Vec<(D::School, Wish)> = Vec::new();
    let mut schools: Vec<Opinion> = D::School::ALL
        .iter()
        .map(|school| {
            let opinion = Opinion {
                school: school.key().to_owned(),
                label: school.label().to_owned(),
                leads: *school == lead,
                ..Opinion::default()
            };
            match decision.wish(*school) {
                Err(words) => Opinion { words, ..opinion },
                Ok(wish) => {
                    known.push((*school, wish.clone()));
                    said(decision, opinion, wish)
                }
            }
        })
        .collect();
    // An end that asks for nothing needs no room.
    let asking = |opinion: &&Opinion| opinion.bound.is_none() || opinion.trial.is_some();
    let shown = schools.iter().filter(asking).flat_map(spans);
    let now = decision.read(decision.now());
    let (low, high) = shown
        .chain([now])
        .filter(|v| v.is_finite())
        .fold((f64::INFINITY, f64::NEG_INFINITY), |(low, high), v| {
            (low.min(v), high.max(v))
        });
    schools.sort_by_key(|opinion| !opinion.leads);
    Scale {
        quantity: D::QUANTITY,
        side: decision.side(),
        unit: decision.unit(),
        now,
        low: low - D::ROOM,
        high: high + D::ROOM,
        apart: decision.apart(&known),
        note: decision.note(),
        schools,
    }
}

/// Fills in an opinion.
fn said<D: Decision>(decision: &D, opinion: Opinion, mut wish: Wish) -> Opinion {
    let read = |place: f64| decision.read(place);
    let mut words = wish.words.clone();
    if let Some(sides) = wish.sides {
        words = format!(
            "{words}; left {}, right {}: {}",
            written(read(sides.left)),
            written(read(sides.right)),
            decision.between()
        );
    }
    let asks = wish.asks(decision.now());
    let stopped = if asks { cut(decision, &mut wish) } else { None };
    let (trial, wall) = if asks {
        decision.step(&wish)
    } else {
        (None, None)
    };
    if let Some(wall) = stopped.or(wall) {
        words = format!("{words}; no further: {wall}");
    }
    // As an angle, further back is less.
    let (low, high) = (read(wish.low), read(wish.high));
    Opinion {
        value: Some(read(wish.place)),
        low: Some(low.min(high)),
        high: Some(low.max(high)),
        sides: wish.sides.map(|sides| Sides {
            left: read(sides.left),
            right: read(sides.right),
        }),
        band: wish.band,
        bound: wish.bound,
        estimated: wish.estimated,
        words,
        trial,
        ..opinion
    }
}

/// Cuts a wish where a limit of the rider begins on the way to it, and says which.
fn cut<D: Decision>(decision: &D, wish: &mut Wish) -> Option<String> {
    let on = decision.on();
    let stopped = |place: f64| {
        let after = on.plain(&decision.way(place))?;
        wall(&on.rider, &on.before, &after)
    };
    let wall = stopped(wish.place)?;
    let free = as_far(decision.now(), wish.place, NEAR_MM, |place| {
        stopped(place).is_some()
    });
    let end = decision.had(free);
    let allowed = |place: f64| {
        if wish.place > decision.now() {
            place.min(end)
        } else {
            place.max(end)
        }
    };
    let (low, high) = (allowed(wish.low), allowed(wish.high));
    (wish.place, wish.low, wish.high) = (end, low, high);
    Some(wall)
}

/// As near to a wall as a tape can tell.
pub(super) const NEAR_MM: f64 = 0.1;

/// How far one comes from a place that is free to one that is stopped, to within so much.
pub(super) fn as_far(
    mut free: f64,
    mut blocked: f64,
    near: f64,
    stopped: impl Fn(f64) -> bool,
) -> f64 {
    while (blocked - free).abs() > near {
        let middle = f64::midpoint(free, blocked);
        if stopped(middle) {
            blocked = middle;
        } else {
            free = middle;
        }
    }
    free
}

/// Everything of an opinion that a scale must show: its wish, its window and the band around it; of what accepts anything
/// beyond an end, only where it ends.
fn spans(opinion: &Opinion) -> impl Iterator<Item = f64> + use<> {
    let band = opinion.value.zip(opinion.band);
    let (low, high) = match opinion.bound {
        Some(Bound::AtMost) => (None, opinion.high),
        Some(Bound::AtLeast) => (opinion.low, None),
        None => (opinion.low, opinion.high),
    };
    [
        opinion.value,
        low,
        high,
        band.map(|(value, band)| value - band),
        band.map(|(value, band)| value + band),
    ]
    .into_iter()
    .flatten()
}
