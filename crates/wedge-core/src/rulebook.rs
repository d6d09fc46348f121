//! Every rule, range and constant of the trade in one table, room by room.

use crate::bike::{Kind, Residual, Steerer};
use crate::intake::Goals;
use crate::measure::{Output, Quantity};
use crate::position::ranges;
use crate::rider::{FootPitch, Pelvis};
use crate::rule::{Provenance, Rule, Shown};
use crate::words::written;
use crate::{
    between, bike, capture, film, foresee, judge, kinds, limit, looking, measure, next, position,
    rider, school, solve, trial,
};

/// Every rule, range and constant, topic by topic.
pub fn rules_table() -> Vec<Rule> {
    let mut all = rider::rules();
    all.extend(habits());
    all.extend(bike::rules());
    all.push(Rule::new(
        "Bike",
        "Gap between steerer and cap: the cap preloads the bearings across it",
        Steerer::GAP_MM.shown(" mm"),
        Provenance::Workshop,
        "",
    ));
    all.push(Rule::new(
        "Bike",
        "Above this, tape and parts are said to disagree about the hand",
        Residual::QUESTIONED_MM.shown(" mm"),
        Provenance::House,
        "",
    ));
    all.push(Rule::new(
        "Intake",
        "What a goal counts for, first to last of an order; goals of one rank count the mean of their places",
        Goals::PLACES.map(|of| of.to_string()).join(", "),
        Provenance::House,
        "",
    ));
    all.extend(measure::rules());
    all.extend(capture::rules());
    all.extend(film::rules());
    all.extend(position::rules());
    all.extend(foresee::rules());
    all.extend(solve::rules());
    all.extend(limit::rules());
    all.extend(kinds::rules());
    all.extend(between::rules());
    all.extend(next::rules());
    all.extend(trial::rules());
    all.extend(school::rules());
    all.extend(looking::rules());
    all.extend(judge::rules());
    all.extend(of_kinds());
    all.extend(readings());
    all.extend(outputs());
    all
}

/// How a rider pedals and sits until it was seen.
fn habits() -> Vec<Rule> {
    let (foot, pelvis) = (FootPitch::default(), Pelvis::default());
    let rule = |what: &str, value: String| Rule::new("Rider", what, value, Provenance::House, "");
    vec![
        rule(
            "Foot pitch over the stroke, until the rider's own is seen: mean, half the swing, where the heel is highest",
            format!(
                "{}°, {}°, {}°",
                foot.mean_deg.0, foot.amp_deg.0, foot.peak_deg.0
            ),
        ),
        rule(
            "How much of the torso's lean the pelvis takes",
            pelvis.share.shown(""),
        ),
    ]
}

fn of_kinds() -> Vec<Rule> {
    Kind::ALL
        .into_iter()
        .flat_map(|kind| {
            ranges(kind).iter().map(move |range| {
                let unit = range.output.spec().unit.suffix();
                let hands = range
                    .hands
                    .map_or(String::new(), |place| format!(", on the {}", place.word()));
                Rule::new(
                    &format!("Range: {}", kind.word()),
                    &format!("{}{hands}", range.output.spec().label),
                    format!(
                        "{}–{}{unit}, outer {}–{}{unit}",
                        written(range.low),
                        written(range.high),
                        written(range.outer_low),
                        written(range.outer_high)
                    ),
                    Provenance::Workshop,
                    range.source,
                )
            })
        })
        .collect()
}

fn readings() -> Vec<Rule> {
    Quantity::ALL
        .iter()
        .map(|quantity| {
            let spec = quantity.spec();
            let unit = spec.unit.suffix();
            Rule::new(
                "One reading",
                spec.label,
                format!(
                    "± {}{unit}; taken seriously from {} to {}{unit}; steps of {}, finer {}{unit}",
                    written(spec.uncertainty),
                    written(spec.min),
                    written(spec.max),
                    written(spec.step),
                    written(spec.fine_step)
                ),
                Provenance::House,
                "spread after the workshop's: tape ± 2 mm, goniometer ± 3°, gauge ± 0.5°",
            )
        })
        .collect()
}

fn outputs() -> Vec<Rule> {
    Output::ALL
        .iter()
        .map(|output| {
            let spec = output.spec();
            Rule::new(
                "Least difference worth telling",
                spec.label,
                spec.noise.shown(spec.unit.suffix()),
                Provenance::House,
                "",
            )
        })
        .collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn every_line_says_what_it_is_and_stands_once() {
        let table = rules_table();
        assert!(table.len() > 250, "{}", table.len());
        for (index, rule) in table.iter().enumerate() {
            assert!(rule.what.len() > 2 && !rule.value.is_empty(), "{rule:?}");
            assert!(
                !(rule.provenance == Provenance::Published && rule.source.is_empty()),
                "{rule:?}"
            );
            let twice = table[..index].iter().find(|r| {
                (&r.topic, &r.what) == (&rule.topic, &rule.what) && r.value == rule.value
            });
            assert_eq!(twice, None);
        }
    }

    #[test]
    fn numbers_are_shown_as_they_are_held() {
        assert_eq!(0.45359.shown(" kg"), "0.45359 kg");
        assert_eq!((-2.0, 3.5).shown("°"), "−2 to 3.5°");
        assert_eq!([1.0, 2.0].shown(""), "1, 2");
        assert_eq!(
            [(38.0, 10.0), (40.0, 14.0)].shown(" mm"),
            "(38, 10) (40, 14) mm"
        );
    }
}
