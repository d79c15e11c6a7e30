//! `leitmotiv trace show`

use std::collections::BTreeMap;
use std::fmt::Write as _;
use std::process::ExitCode;
use std::sync::Arc;

use clap::Args;
use leitmotiv_trace::records::{Call, Function, Outcome, Records, Site};
use leitmotiv_trace::seen::{Bases, Seen, together, union};
use serde::Serialize;

use super::{Context, Subject, json, print, records, unknown};
use crate::age;
use crate::failure::Failure;
use crate::look;
use crate::output::Format;

/// From so many functions on, files are listed in place of functions where nothing is asked for.
const MANY: usize = 60;

/// Show what was seen per function.
#[derive(Debug, Args)]
pub struct Show {
    /// Functions, by name or dotted name, or files and folders; by default everything.
    #[arg(value_name = "FUNC|PATH")]
    pub subjects: Vec<String>,
    /// How to print.
    #[arg(long, value_name = "FORMAT", default_value = "text")]
    pub format: Format,
}

/// Runs the command.
pub fn run(context: &Context, command: &Show) -> Result<ExitCode, Failure> {
    let project = context.project()?;
    let records = records(&project)?;
    let mut chosen: Vec<&Function> = Vec::new();
    let mut is_detailed = !command.subjects.is_empty();
    for word in &command.subjects {
        let subject = Subject::of(context, &project, word);
        let found: Vec<&Function> = records.functions.iter().filter(|function| subject.is_it(function)).collect();
        if found.is_empty() {
            return Err(unknown(&records, word));
        }
        is_detailed &= matches!(subject, Subject::Named(_));
        chosen.extend(found);
    }
    if command.subjects.is_empty() {
        chosen.extend(&records.functions);
    }
    if command.format == Format::Json {
        let functions: Vec<Told> = chosen.iter().map(|function| told(function, &records.bases)).collect();
        print(&json(&serde_json::json!({ "functions": functions })))?;
        return Ok(ExitCode::SUCCESS);
    }
    let width = look::width();
    let mut out = String::new();
    if is_detailed {
        // A function of another text says nothing about what there is now, as long as that was seen.
        let current: Vec<&Function> = chosen.iter().copied().filter(|function| function.is_current).collect();
        let old = chosen.len() - current.len();
        let shown = if current.is_empty() { &chosen } else { &current };
        let all: Vec<String> = shown.iter().map(|function| detail(function, &records.bases, width)).collect();
        out.push_str(&all.join("\n"));
        if old > 0 && !current.is_empty() {
            let texts = look::count(old, "older text", "older texts");
            let _ = writeln!(out, "\n{}", look::faint(&format!("Recorded with {texts} of it as well, left out here.")));
        }
        if let Some(last) = next(shown).filter(|_| !context.quiet) {
            let _ = writeln!(out, "\n{}", look::fold(&last, width, "", "  "));
        }
    } else {
        out.push_str(&look::fold(&runs(&records, &chosen), width, "", "  "));
        out.push_str("\n\n");
        if command.subjects.is_empty() && chosen.len() > MANY {
            out.push_str(&files(&chosen, width));
        } else {
            out.push_str(&list(&chosen, &records.bases, width));
        }
        if !context.quiet {
            let _ = writeln!(out, "\n{}", look::fold("Next: leitmotiv annotate --from traces", width, "", "  "));
        }
    }
    print(&out)?;
    Ok(ExitCode::SUCCESS)
}

/// How much was seen, and when.
fn runs(records: &Records, chosen: &[&Function]) -> String {
    let all: u64 = chosen.iter().map(|function| function.count()).sum();
    let old = chosen.iter().filter(|function| !function.is_current).count();
    let mut out = format!("{} of {}", calls(all), look::count(chosen.len(), "function", "functions"));
    if let Some(last) = records.runs.last() {
        let runs = look::count(records.runs.len(), "run", "runs");
        let _ = write!(out, " in {runs}, the last {}: `{}` (Python {})", ago(last.began), last.command, last.python);
    }
    if old > 0 {
        let _ = write!(out, "; {} changed since", look::count(old, "function has", "functions have"));
    }
    out.push('.');
    out
}

