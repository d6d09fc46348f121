//! A frame for its builder: a side view to scale with its dimensions, as SVG, and as DXF whose units are millimetres.

use crate::drawing::escaped;
use std::fmt::Write as _;
use wedge_core::bike::Frame;
use wedge_core::measure::Unit;
use wedge_core::next::{Dimension, top_tube};
use wedge_core::plane::Point;
use wedge_core::units::Degrees;
use wedge_core::words::written;

/// What lines are for: a layer of the DXF, an ink of the SVG.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Layer {
    Frame,
    Wheels,
    Axes,
    Dimensions,
}

impl Layer {
    const ALL: [Self; 4] = [Self::Frame, Self::Wheels, Self::Axes, Self::Dimensions];

    fn name(self) -> &'static str {
        match self {
            Self::Frame => "FRAME",
            Self::Wheels => "WHEELS",
            Self::Axes => "AXES",
            Self::Dimensions => "DIMENSIONS",
        }
    }

    /// Its stroke as SVG, widths in millimetres of the frame.
    fn ink(self) -> &'static str {
        match self {
            Self::Frame => "stroke=\"#20303a\" stroke-width=\"7\" stroke-linecap=\"round\"",
            Self::Wheels => "stroke=\"#9aa5a9\" stroke-width=\"2.5\"",
            Self::Axes => "stroke=\"#4d5c64\" stroke-width=\"1.6\" stroke-dasharray=\"14 6 3 6\"",
            Self::Dimensions => "stroke=\"#0f5c6e\" stroke-width=\"1.6\"",
        }
    }
}

/// Where a text stands at its point.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Anchor {
    Start,
    Middle,
    End,
}

/// Height of the letters, mm of the frame.
const LETTER_MM: f64 = 40.0;
/// From one line of the list beneath to the next.
const LINE_MM: f64 = 56.0;
/// Room around it.
const EDGE_MM: f64 = 40.0;

/// Everything drawn, in millimetres from the BB, up positive.
#[derive(Debug, Default)]
struct Sheet {
    lines: Vec<(Layer, Point, Point)>,
    circles: Vec<(Layer, Point, f64)>,
    texts: Vec<(Point, Anchor, String)>,
}

impl Sheet {
    fn line(&mut self, layer: Layer, from: Point, to: Point) {
        self.lines.push((layer, from, to));
    }

    fn text(&mut self, at: Point, anchor: Anchor, words: impl Into<String>) {
        self.texts.push((at, anchor, words.into()));
    }

    /// A dimension line, so far off what it measures, with its ends led out to it.
    fn across(&mut self, (from, to): (Point, Point), off: Point, words: String) {
        let (a, b) = (from + off, to + off);
        let past = off * (1.0 + 10.0 / off.length().max(1.0));
        self.line(Layer::Dimensions, from, from + past);
        self.line(Layer::Dimensions, to, to + past);
        self.line(Layer::Dimensions, a, b);
        let along = (b - a) * (1.0 / (b - a).length().max(1.0));
        let tick = (along + along.turned(Degrees(90.0))) * 8.0;
        for end in [a, b] {
            self.line(Layer::Dimensions, end - tick, end + tick);
        }
        let middle = (a + b) * 0.5;
        // A level line has its number above it, an upright one beside it, towards what it measures.
        let (at, anchor) = if along.x.abs() > 0.5 {
            // Beneath one that climbs, where it would run through its number.
            let climbs = along.y.abs() > 0.02;
            let up = if climbs { -LETTER_MM - 12.0 } else { 12.0 };
            (middle + Point::new(0.0, up), Anchor::Middle)
        } else {
            let inward = if off.x > 0.0 { -14.0 } else { 14.0 };
            let anchor = if inward < 0.0 {
                Anchor::End
            } else {
                Anchor::Start
            };
            (middle + Point::new(inward, -LETTER_MM / 3.0), anchor)
        };
        if !words.is_empty() {
            self.text(at, anchor, words);
        }
    }
}

