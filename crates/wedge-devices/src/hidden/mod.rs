//! A rider behind the stand-ins whose truth nobody sees before the end: real lengths, where each axis has its window, what is
//! wrong besides, how he feels and how he talks. He is a seed and the version of the laws; everything of him is thrown anew
//! from these and from what was measured of him, so nothing of his truth is ever kept.

mod laws;
mod moving;
mod trouble;
mod voice;

pub use laws::LAWS;
pub use moving::Moving;
pub use trouble::{Trouble, Troubled};
pub use voice::{Answered, Asked};

use crate::body::{Body, Sight, Two};
use crate::dice::Dice;
use laws::{ONTO_NOSE, Wrong, law};
use serde::Serialize;
use wedge_core::bike::{BarKind, BikePoints, Setup};
use wedge_core::foresee::{ForeseeInput, Trying};
use wedge_core::intake::Intake;
use wedge_core::judge::{Axis, Wish, Wishing, wishes};
use wedge_core::measure::{Quantity, Refusal};
use wedge_core::rider::{Length, Lengths};
use wedge_core::school::{Leads, Lean};
use wedge_core::units::{Millimetres, Side};

/// How far right places on an axis lie from what schools wish, one standard deviation, and half of a usual window.
pub fn spreads(axis: Axis) -> (f64, f64) {
    let law = law(axis);
    (law.around, law.half)
}

/// What schools wish of a rider of whom nothing but his measures is known.
pub(crate) fn plain_wishes(trying: &Trying) -> Vec<Wish> {
    let wishing = Wishing {
        leads: &Leads::default(),
        intake: &Intake::default(),
        lean: &Lean::default(),
        label: None,
    };
    wishes(trying, &wishing)
}

/// How a rider talks.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize)]
#[serde(rename_all = "snake_case")]
pub enum Character {
    /// Says what he feels.
    Plain,
    /// Is seldom sure, and leaves some of it out.
    Vague,
    /// One answer in ten is the other way round.
    Contrary,
}

/// Where one axis has its window.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
pub struct Window {
    /// Its middle, from the bike as found.
    pub centre: f64,
    /// Half of it.
    pub half: f64,
}

impl Window {
    /// How far a place lies outside, with its sign; 0 inside.
    pub fn beyond(self, place: f64) -> f64 {
        let off = place - self.centre;
        off.signum() * (off.abs() - self.half).max(0.0)
    }
}

/// A rider nobody knows.
#[derive(Debug, Clone)]
pub struct HiddenRider {
    seed: u64,
    body: Body,
    windows: Vec<Window>,
    troubles: Vec<Troubled>,
    character: Character,
    feels_mm: f64,
    /// How much of all noise there is; 1 is usual.
    noise: f64,
    /// Between the hands, of the bike as found.
    spacing: f64,
    /// How far the hips were from the lowest pedals on the bike as found.
    found: Two,
}

/// Names of the rows of draws of one rider: what is thrown, and what is answered to the how-manieth question.
#[derive(Debug, Clone, Copy)]
enum Row {
    Body,
    Windows,
    Troubles,
    Mind,
    Bears,
    Asked,
    Placed,
}

impl Row {
    const fn name(self, of: u64) -> u64 {
        (self as u64) << 32 | of
    }
}

/// Everything that is wrong where a rider stands, in half-widths.
#[derive(Debug, Clone)]
struct Out {
    /// Beyond the window, with its sign, axis by axis.
    axes: Vec<f64>,
    nose: f64,
}

impl HiddenRider {
    /// The rider behind what was measured of one on a bike as found. What was measured is right but for the tape, what was
    /// estimated but for its spread; right places lie around what several schools would wish of the body as it is.
    ///
    /// # Errors
    ///
    /// What was measured makes no rider on a bike, or nobody with such a body can sit on it.
    pub fn behind(seed: u64, known: &ForeseeInput) -> Result<Self, Vec<Refusal>> {
        Self::thrown(seed, known, 0)
    }

    /// The same; where the body that was thrown does not sit on this bike, the next that does.
    ///
    /// # Errors
    ///
    /// As [`HiddenRider::behind`].
    pub fn seated(seed: u64, known: &ForeseeInput) -> Result<Self, Vec<Refusal>> {
        const THROWS: u64 = 40;
        let later = (1..THROWS).map(|throw| Self::thrown(seed, known, throw));
        let first = Self::behind(seed, known);
        match first {
            Ok(rider) => Ok(rider),
            Err(why) => later.into_iter().find_map(Result::ok).ok_or(why),
        }
    }

