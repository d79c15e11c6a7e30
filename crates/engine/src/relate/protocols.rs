//! Protocols (PEP 544): what fits has all members, and each as the protocol has it, as far as both sides say what they are.

use leitmotiv_index::tree::ParamKind;
use leitmotiv_syntax::names::{Name, known};

use crate::base::db::Db;
use crate::call::{Argument, ArgumentKind, Bare, Bind};
use crate::call::{Candidate, Candidates};
use crate::context::TypeContext;
use crate::definitions::classes::{self, ClassKind};
use crate::definitions::functions::Declared;
use crate::outline::places::{Bound, bound_at};
use crate::problems::Clash;
use crate::types::substitute::has_variables;
use crate::types::{InstanceId, Signature, Type};

/// How much deeper a protocol's members count than the protocol, and from where on they are no longer compared.
pub(super) const PROTOCOL_STEP: u32 = 7;
pub(super) const DEEPEST: u32 = 21;

impl TypeContext<'_> {
    /// Whether a protocol's member is a variable that others may assign.
    fn is_settable(&self, found: classes::members::Found) -> bool {
        let owner = self.db.store().instance(found.owner).class;
        let at = found.member.at;
        if !found.member.declared || !matches!(bound_at(self.db, owner.file, at), Bound::Annotated { .. }) {
            return false;
        }
        let qualifiers = classes::members::qualifiers(self.db, owner.file, at);
        !qualifiers.is_final && !qualifiers.is_class_variable
    }

    /// A signature with what its receiver says of its variables.
    fn started(&self, candidate: &Candidate) -> Signature {
        let mut replace = |var| candidate.start.get(var);
        crate::types::substitute::signature(self.db.store(), &candidate.signature, &mut replace)
    }

    pub(super) fn fits_protocol(&self, given: Type, expected: InstanceId, depth: u32) -> bool {
        self.protocol_flaw(given, expected, depth).is_none()
    }

    /// Why a type does not fit a protocol: the member concerned and, where it is there, what about it does not fit.
    pub(crate) fn protocol_flaw(&self, given: Type, expected: InstanceId, depth: u32) -> Option<(Name, Option<Clash>)> {
        let db = self.db;
        let store = db.store();
        let mut infer = self.fresh();
        // Members of members are looked at only so far: protocols may speak of themselves.
        let depth = depth + PROTOCOL_STEP;
        infer.nesting = depth;
        for name in protocol_members(self.db, expected) {
            if name == known::HASH {
                // Nearly everything can be hashed.
                if infer.has_no_hash(given) {
                    return Some((name, None));
                }
                continue;
            }
            if name == known::ITER
                && infer.implementing_member(given, name).is_none()
                && infer.implementing_member(given, known::GETITEM).is_some()
            {
                // Iteration by index, as it was before there were iterators, still works (language reference, "__iter__").
                continue;
            }
            let Some(member) = infer.implementing_member(given, name) else {
                // What a decorator made of the class may have it.
                if infer.may_be_remade(given) {
                    continue;
                }
                return Some((name, None));
            };
            if member == Type::None {
                return Some((name, None));
            }
            if depth < DEEPEST
                && let Some(want) = infer.wanted_member(expected, name, given)
                && let Some(clash) = infer.member_clash(name, member, want, depth)
            {
                return Some((name, Some(clash)));
            }
            if let Some(clash) = infer.class_variable_clash(name, given, expected) {
                return Some((name, Some(clash)));
            }
            if depth < DEEPEST
                && let Some(clash) = infer.settable_clash(name, given, expected, depth)
            {
                return Some((name, Some(clash)));
            }
        }
        // Elements, where both sides say what they are.
        let want = store.instance(expected);
        if let [wanted] = want.args.as_ref()
            && matches!(
                classes::shown(db, want.class),
                "Iterable" | "Iterator" | "Collection" | "Reversible" | "Container"
            )
            && let Some(element) = infer.element(given, false)
        {
            let clash = || Clash::Gives(*wanted, element);
            return (!self.is_assignable_at(element, *wanted, depth)).then(|| (known::ITER, Some(clash())));
        }
        None
    }

    /// A member of what is to implement a protocol. What the interpreter asks a class for as a container it finds in the
    /// metaclass, whatever the class has for its instances (data model, "Special method lookup").
    fn implementing_member(&mut self, given: Type, name: Name) -> Option<Type> {
        let store = self.db.store();
        // What calls a class is its construction, what calls a function the function.
        if name == known::CALL
            && matches!(given, Type::Class(_) | Type::Function(_) | Type::Method(_) | Type::Callable(_))
        {
            return Some(given);
        }
        let class = match given {
            Type::Class(id) => Some(id),
            Type::SubclassOf(inner) => match *store.single(inner) {
                Type::Instance(id) => Some(id),
                _ => None,
            },
            _ => None,
        };
        if let Some(class) = class
            && matches!(name, known::ITER | known::LEN | known::GETITEM | known::CONTAINS)
            && let Some(metaclass) = classes::info(self.db, store.instance(class).class).metaclass
            && let Some(found) = self.metaclass_member(class, metaclass, name)
        {
            return Some(found);
        }
        // Functions have attributes of others only where some code gives functions such.
        if let Type::Function(_) | Type::Callable(_) = given
            && let Some(class) = crate::resolve::standard_class(self.db, known::TYPES, known::FUNCTION_TYPE)
            && classes::members::find(self.db, crate::resolve::instance_of(self.db, class, &[]), name, None).is_none()
            && !self.text(name).starts_with("__")
            && crate::resolve::patching_files(self.db, name).is_empty()
        {
            return None;
        }
        let found = self.member(given, name)?;
        // What is only made on demand stands in for what is meant.
        let is_stand_in = self.plainly
            && found.is_unknown()
            && matches!(given, Type::Instance(id) if classes::members::find(self.db, id, name, None).is_none()
                && classes::members::find(self.db, id, known::GETATTR, None).is_some());
        (!is_stand_in).then_some(found)
    }

    /// A member of a protocol as `given` would have it: its `self` is what implements the protocol.
    fn wanted_member(&mut self, protocol: InstanceId, name: Name, given: Type) -> Option<Type> {
        let store = self.db.store();
        let member = self.member(Type::Instance(protocol), name)?;
        let Type::Method(id) = member else { return Some(member) };
        let method = *store.method(id);
        if method.receiver != Type::Instance(protocol) {
            return Some(member);
        }
        Some(Type::Method(store.intern_method(crate::types::Method { receiver: given, ..method })))
    }

    /// Why an attribute that a protocol lets others assign cannot be assigned in the same way, where both sides declare it
    /// (typing specification, "Protocols": protocol members, mutable attributes).
    fn settable_clash(&self, name: Name, given: Type, protocol: InstanceId, depth: u32) -> Option<Clash> {
        let db = self.db;
        let store = db.store();
        let Type::Instance(id) = given else { return None };
        let want = classes::members::find(db, protocol, name, None)?;
        if !self.is_settable(want) {
            return None;
        }
        if let Some((fixed, _)) = self.fixed_by_class(id, name, false) {
            return (fixed != crate::problems::Fixed::Member).then_some(Clash::Reads);
        }
        let have = classes::members::find(db, id, name, None).filter(|have| have.member.declared)?;
        let (have, want) = (have.member_type(db, id), want.member_type(db, protocol));
        // What is assigned goes to the descriptor, which takes what it gives (data model, "Implementing Descriptors").
        if let Type::Instance(descriptor) = have
            && classes::members::find(db, descriptor, known::SET, None).is_some()
        {
            return None;
        }
        let is_open = |ty: Type| ty.is_dynamic() || has_variables(store, ty) || self.holds_unknown(ty);
        let fits = is_open(have) || is_open(want) || self.is_assignable_at(want, have, depth);
        (!fits).then_some(Clash::Within(want, have))
    }

    /// Whether a decorator may have made another class of a value's, or of one of its bases.
    fn may_be_remade(&self, given: Type) -> bool {
        let store = self.db.store();
        let id = match given {
            Type::Instance(id) | Type::Class(id) => id,
            Type::SubclassOf(inner) => match *store.single(inner) {
                Type::Instance(id) => id,
                _ => return false,
            },
            _ => return false,
        };
        classes::info(self.db, store.instance(id).class).mro.iter().any(|entry| {
            let class = store.instance(*entry).class;
            !class.file.is_stub(self.db)
                && !crate::outline::class(self.db, class).decorators.is_empty()
                && classes::is_remade(self.db, class.file, class.class)
        })
    }

    /// Whether a value cannot be called, whatever it is called with.
    fn is_never_called(&mut self, ty: Type) -> bool {
        match ty {
            Type::Literal(_) | Type::Tuple(_) | Type::Module(_) => true,
            Type::Instance(_) => self.member(ty, known::CALL).is_none(),
            _ => false,
        }
    }

    /// A variable of the class is not one that only objects have (typing specification, "Protocols").
    fn class_variable_clash(&self, name: Name, given: Type, protocol: InstanceId) -> Option<Clash> {
        let db = self.db;
        let Type::Instance(id) = given else { return None };
        let want = classes::members::find(db, protocol, name, None)?;
        let owner = db.store().instance(want.owner).class;
        if !classes::members::qualifiers(db, owner.file, want.member.at).is_class_variable {
            return None;
        }
        let have = classes::members::find(db, id, name, None)?;
        (!have.member.in_class).then_some(Clash::Kind("a variable of the class", "an attribute of objects"))
    }

    /// Why a member cannot stand for that of a protocol, as far as both say what they are.
    fn member_clash(&mut self, name: Name, have: Type, want: Type, depth: u32) -> Option<Clash> {
        let fits = |infer: &Self, have: Type, want: Type| {
            have.is_dynamic() || want.is_dynamic() || infer.is_assignable_at(have, want, depth)
        };
        if let (Type::Method(_), Type::Class(_), known::CALL) = (want, have, name) {
            let all = self.signatures_of(have)?;
            let wanted = self.candidates(want);
            return if all.is_empty() { None } else { self.signatures_clash(&all, &wanted) };
        }
        let (Type::Method(_) | Type::Function(_), Type::Method(_) | Type::Function(_) | Type::Callable(_)) =
            (want, have)
        else {
            if matches!(want, Type::Method(_)) && self.is_never_called(have) {
                return Some(Clash::Kind("a method", "an attribute"));
            }
            let is_value = !matches!(want, Type::Method(_) | Type::Function(_) | Type::Callable(_) | Type::Property(_));
            let is_open = has_variables(self.db.store(), have) || has_variables(self.db.store(), want);
            return (is_value && !is_open && !fits(self, have, want)).then_some(Clash::Holds(want, have));
        };
        let (all, wanted) = (self.candidates(have), self.candidates(want));
        let is_open = |candidate: &Candidate| {
            let is_open = |ty: Type| has_variables(self.db.store(), ty);
            let signature = &candidate.signature;
            signature.params.iter().any(|param| is_open(param.ty)) || is_open(signature.returns)
        };
        let ([mine], [theirs]) = (&*all, &*wanted) else {
            return self.signatures_clash(&all, &wanted);
        };
        if is_open(mine) || is_open(theirs) {
            return self.signatures_clash(&all, &wanted);
        }
        let (mine, theirs) = (&said(mine), &said(theirs));
        if let Some(clash) = self.parameters_clash(name, mine, theirs, 0) {
            return Some(clash);
        }
        let (gives, wanted) = (mine.returns?, theirs.returns?);
        (!fits(self, gives, wanted)).then_some(Clash::Gives(wanted, gives))
    }

    /// The first of the signatures wanted for which none stands that there is (typing specification, "Protocols" and
    /// "Callables": assignability).
    pub(crate) fn signatures_clash(&mut self, all: &[Candidate], wanted: &[Candidate]) -> Option<Clash> {
        let place = wanted.iter().position(|theirs| !all.iter().any(|mine| self.stands_for(mine, theirs)))?;
        if let ([mine], [theirs]) = (all, wanted) {
            let theirs = self.started(theirs);
            let given = as_arguments(&theirs, true);
            if let Ok(solution) = Bare(self).bind_arguments(mine, &given) {
                let gives = self.candidate_result(mine, &solution);
                return Some(Clash::Gives(theirs.returns, self.solved(gives)));
            }
        }
        Some(Clash::Signature(place))
    }

    /// Whether a signature takes whatever another takes, and gives nothing that the other does not.
    fn stands_for(&mut self, mine: &Candidate, theirs: &Candidate) -> bool {
        let signature = &self.started(theirs);
        if signature.params.iter().any(|param| matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs)) {
            // What takes anything stands for whatever is meant.
            return true;
        }
        if signature.params.iter().any(|param| param.optional)
            && Bare(self).bind_arguments(mine, &as_arguments(signature, false)).is_err()
        {
            return false;
        }
        let returns = if theirs.inferred { Type::Any } else { signature.returns };
        self.called_as(mine, &Signature { params: signature.params.clone(), returns }).is_none()
    }

    /// What stands for a protocol's variables when a type is used as that protocol.
    pub(crate) fn protocol_arguments(&mut self, given: Type, protocol: InstanceId) -> Vec<(Type, Type)> {
        let db = self.db;
        let store = db.store();
        let class = store.instance(protocol).class;
        let info = classes::info(db, class);
        let vars: Vec<Type> = info.params.iter().map(|var| Type::Var(*var)).collect();
        let generic = crate::resolve::instance_of(db, class, &vars);
        let mut pairs = Vec::new();
        for name in protocol_members(self.db, generic) {
            let Some(have) = self.implementing_member(given, name) else { continue };
            let Some(want) = self.wanted_member(generic, name, given) else { continue };
            let wanted = match want {
                Type::Method(_) | Type::Function(_) => self.candidates(want),
                _ => Candidates::default(),
            };
            match wanted.first() {
                // What takes nothing says most by what it gives.
                Some(only) if only.signature.params.is_empty() => {
                    let want = self.candidate_result(only, &only.start);
                    pairs.push((want, self.result_of(have)));
                }
                Some(first) => {
                    let returns = self.candidate_result(first, &first.start);
                    let signature = Signature { returns, ..self.started(first) };
                    pairs.push((Type::Callable(store.intern_signature(signature)), have));
                }
                None => pairs.push((want, have)),
            }
        }
        pairs
    }
}