/// "412.3 mm", "73.42°".
fn told(dimension: &Dimension) -> String {
    match dimension.unit {
        Unit::Deg => format!("{:.2}°", dimension.value).replace('-', "−"),
        unit => format!("{}{}", written(dimension.value), unit.suffix()),
    }
}

/// A dimension with what it may be off by, for the list.
pub(crate) fn line_of(dimension: &Dimension) -> (String, String) {
    let tolerance = dimension.tolerance.map(|by| {
        let unit = dimension.unit.suffix();
        format!(" ± {}{unit}", written(by))
    });
    (
        dimension.label.clone(),
        told(dimension) + &tolerance.unwrap_or_default(),
    )
}

fn drawn(frame: &Frame, dimensions: &[Dimension]) -> Sheet {
    let mut sheet = Sheet::default();
    let of = |key: &str| {
        dimensions
            .iter()
            .find(|one| one.key == key)
            .map(told)
            .unwrap_or_default()
    };
    let named = |label: &str, key: &str| format!("{label} {}", of(key));
    let bb = Point::default();
    let (rear, front) = (frame.rear_axle(), frame.front_axle());
    let (axis, head) = (frame.steerer_axis(), frame.head_top());
    let foot = head - axis * frame.head_tube_mm.0;
    let crown = foot - axis * frame.lower_stack_mm.0;
    let seat = frame.post_axis() * frame.seat_tube_mm.0;
    let (top_back, top_front) = top_tube(frame);
    let ground = frame.bb_drop_mm.0 - frame.wheel_radius_mm.0;
    for (from, to) in [
        (bb, seat),
        (top_back, top_front),
        (bb, foot + axis * 25.0),
        (head, foot),
        (rear, bb),
        (rear, top_back),
        (crown, front),
    ] {
        sheet.line(Layer::Frame, from, to);
    }
    sheet.circles.push((Layer::Frame, bb, 20.0));
    for axle in [rear, front] {
        sheet
            .circles
            .push((Layer::Wheels, axle, frame.wheel_radius_mm.0));
        sheet.circles.push((Layer::Frame, axle, 6.0));
    }
    let radius = frame.wheel_radius_mm.0;
    sheet.line(
        Layer::Wheels,
        Point::new(rear.x - radius, ground),
        Point::new(front.x + radius, ground),
    );
    // The steering axis to the ground, and the seat tube's beyond its top.
    let steers = head - axis * ((head.y - ground) / axis.y);
    sheet.line(Layer::Axes, head + axis * 90.0, steers);
    let level_seat = Point::new(
        -head.y * frame.seat_angle_deg.sin_cos().1 / frame.seat_angle_deg.sin_cos().0,
        head.y,
    );
    let seat_end = if level_seat.y > seat.y {
        level_seat
    } else {
        seat
    };
    sheet.line(Layer::Axes, seat, seat_end + frame.post_axis() * 60.0);
    sheet.line(
        Layer::Axes,
        Point::new(rear.x, frame.bb_drop_mm.0),
        Point::new(front.x, frame.bb_drop_mm.0),
    );
    dimension_lines(&mut sheet, frame, (steers, ground), &named);
    labels(&mut sheet, frame, steers, &named);
    sheet
}

