//! Calls of classes (typing specification, "Constructors").

use crate::base::asked::{Ask, saw};
use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{Expr, ExprId, FunctionId};
use leitmotiv_syntax::names::{Name, known};

use super::arguments::{Argument, Bare};
use super::bind::Bind;
use crate::context::TypeContext;
use crate::context::candidates::{Candidate, Candidates, Constructor, Made};
use crate::definitions::classes::{self, ClassKind, dataclass, members};
use crate::resolve::{instance_of, is_builtin};
use crate::types::substitute::Substitution;
use crate::types::{Binding, Cause, CauseKind, FunctionRef, InstanceId, SignatureParam, Type};

impl TypeContext<'_> {
    pub(crate) fn instance_made(
        &mut self,
        class: InstanceId,
        made: Made,
        result: Type,
        solution: &Substitution,
        unsolved: Type,
    ) -> Type {
        let store = self.db.store();
        let record = store.instance(class);
        let info = classes::info(self.db, record.class);
        if made == Made::Result && !matches!(result, Type::None) {
            // `__new__` may give something else than an instance of its class.
            let is_own = matches!(result, Type::Instance(id) if store.instance(id).class == record.class);
            // What it gives is the instance, with the arguments that it says.
            let says_arguments = matches!(result, Type::Instance(id) if !store.instance(id).args.is_empty());
            match self.made_by(class) {
                MadeBy::Nothing => return result,
                MadeBy::Another(cause) => return Type::Unknown(cause),
                MadeBy::Itself => {}
            }
            if (!is_own || says_arguments) && !result.is_dynamic() {
                return match result {
                    Type::Instance(id) => self.normal_instance(id),
                    result => result,
                };
            }
        }
        if !record.args.is_empty() || info.params.is_empty() {
            return self.normal_instance(class);
        }
        let mut args: Vec<Type> = Vec::with_capacity(info.params.len());
        for var in &info.params {
            let found = solution.get(*var).filter(|ty| *ty != Type::Never);
            // `__init__` may say by the annotation of its first parameter what it makes, in variables of its own.
            let found = found.map(|ty| solution.apply(store, ty));
            let found = found.or_else(|| {
                let default = crate::definitions::type_variables::limits(self.db, *var).default?;
                Some(Substitution::of(&info.params, &args).apply(store, default))
            });
            args.push(found.unwrap_or(unsolved));
        }
        self.normal_instance(instance_of(self.db, record.class, &args))
    }

    /// A class without arguments in terms of its own parameters, so that a call's arguments can say what they are.
    pub(crate) fn in_own_terms(&self, class: InstanceId) -> InstanceId {
        let record = self.db.store().instance(class);
        if !record.args.is_empty() {
            return class;
        }
        let info = classes::info(self.db, record.class);
        let args: Vec<Type> = info.params.iter().map(|var| Type::Var(*var)).collect();
        instance_of(self.db, record.class, &args)
    }

    /// Whether the first of the classes that has an `__init__` has it from its fields: a dataclass that writes none gets one, also
    /// where a base has written one.
    fn has_made_init(&self, mro: &[InstanceId]) -> bool {
        let own = mro.iter().find_map(|entry| {
            let class = self.db.store().instance(*entry).class;
            let is_written = crate::outline::class(self.db, class).get(known::INIT).in_body;
            let is_made = classes::info(self.db, class).dataclass.is_some_and(|options| options.init);
            (is_written || is_made).then_some(is_made && !is_written)
        });
        own == Some(true)
    }

    /// What a `__new__` that says nothing of its result makes its objects by.
    fn made_by(&self, class: InstanceId) -> MadeBy {
        let Some(new) = members::find(self.db, class, known::NEW, None) else { return MadeBy::Itself };
        let Type::Function(id) = new.member.ty else { return MadeBy::Itself };
        let function = self.db.store().function(id);
        if function.file.is_stub(self.db) {
            return MadeBy::Itself;
        }
        made_by(self.db, function.file, function.function)
    }

    /// Whether a `__new__` is annotated to give something else than an instance of its class.
    fn makes_another(&self, new: members::Found, class: crate::types::ClassRef) -> bool {
        let Type::Function(id) = new.member.ty else { return false };
        let function = self.db.store().function(id);
        let overloads = &crate::outline::function(self.db, function.file, function.function).signatures;
        overloads.iter().all(|one| {
            match crate::definitions::functions::declared(self.db, function.file, *one).returns {
                // What says that it gives a base gives an instance all the same.
                Some(Type::Instance(id)) => {
                    let given = self.db.store().instance(id).class;
                    classes::derives(self.db, given, class) == Some(false)
                        && classes::derives(self.db, class, given) == Some(false)
                }
                Some(Type::None | Type::Literal(_) | Type::Callable(_)) => true,
                _ => false,
            }
        })
    }

    /// `Berth(3)` of `Berth = NewType("Berth", int)` takes what it is made of.
    fn new_type_constructor(&self, class: crate::types::ClassRef, info: &classes::ClassInfo) -> Constructor {
        let Some(base) = info.mro.get(1) else { return Constructor::Anything };
        let param = SignatureParam::placed(info.shape.unwrap_or(Type::Instance(*base)));
        let name = Some(crate::outline::class_name(self.db, class));
        let signature = crate::types::Signature { params: [param].into(), returns: Type::None };
        Constructor::Candidates(Candidates::only(Candidate::plain(signature, name)), Made::Instance)
    }

    /// `Fare(adult=3.5)` of a typed dictionary takes its items by keyword.
    fn typed_dict_constructor(&self, class: InstanceId) -> Constructor {
        let class = self.in_own_terms(class);
        let params = dataclass::fields_of(self.db, class).into_iter().map(|field| SignatureParam {
            name: field.name,
            kind: leitmotiv_index::tree::ParamKind::KeywordOnly,
            ty: field.ty,
            optional: field.optional,
        });
        let signature = crate::types::Signature { params: params.collect(), returns: Type::None };
        let mut loose = signature.clone();
        for param in &mut loose.params {
            param.optional = true;
        }
        let from_mapping = SignatureParam::placed(Type::Any);
        loose.params = std::iter::once(from_mapping).chain(loose.params.iter().cloned()).collect();
        let name = Some(crate::outline::class_name(self.db, self.db.store().instance(class).class));
        Constructor::TypedDict(Box::new((Candidate::plain(signature, name), Candidate::plain(loose, name))))
    }

    /// Whether a class or one of its bases stands under a decorator that may give it another constructor.
    fn is_remade(&self, mro: &[InstanceId]) -> bool {
        mro.iter().any(|entry| {
            let class = self.db.store().instance(*entry).class;
            let options = classes::info(self.db, class).dataclass;
            options.is_none_or(|options| options.transform.is_none())
                && !crate::outline::class(self.db, class).decorators.is_empty()
                && classes::is_remade(self.db, class.file, class.class)
        })
    }

    /// `__init__` or `__new__`, unless it is only that of `object`.
    fn own_method(&self, class: InstanceId, name: Name) -> Option<members::Found> {
        let found = members::find(self.db, class, name, None)?;
        let owner = self.db.store().instance(found.owner).class;
        (!is_builtin(self.db, owner, known::OBJECT)).then_some(found)
    }

    /// Whether `one` comes before or at `other` in the order of resolution.
    fn comes_first(&self, class: InstanceId, one: InstanceId, other: InstanceId) -> bool {
        let store = self.db.store();
        let info = classes::info(self.db, store.instance(class).class);
        let place = |of: InstanceId| info.mro.iter().position(|entry| *entry == of);
        place(one) <= place(other)
    }

    pub(crate) fn bind_method(
        &self,
        found: members::Found,
        this: InstanceId,
        receiver: Type,
        binding: Binding,
    ) -> Type {
        let store = self.db.store();
        let Type::Function(id) = found.member.ty else { return found.member.ty };
        let owner = classes::as_base(self.db, this, store.instance(found.owner).class).unwrap_or(found.owner);
        let function = FunctionRef { owner: Some(owner), binding, ..*store.function(id) };
        let function = Type::Function(store.intern_function(function));
        Type::Method(store.intern_method(crate::types::Method { function, receiver }))
    }

    /// The same where no expression calls it.
    pub(crate) fn construct_quietly(&mut self, class: InstanceId, given: &[Argument]) -> Type {
        match self.constructor(class) {
            Constructor::Candidates(candidates, made) => match Bare(self).choose(&candidates, given) {
                Ok((result, solution)) => self.instance_made(class, made, result, &solution, Type::Any),
                Err(_) => self.normal_instance(class),
            },
            Constructor::TypedDict(..) | Constructor::Anything => self.normal_instance(class),
            Constructor::Unknown(ty) => ty,
        }
    }

    /// The one signature that makes instances of a class, where there is but one that is known.
    pub(crate) fn construction(&mut self, class: InstanceId) -> Option<crate::types::Signature> {
        match self.constructor(class) {
            Constructor::Candidates(candidates, _) => match &*candidates {
                [only] => Some(only.signature.clone()),
                _ => None,
            },
            _ => None,
        }
    }

    /// What calling a class gives, whatever the arguments: an instance, but for a `__new__` that says something else.
    pub(crate) fn class_gives(&mut self, class: InstanceId) -> Type {
        let Constructor::Candidates(candidates, Made::Result) = self.constructor(class) else {
            return self.normal_instance(class);
        };
        let store = self.db.store();
        let given: Vec<Type> = candidates
            .iter()
            .map(|candidate| {
                let result = self.candidate_result(candidate, &candidate.start);
                match result {
                    Type::Instance(id) if store.instance(id).class == store.instance(class).class => {
                        self.normal_instance(class)
                    }
                    result if result.is_dynamic() || result == Type::None => self.normal_instance(class),
                    result => self.solved(result),
                }
            })
            .collect();
        self.join(given)
    }

    /// The signatures by which a class is called, with what they give; `None` where that cannot be told.
    pub(crate) fn constructors(&mut self, class: InstanceId) -> Option<Candidates> {
        let class = self.in_own_terms(class);
        let (candidates, made) = match self.constructor(class) {
            Constructor::Candidates(candidates, made) => (candidates, made),
            // Nobody knows how, but what comes of it.
            Constructor::Anything if self.is_protocol_itself(class) => {
                let gives = Type::Instance(class);
                let callable = crate::definitions::functions::any_callable(self.db.store(), gives);
                return Some(self.candidates(callable));
            }
            _ => return None,
        };
        if made == Made::Result {
            return Some(candidates);
        }
        let given = candidates.iter().cloned().map(|candidate| {
            let signature = crate::types::Signature { returns: Type::Instance(class), ..candidate.signature };
            Candidate { signature, inferred: false, ..candidate }
        });
        Some(given.collect())
    }

    /// The signatures that make instances of a class.
    pub(crate) fn constructor(&mut self, class: InstanceId) -> Constructor {
        if let Some(known) = self.asked.constructors.get(&class) {
            return known.clone();
        }
        let constructor = self.find_constructor(class);
        if self.unifying.is_empty() {
            self.asked.constructors.insert(class, constructor.clone());
        }
        constructor
    }

    fn find_constructor(&mut self, class: InstanceId) -> Constructor {
        let db = self.db;
        let store = db.store();
        let record = store.instance(class);
        let info = classes::info(db, record.class);
        if let Some(cause) = info.description {
            return Constructor::Unknown(Type::Unknown(cause));
        }
        if info.unknown_base.is_some()
            && members::own_member(db, record.class.file, record.class.class, known::INIT).is_none()
        {
            return Constructor::Anything;
        }
        if info.kind == ClassKind::Enum {
            return Constructor::Unknown(Type::Instance(class));
        }
        if let Some(metaclass) = info.metaclass.map(|metaclass| instance_of(db, metaclass, &[]))
            && let Some(found) = members::find(db, metaclass, known::CALL, None)
            && !is_builtin(db, store.instance(found.owner).class, known::TYPE)
        {
            // What is annotated to give something else gives that (typing specification, "Constructors").
            let is_said = matches!(found.member.ty, Type::Function(id)
                if self.is_result_said(*store.function(id)));
            if !is_said {
                return Constructor::Anything;
            }
            let method = self.bind_method(found, metaclass, Type::Class(class), Binding::Instance);
            return Constructor::Candidates(self.candidates(method), Made::Result);
        }
        let form = crate::outline::class(db, record.class).form;
        if form == leitmotiv_index::tree::ClassForm::NewType {
            return self.new_type_constructor(record.class, info);
        }
        if let ClassKind::TypedDict { .. } = info.kind {
            return self.typed_dict_constructor(class);
        }
        if self.is_remade(&info.mro) {
            return Constructor::Anything;
        }
        let this = self.in_own_terms(class);
        let init = self.own_method(this, known::INIT);
        let new = self.own_method(this, known::NEW);
        let made_by_fields = info.kind == ClassKind::NamedTuple && init.is_none_or(|found| found.owner != this)
            || self.has_made_init(&info.mro);
        if made_by_fields && new.is_none_or(|found| store.instance(found.owner).class != record.class) {
            let signature = dataclass::constructor(db, this);
            let candidate = Candidate::plain(signature, Some(crate::outline::class_name(db, record.class)));
            return Constructor::Candidates(Candidates::only(candidate), Made::Instance);
        }
        let receiver = Type::Instance(this);
        // What is made otherwise is not initialized (typing specification, "Constructors": `__new__` method).
        let init = init.filter(|_| !new.is_some_and(|new| self.makes_another(new, record.class)));
        match (init, new) {
            (Some(init), new) if new.is_none_or(|new| self.comes_first(this, init.owner, new.owner)) => {
                match init.member.ty {
                    Type::Function(_) => {
                        let method = self.bind_method(init, this, receiver, Binding::Instance);
                        Constructor::Candidates(self.candidates(method), Made::Instance)
                    }
                    _ => Constructor::Anything,
                }
            }
            (_, Some(new)) => match new.member.ty {
                Type::Function(_) => {
                    let method = self.bind_method(new, this, Type::Class(this), Binding::Class);
                    Constructor::Candidates(self.candidates(method), Made::Result)
                }
                _ => Constructor::Anything,
            },
            (_, None) => {
                let nothing = crate::types::Signature { params: [].into(), returns: Type::None };
                let object_init = Candidate::plain(nothing, Some(crate::outline::class_name(db, record.class)));
                // What is abstract is called by its subclasses' signatures: `type[Mapping]` makes some mapping. What our
                // stubs derive from a protocol is such.
                let is_bundled = record.class.file.origin(db) == leitmotiv_project::resolve::Origin::Bundled;
                let is_protocol =
                    |entry: &InstanceId| classes::info(db, store.instance(*entry).class).kind == ClassKind::Protocol;
                if info.kind == ClassKind::Protocol || is_bundled && info.mro.iter().any(is_protocol) {
                    return Constructor::Anything;
                }
                Constructor::Candidates(Candidates::only(object_init), Made::Instance)
            }
        }
    }
}

