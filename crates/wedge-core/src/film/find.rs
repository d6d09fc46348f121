//! Dots in one picture: learnt from one that was clicked, found by their colour and shape.

use super::squaring::Pixel;
use crate::rule::rules;
use serde::{Deserialize, Serialize};

rules! {
    rules "Film";
    /// A dot this far from grey is found by its colour; a greyer one as white.
    const COLOURED: f64 = 22.0, "", House;
    /// The score from which a pixel is part of a dot, of 255.
    const ENOUGH: f64 = 75.0, "", House;
    /// How wide a dot is.
    pub const DOT_WIDE_MM: f64 = 18.0, " mm", House;
    /// A blob's area over that of a dot.
    const AREA: (f64, f64) = (0.2, 5.0), "", House;
    /// How much of the ellipse of its moments a blob fills at least.
    const FILL: f64 = 0.8, "", House;
    /// A blob's lesser width over that of a dot.
    const NARROW: (f64, f64) = (0.45, 1.9), "", House;
    /// Its larger width over that of a dot: streaks are allowed.
    const LONG: f64 = 4.2, "", House;
    /// Below this a picture is too dark for dots: the brightness 99 of 100 pixels stay under.
    const DARK: f64 = 60.0, "", House;
    /// Below this it is too flat: from what 5 of 100 to what 99 of 100 stay under.
    const FLAT: f64 = 40.0, "", House;
}

/// A picture: red, green, blue a pixel, row by row.
#[derive(Debug, Clone, Copy)]
pub struct Image<'a> {
    /// Pixels across.
    pub width: usize,
    /// Pixels down.
    pub height: usize,
    /// Three bytes a pixel.
    pub rgb: &'a [u8],
}

impl<'a> Image<'a> {
    /// None unless there are three bytes for every pixel.
    pub fn new(width: usize, height: usize, rgb: &'a [u8]) -> Option<Self> {
        (width > 0 && height > 0 && rgb.len() == 3 * width * height).then_some(Self {
            width,
            height,
            rgb,
        })
    }

    fn pixel(&self, x: usize, y: usize) -> [f64; 3] {
        let at = 3 * (y * self.width + x);
        luma([self.rgb[at], self.rgb[at + 1], self.rgb[at + 2]])
    }

    /// What is said of its light.
    pub fn light(&self) -> Option<&'static str> {
        let counts = self.brightness();
        let (low, high) = (under(&counts, 0.05), under(&counts, 0.99));
        if high < DARK {
            Some("Too dark for dots: light from behind the camera; clicking works.")
        } else if high - low < FLAT {
            Some("Too flat for dots: more light on the rider than on the wall; clicking works.")
        } else {
            None
        }
    }

    fn brightness(&self) -> [usize; 256] {
        let mut counts = [0; 256];
        for pixel in self.rgb.chunks_exact(3) {
            let [y, _, _] = luma([pixel[0], pixel[1], pixel[2]]);
            counts[y.clamp(0.0, 255.0) as usize] += 1;
        }
        counts
    }
}

/// The brightness so much of a picture stays under.
fn under(counts: &[usize; 256], share: f64) -> f64 {
    let wanted = share * counts.iter().sum::<usize>() as f64;
    let mut sum = 0.0;
    for (level, count) in counts.iter().enumerate() {
        sum += *count as f64;
        if sum >= wanted {
            return level as f64;
        }
    }
    255.0
}

/// Brightness and the two colour differences (ITU-R BT.601).
fn luma([r, g, b]: [u8; 3]) -> [f64; 3] {
    let (r, g, b) = (f64::from(r), f64::from(g), f64::from(b));
    let y = 0.299 * r + 0.587 * g + 0.114 * b;
    [y, 0.564 * (b - y), 0.713 * (r - y)]
}

/// What one dot looks like.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Learnt {
    /// Its brightness and its two colour differences.
    pub colour: [f64; 3],
    /// A dot's width, px.
    pub wide_px: f64,
}

impl Learnt {
    fn chroma(&self) -> f64 {
        self.colour[1].hypot(self.colour[2])
    }

    /// Whether it is found by its colour.
    pub fn coloured(&self) -> bool {
        self.chroma() > COLOURED
    }
}

/// Learns a dot from where one was clicked: the mean of its middle half. None outside of the picture.
pub fn learn(image: &Image, at: Pixel, wide_px: f64) -> Option<Learnt> {
    let reach = (wide_px / 4.0).max(0.5);
    let span = |centre: f64, most: usize| {
        let from = (centre - reach).floor().max(0.0) as usize;
        let to = ((centre + reach).ceil().max(0.0) as usize).min(most.saturating_sub(1));
        from..=to
    };
    let mut sum = [0.0; 3];
    let mut n = 0.0;
    for y in span(at[1], image.height) {
        for x in span(at[0], image.width) {
            if (x as f64 - at[0]).hypot(y as f64 - at[1]) <= reach {
                let own = image.pixel(x, y);
                (0..3).for_each(|i| sum[i] += own[i]);
                n += 1.0;
            }
        }
    }
    (n > 0.0).then(|| Learnt {
        colour: sum.map(|value| value / n),
        wide_px,
    })
}

