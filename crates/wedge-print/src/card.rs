//! The card a rider takes along: one HTML file that needs no network, and the same on paper.

use crate::page::{Block, Cell, Pages, Table, bold, plain};
use crate::{Fonts, NotPrinted, Paper};
use base64::Engine as _;
use base64::engine::general_purpose::STANDARD;
use wedge_bench::Card;
use wedge_core::words::capital;

const PAGE: &str = include_str!("../card/card.html");
const STYLE: &str = include_str!("../card/card.css");
const SCRIPT: &str = include_str!("../card/card.js");

/// How many rides paper has room for, and how high a line of it is, in points: to write in by hand.
const LINES: usize = 12;
const ROOM: f32 = 23.0;

/// The card as one file: opened from anywhere it keeps rides in the browser and gives them back as `wedge.ledger/1`. What is in
/// it is data, never markup: it stands in a block of JSON, and the page's own policy runs nothing but its own script.
pub fn card_html(card: &Card) -> Result<String, NotPrinted> {
    let json = serde_json::to_string(card).map_err(|_| NotPrinted("the card cannot be written"))?;
    // A `<` could end the block it stands in.
    let json = json.replace('<', "\\u003c");
    let (style, script) = (format!("\n{STYLE}"), format!("\n{SCRIPT}"));
    let connect = if card.send.is_some() {
        "'self'"
    } else {
        "'none'"
    };
    let policy = format!(
        "default-src 'none'; style-src '{}'; script-src '{}'; connect-src {connect}; form-action 'none'; base-uri 'none'",
        hash(&style),
        hash(&script)
    );
    Ok(PAGE
        .replace("{{policy}}", &policy)
        .replace("{{style}}", &style)
        .replace("{{script}}", &script)
        // Last: nothing looks for places in what a rider is called.
        .replace("{{card}}", &json))
}

/// What the policy knows a style or script by.
fn hash(of: &str) -> String {
    let digest = ring::digest::digest(&ring::digest::SHA256, of.as_bytes());
    format!("sha256-{}", STANDARD.encode(digest))
}

/// The card on paper: the plan, what to do when something comes, lines for rides, and the tests for the road.
pub fn card_pdf(card: &Card, paper: Paper, fonts: &Fonts) -> Result<Vec<u8>, NotPrinted> {
    let mut pages = Pages::new(paper, fonts);
    pages.add(Block::Heading(1, format!("Ride card, {}", card.rider)));
    pages.add(Block::Text(card.bike.clone(), plain(11.0)));
    if let Some(paused) = &card.paused {
        pages.add(Block::Text(paused.clone(), bold(12.0)));
    }
    if !card.steps.is_empty() {
        pages.add(Block::Heading(2, "The plan".to_owned()));
        let steps = card.steps.iter().map(|step| step.line.clone());
        pages.add(Block::Items(steps.collect(), plain(11.0)));
    }
    pages.add(Block::Heading(2, "If this comes, do that".to_owned()));
    let rules = card
        .rules
        .iter()
        .map(|rule| format!("{}: {}", rule.felt, rule.then));
    pages.add(Block::Items(rules.collect(), plain(11.0)));
    pages.add(Block::Heading(2, "Rides".to_owned()));
    pages.add(Block::Text(
        "Each 0 nothing to 10 unbearable; L R is left and right; control at the bottom 0 none to 3 full. The same circuit at \
         the same effort each time."
            .to_owned(),
        plain(10.0),
    ));
    pages.add(Block::Table(rides(card)));
    if !card.tests.is_empty() {
        pages.add(Block::Heading(2, "Tests for the road".to_owned()));
        for test in &card.tests {
            pages.add(Block::Text(test.title.clone(), bold(11.0)));
            pages.add(Block::Items(test.lines.clone(), plain(10.0)));
        }
    }
    for caution in &card.cautions {
        pages.add(Block::Text((*caution).to_owned(), plain(9.0)));
    }
    pages.written(&format!("Ride card, {}", card.rider), &card.rider)
}

/// Empty lines for rides.
fn rides(card: &Card) -> Table {
    let cell = |text: String, bold: bool| Cell {
        text,
        bold,
        right: false,
    };
    let mut head = ["Day", "Circuit", "Min", "Effort", "Step"]
        .map(str::to_owned)
        .to_vec();
    head.extend(card.ratings.iter().map(|rating| {
        let sides = if rating.per_side { " L R" } else { "" };
        capital(rating.label) + sides
    }));
    head.push("Words".to_owned());
    let wide = |name: &str| match name {
        "Circuit" => 0.15,
        "Words" => 0.16,
        "Day" => 0.08,
        "Min" | "Effort" | "Step" => 0.065,
        _ => 0.07,
    };
    let shares: Vec<f32> = head.iter().map(|name| wide(name)).collect();
    let all: f32 = shares.iter().sum();
    Table {
        size: 9.0,
        room: ROOM,
        shares: shares.into_iter().map(|share| share / all).collect(),
        rows: vec![head.iter().map(|_| cell(" ".to_owned(), false)).collect(); LINES],
        head: head.into_iter().map(|name| cell(name, true)).collect(),
    }
}
