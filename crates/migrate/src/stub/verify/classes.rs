//! Classes of a stub compared with those of the module.

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::classes::{self, ClassKind, members};
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::is_builtin;
use leitmotiv_engine::types::{Binding, InstanceId, Type};
use leitmotiv_index::tree::DefKind;
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::known;

use super::{Comparison, Kind, Said, member_of, words_of};
use crate::stub::running::{Class, Function, Item};

impl Comparison<'_> {
    pub(super) fn class(&mut self, full: &str, id: InstanceId, class: &Class) {
        let own = class.named.name.clone().unwrap_or_default();
        if self.open.contains(&own) {
            return;
        }
        self.open.push(own);
        self.bases(full, id, class);
        let is_open = classes::open_members::unseen(self.db, self.db.store().instance(id).class).is_some();
        // The constructor of a dataclass is made of its fields.
        let is_dataclass = classes::info(self.db, self.db.store().instance(id).class).dataclass.is_some();
        for (name, item) in &class.members {
            if is_dataclass && name == "__init__" {
                continue;
            }
            let member = format!("{full}.{name}");
            match member_of(self.db, id, name) {
                Some(found) => self.member(&member, found, item, class),
                None if is_open || is_told_elsewhere(name) || is_native(item) && is_slot_s_other_half(name) => {}
                None => {
                    let words = format!("{} of the class that the stub does not have", words_of(item));
                    self.differ(&member, Kind::Missing, words, self.class_place(id), item);
                }
            }
        }
        if class.is_native {
            self.constructor(full, id, class);
        }
        self.extra_members(full, id, class);
        self.open.pop();
    }

    fn class_place(&self, id: InstanceId) -> Option<(leitmotiv_engine::base::file::File, leitmotiv_syntax::TextRange)> {
        leitmotiv_engine::view::lookup::definition_of(self.db, Type::Class(id))
    }

    fn bases(&mut self, full: &str, id: InstanceId, class: &Class) {
        let store = self.db.store();
        let info = classes::info(self.db, store.instance(id).class);
        let item = Item::Class(Box::new(Class { place: class.place.clone(), ..Class::default() }));
        let said: Vec<String> = info
            .mro
            .iter()
            .skip(1)
            .map(|base| classes::shown(self.db, store.instance(*base).class).to_owned())
            .collect();
        let plain = |name: &str| name.rsplit('.').next().unwrap_or(name).to_owned();
        if info.unknown_base.is_none() {
            for base in &class.bases {
                let Some(name) = base.name.as_deref().map(plain) else { continue };
                let is_special =
                    matches!(name.as_str(), "object" | "Generic" | "Protocol" | "NamedTuple" | "TypedDict");
                let is_twin = Some(name.trim_start_matches('_')) == full.rsplit('.').next();
                if !is_special && !is_twin && !name.starts_with('_') && !said.contains(&name) {
                    let words = format!("derives from `{name}` in the module, and not in the stub");
                    self.differ(full, Kind::Base, words, self.class_place(id), &item);
                }
            }
        }
        for base in info.mro.iter().skip(1) {
            let base = store.instance(*base).class;
            let name = classes::shown(self.db, base);
            let is_special = matches!(name, "object" | "Generic" | "Protocol" | "NamedTuple" | "TypedDict");
            // A protocol says what the class can do, and need not be there as the program runs.
            let is_protocol = classes::info(self.db, base).kind == ClassKind::Protocol;
            let is_there =
                class.ancestors.iter().filter_map(|base| base.name.as_deref()).any(|base| plain(base) == name);
            if !is_special && !is_protocol && !name.starts_with('_') && !is_there {
                let words = format!("derives from `{name}` in the stub, and not in the module");
                self.differ(full, Kind::Base, words, self.class_place(id), &item);
            }
        }
    }

    fn member(&mut self, full: &str, found: members::Found, item: &Item, class: &Class) {
        self.result.names += 1;
        let said = Said { ty: found.member.ty, place: Some(place_of(self.db, found)) };
        let owner = self.db.store().instance(found.owner).class;
        let from_object = is_builtin(self.db, owner, known::OBJECT) && self.module != "builtins";
        match item {
            // The fields say what a named tuple takes.
            Item::Static(_) if full.ends_with("__new__") && self.is_named_tuple(found) => {}
            // What makes an enumeration's members is not what calls of the class do: they look members up.
            Item::Method(_) | Item::Static(_) if class.is_enum && full.ends_with("__new__") => {}
            Item::Method(function) => self.method(full, said, function, item, Some(Binding::Instance), from_object),
            Item::Static(function) if full.ends_with(".__new__") => {
                self.method(full, said, function, item, None, from_object);
            }
            Item::Static(function) => self.method(full, said, function, item, Some(Binding::Static), from_object),
            Item::ClassMethod(function) => self.method(full, said, function, item, Some(Binding::Class), from_object),
            Item::BoundClassMethod(function) => {
                let mut whole = function.clone();
                if let Some(params) = &mut whole.params {
                    params.insert(0, crate::stub::running::Param { name: "cls".into(), ..Default::default() });
                }
                self.method(full, said, &whole, item, Some(Binding::Class), from_object);
            }
            Item::Property { .. } => {
                if matches!(said.ty, Type::Function(_)) {
                    self.form(full, "a method", "an attribute", said, item);
                }
            }
            Item::Class(inner) => {
                if let Type::Class(id) = said.ty {
                    self.class(full, id, inner);
                }
            }
            Item::Value { ty, text, params, .. } => match said.ty {
                Type::Function(_) if params.is_none() && ty.name.as_deref() != Some("NoneType") => {
                    self.form(full, "a method", "a value", said, item);
                }
                Type::Function(_) | Type::Property(_) | Type::Class(_) | Type::Special(_) | Type::Form(_) => {}
                // What a class has may be no more than the default of what its objects have.
                _ if ty.name.as_deref() == Some("NoneType") && !class.is_native => {}
                declared => self.value(full, declared, ty, text.as_deref(), said, item),
            },
            Item::EnumMember { .. }
            | Item::Decorated(_)
            | Item::Alias { .. }
            | Item::Function(_)
            | Item::Module { .. } => {}
        }
    }

    /// Whether a constructor is that of all tuples.
    fn is_named_tuple(&self, found: members::Found) -> bool {
        is_builtin(self.db, self.db.store().instance(found.owner).class, known::TUPLE)
    }

    fn method(
        &mut self,
        full: &str,
        said: Said,
        function: &Function,
        item: &Item,
        binding: Option<Binding>,
        from_object: bool,
    ) {
        let Type::Function(id) = said.ty else {
            if matches!(said.ty, Type::Property(_)) {
                self.form(full, "an attribute", words_of(item), said, item);
            }
            return;
        };
        let record = *self.db.store().function(id);
        let is_constructor = full.ends_with(".__init__") || full.ends_with(".__new__");
        if let Some(binding) = binding
            && !is_constructor
        {
            let stub = leitmotiv_engine::outline::function(self.db, record.file, record.function).binding;
            if stub != binding {
                let words = |binding| match binding {
                    Binding::Instance => "a method",
                    Binding::Class => "a class method",
                    Binding::Static => "a static method",
                };
                self.form(full, words(stub), words(binding), said, item);
                return;
            }
        }
        // Slots of machine code take whatever they are given, and what every object has says nothing of this class.
        let is_slot = function.is_native && (is_constructor || full.rsplit('.').next().is_some_and(is_dunder));
        if is_slot {
            return;
        }
        if from_object {
            if is_constructor && function.params.as_ref().is_some_and(|params| params.len() > 1) && !takes_all(function)
            {
                let words = "a constructor of the class that the stub does not have".to_owned();
                self.differ(full, Kind::Missing, words, None, item);
            }
            return;
        }
        let is_static =
            leitmotiv_engine::outline::function(self.db, record.file, record.function).binding == Binding::Static;
        self.signatures(full, said, function, !is_static || full.ends_with(".__new__"));
    }

    /// The constructor of a class of machine code: what it says that calls of the class take.
    fn constructor(&mut self, full: &str, id: InstanceId, class: &Class) {
        if class.params.is_none() {
            return;
        }
        for name in ["__init__", "__new__"] {
            let Some(found) = member_of(self.db, id, name) else { continue };
            let owner = self.db.store().instance(found.owner).class;
            if is_builtin(self.db, owner, known::OBJECT) {
                continue;
            }
            let mut params = class.params.clone().unwrap_or_default();
            params.insert(0, crate::stub::running::Param { name: "self".into(), ..Default::default() });
            let function = Function { params: Some(params), is_native: true, ..Function::default() };
            let said = Said { ty: found.member.ty, place: Some(place_of(self.db, found)) };
            if takes_all(&function) {
                return;
            }
            self.signatures(full, said, &function, true);
            return;
        }
    }

    /// Methods, properties and classes that the stub's class makes and the module's has not: values may be set on objects only.
    fn extra_members(&mut self, full: &str, id: InstanceId, class: &Class) {
        let reference = self.db.store().instance(id).class;
        let index = module_index(self.db, reference.file);
        let scope = index.classes[reference.class].scope;
        let mut own: Vec<_> = index.scopes[scope].symbols.iter().collect();
        own.sort_by_key(|(_, symbol)| symbol.defs.first().copied());
        for (name, symbol) in own {
            let live = symbol.defs.iter().map(|def| &index.defs[*def]).find(|def| !def.reach.is_never());
            let Some(def) = live else { continue };
            let text = self.db.names().text(*name);
            let is_made = matches!(def.kind, DefKind::Function(_) | DefKind::Class(_));
            if !is_made || class.dir.iter().any(|known| known == text) || text.starts_with('_') && !is_dunder(text) {
                continue;
            }
            if matches!(text, "__init__" | "__new__" | "__class_getitem__" | "__getattr__" | "__hash__") {
                continue;
            }
            self.result.differences.push(super::Difference {
                name: format!("{full}.{text}"),
                kind: Kind::Extra,
                words: "a member of the stub's class that the module's does not have".to_owned(),
                stub: Some((reference.file, def.range)),
                module: class.place.clone(),
            });
        }
    }
}

