//! How a camera films a rider with dots: frames of noise, blur, streaks, stray reflections and hidden dots.

use crate::Pedaller;
use rand::rngs::StdRng;
use rand::{RngExt, SeedableRng};
use wedge_core::capture::BodyPoint;
use wedge_core::film::{BB_ASIDE_MM, Camera, DOT_WIDE_MM, JOINTS, Pixel, View, WheelSeen, aside};
use wedge_core::plane::Point;

/// What clips are thrown from: (least, most).
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Ranges {
    /// Camera off square, looking down, held turned, °.
    pub angles_deg: [(f64, f64); 3],
    /// Camera to bike, mm.
    pub distance_mm: (f64, f64),
    /// Noise of a pixel, 1 SD of 255.
    pub noise: (f64, f64),
    /// Blur of the lens, 1 SD, px.
    pub blur_px: (f64, f64),
    /// How long the shutter is open, s: what moves is a streak.
    pub shutter_s: (f64, f64),
    /// Stray reflections that look like dots.
    pub strays: (usize, usize),
    /// How often a dot is hidden after the first frame.
    pub hidden: f64,
    /// Turns a minute.
    pub cadence_rpm: (f64, f64),
    /// Stature, mm.
    pub stature_mm: (f64, f64),
}

/// The ranges finders are tried on (house choice, set before the first trial).
pub const RANGES: Ranges = Ranges {
    angles_deg: [(-10.0, 10.0), (0.0, 6.0), (-3.0, 3.0)],
    distance_mm: (2800.0, 3600.0),
    noise: (2.0, 8.0),
    blur_px: (0.4, 1.2),
    shutter_s: (0.002, 0.012),
    strays: (0, 3),
    hidden: 0.03,
    cadence_rpm: (70.0, 105.0),
    stature_mm: (1520.0, 1980.0),
};

/// Where each of [`JOINTS`] shows, and is hidden or not.
#[derive(Debug, Clone, PartialEq)]
pub struct Frame {
    /// Red, green, blue a pixel.
    pub rgb: Vec<u8>,
    /// In the middle of the time the shutter is open.
    pub dots: Vec<(BodyPoint, Pixel, bool)>,
}

/// Who is filmed, on which bike.
pub trait Filmed {
    /// Where a point of the rider is with the crank there, mm from the BB.
    fn at(&self, part: BodyPoint, crank_deg: f64) -> Point;

    /// The rear axle and the front one, mm from the BB.
    fn axles(&self) -> [Point; 2] {
        [-0.5, 0.5].map(|half| Point::new(half * WHEELBASE_MM, 0.0) - BB)
    }

    /// Across a wheel, mm.
    fn wheel_mm(&self) -> f64 {
        WHEEL_MM
    }

    /// Tubes of the bike that are drawn, mm from the BB, each with half its width; of a bike without any the wheels are not drawn
    /// either.
    fn tubes(&self) -> Vec<(Point, Point, f64)> {
        Vec::new()
    }
}

impl Filmed for Pedaller {
    fn at(&self, part: BodyPoint, crank_deg: f64) -> Point {
        Self::at(self, part, crank_deg)
    }
}

/// One clip to be filmed.
#[derive(Debug)]
pub struct Scene<R = Pedaller> {
    /// The rider.
    pub rider: R,
    /// Width and height, px.
    pub size: [usize; 2],
    /// Turns a minute.
    pub cadence_rpm: f64,
    camera: Camera,
    colour: [f64; 3],
    noise: f64,
    blur: f64,
    shutter: f64,
    hidden: f64,
    strays: Vec<Pixel>,
    crank: f64,
    dice: StdRng,
}

/// The BB from the middle between the axles, mm.
const BB: Point = Point::new(-70.0, -70.0);
const WHEELBASE_MM: f64 = 1000.0;
const WHEEL_MM: f64 = 680.0;
/// Frames a second.
pub(crate) const RATE_HZ: f64 = 60.0;

impl Scene {
    /// A clip thrown from ranges, its rider with it.
    pub fn thrown(seed: u64, size: [usize; 2], ranges: &Ranges) -> Self {
        let dice = StdRng::seed_from_u64(seed);
        Self::filmed(dice, size, ranges, |dice| {
            Pedaller::thrown(dice, ranges.stature_mm)
        })
    }

    /// When a frame is taken, s.
    pub fn time(frame: usize) -> f64 {
        time(frame)
    }
}

/// When a frame is taken, s.
fn time(frame: usize) -> f64 {
    frame as f64 / RATE_HZ
}

impl<R: Filmed> Scene<R> {
    /// A clip of somebody, thrown from ranges.
    pub fn of(rider: R, seed: u64, size: [usize; 2], ranges: &Ranges) -> Self {
        Self::filmed(StdRng::seed_from_u64(seed), size, ranges, |_| rider)
    }

