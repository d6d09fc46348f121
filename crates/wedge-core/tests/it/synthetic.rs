//! Protocols ridden by synthetic riders whose hidden truth is known, and by nobody at all: calls at random.

use crate::ask::proposed;
use crate::calling::{Calling, Noise, tried};
use proptest::prelude::*;
use wedge_core::example;
use wedge_core::foresee::{Bound, ForeseeInput};
use wedge_core::intake::Intake;
use wedge_core::measure::Quantity;
use wedge_core::position::Landmark;
use wedge_core::trial::{
    Answer, Ask, Balance, BalanceVariant, Blind, Bracket, Bracketed, Call, Finding, Form, Picks,
    Plumb, Proposing, Protocol, RailSweep, RiddenOn, RunPlan, Says, TiltCheck, chance, feels,
};
use wedge_core::units::Side;

/// How a synthetic rider turns choppy.
struct Rider {
    threshold: f64,
    /// The right leg's, above the left one's.
    right_later: f64,
    jitter: f64,
    lapse: f64,
}

impl Rider {
    /// Choppiness of one leg at a height, mm above where the post stood.
    fn chop(&self, noise: &mut Noise, height: f64, side: Side) -> u32 {
        if noise.unit() < self.lapse {
            return if noise.unit() < 0.5 { 0 } else { 2 };
        }
        let own = self.threshold
            + if side == Side::Right {
                self.right_later
            } else {
                0.0
            };
        let over = height - own + self.jitter * noise.normal();
        match over {
            o if o >= 5.0 => 3,
            o if o >= 0.0 => 2,
            o if o >= -3.0 => 1,
            _ => 0,
        }
    }
}

/// Creeps a rider up; height is read from the step's label, as the fitter reads it.
fn creep(input: &ForeseeInput, rider: &Rider, noise: &mut Noise) -> (Finding, usize) {
    let mut calling = Calling::new(proposed(input, Protocol::CreepUp, 5.0), input);
    let stood = input.setup.saddle.saddle_height_mm.0;
    let mut steps = 0;
    loop {
        let guide = calling.guide();
        if let Some(finding) = guide.finding {
            return (finding, steps);
        }
        steps += 1;
        let now = guide.screen.notches.last().expect("the step that is set");
        let height = now.label.parse::<f64>().unwrap() - stood;
        let step = guide.screen.ask.unwrap().id.replace(".set", "");
        let [left, right] = Side::BOTH.map(|side| rider.chop(noise, height, side));
        let key = |ask: &str, key: &str| Call {
            ask: format!("{step}.{ask}"),
            answer: Answer::Key(key.to_owned()),
        };
        calling.calls.extend([
            key("set", "Enter"),
            key("left", &left.to_string()),
            key("right", &right.to_string()),
            key("hips", "0"),
        ]);
    }
}

#[test]
fn creeping_up_finds_the_hidden_threshold_and_knows_how_well() {
    let input = example::road();
    let mut noise = Noise(7);
    let (mut near, mut one, mut two, mut steps) = (0, 0, 0, 0);
    let riders = 200;
    for _ in 0..riders {
        let rider = Rider {
            threshold: -4.0 + 24.0 * noise.unit(),
            // One leg turns first, so that the threshold of the two together is that leg's.
            right_later: 6.0,
            jitter: 0.5 + 1.5 * noise.unit(),
            lapse: 0.02,
        };
        let (finding, ridden) = creep(&input, &rider, &mut noise);
        steps += ridden;
        // Where it points is 4 mm below the threshold.
        let error = finding.value.map(|v| v + 4.0 - 749.1 - rider.threshold);
        let (Some(error), Some(spread)) = (error, finding.spread) else {
            continue;
        };
        near += usize::from(error.abs() <= 2.0);
        one += usize::from(error.abs() <= spread);
        two += usize::from(error.abs() <= 2.0 * spread);
    }
    assert!(near >= 180, "{near} of {riders} within 2 mm");
    // An honest spread: about 68 % within one, 95 % within two of it.
    assert!((110..=165).contains(&one), "{one} within one spread");
    assert!(two >= 180, "{two} within two spreads");
    assert!(steps / riders <= 18, "{steps}");
}

/// How a synthetic rider's hands answer the rails.
enum Hands {
    /// They grow heavy this far back, and further forward.
    Usual { heavy_at: f64 },
    /// The other way round: they grow heavy further back.
    Other { heavy_at: f64 },
    /// As heavy everywhere.
    Alike { rating: f64 },
}

