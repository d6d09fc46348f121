//! Made to measure: a frame worked out around contact points, from what is chosen, what is wished and what is left free.

use super::carry::{front_share, shoe_ahead};
use crate::bike::{Frame, Kind, Placed, Setup, axle_to_ground, pedal_lean, rail_middle};
use crate::foresee::Trying;
use crate::measure::{Quantity, Refusal, Unit};
use crate::plane::{Point, root};
use crate::rule::rules;
use crate::units::{Degrees, Millimetres, Side};
use crate::words::{hundredth, tenth, words, written};
use serde::{Deserialize, Serialize};

rules! {
    rules "Made to measure";
    /// A frame is built to so much of a length,
    pub const LENGTH_TOLERANCE_MM: f64 = 1.0, " mm", House;
    /// and to so much of an angle.
    pub const ANGLE_TOLERANCE_DEG: f64 = 0.1, "°", House;
    /// The top tube's middle line leaves the seat tube so far below where the post comes out,
    const TOP_TUBE_BELOW_POST_MM: f64 = 25.0, " mm", House;
    /// meets the head tube so far below its top,
    const TOP_TUBE_BELOW_TOP_MM: f64 = 35.0, " mm", House;
    /// and is so thick: the rider stands over its middle.
    const TOP_TUBE_MM: f64 = 32.0, " mm", House;
    /// Wishes that meet this nearly are met, in the unit of each.
    const MET: f64 = 0.05, "", House;
}

macro_rules! wishes {
    ($($variant:ident $key:literal $label:literal $how:literal $unit:ident $min:literal..$max:literal step $step:literal $part:ident;)*) => {
        words! {
            /// A number a frame is made by.
            pub enum Wish { $($variant $key $label,)* }
        }

        impl Wish {
            /// What is known of it.
            pub const fn spec(self) -> WishSpec {
                match self {
                    $(Self::$variant => WishSpec {
                        wish: self, label: $label, how: $how, unit: Unit::$unit, min: $min, max: $max, step: $step,
                        part: WishPart::$part,
                    },)*
                }
            }
        }
    };
}

words! {
    /// What a wish is about.
    pub enum WishPart {
        Front "front" "Front of the frame",
        Seat "seat" "Saddle and post",
        Bottom "bottom" "Bottom bracket",
        Over "over" "Standing over it",
        Chosen "chosen" "Chosen parts",
    }
}

wishes! {
    Trail "trail_mm" "Trail" "where the steering axis meets the ground, ahead of the tyre’s contact" Mm 10.0..150.0 step 1.0 Front;
    Rake "rake_mm" "Fork rake" "steering axis to front axle, square to it" Mm 20.0..90.0 step 1.0 Front;
    HeadAngle "head_angle_deg" "Head angle" "from horizontal" Deg 60.0..78.0 step 0.5 Front;
    ToeRoom "toe_room_mm" "Room for the toe" "shoe to front wheel with the crank forward, at least" Mm -40.0..100.0 step 5.0 Front;
    HeadTube "head_tube_mm" "Head tube" "its length, at least" Mm 60.0..300.0 step 5.0 Front;
    SeatAngle "seat_angle_deg" "Seat tube angle" "of the post’s own axis" Deg 66.0..84.0 step 0.5 Seat;
    PostSetback "post_setback_mm" "Post setback" "clamp behind the post’s axis, square to it" Mm -40.0..60.0 step 5.0 Seat;
    ClampAhead "clamp_ahead_mm" "Clamp on the rails" "ahead of their middle" Mm -40.0..40.0 step 5.0 Seat;
    BbDrop "bb_drop_mm" "BB drop" "BB below the axles" Mm -40.0..110.0 step 1.0 Bottom;
    PedalLean "pedal_lean_deg" "Lean at pedal strike" "pedal down, at least" Deg 5.0..50.0 step 1.0 Bottom;
    PostOut "post_out_mm" "Post out of the seat tube" "to the saddle’s clamp" Mm 60.0..400.0 step 10.0 Over;
    StandoverRoom "standover_room_mm" "Room over the top tube" "under the barefoot inseam, at least" Mm -100.0..250.0 step 5.0 Over;
    WheelRadius "wheel_radius_mm" "Wheel radius" "axle to ground, tyre on" Mm 220.0..400.0 step 1.0 Chosen;
    Tyre "tyre_mm" "Tyre width" "of its section" Mm 18.0..130.0 step 1.0 Chosen;
    ForkLength "fork_mm" "Fork length" "front axle to crown, straight, under the rider" Mm 300.0..620.0 step 1.0 Chosen;
    LowerStack "lower_stack_mm" "Lower headset stack" "between crown and head tube" Mm 0.0..40.0 step 1.0 Chosen;
    Cover "cover_mm" "Top cover" "headset cover above the head tube" Mm 0.0..60.0 step 1.0 Chosen;
    Spacers "spacers_mm" "Spacers" "below the stem" Mm 0.0..60.0 step 5.0 Chosen;
    Stem "stem_mm" "Stem" "steerer axis to bar clamp centre" Mm 30.0..150.0 step 10.0 Chosen;
    StemAngle "stem_angle_deg" "Stem angle" "as mounted, down is negative" Deg -40.0..40.0 step 1.0 Chosen;
    Chainstay "chainstay_mm" "Chainstay" "BB to rear axle, straight" Mm 350.0..520.0 step 5.0 Chosen;
}

/// What is known of a wish.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct WishSpec {
    /// Which.
    pub wish: Wish,
    /// As it is called.
    pub label: &'static str,
    /// How it is measured.
    pub how: &'static str,
    /// Its unit.
    pub unit: Unit,
    /// The least there is.
    pub min: f64,
    /// The most.
    pub max: f64,
    /// A press of a key.
    pub step: f64,
    /// What it is about. Chosen parts are given; the others can be let free.
    pub part: WishPart,
}

/// A wish with its value.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = MadeWished))]
#[serde(deny_unknown_fields)]
pub struct Wished {
    /// Which.
    pub wish: Wish,
    /// What it should be; where it is free, what it is unless something else decides.
    pub value: f64,
    /// Whether it must be so. Chosen parts are.
    pub fixed: bool,
}

words! {
    /// Where a dimension is from.
    pub enum MadeFrom {
        Wished "wished" "wished",
        Chosen "chosen" "chosen",
        Solved "solved" "solved",
    }
}