    fn filmed(
        mut dice: StdRng,
        size: [usize; 2],
        ranges: &Ranges,
        rider: impl FnOnce(&mut StdRng) -> R,
    ) -> Self {
        let mut from = |range: (f64, f64)| dice.random_range(range.0..=range.1);
        let angles = ranges.angles_deg.map(&mut from);
        let distance = from(ranges.distance_mm);
        let (noise, blur, shutter) = (
            from(ranges.noise),
            from(ranges.blur_px),
            from(ranges.shutter_s),
        );
        let (cadence_rpm, crank) = (from(ranges.cadence_rpm), from((0.0, 360.0)));
        let wide = size.map(|side| side as f64);
        // The whole bike is in view, and the rider above it.
        let focal = wide[0] / 2600.0 * distance;
        let aim = Point::new(0.0, 500.0);
        let colours = [
            [40.0, 220.0, 70.0],
            [235.0, 60.0, 50.0],
            [250.0, 250.0, 250.0],
            [60.0, 120.0, 245.0],
        ];
        let colour = colours[dice.random_range(0..colours.len())];
        let rider = rider(&mut dice);
        let [rear, front] = rider.axles();
        let apart = front.x - rear.x;
        let camera = Camera::standing(angles, distance, focal, apart, aim, wide);
        let strays = (0..dice.random_range(ranges.strays.0..=ranges.strays.1))
            .map(|_| {
                [
                    dice.random_range(0.0..wide[0]),
                    dice.random_range(0.0..wide[1]),
                ]
            })
            .collect();
        Self {
            rider,
            size,
            cadence_rpm,
            camera,
            colour,
            noise,
            blur,
            shutter,
            hidden: ranges.hidden,
            strays,
            crank,
            dice,
        }
    }

    /// The wheels as somebody clicks them, and what is paced.
    pub fn view(&self) -> View {
        let (apart, across) = (self.wheelbase(), self.rider.wheel_mm());
        let wheel = |x: f64| WheelSeen {
            axle: self.camera.shows([x, 0.0, 0.0]),
            rim: [0.0_f64, 90.0, 180.0, 270.0]
                .map(|d| d.to_radians().sin_cos())
                .map(|(s, c)| {
                    self.camera
                        .shows([x + across / 2.0 * s, across / 2.0 * c, 0.0])
                })
                .to_vec(),
        };
        View {
            size: self.size.map(|side| side as f64),
            faces_left: false,
            rear: wheel(-apart / 2.0),
            front: wheel(apart / 2.0),
            wheel_diameter_mm: across,
            wheelbase_mm: Some(apart),
            distance_m: Some(self.camera.distance_mm / 1000.0),
            lens_height_mm: None,
        }
    }

    fn wheelbase(&self) -> f64 {
        let [rear, front] = self.rider.axles();
        front.x - rear.x
    }

    /// The BB from the middle between the axles.
    fn bb_from_middle(&self) -> Point {
        let [rear, front] = self.rider.axles();
        (rear + front) * -0.5
    }

    /// Where the BB shows, on the crank's outer face.
    pub fn bb(&self) -> Pixel {
        let bb = self.bb_from_middle();
        self.camera.shows([bb.x, bb.y, BB_ASIDE_MM])
    }

    fn shows(&self, part: usize, time: f64) -> Pixel {
        let at = self
            .rider
            .at(JOINTS[part], self.crank + time * 6.0 * self.cadence_rpm)
            + self.bb_from_middle();
        self.camera.shows([at.x, at.y, aside(JOINTS[part])])
    }

    /// Films one frame.
    pub fn film(&mut self, frame: usize) -> Frame {
        let [width, height] = self.size;
        let time = time(frame);
        let noise = self.noise;
        let mut light: Vec<[f64; 3]> = Vec::with_capacity(width * height);
        for y in 0..height {
            // A wall that is lighter above, a floor that is darker.
            let wall = if y * 4 > height * 3 {
                95.0
            } else {
                165.0 - 40.0 * y as f64 / height as f64
            };
            light.extend(std::iter::repeat_n([wall, wall * 0.97, wall * 0.93], width));
        }
        self.bike(&mut light);
        self.limbs(&mut light, time);
        let wide = DOT_WIDE_MM * self.camera.focal_px / self.camera.distance_mm;
        let dots = (0..JOINTS.len())
            .map(|part| {
                let hidden = frame > 0 && self.dice.random_bool(self.hidden);
                let middle = self.shows(part, time + self.shutter / 2.0);
                if !hidden {
                    let streak: Vec<Pixel> = (0..5)
                        .map(|i| self.shows(part, time + self.shutter * f64::from(i) / 4.0))
                        .collect();
                    self.dot(&mut light, &streak, wide);
                }
                (JOINTS[part], middle, hidden)
            })
            .collect();
        for stray in self.strays.clone() {
            self.dot(&mut light, &[stray], wide);
        }
        // Noise that is cheap: the mean of a few even throws is near enough to a bell.
        let rgb = light
            .into_iter()
            .flatten()
            .map(|value| {
                let throw = self.dice.random::<u32>();
                let even = (0..4)
                    .map(|i| f64::from(throw >> (8 * i) & 0xff))
                    .sum::<f64>()
                    / 510.0
                    - 1.0;
                (value + 1.72 * noise * even).clamp(0.0, 255.0) as u8
            })
            .collect();
        Frame { rgb, dots }
    }

