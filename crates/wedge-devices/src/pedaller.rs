//! A rider who goes round as told: each joint in side view, from the BB, for a crank angle.

use rand::{Rng, RngExt};
use wedge_core::capture::{BodyPoint, Known, Told};
use wedge_core::plane::Point;

/// A rider on a bike.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Pedaller {
    /// Stature, mm.
    pub stature_mm: f64,
    /// Thigh, mm.
    pub thigh_mm: f64,
    /// Shank, mm.
    pub shank_mm: f64,
    /// Crank, mm.
    pub crank_mm: f64,
    /// Where the hip joint is.
    pub hip: Point,
    /// Trunk above horizontal, °.
    pub torso_deg: f64,
    /// Elbow flexion, °.
    pub elbow_deg: f64,
}

impl Pedaller {
    /// A rider of this stature, proportions a few in a hundred off the usual ones, the saddle near where the leg wants it.
    pub fn thrown(dice: &mut impl Rng, stature_mm: (f64, f64)) -> Self {
        let stature = dice.random_range(stature_mm.0..stature_mm.1);
        let (thigh, shank) = (0.245 * stature, 0.246 * stature);
        let off = |dice: &mut dyn Rng| dice.random_range(0.96..1.04);
        let (thigh, shank) = (thigh * off(dice), shank * off(dice));
        let crank = dice.random_range(160.0..178.0);
        // At the bottom the leg is bent by some thirty-five degrees, and the sole hangs below the ankle.
        let bent = dice.random_range(30.0_f64..45.0).to_radians();
        let leg = (thigh * thigh + shank * shank + 2.0 * thigh * shank * bent.cos()).sqrt();
        let below = 0.039 * stature + 22.0 + 30.0;
        let back = dice.random_range(150.0..230.0);
        let up = ((leg + below) * (leg + below) - back * back).sqrt() - crank;
        Self {
            stature_mm: stature,
            thigh_mm: thigh,
            shank_mm: shank,
            crank_mm: crank,
            hip: Point::new(-back, up),
            torso_deg: dice.random_range(32.0..62.0),
            elbow_deg: dice.random_range(10.0..35.0),
        }
    }

    /// What a tape would say of the rider.
    pub fn known(&self) -> Known {
        Known {
            stature_mm: Some(self.stature_mm),
            crank_mm: Some(self.crank_mm),
            thigh_mm: Some(self.thigh_mm),
            shank_left_mm: Some(self.shank_mm),
            shank_right_mm: Some(self.shank_mm),
            cleat_setback_mm: Some(10.0),
            sole_mm: Some(8.0),
            pedal_stack_mm: Some(14.0),
            seat_tube_deg: Some(73.5),
            ..Known::default()
        }
    }

    /// Where a point of the rider is with the crank there, mm from the BB.
    pub fn at(&self, part: BodyPoint, crank_deg: f64) -> Point {
        let told: Told = self.known().told();
        let turn = crank_deg.to_radians();
        let axle = Point::new(turn.sin(), turn.cos()) * self.crank_mm;
        // Heel up by twenty degrees, most while rising.
        let pitch = (20.0 + 12.0 * (turn - 270.0_f64.to_radians()).cos()).to_radians();
        let on_foot = |ahead: f64, above: f64| {
            let (sin, cos) = (-pitch).sin_cos();
            axle + Point::new(ahead * cos - above * sin, ahead * sin + above * cos)
        };
        let sole = told.pedal_stack_mm + told.sole_mm;
        let ankle = on_foot(
            told.cleat_setback_mm - told.ankle_to_ball_mm,
            sole + told.ankle_height_mm,
        );
        let shoulder = self.hip + polar(0.288 * self.stature_mm, self.torso_deg);
        let down = self.torso_deg - 85.0;
        let elbow = shoulder + polar(0.186 * self.stature_mm, down);
        match part {
            BodyPoint::Pedal => axle,
            BodyPoint::Toe => on_foot(told.cleat_setback_mm, sole + told.toe_marker_mm),
            BodyPoint::Ankle => ankle,
            BodyPoint::Knee => self.knee(ankle),
            BodyPoint::Hip => self.hip,
            BodyPoint::Shoulder => shoulder,
            BodyPoint::Elbow => elbow,
            BodyPoint::Wrist => elbow + polar(0.146 * self.stature_mm, down + self.elbow_deg),
            BodyPoint::HeelUpper | BodyPoint::HeelLower => ankle + Point::new(-50.0, 0.0),
        }
    }

    /// The knee ahead of the line from hip to ankle; on it where the leg does not reach.
    fn knee(&self, ankle: Point) -> Point {
        let line = ankle - self.hip;
        let far = line.length();
        let along = (self.thigh_mm.powi(2) - self.shank_mm.powi(2) + far * far) / (2.0 * far);
        let out = (self.thigh_mm.powi(2) - along * along).max(0.0).sqrt();
        let unit = line * (1.0 / far);
        self.hip + unit * along + Point::new(-unit.y, unit.x) * out
    }
}

fn polar(length: f64, degrees: f64) -> Point {
    let (sin, cos) = degrees.to_radians().sin_cos();
    Point::new(length * cos, length * sin)
}

#[cfg(test)]
#[allow(clippy::unwrap_used)]
mod tests {
    use super::*;
    use rand::SeedableRng;
    use rand::rngs::StdRng;

    #[test]
    fn limbs_keep_their_lengths_and_knees_bend_forward() {
        let rider = Pedaller::thrown(&mut StdRng::seed_from_u64(7), (1500.0, 2000.0));
        for degree in 0..360 {
            let at = |part| rider.at(part, f64::from(degree));
            let (hip, knee, ankle) = (
                at(BodyPoint::Hip),
                at(BodyPoint::Knee),
                at(BodyPoint::Ankle),
            );
            assert!(
                (hip.distance(knee) - rider.thigh_mm).abs() < 1e-6,
                "{degree}"
            );
            assert!(
                (knee.distance(ankle) - rider.shank_mm).abs() < 1e-6,
                "{degree}"
            );
            assert!(knee.x > hip.x);
            assert!((at(BodyPoint::Pedal).length() - rider.crank_mm).abs() < 1e-9);
        }
    }
}
