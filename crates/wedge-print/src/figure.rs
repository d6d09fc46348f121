//! The rider on the bike in side view as shapes: SVG path data in millimetres, forward and up from the BB. Drawing only;
//! nothing here is measured.

use std::fmt::Write as _;
use wedge_core::bike::BikePoints;
use wedge_core::plane::Point;
use wedge_core::position::Position;
use wedge_core::rider::{Leg, LegPose};
use wedge_core::units::Side;

/// The body the limb widths are drawn for; others scale with their trunk.
const TRUNK_MM: f64 = 513.0;

/// How a shape is inked.
#[derive(Debug, Clone, Copy)]
pub(crate) enum Ink {
    /// A line of a colour and width, mm.
    Line(&'static str, f64),
    /// A filled shape, edged as paper is.
    Fill(&'static str),
}

/// One shape.
pub(crate) struct Shape {
    pub(crate) d: String,
    pub(crate) ink: Ink,
}

const INK: &str = "#20303a";
const STEEL: &str = "#8b979b";
const HAIR: &str = "#c9cec8";
const SKIN: &str = "#e6e1d8";
const CLOTH: &str = "#c8d3d4";
const SHORTS: &str = "#6f8287";
const FAR: &str = "#dfe3e1";

pub(crate) fn unit(a: Point) -> Point {
    let length = a.length();
    a * (1.0 / if length == 0.0 { 1.0 } else { length })
}

/// A quarter turn front up: from forward to up.
pub(crate) fn left(a: Point) -> Point {
    Point::new(-a.y, a.x)
}

pub(crate) fn mix(a: Point, b: Point, t: f64) -> Point {
    a * (1.0 - t) + b * t
}

fn at(p: Point) -> String {
    format!("{:.1} {:.1}", p.x, p.y)
}

pub(crate) fn polyline(points: &[Point]) -> String {
    let all: Vec<String> = points.iter().copied().map(at).collect();
    format!("M{}", all.join("L"))
}

fn circle(centre: Point, r: f64) -> String {
    let (a, b) = (centre.x - r, centre.x + r);
    let y = centre.y;
    format!("M{a:.1} {y:.1}A{r:.1} {r:.1} 0 0 0 {b:.1} {y:.1}A{r:.1} {r:.1} 0 0 0 {a:.1} {y:.1}Z")
}

/// The leg nearest to a crank angle.
pub(crate) fn pose_at(leg: &Leg, crank: f64) -> LegPose {
    #[expect(clippy::cast_precision_loss, reason = "a stroke has few poses")]
    let turn = crank.rem_euclid(360.0) / 360.0 * leg.poses.len() as f64;
    #[expect(
        clippy::cast_possible_truncation,
        clippy::cast_sign_loss,
        reason = "a turn is from 0 to the number of poses"
    )]
    leg.poses[turn.round() as usize % leg.poses.len()]
}

/// A limb that tapers from one joint to the next.
fn limb(a: Point, b: Point, ra: f64, rb: f64) -> String {
    let n = left(unit(b - a));
    format!(
        "M{}L{}A{rb:.1} {rb:.1} 0 0 0 {}L{}A{ra:.1} {ra:.1} 0 0 0 {}Z",
        at(a + n * ra),
        at(b + n * rb),
        at(b - n * rb),
        at(a - n * ra),
        at(a + n * ra)
    )
}

/// From a point along a direction and square to it, front up.
fn off(from: Point, along: Point, by: (f64, f64)) -> String {
    at(from + along * by.0 + left(along) * by.1)
}

/// A closed outline of cubic curves through points given from joints: the first is where it starts.
fn outline(start: &str, curves: &[[String; 3]]) -> String {
    let mut d = format!("M{start}");
    for [a, b, c] in curves {
        let _ = write!(d, "C{a} {b} {c}");
    }
    d.push('Z');
    d
}

/// Trunk from hip to shoulder: a rounded back, a flatter front.
fn torso(hip: Point, shoulder: Point, k: f64) -> String {
    let d = unit(shoulder - hip);
    let middle = mix(hip, shoulder, 0.55);
    let p = |from, along: f64, back: f64| off(from, d, (along * k, back * k));
    outline(
        &p(hip, -96.0, 60.0),
        &[
            [
                p(hip, -40.0, 148.0),
                p(middle, -60.0, 148.0),
                p(middle, 40.0, 132.0),
            ],
            [
                p(middle, 110.0, 122.0),
                p(shoulder, 10.0, 92.0),
                p(shoulder, 58.0, 44.0),
            ],
            [
                p(shoulder, 80.0, 5.0),
                p(shoulder, 62.0, -42.0),
                p(shoulder, 10.0, -66.0),
            ],
            [
                p(middle, 60.0, -118.0),
                p(middle, -50.0, -122.0),
                p(hip, 20.0, -104.0),
            ],
            [
                p(hip, -60.0, -100.0),
                p(hip, -112.0, -40.0),
                p(hip, -96.0, 60.0),
            ],
        ],
    )
}

