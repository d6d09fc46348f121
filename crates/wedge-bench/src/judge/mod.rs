//! The judge on a fit: the next move with its reasons, what else could be done, where the right places are, and how well it
//! judged before.

mod evidence;
mod handed;
mod score;

pub use evidence::WhereFrom;
pub use handed::{HandedOver, WhyKept};
pub use score::{AxisScore, Claim, claims, follow_up, scores};

use crate::{Bench, Declined};
use evidence::{Gathered, Known};
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use wedge_core::bike::Part;
use wedge_core::foresee::{Change, Step, foresee_on};
use wedge_core::judge::{
    Asking, Axis, AxisBelief, Candidate, Hidden, Judgement, Stand, Witness, called, fault_words,
    judge_by, percent, step, undoing, wrong_if,
};
use wedge_core::limit::LimitRow;
use wedge_core::looking::Sign;
use wedge_core::school::shims;
use wedge_core::trial::{Bracketed, Protocol, RunPlan, Start};
use wedge_core::units::Side;
use wedge_core::words::{capital, lower, sided, written};
use wedge_core::work::Station;
use wedge_files::{Dispute, Disputed, Outcome, standing};

/// What speaks for or against something.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Said {
    /// What it is: "behind the knee, left: pain 6 of 10".
    pub words: String,
    /// Ten times the logarithm of how much likelier it makes the proposed place; against it where negative.
    pub points: f64,
    /// What it can be struck out by; none of what is known before any evidence.
    pub key: Option<String>,
    /// Where it is from.
    pub source: Option<WhereFrom>,
}

/// One thing that may be done next.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MoveView {
    /// What tells it from the others.
    pub key: String,
    /// `move`, `linked`, `test`, `put_back`, `done`, `refer`, or a remedy.
    pub act: String,
    /// "Saddle down 8".
    pub title: String,
    /// Where on the way it is done.
    pub station: Station,
    /// "97 % too high"; of a protocol or a look what it is for.
    pub because: String,
    /// How it is done, where the title does not say it.
    pub how: String,
    /// The strongest that speak for it.
    pub speaks_for: Vec<Said>,
    /// The strongest that speaks against it.
    pub against: Option<Said>,
    /// "The hips still rock".
    pub wrong_if: Option<String>,
    /// What to do if it is worse.
    pub if_worse: Option<String>,
    /// The chance that it lands in the rider's window.
    pub lands: Option<f64>,
    /// What moves with it: "knee at full reach 28.9° → 31.6°".
    pub moves_with: Vec<String>,
    /// The linked trial; none of what turns no bolt.
    pub step: Option<Step>,
    /// The protocol as it would be set up; none of what is none.
    pub start: Option<Start>,
    /// Why it is not proposed.
    pub blocked: Vec<String>,
    /// The fault it mends, to disagree with.
    pub fault: Option<String>,
    /// As that is told.
    pub fault_words: Option<String>,
    /// The axis it is about.
    pub axis: Option<Axis>,
    /// What it is worth less what it costs: what the ranking is by.
    pub score: f64,
}

/// A look or question worth asking.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AskNext {
    /// The sign.
    pub sign: Sign,
    /// On which side, where there are two.
    pub side: Option<Side>,
    /// "Do the hips rock?"
    pub words: String,
    /// How much less is lost for knowing it.
    pub worth: f64,
}

/// An axis in a line.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AxisLine {
    /// Which.
    pub axis: Axis,
    /// As it is called.
    pub label: &'static str,
    /// Its unit, as it follows a number.
    pub unit: &'static str,
    /// What its places are told by.
    pub scale: &'static str,
    /// What is added to a place to read it on that scale.
    pub reads_from: f64,
    /// Where the bike stands, from the bike as found.
    pub now: f64,
    /// Where the right place most likely is.
    pub right: f64,
    /// The window around it.
    pub half: f64,
    /// Chance too far in +, in its window, too far in −.
    pub plus: f64,
    /// In its window.
    pub fine: f64,
    /// Too far in −.
    pub minus: f64,
    /// What its + end is.
    pub plus_end: &'static str,
    /// What its − end is.
    pub minus_end: &'static str,
    /// "97 % too high".
    pub words: String,
    /// Which way the wedge at now points: 1, −1, or 0 where nothing is likelier than not.
    pub wedge: i8,
    /// Whether it is far out.
    pub gross: bool,
}

