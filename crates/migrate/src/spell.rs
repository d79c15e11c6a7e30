//! Types as text that means the same in a given file, with the imports that this needs.

use std::collections::BTreeSet;

use leitmotiv_engine::classes;
use leitmotiv_engine::db::{Db, File};
use leitmotiv_engine::module::{class_name, is_builtin, module_index, own_name};
use leitmotiv_engine::types::{ClassRef, InstanceId, Literal, Type};
use leitmotiv_index::tree::{DefKind, ParamKind, ScopeId, ScopeKind};
use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::TextSize;
use leitmotiv_syntax::names::{Name, known};

/// What may be written.
#[derive(Debug, Clone, Copy)]
pub struct Style {
    /// Whether `int | None` may be written (PEP 604); otherwise unions cannot be spelled.
    pub bars: bool,
    /// Whether unknown parts of containers may be left out, as in a stub (`list` for a list of something unknown).
    pub bare: bool,
    /// When the annotation is evaluated: what cannot be then is quoted (PEP 484, "Forward references").
    pub evaluated: Evaluated,
    /// Whether `list[int]` can be evaluated (PEP 585).
    pub subscripts: bool,
    /// The scope that the annotation stands in: a class's names hide those of the module.
    pub scope: ScopeId,
}

impl Style {
    /// What may be written in a stub, on the module's own level: it is never evaluated.
    pub const STUB: Style =
        Style { bars: true, bare: true, evaluated: Evaluated::Never, subscripts: true, scope: ScopeId(0) };
}

/// When an annotation is evaluated as the program runs.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Evaluated {
    /// Only when someone asks (PEP 563, PEP 649), or never, as in a stub.
    Never,
    /// When a function around it is called: the module is whole by then.
    WhenCalled,
    /// While the module is imported, up to this place.
    At(TextSize),
}

/// A type's text.
#[derive(Debug, Clone, Default, PartialEq, Eq)]
pub struct Spelled {
    /// The text.
    pub text: String,
    /// Names that must be imported: module, name.
    pub imports: BTreeSet<(String, String)>,
    /// Those among them that may be imported only for a type checker: a module of the project itself may be importing this one.
    pub guarded: BTreeSet<(String, String)>,
}

/// Spells a type for a file; `None` where it cannot be written: unknown, or of a kind that has no name.
#[must_use]
pub fn spell(db: &dyn Db, file: File, ty: Type, style: Style) -> Option<Spelled> {
    let mut speller = Speller { db, file, style, spelled: Spelled::default(), is_quoted: false };
    let text = speller.spell(ty)?;
    let text = if speller.is_quoted { format!("\"{text}\"") } else { text };
    Some(Spelled { text, ..speller.spelled })
}

struct Speller<'a> {
    db: &'a dyn Db,
    file: File,
    style: Style,
    spelled: Spelled,
    /// Whether something in the text cannot be evaluated when it would be.
    is_quoted: bool,
}

