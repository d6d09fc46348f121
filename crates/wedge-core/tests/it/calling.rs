//! A run that is called, and numbers for riders whose hidden truth is known.

use wedge_core::foresee::{ForeseeInput, Trying};
use wedge_core::trial::{Answer, Ask, Call, Finding, Guide, Run, RunPlan, guide};

/// Numbers that look random and are the same every time (`SplitMix64`).
pub(crate) struct Noise(pub(crate) u64);

impl Noise {
    pub(crate) fn unit(&mut self) -> f64 {
        self.0 = self.0.wrapping_add(0x9E37_79B9_7F4A_7C15);
        let mut z = self.0;
        z = (z ^ (z >> 30)).wrapping_mul(0xBF58_476D_1CE4_E5B9);
        z = (z ^ (z >> 27)).wrapping_mul(0x94D0_49BB_1331_11EB);
        z ^= z >> 31;
        f64::from(u32::try_from(z >> 32).unwrap()) / f64::from(u32::MAX)
    }

    /// Normal, by twelve uniform ones.
    pub(crate) fn normal(&mut self) -> f64 {
        (0..12).map(|_| self.unit()).sum::<f64>() - 6.0
    }
}

/// A ride tried out for as long as the tests run.
pub(crate) fn tried(input: &ForeseeInput) -> &'static Trying<'static> {
    let ride = Box::leak(Box::new(input.check().unwrap()));
    Box::leak(Box::new(Trying::of(ride)))
}

/// A run being called.
pub(crate) struct Calling {
    pub(crate) plan: RunPlan,
    pub(crate) on: &'static Trying<'static>,
    pub(crate) order: Vec<bool>,
    pub(crate) calls: Vec<Call>,
}

impl Calling {
    pub(crate) fn new(plan: RunPlan, input: &ForeseeInput) -> Self {
        assert_eq!(plan.refusals("/plan"), []);
        Self {
            plan,
            on: tried(input),
            order: Vec::new(),
            calls: Vec::new(),
        }
    }

    pub(crate) fn run(&self, stopped: bool) -> Run<'_> {
        Run {
            plan: &self.plan,
            on: self.on,
            calls: &self.calls,
            stopped,
            order: &self.order,
        }
    }

    pub(crate) fn guide(&self) -> Guide {
        guide(&self.run(false))
    }

    pub(crate) fn ask(&self) -> Ask {
        self.guide().screen.ask.expect("something is asked")
    }

    pub(crate) fn call(&mut self, answer: Answer) {
        let ask = self.ask();
        assert_eq!(ask.refusal(&answer, ""), None, "{ask:?}");
        self.calls.push(Call {
            ask: ask.id,
            answer,
        });
    }

    pub(crate) fn key(&mut self, key: &str) {
        self.call(Answer::Key(key.to_owned()));
    }

    pub(crate) fn keys(&mut self, keys: &str) {
        for key in keys.chars() {
            self.key(&match key {
                '.' => "Enter".to_owned(),
                other => other.to_string(),
            });
        }
    }

    pub(crate) fn number(&mut self, value: f64) {
        self.call(Answer::Number(value));
    }

    pub(crate) fn found(&self) -> Finding {
        self.guide().finding.expect("the run is over")
    }

    pub(crate) fn stopped(&self) -> Finding {
        guide(&self.run(true))
            .finding
            .expect("a stopped run is over")
    }
}