/// A dimension of the frame, for its builder.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = MadeDimension))]
#[serde(deny_unknown_fields)]
pub struct Dimension {
    /// A short key: `reach`, `head_angle`.
    pub key: String,
    /// As it is called.
    pub label: String,
    /// Its value.
    pub value: f64,
    /// Its unit.
    pub unit: Unit,
    /// What the builder may be off by; none of what follows from the others.
    pub tolerance: Option<f64>,
    /// Where it is from.
    pub from: MadeFrom,
}

/// A wish that would have to change, and how far.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Freed {
    /// Which.
    pub wish: Wish,
    /// What it would be.
    pub to: f64,
    /// "Trail 58 → 54.2 mm".
    pub words: String,
}

/// Wishes that do not go together.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Conflict {
    /// What does not hold.
    pub words: String,
    /// What frees it, the smallest change first, each by itself.
    pub frees: Vec<Freed>,
}

/// A frame made to measure: computed, not ridden.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Made {
    /// The frame, angles to a hundredth of a degree, lengths to a tenth of a millimetre.
    pub frame: Frame,
    /// Every bolt and part on it.
    pub setup: Setup,
    /// Every dimension.
    pub dimensions: Vec<Dimension>,
    /// Wishes that do not go together; empty when all is well.
    pub conflicts: Vec<Conflict>,
    /// What is told of it.
    pub told: Vec<String>,
    /// What was assumed.
    pub assumed: Vec<String>,
}

const COUNT: usize = Wish::ALL.len();

/// Every wish's value, by its place in the list.
#[derive(Debug, Clone, Copy)]
struct Sheet {
    value: [f64; COUNT],
    fixed: [bool; COUNT],
}

impl Sheet {
    fn of(wishes: &[Wished]) -> Self {
        let mut sheet = Self {
            value: [0.0; COUNT],
            fixed: [false; COUNT],
        };
        for one in wishes {
            sheet.value[one.wish as usize] = one.value;
            sheet.fixed[one.wish as usize] = one.fixed || one.wish.spec().part == WishPart::Chosen;
        }
        sheet
    }

    fn get(&self, wish: Wish) -> f64 {
        self.value[wish as usize]
    }

    fn is_fixed(&self, wish: Wish) -> bool {
        self.fixed[wish as usize]
    }

    fn with(mut self, wish: Wish, fixed: bool) -> Self {
        self.fixed[wish as usize] = fixed;
        self
    }

    /// The first two of some wishes that decide: those fixed, then those free, each in its order.
    fn two(&self, first: &[Wish], then: &[Wish]) -> [Wish; 2] {
        let fixed = first.iter().filter(|wish| self.is_fixed(**wish));
        let free = then.iter().filter(|wish| !self.is_fixed(**wish));
        let mut both = fixed.chain(free).copied();
        let (one, other) = (both.next(), both.next());
        [one.unwrap_or(then[0]), other.unwrap_or(then[1])]
    }
}

/// Wishes that say "at least".
fn at_least(wish: Wish) -> bool {
    matches!(
        wish,
        Wish::ToeRoom | Wish::PedalLean | Wish::StandoverRoom | Wish::HeadTube
    )
}

/// What ordinary frames of a kind are made by, around a position: the wheels, stays and parts it has, the rest in the proportions of
/// the trade.
pub fn ordinary_wishes(from: &Trying, with: &Setup) -> Vec<Wished> {
    let frame = &from.frame;
    // Trail, rake, fork, stem.
    let (trail, rake, fork, stem) = match from.kind {
        Kind::Road | Kind::Race => (58.0, 45.0, 372.0, 100.0),
        Kind::Gravel => (66.0, 48.0, 395.0, 90.0),
        Kind::City => (62.0, 48.0, 395.0, 90.0),
        Kind::OffRoad | Kind::Gravity => (118.0, 44.0, 530.0, 40.0),
        Kind::TimeTrial => (55.0, 45.0, 370.0, 90.0),
    };
    let stem_angle = match from.kind {
        Kind::City => 6.0,
        Kind::OffRoad | Kind::Gravity => 0.0,
        _ => -6.0,
    };
    let value = |wish: Wish| match wish {
        Wish::Trail => trail,
        Wish::Rake => rake,
        Wish::HeadAngle => frame.head_angle_deg.0,
        Wish::ToeRoom | Wish::Spacers => 10.0,
        Wish::HeadTube => 80.0,
        Wish::SeatAngle => frame.seat_angle_deg.0,
        Wish::PostSetback => with.post.post_setback_mm.map_or(0.0, |back| back.0),
        Wish::ClampAhead => 0.0,
        Wish::BbDrop => frame.bb_drop_mm.0,
        Wish::PedalLean => 25.0,
        Wish::PostOut => 160.0,
        Wish::StandoverRoom => 30.0,
        Wish::WheelRadius => frame.wheel_radius_mm.0,
        Wish::Tyre => frame.tyre_mm.map_or(32.0, |tyre| tyre.0),
        Wish::ForkLength => fork,
        Wish::LowerStack => frame.lower_stack_mm.0,
        Wish::Cover => with.cockpit.cover_mm.0,
        Wish::Stem => stem,
        Wish::StemAngle => stem_angle,
        Wish::Chainstay => frame.chainstay_mm.0,
    };
    let fixed = |wish: Wish| {
        !matches!(
            wish,
            Wish::Rake | Wish::HeadAngle | Wish::SeatAngle | Wish::PedalLean | Wish::PostOut
        )
    };
    let all = Wish::ALL.iter().map(|wish| Wished {
        wish: *wish,
        value: value(*wish),
        fixed: fixed(*wish),
    });
    all.collect()
}

/// What is refused of wishes: each within what there is, each there once; with its JSON pointer below `at`.
pub fn wish_refusals(wishes: &[Wished], at: &str) -> Vec<Refusal> {
    let mut all = Vec::new();
    for (index, one) in wishes.iter().enumerate() {
        let spec = one.wish.spec();
        let pointer = format!("{at}/{index}/value");
        if !(spec.min..=spec.max).contains(&one.value) {
            let unit = spec.unit.suffix();
            let (min, max) = (written(spec.min), written(spec.max));
            all.push(Refusal::new(
                pointer,
                format!("{} is {min} to {max}{unit}", spec.label),
            ));
        } else if wishes[..index].iter().any(|other| other.wish == one.wish) {
            all.push(Refusal::new(
                pointer,
                format!("{} stands twice", spec.label),
            ));
        }
    }
    for wish in Wish::ALL {
        if !wishes.iter().any(|one| one.wish == *wish) {
            all.push(Refusal::new(
                at.to_owned(),
                format!("{} is missing", wish.label()),
            ));
        }
    }
    all
}

