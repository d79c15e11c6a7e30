//! The way a type took to where it is, worked out only when someone asks: from an expression back through names, flow,
//! attributes and calls to where the type was made.

use leitmotiv_index::tree::{DefId, DefKind, Expr, ExprId, FunctionId, UnpackStep, Value, ValueId};
use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::known;

use crate::base::file::File;
use crate::context::TypeContext;
use crate::definitions::classes::members;
use crate::definitions::functions;
use crate::infer::Infer;
use crate::outline::module_index;
use crate::resolve::{Imported, import_target};
use crate::types::display::show;
use crate::types::union::{join, parts};
use crate::types::{FunctionRef, Type};

/// One place on a type's way.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Evidence {
    /// `declared`, `assigned`, `returned`, `imported`, `iterated`, `narrowed`, `passed`.
    pub kind: &'static str,
    /// The file.
    pub file: File,
    /// Where in there.
    pub range: TextRange,
    /// A few words.
    pub text: String,
    /// Whether it tells what is asked for, and not how what is given came to be.
    pub asks: bool,
    /// Other places of the same file that do the same: what is to be rid of it has to change these as well.
    pub also: Vec<TextRange>,
}

impl Evidence {
    /// A place with its words.
    #[must_use]
    pub fn new(kind: &'static str, file: File, range: TextRange, text: String) -> Evidence {
        Evidence { kind, file, range, text, asks: false, also: Vec::new() }
    }

    /// A place that asks for something, with its words.
    #[must_use]
    pub fn asking(file: File, range: TextRange, text: String) -> Evidence {
        Evidence { kind: "declared", file, range, text, asks: true, also: Vec::new() }
    }

    /// Where it is.
    #[must_use]
    pub fn place(&self) -> (File, TextRange) {
        (self.file, self.range)
    }
}

/// How far a way is followed.
const LONGEST: usize = 24;

/// How many values and expressions are looked at for one way.
const MOST_LOOKS: usize = 200;

