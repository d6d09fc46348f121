//! Going lower as one piece: the whole position turned about the BB, and what the parts must do for it.
//!
//! What is turned is the sit reference and the *elbow*; pads and saddle keep tilting by the angle. Spacers under the stem and
//! under the pads are two lots, each with its own limit.

use crate::bike::{Bar, BikePoints, Perch, Placed};
use crate::foresee::{Change, Trying, rotate_ride};
use crate::measure::{Convention, Output, Quantity, Refusal, within};
use crate::plane::Point;
use crate::position::Position;
use crate::rule::rules;
use crate::solve::{MOST_BELOW_MM, PADS_MM};
use crate::units::{Degrees, Side};
use crate::words::{capital, tenth, words, written};
use serde::{Deserialize, Serialize};

rules! {
    rules "Turning the position";
    /// Pads slide so far on their brackets, either way, before the bracket is another.
    const PAD_SLIDE_MM: f64 = 40.0, " mm", House;
    /// A position is turned by so much on the board.
    const MOST_DEG: f64 = 10.0, "°", House;
}

/// The parts' own limits of a front with pads, as a studio has them.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = SpacerBudget))]
#[serde(deny_unknown_fields, default)]
pub struct Budget {
    /// The most under the stem.
    pub stem_mm: f64,
    /// The most under the pads.
    pub pads_mm: f64,
    /// How far pads slide either way from where they were found, until somebody looks at their slots.
    pub slide_mm: f64,
}

impl Default for Budget {
    fn default() -> Self {
        Self {
            stem_mm: MOST_BELOW_MM,
            pads_mm: PADS_MM,
            slide_mm: PAD_SLIDE_MM,
        }
    }
}

impl Budget {
    /// Everything that cannot be accepted, each with its JSON pointer below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        [
            (
                "stem_mm",
                self.stem_mm,
                120.0,
                "The most under the stem, in mm,",
            ),
            (
                "pads_mm",
                self.pads_mm,
                150.0,
                "The most under the pads, in mm,",
            ),
            (
                "slide_mm",
                self.slide_mm,
                150.0,
                "How far pads slide, in mm,",
            ),
        ]
        .into_iter()
        .filter_map(|(key, value, most, what)| {
            within(format!("{at}/{key}"), value, 0.0, most, what)
        })
        .collect()
    }
}

/// What a studio's limits leave a position, in mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Room {
    stem: f64,
    pads: f64,
    /// Furthest back and furthest ahead that pads slide, where nobody looked at their slots.
    slots: (f64, f64),
}

impl Room {
    /// By a studio's limits and the bar as it was found: pads slide about where they stood then, however often they were moved
    /// since.
    pub fn of(budget: &Budget, found: &Bar) -> Self {
        let stood = found.get(Quantity::PadForward).unwrap_or_default();
        Self {
            stem: budget.stem_mm,
            pads: budget.pads_mm,
            slots: (stood - budget.slide_mm, stood + budget.slide_mm),
        }
    }
}

words! {
    /// A part that follows a turn.
    pub enum Follows {
        Post "post" "Post",
        Rails "rails" "Saddle on its rails",
        Tilt "tilt" "Saddle tilt",
        Pads "pad_spacers" "Pad spacers",
        Stem "stem_spacers" "Spacers under the stem",
        Slide "pad_slide" "Pads on their brackets",
        PadTilt "pad_tilt" "Pad tilt",
    }
}

/// What one part must do.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TurnedPart {
    /// Which.
    pub part: Follows,
    /// As it is called.
    pub label: String,
    /// Where it stands, in its unit; none where nobody knows.
    pub now: Option<f64>,
    /// Where it would stand.
    pub to: Option<f64>,
    /// "°" or " mm".
    pub unit: &'static str,
    /// The least it can be, where that is known.
    pub least: Option<f64>,
    /// The most.
    pub most: Option<f64>,
    /// Turned so far that way, it would be at its end; none where it does not end, or nobody knows where.
    pub ends_at_deg: Option<f64>,
    /// Whether it is beyond its end.
    pub past: bool,
    /// What there is to say: "up 2.6, 4 mm of insertion left".
    pub words: String,
}

