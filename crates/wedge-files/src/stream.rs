//! A studio's file rider by rider, out and in, however many they are.
//!
//! Limits are of one rider, one list, one text and of nesting, never of a file: an honest studio of any size passes, and
//! what no studio ever was is refused before it is taken apart.

use crate::format::{self, FileError};
use crate::rider_file::{RIDER, STUDIO};
use crate::sane::{Budget, Sane};
use crate::upgrade::upgraded;
use crate::{House, LibraryFrame, Rider, RiderFile, StudioFile, UnreadableRider};
use serde::de::{DeserializeSeed, Error as _, IgnoredAny, MapAccess, SeqAccess, Visitor};
use serde::{Deserialize, Deserializer};
use serde_json::{Value, json};
use std::cell::RefCell;
use std::collections::HashSet;
use std::fmt;
use std::io::{self, BufReader, Read, Seek};
use uuid::Uuid;

/// What a studio's file says besides its riders.
#[derive(Debug, Clone, PartialEq)]
pub struct Around {
    /// How the studio works.
    pub house: Option<House>,
    /// The frame library.
    pub frames: Vec<LibraryFrame>,
    /// Riders that did not read where the file was written.
    pub unreadable: Vec<UnreadableRider>,
}

/// Reads a file of a rider or a studio without ever holding all of it: `each` gets every rider, brought up to date and
/// checked, in the file's order. An error of its own stops the reading.
///
/// The file is read twice: once to see that it is sane and of which format it is, then for what is in it.
pub fn read_each<R: Read + Seek, E: From<FileError>>(
    mut file: R,
    mut each: impl FnMut(Rider) -> Result<(), E>,
) -> Result<Around, E> {
    let mut outline = Outline::default();
    pass(&mut file, &mut outline)?;
    let format = outline
        .format
        .ok_or_else(|| FileError::new("format", "a file of Wedge says its format here"))?;
    file.rewind().map_err(unread)?;
    let mut riders = Riders {
        format: &format,
        index: 0,
        seen: HashSet::new(),
        head: serde_json::Map::new(),
        each: &mut each,
        failed: None,
    };
    let read = pass(&mut file, &mut riders);
    if let Some(error) = riders.failed {
        return Err(error);
    }
    read?;
    let head = Value::Object(std::mem::take(&mut riders.head));
    riders.around(head)
}

struct Counted<'b, R> {
    inner: R,
    budget: &'b Budget,
}

/// How much is read at once, so that what was read ahead is not another rider's.
const AT_ONCE: usize = 16 * 1024;

impl<R: Read> Read for Counted<'_, R> {
    fn read(&mut self, into: &mut [u8]) -> io::Result<usize> {
        self.budget.may_read().map_err(io::Error::other)?;
        let read = self.inner.read(into)?;
        self.budget.has_read(read);
        Ok(read)
    }
}

/// What one pass makes of the top of a file.
trait Top {
    /// Takes the value of a key; everything of it must be read.
    fn take<'de, D: Deserializer<'de>>(
        &mut self,
        key: &str,
        value: D,
        budget: &Budget,
    ) -> Result<(), D::Error>;
}

fn pass<R: Read>(file: &mut R, top: &mut impl Top) -> Result<(), FileError> {
    let budget = Budget::full();
    let mut reader = BufReader::with_capacity(
        AT_ONCE,
        Counted {
            inner: file,
            budget: &budget,
        },
    );
    let mut mark = [0; 3];
    let bytes_of_mark = format::BYTE_ORDER_MARK.as_bytes();
    let filled = fill(&mut reader, &mut mark).map_err(unread)?;
    let rest: &[u8] = if mark[..filled] == *bytes_of_mark {
        &[]
    } else {
        &mark[..filled]
    };
    let mut json = serde_json::Deserializer::from_reader(rest.chain(reader));
    json.deserialize_map(AtTop {
        top,
        budget: &budget,
    })
    .and_then(|()| json.end())
    .map_err(|error| FileError::new(".", format::plain(&error.to_string())))
}