    pub(crate) fn thrown(
        seed: u64,
        known: &ForeseeInput,
        throw: u64,
    ) -> Result<Self, Vec<Refusal>> {
        let body = thrown_body(&mut Dice::of(seed, Row::Body.name(throw)), known);
        let sight = sits(&body, known)?;
        let mut mind = Dice::of(seed, Row::Mind.name(0));
        let talks = mind.unit();
        Ok(Self {
            seed,
            windows: windows(seed, known, &body, &sight)?,
            troubles: troubles(&mut Dice::of(seed, Row::Troubles.name(0))),
            character: match talks {
                talks if talks < 0.6 => Character::Plain,
                talks if talks < 0.85 => Character::Vague,
                _ => Character::Contrary,
            },
            feels_mm: mind.between(2.0, 8.0),
            noise: 1.0,
            spacing: spacing(known),
            found: sight.hip_to_axle,
            body,
        })
    }

    /// The same with nothing but these troubles.
    #[must_use]
    pub fn troubled_by(self, troubles: Vec<Troubled>) -> Self {
        Self { troubles, ..self }
    }

    /// The same, talking like this.
    #[must_use]
    pub fn speaking(self, character: Character) -> Self {
        Self { character, ..self }
    }

    /// What he is thrown from.
    pub fn seed(&self) -> u64 {
        self.seed
    }

    /// His body as it is: the truth, for the end.
    pub fn body(&self) -> &Body {
        &self.body
    }

    /// The same with so much of the usual noise in everything said, seen and found.
    #[must_use]
    pub fn with_noise(self, noise: f64) -> Self {
        Self { noise, ..self }
    }

    /// How much of the usual noise there is.
    pub fn noise(&self) -> f64 {
        self.noise
    }

    /// The same, once the bike was set up elsewhere before anybody came to look: places count from there.
    ///
    /// # Errors
    ///
    /// Nobody with this body can sit on it.
    pub fn on_another(
        mut self,
        places: &[f64],
        known: &ForeseeInput,
    ) -> Result<Self, Vec<Refusal>> {
        for (window, by) in self.windows.iter_mut().zip(places) {
            window.centre -= by;
        }
        self.found = sits(&self.body, known)?.hip_to_axle;
        Ok(self)
    }

    /// Where an axis has its window: the truth, for the end.
    pub fn window(&self, axis: Axis) -> Window {
        self.windows[axis as usize]
    }

    /// What is wrong besides: the truth, for the end.
    pub fn troubles(&self) -> &[Troubled] {
        &self.troubles
    }

    /// How he talks: the truth, for the end.
    pub fn character(&self) -> Character {
        self.character
    }

    /// Whether every window holds where the bike stands, to within what tapes are off by where `taped`.
    pub fn is_right(&self, places: &[f64], taped: bool) -> bool {
        Axis::ALL
            .iter()
            .all(|axis| self.is_right_on(*axis, places, taped))
    }

    /// The same of one axis.
    pub fn is_right_on(&self, axis: Axis, places: &[f64], taped: bool) -> bool {
        let near = if taped { law(axis).tape } else { 0.0 };
        self.window(axis).beyond(places[axis as usize]).abs() <= near + 1e-9
    }

    /// What there is to see of him on a setup; `None` where a limb does not simply reach. He slides and bends where he has to.
    pub fn sight(&self, bike: &BikePoints, setup: &Setup, places: &[f64]) -> Option<Sight> {
        let body = self.sitting(&self.out(places));
        body.on(bike, setup, self.spacing, Some(self.found))
    }

    /// The body as it sits with what is wrong.
    fn sitting(&self, out: &Out) -> Body {
        let low = (-out.axes[Axis::Bars as usize]).max(0.0);
        Body {
            slide: 6.0 * out.nose.min(3.0),
            bend: 0.01 * low.min(3.0),
            ..self.body.clone()
        }
    }

    /// What is wrong where the bike stands.
    fn out(&self, places: &[f64]) -> Out {
        let axes = Axis::ALL.iter().map(|axis| {
            let window = self.window(*axis);
            (window.beyond(places[*axis as usize]) / window.half).clamp(-4.0, 4.0)
        });
        let mut out = Out {
            axes: axes.collect(),
            nose: self.level(Trouble::OnNose, None),
        };
        out.nose += ONTO_NOSE
            .iter()
            .map(|(wrong, by)| by * self.much(&out, *wrong, None))
            .sum::<f64>();
        out
    }

