//! The trainer: power held, and what the pedals get.

use super::{DeviceKind, Mishap, Seat, Taken};
use crate::hidden::Trouble;
use wedge_core::capture::torque::{SECTORS, Torque};
use wedge_core::units::Side;
use wedge_core::words::written;

/// Holds a power and tells what the pedals get. A real one sends power in W and cadence in turns a minute about once a second
/// (Fitness Machine service), and where a meter knows the crank's angle, torque by angle and a half-turn split (Cycling Power
/// service); by its own clock, a second late. It takes a target power.
pub trait Trainer {
    /// Holds a power for so many seconds.
    fn hold(&mut self, watts: f64, seconds: f64) -> Taken<Ridden>;
}

/// One stroke.
#[derive(Debug, Clone, PartialEq)]
pub struct PushStroke {
    /// When its right crank was at the top, s.
    pub at_s: f64,
    /// Mean power, W.
    pub power_w: f64,
    /// Turns a minute.
    pub cadence_rpm: f64,
    /// What acts while the left crank goes down, %.
    pub left_percent: f64,
    /// Torque at the axle, N·m, in each sector of the right crank from its top.
    pub sectors_nm: [f64; SECTORS],
}

/// What was ridden.
#[derive(Debug, Clone, PartialEq)]
pub struct Ridden {
    /// Stroke by stroke.
    pub strokes: Vec<PushStroke>,
}

impl Ridden {
    /// The mean stroke with its standard errors; `None` of fewer than two.
    pub fn torque(&self) -> Option<Torque> {
        let count = u32::try_from(self.strokes.len()).ok().filter(|n| *n > 1)?;
        let n = f64::from(count);
        let mean = |of: &dyn Fn(&PushStroke) -> f64| self.strokes.iter().map(of).sum::<f64>() / n;
        let sectors_nm: Vec<f64> = (0..SECTORS).map(|at| mean(&|s| s.sectors_nm[at])).collect();
        let se = |at: usize| {
            let off = mean(&|s| (s.sectors_nm[at] - sectors_nm[at]).powi(2));
            (off / (n - 1.0)).sqrt()
        };
        Some(Torque {
            se_nm: Some((0..SECTORS).map(se).collect()),
            cadence_rpm: mean(&|s| s.cadence_rpm),
            sectors_nm,
        })
    }
}

/// What it can hold, W.
const HOLDS_W: (f64, f64) = (30.0, 1500.0);
/// How much a stroke's power and one sector's torque waver, of 1.
const WAVERS: (f64, f64) = (0.03, 0.05);
/// Where a push has its peak, ° from that side's top, and how the weight of the other leg counts against it, of its peak.
const PEAK_DEG: f64 = 95.0;
const DRAG: f64 = 0.12;

/// A trainer under a rider who is not there.
#[derive(Debug)]
pub struct SimulatedTrainer<'a> {
    seat: Seat<'a>,
    fault: Option<Mishap>,
}

impl<'a> SimulatedTrainer<'a> {
    /// A trainer under a rider.
    pub fn under(seat: Seat<'a>, fault: Option<Mishap>) -> Self {
        Self { seat, fault }
    }

    /// How much of the work each leg does: a dip and a shorter leg cost that side some.
    fn shares(&self) -> [f64; 2] {
        let lost = |side: Side| -> f64 {
            let of = self.seat.rider.troubles().iter();
            of.filter(|of| of.side == Some(side))
                .map(|of| match of.trouble {
                    Trouble::Dip => 0.05 * of.level,
                    Trouble::ShorterLeg => 0.03 * of.level,
                    _ => 0.0,
                })
                .sum()
        };
        let [left, right] = Side::BOTH.map(|side| 1.0 - lost(side));
        [2.0 * left / (left + right), 2.0 * right / (left + right)]
    }

    fn ridden(&self, watts: f64, seconds: f64) -> Ridden {
        let mut dice = self.seat.dice(DeviceKind::Trainer);
        let shares = self.shares();
        let noise = self.seat.rider.noise();
        let (mut at_s, mut strokes) = (0.0, Vec::new());
        while at_s < seconds {
            let cadence_rpm = self.seat.effort.cadence_rpm * (1.0 + dice.normal(0.005 * noise));
            let power = watts * (1.0 + dice.normal(WAVERS.0 * noise));
            let shape = |own: f64| {
                let push = (own - PEAK_DEG).to_radians().cos().max(0.0).powf(1.4);
                let drag = DRAG * (own - PEAK_DEG).to_radians().cos().min(0.0);
                push + drag
            };
            let mut sectors: [f64; SECTORS] = std::array::from_fn(|sector| {
                let own = 360.0 / SECTORS as f64 * (sector as f64 + 0.5);
                let both = shares[1] * shape(own) + shares[0] * shape((own + 180.0) % 360.0);
                both * (1.0 + dice.normal(WAVERS.1 * noise))
            });
            let mean = sectors.iter().sum::<f64>() / SECTORS as f64;
            let wanted = power / (cadence_rpm * std::f64::consts::TAU / 60.0);
            for sector in &mut sectors {
                *sector *= wanted / mean;
            }
            let half = &sectors[SECTORS / 2..];
            strokes.push(PushStroke {
                at_s,
                power_w: power,
                cadence_rpm,
                left_percent: 100.0 * half.iter().sum::<f64>() / sectors.iter().sum::<f64>(),
                sectors_nm: sectors,
            });
            at_s += 60.0 / cadence_rpm;
        }
        Ridden { strokes }
    }
}

impl Trainer for SimulatedTrainer<'_> {
    fn hold(&mut self, watts: f64, seconds: f64) -> Taken<Ridden> {
        let is_held = (HOLDS_W.0..=HOLDS_W.1).contains(&watts);
        if !is_held || self.fault == Some(Mishap::OutOfRange) {
            let words = format!(
                "The trainer holds {} to {} W: nothing was taken. Ask for a power between.",
                HOLDS_W.0, HOLDS_W.1
            );
            return Taken::troubled(None, Mishap::OutOfRange, words);
        }
        let mut ridden = self.ridden(watts, seconds);
        match self.fault {
            None | Some(Mishap::OutOfRange) => Taken::whole(ridden),
            Some(fault @ Mishap::Silent) => Taken::troubled(
                None,
                fault,
                "The trainer sends nothing: nothing was taken. Is it plugged in?",
            ),
            Some(fault @ Mishap::Unplugged) => {
                ridden.strokes.truncate(ridden.strokes.len() / 2);
                let words = format!(
                    "The trainer was unplugged after {} strokes: keep what there is, or drop it.",
                    ridden.strokes.len()
                );
                Taken::troubled(Some(ridden), fault, words)
            }
            Some(fault @ Mishap::Late) => {
                let late = 2.0;
                ridden.strokes.retain(|stroke| stroke.at_s >= late);
                let words = format!(
                    "The trainer answered {} s late: the first strokes are missing. Keep the rest, or take anew.",
                    written(late)
                );
                Taken::troubled(Some(ridden), fault, words)
            }
        }
    }
}
