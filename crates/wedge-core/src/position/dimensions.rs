//! The lengths fitters take, in every convention.

use crate::bike::{BikePoints, Frame, Setup};
use crate::measure::{Convention, Conventions, Quantity};
use crate::plane::Point;
use serde::{Deserialize, Deserializer, Serialize, Serializer};
use std::collections::BTreeMap;

/// How many conventions there are.
const MANY: usize = Convention::ALL.len();

/// The lengths fitters take, by the key of their convention (`saddle_height_straight_mm`). What a bike's bar does not
/// have, or what needs an angle nobody gave, is left out.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Dimensions([Option<f64>; MANY]);

impl Dimensions {
    pub(crate) fn of(
        frame: &Frame,
        setup: &Setup,
        bike: &BikePoints,
        conventions: &Conventions,
    ) -> Self {
        let mut values = [None; MANY];
        for (slot, convention) in values.iter_mut().zip(Convention::ALL) {
            *slot = value(*convention, frame, setup, bike, conventions);
        }
        Self(values)
    }

    /// The value in a convention, in its unit; `None` where this bike has none.
    pub fn get(&self, convention: Convention) -> Option<f64> {
        self.0[convention as usize]
    }
}

impl Serialize for Dimensions {
    fn serialize<S: Serializer>(&self, serializer: S) -> Result<S::Ok, S::Error> {
        let known = Convention::ALL.iter().zip(self.0);
        serializer.collect_map(known.filter_map(|(c, value)| Some((c.key(), value?))))
    }
}

impl<'de> Deserialize<'de> for Dimensions {
    fn deserialize<D: Deserializer<'de>>(deserializer: D) -> Result<Self, D::Error> {
        let all = BTreeMap::<String, f64>::deserialize(deserializer)?;
        let mut values = [None; MANY];
        for (slot, convention) in values.iter_mut().zip(Convention::ALL) {
            *slot = all.get(&convention.key()).copied();
        }
        Ok(Self(values))
    }
}

#[cfg(feature = "schema")]
impl utoipa::PartialSchema for Dimensions {
    fn schema() -> utoipa::openapi::RefOr<utoipa::openapi::schema::Schema> {
        use utoipa::openapi::schema::{ObjectBuilder, Type};
        Convention::ALL
            .iter()
            .fold(ObjectBuilder::new(), |object, convention| {
                object.property(
                    convention.key(),
                    ObjectBuilder::new()
                        .schema_type(Type::Number)
                        .description(Some(convention.words())),
                )
            })
            .description(Some("The lengths fitters take, by convention."))
            .into()
    }
}

#[cfg(feature = "schema")]
impl utoipa::ToSchema for Dimensions {}

/// The value of one convention, in its unit; `None` where this bike has none.
pub(crate) fn value(
    convention: Convention,
    frame: &Frame,
    setup: &Setup,
    bike: &BikePoints,
    conventions: &Conventions,
) -> Option<f64> {
    let with = setup.companions(frame, conventions.sit_reference);
    let reference = with.reference_point(bike.sit);
    match convention.quantity() {
        Quantity::SaddleHeight => with.saddle_height(convention, bike.sit),
        Quantity::Setback => with.setback(convention, bike.sit),
        Quantity::BarRoll => setup.bar.roll(convention),
        _ if convention == Convention::DropShare => {
            Some(100.0 * (bike.saddle_top.y - bike.hand.y) / bike.sit.length())
        }
        _ => bike
            .length(convention.hand_line()?, reference)
            .map(|length| length.0),
    }
}

/// The conventions a bike can answer: where the bar has no such spot, its own of the same quantity.
pub fn fitted(conventions: &Conventions, setup: &Setup) -> Conventions {
    let spot = setup.bar.main_spot();
    let own = |convention: Convention| {
        if setup.bar.kind().reads(convention) {
            return convention;
        }
        let line = convention.hand_line();
        Convention::ALL
            .iter()
            .copied()
            .find(|c| {
                c.quantity() == convention.quantity()
                    && c.hand_line().is_some_and(|own| {
                        own.to == spot
                            && line.is_some_and(|l| l.along == own.along && l.from == own.from)
                    })
            })
            .unwrap_or(convention)
    };
    Conventions {
        drop: own(conventions.drop),
        bb_to_hand: own(conventions.bb_to_hand),
        saddle_to_hand: own(conventions.saddle_to_hand),
        bar_roll: if setup.bar.roll(conventions.bar_roll).is_some() {
            conventions.bar_roll
        } else {
            Convention::BarRollReach
        },
        ..*conventions
    }
}

/// Setback as the rider feels it on a grade: the position turned back about the BB by `atan(grade / 100)`.
pub(crate) fn setback_on_grade(sit: Point, grade_percent: f64) -> f64 {
    let angle = crate::units::Degrees::from_radians((grade_percent / 100.0).atan());
    -sit.turned(angle).x
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;

    #[test]
    fn golden_setback_on_a_grade() {
        // At 1° (1.7455 %) a saddle 705 up and 200 back moves 705 × sin 1° = 12.304 back, and 200 × (1 − cos 1°) =
        // .030 forward.
        let felt = setback_on_grade(Point::new(-200.0, 705.0), 1.745_506_5);
        assert!((felt - 212.273_5).abs() < 1e-3, "{felt}");
        assert!((setback_on_grade(Point::new(-200.0, 705.0), 0.0) - 200.0).abs() < 1e-12);
    }

    #[test]
    fn a_bar_without_hoods_is_measured_to_what_it_has() {
        for (input, drop, ahead) in [
            (example::road(), Convention::DropHood, Convention::BbToHood),
            (
                example::flat_bar(),
                Convention::DropGrip,
                Convention::BbToGrip,
            ),
            (
                example::time_trial(),
                Convention::DropPad,
                Convention::BbToPad,
            ),
        ] {
            let own = fitted(&Conventions::default(), &input.setup);
            assert_eq!((own.drop, own.bb_to_hand), (drop, ahead));
        }
        let clamp = Conventions {
            drop: Convention::DropClamp,
            ..Conventions::default()
        };
        assert_eq!(
            fitted(&clamp, &example::flat_bar().setup).drop,
            Convention::DropClamp
        );
    }

    #[test]
    fn golden_drop_as_a_share() {
        // Sit (−212.8, 718.2…) straight 749.1; the hood 632.597 + … : the share is drop / straight height.
        let input = example::road();
        let all = input.check().unwrap().position().dimensions;
        let drop = all.get(Convention::DropHood).unwrap();
        let share = all.get(Convention::DropShare).unwrap();
        assert!((share - 100.0 * drop / 749.1).abs() < 1e-9);
        assert_eq!(all.get(Convention::DropPad), None);
    }
}
