//! The next bike of a rider: a position, from a fit, a stand or typed points, on another bike, on the frames of the library, and on
//! one made to measure.

use crate::Declined;
use crate::bench::session_input;
use crate::day_words;
use crate::declined::accepted;
use crate::years::CarriedHere;
use jiff::civil::Date;
use serde::{Deserialize, Serialize};
use uuid::Uuid;
use wedge_core::bike::{Cockpit, Frame, Kind, Post, Residual, Setup, ordinary_bikes};
use wedge_core::foresee::{ForeseeInput, Trying};
use wedge_core::handout::{Contact, contacts};
use wedge_core::measure::{Quantity, Refusal};
use wedge_core::next::{
    Carried, Choice, Made, OnOffer, PartLimits, Ranked, Wish, WishSpec, Wished, beside, carry,
    carry_to_crank, choose, made, ordinary_wishes, wish_refusals,
};
use wedge_core::plane::Point;
use wedge_core::position::{Position, Ride, fitted};
use wedge_core::rider::Rider as MeasuredRider;
use wedge_core::solve::Intent;
use wedge_core::units::{Degrees, Millimetres, Side};
use wedge_core::words::written;
use wedge_files::{Bike, CarriedFrom, House, LibraryFrame, MadeTo, Rider, Session, refuse_name};

/// Where a position is from.
#[derive(Debug, Clone, Copy, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum NextFrom {
    /// A fit of the rider, on a bike or a stand, as it stands.
    #[serde(rename = "fit")]
    Fit(Uuid),
    /// Points that were typed.
    #[serde(rename = "points")]
    Points(TypedPoints),
}

/// Contact points as typed: each from the BB.
#[derive(Debug, Clone, Copy, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct TypedPoints {
    /// The kind of riding: its ordinary bar and saddle are taken.
    pub kind: Kind,
    /// Straight to the sit reference, mm.
    pub saddle_height_mm: Millimetres,
    /// Level, behind positive, mm.
    pub setback_mm: Millimetres,
    /// Front up positive.
    pub tilt_deg: Degrees,
    /// Level to the hand point: hood, grip or pad, mm.
    pub bb_to_hand_mm: Millimetres,
    /// Up to it, mm.
    pub bb_to_hand_up_mm: Millimetres,
    /// Cranks, mm.
    pub crank_mm: Millimetres,
}

impl TypedPoints {
    /// Everything that cannot be accepted, each with its JSON pointer below `at`.
    fn refusals(&self, at: &str) -> Vec<Refusal> {
        let values = [
            (Quantity::SaddleHeight, self.saddle_height_mm.0),
            (Quantity::Setback, self.setback_mm.0),
            (Quantity::Tilt, self.tilt_deg.0),
            (Quantity::BbToHand, self.bb_to_hand_mm.0),
            (Quantity::BbToHandUp, self.bb_to_hand_up_mm.0),
            (Quantity::Crank, self.crank_mm.0),
        ];
        let refused = |(quantity, value): (Quantity, f64)| {
            quantity.refuse(value, &format!("{at}/{}", quantity.key()))
        };
        values.into_iter().filter_map(refused).collect()
    }
}

/// Which bike it goes onto.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub enum Onto {
    /// Another of the rider's bikes, with the parts it has.
    #[serde(rename = "bike")]
    Bike(Uuid),
    /// A frame of the library, with the position's own bar, saddle, post and cranks.
    #[serde(rename = "frame")]
    Frame(Uuid),
}

/// A position with what is put on another frame.
struct Source {
    ride: Ride,
    with: Setup,
    /// Of what is put on it, the numbers that nobody read or typed.
    usual: Vec<Quantity>,
    from: String,
    fit: Option<Uuid>,
    ridden: bool,
    kind: Kind,
}

/// The rider with the studio around: what every question of the next bike is asked with.
#[derive(Debug, Clone)]
pub struct NextBike {
    /// The rider, every bike and fit of it.
    pub rider: Rider,
    /// How the studio works.
    pub house: House,
    /// The frame library.
    pub frames: Vec<LibraryFrame>,
    /// Today.
    pub today: Date,
}

