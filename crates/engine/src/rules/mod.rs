//! Rules: from problems to findings.
//!
//! One file a rule: its page, its wording, its evidence, its remedies. [`ALL`] is the one list; tests hold it against the
//! folder, the pages against the engine, and every kind of problem against the rules that word it.

mod acts;
mod annotation_any;
mod annotation_form;
mod annotation_invalid;
mod annotation_missing;
mod annotation_place;
mod assert_never;
mod assert_type;
mod call_argument;
mod call_keyword;
mod call_missing;
mod call_not_callable;
mod call_overload;
mod call_repeated;
mod call_surplus;
mod call_unannotated;
mod call_unawaited;
mod class_abstract;
mod class_base;
mod class_field;
mod class_final;
mod class_late_attribute;
mod class_order;
mod class_overlap;
mod class_overloads;
mod class_override;
mod class_protocol;
mod class_special_result;
mod class_unmarked_override;
mod config_ledger;
mod consequence;
mod deprecated_use;
mod engine_fault;
mod flow_incomplete_match;
mod flow_missing_return;
mod flow_unreachable;
mod generic_arguments;
mod generic_bare;
mod generic_bound;
mod generic_definition;
mod generic_invariant;
mod generic_result;
mod generic_scope;
mod generic_variance;
mod import_shadowed;
mod import_unresolved;
mod import_untyped;
mod index_range;
mod index_unsupported;
mod member_absent;
mod member_readonly;
mod member_undeclared;
mod name_correlated;
mod name_maybe_unbound;
mod name_shadowed;
mod name_unbound;
mod name_undefined;
mod none_argument;
mod none_call;
mod none_correlated;
mod none_index;
mod none_iteration;
mod none_member;
mod none_operand;
mod of;
mod operator_condition;
mod operator_unsupported;
mod reveal_type;
mod suppression_blanket;
mod suppression_unreasoned;
mod suppression_unused;
mod syntax_error;
mod unknown_value;
mod value_assign;
mod value_default;
mod value_format;
mod value_item;
mod value_not_awaitable;
mod value_not_class;
mod value_not_context_manager;
mod value_not_exception;
mod value_not_iterable;
mod value_not_mapping;
mod value_return;
mod value_unhashable;
mod value_unpack;
mod value_yield;
mod ways;

#[cfg(test)]
mod tests;

use leitmotiv_index::tree::{Expr, ExprId};
use leitmotiv_project::settings::Severity;
use leitmotiv_syntax::TextRange;

use crate::base::db::Db;
use crate::base::file::File;
use crate::findings::act::Act;
use crate::findings::evidence::Evidence;
use crate::infer::Infer;
use crate::infer::typed_dict_displays::ItemFlaw;
use crate::outline::{Site, module_index};
use crate::problems::{Clash, Problem, ProblemKind, Reason};
use crate::types::Type;
use crate::types::display::{show, show_all};

pub use config_ledger::RULE as CONFIG_LEDGER;
pub use of::rule_of;

/// A rule.
pub struct Rule {
    /// `family.slug`
    pub slug: &'static str,
    /// One line, in plain words.
    pub summary: &'static str,
    /// The severity where nothing else is configured or demanded.
    pub severity: Severity,
    /// What `explain` shows.
    pub page: Page,
    /// Words a problem of this rule (see [`rule_of`]); `None` where there is nothing to tell in it.
    pub word: fn(&mut Context<'_, '_>, &Problem) -> Option<Worded>,
}

/// A rule's page.
pub struct Page {
    /// What a finding of the rule means.
    pub means: &'static str,
    /// Python text that gives just this rule.
    pub example: &'static str,
    /// What could go wrong at run time.
    pub at_run_time: &'static str,
    /// Ways out, each with its price.
    pub ways: &'static [Way],
}

/// A way out of a finding.
pub struct Way {
    /// A name for it.
    pub id: &'static str,
    /// What to do.
    pub title: &'static str,
    /// What it costs.
    pub price: &'static str,
    /// The example with this way taken; empty where it cannot be shown in one text.
    pub example: &'static str,
}

