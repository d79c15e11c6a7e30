//! Members that stand in for those of bases (typing specification, "Class type assignability", after Liskov; PEP 698).

use leitmotiv_index::tree::{BodyShape, ClassId, ParamKind};
use leitmotiv_syntax::names::{Name, known};

use crate::base::db::Db;
use crate::context::TypeContext;
use crate::definitions::classes::members::Member;
use crate::definitions::classes::{self, ClassKind, members, open_members};
use crate::definitions::functions::{self, Declared};
use crate::infer::Infer;
use crate::outline::FunctionOutline;
use crate::problems::{Clash, Hidden, ProblemKind};
use crate::resolve::{instance_of, is_builtin};
use crate::types::{Binding, ClassRef, FunctionRef, SignatureParam, Type};

/// A member, as far as comparing it with another asks.
enum Side {
    /// A method that decorators leave as it is written.
    Method(FunctionRef),
    /// A property, with its getter.
    Property(FunctionRef),
    /// An attribute with the type that is declared for it.
    Attribute(Type),
}

impl Side {
    fn kind(&self) -> &'static str {
        match self {
            Side::Method(_) => "a method",
            Side::Property(_) => "a property",
            Side::Attribute(_) => "an attribute",
        }
    }
}

impl TypeContext<'_> {
    /// Whether a signature leaves something open: types that are not said, or variables.
    pub(crate) fn is_open_signature(&self, declared: &Declared, skipped: usize) -> bool {
        let is_open = |ty: Type| ty.is_dynamic() || self.has_variables(ty) || self.holds_unknown(ty);
        declared.params.iter().skip(skipped).any(|param| is_open(param.ty)) || declared.returns.is_none_or(is_open)
    }

    fn declared_result_of(&self, function: FunctionRef) -> Option<Type> {
        functions::declared(self.db, function.file, function.function).returns
    }

    fn has_variables(&self, ty: Type) -> bool {
        crate::types::substitute::has_variables(self.db.store(), ty)
    }

    pub(crate) fn does_not_fit(&self, given: Type, wanted: Type) -> bool {
        !given.is_dynamic()
            && !wanted.is_dynamic()
            && !self.has_variables(given)
            && !self.has_variables(wanted)
            && !self.is_assignable(given, wanted)
    }

    /// Whether a parameter of any number of arguments says nothing of them.
    fn takes_anything(&self, ty: Type) -> bool {
        let is_object = matches!(ty, Type::Instance(id)
            if is_builtin(self.db, self.db.store().instance(id).class, known::OBJECT));
        is_object || ty.is_dynamic() || self.has_variables(ty) || matches!(ty, Type::Form(_))
    }

    /// Why a signature does not take what another one takes, `skipped` parameters in front apart.
    pub(crate) fn parameters_clash(
        &self,
        name: Name,
        own: &Declared,
        hidden: &Declared,
        skipped: usize,
    ) -> Option<Clash> {
        let has = |declared: &Declared, kind: ParamKind| declared.params.iter().any(|param| param.kind == kind);
        // What takes anything may be meant to be narrowed; what says of what type, must be taken.
        let open = |kind| hidden.params.iter().find(move |param| param.kind == kind);
        for kind in [ParamKind::VarArgs, ParamKind::KwArgs] {
            let Some(theirs) = open(kind) else { continue };
            if self.takes_anything(theirs.ty) {
                return None;
            }
            match own.params.iter().find(|param| param.kind == kind) {
                None => return Some(Clash::Lacks(theirs.name)),
                Some(mine) if self.does_not_fit(theirs.ty, mine.ty) => {
                    return Some(Clash::Takes(theirs.name, theirs.ty, mine.ty));
                }
                Some(_) => {}
            }
        }
        let by_place = |declared: &Declared| -> Vec<SignatureParam> {
            let is_placed =
                |param: &&SignatureParam| matches!(param.kind, ParamKind::PositionalOnly | ParamKind::Normal);
            declared.params.iter().filter(is_placed).skip(skipped).cloned().collect()
        };
        let (mine, theirs) = (by_place(own), by_place(hidden));
        if let Some(lacking) = theirs.get(mine.len())
            && !has(own, ParamKind::VarArgs)
        {
            // Of what is lacking, a name that is nowhere says more than the last one.
            let missing = theirs.iter().find(|theirs| mine.iter().all(|mine| mine.name != theirs.name));
            return Some(Clash::Lacks(missing.unwrap_or(lacking).name));
        }
        if let Some(asked) = mine.iter().skip(theirs.len()).find(|param| !param.optional) {
            return Some(Clash::Asks(asked.name));
        }
        for (mine, theirs) in mine.iter().zip(&theirs) {
            if theirs.optional && !mine.optional {
                return Some(Clash::Asks(mine.name));
            }
            // What callers may pass by name must have that name (typing specification, "Callables: assignability").
            // Methods with names of their own, and private ones, are called by place.
            let is_called = !self.text(name).starts_with('_') || name == known::CALL;
            let may_be_named = theirs.kind == ParamKind::Normal && !self.text(theirs.name).starts_with('_');
            if is_called
                && may_be_named
                && mine.name != theirs.name
                && are_annotated(own, hidden)
                && !has(own, ParamKind::KwArgs)
            {
                return Some(Clash::Renames(theirs.name, mine.name));
            }
            if self.does_not_fit(theirs.ty, mine.ty) {
                return Some(Clash::Takes(theirs.name, theirs.ty, mine.ty));
            }
        }
        let by_name = |declared: &Declared, name| {
            let is_named = |param: &&SignatureParam| {
                param.name == name && matches!(param.kind, ParamKind::KeywordOnly | ParamKind::Normal)
            };
            declared.params.iter().find(is_named).cloned()
        };
        for theirs in hidden.params.iter().filter(|param| param.kind == ParamKind::KeywordOnly) {
            let Some(mine) = by_name(own, theirs.name) else {
                if has(own, ParamKind::KwArgs) {
                    continue;
                }
                return Some(Clash::Lacks(theirs.name));
            };
            if theirs.optional && !mine.optional {
                return Some(Clash::Asks(mine.name));
            }
            if self.does_not_fit(theirs.ty, mine.ty) {
                return Some(Clash::Takes(theirs.name, theirs.ty, mine.ty));
            }
        }
        let asked = own.params.iter().find(|param| {
            param.kind == ParamKind::KeywordOnly && !param.optional && by_name(hidden, param.name).is_none()
        })?;
        Some(Clash::Asks(asked.name))
    }
}