    /// How bad a trouble is, on a side where it is one side's.
    fn level(&self, trouble: Trouble, side: Option<Side>) -> f64 {
        let of = self.troubles.iter().filter(|of| of.trouble == trouble);
        of.filter(|of| side.is_none() || of.side.is_none() || of.side == side)
            .map(|of| of.level)
            .sum()
    }

    /// How much of something is wrong, as one side feels it; the worse side where none is named.
    fn much(&self, out: &Out, wrong: Wrong, side: Option<Side>) -> f64 {
        let of_side = |left: Axis, right: Axis, way: i8| {
            let at = |axis: Axis| (f64::from(way) * out.axes[axis as usize]).max(0.0);
            match side {
                Some(Side::Left) => at(left),
                Some(Side::Right) => at(right),
                None => at(left).max(at(right)),
            }
        };
        match wrong {
            Wrong::Out(axis, way) => (f64::from(way) * out.axes[axis as usize]).max(0.0),
            Wrong::Cleat(way) => of_side(Axis::CleatL, Axis::CleatR, way),
            Wrong::Turn(way) => of_side(Axis::TurnL, Axis::TurnR, way),
            Wrong::Stance(way) => of_side(Axis::StanceL, Axis::StanceR, way),
            Wrong::Of(Trouble::OnNose) => out.nose,
            Wrong::Of(trouble) => self.level(trouble, side),
            Wrong::Across(trouble) => self.level(trouble, side.map(Side::other)),
        }
    }
}

/// What there is to see of a body on a bike as found.
fn sits(body: &Body, known: &ForeseeInput) -> Result<Sight, Vec<Refusal>> {
    let ride = known.check()?;
    let found = Trying::of(&ride);
    let setup = found.before_setup();
    let sight = body.on(&found.before.bike, setup, spacing(known), None);
    sight.ok_or_else(|| vec![Refusal::new("/setup", "Nobody of this size can sit on it")])
}

/// Between the hands, as the arms see it.
fn spacing(known: &ForeseeInput) -> f64 {
    let of = match known.setup.bar.kind() {
        BarKind::Drop => Quantity::BarWidth,
        BarKind::Flat => Quantity::FlatWidth,
        BarKind::Aero => Quantity::PadSpacing,
    };
    known.setup.get(of, None).unwrap_or(420.0)
}

/// A length as it may really be: a measured one but for the tape, an estimated one but for how people differ.
fn really(dice: &mut Dice, length: &Length) -> f64 {
    length.value_mm.0 + dice.normal(length.spread_mm.0)
}

fn thrown_body(dice: &mut Dice, known: &ForeseeInput) -> Body {
    let rider = &known.rider;
    let lengths = Lengths::of(&rider.body, &rider.legs, &rider.arms);
    let both = |dice: &mut Dice, of: fn(&wedge_core::rider::LegLengths) -> Length| {
        let [left, right] = Side::BOTH.map(|side| of(lengths.legs.of(side)));
        let drawn = dice.two(0.0, left.spread_mm.0);
        [left.value_mm.0 + drawn[0], right.value_mm.0 + drawn[1]]
    };
    let pitch = |of: fn(&wedge_core::rider::FootPitch) -> f64, dice: &mut Dice, sd: f64| {
        let drawn = dice.two(0.0, sd);
        let [left, right] = Side::BOTH.map(|side| of(rider.pitch.of(side)));
        [left + drawn[0], right + drawn[1]]
    };
    Body {
        thigh: both(dice, |leg| leg.thigh),
        shank: both(dice, |leg| leg.shank),
        ankle_height: both(dice, |leg| leg.ankle_height),
        foot_length: both(dice, |leg| leg.foot_length),
        trunk: really(dice, &lengths.trunk),
        upper_arm: really(dice, &lengths.upper_arm),
        forearm: really(dice, &lengths.forearm),
        hand: lengths.hand_mm.0,
        shoulder_breadth: really(dice, &lengths.shoulder_breadth),
        hip_rise: lengths.hip_rise_mm.0 + dice.normal(lengths.hip_rise_spread_mm.0),
        hip_forward: dice.normal(20.0),
        pelvis_share: (0.5 + dice.normal(0.15)).clamp(0.1, 0.9),
        elbow: (20.0 + dice.normal(5.0)).clamp(6.0, 60.0),
        pitch_mean: pitch(|pitch| pitch.mean_deg.0, dice, 5.0),
        pitch_swing: pitch(|pitch| pitch.amp_deg.0, dice, 4.0).map(|swing| swing.max(1.0)),
        pitch_peak: pitch(|pitch| pitch.peak_deg.0, dice, 15.0),
        pitch_response: (0.15 + dice.normal(0.1)).max(0.0),
        slide: 0.0,
        bend: 0.0,
    }
}

