//! Doubts: everything about a rider and a bike that is not exactly known, and by how much.

use crate::bike::{Placed, Setup};
use crate::measure::Quantity;
use crate::plane::Point;
use crate::position::{FITTED, Fit, Parameter, Person, Place, spread};
use crate::units::{Kilograms, Millimetres, Side};

/// What one position may be moved by: everything that is not exactly known.
#[derive(Clone)]
pub(crate) struct Sample {
    pub(crate) person: Person,
    pub(crate) before: Placed,
    pub(crate) after: Placed,
}

/// Something not exactly known.
pub(crate) struct Doubt {
    /// What it is called in a fit.
    pub(crate) name: String,
    /// One standard deviation.
    pub(crate) sd: f64,
    /// The leg it touches, when it touches nothing else.
    pub(super) only: Option<Side>,
    /// Moves a sample by so much.
    pub(crate) by: Move,
}

type Move = Box<dyn Fn(&mut Sample, f64)>;

/// Doubts as they are gathered.
#[derive(Default)]
struct Doubts(Vec<Doubt>);

impl Doubts {
    fn whole(&mut self, name: &str, sd: f64, by: impl Fn(&mut Sample, f64) + 'static) {
        self.0.push(Doubt {
            name: name.to_owned(),
            sd,
            only: None,
            by: Box::new(by),
        });
    }

    /// A doubt of one side that touches more than its leg.
    fn sided(&mut self, name: &str, side: Side, sd: f64, by: impl Fn(&mut Sample, f64) + 'static) {
        self.whole(&format!("{name}, {}", side.word()), sd, by);
    }

    /// A doubt that touches nothing but one leg.
    fn of_leg(&mut self, name: &str, side: Side, sd: f64, by: impl Fn(&mut Sample, f64) + 'static) {
        self.sided(name, side, sd, by);
        if let Some(doubt) = self.0.last_mut() {
            doubt.only = Some(side);
        }
    }
    /// A doubt of a parameter that is fitted.
    fn fitted(&mut self, place: Place, sd: f64) {
        let (parameter, side) = place;
        let by = move |sample: &mut Sample, by| sample.person.shift(place, by);
        match side {
            Some(side) => self.of_leg(parameter.label(), side, sd, by),
            None => self.whole(parameter.label(), sd, by),
        }
    }
}

/// One unit of each parameter that is fitted.
pub(super) fn fitted_doubts() -> Vec<Doubt> {
    let mut all = Doubts::default();
    for place in FITTED {
        all.fitted(place, 1.0);
    }
    all.0
}

/// What a fit of before did not fit yet.
pub(super) fn left_out_doubts(person: &Person, fit: &Fit) -> Vec<Doubt> {
    let mut all = Doubts::default();
    for place in fit.left_out() {
        all.fitted(*place, person.prior_sd(*place));
    }
    all.0
}

/// What calibration fits, as it is before anything is seen.
pub(super) fn free_doubts(person: &Person) -> Vec<Doubt> {
    let mut all = Doubts::default();
    for place in FITTED {
        let (parameter, _) = place;
        // Nothing seen, nothing to see it larger; and upper arm and forearm are in doubt apart.
        if parameter.is_bias() || parameter == Parameter::Arm {
            continue;
        }
        all.fitted(place, person.prior_sd(place));
    }
    all.whole(
        "upper arm",
        person.lengths.upper_arm.spread_mm.0,
        |s, by| {
            s.person.lengths.upper_arm.value_mm.0 += by;
        },
    );
    all.whole("forearm", person.lengths.forearm.spread_mm.0, |s, by| {
        s.person.lengths.forearm.value_mm.0 += by;
    });
    all.0
}

/// What calibration holds.
pub(crate) fn held_doubts(sample: &Sample) -> Vec<Doubt> {
    let mut all = Doubts::default();
    body_doubts(&mut all, &sample.person);
    for side in Side::BOTH {
        leg_doubts(&mut all, &sample.person, side);
    }
    bike_doubts(&mut all);
    all.0
}