/// Members that a stub tells by other means: what makes a class generic, and what its form brings with it.
fn is_told_elsewhere(name: &str) -> bool {
    is_dunder(name)
        && !matches!(
            name,
            "__init__"
                | "__new__"
                | "__call__"
                | "__enter__"
                | "__exit__"
                | "__aenter__"
                | "__aexit__"
                | "__iter__"
                | "__next__"
                | "__aiter__"
                | "__anext__"
                | "__await__"
                | "__len__"
                | "__contains__"
                | "__getitem__"
                | "__setitem__"
                | "__delitem__"
                | "__add__"
                | "__sub__"
                | "__mul__"
                | "__truediv__"
                | "__floordiv__"
                | "__mod__"
                | "__divmod__"
                | "__pow__"
                | "__and__"
                | "__or__"
                | "__xor__"
                | "__lshift__"
                | "__rshift__"
                | "__matmul__"
                | "__neg__"
                | "__pos__"
                | "__abs__"
                | "__invert__"
                | "__int__"
                | "__float__"
                | "__complex__"
                | "__index__"
                | "__round__"
                | "__lt__"
                | "__le__"
                | "__gt__"
                | "__ge__"
                | "__fspath__"
                | "__reversed__"
                | "__missing__"
                | "__bool__"
                | "__get__"
                | "__set__"
                | "__set_name__"
                | "__trunc__"
                | "__floor__"
                | "__ceil__"
                | "__bytes__"
                | "__buffer__"
                | "__radd__"
                | "__rsub__"
                | "__rmul__"
                | "__rand__"
                | "__ror__"
                | "__rxor__"
        )
}

