//! Dots followed through a clip, forward and backward from the picture they were named in. A missing dot is never guessed.

use super::find::{Blob, DOT_WIDE_MM};
use super::name::{Naming, name_dots};
use super::squaring::{Pixel, apart};
use super::still::{FilmMark, JOINTS};
use crate::capture::{BodyPoint, middle};
use crate::rule::rules;
use serde::{Deserialize, Serialize};

rules! {
    rules "Film";
    /// A dot that moves less than this share of its width a frame is expected where it is.
    const STAYS: f64 = 0.35, "", House;
    /// How far from where it is expected a dot is looked for: this share of its step,
    const GATE_STEP: f64 = 0.25, "", House;
    /// and this share of its width.
    const GATE_WIDE: f64 = 0.6, "", House;
    /// The same while only one or two places of it are known, beside what its joint may move in a frame.
    const GATE_NEW: f64 = 0.5, "", House;
    /// How fast foot, knee and the other joints may be.
    const SPEED_M_S: [f64; 3] = [2.4, 1.7, 0.3], " m/s", House;
    /// What it costs to take a dot of another size, and one less like a dot, and to take none.
    const COSTS: [f64; 3] = [0.35, 0.1, 1.6], "", House;
    /// A segment off its median by more than this share drops a joint: limbs, trunk.
    const OFF_LENGTH: [f64; 2] = [0.07, 0.09], "", House;
    /// And by more than so many pixels and this share of a dot.
    const OFF_PX: (f64, f64) = (6.0, 0.35), "", House;
    /// A dot of less than this share of its median area is half hidden: its middle is somewhere else.
    const HIDDEN: f64 = 0.5, "", House;
    /// One of more than this is two that run into one another.
    const BLOATED: f64 = 1.7, "", House;
    /// A frame whose every dot is within this of one before shows the same picture.
    const REPEATED_PX: f64 = 0.02, " px", House;
    /// Nobody turns faster.
    const LEAST_TURN_S: f64 = 0.2, " s", House;
    /// After so many frames without it a dot is named anew.
    const NAMED_AGAIN: usize = 3, " frames", House;
}

/// Where each joint was seen, frame by frame.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Followed {
    /// The joint.
    pub part: BodyPoint,
    /// A place a frame.
    pub at: Vec<Option<[f64; 2]>>,
}

/// A point on its way through the frames, in the order they are walked.
pub(super) struct Way<P> {
    pub(super) part: P,
    /// How fast it may be, m/s.
    speed: f64,
    /// Frame as walked, place, area.
    seen: Vec<(usize, Pixel, f64)>,
    missed: usize,
}

impl<P> Way<P> {
    /// Begins where it was named.
    pub(super) fn from(part: P, speed: f64, at: Pixel, blobs: &[Blob]) -> Self {
        let near = |blob: &&Blob| apart(blob.at, at) < 6.0;
        let area = blobs.iter().find(near).map_or(0.0, |blob| blob.area);
        Self {
            part,
            speed,
            seen: vec![(0, at, area)],
            missed: 0,
        }
    }

    /// Goes on to the next frame, seen there or not.
    pub(super) fn go_on(&mut self, frame: usize, taken: Option<(Pixel, f64)>) {
        match taken {
            Some((at, area)) => {
                self.seen.push((frame, at, area));
                self.missed = 0;
            }
            None => self.missed += 1,
        }
    }

    /// Puts down where it was, in the clip's own order of frames.
    pub(super) fn put_down(&self, order: &[usize], frames: &mut [Option<Pixel>]) {
        for (walked, at, _) in &self.seen {
            frames[order[*walked]] = Some(*at);
        }
    }

    /// The usual area.
    fn area(&self) -> Option<f64> {
        let areas = self.seen.iter().rev().take(25).map(|(_, _, area)| *area);
        middle(areas.filter(|area| *area > 0.0))
    }

    fn place(&self, frame: usize) -> Option<Pixel> {
        self.seen
            .iter()
            .rev()
            .find(|(own, _, _)| *own == frame)
            .map(|(_, at, _)| *at)
    }
}