/// A position turned, and what the parts make of it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct TurnedPosition {
    /// How far forward, front down positive.
    pub by_deg: f64,
    /// The whole linked trial; empty where nothing turns.
    pub changes: Vec<Change>,
    /// What each part must do.
    pub parts: Vec<TurnedPart>,
    /// As far as the parts go forward,
    pub forward_deg: f64,
    /// and back.
    pub back_deg: f64,
    /// "As far as the parts go: 2.4° forward, pad spacers end first; 6.1° back, the post ends first".
    pub words: String,
    /// How far whole spacers leave the pads off, mm.
    pub miss_mm: f64,
    /// The pads' height below the saddle as a share of saddle height, before,
    pub drop_share_before: f64,
    /// and after.
    pub drop_share_after: f64,
    /// Torso before,
    pub torso_before: f64,
    /// and after: its lean alone changes, every joint keeps its angle.
    pub torso_after: f64,
    /// Effective seat angle before,
    pub seat_angle_before: f64,
    /// and after.
    pub seat_angle_after: f64,
    /// By how much the joints' angles differ at the most: they keep them by construction.
    pub joints_deg: f64,
    /// Spacers under stem and pads together after, their split, and what each lot leaves.
    pub spacers: String,
}

/// What the parts do for one angle.
struct Followed {
    setup: Placed,
    sit: Point,
    tilt: f64,
    below: f64,
    above: f64,
    pads: f64,
    forward: f64,
    pad_tilt: f64,
    perch: Perch,
    miss: f64,
    /// Whether neither lot of spacers gets the pads there.
    short: bool,
}

/// A way to share a turn between the two lots of spacers and the pads' brackets.
struct Split {
    below_by: f64,
    pads_by: f64,
    slide: f64,
    /// How far whole spacers leave it off.
    miss: f64,
    /// Whether all of it goes.
    goes: bool,
}

/// The range of each part, as far as it is known.
fn range(trying: &Trying, room: &Room, part: Follows) -> (Option<f64>, Option<f64>) {
    let setup = &trying.setup;
    let bar = |quantity| setup.bar.get(quantity).unwrap_or_default();
    match part {
        Follows::Post => {
            let most = (setup.post.post_length_mm)
                .map(|length| length.0 - setup.post.post_insertion_mm.map_or(0.0, |least| least.0));
            (Some(0.0), most)
        }
        Follows::Rails => {
            let half = setup
                .saddle
                .rail_mm
                .filter(|_| setup.post.post_setback_mm.is_some());
            (
                half.map(|rail| -rail.0 / 2.0),
                half.map(|rail| rail.0 / 2.0),
            )
        }
        Follows::Tilt | Follows::PadTilt => {
            let spec = if part == Follows::Tilt {
                Quantity::Tilt
            } else {
                Quantity::PadTilt
            }
            .spec();
            (Some(spec.min), Some(spec.max))
        }
        Follows::Pads => (Some(0.0), Some(room.pads.max(bar(Quantity::PadSpacers)))),
        Follows::Stem => {
            let most = room.stem.max(setup.cockpit.spacers_below_mm.0);
            // What stands under the stem comes from above it: a steerer is as long as it is.
            let there = setup.cockpit.spacers_below_mm.0 + setup.cockpit.spacers_above_mm.0;
            (Some(0.0), Some(there.min(most)))
        }
        Follows::Slide => {
            let end = |quantity, usual| setup.bar.get(quantity).or(Some(usual));
            let (back, ahead) = room.slots;
            (
                end(Quantity::PadForwardLeast, back),
                end(Quantity::PadForwardMost, ahead),
            )
        }
    }
}

/// Whether a part keeps within its ends, those that are known.
fn keeps((least, most): (Option<f64>, Option<f64>), at: f64) -> bool {
    least.is_none_or(|least| at >= least - 0.05) && most.is_none_or(|most| at <= most + 0.05)
}

