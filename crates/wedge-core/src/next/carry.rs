//! A position carried to another bike: what post, rails and front end must be, what remains off, and what else changes.

use crate::bike::{Frame, Part, PartKind, Perch, Placed, Setup, ordinary_parts};
use crate::foresee::{ForeseeInput, Trying, foresee_on};
use crate::measure::{Output, Quantity, Refusal, Unit};
use crate::plane::Point;
use crate::rule::rules;
use crate::solve::{Aim, Intent, front_ends, intents};
use crate::units::{Millimetres, Side};
use crate::words::{ended, written};
use serde::{Deserialize, Serialize};

rules! {
    rules "Next bike";
    /// A contact point this near is where it was.
    const THERE_MM: f64 = 0.5, " mm", House;
    /// What changes by less is not told, in the unit of each.
    const TOLD: f64 = 0.5, "", House;
    /// Posts can be ordered with their clamp so far behind them,
    const POSTS_MM: [f64; 3] = [0.0, 10.0, 20.0], " mm", House;
    /// this long,
    const POST_MM: f64 = 350.0, " mm", House;
    /// to be inserted at least so far.
    const POST_INSIDE_MM: f64 = 100.0, " mm", House;
}

/// Posts as they are sold, none of them on hand.
pub(super) fn posts() -> Vec<Part> {
    let post = |back: f64| {
        let sizes = [
            (Quantity::PostSetback, back),
            (Quantity::PostLength, POST_MM),
            (Quantity::PostInsertion, POST_INSIDE_MM),
        ];
        let mut part = Part::new(PartKind::Post, 0, &sizes);
        part.name = format!("setback {} mm, {} mm long", written(back), written(POST_MM));
        part
    };
    POSTS_MM.map(post).to_vec()
}

/// How far ahead of the BB the longer foot's shoe ends with its crank forward, mm.
pub(super) fn shoe_ahead(from: &Trying) -> f64 {
    let toe = from.before.clearances.toe_mm;
    let least = toe.left.0.min(toe.right.0);
    from.frame.front_centre_mm.0 - from.frame.wheel_radius_mm.0 - least
}

/// The front wheel's share on another frame: the rider is where the contact points are.
pub(super) fn front_share(from: &Trying, frame: &Frame) -> Option<f64> {
    let loads = from.before.loads?;
    let mass = from.rider.body.mass_kg?;
    Some(loads.front_share_on(mass, frame))
}

/// Something else that is other on the other bike.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = NextCompared))]
#[serde(deny_unknown_fields)]
pub struct Compared {
    /// What.
    pub label: String,
    /// Its unit.
    pub unit: Unit,
    /// On the bike it was made on.
    pub before: f64,
    /// On the other one.
    pub after: f64,
}

/// What is told of a position on another bike.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = CarriedTold))]
#[serde(deny_unknown_fields)]
pub struct Told {
    /// How far the sit reference ends from where it was, forward and up positive, mm.
    pub saddle_off: Point,
    /// How far the hands do.
    pub hand_off: Point,
    /// What it is built of: "Post setback 20 mm, 142 mm out; stem 110 mm, −6°, spacers 15 below".
    pub built: Vec<String>,
    /// What is not on hand.
    pub to_order: Vec<String>,
    /// So much must be cut off the steerer, mm.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub cut_mm: Option<f64>,
    /// What stands in the way of what remains off.
    pub in_the_way: Vec<String>,
    /// What else is other.
    pub compared: Vec<Compared>,
    /// What no number tells: another hold, another crank and what followed it.
    #[serde(default)]
    pub also: Vec<String>,
    /// What must be looked at before it is ridden.
    pub checks: Vec<String>,
}

/// A position on another bike: computed, not ridden.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Carried {
    /// Every bolt and part.
    pub setup: Setup,
    /// What is told of it.
    #[serde(flatten)]
    pub told: Told,
}

