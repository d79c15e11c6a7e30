//! Members of classes and instances, and what reading them gives.

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{ClassId, DefId, DefKind, Expr, ModuleIndex, ParamKind};
use leitmotiv_syntax::names::{Name, known};

use super::enums;
use super::open_members::{dynamic_cause, has_slot, hidden_member, is_replaceable, is_said, makes_members, unseen};
use super::{ClassKind, as_base, class_arguments, info};
use crate::base::asked::{Ask, saw};
use crate::base::cycles::converge;
use crate::base::db::Db;
use crate::base::file::File;
use crate::base::stored::{known_maybe, known_member, known_type};
use crate::context::TypeContext;
use crate::definitions::functions;
use crate::infer::Infer;
use crate::outline::places::{Bound, bound_at};
use crate::outline::{self, Site, module_index, reading};
use crate::resolve::{builtin, builtin_instance, instance_of, scope_type};
use crate::types::substitute::{Substitution, rewrite};
use crate::types::{Binding, Cause, CauseKind, ClassRef, InstanceId, Literal, Method, Type, VarKind};

/// A member as its class has it, before it is bound to an object.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Member {
    /// Its type; of methods, the function.
    pub ty: Type,
    /// Whether the type was declared.
    pub declared: bool,
    /// Whether it exists in the class itself, not only in its instances.
    pub in_class: bool,
    /// Where it is first given, in the file of its class.
    pub at: Anchor,
}

/// A member found in the order of resolution.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Found {
    /// The member.
    pub member: Member,
    /// The class that has it, with its arguments.
    pub owner: InstanceId,
}

impl Found {
    /// The declared type as an instance with its own arguments has it.
    #[must_use]
    pub fn member_type(self, db: &dyn Db, instance: InstanceId) -> Type {
        let class = db.store().instance(self.owner).class;
        let owner = as_base(db, instance, class).unwrap_or(self.owner);
        class_arguments(db, owner).apply(db.store(), self.member.ty)
    }
}

/// A member that a class has of its own.
pub fn own_member(db: &dyn Db, file: File, class: ClassId, name: Name) -> Option<Member> {
    // Most classes that are asked have nothing of that name: their text says so at once.
    let is_named = outline::class(db, ClassRef { file, class }).has(name);
    if is_named { named_member(db, file, class, name) } else { None }
}

pub(crate) fn named_member(db: &dyn Db, file: File, class: ClassId, name: Name) -> Option<Member> {
    saw(db, file, Ask::NamedMember(class, name));
    if let Some(known) = known_member(db, file, Ask::NamedMember(class, name)) {
        return known.map(|(ty, declared, in_class, at)| Member { ty, declared, in_class, at });
    }
    named_member_query(db, file, class, name)
}

