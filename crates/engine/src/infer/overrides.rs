//! Methods that stand in for those of bases (typing specification, "Class type assignability", after Liskov).

use leitmotiv_index::tree::{BodyShape, ClassId, FunctionId, ModuleIndex, ParamKind};
use leitmotiv_syntax::names::{Name, known};

use super::Infer;
use crate::classes::members;
use crate::functions::{self, Declared};
use crate::module::{instance_of, is_builtin, module_index};
use crate::problems::{Clash, ProblemKind};
use crate::types::{Binding, ClassRef, FunctionRef, SignatureParam, Type};

impl Infer<'_> {
    /// Compares a class's methods with those that they hide.
    pub(super) fn check_overrides(&mut self, class: ClassId) {
        let index = self.index;
        for function in &index.classes[class].methods {
            if let Some((base, why)) = self.clash(class, *function) {
                let range = index.functions[*function].name_range;
                self.problem_at(range, None, ProblemKind::ClassOverride { function: *function, base, why });
            }
        }
    }

    fn clash(&mut self, class: ClassId, function: FunctionId) -> Option<(FunctionRef, Clash)> {
        let db = self.db;
        let store = db.store();
        let record = &self.index.functions[function];
        let text = self.text(record.name);
        // Constructors may differ; names with two underscores are the class's own.
        if text.starts_with("__") && !text.ends_with("__")
            || matches!(record.name, known::INIT | known::NEW)
            || matches!(text, "__init_subclass__" | "__class_getitem__" | "__post_init__" | "__call__")
            || !keeps_signature(self.index, function)
        {
            return None;
        }
        let this = ClassRef { file: self.file, class };
        let found = members::find(db, instance_of(db, this, &[]), record.name, Some(this))?;
        let owner = store.instance(found.owner).class;
        let Type::Function(id) = found.member.ty else { return None };
        let base = *store.function(id);
        let is_plain = functions::overloads(db, base.file, base.function).len() == 1
            && functions::overloads(db, self.file, function).len() == 1
            && functions::binding(db, base.file, base.function) == functions::binding(db, self.file, function)
            && keeps_signature(module_index(db, base.file), base.function);
        if is_builtin(db, owner, known::OBJECT) || !is_plain {
            return None;
        }
        let own = functions::declared(db, self.file, function);
        let hidden = functions::declared(db, base.file, base.function);
        // What only stands for what subclasses are to write says nothing of its parameters where it is not annotated.
        let is_pattern = module_index(db, base.file).functions[base.function].shape != BodyShape::Code;
        if is_pattern && hidden.returns.is_none() {
            return None;
        }
        let skipped = usize::from(functions::binding(db, self.file, function) != Binding::Static);
        let why = self
            .parameters_clash(record.name, &own, &hidden, skipped)
            .or_else(|| self.results_clash(&own, &hidden, found.owner))?;
        Some((base, why))
    }

    fn parameters_clash(&self, name: Name, own: &Declared, hidden: &Declared, skipped: usize) -> Option<Clash> {
        let has = |declared: &Declared, kind: ParamKind| declared.params.iter().any(|param| param.kind == kind);
        // What takes anything may be meant to be narrowed.
        if has(hidden, ParamKind::VarArgs) || has(hidden, ParamKind::KwArgs) {
            return None;
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
            return Some(Clash::Lacks(lacking.name));
        }
        if let Some(asked) = mine.iter().skip(theirs.len()).find(|param| !param.optional) {
            return Some(Clash::Asks(asked.name));
        }
        for (mine, theirs) in mine.iter().zip(&theirs) {
            // What callers may pass by name must have that name (typing specification, "Callables: assignability").
            // Methods with names of their own, and private ones, are called by place.
            let is_called = !self.text(name).starts_with('_');
            let may_be_named = theirs.kind == ParamKind::Normal && !self.text(theirs.name).starts_with('_');
            if is_called
                && may_be_named
                && mine.name != theirs.name
                && are_annotated(own, hidden)
                && !has(own, ParamKind::KwArgs)
            {
                return Some(Clash::Renames(theirs.name, mine.name));
            }
            let are_said = !mine.ty.is_dynamic() && !theirs.ty.is_dynamic();
            if are_said
                && !self.has_variables(mine.ty)
                && !self.has_variables(theirs.ty)
                && !self.assignable(theirs.ty, mine.ty)
            {
                return Some(Clash::Takes(theirs.name, theirs.ty, mine.ty));
            }
        }
        let by_name = |declared: &Declared, name| {
            declared
                .params
                .iter()
                .any(|param| param.name == name && matches!(param.kind, ParamKind::KeywordOnly | ParamKind::Normal))
        };
        let lacking =
            hidden.params.iter().find(|param| param.kind == ParamKind::KeywordOnly && !by_name(own, param.name));
        if let Some(lacking) = lacking
            && !has(own, ParamKind::KwArgs)
        {
            return Some(Clash::Lacks(lacking.name));
        }
        let asked = own
            .params
            .iter()
            .find(|param| param.kind == ParamKind::KeywordOnly && !param.optional && !by_name(hidden, param.name))?;
        Some(Clash::Asks(asked.name))
    }

    fn results_clash(&self, own: &Declared, hidden: &Declared, owner: crate::types::InstanceId) -> Option<Clash> {
        let (gives, wanted) = (own.returns?, hidden.returns?);
        let wanted = crate::classes::class_arguments(self.db, owner).apply(self.db.store(), wanted);
        let are_open = self.has_variables(gives) || self.has_variables(wanted);
        (!are_open && !self.assignable(gives, wanted)).then_some(Clash::Gives(wanted, gives))
    }

    fn has_variables(&self, ty: Type) -> bool {
        crate::types::substitute::has_variables(self.db.store(), ty)
    }
}

/// Whether both functions are annotated: names of parameters are part of what was said then.
fn are_annotated(own: &Declared, hidden: &Declared) -> bool {
    own.returns.is_some() && hidden.returns.is_some()
}

/// Whether decorators leave a function's signature as it is written.
fn keeps_signature(index: &ModuleIndex, function: FunctionId) -> bool {
    index.functions[function].decorators.iter().all(|decorator| {
        matches!(
            index.decorator_name(*decorator),
            Some(
                known::ABSTRACTMETHOD
                    | known::OVERRIDE_MARK
                    | known::FINAL_MARK
                    | known::CLASSMETHOD
                    | known::STATICMETHOD
            )
        )
    })
}
