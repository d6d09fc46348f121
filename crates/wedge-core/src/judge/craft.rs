//! What the judge goes by: what bolts do to the axes, what angles and limits say of them, how strong each link is and how wide
//! each window. The house's, as the tables print it; a rider's, from the linkage; with what a studio has of its own.

use super::axis::{Axis, AxisSpec};
use super::case::{Bolt, Limited, Ranged};
use super::fault::Fault;
use super::links::{Causes, Strength, brings, felt, seen, short};
use super::tables::{Against, MoveSpec, against, bolt, limit_slopes};
use crate::intake::{Place, Stroke};
use crate::looking::Sign;
use crate::measure::{Refusal, Unit, within};
use serde::{Deserialize, Serialize};

/// What a link is from.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(rename_all = "snake_case")]
pub enum Tells {
    /// Something felt at a place of the body.
    Felt(Place),
    /// Something seen.
    Seen(Sign),
}

/// A studio's own strength of a link, in the place of the house's.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct OwnLink {
    /// What it is from.
    pub tells: Tells,
    /// To what.
    pub fault: Fault,
    /// How strong, 0 to 0.9; none where it says nothing.
    pub strength: f64,
}

/// A studio's own half-width of a rider's window.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct OwnHalf {
    /// Of which axis.
    pub axis: Axis,
    /// How wide to either side, in its unit.
    pub half: f64,
}

/// What a studio judges by that is not the house's.
#[derive(Debug, Clone, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields, default)]
pub struct OwnJudging {
    /// Its links.
    pub links: Vec<OwnLink>,
    /// Its half-widths.
    pub halves: Vec<OwnHalf>,
}

impl OwnJudging {
    /// The largest strength there is: nothing is certain.
    pub const STRONGEST: f64 = 0.9;
    /// A half-width is at least a third of the house's, and at most three times it.
    pub const WIDEST: f64 = 3.0;

    /// Everything that cannot be accepted, each with its JSON pointer below `at`: only links there are have a strength, and
    /// nothing stands twice.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = Vec::new();
        for (index, own) in self.links.iter().enumerate() {
            let at = format!("{at}/links/{index}");
            if links_of(own.tells).iter().all(|(f, _)| *f != own.fault) {
                all.push(Refusal::new(at.clone(), "There is no such link"));
            }
            if twice(&self.links[..index], |o| {
                (o.tells, o.fault) == (own.tells, own.fault)
            }) {
                all.push(Refusal::new(at.clone(), "This link stands twice: keep one"));
            }
            let pointer = format!("{at}/strength");
            all.extend(within(
                pointer,
                own.strength,
                0.0,
                Self::STRONGEST,
                "A strength",
            ));
        }
        for (index, own) in self.halves.iter().enumerate() {
            let at = format!("{at}/halves/{index}");
            if twice(&self.halves[..index], |o| o.axis == own.axis) {
                all.push(Refusal::new(at.clone(), "This axis stands twice: keep one"));
            }
            let half = own.axis.spec().half;
            let (low, high) = (half / Self::WIDEST, half * Self::WIDEST);
            all.extend(within(
                format!("{at}/half"),
                own.half,
                low,
                high,
                "A half-width",
            ));
        }
        all
    }
}

fn twice<T>(before: &[T], same: impl Fn(&T) -> bool) -> bool {
    before.iter().any(same)
}

/// Every link from something, those of every place in the stroke among them.
fn links_of(tells: Tells) -> Vec<Strength> {
    let causes = match tells {
        Tells::Felt(place) => felt(place),
        Tells::Seen(sign) => seen(sign),
    };
    let Some(causes) = causes else {
        return Vec::new();
    };
    let strokes = causes.stroke.iter().flat_map(|(_, told)| told.iter());
    causes.links.iter().chain(strokes).copied().collect()
}

/// What the judge goes by.
#[derive(Debug, Clone)]
pub struct Craft {
    pub(super) bolts: Vec<(Bolt, Vec<(Axis, f64)>)>,
    pub(super) readings: Vec<(Ranged, Against)>,
    pub(super) limits: Vec<(Limited, Vec<(Axis, f64)>)>,
    /// Whether what follows a bolt is worked out from what the bolts do, not read from the table.
    pub(super) linked: bool,
    pub(super) own: OwnJudging,
    /// What every strength is multiplied with.
    pub(super) shaken: fn(usize) -> f64,
}

