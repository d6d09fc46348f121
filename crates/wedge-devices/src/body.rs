//! A rider as one really is, and what there is to see of one: worked out step by step on its own, not by the core. It has what
//! the core's linkage lacks: a pelvis that slides along the saddle and a trunk that bends.

use wedge_core::bike::{BikePoints, Setup};

/// Left, then right.
pub type Two = [f64; 2];

/// What nobody knows exactly, mm and degrees.
#[derive(Debug, Clone)]
pub struct Body {
    /// Hip joint to knee.
    pub thigh: Two,
    /// Knee to ankle.
    pub shank: Two,
    /// Ankle above the sole.
    pub ankle_height: Two,
    /// The foot.
    pub foot_length: Two,
    /// Hip joint to shoulder joint.
    pub trunk: f64,
    /// Shoulder to elbow.
    pub upper_arm: f64,
    /// Elbow to wrist.
    pub forearm: f64,
    /// Wrist to finger tip.
    pub hand: f64,
    /// Between the shoulder joints.
    pub shoulder_breadth: f64,
    /// Hip joint over the sit reference with an upright pelvis.
    pub hip_rise: f64,
    /// And ahead of it.
    pub hip_forward: f64,
    /// How much of the lean the pelvis takes.
    pub pelvis_share: f64,
    /// Elbow flexion.
    pub elbow: f64,
    /// The foot, heel up, mean of the stroke.
    pub pitch_mean: Two,
    /// How far it swings to either side.
    pub pitch_swing: Two,
    /// The crank angle at which the heel is highest.
    pub pitch_peak: Two,
    /// How much it points for a millimetre further to the pedal.
    pub pitch_response: f64,
    /// How far the pelvis slid forward on the saddle.
    pub slide: f64,
    /// By what share the trunk is shorter because the back is bent.
    pub bend: f64,
}

/// What there is to see of it, degrees.
#[derive(Debug, Clone, Default)]
pub struct Sight {
    /// Least flexion of the knee.
    pub knee_at_full_reach: Two,
    /// At crank 90.
    pub knee_forward: Two,
    /// Most flexion.
    pub knee_most_bent: Two,
    /// At crank 0.
    pub knee_at_top: Two,
    /// At crank 180.
    pub knee_at_bottom: Two,
    /// Shoulder, hip, knee: least.
    pub hip_closed: Two,
    /// Most.
    pub hip_open: Two,
    /// Shank against sole: least.
    pub ankle_smallest: Two,
    /// Most.
    pub ankle_largest: Two,
    /// At crank 0, 90, 180 and 270.
    pub foot: [Two; 4],
    /// Trunk above horizontal.
    pub torso: f64,
    /// Hip, shoulder, elbow.
    pub shoulder: f64,
    /// Elbow flexion.
    pub elbow: f64,
    /// From the hip joint to the lowest pedal axle, mm.
    pub hip_to_axle: Two,
    /// Knee joint ahead of the pedal axle at crank 90, mm.
    pub knee_over_axle: Two,
    /// The hip's most flexion against the pelvis, what the table limits.
    pub hip_flexion: Two,
}

/// From the BB: forward, up, mm.
pub type At = (f64, f64);

fn away((ax, ay): At, (bx, by): At) -> f64 {
    (ax - bx).hypot(ay - by)
}

/// The angle at a corner between two points, degrees.
fn corner(at: At, one: At, other: At) -> f64 {
    let (a, b, c) = (away(at, one), away(at, other), away(one, other));
    ((a * a + b * b - c * c) / (2.0 * a * b))
        .clamp(-1.0, 1.0)
        .acos()
        .to_degrees()
}

/// Where two circles meet: the point to the left of the way from the first centre to the second.
fn meet(from: At, radius: f64, to: At, other: f64) -> Option<At> {
    let span = away(from, to);
    if span > radius + other || span < (radius - other).abs() || span < 1e-9 {
        return None;
    }
    let along = (radius * radius - other * other + span * span) / (2.0 * span);
    let aside = (radius * radius - along * along).max(0.0).sqrt();
    let (ux, uy) = ((to.0 - from.0) / span, (to.1 - from.1) / span);
    Some((
        from.0 + along * ux - aside * uy,
        from.1 + along * uy + aside * ux,
    ))
}

