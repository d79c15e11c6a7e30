//! What may stand at a place: members, names, keyword arguments, keys of typed dictionaries, literals, modules.

use leitmotiv_index::tree::{BodyId, DefKind, Expr, ExprId, ParamKind, ScopeId, ScopeKind};
use leitmotiv_syntax::names::{KEYWORDS, Name, known};
use leitmotiv_syntax::{TextRange, TextSize};
use rustc_hash::FxHashSet;

use super::signature;
use super::symbols::{Kind, is_constant, kind_of};
use super::things::Reader;
use crate::base::database::Database;
use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::classes;
use crate::outline::names::module_names;
use crate::outline::{self, module_index};
use crate::resolve::{self, Imported, import_target, project_files};
use crate::types::display::show;
use crate::types::union::parts;
use crate::types::{Literal, Type};

/// Something that may stand at a place.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Item {
    /// What is shown, and written where `insert` says nothing else.
    pub label: String,
    /// What is written in place of the word that is being typed.
    pub insert: Option<String>,
    /// What it is.
    pub kind: ItemKind,
    /// Its type, in a few words; empty where nothing is known.
    pub detail: String,
    /// The module that it must be imported from first.
    pub import: Option<String>,
    /// The nearer the smaller: own members before those of bases, local names before built-in ones, private names last.
    pub rank: u32,
    /// Whether it should not be used any more.
    pub is_deprecated: bool,
}

/// What an item is.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum ItemKind {
    /// A module.
    Module,
    /// A class.
    Class,
    /// A function.
    Function,
    /// A method.
    Method,
    /// A property.
    Property,
    /// An attribute.
    Field,
    /// A name that holds a value.
    Variable,
    /// A name in capital letters.
    Constant,
    /// A member of an enumeration.
    EnumMember,
    /// A keyword argument.
    Argument,
    /// A key of a typed dictionary.
    Key,
    /// A literal.
    Literal,
    /// A keyword of the language.
    Keyword,
}

/// What may stand at a place.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Completion {
    /// What may, nearest first.
    pub items: Vec<Item>,
    /// The word that is being typed, up to the place, in bytes.
    pub replaces: TextRange,
    /// Whether more would be found for a longer word.
    pub is_incomplete: bool,
}

/// So many names from other modules are offered.
const MOST_IMPORTS: usize = 60;

/// What may stand at an offset.
#[must_use]
pub fn at(db: &Database, file: File, offset: TextSize) -> Completion {
    let text = file.text(db);
    let end = usize::from(offset).min(text.len());
    if !text.is_char_boundary(end) {
        return Completion::default();
    }
    let before = &text[..end];
    let is_part = |char: char| char.is_alphanumeric() || char == '_';
    let word = &before[before.trim_end_matches(is_part).len()..];
    let start = end - word.len();
    let replaces = TextRange::new(size(start), size(end));
    let mut reader = Reader::new(db, file);
    let mut items = Vec::new();
    let mut is_incomplete = false;
    let line = &before[before.rfind('\n').map_or(0, |at| at + 1)..];
    let lead = before[..start].trim_end();
    if let Some(quote) = quoted(&reader, before, start, offset) {
        texts(&mut reader, before, start, quote, offset, &mut items);
    } else if is_comment(&reader, line, offset) || word.starts_with(|char: char| char.is_ascii_digit()) {
        return Completion { replaces, ..Completion::default() };
    } else if let Some(found) = import(db, file, before, line) {
        items = found;
    } else if lead.ends_with('.') && !lead.ends_with("..") {
        match object_before(&reader, size(lead.len() - 1)) {
            Some(object) => {
                let ty = reader.type_of(object);
                let body = reader.body_of(object);
                members(&mut reader, ty, body, &mut items);
            }
            // Where the text around does not parse, a dotted name is still one.
            None => {
                if let Some(ty) = named_before(&mut reader, &lead[..lead.len() - 1], size(start)) {
                    members(&mut reader, ty, BodyId(0), &mut items);
                }
            }
        }
    } else if is_naming(line, word) {
        return Completion { replaces, ..Completion::default() };
    } else {
        arguments(&mut reader, lead, offset, &mut items);
        names(&reader, size(start), &mut items);
        if word.len() >= 2 {
            is_incomplete = imports(db, file, word, &mut items);
        } else {
            is_incomplete = true;
        }
    }
    let wanted = word.to_lowercase();
    items.retain(|item| is_like(&item.label.to_lowercase(), &wanted));
    let mut seen = FxHashSet::default();
    items.retain(|item| seen.insert((item.label.clone(), item.import.clone())));
    items.sort_by(|one, other| (one.rank, &one.label).cmp(&(other.rank, &other.label)));
    Completion { items, replaces, is_incomplete }
}

