//! A card for a fork or a shock: sag from the o-ring, pressure as a log, and the pressure to try next.

use crate::measure::{Quantity, Reading, latest, mean, spread};
use crate::rule::rules;
use crate::words::{tenth, words, written};
use serde::Serialize;

rules! {
    rules "Suspension";
    /// Sag where the maker says nothing, of travel or stroke.
    const TARGET_PERCENT: f64 = 30.0, " %", Workshop;
    /// Sag this near is there.
    const THERE_PERCENT: f64 = 1.5, " %", House;
    /// Pressure changes by at most this share in one step.
    const STEP: f64 = 0.25, "", Workshop;
    /// A dial is turned by so many clicks at once.
    const CLICKS: (f64, f64) = (1.0, 2.0), " clicks", Workshop;
    /// Two pressures this far apart tell the spring.
    const APART: f64 = 0.03, "", House;
    /// A spring's exponent within these is believed.
    const EXPONENT: (f64, f64) = (0.4, 2.5), "", House;
}

words! {
    /// What is filled with air.
    pub enum Spring {
        Fork "fork" "Fork",
        Shock "shock" "Shock",
    }
}

impl Spring {
    /// Travel or stroke, target, o-ring, pressure, rebound, compression.
    pub fn quantities(self) -> [Quantity; 6] {
        use Quantity as Q;
        match self {
            Self::Fork => [
                Q::ForkTravel,
                Q::ForkTarget,
                Q::ForkRing,
                Q::ForkPressure,
                Q::ForkRebound,
                Q::ForkCompression,
            ],
            Self::Shock => [
                Q::ShockStroke,
                Q::ShockTarget,
                Q::ShockRing,
                Q::ShockPressure,
                Q::ShockRebound,
                Q::ShockCompression,
            ],
        }
    }
}

/// What was read under one pressure.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Filled {
    /// By the gauge, bar; none where nobody read it.
    pub pressure_bar: Option<f64>,
    /// O-ring, mean of its readings, mm.
    pub ring_mm: f64,
    /// How many readings.
    pub readings: usize,
    /// Their spread, one standard deviation, mm; none of one.
    pub spread_mm: Option<f64>,
    /// Share of travel or stroke.
    pub percent: f64,
}

/// A fork or shock as it stands.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = SagCard))]
pub struct Card {
    /// Of what.
    pub spring: Spring,
    /// As it is called.
    pub label: String,
    /// Travel of a fork, stroke of a shock, mm; none until typed.
    pub travel_mm: Option<f64>,
    /// The target, of the travel.
    pub target_percent: f64,
    /// Whether that is its maker's.
    pub by_maker: bool,
    /// The target as the o-ring shows it, mm.
    pub target_mm: Option<f64>,
    /// What was read, pressure by pressure, the latest last.
    pub log: Vec<Filled>,
    /// "13 %, 30 wanted: too firm, let air out".
    pub verdict: Option<String>,
    /// The pressure to try, bar: an estimate.
    pub try_bar: Option<f64>,
    /// Where that comes from.
    pub try_words: Option<String>,
    /// Rebound and compression, clicks from closed, as last counted.
    pub clicks: [Option<f64>; 2],
    /// What to do with dials.
    pub dials: String,
}

/// The card of a fork or a shock, from its readings in the order they were taken.
pub fn card(spring: Spring, readings: &[Reading]) -> Card {
    let [travel, target, ring, pressure, rebound, compression] = spring.quantities();
    let last = |quantity| latest(readings, quantity).map(|r| r.value);
    let travel_mm = last(travel);
    let own = last(target);
    let target_percent = own.unwrap_or(TARGET_PERCENT);
    let log = travel_mm.map_or_else(Vec::new, |travel| {
        filled(readings, (ring, pressure), travel)
    });
    let now = log.last();
    let verdict = now.map(|at| verdict(at.percent, target_percent));
    let tried = now.and_then(|at| next_pressure(&log, at, target_percent));
    Card {
        spring,
        label: spring.label().to_owned(),
        travel_mm,
        target_percent,
        by_maker: own.is_some(),
        target_mm: travel_mm.map(|travel| tenth(travel * target_percent / 100.0)),
        verdict,
        try_bar: tried.as_ref().map(|(bar, _)| *bar),
        try_words: tried.map(|(_, words)| words),
        clicks: [last(rebound), last(compression)],
        dials: format!(
            "Clicks counted from closed; one dial at a time, {} to {} clicks, the same piece of trail each time",
            written(CLICKS.0),
            written(CLICKS.1)
        ),
        log,
    }
}

/// Readings of the ring under each pressure, in their order: a pressure read anew begins anew.
fn filled(
    readings: &[Reading],
    (ring, pressure): (Quantity, Quantity),
    travel: f64,
) -> Vec<Filled> {
    let mut groups: Vec<(Option<f64>, Vec<f64>)> = Vec::new();
    let mut bar = None;
    for reading in readings {
        if reading.quantity == pressure {
            bar = Some(reading.value);
        } else if reading.quantity == ring {
            match groups.last_mut() {
                Some((known, all)) if *known == bar => all.push(reading.value),
                _ => groups.push((bar, vec![reading.value])),
            }
        }
    }
    let told = |(pressure_bar, all): (Option<f64>, Vec<f64>)| {
        let ring_mm = mean(&all)?;
        Some(Filled {
            pressure_bar,
            ring_mm,
            readings: all.len(),
            spread_mm: spread(&all, ring_mm),
            percent: 100.0 * ring_mm / travel,
        })
    };
    groups.into_iter().filter_map(told).collect()
}

