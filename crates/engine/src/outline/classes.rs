//! What is read of a class from its text alone: its names, what they are bound by, how it is written.

use std::fmt;
use std::hash::{BuildHasher, BuildHasherDefault};
use std::sync::Arc;

use leitmotiv_index::tree::{ClassForm, ClassId, DefId, DefKind, Expr, FunctionId, ModuleIndex, ReachId};
use leitmotiv_syntax::names::{Name, known};
use rustc_hash::FxHashMap;

use super::functions::Decorator;
use super::{bundled, module_index, reading};
use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::types::{Binding, ClassRef};

/// A class as its text has it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ClassOutline {
    /// Its name.
    pub name: Name,
    /// How it is written.
    pub form: ClassForm,
    /// Decorators, in the order of the text.
    pub decorators: Box<[Decorator]>,
    /// The functions that its body defines, in the order of the text.
    pub methods: Box<[FunctionId]>,
    /// The names that its body binds, in the order of the text.
    pub of_body: Box<[Name]>,
    /// The names that methods assign on their first parameter, in the order of the text.
    pub of_methods: Box<[Name]>,
    /// Each of these names, with what it is bound by.
    pub names: ClassNames,
    /// What `__slots__` names.
    pub slots: Slots,
    /// Whether methods make attributes whose names cannot be read: by `self.__dict__` or `setattr(self, …)`.
    pub makes_attributes: bool,
    /// Of a metaclass: names that its `__new__` gives other values in the namespaces of the classes that it makes, sorted.
    pub rewrites: Box<[Name]>,
}

/// How a class's body and its methods bind a name.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct ClassName {
    /// The body mentions it as a name of its scope.
    pub in_body: bool,
    /// Methods assign it on their first parameter.
    pub by_methods: bool,
    /// Methods whose first parameter is the class, or that make one, are among these.
    pub by_class_methods: bool,
    /// The body annotates it.
    pub is_field: bool,
    /// The body or a method says by an annotation or a comment what it holds.
    pub is_declared: bool,
    /// The body defines it by `def` or `class`.
    pub is_definition: bool,
    /// Among its definitions in the body is the setter of a property.
    pub has_setter: bool,
    /// Among them is its deleter.
    pub has_deleter: bool,
}

/// The names of a class: shared by what is known of the classes that derive from it.
#[derive(Clone, PartialEq, Eq)]
pub struct ClassNames {
    /// A set that may hold a few more: most classes that are asked have nothing of a name.
    filter: [u64; 4],
    all: Arc<FxHashMap<Name, ClassName>>,
}

/// In one order, whatever numbers the names have.
impl fmt::Debug for ClassNames {
    fn fmt(&self, to: &mut fmt::Formatter<'_>) -> fmt::Result {
        let mut all: Vec<String> = self.all.iter().map(|one| format!("{one:?}")).collect();
        all.sort_unstable();
        to.debug_list().entries(&all).finish()
    }
}

impl ClassNames {
    fn new(all: FxHashMap<Name, ClassName>) -> ClassNames {
        let mut filter = [0; 4];
        for name in all.keys() {
            let (word, bit) = ClassNames::place(*name);
            filter[word] |= bit;
        }
        ClassNames { filter, all: Arc::new(all) }
    }

    fn place(name: Name) -> (usize, u64) {
        let hash = BuildHasherDefault::<rustc_hash::FxHasher>::default().hash_one(name);
        ((hash >> 62) as usize, 1 << ((hash >> 56) & 63))
    }

    /// Whether the class has a name of its own.
    #[must_use]
    pub fn has(&self, name: Name) -> bool {
        let (word, bit) = ClassNames::place(name);
        self.filter[word] & bit != 0 && self.all.contains_key(&name)
    }

    /// The names, in no order.
    pub fn in_no_order(&self) -> impl Iterator<Item = Name> + '_ {
        self.all.keys().copied()
    }
}

/// What a class names in `__slots__` (data model, "__slots__").
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Slots {
    /// Nothing.
    Absent,
    /// These names.
    Named(Box<[Name]>),
    /// Names that cannot be read.
    Any,
}

impl Slots {
    /// Whether a name may be among them.
    #[must_use]
    pub fn may_have(&self, name: Name) -> bool {
        match self {
            Slots::Absent => false,
            Slots::Named(names) => names.contains(&name),
            Slots::Any => true,
        }
    }
}

impl ClassOutline {
    /// How a name is bound; as not at all where it is not.
    #[must_use]
    pub fn get(&self, name: Name) -> ClassName {
        self.names.all.get(&name).copied().unwrap_or_default()
    }

    /// Whether the body or methods bind a name.
    #[must_use]
    pub fn has(&self, name: Name) -> bool {
        self.names.has(name)
    }

    /// Whether one of its decorators is written without arguments and by that name.
    #[must_use]
    pub fn is_under(&self, name: Name) -> bool {
        self.decorators.iter().any(|decorator| decorator.bare == Some(name))
    }
}

