//! What a new name would change, or why it cannot be given.
//!
//! A new name is only given where all mentions of the old one are known, and where every name still means after it what it meant before.

use std::fmt;

use leitmotiv_index::tree::{Arg, Expr, ScopeId, ScopeKind};
use leitmotiv_syntax::mentions::{How, Mention};
use leitmotiv_syntax::names::{Name, is_identifier};
use leitmotiv_syntax::{TextRange, TextSize};

use super::references::{self, Reference, family, has_word};
use super::things::{Reader, Thing, chain};
use crate::base::database::Database;
use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::classes::{self, members};
use crate::findings::source;
use crate::outline::module_index;
use crate::resolve::project_files;

/// A stretch of a file that gets the new name.
pub type Renamed = (File, TextRange);

/// Why something cannot be renamed, in a sentence.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Refusal(pub String);

impl fmt::Display for Refusal {
    fn fmt(&self, formatter: &mut fmt::Formatter<'_>) -> fmt::Result {
        formatter.write_str(&self.0)
    }
}

fn refuse<T>(words: impl Into<String>) -> Result<T, Refusal> {
    Err(Refusal(words.into()))
}

/// What would be renamed at a place, or why nothing can be: everything that can be told before the new name is known.
///
/// # Errors
/// [`Refusal`]
pub fn prepare(db: &Database, file: File, offset: TextSize) -> Result<TextRange, Refusal> {
    let mut reader = Reader::new(db, file);
    let (mention, _) = target(db, &mut reader, offset)?;
    Ok(mention.range)
}

/// All stretches that get the new name.
///
/// # Errors
/// [`Refusal`] where it cannot be told what else would have to change, or where a name would mean something else.
pub fn plan(db: &Database, file: File, offset: TextSize, new: &str) -> Result<Vec<Renamed>, Refusal> {
    let mut reader = Reader::new(db, file);
    let (mention, things) = target(db, &mut reader, offset)?;
    let old = reader.text(mention).to_owned();
    if !is_identifier(new) {
        return refuse(format!("`{new}` is not a name that Python allows"));
    }
    if new == old {
        return Ok(Vec::new());
    }
    if old.starts_with("__") && !old.ends_with("__") || new.starts_with("__") {
        return refuse("names that begin with two underscores mean something else outside of their class");
    }
    for file in project_files(db) {
        let index = module_index(db, *file);
        if !index.faults.is_empty() && has_word(file.text(db), &old) {
            return refuse(format!("`{}` does not parse, and mentions `{old}`", file.path(db)));
        }
    }
    let found = references::of(db, &things, true);
    let called = called_names(db, &things);
    for reference in found.iter().filter(|reference| !reference.is_sure) {
        if is_unrelated(db, reference, &called, &things) {
            continue;
        }
        let place = place(db, reference.file, reference.mention.range);
        let code = source::line_of(db, reference.file, reference.mention.range);
        return refuse(format!("{place} may mean this or something else: `{}`", code.trim()));
    }
    let sure: Vec<Reference> = found.into_iter().filter(|reference| reference.is_sure).collect();
    let mut all: Vec<Renamed> = sure.iter().map(|reference| (reference.file, reference.mention.range)).collect();
    definitions_are_among(db, &things, &all, &old)?;
    read_otherwise(db, &things, &old)?;
    let listed = in_lists(db, &things, &old)?;
    all.extend(listed);
    let new = db.names().intern(new);
    for thing in &things {
        no_member_yet(db, *thing, new)?;
    }
    for reference in &sure {
        means_the_same(db, reference, new)?;
    }
    all.sort_by_key(|(file, range)| (file.path(db).to_owned(), range.start()));
    all.dedup();
    Ok(all)
}

