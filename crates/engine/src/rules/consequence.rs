//! What happens when the code runs that a problem is about, in its own names (language reference, "Exceptions"). Errors are told in the
//! interpreter's words where these are the same in all versions.

use leitmotiv_index::tree::{Expr, ExprId, Statement, StatementKind};
use leitmotiv_syntax::names::Name;

use super::{Context, Worded};
use crate::definitions::classes::{self, members};
use crate::outline::{class_name, module_index};
use crate::problems::{Access, Callee, Clash, Operator, Problem, ProblemKind, Reason};
use crate::types::union::{filter, parts};
use crate::types::{Literal, Type};

/// The longest line of code that is repeated, in characters.
const LONGEST: usize = 60;

impl Context<'_, '_> {
    /// What happens at run time; `None` where no more can be said than on the rule's page.
    pub(super) fn consequence(&self, problem: &Problem, worded: &Worded) -> Option<String> {
        let line = self.line_of(problem.range);
        let text = |name: Name| self.db().names().text(name);
        let raises = |error: &str| Some(format!("Line {line} raises {error}."));
        match &problem.kind {
            ProblemKind::NoneMember { name, .. } => self.of_none(
                problem,
                worded,
                line,
                &format!("AttributeError: 'NoneType' object has no attribute '{}'", text(*name)),
            ),
            ProblemKind::NoneIndex { .. } => {
                let is_target = |statement: &Statement| match &statement.kind {
                    StatementKind::Assign { targets, .. } => problem.expr.is_some_and(|expr| targets.contains(&expr)),
                    _ => false,
                };
                let statements = &self.infer.index.bodies[self.infer.body].statements;
                let what = match statements.iter().any(is_target) {
                    true => "does not support item assignment",
                    false => "is not subscriptable",
                };
                self.of_none(problem, worded, line, &format!("TypeError: 'NoneType' object {what}"))
            }
            ProblemKind::NoneCall { .. } => {
                self.of_none(problem, worded, line, "TypeError: 'NoneType' object is not callable")
            }
            ProblemKind::NoneIteration { .. } => {
                self.of_none(problem, worded, line, "TypeError: 'NoneType' object is not iterable")
            }
            ProblemKind::NoneOperand { operator, .. } => {
                let what = format!("TypeError, as `{}` does not take None", operator.sign());
                self.of_none(problem, worded, line, &what)
            }
            ProblemKind::NoneArgument { callee, param, .. } => self.goes_on(callee, *param, "None"),
            ProblemKind::CallArgument { callee, param, given, .. } => {
                let value = self.value(problem.expr, *given);
                self.goes_on(callee, *param, &value)
            }
            ProblemKind::MemberAbsent { object, name, rest, .. } => {
                let name = text(*name);
                let error = match *object {
                    Type::Module(file) => {
                        format!("AttributeError: module '{}' has no attribute '{name}'", text(file.module(self.db())))
                    }
                    Type::Class(id) => {
                        let class = text(class_name(self.db(), self.db().store().instance(id).class));
                        format!("AttributeError: type object '{class}' has no attribute '{name}'")
                    }
                    object => format!("AttributeError: '{}' object has no attribute '{name}'", self.class_of(object)?),
                };
                match rest {
                    None => raises(&error),
                    Some(_) => {
                        let holder = self.named(self.object_of(problem.expr));
                        Some(format!("Where {holder} is {}, line {line} raises {error}.", self.quoted(*object)))
                    }
                }
            }
            ProblemKind::CallMissing { callee, params } => {
                let names: Vec<String> = params.iter().map(|name| format!("'{}'", text(*name))).collect();
                let count = params.len();
                let noun = if count == 1 { "argument" } else { "arguments" };
                let list = names.join(" and ");
                raises(&format!("TypeError: {}() missing {count} required {noun}: {list}", callee.shown))
            }
            ProblemKind::CallKeyword { callee, name, .. } => {
                raises(&format!("TypeError: {}() got an unexpected keyword argument '{}'", callee.shown, text(*name)))
            }
            ProblemKind::CallRepeated { callee, param } => {
                raises(&format!("TypeError: {}() got multiple values for argument '{}'", callee.shown, text(*param)))
            }
            ProblemKind::CallSurplus { callee, taken, given } => {
                let more = given - taken;
                let noun = if more == 1 { "argument" } else { "arguments" };
                raises(&format!("TypeError: `{}` gets {more} {noun} too many, and does not begin", callee.shown))
            }
            ProblemKind::OperatorUnsupported {
                operator: operator @ Operator::Binary(..),
                left,
                right: Some(right),
            } => {
                let (left, right) = (self.class_of(*left)?, self.class_of(*right)?);
                let sign = operator.sign();
                raises(&format!("TypeError, as `{sign}` does not go with '{left}' and '{right}'"))
            }
            ProblemKind::NameUndefined { name, .. } => {
                raises(&format!("NameError: name '{}' is not defined", text(*name)))
            }
            ProblemKind::NameUnbound { name, always } => {
                let error = match self.infer.index.bodies[self.infer.body].function {
                    Some(_) => format!("UnboundLocalError: '{}' has no value yet", text(*name)),
                    None => format!("NameError: name '{}' is not defined", text(*name)),
                };
                if *always {
                    return raises(&error);
                }
                let bound = worded.evidence.first().filter(|step| step.file == self.infer.file)?;
                Some(format!("Where line {} is not reached, line {line} raises {error}.", self.line_of(bound.range)))
            }
            ProblemKind::ImportUnresolved { module, .. } => {
                raises(&format!("ModuleNotFoundError: No module named '{}'", text(*module)))
            }
            ProblemKind::ImportName { module, name, .. } => {
                raises(&format!("ImportError: cannot import name '{}' from '{}'", text(*name), text(*module)))
            }
            ProblemKind::CallNotCallable { object } => {
                raises(&format!("TypeError: '{}' object is not callable", self.class_of(*object)?))
            }
            ProblemKind::IndexUnsupported { object, access } => {
                let what = match access {
                    Access::Read => "is not subscriptable",
                    Access::Write => "does not support item assignment",
                    Access::Delete => "does not support item deletion",
                };
                raises(&format!("TypeError: '{}' object {what}", self.class_of(*object)?))
            }
            ProblemKind::CallUnawaited { .. } => Some(format!(
                "{} does not run: line {line} only makes a coroutine, and the interpreter warns that it was never awaited.",
                self.named(problem.expr)
            )),
            ProblemKind::ValueReturn { given, function, .. } => {
                let shown = crate::definitions::functions::shown(self.db(), self.infer.file, *function);
                let value = self.value(problem.expr, *given);
                Some(format!(
                    "Nothing fails at this line: who calls `{shown}` gets {value} and relies on what is declared."
                ))
            }
            ProblemKind::ValueAssign { given, name, .. } => {
                let value = self.value(problem.expr, *given);
                let target = if text(*name).is_empty() { "it".to_owned() } else { format!("`{}`", text(*name)) };
                Some(format!(
                    "Nothing fails at this line: who reads {target} gets {value} and relies on what is declared."
                ))
            }
            ProblemKind::ClassOverride { own, hidden: Some(hidden), why } => self.stands_in(own, &hidden.shown, why),
            ProblemKind::Explained { reason: Reason::Invariant { have, want, .. }, .. } => {
                self.put_in(problem.expr, *have, *want)
            }
            ProblemKind::Explained { inner: kind, .. } | ProblemKind::Correlated { kind, .. } => {
                self.consequence(&Problem { kind: (**kind).clone(), ..problem.clone() }, worded)
            }
            _ => None,
        }
    }

