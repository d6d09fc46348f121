//! What leaves the room: the drawing of a position as SVG and PNG, the hand-out as PDF; the next bike's
//! sheets, and a frame for its builder as SVG and DXF.
//!
//! What is said was worked out in the core and put together on the bench; here it is set on paper. The same hand-out always
//! gives the same bytes: no clock, no random source, fonts of its own.

mod calendar;
mod card;
mod drawing;
mod figure;
mod fonts;
mod frame;
mod letter;
mod next;
mod page;
mod sheet;

pub use calendar::{Day, calendar};
pub use card::{card_html, card_pdf};
pub use drawing::{png, svg, svg_of_shapes};
pub use fonts::Fonts;
pub use frame::{frame_dxf, frame_svg};
pub use letter::{Letter, letter};
pub use next::{frame_pdf, next_pdf};
pub use page::Paper;
pub use sheet::pdf;

/// Why something was not set on paper: never the rider's or the fitter's fault.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[error("{0}")]
pub struct NotPrinted(pub &'static str);
