//! The value of every output in a position, and the words of its convention there.

use super::Position;
use crate::bike::HandPlace;
use crate::measure::{Convention, Conventions, Limbs, Output};
use crate::units::Side;

impl Output {
    /// Its value in a position, `None` where this bike or rider has none, and where it is of a limb that does not get to
    /// its contact point; `side` matters only where it is per side.
    pub fn of(self, position: &Position, side: Side) -> Option<f64> {
        self.is_attached(position, side)
            .then(|| self.as_drawn(position, side))
            .flatten()
    }

    /// Whether this bike and rider have it at all, whatever reaches.
    pub fn is_known(self, position: &Position, side: Side) -> bool {
        self.as_drawn(position, side).is_some()
    }

    /// Whether the limbs it is of meet the bike: of others nothing is known but how far they are away.
    fn is_attached(self, position: &Position, side: Side) -> bool {
        let arms = || position.upper.reach.is_met();
        let leg = || position.legs.of(side).reach.is_met();
        match self.limbs() {
            Limbs::None => true,
            Limbs::Leg => leg(),
            Limbs::Arms => arms(),
            Limbs::LegAndArms => leg() && arms(),
            Limbs::All => position.is_reached(),
        }
    }

    /// Its value as the position is drawn, limbs that do not get there stretched towards where they should be.
    pub(crate) fn as_drawn(self, position: &Position, side: Side) -> Option<f64> {
        let leg = position.legs.of(side);
        let conventions = &position.conventions;
        let dimensions = &position.dimensions;
        let clearances = &position.clearances;
        let perch = &clearances.perch;
        Some(match self {
            Self::KneeAtFullReach => leg.knee.smallest_deg.0,
            Self::KneeMostBent => leg.knee.largest_deg.0,
            Self::KneeAtTop => leg.knee.at_0_deg.0,
            Self::KneeForward => leg.knee.at_90_deg.0,
            Self::KneeAtBottom => leg.knee.at_180_deg.0,
            Self::KneeInLine => leg.knee.in_line_deg.0,
            Self::KneeOverAxle => leg.knee_over_axle.centre_mm.0,
            Self::FrontQuarterOverAxle => leg.knee_over_axle.front_quarter_mm.0,
            Self::KneecapOverAxle => leg.knee_over_axle.kneecap_front_mm.0,
            Self::TendonOverAxle => leg.knee_over_axle.tendon_mm.0,
            Self::ShinOverAxle => leg.knee_over_axle.shin_bump_mm.0,
            Self::HipClosed => leg.hip_closed_deg.0,
            Self::HipOpen => leg.hip_open_deg.0,
            Self::HipFlexion => leg.hip_flexion_deg.0,
            Self::HipFlexionAtReach => leg.hip_flexion_at_reach_deg.0,
            Self::FootAtTop => leg.foot.top_deg.0,
            Self::FootForward => leg.foot.forward_deg.0,
            Self::FootAtBottom => leg.foot.bottom_deg.0,
            Self::FootRising => leg.foot.rising_deg.0,
            Self::AnkleSmallest => leg.ankle_smallest_deg.0,
            Self::AnkleLargest => leg.ankle_largest_deg.0,
            Self::Torso => position.upper.torso_deg.0,
            Self::Shoulder => position.upper.shoulder_deg.0,
            Self::ShoulderToWrist => position.upper.shoulder_to_wrist_deg.0,
            Self::Elbow => position.upper.elbow_deg.0,
            Self::SaddleHeight => dimensions.get(conventions.saddle_height)?,
            Self::Setback => dimensions.get(conventions.setback)?,
            Self::SeatAngle => dimensions.get(Convention::SetbackSeatAngle)?,
            Self::SetbackOnGrade => position.setback_on_grade_mm?.0,
            Self::Drop => dimensions.get(conventions.drop)?,
            Self::DropShare => dimensions.get(Convention::DropShare)?,
            Self::BbToHand => dimensions.get(conventions.bb_to_hand)?,
            Self::BbToHandUp => position.bike.hand.y,
            Self::SaddleToHand => dimensions.get(conventions.saddle_to_hand)?,
            Self::SaddleToHandByTrunk => position.saddle_to_hand_by_trunk_percent,
            Self::GripLength => dimensions.get(Convention::GripLength)?,
            Self::KneeToElbow => leg.clearance.knee_to_elbow_mm.0,
            Self::KneeToTrunk => leg.clearance.knee_to_trunk_mm.0,
            Self::ToeClearance => clearances.toe_mm.of(side).0,
            Self::AxleToGround => clearances.axle_to_ground_mm.of(side).0,
            Self::PedalLean => (*clearances.pedal_lean_deg.of(side))?.0,
            Self::Standover => clearances.standover_mm?.0,
            Self::PostExposed => perch.exposed_mm.0,
            Self::PostInserted => perch.inserted_mm?.0,
            Self::RailPlace => perch.clamp_ahead_mm?.0,
            Self::FrontShare => position.loads?.front_share_percent,
            Self::HandLoad => position.loads?.hand_load_n?,
        })
    }

    /// The words of its convention, the chosen one where the fitter chooses; angles of the upper body name the place
    /// of the hands.
    pub fn convention(self, conventions: &Conventions, hands: HandPlace) -> String {
        let words = self
            .chosen(conventions)
            .map_or(self.spec().convention, Convention::words);
        match self {
            Self::Torso | Self::Shoulder | Self::ShoulderToWrist | Self::Elbow => {
                format!("{words}, on the {}", hands.word())
            }
            _ => words.to_owned(),
        }
    }
}
