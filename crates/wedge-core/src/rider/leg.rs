//! One leg over a whole stroke.

use super::{FootPitch, Gap, LegLengths, Reach};
use crate::bike::Pedalling;
use crate::measure::written;
use crate::plane::Point;
use crate::rule::rules;
use crate::units::{CrankAngle, Degrees, Millimetres, Side};
use serde::{Deserialize, Serialize};
use std::sync::LazyLock;

/// Steps of a stroke.
const STEPS: u32 = 360;
/// Degrees between the poses that are drawn.
const POSE_EVERY: usize = 5;
/// Degrees between the steps of a coarse stroke.
const COARSE_EVERY: usize = 15;
rules! {
    rules "Rider";
    /// The highest mean pitch a rider points the toes to before a leg is beyond reach.
    const HIGHEST_PITCH_DEG: f64 = 40.0, "°", House;
    /// Landmarks from the knee centre, square to the shank forward and along it upwards: the centre itself, front
    /// quarter of the joint, front of the kneecap, tendon, shin bump.
    const LANDMARKS: [(f64, f64); 5] = [(0.0, 0.0), (25.0, 2.5), (50.0, 5.0), (45.0, -25.0), (42.0, -50.0)], " mm", House;
}

/// Foot pitch as last observed, and the hip-to-axle distance at bottom dead centre it was observed at. Trials never
/// move it; only a new look at the foot does.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct PitchSeen {
    /// The pattern.
    pub pitch: FootPitch,
    /// Hip joint to pedal axle at crank 180.
    pub hip_to_axle_mm: Millimetres,
}

/// What one leg is solved from.
#[derive(Debug, Clone, Copy)]
pub(crate) struct LegInput<'a> {
    pub(crate) side: Side,
    pub(crate) hip: Point,
    pub(crate) shoulder: Point,
    pub(crate) elbow: Point,
    pub(crate) pelvis: Degrees,
    pub(crate) lengths: &'a LegLengths,
    pub(crate) pedalling: &'a Pedalling,
    pub(crate) seen: PitchSeen,
    /// Degrees of mean pitch a mm of hip-to-axle distance beyond the one it was observed at.
    pub(crate) response: f64,
    pub(crate) seat_angle: Degrees,
    /// How far the whole position is turned forward about the BB: the foot's pattern turns with it.
    pub(crate) rotation: Degrees,
    pub(crate) detail: Detail,
}

/// How finely a stroke is stepped.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Detail {
    /// Whole degrees, with poses to draw.
    Fine,
    /// Whole degrees, without poses.
    Plain,
    /// Every 15°, without poses. Differences of two such strokes are nearly as good as those of fine ones, since an
    /// extreme hardly changes around where it is reached.
    Coarse,
}

impl Detail {
    fn step(self) -> usize {
        match self {
            Self::Fine | Self::Plain => 1,
            Self::Coarse => COARSE_EVERY,
        }
    }
}

/// Where the joints of a leg are on average over the stroke, for the centre of mass.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub(crate) struct MeanLeg {
    pub(crate) hip: Point,
    pub(crate) knee: Point,
    pub(crate) ankle: Point,
    pub(crate) ball: Point,
}

/// Knee flexion over the stroke, 0 = straight.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Knee {
    /// Smallest of the stroke: the knee at full reach (house).
    pub smallest_deg: Degrees,
    /// Where it is smallest.
    pub smallest_at: CrankAngle,
    /// Largest of the stroke.
    pub largest_deg: Degrees,
    /// At top dead centre.
    pub at_0_deg: Degrees,
    /// With the crank level and forward.
    pub at_90_deg: Degrees,
    /// At bottom dead centre.
    pub at_180_deg: Degrees,
    /// With the crank in line with the seat tube.
    pub in_line_deg: Degrees,
}

/// The sole above level, heel up positive, at the quarters of the stroke.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[expect(clippy::struct_field_names, reason = "a key carries its unit")]
pub struct FootAngle {
    /// At top dead centre.
    pub top_deg: Degrees,
    /// With the crank level and forward.
    pub forward_deg: Degrees,
    /// At bottom dead centre.
    pub bottom_deg: Degrees,
    /// With the crank level and backward.
    pub rising_deg: Degrees,
}

