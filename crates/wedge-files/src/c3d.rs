//! Markers over time as C3D: blocks of 512 bytes, parameters by group, then a frame after the other.

use crate::FileError;
use crate::trc::{MOST_FRAMES, MOST_MARKERS};
use wedge_core::capture::{MarkerUnit, Track, Tracks};

const BLOCK: usize = 512;

/// Reads a C3D file: all of it or nothing. What is wrong is named by its parameter.
///
/// Only files written in the Intel byte order are read (processor 84). A place whose fourth word is negative was not seen, whatever its
/// coordinates say. Analog data are passed over.
pub fn read_c3d(bytes: &[u8]) -> Result<Tracks, FileError> {
    if bytes.len() < 2 * BLOCK || bytes[1] != 0x50 {
        return Err(FileError::new(
            "header",
            "this is no C3D file: its second byte is 0x50",
        ));
    }
    let header = Header::read(bytes)?;
    let parameters = Parameters::read(bytes, usize::from(bytes[0]))?;
    let used = parameters.count("USED")?.unwrap_or(header.markers);
    let frames = parameters
        .count("FRAMES")?
        .filter(|frames| *frames > 0)
        .unwrap_or(header.frames);
    // FRAMES is a 16-bit word; beyond it the header's two frame numbers may say more.
    let frames = if frames >= 65_535 {
        header.frames.max(frames)
    } else {
        frames
    };
    let rate_hz = parameters
        .real("RATE")?
        .filter(|rate| *rate > 0.0)
        .unwrap_or(header.rate_hz);
    let scale = parameters.real("SCALE")?.unwrap_or(header.scale);
    let start = parameters
        .count("DATA_START")?
        .filter(|start| *start > 0)
        .unwrap_or(header.data_start);
    if used == 0 || used > MOST_MARKERS {
        return Err(FileError::new(
            "POINT:USED",
            format!("{used} markers: 1 to {MOST_MARKERS}"),
        ));
    }
    if frames == 0 || frames > MOST_FRAMES {
        return Err(FileError::new(
            "POINT:FRAMES",
            format!("{frames} frames: 1 to {MOST_FRAMES}"),
        ));
    }
    if !(1.0..=2000.0).contains(&rate_hz) {
        return Err(FileError::new(
            "POINT:RATE",
            format!("{rate_hz} a second is no rate: 1 to 2000"),
        ));
    }
    if scale == 0.0 || !scale.is_finite() {
        return Err(FileError::new(
            "POINT:SCALE",
            "a scale of 0 leaves no place",
        ));
    }
    let word = if scale < 0.0 { 4 } else { 2 };
    let a_frame = word * (4 * used + header.analog);
    let begin = start.saturating_sub(1) * BLOCK;
    let have = bytes.len().saturating_sub(begin) / a_frame;
    if start < 2 || have < frames {
        let words = format!("the file is cut off: {have} of {frames} frames");
        return Err(FileError::new("POINT:FRAMES", words));
    }
    let names = parameters.labels(used)?;
    let mut markers: Vec<Track> = names
        .into_iter()
        .map(|name| Track {
            name,
            places: Vec::with_capacity(frames),
        })
        .collect();
    for frame in 0..frames {
        for (at, marker) in markers.iter_mut().enumerate() {
            let from = begin + frame * a_frame + at * 4 * word;
            let words: [f64; 4] = std::array::from_fn(|i| {
                let at = from + i * word;
                if scale < 0.0 {
                    f64::from(f32_at(bytes, at))
                } else {
                    f64::from(i16_at(bytes, at))
                }
            });
            let factor = if scale < 0.0 { 1.0 } else { scale };
            let place = [words[0] * factor, words[1] * factor, words[2] * factor];
            let sound = place
                .iter()
                .all(|value| value.is_finite() && value.abs() < 1e7);
            let nowhere = place.iter().all(|value| value.abs() < 1e-12);
            marker
                .places
                .push((words[3] >= 0.0 && sound && !nowhere).then_some(place));
        }
    }
    #[expect(clippy::cast_precision_loss, reason = "frames are limited")]
    let times = (0..frames).map(|frame| frame as f64 / rate_hz).collect();
    Ok(Tracks {
        rate_hz,
        times,
        unit: parameters.unit(),
        markers,
    })
}