/// Sweeps a rider along the rails, from 25 back to 25 forward; every rating is off by a little.
fn sweep(input: &ForeseeInput, hands: &Hands, noise: &mut Noise) -> Finding {
    let plan = RunPlan::RailSweep(RailSweep {
        back_mm: 25.0,
        forward_mm: 25.0,
        step_mm: 5.0,
        form: Form::Short,
    });
    let mut run = Calling::new(plan, input);
    loop {
        let guide = run.guide();
        if let Some(finding) = guide.finding {
            return finding;
        }
        let words = &guide.screen.instruction;
        let far = || words.split(' ').nth(1).unwrap().parse::<f64>().unwrap();
        let back = if words.ends_with("back") {
            far()
        } else if words.ends_with("forward") {
            -far()
        } else {
            0.0
        };
        // Light turns heavy over about 10 mm: 1.5 where it turns.
        let meant = match hands {
            Hands::Usual { heavy_at } => 1.5 + (heavy_at - back) / 7.0,
            Hands::Other { heavy_at } => 1.5 + (back - heavy_at) / 7.0,
            Hands::Alike { rating } => *rating,
        };
        let hands = (meant + 0.35 * noise.normal())
            .round()
            .clamp(0.0, 4.0)
            .abs();
        run.key("Enter");
        run.key(&format!("{hands}"));
        run.keys("223");
    }
}

#[test]
fn a_rail_sweep_finds_where_hands_grow_heavy_and_who_answers_otherwise() {
    let input = example::road();
    let mut noise = Noise(11);
    let riders = 100;
    let stood = 212.8;
    let (mut near, mut honest) = (0, 0);
    for _ in 0..riders {
        let heavy_at = -15.0 + 30.0 * noise.unit();
        let found = sweep(&input, &Hands::Usual { heavy_at }, &mut noise);
        let (Says::Found, Some(value), Some(spread)) = (found.says, found.value, found.spread)
        else {
            continue;
        };
        // The most forward place that is not heavy lies on the 5 mm steps, at most one behind where it turns.
        let error = value - stood - (heavy_at + 2.5);
        near += usize::from(error.abs() <= 5.0);
        honest += usize::from(error.abs() <= 2.0 * spread.hypot(1.5));
    }
    assert!(near >= 85, "{near} of {riders} within a step");
    assert!(honest >= 85, "{honest} of {riders} within two spreads");

    let says = |hands: &Hands, noise: &mut Noise, wanted: &dyn Fn(&Finding) -> bool| {
        let right = (0..riders)
            .filter(|_| wanted(&sweep(&input, hands, noise)))
            .count();
        assert!(right >= 90, "{right} of {riders}");
    };
    says(&Hands::Other { heavy_at: 3.0 }, &mut noise, &|found| {
        found.title == "The other way round" && found.value.is_none()
    });
    says(&Hands::Alike { rating: 0.6 }, &mut noise, &|found| {
        found.says == Says::Nothing && found.moves.is_empty()
    });
    says(&Hands::Alike { rating: 3.2 }, &mut noise, &|found| {
        found.title == "Heavy at every place"
    });
}

#[test]
fn who_guesses_is_told_apart_from_who_feels() {
    let input = example::road();
    let blind = Blind {
        quantity: Quantity::SaddleHeight,
        by: -5.0,
        rounds: 12,
    };
    let mut noise = Noise(23);
    // How often a change is called felt, when a round is picked rightly with this chance.
    let mut felt = |right: f64| {
        (0..400)
            .filter(|_| {
                let mut run = Calling::new(RunPlan::Blind(blind), &input);
                run.order = (0..12).map(|_| noise.unit() < 0.5).collect();
                run.keys("..");
                for round in 0..12 {
                    let knows = noise.unit() < right;
                    let pick = run.order[round] == knows;
                    run.key("Enter");
                    run.key(if pick { "b" } else { "a" });
                }
                run.found().says == Says::Found
            })
            .count()
    };
    // By guessing 10 of 12 or more: 79 of 4096, which is 8 of 400; three spreads of a binomial above it are 17.
    assert!(felt(0.5) <= 17);
    // Who knows it nine times in ten gets there 89 times in a hundred: 356 of 400, less three spreads.
    assert!(felt(0.9) >= 336);
}

/// A plan of each protocol.
fn plans() -> Vec<RunPlan> {
    let input = example::road();
    let balance = |variant| RunPlan::Balance(Balance { variant });
    vec![
        proposed(&input, Protocol::CreepUp, 5.0),
        RunPlan::RailSweep(RailSweep {
            back_mm: 15.0,
            forward_mm: 15.0,
            step_mm: 5.0,
            form: Form::Short,
        }),
        balance(BalanceVariant::Tempo),
        balance(BalanceVariant::Twenty),
        RunPlan::Plumb(Plumb {
            landmark: Landmark::Tendon,
        }),
        RunPlan::Tilt(TiltCheck { to_deg: -1.0 }),
        RunPlan::Blind(Blind {
            quantity: Quantity::Tilt,
            by: 1.0,
            rounds: 8,
        }),
    ]
}

