//! Film: pictures and clips of a rider from the side, squared by the wheels, read by points that were clicked or found; and
//! clips from ahead and behind, levelled by a plumb.
//!
//! [`square`] finds where the camera stood from the axles and the tyres' edges; each joint's ray then meets the plane that
//! joint is in, and angles are read on the side view ([`read_still`]). Dots are learnt from one and found ([`find`]), named by how a
//! body goes together, and followed through a clip. Every figure carries a spread that is worked out from clicks,
//! placement, view and time.
#![allow(
    clippy::cast_precision_loss,
    clippy::cast_possible_truncation,
    clippy::cast_sign_loss,
    clippy::cast_possible_wrap,
    reason = "pixels and frames are counted in thousands"
)]

mod across;
mod clip;
mod find;
mod follow;
mod name;
mod squaring;
mod still;

pub use across::{
    AcrossClip, AcrossMark, AcrossRead, AcrossShot, AcrossValue, AcrossWay, SeenFrom,
    follow_across, refuse_across,
};
pub use clip::{Clip, ClipRead, SeenIn, read_clip, refuse_times};
pub use find::{Blob, DOT_WIDE_MM, Image, Learnt, find, learn};
pub use follow::{Followed, follow};
pub use name::{Naming, name_dots};
pub use squaring::{BB_ASIDE_MM, Camera, Pixel, Squared, View, WheelSeen, square};
pub use still::{
    FilmFigure, FilmMark, FilmPlace, FilmValue, JOINTS, Shot, StillRead, aside, read_still,
};

/// Its lines of the table of rules.
pub(crate) fn rules() -> Vec<crate::rule::Rule> {
    [
        squaring::rules(),
        still::rules(),
        find::rules(),
        follow::rules(),
        clip::rules(),
        name::rules(),
        across::rules(),
    ]
    .concat()
}
