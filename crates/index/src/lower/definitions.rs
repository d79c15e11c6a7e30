//! Functions, classes, parameters and assignment targets.

use leitmotiv_syntax::ast::{self, Expr as Ast, Stmt};
use leitmotiv_syntax::names::{Name, known};
use leitmotiv_syntax::{Ranged, TextRange, TextSize};
use rustc_hash::FxHashMap;
use smallvec::SmallVec;

use super::{Captured, Lower, Waiting, docstring, empty_body};
use crate::bindings::Bindings;
use crate::flow::{Flow, Place};
use crate::tree::*;

/// What makes a definition's kind from the way into an unpacked value.
type MakeKind<'f, 'a> = dyn Fn(&Lower<'a>, Option<Box<[UnpackStep]>>) -> DefKind + 'f;

impl<'a> Lower<'a> {
    /// Binds a name here.
    pub(super) fn define(&mut self, name: Name, range: TextRange, kind: DefKind) -> DefId {
        let scope = self.binding_scope(name);
        let def = self.index.defs.push(Def { kind, name, range, body: self.body, scope, reach: self.flow.reach });
        let own = self.locals[scope.0 as usize].body == self.body;
        let symbol = self.index.scopes[scope].symbols.entry(name).or_default();
        if own {
            symbol.defs.push(def);
        } else {
            symbol.foreign.push(def);
        }
        let value = self.index.values.push(Value::Def(def));
        self.flow.set(Place::Name(scope, name), Some(value));
        def
    }

    /// Lowers an assignment target; `kind` makes the definition's kind from the way into the unpacked value.
    pub(super) fn target(
        &mut self,
        target: &'a Ast,
        steps: &mut SmallVec<[UnpackStep; 2]>,
        kind: &MakeKind<'_, 'a>,
    ) -> ExprId {
        let range = target.range();
        let way = |steps: &SmallVec<[UnpackStep; 2]>| (!steps.is_empty()).then(|| steps.to_vec().into_boxed_slice());
        match target {
            Ast::Name(name) => {
                let name = self.names.get(name.id.as_str());
                let kind = kind(self, way(steps));
                self.define(name, range, kind);
                let scope = self.binding_scope(name);
                let value = self.flow.get(Place::Name(scope, name)).unwrap_or(ValueId::UNBOUND);
                self.push(Expr::Name(name, value), range)
            }
            Ast::Attribute(attribute) => {
                let value = self.expr(&attribute.value);
                let name = self.names.get(attribute.attr.as_str());
                let id = self.push(Expr::Attribute { value, name, place: ValueId::NONE }, range);
                let kind = kind(self, way(steps));
                self.define_attribute(id, value, name, attribute.attr.range(), kind);
                id
            }
            Ast::Subscript(subscript) => {
                self.note_made_name(subscript);
                let value = self.namespace_item(subscript);
                let index = self.expr(&subscript.slice);
                let id = self.push(Expr::Subscript { value, index, place: ValueId::NONE }, range);
                self.note_rewritten(value, index);
                let kind = kind(self, way(steps));
                // Only where what is read back is what was written; the engine checks that for items.
                let written = match kind {
                    DefKind::Assign { value: assigned, unpack: None, .. } => {
                        let kind = match self.index.exprs[index] {
                            Expr::Slice(_) => FillKind::Slice,
                            _ => FillKind::Item { key: index },
                        };
                        self.fill(value, kind, assigned);
                        Some(self.index.values.push(Value::Written(assigned)))
                    }
                    _ => None,
                };
                self.write_item(id, written);
                id
            }
            Ast::Tuple(ast::ExprTuple { elts, .. }) | Ast::List(ast::ExprList { elts, .. }) => {
                let number = |value: usize| u32::try_from(value).unwrap_or(u32::MAX);
                let star = elts.iter().position(Ast::is_starred_expr).map(number);
                let mut parts = Vec::with_capacity(elts.len());
                for (index, element) in elts.iter().enumerate() {
                    steps.push(UnpackStep { index: number(index), count: number(elts.len()), star });
                    parts.push(self.target(element, steps, kind));
                    steps.pop();
                }
                self.push(Expr::Tuple(parts.into_boxed_slice()), range)
            }
            Ast::Starred(starred) => {
                let inner = self.target(&starred.value, steps, kind);
                self.push(Expr::Starred(inner), range)
            }
            other => {
                let inner = self.expr(other);
                debug_assert!(inner.0 < u32::MAX);
                self.push(Expr::Invalid, range)
            }
        }
    }

    /// What the flow knows once an item was written, or taken away: of the item, and of what `get` gives for its key.
    pub(super) fn write_item(&mut self, subscript: ExprId, written: Option<ValueId>) {
        let Expr::Subscript { value, index, .. } = self.index.exprs[subscript] else { return };
        let item = self.make_chain(subscript);
        let look_up = self.constant_step(index).and_then(|key| self.make_look_up(value, key));
        for chain in [item, look_up].into_iter().flatten() {
            self.flow.forget_below(chain);
            self.flow.forget_items_beside(chain);
            self.flow.set(Place::Chain(chain), written);
        }
    }

    /// `object.name = …`
    pub(super) fn define_attribute(
        &mut self,
        target: ExprId,
        object: ExprId,
        name: Name,
        range: TextRange,
        kind: DefKind,
    ) {
        let scope = self.scope();
        let def = self.index.defs.push(Def { kind, name, range, body: self.body, scope, reach: self.flow.reach });
        if let Expr::Name(holder, value) = self.index.exprs[object]
            && let Some((first, class, function)) = self.class_first_params.last().copied()
            && first == holder
            && matches!(self.index.values[self.index.unnarrowed(value)], Value::Def(def)
                if matches!(self.index.defs[def].kind, DefKind::Param { function: owner, index: 0 } if owner == function))
        {
            self.index.classes[class].attributes.entry(name).or_default().push(def);
        } else {
            self.note_patched(name, object);
        }
        if let Some(chain) = self.make_chain(target) {
            self.flow.forget_below(chain);
            let value = self.index.values.push(Value::Def(def));
            self.flow.set(Place::Chain(chain), Some(value));
        }
    }

    /// The defaults of parameters, which are evaluated outside of the function, in the order of [`list_params`].
    pub(super) fn defaults(&mut self, params: Option<&'a ast::Parameters>) -> Vec<Option<ExprId>> {
        let Some(params) = params else { return Vec::new() };
        list_params(params).into_iter().map(|listed| listed.default.map(|default| self.expr(default))).collect()
    }

    /// Defines parameters in the current scope. `defaults` and `annotations` are in the order of [`list_params`].
    pub(super) fn params(
        &mut self,
        params: Option<&'a ast::Parameters>,
        defaults: &[Option<ExprId>],
        annotations: &[Option<ExprId>],
        kind: impl Fn(u32) -> DefKind,
    ) -> Box<[Param]> {
        let Some(params) = params else { return Box::new([]) };
        let mut lowered: Vec<Param> = Vec::new();
        for Listed { param, kind: param_kind, .. } in list_params(params) {
            let index = lowered.len();
            let name = self.names.get(param.name.as_str());
            let def = self.define(name, param.name.range(), kind(u32::try_from(index).unwrap_or(u32::MAX)));
            lowered.push(Param {
                name,
                name_range: param.name.range(),
                kind: param_kind,
                annotation: annotations.get(index).copied().flatten(),
                default: defaults.get(index).copied().flatten(),
                def,
            });
        }
        lowered.into_boxed_slice()
    }

    fn type_params(&mut self, params: Option<&'a ast::TypeParams>) -> (Option<ScopeId>, Vec<DefId>) {
        let Some(params) = params else { return (None, Vec::new()) };
        let mut bindings = Bindings::default();
        for param in params.iter() {
            bindings.insert(self.names.get(param.name().as_str()), param.range());
        }
        let scope = self.open_scope(ScopeKind::TypeParameters, Some(self.scope()), bindings);
        self.scopes.push(scope);
        let mut defs = Vec::new();
        let before = std::mem::replace(&mut self.postponed, true);
        for param in params.iter() {
            let name = self.names.get(param.name().as_str());
            let (kind, bound, default) = match param {
                ast::TypeParam::TypeVar(var) => (TypeParamKind::TypeVar, var.bound.as_deref(), var.default.as_deref()),
                ast::TypeParam::TypeVarTuple(var) => (TypeParamKind::TypeVarTuple, None, var.default.as_deref()),
                ast::TypeParam::ParamSpec(var) => (TypeParamKind::ParamSpec, None, var.default.as_deref()),
            };
            let bound = bound.map(|bound| self.annotation(bound));
            let default = default.map(|default| self.annotation(default));
            defs.push(self.define(name, param.name().range(), DefKind::TypeParam { kind, bound, default }));
        }
        self.postponed = before;
        self.record_exits(scope);
        (Some(scope), defs)
    }

    pub(super) fn function(&mut self, statement: &'a ast::StmtFunctionDef) {
        let parent = self.scope();
        let class = match self.index.scopes[parent].kind {
            ScopeKind::Class(class) => Some(class),
            _ => None,
        };
        let decorators = statement.decorator_list.iter().map(|decorator| self.expr(&decorator.expression)).collect();
        let defaults = self.defaults(Some(&statement.parameters));
        let (type_scope, type_params) = self.type_params(statement.type_params.as_deref());
        let name = self.names.get(statement.name.as_str());
        let before = self.defining.replace(name);
        let annotations: Vec<Option<ExprId>> = list_params(&statement.parameters)
            .iter()
            .map(|listed| listed.param.annotation.as_ref().map(|annotation| self.annotation(annotation)))
            .collect();
        let mut returns = statement.returns.as_ref().map(|returns| self.annotation(returns));
        let mut annotations = annotations;
        if !self.type_comments.is_empty() {
            self.parameter_comments(statement, &mut annotations);
            if returns.is_none() {
                self.signature_comment(statement, &mut annotations, &mut returns);
            }
        }
        self.defining = before;
        if type_scope.is_some() {
            self.scopes.pop();
        }
        let function = self.function_key(parent, statement.name.as_str());
        let body = self.index.bodies.push(empty_body(Some(function)));
        let def_start = match statement.decorator_list.last() {
            Some(last) => {
                let text = &self.text[usize::from(last.range().end())..];
                let keyword = if statement.is_async { "async" } else { "def" };
                let skip = text.find(keyword).unwrap_or(0);
                last.range().end() + TextSize::try_from(skip).unwrap_or_default()
            }
            None => statement.range().start(),
        };
        let parent_params = type_params.clone();
        let record = Function {
            name,
            name_range: statement.name.range(),
            range: statement.range(),
            def_start,
            params_end: statement.parameters.range().end(),
            scope: ScopeId(0),
            parent: type_scope.unwrap_or(parent),
            class,
            params: defaults_only(&defaults, &annotations),
            returns,
            decorators,
            is_async: statement.is_async,
            body,
            def: DefId(0),
            docstring: docstring(&statement.body),
            shape: body_shape(&statement.body),
            type_params: parent_params.into_boxed_slice(),
        };
        self.index.functions.push(function, record);
        if let Some(class) = class {
            self.index.classes[class].methods.push(function);
        }
        let range = super::header(def_start, statement.parameters.range().end());
        self.statement(StatementKind::Function(function), range);
        let def = self.define(name, statement.name.range(), DefKind::Function(function));
        self.index.functions[function].def = def;
        let mut captured: FxHashMap<(ScopeId, Name), Captured> = self.foreign.last().cloned().unwrap_or_default();
        for scope in &self.scopes {
            // What a class binds, its methods do not see (language reference, "Resolution of names").
            let is_class = matches!(self.index.scopes[*scope].kind, ScopeKind::Class(_));
            if *scope != ScopeId(0) && !is_class && self.locals[scope.0 as usize].body == self.body {
                for (name, value) in self.flow.names_of(*scope) {
                    let defs = self.index.defs.len();
                    captured.insert((*scope, name), Captured { body: self.body, value, defs });
                }
            }
        }
        let mut scopes = self.scopes.clone();
        scopes.extend(type_scope);
        self.queue.push(Waiting { function, statement, scopes, captured, type_params });
    }

    /// Lowers the body of a function whose surroundings are done.
    /// Names that a function says are not its own have what they have outside, until it binds them.
    fn outer_names(&mut self, scope: ScopeId) {
        let locals = &self.locals[scope.0 as usize];
        let mut names: Vec<Name> = locals.globals.iter().chain(&locals.nonlocals).copied().collect();
        names.sort_unstable();
        for name in names {
            let owner = self.binding_scope(name);
            if owner != scope {
                self.outer_value(owner, name);
            }
        }
    }

    pub(super) fn function_body(&mut self, waiting: Waiting<'a>) {
        let Waiting { function, statement, scopes, captured, type_params } = waiting;
        debug_assert_eq!(type_params.len(), self.index.functions[function].type_params.len());
        let record = &self.index.functions[function];
        let (body, class) = (record.body, record.class);
        let parent = record.parent;
        self.body = body;
        self.flow = Flow::new();
        self.chain_exprs.clear();
        self.scopes = scopes;
        self.foreign.push(captured);
        let mut bindings = Bindings::of(&statement.body, &mut self.names);
        for param in statement.parameters.iter() {
            bindings.insert(self.names.get(param.name().as_str()), param.range());
        }
        let scope = self.open_scope(ScopeKind::Function(function), Some(parent), bindings);
        self.scopes.push(scope);
        let start = self.body_start();
        let (defaults, annotations): (Vec<_>, Vec<_>) =
            self.index.functions[function].params.iter().map(|param| (param.default, param.annotation)).unzip();
        let params = self
            .params(Some(&statement.parameters), &defaults, &annotations, |index| DefKind::Param { function, index });
        let first = params.first().map(|param| param.name);
        self.index.functions[function].params = params;
        self.index.functions[function].scope = scope;
        let is_static = self.index.functions[function]
            .decorators
            .iter()
            .any(|decorator| matches!(self.index.exprs[*decorator], Expr::Name(known::STATICMETHOD, _)));
        let outer = std::mem::take(&mut self.class_first_params);
        if let (Some(class), Some(first), false) = (class, first, is_static) {
            self.class_first_params.push((first, class, function));
        }
        let loops = std::mem::take(&mut self.loops);
        self.outer_names(scope);
        self.block(&statement.body);
        if let (Some(class), Some(first)) = (class, first)
            && statement.name.as_str() == "__init__"
        {
            self.note_set_by_init(class, Place::Name(scope, first));
        }
        self.close_body(start);
        self.record_exits(scope);
        self.loops = loops;
        self.class_first_params = outer;
        self.foreign.pop();
    }

    pub(super) fn class(&mut self, statement: &'a ast::StmtClassDef) {
        let parent = self.scope();
        let decorators = statement.decorator_list.iter().map(|decorator| self.expr(&decorator.expression)).collect();
        let (type_scope, type_params) = self.type_params(statement.type_params.as_deref());
        let mut args = Vec::new();
        if let Some(arguments) = &statement.arguments {
            // Bases are types: quoted arguments are parsed. In stubs they may be defined later.
            for base in &arguments.args {
                let (kind, base) = match base {
                    Ast::Starred(starred) => (ArgKind::Star, &*starred.value),
                    base => (ArgKind::Positional, base),
                };
                let value = match base {
                    // `class Leg(namedtuple("Leg", "port tide"))`
                    Ast::Call(call) => match self.base_class(call) {
                        Some(value) => value,
                        None => self.annotation(base),
                    },
                    base => self.annotation(base),
                };
                args.push(Arg { kind, value });
            }
            for keyword in &arguments.keywords {
                let kind = match &keyword.arg {
                    Some(name) => ArgKind::Keyword(self.names.get(name.as_str())),
                    None => ArgKind::DoubleStar,
                };
                let value = self.expr(&keyword.value);
                args.push(Arg { kind, value });
            }
        }
        let bindings = Bindings::of(&statement.body, &mut self.names);
        let class = self.class_key(parent, statement.name.as_str());
        self.note_class_text(class, statement);
        let name = self.names.get(statement.name.as_str());
        let scope = self.open_scope(ScopeKind::Class(class), Some(self.scope()), bindings);
        let record = Class {
            name,
            name_range: statement.name.range(),
            range: statement.range(),
            scope,
            parent,
            body: self.body,
            args: args.into_boxed_slice(),
            decorators,
            def: DefId(0),
            docstring: docstring(&statement.body),
            attributes: FxHashMap::default(),
            methods: Vec::new(),
            type_params: type_params.into_boxed_slice(),
            set_by_init: rustc_hash::FxHashSet::default(),
            makes_attributes: false,
            rewrites: rustc_hash::FxHashSet::default(),
            form: ClassForm::Statement,
        };
        self.index.classes.push(class, record);
        let end =
            statement.arguments.as_ref().map_or(statement.name.range().end(), |arguments| arguments.range().end());
        self.statement(StatementKind::Class(class), super::header(statement.name.range().start(), end));
        self.scopes.push(scope);
        self.block(&statement.body);
        self.record_exits(scope);
        self.scopes.pop();
        if type_scope.is_some() {
            self.scopes.pop();
        }
        let def = self.define(name, statement.name.range(), DefKind::Class(class));
        self.index.classes[class].def = def;
    }

    pub(super) fn type_alias(&mut self, statement: &'a ast::StmtTypeAlias) {
        let Ast::Name(name) = &*statement.name else { return };
        let (type_scope, _) = self.type_params(statement.type_params.as_deref());
        let before = std::mem::replace(&mut self.postponed, true);
        let value = self.annotation(&statement.value);
        self.postponed = before;
        if type_scope.is_some() {
            self.scopes.pop();
        }
        let name_id = self.names.get(name.id.as_str());
        let def = self.define(name_id, name.range(), DefKind::TypeAlias { value });
        self.statement(StatementKind::TypeAlias(def), statement.range());
    }
}

/// A parameter of the parser's tree.
pub(super) struct Listed<'a> {
    pub(super) param: &'a ast::Parameter,
    pub(super) kind: ParamKind,
    pub(super) default: Option<&'a Ast>,
}

