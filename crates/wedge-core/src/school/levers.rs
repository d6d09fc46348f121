//! Levers and sweep: small decisions of their own, told in words.

use crate::bike::Bar;
use crate::foresee::Trying;
use crate::measure::{Convention, Quantity};
use crate::rule::rules;
use crate::trial::{Finding, Protocol, Says};
use crate::units::Side;
use crate::words::{words, written};

rules! {
    rules "Levers and sweep";
    /// A bar swept back this close to what the fists ask for is there.
    const SWEEP_THERE_DEG: f64 = 3.0, "°", House;
    /// Levers further apart than this are not alike.
    const LEVERS_ALIKE_DEG: f64 = 3.0, "°", House;
    /// And this far of their reach.
    const REACH_ALIKE_MM: f64 = 4.0, " mm", House;
    /// A drop bar rolled this close to where the studio sets it is there.
    const ROLL_THERE_DEG: f64 = 1.0, "°", House;
}

words! {
    /// How a studio rolls a drop bar: by which part of its drops.
    pub enum DropEnds {
        Level "level" "Lower part of the drops level",
        Plumb "plumb" "Upright ends plumb",
        Ramp "ramp" "Ramp level",
        Free "free" "As the wrists lie",
    }
}

impl DropEnds {
    /// The convention in which the bar stands at nought when it is set so; none where nothing is prescribed.
    fn convention(self) -> Option<Convention> {
        match self {
            Self::Level => Some(Convention::BarRollDrops),
            Self::Plumb => Some(Convention::BarRollEnds),
            Self::Ramp => Some(Convention::BarRollRamp),
            Self::Free => None,
        }
    }

    /// How a drop bar stands by it, what to turn, and whether the hoods then still point a touch upward; none where
    /// nothing is prescribed or the bar has no drops.
    fn told(self, bar: &Bar) -> Option<String> {
        let convention = self.convention()?;
        if !matches!(bar, Bar::Drop(_)) {
            return None;
        }
        let rule = format!("Bar roll, set here by “{}”", self.label());
        let Some(stands) = bar.roll(convention) else {
            return Some(format!(
                "{rule}: type that part's angle to the bar's reach (Bikes, the bar) to be told what to turn"
            ));
        };
        let there = stands.abs() <= ROLL_THERE_DEG;
        let turn = if there {
            "it stands so".to_owned()
        } else {
            let way = if stands > 0.0 { "forward" } else { "back" };
            format!("roll the bar {}° {way}", written(stands.abs()))
        };
        let turned = if there { 0.0 } else { stands };
        let ramp = bar.roll(Convention::BarRollRamp).map(|ramp| ramp - turned);
        let hoods = match ramp.filter(|ramp| *ramp < -ROLL_THERE_DEG) {
            Some(ramp) => format!(
                "; the ramp then falls {}°: move the hoods up the bend until they point a touch upward",
                written(-ramp)
            ),
            None => "; hoods a touch upward".to_owned(),
        };
        Some(format!("{rule}: {turn}{hoods}"))
    }
}

