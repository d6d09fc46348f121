//! The open formats as JSON Schema, out of the types that read them.

use clap::ValueEnum;
use serde_json::{Map, Value, json};
use std::collections::BTreeSet;
use utoipa::OpenApi;
use wedge_files::{CaseFile, LedgerFile, PositionFile, RiderFile, StudioFile};

#[derive(OpenApi)]
#[openapi(components(schemas(CaseFile, LedgerFile, PositionFile, RiderFile, StudioFile)))]
struct Formats;

/// An open format of Wedge.
#[derive(Debug, Clone, Copy, PartialEq, Eq, ValueEnum)]
pub enum Format {
    /// `wedge.position/1`.
    Position,
    /// `wedge.rider/17`.
    Rider,
    /// `wedge.studio/16`.
    Studio,
    /// `wedge.case/1`.
    Case,
    /// `wedge.ledger/1`.
    Ledger,
}

impl Format {
    /// Every format.
    pub const ALL: [Self; 5] = [
        Self::Position,
        Self::Rider,
        Self::Studio,
        Self::Case,
        Self::Ledger,
    ];

    /// The line a file of it begins with, and the name of its type.
    fn names(self) -> (&'static str, &'static str) {
        match self {
            Self::Position => ("wedge.position/1", "PositionFile"),
            Self::Rider => ("wedge.rider/17", "RiderFile"),
            Self::Studio => ("wedge.studio/16", "StudioFile"),
            Self::Case => ("wedge.case/1", "CaseFile"),
            Self::Ledger => ("wedge.ledger/1", "LedgerFile"),
        }
    }

    /// The name of its schema's file.
    pub fn file_name(self) -> String {
        let (format, _) = self.names();
        format!("{}.schema.json", format.replace('/', "-"))
    }
}

/// The JSON Schema of a format, with everything it refers to.
pub fn json_schema(format: Format) -> serde_json::Result<String> {
    let api = serde_json::to_value(Formats::openapi())?;
    let all = api["components"]["schemas"].as_object();
    let (line, root) = format.names();
    let mut definitions = Map::new();
    let mut wanted = BTreeSet::from([root.to_owned()]);
    while let Some(name) = wanted.pop_first() {
        let Some(schema) = all.and_then(|all| all.get(&name)) else {
            continue;
        };
        let mut schema = schema.clone();
        point_here(&mut schema, &mut wanted);
        definitions.insert(name, schema);
        wanted.retain(|name| !definitions.contains_key(name));
    }
    if let Some(line_of) = definitions
        .get_mut(root)
        .and_then(|file| file.pointer_mut("/properties/format"))
    {
        *line_of = json!({ "const": line });
    }
    let schema = json!({
        "$schema": "https://json-schema.org/draft/2020-12/schema",
        "title": line,
        "$ref": format!("#/$defs/{root}"),
        "$defs": definitions,
    });
    serde_json::to_string_pretty(&schema).map(|text| text + "\n")
}

/// Makes references point into the schema itself, and collects what they name.
fn point_here(value: &mut Value, named: &mut BTreeSet<String>) {
    match value {
        Value::Array(items) => items.iter_mut().for_each(|item| point_here(item, named)),
        Value::Object(fields) => {
            for (key, field) in fields {
                let name = (key == "$ref")
                    .then(|| field.as_str()?.strip_prefix("#/components/schemas/"))
                    .flatten()
                    .map(str::to_owned);
                if let Some(name) = name {
                    *field = json!(format!("#/$defs/{name}"));
                    named.insert(name);
                } else {
                    point_here(field, named);
                }
            }
        }
        _ => {}
    }
}