/// Whether a label has the letters of a word in their order, beginning with its first.
fn is_like(label: &str, word: &str) -> bool {
    let mut letters = label.trim_start_matches(['"', '\'']).chars();
    let mut wanted = word.chars();
    let Some(first) = wanted.next() else { return true };
    letters.next() == Some(first) && wanted.all(|wanted| letters.any(|letter| letter == wanted))
}

fn size(length: usize) -> TextSize {
    TextSize::try_from(length).unwrap_or_default()
}

/// The quote of the text that an offset lies in: what stands directly before the word, or opens a text around it.
fn quoted(reader: &Reader<'_>, before: &str, start: usize, offset: TextSize) -> Option<char> {
    let opens = before[..start].chars().next_back().filter(|char| matches!(char, '"' | '\''));
    let around = reader.index.spans_iter().find(|(expr, span)| {
        matches!(reader.index.exprs[*expr], Expr::Str(_)) && span.start() < offset && offset < span.end()
    });
    if let Some((_, span)) = around {
        // What is written of a type in quotes is code.
        let is_code = reader.mentions.iter().any(|mention| span.contains_range(mention.range));
        return before[usize::from(span.start())..]
            .chars()
            .find(|char| matches!(char, '"' | '\''))
            .filter(|_| !is_code);
    }
    // A text that is not closed yet is no expression: a quote directly before the word opens one where what is before it is even.
    let line = &before[before.rfind('\n').map_or(0, |at| at + 1)..];
    opens.filter(|quote| line.chars().filter(|char| char == quote).count() % 2 == 1)
}

fn is_comment(reader: &Reader<'_>, line: &str, offset: TextSize) -> bool {
    let from = offset - size(line.len());
    line.char_indices().filter(|(_, char)| *char == '#').any(|(at, _)| {
        let at = from + size(at);
        !reader.index.spans_iter().any(|(expr, span)| {
            matches!(reader.index.exprs[expr], Expr::Str(_) | Expr::Bytes(_) | Expr::FString(_) | Expr::TString(_))
                && span.contains(at)
        })
    })
}

/// Whether a new name is being written, of which nothing can be known.
fn is_naming(line: &str, word: &str) -> bool {
    let lead = line[..line.len() - word.len()].trim();
    matches!(lead, "def" | "class" | "async def") || lead.ends_with(" as")
}