/// One dot, or what looks like one.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
#[cfg_attr(feature = "schema", derive(utoipa::ToSchema))]
#[serde(deny_unknown_fields)]
pub struct Blob {
    /// Its middle.
    pub at: [f64; 2],
    /// Pixels in it.
    pub area: f64,
    /// 1 is a dot as learnt; more is less like one.
    pub quality: f64,
}

/// How like the learnt dot each pixel is, 0–255, evened over three by three.
fn scores(image: &Image, learnt: &Learnt) -> Vec<f32> {
    let (w, h) = (image.width, image.height);
    let raw: Vec<f32> = if learnt.coloured() {
        let m = learnt.chroma();
        let (ux, uy) = (learnt.colour[1] / m, learnt.colour[2] / m);
        image
            .rgb
            .chunks_exact(3)
            .map(|pixel| {
                let [_, cb, cr] = luma([pixel[0], pixel[1], pixel[2]]);
                (255.0 * (cb * ux + cr * uy - (cb * uy - cr * ux).abs()) / m).clamp(0.0, 255.0)
                    as f32
            })
            .collect()
    } else {
        white(image, learnt)
    };
    let mut even = vec![0.0; w * h];
    for y in 1..h.saturating_sub(1) {
        for x in 1..w.saturating_sub(1) {
            let mut sum = 0.0;
            for row in [y - 1, y, y + 1] {
                let at = row * w + x;
                sum += raw[at - 1] + raw[at] + raw[at + 1];
            }
            even[y * w + x] = sum / 9.0;
        }
    }
    even
}

/// White against what is around it: a box four dots wide, by sums from the corner.
fn white(image: &Image, learnt: &Learnt) -> Vec<f32> {
    let (w, h) = (image.width, image.height);
    let mut sums = vec![0.0_f64; (w + 1) * (h + 1)];
    for y in 0..h {
        let mut row = 0.0;
        for x in 0..w {
            row += image.pixel(x, y)[0];
            sums[(y + 1) * (w + 1) + x + 1] = sums[y * (w + 1) + x + 1] + row;
        }
    }
    let half = (2.0 * learnt.wide_px).round().max(1.0) as usize;
    let contrast = (learnt.colour[0] - under(&image.brightness(), 0.5)).max(20.0);
    let mut all = vec![0.0; w * h];
    for y in 0..h {
        let (top, bottom) = (y.saturating_sub(half), (y + half + 1).min(h));
        for x in 0..w {
            let (left, right) = (x.saturating_sub(half), (x + half + 1).min(w));
            let of = |y: usize, x: usize| sums[y * (w + 1) + x];
            let sum = of(bottom, right) - of(top, right) - of(bottom, left) + of(top, left);
            let around = sum / ((bottom - top) * (right - left)) as f64;
            let [own, cb, cr] = image.pixel(x, y);
            all[y * w + x] =
                (255.0 * (own - around - cb.hypot(cr)) / contrast).clamp(0.0, 255.0) as f32;
        }
    }
    all
}

/// A stretch of one row that scores.
struct Run {
    row: usize,
    from: usize,
    to: usize,
}

/// Everything in a picture that looks like the learnt dot, best first.
pub fn find(image: &Image, learnt: &Learnt) -> Vec<Blob> {
    let scores = scores(image, learnt);
    let mut runs: Vec<Run> = Vec::new();
    for (row, line) in scores.chunks_exact(image.width).enumerate() {
        let mut from = None;
        for (x, score) in line.iter().chain(std::iter::once(&0.0)).enumerate() {
            let on = f64::from(*score) >= ENOUGH;
            match (from, on) {
                (None, true) => from = Some(x),
                (Some(start), false) => {
                    runs.push(Run {
                        row,
                        from: start,
                        to: x,
                    });
                    from = None;
                }
                _ => {}
            }
        }
    }
    let mut all: Vec<Blob> = joined(&runs)
        .into_iter()
        .filter_map(|members| {
            blob(
                &members.iter().map(|at| &runs[*at]).collect::<Vec<_>>(),
                &scores,
                image.width,
                learnt,
            )
        })
        .collect();
    all.sort_by(|a, b| a.quality.total_cmp(&b.quality));
    all
}

