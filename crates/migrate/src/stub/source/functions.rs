//! Functions of a stub that is written from source.

use std::fmt::Write as _;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::resolve::own_name;
use leitmotiv_engine::types::{Binding, ClassRef, SignatureId, Type};
use leitmotiv_index::tree::{DefKind, Expr, ExprId, FunctionId, ModuleIndex, ParamKind};
use leitmotiv_syntax::names::known;

use super::Writer;
use crate::docstrings;
use crate::stub::text::words;

impl Writer<'_> {
    pub(super) fn function(&mut self, function: FunctionId, depth: usize) {
        let index = self.index;
        let record = &index.functions[function];
        let overloads = &leitmotiv_engine::outline::function(self.db, self.file, function).signatures;
        if overloads.len() > 1 || overloads.first() != Some(&function) {
            self.imports.insert(("typing".into(), "overload".into()));
            for overload in overloads.iter() {
                let _ = writeln!(self.body, "{}@overload", "    ".repeat(depth));
                self.decorators(*overload, depth);
                self.signature(*overload, depth);
            }
            return;
        }
        let indent = "    ".repeat(depth);
        let name = self.db.names().text(record.name).to_owned();
        match functions::value(self.db, self.file, function) {
            // A function under a decorator that cannot be followed is whatever that makes of it.
            value if value.is_dynamic() => {
                let any = self.unknown();
                let _ = writeln!(self.body, "{indent}{name}: {any}");
                return;
            }
            Type::Callable(id) => {
                let binding = leitmotiv_engine::outline::function(self.db, self.file, function).binding;
                let has_receiver = record.class.is_some() && binding != Binding::Static;
                if let Some(made) = self.made_signature(&name, id, has_receiver) {
                    self.decorators(function, depth);
                    let _ = writeln!(self.body, "{indent}{made}");
                    return;
                }
            }
            // A descriptor, or an object that stands for the function.
            value @ (Type::Instance(_) | Type::Property(_)) if !self.is_plain_property(function) => {
                let ty = match record.class {
                    Some(class) => self.of_object(ClassRef { file: self.file, class }, record.name).unwrap_or(value),
                    None => value,
                };
                let spelled = self.spell(ty);
                if spelled.is_some() || record.class.is_some() {
                    let spelled = spelled.unwrap_or_else(|| self.unknown());
                    let _ = writeln!(self.body, "{indent}{name}: {spelled}");
                    return;
                }
            }
            _ => {}
        }
        self.decorators(function, depth);
        self.signature(function, depth);
        self.accessors(function, depth);
    }

    /// The decorators that say how a function is bound and that it is abstract.
    fn decorators(&mut self, function: FunctionId, depth: usize) {
        let index = self.index;
        let indent = "    ".repeat(depth);
        if let Some(wrapped) = self.wrapped_later(function) {
            let _ = writeln!(self.body, "{indent}@{wrapped}");
        }
        for decorator in &index.functions[function].decorators {
            match index.exprs[*decorator] {
                Expr::Name(name @ (known::PROPERTY | known::STATICMETHOD | known::CLASSMETHOD), _) => {
                    let _ = writeln!(self.body, "{indent}@{}", self.db.names().text(name));
                }
                Expr::Name(known::ABSTRACTMETHOD, _) | Expr::Attribute { name: known::ABSTRACTMETHOD, .. } => {
                    self.imports.insert(("abc".into(), "abstractmethod".into()));
                    let _ = writeln!(self.body, "{indent}@abstractmethod");
                }
                _ => {}
            }
        }
    }

    /// Whether `@property` stands among a function's decorators.
    fn is_plain_property(&self, function: FunctionId) -> bool {
        let decorators = &self.index.functions[function].decorators;
        decorators.iter().any(|decorator| matches!(self.index.exprs[*decorator], Expr::Name(known::PROPERTY, _)))
    }

    /// The setter and deleter of a property.
    fn accessors(&mut self, getter: FunctionId, depth: usize) {
        let index = self.index;
        let record = &index.functions[getter];
        let scope = &index.scopes[index.defs[record.def].scope];
        let defs = scope.symbols.get(&record.name).map(|symbol| symbol.defs.as_slice()).unwrap_or_default();
        for def in defs {
            let DefKind::Function(accessor) = index.defs[*def].kind else { continue };
            let how = index.functions[accessor].decorators.iter().find_map(|decorator| match index.exprs[*decorator] {
                Expr::Attribute { name: how @ (known::SETTER | known::DELETER), .. } => Some(how),
                _ => None,
            });
            if let Some(how) = how {
                let (name, how) = (self.db.names().text(record.name), self.db.names().text(how));
                let _ = writeln!(self.body, "{}@{name}.{how}", "    ".repeat(depth));
                self.signature(accessor, depth);
            }
        }
    }

    /// `sound = classmethod(sound)` behind the definition, as was written before there were decorators.
    fn wrapped_later(&self, function: FunctionId) -> Option<&'static str> {
        let record = &self.index.functions[function];
        let scope = &self.index.scopes[self.index.defs[record.def].scope];
        scope.symbols.get(&record.name)?.defs.iter().find_map(|def| {
            let DefKind::Assign { value, .. } = self.index.defs[*def].kind else { return None };
            let Expr::Call { callee, .. } = &self.index.exprs[value] else { return None };
            match self.index.exprs[*callee] {
                Expr::Name(known::CLASSMETHOD, _) => Some("classmethod"),
                Expr::Name(known::STATICMETHOD, _) => Some("staticmethod"),
                _ => None,
            }
        })
    }

    /// A function whose decorators made another signature; `None` where that has parameters without names.
    fn made_signature(&mut self, name: &str, id: SignatureId, has_receiver: bool) -> Option<String> {
        let signature = self.db.store().signature(id).clone();
        let mut parts: Vec<String> = Vec::new();
        let mut has_star = false;
        for (place, param) in signature.params.iter().enumerate() {
            let own = self.db.names().text(param.name);
            if own.is_empty() {
                return None;
            }
            let stars = match param.kind {
                ParamKind::VarArgs => "*",
                ParamKind::KwArgs => "**",
                _ => "",
            };
            if param.kind == ParamKind::KeywordOnly && !has_star {
                parts.push("*".into());
            }
            has_star |= matches!(param.kind, ParamKind::VarArgs | ParamKind::KeywordOnly);
            let own = own.to_owned();
            let is_receiver = place == 0 && has_receiver;
            let ty = if is_receiver { None } else { self.spell(param.ty) };
            let ty = ty.map(|ty| format!(": {ty}")).unwrap_or_default();
            let default = match (param.optional, ty.is_empty()) {
                (false, _) => "",
                (true, true) => "=...",
                (true, false) => " = ...",
            };
            parts.push(format!("{stars}{own}{ty}{default}"));
            let next = signature.params.get(place + 1);
            if param.kind == ParamKind::PositionalOnly && next.is_none_or(|next| next.kind != ParamKind::PositionalOnly)
            {
                parts.push("/".into());
            }
        }
        let returns = self.spell(signature.returns).map(|returns| format!(" -> {returns}")).unwrap_or_default();
        Some(format!("def {name}({}){returns}: ...", parts.join(", ")))
    }

    fn signature(&mut self, function: FunctionId, depth: usize) {
        let index = self.index;
        let record = &index.functions[function];
        let mut infer = Infer::new(
            self.db,
            self.file,
            leitmotiv_engine::outline::functions::enclosing_body(self.db, self.file, function),
        );
        let told = self.docstring(function);
        let mut params: Vec<String> = Vec::with_capacity(record.params.len());
        let mut star = false;
        for (place, param) in record.params.iter().enumerate() {
            let name = self.db.names().text(param.name);
            let prefix = match param.kind {
                ParamKind::VarArgs => {
                    star = true;
                    "*"
                }
                ParamKind::KwArgs => "**",
                ParamKind::KeywordOnly => {
                    if !star {
                        params.push("*".into());
                        star = true;
                    }
                    ""
                }
                ParamKind::PositionalOnly | ParamKind::Normal => "",
            };
            let is_receiver = place == 0 && record.class.is_some() && param.annotation.is_none();
            let ty = match (param.annotation, param.default) {
                (Some(annotation), _) => self.annotation(annotation),
                // A default is evidence enough for a stub, unless it is None.
                (None, Some(default)) if !is_receiver => {
                    let ty = infer.expr(default);
                    let ty = infer.widen(ty);
                    let told = told.params.get(name).cloned();
                    match (ty, told) {
                        (Type::None, Some(told)) if words(&told).any(|word| word == "None") => Some(told),
                        (Type::None, Some(told)) => Some(format!("{told} | None")),
                        (Type::None, None) => None,
                        (_, Some(told)) => Some(told),
                        (ty, None) => self.spell(ty),
                    }
                }
                (None, None) if !is_receiver => told.params.get(name).cloned(),
                _ => None,
            };
            if param.annotation.is_none()
                && let Some(ty) = &ty
            {
                words(ty).for_each(|word| self.name_import(word));
            }
            let mut text = format!("{prefix}{name}");
            if let Some(ty) = &ty {
                let _ = write!(text, ": {ty}");
            }
            if let Some(default) = param.default {
                let value = constant(self.db, self.file, index, default);
                text.push_str(if ty.is_some() { " = " } else { "=" });
                text.push_str(&value);
            }
            params.push(text);
            let last_positional = param.kind == ParamKind::PositionalOnly
                && record.params.get(place + 1).is_none_or(|next| next.kind != ParamKind::PositionalOnly);
            if last_positional {
                params.push("/".into());
            }
        }
        let returns = if record.name == known::INIT {
            Some("None".to_owned())
        } else {
            let ty = functions::return_type(self.db, self.file, function);
            let ty = match ty {
                Type::Instance(id) if record.is_async && index.bodies[record.body].yields.is_empty() => {
                    self.db.store().instance(id).args.get(2).copied().unwrap_or(ty)
                }
                ty => ty,
            };
            let inferred = match record.returns {
                Some(annotation) => self.annotation(annotation),
                None => self.spell(ty),
            };
            match (inferred, &told.returns) {
                (None, Some(told)) => {
                    words(told).for_each(|word| self.name_import(word));
                    Some(told.clone())
                }
                (inferred, _) => inferred,
            }
        };
        let arrow = returns.map(|returns| format!(" -> {returns}")).unwrap_or_default();
        let keyword = if record.is_async { "async def" } else { "def" };
        let name = self.db.names().text(record.name);
        let _ = writeln!(self.body, "{}{keyword} {name}({}){arrow}: ...", "    ".repeat(depth), params.join(", "));
    }

    /// The types that a function's docstring names.
    fn docstring(&self, function: FunctionId) -> docstrings::Told {
        let Some(range) = self.index.functions[function].docstring else { return docstrings::Told::default() };
        let text = self.file.text(self.db);
        let doc = text.get(usize::from(range.start())..usize::from(range.end())).unwrap_or_default();
        docstrings::types(docstrings::unquoted(doc), &|name| {
            let name = self.db.names().find(name);
            name.is_some_and(|name| matches!(own_name(self.db, self.file, name), Some(Type::Class(_))))
        })
    }
}

/// A default as a stub shows it: simple constants as they are, anything else as dots.
fn constant(db: &Database, file: File, index: &ModuleIndex, expr: ExprId) -> String {
    match index.exprs[expr] {
        Expr::None | Expr::Bool(_) | Expr::Int(_) | Expr::Float | Expr::Str(Some(_)) => {
            let range = index.spans[expr];
            let text = file.text(db).get(usize::from(range.start())..usize::from(range.end())).unwrap_or_default();
            if text.contains(['\n', '\r']) || text.is_empty() { "...".into() } else { text.to_owned() }
        }
        _ => "...".into(),
    }
}
