//! A fit on the bench: what the record and the craft say of it together.
//!
//! The record knows what was read, seen and tried; the core knows what follows from a rider on a bike. Here the one is
//! asked with the other: which fit counts, what must be taped first, what stops the way, what a station shows. Nothing
//! here reads a store or speaks HTTP: a [`Bench`] is made of nouns that somebody loaded.
//!
//! ```
//! use wedge_bench::Bench;
//! use wedge_files::{House, RiderFile};
//!
//! let rider = RiderFile::read(include_str!("../../../demo/tobin-arkle.wedge.json")).expect("a good file").rider;
//! let session = rider.bikes[0].sessions[0].clone();
//! let bench = Bench::of(rider, session, House::default()).expect("the rider's stature is known");
//! let feet = bench.feet().expect("the rider sits on the bike");
//! assert!(feet.scales.left.schools[0].leads);
//! ```

mod bars;
mod bench;
mod between;
mod body;
mod crank;
mod declined;
mod feet;
mod film;
mod handout;
mod hurts;
mod judge;
mod kinds;
mod ledger;
mod look;
mod next;
mod on_record;
mod opening;
mod recheck;
mod run;
mod saddle;
mod stand_in;
mod takes;
mod trial;
mod view;
mod wire;
mod years;

pub use bars::{BarsView, HandCall, HandTrial, PlaneView};
pub use bench::{Bench, TriedOut, finishes};
pub use between::{BetweenView, PlanView, ReferralView, VisitView, day_words, plan_of};
pub use body::{Certainty, MeasureView};
pub use crank::CranksView;
pub use declined::Declined;
pub use feet::FeetView;
pub use film::{
    AcrossAsked, AcrossFollowed, AcrossFound, ClipAsked, ClipFollowed, FilmAsked, FilmRead,
    find_across,
};
pub use handout::{ForMechanic, ForRider, FrontWorkDone, Handout, Place, TrialLine};
pub use hurts::HurtThen;
pub use judge::{
    AskNext, AxisLine, AxisOpen, AxisScore, Claim, DisputeView, HandedOver, JudgeView, MoveView,
    RidgeView, Said, Walled, Where, WhereFrom, WhyKept, claims, follow_up, scores,
};
pub use kinds::{AeroView, CandidateView, OffRoadView, Suggested, sized};
pub use ledger::{
    Card, CardStep, LedgerRow, LedgerSeries, LedgerView, Named, RatingSpec, SettingMedian, paused,
};
pub use look::{CalibrationView, SeenRow};
pub use next::{
    CarriedView, ChoiceAsked, ChoiceView, MadeView, NewNext, NextAsked, NextBike, NextFrom,
    NextIntent, NextSheet, NextSource, NextTarget, NextView, Onto, TypedPoints,
};
pub use on_record::{ToldOf, on_record, practised};
pub use opening::{NewBike, NewSaddle, fit_stand_of, opened};
pub use recheck::DueAgain;
pub use run::{RunView, Running};
pub use saddle::{CausesView, FindingView, MapView, SaddleView, TrialSpot};
pub use stand_in::{LookSaid, Spoken, TrialSaid, WeighedView};
pub use takes::{FigureRange, Keepable, PicturesKept, TakeLine, TakeWay, TakesView, WheelLine};
pub use trial::{FrontWork, TrialView, outcome_words};
pub use view::{RunGoingOn, SessionBike, SessionRider, SessionView, Versions};
pub use wire::{foresee, read};
pub use years::{
    BikeInYears, CarriedHere, FitInYears, FollowUp, Newest, Outgrown, Year, YearMeasure, Years,
    bikes, years,
};
