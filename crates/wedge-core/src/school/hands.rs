//! Where the hands belong: the schools side by side, each a point of the hand plane, told as farther and higher along the arc.

use super::Lean;
use super::decision::{NEAR_MM, as_far};
use crate::bike::HandPlace;
use crate::foresee::Trying;
use crate::measure::Output;
use crate::plane::Point;
use crate::position::{Range, range_of, wall};
use crate::rule::rules;
use crate::solve::{Arc, hands_moved};
use crate::units::Degrees;
use crate::words::{capital, hands_moved_words, hundredth, tenth, words, written};
use serde::Serialize;

words! {
    /// A school of the hands' place.
    pub enum HandSchool {
        Angles "angles" "Torso and shoulder",
        Bracket "bracket" "The rider’s bracket",
        HipToHand "hip_to_hand" "Hip to hand",
        Middle "middle" "Middle of the hand places",
        DropShare "drop_share" "Drop as a share",
    }
}

rules! {
    rules "Hands";
    /// Straight from the hip joint to the hand, as a share of the trunk: under it the rider props himself up.
    const LEAST_HIP_TO_HAND: f64 = 1.0, "", Workshop;
    /// Judged only while the torso is no steeper.
    const STEEPEST_DEG: f64 = 70.0, "°", House;
    /// The farthest a school asks for at once.
    const FAR_MM: f64 = 90.0, " mm", House;
    /// This close to what a school wants, the hands are there.
    const THERE_MM: f64 = 1.0, " mm", House;
}

/// What one school says of where the hands belong.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HandOpinion {
    /// Its key.
    pub school: HandSchool,
    /// As it is called.
    pub label: String,
    /// Whether the studio follows it.
    pub leads: bool,
    /// Where it wants the hands; none while it cannot say.
    pub target: Option<Point>,
    /// From where they are: farther square to the arc, nearer negative, mm.
    pub farther_mm: f64,
    /// And higher along it, lower negative, mm.
    pub higher_mm: f64,
    /// What it accepts square to the arc, from where the hands are, mm; none where it says no more than a place.
    pub farther_from_to: Option<(f64, f64)>,
    /// And along it.
    pub higher_from_to: Option<(f64, f64)>,
    /// How it comes to that.
    pub words: String,
}

/// A point a school wants, and why.
type Wished = Result<(Point, String), String>;

/// What the rider's own brackets found, from the BB, with half a spread each.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub struct HandBrackets {
    /// Forward, mm, and how well that is known.
    pub reach: Option<(f64, f64)>,
    /// Up, mm, and how well that is known.
    pub height: Option<(f64, f64)>,
}

/// Every school, the leading one first: a finding beats a formula, so a bracket leads once there is one. A wish is cut
/// where a limit of the rider begins, and says so.
pub fn hand_opinions(
    trying: &Trying,
    brackets: HandBrackets,
    lean: &Lean,
    lead: HandSchool,
) -> Vec<HandOpinion> {
    let found = brackets != HandBrackets::default();
    let lead = if found { HandSchool::Bracket } else { lead };
    let now = trying.before.bike.hand;
    let arc = Arc::of(trying, &trying.before);
    let mut all: Vec<HandOpinion> = HandSchool::ALL
        .iter()
        .map(|school| {
            let wished = match school {
                HandSchool::Angles => by_angles(trying, Point::default(), lean),
                HandSchool::Bracket => by_bracket(now, brackets),
                HandSchool::HipToHand => by_hip(trying, arc.as_ref()),
                HandSchool::Middle => by_middle(trying, lean),
                HandSchool::DropShare => by_drop_share(trying),
            };
            let opinion = HandOpinion {
                school: *school,
                label: school.label().to_owned(),
                leads: *school == lead,
                target: None,
                farther_mm: 0.0,
                higher_mm: 0.0,
                farther_from_to: None,
                higher_from_to: None,
                words: String::new(),
            };
            match wished {
                Err(words) => HandOpinion {
                    words: capital(&words),
                    ..opinion
                },
                Ok((wish, words)) => {
                    let (target, stopped) = cut(trying, now, wish);
                    let (higher, farther) = arc
                        .map_or((target.y - now.y, target.x - now.x), |arc| {
                            arc.place(target)
                        });
                    let accepts = accepts(trying, *school, brackets, target, arc.as_ref());
                    HandOpinion {
                        farther_from_to: accepts.map(|(far, _)| around(farther, far)),
                        higher_from_to: accepts.map(|(_, high)| around(higher, high)),
                        target: Some(target),
                        farther_mm: tenth(farther),
                        higher_mm: tenth(higher),
                        words: capital(&match stopped {
                            Some(wall) => format!("{words}; no further: {wall}"),
                            None => words,
                        }),
                        ..opinion
                    }
                }
            }
        })
        .collect();
    all.sort_by_key(|opinion| !opinion.leads);
    all
}

