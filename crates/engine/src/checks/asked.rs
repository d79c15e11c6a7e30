//! What is only wrong where a demand asks for more: it is noted everywhere, and told where somebody asks.

use leitmotiv_index::tree::{BinaryOp, ClassId, DefId, DefKind, Expr, ExprId, FunctionId, StatementKind};
use leitmotiv_syntax::names::{Name, known};
use rustc_hash::FxHashMap;

use crate::definitions::classes::{self, members};
use crate::infer::Infer;
use crate::outline::FunctionOutline;
use crate::problems::{Problem, ProblemKind};
use crate::resolve::{instance_of, is_builtin};
use crate::types::{Binding, CauseId, ClassRef, FunctionRef, Type};

/// Methods that run before an object is given to anybody.
const CONSTRUCTORS: [&str; 3] = ["__init__", "__new__", "__post_init__"];

/// Methods by which test cases are set up before each test (`unittest`).
const SET_UPS: [&str; 3] = ["setUp", "setUpClass", "asyncSetUp"];

impl Infer<'_> {
    /// Notes what of a function is not annotated.
    pub(super) fn note_missing_annotations(&mut self, function: FunctionId) {
        let record = &self.index.functions[function];
        let implicit = record.class.is_some()
            && crate::outline::functions::binding(self.db, self.index, function) != Binding::Static
            || record.class.is_some() && record.name == known::NEW;
        let params: Vec<Name> = record
            .params
            .iter()
            .skip(usize::from(implicit))
            .filter(|param| param.annotation.is_none())
            .map(|param| param.name)
            .collect();
        let returns = record.returns.is_none() && record.name != known::INIT;
        // `__init__` without parameters has nothing to annotate but its result, which is always None.
        if !params.is_empty() || returns {
            self.problem_at(record.name_range, None, ProblemKind::AnnotationMissing { function, params, returns });
        }
    }

    /// Notes what is unknown in the body: for each reason the first expression, and how many there are. Values that nobody takes are left
    /// out.
    pub(super) fn note_unknown_values(&mut self) {
        let index = self.index;
        let store = self.db.store();
        let mut dropped: Vec<ExprId> = Vec::new();
        for statement in &index.bodies[self.body].statements {
            if let StatementKind::Expr(expr) = statement.kind {
                dropped.push(expr);
            }
        }
        dropped.sort_unstable();
        let mut found: FxHashMap<CauseId, (ExprId, usize)> = FxHashMap::default();
        // A part ends before the whole that is unknown by it, or with it; of those that end together the part has the smaller id.
        let place = |expr: ExprId| (index.spans[expr].end(), expr);
        for (expr, ty) in self.known_exprs() {
            let Some(cause) = crate::types::union::cause_in(store, ty) else { continue };
            if dropped.binary_search(&expr).is_ok() {
                continue;
            }
            let known = found.entry(cause).or_insert((expr, 0));
            known.1 += 1;
            if place(expr) < place(known.0) {
                known.0 = expr;
            }
        }
        let mut found: Vec<(CauseId, (ExprId, usize))> = found.into_iter().collect();
        found.sort_by_key(|(_, (expr, _))| *expr);
        for (cause, (expr, uses)) in found {
            self.problem_at(index.spans[expr], Some(expr), ProblemKind::UnknownValue { cause, uses });
        }
    }

    /// Notes what an alias with arguments leaves open: `Fares = dict[str, Any]`.
    pub(super) fn note_open_alias(&mut self, value: ExprId) {
        let head = match self.index.exprs[value] {
            Expr::Subscript { value: head, .. } => head,
            Expr::Binary { op: BinaryOp::BitOr, left, .. } => left,
            _ => return,
        };
        let is_type =
            matches!(self.index.exprs[head], Expr::Name(..) | Expr::Attribute { .. } | Expr::Subscript { .. })
                && matches!(self.quietly(head), Type::Class(_) | Type::Form(_) | Type::Special(_));
        if !is_type || !self.checking {
            return;
        }
        let before = self.problems.len();
        self.annotation(value);
        let noted = self.problems.split_off(before);
        let is_open = |problem: &Problem| matches!(problem.kind, ProblemKind::AnnotationAny | ProblemKind::GenericBare);
        self.problems.extend(noted.into_iter().filter(is_open));
    }

    /// Notes a call from annotated code of a function of the project that has no annotation at all.
    pub(crate) fn note_unannotated_callee(&mut self, callee: ExprId, ty: Type) {
        let own = self.index.bodies[self.body].function;
        if !self.checking || !own.is_some_and(|own| self.index.functions[own].is_annotated()) {
            return;
        }
        let store = self.db.store();
        let function = match ty {
            Type::Function(id) => *store.function(id),
            Type::Method(id) => match store.method(id).function {
                Type::Function(id) => *store.function(id),
                _ => return,
            },
            Type::Class(id) => {
                let Some(found) = members::find(self.db, id, known::INIT, None) else { return };
                let Type::Function(id) = found.member.ty else { return };
                *store.function(id)
            }
            _ => return,
        };
        let FunctionRef { file, function: id, .. } = function;
        if !file.origin(self.db).is_own() || file.is_stub(self.db) {
            return;
        }
        if is_bare(crate::outline::function(self.db, file, id)) {
            self.problem(callee, ProblemKind::CallUnannotated { function });
        }
    }

    /// Notes attributes that methods make, and neither the class nor its constructor.
    pub(super) fn note_late_attributes(&mut self, class: ClassId) {
        let index = self.index;
        let record = &index.classes[class];
        if record.attributes.is_empty() {
            return;
        }
        let db = self.db;
        let this = ClassRef { file: self.file, class };
        if classes::info(db, this).unknown_base.is_some() {
            return;
        }
        let outline = crate::outline::class(db, this);
        let mut late: Vec<(DefId, Name)> = Vec::new();
        for (name, defs) in &record.attributes {
            let is_in_time = |def: &DefId| {
                let method = index.bodies[index.defs[*def].body].function;
                method.is_some_and(|method| {
                    let method = self.text(index.functions[method].name);
                    CONSTRUCTORS.contains(&method) || SET_UPS.contains(&method)
                })
            };
            let is_declared = index.scopes[record.scope].symbols.contains_key(name) || outline.slots.may_have(*name);
            if !is_declared && !defs.iter().any(is_in_time) && !self.is_of_base(this, *name) {
                late.extend(defs.first().map(|def| (*def, *name)));
            }
        }
        late.sort_unstable_by_key(|(def, _)| *def);
        for (def, name) in late {
            // What is read back from the object's own dictionary is no attribute that is written here.
            if !matches!(index.defs[def].kind, DefKind::Import { .. }) {
                self.problem_at(index.defs[def].range, None, ProblemKind::AttributeLate { class, name });
            }
        }
    }

    /// Whether a base of a class has an attribute, wherever it gets it: there it is told.
    fn is_of_base(&self, class: ClassRef, name: Name) -> bool {
        members::find(self.db, instance_of(self.db, class, &[]), name, Some(class)).is_some()
    }

    /// Notes methods that stand in for one of a base, and do not say so.
    pub(super) fn note_unmarked_overrides(&mut self, class: ClassId) {
        let db = self.db;
        let index = self.index;
        let record = &index.classes[class];
        if record.args.is_empty() {
            return;
        }
        let this = ClassRef { file: self.file, class };
        let object = instance_of(db, this, &[]);
        let mut seen: Vec<Name> = Vec::new();
        for function in &record.methods {
            let name = index.functions[*function].name;
            let text = self.text(name);
            let is_private = text.starts_with("__") && !text.ends_with("__");
            let is_free = CONSTRUCTORS.contains(&text) || text == "__init_subclass__";
            if is_private || is_free || seen.contains(&name) {
                continue;
            }
            seen.push(name);
            // Of several signatures, or of a getter and its setter, one mark is enough.
            let mut all = record.methods.iter().filter(|other| index.functions[**other].name == name);
            let is_marked = all.any(|other| {
                let mut marks = index.functions[*other].decorators.iter();
                marks.any(|mark| index.decorator_name(*mark) == Some(known::OVERRIDE_MARK))
            });
            if is_marked {
                continue;
            }
            let Some(found) = members::find(db, object, name, Some(this)) else { continue };
            let owner = db.store().instance(found.owner).class;
            if is_builtin(db, owner, known::OBJECT) {
                continue;
            }
            let at = Infer::member_site(db, found);
            let range = index.functions[*function].name_range;
            self.problem_at(range, None, ProblemKind::OverrideUnmarked { function: *function, owner, at });
        }
    }
}

/// Whether a function has places for annotations, and not one annotation.
fn is_bare(function: &FunctionOutline) -> bool {
    if function.name == known::INIT && function.params.len() <= 1 {
        return false;
    }
    !function.is_annotated && function.params.iter().all(|param| !param.is_annotated)
}
