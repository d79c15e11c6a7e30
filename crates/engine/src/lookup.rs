//! What is known of a name or a position.

use leitmotiv_index::tree::{BodyId, ExprId, ScopeId};
use leitmotiv_syntax::names::{Name, known};
use leitmotiv_syntax::{TextRange, TextSize};

use crate::classes::{self, members};
use crate::db::{Db, File};
use crate::functions;
use crate::infer::Infer;
use crate::module::{self, module_index};
use crate::types::Type;
use crate::types::display::show;

/// What was found.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Answer {
    /// What was asked for, as text.
    pub subject: String,
    /// Its type.
    pub ty: Type,
    /// Where it is defined, if that can be told.
    pub defined: Option<(File, TextRange)>,
}

/// The expression at an offset, innermost, and its type.
#[must_use]
pub fn at(db: &dyn Db, file: File, offset: TextSize) -> Option<Answer> {
    let index = module_index(db, file);
    let expr = index
        .spans_iter()
        .filter(|(_, span)| span.contains_inclusive(offset))
        .min_by_key(|(expr, span)| (span.len(), std::cmp::Reverse(*expr)))
        .map(|(expr, _)| expr)?;
    let body = body_of(db, file, expr);
    let mut infer = Infer::new(db, file, body);
    // The whole body, so that lambdas and displays have been seen where they stand.
    infer.check();
    let ty = infer.expr(expr);
    let subject = crate::rules::excerpt(db, file, index.spans[expr]);
    let way = crate::evidence::of(&mut infer, expr, &mut |_, _| true);
    let defined = definition_of(db, ty).or_else(|| way.first().map(|step| (step.file, step.range)));
    Some(Answer { subject, ty, defined })
}

fn body_of(db: &dyn Db, file: File, expr: ExprId) -> BodyId {
    let index = module_index(db, file);
    index.bodies.iter().find(|(_, body)| body.exprs.contains(&expr.0)).map_or(BodyId(0), |(id, _)| id)
}

/// What a dotted name means: a module and names in it, or a built-in name.
#[must_use]
pub fn named(db: &dyn Db, dotted: &str) -> Option<Answer> {
    let parts: Vec<&str> = dotted.split('.').collect();
    if parts.iter().any(|part| part.is_empty()) {
        return None;
    }
    for split in (0..=parts.len()).rev() {
        let (file, rest) = if split == 0 {
            (module::standard_module(db, known::BUILTINS)?, &parts[..])
        } else {
            let name = db.names().intern(&parts[..split].join("."));
            match db.module_file(name, None) {
                Some(file) => (file, &parts[split..]),
                None => continue,
            }
        };
        if let Some(answer) = within(db, file, dotted, rest) {
            return Some(answer);
        }
    }
    None
}

fn within(db: &dyn Db, file: File, dotted: &str, parts: &[&str]) -> Option<Answer> {
    let mut ty = Type::Module(file);
    let mut defined = Some((file, TextRange::default()));
    let mut infer = Infer::new(db, file, BodyId(0));
    for part in parts {
        let name = db.names().intern(part);
        defined = place_of(db, ty, name).or(defined);
        ty = match ty {
            Type::Class(id) => match members::find(db, id, name, None) {
                // As it stands in the class, methods with their first parameter.
                Some(found) => found.member.ty,
                None => infer.class_member(ty, id, name)?,
            },
            other => infer.member(other, name)?,
        };
    }
    Some(Answer { subject: dotted.to_owned(), ty, defined: definition_of(db, ty).or(defined) })
}

fn place_of(db: &dyn Db, owner: Type, name: Name) -> Option<(File, TextRange)> {
    match owner {
        Type::Module(file) => {
            let index = module_index(db, file);
            let symbol = index.scopes[ScopeId(0)].symbols.get(&name)?;
            symbol.defs.first().map(|def| (file, index.defs[*def].range))
        }
        Type::Class(id) => members::find(db, id, name, None).map(|found| Infer::member_range(db, found)),
        _ => None,
    }
}

/// Where the class or function that a type is lies.
#[must_use]
pub fn definition_of(db: &dyn Db, ty: Type) -> Option<(File, TextRange)> {
    let store = db.store();
    match ty {
        Type::Class(id) => {
            let class = store.instance(id).class;
            Some((class.file, module_index(db, class.file).classes[class.class].name_range))
        }
        Type::Function(id) | Type::Property(id) => {
            let function = store.function(id);
            Some((function.file, module_index(db, function.file).functions[function.function].name_range))
        }
        Type::Method(id) => definition_of(db, store.method(id).function),
        Type::Module(file) => Some((file, TextRange::default())),
        _ => None,
    }
}

/// The signatures of a callable, one line each; overloads in order.
#[must_use]
pub fn signatures(db: &dyn Db, ty: Type) -> Vec<String> {
    let store = db.store();
    match ty {
        Type::Function(id) | Type::Property(id) => {
            let function = *store.function(id);
            functions::overloads(db, function.file, function.function)
                .iter()
                .map(|overload| {
                    let one = crate::types::FunctionRef { function: *overload, ..function };
                    show(db, Type::Function(store.intern_function(one)))
                })
                .collect()
        }
        Type::Method(id) => signatures(db, store.method(id).function),
        _ => Vec::new(),
    }
}

/// A class's members: name, type, and the class that has it.
#[must_use]
pub fn class_members(db: &dyn Db, ty: Type) -> Vec<(String, String, String)> {
    let Type::Class(id) = ty else { return Vec::new() };
    let mut seen: Vec<Name> = Vec::new();
    let mut rows = Vec::new();
    for name in members::names(db, id) {
        if seen.contains(&name) {
            continue;
        }
        seen.push(name);
        let Some(found) = members::find(db, id, name, None) else { continue };
        let owner = db.store().instance(found.owner).class;
        let text = db.names().text(name).to_owned();
        rows.push((text, show(db, found.member.ty), classes::shown(db, owner).to_owned()));
    }
    rows
}
