//! Stand-ins for devices: the same question, the same answer; what they give is read back as it is; what goes wrong is said.

use wedge_core::bike::Placed;
use wedge_core::capture::torque::wheel;
use wedge_core::capture::{
    Answers, BodyPoint, Column, Figure, Known, Sample, Tracks, beside, look,
};
use wedge_core::example;
use wedge_core::film::{DOT_WIDE_MM, FilmMark, Image, Naming, find, learn, name_dots, square};
use wedge_core::foresee::{Change, ForeseeInput, Trying};
use wedge_core::measure::Quantity;
use wedge_core::rider::Effort;
use wedge_core::units::Side;
use wedge_devices::Room;
use wedge_devices::device::{
    Camera, Film, FitStand, Mishap, SECONDS, Scales, Seat, SimulatedCamera, SimulatedFilm,
    SimulatedScales, SimulatedStand, SimulatedTrainer, Target, Trainer, nothing_of_the_body,
};
use wedge_devices::hidden::{Asked, HiddenRider, Trouble, Troubled};

const EFFORT: Effort = Effort {
    power_w: 180.0,
    cadence_rpm: 88.0,
};

fn room(seed: u64) -> (Room, ForeseeInput) {
    let known = example::road();
    (Room::behind(seed, &known).unwrap(), known)
}

fn seat<'a>(room: &'a Room, known: &ForeseeInput, asked: u32) -> Seat<'a> {
    room.seat(&known.setup, EFFORT, Asked(asked)).unwrap()
}

fn take(room: &Room, known: &ForeseeInput, asked: u32) -> Tracks {
    let taken = SimulatedCamera::before(seat(room, known, asked), 1, None).take(SECONDS);
    assert!(taken.trouble.is_none());
    taken.got.unwrap()
}

fn known_of(input: &ForeseeInput) -> Known {
    let pedalling = input.setup.pedalling.right;
    Known {
        stature_mm: Some(input.rider.body.stature_mm.0),
        crank_mm: Some(pedalling.crank_mm.0),
        cleat_setback_mm: Some(pedalling.cleat_setback_mm.0),
        sole_mm: Some(pedalling.sole_mm.0),
        pedal_stack_mm: Some(pedalling.pedal_stack_mm.0),
        ..Known::default()
    }
}

fn read(tracks: &Tracks, known: &ForeseeInput) -> Sample {
    let answers = Answers {
        nothing: nothing_of_the_body(),
        ..Answers::default()
    };
    look(tracks, &known_of(known).told(), &answers).unwrap()
}

#[test]
fn the_same_question_gives_the_same_take_and_another_a_new_one() {
    let ((one, known), (other, _)) = (room(7), room(8));
    assert_eq!(take(&one, &known, 3), take(&one, &known, 3));
    assert_ne!(take(&one, &known, 3), take(&one, &known, 4));
    assert_ne!(take(&one, &known, 3), take(&other, &known, 3));
    assert_eq!(take(&one, &known, 3).times.len(), 1000);
}

#[test]
fn a_take_is_read_as_the_body_is_within_what_putting_markers_on_does() {
    for seed in 1..9 {
        let (room, known) = room(seed);
        let (places, bike) = room.places(&known.setup).unwrap();
        let truth = room.rider().sight(&bike, &known.setup, &places).unwrap();
        let sample = read(&take(&room, &known, 1), &known);
        for (index, side) in Side::BOTH.into_iter().enumerate() {
            for (figure, is) in [
                (Figure::KneeSmallest, truth.knee_at_full_reach[index]),
                (Figure::KneeLargest, truth.knee_most_bent[index]),
                (Figure::Torso, truth.torso),
                (Figure::KneeOverAxle, truth.knee_over_axle[index]),
            ] {
                let stat = sample.stat(side, figure).unwrap();
                let spec = figure.spec();
                // Hips that rock move the knee by some of a degree besides.
                let may = 3.0 * spec.put_on + 2.0;
                assert!(
                    (stat.mean - is).abs() < may,
                    "{seed} {side:?} {}: {} for {is}",
                    spec.label,
                    stat.mean
                );
            }
        }
    }
}

#[test]
fn markers_taken_for_one_another_do_not_show_in_the_figures() {
    // Over many takes of one rider with the markers left on, the knee is read to what the trade says two takes differ by.
    let (room, known) = room(5);
    let all: Vec<f64> = (1..13)
        .map(|asked| {
            let sample = read(&take(&room, &known, asked), &known);
            sample.stat(Side::Right, Figure::KneeSmallest).unwrap().mean
        })
        .collect();
    let mean = all.iter().sum::<f64>() / 12.0;
    let off = all
        .iter()
        .map(|value| (value - mean).abs())
        .fold(0.0, f64::max);
    assert!(
        off < 3.0 * Figure::KneeSmallest.spec().left_on,
        "{off}: {all:?}"
    );
}

