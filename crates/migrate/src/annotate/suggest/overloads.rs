//! Functions whose result depends on what is passed: what they give is worked out for each way of calling them.

use std::fmt::Write as _;
use std::sync::Arc;

use leitmotiv_engine::base::assumed::Assumed;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::infer::Infer;
use leitmotiv_engine::outline::{self, module_index};
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::types::{Literal, Type, union};
use leitmotiv_engine::view::given::{self, How};
use leitmotiv_engine::view::handled::{Parameter, Subject, UseKind};
use leitmotiv_index::tree::{
    BodyId, BodyShape, CompareOp, DefKind, Expr, ExprId, FunctionId, ModuleIndex, ParamKind, StatementKind, UnaryOp,
    Value,
};
use leitmotiv_syntax::TextRange;
use rustc_hash::FxHashMap;

use super::super::sources::traces::Pair;
use super::super::{Inquiry, is_test};
use super::{Facts, Kind, Suggestion, line, written};

/// A way of calling a function: what one of its parameters is then, and what it gives.
struct Way {
    /// As it is written for that parameter.
    text: String,
    gives: Type,
}

/// The suggestions.
pub(super) fn of(inquiry: &mut Inquiry) -> Vec<Suggestion> {
    let candidates = inquiry.facts().map(|facts| candidates(&facts)).unwrap_or_default();
    let mut found = Vec::new();
    for (parameter, cases) in candidates {
        let Some(facts) = inquiry.facts() else { break };
        let assumed = parameter.file.assumed(facts.db).clone().unwrap_or_default();
        let mut ways: Vec<Way> = Vec::new();
        for (ty, text) in cases {
            let mut case: Assumed = (*assumed).clone();
            case.parameters.insert((parameter.function, parameter.place), ty);
            case.results.remove(&parameter.function);
            inquiry.assume(parameter.file, Some(Arc::new(case)));
            let Some(facts) = inquiry.facts() else { break };
            let gives = given_for(&facts, parameter, ty);
            ways.push(Way { text, gives });
        }
        inquiry.assume(parameter.file, Some(assumed));
        let Some(facts) = inquiry.facts() else { break };
        found.extend(suggestion(&facts, parameter, &ways).map(|suggestion| (parameter, suggestion)));
    }
    // What runs have shown and cannot be worked out.
    if let Some(facts) = inquiry.facts() {
        for (parameter, pairs) in &facts.concluded.known.traces.follows {
            let is_of = |(known, _): &(Parameter, Suggestion)| {
                (known.file, known.function) == (parameter.file, parameter.function)
            };
            let is_asked = !is_test(parameter.file.path(facts.db)) && !found.iter().any(is_of);
            let ways = is_asked.then(|| recorded_ways(&facts, *parameter, pairs)).flatten();
            found.extend(ways.and_then(|ways| Some((*parameter, suggestion(&facts, *parameter, &ways)?))));
        }
    }
    found.into_iter().map(|(_, suggestion)| suggestion).collect()
}

/// The ways of calling a function that recorded runs have shown, those that give the same together.
fn recorded_ways(facts: &Facts<'_>, parameter: Parameter, pairs: &[Pair]) -> Option<Vec<Way>> {
    let db = facts.db;
    let mut results: Vec<Type> = Vec::new();
    for pair in pairs {
        if !results.contains(&pair.came) {
            results.push(pair.came);
        }
    }
    let is_literal = pairs.iter().all(|pair| pair.literal.is_some());
    results
        .into_iter()
        .map(|gives| {
            let own = || pairs.iter().filter(|pair| pair.came == gives);
            let text = match is_literal {
                true => {
                    let values: Vec<&str> = own().filter_map(|pair| pair.literal.as_deref()).collect();
                    format!("Literal[{}]", values.join(", "))
                }
                false => written(db, parameter.file, union::join(db.store(), own().map(|pair| pair.passed)))?,
            };
            Some(Way { text, gives })
        })
        .collect()
}

