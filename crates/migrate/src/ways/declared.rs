//! What is declared takes another type: as well, or instead. An annotation does nothing when the program runs.

use std::collections::BTreeSet;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::own_name;
use leitmotiv_engine::types::Type;
use leitmotiv_engine::types::display::show;
use leitmotiv_index::tree::{DefKind, ExprId, FunctionId, ScopeId};
use leitmotiv_syntax::edits::Edit;
use leitmotiv_syntax::{TextRange, TextSize};

use super::{Import, Way, Ways};
use crate::annotate::{is_test, postpones};
use crate::spell::{Evaluated, Spelled, Style, makes_names, spell};

/// Which annotation stands somewhere.
#[derive(Debug, Clone, Copy)]
struct Annotation {
    range: TextRange,
    /// The function whose parameter or result it is.
    of: Option<(FunctionId, bool)>,
}

impl Ways<'_> {
    pub(super) fn widen(
        &mut self,
        finding: &Finding,
        file: File,
        at: TextRange,
        by: Type,
        way: &mut Way,
    ) -> Option<()> {
        let db = self.db;
        let annotation = annotation_of(db, file, at)?;
        let text = self.code(file).slice(annotation.range).to_owned();
        // What says None already is too narrow in another way.
        let says_none = text
            .split(|char: char| char != '_' && !char.is_alphanumeric())
            .any(|word| matches!(word, "None" | "Optional"));
        if by == Type::None && says_none {
            return None;
        }
        let new = match by {
            Type::None => with_none(db, file, &text)?,
            _ => with_type(db, file, &text, spelled(db, file, by, annotation)?)?,
        };
        way.title = format!(
            "declare `{}` in place of `{text}` ({})",
            new.text,
            self.place(finding, file, annotation.range.start())
        );
        let what = show(db, by);
        way.price = match annotation.of {
            Some((function, true)) => match self.callers(file, function) {
                Some(callers) => format!("{callers} must handle `{what}` as well"),
                None => "no call of it is known here".to_owned(),
            },
            Some((function, false)) => {
                format!("`{}` must handle `{what}` as well", functions::shown(db, file, function))
            }
            None => format!("all who read it must handle `{what}` as well"),
        };
        // A test may pass None on purpose, or by mistake: that asks nothing of what it tests.
        let is_asked_by_test = is_test(finding.file.path(db)) && !is_test(file.path(db));
        way.safe = by == Type::None && !is_asked_by_test;
        self.put(file, annotation, new, way);
        Some(())
    }

    pub(super) fn annotate(
        &mut self,
        finding: &Finding,
        file: File,
        at: TextRange,
        ty: Type,
        way: &mut Way,
    ) -> Option<()> {
        let annotation = annotation_of(self.db, file, at)?;
        let old = self.code(file).slice(annotation.range).to_owned();
        let new = spelled(self.db, file, ty, annotation)?;
        let place = self.place(finding, file, annotation.range.start());
        way.title = format!("declare `{}` in place of `{old}` ({place})", new.text);
        self.put(file, annotation, new, way);
        Some(())
    }

    /// `list[Vessel]` becomes `Sequence[Vessel]`.
    pub(super) fn read_only(
        &mut self,
        finding: &Finding,
        file: File,
        at: TextRange,
        base: &'static str,
        way: &mut Way,
    ) -> Option<()> {
        let db = self.db;
        let annotation = annotation_of(db, file, at)?;
        let text = self.code(file).slice(annotation.range).to_owned();
        let (name, arguments) = text.split_once('[')?;
        let is_built_in = matches!(
            name,
            "list" | "set" | "dict" | "List" | "Set" | "Dict" | "typing.List" | "typing.Set" | "typing.Dict"
        );
        is_built_in.then_some(())?;
        let module = if db.project().python >= (3, 9) { "collections.abc" } else { "typing" };
        let base = if module == "typing" && base == "Set" { "AbstractSet" } else { base };
        let names = db.names();
        let is_bound = own_name(db, file, names.intern(base)).is_some();
        let imports = if is_bound { BTreeSet::new() } else { BTreeSet::from([(module.to_owned(), base.to_owned())]) };
        let new = Spelled { text: format!("{base}[{arguments}"), imports, ..Spelled::default() };
        let place = self.place(finding, file, annotation.range.start());
        way.title = format!("declare `{}`, which is only read, in place of `{text}` ({place})", new.text);
        self.put(file, annotation, new, way);
        Some(())
    }

    fn put(&self, file: File, annotation: Annotation, new: Spelled, way: &mut Way) {
        if !new.imports.is_empty() {
            let before = annotation.range.start();
            way.import = Some(Import { file, before, names: new.imports, guarded: new.guarded });
        }
        way.edits = vec![(file, Edit::replace(annotation.range, new.text))];
    }
}

/// An annotation that takes None as well.
fn with_none(db: &Database, file: File, text: &str) -> Option<Spelled> {
    let has_bars = db.project().python >= (3, 10) || postpones(db, file) || file.is_stub(db);
    let none = Spelled { text: "None".to_owned(), ..Spelled::default() };
    if has_bars {
        return with_type(db, file, text, none);
    }
    unquoted(text)?;
    let names = db.names();
    let optional = own_name(db, file, names.intern("Optional"));
    let mut imports = BTreeSet::new();
    let new = match optional.map_or_else(|| typing_as(db, file), |_| None) {
        Some(module) => format!("{module}.Optional[{text}]"),
        None => {
            if optional.is_none() {
                imports.insert(("typing".to_owned(), "Optional".to_owned()));
            }
            format!("Optional[{text}]")
        }
    };
    Some(Spelled { text: new, imports, ..Spelled::default() })
}