/// A shoe around heel, toe and ankle.
fn shoe(pose: &LegPose, k: f64) -> String {
    let sole = unit(pose.toe - pose.heel);
    let p = |from, along: f64, above: f64| off(from, sole, (along * k, above * k));
    format!(
        "M{}L{}C{} {} {}L{}L{}C{} {} {}Z",
        p(pose.heel, -6.0, -6.0),
        p(pose.toe, 2.0, -6.0),
        p(pose.toe, 26.0, 0.0),
        p(pose.toe, 22.0, 42.0),
        p(pose.toe, -30.0, 48.0),
        p(pose.ankle, 42.0, 6.0),
        p(pose.ankle, -40.0, 14.0),
        p(pose.heel, -16.0, 60.0),
        p(pose.heel, -22.0, 20.0),
        p(pose.heel, -6.0, -6.0)
    )
}

/// The saddle in side view, from nose and tail.
pub(crate) fn saddle(nose: Point, tail: Point) -> String {
    let d = unit(nose - tail);
    let p = |from, along: f64, above: f64| off(from, d, (along, above));
    outline(
        &p(nose, 0.0, -4.0),
        &[
            [
                p(nose, -60.0, 4.0),
                p(tail, 120.0, -4.0),
                p(tail, 80.0, 0.0),
            ],
            [p(tail, 40.0, 4.0), p(tail, 16.0, 14.0), p(tail, 0.0, 10.0)],
            [
                p(tail, 6.0, -16.0),
                p(tail, 60.0, -30.0),
                p(tail, 110.0, -28.0),
            ],
            [
                p(nose, -90.0, -24.0),
                p(nose, -20.0, -26.0),
                p(nose, 0.0, -4.0),
            ],
        ],
    )
}

/// What a bar looks like from the side: a drop bar with its hood, a flat bar end on, a base bar with its pad.
fn bar(bike: &BikePoints) -> Vec<Shape> {
    let line = |d, width| Shape {
        d,
        ink: Ink::Line(INK, width),
    };
    let clamp = bike.bar_clamp;
    if let (Some(bend), Some(end), Some(hood)) = (bike.bar_bend, bike.bar_end, bike.hood) {
        let drops = format!(
            "M{}L{}Q{} {}T{}",
            at(clamp),
            at(mix(clamp, bend, 0.55)),
            at(bend),
            at(mix(bend, end, 0.5)),
            at(end)
        );
        return vec![
            line(drops, 9.0),
            line(polyline(&[mix(bend, hood, 0.1), hood]), 16.0),
        ];
    }
    let Some(grip) = bike.grip else {
        return Vec::new();
    };
    if let (Some(pad), Some(rear), Some(front)) = (bike.pad, bike.pad_rear, bike.pad_front) {
        let under = |p: Point, by: f64| p + Point::new(0.0, -by);
        return vec![
            line(polyline(&[clamp, grip]), 9.0),
            line(polyline(&[grip, grip + Point::new(55.0, 8.0)]), 6.0),
            line(
                polyline(&[clamp, Point::new(clamp.x, pad.y - 22.0), under(pad, 22.0)]),
                9.0,
            ),
            line(polyline(&[under(rear, 9.0), under(front, 9.0)]), 18.0),
        ];
    }
    vec![
        line(
            polyline(&[clamp, bike.bar_bend.unwrap_or(clamp), grip]),
            9.0,
        ),
        line(
            polyline(&[
                grip + Point::new(12.0, -8.0),
                grip + Point::new(66.0, -34.0),
            ]),
            6.0,
        ),
        Shape {
            d: circle(grip, 17.0),
            ink: Ink::Fill(INK),
        },
    ]
}

fn steel(d: String, width: f64) -> Shape {
    Shape {
        d,
        ink: Ink::Line(STEEL, width),
    }
}

fn ink(d: String, width: f64) -> Shape {
    Shape {
        d,
        ink: Ink::Line(INK, width),
    }
}