/// How fast a point of the body may be, m/s.
pub(super) fn speed(part: BodyPoint) -> f64 {
    match part {
        BodyPoint::Toe
        | BodyPoint::Ankle
        | BodyPoint::Pedal
        | BodyPoint::HeelUpper
        | BodyPoint::HeelLower => SPEED_M_S[0],
        BodyPoint::Knee => SPEED_M_S[1],
        _ => SPEED_M_S[2],
    }
}

/// What the walk needs to know of the clip.
pub(super) struct Scale {
    /// A dot's width, px.
    pub(super) wide: f64,
    pub(super) px_per_mm: f64,
    /// How long after the first of them each frame is, as they are walked, s.
    since: Vec<f64>,
}

impl Scale {
    /// Of frames walked in this order.
    pub(super) fn of(times: &[f64], order: &[usize], px_per_mm: f64) -> Self {
        let begin = order.first().map_or(0.0, |frame| times[*frame]);
        Self {
            wide: DOT_WIDE_MM * px_per_mm,
            px_per_mm,
            since: order
                .iter()
                .map(|frame| (times[*frame] - begin).abs())
                .collect(),
        }
    }
}

/// The frames as they are walked from `start`, forward and backward. One that shows the same picture as the one before is left
/// out: clips repeat a frame where the camera was late, and what stands still there does not.
pub(super) fn walks(blobs: &[Vec<Blob>], start: usize) -> [Vec<usize>; 2] {
    let same = |one: &[Blob], other: &[Blob]| {
        let again = |blob: &Blob| other.iter().any(|own| apart(own.at, blob.at) < REPEATED_PX);
        !one.is_empty() && one.len() == other.len() && one.iter().all(again)
    };
    let walk = |frames: &mut dyn Iterator<Item = usize>| {
        let mut walked: Vec<usize> = Vec::new();
        for frame in frames {
            let last = walked.last().map(|last| &blobs[*last]);
            if !last.is_some_and(|last| same(&blobs[frame], last)) {
                walked.push(frame);
            }
        }
        walked
    };
    [
        walk(&mut (start..blobs.len())),
        walk(&mut (0..=start).rev()),
    ]
}

/// Where a point is looked for, and how far from there.
pub(super) fn expected<P>(
    way: &Way<P>,
    frame: usize,
    turn: Option<f64>,
    scale: &Scale,
) -> Option<(Pixel, f64)> {
    let (last, at, _) = *way.seen.last()?;
    let (now, then) = (scale.since[frame], scale.since[last]);
    let roam = GATE_NEW * scale.wide + way.speed * 1000.0 * scale.px_per_mm * (now - then);
    let gone = frame - last > 1;
    if let Some(turn) = turn.filter(|_| gone) {
        // One turn earlier, and what it has drifted since.
        let back = |when: f64| -> Option<Pixel> {
            let low = scale
                .since
                .partition_point(|own| *own <= when)
                .checked_sub(1)?;
            let (from, to) = (scale.since[low], *scale.since.get(low + 1)?);
            let share = (when - from) / (to - from);
            let (a, b) = (way.place(low)?, way.place(low + 1)?);
            Some([a[0] + (b[0] - a[0]) * share, a[1] + (b[1] - a[1]) * share])
        };
        if let (Some(turned), Some(was)) = (back(now - turn), back(then - turn)) {
            let place = [turned[0] + at[0] - was[0], turned[1] + at[1] - was[1]];
            return Some((place, (GATE_WIDE + GATE_STEP) * scale.wide + 0.15 * roam));
        }
    }
    let known = |back: usize| way.place(last.checked_sub(back)?);
    let (Some(second), Some(third)) = (known(1), known(2)) else {
        return Some((at, roam));
    };
    if gone {
        return Some((at, roam));
    }
    // The parabola through the last three; evenly timed, 3 p₁ − 3 p₂ + p₃.
    let [t1, t2, t3] = [then, scale.since[last - 1], scale.since[last - 2]];
    let next = |axis: usize| {
        at[axis] * (now - t2) * (now - t3) / ((t1 - t2) * (t1 - t3))
            + second[axis] * (now - t1) * (now - t3) / ((t2 - t1) * (t2 - t3))
            + third[axis] * (now - t1) * (now - t2) / ((t3 - t1) * (t3 - t2))
    };
    let mut to = [next(0), next(1)];
    let mut moved = apart(to, at);
    if moved < STAYS * scale.wide {
        (to, moved) = (at, 0.0);
    }
    Some((to, GATE_STEP * moved + GATE_WIDE * scale.wide))
}