/// An annotation that takes another type as well.
fn with_type(db: &Database, file: File, text: &str, by: Spelled) -> Option<Spelled> {
    let (quote, inner) = unquoted(text)?;
    let (other_quote, other) = unquoted(&by.text)?;
    let has_bars = db.project().python >= (3, 10) || postpones(db, file) || file.is_stub(db);
    let quote = quote.or(other_quote);
    // What goes over several lines cannot be quoted, nor what is quoted in part.
    if quote.is_some() && [inner, other].iter().any(|text| text.contains(['\n', '"', '\''])) {
        return None;
    }
    if has_bars || quote.is_some() {
        let quote = quote.map_or_else(String::new, String::from);
        return Some(Spelled { text: format!("{quote}{inner} | {other}{quote}"), ..by });
    }
    let mut imports = by.imports.clone();
    let module = typing_as(db, file);
    let union = match own_name(db, file, db.names().intern("Union")) {
        Some(_) => "Union".to_owned(),
        None => match module {
            Some(module) => format!("{module}.Union"),
            None => {
                imports.insert(("typing".to_owned(), "Union".to_owned()));
                "Union".to_owned()
            }
        },
    };
    Some(Spelled { text: format!("{union}[{inner}, {other}]"), imports, ..by })
}

/// The quote of a quoted annotation, and what is written in it; `None` where it is quoted in a way that nothing can be added to.
fn unquoted(text: &str) -> Option<(Option<char>, &str)> {
    for quote in ['"', '\''] {
        if let Some(inner) = text.strip_prefix(quote).and_then(|text| text.strip_suffix(quote))
            && !inner.contains(['"', '\'', '\\', '\n'])
        {
            return Some((Some(quote), inner));
        }
    }
    let is_string = text.starts_with(['"', '\'', 'r', 'f', 'b']) && text.ends_with(['"', '\'']);
    (!is_string).then_some((None, text))
}

fn spelled(db: &Database, file: File, ty: Type, annotation: Annotation) -> Option<Spelled> {
    let never = postpones(db, file) || file.is_stub(db);
    let style = evaluated(db, file, annotation.range.start());
    let evaluated = if never { Evaluated::Never } else { style.evaluated };
    spell(db, file, ty, Style { bars: style.bars || never, evaluated, ..style })
}

/// How types are written at a place that is evaluated while the module is imported.
pub(super) fn evaluated(db: &Database, file: File, at: TextSize) -> Style {
    let python = db.project().python;
    Style {
        bars: python >= (3, 10),
        bare: false,
        any: true,
        evaluated: Evaluated::At(at),
        subscripts: python >= (3, 9),
        scope: ScopeId(0),
        self_types: false,
        makes_names: makes_names(db, file),
    }
}

/// What a module calls the typing module, if it imports that as a whole: `t` by `import typing as t`.
fn typing_as(db: &Database, file: File) -> Option<&str> {
    let index = module_index(db, file);
    let names = db.names();
    index.defs.iter().find_map(|(_, def)| match def.kind {
        DefKind::Import { module, .. } if def.scope == ScopeId(0) && names.text(module) == "typing" => {
            Some(names.text(def.name))
        }
        _ => None,
    })
}

/// Where the annotation is of the parameter, result or variable that is declared at a place.
pub(super) fn annotation_at(db: &Database, file: File, place: TextRange) -> Option<TextRange> {
    annotation_of(db, file, place).map(|annotation| annotation.range)
}

/// The annotation of the parameter, result or variable that is declared at a place, with its quotes.
fn annotation_of(db: &Database, file: File, place: TextRange) -> Option<Annotation> {
    let found = written_at(db, file, place)?;
    let text = file.text(db);
    let (start, end) = (usize::from(found.range.start()), usize::from(found.range.end()));
    let before = text[..start].chars().next_back().filter(|char| matches!(char, '"' | '\''));
    let behind = text[end..].chars().next();
    if before.is_none() || before != behind {
        return Some(found);
    }
    let one = TextSize::from(1);
    Some(Annotation { range: TextRange::new(found.range.start() - one, found.range.end() + one), ..found })
}

/// The same without its quotes.
fn written_at(db: &Database, file: File, place: TextRange) -> Option<Annotation> {
    let index = module_index(db, file);
    let range = |expr: ExprId| index.spans[expr];
    for function in index.functions_around.of(place.start()) {
        let record = &index.functions[function];
        let param = record.params.iter().find_map(|param| {
            let annotation = param.annotation?;
            param.name_range.cover(range(annotation)).contains_range(place).then_some(annotation)
        });
        if let Some(expr) = param {
            return Some(Annotation { range: range(expr), of: Some((function, false)) });
        }
        if let Some(expr) = record.returns.filter(|returns| range(*returns).contains_range(place)) {
            return Some(Annotation { range: range(expr), of: Some((function, true)) });
        }
    }
    index.defs.iter().find_map(|(_, def)| match def.kind {
        DefKind::Annotated { annotation: expr, .. }
            if range(expr).contains_range(place) || def.range.contains_range(place) =>
        {
            Some(Annotation { range: range(expr), of: None })
        }
        _ => None,
    })
}