/// What a frame is made around, and how each of its numbers answers.
struct Maker<'a> {
    from: &'a Trying<'a>,
    with: Setup,
    /// The bar clamp's centre.
    clamp: Point,
    /// The middle of the rails, and the way back along them.
    rails: (Point, Point),
    shoe: f64,
}

/// One answer.
#[derive(Debug, Clone, Copy)]
struct Answer {
    /// What every wish came to.
    got: Sheet,
    frame: Frame,
    front_axle: Point,
}

impl Maker<'_> {
    /// A frame by wishes that go together; `None` where none has them.
    fn solve(&self, sheet: &Sheet) -> Option<Answer> {
        let mut got = *sheet;
        let mut take = |wish: Wish, value: f64| got.value[wish as usize] = value;
        let drop = self.drop(sheet);
        take(Wish::BbDrop, drop);
        let (seat, setback, ahead, out) = self.seat(sheet)?;
        take(Wish::SeatAngle, seat);
        take(Wish::PostSetback, setback);
        take(Wish::ClampAhead, ahead);
        let (spacers, stem_angle, head) = self.front(sheet, drop)?;
        take(Wish::Spacers, spacers);
        take(Wish::StemAngle, stem_angle);
        let Steering {
            angle,
            rake,
            front_axle,
        } = head;
        let frame = self.frame(
            sheet,
            (spacers, stem_angle),
            (angle, rake),
            (seat, out),
            (drop, front_axle),
        );
        let frame = self.over(sheet, frame, out);
        take(Wish::HeadAngle, angle);
        take(Wish::Rake, rake);
        take(
            Wish::Trail,
            trail(sheet.get(Wish::WheelRadius), angle, rake),
        );
        take(
            Wish::ToeRoom,
            frame.front_centre_mm.0 - frame.wheel_radius_mm.0 - self.shoe,
        );
        take(Wish::HeadTube, frame.head_tube_mm.0);
        take(Wish::PostOut, out - frame.seat_tube_mm.0);
        if let Some(lean) = self.lean(&frame) {
            take(Wish::PedalLean, lean);
        }
        if let Some(room) = self.room_over(&frame) {
            take(Wish::StandoverRoom, room);
        }
        got.value
            .iter()
            .all(|value| value.is_finite())
            .then_some(Answer {
                got,
                frame,
                front_axle,
            })
    }

    /// The BB's drop: as wished, or as the lean asks where that is fixed and it is not.
    fn drop(&self, sheet: &Sheet) -> f64 {
        let wished = sheet.get(Wish::BbDrop);
        if sheet.is_fixed(Wish::BbDrop) || !sheet.is_fixed(Wish::PedalLean) {
            return wished;
        }
        let spec = Wish::BbDrop.spec();
        let off = |drop: f64| {
            let frame = self.standing(sheet, drop);
            self.lean(&frame)
                .map_or(f64::NAN, |lean| lean - sheet.get(Wish::PedalLean))
        };
        root(spec.min, spec.max, off).unwrap_or(wished)
    }

    /// What of a frame decides how far it leans.
    fn standing(&self, sheet: &Sheet, drop: f64) -> Frame {
        Frame {
            bb_drop_mm: Millimetres(drop),
            wheel_radius_mm: Millimetres(sheet.get(Wish::WheelRadius)),
            tyre_mm: Some(Millimetres(sheet.get(Wish::Tyre))),
            ..self.from.frame
        }
    }

    /// The lean at which the first pedal strikes; none until the pedals are known.
    fn lean(&self, frame: &Frame) -> Option<f64> {
        let pedalling = &self.with.pedalling;
        let of = |side: Side| pedal_lean(frame, pedalling.of(side)).map(|lean| lean.0);
        Some(of(Side::Left)?.min(of(Side::Right)?))
    }

    /// Seat angle, post setback, clamp on the rails, and how far from the BB the clamp is along the post.
    fn seat(&self, sheet: &Sheet) -> Option<(f64, f64, f64, f64)> {
        const ORDER: [Wish; 3] = [Wish::PostSetback, Wish::ClampAhead, Wish::SeatAngle];
        let (middle, back) = self.rails;
        let clamp = |ahead: f64| middle - back * ahead;
        let decide = sheet.two(&ORDER, &ORDER);
        let (angle, setback, ahead) = (
            sheet.get(Wish::SeatAngle),
            sheet.get(Wish::PostSetback),
            sheet.get(Wish::ClampAhead),
        );
        let (angle, setback, ahead) = if !decide.contains(&Wish::SeatAngle) {
            let at = clamp(ahead);
            let out = (at.dot(at) - setback * setback).max(0.0).sqrt();
            let leans = Degrees::from_radians(setback.atan2(out)).0;
            (180.0 - at.direction().0 + leans, setback, ahead)
        } else if decide.contains(&Wish::PostSetback) {
            let axis = along(angle);
            // middle + back × a = axis × b + square back × setback.
            let (a, _) = (square_back(axis) * setback - middle).split(back, axis * -1.0);
            (angle, setback, -a)
        } else {
            (angle, clamp(ahead).dot(square_back(along(angle))), ahead)
        };
        let out = clamp(ahead).dot(along(angle));
        (out > 0.0).then_some((angle, setback, ahead, out))
    }

    /// Spacers, stem angle and how it steers. A head tube that is to be no shorter takes them from what of the two is free.
    fn front(&self, sheet: &Sheet, drop: f64) -> Option<(f64, f64, Steering)> {
        let (spacers, angle) = (sheet.get(Wish::Spacers), sheet.get(Wish::StemAngle));
        let tube = |spacers: f64, angle: f64| {
            let steering = self.steering(sheet, (spacers, angle), drop)?;
            Some((
                self.head_tube(sheet, (spacers, angle), drop, &steering),
                steering,
            ))
        };
        let (length, steering) = tube(spacers, angle)?;
        let least = sheet.get(Wish::HeadTube);
        if !sheet.is_fixed(Wish::HeadTube) || length >= least - MET {
            return Some((spacers, angle, steering));
        }
        let short = |spacers: f64, angle: f64| {
            tube(spacers, angle).map_or(f64::NAN, |(length, _)| length - least)
        };
        if !sheet.is_fixed(Wish::Spacers)
            && let Some(fewer) = root(0.0, spacers, |spacers| short(spacers, angle))
        {
            return Some((fewer, angle, tube(fewer, angle)?.1));
        }
        if !sheet.is_fixed(Wish::StemAngle)
            && let Some(lower) = root(Wish::StemAngle.spec().min, angle, |angle| {
                short(spacers, angle)
            })
        {
            return Some((spacers, lower, tube(spacers, lower)?.1));
        }
        Some((spacers, angle, steering))
    }

    /// Head angle, rake and front axle by the two wishes that decide.
    ///
    /// With r the wheel, t the trail, C the bar clamp, F the front axle and L cos α how far the clamp is ahead of the steering
    /// axis: `t = (r cos θ − rake) / sin θ`, `(C − F)·n = L cos α − rake`, `n = (sin θ, cos θ)`.
    fn steering(&self, sheet: &Sheet, (_, angle): (f64, f64), drop: f64) -> Option<Steering> {
        const FIXED: [Wish; 4] = [Wish::Trail, Wish::Rake, Wish::HeadAngle, Wish::ToeRoom];
        const FREE: [Wish; 4] = [Wish::Trail, Wish::ToeRoom, Wish::Rake, Wish::HeadAngle];
        let wheel = sheet.get(Wish::WheelRadius);
        let ahead = sheet.get(Wish::Stem) * Degrees(angle).sin_cos().1;
        let (trail, rake, head) = (
            sheet.get(Wish::Trail),
            sheet.get(Wish::Rake),
            sheet.get(Wish::HeadAngle),
        );
        let centre = wheel + self.shoe + sheet.get(Wish::ToeRoom);
        let axle = Point::new((centre * centre - drop * drop).max(0.0).sqrt(), drop);
        // θ with `−A sin θ + B cos θ = across`.
        let turned = |a: f64, b: f64, across: f64| {
            let share = across / a.hypot(b);
            (share.abs() <= 1.0).then(|| Degrees::from_radians(share.acos() - a.atan2(b)).0)
        };
        let to_axle = axle - self.clamp;
        let decide = sheet.two(&FIXED, &FREE);
        let has = |wish: Wish| decide.contains(&wish);
        let (angle, rake) = if has(Wish::Trail) && has(Wish::Rake) {
            (turned(trail, wheel, rake)?, rake)
        } else if has(Wish::Trail) && has(Wish::HeadAngle) {
            let (sin, cos) = Degrees(head).sin_cos();
            (head, wheel * cos - trail * sin)
        } else if has(Wish::Rake) && has(Wish::HeadAngle) {
            (head, rake)
        } else if has(Wish::Trail) {
            let angle = turned(to_axle.x + trail, wheel - to_axle.y, ahead)?;
            let (sin, cos) = Degrees(angle).sin_cos();
            (angle, wheel * cos - trail * sin)
        } else if has(Wish::Rake) {
            (turned(to_axle.x, -to_axle.y, ahead - rake)?, rake)
        } else {
            let (sin, cos) = Degrees(head).sin_cos();
            (head, ahead + to_axle.x * sin + to_axle.y * cos)
        };
        let front_axle = if has(Wish::ToeRoom) {
            axle
        } else {
            // Level with the drop, so far ahead of the clamp that it lies on the axis with its rake.
            let (sin, cos) = Degrees(angle).sin_cos();
            let x = (rake - ahead - (drop - self.clamp.y) * cos) / sin;
            Point::new(self.clamp.x + x, drop)
        };
        Some(Steering {
            angle,
            rake,
            front_axle,
        })
    }

    /// Top centre of the head tube under a stem, the steering axis as it is.
    fn head_top(&self, sheet: &Sheet, (spacers, stem_angle): (f64, f64), angle: f64) -> Point {
        let leaves = Degrees(90.0 - angle + stem_angle);
        let arm = Point::polar(Millimetres(sheet.get(Wish::Stem)), leaves);
        let up = sheet.get(Wish::Cover) + spacers + self.with.cockpit.stem_clamp_mm.0 / 2.0;
        self.clamp - arm - along(angle) * up
    }

    /// `(stack − y_F + rake cos θ) / sin θ − √(fork² − rake²) − lower stack`.
    fn head_tube(&self, sheet: &Sheet, stem: (f64, f64), drop: f64, steering: &Steering) -> f64 {
        let top = self.head_top(sheet, stem, steering.angle);
        let (sin, cos) = Degrees(steering.angle).sin_cos();
        let fork = sheet.get(Wish::ForkLength);
        let leg = (fork * fork - steering.rake * steering.rake)
            .max(0.0)
            .sqrt();
        (top.y - drop + steering.rake * cos) / sin - leg - sheet.get(Wish::LowerStack)
    }

    /// Everything on one frame, to the hundredth of a degree and the tenth of a millimetre.
    fn frame(
        &self,
        sheet: &Sheet,
        stem: (f64, f64),
        (angle, rake): (f64, f64),
        (seat, out): (f64, f64),
        (drop, front_axle): (f64, Point),
    ) -> Frame {
        let angle = hundredth(angle);
        let top = self.head_top(sheet, stem, angle);
        let steering = Steering {
            angle,
            rake,
            front_axle,
        };
        let mm = |value: f64| Millimetres(tenth(value));
        Frame {
            frame_reach_mm: mm(top.x),
            frame_stack_mm: mm(top.y),
            head_angle_deg: Degrees(angle),
            head_tube_mm: mm(self.head_tube(sheet, stem, drop, &steering)),
            seat_angle_deg: Degrees(hundredth(seat)),
            seat_tube_mm: mm(out - sheet.get(Wish::PostOut)),
            chainstay_mm: mm(sheet.get(Wish::Chainstay)),
            bb_drop_mm: mm(drop),
            front_centre_mm: mm(front_axle.length()),
            wheel_radius_mm: mm(sheet.get(Wish::WheelRadius)),
            lower_stack_mm: mm(sheet.get(Wish::LowerStack)),
            steerer_mm: None,
            tyre_mm: Some(mm(sheet.get(Wish::Tyre))),
            sag_mm: self.from.frame.sag_mm,
            standover_mm: None,
            bike_mass_kg: self.from.frame.bike_mass_kg,
        }
    }

    /// The seat tube as short as standing over asks, where the post is free to answer it; and how high one stands over it.
    fn over(&self, sheet: &Sheet, mut frame: Frame, out: f64) -> Frame {
        let high = |frame: &Frame| Millimetres(tenth(standover(frame)));
        let least = sheet.get(Wish::StandoverRoom);
        let short = |frame: &Frame| self.room_over(frame).is_some_and(|room| room < least - MET);
        frame.standover_mm = Some(high(&frame));
        if sheet.is_fixed(Wish::StandoverRoom) && !sheet.is_fixed(Wish::PostOut) && short(&frame) {
            let with = |tube: f64| {
                let mut shorter = frame;
                shorter.seat_tube_mm = Millimetres(tube);
                shorter.standover_mm = Some(Millimetres(standover(&shorter)));
                shorter
            };
            let off = |tube: f64| {
                self.room_over(&with(tube))
                    .map_or(f64::NAN, |room| room - least)
            };
            let shortest = (out - Wish::PostOut.spec().max).max(Quantity::SeatTube.spec().min);
            if let Some(tube) = root(shortest, frame.seat_tube_mm.0, off) {
                frame.seat_tube_mm = Millimetres((tube * 10.0).floor() / 10.0);
                frame.standover_mm = Some(high(&frame));
            }
        }
        frame
    }

    /// Room under the rider; none until the inseam is measured.
    fn room_over(&self, frame: &Frame) -> Option<f64> {
        crate::bike::standover(frame, self.from.rider.body.inseam_mm?).map(|room| room.0)
    }

    /// The fixed wishes an answer does not meet.
    fn unmet(&self, sheet: &Sheet, answer: &Answer) -> Vec<Wish> {
        let misses = |wish: &Wish| {
            let (wanted, got) = (sheet.get(*wish), answer.got.get(*wish));
            let known = match wish {
                Wish::PedalLean => self.lean(&answer.frame).is_some(),
                Wish::StandoverRoom => self.room_over(&answer.frame).is_some(),
                _ => true,
            };
            let off = if at_least(*wish) {
                wanted - got
            } else {
                (wanted - got).abs()
            };
            sheet.is_fixed(*wish)
                && known
                && off
                    > MET
                        + if wish.spec().unit == Unit::Deg {
                            0.0
                        } else {
                            0.1
                        }
        };
        Wish::ALL.iter().copied().filter(misses).collect()
    }

    /// What does not go together, and what frees it.
    fn conflicts(&self, sheet: &Sheet, answer: Option<&Answer>) -> Vec<Conflict> {
        let Some(answer) = answer else {
            let frees = self.frees(sheet, None);
            return vec![Conflict {
                words: "No frame has these together".to_owned(),
                frees,
            }];
        };
        let unmet = self.unmet(sheet, answer);
        let conflict = |wish: &Wish| {
            let spec = wish.spec();
            let unit = spec.unit.suffix();
            let least = if at_least(*wish) { "at least " } else { "" };
            Conflict {
                words: format!(
                    "{} comes to {}{unit}, and {least}{}{unit} is wished",
                    spec.label,
                    written(answer.got.get(*wish)),
                    written(sheet.get(*wish))
                ),
                frees: self.frees(sheet, Some(*wish)),
            }
        };
        let mut all: Vec<Conflict> = unmet.iter().map(conflict).collect();
        all.extend(
            answer
                .frame
                .refusals("")
                .into_iter()
                .map(|refusal| Conflict {
                    words: refusal.detail,
                    frees: Vec::new(),
                }),
        );
        all
    }

    /// Each wish that, let free by itself, frees another; the smallest change first, in steps of each.
    fn frees(&self, sheet: &Sheet, unmet: Option<Wish>) -> Vec<Freed> {
        let was = self
            .solve(sheet)
            .map(|answer| self.unmet(sheet, &answer).len());
        let mut all: Vec<(f64, Freed)> = (Wish::ALL.iter())
            .filter(|wish| sheet.is_fixed(**wish))
            .filter_map(|wish| {
                let freed = sheet.with(*wish, false);
                let answer = self.solve(&freed)?;
                let left = self.unmet(&freed, &answer);
                let to = answer.got.get(*wish);
                let spec = wish.spec();
                let helps = unmet.is_none_or(|unmet| !left.contains(&unmet))
                    && was.is_none_or(|was| left.len() < was)
                    && (to - sheet.get(*wish)).abs() > MET
                    && (spec.min..=spec.max).contains(&to);
                let to = if spec.unit == Unit::Deg {
                    hundredth(to)
                } else {
                    tenth(to)
                };
                let unit = spec.unit.suffix();
                let words = format!(
                    "{} {} → {}{unit}",
                    spec.label,
                    written(sheet.get(*wish)),
                    written(to)
                );
                helps.then(|| {
                    (
                        (to - sheet.get(*wish)).abs() / spec.step,
                        Freed {
                            wish: *wish,
                            to,
                            words,
                        },
                    )
                })
            })
            .collect();
        all.sort_by(|(a, _), (b, _)| a.total_cmp(b));
        all.into_iter().map(|(_, freed)| freed).collect()
    }
}

