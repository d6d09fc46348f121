//! What a rider who is not there tells at the table, for a record.

use wedge_bench::ToldOf;
use wedge_devices::Room;
use wedge_devices::hidden::{Asked, Trouble};

/// Where it hurts on the bike as found, and what his load, shoes and saddle show.
pub fn told_of(room: &Room) -> ToldOf {
    let has = |trouble: Trouble| {
        room.rider()
            .troubles()
            .iter()
            .any(|of| of.trouble == trouble)
    };
    let found = room.places(&room.known().setup);
    let mut complaints = found.map_or_else(Vec::new, |(found, _)| room.tells(&found, Asked(0)).0);
    for (index, complaint) in complaints.iter_mut().enumerate() {
        complaint.id = format!("said-{index}");
    }
    ToldOf {
        complaints,
        load_rose: has(Trouble::LoadRose),
        shoe_tight: has(Trouble::NarrowShoe),
        no_relief: has(Trouble::NoRelief),
    }
}