/// What stands at an offset, and all that is one thing with it.
fn target(db: &Database, reader: &mut Reader<'_>, offset: TextSize) -> Result<(Mention, Vec<Thing>), Refusal> {
    let Some(mention) = reader.at(offset) else { return refuse("no name stands here") };
    let old = reader.text(mention).to_owned();
    let means = reader.means(mention);
    if means.is_empty() {
        return refuse(format!("what `{old}` means here cannot be told, and so neither where else it stands"));
    }
    let mut things: Vec<Thing> = Vec::new();
    for thing in means {
        // The last under this name: behind `import … as`, what is renamed is the new name only.
        let chain = chain(db, thing);
        let last = chain.into_iter().rfind(|thing| thing.name(db) == old).unwrap_or(thing);
        for thing in with_kin(db, last) {
            if !things.contains(&thing) {
                things.push(thing);
            }
        }
    }
    for thing in &things {
        let file = thing.file();
        if let Thing::Module(_) = thing {
            return refuse(format!("`{old}` is a module: its file would have to be renamed with it"));
        }
        if !file.origin(db).is_own() {
            let owner = match thing {
                Thing::Member { class, .. } => format!(" of `{}`", classes::shown(db, *class)),
                _ => String::new(),
            };
            return refuse(format!(
                "`{old}`{owner} is defined in `{}`, which is not the project's own",
                db.names().text(file.module(db))
            ));
        }
    }
    if old.starts_with("__") && old.ends_with("__") {
        return refuse(format!("`{old}` has a meaning of its own for the interpreter"));
    }
    Ok((mention, things))
}

/// A thing with those that must have its name: methods that stand in for each other, and the parameters of these.
fn with_kin(db: &Database, thing: Thing) -> Vec<Thing> {
    let Thing::Name { file, scope, name } = thing else { return family(db, thing) };
    let index = module_index(db, file);
    let ScopeKind::Function(function) = index.scopes[scope].kind else { return vec![thing] };
    let record = &index.functions[function];
    let is_param = record.params.iter().any(|param| param.name == name);
    let Some(class) = record.class.filter(|_| is_param) else { return vec![thing] };
    let method = Thing::Member { class: crate::types::ClassRef { file, class }, name: record.name };
    let mut found = vec![thing];
    for kin in family(db, method) {
        let index = module_index(db, kin.file());
        for def in kin.definitions(db) {
            if let leitmotiv_index::tree::DefKind::Function(other) = index.defs[def].kind {
                let is_static =
                    crate::outline::functions::function(db, kin.file(), other).binding == crate::types::Binding::Static;
                let other = &index.functions[other];
                let one = Thing::Name { file: kin.file(), scope: other.scope, name };
                // The object itself has a name of each method's own.
                let place = other.params.iter().position(|param| param.name == name);
                if place.is_some_and(|place| place > 0 || is_static) && !found.contains(&one) {
                    found.push(one);
                }
            }
        }
    }
    found
}

/// The names that functions are called by whose parameters are renamed.
fn called_names(db: &Database, things: &[Thing]) -> Vec<String> {
    let mut names = Vec::new();
    for thing in things {
        let Thing::Name { file, scope, .. } = *thing else { continue };
        let index = module_index(db, file);
        if let ScopeKind::Function(function) = index.scopes[scope].kind {
            let record = &index.functions[function];
            names.push(db.names().text(record.name).to_owned());
            names.extend(record.class.map(|class| db.names().text(index.classes[class].name).to_owned()));
        }
    }
    names
}

/// Whether a mention that cannot be told cannot be this: a keyword of a call of something that is called otherwise.
fn is_unrelated(db: &Database, reference: &Reference, called: &[String], things: &[Thing]) -> bool {
    match reference.mention.how {
        How::Keyword { callee } => {
            let text = &reference.file.text(db)[callee];
            let last = text.rsplit('.').next().unwrap_or_default();
            let is_field = things.iter().any(|thing| matches!(thing, Thing::Member { .. }));
            if is_field {
                // What makes a copy with another value takes the names of fields as keywords of any name.
                if matches!(last, "replace" | "_replace" | "evolve" | "model_copy") {
                    return false;
                }
                let makes = |thing: &Thing| matches!(thing, Thing::Member { class, .. } if db.names().text(crate::outline::class_name(db, *class)) == last);
                return !things.iter().any(makes);
            }
            !called.iter().any(|name| name == last)
        }
        // A parameter or a local name is never an attribute.
        How::Attribute { .. } => {
            things.iter().all(|thing| matches!(thing, Thing::Name { scope, .. } if *scope != ScopeId(0)))
        }
        _ => false,
    }
}

