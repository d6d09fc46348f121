//! The limits intake calls for: asked for by name, and said to be unknown until somebody has tested them.

use crate::{bench, rider};
use wedge_bench::{TriedOut, Versions};
use wedge_core::foresee::Row;
use wedge_core::measure::{Output, Quantity};
use wedge_core::units::Side;
use wedge_files::Rider;

const AT: Versions = Versions {
    session: 1,
    rider: 1,
    bike: 1,
};

/// A rider with a new hip that nobody has tested.
fn untested() -> Rider {
    let mut rider = rider("ilse");
    let hip = |quantity| quantity == Quantity::HipLimit;
    rider.readings.retain(|r| !hip(r.reading.quantity));
    rider
}

#[test]
fn a_replaced_joint_is_asked_for_by_name_before_the_cranks() {
    let view = bench(untested()).view(AT, None).unwrap();
    let asked: Vec<_> = view.asked.iter().map(|a| a.label.as_str()).collect();
    assert_eq!(asked, ["Hip limit, right"]);
    assert_eq!(view.asked[0].side, Some(Side::Right));
    assert!(
        view.asked[0]
            .why
            .starts_with("a replaced hip: New hip, right")
    );
    // Once it is measured nobody asks.
    assert!(
        bench(rider("ilse"))
            .view(AT, None)
            .unwrap()
            .asked
            .is_empty()
    );
}

#[test]
fn cranks_and_saddle_say_which_limit_is_unknown() {
    let unknown = bench(untested());
    assert_eq!(unknown.cranks(None).unwrap().asked.len(), 1);
    assert_eq!(unknown.saddle().unwrap().asked.len(), 1);
    let known = bench(rider("ilse"));
    assert!(known.cranks(None).unwrap().asked.is_empty());
    assert!(known.saddle().unwrap().asked.is_empty());
}

#[test]
fn no_crank_proposed_for_a_stiff_hip_folds_it_past_its_limit() {
    let ilse = rider("ilse");
    let legs = ilse.measured().unwrap().legs;
    let known = bench(ilse);
    let now = known.position().unwrap();
    let mut tried = 0;
    for to in [150.0, 155.0, 160.0, 162.5, 165.0, 170.0, 175.0] {
        for plan in known.cranks(Some(to)).unwrap().plans {
            // What cannot be made, or is there already, is no proposal.
            let Ok(TriedOut { foreseen, .. }) = known.tried_out(&plan.changes, true) else {
                continue;
            };
            for side in Side::BOTH {
                let folds = |row: &&Row| {
                    row.output == Output::HipFlexion && row.side.is_none_or(|s| s == side)
                };
                let after = foreseen.rows.iter().find(folds).unwrap().after;
                let limit = legs.of(side).hip_limit_deg.unwrap().0;
                let before = now.legs.of(side).hip_flexion_deg.0;
                assert!(
                    after <= limit.max(before) + 0.05,
                    "{}: {after} of {limit}",
                    plan.title
                );
            }
            tried += 1;
        }
    }
    assert!(tried > 2, "{tried} plans can be made");
}
