//! Where it hurts, asked again once the rider sits elsewhere.

use super::Felt;
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
        let bad = || {
            let what = "How bad it hurts";
            (self.how_bad).and_then(|bad| within(format!("{at}/how_bad"), bad, 0.0, 10.0, what))
        };
        self.felt().refusal(at).or_else(bad)
    }

    /// Where.
    pub fn felt(self) -> Felt {
        Felt {
            place: self.place,
            side: self.side,
        }
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
    pub fn again(told: &[Felt], named: &[Complaint]) -> Vec<Self> {
        let named: Vec<Self> = (named.iter())
            .map(|of| Self {
                place: of.place,
                side: of.side,
                how_bad: Some(of.badness()),
            })
            .collect();
        let gone = (told.iter())
            .filter(|told| !named.iter().any(|of| of.felt().is_of(**told)))
            .map(|told| Self {
                place: told.place,
                side: told.side,
                how_bad: Some(0.0),
            });
        gone.chain(named.iter().copied()).collect()
    }
}

#[cfg(test)]
mod tests {
    use super::{Felt, Hurts};
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
        ]
        .map(|(place, side)| Felt { place, side });
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
