//! Reading attributes.

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{DefKind, Expr, ExprId, Value, ValueId};
use leitmotiv_syntax::names::{Name, known};

use super::Infer;
use crate::context::TypeContext;
use crate::definitions::classes;
use crate::outline::module_name;
use crate::problems::ProblemKind;
use crate::resolve::{self, builtin, instance_of, standard_class};
use crate::types::{Binding, CauseKind, InstanceId, Literal, Type, VarKind};

/// A name is followed through this many modules that pass it on. Said in docs/architecture.md.
const MOST_MODULES: usize = 4;

/// A value, and names of attributes on it.
pub(crate) type Told = (ValueId, Vec<Name>);

impl TypeContext<'_> {
    /// Whether a type is of a stub of the project's own that stands beside the source, and the source has what the stub lacks.
    pub(crate) fn is_hidden_by_stub(&self, ty: Type, name: Name) -> bool {
        let file = match ty {
            Type::Module(file) => file,
            Type::Class(id) => self.db.store().instance(id).class.file,
            ty => match self.nominal(ty) {
                Some(id) => self.db.store().instance(id).class.file,
                None => return false,
            },
        };
        file.is_stub(self.db)
            && file.origin(self.db) == leitmotiv_project::resolve::Origin::Project
            && self.file.origin(self.db).is_own()
            && !self.file.is_stub(self.db)
            && crate::resolve::source_beside(self.db, file).is_some_and(|source| self.source_has(source, ty, name))
    }

    /// Whether the source beside a stub has a name that the stub does not have: a module's, or a class's.
    fn source_has(&self, source: crate::base::file::File, ty: Type, name: Name) -> bool {
        let id = match ty {
            Type::Module(_) => {
                let own = module_name(self.db, source, name);
                return own.is_bound || own.is_made;
            }
            Type::Class(id) => id,
            ty => match self.nominal(ty) {
                Some(id) => id,
                None => return true,
            },
        };
        let class = crate::outline::class_name(self.db, self.db.store().instance(id).class);
        let Some(class) = module_name(self.db, source, class).class else { return true };
        let this = instance_of(self.db, class, &[]);
        classes::members::find(self.db, this, name, None).is_some()
            || classes::open_members::unseen(self.db, class).is_some()
    }

    /// A type with what recursive aliases among its parts say.
    pub(crate) fn unfolded(&self, ty: Type) -> Type {
        if !matches!(ty, Type::Var(_) | Type::Union(_)) {
            return ty;
        }
        let store = self.db.store();
        let is_alias = |part: &Type| matches!(part, Type::Var(var) if store.variable(*var).kind == VarKind::Alias);
        if !crate::types::union::parts(store, &ty).iter().any(is_alias) {
            return ty;
        }
        crate::types::union::map(store, ty, |part| if is_alias(&part) { self.upper_bound(part) } else { part })
    }

    /// What may be asked of a type variable's values.
    pub(crate) fn upper_bound(&self, ty: Type) -> Type {
        let Type::Var(id) = ty else { return ty };
        let limits = crate::definitions::type_variables::limits(self.db, id);
        match (limits.bound, limits.constraints.as_ref()) {
            (Some(bound), _) => bound,
            (None, []) => resolve::builtin_instance(self.db, known::OBJECT, &[]),
            (None, constraints) => self.join(constraints.iter().copied()),
        }
    }

    /// The class instance that a type is one of, for lookup in its class.
    pub(crate) fn nominal(&self, ty: Type) -> Option<InstanceId> {
        let store = self.db.store();
        match ty {
            Type::Instance(id) => Some(id),
            Type::Literal(_) => match self.literal_fallback(ty) {
                Type::Instance(id) => Some(id),
                _ => None,
            },
            Type::Tuple(id) => {
                let element = self.tuple_element(id);
                match self.container(known::TUPLE, &[element]) {
                    Type::Instance(id) => Some(id),
                    _ => None,
                }
            }
            Type::Var(_) => match self.upper_bound(ty) {
                Type::Var(_) => None,
                upper => self.nominal(upper),
            },
            Type::Class(id) => {
                let class = store.instance(id).class;
                let meta = classes::info(self.db, class).metaclass.or_else(|| builtin(self.db, known::TYPE))?;
                Some(instance_of(self.db, meta, &[]))
            }
            _ => None,
        }
    }

    /// `.name` and `.value` of an enumeration's members.
    fn enum_member_attribute(
        &mut self,
        class: crate::types::ClassRef,
        member: Option<Name>,
        name: Name,
    ) -> Option<Type> {
        let text = self.db.names().text(name);
        let member = member?;
        match text {
            "name" | "_name_" => Some(Type::Literal(self.db.store().intern_literal(Literal::Str(member)))),
            "value" | "_value_" => {
                let instance = instance_of(self.db, class, &[]);
                // A `_value_` or `value` of the class's own says what values are.
                let own = classes::members::find(self.db, instance, name, None)?;
                let owner = self.db.store().instance(own.owner).class;
                if owner == class {
                    return None;
                }
                let ty = classes::enums::value_of(self.db, class.file, class.class, member)?;
                let is_auto = matches!(ty, Type::Instance(id)
                    if self.db.names().text(crate::outline::class_name(self.db, self.db.store().instance(id).class)) == "auto");
                let is_text = || classes::derives_builtin(self.db, class, known::STR);
                Some(match is_auto {
                    true if is_text() => self.builtin(known::STR),
                    true => self.builtin(known::INT),
                    false => ty,
                })
            }
            _ => None,
        }
    }

    /// A member of a type that is no union; `None` where it has none.
    pub fn member(&mut self, ty: Type, name: Name) -> Option<Type> {
        if let Some(known) = self.asked.members.get(&(ty, name)) {
            return *known;
        }
        let member = self.find_member(ty, name);
        if self.unifying.is_empty() {
            self.asked.members.insert((ty, name), member);
        }
        member
    }

    fn find_member(&mut self, ty: Type, name: Name) -> Option<Type> {
        let db = self.db;
        let store = db.store();
        match ty {
            Type::Never | Type::Any | Type::Unknown(_) => Some(ty),
            Type::None => {
                let object = builtin(db, known::OBJECT)?;
                if name == known::BOOL {
                    return Some(Type::Any);
                }
                self.instance_member(ty, instance_of(db, object, &[]), name)
            }
            Type::Instance(id) => self.instance_member(ty, id, name),
            Type::Tuple(_) | Type::Literal(_) => {
                if let Type::Literal(literal) = ty
                    && let Literal::Enum(class, member) = *store.literal(literal)
                    && let Some(found) = self.enum_member_attribute(class, Some(member), name)
                {
                    return Some(found);
                }
                let id = self.nominal(ty)?;
                self.instance_member(ty, id, name)
            }
            Type::Class(id) => {
                if name == known::DUNDER_CLASS {
                    return Some(Type::Any);
                }
                self.class_member(ty, id, name)
            }
            Type::SubclassOf(inner) => match *store.single(inner) {
                Type::Instance(id) => {
                    let found = self.class_member(Type::Class(id), id, name)?;
                    Some(found)
                }
                Type::Var(var) => {
                    let upper = self.upper_bound(Type::Var(var));
                    let inner = store.intern_type(upper);
                    if upper == Type::SubclassOf(inner) { None } else { self.member(Type::SubclassOf(inner), name) }
                }
                other if other.is_dynamic() => Some(other),
                _ => Some(Type::Any),
            },
            Type::Function(_) | Type::Method(_) if let Some(wrapper) = self.cached_by(ty) => {
                self.instance_member(Type::Instance(wrapper), wrapper, name)
            }
            Type::Function(_) | Type::Callable(_) => {
                let class = standard_class(db, known::TYPES, known::FUNCTION_TYPE)?;
                // Functions may be given attributes as the program runs; special methods are looked up past these.
                let found = self.instance_member(ty, instance_of(db, class, &[]), name);
                let is_special = classes::special_names::is_special(db.names().text(name));
                found.or((!is_special).then_some(Type::Any))
            }
            Type::Method(_) => {
                let class = standard_class(db, known::TYPES, known::METHOD_TYPE)?;
                let found = self.instance_member(ty, instance_of(db, class, &[]), name);
                let text = db.names().text(name);
                let is_special = classes::special_names::is_special(text);
                // Its own it has none; those of its function are somebody's who gives functions such.
                let is_given = || text.starts_with("__") || !resolve::patching_files(db, name).is_empty();
                found.or((!is_special && is_given()).then_some(Type::Any))
            }
            Type::Property(_) => self.member(resolve::builtin_instance(db, known::PROPERTY, &[]), name),
            Type::Module(file) => {
                if resolve::is_for_other_versions(db, file, name) {
                    return None;
                }
                if let Some(found) = resolve::member(db, file, name) {
                    return Some(if found == Type::Never { Type::Any } else { found });
                }
                // Modules that were found have a file.
                if name == known::DUNDER_FILE {
                    return Some(self.builtin(known::STR));
                }
                let class = standard_class(db, known::TYPES, known::MODULE_TYPE)?;
                if let Some(found) = classes::members::find(db, instance_of(db, class, &[]), name, None) {
                    return Some(found.member.ty);
                }
                // Modules that nobody wrote types for may make their names as they run; our stubs leave private names out.
                let is_private = db.names().text(name).starts_with('_')
                    && file.origin(db) == leitmotiv_project::resolve::Origin::Bundled;
                if is_private || file.origin(db).is_untyped_source() || self.imports_below(file, name) {
                    let at = Anchor::Module;
                    let cause = crate::types::Cause { kind: CauseKind::Dynamic, file, at, name };
                    return Some(Type::Unknown(db.store().intern_cause(cause)));
                }
                None
            }
            Type::Namespace(package) => {
                let full = format!("{}.{}", db.names().text(package), db.names().text(name));
                resolve::module_value(db, db.names().intern(&full), Some(self.file))
            }
            Type::Union(id) => {
                let parts = store.union_parts(id).to_vec();
                let found: Option<Vec<Type>> = parts.into_iter().map(|part| self.member(part, name)).collect();
                found.map(|found| self.join(found))
            }
            Type::Var(var) => {
                if matches!(store.variable(var).kind, VarKind::Tuple | VarKind::Params) {
                    return Some(Type::Any);
                }
                let upper = self.upper_bound(ty);
                let found = self.member(upper, name)?;
                Some(found)
            }
            // A `type` statement's name is an object that tells of the alias (PEP 695).
            Type::Form(id) if matches!(*store.single(id), Type::Instance(_)) => {
                match standard_class(db, known::TYPING, db.names().intern("TypeAliasType")) {
                    Some(class) => self.instance_member(ty, instance_of(db, class, &[]), name),
                    None => Some(Type::Any),
                }
            }
            Type::Special(_) | Type::Form(_) => Some(Type::Any),
            Type::Super(id) => self.super_member(*store.method(id), name),
        }
    }

    /// What `lru_cache` or `cache` makes of a function: it is called like the function, and has what the cache has.
    fn cached_by(&self, ty: Type) -> Option<InstanceId> {
        let store = self.db.store();
        let function = match ty {
            Type::Method(id) => store.method(id).function,
            ty => ty,
        };
        let Type::Function(id) = function else { return None };
        let function = *store.function(id);
        let outline = crate::outline::function(self.db, function.file, function.function);
        let is_cache = |name: Option<Name>| name.is_some_and(|name| matches!(self.text(name), "lru_cache" | "cache"));
        let mut marks = outline.decorators.iter();
        if !marks.any(|mark| is_cache(mark.bare) || is_cache(mark.called)) {
            return None;
        }
        let names = self.db.names();
        let class = standard_class(self.db, names.intern("functools"), names.intern("_lru_cache_wrapper"))?;
        let declared = crate::definitions::functions::declared(self.db, function.file, function.function);
        let gives = declared.returns.unwrap_or(Type::Any);
        let params = crate::definitions::functions::any_callable(store, Type::Never);
        Some(instance_of(self.db, class, &[gives, params]))
    }

    /// Whether a module imports `name`, or something below it, from a package: `import vessels.engines.diesel`. Where that is
    /// not found, the import has been told.
    fn imports_below(&self, package: crate::base::file::File, name: Name) -> bool {
        let names = self.db.names();
        let full = format!("{}.{}", names.text(package.module(self.db)), names.text(name));
        crate::outline::names::imports_below(self.db, self.file, names.intern(&full))
    }
}