/// So many calls, in words.
pub(super) fn calls(count: u64) -> String {
    look::count(usize::try_from(count).unwrap_or(usize::MAX), "call", "calls")
}

/// How long ago a time in seconds since 1970 was.
pub(super) fn ago(seconds: i64) -> String {
    match age::today() - seconds / (24 * 60 * 60) {
        ..=0 => "today".to_owned(),
        days => format!("{} ago", age::words(days)),
    }
}

/// Files with what was seen in them.
fn files(chosen: &[&Function], width: usize) -> String {
    let mut each: BTreeMap<&str, (usize, u64, usize)> = BTreeMap::new();
    for function in chosen {
        let entry = each.entry(&function.path).or_default();
        entry.0 += 1;
        entry.1 += function.count();
        entry.2 += usize::from(!function.is_current);
    }
    let number = |number: u64| look::thousands(usize::try_from(number).unwrap_or(usize::MAX));
    let rows: Vec<Vec<String>> = each
        .iter()
        .map(|(path, (functions, calls, old))| {
            let old = if *old == 0 { String::new() } else { look::thousands(*old) };
            vec![(*path).to_owned(), look::thousands(*functions), number(*calls), old]
        })
        .collect();
    look::table(&["file", "functions", "calls", "changed since"], &[false, true, true, true], &rows, width)
}

/// Functions, one to a line, as they were called.
fn list(chosen: &[&Function], bases: &Bases, width: usize) -> String {
    let mut out = String::new();
    let mut path = "";
    for function in chosen {
        if function.path != path {
            if !path.is_empty() {
                out.push('\n');
            }
            path = &function.path;
            let _ = writeln!(out, "{}", look::heading(path));
        }
        let changed = if function.is_current { "" } else { ", changed since" };
        let text = format!("{} · {}{changed}", signature(function, bases), calls(function.count()));
        let _ = writeln!(out, "{}", look::fold_type(&text, width, "  ", "      "));
    }
    out
}

/// A function as it was called, its own object left out.
fn signature(function: &Function, bases: &Bases) -> String {
    let params = params(function).map(|(place, name)| {
        let seen: Vec<Seen> = seen_of(function, place).iter().flat_map(|seen| seen.unpacked(name)).collect();
        if seen.is_empty() { name.to_owned() } else { format!("{name}: {}", union(&together(&seen, bases))) }
    });
    let params: Vec<String> = params.collect();
    let came = |outcome| together(&came_of(function, outcome), bases);
    let (yielded, returned) = (came(Outcome::Yielded), came(Outcome::Returned));
    let result = match (yielded.is_empty(), returned.is_empty()) {
        (false, _) => format!(" -> yields {}", union(&yielded)),
        (true, false) => format!(" -> {}", union(&returned)),
        (true, true) => String::new(),
    };
    format!("{}({}){result}", function.name, params.join(", "))
}

/// The parameters with their places, a method's own object left out.
pub(super) fn params(function: &Function) -> impl Iterator<Item = (usize, &str)> {
    let is_method = function.name.contains('.');
    let all = function.params.iter().map(String::as_str).enumerate();
    all.filter(move |(place, name)| !(*place == 0 && is_method && matches!(*name, "self" | "cls")))
}

fn relevant(function: &Function) -> impl Iterator<Item = &Call> {
    // Of an old text everything is old.
    function.calls.iter().filter(|call| !function.is_current || call.is_current())
}

fn seen_of(function: &Function, place: usize) -> Vec<Seen> {
    relevant(function).filter_map(|call| call.args.get(place)?.clone()).collect()
}

fn came_of(function: &Function, outcome: Outcome) -> Vec<Seen> {
    relevant(function).filter(|call| call.outcome == outcome).filter_map(|call| call.ty.clone()).collect()
}

/// How often a type was seen, from how many places, and the first of those with the fewest calls.
#[derive(Default)]
struct Tally {
    count: u64,
    sites: Vec<Arc<Site>>,
    rarest: Option<(u64, Arc<Site>)>,
}

