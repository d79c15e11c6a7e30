//! Numbers over time, as lines.

use std::fmt::Write as _;

use super::map::escaped;
use crate::overview::Overview;
use crate::words::{date, thousands};

/// The size of a chart, in its own units, and the room around the lines.
const WIDTH: f64 = 560.0;
const HEIGHT: f64 = 240.0;
const LEFT: f64 = 56.0;
const RIGHT: f64 = 110.0;
const TOP: f64 = 12.0;
const BOTTOM: f64 = 28.0;

/// Some lines over the same days.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Chart {
    /// What it shows.
    pub title: String,
    /// The lines: what each is of, and its points as day (from 1970) and number, oldest first.
    pub lines: Vec<(&'static str, Vec<(i64, usize)>)>,
    /// Whether the numbers are shares in percent.
    pub is_share: bool,
}

/// The charts of an overview: what the ledger held, and what earlier revisions give.
#[must_use]
pub fn charts(overview: &Overview) -> Vec<Chart> {
    let mut charts = Vec::new();
    if overview.ledger.len() > 1 {
        let of = |part: fn(&leitmotiv_migrate::history::LedgerAt) -> usize| {
            overview.ledger.iter().map(|at| (at.day, part(at))).collect()
        };
        let chart =
            |title: &str, name, points| Chart { title: title.to_owned(), lines: vec![(name, points)], is_share: false };
        charts.push(chart("Promises in the ledger", "promises", of(|at| at.promises)));
        charts.push(chart("Debts in the ledger", "debts", of(|at| at.debts)));
    }
    if overview.history.len() > 1 {
        let of = |part: fn(&leitmotiv_migrate::history::CheckedAt) -> usize| {
            overview.history.iter().map(|at| (at.day, part(at))).collect()
        };
        let share = |part: usize, whole: usize| (part * 100).checked_div(whole).unwrap_or(0);
        let known = overview.history.iter().map(|at| (at.day, share(at.known, at.expressions))).collect();
        let annotated = overview.history.iter().map(|at| (at.day, share(at.annotated, at.slots))).collect();
        charts.push(Chart {
            title: "Known and annotated, in percent".to_owned(),
            lines: vec![("known", known), ("annotated", annotated)],
            is_share: true,
        });
        charts.push(Chart {
            title: "Errors and warnings".to_owned(),
            lines: vec![("findings", of(|at| at.findings))],
            is_share: false,
        });
    }
    charts
}

/// All charts of an overview in one drawing, one below the other; `None` where nothing is known over time.
#[must_use]
pub fn together(overview: &Overview) -> Option<String> {
    let charts = charts(overview);
    if charts.is_empty() {
        return None;
    }
    let step = HEIGHT + 34.0;
    let mut inner = String::new();
    for (number, chart) in charts.iter().enumerate() {
        let top = number as f64 * step;
        let _ = write!(inner, "<text x=\"{LEFT}\" y=\"{:.0}\">{}</text>", top + 18.0, escaped(&chart.title));
        let _ = write!(inner, "<g transform=\"translate(0 {:.0})\">{}</g>", top + 28.0, chart.inner());
    }
    let height = charts.len() as f64 * step;
    Some(format!(
        "<svg viewBox=\"0 0 {WIDTH} {height:.0}\" role=\"img\" aria-label=\"Over time\" xmlns=\"http://www.w3.org/2000/svg\">{inner}</svg>"
    ))
}

impl Chart {
    /// The chart as SVG.
    #[must_use]
    pub fn svg(&self) -> String {
        format!(
            "<svg class=\"chart\" viewBox=\"0 0 {WIDTH} {HEIGHT}\" role=\"img\" aria-label=\"{}\" xmlns=\"http://www.w3.org/2000/svg\">{}</svg>",
            escaped(&self.title),
            self.inner()
        )
    }

