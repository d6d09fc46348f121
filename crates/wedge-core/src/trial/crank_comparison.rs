//! Crank comparison: two or three lengths, the stroke's bottom kept each time, the order hidden where the rider's eyes can be
//! kept off it. Beside what is called, what follows at equal power: foot speed and the force on the pedal.

use super::Protocol;
use super::run::{
    Ask, Asked, Finding, Guided, Notch, NotchState, Proposing, Run, Saying, Says, Script, guided,
};
use super::setting::Setting;
use crate::foresee::{Step, Trying};
use crate::measure::{Quantity, Refusal, Unit};
use crate::position::Ride;
use crate::rule::rules;
use crate::solve::{crank_now, keeping_the_bottom};
use crate::words::{capital, words, written};
use crate::work::Station;
use serde::{Deserialize, Serialize};

words! {
    /// Whether the rider knows which length is ridden.
    pub enum Order {
        Hidden "hidden" "Hidden",
        Open "open" "Open",
    }
}

rules! {
    rules "Crank comparison";
    /// A length this much shorter is worth comparing.
    const SHORTER_MM: f64 = 5.0, " mm", House;
    /// Lengths closer than this are one.
    const ALIKE_MM: f64 = 1.0, " mm", House;
    /// Each length is ridden this long.
    const RIDE_S: u32 = 300, " s", House;
    /// Reckoned at this effort where none is named.
    const REFERENCE: (f64, f64) = (200.0, 90.0), " W and rpm", House;
}

/// How it is set up.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct CrankComparison {
    /// One length, mm.
    pub a_mm: f64,
    /// Another, mm.
    pub b_mm: f64,
    /// A third, mm; as long as another where there is none.
    pub c_mm: f64,
    /// Whether the rider knows which is ridden.
    pub order: Order,
}

/// A question of each length: its key, itself, and its answers, the good one first.
type Question = (
    &'static str,
    &'static str,
    [(&'static str, &'static str); 2],
);

const ASKED: [Question; 5] = [
    (
        "top",
        "Over the top of the stroke?",
        [("1", "Easy"), ("2", "Catches")],
    ),
    (
        "back",
        "The low back?",
        [("1", "Quiet"), ("2", "Rounds or hurts")],
    ),
    (
        "front",
        "Onto the front?",
        [("1", "Sits"), ("2", "Falls onto it")],
    ),
    ("handling", "Handling?", [("1", "Quiet"), ("2", "Nervous")]),
    (
        "room",
        "Knee and hip room?",
        [("1", "Free"), ("2", "Pinched")],
    ),
];

/// A length as it was called: what was not right of it.
#[derive(Debug, Clone)]
pub(super) struct Ridden {
    crank: f64,
    wrong: Vec<&'static str>,
}

impl CrankComparison {
    /// Every length once, as set up.
    fn lengths(&self) -> Vec<f64> {
        let mut all: Vec<f64> = Vec::new();
        for length in [self.a_mm, self.b_mm, self.c_mm] {
            if all.iter().all(|known| (known - length).abs() >= ALIKE_MM) {
                all.push(length);
            }
        }
        all
    }

    /// In the order they are ridden: a hidden one as it was thrown.
    fn ridden_in(&self, thrown: &[bool]) -> Vec<f64> {
        let mut all = self.lengths();
        if self.order == Order::Hidden {
            let throw = |n: usize| thrown.get(n).copied().unwrap_or_default();
            // Two throws name one of the first places, a third whether the rest change places.
            let first = usize::from(throw(0)) + usize::from(throw(1) && all.len() > 2);
            all.rotate_left(first);
            if all.len() > 2 && throw(2) {
                all.swap(1, 2);
            }
        }
        all
    }

    fn set_words(trying: &Trying, crank: f64) -> String {
        let changes = keeping_the_bottom(trying, crank);
        trying
            .weigh(changes)
            .map_or_else(|| "as it stands".to_owned(), |weighed| weighed.title)
    }

    fn is_hidden(&self) -> bool {
        self.order == Order::Hidden
    }
}

/// The place in the comparison of what is asked.
fn round_of(ask: &str) -> Option<usize> {
    ask.split('.').next()?.parse().ok()
}

impl Guided for CrankComparison {
    type SoFar = Vec<Ridden>;

    const PROTOCOL: Protocol = Protocol::CrankComparison;
    const AT: &'static [Station] = &[Station::Cranks];