/// A witness as a ridge over the places of an axis.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct RidgeView {
    /// What it says, and its points.
    pub said: Said,
    /// What it says of each place, one at its likeliest.
    pub ridge: Vec<f64>,
}

/// Places of an axis that the parts forbid.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Walled {
    /// From this place.
    pub from: f64,
    /// To this one.
    pub to: f64,
}

/// One axis opened: where the right place is, and who says so.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct AxisOpen {
    /// In a line.
    pub line: AxisLine,
    /// The places, from the bike as found.
    pub places: Vec<f64>,
    /// What is believed of each, one at the likeliest.
    pub belief: Vec<f64>,
    /// Of each the points against where the bike stands now.
    pub points_at: Vec<f64>,
    /// Of each the chance that it is in the rider's window.
    pub lands_at: Vec<f64>,
    /// Every witness that says anything, the strongest first; the rest are told together.
    pub ridges: Vec<RidgeView>,
    /// The points of those that say next to nothing.
    pub rest: f64,
    /// The sum of all points: right place against now.
    pub points: f64,
    /// Where the changes asked for would put it; none without any.
    pub tried: Option<f64>,
    /// Places the parts forbid.
    pub walled: Vec<Walled>,
    /// The same in sentences.
    pub words: Vec<String>,
}

/// A disagreement that stands.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct DisputeView {
    /// Its id.
    pub id: Uuid,
    /// What was disputed, and how: "Saddle too high: not so".
    pub words: String,
    /// Why.
    pub reason: String,
}

/// What is said of a frame that no bolt mends.
const WRONG_FRAME: &str = "The frame is the wrong one for this rider: do the best it allows, and keep the rest for the next bike";

/// What the judge says of a fit.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct JudgeView {
    /// The next move.
    pub next: MoveView,
    /// The bolt to turn instead, where the next move turns none: "saddle down 5".
    pub otherwise: Option<String>,
    /// What else may be done, the best first.
    pub others: Vec<MoveView>,
    /// What a limit, a wall or the parts forbid.
    pub blocked: Vec<MoveView>,
    /// What is worth asking or looking at, the most first.
    pub asks: Vec<AskNext>,
    /// What is said besides: limits, the wrong frame, what the order of goals changes.
    pub says: Vec<String>,
    /// Where the frame is the wrong one, that it is.
    pub wrong_frame: Option<String>,
    /// Every axis.
    pub axes: Vec<AxisLine>,
    /// Whether it is judged as a whole fit, in which what is silent counts too.
    pub full_fit: bool,
    /// Where the fitter disagreed.
    pub disputes: Vec<DisputeView>,
}

/// What is asked of an axis: with which changes on the bench.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Where {
    /// Which axis.
    pub axis: Axis,
    /// What is asked for and not yet tried.
    #[serde(default)]
    pub changes: Vec<Change>,
}

/// Fewer points are not worth a line.
const WORTH: f64 = 0.5;
/// A wedge is drawn from here on.
const LIKELY: f64 = 0.5;

/// A fit judged: evidence, judgement, and the rider as found and now.
struct Judged<'a> {
    known: &'a Known<'a>,
    /// Where the bike stands now.
    stand: Stand,
    gathered: Gathered,
    judgement: Judgement,
    /// What there is to build with.
    parts: Vec<Part>,
}

impl Bench {
    /// Runs something on this fit judged.
    fn judged_with<R>(&self, ask: impl FnOnce(&Judged) -> R) -> Result<R, Declined> {
        self.with_known(|known| {
            let gathered = known.gathered(None);
            ask(&Judged {
                known,
                parts: self.parts_box(),
                stand: Stand::of(&known.now.before, known.now.before_setup()),
                judgement: gathered.judgement(),
                gathered,
            })
        })
    }

