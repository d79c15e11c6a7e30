//! A module's stub from what the interpreter has once the module is imported: for machine code, and for names that are made as a
//! module runs.

use std::collections::{BTreeMap, BTreeSet};
use std::fmt::Write as _;

use crate::docstrings;

use super::running::{Class, Described, Function, Item, Named, Param};
use super::text::words;

/// The stub of a module as it was described.
#[must_use]
pub fn from_running(module: &Described) -> String {
    let classes = module
        .names
        .iter()
        .filter_map(|(name, item)| matches!(item, Item::Class(_)).then_some(name.as_str()))
        .collect();
    let mut draft = Draft { module, classes, imports: BTreeMap::new(), body: String::new() };
    draft.names();
    draft.finish()
}

struct Draft<'a> {
    module: &'a Described,
    /// The classes that the module itself has.
    classes: BTreeSet<&'a str>,
    imports: BTreeMap<String, BTreeSet<String>>,
    body: String,
}

impl Draft<'_> {
    fn names(&mut self) {
        let module = self.module;
        let mut written: BTreeSet<&str> = BTreeSet::new();
        for (name, item) in module.public() {
            written.insert(name);
            self.item(name, item);
        }
        // Classes that are not for others, but that what is written names.
        loop {
            let before = written.len();
            for (name, item) in &module.names {
                if matches!(item, Item::Class(_))
                    && !written.contains(name.as_str())
                    && words(&self.body).any(|word| word == name)
                {
                    written.insert(name);
                    self.item(name, item);
                }
            }
            if written.len() == before {
                break;
            }
        }
        if let Some(all) = &module.all {
            let all: Vec<String> = all.iter().map(|name| format!("\"{name}\"")).collect();
            let _ = writeln!(self.body, "\n__all__ = [{}]", all.join(", "));
        }
    }

    fn item(&mut self, name: &str, item: &Item) {
        match item {
            Item::Module { named } => {
                let full = named.name.as_deref().unwrap_or(name);
                match full.rsplit_once('.') {
                    Some((package, last)) => self.line(0, &format!("from {package} import {last} as {name}")),
                    None => self.line(0, &format!("import {full} as {name}")),
                }
            }
            Item::Alias { named } => {
                if let (Some(from), Some(original)) = (&named.module, &named.name)
                    && !original.contains('.')
                {
                    self.line(0, &format!("from {from} import {original} as {name}"));
                } else {
                    let any = self.any();
                    self.line(0, &format!("{name}: {any}"));
                }
            }
            Item::Class(class) => self.class_or_alias(name, class),
            Item::Function(function) | Item::Decorated(function) => self.function(0, name, function, Place::Module),
            Item::Value { ty, items, keys, params, .. } => match params {
                // Something made by a call that can be called: what it takes is known, what it is has no name.
                Some(params) if self.class(ty).is_none() => {
                    let function = Function { params: Some(params.clone()), ..Function::default() };
                    self.function(0, name, &function, Place::Module);
                }
                _ => {
                    let ty = self.value(ty, keys.as_deref(), items.as_deref());
                    self.line(0, &format!("{name}: {ty}"));
                }
            },
            _ => {}
        }
    }

    fn line(&mut self, depth: usize, text: &str) {
        let _ = writeln!(self.body, "{}{text}", "    ".repeat(depth));
    }

    fn import(&mut self, module: &str, name: &str) {
        self.imports.entry(module.to_owned()).or_default().insert(name.to_owned());
    }

    fn any(&mut self) -> String {
        self.import("typing", "Any");
        "Any".to_owned()
    }

    /// A class by a name that an annotation may have; `None` for those that have none.
    fn class(&mut self, named: &Named) -> Option<String> {
        let (module, name) = (named.module.as_deref()?, named.name.as_deref()?);
        if name.contains('<') {
            return None;
        }
        match (module, name) {
            ("builtins", "NoneType") => Some("None".to_owned()),
            (
                "builtins",
                "function" | "builtin_function_or_method" | "method" | "module" | "ellipsis" | "NotImplementedType",
            )
            | ("builtins", "mappingproxy" | "code" | "cell" | "type") => None,
            ("builtins", name) if !self.classes.contains(name) => Some(name.to_owned()),
            (module, name) if module == self.module.module => self.module.get(name).is_some().then(|| name.to_owned()),
            (_, name) if name.contains('.') || name.starts_with('_') => None,
            (_, name) if self.classes.contains(name) => Some(name.to_owned()),
            (module, name) => {
                let is_private = module.split('.').any(|part| part.starts_with('_'));
                if is_private {
                    return None;
                }
                self.import(module, name);
                Some(name.to_owned())
            }
        }
    }

    fn value(&mut self, ty: &Named, keys: Option<&[Named]>, items: Option<&[Named]>) -> String {
        let Some(name) = self.class(ty) else { return self.any() };
        match (name.as_str(), items) {
            ("list" | "set" | "frozenset", Some([item])) => match self.class(item) {
                Some(item) => format!("{name}[{item}]"),
                None => name,
            },
            ("tuple", Some([item])) => match self.class(item) {
                Some(item) => format!("tuple[{item}, ...]"),
                None => name,
            },
            ("dict", Some([item])) => match keys {
                Some([key]) => match (self.class(key), self.class(item)) {
                    (Some(key), Some(item)) => format!("dict[{key}, {item}]"),
                    _ => name,
                },
                _ => name,
            },
            // None says that something else will stand there.
            ("None", _) => self.any(),
            _ => name,
        }
    }

    fn class_or_alias(&mut self, name: &str, class: &Class) {
        let own = class.named.name.as_deref().unwrap_or(name);
        if own != name
            && self.classes.contains(own)
            && self.module.module == class.named.module.as_deref().unwrap_or_default()
        {
            self.line(0, &format!("{name} = {own}"));
        } else {
            self.class_body(0, name, class);
        }
    }

    fn class_body(&mut self, depth: usize, name: &str, class: &Class) {
        let mut bases = Vec::new();
        for base in &class.bases {
            if base.name.as_deref() == Some("object") || base.name.as_deref() == Some(name) {
                continue;
            }
            if let Some(base) = self.class(base) {
                bases.push(base);
            }
        }
        let metaclass = &class.metaclass;
        if metaclass.module.as_deref() == Some("abc")
            && !class.bases.iter().any(|base| base.name.as_deref() == Some("ABC"))
        {
            self.import("abc", "ABCMeta");
            bases.push("metaclass=ABCMeta".to_owned());
        }
        // Enumerations, and what native code does not let anyone derive from.
        if class.is_final && class.is_native && name != "bool" {
            self.import("typing", "final");
            self.line(depth, "@final");
        }
        let bases = if bases.is_empty() { String::new() } else { format!("({})", bases.join(", ")) };
        let _ = write!(self.body, "{}class {name}{bases}:", "    ".repeat(depth));
        let before = self.body.len();
        self.body.push('\n');
        let has_constructor = class.members.iter().any(|(name, _)| name == "__init__" || name == "__new__");
        for (name, item) in &class.members {
            self.member(depth + 1, name, item, class);
        }
        if class.is_native && has_constructor {
            self.constructor(depth + 1, class);
        }
        if self.body.len() == before + 1 {
            self.body.truncate(before);
            self.body.push_str(" ...\n");
        }
    }

    /// The constructor of machine code, from what its class says that it takes.
    fn constructor(&mut self, depth: usize, class: &Class) {
        let function = Function {
            params: class.params.as_ref().map(|params| {
                let mut all = vec![Param { name: "self".into(), kind: 1, ..Param::default() }];
                all.extend(params.iter().cloned());
                all
            }),
            doc: class.doc.clone(),
            named: Named { name: class.named.name.clone(), ..Named::default() },
            ..Function::default()
        };
        if class.params.is_some() || class.doc.is_some() {
            self.function(depth, "__init__", &function, Place::Method);
        }
    }

    fn member(&mut self, depth: usize, name: &str, item: &Item, class: &Class) {
        match item {
            // A slot of machine code says nothing; the class itself may.
            Item::Method(function) | Item::Static(function)
                if class.is_native && matches!(name, "__init__" | "__new__") && function.is_native => {}
            Item::Static(function) if name == "__new__" => self.function(depth, name, function, Place::Class),
            Item::Method(function) => self.function(depth, name, function, Place::Method),
            Item::Decorated(function) => self.function(depth, name, function, Place::Method),
            Item::Static(function) => {
                self.line(depth, "@staticmethod");
                self.function(depth, name, function, Place::Module);
            }
            Item::ClassMethod(function) => {
                self.line(depth, "@classmethod");
                self.function(depth, name, function, Place::Class);
            }
            Item::BoundClassMethod(function) => {
                let mut whole = function.clone();
                if let Some(params) = &mut whole.params {
                    params.insert(0, Param { name: "cls".into(), kind: 1, ..Param::default() });
                }
                self.line(depth, "@classmethod");
                self.function(depth, name, &whole, Place::Class);
            }
            Item::Property { settable: true, .. } => {
                let any = self.any();
                self.line(depth, &format!("{name}: {any}"));
            }
            Item::Property { settable: false, .. } => {
                self.line(depth, "@property");
                self.line(depth, &format!("def {name}(self): ..."));
            }
            Item::EnumMember { text, .. } => {
                let value = text.as_deref().unwrap_or("...");
                self.line(depth, &format!("{name} = {value}"));
            }
            Item::Class(inner) => self.class_body(depth, name, inner),
            Item::Alias { named } => {
                let any = self.any();
                let ty = self.class(named).map_or(any, |class| format!("type[{class}]"));
                self.line(depth, &format!("{name}: {ty}"));
            }
            Item::Value { ty, items, keys, .. } => {
                if name == "__hash__" {
                    self.line(depth, "__hash__: None");
                    return;
                }
                if name.starts_with("__") {
                    return;
                }
                let ty = self.value(ty, keys.as_deref(), items.as_deref());
                self.line(depth, &format!("{name}: {ty}"));
            }
            Item::Module { .. } | Item::Function(_) => {}
        }
    }

    fn function(&mut self, depth: usize, name: &str, function: &Function, place: Place) {
        let own = function.named.name.as_deref().map_or(name, |own| own.rsplit('.').next().unwrap_or(own));
        let classes = self.classes.clone();
        let is_class = |name: &str| classes.contains(name);
        let doc = function.doc.as_deref().unwrap_or_default();
        let told = docstrings::types(doc, &is_class);
        let signature = docstrings::signature(doc, own, &is_class);
        let mut parts: Vec<String> = Vec::new();
        match (&function.params, &signature) {
            (Some(params), _) => {
                let mut is_starred = false;
                for (at, param) in params.iter().enumerate() {
                    if param.kind == 3 && !is_starred {
                        parts.push("*".into());
                    }
                    is_starred |= param.kind >= 2;
                    let is_receiver = at == 0 && place != Place::Module;
                    let in_signature = signature.as_ref().and_then(|signature| {
                        signature.params.iter().find(|(name, ..)| *name == param.name)?.1.clone()
                    });
                    let told = told.params.get(&param.name).cloned().or(in_signature);
                    parts.push(self.param(param, told.filter(|_| !is_receiver)));
                    let ends = param.kind == 0 && params.get(at + 1).is_none_or(|next| next.kind != 0);
                    if ends {
                        parts.push("/".into());
                    }
                }
            }
            (None, Some(signature)) => {
                self.receiver(place, &mut parts);
                for (name, ty, default) in &signature.params {
                    let mut text = name.clone();
                    if let Some(ty) = ty {
                        let _ = write!(text, ": {ty}");
                    }
                    if let Some(default) = default {
                        let default = if is_constant(default) { default.as_str() } else { "..." };
                        text.push_str(if ty.is_some() { " = " } else { "=" });
                        text.push_str(default);
                    }
                    parts.push(text);
                }
            }
            (None, None) => {
                self.receiver(place, &mut parts);
                let any = self.any();
                parts.push(format!("*args: {any}"));
                parts.push(format!("**kwargs: {any}"));
            }
        }
        let returns = match fixed_result(name) {
            Some(fixed) => Some(fixed.to_owned()),
            None => signature.as_ref().and_then(|signature| signature.returns.clone()).or(told.returns),
        };
        let arrow = returns.map(|returns| format!(" -> {returns}")).unwrap_or_default();
        let keyword = if function.is_async { "async def" } else { "def" };
        self.line(depth, &format!("{keyword} {name}({}){arrow}: ...", parts.join(", ")));
    }

    fn receiver(&self, place: Place, parts: &mut Vec<String>) {
        match place {
            Place::Module => {}
            Place::Method => parts.push("self".into()),
            Place::Class => parts.push("cls".into()),
        }
    }

    fn param(&mut self, param: &Param, told: Option<String>) -> String {
        let stars = match param.kind {
            2 => "*",
            4 => "**",
            _ => "",
        };
        let from_default = param.default.as_ref().and_then(|default| {
            let name = default.ty.name.as_deref()?;
            let is_plain = matches!(name, "int" | "str" | "bytes" | "bool" | "float");
            (is_plain && default.ty.module.as_deref() == Some("builtins")).then(|| name.to_owned())
        });
        let ty = told.or(from_default);
        let mut text = format!("{stars}{}", param.name);
        if let Some(ty) = &ty {
            let _ = write!(text, ": {ty}");
        }
        if let Some(default) = &param.default {
            text.push_str(if ty.is_some() { " = " } else { "=" });
            text.push_str(default.text.as_deref().unwrap_or("..."));
        }
        text
    }

    fn finish(self) -> String {
        let version: Vec<String> = self.module.python.iter().take(2).map(u8::to_string).collect();
        let mut out = format!(
            "# Stub of `{}`, written by Leitmotiv from the module as Python {} imports it. Yours to edit.\n",
            self.module.module,
            version.join(".")
        );
        for (module, names) in &self.imports {
            let names: Vec<&str> = names.iter().map(String::as_str).collect();
            let _ = writeln!(out, "from {module} import {}", names.join(", "));
        }
        if !self.body.is_empty() {
            out.push('\n');
            out.push_str(self.body.trim_start_matches('\n'));
        }
        out
    }
}

