//! Layers of modules: lowest at the bottom, circles in frames. Where there are too many modules to name, each layer is a bar.

use std::fmt::Write as _;

use super::map::escaped;
use crate::words::count;

/// The width of the drawing, in its own units.
const WIDTH: f64 = 1200.0;

/// The height of a row of modules, and the room between two rows.
const ROW: f64 = 24.0;
const GAP: f64 = 6.0;

/// So many modules are named; of more, only numbers are shown.
pub const MOST_NAMED: usize = 150;

/// The layers as SVG.
#[must_use]
pub fn svg(layers: &[Vec<Vec<String>>]) -> String {
    let modules: usize = layers.iter().flatten().map(Vec::len).sum();
    let (inner, height) = if modules > MOST_NAMED { bars(layers) } else { boxes(layers) };
    format!(
        "<svg class=\"layers\" viewBox=\"0 0 {WIDTH} {height:.0}\" role=\"img\" aria-label=\"Layers of modules\" \
         xmlns=\"http://www.w3.org/2000/svg\">{inner}</svg>"
    )
}

fn boxes(layers: &[Vec<Vec<String>>]) -> (String, f64) {
    let (mut out, mut y) = (String::new(), GAP);
    for (depth, layer) in layers.iter().enumerate().rev() {
        let top = y;
        let mut x = 40.0;
        for circle in layer {
            let widths: Vec<f64> = circle.iter().map(|path| name(path).chars().count() as f64 * 7.0 + 16.0).collect();
            let whole: f64 = widths.iter().map(|width| width + GAP).sum::<f64>() + GAP;
            if x + whole.min(WIDTH / 2.0) > WIDTH && x > 40.0 {
                x = 40.0;
                y += ROW + 2.0 * GAP;
            }
            let is_circle = circle.len() > 1;
            let (start, from) = (x, y);
            for (path, width) in circle.iter().zip(widths) {
                if x + width > WIDTH && x > 40.0 {
                    x = 40.0;
                    y += ROW + GAP;
                }
                let class = if is_circle { "circle" } else { "alone" };
                let _ = write!(
                    out,
                    "<g class=\"{class}\"><title>{}</title><rect x=\"{x:.1}\" y=\"{y:.1}\" width=\"{width:.1}\" height=\"{ROW}\" rx=\"3\"/><text \
                     x=\"{:.1}\" y=\"{:.1}\">{}</text></g>",
                    escaped(path),
                    x + 8.0,
                    y + 16.0,
                    escaped(&name(path))
                );
                x += width + GAP;
            }
            if is_circle {
                // Over several rows, the frame is as wide as they are.
                let (left, right) = if y > from { (40.0, WIDTH) } else { (start, x - GAP) };
                let _ = write!(
                    out,
                    "<rect class=\"frame\" x=\"{:.1}\" y=\"{:.1}\" width=\"{:.1}\" height=\"{:.1}\" rx=\"5\"/>",
                    left - 3.0,
                    from - 3.0,
                    right - left + 6.0,
                    y - from + ROW + 6.0
                );
                x += GAP;
            }
        }
        let _ = write!(out, "<text class=\"tick\" x=\"8\" y=\"{:.1}\">{depth}</text>", top + 16.0);
        y += ROW + 2.0 * GAP;
        let _ =
            write!(out, "<line class=\"grid\" x1=\"0\" x2=\"{WIDTH}\" y1=\"{:.1}\" y2=\"{:.1}\"/>", y - GAP, y - GAP);
        y += GAP / 2.0;
    }
    (out, y)
}

/// So many bars there are at most; of more layers, some share one.
const MOST_BARS: usize = 20;

fn bars(layers: &[Vec<Vec<String>>]) -> (String, f64) {
    let (mut out, mut y) = (String::new(), GAP);
    let together = layers.len().div_ceil(MOST_BARS).max(1);
    let sizes = layers.chunks(together).map(|some| {
        let sizes = || some.iter().flatten().map(Vec::len);
        (sizes().sum::<usize>(), sizes().filter(|size| *size > 1).sum::<usize>())
    });
    let sizes: Vec<(usize, usize)> = sizes.collect();
    let most = sizes.iter().map(|(all, _)| *all).max().unwrap_or(1).max(1);
    for (number, (all, in_circles)) in sizes.into_iter().enumerate().rev() {
        let first = number * together;
        let last = (first + together).min(layers.len()) - 1;
        let depth = if first == last { first.to_string() } else { format!("{first}–{last}") };
        let width =
            |number: usize| (number as f64 / most as f64 * (WIDTH - 420.0)).max(if number > 0 { 2.0 } else { 0.0 });
        let _ = write!(out, "<text class=\"tick\" x=\"0\" y=\"{:.1}\">{depth}</text>", y + 16.0);
        for (class, number, x) in [("circle", in_circles, 40.0), ("alone", all - in_circles, 40.0 + width(in_circles))]
        {
            let _ = write!(
                out,
                "<g class=\"{class}\"><rect x=\"{x:.1}\" y=\"{y:.1}\" width=\"{:.1}\" height=\"{ROW}\"/></g>",
                width(number)
            );
        }
        let circles = match in_circles {
            0 => String::new(),
            number => format!(", {number} of them in circles"),
        };
        let _ = write!(
            out,
            "<text class=\"tick\" x=\"{:.1}\" y=\"{:.1}\">{}{circles}</text>",
            48.0 + width(in_circles) + width(all - in_circles),
            y + 16.0,
            count(all, "module", "modules")
        );
        y += ROW + GAP;
    }
    (out, y)
}

/// A module's name as it is drawn: the end of its path.
fn name(path: &str) -> String {
    let stem = path.rsplit_once('.').map_or(path, |(stem, _)| stem);
    let mut parts = stem.rsplit('/');
    let last = parts.next().unwrap_or(stem);
    match (last, parts.next()) {
        // The file of a package is called like all of them.
        ("__init__" | "__main__", Some(package)) => format!("{package}/{last}"),
        _ => last.to_owned(),
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn modules_are_named_and_circles_framed() {
        let own = str::to_owned;
        let layers =
            vec![vec![vec![own("a/one.py"), own("a/two.py")], vec![own("a/__init__.py")]], vec![vec![own("b.py")]]];
        let drawn = svg(&layers);
        assert_eq!(drawn.matches("class=\"frame\"").count(), 1, "{drawn}");
        for name in [">one<", ">two<", ">a/__init__<", ">b<"] {
            assert!(drawn.contains(name), "{name}\n{drawn}");
        }
        let many = vec![
            (0..MOST_NAMED + 1).map(|at| vec![format!("m{at}.py")]).collect(),
            vec![vec![own("a.py"), own("b.py")]],
        ];
        let drawn = svg(&many);
        let deep: Vec<Vec<Vec<String>>> = (0..200).map(|at| vec![vec![format!("m{at}.py")]]).collect();
        assert!(svg(&deep).contains(">190–199<") && svg(&deep).matches("10 modules").count() == 20);
        assert!(drawn.contains("151 modules") && drawn.contains("2 modules, 2 of them in circles"), "{drawn}");
    }
}
