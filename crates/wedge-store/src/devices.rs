//! What stands in for devices: which are switched off, what goes wrong with them next, what they gave last.

use crate::{Store, StoreError, json};
use jiff::Timestamp;

/// A device as it is kept.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct DeviceState {
    /// Which.
    pub kind: String,
    /// Whether it was disconnected.
    pub off: bool,
    /// What goes wrong with it.
    pub fault: Option<String>,
    /// What it gave last, and when.
    pub last: Option<(String, Timestamp)>,
    /// Where it stands, of one that moves, as JSON.
    pub stands: Option<String>,
}

impl Store {
    /// Every device something was said of.
    pub async fn devices(&self) -> Result<Vec<DeviceState>, StoreError> {
        let rows = sqlx::query!(
            r#"SELECT kind AS "kind!", off, fault, last, last_at, stands FROM devices ORDER BY kind"#
        )
        .fetch_all(&self.pool())
        .await?;
        rows.into_iter()
            .map(|row| {
                let at = row.last_at.as_deref().map(json::instant).transpose()?;
                Ok(DeviceState {
                    kind: row.kind,
                    off: row.off != 0,
                    fault: row.fault,
                    last: row.last.zip(at),
                    stands: row.stands,
                })
            })
            .collect()
    }

    /// One device.
    pub async fn device(&self, kind: &str) -> Result<DeviceState, StoreError> {
        let all = self.devices().await?;
        let known = all.into_iter().find(|device| device.kind == kind);
        Ok(known.unwrap_or_else(|| DeviceState {
            kind: kind.to_owned(),
            ..DeviceState::default()
        }))
    }

    /// Writes down how a device stands.
    pub async fn save_device(&self, device: &DeviceState) -> Result<(), StoreError> {
        let mut tx = self.write().await?;
        let (last, last_at) = match &device.last {
            Some((last, at)) => (Some(last), Some(at.to_string())),
            None => (None, None),
        };
        sqlx::query!(
            "INSERT INTO devices (kind, off, fault, last, last_at, stands) VALUES (?1, ?2, ?3, ?4, ?5, ?6)
             ON CONFLICT (kind) DO UPDATE SET off = ?2, fault = ?3, last = ?4, last_at = ?5, stands = ?6",
            device.kind,
            device.off,
            device.fault,
            last,
            last_at,
            device.stands
        )
        .execute(&mut *tx)
        .await?;
        tx.commit().await?;
        Ok(())
    }
}
