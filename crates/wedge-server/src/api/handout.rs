//! The hand-out: the sheet for the rider and the next mechanic.

use super::saddle::crept;
use super::view::{Bench, TrialView, trial_views};
use crate::Problem;
use actix_web::http::StatusCode;
use actix_web::{get, web};
use jiff::civil::Date;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;
use wedge_core::foresee::{self as core, Foresight};
use wedge_core::handout::{self, Line};
use wedge_core::rider::{Effort, Length};
use wedge_core::school::crept_by_now;
use wedge_core::trial::Says;
use wedge_core::work::{CAUTIONS, SELF_CHECK};
use wedge_files::SessionState;
use wedge_store::Store;

/// The sheet.
#[derive(Serialize, ToSchema)]
pub(crate) struct Handout {
    /// As the studio is called; nameless when empty.
    studio: String,
    rider: String,
    bike: String,
    number: i64,
    #[schema(value_type = String, format = Date)]
    day: Date,
    /// Whether the fit is finished; a sheet of an open fit says so.
    finished: bool,
    effort: Option<Effort>,
    /// Found, left and difference with each convention.
    table: Vec<Line>,
    /// Which point of the saddle the sit reference is.
    sit_reference: &'static str,
    /// What the rider came with that the next reader must know: why the fit went on, where it hurts.
    intake: Vec<String>,
    /// What guided protocols found.
    evidence: Vec<String>,
    /// What waits for the next bike.
    next_bike: Vec<String>,
    /// Trials in order, with the rider's words.
    trials: Vec<TrialView>,
    /// The bike as found.
    found: Foresight,
    /// The bike as left.
    left: Foresight,
    /// Body lengths that were estimated, not measured.
    estimated: Vec<Length>,
    /// When to come back, once that is settled.
    #[schema(value_type = Option<String>, format = Date)]
    follow_up: Option<Date>,
    cautions: &'static [&'static str],
    self_check: &'static str,
}

/// The hand-out of a session.
#[utoipa::path(context_path = "/api", tag = "handout", responses((status = 200, body = Handout), (status = 409, body = Problem)))]
#[get("/sessions/{id}/handout")]
pub(crate) async fn read(
    store: web::Data<Store>,
    id: web::Path<Uuid>,
) -> Result<web::Json<Handout>, Problem> {
    let bench = Bench::read(&store, *id).await?;
    let Some(found_setup) = bench.session.found().copied() else {
        return Err(Problem::new(
            StatusCode::CONFLICT,
            "Nothing to hand out yet: the bike as found is not closed",
        ));
    };
    let left_setup = bench.now()?;
    let input = bench.input(left_setup)?;
    let found = core::foresee(&bench.input(found_setup)?)?;
    let left = core::foresee(&input)?;
    let table = handout::table((&found.after, &found_setup), (&left.after, &left_setup));
    let lengths = &left.lengths;
    let mut estimated: Vec<Length> = vec![
        lengths.inseam,
        lengths.trunk,
        lengths.shoulder_breadth,
        lengths.upper_arm,
        lengths.forearm,
    ];
    for leg in [&lengths.legs.right, &lengths.legs.left] {
        estimated.extend([leg.thigh, leg.shank, leg.ankle_height, leg.foot_length]);
    }
    estimated.retain(|length| length.source == wedge_core::rider::Source::Estimated);
    // Said once when it is estimated on both sides.
    let mut said = Vec::new();
    estimated.retain(|length| {
        let new = !said.contains(&length.quantity);
        said.push(length.quantity);
        new
    });
    let by_now = crept(&bench).and_then(|crept| crept_by_now(&input, &crept));
    Ok(web::Json(Handout {
        studio: bench.house.name,
        follow_up: bench.session.follow_up,
        rider: bench.rider_name,
        bike: bench.bike.noun.name,
        number: bench.session.number,
        day: bench.session.day,
        finished: bench.session.state == SessionState::Finished,
        effort: bench.session.effort,
        table,
        sit_reference: bench.session.conventions.sit_reference.words(),
        intake: bench.session.intake.handout(),
        evidence: (bench.session.findings())
            .filter(|finding| finding.says != Says::Broken)
            .map(|finding| format!("{}: {}", finding.protocol.label(), finding.words.join(" ")))
            .chain(by_now)
            .collect(),
        next_bike: (bench.session.findings())
            .filter_map(|finding| finding.next_bike.clone())
            .collect(),
        trials: trial_views(bench.session.trials),
        found,
        left,
        estimated,
        cautions: CAUTIONS,
        self_check: SELF_CHECK,
    }))
}
