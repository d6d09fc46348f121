//! A picture squared by its wheels: where the camera stood and looked, and what a point of the picture is on a plane beside
//! the bike.
//!
//! `x` forward from the middle between the axles, `y` up from them, `z` toward the camera. A rider who faces left is mirrored first.

use crate::plane::Point;
use crate::rule::rules;
use crate::words::written;
use levenberg_marquardt::{LeastSquaresProblem, LevenbergMarquardt};
use nalgebra::storage::Owned;
use nalgebra::{DMatrix, DVector, Dyn, Vector3};
use serde::{Deserialize, Serialize};

rules! {
    rules "Film";
    /// How far a point clicked by hand may be off.
    pub(crate) const CLICK_PX: f64 = 3.0, " px", House;
    /// A paced distance is known to this share.
    const TOLD_DISTANCE: f64 = 0.08, "", House;
    /// Where nobody paced it: metres, and its share of doubt.
    const USUAL_DISTANCE: (f64, f64) = (3.0, 0.25), "", House;
    /// A lens is assumed of no angle: its focal length is as good as free.
    const FOCAL: f64 = 0.6, "", House;
    /// How well a told height of the lens is known.
    const TOLD_HEIGHT_MM: f64 = 60.0, " mm", House;
    /// Where nobody told it, and its doubt.
    const USUAL_HEIGHT_MM: (f64, f64) = (950.0, 250.0), " mm", House;
    /// How far off square cameras stand and look.
    const OFF_SQUARE_DEG: f64 = 12.0, "°", House;
    /// How well a known wheelbase is known.
    const KNOWN_WHEELBASE_MM: f64 = 6.0, " mm", House;
    /// An unknown one, and its doubt.
    const USUAL_WHEELBASE_MM: (f64, f64) = (1010.0, 60.0), " mm", House;
    /// Up to this yaw nothing is said; up to the next it is squared and said; up to the last knee and hip count; beyond, the
    /// knee alone.
    pub(crate) const YAW_DEG: [f64; 3] = [5.0, 15.0, 20.0], "°", House;
    /// A picture held this far off level is said.
    const ROLL_DEG: f64 = 10.0, "°", House;
    /// Fewer pixels a millimetre than this ask for a closer view.
    const FINE_PX_PER_MM: f64 = 0.35, " px", House;
    /// The BB is clicked on the crank's outer face, so far outside the bike's middle.
    pub const BB_ASIDE_MM: f64 = 80.0, " mm", House;
    /// How far outside the bike's middle each point of a rider is: toe, pedal axle's end, ankle, knee, hip, shoulder, elbow,
    /// wrist.
    pub(crate) const ASIDE_MM: [f64; 8] = [175.0, 170.0, 165.0, 165.0, 165.0, 225.0, 270.0, 240.0], " mm", House;
}

/// A point of a picture: pixels right of and below its upper left corner.
pub type Pixel = [f64; 2];

/// How far two points of a picture are apart, px.
pub(crate) fn apart(a: Pixel, b: Pixel) -> f64 {
    (a[0] - b[0]).hypot(a[1] - b[1])
}

/// A wheel as it was clicked.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct WheelSeen {
    /// Its axle.
    pub axle: [f64; 2],
    /// Points of the tyre's outer edge; four are asked for, none leaves the picture unsquared.
    #[serde(default)]
    pub rim: Vec<[f64; 2]>,
}

/// What the picture shows of the bike, and what is known beside it.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct View {
    /// Width and height, px.
    pub size: [f64; 2],
    /// Whether the rider faces left.
    pub faces_left: bool,
    /// Rear wheel.
    pub rear: WheelSeen,
    /// Front wheel.
    pub front: WheelSeen,
    /// Over the tyre, mm.
    pub wheel_diameter_mm: f64,
    /// Between the axles, where it is known.
    #[serde(default)]
    pub wheelbase_mm: Option<f64>,
    /// Camera to bike as paced.
    #[serde(default)]
    pub distance_m: Option<f64>,
    /// The lens above the floor.
    #[serde(default)]
    pub lens_height_mm: Option<f64>,
}