/// What is asked with every question: where the position is from.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct NextAsked {
    /// Where the position is from.
    pub from: NextFrom,
    /// Which bike it goes onto.
    #[serde(default)]
    pub onto: Option<Onto>,
    /// The other bike's cranks stay, and the position answers them by this; none when the rider's own come along.
    #[serde(default)]
    pub crank: Option<Intent>,
    /// What a frame made to measure is made by.
    #[serde(default)]
    pub wishes: Option<Vec<Wished>>,
}

/// A choice among the frames of the library.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct ChoiceAsked {
    /// Where the position is from.
    pub from: NextFrom,
    /// What of the parts is ruled out.
    #[serde(default)]
    pub limits: PartLimits,
    /// Frames of these kinds alone; every kind when empty.
    #[serde(default)]
    pub kinds: Vec<Kind>,
    /// Two frames to see beside each other.
    #[serde(default)]
    pub beside: Option<(Uuid, Uuid)>,
}

/// Where a position can be carried from.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NextSource {
    /// The fit.
    pub fit: Uuid,
    /// "Weir 54, fit 2, 12 Nov 2026".
    pub words: String,
}

/// A bike or frame a position can be carried to.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NextTarget {
    /// Its id.
    pub id: Uuid,
    /// As it is called.
    pub name: String,
    /// What it is for.
    pub kind: Kind,
}

/// What another crank is answered by.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NextIntent {
    /// Which.
    pub intent: Intent,
    /// As it is called.
    pub label: String,
}

/// A position before it goes anywhere.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NextView {
    /// Where it is from, in words.
    pub words: String,
    /// Whether it was ridden: otherwise it is typed, and only computed.
    pub ridden: bool,
    /// What it is for.
    pub kind: Kind,
    /// Its contact points in every convention.
    pub contacts: Vec<Contact>,
    /// The whole position, to draw.
    pub position: Position,
    /// Fits it could be from.
    pub sources: Vec<NextSource>,
    /// The rider's other bikes.
    pub bikes: Vec<NextTarget>,
    /// The frames of the library.
    pub frames: Vec<NextTarget>,
    /// What another crank can be answered by.
    pub intents: Vec<NextIntent>,
    /// What parts are ruled out by to begin with.
    pub limits: PartLimits,
    /// What a frame made to measure is made by to begin with.
    pub wishes: Vec<Wished>,
    /// What is known of each of those.
    pub specs: Vec<WishSpec>,
}

/// A position on another bike.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct CarriedView {
    /// As the bike is called.
    pub name: String,
    /// What it is built of and what remains off.
    pub carried: Carried,
    /// How the rider sits on it, to draw.
    pub position: Position,
    /// Where the sit reference was wished.
    pub sit: Point,
    /// Where the hands were.
    pub hand: Point,
}

/// Frames of the library, the best first.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ChoiceView {
    /// The frames' ids, as they were on offer: a rank names its place among them.
    pub ids: Vec<Uuid>,
    /// The ranks and the band.
    pub choice: Choice,
    /// The parts of each rank, in words.
    pub parts: Vec<String>,
    /// What one of the two gives for the other.
    pub beside: Vec<String>,
}

/// A frame made to measure, with how the rider sits on it.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct MadeView {
    /// The frame.
    pub made: Made,
    /// How the rider sits on it, to draw.
    pub position: Position,
}

/// A carried position to write down as a bike.
#[derive(Debug, Clone, PartialEq, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct NewNext {
    /// UUIDv7, made by the client: sending it again is harmless.
    pub id: Uuid,
    /// As it is to be called.
    pub name: String,
    /// Where the position is from, onto what, or made by what.
    pub of: NextAsked,
}

