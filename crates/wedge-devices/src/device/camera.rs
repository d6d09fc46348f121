//! The camera: markers over time.

use super::{DeviceKind, Mishap, Seat, Taken, beyond_reach};
use crate::dice::Dice;
use wedge_core::capture::{BodyPoint, MarkerUnit, Track, Tracks};
use wedge_core::units::Side;
use wedge_core::words::written;

/// Frames a second.
pub const RATE_HZ: f64 = 100.0;
/// How long a take is, s.
pub const SECONDS: f64 = 10.0;
/// How far a marker's place is off, one standard deviation an axis, mm.
const NOISE_MM: f64 = 1.0;
/// And what putting it on by hand adds, one standard deviation an axis: 5 mm in space.
const PLACED_MM: f64 = 2.9;
/// How often a marker is hidden, in a second, and for how long at the most, s.
const HIDDEN: (f64, f64) = (0.1, 0.15);
/// How often two markers of a side are taken for one another in a take, and for how long, s.
const SWAPPED: (f64, (f64, f64)) = (1.0, (0.03, 0.08));
/// Turns a minute waver by this share.
const WAVERS: f64 = 0.01;

/// Follows markers. A real one sends places in mm, [`RATE_HZ`] times a second, by its own clock from the start of the take, in
/// axes of the room; a marker that is hidden has no place, and two that cross may be taken for one another.
pub trait Camera {
    /// Takes so many seconds.
    fn take(&mut self, seconds: f64) -> Taken<Tracks>;
}

/// A camera in front of a rider who is not there: in the bike's axes, `x` forward, `y` up, `z` to the rider's right, mm.
#[derive(Debug)]
pub struct SimulatedCamera<'a> {
    seat: Seat<'a>,
    placing: u32,
    fault: Option<Mishap>,
}

/// Markers of the body, a side.
const PARTS: [BodyPoint; 10] = [
    BodyPoint::Toe,
    BodyPoint::HeelUpper,
    BodyPoint::HeelLower,
    BodyPoint::Ankle,
    BodyPoint::Knee,
    BodyPoint::Hip,
    BodyPoint::Shoulder,
    BodyPoint::Elbow,
    BodyPoint::Wrist,
    BodyPoint::Pedal,
];

/// Markers that sit on the pelvis beside the hip joints, from the middle between the hips: ahead, up, right, mm.
const PELVIS: [(&str, [f64; 3]); 3] = [
    ("L_pelvis", [70.0, 90.0, -120.0]),
    ("R_pelvis", [70.0, 90.0, 120.0]),
    ("sacrum", [-90.0, 60.0, 0.0]),
];

/// The names of its markers that no figure is read off.
pub fn nothing_of_the_body() -> Vec<String> {
    PELVIS.iter().map(|(name, _)| (*name).to_owned()).collect()
}

impl<'a> SimulatedCamera<'a> {
    /// A camera in front of a rider whose markers were put on this many times.
    pub fn before(seat: Seat<'a>, placing: u32, fault: Option<Mishap>) -> Self {
        Self {
            seat,
            placing,
            fault,
        }
    }

    fn tracks(&self, seconds: f64) -> Option<Tracks> {
        let moving = self.seat.moving()?;
        let mut dice = self.seat.dice(DeviceKind::Camera);
        let noise = NOISE_MM * self.seat.rider.noise();
        let frames = frames(seconds);
        let (start, cadence) = (dice.between(0.0, 360.0), self.seat.effort.cadence_rpm);
        let (wave, phase) = (WAVERS * dice.unit(), dice.between(0.0, 6.0));
        let turned = |at: f64| start + 6.0 * cadence * (at + wave * (at + phase).sin());
        let times: Vec<f64> = (0..frames)
            .map(|frame| f64::from(frame) / RATE_HZ)
            .collect();
        let mut markers = Vec::new();
        for side in Side::BOTH {
            for part in PARTS {
                let put = self.put(side, part);
                let places = times.iter().map(|at| {
                    let place = moving.at(part, side, turned(*at), *at)?;
                    Some(std::array::from_fn(|i| {
                        place[i] + put[i] + dice.normal(noise)
                    }))
                });
                markers.push(Track {
                    name: format!("{}_{}", side_letter(side), part.key()),
                    places: places.collect(),
                });
            }
        }
        let hip = |side: Side, at: f64| moving.at(BodyPoint::Hip, side, turned(at), at);
        for (name, from) in PELVIS {
            let places = times.iter().map(|at| {
                let (left, right) = (hip(Side::Left, *at)?, hip(Side::Right, *at)?);
                let place = |i: usize| f64::midpoint(left[i], right[i]) + from[i];
                Some(std::array::from_fn(|i| place(i) + dice.normal(noise)))
            });
            markers.push(Track {
                name: name.to_owned(),
                places: places.collect(),
            });
        }
        hide(&mut dice, &mut markers, seconds);
        swap(&mut dice, &mut markers);
        Some(Tracks {
            rate_hz: RATE_HZ,
            times,
            unit: Some(MarkerUnit::Millimetre),
            markers,
        })
    }

