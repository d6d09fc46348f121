//! The record of a fit as evidence: each piece with where it was made, what it is called, and where on the way it is from.

use crate::{Bench, Declined};
use jiff::Timestamp;
use std::collections::BTreeMap;
use uuid::Uuid;
use wedge_core::between::{FELT, QUIET};
use wedge_core::foresee::{SeenTogether, Trying, foresee_on};
use wedge_core::intake::{Goal, Place, Visit};
use wedge_core::judge::{
    Axis, Case, CaseBike, CaseRider, End, Evidence, Felt, Judgement, Limited, Linkage, Ranged,
    Weights, Wishing, Witness, judge_by, wishes,
};
use wedge_core::limit::{LimitRow, limits};
use wedge_core::looking::{HandWeight, SignSeen};
use wedge_core::measure::{Output, Quantity};
use wedge_core::school::{Lean, Relief, ShoeWidth};
use wedge_core::trial::{Finding, Hurts, Protocol, Run, RunPlan, Says, Sure};
use wedge_core::units::{Side, Sides};
use wedge_core::words::written;
use wedge_core::work::Station;
use wedge_files::{Disputed, LookBody, Outcome, RunRecord, Session, Trial, Verdict, standing};

/// Where a piece of evidence is from: what opens when a witness is asked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WhereFrom {
    /// The station it was taken at.
    pub station: Station,
    /// The trial.
    pub trial: Option<Uuid>,
    /// The run of a protocol.
    pub run: Option<Uuid>,
}

/// One piece of evidence with its name and where it is from.
#[derive(Debug, Clone)]
pub(super) struct Piece {
    pub(super) evidence: Evidence,
    /// What it is struck out by; empty of what is none.
    pub(super) key: String,
    /// As it is told, where the judge's own words are not enough.
    pub(super) words: Option<String>,
    pub(super) from: WhereFrom,
}

/// A fit's evidence, and the linkage it is read with.
pub(super) struct Gathered {
    pub(super) linkage: Linkage,
    pub(super) pieces: Vec<Piece>,
    pub(super) rider: CaseRider,
    pub(super) bike: CaseBike,
    /// Short limits as they stand.
    pub(super) limits: Vec<LimitRow>,
}

impl Gathered {
    /// What a witness is called: by the record where that has words of its own for it.
    pub(super) fn words(&self, witness: &Witness) -> String {
        let piece = witness.piece.map(|index| &self.pieces[index]);
        let words = piece.and_then(|piece| piece.words.clone());
        words.unwrap_or_else(|| witness.name.clone())
    }

    /// The fit judged by it.
    pub(super) fn judgement(&self) -> Judgement {
        judge_by(&self.case(), &self.linkage.craft)
    }

    /// As a case.
    pub(super) fn case(&self) -> Case {
        Case {
            id: String::new(),
            title: String::new(),
            story: String::new(),
            rider: self.rider.clone(),
            bike: self.bike.clone(),
            evidence: self.pieces.iter().map(|p| p.evidence.clone()).collect(),
            expect: None,
        }
    }
}

/// Of a finding that gave none.
const FOUND_MM: f64 = 3.0;
/// An arch this low is worth knowing.
const LOW_ARCH_MM: f64 = 20.0;
/// A straight leg raised no higher is stiff.
const STIFF_DEG: f64 = 70.0;
/// Riders grow until about this age.
const GROWING_YEARS: f64 = 18.0;

/// Gathers the evidence in the order it came.
struct Gathering<'a> {
    bench: &'a Bench,
    found: &'a Trying<'a>,
    linkage: Linkage,
    pieces: Vec<Piece>,
    /// Where the bike stands in what was gathered so far.
    at: Vec<f64>,
    /// Where each setup stands, worked out once.
    known: Vec<(Uuid, Vec<f64>)>,
}

const fn from(station: Station) -> WhereFrom {
    WhereFrom {
        station,
        trial: None,
        run: None,
    }
}

/// A fit with what its record is read by.
pub(super) struct Known<'a> {
    pub(super) bench: &'a Bench,
    pub(super) found: &'a Trying<'a>,
    pub(super) now: &'a Trying<'a>,
    pub(super) linkage: Linkage,
}