/// A fit stand: a foot on the floor, and two columns that saddle and front slide on.
fn stand(bike: &BikePoints) -> Vec<Shape> {
    let (x, front) = (bike.saddle_clamp.x, bike.bar_clamp.x);
    let floor = bike.ground_mm.0 + 14.0;
    let p = Point::new;
    vec![
        steel(
            polyline(&[p(x - 120.0, floor), p(front + 160.0, floor)]),
            16.0,
        ),
        steel(
            polyline(&[p(x, floor), p(x, bike.saddle_clamp.y - 60.0)]),
            16.0,
        ),
        steel(
            polyline(&[p(front, floor), p(front, bike.bar_clamp.y - 60.0)]),
            16.0,
        ),
        steel(polyline(&[p(0.0, floor), p(0.0, 0.0)]), 16.0),
        steel(
            polyline(&[p(x, bike.saddle_clamp.y - 60.0), bike.saddle_clamp]),
            9.0,
        ),
        ink(
            polyline(&[p(front, bike.bar_clamp.y - 60.0), bike.bar_clamp]),
            12.0,
        ),
    ]
}

/// Wheels, frame, fork, post and stem.
fn frame(bike: &BikePoints) -> Vec<Shape> {
    let o = Point::new(0.0, 0.0);
    let seat = unit(bike.post_clamp);
    let up = unit(bike.head_top - bike.head_bottom);
    let crown = bike.head_bottom + up * -14.0;
    let rake = mix(crown, bike.front_axle, 0.72);
    let cluster = |below: f64| seat * (bike.post_clamp.length() - below);
    let on_head = |t: f64| mix(bike.head_bottom, bike.head_top, t);
    let mut all = Vec::new();
    for axle in [bike.rear_axle, bike.front_axle] {
        let r = bike.wheel_radius_mm.0;
        all.push(steel(circle(axle, r - 12.0), 22.0));
        all.push(Shape {
            d: circle(axle, r - 38.0),
            ink: Ink::Line(HAIR, 5.0),
        });
    }
    all.extend([
        steel(polyline(&[o, bike.rear_axle, cluster(40.0)]), 11.0),
        steel(
            format!(
                "M{}L{}Q{} {}",
                at(crown),
                at(rake),
                at(rake + Point::new(8.0, -60.0)),
                at(bike.front_axle)
            ),
            11.0,
        ),
        steel(polyline(&[o, bike.post_clamp]), 26.0),
        steel(polyline(&[o, on_head(0.18)]), 26.0),
        steel(polyline(&[cluster(25.0), on_head(0.82)]), 26.0),
        steel(polyline(&[bike.head_bottom, bike.head_top]), 32.0),
        steel(polyline(&[bike.head_top, bike.steerer_top]), 14.0),
        steel(polyline(&[bike.post_clamp, bike.saddle_clamp]), 15.0),
        ink(polyline(&[bike.stem_root, bike.bar_clamp]), 20.0),
    ]);
    all
}

fn crank(axle: Point, near: bool) -> Vec<Shape> {
    let o = Point::new(0.0, 0.0);
    let pedal = polyline(&[
        axle + Point::new(-45.0, -8.0),
        axle + Point::new(45.0, -8.0),
    ]);
    let tone = |d, width| if near { ink(d, width) } else { steel(d, width) };
    let ring = near.then(|| steel(circle(o, 92.0), 6.0));
    (ring.into_iter())
        .chain([tone(polyline(&[o, axle]), 16.0), tone(pedal, 16.0)])
        .collect()
}

fn leg(hip: Point, pose: &LegPose, k: f64, near: bool) -> Vec<Shape> {
    let fill = |d, tone: &'static str| Shape {
        d,
        ink: Ink::Fill(if near { tone } else { FAR }),
    };
    vec![
        fill(limb(pose.knee, pose.ankle, 56.0 * k, 34.0 * k), SKIN),
        fill(limb(hip, pose.knee, 88.0 * k, 58.0 * k), SKIN),
        fill(
            limb(hip, mix(hip, pose.knee, 0.62), 96.0 * k, 76.0 * k),
            SHORTS,
        ),
        fill(shoe(pose, k), INK),
    ]
}