impl NextBike {
    /// The fits a position can be from, the last first.
    fn sources(&self) -> Vec<NextSource> {
        let fits = self.rider.bikes.iter().flat_map(|bike| {
            let closed = bike.sessions.iter().filter(|fit| fit.now().is_some());
            closed.map(move |fit| (bike, fit))
        });
        let mut all: Vec<(&Bike, &Session)> = fits.collect();
        all.sort_by_key(|(_, fit)| std::cmp::Reverse((fit.day, fit.number)));
        let source = |(bike, fit): (&Bike, &Session)| NextSource {
            fit: fit.id,
            words: format!("{}, {}", fit_words(bike, fit), day_words(fit.day)),
        };
        all.into_iter().map(source).collect()
    }

    fn source(&self, from: &NextFrom) -> Result<Source, Declined> {
        match from {
            NextFrom::Fit(id) => self.of_fit(*id),
            NextFrom::Points(points) => self.of_points(points),
        }
    }

    fn of_fit(&self, id: Uuid) -> Result<Source, Declined> {
        let mut bikes = self.rider.bikes.iter();
        let its =
            bikes.find_map(|bike| Some((bike, bike.sessions.iter().find(|fit| fit.id == id)?)));
        let (bike, fit) = its.ok_or(Declined::Unknown("fit"))?;
        let Some(setup) = fit.now().copied() else {
            return Err(Declined::not_now(
                "Close the bike as found first: there is no position yet",
            ));
        };
        let input = session_input(&self.rider, &self.house, bike, fit, setup)
            .ok_or_else(Declined::no_stature)?;
        let mut usual = still_usual(bike, &setup);
        let with = if bike.stand {
            // Its own stem and spacers stay behind.
            usual.retain(|of| !Cockpit::QUANTITIES.contains(of));
            usual.extend(Cockpit::QUANTITIES);
            off_the_stand(setup, bike.kind)
        } else {
            setup
        };
        Ok(Source {
            ride: input.check()?,
            with,
            usual,
            from: fit_words(bike, fit),
            fit: Some(id),
            ridden: true,
            kind: bike.kind,
        })
    }

    /// Typed points, on an ordinary bike of the kind: what its parts do not reach is made up as a tape would.
    fn of_points(&self, points: &TypedPoints) -> Result<Source, Declined> {
        accepted(points.refusals("/from/points"))?;
        let measured = self.measured()?;
        let bikes = ordinary_bikes();
        let like = bikes.iter().filter(|bike| bike.kind == points.kind);
        let like = like.min_by(|a, b| {
            // The size whose front comes nearest.
            let off = |bike: &&wedge_core::bike::OrdinaryBike| {
                (bike.frame.frame_stack_mm.0 + 80.0 - points.bb_to_hand_up_mm.0).abs()
            };
            off(a).total_cmp(&off(b))
        });
        let like = like.ok_or(Declined::Unknown("kind"))?;
        let mut setup = like.setup();
        setup.saddle.saddle_height_mm = points.saddle_height_mm;
        setup.saddle.setback_mm = points.setback_mm;
        setup.saddle.tilt_deg = points.tilt_deg;
        for side in Side::BOTH {
            setup.pedalling.of_mut(side).crank_mm = points.crank_mm;
        }
        let with = setup;
        let input = |setup| sat_on(measured, &self.house, points.kind, (like.frame, setup));
        let at = |refusals: Vec<Refusal>| {
            // What a setup refuses was typed as points.
            let key = |refusal: Refusal| {
                let key = refusal.pointer.rsplit('/').next().unwrap_or_default();
                Refusal::new(format!("/from/points/{key}"), refusal.detail)
            };
            Declined::Refused(refusals.into_iter().map(key).collect())
        };
        let hand = input(setup).check().map_err(at)?.position().bike.hand;
        setup.residual.hand_forward_mm.0 = points.bb_to_hand_mm.0 - hand.x;
        setup.residual.hand_up_mm.0 = points.bb_to_hand_up_mm.0 - hand.y;
        Ok(Source {
            ride: input(setup).check().map_err(at)?,
            with,
            usual: with.held().filter(|of| !TYPED.contains(of)).collect(),
            from: "points that were typed".to_owned(),
            fit: None,
            ridden: false,
            kind: points.kind,
        })
    }

