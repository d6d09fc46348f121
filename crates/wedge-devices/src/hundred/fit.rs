//! One fit without a screen: a rider on a bike whose bolts are really turned, what was learnt of him so far, and what it took.

use super::stranger::Stranger;
use super::ways::Way;
use crate::hidden::{Answered, Asked, HiddenRider, Trouble, plain_wishes};
use std::collections::BTreeMap;
use wedge_core::bike::{Part, Placed, Setup, ordinary_parts};
use wedge_core::foresee::{Change, ForeseeInput, Step, Trying};
use wedge_core::intake::{Complaint, Stroke};
use wedge_core::judge::{
    Asking, Axis, Bolt, Candidate, Case, CaseBike, CaseRider, Evidence, Felt, Judgement, Limited,
    Linkage, Ranged, judge_by, look, step, turned,
};
use wedge_core::limit::limits;
use wedge_core::looking::Sign;
use wedge_core::position::Ride;
use wedge_core::trial::{self, Hurts, Sure};
use wedge_core::units::Side;
use wedge_core::words::written;

/// How well a reading of film is, one standard deviation, ° or mm.
const READ: f64 = 1.5;
/// Minutes of the fitter's time: intake and tape, a look, a bolt with its ride, asking again where it hurts.
const BEGIN_MIN: f64 = 25.0;
const LOOK_MIN: f64 = 2.0;
const BOLT_MIN: f64 = 7.0;
const AGAIN_MIN: f64 = 1.0;

/// What a protocol takes, min.
fn takes_min(protocol: &str) -> f64 {
    match protocol {
        "sweep" | "crank_compare" => 25.0,
        "creep_up" | "bracket_reach" | "bracket_bars" | "ladder_left" | "ladder_right" => 15.0,
        "repeat" => BOLT_MIN,
        _ => 5.0,
    }
}

/// What is kept of a trial.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(super) enum Keeps {
    /// Everything but what is surely worse.
    UnlessWorse,
    /// Only what helps.
    IfBetter,
}

/// How the bike stood after one of the trials.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct After {
    /// Inside every window.
    pub(super) right: bool,
    /// Within a tape's error of every window.
    pub(super) near: bool,
}

/// A fit going on.
pub(super) struct Fit<'a> {
    pub(super) rider: &'a HiddenRider,
    pub(super) known: &'a ForeseeInput,
    ride: &'a Ride,
    linkage: Linkage,
    now: Placed,
    pub(super) places: Vec<f64>,
    evidence: Vec<Evidence>,
    /// Where it hurt, some time or other.
    hurt: Vec<trial::Felt>,
    /// Where the evidence stands.
    at: Vec<f64>,
    parts: Vec<Part>,
    /// Protocols that are not ridden here.
    without: Vec<String>,
    /// Whether a protocol ends where the judge, who has heard it, loses least; else where it found.
    heeds: bool,
    asked: u32,
    pub(super) minutes: f64,
    /// One a trial.
    pub(super) after: Vec<After>,
    /// How often a limit that was met before was not met after.
    pub(super) crossed: u32,
    /// What could not be done where the bike stands.
    stuck: Vec<(String, String)>,
    /// Where the bike stood before the last trial and after, kept or not.
    last: Option<(Vec<f64>, Vec<f64>)>,
    /// Every trial, in a word.
    pub(super) did: Vec<String>,
}

impl<'a> Fit<'a> {
    /// A rider who sits down.
    pub(super) fn begun(stranger: &'a Stranger, ride: &'a Ride, way: Way) -> Option<Self> {
        let found = Trying::of(ride);
        let linkage = Linkage::of(&found);
        let mut fit = Self {
            rider: &stranger.hidden,
            known: &stranger.known,
            now: Placed::of(stranger.known.setup)?,
            places: vec![0.0; Axis::ALL.len()],
            evidence: stranger.told.clone(),
            at: vec![0.0; Axis::ALL.len()],
            asked: 0,
            hurt: Vec::new(),
            minutes: BEGIN_MIN,
            after: Vec::new(),
            crossed: 0,
            stuck: Vec::new(),
            last: None,
            did: Vec::new(),
            ride,
            linkage,
            parts: ordinary_parts(),
            without: (way.without().iter())
                .map(|name| (*name).to_owned())
                .collect(),
            heeds: way.heeds_judge(),
        };
        fit.schools(&found);
        fit.read_angles(&found);
        Some(fit)
    }

