//! Types as text that means the same in a given file, with the imports that this needs.

use std::collections::BTreeSet;

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::classes;
use leitmotiv_engine::outline::class_name;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::{is_builtin, leads_to, own_name};
use leitmotiv_engine::types::{ClassRef, InstanceId, Literal, Type, VarKind};
use leitmotiv_index::tree::{DefId, DefKind, Expr, ParamKind, ScopeId, ScopeKind, Value};
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
    /// Whether unknown parts of containers are spelled `Any`.
    pub any: bool,
    /// When the annotation is evaluated: what cannot be then is quoted (PEP 484, "Forward references").
    pub evaluated: Evaluated,
    /// Whether `list[int]` can be evaluated (PEP 585).
    pub subscripts: bool,
    /// The scope that the annotation stands in: names of a class or function hide those of the module.
    pub scope: ScopeId,
    /// Whether `Self` may be written (PEP 673): the target version has it.
    pub self_types: bool,
    /// Whether the module may bind names that cannot be read in it, by `globals()` and the like.
    pub makes_names: bool,
}

impl Style {
    /// What may be written in a stub, on the module's own level: it is never evaluated.
    pub const STUB: Style = Style {
        bars: true,
        bare: true,
        any: false,
        evaluated: Evaluated::Never,
        subscripts: true,
        scope: ScopeId(0),
        self_types: false,
        makes_names: false,
    };
}

/// When an annotation is evaluated as the program runs.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Evaluated {
    /// Only when someone asks (PEP 563, PEP 649), or never, as in a stub.
    Never,
    /// When a function around it is called, which may be at once or when names have come and gone.
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