    /// What the judge says of this fit.
    #[expect(
        clippy::redundant_closure_for_method_calls,
        reason = "the method itself is of one lifetime, not of any"
    )]
    pub fn judged(&self) -> Result<JudgeView, Declined> {
        self.on_the_bench("asking for the next move")?;
        self.judged_with(|judged| judged.view())
    }

    /// Where the right place on an axis is, and who says so.
    pub fn right_place(&self, asked: &Where) -> Result<AxisOpen, Declined> {
        self.on_the_bench("asking for the next move")?;
        self.judged_with(|judged| judged.open(asked))
    }

    /// Whether a disagreement is about something there is.
    pub fn may_dispute(&self, dispute: &Dispute) -> Result<(), Declined> {
        self.on_the_bench("disagreeing with the judge")?;
        let mut on_record = self.session.disputes.iter();
        if on_record.any(|known| known.id == dispute.id) {
            // Sent again: what it is about may be struck out by it already.
            return Ok(());
        }
        let is_there = match &dispute.about {
            Disputed::Witness(key) => self.with_known(|known| {
                let pieces = known.gathered(None).pieces;
                pieces.iter().any(|piece| piece.key == *key)
            })?,
            Disputed::TakenBack(id) => {
                let stands = standing(&self.session.disputes);
                stands.iter().any(|stands| stands.id == *id)
            }
            Disputed::Fault(_) | Disputed::Right(_) => true,
        };
        if is_there {
            return Ok(());
        }
        Err(Declined::field(
            "/about",
            "There is nothing like that to disagree with",
        ))
    }

    /// The judgement alone, with what each witness is called: for the command line.
    pub fn judgement(&self) -> Result<Judgement, Declined> {
        self.on_the_bench("asking for the next move")?;
        self.judged_with(|judged| {
            let mut judgement = judged.judgement.clone();
            for axis in &mut judgement.axes {
                for witness in &mut axis.witnesses {
                    witness.name = judged.said(witness).words;
                }
            }
            judgement
        })
    }
}

