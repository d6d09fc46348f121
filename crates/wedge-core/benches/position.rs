//! One whole position without and with bands; and whole foresights of changes.

use criterion::{Criterion, criterion_group, criterion_main};
use std::hint::black_box;
use wedge_core::example;
use wedge_core::foresee::{Change, foresee, position};
use wedge_core::measure::Quantity;

fn benches(c: &mut Criterion) {
    let still = example::road();
    c.bench_function("one position, without bands", |b| {
        b.iter(|| position(black_box(&still)));
    });
    c.bench_function("one position, with bands", |b| {
        b.iter(|| foresee(black_box(&still)));
    });
    let mut changed = example::road();
    changed
        .changes
        .push(Change::by(Quantity::SaddleHeight, -6.0));
    c.bench_function("foresee a saddle change", |b| {
        b.iter(|| foresee(black_box(&changed)));
    });
    let mut linked = example::road();
    linked.changes.push(Change::to(Quantity::Crank, 170.0));
    c.bench_function("foresee a crank with its compensation", |b| {
        b.iter(|| foresee(black_box(&linked)));
    });
}

criterion_group!(positions, benches);
criterion_main!(positions);