fn u16_at(bytes: &[u8], at: usize) -> u16 {
    u16::from_le_bytes([byte(bytes, at), byte(bytes, at + 1)])
}

fn i16_at(bytes: &[u8], at: usize) -> i16 {
    i16::from_le_bytes([byte(bytes, at), byte(bytes, at + 1)])
}

fn f32_at(bytes: &[u8], at: usize) -> f32 {
    f32::from_le_bytes([
        byte(bytes, at),
        byte(bytes, at + 1),
        byte(bytes, at + 2),
        byte(bytes, at + 3),
    ])
}

fn byte(bytes: &[u8], at: usize) -> u8 {
    bytes.get(at).copied().unwrap_or_default()
}

struct Header {
    markers: usize,
    analog: usize,
    frames: usize,
    scale: f64,
    data_start: usize,
    rate_hz: f64,
}

impl Header {
    fn read(bytes: &[u8]) -> Result<Self, FileError> {
        let word = |at: usize| usize::from(u16_at(bytes, 2 * (at - 1)));
        let (first, last) = (word(4), word(5));
        if last < first {
            return Err(FileError::new(
                "header",
                format!("frames from {first} to {last}"),
            ));
        }
        Ok(Self {
            markers: word(2),
            analog: word(3),
            frames: last - first + 1,
            scale: f64::from(f32_at(bytes, 12)),
            data_start: word(9),
            rate_hz: f64::from(f32_at(bytes, 20)),
        })
    }
}

/// One parameter of the group POINT.
struct Parameter<'a> {
    name: String,
    kind: i8,
    dimensions: Vec<usize>,
    data: &'a [u8],
}

struct Parameters<'a>(Vec<Parameter<'a>>);

impl<'a> Parameters<'a> {
    fn read(bytes: &'a [u8], block: usize) -> Result<Self, FileError> {
        let start = block.saturating_sub(1) * BLOCK;
        if block == 0 || start + 4 > bytes.len() {
            return Err(FileError::new(
                "parameters",
                format!("block {block} is not in the file"),
            ));
        }
        match bytes[start + 3] {
            84 => {}
            85 => {
                return Err(FileError::new(
                    "processor 85",
                    "written by a DEC machine: such files are not read",
                ));
            }
            86 => {
                return Err(FileError::new(
                    "processor 86",
                    "written by a MIPS machine: such files are not read",
                ));
            }
            other => {
                let words = "no processor known here: 84 is";
                return Err(FileError::new(format!("processor {other}"), words));
            }
        }
        let end = (start + usize::from(bytes[start + 2]).max(1) * BLOCK).min(bytes.len());
        let (mut groups, mut all) = (Vec::new(), Vec::new());
        let mut at = start + 4;
        while at + 2 < end {
            let letters = usize::from(bytes[at].cast_signed().unsigned_abs());
            let group = bytes[at + 1].cast_signed();
            let after = at + 2 + letters;
            if letters == 0 || group == 0 || after + 2 > end {
                break;
            }
            let name = String::from_utf8_lossy(&bytes[at + 2..after])
                .trim()
                .to_uppercase();
            if group < 0 {
                groups.push((-i16::from(group), name));
            } else {
                let cut = || FileError::new(format!("parameter {name}"), "is cut off");
                let kind = byte(bytes, after + 2).cast_signed();
                let count = usize::from(byte(bytes, after + 3));
                let dimensions: Vec<usize> = (0..count)
                    .map(|i| usize::from(byte(bytes, after + 4 + i)))
                    .collect();
                // A parameter has seven dimensions at the most: a broken file's may multiply beyond any number.
                let size = (dimensions
                    .iter()
                    .try_fold(1_usize, |size, own| size.checked_mul(*own)))
                .and_then(|size| size.checked_mul(usize::from(kind.unsigned_abs())))
                .filter(|_| count <= 7)
                .ok_or_else(cut)?;
                let from = after + 4 + count;
                let data = bytes.get(from..from + size).ok_or_else(cut)?;
                all.push((
                    i16::from(group),
                    Parameter {
                        name: name.clone(),
                        kind,
                        dimensions,
                        data,
                    },
                ));
            }
            let next = usize::from(u16_at(bytes, after));
            if next == 0 {
                break;
            }
            at = after + next;
        }
        let point = groups
            .iter()
            .find(|(_, name)| name == "POINT")
            .map(|(id, _)| *id);
        let Some(point) = point else {
            return Err(FileError::new("parameters", "there is no group POINT"));
        };
        Ok(Self(
            all.into_iter()
                .filter(|(group, _)| *group == point)
                .map(|(_, own)| own)
                .collect(),
        ))
    }