impl Infer<'_> {
    /// What an attribute expression is: what the flow knows of the place, or else what the object has.
    pub(crate) fn attribute(&mut self, expr: ExprId, object: ExprId, name: Name, place: ValueId) -> Type {
        if let Some(place) = place.known() {
            // The object must still be looked at, for what may be wrong with it.
            self.expr(object);
            // `call.value = other  # type: ignore`: it is still what it is declared.
            if let Value::Def(def) = self.index.values[self.index.unnarrowed(place)] {
                let is_silenced = self.is_silenced(def);
                if is_silenced || self.is_refused(def, object, name) {
                    let natural = self.natural_attribute(expr, object, name);
                    // Whatever was put in, it was not None.
                    let natural = match is_silenced {
                        true => natural,
                        false => crate::types::union::filter(self.db.store(), natural, |part| part != Type::None),
                    };
                    return self.narrowed_anew(natural, place);
                }
            }
            let ty = if self.is_lost(place) { Type::Never } else { self.value(place) };
            if ty != Type::Never || self.is_exhausted(place) {
                return self.without_literals(ty, object, name);
            }
            let natural = self.natural_attribute(expr, object, name);
            return self.narrowed_anew(natural, place);
        }
        self.natural_attribute(expr, object, name)
    }

    /// What an attribute holds that was given a number or a text: its class, unless the declaration speaks of literals (typing
    /// specification, "Type narrowing on assignment").
    fn without_literals(&mut self, ty: Type, object: ExprId, name: Name) -> Type {
        let store = self.db.store();
        if !crate::types::union::parts(store, &ty).iter().any(|part| self.is_plain_literal(*part)) {
            return ty;
        }
        let Type::Instance(id) = self.expr(object) else { return ty };
        let Some(found) = classes::members::find(self.db, id, name, None) else { return ty };
        let is_final = || {
            let owner = store.instance(found.owner).class;
            classes::members::qualifiers(self.db, owner.file, found.member.at).is_final
        };
        if !found.member.declared
            || found.member.ty.is_dynamic()
            || self.speaks_of_literals(found.member.ty)
            || is_final()
        {
            return ty;
        }
        crate::types::union::map(store, ty, |part| match self.is_plain_literal(part) {
            true => self.literal_fallback(part),
            false => part,
        })
    }

    /// Whether a value was assigned to an attribute that is declared to be something else, or that a property gives: it is what it
    /// is declared all the same (typing specification, "Type narrowing on assignment").
    fn is_refused(&mut self, def: leitmotiv_index::tree::DefId, object: ExprId, name: Name) -> bool {
        let DefKind::Assign { value, unpack: None, .. } = self.index.defs[def].kind else { return false };
        let Type::Instance(id) = self.expr(object) else { return false };
        if self.index.defs[def].body != self.body {
            return false;
        }
        let Some(found) = classes::members::find(self.db, id, name, None) else { return false };
        // What a method declares of its own object is told apart by `assigned`.
        let is_own = self.is_receiver(object);
        let is_said = found.member.declared && !is_own
            || matches!(found.member.ty, Type::Property(_))
            || self.setting_descriptor(id, name).is_some();
        let Some(declared) = is_said.then(|| self.member(Type::Instance(id), name)).flatten() else { return false };
        let given = self.expr(value);
        // That None is put in is told, and meant for a while.
        let is_plain = !given.is_dynamic() && !declared.is_dynamic() && given != Type::None;
        is_plain && !self.is_assignable_leniently(value, declared)
    }

    /// What conditions since an assignment say of a place that may have been changed from elsewhere after it.
    pub(crate) fn narrowed_anew(&mut self, natural: Type, place: ValueId) -> Type {
        let narrowed = match self.index.values[place] {
            Value::Narrow { of, condition, subject, positive } => {
                let before = self.narrowed_anew(natural, of);
                self.narrow(before, condition, subject, positive)
            }
            _ => natural,
        };
        if narrowed == Type::Never { natural } else { narrowed }
    }

    /// What the object has by that name.
    pub(crate) fn natural_attribute(&mut self, expr: ExprId, object: ExprId, name: Name) -> Type {
        let ty = self.expr(object);
        if matches!(self.text(name), "stdin" | "stdout" | "stderr")
            && let Some(read) = self.member(ty, name)
        {
            let piped = self.piped(read, ty, object, name);
            if piped != read {
                return piped;
            }
        }
        self.attribute_of(expr, ty, name)
    }

    /// The type that a place has by itself, without what the flow knows of it.
    pub(crate) fn natural(&mut self, expr: ExprId) -> Type {
        match self.index.exprs[expr] {
            Expr::Attribute { value, name, .. } => self.speculate(|infer| infer.natural_attribute(expr, value, name)),
            Expr::Subscript { value, index, .. } => self.speculate(|infer| {
                let object = infer.expr(value);
                infer.subscript_of(expr, object, index)
            }),
            Expr::Call { callee, ref args } => self.speculate(|infer| infer.call(expr, callee, args)),
            _ => self.expr(expr),
        }
    }

    /// What a look-up gives, with what the flow knows of it: it is not the default where the key is known to be there.
    pub(crate) fn looked_up(&mut self, natural: Type, value: ValueId) -> Type {
        let may_be_none = crate::types::union::parts(self.db.store(), &natural).contains(&Type::None);
        if !may_be_none || self.is_lost(value) {
            return natural;
        }
        match self.value(value) {
            Type::Never => natural,
            known => known,
        }
    }

    /// What a container holds at a key that was found to be in it: the condition is `key in container`.
    pub(crate) fn item_found(&mut self, condition: ExprId) -> Type {
        let Expr::Compare { left: key, rest } = &self.index.exprs[condition] else { return Type::Any };
        let Some((_, container)) = rest.first() else { return Type::Any };
        let (key, container) = (*key, *container);
        self.speculate(|infer| {
            let object = infer.expr(container);
            infer.subscript_of(container, object, key)
        })
    }

    /// Reads an attribute of a type and reports where it has none.
    pub(crate) fn attribute_of(&mut self, expr: ExprId, ty: Type, name: Name) -> Type {
        let store = self.db.store();
        let Type::Union(id) = ty else {
            let member = if self.is_mangled_away(expr, ty, name) { None } else { self.member(ty, name) };
            return match member {
                Some(member) => member,
                None => {
                    if let Type::Super(id) = ty
                        && !self.is_surely_behind(*store.method(id))
                    {
                        return self.unknown(CauseKind::Dynamic, expr);
                    }
                    if ty == Type::None {
                        // What is None in this class, a subclass may give.
                        if !self.object_of(expr).is_some_and(|object| self.is_unreliable_none(object)) {
                            self.problem(expr, ProblemKind::NoneMember { object: ty, name });
                        }
                    } else if self.checking {
                        let mut near = self.near_member(ty, name);
                        // What is called must be something to call.
                        if self.called == Some(expr)
                            && let Some(found) = near.as_ref().and_then(|near| self.db.names().find(near))
                            && matches!(self.member(ty, found), Some(Type::Instance(_) | Type::Literal(_) | Type::None))
                        {
                            near = None;
                        }
                        // What `self` lacks, a subclass may have: only a slip of the pen is sure enough to tell. What
                        // is assigned from outside somewhere may be there.
                        let is_slip = near.as_ref().is_some_and(|near| is_slip(self.text(name), near));
                        let is_seen = match self.is_read_from_receiver(expr) {
                            true => {
                                is_slip
                                    || self.called == Some(expr) && self.is_given_by_nobody(ty, name)
                                    || self.is_sealed(ty)
                            }
                            false => is_slip || !self.is_only_narrowed(expr),
                        };
                        if is_seen && !self.is_patched(ty, name) && !self.is_filled_by_its_module(expr) {
                            self.problem(expr, ProblemKind::MemberAbsent { object: ty, name, near, rest: None });
                        }
                    }
                    self.unknown(CauseKind::Reported, expr)
                }
            };
        };
        let parts = store.union_parts(id).to_vec();
        let mut found = Vec::with_capacity(parts.len());
        let mut missing = Vec::new();
        let mut none = false;
        for part in &parts {
            match self.member(*part, name) {
                Some(member) => found.push(member),
                None if *part == Type::None => none = true,
                None => missing.push(*part),
            }
        }
        // Which of several types it is here, nobody may be able to tell.
        if let Expr::Attribute { value, .. } = self.index.exprs[expr] {
            none = none && !self.is_unreliable_none(value);
            if !missing.is_empty() && !found.is_empty() && self.is_ambiguous(value) {
                missing.clear();
            }
        }
        // Told once for a value is enough: what follows has the same cause.
        if none && self.object_of(expr).is_none_or(|holder| self.is_first_none(holder, expr)) {
            self.problem(expr, ProblemKind::NoneMember { object: ty, name });
        }
        missing.retain(|part| !self.is_patched(*part, name));
        if self.is_filled_by_its_module(expr) {
            missing.clear();
        }
        if self.checking && !missing.is_empty() && !parts.iter().any(|part| part.is_dynamic()) {
            let object = self.join(missing.iter().copied());
            let near = self.near_member(object, name);
            let rest = (missing.len() < parts.len()).then_some(ty);
            self.problem(expr, ProblemKind::MemberAbsent { object, name, near, rest });
        }
        if found.is_empty() { self.unknown(CauseKind::Reported, expr) } else { self.join(found) }
    }

    /// Whether a private name means another one here than the class gives: `object.__hull` from outside of the class (language reference,
    /// "Private name mangling").
    fn is_mangled_away(&mut self, expr: ExprId, ty: Type, name: Name) -> bool {
        let text = self.text(name);
        if !self.checking || !text.starts_with("__") || text.ends_with("__") {
            return false;
        }
        let (Type::Instance(id) | Type::Class(id)) = ty else { return false };
        let Some(found) = classes::members::find(self.db, id, name, None) else { return false };
        let owner = crate::outline::class_name(self.db, self.db.store().instance(found.owner).class);
        let bare = |name: Name| self.text(name).trim_start_matches('_');
        let around = self.index.classes_around.of(self.index.spans[expr].start()).next();
        around.is_none_or(|class| bare(self.index.classes[class].name) != bare(owner))
    }

    /// Whether what `super()` finds is behind the class it stands in, and nothing comes between: no class of the project derives from it
    /// and from others, and it is not there to be mixed into others.
    fn is_surely_behind(&mut self, start: crate::types::Method) -> bool {
        let Type::Class(after) = start.function else { return false };
        let class = self.db.store().instance(after).class;
        let text = self.text(crate::outline::class_name(self.db, class)).to_lowercase();
        self.checking
            && self.file.origin(self.db) == leitmotiv_project::resolve::Origin::Project
            && !text.contains("mixin")
            && !text.contains("base")
            && !text.contains("abstract")
            && !self.is_derived_oddly(class)
    }

    /// Whether the object whose attribute is read is a name of another module that sets attributes on objects by names that
    /// cannot be read: `setattr(codes, name, …)`.
    fn is_filled_by_its_module(&mut self, expr: ExprId) -> bool {
        let Some(object) = self.object_of(expr) else { return false };
        let own = self.file;
        let (mut file, mut name) = match self.index.exprs[object] {
            Expr::Name(name, _) => (self.file, name),
            Expr::Attribute { value, name, .. } => match self.quietly(value) {
                Type::Module(file) => (file, name),
                _ => return false,
            },
            _ => return false,
        };
        for _ in 0..MOST_MODULES {
            let Some((module, level, there)) = module_name(self.db, file, name).import else { break };
            let Some(resolve::Imported::File(target)) = resolve::import_target(self.db, file, module, level) else {
                break;
            };
            (file, name) = (target, there);
        }
        file != own && crate::outline::names::sets_computed_names(self.db, file)
    }

    /// Whether no other use of the same value has been reported in this body as one that may be None.
    pub(crate) fn is_first_none(&mut self, holder: ExprId, at: ExprId) -> bool {
        let Some(root) = self.told_by(holder) else { return true };
        if !self.checking {
            return true;
        }
        match self.told_none.iter().find(|(told, _)| *told == root) {
            // The same place again, after a loop's types were worked out anew.
            Some((_, told)) => *told == at,
            None => {
                self.told_none.push((root, at));
                true
            }
        }
    }

    /// What a value is told apart by: what a name or an attribute holds, or else the attribute's names on what a name holds.
    pub(crate) fn told_by(&self, holder: ExprId) -> Option<Told> {
        let mut names = Vec::new();
        let mut next = holder;
        loop {
            match self.index.exprs[next] {
                Expr::Name(_, id) => return Some((self.index.unnarrowed(id), names)),
                Expr::Attribute { place, .. } if place.known().is_some() => {
                    return Some((self.index.unnarrowed(place), names));
                }
                Expr::Attribute { value, name, .. } => {
                    names.push(name);
                    next = value;
                }
                _ => return None,
            }
        }
    }

    /// Whether an attribute is read from something of which nothing is known but what a check has told: a class's instances
    /// may be of a subclass with more.
    fn is_only_narrowed(&mut self, expr: ExprId) -> bool {
        let Expr::Attribute { value, .. } = self.index.exprs[expr] else { return false };
        let Expr::Name(_, id) = self.index.exprs[value] else { return false };
        let root = self.index.unnarrowed(id);
        root != id
            && matches!(self.index.values[id], Value::Narrow { .. } | Value::Matched { .. } | Value::Phi { .. })
            && self.value(root).is_dynamic()
    }

    fn object_of(&self, expr: ExprId) -> Option<ExprId> {
        match self.index.exprs[expr] {
            Expr::Attribute { value, .. } | Expr::Subscript { value, .. } => Some(value),
            _ => None,
        }
    }

    fn is_read_from_receiver(&self, expr: ExprId) -> bool {
        matches!(self.index.exprs[expr], Expr::Attribute { value, .. } if self.is_receiver(value))
    }

    /// Whether an expression is the first parameter of a method.
    pub(crate) fn is_receiver(&self, expr: ExprId) -> bool {
        let Expr::Name(_, id) = self.index.exprs[expr] else { return false };
        self.holds_receiver(id)
    }

    fn holds_receiver(&self, value: ValueId) -> bool {
        match self.index.values[self.index.unnarrowed(value)] {
            Value::Def(def) => match self.index.defs[def].kind {
                DefKind::Param { function, index: 0 } => {
                    let record = &self.index.functions[function];
                    let takes_none =
                        crate::outline::functions::binding(self.db, self.index, function) == Binding::Static;
                    record.class.is_some() && (!takes_none || record.name == known::NEW)
                }
                _ => false,
            },
            // The method's own, read in a function inside of it.
            Value::Captured { value, .. } => self.holds_receiver(value),
            _ => false,
        }
    }

    /// The member that comes nearest in spelling.
    pub(crate) fn near_member(&mut self, ty: Type, name: Name) -> Option<String> {
        if !self.seeks_nearest() {
            return None;
        }
        let wanted = self.db.names().text(name);
        let names: Vec<Name> = match ty {
            Type::Module(file) => crate::outline::names::module_names(self.db, file).to_vec(),
            Type::Class(id) => classes::names::names_in_no_order(self.db, id),
            ty => classes::names::names_in_no_order(self.db, self.nominal(ty)?),
        };
        let names = names.iter().map(|name| self.db.names().text(*name)).collect();
        self.nearest(wanted, names).map(str::to_owned)
    }
}

/// Whether two words differ by a single letter, or by two in the wrong order.
pub(crate) fn is_slip(wanted: &str, near: &str) -> bool {
    // `asave` beside `save`, `_shape` beside `shape`, `closed` beside `close` and the special methods are made so on purpose.
    let is_made = wanted.starts_with("__")
        || wanted.ends_with(near)
        || near.ends_with(wanted)
        || near.strip_suffix('d') == Some(wanted);
    !is_made && strsim::osa_distance(wanted, near) == 1
}

/// The word that comes nearest, near enough to be meant.
pub(crate) fn nearest<'a>(wanted: &str, words: impl IntoIterator<Item = &'a str>) -> Option<&'a str> {
    leitmotiv_project::settings::nearest(wanted, words.into_iter().filter(|word| *word != wanted && word.len() > 1))
}