impl Known<'_> {
    /// Everything known, as evidence: until a moment where one is given.
    pub(super) fn gathered(&self, until: Option<Timestamp>) -> Gathered {
        let now = self.now;
        let mut gathering = Gathering {
            bench: self.bench,
            found: self.found,
            at: vec![0.0; Axis::ALL.len()],
            linkage: self.linkage.clone(),
            pieces: Vec::new(),
            known: Vec::new(),
        };
        gathering.facts();
        gathering.schools();
        gathering.angles();
        gathering.complaints();
        if let Some(before) = self
            .bench
            .other_fits()
            .find(|fit| fit.number < self.bench.session.number)
        {
            gathering.rides(before);
        }
        gathering.timeline(until);
        if until.is_none() {
            let own = self.bench.session.clone();
            gathering.rides(&own);
            let stands = gathering.linkage.stands(now);
            gathering.stand(&stands);
        }
        let rows = limits(now);
        gathering.limits(&rows);
        gathering.flags();
        gathering.strike();
        Gathered {
            rider: self.bench.case_rider(),
            bike: gathering.bike(now),
            linkage: gathering.linkage,
            pieces: gathering.pieces,
            limits: rows.into_iter().filter(|row| row.short).collect(),
        }
    }
}

impl Bench {
    /// Asks something of this fit with what its record is read by.
    pub(super) fn with_known<R>(&self, ask: impl FnOnce(&Known) -> R) -> Result<R, Declined> {
        let (found, now) = (self.ride(self.found()?)?, self.ride_now()?);
        let (found, now) = (Trying::of(&found), Trying::of(&now));
        let mut linkage = Linkage::of(&found);
        linkage.craft = linkage.craft.of_studio(self.house.judging.clone());
        Ok(ask(&Known {
            bench: self,
            found: &found,
            now: &now,
            linkage,
        }))
    }

    /// Where a setup of the fit stands; none where nobody can sit on it.
    pub(super) fn places(&self, setup: Uuid, linkage: &Linkage) -> Option<Vec<f64>> {
        let ride = self.ride(*self.session.setup(setup)?).ok()?;
        Some(linkage.stands(&Trying::of(&ride)))
    }

    fn case_rider(&self) -> CaseRider {
        let goals = &self.session.intake.goals;
        let is_anywhere = |finding: &Finding| {
            (finding.protocol, finding.says) == (Protocol::Balance, Says::Nothing)
        };
        CaseRider {
            kind: None,
            weights: (!goals.0.is_empty()).then(|| Weights {
                comfort: goals.weight(Goal::Comfort),
                injury: goals.weight(Goal::Injury),
                power: goals.weight(Goal::Power),
                speed: goals.weight(Goal::Speed),
            }),
            feels_mm: Some(self.felt(Quantity::SaddleHeight).step),
            strong: self.session.findings().any(is_anywhere),
            full_fit: self.is_full_fit(),
        }
    }

    /// Whether a visit is a whole fit: as was said, else a first fit, or one nobody brought a complaint to.
    pub(super) fn is_full_fit(&self) -> bool {
        let said = self.session.intake.visit;
        said.unwrap_or_else(|| self.visit_unsaid()) == Visit::Full
    }

    /// What a visit is for when nobody said.
    pub(crate) fn visit_unsaid(&self) -> Visit {
        if self.session.number == 1 || self.session.intake.complaints.is_empty() {
            Visit::Full
        } else {
            Visit::Complaint
        }
    }
}

