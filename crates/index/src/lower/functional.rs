//! Classes that are made by a call: `NamedTuple("Leg", …)`, `namedtuple("Leg", …)`, `TypedDict("Fare", …)`,
//! `Enum("Tide", …)`, `NewType("Berth", int)` (typing specification, "Named tuples", "Typed dictionaries", "Enumerations",
//! "Type aliases: NewType"). Where the call can be read, it gives the same records as a class statement.

use leitmotiv_syntax::ast::{self, Expr as Ast};
use leitmotiv_syntax::names::Name;
use leitmotiv_syntax::{Ranged, TextRange};
use rustc_hash::FxHashMap;

use super::Lower;
use crate::bindings::Bindings;
use crate::tree::*;

/// A member of a class made by a call, before it is lowered.
struct Member<'a> {
    name: Name,
    range: TextRange,
    annotation: Option<&'a Ast>,
    value: Option<&'a Ast>,
    optional: bool,
}

impl<'a> Lower<'a> {
    /// The class that a call makes, with the name it is given; `None` where the call makes none, or cannot be read.
    pub(super) fn functional_class(&mut self, call: &'a ast::ExprCall, name: Name, at: TextRange) -> Option<ClassId> {
        let form = self.functional_form(&call.func)?;
        let [Ast::StringLiteral(_), second, ..] = &*call.arguments.args else { return None };
        if call.arguments.args.iter().any(Ast::is_starred_expr) {
            return None;
        }
        let members = match form {
            // With more arguments, or fewer, it is a call like any other.
            ClassForm::NewType if call.arguments.len() != 2 => return None,
            ClassForm::NewType => Vec::new(),
            ClassForm::NamedTuple => self.typed_fields(second)?,
            ClassForm::PlainTuple => self.plain_fields(second, call)?,
            ClassForm::TypedDict => self.dict_items(second)?,
            ClassForm::Enum => self.enum_members(second)?,
            ClassForm::Statement => return None,
        };
        let callee = self.expr(&call.func);
        let base = if form == ClassForm::NewType { self.annotation(second) } else { callee };
        let mut args = vec![Arg { kind: ArgKind::Positional, value: base }];
        if form == ClassForm::TypedDict {
            for keyword in &call.arguments.keywords {
                if let Some(key) = &keyword.arg {
                    let key = self.names.get(key.as_str());
                    let value = self.expr(&keyword.value);
                    args.push(Arg { kind: ArgKind::Keyword(key), value });
                }
            }
        }
        let lowered: Vec<(Name, TextRange, DefKind)> =
            members.into_iter().map(|member| self.functional_member(form, &member)).collect();
        let number = self.definition_number(1, self.scope(), self.names.text(name));
        let class = self.index.classes.free(number);
        let mut bindings = Bindings::default();
        bindings.names.extend(lowered.iter().map(|(name, ..)| (*name, leitmotiv_syntax::TextSize::default())));
        let parent = self.scope();
        let scope = self.open_scope(ScopeKind::Class(class), Some(parent), bindings);
        let record = Class {
            name,
            name_range: at,
            range: at,
            scope,
            parent,
            body: self.body,
            args: args.into_boxed_slice(),
            decorators: Box::default(),
            def: DefId(0),
            docstring: None,
            attributes: FxHashMap::default(),
            methods: Vec::new(),
            type_params: Box::default(),
            set_by_init: rustc_hash::FxHashSet::default(),
            makes_attributes: false,
            rewrites: rustc_hash::FxHashSet::default(),
            form,
        };
        self.index.classes.push(class, record);
        self.scopes.push(scope);
        for (name, range, kind) in lowered {
            self.define(name, range, kind);
        }
        self.record_exits(scope);
        self.scopes.pop();
        Some(class)
    }

