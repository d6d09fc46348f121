//! Many at once: a query a table, however many riders and fits are read, and its rows by what they belong to.

use crate::{StoreError, json};
use serde::de::DeserializeOwned;
use std::collections::HashMap;

/// Ids as the one parameter of `IN (SELECT value FROM json_each(?1))`.
pub(crate) fn keys<S: AsRef<str>>(ids: impl IntoIterator<Item = S>) -> String {
    let ids: serde_json::Value = ids.into_iter().map(|id| id.as_ref().to_owned()).collect();
    ids.to_string()
}

/// A body and the id of what it belongs to.
pub(crate) struct Body {
    pub(crate) of: String,
    pub(crate) body: String,
}

/// Rows that belong to one thing, packed by SQLite into one: thousands of rows cost as much on their way here as their
/// contents do.
pub(crate) struct Packed {
    pub(crate) of: String,
    pub(crate) rows: String,
}

/// The rows of what was taken, each with its fields.
pub(crate) fn unpacked<T: DeserializeOwned>(
    what: &'static str,
    packed: &[Packed],
) -> Result<Vec<T>, StoreError> {
    let mut all = Vec::new();
    for Packed { rows, .. } in packed {
        all.append(&mut json::read::<Vec<T>>(what, rows)?);
    }
    Ok(all)
}

/// Rows by what they belong to, in the order they were read in.
pub(crate) struct Grouped<T>(HashMap<String, Vec<T>>);

impl<T> Grouped<T> {
    pub(crate) fn by(rows: Vec<T>, of: impl Fn(&T) -> &str) -> Self {
        let mut grouped: HashMap<String, Vec<T>> = HashMap::new();
        for row in rows {
            match grouped.get_mut(of(&row)) {
                Some(group) => group.push(row),
                None => {
                    grouped.insert(of(&row).to_owned(), vec![row]);
                }
            }
        }
        Self(grouped)
    }

    /// What belongs to this one.
    pub(crate) fn take(&mut self, id: &str) -> Vec<T> {
        self.0.remove(id).unwrap_or_default()
    }
}

impl Grouped<Body> {
    /// The bodies of this one, read.
    pub(crate) fn read<B: DeserializeOwned>(
        &mut self,
        what: &'static str,
        id: &str,
    ) -> Result<Vec<B>, StoreError> {
        let rows = self.take(id).into_iter();
        rows.map(|row| json::read(what, &row.body)).collect()
    }
}