/// How long a turn takes, s, from where a point was last crossing the height of the BB downward.
pub(super) fn turn<P>(way: &Way<P>, bb: f64, scale: &Scale) -> Option<f64> {
    let mut crossings = way
        .seen
        .windows(2)
        .rev()
        .filter(|pair| pair[0].1[1] < bb && pair[1].1[1] >= bb && pair[1].0 - pair[0].0 <= 3);
    let at = |pair: &[(usize, Pixel, f64)]| {
        let share = (bb - pair[0].1[1]) / (pair[1].1[1] - pair[0].1[1]).max(1e-9);
        let (from, to) = (scale.since[pair[0].0], scale.since[pair[1].0]);
        from + share * (to - from)
    };
    let (last, before) = (at(crossings.next()?), at(crossings.next()?));
    Some(last - before).filter(|turn| *turn > LEAST_TURN_S)
}

/// The blob a frame has for each point, or none: those near where it is expected, weighed together. Of one that is `lost`
/// none is taken.
pub(super) fn taken_by<P>(
    ways: &[Way<P>],
    wanted: &[Option<(Pixel, f64)>],
    blobs: &[Blob],
    lost: impl Fn(&Way<P>) -> bool,
) -> Vec<Option<(Pixel, f64)>> {
    let cost = |(way, wanted): (&Way<P>, &Option<(Pixel, f64)>)| {
        let Some((at, gate)) = wanted.filter(|_| !lost(way)) else {
            return Vec::new();
        };
        let usual = way.area();
        let each = blobs.iter().enumerate().filter_map(|(index, blob)| {
            let off = apart(blob.at, at) / gate;
            let size = usual.map_or(1.0, |usual| blob.area / usual);
            let cost = off * off + COSTS[0] * size.ln().powi(2) + COSTS[1] * blob.quality;
            let fits = off <= 1.0 && (HIDDEN..=BLOATED).contains(&size) && cost < COSTS[2];
            fits.then_some((index, cost))
        });
        each.collect()
    };
    let costs: Vec<Vec<(usize, f64)>> = ways.iter().zip(wanted).map(cost).collect();
    let mut taken: Vec<Option<(Pixel, f64)>> = assigned(&costs)
        .into_iter()
        .map(|blob| blob.map(|index| (blobs[index].at, blobs[index].area)))
        .collect();
    unsettled(ways, blobs, wanted, &mut taken);
    taken
}

/// While it is not known where a point is going, or where it went while it was hidden, one of two dots it might be is neither.
fn unsettled<P>(
    ways: &[Way<P>],
    blobs: &[Blob],
    wanted: &[Option<(Pixel, f64)>],
    taken: &mut [Option<(Pixel, f64)>],
) {
    let own: Vec<Pixel> = taken.iter().flatten().map(|(at, _)| *at).collect();
    let free = |blob: &&Blob| own.iter().all(|at| apart(*at, blob.at) > 1e-6);
    for ((way, taken), wanted) in ways.iter().zip(taken).zip(wanted) {
        let Some((to, gate)) = wanted.filter(|_| way.seen.len() < 3 || way.missed > 0) else {
            continue;
        };
        if blobs
            .iter()
            .filter(free)
            .any(|blob| apart(blob.at, to) <= gate)
        {
            *taken = None;
        }
    }
}

