//! Gross errors: what is so far out that it is taken before the order of work; and the front's rough pass.

use crate::bike::{Part, Placed, Residual};
use crate::foresee::{Change, Trying, within_limits};
use crate::intake::{Intake, Place};
use crate::measure::{Output, Quantity};
use crate::plane::Point;
use crate::position::{range_of, wall};
use crate::rider::Reach;
use crate::rule::rules;
use crate::solve::{Stems, hand_on, parts_for, post_for_knee};
use crate::units::Degrees;
use crate::words::written;
use crate::work::Station;
use serde::{Deserialize, Serialize};

rules! {
    rules "Order of work";
    /// The hands this far too high or low are a gross error.
    const HEIGHT_GROSS_MM: f64 = 50.0, " mm", Workshop;
    /// The hands this far too near or far are a gross error: two frame sizes.
    const REACH_GROSS_MM: f64 = 50.0, " mm", House;
    /// A saddle this far from the range is a gross error: beyond what an uncalibrated linkage can be off.
    const SADDLE_GROSS_MM: f64 = 25.0, " mm", House;
    /// The front is passed roughly first when reach is out by this much.
    pub(crate) const REACH_ROUGH_MM: f64 = 20.0, " mm", Workshop;
    /// The same for height.
    pub(crate) const HEIGHT_ROUGH_MM: f64 = 40.0, " mm", Workshop;
    /// Hands this near to where they should be are there, roughly.
    const THERE_MM: f64 = 10.0, " mm", House;
    /// What another bolt must bring the hands nearer by, to be turned as well in the rough pass.
    const A_BOLT_MM: f64 = 5.0, " mm", House;
}

/// Something so far out that it is taken first.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Gross {
    /// Where on the way it belongs.
    pub station: Station,
    /// What is wrong, and by how much.
    pub words: String,
    /// What to do first.
    pub proposal: String,
    /// The changes that do it; none when no bolt of this bike does.
    pub changes: Vec<Change>,
}

/// The front's rough pass: setback can only be felt with a front end that is about right.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FrontPass {
    /// How far the hands should go, forward positive.
    pub forward_mm: f64,
    /// How far up.
    pub up_mm: f64,
    /// Why, in words.
    pub words: String,
    /// The parts that come nearest.
    pub changes: Vec<Change>,
    /// What those parts leave undone, in words.
    pub left: String,
}

/// What is far out on a bike.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct GrossReport {
    /// To be taken before the order of work, the saddle before the front.
    pub errors: Vec<Gross>,
    /// The front's rough pass, when it is due.
    pub front: Option<FrontPass>,
}

/// Looks for what is far out in the position as it stands: by more than it may be off, pedals before hands. What is asked
/// for is cut where a limit of the rider begins, and never goes against what hurts.
pub fn gross(trying: &Trying, intake: &Intake, parts: &[Part]) -> GrossReport {
    let mut errors = Vec::new();
    errors.extend(saddle(trying));
    let mut front = None;
    let beyond = matches!(trying.before.upper.reach, Reach::Beyond { .. });
    let surely = hands_wanted(trying, &trying.setup, |output| trying.band(output));
    if let Some((wanted, surely)) = hands_wanted(trying, &trying.setup, |_| 0.0).zip(surely) {
        let spared = Spared::of(intake);
        let (by, wall) = hands_within_limits(trying, spared.left_of(wanted));
        // What is out only within its doubt is not out, and what the limits leave is what there is to do.
        let out = |surely: f64, by: f64, mm: f64| surely.abs() >= mm && by.abs() >= mm;
        let gross = out(surely.y, by.y, HEIGHT_GROSS_MM) || out(surely.x, by.x, REACH_GROSS_MM);
        let rough = out(surely.y, by.y, HEIGHT_ROUGH_MM) || out(surely.x, by.x, REACH_ROUGH_MM);
        let stopped =
            spared.words(wanted) + &wall.map_or(String::new(), |w| format!("; no further: {w}"));
        let pass = || front_pass(trying, by, (&spared, &stopped), parts);
        if gross || beyond {
            let pass = pass();
            errors.push(Gross {
                station: Station::Bars,
                words: pass.words,
                proposal: if pass.changes.is_empty() {
                    pass.left
                } else {
                    format!("Take the front first, roughly{}", pass.left)
                },
                changes: pass.changes,
            });
        } else if rough {
            front = Some(pass());
        }
    }
    GrossReport { errors, front }
}

/// Which ways of the hands what hurts speaks against: roughly is no way to try those.
struct Spared<'a> {
    lower: Option<&'a str>,
    further: Option<&'a str>,
}

