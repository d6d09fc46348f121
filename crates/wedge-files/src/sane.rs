//! Whether JSON is of a size somebody could have written, before it is taken apart.

use serde::Deserializer;
use serde::de::{DeserializeSeed, Error as _, MapAccess, SeqAccess, Visitor};
use std::cell::Cell;
use std::collections::HashSet;
use std::fmt;

/// The most bytes one rider may take in a file, and everything that is not a rider.
const MOST_BYTES: usize = 16 * 1024 * 1024;
/// The most values one rider may consist of.
const MOST_VALUES: usize = 1_000_000;
/// The most entries of one list.
const MOST_ENTRIES: usize = 100_000;
/// The longest text.
const LONGEST: usize = 64 * 1024;
/// The deepest nesting.
const DEEPEST: usize = 40;

/// How much may still come before it is too much for one rider.
pub(crate) struct Budget {
    bytes: Cell<usize>,
    values: Cell<usize>,
}

impl Budget {
    pub(crate) fn full() -> Self {
        Self {
            bytes: Cell::new(MOST_BYTES),
            values: Cell::new(MOST_VALUES),
        }
    }

    /// Another rider begins.
    pub(crate) fn renew(&self) {
        self.bytes.set(MOST_BYTES);
        self.values.set(MOST_VALUES);
    }

    /// Refuses to read on once every byte is spent.
    pub(crate) fn may_read(&self) -> Result<(), String> {
        if self.bytes.get() > 0 {
            return Ok(());
        }
        let most = MOST_BYTES / 1024 / 1024;
        Err(format!("one rider takes over {most} MB"))
    }

    pub(crate) fn has_read(&self, bytes: usize) {
        self.bytes.set(self.bytes.get().saturating_sub(bytes));
    }

    fn take_value(&self) -> Result<(), String> {
        let left = self.values.get().checked_sub(1);
        let left =
            left.ok_or_else(|| format!("one rider consists of over {MOST_VALUES} values"))?;
        self.values.set(left);
        Ok(())
    }
}

/// Any JSON of a size somebody could have written: no key twice, no list, text or depth beyond reason.
pub(crate) struct Sane<'a> {
    budget: &'a Budget,
    depth: usize,
}

impl<'a> Sane<'a> {
    /// What stands so deep in its file.
    pub(crate) fn at(budget: &'a Budget, depth: usize) -> Self {
        Self { budget, depth }
    }

    fn deeper<E: serde::de::Error>(&self) -> Result<Self, E> {
        if self.depth >= DEEPEST {
            return Err(E::custom(format!("nested over {DEEPEST} deep")));
        }
        Ok(Self::at(self.budget, self.depth + 1))
    }

    fn counted<E: serde::de::Error>(&self) -> Result<(), E> {
        self.budget.take_value().map_err(E::custom)
    }
}

impl<'de> DeserializeSeed<'de> for Sane<'_> {
    type Value = ();

    fn deserialize<D: Deserializer<'de>>(self, json: D) -> Result<(), D::Error> {
        json.deserialize_any(self)
    }
}

impl<'de> Visitor<'de> for Sane<'_> {
    type Value = ();

    fn expecting(&self, f: &mut fmt::Formatter) -> fmt::Result {
        f.write_str("JSON")
    }

    fn visit_map<A: MapAccess<'de>>(self, mut map: A) -> Result<(), A::Error> {
        self.counted()?;
        let mut keys = HashSet::new();
        while let Some(key) = map.next_key::<String>()? {
            map.next_value_seed(self.deeper()?)?;
            if keys.contains(&key) {
                return Err(A::Error::custom(format!("`{key}` is given twice")));
            }
            keys.insert(key);
        }
        Ok(())
    }

    fn visit_seq<A: SeqAccess<'de>>(self, mut seq: A) -> Result<(), A::Error> {
        self.counted()?;
        let mut entries = 0;
        while seq.next_element_seed(self.deeper()?)?.is_some() {
            entries += 1;
            if entries > MOST_ENTRIES {
                return Err(A::Error::custom(format!(
                    "a list of over {MOST_ENTRIES} entries"
                )));
            }
        }
        Ok(())
    }

    fn visit_str<E: serde::de::Error>(self, text: &str) -> Result<(), E> {
        if text.len() > LONGEST {
            return Err(E::custom(format!("a text of over {LONGEST} bytes")));
        }
        self.counted()
    }

    fn visit_bool<E: serde::de::Error>(self, _: bool) -> Result<(), E> {
        self.counted()
    }

    fn visit_i64<E: serde::de::Error>(self, _: i64) -> Result<(), E> {
        self.counted()
    }

    fn visit_u64<E: serde::de::Error>(self, _: u64) -> Result<(), E> {
        self.counted()
    }

    fn visit_f64<E: serde::de::Error>(self, _: f64) -> Result<(), E> {
        self.counted()
    }

    fn visit_unit<E: serde::de::Error>(self) -> Result<(), E> {
        self.counted()
    }
}