/// What stands beside the tubes.
fn labels(sheet: &mut Sheet, frame: &Frame, steers: Point, named: &dyn Fn(&str, &str) -> String) {
    let (rear, front) = (frame.rear_axle(), frame.front_axle());
    let (axis, head) = (frame.steerer_axis(), frame.head_top());
    let crown = head - axis * (frame.head_tube_mm.0 + frame.lower_stack_mm.0);
    let lean = |at: Point, by: f64, words: String, anchor: Anchor| {
        (at + Point::new(by, 0.0), anchor, words)
    };
    sheet.texts.extend([
        lean(
            head - axis * (frame.head_tube_mm.0 / 2.0),
            22.0,
            named("Head tube", "head_tube"),
            Anchor::Start,
        ),
        lean(
            steers + axis * 150.0,
            14.0,
            named("Head angle", "head_angle"),
            Anchor::Start,
        ),
        lean(
            frame.post_axis() * (frame.seat_tube_mm.0 * 0.55),
            16.0,
            named("Seat tube", "seat_tube"),
            Anchor::Start,
        ),
        lean(
            frame.post_axis() * (frame.seat_tube_mm.0 * 0.55 - LINE_MM),
            16.0,
            named("at", "seat_angle"),
            Anchor::Start,
        ),
        lean(
            Point::new(rear.x * 0.55, rear.y + 14.0),
            0.0,
            named("Chainstay", "chainstay"),
            Anchor::Middle,
        ),
        lean(
            (crown + front) * 0.5,
            40.0,
            named("Fork", "fork"),
            Anchor::Start,
        ),
        lean(
            (crown + front) * 0.5 - Point::new(0.0, LINE_MM),
            40.0,
            named("rake", "rake"),
            Anchor::Start,
        ),
    ]);
}

fn dimension_lines(
    sheet: &mut Sheet,
    frame: &Frame,
    (steers, ground): (Point, f64),
    named: &dyn Fn(&str, &str) -> String,
) {
    let (rear, front, head) = (frame.rear_axle(), frame.front_axle(), frame.head_top());
    let bb = Point::default();
    let high = head.y + 110.0;
    sheet.across(
        (Point::new(0.0, head.y), head),
        Point::new(0.0, high - head.y),
        named("Reach", "reach"),
    );
    sheet.line(Layer::Dimensions, bb, Point::new(0.0, high));
    let (sin, cos) = frame.seat_angle_deg.sin_cos();
    let back = Point::new(-head.y * cos / sin, head.y);
    sheet.across(
        (back, head),
        Point::new(0.0, 190.0),
        named("Effective top tube", "top_tube"),
    );
    let out = frame.front_axle().x + frame.wheel_radius_mm.0 + 30.0;
    sheet.across(
        (Point::new(head.x, 0.0), head),
        Point::new(out - head.x, 0.0),
        named("Stack", "stack"),
    );
    let below = Point::new(0.0, -60.0);
    let on_ground = |x: f64| Point::new(x, ground);
    sheet.across(
        (on_ground(rear.x), on_ground(front.x)),
        below * 2.4,
        named("Wheelbase", "wheelbase"),
    );
    sheet.across((on_ground(front.x), steers), below, String::new());
    let beside = Point::new(
        front.x.max(steers.x) + 16.0,
        ground + below.y - LETTER_MM / 3.0,
    );
    sheet.text(beside, Anchor::Start, named("Trail", "trail"));
    sheet.across(
        (bb, front),
        bb_below(bb, front) * 90.0,
        named("Front centre", "front_centre"),
    );
    let drop = Point::new(0.0, frame.bb_drop_mm.0);
    let beside = Point::new(95.0, 0.0);
    sheet.across((bb, drop), beside, String::new());
    let at = beside + drop * 0.5 + Point::new(14.0, -LETTER_MM / 3.0);
    sheet.text(at, Anchor::Start, named("BB drop", "bb_drop"));
}

/// Square to a line and down.
fn bb_below(from: Point, to: Point) -> Point {
    let along = (to - from) * (1.0 / (to - from).length().max(1.0));
    along.turned(Degrees(-90.0))
}