impl Default for Craft {
    /// The house's: the slopes of the rider of the sanity line, as the tables print them.
    fn default() -> Self {
        Self {
            bolts: Bolt::ALL.iter().map(|b| (*b, bolt(*b).to_vec())).collect(),
            readings: Ranged::ALL.iter().map(|r| (*r, against(*r))).collect(),
            limits: Limited::ALL
                .iter()
                .map(|l| (*l, limit_slopes(*l).to_vec()))
                .collect(),
            linked: false,
            own: OwnJudging::default(),
            shaken: |_| 1.0,
        }
    }
}

impl Craft {
    /// The same with every strength multiplied by what its place in the tables gives: for trying out how much hangs on them.
    #[must_use]
    pub fn shaken(self, by: fn(usize) -> f64) -> Self {
        Self { shaken: by, ..self }
    }

    /// The same with what a studio has of its own.
    #[must_use]
    pub fn of_studio(self, own: OwnJudging) -> Self {
        Self { own, ..self }
    }

    /// What is known of an axis, its half-width as the studio has it.
    pub fn spec(&self, axis: Axis) -> AxisSpec {
        let own = self.own.halves.iter().find(|own| own.axis == axis);
        AxisSpec {
            half: own.map_or(axis.spec().half, |own| own.half),
            ..axis.spec()
        }
    }

    pub(super) fn half(&self, axis: Axis) -> f64 {
        self.spec(axis).half
    }

    pub(super) fn bolt(&self, bolt: Bolt) -> &[(Axis, f64)] {
        let of = self.bolts.iter().find(|(of, _)| *of == bolt);
        of.map_or(&[], |(_, effect)| effect)
    }

    pub(super) fn against(&self, reading: Ranged) -> Option<&Against> {
        let of = self.readings.iter().find(|(of, _)| *of == reading);
        of.map(|(_, against)| against)
    }

    pub(super) fn limit_slope(&self, joint: Limited, axis: Axis) -> f64 {
        let of = self.limits.iter().find(|(of, _)| *of == joint);
        let slope = of.and_then(|(_, slopes)| slopes.iter().find(|(of, _)| *of == axis));
        slope.map_or(0.0, |(_, slope)| *slope)
    }

    /// What bolts do to the axes together.
    pub(super) fn moved_by(
        &self,
        bolts: impl IntoIterator<Item = (Bolt, f64)>,
    ) -> Vec<(Axis, f64)> {
        let mut all: Vec<(Axis, f64)> = Vec::new();
        for (turned, by) in bolts {
            for (axis, per) in self.bolt(turned) {
                match all.iter_mut().find(|(of, _)| of == axis) {
                    Some((_, sum)) => *sum += per * by,
                    None => all.push((*axis, per * by)),
                }
            }
        }
        all
    }

    fn does(&self, bolts: &[(Bolt, f64)], axis: Axis) -> f64 {
        let moved = self.moved_by(bolts.iter().copied());
        moved
            .iter()
            .find(|(of, _)| *of == axis)
            .map_or(0.0, |(_, by)| *by)
    }

    /// A move's bolts, for a millimetre of its first: the others hold what the first would move besides, the post the height
    /// and the stem the reach.
    pub(super) fn bolts_of(&self, spec: &MoveSpec) -> Vec<(Bolt, f64)> {
        let mut bolts: Vec<(Bolt, f64)> = spec.bolts.to_vec();
        if !self.linked {
            return bolts;
        }
        for index in 1..bolts.len() {
            let follows = bolts[index].0;
            let holds = match follows {
                Bolt::Post => Axis::Height,
                _ => Axis::Reach,
            };
            let per = self.does(&[(follows, 1.0)], holds);
            let by = self.does(&bolts[..index], holds);
            bolts[index].1 = if per.abs() < 0.05 { 0.0 } else { -by / per };
        }
        bolts
    }

