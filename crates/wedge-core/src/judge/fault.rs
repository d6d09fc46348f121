//! What can be wrong with a position: each axis too far one way or the other, and what has no axis.

use crate::trial::Protocol;
use crate::words::words;
use crate::work::Station;

words! {
    /// What may be wrong. A fault of an axis is named by it and the end it stands towards.
    pub enum Fault {
        HeightHigh "height:high" "Saddle too high",
        HeightLow "height:low" "Saddle too low",
        SetbackBack "setback:back" "Saddle too far back",
        SetbackForward "setback:forward" "Saddle too far forward",
        TiltUp "tilt:up" "Saddle’s nose too high",
        TiltDown "tilt:down" "Saddle’s nose too low",
        ReachFar "reach:far" "Bars too far",
        ReachClose "reach:close" "Bars too near",
        BarsHigh "bars:high" "Bars too high",
        BarsLow "bars:low" "Bars too low",
        BarWidthWide "bar_width:wide" "Bar too wide",
        BarWidthNarrow "bar_width:narrow" "Bar too narrow",
        LeversHigh "levers:high" "Levers too high",
        LeversLow "levers:low" "Levers too low",
        CleatBack "cleat:back" "Cleat too far back",
        CleatForward "cleat:forward" "Cleat too far forward",
        TurnOut "turn:out" "Heel turned out too far",
        TurnIn "turn:in" "Heel turned in too far",
        StanceWide "stance:wide" "Stance too wide",
        StanceNarrow "stance:narrow" "Stance too narrow",
        CrankLong "crank:long" "Crank too long",
        CrankShort "crank:short" "Crank too short",
        SaddleWide "saddle_width:wide" "Saddle too wide",
        SaddleNarrow "saddle_width:narrow" "Saddle too narrow",
        Dip "dip" "A hip dips",
        Twist "twist" "Sits twisted",
        Nose "nose" "Riding on the nose",
        Weak "weak" "Trunk too weak for it",
        Stiff "stiff" "Stiff hips or hamstrings",
        Load "load" "Load that rose suddenly",
        Shoe "shoe" "Tight shoe",
        NoRelief "no_relief" "Saddle without relief",
        Short "short" "A shorter leg",
        Arch "arch" "A fallen arch",
    }
}

/// What there is to know of a fault besides its links.
pub(super) struct Settling {
    /// What would settle it.
    pub(super) settles: &'static str,
    /// The protocol that does, where one does.
    pub(super) protocol: Option<Protocol>,
    /// What would prove it wrong once it was mended.
    pub(super) wrong_if: &'static str,
    /// Where on the way it is mended.
    pub(super) station: Station,
}

/// Lists what would settle each fault: where it is mended, by which protocol, how, and what would prove it wrong.
macro_rules! settling {
    ($($fault:ident at $station:ident by $protocol:expr, $settles:literal, $wrong:literal;)*) => {
        impl Fault {
            /// What would settle it, what would prove it wrong, and where it is mended.
            pub(super) fn settling(self) -> Settling {
                match self {
                    $(Self::$fault => Settling {
                        settles: $settles,
                        protocol: $protocol,
                        wrong_if: $wrong,
                        station: Station::$station,
                    },)*
                }
            }
        }
    };
}

