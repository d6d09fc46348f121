//! What was seen of the rider, beside what was foreseen of it, and the rider fitted to it.

use crate::declined::accepted;
use crate::{Bench, Declined};
use jiff::Timestamp;
use serde::Serialize;
use uuid::Uuid;
use wedge_core::bike::{HandPlace, Setup};
use wedge_core::foresee::{Calibration, SeenTogether, Sighting, calibrate, foresee_on};
use wedge_core::judge::Told;
use wedge_core::looking::{KneePath, PelvisSeen, ShouldersSeen, Sign, SignSeen};
use wedge_core::position::{Position, Ride};
use wedge_core::rider::{Effort, Rider as MeasuredRider};
use wedge_core::school::{FrontView, LegSeen, YesNo, front_view};
use wedge_core::units::{Side, Sides};
use wedge_core::words::{sided, written};
use wedge_files::{
    CalibrationRecord, ForeseenThen, LookBody, LookEntry, LookSeen, Session, in_one_visit,
};

/// One thing seen, beside what was foreseen of it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct SeenRow {
    /// What was written down.
    pub entry: LookEntry,
    /// What it is, with its side.
    pub label: String,
    /// Its convention, with the place of the hands.
    pub convention: String,
    /// As read, or in words.
    pub words: String,
    /// "foreseen 36.5 ± 5.2°".
    pub foreseen: Option<String>,
    /// What the readings say together.
    pub together: Option<SeenTogether>,
    /// What is doubtful about them.
    pub question: Option<String>,
}

/// The rider as fitted.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CalibrationView {
    /// When.
    #[cfg_attr(feature = "schema", schema(value_type = String, format = DateTime))]
    pub at: Timestamp,
    /// Whether it is used.
    pub on: bool,
    /// Why it is not used though it is on, or what to mind.
    pub words: Option<String>,
    /// The fit; none when it was switched off before any.
    pub calibration: Option<Calibration>,
}

impl CalibrationView {
    pub(crate) fn of(record: CalibrationRecord, measured: &MeasuredRider) -> Self {
        let stale = (record.calibration.as_ref()).is_some_and(|fit| !fit.is_of(measured));
        let words = "The body was measured again since: fit it anew, until then it is not used";
        Self {
            at: record.at,
            on: record.calibration.is_some(),
            words: stale.then(|| words.to_owned()),
            calibration: record.calibration,
        }
    }
}

impl Bench {
    /// How each knee was seen to go, the latest look counting.
    pub(crate) fn knee_paths(&self) -> Sides<Option<KneePath>> {
        let mut paths = Sides::both(None);
        for look in &self.session.looks {
            if let LookBody::Knee { side, path } = look.body {
                *paths.of_mut(side) = Some(path);
            }
        }
        paths
    }

    /// The front view of each leg that was looked at, as one finding.
    pub(crate) fn front_views(&self) -> Vec<FrontView> {
        let paths = self.knee_paths();
        let bend = |side: Side| {
            let latest = self.session.looks.iter().rev();
            latest.map(|look| &look.body).find_map(|body| match body {
                LookBody::Bend { side: own, bend } if *own == side => Some(*bend),
                _ => None,
            })
        };
        let of = |side: Side| {
            let leg = self.measured.legs.of(side);
            let seen = LegSeen {
                tilt_deg: leg.forefoot_tilt_deg.map(|tilt| tilt.0),
                bend: bend(side),
                path: *paths.of(side),
            };
            front_view(side, seen)
        };
        Side::BOTH.into_iter().filter_map(of).collect()
    }

    /// How far ahead of the elbow's crease the ear was last seen on a setup, mm.
    pub(crate) fn ear_on(&self, setup: &Setup) -> Option<f64> {
        let latest = self.session.looks.iter().rev();
        let on = latest.filter(|look| self.session.setup(look.setup) == Some(setup));
        let mut ears = on.filter_map(|look| match look.body {
            LookBody::Ear(ear) => Some(ear.ahead_mm),
            _ => None,
        });
        ears.next().flatten()
    }

    /// How the pelvis was seen to sit, the latest look counting.
    pub(crate) fn pelvis(&self) -> Option<PelvisSeen> {
        let latest = self.session.looks.iter().rev();
        latest.map(|look| &look.body).find_map(|body| match body {
            LookBody::Pelvis(pelvis) => Some(*pelvis),
            _ => None,
        })
    }