/// What makes a thing must be among what is renamed: names that stand in texts are not.
fn definitions_are_among(db: &Database, things: &[Thing], all: &[Renamed], old: &str) -> Result<(), Refusal> {
    for thing in things {
        let file = thing.file();
        let index = module_index(db, file);
        for def in thing.definitions(db) {
            let range = index.defs[def].range;
            let is_named = file.text(db).get(usize::from(range.start())..usize::from(range.end())) == Some(old);
            if !is_named || !all.contains(&(file, range)) {
                return refuse(format!(
                    "`{old}` is made at {} in a way that is not by its name",
                    place(db, file, range)
                ));
            }
        }
    }
    Ok(())
}

/// What reads names without mentioning them: `locals()` in the function, `globals()` in the module.
fn read_otherwise(db: &Database, things: &[Thing], old: &str) -> Result<(), Refusal> {
    for thing in things {
        let Thing::Name { file, scope, .. } = *thing else { continue };
        let index = module_index(db, file);
        let stretch = match index.scopes[scope].kind {
            ScopeKind::Function(function) => Some(index.functions[function].range),
            ScopeKind::Module if index.makes_names => None,
            _ => continue,
        };
        let reads = index.spans_iter().find(|(expr, span)| {
            let Expr::Call { callee, .. } = index.exprs[*expr] else { return false };
            let Expr::Name(name, _) = index.exprs[callee] else { return false };
            let is_reading = match stretch {
                Some(_) => ["locals", "vars", "eval", "exec"].as_slice(),
                None => ["globals", "vars", "eval", "exec"].as_slice(),
            };
            stretch.is_none_or(|stretch| stretch.contains_range(*span)) && is_reading.contains(&db.names().text(name))
        });
        if let Some((_, span)) = reads {
            return refuse(format!("{} may read `{old}` without mentioning it", place(db, file, span)));
        }
    }
    Ok(())
}

/// Where `__all__` names a thing of a module; elsewhere, a text of that name may mean it.
fn in_lists(db: &Database, things: &[Thing], old: &str) -> Result<Vec<Renamed>, Refusal> {
    let mut found = Vec::new();
    let modules: Vec<File> = things
        .iter()
        .filter_map(|thing| match thing {
            Thing::Name { file, scope, .. } if *scope == ScopeId(0) => Some(*file),
            _ => None,
        })
        .collect();
    let name = db.names().intern(old);
    let is_attribute = things.iter().any(|thing| matches!(thing, Thing::Member { .. })) || !modules.is_empty();
    for file in project_files(db) {
        let text = file.text(db);
        if !has_word(text, old) {
            continue;
        }
        let index = module_index(db, *file);
        for (expr, span) in index.spans_iter() {
            match &index.exprs[expr] {
                Expr::Call { callee, args } if is_attribute && asks_by_name(db, index, *callee, args, name) => {
                    return refuse(format!("{} asks for `{old}` by a text", place(db, *file, span)));
                }
                // As tests name what they put something else in the place of.
                Expr::Str(Some(own)) if is_dotted(db, things, db.names().text(*own), old) => {
                    return refuse(format!("{} names `{old}` in a text", place(db, *file, span)));
                }
                Expr::Str(Some(own)) if *own == name && modules.contains(file) && is_listed(index, span, text) => {
                    let quoted = &text[span];
                    let Some(at) = quoted.find(old) else { continue };
                    let start = span.start() + TextSize::try_from(at).unwrap_or_default();
                    found.push((*file, TextRange::at(start, TextSize::of(old))));
                }
                _ => {}
            }
        }
    }
    Ok(found)
}

/// `ferry.load`, `ferry.Ferry.board`: a thing by its module's name.
fn is_dotted(db: &Database, things: &[Thing], text: &str, old: &str) -> bool {
    let Some(owner) = text.strip_suffix(old).and_then(|owner| owner.strip_suffix('.')) else { return false };
    things.iter().any(|thing| {
        let module = db.names().text(thing.file().module(db));
        match *thing {
            Thing::Name { scope, .. } => scope == ScopeId(0) && owner == module,
            Thing::Member { .. } => owner.strip_prefix(module).is_some_and(|rest| rest.starts_with('.')),
            Thing::Module(_) => false,
        }
    })
}