impl Followed {
    fn of(trying: &Trying, room: &Room, by: f64) -> Option<Self> {
        let setup = &trying.setup;
        let Bar::Aero(bar) = setup.bar else {
            return None;
        };
        let bike = &trying.before.bike;
        let (elbow, pad) = (bike.pad_elbow?, bike.pad?);
        let turn = |p: Point| p.turned(Degrees(-by));
        let sit = turn(bike.sit);
        let wanted = turn(elbow) - elbow;
        let (sin, cos) = trying.frame.head_angle_deg.sin_cos();
        let cockpit = &setup.cockpit;
        let (below_now, pads_now) = (cockpit.spacers_below_mm.0, bar.pad_spacers_mm.0);
        // The pads' own lot first, since it is turned in minutes; whole millimetres, as spacers are. A spacer under the stem
        // brings the pads back as well, so that where the brackets end it may be what goes.
        let rise = wanted.y;
        let pads_most = room.pads.max(pads_now);
        let slots = range(trying, room, Follows::Slide);
        let split = |below_by: f64| {
            let left = rise - below_by * sin;
            let pads_by = left.clamp(-pads_now, pads_most - pads_now).round();
            let slide = wanted.x + below_by * cos;
            let miss = (left - pads_by).abs();
            Split {
                below_by,
                pads_by,
                slide: tenth(slide),
                miss,
                goes: miss <= 0.5 + 1e-9 && keeps(slots, bar.pad_forward_mm.0 + slide),
            }
        };
        let (low, high) = range(trying, room, Follows::Stem);
        let (low, high) = (
            low.unwrap_or(0.0) - below_now,
            high.unwrap_or(below_now) - below_now,
        );
        // The fewest spacers under the stem with which all of it goes; else the nearest the two lots come to it.
        let mut stems: Vec<f64> = (-120..=120)
            .map(f64::from)
            .filter(|by| (low - 1e-9..=high + 1e-9).contains(by))
            .collect();
        stems.sort_by(|a, b| a.abs().total_cmp(&b.abs()));
        let all = || stems.iter().map(|by| split(*by));
        let nearest = || all().min_by(|a, b| a.miss.round().total_cmp(&b.miss.round()));
        let Split {
            below_by,
            pads_by,
            slide: forward_by,
            miss: left_off,
            ..
        } = all().find(|split| split.goes).or_else(nearest)?;
        let up = pads_by + below_by * sin;
        let mut moved = crate::bike::Setup::from(*setup);
        moved.saddle.tilt_deg = Degrees(setup.saddle.tilt_deg.0 - by);
        moved.saddle.place(sit);
        moved.cockpit.spacers_below_mm.0 = below_now + below_by;
        moved.cockpit.spacers_above_mm.0 = (cockpit.spacers_above_mm.0 - below_by).max(0.0);
        let mut aero = bar;
        aero.pad_spacers_mm.0 = pads_now + pads_by;
        aero.pad_forward_mm.0 = bar.pad_forward_mm.0 + forward_by;
        aero.pad_tilt_deg.0 = bar.pad_tilt_deg.0 - by;
        moved.bar = Bar::Aero(aero);
        let setup = Placed::of(moved)?;
        let reached = BikePoints::of(&trying.frame, &setup).pad? - pad;
        Some(Self {
            sit,
            tilt: moved.saddle.tilt_deg.0,
            below: moved.cockpit.spacers_below_mm.0,
            above: moved.cockpit.spacers_above_mm.0,
            pads: aero.pad_spacers_mm.0,
            forward: aero.pad_forward_mm.0,
            pad_tilt: aero.pad_tilt_deg.0,
            miss: reached.distance(wanted).max((rise - up).abs()),
            short: left_off > 0.5 + 1e-9,
            perch: Perch::of(&trying.frame, &setup),
            setup,
        })
    }

    /// Where a part stands.
    fn stands(&self, part: Follows) -> Option<f64> {
        Some(match part {
            Follows::Post => self.perch.exposed_mm.0,
            Follows::Rails => self.perch.clamp_ahead_mm?.0,
            Follows::Tilt => self.tilt,
            Follows::Pads => self.pads,
            Follows::Stem => self.below,
            Follows::Slide => self.forward,
            Follows::PadTilt => self.pad_tilt,
        })
    }

    fn is_past(&self, trying: &Trying, room: &Room, part: Follows) -> bool {
        if part == Follows::Pads && self.short {
            return true;
        }
        let ends = range(trying, room, part);
        self.stands(part).is_some_and(|at| !keeps(ends, at))
    }

    fn fits(&self, trying: &Trying, room: &Room) -> bool {
        Follows::ALL
            .iter()
            .all(|part| !self.is_past(trying, room, *part))
    }
}

/// What the parts do for every tenth of a degree one way, as far as a position is turned.
struct Way {
    /// Forward one, back minus one.
    sign: f64,
    /// None where no saddle stands there.
    each: Vec<(f64, Option<Followed>)>,
}

impl Way {
    fn of(trying: &Trying, room: &Room, sign: f64) -> Self {
        let tenths = (1..=100).map(|tenth| sign * f64::from(tenth) / 10.0);
        Self {
            sign,
            each: tenths
                .map(|by| (by, Followed::of(trying, room, by)))
                .collect(),
        }
    }

    /// As far as the parts go, and what ends first.
    fn as_far(&self, trying: &Trying, room: &Room) -> (f64, Option<Follows>) {
        let mut last = 0.0;
        for (by, at) in &self.each {
            match at {
                Some(at) if at.fits(trying, room) => last = *by,
                Some(at) => {
                    let past = |part: &&Follows| at.is_past(trying, room, **part);
                    return (last, Follows::ALL.iter().find(past).copied());
                }
                None => return (last, None),
            }
        }
        (last, None)
    }