    fn question(&mut self) -> Asked {
        self.asked += 1;
        Asked(self.asked)
    }

    fn schools(&mut self, found: &Trying) {
        let all = plain_wishes(found).into_iter();
        self.evidence.extend(all.map(|wish| Evidence::School {
            axis: wish.axis,
            name: wedge_core::words::lower(&wish.label),
            at: wish.at,
            spread: wish.spread,
        }));
        if let Some(width) = found.before_setup().saddle.saddle_width_mm {
            let mut fact = Evidence::fact("saddle_width");
            fact.set_mm(width.0);
            self.evidence.push(fact);
        }
        let mut tilt = Evidence::fact("tilt");
        tilt.set_deg(found.before_setup().saddle.tilt_deg.0);
        self.evidence.push(tilt);
    }

    /// What a film of the rider where he sits now would be read as.
    pub(super) fn reads(&mut self, trying: &Trying) -> Option<Read> {
        let asked = self.question();
        let setup = *trying.before_setup();
        let sight = self
            .rider
            .sight(&trying.before.bike, &setup, &self.places)?;
        let mut off = self.rider.misread(asked);
        let mut by = |value: f64| value + off.normal(READ * self.rider.noise());
        Some(Read {
            knee: sight.knee_at_full_reach.map(&mut by),
            plumb: sight.knee_over_axle.map(&mut by),
            torso: by(sight.torso),
            shoulder: by(sight.shoulder),
        })
    }

    fn read_angles(&mut self, found: &Trying) {
        let Some(read) = self.reads(found) else {
            return;
        };
        let mut say = |output: Ranged, value: f64, side: Option<Side>| {
            if let Some(range) = self.linkage.range(output) {
                self.evidence.push(Evidence::Angle {
                    output,
                    value,
                    range: Some(range),
                    spread: Some(READ * self.rider.noise()),
                    side,
                });
            }
        };
        for (index, side) in Side::BOTH.into_iter().enumerate() {
            say(Ranged::Knee, read.knee[index], Some(side));
            say(Ranged::Plumb, read.plumb[index], Some(side));
        }
        say(Ranged::Torso, read.torso, None);
        say(Ranged::Shoulder, read.shoulder, None);
    }

    /// Asks where it hurts.
    pub(super) fn asks(&mut self) -> Vec<Complaint> {
        let asked = self.question();
        self.rider.aches(&self.places, asked)
    }

    /// Writes down what he came with.
    pub(super) fn hears(&mut self) {
        let complaints = self.asks();
        if complaints.is_empty() {
            self.evidence.push(Evidence::NoComplaints {});
        }
        for of in complaints {
            let (place, side) = (of.place, of.side);
            let felt = trial::Felt { place, side };
            self.note(felt, of.stroke, of.badness(), false);
        }
    }

    /// Asks again where it hurts, where he sits elsewhere now: what is gone of it, and what is left or new. Who goes by rules of
    /// his own asks when they want it.
    fn asks_again(&mut self) {
        if !self.heeds {
            return;
        }
        self.stand();
        let named = self.asks();
        for of in Hurts::again(&self.hurt, &named) {
            let how_bad = of.how_bad.unwrap_or_default();
            self.note(of.felt(), None, how_bad, of.is_gone());
        }
        self.minutes += AGAIN_MIN;
    }

