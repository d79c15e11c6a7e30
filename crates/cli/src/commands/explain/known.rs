//! What is known at a place where nothing is found, and why.

use std::fmt::Write as _;

use leitmotiv_engine::base::db::Db as _;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::findings::{evidence, source};
use leitmotiv_engine::outline::places;
use leitmotiv_engine::types::Type;
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::view::lookup;
use leitmotiv_migrate::session::Session;
use leitmotiv_report::document::{Place as Shown, Step};
use leitmotiv_report::place;

use super::Place;
use crate::commands::lookup as asked;
use crate::commands::{Context, argument};
use crate::failure::Failure;
use crate::look;

/// What is known of what stands at a place, and the way that its type took.
pub(super) fn known(context: &Context, session: &Session, file: File, at: &Place) -> Result<String, Failure> {
    let db = &session.db;
    let width = look::width();
    let answer = asked::at_in(session, file, at)?;
    let mut out = format!("{}\n", look::heading(&format!("{}:{}", look::path(db, file), at.line)));
    let line = |line: u32| {
        let lines = file.text(db).lines().nth(line as usize - 1).unwrap_or_default().trim().to_owned();
        look::cut(&lines, width - 4)
    };
    let _ = writeln!(out, "    {}", look::paint(look::Paint::Strong, &line(at.line)));
    let signatures = lookup::signatures(db, answer.ty);
    let words = match signatures.as_slice() {
        [signature] => format!("Nothing is found here. `{}` is `{signature}`.", answer.subject),
        _ => format!("Nothing is found here. `{}` is `{}`.", answer.subject, show(db, answer.ty)),
    };
    let _ = writeln!(out, "{}", look::fold(&words, width, "  ", "  "));
    if let Type::Unknown(cause) = answer.ty {
        let why = *db.store().cause(cause);
        let (start, _) = place::positions(db, why.file, places::range_of(db, why.file, why.at));
        let words = format!(
            "It is unknown because of {}, {}:{}.",
            evidence::cause_words(db, cause),
            look::path(db, why.file),
            start.line
        );
        let _ = writeln!(out, "{}", look::fold(&words, width, "  ", "  "));
    }
    let steps: Vec<Step> = answer
        .way
        .iter()
        .map(|step| {
            let (start, end) = place::positions(db, step.file, step.range);
            let place = Shown { path: step.file.path(db).to_owned(), start, end };
            let code = source::line_of(db, step.file, step.range);
            Step { kind: step.kind, place, text: step.text.clone(), code, asks: step.asks }
        })
        .collect();
    if !steps.is_empty() {
        let own = file.path(db);
        let places: Vec<String> = steps
            .iter()
            .map(|step| match step.place.path == own {
                true => format!("line {}", step.place.start.line),
                false => step.place.subject(),
            })
            .collect();
        let _ = writeln!(out, "\n{}", look::heading("How it comes here"));
        let steps: Vec<&Step> = steps.iter().collect();
        let here = format!("line {}", at.line);
        out.push_str(&look::thread(&steps, &places, width, context.verbose, Some(&here)));
    }
    let supposed = asked::supposed(session, &answer, context.quiet)?;
    let has_next = supposed.contains("Next: ");
    out.push_str(&supposed);
    if !context.quiet && !has_next {
        let subject = format!("{}:{}", at.path.to_string_lossy(), at.line);
        let column = at.column.map_or(String::new(), |column| format!(":{column}"));
        let _ = writeln!(out, "\nNext: leitmotiv lookup {}", argument(&format!("{subject}{column}")));
    }
    Ok(out)
}
