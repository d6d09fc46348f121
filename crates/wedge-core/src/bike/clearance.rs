//! Clearances: toe to front wheel, pedal to ground, rider over the frame.

use super::{Frame, Pedalling};
use crate::rule::rules;
use crate::units::{Degrees, Millimetres};

rules! {
    rules "Bike";
    /// A shoe ends this far ahead of the longest toe.
    const SHOE_AHEAD_MM: f64 = 10.0, " mm", House;
}

/// Toe overlap: `front centre − tyre radius − reach of crank and toe`, positive = clear. `toe_ahead` is the toe ahead
/// of the pedal axle, the foot level.
pub(crate) fn toe(frame: &Frame, pedalling: &Pedalling, toe_ahead: f64) -> Millimetres {
    Millimetres(
        frame.front_centre_mm.0
            - frame.wheel_radius_mm.0
            - (pedalling.crank_mm.0 + toe_ahead + SHOE_AHEAD_MM),
    )
}

/// Ground left under the lowered pedal's axle: `wheel radius − BB drop − sag − crank`.
pub(crate) fn axle_to_ground(frame: &Frame, pedalling: &Pedalling) -> Millimetres {
    frame.wheel_radius_mm - frame.bb_drop_mm - frame.sag_mm.unwrap_or_default() - pedalling.crank_mm
}

/// The lean at which the lowered pedal strikes the ground: λ solves `ρ + (h − ρ) cos λ = w sin λ`, with w the pedal's
/// outer end from the mid-plane, h the height of its lower edge at the bottom, at sag, and ρ the radius of the tyre's
/// section. `None` until pedal and tyre are known.
pub(crate) fn pedal_lean(frame: &Frame, pedalling: &Pedalling) -> Option<Degrees> {
    let out = pedalling.pedal_out_mm?.0;
    let below = pedalling.pedal_below_mm?.0;
    let tyre = frame.tyre_mm?.0 / 2.0;
    let height = axle_to_ground(frame, pedalling).0 - below;
    Some(lean(height, out, tyre))
}

/// `(h − ρ) cos λ − w sin λ = R cos(λ + φ) = −ρ`, with `R² = (h − ρ)² + w²` and `tan φ = w / (h − ρ)`.
fn lean(height: f64, out: f64, tyre: f64) -> Degrees {
    let radius = (height - tyre).hypot(out);
    let phase = out.atan2(height - tyre);
    Degrees::from_radians((-tyre / radius).clamp(-1.0, 1.0).acos() - phase)
}

/// Room between the rider and the top tube: barefoot inseam less the standover height. `None` until that is known.
pub(crate) fn standover(frame: &Frame, inseam: Millimetres) -> Option<Millimetres> {
    frame.standover_mm.map(|height| inseam - height)
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use proptest::prelude::*;

    #[test]
    fn golden_pedal_strike() {
        // A tyre of no width: h cos λ = w sin λ, tan λ = h / w. h 100, w 100: 45°. h 57.735, w 100: 30°.
        assert!((lean(100.0, 100.0, 0.0).0 - 45.0).abs() < 1e-9);
        assert!((lean(57.735_027, 100.0, 0.0).0 - 30.0).abs() < 1e-6);
        // With a tyre of 14 mm radius the equation itself is the check.
        let angle = lean(105.0, 140.0, 14.0);
        let (sin, cos) = angle.sin_cos();
        assert!((14.0 + (105.0 - 14.0) * cos - 140.0 * sin).abs() < 1e-9);
    }

    #[test]
    fn golden_toe_overlap() {
        // Front centre 592 − tyre 340 − (crank 172.5 + toe 95 + shoe 10) = −25.5: the toe meets the wheel.
        let input = example::road();
        let clear = toe(&input.frame, &input.setup.pedalling.right, 95.0);
        assert!((clear.0 + 25.5).abs() < 1e-9);
    }

    #[test]
    fn golden_ground_under_the_axle() {
        // Wheel 340 − BB drop 70 − crank 172.5 = 97.5; 20 mm of sag take as much.
        let mut input = example::road();
        let at = |frame: &Frame| axle_to_ground(frame, &input.setup.pedalling.right).0;
        assert!((at(&input.frame) - 97.5).abs() < 1e-9);
        input.frame.sag_mm = Some(Millimetres(20.0));
        assert!((axle_to_ground(&input.frame, &input.setup.pedalling.right).0 - 77.5).abs() < 1e-9);
    }

    #[test]
    fn golden_standover() {
        let mut frame = example::road().frame;
        frame.standover_mm = None;
        assert_eq!(standover(&frame, Millimetres(845.0)), None);
        frame.standover_mm = Some(Millimetres(800.0));
        assert_eq!(
            standover(&frame, Millimetres(845.0)),
            Some(Millimetres(45.0))
        );
    }

    proptest! {
        #[test]
        fn clearances_shrink_with_what_sticks_out(
            crank in 150.0..180.0_f64, more in 0.1..20.0_f64, out in 110.0..180.0_f64, tyre in 20.0..60.0_f64,
        ) {
            let mut input = example::road();
            input.frame.tyre_mm = Some(Millimetres(tyre));
            let mut short = input.setup.pedalling.right;
            short.crank_mm = Millimetres(crank);
            short.pedal_out_mm = Some(Millimetres(out));
            short.pedal_below_mm = Some(Millimetres(10.0));
            let long = Pedalling { crank_mm: Millimetres(crank + more), ..short };
            let wide = Pedalling { pedal_out_mm: Some(Millimetres(out + more)), ..short };
            let strike = |p: &Pedalling| pedal_lean(&input.frame, p).unwrap().0;
            prop_assert!(strike(&long) < strike(&short));
            prop_assert!(strike(&wide) < strike(&short));
            prop_assert!(toe(&input.frame, &long, 95.0).0 < toe(&input.frame, &short, 95.0).0);
        }
    }
}