/// Parameters in the order of the text, with their kinds and defaults.
pub(super) fn list_params(params: &ast::Parameters) -> Vec<Listed<'_>> {
    let mut all = Vec::new();
    // PEP 484: leading parameters named `__x` are positional-only.
    let mut dunder = params.posonlyargs.is_empty();
    for param in &params.posonlyargs {
        let default = param.default.as_deref();
        all.push(Listed { param: &param.parameter, kind: ParamKind::PositionalOnly, default });
    }
    for (index, param) in params.args.iter().enumerate() {
        let name = param.parameter.name.as_str();
        let by_name = name.starts_with("__") && !name.ends_with("__");
        let kind = if dunder && by_name { ParamKind::PositionalOnly } else { ParamKind::Normal };
        dunder &= by_name || index == 0;
        all.push(Listed { param: &param.parameter, kind, default: param.default.as_deref() });
    }
    if let Some(param) = &params.vararg {
        all.push(Listed { param, kind: ParamKind::VarArgs, default: None });
    }
    for param in &params.kwonlyargs {
        let default = param.default.as_deref();
        all.push(Listed { param: &param.parameter, kind: ParamKind::KeywordOnly, default });
    }
    if let Some(param) = &params.kwarg {
        all.push(Listed { param, kind: ParamKind::KwArgs, default: None });
    }
    all
}