/// The same onto a bike whose crank stays: the position first answers that crank by what it is for.
pub fn carry_to_crank(
    from: &Trying,
    onto: &ForeseeInput,
    parts: &[Part],
    intent: Intent,
) -> Result<Carried, Vec<Refusal>> {
    let to = onto.setup.pedalling.right.crank_mm.0;
    let plan = intents(from, to)
        .into_iter()
        .find(|plan| plan.intent == intent);
    let refused = |words: String| vec![Refusal::new("/crank", words)];
    let plan = plan.ok_or_else(|| refused("There is no such intent".to_owned()))?;
    let placed = from
        .changed(&plan.changes)
        .filter(|_| !plan.changes.is_empty());
    let Some(placed) = placed else {
        return Err(refused(plan.left));
    };
    let ride = from.on(placed);
    let mut carried = carry(&Trying::of(&ride), onto, parts)?;
    let first = [format!(
        "First, for its cranks: {}. {}",
        plan.title, plan.label
    )];
    let left = Some(plan.left).filter(|left| !left.is_empty());
    carried
        .told
        .also
        .splice(0..0, first.into_iter().chain(left));
    Ok(carried)
}

/// A position on another bike with the parts it comes with, those of a box, and what can be ordered. Pedals, shoes and cleats go
/// with the rider; so does the crank, since its length is part of the position.
pub fn carry(from: &Trying, onto: &ForeseeInput, parts: &[Part]) -> Result<Carried, Vec<Refusal>> {
    let (sit, hand) = (from.before.bike.sit, from.before.bike.hand);
    let mut all = parts.to_vec();
    all.extend(ordinary_parts());
    all.extend(posts());
    let seat = seated(&onto.frame, onto.setup, sit, &all);
    let mut setup = seat.setup;
    setup.pedalling = from.before_setup().pedalling;
    let input = ForeseeInput {
        hands: onto.hands,
        effort: onto.effort,
        conventions: from.conventions,
        ..ForeseeInput::new(from.rider, onto.kind, onto.frame, setup)
    };
    let ride = input.check()?;
    let there = Trying::of(&ride);
    let fronts = front_ends(&there, &Aim::at(hand, None), &all);
    let as_it_is = there.before.bike.hand.distance(hand);
    // The best first: by how near, then by what it costs. What stands there already is best of all.
    let is_nearer = |miss: f64| as_it_is > THERE_MM && miss < as_it_is - THERE_MM;
    let best = (fronts.answers.into_iter()).find(|front| is_nearer(front.miss_mm));
    let changes = best.as_ref().map(|front| front.changes.clone());
    let after = foresee_on(&there, &changes.unwrap_or_default())?;
    let placed = Placed::of(after.setup).ok_or_else(|| vec![Placed::refusal("/setup")])?;
    let perch = Perch::of(&onto.frame, &placed);
    let hand_off = after.after.bike.hand - hand;
    let mut in_the_way = seat.in_the_way;
    if hand_off.length() > THERE_MM {
        in_the_way.extend(fronts.in_the_way);
    }
    let mut to_order = seat.to_order;
    let also = also(from, &after.setup);
    let front = best.as_ref();
    to_order.extend(
        front
            .map(|front| front.to_order.clone())
            .unwrap_or_default(),
    );
    let crank = crank_to_order(onto, from);
    to_order.extend(crank);
    Ok(Carried {
        told: Told {
            saddle_off: after.after.bike.sit - sit,
            hand_off,
            built: built(&after.setup, &perch),
            to_order,
            cut_mm: front.and_then(|front| front.cut_mm),
            in_the_way,
            compared: compared(from, &after.after, &onto.setup),
            also,
            checks: front.map(|front| front.checks.clone()).unwrap_or_default(),
        },
        setup: after.setup,
    })
}

