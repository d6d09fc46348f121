//! Frames for a position, the best first: what parts bring the rider how near on each, and how ordinary those parts are.
//!
//! For a stem of one length and angle the best height of the spacers is known in closed form: with `w` the bar clamp wished less
//! the head tube's top and `u` the steerer's direction, the clamp stands `w·u − L sin α` along the steerer, and what then is off is
//! square to it, `w·n − L cos α`. So a frame is a few dozen tries, and every one of them is looked at.

use super::carry::{Seated, front_share, posts, seated, shoe_ahead};
use crate::bike::{Frame, Kind, Part, PartKind, Perch, Placed, STEM_ANGLES_DEG, STEMS_MM, Setup};
use crate::foresee::Trying;
use crate::measure::{Quantity, Refusal};
use crate::plane::Point;
use crate::rule::rules;
use crate::solve::{MOST_BELOW_MM, miss_class};
use crate::units::{Degrees, Millimetres};
use crate::words::{capital, tenth, written};
use serde::{Deserialize, Serialize};
use std::cmp::Ordering;

rules! {
    rules "Choosing a frame";
    /// A frame whose saddle and hands come this near is one the rider can have.
    pub(crate) const REACHED_MM: f64 = 5.0, " mm", House;
    /// Stems are ordinary from and to,
    const ROAD_STEM_MM: (f64, f64) = (90.0, 120.0), " mm", House;
    /// off the road from and to;
    const TRAIL_STEM_MM: (f64, f64) = (30.0, 50.0), " mm", House;
    /// so much outside counts as a point.
    const POINT_MM: f64 = 10.0, " mm", House;
    /// Spacers are ordinary up to here; each step beyond is a point.
    const ORDINARY_SPACERS_MM: f64 = 30.0, " mm", House;
    /// A stem turned up counts as points, but on a town bike.
    const UP_POINTS: f64 = 2.0, "", House;
    /// A clamp so far off the middle of the rails, or this near their ends,
    const CLAMP_OFF_MM: f64 = 25.0, " mm", House;
    /// (the ends)
    const CLAMP_END_MM: f64 = 2.0, " mm", House;
    /// counts as points.
    const CLAMP_POINTS: f64 = 2.0, "", House;
    /// A post shows at least so much,
    const POST_OUT_MM: f64 = 80.0, " mm", House;
    /// and has at least so much more inside than its maker asks for; either short counts as points.
    const POST_IN_MM: f64 = 2.0, " mm", House;
    /// Points of a post that is short one way or the other.
    const POST_POINTS: f64 = 2.0, "", House;
    /// The front wheel's share in the linkage: on the road from and to,
    const ROAD_SHARE: (f64, f64) = (40.0, 47.0), " %", House;
    /// in town,
    const CITY_SHARE: (f64, f64) = (28.0, 38.0), " %", House;
    /// off the road,
    const TRAIL_SHARE: (f64, f64) = (33.0, 40.0), " %", House;
    /// on pads; each point of share outside is a point.
    const PADS_SHARE: (f64, f64) = (48.0, 58.0), " %", House;
    /// Toes overlap the wheel by up to here on ordinary road frames: it is told. Beyond, it counts.
    const OVERLAP_MM: f64 = 20.0, " mm", House;
    /// Points of toes that overlap by more.
    const OVERLAP_POINTS: f64 = 2.0, "", House;
    /// Room is looked for so far lower and higher.
    const ROOM_MM: f64 = 20.0, " mm", House;
    /// The good frames of the picture are those a stem of this length,
    const GOOD_STEM_MM: f64 = 100.0, " mm", House;
    /// off the road of this,
    const GOOD_TRAIL_STEM_MM: f64 = 40.0, " mm", House;
    /// give or take this, serves with ordinary spacers.
    const GOOD_STEM_BAND_MM: f64 = 10.0, " mm", House;
}

/// A frame to choose from.
#[derive(Debug, Clone, PartialEq)]
pub struct OnOffer<'a> {
    /// As it is called.
    pub name: &'a str,
    /// What it is for.
    pub kind: Kind,
    /// Its numbers.
    pub frame: &'a Frame,
}