/// Keeps defaults and annotations until the body is lowered and the parameters are defined there.
fn defaults_only(defaults: &[Option<ExprId>], annotations: &[Option<ExprId>]) -> Box<[Param]> {
    annotations
        .iter()
        .zip(defaults)
        .map(|(annotation, default)| Param {
            name: known::EMPTY,
            name_range: TextRange::empty(TextSize::new(0)),
            kind: ParamKind::Normal,
            annotation: *annotation,
            default: *default,
            def: DefId(0),
        })
        .collect()
}

fn body_shape(body: &[Stmt]) -> BodyShape {
    let code = match body.first() {
        Some(Stmt::Expr(first)) if first.value.is_string_literal_expr() => &body[1..],
        _ => body,
    };
    match code {
        [] | [Stmt::Pass(_)] => BodyShape::Empty,
        [Stmt::Expr(statement)] if statement.value.is_ellipsis_literal_expr() => BodyShape::Empty,
        [Stmt::Return(statement)] if statement.value.as_deref().is_none_or(Ast::is_none_literal_expr) => {
            BodyShape::ReturnsNone
        }
        [Stmt::Raise(raise)] => {
            let raised = match raise.exc.as_deref() {
                Some(Ast::Call(call)) => &*call.func,
                Some(other) => other,
                None => return BodyShape::Code,
            };
            match raised {
                Ast::Name(name) if name.id.as_str() == "NotImplementedError" => BodyShape::NotImplemented,
                _ => BodyShape::Code,
            }
        }
        _ => BodyShape::Code,
    }
}