impl Infer<'_> {
    /// Compares a class's members with those that they hide.
    pub(crate) fn check_overrides(&mut self, class: ClassId) {
        let this = ClassRef { file: self.file, class };
        self.check_marks(this);
        if self.index.classes[class].args.is_empty() {
            return;
        }
        self.check_bases_together(this);
        for (def, name) in crate::checks::classes::own_names(self.index, class) {
            let text = self.text(name);
            // Names with two underscores are the class's own.
            if text.starts_with("__") && !text.ends_with("__") {
                continue;
            }
            if let Some((own, hidden, why)) = self.clash(this, name) {
                let range = self.index.defs[def].range;
                self.problem_at(range, None, ProblemKind::ClassOverride { own, hidden: Some(hidden), why });
            }
        }
    }

    /// What a class has from several bases and does not write itself must go together.
    fn check_bases_together(&mut self, class: ClassRef) {
        let db = self.db;
        let store = db.store();
        let index = self.index;
        if index.classes[class.class].args.len() < 2 {
            return;
        }
        let this = instance_of(db, class, &[]);
        let entries: Vec<crate::types::InstanceId> = classes::info(db, class).mro.iter().skip(1).copied().collect();
        for later in &entries {
            let theirs = store.instance(*later).class;
            if theirs.file.is_stub(db) {
                continue;
            }
            for name in crate::outline::class(db, theirs).of_body.iter().copied() {
                if self.text(name).starts_with('_') {
                    continue;
                }
                let Some(found) = members::find(db, this, name, Some(class)) else { continue };
                let mine = store.instance(found.owner).class;
                if mine == theirs || mine.file.is_stub(db) || classes::derives(db, mine, theirs) != Some(false) {
                    continue;
                }
                let Some(other) = members::own_member(db, theirs.file, theirs.class, name) else { continue };
                let other = members::Found { member: other, owner: *later };
                // What nobody annotated is meant to be mixed as it comes.
                if !self.is_said_member(&found.member) || !self.is_said_member(&other.member) {
                    continue;
                }
                // What the class itself writes stands in for both.
                if crate::outline::class(db, class).has(name) {
                    let Some(own) = members::own_member(db, class.file, class.class, name) else { continue };
                    if self.clash_of(class, &own, found, name).is_none()
                        && let Some((own, hidden, why)) = self.clash_of(class, &own, other, name)
                        && let Some((def, _)) =
                            super::classes::own_names(index, class.class).into_iter().find(|(_, own)| *own == name)
                    {
                        let range = index.defs[def].range;
                        self.problem_at(range, None, ProblemKind::ClassOverride { own, hidden: Some(hidden), why });
                    }
                    continue;
                }
                if let Some((own, hidden, why)) = self.clash_of(mine, &found.member, other, name) {
                    let range = index.classes[class.class].name_range;
                    self.problem_at(range, None, ProblemKind::ClassOverride { own, hidden: Some(hidden), why });
                    return;
                }
            }
        }
    }

    /// Methods that say that they stand in for another must have one (PEP 698).
    fn check_marks(&mut self, class: ClassRef) {
        let db = self.db;
        let index = self.index;
        for function in &index.classes[class.class].methods {
            let record = &index.functions[*function];
            let is_marked =
                record.decorators.iter().any(|mark| index.decorator_name(*mark) == Some(known::OVERRIDE_MARK));
            // Of several signatures, the mark stands on the first or on the implementation.
            if is_marked
                && open_members::unseen(db, class).is_none()
                && members::find(db, instance_of(db, class, &[]), record.name, Some(class)).is_none()
            {
                let own = functions::shown(db, self.file, *function);
                let kind = ProblemKind::ClassOverride { own, hidden: None, why: Clash::Alone };
                self.problem_at(record.name_range, None, kind);
            }
        }
    }

    fn clash(&mut self, class: ClassRef, name: Name) -> Option<(String, Hidden, Clash)> {
        let db = self.db;
        let found = members::find(db, instance_of(db, class, &[]), name, Some(class))?;
        let owner = db.store().instance(found.owner).class;
        if is_builtin(db, owner, known::OBJECT) {
            return None;
        }
        let mine = members::own_member(db, class.file, class.class, name)?;
        self.clash_of(class, &mine, found, name)
    }

    /// Why a member of a class cannot stand in for one that was found in another.
    fn clash_of(
        &mut self,
        class: ClassRef,
        mine: &Member,
        found: members::Found,
        name: Name,
    ) -> Option<(String, Hidden, Clash)> {
        let db = self.db;
        let owner = db.store().instance(found.owner).class;
        let (own, base) = (side(db, class, mine)?, side(db, owner, &found.member)?);
        let given = classes::class_arguments(db, found.owner);
        let why = match (&own, &base) {
            (Side::Method(own), Side::Method(base)) => self.methods_clash(name, *own, *base, found.owner)?,
            // What is not annotated may be one or the other as it likes.
            (Side::Method(method), Side::Property(property)) | (Side::Property(property), Side::Method(method)) => {
                let is_said = |function: &FunctionRef| self.declared_result_of(*function).is_some();
                (is_said(method) && is_said(property)).then_some(Clash::Kind(base.kind(), own.kind()))?
            }
            (Side::Property(own), Side::Property(base)) => {
                let gives = self.declared_result_of(*own)?;
                let wanted = given.apply(db.store(), self.declared_result_of(*base)?);
                self.does_not_fit(gives, wanted).then_some(Clash::Gives(wanted, gives))?
            }
            (Side::Property(own), Side::Attribute(wanted)) => {
                let gives = self.declared_result_of(*own)?;
                let wanted = given.apply(db.store(), *wanted);
                self.does_not_fit(gives, wanted).then_some(Clash::Gives(wanted, gives))?
            }
            (Side::Attribute(holds), Side::Property(base)) => {
                let wanted = given.apply(db.store(), self.declared_result_of(*base)?);
                self.does_not_fit(*holds, wanted).then_some(Clash::Holds(wanted, *holds))?
            }
            (Side::Attribute(holds), Side::Attribute(wanted)) => {
                let wanted = given.apply(db.store(), *wanted);
                self.does_not_fit(*holds, wanted).then_some(Clash::Holds(wanted, *holds))?
            }
            // What is held there may be something to call.
            // `__hash__ = None` says that there is none.
            (Side::Method(_), Side::Attribute(Type::None)) | (Side::Attribute(Type::None), Side::Method(_)) => {
                return None;
            }
            (Side::Method(_), Side::Attribute(held)) | (Side::Attribute(held), Side::Method(_)) => {
                self.is_no_callable(*held).then_some(Clash::Kind(base.kind(), own.kind()))?
            }
        };
        let at = Infer::member_site(db, found);
        let shown = |class| format!("{}.{}", classes::shown(db, class), self.text(name));
        Some((shown(class), Hidden { shown: shown(owner), at }, why))
    }

    fn is_said_member(&self, member: &Member) -> bool {
        match member.ty {
            Type::Function(id) | Type::Property(id) => {
                let function = *self.db.store().function(id);
                self.declared_result_of(function).is_some()
            }
            _ => member.declared,
        }
    }

    /// Whether nothing of a type can be called.
    fn is_no_callable(&mut self, ty: Type) -> bool {
        let parts = crate::types::union::parts(self.db.store(), &ty).to_vec();
        parts.into_iter().all(|part| match part {
            Type::None | Type::Literal(_) | Type::Tuple(_) => true,
            Type::Instance(id) => {
                let class = self.db.store().instance(id).class;
                classes::info(self.db, class).unknown_base.is_none()
                    && !is_builtin(self.db, class, known::OBJECT)
                    && members::find(self.db, id, known::GET, None).is_none()
                    && self.member(part, known::CALL).is_none()
            }
            _ => false,
        })
    }

    fn methods_clash(
        &mut self,
        name: Name,
        own: FunctionRef,
        base: FunctionRef,
        owner: crate::types::InstanceId,
    ) -> Option<Clash> {
        let db = self.db;
        // Constructors may differ.
        if matches!(name, known::INIT | known::NEW)
            || matches!(self.text(name), "__init_subclass__" | "__class_getitem__" | "__post_init__" | "__call__")
        {
            return None;
        }
        let binding = |function: FunctionRef| crate::outline::function(db, function.file, function.function).binding;
        if binding(base) != binding(own) {
            // What is called on the class cannot ask for an object.
            let is_said = self.declared_result_of(own).is_some() && self.declared_result_of(base).is_some();
            let kind = |binding| match binding {
                Binding::Instance => "a method of objects",
                Binding::Class => "a class method",
                Binding::Static => "a static method",
            };
            return (is_said && binding(own) == Binding::Instance)
                .then(|| Clash::Kind(kind(binding(base)), kind(binding(own))));
        }
        let skipped = usize::from(crate::outline::function(db, own.file, own.function).binding != Binding::Static);
        let signatures = |function: FunctionRef| -> Vec<&Declared> {
            let all = &crate::outline::function(db, function.file, function.function).signatures;
            all.iter().map(|function_of| functions::declared(db, function.file, *function_of)).collect()
        };
        let (mine, theirs) = (signatures(own), signatures(base));
        if let ([mine], [theirs]) = (mine.as_slice(), theirs.as_slice()) {
            // What only stands for what subclasses are to write says nothing of its parameters where it is not annotated.
            let is_pattern = crate::outline::function(db, base.file, base.function).shape != BodyShape::Code;
            if is_pattern && theirs.returns.is_none() {
                return None;
            }
            return self
                .parameters_clash(name, mine, theirs, skipped)
                .or_else(|| self.results_clash(mine, theirs, owner));
        }
        if mine.iter().chain(&theirs).any(|declared| self.is_open_signature(declared, skipped)) {
            return None;
        }
        let lacking = theirs.iter().position(|theirs| {
            mine.iter().all(|mine| {
                self.parameters_clash(name, mine, theirs, skipped).is_some()
                    || self.results_clash(mine, theirs, owner).is_some()
            })
        })?;
        Some(Clash::Signature(lacking))
    }

    fn results_clash(&self, own: &Declared, hidden: &Declared, owner: crate::types::InstanceId) -> Option<Clash> {
        let (gives, wanted) = (own.returns?, hidden.returns?);
        let wanted = classes::class_arguments(self.db, owner).apply(self.db.store(), wanted);
        self.does_not_fit(gives, wanted).then_some(Clash::Gives(wanted, gives))
    }
}

/// What a member is; `None` where too little is said of it.
fn side(db: &dyn Db, class: ClassRef, member: &Member) -> Option<Side> {
    let keeps =
        |function: &FunctionRef| keeps_signature(crate::outline::function(db, function.file, function.function));
    match member.ty {
        Type::Function(id) => Some(*db.store().function(id)).filter(keeps).map(Side::Method),
        Type::Property(id) => Some(Side::Property(*db.store().function(id))),
        ty if member.declared && classes::info(db, class).kind == ClassKind::Plain => Some(Side::Attribute(ty)),
        _ => None,
    }
}

/// Whether both functions are annotated: names of parameters are part of what was said then.
fn are_annotated(own: &Declared, hidden: &Declared) -> bool {
    own.returns.is_some() && hidden.returns.is_some()
}

/// Whether decorators leave a function's signature as it is written.
fn keeps_signature(outline: &FunctionOutline) -> bool {
    outline.decorators.iter().all(|decorator| {
        matches!(
            decorator.bare,
            Some(
                known::ABSTRACTMETHOD
                    | known::OVERLOAD
                    | known::OVERRIDE_MARK
                    | known::FINAL_MARK
                    | known::CLASSMETHOD
                    | known::STATICMETHOD
            )
        )
    })
}