    /// Writes down that it hurts somewhere, or does not any more.
    fn note(&mut self, of: trial::Felt, stroke: Option<Stroke>, how_bad: f64, absent: bool) {
        self.evidence.push(Evidence::Complaint {
            place: of.place,
            side: of.side,
            stroke,
            how_bad,
            absent,
            struck: false,
        });
        if !self.hurt.contains(&of) {
            self.hurt.push(of);
        }
    }

    /// Looks for the signs a look tells of.
    pub(super) fn looks(&mut self, name: &str) -> Vec<(Sign, Option<Side>)> {
        self.stand();
        self.minutes += LOOK_MIN;
        let asked = self.question();
        let mut there = Vec::new();
        for (sign, side) in look(name) {
            if self.sees(*sign, *side, asked) {
                there.push((*sign, *side));
            }
        }
        there
    }

    /// Looks for one sign and writes down whether it is there.
    fn sees(&mut self, sign: Sign, side: Option<Side>, asked: Asked) -> bool {
        let there = self.rider.shows(&self.places, sign, side, asked);
        self.evidence.push(Evidence::Seen {
            what: sign,
            side,
            absent: !there,
            doubtful: false,
        });
        there
    }

    /// Says where the bike stands, where the evidence stands elsewhere.
    fn stand(&mut self) {
        let moved: BTreeMap<Axis, f64> = (Axis::ALL.iter().zip(&self.places).zip(&self.at))
            .filter(|((_, to), at)| (**to - **at).abs() > 1e-6)
            .map(|((axis, to), _)| (*axis, *to))
            .collect();
        if !moved.is_empty() {
            self.evidence.push(Evidence::Stand { places: moved });
            self.at.clone_from(&self.places);
        }
    }

    /// What the judge makes of it.
    pub(super) fn judged(&mut self) -> Judgement {
        self.stand();
        let ride = self.ride.on(self.now);
        let trying = Trying::of(&ride);
        let mut evidence = self.evidence.clone();
        let rows = limits(&trying);
        for joint in Limited::ALL {
            if let Some((margin, _)) = joint.tightest(&rows) {
                evidence.push(Evidence::Limit {
                    joint: *joint,
                    margin,
                });
            }
        }
        let case = Case {
            id: String::new(),
            title: String::new(),
            story: String::new(),
            rider: CaseRider {
                full_fit: true,
                ..CaseRider::default()
            },
            bike: CaseBike {
                without: self.without.clone(),
                adjustable_crank: true,
                ..self.linkage.bike(&trying, &self.parts)
            },
            evidence,
            expect: None,
        };
        judge_by(&case, &self.linkage.craft)
    }

    /// Whether something was found impossible where the bike stands.
    pub(super) fn is_stuck(&self, candidate: &Candidate) -> bool {
        let of = (candidate.act.clone(), candidate.what.clone());
        self.stuck.contains(&of)
    }

    /// Notes that something cannot be done here.
    pub(super) fn cannot(&mut self, candidate: &Candidate) {
        (self.stuck).push((candidate.act.clone(), candidate.what.clone()));
    }

    /// Tries a move as the judge proposes it; `false` where the bike does not go there.
    pub(super) fn tries(&mut self, candidate: &Candidate) -> bool {
        let ride = self.ride.on(self.now);
        let trying = Trying::of(&ride);
        let changes = match candidate.bolts.first() {
            Some((Bolt::Saddle, by)) => turned(trying.before_setup(), Bolt::Saddle, *by),
            _ => match step(candidate, &trying, &self.parts).0 {
                Some(step) => step.changes,
                None => return false,
            },
        };
        self.trial(&trying, &changes, Keeps::UnlessWorse)
    }