/// What of the parts is ruled out beforehand.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = NextPartLimits))]
#[serde(deny_unknown_fields)]
pub struct PartLimits {
    /// The shortest stem, mm.
    pub shortest_stem_mm: f64,
    /// The longest stem, mm.
    pub longest_stem_mm: f64,
    /// The most spacers below a stem, mm.
    pub most_spacers_mm: f64,
    /// Whether stems may be turned up.
    pub turned_up: bool,
    /// Whether stems of the steep angle may be had.
    pub steep: bool,
}

impl Default for PartLimits {
    /// What is sold.
    fn default() -> Self {
        Self {
            shortest_stem_mm: 30.0,
            longest_stem_mm: 140.0,
            most_spacers_mm: MOST_BELOW_MM,
            turned_up: true,
            steep: true,
        }
    }
}

impl PartLimits {
    /// Everything that cannot be accepted, each with its JSON pointer below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let of = |quantity: Quantity, key: &str, value: f64| {
            let pointer = format!("{at}/{key}");
            quantity.refuse(value, &pointer)
        };
        let mut all = Vec::new();
        all.extend(of(
            Quantity::Stem,
            "shortest_stem_mm",
            self.shortest_stem_mm,
        ));
        all.extend(of(Quantity::Stem, "longest_stem_mm", self.longest_stem_mm));
        all.extend(of(
            Quantity::SpacersBelow,
            "most_spacers_mm",
            self.most_spacers_mm,
        ));
        if all.is_empty() && self.longest_stem_mm < self.shortest_stem_mm {
            all.push(Refusal::new(
                format!("{at}/longest_stem_mm"),
                "The longest stem is at least as long as the shortest",
            ));
        }
        all
    }

    /// Whether a stem may be had.
    fn allows(&self, length: f64, angle: f64) -> bool {
        (self.shortest_stem_mm..=self.longest_stem_mm).contains(&length)
            && (self.turned_up || angle <= 0.0)
            && (self.steep || angle.abs() < STEM_ANGLES_DEG[1] - 0.05)
    }

    /// Parts that may be had.
    fn of(&self, parts: &[Part]) -> Vec<Stem> {
        let mut all: Vec<Stem> = Vec::new();
        let ordinary = (STEMS_MM.iter())
            .flat_map(|length| STEM_ANGLES_DEG.map(|angle| (*length, angle, true)));
        let boxed = parts.iter().filter(|part| part.kind == PartKind::Stem);
        let boxed = boxed.filter_map(|part| {
            Some((
                part.size(Quantity::Stem)?,
                part.size(Quantity::StemAngle)?,
                part.flips,
            ))
        });
        for (length_mm, angle, flips) in boxed.chain(ordinary) {
            let ways = if flips {
                [-angle.abs(), angle.abs()]
            } else {
                [angle; 2]
            };
            for angle_deg in ways {
                let stem = Stem {
                    length_mm,
                    angle_deg,
                };
                if self.allows(length_mm, angle_deg) && !all.contains(&stem) {
                    all.push(stem);
                }
            }
        }
        all
    }
}

#[derive(Debug, Clone, Copy, PartialEq)]
struct Stem {
    length_mm: f64,
    angle_deg: f64,
}

/// Something a frame is marked down for.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MarkedDown {
    /// What.
    pub words: String,
    /// By how many points.
    pub points: f64,
}

/// A frame with the parts that bring the rider nearest.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Ranked {
    /// The how-manieth of those on offer.
    pub index: usize,
    /// As it is called.
    pub name: String,
    /// Top centre of its head tube: reach and stack.
    pub head_top: Point,
    /// Whether the rider can be had on it within 5 mm.
    pub reached: bool,
    /// How far the saddle stays off, mm.
    pub saddle_off_mm: f64,
    /// How far the hands stay off, mm.
    pub hand_off_mm: f64,
    /// The stem, mm.
    pub stem_mm: f64,
    /// Its angle as mounted.
    pub stem_angle_deg: f64,
    /// Spacers below it, mm.
    pub spacers_mm: f64,
    /// The post's setback, when known.
    pub post_setback_mm: Option<f64>,
    /// Post out of the seat tube, mm.
    pub post_out_mm: f64,
    /// The clamp ahead of the middle of the rails, when the post is known.
    pub clamp_ahead_mm: Option<f64>,
    /// The front wheel's share, an estimate.
    pub front_share_percent: Option<f64>,
    /// Toe to front wheel, negative where they overlap.
    pub toe_mm: f64,
    /// So much lower the hands can go later, up to 20 mm.
    pub lower_mm: f64,
    /// So much higher.
    pub higher_mm: f64,
    /// What it is marked down for.
    pub marked_down: Vec<MarkedDown>,
    /// All of that.
    pub points: f64,
    /// What is told of it and not counted.
    pub told: Vec<String>,
}