    fn get(&self, name: &str) -> Option<&Parameter<'a>> {
        self.0.iter().find(|own| own.name == name)
    }

    fn count(&self, name: &str) -> Result<Option<usize>, FileError> {
        let Some(own) = self.get(name) else {
            return Ok(None);
        };
        match own.kind {
            1 if !own.data.is_empty() => Ok(Some(usize::from(own.data[0]))),
            2 if own.data.len() >= 2 => Ok(Some(usize::from(u16_at(own.data, 0)))),
            _ => Err(FileError::new(
                format!("POINT:{name}"),
                "is no whole number",
            )),
        }
    }

    fn real(&self, name: &str) -> Result<Option<f64>, FileError> {
        let Some(own) = self.get(name) else {
            return Ok(None);
        };
        match own.kind {
            4 if own.data.len() >= 4 => Ok(Some(f64::from(f32_at(own.data, 0)))),
            2 if own.data.len() >= 2 => Ok(Some(f64::from(i16_at(own.data, 0)))),
            _ => Err(FileError::new(format!("POINT:{name}"), "is no number")),
        }
    }

    /// The markers' names: LABELS, LABELS2 and on.
    fn labels(&self, used: usize) -> Result<Vec<String>, FileError> {
        let mut all: Vec<String> = Vec::new();
        let more = (2..10).map(|n| format!("LABELS{n}"));
        for name in std::iter::once("LABELS".to_owned()).chain(more) {
            let Some(own) = self.get(&name) else { break };
            let wide = own.dimensions.first().copied().unwrap_or_default();
            if own.kind != -1 || wide == 0 {
                return Err(FileError::new(format!("POINT:{name}"), "holds no names"));
            }
            all.extend(own.data.chunks(wide).map(|text| {
                String::from_utf8_lossy(text)
                    .trim_matches(['\0', ' '])
                    .to_owned()
            }));
        }
        all.retain(|name| !name.is_empty());
        if all.len() < used {
            let words = format!("{} names for {used} markers", all.len());
            return Err(FileError::new("POINT:LABELS", words));
        }
        all.truncate(used);
        for (at, name) in all.iter().enumerate() {
            if all[..at].contains(name) {
                return Err(FileError::new(
                    "POINT:LABELS",
                    format!("“{name}” stands twice"),
                ));
            }
        }
        Ok(all)
    }

    fn unit(&self) -> Option<MarkerUnit> {
        let own = self.get("UNITS")?;
        let text = String::from_utf8_lossy(own.data)
            .trim_matches(['\0', ' '])
            .to_ascii_lowercase();
        MarkerUnit::ALL
            .iter()
            .copied()
            .find(|unit| unit.label() == text)
    }
}