    /// Tries changes, and puts them back where they are not to be kept; whether there was anything to try.
    pub(super) fn trial(&mut self, trying: &Trying, changes: &[Change], keeps: Keeps) -> bool {
        let Some(placed) = trying.changed(changes) else {
            return false;
        };
        self.stand();
        let (was, before) = (self.places.clone(), self.now);
        self.set(placed);
        if self.places == was {
            return false;
        }
        let is = self.places.clone();
        let answered = self.answers(&was, &is);
        let kept = match keeps {
            Keeps::UnlessWorse => answered.felt != Felt::Worse || answered.sure == Sure::Guess,
            Keeps::IfBetter => answered.felt == Felt::Better,
        };
        self.verdict(&was, &is, answered, kept);
        if kept {
            self.at.clone_from(&self.places);
            self.stuck.clear();
        }
        self.asks_again();
        if !kept {
            self.set(before);
        }
        self.minutes += BOLT_MIN;
        self.did.push(format!(
            "{}: {}{}",
            told(&was, &is),
            word(answered.felt),
            if kept { "" } else { ", put back" }
        ));
        self.counts();
        true
    }

    fn answers(&mut self, was: &[f64], is: &[f64]) -> Answered {
        let asked = self.question();
        self.rider.compare(was, is, true, asked)
    }

    /// Writes a verdict down.
    fn verdict(&mut self, was: &[f64], is: &[f64], answered: Answered, kept: bool) {
        let moved = (Axis::ALL.iter().zip(was.iter().zip(is)))
            .filter(|(_, (was, is))| (*is - *was).abs() > 1e-6)
            .map(|(axis, (was, is))| (*axis, is - was));
        self.evidence.push(Evidence::Trial {
            bolts: BTreeMap::new(),
            verdict: answered.felt,
            sure: answered.sure,
            like: true,
            kept,
            felt: answered.place,
            batch: false,
            silent: false,
            axes: Some(moved.collect()),
        });
        self.last = Some((was.to_vec(), is.to_vec()));
    }

    /// Rides the last trial once more, before and after.
    pub(super) fn repeats(&mut self) -> bool {
        let Some((was, is)) = self.last.clone().filter(|(_, is)| *is == self.places) else {
            return false;
        };
        let here = std::mem::replace(&mut self.places, was.clone());
        self.stand();
        self.places = here;
        let answered = self.answers(&was, &is);
        self.verdict(&was, &is, answered, true);
        self.at.clone_from(&self.places);
        self.minutes += BOLT_MIN;
        self.did.push(format!("again: {}", word(answered.felt)));
        self.counts();
        true
    }

    /// Asks the rider for signs, or looks for them, as they are worth most.
    pub(super) fn asks_for(&mut self, asks: &[Asking]) -> bool {
        /// So many at a time.
        const AT_A_TIME: usize = 4;
        /// Minutes one takes.
        const ASK_MIN: f64 = 0.5;
        self.stand();
        let asked = self.question();
        for of in asks.iter().take(AT_A_TIME) {
            self.sees(of.sign, of.side, asked);
            self.minutes += ASK_MIN;
        }
        !asks.is_empty()
    }

    /// Puts the last trial back.
    pub(super) fn puts_back(&mut self, candidate: &Candidate) -> bool {
        let ride = self.ride.on(self.now);
        let trying = Trying::of(&ride);
        let moves = candidate.moves.iter().copied();
        let most = moves.max_by(|a, b| by_halves(*a).total_cmp(&by_halves(*b)));
        let Some((axis, by)) = most else {
            return false;
        };
        let Some(changes) = self.towards(&trying, axis, by) else {
            return false;
        };
        self.trial(&trying, &changes, Keeps::UnlessWorse)
    }

    /// Rides a protocol on an axis and leaves the bike where it found.
    pub(super) fn rides(&mut self, name: &str, axis: Axis) {
        self.stand();
        let was = self.places.clone();
        self.finds(name, axis, None);
        self.did.push(format!(
            "{}: {}",
            name.replace('_', " "),
            told(&was, &self.places)
        ));
        if self.places != was {
            self.asks_again();
        }
        self.minutes += takes_min(name);
        self.counts();
    }

