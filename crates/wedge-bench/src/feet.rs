//! The feet: the schools of the cleat, stance, the ladder, shims and shoes.

use crate::{Bench, Declined};
use serde::Serialize;
use wedge_core::foresee::Trying;
use wedge_core::school::{
    Comparison, Ladder, MEASURING, Scale, Shim, Shoe, Stance, cleat_scale, comparison, ladders,
    shims, shoe_advice, stance,
};
use wedge_core::units::Sides;

/// What there is to say and to try at the feet.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct FeetView {
    /// How the cleat is measured, step by step.
    pub measuring: &'static [&'static str],
    /// The schools of the cleat, foot by foot.
    pub scales: Sides<Scale>,
    /// The two ways to set the cleats of feet of different size.
    pub comparison: Option<Comparison>,
    /// The schools of the stance.
    pub stance: Vec<Stance>,
    /// Where they pull apart for this rider.
    pub stance_apart: Option<String>,
    /// A ladder for each knee that tracks in or out.
    pub ladders: Vec<Ladder>,
    /// Shims for a leg that is truly short.
    pub shims: Vec<Shim>,
    /// What was noted of the shoes.
    pub shoes: Sides<Shoe>,
    /// What there is to say about them.
    pub advice: Vec<String>,
}

impl Bench {
    /// The feet on the bench.
    pub fn feet(&self) -> Result<FeetView, Declined> {
        let ride = self.ride_now()?;
        let trying = Trying::of(&ride);
        let lead = self.house.leads.cleat;
        let paths = self.knee_paths();
        let ladders = ladders(&trying, &paths, &self.tried());
        let (stance, stance_apart) = stance(&trying, &paths);
        Ok(FeetView {
            measuring: &MEASURING,
            scales: Sides::from_fn(|side| cleat_scale(&trying, side, lead)),
            comparison: comparison(&trying),
            stance,
            stance_apart,
            shims: shims(&trying, &ladders),
            ladders,
            advice: shoe_advice(&self.measured.legs, &self.session.shoes),
            shoes: self.session.shoes.clone(),
        })
    }
}
