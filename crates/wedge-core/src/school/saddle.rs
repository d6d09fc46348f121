//! The saddle itself: relief, width, nose, and riding ahead on it.

use crate::foresee::Trying;
use crate::intake::{Feel, Intake, Place};
use crate::looking::PelvisSeen;
use crate::measure::{Refusal, within};
use crate::rule::rules;
use crate::solve::post_for_knee;
use crate::units::Millimetres;
use crate::words::{words, written};
use serde::{Deserialize, Serialize};

words! {
    /// Relief along the middle of a saddle.
    pub enum Relief {
        None "none" "None",
        Channel "channel" "A channel",
        CutOut "cut_out" "Cut out",
    }
}

words! {
    /// A saddle's nose.
    pub enum Nose {
        Long "long" "Long",
        Short "short" "Short",
    }
}

words! {
    /// An answer to a question about the saddle.
    pub enum YesNo {
        Yes "yes" "Yes",
        No "no" "No",
    }
}

rules! {
    rules "Saddle";
    /// Wider than this is often too wide; sit-bone measuring is disputed, since it is taken upright.
    const WIDE_MM: f64 = 145.0, " mm", Workshop;
    /// Riding on the nose costs about so much effective height.
    const NOSE_COSTS_MM: f64 = 5.0, " mm", Workshop;
}

/// What was noted of the saddle and of how the rider sits on it.
#[derive(Debug, Clone, Copy, PartialEq, Default, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields, default)]
pub struct SaddleNotes {
    /// Relief along its middle.
    pub relief: Option<Relief>,
    /// Its nose.
    pub nose: Option<Nose>,
    /// Whether the rider keeps shuffling.
    pub shuffles: Option<YesNo>,
    /// Whether it rubs the thighs.
    pub rubs: Option<YesNo>,
    /// Whether the rider sits to one side or twisted.
    pub aside: Option<YesNo>,
    /// How far ahead of the sit reference the rider really sits, mm.
    pub sits_ahead_mm: Option<f64>,
}

impl SaddleNotes {
    /// What is wrong with it, pointing below `at`.
    pub fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = Vec::new();
        if let Some(ahead) = self.sits_ahead_mm {
            all.extend(within(
                format!("{at}/sits_ahead_mm"),
                ahead,
                -40.0,
                120.0,
                "How far ahead the rider sits, in mm,",
            ));
        }
        all
    }

    /// How far ahead of the sit reference the rider sits, for the linkage.
    pub fn sits_forward(&self) -> Millimetres {
        Millimetres(self.sits_ahead_mm.unwrap_or_default())
    }
}

/// What there is to say and to ask about the saddle.
pub fn saddle_advice(
    trying: &Trying,
    notes: &SaddleNotes,
    intake: &Intake,
    pelvis: Option<PelvisSeen>,
) -> Vec<String> {
    let mut all = Vec::new();
    let yes = |answer: Option<YesNo>| answer == Some(YesNo::Yes);
    let front = intake.complaints.iter().find(|c| c.place == Place::Saddle);
    let seat = intake.complaints.iter().find(|c| c.place == Place::Seat);
    match (front, notes.relief) {
        (Some(_), Some(Relief::None)) => all.push(
            "Pressure in front and no relief: a channel or a cut-out first, and level to slightly nose-down".to_owned(),
        ),
        (Some(_), None) => all.push("Pressure in front: has the saddle any relief along its middle?".to_owned()),
        (Some(complaint), _) if complaint.feel == Feel::Numb => all.push(
            "Numb in spite of relief: gauge the tilt, and ask whether reach pulls the rider onto the nose".to_owned(),
        ),
        _ => {}
    }
    if yes(notes.aside) || pelvis == Some(PelvisSeen::Twisted) {
        all.push(if notes.relief == Some(Relief::None) {
            "Sits to one side or twisted: a saddle without relief makes riders do that; change it before a leg is blamed"
                .to_owned()
        } else {
            "Sits to one side or twisted: look for a dip, a short leg, or a saddle worn to one side".to_owned()
        });
    }
    match trying.setup.saddle.saddle_width_mm {
        Some(Millimetres(width)) if width > WIDE_MM => all.push(format!(
            "{} mm is wide: over about {} mm saddles are often too wide, whatever the sit bones measure upright",
            written(width),
            written(WIDE_MM)
        )),
        None if seat.is_some() => all.push(
            "Sore on the sit bones: how wide is the saddle? It should carry them without rubbing the thighs".to_owned(),
        ),
        _ => {}
    }
    if yes(notes.rubs) {
        all.push("Rubs the thighs: too wide where the nose opens, or the wrong shape".to_owned());
    }
    if yes(notes.shuffles) {
        all.push(
            "Keeps shuffling: wrong width or shape, or a tilt that lets the rider slide".to_owned(),
        );
    }
    if notes.nose == Some(Nose::Short) {
        all.push(
            "Short nose: it may sit further forward than a long one; compare setback to the sit reference, never to the nose"
                .to_owned(),
        );
    }
    all.extend(nose_riding(trying, notes, pelvis));
    all
}

/// What sitting ahead does to the leg's job.
fn nose_riding(trying: &Trying, notes: &SaddleNotes, pelvis: Option<PelvisSeen>) -> Option<String> {
    if notes.sits_ahead_mm.is_none() {
        return (pelvis == Some(PelvisSeen::SlidesForward)).then(|| {
            format!(
                "Slides onto the nose: that costs about {} mm of effective height. How far ahead of the sit reference?",
                written(NOSE_COSTS_MM)
            )
        });
    }
    let ahead = notes.sits_forward().0;
    if ahead.abs() < 5.0 {
        return None;
    }
    // As much post as gives the knee that sitting on the reference would have.
    let upright = trying.altered(|facts| facts.rider.pelvis.sits_forward_mm = Millimetres(0.0));
    let wanted = upright.position().knee_at_full_reach();
    let post = post_for_knee(trying, &[], wanted)?;
    Some(format!(
        "Sits {} mm ahead of the sit reference: for the knee that is a saddle {} mm {}. Find out why before the post is moved: reach, \
         tilt, or a saddle too far back",
        written(ahead.abs()),
        written(post.abs()),
        if post > 0.0 { "lower" } else { "higher" }
    ))
}