/// The parameters that a result may depend on, each with the cases of what is passed, and how these are written.
fn candidates(facts: &Facts<'_>) -> Vec<(Parameter, Vec<(Type, String)>)> {
    let db = facts.db;
    let store = db.store();
    let mut found = Vec::new();
    for file in facts.files.iter().copied().filter(|file| !is_test(file.path(db)) && !file.is_stub(db)) {
        let index = module_index(db, file);
        for (function, record) in index.functions.iter() {
            let is_plain = record.returns.is_none()
                && record.shape == BodyShape::Code
                && !record.is_async
                && index.bodies[record.body].yields.is_empty()
                && outline::function(db, file, function).signatures[..] == [function];
            if !is_plain || !gives_several(facts, file, function) {
                continue;
            }
            for (place, param) in record.params.iter().enumerate() {
                if param.annotation.is_some() || matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs) {
                    continue;
                }
                let parameter = Parameter { file, function, place: u32::try_from(place).unwrap_or(u32::MAX) };
                let uses = facts.concluded.known.uses.get(&Subject::Parameter(parameter)).into_iter().flatten();
                let is_asked = uses.clone().any(|(_, one)| {
                    matches!(one.kind, UseKind::Tested | UseKind::ComparedWithNone | UseKind::Classed { .. })
                });
                if !is_asked {
                    continue;
                }
                let default = param.default.map(|default| &index.exprs[default]);
                let cases: Vec<(Type, String)> = match default {
                    Some(Expr::Bool(_)) => [true, false]
                        .map(|value| {
                            let literal = Type::Literal(store.intern_literal(Literal::Bool(value)));
                            (literal, format!("Literal[{}]", if value { "True" } else { "False" }))
                        })
                        .into(),
                    _ => {
                        let passed = facts.concluded.known.passed.get(&parameter).into_iter().flatten();
                        let passed = || union::join(store, passed.map(|(.., one)| one.ty));
                        let ty = facts.parameter(parameter).unwrap_or_else(passed);
                        let left_out = if default == Some(&Expr::None) { Type::None } else { Type::Never };
                        let ty = union::join(store, [ty, left_out]);
                        let parts =
                            union::parts(store, &ty).iter().map(|part| Some((*part, written(db, file, *part)?)));
                        let Some(parts) = parts.collect::<Option<Vec<_>>>() else { continue };
                        parts
                    }
                };
                if (2..=3).contains(&cases.len()) {
                    found.push((parameter, cases));
                }
            }
        }
    }
    found
}

/// Whether a function gives things of several types, known or not, or None at times.
fn gives_several(facts: &Facts<'_>, file: File, function: FunctionId) -> bool {
    let ty = functions::return_type(facts.db, file, function);
    union::parts(facts.db.store(), &ty).len() > 1
}

/// What a function gives where a parameter is of a type, which is taken for granted: of its `return`s, those that the conditions on the parameter
/// leave open then.
fn given_for(facts: &Facts<'_>, parameter: Parameter, ty: Type) -> Type {
    let db = facts.db;
    let index = module_index(db, parameter.file);
    let record = &index.functions[parameter.function];
    let case = Case { facts, index, parameter, ty };
    let ways = given::of(db, parameter.file, parameter.function).iter().filter(|given| {
        let end = TextRange::empty(record.range.end());
        case.is_open(if given.how == How::Ends { end } else { given.range })
    });
    union::join(db.store(), ways.map(|given| given.ty))
}

/// A parameter that is of one type.
struct Case<'a> {
    facts: &'a Facts<'a>,
    index: &'a ModuleIndex,
    parameter: Parameter,
    ty: Type,
}

