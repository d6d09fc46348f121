//! Witnesses that talk with one another: factors on axes and hidden faults, and belief propagation between them (J. Pearl,
//! *Probabilistic Reasoning in Intelligent Systems*, 1988). A witness's message on an axis is its ridge there; ridges multiply,
//! so their points add up exactly to what is believed. Nothing is random, and there is no clock.

use super::axis::About;

/// Sweeps of talk at the most.
const SWEEPS: usize = 40;
/// What stays of a message from sweep to sweep, in logarithms.
const DAMP: f64 = 0.3;
/// Nothing moves any more.
const SETTLED: f64 = 1e-3;
/// Least that a message says, so that a logarithm is one.
const LEAST: f64 = 1e-12;

/// Where a verdict turns, in felt changes, and how sharply.
pub(super) const VERDICT: (f64, f64) = (0.7, 0.45);
/// A verdict that is a slip.
const VERDICT_LAPSE: f64 = 0.05;

/// How the rider found a trial.
#[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize, serde::Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = JudgedVerdict))]
#[serde(rename_all = "snake_case")]
pub enum Felt {
    /// Better than before.
    Better,
    /// No difference.
    Same,
    /// Worse than before.
    Worse,
}

/// What a witness knows of what it is about.
#[derive(Debug, Clone)]
pub(super) enum Kind {
    /// A curve on one axis, or the odds of one fault.
    Curve(Vec<f64>),
    /// A table of two axes, row by row of the first.
    Table(Vec<f64>),
    /// Something seen or felt, there or not, or a hidden fault that is itself caused (the last of what it is about).
    NoisyOr {
        /// Each cause's chance of keeping quiet, cell by cell.
        keep: Vec<Vec<f64>>,
        /// How often it comes without any.
        leak: f64,
        /// Whether it is there; none of a child.
        present: Option<bool>,
        /// What its vote is worth.
        temper: f64,
    },
    /// Better, same or worse: how much nearer each axis came, in felt changes.
    Verdict {
        gains: Vec<Vec<f64>>,
        felt: Felt,
        temper: f64,
    },
}

/// A witness.
#[derive(Debug, Clone)]
pub(super) struct Factor {
    pub(super) name: String,
    /// Which piece of evidence it is of; none of what is known before any.
    pub(super) piece: Option<usize>,
    pub(super) about: Vec<About>,
    pub(super) kind: Kind,
}

pub(super) fn logistic(z: f64) -> f64 {
    1.0 / (1.0 + (-z.clamp(-60.0, 60.0)).exp())
}

/// The sum of products, in four sums side by side: the judge does little else.
pub(super) fn dot(a: &[f64], b: &[f64]) -> f64 {
    let (fours_a, fours_b) = (a.chunks_exact(4), b.chunks_exact(4));
    let rest = fours_a.remainder().iter().zip(fours_b.remainder());
    let rest: f64 = rest.map(|(a, b)| a * b).sum();
    let mut sums = [0.0; 4];
    for (a, b) in fours_a.zip(fours_b) {
        for ((sum, a), b) in sums.iter_mut().zip(a).zip(b) {
            *sum += a * b;
        }
    }
    sums.iter().sum::<f64>() + rest
}

/// The chances of better and worse for so many felt changes nearer, the curve flattened by so much.
pub(super) fn better_worse(nearer: f64, flat: f64) -> (f64, f64) {
    let (from, width) = VERDICT;
    let chance = |way: f64| logistic((way * nearer - from) / width / flat);
    (chance(1.0), chance(-1.0))
}

impl Factor {
    /// Whether it speaks of each of its causes apart, exactly: nothing is talked over.
    fn is_apart(&self) -> bool {
        let absent = matches!(
            self.kind,
            Kind::NoisyOr {
                present: Some(false),
                ..
            }
        );
        self.about.len() == 1 || absent
    }

    /// What it says of one of what it is about, by what is believed of the others without it.
    fn message(&self, of: usize, believed: &[Vec<f64>]) -> Vec<f64> {
        match &self.kind {
            Kind::Curve(like) => like.clone(),
            Kind::Table(table) => {
                let (rows, columns) = (self.about[0].cells(), self.about[1].cells());
                if of == 0 {
                    (0..rows)
                        .map(|row| dot(&table[row * columns..(row + 1) * columns], &believed[1]))
                        .collect()
                } else {
                    let mut sum = vec![0.0; columns];
                    for (row, weight) in believed[0].iter().enumerate() {
                        let line = &table[row * columns..(row + 1) * columns];
                        for (sum, cell) in sum.iter_mut().zip(line) {
                            *sum += weight * cell;
                        }
                    }
                    sum
                }
            }
            // What is absent speaks of each cause as if there were no other.
            Kind::NoisyOr {
                keep,
                present: Some(false),
                temper,
                ..
            } => keep[of].iter().map(|keep| keep.powf(*temper)).collect(),
            Kind::NoisyOr {
                keep,
                leak,
                present,
                temper,
            } => {
                let quiet = |but: Option<usize>| {
                    let mut quiet = 1.0 - leak;
                    for (other, keep) in keep.iter().enumerate() {
                        if Some(other) != but {
                            quiet *= dot(&believed[other], keep);
                        }
                    }
                    quiet
                };
                if of == keep.len() {
                    let none = quiet(None);
                    return vec![none, 1.0 - none];
                }
                let others = quiet(Some(of));
                let child = believed.get(keep.len());
                let said = keep[of].iter().map(|keep| {
                    let quiet = others * keep;
                    match (present, child) {
                        (None, Some(child)) => child[1] * (1.0 - quiet) + child[0] * quiet,
                        _ => 1.0 - quiet,
                    }
                });
                let said: Vec<f64> = said.collect();
                let most = said.iter().copied().fold(0.0, f64::max).max(LEAST);
                said.into_iter().map(|m| (m / most).powf(*temper)).collect()
            }
            Kind::Verdict {
                gains,
                felt,
                temper,
            } => {
                let (mut mean, mut variance) = (0.0, 0.0);
                for (other, gain) in gains.iter().enumerate() {
                    if other != of {
                        let b = &believed[other];
                        let m = dot(b, gain);
                        mean += m;
                        variance += b
                            .iter()
                            .zip(gain)
                            .map(|(b, g)| b * (g - m).powi(2))
                            .sum::<f64>();
                    }
                }
                let flat = (1.0 + variance * std::f64::consts::PI / 8.0 / VERDICT.1.powi(2)).sqrt();
                gains[of]
                    .iter()
                    .map(|gain| {
                        let (better, worse) = better_worse(gain + mean, flat);
                        let p = match felt {
                            Felt::Better => better,
                            Felt::Worse => worse,
                            Felt::Same => (1.0 - better - worse).max(0.0),
                        };
                        (VERDICT_LAPSE + (1.0 - VERDICT_LAPSE) * p).powf(*temper)
                    })
                    .collect()
            }
        }
    }