/// The cheapest way to give each joint a blob or none, no blob twice.
fn assigned(costs: &[Vec<(usize, f64)>]) -> Vec<Option<usize>> {
    struct Search<'a> {
        costs: &'a [Vec<(usize, f64)>],
        best: (f64, Vec<Option<usize>>),
    }
    impl Search<'_> {
        fn go(&mut self, at: usize, cost: f64, taken: &mut Vec<Option<usize>>) {
            if cost >= self.best.0 {
                return;
            }
            let Some(own) = self.costs.get(at) else {
                self.best = (cost, taken.clone());
                return;
            };
            for (blob, more) in own {
                if !taken.contains(&Some(*blob)) {
                    taken.push(Some(*blob));
                    self.go(at + 1, cost + more, taken);
                    taken.pop();
                }
            }
            taken.push(None);
            self.go(at + 1, cost + COSTS[2], taken);
            taken.pop();
        }
    }
    let none = (
        COSTS[2] * costs.len() as f64 + 1e-9,
        vec![None; costs.len()],
    );
    let mut search = Search { costs, best: none };
    search.go(0, 0.0, &mut Vec::new());
    search.best.1
}

/// Neighbours along the body, and how far their distance may be off.
const SEGMENTS: [(BodyPoint, BodyPoint, usize); 7] = [
    (BodyPoint::Pedal, BodyPoint::Toe, 0),
    (BodyPoint::Toe, BodyPoint::Ankle, 0),
    (BodyPoint::Ankle, BodyPoint::Knee, 0),
    (BodyPoint::Knee, BodyPoint::Hip, 0),
    (BodyPoint::Hip, BodyPoint::Shoulder, 1),
    (BodyPoint::Shoulder, BodyPoint::Elbow, 0),
    (BodyPoint::Elbow, BodyPoint::Wrist, 0),
];

/// The walk over the frames in one direction.
struct Walk<'a> {
    ways: Vec<Way<BodyPoint>>,
    /// Lengths of each segment so far, px.
    lengths: Vec<Vec<f64>>,
    scale: Scale,
    naming: &'a Naming<'a>,
}

