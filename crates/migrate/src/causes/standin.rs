//! Where only a person knows what would be right at a cause, something stands in for it on trial: a value of which nothing is said, or a
//! declaration of `Any`. What goes by that goes by whatever they will write; it is never written into a file.

use std::collections::BTreeSet;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_syntax::edits::{Edit, line_end};
use leitmotiv_syntax::{Ranged, TextRange};

use crate::ways::{Import, Reach, Way, Ways};

/// A value of which nothing is said.
const VALUE: &str = "globals()[\"given\"]";

/// What a person would do at the cause of a finding, in words, and what stands in for it.
pub(super) fn of(db: &Database, ways: &mut Ways<'_>, finding: &Finding) -> Option<(String, Way)> {
    let step = finding.evidence.iter().find(|step| step.file.origin(db).is_own())?;
    let (file, range) = (step.file, step.range);
    let is_of_none = finding.rule.starts_with("none.");
    let other = if is_of_none { "a value other than None" } else { "a value that fits" };
    let code = ways.code(file);
    match step.kind {
        "assigned" => {
            let name = code.slice(range);
            let places: Vec<TextRange> = std::iter::once(range).chain(step.also.iter().copied()).collect();
            let values = places.iter().map(|place| code.assigned(*place).map(|value| value.range()));
            let values: Vec<TextRange> = values.collect::<Option<_>>()?;
            let more = match step.also.len() {
                0 => String::new(),
                1 => ", in one more place as well".to_owned(),
                more => format!(", in {more} more places as well"),
            };
            let mut all = way(file, Edit::replace(values[0], VALUE));
            all.edits.extend(values[1..].iter().map(|value| (file, Edit::replace(*value, VALUE))));
            Some((format!("give `{name}` {other}{more}"), all))
        }
        "returned" => {
            let function = code.function(range)?;
            let words = format!("return {other} from `{}`", function.name);
            if range == function.name.range() {
                let last = function.body.last()?;
                let indent = code.indent(last.range().start())?;
                let text = format!("{}{indent}return {VALUE}", line_end(&code.text));
                return Some((words, way(file, Edit::insert(last.range().end(), text))));
            }
            let returned = code.returned(range)?;
            let edit = match returned.value.as_deref() {
                Some(value) => Edit::replace(value.range(), VALUE),
                None => Edit::replace(returned.range(), format!("return {VALUE}")),
            };
            Some((words, way(file, edit)))
        }
        "declared" => {
            if let Some(annotation) = ways.annotation(file, range) {
                let words = match step.asks {
                    true => "declare a type that what is given fits",
                    false if is_of_none => "take None out of the declaration",
                    false => "declare the type that it really has",
                };
                let mut way = way(file, Edit::replace(annotation, "Any"));
                let names = BTreeSet::from([("typing".to_owned(), "Any".to_owned())]);
                way.import = Some(Import { file, before: annotation.start(), names, guarded: BTreeSet::new() });
                return Some((words.to_owned(), way));
            }
            let name = code.slice(range);
            let default = default_of(&code.function(range)?.parameters, range)?;
            Some((format!("give `{name}` a default that fits"), way(file, Edit::replace(default, VALUE))))
        }
        _ => None,
    }
}

/// The default of the parameter whose name stands somewhere.
fn default_of(parameters: &leitmotiv_syntax::ast::Parameters, name: TextRange) -> Option<TextRange> {
    let parameter = parameters.iter_non_variadic_params().find(|one| one.parameter.name.range() == name)?;
    parameter.default.as_ref().map(|default| default.range())
}

fn way(file: File, edit: Edit) -> Way {
    Way {
        id: "stand-in",
        title: String::new(),
        price: String::new(),
        safe: false,
        settles: 1,
        reach: Reach::Alone,
        ranks: (0, 0),
        edits: vec![(file, edit)],
        import: None,
        is_last: false,
    }
}