    fn measured(&self) -> Result<MeasuredRider, Declined> {
        self.rider.measured().ok_or_else(Declined::no_stature)
    }

    /// A position, and everything it can be asked.
    pub fn view(&self, from: &NextFrom) -> Result<NextView, Declined> {
        let source = self.source(from)?;
        let trying = Trying::of(&source.ride);
        let position = trying.before.clone();
        let target = |id: Uuid, name: &str, kind: Kind| NextTarget {
            id,
            name: name.to_owned(),
            kind,
        };
        let bikes = self.rider.bikes.iter().filter(|bike| !bike.stand);
        let frames = self.frames.iter();
        let setup = trying.before_setup();
        let sources = self.sources();
        let known = sources.iter().find(|one| Some(one.fit) == source.fit);
        let words = known.map_or(&source.from, |known| &known.words).clone();
        Ok(NextView {
            words,
            ridden: source.ridden,
            kind: source.kind,
            contacts: contacts(&position, setup),
            sources,
            bikes: bikes
                .map(|bike| target(bike.id, &bike.name, bike.kind))
                .collect(),
            frames: frames
                .map(|frame| target(frame.id, &frame.name, frame.kind))
                .collect(),
            intents: (Intent::ALL.iter())
                .map(|intent| NextIntent {
                    intent: *intent,
                    label: intent.label().to_owned(),
                })
                .collect(),
            limits: PartLimits::default(),
            wishes: ordinary_wishes(&trying, &source.with),
            specs: Wish::ALL.iter().map(|wish| wish.spec()).collect(),
            position,
        })
    }

    /// The other bike: its name, its kind, its frame and what is on it.
    fn onto(&self, source: &Source, onto: Onto) -> Result<(String, ForeseeInput), Declined> {
        let (name, kind, frame, setup) = match onto {
            Onto::Bike(id) => {
                let mut bikes = self.rider.bikes.iter();
                let bike = bikes
                    .find(|bike| bike.id == id)
                    .ok_or(Declined::Unknown("bike"))?;
                if bike.stand {
                    return Err(Declined::field(
                        "/onto/bike",
                        "A fit stand is no bike to carry a position to",
                    ));
                }
                let last = bike.sessions.iter().rev().find_map(Session::now);
                (
                    bike.name.clone(),
                    bike.kind,
                    bike.frame,
                    *last.unwrap_or(&bike.setup),
                )
            }
            Onto::Frame(id) => {
                let mut frames = self.frames.iter();
                let frame = frames
                    .find(|frame| frame.id == id)
                    .ok_or(Declined::Unknown("frame"))?;
                (frame.name.clone(), frame.kind, frame.frame, source.with)
            }
        };
        let input = self.input(source, kind, frame, setup)?;
        Ok((name, input))
    }

    /// A position on another bike.
    pub fn carried(&self, asked: &NextAsked) -> Result<CarriedView, Declined> {
        let source = self.source(&asked.from)?;
        let onto = asked
            .onto
            .ok_or_else(|| Declined::field("/onto", "Which bike it goes onto is missing"))?;
        let (name, input) = self.onto(&source, onto)?;
        self.carried_to(&source, name, &input, asked.crank)
    }

    fn carried_to(
        &self,
        source: &Source,
        name: String,
        onto: &ForeseeInput,
        crank: Option<Intent>,
    ) -> Result<CarriedView, Declined> {
        let trying = Trying::of(&source.ride);
        let carried = match crank {
            None => carry(&trying, onto, &self.house.parts)?,
            Some(intent) => carry_to_crank(&trying, onto, &self.house.parts, intent)?,
        };
        Ok(CarriedView {
            name,
            position: (self
                .input(source, onto.kind, onto.frame, carried.setup)?
                .check()?)
            .position(),
            carried,
            sit: trying.before.bike.sit,
            hand: trying.before.bike.hand,
        })
    }

    /// The rider of a position on a frame with its parts, at the effort it was ridden with.
    fn input(
        &self,
        source: &Source,
        kind: Kind,
        frame: Frame,
        setup: Setup,
    ) -> Result<ForeseeInput, Declined> {
        Ok(ForeseeInput {
            effort: source.ride.effort(),
            ..sat_on(self.measured()?, &self.house, kind, (frame, setup))
        })
    }