    /// Who is to blame for it, as shares of one; the last is nobody's.
    pub(super) fn shares(&self, belief: impl Fn(About) -> Vec<f64>) -> (Vec<f64>, f64) {
        let Kind::NoisyOr { keep, leak, .. } = &self.kind else {
            return (Vec::new(), 1.0);
        };
        let does = keep.iter().zip(&self.about);
        let does: Vec<f64> = does
            .map(|(keep, about)| 1.0 - dot(&belief(*about), keep))
            .collect();
        let whole = does.iter().sum::<f64>() + leak;
        (
            does.iter().map(|share| share / whole).collect(),
            leak / whole,
        )
    }
}

/// All witnesses of a fit, and what they leave believed.
#[derive(Debug, Clone)]
pub(super) struct Net {
    pub(super) factors: Vec<Factor>,
    /// What each says of what it is about, in logarithms.
    said: Vec<Vec<Vec<f64>>>,
    sum: Vec<Vec<f64>>,
    /// Sweeps it took.
    pub(super) sweeps: usize,
}

impl Net {
    pub(super) fn settled(factors: Vec<Factor>) -> Self {
        let said = factors
            .iter()
            .map(|f| {
                f.about
                    .iter()
                    .map(|about| vec![0.0; about.cells()])
                    .collect()
            })
            .collect();
        let mut net = Self {
            said,
            sum: About::all().map(|about| vec![0.0; about.cells()]).collect(),
            sweeps: 0,
            factors,
        };
        net.talk();
        net
    }

    /// What is believed; but for one witness, where one is named.
    pub(super) fn belief(&self, about: About, but: Option<(usize, usize)>) -> Vec<f64> {
        let mut all = self.sum[about.index()].clone();
        if let Some((factor, of)) = but {
            for (sum, said) in all.iter_mut().zip(&self.said[factor][of]) {
                *sum -= said;
            }
        }
        let most = all.iter().copied().fold(f64::NEG_INFINITY, f64::max);
        for value in &mut all {
            *value = (*value - most).exp();
        }
        let whole: f64 = all.iter().sum();
        all.into_iter().map(|value| value / whole).collect()
    }

    /// A witness's ridge on what it is about, in logarithms.
    pub(super) fn ridge(&self, factor: usize, about: About) -> Option<&[f64]> {
        let of = self.factors[factor]
            .about
            .iter()
            .position(|a| *a == about)?;
        Some(&self.said[factor][of])
    }

    fn tell(&mut self, factor: usize, of: usize, message: &[f64], damp: f64) -> f64 {
        let most = message.iter().copied().fold(0.0, f64::max).max(LEAST);
        let index = self.factors[factor].about[of].index();
        let mut moved = 0.0_f64;
        for (cell, value) in message.iter().enumerate() {
            let old = self.said[factor][of][cell];
            let new = damp * old + (1.0 - damp) * (value / most).max(LEAST).ln();
            self.sum[index][cell] += new - old;
            self.said[factor][of][cell] = new;
            moved = moved.max((new.exp() - old.exp()).abs());
        }
        moved
    }

    fn talk(&mut self) {
        let (apart, shared): (Vec<usize>, Vec<usize>) =
            (0..self.factors.len()).partition(|f| self.factors[*f].is_apart());
        for factor in apart {
            for of in 0..self.factors[factor].about.len() {
                let message = self.factors[factor].message(of, &[]);
                self.tell(factor, of, &message, 0.0);
            }
        }
        for sweep in 1..=SWEEPS {
            self.sweeps = sweep;
            let mut worst = 0.0_f64;
            for factor in &shared {
                let factor = *factor;
                let believed: Vec<Vec<f64>> = (self.factors[factor].about.iter().enumerate())
                    .map(|(of, about)| self.belief(*about, Some((factor, of))))
                    .collect();
                for of in 0..self.factors[factor].about.len() {
                    let message = self.factors[factor].message(of, &believed);
                    worst = worst.max(self.tell(factor, of, &message, DAMP));
                }
            }
            if worst < SETTLED {
                break;
            }
        }
    }
}