/// Knee over pedal axle at crank 90, knee ahead positive, for each landmark.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct KneeOverAxle {
    /// Centre of the knee joint.
    pub centre_mm: Millimetres,
    /// Front quarter of the joint, halfway from its centre to the front of the kneecap: 25 forward, 2.5 up the shank.
    #[serde(default)]
    pub front_quarter_mm: Millimetres,
    /// Front of the kneecap: 50 forward, 5 up the shank.
    pub kneecap_front_mm: Millimetres,
    /// The tendon below the kneecap: 45 forward, 25 down.
    pub tendon_mm: Millimetres,
    /// The bump at the top of the shin: 42 forward, 50 down.
    pub shin_bump_mm: Millimetres,
}

/// How close limbs come over the stroke.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Clearance {
    /// Least distance from knee to elbow.
    pub knee_to_elbow_mm: Millimetres,
    /// Least distance from knee to the line of the trunk.
    pub knee_to_trunk_mm: Millimetres,
}

/// A leg at one crank angle, for drawing.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct LegPose {
    /// Knee joint.
    pub knee: Point,
    /// Ankle joint, where the foot is on the pedal.
    pub ankle: Point,
    /// Pedal axle.
    pub axle: Point,
    /// Heel, at the sole.
    pub heel: Point,
    /// Toe, at the sole.
    pub toe: Point,
}

/// One leg over the stroke.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Leg {
    /// Whether it reaches all the way round.
    pub reach: Reach,
    /// Where it lacks most, when it does not reach.
    pub gap: Option<Gap>,
    /// Mean foot pitch, heel up, after it answered the leg's job.
    pub pitch_mean_deg: Degrees,
    /// Hip joint to pedal axle at bottom dead centre.
    pub hip_to_axle_mm: Millimetres,
    /// The knee.
    pub knee: Knee,
    /// Smallest shoulder–hip–knee angle: how far the hip closes.
    pub hip_closed_deg: Degrees,
    /// Largest shoulder–hip–knee angle.
    pub hip_open_deg: Degrees,
    /// Largest hip flexion against the pelvis: `90 + φ + thigh elevation`.
    pub hip_flexion_deg: Degrees,
    /// Hip flexion against the pelvis where the knee is straightest: what a straight leg raise must allow.
    pub hip_flexion_at_reach_deg: Degrees,
    /// The foot over the stroke.
    pub foot: FootAngle,
    /// Smallest angle between shank and sole; 90 = square.
    pub ankle_smallest_deg: Degrees,
    /// Largest angle between shank and sole.
    pub ankle_largest_deg: Degrees,
    /// Knee over axle at crank 90.
    pub knee_over_axle: KneeOverAxle,
    /// How close limbs come.
    pub clearance: Clearance,
    /// How far ahead of the pedal axle the foot's toe is, the foot level.
    pub toe_ahead_mm: Millimetres,
    /// Every 5° of crank from top dead centre: 72 poses.
    pub poses: Vec<LegPose>,
    #[serde(skip)]
    pub(crate) mean: MeanLeg,
}

/// A crank angle with its sine and cosine.
#[derive(Clone, Copy)]
struct Turned {
    angle: CrankAngle,
    sin: f64,
    cos: f64,
}

impl Turned {
    fn at(angle: CrankAngle) -> Self {
        let (sin, cos) = Degrees(angle.0).sin_cos();
        Self { angle, sin, cos }
    }
}

/// The whole degrees of a turn: every stroke runs over them, so their sines are worked out once.
static TURN: LazyLock<Vec<Turned>> = LazyLock::new(|| {
    (0..STEPS)
        .map(|degree| Turned::at(CrankAngle(f64::from(degree))))
        .collect()
});

/// Pedal axle at a crank angle.
fn axle_at(crank: Millimetres, turned: Turned) -> Point {
    Point::new(crank.0 * turned.sin, crank.0 * turned.cos)
}

/// Hip joint to pedal axle at bottom dead centre; in a position turned forward, at the same place of its stroke.
pub(crate) fn hip_to_axle(hip: Point, crank: Millimetres, rotation: Degrees) -> Millimetres {
    let bottom = CrankAngle(CrankAngle::BOTTOM.0 + rotation.0);
    Millimetres(hip.distance(axle_at(crank, Turned::at(bottom))))
}