/// A class as its text has it.
pub fn class(db: &dyn Db, class: ClassRef) -> &ClassOutline {
    let ClassRef { file, class } = class;
    bundled::class(db, file, class, || read(db, file, class)).unwrap_or_else(|| class_outline(db, file, class))
}

/// A class's name.
pub fn class_name(db: &dyn Db, of: ClassRef) -> Name {
    class(db, of).name
}

fn class_outline(db: &dyn Db, file: File, class: ClassId) -> &ClassOutline {
    saw(db, file, Ask::ClassOutline(class));
    class_outline_query(db, file, class)
}

#[salsa::tracked(returns(ref))]
fn class_outline_query(db: &dyn Db, file: File, class: ClassId) -> ClassOutline {
    let _reading = reading(db, file);
    read(db, file, class)
}

fn read(db: &dyn Db, file: File, class: ClassId) -> ClassOutline {
    let index = module_index(db, file);
    let record = &index.classes[class];
    let symbols = &index.scopes[record.scope].symbols;
    let mut names: FxHashMap<Name, ClassName> = FxHashMap::default();
    let is_declared = |def: &DefId| {
        matches!(index.defs[*def].kind, DefKind::Annotated { .. } | DefKind::Assign { comment: Some(_), .. })
    };
    for (name, symbol) in symbols {
        let kinds = || symbol.defs.iter().map(|def| &index.defs[*def].kind);
        names.insert(
            *name,
            ClassName {
                in_body: true,
                by_methods: false,
                by_class_methods: false,
                is_field: kinds().any(|kind| matches!(kind, DefKind::Annotated { .. })),
                is_declared: symbol.defs.iter().any(is_declared),
                is_definition: kinds().any(|kind| matches!(kind, DefKind::Function(_) | DefKind::Class(_))),
                has_setter: kinds().any(|kind| is_part(index, kind, known::SETTER)),
                has_deleter: kinds().any(|kind| is_part(index, kind, known::DELETER)),
            },
        );
    }
    for (name, defs) in &record.attributes {
        let bound = names.entry(*name).or_default();
        bound.by_methods = true;
        bound.by_class_methods |= defs.iter().any(|def| {
            let function = index.bodies[index.defs[*def].body].function;
            function.is_some_and(|function| super::functions::binding(db, index, function) != Binding::Instance)
        });
        bound.is_declared |= defs.iter().any(is_declared);
    }
    let of_body = symbols.iter().filter_map(|(name, symbol)| symbol.defs.first().map(|def| (*def, *name)));
    let of_methods = record.attributes.iter().filter_map(|(name, defs)| defs.first().map(|def| (*def, *name)));
    let mut rewrites: Box<[Name]> = record.rewrites.iter().copied().collect();
    rewrites.sort_unstable();
    ClassOutline {
        name: record.name,
        form: record.form,
        decorators: Decorator::all(index, &record.decorators),
        methods: record.methods.as_slice().into(),
        of_body: in_order(of_body.collect()),
        of_methods: in_order(of_methods.collect()),
        slots: slots(db, index, class),
        names: ClassNames::new(names),
        makes_attributes: record.makes_attributes,
        rewrites,
    }
}

fn in_order(mut names: Vec<(DefId, Name)>) -> Box<[Name]> {
    names.sort_unstable_by_key(|(def, _)| *def);
    names.into_iter().map(|(_, name)| name).collect()
}

/// Whether a definition is the setter, or the deleter, of a property.
fn is_part(index: &ModuleIndex, kind: &DefKind, part: Name) -> bool {
    let DefKind::Function(function) = kind else { return false };
    let decorators = &index.functions[*function].decorators;
    decorators.iter().any(|decorator| index.decorator_name(*decorator) == Some(part))
}

fn slots(db: &dyn Db, index: &ModuleIndex, class: ClassId) -> Slots {
    let name = db.names().intern("__slots__");
    let Some(symbol) = index.scopes[index.classes[class].scope].symbols.get(&name) else { return Slots::Absent };
    let mut named = Vec::new();
    let mut is_any = false;
    // `if not TYPE_CHECKING: __slots__ = ()` is not for us.
    let mut here = symbol.defs.iter().filter(|def| index.defs[**def].reach != ReachId::EXCLUDED).peekable();
    if here.peek().is_none() {
        return Slots::Absent;
    }
    for def in here {
        let (DefKind::Assign { value, .. } | DefKind::Annotated { value: Some(value), .. }) = index.defs[*def].kind
        else {
            continue;
        };
        match &index.exprs[value] {
            Expr::Tuple(parts) | Expr::List(parts) | Expr::Set(parts) => {
                for part in parts {
                    match index.exprs[*part] {
                        Expr::Str(Some(text)) => named.push(text),
                        // Whatever is unpacked or computed there may be the name.
                        _ => is_any = true,
                    }
                }
            }
            Expr::Str(Some(text)) => named.push(*text),
            // Whatever else is written there may hold the name.
            _ => is_any = true,
        }
    }
    if is_any { Slots::Any } else { Slots::Named(named.into()) }
}
