//! An off-road cockpit as one problem: BB to grips as long as from floor to knuckles, the hands a little ahead of the steerer's
//! axis, with stem, spacers, rise, sweep, width and roll together. Where both cannot be had, the hands lead.

use super::front::{Aim, Bench, Built, COST_BAR};
use crate::bike::{Bar, Frame, Part, PartKind};
use crate::foresee::{Change, Trying};
use crate::measure::Quantity;
use crate::plane::Point;
use crate::position::wall;
use crate::rule::rules;
use crate::words::{capital, tenth, written};
use serde::Serialize;

rules! {
    rules "Off-road cockpit";
    /// Stems off-road.
    const STEM_MM: (f64, f64) = (30.0, 50.0), " mm", Workshop;
    /// Hands stand so far ahead of the steerer's axis.
    pub(crate) const AHEAD_MM: (f64, f64) = (20.0, 30.0), " mm", Workshop;
    /// Width in mm, of the arm span in cm.
    pub(crate) const WIDTH_BY_SPAN: (f64, f64) = (4.2, 4.4), " × span in cm", Workshop;
    /// Bars are sold so wide, and cut from there by 5 to 10 mm at a time.
    const SOLD_MM: [f64; 8] = [680.0, 700.0, 720.0, 740.0, 760.0, 780.0, 800.0, 820.0], " mm", House;
    /// They rise by
    const RISES_MM: [f64; 5] = [10.0, 20.0, 30.0, 40.0, 50.0], " mm", House;
    /// and sweep back by.
    const SWEEPS_DEG: [f64; 5] = [7.0, 8.0, 9.0, 12.0, 16.0], "°", House;
    /// On steep ground they rise by this or more.
    const STEEP_RISE_MM: f64 = 30.0, " mm", Workshop;
    /// A sweep this near the fists' is theirs.
    const SWEEP_THERE_DEG: f64 = 4.0, "°", House;
    /// Misses within one step of these are alike: then what it costs decides.
    const CLASSES_MM: [f64; 4] = [2.0, 5.0, 10.0, 20.0], " mm", House;
    /// A bar to order costs so much more than one on hand.
    const COST_TO_ORDER: u32 = 3, "", House;
    /// So many answers are given.
    const ANSWERS: usize = 4, "", House;
}

/// A cockpit as one linked trial.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema), schema(as = CockpitAnswer))]
pub struct Cockpit {
    /// "Stem 40, 0°, spacers 20, bar 780 wide, 30 rise, 9° sweep".
    pub words: String,
    /// The whole linked trial.
    pub changes: Vec<Change>,
    /// BB to grips, mm,
    pub grips_mm: f64,
    /// and how far that is from floor to knuckles; longer is positive.
    pub grips_off_mm: f64,
    /// The hands ahead of the steerer's axis, mm.
    pub ahead_mm: f64,
    /// Whether a bar of it must be ordered.
    pub to_order: bool,
}

/// The cockpits that come nearest.
#[derive(Debug, Clone, PartialEq, Serialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct Cockpits {
    /// What was aimed at, mm: floor to knuckles.
    pub knuckle_mm: f64,
    /// The width asked for, mm; none without an arm span.
    pub width_mm: Option<(f64, f64)>,
    /// The best first.
    pub answers: Vec<Cockpit>,
    /// What stands in the way, and what there is to know.
    pub words: Vec<String>,
    /// How many were looked at.
    pub looked_at: usize,
}

/// How far ahead of the steerer's axis a point is: `(g_x − reach) sin θ + (g_y − stack) cos θ`.
pub(crate) fn ahead(frame: &Frame, grip: Point) -> f64 {
    let (sin, cos) = frame.head_angle_deg.sin_cos();
    let from = grip - frame.head_top();
    from.x * sin + from.y * cos
}

/// The point so far from the BB that is so far ahead of the steerer's axis, above; none where the axis passes further out.
fn target(frame: &Frame, grips_mm: f64, ahead_mm: f64) -> Option<Point> {
    let (sin, cos) = frame.head_angle_deg.sin_cos();
    // The line: foot + t × axis, square to (sin, cos).
    let across = Point::new(sin, cos);
    let foot = across * (frame.head_top().dot(across) + ahead_mm);
    let left = grips_mm * grips_mm - foot.dot(foot);
    (left >= 0.0).then(|| foot + frame.steerer_axis() * left.sqrt())
}

fn class(miss: f64) -> usize {
    CLASSES_MM.iter().filter(|end| miss > **end).count()
}

/// How far outside the hands are of where they steer quietly.
fn ahead_off(ahead: f64) -> f64 {
    (AHEAD_MM.0 - ahead).max(ahead - AHEAD_MM.1).max(0.0)
}

