//! What a marker's name says: a part of the body or of the bike, and its side.

use crate::units::Side;
use crate::words::words;

words! {
    /// What a marker sits on.
    pub enum BodyPoint {
        Toe "toe" "Toe joint",
        Ankle "ankle" "Ankle",
        Knee "knee" "Knee",
        Hip "hip" "Hip",
        Shoulder "shoulder" "Shoulder",
        Elbow "elbow" "Elbow",
        Wrist "wrist" "Wrist",
        Pedal "pedal" "Pedal axle",
        HeelUpper "heel_upper" "Heel, upper",
        HeelLower "heel_lower" "Heel, lower",
    }
}

/// How a part may be written in a name, longest first.
const WRITTEN: [(&str, BodyPoint); 22] = [
    ("heelupper", BodyPoint::HeelUpper),
    ("upperheel", BodyPoint::HeelUpper),
    ("heelup", BodyPoint::HeelUpper),
    ("heeltop", BodyPoint::HeelUpper),
    ("heellower", BodyPoint::HeelLower),
    ("lowerheel", BodyPoint::HeelLower),
    ("heellow", BodyPoint::HeelLower),
    ("heelbottom", BodyPoint::HeelLower),
    ("shoulder", BodyPoint::Shoulder),
    ("elbow", BodyPoint::Elbow),
    ("wrist", BodyPoint::Wrist),
    ("pedal", BodyPoint::Pedal),
    ("ankle", BodyPoint::Ankle),
    ("axle", BodyPoint::Pedal),
    ("knee", BodyPoint::Knee),
    ("sho", BodyPoint::Shoulder),
    ("elb", BodyPoint::Elbow),
    ("wri", BodyPoint::Wrist),
    ("ank", BodyPoint::Ankle),
    ("kne", BodyPoint::Knee),
    ("toe", BodyPoint::Toe),
    ("hip", BodyPoint::Hip),
];

/// What a name says.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Named {
    /// The part, where one can be read.
    pub part: Option<BodyPoint>,
    /// The side, where one can be read.
    pub side: Option<Side>,
    /// Whether nothing is left over: a name with a rest (`R_knee_medial`) is asked about.
    pub sure: bool,
}

/// Reads a marker's name. Case and separators do not matter, what stands before a colon is the subject's.
///
/// ```
/// use wedge_core::capture::{BodyPoint, read_name};
/// use wedge_core::units::Side;
///
/// let one = read_name("subject:RightKnee");
/// assert_eq!((one.part, one.side, one.sure), (Some(BodyPoint::Knee), Some(Side::Right), true));
/// assert_eq!(read_name("LHIP").side, Some(Side::Left));
/// assert!(!read_name("R_knee_medial").sure);
/// ```
pub fn read_name(name: &str) -> Named {
    let own = name.rsplit_once(':').map_or(name, |(_, own)| own);
    let plain: String = own
        .chars()
        .filter(char::is_ascii_alphanumeric)
        .map(|letter| letter.to_ascii_lowercase())
        .collect();
    let (side, rest) = side_of_words(&plain);
    let found = WRITTEN.iter().find(|(written, _)| rest.contains(written));
    let Some((written, part)) = found else {
        return Named {
            part: None,
            side,
            sure: false,
        };
    };
    let left = rest.replacen(written, "", 1);
    let (side, left) = match (side, left.as_str()) {
        (None, "l") => (Some(Side::Left), String::new()),
        (None, "r") => (Some(Side::Right), String::new()),
        (None, other) => side_of_letter(&rest).map_or((None, other.to_owned()), |side| {
            (Some(side), other.trim_matches(['l', 'r']).to_owned())
        }),
        _ => (side, left),
    };
    Named {
        part: Some(*part),
        side,
        sure: left.is_empty() && side.is_some(),
    }
}

fn side_of_words(plain: &str) -> (Option<Side>, String) {
    for (word, side) in [("left", Side::Left), ("right", Side::Right)] {
        if plain.contains(word) {
            return (Some(side), plain.replacen(word, "", 1));
        }
    }
    (None, plain.to_owned())
}

/// A leading or a trailing letter.
fn side_of_letter(plain: &str) -> Option<Side> {
    match (plain.chars().next()?, plain.chars().last()?) {
        ('l', _) => Some(Side::Left),
        ('r', _) | (_, 'r') => Some(Side::Right),
        (_, 'l') => Some(Side::Left),
        _ => None,
    }
}
