//! The position as a drawing of its own: the rider on the bike, at most eight dimensions, each number with its convention, what
//! was changed dashed beneath. As SVG, and as PNG of it.

use crate::figure::{Ink, Shape, bounds, figure, left, lines, mix, pose_at, resting, unit};
use crate::{Fonts, NotPrinted};
use resvg::{tiny_skia, usvg};
use std::fmt::Write as _;
use wedge_bench::Handout;
use wedge_core::handout::{PARTS, told};
use wedge_core::measure::Quantity;
use wedge_core::plane::Point;
use wedge_core::units::Side;

/// Its width, in the units of its own.
pub(crate) const WIDTH: f64 = 740.0;
/// Its height.
pub(crate) const HEIGHT: f64 = 460.0;

/// From millimetres to the drawing.
struct View {
    scale: f64,
    origin: Point,
}

impl View {
    fn of([west, east, ground, top]: [f64; 4]) -> Self {
        let (side, above, below) = (6.0, 6.0, 92.0);
        let scale =
            ((WIDTH - 2.0 * side) / (east - west)).min((HEIGHT - above - below) / (top - ground));
        Self {
            scale,
            origin: Point::new(
                WIDTH / 2.0 - scale * f64::midpoint(west, east),
                HEIGHT - below + scale * ground,
            ),
        }
    }

    fn at(&self, p: Point) -> Point {
        Point::new(
            self.origin.x + self.scale * p.x,
            self.origin.y - self.scale * p.y,
        )
    }
}

/// Text as XML takes it: what XML cannot carry at all is left out.
pub(crate) fn escaped(text: &str) -> String {
    let mut safe = String::with_capacity(text.len());
    for c in text.chars() {
        match c {
            '&' => safe.push_str("&amp;"),
            '<' => safe.push_str("&lt;"),
            '>' => safe.push_str("&gt;"),
            '"' => safe.push_str("&quot;"),
            '\'' => safe.push_str("&#39;"),
            '\t' | '\n' => safe.push(' '),
            c if c.is_control() || matches!(c, '\u{fffe}' | '\u{ffff}') => {}
            c => safe.push(c),
        }
    }
    safe
}

fn text(svg: &mut String, told: &[String], at: Point, anchor: &str) {
    for (index, line) in told.iter().enumerate() {
        let (size, weight, tone) = if index == 0 {
            (19, 700, "#20303a")
        } else {
            (13, 400, "#4d5c64")
        };
        #[expect(clippy::cast_precision_loss, reason = "a label has few lines")]
        let y = at.y + 16.0 * index as f64;
        let _ = write!(
            svg,
            r##"<text x="{:.1}" y="{y:.1}" text-anchor="{anchor}" font-size="{size}" font-weight="{weight}" fill="{tone}" stroke="#ffffff" stroke-width="4" stroke-linejoin="round" paint-order="stroke">{}</text>"##,
            at.x,
            escaped(line)
        );
    }
}

fn line(svg: &mut String, a: Point, b: Point, tone: &str, width: f64) {
    let _ = write!(
        svg,
        r#"<path d="M{:.1} {:.1}L{:.1} {:.1}" stroke="{tone}" stroke-width="{width}" fill="none"/>"#,
        a.x, a.y, b.x, b.y
    );
}

fn shape(svg: &mut String, shape: &Shape) {
    let _ = match shape.ink {
        Ink::Line(tone, width) => write!(
            svg,
            r#"<path d="{}" fill="none" stroke="{tone}" stroke-width="{width}" stroke-linecap="round" stroke-linejoin="round"/>"#,
            shape.d
        ),
        Ink::Fill(tone) => write!(
            svg,
            r##"<path d="{}" fill="{tone}" stroke="#ffffff" stroke-width="3"/>"##,
            shape.d
        ),
    };
}

/// The drawing of a hand-out as SVG: points in its own units, no style that a reader must know, text as text.
pub fn svg(handout: &Handout) -> String {
    let position = &handout.left.after;
    let bike = &position.bike;
    let view = View::of(bounds(position));
    let crank = resting(position);
    let moved = handout.found.after.bike != *bike;
    let mut svg = format!(
        r#"<svg xmlns="http://www.w3.org/2000/svg" viewBox="0 0 {WIDTH} {HEIGHT}" width="{WIDTH}" height="{HEIGHT}" role="img" font-family="Atkinson Hyperlegible Next, Atkinson Hyperlegible Next Variable, sans-serif"><title>{}</title>"#,
        escaped(&handout.described)
    );
    let ground = view.at(Point::new(0.0, bike.ground_mm.0)).y;
    line(
        &mut svg,
        Point::new(8.0, ground),
        Point::new(WIDTH - 8.0, ground),
        "#20303a",
        2.0,
    );
    let _ = write!(
        svg,
        r#"<g transform="translate({:.2} {:.2}) scale({:.5} {:.5})">"#,
        view.origin.x, view.origin.y, view.scale, -view.scale
    );
    for drawn in figure(position, crank, handout.stand) {
        shape(&mut svg, &drawn);
    }
    if moved {
        for d in lines(&handout.found.after, crank) {
            let _ = write!(
                svg,
                r##"<path d="{d}" fill="none" stroke="#ffffff" stroke-width="7"/><path d="{d}" fill="none" stroke="#20303a" stroke-width="3.5" stroke-dasharray="14 11"/>"##
            );
        }
    }
    svg.push_str("</g>");
    dimensions(&mut svg, handout, &view, ground);
    parts(&mut svg, handout, &view, crank);
    if moved {
        text(
            &mut svg,
            &[String::new(), "full: as left · dashed: as found".to_owned()],
            Point::new(10.0, HEIGHT - 24.0),
            "start",
        );
    }
    svg.push_str("</svg>");
    svg
}