impl Ranked {
    /// The better first: reached at all, then how near in steps and how ordinary; where nothing reaches, how near.
    fn against(&self, other: &Self) -> Ordering {
        let off = |one: &Self| one.saddle_off_mm.hypot(one.hand_off_mm);
        let nearer = off(self).total_cmp(&off(other));
        let ordinary = (miss_class(off(self)).cmp(&miss_class(off(other))))
            .then(self.points.total_cmp(&other.points));
        (other.reached.cmp(&self.reached))
            .then(if self.reached { ordinary } else { nearer })
            .then(nearer)
            .then(other.room().total_cmp(&self.room()))
    }

    fn room(&self) -> f64 {
        self.lower_mm.min(self.higher_mm)
    }

    /// "Stem 100 mm, −6°, spacers 15 mm; post setback 20 mm".
    pub fn parts(&self) -> String {
        let stem = format!(
            "stem {} mm, {}°, spacers {} mm",
            written(self.stem_mm),
            written(self.stem_angle_deg),
            written(self.spacers_mm)
        );
        let post = (self.post_setback_mm)
            .map(|back| format!("; post setback {} mm", written(back)))
            .unwrap_or_default();
        capital(&(stem + &post))
    }
}

/// Frames, the best first, and where good ones lie.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = NextChoice))]
pub struct Choice {
    /// The best first.
    pub ranked: Vec<Ranked>,
    /// Corners of the band of good frames in the plane of reach and stack.
    pub good: Vec<Point>,
    /// What the band is made of.
    pub good_words: String,
}

/// Where the hands are wanted, and what is there to get them there.
struct Front<'a> {
    /// The bar clamp's centre, wished.
    clamp: Point,
    /// Cover and half the stem's clamp: what stands below a clamp without spacers.
    least_mm: f64,
    most_spacers_mm: f64,
    stems: &'a [Stem],
}

/// A front end of one stem.
#[derive(Debug, Clone, Copy)]
struct Reached {
    stem: Stem,
    spacers_mm: f64,
    off_mm: f64,
}

impl Front<'_> {
    /// Every stem with the spacers that bring the clamp nearest, whole millimetres of them.
    fn all(&self, frame: &Frame, up: f64) -> impl Iterator<Item = Reached> {
        let axis = frame.steerer_axis();
        let square = axis.turned(Degrees(-90.0));
        let wish = self.clamp + Point::new(0.0, up) - frame.head_top();
        let (along, out) = (wish.dot(axis), wish.dot(square));
        let (least, most) = (self.least_mm, self.most_spacers_mm);
        self.stems.iter().map(move |stem| {
            let (sin, cos) = Degrees(stem.angle_deg).sin_cos();
            let wanted = along - stem.length_mm * sin - least;
            let spacers_mm = wanted.clamp(0.0, most).round();
            let off = Point::new(wanted - spacers_mm, out - stem.length_mm * cos);
            Reached {
                stem: *stem,
                spacers_mm,
                off_mm: off.length(),
            }
        })
    }

    /// The one that is wanted: how near in steps, how ordinary, how near.
    fn best(&self, frame: &Frame, kind: Kind) -> Option<Reached> {
        let weighed = self.all(frame, 0.0).map(|one| {
            let points: f64 = stem_points(&one, kind).iter().sum();
            (miss_class(one.off_mm), points, one)
        });
        let best = weighed.min_by(|a, b| {
            (a.0.cmp(&b.0))
                .then(a.1.total_cmp(&b.1))
                .then(a.2.off_mm.total_cmp(&b.2.off_mm))
        });
        best.map(|(_, _, one)| one)
    }

    /// How far the hands can go up or down from where they are wanted, in steps of 5 mm.
    fn room(&self, frame: &Frame, way: f64) -> f64 {
        let reached = |up: f64| self.all(frame, up).any(|one| one.off_mm <= REACHED_MM);
        let steps = [1.0, 2.0, 3.0, 4.0].map(|step| step * ROOM_MM / 4.0);
        let mut room = 0.0;
        for step in steps {
            if !reached(way * step) {
                break;
            }
            room = step;
        }
        room
    }
}

