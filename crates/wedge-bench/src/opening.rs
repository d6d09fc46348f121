//! A bike as it is typed in, and a fit as it opens.

use crate::Declined;
use crate::declined::accepted;
use jiff::civil::Date;
use serde::Deserialize;
use uuid::Uuid;
use wedge_core::bike::{
    Bar, Cockpit, Frame, Kind, Lever, Pedalling, Post, Residual, Saddle, Setup, TapedFrame,
    Torques, fit_stand,
};
use wedge_core::intake::Intake;
use wedge_core::measure::{Quantity, Refusal};
use wedge_core::plane::Point;
use wedge_core::position::{fitted, unmeasured_saddle};
use wedge_core::units::{Degrees, Millimetres, Sides};
use wedge_core::work::Station;
use wedge_files::{Bike, House, Rider, Session, SessionState, refuse_name};

/// A bike as typed in: the saddle's place is not among it, since that is measured.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct NewBike {
    /// UUIDv7, made by the client: sending it again is harmless.
    pub id: Uuid,
    /// As the rider calls it.
    pub name: String,
    /// The kind of riding.
    #[serde(default)]
    pub kind: Kind,
    /// The frame.
    pub frame: Frame,
    /// What frame reach and stack were computed from, when they are on no chart.
    #[serde(default)]
    pub taped: Option<TapedFrame>,
    /// Stem and spacers.
    pub cockpit: Cockpit,
    /// The bar.
    pub bar: Bar,
    /// What of it was filled in from an ordinary bike, and not overtyped: none of it when empty; nobody says when left out.
    #[serde(default)]
    pub usual: Option<Vec<Quantity>>,
    /// The saddle.
    pub saddle: NewSaddle,
    /// The post.
    #[serde(default)]
    pub post: Post,
    /// Cranks, pedals and shoes.
    pub pedalling: Sides<Pedalling>,
    /// The brake levers.
    #[serde(default)]
    pub levers: Sides<Lever>,
    /// The torques printed on its parts.
    #[serde(default)]
    pub torques: Torques,
    /// Whether it is a fit stand: a bike without a frame, whose saddle and front slide.
    #[serde(default)]
    pub stand: bool,
}

/// A saddle without its place.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
#[expect(missing_docs, reason = "the catalogue's own measures, each by its key")]
pub struct NewSaddle {
    pub tilt_deg: Degrees,
    pub saddle_length_mm: Millimetres,
    pub nose_to_sit_mm: Millimetres,
    #[serde(default)]
    pub nose_to_mark_mm: Option<Millimetres>,
    #[serde(default)]
    pub saddle_stack_mm: Option<Millimetres>,
    #[serde(default)]
    pub saddle_top_mm: Option<Millimetres>,
    #[serde(default)]
    pub rail_middle_mm: Option<Millimetres>,
    #[serde(default)]
    pub rail_mm: Option<Millimetres>,
    #[serde(default)]
    pub saddle_width_mm: Option<Millimetres>,
}

impl NewSaddle {
    /// The saddle at a place to draw it from.
    fn at(&self, sit: Point) -> Saddle {
        let mut saddle = Saddle::new(self.tilt_deg, self.saddle_length_mm, self.nose_to_sit_mm);
        saddle.nose_to_mark_mm = self.nose_to_mark_mm;
        saddle.rail_mm = self.rail_mm;
        saddle.saddle_width_mm = self.saddle_width_mm;
        for (typed, field) in [
            (self.saddle_stack_mm, &mut saddle.saddle_stack_mm),
            (self.saddle_top_mm, &mut saddle.saddle_top_mm),
            (self.rail_middle_mm, &mut saddle.rail_middle_mm),
        ] {
            *field = typed.unwrap_or(*field);
        }
        saddle.place(sit);
        // A tall rider on a flat seat angle would be drawn beyond what a saddle's place may be: it is drawn at the edge.
        for (quantity, place) in [
            (Quantity::SaddleHeight, &mut saddle.saddle_height_mm),
            (Quantity::Setback, &mut saddle.setback_mm),
        ] {
            let spec = quantity.spec();
            place.0 = place.0.clamp(spec.min, spec.max);
        }
        saddle
    }
}