    /// As it is, against what lies on hand; a little shorter where nothing does.
    fn proposed(for_this: &Proposing) -> Self {
        let now = crank_now(for_this.on);
        let mut others: Vec<f64> = (for_this.cranks.iter().copied())
            .filter(|length| (length - now).abs() >= ALIKE_MM)
            .collect();
        others.sort_by(|a, b| (a - now).abs().total_cmp(&(b - now).abs()));
        let b = others.first().copied().unwrap_or(now - SHORTER_MM);
        Self {
            a_mm: now,
            b_mm: b,
            c_mm: others.get(1).copied().unwrap_or(b),
            order: Order::Hidden,
        }
    }

    fn settings(&self) -> Vec<Setting> {
        vec![
            Setting::number("a_mm", "One length", self.a_mm, Unit::Mm),
            Setting::number("b_mm", "Another", self.b_mm, Unit::Mm),
            Setting::number("c_mm", "A third, or as before", self.c_mm, Unit::Mm),
            Setting::word("order", "Order", self.order),
        ]
    }

    fn refusals(&self, at: &str) -> Vec<Refusal> {
        let lengths = [
            ("a_mm", self.a_mm),
            ("b_mm", self.b_mm),
            ("c_mm", self.c_mm),
        ];
        let mut all: Vec<Refusal> = lengths
            .into_iter()
            .filter_map(|(key, value)| Quantity::Crank.refuse(value, &format!("{at}/{key}")))
            .collect();
        if all.is_empty() && self.lengths().len() < 2 {
            let words = "A comparison needs two lengths a millimetre apart at the least";
            all.push(Refusal::new(format!("{at}/b_mm"), words));
        }
        all
    }

    fn hides(&self) -> u32 {
        if self.is_hidden() { 3 } else { 0 }
    }

    fn setting(&self, run: &Run, _ever: &[super::Call]) -> Option<String> {
        if !self.is_hidden() {
            return None;
        }
        let ask = guided(self, run).screen.ask?;
        let round = round_of(&ask.id)?.checked_sub(1)?;
        let crank = *self.ridden_in(run.order).get(round)?;
        Some(format!(
            "Crank {}: {}",
            written(crank),
            Self::set_words(run.on, crank)
        ))
    }

    fn read(
        &self,
        run: &Run,
        script: &mut Script,
        ridden: &mut Vec<Ridden>,
    ) -> Result<(), Box<Asked>> {
        let order = self.ridden_in(run.order);
        let many = order.len();
        for (n, crank) in (1..).zip(order) {
            let place = format!("Length {n} of {many}");
            let label = if self.is_hidden() {
                n.to_string()
            } else {
                written(crank)
            };
            let set = if self.is_hidden() {
                "Hold H to see the length. Set, out of the rider’s sight?"
            } else {
                "Set, tightened, and the rider is on?"
            };
            let riding = |asked: Box<Asked>| {
                let asked = asked.riding(label.clone());
                if self.is_hidden() {
                    return asked;
                }
                let now = run.on.before_setup().pedalling.right.crank_mm.0;
                asked.moved(Quantity::Crank, crank - now)
            };
            let ask = Ask::enter(format!("{n}.set"), set, "Ride");
            script
                .ask(ask, || Saying {
                    place: place.clone(),
                    instruction: if self.is_hidden() {
                        "Set the hidden length".to_owned()
                    } else {
                        format!("Crank {}: {}", written(crank), Self::set_words(run.on, crank))
                    },
                    detail: "The stroke’s bottom is kept: the saddle goes up by what the crank is shorter. The rider looks ahead."
                        .to_owned(),
                    timer_s: None,
                })
                .map_err(riding)?;
            let mut wrong = Vec::new();
            for (key, question, answers) in ASKED {
                let ask = Ask::keys(format!("{n}.{key}"), question, &answers);
                let called = script
                    .ask(ask, || Saying {
                        place: place.clone(),
                        instruction: "Ride, then ask".to_owned(),
                        detail: "Sitting, at the named effort; a few turns standing, a few slow corners.".to_owned(),
                        timer_s: Some(RIDE_S),
                    })
                    .map_err(riding)?;
                if called.is("2") {
                    wrong.push(answers[1].1);
                }
            }
            ridden.push(Ridden { crank, wrong });
        }
        Ok(())
    }

    fn notches(&self, run: &Run, ridden: &Vec<Ridden>) -> Vec<Notch> {
        let shown = !self.is_hidden() || run.stopped || ridden.len() == self.lengths().len();
        (1..)
            .zip(ridden)
            .map(|(n, ridden): (u32, _)| Notch {
                label: if shown {
                    written(ridden.crank)
                } else {
                    n.to_string()
                },
                words: if ridden.wrong.is_empty() {
                    "nothing wrong".to_owned()
                } else {
                    ridden.wrong.join(", ").to_lowercase()
                },
                state: if ridden.wrong.is_empty() {
                    NotchState::Quiet
                } else {
                    NotchState::Marked
                },
            })
            .collect()
    }