/// Where the rider called neither too far nor too near.
fn by_bracket(now: Point, brackets: HandBrackets) -> Wished {
    let said = |what: &str, found: Option<(f64, f64)>| {
        found.map(|(at, spread)| {
            format!(
                "{what} {} ± {} mm",
                written(at.round()),
                written(spread.max(0.5))
            )
        })
    };
    let words: Vec<String> = [said("forward", brackets.reach), said("up", brackets.height)]
        .into_iter()
        .flatten()
        .collect();
    if words.is_empty() {
        return Err("Nobody bracketed it yet: a quarter of an hour on the bike".to_owned());
    }
    let at = |found: Option<(f64, f64)>, now: f64| found.map_or(now, |(at, _)| at);
    Ok((
        Point::new(at(brackets.reach, now.x), at(brackets.height, now.y)),
        format!("the middle of the rider’s own calls: {}", words.join(", ")),
    ))
}

/// Across a range in so many steps.
const STEPS: u32 = 24;

/// The nearest point at which torso and shoulder are both in their ranges, the torso where this rider leans to; with the
/// hands so far from where they are held.
fn by_angles(trying: &Trying, held: Point, lean: &Lean) -> Wished {
    let of = |output| range_of(&trying.ranges, output, trying.before.hands);
    let (Some(torso), Some(shoulder)) = (of(Output::Torso), of(Output::Shoulder)) else {
        return Err(
            "This kind of riding has no range of torso and shoulder: brackets and signs remain"
                .to_owned(),
        );
    };
    let position = hands_moved(trying, held);
    let upper = &position.upper;
    let leans = lean.words().map_or_else(String::new, |words| {
        let (low, high) = lean.part_of(&torso);
        format!(", {}–{}° of it, {words}", written(low), written(high))
    });
    let said = format!(
        "torso {}{leans}; shoulder {}",
        torso.words(),
        shoulder.words()
    );
    let torso = lean.part_of(&torso);
    let shoulder = (shoulder.low, shoulder.high);
    let within = |(low, high): (f64, f64), value: f64| (low..=high).contains(&value);
    let now = trying.before.bike.hand;
    if within(torso, upper.torso_deg.0) && within(shoulder, upper.shoulder_deg.0) {
        return Ok((now, format!("{said}: both are")));
    }
    let across = |(low, high): (f64, f64), step: u32| {
        low + (high - low) * f64::from(step) / f64::from(STEPS)
    };
    let setup = trying.setup.with(|parts| {
        parts.residual.hand_forward_mm.0 += held.x;
        parts.residual.hand_up_mm.0 += held.y;
    });
    let way = (0..=STEPS)
        .flat_map(|t| (0..=STEPS).map(move |s| (t, s)))
        .map(|(t, s)| {
            trying.hand_way(
                &setup,
                Degrees(across(torso, t)),
                Degrees(across(shoulder, s)),
            )
        })
        .min_by(|a, b| a.length().total_cmp(&b.length()))
        .unwrap_or_default();
    Ok((
        now + way,
        format!("{said}: the nearest place where both are"),
    ))
}

