//! How each measure of the body is taken: one sentence a fitter can follow with the rider standing there.

use super::Quantity;

/// How a measure of the body is taken; `None` for what is no measure of the body.
pub fn taking(quantity: Quantity) -> Option<&'static str> {
    use Quantity as Q;
    Some(match quantity {
        Q::Stature => {
            "Barefoot, heels and back against the wall: a book flat on the head, a mark, the tape down from it."
        }
        Q::Mass => "On the scale as the rider rides, without shoes.",
        Q::Inseam => {
            "Barefoot, feet a hand apart, back to the wall: a thin book pressed up as firmly as a saddle, the tape from its top edge to the floor."
        }
        Q::InseamShod => {
            "The same in riding shoes: a thin book pressed up as firmly as a saddle, the tape from its top edge to the floor."
        }
        Q::Trunk => {
            "Sitting tall on a flat stool: the tape from the bony point of the hip, where the thigh folds, up to the middle of the shoulder."
        }
        Q::ShoulderBreadth => {
            "From behind, arms hanging: the calliper on the bony points at the outer ends of the shoulders."
        }
        Q::Arm => {
            "Arm forward and level, a rod held in the fist: from the outer point of the shoulder to the middle of the rod."
        }
        Q::UpperArm => {
            "Elbow bent square: from the outer point of the shoulder to the outer point of the elbow."
        }
        Q::Forearm => {
            "Elbow bent square, wrist straight: from the outer point of the elbow to the fold of the wrist."
        }
        Q::ArmSpan => "Back to the wall, arms wide and level: from finger tip to finger tip.",
        Q::KnuckleHeight => {
            "In riding shoes, feet a pedal's width apart, arms hanging a bar's width apart, standing tall, shoulders back: from the floor to the knuckles of the closed fists; the mean of both."
        }
        Q::NeckExtension => {
            "Sitting tall: the gauge on the side of the face, nought looking level, then the face turned up until the chest follows, and read there."
        }
        Q::FistAngle => {
            "Arms out at bar width, a pencil in each relaxed fist, a string between the two fists: how far each pencil is turned back from the string; the mean of both."
        }
        Q::HipBreadth => "Standing, feet together: the calliper across the widest of the hips.",
        Q::SitBones => {
            "Sitting upright on the dent board, then up: from middle to middle of the two dents. Taken upright, so disputed for riders who lean."
        }
        Q::Thigh => {
            "Lying: from the bony point outside the hip, found by turning the leg in and out, to the groove outside the knee."
        }
        Q::Shank => {
            "Sitting, knee square: from the groove outside the knee down to the tip of the outer ankle."
        }
        Q::AnkleHeight => "Standing barefoot: from the floor up to the tip of the outer ankle.",
        Q::FootLength => "Standing barefoot, heel against the wall: to the tip of the longest toe.",
        Q::FootWidth => {
            "Standing barefoot: the calliper across the ball, from the inner to the outer toe joint."
        }
        Q::ShoeSize => "As printed in the shoe the rider rides.",
        Q::ArchHeight => {
            "Standing barefoot: from the floor up to the bump on the inner side of the foot, halfway to the heel."
        }
        Q::ForefootTilt => {
            "Lying face down, heel held straight: a card under the ball, its tilt against the heel by gauge."
        }
        Q::ThighShorter | Q::ShankShorter => {
            "Lying, knees bent together: seen from the side one knee is ahead when the thigh differs, from the foot one is higher when the shank does."
        }
        Q::FootLower => {
            "Standing barefoot on both: the tip of one outer ankle is lower than the other."
        }
        Q::LooksShorter => {
            "Lying, heels together: one is shorter, yet thighs and shanks measure alike. It is how the pelvis sits, not a bone."
        }
        Q::FifthJoint => {
            "On the bare foot: feel the knuckles of the big and the little toe, and read how far the outer one lies behind the inner, along the foot."
        }
        Q::HipLimit => {
            "Lying on the back, knee bent: raise the thigh until the pelvis rolls or the other leg lifts, and read there, against the table."
        }
        Q::StraightLegRaise => {
            "Lying on the back, knee straight: raise the leg until the knee wants to bend or the pelvis rolls, and read there."
        }
        Q::KneeLimit => {
            "Lying face down: draw the heel to the seat until it stops or hurts, and read the bend of the knee."
        }
        Q::AnkleLimit => {
            "Half kneeling, foot flat: push the knee ahead until the heel lifts, and read the shank past square."
        }
        Q::ShoulderLimit => {
            "Lying on the back, arm straight: raise it forward and up until the lower ribs rise, and read it against the trunk."
        }
        Q::BackLimit => {
            "Standing, hands on the thighs: hinge forward with a flat back until it rounds, and read the trunk above level."
        }
        _ => return None,
    })
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::rider::{ArmBody, Body, LegBody};

    #[test]
    fn every_measure_of_the_body_says_how_it_is_taken() {
        let all = [Body::QUANTITIES, LegBody::QUANTITIES, ArmBody::QUANTITIES].concat();
        for quantity in &all {
            let words = taking(*quantity).unwrap_or_default();
            assert!(words.ends_with('.') && words.len() > 30, "{quantity:?}");
        }
        let described = Quantity::ALL.iter().filter(|q| taking(**q).is_some());
        assert!(described.into_iter().all(|quantity| all.contains(quantity)));
    }
}
