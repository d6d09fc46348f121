//! One leg over a whole stroke: what comes of it.

use super::stroke::{
    Chain, Detail, Extremes, Foot, MeanLeg, Round, Turned, Turning, axle_at, worst,
};
use super::{FootPitch, Gap, LegLengths, Reach};
use crate::bike::Pedalling;
use crate::plane::Point;
use crate::rule::rules;
use crate::units::{CrankAngle, Degrees, Millimetres, Side, Sides};
use crate::words::written;
use serde::{Deserialize, Serialize};

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
#[derive(Debug, Clone, Copy, PartialEq)]
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
    /// Where the extremes of a stroke are from which this one differs little.
    pub(crate) near: Option<Extremes<Turned>>,
    /// Whether a leg that does not reach is continued past straight, the foot as it was asked for: not how anybody
    /// rides, but everything answers to everything, as fits and bands need it.
    pub(crate) continued: bool,
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
    /// From the hip joint to the ankle at full reach, the foot held as it is asked to be: of a leg that does not simply reach,
    /// more than it is long.
    #[serde(skip)]
    pub(crate) way_mm: Millimetres,
    #[serde(skip)]
    pub(crate) mean: MeanLeg,
    /// Where the crank stands at each extreme.
    #[serde(skip)]
    pub(crate) extremes: Extremes<Turned>,
}

/// Hip joint to pedal axle at bottom dead centre; in a position turned forward, at the same place of its stroke.
pub(crate) fn hip_to_axle(hip: Point, crank: Millimetres, rotation: Degrees) -> Millimetres {
    let bottom = CrankAngle(CrankAngle::BOTTOM.0 + rotation.0);
    Millimetres(hip.distance(axle_at(crank, Turned::at(bottom))))
}

/// Everything numeric a leg is solved from, mm and degrees.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(crate) struct Shape {
    pub(super) hip: Point,
    pub(super) shoulder: Point,
    pub(super) elbow: Point,
    pub(super) pelvis: f64,
    pub(super) thigh: f64,
    pub(super) shank: f64,
    pub(super) ankle_height: f64,
    pub(super) ankle_to_ball: f64,
    pub(super) foot_length: f64,
    pub(super) cleat: f64,
    pub(super) stack: f64,
    pub(super) crank: f64,
    /// Mean pitch as asked for, half the swing, and the peak; turned with the position.
    pub(super) pitch: f64,
    pub(super) amp: f64,
    pub(super) peak: f64,
}

impl LegInput<'_> {
    /// The mean pitch answers the leg's job.
    pub(super) fn shape(&self) -> Shape {
        let (lengths, seen) = (self.lengths, &self.seen);
        let away = self.hip_to_axle() - seen.hip_to_axle_mm;
        let asked = seen.pitch.mean_deg + self.rotation + Degrees(self.response * away.0);
        Shape {
            hip: self.hip,
            shoulder: self.shoulder,
            elbow: self.elbow,
            pelvis: self.pelvis.0,
            thigh: lengths.thigh.value_mm.0,
            shank: lengths.shank.value_mm.0,
            ankle_height: lengths.ankle_height.value_mm.0,
            ankle_to_ball: lengths.ankle_to_ball(),
            foot_length: lengths.foot_length.value_mm.0,
            cleat: self.pedalling.cleat_setback_mm.0,
            stack: self.pedalling.stack(),
            crank: self.pedalling.crank_mm.0,
            pitch: asked.0,
            amp: seen.pitch.amp_deg.0,
            peak: (seen.pitch.peak_deg + self.rotation).0,
        }
    }

    /// Hip joint to pedal axle at bottom dead centre.
    pub(super) fn hip_to_axle(&self) -> Millimetres {
        hip_to_axle(self.hip, self.pedalling.crank_mm, self.rotation)
    }
}

