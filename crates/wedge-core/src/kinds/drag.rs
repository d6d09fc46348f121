//! The front the wind meets: an index that compares a rider with himself, and watts only where somebody measured drag.

use crate::foresee::Trying;
use crate::measure::Quantity;
use crate::plane::Point;
use crate::position::Position;
use crate::rule::rules;
use serde::{Deserialize, Serialize};

rules! {
    rules "Frontal index";
    /// Depth of a trunk, as a share of stature.
    const TRUNK_DEEP: f64 = 0.12, " × stature", House;
    /// Breadth and depth of an upper arm,
    const UPPER_ARM: f64 = 0.05, " × stature", House;
    /// and of a forearm.
    const FOREARM: f64 = 0.045, " × stature", House;
    /// A head, seen from ahead: across and up.
    const HEAD: (f64, f64) = (0.10, 0.13), " × stature", House;
    /// Hip breadth where it was not measured.
    const HIP_BREADTH: f64 = 0.191, " × stature", Published ("R. Drillis, R. Contini, Body segment parameters, 1966");
    /// Above this torso a lower back need not make the index smaller.
    pub(super) const MONOTONE_BELOW_DEG: f64 = 65.0, "°", House;
    /// Drag area goes with the index by this share, give or take
    const SHARE: f64 = 0.6, "", House;
    /// so much.
    const SHARE_SPREAD: f64 = 0.2, "", House;
}

/// One segment's outline seen from ahead, mm²: `b(|Δy| + d·|Δx|/L)`.
fn seen(from: Point, to: Point, breadth: f64, depth: f64) -> f64 {
    let (span, length) = (to - from, from.distance(to).max(1.0));
    breadth * (span.y.abs() + depth * span.x.abs() / length)
}

/// The projected outline of the drawn rider from ahead, m²: trunk, both upper arms and forearms, head. What is drawn is not
/// measured, so this says nothing of drag by itself: it compares positions of one rider.
pub fn frontal_index(trying: &Trying, position: &Position) -> f64 {
    let body = &trying.rider.body;
    let stature = body.stature_mm.0;
    let hips = body
        .get(Quantity::HipBreadth)
        .unwrap_or(HIP_BREADTH * stature);
    let shoulders = trying.lengths().shoulder_breadth.value_mm.0;
    let at = &position.upper.points;
    let arm = UPPER_ARM * stature;
    let fore = FOREARM * stature;
    let trunk = seen(
        at.hip,
        at.shoulder,
        f64::midpoint(shoulders, hips),
        TRUNK_DEEP * stature,
    );
    let arms =
        2.0 * seen(at.shoulder, at.elbow, arm, arm) + 2.0 * seen(at.elbow, at.wrist, fore, fore);
    let head = HEAD.0 * HEAD.1 * stature * stature;
    (trunk + arms + head) / 1e6
}

/// What a rider measured of the wind.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Drag {
    /// Drag area of the position as found, m².
    pub drag_area_m2: f64,
    /// Air density, kg/m³.
    pub air_density_kg_m3: f64,
    /// Speed in still air, m/s.
    pub speed_m_s: f64,
}

/// Power against the wind, W, with what it may be off by.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Watts {
    /// The estimate.
    pub watts: f64,
    /// Give or take: of how drag goes with the index alone.
    pub spread: f64,
    /// Against the baseline, negative when less.
    pub change: f64,
}

/// `P = ½ ρ CdA v³` in still air, with `CdA' = CdA [1 + s(A/A₀ − 1)]`, s = .6 ± .2.
pub fn watts(drag: &Drag, index: f64, baseline: f64) -> Watts {
    let power = |area: f64| 0.5 * drag.air_density_kg_m3 * area * drag.speed_m_s.powi(3);
    let by = index / baseline - 1.0;
    let measured = power(drag.drag_area_m2);
    let now = power(drag.drag_area_m2 * (1.0 + SHARE * by));
    Watts {
        watts: now,
        spread: (measured * SHARE_SPREAD * by).abs(),
        change: now - measured,
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn golden_watts_of_a_measured_rider() {
        // ½ × 1.2 × .25 × 12³ = 259.2 W. An index a tenth smaller takes 6 % ± 2 %: 243.65, −15.55, ± 5.18.
        let drag = Drag {
            drag_area_m2: 0.25,
            air_density_kg_m3: 1.2,
            speed_m_s: 12.0,
        };
        let same = watts(&drag, 0.4, 0.4);
        assert!(
            (same.watts - 259.2).abs() < 1e-9 && same.spread < 1e-9 && same.change.abs() < 1e-9
        );
        let less = watts(&drag, 0.36, 0.4);
        assert!((less.watts - 243.648).abs() < 1e-6);
        assert!((less.change + 15.552).abs() < 1e-6);
        assert!((less.spread - 5.184).abs() < 1e-6);
    }

    #[test]
    fn golden_outline_of_a_segment() {
        // 300 along, 400 up: 500 long. 100 broad, 50 deep: 100 × (400 + 50 × 300/500) = 43000 mm².
        let one = seen(Point::new(0.0, 0.0), Point::new(300.0, 400.0), 100.0, 50.0);
        assert!((one - 43_000.0).abs() < 1e-9);
    }
}
