//! What a case expects, against what the judge says; and that said in sentences.

use super::case::{Case, Wanted};
use super::decide::{Candidate, Judgement, Witness};
use crate::words::{capital, written};

/// What of a case's expectations is not met; empty when all are.
pub fn check(case: &Case, judged: &Judgement) -> Vec<String> {
    let Some(expect) = &case.expect else {
        return Vec::new();
    };
    let mut bad = Vec::new();
    let first = judged
        .faults
        .first()
        .map_or("none", |fault| fault.fault.as_str());
    if !expect.faults_first.is_empty() && !expect.faults_first.iter().any(|f| f == first) {
        bad.push(format!(
            "first fault {first}, wanted {}",
            expect.faults_first.join("/")
        ));
    }
    let next = &judged.next;
    if !expect.next.is_empty() && !expect.next.iter().any(|wanted| matches(next, wanted)) {
        bad.push(format!("next {}", told(next)));
    }
    let put_back =
        next.act == "put_back" && expect.next.iter().any(|wanted| wanted.act == "put_back");
    let not_next = if put_back {
        &[][..]
    } else {
        &expect.not_next[..]
    };
    for wanted in expect.never.iter().chain(not_next) {
        if matches(next, wanted) {
            bad.push(format!("next must not be {}", told(next)));
        }
    }
    for wanted in &expect.never {
        let offered = judged.others.iter().filter(|other| matches(other, wanted));
        bad.extend(offered.map(|other| format!("offers {}", told(other))));
    }
    let unsaid = expect
        .says
        .iter()
        .filter(|says| !judged.says.contains(&says.as_str()));
    bad.extend(unsaid.map(|says| format!("does not say {says}")));
    bad
}

/// Whether a candidate is what a case names.
fn matches(candidate: &Candidate, wanted: &Wanted) -> bool {
    let act = candidate.act.as_str();
    if wanted.act == "put_back" && act == "put_back" {
        return true;
    }
    let axis = candidate.axis.as_deref().unwrap_or_default();
    if wanted.act == "move" && wanted.axis.is_some() && wanted.dir.is_none() && act == "test" {
        // A protocol that sets that bolt is that bolt, either way.
        return wanted.axis.as_deref() == Some(axis);
    }
    if act != wanted.act && !(wanted.act == "move" && (act == "linked" || act == "put_back")) {
        return false;
    }
    let within = |candidate: &Candidate| {
        wanted.min.is_none_or(|min| candidate.amount >= min - 1e-6)
            && wanted.max.is_none_or(|max| candidate.amount <= max + 1e-6)
    };
    match wanted.act.as_str() {
        "test" => wanted
            .what
            .as_ref()
            .is_none_or(|what| what.has(&candidate.what)),
        "move" | "linked" => {
            let is_axis = |of: &str| axis == of || (of == "cleat" && axis.starts_with("cleat"));
            wanted.axis.as_deref().is_none_or(is_axis)
                && (wanted.act != "linked"
                    || wanted
                        .what
                        .as_ref()
                        .is_none_or(|what| what.has(&candidate.what)))
                && wanted
                    .dir
                    .as_deref()
                    .is_none_or(|dir| candidate.dir == Some(dir))
                && within(candidate)
        }
        _ => wanted.side.is_none_or(|side| candidate.side == Some(side)) && within(candidate),
    }
}

fn told(candidate: &Candidate) -> String {
    let amount = if candidate.amount > 0.0 {
        format!(
            " {}{}",
            candidate.dir.unwrap_or_default(),
            written(candidate.amount)
        )
    } else {
        String::new()
    };
    format!(
        "{} {}{amount} ({:.2})",
        candidate.act, candidate.what, candidate.score
    )
}

/// The judgement in sentences: the next move, what speaks for it and against it, what else may be done.
pub fn explain(judged: &Judgement) -> Vec<String> {
    /// Fewer points are not worth a word.
    const WORTH: f64 = 0.5;
    let mut lines = vec![capital(&told(&judged.next))];
    let axis = judged
        .next
        .axis
        .as_deref()
        .map(|axis| if axis == "cleat" { "cleat_l" } else { axis });
    if let Some(belief) = judged.axes.iter().find(|belief| Some(belief.axis) == axis) {
        let (plus, fine, minus) = belief.chances;
        lines.push(format!(
            "{}: {:.0} % too far in +, {:.0} % fine, {:.0} % too far in −; the right place is about {} from here.",
            belief.axis,
            100.0 * plus,
            100.0 * fine,
            100.0 * minus,
            written(belief.right - belief.now)
        ));
        let points = |w: &Witness| format!("{} ({:+.0})", w.name, w.points);
        let speaks: Vec<String> = belief
            .witnesses
            .iter()
            .take(3)
            .filter(|w| w.points > WORTH)
            .map(points)
            .collect();
        if !speaks.is_empty() {
            lines.push(format!("For it: {}.", speaks.join(", ")));
        }
        if let Some(against) = belief.witnesses.last().filter(|w| w.points < -WORTH) {
            lines.push(format!("Against it: {}.", points(against)));
        }
    }
    if !judged.others.is_empty() {
        let others: Vec<String> = judged.others.iter().take(3).map(told).collect();
        lines.push(format!("Or: {}.", others.join("; ")));
    }
    for blocked in &judged.blocked {
        lines.push(format!(
            "Not proposed: {}: {}.",
            told(blocked),
            blocked.blocked.join("; ")
        ));
    }
    lines
}