    /// What happens where something is None, and how it comes to be.
    fn of_none(&self, problem: &Problem, worded: &Worded, line: u32, error: &str) -> Option<String> {
        let holder = match &problem.kind {
            ProblemKind::NoneOperand { holder, .. } => Some(*holder),
            ProblemKind::NoneMember { .. } | ProblemKind::NoneIndex { .. } => self.object_of(problem.expr),
            _ => problem.expr,
        };
        let last = worded.evidence.iter().rfind(|step| !step.asks);
        let made = last
            .filter(|step| step.kind == "assigned" && step.file == self.infer.file)
            .map(|step| crate::findings::source::line_of(self.db(), step.file, step.range));
        let is_short = |code: &String| code.chars().count() <= LONGEST && !code.contains('…') && code.contains('(');
        Some(match made.filter(is_short) {
            Some(code) => format!("With `{code}` giving None, line {line} raises {error}."),
            None => format!("Where {} is None, line {line} raises {error}.", self.named(holder)),
        })
    }

    /// A value in words: as it is written where that says it, else its type.
    fn value(&self, expr: Option<ExprId>, ty: Type) -> String {
        if ty == Type::None {
            return "None".to_owned();
        }
        if let Type::Literal(id) = ty
            && !matches!(self.db().store().literal(id), Literal::Enum(..))
            && let Some(expr) = expr
        {
            let text = self.expr_text(expr);
            if text.chars().count() <= 20 {
                return format!("`{text}`");
            }
        }
        self.quoted(ty)
    }

