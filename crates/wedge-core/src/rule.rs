//! Where a number comes from: constants of the trade, each with its line of the table of rules.
//!
//! A constant of the trade is declared with [`rules!`], which gives the code its `const` and this table its line, so
//! that neither can say something the other does not.

use crate::words::words;
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

impl Shown for i32 {
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