/// Where the camera stood and looked.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Camera {
    /// Camera ahead of square, °.
    pub yaw_deg: f64,
    /// Looking down, °.
    pub pitch_deg: f64,
    /// Held turned, °.
    pub roll_deg: f64,
    /// From the point it looks at, mm.
    pub distance_mm: f64,
    /// Focal length, px.
    pub focal_px: f64,
    /// Wheelbase that goes with it, mm.
    pub wheelbase_mm: f64,
    aim: Point,
    size: [f64; 2],
    mirrored: bool,
}

/// A picture squared.
#[derive(Debug, Clone, PartialEq)]
pub struct Squared {
    /// The camera.
    pub camera: Camera,
    /// Pixels a millimetre at the bike.
    pub px_per_mm: f64,
    /// Whether there were points of both tyres; without, it is only level and to scale.
    pub squared: bool,
    /// RMS of the clicks against it, px.
    pub left_px: f64,
    /// What to say and do.
    pub messages: Vec<String>,
}

impl Squared {
    /// What a point of the picture is on the plane so far beside the bike's middle; of a picture that is only level, on that of
    /// the bike itself.
    pub(crate) fn on_plane(&self, at: Pixel, aside_mm: f64) -> Option<Point> {
        let aside_mm = if self.squared { aside_mm } else { 0.0 };
        self.camera.on_plane(at, aside_mm)
    }
}

#[derive(Debug, Clone, Copy)]
struct Axes {
    right: Vector3<f64>,
    up: Vector3<f64>,
    forward: Vector3<f64>,
    lens: Vector3<f64>,
}

fn axes(yaw: f64, pitch: f64, roll: f64, aim: Point, distance: f64) -> Axes {
    let (sy, cy) = yaw.sin_cos();
    let (sp, cp) = pitch.sin_cos();
    let (sr, cr) = roll.sin_cos();
    let right = Vector3::new(cy, 0.0, -sy);
    let forward = Vector3::new(-sy, 0.0, -cy);
    let up = Vector3::new(0.0, 1.0, 0.0);
    let (forward, up) = (forward * cp - up * sp, up * cp + forward * sp);
    let (right, up) = (right * cr + up * sr, up * cr - right * sr);
    Axes {
        right,
        up,
        forward,
        lens: Vector3::new(aim.x, aim.y, 0.0) - forward * distance,
    }
}

impl Camera {
    /// A camera that stands so; how a picture is drawn, and how cases are worked by hand.
    pub fn standing(
        [yaw_deg, pitch_deg, roll_deg]: [f64; 3],
        distance_mm: f64,
        focal_px: f64,
        wheelbase_mm: f64,
        aim: Point,
        size: [f64; 2],
    ) -> Self {
        Self {
            yaw_deg,
            pitch_deg,
            roll_deg,
            distance_mm,
            focal_px,
            wheelbase_mm,
            aim,
            size,
            mirrored: false,
        }
    }

    fn axes(&self) -> Axes {
        let [yaw, pitch, roll] = [self.yaw_deg, self.pitch_deg, self.roll_deg].map(f64::to_radians);
        axes(yaw, pitch, roll, self.aim, self.distance_mm)
    }

    fn flipped(&self, [u, v]: Pixel) -> Pixel {
        if self.mirrored {
            [self.size[0] - u, v]
        } else {
            [u, v]
        }
    }

    /// Where a place shows in the picture.
    pub fn shows(&self, place: [f64; 3]) -> Pixel {
        let axes = self.axes();
        let from = Vector3::from(place) - axes.lens;
        let deep = from.dot(&axes.forward);
        self.flipped([
            self.size[0] / 2.0 + self.focal_px * from.dot(&axes.right) / deep,
            self.size[1] / 2.0 - self.focal_px * from.dot(&axes.up) / deep,
        ])
    }

    /// What a point of the picture is on the plane so far beside the bike's middle.
    pub fn on_plane(&self, at: Pixel, aside_mm: f64) -> Option<Point> {
        let [u, v] = self.flipped(at);
        hit(&self.axes(), self.focal_px, self.size, [u, v], aside_mm)
    }
}

fn hit(axes: &Axes, focal: f64, size: [f64; 2], [u, v]: Pixel, aside: f64) -> Option<Point> {
    let ray = axes.forward + axes.right * ((u - size[0] / 2.0) / focal)
        - axes.up * ((v - size[1] / 2.0) / focal);
    let along = (aside - axes.lens.z) / ray.z;
    (along.is_finite() && along > 0.0)
        .then(|| Point::new(axes.lens.x + ray.x * along, axes.lens.y + ray.y * along))
}