/// Runs that touch, corners counted: union-find.
fn joined(runs: &[Run]) -> Vec<Vec<usize>> {
    fn root(of: &mut [usize], mut at: usize) -> usize {
        while of[at] != at {
            of[at] = of[of[at]];
            at = of[at];
        }
        at
    }
    let mut of: Vec<usize> = (0..runs.len()).collect();
    let mut above = 0;
    for at in 0..runs.len() {
        while runs[above].row + 1 < runs[at].row {
            above += 1;
        }
        let mut other = above;
        while other < at && runs[other].row < runs[at].row {
            if runs[other].from <= runs[at].to && runs[at].from <= runs[other].to {
                let (a, b) = (root(&mut of, other), root(&mut of, at));
                of[a] = b;
            }
            other += 1;
        }
    }
    let mut groups: Vec<Vec<usize>> = vec![Vec::new(); runs.len()];
    for at in 0..runs.len() {
        let root = root(&mut of, at);
        groups[root].push(at);
    }
    groups.retain(|group| !group.is_empty());
    groups
}

fn blob(runs: &[&Run], scores: &[f32], width: usize, learnt: &Learnt) -> Option<Blob> {
    let (mut area, mut weight, mut peak) = (0.0, 0.0, 0.0_f64);
    let (mut wx, mut wy, mut sx, mut sy) = (0.0, 0.0, 0.0, 0.0);
    let (mut xx, mut xy, mut yy) = (0.0, 0.0, 0.0);
    let (x0, y0) = (runs[0].from as f64, runs[0].row as f64);
    for run in runs {
        for column in run.from..run.to {
            let score = f64::from(scores[run.row * width + column]);
            let (x, y) = (column as f64 - x0, run.row as f64 - y0);
            let share = score - (ENOUGH - 1.0);
            area += 1.0;
            weight += share;
            wx += share * x;
            wy += share * y;
            sx += x;
            sy += y;
            xx += x * x;
            xy += x * y;
            yy += y * y;
            peak = peak.max(score);
        }
    }
    let d = learnt.wide_px;
    let round = std::f64::consts::PI * d * d / 4.0;
    if !(AREA.0..=AREA.1).contains(&(area / round)) {
        return None;
    }
    let (mx, my) = (sx / area, sy / area);
    let (xx, xy, yy) = (
        xx / area - mx * mx + 1.0 / 12.0,
        xy / area - mx * my,
        yy / area - my * my + 1.0 / 12.0,
    );
    let (half, diff) = (
        f64::midpoint(xx, yy),
        (((xx - yy) / 2.0).powi(2) + xy * xy).sqrt(),
    );
    let (large, small) = (half + diff, (half - diff).max(1e-6));
    let narrow = 4.0 * small.sqrt() / d;
    let fill = area / (4.0 * std::f64::consts::PI * (large * small).sqrt());
    let sound =
        fill >= FILL && (NARROW.0..=NARROW.1).contains(&narrow) && 4.0 * large.sqrt() <= LONG * d;
    sound.then(|| Blob {
        at: [x0 + wx / weight, y0 + wy / weight],
        area,
        quality: 1.0 + 1.5 * narrow.ln().abs() + (0.9 - peak / 255.0).max(0.0),
    })
}

#[cfg(test)]
mod tests {
    use super::*;

    /// A grey wall with discs on it: centre, width, colour.
    fn wall(discs: &[(Pixel, f64, [u8; 3])]) -> Vec<u8> {
        let mut rgb = vec![120; 3 * 200 * 150];
        for y in 0..150_usize {
            for x in 0..200_usize {
                for (at, wide, colour) in discs {
                    if (x as f64 - at[0]).hypot(y as f64 - at[1]) <= wide / 2.0 {
                        rgb[3 * (y * 200 + x)..3 * (y * 200 + x) + 3].copy_from_slice(colour);
                    }
                }
            }
        }
        rgb
    }

    #[test]
    fn a_dot_is_learnt_and_the_others_are_found_where_they_are() {
        for colour in [[240, 60, 40], [250, 250, 250]] {
            let discs = [
                ([40.0, 40.0], 9.0, colour),
                ([120.5, 90.2], 9.0, colour),
                ([160.0, 30.0], 40.0, colour),
            ];
            let rgb = wall(&discs);
            let image = Image::new(200, 150, &rgb).unwrap();
            let learnt = learn(&image, [40.0, 40.0], 9.0).unwrap();
            assert_eq!(learnt.coloured(), colour[1] == 60);
            let found = find(&image, &learnt);
            assert_eq!(found.len(), 2, "{found:?}");
            for disc in &discs[..2] {
                assert!(
                    found
                        .iter()
                        .any(|blob| (blob.at[0] - disc.0[0]).hypot(blob.at[1] - disc.0[1]) < 0.4)
                );
            }
        }
    }

    #[test]
    fn light_is_said_when_there_is_too_little() {
        let dark = vec![20; 3 * 100];
        assert!(
            Image::new(10, 10, &dark)
                .unwrap()
                .light()
                .unwrap()
                .starts_with("Too dark")
        );
        let flat = vec![150; 3 * 100];
        assert!(
            Image::new(10, 10, &flat)
                .unwrap()
                .light()
                .unwrap()
                .starts_with("Too flat")
        );
        assert!(Image::new(10, 10, &flat[1..]).is_none());
    }
}
