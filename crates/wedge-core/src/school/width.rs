//! How wide the bar is for this rider, and how far ahead of the steerer the hands are: a small decision of its own.

use crate::bike::{Bar, HandPlace};
use crate::foresee::Trying;
use crate::measure::Quantity;
use crate::rule::rules;
use crate::solve::{AHEAD_MM, WIDTH_BY_SPAN, ahead};
use crate::words::written;
use serde::Serialize;

rules! {
    rules "Bar width";
    /// A slightly wider bar: over the breadth of the shoulders by
    const WIDER_MM: f64 = 20.0, " mm", Workshop;
    /// Two sizes over the breadth.
    const TWO_SIZES_MM: f64 = 20.0, " mm", Workshop;
    /// A width this close is there.
    const THERE_MM: f64 = 10.0, " mm", House;
}

/// What a school of bar width says.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WidthOpinion {
    /// As it is called.
    pub label: String,
    /// The width it wants, mm; an end where it accepts more.
    pub low_mm: f64,
    /// Its other end; the same where it wants one width.
    pub high_mm: f64,
    /// Whether it rests on an estimate.
    pub estimated: bool,
}

/// A bar's width between its schools.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Width {
    /// As it is: centre to centre at the hoods of a drop bar, end to end of a flat one, mm.
    pub now_mm: f64,
    /// The schools; none of pads, whose spacing is felt.
    pub schools: Vec<WidthOpinion>,
    /// How far ahead of the steerer's axis the hands are, square to it, mm.
    pub ahead_mm: f64,
    /// What there is to say, what is wrong first.
    pub words: Vec<String>,
}

/// The width of a rider's bar.
pub fn bar_width(trying: &Trying) -> Width {
    let lengths = trying.lengths();
    let breadth = lengths.shoulder_breadth.value_mm.0;
    let breadth_estimated = trying.rider.body.get(Quantity::ShoulderBreadth).is_none();
    let span = trying.rider.body.get(Quantity::ArmSpan);
    let opinion = |label: &str, low_mm: f64, high_mm: f64, estimated: bool| WidthOpinion {
        label: label.to_owned(),
        low_mm: low_mm.round(),
        high_mm: high_mm.round(),
        estimated,
    };
    let mut words = Vec::new();
    let (now_mm, schools) = match &trying.setup.bar {
        Bar::Drop(bar) => {
            let now = bar.bar_width_mm.0;
            let over = now - breadth;
            if over >= TWO_SIZES_MM && !breadth_estimated {
                words.push(format!(
                    "The bar is {} mm wider than the shoulders, two sizes or more: wrists roll outward, both hands go numb, \
                     the neck tires",
                    written(over.round())
                ));
            } else if over <= -TWO_SIZES_MM && !breadth_estimated {
                words.push(format!(
                    "The bar is {} mm narrower than the shoulders, two sizes or more: elbows flare in, steering twitches",
                    written(-over.round())
                ));
            }
            let schools = vec![
                opinion(
                    "As wide as the shoulders",
                    breadth,
                    breadth,
                    breadth_estimated,
                ),
                opinion(
                    "Slightly wider",
                    breadth + WIDER_MM,
                    breadth + WIDER_MM,
                    breadth_estimated,
                ),
            ];
            if breadth_estimated {
                words.push(
                    "Shoulder breadth is estimated: measure it between the bony outer edges before a bar is bought"
                        .to_owned(),
                );
            }
            (now, schools)
        }
        Bar::Flat(bar) => {
            let now = bar.flat_bar_width_mm.0;
            let schools = span.map_or_else(Vec::new, |span| {
                let (low, high) = (WIDTH_BY_SPAN.0 * span / 10.0, WIDTH_BY_SPAN.1 * span / 10.0);
                if now > high + THERE_MM {
                    words.push("Begin wide, then cut 5 to 10 mm at a time".to_owned());
                }
                vec![opinion("By arm span", low, high, false)]
            });
            if schools.is_empty() {
                words.push(
                    "Arm span is not measured: the width of a flat bar goes by it".to_owned(),
                );
            }
            (now, schools)
        }
        Bar::Aero(bar) => (bar.pad_spacing_mm.0, Vec::new()),
    };
    let ahead_mm = ahead(&trying.frame, trying.before.bike.hand);
    if trying.before.hands != HandPlace::Pads && ahead_mm < AHEAD_MM.0 {
        words.push(format!(
            "The hands are {} mm ahead of the steerer’s axis; {} to {} steer quietly",
            written(ahead_mm.round()),
            written(AHEAD_MM.0),
            written(AHEAD_MM.1)
        ));
    }
    Width {
        now_mm,
        schools,
        ahead_mm: ahead_mm.round(),
        words,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use crate::foresee::ForeseeInput;
    use crate::units::Millimetres;

    fn of(input: &ForeseeInput) -> Width {
        bar_width(&Trying::of(&input.check().unwrap()))
    }

    #[test]
    fn two_sizes_over_the_shoulders_is_said_only_once_they_are_measured() {
        let mut input = example::road();
        let Bar::Drop(bar) = input.setup.bar else {
            panic!("a drop bar");
        };
        let width = bar.bar_width_mm.0;
        input.rider.body.shoulder_breadth_mm = Some(Millimetres(width - 25.0));
        let wide = of(&input);
        assert!(
            wide.words[0].starts_with("The bar is 25 mm wider"),
            "{wide:?}"
        );
        let wants: Vec<f64> = wide.schools.iter().map(|s| s.low_mm).collect();
        assert_eq!(wants, [width - 25.0, width - 5.0]);
        input.rider.body.shoulder_breadth_mm = Some(Millimetres(width - 12.0));
        assert!(of(&input).words.iter().all(|w| !w.contains("two sizes")));
        input.rider.body.shoulder_breadth_mm = None;
        let estimated = of(&input);
        assert!(estimated.schools.iter().all(|s| s.estimated));
        assert!(estimated.words.iter().any(|w| w.contains("is estimated")));
    }

    #[test]
    fn golden_a_flat_bar_goes_by_the_arm_span() {
        // 4.2 and 4.4 times 172 cm: 722 and 757 mm.
        let mut input = example::all()
            .into_iter()
            .find(|input| matches!(input.setup.bar, Bar::Flat(_)))
            .unwrap();
        input.rider.body.arm_span_mm = Some(Millimetres(1720.0));
        let width = of(&input);
        assert_eq!(
            (width.schools[0].low_mm, width.schools[0].high_mm),
            (722.0, 757.0)
        );
        input.rider.body.arm_span_mm = None;
        assert!(of(&input).schools.is_empty());
    }

    #[test]
    fn golden_hands_ahead_of_the_axis() {
        // A stem square to the steerer puts the clamp its own length ahead of the axis; the hood stands further.
        let mut input = example::road();
        input.setup.cockpit.stem_angle_deg = crate::units::Degrees(0.0);
        let at = |stem: f64| {
            let mut input = input.clone();
            input.setup.cockpit.stem_mm = Millimetres(stem);
            bar_width(&Trying::of(&input.check().unwrap())).ahead_mm
        };
        assert!((at(120.0) - at(90.0) - 30.0).abs() < 1.1);
        assert!(at(90.0) > 90.0);
    }
}