/// Any answer to what is asked: the numbers now and then where they should be, or nothing would ever be over.
fn any_answer(ask: &Ask, noise: &mut Noise) -> Answer {
    if let Some(number) = &ask.number {
        let at_random = number.min + (number.max - number.min) * noise.unit();
        return Answer::Number(if ask.id.starts_with("turned") && noise.unit() < 0.3 {
            -1.0
        } else {
            at_random
        });
    }
    let count = u32::try_from(ask.keys.len()).unwrap();
    let place = (noise.unit() * f64::from(count)).floor();
    let key = ask
        .keys
        .iter()
        .zip(0..count)
        .find(|(_, index)| f64::from(*index) >= place.min(f64::from(count - 1)));
    Answer::Key(key.unwrap().0.key.clone())
}

/// What must hold of any finding.
fn sound(found: &Finding) {
    let numbers = [found.value, found.low, found.high, found.spread];
    assert!(numbers.iter().flatten().all(|v| v.is_finite()), "{found:?}");
    assert!(found.spread.is_none_or(|s| s >= 0.0), "{found:?}");
    if let (Some(low), Some(value), Some(high)) = (found.low, found.value, found.high) {
        assert!(low <= value + 1e-9 && value <= high + 1e-9, "{found:?}");
    }
    assert!(
        !found.title.is_empty() && !found.words.is_empty(),
        "{found:?}"
    );
    assert!(
        found
            .words
            .iter()
            .all(|w| !w.contains("NaN") && !w.contains("inf ")),
        "{found:?}"
    );
    // What contradicts itself or was broken off points nowhere.
    if matches!(found.says, Says::Contradicts | Says::Broken)
        && found.quantity != Some(Quantity::Tilt)
    {
        assert!(found.moves.is_empty(), "{found:?}");
    }
    // What was broken off has no place among the schools.
    if found.says == Says::Broken {
        assert_eq!(found.value, None, "{found:?}");
    }
    if found.bound == Some(Bound::AtLeast) || found.bound == Some(Bound::AtMost) {
        assert!(found.value.is_some(), "{found:?}");
    }
}

proptest! {
    #![proptest_config(ProptestConfig { failure_persistence: None, ..ProptestConfig::with_cases(60) })]

    /// Whatever was picked, the step stays a step of the trade, the next comparison can be made, and what is felt is
    /// never less than what is not.
    #[test]
    fn what_is_felt_is_sound_whatever_was_picked(
        all in proptest::collection::vec((1..=40_u32, 1..=30_u32, 0.0..=1.0_f64), 0..6),
    ) {
        let picks: Vec<Picks> = all
            .iter()
            .map(|(halves, rounds, share)| {
                // As many right as the share of them.
                let right = (0..*rounds).filter(|i| f64::from(*i) < share * f64::from(*rounds)).count();
                let right = u32::try_from(right).unwrap();
                Picks {
                    quantity: Quantity::Setback,
                    by: f64::from(*halves) / 2.0,
                    rounds: *rounds,
                    right,
                    chance: chance(*rounds, right),
                }
            })
            .collect();
        let felt = feels(Quantity::Setback, &picks);
        prop_assert!((2.0..=10.0).contains(&felt.step), "{felt:?}");
        let plans = RunPlan::proposed(&Proposing {
            on: tried(&example::road()),
            at: wedge_core::work::Station::SaddleHeight,
            intake: &Intake::default(),
            height: &felt,
            setback: &felt,
            landmark: Landmark::Centre,
            findings: &[],
            stand: false,
            cranks: &[],
        });
        let next = plans.iter().find(|plan| plan.protocol() == Protocol::Blind).unwrap();
        prop_assert_eq!(next.refusals(""), []);
        if let (Some(smallest), Some(not)) = (felt.smallest, felt.not) {
            prop_assert!(smallest > not, "{felt:?}");
        }
        // The order the comparisons were made in does not matter.
        let mut turned = picks.clone();
        turned.reverse();
        let again = feels(Quantity::Setback, &turned);
        prop_assert_eq!((felt.smallest, felt.not, felt.step), (again.smallest, again.not, again.step));
    }

    /// Whatever is called, every protocol comes to an end, says something sound wherever it is ended, and is the same
    /// when it is read again or a call is taken back and made again.
    #[test]
    fn any_calls_at_all_come_to_a_sound_end(seed in any::<u64>(), which in 0..7_usize) {
        let input = example::road();
        let plan = plans().swap_remove(which);
        let mut noise = Noise(seed);
        let mut run = Calling::new(plan, &input);
        run.order = (0..8).map(|_| noise.unit() < 0.5).collect();
        for _ in 0..400 {
            let now = run.guide();
            let Some(ask) = now.screen.ask.clone() else { break };
            prop_assert!(now.finding.is_none());
            sound(&run.stopped());
            let answer = any_answer(&ask, &mut noise);
            run.call(answer.clone());
            let next = run.guide();
            run.calls.pop();
            prop_assert_eq!(&run.guide(), &now);
            run.call(answer);
            prop_assert_eq!(run.guide(), next);
        }
        let end = run.guide();
        prop_assert!(end.screen.ask.is_none(), "{:?}", end.screen);
        sound(&end.finding.unwrap());
    }
}