/// What no number tells: hands that hold something else, and a saddle that is another.
fn also(from: &Trying, after: &Setup) -> Vec<String> {
    let setup = from.before_setup();
    let mut all = Vec::new();
    if setup.bar.kind() != after.bar.kind() {
        let main = |setup: &Setup| setup.bar.places()[0].word();
        all.push(format!(
            "The hands go from the {} to the {}: the point is carried, the hold is another; look at wrists, elbows and width",
            main(setup),
            main(after)
        ));
    }
    let (one, other) = (&setup.saddle, &after.saddle);
    let unlike = |a: Millimetres, b: Millimetres| (a.0 - b.0).abs() >= TOLD;
    if unlike(one.nose_to_sit_mm, other.nose_to_sit_mm)
        || unlike(one.saddle_length_mm, other.saddle_length_mm)
        || unlike(one.saddle_stack_mm, other.saddle_stack_mm)
    {
        all.push(
            "Another saddle: where it is 80 mm wide is carried; what it carries may be elsewhere. Ride it, then check height and tilt"
                .to_owned(),
        );
    }
    all
}

/// A saddle where it should be, or as near as its post and rails let it.
pub(super) struct Seated {
    pub(super) setup: Setup,
    /// How far it stays off, mm.
    pub(super) off_mm: f64,
    to_order: Vec<String>,
    in_the_way: Vec<String>,
}

/// The saddle of a bike brought to a point: with the post that is there, else with the one that brings it nearest.
pub(super) fn seated(frame: &Frame, setup: Setup, wish: Point, parts: &[Part]) -> Seated {
    let own = nearest(frame, setup, wish);
    let posts = parts.iter().filter(|part| part.kind == PartKind::Post);
    let other = posts
        .map(|part| {
            let mut with = setup;
            for (quantity, size) in &part.sizes {
                with.post.set(*quantity, *size);
            }
            (part, nearest(frame, with, wish))
        })
        .min_by(|(a, at), (b, bt)| {
            let off = |place: &(Setup, f64)| (place.1 / THERE_MM).round();
            (off(at).total_cmp(&off(bt))).then((a.on_hand == 0).cmp(&(b.on_hand == 0)))
        });
    let (setup, off, to_order) = match other {
        Some((part, (with, off))) if off < own.1 - THERE_MM => {
            let order = (part.on_hand == 0).then(|| format!("Seat post, {}", part.name));
            (with, off, order)
        }
        _ => (own.0, own.1, None),
    };
    let in_the_way = (off > THERE_MM).then(|| {
        let mut wished = setup;
        wished.saddle.place(wish);
        let words = Placed::of(wished).map(|placed| Perch::of(frame, &placed).words);
        ended(&words.unwrap_or_default().join("; "))
    });
    Seated {
        setup,
        off_mm: off,
        to_order: Vec::from_iter(to_order),
        in_the_way: Vec::from_iter(in_the_way),
    }
}

/// The saddle as near a point as post and rails let it, and how far that is from it. What of them is not known forbids nothing.
///
/// The clamp runs along the post's axis between seat tube and least insertion, the saddle on it along its rails: the places are a
/// parallelogram, and the nearest of one is in it, or on an edge.
fn nearest(frame: &Frame, mut setup: Setup, wish: Point) -> (Setup, f64) {
    setup.saddle.place(wish);
    let Some(placed) = Placed::of(setup) else {
        return (setup, 0.0);
    };
    let perch = Perch::of(frame, &placed);
    let (axis, forward) = (frame.post_axis(), setup.saddle.rails_back() * -1.0);
    let (out, ahead) = (perch.exposed_mm.0, perch.clamp_ahead_mm);
    let length = setup.post.post_length_mm.map(|length| length.0);
    let inserted = setup.post.post_insertion_mm.map_or(0.0, |least| least.0);
    let outs = (
        0.0,
        length.map_or(f64::INFINITY, |length| (length - inserted).max(0.0)),
    );
    let half = setup.saddle.rail_mm.map(|rail| rail.0 / 2.0);
    // Ahead of the clamp the rails' middle is behind: the saddle goes forward as the clamp goes back on them.
    let (at, aheads) = match ahead.zip(half) {
        Some((ahead, half)) => (ahead.0, (-half, half)),
        None => (0.0, (f64::NEG_INFINITY, f64::INFINITY)),
    };
    let clamp = |value: f64, (low, high): (f64, f64)| value.clamp(low, high);
    // How the sit reference moves with so much more post, and so much less clamp ahead.
    let moved = |by_out: f64, by_ahead: f64| axis * by_out - forward * by_ahead;
    let tried = |to_out: f64, to_ahead: f64| (to_out - out, to_ahead - at);
    let cos = axis.dot(forward);
    let mut places = vec![tried(clamp(out, outs), clamp(at, aheads))];
    for edge in [outs.0, outs.1] {
        if edge.is_finite() {
            // On an edge of the post the rails answer as far as they go, and the other way round.
            let ahead = at + (edge - out) * cos;
            places.push(tried(edge, clamp(ahead, aheads)));
        }
    }
    for edge in [aheads.0, aheads.1] {
        if edge.is_finite() {
            let to = out + (edge - at) * cos;
            places.push(tried(clamp(to, outs), edge));
        }
    }
    let best = places
        .into_iter()
        .map(|(by_out, by_ahead)| moved(by_out, by_ahead))
        .min_by(|a, b| a.length().total_cmp(&b.length()))
        .unwrap_or_default();
    setup.saddle.place(wish + best);
    (setup, best.length())
}

