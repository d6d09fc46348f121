//! What a kind of riding adds to a fit: pads turned as one piece and chosen between, off-road cockpits and springs, grades.

use crate::{Bench, Declined};
use serde::Serialize;
use wedge_core::bike::{Kind, Setup};
use wedge_core::foresee::{Change, Trying};
use wedge_core::kinds::{
    Body as GoverningBody, Broken, Candidate, Card, Drag, Dropper, Event, Graded, Instead, Room,
    RoomAt, Sizing, Spring, Sprung, TurnedPosition, candidate, card, droppers, frontal_index,
    graded, hip_room, level_on_climb, rotors, shorter_or_higher, sizing, sprung, turned,
    wheel_share,
};
use wedge_core::measure::{Quantity, Reading, latest};
use wedge_core::rider::Rider as MeasuredRider;
use wedge_core::school::cranks_shod;
use wedge_core::solve::{Cockpits, cockpits};
use wedge_core::units::Degrees;
use wedge_files::{LibraryFrame, Outcome};

/// Shares of drop a seat angle is solved for, in hundredths.
const SHARES: [f64; 4] = [13.0, 15.0, 17.0, 20.0];
/// So many positions stand side by side.
const CANDIDATES: usize = 4;

/// A position among others, and what it breaks and costs.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CandidateView {
    /// The position.
    pub candidate: Candidate,
    /// What it breaks of the studio's tables.
    pub broken: Vec<Broken>,
    /// What choosing it costs against what stands on the bench.
    pub costs: Vec<String>,
}

/// A position on pads: turned, solved for the hips, beside others.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AeroView {
    /// The position on the bench, turned by what was asked for.
    pub turned: TurnedPosition,
    /// The seat angle that keeps the hips' room for lower fronts.
    pub hip_room: Vec<RoomAt>,
    /// Up to four positions: as found, now, the turn or the latest tries.
    pub candidates: Vec<CandidateView>,
    /// A shorter crank, or the pads higher.
    pub instead: Vec<Instead>,
    /// What it is to be held for.
    pub event: Event,
    /// How far ahead of the elbow's crease the ear was seen on what is ridden now, mm.
    pub ear_mm: Option<f64>,
    /// The tables of governing bodies it was held against.
    pub bodies: Vec<GoverningBody>,
}

/// A change that is proposed, with why.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Suggested {
    /// What, and why.
    pub words: String,
    /// The change.
    pub changes: Vec<Change>,
}

/// A bike off the road.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct OffRoadView {
    /// The cockpit as one problem; none on a bar without grips, or while floor to knuckles is not measured.
    pub cockpits: Option<Cockpits>,
    /// What it waits for; empty where it is solved.
    pub waits_for: String,
    /// Crank length by the inseam in shoes, mm; none until that is measured.
    pub cranks_mm: Option<(f64, f64)>,
    /// Fork and shock.
    pub cards: Vec<Card>,
    /// The bike under sag; none until a ring was read.
    pub sprung: Option<Sprung>,
    /// A saddle level on the usual climb.
    pub nose_down: Option<Suggested>,
    /// Droppers that are sold, and which go.
    pub droppers: Vec<Dropper>,
    /// Rotors front and rear, mm, when the rider was weighed and the studio has a table.
    pub rotors_mm: Option<(f64, f64)>,
}

impl Bench {
    /// The position on pads, turned by an angle.
    pub fn aero(&self, by_deg: f64) -> Result<AeroView, Declined> {
        let now = self.now()?;
        if !self.has_pads() {
            return Err(Declined::not_now(Declined::NO_PADS));
        }
        let ride = self.ride(now)?;
        let trying = Trying::of(&ride);
        let room = Room::of(&self.house.budget, &self.found()?.bar);
        let turned = turned(&trying, &room, Degrees(by_deg))?;
        let intake = &self.session.intake;
        let event = Event {
            minutes: intake.event_h.map(|hours| 60.0 * hours),
            run_follows: intake.run_follows,
        };
        let candidates = self.candidates(&trying, (now, &turned), event)?;
        Ok(AeroView {
            hip_room: hip_room(&trying, &turned, &SHARES),
            candidates,
            instead: shorter_or_higher(&trying),
            event,
            ear_mm: self.ear_on(&now),
            bodies: self.house.bodies.clone(),
            turned,
        })
    }

    /// What the rider measured of the wind, once all three are known.
    fn drag(&self) -> Option<Drag> {
        let intake = &self.session.intake;
        Some(Drag {
            drag_area_m2: intake.drag_area_m2?,
            air_density_kg_m3: intake.air_density_kg_m3?,
            speed_m_s: intake.speed_m_s?,
        })
    }