/// The bars there are, with what each costs beside the one that is on.
fn bars(
    trying: &Trying,
    parts: &[Part],
    width_mm: Option<(f64, f64)>,
    steep: bool,
) -> Vec<(Bar, u32)> {
    let Bar::Flat(now) = trying.setup.bar else {
        return Vec::new();
    };
    let fists = trying.rider.body.fist_angle_deg;
    // Begin wide: the size sold next to the wide end, the bar that is on as it is.
    let wide = width_mm.and_then(|(_, high)| {
        SOLD_MM
            .into_iter()
            .min_by(|a, b| (a - high).abs().total_cmp(&(b - high).abs()))
    });
    let width = wide.unwrap_or(now.flat_bar_width_mm.0);
    let suits = |rise: f64, sweep: f64| {
        (!steep || rise >= STEEP_RISE_MM)
            && fists.is_none_or(|fists| (fists.0 - sweep).abs() <= SWEEP_THERE_DEG)
    };
    let mut all = Vec::new();
    if !steep || now.bar_rise_mm.0 >= STEEP_RISE_MM {
        all.push((trying.setup.bar, 0));
    }
    for part in parts
        .iter()
        .filter(|part| part.kind == PartKind::Bar && part.on_hand > 0)
    {
        let (Some(sold), Some(rise), Some(sweep)) = (
            part.size(Quantity::FlatWidth),
            part.size(Quantity::BarRise),
            part.size(Quantity::Backsweep),
        ) else {
            continue;
        };
        if suits(rise, sweep) {
            let mut bar = now;
            bar.flat_bar_width_mm.0 = sold.min(width);
            bar.bar_rise_mm.0 = rise;
            bar.backsweep_deg.0 = sweep;
            bar.upsweep_deg.0 = part.size(Quantity::Upsweep).unwrap_or(now.upsweep_deg.0);
            all.push((Bar::Flat(bar), COST_BAR));
        }
    }
    let near: Vec<f64> = SWEEPS_DEG
        .into_iter()
        .filter(|sweep| suits(f64::MAX, *sweep))
        .collect();
    for sweep in near {
        for rise in RISES_MM.into_iter().filter(|rise| suits(*rise, sweep)) {
            let mut bar = now;
            bar.flat_bar_width_mm.0 = width;
            bar.bar_rise_mm.0 = rise;
            bar.backsweep_deg.0 = sweep;
            all.push((Bar::Flat(bar), COST_BAR + COST_TO_ORDER));
        }
    }
    all.retain(|(bar, _)| bar.refusals("").is_empty());
    all
}

/// The cockpits for a rider whose knuckles were measured; none on a bar without grips, or before that.
pub fn cockpits(trying: &Trying, parts: &[Part], steep: bool) -> Option<Cockpits> {
    let knuckle_mm = trying.rider.body.get(Quantity::KnuckleHeight)?;
    cockpits_for(trying, parts, knuckle_mm, steep)
}

/// The cockpits for a length from BB to grips.
pub fn cockpits_for(
    trying: &Trying,
    parts: &[Part],
    knuckle_mm: f64,
    steep: bool,
) -> Option<Cockpits> {
    let Bar::Flat(now) = trying.setup.bar else {
        return None;
    };
    let span = trying.rider.body.get(Quantity::ArmSpan);
    let width_mm = span.map(|span| (WIDTH_BY_SPAN.0 * span / 10.0, WIDTH_BY_SPAN.1 * span / 10.0));
    let frame = &trying.frame;
    let middle = f64::midpoint(AHEAD_MM.0, AHEAD_MM.1);
    let mut bench = Bench::of(trying, parts);
    bench.bars = bars(trying, parts, width_mm, steep);
    // The nearest point of the hands' line, where the circle does not meet it.
    let aim = target(frame, knuckle_mm, middle).unwrap_or_else(|| {
        let (sin, cos) = frame.head_angle_deg.sin_cos();
        Point::new(sin, cos) * (frame.head_top().dot(Point::new(sin, cos)) + middle)
    });
    let key = |built: &Built| {
        let hands = ahead_off(ahead(frame, built.hand));
        let grips = (built.hand.length() - knuckle_mm).abs();
        (class(hands), class(grips), built.cost, tenth(hands + grips))
    };
    let is_better = |a: &Built, b: &Built| {
        let (a, b) = (key(a), key(b));
        (a.0, a.1, a.2)
            .cmp(&(b.0, b.1, b.2))
            .then(a.3.total_cmp(&b.3))
            .is_lt()
    };
    let made = |built: &Built| (built.stem, built.bar);
    let mut best: Vec<Built> = Vec::new();
    let looked_at = bench.walk(&Aim::at(aim, None), |built| {
        let own = (built.stem.length_mm - trying.setup.cockpit.stem_mm.0).abs() < 1e-9;
        if !own && !(STEM_MM.0..=STEM_MM.1).contains(&built.stem.length_mm) {
            return;
        }
        // Of one stem and bar the best is kept.
        if let Some(at) = best.iter().position(|known| made(known) == made(&built)) {
            if is_better(&built, &best[at]) {
                best[at] = built;
            }
        } else {
            best.push(built);
        }
    });
    best.sort_by(|a, b| {
        let (a, b) = (key(a), key(b));
        (a.0, a.1, a.2)
            .cmp(&(b.0, b.1, b.2))
            .then(a.3.total_cmp(&b.3))
    });
    let mut words = Vec::new();
    let mut answers: Vec<Cockpit> = Vec::new();
    for built in &best {
        if answers.len() == ANSWERS {
            break;
        }
        let changes = bench.changes(built);
        let Some(after) = trying.plain(&changes) else {
            continue;
        };
        if let Some(wall) = wall(&trying.rider, &trying.before, &after) {
            let wall = capital(&wall);
            if !words.contains(&wall) {
                words.push(wall);
            }
            continue;
        }
        let (bar, cost) = bench.bars[built.bar];
        answers.push(Cockpit {
            words: told(built, bar, changes.is_empty()),
            grips_mm: built.hand.length(),
            grips_off_mm: built.hand.length() - knuckle_mm,
            ahead_mm: ahead(frame, built.hand),
            to_order: cost > COST_BAR,
            changes,
        });
    }
    words.extend(besides(answers.first(), width_mm, now.flat_bar_width_mm.0));
    Some(Cockpits {
        knuckle_mm,
        width_mm,
        answers,
        words,
        looked_at,
    })
}