    /// The frames of the library for a position, the best first.
    pub fn choice(&self, asked: &ChoiceAsked) -> Result<ChoiceView, Declined> {
        accepted(asked.limits.refusals("/limits"))?;
        let source = self.source(&asked.from)?;
        let (ids, choice) = self.chosen(&source, &asked.limits, &asked.kinds);
        let of = |id: Uuid| -> Option<&Ranked> {
            let index = ids.iter().position(|other| *other == id)?;
            choice.ranked.iter().find(|one| one.index == index)
        };
        let two = asked
            .beside
            .and_then(|(one, other)| Some((of(one)?, of(other)?)));
        Ok(ChoiceView {
            beside: two
                .map(|(one, other)| beside(one, other))
                .unwrap_or_default(),
            parts: choice.ranked.iter().map(Ranked::parts).collect(),
            ids,
            choice,
        })
    }

    fn chosen(&self, source: &Source, limits: &PartLimits, kinds: &[Kind]) -> (Vec<Uuid>, Choice) {
        let wanted = |frame: &&LibraryFrame| kinds.is_empty() || kinds.contains(&frame.kind);
        let frames: Vec<&LibraryFrame> = self.frames.iter().filter(wanted).collect();
        let offers: Vec<OnOffer> = (frames.iter())
            .map(|of| OnOffer {
                name: &of.name,
                kind: of.kind,
                frame: &of.frame,
            })
            .collect();
        let trying = Trying::of(&source.ride);
        let choice = choose(&trying, &source.with, &offers, limits, &self.house.parts);
        (frames.iter().map(|frame| frame.id).collect(), choice)
    }

    /// A frame made to measure around a position.
    pub fn made(&self, asked: &NextAsked) -> Result<MadeView, Declined> {
        let source = self.source(&asked.from)?;
        self.made_of(&source, asked.wishes.as_deref())
    }

    fn made_of(&self, source: &Source, wishes: Option<&[Wished]>) -> Result<MadeView, Declined> {
        let trying = Trying::of(&source.ride);
        let wishes = wishes.map_or_else(
            || ordinary_wishes(&trying, &source.with),
            <[Wished]>::to_vec,
        );
        accepted(wish_refusals(&wishes, "/wishes"))?;
        let made = made(&trying, &source.with, &wishes)?;
        let frame = made.frame.refusals("/wishes");
        accepted(frame)?;
        Ok(MadeView {
            position: (self
                .input(source, source.kind, made.frame, made.setup)?
                .check()?)
            .position(),
            made,
        })
    }

    /// The bike a carried position is written down as: not ridden yet.
    pub fn new_bike(&self, new: &NewNext) -> Result<Bike, Declined> {
        accepted(Vec::from_iter(refuse_name(&new.name, "/name")))?;
        let source = self.source(&new.of.from)?;
        let trying = Trying::of(&source.ride);
        let (kind, frame, setup, told, made) = if let Some(onto) = new.of.onto {
            let (name, input) = self.onto(&source, onto)?;
            let view = self.carried_to(&source, name, &input, new.of.crank)?;
            (
                input.kind,
                input.frame,
                view.carried.setup,
                view.carried.told,
                None,
            )
        } else {
            let view = self.made_of(&source, new.of.wishes.as_deref())?;
            if let Some(conflict) = view.made.conflicts.first() {
                return Err(Declined::field("/of/wishes", conflict.words.clone()));
            }
            let input = self.input(&source, source.kind, view.made.frame, view.made.setup)?;
            // On its own frame nothing is off: what is told of it is told alike.
            let mut told = carry(&trying, &input, &[])?.told;
            told.to_order.push("The frame, made to measure".to_owned());
            let made = MadeTo {
                dimensions: view.made.dimensions,
                told: view.made.told,
                assumed: view.made.assumed,
            };
            (
                source.kind,
                view.made.frame,
                view.made.setup,
                told,
                Some(made),
            )
        };
        let others = match new.of.onto {
            Some(Onto::Frame(id)) => self.others(&source, id),
            _ => Vec::new(),
        };
        // What was chosen or set anew to get there is worked out; the rest is as usual as it was.
        let onto = (self.rider.bikes.iter()).find(|bike| new.of.onto == Some(Onto::Bike(bike.id)));
        let usual = onto.map_or_else(
            || alike(source.usual, &source.with, &setup),
            |bike| still_usual(bike, &setup),
        );
        Ok(Bike {
            id: new.id,
            name: new.name.trim().to_owned(),
            kind,
            frame,
            label: None,
            setup,
            taped: None,
            usual: Some(usual),
            stand: false,
            carried: Some(Box::new(CarriedFrom {
                from: source.from.clone(),
                session: source.fit,
                on: self.today,
                sit: trying.before.bike.sit,
                hand: trying.before.bike.hand,
                told,
                made,
                others,
            })),
            sessions: Vec::new(),
        })
    }