/// Mid-way between the tops and the hoods torso and shoulder are right, so that the rider can stretch and draw in.
fn by_middle(trying: &Trying, lean: &Lean) -> Wished {
    if trying.before.hands != HandPlace::Hoods {
        return Err("Only of hoods, with tops behind them".to_owned());
    }
    let tops = trying.before.bike.place(HandPlace::Tops);
    let tops = tops.ok_or("This bar has no tops")?;
    let back = (tops - trying.before.bike.hand) * 0.5;
    let (wish, words) = by_angles(trying, back, lean)?;
    Ok((wish, format!("half-way between tops and hoods, {words}")))
}

/// Pads as far below the saddle as their school has it.
fn by_drop_share(trying: &Trying) -> Wished {
    let position = &trying.before;
    if position.hands != HandPlace::Pads {
        return Err("Of pads alone".to_owned());
    }
    let range = range_of(&trying.ranges, Output::DropShare, position.hands);
    let share = Output::DropShare.of(position, crate::units::Side::Right);
    let (Some(range), Some(share)) = (range, share) else {
        return Err("This kind of riding has no range for it".to_owned());
    };
    let wanted = share.clamp(range.low, range.high);
    let height = trying.setup.sit().length();
    let now = position.bike.hand;
    Ok((
        now + Point::new(0.0, (share - wanted) / 100.0 * height),
        format!(
            "drop {} % of the saddle’s height, {}–{} wanted",
            written(share),
            written(range.low),
            written(range.high)
        ),
    ))
}

/// How far either way a school accepts, farther and higher, from what it wants: the angles as far as both stay in their
/// ranges, a bracket its spread.
fn accepts(
    trying: &Trying,
    school: HandSchool,
    brackets: HandBrackets,
    target: Point,
    arc: Option<&Arc>,
) -> Option<((f64, f64), (f64, f64))> {
    let either = |spread: f64| (-spread, spread);
    match school {
        HandSchool::Bracket => Some((
            either(brackets.reach.map_or(0.0, |(_, spread)| spread)),
            either(brackets.height.map_or(0.0, |(_, spread)| spread)),
        )),
        HandSchool::Angles => {
            let of = |output| range_of(&trying.ranges, output, trying.before.hands);
            let (torso, shoulder) = (of(Output::Torso)?, of(Output::Shoulder)?);
            let within = |range: &Range, value: f64| {
                (range.low - EDGE_DEG..=range.high + EDGE_DEG).contains(&value)
            };
            let from = target - trying.before.bike.hand;
            let (out, along) = axes(arc, target);
            let end = |way: Point| {
                as_far(0.0, FAR_MM, 1.0, |far| {
                    let there = hands_moved(trying, from + way * far);
                    !within(&torso, there.upper.torso_deg.0)
                        || !within(&shoulder, there.upper.shoulder_deg.0)
                })
            };
            Some((
                (-end(out * -1.0), end(out)),
                (-end(along * -1.0), end(along)),
            ))
        }
        _ => None,
    }
}

/// This close to the end of a range an angle is in it.
const EDGE_DEG: f64 = 0.3;

fn around(at: f64, (low, high): (f64, f64)) -> (f64, f64) {
    (tenth(at + low), tenth(at + high))
}

/// Square to the arc outwards, and along it upwards; level and plumb where there is none.
pub fn axes(arc: Option<&Arc>, at: Point) -> (Point, Point) {
    let Some(arc) = arc else {
        return (Point::new(1.0, 0.0), Point::new(0.0, 1.0));
    };
    let out = at - arc.centre;
    let out = out * (1.0 / out.length().max(1e-9));
    (out, Point::new(-out.y, out.x))
}