impl Walk<'_> {
    fn step(&mut self, frame: usize, blobs: &[Blob]) {
        let pedal = self.ways.iter().find(|way| way.part == BodyPoint::Pedal);
        let turn = pedal.and_then(|way| turn(way, self.naming.bb[1], &self.scale));
        let wanted: Vec<Option<(Pixel, f64)>> = self
            .ways
            .iter()
            .map(|way| expected(way, frame, turn, &self.scale))
            .collect();
        let gone = |part: BodyPoint| {
            self.ways
                .iter()
                .any(|way| way.part == part && way.missed > 0)
        };
        let shoe_gone = gone(BodyPoint::Toe) && gone(BodyPoint::Pedal);
        // Toe and pedal are a thumb apart: with both gone, one that comes back cannot be told from the other.
        let lost = |way: &Way<BodyPoint>| {
            let shoe = matches!(way.part, BodyPoint::Toe | BodyPoint::Pedal);
            shoe && way.missed > 0 && shoe_gone
        };
        let mut taken = taken_by(&self.ways, &wanted, blobs, lost);
        self.shoe(&wanted, &mut taken);
        self.doubt(&wanted, &mut taken);
        for (way, taken) in self.ways.iter_mut().zip(&taken) {
            way.go_on(frame, *taken);
        }
        self.name_again(frame, blobs, &taken);
    }

    /// Toe and pedal are a thumb apart: where only one of them is found, and where the other might be as well, it is neither.
    fn shoe(&self, wanted: &[Option<(Pixel, f64)>], taken: &mut [Option<(Pixel, f64)>]) {
        let of = |part: BodyPoint| self.ways.iter().position(|way| way.part == part);
        let (Some(toe), Some(pedal)) = (of(BodyPoint::Toe), of(BodyPoint::Pedal)) else {
            return;
        };
        let (found, other) = match (taken[toe], taken[pedal]) {
            (Some(_), None) => (toe, pedal),
            (None, Some(_)) => (pedal, toe),
            _ => return,
        };
        if let (Some((at, _)), Some((to, gate))) = (taken[found], wanted[other])
            && apart(at, to) <= gate
        {
            taken[found] = None;
        }
    }

    /// Drops what does not go together: of a segment that is off its length the joint no other segment speaks for, or else
    /// the one farther from where it was expected; and a joint found after a gap for which no segment speaks.
    fn doubt(&mut self, wanted: &[Option<(Pixel, f64)>], taken: &mut [Option<(Pixel, f64)>]) {
        let of = |part: BodyPoint| self.ways.iter().position(|way| way.part == part);
        let ends: Vec<Option<(usize, usize)>> = SEGMENTS
            .iter()
            .map(|(upper, lower, _)| of(*upper).zip(of(*lower)))
            .collect();
        let length = |index: usize, taken: &[Option<(Pixel, f64)>]| {
            let (upper, lower) = ends[index]?;
            let ((a, _), (b, _)) = taken[upper].zip(taken[lower])?;
            Some(apart(a, b))
        };
        let fits: Vec<Option<bool>> = (0..SEGMENTS.len())
            .map(|index| {
                let length = length(index, taken)?;
                let known = &self.lengths[index];
                let median = middle(known.iter().copied()).filter(|_| known.len() >= 3)?;
                let off = (length - median).abs();
                let share = OFF_LENGTH[SEGMENTS[index].2] * median;
                Some(off <= share || off <= OFF_PX.0 + OFF_PX.1 * self.scale.wide)
            })
            .collect();
        let crank = of(BodyPoint::Pedal).filter(|way| taken[*way].is_some());
        let on_circle = crank.and_then(|way| self.on_circle(taken[way]?.0));
        let spoken_for = |way: usize| {
            (Some(way) == crank && on_circle == Some(true))
                || (0..SEGMENTS.len()).any(|index| {
                    fits[index] == Some(true)
                        && ends[index].is_some_and(|(a, b)| a == way || b == way)
                })
        };
        let mut drop: Vec<usize> = Vec::new();
        for index in 0..SEGMENTS.len() {
            let (Some((upper, lower)), Some(false)) = (ends[index], fits[index]) else {
                continue;
            };
            let far = |way: usize| match (wanted[way], taken[way]) {
                (Some((to, _)), Some((at, _))) => apart(to, at),
                _ => f64::INFINITY,
            };
            drop.push(match (spoken_for(upper), spoken_for(lower)) {
                (true, false) => lower,
                (false, true) => upper,
                _ if far(upper) > far(lower) => upper,
                _ => lower,
            });
        }
        drop.extend(crank.filter(|_| on_circle == Some(false)));
        for (way, own) in self.ways.iter().enumerate() {
            if own.missed > 0 && taken[way].is_some() && !spoken_for(way) {
                drop.push(way);
            }
        }
        for way in drop {
            taken[way] = None;
        }
        for index in 0..SEGMENTS.len() {
            if let Some(length) = length(index, taken) {
                let known = &mut self.lengths[index];
                known.push(length);
                if known.len() > 31 {
                    known.remove(0);
                }
            }
        }
    }

    /// Whether a pedal is on the crank's circle; none where the BB is out of view.
    fn on_circle(&self, at: Pixel) -> Option<bool> {
        let radius = self.naming.place(at, BodyPoint::Pedal)?.length();
        let crank = self.naming.told.crank_or_usual();
        let room = (OFF_LENGTH[0] * crank)
            .max((OFF_PX.0 + OFF_PX.1 * self.scale.wide) / self.scale.px_per_mm);
        Some((radius - crank).abs() <= room)
    }

    /// A dot that was missing for a while is named anew, taken where the rest agrees.
    fn name_again(&mut self, frame: usize, blobs: &[Blob], taken: &[Option<(Pixel, f64)>]) {
        if !self.ways.iter().any(|way| way.missed >= NAMED_AGAIN) {
            return;
        }
        let followed: Vec<FilmMark> = self
            .ways
            .iter()
            .zip(taken)
            .filter_map(|(way, taken)| {
                taken.map(|(at, _)| FilmMark {
                    part: way.part,
                    at,
                    dot: true,
                })
            })
            .collect();
        let free: Vec<Blob> = blobs
            .iter()
            .filter(|blob| {
                !followed
                    .iter()
                    .any(|mark| apart(mark.at, blob.at) < self.scale.wide / 2.0)
            })
            .copied()
            .collect();
        if free.is_empty() {
            return;
        }
        for mark in name_dots(&free, &followed, self.naming) {
            let way = self
                .ways
                .iter_mut()
                .find(|way| way.part == mark.part && way.missed >= NAMED_AGAIN);
            if let Some(way) = way {
                let area = free
                    .iter()
                    .find(|blob| {
                        (blob.at[0] - mark.at[0]).abs() + (blob.at[1] - mark.at[1]).abs() < 1e-9
                    })
                    .map_or(0.0, |blob| blob.area);
                way.seen.push((frame, mark.at, area));
                way.missed = 0;
            }
        }
    }
}

