//! Frame reach and stack of a frame without a chart, from what a tape can reach.

use crate::measure::{Quantity, Refusal, measured};
use crate::rule::rules;
use crate::units::{Degrees, Millimetres};
use crate::words::written;
use serde::{Deserialize, Serialize};

measured! {
    /// What was taped of a frame whose reach and stack are not on any chart.
    #[derive(Default)]
    pub struct TapedFrame {
        /// Ground to BB centre, vertical.
        ground_to_bb_mm: Option<Millimetres> = GroundToBb,
        /// Ground to the head tube's top centre, vertical.
        ground_to_head_top_mm: Option<Millimetres> = GroundToHeadTop,
        /// BB centre straight to the head tube's top centre.
        bb_to_head_top_mm: Option<Millimetres> = BbToHeadTop,
        /// The head tube's top centre level back to the seat tube's line.
        top_tube_mm: Option<Millimetres> = TopTube,
    }
}

/// Frame reach and stack as computed from the tape, each with one standard deviation.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
pub struct ComputedFrame {
    /// BB to the top of the head tube, horizontal.
    pub frame_reach_mm: Millimetres,
    /// One standard deviation of it.
    pub frame_reach_spread_mm: Millimetres,
    /// BB to the top of the head tube, vertical.
    pub frame_stack_mm: Millimetres,
    /// One standard deviation of it.
    pub frame_stack_spread_mm: Millimetres,
    /// How it was computed, in words.
    pub words: String,
    /// What to tape again, when two ways disagree.
    pub question: Option<String>,
}

rules! {
    rules "Checks of a bike";
    /// Two ways to the same number of a frame further apart than this are questioned.
    const QUESTIONED_MM: f64 = 8.0, " mm", House;
}

impl TapedFrame {
    /// Stack is the difference of the heights. Reach is `sqrt(straight² − stack²)`; without the straight length it is
    /// the level top tube less what the seat tube leans back by up there, `stack / tan(seat angle)`.
    ///
    /// Errors are first order: `σ_stack = σ√2`, `σ_reach = sqrt((d σ)² + (stack σ_stack)²)/reach`, or along the top tube
    /// `sqrt(σ² + (σ_stack/tan β)² + (stack σ_β/sin² β)²)`.
    pub fn compute(&self, seat_angle: Degrees) -> Result<ComputedFrame, Vec<Refusal>> {
        let mut refusals = self.refusals("");
        let ask = |value: Option<Millimetres>, quantity: Quantity| {
            value.is_none().then(|| {
                Refusal::new(
                    format!("/{}", quantity.key()),
                    format!("Tape it: {}", quantity.spec().how),
                )
            })
        };
        refusals.extend(ask(self.ground_to_bb_mm, Quantity::GroundToBb));
        refusals.extend(ask(self.ground_to_head_top_mm, Quantity::GroundToHeadTop));
        if self.bb_to_head_top_mm.is_none() {
            refusals.extend(ask(self.top_tube_mm, Quantity::TopTube));
        }
        let (Some(low), Some(high), true) = (
            self.ground_to_bb_mm,
            self.ground_to_head_top_mm,
            refusals.is_empty(),
        ) else {
            return Err(refusals);
        };
        let stack = (high - low).0;
        let stack_spread = Quantity::GroundToBb
            .spec()
            .uncertainty
            .hypot(Quantity::GroundToHeadTop.spec().uncertainty);
        let straight = self
            .bb_to_head_top_mm
            .map(|d| straight(d.0, stack, stack_spread));
        let along = self
            .top_tube_mm
            .map(|t| along(t.0, stack, stack_spread, seat_angle));
        let Some(((reach, spread), words)) = straight
            .map(|r| {
                (
                    r,
                    "from the straight length to the head tube and the two heights",
                )
            })
            .or(along.map(|r| {
                (
                    r,
                    "from the level top tube, the seat tube's angle and the two heights",
                )
            }))
            .filter(|((reach, _), _)| reach.is_finite() && *reach > 0.0)
        else {
            return Err(vec![Refusal::new(
                format!("/{}", Quantity::BbToHeadTop.key()),
                "The straight length is shorter than the difference of the heights: tape all three again",
            )]);
        };
        let apart = straight.zip(along).map(|((a, _), (b, _))| (a - b).abs());
        Ok(ComputedFrame {
            frame_reach_mm: Millimetres(reach),
            frame_reach_spread_mm: Millimetres(spread),
            frame_stack_mm: Millimetres(stack),
            frame_stack_spread_mm: Millimetres(stack_spread),
            words: format!(
                "Reach {} ± {}, stack {} ± {}: computed {words}",
                written(reach),
                written(spread),
                written(stack),
                written(stack_spread)
            ),
            question: apart.filter(|mm| *mm > QUESTIONED_MM).map(|mm| {
                format!(
                    "The straight length and the top tube disagree by {} mm of reach: tape both again",
                    written(mm)
                )
            }),
        })
    }
}

