//! Crank length: conventions of frame size and label, shares of the inseam, and function: the longest crank that keeps
//! hip and knee inside the rider's limits.

use super::decision::{self, Decision, Scale, Wish};
use crate::bike::Kind;
use crate::foresee::{Bound, CRANK_AT_ONCE_MM, Change, Step, Trying};
use crate::intake::{Intake, Place, Stroke};
use crate::looking::PelvisSeen;
use crate::measure::{Output, Quantity};
use crate::plane::root;
use crate::position::{AIM_DEG, Position, Ride};
use crate::rule::{Provenance, Rule, Shown, rules};
use crate::solve::{crank_now, keeping_the_bottom};
use crate::units::Side;
use crate::words::{lower, words, written};
use serde::Serialize;

words! {
    /// A school of crank length.
    pub enum CrankSchool {
        Function "function" "What hip and knee allow",
        Inseam "inseam" "Share of the inseam",
        FrameSize "frame_size" "By frame size",
        Label "label" "By the frame's label",
    }
}

words! {
    /// A frame's size as it is labelled.
    pub enum FrameLabel {
        Xs "xs" "XS",
        S "s" "S",
        M "m" "M",
        L "l" "L",
        Xl "xl" "XL",
    }
}

rules! {
    rules "Cranks";
    /// The shortest and the longest crank that are made.
    const MADE_MM: (f64, f64) = (145.0, 180.0), " mm", Workshop;
    /// Cranks are sold in steps of this.
    const SOLD_STEP_MM: f64 = 2.5, " mm", Workshop;
    /// A convention: frames under this seat tube come with the shortest of three.
    const SMALL_FRAME_MM: f64 = 520.0, " mm", Workshop;
    /// A convention: frames over this seat tube come with the longest of three.
    const LARGE_FRAME_MM: f64 = 580.0, " mm", Workshop;
    /// The three cranks of that convention: small, middle and large frames.
    const BY_FRAME_MM: [f64; 3] = [170.0, 172.5, 175.0], " mm", Workshop;
    /// The dissent: the crank middle sizes are better on.
    const DISSENT_MM: f64 = 170.0, " mm", Workshop;
    /// Crank by barefoot inseam, in general.
    const SHARE: (f64, f64) = (0.20, 0.216), " of the inseam", Workshop;
    /// Crank by shod inseam, on trails.
    const TRAIL_SHARE: (f64, f64) = (0.20, 0.205), " of the shod inseam", Workshop;
    /// Crank by shod inseam, downhill.
    const GRAVITY_SHARE: (f64, f64) = (0.19, 0.195), " of the shod inseam", Workshop;
    /// Alarm: riders shorter than this on 165 or more.
    const SHORT_RIDER_MM: f64 = 1630.0, " mm", Workshop;
    /// The crank that alarm begins at.
    const SHORT_RIDER_CRANK_MM: f64 = 165.0, " mm", Workshop;
    /// Alarm: riders up to this stature, about 170 cm, on the long crank.
    const MIDDLE_RIDER_MM: f64 = 1720.0, " mm", Workshop;
    /// The long crank of the alarms.
    const LONG_CRANK_MM: f64 = 175.0, " mm", Workshop;
    /// Alarm: an inseam from here on, near a metre, is short of crank on the long crank.
    const LONG_INSEAM_MM: f64 = 970.0, " mm", Workshop;
    /// Cranks closer than this are the same.
    const SAME_MM: f64 = 1.0, " mm", House;
    /// Schools of the crank further apart than this are said to disagree.
    const APART_MM: f64 = 5.0, " mm", House;
}

/// What hip and knee allow.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Longest {
    /// The longest crank that leaves every margin; none when not even the shortest does.
    pub exact_mm: Option<f64>,
    /// The longest that is sold and no longer than that.
    pub sold_mm: Option<f64>,
    /// What runs out first: "left hip".
    pub joint: String,
    /// In a sentence.
    pub words: String,
}

/// A joint's room over the margin to aim for.
struct Room {
    joint: String,
    over_deg: f64,
}

