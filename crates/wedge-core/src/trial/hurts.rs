//! Where it hurts, asked again once the rider sits elsewhere.

use crate::intake::{Complaint, Place};
use crate::measure::{Refusal, within};
use crate::units::Side;
use crate::words::{sided, written};
use serde::{Deserialize, Serialize};

/// How bad a place hurts where the rider sits now.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Hurts {
    /// Where on the body.
    pub place: Place,
    /// On which side, where there are two; both when none.
    #[serde(default)]
    pub side: Option<Side>,
    /// From 0, it is gone, to 10, the worst there is; none takes the last answer back.
    pub how_bad: Option<f64>,
}

impl Hurts {
    /// What is wrong with it, pointing below `at`.
    pub fn refusal(self, at: &str) -> Option<Refusal> {
        if self.side.is_some() && !self.place.per_side() {
            return Some(Refusal::new(
                format!("{at}/side"),
                "That has no left and right",
            ));
        }
        let what = "How bad it hurts";
        (self.how_bad).and_then(|bad| within(format!("{at}/how_bad"), bad, 0.0, 10.0, what))
    }

    /// Whether another answer is of the same: one of a side and one of both are.
    pub fn is_of(self, place: Place, side: Option<Side>) -> bool {
        self.place == place && (self.side == side || self.side.is_none() || side.is_none())
    }

    /// "Front of the knee, left".
    pub fn label(self) -> String {
        sided(self.place.label(), self.side)
    }

    /// Whether it hurts no more.
    pub fn is_gone(self) -> bool {
        self.how_bad.is_some_and(|bad| bad <= 0.0)
    }

    /// "2 of 10", or "gone".
    pub fn rated(self) -> Option<String> {
        let bad = self.how_bad?;
        Some(if self.is_gone() {
            "gone".to_owned()
        } else {
            format!("{} of 10", written(bad))
        })
    }

    /// What was told of before, asked again, and what is new: gone is what he names no more.
    pub fn again(told: &[(Place, Option<Side>)], named: &[Complaint]) -> Vec<Self> {
        let named: Vec<Self> = (named.iter())
            .map(|of| Self {
                place: of.place,
                side: of.side,
                how_bad: Some(of.badness()),
            })
            .collect();
        let gone = (told.iter())
            .filter(|(place, side)| !named.iter().any(|of| of.is_of(*place, *side)))
            .map(|(place, side)| Self {
                place: *place,
                side: *side,
                how_bad: Some(0.0),
            });
        gone.chain(named.iter().copied()).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::Hurts;
    use crate::intake::{Complaint, Feel, Place};
    use crate::units::Side;

    fn named(place: Place, side: Option<Side>, how_bad: u8) -> Complaint {
        Complaint {
            id: String::new(),
            place,
            side,
            feel: Feel::Pain,
            when: None,
            stroke: None,
            effort: None,
            how_bad: Some(how_bad),
            words: String::new(),
        }
    }

    #[test]
    fn what_is_named_no_more_is_gone_and_what_is_new_is_added() {
        let told = [
            (Place::KneeFront, Some(Side::Left)),
            (Place::Neck, None),
            (Place::Hand, None),
        ];
        let now = [
            named(Place::Hand, Some(Side::Right), 2),
            named(Place::LowBack, None, 4),
        ];
        let words: Vec<String> = (Hurts::again(&told, &now).into_iter())
            .map(|of| format!("{}: {}", of.label(), of.rated().expect("it was answered")))
            .collect();
        // A hand on one side answers for both.
        assert_eq!(
            words,
            [
                "Front of the knee, left: gone",
                "Neck: gone",
                "Hand, right: 2 of 10",
                "Low back: 4 of 10"
            ]
        );
    }

    #[test]
    fn nonsense_is_refused_beside_its_field() {
        let refused = |of: Hurts| of.refusal("/hurts").map(|refusal| refusal.pointer);
        let neck = Hurts {
            place: Place::Neck,
            side: None,
            how_bad: Some(11.0),
        };
        assert_eq!(refused(neck).as_deref(), Some("/hurts/how_bad"));
        let side = Hurts {
            side: Some(Side::Left),
            how_bad: None,
            ..neck
        };
        assert_eq!(refused(side).as_deref(), Some("/hurts/side"));
        let gone = Hurts {
            how_bad: Some(0.0),
            ..neck
        };
        assert_eq!(refused(gone), None);
    }
}
