//! A referral as a letter: half a page, no jargon.

use crate::page::{Block, Pages, bold, plain};
use crate::{Fonts, NotPrinted, Paper};
use jiff::civil::Date;
use wedge_bench::day_words;
use wedge_core::work::CAUTIONS;
use wedge_files::Referral;

/// Who writes, about whom, and what.
#[derive(Debug, Clone, Copy)]
pub struct Letter<'a> {
    /// As the studio is called; nameless when empty.
    pub studio: &'a str,
    /// Whom it is about.
    pub rider: &'a str,
    /// The day it was written down.
    pub day: Date,
    /// What is asked.
    pub referral: &'a Referral,
}

/// The letter as PDF. The same referral gives the same bytes.
pub fn letter(of: &Letter, paper: Paper, fonts: &Fonts) -> Result<Vec<u8>, NotPrinted> {
    let mut pages = Pages::new(paper, fonts);
    let referral = of.referral;
    pages.add(Block::Text(of.studio.to_owned(), bold(11.0)));
    pages.add(Block::Heading(1, format!("About {}", of.rider)));
    pages.add(Block::Text(
        format!(
            "To the {} · {}",
            referral.to.label().to_lowercase(),
            day_words(of.day)
        ),
        plain(11.0),
    ));
    for (title, words) in [
        ("What it is", &referral.what),
        ("How it was seen", &referral.seen),
        ("Since when", &referral.since),
        ("What we ask", &referral.question),
    ] {
        if !words.trim().is_empty() {
            pages.add(Block::Heading(2, title.to_owned()));
            pages.add(Block::Text(words.clone(), plain(12.0)));
        }
    }
    let by = referral.back_by.map_or_else(
        || "An answer helps us whenever it comes.".to_owned(),
        |by| format!("An answer by {} would help us most.", day_words(by)),
    );
    pages.add(Block::Text(
        format!("We fit bicycles and make no diagnosis; somebody who treats riders is the best to ask. {by}"),
        plain(11.0),
    ));
    pages.add(Block::Text(CAUTIONS[0].to_owned(), plain(10.0)));
    pages.written(&format!("About {}", of.rider), of.rider)
}