/// Which part of a type the way is asked for: the places followed are those whose type holds it.
type Wanted<'a> = &'a mut dyn FnMut(&mut Infer<'_>, Type) -> bool;

/// The way to an expression, oldest place first. Places on the expression's own line that say nothing new are left out.
pub fn of(infer: &mut Infer<'_>, expr: ExprId, wanted: Wanted<'_>) -> Vec<Evidence> {
    let mut way = Vec::new();
    let checking = std::mem::replace(&mut infer.checking, false);
    let mut walk = Walk { way: &mut way, wanted, looks: 0 };
    walk.expr(infer, expr);
    infer.checking = checking;
    way.reverse();
    let own = infer.index.spans[expr];
    let file = infer.file;
    way.retain(|step: &Evidence| step.file != file || step.range != own);
    way.dedup_by(|one, other| one.file == other.file && one.range == other.range);
    way
}

struct Walk<'a, 'w> {
    way: &'a mut Vec<Evidence>,
    wanted: Wanted<'w>,
    /// How many values and expressions were looked at: loops and recursion lead back to where one was.
    looks: usize,
}

impl Walk<'_, '_> {
    fn full(&mut self) -> bool {
        self.looks += 1;
        self.way.len() >= LONGEST || self.looks > MOST_LOOKS
    }

    fn step(&mut self, kind: &'static str, file: File, range: TextRange, text: String) {
        self.way.push(Evidence::new(kind, file, range, text));
    }

    fn expr(&mut self, infer: &mut Infer<'_>, expr: ExprId) {
        if self.full() {
            return;
        }
        match &infer.index.exprs[expr] {
            Expr::Name(_, value) => self.value(infer, *value),
            Expr::Attribute { value, name, place } => match place.known() {
                Some(place) => self.value(infer, place),
                None => self.attribute(infer, *value, *name),
            },
            Expr::Subscript { place, .. } => {
                if let Some(place) = place.known() {
                    self.value(infer, place);
                }
            }
            Expr::Call { callee, .. } => {
                let callee = *callee;
                let ty = infer.expr(callee);
                self.call(infer, ty);
            }
            Expr::Await(inner) | Expr::Starred(inner) => self.expr(infer, *inner),
            Expr::BoolOp { operands, .. } => {
                for operand in operands.iter().copied() {
                    let ty = infer.expr(operand);
                    if (self.wanted)(infer, ty) {
                        self.expr(infer, operand);
                        return;
                    }
                }
            }
            Expr::Conditional { then, otherwise, .. } => {
                for branch in [*then, *otherwise] {
                    let ty = infer.expr(branch);
                    if (self.wanted)(infer, ty) {
                        let text = format!("{} on this branch", article(infer, ty));
                        self.step("assigned", infer.file, infer.index.spans[branch], text);
                        self.expr(infer, branch);
                        return;
                    }
                }
            }
            Expr::Named { value, .. } => self.expr(infer, *value),
            _ => {}
        }
    }

    /// What an attribute holds by itself.
    fn attribute(&mut self, infer: &mut Infer<'_>, value: ExprId, name: leitmotiv_syntax::names::Name) {
        let object = infer.expr(value);
        for part in parts(infer.db.store(), &object).to_vec() {
            match part {
                Type::Instance(id) | Type::Class(id) => {
                    let Some(found) = members::find(infer.db, id, name, None) else { continue };
                    self.member(infer, found);
                    return;
                }
                Type::Module(file) => {
                    self.module_name(infer, file, name);
                    return;
                }
                _ => {}
            }
        }
    }

    fn value(&mut self, infer: &mut Infer<'_>, value: ValueId) {
        if self.full() {
            return;
        }
        match infer.index.values[value] {
            Value::Def(def) => self.definition(infer, def),
            Value::Narrow { of, condition, positive, .. } => {
                // What a condition takes away, and leaves what is wanted, is told.
                let (before, after) = (infer.value(of), infer.value(value));
                if before != after && !after.is_dynamic() && !before.is_dynamic() {
                    let holds = if positive { "holds" } else { "does not hold" };
                    let text = format!("where this {holds}, {} is left", article(infer, after));
                    self.step("narrowed", infer.file, infer.index.spans[condition], text);
                }
                self.value(infer, of);
            }
            Value::Matched { of, .. } => self.value(infer, of),
            Value::Phi { start, len, .. } => self.joined(infer, start, len),
            Value::Global(name) => self.module_name(infer, infer.file, name),
            Value::Captured { body, value } => {
                let mut outer = Infer::new(infer.db, infer.file, body);
                self.value(&mut outer, value);
            }
            Value::Closure { scope, name } | Value::Deferred { scope, name } => {
                if let Some(symbol) = infer.index.scopes[scope].symbols.get(&name)
                    && let Some(def) = symbol.defs.first().copied()
                {
                    let mut outer = Infer::new(infer.db, infer.file, infer.index.defs[def].body);
                    self.definition(&mut outer, def);
                }
            }
            Value::Natural(expr) => {
                if let Expr::Attribute { value, name, .. } = infer.index.exprs[expr] {
                    self.attribute(infer, value, name);
                }
            }
            Value::Given(_) | Value::Written(_) | Value::Item { .. } | Value::Unbound => {}
        }
    }

    /// The way on which what is wanted comes to where several meet; what else comes there is told with it.
    fn joined(&mut self, infer: &mut Infer<'_>, start: u32, len: u32) {
        let mut others = Vec::new();
        let mut chosen = None;
        for (reach, arg) in infer.index.phi(start, len).to_vec() {
            if !infer.reachable(reach) {
                continue;
            }
            let ty = infer.value(arg);
            if ty == Type::Never {
                continue;
            }
            if chosen.is_none() && (self.wanted)(infer, ty) {
                chosen = Some(arg);
            } else if let Value::Def(def) = infer.index.values[infer.index.unnarrowed(arg)]
                && !matches!(infer.index.defs[def].kind, DefKind::Param { .. })
            {
                let line = infer.index.lines.0.index_of(infer.index.defs[def].range.start()) + 1;
                others.push((line, ty));
            }
        }
        let Some(arg) = chosen else { return };
        let place = self.way.len();
        self.value(infer, arg);
        if let (Some(step), Some((line, ty))) = (self.way.get_mut(place), others.first())
            && step.kind == "assigned"
            && step.file == infer.file
            && !step.text.contains(';')
        {
            let more = match others.len() {
                1 => String::new(),
                more => format!(", and {} more", more - 1),
            };
            step.text.push_str(&format!("; on another way line {line} gives it {}{more}", article(infer, *ty)));
        }
    }

    /// A part of a value that is unpacked: of a tuple as it is written, or as a function returns it.
    fn part(&mut self, infer: &mut Infer<'_>, value: ExprId, steps: &[UnpackStep]) {
        let [step, rest @ ..] = steps else { return self.expr(infer, value) };
        if self.full() || step.star.is_some() {
            return;
        }
        match &infer.index.exprs[value] {
            Expr::Tuple(parts) if parts.len() == step.count as usize => {
                let part = parts[step.index as usize];
                self.part(infer, part, rest);
            }
            Expr::Await(inner) => self.part(infer, *inner, steps),
            Expr::Name(_, name) => {
                if let Value::Def(def) = infer.index.values[infer.index.unnarrowed(*name)]
                    && let DefKind::Assign { value, unpack: None, comment: None } = infer.index.defs[def].kind
                    && infer.index.defs[def].body == infer.body
                {
                    self.part(infer, value, steps);
                }
            }
            Expr::Call { callee, .. } => {
                let callee = infer.expr(*callee);
                if let Some(function) = function_of(infer, callee) {
                    self.returned_part(infer, function, steps);
                }
            }
            _ => {}
        }
    }

    /// The `return` statement of a function whose part is wanted.
    fn returned_part(&mut self, infer: &mut Infer<'_>, function: FunctionRef, steps: &[UnpackStep]) {
        let db = infer.db;
        let index = module_index(db, function.file);
        let record = &index.functions[function.function];
        let body = &index.bodies[record.body];
        if record.returns.is_some() || !body.yields.is_empty() {
            return;
        }
        let mut there = Infer::new(db, function.file, record.body);
        for statement in &body.returns {
            let Some(value) = statement.value.filter(|_| there.reachable(statement.reach)) else { continue };
            let whole = there.expr(value);
            let ty = steps.iter().try_fold(whole, |ty, step| element(&there, ty, step));
            let Some(ty) = ty else { continue };
            if (self.wanted)(&mut there, ty) {
                let shown = functions::shown(db, function.file, function.function);
                let text = format!("`{shown}` returns {} among others here", article(&there, ty));
                self.step("returned", function.file, statement.range, text);
                self.part(&mut there, value, steps);
                return;
            }
        }
    }

    /// A name of a module, seen from anywhere: the definitions whose type is wanted.
    fn module_name(&mut self, infer: &mut Infer<'_>, file: File, name: leitmotiv_syntax::names::Name) {
        let index = module_index(infer.db, file);
        let Some(symbol) = index.scopes[leitmotiv_index::tree::ScopeId(0)].symbols.get(&name) else { return };
        for def in symbol.defs.iter().rev().chain(&symbol.foreign) {
            let mut there = Infer::new(infer.db, file, index.defs[*def].body);
            let ty = there.definition(*def);
            if (self.wanted)(&mut there, ty) {
                self.definition(&mut there, *def);
                return;
            }
        }
    }

    fn definition(&mut self, infer: &mut Infer<'_>, def: DefId) {
        if self.full() {
            return;
        }
        let record = &infer.index.defs[def];
        let (file, range) = (infer.file, record.range);
        let name = infer.db.names().text(record.name).to_owned();
        match record.kind.clone() {
            DefKind::Assign { value, unpack, comment } => {
                if let Some(comment) = comment {
                    let shown = show(infer.db, infer.annotation(comment));
                    self.step(
                        "declared",
                        file,
                        infer.index.spans[comment],
                        format!("`{name}` is declared as `{shown}`"),
                    );
                    return;
                }
                let ty = infer.definition(def);
                let words = match unpack {
                    Some(_) => format!("`{name}` is unpacked from here: {}", article(infer, ty)),
                    None => format!("`{name}` gets {}", article(infer, ty)),
                };
                self.step("assigned", file, range, words);
                match unpack {
                    None => self.expr(infer, value),
                    Some(steps) => self.part(infer, value, &steps),
                }
            }
            DefKind::Annotated { annotation, .. } => {
                let shown = infer.declared_annotation(annotation).map(|ty| show(infer.db, ty)).unwrap_or_default();
                self.step(
                    "declared",
                    file,
                    infer.index.spans[annotation],
                    format!("`{name}` is declared as `{shown}`"),
                );
            }
            DefKind::Augmented { .. } => {
                let ty = infer.definition(def);
                self.step("assigned", file, range, format!("`{name}` becomes {}", article(infer, ty)));
            }
            DefKind::Named { value } => {
                let ty = infer.expr(value);
                self.step("assigned", file, range, format!("`{name}` gets {}", article(infer, ty)));
                self.expr(infer, value);
            }
            DefKind::For { iterable, .. } => {
                let ty = infer.definition(def);
                self.step("iterated", file, range, format!("`{name}` takes each {}", bare(infer, ty)));
                self.expr(infer, iterable);
            }
            DefKind::With { manager, .. } => {
                let ty = infer.definition(def);
                self.step("assigned", file, range, format!("`{name}` is what is entered: {}", article(infer, ty)));
                self.expr(infer, manager);
            }
            DefKind::Except { .. } => {
                let ty = infer.definition(def);
                self.step("assigned", file, range, format!("`{name}` is the exception, {}", article(infer, ty)));
            }
            DefKind::Param { function, index } => {
                let param = &infer.index.functions[function].params[index as usize];
                if let Some(annotation) = param.annotation {
                    let shown = infer.expr_display(annotation);
                    let text = format!("`{name}` is declared as `{shown}`");
                    self.step("declared", file, infer.index.spans[annotation], text);
                } else if index == 0 && infer.index.functions[function].class.is_some() {
                    // `self` needs no explanation.
                } else {
                    self.step("declared", file, range, format!("`{name}` has no annotation"));
                }
            }
            DefKind::ImportFrom { module, level, name: imported, .. } => {
                if let Some(Imported::File(target)) = import_target(infer.db, file, module, level) {
                    self.step("imported", file, range, format!("`{name}` is imported"));
                    self.module_name(infer, target, imported);
                }
            }
            DefKind::Import { .. } | DefKind::Star { .. } => {
                self.step("imported", file, range, format!("`{name}` is imported"));
            }
            DefKind::Function(_) | DefKind::Class(_) => {
                self.step("declared", file, range, format!("`{name}` is defined here"));
            }
            DefKind::LambdaParam { .. }
            | DefKind::Capture { .. }
            | DefKind::TypeParam { .. }
            | DefKind::TypeAlias { .. } => {}
        }
    }

    /// An attribute: of all places that give it a value, the one whose type is wanted.
    fn member(&mut self, infer: &mut Infer<'_>, found: members::Found) {
        let db = infer.db;
        let class = db.store().instance(found.owner).class;
        let index = module_index(db, class.file);
        let record = &index.classes[class.class];
        let Some(at) = index.def_at(found.member.at) else { return };
        let name = index.defs[at].name;
        if let Type::Function(id) | Type::Property(id) = found.member.ty {
            let function = *db.store().function(id);
            self.returned(infer, function);
            return;
        }
        let in_class = index.scopes[record.scope].symbols.get(&name).into_iter().flat_map(|symbol| symbol.defs.clone());
        let in_methods = record.attributes.get(&name).into_iter().flatten().copied();
        let mut first = None;
        let mut others = Vec::new();
        for def in in_class.chain(in_methods) {
            let mut there = Infer::new(db, class.file, index.defs[def].body);
            let ty = there.definition(def);
            if (self.wanted)(&mut there, ty) {
                match first {
                    None => first = Some(def),
                    Some(_) => others.push(index.defs[def].range),
                }
            }
        }
        if let Some(def) = first {
            let place = self.way.len();
            self.definition(&mut Infer::new(db, class.file, index.defs[def].body), def);
            if let (Some(step), Some(other)) = (self.way.get_mut(place), others.first())
                && step.kind == "assigned"
            {
                let line = index.lines.0.index_of(other.start()) + 1;
                let more = match others.len() {
                    1 => String::new(),
                    more => format!(" and {} more", more - 1),
                };
                step.text.push_str(&format!("; so it does in line {line}{more}"));
                step.also = others;
            }
            return;
        }
        self.step("declared", class.file, index.defs[at].range, String::from("declared here"));
    }

    /// What a call gives: of one of several functions, the first that gives what is wanted.
    fn call(&mut self, infer: &mut Infer<'_>, callee: Type) {
        let before = self.way.len();
        for part in parts(infer.db.store(), &callee).to_vec() {
            if let Some(function) = function_of(infer, part) {
                self.returned(infer, function);
            }
            if self.way.len() > before {
                return;
            }
        }
    }

    /// What makes a function's result wanted: its annotation, one of its `return` statements, or its end.
    fn returned(&mut self, infer: &mut Infer<'_>, function: FunctionRef) {
        let db = infer.db;
        let index = module_index(db, function.file);
        let shown = functions::shown(db, function.file, function.function);
        for overload in crate::outline::function(db, function.file, function.function).signatures.iter() {
            let record = &index.functions[*overload];
            let Some(returns) = record.returns else { continue };
            let body = crate::outline::functions::enclosing_body(db, function.file, *overload);
            let mut there = Infer::new(db, function.file, body);
            let ty = there.annotation(returns);
            if (self.wanted)(&mut there, ty) {
                let text = format!("`{shown}` is declared to give `{}`", show(db, ty));
                self.step("declared", function.file, index.spans[returns], text);
                return;
            }
        }
        self.returned_from_body(infer, function.file, function.function, &shown);
    }

    fn returned_from_body(&mut self, infer: &mut Infer<'_>, file: File, function: FunctionId, shown: &str) {
        let db = infer.db;
        let index = module_index(db, file);
        let record = &index.functions[function];
        if record.returns.is_some() {
            return;
        }
        let body = &index.bodies[record.body];
        let mut there = Infer::new(db, file, record.body);
        for statement in &body.returns {
            if !there.reachable(statement.reach) {
                continue;
            }
            let ty = statement.value.map_or(Type::None, |value| there.expr(value));
            if (self.wanted)(&mut there, ty) {
                self.step("returned", file, statement.range, format!("`{shown}` returns {} here", article(&there, ty)));
                if let Some(value) = statement.value {
                    self.expr(&mut there, value);
                }
                return;
            }
        }
        if there.reachable(body.end) && (self.wanted)(&mut there, Type::None) {
            let text = format!("`{shown}` can end without a return, and so gives None");
            self.step("returned", file, record.name_range, text);
        }
    }
}

/// What a step of unpacking takes out of tuples; `None` where that cannot be told of all.
fn element(infer: &Infer<'_>, ty: Type, step: &UnpackStep) -> Option<Type> {
    let store = infer.db.store();
    let taken = parts(store, &ty).iter().map(|part| match part {
        Type::Tuple(id) => {
            let tuple = store.tuple(*id);
            let plain = tuple.rest.is_none() && tuple.suffix.is_empty() && step.star.is_none();
            tuple.prefix.get(step.index as usize).copied().filter(|_| plain)
        }
        _ => None,
    });
    Some(join(store, taken.collect::<Option<Vec<Type>>>()?))
}

/// The function that is called.
fn function_of(infer: &Infer<'_>, callee: Type) -> Option<FunctionRef> {
    let store = infer.db.store();
    match callee {
        Type::Function(id) => Some(*store.function(id)),
        Type::Method(id) => match store.method(id).function {
            Type::Function(id) => Some(*store.function(id)),
            _ => None,
        },
        _ => None,
    }
}

/// A type in a sentence.
fn article(infer: &Infer<'_>, ty: Type) -> String {
    match ty {
        Type::None => "None".into(),
        Type::Unknown(_) => "something unknown".into(),
        ty => match parts(infer.db.store(), &ty) {
            // Of many, one and the last, or None where that is among them: the way is about one of them.
            many if many.len() > 3 => {
                let last = if many.contains(&Type::None) { Type::None } else { many[many.len() - 1] };
                let first = many.iter().copied().find(|part| *part != last).unwrap_or(last);
                format!("`{} | … | {}`", show(infer.db, infer.widen(first)), show(infer.db, infer.widen(last)))
            }
            _ => format!("`{}`", show(infer.db, infer.widen(ty))),
        },
    }
}

fn bare(infer: &Infer<'_>, ty: Type) -> String {
    format!("`{}`", show(infer.db, ty))
}

impl TypeContext<'_> {
    /// Whether a type is, or has among its parts, just that part; for unions, any of their parts.
    pub fn holds_part(&self, ty: Type, part: Type) -> bool {
        let store = self.db.store();
        let wanted = parts(store, &part);
        parts(store, &ty).iter().any(|own| {
            wanted.contains(own)
                || wanted.iter().any(|wanted| self.literal_fallback(*own) == self.literal_fallback(*wanted))
        })
    }
}

impl Infer<'_> {
    /// An annotation as it is written, or as it is understood where that is long.
    pub fn expr_display(&self, expr: ExprId) -> String {
        crate::findings::source::excerpt(self.db, self.file, self.index.spans[expr])
    }
}

/// Where a cause of something unknown lies, in words.
#[must_use]
pub fn cause_words(db: &dyn crate::base::db::Db, cause: crate::types::CauseId) -> String {
    let cause = db.store().cause(cause);
    let name = db.names().text(cause.name);
    if cause.name == known::EMPTY || name.is_empty() {
        return cause.kind.words().to_owned();
    }
    format!("{} (`{name}`)", cause.kind.words())
}