/// The least room of hip and knee on both sides; `None` while no limit was tested.
fn least_room(ride: &Ride, position: &Position) -> Option<Room> {
    Side::BOTH
        .into_iter()
        .flat_map(|side| {
            let leg = ride.rider.legs.of(side);
            [
                (leg.hip_limit_deg, Output::HipFlexion, "hip"),
                (leg.knee_limit_deg, Output::KneeMostBent, "knee"),
            ]
            .map(|(limit, output, joint)| {
                Some(Room {
                    joint: format!("{} {joint}", side.word()),
                    over_deg: limit?.0 - output.as_drawn(position, side)? - AIM_DEG,
                })
            })
        })
        .flatten()
        .min_by(|a, b| a.over_deg.total_cmp(&b.over_deg))
}

/// The longest crank that keeps hip and knee at the top inside the rider's limits with the margin to aim for, the
/// bottom of the stroke kept. `None` while neither hip nor knee was tested on the table.
///
/// A longer crank folds hip and knee further, so the least room is a falling line: its root is bracketed.
pub fn longest(trying: &Trying) -> Option<Longest> {
    least_room(trying, &trying.before)?;
    let room = |crank: f64| {
        let position = trying.plain(&keeping_the_bottom(trying, crank))?;
        least_room(trying, &position)
    };
    let (shortest, longest) = MADE_MM;
    let (at_shortest, at_longest) = (room(shortest)?, room(longest)?);
    if at_shortest.over_deg < 0.0 {
        return Some(Longest {
            exact_mm: None,
            sold_mm: None,
            words: format!(
                "Not even {} mm keeps {}° of room: the {} is {}° short there. Open it otherwise too.",
                written(shortest),
                written(AIM_DEG),
                at_shortest.joint,
                written(-at_shortest.over_deg)
            ),
            joint: at_shortest.joint,
        });
    }
    if at_longest.over_deg >= 0.0 {
        return Some(Longest {
            exact_mm: Some(longest),
            sold_mm: Some(longest),
            words: format!(
                "Nothing short of {} mm is too long for hip and knee; the {} has the least room",
                written(longest),
                at_longest.joint
            ),
            joint: at_longest.joint,
        });
    }
    let exact = root(shortest, longest, |crank| {
        room(crank).map_or(f64::NAN, |room| room.over_deg)
    })?;
    let joint = room(exact).map_or_else(String::new, |room| room.joint);
    // A root a hair under a length that is sold is that length.
    let sold = ((exact + 1e-6) / SOLD_STEP_MM).floor() * SOLD_STEP_MM;
    Some(Longest {
        exact_mm: Some(exact),
        sold_mm: Some(sold),
        words: format!(
            "Up to {} mm the {joint} keeps {}° of room",
            written(exact),
            written(AIM_DEG)
        ),
        joint,
    })
}

/// The sold length nearest to a value.
fn sold(value: f64) -> f64 {
    ((value / SOLD_STEP_MM).round() * SOLD_STEP_MM).clamp(MADE_MM.0, MADE_MM.1)
}

/// What hip and knee allow: anything no longer than that.
fn by_function(trying: &Trying) -> Result<Wish, String> {
    let longest = longest(trying).ok_or("Test hip and knee on the table first")?;
    let (exact, sold) = (longest.exact_mm.zip(longest.sold_mm)).unwrap_or((MADE_MM.0, MADE_MM.0));
    Ok(Wish {
        place: sold,
        low: MADE_MM.0,
        high: exact,
        bound: Some(Bound::AtMost),
        words: longest.words,
        ..Wish::default()
    })
}

fn by_frame_size(ride: &Ride) -> Wish {
    let size = ride.frame.seat_tube_mm.0;
    let place = usize::from(size >= SMALL_FRAME_MM) + usize::from(size > LARGE_FRAME_MM);
    let value = BY_FRAME_MM[place];
    let dissent = if place == 1 {
        format!("; some hold {} better here", written(DISSENT_MM))
    } else {
        String::new()
    };
    Wish {
        place: value,
        low: if place == 1 { DISSENT_MM } else { value },
        high: value,
        words: format!(
            "a convention: seat tube {} cm{dissent}",
            written(size / 10.0)
        ),
        ..Wish::default()
    }
}

