//! Devices: what is connected, what it sends, what it gave last, and what goes wrong with it next.

use super::extract::Body;
use crate::Problem;
use actix_web::http::StatusCode;
use actix_web::{get, put, web};
use jiff::Timestamp;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use wedge_devices::device::{DeviceKind, Mishap, SimulatedStand, Slide};
use wedge_store::{DeviceState, Store};

/// One device.
#[derive(Serialize, ToSchema)]
pub(crate) struct DeviceView {
    kind: DeviceKind,
    /// "Camera".
    label: &'static str,
    /// Whether something is connected: a stand-in, and it says so.
    connected: bool,
    /// "simulated", "none".
    state: &'static str,
    /// What a real one sends: units, rate, clock, what is missing.
    sends: &'static str,
    /// What goes wrong with it next, as long as it is planted.
    fault: Option<Mishap>,
    /// What it gave last.
    last: Option<String>,
    #[schema(value_type = Option<String>, format = DateTime)]
    last_at: Option<Timestamp>,
    /// How far the slides of one that moves go.
    stops: Vec<Slide>,
}

/// What can be planted.
#[derive(Serialize, ToSchema)]
pub(crate) struct FaultLine {
    key: Mishap,
    label: &'static str,
}

/// Every device.
#[derive(Serialize, ToSchema)]
pub(crate) struct DevicesView {
    devices: Vec<DeviceView>,
    faults: Vec<FaultLine>,
}

/// What is connected.
#[utoipa::path(context_path = "/api", tag = "devices", responses((status = 200, body = DevicesView)))]
#[get("/devices")]
pub(crate) async fn read(store: web::Data<Store>) -> Result<web::Json<DevicesView>, Problem> {
    view(&store).await
}

async fn view(store: &Store) -> Result<web::Json<DevicesView>, Problem> {
    let known = store.devices().await?;
    let of = |kind: DeviceKind| {
        let state = known.iter().find(|device| device.kind == kind.key());
        let off = state.is_some_and(|device| device.off);
        let last = state.and_then(|device| device.last.clone());
        let (last, last_at) = last.unzip();
        DeviceView {
            kind,
            label: kind.label(),
            connected: !off,
            state: if off { "none" } else { "simulated" },
            sends: kind.sends(),
            fault: state.and_then(|device| Mishap::named(device.fault.as_deref()?)),
            last,
            last_at,
            stops: match kind {
                DeviceKind::Stand => SimulatedStand::stops().to_vec(),
                _ => Vec::new(),
            },
        }
    };
    let fault = |key: &Mishap| FaultLine {
        key: *key,
        label: key.label(),
    };
    Ok(web::Json(DevicesView {
        devices: DeviceKind::ALL.into_iter().map(of).collect(),
        faults: Mishap::ALL.iter().map(fault).collect(),
    }))
}

/// How a device is to stand.
#[derive(Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub(crate) struct DeviceEdit {
    /// Whether the stand-in is connected.
    connected: bool,
    /// What goes wrong with it from now on; nothing when left out.
    #[serde(default)]
    fault: Option<Mishap>,
}

/// Connects or disconnects a stand-in, and plants what goes wrong with it.
#[utoipa::path(
    context_path = "/api", tag = "devices", request_body = DeviceEdit,
    responses((status = 200, body = DevicesView), (status = 404, body = Problem), (status = 422, body = Problem))
)]
#[put("/devices/{kind}")]
pub(crate) async fn edit(
    store: web::Data<Store>,
    kind: web::Path<String>,
    Body(edit): Body<DeviceEdit>,
) -> Result<web::Json<DevicesView>, Problem> {
    let kind = DeviceKind::named(&kind)
        .ok_or_else(|| Problem::new(StatusCode::NOT_FOUND, "There is no such device"))?;
    let device = store.device(kind.key()).await?;
    let fault = edit.fault.map(|fault| fault.key().to_owned());
    let off = !edit.connected;
    store
        .save_device(&DeviceState {
            off,
            fault,
            ..device
        })
        .await?;
    view(&store).await
}