#[salsa::tracked(returns(copy), cycle_initial = unsettled, cycle_fn = recover)]
fn named_member_query(db: &dyn Db, file: File, class: ClassId, name: Name) -> Option<Member> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let record = &index.classes[class];
    let symbol = index.scopes[record.scope].symbols.get(&name);
    let assigned = record.attributes.get(&name);
    let mut infer = Infer::new(db, file, record.body);
    // What is there for other versions or platforms is not there.
    let are_functions = symbol.is_some_and(|symbol| {
        symbol.defs.iter().all(|def| matches!(index.defs[*def].kind, DefKind::Function(_) | DefKind::Class(_)))
    });
    if file.is_stub(db) && assigned.is_none() && are_functions && infer.is_bound_for_others_only(record.scope, name) {
        return None;
    }
    if let Some(symbol) = symbol
        && let Some(declared) = infer.declared_symbol(record.scope, name)
    {
        let at = index.anchor_of_def(*symbol.defs.first()?);
        // What only goes to `__post_init__` is no attribute, unless a method makes it one (PEP 557).
        let is_passed_on = |def: &DefId| match index.defs[*def].kind {
            DefKind::Annotated { annotation, value: None } => super::dataclass::is_init_var(&mut infer, annotation),
            _ => false,
        };
        if assigned.is_none() && symbol.defs.iter().any(is_passed_on) {
            return None;
        }
        // A bare annotation in a class body declares an attribute of instances, which classes may have too.
        return Some(Member { ty: declared, declared: true, in_class: true, at });
    }
    if let Some(assigned) = assigned {
        for def in assigned {
            let at = index.anchor_of_attribute(class, name, *def);
            if let DefKind::Annotated { annotation, .. } = index.defs[*def].kind {
                let ty = Infer::new(db, file, index.defs[*def].body).declared_annotation(annotation);
                if let Some(ty) = ty {
                    return Some(Member { ty, declared: true, in_class: symbol.is_some(), at });
                }
            } else if let DefKind::Assign { comment: Some(comment), unpack: None, .. } = index.defs[*def].kind {
                let ty = Infer::new(db, file, index.defs[*def].body).annotation(comment);
                return Some(Member { ty, declared: true, in_class: symbol.is_some(), at });
            }
        }
    }
    let mut parts: Vec<Type> = Vec::new();
    let at = |def: DefId| index.anchor_of_attribute(class, name, def);
    let mut first = None;
    let mut false_start = false;
    if let Some(symbol) = symbol {
        first = symbol.defs.first().copied();
        let ty = scope_type(db, file, record.scope, name);
        if is_enum(db, file, class) && first.is_some_and(|def| enums::is_member(db, index, name, def)) {
            let this = ClassRef { file, class };
            let literal = Literal::Enum(this, enums::member_behind(db, this, name));
            let ty = Type::Literal(db.store().intern_literal(literal));
            return Some(Member { ty, declared: true, in_class: true, at: at(first?) });
        }
        if is_enum(db, file, class)
            && let Type::Instance(id) = ty
            && super::shown(db, db.store().instance(id).class) == "nonmember"
            && let [held] = db.store().instance(id).args.as_ref()
        {
            // `nonmember(3)` is 3.
            return Some(Member { ty: infer.widen_for_others(*held), declared: false, in_class: true, at: at(first?) });
        }
        // Assigning through a property or descriptor is no assignment of the attribute itself.
        if matches!(ty, Type::Property(_)) || is_descriptor(db, ty) {
            return Some(Member { ty, declared: false, in_class: true, at: at(first?) });
        }
        let is_remade = !file.is_stub(db)
            && !matches!(ty, Type::Function(_) | Type::Class(_))
            && super::is_remade(db, file, class)
            && info(db, ClassRef { file, class }).dataclass.is_none_or(|options| options.transform.is_none());
        if is_remade || sets_only(db, ty) || is_rewritten(db, ClassRef { file, class }, name, ty) {
            // What a decorator, a metaclass, or a descriptor that only sets, makes of it cannot be seen.
            let at = at(first?);
            let ty = Type::Unknown(db.store().intern_cause(Cause { kind: CauseKind::Dynamic, file, at, name }));
            return Some(Member { ty, declared: false, in_class: true, at });
        }
        match symbol.defs.as_slice() {
            [only] if is_false(index, *only) => false_start = true,
            // None until `__init__` gives it a value, which it does on every way.
            _ if ty == Type::None && record.set_by_init.contains(&name) => {}
            _ => parts.push(ty),
        }
    }
    for def in assigned.into_iter().flatten() {
        first = first.or(Some(*def));
        if record.set_by_init.contains(&name) && is_first_none(index, *def) {
            continue;
        }
        // `self.open = None` in `close()`, of a method: nobody is to call it any more.
        if parts.iter().any(|part| matches!(part, Type::Function(_))) && is_none(index, *def) {
            continue;
        }
        if is_false(index, *def) {
            false_start = true;
            continue;
        }
        let mut infer = Infer::new(db, file, index.defs[*def].body);
        if infer.reachable(index.defs[*def].reach) {
            let ty = infer.definition(*def);
            // A literal type that was declared stays what it is, and so does what is final.
            let wide = infer.widen_for_others(ty);
            let is_said = wide != ty
                && match index.defs[*def].kind {
                    DefKind::Assign { value, unpack: None, .. } => infer.is_said(value),
                    DefKind::Annotated { .. } => true,
                    _ => false,
                };
            parts.push(if is_said { ty } else { wide });
        }
    }
    let at = at(first?);
    // `self.file = False` before it is a file: like None, it stands for what is not there yet.
    let truth = builtin_instance(db, known::BOOL_CLASS, &[]);
    if false_start && !parts.iter().any(|part| matches!(part, Type::Instance(_)) && *part != truth) {
        parts.insert(0, truth);
    }
    let mut ty = fill_attribute(&mut infer, class, name, crate::types::union::join(db.store(), parts));
    // What is only ever None (or else unknown), or an empty tuple, in its own class is there to be filled by others: by
    // subclasses, or from outside.
    let placeholder = match ty {
        Type::None => true,
        Type::Union(id) => db.store().union_parts(id).iter().all(|part| *part == Type::None || part.is_dynamic()),
        Type::Tuple(id) => db.store().tuple(id).prefix.is_empty() && db.store().tuple(id).rest.is_none(),
        _ => false,
    };
    if placeholder && !file.is_stub(db) {
        ty = Type::Unknown(db.store().intern_cause(Cause { kind: CauseKind::Dynamic, file, at, name }));
    }
    let ty = crate::types::canonical::canonical(db, ty);
    let ty = functions::unless_doubtful(db, file, ty, at, name);
    Some(Member { ty, declared: false, in_class: symbol.is_some(), at })
}

/// Whether a definition assigns None in `__init__`.
fn is_first_none(index: &ModuleIndex, def: DefId) -> bool {
    let record = &index.defs[def];
    let is_init = index.bodies[record.body].function.is_some_and(|id| index.functions[id].name == known::INIT);
    is_init && is_none(index, def)
}