fn is_native(item: &Item) -> bool {
    matches!(item, Item::Method(function) if function.is_native)
}

/// Special methods that a class of machine code has with others of the same slot, whether they do anything or not: comparisons,
/// and operators with the operands swapped.
fn is_slot_s_other_half(name: &str) -> bool {
    matches!(
        name,
        "__lt__"
            | "__le__"
            | "__gt__"
            | "__ge__"
            | "__radd__"
            | "__rsub__"
            | "__rmul__"
            | "__rtruediv__"
            | "__rfloordiv__"
            | "__rmod__"
            | "__rdivmod__"
            | "__rpow__"
            | "__rand__"
            | "__ror__"
            | "__rxor__"
            | "__rlshift__"
            | "__rrshift__"
            | "__rmatmul__"
    )
}

fn is_dunder(name: &str) -> bool {
    name.starts_with("__") && name.ends_with("__")
}

/// Whether a function takes whatever it is given.
fn takes_all(function: &Function) -> bool {
    function.params.as_ref().is_some_and(|params| params.iter().skip(1).all(|param| matches!(param.kind, 2 | 4)))
}

/// Where a member is first given.
fn place_of(db: &dyn Db, found: members::Found) -> (File, TextRange) {
    let site = Infer::member_site(db, found);
    (site.file, site.range(db))
}