settling! {
    HeightHigh at SaddleHeight by Some(Protocol::CreepUp),
        "Creep up: the threshold against where it stands. Or 5 mm down for a week",
        "It hurts over the top; lower, the hips still rock and the bottom is no smoother";
    HeightLow at SaddleHeight by Some(Protocol::CreepUp),
        "Creep up: the threshold against where it stands. Or 5 mm up for a week",
        "It hurts at the bottom; higher, it hurts as before, or the bottom turns choppy";
    SetbackForward at Setback by Some(Protocol::Balance),
        "Balance test as it stands, then 5 mm back",
        "Further back, the hands are as heavy and the balance test fails as before";
    SetbackBack at Setback by Some(Protocol::RailSweep),
        "Rail sweep: where hands and thighs say nothing, 5 mm forward",
        "Further forward, the hands grow heavy and the kick over the top stays";
    TiltUp at Setback by Some(Protocol::Tilt),
        "Tilt: gauge it, level it, ride; then a degree at a time",
        "Level, the front is as numb";
    TiltDown at Setback by Some(Protocol::Tilt),
        "Tilt: gauge it, level it, ride; then a degree at a time",
        "Level, the rider still slides";
    ReachFar at Bars by Some(Protocol::Bracket),
        "Bracket of reach: out, back, in, out again",
        "Closer, the shoulders stay drawn forward";
    ReachClose at Bars by Some(Protocol::Bracket),
        "Bracket of reach: out, back, in, out again",
        "Further, the rider still pushes back";
    BarsLow at Bars by Some(Protocol::HeightSweep),
        "Height sweep: lower, lower again and back up, hands rated at each",
        "Higher, neck and back are no better";
    BarsHigh at Bars by Some(Protocol::HeightSweep),
        "Height sweep: lower, lower again and back up, hands rated at each",
        "Lower, the shoulders stay up, or the neck complains";
    BarWidthWide at Bars by None,
        "A bar one size narrower, or hands 10 mm further in for one ride",
        "Narrower, the wrists still roll";
    BarWidthNarrow at Bars by None,
        "A bar one size wider for one ride",
        "Wider, the elbows still flare";
    LeversHigh at Bars by Some(Protocol::WristLine),
        "Wrist and levers: the line of the forearm, one finger on the lever",
        "In line, the wrist hurts as before";
    LeversLow at Bars by Some(Protocol::WristLine),
        "Wrist and levers: the line of the forearm, one finger on the lever",
        "In line, the wrist hurts as before";
    CleatForward at Feet by None,
        "Cleats 5 mm back with the saddle’s answer",
        "Further back, the forefoot is as numb or the back of the knee pulls";
    CleatBack at Feet by None,
        "Saddle down by what the cleat asks, nothing else",
        "Further forward, nothing changes";
    TurnIn at Feet by None,
        "Turn that cleat a degree to where the foot hangs by itself",
        "Turned, the heel still meets an end";
    TurnOut at Feet by None,
        "Turn that cleat a degree to where the foot hangs by itself",
        "Turned, the heel still meets an end";
    StanceWide at Feet by None,
        "The ladder of that knee, one rung at a time",
        "Closer, the knee tracks as before";
    StanceNarrow at Feet by None,
        "The ladder of that knee, one rung at a time",
        "Wider, the knee tracks as before";
    CrankLong at Cranks by Some(Protocol::CrankComparison),
        "Crank comparison, 2.5 to 5 mm shorter with the bottom of the stroke kept",
        "Shorter, the hip still hikes over the top";
    CrankShort at Cranks by Some(Protocol::CrankComparison),
        "Crank comparison, 2.5 to 5 mm longer with the bottom of the stroke kept",
        "Longer, the rider still falls onto the front";
    SaddleWide at Setback by None,
        "Another saddle with the stack carried over, nothing else changed",
        "Narrower, the rider still shuffles";
    SaddleNarrow at Setback by None,
        "Another saddle with the stack carried over, nothing else changed",
        "Wider, it still presses";
    NoRelief at Setback by None,
        "A saddle with a channel or a cut-out, the stack carried over",
        "Numb in spite of relief";
    Nose at Bars by None,
        "Shorter or higher front for one ride: does the rider sit back by themselves?",
        "Sits on the wide part at every effort";
    Dip at SaddleHeight by Some(Protocol::HeelTest),
        "Watched from behind near the limit, then 5 mm lower",
        "Lower, the same hip still dips";
    Twist at Setback by None,
        "Relief first; then the legs’ lengths",
        "Sits straight on a saddle with relief";
    Weak at Intake by None,
        "Rested and fresh against tired; strength is trained, not fitted",
        "It comes within the first minutes";
    Stiff at Body by None,
        "Hip limit and straight leg raise",
        "The limits leave room";
    Load at Intake by None,
        "Two easy weeks, nothing turned",
        "Rested, it hurts as before";
    Shoe at Feet by None,
        "The shoe opened, or a wider one, for one ride",
        "In a wide shoe it is as numb";
    Short at Body by None,
        "Leg lengths by a clinician; then the shim, half at most",
        "The bones are alike";
    Arch at Feet by None,
        "A footbed for one ride",
        "Supported, the knee goes as before";
}
