//! A setup: the bolts and parts of one bike for one rider.

use super::{Bar, Frame, Placed};
use crate::measure::{Companions, Quantity, Refusal, SitReference, measured};
use crate::plane::Point;
use crate::units::{Degrees, Millimetres, NewtonMetres, Side, Sides};
use serde::{Deserialize, Serialize};

measured! {
    /// Everything from the head tube to the bar clamp.
    pub struct Cockpit {
        /// Headset cover above the head tube.
        cover_mm: Millimetres = Cover,
        /// Spacers below the stem.
        spacers_below_mm: Millimetres = SpacersBelow,
        /// Spacers above the stem.
        spacers_above_mm: Millimetres = SpacersAbove,
        /// The stem's clamp along the steerer.
        stem_clamp_mm: Millimetres = StemClamp,
        /// Steerer axis to bar clamp centre.
        stem_mm: Millimetres = Stem,
        /// Stem angle as mounted, down negative, from square to the steerer.
        stem_angle_deg: Degrees = StemAngle,
    }
}

measured! {
    /// The saddle and where it stands. Its place is kept as taped: straight height and setback of the sit reference,
    /// the point of the centre line where it is 80 mm wide.
    pub struct Saddle {
        /// BB straight to the sit reference.
        saddle_height_mm: Millimetres = SaddleHeight,
        /// BB to the sit reference, horizontal, behind positive.
        setback_mm: Millimetres = Setback,
        /// Tilt of the supporting part, front up.
        tilt_deg: Degrees = Tilt,
        /// Nose to tail.
        saddle_length_mm: Millimetres = SaddleLength,
        /// Nose to the sit reference, along the saddle.
        nose_to_sit_mm: Millimetres = NoseToSit,
        /// Nose to the fitter's own mark, when there is one.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        nose_to_mark_mm: Option<Millimetres> = NoseToMark,
        /// Rails to the top at the sit reference, square to the saddle.
        #[serde(default = "saddle_stack")]
        saddle_stack_mm: Millimetres = SaddleStack,
        /// Highest point above the sit reference.
        #[serde(default)]
        saddle_top_mm: Millimetres = SaddleTop,
        /// Middle of the clampable rail ahead of the sit reference, along the saddle.
        #[serde(default = "rail_middle")]
        rail_middle_mm: Millimetres = RailMiddle,
        /// Length of rail the clamp may take, when known.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        rail_mm: Option<Millimetres> = Rail,
        /// At its widest, when known.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        saddle_width_mm: Option<Millimetres> = SaddleWidth,
    }
}

fn saddle_stack() -> Millimetres {
    Millimetres(45.0)
}

fn rail_middle() -> Millimetres {
    Millimetres(10.0)
}

measured! {
    /// The seat post, as far as it is known.
    #[derive(Default)]
    pub struct Post {
        /// Clamp behind the post's axis.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        post_setback_mm: Option<Millimetres> = PostSetback,
        /// Clamp to the post's lower end.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        post_length_mm: Option<Millimetres> = PostLength,
        /// The least insertion the makers ask for.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        post_insertion_mm: Option<Millimetres> = PostInsertion,
    }
}

measured! {
    /// The brake lever of one side, as far as it is known.
    #[derive(Default)]
    pub struct Lever {
        /// Its blade, or the hood's top, against level: up positive.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        lever_angle_deg: Option<Degrees> = LeverAngle,
        /// The bar to the lever where the finger takes it.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        lever_reach_mm: Option<Millimetres> = LeverReach,
    }
}

measured! {
    /// The torque printed on each part, as far as somebody read it: the makers' number, for the next mechanic.
    #[derive(Default)]
    pub struct Torques {
        /// The stem on its steerer.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        stem_torque_nm: Option<NewtonMetres> = StemTorque,
        /// The stem's clamp of the bar.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        bar_torque_nm: Option<NewtonMetres> = BarTorque,
        /// The clamps of the levers.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        lever_torque_nm: Option<NewtonMetres> = LeverTorque,
        /// Pads and extensions.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pad_torque_nm: Option<NewtonMetres> = PadTorque,
        /// The clamp of the seat post.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        post_torque_nm: Option<NewtonMetres> = PostTorque,
        /// The clamp of the saddle's rails.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        rail_torque_nm: Option<NewtonMetres> = RailTorque,
        /// The bolts of the cranks.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        crank_torque_nm: Option<NewtonMetres> = CrankTorque,
        /// The bolts of the cleats.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        cleat_torque_nm: Option<NewtonMetres> = CleatTorque,
    }
}