/// Head, helmet and the near arm.
fn upper(position: &Position, k: f64) -> Vec<Shape> {
    let points = &position.upper.points;
    let (head, shoulder, elbow, hand) = (points.head, points.shoulder, points.elbow, points.hand);
    let face = unit(head - shoulder);
    let on = |along: f64, ahead: f64| off(head, face, (along * k, -ahead * k));
    let beside = |along: f64, ahead: f64| head + face * (along * k) + left(face) * (-ahead * k);
    let helmet = outline(
        &on(4.0, 96.0),
        &[
            [on(70.0, 120.0), on(130.0, 50.0), on(122.0, -20.0)],
            [on(110.0, -90.0), on(40.0, -118.0), on(-16.0, -92.0)],
            [on(20.0, -60.0), on(30.0, 30.0), on(4.0, 96.0)],
        ],
    );
    let fill = |d, tone| Shape {
        d,
        ink: Ink::Fill(tone),
    };
    let extension = position.bike.pad.map(|pad| {
        ink(
            polyline(&[
                pad + Point::new(0.0, -22.0),
                hand + Point::new(-70.0, -26.0),
                hand + Point::new(6.0, 6.0),
            ]),
            9.0,
        )
    });
    let sleeve = mix(shoulder, elbow, 0.62);
    let fist = hand + unit(hand - elbow) * (42.0 * k);
    let mut all = vec![
        fill(
            limb(beside(-44.0, 14.0), beside(22.0, 6.0), 60.0 * k, 82.0 * k),
            SKIN,
        ),
        fill(helmet, INK),
    ];
    all.extend(extension);
    all.extend([
        fill(limb(elbow, hand, 38.0 * k, 26.0 * k), SKIN),
        fill(limb(shoulder, elbow, 54.0 * k, 40.0 * k), SKIN),
        fill(limb(shoulder, sleeve, 64.0 * k, 52.0 * k), CLOTH),
        fill(limb(hand, fist, 32.0 * k, 24.0 * k), INK),
    ]);
    all
}

/// The rider on the bike at a crank angle: the far leg, the bike, then what is near.
pub(crate) fn figure(position: &Position, crank_deg: f64, on_stand: bool) -> Vec<Shape> {
    let points = &position.upper.points;
    let (hip, shoulder) = (points.hip, points.shoulder);
    let k = shoulder.distance(hip) / TRUNK_MM;
    let near = pose_at(position.legs.of(Side::Right), crank_deg);
    let far = pose_at(position.legs.of(Side::Left), crank_deg + 180.0);
    let trunk = unit(shoulder - hip);
    let bike = &position.bike;
    let mut all = crank(far.axle, false);
    all.extend(leg(hip, &far, k, false));
    all.extend(if on_stand { stand(bike) } else { frame(bike) });
    all.extend(bar(bike));
    all.push(Shape {
        d: saddle(bike.saddle_nose, bike.saddle_tail),
        ink: Ink::Fill(INK),
    });
    all.extend(crank(near.axle, true));
    all.push(Shape {
        d: limb(
            shoulder + trunk * (20.0 * k),
            mix(shoulder, points.head, 0.62),
            58.0 * k,
            46.0 * k,
        ),
        ink: Ink::Fill(SKIN),
    });
    all.push(Shape {
        d: torso(hip, shoulder, k),
        ink: Ink::Fill(CLOTH),
    });
    all.extend(leg(hip, &near, k, true));
    all.extend(upper(position, k));
    all
}

/// A position as lines: what it was, dashed over what it is.
pub(crate) fn lines(position: &Position, crank_deg: f64) -> Vec<String> {
    let pose = pose_at(position.legs.of(Side::Right), crank_deg);
    let points = &position.upper.points;
    let bike = &position.bike;
    vec![
        polyline(&[
            points.hand,
            points.elbow,
            points.shoulder,
            points.hip,
            pose.knee,
            pose.ankle,
            pose.axle,
        ]),
        saddle(bike.saddle_nose, bike.saddle_tail),
        polyline(&[
            bike.stem_root,
            bike.bar_clamp,
            bike.bar_bend.unwrap_or(bike.bar_clamp),
            bike.hand,
        ]),
        polyline(&[Point::new(0.0, 0.0), pose.axle]),
    ]
}

/// What must be seen of a position: wheels, ground and head; left, right, bottom, top.
pub(crate) fn bounds(position: &Position) -> [f64; 4] {
    let (bike, points) = (&position.bike, &position.upper.points);
    let r = bike.wheel_radius_mm.0;
    [
        (bike.rear_axle.x - r).min(bike.saddle_tail.x) - 10.0,
        (bike.front_axle.x + r).max(bike.hand.x.max(points.hand.x) + 60.0) + 10.0,
        bike.ground_mm.0,
        points.head.y.max(points.shoulder.y) + 150.0,
    ]
}

/// Where the crank rests for a picture: where the right knee is straightest.
pub(crate) fn resting(position: &Position) -> f64 {
    let at = position.legs.of(Side::Right).knee.smallest_at.0;
    if at.is_finite() { at } else { 180.0 }
}