/// How a front wheel stands.
#[derive(Debug, Clone, Copy)]
struct Steering {
    angle: f64,
    rake: f64,
    front_axle: Point,
}

/// Up and back along an axis at an angle from horizontal.
fn along(angle: f64) -> Point {
    let (sin, cos) = Degrees(angle).sin_cos();
    Point::new(-cos, sin)
}

fn square_back(axis: Point) -> Point {
    axis.turned(Degrees(90.0))
}

/// `t = (r cos θ − rake) / sin θ`.
fn trail(wheel: f64, angle: f64, rake: f64) -> f64 {
    let (sin, cos) = Degrees(angle).sin_cos();
    (wheel * cos - rake) / sin
}

/// Ground to the top tube's upper edge at its middle.
fn standover(frame: &Frame) -> f64 {
    let (seat, head) = top_tube(frame);
    let lies = (head - seat).direction();
    let middle = f64::midpoint(seat.y, head.y) + TOP_TUBE_MM / 2.0 / lies.sin_cos().1;
    middle - frame.bb_drop_mm.0 + frame.wheel_radius_mm.0
}

/// The top tube's ends on its middle line, as it is assumed: at the seat tube, at the head tube.
pub fn top_tube(frame: &Frame) -> (Point, Point) {
    (
        frame.post_axis() * (frame.seat_tube_mm.0 - TOP_TUBE_BELOW_POST_MM),
        frame.head_top() - frame.steerer_axis() * TOP_TUBE_BELOW_TOP_MM,
    )
}