impl NewBike {
    /// The rider's new bike, its saddle where it would be drawn until it is taped.
    pub fn of(self, rider: &Rider) -> Result<Bike, Declined> {
        let measured = rider.measured().ok_or_else(Declined::no_stature)?;
        let mut errors: Vec<Refusal> = Vec::from_iter(refuse_name(&self.name, "/name"));
        errors.extend(self.frame.refusals("/frame"));
        errors.extend(self.taped.iter().flat_map(|taped| taped.refusals("/taped")));
        let sit = unmeasured_saddle(&self.frame, &measured.lengths());
        let setup = Setup {
            cockpit: self.cockpit,
            bar: self.bar,
            saddle: self.saddle.at(sit),
            post: self.post,
            pedalling: self.pedalling,
            levers: self.levers,
            torques: self.torques,
            residual: Residual::default(),
        };
        errors.extend(setup.refusals(""));
        accepted(errors)?;
        Ok(Bike {
            id: self.id,
            name: self.name.trim().to_owned(),
            kind: self.kind,
            frame: self.frame,
            label: None,
            setup,
            taped: self.taped,
            usual: self.usual,
            stand: self.stand,
            carried: None,
            sessions: Vec::new(),
        })
    }
}

/// A fit stand for the rider: every number of it usual, until it is typed.
pub fn fit_stand_of(id: Uuid, rider: &Rider) -> Result<Bike, Declined> {
    let measured = rider.measured().ok_or_else(Declined::no_stature)?;
    let like = fit_stand(measured.body.stature_mm.0);
    let new = NewBike {
        id,
        name: like.name.to_owned(),
        kind: like.kind,
        frame: like.frame,
        taped: None,
        cockpit: like.cockpit,
        bar: like.bar,
        usual: Some(Vec::new()),
        saddle: NewSaddle {
            tilt_deg: like.tilt_deg,
            saddle_length_mm: like.saddle_length_mm,
            nose_to_sit_mm: like.nose_to_sit_mm,
            nose_to_mark_mm: None,
            saddle_stack_mm: None,
            saddle_top_mm: None,
            rail_middle_mm: None,
            rail_mm: None,
            saddle_width_mm: None,
        },
        post: Post::default(),
        pedalling: Sides::both(like.pedalling),
        levers: Sides::default(),
        torques: Torques::default(),
        stand: true,
    };
    let mut bike = new.of(rider)?;
    // Nobody typed any of it: all of it is what such a stand has.
    bike.usual = Some(bike.setup.held().collect());
    Ok(bike)
}

/// A fit of a bike as it opens: from where its last fit left it.
pub fn opened(id: Uuid, day: Date, rider: &Rider, bike: &Bike, house: &House) -> Session {
    // What is asked anew at every visit is not carried over.
    let intake = Intake {
        flags: Vec::new(),
        flags_asked: false,
        go_on: None,
        ..rider.last_intake().cloned().unwrap_or_default()
    };
    let last = bike.sessions.iter().rev().find(|s| s.id != id);
    Session {
        id,
        number: last.map_or(1, |s| s.number + 1),
        day,
        state: SessionState::Open,
        station: Station::Intake,
        conventions: last.map_or_else(
            || fitted(&house.conventions, &bike.setup),
            |s| s.conventions,
        ),
        effort: last.and_then(|s| s.effort),
        hands: last.and_then(|s| s.hands),
        intake,
        shoes: last.map(|s| s.shoes.clone()).unwrap_or_default(),
        saddle: last.map(|s| s.saddle).unwrap_or_default(),
        follow_up: None,
        base: last.and_then(Session::now).copied().unwrap_or(bike.setup),
        readings: Vec::new(),
        setups: Vec::new(),
        now: None,
        looks: Vec::new(),
        calibrations: Vec::new(),
        trials: Vec::new(),
        runs: Vec::new(),
        disputes: Vec::new(),
        takes: Vec::new(),
        afterwards: Vec::new(),
    }
}
