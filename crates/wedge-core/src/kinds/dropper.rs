//! The longest dropper a bike takes: the saddle clears the tyre at full drop and full travel, and the tube takes the post.

use crate::bike::Perch;
use crate::foresee::Trying;
use crate::plane::Point;
use crate::rule::rules;
use crate::words::written;
use serde::Serialize;

rules! {
    rules "Dropper";
    /// Droppers as they are sold.
    const SOLD_MM: [f64; 10] = [75.0, 100.0, 120.0, 125.0, 150.0, 170.0, 180.0, 200.0, 210.0, 240.0], " mm", House;
    /// The collar and the head above the tube, with the saddle all the way down.
    const ABOVE_MM: f64 = 60.0, " mm", House;
    /// A dropper is so much longer below its collar than it drops.
    const BELOW_MM: f64 = 105.0, " mm", House;
    /// The tube is straight and free so far short of the BB.
    const TUBE_MM: f64 = 60.0, " mm", House;
    /// Between saddle and tyre there stays
    const CLEAR_MM: f64 = 10.0, " mm", House;
}

/// A dropper of one length on a bike.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Dropper {
    /// How far it drops, mm.
    pub drop_mm: f64,
    /// What is left between tyre and saddle, all the way down and the rear wheel all the way up, mm.
    pub clear_mm: f64,
    /// Whether it goes.
    pub goes: bool,
    /// What stands in its way; empty where it goes.
    pub words: String,
}

/// Every dropper that is sold, the shortest first. `travel_mm` is the rear wheel's, nought of a rigid frame.
pub fn droppers(trying: &Trying, travel_mm: f64) -> Vec<Dropper> {
    let (frame, bike) = (&trying.frame, &trying.before.bike);
    let exposed = Perch::of(frame, &trying.setup).exposed_mm.0;
    let wheel = frame.rear_axle() + Point::new(0.0, travel_mm);
    let room = frame.seat_tube_mm.0 - TUBE_MM;
    let of = |drop_mm: f64| {
        let down = frame.post_axis() * -drop_mm;
        // The lowest edge of the saddle over the tyre: tail, or rails' clamp.
        let nearest = [bike.saddle_tail, bike.saddle_clamp]
            .map(|p| (p + down).distance(wheel))
            .into_iter()
            .fold(f64::INFINITY, f64::min);
        let clear_mm = nearest - frame.wheel_radius_mm.0;
        let inside = drop_mm + BELOW_MM - (exposed - drop_mm - ABOVE_MM).max(0.0);
        let words = if exposed < drop_mm + ABOVE_MM {
            format!(
                "the saddle stands {} mm over the tube, {} needed to come all the way up",
                written(exposed.round()),
                written(drop_mm + ABOVE_MM)
            )
        } else if inside > room {
            format!(
                "{} mm too long for the seat tube (estimated)",
                written((inside - room).ceil())
            )
        } else if clear_mm < CLEAR_MM {
            format!(
                "{} mm left over the tyre, {} wanted",
                written(clear_mm.floor()),
                written(CLEAR_MM)
            )
        } else {
            String::new()
        };
        Dropper {
            drop_mm,
            clear_mm,
            goes: words.is_empty(),
            words,
        }
    };
    SOLD_MM.into_iter().map(of).collect()
}
