//! The page: one HTML file that needs nothing but itself, and no script.
//!
//! - this file: its parts, in reading order
//! - [`map`]: packages by size and known share
//! - [`time`]: numbers over time
//! - [`layers`]: which modules import which
//! - `demands`: demands by packages

mod demands;
pub mod layers;
pub mod map;
pub mod time;

use maud::{DOCTYPE, Markup, PreEscaped, html};

use crate::overview::Overview;
use crate::words::{count, percent, thousands};

/// Colours, light and dark, on screen and on paper.
const STYLE: &str = include_str!("style.css");

/// The page.
#[must_use]
pub fn page(overview: &Overview, version: &str) -> String {
    let page = html! {
        (DOCTYPE)
        html lang="en" {
            head {
                meta charset="utf-8";
                meta name="viewport" content="width=device-width, initial-scale=1";
                meta name="color-scheme" content="light dark";
                title { "Types in " (overview.name) }
                style { (PreEscaped(STYLE)) }
            }
            body {
                main {
                    (head(overview))
                    (section("map", "Packages by size, and how much of them is known", &map_of(overview)))
                    @if !overview.costs.is_empty() {
                        (section("demands", "What each package is held to", &demands::table(overview)))
                    }
                    @if overview.ledger.len() > 1 || overview.history.len() > 1 {
                        (section("time", "Over time", &over_time(overview)))
                    }
                    (section("next", "What to do next", &next(overview)))
                    @if !overview.causes.is_empty() {
                        (section("causes", "What explains most", &causes(overview)))
                    }
                    @if !overview.layers.is_empty() {
                        (section("layers", "Which modules import which", &layers_of(overview)))
                    }
                    footer { "Made by Leitmotiv " (version) " from one check of " (thousands(overview.lines)) " lines." }
                }
            }
        }
    };
    page.into_string()
}

/// One of the page's charts as a file of its own, with the page's colours.
#[must_use]
pub fn chart(overview: &Overview, which: Which) -> Option<String> {
    let svg = match which {
        Which::Map => map::svg(&overview.packages),
        Which::Layers => layers::svg(&overview.layers),
        Which::Time => time::together(overview)?,
    };
    let (head, rest) = svg.split_once('>')?;
    let background = "<rect width=\"100%\" height=\"100%\" style=\"fill:var(--paper)\"/>";
    Some(format!("{head}><style>{STYLE}</style>{background}{rest}\n"))
}

/// Which chart.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Which {
    /// Packages by size and known share.
    Map,
    /// Numbers over time.
    Time,
    /// Which modules import which.
    Layers,
}

/// Words in which code stands between backquotes.
fn coded(words: &str) -> Markup {
    html! {
        @for (place, part) in words.split('`').enumerate() {
            @if place % 2 == 1 { code { (part) } } @else { (part) }
        }
    }
}

fn section(id: &str, title: &str, content: &Markup) -> Markup {
    html! {
        section id=(id) {
            h2 { (title) }
            (content)
        }
    }
}

fn head(overview: &Overview) -> Markup {
    let findings = overview.errors + overview.warnings;
    let number = |value: &str, words: &str| {
        html! {
            div.number {
                strong { (value) }
                span { (words) }
            }
        }
    };
    html! {
        header {
            h1 { "Types in " (overview.name) }
            p { (thousands(overview.lines)) " lines in " (count(overview.modules, "module", "modules")) }
        }
        div.numbers {
            (number(&percent(overview.known, overview.expressions), "of what is computed has a known type"))
            (number(&percent(overview.annotated, overview.slots), "of parameters and results are annotated"))
            (number(&thousands(findings), "errors and warnings"))
            (number(&thousands(overview.promises), "promises held: a file and a demand each"))
            (number(&thousands(overview.owed), "findings owed"))
        }
    }
}

fn map_of(overview: &Overview) -> Markup {
    html! {
        div.wide { (PreEscaped(map::svg(&overview.packages))) }
        p.key {
            "Each field is a package, as large as its lines. Its colour says how much of what it computes has a known type: "
            @for step in 0..map::STEPS {
                span class=(format!("swatch k{step}")) {}
            }
            " from below " (map::percent_of(0)) "% to " (map::percent_of(map::STEPS - 1)) "% and more."
        }
        details {
            summary { "The same as a table" }
            table {
                thead { tr { th { "package" } th.n { "lines" } th.n { "known" } th.n { "annotated" } th.n { "findings" } } }
                tbody {
                    @for package in &overview.packages {
                        tr {
                            td { (package.name) }
                            td.n { (thousands(package.lines)) }
                            td.n { (percent(package.known, package.expressions)) }
                            td.n { (percent(package.annotated, package.slots)) }
                            td.n { (thousands(package.findings)) }
                        }
                    }
                }
            }
        }
    }
}

fn over_time(overview: &Overview) -> Markup {
    html! {
        div.charts {
            @for chart in time::charts(overview) {
                figure {
                    figcaption { (chart.title) }
                    (PreEscaped(chart.svg()))
                }
            }
        }
    }
}

fn next(overview: &Overview) -> Markup {
    html! {
        @if !overview.nearest.is_empty() {
            h3 { "Demands that are nearest" }
            ol {
                @for (words, commands) in &overview.nearest {
                    li {
                        (coded(words))
                        @for command in commands {
                            code.command { (command) }
                        }
                    }
                }
            }
        }
        @if !overview.begin.is_empty() {
            h3 { "Modules to annotate first" }
            table {
                thead {
                    tr { th { "module" } th.n { "annotations" } th.n { "becomes known" } th.n { "findings settled" } th.n { "new" } }
                }
                tbody {
                    @for step in &overview.begin {
                        tr {
                            td { code { "leitmotiv annotate " (step.path) } }
                            td.n { (thousands(step.annotations)) }
                            td.n { (thousands(step.gain)) }
                            td.n { (thousands(step.went)) }
                            td.n { (thousands(step.came)) }
                        }
                    }
                }
            }
            p.key { "Tried in memory, each step on top of those before: annotations that there is evidence for and no other code contradicts." }
        }
        @if overview.nearest.is_empty() && overview.begin.is_empty() {
            p { "All that is asked is held, and there is no evidence for more annotations." }
        }
    }
}

fn causes(overview: &Overview) -> Markup {
    html! {
        table {
            thead { tr { th { "place" } th { "what happens there" } th.n { "findings" } th.n { "unknown values" } th { "what would settle it" } } }
            tbody {
                @for cause in &overview.causes {
                    tr {
                        td.place { code { (cause.place) } }
                        td { (coded(&cause.text)) }
                        td.n { (thousands(cause.findings)) }
                        td.n { (thousands(cause.unknown)) }
                        td { (coded(&cause.change)) }
                    }
                }
            }
        }
    }
}

fn layers_of(overview: &Overview) -> Markup {
    let circles: Vec<&Vec<String>> = overview.layers.iter().flatten().filter(|circle| circle.len() > 1).collect();
    html! {
        div.wide { (PreEscaped(layers::svg(&overview.layers))) }
        p.key {
            "Each module imports, as it begins, modules of lower layers only; what lies in one frame imports each other in a circle. "
            @match circles.len() {
                0 => "There is no circle.",
                1 => "There is one circle.",
                circles => (format!("There are {circles} circles.")),
            }
        }
        @for circle in circles.iter().filter(|circle| circle.len() > layers::MOST_NAMED) {
            details {
                summary { "A circle of " (thousands(circle.len())) " modules" }
                p { (circle.join(", ")) }
            }
        }
    }
}