/// Whether a text stands in what `__all__` is made of.
fn is_listed(index: &leitmotiv_index::tree::ModuleIndex, span: TextRange, text: &str) -> bool {
    index.bodies[leitmotiv_index::tree::BodyId(0)].statements.iter().any(|statement| {
        statement.range.contains_range(span) && text[statement.range].trim_start().starts_with("__all__")
    })
}

/// `getattr(x, "name")` and its kin.
fn asks_by_name(
    db: &Database,
    index: &leitmotiv_index::tree::ModuleIndex,
    callee: leitmotiv_index::tree::ExprId,
    args: &[Arg],
    name: Name,
) -> bool {
    let (Expr::Name(called, _) | Expr::Attribute { name: called, .. }) = index.exprs[callee] else { return false };
    let asks = matches!(
        db.names().text(called),
        "getattr" | "setattr" | "hasattr" | "delattr" | "attrgetter" | "methodcaller" | "patch" | "object"
    );
    asks && args.iter().any(|arg| matches!(index.exprs[arg.value], Expr::Str(Some(own)) if own == name))
}

fn no_member_yet(db: &Database, thing: Thing, new: Name) -> Result<(), Refusal> {
    let Thing::Member { class, .. } = thing else { return Ok(()) };
    let all = classes::derived(db, class).chain([class]);
    for class in all {
        if members::find(db, crate::resolve::instance_of(db, class, &[]), new, None).is_some() {
            let words = format!("`{}` has a member `{}` already", classes::shown(db, class), db.names().text(new));
            return refuse(words);
        }
    }
    Ok(())
}

/// Whether at a mention, the new name would mean what the old one does, and no other mention of the new name would.
fn means_the_same(db: &Database, reference: &Reference, new: Name) -> Result<(), Refusal> {
    let is_bare = !matches!(
        reference.mention.how,
        How::Attribute { .. }
            | How::Keyword { .. }
            | How::PatternKeyword { .. }
            | How::Module { .. }
            | How::Imported { is_bound: false, .. }
    );
    if !is_bare || !has_word(reference.file.text(db), db.names().text(new)) {
        return Ok(());
    }
    let mut reader = Reader::new(db, reference.file);
    let index = reader.index;
    let own = |thing: &Thing| match *thing {
        Thing::Name { file, scope, .. } if file == reference.file => Some(scope),
        Thing::Member { class, .. } if class.file == reference.file => Some(index.classes[class.class].scope),
        _ => None,
    };
    let Some(scope) = reader.means(reference.mention).iter().find_map(own) else { return Ok(()) };
    let text = db.names().text(new).to_owned();
    // Between the mention and what it means.
    let mut next = Some(reader.scope_at(reference.mention.range.start()));
    while let Some(at) = next {
        if index.scopes[at].symbols.contains_key(&new) {
            let range = index.scopes[at].symbols[&new].defs.first().map(|def| index.defs[*def].range);
            let place = place(db, reference.file, range.unwrap_or(reference.mention.range));
            return refuse(format!("`{text}` is bound at {place} already"));
        }
        next = if at == scope { None } else { index.scopes[at].parent };
    }
    let others: Vec<Mention> = reader
        .mentions
        .iter()
        .filter(|other| reader.text(**other) == text && other.how == How::Read)
        .copied()
        .collect();
    for other in others {
        let is_within = |at: ScopeId| {
            let mut next = Some(at);
            std::iter::from_fn(|| {
                let at = next?;
                next = index.scopes[at].parent;
                Some(at)
            })
            .any(|at| at == scope)
        };
        let bound = reader.means(other).iter().find_map(own);
        let stays = bound.is_some_and(|bound| bound != scope && is_within(bound));
        if is_within(reader.scope_at(other.range.start())) && !stays {
            return refuse(format!("`{text}` at {} would mean this then", place(db, reference.file, other.range)));
        }
    }
    Ok(())
}

fn place(db: &Database, file: File, range: TextRange) -> String {
    format!("{}:{}", file.path(db), module_index(db, file).lines.0.index_of(range.start()) + 1)
}
