//! Class definitions: bases, what is final, fields (typing specification, "Class type assignability", "Type qualifiers",
//! "Dataclasses").

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{ArgKind, ClassForm, ClassId, DefId, DefKind, Expr, ExprId, ModuleIndex, ParamKind};
use leitmotiv_syntax::names::{Name, known};

use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::classes::{self, ClassKind, dataclass, members};
use crate::infer::Infer;
use crate::outline::Site;
use crate::outline::functions::Decorator;
use crate::outline::places::decorator_at;
use crate::problems::{BadBase, BadField, Ended, ProblemKind};
use crate::resolve::{instance_of, is_builtin};
use crate::types::{Binding, ClassRef, Type};

impl Infer<'_> {
    /// Looks at a class as a whole.
    pub(crate) fn check_class(&mut self, class: ClassId) {
        let this = ClassRef { file: self.file, class };
        if self.index.classes[class].form == ClassForm::Statement {
            self.check_bases(this);
        }
        self.check_final_members(this);
        self.check_class_variables(this);
        self.check_fields(this);
    }

    fn check_bases(&mut self, class: ClassRef) {
        let store = self.db.store();
        let index = self.index;
        let mut seen: Vec<ClassRef> = Vec::new();
        let mut shown = Vec::new();
        let mut told = false;
        for arg in index.classes[class.class].args.iter().filter(|arg| arg.kind == ArgKind::Positional) {
            let base = self.expr(arg.value);
            self.check_base_self(arg.value);
            let why = match base {
                Type::None | Type::Literal(_) | Type::Tuple(_) | Type::Module(_) | Type::Function(_) => {
                    Some(BadBase::NotClass)
                }
                Type::Class(id) => {
                    let of = store.instance(id).class;
                    shown.push(base);
                    let decorators = &crate::outline::class(self.db, of).decorators;
                    if let Some(at) = final_mark(self.db, decorators, of.file, Anchor::Class(of.class)) {
                        self.problem(arg.value, ProblemKind::ClassFinal { what: Ended::Class(base), at });
                        told = true;
                        continue;
                    }
                    let has_members = classes::info(self.db, of).kind == ClassKind::Enum
                        && !classes::enum_members(self.db, of).is_empty();
                    if seen.contains(&of) {
                        Some(BadBase::Repeated)
                    } else if has_members {
                        Some(BadBase::Members)
                    } else if is_builtin(self.db, of, known::BOOL_CLASS) {
                        Some(BadBase::Closed)
                    } else {
                        seen.push(of);
                        None
                    }
                }
                _ => None,
            };
            if let Some(why) = why {
                told = true;
                self.problem(arg.value, ProblemKind::ClassBase { base, why });
            }
        }
        if !told {
            self.check_class_keywords(class);
        }
        if !told && classes::info(self.db, class).conflict {
            let range = index.classes[class.class].name_range;
            self.problem_at(range, None, ProblemKind::ClassOrder { bases: shown });
        }
    }

    /// Keywords of a class statement go to `__init_subclass__` of its bases (PEP 487).
    fn check_class_keywords(&mut self, class: ClassRef) {
        let db = self.db;
        let args = &self.index.classes[class.class].args;
        let info = classes::info(db, class);
        let Some(last) = args.last() else { return };
        if info.kind != ClassKind::Plain || info.metaclass.is_some() || info.unknown_base.is_some() {
            return;
        }
        let this = instance_of(db, class, &[]);
        let Some(found) = members::find(db, this, db.names().intern("__init_subclass__"), Some(class)) else { return };
        let Type::Function(_) = found.member.ty else { return };
        if is_builtin(db, db.store().instance(found.owner).class, known::OBJECT) {
            return;
        }
        let method = self.bind_method(found, this, Type::Class(this), Binding::Class);
        let candidates = self.candidates(method);
        let given: Vec<crate::call::Argument> = crate::infer::calls::given(args)
            .into_iter()
            .zip(args)
            .filter(|(_, arg)| !matches!(arg.kind, ArgKind::Positional | ArgKind::Keyword(known::METACLASS)))
            .map(|(given, _)| given)
            .collect();
        self.call_candidates(last.value, &candidates, &given);
    }

    /// Methods and attributes that bases say are final.
    fn check_final_members(&mut self, class: ClassRef) {
        let db = self.db;
        let index = self.index;
        if index.classes[class.class].args.is_empty() {
            return;
        }
        let this = instance_of(db, class, &[]);
        for (def, name) in own_names(index, class.class) {
            let text = self.text(name);
            if text.starts_with("__") && !text.ends_with("__") {
                continue;
            }
            let Some(found) = members::find(db, this, name, Some(class)) else { continue };
            let owner = db.store().instance(found.owner).class;
            let (Type::Function(id) | Type::Property(id)) = found.member.ty else {
                if members::qualifiers(db, owner.file, found.member.at).is_final {
                    let at = Infer::member_site(db, found);
                    let range = index.defs[def].range;
                    self.problem_at(range, None, ProblemKind::ClassFinal { what: Ended::Name(name), at });
                }
                continue;
            };
            let function = *db.store().function(id);
            let decorators = &crate::outline::function(db, function.file, function.function).decorators;
            if let Some(at) = final_mark(db, decorators, function.file, Anchor::Function(function.function)) {
                let range = index.defs[def].range;
                self.problem_at(range, None, ProblemKind::ClassFinal { what: Ended::Method(function), at });
            }
        }
    }

    /// Fields of dataclasses and named tuples: their order, and their defaults.
    fn check_fields(&mut self, class: ClassRef) {
        let db = self.db;
        let info = classes::info(db, class);
        let scope = self.index.classes[class.class].scope;
        let own = |name: Name| {
            let symbol = self.index.scopes[scope].symbols.get(&name)?;
            symbol.defs.iter().copied().find(|def| matches!(self.index.defs[*def].kind, DefKind::Annotated { .. }))
        };
        let is_dataclass = info.dataclass.is_some();
        if !is_dataclass && info.kind != ClassKind::NamedTuple {
            return;
        }
        let takes_all = info.dataclass.is_none_or(|options| options.init);
        let mut before: Option<(Name, Option<DefId>)> = None;
        let mut found = Vec::new();
        for field in dataclass::all_fields(db, class) {
            let def = own(field.name);
            if let Some(def) = def
                && info.dataclass.is_some_and(|options| options.transform.is_none())
                && let DefKind::Annotated { value: Some(value), .. } = self.index.defs[def].kind
                && self.is_shared(value)
            {
                found.push((def, field.name, BadField::Shared, None));
            }
            if !field.init || field.kw_only || !takes_all {
                continue;
            }
            if field.optional {
                before = Some((field.name, def));
            } else if let (Some((name, at)), Some(def)) = (before, def) {
                let at = at.map(|at| self.site_of(at));
                found.push((def, field.name, BadField::Order(name), at));
            }
        }
        if is_dataclass && takes_all {
            self.check_post_init(class);
        }
        for (def, name, why, at) in found {
            self.problem_at(self.index.defs[def].range, None, ProblemKind::ClassField { name, why, at });
        }
    }

    /// What `InitVar` fields pass on must be what `__post_init__` takes, by place (`dataclasses`, "Init-only variables").
    fn check_post_init(&mut self, class: ClassRef) {
        let db = self.db;
        let name = db.names().intern("__post_init__");
        let Some(member) = members::own_member(db, class.file, class.class, name) else { return };
        let Type::Function(id) = member.ty else { return };
        let function = *db.store().function(id);
        let declared = crate::definitions::functions::declared(db, function.file, function.function);
        let index = self.index;
        let is_open = declared.params.iter().any(|param| matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs));
        if is_open || function.file != self.file || !index.functions[function.function].decorators.is_empty() {
            return;
        }
        let here = index.functions[function.function].name_range;
        let passed: Vec<dataclass::Field> =
            dataclass::all_fields(db, class).into_iter().filter(|field| field.is_passed_on).collect();
        let params = declared.params.get(1..).unwrap_or_default();
        for (place, field) in passed.iter().enumerate() {
            let why = match params.get(place) {
                None => BadField::NotPassed,
                Some(param) if !self.is_assignable(field.ty, param.ty) => BadField::PassedAs(field.ty, param.ty),
                Some(_) => continue,
            };
            let range = match field.class == class {
                true => index.range_of(field.at),
                false => here,
            };
            self.problem_at(
                range,
                None,
                ProblemKind::ClassField {
                    name: field.name,
                    why,
                    at: Some(Site::of_function(function.file, function.function)),
                },
            );
        }
        if let Some(asked) = params.get(passed.len()).filter(|param| !param.optional) {
            let kind = ProblemKind::ClassField { name: asked.name, why: BadField::Asked, at: None };
            self.problem_at(here, None, kind);
        }
    }

    /// Whether a default is a container that all instances would share.
    fn is_shared(&self, value: ExprId) -> bool {
        match &self.index.exprs[value] {
            Expr::List(_) | Expr::Dict(_) | Expr::Set(_) => true,
            Expr::Call { callee, args } => {
                args.is_empty()
                    && matches!(self.index.exprs[*callee], Expr::Name(name, _)
                        if matches!(self.text(name), "list" | "dict" | "set"))
            }
            _ => false,
        }
    }
}

/// The names of a class's body, in the order of the text.
pub(crate) fn own_names(index: &ModuleIndex, class: ClassId) -> Vec<(DefId, Name)> {
    let symbols = &index.scopes[index.classes[class].scope].symbols;
    let mut names: Vec<(DefId, Name)> =
        symbols.iter().filter_map(|(name, symbol)| Some((*symbol.defs.first()?, *name))).collect();
    names.sort_unstable_by_key(|(def, _)| *def);
    names
}

/// The `@final` among the decorators of a function or class.
fn final_mark(db: &dyn Db, decorators: &[Decorator], file: File, at: Anchor) -> Option<Site> {
    let place = decorators.iter().position(|decorator| decorator.bare == Some(known::FINAL_MARK))?;
    Some(Site { file, at: decorator_at(db, file, at, place)? })
}