    /// Where a marker was put, from the joint: the same for every take of a placing.
    fn put(&self, side: Side, part: BodyPoint) -> [f64; 3] {
        let name = u64::from(self.placing) << 8 | (part as u64) << 1 | side as u64;
        let mut dice = self.seat.rider.placed_by(name);
        let off = PLACED_MM * self.seat.rider.noise();
        std::array::from_fn(|_| dice.normal(off))
    }
}

fn side_letter(side: Side) -> char {
    match side {
        Side::Left => 'L',
        Side::Right => 'R',
    }
}

fn frames(seconds: f64) -> u32 {
    (seconds.clamp(0.0, 600.0) * RATE_HZ).round() as u32
}

/// Hides markers for a moment now and then.
fn hide(dice: &mut Dice, markers: &mut [Track], seconds: f64) {
    for marker in markers {
        let frames = marker.places.len();
        let chances = (seconds * 10.0).round() as u32;
        for _ in 0..chances {
            let (is_hidden, long) = (dice.happens(HIDDEN.0 / 10.0), dice.between(0.0, HIDDEN.1));
            let from = dice.index(frames);
            if is_hidden {
                let until = (from + frames_in(long)).min(frames);
                marker.places[from..until].fill(None);
            }
        }
    }
}

fn frames_in(seconds: f64) -> usize {
    frames(seconds) as usize
}

/// Takes two markers of a side for one another for a moment.
fn swap(dice: &mut Dice, markers: &mut [Track]) {
    let (often, long) = SWAPPED;
    let times = dice.index(2 * often.round() as usize + 1);
    for _ in 0..times {
        let side = PARTS.len() * dice.index(2);
        let one = side + dice.index(PARTS.len());
        let other = side + (one - side + 1) % PARTS.len();
        let frames = markers[one].places.len();
        let from = dice.index(frames);
        let until = (from + frames_in(dice.between(long.0, long.1))).min(frames);
        for frame in from..until {
            let was = markers[one].places[frame];
            markers[one].places[frame] = markers[other].places[frame];
            markers[other].places[frame] = was;
        }
    }
}

/// What of a take was there from one moment to another.
fn cut(mut tracks: Tracks, from: usize, until: usize) -> Tracks {
    let start = tracks.times.get(from).copied().unwrap_or_default();
    tracks.times = tracks.times[from..until]
        .iter()
        .map(|at| at - start)
        .collect();
    for marker in &mut tracks.markers {
        marker.places = marker.places[from..until].to_vec();
    }
    tracks
}

impl Camera for SimulatedCamera<'_> {
    fn take(&mut self, seconds: f64) -> Taken<Tracks> {
        let Some(mut tracks) = self.tracks(seconds) else {
            return beyond_reach();
        };
        let frames = tracks.times.len();
        // What goes wrong does so where this question has it, apart from what is measured.
        let mut dice = self.seat.rider.read_by(64, self.seat.asked);
        let told = |frames: usize| written(f64::from(frames as u32) / RATE_HZ);
        match self.fault {
            None => Taken::whole(tracks),
            Some(fault @ Mishap::Silent) => Taken::troubled(
                None,
                fault,
                "The camera sends nothing: nothing was taken. Is it switched on?",
            ),
            Some(fault @ Mishap::Unplugged) => {
                let until = (dice.between(0.3, 0.8) * f64::from(frames as u32)) as usize;
                let words = format!(
                    "The camera was unplugged after {} s of {}: keep what there is, or drop it.",
                    told(until),
                    told(frames)
                );
                Taken::troubled(Some(cut(tracks, 0, until)), fault, words)
            }
            Some(fault @ Mishap::Late) => {
                let from = frames_in(dice.between(0.5, 2.5)).min(frames);
                let words = format!(
                    "The camera began {} s late: {} s were taken. Keep them, or take anew.",
                    told(from),
                    told(frames - from)
                );
                Taken::troubled(Some(cut(tracks, from, frames)), fault, words)
            }
            Some(fault @ Mishap::OutOfRange) => {
                let from = (dice.between(0.3, 0.5) * f64::from(frames as u32)) as usize;
                let until = (from + frames / 4).min(frames);
                for marker in &mut tracks.markers {
                    marker.places[from..until].fill(None);
                }
                let words = format!(
                    "The rider was out of the camera's view for {} s: keep the rest, or take anew.",
                    told(until - from)
                );
                Taken::troubled(Some(tracks), fault, words)
            }
        }
    }
}
