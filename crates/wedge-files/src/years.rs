//! A rider's years, read from the record.

use crate::{Rider, Session};
use jiff::civil::Date;
use serde::Serialize;
use wedge_core::intake::{Complaint, Intake, Place};
use wedge_core::units::Side;
use wedge_core::words::sided;

/// A complaint from the fit it was first heard at to the one it was gone at.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ComplaintSpan {
    /// Where.
    pub place: Place,
    /// On which side.
    pub side: Option<Side>,
    /// "Front of the knee, left".
    pub label: String,
    /// First heard.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = Date))]
    pub from: Date,
    /// The first fit it was gone at; none while it is there.
    #[cfg_attr(feature = "schema", schema(value_type = Option<String>, format = Date))]
    pub until: Option<Date>,
    /// How bad at the worst, 0 to 10.
    pub worst: Option<u8>,
}

/// What hurt, from when to when, the first heard first. Fits nobody was asked at say nothing.
pub fn complaint_spans(rider: &Rider) -> Vec<ComplaintSpan> {
    let mut asked: Vec<&Session> = rider
        .bikes
        .iter()
        .flat_map(|bike| &bike.sessions)
        .filter(|session| session.intake != Intake::default())
        .collect();
    asked.sort_by_key(|session| (session.day, session.number));
    let mut spans: Vec<ComplaintSpan> = Vec::new();
    for session in asked {
        let here =
            |span: &ComplaintSpan, c: &Complaint| (span.place, span.side) == (c.place, c.side);
        let complaints = &session.intake.complaints;
        for span in spans.iter_mut().filter(|span| span.until.is_none()) {
            match complaints.iter().find(|c| here(span, c)) {
                Some(complaint) => span.worst = span.worst.max(complaint.how_bad),
                None => span.until = Some(session.day),
            }
        }
        for complaint in complaints {
            if spans
                .iter()
                .any(|s| s.until.is_none() && here(s, complaint))
            {
                continue;
            }
            spans.push(ComplaintSpan {
                place: complaint.place,
                side: complaint.side,
                label: sided(complaint.place.label(), complaint.side),
                from: session.day,
                until: None,
                worst: complaint.how_bad,
            });
        }
    }
    spans
}