/// The foot on its pedal: a rigid shape turned by the pitch.
struct Foot {
    crank: Millimetres,
    pitch: FootPitch,
    /// Sine and cosine of the pitch's peak.
    peak: (f64, f64),
    /// Ankle behind and above the axle, foot level.
    ankle: Point,
    /// Heel, first metatarsal joint and toe at the sole, foot level.
    heel: Point,
    ball: Point,
    toe: Point,
}

impl Foot {
    fn of(input: &LegInput, mean: Degrees) -> Self {
        let foot = input.lengths.foot_length.value_mm.0;
        let behind = input.lengths.ankle_to_ball() - input.pedalling.cleat_setback_mm.0;
        let sole = input.pedalling.stack();
        // The ankle joint stands a quarter of the foot ahead of the heel (drawing only).
        let heel = -behind - foot / 4.0;
        Self {
            crank: input.pedalling.crank_mm,
            pitch: FootPitch {
                mean_deg: mean,
                ..input.seen.pitch
            },
            peak: (input.seen.pitch.peak_deg + input.rotation).sin_cos(),
            ankle: Point::new(-behind, sole + input.lengths.ankle_height.value_mm.0),
            heel: Point::new(heel, sole),
            ball: Point::new(input.pedalling.cleat_setback_mm.0, sole),
            toe: Point::new(heel + foot, sole),
        }
    }

    /// Its pitch where the crank stands.
    fn pitch_at(&self, turned: Turned) -> Degrees {
        self.pitch.mean_deg
            + self.pitch.amp_deg * (turned.cos * self.peak.1 + turned.sin * self.peak.0)
    }

    /// The foot where the crank stands.
    fn at(&self, turned: Turned) -> FootAt {
        let (sin, cos) = self.pitch_at(turned).sin_cos();
        FootAt {
            axle: axle_at(self.crank, turned),
            sin,
            cos,
        }
    }

    fn ankle_at(&self, turned: Turned) -> Point {
        self.at(turned).place(self.ankle)
    }

    /// The whole stroke.
    fn round(&self, detail: Detail) -> Vec<Pedalled> {
        TURN.iter()
            .step_by(detail.step())
            .map(|turned| {
                let at = self.at(*turned);
                Pedalled {
                    angle: turned.angle,
                    ankle: at.place(self.ankle),
                    ball: at.place(self.ball),
                    sole: at.sole(),
                }
            })
            .collect()
    }
}

/// Where a foot has the ankle and the sole at one crank angle.
#[derive(Clone, Copy)]
struct Pedalled {
    angle: CrankAngle,
    ankle: Point,
    ball: Point,
    sole: Point,
}

/// A foot on its pedal at one crank angle.
#[derive(Clone, Copy)]
struct FootAt {
    axle: Point,
    /// Sine and cosine of the pitch, heel up.
    sin: f64,
    cos: f64,
}

impl FootAt {
    /// A point of the level foot, turned heel up about the axle.
    fn place(&self, level: Point) -> Point {
        self.axle
            + Point::new(
                level.x * self.cos + level.y * self.sin,
                level.y * self.cos - level.x * self.sin,
            )
    }

    /// Unit vector along the sole toward the toe.
    fn sole(&self) -> Point {
        Point::new(self.cos, -self.sin)
    }
}

/// Thigh and shank between a hip and an ankle.
struct Chain {
    hip: Point,
    thigh: f64,
    shank: f64,
}

impl Chain {
    /// How much further the ankle is than the straight leg (positive: beyond).
    fn beyond(&self, ankle: Point) -> f64 {
        self.hip.distance(ankle) - (self.thigh + self.shank)
    }

    /// How much nearer the ankle is than the folded leg (positive: too close).
    fn folded(&self, ankle: Point) -> f64 {
        (self.thigh - self.shank).abs() - self.hip.distance(ankle)
    }

    /// Cosine of knee flexion, straight where the leg does not reach.
    fn cos_flexion(&self, ankle: Point) -> f64 {
        let d = self.hip.distance(ankle);
        ((d * d - self.thigh.powi(2) - self.shank.powi(2)) / (2.0 * self.thigh * self.shank))
            .clamp(-1.0, 1.0)
    }