    /// Every sign that was looked for, the latest of each kind and side: at looks, in trials, and noted of the saddle.
    pub(crate) fn signs(&self) -> Vec<Told> {
        let mut all: Vec<Told> = Vec::new();
        let mut tell = |seen: SignSeen, easy: bool| {
            let of = |told: &Told| (told.seen.sign, told.seen.side) == (seen.sign, seen.side);
            all.retain(|told| !of(told));
            all.extend(seen.there.map(|_| Told { seen, easy }));
        };
        for look in &self.session.looks {
            let easy = is_easy(look.effort, self.session.effort);
            for sign in signs_of(&look.body) {
                tell(sign, easy);
            }
        }
        for trial in &self.session.trials {
            let easy = is_easy(trial.ridden_at(), self.session.effort);
            for sign in trial.signs() {
                tell(sign, easy);
            }
        }
        let notes = &self.session.saddle;
        for (sign, answer) in [
            (Sign::Aside, notes.aside),
            (Sign::Rubs, notes.rubs),
            (Sign::Shuffles, notes.shuffles),
        ] {
            if let Some(answer) = answer {
                tell(seen_there(sign, None, answer == YesNo::Yes), false);
            }
        }
        all
    }

    /// Something seen of the rider on the setup on the bench, with what is foreseen of it as it stands.
    pub fn looked(
        &self,
        id: Uuid,
        at: Timestamp,
        hands: Option<HandPlace>,
        (body, doubtful): (LookBody, bool),
    ) -> Result<LookEntry, Declined> {
        self.go_on()?;
        let setup = self.on_the_bench("the first look")?;
        let mut input = self.input(self.now()?)?;
        let refused = hands.and_then(|place| input.setup.bar.refuse_place(place, "/hands"));
        accepted(refused.into_iter().collect())?;
        accepted(body.refusals("/body"))?;
        if matches!(body, LookBody::Ear(_)) && !self.has_pads() {
            return Err(Declined::field("/body/ear", Declined::NO_PADS));
        }
        input.hands = hands.or(input.hands);
        let foreseen = match &body {
            LookBody::Seen(seen) => foreseen_of(&input.check()?, seen)?,
            _ => None,
        };
        Ok(LookEntry {
            id,
            at,
            setup,
            hands: input.hands,
            effort: self.session.effort,
            body,
            foreseen,
            doubtful,
        })
    }

    /// The rider fitted to everything seen in this fit.
    pub fn fitted(&self) -> Result<Calibration, Declined> {
        self.go_on()?;
        self.on_the_bench("the first look")?;
        let ride = self.unfitted(self.found()?).check()?;
        Ok(calibrate(&ride, &self.session.looks())?)
    }
}

fn seen_there(sign: Sign, side: Option<Side>, there: bool) -> SignSeen {
    SignSeen {
        sign,
        side,
        there: Some(there),
    }
}

/// The signs that something written down at a look stands for, there or not.
pub(crate) fn signs_of(body: &LookBody) -> Vec<SignSeen> {
    match body {
        LookBody::Sign(sign) => vec![*sign],
        LookBody::Hand(hand) => {
            let neither = SignSeen {
                sign: Sign::HandsHeavy,
                side: Some(hand.side),
                there: None,
            };
            vec![hand.sign().unwrap_or(neither)]
        }
        LookBody::Knee { side, path } => {
            [Sign::KneeInPushing, Sign::KneeSweptIn, Sign::KneeSweptOut]
                .map(|sign| seen_there(sign, Some(*side), path.sign() == Some(sign)))
                .to_vec()
        }
        LookBody::Pelvis(pelvis) => match pelvis.sign() {
            Some((sign, side)) => vec![seen_there(sign, side, true)],
            None => (PelvisSeen::NOT_QUIET.into_iter())
                .map(|sign| seen_there(sign, None, false))
                .collect(),
        },
        LookBody::Shoulders(shoulders) => match shoulders.sign() {
            Some(sign) => vec![seen_there(sign, None, true)],
            None if *shoulders == ShouldersSeen::Quiet => (ShouldersSeen::NOT_QUIET.into_iter())
                .map(|sign| seen_there(sign, None, false))
                .collect(),
            None => Vec::new(),
        },
        LookBody::Seen(_) | LookBody::Words(_) | LookBody::Bend { .. } | LookBody::Ear(_) => {
            Vec::new()
        }
    }
}

/// Below this share of the named effort's power somebody rides easy. House.
const EASY: f64 = 0.8;

/// Whether something was looked at below the effort the fit names.
fn is_easy(ridden: Option<Effort>, named: Option<Effort>) -> bool {
    (ridden.zip(named)).is_some_and(|(ridden, named)| ridden.power_w < EASY * named.power_w)
}

/// What is foreseen of something seen; refused when it cannot have been seen on this bike.
fn foreseen_of(ride: &Ride, seen: &LookSeen) -> Result<Option<ForeseenThen>, Declined> {
    if seen.value.is_none() {
        return Ok(None);
    }
    let foresight = foresee_on(ride, &[])?;
    let side = seen.side.unwrap_or(Side::Right);
    if !seen.output.is_known(&foresight.after, side) {
        let label = seen.output.spec().label;
        return Err(Declined::field(
            "/body/seen/output",
            format!("{label} is not known of this bike"),
        ));
    }
    // Of a limb that does not reach nothing is foreseen; it can be seen all the same.
    let Some(value) = seen.output.of(&foresight.after, side) else {
        return Ok(None);
    };
    let row = foresight
        .rows
        .iter()
        .find(|row| row.output == seen.output && row.side.is_none_or(|s| s == side));
    Ok(row
        .and_then(|row| row.band)
        .map(|band| ForeseenThen { value, band }))
}