measured! {
    /// Crank, pedal, shoe and cleat of one side.
    pub struct Pedalling {
        /// BB centre to pedal axle centre.
        crank_mm: Millimetres = Crank,
        /// Pedal axle behind the first metatarsal joint, along the shoe.
        cleat_setback_mm: Millimetres = CleatSetback,
        /// Axle centre to the sole.
        pedal_stack_mm: Millimetres = PedalStack,
        /// Sole under the foot at the cleat.
        sole_mm: Millimetres = Sole,
        /// Footbed thicker than the shoe's own.
        #[serde(default)]
        footbed_mm: Millimetres = Footbed,
        /// Shim under the cleat.
        shim_mm: Millimetres = Shim,
        /// The foot away from the bike, from the middle of the cleat's sideways range.
        #[serde(default)]
        cleat_out_mm: Millimetres = CleatOut,
        /// Heel turned towards the bike.
        #[serde(default)]
        cleat_rotation_deg: Degrees = CleatRotation,
        /// Inner edge of the foot raised by a wedge.
        #[serde(default)]
        cleat_wedge_deg: Degrees = CleatWedge,
        /// Free turn of the foot on the pedal, when known.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        cleat_float_deg: Option<Degrees> = CleatFloat,
        /// As far back as this shoe lets the cleat go, when known.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        cleat_rearmost_mm: Option<Millimetres> = CleatRearmost,
        /// The bike's mid-plane to the pedal's outer end, when known.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pedal_out_mm: Option<Millimetres> = PedalOut,
        /// The pedal's lower edge below the axle centre, when known.
        #[serde(default, skip_serializing_if = "Option::is_none")]
        pedal_below_mm: Option<Millimetres> = PedalBelow,
    }
}

impl Saddle {
    /// A saddle of usual height and rails that stands nowhere yet.
    pub fn new(tilt: Degrees, length: Millimetres, nose_to_sit: Millimetres) -> Self {
        Self {
            saddle_height_mm: Millimetres(0.0),
            setback_mm: Millimetres(0.0),
            tilt_deg: tilt,
            saddle_length_mm: length,
            nose_to_sit_mm: nose_to_sit,
            nose_to_mark_mm: None,
            saddle_stack_mm: saddle_stack(),
            saddle_top_mm: Millimetres(0.0),
            rail_middle_mm: rail_middle(),
            rail_mm: None,
            saddle_width_mm: None,
        }
    }

    /// The sit reference, `None` when the setback is as long as the height.
    pub fn sit(&self) -> Option<Point> {
        let (height, setback) = (self.saddle_height_mm.0, self.setback_mm.0);
        let square = height * height - setback * setback;
        (square > 0.0).then(|| Point::new(-setback, square.sqrt()))
    }

    /// Moves the sit reference.
    pub fn place(&mut self, sit: Point) {
        self.saddle_height_mm = Millimetres(sit.length());
        self.setback_mm = Millimetres(-sit.x);
    }

    /// Unit vector backwards along the rails.
    pub fn rails_back(&self) -> Point {
        Point::polar(Millimetres(-1.0), self.tilt_deg)
    }
}

impl Pedalling {
    /// Axle centre to the sole of the foot, without the foot's own ankle height.
    pub fn stack(&self) -> f64 {
        (self.pedal_stack_mm + self.shim_mm + self.sole_mm + self.footbed_mm).0
    }
}

/// What the tape found at the hand that the parts do not explain. Taped contact points win over parts, so the
/// difference is carried through every foresight; the whole bar moves by it.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Residual {
    /// Taped hand point ahead of the one from the parts.
    pub hand_forward_mm: Millimetres,
    /// Taped hand point above the one from the parts.
    pub hand_up_mm: Millimetres,
}

impl Residual {
    /// Above this much the fitter is asked which of the two is wrong (house choice).
    pub const QUESTIONED_MM: f64 = 5.0;

    /// Above this much it is no residual but another bike (house choice).
    const MOST_MM: f64 = 600.0;

    /// Everything that is outside what is allowed, each with its JSON pointer below `at`.
    pub(crate) fn refusals(&self, at: &str) -> Vec<Refusal> {
        [
            ("hand_forward_mm", self.hand_forward_mm),
            ("hand_up_mm", self.hand_up_mm),
        ]
        .into_iter()
        .filter(|(_, by)| !(-Self::MOST_MM..=Self::MOST_MM).contains(&by.0))
        .map(|(key, _)| {
            Refusal::new(
                format!("{at}/{key}"),
                format!(
                    "Tape and parts cannot be more than {} mm apart: measure again",
                    Self::MOST_MM
                ),
            )
        })
        .collect()
    }

    /// The offset of the taped bar from the one the parts give.
    pub fn offset(&self) -> Point {
        Point::new(self.hand_forward_mm.0, self.hand_up_mm.0)
    }