fn by_label(label: FrameLabel) -> Wish {
    let (low, high) = label.cranks();
    let medium = label == FrameLabel::M;
    Wish {
        place: if medium { DISSENT_MM } else { low },
        low,
        high,
        words: if medium {
            format!(
                "a convention: {} to {}; some hold {} better",
                written(low),
                written(high),
                written(DISSENT_MM)
            )
        } else {
            format!("a convention for frames labelled {}", label.label())
        },
        ..Wish::default()
    }
}

/// The convention of labels, for the table of rules.
pub(super) fn label_rules() -> Vec<Rule> {
    FrameLabel::ALL
        .iter()
        .map(|label| {
            Rule::new(
                "Cranks",
                &format!("A convention: frames labelled {}", label.label()),
                label.cranks().shown(" mm"),
                Provenance::Workshop,
                "",
            )
        })
        .collect()
}

impl FrameLabel {
    /// The cranks frames of this label come with (convention): XS–S 165, S–M 170–172.5, L–XL 175. An S stands in two
    /// of them.
    pub fn cranks(self) -> (f64, f64) {
        match self {
            Self::Xs => (165.0, 165.0),
            Self::S => (165.0, 172.5),
            Self::M => (170.0, 172.5),
            Self::L | Self::Xl => (175.0, 175.0),
        }
    }
}

/// Crank lengths as a share of the inseam in shoes.
fn shod_share(kind: Kind) -> (f64, f64) {
    if kind == Kind::Gravity {
        GRAVITY_SHARE
    } else {
        TRAIL_SHARE
    }
}

/// Crank lengths off the road for an inseam in riding shoes, mm.
pub fn cranks_shod(inseam_shod_mm: f64, kind: Kind) -> (f64, f64) {
    let (low, high) = shod_share(kind);
    (low * inseam_shod_mm, high * inseam_shod_mm)
}

fn by_inseam(ride: &Ride) -> Wish {
    let body = &ride.rider.body;
    let inseam = ride.rider.lengths().inseam.value_mm.0;
    let sole = f64::midpoint(
        ride.setup.pedalling.left.sole_mm.0,
        ride.setup.pedalling.right.sole_mm.0,
    );
    let ((low, high), from, of, estimated) = match ride.kind {
        Kind::OffRoad | Kind::Gravity => (
            shod_share(ride.kind),
            body.inseam_shod_mm.map_or(inseam + sole, |shod| shod.0),
            "shod inseam",
            body.inseam_shod_mm.is_none(),
        ),
        _ => (SHARE, inseam, "inseam", body.inseam_mm.is_none()),
    };
    Wish {
        place: sold(f64::midpoint(low, high) * from),
        low: low * from,
        high: high * from,
        estimated,
        words: format!(
            "{} to {} of the {of}, {} mm",
            thousandths(low),
            thousandths(high),
            written(from)
        ),
        ..Wish::default()
    }
}

/// A share as it is quoted: ".205".
fn thousandths(share: f64) -> String {
    let text = format!("{share:.3}");
    let text = text.trim_start_matches('0').trim_end_matches('0');
    if text.len() < 3 {
        format!("{text}0")
    } else {
        text.to_owned()
    }
}

/// The crank as every school wants it.
pub fn scale(trying: &Trying, label: Option<FrameLabel>, lead: CrankSchool) -> Scale {
    decision::scale(&Crank { trying, label }, lead)
}

/// The crank's length, mm.
struct Crank<'a> {
    trying: &'a Trying<'a>,
    label: Option<FrameLabel>,
}