/// What the upright and the low end of the torso's range cost in millimetres of the hands: between them the order of goals
/// chooses. Empty where a kind of riding has no range of it.
pub fn lean_ends(trying: &Trying) -> Vec<String> {
    let of = |output| range_of(&trying.ranges, output, trying.before.hands);
    let (Some(torso), Some(shoulder)) = (of(Output::Torso), of(Output::Shoulder)) else {
        return Vec::new();
    };
    let held = trying.before.upper.shoulder_deg.0;
    let shoulder = Degrees(held.clamp(shoulder.low, shoulder.high));
    [
        (torso.high, "upright, for comfort"),
        (torso.low, "low, for speed"),
    ]
    .map(|(end, what)| {
        let way = trying.hand_way(&trying.setup, Degrees(end), shoulder);
        let change = end - trying.before.upper.torso_deg.0;
        format!(
            "{}: torso {}° ({}{}°), {}",
            capital(what),
            written(end),
            if change > 0.0 { "+" } else { "" },
            written(change),
            hands_moved_words(way.x, way.y)
        )
    })
    .to_vec()
}

/// Far enough that the rider does not prop himself up.
fn by_hip(trying: &Trying, arc: Option<&Arc>) -> Wished {
    let position = &trying.before;
    let points = &position.upper.points;
    let trunk = points.shoulder.distance(points.hip);
    let share = |hand: Point| hand.distance(points.hip) / trunk;
    let here = share(points.hand);
    let said = format!("hip to hand is {} of the trunk", written(hundredth(here)));
    if position.hands == HandPlace::Pads || position.upper.torso_deg.0 > STEEPEST_DEG {
        return Err(format!("{said}: not judged on pads or bolt upright"));
    }
    let now = position.bike.hand;
    if here >= LEAST_HIP_TO_HAND {
        return Ok((
            now,
            format!("{said}: at least {} is wanted", written(LEAST_HIP_TO_HAND)),
        ));
    }
    let (out, _) = axes(arc, now);
    let needed = crate::plane::root(0.0, FAR_MM, |far| {
        share(points.hand + out * far) - LEAST_HIP_TO_HAND
    })
    .unwrap_or(FAR_MM);
    Ok((
        now + out * needed,
        format!(
            "{said}: under {} the rider props himself up and pushes back",
            written(LEAST_HIP_TO_HAND)
        ),
    ))
}