/// A signature as it was written.
fn said(candidate: &Candidate) -> Declared {
    Declared {
        params: candidate.signature.params.clone(),
        annotates_first: false,
        returns: Some(candidate.signature.returns).filter(|_| !candidate.inferred),
        guard: None,
    }
}

/// The arguments of a call that gives all that a signature takes, or only what must be given.
pub(super) fn as_arguments(signature: &Signature, all: bool) -> Vec<Argument> {
    let params = signature.params.iter().filter(|param| all || !param.optional);
    params
        .map(|param| {
            let kind = match param.kind {
                ParamKind::KeywordOnly => ArgumentKind::Keyword(param.name),
                _ => ArgumentKind::Positional,
            };
            Argument { kind, expr: None, ty: param.ty }
        })
        .collect()
}

/// The members that a protocol asks for, its bases' included.
pub(crate) fn protocol_members(db: &dyn Db, protocol: InstanceId) -> Vec<Name> {
    let store = db.store();
    let mut all = Vec::new();
    for entry in &classes::info(db, store.instance(protocol).class).mro {
        let class = store.instance(*entry).class;
        if classes::info(db, class).kind != ClassKind::Protocol {
            continue;
        }
        for name in crate::outline::class(db, class).of_body.iter().copied() {
            let text = db.names().text(name);
            if !all.contains(&name)
                && !matches!(
                    text,
                    "__slots__"
                        | "__doc__"
                        | "__module__"
                        | "__class_getitem__"
                        | "__init__"
                        | "__new__"
                        | "__init_subclass__"
                )
            {
                all.push(name);
            }
        }
    }
    all
}