#[derive(Debug, Clone, Copy)]
struct Trunk {
    hip: At,
    shoulder: At,
    torso: f64,
}

/// Crank, pedal, cleat and sole of one side.
fn pedalling_of(setup: &Setup, side: usize) -> wedge_core::bike::Pedalling {
    if side == 0 {
        setup.pedalling.left
    } else {
        setup.pedalling.right
    }
}

impl Trunk {
    /// From the hip joint to the lowest pedal axle.
    fn axle_away(self, side: usize, setup: &Setup) -> f64 {
        let part = pedalling_of(setup, side);
        away(self.hip, (0.0, -part.crank_mm.0))
    }
}

#[derive(Debug, Clone, Copy)]
struct Upper {
    trunk: Trunk,
    elbow: At,
    hand: At,
}

/// How one foot goes round.
#[derive(Debug, Clone, Copy)]
struct Round {
    crank: f64,
    mean: f64,
    swing: f64,
    peak: f64,
    /// The ankle behind the axle along the sole, and above it.
    behind: f64,
    above: f64,
    /// The inside of the sole above the axle.
    sole: f64,
    /// The ball ahead of the axle.
    ball: f64,
}

struct Foot {
    axle: At,
    ankle: At,
    pitch: f64,
}

impl Round {
    fn at(&self, turned: f64) -> Foot {
        let (sin, cos) = turned.to_radians().sin_cos();
        let axle = (self.crank * sin, self.crank * cos);
        let pitch = self.mean + self.swing * (turned - self.peak).to_radians().cos();
        let (up, out) = pitch.to_radians().sin_cos();
        // The level foot's ankle is behind and above the axle; heel up carries it forward and up.
        let ankle = (
            axle.0 - self.behind * out + self.above * up,
            axle.1 + self.behind * up + self.above * out,
        );
        Foot { axle, ankle, pitch }
    }
}

impl Body {
    fn trunk_at(&self, sit: At, torso: f64) -> Trunk {
        let (sin, cos) = (self.pelvis_share * (90.0 - torso)).to_radians().sin_cos();
        let hip = (
            sit.0 + self.hip_forward * cos + self.hip_rise * sin,
            sit.1 + self.hip_rise * cos - self.hip_forward * sin,
        );
        let (up, out) = torso.to_radians().sin_cos();
        let trunk = self.trunk * (1.0 - self.bend);
        Trunk {
            hip,
            shoulder: (hip.0 + trunk * out, hip.1 + trunk * up),
            torso,
        }
    }

    /// The most upright torso whose shoulder is an arm's length from the hand, by halving.
    fn trunk_on(&self, sit: At, hand: At, arm: f64) -> Option<Trunk> {
        let short = |torso: f64| away(self.trunk_at(sit, torso).shoulder, hand) - arm;
        let mut above = 85.0;
        if short(above) < 0.0 {
            return None;
        }
        while short(above - 0.5) > 0.0 {
            above -= 0.5;
            if above < 1.0 {
                return None;
            }
        }
        let mut below = above - 0.5;
        for _ in 0..50 {
            let middle = 0.5 * (above + below);
            if short(middle) > 0.0 {
                above = middle;
            } else {
                below = middle;
            }
        }
        Some(self.trunk_at(sit, 0.5 * (above + below)))
    }

    /// Trunk and arms on a bike; `None` where they do not simply reach.
    fn upper_on(&self, bike: &BikePoints, spacing: f64) -> Option<Upper> {
        let sit = (bike.sit.x + self.slide, bike.sit.y);
        let hand = (bike.hand.x, bike.hand.y);
        let fore = self.forearm + 0.36 * self.hand;
        let bent = self.elbow.to_radians().cos();
        let in_space =
            (self.upper_arm.powi(2) + fore.powi(2) + 2.0 * self.upper_arm * fore * bent).sqrt();
        let apart = (spacing - self.shoulder_breadth) / 2.0;
        let planar = (in_space.powi(2) - apart.powi(2)).max(1.0).sqrt();
        let trunk = self.trunk_on(sit, hand, planar)?;
        let shorter = planar / in_space;
        // Below the line from the hand to the shoulder: left of the way back.
        let elbow = meet(
            hand,
            fore * shorter,
            trunk.shoulder,
            self.upper_arm * shorter,
        )?;
        Some(Upper { trunk, elbow, hand })
    }