/// What was seen, each kind and side once, beside what was foreseen of it: readings of one output in one visit together,
/// of anything else the latest.
pub(crate) fn seen_rows(session: &Session, now: &Position) -> Vec<SeenRow> {
    let key = |entry: &LookEntry| match &entry.body {
        LookBody::Seen(seen) => (0, Some(seen.output), seen.side, entry.hands),
        LookBody::Knee { side, .. } => (1, None, Some(*side), None),
        LookBody::Pelvis(_) => (2, None, None, None),
        LookBody::Shoulders(_) => (3, None, None, None),
        LookBody::Words(_) => (4, None, None, None),
        LookBody::Hand(hand) => (5, None, Some(hand.side), None),
        LookBody::Bend { side, .. } => (6, None, Some(*side), None),
        LookBody::Ear(_) => (7, None, None, None),
        LookBody::Sign(seen) => (8 + seen.sign as usize, None, seen.side, None),
    };
    let together = |one: &LookEntry, other: &LookEntry| {
        one.setup == other.setup
            && key(one) == key(other)
            && (!matches!(one.body, LookBody::Seen(_)) || in_one_visit(one.at, other.at))
    };
    let mut groups: Vec<Vec<&LookEntry>> = Vec::new();
    for entry in &session.looks {
        match groups.iter_mut().find(|group| together(group[0], entry)) {
            Some(group) => group.push(entry),
            None => groups.push(vec![entry]),
        }
    }
    groups
        .iter()
        .filter_map(|group| seen_row(group, now))
        .collect()
}

/// The readings of a group that stand: one without a value takes the one before it back.
fn readings(group: &[&LookEntry]) -> Vec<Sighting> {
    let mut all = Vec::new();
    for entry in group {
        if let LookBody::Seen(seen) = entry.body {
            seen.read_into(&mut all);
        }
    }
    all
}

fn seen_row(group: &[&LookEntry], now: &Position) -> Option<SeenRow> {
    let entry = *group.last()?;
    let row = |label: String, words: String| SeenRow {
        entry: entry.clone(),
        label,
        convention: String::new(),
        words,
        foreseen: None,
        together: None,
        question: None,
    };
    Some(match &entry.body {
        LookBody::Seen(seen) => {
            let spec = seen.output.spec();
            let unit = spec.unit.suffix();
            let together = SeenTogether::of(&readings(group))?;
            let hands = entry.hands.unwrap_or(now.hands);
            let foreseen = |then: ForeseenThen| {
                format!("{} ± {}{unit}", written(then.value), written(then.band))
            };
            let mean = written(together.mean);
            let words = if together.count == 1 {
                format!("{mean}{unit}")
            } else {
                let spread = written(together.spread);
                format!("{mean} ± {spread}{unit} of {}", together.count)
            };
            SeenRow {
                convention: seen.output.convention(&now.conventions, hands),
                foreseen: (group.iter().rev().find_map(|e| e.foreseen)).map(foreseen),
                together: Some(together),
                question: (together.far).map(|far| {
                    format!(
                        "{}{unit} stands far from the others: look again",
                        written(far)
                    )
                }),
                ..row(sided(spec.label, seen.side), words)
            }
        }
        LookBody::Knee { side, path } => row(sided("Knee", Some(*side)), path.label().to_owned()),
        LookBody::Bend { side, bend } => row(
            sided("Knee in a slow bend", Some(*side)),
            bend.label().to_owned(),
        ),
        LookBody::Pelvis(pelvis) => row("Pelvis".to_owned(), pelvis.label().to_owned()),
        LookBody::Shoulders(shoulders) => row("Shoulders".to_owned(), shoulders.label().to_owned()),
        LookBody::Hand(hand) if hand.weight.is_none() => return None,
        LookBody::Hand(hand) => row(sided("Weight on the hand", Some(hand.side)), hand.words()),
        LookBody::Ear(ear) => row("Ear over the elbow’s crease".to_owned(), ear.words()?),
        LookBody::Sign(seen) if seen.there.is_none() => return None,
        LookBody::Sign(seen) => {
            let there = if seen.there == Some(true) {
                "seen"
            } else {
                "not there"
            };
            row(sided(seen.sign.label(), seen.side), there.to_owned())
        }
        LookBody::Words(words) if words.trim().is_empty() => return None,
        LookBody::Words(words) => row("Words".to_owned(), words.clone()),
    })
}
