//! Writing to names, attributes and items: whether they can be written, and whether they take the value.

use leitmotiv_index::tree::{DefId, DefKind, Expr, ExprId, ScopeId, Symbol, Value};
use leitmotiv_syntax::names::{Name, known};

use crate::call::{Argument, Bind, Why};
use crate::context::TypeContext;
use crate::definitions::classes::{self, ClassKind, dataclass, members, open_members};
use crate::infer::Infer;
use crate::outline::Site;
use crate::outline::places::{Bound, bound_at};
use crate::problems::{Access, Ended, Fixed, ProblemKind};
use crate::types::{ClassRef, FunctionRef, InstanceId, SpecialForm, Type};

/// What is put into a target.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Put {
    /// What an expression gives.
    Expr(ExprId),
    /// Something of a type, which comes of an expression: one of what is unpacked or iterated.
    Type(Type, ExprId),
}

/// An attribute, and what its class says of it.
struct Attribute {
    found: members::Found,
    /// The class that has it.
    owner: ClassRef,
    /// Where it is first given.
    at: Site,
    /// Whether the class's body declares it.
    is_field: bool,
}

impl TypeContext<'_> {
    /// An attribute as the class that has it says it.
    fn attribute_in_class(&self, id: InstanceId, name: Name) -> Option<Attribute> {
        let found = members::find(self.db, id, name, None)?;
        let owner = self.db.store().instance(found.owner).class;
        let is_field = crate::outline::class(self.db, owner).get(name).is_field;
        Some(Attribute { found, owner, at: Infer::member_site(self.db, found), is_field })
    }

    /// Whether the class itself says that an attribute cannot be assigned: a property without a setter, a member of an
    /// enumeration, a field of a frozen dataclass or of a named tuple; and where that stands.
    pub(crate) fn fixed_by_class(&self, id: InstanceId, name: Name, on_class: bool) -> Option<(Fixed, Site)> {
        let db = self.db;
        let Attribute { found, owner, at, is_field } = self.attribute_in_class(id, name)?;
        let info = classes::info(db, owner);
        if let Type::Property(getter) = found.member.ty {
            let getter = *db.store().function(getter);
            let has_setter = crate::outline::class(db, owner).get(name).has_setter;
            return (!on_class && !has_setter && self.is_plain_property(getter)).then_some((Fixed::Property, at));
        }
        if info.kind == ClassKind::Enum && classes::enums::has_member(db, owner, name) {
            return Some((Fixed::Member, at));
        }
        if !on_class && is_field && info.dataclass.is_some_and(|options| options.frozen) {
            let fields = dataclass::own_fields(db, owner, false);
            return fields.iter().any(|field| field.name == name).then_some((Fixed::Frozen, at));
        }
        if !on_class && is_field && info.kind == ClassKind::NamedTuple {
            return Some((Fixed::Tuple, at));
        }
        if !on_class && is_field && members::qualifiers(db, owner.file, found.member.at).is_class_variable {
            return Some((Fixed::ClassVariable, at));
        }
        None
    }

    /// Whether a getter stands under `@property`, and not under one of the descriptors that behave like it but can be assigned.
    fn is_plain_property(&self, getter: FunctionRef) -> bool {
        let outline = crate::outline::function(self.db, getter.file, getter.function);
        let mut names = outline.decorators.iter().filter_map(|decorator| decorator.bare);
        names.any(|name| matches!(self.text(name), "property" | "abstractproperty"))
    }
}

