//! Rail sweep: setback by sharing the work. From fully back the saddle comes forward in steps, some minutes each with a
//! few near threshold, and the rider rates hands, thigh-front, hamstring and control. The most forward place before the
//! hands grow heavy is proposed.
//!
//! Ratings are noisy and a rider need not answer as the trade expects. The hands' ratings are fitted by a line that
//! never falls towards the front (isotonic regression, pool adjacent violators; R. E. Barlow et al., *Statistical
//! Inference under Order Restrictions*, 1972) and by one that never rises; which of the two fits, and whether either says
//! more than the scatter, tells the usual answer from the other way round, from one that says nothing and from one that
//! contradicts itself.

use super::Protocol;
use super::run::{
    Ask, Asked, Finding, Guided, Notch, NotchState, Proposing, Run, Saying, Says, Script,
    along_rails, setback_words,
};
use super::setting::Setting;
use crate::foresee::{Bound, Change, Step, Trying, WORTH_MM};
use crate::measure::{Quantity, Refusal, Unit, half_mm, within};
use crate::rule::rules;
use crate::solve::{linked, perch_room, post_for_knee};
use crate::words::{words, written};
use crate::work::Station;
use serde::{Deserialize, Serialize};

words! {
    /// How long each place of a sweep is ridden.
    pub enum Form {
        Short "short" "3 minutes, indoors",
        Long "long" "5 minutes, indoors",
        Road "road" "20 minutes, on the road",
    }
}

rules! {
    rules "Rail sweep";
    /// Steps of the sweep.
    const STEP_MM: f64 = 5.0, " mm", Workshop;
    /// Each place is ridden this long: the short form,
    const SHORT_MIN: u32 = 3, " minutes", Workshop;
    /// the long one,
    const LONG_MIN: u32 = 5, " minutes", Workshop;
    /// and the one of the road, a card to take along.
    const ROAD_MIN: u32 = 20, " minutes", Workshop;
    /// Of that so many are near threshold.
    const ROAD_HARD_MIN: (f64, f64) = (3.0, 5.0), " minutes", Workshop;
    /// Either way from the saddle as it stands, where the rails' room is not known.
    const ROOM_MM: f64 = 15.0, " mm", House;
    /// Hands from 0, light, to 4: from here on they are heavy.
    const HEAVY_FROM: f64 = 2.0, "", House;
    /// Ratings whose front and back thirds differ by less say nothing.
    const FLAT: f64 = 1.0, "", House;
    /// Scatter around every line that is no more than the rider's noise; more contradicts itself.
    const SCATTER: f64 = 0.8, "", House;
    /// Thigh-front and hamstring tire alike within this.
    const ALIKE: f64 = 0.5, "", House;
}

/// How a rail sweep is set up.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct RailSweep {
    /// From where the saddle stands to fully back on its rails.
    pub back_mm: f64,
    /// From where it stands to fully forward.
    pub forward_mm: f64,
    /// From place to place.
    pub step_mm: f64,
    /// How long each place is ridden.
    #[serde(default = "short_form")]
    pub form: Form,
}

fn short_form() -> Form {
    Form::Short
}

impl Form {
    fn minutes(self) -> u32 {
        match self {
            Self::Short => SHORT_MIN,
            Self::Long => LONG_MIN,
            Self::Road => ROAD_MIN,
        }
    }
}

/// One place as it was rated.
#[derive(Debug, Clone, Copy)]
pub(super) struct Rated {
    /// Travel along the rails from where the saddle stood, back positive.
    back: f64,
    hands: f64,
    thigh: f64,
    hamstring: f64,
    control: f64,
}

/// How the hands answered the sweep.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Pattern {
    /// Heavier towards the front, heavy beyond this place; `None` when not heavy even there.
    Usual(Option<f64>),
    /// Heavier towards the back.
    Other,
    /// Alike everywhere, at this rating.
    Flat(f64),
    /// No order in them.
    Contradicts,
}

impl RailSweep {
    /// Every place, from fully back.
    fn places(&self) -> Vec<f64> {
        let mut places = Vec::new();
        let mut back = self.back_mm;
        while back >= -self.forward_mm - 1e-9 {
            places.push(back);
            back -= self.step_mm;
        }
        places
    }