/// Saddle height, setback, drop and BB to hand, as lines with their numbers.
fn dimensions(svg: &mut String, handout: &Handout, view: &View, ground: f64) {
    let position = &handout.left.after;
    let bike = &position.bike;
    let (sit, hand) = (view.at(bike.sit), view.at(bike.hand));
    let bb = view.at(Point::new(0.0, 0.0));
    let back = left(unit(bike.sit)) * 150.0;
    let (low, high) = (view.at(back), view.at(bike.sit + back));
    let lane = ground + 14.0;
    let right = hand.x.max(view.at(position.upper.points.hand).x) + 46.0;
    let p = Point::new;
    for (a, b) in [
        (sit, p(sit.x, lane)),
        (bb, p(bb.x, lane)),
        (hand, p(hand.x, lane)),
        (sit, p(right, sit.y)),
        (hand, p(right, hand.y)),
        (bb, low),
        (sit, high),
    ] {
        line(svg, a, b, "#9aa5a9", 0.8);
    }
    for (quantity, a, b, by, anchor) in [
        (Quantity::SaddleHeight, low, high, p(-14.0, -16.0), "end"),
        (
            Quantity::Setback,
            p(sit.x, lane),
            p(bb.x, lane),
            p((bb.x - sit.x) / 2.0 - 10.0, 24.0),
            "end",
        ),
        (
            Quantity::Drop,
            p(right, sit.y),
            p(right, hand.y),
            p(14.0, -30.0),
            "start",
        ),
        (
            Quantity::BbToHand,
            p(bb.x, lane),
            p(hand.x, lane),
            p((bb.x - hand.x) / 2.0 + 10.0, 24.0),
            "start",
        ),
    ] {
        let told = told(&handout.table, quantity);
        if told.is_empty() {
            continue;
        }
        let n = left(unit(b - a)) * 5.0;
        // High on its line the saddle height stands clear of the wheel.
        let along = if quantity == Quantity::SaddleHeight {
            0.72
        } else {
            0.5
        };
        line(svg, a, b, "#20303a", 1.5);
        line(svg, a - n, a + n, "#20303a", 1.5);
        line(svg, b - n, b + n, "#20303a", 1.5);
        text(svg, &told, mix(a, b, along) + by, anchor);
    }
}

/// What is too small to be drawn is told beside it, one below the other, with a line to where it is.
fn parts(svg: &mut String, handout: &Handout, view: &View, crank: f64) {
    let position = &handout.left.after;
    let bike = &position.bike;
    let toe = pose_at(position.legs.of(Side::Right), crank).toe;
    let from = |quantity| match quantity {
        Quantity::Stem => bike.bar_clamp,
        Quantity::SpacersBelow => bike.head_top,
        Quantity::Crank => Point::new(0.0, 0.0),
        _ => toe,
    };
    let x = view.at(bike.front_axle).x + bike.wheel_radius_mm.0 * view.scale + 22.0;
    let all: Vec<(Quantity, Vec<String>)> = (PARTS.into_iter())
        .map(|quantity| (quantity, told(&handout.table, quantity)))
        .filter(|(_, told)| !told.is_empty())
        .collect();
    #[expect(clippy::cast_precision_loss, reason = "there are four")]
    let tall = 40.0 * all.len() as f64;
    let ground = view.at(Point::new(0.0, bike.ground_mm.0)).y;
    let below = view.at(bike.bar_clamp).y.max(view.at(bike.hand).y) + 54.0;
    let mut y = below.min(ground + 14.0 - tall);
    for (quantity, told) in all {
        let at = Point::new(x.min(WIDTH - 150.0), y);
        line(
            svg,
            view.at(from(quantity)),
            at + Point::new(-6.0, -5.0),
            "#9aa5a9",
            0.8,
        );
        text(svg, &told, at, "start");
        y += 40.0;
    }
}

/// The drawing as SVG with its text as shapes: it looks alike where its font is not known.
pub fn svg_of_shapes(handout: &Handout, fonts: &Fonts) -> Result<String, NotPrinted> {
    let tree = fonts.tree(&svg(handout))?;
    Ok(tree.to_string(&usvg::WriteOptions::default()))
}

/// The drawing as PNG, so many times its own size.
pub fn png(handout: &Handout, scale: f32, fonts: &Fonts) -> Result<Vec<u8>, NotPrinted> {
    let tree = fonts.tree(&svg(handout))?;
    let size = tree.size();
    #[expect(
        clippy::cast_possible_truncation,
        clippy::cast_sign_loss,
        reason = "a drawing is a few hundred pixels"
    )]
    let whole = |length: f32| (length * scale).ceil() as u32;
    let mut pixels = tiny_skia::Pixmap::new(whole(size.width()), whole(size.height()))
        .ok_or(NotPrinted("the picture has no size"))?;
    pixels.fill(tiny_skia::Color::WHITE);
    resvg::render(
        &tree,
        usvg::Transform::from_scale(scale, scale),
        &mut pixels.as_mut(),
    );
    pixels
        .encode_png()
        .map_err(|_| NotPrinted("the picture could not be written"))
}