    /// Two more frames that would do.
    fn others(&self, source: &Source, but: Uuid) -> Vec<String> {
        let kind = self
            .frames
            .iter()
            .find(|frame| frame.id == but)
            .map(|frame| frame.kind);
        let (ids, choice) = self.chosen(source, &PartLimits::default(), &Vec::from_iter(kind));
        let reached = choice
            .ranked
            .iter()
            .filter(|one| one.reached && ids[one.index] != but);
        reached
            .take(2)
            .map(|one| format!("{}: {}", one.name, wedge_core::words::lower(&one.parts())))
            .collect()
    }
}

/// What a setup is typed of as points.
const TYPED: [Quantity; 4] = [
    Quantity::SaddleHeight,
    Quantity::Setback,
    Quantity::Tilt,
    Quantity::Crank,
];

/// Of these what two setups have the same of, on both sides.
fn alike(mut all: Vec<Quantity>, one: &Setup, other: &Setup) -> Vec<Quantity> {
    all.retain(|of| {
        Side::BOTH.iter().all(|side| {
            let [one, other] = [one, other].map(|s| s.get(*of, Some(*side)).map(written));
            one == other
        })
    });
    all
}

/// Of a bike's usual numbers those it still has, and nobody has read.
fn still_usual(bike: &Bike, now: &Setup) -> Vec<Quantity> {
    let is_read = |of: Quantity| {
        let mut read = bike.sessions.iter().flat_map(|fit| &fit.readings);
        read.any(|record| record.reading.quantity == of)
    };
    let mut unread = bike.usual.clone().unwrap_or_default();
    unread.retain(|of| !is_read(*of));
    alike(unread, &bike.setup, now)
}

/// "Weir 54, fit 2".
fn fit_words(bike: &Bike, fit: &Session) -> String {
    format!("{}, fit {}", bike.name, fit.number)
}

/// What is put on a frame after a stand: its bar, saddle and cranks, on the stem and post an ordinary bike has.
fn off_the_stand(mut setup: Setup, kind: Kind) -> Setup {
    let ordinary = ordinary_bikes().into_iter().find(|bike| bike.kind == kind);
    setup.cockpit = ordinary.map_or(setup.cockpit, |bike| bike.cockpit);
    setup.residual = Residual::default();
    setup.post = Post::default();
    setup
}

/// A bike's carried position, while nobody has ridden it.
pub(crate) fn carried_here(rider: &Rider, house: &House, bike: &Bike) -> Option<CarriedHere> {
    let carried = bike.carried.as_ref()?;
    if bike.sessions.iter().any(|fit| fit.now().is_some()) {
        return None;
    }
    Some(CarriedHere {
        words: format!(
            "From {}, {}: computed, not ridden yet",
            carried.from,
            day_words(carried.on)
        ),
        on: carried.on,
        sit: carried.sit,
        hand: carried.hand,
        position: unridden(rider, house, bike).map(Box::new),
        made: carried.made.is_some(),
    })
}

