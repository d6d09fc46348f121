//! From where on the knee a plumb line hangs.

use crate::measure::Output;
use crate::words::words;

words! {
    /// From where on the knee a plumb line hangs.
    pub enum Landmark {
        Centre "centre" "Knee centre",
        KneecapFront "kneecap_front" "Front of the kneecap",
        FrontQuarter "front_quarter" "Front quarter of the joint",
        Tendon "tendon" "Tendon below the kneecap",
        ShinBump "shin_bump" "Bump at the top of the shin",
    }
}

impl Landmark {
    /// What it reads.
    pub fn output(self) -> Output {
        match self {
            Self::KneecapFront => Output::KneecapOverAxle,
            Self::Centre => Output::KneeOverAxle,
            Self::FrontQuarter => Output::FrontQuarterOverAxle,
            Self::Tendon => Output::TendonOverAxle,
            Self::ShinBump => Output::ShinOverAxle,
        }
    }

    /// How it is found on the knee.
    pub fn how(self) -> &'static str {
        match self {
            Self::KneecapFront => "The foremost point of the kneecap.",
            Self::Centre => "The middle of the joint seen from the side, on the bony knob outside.",
            Self::FrontQuarter => {
                "A quarter of the joint's depth behind its front: halfway from its middle to the kneecap's front."
            }
            Self::Tendon => "The soft dip just below the kneecap.",
            Self::ShinBump => "The bump where the tendon ends on the shin.",
        }
    }
}