/// The expression that ends before a dot or a bracket.
fn object_before(reader: &Reader<'_>, end: TextSize) -> Option<ExprId> {
    let index = reader.index;
    let text = reader.file.text(reader.db);
    let end = size(text[..usize::from(end)].trim_end().len());
    let is_primary = |expr: ExprId| {
        matches!(
            index.exprs[expr],
            Expr::Name(..)
                | Expr::Attribute { .. }
                | Expr::Call { .. }
                | Expr::Subscript { .. }
                | Expr::Str(_)
                | Expr::Bytes(_)
                | Expr::FString(_)
                | Expr::TString(_)
                | Expr::List(_)
                | Expr::Dict(_)
                | Expr::Set(_)
                | Expr::Comprehension(_)
        )
    };
    let direct = index
        .spans_iter()
        .filter(|(expr, span)| span.end() == end && !span.is_empty() && is_primary(*expr))
        .max_by_key(|(_, span)| span.len())
        .map(|(expr, _)| expr);
    direct.or_else(|| {
        // `(await berth).`: the parentheses are of no expression.
        let inner = text[..usize::from(end)].strip_suffix(')')?;
        let end = size(inner.trim_end().len());
        let found = index.spans_iter().filter(|(_, span)| span.end() == end && !span.is_empty());
        found.max_by_key(|(_, span)| span.len()).map(|(expr, _)| expr)
    })
}

/// The type of a dotted name that a text ends with, as it is seen from a place.
fn named_before(reader: &mut Reader<'_>, text: &str, at: TextSize) -> Option<Type> {
    let is_part = |char: char| char.is_alphanumeric() || matches!(char, '_' | '.');
    let dotted = &text[text.trim_end_matches(is_part).len()..];
    let mut parts = dotted.split('.');
    let db = reader.db;
    let first = db.names().find(parts.next().filter(|first| !first.is_empty())?)?;
    let mut next = Some(reader.scope_at(at));
    let mut ty = None;
    while let Some(scope) = next {
        let record = &reader.index.scopes[scope];
        if record.symbols.contains_key(&first) {
            ty = Some(resolve::scope_type(db, reader.file, scope, first));
            break;
        }
        next = record.parent;
    }
    let mut ty = ty?;
    for part in parts {
        let name = db.names().find(part)?;
        ty = reader.infer(BodyId(0)).member(ty, name)?;
    }
    Some(ty)
}

/// A type as it is shown beside a member: of what is called, how, as this object has it.
fn called(infer: &mut crate::infer::Infer<'_>, ty: Type) -> String {
    if !matches!(ty, Type::Function(_) | Type::Method(_)) {
        return short(infer.db, ty);
    }
    let made = signature::of(infer, ty);
    cut(made.first().map(|one| one.line("")).unwrap_or_default())
}

fn rank_of(name: &str, near: u32) -> u32 {
    let private = if name.starts_with("__") {
        200
    } else if name.starts_with('_') {
        100
    } else {
        0
    };
    near + private
}

/// The members of a type.
fn members(reader: &mut Reader<'_>, ty: Type, body: BodyId, items: &mut Vec<Item>) {
    let db = reader.db;
    let store = db.store();
    let all = parts(store, &ty).to_vec();
    for part in all {
        match part {
            Type::Module(file) => of_module(db, file, items),
            Type::Namespace(package) => {
                let files = project_files(db);
                let own = format!("{}.", db.names().text(package));
                for name in files.iter().filter_map(|file| db.names().text(file.module(db)).strip_prefix(&own)) {
                    let first = name.split('.').next().unwrap_or(name);
                    items.push(plain(first.to_owned(), ItemKind::Module, String::new(), 0));
                }
            }
            part => {
                let infer = reader.infer(body);
                let (id, through_class) = match part {
                    Type::Class(id) => (Some(id), true),
                    Type::SubclassOf(inner) => match *store.single(inner) {
                        Type::Instance(id) => (Some(id), true),
                        _ => (None, true),
                    },
                    Type::Super(method) => match store.method(method).receiver {
                        Type::Instance(id) | Type::Class(id) => (Some(id), false),
                        _ => (None, false),
                    },
                    Type::Function(_) | Type::Method(_) | Type::Callable(_) => {
                        let class = resolve::standard_class(db, known::TYPES, known::FUNCTION_TYPE);
                        (class.map(|class| resolve::instance_of(db, class, &[])), false)
                    }
                    other => (infer.nominal(other), false),
                };
                let Some(id) = id else { continue };
                let object = resolve::builtin(db, known::OBJECT).map(|class| resolve::instance_of(db, class, &[]));
                let mro = &classes::info(db, store.instance(id).class).mro;
                for (depth, entry) in mro.iter().enumerate() {
                    let class = store.instance(*entry).class;
                    let outline = outline::class(db, class);
                    let near = u32::try_from(depth.min(20)).unwrap_or(20);
                    for name in outline.of_body.iter().chain(&outline.of_methods) {
                        if through_class && !outline.of_body.contains(name) {
                            continue;
                        }
                        let text = db.names().text(*name);
                        let Some(found) = infer.member(part, *name) else { continue };
                        let kind = kind_in(db, class, *name, found);
                        let rank = rank_of(text, if Some(*entry) == object { 50 } else { near });
                        items.push(Item {
                            is_deprecated: is_deprecated(db, found),
                            ..plain(text.to_owned(), kind, called(infer, found), rank)
                        });
                    }
                }
            }
        }
    }
}