/// Whether a function takes an object or a class first.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Place {
    Module,
    Method,
    Class,
}

/// What special methods give whatever they do (language reference, "Special method names").
fn fixed_result(name: &str) -> Option<&'static str> {
    Some(match name {
        "__init__" | "__setitem__" | "__delitem__" | "__set__" | "__delete__" | "__init_subclass__" => "None",
        "__len__" | "__index__" | "__int__" | "__hash__" | "__length_hint__" => "int",
        "__bool__" | "__contains__" => "bool",
        "__float__" => "float",
        "__complex__" => "complex",
        _ => return None,
    })
}

/// Whether text is a plain constant.
fn is_constant(text: &str) -> bool {
    let is_quoted = text.len() >= 2
        && ["'", "\""].iter().any(|quote| text.starts_with(quote) && text.ends_with(quote))
        && text[1..text.len() - 1].chars().all(|character| !matches!(character, '\'' | '"' | '\\'));
    matches!(text, "None" | "True" | "False") || text.parse::<i64>().is_ok() || is_quoted
}

#[cfg(test)]
mod tests {
    use super::*;

    fn described(names: &str) -> Described {
        let text =
            format!("{{\"module\": \"sonar\", \"python\": [3, 11, 7], \"platform\": \"linux\", \"names\": {names}}}");
        serde_json::from_str(&text).unwrap()
    }