/// The stems that are ordinary for a kind of riding.
fn ordinary_stem(kind: Kind) -> (f64, f64) {
    match kind {
        Kind::OffRoad | Kind::Gravity => TRAIL_STEM_MM,
        _ => ROAD_STEM_MM,
    }
}

fn share_of(kind: Kind) -> (f64, f64) {
    match kind {
        Kind::Road | Kind::Race | Kind::Gravel => ROAD_SHARE,
        Kind::City => CITY_SHARE,
        Kind::OffRoad | Kind::Gravity => TRAIL_SHARE,
        Kind::TimeTrial => PADS_SHARE,
    }
}

/// How far a value is outside a range.
fn outside(value: f64, (low, high): (f64, f64)) -> f64 {
    (low - value).max(value - high).max(0.0)
}

fn marked(points: f64, words: String) -> Option<MarkedDown> {
    (points > 0.0).then(|| MarkedDown {
        words,
        points: tenth(points),
    })
}

/// The points of a stem and its spacers: its length, the spacers, whether it is turned up.
fn stem_points(one: &Reached, kind: Kind) -> [f64; 3] {
    let up = one.stem.angle_deg > 0.0 && kind != Kind::City;
    [
        outside(one.stem.length_mm, ordinary_stem(kind)) / POINT_MM,
        outside(one.spacers_mm, (0.0, ORDINARY_SPACERS_MM)) / POINT_MM,
        if up { UP_POINTS } else { 0.0 },
    ]
}

/// What a stem and its spacers are marked down for.
fn marked_stem(one: &Reached, kind: Kind) -> Vec<MarkedDown> {
    let range = ordinary_stem(kind);
    let [length, spacers, up] = stem_points(one, kind);
    [
        marked(
            length,
            format!(
                "a stem of {} mm: {} to {} are ordinary",
                written(one.stem.length_mm),
                written(range.0),
                written(range.1)
            ),
        ),
        marked(
            spacers,
            format!("{} mm of spacers", written(one.spacers_mm)),
        ),
        marked(up, "the stem turned up".to_owned()),
    ]
    .into_iter()
    .flatten()
    .collect()
}

/// What post and rails are marked down for.
fn marked_perch(perch: &Perch, setup: &Setup) -> Vec<MarkedDown> {
    let clamp = perch.clamp_ahead_mm.map(|ahead| {
        let way = if ahead.0 < 0.0 { "behind" } else { "ahead of" };
        let end = setup
            .saddle
            .rail_mm
            .is_some_and(|rail| ahead.0.abs() > rail.0 / 2.0 - CLAMP_END_MM);
        let far = end || ahead.0.abs() > CLAMP_OFF_MM;
        let words = format!(
            "the clamp {} mm {way} the middle of the rails",
            written(ahead.0.abs())
        );
        marked(if far { CLAMP_POINTS } else { 0.0 }, words)
    });
    let out = perch.exposed_mm.0;
    let short = marked(
        if out < POST_OUT_MM { POST_POINTS } else { 0.0 },
        format!("only {} mm of post out", written(out)),
    );
    let inside = perch.inserted_mm.zip(setup.post.post_insertion_mm);
    let inside = inside.map(|(inside, least)| {
        let near = inside.0 < least.0 + POST_IN_MM;
        marked(
            if near { POST_POINTS } else { 0.0 },
            "the post is at its mark".to_owned(),
        )
    });
    [clamp.flatten(), short, inside.flatten()]
        .into_iter()
        .flatten()
        .collect()
}

/// Frames for a position, the best first. `with` is what is put on each: bar, saddle, post and cranks; its stem and spacers are
/// looked for among what is sold, what is in the box and what the limits leave.
pub fn choose(
    from: &Trying,
    with: &Setup,
    offers: &[OnOffer],
    limits: &PartLimits,
    parts: &[Part],
) -> Choice {
    let stems = limits.of(parts);
    let hand = from.before.bike.hand;
    let cockpit = &with.cockpit;
    let front = Front {
        clamp: hand - with.bar.hand_offset() - with.residual.offset(),
        least_mm: cockpit.cover_mm.0 + cockpit.stem_clamp_mm.0 / 2.0,
        most_spacers_mm: limits.most_spacers_mm,
        stems: &stems,
    };
    let mut all_posts = parts.to_vec();
    all_posts.extend(posts());
    let mut ranked: Vec<Ranked> = (offers.iter().enumerate())
        .filter_map(|(index, offer)| rank(from, with, &front, &all_posts, (index, offer)))
        .collect();
    ranked.sort_by(Ranked::against);
    let (good, good_words) = good_frames(&front, offers, from.kind);
    Choice {
        ranked,
        good,
        good_words,
    }
}

