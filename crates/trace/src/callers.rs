//! Who passed what: call sites, and along the arguments that are passed on, where they come from.

use std::sync::Arc;

use crate::records::{Call, Function, Outcome, Records, Site};
use crate::seen::Seen;

/// How long a chain of calls is followed.
const LONGEST: usize = 12;

/// A place that passes a type, with those that it has it from.
#[derive(Debug, Clone)]
pub struct Caller {
    /// The chain, the oldest call first; the last one calls the function that was asked about.
    pub chain: Vec<Arc<Site>>,
    /// The types that were passed, of the parameter that was asked for, else of all.
    pub passed: Vec<(String, Seen)>,
    /// How many calls were seen.
    pub count: u64,
    /// The last run, in seconds since 1970.
    pub last: i64,
}

/// What is asked.
#[derive(Debug, Clone, Default)]
pub struct Wanted {
    /// Only calls that passed a type of that name.
    pub ty: Option<String>,
    /// Only that parameter; its name without stars.
    pub param: Option<String>,
}

/// The callers of a function, those with the fewest calls first where a type is asked for: the odd one is the one that is looked for.
#[must_use]
pub fn callers(records: &Records, function: &Function, wanted: &Wanted) -> Vec<Caller> {
    let mut found: Vec<Caller> = Vec::new();
    let params: Vec<&str> = function.params.iter().map(|name| name.trim_start_matches('*')).collect();
    for call in &function.calls {
        if !matches!(call.outcome, Outcome::Returned | Outcome::Raised | Outcome::Yielded) {
            continue;
        }
        let Some(site) = &call.site else { continue };
        let passed: Vec<(String, Seen)> = passed(function, &params, call)
            .filter(|(name, _)| wanted.param.as_ref().is_none_or(|param| param == name))
            .filter(|(_, seen)| wanted.ty.as_ref().is_none_or(|ty| seen.is_named(ty)))
            .map(|(name, seen)| (name.to_owned(), seen.plain()))
            .collect();
        if passed.is_empty() && (wanted.ty.is_some() || wanted.param.is_some()) {
            continue;
        }
        // What a generator yields is no call more.
        let count = if call.outcome == Outcome::Yielded { 0 } else { call.count };
        match found.iter_mut().find(|known| known.chain.last() == Some(site)) {
            Some(known) => {
                known.count += count;
                known.last = known.last.max(call.last);
                for one in passed {
                    if !known.passed.contains(&one) {
                        known.passed.push(one);
                    }
                }
            }
            None => found.push(Caller { chain: vec![site.clone()], passed, count, last: call.last }),
        }
    }
    for caller in &mut found {
        if let (Some(ty), Some((param, _))) = (&wanted.ty, caller.passed.first()) {
            let param = param.clone();
            follow(records, function, &param, ty, &mut caller.chain);
        }
    }
    let place = |caller: &Caller| caller.chain.last().map(|site| (site.path.clone(), site.line));
    if wanted.ty.is_some() {
        found.sort_by(|a, b| a.count.cmp(&b.count).then_with(|| place(a).cmp(&place(b))));
    } else {
        found.sort_by(|a, b| b.count.cmp(&a.count).then_with(|| place(a).cmp(&place(b))));
    }
    found
}

fn passed<'a>(
    function: &'a Function,
    params: &'a [&'a str],
    call: &'a Call,
) -> impl Iterator<Item = (&'a str, &'a Seen)> {
    let is_method = function.name.contains('.');
    let all = params.iter().zip(&call.args);
    // The object of a method is no argument.
    let is_own = move |name: &str, place: usize| is_method && place == 0 && matches!(name, "self" | "cls");
    all.enumerate().filter_map(
        move |(place, (name, seen))| {
            if is_own(name, place) { None } else { Some((*name, seen.as_ref()?)) }
        },
    )
}

/// Puts in front of a chain where the value comes from, as long as each function only passes on what one of its own parameters was given.
fn follow(records: &Records, function: &Function, param: &str, ty: &str, chain: &mut Vec<Arc<Site>>) {
    let (mut callee, mut param) = (function.clone(), param.to_owned());
    while chain.len() < LONGEST {
        let Some(site) = chain.first().cloned() else { return };
        if site.through || site.owner.is_empty() || !site.is_current {
            return;
        }
        let Some(name) = passed_name(&callee, &param, &site) else { return };
        let is_owner = |one: &&Function| one.path == site.path && one.name == site.owner && one.is_current;
        let Some(owner) = records.functions.iter().find(is_owner) else { return };
        let Some(place) = owner.params.iter().position(|own| *own == name) else { return };
        let gives = |call: &&Call| {
            call.args.get(place).and_then(Option::as_ref).is_some_and(|seen| seen.is_named(ty)) && call.site.is_some()
        };
        let Some(next) = owner.calls.iter().filter(gives).min_by_key(|call| call.count) else { return };
        let Some(next) = &next.site else { return };
        if chain.contains(next) {
            return;
        }
        chain.insert(0, next.clone());
        (callee, param) = (owner.clone(), name);
    }
}

/// The name that a call passes for a parameter, where it is nothing but a name.
fn passed_name(callee: &Function, param: &str, site: &Site) -> Option<String> {
    let source = crate::source::Source::new(format!("{}\n", site.text));
    let call = source.call(1, callee.called_as());
    if let Some((_, name)) = call.passed.iter().find(|(keyword, _)| keyword.as_deref() == Some(param)) {
        return name.clone();
    }
    let place = callee.params.iter().position(|own| own == param)?;
    let is_bound = callee.name.contains('.') && callee.params.first().is_some_and(|own| own == "self" || own == "cls");
    let placed: Vec<&Option<String>> =
        call.passed.iter().filter(|(keyword, _)| keyword.is_none()).map(|(_, name)| name).collect();
    placed.get(place - usize::from(is_bound && place > 0)).copied().cloned().flatten()
}