    /// How a foot goes round, the hip this far from the lowest axle.
    fn round(&self, side: usize, setup: &Setup, to_axle: f64, found: Option<Two>) -> Round {
        let part = pedalling_of(setup, side);
        let stack = part.pedal_stack_mm.0 + part.sole_mm.0 + part.footbed_mm.0 + part.shim_mm.0;
        Round {
            crank: part.crank_mm.0,
            mean: self.pitch_mean[side]
                + self.pitch_response * (to_axle - found.map_or(to_axle, |found| found[side])),
            swing: self.pitch_swing[side],
            peak: self.pitch_peak[side],
            behind: 0.48 * self.foot_length[side] - part.cleat_setback_mm.0,
            above: stack + self.ankle_height[side],
            sole: stack,
            ball: part.cleat_setback_mm.0,
        }
    }

    /// What there is to see on a bike; `None` where a limb does not simply reach. The feet are as they are where the hips
    /// were `found` away from the axles, else where they are now.
    pub fn on(
        &self,
        bike: &BikePoints,
        setup: &Setup,
        spacing: f64,
        found: Option<Two>,
    ) -> Option<Sight> {
        let Upper { trunk, elbow, .. } = self.upper_on(bike, spacing)?;
        let mut sight = Sight {
            torso: trunk.torso,
            shoulder: corner(trunk.shoulder, trunk.hip, elbow),
            elbow: self.elbow,
            ..Sight::default()
        };
        for side in 0..2 {
            self.leg(side, &trunk, setup, found, &mut sight)?;
        }
        Some(sight)
    }

    fn leg(
        &self,
        side: usize,
        trunk: &Trunk,
        setup: &Setup,
        found: Option<Two>,
        sight: &mut Sight,
    ) -> Option<()> {
        let to_axle = trunk.axle_away(side, setup);
        sight.hip_to_axle[side] = to_axle;
        let round = self.round(side, setup, to_axle, found);
        let (mut straight, mut bent) = (180.0_f64, 0.0_f64);
        let (mut closed, mut open) = (180.0_f64, 0.0_f64);
        let (mut ankle_least, mut ankle_most) = (180.0_f64, 0.0_f64);
        let mut flexed = 0.0_f64;
        for degree in 0..360_u16 {
            let foot = round.at(f64::from(degree));
            let knee = meet(trunk.hip, self.thigh[side], foot.ankle, self.shank[side])?;
            let flexion = 180.0 - corner(knee, trunk.hip, foot.ankle);
            let hip = corner(trunk.hip, trunk.shoulder, knee);
            let (up, out) = foot.pitch.to_radians().sin_cos();
            let toe = (foot.ankle.0 + out, foot.ankle.1 - up);
            let square = corner(foot.ankle, knee, toe);
            straight = straight.min(flexion);
            bent = bent.max(flexion);
            closed = closed.min(hip);
            let thigh = (knee.1 - trunk.hip.1)
                .atan2(knee.0 - trunk.hip.0)
                .to_degrees();
            let pelvis = self.pelvis_share * (90.0 - trunk.torso);
            flexed = flexed.max(90.0 + pelvis + thigh);
            open = open.max(hip);
            ankle_least = ankle_least.min(square);
            ankle_most = ankle_most.max(square);
            match degree {
                0 => sight.knee_at_top[side] = flexion,
                90 => {
                    sight.knee_forward[side] = flexion;
                    sight.knee_over_axle[side] = knee.0 - foot.axle.0;
                }
                180 => sight.knee_at_bottom[side] = flexion,
                _ => {}
            }
            if degree % 90 == 0 {
                sight.foot[usize::from(degree / 90)][side] = foot.pitch;
            }
        }
        sight.knee_at_full_reach[side] = straight;
        sight.knee_most_bent[side] = bent;
        sight.hip_closed[side] = closed;
        sight.hip_open[side] = open;
        sight.hip_flexion[side] = flexed;
        sight.ankle_smallest[side] = ankle_least;
        sight.ankle_largest[side] = ankle_most;
        Some(())
    }