/// A finding's words.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Worded {
    /// What is wrong here.
    pub message: String,
    /// The way the type took, oldest first, the finding's own place left out.
    pub evidence: Vec<Evidence>,
    /// Ways out.
    pub remedies: Vec<Remedy>,
    /// What happens when this code runs, in its own names; `None` where no more can be said than on the rule's page.
    pub at_run_time: Option<String>,
}

/// One way out of one finding.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Remedy {
    /// The way's name, as on the rule's page.
    pub id: &'static str,
    /// What to do here.
    pub title: String,
    /// What it costs.
    pub price: &'static str,
    /// Whether the tool may apply it by itself.
    pub safe: bool,
    /// What it changes, where that can be told.
    pub act: Option<Act>,
}

/// All rules, sorted by slug.
pub static ALL: &[&Rule] = &[
    &annotation_any::RULE,
    &annotation_form::RULE,
    &annotation_invalid::RULE,
    &annotation_missing::RULE,
    &annotation_place::RULE,
    &assert_never::RULE,
    &assert_type::RULE,
    &call_argument::RULE,
    &call_keyword::RULE,
    &call_missing::RULE,
    &call_not_callable::RULE,
    &call_overload::RULE,
    &call_repeated::RULE,
    &call_surplus::RULE,
    &call_unannotated::RULE,
    &call_unawaited::RULE,
    &class_abstract::RULE,
    &class_base::RULE,
    &class_field::RULE,
    &class_final::RULE,
    &class_late_attribute::RULE,
    &class_order::RULE,
    &class_overlap::RULE,
    &class_overloads::RULE,
    &class_override::RULE,
    &class_protocol::RULE,
    &class_special_result::RULE,
    &class_unmarked_override::RULE,
    &config_ledger::RULE,
    &deprecated_use::RULE,
    &engine_fault::RULE,
    &flow_incomplete_match::RULE,
    &flow_missing_return::RULE,
    &flow_unreachable::RULE,
    &generic_arguments::RULE,
    &generic_bare::RULE,
    &generic_bound::RULE,
    &generic_definition::RULE,
    &generic_invariant::RULE,
    &generic_result::RULE,
    &generic_scope::RULE,
    &generic_variance::RULE,
    &import_shadowed::RULE,
    &import_unresolved::RULE,
    &import_untyped::RULE,
    &index_range::RULE,
    &index_unsupported::RULE,
    &member_absent::RULE,
    &member_readonly::RULE,
    &member_undeclared::RULE,
    &name_correlated::RULE,
    &name_maybe_unbound::RULE,
    &name_shadowed::RULE,
    &name_unbound::RULE,
    &name_undefined::RULE,
    &none_argument::RULE,
    &none_call::RULE,
    &none_correlated::RULE,
    &none_index::RULE,
    &none_iteration::RULE,
    &none_member::RULE,
    &none_operand::RULE,
    &operator_condition::RULE,
    &operator_unsupported::RULE,
    &reveal_type::RULE,
    &suppression_blanket::RULE,
    &suppression_unreasoned::RULE,
    &suppression_unused::RULE,
    &syntax_error::RULE,
    &unknown_value::RULE,
    &value_assign::RULE,
    &value_default::RULE,
    &value_format::RULE,
    &value_item::RULE,
    &value_not_awaitable::RULE,
    &value_not_class::RULE,
    &value_not_context_manager::RULE,
    &value_not_exception::RULE,
    &value_not_iterable::RULE,
    &value_not_mapping::RULE,
    &value_return::RULE,
    &value_unhashable::RULE,
    &value_unpack::RULE,
    &value_yield::RULE,
];

/// The rule of that slug.
#[must_use]
pub fn by_slug(slug: &str) -> Option<&'static Rule> {
    ALL.iter().copied().find(|rule| rule.slug == slug)
}

/// `docs/rules.md`: all rules with their pages.
#[must_use]
pub fn documentation() -> String {
    let mut all = String::from(
        "<!-- Made from the rules' pages in `crates/engine/src/rules`; a test writes it anew. -->\n\n# Rules\n\nWhat `leitmotiv explain RULE` \
         shows, of all rules. The severity is the one that holds where nothing else is configured or demanded.\n",
    );
    let mut family = "";
    for rule in ALL.iter() {
        let own = rule.slug.split('.').next().unwrap_or_default();
        if own != family {
            family = own;
            all.push_str(&format!("\n## {family}\n"));
        }
        all.push_str(&format!(
            "\n### `{}`\n\n{}. Severity: {}.\n\n",
            rule.slug,
            capital(rule.summary),
            rule.severity.name()
        ));
        all.push_str(&page(rule, 4));
    }
    all
}

