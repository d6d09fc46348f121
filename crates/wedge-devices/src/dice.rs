//! Draws that are the same on every machine: PCG-64 as `rand_pcg` has it, whose numbers do not change with its version.

use rand::RngExt;
use rand_distr::{Distribution, StandardNormal};
use rand_pcg::Pcg64;

/// A seeded row of draws. Rows of one seed with different names know nothing of each other.
#[derive(Debug, Clone)]
pub struct Dice(Pcg64);

impl Dice {
    /// The row of a seed with this name.
    pub fn of(seed: u64, name: u64) -> Self {
        Self(Pcg64::new(u128::from(seed), u128::from(name)))
    }

    /// From 0 up to, not including, 1.
    pub fn unit(&mut self) -> f64 {
        self.0.random()
    }

    /// A seed for what has draws of its own.
    pub fn seed(&mut self) -> u64 {
        self.0.random()
    }

    /// Evenly between two.
    pub fn between(&mut self, low: f64, high: f64) -> f64 {
        low + (high - low) * self.unit()
    }

    /// Normal about 0.
    pub fn normal(&mut self, sd: f64) -> f64 {
        let drawn: f64 = StandardNormal.sample(&mut self.0);
        sd * drawn
    }

    /// Whether something happens that does so this often.
    pub fn happens(&mut self, chance: f64) -> bool {
        self.unit() < chance
    }

    /// One of so many, from 0.
    pub fn index(&mut self, count: usize) -> usize {
        let count = u32::try_from(count).unwrap_or(1);
        let drawn = self.unit() * f64::from(count);
        (0..count)
            .rfind(|index| f64::from(*index) <= drawn)
            .map_or(0, |index| index as usize)
    }

    /// Left and right about a middle, mostly alike.
    pub fn two(&mut self, middle: f64, sd: f64) -> [f64; 2] {
        /// How much of it both sides share.
        const ALIKE: f64 = 0.9;
        let common = middle + self.normal(sd * ALIKE.sqrt());
        [0; 2].map(|_| common + self.normal(sd * (1.0 - ALIKE).sqrt()))
    }
}