/// Solves one leg over the stroke.
pub(crate) fn leg(input: &LegInput) -> Leg {
    let shape = &input.shape();
    let chain = Chain {
        hip: shape.hip,
        thigh: shape.thigh,
        shank: shape.shank,
        continued: input.continued,
    };
    let Reached {
        foot,
        round,
        reach,
        way,
    } = reached(input, shape, &chain);
    let gap = matches!(reach, Reach::Beyond { .. }).then(|| {
        let (by, angle) = worst(&chain, &foot);
        let to = foot.ankle_at(Turned::at(angle));
        let line = to - chain.hip;
        Gap {
            from: chain.hip + line * (chain.straight() / line.length().max(1e-9)),
            to,
            by_mm: Millimetres(by),
            crank_deg: Some(angle),
        }
    });
    let hip_flexion = |thigh_up: f64| {
        Degrees(90.0 + shape.pelvis) + Degrees::from_radians(thigh_up.clamp(-1.0, 1.0).asin())
    };
    let straightest = chain.knee(foot.ankle_at(round.extremes.farthest.at));
    let pitch = |at: Turned| foot.pitch_at(at);
    let flexion = |at: Turned| chain.flexion_to(foot.ankle_at(at));
    Leg {
        reach,
        gap,
        pitch_mean_deg: foot.mean_deg,
        hip_to_axle_mm: hip_to_axle(shape.hip, foot.crank, input.rotation),
        knee: Knee {
            smallest_deg: chain.flexion(round.extremes.farthest.value),
            smallest_at: round.extremes.farthest.at.angle,
            largest_deg: chain.flexion(round.extremes.nearest.value),
            at_0_deg: flexion(Turned::TOP),
            at_90_deg: flexion(Turned::FORWARD),
            at_180_deg: flexion(Turned::BOTTOM),
            in_line_deg: flexion(Turned::at(CrankAngle::in_line_with(input.seat_angle))),
        },
        hip_closed_deg: angle(round.extremes.hip_closed.value),
        hip_open_deg: angle(round.extremes.hip_open.value),
        hip_flexion_deg: hip_flexion(round.extremes.thigh_up.value),
        hip_flexion_at_reach_deg: hip_flexion((straightest - chain.hip).y / chain.thigh),
        foot: FootAngle {
            top_deg: pitch(Turned::TOP),
            forward_deg: pitch(Turned::FORWARD),
            bottom_deg: pitch(Turned::BOTTOM),
            rising_deg: pitch(Turned::RISING),
        },
        ankle_smallest_deg: angle(round.extremes.ankle_closed.value),
        ankle_largest_deg: angle(round.extremes.ankle_open.value),
        knee_over_axle: knee_over_axle(&chain, &foot),
        clearance: Clearance {
            knee_to_elbow_mm: Millimetres(round.extremes.to_elbow.value.sqrt()),
            knee_to_trunk_mm: Millimetres(round.extremes.to_trunk.value.sqrt()),
        },
        toe_ahead_mm: Millimetres(foot.toe.x),
        way_mm: Millimetres(way),
        mean: round.mean,
        extremes: round.where_extreme(),
        poses: round.poses,
    }
}

/// Solves both legs. Where nothing tells them apart one is solved for both.
pub(crate) fn both(left: &LegInput, right: &LegInput) -> Sides<Leg> {
    let solved = leg(right);
    let alike = LegInput {
        side: right.side,
        ..*left
    } == *right;
    if alike && solved.reach == Reach::Within {
        Sides::both(solved)
    } else {
        Sides {
            left: leg(left),
            right: solved,
        }
    }
}

/// The angle of a cosine.
pub(super) fn angle(cosine: f64) -> Degrees {
    Degrees::from_radians(cosine.clamp(-1.0, 1.0).acos())
}

/// A foot with which the leg goes round as far as it does.
struct Reached {
    foot: Foot,
    round: Round,
    reach: Reach,
    /// From hip joint to ankle at full reach, the foot as it was asked to be.
    way: f64,
}

/// The foot at the lowest mean pitch, from the one asked for upwards, at which the leg gets all the way round.
fn reached(input: &LegInput, shape: &Shape, chain: &Chain) -> Reached {
    let name = input.side.word();
    let asked = Degrees(shape.pitch);
    let at = |mean: f64| Foot::of(shape, Degrees(mean));
    let short_by = |mean: f64| worst(chain, &at(mean));
    let turn = |foot: &Foot| {
        let turning = Turning::of(shape, chain, foot);
        match input.near {
            Some(extremes) => turning.again(extremes),
            None => turning.round(input.detail),
        }
    };
    // The response is linear, a foot is not: past the highest pitch it stops, and that is said.
    let highest = HIGHEST_PITCH_DEG + input.rotation.0;
    let start = asked.0.min(highest);
    let foot = at(start);
    let round = turn(&foot);
    let way = round.extremes.farthest.value.sqrt();
    let reached = |foot, round, reach| Reached {
        foot,
        round,
        reach,
        way,
    };
    if input.continued {
        return reached(foot, round, Reach::Within);
    }
    let too_close = chain.folded() - round.extremes.nearest.value.sqrt();
    if too_close > 0.0 {
        let words = format!(
            "the {name} leg cannot fold enough over the top, by {} mm",
            written(too_close)
        );
        return reached(foot, round, Reach::folded(too_close, words));
    }
    if way <= chain.straight() {
        let reach = if asked.0 > highest {
            Reach::Adapted {
                words: format!("the {name} toes point as far as they go"),
            }
        } else {
            Reach::Within
        };
        return reached(foot, round, reach);
    }
    let (mut short, mut enough) = (start, start);
    while enough < highest {
        enough = (enough + 1.0).min(highest);
        if short_by(enough).0 <= 0.0 {
            for _ in 0..20 {
                let middle = f64::midpoint(short, enough);
                if short_by(middle).0 <= 0.0 {
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
            let round = turn(&foot);
            return reached(foot, round, Reach::Adapted { words });
        }
        short = enough;
    }
    let (by, angle) = short_by(highest);
    let words = format!(
        "the {name} leg is {} mm short of the pedal at crank {}°",
        written(by),
        written(angle.0)
    );
    let foot = at(highest);
    let round = turn(&foot);
    reached(foot, round, Reach::beyond(by, words))
}

fn knee_over_axle(chain: &Chain, foot: &Foot) -> KneeOverAxle {
    let forward_crank = Turned::FORWARD;
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