/// A wish as far as the rider's limits let the hands go, and what stops them.
fn cut(trying: &Trying, now: Point, wish: Point) -> (Point, Option<String>) {
    let stopped = |share: f64| {
        let after = hands_moved(trying, (wish - now) * share);
        wall(&trying.rider, &trying.before, &after)
    };
    let far = now.distance(wish);
    if far < THERE_MM {
        return (now, None);
    }
    let Some(wall) = stopped(1.0) else {
        return (wish, None);
    };
    let free = as_far(0.0, 1.0, NEAR_MM / far, |share| stopped(share).is_some());
    (now + (wish - now) * free, Some(wall))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use crate::units::Side;

    fn of(all: &[HandOpinion], school: HandSchool) -> &HandOpinion {
        all.iter().find(|o| o.school == school).unwrap()
    }

    #[test]
    fn where_the_angles_send_the_hands_torso_and_shoulder_are_in_range() {
        let mut input = example::road();
        // Far too long and low: torso and shoulder both off.
        input.setup.residual.hand_forward_mm.0 += 55.0;
        input.setup.residual.hand_up_mm.0 -= 30.0;
        let ride = input.check().unwrap();
        let trying = Trying::of(&ride);
        let all = hand_opinions(
            &trying,
            HandBrackets::default(),
            &Lean::default(),
            HandSchool::Angles,
        );
        assert!(all[0].leads && all[0].school == HandSchool::Angles);
        let target = all[0].target.unwrap();
        let by = target - trying.before.bike.hand;
        let mut there = input.clone();
        there.setup.residual.hand_forward_mm.0 += by.x;
        there.setup.residual.hand_up_mm.0 += by.y;
        let after = there.check().unwrap().position();
        for (output, value) in [
            (Output::Torso, after.upper.torso_deg.0),
            (Output::Shoulder, after.upper.shoulder_deg.0),
        ] {
            let range = range_of(&ride.ranges, output, after.hands).unwrap();
            assert!(
                (range.low - 0.3..=range.high + 0.3).contains(&value),
                "{output:?} {value}"
            );
        }
        assert!(all[0].farther_mm < 0.0, "{:?}", all[0]);
    }

    #[test]
    fn a_wish_is_cut_at_the_limit_and_says_so() {
        let mut input = example::road();
        input.setup.residual.hand_forward_mm.0 -= 70.0;
        input.setup.residual.hand_up_mm.0 += 40.0;
        let free = input.check().unwrap();
        let whole = hand_opinions(
            &Trying::of(&free),
            HandBrackets::default(),
            &Lean::default(),
            HandSchool::Angles,
        )
        .remove(0);
        assert!(whole.farther_mm > 5.0, "{whole:?}");
        let demand = free.position().upper.shoulder_deg.0;
        for side in Side::BOTH {
            input.rider.arms.of_mut(side).shoulder_limit_deg = Some(Degrees(demand + 7.0));
        }
        let ride = input.check().unwrap();
        let cut = hand_opinions(
            &Trying::of(&ride),
            HandBrackets::default(),
            &Lean::default(),
            HandSchool::Angles,
        )
        .remove(0);
        assert!(cut.words.contains("no further: the"), "{}", cut.words);
        assert!(cut.farther_mm < whole.farther_mm);
    }

    #[test]
    fn a_rider_who_props_himself_up_is_too_near() {
        let mut input = example::road();
        let ride = input.check().unwrap();
        let all = hand_opinions(
            &Trying::of(&ride),
            HandBrackets::default(),
            &Lean::default(),
            HandSchool::HipToHand,
        );
        let hip = of(&all, HandSchool::HipToHand);
        assert!(
            hip.farther_mm.abs() < 0.1 && hip.words.contains("at least 1"),
            "{hip:?}"
        );
        input.rider.elbow_deg = Degrees(105.0);
        input.setup.residual.hand_forward_mm.0 -= 330.0;
        input.setup.residual.hand_up_mm.0 -= 60.0;
        let near = input.check().unwrap();
        let trying = Trying::of(&near);
        let hip = hand_opinions(
            &trying,
            HandBrackets::default(),
            &Lean::default(),
            HandSchool::HipToHand,
        )
        .remove(0);
        let points = trying.before.upper.points;
        let share = points.hand.distance(points.hip) / points.shoulder.distance(points.hip);
        assert!(
            share < 1.0 && trying.before.upper.torso_deg.0 <= STEEPEST_DEG,
            "{share} {:?}",
            trying.before.upper.torso_deg
        );
        assert!(hip.farther_mm > 0.0, "{hip:?} {share}");
    }

    #[test]
    fn a_bracket_leads_once_there_is_one() {
        let ride = example::road().check().unwrap();
        let trying = Trying::of(&ride);
        let now = trying.before.bike.hand;
        let none = hand_opinions(
            &trying,
            HandBrackets::default(),
            &Lean::default(),
            HandSchool::Angles,
        );
        assert!(
            none[0].school == HandSchool::Angles && of(&none, HandSchool::Bracket).target.is_none()
        );
        let brackets = HandBrackets {
            reach: Some((now.x - 8.0, 1.5)),
            height: None,
        };
        let all = hand_opinions(&trying, brackets, &Lean::default(), HandSchool::Angles);
        assert_eq!(all[0].school, HandSchool::Bracket);
        assert!(
            all[0].leads && all[0].target.unwrap().distance(now + Point::new(-8.0, 0.0)) < 1e-9
        );
        assert!(
            all[0].words.contains("± 1.5 mm") && all[0].farther_mm < -7.0,
            "{:?}",
            all[0]
        );
    }
}