impl Gathering<'_> {
    fn session(&self) -> &Session {
        &self.bench.session
    }

    fn add(&mut self, key: impl Into<String>, evidence: Evidence, from: WhereFrom) -> &mut Piece {
        self.pieces.push(Piece {
            evidence,
            key: key.into(),
            words: None,
            from,
        });
        let last = self.pieces.len() - 1;
        &mut self.pieces[last]
    }

    fn fact(&mut self, what: &str, station: Station, fill: impl FnOnce(&mut Evidence)) {
        let mut evidence = Evidence::fact(what);
        fill(&mut evidence);
        self.add(format!("fact:{what}"), evidence, from(station));
    }

    /// Moves to where a setup stands, where the bike stands elsewhere.
    fn stand(&mut self, places: &[f64]) {
        let moved: BTreeMap<Axis, f64> = (Axis::ALL.iter().zip(places).zip(&self.at))
            .filter(|((_, to), at)| (**to - **at).abs() > 1e-6)
            .map(|((axis, to), _)| (*axis, *to))
            .collect();
        if !moved.is_empty() {
            self.add(
                "",
                Evidence::Stand { places: moved },
                from(Station::BikeAsFound),
            );
            self.at = places.to_vec();
        }
    }

    /// Where a setup of the fit stands, worked out once.
    fn places(&mut self, setup: Uuid) -> Option<Vec<f64>> {
        if let Some((_, places)) = self.known.iter().find(|(id, _)| *id == setup) {
            return Some(places.clone());
        }
        let places = self.bench.places(setup, &self.linkage)?;
        self.known.push((setup, places.clone()));
        Some(places)
    }

    fn facts(&mut self) {
        let session = self.session().clone();
        let intake = &session.intake;
        if intake.load_rose {
            self.fact("load_rose", Station::Intake, |_| {});
        } else if !intake.load.trim().is_empty() {
            self.fact("load_steady", Station::Intake, |_| {});
        }
        if let Some(seated) = intake.seated_h {
            self.fact("sits", Station::Intake, |fact| fact.set_hours(seated));
        }
        if Side::BOTH
            .iter()
            .any(|side| session.shoes.of(*side).width == Some(ShoeWidth::Tight))
        {
            self.fact("shoe_tight", Station::Feet, |_| {});
        }
        if let Some(relief) = session.saddle.relief {
            self.fact("relief", Station::Setback, |fact| {
                fact.set_has(relief != Relief::None);
            });
        }
        let measured = self.bench.measured;
        let legs = &measured.legs;
        let shorter = Sides::from_fn(|side| {
            let leg = legs.of(side);
            match (leg.thigh_shorter_mm, leg.shank_shorter_mm) {
                (None, None) => None,
                (thigh, shank) => Some(thigh.map_or(0.0, |mm| mm.0) + shank.map_or(0.0, |mm| mm.0)),
            }
        });
        let mut told = false;
        for side in Side::BOTH {
            if let Some(mm) = shorter.of(side).filter(|mm| *mm > 0.0) {
                told = true;
                self.fact("leg_shorter", Station::Body, |fact| {
                    fact.set_side(side);
                    fact.set_mm(mm);
                });
            }
        }
        if !told && Side::BOTH.iter().any(|side| shorter.of(*side).is_some()) {
            self.fact("legs_equal", Station::Body, |_| {});
        }
        for side in Side::BOTH {
            let leg = legs.of(side);
            if leg.arch_height_mm.is_some_and(|mm| mm.0 < LOW_ARCH_MM) {
                self.fact("arch_low", Station::Body, |fact| fact.set_side(side));
            }
        }
        let raised = Side::BOTH.map(|side| legs.of(side).straight_leg_raise_deg);
        if raised
            .into_iter()
            .flatten()
            .any(|angle| angle.0 < STIFF_DEG)
        {
            self.fact("stiff", Station::Body, |_| {});
        }
        let usual = self.bench.bike.usual.as_ref();
        if !usual.is_some_and(|usual| usual.contains(&Quantity::Tilt)) {
            let tilt = self.found.before_setup().saddle.tilt_deg.0;
            self.fact("tilt", Station::BikeAsFound, |fact| fact.set_deg(tilt));
        }
        if let Some(width) = self.found.before_setup().saddle.saddle_width_mm {
            self.fact("saddle_width", Station::Setback, |fact| {
                fact.set_mm(width.0);
            });
        }
        if self.bench.age().is_some_and(|age| age < GROWING_YEARS) {
            let last = (self.bench.rider.readings.iter()).map(|r| r.taken_at).max();
            let day = last.map(|at| at.to_zoned(jiff::tz::TimeZone::UTC).date());
            let days = day.map_or(0, |day| (session.day - day).get_days());
            self.fact("growing", Station::Body, |fact| {
                fact.set_days(f64::from(days));
            });
        }
    }

    /// What the schools of each axis want.
    fn schools(&mut self) {
        let wishing = Wishing {
            leads: &self.bench.house.leads,
            intake: &self.session().intake,
            lean: &self.lean(),
            label: self.bench.bike.label,
        };
        for wish in wishes(self.found, &wishing) {
            let evidence = Evidence::School {
                axis: wish.axis,
                name: wedge_core::words::lower(&wish.label),
                at: wish.at,
                spread: wish.spread,
            };
            self.add(
                format!("school:{}:{}", wish.axis.key(), wish.school),
                evidence,
                from(wish.axis.station()),
            );
        }
    }

    fn lean(&self) -> Lean {
        Lean::of(
            &self.session().intake,
            &self.bench.measured,
            self.bench.age(),
        )
    }

    /// What is read of the rider on the bike as found against the ranges: as fitted to what was seen, as it was seen, or as the
    /// linkage estimates it.
    fn angles(&mut self) {
        let Ok(foresight) = foresee_on(self.found, &[]) else {
            return;
        };
        let fitted = self.bench.is_fitted();
        let lean = self.lean();
        for reading in Ranged::ALL {
            let Some((output, range)) = reading.output().zip(self.linkage.range(*reading)) else {
                continue;
            };
            let range = match reading {
                Ranged::Torso => lean.part(range),
                _ => range,
            };
            let seen = if fitted {
                Vec::new()
            } else {
                self.seen_first(output)
            };
            let sides = output.spec().per_side;
            if seen.is_empty() {
                let rows: Vec<_> = foresight
                    .rows
                    .iter()
                    .filter(|row| row.output == output)
                    .collect();
                for row in &rows {
                    let side = row.side.filter(|_| rows.len() > 1);
                    let evidence = angle(*reading, row.before, (range, row.band), side);
                    let how = if fitted { "as fitted" } else { "estimated" };
                    let words = told(*reading, (row.before, side), range, how);
                    self.add(
                        format!("angle:{}", reading.key()),
                        evidence,
                        from(reading.station()),
                    )
                    .words = Some(words);
                }
                continue;
            }
            let many = seen.len() > 1;
            for (side, together) in seen {
                let side = side.filter(|_| sides && many);
                let evidence = angle(
                    *reading,
                    together.mean,
                    (range, Some(together.spread)),
                    side,
                );
                let words = told(*reading, (together.mean, side), range, "seen");
                self.add(
                    format!("angle:{}", reading.key()),
                    evidence,
                    from(Station::FirstLook),
                )
                .words = Some(words);
            }
        }
    }

    /// What was seen of an output on the bike as found, side by side.
    fn seen_first(&self, output: Output) -> Vec<(Option<Side>, SeenTogether)> {
        let found = self.session().found().copied();
        let mut all = Vec::new();
        for side in [None, Some(Side::Left), Some(Side::Right)] {
            let looks = self.session().looks();
            let of = looks.iter().filter(|look| Some(look.setup) == found);
            let readings: Vec<_> = of
                .flat_map(|look| look.seen.iter())
                .filter(|seen| (seen.output, seen.side) == (output, side))
                .copied()
                .collect();
            all.extend(SeenTogether::of(&readings).map(|together| (side, together)));
        }
        all
    }

    fn complaints(&mut self) {
        let intake = self.session().intake.clone();
        for complaint in &intake.complaints {
            let evidence = Evidence::Complaint {
                place: complaint.place,
                side: complaint.side,
                stroke: complaint.stroke,
                how_bad: complaint.badness(),
                absent: false,
                struck: false,
            };
            let key = format!("complaint:{}:{:?}", complaint.place.key(), complaint.side);
            self.add(key, evidence, from(Station::Intake)).words = Some(complaint.line());
        }
        if intake.complaints.is_empty() && intake.flags_asked {
            self.add(
                "no_complaints",
                Evidence::NoComplaints {},
                from(Station::Intake),
            );
        }
    }

    /// What a fit's ledger says of each setting that was ridden often enough: what was felt there, and what was not though the
    /// rider came with it or felt it in another one.
    fn rides(&mut self, fit: &Session) {
        let before = self.at.clone();
        let left = fit.now().copied();
        let Some(Ok(ride)) = left.map(|left| self.bench.ride(left)) else {
            return;
        };
        let left = Trying::of(&ride);
        let stood = crate::ledger::stood(fit);
        let complaints = &fit.intake.complaints;
        let mut known: Vec<Place> = complaints.iter().map(|complaint| complaint.place).collect();
        let felt_at = stood.iter().flat_map(|stood| &stood.felt);
        known.extend(
            felt_at
                .filter(|(_, _, median, _)| *median >= FELT)
                .map(|felt| felt.0),
        );
        for setting in stood.iter().filter(|setting| !setting.felt.is_empty()) {
            // A setting that cannot be set was not ridden: nothing is told of it.
            let there = foresee_on(&left, &setting.changes).ok();
            let Some(Ok(ride)) = there.map(|there| self.bench.ride(there.setup)) else {
                continue;
            };
            let places = self.linkage.stands(&Trying::of(&ride));
            self.stand(&places);
            for (place, side, median, count) in &setting.felt {
                let absent = *median <= QUIET;
                if !(absent && known.contains(place)) && *median < FELT {
                    continue;
                }
                let evidence = Evidence::Complaint {
                    place: *place,
                    side: *side,
                    stroke: None,
                    how_bad: *median,
                    absent,
                    struck: false,
                };
                let key = format!(
                    "ride:{}:{}:{}:{side:?}",
                    fit.number,
                    setting.words,
                    place.key()
                );
                let label =
                    wedge_core::words::lower(&wedge_core::words::sided(place.label(), *side));
                let words = format!(
                    "{count} rides {}: {label} {} of 10",
                    setting.words,
                    written(*median)
                );
                self.add(key, evidence, from(Station::HandOut)).words = Some(words);
            }
        }
        self.stand(&before);
    }

    /// Looks, protocols, trials and disagreements in the order they came, each where the bike stood then.
    fn timeline(&mut self, until: Option<Timestamp>) {
        enum Event {
            Look(usize),
            Run(usize),
            Trial(usize),
            Dispute(usize),
        }
        let session = self.session().clone();
        let mut events: Vec<(Timestamp, Event)> = Vec::new();
        events.extend(
            session
                .looks
                .iter()
                .enumerate()
                .map(|(n, look)| (look.at, Event::Look(n))),
        );
        events.extend(
            session
                .runs
                .iter()
                .enumerate()
                .map(|(n, run)| (run.ended_at.unwrap_or(run.started_at), Event::Run(n))),
        );
        events.extend(
            session
                .trials
                .iter()
                .enumerate()
                .map(|(n, t)| (t.tried_at, Event::Trial(n))),
        );
        events.extend(
            session
                .disputes
                .iter()
                .enumerate()
                .map(|(n, d)| (d.at, Event::Dispute(n))),
        );
        events.sort_by_key(|(at, _)| *at);
        let stand = standing(&session.disputes);
        for (at, event) in events {
            if until.is_some_and(|until| at >= until) {
                break;
            }
            match event {
                Event::Look(n) => {
                    let look = &session.looks[n];
                    let signs = crate::look::signs_of(&look.body);
                    if superseded(&session, n, &signs) {
                        continue;
                    }
                    let Some(places) = self.places(look.setup) else {
                        continue;
                    };
                    self.stand(&places);
                    for sign in signs {
                        self.sign(sign, from(Station::FirstLook), look.doubtful);
                    }
                }
                Event::Run(n) => self.run(&session.runs[n]),
                Event::Trial(n) => {
                    let before = n.checked_sub(1).map(|n| &session.trials[n]);
                    self.trial(before, &session.trials[n]);
                }
                Event::Dispute(n) => {
                    let dispute = &session.disputes[n];
                    if !stand.contains(&dispute) {
                        continue;
                    }
                    let evidence = match &dispute.about {
                        Disputed::Fault(fault) => Evidence::Overrule {
                            fault: fault.clone(),
                            reason: dispute.reason.clone(),
                        },
                        Disputed::Right(axis) => Evidence::Right {
                            axis: *axis,
                            reason: dispute.reason.clone(),
                        },
                        Disputed::Witness(_) | Disputed::TakenBack(_) => continue,
                    };
                    self.add("", evidence, from(session.station)).words = Some(format!(
                        "the fitter: it is right, {}",
                        dispute.reason.trim()
                    ));
                }
            }
        }
    }

    fn sign(&mut self, sign: SignSeen, from: WhereFrom, doubtful: bool) {
        let Some(there) = sign.there else { return };
        let evidence = Evidence::Seen {
            what: sign.sign,
            side: sign.side,
            absent: !there,
            doubtful,
        };
        let side = sign.side.map_or("", Side::word);
        self.add(format!("sign:{}:{side}", sign.sign.key()), evidence, from);
    }

    /// Where it hurts, or does not any more, asked again in a trial.
    fn hurt_again(&mut self, hurts: Hurts, trial: &Trial, from: WhereFrom) {
        let Some((how_bad, rated)) = hurts.how_bad.zip(hurts.rated()) else {
            return;
        };
        let evidence = Evidence::Complaint {
            place: hurts.place,
            side: hurts.side,
            stroke: None,
            how_bad,
            absent: hurts.is_gone(),
            struck: false,
        };
        let side = hurts.side.map_or("", Side::word);
        let key = format!("hurts:{}:{}:{side}", trial.id, hurts.place.key());
        let words = format!(
            "trial {}: {}: {rated}",
            trial.number,
            wedge_core::words::lower(&hurts.label())
        );
        self.add(key, evidence, from).words = Some(words);
    }

    fn trial(&mut self, before: Option<&Trial>, trial: &Trial) {
        let place = WhereFrom {
            station: Station::HandOut,
            trial: Some(trial.id),
            run: None,
        };
        let Some((was, is)) = self.places(trial.before).zip(self.places(trial.after)) else {
            return;
        };
        let weights = trial.hand_weights();
        let signs: Vec<SignSeen> = (trial.signs().into_iter())
            .chain(weights.into_iter().filter_map(HandWeight::sign))
            .collect();
        if !signs.is_empty() {
            self.stand(&is);
            for sign in signs {
                self.sign(sign, place, false);
            }
        }
        let hurts = trial.hurts();
        if !hurts.is_empty() {
            self.stand(&is);
            for hurt in hurts {
                self.hurt_again(hurt, trial, place);
            }
        }
        self.stand(&was);
        let moved: BTreeMap<Axis, f64> = (Axis::ALL.iter().zip(was.iter().zip(&is)))
            .filter(|(_, (was, is))| (*is - *was).abs() > 1e-6)
            .map(|(axis, (was, is))| (*axis, is - was))
            .collect();
        let kept = trial.outcome() != Some(Outcome::PutBack);
        if let Some(verdict) = trial.verdict() {
            let efforts = before.map(|before| (before.ridden_at(), trial.ridden_at()));
            let unlike = efforts.and_then(|(a, b)| wedge_core::trial::unlike(a, b));
            let quantities: Vec<Quantity> =
                trial.foreseen.turns.iter().map(|t| t.quantity).collect();
            let evidence = Evidence::Trial {
                bolts: BTreeMap::new(),
                axes: Some(moved),
                verdict: match verdict {
                    Verdict::Better => Felt::Better,
                    Verdict::Same => Felt::Same,
                    Verdict::Worse => Felt::Worse,
                },
                sure: trial.sure().unwrap_or(Sure::Fairly),
                like: unlike.is_none(),
                kept,
                felt: trial.felt().first().map(|felt| felt.place),
                // Left and right of one thing, and what answers a part it follows, are one cause.
                batch: wedge_core::trial::is_batch(&quantities) && !is_linked(&quantities),
                silent: false,
            };
            let words = format!(
                "trial {}, {}: {}",
                trial.number,
                wedge_core::words::lower(&trial.foreseen.title),
                crate::trial::outcome_words(trial)
            );
            self.add(format!("trial:{}", trial.id), evidence, place)
                .words = Some(words);
        } else if kept {
            self.stand(&is);
        }
        if kept {
            self.at = is;
        }
    }

    fn run(&mut self, run: &RunRecord) {
        let Some(finding) = &run.finding else { return };
        let setup = self.session().setup(run.setup).copied();
        let Some(Ok(ride)) = setup.map(|setup| self.bench.ride(setup)) else {
            return;
        };
        let on = Trying::of(&ride);
        let places = self.linkage.stands(&on);
        let station = run
            .plan
            .stations()
            .first()
            .copied()
            .unwrap_or(Station::FirstLook);
        let place = WhereFrom {
            station,
            trial: None,
            run: Some(run.id),
        };
        self.stand(&places);
        let calls = run.standing();
        let signs = run.plan.signs(&Run {
            plan: &run.plan,
            on: &on,
            calls: &calls,
            stopped: false,
            order: &[],
        });
        for (sign, back) in signs {
            let mut there = places.clone();
            there[Axis::Setback as usize] += back;
            there[Axis::Reach as usize] += back;
            self.stand(&there);
            self.sign(sign, place, false);
        }
        self.stand(&places);
        self.finding(&run.plan, finding, (&on, &places), place);
    }

    /// What a protocol found, as a place on its axis.
    fn finding(
        &mut self,
        plan: &RunPlan,
        finding: &Finding,
        (on, places): (&Trying, &[f64]),
        place: WhereFrom,
    ) {
        let Some((value, quantity)) = finding.value.zip(finding.quantity) else {
            return;
        };
        let bounded = finding.says == Says::Nothing && finding.bound.is_some();
        if finding.says != Says::Found && !bounded {
            return;
        }
        let sit = on.before.bike.sit;
        let hand = on.before.bike.hand;
        let setup = on.before_setup();
        let lever = |side: Side| {
            setup
                .get(Quantity::LeverAngle, Some(side))
                .unwrap_or_default()
        };
        let (name, axis, stands) = match (plan, quantity) {
            // A balance test is the sign, not a bound as well.
            (RunPlan::Balance(_), _) => return,
            (RunPlan::CreepUp(_), _) => ("creep_up", Axis::Height, sit.length()),
            (_, Quantity::SaddleHeight) => ("heel_test", Axis::Height, sit.length()),
            (_, Quantity::Setback) => ("sweep", Axis::Setback, -sit.x),
            (_, Quantity::Tilt) => ("tilt_gauge", Axis::Tilt, setup.saddle.tilt_deg.0),
            (RunPlan::Bracket(_), Quantity::BbToHand) => ("bracket_reach", Axis::Reach, hand.x),
            (RunPlan::Bracket(_), Quantity::BbToHandUp) => ("bracket_bars", Axis::Bars, hand.y),
            (RunPlan::HeightSweep(_), Quantity::BbToHandUp) => ("height_sweep", Axis::Bars, hand.y),
            (_, Quantity::BbToHandUp) => ("standing_still", Axis::Bars, hand.y),
            (_, Quantity::Crank) => {
                let crank = |side: Side| setup.pedalling.of(side).crank_mm.0;
                (
                    "crank_compare",
                    Axis::Crank,
                    f64::midpoint(crank(Side::Left), crank(Side::Right)),
                )
            }
            (_, Quantity::LeverAngle) => (
                "wrist_line",
                Axis::Levers,
                f64::midpoint(lever(Side::Left), lever(Side::Right)),
            ),
            _ => return,
        };
        let evidence = Evidence::Finding {
            protocol: name.to_owned(),
            axis,
            at: places[axis as usize] + value - stands,
            spread: finding.spread.unwrap_or(FOUND_MM.min(axis.spec().half)),
            says: "found".to_owned(),
            bound: finding.bound.map(|bound| match bound {
                wedge_core::foresee::Bound::AtLeast => End::AtLeast,
                wedge_core::foresee::Bound::AtMost => End::AtMost,
            }),
        };
        let words = format!(
            "{}: {}",
            finding.protocol.label().to_lowercase(),
            wedge_core::words::lower(&finding.title)
        );
        let key = format!("run:{}", place.run.unwrap_or_default());
        self.add(key, evidence, place).words = Some(words);
    }

    /// Margins of the table as they are now.
    fn limits(&mut self, rows: &[LimitRow]) {
        for joint in Limited::ALL {
            if let Some((margin, row)) = joint.tightest(rows) {
                let evidence = Evidence::Limit {
                    joint: *joint,
                    margin,
                };
                self.add(
                    format!("limit:{}", joint.key()),
                    evidence,
                    from(Station::Body),
                )
                .words = Some(format!(
                    "{}: {}",
                    wedge_core::words::lower(&row.label),
                    row.words
                ));
            }
        }
    }

    fn flags(&mut self) {
        let stops = self.session().intake.stops();
        for stop in stops.into_iter().filter(|stop| !stop.covered) {
            self.add(
                "",
                Evidence::Flag { what: stop.label },
                from(Station::Intake),
            );
        }
    }

    /// Takes out what the fitter struck out; a complaint stays named, so that its place is not taken for silent.
    fn strike(&mut self) {
        let session = self.session().clone();
        for dispute in standing(&session.disputes) {
            let Disputed::Witness(key) = &dispute.about else {
                continue;
            };
            self.pieces.retain_mut(|piece| match &mut piece.evidence {
                Evidence::Complaint { struck, .. } => {
                    *struck |= piece.key == *key;
                    true
                }
                _ => piece.key != *key,
            });
        }
    }

    /// What the parts leave, from the bike as found.
    fn bike(&self, now: &Trying) -> CaseBike {
        let mut on_hand = (self.bench.house.parts.iter()).filter(|part| part.on_hand > 0);
        CaseBike {
            adjustable_crank: on_hand.any(|part| part.size(Quantity::Crank).is_some()),
            ..self.linkage.bike(now, &self.bench.parts_box())
        }
    }
}