/// Whether a definition assigns None.
fn is_none(index: &ModuleIndex, def: DefId) -> bool {
    matches!(index.defs[def].kind, DefKind::Assign { value, unpack: None, .. } if index.exprs[value] == Expr::None)
}

/// Whether a definition assigns `False`.
fn is_false(index: &ModuleIndex, def: DefId) -> bool {
    matches!(index.defs[def].kind, DefKind::Assign { value, unpack: None, comment: None }
        if index.exprs[value] == Expr::Bool(false))
}

/// An attribute that starts as an empty container takes its elements from what methods put in.
fn fill_attribute(infer: &mut Infer<'_>, class: ClassId, name: Name, ty: Type) -> Type {
    let filled = leitmotiv_index::tree::Filled::Attribute(class, name);
    infer.fill_container(ty, filled)
}

fn is_descriptor(db: &dyn Db, ty: Type) -> bool {
    matches!(ty, Type::Instance(id) if find(db, id, known::GET, None).is_some())
}

/// Whether a class attribute is a descriptor that sets but does not get: then instances hold values of their own.
fn sets_only(db: &dyn Db, ty: Type) -> bool {
    matches!(ty, Type::Instance(id)
        if find(db, id, known::SET, None).is_some() && find(db, id, known::GET, None).is_none())
}

/// Whether the metaclass puts something else in the place of what the class's body gives a name. Where the names cannot be read, that is done
/// to objects that classes of the source describe attributes by.
fn is_rewritten(db: &dyn Db, class: ClassRef, name: Name, ty: Type) -> bool {
    let Some(metaclass) = info(db, class).metaclass else { return false };
    let describes = || {
        crate::types::union::parts(db.store(), &ty).iter().any(|part| match part {
            Type::Instance(id) => !db.store().instance(*id).class.file.is_stub(db),
            _ => false,
        })
    };
    let rewrites = |entry: &InstanceId| {
        let rewrites = &outline::class(db, db.store().instance(*entry).class).rewrites;
        rewrites.contains(&name) || rewrites.contains(&known::EMPTY) && describes()
    };
    !metaclass.file.is_stub(db)
        && (makes_members(db, class, name) && describes() || info(db, metaclass).mro.iter().any(rewrites))
}

fn is_enum(db: &dyn Db, file: File, class: ClassId) -> bool {
    info(db, ClassRef { file, class }).kind == ClassKind::Enum
}

/// What a member is taken for where it is asked of while it is worked out, as by `self.berths += 1`: it is there, and nothing is
/// in it yet.
fn unsettled(db: &dyn Db, _: salsa::Id, file: File, class: ClassId, name: Name) -> Option<Member> {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let record = &index.classes[class];
    let symbol = index.scopes[record.scope].symbols.get(&name);
    let assigned = record.attributes.get(&name);
    let def = *symbol.and_then(|symbol| symbol.defs.first()).or(assigned.and_then(|defs| defs.first()))?;
    let at = index.anchor_of_attribute(class, name, def);
    Some(Member { ty: Type::Never, declared: false, in_class: symbol.is_some(), at })
}

fn recover(
    db: &dyn Db,
    cycle: &salsa::Cycle<'_>,
    last: &Option<Member>,
    value: Option<Member>,
    file: File,
    _class: ClassId,
    name: Name,
) -> Option<Member> {
    let mut value = value?;
    let cause = Cause { kind: CauseKind::Cycle, file, at: value.at, name };
    value.ty = converge(db, cycle.iteration(), last.map_or(Type::Never, |last| last.ty), value.ty, cause);
    Some(value)
}

/// The nearest declaration of an attribute in the order of resolution. It is found by the text, so that no value needs to be
/// worked out.
pub fn declared(db: &dyn Db, class: ClassRef, name: Name) -> Option<Found> {
    let store = db.store();
    for entry in &info(db, class).mro {
        let class = store.instance(*entry).class;
        let bound = outline::class(db, class).get(name);
        if bound.is_declared {
            let member = own_member(db, class.file, class.class, name)?;
            return member.declared.then_some(Found { member, owner: *entry });
        }
        // A method, a property, a class.
        if bound.is_definition {
            return None;
        }
    }
    None
}