fn verdict(percent: f64, target: f64) -> String {
    let at = format!("{} %, {} wanted", written(percent.round()), written(target));
    let off = percent - target;
    if off.abs() <= THERE_PERCENT {
        format!("{at}: right")
    } else if off < 0.0 {
        format!("{at}: too firm, let air out")
    } else {
        format!("{at}: too soft, more air")
    }
}

/// First by proportion, then by the rider's own spring: `e = ln(s₂/s₁)/ln(p₁/p₂)`, `p = p₂ (s₂/s_target)^(1/e)`.
fn next_pressure(log: &[Filled], at: &Filled, target: f64) -> Option<(f64, String)> {
    let now = at.pressure_bar?;
    if (at.percent - target).abs() <= THERE_PERCENT || at.percent <= 0.0 {
        return None;
    }
    let told = |before: &Filled| {
        let was = before.pressure_bar?;
        let apart = (was / now).ln();
        let exponent = (at.percent / before.percent).ln() / apart;
        (apart.abs() > APART
            && before.percent > 0.0
            && (EXPONENT.0..=EXPONENT.1).contains(&exponent))
        .then_some(exponent)
    };
    let exponent = log.iter().rev().skip(1).find_map(told);
    let wanted = now * (at.percent / target).powf(1.0 / exponent.unwrap_or(1.0));
    let cut = wanted.clamp(now * (1.0 - STEP), now * (1.0 + STEP));
    let how = match exponent {
        Some(exponent) => format!(
            "by what this spring did so far (exponent {})",
            written(tenth(exponent))
        ),
        None => "by proportion: sag times pressure stays, roughly".to_owned(),
    };
    let step = if (cut - wanted).abs() > 1e-9 {
        "; a quarter at a time, the rest after".to_owned()
    } else {
        String::new()
    };
    Some((tenth(cut), format!("An estimate, {how}{step}")))
}

/// What share of its travel the wheel has gone when the shock has gone `stroke` of its own, both 0 to 1.
///
/// `x(2 − p·x) / (2 − p)`: a leverage that falls evenly by the share `p` from the start of the stroke to its end, as frames'
/// makers give it, integrated; `p` = 0 is in proportion.
pub fn wheel_share(stroke: f64, progression: f64) -> f64 {
    stroke * (2.0 - progression * stroke) / (2.0 - progression)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn read(all: &[(Quantity, f64)]) -> Vec<Reading> {
        all.iter()
            .map(|(quantity, value)| Reading::new(*quantity, *value))
            .collect()
    }

    #[test]
    fn golden_wheel_under_a_leverage_that_falls() {
        assert!((wheel_share(0.3, 0.0) - 0.3).abs() < 1e-12);
        // Leverage 3.0 falling to 2.25 over 60 mm of stroke is 157.5 mm of travel: after 18 mm the wheel has gone
        // 18·(3.0 + 2.775)/2 = 51.975 mm.
        assert!((157.5 * wheel_share(0.3, 0.25) - 51.975).abs() < 1e-9);
        for progression in [-0.3, 0.0, 0.2, 0.6] {
            assert!((wheel_share(1.0, progression) - 1.0).abs() < 1e-12);
            assert!(wheel_share(0.0, progression).abs() < 1e-12);
        }
    }

    #[test]
    fn golden_sag_of_a_fork() {
        use Quantity as Q;
        // 20 of 150 is 13 %; 30 % of 150 is 45 mm. At 8 bar by proportion: 8 × 13.33/30 = 3.56, cut at a quarter: 6.
        let card = card(
            Spring::Fork,
            &read(&[
                (Q::ForkTravel, 150.0),
                (Q::ForkPressure, 8.0),
                (Q::ForkRing, 20.0),
            ]),
        );
        assert_eq!(
            card.verdict.as_deref(),
            Some("13 %, 30 wanted: too firm, let air out")
        );
        assert_eq!(card.target_mm, Some(45.0));
        assert!(!card.by_maker);
        assert_eq!(card.try_bar, Some(6.0));
        assert!(card.try_words.unwrap().contains("a quarter at a time"));
    }

    #[test]
    fn three_readings_are_one_with_their_spread_and_a_spring_is_learnt() {
        use Quantity as Q;
        let card = card(
            Spring::Shock,
            &read(&[
                (Q::ShockStroke, 60.0),
                (Q::ShockTarget, 28.0),
                (Q::ShockPressure, 12.0),
                (Q::ShockRing, 11.0),
                (Q::ShockRing, 12.0),
                (Q::ShockRing, 13.0),
                (Q::ShockPressure, 10.0),
                (Q::ShockRing, 15.0),
            ]),
        );
        assert_eq!(card.log.len(), 2);
        assert_eq!((card.log[0].readings, card.log[0].percent), (3, 20.0));
        assert!((card.log[0].spread_mm.unwrap() - 1.0).abs() < 1e-9);
        assert_eq!(card.log[1].spread_mm, None);
        // e = ln(25/20)/ln(12/10) = 1.2239; 10 × (25/28)^(1/1.2239) = 9.115.
        assert_eq!(card.try_bar, Some(9.1));
        assert!(card.try_words.unwrap().contains("this spring"));
        assert!(card.by_maker);
    }

    #[test]
    fn what_is_right_is_left_and_nothing_is_told_of_nothing() {
        use Quantity as Q;
        let there = card(
            Spring::Fork,
            &read(&[
                (Q::ForkTravel, 150.0),
                (Q::ForkPressure, 6.0),
                (Q::ForkRing, 44.0),
            ]),
        );
        assert_eq!(there.verdict.as_deref(), Some("29 %, 30 wanted: right"));
        assert_eq!(there.try_bar, None);
        let none = card(Spring::Fork, &read(&[(Q::ForkRing, 44.0)]));
        assert!(none.verdict.is_none() && none.log.is_empty() && none.target_mm.is_none());
    }
}