    /// Where to ride next: the sweep, then both sides of where the hands grew heavy once more, since one rating is noise.
    fn next(&self, rated: &[Rated]) -> Option<f64> {
        let places = self.places();
        let swept = swept(rated, places.len());
        if let Some(place) = places.get(rated.len()).filter(|_| rated.len() < swept) {
            return Some(*place);
        }
        let places = places.get(..swept)?;
        let sweep = rated.get(..swept)?;
        let Pattern::Usual(Some(last)) = pattern(sweep) else {
            return None;
        };
        let beyond = last - self.step_mm;
        [beyond, last]
            .into_iter()
            .filter(|place| places.iter().any(|p| (p - place).abs() < 1e-6))
            .nth(rated.len() - places.len())
    }

    /// How a place is ridden: of the road form some minutes are near threshold, of the others the last one.
    fn ride_words(&self) -> String {
        let hard = if self.form == Form::Road {
            format!(
                "{} to {} of them near threshold",
                written(ROAD_HARD_MIN.0),
                written(ROAD_HARD_MIN.1)
            )
        } else {
            "the last of them near threshold".to_owned()
        };
        format!(
            "{} minutes steady, {hard}; a rolling road is best. Watch the heel settle over the top. Then the rider rates.",
            self.form.minutes()
        )
    }

    fn found(&self, trying: &Trying, rated: &[Rated]) -> Finding {
        let protocol = Protocol::RailSweep;
        if rated.len() < 3 {
            return Finding::broken(protocol);
        }
        let work = work_words(rated);
        let quantity = Some(Quantity::Setback);
        let with = |says: Says, title: &str, words: String| {
            let mut all = vec![words];
            all.extend(work.clone());
            Finding {
                quantity,
                words: all,
                ..Finding::new(protocol, says, title)
            }
        };
        let to_its_end = rated.len() >= swept(rated, self.places().len());
        match pattern(rated) {
            Pattern::Flat(_) if !to_its_end => with(
                Says::Broken,
                "Ended early",
                format!(
                    "The hands were alike from {} to {}: it ended before further forward could tell.",
                    place_words(self.back_mm),
                    place_words(front(rated))
                ),
            ),
            Pattern::Contradicts => with(
                Says::Contradicts,
                "The ratings contradict one another",
                "The hands grow heavy and light again without order: rest, name the effort, and sweep again.".to_owned(),
            ),
            Pattern::Flat(rating) if rating >= HEAVY_FROM => with(
                Says::Nothing,
                "Heavy at every place",
                "The hands are heavy wherever the saddle stands: its fore-aft is not the cause. Look at the front, and at \
                 the tilt."
                    .to_owned(),
            ),
            Pattern::Flat(_) => with(
                Says::Nothing,
                "It says nothing",
                "The ratings are alike at every place: this rider's hands do not tell. Leave the setback, or choose it by \
                 another school."
                    .to_owned(),
            ),
            Pattern::Other => with(
                Says::Found,
                "The other way round",
                "The hands grow heavier towards the back: a few riders answer so. It is recorded, not explained away; \
                 the lightest hands decide, and a second sweep another day."
                    .to_owned(),
            ),
            Pattern::Usual(most_forward) => self.proposal(trying, rated, most_forward, work),
        }
    }

    fn proposal(
        &self,
        trying: &Trying,
        rated: &[Rated],
        most_forward: Option<f64>,
        work: Vec<String>,
    ) -> Finding {
        let protocol = Protocol::RailSweep;
        let to = most_forward.unwrap_or_else(|| front(rated));
        let spread = self.spread(rated, to);
        let post = post_with(trying, to);
        let value = -trying.sit_moved(post, to).x;
        let read = setback_words(trying, post, to);
        let mut words = vec![match most_forward {
            Some(_) => format!(
                "The most forward place before the hands grow heavy is {}, ± {} mm: setback {read}.",
                place_words(to),
                written(spread)
            ),
            None => format!(
                "The hands stay light up to the most forward place ridden, setback {read}: the place lies there or further forward."
            ),
        }];
        words.extend(work);
        Finding {
            quantity: Some(Quantity::Setback),
            value: Some(value),
            low: Some(value - spread),
            high: Some(value + spread),
            spread: Some(spread),
            bound: most_forward.is_none().then_some(Bound::AtMost),
            moves: move_to(trying, to).into_iter().collect(),
            words,
            ..Finding::new(protocol, Says::Found, format!("Saddle {}", place_words(to)))
        }
    }

    /// How far the place proposed depends on single ratings (the jackknife), not finer than the steps allow.
    fn spread(&self, rated: &[Rated], to: f64) -> f64 {
        let places: Vec<f64> = (0..rated.len())
            .map(|left_out| {
                let rest: Vec<Rated> = (rated.iter().enumerate())
                    .filter(|(index, _)| *index != left_out)
                    .map(|(_, r)| *r)
                    .collect();
                match pattern(&rest) {
                    Pattern::Usual(Some(place)) => place,
                    _ => to,
                }
            })
            .collect();
        let count = f64::from(u32::try_from(places.len()).unwrap_or(1));
        let mean = places.iter().sum::<f64>() / count;
        let squares: f64 = places.iter().map(|p| (p - mean).powi(2)).sum();
        let jackknife = ((count - 1.0) / count * squares).sqrt();
        jackknife.max(self.step_mm / 12.0_f64.sqrt())
    }
}