impl Speller<'_> {
    fn spell(&mut self, ty: Type) -> Option<String> {
        let store = self.db.store();
        match ty {
            Type::None => Some("None".into()),
            Type::Any => {
                self.import("typing", "Any");
                Some("Any".into())
            }
            Type::Instance(id) => {
                let instance = store.instance(id);
                let module = self.db.names().text(instance.class.file.module(self.db));
                // A generator that nothing is sent to or taken from in the end is an iterator to its callers.
                if (module, classes::shown(self.db, instance.class)) == ("collections.abc", "Generator")
                    && let [yielded, _, Type::None] = instance.args.as_ref()
                {
                    let inner = self.spell(*yielded)?;
                    self.import("collections.abc", "Iterator");
                    return Some(format!("Iterator[{inner}]"));
                }
                // The views of a dictionary, and what our stubs have private names for, have no names but those of their bases.
                let shown = classes::shown(self.db, instance.class);
                let is_view = module == "builtins" && matches!(shown, "dict_keys" | "dict_values" | "dict_items");
                let is_ours = instance.class.file.origin(self.db) == Origin::Bundled;
                if is_view || is_ours && shown.starts_with('_') {
                    let info = classes::info(self.db, instance.class);
                    let is_named = |base: &&InstanceId| {
                        let base = classes::shown(self.db, store.instance(**base).class);
                        !base.starts_with('_') && !matches!(base, "object" | "Generic" | "Protocol")
                    };
                    let base = *info.mro.iter().skip(1).find(is_named)?;
                    let given = classes::class_arguments(self.db, id);
                    return self.spell(given.apply(store, Type::Instance(base)));
                }
                let name = self.class(instance.class)?;
                if instance.args.is_empty() {
                    return Some(name);
                }
                self.is_quoted |= self.is_evaluated() && !self.can_subscript(instance.class);
                let args: Option<Vec<String>> = instance.args.iter().map(|arg| self.spell(*arg)).collect();
                match args {
                    Some(args) => Some(format!("{name}[{}]", args.join(", "))),
                    None if self.style.bare => Some(name),
                    None => None,
                }
            }
            Type::Tuple(id) => {
                let tuple = store.tuple(id);
                self.is_quoted |= self.is_evaluated() && !self.style.subscripts;
                if let Some(rest) = tuple.rest {
                    if !tuple.prefix.is_empty() || !tuple.suffix.is_empty() {
                        return None;
                    }
                    return match self.spell(rest) {
                        Some(rest) => Some(format!("tuple[{rest}, ...]")),
                        None => self.style.bare.then(|| "tuple".into()),
                    };
                }
                let parts: Option<Vec<String>> = tuple.prefix.iter().map(|part| self.spell(*part)).collect();
                match parts {
                    Some(parts) if parts.is_empty() => Some("tuple[()]".into()),
                    Some(parts) => Some(format!("tuple[{}]", parts.join(", "))),
                    None => self.style.bare.then(|| "tuple".into()),
                }
            }
            Type::Literal(id) => match *store.literal(id) {
                Literal::Int(_) => Some("int".into()),
                Literal::Bool(_) => Some("bool".into()),
                Literal::Str(_) => Some("str".into()),
                Literal::Bytes(_) => Some("bytes".into()),
                Literal::Enum(class, _) => self.class(class),
            },
            Type::Class(id) => {
                let inner = self.spell(Type::Instance(id))?;
                Some(format!("type[{inner}]"))
            }
            Type::SubclassOf(id) => {
                let inner = self.spell(*store.single(id))?;
                Some(format!("type[{inner}]"))
            }
            Type::Union(id) => {
                if !self.style.bars {
                    return None;
                }
                let mut parts: Vec<String> = Vec::new();
                let mut none = false;
                for part in store.union_parts(id) {
                    if *part == Type::None {
                        none = true;
                        continue;
                    }
                    let part = self.spell(*part)?;
                    if !parts.contains(&part) {
                        parts.push(part);
                    }
                }
                if none {
                    parts.push("None".into());
                }
                // A union that nobody would write says more about the code than about what is meant.
                (parts.len() <= 4).then(|| parts.join(" | "))
            }
            Type::Callable(id) => {
                let signature = store.signature(id);
                let returns = self.spell(signature.returns)?;
                let open = signature.params.iter().any(|param| {
                    !matches!(param.kind, ParamKind::PositionalOnly | ParamKind::Normal) || param.optional
                });
                let params = if open {
                    "...".to_owned()
                } else {
                    let params: Option<Vec<String>> =
                        signature.params.iter().map(|param| self.spell(param.ty)).collect();
                    format!("[{}]", params?.join(", "))
                };
                self.import("collections.abc", "Callable");
                Some(format!("Callable[{params}, {returns}]"))
            }
            Type::Var(_)
            | Type::Never
            | Type::Unknown(_)
            | Type::Function(_)
            | Type::Method(_)
            | Type::Property(_)
            | Type::Module(_)
            | Type::Namespace(_)
            | Type::Special(_)
            | Type::Form(_)
            | Type::Super(_) => None,
        }
    }

    fn class(&mut self, class: ClassRef) -> Option<String> {
        let name = class_name(self.db, class);
        let text = self.db.names().text(name);
        let scope = &module_index(self.db, self.file).scopes[self.style.scope];
        if matches!(scope.kind, ScopeKind::Class(_)) && scope.symbols.contains_key(&name) {
            return None;
        }
        let here = own_name(self.db, self.file, name, 0);
        if let Some(Type::Class(id)) = here
            && self.db.store().instance(id).class == class
        {
            self.is_quoted |= self.is_evaluated() && !self.is_bound(name);
            return Some(text.to_owned());
        }
        if is_builtin(self.db, class, name) {
            // Hidden by something else of that name; or a class that has no name in the program.
            return (here.is_none() && text != "ellipsis").then(|| text.to_owned());
        }
        if here.is_some() || text.starts_with('_') {
            return None;
        }
        // Only classes of a module's own level can be imported.
        let module = self.db.names().text(class.file.module(self.db)).to_owned();
        let top = leitmotiv_engine::module::class_in(self.db, class.file, name) == Some(class);
        if !top || module.is_empty() || module == self.db.names().text(known::BUILTINS) {
            return None;
        }
        if let Some(dotted) = self.through_module(class, &module, text) {
            return Some(dotted);
        }
        self.import(&module, text);
        if !self.style.bare && class.file.origin(self.db) == Origin::Project {
            self.spelled.guarded.insert((module, text.to_owned()));
            self.is_quoted |= self.is_evaluated();
        }
        Some(text.to_owned())
    }

    /// A class of a module that the file has imported under the module's own name: `datetime.date`.
    fn through_module(&mut self, class: ClassRef, module: &str, text: &str) -> Option<String> {
        if self.style.bare || module.contains('.') {
            return None;
        }
        let name = self.db.names().find(module)?;
        if own_name(self.db, self.file, name, 0) != Some(Type::Module(class.file)) {
            return None;
        }
        self.is_quoted |= self.is_evaluated() && !self.is_bound(name);
        Some(format!("{module}.{text}"))
    }

    fn is_evaluated(&self) -> bool {
        self.style.evaluated != Evaluated::Never
    }

    /// Whether a generic class can be subscripted as the program runs: of the standard library's, not all that are generic in
    /// stubs can (PEP 585 lists those that can).
    fn can_subscript(&self, class: ClassRef) -> bool {
        if class.file.origin(self.db) != Origin::Bundled {
            return true;
        }
        let is_builtin = self.db.names().text(class.file.module(self.db)) == "builtins";
        let has_it = ["dict", "enumerate", "frozenset", "list", "set", "tuple", "type"];
        self.style.subscripts && (!is_builtin || has_it.contains(&classes::shown(self.db, class)))
    }

    /// Whether the module has bound a name when the annotation is evaluated.
    fn is_bound(&self, name: Name) -> bool {
        let index = module_index(self.db, self.file);
        let Some(symbol) = index.scopes[ScopeId(0)].symbols.get(&name) else { return true };
        symbol.defs.iter().any(|def| {
            let def = &index.defs[*def];
            // A class is bound at the end of its body.
            let end = match def.kind {
                DefKind::Class(class) => index.classes[class].range.end(),
                _ => def.range.end(),
            };
            let is_early = matches!(self.style.evaluated, Evaluated::At(at) if end > at);
            !is_early && !index.checking_only.iter().any(|body| body.contains_range(def.range))
        })
    }

    fn import(&mut self, module: &str, name: &str) {
        let known = self.db.names().find(name).and_then(|name| own_name(self.db, self.file, name, 0));
        if known.is_none() || self.style.bare {
            self.spelled.imports.insert((module.to_owned(), name.to_owned()));
        }
    }
}
