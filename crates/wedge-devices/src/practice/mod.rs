//! Practice: riders of five levels for who learns the trade, and what is told of them at the end.

mod level;
mod revealed;

pub use level::Level;
pub use revealed::{
    AxisRevealed, Limb, OtherWay, Practised, Region, Revealed, TrialRevealed, Tried, revealed,
};