fn rank(
    from: &Trying,
    with: &Setup,
    front: &Front,
    posts: &[Part],
    (index, offer): (usize, &OnOffer),
) -> Option<Ranked> {
    let frame = offer.frame;
    let reached = front.best(frame, offer.kind)?;
    let Seated { setup, off_mm, .. } = seated(frame, *with, from.before.bike.sit, posts);
    let placed = Placed::of(setup)?;
    let perch = Perch::of(frame, &placed);
    let share = front_share(from, frame);
    let toe_mm = frame.front_centre_mm.0 - frame.wheel_radius_mm.0 - shoe_ahead(from);
    let range = share_of(offer.kind);
    let mut marked_down = marked_stem(&reached, offer.kind);
    marked_down.extend(marked_perch(&perch, &setup));
    marked_down.extend(share.and_then(|share| {
        let words = format!(
            "{} % on the front wheel: {} to {} is usual",
            written(share),
            written(range.0),
            written(range.1)
        );
        marked(outside(share, range), words)
    }));
    let over = if toe_mm < -OVERLAP_MM {
        OVERLAP_POINTS
    } else {
        0.0
    };
    marked_down.extend(marked(
        over,
        format!("toes overlap the wheel by {} mm", written(-toe_mm)),
    ));
    let toes = if toe_mm < 0.0 {
        let usual = if toe_mm >= -OVERLAP_MM {
            ", as on many road frames"
        } else {
            ""
        };
        format!("Toes overlap the wheel by {} mm{usual}", written(-toe_mm))
    } else {
        format!("Toes clear the wheel by {} mm", written(toe_mm))
    };
    // A share that is marked down is told there.
    let told = share
        .filter(|share| outside(*share, range) == 0.0)
        .map(|share| format!("{} % on the front wheel, an estimate", written(share)))
        .into_iter()
        .chain([toes]);
    Some(Ranked {
        index,
        name: offer.name.to_owned(),
        head_top: frame.head_top(),
        reached: off_mm <= REACHED_MM && reached.off_mm <= REACHED_MM,
        saddle_off_mm: tenth(off_mm),
        hand_off_mm: tenth(reached.off_mm),
        stem_mm: reached.stem.length_mm,
        stem_angle_deg: reached.stem.angle_deg,
        spacers_mm: reached.spacers_mm,
        post_setback_mm: setup.post.post_setback_mm.map(|back| back.0),
        post_out_mm: tenth(perch.exposed_mm.0),
        clamp_ahead_mm: perch.clamp_ahead_mm.map(|ahead| tenth(ahead.0)),
        front_share_percent: share.map(tenth),
        toe_mm: tenth(toe_mm),
        lower_mm: front.room(frame, -1.0),
        higher_mm: front.room(frame, 1.0),
        points: marked_down.iter().map(|mark| mark.points).sum(),
        marked_down,
        told: told.collect(),
    })
}

/// Where the head tube's top lies on frames that an ordinary stem with ordinary spacers serves: on the head angle that is in the
/// middle of those on offer, the stem of the commonest angle turned down.
fn good_frames(front: &Front, offers: &[OnOffer], kind: Kind) -> (Vec<Point>, String) {
    let mut angles: Vec<f64> = offers
        .iter()
        .map(|offer| offer.frame.head_angle_deg.0)
        .collect();
    angles.sort_by(f64::total_cmp);
    let Some(head) = angles.get(angles.len() / 2) else {
        return (Vec::new(), String::new());
    };
    let middle = match kind {
        Kind::OffRoad | Kind::Gravity => GOOD_TRAIL_STEM_MM,
        _ => GOOD_STEM_MM,
    };
    let down = -STEM_ANGLES_DEG[0];
    let (sin, cos) = Degrees(*head).sin_cos();
    let axis = Point::new(-cos, sin);
    let corner = |by: f64, spacers: f64| {
        let leaves = Degrees(90.0 - head + down);
        front.clamp
            - Point::polar(Millimetres(middle + by), leaves)
            - axis * (front.least_mm + spacers)
    };
    let (band, most) = (
        GOOD_STEM_BAND_MM,
        ORDINARY_SPACERS_MM.min(front.most_spacers_mm),
    );
    let words = format!(
        "Frames on which a stem of {} ± {} mm at {}° with up to {} mm of spacers puts the hands there, at a head angle of {}°",
        written(middle),
        written(band),
        written(down),
        written(most),
        written(*head)
    );
    let corners = [(-band, 0.0), (band, 0.0), (band, most), (-band, most)];
    (
        corners.map(|(by, spacers)| corner(by, spacers)).to_vec(),
        words,
    )
}