fn troubles(dice: &mut Dice) -> Vec<Troubled> {
    let mut all = Vec::new();
    for trouble in Trouble::ALL {
        // Every draw is made, so that one rider's troubles do not hang on another's chance.
        let (is_there, left, level) = (
            dice.happens(trouble.often()),
            dice.happens(0.5),
            dice.between(0.7, 1.5),
        );
        if is_there {
            all.push(Troubled {
                trouble,
                side: trouble
                    .is_one_sided()
                    .then_some(if left { Side::Left } else { Side::Right }),
                level,
            });
        }
    }
    all
}

/// Where the windows lie: around the wishes of two schools thrown for this rider, so that no school hits.
fn windows(
    seed: u64,
    known: &ForeseeInput,
    body: &Body,
    sight: &Sight,
) -> Result<Vec<Window>, Vec<Refusal>> {
    let mut dice = Dice::of(seed, Row::Windows.name(0));
    let real = as_measured(known, body);
    let ride = real.check()?;
    let trying = Trying::of(&ride);
    let mut wished: Vec<(Axis, f64)> = (plain_wishes(&trying).into_iter())
        .map(|wish| (wish.axis, wish.at))
        .collect();
    wished.extend(by_eye(sight));
    let all = Axis::ALL.iter().map(|axis| {
        let law = law(*axis);
        let of: Vec<f64> = (wished.iter().filter(|(of, _)| of == axis))
            .map(|(_, at)| *at)
            .collect();
        let mut pick = || of.get(dice.index(of.len())).copied();
        let middle = match (pick(), pick()) {
            (Some(one), Some(other)) => f64::midpoint(one, other),
            _ => 0.0,
        };
        Window {
            centre: middle + dice.normal(law.around),
            half: law.half * dice.between(0.8, 1.25),
        }
    });
    let mut all: Vec<Window> = all.collect();
    // The two feet of one rider are much alike.
    for (left, right) in [
        (Axis::CleatL, Axis::CleatR),
        (Axis::StanceL, Axis::StanceR),
        (Axis::TurnL, Axis::TurnR),
    ] {
        let middle = f64::midpoint(all[left as usize].centre, all[right as usize].centre);
        for axis in [left, right] {
            let centre = &mut all[axis as usize].centre;
            *centre = 0.35 * *centre + 0.65 * middle;
        }
    }
    Ok(all)
}

/// What those who read angles wish of a rider they see as he is.
fn by_eye(sight: &Sight) -> Vec<(Axis, f64)> {
    let mean = |two: Two| f64::midpoint(two[0], two[1]);
    let to = |wanted: f64, is: f64, per: f64| (wanted - is) / per;
    vec![
        (
            Axis::Height,
            to(37.0, mean(sight.knee_at_full_reach), -0.38),
        ),
        (Axis::Setback, to(0.0, mean(sight.knee_over_axle), -0.8)),
        (Axis::Bars, to(45.0, sight.torso, 0.083)),
        (Axis::Reach, 0.0),
        (Axis::Tilt, -0.5),
    ]
}

/// The rider as a tape that is never off would have measured him.
fn as_measured(known: &ForeseeInput, body: &Body) -> ForeseeInput {
    let mut real = known.clone();
    let mm = |value: f64| Some(Millimetres(value));
    real.fit = None;
    let of = &mut real.rider.body;
    of.trunk_mm = mm(body.trunk);
    of.shoulder_breadth_mm = mm(body.shoulder_breadth);
    for (index, side) in Side::BOTH.into_iter().enumerate() {
        let leg = real.rider.legs.of_mut(side);
        leg.thigh_mm = mm(body.thigh[index]);
        leg.shank_mm = mm(body.shank[index]);
        leg.foot_length_mm = mm(body.foot_length[index]);
    }
    real
}