    /// The question to ask, when either part is larger than [`Self::QUESTIONED_MM`].
    pub fn question(&self) -> Option<String> {
        let worst = |value: Millimetres, more: &str, less: &str| {
            (value.0.abs() > Self::QUESTIONED_MM).then(|| {
                format!(
                    "the tape puts the hands {} mm {} than the parts do",
                    crate::words::written(value.0.abs()),
                    if value.0 > 0.0 { more } else { less }
                )
            })
        };
        let parts: Vec<_> = [
            worst(self.hand_forward_mm, "further forward", "nearer"),
            worst(self.hand_up_mm, "higher", "lower"),
        ]
        .into_iter()
        .flatten()
        .collect();
        (!parts.is_empty()).then(|| format!("Tape and parts disagree: {}.", parts.join(", ")))
    }
}

/// Whether nothing is known of a part.
fn unknown<T: Default + PartialEq>(part: &T) -> bool {
    *part == T::default()
}

/// The bolts and parts of one bike for one rider.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Setup {
    /// Head tube to bar clamp.
    pub cockpit: Cockpit,
    /// The bar.
    pub bar: Bar,
    /// The saddle.
    pub saddle: Saddle,
    /// The seat post.
    #[serde(default)]
    pub post: Post,
    /// Crank to shoe, left and right.
    pub pedalling: Sides<Pedalling>,
    /// The brake levers, left and right.
    #[serde(default, skip_serializing_if = "unknown")]
    pub levers: Sides<Lever>,
    /// The torques printed on its parts.
    #[serde(default, skip_serializing_if = "unknown")]
    pub torques: Torques,
    /// What tape and parts disagree about.
    #[serde(default)]
    pub residual: Residual,
}

impl Setup {
    /// The value of a quantity held here; `side` chooses for what is per side, right when left out.
    pub fn get(&self, quantity: Quantity, side: Option<Side>) -> Option<f64> {
        self.cockpit
            .get(quantity)
            .or_else(|| self.bar.get(quantity))
            .or_else(|| self.saddle.get(quantity))
            .or_else(|| self.post.get(quantity))
            .or_else(|| self.torques.get(quantity))
            .or_else(|| {
                let side = side.unwrap_or(Side::Right);
                let pedalling = self.pedalling.of(side).get(quantity);
                pedalling.or_else(|| self.levers.of(side).get(quantity))
            })
    }

    /// Whether this bike has such a part at all, known or not.
    pub fn holds(&self, quantity: Quantity) -> bool {
        [
            Cockpit::QUANTITIES,
            self.bar.quantities(),
            Saddle::QUANTITIES,
            Post::QUANTITIES,
            Pedalling::QUANTITIES,
            Lever::QUANTITIES,
            Torques::QUANTITIES,
        ]
        .into_iter()
        .any(|quantities| quantities.contains(&quantity))
    }

    /// Everything this bike has a part for.
    pub fn held(&self) -> impl Iterator<Item = Quantity> {
        (Quantity::ALL.iter().copied()).filter(|of| self.holds(*of))
    }

    /// Sets a quantity held here, on one side or both; `false` if it is not held here.
    pub fn set(&mut self, quantity: Quantity, side: Option<Side>, value: f64) -> bool {
        let mut held = self.cockpit.set(quantity, value)
            || self.bar.set(quantity, value)
            || self.saddle.set(quantity, value)
            || self.post.set(quantity, value)
            || self.torques.set(quantity, value);
        for each in Side::BOTH {
            if side.is_none_or(|s| s == each) {
                held |= self.pedalling.of_mut(each).set(quantity, value)
                    || self.levers.of_mut(each).set(quantity, value);
            }
        }
        held
    }

    /// Everything that is outside what is allowed, each with its JSON pointer below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = self.cockpit.refusals(&format!("{at}/cockpit"));
        all.extend(self.bar.refusals(&format!("{at}/bar")));
        all.extend(self.saddle.refusals(&format!("{at}/saddle")));
        all.extend(self.post.refusals(&format!("{at}/post")));
        all.extend(self.residual.refusals(&format!("{at}/residual")));
        all.extend(self.torques.refusals(&format!("{at}/torques")));
        for side in Side::BOTH {
            let levers = format!("{at}/levers/{}", side.word());
            all.extend(self.levers.of(side).refusals(&levers));
            let at = format!("{at}/pedalling/{}", side.word());
            all.extend(self.pedalling.of(side).refusals(&at));
        }
        if all.is_empty() && self.saddle.sit().is_none() {
            all.push(Placed::refusal(at));
        }
        all
    }

    /// What conversions of the saddle's place need.
    pub fn companions(&self, frame: &Frame, reference: SitReference) -> Companions {
        Companions {
            seat_angle: frame.seat_angle_deg,
            tilt: self.saddle.tilt_deg,
            crank: self.pedalling.right.crank_mm,
            nose_to_sit: self.saddle.nose_to_sit_mm,
            saddle_length: self.saddle.saddle_length_mm,
            nose_to_mark: self.saddle.nose_to_mark_mm,
            reference,
        }
    }
}