    /// The function that is called goes on with what it was not written for, until it does something with it.
    fn goes_on(&self, callee: &Callee, param: Name, value: &str) -> Option<String> {
        let site = callee.param.filter(|site| site.file.origin(self.db()).is_own())?;
        let db = self.db();
        let index = module_index(db, site.file);
        let at = site.range(db).start();
        let function = index.functions_around.of(at).next()?;
        let record = &index.functions[function];
        let name = db.names().text(param);
        let reads = |expr: ExprId| matches!(index.exprs[expr], Expr::Name(own, _) if own == param);
        // The first place that needs it to be of its type.
        let used = index.bodies[record.body].exprs.clone().map(ExprId).find(|expr| match &index.exprs[*expr] {
            Expr::Attribute { value, .. } | Expr::Subscript { value, .. } => reads(*value),
            Expr::Binary { left, right, .. } => reads(*left) || reads(*right),
            Expr::Call { callee, .. } => reads(*callee),
            _ => false,
        });
        let goes_on = format!("`{}` goes on with {value} for `{name}`", callee.shown);
        let Some(used) = used else { return Some(format!("{goes_on}.")) };
        let code = crate::findings::source::excerpt(db, site.file, index.spans[used]);
        let line = index.lines.0.index_of(index.spans[used].start()) + 1;
        let place = match site.file == self.infer.file {
            true => format!("line {line}"),
            false => format!("{}:{line}", site.file.path(db)),
        };
        Some(format!("{goes_on}, and does `{code}` with it ({place})."))
    }

    /// The name of the class of an object.
    fn class_of(&self, ty: Type) -> Option<String> {
        let id = self.infer.nominal(self.infer.widen(ty))?;
        Some(self.db().names().text(class_name(self.db(), self.db().store().instance(id).class)).to_owned())
    }

    /// What a call that is written for the base does with the method that stands in.
    fn stands_in(&self, own: &str, base: &str, why: &Clash) -> Option<String> {
        let text = |name: Name| self.db().names().text(name);
        let (class, method) = own.rsplit_once('.')?;
        let (base_class, _) = base.rsplit_once('.')?;
        let calls = |arguments: &str, error: &str| {
            Some(format!(
                "Code that has a `{base_class}` may call `.{method}({arguments})`; where that is a `{class}`, the call raises TypeError: {error}."
            ))
        };
        match why {
            Clash::Lacks(name) => {
                let name = text(*name);
                calls(&format!("{name}=…"), &format!("{method}() got an unexpected keyword argument '{name}'"))
            }
            Clash::Asks(name) => calls(
                "…",
                &format!("{method}() missing 1 required argument: '{}', which is not given there", text(*name)),
            ),
            Clash::Renames(name, _) => {
                let name = text(*name);
                calls(&format!("{name}=…"), &format!("{method}() got an unexpected keyword argument '{name}'"))
            }
            Clash::Count { taken, given } => Some(format!(
                "Code that has a `{base_class}` may call `.{method}` with {given} arguments; that of `{class}` takes {taken}, and the call raises TypeError."
            )),
            Clash::Gives(theirs, mine) | Clash::Holds(theirs, mine) => {
                let (theirs, mine) = self.two(*theirs, *mine);
                Some(format!(
                    "Code that has a `{base_class}` relies on `.{method}` for {theirs}; where that is a `{class}`, it gets {mine}."
                ))
            }
            Clash::Takes(name, theirs, _) => {
                let name = text(*name);
                Some(format!(
                    "Code that has a `{base_class}` may pass any {} to `.{method}` as `{name}`; that of `{class}` was not written for it.",
                    self.quoted(*theirs)
                ))
            }
            _ => None,
        }
    }

    /// What may be put into a container through the name that asks for more, and what its owner then meets.
    fn put_in(&self, expr: Option<ExprId>, have: Type, want: Type) -> Option<String> {
        let db = self.db();
        let store = db.store();
        let more = filter(store, want, |part| !self.infer.is_assignable(part, have));
        let part = parts(store, &more).first().copied()?;
        let (part_shown, have_shown) = self.two(part, have);
        let holder = self.named(expr);
        let is_vowel = |char: char| "aeiouAEIOU".contains(char);
        let article = if part_shown.trim_matches('`').starts_with(is_vowel) { "an" } else { "a" };
        let put =
            format!("Nothing fails at this line. But who gets {holder} there may put {article} {part_shown} into it");
        // Something that can be done with what is held, and not with what is put in.
        let only = match (have, part) {
            (Type::Instance(have), Type::Instance(part)) => {
                let own = store.instance(have).class;
                let is_public = |name: &Name| !db.names().text(*name).starts_with('_');
                let names = classes::names::names(db, have).into_iter().filter(is_public);
                let is_of = |name: &Name| {
                    let of_have = members::find(db, have, *name, None);
                    of_have.is_some_and(|found| store.instance(found.owner).class == own)
                        && members::find(db, part, *name, None).is_none()
                };
                names.into_iter().find(is_of)
            }
            _ => None,
        };
        Some(match only {
            Some(name) => {
                let name = db.names().text(name);
                let class = self.class_of(part).unwrap_or_default();
                format!(
                    "{put}; who reads `.{name}` of its elements later, each a {have_shown} as it is declared, gets AttributeError: '{class}' object has no attribute '{name}'."
                )
            }
            None => format!("{put}, and who holds it finds that among what is declared to be {have_shown} only."),
        })
    }
}