impl Spared<'_> {
    /// Low bars are known to hurt hands, neck, low back and the front of the hip; bars far away all of these but the hip,
    /// and between the shoulder blades and in front of the saddle area too (workshop rule).
    fn of(intake: &Intake) -> Self {
        use Place::{Hand, HipFront, LowBack, Neck, Saddle, ShoulderBlades, Wrist};
        let hurts = |places: &[Place]| {
            let hurt = intake.complaints.iter().map(|complaint| complaint.place);
            hurt.filter(|place| places.contains(place))
                .map(Place::label)
                .next()
        };
        Self {
            lower: hurts(&[Hand, Wrist, Neck, LowBack, HipFront]),
            further: hurts(&[Hand, Wrist, Neck, LowBack, ShoulderBlades, Saddle]),
        }
    }

    /// What is left of a way.
    fn left_of(&self, way: Point) -> Point {
        Point::new(
            if self.further.is_some() {
                way.x.min(0.0)
            } else {
                way.x
            },
            if self.lower.is_some() {
                way.y.max(0.0)
            } else {
                way.y
            },
        )
    }

    /// Whether parts that move the hands so go no way that hurts: a shorter stem may come down its own slope by so little.
    fn allows(&self, way: Point) -> bool {
        const FELT_MM: f64 = 10.0;
        (self.further.is_none() || way.x <= FELT_MM) && (self.lower.is_none() || way.y >= -FELT_MM)
    }

    /// What was left out of a way, in words.
    fn words(&self, wanted: Point) -> String {
        let spared = |hurts: Option<&str>, way: f64, what: &str| {
            let hurts = hurts.filter(|_| way > 0.0)?;
            Some(format!(
                "; not {what} while this hurts: {}",
                hurts.to_lowercase()
            ))
        };
        spared(self.lower, -wanted.y, "lower")
            .or_else(|| spared(self.further, wanted.x, "further"))
            .unwrap_or_default()
    }
}

/// A saddle so far from the knee's range that nothing else can be judged.
fn saddle(trying: &Trying) -> Option<Gross> {
    let position = &trying.before;
    let range = range_of(&trying.ranges, Output::KneeAtFullReach, position.hands)?;
    let now = position.knee_at_full_reach();
    let reaches = position.legs_reach();
    let band = trying.band(Output::KneeAtFullReach);
    // The end of the range it should come to, and where that end may be at the nearest.
    let (wanted, nearest) = if !reaches || now < range.low {
        (range.low, (range.low - band).max(STRAIGHTEST_DEG))
    } else {
        (range.high, range.high + band)
    };
    if reaches && (range.low - band..=range.high + band).contains(&now) {
        return None;
    }
    let gross = |knee: f64| Some(round5(post_for_knee(trying, &[], knee)?));
    if gross(nearest)?.abs() < SADDLE_GROSS_MM {
        return None;
    }
    let travel = gross(wanted)?;
    let (changes, wall) = within_limits(trying, vec![Change::by(Quantity::SaddleHeight, travel)])?;
    let first = "Bring the saddle near first; feet and cranks are judged after";
    Some(Gross {
        station: Station::SaddleHeight,
        words: format!(
            "The saddle is about {} mm too {}: {}, wanted {}–{}°",
            written(travel.abs()),
            if travel < 0.0 { "high" } else { "low" },
            if reaches {
                format!("knee at full reach {}° ± {}", written(now), written(band))
            } else {
                "the pedal is beyond reach".to_owned()
            },
            written(range.low),
            written(range.high)
        ),
        proposal: match wall {
            None => first.to_owned(),
            Some(wall) if changes.is_empty() => format!("Not for this rider yet: {wall}"),
            Some(wall) => format!(
                "{first}; no further than {} mm: {wall}",
                written(by(&changes))
            ),
        },
        changes,
    })
}

/// How far the first change goes, without sign.
fn by(changes: &[Change]) -> f64 {
    changes.first().and_then(|c| c.by).unwrap_or_default().abs()
}

/// No leg is asked to be straighter than this.
const STRAIGHTEST_DEG: f64 = 2.0;

/// Where the hands should go for torso and shoulder to come to the near ends of their ranges, widened by so much, on a
/// setup; `None` where this kind of riding, or this place of the hands, has no range.
fn hands_wanted(trying: &Trying, setup: &Placed, wider: impl Fn(Output) -> f64) -> Option<Point> {
    let there = trying.upper_on(setup);
    let near = |output: Output, value: Degrees| {
        range_of(&trying.ranges, output, trying.before.hands).map(|range| {
            let wider = wider(output);
            Degrees(value.0.clamp(range.low - wider, range.high + wider))
        })
    };
    let torso = near(Output::Torso, there.torso_deg)?;
    let shoulder = near(Output::Shoulder, there.shoulder_deg).unwrap_or(there.shoulder_deg);
    Some(trying.hand_way(setup, torso, shoulder))
}