/// A frame as SVG, every dimension listed beneath unless they are told beside it.
pub fn frame_svg(title: &str, frame: &Frame, dimensions: &[Dimension], listed: bool) -> String {
    let sheet = drawn(frame, dimensions);
    let (mut low, mut high) = (
        Point::new(f64::MAX, f64::MAX),
        Point::new(f64::MIN, f64::MIN),
    );
    let mut hold = |at: Point| {
        low = Point::new(low.x.min(at.x), low.y.min(at.y));
        high = Point::new(high.x.max(at.x), high.y.max(at.y));
    };
    for (_, from, to) in &sheet.lines {
        hold(*from);
        hold(*to);
    }
    for (_, centre, radius) in &sheet.circles {
        hold(*centre - Point::new(*radius, *radius));
        hold(*centre + Point::new(*radius, *radius));
    }
    let (left, right) = (low.x - EDGE_MM, high.x + EDGE_MM);
    let half = if listed {
        dimensions.len().div_ceil(2)
    } else {
        0
    };
    #[expect(
        clippy::cast_precision_loss,
        reason = "a frame has a few dozen dimensions"
    )]
    let list = |line: usize| line as f64 * LINE_MM;
    let (width, height) = (
        right - left,
        high.y - low.y + 3.0 * EDGE_MM + list(if listed { half + 2 } else { 0 }),
    );
    let at = |p: Point| Point::new(p.x - left, high.y + 2.0 * EDGE_MM - p.y);
    let mut svg = format!(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 {width:.0} {height:.0}\" width=\"{width:.0}\" \
         height=\"{height:.0}\" role=\"img\" aria-label=\"{title}\" font-family=\"Atkinson Hyperlegible Next, sans-serif\" \
         font-size=\"{LETTER_MM}\" fill=\"none\"><title>{title}</title>",
        title = escaped(title)
    );
    for layer in Layer::ALL {
        let _ = write!(svg, "<g {}>", layer.ink());
        for (_, from, to) in sheet.lines.iter().filter(|line| line.0 == layer) {
            let (a, b) = (at(*from), at(*to));
            let _ = write!(
                svg,
                "<path d=\"M{:.1} {:.1}L{:.1} {:.1}\"/>",
                a.x, a.y, b.x, b.y
            );
        }
        for (_, centre, radius) in sheet.circles.iter().filter(|circle| circle.0 == layer) {
            let c = at(*centre);
            let _ = write!(
                svg,
                "<circle cx=\"{:.1}\" cy=\"{:.1}\" r=\"{radius:.1}\"/>",
                c.x, c.y
            );
        }
        svg.push_str("</g>");
    }
    let mut text = |p: Point, anchor: Anchor, words: &str, weight: u16| {
        let anchor = match anchor {
            Anchor::Start => "start",
            Anchor::Middle => "middle",
            Anchor::End => "end",
        };
        // A halo keeps a number legible over a line.
        let _ = write!(
            svg,
            "<text x=\"{:.1}\" y=\"{:.1}\" text-anchor=\"{anchor}\" font-weight=\"{weight}\" fill=\"#20303a\" stroke=\"#ffffff\" \
             stroke-width=\"5\" paint-order=\"stroke\">{}</text>",
            p.x,
            p.y,
            escaped(words)
        );
    };
    text(Point::new(EDGE_MM, EDGE_MM), Anchor::Start, title, 700);
    for (p, anchor, words) in &sheet.texts {
        text(at(*p), *anchor, words, 400);
    }
    let top = high.y - low.y + 3.0 * EDGE_MM + LINE_MM;
    let listed = dimensions.iter().take(if listed { usize::MAX } else { 0 });
    for (index, dimension) in listed.enumerate() {
        let (column, row) = (index / half.max(1), index % half.max(1));
        let x = EDGE_MM + if column == 0 { 0.0 } else { width / 2.0 };
        let y = top + list(row);
        let (label, value) = line_of(dimension);
        text(Point::new(x, y), Anchor::Start, &label, 400);
        text(
            Point::new(x + width / 2.0 - 2.0 * EDGE_MM, y),
            Anchor::End,
            &value,
            700,
        );
    }
    svg.push_str("</svg>");
    svg
}

