//! Writing to names, attributes and items: whether they can be written, and whether they take the value.

use leitmotiv_index::tree::{DefId, DefKind, Expr, ExprId, ScopeId, Symbol, Value};
use leitmotiv_syntax::names::{Name, known};

use crate::call::{Argument, Bind, Why};
use crate::context::TypeContext;
use crate::definitions::classes::{self, ClassKind, dataclass, members};
use crate::infer::Infer;
use crate::outline::Site;
use crate::outline::places::{Bound, bound_at};
use crate::problems::{Ended, Fixed, ProblemKind};
use crate::types::{ClassRef, FunctionRef, InstanceId, SpecialForm, Type};

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
    pub(crate) fn check_target(&mut self, target: ExprId, value: Option<ExprId>) {
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
                if let Some(value) = value {
                    self.check_declared_attribute((object, ty), name, value);
                }
            }
            Expr::Subscript { value: object, index, .. } => {
                let (object, index) = (*object, *index);
                let ty = self.expr(object);
                self.expr(index);
                if let Some(value) = value {
                    self.check_item(target, ty, (object, index), value);
                }
            }
            Expr::Tuple(parts) => {
                for part in parts {
                    self.check_target(*part, None);
                }
            }
            Expr::Starred(inner) => self.check_target(*inner, None),
            _ => {}
        }
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

    fn check_declared_name(&mut self, target: ExprId, name: Name, value: ExprId) {
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
                let Some(declared) = self.declaration_elsewhere(def) else { return };
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
        let is_start = comment.is_some() && self.index.exprs[value] == Expr::None;
        if !is_start && !self.is_assignable_leniently(value, declared) {
            let given = self.expr(value);
            self.problem(value, ProblemKind::ValueAssign { declared, given, name, def: at });
        }
    }

    fn check_declared_attribute(&mut self, (holder, object): (ExprId, Type), name: Name, value: ExprId) {
        let id = match object {
            Type::Instance(id) | Type::Class(id) => id,
            _ => return,
        };
        let Some(found) = members::find(self.db, id, name, None) else { return };
        if let (Type::Instance(_), Type::Instance(descriptor)) = (object, found.member.ty)
            && found.member.in_class
            && members::find(self.db, descriptor, known::SET, None).is_some()
        {
            self.check_set(object, found, name, value);
            return;
        }
        if !found.member.declared || matches!(found.member.ty, Type::Literal(_) | Type::Special(_)) {
            return;
        }
        // What was only concluded of a container need not hold for what it is given later.
        let is_open = crate::types::substitute::has_variables(self.db.store(), found.member.ty);
        if is_open && !self.is_declared_place(holder) && !self.is_receiver(holder) {
            return;
        }
        let substitution = classes::as_base(self.db, id, self.db.store().instance(found.owner).class)
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
        let owner = self.db.store().instance(found.owner).class;
        let by_comment = bound_at(self.db, owner.file, found.member.at) == Bound::Assigned;
        let is_start = by_comment && self.index.exprs[value] == Expr::None;
        if !is_start && !self.is_assignable_leniently(value, declared) {
            let given = self.expr(value);
            let at = Some(Infer::member_site(self.db, found));
            self.problem(value, ProblemKind::ValueAssign { declared, given, name, def: at });
        }
    }

    /// A descriptor takes what its `__set__` takes (language reference, "Implementing descriptors").
    fn check_set(&mut self, object: Type, found: members::Found, name: Name, value: ExprId) {
        let Some(method) = self.member(found.member.ty, known::SET) else { return };
        let candidates = self.candidates(method);
        let Err(refusals) = self.choose(&candidates, &[Argument::of_type(object), Argument::of_expr(value)]) else {
            return;
        };
        let [(_, refusal)] = refusals.as_slice() else { return };
        if let Why::Argument { param: 1, expected, given, .. } = refusal.why
            && !self.is_ambiguous(value)
        {
            let def = Some(Infer::member_site(self.db, found));
            self.problem(value, ProblemKind::ValueAssign { declared: expected, given, name, def });
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
        let is_open = self.is_receiver(object)
            || text.starts_with("__")
            || members::has_slot(self.db, id, name)
            || members::find(self.db, id, name, None).is_some()
            || members::unseen(self.db, class).is_some()
            || self.has_hook(id, known::SETATTR)
            || self.has_hook(id, known::GETATTR)
            || self.has_hook(id, known::GETATTRIBUTE)
            || classes::info(self.db, class).kind == ClassKind::Protocol
            || self.is_hidden_by_stub(ty);
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

    /// Whether a class has a hook of its own for attributes.
    fn has_hook(&self, id: InstanceId, hook: Name) -> bool {
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
        if self.has_hook(id, known::SETATTR) || self.text(name).starts_with("__") {
            return false;
        }
        let Some((why, at)) = self.fixed(target, object, id, name, on_class) else { return false };
        self.problem(target, ProblemKind::MemberReadonly { object: ty, name, why, at });
        true
    }

    /// Why an attribute cannot be assigned, if it cannot, and where it is declared so.
    fn fixed(
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

    /// Looks at what is deleted.
    pub(crate) fn check_deleted(&mut self, target: ExprId) {
        if let Expr::Subscript { value, index, .. } = self.index.exprs[target] {
            let ty = self.expr(value);
            if self.typed_dict_item(ty, index).is_some() {
                self.check_item_stays(ty, index, true);
                return;
            }
            // What only lets its items be deleted is not asked to give them.
            let delete = self.db.names().intern("__delitem__");
            if self.member(ty, known::GETITEM).is_none() && self.member(ty, delete).is_some() {
                self.expr(index);
                return;
            }
            // Whatever was put in before: the key is asked for.
            self.expr(index);
            self.subscript_of(target, ty, index);
            return;
        }
        self.expr(target);
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
        self.problem(key, ProblemKind::MemberReadonly { object, name, why, at });
        true
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
            if !self.is_receiver(object) && !self.is_ambiguous(object) && ty != Type::None {
                self.problem(target, ProblemKind::IndexUnsupported { object: ty, is_write: true });
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
