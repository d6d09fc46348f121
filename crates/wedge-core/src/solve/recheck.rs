//! What is due again once the hands have moved, with the amounts: riders roll forward and a little ahead on the saddle when the
//! bars go down, so knee and hip are not where they were. And the other way round: the front that gives the hands back to a
//! rider whose saddle moved on its rails.

use super::{Stems, hand_rows, linked, parts_for, post_for_knee};
use crate::foresee::{Change, Step, Trying};
use crate::measure::{Output, Quantity, half_mm};
use crate::position::{Position, Ride};
use crate::rule::rules;
use crate::units::Side;
use crate::words::{capital, words, written};
use crate::work::Station;
use serde::Serialize;

words! {
    /// Something that a move makes due again.
    pub enum Due {
        Height "height" "Saddle height",
        Setback "setback" "Setback",
        Balance "balance" "Balance test",
        Tilt "tilt" "Saddle tilt",
        HandPlaces "hand_places" "Every place of the hands",
        Front "front" "The front, given back",
    }
}

rules! {
    rules "Recheck";
    /// Hands moved this far make everything below due again.
    const OPENS_MM: f64 = 10.0, " mm", Workshop;
    /// Moved less than this, nothing is.
    const NOTHING_MM: f64 = 5.0, " mm", Workshop;
    /// An amount under this is not worth a bolt.
    const WORTH_MM: f64 = 2.0, " mm", House;
    /// Riders slide ahead on the saddle for each degree the torso goes down, before this one was looked at.
    const SLIDE_MM: f64 = 0.5, " mm", House;
    /// And one standard deviation of that among riders.
    const SLIDE_SPREAD_MM: f64 = 0.5, " mm", House;
    /// How far ahead somebody sits is seen this well.
    const SEEN_MM: f64 = 5.0, " mm", House;
}

/// How far a rider slides ahead for each degree the torso goes down, mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Slide {
    /// As believed.
    pub mm: f64,
    /// One standard deviation.
    pub spread: f64,
}

impl Slide {
    /// What a rider's own looks make of the prior: each is how much further ahead the rider sat, and how many degrees the
    /// torso had gone down. A normal prior and normal looks, the textbook's product of the two.
    pub fn learnt(looks: &[(f64, f64)]) -> Self {
        let prior = SLIDE_SPREAD_MM.powi(-2);
        let (mut weight, mut sum) = (prior, prior * SLIDE_MM);
        for (ahead, down) in looks {
            let told = (down / SEEN_MM).powi(2);
            weight += told;
            sum += ahead * down / SEEN_MM.powi(2);
        }
        Self {
            mm: sum / weight,
            spread: weight.sqrt().recip(),
        }
    }
}

/// Something due again.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Recheck {
    /// What.
    pub due: Due,
    /// As it is called.
    pub label: String,
    /// Where on the way it is checked.
    pub station: Station,
    /// What follows for it, with the amounts.
    pub words: String,
    /// What would give it back, where that is worth a bolt.
    pub step: Option<Step>,
}

/// What is due again on the setup of `now`, after the hands were where they are `before`. Empty where they moved too little.
pub fn rechecks(before: &Position, now: &Trying, slide: Slide) -> Vec<Recheck> {
    let hand = now.before.bike.hand - before.bike.hand;
    let sit = now.before.bike.sit - before.bike.sit;
    let mut all = Vec::new();
    if hand.length() >= NOTHING_MM {
        all.extend(of_the_front(before, now, slide, hand.length()));
    } else if sit.x.abs() >= OPENS_MM {
        all.push(of_the_saddle(now, sit.x));
    }
    all
}

fn recheck(due: Due, station: Station, words: &str, step: Option<Step>) -> Recheck {
    Recheck {
        due,
        label: due.label().to_owned(),
        station,
        words: capital(words),
        step,
    }
}

/// Where the rider sits once he has slid: the slide goes with the torso, and the torso with the slide.
fn slid(before: &Position, now: &Trying, slide: f64) -> (f64, Ride) {
    let sat = now.rider.pelvis.sits_forward_mm;
    let at = |ahead: f64| now.altered(|facts| facts.rider.pelvis.sits_forward_mm.0 = sat.0 + ahead);
    let mut ahead = 0.0;
    for _ in 0..8 {
        let torso = at(ahead).position().upper.torso_deg.0;
        ahead = slide * (before.upper.torso_deg.0 - torso);
    }
    (ahead, at(ahead))
}