/// Whether what was turned is one move and what answers it: the post, and the stem after the rails or the spacers.
fn is_linked(quantities: &[Quantity]) -> bool {
    use Quantity as Q;
    let leads: Vec<Quantity> = (quantities.iter().copied())
        .filter(|q| {
            !matches!(
                q,
                Q::SaddleHeight | Q::Stem | Q::SpacersAbove | Q::StemAngle
            )
        })
        .collect();
    leads.windows(2).all(|pair| pair[0] == pair[1])
}

/// Whether every sign of a look was looked for again later on the same setup.
fn superseded(session: &Session, index: usize, signs: &[SignSeen]) -> bool {
    let look = &session.looks[index];
    let later = &session.looks[index + 1..];
    !signs.is_empty()
        && signs.iter().all(|sign| {
            later
                .iter()
                .filter(|other| other.setup == look.setup)
                .any(|other| {
                    let again = crate::look::signs_of(&other.body);
                    again
                        .iter()
                        .any(|a| (a.sign, a.side) == (sign.sign, sign.side))
                        || matches!(
                            (&other.body, &look.body),
                            (LookBody::Pelvis(_), LookBody::Pelvis(_))
                        )
                })
        })
}

fn angle(
    output: Ranged,
    value: f64,
    (range, spread): ((f64, f64), Option<f64>),
    side: Option<Side>,
) -> Evidence {
    Evidence::Angle {
        output,
        value,
        range: Some(range),
        spread,
        side,
    }
}

/// "knee 33.2° against 35 to 40°, estimated".
fn told(
    reading: Ranged,
    (value, side): (f64, Option<Side>),
    (low, high): (f64, f64),
    how: &str,
) -> String {
    let unit = reading.unit();
    let what = wedge_core::words::sided(&wedge_core::words::lower(reading.label()), side);
    format!(
        "{what} {}{unit} against {} to {}{unit}, {how}",
        written(value),
        written(low),
        written(high)
    )
}