    /// Wheels and tubes behind the rider.
    fn bike(&self, light: &mut [[f64; 3]]) {
        /// A tyre's and a hub's half width, mm; both darker than the wall.
        const TYRE_MM: f64 = 12.0;
        const HUB_MM: f64 = 14.0;
        const RUBBER: [f64; 3] = [38.0, 38.0, 42.0];
        const METAL: [f64; 3] = [88.0, 92.0, 98.0];
        let tubes = self.rider.tubes();
        if tubes.is_empty() {
            return;
        }
        let px = self.camera.focal_px / self.camera.distance_mm;
        let on_axles = |at: Point| {
            let at = at + self.bb_from_middle();
            self.camera.shows([at.x, at.y, 0.0])
        };
        let mut line = |a: Pixel, b: Pixel, half: f64, colour: [f64; 3]| {
            let (a, b) = (Point::new(a[0], a[1]), Point::new(b[0], b[1]));
            self.around(a, b, half, |at| {
                let off = Point::new(at.0 as f64, at.1 as f64).distance_to_segment(a, b);
                if off < half {
                    light[at.1 * self.size[0] + at.0] = colour;
                }
            });
        };
        let radius = self.rider.wheel_mm() / 2.0 - TYRE_MM;
        for axle in self.rider.axles() {
            let rim = |step: u32| {
                let (sin, cos) = (f64::from(step) * std::f64::consts::TAU / 72.0).sin_cos();
                on_axles(axle + Point::new(radius * cos, radius * sin))
            };
            for step in 0..72 {
                line(rim(step), rim(step + 1), TYRE_MM * px, RUBBER);
            }
            line(on_axles(axle), on_axles(axle), HUB_MM * px, RUBBER);
        }
        for (from, to, half) in tubes {
            line(on_axles(from), on_axles(to), half * px, METAL);
        }
    }

    /// Cloth and skin beneath the dots.
    fn limbs(&self, light: &mut [[f64; 3]], time: f64) {
        let px = self.camera.focal_px / self.camera.distance_mm;
        let bones = [
            (1, 2, 45.0),
            (2, 3, 55.0),
            (3, 4, 75.0),
            (4, 5, 110.0),
            (5, 6, 45.0),
            (6, 7, 38.0),
        ];
        for (from, to, half_mm) in bones {
            let (a, b) = (self.shows(from, time), self.shows(to, time));
            let (a, b) = (Point::new(a[0], a[1]), Point::new(b[0], b[1]));
            let half = half_mm * px;
            self.around(a, b, half, |at| {
                let off = Point::new(at.0 as f64, at.1 as f64).distance_to_segment(a, b);
                if off < half {
                    light[at.1 * self.size[0] + at.0] = [62.0, 64.0, 72.0];
                }
            });
        }
    }

    /// Every pixel of the box around two points.
    fn around(&self, a: Point, b: Point, reach: f64, mut each: impl FnMut((usize, usize))) {
        let span = |low: f64, high: f64, most: usize| {
            let from = (low - reach).max(0.0) as usize;
            from..((high + reach + 1.0).max(0.0) as usize).min(most)
        };
        for y in span(a.y.min(b.y), a.y.max(b.y), self.size[1]) {
            for x in span(a.x.min(b.x), a.x.max(b.x), self.size[0]) {
                each((x, y));
            }
        }
    }

    /// A disc, blurred by the lens, at each of its places for an equal share of the time.
    fn dot(&self, light: &mut [[f64; 3]], streak: &[Pixel], wide: f64) {
        let (first, last) = (streak[0], streak[streak.len() - 1]);
        let soft = 1.6 * self.blur;
        let share = 1.0 / streak.len() as f64;
        self.around(
            Point::new(first[0], first[1]),
            Point::new(last[0], last[1]),
            wide + 2.0 * soft,
            |(x, y)| {
                let covered: f64 = streak
                    .iter()
                    .map(|at| {
                        let off = (x as f64 - at[0]).hypot(y as f64 - at[1]) - wide / 2.0;
                        share * (0.5 - off / (2.0 * soft)).clamp(0.0, 1.0)
                    })
                    .sum();
                let pixel = &mut light[y * self.size[0] + x];
                for (value, colour) in pixel.iter_mut().zip(self.colour) {
                    *value += (colour - *value) * covered;
                }
            },
        );
    }
}
