//! Words as data and as text: enums a fitter chooses from, numbers as they are written, sentences.

use crate::units::Side;

/// An enum of words a fitter chooses from: made by [`words!`].
pub trait Word: Copy + PartialEq + Sized + 'static {
    /// Every one, in the order they are offered.
    const ALL: &'static [Self];

    /// The fitter's word.
    fn label(self) -> &'static str;

    /// The key it has in JSON.
    fn key(self) -> &'static str;
}

/// Declares an enum of words a fitter chooses from, with its key and label.
macro_rules! words {
    ($(#[$meta:meta])* pub enum $name:ident { $($variant:ident $key:tt $label:literal,)* }) => {
        $(#[$meta])*
        #[derive(Debug, Clone, Copy, PartialEq, Eq, serde::Serialize, serde::Deserialize)]
        #[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
        pub enum $name {
            $(#[doc = $label] #[serde(rename = $key)] $variant,)*
        }

        impl $name {
            /// Every one, in the order they are offered.
            pub const ALL: &'static [Self] = &[$(Self::$variant,)*];

            /// The fitter's word.
            pub const fn label(self) -> &'static str {
                match self {
                    $(Self::$variant => $label,)*
                }
            }

            /// The key it has in JSON.
            pub const fn key(self) -> &'static str {
                match self {
                    $(Self::$variant => $key,)*
                }
            }
        }

        impl $crate::words::Word for $name {
            const ALL: &'static [Self] = Self::ALL;

            fn label(self) -> &'static str {
                self.label()
            }

            fn key(self) -> &'static str {
                self.key()
            }
        }
    };
}
pub(crate) use words;

/// A number as a fitter writes it: one decimal at most, none when whole, a real minus sign.
pub fn written(value: f64) -> String {
    let tenths = tenth(value) + 0.0;
    let plain = if tenths.fract() == 0.0 {
        format!("{tenths:.0}")
    } else {
        format!("{tenths:.1}")
    };
    plain.replace('-', "−")
}

/// "hands 12 nearer, 6 higher", to the millimetre; "hands stay".
pub(crate) fn hands_moved_words(forward: f64, up: f64) -> String {
    let far = |mm: f64, more: &str, less: &str| {
        let whole = mm.round();
        let way = if whole > 0.0 { more } else { less };
        (whole != 0.0).then(|| format!("{} {way}", written(whole.abs())))
    };
    let moves: Vec<String> = [
        far(forward, "further", "nearer"),
        far(up, "higher", "lower"),
    ]
    .into_iter()
    .flatten()
    .collect();
    if moves.is_empty() {
        "hands stay".to_owned()
    } else {
        format!("hands {}", moves.join(", "))
    }
}

/// "12 mm higher", or what it is called where nothing moved: "as they were".
pub(crate) fn up_or_down(by: f64, unmoved: &str) -> String {
    if by.abs() < 0.05 {
        unmoved.to_owned()
    } else {
        format!(
            "{} mm {}",
            written(by.abs()),
            if by > 0.0 { "higher" } else { "lower" }
        )
    }
}

/// To the tenth: more is not told.
pub(crate) fn tenth(value: f64) -> f64 {
    (value * 10.0).round() / 10.0
}

/// To the hundredth: what is drawn, or set.
pub(crate) fn hundredth(value: f64) -> f64 {
    (value * 100.0).round() / 100.0
}

/// Capital first.
pub fn capital(words: &str) -> String {
    let mut chars = words.chars();
    chars
        .next()
        .map_or_else(String::new, |c| c.to_uppercase().chain(chars).collect())
}

/// Small first letter, for inside a sentence; "BB" stays.
pub fn lower(words: &str) -> String {
    let mut chars = words.chars();
    if words.chars().nth(1).is_some_and(char::is_uppercase) {
        return words.to_owned();
    }
    chars
        .next()
        .map_or_else(String::new, |c| c.to_lowercase().chain(chars).collect())
}

/// Capital first, full stop last.
pub(crate) fn sentence(words: &str) -> String {
    capital(words) + "."
}

/// With a full stop, where it has no end of its own.
pub fn ended(words: &str) -> String {
    if words.ends_with(['.', '!', '?']) {
        words.to_owned()
    } else {
        format!("{words}.")
    }
}

/// "Knee at full reach, left"; the label alone where there is no side.
pub fn sided(label: &str, side: Option<Side>) -> String {
    side.map_or_else(
        || label.to_owned(),
        |side| format!("{label}, {}", side.word()),
    )
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn numbers_are_written_as_a_fitter_writes_them() {
        let cases = [
            (172.5, "172.5"),
            (763.0, "763"),
            (-6.04, "−6"),
            (-0.01, "0"),
            (0.96, "1"),
        ];
        for (value, text) in cases {
            assert_eq!(written(value), text);
        }
    }

    #[test]
    fn only_the_first_letter_changes() {
        assert_eq!(capital("éclair on the BB"), "Éclair on the BB");
        assert_eq!(lower("Saddle to BB"), "saddle to BB");
        assert_eq!(sentence("the BB is low"), "The BB is low.");
        assert_eq!((capital(""), lower("")), (String::new(), String::new()));
        assert_eq!(sided("Knee", Some(Side::Left)), "Knee, left");
        assert_eq!(sided("Torso", None), "Torso");
    }
}
