//! Class definitions: bases, what is final, fields (typing specification, "Class type assignability", "Type qualifiers",
//! "Dataclasses").

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{ArgKind, ClassForm, ClassId, DefId, Expr, ModuleIndex};
use leitmotiv_syntax::names::{Name, known};

use crate::base::db::Db;
use crate::base::file::File;
use crate::definitions::classes::{self, ClassKind, members};
use crate::infer::Infer;
use crate::outline::Site;
use crate::outline::functions::Decorator;
use crate::outline::places::decorator_at;
use crate::problems::{BadBase, Ended, ProblemKind};
use crate::resolve::{instance_of, is_builtin};
use crate::types::{Binding, ClassRef, Type};

impl Infer<'_> {
    /// Looks at a class as a whole.
    pub(crate) fn check_class(&mut self, class: ClassId) {
        let this = ClassRef { file: self.file, class };
        if self.index.classes[class].form == ClassForm::Statement {
            self.check_bases(this);
        }
        if self.index.classes[class].form == ClassForm::NewType {
            self.check_new_type(class);
        }
        self.check_final_members(this);
        self.check_class_variables(this);
        self.check_fields(this);
        self.check_members(this);
        self.check_typed_dict(class);
        self.check_unset_finals(class);
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
                Type::Form(id) => match *store.single(id) {
                    inner if self.is_alias_name(arg.value) => {
                        self.problem(arg.value, ProblemKind::ClassBase { base: inner, why: BadBase::Alias });
                        told = true;
                        continue;
                    }
                    inner @ (Type::Union(_) | Type::Literal(_) | Type::None) => {
                        self.problem(arg.value, ProblemKind::ClassBase { base: inner, why: BadBase::NotClass });
                        told = true;
                        continue;
                    }
                    _ => None,
                },
                Type::Instance(id) if self.is_no_class(id, base) => Some(BadBase::NotClass),
                Type::Class(id) if self.is_new_type(id) => Some(BadBase::NewType),
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
                    } else if let Some(why) = self.goes_not_with(class, of) {
                        Some(why)
                    } else {
                        seen.push(of);
                        None
                    }
                }
                _ => None,
            };
            if let Some(why) = why {
                told = true;
                // It is the decorator that fails.
                let at = match (why, index.classes[class.class].decorators.first()) {
                    (BadBase::Frozen(_), Some(decorator)) => *decorator,
                    _ => arg.value,
                };
                self.problem(at, ProblemKind::ClassBase { base, why });
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

    /// Why a base does not go with what the class is.
    fn goes_not_with(&self, class: ClassRef, base: ClassRef) -> Option<BadBase> {
        let db = self.db;
        let (own, theirs) = (classes::info(db, class), classes::info(db, base));
        if own.kind == ClassKind::Protocol && theirs.kind != ClassKind::Protocol && theirs.unknown_base.is_none() {
            // Those of our stubs stand for protocols where the library has them.
            let is_general = is_builtin(db, base, known::OBJECT) || base.file.is_stub(db);
            return (!is_general).then_some(BadBase::NotProtocol);
        }
        let names_tuple = |arg: &leitmotiv_index::tree::Arg| {
            matches!(self.index.exprs[arg.value], Expr::Name(name, _) | Expr::Attribute { name, .. }
                if self.text(name) == "NamedTuple")
        };
        if own.kind == ClassKind::NamedTuple && self.index.classes[class.class].args.iter().any(names_tuple) {
            let is_itself = base.file.module(db) == known::TYPING;
            return (!is_itself).then_some(BadBase::Beside("named tuple"));
        }
        let frozen = |info: &classes::ClassInfo| {
            let options = info.dataclass.filter(|options| options.transform.is_none())?;
            Some(options.frozen)
        };
        if let (Some(mine), Some(theirs)) = (frozen(own), frozen(theirs))
            && mine != theirs
        {
            return Some(BadBase::Frozen(theirs));
        }
        let (mine, theirs) = (own.metaclass?, theirs.metaclass?);
        let goes = mine.file.is_stub(db)
            || theirs.file.is_stub(db)
            || classes::derives(db, mine, theirs) != Some(false)
            || classes::derives(db, theirs, mine) != Some(false);
        (!goes).then_some(BadBase::Metaclass)
    }

    /// Whether an object can stand for no class: what stands among bases may say so by `__mro_entries__`, or be made by a metaclass.
    fn is_no_class(&mut self, id: crate::types::InstanceId, ty: Type) -> bool {
        let class = self.db.store().instance(id).class;
        let info = classes::info(self.db, class);
        let entries = self.db.names().intern("__mro_entries__");
        info.unknown_base.is_none()
            && class.file.module(self.db) != known::TYPING
            && !classes::derives_builtin(self.db, class, known::TYPE)
            && !is_builtin(self.db, class, known::OBJECT)
            && members::find(self.db, id, entries, None).is_none()
            && self.member(ty, known::GETATTR).is_none()
    }

    /// Keywords of a class statement go to `__init_subclass__` of its bases (PEP 487).
    fn check_class_keywords(&mut self, class: ClassRef) {
        let db = self.db;
        let args = &self.index.classes[class.class].args;
        let info = classes::info(db, class);
        let Some(last) = args.last() else { return };
        // What only our stubs say a metaclass is takes none either.
        let has_metaclass = info.metaclass.is_some_and(|metaclass| !metaclass.file.is_stub(db))
            || args.iter().any(|arg| arg.kind == ArgKind::Keyword(known::METACLASS));
        let is_remade = classes::is_remade(db, class.file, class.class);
        let is_plain = info.kind == ClassKind::Plain && info.metaclass.is_none_or(|_| !has_metaclass);
        if !is_plain || has_metaclass || is_remade || info.unknown_base.is_some() {
            return;
        }
        let this = instance_of(db, class, &[]);
        let Some(found) = members::find(db, this, db.names().intern("__init_subclass__"), Some(class)) else { return };
        let Type::Function(_) = found.member.ty else { return };
        let has_keyword = args
            .iter()
            .any(|arg| !matches!(arg.kind, ArgKind::Positional | ArgKind::Star | ArgKind::Keyword(known::METACLASS)));
        if !has_keyword && is_builtin(db, db.store().instance(found.owner).class, known::OBJECT) {
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