/// By what an unannotated `__new__` makes objects.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum MadeBy {
    /// By the `__new__` of a base, of the class that it is called on.
    Itself,
    /// By such a one, of another class at times.
    Another(crate::types::CauseId),
    /// By none: it gives something that is there.
    Nothing,
}

pub(crate) fn made_by(db: &dyn crate::base::db::Db, file: crate::base::file::File, new: FunctionId) -> MadeBy {
    saw(db, file, Ask::MadeBy(new));
    made_by_query(db, file, new)
}

#[salsa::tracked(returns(copy))]
fn made_by_query(db: &dyn crate::base::db::Db, file: crate::base::file::File, new: FunctionId) -> MadeBy {
    let _reading = crate::outline::reading(db, file);
    let index = crate::outline::module_index(db, file);
    let record = &index.functions[new];
    if record.returns.is_some() {
        return MadeBy::Itself;
    }
    let own = record.params.first().map(|param| param.name);
    let mut by = MadeBy::Nothing;
    for number in index.bodies[record.body].exprs.clone() {
        let Expr::Call { callee, args } = &index.exprs[ExprId(number)] else { continue };
        if !matches!(index.exprs[*callee], Expr::Attribute { name: known::NEW, .. }) {
            continue;
        }
        match args.first().map(|arg| &index.exprs[arg.value]) {
            // `object.__new__(Ferry)`: of another class than it is called on.
            Some(Expr::Name(name, _)) if Some(*name) != own => {
                let cause = Cause { kind: CauseKind::Dynamic, file, at: Anchor::Function(new), name: record.name };
                return MadeBy::Another(db.store().intern_cause(cause));
            }
            _ => by = MadeBy::Itself,
        }
    }
    by
}