impl Guided for RailSweep {
    type SoFar = Vec<Rated>;

    const PROTOCOL: Protocol = Protocol::RailSweep;
    const AT: &'static [Station] = &[Station::Setback];

    /// From one end of the rails to the other, whole steps from where the saddle stands, so that it is one of the places.
    fn proposed(for_this: &Proposing) -> Self {
        let room = perch_room(for_this.on);
        let (back, forward) = (room.back_mm.zip(room.forward_mm)).unwrap_or((ROOM_MM, ROOM_MM));
        let step_mm = for_this.setback.step.max(STEP_MM);
        let whole = |room: f64, of: f64| (room.max(0.0) / of + 1e-9).floor() * of;
        // Rails too short for that are swept as they are.
        let short = whole(back, step_mm) + whole(forward, step_mm) < 2.0 * step_mm;
        let of = if short { 1.0 } else { step_mm };
        Self {
            back_mm: whole(back, of),
            forward_mm: whole(forward, of),
            step_mm,
            form: short_form(),
        }
    }

    fn settings(&self) -> Vec<Setting> {
        vec![
            Setting::number("back_mm", "Back from here", self.back_mm, Unit::Mm),
            Setting::number("forward_mm", "Forward from here", self.forward_mm, Unit::Mm),
            Setting::number("step_mm", "Steps of", self.step_mm, Unit::Mm),
            Setting::word("form", "Each place", self.form),
        ]
    }

    fn refusals(&self, at: &str) -> Vec<Refusal> {
        let mut all = Vec::new();
        for (key, value, most, what) in [
            ("back_mm", self.back_mm, 60.0, "From here to fully back"),
            (
                "forward_mm",
                self.forward_mm,
                60.0,
                "From here to fully forward",
            ),
        ] {
            all.extend(within(format!("{at}/{key}"), value, 0.0, most, what));
        }
        all.extend(within(
            format!("{at}/step_mm"),
            self.step_mm,
            2.0,
            10.0,
            "A step",
        ));
        if all.is_empty() && self.back_mm + self.forward_mm < 2.0 * self.step_mm {
            all.push(Refusal::new(
                format!("{at}/back_mm"),
                "A sweep needs three places at the least: more room, or smaller steps",
            ));
        }
        all
    }

    fn read(
        &self,
        run: &Run,
        script: &mut Script,
        rated: &mut Vec<Rated>,
    ) -> Result<(), Box<Asked>> {
        while let Some(back) = self.next(rated) {
            let step = rated.len() + 1;
            let most = self.places().len();
            let place = if rated.len() < swept(rated, most) {
                format!("Place {step} of {most} at the most")
            } else {
                "Once more, where it turned".to_owned()
            };
            let set = Ask::enter(
                format!("{step}.set"),
                "Set, tightened, and the rider is on?",
                "Ride",
            );
            let instruction = format!("Saddle {}", place_words(back));
            script
                .ask(set, || {
                    // Solved for the place that is to be set, not for every one before it.
                    let post = post_with(run.on, back);
                    Saying {
                        place: place.clone(),
                        instruction: instruction.clone(),
                        detail: format!(
                            "From where it stood. Setback {}.{}",
                            setback_words(run.on, post, back),
                            post_words(post)
                        ),
                        timer_s: None,
                    }
                })
                .map_err(|asked| {
                    asked
                        .riding(place_short(back))
                        .moved(Quantity::Setback, back)
                })?;
            let mut rate = |ask: Ask| {
                let called = script.ask(ask, || Saying {
                    place: place.clone(),
                    instruction: instruction.clone(),
                    detail: self.ride_words(),
                    timer_s: Some(self.form.minutes() * 60),
                });
                called
                    .map(|called| f64::from(called.digit()))
                    .map_err(|asked| {
                        asked
                            .riding(place_short(back))
                            .moved(Quantity::Setback, back)
                    })
            };
            let [hands, thigh, hamstring, control] = questions(step);
            rated.push(Rated {
                back,
                hands: rate(hands)?,
                thigh: rate(thigh)?,
                hamstring: rate(hamstring)?,
                control: rate(control)?,
            });
        }
        Ok(())
    }