/// A rider as measured on a frame with its parts, by the house's ranges and conventions.
fn sat_on(
    measured: MeasuredRider,
    house: &House,
    kind: Kind,
    (frame, setup): (Frame, Setup),
) -> ForeseeInput {
    ForeseeInput {
        ranges: house.ranges_of(kind),
        conventions: fitted(&house.conventions, &setup),
        ..ForeseeInput::new(measured, kind, frame, setup)
    }
}

/// How the rider sits on a bike as it is written down.
fn unridden(rider: &Rider, house: &House, bike: &Bike) -> Option<Position> {
    let input = sat_on(
        rider.measured()?,
        house,
        bike.kind,
        (bike.frame, bike.setup),
    );
    Some(input.check().ok()?.position())
}

/// The rider's sheet of the next bike, and its builder's.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct NextSheet {
    /// The studio; nameless when empty.
    pub studio: String,
    /// The rider.
    pub rider: String,
    /// The bike as it is called.
    pub bike: String,
    /// "From Weir 54, fit 2, 12 Nov 2026".
    pub from: String,
    /// Whether the position was ridden, or only computed.
    pub ridden: String,
    /// The contact points in every convention.
    pub contacts: Vec<Contact>,
    /// The frame and what it is built of.
    pub built: Vec<String>,
    /// What must be got.
    pub to_order: Vec<String>,
    /// What is not as it was, and what stands in the way.
    pub off: Vec<String>,
    /// What else is other than on the bike it is from.
    pub compared: Vec<String>,
    /// What to check at delivery.
    pub checks: Vec<String>,
    /// Other frames that would have done.
    pub others: Vec<String>,
    /// The day.
    pub on: String,
    /// The frame.
    pub frame: Frame,
    /// Every bolt and part.
    pub setup: Setup,
    /// For its builder.
    pub made: Option<MadeTo>,
}

impl NextSheet {
    /// The sheet of a bike a position was carried to.
    pub fn of(rider: &Rider, house: &House, bike: &Bike) -> Result<Self, Declined> {
        let none = || Declined::not_now("No position was carried to this bike");
        let carried = bike.carried.as_ref().ok_or_else(none)?;
        let position = unridden(rider, house, bike)
            .ok_or_else(|| Declined::not_now("This bike cannot be drawn: look at its numbers"))?;
        let told = &carried.told;
        let off = [("saddle", told.saddle_off), ("hands", told.hand_off)]
            .into_iter()
            .filter(|(_, off)| off.length() >= 0.5)
            .map(|(what, off)| {
                format!(
                    "The {what}: {} mm off, {} forward and {} up",
                    written(off.length()),
                    written(off.x),
                    written(off.y)
                )
            });
        let mut off: Vec<String> = off.collect();
        off.extend(told.in_the_way.iter().cloned());
        off.extend(told.also.iter().cloned());
        let mut checks = told.checks.clone();
        checks.extend(told.cut_mm.map(|cut| {
            format!(
                "{} mm come off the steerer: not before it was ridden for some weeks",
                written(cut)
            )
        }));
        checks.push("Measure saddle height, setback and the hands anew on the bike, and write them beside these".to_owned());
        let compared = told.compared.iter().map(|one| {
            let unit = one.unit.suffix();
            format!(
                "{}: {}{unit} → {}{unit}",
                one.label,
                written(one.before),
                written(one.after)
            )
        });
        Ok(Self {
            studio: house.name.clone(),
            rider: rider.name.clone(),
            bike: bike.name.clone(),
            from: format!("From {}", carried.from),
            ridden: if carried.session.is_some() {
                "The position was ridden there; on this bike it is computed, and nobody has ridden it.".to_owned()
            } else {
                "The points were typed: nothing of this was ridden.".to_owned()
            },
            contacts: contacts(&position, &bike.setup),
            built: told.built.clone(),
            to_order: told.to_order.clone(),
            off,
            compared: compared.collect(),
            checks,
            others: carried.others.clone(),
            on: day_words(carried.on),
            frame: bike.frame,
            setup: bike.setup,
            made: carried.made.clone(),
        })
    }
}