/// The crank, where the other bike's is another one.
fn crank_to_order(onto: &ForeseeInput, from: &Trying) -> Option<String> {
    let of = |setup: &Setup| setup.pedalling.right.crank_mm.0;
    let (own, wanted) = (of(&onto.setup), of(from.before_setup()));
    ((own - wanted).abs() > 0.05).then(|| {
        format!(
            "Cranks of {} mm: those on it are {} mm",
            written(wanted),
            written(own)
        )
    })
}

/// What it is built of, in words.
fn built(setup: &Setup, perch: &Perch) -> Vec<String> {
    let mut post = Vec::new();
    post.extend(
        setup
            .post
            .post_setback_mm
            .map(|back| format!("setback {} mm", written(back.0))),
    );
    post.push(format!(
        "{} mm out of the seat tube",
        written(perch.exposed_mm.0)
    ));
    post.extend(
        perch
            .inserted_mm
            .map(|inside| format!("{} mm inside", written(inside.0))),
    );
    post.extend(perch.clamp_ahead_mm.map(|ahead| {
        if ahead.0.abs() < 0.05 {
            return "clamp at the middle of the rails".to_owned();
        }
        let way = if ahead.0 < 0.0 { "behind" } else { "ahead of" };
        format!(
            "clamp {} mm {way} the middle of the rails",
            written(ahead.0.abs())
        )
    }));
    let cockpit = &setup.cockpit;
    vec![
        format!("Post: {}", post.join(", ")),
        format!(
            "Stem {} mm, {}°, spacers {} mm below and {} mm above",
            written(cockpit.stem_mm.0),
            written(cockpit.stem_angle_deg.0),
            written(cockpit.spacers_below_mm.0),
            written(cockpit.spacers_above_mm.0)
        ),
    ]
}

