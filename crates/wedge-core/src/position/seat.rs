//! A rider's upper body at rest on a bike: where saddle, hands and hips are, before a pedal turns.

use super::person::Person;
use super::ride::{Facts, Ride};
use crate::bike::{BikePoints, HandPlace, Placed};
use crate::plane::Point;
use crate::rider::{
    Contact, Gap, Pelvis, PitchSeen, Reach, Rider, Upper, UpperInput, contact_for, hip_to_axle,
    upper,
};
use crate::units::{Degrees, Side, Sides};

/// Where the rider meets the bike, turned with the position.
pub(super) struct Seat {
    /// Where the rider sits: the sit reference, or ahead of it. What is felt and what carries weight goes by it.
    pub(super) sit: Point,
    /// The saddle's own: every length from saddle to hand is the bike's, wherever on it the rider sits.
    pub(super) sit_reference: Point,
    /// What hands or elbows rest on.
    pub(super) contact: Point,
    pub(super) upper: UpperInput,
}

impl Seat {
    pub(super) fn of(
        facts: &Facts,
        rider: &Rider,
        setup: &Placed,
        bike: &BikePoints,
        rotation: Degrees,
    ) -> Self {
        let pelvis = rider.pelvis;
        let place = facts.hand_place(setup);
        let sit = bike.sit - setup.saddle.rails_back() * pelvis.sits_forward_mm.0;
        // Front down is forward: a turn by −rotation in the plane's sense of front up.
        let turned = |p: Point| {
            if rotation.0 == 0.0 {
                p
            } else {
                p.turned(-rotation)
            }
        };
        let contact = turned(bike.place(place).unwrap_or(bike.hand));
        let sit = turned(sit);
        Self {
            sit,
            sit_reference: turned(bike.sit),
            contact,
            upper: UpperInput {
                sit,
                contact: match place {
                    HandPlace::Pads => Contact::Elbow(contact, setup.bar.forearm_tilt() - rotation),
                    _ => Contact::Hand(contact),
                },
                place,
                spacing: Some(setup.bar.spacing(place)),
                elbow: rider.elbow_deg,
                // The pelvis turns with the position; its share of the torso's lean gives part of that already.
                pelvis: Pelvis {
                    zero_deg: pelvis.zero_deg + rotation * (1.0 - pelvis.share),
                    ..pelvis
                },
            },
        }
    }

    /// Where the arms end and where they should, when they do not reach.
    pub(super) fn gap(&self, upper: &Upper) -> Option<Gap> {
        let (Reach::Beyond { by_mm, .. } | Reach::Folded { by_mm, .. }) = upper.reach else {
            return None;
        };
        Some(Gap {
            from: match self.upper.contact {
                Contact::Hand(_) => upper.points.hand,
                Contact::Elbow(..) => upper.points.elbow,
            },
            to: self.contact,
            by_mm,
            crank_deg: None,
        })
    }
}

/// The hip joint of a side: the middle of the pelvis, moved by yaw (forward) and roll (up), plus for the right.
pub(super) fn hip_of(side: Side, middle: Point, person: &Person, rotation: Degrees) -> Point {
    let pelvis = &person.rider.pelvis;
    if pelvis.yaw_deg.0 == 0.0 && pelvis.roll_deg.0 == 0.0 {
        return middle;
    }
    let aside = match side {
        Side::Left => -person.lengths.hip_aside_mm.0,
        Side::Right => person.lengths.hip_aside_mm.0,
    };
    let (yaw, _) = pelvis.yaw_deg.sin_cos();
    let (roll, _) = pelvis.roll_deg.sin_cos();
    middle + Point::new(aside * yaw, aside * roll).turned(-rotation)
}

/// A rider's upper body at rest on a bike.
pub(crate) struct Seated {
    pub(super) bike: BikePoints,
    pub(super) seat: Seat,
    pub(super) upper: Upper,
}

impl Seated {
    pub(crate) fn of(facts: &Facts, person: &Person, setup: &Placed, rotation: Degrees) -> Self {
        let bike = BikePoints::of(&facts.frame, setup);
        let seat = Seat::of(facts, &person.rider, setup, &bike, rotation);
        let upper = upper(&seat.upper, &person.lengths);
        Self { bike, seat, upper }
    }

    /// The rider's own foot pattern, observed at the hip-to-axle distance this setup gives.
    pub(crate) fn observe(&self, person: &Person, setup: &Placed) -> Sides<PitchSeen> {
        let none = Degrees(0.0);
        Sides::from_fn(|side| PitchSeen {
            pitch: *person.rider.pitch.of(side),
            hip_to_axle_mm: hip_to_axle(
                hip_of(side, self.upper.points.hip, person, none),
                setup.pedalling.of(side).crank_mm,
                none,
            ),
        })
    }
}

impl Ride {
    /// Trunk and arms on a setup, as they are seen.
    pub(crate) fn upper_on(&self, setup: &Placed) -> Upper {
        let mut upper = Seated::of(self, &self.person, setup, Degrees(0.0)).upper;
        self.person.biases.see_upper(&mut upper);
        upper
    }

    /// How far the hands would have to go on a setup, forward and up, for this torso and this hip–shoulder–elbow angle
    /// as they are seen.
    pub(crate) fn hand_way(&self, setup: &Placed, torso: Degrees, shoulder: Degrees) -> Point {
        let bike = BikePoints::of(&self.frame, setup);
        let seat = Seat::of(self, &self.person.rider, setup, &bike, Degrees(0.0));
        let (torso, shoulder) = self.person.biases.unseen(torso, shoulder);
        contact_for(&seat.upper, &self.person.lengths, torso, shoulder) - seat.contact
    }
}