    /// What a protocol finds, with the spread the judge is told; the bike is set there, or where he who has heard it says: what
    /// it found within its doubt of where the bike stands is no reason to turn anything.
    fn finds(&mut self, name: &str, axis: Axis, spread: Option<f64>) {
        let asked = self.question();
        let (at, own) = self.rider.finds(axis, asked);
        self.evidence.push(Evidence::Finding {
            protocol: name.to_owned(),
            axis,
            at,
            spread: spread.unwrap_or(own),
            says: "found".to_owned(),
            bound: None,
        });
        let to = if self.heeds {
            self.judged().axes[axis as usize].least
        } else {
            at
        };
        let ride = self.ride.on(self.now);
        let trying = Trying::of(&ride);
        let by = to - self.places[axis as usize];
        // As near as the bike goes.
        let goes = |share: &f64| trying.changed(&self.towards(&trying, axis, share * by)?);
        if let Some(placed) = [1.0, 0.8, 0.6, 0.4].iter().find_map(goes) {
            self.set(placed);
            self.stuck.clear();
        }
        self.stand();
    }

    /// Looks into one knee: turn, stance and arch, one after the other.
    pub(super) fn climbs_ladder(&mut self, side: Side) {
        let (name, turn, stance) = match side {
            Side::Left => ("ladder_left", Axis::TurnL, Axis::StanceL),
            Side::Right => ("ladder_right", Axis::TurnR, Axis::StanceR),
        };
        self.stand();
        for axis in [turn, stance] {
            self.finds(name, axis, Some(axis.spec().half));
        }
        self.did.push(name.replace('_', " "));
        let arch = (self.rider.troubles().iter())
            .any(|of| of.trouble == Trouble::LowArch && of.side == Some(side));
        if arch {
            let mut fact = Evidence::fact("arch_low");
            fact.set_side(side);
            self.evidence.push(fact);
        }
        self.minutes += takes_min(name);
        self.counts();
    }

    /// Measures the legs on the table.
    pub(super) fn measures_legs(&mut self) {
        /// What a leg of usual trouble is shorter by.
        const SHORTER_MM: f64 = 7.0;
        self.minutes += takes_min("measure_legs");
        let short = (self.rider.troubles().iter()).find(|of| of.trouble == Trouble::ShorterLeg);
        match short.and_then(|of| Some((of.side?, of.level))) {
            Some((side, level)) => {
                let mut fact = Evidence::fact("leg_shorter");
                fact.set_side(side);
                fact.set_mm((SHORTER_MM * level).round());
                self.evidence.push(fact);
            }
            None => self.evidence.push(Evidence::fact("legs_equal")),
        }
    }

    /// Does what is no bolt, and takes it as done.
    pub(super) fn remedies(&mut self, candidate: &Candidate) {
        self.minutes += LOOK_MIN;
        self.did.push(candidate.act.clone());
        if let Some(fault) = &candidate.fault {
            self.evidence.push(Evidence::Overrule {
                fault: fault.clone(),
                reason: "done".to_owned(),
            });
        }
    }

    /// The changes that bring an axis so far, what follows it held; nothing where it does not go.
    pub(super) fn towards(&self, trying: &Trying, axis: Axis, by: f64) -> Option<Vec<Change>> {
        let spec = axis.spec();
        let by = (by / spec.round).round() * spec.round;
        if by == 0.0 {
            return None;
        }
        let setup = trying.before_setup();
        if matches!(axis, Axis::Reach | Axis::Bars) {
            let candidate = Candidate {
                of: Some(axis),
                dir: Some(if by > 0.0 { "+" } else { "-" }),
                amount: by.abs(),
                bolts: vec![(
                    if axis == Axis::Reach {
                        Bolt::Stem
                    } else {
                        Bolt::Spacers
                    },
                    by,
                )],
                ..Candidate::done()
            };
            return step(&candidate, trying, &self.parts)
                .0
                .map(|step| step.changes);
        }
        let bolt = match axis {
            Axis::Height => Bolt::Post,
            Axis::Setback => Bolt::Rails,
            Axis::Tilt => Bolt::Tilt,
            Axis::BarWidth => Bolt::BarWidth,
            Axis::Levers => Bolt::Levers,
            Axis::CleatL => Bolt::CleatL,
            Axis::CleatR => Bolt::CleatR,
            Axis::TurnL => Bolt::TurnL,
            Axis::TurnR => Bolt::TurnR,
            Axis::StanceL => Bolt::StanceL,
            Axis::StanceR => Bolt::StanceR,
            Axis::Crank => Bolt::Crank,
            Axis::SaddleWidth => Bolt::Saddle,
            Axis::Reach | Axis::Bars => return None,
        };
        let mut changes = turned(setup, bolt, by);
        if bolt != Bolt::Post {
            let height = |changes: &[Change]| {
                let placed = trying.changed(changes)?;
                Some(self.places_on(placed)[Axis::Height as usize])
            };
            let moved = height(&changes)? - self.places[Axis::Height as usize];
            if moved.abs() >= 0.5 {
                changes.extend(turned(setup, Bolt::Post, -moved.round()));
            }
        }
        if bolt == Bolt::Saddle {
            return Some(changes);
        }
        Step::of(trying, changes, String::new()).map(|step| step.changes)
    }

