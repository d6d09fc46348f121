//! Who looks at a rider: dots stuck on skin are not joints, so that every angle of a kind is read larger or smaller by the
//! same, for as long as they stick.

use crate::body::{Sight, Two};
use crate::dice::Dice;
use wedge_core::words::written;

/// By how much every angle of a kind is seen larger, °.
#[derive(Debug, Clone, Copy, Default, PartialEq)]
pub struct Observer {
    /// The knee's.
    pub knee: f64,
    /// The hip's.
    pub hip: f64,
    /// The ankle's.
    pub ankle: f64,
    /// The trunk against the horizontal.
    pub torso: f64,
    /// The shoulder's.
    pub shoulder: f64,
    /// The sole against the horizontal.
    pub foot: f64,
}

/// One standard deviation of an observer's angles, °, who feels for each landmark and has it within 5 mm each way (a house
/// choice). A dot that ends a segment of length l turns it by 5 / l; the dot of the corner itself turns both its segments,
/// together by 5 · √(1/a² + 1/b² − 2 cos φ / (a b)) at an angle φ between them. Of a rider of 1.78 m: thigh 436 mm, shank 438,
/// trunk 513, upper arm 331, ankle to toe joint 145, heel to toe joint 200; φ is 145° at the knee, 45 to 100° at the hip, 100° at
/// the ankle and 85° at the shoulder.
pub const BY_HAND: Observer = Observer {
    knee: 1.5,
    hip: 1.1,
    ankle: 3.0,
    torso: 0.8,
    shoulder: 1.4,
    foot: 2.0,
};

impl Observer {
    /// Somebody, of whom such are one standard deviation.
    pub fn drawn(dice: &mut Dice, spread: Self) -> Self {
        Self {
            knee: dice.normal(spread.knee),
            hip: dice.normal(spread.hip),
            ankle: dice.normal(spread.ankle),
            torso: dice.normal(spread.torso),
            shoulder: dice.normal(spread.shoulder),
            foot: dice.normal(spread.foot),
        }
    }

    /// What the page says of one of whom these are one standard deviation.
    pub fn words(self) -> String {
        let kinds = [
            ("knees", self.knee),
            ("hips", self.hip),
            ("ankles", self.ankle),
            ("torsos", self.torso),
            ("shoulders", self.shoulder),
            ("feet", self.foot),
        ];
        let each = kinds.map(|(kind, by)| format!("{kind} ± {}°", written(by)));
        format!(
            "One take of ten seconds, by somebody whose dots sit within 5 mm of each landmark and stay on: {} larger or smaller \
             than they are, in the take and after the change alike.",
            each.join(", ")
        )
    }

    /// What he sees of what there is.
    pub fn sees(self, there: &Sight) -> Sight {
        let by = |angles: Two, more: f64| angles.map(|angle| angle + more);
        Sight {
            knee_at_full_reach: by(there.knee_at_full_reach, self.knee),
            knee_forward: by(there.knee_forward, self.knee),
            knee_most_bent: by(there.knee_most_bent, self.knee),
            knee_at_top: by(there.knee_at_top, self.knee),
            knee_at_bottom: by(there.knee_at_bottom, self.knee),
            hip_closed: by(there.hip_closed, self.hip),
            hip_open: by(there.hip_open, self.hip),
            ankle_smallest: by(there.ankle_smallest, self.ankle),
            ankle_largest: by(there.ankle_largest, self.ankle),
            foot: there.foot.map(|quarter| by(quarter, self.foot)),
            torso: there.torso + self.torso,
            shoulder: there.shoulder + self.shoulder,
            ..there.clone()
        }
    }
}