impl Judged<'_> {
    fn said(&self, witness: &Witness) -> Said {
        let piece = witness.piece.map(|index| &self.gathered.pieces[index]);
        let words = self.gathered.words(witness);
        Said {
            words: match piece {
                // What nobody saw is believed because of what it may come from.
                None if Hidden::ALL.iter().any(|hidden| hidden.label() == words) => {
                    format!("Perhaps {}", lower(&words))
                }
                _ => capital(&words),
            },
            points: witness.points,
            key: piece
                .map(|piece| piece.key.clone())
                .filter(|key| !key.is_empty()),
            source: piece.map(|piece| piece.from),
        }
    }

    fn belief(&self, axis: Axis) -> Option<&AxisBelief> {
        self.judgement
            .axes
            .iter()
            .find(|belief| belief.of() == axis)
    }

    fn line(&self, belief: &AxisBelief) -> AxisLine {
        let axis = belief.of();
        let spec = self.gathered.linkage.craft.spec(axis);
        let (plus, fine, minus) = belief.chances;
        let (way, chance) = belief.leans();
        AxisLine {
            axis,
            label: axis.label(),
            unit: axis.unit(),
            scale: axis.scale(),
            reads_from: self.stand.reads(axis) - belief.now,
            now: belief.now,
            right: belief.right,
            half: spec.half,
            plus,
            fine,
            minus,
            plus_end: spec.words.0,
            minus_end: spec.words.1,
            words: belief.words(),
            wedge: match chance > LIKELY {
                true if way > 0.0 => 1,
                true => -1,
                false => 0,
            },
            gross: spec
                .gross
                .is_some_and(|gross| (belief.mean - belief.now).abs() >= gross),
        }
    }

    /// A candidate as it is shown; one whose bolts do not go there is blocked, with why.
    fn shown(&self, candidate: &Candidate) -> MoveView {
        let name = called(candidate);
        let (mut made, wall) = match candidate.act.as_str() {
            "put_back" => (self.put_back(), None),
            "shim" => (self.shim(candidate.side), None),
            _ => step(candidate, self.known.now, &self.parts),
        };
        let mut blocked: Vec<String> = candidate.blocked.clone();
        if made.is_none() {
            blocked.extend(wall);
        }
        if candidate.act == "put_back" && self.known.bench.session.undecided().is_some() {
            made = None;
        }
        let title = match (&made, candidate.of) {
            (Some(step), Some(Axis::Reach | Axis::Bars)) => {
                format!("{}: {}", name.title, lower(&step.title))
            }
            (Some(step), _) if candidate.act != "put_back" => step.title.clone(),
            _ => name.title.clone(),
        };
        let belief = candidate.of.and_then(|axis| self.belief(axis));
        let (speaks_for, against) = belief.map_or((Vec::new(), None), |belief| self.sides(belief));
        let because = match (candidate.act.as_str(), belief) {
            ("move" | "linked" | "put_back", Some(belief)) => capital(&belief.words()),
            ("test", Some(belief)) => format!("{}: {}", belief.of().label(), belief.words()),
            ("done", _) => self.all_fine(),
            ("refer", _) => self.unexplained(),
            _ => self.chance_words(candidate).unwrap_or_default(),
        };
        let fault = candidate.fault.clone().or_else(|| self.likely(candidate));
        MoveView {
            key: format!(
                "{}:{}:{}",
                candidate.act,
                candidate.what,
                candidate.dir.unwrap_or_default()
            ),
            act: candidate.act.clone(),
            title,
            station: self.station(candidate, name.station),
            because,
            how: name.how.to_owned(),
            speaks_for,
            against,
            wrong_if: (candidate.fault.as_deref().and_then(wrong_if)).map(lower),
            if_worse: candidate
                .of
                .filter(|_| made.is_some() && candidate.act != "put_back")
                .map(|axis| if_worse(axis, candidate)),
            lands: candidate.lands,
            moves_with: made
                .as_ref()
                .map_or_else(Vec::new, |step| self.knock_ons(step)),
            start: name
                .protocol
                .and_then(|protocol| self.start(candidate, name.station, protocol)),
            step: made,
            blocked,
            fault_words: fault.as_deref().map(fault_words),
            fault,
            axis: candidate.of,
            score: candidate.score,
        }
    }

    /// The worst of what the position explains too little of.
    fn unexplained(&self) -> String {
        let complaints = self.known.bench.session.intake.complaints.iter();
        let worst = complaints.max_by_key(|complaint| complaint.how_bad);
        worst.map_or_else(String::new, |complaint| {
            format!(
                "Nothing here explains it well enough: {}",
                lower(&complaint.line())
            )
        })
    }

    /// The fault a protocol is made for, where one is likely.
    fn likely(&self, candidate: &Candidate) -> Option<String> {
        let axis = candidate.of?;
        let of_it = (self.judgement.faults.iter()).filter(|of| of.axis() == Some(axis));
        let most = of_it.max_by(|a, b| a.chance.total_cmp(&b.chance))?;
        (most.chance > LIKELY).then(|| most.fault.clone())
    }

    /// "Shoe too tight: 61 %".
    fn chance_words(&self, candidate: &Candidate) -> Option<String> {
        let fault = candidate.fault.as_deref()?;
        let charged = self.judgement.faults.iter().find(|of| of.fault == fault)?;
        Some(format!(
            "{}: {}",
            fault_words(fault),
            percent(charged.chance)
        ))
    }

    /// Where a candidate is done: what repeats or undoes a trial, where that trial's bolt is turned.
    fn station(&self, candidate: &Candidate, named: Station) -> Station {
        let there = match candidate.act.as_str() {
            "put_back" => candidate.of.map_or(named, Axis::station),
            "test" if candidate.what == "repeat" => candidate.of.map_or(named, Axis::station),
            _ => named,
        };
        // Of pads, how high they stand has a station of its own; protocols are begun where reach is decided.
        let pads = self.known.bench.has_pads() && candidate.act != "test";
        match (there, candidate.of) {
            (Station::Bars, Some(Axis::Bars)) if pads => Station::PadStack,
            _ => there,
        }
    }

    fn all_fine(&self) -> String {
        let least = (self.judgement.axes.iter()).min_by(|a, b| a.chances.1.total_cmp(&b.chances.1));
        least.map_or_else(String::new, |belief| {
            format!(
                "Nothing left is worth a bolt. Least sure: {}, {}",
                lower(belief.of().label()),
                belief.words()
            )
        })
    }

    /// The three strongest witnesses for the place proposed, and the strongest against.
    fn sides(&self, belief: &AxisBelief) -> (Vec<Said>, Option<Said>) {
        // Points are told for the place it goes to: where that lies the other way than the axis leans, they would read as their
        // opposite.
        let (way, _) = belief.leans();
        if (belief.right - belief.now) * way >= 0.0 {
            return (Vec::new(), None);
        }
        let is_evidence =
            |witness: &&Witness| witness.piece.is_some() || witness.name.starts_with("schools");
        let speaks: Vec<Said> = (belief.witnesses.iter())
            .filter(is_evidence)
            .take(3)
            .filter(|witness| witness.points > WORTH)
            .map(|witness| self.said(witness))
            .collect();
        let against = (belief.witnesses.iter().rev()).find(is_evidence);
        let against = against.filter(|witness| witness.points < -WORTH);
        (speaks, against.map(|witness| self.said(witness)))
    }

    /// What moves with a step besides, the largest first.
    fn knock_ons(&self, step: &Step) -> Vec<String> {
        let Ok(foresight) = foresee_on(self.known.now, &step.changes) else {
            return Vec::new();
        };
        let telling = foresight
            .rows
            .iter()
            .filter(|row| row.moved && row.output.is_main());
        let bike = [
            wedge_core::measure::Output::SaddleHeight,
            wedge_core::measure::Output::Setback,
        ];
        telling
            .filter(|row| !bike.contains(&row.output))
            .take(3)
            .map(wedge_core::foresee::Row::moved_words)
            .collect()
    }

    /// The protocol as it would be set up.
    fn start(&self, candidate: &Candidate, station: Station, protocol: Protocol) -> Option<Start> {
        let mut start = (self.known.bench.starts(self.known.now, station).into_iter())
            .find(|start| start.protocol == protocol)?;
        if let RunPlan::Bracket(bracket) = &mut start.plan {
            let of = match candidate.what.as_str() {
                "bracket_bars" => Bracketed::Height,
                _ => Bracketed::Reach,
            };
            if bracket.of != of {
                (bracket.of, bracket.from_mm) = (of, 0.0);
            }
        }
        Some(start)
    }

    /// What undoes the last trial that was kept.
    fn put_back(&self) -> Option<Step> {
        let session = &self.known.bench.session;
        let mut latest = session.trials.iter().rev();
        let last = latest.find(|trial| trial.outcome() == Some(Outcome::Kept))?;
        let before = session.setup(last.before)?;
        let turned: Vec<_> = (last.foreseen.turns.iter())
            .map(|turn| (turn.quantity, turn.side, turn.by))
            .collect();
        undoing(self.known.now, before, &turned)
    }

    fn shim(&self, side: Option<Side>) -> Option<Step> {
        let all = shims(self.known.now, &[]);
        let shim = all
            .into_iter()
            .find(|shim| Some(shim.side) == side && !shim.changes.is_empty())?;
        Step::of(self.known.now, shim.changes, String::new())
    }

    fn view(&self) -> JudgeView {
        let judgement = &self.judgement;
        let every = std::iter::once(&judgement.next).chain(&judgement.others);
        let shown = every.map(|candidate| self.shown(candidate));
        // What the bike or a limit does not let be made is told, never proposed.
        let mut blocked: Vec<MoveView> = (judgement.blocked.iter())
            .map(|candidate| self.shown(candidate))
            .collect();
        let (open, stopped): (Vec<_>, Vec<_>) = shown.partition(|m| m.blocked.is_empty());
        blocked.extend(stopped);
        let mut open = open.into_iter();
        let next = open
            .next()
            .unwrap_or_else(|| self.shown(&Candidate::done()));
        let others: Vec<MoveView> = open.collect();
        let says = self.says(&next, &blocked);
        let session = &self.known.bench.session;
        JudgeView {
            otherwise: (next.step.is_none())
                .then(|| others.iter().find(|other| other.step.is_some()))
                .flatten()
                .map(|other| lower(&other.title)),
            next,
            others,
            blocked,
            asks: self.asks(),
            says,
            wrong_frame: (judgement.says.contains(&"wrong_frame")).then(|| WRONG_FRAME.to_owned()),
            axes: judgement
                .axes
                .iter()
                .map(|belief| self.line(belief))
                .collect(),
            full_fit: self.known.bench.is_full_fit(),
            disputes: standing(&session.disputes)
                .into_iter()
                .map(disputed)
                .collect(),
        }
    }

    fn asks(&self) -> Vec<AskNext> {
        let worth = self.judgement.asks.iter().take(3);
        worth
            .map(|asking: &Asking| AskNext {
                sign: asking.sign,
                side: asking.side,
                words: format!("{}?", sided(asking.sign.label(), asking.side)),
                worth: asking.worth,
            })
            .collect()
    }

    /// What is said besides the move.
    fn says(&self, next: &MoveView, blocked: &[MoveView]) -> Vec<String> {
        let mut all = Vec::new();
        for blocked in blocked.iter().take(2) {
            all.push(format!(
                "{}: not proposed, {}",
                blocked.title,
                blocked.blocked.join("; ")
            ));
        }
        for row in &self.gathered.limits {
            all.push(short_words(row));
        }
        for said in &self.judgement.says {
            all.extend(match *said {
                "wrong_frame" => Some(WRONG_FRAME.to_owned()),
                "load" => Some("The load rose lately: what hurts may be that alone".to_owned()),
                _ => None,
            });
        }
        all.extend(self.order_words(next));
        all
    }

    /// What the rider's order of goals changes: the move it would be were all alike.
    fn order_words(&self, next: &MoveView) -> Option<String> {
        self.gathered.rider.weights?;
        let first = self.known.bench.session.intake.goals.0.first()?.first()?;
        let mut case = self.gathered.case();
        case.rider.weights = None;
        let alike = judge_by(&case, &self.gathered.linkage.craft);
        let other = &alike.next;
        let shown = format!("{}:{}:", other.act, other.what);
        let same = next.key.starts_with(&shown) || self.judgement.next.what == other.what;
        (!same).then(|| {
            format!(
                "With {} first: this; with all goals alike it would be: {}",
                lower(first.label()),
                lower(&called(other).title)
            )
        })
    }

    fn open(&self, asked: &Where) -> AxisOpen {
        let belief = self.belief(asked.axis).unwrap_or(&self.judgement.axes[0]);
        let line = self.line(belief);
        let (telling, rest): (Vec<&Witness>, Vec<&Witness>) =
            (belief.witnesses.iter()).partition(|witness| says_anything(&witness.ridge));
        let tried = (!asked.changes.is_empty())
            .then(|| self.tried_at(asked))
            .flatten();
        let places = asked.axis.grid();
        let walled = self.walled(asked.axis, &places);
        let (points_at, lands_at) = self.at_each(belief, &places);
        let mut words = vec![format!(
            "{}: {}. The right place is most likely {} from where it stands, ± {}.",
            line.label,
            line.words,
            signed(line.right - line.now, line.unit),
            written(line.half) + line.unit
        )];
        for witness in telling.iter().take(12).filter(|w| w.points.abs() >= WORTH) {
            let said = self.said(witness);
            words.push(format!("{}: {}", capital(&said.words), points(said.points)));
        }
        AxisOpen {
            rest: rest.iter().map(|witness| witness.points).sum(),
            points: belief.points,
            belief: belief.belief.clone(),
            points_at,
            lands_at,
            ridges: (telling.into_iter())
                .map(|witness| RidgeView {
                    said: self.said(witness),
                    ridge: witness.ridge.clone(),
                })
                .collect(),
            line,
            places,
            tried,
            walled,
            words,
        }
    }

    /// At each place the points against now, and the chance that it is in the window.
    fn at_each(&self, belief: &AxisBelief, places: &[f64]) -> (Vec<f64>, Vec<f64>) {
        let half = self.gathered.linkage.craft.spec(belief.of()).half;
        let all: f64 = belief.belief.iter().sum();
        let near = |place: f64| {
            let within = places
                .iter()
                .zip(&belief.belief)
                .filter(|(x, _)| (*x - place).abs() <= half);
            within.map(|(_, b)| b).sum::<f64>() / all
        };
        let now = places
            .iter()
            .zip(&belief.belief)
            .min_by(|(a, _), (b, _)| (*a - belief.now).abs().total_cmp(&(*b - belief.now).abs()))
            .map_or(1.0, |(_, b)| *b);
        let points =
            |b: &f64| 10.0 * (b.max(f64::MIN_POSITIVE) / now.max(f64::MIN_POSITIVE)).log10();
        (
            belief.belief.iter().map(points).collect(),
            places.iter().map(|place| near(*place)).collect(),
        )
    }

    /// Where changes would put an axis.
    fn tried_at(&self, asked: &Where) -> Option<f64> {
        let after = foresee_on(self.known.now, &asked.changes).ok()?;
        let stand = Stand::of(&after.after, &after.setup);
        Some(self.gathered.linkage.places(&stand)[asked.axis as usize])
    }

    /// What of an axis the parts forbid.
    fn walled(&self, axis: Axis, places: &[f64]) -> Vec<Walled> {
        let Some((low, high)) = self.gathered.bike.room.get(axis.key()).copied() else {
            return Vec::new();
        };
        let (first, last) = (
            places.first().copied().unwrap_or(0.0),
            places.last().copied().unwrap_or(0.0),
        );
        let mut all = Vec::new();
        if low > first {
            all.push(Walled {
                from: first,
                to: low,
            });
        }
        if high < last {
            all.push(Walled {
                from: high,
                to: last,
            });
        }
        all
    }
}