impl Tally {
    fn put(&mut self, call: &Call) {
        self.count += call.count;
        let Some(site) = &call.site else { return };
        if !self.sites.contains(site) {
            self.sites.push(site.clone());
        }
        if self.rarest.as_ref().is_none_or(|(count, _)| call.count < *count) {
            self.rarest = Some((call.count, site.clone()));
        }
    }
}

/// Each type of something, most often seen first.
fn tallies<'a>(calls: impl Iterator<Item = (&'a Call, Seen)>) -> Vec<(Seen, Tally)> {
    let mut all: BTreeMap<Seen, Tally> = BTreeMap::new();
    for (call, seen) in calls {
        all.entry(seen.plain()).or_default().put(call);
    }
    let mut all: Vec<(Seen, Tally)> = all.into_iter().collect();
    all.sort_by_key(|(seen, tally)| (std::cmp::Reverse(tally.count), *seen == Seen::None));
    all
}

/// What is to be told of a function: rows of a slot's name with its types.
fn slots(function: &Function) -> Vec<(String, Vec<(Seen, Tally)>)> {
    let ended = |call: &&Call| matches!(call.outcome, Outcome::Returned | Outcome::Raised);
    let mut slots: Vec<(String, Vec<(Seen, Tally)>)> = Vec::new();
    let has_ended = relevant(function).any(|call| ended(&call));
    for (place, name) in params(function) {
        // A call that yields is there once for each type that it yields; its end counts.
        let calls = relevant(function).filter(|call| !has_ended || ended(call));
        let calls = calls.filter_map(|call| Some((call, call.args.get(place)?.clone()?)));
        let calls = calls.flat_map(|(call, seen)| seen.unpacked(name).into_iter().map(move |seen| (call, seen)));
        slots.push((name.to_owned(), tallies(calls)));
    }
    for (outcome, word) in [
        (Outcome::Yielded, "yields"),
        (Outcome::Sent, "is sent"),
        (Outcome::Returned, "returns"),
        (Outcome::Raised, "raises"),
    ] {
        let calls = relevant(function).filter(|call| call.outcome == outcome);
        let raised = || Seen::Class("builtins".to_owned(), "an exception".to_owned());
        let calls = calls.map(|call| (call, call.ty.clone().unwrap_or_else(raised)));
        slots.push((word.to_owned(), tallies(calls)));
    }
    slots.retain(|(_, types)| !types.is_empty());
    slots
}

fn detail(function: &Function, bases: &Bases, width: usize) -> String {
    let count = calls(function.count());
    let last = function.calls.iter().map(|call| call.last).max().map(|last| format!(", last {}", ago(last)));
    let changed = if function.is_current { "" } else { "; its text has changed since, so that this may be so no more" };
    let head = format!(
        "{} · {}:{} · {count}{}{changed}",
        look::heading(&function.dotted()),
        function.path,
        function.line,
        last.unwrap_or_default()
    );
    let mut out = format!("{}\n", look::fold(&head, width, "", "  "));
    let slots = slots(function);
    let wide = slots.iter().map(|(name, _)| name.chars().count()).max().unwrap_or(0);
    for (name, types) in &slots {
        for (number, (seen, tally)) in types.iter().enumerate() {
            let name = if number == 0 { name.as_str() } else { "" };
            let calls = calls(tally.count);
            // The odd one is what somebody looks for.
            let from = match &tally.rarest {
                Some((_, site)) if types.len() > 1 && tally.sites.len() == 1 => {
                    format!(", from {}:{}", site.path, site.line)
                }
                _ if tally.sites.len() > 1 => format!(", from {} places", tally.sites.len()),
                _ => String::new(),
            };
            let text = format!("{name:wide$}  {seen} · {calls}{from}");
            let rest = " ".repeat(wide + 6);
            let _ = writeln!(out, "{}", look::fold_type(&text, width, "  ", &rest));
        }
    }
    out.push_str(&pairs(function, width));
    for (name, seen) in attributes(function, bases) {
        let _ = writeln!(out, "{}", look::fold_type(&format!("self.{name}  {}", union(&seen)), width, "  ", "      "));
    }
    out
}

