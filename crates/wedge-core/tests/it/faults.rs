//! What cannot be as it stands is noted without any change.
use wedge_core::example;
use wedge_core::foresee::{ForeseeInput, foresee};
use wedge_core::units::{Degrees, Millimetres, Side};

#[test]
fn faults_are_noted_as_they_stand() {
    let notes = |change: &dyn Fn(&mut ForeseeInput)| {
        let mut input = example::road();
        change(&mut input);
        foresee(&input).unwrap().notes
    };
    assert_eq!(notes(&|_| ()), Vec::<String>::new());
    let said = |change: &dyn Fn(&mut ForeseeInput), words: &str| {
        let notes = notes(change);
        assert!(
            notes.iter().any(|note| note.contains(words)),
            "{words}: {notes:?}"
        );
    };
    said(
        &|input| input.setup.post.post_length_mm = Some(Millimetres(200.0)),
        "post",
    );
    said(
        &|input| {
            input.frame.steerer_mm = Some(Millimetres(200.0));
            input.setup.cockpit.spacers_below_mm = Millimetres(60.0);
        },
        "Steerer gap",
    );
    said(
        &|input| {
            let legs = &mut input.rider.legs;
            legs.left.thigh_mm = Some(Millimetres(430.0));
            legs.right.thigh_mm = Some(Millimetres(520.0));
        },
        "thighs are 430 and 520 mm",
    );
    said(
        &|input| {
            input.setup.saddle.saddle_height_mm = Millimetres(690.0);
            for side in Side::BOTH {
                let pitch = input.rider.pitch.of_mut(side);
                (pitch.mean_deg, pitch.amp_deg) = (Degrees(-25.0), Degrees(40.0));
            }
        },
        "sole would stand",
    );
}

#[test]
fn tape_and_parts_that_are_of_two_bikes_are_refused() {
    for far in [1e300, -1e300, 700.0] {
        let mut input = example::road();
        input.setup.residual.hand_up_mm = Millimetres(far);
        let refused = foresee(&input).unwrap_err();
        assert_eq!(refused[0].pointer, "/setup/residual/hand_up_mm");
        assert!(
            refused[0].detail.contains("600 mm apart"),
            "{}",
            refused[0].detail
        );
    }
}
