//! Film: pictures of the rider from the side.

use super::{DeviceKind, Mishap, Seat, Taken, beyond_reach};
use crate::hidden::Moving;
use crate::scene::{Filmed, RANGES, Ranges, Scene};
use wedge_core::bike::BikePoints;
use wedge_core::capture::BodyPoint;
use wedge_core::film::{Pixel, View};
use wedge_core::plane::Point;
use wedge_core::units::Side;

/// Films from the side. A real one sends pictures, 60 a second, by its own clock; what a pixel is worth comes from the wheels.
pub trait Film {
    /// Films so many pictures in a row.
    fn film(&mut self, pictures: usize) -> Taken<Vec<Picture>>;
}

/// One picture: red, green, blue a pixel, row by row.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Picture {
    /// Pixels across.
    pub width: usize,
    /// Pixels down.
    pub height: usize,
    /// Three bytes a pixel.
    pub rgb: Vec<u8>,
}

/// What is filmed: the rider's right side.
#[derive(Debug, Clone)]
struct RightSide {
    moving: Moving,
    bike: BikePoints,
}

impl Filmed for RightSide {
    fn at(&self, part: BodyPoint, crank_deg: f64) -> Point {
        // Who reaches all the way round has every joint.
        let [x, y, _] = (self.moving.at(part, Side::Right, crank_deg, 0.0)).unwrap_or_default();
        Point::new(x, y)
    }

    fn axles(&self) -> [Point; 2] {
        [self.bike.rear_axle, self.bike.front_axle]
    }

    fn wheel_mm(&self) -> f64 {
        2.0 * self.bike.wheel_radius_mm.0
    }

    fn tubes(&self) -> Vec<(Point, Point, f64)> {
        let bike = &self.bike;
        let bb = Point::new(0.0, 0.0);
        vec![
            (bb, bike.rear_axle, 9.0),
            (bike.rear_axle, bike.post_clamp, 8.0),
            (bb, bike.post_clamp, 15.0),
            (bike.post_clamp, bike.saddle_clamp, 13.0),
            (bb, bike.head_bottom, 19.0),
            (bike.post_clamp, bike.head_top, 15.0),
            (bike.head_bottom, bike.front_axle, 12.0),
            (bike.head_bottom, bike.steerer_top, 17.0),
            (bike.stem_root, bike.bar_clamp, 14.0),
            (bike.bar_clamp, bike.hand, 12.0),
            (bike.saddle_nose, bike.saddle_tail, 12.0),
        ]
    }
}

/// How a fitter's own camera stands: nearly square, a steady hand, plain light.
const STANDS: Ranges = Ranges {
    angles_deg: [(-3.0, 3.0), (0.0, 2.0), (-1.5, 1.5)],
    strays: (0, 1),
    ..RANGES
};

/// Film of a rider who is not there.
#[derive(Debug)]
pub struct SimulatedFilm<'a> {
    seat: Seat<'a>,
    size: [usize; 2],
    fault: Option<Mishap>,
}

impl<'a> SimulatedFilm<'a> {
    /// A camera of this size, px, beside a rider.
    pub fn beside(seat: Seat<'a>, size: [usize; 2], fault: Option<Mishap>) -> Self {
        Self { seat, size, fault }
    }

    fn scene(&self) -> Option<Scene<RightSide>> {
        let rider = RightSide {
            moving: self.seat.moving()?,
            bike: self.seat.bike,
        };
        let seed = self.seat.dice(DeviceKind::Film).seed();
        let cadence = self.seat.effort.cadence_rpm;
        let ranges = Ranges {
            cadence_rpm: (cadence, cadence),
            ..STANDS
        };
        Some(Scene::of(rider, seed, self.size, &ranges))
    }

    /// A picture of the row with where each joint shows in it: for whoever tries a finder on it.
    pub fn shown(&self, frame: usize) -> Option<(Picture, Vec<(BodyPoint, Pixel)>)> {
        let filmed = self.scene()?.film(frame);
        let dots = filmed.dots.into_iter().map(|(part, at, _)| (part, at));
        let [width, height] = self.size;
        let picture = Picture {
            width,
            height,
            rgb: filmed.rgb,
        };
        Some((picture, dots.collect()))
    }

    /// Where the wheels show and the BB does: what is clicked first.
    pub fn view(&self) -> Option<(View, Pixel)> {
        let scene = self.scene()?;
        Some((scene.view(), scene.bb()))
    }
}

impl Film for SimulatedFilm<'_> {
    fn film(&mut self, pictures: usize) -> Taken<Vec<Picture>> {
        let Some(mut scene) = self.scene() else {
            return beyond_reach();
        };
        let [width, height] = self.size;
        let mut filmed = |pictures: usize| -> Vec<Picture> {
            (0..pictures)
                .map(|frame| Picture {
                    width,
                    height,
                    rgb: scene.film(frame).rgb,
                })
                .collect()
        };
        match self.fault {
            None => Taken::whole(filmed(pictures)),
            Some(fault @ Mishap::Silent) => Taken::troubled(
                None,
                fault,
                "No picture comes: nothing was filmed. Is it switched on?",
            ),
            Some(fault @ Mishap::OutOfRange) => Taken::troubled(
                None,
                fault,
                "The wheels are not in the picture: nothing was filmed. Walk back until both show whole.",
            ),
            Some(fault @ (Mishap::Unplugged | Mishap::Late)) => {
                let until = pictures / 2;
                let words =
                    format!("{until} of {pictures} pictures came: keep them, or film anew.");
                Taken::troubled(Some(filmed(until)), fault, words)
            }
        }
    }
}