#[test]
fn a_saddle_that_goes_up_straightens_the_knee_of_the_take_as_foreseen() {
    let (room, known) = room(3);
    let ride = known.check().unwrap();
    let trying = Trying::of(&ride);
    let placed = trying
        .changed(&[Change::by(Quantity::SaddleHeight, 10.0)])
        .unwrap();
    let up = ForeseeInput {
        setup: Placed::into(placed),
        ..known.clone()
    };
    let (before, after) = (
        read(&take(&room, &known, 1), &known),
        read(&take(&room, &up, 2), &up),
    );
    let column = |sample| Column {
        sample,
        power_w: Some(180.0),
        placing: 1,
    };
    let table = beside(&[column(&before), column(&after)]);
    assert!(!table.lines.is_empty());
    let knee = |sample: &Sample| sample.stat(Side::Right, Figure::KneeSmallest).unwrap().mean;
    let by = knee(&after) - knee(&before);
    assert!((-6.5..-1.5).contains(&by), "{by}");
}

#[test]
fn a_dip_and_a_twist_are_seen_and_nobody_else_has_them() {
    let (plain, known) = room(11);
    let hidden = HiddenRider::seated(11, &known).unwrap();
    let of = |trouble, side| Troubled {
        trouble,
        side,
        level: 1.3,
    };
    let troubled = Room::of(
        hidden.troubled_by(vec![
            of(Trouble::Dip, Some(Side::Right)),
            of(Trouble::Twist, None),
        ]),
        &known,
    )
    .unwrap();
    let bare = Room::of(
        HiddenRider::seated(11, &known)
            .unwrap()
            .troubled_by(Vec::new()),
        &known,
    )
    .unwrap();
    let figures = |room: &Room| {
        let sample = read(&take(room, &known, 1), &known);
        [Figure::DipRight, Figure::DipLeft, Figure::Twist]
            .map(|figure| sample.stat(Side::Right, figure).unwrap().mean)
    };
    let (with, without) = (figures(&troubled), figures(&bare));
    assert!(with[0] - without[0] > 2.0, "{with:?} {without:?}");
    assert!((with[2] - without[2]).abs() > 3.0, "{with:?} {without:?}");
    let (places, _) = plain.places(&known.setup).unwrap();
    assert_eq!(
        plain.tells(&places, Asked(1)),
        plain.tells(&places, Asked(1))
    );
}

#[test]
fn what_goes_wrong_with_a_camera_is_said_and_leaves_what_came() {
    let (room, known) = room(2);
    let take = |fault| SimulatedCamera::before(seat(&room, &known, 1), 1, Some(fault)).take(10.0);
    let whole = super::devices::take(&room, &known, 1);
    let words = |fault| take(fault).trouble.unwrap().words;
    let cut = take(Mishap::Unplugged).got.unwrap();
    assert!((300..800).contains(&cut.times.len()));
    assert_eq!(
        cut.markers[0].places,
        whole.markers[0].places[..cut.times.len()]
    );
    assert!(words(Mishap::Unplugged).contains("keep what there is, or drop it"));
    let late = take(Mishap::Late).got.unwrap();
    assert!(late.times.len() < 1000 && late.times[0] == 0.0);
    assert!(take(Mishap::Silent).got.is_none());
    assert!(words(Mishap::Silent).contains("nothing was taken"));
    let out = take(Mishap::OutOfRange).got.unwrap();
    let seen = out.markers[3].places.iter().flatten().count();
    assert!((600..800).contains(&seen), "{seen}");
    // What is there is still a take.
    assert!(look(&out, &known_of(&known).told(), &Answers::default()).is_ok());
}

#[test]
fn a_trainer_holds_its_power_and_its_torque_says_so() {
    let (room, known) = room(4);
    let hold =
        |watts, fault| SimulatedTrainer::under(seat(&room, &known, 1), fault).hold(watts, SECONDS);
    let ridden = hold(180.0, None).got.unwrap();
    assert!((13..17).contains(&ridden.strokes.len()), "88 a minute");
    let told = wheel(&ridden.torque().unwrap()).unwrap();
    assert!((told.power_w - 180.0).abs() < 6.0, "{}", told.power_w);
    assert!(told.messages.is_empty(), "{:?}", told.messages);
    let unplugged = hold(180.0, Some(Mishap::Unplugged));
    assert_eq!(
        unplugged.got.unwrap().strokes.len(),
        ridden.strokes.len() / 2
    );
    for (watts, fault) in [
        (5.0, None),
        (180.0, Some(Mishap::Silent)),
        (180.0, Some(Mishap::OutOfRange)),
    ] {
        let taken = hold(watts, fault);
        assert!(taken.got.is_none() && taken.trouble.is_some());
    }
    let weak = HiddenRider::seated(4, &known)
        .unwrap()
        .troubled_by(vec![Troubled {
            trouble: Trouble::Dip,
            side: Some(Side::Left),
            level: 1.5,
        }]);
    let weak = Room::of(weak, &known).unwrap();
    let split = SimulatedTrainer::under(seat(&weak, &known, 1), None).hold(180.0, SECONDS);
    let split = wheel(&split.got.unwrap().torque().unwrap()).unwrap();
    assert!(
        split.half_turn_split_percent > 51.5,
        "{}",
        split.half_turn_split_percent
    );
}