/// A frame around contact points. `with` is what is put on it: bar, saddle and cranks.
///
/// What is wished and fixed holds, where it goes together with the rest; what does not is told, with what would free it.
pub fn made(from: &Trying, with: &Setup, wishes: &[Wished]) -> Result<Made, Vec<Refusal>> {
    let mut setup = *with;
    setup.saddle.place(from.before.bike.sit);
    setup.pedalling = from.before_setup().pedalling;
    let placed = Placed::of(setup).ok_or_else(|| vec![Placed::refusal("/setup")])?;
    let maker = Maker {
        from,
        with: setup,
        clamp: from.before.bike.hand - setup.bar.hand_offset(),
        rails: (rail_middle(&placed), setup.saddle.rails_back()),
        shoe: shoe_ahead(from),
    };
    let sheet = Sheet::of(wishes);
    let answer = maker.solve(&sheet);
    let conflicts = maker.conflicts(&sheet, answer.as_ref());
    let Some(answer) = answer else {
        let none = "No frame has these wishes together: let one of them free";
        return Err(vec![Refusal::new("/wishes", none)]);
    };
    let (frame, got) = (answer.frame, answer.got);
    setup.residual = crate::bike::Residual::default();
    setup.cockpit.cover_mm = Millimetres(got.get(Wish::Cover));
    setup.cockpit.spacers_below_mm = Millimetres(tenth(got.get(Wish::Spacers)));
    setup.cockpit.spacers_above_mm = Millimetres(0.0);
    setup.cockpit.stem_mm = Millimetres(got.get(Wish::Stem));
    setup.cockpit.stem_angle_deg = Degrees(hundredth(got.get(Wish::StemAngle)));
    setup.post.post_setback_mm = Some(Millimetres(tenth(got.get(Wish::PostSetback))));
    Ok(Made {
        dimensions: dimensions(&sheet, &answer),
        told: told(from, &frame, &setup, maker.lean(&frame).is_some()),
        assumed: assumed(),
        frame,
        setup,
        conflicts,
    })
}