fn kind_in(db: &dyn Db, class: crate::types::ClassRef, name: Name, ty: Type) -> ItemKind {
    let index = module_index(db, class.file);
    let symbol = index.scopes[index.classes[class.class].scope].symbols.get(&name);
    let function = symbol.and_then(|symbol| {
        symbol.defs.iter().find_map(|def| match index.defs[*def].kind {
            DefKind::Function(function) => Some(function),
            _ => None,
        })
    });
    match function {
        Some(function) if kind_of(db, class.file, function) == Kind::Property => ItemKind::Property,
        Some(_) => ItemKind::Method,
        None if matches!(ty, Type::Class(_)) => ItemKind::Class,
        None if classes::enum_members(db, class).contains(&name) => ItemKind::EnumMember,
        None => ItemKind::Field,
    }
}

fn is_deprecated(db: &dyn Db, ty: Type) -> bool {
    let function = super::lookup::function_of(db, ty);
    function.is_some_and(|(file, function, _)| {
        super::symbols::is_deprecated(db, &outline::function(db, file, function).decorators)
    })
}

fn plain(label: String, kind: ItemKind, detail: String, rank: u32) -> Item {
    Item { label, insert: None, kind, detail, import: None, rank, is_deprecated: false }
}

/// So long a type is shown in a list at most, in code points.
const LONGEST: usize = 80;

fn short(db: &dyn Db, ty: Type) -> String {
    if ty.is_unknown() {
        return String::new();
    }
    cut(show(db, ty))
}

fn cut(text: String) -> String {
    match text.char_indices().nth(LONGEST) {
        Some((at, _)) => format!("{}…", &text[..at]),
        None => text,
    }
}

fn of_type(ty: Type, name: &str) -> ItemKind {
    match ty {
        Type::Module(_) | Type::Namespace(_) => ItemKind::Module,
        Type::Class(_) | Type::Form(_) | Type::Special(_) => ItemKind::Class,
        Type::Function(_) | Type::Callable(_) => ItemKind::Function,
        Type::Method(_) => ItemKind::Method,
        _ if is_constant(name) => ItemKind::Constant,
        _ => ItemKind::Variable,
    }
}

/// The names of a module, and the modules below it.
fn of_module(db: &dyn Db, file: File, items: &mut Vec<Item>) {
    for name in module_names(db, file) {
        let text = db.names().text(*name);
        let Some(ty) = resolve::member(db, file, *name) else { continue };
        let is_own = !outline::names::module_name(db, file, *name).is_imported;
        let rank = rank_of(text, if is_own { 0 } else { 10 });
        items.push(Item {
            is_deprecated: is_deprecated(db, ty),
            ..plain(text.to_owned(), of_type(ty, text), short(db, ty), rank)
        });
    }
    for star in starred(db, file) {
        let text = db.names().text(star);
        if let Some(ty) = resolve::member(db, file, star) {
            items.push(plain(text.to_owned(), of_type(ty, text), short(db, ty), rank_of(text, 0)));
        }
    }
}