fn straight(length: f64, stack: f64, stack_spread: f64) -> (f64, f64) {
    let reach = (length * length - stack * stack).sqrt();
    let tape = Quantity::BbToHeadTop.spec().uncertainty;
    (reach, (length * tape).hypot(stack * stack_spread) / reach)
}

fn along(top_tube: f64, stack: f64, stack_spread: f64, seat_angle: Degrees) -> (f64, f64) {
    let (sin, cos) = seat_angle.sin_cos();
    let tape = Quantity::TopTube.spec().uncertainty;
    let gauge = Quantity::SeatAngle.spec().uncertainty.to_radians();
    let spread = tape
        .hypot(stack_spread * cos / sin)
        .hypot(stack * gauge / (sin * sin));
    (top_tube - stack * cos / sin, spread)
}

#[cfg(test)]
mod tests {
    use super::*;

    fn taped(bb: f64, head: f64, straight: Option<f64>, top_tube: Option<f64>) -> TapedFrame {
        TapedFrame {
            ground_to_bb_mm: Some(Millimetres(bb)),
            ground_to_head_top_mm: Some(Millimetres(head)),
            bb_to_head_top_mm: straight.map(Millimetres),
            top_tube_mm: top_tube.map(Millimetres),
        }
    }

    #[test]
    fn golden_reach_and_stack_by_the_straight_length() {
        // Heights 270 and 835: stack 565 ± 2√2 = 2.83. Straight 683.7: reach √(467445.7 − 319225) = 384.99;
        // spread √((683.7 × 2)² + (565 × 2.83)²)/384.99 = √(1869780 + 2553800)/384.99 = 5.46.
        let frame = taped(270.0, 835.0, Some(683.7), None)
            .compute(Degrees(73.5))
            .unwrap();
        assert!((frame.frame_stack_mm.0 - 565.0).abs() < 1e-9);
        assert!((frame.frame_stack_spread_mm.0 - 2.828).abs() < 1e-3);
        assert!((frame.frame_reach_mm.0 - 384.994).abs() < 0.01);
        assert!((frame.frame_reach_spread_mm.0 - 5.463).abs() < 0.01);
        assert_eq!(frame.question, None);
    }

    #[test]
    fn golden_reach_by_the_top_tube_and_both_ways_disagreeing() {
        // 552 − 565/tan 73.5° = 552 − 167.36 = 384.64.
        let frame = taped(270.0, 835.0, None, Some(552.0))
            .compute(Degrees(73.5))
            .unwrap();
        assert!((frame.frame_reach_mm.0 - 384.64).abs() < 0.01);
        let both = taped(270.0, 835.0, Some(683.7), Some(570.0))
            .compute(Degrees(73.5))
            .unwrap();
        assert!(both.question.unwrap().contains("disagree by 17.6 mm"));
    }

    #[test]
    fn what_is_missing_or_impossible_is_asked_for_at_its_field() {
        let missing = TapedFrame::default().compute(Degrees(73.0)).unwrap_err();
        let pointers: Vec<&str> = missing.iter().map(|r| r.pointer.as_str()).collect();
        assert_eq!(
            pointers,
            ["/ground_to_bb_mm", "/ground_to_head_top_mm", "/top_tube_mm"]
        );
        let short = taped(270.0, 835.0, Some(500.0), None)
            .compute(Degrees(73.0))
            .unwrap_err();
        assert_eq!(short[0].pointer, "/bb_to_head_top_mm");
    }
}
