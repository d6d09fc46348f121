//! The front view as one finding a leg: forefoot, knee bend off the bike, knee path on it.

use crate::looking::{KneeBend, KneePath};
use crate::rule::rules;
use crate::units::Side;
use serde::Serialize;

rules! {
    rules "Front view";
    /// A forefoot tilted by less is level.
    const TILTED_DEG: f64 = 3.0, "°", House;
}

/// What is known of one leg from the front.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct LegSeen {
    /// Tilt of the forefoot, inner edge up, °.
    pub tilt_deg: Option<f64>,
    /// A slow bend to a third, off the bike.
    pub bend: Option<KneeBend>,
    /// The knee's path on the bike.
    pub path: Option<KneePath>,
}

/// One leg's front view, as one finding.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FrontView {
    /// Whose.
    pub side: Side,
    /// Whether what was seen agrees; none until enough was.
    pub agrees: Option<bool>,
    /// What it comes to, and what to do.
    pub words: String,
}

/// Which way something leads a knee.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Leads {
    In,
    Nowhere,
    Out,
}

impl Leads {
    /// A forefoot with its inner edge up comes down on it, and the knee goes in with it.
    fn foot(tilt_deg: f64) -> Self {
        if tilt_deg >= TILTED_DEG {
            Self::In
        } else if tilt_deg <= -TILTED_DEG {
            Self::Out
        } else {
            Self::Nowhere
        }
    }

    fn bend(bend: KneeBend) -> Self {
        match bend {
            KneeBend::In => Self::In,
            KneeBend::Straight => Self::Nowhere,
            KneeBend::Out => Self::Out,
        }
    }

    fn path(path: KneePath) -> Self {
        match path {
            KneePath::Straight => Self::Nowhere,
            KneePath::InPushing | KneePath::SweptIn => Self::In,
            KneePath::OutRising | KneePath::SweptOut => Self::Out,
        }
    }
}

/// One finding of what was seen of a leg from the front; none while nothing was.
pub fn front_view(side: Side, seen: LegSeen) -> Option<FrontView> {
    let LegSeen {
        tilt_deg,
        bend,
        path,
    } = seen;
    if bend.is_none() && path.is_none() {
        return None;
    }
    let tell = |agrees: Option<bool>, words: &str| {
        Some(FrontView {
            side,
            agrees,
            words: words.to_owned(),
        })
    };
    let (Some(bend), Some(path)) = (bend, path) else {
        let missing = if bend.is_none() {
            "Look at a slow bend to a third as well, off the bike and barefoot."
        } else {
            "Look at the knee's path on the bike as well."
        };
        return tell(None, missing);
    };
    let (bend, path) = (Leads::bend(bend), Leads::path(path));
    let look_again = "Forefoot, bend and path disagree: look again. If they still do, refer before anything is wedged.";
    if bend != path {
        return tell(Some(false), look_again);
    }
    let Some(tilt) = tilt_deg else {
        return match bend {
            Leads::Nowhere => tell(
                Some(true),
                "Bend and path are straight: nothing to do from the front.",
            ),
            _ => tell(
                None,
                "Bend and path agree: measure the forefoot's tilt, which says whether the foot leads.",
            ),
        };
    };
    match (Leads::foot(tilt), bend) {
        (Leads::Nowhere, Leads::Nowhere) => tell(
            Some(true),
            "All three are straight: nothing to do from the front.",
        ),
        (Leads::Nowhere, _) => tell(
            Some(true),
            "Bend and path agree without a tilted forefoot: stance and strength, not the foot. Try the stance first.",
        ),
        (foot, bend) if foot != bend => tell(Some(false), look_again),
        (Leads::In, _) => tell(
            Some(true),
            "All three agree, the foot leads the knee in: a footbed first, then a wedge that fills the open side under the inner edge.",
        ),
        (Leads::Out, _) => tell(
            Some(true),
            "All three agree, the foot leads the knee out: a footbed first, then a wedge that fills the open side under the outer edge.",
        ),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    fn said(tilt_deg: Option<f64>, bend: KneeBend, path: KneePath) -> FrontView {
        let seen = LegSeen {
            tilt_deg,
            bend: Some(bend),
            path: Some(path),
        };
        front_view(Side::Left, seen).unwrap()
    }

    #[test]
    fn what_agrees_leads_to_the_foot_or_to_the_stance_and_what_does_not_is_looked_at_again() {
        use KneeBend as B;
        use KneePath as P;
        for (tilt, bend, path, agrees, part) in [
            (Some(6.0), B::In, P::InPushing, Some(true), "inner edge"),
            (Some(-5.0), B::Out, P::SweptOut, Some(true), "outer edge"),
            (Some(1.0), B::In, P::SweptIn, Some(true), "stance"),
            (Some(6.0), B::Straight, P::Straight, Some(false), "disagree"),
            (Some(6.0), B::Out, P::OutRising, Some(false), "disagree"),
            (Some(0.0), B::In, P::Straight, Some(false), "disagree"),
            (
                Some(0.0),
                B::Straight,
                P::Straight,
                Some(true),
                "nothing to do",
            ),
            (None, B::In, P::InPushing, None, "measure the forefoot"),
            (None, B::Straight, P::Straight, Some(true), "nothing to do"),
        ] {
            let view = said(tilt, bend, path);
            assert_eq!(view.agrees, agrees, "{view:?}");
            assert!(view.words.contains(part), "{view:?}");
        }
    }

    #[test]
    fn with_half_of_it_the_other_half_is_asked_for() {
        let bend = LegSeen {
            bend: Some(KneeBend::In),
            ..LegSeen::default()
        };
        assert!(
            front_view(Side::Right, bend)
                .unwrap()
                .words
                .contains("path on the bike")
        );
        assert_eq!(
            front_view(
                Side::Right,
                LegSeen {
                    tilt_deg: Some(5.0),
                    ..LegSeen::default()
                }
            ),
            None
        );
    }
}