    fn candidates(
        &self,
        trying: &Trying,
        (now, turned): (Setup, &TurnedPosition),
        event: Event,
    ) -> Result<Vec<CandidateView>, Declined> {
        let held = |setup: &Setup| {
            let of = self
                .session
                .trials
                .iter()
                .filter(|t| self.session.setup(t.after) == Some(setup));
            of.filter_map(wedge_files::Trial::held_min)
                .max_by(f64::total_cmp)
        };
        let found = self.found()?;
        let mut setups: Vec<(String, Setup)> = vec![("As found".to_owned(), found)];
        if now != found {
            setups.push(("Now".to_owned(), now));
        }
        if !turned.changes.is_empty()
            && let Some(setup) = trying.changed(&turned.changes)
        {
            setups.push((
                format!("Turned {}°", wedge_core::words::written(turned.by_deg)),
                setup.into(),
            ));
        }
        // Tries that were put back stay to be compared, the latest first.
        for trial in self.session.trials.iter().rev() {
            let Some(setup) = self.session.setup(trial.after) else {
                continue;
            };
            let put_back = if trial.outcome() == Some(Outcome::PutBack) {
                ", put back"
            } else {
                ""
            };
            if setups.len() < CANDIDATES && setups.iter().all(|(_, known)| known != setup) {
                setups.push((
                    format!("Trial {}: {}{put_back}", trial.number, trial.foreseen.title),
                    *setup,
                ));
            }
        }
        let on_found = self.ride(found)?;
        let baseline = frontal_index(trying, &on_found.position());
        let drag = self.drag();
        let stature = self.measured.body.stature_mm.0;
        let all: Vec<(Setup, Candidate)> = (setups.into_iter())
            .filter_map(|(name, setup)| {
                let times = (held(&setup), self.ear_on(&setup));
                let wind = (Some(baseline), drag.as_ref());
                Some((setup, candidate(trying, &name, &setup, event, times, wind)?))
            })
            .collect();
        let is_now = |(setup, _): &&(Setup, Candidate)| *setup == now;
        let here = (all.iter().find(is_now).or(all.first())).map(|(_, of)| of.clone());
        let view = |candidate: Candidate| CandidateView {
            broken: (self.house.bodies.iter())
                .flat_map(|body| body.broken(&candidate, stature))
                .collect(),
            costs: here
                .as_ref()
                .map_or_else(Vec::new, |here| candidate.against(here)),
            candidate,
        };
        Ok(all.into_iter().map(|(_, of)| view(of)).collect())
    }

    /// The bike off the road.
    pub fn off_road(&self) -> Result<OffRoadView, Declined> {
        let ride = self.ride_now()?;
        let trying = Trying::of(&ride);
        let steep = self.bike.kind == Kind::Gravity;
        let body = &self.measured.body;
        let parts = self.parts_box();
        let cockpits = cockpits(&trying, &parts, steep);
        let waits_for = match (&cockpits, body.knuckle_height_mm) {
            (Some(_), _) => "",
            (None, None) => "Measure floor to knuckles at Body: the cockpit goes by it",
            (None, Some(_)) => "This bar has no grips",
        };
        let readings = self.bike_readings();
        let cards: Vec<Card> = Spring::ALL
            .iter()
            .map(|spring| card(*spring, &readings))
            .collect();
        let sprung = self.sprung(&trying, &readings, &cards);
        let climb = self.session.intake.usual_climb_percent;
        let pitch = sprung.map_or(0.0, |sprung| sprung.pitch_deg);
        let nose_down = climb.and_then(|climb| level_on_climb(&trying, climb, pitch));
        let travel = latest(&readings, Quantity::RearTravel).map_or(0.0, |r| r.value);
        Ok(OffRoadView {
            cockpits,
            waits_for: waits_for.to_owned(),
            cranks_mm: body
                .inseam_shod_mm
                .map(|inseam| cranks_shod(inseam.0, self.bike.kind)),
            cards,
            sprung,
            nose_down: nose_down.map(|(change, words)| Suggested {
                words,
                changes: vec![change],
            }),
            droppers: droppers(&trying, travel),
            rotors_mm: (body.mass_kg).and_then(|mass| rotors(&self.house.rotors, mass.0, steep)),
        })
    }

    /// The frame under what the rings read last: of a rear wheel what the shock's stroke is by its leverage.
    fn sprung(&self, trying: &Trying, readings: &[Reading], cards: &[Card]) -> Option<Sprung> {
        let read = |spring: Spring| cards.iter().find(|c| c.spring == spring)?.log.last();
        let fork = read(Spring::Fork).map(|at| at.ring_mm);
        let typed = |quantity| latest(readings, quantity).map(|r| r.value);
        let travel = typed(Quantity::RearTravel);
        let progression = typed(Quantity::ShockProgression).unwrap_or(0.0) / 100.0;
        let wheel = read(Spring::Shock)
            .and_then(|at| Some(wheel_share(at.percent / 100.0, progression) * travel?));
        if fork.is_none() && wheel.is_none() {
            return None;
        }
        Some(sprung(
            &self.bike.frame,
            trying.before.bike.sit,
            trying.before_setup().saddle.tilt_deg,
            fork.unwrap_or(0.0),
            wheel.unwrap_or(0.0),
        ))
    }

    /// The position as it is felt on a grade.
    pub fn graded(&self, percent: f64) -> Result<Graded, Declined> {
        let ride = self.ride_now()?;
        graded(&Trying::of(&ride), percent).map_err(|refusal| Declined::Refused(vec![refusal]))
    }
}

/// The sizes of off-road frames for a rider, before there is a bike.
pub fn sized(rider: &MeasuredRider, frames: &[LibraryFrame]) -> Sizing {
    let off_road = frames
        .iter()
        .filter(|frame| matches!(frame.kind, Kind::OffRoad | Kind::Gravity));
    let frames: Vec<(String, f64, f64)> = off_road
        .map(|of| {
            (
                of.name.clone(),
                of.frame.frame_reach_mm.0,
                of.frame.frame_stack_mm.0,
            )
        })
        .collect();
    sizing(rider, &frames)
}