/// Finds a member in the order of resolution, beginning behind `after` if that is given. A declaration further up says
/// what an assignment further down may hold (typing specification, "Type declarations of attributes").
pub fn find(db: &dyn Db, instance: InstanceId, name: Name, after: Option<ClassRef>) -> Option<Found> {
    let store = db.store();
    let class = info(db, store.instance(instance).class);
    let mut skipping = after.is_some();
    let mut assigned: Option<Found> = None;
    for (place, entry) in class.mro.iter().enumerate() {
        let names = class.names.get(place);
        if !skipping && names.is_some_and(|names| !names.has(name)) {
            continue;
        }
        let record = store.instance(*entry);
        if skipping {
            skipping = Some(record.class) != after;
            continue;
        }
        let (file, number) = (record.class.file, record.class.class);
        let member = match names {
            Some(_) => named_member(db, file, number, name),
            None => own_member(db, file, number, name),
        };
        let Some(member) = member else { continue };
        // A class that is assigned is a value; one that stands in the body is a definition.
        let is_definition = match member.ty {
            Type::Function(_) | Type::Property(_) => true,
            Type::Class(_) => matches!(bound_at(db, record.class.file, member.at), Bound::Class(_)),
            _ => false,
        };
        let is_value = !is_definition;
        let found = Found { member, owner: *entry };
        if member.declared || !is_value {
            return Some(match assigned {
                Some(assigned) if !member.declared => assigned,
                // A class that a body gives in the place of one that is declared further up is that one.
                Some(assigned) if assigned.member.in_class && matches!(assigned.member.ty, Type::Class(_)) => assigned,
                // The library says the least; the class at hand makes more of it: `self.data = OrderedDict()`.
                Some(assigned) if record.class.file.is_stub(db) && is_narrower(db, assigned, member.ty) => assigned,
                _ => found,
            });
        }
        match &mut assigned {
            None => assigned = Some(found),
            Some(first) => first.member.ty = with_inherited(db, instance, *first, found, name),
        }
    }
    assigned
}

/// Whether methods assign nothing but objects of a proper subclass of what a stub declares.
fn is_narrower(db: &dyn Db, assigned: Found, declared: Type) -> bool {
    let (Type::Instance(own), Type::Instance(base)) = (assigned.member.ty, declared) else { return false };
    let (own_class, base_class) = (db.store().instance(own).class, db.store().instance(base).class);
    !assigned.member.declared && own_class != base_class && as_base(db, own, base_class).is_some()
}

/// What a class and one of its bases assign to an attribute, as an instance has it: methods of the base may put in what theirs
/// say. That the base starts with None says little where a subclass has something better.
fn with_inherited(db: &dyn Db, instance: InstanceId, first: Found, base: Found, name: Name) -> Type {
    let store = db.store();
    let owner = store.instance(base.owner).class;
    let is_class_only = !outline::class(db, owner).get(name).by_methods;
    let is_hidden = first.member.in_class && base.member.in_class;
    if owner.file.is_stub(db) || is_class_only {
        return first.member.ty;
    }
    let ty = match is_hidden {
        true => put_by_methods(db, owner.file, owner.class, name),
        false => base.member_type(db, instance),
    };
    // What a base makes of what only its subclasses give (`self.poller = self.poller()`) cannot be seen in the base.
    let ty = match ty {
        Type::Never => Type::Unknown(store.intern_cause(dynamic_cause(owner, name))),
        ty => crate::types::union::filter(store, ty, |part| part != Type::None),
    };
    crate::types::union::join(store, [first.member.ty, ty])
}

/// What the methods of a class put into an attribute, without what its body gives it.
pub(crate) fn put_by_methods(db: &dyn Db, file: File, class: ClassId, name: Name) -> Type {
    saw(db, file, Ask::PutByMethods(class, name));
    if let Some(known) = known_type(db, file, Ask::PutByMethods(class, name)) {
        return known;
    }
    put_by_methods_query(db, file, class, name)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _, _| Type::Never, cycle_fn = recover_put)]
fn put_by_methods_query(db: &dyn Db, file: File, class: ClassId, name: Name) -> Type {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let assigned = index.classes[class].attributes.get(&name);
    let types = assigned.into_iter().flatten().filter_map(|def| {
        let mut infer = Infer::new(db, file, index.defs[*def].body);
        infer.reachable(index.defs[*def].reach).then(|| {
            let ty = infer.definition(*def);
            infer.widen_for_others(ty)
        })
    });
    let types: Vec<Type> = types.collect();
    crate::types::canonical::canonical(db, crate::types::union::join(db.store(), types))
}

fn recover_put(
    db: &dyn Db,
    cycle: &salsa::Cycle<'_>,
    last: &Type,
    now: Type,
    file: File,
    _: ClassId,
    name: Name,
) -> Type {
    let at = Anchor::Module;
    converge(db, cycle.iteration(), *last, now, Cause { kind: CauseKind::Cycle, file, at, name })
}

/// Whether a member is declared as `ClassVar[…]`.
fn is_class_variable(db: &dyn Db, owner: ClassRef, found: &Found) -> bool {
    qualifiers(db, owner.file, found.member.at).is_class_variable
}

/// What an annotation says of the name beside its type (typing specification, "Type qualifiers").
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub(crate) struct Qualifiers {
    /// `Final`, `Final[int]`
    pub is_final: bool,
    /// `ClassVar`, `ClassVar[int]`
    pub is_class_variable: bool,
}