/// A rule's page as Markdown, with headings of some depth.
#[must_use]
pub fn page(rule: &Rule, depth: usize) -> String {
    let heading = "#".repeat(depth);
    let code = |code: &str| format!("```python\n{}\n```\n", code.trim_end());
    let mut page = format!("{}\n", rule.page.means);
    if !rule.page.example.is_empty() {
        page.push_str(&format!("\n{}", code(rule.page.example)));
    }
    page.push_str(&format!("\n{heading} At run time\n\n{}\n", rule.page.at_run_time));
    if !rule.page.ways.is_empty() {
        page.push_str(&format!("\n{heading} Ways out\n"));
    }
    for way in rule.page.ways {
        page.push_str(&format!("\n- {}. Price: {}.\n", capital(way.title), way.price));
        if !way.example.is_empty() {
            let indented: String =
                code(way.example).lines().map(|line| format!("  {line}\n").replace("  \n", "\n")).collect();
            page.push_str(&format!("\n{indented}"));
        }
    }
    page
}

fn capital(text: &str) -> String {
    let mut letters = text.chars();
    letters.next().map_or(String::new(), |first| first.to_uppercase().chain(letters).collect())
}

/// Whether some rule has a way out of that name.
#[must_use]
pub fn has_way(id: &str) -> bool {
    ALL.iter().flat_map(|rule| rule.page.ways).any(|way| way.id == id)
}

/// Whether a pattern as in configuration (`call.argument`, `call.*`) names a rule or family that exists.
#[must_use]
pub fn exists(pattern: &str) -> bool {
    pattern == "*"
        || match pattern.strip_suffix(".*") {
            Some(family) => ALL.iter().any(|rule| rule.slug.split('.').next() == Some(family)),
            None => by_slug(pattern).is_some(),
        }
}

/// Whether a pattern as in configuration (`call.argument`, `call.*`, `*`) fits a rule.
#[must_use]
pub fn fits(pattern: &str, rule: &str) -> bool {
    pattern == rule
        || pattern == "*"
        || pattern.strip_suffix(".*").is_some_and(|family| rule.split('.').next() == Some(family))
}

/// A problem in the words of its rule; `None` where the rule finds nothing to tell in it.
pub fn word(context: &mut Context<'_, '_>, problem: &Problem) -> Option<(&'static Rule, Worded)> {
    let rule = rule_of(&problem.kind);
    let mut worded = (rule.word)(context, problem)?;
    context.sensible_ways(&problem.kind, &mut worded);
    context.acts(problem, &mut worded);
    worded.at_run_time = context.consequence(problem, &worded);
    Some((rule, worded))
}

/// What wording may look at.
pub struct Context<'a, 'db> {
    /// The walk that found the problem, for evidence.
    pub infer: &'a mut Infer<'db>,
}

/// A type of more characters than this is not shown beside what is wrong with a part of it.
const LONGEST_ASIDE: usize = 80;