    /// The knee: forward of the line from hip to ankle.
    fn knee(&self, ankle: Point) -> Point {
        let line = ankle - self.hip;
        let distance = line.length().max(1e-9);
        let along = line * (1.0 / distance);
        let met = distance.clamp(
            (self.thigh - self.shank).abs().max(1e-9),
            self.thigh + self.shank,
        );
        let down = (self.thigh.powi(2) - self.shank.powi(2) + met * met) / (2.0 * met);
        let forward = (self.thigh.powi(2) - down * down).max(0.0).sqrt();
        self.hip + along * down + Point::new(-along.y, along.x) * forward
    }
}

/// The most any ankle of the stroke lies beyond the straight leg, and where.
fn worst(chain: &Chain, round: &[Pedalled]) -> (f64, CrankAngle) {
    round
        .iter()
        .map(|at| (chain.beyond(at.ankle), at.angle))
        .fold((f64::NEG_INFINITY, CrankAngle::TOP), |a, b| {
            if b.0 > a.0 { b } else { a }
        })
}

/// Solves one leg over the stroke.
pub(crate) fn leg(input: &LegInput) -> Leg {
    let chain = Chain {
        hip: input.hip,
        thigh: input.lengths.thigh.value_mm.0,
        shank: input.lengths.shank.value_mm.0,
    };
    let hip_to_axle_mm = hip_to_axle(input.hip, input.pedalling.crank_mm, input.rotation);
    let asked = input.seen.pitch.mean_deg
        + input.rotation
        + Degrees(input.response * (hip_to_axle_mm - input.seen.hip_to_axle_mm).0);
    let (foot, round, reach) = reached(input, &chain, asked);
    let gap = matches!(reach, Reach::Beyond { .. }).then(|| {
        let (by, angle) = worst(&chain, &round);
        let to = foot.ankle_at(Turned::at(angle));
        let line = to - chain.hip;
        Gap {
            from: chain.hip + line * ((chain.thigh + chain.shank) / line.length().max(1e-9)),
            to,
            by_mm: Millimetres(by),
            crank_deg: Some(angle),
        }
    });
    let round = Round::of(input, &chain, &round);
    let hip_flexion = |thigh_up: f64| {
        Degrees(90.0) + input.pelvis + Degrees::from_radians(thigh_up.clamp(-1.0, 1.0).asin())
    };
    let straightest = chain.knee(foot.ankle_at(Turned::at(round.knee_straightest.1)));
    let pitch = |angle: CrankAngle| foot.pitch_at(Turned::at(angle));
    let flexion = |angle: CrankAngle| {
        Degrees::from_radians(chain.cos_flexion(foot.ankle_at(Turned::at(angle))).acos())
    };
    Leg {
        reach,
        gap,
        pitch_mean_deg: foot.pitch.mean_deg,
        hip_to_axle_mm,
        knee: Knee {
            smallest_deg: Degrees::from_radians(round.knee_straightest.0.acos()),
            smallest_at: round.knee_straightest.1,
            largest_deg: Degrees::from_radians(round.knee_most_bent.acos()),
            at_0_deg: flexion(CrankAngle::TOP),
            at_90_deg: flexion(CrankAngle::FORWARD),
            at_180_deg: flexion(CrankAngle::BOTTOM),
            in_line_deg: flexion(CrankAngle::in_line_with(input.seat_angle)),
        },
        hip_closed_deg: Degrees::from_radians(round.hip_closed.acos()),
        hip_open_deg: Degrees::from_radians(round.hip_open.acos()),
        hip_flexion_deg: hip_flexion(round.thigh_up),
        hip_flexion_at_reach_deg: hip_flexion((straightest - chain.hip).y / chain.thigh),
        foot: FootAngle {
            top_deg: pitch(CrankAngle::TOP),
            forward_deg: pitch(CrankAngle::FORWARD),
            bottom_deg: pitch(CrankAngle::BOTTOM),
            rising_deg: pitch(CrankAngle(270.0)),
        },
        ankle_smallest_deg: Degrees::from_radians(round.ankle_closed.acos()),
        ankle_largest_deg: Degrees::from_radians(round.ankle_open.acos()),
        knee_over_axle: knee_over_axle(&chain, &foot),
        clearance: Clearance {
            knee_to_elbow_mm: Millimetres(round.knee_to_elbow),
            knee_to_trunk_mm: Millimetres(round.knee_to_trunk),
        },
        toe_ahead_mm: Millimetres(foot.toe.x),
        poses: match input.detail {
            Detail::Coarse | Detail::Plain => Vec::new(),
            Detail::Fine => TURN
                .iter()
                .step_by(POSE_EVERY)
                .map(|turned| pose(&chain, &foot, *turned))
                .collect(),
        },
        mean: round.mean,
    }
}

