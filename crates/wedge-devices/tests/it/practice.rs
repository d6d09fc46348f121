//! Practice: what each level is, and what is told at the end.

use wedge_core::bike::Placed;
use wedge_core::foresee::{Change, Trying};
use wedge_core::judge::{Axis, Felt};
use wedge_core::measure::Quantity;
use wedge_devices::Room;
use wedge_devices::hidden::Character;
use wedge_devices::hundred::Stranger;
use wedge_devices::practice::{Level, Revealed, Tried, revealed};

fn room(level: Level, seed: u64) -> (Room, Stranger) {
    let stranger = Stranger::at(level, seed);
    (
        Room::of(stranger.hidden.clone(), &stranger.known).unwrap(),
        stranger,
    )
}

/// Windows missed by more than a tape's error on the bike as found.
fn out(room: &Room, stranger: &Stranger) -> usize {
    let (places, _) = room.places(&stranger.known.setup).unwrap();
    let rider = room.rider();
    Axis::ALL
        .iter()
        .filter(|axis| !rider.is_right_on(**axis, &places, true))
        .count()
}

#[test]
fn each_level_is_what_it_says() {
    let mut none_out = 0;
    for seed in 1..5 {
        for level in Level::ALL {
            let (room, stranger) = room(level, seed);
            let (rider, out) = (room.rider(), out(&room, &stranger));
            let troubles = rider.troubles().len();
            match level {
                Level::Straightforward | Level::Masking => {
                    assert!(
                        out >= 1 && troubles == 0,
                        "{level:?} {seed}: {out} {troubles}"
                    );
                }
                Level::OneThing => {
                    assert!(
                        (1..=3).contains(&out) && troubles == 0,
                        "{seed}: {out} {troubles}"
                    );
                }
                Level::Trap => {
                    assert_eq!(troubles, 1);
                    none_out += usize::from(out == 0);
                }
                Level::Hard => assert_ne!(rider.character(), Character::Plain),
            }
            if level != Level::Hard {
                assert_eq!(rider.character(), Character::Plain);
            }
        }
    }
    assert!(none_out >= 3, "{none_out} of 4 traps have nothing out");
}

#[test]
fn the_same_level_and_seed_are_the_same_rider() {
    for level in Level::ALL {
        let (one, other) = (Stranger::at(level, 9), Stranger::at(level, 9));
        assert_eq!(one.known, other.known);
        assert_eq!(
            one.hidden.window(Axis::Height),
            other.hidden.window(Axis::Height)
        );
        assert_eq!(Level::named(level.key()), Some(level));
    }
}

fn ended(level: Level, seed: u64, by: f64) -> Revealed {
    let (room, stranger) = room(level, seed);
    let was = stranger.known.setup;
    let ride = stranger.known.check().unwrap();
    let placed = Trying::of(&ride)
        .changed(&[Change::by(Quantity::SaddleHeight, by)])
        .unwrap();
    let is = Placed::into(placed);
    let tried = Tried {
        number: 1,
        title: "Saddle",
        was,
        is,
        said: Some(Felt::Better),
    };
    revealed((level, seed), &room, &is, &[tried]).unwrap()
}

#[test]
fn the_end_tells_what_was_missed_and_what_others_would_have_done() {
    let (room, stranger) = room(Level::Straightforward, 3);
    let (places, _) = room.places(&stranger.known.setup).unwrap();
    let window = room.rider().window(Axis::Height);
    let right_way = (window.centre - places[Axis::Height as usize]).round();
    let good = ended(Level::Straightforward, 3, right_way);
    let height = &good.axes[Axis::Height as usize];
    assert!(height.came_out && !height.missed, "{height:?}");
    assert!(
        good.trials[0]
            .words
            .starts_with("nearer to right; he said so"),
        "{:?}",
        good.trials
    );
    assert_eq!(good.ended.trials, 1);
    assert_eq!(good.ended.out[0], out(&room, &stranger));
    assert!(good.words.contains("when the bike came"), "{}", good.words);
    let wrong = ended(Level::Straightforward, 3, -right_way);
    assert!(wrong.axes[Axis::Height as usize].missed && wrong.ended.worst > good.ended.worst);
    assert!(
        wrong.trials[0]
            .words
            .starts_with("farther from right; he said better")
    );
    assert_eq!(good.beside.len(), 2);
    assert!(!good.body.is_empty() && good.troubles.is_empty());
}

#[test]
fn the_region_drawn_for_the_saddle_is_where_its_windows_are() {
    let (room, stranger) = room(Level::Hard, 5);
    let end = revealed((Level::Hard, 5), &room, &stranger.known.setup, &[]).unwrap();
    let sit = &end.regions[0];
    assert_eq!((sit.label, sit.corners.len()), ("Sit reference", 4));
    let middle = sit
        .corners
        .iter()
        .fold(wedge_core::plane::Point::new(0.0, 0.0), |a, b| a + *b)
        * 0.25;
    let mut setup = stranger.known.setup;
    setup.saddle.place(middle);
    let (places, _) = room.places(&setup).unwrap();
    for axis in [Axis::Height, Axis::Setback] {
        let off = places[axis as usize] - room.rider().window(axis).centre;
        assert!(
            off.abs() < room.rider().window(axis).half,
            "{axis:?}: {off}"
        );
    }
}
