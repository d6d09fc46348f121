//! The parts box: what a studio has on hand and what can be ordered.

use super::BarKind;
use crate::measure::{Quantity, Refusal};
use crate::rule::rules;
use crate::words::words;
use serde::{Deserialize, Serialize};
use std::collections::BTreeMap;

words! {
    /// What a part is.
    pub enum PartKind {
        Stem "stem" "Stem",
        Spacer "spacer" "Spacer",
        Bar "bar" "Bar",
        PadSpacer "pad_spacer" "Pad spacer",
        Post "post" "Seat post",
        Saddle "saddle" "Saddle",
        Crank "crank" "Crank",
    }
}

impl PartKind {
    /// What must be known of such a part, and what may be. A bar is of the kind its width says.
    pub fn sizes(self) -> (&'static [Quantity], &'static [Quantity]) {
        use Quantity as Q;
        match self {
            Self::Stem => (&[Q::Stem, Q::StemAngle], &[Q::StemClamp]),
            Self::Spacer | Self::PadSpacer => (&[Q::Spacer], &[]),
            Self::Bar => (
                &[],
                &[
                    Q::BarWidth,
                    Q::BarReach,
                    Q::BarDrop,
                    Q::HoodForward,
                    Q::HoodRise,
                    Q::DropsAngle,
                    Q::EndsAngle,
                    Q::RampAngle,
                    Q::FlatWidth,
                    Q::BarRise,
                    Q::Backsweep,
                    Q::Upsweep,
                ],
            ),
            Self::Post => (&[Q::PostSetback], &[Q::PostLength, Q::PostInsertion]),
            Self::Saddle => (
                &[Q::SaddleLength, Q::NoseToSit],
                &[
                    Q::SaddleStack,
                    Q::SaddleTop,
                    Q::RailMiddle,
                    Q::Rail,
                    Q::SaddleWidth,
                ],
            ),
            Self::Crank => (&[Q::Crank], &[]),
        }
    }
}

/// A part, with what of it decides where the rider ends up.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Part {
    /// What it is.
    pub kind: PartKind,
    /// As the studio calls it.
    pub name: String,
    /// How many there are; none: it can be ordered.
    #[serde(default)]
    pub on_hand: u32,
    /// Its sizes, by their keys.
    #[cfg_attr(feature = "schema", schema(value_type = BTreeMap<String, f64>))]
    pub sizes: BTreeMap<Quantity, f64>,
    /// Whether a stem can be mounted either way up.
    #[serde(default)]
    pub flips: bool,
    /// The torque printed on it, N·m.
    #[serde(default, skip_serializing_if = "Option::is_none")]
    pub torque_nm: Option<f64>,
}

rules! {
    rules "Parts";
    /// Stems as they are commonly sold.
    pub(crate) const STEMS_MM: [f64; 10] = [40.0, 50.0, 60.0, 70.0, 80.0, 90.0, 100.0, 110.0, 120.0, 130.0], " mm", House;
    /// Their angles, mounted either way: the commonest, and the steep one.
    pub(crate) const STEM_ANGLES_DEG: [f64; 2] = [6.0, 17.0], "°", House;
    /// Spacers as they are sold: with the thin ones any gap under the cap is met.
    pub(crate) const SPACERS_MM: [f64; 6] = [1.0, 2.0, 3.0, 5.0, 10.0, 20.0], " mm", House;
    /// The torque a part can have printed on it.
    const TORQUE_NM: (f64, f64) = (0.5, 60.0), " N·m", House;
}

impl Part {
    /// A part of some sizes, of which so many are on hand.
    pub fn new(kind: PartKind, on_hand: u32, sizes: &[(Quantity, f64)]) -> Self {
        Self {
            kind,
            name: String::new(),
            on_hand,
            sizes: sizes.iter().copied().collect(),
            flips: kind == PartKind::Stem,
            torque_nm: None,
        }
    }

    /// One of its sizes.
    pub fn size(&self, quantity: Quantity) -> Option<f64> {
        self.sizes.get(&quantity).copied()
    }

    /// The kind of bar it is; `None` of what is none.
    pub fn bar(&self) -> Option<BarKind> {
        match self.kind {
            PartKind::Bar if self.sizes.contains_key(&Quantity::FlatWidth) => Some(BarKind::Flat),
            PartKind::Bar => Some(BarKind::Drop),
            _ => None,
        }
    }