/// What a dimension is read from.
#[derive(Clone, Copy)]
enum Of {
    /// The frame, which nothing but the rest decides.
    Frame(Quantity),
    /// The frame, as a wish has it.
    Both(Quantity, Wish),
    /// What a wish came to.
    Wish(Wish),
    TopTube,
    Wheelbase,
}

/// Every dimension: its key, its name, whether it is built to, what it is.
const DIMENSIONS: [(&str, &str, bool, Of); 23] = [
    ("reach", "Reach", true, Of::Frame(Quantity::FrameReach)),
    ("stack", "Stack", true, Of::Frame(Quantity::FrameStack)),
    (
        "seat_angle",
        "Seat tube angle",
        true,
        Of::Both(Quantity::SeatAngle, Wish::SeatAngle),
    ),
    (
        "seat_tube",
        "Seat tube, BB to the post’s clamp",
        true,
        Of::Frame(Quantity::SeatTube),
    ),
    ("top_tube", "Effective top tube", false, Of::TopTube),
    (
        "head_angle",
        "Head angle",
        true,
        Of::Both(Quantity::HeadAngle, Wish::HeadAngle),
    ),
    (
        "head_tube",
        "Head tube",
        true,
        Of::Frame(Quantity::HeadTube),
    ),
    (
        "front_centre",
        "Front centre",
        true,
        Of::Frame(Quantity::FrontCentre),
    ),
    (
        "chainstay",
        "Chainstay",
        true,
        Of::Both(Quantity::Chainstay, Wish::Chainstay),
    ),
    (
        "bb_drop",
        "BB drop",
        true,
        Of::Both(Quantity::BbDrop, Wish::BbDrop),
    ),
    ("wheelbase", "Wheelbase", false, Of::Wheelbase),
    ("trail", "Trail", false, Of::Wish(Wish::Trail)),
    ("rake", "Fork rake", true, Of::Wish(Wish::Rake)),
    (
        "fork",
        "Fork length, axle to crown",
        true,
        Of::Wish(Wish::ForkLength),
    ),
    (
        "lower_stack",
        "Lower headset stack",
        true,
        Of::Both(Quantity::LowerStack, Wish::LowerStack),
    ),
    (
        "wheel_radius",
        "Wheel radius, tyre on",
        false,
        Of::Both(Quantity::WheelRadius, Wish::WheelRadius),
    ),
    (
        "toe_room",
        "Room for the toe",
        false,
        Of::Wish(Wish::ToeRoom),
    ),
    (
        "standover",
        "Standover",
        false,
        Of::Frame(Quantity::Standover),
    ),
    (
        "post_out",
        "Post out of the seat tube",
        false,
        Of::Wish(Wish::PostOut),
    ),
    (
        "post_setback",
        "Post setback",
        false,
        Of::Wish(Wish::PostSetback),
    ),
    ("stem", "Stem", false, Of::Wish(Wish::Stem)),
    ("stem_angle", "Stem angle", false, Of::Wish(Wish::StemAngle)),
    (
        "spacers",
        "Spacers below the stem",
        false,
        Of::Wish(Wish::Spacers),
    ),
];