/// The names that star imports of a module bring, one step far.
fn starred(db: &dyn Db, file: File) -> Vec<Name> {
    let index = module_index(db, file);
    let mut found = Vec::new();
    for star in &index.scopes[ScopeId(0)].stars {
        let DefKind::Star { module, level } = index.defs[*star].kind else { continue };
        let Some(Imported::File(target)) = import_target(db, file, module, level) else { continue };
        match outline::names::exported(db, target) {
            Some(all) => found.extend(all.iter().copied()),
            None => {
                let public = |name: &&Name| !db.names().text(**name).starts_with('_');
                found.extend(module_names(db, target).iter().filter(public).copied());
            }
        }
    }
    found
}

/// What may stand in an import; `None` where none is being written.
fn import(db: &Database, file: File, before: &str, line: &str) -> Option<Vec<Item>> {
    let line = line.trim_start();
    if let Some(rest) = line.strip_prefix("from ") {
        return match rest.split_once(" import") {
            Some((module, _)) => Some(names_of(db, file, module.trim())),
            None => (!rest.contains(' ')).then(|| modules(db, file, rest)),
        };
    }
    if let Some(rest) = line.strip_prefix("import ") {
        let last = rest.rsplit(',').next().unwrap_or(rest).trim_start();
        return (!last.contains(' ')).then(|| modules(db, file, last));
    }
    // `from ferry import (` over several lines.
    let opens = before.rfind(" import (")?;
    if before[opens..].contains(')') {
        return None;
    }
    let from = before[..opens].rfind("from ")?;
    let module = &before[from + "from ".len()..opens];
    (!module.contains(char::is_whitespace)).then(|| names_of(db, file, module))
}

fn names_of(db: &Database, file: File, module: &str) -> Vec<Item> {
    let name = module.trim_start_matches('.');
    let level = u32::try_from(module.len() - name.len()).unwrap_or_default();
    let mut items = Vec::new();
    if let Some(Imported::File(target)) = import_target(db, file, db.names().intern(name), level) {
        of_module(db, target, &mut items);
        items.retain(|item| !item.label.starts_with("__"));
        let full = db.names().text(target.module(db)).to_owned();
        for below in db.submodules(&full) {
            let last = below.rsplit('.').next().unwrap_or(&below).to_owned();
            items.push(plain(last.clone(), ItemKind::Module, String::new(), rank_of(&last, 5)));
        }
    }
    items
}

/// Modules by the beginning of a dotted name.
fn modules(db: &Database, file: File, written: &str) -> Vec<Item> {
    let name = written.trim_start_matches('.');
    let level = u32::try_from(written.len() - name.len()).unwrap_or_default();
    let package = name.rsplit_once('.').map_or("", |(package, _)| package);
    let below: Vec<String> = if package.is_empty() && level == 0 {
        resolve::module_names(db).iter().cloned().chain(super::library_coverage::bundled_modules()).collect()
    } else {
        match import_target(db, file, db.names().intern(package), level) {
            Some(Imported::File(target)) => db.submodules(db.names().text(target.module(db))),
            Some(Imported::Namespace(name)) => db.submodules(db.names().text(name)),
            None => Vec::new(),
        }
    };
    let is_top = package.is_empty() && level == 0;
    below
        .iter()
        .filter(|name| !is_top || !name.contains('.'))
        .map(|name| name.rsplit('.').next().unwrap_or(name).to_owned())
        .map(|name| plain(name.clone(), ItemKind::Module, String::new(), rank_of(&name, 0)))
        .collect()
}