/// The fit: yaw, pitch, roll, aim x and y, ln distance, ln focal length, wheelbase.
struct Fit<'a> {
    at: DVector<f64>,
    rear: Pixel,
    front: Pixel,
    rims: [&'a [Pixel]; 2],
    radius: f64,
    size: [f64; 2],
    distance: (f64, f64),
    focal: f64,
    height: (f64, f64),
    wheelbase: (f64, f64),
}

impl Fit<'_> {
    fn misses(&self, at: &DVector<f64>) -> Vec<f64> {
        let (distance, focal, wheelbase) = (at[5].exp(), at[6].exp(), at[7]);
        let axes = axes(at[0], at[1], at[2], Point::new(at[3], at[4]), distance);
        let mut all = Vec::with_capacity(20);
        let ends = [-wheelbase / 2.0, wheelbase / 2.0];
        for (x, seen) in ends.into_iter().zip([self.rear, self.front]) {
            let from = Vector3::new(x, 0.0, 0.0) - axes.lens;
            let deep = from.dot(&axes.forward).max(1.0);
            all.push(
                (self.size[0] / 2.0 + focal * from.dot(&axes.right) / deep - seen[0]) / CLICK_PX,
            );
            all.push((self.size[1] / 2.0 - focal * from.dot(&axes.up) / deep - seen[1]) / CLICK_PX);
        }
        for (x, rim) in ends.into_iter().zip(self.rims) {
            for seen in rim {
                let off = hit(&axes, focal, self.size, *seen, 0.0).map_or(1e3, |place| {
                    (place - Point::new(x, 0.0)).length() - self.radius
                });
                all.push(off * focal / distance / CLICK_PX);
            }
        }
        let off_square = OFF_SQUARE_DEG.to_radians();
        all.push((at[5] - self.distance.0.ln()) / self.distance.1);
        all.push((at[6] - self.focal.ln()) / FOCAL);
        all.push((at[4] + distance * at[1].sin() + self.radius - self.height.0) / self.height.1);
        all.push(at[0] / off_square);
        all.push(at[1] / off_square);
        all.push((wheelbase - self.wheelbase.0) / self.wheelbase.1);
        all
    }
}

/// Steps of the slopes: radians, mm, shares, mm.
const STEPS: [f64; 8] = [1e-5, 1e-5, 1e-5, 1e-2, 1e-2, 1e-6, 1e-6, 1e-2];

impl LeastSquaresProblem<f64, Dyn, Dyn> for Fit<'_> {
    type ResidualStorage = Owned<f64, Dyn>;
    type JacobianStorage = Owned<f64, Dyn, Dyn>;
    type ParameterStorage = Owned<f64, Dyn>;

    fn set_params(&mut self, at: &DVector<f64>) {
        self.at.copy_from(at);
    }

    fn params(&self) -> DVector<f64> {
        self.at.clone()
    }

    fn residuals(&self) -> Option<DVector<f64>> {
        let all = DVector::from_vec(self.misses(&self.at));
        all.iter().all(|miss| miss.is_finite()).then_some(all)
    }

    fn jacobian(&self) -> Option<DMatrix<f64>> {
        let rows = self.misses(&self.at).len();
        let mut slopes = DMatrix::zeros(rows, 8);
        for (column, step) in STEPS.into_iter().enumerate() {
            let mut beside = self.at.clone();
            beside[column] += step;
            let above = self.misses(&beside);
            beside[column] -= 2.0 * step;
            let below = self.misses(&beside);
            for row in 0..rows {
                slopes[(row, column)] = (above[row] - below[row]) / (2.0 * step);
            }
        }
        slopes
            .iter()
            .all(|slope| slope.is_finite())
            .then_some(slopes)
    }
}

/// The wheels as they were clicked, of a rider who faces right.
struct Wheels {
    rear: Pixel,
    front: Pixel,
    rims: [Vec<Pixel>; 2],
    radius: f64,
    squared: bool,
    px_per_mm: f64,
    wheelbase: (f64, f64),
}