    fn notches(&self, _run: &Run, rated: &Vec<Rated>) -> Vec<Notch> {
        rated
            .iter()
            .map(|r| Notch {
                label: place_short(r.back),
                words: format!(
                    "hands {}, thigh {}, hamstring {}, control {}",
                    r.hands, r.thigh, r.hamstring, r.control
                ),
                state: if r.hands >= HEAVY_FROM {
                    NotchState::Marked
                } else {
                    NotchState::Quiet
                },
            })
            .collect()
    }

    fn finding(&self, run: &Run, rated: &Vec<Rated>) -> Finding {
        self.found(run.on, rated)
    }
}

/// The most forward place ridden.
fn front(rated: &[Rated]) -> f64 {
    rated.iter().map(|r| r.back).fold(f64::INFINITY, f64::min)
}

/// How many of the places are swept: once the hands were light and then heavy twice in a row, further forward says no
/// more.
fn swept(rated: &[Rated], places: usize) -> usize {
    let heavy = |r: &Rated| r.hands >= HEAVY_FROM;
    let mut pairs = rated.iter().zip(rated.iter().skip(1)).enumerate();
    let mut light = false;
    let end = pairs.find_map(|(index, (a, b))| {
        light |= !heavy(a);
        (light && heavy(a) && heavy(b)).then_some(index + 2)
    });
    end.unwrap_or(places).min(places)
}

/// The post's answer to so much travel on the rails.
fn post_with(trying: &Trying, back: f64) -> f64 {
    let wanted = trying.before.knee_at_full_reach();
    post_for_knee(trying, &[Change::by(Quantity::Setback, back)], wanted).map_or(0.0, half_mm)
}

/// The saddle along its rails with the post's answer; `None` where it stands already.
pub(super) fn move_to(trying: &Trying, back: f64) -> Option<Step> {
    if back.abs() < 0.5 {
        return None;
    }
    let changes = linked(trying, vec![Change::by(Quantity::Setback, half_mm(back))]);
    Step::of(trying, changes, String::new())
}

fn questions(step: usize) -> [Ask; 4] {
    let heavy = [
        ("0", "Light"),
        ("1", "There"),
        ("2", "Heavy"),
        ("3", "Very heavy"),
        ("4", "Had to move"),
    ];
    let tired = [
        ("0", "Fresh"),
        ("1", "At work"),
        ("2", "Tired"),
        ("3", "Burns"),
        ("4", "Spent"),
    ];
    let control = [
        ("0", "None"),
        ("1", "Poor"),
        ("2", "Fair"),
        ("3", "Good"),
        ("4", "Full"),
    ];
    [
        Ask::keys(format!("{step}.hands"), "Hands?", &heavy),
        Ask::keys(format!("{step}.thigh"), "Front of the thigh?", &tired),
        Ask::keys(format!("{step}.hamstring"), "Hamstring?", &tired),
        Ask::keys(
            format!("{step}.control"),
            "Control at the bottom of the stroke?",
            &control,
        ),
    ]
}

fn place_words(back: f64) -> String {
    along_rails(back, "where it stood")
}

fn place_short(back: f64) -> String {
    if back.abs() < 0.05 {
        "0".to_owned()
    } else {
        format!(
            "{} {}",
            written(back.abs()),
            if back > 0.0 { "back" } else { "fwd" }
        )
    }
}

fn post_words(post: f64) -> String {
    if post.abs() < WORTH_MM {
        String::new()
    } else {
        format!(
            " Post {} {} mm with it: the knee stays.",
            if post > 0.0 { "up" } else { "down" },
            written(post.abs())
        )
    }
}

/// The best line through ratings that never falls, one value for each; places in the order given, equal weights.
fn never_falling(ratings: &[f64]) -> Vec<f64> {
    let mut blocks: Vec<(f64, u32)> = Vec::new();
    for rating in ratings {
        let mut block = (*rating, 1);
        while let Some(last) = blocks.last()
            && last.0 / f64::from(last.1) > block.0 / f64::from(block.1)
        {
            block = (block.0 + last.0, block.1 + last.1);
            blocks.pop();
        }
        blocks.push(block);
    }
    blocks
        .into_iter()
        .flat_map(|(sum, count)| (0..count).map(move |_| sum / f64::from(count)))
        .collect()
}