    fn body(names: &str) -> String {
        let text = from_running(&described(names));
        text.split_once('\n').unwrap().1.to_owned()
    }

    #[test]
    fn functions_keep_their_parameters_and_take_types_from_defaults_and_docstrings() {
        let names = r#"[["sound", {"kind": "function", "is_native": true, "named": {"module": "sonar", "name": "sound"},
            "params": [{"name": "at", "kind": 0}, {"name": "ping", "kind": 1, "default": {"text": "3", "type": {"module": "builtins", "name": "int"}}},
                {"name": "key", "kind": 3, "default": {"text": null, "type": {"module": "builtins", "name": "object"}}}],
            "doc": ":param float at: where\n:rtype: str"}]]"#;
        assert_eq!(body(names), "\ndef sound(at: float, /, ping: int = 3, *, key=...) -> str: ...\n");
    }

    #[test]
    fn a_docstring_stands_in_for_parameters_that_are_not_told() {
        let names = r#"[["sound", {"kind": "function", "is_native": true, "named": {"name": "sound"}, "params": null,
            "doc": "sound(depth[, ping]) -> float"}], ["ping", {"kind": "function", "params": null}]]"#;
        let expected = "from typing import Any\n\ndef sound(depth, ping=...) -> float: ...\n\
            def ping(*args: Any, **kwargs: Any): ...\n";
        assert_eq!(body(names), expected);
    }

    #[test]
    fn classes_have_bases_members_and_the_constructor_that_they_tell() {
        let names = r#"[["Echo", {"kind": "class", "named": {"module": "sonar", "name": "Echo"}, "is_native": true, "is_final": true,
            "bases": [{"module": "builtins", "name": "Exception"}], "params": [{"name": "depth", "kind": 1}],
            "members": [["__new__", {"kind": "static", "is_native": true}], ["depth", {"kind": "property", "settable": false, "doc": null}],
                ["__len__", {"kind": "method", "is_native": true, "params": [{"name": "self", "kind": 0}]}],
                ["LIMIT", {"kind": "value", "type": {"module": "builtins", "name": "int"}, "text": "3"}]]}]]"#;
        let expected = "from typing import final\n\n@final\nclass Echo(Exception):\n    @property\n    def depth(self): ...\n    \
            def __len__(self, /) -> int: ...\n    LIMIT: int\n    def __init__(self, depth) -> None: ...\n";
        assert_eq!(body(names), expected);
    }

    #[test]
    fn values_and_names_of_other_modules_are_written_as_what_they_are() {
        let names = r#"[["DEPTHS", {"kind": "value", "type": {"module": "builtins", "name": "tuple"}, "items": [{"module": "builtins", "name": "int"}]}],
            ["LATER", {"kind": "value", "type": {"module": "builtins", "name": "NoneType"}, "text": "None"}],
            ["_own", {"kind": "value", "type": {"module": "builtins", "name": "int"}}]]"#;
        assert_eq!(body(names), "from typing import Any\n\nDEPTHS: tuple[int, ...]\nLATER: Any\n");
    }
}