/// The foot at the lowest mean pitch, from the one asked for upwards, at which the leg gets all the way round.
fn reached(input: &LegInput, chain: &Chain, asked: Degrees) -> (Foot, Vec<Pedalled>, Reach) {
    let name = input.side.word();
    let at = |mean: f64| Foot::of(input, Degrees(mean));
    // The response is linear, a foot is not: past the highest pitch it stops, and that is said.
    let highest = HIGHEST_PITCH_DEG + input.rotation.0;
    let start = asked.0.min(highest);
    let foot = at(start);
    let round = foot.round(input.detail);
    let too_close = round
        .iter()
        .map(|at| chain.folded(at.ankle))
        .fold(f64::NEG_INFINITY, f64::max);
    if too_close > 0.0 {
        let words = format!(
            "the {name} leg cannot fold enough over the top, by {} mm",
            written(too_close)
        );
        return (foot, round, Reach::folded(too_close, words));
    }
    if worst(chain, &round).0 <= 0.0 {
        let reach = if asked.0 > highest {
            Reach::Adapted {
                words: format!("the {name} toes point as far as they go"),
            }
        } else {
            Reach::Within
        };
        return (foot, round, reach);
    }
    let (mut short, mut enough) = (start, start);
    while enough < highest {
        enough = (enough + 1.0).min(highest);
        if worst(chain, &at(enough).round(input.detail)).0 <= 0.0 {
            for _ in 0..20 {
                let middle = f64::midpoint(short, enough);
                if worst(chain, &at(middle).round(input.detail)).0 <= 0.0 {
                    enough = middle;
                } else {
                    short = middle;
                }
            }
            let words = format!(
                "the {name} leg reaches only with toes pointed {}° more than {}°",
                written(enough - asked.0),
                written(asked.0)
            );
            let foot = at(enough);
            let round = foot.round(input.detail);
            return (foot, round, Reach::Adapted { words });
        }
        short = enough;
    }
    let foot = at(highest);
    let round = foot.round(input.detail);
    let (by, angle) = worst(chain, &round);
    let words = format!(
        "the {name} leg is {} mm short of the pedal at crank {}°",
        written(by),
        written(angle.0)
    );
    (foot, round, Reach::beyond(by, words))
}

/// Extremes of one turn, kept as cosines so that each costs one arc cosine at the end.
struct Round {
    knee_straightest: (f64, CrankAngle),
    knee_most_bent: f64,
    hip_closed: f64,
    hip_open: f64,
    thigh_up: f64,
    ankle_closed: f64,
    ankle_open: f64,
    knee_to_elbow: f64,
    knee_to_trunk: f64,
    mean: MeanLeg,
}

impl Round {
    fn of(input: &LegInput, chain: &Chain, stroke: &[Pedalled]) -> Self {
        let mut round = Self {
            knee_straightest: (-1.0, CrankAngle::TOP),
            knee_most_bent: 1.0,
            hip_closed: -1.0,
            hip_open: 1.0,
            thigh_up: -1.0,
            ankle_closed: -1.0,
            ankle_open: 1.0,
            knee_to_elbow: f64::INFINITY,
            knee_to_trunk: f64::INFINITY,
            mean: MeanLeg {
                hip: input.hip,
                ..MeanLeg::default()
            },
        };
        let part = 1.0 / f64::from(u32::try_from(stroke.len()).unwrap_or(STEPS));
        let trunk = input.shoulder - input.hip;
        let trunk = trunk * (1.0 / trunk.length().max(1e-9));
        for &Pedalled {
            angle,
            ankle,
            ball,
            sole,
        } in stroke
        {
            let flexion = chain.cos_flexion(ankle);
            if flexion > round.knee_straightest.0 {
                round.knee_straightest = (flexion, angle);
            }
            round.knee_most_bent = round.knee_most_bent.min(flexion);
            let knee = chain.knee(ankle);
            round.mean.knee = round.mean.knee + knee * part;
            round.mean.ankle = round.mean.ankle + ankle * part;
            round.mean.ball = round.mean.ball + ball * part;
            let thigh = (knee - chain.hip) * (1.0 / chain.thigh);
            let hip = thigh.dot(trunk).clamp(-1.0, 1.0);
            round.hip_closed = round.hip_closed.max(hip);
            round.hip_open = round.hip_open.min(hip);
            round.thigh_up = round.thigh_up.max(thigh.y.clamp(-1.0, 1.0));
            let shank = knee - ankle;
            let square = (shank.dot(sole) / shank.length().max(1e-9)).clamp(-1.0, 1.0);
            round.ankle_closed = round.ankle_closed.max(square);
            round.ankle_open = round.ankle_open.min(square);
            round.knee_to_elbow = round.knee_to_elbow.min(knee.distance(input.elbow));
            round.knee_to_trunk = round
                .knee_to_trunk
                .min(knee.distance_to_segment(input.hip, input.shoulder));
        }
        round
    }
}