/// Mean ratings of each place, the backmost first.
fn by_place(rated: &[Rated], of: impl Fn(&Rated) -> f64) -> Vec<(f64, f64)> {
    let mut places: Vec<(f64, f64, f64)> = Vec::new();
    for r in rated {
        match places.iter_mut().find(|p| (p.0 - r.back).abs() < 1e-6) {
            Some(place) => {
                place.1 += of(r);
                place.2 += 1.0;
            }
            None => places.push((r.back, of(r), 1.0)),
        }
    }
    places.sort_by(|a, b| b.0.total_cmp(&a.0));
    places
        .into_iter()
        .map(|(back, sum, count)| (back, sum / count))
        .collect()
}

fn scatter(ratings: &[f64], line: &[f64]) -> f64 {
    let squares: f64 = ratings.iter().zip(line).map(|(r, l)| (r - l).powi(2)).sum();
    (squares / f64::from(u32::try_from(ratings.len()).unwrap_or(1))).sqrt()
}

/// The front third's mean less the back third's: one call at an end is no order.
fn ends_apart(ratings: &[f64]) -> f64 {
    let third = (ratings.len() / 3).max(1);
    let mean =
        |part: &[f64]| part.iter().sum::<f64>() / f64::from(u32::try_from(third).unwrap_or(1));
    let back = ratings.get(..third).map_or(0.0, mean);
    let front = ratings
        .get(ratings.len().saturating_sub(third)..)
        .map_or(0.0, mean);
    front - back
}

fn pattern(rated: &[Rated]) -> Pattern {
    let places = by_place(rated, |r| r.hands);
    let hands: Vec<f64> = places.iter().map(|(_, hands)| *hands).collect();
    let mean = hands.iter().sum::<f64>() / f64::from(u32::try_from(hands.len()).unwrap_or(1));
    let rising = never_falling(&hands);
    let falling: Vec<f64> = never_falling(&hands.iter().map(|h| -h).collect::<Vec<_>>())
        .into_iter()
        .map(|h| -h)
        .collect();
    let flat: Vec<f64> = hands.iter().map(|_| mean).collect();
    let (up, down) = (scatter(&hands, &rising), scatter(&hands, &falling));
    let around = up.min(down);
    if ends_apart(&hands).abs() < FLAT - 1e-9 {
        return if scatter(&hands, &flat) > SCATTER {
            Pattern::Contradicts
        } else {
            Pattern::Flat(mean)
        };
    }
    if around > SCATTER {
        return Pattern::Contradicts;
    }
    if up > down {
        return Pattern::Other;
    }
    if rising.iter().all(|h| *h >= HEAVY_FROM) {
        return Pattern::Flat(mean);
    }
    // The last place towards the front whose line is not heavy yet.
    let heavy = rising.iter().position(|h| *h >= HEAVY_FROM);
    Pattern::Usual(heavy.and_then(|heavy| places.get(heavy.checked_sub(1)?).map(|p| p.0)))
}

/// Where thigh-front and hamstring tire alike, and where the control was best.
fn work_words(rated: &[Rated]) -> Vec<String> {
    let share = by_place(rated, |r| r.thigh - r.hamstring);
    let values: Vec<f64> = share.iter().map(|(_, d)| *d).collect();
    let line = never_falling(&values);
    let mut words = Vec::new();
    let all_alike = values.iter().all(|d| d.abs() <= ALIKE);
    let alike: Vec<f64> = share
        .iter()
        .zip(&line)
        .filter(|(_, line)| line.abs() <= ALIKE)
        .map(|((back, _), _)| *back)
        .collect();
    if all_alike {
        words.push("Thigh-front and hamstring tire alike at every place.".to_owned());
    } else if ends_apart(&values) < FLAT - 1e-9 {
        words.push(
            "Thigh-front against hamstring does not follow the saddle: recorded as it is."
                .to_owned(),
        );
    } else if let (Some(from), Some(to)) = (alike.first(), alike.last()) {
        words.push(if (from - to).abs() < 1e-6 {
            format!(
                "Thigh-front and hamstring tire alike {}.",
                place_words(*from)
            )
        } else {
            format!(
                "Thigh-front and hamstring tire alike from {} to {}.",
                place_words(*from),
                place_words(*to)
            )
        });
    } else {
        words.push("Thigh-front and hamstring tire alike nowhere in the sweep.".to_owned());
    }
    let control = by_place(rated, |r| r.control);
    let best = control
        .iter()
        .map(|(_, c)| *c)
        .fold(f64::NEG_INFINITY, f64::max);
    let least = control
        .iter()
        .map(|(_, c)| *c)
        .fold(f64::INFINITY, f64::min);
    if best - least >= FLAT
        && let Some((back, _)) = control.iter().find(|(_, c)| *c >= best - 1e-9)
    {
        words.push(format!(
            "Control at the bottom was best {}.",
            place_words(*back)
        ));
    }
    words
}