impl Case<'_> {
    /// Whether conditions on the parameter leave a place in its function open.
    fn is_open(&self, place: TextRange) -> bool {
        let body = self.index.functions[self.parameter.function].range;
        let own = self.index.clauses.iter().filter(|clause| body.contains_range(clause.body));
        own.clone().all(|clause| {
            let Some(outcome) = self.outcome(clause.test) else { return true };
            let is_there = clause.body.contains_range(place);
            if is_there {
                return outcome == clause.positive;
            }
            // Behind it, in the same statement or where it does not leave for elsewhere.
            let is_taken = outcome && clause.positive && clause.body.end() <= place.start();
            let is_sibling =
                own.clone().any(|other| other.statement == clause.statement && other.body.contains_range(place));
            let around = own.clone().filter(|other| other.body.contains(clause.statement));
            let is_led_to = clause.leaves && around.clone().all(|other| other.body.contains_range(place));
            !(is_taken && (is_sibling || is_led_to))
        })
    }

    /// How a condition comes out, if that is sure.
    fn outcome(&self, test: TextRange) -> Option<bool> {
        let body = &self.index.bodies[self.index.functions[self.parameter.function].body];
        let expr = body.statements.iter().find_map(|statement| match statement.kind {
            StatementKind::Test(expr) if self.index.spans[expr] == test => Some(expr),
            _ => None,
        });
        self.truth(expr?)
    }

    fn truth(&self, expr: ExprId) -> Option<bool> {
        match &self.index.exprs[expr] {
            Expr::Unary { op: UnaryOp::Not, operand } => self.truth(*operand).map(|truth| !truth),
            Expr::Name(..) if self.is_parameter(expr) => self.is_true(),
            Expr::Compare { left, rest } if self.is_parameter(*left) => {
                let [(op, right)] = rest.as_ref() else { return None };
                let is_none = self.index.exprs[*right] == Expr::None;
                let outcome = self.is_none().filter(|_| is_none)?;
                match op {
                    CompareOp::Is => Some(outcome),
                    CompareOp::IsNot => Some(!outcome),
                    _ => None,
                }
            }
            Expr::Call { args, .. } if args.first().is_some_and(|arg| self.is_parameter(arg.value)) => {
                let uses = &self.facts.concluded.known.uses;
                let asked =
                    uses.get(&Subject::Parameter(self.parameter))?.iter().find_map(|(_, one)| match one.kind {
                        UseKind::Classed { instance, .. }
                            if self.index.spans[expr].contains_range(one.range) && !one.on_element =>
                        {
                            Some(instance)
                        }
                        _ => None,
                    })?;
                let infer = Infer::new(self.facts.db, self.parameter.file, BodyId(0));
                if infer.is_assignable(asked, self.ty) {
                    return Some(true);
                }
                let parts = union::parts(self.facts.db.store(), &asked);
                (!parts.iter().any(|part| part.is_dynamic() || infer.is_assignable(self.ty, *part))).then_some(false)
            }
            _ => None,
        }
    }

    fn is_parameter(&self, expr: ExprId) -> bool {
        let Expr::Name(_, value) = self.index.exprs[expr] else { return false };
        let Value::Def(def) = self.index.values[self.index.unnarrowed(value)] else { return false };
        self.index.defs[def].kind == DefKind::Param { function: self.parameter.function, index: self.parameter.place }
    }

    fn is_true(&self) -> Option<bool> {
        match self.ty {
            Type::None => Some(false),
            Type::Literal(id) => match self.facts.db.store().literal(id) {
                Literal::Bool(value) => Some(*value),
                _ => None,
            },
            _ => None,
        }
    }

    fn is_none(&self) -> Option<bool> {
        match self.ty {
            Type::None => Some(true),
            ty if ty.is_dynamic() => None,
            _ => Some(false),
        }
    }
}