    fn finding(&self, run: &Run, ridden: &Vec<Ridden>) -> Finding {
        let protocol = Protocol::CrankComparison;
        if ridden.len() < 2 {
            return Finding::broken(protocol);
        }
        let mut ranked: Vec<&Ridden> = ridden.iter().collect();
        ranked.sort_by_key(|ridden| ridden.wrong.len());
        let mut words: Vec<String> = (ridden.iter())
            .map(|ridden| {
                let wrong = if ridden.wrong.is_empty() {
                    "nothing wrong".to_owned()
                } else {
                    ridden.wrong.join(", ").to_lowercase()
                };
                format!("{}: {wrong}.", written(ridden.crank))
            })
            .collect();
        words.push(at_equal_power(run.on, &self.lengths()));
        let (best, next) = (ranked[0], ranked[1]);
        if best.wrong.len() == next.wrong.len() {
            words.push(
                "Called alike: the length that opens more room, or the one that is there."
                    .to_owned(),
            );
            return Finding {
                words,
                quantity: Some(Quantity::Crank),
                ..Finding::new(protocol, Says::Nothing, "It says nothing")
            };
        }
        let to = best.crank;
        let move_to = ((to - crank_now(run.on)).abs() >= ALIKE_MM).then(|| {
            Step::of(
                run.on,
                keeping_the_bottom(run.on, to),
                "the stroke’s bottom kept".to_owned(),
            )
        });
        Finding {
            words,
            quantity: Some(Quantity::Crank),
            value: Some(to),
            spread: Some((next.crank - to).abs() / 2.0),
            moves: move_to.flatten().into_iter().collect(),
            ..Finding::new(protocol, Says::Found, format!("Crank {}", written(to)))
        }
    }
}

/// Foot speed and mean force along the foot's way at equal power, `P = F·v` and `v = 2π·r·n`, and the cadence at which the
/// foot is as fast as it is now.
fn at_equal_power(ride: &Ride, lengths: &[f64]) -> String {
    let (power, rpm) =
        (ride.effort).map_or(REFERENCE, |effort| (effort.power_w, effort.cadence_rpm));
    let now = crank_now(ride);
    let each = lengths.iter().map(|crank| {
        let metres_a_second = std::f64::consts::TAU * crank / 1000.0 * rpm / 60.0;
        format!(
            "{}: foot {} m/s, {} N, as fast a foot as now at {} rpm",
            written(*crank),
            written(metres_a_second),
            written((power / metres_a_second).round()),
            written((rpm * now / crank).round()),
        )
    });
    let each: Vec<String> = each.collect();
    capital(&format!(
        "at {} W and {} rpm: {}.",
        written(power),
        written(rpm),
        each.join("; ")
    ))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;

    #[test]
    fn every_order_of_three_can_be_thrown_and_none_is_lost() {
        let plan = CrankComparison {
            a_mm: 172.5,
            b_mm: 165.0,
            c_mm: 170.0,
            order: Order::Hidden,
        };
        let mut orders: Vec<Vec<f64>> = Vec::new();
        for bits in 0..8_u8 {
            let thrown = [bits & 1 != 0, bits & 2 != 0, bits & 4 != 0];
            let order = plan.ridden_in(&thrown);
            let mut sorted = order.clone();
            sorted.sort_by(f64::total_cmp);
            assert_eq!(sorted, [165.0, 170.0, 172.5]);
            if !orders.contains(&order) {
                orders.push(order);
            }
        }
        assert_eq!(orders.len(), 6);
        let open = CrankComparison {
            order: Order::Open,
            ..plan
        };
        assert_eq!(open.ridden_in(&[true, true, true]), [172.5, 165.0, 170.0]);
    }

    #[test]
    fn golden_force_and_speed_at_equal_power() {
        // 172.5 at 90 rpm: 2π · 0.1725 · 1.5 = 1.626 m/s, 200 / 1.626 = 123 N; 165 needs 94 rpm for as fast a foot.
        let ride = example::road().check().unwrap();
        let words = at_equal_power(&ride, &[172.5, 165.0]);
        assert!(
            words.starts_with("At 200 W and 90 rpm: 172.5: foot 1.6 m/s, 123 N"),
            "{words}"
        );
        assert!(
            words.ends_with("165: foot 1.6 m/s, 129 N, as fast a foot as now at 94 rpm."),
            "{words}"
        );
    }
}
