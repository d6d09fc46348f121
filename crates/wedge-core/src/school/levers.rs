//! Levers and sweep: small decisions of their own, told in words.

use crate::bike::Bar;
use crate::foresee::Trying;
use crate::measure::Quantity;
use crate::rule::rules;
use crate::trial::{Finding, Protocol, Says};
use crate::units::Side;
use crate::words::written;

rules! {
    rules "Levers and sweep";
    /// A bar swept back this close to what the fists ask for is there.
    const SWEEP_THERE_DEG: f64 = 3.0, "°", House;
    /// Levers further apart than this are not alike.
    const LEVERS_ALIKE_DEG: f64 = 3.0, "°", House;
    /// And this far of their reach.
    const REACH_ALIKE_MM: f64 = 4.0, " mm", House;
}

/// What there is to say of levers and sweep, what is wrong first.
pub fn levers_and_sweep<'a>(
    trying: &Trying,
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
        levers_and_sweep(&Trying::of(&ride), [].iter())
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