/// Whether a ridge has a shape worth drawing.
fn says_anything(ridge: &[f64]) -> bool {
    let least = ridge.iter().copied().fold(f64::INFINITY, f64::min);
    least < 0.9
}

fn signed(by: f64, unit: &str) -> String {
    let sign = if by > 0.0 {
        "+"
    } else if by < 0.0 {
        "−"
    } else {
        ""
    };
    format!("{sign}{}{unit}", written(by.abs()))
}

/// "+7", "−2".
fn points(points: f64) -> String {
    signed(points.round(), "")
}

fn short_words(row: &LimitRow) -> String {
    format!("{}: {}", row.label, row.words)
}

/// "Back where it was, then 4 the other way, or creep up".
fn if_worse(axis: Axis, candidate: &Candidate) -> String {
    let half = axis.amount((candidate.amount / 2.0).max(axis.spec().round));
    let or = match axis {
        Axis::Height => ", or creep up",
        Axis::Setback => ", or sweep the rails",
        Axis::Reach | Axis::Bars => ", or bracket it",
        Axis::Crank => ", or compare cranks",
        _ => "",
    };
    format!("back where it was, then {half} the other way{or}")
}

fn disputed(dispute: &Dispute) -> DisputeView {
    let words = match &dispute.about {
        Disputed::Fault(_) => format!("{}: not so", dispute.told),
        Disputed::Witness(_) => format!("{}: struck out", dispute.told),
        Disputed::Right(_) => format!("{}: right as it is", dispute.told),
        Disputed::TakenBack(_) => dispute.told.clone(),
    };
    DisputeView {
        id: dispute.id,
        words,
        reason: dispute.reason.clone(),
    }
}
