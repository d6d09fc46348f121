//! Where every number comes from: one table of the rules and constants, made from the constants themselves.
//!
//! A constant of the trade is declared with [`rules!`], which gives the code its `const` and this table its line, so
//! that neither can say something the other does not.

use crate::bike::{Kind, Residual, Steerer};
use crate::intake::words;
use crate::judge::{self, Output};
use crate::measure::{Quantity, written};
use crate::rider::{FootPitch, Pelvis};
use crate::{bike, foresee, measure, rider, school, solve, trial};
use serde::Serialize;

words! {
    /// What a number rests on.
    pub enum Provenance {
        Published "published" "published",
        Workshop "workshop" "workshop rule",
        House "house" "house choice",
    }
}

/// One rule or constant, as it is read.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Rule {
    /// What it belongs to.
    pub topic: String,
    /// What it says.
    pub what: String,
    /// Its number or numbers, with unit.
    pub value: String,
    /// What it rests on.
    pub provenance: Provenance,
    /// Where it is from, beyond that.
    pub source: String,
}

impl Rule {
    /// A line of the table.
    pub(crate) fn new(
        topic: &str,
        what: &str,
        value: String,
        provenance: Provenance,
        source: &str,
    ) -> Self {
        Self {
            topic: topic.to_owned(),
            what: what.split_whitespace().collect::<Vec<_>>().join(" "),
            value,
            provenance,
            source: source.to_owned(),
        }
    }
}

/// A constant as it is read.
pub(crate) trait Shown {
    /// With its unit behind.
    fn shown(&self, unit: &str) -> String;
}

/// As it was written: a share that is no round decimal to five of them.
fn plain(value: f64) -> String {
    let text = format!("{value:.5}");
    let text = text.trim_end_matches('0').trim_end_matches('.');
    text.replace('-', "−")
}

impl Shown for f64 {
    fn shown(&self, unit: &str) -> String {
        format!("{}{unit}", plain(*self))
    }
}

impl Shown for u32 {
    fn shown(&self, unit: &str) -> String {
        format!("{self}{unit}")
    }
}

impl Shown for usize {
    fn shown(&self, unit: &str) -> String {
        format!("{self}{unit}")
    }
}

impl Shown for (f64, f64) {
    fn shown(&self, unit: &str) -> String {
        format!("{} to {}{unit}", plain(self.0), plain(self.1))
    }
}

impl<const N: usize> Shown for [f64; N] {
    fn shown(&self, unit: &str) -> String {
        let all: Vec<String> = self.iter().map(|v| plain(*v)).collect();
        format!("{}{unit}", all.join(", "))
    }
}

impl<const N: usize> Shown for [(f64, f64); N] {
    fn shown(&self, unit: &str) -> String {
        let all: Vec<String> = self
            .iter()
            .map(|(a, b)| format!("({}, {})", plain(*a), plain(*b)))
            .collect();
        format!("{}{unit}", all.join(" "))
    }
}

/// Declares constants of the trade, each with its unit, what it rests on and, where there is one, its source. The doc
/// comment is what the table says of it.
macro_rules! rules {
    ($table:ident $topic:literal;
     $($(#[doc = $doc:literal])+ $vis:vis const $name:ident: $type:ty = $value:expr, $unit:literal,
       $provenance:ident $(($source:literal))?;)*) => {
        $($(#[doc = $doc])+ $vis const $name: $type = $value;)*

        /// Its lines of the table of rules.
        pub(crate) fn $table() -> Vec<$crate::rule::Rule> {
            vec![$($crate::rule::Rule::new(
                $topic,
                concat!($($doc),+),
                $crate::rule::Shown::shown(&$name, $unit),
                $crate::rule::Provenance::$provenance,
                concat!("" $(, $source)?),
            )),*]
        }
    };
}
pub(crate) use rules;

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
    all.extend(measure::rules());
    all.extend(foresee::rules());
    all.extend(judge::rules());
    all.extend(school::rules());
    all.extend(solve::rules());
    all.extend(trial::rules());
    all.extend(ranges());
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
            "Mean foot pitch answers a longer or shorter way to the pedal",
            foresee::Rider::PITCH_RESPONSE.shown("° per mm"),
        ),
        rule(
            "Elbow flexion at rest, until it is seen",
            foresee::Rider::ELBOW.0.shown("°"),
        ),
        rule(
            "How much of the torso's lean the pelvis takes",
            pelvis.share.shown(""),
        ),
    ]
}

fn ranges() -> Vec<Rule> {
    Kind::ALL
        .into_iter()
        .flat_map(|kind| {
            judge::ranges(kind).iter().map(move |range| {
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