    fn places_on(&self, placed: Placed) -> Vec<f64> {
        let ride = self.ride.on(placed);
        self.linkage.stands(&Trying::of(&ride))
    }

    fn set(&mut self, placed: Placed) {
        self.watches_limits(placed);
        self.places = self.places_on(placed);
        self.now = placed;
    }

    /// Counts a limit that was met and is not met any more.
    fn watches_limits(&mut self, placed: Placed) {
        let legs = &self.known.rider.legs;
        if Side::BOTH
            .iter()
            .all(|side| legs.of(*side).hip_limit_deg.is_none())
        {
            return;
        }
        let short = |placed: Placed| -> Vec<bool> {
            let ride = self.ride.on(placed);
            let rows = limits(&Trying::of(&ride));
            rows.iter()
                .map(|row| row.margin_deg.is_some_and(|margin| margin < 0.0))
                .collect()
        };
        let (before, after) = (short(self.now), short(placed));
        let crossed = before.iter().zip(&after).any(|(was, is)| !was && *is);
        self.crossed += u32::from(crossed);
    }

    fn counts(&mut self) {
        self.after.push(After {
            right: self.rider.is_right(&self.places, false),
            near: self.rider.is_right(&self.places, true),
        });
    }

    /// Asks something of the rider where he sits now.
    pub(super) fn here<R>(&mut self, ask: impl FnOnce(&mut Self, &Trying) -> R) -> R {
        let ride = self.ride.on(self.now);
        ask(self, &Trying::of(&ride))
    }

    /// The setup as it stands.
    pub(super) fn setup(&self) -> Setup {
        Setup::from(self.now)
    }
}

/// What film says, left and right.
pub(super) struct Read {
    pub(super) knee: [f64; 2],
    pub(super) plumb: [f64; 2],
    pub(super) torso: f64,
    pub(super) shoulder: f64,
}

fn by_halves((axis, by): (Axis, f64)) -> f64 {
    by.abs() / axis.spec().half
}

/// The axis that was moved most, by how much.
fn told(was: &[f64], is: &[f64]) -> String {
    let moved = Axis::ALL
        .iter()
        .map(|axis| (*axis, is[*axis as usize] - was[*axis as usize]));
    let most = moved.max_by(|a, b| by_halves(*a).total_cmp(&by_halves(*b)));
    match most {
        Some((axis, by)) if by.abs() > 0.05 => {
            let sign = if by > 0.0 { "+" } else { "−" };
            let unit = if axis.spec().is_mm { " mm" } else { "°" };
            format!(
                "{} {sign}{}{unit}",
                axis.label().to_lowercase(),
                written(by.abs())
            )
        }
        _ => "it stays".to_owned(),
    }
}

fn word(felt: Felt) -> &'static str {
    match felt {
        Felt::Better => "better",
        Felt::Same => "the same",
        Felt::Worse => "worse",
    }
}