/// What there is to say of levers, sweep and roll, what is wrong first.
pub fn levers_and_sweep<'a>(
    trying: &Trying,
    ends: DropEnds,
    mut findings: impl DoubleEndedIterator<Item = &'a Finding>,
) -> Vec<String> {
    let mut all = Vec::new();
    let of = |quantity, side| trying.setup.get(quantity, Some(side));
    for (quantity, alike, what) in [
        (Quantity::LeverAngle, LEVERS_ALIKE_DEG, "stand"),
        (Quantity::LeverReach, REACH_ALIKE_MM, "reach"),
    ] {
        let both = of(quantity, Side::Left).zip(of(quantity, Side::Right));
        if let Some((left, right)) = both.filter(|(left, right)| (left - right).abs() > alike) {
            let unit = quantity.spec().unit.suffix();
            all.push(format!(
                "The levers {what} {}{unit} apart, left {}{unit} and right {}{unit}: level them, unless the wrists ask for it",
                written((left - right).abs()),
                written(left),
                written(right)
            ));
        }
    }
    all.extend(ends.told(&trying.setup.bar));
    if let Bar::Flat(bar) = &trying.setup.bar {
        let sweep = bar.backsweep_deg.0;
        all.push(match trying.rider.body.fist_angle_deg {
            Some(fist) if (fist.0 - sweep).abs() > SWEEP_THERE_DEG => format!(
                "Relaxed fists stand {}° back, the bar sweeps {}°: a bar with about {}° {} would let the wrists lie",
                written(fist.0),
                written(sweep),
                written((fist.0 - sweep).abs()),
                if fist.0 > sweep { "more" } else { "less" }
            ),
            Some(fist) => format!(
                "Swept back {}°, as the relaxed fists stand ({}°)",
                written(sweep),
                written(fist.0)
            ),
            None => format!(
                "Swept back {}°: take the fist angle at Body (two pencils and a string) to know whether the wrists lie",
                written(sweep)
            ),
        });
    }
    let wrist = findings.rfind(|f| f.protocol == Protocol::WristLine && f.says != Says::Broken);
    all.push(match wrist {
        Some(finding) => format!("Wrist and levers: {}", finding.words.join(" ")),
        None => "Nobody looked along the wrists yet: Wrist and levers takes two minutes".to_owned(),
    });
    all
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;
    use crate::foresee::ForeseeInput;
    use crate::units::Degrees;

    fn of(input: &ForeseeInput) -> Vec<String> {
        let ride = input.check().unwrap();
        levers_and_sweep(&Trying::of(&ride), DropEnds::Level, [].iter())
    }

    #[test]
    fn a_drop_bar_is_rolled_as_the_studio_sets_it() {
        let mut road = example::road();
        let Bar::Drop(bar) = &mut road.setup.bar else {
            panic!("a drop bar");
        };
        // By hand: reach 4° up and drops 7° below it stand 3° down; plumb ends 4° off their upright stand 8° back.
        bar.bar_roll_deg = Degrees(4.0);
        bar.drops_angle_deg = Some(Degrees(-7.0));
        bar.ends_angle_deg = Some(Degrees(4.0));
        bar.ramp_angle_deg = Some(Degrees(2.0));
        let told = |ends: DropEnds, bar: &Bar| ends.told(bar).unwrap_or_default();
        let level = told(DropEnds::Level, &road.setup.bar);
        assert!(
            level.ends_with("roll the bar 3° back; hoods a touch upward"),
            "{level}"
        );
        let plumb = told(DropEnds::Plumb, &road.setup.bar);
        assert!(
            plumb.contains("roll the bar 8° forward; the ramp then falls 2°"),
            "{plumb}"
        );
        assert_eq!(DropEnds::Free.told(&road.setup.bar), None);
        assert_eq!(DropEnds::Level.told(&example::flat_bar().setup.bar), None);
        let Bar::Drop(bar) = &mut road.setup.bar else {
            panic!("a drop bar");
        };
        bar.bar_roll_deg = Degrees(7.4);
        assert!(told(DropEnds::Level, &road.setup.bar).contains("it stands so"));
        let Bar::Drop(bar) = &mut road.setup.bar else {
            panic!("a drop bar");
        };
        bar.drops_angle_deg = None;
        assert!(told(DropEnds::Level, &road.setup.bar).contains("type that part's angle"));
    }

    #[test]
    fn sweep_follows_the_fists_and_levers_each_other() {
        let mut flat = example::flat_bar();
        assert!(
            of(&flat)[0].contains("take the fist angle"),
            "{:?}",
            of(&flat)
        );
        let Bar::Flat(bar) = &mut flat.setup.bar else {
            panic!("a flat bar");
        };
        bar.backsweep_deg = Degrees(7.0);
        flat.rider.body.fist_angle_deg = Some(Degrees(16.0));
        assert!(of(&flat)[0].contains("about 9° more"), "{:?}", of(&flat));
        flat.rider.body.fist_angle_deg = Some(Degrees(9.0));
        assert!(
            of(&flat)[0].starts_with("Swept back 7°, as"),
            "{:?}",
            of(&flat)
        );
        flat.setup.levers.left.lever_angle_deg = Some(Degrees(-40.0));
        assert!(
            of(&flat)[0].starts_with("Swept"),
            "one side alone says nothing"
        );
        flat.setup.levers.right.lever_angle_deg = Some(Degrees(-30.0));
        assert!(of(&flat)[0].starts_with("The levers stand 10° apart"));
    }
}
