//! What cannot be read any more: one rider of many, named and given out row by row as it is stored.

use crate::riders::riders_with;
use crate::{Store, StoreError, fit::Depth};
use serde_json::{Map, Value};
use sqlx::sqlite::SqliteRow;
use sqlx::{Column, Row, TypeInfo, ValueRef};

/// A rider, or something of the studio's, that does not read.
#[derive(Debug, Clone, PartialEq)]
pub struct Unreadable {
    /// The rider's id, as stored; empty of what is the studio's.
    pub id: String,
    /// As the rider is called.
    pub name: String,
    /// What does not read.
    pub why: String,
}

/// Every table of a rider's record, with how its rows belong to the rider.
const TABLES: [(&str, &str); 15] = [
    ("riders", "id = ?1"),
    ("bikes", "rider_id = ?1"),
    ("consents", "rider_id = ?1"),
    ("readings", "rider_id = ?1"),
    (
        "sessions",
        "bike_id IN (SELECT id FROM bikes WHERE rider_id = ?1)",
    ),
    ("setups", IN_SESSIONS),
    ("looks", IN_SESSIONS),
    ("takes", IN_SESSIONS),
    ("calibrations", IN_SESSIONS),
    ("disputes", IN_SESSIONS),
    ("afterwards", IN_SESSIONS),
    ("runs", IN_SESSIONS),
    (
        "calls",
        "run_id IN (SELECT r.id FROM runs r JOIN sessions s ON s.id = r.session_id
        JOIN bikes b ON b.id = s.bike_id WHERE b.rider_id = ?1)",
    ),
    ("trials", IN_SESSIONS),
    (
        "entries",
        "trial_id IN (SELECT t.id FROM trials t JOIN sessions s ON s.id = t.session_id
        JOIN bikes b ON b.id = s.bike_id WHERE b.rider_id = ?1)",
    ),
];
const IN_SESSIONS: &str =
    "session_id IN (SELECT s.id FROM sessions s JOIN bikes b ON b.id = s.bike_id
    WHERE b.rider_id = ?1)";

impl Store {
    /// Whoever's record does not read, and what of the studio's own; all of it is looked at.
    pub async fn unreadable(&self) -> Result<Vec<Unreadable>, StoreError> {
        let mut found = self.unreadable_of_studio().await?;
        for ids in self.rider_ids().await?.chunks(Self::AT_ONCE) {
            let mut connection = self.pool().begin().await?;
            let read = riders_with(&mut connection, ids, Depth::Whole).await?;
            found.extend(read.into_iter().filter_map(|(_, rider)| rider.err()));
        }
        Ok(found)
    }

    /// A rider's rows as they are stored, table by table, whether they read or not.
    pub async fn raw_rider(&self, id: &str) -> Result<Value, StoreError> {
        let mut connection = self.pool().begin().await?;
        let mut tables = Map::new();
        for (table, of_rider) in TABLES {
            let query = format!("SELECT * FROM {table} WHERE {of_rider} ORDER BY rowid");
            // Built of nothing but the names above.
            let rows = sqlx::query(sqlx::AssertSqlSafe(query))
                .bind(id)
                .fetch_all(&mut *connection)
                .await?;
            if table == "riders" && rows.is_empty() {
                return Err(StoreError::NotFound("rider"));
            }
            tables.insert(table.to_owned(), rows.iter().map(row).collect());
        }
        Ok(Value::Object(tables))
    }
}

fn row(row: &SqliteRow) -> Value {
    let cell = |column: usize| -> Value {
        let kind = row
            .try_get_raw(column)
            .map(|raw| (raw.is_null(), raw.type_info().name().to_owned()));
        match kind {
            Ok((false, kind)) if kind == "INTEGER" => row.try_get::<i64, _>(column).ok().into(),
            Ok((false, kind)) if kind == "REAL" => row.try_get::<f64, _>(column).ok().into(),
            // Bytes that are no text any more are given out as well as they can be.
            Ok((false, _)) => row
                .try_get_unchecked::<Vec<u8>, _>(column)
                .ok()
                .map(|bytes| String::from_utf8_lossy(&bytes).into_owned())
                .into(),
            _ => Value::Null,
        }
    };
    let columns = row.columns().iter();
    columns
        .map(|column| (column.name().to_owned(), cell(column.ordinal())))
        .collect::<Map<String, Value>>()
        .into()
}