/// What the annotation at a definition says of the name; nothing where there is none.
pub(crate) fn qualifiers(db: &dyn Db, file: File, at: Anchor) -> Qualifiers {
    saw(db, file, Ask::Qualifiers(at));
    qualifiers_query(db, file, at)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _| Qualifiers::default())]
fn qualifiers_query(db: &dyn Db, file: File, at: Anchor) -> Qualifiers {
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let Some(def) = index.def_at(at) else { return Qualifiers::default() };
    let DefKind::Annotated { annotation, .. } = index.defs[def].kind else { return Qualifiers::default() };
    let mut infer = Infer::new(db, file, index.defs[def].body);
    Qualifiers { is_final: infer.is_final(def), is_class_variable: infer.is_class_var(annotation) }
}

/// What the body of a class gives a name, whatever methods assign.
pub(crate) fn value_in_body(db: &dyn Db, file: File, class: ClassId, name: Name) -> Option<Type> {
    saw(db, file, Ask::ValueInBody(class, name));
    if let Some(known) = known_maybe(db, file, Ask::ValueInBody(class, name)) {
        return known;
    }
    value_in_body_query(db, file, class, name)
}

#[salsa::tracked(returns(copy), cycle_initial = |_, _, _, _, _| None)]
fn value_in_body_query(db: &dyn Db, file: File, class: ClassId, name: Name) -> Option<Type> {
    let _reading = reading(db, file);
    let scope = module_index(db, file).classes[class].scope;
    module_index(db, file).scopes[scope].symbols.contains_key(&name).then(|| scope_type(db, file, scope, name))
}

