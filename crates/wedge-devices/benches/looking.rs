//! How long it takes to look: a take to its figures, a picture squared, its dots found.

use criterion::{Criterion, criterion_group, criterion_main};
use rand::SeedableRng;
use rand::rngs::StdRng;
use std::hint::black_box;
use wedge_core::capture::{Answers, BodyPoint, MarkerUnit, Track, Tracks, look};
use wedge_core::film::{DOT_WIDE_MM, Image, find, learn, square};
use wedge_devices::{Pedaller, RANGES, Scene};

/// Ten seconds of fourteen markers at a hundred frames a second.
fn take(rider: &Pedaller) -> Tracks {
    let parts = ["toe", "ankle", "knee", "hip", "shoulder", "elbow", "wrist"];
    let points = [
        BodyPoint::Toe,
        BodyPoint::Ankle,
        BodyPoint::Knee,
        BodyPoint::Hip,
        BodyPoint::Shoulder,
        BodyPoint::Elbow,
        BodyPoint::Wrist,
    ];
    let times: Vec<f64> = (0..1000).map(|frame| f64::from(frame) / 100.0).collect();
    let mut markers = Vec::new();
    for (letter, side, ahead) in [("L", -165.0, 180.0), ("R", 165.0, 0.0)] {
        for (name, point) in parts.iter().zip(points) {
            let place = |time: &f64| {
                let at = rider.at(point, ahead + 6.0 * 86.0 * time);
                Some([at.x, at.y, side])
            };
            let places = times.iter().map(place).collect();
            markers.push(Track {
                name: format!("{letter}_{name}"),
                places,
            });
        }
    }
    Tracks {
        rate_hz: 100.0,
        times,
        unit: Some(MarkerUnit::Millimetre),
        markers,
    }
}

fn looking(bench: &mut Criterion) {
    let rider = Pedaller::thrown(&mut StdRng::seed_from_u64(1), (1720.0, 1721.0));
    let (tracks, told) = (take(&rider), rider.known().told());
    bench.bench_function("ten seconds of fourteen markers to every figure", |b| {
        b.iter(|| look(black_box(&tracks), &told, &Answers::default()));
    });
    let mut scene = Scene::thrown(3, [1280, 720], &RANGES);
    let view = scene.view();
    bench.bench_function("a picture squared", |b| b.iter(|| square(black_box(&view))));
    let frame = scene.film(0);
    let image = Image::new(1280, 720, &frame.rgb);
    let knee = frame
        .dots
        .iter()
        .find(|(part, _, _)| *part == BodyPoint::Knee);
    if let (Some(image), Some((_, at, _)), Some(squared)) = (image, knee, square(&view))
        && let Some(learnt) = learn(&image, *at, DOT_WIDE_MM * squared.px_per_mm)
    {
        bench.bench_function("dots found in 1280 by 720", |b| {
            b.iter(|| find(black_box(&image), &learnt));
        });
    }
}

criterion_group!(benches, looking);
criterion_main!(benches);