/// Where what a function gives goes with what one parameter is given: the pairs, and what could be written for them.
fn pairs(function: &Function, width: usize) -> String {
    let mut out = String::new();
    let Some(follows) = leitmotiv_trace::follows::follows(function) else { return out };
    let words = if follows.is_same {
        format!("What it gives is always of the type that `{}` has: a type variable says so.", follows.param)
    } else {
        format!(
            "What it gives goes with `{}`; overloads could say so (leitmotiv annotate --suggest overloads):",
            follows.param
        )
    };
    let _ = writeln!(out, "{}", look::fold(&words, width, "  ", "    "));
    if !follows.is_same {
        for (passed, came) in &follows.pairs {
            let passed = leitmotiv_trace::follows::literal(passed).unwrap_or_else(|| passed.to_string());
            let _ = writeln!(out, "{}", look::fold_type(&format!("{passed} -> {came}"), width, "    ", "        "));
        }
    }
    out
}

/// What objects held at the end of an `__init__`, by name.
fn attributes(function: &Function, bases: &Bases) -> Vec<(String, Vec<Seen>)> {
    let mut all: BTreeMap<&str, Vec<Seen>> = BTreeMap::new();
    for attribute in &function.attributes {
        all.entry(&attribute.name).or_default().push(attribute.ty.clone());
    }
    all.into_iter().map(|(name, seen)| (name.to_owned(), together(&seen, bases))).collect()
}

/// What to ask next: who passed the rarest type of a parameter that had several.
fn next(shown: &[&Function]) -> Option<String> {
    let [function] = shown else { return None };
    let head = |seen: &Seen| seen.to_string().split('[').next().map(str::to_owned);
    let (name, types) = slots(function).into_iter().find(|(name, types)| {
        let is_mixed = types.iter().any(|(seen, _)| head(seen) != head(&types[0].0));
        is_mixed && params(function).any(|(_, param)| param == name)
    })?;
    let rarest = types.iter().min_by_key(|(_, tally)| (tally.count, tally.sites.len()))?;
    let ty = head(&rarest.0)?;
    let param = name.trim_start_matches('*');
    Some(format!(
        "Next: leitmotiv trace callers {} --type {} --param {param}",
        function.dotted(),
        super::super::argument(&ty)
    ))
}

/// A function as JSON (docs/json.md).
#[derive(Serialize)]
struct Told {
    name: String,
    path: String,
    line: u32,
    current: bool,
    calls: u64,
    last: Option<i64>,
    slots: Vec<Slot>,
    attributes: BTreeMap<String, Vec<String>>,
}

#[derive(Serialize)]
struct Slot {
    name: String,
    types: Vec<SlotType>,
}

#[derive(Serialize)]
struct SlotType {
    #[serde(rename = "type")]
    ty: String,
    calls: u64,
    from: Vec<Place>,
}

#[derive(Serialize)]
struct Place {
    path: String,
    line: u32,
}

fn told(function: &Function, bases: &Bases) -> Told {
    let slot = |(name, types): (String, Vec<(Seen, Tally)>)| Slot {
        name,
        types: types
            .into_iter()
            .map(|(seen, tally)| SlotType {
                ty: seen.to_string(),
                calls: tally.count,
                from: tally.sites.iter().map(|site| Place { path: site.path.clone(), line: site.line }).collect(),
            })
            .collect(),
    };
    let attributes = attributes(function, bases).into_iter();
    Told {
        name: function.dotted(),
        path: function.path.clone(),
        line: function.line,
        current: function.is_current,
        calls: function.count(),
        last: function.calls.iter().map(|call| call.last).max(),
        slots: slots(function).into_iter().map(slot).collect(),
        attributes: attributes.map(|(name, seen)| (name, seen.iter().map(ToString::to_string).collect())).collect(),
    }
}