impl Decision for Crank<'_> {
    type School = CrankSchool;

    const ROOM: f64 = 2.5;
    const QUANTITY: Quantity = Quantity::Crank;

    fn on(&self) -> &Trying<'_> {
        self.trying
    }

    fn now(&self) -> f64 {
        crank_now(self.trying)
    }

    fn wish(&self, school: CrankSchool) -> Result<Wish, String> {
        match school {
            CrankSchool::Function => by_function(self.trying),
            CrankSchool::Inseam => Ok(by_inseam(self.trying)),
            CrankSchool::FrameSize => Ok(by_frame_size(self.trying)),
            CrankSchool::Label => {
                let label = self.label.ok_or("Say which label the frame has")?;
                Ok(by_label(label))
            }
        }
    }

    fn way(&self, place: f64) -> Vec<Change> {
        keeping_the_bottom(self.trying, place)
    }

    fn had(&self, place: f64) -> f64 {
        let (now, steps) = (self.now(), place / SOLD_STEP_MM);
        if place > now {
            (steps.floor() * SOLD_STEP_MM).max(now)
        } else {
            (steps.ceil() * SOLD_STEP_MM).min(now)
        }
    }

    /// One trial, the bottom of the stroke kept.
    fn step(&self, wish: &Wish) -> (Option<Step>, Option<String>) {
        let (now, wanted) = (self.now(), wish.place);
        let all = wanted - now;
        // What hip and knee allow is no wish for less.
        let allowed = wish.bound.is_some() && wish.high >= now;
        if all.abs() < SAME_MM || allowed {
            return (None, None);
        }
        let to = now + all.clamp(-CRANK_AT_ONCE_MM, CRANK_AT_ONCE_MM);
        let left = if (wanted - to).abs() < SAME_MM {
            String::new()
        } else {
            format!("then on to {} mm", written(wanted))
        };
        Step::as_far_as_it_goes(self.trying, keeping_the_bottom(self.trying, to), left)
    }

    fn apart(&self, known: &[(CrankSchool, Wish)]) -> Option<String> {
        // A bound above what the others want contradicts nobody.
        let wanted = known.iter().filter(|(_, wish)| wish.bound.is_none());
        let most = wanted
            .map(|(_, wish)| wish.place)
            .fold(f64::NEG_INFINITY, f64::max);
        let mut known: Vec<(CrankSchool, f64)> = known
            .iter()
            .filter(|(_, wish)| wish.bound.is_none() || wish.place < most)
            .map(|(school, wish)| (*school, wish.place))
            .collect();
        known.sort_by(|a, b| a.1.total_cmp(&b.1));
        let ((shortest, low), (longest, high)) = (known.first()?, known.last()?);
        let by = high - low;
        if by <= APART_MM {
            return None;
        }
        let why = if matches!(longest, CrankSchool::FrameSize | CrankSchool::Label) {
            "frames are sold with cranks that do not ask about the rider"
        } else if *shortest == CrankSchool::Function {
            "the joints fold less than the legs' length lets one think"
        } else {
            "the legs would carry a longer one than the convention gives"
        };
        Some(format!(
            "The schools are {} mm apart: {} says {} mm, {} {} mm, since {why}.",
            written(by),
            lower(shortest.label()),
            written(*low),
            lower(longest.label()),
            written(*high)
        ))
    }
}

/// What is known to go wrong with this crank under this rider.
pub fn alarms(ride: &Ride, label: Option<FrameLabel>) -> Vec<String> {
    let crank = crank_now(ride);
    let stature = ride.rider.body.stature_mm.0;
    let inseam = ride.rider.lengths().inseam.value_mm.0;
    let cm = |mm: f64| written(mm / 10.0);
    let mut all = Vec::new();
    if stature < SHORT_RIDER_MM && crank >= SHORT_RIDER_CRANK_MM {
        all.push(format!(
            "{} cm tall on {} mm: under about {} cm even {} is often too long",
            cm(stature),
            written(crank),
            cm(SHORT_RIDER_MM),
            written(SHORT_RIDER_CRANK_MM)
        ));
    } else if stature <= MIDDLE_RIDER_MM && crank >= LONG_CRANK_MM {
        all.push(format!(
            "{} cm tall on {} mm: often too long up to about {} cm",
            cm(stature),
            written(crank),
            cm(MIDDLE_RIDER_MM)
        ));
    }
    if label == Some(FrameLabel::M) && crank >= LONG_CRANK_MM {
        all.push(format!(
            "A medium frame on {} mm: more crank than such frames usually carry",
            written(crank)
        ));
    }
    if inseam >= LONG_INSEAM_MM && crank <= LONG_CRANK_MM {
        all.push(format!(
            "An inseam of {} cm on {} mm: short of leverage; longer ones are made",
            cm(inseam),
            written(crank)
        ));
    }
    all
}