/// The names that can be read at an offset.
fn names(reader: &Reader<'_>, at: TextSize, items: &mut Vec<Item>) {
    let (db, file, index) = (reader.db, reader.file, reader.index);
    let mut next = Some(reader.scope_at(at));
    let mut near = 0;
    let mut is_first = true;
    while let Some(scope) = next {
        let record = &index.scopes[scope];
        if is_first || !matches!(record.kind, ScopeKind::Class(_)) {
            let mut all: Vec<(&Name, bool)> = record
                .symbols
                .iter()
                // What is being written is no name yet, where it stands alone.
                .map(|(name, symbol)| {
                    (name, symbol.defs.iter().all(|def| index.defs[*def].range.contains_inclusive(at)))
                })
                .collect();
            all.retain(|(_, is_here)| !is_here);
            for (name, _) in all {
                let text = db.names().text(*name);
                let ty = resolve::scope_type(db, file, scope, *name);
                items.push(plain(text.to_owned(), of_type(ty, text), short(db, ty), rank_of(text, near)));
            }
            near += 10;
        }
        is_first = false;
        next = record.parent;
    }
    for name in starred(db, file) {
        let text = db.names().text(name);
        items.push(plain(text.to_owned(), ItemKind::Variable, String::new(), rank_of(text, near)));
    }
    if let Some(builtins) = resolve::standard_module(db, known::BUILTINS) {
        for name in module_names(db, builtins) {
            let text = db.names().text(*name);
            let is_private = text.starts_with('_');
            if !is_private && !outline::names::module_name(db, builtins, *name).is_imported {
                let ty = resolve::scope_type(db, builtins, ScopeId(0), *name);
                items.push(plain(text.to_owned(), of_type(ty, text), short(db, ty), 60));
            }
        }
    }
    items.extend(KEYWORDS.iter().map(|word| plain((*word).to_owned(), ItemKind::Keyword, String::new(), 70)));
}

/// Names of other modules of the project that begin with a word, with the import that brings them; whether there are more.
fn imports(db: &Database, file: File, word: &str, items: &mut Vec<Item>) -> bool {
    let wanted = word.to_lowercase();
    let known: FxHashSet<String> = items.iter().map(|item| item.label.clone()).collect();
    let mut count = 0;
    for other in project_files(db) {
        if *other == file {
            continue;
        }
        let module = db.names().text(other.module(db));
        for name in module_names(db, *other) {
            let text = db.names().text(*name);
            if text.starts_with('_') || known.contains(text) || !text.to_lowercase().starts_with(&wanted) {
                continue;
            }
            if outline::names::module_name(db, *other, *name).is_imported {
                continue;
            }
            if count == MOST_IMPORTS {
                return true;
            }
            count += 1;
            let ty = resolve::scope_type(db, *other, ScopeId(0), *name);
            let import = Some(module.to_owned());
            items.push(Item { import, ..plain(text.to_owned(), of_type(ty, text), format!("from {module}"), 80) });
        }
    }
    for module in super::library_coverage::bundled_modules() {
        if !module.contains('.') && module.to_lowercase().starts_with(&wanted) && !known.contains(&module) {
            let import = Some(String::new());
            items.push(Item { import, ..plain(module.clone(), ItemKind::Module, format!("import {module}"), 85) });
        }
    }
    false
}

/// Arguments by name, and literals, of the call that is being written.
fn arguments(reader: &mut Reader<'_>, lead: &str, offset: TextSize, items: &mut Vec<Item>) {
    let Some(call) = signature::around(reader, offset) else { return compared(reader, lead, None, items) };
    let db = reader.db;
    let names = |param: &crate::types::SignatureParam| db.names().text(param.name).to_owned();
    let begins = lead.ends_with(['(', ',']);
    for signature in &call.signatures {
        for param in signature.params.iter().filter(|_| begins) {
            let name = names(param);
            let by_name = matches!(param.kind, ParamKind::Normal | ParamKind::KeywordOnly);
            if by_name && !name.is_empty() && !name.starts_with('_') && !call.named.contains(&name) {
                let near = if param.optional { 2 } else { 0 };
                let insert = Some(format!("{name}="));
                let item = plain(format!("{name}="), ItemKind::Argument, short(db, param.ty), near);
                items.push(Item { insert, ..item });
            }
        }
        if let Some(place) = signature.reached(call.place, call.keyword.as_deref(), &names)
            && (begins || lead.ends_with('='))
        {
            literals(db, signature.params[place].ty, None, items);
        }
    }
    compared(reader, lead, None, items);
}

