//! What recorded runs saw at a finding: of the function that it stands in, what was passed to the parameters that its line speaks of; of the
//! functions that its types come from, what they gave.

use std::fmt::Write as _;

use leitmotiv_report::document::Entry;
use leitmotiv_trace::records::{Call, Function, Outcome, Records};
use leitmotiv_trace::seen::Seen;

use crate::look;

/// So many slots are told.
const MOST: usize = 4;

/// What was seen, as a part of a finding's story; empty where nothing was.
pub(super) fn seen(entry: &Entry, records: &Records, width: usize) -> String {
    let mut lines: Vec<String> = Vec::new();
    let own = innermost(records, &entry.place.path, entry.place.start.line);
    if let Some(function) = own {
        for (place, name) in function.params.iter().enumerate() {
            let bare = name.trim_start_matches('*');
            let is_own = place == 0 && function.name.contains('.') && matches!(bare, "self" | "cls");
            if !is_own && has_word(&entry.code.0, bare) {
                let calls = function.current_calls().filter(|call| call.outcome != Outcome::Sent);
                let calls = calls.filter_map(|call| Some((call, call.args.get(place)?.clone()?.plain())));
                lines.extend(told(&format!("`{bare}` was"), &tally(calls)));
            }
        }
    }
    for step in &entry.steps {
        let Some(function) = innermost(records, &step.place.path, step.place.start.line) else { continue };
        if own.is_some_and(|own| (&own.path, own.line) == (&function.path, function.line)) {
            continue;
        }
        let calls = function.current_calls().filter(|call| call.outcome == Outcome::Returned);
        let calls = calls.filter_map(|call| Some((call, call.ty.clone()?.plain())));
        lines.extend(told(&format!("`{}` gave", function.name), &tally(calls)).filter(|line| !lines.contains(line)));
    }
    lines.truncate(MOST);
    let mut out = String::new();
    if !lines.is_empty() {
        let _ = writeln!(out, "\n{}", look::heading("Seen in recorded runs"));
        for line in lines {
            let _ = writeln!(out, "{}", look::fold(&line, width, "  ", "    "));
        }
    }
    out
}

/// The innermost recorded function around a line, as it is now.
fn innermost<'a>(records: &'a Records, path: &str, line: u32) -> Option<&'a Function> {
    let here = records.functions.iter().filter(|function| function.path == path && function.is_current);
    here.filter(|function| (function.line..=function.last).contains(&line)).max_by_key(|function| function.line)
}

/// How often each type was seen, most often first, and the place of those that came from one place only.
fn tally<'a>(calls: impl Iterator<Item = (&'a Call, Seen)>) -> Vec<(Seen, u64, Option<String>)> {
    let mut all: Vec<(Seen, u64, Vec<String>)> = Vec::new();
    for (call, seen) in calls {
        let site = call.site.as_ref().map(|site| format!("{}:{}", site.path, site.line));
        match all.iter_mut().find(|known| known.0 == seen) {
            Some(known) => {
                known.1 += call.count;
                known.2.extend(site.filter(|site| !known.2.contains(site)));
            }
            None => all.push((seen, call.count, site.into_iter().collect())),
        }
    }
    all.sort_by_key(|(_, count, _)| std::cmp::Reverse(*count));
    all.into_iter()
        .map(|(seen, count, mut sites)| (seen, count, if sites.len() == 1 { sites.pop() } else { None }))
        .collect()
}

fn told(what: &str, all: &[(Seen, u64, Option<String>)]) -> Option<String> {
    let one = |(seen, count, site): &(Seen, u64, Option<String>)| {
        let calls = look::count(usize::try_from(*count).unwrap_or(usize::MAX), "call", "calls");
        let from = site.as_ref().filter(|_| all.len() > 1).map(|site| format!(" from {site}")).unwrap_or_default();
        format!("{seen} in {calls}{from}")
    };
    let parts: Vec<String> = all.iter().map(one).collect();
    (!parts.is_empty()).then(|| format!("{what} {}", parts.join(", ")))
}

fn has_word(text: &str, name: &str) -> bool {
    text.split(|char: char| char != '_' && !char.is_alphanumeric()).any(|word| word == name)
}