/// The imports that make names of the standard library mean themselves in a file, each with its module; `None` where one means something else or
/// cannot be evaluated where it would be.
#[must_use]
pub fn library_names(
    db: &dyn Db,
    file: File,
    names: &[(&str, &str)],
    style: Style,
) -> Option<BTreeSet<(String, String)>> {
    let mut speller = Speller { db, file, style, spelled: Spelled::default(), is_quoted: false };
    for (module, name) in names {
        speller.import(module, name)?;
    }
    (!speller.is_quoted).then_some(speller.spelled.imports)
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
            Type::Any => self.import("typing", "Any"),
            Type::Never if self.style.any => self.import("typing", "NoReturn"),
            Type::Instance(id) => {
                let instance = store.instance(id);
                let module = self.db.names().text(instance.class.file.module(self.db));
                // A generator that nothing is sent to or taken from in the end is an iterator to its callers.
                if (module, classes::shown(self.db, instance.class)) == ("collections.abc", "Generator")
                    && let [yielded, _, Type::None] = instance.args.as_ref()
                {
                    let inner = self.argument(*yielded)?;
                    let name = self.import("collections.abc", "Iterator")?;
                    self.is_quoted |= self.is_evaluated() && !self.style.subscripts;
                    return Some(format!("{name}[{inner}]"));
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
                // `tuple(berths)` may be of any length.
                if (module, shown, instance.args.len()) == ("builtins", "tuple", 1) {
                    self.is_quoted |= self.is_evaluated() && !self.style.subscripts;
                    return match self.argument(instance.args[0]) {
                        Some(element) => Some(format!("{name}[{element}, ...]")),
                        None => self.style.bare.then_some(name),
                    };
                }
                self.is_quoted |= self.is_evaluated() && !self.can_subscript(instance.class);
                // What a `partial` still takes is known to us alone: it has one argument to others.
                let count = if (module, shown) == ("functools", "partial") { 1 } else { instance.args.len() };
                let given = std::iter::zip(&classes::info(self.db, instance.class).params, &instance.args).take(count);
                let args: Option<Vec<String>> = given
                    .map(|(var, arg)| match store.variable(*var).kind {
                        VarKind::Params => self.parameters(*arg),
                        _ => self.argument(*arg),
                    })
                    .collect();
                match args {
                    Some(args) => Some(format!("{name}[{}]", args.join(", "))),
                    None if self.style.bare => Some(name),
                    None => None,
                }
            }
            Type::Tuple(id) => {
                let tuple = store.tuple(id);
                self.built_in("tuple")?;
                self.is_quoted |= self.is_evaluated() && !self.style.subscripts;
                if let Some(rest) = tuple.rest {
                    if !tuple.prefix.is_empty() || !tuple.suffix.is_empty() {
                        return None;
                    }
                    return match self.argument(rest) {
                        Some(rest) => Some(format!("tuple[{rest}, ...]")),
                        None => self.style.bare.then(|| "tuple".into()),
                    };
                }
                let parts: Option<Vec<String>> = tuple.prefix.iter().map(|part| self.argument(*part)).collect();
                match parts {
                    Some(parts) if parts.is_empty() => Some("tuple[()]".into()),
                    Some(parts) => Some(format!("tuple[{}]", parts.join(", "))),
                    None => self.style.bare.then(|| "tuple".into()),
                }
            }
            Type::Literal(id) => match *store.literal(id) {
                Literal::Int(_) => self.built_in("int"),
                Literal::Bool(_) => self.built_in("bool"),
                Literal::Str(_) => self.built_in("str"),
                Literal::Bytes(_) => self.built_in("bytes"),
                Literal::Enum(class, _) => self.class(class),
            },
            Type::Class(id) => {
                let inner = self.spell(Type::Instance(id))?;
                self.is_quoted |= self.is_evaluated() && !self.style.subscripts;
                Some(format!("{}[{inner}]", self.built_in("type")?))
            }
            Type::SubclassOf(id) => {
                let inner = self.spell(*store.single(id))?;
                self.is_quoted |= self.is_evaluated() && !self.style.subscripts;
                Some(format!("{}[{inner}]", self.built_in("type")?))
            }
            Type::Union(id) => {
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
                // A union that nobody would write says more about the code than about what is meant.
                if parts.len() + usize::from(none) > 4 {
                    return None;
                }
                match (self.style.bars, parts.as_slice()) {
                    (true, _) => {
                        parts.extend(none.then(|| "None".to_owned()));
                        Some(parts.join(" | "))
                    }
                    // Before Python 3.10 (PEP 604).
                    (false, [one]) if none => Some(format!("{}[{one}]", self.import("typing", "Optional")?)),
                    (false, _) => {
                        parts.extend(none.then(|| "None".to_owned()));
                        Some(format!("{}[{}]", self.import("typing", "Union")?, parts.join(", ")))
                    }
                }
            }
            Type::Callable(id) => {
                let returns = self.argument(store.signature(id).returns)?;
                let params = self.parameters(ty)?;
                let name = self.import("collections.abc", "Callable")?;
                self.is_quoted |= self.is_evaluated() && !self.style.subscripts;
                Some(format!("{name}[{params}, {returns}]"))
            }
            // What gives its own object back (PEP 673).
            Type::Var(id) if store.variable(id).kind == VarKind::SelfType && self.style.self_types => {
                self.import("typing", "Self")
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

    /// What a callable takes, as it stands in `Callable[…, int]` and for a variable that stands for parameters (PEP 612).
    fn parameters(&mut self, callable: Type) -> Option<String> {
        let Type::Callable(id) = callable else { return Some("...".to_owned()) };
        let signature = self.db.store().signature(id);
        let open = signature
            .params
            .iter()
            .any(|param| !matches!(param.kind, ParamKind::PositionalOnly | ParamKind::Normal) || param.optional);
        if open {
            return Some("...".to_owned());
        }
        let params: Option<Vec<String>> = signature.params.iter().map(|param| self.argument(param.ty)).collect();
        Some(format!("[{}]", params?.join(", ")))
    }

    /// A part of a container or a callable.
    fn argument(&mut self, ty: Type) -> Option<String> {
        if self.style.any && ty.is_dynamic() { self.import("typing", "Any") } else { self.spell(ty) }
    }

    fn class(&mut self, class: ClassRef) -> Option<String> {
        let name = class_name(self.db, class);
        let text = self.db.names().text(name);
        let meaning = self.meaning(name);
        if meaning == Meaning::Hidden {
            return None;
        }
        if is_builtin(self.db, class, name) {
            // Hidden by something else of that name; or a class that has no name in the program.
            return (meaning == Meaning::Free && text != "ellipsis").then(|| text.to_owned());
        }
        let here = own_name(self.db, self.file, name);
        if let Some(Type::Class(id)) = here
            && self.db.store().instance(id).class == class
        {
            self.is_quoted |= self.is_evaluated() && !self.is_bound(name);
            return Some(text.to_owned());
        }
        if meaning == Meaning::Bound || text.starts_with('_') {
            return None;
        }
        // Only classes of a module's own level can be imported.
        let module = self.db.names().text(class.file.module(self.db)).to_owned();
        let top = leitmotiv_engine::resolve::class_in(self.db, class.file, name) == Some(class);
        if !top || module.is_empty() || module == self.db.names().text(known::BUILTINS) {
            return None;
        }
        if !self.style.bare && is_plain(&module) {
            return self.import(&module, text);
        }
        if let Some(dotted) = self.through_module(class, &module, text) {
            return Some(dotted);
        }
        // An import of what has no types is something to be told.
        if !self.style.bare && class.file.origin(self.db).is_untyped_source() {
            return None;
        }
        self.spelled.imports.insert((module.clone(), text.to_owned()));
        // What an import runs, and which modules are being imported already when it does, is not for an annotation to decide.
        if !self.style.bare && !is_plain(&module) {
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
        if self.meaning(name) != Meaning::Bound || own_name(self.db, self.file, name) != Some(Type::Module(class.file))
        {
            return None;
        }
        // A module of the project itself may be half imported when the annotation is evaluated.
        let may_be_partial = class.file.origin(self.db).is_own() && leads_to(self.db, class.file, self.file);
        self.is_quoted |= self.is_evaluated() && (may_be_partial || !self.is_bound(name));
        Some(format!("{module}.{text}"))
    }

    fn is_evaluated(&self) -> bool {
        self.style.evaluated != Evaluated::Never
    }

    /// Whether a generic class can be subscripted as the program runs: what a stub says to be generic need not be one then. Of the
    /// standard library's, those that PEP 585 names for sure.
    fn can_subscript(&self, class: ClassRef) -> bool {
        if !class.file.is_stub(self.db) {
            return true;
        }
        let name = classes::shown(self.db, class);
        let can = match self.db.names().text(class.file.module(self.db)) {
            "builtins" => matches!(name, "dict" | "frozenset" | "list" | "set" | "tuple" | "type"),
            "collections" => matches!(name, "deque" | "defaultdict" | "OrderedDict" | "Counter" | "ChainMap"),
            "typing" | "collections.abc" => true,
            _ => false,
        };
        class.file.origin(self.db) == Origin::Bundled && can && self.style.subscripts
    }

    /// What a name means where the annotation stands.
    fn meaning(&self, name: Name) -> Meaning {
        let index = module_index(self.db, self.file);
        let mut scope = Some(self.style.scope);
        while let Some(id) = scope {
            let own = &index.scopes[id];
            // Of classes, only the one that the annotation stands in is looked into (language reference, "Resolution of names").
            let is_seen = match own.kind {
                ScopeKind::Class(_) => id == self.style.scope,
                _ => true,
            };
            if is_seen && own.symbols.contains_key(&name) {
                return if matches!(own.kind, ScopeKind::Module) { Meaning::Bound } else { Meaning::Hidden };
            }
            scope = own.parent;
        }
        match own_name(self.db, self.file, name) {
            // What a star import of a module that cannot be read may bring is nothing to reckon with.
            None | Some(Type::Unknown(_)) => Meaning::Free,
            Some(_) => Meaning::Bound,
        }
    }

    /// A built-in class by its name, if it means that here.
    fn built_in(&self, text: &str) -> Option<String> {
        let is_free = self.db.names().find(text).is_none_or(|name| self.meaning(name) == Meaning::Free);
        is_free.then(|| text.to_owned())
    }

    /// Whether the module has bound a name when the annotation is evaluated, and it is sure to be bound still.
    fn is_bound(&self, name: Name) -> bool {
        let index = module_index(self.db, self.file);
        // When a function is called is not known; and what writes to the module's namespace may write anything.
        if self.style.evaluated == Evaluated::WhenCalled || self.style.makes_names {
            return false;
        }
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

    /// A name of the library's, imported if nothing binds it yet; `None` where it means something else here.
    fn import(&mut self, module: &str, name: &str) -> Option<String> {
        let spelled = || Some(name.to_owned());
        if self.style.bare {
            self.spelled.imports.insert((module.to_owned(), name.to_owned()));
            return spelled();
        }
        let interned = self.db.names().intern(name);
        match self.meaning(interned) {
            Meaning::Hidden => None,
            Meaning::Free => {
                self.spelled.imports.insert((module.to_owned(), name.to_owned()));
                self.is_quoted |= self.is_evaluated() && self.style.makes_names;
                spelled()
            }
            Meaning::Bound if self.is_import_of(interned) => {
                self.is_quoted |= self.is_evaluated() && !self.is_bound(interned);
                spelled()
            }
            Meaning::Bound => None,
        }
    }

    /// Whether a name of the module is nothing but what the library has under that name, from wherever in it, and is so to the
    /// end.
    fn is_import_of(&self, name: Name) -> bool {
        let index = module_index(self.db, self.file);
        let Some(symbol) = index.scopes[ScopeId(0)].symbols.get(&name) else { return false };
        let is_still_bound = symbol.exit.is_none_or(|exit| index.values[exit] != Value::Unbound);
        let is_of_library = |def: &DefId| match index.defs[*def].kind {
            DefKind::ImportFrom { module, level: 0, name: imported, .. } => {
                let module = self.db.names().text(module);
                imported == name && (is_plain(module) || module == "typing_extensions")
            }
            _ => false,
        };
        is_still_bound && symbol.foreign.is_empty() && symbol.defs.iter().all(is_of_library)
    }
}

/// What a name means in a place.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Meaning {
    /// Nothing in the file binds it: it is built in, or is to be imported.
    Free,
    /// The module binds it, or a star import into the module does.
    Bound,
    /// A class or function around the place binds it.
    Hidden,
}

/// Whether a module can be imported anywhere without running more than itself: its names are what annotations are made of.
fn is_plain(module: &str) -> bool {
    matches!(module, "typing" | "collections.abc")
}

/// Whether a module may bind names that cannot be read in it, by `globals()` and the like.
#[must_use]
pub fn makes_names(db: &dyn Db, file: File) -> bool {
    let index = module_index(db, file);
    index.exprs.iter().any(|(_, expr)| match expr {
        Expr::Name(name, _) => matches!(db.names().text(*name), "globals" | "vars" | "exec"),
        _ => false,
    })
}