/// Every dimension for the builder.
fn dimensions(sheet: &Sheet, answer: &Answer) -> Vec<Dimension> {
    let (frame, got) = (&answer.frame, &answer.got);
    let from = |wish: Wish| match wish.spec().part {
        WishPart::Chosen => MadeFrom::Chosen,
        _ if sheet.is_fixed(wish) && (sheet.get(wish) - got.get(wish)).abs() <= 0.15 => {
            MadeFrom::Wished
        }
        _ => MadeFrom::Solved,
    };
    let row = |(key, label, built, of): &(&str, &str, bool, Of)| {
        let (value, unit, from) = match *of {
            Of::Frame(quantity) => (frame.get(quantity)?, quantity.spec().unit, MadeFrom::Solved),
            Of::Both(quantity, wish) => (frame.get(quantity)?, quantity.spec().unit, from(wish)),
            Of::Wish(wish) => (got.get(wish), wish.spec().unit, from(wish)),
            Of::TopTube => {
                let (sin, cos) = frame.seat_angle_deg.sin_cos();
                let along = frame.frame_reach_mm.0 + frame.frame_stack_mm.0 * cos / sin;
                (along, Unit::Mm, MadeFrom::Solved)
            }
            Of::Wheelbase => {
                let between = answer.front_axle.x - frame.rear_axle().x;
                (between, Unit::Mm, MadeFrom::Solved)
            }
        };
        let (value, tolerance) = match unit {
            Unit::Deg => (hundredth(value), ANGLE_TOLERANCE_DEG),
            _ => (tenth(value), LENGTH_TOLERANCE_MM),
        };
        Some(Dimension {
            key: (*key).to_owned(),
            label: (*label).to_owned(),
            value,
            unit,
            tolerance: built.then_some(tolerance),
            from,
        })
    };
    DIMENSIONS.iter().filter_map(row).collect()
}

/// What is told of a frame.
fn told(from: &Trying, frame: &Frame, setup: &Setup, lean_known: bool) -> Vec<String> {
    let sit = from.before.bike.sit;
    let mut all = vec![format!(
        "One degree of seat angle moves the saddle {} mm at this height",
        written(sit.length() * 1.0_f64.to_radians())
    )];
    let mut longer = *frame;
    longer.chainstay_mm.0 += 10.0;
    if let Some((share, with)) = front_share(from, frame).zip(front_share(from, &longer)) {
        all.push(format!(
            "{} % on the front wheel, an estimate; 10 mm more of chainstay: {} %",
            written(share),
            written(with)
        ));
    }
    let ground = axle_to_ground(frame, &setup.pedalling.right).0;
    all.push(format!(
        "Pedal axle {} mm above the ground at the bottom",
        written(ground)
    ));
    if !lean_known {
        all.push("How far it leans until a pedal strikes is not known: the pedal’s outer end and lower edge are not taped".to_owned());
    }
    if from.rider.body.inseam_mm.is_none() {
        all.push("Room over the top tube is not known: the inseam is not measured".to_owned());
    }
    all
}

