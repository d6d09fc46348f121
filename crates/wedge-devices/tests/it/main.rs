//! Finders on clips nobody filmed: every dot's place is known; and hidden riders: they answer by their laws.
#![allow(clippy::unwrap_used, clippy::panic)]

mod across;
mod devices;
mod foresight;
mod hidden;
mod hundred;
mod markers;
mod practice;

use std::ops::Range;
use wedge_core::capture::BodyPoint;
use wedge_core::film::{FilmMark, Image, Naming, find, follow, learn, name_dots, square};
use wedge_devices::{RANGES, Scene};

/// How far a dot may be from where it is, px.
const NEAR_PX: f64 = 3.0;
const CLIPS: u64 = 200;
const FRAMES: usize = 6;

#[test]
fn dots_are_named_right_in_most_clips_and_none_that_is_kept_is_wrong() {
    let halves = std::thread::scope(|scope| {
        let half = |seeds: Range<u64>| scope.spawn(move || tried(seeds));
        [half(0..CLIPS / 2), half(CLIPS / 2..CLIPS)].map(|half| half.join().unwrap())
    });
    let [right, wrong, kept, there]: [u32; 4] =
        std::array::from_fn(|i| halves[0][i] + halves[1][i]);
    assert!(u64::from(right) * 100 >= 85 * CLIPS, "{right} of {CLIPS}");
    assert_eq!(wrong, 0, "of {kept}");
    assert!(kept * 100 >= there * 95, "{kept} of {there}");
}

/// Clips named right; of their dots those kept wrong, kept, and there to be seen.
fn tried(seeds: Range<u64>) -> [u32; 4] {
    let size = [960, 640];
    let (mut right, mut wrong, mut kept, mut there) = (0, 0, 0, 0);
    for seed in seeds {
        let mut scene = Scene::thrown(seed, size, &RANGES);
        let view = scene.view();
        let squared = square(&view).unwrap();
        let frames: Vec<_> = (0..FRAMES).map(|frame| scene.film(frame)).collect();
        let knee = frames[0]
            .dots
            .iter()
            .find(|(part, _, _)| *part == BodyPoint::Knee)
            .unwrap()
            .1;
        let image = |rgb| Image::new(size[0], size[1], rgb).unwrap();
        let learnt = learn(
            &image(&frames[0].rgb),
            knee,
            wedge_core::film::DOT_WIDE_MM * squared.px_per_mm,
        )
        .unwrap();
        let blobs: Vec<_> = frames
            .iter()
            .map(|frame| find(&image(&frame.rgb), &learnt))
            .collect();
        let told = scene.rider.known().told();
        let naming = Naming {
            squared: &squared,
            bb: scene.bb(),
            told: &told,
        };
        let clicked = FilmMark {
            part: BodyPoint::Knee,
            at: knee,
            dot: true,
        };
        let named = name_dots(&blobs[0], &[clicked], &naming);
        let off = |frame: usize, part: BodyPoint, at: [f64; 2]| {
            let (_, is, _) = frames[frame]
                .dots
                .iter()
                .find(|(own, _, _)| *own == part)
                .unwrap();
            (is[0] - at[0]).hypot(is[1] - at[1])
        };
        let all = named.len() == 8
            && named
                .iter()
                .all(|mark| off(0, mark.part, mark.at) <= NEAR_PX);
        right += u32::from(all);
        if !all {
            continue;
        }
        let times: Vec<f64> = (0..FRAMES).map(Scene::time).collect();
        for way in follow(&times, &blobs, 0, &named, &naming) {
            for (frame, at) in way.at.iter().enumerate().skip(1) {
                let hidden = frames[frame]
                    .dots
                    .iter()
                    .any(|(part, _, hidden)| *part == way.part && *hidden);
                there += u32::from(!hidden);
                if let Some(at) = at {
                    kept += 1;
                    wrong += u32::from(off(frame, way.part, *at) > NEAR_PX);
                }
            }
        }
    }
    [right, wrong, kept, there]
}
