//! From where on the knee a plumb line hangs.

use super::Position;
use crate::measure::Output;
use crate::units::Side;
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

    /// What stands over the axle where a line from here hangs right: the landmark itself, or the knee's centre for one that
    /// is only handy to hang from.
    #[must_use]
    pub fn stands_for(self) -> Self {
        match self {
            Self::Centre | Self::KneecapFront | Self::FrontQuarter => self,
            Self::Tendon | Self::ShinBump => Self::Centre,
        }
    }

    /// How far ahead of what it stands for it is, mm, where both are known.
    pub(crate) fn ahead(self, position: &Position, side: Side) -> Option<f64> {
        let own = self.output().of(position, side)?;
        Some(own - self.stands_for().output().of(position, side)?)
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
