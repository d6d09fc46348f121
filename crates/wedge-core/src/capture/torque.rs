//! Torque over the stroke, by clock sectors of the right crank: power, the half-turn split, evenness, flat spots.

use crate::rule::rules;
use crate::units::Sides;
use serde::{Deserialize, Serialize};

rules! {
    rules "Torque";
    /// Sectors of a turn.
    pub const SECTORS: usize = 24, "", House;
    /// A dip counts as a flat spot only above this share of the push's peak.
    const FLAT_ABOVE: f64 = 0.45, "", House;
    /// And when its neighbours stand above it by more than this share of the peak together.
    const FLAT_DEEP: f64 = 0.08, "", House;
    /// And by more than so many standard errors.
    const FLAT_SURE: f64 = 2.0, "", House;
    /// Crank where a push has its peak, from that side's top.
    const PEAK: (f64, f64) = (60.0, 130.0), "°", Workshop;
}

/// Torque a sector, as a trainer or a file gives it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Torque {
    /// Mean torque at the crank axle in each of the 24 sectors of the right crank, from its top, N·m.
    pub sectors_nm: Vec<f64>,
    /// Standard error of each, where it is known.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub se_nm: Option<Vec<f64>>,
    /// Turns a minute.
    pub cadence_rpm: f64,
}

/// What torque by sector tells.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Wheel {
    /// `2π · rpm / 60 ×` the mean over angle, W.
    pub power_w: f64,
    /// What acts while the right crank goes down, of all: it counts the other leg's drag as well, so it is no leg's share. %.
    pub half_turn_split_percent: f64,
    /// Mean over peak of each push: 1 is even.
    pub evenness: Sides<f64>,
    /// Where each push has its peak, ° from that side's own top.
    pub peak_deg: Sides<f64>,
    /// Flat spots, ° from that side's own top.
    pub flat_deg: Sides<Vec<f64>>,
    /// What there is to say.
    pub messages: Vec<String>,
}

/// Reads torque by sector; none when there are not 24 finite numbers or nothing turns.
pub fn wheel(torque: &Torque) -> Option<Wheel> {
    let sectors = &torque.sectors_nm;
    let sound = sectors.len() == SECTORS
        && sectors.iter().all(|nm| nm.is_finite())
        && torque.se_nm.as_ref().is_none_or(|se| se.len() == SECTORS)
        && torque.cadence_rpm > 0.0;
    if !sound {
        return None;
    }
    let half = SECTORS / 2;
    let wide = 360.0 / SECTORS as f64;
    let sum: f64 = sectors.iter().sum();
    // A side's push, from its own top.
    let push =
        |from: usize| -> Vec<f64> { (0..half).map(|i| sectors[(from + i) % SECTORS]).collect() };
    let from = Sides {
        left: half,
        right: 0,
    };
    let peak_at = |push: &[f64]| {
        let peak = (0..half)
            .max_by(|a, b| push[*a].total_cmp(&push[*b]))
            .unwrap_or(0);
        (peak as f64 + 0.5) * wide
    };
    let flat = |from: usize| {
        let push = push(from);
        let peak = push.iter().copied().fold(0.0, f64::max);
        (1..half - 1)
            .filter(|at| {
                let deep = push[at - 1] - 2.0 * push[*at] + push[at + 1];
                let doubt = torque.se_nm.as_ref().map_or(0.0, |se| {
                    let of = |i: usize| se[(from + i) % SECTORS];
                    (of(at - 1).powi(2) + 4.0 * of(*at).powi(2) + of(at + 1).powi(2)).sqrt()
                });
                push[*at] > FLAT_ABOVE * peak && deep > FLAT_DEEP * peak && deep > FLAT_SURE * doubt
            })
            .map(|at| (at as f64 + 0.5) * wide)
            .collect::<Vec<f64>>()
    };
    let peak_deg = Sides {
        left: peak_at(&push(from.left)),
        right: peak_at(&push(from.right)),
    };
    let mut messages = Vec::new();
    if [peak_deg.left, peak_deg.right]
        .iter()
        .any(|peak| !(PEAK.0..=PEAK.1).contains(peak))
    {
        messages.push(format!(
            "The pushes peak {:.0}° and {:.0}° after the top: are the sectors turned?",
            peak_deg.left, peak_deg.right
        ));
    }
    let evenness = |from: usize| {
        let push = push(from);
        push.iter().sum::<f64>()
            / half as f64
            / push.iter().copied().fold(f64::MIN_POSITIVE, f64::max)
    };
    Some(Wheel {
        power_w: std::f64::consts::TAU * torque.cadence_rpm / 60.0 * sum / SECTORS as f64,
        half_turn_split_percent: 100.0 * push(0).iter().sum::<f64>() / sum,
        evenness: Sides {
            left: evenness(from.left),
            right: evenness(from.right),
        },
        peak_deg,
        flat_deg: Sides {
            left: flat(from.left),
            right: flat(from.right),
        },
        messages,
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    fn pushes(left: f64, right: f64) -> Torque {
        let sectors_nm = (0..24)
            .map(|i| {
                let own = (f64::from(i % 12) + 0.5) * 15.0;
                (if i < 12 { right } else { left }) * own.to_radians().sin()
            })
            .collect();
        Torque {
            sectors_nm,
            se_nm: None,
            cadence_rpm: 90.0,
        }
    }

    #[test]
    fn power_split_and_evenness_by_hand() {
        // Half sines of 40 and 60 N·m: their mean is 0.63836 of the peak at midpoints of 15°; (40 + 60)/2 · 0.6384 = 31.9 N·m;
        // × 2π · 1.5 = 300.8 W. Split 60 %.
        let wheel = wheel(&pushes(40.0, 60.0)).unwrap();
        assert!((wheel.power_w - 300.8).abs() < 0.3, "{}", wheel.power_w);
        assert!((wheel.half_turn_split_percent - 60.0).abs() < 1e-9);
        assert!((wheel.evenness.left - wheel.evenness.right).abs() < 1e-9);
        assert!((wheel.evenness.right - 0.6384 / 0.9914).abs() < 1e-3);
        assert!(wheel.flat_deg.left.is_empty() && wheel.messages.is_empty());
    }

    #[test]
    fn a_dent_is_a_flat_spot_unless_it_is_within_doubt() {
        let mut torque = pushes(50.0, 50.0);
        torque.sectors_nm[6] -= 8.0;
        assert_eq!(wheel(&torque).unwrap().flat_deg.right, vec![97.5]);
        torque.se_nm = Some(vec![4.0; 24]);
        assert!(wheel(&torque).unwrap().flat_deg.right.is_empty());
    }

    #[test]
    fn turned_sectors_are_asked_about_and_nonsense_has_no_wheel() {
        let mut torque = pushes(50.0, 50.0);
        torque.sectors_nm.rotate_right(4);
        assert!(wheel(&torque).unwrap().messages[0].contains("turned"));
        torque.sectors_nm.pop();
        assert!(wheel(&torque).is_none());
    }
}