/// The text of markers as C3D: floating-point places in mm, Intel byte order, times at the rate. A marker that was not seen has a
/// fourth word of −1.
///
/// # Errors
///
/// More markers than a file's parameter section holds, or more frames than its header counts.
#[expect(
    clippy::cast_possible_truncation,
    reason = "a C3D file holds 32-bit places; counts are checked first"
)]
pub fn write_c3d(tracks: &Tracks) -> Result<Vec<u8>, FileError> {
    /// How wide a name is, and how many the parameter section holds.
    const WIDE: usize = 16;
    const MOST: usize = 250;
    let (markers, frames) = (tracks.markers.len(), tracks.times.len());
    if markers == 0 || markers > MOST {
        return Err(FileError::new(
            "POINT:USED",
            format!("{markers} markers: 1 to {MOST}"),
        ));
    }
    let (used, last) = (
        u16::try_from(markers).unwrap_or_default(),
        u16::try_from(frames),
    );
    let last =
        last.map_err(|_| FileError::new("POINT:FRAMES", format!("{frames} frames: up to 65535")))?;
    let in_mm = tracks.unit.unwrap_or(MarkerUnit::Millimetre).in_mm();
    let mut names = Vec::with_capacity(WIDE * markers);
    for marker in &tracks.markers {
        let mut name: Vec<u8> = marker.name.bytes().take(WIDE).collect();
        name.resize(WIDE, b' ');
        names.extend(name);
    }
    let rate = tracks.rate_hz as f32;
    // A group, then its parameters; the data's first block is known once they are counted.
    let section = |data_start: u16| -> Vec<u8> {
        let mut all = vec![1, 0x50, 0, 84];
        put(&mut all, -1, "POINT", &[]);
        let number = |value: u16| [&[2, 0][..], &value.to_le_bytes()].concat();
        let real = |value: f32| [&[4, 0][..], &value.to_le_bytes()].concat();
        put(&mut all, 1, "USED", &number(used));
        put(&mut all, 1, "FRAMES", &number(last));
        put(&mut all, 1, "DATA_START", &number(data_start));
        put(&mut all, 1, "SCALE", &real(-1.0));
        put(&mut all, 1, "RATE", &real(rate));
        put(&mut all, 1, "UNITS", b"\xff\x01\x02mm");
        let head = [0xff, 2, WIDE as u8, used as u8];
        put(&mut all, 1, "LABELS", &[&head[..], &names].concat());
        all.push(0);
        all
    };
    let blocks = section(0).len().div_ceil(BLOCK);
    let data_start = u16::try_from(2 + blocks).unwrap_or_default();
    let mut parameters = section(data_start);
    parameters[2] = u8::try_from(blocks).unwrap_or_default();
    parameters.resize(blocks * BLOCK, 0);
    let mut header = vec![0_u8; BLOCK];
    header[0] = 2;
    header[1] = 0x50;
    let mut word = |at: usize, value: [u8; 2]| header[2 * (at - 1)..2 * at].copy_from_slice(&value);
    word(2, used.to_le_bytes());
    word(4, 1_u16.to_le_bytes());
    word(5, last.to_le_bytes());
    word(9, data_start.to_le_bytes());
    header[12..16].copy_from_slice(&(-1.0_f32).to_le_bytes());
    header[20..24].copy_from_slice(&rate.to_le_bytes());
    let mut bytes = [header, parameters].concat();
    for frame in 0..frames {
        for marker in &tracks.markers {
            let place = marker.places.get(frame).copied().flatten();
            let at = place.map_or([0.0; 3], |place| place.map(|value| (value * in_mm) as f32));
            let seen = if place.is_some() { 0.0_f32 } else { -1.0 };
            for value in at.into_iter().chain([seen]) {
                bytes.extend(value.to_le_bytes());
            }
        }
    }
    bytes.resize(bytes.len().div_ceil(BLOCK) * BLOCK, 0);
    Ok(bytes)
}

/// A group, where its id is negative, or a parameter: its name, how far it is to the next, what it holds.
fn put(all: &mut Vec<u8>, id: i8, name: &str, holds: &[u8]) {
    all.push(u8::try_from(name.len()).unwrap_or_default());
    all.push(id.cast_unsigned());
    all.extend(name.bytes());
    // From here over itself, what is held, and a description of no letters.
    let next = u16::try_from(2 + holds.len() + 1).unwrap_or_default();
    all.extend(next.to_le_bytes());
    all.extend(holds);
    all.push(0);
}