impl Infer<'_> {
    /// Looks at a target: what it stands on, and whether what is declared takes the value.
    pub(crate) fn check_target(&mut self, target: ExprId, value: Option<Put>) {
        match &self.index.exprs[target] {
            Expr::Name(name, _) => {
                self.check_final_name(target);
                if let Some(value) = value {
                    self.check_declared_name(target, *name, value);
                }
            }
            Expr::Attribute { value: object, name, .. } => {
                let (object, name) = (*object, *name);
                let ty = self.expr(object);
                self.check_attribute(target, object, ty, name);
                if let Some(put) = value {
                    self.check_declared_attribute(target, (object, ty), name, put);
                }
            }
            Expr::Subscript { value: object, index, .. } => {
                let (object, index) = (*object, *index);
                let ty = self.expr(object);
                self.expr(index);
                if let Some(Put::Expr(value)) = value {
                    self.check_item(target, ty, (object, index), value);
                }
            }
            Expr::Tuple(parts) => {
                for (place, part) in parts.iter().enumerate() {
                    let put = value.and_then(|value| self.put_at(value, parts, place));
                    self.check_target(*part, put);
                }
            }
            Expr::Starred(inner) => self.check_target(*inner, value),
            _ => {}
        }
    }

    /// What of a value is put into the target at a place among others: of a display its part, else what the type says.
    fn put_at(&mut self, put: Put, targets: &[ExprId], place: usize) -> Option<Put> {
        let index = self.index;
        let star = targets.iter().position(|target| matches!(index.exprs[*target], Expr::Starred(_)));
        if let (Put::Expr(value), None) = (put, star)
            && let Expr::Tuple(parts) | Expr::List(parts) = &index.exprs[value]
            && parts.len() == targets.len()
            && !parts.iter().any(|part| matches!(index.exprs[*part], Expr::Starred(_)))
        {
            return Some(Put::Expr(parts[place]));
        }
        let (ty, source) = match put {
            Put::Expr(value) => (self.expr(value), value),
            Put::Type(ty, source) => (ty, source),
        };
        let store = self.db.store();
        let shape = self.tuple_shape(ty).map(|id| store.tuple(id).clone()).filter(|tuple| tuple.rest.is_none());
        let behind = targets.len() - place - 1;
        let found = match (shape, star) {
            (Some(tuple), None) if tuple.prefix.len() == targets.len() => tuple.prefix[place],
            (Some(tuple), Some(star)) if place < star => *tuple.prefix.get(place)?,
            (Some(tuple), Some(star)) if place > star => {
                *tuple.prefix.get(tuple.prefix.len().checked_sub(behind + 1)?)?
            }
            (Some(tuple), Some(_)) => {
                let rest = tuple.prefix.get(place..tuple.prefix.len().checked_sub(behind)?)?.to_vec();
                let element = self.join(rest);
                let element = self.widen(element);
                self.container(known::LIST, &[element])
            }
            (Some(_), None) => return None,
            (None, star) => {
                let element = self.element(ty, false)?;
                if star == Some(place) { self.container(known::LIST, &[element]) } else { element }
            }
        };
        Some(Put::Type(found, source))
    }

    /// Whether a declared type takes what is put there. Of several types that nobody declared, one that it takes is enough.
    pub(crate) fn takes(&mut self, declared: Type, put: Put) -> bool {
        match put {
            Put::Expr(value) => self.is_assignable_leniently(value, declared),
            Put::Type(given, source) => {
                let parts = crate::types::union::parts(self.db.store(), &given).to_vec();
                self.holds_unknown(given)
                    || self.is_assignable(given, declared)
                    || !self.is_said(source) && parts.into_iter().any(|part| self.is_assignable(part, declared))
            }
        }
    }

    /// What is put, as an argument of the method that takes it.
    fn put_argument(put: Put) -> Argument {
        match put {
            Put::Expr(value) => Argument::of_expr(value),
            Put::Type(ty, _) => Argument::of_type(ty),
        }
    }

    fn put_type(&mut self, put: Put) -> Type {
        match put {
            Put::Expr(value) => self.expr(value),
            Put::Type(given, _) => given,
        }
    }

    fn is_put_none(&self, put: Put) -> bool {
        matches!(put, Put::Expr(value) if self.index.exprs[value] == Expr::None)
    }

    /// Reports that what is put into a target does not fit what is declared there: at the value, or where it comes from elsewhere, at the
    /// target.
    fn misput(&mut self, target: ExprId, put: Put, declared: Type, name: Name, def: Option<Site>) {
        // What is put there is meant to be dropped.
        if self.text(name) == "_" {
            return;
        }
        let given = self.put_type(put);
        let at = match put {
            Put::Expr(value) => value,
            Put::Type(..) => target,
        };
        self.problem(at, ProblemKind::ValueAssign { declared, given, name, def });
    }

    /// Looks at the target of `target += value`, which was read already.
    pub(crate) fn check_changed(&mut self, target: ExprId) {
        match self.index.exprs[target] {
            Expr::Name(..) => self.check_final_name(target),
            Expr::Attribute { value: object, name, .. } => {
                let ty = self.expr(object);
                self.check_fixed(target, object, ty, name);
            }
            _ => {}
        }
    }

    /// Looks at what an annotated target stands on.
    pub(crate) fn check_object(&mut self, target: ExprId) {
        if let Expr::Attribute { value, .. } | Expr::Subscript { value, .. } = self.index.exprs[target] {
            self.expr(value);
        }
    }

    /// Looks at another value for a name that is declared as final (PEP 591).
    pub(crate) fn check_final_name(&mut self, target: ExprId) {
        let Expr::Name(name, id) = self.index.exprs[target] else { return };
        // `x += 1` reads the old value: the definition is found by where it stands.
        let at = self.index.spans[target];
        let def = match self.index.values[id] {
            Value::Def(def) if self.index.defs[def].range == at => Some(def),
            _ => None,
        };
        let scope = match def {
            Some(def) => self.index.defs[def].scope,
            None => self.scope_at(target),
        };
        let index = self.index;
        let Some(symbol) = index.scopes[scope].symbols.get(&name) else { return };
        if symbol.defs.len() + symbol.foreign.len() < 2 || self.is_undeclared(scope, name, symbol) {
            return;
        }
        let Some(declared) = self.final_definition(scope, name, symbol) else { return };
        if def != Some(declared) && self.index.defs[declared].range != at {
            let at = self.site_of(declared);
            self.problem(target, ProblemKind::ClassFinal { what: Ended::Name(name), at });
        }
    }

    /// `(name := value)` of a name that is declared as final.
    pub(crate) fn check_final_rebinding(&mut self, at: ExprId, def: DefId) {
        if !self.checking {
            return;
        }
        let index = self.index;
        let record = &index.defs[def];
        let Some(symbol) = index.scopes[record.scope].symbols.get(&record.name) else { return };
        if symbol.defs.len() < 2 || self.is_undeclared(record.scope, record.name, symbol) {
            return;
        }
        if let Some(declared) = self.final_definition(record.scope, record.name, symbol) {
            let site = self.site_of(declared);
            self.problem(at, ProblemKind::ClassFinal { what: Ended::Name(record.name), at: site });
        }
    }

    /// The definition of a name that is annotated with `Final`.
    fn final_definition(&mut self, scope: ScopeId, name: Name, symbol: &Symbol) -> Option<DefId> {
        if let Some(known) = self.finals.get(&(scope, name)) {
            return *known;
        }
        let found = symbol.defs.iter().copied().find(|def| self.is_final(*def));
        // While a loop is worked out, what names stand for may still change.
        if self.heads.is_empty() {
            self.finals.insert((scope, name), found);
        }
        found
    }

    /// Whether a definition of this module is annotated with `Final`.
    pub(crate) fn is_final(&mut self, def: DefId) -> bool {
        let DefKind::Annotated { annotation, .. } = self.index.defs[def].kind else { return false };
        let head = match self.index.exprs[annotation] {
            Expr::Subscript { value, .. } => value,
            _ => annotation,
        };
        matches!(self.index.exprs[head], Expr::Name(..) | Expr::Attribute { .. })
            && self.quietly(head) == Type::Special(SpecialForm::Final)
    }

    pub(crate) fn check_declared_name(&mut self, target: ExprId, name: Name, put: Put) {
        let Expr::Name(_, id) = self.index.exprs[target] else { return };
        let Value::Def(def) = self.index.values[id] else { return };
        let scope = self.index.defs[def].scope;
        let comment = match &self.index.defs[def].kind {
            DefKind::Assign { comment: Some(comment), unpack: None, .. } => Some(*comment),
            _ => None,
        };
        let (declared, at) = match comment {
            Some(comment) => (self.annotation(comment), Some(self.site_of_expr(comment))),
            None => {
                let Some(declared) = self.declaration_elsewhere(def) else {
                    return self.check_inherited_name(target, scope, name, put);
                };
                let symbol = &self.index.scopes[scope].symbols[&name];
                let at = symbol.defs.iter().chain(&symbol.foreign).find_map(|def| match self.index.defs[*def].kind {
                    DefKind::Annotated { annotation, .. } => Some(self.site_of_expr(annotation)),
                    DefKind::Param { function, index } => self.index.functions[function].params[index as usize]
                        .annotation
                        .map(|annotation| self.site_of_expr(annotation)),
                    _ => None,
                });
                (declared, at)
            }
        };
        // `x = None  # type: T` is allowed for any type (PEP 484).
        let is_start = comment.is_some() && self.is_put_none(put);
        if !is_start && !self.takes(declared, put) {
            self.misput(target, put, declared, name, at);
        }
    }

    pub(crate) fn check_declared_attribute(
        &mut self,
        target: ExprId,
        (holder, object): (ExprId, Type),
        name: Name,
        put: Put,
    ) {
        let id = match object {
            Type::Instance(id) | Type::Class(id) => id,
            Type::Module(file) => return self.check_module_name(target, file, name, put),
            _ => return,
        };
        if let Type::Instance(_) = object
            && let Some((found, descriptor)) = self.setting_descriptor(id, name)
        {
            self.check_set(target, object, (found, descriptor), name, put);
            return;
        }
        let Some(found) = members::find(self.db, id, name, None) else {
            if let Type::Instance(_) = object {
                self.check_by_hook(target, object, name, put);
            }
            return;
        };
        let owner = self.db.store().instance(found.owner).class;
        if let (Type::Instance(_), Type::Property(_)) = (object, found.member.ty) {
            self.check_property(target, object, found, name, put);
            return;
        }
        let is_said = found.member.declared || self.is_given_by_parameters(owner, found, name, holder);
        if !is_said || matches!(found.member.ty, Type::Literal(_) | Type::Special(_)) {
            return;
        }
        // What was only concluded of a container need not hold for what it is given later.
        let is_open = crate::types::substitute::has_variables(self.db.store(), found.member.ty);
        if is_open && !self.is_declared_place(holder) && !self.is_receiver(holder) {
            return;
        }
        let substitution = classes::as_base(self.db, id, owner)
            .map(|owner| classes::class_arguments(self.db, owner))
            .unwrap_or_default();
        let declared = substitution.apply(self.db.store(), found.member.ty);
        let mut declared = self.replace_self(declared, object);
        // What a descriptor gives that is only read may be put in the object in its place (language reference,
        // "Invoking Descriptors").
        if found.member.in_class
            && matches!(declared, Type::Instance(descriptor) if members::find(self.db, descriptor, known::GET, None).is_some())
            && matches!(object, Type::Instance(_))
        {
            let Some(given) = self.member(object, name) else { return };
            declared = given;
        }
        let by_comment = bound_at(self.db, owner.file, found.member.at) == Bound::Assigned && found.member.declared;
        let is_start = by_comment && self.is_put_none(put);
        if !is_start && !self.takes(declared, put) {
            let at = Some(Infer::member_site(self.db, found));
            self.misput(target, put, declared, name, at);
        }
    }

    /// What a class's body gives a name must fit what a base declares of it (typing specification, "Class type assignability").
    fn check_inherited_name(&mut self, target: ExprId, scope: ScopeId, name: Name, put: Put) {
        let db = self.db;
        let leitmotiv_index::tree::ScopeKind::Class(class) = self.index.scopes[scope].kind else { return };
        if self.index.classes[class].args.is_empty() || self.text(name).starts_with("__") {
            return;
        }
        let class = ClassRef { file: self.file, class };
        let info = classes::info(db, class);
        if info.kind != ClassKind::Plain || info.unknown_base.is_some() {
            return;
        }
        let Some(found) = members::declared(db, class, name) else { return };
        let owner = db.store().instance(found.owner).class;
        if owner == class || !matches!(bound_at(db, owner.file, found.member.at), Bound::Annotated { .. }) {
            return;
        }
        let declared = classes::class_arguments(db, found.owner).apply(db.store(), found.member.ty);
        let is_open = crate::types::substitute::has_variables(db.store(), declared);
        if is_open || matches!(declared, Type::Special(_)) || self.reads_through_descriptor(declared) {
            return;
        }
        // What a property or another descriptor gives is not what stands here.
        let given = self.put_type(put);
        if matches!(given, Type::Property(_)) || self.reads_through_descriptor(given) {
            return;
        }
        if !self.takes(declared, put) {
            let def = Some(Infer::member_site(db, found));
            self.misput(target, put, declared, name, def);
        }
    }

    fn reads_through_descriptor(&self, ty: Type) -> bool {
        matches!(ty, Type::Instance(id) if members::find(self.db, id, known::GET, None).is_some())
    }

    /// The same for what `target += value` puts back into a name, whose old value it reads.
    pub(crate) fn check_declared_change(&mut self, target: ExprId, name: Name, put: Put) {
        let at = self.index.spans[target];
        let scope = self.scope_at(target);
        let Some(symbol) = self.index.scopes[scope].symbols.get(&name) else { return };
        let own = symbol.defs.iter().copied().find(|def| self.index.defs[*def].range == at);
        let Some(declared) = own.and_then(|def| self.declaration_elsewhere(def)) else { return };
        if !self.takes(declared, put) {
            let def =
                symbol.defs.iter().copied().find(|def| {
                    matches!(self.index.defs[*def].kind, DefKind::Annotated { .. } | DefKind::Param { .. })
                });
            let def = def.map(|def| self.site_of(def));
            self.misput(target, put, declared, name, def);
        }
    }

    /// Whether methods give an attribute nothing but what their parameters are annotated to be: so much is said, though not of the attribute.
    fn is_given_by_parameters(&self, owner: ClassRef, found: members::Found, name: Name, holder: ExprId) -> bool {
        !owner.file.is_stub(self.db)
            && !found.member.in_class
            && !self.is_receiver(holder)
            && !matches!(found.member.ty, Type::Function(_) | Type::Property(_))
            && open_members::is_given_by_parameters(self.db, owner.file, owner.class, name)
    }

    /// The descriptor of a class that takes what is assigned to an attribute, also where methods of a class below assign it.
    pub(crate) fn setting_descriptor(&self, id: InstanceId, name: Name) -> Option<(members::Found, InstanceId)> {
        let db = self.db;
        let info = classes::info(db, self.db.store().instance(id).class);
        for (place, entry) in info.mro.iter().enumerate() {
            if info.names.get(place).is_some_and(|names| !names.has(name)) {
                continue;
            }
            let class = db.store().instance(*entry).class;
            let bound = crate::outline::class(db, class).get(name);
            if !bound.in_body {
                continue;
            }
            let ty = members::value_in_body(db, class.file, class.class, name)?;
            let Type::Instance(descriptor) = ty else { return None };
            members::find(db, descriptor, known::SET, None)?;
            let member = members::own_member(db, class.file, class.class, name)?;
            let found = members::Found { member: members::Member { ty, ..member }, owner: *entry };
            return Some((found, descriptor));
        }
        None
    }

    /// A property takes what its setter takes; one that keeps what its getter gave (`cached_property`) what that gives.
    fn check_property(&mut self, target: ExprId, object: Type, found: members::Found, name: Name, put: Put) {
        let db = self.db;
        let store = db.store();
        let owner = store.instance(found.owner).class;
        let Type::Property(getter) = found.member.ty else { return };
        let getter = *store.function(getter);
        let declared = if self.is_plain_property(getter) {
            let outline = crate::outline::class(db, owner);
            let setter = outline.methods.iter().copied().find(|method| {
                let function = crate::outline::function(db, owner.file, *method);
                function.name == name && function.is_under(known::SETTER)
            });
            let Some(setter) = setter else { return };
            let declared = crate::definitions::functions::declared(db, owner.file, setter);
            let Some(param) = declared.params.get(1) else { return };
            param.ty
        } else {
            let is_kept = crate::outline::function(db, getter.file, getter.function)
                .decorators
                .iter()
                .any(|decorator| decorator.bare.is_some_and(|name| self.text(name) == "cached_property"));
            let declared = crate::definitions::functions::declared(db, getter.file, getter.function);
            match declared.returns.filter(|_| is_kept) {
                Some(returns) => returns,
                None => return,
            }
        };
        let substitution = match object {
            Type::Instance(id) => {
                classes::as_base(db, id, owner).map(|owner| classes::class_arguments(db, owner)).unwrap_or_default()
            }
            _ => return,
        };
        let declared = self.seen_by(&substitution, declared, object);
        if crate::types::substitute::has_variables(store, declared) {
            return;
        }
        if !self.takes(declared, put) {
            let at = Some(Infer::member_site(db, found));
            self.misput(target, put, declared, name, at);
        }
    }

    /// A descriptor takes what its `__set__` takes (language reference, "Implementing descriptors").
    fn check_set(
        &mut self,
        target: ExprId,
        object: Type,
        (found, descriptor): (members::Found, InstanceId),
        name: Name,
        put: Put,
    ) {
        let Some(method) = self.member(Type::Instance(descriptor), known::SET) else { return };
        let value = Infer::put_argument(put);
        let candidates = self.candidates(method);
        let Err(refusals) = self.choose(&candidates, &[Argument::of_type(object), value]) else {
            return;
        };
        let [(_, refusal)] = refusals.as_slice() else { return };
        if let Why::Argument { param: 1, expected, .. } = refusal.why
            && !matches!(put, Put::Expr(value) if self.is_ambiguous(value))
        {
            let def = Some(Infer::member_site(self.db, found));
            self.misput(target, put, expected, name, def);
        }
    }

    /// An attribute that no class declares goes to `__setattr__`, where there is one (data model, "Customizing attribute access").
    fn check_by_hook(&mut self, target: ExprId, object: Type, name: Name, put: Put) {
        let Type::Instance(id) = object else { return };
        if !self.has_hook(id, known::SETATTR) {
            return;
        }
        let Some(method) = self.member(object, known::SETATTR) else { return };
        let Some(found) = members::find(self.db, id, known::SETATTR, None) else { return };
        let store = self.db.store();
        let text = Type::Literal(store.intern_literal(crate::types::Literal::Str(name)));
        let value = Infer::put_argument(put);
        let candidates = self.candidates(method);
        let Err(refusals) = self.choose(&candidates, &[Argument::of_type(text), value]) else { return };
        let [(_, refusal)] = refusals.as_slice() else { return };
        if let Why::Argument { param: 1, expected, .. } = refusal.why {
            let def = Some(Infer::member_site(self.db, found));
            self.misput(target, put, expected, name, def);
        }
    }

    /// A name of another module takes what it is declared to hold there, and nothing where it is final.
    fn check_module_name(&mut self, target: ExprId, file: crate::base::file::File, name: Name, put: Put) {
        let Some((declared, def)) = crate::policy::provenance::declaration_in(self.db, file, name) else { return };
        let at = Site { file, at: def };
        if members::qualifiers(self.db, file, def).is_final {
            self.problem(target, ProblemKind::ClassFinal { what: Ended::Name(name), at });
        } else if let Some(declared) = declared
            && !self.takes(declared, put)
        {
            self.misput(target, put, declared, name, Some(at));
        }
    }

    /// Looks at an attribute that is assigned: on None, one that is fixed, one that no class declares.
    fn check_attribute(&mut self, target: ExprId, object: ExprId, ty: Type, name: Name) {
        if self.check_none(target, object, ty, Some(name)) || self.check_fixed(target, object, ty, name) {
            return;
        }
        let Type::Instance(id) = ty else { return };
        let class = self.db.store().instance(id).class;
        let text = self.db.names().text(name);
        if self.has_no_slot(id, name) {
            let near = self.near_member(ty, name).filter(|near| near != text);
            self.problem(target, ProblemKind::MemberUndeclared { object: ty, name, near });
            return;
        }
        let is_open = self.is_receiver(object)
            || text.starts_with("__")
            || open_members::has_slot(self.db, id, name)
            || members::find(self.db, id, name, None).is_some()
            || open_members::unseen(self.db, class).is_some()
            || self.has_hook(id, known::SETATTR)
            || self.has_hook(id, known::GETATTR)
            || self.has_hook(id, known::GETATTRIBUTE)
            || classes::info(self.db, class).kind == ClassKind::Protocol
            || self.is_hidden_by_stub(ty, name);
        if is_open {
            return;
        }
        let near = self.near_member(ty, name);
        let is_slip = near.as_ref().is_some_and(|near| crate::infer::attributes::is_slip(text, near));
        // Objects of unannotated code get attributes from all sides.
        if is_slip && text.len() > 3 || self.is_declared_place(object) {
            self.problem(target, ProblemKind::MemberUndeclared { object: ty, name, near });
        }
    }

    /// Whether the objects of a class have nothing but slots, and none of that name (data model, "__slots__").
    fn has_no_slot(&self, id: InstanceId, name: Name) -> bool {
        use crate::outline::classes::Slots;
        let db = self.db;
        let info = classes::info(db, self.db.store().instance(id).class);
        let text = self.text(name);
        if info.unknown_base.is_some() || text.starts_with("__") {
            return false;
        }
        let mut found_one = false;
        for entry in &info.mro {
            let class = db.store().instance(*entry).class;
            let outline = crate::outline::class(db, class);
            let module = self.text(class.file.module(db));
            if crate::resolve::is_builtin(db, class, known::OBJECT)
                || matches!(module, "typing" | "collections.abc" | "abc")
            {
                continue;
            }
            // What the class itself has takes the value, or refuses it in words of its own.
            if outline.get(name).in_body {
                let is_field = classes::info(db, class).dataclass.is_some_and(|options| options.slots);
                if !is_field {
                    return false;
                }
            }
            let by_fields = classes::info(db, class).dataclass.filter(|options| options.slots);
            match &outline.slots {
                Slots::Named(names) => {
                    if names.iter().any(|slot| *slot == name || self.text(*slot) == "__dict__") {
                        return false;
                    }
                }
                Slots::Any => return false,
                Slots::Absent if by_fields.is_some() => {
                    if dataclass::own_fields(db, class, false).iter().any(|field| field.name == name) {
                        return false;
                    }
                }
                Slots::Absent => return false,
            }
            if classes::is_remade(db, class.file, class.class) {
                return false;
            }
            found_one = true;
        }
        found_one && !self.has_hook(id, known::SETATTR)
    }

    /// Whether a class has a hook of its own for attributes.
    pub(crate) fn has_hook(&self, id: InstanceId, hook: Name) -> bool {
        members::find(self.db, id, hook, None).is_some_and(|found| {
            !crate::resolve::is_builtin(self.db, self.db.store().instance(found.owner).class, known::OBJECT)
        })
    }

    /// Reports a write to something that may be None; whether it did.
    fn check_none(&mut self, target: ExprId, object: ExprId, ty: Type, name: Option<Name>) -> bool {
        let store = self.db.store();
        let may_be_none = crate::types::union::parts(store, &ty).contains(&Type::None);
        if !self.checking || !may_be_none || self.is_unreliable_none(object) || !self.is_first_none(object, target) {
            return false;
        }
        let kind = match name {
            Some(name) => ProblemKind::NoneMember { object: ty, name },
            None => ProblemKind::NoneIndex { object: ty },
        };
        self.problem(target, kind);
        true
    }

    /// Reports the assignment of an attribute that cannot be assigned; whether it did.
    fn check_fixed(&mut self, target: ExprId, object: ExprId, ty: Type, name: Name) -> bool {
        let (id, on_class) = match ty {
            Type::Instance(id) => (id, false),
            Type::Class(id) => (id, true),
            _ => return false,
        };
        if self.text(name).starts_with("__") {
            return false;
        }
        let Some((why, at)) = self.fixed(target, object, id, name, on_class) else { return false };
        if self.has_hook(id, known::SETATTR) {
            return false;
        }
        self.problem(target, ProblemKind::MemberReadonly { object: ty, name, why, at, is_deleted: false });
        true
    }

    /// Why an attribute cannot be assigned, if it cannot, and where it is declared so.
    pub(crate) fn fixed(
        &mut self,
        target: ExprId,
        object: ExprId,
        id: InstanceId,
        name: Name,
        on_class: bool,
    ) -> Option<(Fixed, Site)> {
        if let Some(fixed) = self.fixed_by_class(id, name, on_class) {
            return Some(fixed);
        }
        let db = self.db;
        let Attribute { found, owner, at, is_field } = self.attribute_in_class(id, name)?;
        let is_final = || members::qualifiers(db, owner.file, found.member.at).is_final;
        let bound = bound_at(db, owner.file, found.member.at);
        if is_field && is_final() {
            // Declared without a value in the class, it gets one in `__init__`.
            let has_value = bound == Bound::Annotated { has_value: true };
            if has_value || !self.is_in_init_of(owner, object) {
                return Some((Fixed::Final, at));
            }
        }
        let is_here = || at.file == self.file && self.index.range_of(at.at) == self.index.spans[target];
        if !is_field && matches!(bound, Bound::Annotated { .. }) && !is_here() {
            return is_final().then_some((Fixed::Final, at));
        }
        None
    }

    /// Whether an expression is the object that is being made, in the `__init__` of that class.
    fn is_in_init_of(&self, class: ClassRef, object: ExprId) -> bool {
        let Some(function) = self.index.bodies[self.body].function else { return false };
        let record = &self.index.functions[function];
        record.name == known::INIT
            && record.class == Some(class.class)
            && self.file == class.file
            && self.is_receiver(object)
    }

    /// Reports a change to an item of a typed dictionary that cannot be changed or taken away; whether it did.
    pub(crate) fn check_item_stays(&mut self, object: Type, key: ExprId, is_taken: bool) -> bool {
        let Some(fields) = self.typed_dict_fields(object) else { return false };
        let Some(name) = self.text_literal(key) else { return false };
        let Some(field) = fields.into_iter().find(|field| field.name == name) else { return false };
        let why = match (field.read_only, is_taken && !field.optional) {
            (true, _) => Fixed::Item,
            (false, true) => Fixed::Required,
            (false, false) => return false,
        };
        let at = Site { file: field.class.file, at: field.at };
        self.problem(key, ProblemKind::MemberReadonly { object, name, why, at, is_deleted: is_taken });
        true
    }

    /// Looks at what `x[key] += value` puts back, where somebody said what the items are.
    pub(crate) fn check_item_put(&mut self, ty: Type, (object, index): (ExprId, ExprId), target: ExprId, given: Type) {
        if let Some(expected) = self.typed_dict_item(ty, index) {
            if !self.check_item_stays(ty, index, false) && !self.is_assignable(given, expected) {
                self.problem(target, ProblemKind::ValueItem { object: ty, expected, given, is_key: false });
            }
            return;
        }
        if !matches!(ty, Type::Instance(_)) || !self.is_declared_place(object) {
            return;
        }
        let Some(method) = self.member(ty, known::SETITEM) else { return };
        let candidates = self.candidates(method);
        let arguments = [Argument::of_expr(index), Argument::of_type(given)];
        let Err(refusals) = self.choose(&candidates, &arguments) else { return };
        let Some((_, refusal)) = refusals.into_iter().max_by_key(|(_, refusal)| refusal.reached) else { return };
        if let Why::Argument { param: 1, expected, given, .. } = refusal.why {
            self.problem(target, ProblemKind::ValueItem { object: ty, expected, given, is_key: false });
        }
    }

    /// Looks at an item that is assigned: whether there can be items, and whether the key and the value fit.
    fn check_item(&mut self, target: ExprId, ty: Type, (object, index): (ExprId, ExprId), value: ExprId) {
        if self.check_none(target, object, ty, None) || ty.is_dynamic() || matches!(ty, Type::Union(_) | Type::Never) {
            return;
        }
        if let Some(expected) = self.typed_dict_item(ty, index) {
            if self.check_item_stays(ty, index, false) {
                return;
            }
            if !self.is_assignable_leniently(value, expected) {
                let given = self.expr(value);
                self.problem(value, ProblemKind::ValueItem { object: ty, expected, given, is_key: false });
            }
            return;
        }
        let Some(method) = self.member(ty, known::SETITEM) else {
            // Whoever made it, a tuple takes no items.
            let is_fixed = matches!(ty, Type::Tuple(_) | Type::Literal(_));
            if !self.is_receiver(object) && (is_fixed || !self.is_ambiguous(object)) && ty != Type::None {
                self.problem(target, ProblemKind::IndexUnsupported { object: ty, access: Access::Write });
            }
            return;
        };
        // What was only concluded of a container from its first items need not hold for the next.
        let is_generic = self
            .nominal(ty)
            .is_none_or(|id| !classes::info(self.db, self.db.store().instance(id).class).params.is_empty());
        if is_generic && !self.is_declared_place(object) {
            return;
        }
        let candidates = self.candidates(method);
        let given = [Argument::of_expr(index), Argument::of_expr(value)];
        let Err(refusals) = self.choose(&candidates, &given) else { return };
        let Some((_, refusal)) = refusals.into_iter().max_by_key(|(_, refusal)| refusal.reached) else { return };
        if let Why::Argument { param, expected, given, .. } = refusal.why {
            let is_key = param == 0;
            let at = if is_key { index } else { value };
            self.problem(at, ProblemKind::ValueItem { object: ty, expected, given, is_key });
        }
    }
}