    /// Where one part ends, whatever the others do.
    fn end_of(&self, trying: &Trying, room: &Room, part: Follows) -> Option<f64> {
        let past =
            |at: &Option<Followed>| at.as_ref().is_none_or(|at| at.is_past(trying, room, part));
        let (by, _) = self.each.iter().find(|(_, at)| past(at))?;
        Some(by - self.sign * 0.1)
    }
}

/// Turns the whole position about the BB by an angle, forward (front down) positive, with what each part must do for it.
///
/// One degree is `D·π/180` mm for straight height D. Errors name what cannot be turned.
pub fn turned(trying: &Trying, room: &Room, by: Degrees) -> Result<TurnedPosition, Vec<Refusal>> {
    if by.0.is_nan() || by.0.abs() > MOST_DEG {
        return Err(vec![Refusal::new(
            "/by_deg",
            format!("A position is turned by {MOST_DEG}° at the most"),
        )]);
    }
    let refused = || {
        vec![Refusal::new(
            "/by_deg",
            "Only a bike with pads is turned as one piece",
        )]
    };
    let now = Followed::of(trying, room, 0.0).ok_or_else(refused)?;
    let at = Followed::of(trying, room, by.0).ok_or_else(refused)?;
    let rotation = rotate_ride(trying, &trying.setup, by);
    let side = Side::Right;
    let of =
        |output: Output, position: &Position| output.as_drawn(position, side).unwrap_or_default();
    let share = |position: &Position| {
        let share = position.dimensions.get(Convention::DropShare);
        share.unwrap_or_default()
    };
    let angles = [
        Output::KneeAtFullReach,
        Output::KneeMostBent,
        Output::HipClosed,
        Output::HipFlexion,
        Output::Shoulder,
        Output::Elbow,
        Output::AnkleSmallest,
    ];
    let joints_deg = (angles.iter())
        .map(|output| (of(*output, &rotation.after) - of(*output, &rotation.before)).abs())
        .fold(0.0, f64::max);
    let (forward, back) = (Way::of(trying, room, 1.0), Way::of(trying, room, -1.0));
    let (forward_deg, forward_ends) = forward.as_far(trying, room);
    let (back_deg, back_ends) = back.as_far(trying, room);
    let way = if by.0 < 0.0 { &back } else { &forward };
    let told = |deg: f64, way: &str, ends: Option<Follows>| match ends {
        Some(part) => format!("{}° {way}, {} first", written(deg), ends_words(part)),
        None => format!("{}° {way}", written(deg)),
    };
    let sum = at.below + at.pads;
    let left = |part, stands: f64| {
        let (_, most) = range(trying, room, part);
        most.map_or(0.0, |most| (most - stands).max(0.0))
    };
    Ok(TurnedPosition {
        by_deg: by.0,
        changes: changes(trying, &at, by.0),
        parts: (Follows::ALL.iter())
            .map(|part| told_part(trying, room, *part, (&now, &at), way))
            .collect(),
        forward_deg,
        back_deg: -back_deg,
        words: format!(
            "As far as the parts go: {}; {}",
            told(forward_deg, "forward", forward_ends),
            told(-back_deg, "back", back_ends)
        ),
        miss_mm: at.miss,
        drop_share_before: share(&trying.before),
        drop_share_after: share(&trying.standing(&at.setup)),
        torso_before: rotation.before.upper.torso_deg.0,
        torso_after: rotation.after.upper.torso_deg.0,
        seat_angle_before: seat_angle(trying.before.bike.sit),
        seat_angle_after: seat_angle(at.sit),
        joints_deg,
        spacers: format!(
            "{} mm of spacers: {} under the stem ({} more would go), {} under the pads ({} more would go)",
            written(sum),
            written(at.below),
            written(left(Follows::Stem, at.below)),
            written(at.pads),
            written(left(Follows::Pads, at.pads))
        ),
    })
}

/// `atan2(y, −x)` of the sit reference.
pub(super) fn seat_angle(sit: Point) -> f64 {
    sit.y.atan2(-sit.x).to_degrees()
}

fn ends_words(part: Follows) -> &'static str {
    match part {
        Follows::Post => "the post ends",
        Follows::Rails => "the rails end",
        Follows::Tilt => "the saddle’s tilt ends",
        Follows::Pads => "the pad spacers end",
        Follows::Stem => "the spacers under the stem end",
        Follows::Slide => "the pads’ brackets end",
        Follows::PadTilt => "the pads’ tilt ends",
    }
}