/// What there is to know beside the answers: what stays undone, the width, and what a spacer does.
fn besides(best: Option<&Cockpit>, width_mm: Option<(f64, f64)>, now_mm: f64) -> Vec<String> {
    let mut words = Vec::new();
    if let Some(best) = best {
        let (hands, grips) = (ahead_off(best.ahead_mm), best.grips_off_mm.abs());
        if hands > CLASSES_MM[1] {
            words.push(format!(
                "No stem and bar bring the hands {} to {} mm ahead of the steerer: {} is the nearest",
                written(AHEAD_MM.0),
                written(AHEAD_MM.1),
                written(best.ahead_mm.round())
            ));
        }
        if grips > CLASSES_MM[2] {
            let how = if best.grips_off_mm > 0.0 {
                "long"
            } else {
                "short"
            };
            words.push(format!(
                "With the hands where they steer quietly BB to grips stays {} mm {how}: the hands lead; the frame is {}",
                written(grips.round()),
                if best.grips_off_mm > 0.0 { "big for this rider" } else { "small, or wants more spacers and rise" }
            ));
        }
    }
    if let Some((low, high)) = width_mm {
        words.push(format!(
            "Width {} to {} mm by arm span, now {}: begin wide, cut 5 to 10 mm at a time",
            written(low.round()),
            written(high.round()),
            written(now_mm)
        ));
    } else {
        words.push("Arm span is not measured: the bar’s width goes by it".to_owned());
    }
    words
        .push("A spacer from above to below: higher, shorter reach, longer BB to grips".to_owned());
    words
}

fn told(built: &Built, bar: Bar, as_is: bool) -> String {
    if as_is {
        return "As it is".to_owned();
    }
    let Bar::Flat(bar) = bar else {
        return String::new();
    };
    let mut all = vec![
        format!(
            "Stem {}, {}°",
            written(built.stem.length_mm),
            written(built.stem.angle_deg)
        ),
        format!("spacers {}", written(built.below_mm)),
        format!(
            "bar {} wide, {} rise, {}° sweep",
            written(bar.flat_bar_width_mm.0),
            written(bar.bar_rise_mm.0),
            written(bar.backsweep_deg.0)
        ),
    ];
    if built.roll_deg.abs() >= 0.05 {
        let way = if built.roll_deg > 0.0 { "up" } else { "down" };
        all.push(format!(
            "rolled {}° {way}",
            written(tenth(built.roll_deg.abs()))
        ));
    }
    if built.cut_mm > 0.0 {
        all.push(format!("steerer cut by {}", written(built.cut_mm)));
    }
    all.join(", ")
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::example;

    #[test]
    fn golden_target_on_line_and_circle() {
        let mut frame = example::flat_bar().frame;
        frame.head_angle_deg = crate::units::Degrees(65.0);
        let at = target(&frame, 850.0, 25.0).unwrap();
        assert!((at.length() - 850.0).abs() < 1e-9);
        assert!((ahead(&frame, at) - 25.0).abs() < 1e-9);
        assert!(at.y > 0.0);
        assert!(target(&frame, 10.0, 25.0).is_none());
    }
}