/// Reads until it is full or nothing is left.
fn fill(reader: &mut impl Read, into: &mut [u8]) -> io::Result<usize> {
    let mut filled = 0;
    while filled < into.len() {
        match reader.read(&mut into[filled..])? {
            0 => break,
            read => filled += read,
        }
    }
    Ok(filled)
}

#[expect(clippy::needless_pass_by_value, reason = "given to map_err")]
fn unread(error: io::Error) -> FileError {
    FileError::new(".", format!("the file does not read: {error}"))
}

struct AtTop<'a, T> {
    top: &'a mut T,
    budget: &'a Budget,
}

impl<'de, T: Top> Visitor<'de> for AtTop<'_, T> {
    type Value = ();

    fn expecting(&self, f: &mut fmt::Formatter) -> fmt::Result {
        f.write_str("a file of Wedge")
    }

    fn visit_map<A: MapAccess<'de>>(self, mut map: A) -> Result<(), A::Error> {
        let mut keys = HashSet::new();
        while let Some(key) = map.next_key::<String>()? {
            map.next_value_seed(OfKey {
                top: self.top,
                key: &key,
                budget: self.budget,
            })?;
            if !keys.insert(key.clone()) {
                return Err(A::Error::custom(format!("`{key}` is given twice")));
            }
        }
        Ok(())
    }
}

struct OfKey<'a, T> {
    top: &'a mut T,
    key: &'a str,
    budget: &'a Budget,
}

impl<'de, T: Top> DeserializeSeed<'de> for OfKey<'_, T> {
    type Value = ();

    fn deserialize<D: Deserializer<'de>>(self, json: D) -> Result<(), D::Error> {
        self.top.take(self.key, json, self.budget)
    }
}

/// Every element of a list, each with its own budget.
struct EachOf<'a, F> {
    budget: &'a Budget,
    each: F,
}

impl<'de, F, S> Visitor<'de> for EachOf<'_, F>
where
    F: FnMut() -> S,
    S: DeserializeSeed<'de, Value = ()>,
{
    type Value = ();

    fn expecting(&self, f: &mut fmt::Formatter) -> fmt::Result {
        f.write_str("a list of riders")
    }

    fn visit_seq<A: SeqAccess<'de>>(mut self, mut seq: A) -> Result<(), A::Error> {
        self.budget.renew();
        while seq.next_element_seed((self.each)())?.is_some() {
            self.budget.renew();
        }
        Ok(())
    }
}

/// First pass: the format, and whether everything is sane.
#[derive(Default)]
struct Outline {
    format: Option<String>,
}

impl Top for Outline {
    fn take<'de, D: Deserializer<'de>>(
        &mut self,
        key: &str,
        value: D,
        budget: &Budget,
    ) -> Result<(), D::Error> {
        match key {
            "format" => {
                let said = Value::deserialize(value)?;
                self.format = said.as_str().map(str::to_owned);
                Ok(())
            }
            "riders" => value.deserialize_any(EachOf {
                budget,
                each: || Sane::at(budget, 2),
            }),
            _ => {
                budget.renew();
                Sane::at(budget, 1).deserialize(value)
            }
        }
    }
}

/// Second pass: what is in it.
struct Riders<'a, E, F> {
    format: &'a str,
    index: usize,
    seen: HashSet<Uuid>,
    head: serde_json::Map<String, Value>,
    each: &'a mut F,
    failed: Option<E>,
}

