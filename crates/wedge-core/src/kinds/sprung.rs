//! The bike as it stands under its rider: sag turns and lowers the frame, and with it what the rider sits on.

use crate::bike::Frame;
use crate::plane::Point;
use crate::units::Degrees;
use serde::Serialize;

/// What sag makes of a frame, beside the static one.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = UnderSag))]
pub struct Sprung {
    /// How far the bike pitches back, degrees; forward negative.
    pub pitch_deg: f64,
    /// Head angle, static.
    pub head_deg: f64,
    /// And under sag.
    pub head_sag_deg: f64,
    /// BB above the ground, static, mm.
    pub bb_mm: f64,
    /// And under sag.
    pub bb_sag_mm: f64,
    /// Setback of the sit reference, static, mm.
    pub setback_mm: f64,
    /// And under sag, by the level: less is further forward.
    pub setback_sag_mm: f64,
    /// Saddle tilt under sag, by the level, front up.
    pub tilt_sag_deg: f64,
}

/// The frame under sag: the fork's along the steerer, the rear wheel's upright.
///
/// `F' = F + s_f(−cos θ, sin θ)`, `R' = R + (0, wheel sag)`; the pitch is that of the axles' line against the static one. Wheels
/// alike, so their radii cancel.
pub fn sprung(
    frame: &Frame,
    sit: Point,
    tilt: Degrees,
    fork_sag_mm: f64,
    wheel_sag_mm: f64,
) -> Sprung {
    let (front, rear) = (frame.front_axle(), frame.rear_axle());
    let slope = |front: Point, rear: Point| (front - rear).y.atan2((front - rear).x);
    let front_sag = front + frame.steerer_axis() * fork_sag_mm;
    let rear_sag = rear + Point::new(0.0, wheel_sag_mm);
    let turned = slope(front_sag, rear_sag) - slope(front, rear);
    // The axles' line rises in the frame's own sense where the fork sinks more: the frame then pitches forward, and the head
    // tube stands steeper.
    let alpha = turned.to_degrees();
    let height = |axle: Point, by: f64| frame.wheel_radius_mm.0 - axle.turned(Degrees(-by)).y;
    let moved = sit.turned(Degrees(-alpha));
    Sprung {
        pitch_deg: -alpha,
        head_deg: frame.head_angle_deg.0,
        head_sag_deg: frame.head_angle_deg.0 + alpha,
        bb_mm: height(rear, 0.0),
        bb_sag_mm: height(rear_sag, alpha),
        setback_mm: -sit.x,
        setback_sag_mm: -moved.x,
        tilt_sag_deg: tilt.0 - alpha,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use crate::units::Millimetres;

    /// Head angle 65°, wheelbase 1210, BB 30 below the axles, saddle 700 up and 200 back.
    fn trail() -> (Frame, Point) {
        let mut frame = example::flat_bar().frame;
        frame.head_angle_deg = Degrees(65.0);
        frame.wheel_radius_mm = Millimetres(370.0);
        frame.bb_drop_mm = Millimetres(30.0);
        frame.chainstay_mm = Millimetres(435.0_f64.hypot(30.0));
        frame.front_centre_mm = Millimetres(775.0_f64.hypot(30.0));
        (frame, Point::new(-200.0, 710.0))
    }

    #[test]
    fn golden_both_ends_sink_alike() {
        let (frame, sit) = trail();
        let at = sprung(&frame, sit, Degrees(0.0), 42.0, 39.0);
        assert!(
            (at.head_sag_deg - at.head_deg + 0.04).abs() < 0.01,
            "{at:?}"
        );
        assert!((at.bb_sag_mm - at.bb_mm + 38.7).abs() < 0.1, "{at:?}");
        assert!(
            (at.setback_mm - at.setback_sag_mm + 0.6).abs() < 0.1,
            "{at:?}"
        );
    }

    #[test]
    fn golden_a_fork_alone_steepens() {
        let (frame, sit) = trail();
        let at = sprung(&frame, sit, Degrees(-2.0), 42.0, 0.0);
        assert!(
            (at.head_sag_deg - at.head_deg - 1.83).abs() < 0.01,
            "{at:?}"
        );
        assert!((at.bb_sag_mm - at.bb_mm + 13.9).abs() < 0.2, "{at:?}");
        assert!(
            (at.setback_mm - at.setback_sag_mm - 22.6).abs() < 0.2,
            "{at:?}"
        );
        assert!((at.tilt_sag_deg + 3.83).abs() < 0.01);
    }
}
