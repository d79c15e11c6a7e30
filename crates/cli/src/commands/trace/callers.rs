//! `leitmotiv trace callers`

use std::fmt::Write as _;
use std::process::ExitCode;

use clap::Args;
use leitmotiv_trace::callers::{Caller, Wanted, callers};
use leitmotiv_trace::records::{Function, Site};
use leitmotiv_trace::seen::{Seen, union};

use super::show::{ago, calls, params};
use super::{Context, json, print, records, unknown};
use crate::failure::Failure;
use crate::look;
use crate::output::Format;

/// Show the call sites that passed a type, and where they have it from.
#[derive(Debug, Args)]
pub struct Callers {
    /// The function, by name or dotted name.
    #[arg(value_name = "FUNC")]
    pub function: String,
    /// Only calls that passed this type, as `None`, `str`, `list` or a class's name.
    #[arg(long = "type", value_name = "TYPE")]
    pub ty: Option<String>,
    /// Only what was passed as this parameter.
    #[arg(long, value_name = "NAME")]
    pub param: Option<String>,
    /// How to print.
    #[arg(long, value_name = "FORMAT", default_value = "text")]
    pub format: Format,
}

/// Runs the command.
pub fn run(context: &Context, command: &Callers) -> Result<ExitCode, Failure> {
    let project = context.project()?;
    let records = records(&project)?;
    let named: Vec<&Function> =
        records.functions.iter().filter(|function| function.is_named(&command.function)).collect();
    let current: Vec<&Function> = named.iter().copied().filter(|function| function.is_current).collect();
    let chosen = if current.is_empty() { named } else { current };
    let Some(first) = chosen.first() else { return Err(unknown(&records, &command.function)) };
    if let Some(other) = chosen.iter().find(|other| other.dotted() != first.dotted()) {
        return Err(Failure::unusable(format!(
            "`{}` is `{}` or `{}`; name one of them",
            command.function,
            first.dotted(),
            other.dotted()
        )));
    }
    let wanted = Wanted { ty: command.ty.clone(), param: command.param.clone() };
    if let Some(param) = &wanted.param
        && !params(first).any(|(_, name)| name.trim_start_matches('*') == param)
    {
        return Err(Failure::unusable(format!("`{}` has no parameter `{param}`", first.dotted())));
    }
    let all: Vec<Caller> = chosen.iter().flat_map(|function| callers(&records, function, &wanted)).collect();
    if all.is_empty() {
        let what = wanted.ty.as_deref().unwrap_or("anything");
        let seen: Vec<Seen> = params(first)
            .filter(|(_, name)| wanted.param.as_deref().is_none_or(|param| param == name.trim_start_matches('*')))
            .flat_map(|(place, _)| leitmotiv_trace::records::Records::passed(first, place))
            .collect();
        let seen = if seen.is_empty() { "nothing".to_owned() } else { union(&seen) };
        return Err(Failure::unusable(format!(
            "nobody passed `{what}` to `{}`; what was seen is {seen}",
            first.dotted()
        )));
    }
    if command.format == Format::Json {
        print(&json(
            &serde_json::json!({ "function": first.dotted(), "callers": all.iter().map(told).collect::<Vec<_>>() }),
        ))?;
        return Ok(ExitCode::SUCCESS);
    }
    print(&text(first, &wanted, &all))?;
    Ok(ExitCode::SUCCESS)
}

fn text(function: &Function, wanted: &Wanted, all: &[Caller]) -> String {
    let width = look::width();
    let what = match (&wanted.ty, &wanted.param) {
        (Some(ty), Some(param)) => format!("passed `{ty}` as `{param}`"),
        (Some(ty), None) => format!("passed `{ty}`"),
        (None, Some(param)) => format!("passed `{param}`"),
        (None, None) => "called".to_owned(),
    };
    let changed = if function.is_current { "" } else { "; its text has changed since" };
    let places = look::count(all.len(), "place", "places");
    let head = format!(
        "{} · {}:{} · {what} from {places}{changed}",
        look::heading(&function.dotted()),
        function.path,
        function.line
    );
    let mut out = format!("{}\n", look::fold(&head, width, "", "  "));
    for caller in all {
        let calls = calls(caller.count);
        let passed: Vec<String> = caller.passed.iter().map(|(name, seen)| format!("{name}: {seen}")).collect();
        let passed = if passed.is_empty() { String::new() } else { format!(" · {}", passed.join(", ")) };
        let _ = writeln!(
            out,
            "\n{}",
            look::fold_type(&format!("{calls}, last {}{passed}", ago(caller.last)), width, "", "  ")
        );
        for site in &caller.chain {
            let _ = writeln!(out, "{}", look::fold(&place(site), width, "  ", "      "));
            if !site.text.is_empty() {
                let _ = writeln!(out, "{}", look::fold(&site.text, width, "      ", "      "));
            }
        }
    }
    out
}

fn place(site: &Site) -> String {
    let owner = if site.owner.is_empty() { String::new() } else { format!(" in {}", site.owner) };
    let through = if site.through { ", by way of code that is not the project's" } else { "" };
    let changed = if site.is_current { "" } else { ", changed since" };
    format!("{}:{}{owner}{through}{changed}", site.path, site.line)
}

fn told(caller: &Caller) -> serde_json::Value {
    let site = |site: &Site| {
        serde_json::json!({
            "path": site.path, "line": site.line, "in": site.owner, "text": site.text, "through": site.through,
            "current": site.is_current,
        })
    };
    let passed = caller.passed.iter().map(|(name, seen)| serde_json::json!({ "name": name, "type": seen.to_string() }));
    serde_json::json!({
        "calls": caller.count,
        "last": caller.last,
        "passed": passed.collect::<Vec<_>>(),
        "chain": caller.chain.iter().map(|one| site(one)).collect::<Vec<_>>(),
    })
}