fn suggestion(facts: &Facts<'_>, parameter: Parameter, ways: &[Way]) -> Option<Suggestion> {
    let db = facts.db;
    let Parameter { file, function, place } = parameter;
    let all = functions::return_type(db, file, function);
    let is_open = |ty: Type| union::parts(db.store(), &ty).iter().any(|part| part.is_dynamic());
    // Each way must say more than the whole, and all must differ.
    let says_more = ways.iter().all(|way| way.gives != all && !is_open(way.gives));
    let differ = ways.iter().enumerate().all(|(at, way)| ways[..at].iter().all(|other| other.gives != way.gives));
    // One that gives what all of them give together says nothing.
    let together = union::join(db.store(), ways.iter().map(|way| way.gives));
    if ways.len() < 2 || !says_more || !differ || ways.iter().any(|way| way.gives == together) {
        return None;
    }
    let record = &module_index(db, file).functions[function];
    let name = db.names().text(record.name);
    let mut code = String::new();
    for way in ways {
        let params = signature(facts, parameter, &way.text)?;
        let gives = written(db, file, way.gives).filter(|text| !text.contains("NoReturn"))?;
        let _ = write!(code, "@overload\ndef {name}({params}) -> {gives}: ...\n");
    }
    let named = db.names().text(record.params[place as usize].name);
    let dotted = functions::qualified(db, file, Some(function));
    let cases: Vec<String> =
        ways.iter().map(|way| format!("{} for {}", show(db, way.gives), plain(&way.text))).collect();
    let words = format!("{dotted} gives {}, by what `{named}` is", cases.join(", "));
    let callers = facts.concluded.known.passed.get(&parameter).into_iter().flatten();
    let places = callers
        .map(|(from, _, one)| {
            let said = format!("{} is passed", leitmotiv_engine::findings::source::excerpt(db, *from, one.range));
            (from.path(db).to_owned(), line(db, *from, one.range.start()), said)
        })
        .collect();
    let (path, line) = (file.path(db).to_owned(), line(db, file, record.name_range.start()));
    Some(Suggestion { kind: Kind::Overloads, path, line, words, code, places })
}

/// `Literal[True]` as `True`.
fn plain(text: &str) -> &str {
    text.strip_prefix("Literal[").and_then(|text| text.strip_suffix(']')).unwrap_or(text)
}

/// The parameters of a function, one of them as it is in one way of calling it.
fn signature(facts: &Facts<'_>, parameter: Parameter, text: &str) -> Option<String> {
    let db = facts.db;
    let Parameter { file, function, place } = parameter;
    let index = module_index(db, file);
    let record = &index.functions[function];
    let default = record.params[place as usize].default.map(|default| &index.exprs[default]);
    // What is passed by default is left out in one of the cases alone.
    let is_default = match default {
        Some(Expr::Bool(value)) => text == if *value { "Literal[True]" } else { "Literal[False]" },
        Some(Expr::None) => text == "None",
        Some(Expr::Str(_)) if text.starts_with("Literal[") => {
            let span = index.spans[record.params[place as usize].default?];
            let value = file.text(db)[span].trim_matches(['"', '\'']);
            text.contains(&format!("{value:?}"))
        }
        Some(_) => true,
        None => false,
    };
    let outline = outline::function(db, file, function);
    let is_bound = record.class.is_some() && outline.binding != leitmotiv_engine::types::Binding::Static;
    let mut shown: Vec<String> = Vec::new();
    let mut by_keyword = false;
    let mut needs_star = false;
    let types: FxHashMap<usize, String> = (0..record.params.len())
        .filter_map(|at| {
            let parameter = Parameter { place: u32::try_from(at).ok()?, ..parameter };
            Some((at, written(db, file, facts.parameter(parameter)?)?))
        })
        .collect();
    for (at, param) in record.params.iter().enumerate() {
        let name = db.names().text(param.name);
        if at == 0 && is_bound {
            shown.push(name.to_owned());
            continue;
        }
        let star = match param.kind {
            ParamKind::VarArgs => "*",
            ParamKind::KwArgs => "**",
            _ => "",
        };
        by_keyword |= param.kind == ParamKind::VarArgs;
        if param.kind == ParamKind::KeywordOnly && !by_keyword {
            shown.push("*".to_owned());
            by_keyword = true;
        }
        let is_this = at == place as usize;
        let ty = if is_this { text } else { types.get(&at).map_or("Any", String::as_str) };
        let has_default = param.default.is_some() && (!is_this || is_default);
        // Without its default it cannot stand behind those that have one.
        if is_this && !has_default && !by_keyword && needs_star {
            shown.push("*".to_owned());
            by_keyword = true;
        }
        needs_star |= has_default;
        let end = if has_default { " = ..." } else { "" };
        shown.push(format!("{star}{name}: {ty}{end}"));
    }
    Some(shown.join(", "))
}