fn told_part(
    trying: &Trying,
    room: &Room,
    part: Follows,
    (before, after): (&Followed, &Followed),
    way: &Way,
) -> TurnedPart {
    let (now, to) = (before.stands(part), after.stands(part));
    let (least, most) = range(trying, room, part);
    // What this part alone would bear: the others may be past their ends.
    let ends_at_deg = way.end_of(trying, room, part);
    let past = after.is_past(trying, room, part);
    let unit = if matches!(part, Follows::Tilt | Follows::PadTilt) {
        "°"
    } else {
        " mm"
    };
    let words = match (now, to) {
        (Some(now), Some(to)) => {
            let over = least
                .map(|least| least - to)
                .into_iter()
                .chain(most.map(|most| to - most))
                .fold(0.0, f64::max);
            let moved = to - now;
            let moves = if moved.abs() < 0.05 {
                "stays".to_owned()
            } else {
                format!("{} {}{unit}", way_words(part, moved), written(moved.abs()))
            };
            match (part, past) {
                (Follows::Rails, true) => format!(
                    "{moves}; a post head {} mm further {} would do",
                    written(over.ceil()),
                    if to > 0.0 { "back" } else { "forward" }
                ),
                (Follows::Pads, true) => format!(
                    "{moves}; both lots of spacers end {} mm before",
                    written(tenth(after.miss))
                ),
                (_, true) => format!(
                    "{moves}; {}{unit} past its end{}",
                    written(over),
                    usual(trying, part)
                ),
                _ => format!("{moves}{}", usual(trying, part)),
            }
        }
        _ => "not known: type the post and the rails with the bike as found".to_owned(),
    };
    TurnedPart {
        part,
        label: part.label().to_owned(),
        now,
        to,
        unit,
        least,
        most,
        ends_at_deg,
        past,
        words: capital(&words),
    }
}

/// Ends nobody looked at are the studio's usual ones.
fn usual(trying: &Trying, part: Follows) -> &'static str {
    let looked = |end| trying.setup.bar.get(end).is_some();
    let ends = [Quantity::PadForwardLeast, Quantity::PadForwardMost];
    if part == Follows::Slide && !ends.into_iter().all(looked) {
        ", by usual slots: look at them"
    } else {
        ""
    }
}

fn way_words(part: Follows, moved: f64) -> &'static str {
    match (part, moved > 0.0) {
        (Follows::Post, true) => "up",
        (Follows::Post, false) => "down",
        // The clamp further ahead on the rails is a saddle further back.
        (Follows::Rails, true) => "saddle back",
        (Follows::Rails, false) => "saddle forward",
        (Follows::Tilt | Follows::PadTilt, true) => "front up",
        (Follows::Tilt | Follows::PadTilt, false) => "front down",
        (Follows::Slide, true) => "forward",
        (Follows::Slide, false) => "back",
        (_, true) => "add",
        (_, false) => "take out",
    }
}

/// The linked trial: every bolt that moves.
fn changes(trying: &Trying, at: &Followed, by: f64) -> Vec<Change> {
    if by.abs() < 0.05 {
        return Vec::new();
    }
    let with = at
        .setup
        .companions(&trying.frame, trying.conventions.sit_reference);
    let saddle = |quantity, convention| {
        let value = with.of_the_saddle(convention, at.sit)?;
        Some(Change {
            convention: Some(convention),
            ..Change::to(quantity, tenth(value))
        })
    };
    let mut all = vec![Change::to(Quantity::Tilt, tenth(at.tilt))];
    all.extend(saddle(
        Quantity::SaddleHeight,
        Convention::SaddleHeightStraight,
    ));
    all.extend(saddle(Quantity::Setback, Convention::SetbackSit));
    all.push(Change::to(Quantity::PadTilt, tenth(at.pad_tilt)));
    let now = &trying.setup;
    let bar = |quantity| now.bar.get(quantity).unwrap_or_default();
    if (at.pads - bar(Quantity::PadSpacers)).abs() > 0.05 {
        all.push(Change::to(Quantity::PadSpacers, at.pads.max(0.0)));
    }
    if (at.below - now.cockpit.spacers_below_mm.0).abs() > 0.05 {
        all.push(Change::to(Quantity::SpacersBelow, at.below.max(0.0)));
        all.push(Change::to(Quantity::SpacersAbove, at.above));
    }
    if (at.forward - bar(Quantity::PadForward)).abs() > 0.05 {
        all.push(Change::to(Quantity::PadForward, at.forward));
    }
    all
}
