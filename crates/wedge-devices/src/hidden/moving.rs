//! How a hidden rider goes round: every joint in space, with what a position does to hips, knees and heels.
//!
//! What is usual and how much a sign adds are house choices; which sign there is comes from the laws.

use super::{HiddenRider, Trouble};
use crate::body::{At, LegAt, Pedalling};
use wedge_core::bike::{BikePoints, Setup};
use wedge_core::capture::BodyPoint;
use wedge_core::looking::Sign;
use wedge_core::units::Side;

/// Hip markers from the middle, mm: on the skin over the joint.
const HIP_ASIDE_MM: f64 = 160.0;
/// Feet from the middle with pedals as most are, mm.
const FOOT_ASIDE_MM: f64 = 150.0;
/// Everybody's hips go up and down by this much, and what a sign of rocking adds, °.
const ROCK_DEG: (f64, f64) = (0.6, 1.4);
/// What a dip and a twist of usual badness are, °.
const DIP_DEG: f64 = 3.0;
const TWIST_DEG: f64 = 4.0;
/// A knee goes in this far while it pushes, and what a sign adds, mm.
const KNEE_IN_MM: (f64, f64) = (4.0, 9.0);
/// What a heel is shaken by where the bottom is choppy, °.
const CHOP_DEG: f64 = 2.5;
/// How far hips creep forward in ten seconds where the rider slides, mm.
const CREEP_MM: f64 = 4.0;

/// A rider who pedals.
#[derive(Debug, Clone)]
pub struct Moving {
    pedalling: Pedalling,
    rock: f64,
    dip: [f64; 2],
    twist: f64,
    knee_in: [f64; 2],
    chop: f64,
    creep: f64,
    hands_aside: f64,
}

fn index(side: Side) -> usize {
    match side {
        Side::Left => 0,
        Side::Right => 1,
    }
}

impl HiddenRider {
    /// The rider going round on a setup; `None` where a limb does not simply reach.
    pub fn moving(&self, bike: &BikePoints, setup: &Setup, places: &[f64]) -> Option<Moving> {
        let out = self.out(places);
        let sign = |sign: Sign, side| self.signed(&out, sign, side);
        let pedalling = (self.sitting(&out)).pedals(bike, setup, self.spacing, Some(self.found))?;
        let of_both = |of: &dyn Fn(Side) -> f64| Side::BOTH.map(of);
        // The side it is twisted to is the rider's own.
        let ahead = if self.seed.is_multiple_of(2) {
            1.0
        } else {
            -1.0
        };
        Some(Moving {
            rock: ROCK_DEG.0 + ROCK_DEG.1 * sign(Sign::HipsRock, None).min(3.0),
            dip: of_both(&|side| DIP_DEG * self.level(Trouble::Dip, Some(side))),
            twist: ahead * TWIST_DEG * self.level(Trouble::Twist, None),
            knee_in: of_both(&|side| {
                KNEE_IN_MM.0 + KNEE_IN_MM.1 * sign(Sign::KneeInPushing, Some(side)).min(3.0)
            }),
            chop: CHOP_DEG * (sign(Sign::BottomChoppy, None) - 0.8).clamp(0.0, 2.0),
            creep: CREEP_MM * (sign(Sign::SlidesForward, None) - 0.8).clamp(0.0, 2.0),
            hands_aside: self.spacing / 2.0,
            pedalling,
        })
    }
}