impl<'db> Context<'_, 'db> {
    /// The database.
    #[must_use]
    pub fn db(&self) -> &'db dyn Db {
        self.infer.db
    }

    /// A type in backquotes.
    #[must_use]
    pub fn quoted(&self, ty: Type) -> String {
        format!("`{}`", show(self.infer.db, ty))
    }

    /// Two types of one message in backquotes.
    #[must_use]
    pub fn two(&self, one: Type, other: Type) -> (String, String) {
        let mut shown = show_all(self.infer.db, &[one, other]).into_iter().map(|shown| format!("`{shown}`"));
        (shown.next().unwrap_or_default(), shown.next().unwrap_or_default())
    }

    /// The words of the problem that a reason belongs to, as its own rule has them.
    pub fn inner_words(&mut self, problem: &Problem) -> Option<(Worded, Reason)> {
        let ProblemKind::Explained { inner, reason } = &problem.kind else { return None };
        let plain = Problem { kind: (**inner).clone(), ..problem.clone() };
        let worded = (rule_of(&plain.kind).word)(self, &plain)?;
        Some((worded, reason.clone()))
    }

    /// Why one member cannot stand for another, as words that follow "it" or a colon.
    #[must_use]
    pub fn clash_words(&self, clash: &Clash) -> String {
        let text = |name| self.db().names().text(name);
        match clash {
            Clash::Alone => "there is nothing that it could stand for".to_owned(),
            Clash::Kind(theirs, mine) => format!("it is {mine}, not {theirs}"),
            Clash::Signature(place) => format!("none of its signatures goes with signature {} there", place + 1),
            Clash::Lacks(name) => format!("it does not take `{}`", text(*name)),
            Clash::Renames(theirs, mine) => format!("it calls `{}` `{}`", text(*theirs), text(*mine)),
            Clash::Count { taken, given } => {
                let arguments = if *taken == 1 { "argument" } else { "arguments" };
                format!("it takes {taken} {arguments}, and gets {given}")
            }
            Clash::Asks(name) => format!("it asks for `{}`, which callers do not give", text(*name)),
            Clash::Takes(name, theirs, mine) => {
                let (theirs, mine) = self.two(*theirs, *mine);
                match text(*name) {
                    "" => format!("it takes {mine}, not {theirs}"),
                    name => format!("for `{name}` it takes {mine}, not {theirs}"),
                }
            }
            Clash::Gives(theirs, mine) => {
                let (theirs, mine) = self.two(*theirs, *mine);
                format!("it gives {mine}, not {theirs}")
            }
            Clash::Reads => "it can only be read, and may be assigned there".to_owned(),
            Clash::Within(theirs, mine) => {
                let (theirs, mine) = self.two(*theirs, *mine);
                format!("it holds {mine}, and any {theirs} may be assigned to it there")
            }
            Clash::Holds(theirs, mine) => {
                let (theirs, mine) = self.two(*theirs, *mine);
                format!("it holds {mine}, not {theirs}")
            }
        }
    }

    /// What keeps an expression from being of a type, where more can be said than that it is not: words to follow a message.
    pub fn because(&mut self, expr: Option<ExprId>, expected: Type) -> String {
        let Some(flaw) = expr.and_then(|expr| self.infer.flaw_of(expr, expected)) else {
            return self.because_called(expr, expected);
        };
        let names = self.db().names();
        match flaw {
            ItemFlaw::Lacks(name) => format!("; it lacks the key `{}`", names.text(name)),
            ItemFlaw::Surplus(name) => format!("; that has no key `{}`", names.text(name)),
            ItemFlaw::Key => "; a key is no text".to_owned(),
            ItemFlaw::Value { key, expected, value } => {
                let given = self.infer.expr(value);
                let (given, expected) = self.two(given, expected);
                format!("; `{}` holds {expected}, not {given}", names.text(key))
            }
        }
    }

    /// The same for what cannot be called as is asked.
    fn because_called(&mut self, expr: Option<ExprId>, expected: Type) -> String {
        let (Some(expr), Type::Callable(want)) = (expr, expected) else { return String::new() };
        let given = self.infer.expr(expr);
        match self.infer.callable_flaw(given, want, 0) {
            Some(Some(clash)) => format!("; {}", self.clash_words(&clash)),
            _ => String::new(),
        }
    }

    /// A place as evidence of what it says.
    #[must_use]
    pub fn said_at(&self, site: Site, text: String) -> Evidence {
        Evidence::asking(site.file, site.range(self.db()), text)
    }

    /// A place's text, folded to one line and cut where it is long.
    #[must_use]
    pub fn text(&self, range: TextRange) -> String {
        crate::findings::source::excerpt(self.infer.db, self.infer.file, range)
    }

    /// The text of an expression.
    #[must_use]
    pub fn expr_text(&self, expr: ExprId) -> String {
        self.text(self.infer.index.spans[expr])
    }

    /// A module in words; where a stub speaks for it, that is named, as the module may well have what its stub lacks.
    #[must_use]
    pub fn module_words(&self, file: File) -> String {
        let db = self.db();
        let module = db.names().text(file.module(db));
        let is_bundled = file.origin(db) == leitmotiv_project::resolve::Origin::Bundled;
        match file.is_stub(db) && !is_bundled {
            true => format!("`{}`, the stub of module `{module}`,", file.path(db)),
            false => format!("module `{module}`"),
        }
    }

    /// The version of the language that is checked for.
    #[must_use]
    pub fn version(&self) -> (u8, u8) {
        crate::base::db::Config::get(self.db()).target(self.db()).version
    }

    /// The version that is checked for, where a module has a name in other versions only.
    #[must_use]
    pub fn lacking_version(&self, file: File, name: leitmotiv_syntax::names::Name) -> Option<(u8, u8)> {
        crate::resolve::is_for_other_versions(self.db(), file, name).then(|| self.version())
    }

    /// The object whose attribute an expression reads.
    #[must_use]
    pub fn object_of(&self, expr: Option<ExprId>) -> Option<ExprId> {
        match self.infer.index.exprs[expr?] {
            Expr::Attribute { value, .. } | Expr::Subscript { value, .. } => Some(value),
            _ => None,
        }
    }

    /// The return annotation of a function of this file, as evidence of what it declares.
    #[must_use]
    pub fn declared_result(&self, function: leitmotiv_index::tree::FunctionId, text: String) -> Option<Evidence> {
        let returns = self.infer.index.functions[function].returns?;
        Some(Evidence::asking(self.infer.file, self.infer.index.spans[returns], text))
    }

    /// Words for the use of something that may be None; `verb` says what None cannot do, as in "cannot be called".
    pub fn none_words(&mut self, holder: ExprId, object: Type, verb: &str, ways: &'static [Way]) -> Worded {
        let named = self.named(Some(holder));
        let message = if object == Type::None {
            format!("{named} is None here, and None {verb}")
        } else {
            let rest = crate::types::union::filter(self.db().store(), object, |part| part != Type::None);
            let shown = self.quoted(object);
            let is_aside = !rest.is_dynamic() && shown.chars().count() <= LONGEST_ASIDE;
            let whole = if is_aside { format!(" ({shown})") } else { String::new() };
            format!("{named} may be None here{whole}, and None {verb}")
        };
        let mut worded = Worded::plain(message, ways);
        worded.evidence =
            crate::findings::evidence::of(self.infer, holder, &mut |infer, ty| infer.holds_part(ty, Type::None));
        let range = self.infer.index.spans[holder];
        let rest = crate::types::union::without(self.db().store(), object, Type::None);
        for remedy in &mut worded.remedies {
            match remedy.id {
                "check" => {
                    remedy.title = format!("check {named} for None before use");
                    remedy.act = Some(Act::Check(range));
                }
                "assert" => remedy.act = Some(Act::Assert(range)),
                "default" => remedy.act = Some(Act::Origin(range, rest)),
                _ => {}
            }
        }
        worded
    }

    /// The line of a place in the file, from 1.
    #[must_use]
    pub fn line_of(&self, range: TextRange) -> u32 {
        let lines = &module_index(self.db(), self.infer.file).lines.0;
        u32::try_from(lines.index_of(range.start())).unwrap_or(u32::MAX).saturating_add(1)
    }

    /// How an object is called in a message: its text where that is short, else "this".
    #[must_use]
    pub fn named(&self, expr: Option<ExprId>) -> String {
        match expr.map(|expr| self.expr_text(expr)) {
            Some(text) if text.chars().count() <= 40 && !text.contains('…') => format!("`{text}`"),
            _ => "this".into(),
        }
    }
}

impl Way {
    /// The way as a remedy of one finding, in the page's general words.
    #[must_use]
    pub fn remedy(&self) -> Remedy {
        Remedy { id: self.id, title: self.title.to_owned(), price: self.price, safe: false, act: None }
    }

    /// The way as a remedy in words for one finding.
    #[must_use]
    pub fn remedy_as(&self, title: String) -> Remedy {
        Remedy { id: self.id, title, price: self.price, safe: false, act: None }
    }
}

impl Worded {
    /// Words with no evidence and the page's own ways out.
    #[must_use]
    pub fn plain(message: String, ways: &[Way]) -> Worded {
        Worded { message, evidence: Vec::new(), remedies: ways.iter().map(Way::remedy).collect(), at_run_time: None }
    }
}
