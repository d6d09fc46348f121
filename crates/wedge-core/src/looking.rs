//! The first look: what is seen of a rider that is no number.

use crate::words::words;

words! {
    /// The way a knee goes, seen from the front.
    pub enum KneePath {
        Straight "straight" "Straight up and down",
        InPushing "in_pushing" "In while pushing",
        OutRising "out_rising" "Out while rising",
        SweptIn "swept_in" "Swept in all the way",
        SweptOut "swept_out" "Swept out all the way",
    }
}

words! {
    /// How the pelvis sits.
    pub enum PelvisSeen {
        Quiet "quiet" "Quiet and level",
        Rocks "rocks" "Rocks from side to side",
        DipsLeft "dips_left" "Dips to the left",
        DipsRight "dips_right" "Dips to the right",
        Twisted "twisted" "Twisted, one knee ahead",
        RolledBack "rolled_back" "Rolled back, low back round",
        SlidesForward "slides_forward" "Slides onto the nose",
    }
}

words! {
    /// How the shoulders are held.
    pub enum ShouldersSeen {
        Quiet "quiet" "Quiet",
        Hunched "hunched" "Hunched up",
        DrawnForward "drawn_forward" "Drawn forward",
        Locked "locked" "Pushed back, elbows locked",
        Rocking "rocking" "Rocking",
    }
}

impl KneePath {
    /// Whether the knee goes in towards the bike where it should not.
    pub fn goes_in(self) -> bool {
        matches!(self, Self::InPushing | Self::SweptIn)
    }
}