/// What a place is compared with: `tide == …`.
fn compared(reader: &mut Reader<'_>, lead: &str, quote: Option<char>, items: &mut Vec<Item>) {
    let Some(left) = lead.strip_suffix("==").or_else(|| lead.strip_suffix("!=")) else { return };
    if let Some(object) = object_before(reader, size(left.trim_end().len())) {
        let ty = reader.type_of(object);
        literals(reader.db, ty, quote, items);
    }
}

/// The literals that a type is made of; inside of a quote those that are texts, without their quotes.
fn literals(db: &dyn Db, ty: Type, quote: Option<char>, items: &mut Vec<Item>) {
    let store = db.store();
    for part in parts(store, &ty) {
        match *part {
            Type::Literal(id) => {
                let (label, kind) = match *store.literal(id) {
                    Literal::Str(text) => {
                        let own = db.names().text(text);
                        (if quote.is_some() { own.to_owned() } else { format!("\"{own}\"") }, ItemKind::Literal)
                    }
                    Literal::Enum(class, name) => {
                        let class = db.names().text(outline::class_name(db, class));
                        (format!("{class}.{}", db.names().text(name)), ItemKind::EnumMember)
                    }
                    Literal::Int(_) | Literal::Bool(_) | Literal::Bytes(_) if quote.is_none() => (
                        show(db, *part).trim_start_matches("Literal[").trim_end_matches(']').to_owned(),
                        ItemKind::Literal,
                    ),
                    _ => continue,
                };
                let insert = Some(label.clone());
                items.push(Item { insert, ..plain(label, kind, String::new(), 0) });
            }
            Type::Instance(id) if quote.is_none() => {
                let class = store.instance(id).class;
                for name in classes::enum_members(db, class) {
                    let label =
                        format!("{}.{}", db.names().text(outline::class_name(db, class)), db.names().text(name));
                    let insert = Some(label.clone());
                    items.push(Item { insert, ..plain(label, ItemKind::EnumMember, String::new(), 1) });
                }
            }
            _ => {}
        }
    }
}

/// What may stand in a text: keys of typed dictionaries, and literals that are asked for.
fn texts(reader: &mut Reader<'_>, before: &str, start: usize, quote: char, offset: TextSize, items: &mut Vec<Item>) {
    let Some(lead) = before[..start].strip_suffix(quote) else { return };
    let lead = lead.trim_end();
    let db = reader.db;
    let object = if let Some(object) = lead.strip_suffix('[') {
        object_before(reader, size(object.len()))
    } else if let Some(object) = lead.strip_suffix(".get(").or_else(|| lead.strip_suffix(".pop(")) {
        object_before(reader, size(object.len()))
    } else {
        None
    };
    if let Some(object) = object {
        let ty = reader.type_of(object);
        let all = parts(db.store(), &ty).to_vec();
        for part in all {
            for field in reader.infer(BodyId(0)).typed_dict_fields(part).unwrap_or_default() {
                let name = db.names().text(field.name).to_owned();
                items.push(plain(name, ItemKind::Key, short(db, field.ty), u32::from(field.optional)));
            }
        }
    }
    if let Some(call) = signature::around(reader, offset) {
        let names = |param: &crate::types::SignatureParam| db.names().text(param.name).to_owned();
        for signature in &call.signatures {
            if let Some(place) = signature.reached(call.place, call.keyword.as_deref(), &names) {
                literals(db, signature.params[place].ty, Some(quote), items);
            }
        }
    }
    compared(reader, lead, Some(quote), items);
}