    fn inner(&self) -> String {
        let days = self.lines.iter().flat_map(|(_, points)| points.iter().map(|(day, _)| *day));
        let (first, last) = days.fold((i64::MAX, i64::MIN), |(first, last), day| (first.min(day), last.max(day)));
        let most = self.lines.iter().flat_map(|(_, points)| points.iter().map(|(_, number)| *number)).max();
        let top = if self.is_share { 100 } else { rounded(most.unwrap_or(0)) };
        let span = (last - first).max(1) as f64;
        let x = |day: i64| LEFT + (day - first) as f64 / span * (WIDTH - LEFT - RIGHT);
        let y = |number: usize| HEIGHT - BOTTOM - number as f64 / top.max(1) as f64 * (HEIGHT - TOP - BOTTOM);
        let mut inner = String::new();
        for tick in [0, top / 2, top] {
            let at = y(tick);
            let unit = if self.is_share { "%" } else { "" };
            let _ = write!(
                inner,
                "<line class=\"grid\" x1=\"{LEFT}\" x2=\"{:.1}\" y1=\"{at:.1}\" y2=\"{at:.1}\"/><text class=\"tick end\" x=\"{:.1}\" \
                 y=\"{:.1}\">{}{unit}</text>",
                WIDTH - RIGHT,
                LEFT - 8.0,
                at + 4.0,
                thousands(tick)
            );
        }
        for (day, anchor) in [(first, "start"), (last, "end")] {
            let (year, month, of_month) = date(day);
            let _ = write!(
                inner,
                "<text class=\"tick {anchor}\" x=\"{:.1}\" y=\"{:.1}\">{year}-{month:02}-{of_month:02}</text>",
                x(day),
                HEIGHT - 8.0
            );
        }
        for (number, (name, points)) in self.lines.iter().enumerate() {
            let path: Vec<String> =
                points.iter().map(|(day, value)| format!("{:.1},{:.1}", x(*day), y(*value))).collect();
            let _ = write!(inner, "<polyline class=\"line l{number}\" points=\"{}\"/>", path.join(" "));
            for (day, value) in points {
                let (year, month, of_month) = date(*day);
                let _ = write!(
                    inner,
                    "<circle class=\"dot l{number}\" cx=\"{:.1}\" cy=\"{:.1}\" r=\"2.5\"><title>{year}-{month:02}-{of_month:02}: {} {name}</title></circle>",
                    x(*day),
                    y(*value),
                    thousands(*value)
                );
            }
            if let Some((day, value)) = points.last() {
                let _ = write!(
                    inner,
                    "<text class=\"tick l{number}\" x=\"{:.1}\" y=\"{:.1}\">{} {name}</text>",
                    x(*day) + 8.0,
                    y(*value) + 4.0,
                    thousands(*value)
                );
            }
        }
        inner
    }
}

/// The next round number: 1, 2 or 5 with zeros behind, and even, so that its half is whole.
fn rounded(number: usize) -> usize {
    let mut unit = 1;
    loop {
        for step in [2, 4, 6, 10] {
            if number <= step * unit {
                return step * unit;
            }
        }
        unit *= 10;
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn scales_end_in_round_numbers() {
        for (number, top) in [(0, 2), (2, 2), (3, 4), (7, 10), (41, 60), (1_001, 2_000)] {
            assert_eq!(rounded(number), top);
        }
    }

    #[test]
    fn lines_go_from_the_first_day_to_the_last() {
        let points = vec![(0, 0), (10, 50), (20, 100)];
        let chart = Chart { title: "a < b".into(), lines: vec![("debts", points)], is_share: false };
        let svg = chart.svg();
        assert!(svg.contains("points=\"56.0,212.0 253.0,112.0 450.0,12.0\""), "{svg}");
        assert!(svg.contains("1970-01-01") && svg.contains("1970-01-21") && svg.contains("a &lt; b"), "{svg}");
        let one = Chart { title: String::new(), lines: vec![("debts", vec![(3, 7)])], is_share: false };
        assert!(one.svg().contains("7 debts"));
    }
}
