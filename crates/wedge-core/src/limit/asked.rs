//! The limits that intake calls for: a joint that was replaced, or will not fold, is tested before anything is built on
//! it.

use crate::intake::{Injury, Intake, Joint};
use crate::measure::Quantity;
use crate::rider::Rider;
use crate::units::Side;
use crate::words::sided;
use serde::{Deserialize, Serialize};

/// A limit nobody has tested that intake calls for.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AskedLimit {
    /// The limit.
    pub quantity: Quantity,
    /// The side, where there are two.
    pub side: Option<Side>,
    /// "Hip limit, left".
    pub label: String,
    /// Why it is asked for: "a replaced hip: new left hip, spring 2023".
    pub why: String,
}

impl Joint {
    /// The limit that tells how far it goes.
    fn limit(self) -> Quantity {
        match self {
            Self::Hip => Quantity::HipLimit,
            Self::Knee => Quantity::KneeLimit,
            Self::Back => Quantity::BackLimit,
        }
    }
}

/// The limits that intake calls for by name and nobody has tested yet, each once.
pub fn asked_limits(intake: &Intake, rider: &Rider) -> Vec<AskedLimit> {
    let mut all: Vec<AskedLimit> = Vec::new();
    for injury in &intake.injuries {
        let Some((joint, side)) = injury.of_the_joint().filter(|_| injury.stiffens()) else {
            continue;
        };
        let quantity = joint.limit();
        let sides = match side {
            _ if !quantity.spec().per_side => vec![None],
            Some(side) => vec![Some(side)],
            None => vec![Some(Side::Left), Some(Side::Right)],
        };
        for side in sides {
            let tested = match side {
                Some(side) => rider.legs.of(side).get(quantity),
                None => rider.body.get(quantity),
            };
            let twice = all.iter().any(|a| (a.quantity, a.side) == (quantity, side));
            if tested.is_none() && !twice {
                all.push(AskedLimit {
                    quantity,
                    side,
                    label: sided(quantity.spec().label, side),
                    why: why(injury, joint),
                });
            }
        }
    }
    all
}

fn why(injury: &Injury, joint: Joint) -> String {
    let joint = joint.label().to_lowercase();
    let what = if injury.replaced {
        format!("a replaced {joint}")
    } else {
        format!("a {joint} that will not fold")
    };
    let said = injury.what.trim();
    if said.is_empty() {
        what
    } else {
        format!("{what}: {said}")
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use crate::units::Degrees;

    fn asked(injuries: Vec<Injury>, measured: &[(Side, f64)]) -> Vec<String> {
        let mut rider = example::road().rider;
        for (side, limit) in measured {
            rider.legs.of_mut(*side).hip_limit_deg = Some(Degrees(*limit));
        }
        let intake = Intake {
            injuries,
            ..Intake::default()
        };
        let asked = asked_limits(&intake, &rider).into_iter();
        asked.map(|a| format!("{} ({})", a.label, a.why)).collect()
    }

    fn replaced(what: &str) -> Injury {
        Injury {
            what: what.to_owned(),
            replaced: true,
            ..Injury::default()
        }
    }

    #[test]
    fn a_replaced_joint_is_asked_for_by_its_name_and_side() {
        assert_eq!(
            asked(vec![replaced("New left hip, spring 2023")], &[]),
            ["Hip limit, left (a replaced hip: New left hip, spring 2023)"]
        );
        // What was chosen wins over what the words say, and an unnamed side is both.
        let chosen = Injury {
            joint: Some(Joint::Knee),
            ..replaced("")
        };
        assert_eq!(
            asked(vec![chosen], &[]),
            [
                "Knee limit, left (a replaced knee)",
                "Knee limit, right (a replaced knee)"
            ]
        );
        let stiff = Injury {
            joint: Some(Joint::Back),
            will_not_fold: true,
            ..Injury::default()
        };
        assert_eq!(
            asked(vec![stiff], &[]),
            ["Back limit (a back that will not fold)"]
        );
    }

    #[test]
    fn what_was_tested_is_not_asked_for_again() {
        let hip = || vec![replaced("Right hip"), replaced("right hip again")];
        assert_eq!(asked(hip(), &[]).len(), 1);
        assert!(asked(hip(), &[(Side::Left, 100.0)])[0].starts_with("Hip limit, right"));
        assert!(asked(hip(), &[(Side::Right, 100.0)]).is_empty());
    }

    #[test]
    fn an_injury_that_folds_asks_for_nothing() {
        let healed = Injury {
            what: "Broken left hip, healed; hipster".to_owned(),
            surgery: true,
            ..Injury::default()
        };
        assert!(asked(vec![healed], &[]).is_empty());
        assert!(asked(vec![replaced("shipped home from the shoulder clinic")], &[]).is_empty());
    }
}