impl<E: From<FileError>, F: FnMut(Rider) -> Result<(), E>> Riders<'_, E, F> {
    /// One rider of a studio's file.
    fn rider(&mut self, rider: Value) -> Result<(), E> {
        let index = self.index;
        self.index += 1;
        let mut alone = serde_json::Map::new();
        alone.insert("format".to_owned(), self.format.into());
        alone.insert("riders".to_owned(), vec![rider].into());
        let at = |error: FileError| match error.path.strip_prefix("riders[0]") {
            Some(rest) => FileError::new(format!("riders[{index}]{rest}"), error.message),
            None => FileError::new(format!("riders[{index}]"), error.message),
        };
        let upgraded = upgraded(self.format.to_owned(), alone.into());
        let file = StudioFile::of(upgraded).map_err(at)?;
        for rider in file.riders {
            self.hand_on(rider)?;
        }
        Ok(())
    }

    fn hand_on(&mut self, rider: Rider) -> Result<(), E> {
        if !self.seen.insert(rider.id) {
            let twice = format!("the id {} stands twice", rider.id);
            return Err(FileError::new(".", twice).into());
        }
        (self.each)(rider)
    }

    /// What stands around the riders; of a file of one rider, the rider.
    fn around(&mut self, mut head: Value) -> Result<Around, E> {
        head["format"] = json!(self.format);
        let (format, value) = upgraded(self.format.to_owned(), head);
        if format == RIDER {
            let file = RiderFile::of((format, value))?;
            self.hand_on(file.rider)?;
            return Ok(Around {
                house: None,
                frames: Vec::new(),
                unreadable: Vec::new(),
            });
        }
        if format != STUDIO {
            let words = format!("this is `{format}`, not `{RIDER}` or `{STUDIO}`");
            return Err(FileError::new("format", words).into());
        }
        let file = StudioFile::of((format, value))?;
        Ok(Around {
            house: file.house,
            frames: file.frames,
            unreadable: file.unreadable,
        })
    }
}

impl<E: From<FileError>, F: FnMut(Rider) -> Result<(), E>> Top for Riders<'_, E, F> {
    fn take<'de, D: Deserializer<'de>>(
        &mut self,
        key: &str,
        value: D,
        budget: &Budget,
    ) -> Result<(), D::Error> {
        match key {
            "format" => value.deserialize_any(IgnoredAny).map(drop),
            "riders" => {
                self.head.insert(key.to_owned(), json!([]));
                let this = RefCell::new(self);
                value.deserialize_any(EachOf {
                    budget,
                    each: || OneRider(&this),
                })
            }
            _ => {
                budget.renew();
                let value = Value::deserialize(value)?;
                self.head.insert(key.to_owned(), value);
                Ok(())
            }
        }
    }
}

struct OneRider<'a, 'b, 'c, E, F>(&'a RefCell<&'b mut Riders<'c, E, F>>);

impl<'de, E: From<FileError>, F: FnMut(Rider) -> Result<(), E>> DeserializeSeed<'de>
    for OneRider<'_, '_, '_, E, F>
{
    type Value = ();

    fn deserialize<D: Deserializer<'de>>(self, json: D) -> Result<(), D::Error> {
        let rider = Value::deserialize(json)?;
        let mut riders = self.0.borrow_mut();
        riders.rider(rider).map_err(|error| {
            riders.failed = Some(error);
            D::Error::custom("stopped")
        })
    }
}

/// Writes a studio's file piece by piece: what stands before the riders, each of them, what stands behind.
#[derive(Debug, Default)]
pub struct StudioWriter {
    riders: usize,
}

impl StudioWriter {
    /// What stands before the riders.
    pub fn head(
        &self,
        house: Option<&House>,
        frames: &[LibraryFrame],
    ) -> Result<String, FileError> {
        let house = match house {
            Some(house) => format!("\"house\":{},\n", format::line(house)?),
            None => String::new(),
        };
        let frames = format::line(&frames)?;
        Ok(format!(
            "{{\"format\":\"{STUDIO}\",\n{house}\"frames\":{frames},\n\"riders\":["
        ))
    }

    /// One more rider, on a line of its own.
    pub fn rider(&mut self, rider: &Rider) -> Result<String, FileError> {
        let before = if self.riders == 0 { "\n" } else { ",\n" };
        self.riders += 1;
        Ok(format!("{before}{}", format::line(rider)?))
    }

    /// What stands behind them.
    pub fn tail(&self, unreadable: &[UnreadableRider]) -> Result<String, FileError> {
        if unreadable.is_empty() {
            return Ok("\n]}\n".to_owned());
        }
        Ok(format!(
            "\n],\n\"unreadable\":{}}}\n",
            format::line(&unreadable)?
        ))
    }
}