impl Wheels {
    /// None where they cannot be those of a bike in view.
    fn of(view: &View) -> Option<Self> {
        let flip = |[u, v]: Pixel| {
            if view.faces_left {
                [view.size[0] - u, v]
            } else {
                [u, v]
            }
        };
        let (rear, front) = (flip(view.rear.axle), flip(view.front.axle));
        let rims = [&view.rear, &view.front]
            .map(|wheel| wheel.rim.iter().map(|at| flip(*at)).collect::<Vec<Pixel>>());
        let radius = view.wheel_diameter_mm / 2.0;
        if front[0] - rear[0] < 40.0 || !(100.0..=500.0).contains(&radius) {
            return None;
        }
        let far = |axle: Pixel, rim: &[Pixel]| {
            let sum: f64 = rim.iter().map(|at| apart(*at, axle)).sum();
            sum / rim.len().max(1) as f64
        };
        let squared = rims.iter().all(|rim| rim.len() >= 3);
        let wheelbase = view
            .wheelbase_mm
            .map_or(USUAL_WHEELBASE_MM, |known| (known, KNOWN_WHEELBASE_MM));
        let px_per_mm = if squared {
            f64::midpoint(far(rear, &rims[0]), far(front, &rims[1])) / radius
        } else {
            apart(front, rear) / wheelbase.0
        };
        Some(Self {
            rear,
            front,
            rims,
            radius,
            squared,
            px_per_mm,
            wheelbase,
        })
    }

    /// The fit before it is made: level, and as far away as told.
    fn level(&self, view: &View) -> Fit<'_> {
        let distance = view
            .distance_m
            .map_or(USUAL_DISTANCE, |told| (told, TOLD_DISTANCE));
        let distance = (distance.0 * 1000.0, distance.1);
        let focal = self.px_per_mm * distance.0;
        let roll = (self.front[1] - self.rear[1]).atan2(self.front[0] - self.rear[0]);
        let middle = [
            f64::midpoint(self.rear[0], self.front[0]),
            f64::midpoint(self.rear[1], self.front[1]),
        ];
        let aim = [
            (view.size[0] / 2.0 - middle[0]) / self.px_per_mm,
            (middle[1] - view.size[1] / 2.0) / self.px_per_mm,
        ];
        let at = vec![
            0.0,
            0.0,
            roll,
            aim[0],
            aim[1],
            distance.0.ln(),
            focal.ln(),
            self.wheelbase.0,
        ];
        Fit {
            at: DVector::from_vec(at),
            rear: self.rear,
            front: self.front,
            rims: if self.squared {
                [&self.rims[0], &self.rims[1]]
            } else {
                [&[], &[]]
            },
            radius: self.radius,
            size: view.size,
            distance,
            focal,
            height: view
                .lens_height_mm
                .map_or(USUAL_HEIGHT_MM, |told| (told, TOLD_HEIGHT_MM)),
            wheelbase: self.wheelbase,
        }
    }
}

/// Squares a picture by its wheels. None where the wheels cannot be those of a bike in view.
pub fn square(view: &View) -> Option<Squared> {
    let wheels = Wheels::of(view)?;
    let fit = if wheels.squared {
        // Two pitches answer alike to a height that is not known well: the cheapest of four starts counts.
        let starts = [(6.0, 5.0), (6.0, -3.0), (-6.0, 5.0), (-6.0, -3.0)];
        let tried = starts.into_iter().map(|(yaw, pitch): (f64, f64)| {
            let mut fit = wheels.level(view);
            (fit.at[0], fit.at[1]) = (yaw.to_radians(), pitch.to_radians());
            LevenbergMarquardt::new().with_patience(40).minimize(fit)
        });
        tried
            .min_by(|a, b| a.1.objective_function.total_cmp(&b.1.objective_function))?
            .0
    } else {
        wheels.level(view)
    };
    let at = &fit.at;
    let camera = Camera {
        yaw_deg: at[0].to_degrees(),
        pitch_deg: at[1].to_degrees(),
        roll_deg: at[2].to_degrees(),
        distance_mm: at[5].exp(),
        focal_px: at[6].exp(),
        wheelbase_mm: at[7],
        aim: Point::new(at[3], at[4]),
        size: view.size,
        mirrored: view.faces_left,
    };
    let misses = fit.misses(at);
    // Behind the clicks stand the six that are known beforehand.
    let clicks = &misses[..misses.len() - 6];
    let left_px = CLICK_PX
        * (clicks.iter().map(|miss| miss * miss).sum::<f64>() / clicks.len() as f64).sqrt();
    let mut all = Squared {
        camera,
        px_per_mm: wheels.px_per_mm,
        squared: wheels.squared,
        left_px,
        messages: Vec::new(),
    };
    all.messages = messages(&all, view, &wheels.rims);
    Some(all)
}