impl Moving {
    /// Where a joint is after so many seconds, the right crank there: `x` forward, `y` up, `z` to the rider's right, mm from
    /// the BB.
    pub fn at(
        &self,
        part: BodyPoint,
        side: Side,
        crank_deg: f64,
        seconds: f64,
    ) -> Option<[f64; 3]> {
        let own = match side {
            Side::Left => crank_deg + 180.0,
            Side::Right => crank_deg,
        };
        let right = if side == Side::Right { 1.0 } else { -1.0 };
        let (lifted, ahead) = self.hip(side, crank_deg);
        let ahead = ahead + self.creep * seconds / 10.0;
        let leg = || {
            let leg = self.leg(side, own, lifted)?;
            Some((leg, self.knee_aside(side, own)))
        };
        let flat = |(x, y): At, aside: f64| Some([x, y, right * aside]);
        let p = &self.pedalling;
        match part {
            BodyPoint::Hip => flat(leg()?.0.hip, HIP_ASIDE_MM).map(|at| plus(at, ahead)),
            BodyPoint::Knee => leg().and_then(|(leg, aside)| flat(leg.knee, aside)),
            BodyPoint::Ankle => flat(leg()?.0.ankle, FOOT_ASIDE_MM),
            BodyPoint::Pedal => flat(leg()?.0.axle, FOOT_ASIDE_MM + 45.0),
            BodyPoint::Toe => {
                let ball = p.ankle_to_ball(index(side));
                flat(
                    self.on_foot(side, own, lifted, ball, 20.0)?,
                    FOOT_ASIDE_MM + 10.0,
                )
            }
            BodyPoint::HeelUpper => {
                flat(self.on_foot(side, own, lifted, -45.0, 65.0)?, FOOT_ASIDE_MM)
            }
            BodyPoint::HeelLower => {
                flat(self.on_foot(side, own, lifted, -45.0, 15.0)?, FOOT_ASIDE_MM)
            }
            BodyPoint::Shoulder => flat(p.shoulder(), 0.5 * p.body().shoulder_breadth + 15.0),
            BodyPoint::Elbow => flat(p.elbow(), self.hands_aside + 30.0),
            BodyPoint::Wrist => flat(p.wrist(), self.hands_aside),
        }
    }

    /// How far one hip is lifted and is ahead, mm.
    fn hip(&self, side: Side, crank_deg: f64) -> (f64, f64) {
        let right = if side == Side::Right { 1.0 } else { -1.0 };
        // A hip goes down with its own foot, and further where it dips.
        let turn = crank_deg.to_radians();
        let pushing = |own: f64| {
            (own.to_radians() - 30.0_f64.to_radians())
                .sin()
                .max(0.0)
                .powi(2)
        };
        let roll = -self.rock * turn.sin() - self.dip[1] * pushing(crank_deg)
            + self.dip[0] * pushing(crank_deg + 180.0);
        let aside = right * HIP_ASIDE_MM;
        (
            aside * roll.to_radians().sin(),
            aside * self.twist.to_radians().sin(),
        )
    }

    /// Between hip and foot, in while it pushes and out while it rises.
    fn knee_aside(&self, side: Side, own: f64) -> f64 {
        f64::midpoint(HIP_ASIDE_MM, FOOT_ASIDE_MM)
            - self.knee_in[index(side)] * own.to_radians().sin()
    }

    /// What shakes the heel near the bottom, °.
    fn shaken(&self, own: f64) -> f64 {
        let off = (own.rem_euclid(360.0) - 180.0) / 40.0;
        self.chop * (-off * off).exp() * (6.0 * own.to_radians()).sin()
    }

    /// A leg as it goes; near its full length it goes no further for a hip that lifts.
    fn leg(&self, side: Side, own: f64, lifted: f64) -> Option<LegAt> {
        let side = index(side);
        let (shaken, p) = (self.shaken(own), &self.pedalling);
        p.leg(side, own, lifted, shaken)
            .or_else(|| p.leg(side, own, 0.0, 0.0))
    }

    fn on_foot(&self, side: Side, own: f64, lifted: f64, ahead: f64, above: f64) -> Option<At> {
        let leg = self.leg(side, own, lifted)?;
        Some(self.pedalling.on_foot(index(side), &leg, ahead, above))
    }

    /// Trunk, arms and legs as they sit.
    pub fn pedalling(&self) -> &Pedalling {
        &self.pedalling
    }
}

fn plus([x, y, z]: [f64; 3], ahead: f64) -> [f64; 3] {
    [x + ahead, y, z]
}
