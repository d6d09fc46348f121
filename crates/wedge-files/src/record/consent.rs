//! Whether pictures of a rider may be kept: asked, dated, and by whom it was said.

use super::refuse_name;
use jiff::Timestamp;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use wedge_core::measure::Refusal;

/// Riders speak for themselves from this age on; where the law of a place says otherwise, it comes first.
pub const OF_AGE_YEARS: i16 = 18;

/// Who said it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum SaidBy {
    /// The rider.
    Rider,
    /// A parent or guardian of one who is under age.
    Guardian,
}

/// An answer to whether pictures may be kept: append-only, the last one counts.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Consent {
    /// Made by the client.
    pub id: Uuid,
    /// When it was asked and answered.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub at: Timestamp,
    /// Whether pictures may be kept. No takes an earlier yes back, and every picture with it.
    pub pictures: bool,
    /// Who said so.
    pub by: SaidBy,
    /// The guardian's name; empty where the rider spoke.
    #[serde(default, skip_serializing_if = "String::is_empty")]
    pub name: String,
}

impl Consent {
    /// Whether pictures of a rider born then may be kept by this answer: it is yes, of whom it is to say at that age.
    pub fn allows(&self, born: Option<Date>, now: Timestamp) -> bool {
        let own = self.by == SaidBy::Rider;
        self.pictures && !(own && born.is_some_and(|born| is_minor(born, now)))
    }

    /// Everything about it that cannot be accepted of a rider born then, pointing below `at`. A no is anybody's.
    pub fn refusals(&self, born: Option<Date>, at: &str) -> Vec<Refusal> {
        let mut all = Vec::new();
        if self.pictures && !self.allows(born, self.at) {
            all.push(Refusal::new(
                format!("{at}/by"),
                format!("Under {OF_AGE_YEARS}: a parent or guardian says so"),
            ));
        }
        if self.by == SaidBy::Guardian {
            all.extend(refuse_name(&self.name, &format!("{at}/name")));
        } else if !self.name.is_empty() {
            all.push(Refusal::new(
                format!("{at}/name"),
                "A name is a guardian's: the rider's own is known",
            ));
        }
        all
    }
}

/// Whether one born then is under age at this moment.
pub fn is_minor(born: Date, at: Timestamp) -> bool {
    let today = at.to_zoned(jiff::tz::TimeZone::system()).date();
    born.checked_add(jiff::Span::new().years(OF_AGE_YEARS))
        .is_ok_and(|of_age| today < of_age)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn said(by: SaidBy, pictures: bool, name: &str) -> Consent {
        Consent {
            id: Uuid::now_v7(),
            at: "2026-03-02T12:00:00Z".parse().unwrap(),
            pictures,
            by,
            name: name.to_owned(),
        }
    }

    #[test]
    fn a_minors_pictures_are_a_guardians_to_allow_and_anybodys_to_refuse() {
        let born = |text: &str| Some(text.parse::<Date>().unwrap());
        let where_ = |consent: &Consent, born| {
            let all = consent.refusals(born, "");
            all.into_iter().map(|r| r.pointer).collect::<Vec<_>>()
        };
        let own = said(SaidBy::Rider, true, "");
        assert_eq!(where_(&own, born("2008-03-03")), ["/by"], "a day under age");
        assert!(where_(&own, born("2008-03-02")).is_empty(), "of age today");
        assert!(where_(&own, None).is_empty());
        assert!(where_(&said(SaidBy::Rider, false, ""), born("2015-01-01")).is_empty());
        assert!(where_(&said(SaidBy::Guardian, true, "Ansa"), born("2015-01-01")).is_empty());
        assert_eq!(where_(&said(SaidBy::Guardian, true, " "), None), ["/name"]);
        assert_eq!(where_(&said(SaidBy::Rider, true, "Ansa"), None), ["/name"]);
    }
}