fn messages(found: &Squared, view: &View, rims: &[Vec<Pixel>; 2]) -> Vec<String> {
    let camera = &found.camera;
    let mut all = Vec::new();
    if found.squared {
        let yaw = camera.yaw_deg;
        let walk = camera.distance_mm / 1000.0 * camera.yaw_deg.to_radians().sin();
        let toward = if walk > 0.0 { "rear" } else { "front" };
        if yaw.abs() > YAW_DEG[2] {
            all.push(format!(
                "The camera stands {} off square: only the knee counts. Walk {} m toward the {toward} wheel.",
                degrees(yaw),
                written((walk.abs() * 10.0).round() / 10.0)
            ));
        } else if yaw.abs() > YAW_DEG[1] {
            all.push(format!(
                "The camera stands {} off square: knee and hip count, the rest does not.",
                degrees(yaw)
            ));
        } else if yaw.abs() > YAW_DEG[0] {
            all.push(format!(
                "The camera stands {} off square: taken out by the wheels.",
                degrees(yaw)
            ));
        }
        if found.left_px > 3.0 * CLICK_PX {
            all.push(format!(
                "The points of the wheels do not go together ({:.0} px off): look at each of them again.",
                found.left_px
            ));
        }
    } else {
        all.push("Not squared: without points of both tyres the picture is only made level and to scale.".to_owned());
    }
    if camera.roll_deg.abs() > ROLL_DEG {
        all.push(format!(
            "The camera is held {} off level: hold it level.",
            degrees(camera.roll_deg)
        ));
    }
    if found.px_per_mm < FINE_PX_PER_MM {
        all.push(format!(
            "Only {:.2} pixels a millimetre: zoom in, or stand nearer.",
            found.px_per_mm
        ));
    }
    let outside =
        |at: &Pixel| at[0] < 0.0 || at[1] < 0.0 || at[0] > view.size[0] || at[1] > view.size[1];
    if rims.iter().flatten().any(outside) {
        all.push("A wheel is cut off by the picture's edge: step back.".to_owned());
    }
    all
}

fn degrees(value: f64) -> String {
    format!("{:.0}°", value.abs())
}

#[cfg(test)]
mod tests {
    use super::*;

    const SIZE: [f64; 2] = [1280.0, 720.0];

    /// A bike of 680 mm wheels and 1000 mm between the axles as such a camera sees it, no doubt in the clicks.
    fn seen(camera: &Camera, distance: Option<f64>, height: Option<f64>) -> View {
        let wheel = |x: f64| WheelSeen {
            axle: camera.shows([x, 0.0, 0.0]),
            rim: [0.0_f64, 90.0, 180.0, 270.0]
                .map(|d| d.to_radians().sin_cos())
                .map(|(s, c)| camera.shows([x + 340.0 * s, 340.0 * c, 0.0]))
                .to_vec(),
        };
        View {
            size: SIZE,
            faces_left: false,
            rear: wheel(-500.0),
            front: wheel(500.0),
            wheel_diameter_mm: 680.0,
            wheelbase_mm: Some(1000.0),
            distance_m: distance,
            lens_height_mm: height,
        }
    }

    /// By hand: square at 3 m with 1500 px, a point at z = 0 shows at 640 + 1500 x / 3000; one 165 mm nearer the camera at
    /// 640 + 1500 x / 2835.
    #[test]
    fn a_square_camera_shows_what_the_hand_works_out() {
        let camera = Camera::standing(
            [0.0; 3],
            3000.0,
            1500.0,
            1000.0,
            Point::new(0.0, 200.0),
            SIZE,
        );
        let [u, v] = camera.shows([100.0, 300.0, 0.0]);
        assert!((u - 690.0).abs() < 1e-9 && (v - 310.0).abs() < 1e-9);
        let [u, v] = camera.shows([100.0, 300.0, 165.0]);
        assert!((u - (640.0 + 150_000.0 / 2835.0)).abs() < 1e-9);
        assert!((v - (360.0 - 150_000.0 / 2835.0)).abs() < 1e-9);
        let back = camera.on_plane([u, v], 165.0).unwrap();
        assert!(back.distance(Point::new(100.0, 300.0)) < 1e-9);
    }