    /// A class made by a call among the bases of another.
    pub(super) fn base_class(&mut self, call: &'a ast::ExprCall) -> Option<ExprId> {
        let Some(Ast::StringLiteral(text)) = call.arguments.args.first() else { return None };
        let (name, range) = (self.names.get(text.value.to_str()), text.range());
        let class = self.functional_class(call, name, range)?;
        let (body, scope, reach) = (self.body, self.scope(), self.flow.reach);
        let def = self.index.defs.push(Def { kind: DefKind::Class(class), name, range, body, scope, reach });
        self.index.classes[class].def = def;
        let value = self.index.values.push(Value::Def(def));
        Some(self.push(Expr::Name(name, value), call.range()))
    }

    fn functional_member(&mut self, form: ClassForm, member: &Member<'a>) -> (Name, TextRange, DefKind) {
        let value = match member.value {
            Some(value) => Some(self.expr(value)),
            None if member.optional => Some(self.push(Expr::Ellipsis, member.range)),
            None => None,
        };
        let kind = if form == ClassForm::Enum {
            let value = value.unwrap_or_else(|| self.push(Expr::Int(None), member.range));
            DefKind::Assign { value, unpack: None, comment: None }
        } else {
            let annotation = match member.annotation {
                Some(annotation) => self.annotation(annotation),
                // Nobody said what it is.
                None => self.push(Expr::Invalid, member.range),
            };
            DefKind::Annotated { annotation, value }
        };
        (member.name, member.range, kind)
    }

    /// What a callee makes, by where it is imported from.
    fn functional_form(&mut self, callee: &'a Ast) -> Option<ClassForm> {
        let (name, module) = match callee {
            Ast::Name(name) => {
                let bound = self.names.get(name.id.as_str());
                let symbol = self.index.scopes[ScopeId(0)].symbols.get(&bound)?;
                symbol.defs.iter().find_map(|def| match self.index.defs[*def].kind {
                    DefKind::ImportFrom { module, name, level: 0, .. } => Some((name, module)),
                    _ => None,
                })?
            }
            Ast::Attribute(attribute) => {
                let Ast::Name(module) = &*attribute.value else { return None };
                let bound = self.names.get(module.id.as_str());
                let name = self.names.get(attribute.attr.as_str());
                let symbol = self.index.scopes[ScopeId(0)].symbols.get(&bound)?;
                let module = symbol.defs.iter().find_map(|def| match self.index.defs[*def].kind {
                    DefKind::Import { module, .. } => Some(module),
                    _ => None,
                })?;
                (name, module)
            }
            _ => return None,
        };
        Some(match (self.name_text(module), self.name_text(name)) {
            ("typing" | "typing_extensions", "NamedTuple") => ClassForm::NamedTuple,
            ("typing" | "typing_extensions", "TypedDict") => ClassForm::TypedDict,
            ("typing" | "typing_extensions", "NewType") => ClassForm::NewType,
            ("collections", "namedtuple") => ClassForm::PlainTuple,
            ("enum", "Enum" | "IntEnum" | "StrEnum" | "Flag" | "IntFlag") => ClassForm::Enum,
            _ => return None,
        })
    }

    /// `[("port", str), ("tide", int)]`
    fn typed_fields(&mut self, fields: &'a Ast) -> Option<Vec<Member<'a>>> {
        items(fields)?
            .iter()
            .map(|field| {
                let [name, annotation] = items(field)? else { return None };
                let (name, range) = self.text_of(name)?;
                Some(Member { name, range, annotation: Some(annotation), value: None, optional: false })
            })
            .collect()
    }

    /// `"port tide"` or `["port", "tide"]`, with `defaults=`.
    fn plain_fields(&mut self, fields: &'a Ast, call: &'a ast::ExprCall) -> Option<Vec<Member<'a>>> {
        let mut members = self.names_in(fields)?;
        for keyword in &call.arguments.keywords {
            match keyword.arg.as_ref().map(ast::Identifier::as_str) {
                Some("module" | "verbose") => {}
                Some("defaults") => {
                    // How many there are may not be readable; then any field may be left out.
                    let count = count_of(&keyword.value).unwrap_or(members.len());
                    let first = members.len().saturating_sub(count);
                    for member in &mut members[first..] {
                        member.optional = true;
                    }
                }
                _ => return None,
            }
        }
        Some(members)
    }

