//! The stock as tables for people.

use std::fmt::Write as _;

use leitmotiv_migrate::survey::packages::Untyped;
use leitmotiv_migrate::survey::parts::Part;
use leitmotiv_migrate::survey::{Module, Survey};

use crate::look;

/// So many parts are listed.
const MOST_PARTS: usize = 25;

/// The steps, each with what comes of it on top of those before; how much they do together.
pub(super) fn steps(survey: &Survey) -> String {
    let width = look::width();
    let of = |path: &str| survey.modules.iter().find(|module| module.path == path);
    let rows: Vec<Vec<String>> = survey
        .steps
        .iter()
        .map(|step| {
            let module = of(&step.path);
            vec![
                step.path.clone(),
                look::thousands(step.annotations),
                look::thousands(step.gain),
                look::thousands(step.went),
                look::thousands(step.came),
                module.map_or_else(String::new, |module| look::thousands(module.fan_in)),
                module.and_then(|module| module.changes).map_or_else(|| "–".to_owned(), look::thousands),
            ]
        })
        .collect();
    let heads = ["module", "to write", "known", "settled", "new", "imported by", "changed"];
    let mut out = look::table(&heads, &[false, true, true, true, true, true, true], &rows, width);
    let sum = |part: fn(&leitmotiv_migrate::survey::plan::Step) -> usize| survey.steps.iter().map(part).sum::<usize>();
    let open = survey.expressions - survey.known_expressions;
    let left = open.saturating_sub(sum(|step| step.gain));
    let words = format!(
        "to write: annotations that there is evidence for, and that no other code contradicts. known: what is unknown now, in the whole project, and is known with them, each step on \
         top of those before: of {} unknown values {} are left after all of them. settled, new: findings that go and come. changed: commits of \
         the last year.",
        look::thousands(open),
        look::thousands(left),
    );
    let _ = writeln!(out, "{}", look::faint(&look::fold(&words, width, "", "")));
    out
}

/// The modules, in the order in which they are worth beginning with.
pub(super) fn modules(survey: &Survey, most: usize) -> String {
    let rows: Vec<Vec<String>> = survey.modules.iter().take(most).map(module_row).collect();
    let heads = ["module", "lines", "annotated", "known", "findings", "imported by", "unknown by it"];
    let right = [false, true, true, true, true, true, true];
    let mut out = look::table(&heads, &right, &rows, look::width());
    if survey.modules.len() > most {
        let _ = writeln!(out, "and {} more modules", survey.modules.len() - most);
    }
    let note = "unknown by it: expressions in the whole project that are unknown because of this module's unannotated parameters.";
    let _ = writeln!(out, "{}", look::faint(&look::fold(note, look::width(), "", "")));
    out
}

/// The module by which most is unknown and that has places to annotate.
pub(super) fn by_hand(survey: &Survey) -> Option<&Module> {
    let open = survey.modules.iter().filter(|module| module.slots > module.annotated && module.unknown_by > 0);
    open.max_by_key(|module| module.unknown_by)
}

fn module_row(module: &Module) -> Vec<String> {
    vec![
        module.path.clone(),
        look::thousands(module.lines),
        look::percent(module.annotated, module.slots),
        look::percent(module.known_expressions, module.expressions),
        look::thousands(module.findings),
        look::thousands(module.fan_in),
        look::thousands(module.unknown_by),
    ]
}

pub(super) fn untyped_row(package: &Untyped) -> Vec<String> {
    let todo = match package.state {
        "untyped" => format!("leitmotiv stub write {}", package.module),
        "optional" => "nothing: all who import it go on without it".to_owned(),
        "elsewhere" => "nothing: it is imported for another platform or version".to_owned(),
        _ => "install it, or set `interpreter`".to_owned(),
    };
    vec![
        package.module.clone(),
        package.state.to_owned(),
        look::thousands(package.importers),
        look::thousands(package.gain),
        todo,
    ]
}

/// Packages, classes or functions.
pub(super) fn parts(parts: &[Part], what: &str, is_quiet: bool) -> String {
    let rows: Vec<Vec<String>> = parts
        .iter()
        .take(MOST_PARTS)
        .map(|part| {
            let mut row = vec![
                part.name.clone(),
                look::percent(part.annotated, part.slots),
                look::percent(part.known_expressions, part.expressions),
                look::thousands(part.expressions - part.known_expressions),
                look::thousands(part.findings),
            ];
            if what != "package" {
                row.push(part.place.clone());
            }
            row
        })
        .collect();
    let mut heads = vec![what, "annotated", "known", "unknown", "findings"];
    let mut right = vec![false, true, true, true, true];
    if what != "package" {
        heads.push("place");
        right.push(false);
    }
    let mut out = look::table(&heads, &right, &rows, look::width());
    if parts.len() > MOST_PARTS {
        let _ = writeln!(out, "and {} more", look::thousands(parts.len() - MOST_PARTS));
    }
    if !is_quiet {
        let next = match (parts.first(), what) {
            (Some(part), "package") => {
                format!("leitmotiv survey {} --by function", super::super::argument(&part.place))
            }
            (Some(part), _) => format!("leitmotiv explain {}", super::super::argument(&part.place)),
            (None, _) => "leitmotiv survey".to_owned(),
        };
        let _ = writeln!(out, "\nMost unknown values first. Next: {next}");
    }
    out
}

/// So many modules of a layer are named.
const MOST_OF_LAYER: usize = 12;

/// Layers of modules, highest first, and their circles.
pub(super) fn layers(layers: &[Vec<Vec<String>>], is_quiet: bool) -> String {
    let width = look::width();
    let mut out = String::new();
    for (depth, layer) in layers.iter().enumerate().rev() {
        let mut names: Vec<String> = Vec::new();
        let mut rest = 0;
        for circle in layer {
            if names.len() >= MOST_OF_LAYER {
                rest += circle.len();
                continue;
            }
            names.push(match circle.as_slice() {
                [only] => only.clone(),
                circle if circle.len() > MOST_OF_LAYER => {
                    format!("{{a circle of {}, below}}", look::thousands(circle.len()))
                }
                circle => format!("{{{}}}", circle.join("  ")),
            });
        }
        let more = if rest > 0 { format!("  and {} more", look::thousands(rest)) } else { String::new() };
        let head = format!("{depth:>2}  ");
        let _ = writeln!(out, "{}", look::fold(&format!("{}{more}", names.join("  ")), width, &head, "    "));
    }
    let circles: Vec<&Vec<String>> = layers.iter().flatten().filter(|circle| circle.len() > 1).collect();
    for circle in circles.iter().filter(|circle| circle.len() > MOST_OF_LAYER) {
        let head = format!("A circle of {}", look::thousands(circle.len()));
        let _ = writeln!(out, "\n{}", look::heading(&head));
        let _ = writeln!(out, "{}", look::fold(&circle.join("  "), width, "    ", "    "));
    }
    if !is_quiet {
        let words = format!(
            "Each module imports, as it begins, modules of lower layers only; those in braces import each other. {}.",
            match circles.len() {
                0 => "There is no circle".to_owned(),
                1 => "There is one circle".to_owned(),
                circles => format!("There are {circles} circles"),
            }
        );
        let _ = writeln!(out, "\n{}", look::fold(&words, width, "", ""));
    }
    out
}