    /// By hand: yaw 10° puts the lens at 3000 (sin 10°, 0, cos 10°) = (520.9, 0, 2954.4); a point at (100, 0, 0) is
    /// 100 cos 10° = 98.48 to the right and 3000 − 100 sin 10° = 2982.6 away: 640 + 1500 · 98.48 / 2982.6 = 689.53. Pitch 4°
    /// alone: (0, 300, 0) is 300 cos 4° = 299.27 up and 3000 − 300 sin 4° = 2979.1 away: 360 − 1500 · 299.27 / 2979.1 = 209.32.
    #[test]
    fn yaw_and_pitch_show_what_the_hand_works_out() {
        let at = |angles, place| {
            Camera::standing(angles, 3000.0, 1500.0, 1000.0, Point::default(), SIZE).shows(place)
        };
        assert!((at([10.0, 0.0, 0.0], [100.0, 0.0, 0.0])[0] - 689.53).abs() < 0.01);
        assert!((at([0.0, 4.0, 0.0], [0.0, 300.0, 0.0])[1] - 209.32).abs() < 0.01);
    }

    #[test]
    fn the_camera_is_found_again_from_its_wheels() {
        for angles in [
            [0.0, 0.0, 0.0],
            [10.0, 4.0, 0.0],
            [-8.0, 6.0, 2.0],
            [7.0, -2.0, -3.0],
        ] {
            let camera = Camera::standing(
                angles,
                3200.0,
                1490.0,
                1000.0,
                Point::new(30.0, 150.0),
                SIZE,
            );
            let height = 150.0 + 3200.0 * angles[1].to_radians().sin() + 340.0;
            let found = square(&seen(&camera, Some(3.2), Some(height))).unwrap();
            let off = [
                found.camera.yaw_deg - angles[0],
                found.camera.pitch_deg - angles[1],
                found.camera.roll_deg - angles[2],
            ];
            assert!(off.iter().all(|off| off.abs() < 0.6), "{angles:?}: {off:?}");
            let place = [-150.0, 480.0, 165.0];
            let back = found.camera.on_plane(camera.shows(place), 165.0).unwrap();
            assert!(
                back.distance(Point::new(-150.0, 480.0)) < 6.0,
                "{angles:?}: {back:?}"
            );
        }
    }

    #[test]
    fn a_rider_who_faces_left_is_the_same_picture_mirrored() {
        let camera = Camera::standing(
            [6.0, 3.0, 1.0],
            3000.0,
            1500.0,
            1000.0,
            Point::new(0.0, 200.0),
            SIZE,
        );
        let right = seen(&camera, Some(3.0), None);
        let mut left = right.clone();
        left.faces_left = true;
        for at in [&mut left.rear, &mut left.front]
            .into_iter()
            .flat_map(|w| std::iter::once(&mut w.axle).chain(&mut w.rim))
        {
            at[0] = SIZE[0] - at[0];
        }
        let (one, other) = (square(&right).unwrap(), square(&left).unwrap());
        assert!((one.camera.yaw_deg - other.camera.yaw_deg).abs() < 1e-6);
        let at = camera.shows([100.0, 300.0, 165.0]);
        let (a, b) = (
            one.camera.on_plane(at, 165.0),
            other.camera.on_plane([SIZE[0] - at[0], at[1]], 165.0),
        );
        assert!(a.unwrap().distance(b.unwrap()) < 1e-6);
    }

    #[test]
    fn too_oblique_says_where_to_walk() {
        let camera = Camera::standing(
            [23.0, 2.0, 0.0],
            3000.0,
            1500.0,
            1000.0,
            Point::new(0.0, 200.0),
            SIZE,
        );
        let found = square(&seen(&camera, Some(3.0), None)).unwrap();
        assert!(
            found.messages[0].contains("toward the rear wheel"),
            "{:?}",
            found.messages
        );
        assert!(
            found.messages[0].contains("1.2 m") || found.messages[0].contains("1.1 m"),
            "{:?}",
            found.messages
        );
    }

    #[test]
    fn wheels_that_are_none_are_no_view() {
        let camera = Camera::standing([0.0; 3], 3000.0, 1500.0, 1000.0, Point::default(), SIZE);
        let mut view = seen(&camera, None, None);
        std::mem::swap(&mut view.rear, &mut view.front);
        assert!(square(&view).is_none());
    }
}