/// What was assumed of every frame.
fn assumed() -> Vec<String> {
    let below = [
        (
            "leaves the seat tube",
            TOP_TUBE_BELOW_POST_MM,
            "below where the post comes out",
        ),
        (
            "meets the head tube",
            TOP_TUBE_BELOW_TOP_MM,
            "below its top",
        ),
    ]
    .map(|(what, by, from)| format!("{what} {} mm {from}", written(by)));
    vec![
        "Bar, saddle, shoes, pedals and cranks are those of the position".to_owned(),
        "Wheels are alike, tyres on and pumped up; the bike stands level".to_owned(),
        format!(
            "The top tube’s middle line {}, {}, and it is {} mm thick: one stands over its middle",
            below[0],
            below[1],
            written(TOP_TUBE_MM)
        ),
        "Fork length is with the rider on it".to_owned(),
    ]
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example::{self, trying};
    use crate::foresee::ForeseeInput;
    use proptest::prelude::*;

    fn set(wishes: &mut [Wished], wish: Wish, value: f64, fixed: bool) {
        for one in wishes.iter_mut().filter(|one| one.wish == wish) {
            (one.value, one.fixed) = (value, fixed);
        }
    }

    fn got(made: &Made, key: &str) -> f64 {
        made.dimensions
            .iter()
            .find(|one| one.key == key)
            .unwrap()
            .value
    }

    /// A frame of the road example with some wishes otherwise.
    fn of(input: &ForeseeInput, otherwise: &[(Wish, f64, bool)]) -> Made {
        trying(input, |on| {
            let mut wishes = ordinary_wishes(on, on.before_setup());
            for (wish, value, fixed) in otherwise {
                set(&mut wishes, *wish, *value, *fixed);
            }
            assert!(wish_refusals(&wishes, "").is_empty());
            made(on, on.before_setup(), &wishes).unwrap()
        })
    }

    #[test]
    fn typed_in_as_a_bike_it_puts_the_rider_where_he_was() {
        for input in example::all() {
            let made = of(&input, &[]);
            let mut bike = input.clone();
            (bike.frame, bike.setup) = (made.frame, made.setup);
            let (was, is) = (
                trying(&input, |on| on.before.clone()),
                trying(&bike, |on| on.before.clone()),
            );
            assert!(was.bike.sit.distance(is.bike.sit) < 0.5);
            assert!(
                was.bike.hand.distance(is.bike.hand) < 0.5,
                "{:?} {:?}",
                was.bike.hand,
                is.bike.hand
            );
            assert!(is.clearances.perch.clamp_ahead_mm.unwrap().0.abs() < 0.2);
            // Trail and room for the toe as wished, by the points of the bike.
            let toe = is.clearances.toe_mm;
            assert!((toe.left.0.min(toe.right.0) - 10.0).abs() < 0.5, "{toe:?}");
            let axis = bike.frame.steerer_axis();
            let square = axis.turned(Degrees(-90.0));
            let rake = (bike.frame.front_axle() - bike.frame.head_top()).dot(square);
            let trail = trail(
                bike.frame.wheel_radius_mm.0,
                bike.frame.head_angle_deg.0,
                rake,
            );
            let wished = got(&made, "trail");
            assert!((trail - wished).abs() < 0.5, "{trail} {wished}");
            assert!(made.conflicts.is_empty(), "{:?}", made.conflicts);
        }
    }

    #[test]
    fn golden_trail_and_rake_give_the_head_angle() {
        // r 340, t 58, rake 45: θ = acos(45 / 344.911) − atan2(58, 340) = 82.5036 − 9.6806 = 72.823.
        let road = example::road();
        let made = of(
            &road,
            &[(Wish::Rake, 45.0, true), (Wish::ToeRoom, 0.0, false)],
        );
        assert!(
            (made.frame.head_angle_deg.0 - 72.82).abs() < 0.011,
            "{}",
            made.frame.head_angle_deg.0
        );
        assert!((got(&made, "trail") - 58.0).abs() < 0.1);
    }

    #[test]
    fn every_pair_of_wishes_of_the_front_is_met() {
        let road = example::road();
        let front = [
            (Wish::Trail, 60.0, "trail"),
            (Wish::Rake, 47.0, "rake"),
            (Wish::HeadAngle, 72.0, "head_angle"),
            (Wish::ToeRoom, 5.0, "toe_room"),
        ];
        for one in 0..front.len() {
            for other in one + 1..front.len() {
                let wishes: Vec<_> = (front.iter().enumerate())
                    .map(|(at, (wish, value, _))| (*wish, *value, at == one || at == other))
                    .collect();
                let made = of(&road, &wishes);
                for at in [one, other] {
                    let (_, value, key) = front[at];
                    assert!(
                        (got(&made, key) - value).abs() < 0.15,
                        "{key} {}",
                        got(&made, key)
                    );
                }
                assert!(made.conflicts.is_empty(), "{:?}", made.conflicts);
            }
        }
    }

    #[test]
    fn the_seat_answers_whichever_two_are_fixed() {
        let road = example::road();
        let seat = |angle: bool, back: bool, ahead: bool| {
            of(
                &road,
                &[
                    (Wish::SeatAngle, 74.5, angle),
                    (Wish::PostSetback, 15.0, back),
                    (Wish::ClampAhead, 4.0, ahead),
                ],
            )
        };
        for made in [
            seat(false, true, true),
            seat(true, false, true),
            seat(true, true, false),
            seat(true, false, false),
        ] {
            let mut bike = road.clone();
            (bike.frame, bike.setup) = (made.frame, made.setup);
            let perch = trying(&bike, |on| on.before.clearances.perch.clone());
            let ahead = perch.clamp_ahead_mm.unwrap().0;
            let setback = made.setup.post.post_setback_mm.unwrap().0;
            let met = [
                (made.frame.seat_angle_deg.0 - 74.5).abs() < 0.01,
                (setback - 15.0).abs() < 0.2,
                (ahead - 4.0).abs() < 0.3,
            ];
            assert_eq!(
                met.iter().filter(|met| **met).count(),
                2,
                "{met:?} {setback} {ahead}"
            );
        }
    }

    #[test]
    fn the_lean_wished_gives_the_drop() {
        let road = example::road();
        let made = of(
            &road,
            &[(Wish::BbDrop, 70.0, false), (Wish::PedalLean, 28.0, true)],
        );
        let mut bike = road.clone();
        (bike.frame, bike.setup) = (made.frame, made.setup);
        let lean = trying(&bike, |on| {
            on.before.clearances.pedal_lean_deg.left.unwrap().0
        });
        assert!((lean - 28.0).abs() < 0.05, "{lean}");
    }

    type Otherwise<'a> = &'a [(Wish, f64, bool)];

    /// Conflicts, each with wishes that make it, and the wish whose change frees it.
    #[test]
    fn what_does_not_go_together_is_told_with_what_frees_it() {
        let road = example::road();
        let cases: [(Otherwise, Wish, Wish); 6] = [
            (
                &[(Wish::Rake, 45.0, true), (Wish::ToeRoom, 60.0, true)],
                Wish::ToeRoom,
                Wish::Rake,
            ),
            (
                &[(Wish::Rake, 45.0, true), (Wish::HeadAngle, 70.0, true)],
                Wish::HeadAngle,
                Wish::Trail,
            ),
            (
                &[(Wish::SeatAngle, 76.0, true)],
                Wish::SeatAngle,
                Wish::PostSetback,
            ),
            (
                &[(Wish::PedalLean, 45.0, true)],
                Wish::PedalLean,
                Wish::BbDrop,
            ),
            (
                &[
                    (Wish::StandoverRoom, 110.0, true),
                    (Wish::PostOut, 160.0, true),
                ],
                Wish::StandoverRoom,
                Wish::PostOut,
            ),
            (
                &[(Wish::HeadTube, 170.0, true), (Wish::Spacers, 40.0, true)],
                Wish::HeadTube,
                Wish::Spacers,
            ),
        ];
        for (otherwise, unmet, frees) in cases {
            let made = of(&road, otherwise);
            let told = made
                .conflicts
                .iter()
                .find(|one| one.words.starts_with(unmet.label()));
            let told = told.unwrap_or_else(|| panic!("{unmet:?}: {:?}", made.conflicts));
            let freed = told.frees.iter().find(|freed| freed.wish == frees);
            let freed = freed.unwrap_or_else(|| panic!("{frees:?}: {told:?}"));
            // Changed as told, it is free.
            let mut with = otherwise.to_vec();
            with.push((frees, freed.to, true));
            let again = of(&road, &with);
            assert!(
                !again
                    .conflicts
                    .iter()
                    .any(|one| one.words.starts_with(unmet.label())),
                "{unmet:?} {freed:?} {:?}",
                again.conflicts
            );
        }
    }

    proptest! {
        #![proptest_config(ProptestConfig::with_cases(64))]
        /// Whatever is wished within what there is, the answer puts the hands and the saddle there, or is refused.
        #[test]
        fn contact_points_hold_whatever_is_wished(
            trail in 30.0..90.0_f64, rake in 30.0..60.0_f64, toe in -20.0..40.0_f64, stem in 60.0..130.0_f64,
            angle in -17.0..17.0_f64, setback in -10.0..30.0_f64, fixed in prop::array::uniform4(any::<bool>()),
        ) {
            let road = example::road();
            trying(&road, |on| {
                let mut wishes = ordinary_wishes(on, on.before_setup());
                set(&mut wishes, Wish::Trail, trail, fixed[0]);
                set(&mut wishes, Wish::Rake, rake, fixed[1]);
                set(&mut wishes, Wish::ToeRoom, toe, fixed[2]);
                set(&mut wishes, Wish::HeadAngle, 72.5, fixed[3]);
                set(&mut wishes, Wish::Stem, stem, true);
                set(&mut wishes, Wish::StemAngle, angle, true);
                set(&mut wishes, Wish::PostSetback, setback, true);
                if let Ok(made) = made(on, on.before_setup(), &wishes) {
                    let placed = Placed::of(made.setup).unwrap();
                    let bike = crate::bike::BikePoints::of(&made.frame, &placed);
                    assert!(bike.hand.distance(on.before.bike.hand) < 0.5);
                    assert!(bike.sit.distance(on.before.bike.sit) < 0.5);
                }
            });
        }
    }
}