#[test]
fn scales_read_what_rider_and_bike_weigh_near_what_is_estimated() {
    let mut off = Vec::new();
    for seed in 0..30 {
        let (room, known) = room(seed);
        let read = SimulatedScales::under(seat(&room, &known, 1), None).weigh();
        let wheels = read.got.unwrap();
        let sum = wheels.front_kg.unwrap() + wheels.rear_kg.unwrap();
        let mass = known.rider.body.mass_kg.map_or(74.0, |kg| kg.0)
            + known.frame.bike_mass_kg.map_or(9.0, |kg| kg.0);
        assert!((sum - mass).abs() < 2.0, "{sum} of {mass}");
        let ride = known.check().unwrap();
        let estimate = ride.position().loads.unwrap().front_share_percent;
        off.push(wheels.front_percent().unwrap() - estimate);
    }
    let mean = off.iter().sum::<f64>() / 30.0;
    let spread = (off.iter().map(|by| (by - mean).powi(2)).sum::<f64>() / 29.0).sqrt();
    assert!(
        mean.abs() < 3.0 && (0.5..4.0).contains(&spread),
        "{mean} {spread}"
    );
    let (room, known) = room(1);
    let one = SimulatedScales::under(seat(&room, &known, 1), Some(Mishap::Unplugged)).weigh();
    let one = one.got.unwrap();
    assert!(
        one.front_kg.is_some() && one.front_percent().is_none(),
        "one scale tells no share"
    );
}

#[test]
fn a_stand_goes_in_its_own_steps_at_its_own_speed_and_no_further_than_its_stops() {
    let from = Target {
        back_mm: 180.0,
        up_mm: 700.0,
        hand_x_mm: 480.0,
        hand_y_mm: 640.0,
        crank_mm: 170.0,
    };
    let to = Target {
        up_mm: 712.4,
        back_mm: 171.0,
        ..from
    };
    let mut stand = SimulatedStand::at(from, None);
    let moved = stand.goes(to).unwrap().got.unwrap();
    assert_eq!((moved.stands.up_mm, moved.stands.back_mm), (712.0, 171.0));
    assert!((moved.seconds - 2.4).abs() < 1e-9, "12 mm at 5 mm a second");
    assert_eq!(stand.stands(), moved.stands);
    let high = Target {
        up_mm: 1000.0,
        crank_mm: 100.0,
        ..from
    };
    let refused = stand.goes(high).unwrap_err();
    assert_eq!(refused.len(), 2);
    assert_eq!(
        (refused[0].pointer.as_str(), stand.stands()),
        ("/up_mm", moved.stands),
        "nothing moved"
    );
    let mut broken = SimulatedStand::at(from, Some(Mishap::Unplugged));
    let half = broken.goes(to).unwrap();
    assert!(half.trouble.unwrap().words.contains("half-way"));
    assert!((broken.stands().up_mm - 706.0).abs() < 1e-9);
    assert_eq!(half.got.unwrap().stands, broken.stands());
    let mut silent = SimulatedStand::at(from, Some(Mishap::Silent));
    assert!(silent.goes(to).unwrap().got.is_none() && silent.stands() == from);
}

#[test]
fn film_of_a_rider_who_is_not_there_is_found_and_named_as_any_film() {
    let size = [960, 640];
    let mut right = 0;
    for seed in 0..12 {
        let (room, known) = room(seed);
        let mut film = SimulatedFilm::beside(seat(&room, &known, 1), size, None);
        let (view, bb) = film.view().unwrap();
        let squared = square(&view).unwrap();
        let picture = film.film(1).got.unwrap().remove(0);
        assert_eq!(picture.rgb.len(), 3 * size[0] * size[1]);
        let image = Image::new(picture.width, picture.height, &picture.rgb).unwrap();
        let (_, shown) = film.shown(0).unwrap();
        let knee = shown
            .iter()
            .find(|(part, _)| *part == BodyPoint::Knee)
            .unwrap()
            .1;
        let dot = learn(&image, knee, DOT_WIDE_MM * squared.px_per_mm).unwrap();
        let told = known_of(&known).told();
        let naming = Naming {
            squared: &squared,
            bb,
            told: &told,
        };
        let clicked = FilmMark {
            part: BodyPoint::Knee,
            at: knee,
            dot: true,
        };
        let named = name_dots(&find(&image, &dot), &[clicked], &naming);
        let near = |mark: &FilmMark| {
            let is = shown.iter().find(|(part, _)| *part == mark.part).unwrap().1;
            (is[0] - mark.at[0]).hypot(is[1] - mark.at[1]) < 4.0
        };
        right += u32::from(named.len() == 8 && named.iter().all(near));
    }
    assert!(right >= 9, "{right} of 12");
}