/// Two frames beside each other: what one gives for the other, in words.
pub fn beside(one: &Ranked, other: &Ranked) -> Vec<String> {
    let mut all = Vec::new();
    let mut tell = |what: &str, a: f64, b: f64, unit: &str| {
        if (a - b).abs() >= 0.5 {
            all.push(format!(
                "{what}: {}{unit} against {}{unit}",
                written(a),
                written(b)
            ));
        }
    };
    tell("Frame reach", one.head_top.x, other.head_top.x, " mm");
    tell("Frame stack", one.head_top.y, other.head_top.y, " mm");
    tell("Stem", one.stem_mm, other.stem_mm, " mm");
    tell("Stem angle", one.stem_angle_deg, other.stem_angle_deg, "°");
    tell("Spacers", one.spacers_mm, other.spacers_mm, " mm");
    tell("Post out", one.post_out_mm, other.post_out_mm, " mm");
    if let Some((a, b)) = one.clamp_ahead_mm.zip(other.clamp_ahead_mm) {
        tell("Clamp ahead of the rails’ middle", a, b, " mm");
    }
    if let Some((a, b)) = one.front_share_percent.zip(other.front_share_percent) {
        tell("Front wheel’s share", a, b, " %");
    }
    tell("Toe to wheel", one.toe_mm, other.toe_mm, " mm");
    tell(
        "Room to go lower later",
        one.lower_mm,
        other.lower_mm,
        " mm",
    );
    tell(
        "Room to go higher later",
        one.higher_mm,
        other.higher_mm,
        " mm",
    );
    tell("Hands off", one.hand_off_mm, other.hand_off_mm, " mm");
    tell("Saddle off", one.saddle_off_mm, other.saddle_off_mm, " mm");
    if all.is_empty() {
        all.push("Alike in everything told here".to_owned());
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::bike::{BikePoints, ordinary_bikes};
    use crate::example::{self, trying};
    use crate::foresee::ForeseeInput;
    use proptest::prelude::*;

    fn offers(frames: &[(String, Kind, Frame)]) -> Vec<OnOffer<'_>> {
        (frames.iter())
            .map(|(name, kind, frame)| OnOffer {
                name,
                kind: *kind,
                frame,
            })
            .collect()
    }

    fn chosen(
        input: &ForeseeInput,
        frames: &[(String, Kind, Frame)],
        limits: &PartLimits,
    ) -> Choice {
        trying(input, |on| {
            choose(on, on.before_setup(), &offers(frames), limits, &[])
        })
    }

    fn ordinary() -> Vec<(String, Kind, Frame)> {
        let bike = |bike: crate::bike::OrdinaryBike| (bike.name.to_owned(), bike.kind, bike.frame);
        ordinary_bikes().into_iter().map(bike).collect()
    }

    #[test]
    fn its_own_frame_is_reached_with_its_own_stem() {
        let road = example::road();
        let mut frames = ordinary();
        frames.push(("Own".to_owned(), Kind::Road, road.frame));
        let choice = chosen(&road, &frames, &PartLimits::default());
        assert_eq!(choice.ranked.len(), frames.len());
        let own = choice.ranked.iter().find(|one| one.name == "Own").unwrap();
        assert!(own.reached, "{own:?}");
        assert!(own.hand_off_mm <= 2.0 && own.saddle_off_mm < 0.5, "{own:?}");
        assert!(
            (own.front_share_percent.unwrap()
                - trying(&road, |on| on.before.loads.unwrap().front_share_percent))
            .abs()
                < 0.06
        );
        // Nothing better than it is far worse.
        let place = choice
            .ranked
            .iter()
            .position(|one| one.name == "Own")
            .unwrap();
        assert!(place < 4, "{place}");
        assert!(own.parts().starts_with("Stem "), "{}", own.parts());
    }

    #[test]
    fn a_frame_nobody_reaches_comes_last_with_how_far() {
        let road = example::road();
        let mut frames = ordinary();
        let mut far = road.frame;
        far.frame_reach_mm = Millimetres(600.0);
        far.frame_stack_mm = Millimetres(790.0);
        frames.push(("Far".to_owned(), Kind::Road, far));
        let choice = chosen(&road, &frames, &PartLimits::default());
        let last = choice.ranked.last().unwrap();
        assert_eq!(last.name, "Far");
        assert!(!last.reached && last.hand_off_mm > 100.0);
    }

    #[test]
    fn limits_are_kept() {
        let road = example::road();
        let limits = PartLimits {
            shortest_stem_mm: 70.0,
            longest_stem_mm: 90.0,
            most_spacers_mm: 10.0,
            turned_up: false,
            steep: false,
        };
        for one in chosen(&road, &ordinary(), &limits).ranked {
            assert!((70.0..=90.0).contains(&one.stem_mm));
            assert!(one.spacers_mm <= 10.0 && (-6.0..=0.0).contains(&one.stem_angle_deg));
        }
        let turned = PartLimits {
            longest_stem_mm: 60.0,
            ..limits
        };
        assert_eq!(
            turned.refusals("/limits")[0].pointer,
            "/limits/longest_stem_mm"
        );
    }

    #[test]
    fn an_ordinary_frame_lies_in_the_band() {
        let road = example::road();
        let choice = chosen(
            &road,
            &[("Own".to_owned(), Kind::Road, road.frame)],
            &PartLimits::default(),
        );
        // Stem 100 at −6° with 20 mm of spacers: in the middle of the stems, within the spacers.
        let middle = choice
            .good
            .iter()
            .fold(Point::default(), |sum, at| sum + *at * 0.25);
        assert!(middle.distance(road.frame.head_top()) < 8.0, "{middle:?}");
    }

    #[test]
    fn two_sizes_tell_what_one_gives_for_the_other() {
        let road = example::road();
        let choice = chosen(&road, &ordinary(), &PartLimits::default());
        let of = |name: &str| choice.ranked.iter().find(|one| one.name == name).unwrap();
        let told = beside(of("Weir 54"), of("Weir 60"));
        assert!(
            told.iter()
                .any(|line| line.starts_with("Frame stack: 556 mm against 612 mm")),
            "{told:?}"
        );
        assert_eq!(
            beside(of("Weir 54"), of("Weir 54")),
            ["Alike in everything told here"]
        );
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(200))]
        /// The miss told is that of the nearest class of brute force over every stem and every millimetre of spacers, and building
        /// it so misses by that.
        #[test]
        fn misses_equal_brute_force(
            reach in 330.0..460.0_f64, stack in 480.0..680.0_f64, head in 65.0..75.0_f64, seat in 70.0..78.0_f64,
        ) {
            let road = example::road();
            let mut frame = road.frame;
            frame.frame_reach_mm = Millimetres(reach);
            frame.frame_stack_mm = Millimetres(stack);
            frame.head_angle_deg = Degrees(head);
            frame.seat_angle_deg = Degrees(seat);
            let choice = chosen(&road, &[("One".to_owned(), Kind::Road, frame)], &PartLimits::default());
            let one = &choice.ranked[0];
            let hand = trying(&road, |on| on.before.bike.hand);
            let built = |stem: f64, angle: f64, spacers: f64| {
                let mut setup = road.setup;
                setup.cockpit.stem_mm = Millimetres(stem);
                setup.cockpit.stem_angle_deg = Degrees(angle);
                setup.cockpit.spacers_below_mm = Millimetres(spacers);
                BikePoints::of(&frame, &Placed::of(setup).unwrap()).hand.distance(hand)
            };
            let told = built(one.stem_mm, one.stem_angle_deg, one.spacers_mm);
            prop_assert!((told - one.hand_off_mm).abs() < 0.06, "{told} {}", one.hand_off_mm);
            let mut nearest = f64::INFINITY;
            for stem in STEMS_MM {
                for angle in [-17.0, -6.0, 6.0, 17.0] {
                    for spacers in 0..=40 {
                        nearest = nearest.min(built(stem, angle, f64::from(spacers)));
                    }
                }
            }
            prop_assert_eq!(miss_class(nearest), miss_class(told), "{} {}", nearest, told);
        }
    }
}