/// Follows dots through a clip, from the picture `start` in which they were named.
///
/// `times` are seconds a frame, `blobs` what looked like a dot in each.
pub fn follow(
    times: &[f64],
    blobs: &[Vec<Blob>],
    start: usize,
    marks: &[FilmMark],
    naming: &Naming,
) -> Vec<Followed> {
    let frames = times.len().min(blobs.len());
    let px_per_mm = naming.squared.px_per_mm;
    let named: Vec<&FilmMark> = JOINTS
        .iter()
        .filter_map(|part| marks.iter().find(|mark| mark.part == *part))
        .collect();
    let mut all: Vec<Followed> = named
        .iter()
        .map(|mark| Followed {
            part: mark.part,
            at: vec![None; frames],
        })
        .collect();
    if start >= frames {
        return all;
    }
    // What was named is believed: its lengths count as if seen thrice.
    let place = |part: BodyPoint| {
        named
            .iter()
            .find(|mark| mark.part == part)
            .map(|mark| mark.at)
    };
    let begun: Vec<Vec<f64>> = SEGMENTS
        .iter()
        .map(|(upper, lower, _)| {
            let ends = place(*upper).zip(place(*lower));
            ends.map_or_else(Vec::new, |(a, b)| vec![apart(a, b); 3])
        })
        .collect();
    for order in walks(&blobs[..frames], start) {
        let begin =
            |mark: &&FilmMark| Way::from(mark.part, speed(mark.part), mark.at, &blobs[start]);
        let mut walk = Walk {
            ways: named.iter().map(begin).collect(),
            lengths: begun.clone(),
            scale: Scale::of(times, &order, px_per_mm),
            naming,
        };
        for (walked, frame) in order.iter().enumerate().skip(1) {
            walk.step(walked, &blobs[*frame]);
        }
        for (way, followed) in walk.ways.iter().zip(&mut all) {
            way.put_down(&order, &mut followed.at);
        }
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;

    fn blobs(at: &[[f64; 2]]) -> Vec<Blob> {
        let of = |at: &[f64; 2]| Blob {
            at: *at,
            area: 80.0,
            quality: 1.0,
        };
        at.iter().map(of).collect()
    }

    #[test]
    fn a_frame_that_is_shown_again_is_left_out_and_a_dot_is_expected_where_it_will_be_by_then() {
        let still = [10.0, 10.0];
        // A dot on a parabola, 3 t² + 40 t from 100, seen at uneven times; the fourth frame repeats the third.
        let times = [0.0, 1.0, 3.0, 4.0, 5.0];
        let on = |t: f64| [3.0 * t * t + 40.0 * t + 100.0, 50.0];
        let seen = [0.0, 1.0, 3.0, 3.0, 5.0].map(|t| blobs(&[still, on(t)]));
        let [forward, backward] = walks(&seen, 0);
        assert_eq!(forward, [0, 1, 2, 4]);
        assert_eq!(backward, [0]);
        let scale = Scale::of(&times, &forward, 1.0);
        let mut way = Way::from((), 2.4, on(0.0), &seen[0]);
        way.go_on(1, Some((on(1.0), 80.0)));
        way.go_on(2, Some((on(3.0), 80.0)));
        let (to, _) = expected(&way, 3, None, &scale).unwrap();
        assert!(apart(to, on(5.0)) < 1e-9, "{to:?}");
    }

    #[test]
    fn every_blob_goes_to_one_joint_and_the_whole_is_cheapest() {
        // Alone the first would take blob 0; together it is cheaper that it takes 1.
        let costs = vec![vec![(0, 0.1), (1, 0.2)], vec![(0, 0.1)], vec![]];
        assert_eq!(assigned(&costs), vec![Some(1), Some(0), None]);
        // Dearer than none is none.
        assert_eq!(assigned(&[vec![(0, 2.0)]]), vec![None]);
    }
}
