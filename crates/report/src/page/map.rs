//! Packages as a tree map: fields as large as their lines, coloured by how much of them is known.

use std::fmt::Write as _;

use maud::html;
use treemap::{MapItem, Mappable, Rect, TreemapLayout};

use crate::overview::Package;
use crate::words::{count, percent};

/// The size of the drawing, in its own units.
const WIDTH: f64 = 1200.0;
const HEIGHT: f64 = 420.0;

/// So many colours there are.
pub const STEPS: usize = 6;

/// So many letters of a name are worth showing.
const LEAST_NAMED: usize = 8;

/// So many fields are drawn; the smallest packages share one.
const MOST: usize = 80;

/// The lowest shares of all colours but the first, in percent.
const SHARES: [usize; STEPS - 1] = [60, 70, 80, 90, 95];

/// The lowest share of a colour, in percent; of the first, what its shares stay below.
#[must_use]
pub fn percent_of(step: usize) -> usize {
    SHARES[step.saturating_sub(1).min(STEPS - 2)]
}

/// The colour of a share.
fn step_of(known: usize, all: usize) -> usize {
    let share = (known * 100).checked_div(all).unwrap_or(100);
    (1..STEPS).rev().find(|step| share >= percent_of(*step)).unwrap_or(0)
}

/// The map as SVG.
#[must_use]
pub fn svg(packages: &[Package]) -> String {
    let mut packages: Vec<&Package> = packages.iter().filter(|package| package.lines > 0).collect();
    packages.sort_by(|one, other| other.lines.cmp(&one.lines).then_with(|| one.name.cmp(&other.name)));
    let mut rest = Package::default();
    for package in packages.iter().skip(MOST) {
        rest.lines += package.lines;
        rest.expressions += package.expressions;
        rest.known += package.known;
        rest.findings += package.findings;
    }
    rest.name = count(packages.len().saturating_sub(MOST), "small package", "small packages");
    packages.truncate(MOST);
    if rest.lines > 0 {
        packages.push(&rest);
    }
    let mut fields: Vec<Box<dyn Mappable>> = packages
        .iter()
        .map(|package| Box::new(MapItem::with_size(package.lines as f64)) as Box<dyn Mappable>)
        .collect();
    TreemapLayout::new().layout_items(&mut fields, Rect::from_points(0.0, 0.0, WIDTH, HEIGHT));
    let mut inner = String::new();
    for (package, field) in packages.iter().zip(&fields) {
        draw(package, field.bounds(), &mut inner);
    }
    format!(
        "<svg class=\"map\" viewBox=\"0 0 {WIDTH} {HEIGHT}\" role=\"img\" aria-label=\"Packages by size and known share\" \
         xmlns=\"http://www.w3.org/2000/svg\">{inner}</svg>"
    )
}

fn draw(package: &Package, Rect { x, y, w, h }: &Rect, out: &mut String) {
    let share = percent(package.known, package.expressions);
    let title = format!(
        "{}: {}, {share} known, {}",
        package.name,
        count(package.lines, "line", "lines"),
        count(package.findings, "finding", "findings")
    );
    let step = step_of(package.known, package.expressions);
    let (w, h) = ((w - 2.0).max(0.5), (h - 2.0).max(0.5));
    let _ = write!(out, "<g class=\"k{step}\"><title>{}</title>", escaped(&title));
    let _ =
        write!(out, "<rect x=\"{:.1}\" y=\"{:.1}\" width=\"{w:.1}\" height=\"{h:.1}\" rx=\"2\"/>", x + 1.0, y + 1.0);
    // A letter takes some 7 units; of a name, less than that says nothing.
    let room = ((w - 12.0) / 7.2).max(0.0) as usize;
    if h > 18.0 && room >= package.name.chars().count().min(LEAST_NAMED) {
        let name = shortened(&package.name, room);
        let _ = write!(out, "<text x=\"{:.1}\" y=\"{:.1}\">{}</text>", x + 7.0, y + 17.0, escaped(&name));
        if h > 36.0 {
            let _ = write!(out, "<text class=\"small\" x=\"{:.1}\" y=\"{:.1}\">{share}</text>", x + 7.0, y + 33.0);
        }
    }
    out.push_str("</g>");
}

/// A name in so many letters: its end tells it apart.
fn shortened(name: &str, room: usize) -> String {
    let letters = name.chars().count();
    if letters <= room {
        return name.to_owned();
    }
    let kept: String = name.chars().skip(letters - room.saturating_sub(1)).collect();
    format!("…{kept}")
}

/// A text as it stands in a document.
pub(super) fn escaped(text: &str) -> String {
    html! { (text) }.into_string()
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn fields_are_as_large_as_their_lines_and_lie_within() {
        let package = |name: &str, lines, known| Package {
            name: name.into(),
            lines,
            expressions: 100,
            known,
            ..Package::default()
        };
        let svg = svg(&[package("a/", 300, 99), package("b<&>/", 100, 10), package("empty/", 0, 0)]);
        let area = |step: &str| -> f64 {
            let part = svg.split(&format!("<g class=\"{step}\">")).nth(1).unwrap();
            let of = |name: &str| -> f64 {
                part.split(&format!("{name}=\"")).nth(1).unwrap().split('"').next().unwrap().parse().unwrap()
            };
            of("width") * of("height")
        };
        let ratio = area("k5") / area("k0");
        assert!((2.9..3.1).contains(&ratio), "{ratio}\n{svg}");
        assert!(svg.contains("b&lt;&amp;&gt;/") && !svg.contains("empty"), "{svg}");
    }

    #[test]
    fn colours_go_by_the_known_share() {
        let steps: Vec<usize> = [0, 59, 60, 70, 85, 94, 95, 100].iter().map(|known| step_of(*known, 100)).collect();
        assert_eq!(steps, [0, 0, 1, 2, 3, 4, 5, 5]);
        assert_eq!(shortened("skerry/desk/forms/", 8), "…/forms/");
    }
}