    fn weigh(&self, tells: Option<Tells>, causes: Vec<Strength>) -> Vec<Strength> {
        let of = causes.into_iter().map(|(fault, strength)| {
            let own =
                (self.own.links.iter()).find(|own| Some(own.tells) == tells && own.fault == fault);
            let strength = own.map_or(strength, |own| own.strength);
            let place = tells.map_or(0, |tells| match tells {
                Tells::Felt(place) => 100 * (place as usize),
                Tells::Seen(sign) => 100 * (40 + sign as usize),
            });
            let shaken = strength * (self.shaken)(place + fault as usize);
            (fault, shaken.min(OwnJudging::STRONGEST))
        });
        of.filter(|(_, strength)| *strength > 0.0).collect()
    }

    /// What may cause a complaint, as this craft weighs it.
    pub(super) fn felt(
        &self,
        place: Place,
        stroke: Option<Stroke>,
    ) -> Option<(f64, Vec<Strength>)> {
        let causes = felt(place)?;
        let all = self.weigh(Some(Tells::Felt(place)), causes.at(stroke));
        Some((causes.leak, all))
    }

    /// What a sign may come from.
    pub(super) fn seen(&self, sign: Sign) -> Option<(f64, Vec<Strength>)> {
        let causes = seen(sign)?;
        let all = self.weigh(Some(Tells::Seen(sign)), causes.links.to_vec());
        Some((causes.leak, all))
    }

    fn plain(&self, causes: Causes) -> (f64, Vec<Strength>) {
        (causes.leak, self.weigh(None, causes.links.to_vec()))
    }

    /// What a short limit of the table may come from.
    pub(super) fn short(&self, joint: Limited) -> (f64, Vec<Strength>) {
        self.plain(short(joint))
    }

    /// What brings a hidden fault about.
    pub(super) fn brings(&self, hidden: super::axis::Hidden) -> Option<(f64, Vec<Strength>)> {
        brings(hidden).map(|causes| self.plain(causes))
    }
}

/// One cause of something felt or seen, as the house has it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HouseLink {
    /// To what.
    pub fault: Fault,
    /// As that is told.
    pub label: &'static str,
    /// How strong: the chance that it alone brings it about when it is well out.
    pub strength: f64,
}

/// What may bring something felt or seen about, as the house has it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HouseLinks {
    /// From what.
    pub tells: Tells,
    /// As that is told.
    pub label: &'static str,
    /// How often it comes by itself.
    pub leak: f64,
    /// Its causes.
    pub causes: Vec<HouseLink>,
}

/// The half-width of an axis, as the house has it.
#[derive(Debug, Clone, Copy, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct HouseHalf {
    /// Of which axis.
    pub axis: Axis,
    /// As it is called.
    pub label: &'static str,
    /// Its unit.
    pub unit: Unit,
    /// How wide to either side.
    pub half: f64,
    /// The least a studio may choose.
    pub least: f64,
    /// The most.
    pub most: f64,
}

/// Every link from something felt or seen that a studio may weigh by its own ear. What the place in the stroke makes of one
/// goes with it.
pub fn house_links() -> Vec<HouseLinks> {
    let felt = Place::ALL
        .iter()
        .filter_map(|place| Some((Tells::Felt(*place), place.label(), felt(*place)?)));
    let seen = Sign::ALL
        .iter()
        .filter_map(|sign| Some((Tells::Seen(*sign), sign.label(), seen(*sign)?)));
    let of = |(fault, strength): &Strength| HouseLink {
        fault: *fault,
        label: fault.label(),
        strength: *strength,
    };
    felt.chain(seen)
        .map(|(tells, label, causes)| HouseLinks {
            tells,
            label,
            leak: causes.leak,
            causes: causes.links.iter().map(of).collect(),
        })
        .collect()
}

/// Every half-width a studio may choose.
pub fn house_halves() -> Vec<HouseHalf> {
    let of = |axis: &Axis| {
        let spec = axis.spec();
        HouseHalf {
            axis: *axis,
            label: axis.label(),
            unit: if spec.is_mm { Unit::Mm } else { Unit::Deg },
            half: spec.half,
            least: spec.half / OwnJudging::WIDEST,
            most: spec.half * OwnJudging::WIDEST,
        }
    };
    Axis::ALL.iter().map(of).collect()
}