    /// The body on a bike, to be seen moving; `None` where a limb does not simply reach.
    pub fn pedals(
        self,
        bike: &BikePoints,
        setup: &Setup,
        spacing: f64,
        found: Option<Two>,
    ) -> Option<Pedalling> {
        let upper = self.upper_on(bike, spacing)?;
        let rounds = [0, 1].map(|side| {
            let to_axle = upper.trunk.axle_away(side, setup);
            self.round(side, setup, to_axle, found)
        });
        let pedalling = Pedalling {
            body: self,
            upper,
            rounds,
        };
        let reaches =
            |side: usize| (0..360_u16).all(|at| pedalling.leg(side, at.into(), 0.0, 0.0).is_some());
        (reaches(0) && reaches(1)).then_some(pedalling)
    }
}

/// A body that pedals.
#[derive(Debug, Clone)]
pub struct Pedalling {
    body: Body,
    upper: Upper,
    rounds: [Round; 2],
}

/// One leg at one place of its crank, from the BB, mm.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct LegAt {
    /// The pedal's axle.
    pub axle: At,
    /// The hip joint.
    pub hip: At,
    /// The knee joint.
    pub knee: At,
    /// The ankle joint.
    pub ankle: At,
    /// The sole, heel up, degrees.
    pub pitch: f64,
}

impl Pedalling {
    /// A leg with its own crank there, its hip lifted so far and its heel so many degrees higher than it goes by itself.
    pub fn leg(&self, side: usize, crank_deg: f64, lifted: f64, shaken: f64) -> Option<LegAt> {
        let mut round = self.rounds[side];
        round.mean += shaken;
        let Foot { axle, ankle, pitch } = round.at(crank_deg);
        let hip = (self.upper.trunk.hip.0, self.upper.trunk.hip.1 + lifted);
        let knee = meet(hip, self.body.thigh[side], ankle, self.body.shank[side])?;
        Some(LegAt {
            axle,
            hip,
            knee,
            ankle,
            pitch,
        })
    }

    /// A point of a foot: so far ahead of the ankle along the sole, and so far above the inside of the sole.
    pub fn on_foot(&self, side: usize, leg: &LegAt, ahead: f64, above_sole: f64) -> At {
        let round = &self.rounds[side];
        let above = round.sole + above_sole - round.above;
        let (up, out) = leg.pitch.to_radians().sin_cos();
        (
            leg.ankle.0 + ahead * out + above * up,
            leg.ankle.1 - ahead * up + above * out,
        )
    }

    /// Ankle to the ball of the foot, along the sole.
    pub fn ankle_to_ball(&self, side: usize) -> f64 {
        self.rounds[side].behind + self.rounds[side].ball
    }

    /// The shoulder joint.
    pub fn shoulder(&self) -> At {
        self.upper.trunk.shoulder
    }

    /// The elbow.
    pub fn elbow(&self) -> At {
        self.upper.elbow
    }

    /// The wrist: on the way from the hand to the elbow.
    pub fn wrist(&self) -> At {
        let (hand, elbow) = (self.upper.hand, self.upper.elbow);
        let palm = 0.36 * self.body.hand;
        let share = palm / (self.body.forearm + palm);
        (
            hand.0 + share * (elbow.0 - hand.0),
            hand.1 + share * (elbow.1 - hand.1),
        )
    }

    /// Where the hands hold on.
    pub fn hand(&self) -> At {
        self.upper.hand
    }

    /// The body.
    pub fn body(&self) -> &Body {
        &self.body
    }
}