    /// Everything that cannot be accepted, each with its JSON pointer below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let (needed, known) = self.kind.sizes();
        let needed: &[Quantity] = match self.bar() {
            Some(BarKind::Flat) => &[Quantity::FlatWidth, Quantity::BarRise, Quantity::Backsweep],
            Some(_) => &[Quantity::BarWidth, Quantity::BarReach, Quantity::BarDrop],
            None => needed,
        };
        let mut all = Vec::new();
        if self.name.chars().count() > 120 {
            all.push(Refusal::new(
                format!("{at}/name"),
                "A name has up to 120 characters",
            ));
        }
        for quantity in needed.iter().filter(|q| !self.sizes.contains_key(q)) {
            let label = quantity.spec().label;
            all.push(Refusal::new(
                format!("{at}/sizes/{}", quantity.key()),
                format!("{label} is needed of a part like this"),
            ));
        }
        for (quantity, value) in &self.sizes {
            let at = format!("{at}/sizes/{}", quantity.key());
            if needed.contains(quantity) || known.contains(quantity) {
                all.extend(quantity.refuse(*value, &at));
            } else {
                let words = format!("A {} has no such size", self.kind.label().to_lowercase());
                all.push(Refusal::new(at, words));
            }
        }
        if let Some(torque) = self.torque_nm
            && !(TORQUE_NM.0..=TORQUE_NM.1).contains(&torque)
        {
            all.push(Refusal::new(
                format!("{at}/torque_nm"),
                format!("A torque is {} to {} N·m", TORQUE_NM.0, TORQUE_NM.1),
            ));
        }
        all
    }
}

/// Sizes as they are commonly sold, none of them on hand: what can be ordered.
pub fn ordinary_parts() -> Vec<Part> {
    let stems = STEMS_MM.into_iter().flat_map(|length| {
        STEM_ANGLES_DEG.map(|angle| {
            Part::new(
                PartKind::Stem,
                0,
                &[(Quantity::Stem, length), (Quantity::StemAngle, angle)],
            )
        })
    });
    let spacers = SPACERS_MM
        .iter()
        .map(|height| Part::new(PartKind::Spacer, 0, &[(Quantity::Spacer, *height)]));
    stems.chain(spacers).collect()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_part_says_what_it_lacks_and_what_it_cannot_have() {
        let stem = Part::new(PartKind::Stem, 1, &[(Quantity::Stem, 90.0)]);
        let pointers = |part: &Part| -> Vec<String> {
            part.refusals("/parts/0")
                .into_iter()
                .map(|r| r.pointer)
                .collect()
        };
        assert_eq!(pointers(&stem), ["/parts/0/sizes/stem_angle_deg"]);
        let mut whole = stem.clone();
        whole.sizes.insert(Quantity::StemAngle, -6.0);
        assert!(whole.refusals("").is_empty());
        whole.sizes.insert(Quantity::Crank, 170.0);
        whole.torque_nm = Some(500.0);
        assert_eq!(
            pointers(&whole),
            ["/parts/0/sizes/crank_mm", "/parts/0/torque_nm"]
        );
        let flat = Part::new(PartKind::Bar, 1, &[(Quantity::FlatWidth, 760.0)]);
        assert_eq!(flat.bar(), Some(BarKind::Flat));
        assert_eq!(flat.refusals("").len(), 2);
    }

    #[test]
    fn what_can_be_ordered_holds() {
        let all = ordinary_parts();
        assert!(
            all.iter()
                .all(|part| part.refusals("").is_empty() && part.on_hand == 0)
        );
        assert_eq!(all.iter().filter(|p| p.kind == PartKind::Stem).count(), 20);
    }

    #[test]
    fn a_part_is_written_by_the_keys_of_its_sizes() {
        let stem = Part::new(
            PartKind::Stem,
            2,
            &[(Quantity::Stem, 90.0), (Quantity::StemAngle, -6.0)],
        );
        let written = serde_json::to_value(&stem).unwrap();
        assert_eq!(written["sizes"]["stem_mm"], 90.0);
        assert_eq!(serde_json::from_value::<Part>(written).unwrap(), stem);
    }
}