/// The body but for its legs, and how it sits.
fn body_doubts(all: &mut Doubts, person: &Person) {
    let lengths = &person.lengths;

    // An inseam's error is common to both legs, and to the trunk: what is estimated from it follows it.
    let inseam = lengths.inseam.value_mm;
    all.whole("inseam", lengths.inseam.spread_mm.0, move |s, by| {
        s.person.rider.body.inseam_mm = Some(inseam + Millimetres(by));
        s.person.estimate_anew();
    });
    all.whole("stature", Quantity::Stature.spec().uncertainty, |s, by| {
        s.person.rider.body.stature_mm.0 += by;
        s.person.estimate_anew();
    });
    if let Some(mass) = person.rider.body.mass_kg {
        all.whole("mass", Quantity::Mass.spec().uncertainty, move |s, by| {
            s.person.rider.body.mass_kg = Some(Kilograms(mass.0 + by));
        });
    }
    all.whole("trunk", lengths.trunk.spread_mm.0, |s, by| {
        s.person.lengths.trunk.value_mm.0 += by;
    });
    all.whole(
        "shoulder breadth",
        lengths.shoulder_breadth.spread_mm.0,
        |s, by| {
            s.person.lengths.shoulder_breadth.value_mm.0 += by;
        },
    );
    all.whole("pelvis share", spread::PELVIS_SHARE, |s, by| {
        s.person.rider.pelvis.share += by;
    });
    all.whole("pitch response", spread::PITCH_RESPONSE, |s, by| {
        s.person.rider.pitch_response_deg_per_mm += by;
    });
}

/// One leg's foot and what it stands on.
fn leg_doubts(all: &mut Doubts, person: &Person, side: Side) {
    let leg = person.lengths.legs.of(side);
    all.of_leg(
        "ankle height",
        side,
        leg.ankle_height.spread_mm.0,
        move |s, by| {
            s.person.lengths.legs.of_mut(side).ankle_height.value_mm.0 += by;
        },
    );
    all.of_leg(
        "foot length",
        side,
        leg.foot_length.spread_mm.0,
        move |s, by| {
            s.person.lengths.legs.of_mut(side).foot_length.value_mm.0 += by;
        },
    );
    for quantity in [Quantity::CleatSetback, Quantity::PedalStack, Quantity::Sole] {
        all.of_leg(
            quantity.key(),
            side,
            quantity.spec().uncertainty,
            move |s, by| {
                both(s, |setup| shift(setup, quantity, side, by));
            },
        );
    }
    // A crank belongs to lengths taken from the pedal axle as well.
    let crank = Quantity::Crank;
    all.sided(crank.key(), side, crank.spec().uncertainty, move |s, by| {
        both(s, |setup| shift(setup, Quantity::Crank, side, by));
    });
}

/// Where saddle and hands were taped.
fn bike_doubts(all: &mut Doubts) {
    for (quantity, by_point) in [
        (Quantity::SaddleHeight, Point::new(0.0, 1.0)),
        (Quantity::Setback, Point::new(-1.0, 0.0)),
    ] {
        all.whole(quantity.key(), quantity.spec().uncertainty, move |s, by| {
            for setup in [&mut s.before, &mut s.after] {
                *setup = setup.moved(setup.sit() + by_point * by);
            }
        });
    }
    let (along, up) = (Quantity::BbToHand, Quantity::Drop);
    all.whole(along.key(), along.spec().uncertainty, |s, by| {
        both(s, |setup| setup.residual.hand_forward_mm.0 += by);
    });
    all.whole(up.key(), up.spec().uncertainty, |s, by| {
        both(s, |setup| setup.residual.hand_up_mm.0 += by);
    });
}

fn both(sample: &mut Sample, change: impl Fn(&mut Setup)) {
    for setup in [&mut sample.before, &mut sample.after] {
        *setup = setup.with(&change);
    }
}

fn shift(setup: &mut Setup, quantity: Quantity, side: Side, by: f64) {
    if let Some(value) = setup.get(quantity, Some(side)) {
        setup.set(quantity, Some(side), value + by);
    }
}