/// As much of a way of the hands as the rider's limits allow, and what stops it.
fn hands_within_limits(trying: &Trying, wanted: Point) -> (Point, Option<String>) {
    let stopped = |share: f64| {
        let moved = trying.setup.with(|setup| {
            setup.residual.hand_forward_mm.0 += wanted.x * share;
            setup.residual.hand_up_mm.0 += wanted.y * share;
        });
        wall(&trying.rider, &trying.before, &trying.standing(&moved))
    };
    let Some(wall) = stopped(1.0) else {
        return (wanted, None);
    };
    let (mut free, mut blocked) = (0.0, 1.0);
    for _ in 0..10 {
        let share = f64::midpoint(free, blocked);
        if stopped(share).is_none() {
            free = share;
        } else {
            blocked = share;
        }
    }
    (wanted * free, Some(wall))
}

/// The stem, angle and spacers that bring the hands nearest to where they should be: the fewest bolts that do, none of them
/// past a limit or a way that hurts, and none at all for what tape and parts disagree about.
fn front_pass(
    trying: &Trying,
    by: Point,
    (spared, stopped): (&Spared, &str),
    parts: &[Part],
) -> FrontPass {
    let out = out_words(by);
    let residual = trying.setup.residual;
    let apart = residual.offset().length();
    let (question, is_all) = if apart >= REACH_ROUGH_MM {
        let bare = (trying.setup).with(|setup| setup.residual = Residual::default());
        let is_all = hands_wanted(trying, &bare, |_| 0.0)
            .is_some_and(|way| way.x.abs() < REACH_ROUGH_MM && way.y.abs() < HEIGHT_ROUGH_MM);
        let words = format!(
            "Tape and parts disagree by {} mm: measure again. ",
            written(round5(apart))
        );
        (words, is_all)
    } else {
        (String::new(), false)
    };
    let words = format!("{question}The hands are about {out}{stopped}");
    let hand = |setup: &Placed| hand_on(trying, setup);
    let allowed = |tried: &Placed| {
        spared.allows(hand(tried) - hand(&trying.setup))
            && wall(&trying.rider, &trying.before, &trying.standing(tried)).is_none()
    };
    let roughly = |tried: &Placed| {
        let left = by - (hand(tried) - hand(&trying.setup));
        in_range(trying, tried) || (left.x.abs() < REACH_ROUGH_MM && left.y.abs() < HEIGHT_ROUGH_MM)
    };
    let of = |stems: &Stems| {
        parts_for(
            trying,
            &trying.setup,
            by,
            stems,
            (THERE_MM, A_BOLT_MM),
            allowed,
            roughly,
        )
    };
    let (changes, left, to_order) = if is_all {
        (Vec::new(), 0.0, "")
    } else {
        // What lies in the box does, or comes as near as anything that can be ordered.
        let own = Stems::on_hand(parts);
        let (here, here_left) = of(&own);
        let (any, any_left) = of(&Stems::ordinary());
        if own.is_empty() || here.is_empty() || here_left > any_left.max(THERE_MM) + A_BOLT_MM {
            let stem =
                |change: &Change| matches!(change.quantity, Quantity::Stem | Quantity::StemAngle);
            let order = !own.is_empty() && any.iter().any(stem);
            (
                any,
                any_left,
                if order { "; that stem is to order" } else { "" },
            )
        } else {
            (here, here_left, "")
        }
    };
    FrontPass {
        forward_mm: by.x,
        up_mm: by.y,
        words,
        left: if is_all {
            "The parts alone would put the hands about right: nothing is moved for what two measures disagree about"
                .to_owned()
        } else if changes.is_empty() {
            "No stem or spacer of this bike gets there: look at the frame".to_owned()
        } else if left > THERE_MM {
            format!(
                "; these parts still leave {} mm{to_order}",
                written(round5(left))
            )
        } else {
            to_order.to_owned()
        },
        changes,
    }
}

/// "40 mm too far and 30 mm too high".
fn out_words(by: Point) -> String {
    let part = |by: f64, less: &str, more: &str| {
        (by.abs() >= 5.0).then(|| {
            let way = if by < 0.0 { less } else { more };
            format!("{} mm too {way}", written(round5(by.abs())))
        })
    };
    let parts: Vec<String> = [part(by.x, "far", "close"), part(by.y, "high", "low")]
        .into_iter()
        .flatten()
        .collect();
    if parts.is_empty() {
        "right, as far as anything can be asked for".to_owned()
    } else {
        parts.join(" and ")
    }
}

/// Whether torso and shoulder are both in their ranges on a setup.
fn in_range(trying: &Trying, setup: &Placed) -> bool {
    let there = trying.upper_on(setup);
    let within = |output: Output, value: Degrees| {
        range_of(&trying.ranges, output, trying.before.hands)
            .is_none_or(|range| (range.low..=range.high).contains(&value.0))
    };
    there.reach.is_met()
        && within(Output::Torso, there.torso_deg)
        && within(Output::Shoulder, there.shoulder_deg)
}

fn round5(value: f64) -> f64 {
    (value / 5.0).round() * 5.0
}