    /// `{"adult": float, "child": float}`
    fn dict_items(&mut self, items: &'a Ast) -> Option<Vec<Member<'a>>> {
        let Ast::Dict(dict) = items else { return None };
        dict.items
            .iter()
            .map(|item| {
                // A key need be no name (typing specification, "Typed dictionaries": alternative syntax).
                let Ast::StringLiteral(key) = item.key.as_ref()? else { return None };
                let name = self.names.get(key.value.to_str());
                Some(Member { name, range: key.range(), annotation: Some(&item.value), value: None, optional: false })
            })
            .collect()
    }

    /// `"HIGH LOW"`, `["HIGH", "LOW"]`, `[("HIGH", 1)]` or `{"HIGH": 1}`.
    fn enum_members(&mut self, members: &'a Ast) -> Option<Vec<Member<'a>>> {
        if let Ast::Dict(dict) = members {
            return dict
                .items
                .iter()
                .map(|item| {
                    let (name, range) = self.text_of(item.key.as_ref()?)?;
                    Some(Member { name, range, annotation: None, value: Some(&item.value), optional: false })
                })
                .collect();
        }
        if let Some(pairs) = items(members)
            && pairs.first().is_some_and(|first| items(first).is_some())
        {
            return pairs
                .iter()
                .map(|pair| {
                    let [name, value] = items(pair)? else { return None };
                    let (name, range) = self.text_of(name)?;
                    Some(Member { name, range, annotation: None, value: Some(value), optional: false })
                })
                .collect();
        }
        self.names_in(members)
    }

    /// Names in one text, or each in its own.
    fn names_in(&mut self, names: &'a Ast) -> Option<Vec<Member<'a>>> {
        let plain = |name, range| Member { name, range, annotation: None, value: None, optional: false };
        if let Ast::StringLiteral(text) = names {
            let split = |c: char| c == ',' || c.is_whitespace();
            let parts = text.value.to_str().split(split).filter(|part| !part.is_empty());
            return parts.map(|part| is_name(part).then(|| plain(self.names.get(part), text.range()))).collect();
        }
        items(names)?
            .iter()
            .map(|name| {
                let (name, range) = self.text_of(name)?;
                Some(plain(name, range))
            })
            .collect()
    }

    fn text_of(&mut self, text: &'a Ast) -> Option<(Name, TextRange)> {
        let Ast::StringLiteral(text) = text else { return None };
        is_name(text.value.to_str()).then(|| (self.names.get(text.value.to_str()), text.range()))
    }
}

fn is_name(text: &str) -> bool {
    text.chars().next().is_some_and(|first| first.is_alphabetic() || first == '_')
        && text.chars().all(|c| c.is_alphanumeric() || c == '_')
}

fn items(display: &Ast) -> Option<&[Ast]> {
    match display {
        Ast::List(list) => Some(&list.elts),
        Ast::Tuple(tuple) => Some(&tuple.elts),
        _ => None,
    }
}

/// How many items `(1, 2)`, `[None]` or `(None,) * 3` has.
fn count_of(expr: &Ast) -> Option<usize> {
    if let Some(items) = items(expr) {
        return (!items.iter().any(Ast::is_starred_expr)).then_some(items.len());
    }
    let Ast::BinOp(product) = expr else { return None };
    let Ast::NumberLiteral(ast::ExprNumberLiteral { value: ast::Number::Int(times), .. }) = &*product.right else {
        return None;
    };
    (product.op == ast::Operator::Mult).then_some(items(&product.left)?.len() * times.as_usize()?)
}