/// A rider who finds the hands right within so far of a hidden place, and lets go of a complaint late.
struct Reaching {
    centre: f64,
    either: f64,
    sticks: f64,
    jitter: f64,
}

/// Brackets that rider; where the hands are is read off the step's label, as the fitter reads it.
fn bracketed(plan: Bracket, rider: &Reaching, noise: &mut Noise) -> Finding {
    let mut calling = Calling::new(RunPlan::Bracket(plan), &example::road());
    loop {
        let guide = calling.guide();
        let Some(ask) = guide.screen.ask else {
            return guide.finding.expect("what was found");
        };
        let at: f64 = (guide
            .screen
            .notches
            .last()
            .expect("the step that is set")
            .label)
            .replace('−', "-")
            .parse()
            .unwrap();
        // Asked whether it is too far, one who sits too near says no.
        let far = ask
            .keys
            .iter()
            .any(|key| key.label.to_lowercase().ends_with("too far"));
        let way = if far {
            at - rider.centre
        } else {
            rider.centre - at
        };
        let off = way - rider.either + rider.jitter * noise.normal();
        // What was too much stays so until it is well inside again.
        let good_again = ask.keys[1].label == "Good again";
        let second = if good_again {
            off <= -rider.sticks
        } else {
            off > 0.0
        };
        calling.key(if second { "2" } else { "1" });
    }
}

#[test]
fn brackets_find_the_hidden_place_and_know_how_well() {
    let mut noise = Noise(16);
    for (on, step_mm, within, every) in [
        (RiddenOn::Stand, 1.0, 2.0, 0.9),
        (RiddenOn::Bike, 5.0, 2.5, 0.9),
    ] {
        let (mut near, mut covered, mut settled) = (0.0, 0.0, 0.0);
        for _ in 0..200 {
            let rider = Reaching {
                centre: -18.0 + 36.0 * noise.unit(),
                either: 6.0 + 6.0 * noise.unit(),
                sticks: 3.0 * noise.unit(),
                jitter: 1.0,
            };
            let plan = Bracket {
                of: Bracketed::Reach,
                on,
                step_mm,
                from_mm: 0.0,
            };
            let finding = bracketed(plan, &rider, &mut noise);
            let stood = tried(&example::road()).before.bike.hand.x;
            let off = (finding.value.unwrap() - stood - rider.centre).abs();
            near += f64::from(u8::from(off <= within)) / 200.0;
            if let (Says::Found, Some(spread)) = (finding.says, finding.spread) {
                settled += 1.0;
                covered += f64::from(u8::from(off <= 1.96 * spread));
            }
        }
        assert!(near >= every, "{on:?}: {near}");
        assert!(settled >= 120.0, "{on:?}: {settled} settled");
        assert!(covered / settled >= 0.9, "{on:?}: {}", covered / settled);
    }
}

#[test]
fn calls_on_one_side_are_no_bracket() {
    let plan = Bracket {
        of: Bracketed::Height,
        on: RiddenOn::Bike,
        step_mm: 5.0,
        from_mm: 0.0,
    };
    let mut calling = Calling::new(RunPlan::Bracket(plan), &example::road());
    calling.keys("112");
    let run = calling.run(true);
    let finding = wedge_core::trial::guide(&run).finding.unwrap();
    assert_eq!(finding.says, Says::Nothing);
    assert!(
        finding.words[0].contains("one side only, too high: not a bracket yet"),
        "{finding:?}"
    );
    // Back inside, and the screen says where the hands are to be.
    let guide = calling.guide();
    assert_eq!(
        guide.screen.instruction,
        "Hands 10 mm higher than they were"
    );
    assert!(guide.screen.ask.unwrap().keys[1].label == "Good again");
}