fn knee_over_axle(chain: &Chain, foot: &Foot) -> KneeOverAxle {
    let forward_crank = Turned::at(CrankAngle::FORWARD);
    let ankle = foot.ankle_at(forward_crank);
    let knee = chain.knee(ankle);
    let shank = knee - ankle;
    let up = shank * (1.0 / shank.length().max(1e-9));
    let forward = Point::new(up.y, -up.x);
    let axle = axle_at(foot.crank, forward_crank);
    let [centre, front_quarter, kneecap, tendon, shin] =
        LANDMARKS.map(|(ahead, above)| Millimetres((knee + forward * ahead + up * above - axle).x));
    KneeOverAxle {
        centre_mm: centre,
        front_quarter_mm: front_quarter,
        kneecap_front_mm: kneecap,
        tendon_mm: tendon,
        shin_bump_mm: shin,
    }
}

fn pose(chain: &Chain, foot: &Foot, turned: Turned) -> LegPose {
    let at = foot.at(turned);
    let ankle = at.place(foot.ankle);
    LegPose {
        knee: chain.knee(ankle),
        ankle,
        axle: at.axle,
        heel: at.place(foot.heel),
        toe: at.place(foot.toe),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn golden_right_angled_leg() {
        // Hip (0, 500), ankle (0, 0), thigh 300, shank 400: a 3-4-5 triangle, right-angled at the knee, so flexion is
        // 90°. The knee lies 300 × 400 / 500 = 240 forward of the line and 300² / 500 = 180 down it: (240, 320).
        let chain = Chain {
            hip: Point::new(0.0, 500.0),
            thigh: 300.0,
            shank: 400.0,
        };
        let ankle = Point::new(0.0, 0.0);
        assert!(chain.cos_flexion(ankle).abs() < 1e-12);
        assert!(chain.knee(ankle).distance(Point::new(240.0, 320.0)) < 1e-9);
        assert!((chain.beyond(Point::new(0.0, -210.0)) - 10.0).abs() < 1e-9);
        assert!((chain.folded(Point::new(0.0, 450.0)) - 50.0).abs() < 1e-9);
    }

    #[test]
    fn golden_crank_angles() {
        let crank = Millimetres(170.0);
        for (angle, x, y) in [(0.0, 0.0, 170.0), (90.0, 170.0, 0.0), (180.0, 0.0, -170.0)] {
            assert!(
                axle_at(crank, Turned::at(CrankAngle(angle))).distance(Point::new(x, y)) < 1e-9
            );
        }
    }

    #[test]
    fn heel_up_raises_the_ankle() {
        // Ankle 100 behind and 100 above the axle; heel up 90° turns it to 100 ahead and 100 above.
        let foot_at = |pitch: f64| {
            let (sin, cos) = Degrees(pitch).sin_cos();
            FootAt {
                axle: Point::default(),
                sin,
                cos,
            }
        };
        let ankle = Point::new(-100.0, 100.0);
        assert!(
            foot_at(90.0)
                .place(ankle)
                .distance(Point::new(100.0, 100.0))
                < 1e-9
        );
        assert!(foot_at(10.0).place(ankle).y > 100.0);
        assert!(foot_at(90.0).sole().distance(Point::new(0.0, -1.0)) < 1e-9);
    }
}