/// A frame as DXF of release 12: a layer each for frame, wheels, axes and dimensions; one unit is one millimetre, the BB stands at
/// nought.
pub fn frame_dxf(title: &str, frame: &Frame, dimensions: &[Dimension]) -> String {
    let mut sheet = drawn(frame, dimensions);
    let left = frame.rear_axle().x - frame.wheel_radius_mm.0;
    let mut y = frame.bb_drop_mm.0 - frame.wheel_radius_mm.0 - 300.0;
    sheet.text(Point::new(left, y), Anchor::Start, title);
    for dimension in dimensions {
        y -= LINE_MM;
        let (label, value) = line_of(dimension);
        sheet.text(
            Point::new(left, y),
            Anchor::Start,
            format!("{label}: {value}"),
        );
    }
    let mut dxf = String::new();
    let mut pair = |code: u16, value: &str| {
        let _ = write!(dxf, "{code:>3}\r\n{value}\r\n");
    };
    let number = |value: f64| format!("{value:.4}");
    pair(0, "SECTION");
    pair(2, "HEADER");
    pair(9, "$ACADVER");
    pair(1, "AC1009");
    pair(0, "ENDSEC");
    pair(0, "SECTION");
    pair(2, "TABLES");
    pair(0, "TABLE");
    pair(2, "LAYER");
    pair(70, &Layer::ALL.len().to_string());
    for (layer, colour) in Layer::ALL.iter().zip(["7", "8", "9", "5"]) {
        for (code, value) in [
            (0, "LAYER"),
            (2, layer.name()),
            (70, "0"),
            (62, colour),
            (6, "CONTINUOUS"),
        ] {
            pair(code, value);
        }
    }
    pair(0, "ENDTAB");
    pair(0, "ENDSEC");
    pair(0, "SECTION");
    pair(2, "ENTITIES");
    for (layer, from, to) in &sheet.lines {
        pair(0, "LINE");
        pair(8, layer.name());
        for (code, value) in [
            (10, from.x),
            (20, from.y),
            (30, 0.0),
            (11, to.x),
            (21, to.y),
            (31, 0.0),
        ] {
            pair(code, &number(value));
        }
    }
    for (layer, centre, radius) in &sheet.circles {
        pair(0, "CIRCLE");
        pair(8, layer.name());
        for (code, value) in [(10, centre.x), (20, centre.y), (30, 0.0), (40, *radius)] {
            pair(code, &number(value));
        }
    }
    for (at, anchor, words) in &sheet.texts {
        pair(0, "TEXT");
        pair(8, Layer::Dimensions.name());
        for (code, value) in [(10, at.x), (20, at.y), (30, 0.0), (40, LETTER_MM)] {
            pair(code, &number(value));
        }
        pair(1, &plain_text(words));
        let (along, aligned) = match anchor {
            Anchor::Start => ("0", false),
            Anchor::Middle => ("1", true),
            Anchor::End => ("2", true),
        };
        pair(72, along);
        if aligned {
            for (code, value) in [(11, at.x), (21, at.y), (31, 0.0)] {
                pair(code, &number(value));
            }
        }
    }
    pair(0, "ENDSEC");
    pair(0, "EOF");
    dxf
}

/// Text as release 12 takes it: one line, of ASCII, the degree and the plus-minus by their codes.
fn plain_text(words: &str) -> String {
    let mut plain = String::new();
    for c in words.chars() {
        match c {
            '°' => plain.push_str("%%d"),
            '±' => plain.push_str("%%p"),
            '−' | '–' => plain.push('-'),
            '’' => plain.push('\''),
            '%' => plain.push_str("%%%"),
            c if c.is_control() => plain.push(' '),
            c if c.is_ascii() => plain.push(c),
            c => {
                let _ = write!(plain, "\\U+{:04X}", u32::from(c).min(0xFFFF));
            }
        }
    }
    plain
}
