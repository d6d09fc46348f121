//! The fit stand: a bike without a frame that moves under the rider.

use super::{Mishap, Taken};
use serde::{Deserialize, Serialize};
use wedge_core::measure::Refusal;
use wedge_core::words::written;

/// Moves saddle, bar and cranks under a rider. A real one takes where they are to go, in mm, tells where they stand as often
/// as it is asked, and knows its own points only: the sit reference is told to it once a saddle.
pub trait FitStand {
    /// Goes there while the rider pedals.
    ///
    /// # Errors
    ///
    /// Some of it lies beyond its stops: nothing moves.
    fn goes(&mut self, to: Target) -> Result<Taken<Moved>, Vec<Refusal>>;

    /// Where it stands.
    fn stands(&self) -> Target;
}

/// Where saddle, hands and cranks are, mm from the BB: forward and up.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Target {
    /// The sit reference behind the BB.
    pub back_mm: f64,
    /// And above it.
    pub up_mm: f64,
    /// The hand point ahead of the BB.
    pub hand_x_mm: f64,
    /// And above it.
    pub hand_y_mm: f64,
    /// The cranks.
    pub crank_mm: f64,
}

/// What it did.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Moved {
    /// Where it was.
    pub from: Target,
    /// Where it stands now, in its own steps.
    pub stands: Target,
    /// How long it took, s.
    pub seconds: f64,
}

/// How far one of its slides goes.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Slide {
    /// Which, as a target names it.
    pub key: &'static str,
    /// As it is told.
    pub label: &'static str,
    /// From here, mm.
    pub least_mm: f64,
    /// To there.
    pub most_mm: f64,
    /// In steps of this.
    pub step_mm: f64,
}

/// How fast it goes, mm a second.
const SPEED: f64 = 5.0;
/// Its stops (house choice: room for riders from 1.45 to 2.05 m).
const STOPS: [Slide; 5] = [
    stop("back_mm", "Saddle behind the BB", 50.0, 350.0, 1.0),
    stop("up_mm", "Saddle above the BB", 480.0, 920.0, 1.0),
    stop("hand_x_mm", "Hands ahead of the BB", 200.0, 750.0, 1.0),
    stop("hand_y_mm", "Hands above the BB", 400.0, 950.0, 1.0),
    stop("crank_mm", "Cranks", 140.0, 190.0, 2.5),
];

const fn stop(
    key: &'static str,
    label: &'static str,
    least_mm: f64,
    most_mm: f64,
    step_mm: f64,
) -> Slide {
    Slide {
        key,
        label,
        least_mm,
        most_mm,
        step_mm,
    }
}

impl Target {
    /// Slide by slide, as the stops are.
    fn slides(self) -> [f64; 5] {
        [
            self.back_mm,
            self.up_mm,
            self.hand_x_mm,
            self.hand_y_mm,
            self.crank_mm,
        ]
    }

    fn of_slides([back_mm, up_mm, hand_x_mm, hand_y_mm, crank_mm]: [f64; 5]) -> Self {
        Self {
            back_mm,
            up_mm,
            hand_x_mm,
            hand_y_mm,
            crank_mm,
        }
    }

    /// To the stand's own steps.
    #[must_use]
    pub fn in_steps(self) -> Self {
        let all = self.slides();
        Self::of_slides(std::array::from_fn(|i| {
            (all[i] / STOPS[i].step_mm).round() * STOPS[i].step_mm
        }))
    }

    /// What of it lies beyond the stops.
    pub fn refusals(self) -> Vec<Refusal> {
        let beyond = |(stop, at): (&Slide, f64)| {
            let is_within = (stop.least_mm..=stop.most_mm).contains(&at);
            let words = format!(
                "{}: the stand goes from {} to {} mm, not to {}",
                stop.label,
                written(stop.least_mm),
                written(stop.most_mm),
                written(at)
            );
            (!is_within).then(|| Refusal::new(format!("/{}", stop.key), words))
        };
        STOPS.iter().zip(self.slides()).filter_map(beyond).collect()
    }
}

/// A stand that is not there.
#[derive(Debug, Clone)]
pub struct SimulatedStand {
    stands: Target,
    fault: Option<Mishap>,
}

impl SimulatedStand {
    /// A stand that stands there.
    pub fn at(stands: Target, fault: Option<Mishap>) -> Self {
        Self {
            stands: stands.in_steps(),
            fault,
        }
    }

    /// How far its slides go.
    pub fn stops() -> &'static [Slide] {
        &STOPS
    }

    /// So much of the way to a target: the slides go together, each at its own speed.
    fn after(&self, to: Target, seconds: f64) -> Target {
        let (from, to) = (self.stands.slides(), to.slides());
        let gone = Target::of_slides(std::array::from_fn(|i| {
            let way = to[i] - from[i];
            // Cranks are changed by hand, and stand where they are to be.
            let most = if STOPS[i].step_mm > 1.0 {
                f64::INFINITY
            } else {
                SPEED * seconds
            };
            from[i] + way.clamp(-most, most)
        }));
        gone.in_steps()
    }
}

impl FitStand for SimulatedStand {
    fn goes(&mut self, to: Target) -> Result<Taken<Moved>, Vec<Refusal>> {
        let refused = to.refusals();
        if !refused.is_empty() {
            return Err(refused);
        }
        let (from, to) = (self.stands, to.in_steps());
        let ways = from.slides().into_iter().zip(to.slides());
        let longest = (ways.zip(STOPS))
            .filter(|(_, stop)| stop.step_mm <= 1.0)
            .map(|((from, to), _)| (to - from).abs())
            .fold(0.0, f64::max);
        let seconds = longest / SPEED;
        let moved = |stands: Target, seconds: f64| Moved {
            from,
            stands,
            seconds,
        };
        Ok(match self.fault {
            None => {
                self.stands = to;
                Taken::whole(moved(to, seconds))
            }
            Some(fault @ Mishap::Silent) => Taken::troubled(
                None,
                fault,
                "The stand does not answer: it has not moved. Is it plugged in?",
            ),
            Some(fault @ Mishap::Late) => {
                self.stands = to;
                let words = "The stand began 3 s late: it stands where it was to go.";
                Taken::troubled(Some(moved(to, seconds + 3.0)), fault, words)
            }
            Some(fault @ (Mishap::Unplugged | Mishap::OutOfRange)) => {
                self.stands = self.after(to, seconds / 2.0);
                let words = format!(
                    "The stand stopped half-way, after {} s: saddle {} up, {} back; hands {} ahead, {} up. Nothing is taken down; \
                     send it again.",
                    written((10.0 * seconds / 2.0).round() / 10.0),
                    written(self.stands.up_mm),
                    written(self.stands.back_mm),
                    written(self.stands.hand_x_mm),
                    written(self.stands.hand_y_mm),
                );
                Taken::troubled(Some(moved(self.stands, seconds / 2.0)), fault, words)
            }
        })
    }

    fn stands(&self) -> Target {
        self.stands
    }
}
