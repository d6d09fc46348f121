//! A take's figures as JSON, keyed as files and pages key them: `L` and `R`, the pelvis, cadence, what was asked and said.

use serde_json::{Map, Value, json};
use wedge_core::capture::{Figure, FigureStat, Limbs, Sample};
use wedge_core::units::Side;

/// As `[mean, SD, strokes]`, or as its mean alone: what is judged as one number for the take.
fn figures(all: &[FigureStat], alone: impl Fn(Figure) -> bool) -> Map<String, Value> {
    all.iter()
        .map(|one| {
            let decimals = 3;
            let round =
                |value: f64| (value * 10_f64.powi(decimals)).round() / 10_f64.powi(decimals);
            let stat = &one.stat;
            let value = if alone(one.figure) {
                json!(round(stat.mean))
            } else {
                json!([round(stat.mean), round(stat.sd), stat.n])
            };
            (one.figure.spec().key.to_owned(), value)
        })
        .collect()
}

/// Means over the whole take, not a stroke's own.
fn of_take(figure: Figure) -> bool {
    use Figure as F;
    matches!(
        figure,
        F::KneePush | F::KneeRise | F::KneeSwing | F::FootTiltPush | F::FootTiltRise
    )
}

fn side(limbs: &Limbs) -> Value {
    let mut all = figures(&limbs.figures, of_take);
    if let Some(front) = limbs.front {
        let path = front.path.map_or("none", |path| path.key());
        all.insert("knee_path".to_owned(), json!(path));
        all.insert("knee_path_near_border".to_owned(), json!(front.near_border));
    }
    if let Some(roughness) = limbs.bottom_roughness_deg {
        all.insert(
            "bottom_roughness_deg".to_owned(),
            json!((roughness * 1000.0).round() / 1000.0),
        );
    }
    Value::Object(all)
}

/// A take's figures as JSON.
pub fn sample_json(sample: &Sample) -> Value {
    let mut all = Map::new();
    for (key, own) in [("L", Side::Left), ("R", Side::Right)] {
        if let Some(limbs) = sample.sides.of(own) {
            all.insert(key.to_owned(), side(limbs));
        }
    }
    if let Some(pelvis) = &sample.pelvis {
        let mut own = figures(&pelvis.figures, |_| true);
        own.insert(
            "dip_right_mm".to_owned(),
            json!((pelvis.dip_mm.right * 10.0).round() / 10.0),
        );
        own.insert(
            "dip_left_mm".to_owned(),
            json!((pelvis.dip_mm.left * 10.0).round() / 10.0),
        );
        all.insert("pelvis".to_owned(), Value::Object(own));
    }
    all.insert(
        "cadence_rpm".to_owned(),
        json!((sample.cadence_rpm * 100.0).round() / 100.0),
    );
    all.insert(
        "crank_mm".to_owned(),
        json!((sample.crank_mm * 10.0).round() / 10.0),
    );
    if let Some(ripple) = sample.turning_ripple {
        all.insert(
            "turning_ripple".to_owned(),
            json!((ripple * 1e4).round() / 1e4),
        );
    }
    all.insert("seconds".to_owned(), json!(sample.seconds));
    all.insert(
        "rate_hz".to_owned(),
        json!((sample.rate_hz * 1000.0).round() / 1000.0),
    );
    let asks = sample.asks.iter().map(|ask| json!(ask.words));
    let messages = asks.chain(sample.messages.iter().map(|words| json!(words)));
    all.insert("messages".to_owned(), messages.collect());
    Value::Object(all)
}