/// What else is other there: room for toes and pedals, standover, the front wheel's share, and the saddle's nose.
fn compared(from: &Trying, after: &crate::position::Position, onto: &Setup) -> Vec<Compared> {
    let outputs = [
        Output::ToeClearance,
        Output::PedalLean,
        Output::Standover,
        Output::FrontShare,
    ];
    let of = |output: &Output| {
        let (before, after) = output
            .of(&from.before, Side::Right)
            .zip(output.of(after, Side::Right))?;
        Some(Compared {
            label: output.spec().label.to_owned(),
            unit: output.spec().unit,
            before,
            after,
        })
    };
    let part = |label: &str, of: fn(&Setup) -> f64| Compared {
        label: label.to_owned(),
        unit: Unit::Mm,
        before: of(from.before_setup()),
        after: of(onto),
    };
    let parts = [
        part("Saddle nose ahead of the sit reference", |setup| {
            setup.saddle.nose_to_sit_mm.0
        }),
        part("Rails to the sit reference", |setup| {
            setup.saddle.saddle_stack_mm.0
        }),
    ];
    let steerer = Compared {
        label: "Hands ahead of the head tube’s top".to_owned(),
        unit: Unit::Mm,
        before: from.before.bike.hand.x - from.before.bike.head_top.x,
        after: after.bike.hand.x - after.bike.head_top.x,
    };
    let all = outputs.iter().filter_map(of).chain(parts).chain([steerer]);
    all.filter(|one| (one.after - one.before).abs() >= TOLD)
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::bike::{Kind, ordinary_bikes};
    use crate::example::{self, trying};
    use proptest::prelude::*;

    #[test]
    fn onto_the_bike_it_was_made_on_nothing_is_off() {
        for input in [example::road(), example::gravel(), example::flat_bar()] {
            let carried = trying(&input, |on| carry(on, &input, &[]).unwrap());
            assert!(
                carried.told.saddle_off.length() < 1e-6,
                "{:?}",
                carried.told.saddle_off
            );
            assert!(
                carried.told.hand_off.length() < 1e-6,
                "{:?}",
                carried.told.hand_off
            );
            assert_eq!(
                (carried.told.in_the_way.len(), carried.told.compared.len()),
                (0, 0)
            );
        }
    }

    #[test]
    fn there_and_back_misses_what_was_said() {
        let (road, gravel) = (example::road(), example::gravel());
        let there = trying(&road, |on| carry(on, &gravel, &[]).unwrap());
        // Built as it says, it misses by what it says.
        let mut rebuilt = gravel.clone();
        rebuilt.setup = there.setup;
        let (sit, hand) = trying(&rebuilt, |on| (on.before.bike.sit, on.before.bike.hand));
        let (was_sit, was_hand) = trying(&road, |on| (on.before.bike.sit, on.before.bike.hand));
        assert!((sit - was_sit - there.told.saddle_off).length() < 1e-6);
        assert!((hand - was_hand - there.told.hand_off).length() < 1e-6);
        let back = trying(&rebuilt, |on| carry(on, &road, &[]).unwrap());
        assert!(
            back.told.hand_off.length() <= there.told.hand_off.length() + 8.0,
            "{:?}",
            back.told.hand_off
        );
    }

    #[test]
    fn there_and_back_between_five_frames() {
        let road = example::road();
        let own = trying(&road, |on| (on.before.bike.sit, on.before.bike.hand));
        for bike in ordinary_bikes()
            .into_iter()
            .filter(|bike| bike.kind == Kind::Road || bike.kind == Kind::Gravel)
        {
            let mut onto = road.clone();
            onto.frame = bike.frame;
            let there = trying(&road, |on| carry(on, &onto, &[]).unwrap());
            let mut ridden = onto.clone();
            ridden.setup = there.setup;
            let at = trying(&ridden, |on| (on.before.bike.sit, on.before.bike.hand));
            // What is told to be off is off, built anew.
            assert!(
                (at.0 - own.0 - there.told.saddle_off).length() < 1e-6,
                "{}",
                bike.name
            );
            assert!(
                (at.1 - own.1 - there.told.hand_off).length() < 1e-6,
                "{}",
                bike.name
            );
            // With continuous parts it comes back to where it was: what the box leaves off is made up by the tape.
            ridden.setup.residual.hand_forward_mm.0 -= there.told.hand_off.x;
            ridden.setup.residual.hand_up_mm.0 -= there.told.hand_off.y;
            let back = trying(&ridden, |on| carry(on, &road, &[]).unwrap());
            assert!(
                back.told.hand_off.length() < 0.5,
                "{}: {:?}",
                bike.name,
                back.told.hand_off
            );
            assert!(
                (back.told.saddle_off + there.told.saddle_off).length() < 0.5
                    || back.told.saddle_off.length() < 0.5,
                "{}",
                bike.name
            );
        }
    }

    #[test]
    fn another_crank_is_answered_by_what_it_is_for() {
        let road = example::road();
        let mut short = road.clone();
        for side in Side::BOTH {
            short.setup.pedalling.of_mut(side).crank_mm = Millimetres(165.0);
        }
        trying(&road, |on| {
            let mine = carry(on, &short, &[]).unwrap();
            assert!(
                mine.told
                    .to_order
                    .iter()
                    .any(|line| line.starts_with("Cranks of 172.5 mm")),
                "{:?}",
                mine.told.to_order
            );
            let theirs = carry_to_crank(on, &short, &[], Intent::Bottom).unwrap();
            assert!((theirs.setup.pedalling.left.crank_mm.0 - 165.0).abs() < 1e-9);
            // The bottom is kept: the saddle is up by what the crank is shorter.
            let up = theirs.setup.saddle.saddle_height_mm.0 - road.setup.saddle.saddle_height_mm.0;
            assert!((up - 7.5).abs() < 0.01, "{up}");
            assert!(
                theirs.told.also[0].contains("Keep the bottom"),
                "{:?}",
                theirs.told.also
            );
            assert!(
                theirs
                    .told
                    .to_order
                    .iter()
                    .all(|line| !line.starts_with("Cranks"))
            );
        });
    }

    #[test]
    fn hands_of_another_kind_and_another_saddle_are_told() {
        let mut other = example::flat_bar();
        other.setup.saddle.nose_to_sit_mm = Millimetres(120.0);
        let carried = trying(&example::road(), |on| carry(on, &other, &[]).unwrap());
        let also = carried.told.also.join(" ");
        assert!(
            also.contains("hoods") && also.contains("grips") && also.contains("Another saddle"),
            "{also}"
        );
        assert!(
            carried
                .told
                .compared
                .iter()
                .any(|one| one.label.starts_with("Saddle nose"))
        );
    }

    #[test]
    fn a_short_post_and_short_rails_are_told_and_come_as_near_as_they_can() {
        let road = example::road();
        let mut low = road.clone();
        low.setup.post.post_setback_mm = Some(Millimetres(0.0));
        low.setup.post.post_length_mm = Some(Millimetres(120.0));
        low.setup.post.post_insertion_mm = Some(Millimetres(80.0));
        low.setup.saddle.rail_mm = Some(Millimetres(40.0));
        let seat = trying(&road, |on| {
            let wish = on.before.bike.sit;
            let (_, off) = nearest(&low.frame, low.setup, wish);
            let seat = seated(&low.frame, low.setup, wish, &[]);
            (off, seat.in_the_way)
        });
        assert!(seat.0 > 20.0, "{}", seat.0);
        assert!(
            seat.1[0].contains("short of its least insertion"),
            "{:?}",
            seat.1
        );
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(200))]
        /// The nearest place of the saddle is the nearest of all places there are.
        #[test]
        fn no_place_is_nearer(
            x in -320.0..-60.0_f64, y in 500.0..800.0_f64, setback in 0.0..30.0_f64,
            length in 150.0..400.0_f64, rail in 30.0..80.0_f64,
        ) {
            let mut input = example::road();
            input.setup.post.post_setback_mm = Some(Millimetres(setback));
            input.setup.post.post_length_mm = Some(Millimetres(length));
            input.setup.post.post_insertion_mm = Some(Millimetres(80.0));
            input.setup.saddle.rail_mm = Some(Millimetres(rail));
            let wish = Point::new(x, y);
            let (best, off) = nearest(&input.frame, input.setup, wish);
            let placed = Placed::of(best).unwrap();
            let perch = Perch::of(&input.frame, &placed);
            prop_assert!(perch.words.is_empty(), "{:?}", perch.words);
            prop_assert!((placed.sit().distance(wish) - off).abs() < 1e-6);
            // Brute force: every place of post and rails there is.
            let (axis, forward) = (input.frame.post_axis(), input.setup.saddle.rails_back() * -1.0);
            let ahead = perch.clamp_ahead_mm.unwrap().0;
            for out in 0..=60 {
                let out = f64::from(out) / 60.0 * (length - 80.0);
                for along in 0..=40 {
                    let along = (f64::from(along) / 40.0 - 0.5) * rail;
                    let there = placed.sit() + axis * (out - perch.exposed_mm.0) - forward * (along - ahead);
                    prop_assert!(there.distance(wish) >= off - 1e-6);
                }
            }
        }
    }
}