/// What the rider says and what was seen, as far as it speaks of crank length.
pub fn signs(intake: &Intake, pelvis: Option<PelvisSeen>) -> Vec<String> {
    let knees = [
        Place::KneeFront,
        Place::KneeBehind,
        Place::KneeInside,
        Place::KneeOutside,
    ];
    let knee: Vec<_> = intake
        .complaints
        .iter()
        .filter(|c| knees.contains(&c.place))
        .collect();
    let at_top = |stroke: Option<Stroke>| stroke == Some(Stroke::Top);
    let mut all = Vec::new();
    if knee.iter().any(|c| at_top(c.stroke)) {
        all.push(
            "For a shorter crank: the knee hurts over the top, where it is most folded".to_owned(),
        );
    } else if !knee.is_empty() {
        all.push(
            "A knee hurts, but not where it is most folded: that alone is no reason for another crank"
                .to_owned(),
        );
    }
    if intake
        .complaints
        .iter()
        .any(|c| c.place == Place::HipFront && (at_top(c.stroke) || c.stroke.is_none()))
    {
        all.push("For a shorter crank: the front of the hip is pinched".to_owned());
    }
    match pelvis {
        Some(PelvisSeen::RolledBack) => {
            all.push("For a shorter crank: the back rounds, as it does when the hip runs out over the top".to_owned());
        }
        Some(PelvisSeen::Rocks) => {
            all.push("For a shorter crank, or a lower saddle: the hips hike in turn".to_owned());
        }
        Some(PelvisSeen::SlidesForward) => {
            all.push(
                "For a longer crank, or another setback: the rider falls onto the front".to_owned(),
            );
        }
        _ => {}
    }
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example::{self, trying};
    use crate::foresee::{ForeseeInput, foresee};
    use crate::intake::{Complaint, Feel};
    use crate::units::{Degrees, Millimetres, Sides};
    use proptest::prelude::*;

    fn with_limits(hip: f64, knee: f64) -> ForeseeInput {
        let mut input = example::road();
        input.rider.legs = Sides::from_fn(|_| crate::rider::LegBody {
            hip_limit_deg: Some(Degrees(hip)),
            knee_limit_deg: Some(Degrees(knee)),
            ..Default::default()
        });
        input
    }

    fn with_crank(mut input: ForeseeInput, crank: f64) -> ForeseeInput {
        for side in Side::BOTH {
            input.setup.pedalling.of_mut(side).crank_mm = Millimetres(crank);
        }
        input
    }

    #[test]
    fn cranks_go_by_the_inseam_in_shoes() {
        assert_eq!(cranks_shod(850.0, Kind::OffRoad), (170.0, 0.205 * 850.0));
        assert_eq!(
            cranks_shod(850.0, Kind::Gravity),
            (0.19 * 850.0, 0.195 * 850.0)
        );
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(12))]
        /// Every length in steps of half a millimetre through the public foresight, against the bracketed root.
        #[test]
        fn the_longest_crank_is_what_brute_force_finds(hip in 100.0..125.0_f64, knee in 110.0..130.0_f64, now in 165.0..175.0_f64) {
            let input = with_crank(with_limits(hip, knee), now);
            let fits = |crank: f64| {
                let mut tried = input.clone();
                tried.changes = trying(&input, |t| keeping_the_bottom(t, crank));
                let after = foresee(&tried).unwrap().after;
                Side::BOTH.into_iter().all(|side| {
                    let leg = after.legs.of(side);
                    leg.hip_flexion_deg.0 + AIM_DEG <= hip && leg.knee.largest_deg.0 + AIM_DEG <= knee
                })
            };
            let lengths = (0..=70).map(|i| 145.0 + 0.5 * f64::from(i));
            let brute = lengths.filter(|crank| fits(*crank)).fold(None, |_, crank| Some(crank));
            let found = trying(&input, longest).unwrap();
            match (brute, found.exact_mm) {
                (None, None) => {}
                (Some(brute), Some(exact)) => {
                    prop_assert!((0.0..0.5 + 1e-6).contains(&(exact - brute)), "{exact} against {brute}");
                    prop_assert!(found.sold_mm.unwrap() <= exact + 1e-6);
                }
                other => prop_assert!(false, "{other:?}"),
            }
        }
    }

    #[test]
    fn function_says_what_runs_out_and_what_must_be_tested() {
        assert_eq!(trying(&example::road(), longest), None);
        let none = trying(&with_limits(70.0, 130.0), longest).unwrap();
        assert_eq!(none.exact_mm, None);
        assert!(none.joint.ends_with("hip") && none.words.starts_with("Not even 145 mm"));
        let all = trying(&with_limits(150.0, 160.0), longest).unwrap();
        assert_eq!(all.sold_mm, Some(180.0));
        // One side alone decides.
        let mut input = with_limits(150.0, 160.0);
        let folded = trying(&input, |t| t.before.legs.left.knee.largest_deg.0);
        input.rider.legs.left.knee_limit_deg = Some(Degrees(folded + AIM_DEG - 1.0));
        let left = trying(&input, longest).unwrap();
        assert_eq!(left.joint, "left knee");
        assert!(
            left.exact_mm.unwrap() < 172.5 && left.exact_mm.unwrap() > 168.0,
            "{left:?}"
        );
    }

    fn wish(
        input: &ForeseeInput,
        school: CrankSchool,
        label: Option<FrameLabel>,
    ) -> Result<Wish, String> {
        trying(input, |trying| Crank { trying, label }.wish(school))
    }

    #[test]
    fn conventions_and_shares_by_hand() {
        let value = |input: &ForeseeInput, school: CrankSchool, label| {
            wish(input, school, label)
                .map(|w| (w.low, w.place, w.high))
                .unwrap()
        };
        let mut input = example::road();
        for (tube, wanted) in [
            (519.9, (170.0, 170.0, 170.0)),
            (520.0, (170.0, 172.5, 172.5)),
            (580.0, (170.0, 172.5, 172.5)),
            (580.1, (175.0, 175.0, 175.0)),
        ] {
            input.frame.seat_tube_mm = Millimetres(tube);
            assert_eq!(
                value(&input, CrankSchool::FrameSize, None),
                wanted,
                "{tube}"
            );
        }
        for (label, wanted) in [
            (FrameLabel::Xs, (165.0, 165.0, 165.0)),
            (FrameLabel::S, (165.0, 165.0, 172.5)),
            (FrameLabel::M, (170.0, 170.0, 172.5)),
            (FrameLabel::L, (175.0, 175.0, 175.0)),
            (FrameLabel::Xl, (175.0, 175.0, 175.0)),
        ] {
            assert_eq!(value(&input, CrankSchool::Label, Some(label)), wanted);
        }
        assert!(wish(&input, CrankSchool::Label, None).is_err());
        // 845.5 × .20 = 169.1, × .216 = 182.628; middle 175.864, sold 175.
        let near = |found: (f64, f64, f64), wanted: (f64, f64, f64)| {
            let off = (found.0 - wanted.0).abs()
                + (found.1 - wanted.1).abs()
                + (found.2 - wanted.2).abs();
            assert!(off < 1e-9, "{found:?}");
        };
        near(
            value(&input, CrankSchool::Inseam, None),
            (169.1, 175.0, 182.628),
        );
        // Shod: 845.5 + sole 8 = 853.5, × .20 = 170.7, × .205 = 174.9675; measured 860: × .19 and × .195.
        input.kind = Kind::OffRoad;
        near(
            value(&input, CrankSchool::Inseam, None),
            (170.7, 172.5, 174.9675),
        );
        assert!(wish(&input, CrankSchool::Inseam, None).is_ok_and(|w| w.estimated));
        input.kind = Kind::Gravity;
        input.rider.body.inseam_shod_mm = Some(Millimetres(860.0));
        near(
            value(&input, CrankSchool::Inseam, None),
            (163.4, 165.0, 167.7),
        );
        assert_eq!(thousandths(0.2), ".20");
        assert_eq!(thousandths(0.216), ".216");
    }

    #[test]
    fn every_alarm_at_its_edge() {
        let said = |stature: f64, inseam: f64, crank: f64, label: Option<FrameLabel>| {
            let mut input = with_crank(example::road(), crank);
            input.rider.body.stature_mm = Millimetres(stature);
            input.rider.body.inseam_mm = Some(Millimetres(inseam));
            alarms(&input.check().unwrap(), label).len()
        };
        for (stature, inseam, crank, label, count) in [
            (1629.0, 770.0, 165.0, None, 1),
            (1630.0, 770.0, 165.0, None, 0),
            (1629.0, 770.0, 164.9, None, 0),
            (1720.0, 815.0, 175.0, None, 1),
            (1720.1, 815.0, 175.0, None, 0),
            (1720.0, 815.0, 174.9, None, 0),
            (1600.0, 770.0, 175.0, None, 1),
            (1780.0, 845.0, 175.0, Some(FrameLabel::M), 1),
            (1780.0, 845.0, 172.5, Some(FrameLabel::M), 0),
            (1780.0, 845.0, 175.0, Some(FrameLabel::L), 0),
            (2000.0, 970.0, 175.0, None, 1),
            (2000.0, 969.0, 175.0, None, 0),
            (2000.0, 970.0, 177.5, None, 0),
        ] {
            assert_eq!(
                said(stature, inseam, crank, label),
                count,
                "{stature} {inseam} {crank} {label:?}"
            );
        }
    }

    #[test]
    fn knee_pain_counts_only_where_the_knee_is_most_folded() {
        let complaint = |place, stroke| Complaint {
            id: String::new(),
            place,
            side: Some(Side::Left),
            feel: Feel::Pain,
            when: None,
            stroke,
            effort: None,
            how_bad: None,
            words: String::new(),
        };
        let said = |place, stroke| {
            let intake = Intake {
                complaints: vec![complaint(place, stroke)],
                ..Intake::default()
            };
            signs(&intake, None).join(" ")
        };
        assert!(said(Place::KneeFront, Some(Stroke::Top)).contains("For a shorter crank"));
        assert!(said(Place::KneeFront, Some(Stroke::Pushing)).contains("no reason"));
        assert!(said(Place::HipFront, None).contains("pinched"));
        assert_eq!(said(Place::Hand, Some(Stroke::Top)), "");
        assert_eq!(
            signs(&Intake::default(), Some(PelvisSeen::RolledBack)).len(),
            1
        );
    }

    #[test]
    fn schools_far_apart_are_explained_and_steps_stay_small() {
        let mut input = with_limits(118.0, 113.0);
        input.frame.seat_tube_mm = Millimetres(590.0);
        let all = trying(&input, |t| {
            scale(t, Some(FrameLabel::Xl), CrankSchool::Function)
        });
        assert_eq!(all.schools[0].school, "function");
        let function = &all.schools[0];
        assert!(function.value.unwrap() < 170.0, "{function:?}");
        let trial = function.trial.as_ref().unwrap();
        assert_eq!(trial.changes[0].to, Some(167.5));
        assert_eq!(trial.changes[1].by, Some(5.0), "the bottom is kept");
        assert!(all.apart.unwrap().contains("do not ask about the rider"));
        // Joints that allow any crank ask for none.
        let free = trying(&with_limits(150.0, 160.0), |t| {
            scale(t, None, CrankSchool::Function)
        });
        assert_eq!(
            (free.schools[0].value, free.schools[0].trial.clone()),
            (Some(180.0), None)
        );
        assert!(free.schools[0].bound == Some(Bound::AtMost));
        assert_eq!(free.apart, None, "{free:?}");
    }
}