fn of_the_front(before: &Position, now: &Trying, slide: Slide, moved: f64) -> Vec<Recheck> {
    let (ahead, ride) = slid(before, now, slide.mm);
    let (least, _) = slid(before, now, slide.mm - slide.spread);
    let (most, _) = slid(before, now, slide.mm + slide.spread);
    let trying = Trying::of(&ride);
    let there = &trying.before;
    let knee = before.knee_at_full_reach();
    let up = post_for_knee(&trying, &[], knee).map_or(0.0, half_mm);
    let turned = |output: Output| {
        let of = |position: &Position| output.of(position, Side::Right);
        of(there).zip(of(before)).map_or(0.0, |(is, was)| is - was)
    };
    let signed = |value: f64| {
        let sign = if value > 0.0 { "+" } else { "" };
        format!("{sign}{}", written(value))
    };
    let follows = format!(
        "sits {} to {} mm further ahead, knee {}°, hip {}°",
        written(least.min(most)),
        written(least.max(most)),
        signed(turned(Output::KneeAtFullReach)),
        signed(turned(Output::HipClosed)),
    );
    let mut all = Vec::new();
    let height = (up.abs() >= WORTH_MM).then(|| {
        Step::of(
            now,
            vec![Change::by(Quantity::SaddleHeight, up)],
            String::new(),
        )
    });
    let height = height.flatten();
    if moved < OPENS_MM && height.is_none() {
        return all;
    }
    let amount = |by: f64, more: &str, less: &str| {
        if by.abs() < WORTH_MM {
            format!(
                "{} mm would give it back: nothing to turn",
                written(by.abs())
            )
        } else {
            format!(
                "{} {} mm gives it back",
                if by > 0.0 { more } else { less },
                written(by.abs())
            )
        }
    };
    let words = format!("{follows}; {}", amount(up, "saddle up", "saddle down"));
    all.push(recheck(Due::Height, Station::SaddleHeight, &words, height));
    if moved < OPENS_MM {
        return all;
    }
    let back = half_mm(ahead);
    let rails = (back.abs() >= WORTH_MM).then(|| {
        Step::of(
            now,
            linked(now, vec![Change::by(Quantity::Setback, back)]),
            String::new(),
        )
    });
    let words = format!(
        "look how far ahead of the sit reference the rider sits now; {}",
        amount(back, "saddle back", "saddle forward")
    );
    all.push(recheck(
        Due::Setback,
        Station::Setback,
        &words,
        rails.flatten(),
    ));
    let words = "lift the hands at the named effort, as before the front moved";
    all.push(recheck(Due::Balance, Station::Setback, words, None));
    let drop = there.bike.sit.y - there.bike.hand.y;
    let words = format!(
        "the front is now {} mm {} the saddle: does the rider sit still on the wide part?",
        written(drop.abs()),
        if drop >= 0.0 { "below" } else { "above" }
    );
    all.push(recheck(Due::Tilt, Station::Setback, &words, None));
    let broken: Vec<String> = (hand_rows(now).into_iter())
        .filter_map(|row| row.breaks.map(|breaks| format!("{}: {breaks}", row.label)))
        .collect();
    let words = if broken.is_empty() {
        "none breaks a limit or a range: ride through every one".to_owned()
    } else {
        broken.join("; ")
    };
    all.push(recheck(Due::HandPlaces, Station::Bars, &words, None));
    all
}

/// A saddle moved along its rails takes the hands with it only if the front follows.
fn of_the_saddle(now: &Trying, forward: f64) -> Recheck {
    let by = crate::plane::Point::new(forward, 0.0);
    let (changes, left) = parts_for(
        now,
        &now.setup,
        by,
        &Stems::ordinary(),
        (3.0, 5.0),
        |_| true,
        |_| false,
    );
    let step = if changes.is_empty() {
        None
    } else {
        Step::of(now, changes, String::new())
    };
    let moved = format!(
        "the saddle went {} mm {}: the hands are that much {}",
        written(forward.abs()),
        if forward > 0.0 { "forward" } else { "back" },
        if forward > 0.0 { "nearer" } else { "farther" },
    );
    let words = match &step {
        Some(step) => format!(
            "{moved}; {} gives them back to {} mm",
            step.title,
            written(left)
        ),
        None => format!("{moved}; no part of the ordinary sizes gives them back"),
    };
    recheck(Due::Front, Station::Bars, &words, step)
}