impl TypeContext<'_> {
    /// `__new__` of the named tuple that a class derives from: it takes the class and the fields.
    fn named_tuple_new(&self, instance: InstanceId, after: ClassRef) -> Option<Type> {
        let db = self.db;
        let store = db.store();
        let class = info(db, store.instance(instance).class);
        let above = class.mro.iter().skip_while(|entry| store.instance(**entry).class != after).skip(1);
        let tuple = above.copied().find(|entry| {
            let class = store.instance(*entry).class;
            info(db, class).kind == ClassKind::NamedTuple
                && class.file.module(db) != known::TYPING
                && !super::dataclass::own_fields(db, class, false).is_empty()
        })?;
        let mut signature = super::dataclass::constructor(db, tuple);
        let first = crate::types::SignatureParam::placed(Type::Any);
        signature.params = std::iter::once(first).chain(signature.params.iter().cloned()).collect();
        signature.returns = Type::Instance(instance);
        Some(Type::Callable(store.intern_signature(signature)))
    }

    /// Puts the receiver's type in the place of `Self`.
    pub fn replace_self(&self, ty: Type, receiver: Type) -> Type {
        self.seen_by(&Substitution::new(), ty, receiver)
    }

    /// A type of a class's text as it is for a receiver, with what stands for the class's variables. In one step: what stands
    /// there may speak of another class's `Self`.
    pub(crate) fn seen_by(&self, given: &Substitution, ty: Type, receiver: Type) -> Type {
        let store = self.db.store();
        let this = self.receiver_itself(receiver);
        rewrite(store, ty, &mut |var| match store.variable(var).kind {
            VarKind::SelfType => Some(this),
            _ => given.get(var),
        })
    }

    /// What `Self` stands for where a member is read from a receiver.
    pub(crate) fn receiver_itself(&self, receiver: Type) -> Type {
        match receiver {
            Type::Class(id) => Type::Instance(id),
            Type::SubclassOf(id) => *self.db.store().single(id),
            Type::Literal(_) => self.literal_fallback(receiver),
            // One of several classes makes one of their objects.
            Type::Union(_) => crate::types::union::map(self.db.store(), receiver, |part| match part {
                Type::Union(_) => part,
                part => self.receiver_itself(part),
            }),
            other => other,
        }
    }

    /// What reading an attribute of an instance gives; `None` where it has none.
    pub fn instance_member(&mut self, receiver: Type, instance: InstanceId, name: Name) -> Option<Type> {
        let db = self.db;
        let own_class = db.store().instance(instance).class;
        let own = info(db, own_class);
        if let ClassKind::TypedDict { .. } = own.kind {
            return self.typed_dict_member(receiver, instance, name);
        }
        // The interpreter looks special methods up on the class (data model, "Special method lookup").
        let is_there =
            |found: &Found| found.member.in_class || !super::special_names::is_special(db.names().text(name));
        if let Some(found) = find(db, instance, name, None).filter(is_there) {
            let owner = db.store().instance(found.owner).class;
            let is_value = !matches!(found.member.ty, Type::Function(_) | Type::Property(_));
            // What a class's body gives, or nobody said, may be replaced by `setattr(self, …)`.
            if is_value && !found.member.declared && (own.maker.is_some() || own.unknown_base.is_some()) {
                let made = is_replaceable(db, own_class, &found, name);
                let from_base = info(db, owner).unknown_base.is_some();
                if (made || from_base)
                    && let Some(cause) = unseen(db, if made { own_class } else { owner })
                {
                    // Where things are taken for granted, so is what is seen: what else there may be is no evidence.
                    if db.assumes() {
                        return Some(self.bind(found, instance, receiver, false));
                    }
                    if !made {
                        // A base that is not known may assign it as well.
                        let ty = self.bind(found, instance, receiver, false);
                        return Some(self.join([ty, Type::Unknown(cause)]));
                    }
                    // `setattr(self, …)` may have put another value in its place.
                    return Some(Type::Unknown(cause));
                }
            }
            // Of some class or other, `__init__` and its kin are its own functions, and not those of the class `type`.
            let is_plain = crate::resolve::is_builtin(db, owner, known::OBJECT)
                || (matches!(name, known::INIT | known::NEW) && crate::resolve::is_builtin(db, owner, known::TYPE));
            if matches!(found.member.ty, Type::Function(_))
                && is_plain
                && super::derives_builtin(db, own_class, known::TYPE)
            {
                return Some(Type::Unknown(db.store().intern_cause(dynamic_cause(owner, name))));
            }
            return Some(self.bind(found, instance, receiver, false));
        }
        if let Some(made) = super::dataclass::made_member(db, instance, name) {
            return Some(made);
        }
        if let Some(found) = super::ordered_by(db, instance, name) {
            return Some(self.bind(found, instance, receiver, false));
        }
        let class = db.store().instance(instance).class;
        if db.assumes()
            && let Some(made) = self.made_on_demand(receiver, instance, name)
        {
            // What it gives for other names, as by `object.__getattribute__`, says nothing of this one.
            let parts = crate::types::union::parts(db.store(), &made);
            let known: Vec<Type> = parts.iter().copied().filter(|part| !part.is_dynamic()).collect();
            if !known.is_empty() {
                return Some(self.join(known));
            }
        }
        if let Some(cause) = unseen(db, class) {
            return Some(Type::Unknown(cause));
        }
        let by_metaclass = makes_members(db, class, name);
        if super::derives_builtin(db, class, known::TYPE) || by_metaclass {
            // Some class or other, with attributes of its own; or one to which its metaclass may have given some.
            return Some(Type::Unknown(db.store().intern_cause(dynamic_cause(class, name))));
        }
        if let Some(hidden) = hidden_member(db, class, name) {
            return Some(hidden);
        }
        // What fills it cannot be seen.
        if has_slot(db, instance, name) {
            return Some(Type::Unknown(db.store().intern_cause(dynamic_cause(class, name))));
        }
        self.made_on_demand(receiver, instance, name)
    }

    /// What an attribute is that is made on demand (data model, "Customizing attribute access"); special methods never are.
    fn made_on_demand(&mut self, receiver: Type, instance: InstanceId, name: Name) -> Option<Type> {
        let db = self.db;
        let class = db.store().instance(instance).class;
        if super::special_names::is_special(db.names().text(name)) {
            return None;
        }
        for hook in [known::GETATTR, known::GETATTRIBUTE] {
            // What stands under `if not TYPE_CHECKING` is meant not to be seen.
            if let Some(found) = find(db, instance, hook, None)
                && found.member.ty != Type::Never
                && !crate::resolve::is_builtin(db, db.store().instance(found.owner).class, known::OBJECT)
            {
                // Made of the name, and so another for each: only what somebody says of them all is known.
                if !db.assumes() && !is_said(db, found.member.ty) {
                    return Some(Type::Unknown(db.store().intern_cause(dynamic_cause(class, name))));
                }
                let method = self.bind(found, instance, receiver, false);
                return Some(self.result_of(method));
            }
        }
        None
    }

    /// What reading an attribute of a typed dictionary gives: its items are none, and what would take away items that must be there it does not
    /// have (typing specification, "Typed dictionaries": supported operations).
    fn typed_dict_member(&mut self, receiver: Type, instance: InstanceId, name: Name) -> Option<Type> {
        let db = self.db;
        let mro = &info(db, db.store().instance(instance).class).mro;
        let is_typed = |entry: &&InstanceId| {
            let class = db.store().instance(**entry).class;
            matches!(info(db, class).kind, ClassKind::TypedDict { .. })
        };
        let after = mro.iter().rfind(is_typed).map(|entry| db.store().instance(*entry).class);
        if let Some(cause) = unseen(db, db.store().instance(instance).class) {
            return Some(Type::Unknown(cause));
        }
        let takes_away = matches!(db.names().text(name), "clear" | "popitem");
        if takes_away && super::dataclass::fields_of(db, instance).iter().any(|field| !field.optional) {
            return None;
        }
        let found = find(db, instance, name, after)?;
        Some(self.bind(found, instance, receiver, false))
    }

    /// What reading an attribute of a class gives; `None` where it has none.
    pub fn class_member(&mut self, receiver: Type, instance: InstanceId, name: Name) -> Option<Type> {
        let db = self.db;
        let class = db.store().instance(instance).class;
        let class_info = info(db, class);
        // A property of the metaclass goes before what the class has (data model, "Invoking descriptors").
        if let Some(metaclass) = class_info.metaclass {
            let meta = instance_of(db, metaclass, &[]);
            if let Some(found) = find(db, meta, name, None).filter(|found| matches!(found.member.ty, Type::Property(_)))
            {
                return Some(self.bind(found, meta, receiver, false));
            }
        }
        if let Some(found) = find(db, instance, name, None)
            && found.member.in_class
        {
            return Some(self.bind(found, instance, receiver, true));
        }
        let metaclass = class_info.metaclass.or_else(|| builtin(db, known::TYPE))?;
        let meta = instance_of(db, metaclass, &[]);
        if let Some(found) = find(db, meta, name, None) {
            return Some(self.bind(found, meta, receiver, false));
        }
        if let Some(cause) = class_info.unknown_base {
            return Some(Type::Unknown(cause));
        }
        // A metaclass that is written in the source may give its classes attributes as they are made.
        if makes_members(db, class, name) {
            return Some(Type::Unknown(db.store().intern_cause(dynamic_cause(class, name))));
        }
        // What methods put into the object is not the class's; what class methods put into the class is.
        find(db, instance, name, None)
            .filter(|found| outline::class(db, db.store().instance(found.owner).class).get(name).by_class_methods)
            .map(|found| self.bind(found, instance, receiver, true))
            .or_else(|| super::dataclass::made_member(db, instance, name))
            .or_else(|| hidden_member(db, class, name))
    }

    /// What a metaclass itself has for a class, as the interpreter looks up `__getitem__` and its kin.
    pub(crate) fn metaclass_member(&mut self, class: InstanceId, metaclass: ClassRef, name: Name) -> Option<Type> {
        let instance = crate::resolve::instance_of(self.db, metaclass, &[]);
        find(self.db, instance, name, None).map(|found| self.bind(found, instance, Type::Class(class), false))
    }

    /// What lookup by `super()` gives.
    pub fn super_member(&mut self, start: Method, name: Name) -> Option<Type> {
        let db = self.db;
        let Type::Class(after) = start.function else { return None };
        let (instance, through_class) = match start.receiver {
            Type::Instance(id) => (id, false),
            Type::Class(id) => (id, true),
            _ => return None,
        };
        let after = db.store().instance(after).class;
        let found = find(db, instance, name, Some(after)).filter(|found| {
            // In a subclass, another base may stand between here and `object`, and take arguments.
            !matches!(name, known::INIT | known::NEW)
                || !crate::resolve::is_builtin(db, db.store().instance(found.owner).class, known::OBJECT)
        });
        // What only the object has is not found behind a class.
        let found = found.filter(|found| {
            let owner = db.store().instance(found.owner).class;
            found.member.in_class || outline::class(db, owner).get(name).by_class_methods
        });
        if name == known::NEW
            && let Some(made) = self.named_tuple_new(instance, after)
        {
            return Some(made);
        }
        if let Some(found) = found {
            return Some(self.bind(found, instance, start.receiver, through_class));
        }
        if let Some(cause) = unseen(db, db.store().instance(instance).class) {
            return Some(Type::Unknown(cause));
        }
        // In a subclass, another base may come next in the order of resolution; so are classes made that derive from nothing.
        let class = db.store().instance(instance).class;
        let has_base = info(db, class).mro.iter().skip(1).any(|entry| {
            let entry = db.store().instance(*entry).class;
            !entry.file.is_stub(db)
        });
        if has_base && !super::special_names::is_special(db.names().text(name)) {
            return None;
        }
        Some(Type::Unknown(db.store().intern_cause(dynamic_cause(class, name))))
    }

    /// Binds a found member to the object it was looked up on (data model, "Implementing Descriptors").
    fn bind(&mut self, found: Found, instance: InstanceId, receiver: Type, through_class: bool) -> Type {
        let db = self.db;
        let store = db.store();
        let owner_class = store.instance(found.owner).class;
        let owner = as_base(db, instance, owner_class).unwrap_or(found.owner);
        let substitution = class_arguments(db, owner);
        if let Type::Union(id) = found.member.ty
            && store.union_parts(id).iter().any(|part| matches!(part, Type::Function(_) | Type::Property(_)))
        {
            // Defined in one way or another: each is bound as it would be alone.
            let parts = store.union_parts(id).to_vec();
            let bound: Vec<Type> = parts
                .into_iter()
                .map(|ty| {
                    let found = Found { member: Member { ty, ..found.member }, ..found };
                    self.bind(found, instance, receiver, through_class)
                })
                .collect();
            return self.join(bound);
        }
        match found.member.ty {
            Type::Function(id) => {
                let mut function = *store.function(id);
                function.owner = Some(owner);
                // A function from elsewhere that a class holds is bound like its own (data model).
                // Built-in functions are not; in our stubs, any function of a module may be one.
                let built_in = function.file.origin(db) == leitmotiv_project::resolve::Origin::Bundled;
                let is_of_class = || outline::function(db, function.file, function.function).class.is_some();
                if function.binding == Binding::Static && found.member.in_class && !built_in && !is_of_class() {
                    function.binding = Binding::Instance;
                }
                let bound = Type::Function(store.intern_function(function));
                match (function.binding, through_class) {
                    (Binding::Static, _) | (Binding::Instance, true) => bound,
                    (Binding::Instance, false) => {
                        Type::Method(store.intern_method(Method { function: bound, receiver }))
                    }
                    (Binding::Class, _) => {
                        let class = if through_class { receiver } else { Type::Class(instance) };
                        Type::Method(store.intern_method(Method { function: bound, receiver: class }))
                    }
                }
            }
            Type::Property(_) if through_class => crate::resolve::builtin_instance(db, known::PROPERTY, &[]),
            Type::Property(id) => {
                let mut function = *store.function(id);
                function.owner = Some(owner);
                let getter = Type::Function(store.intern_function(function));
                self.result_of(Type::Method(store.intern_method(Method { function: getter, receiver })))
            }
            // A function stored in a class is bound like any other; one that an instance holds is not.
            Type::Callable(_) if found.member.in_class && !found.member.declared => {
                // What decorators made of a method is bound as the method would be.
                let binding = match bound_at(db, owner_class.file, found.member.at) {
                    Bound::Function(function) => outline::function(db, owner_class.file, function).binding,
                    _ => Binding::Instance,
                };
                let ty = self.seen_by(&substitution, found.member.ty, receiver);
                match (binding, through_class) {
                    (Binding::Static, _) | (Binding::Instance, true) => ty,
                    (Binding::Class, true) => self.without_receiver(ty, receiver),
                    (Binding::Class, false) => self.without_receiver(ty, Type::Class(instance)),
                    (Binding::Instance, false) => self.without_receiver(ty, receiver),
                }
            }
            // A callable that is said to be the class's own is bound as well, if it takes such an object first.
            Type::Callable(_)
                if !through_class && found.member.declared && is_class_variable(db, owner_class, &found) =>
            {
                let ty = self.seen_by(&substitution, found.member.ty, receiver);
                let takes_receiver = matches!(ty, Type::Callable(id) if store.signature(id).params.first()
                    .is_some_and(|first| matches!(first.kind, ParamKind::PositionalOnly | ParamKind::Normal) && self.is_assignable(receiver, first.ty)));
                if takes_receiver { self.without_receiver(ty, receiver) } else { ty }
            }
            ty => {
                let ty = self.seen_by(&substitution, ty, receiver);
                if found.member.in_class { self.descriptor(ty, receiver, instance, through_class) } else { ty }
            }
        }
    }

    /// A callable that is bound to an object: without its first parameter, whose type variables that object solves.
    fn without_receiver(&mut self, ty: Type, receiver: Type) -> Type {
        let store = self.db.store();
        let bound = functions::without_first(store, ty);
        let Type::Callable(id) = ty else { return bound };
        let first = store.signature(id).params.first().map(|first| first.ty).filter(|_| bound != ty);
        match first.filter(|first| crate::types::substitute::has_variables(store, *first)) {
            Some(first) => {
                let mut solution = Substitution::new();
                self.unify(first, receiver, &mut solution);
                solution.apply(store, bound)
            }
            None => bound,
        }
    }

    /// Reads through a descriptor, where the class holds one.
    fn descriptor(&mut self, ty: Type, receiver: Type, instance: InstanceId, through_class: bool) -> Type {
        let db = self.db;
        if matches!(ty, Type::Union(_)) {
            let each = |part| self.descriptor(part, receiver, instance, through_class);
            return crate::types::union::map(db.store(), ty, each);
        }
        let Type::Instance(id) = ty else { return ty };
        if find(db, id, known::GET, None).is_none() {
            return ty;
        }
        let Some(getter) = self.instance_member(ty, id, known::GET) else { return ty };
        // What an unannotated `__get__` gives depends on how it is called.
        if self.candidates(getter).first().is_some_and(|candidate| candidate.inferred) {
            let class = db.store().instance(id).class;
            return Type::Unknown(db.store().intern_cause(dynamic_cause(class, known::GET)));
        }
        let object = if through_class { Type::None } else { receiver };
        let owner = Type::Class(instance);
        self.call_with(getter, &[object, owner])
    }
}

impl Infer<'_> {
    /// A member's first definition.
    pub fn member_site(db: &dyn Db, found: Found) -> Site {
        Site { file: db.store().instance(found.owner).class.file, at: found.member.at }
    }
}
