//! Arguments to parameters (language reference, "Calls").

use leitmotiv_index::tree::{ExprId, ParamKind};
use leitmotiv_syntax::names::{Name, known};

use super::arguments::{Argument, ArgumentKind, Caller};
use super::given_none::GivenNone;
use super::spread::{Spread, Spreads};
use crate::context::TypeContext;
use crate::context::candidates::{Candidate, Candidates};
use crate::solve::variadic::Places;
use crate::types::substitute::{Substitution, is_variadic};
use crate::types::{Signature, SignatureParam, Type, VarId};

/// Of so many arguments at once the parts of unions are tried; each more would multiply the tries. Said in
/// docs/architecture.md.
const MOST_EXPANDED: u32 = 2;

/// A tuple's type is taken apart into at most so many. Said in docs/architecture.md.
const MOST_TUPLES: usize = 64;

/// Of so many signatures that take another literal first it is told why they do not fit.
const MOST_TOLD: usize = 16;

/// Why a candidate does not take the arguments.
pub(crate) struct Refusal {
    /// Where to point: an argument, or the call.
    pub(crate) at: Option<ExprId>,
    /// What is wrong, its callee filled in by the caller.
    pub(crate) why: Why,
    /// How far binding came: the refusal that came furthest is the one to tell.
    pub(crate) reached: u32,
}

/// Kinds of refusal.
pub(crate) enum Why {
    Missing(Vec<Name>),
    Surplus { taken: usize, given: usize },
    Keyword(Name, Option<String>),
    Repeated(Name),
    Argument { param: usize, place: u32, expected: Type, given: Type },
}

impl TypeContext<'_> {
    /// Whether a function's first argument is what `Self` stands for in it: a method's is, and that of `__new__`.
    pub(super) fn takes_self(&self, function: crate::types::FunctionRef) -> bool {
        let outline = crate::outline::function(self.db, function.file, function.function);
        outline.name == known::NEW || (outline.class.is_some() && !outline.is_under(known::STATICMETHOD))
    }

    fn may_differ_by_part(&self, candidates: &[Candidate]) -> bool {
        let store = self.db.store();
        candidates.len() > 1
            || candidates.iter().flat_map(|candidate| candidate.signature.params.iter()).any(|param| {
                let variables = crate::types::substitute::variables(store, param.ty);
                variables
                    .iter()
                    .any(|var| !crate::definitions::type_variables::limits(self.db, *var).constraints.is_empty())
            })
    }

    /// What an argument's type is taken apart into: a union, a bool and an enumeration into what they may be, a tuple into tuples
    /// of what its elements may be.
    fn expansion(&mut self, ty: Type) -> Option<Vec<Type>> {
        let store = self.db.store();
        if let Type::Union(id) = ty {
            return Some(store.union_parts(id).to_vec());
        }
        if let Type::Tuple(id) = ty {
            let tuple = store.tuple(id).clone();
            let mut all: Vec<Vec<Type>> = vec![Vec::new()];
            for element in &tuple.prefix {
                let parts = self.expansion(*element).unwrap_or_else(|| vec![*element]);
                if tuple.rest.is_some() || all.len() * parts.len() > MOST_TUPLES {
                    return None;
                }
                all = all
                    .iter()
                    .flat_map(|so_far| parts.iter().map(|part| so_far.iter().copied().chain([*part]).collect()))
                    .collect();
            }
            let tuples = all.into_iter().map(|prefix| {
                let tuple = crate::types::Tuple { prefix: prefix.into(), rest: None, suffix: [].into() };
                Type::Tuple(store.intern_tuple(tuple))
            });
            return Some(tuples.collect()).filter(|tuples: &Vec<Type>| tuples.len() > 1);
        }
        match self.expand(ty) {
            Type::Union(id) => Some(store.union_parts(id).to_vec()),
            _ => None,
        }
    }

    /// A candidate with other parameters than those of its function.
    pub(crate) fn with_signature(&self, candidate: &Candidate, signature: Signature) -> Candidate {
        let name = candidate
            .function
            .filter(|_| !candidate.inferred)
            .map(|function| crate::outline::function(self.db, function.file, function.function).name);
        let function = if name.is_some() { None } else { candidate.function };
        Candidate { signature, function, name: name.or(candidate.name), ..candidate.clone() }
    }

    /// The parameter that takes what is given by name, or why none does.
    fn named(
        &self,
        params: &[SignatureParam],
        name: Name,
        bound: &[bool],
        stars: bool,
        (argument, place): (Argument, u32),
    ) -> Result<Option<usize>, Refusal> {
        let found = params
            .iter()
            .position(|param| param.name == name && matches!(param.kind, ParamKind::Normal | ParamKind::KeywordOnly));
        let any = params.iter().position(|param| param.kind == ParamKind::KwArgs);
        match found.or(any) {
            Some(param) if found.is_some() && bound[param] && !stars => {
                Err(Refusal { at: argument.expr, why: Why::Repeated(name), reached: place })
            }
            Some(param) => Ok(Some(param)),
            None => {
                let names = params.iter().map(|param| self.db.names().text(param.name));
                let near = crate::infer::attributes::nearest(self.db.names().text(name), names).map(str::to_owned);
                Err(Refusal { at: argument.expr, why: Why::Keyword(name, near), reached: place })
            }
        }
    }

    /// Whether a protocol's methods take what a variable stands for: other arguments say that better.
    fn takes_variables(&self, wanted: Type) -> bool {
        let store = self.db.store();
        let Type::Instance(id) = wanted else { return false };
        let instance = store.instance(id);
        let info = crate::definitions::classes::info(self.db, instance.class);
        info.kind == crate::definitions::classes::ClassKind::Protocol
            && info.params.iter().zip(&instance.args).any(|(var, arg)| {
                crate::definitions::variance::of(self.db, instance.class, *var) == crate::types::Variance::Contravariant
                    && crate::types::substitute::has_variables(store, *arg)
            })
    }

    /// Why a callable whose parameters stand for those of the function around is not called with just these: `*args, **kwargs` (PEP 612).
    fn passes_on_otherwise(&self, candidate: &Candidate, given: &[Argument]) -> Option<Refusal> {
        let (list, before) = self.open_end(&candidate.signature)?;
        if candidate.start.get(list).is_some() || !self.is_function_variable(list) {
            return None;
        }
        let count = |kind: fn(&ArgumentKind) -> bool| given.iter().filter(|given| kind(&given.kind)).count();
        let places = count(|kind| matches!(kind, ArgumentKind::Star));
        let names = count(|kind| matches!(kind, ArgumentKind::DoubleStar));
        let plain = count(|kind| matches!(kind, ArgumentKind::Positional));
        let mut missing = Vec::new();
        if places == 0 {
            missing.push(self.db.names().intern("*args"));
        }
        if names == 0 {
            missing.push(self.db.names().intern("**kwargs"));
        }
        if !missing.is_empty() {
            return Some(Refusal { at: None, why: Why::Missing(missing), reached: 0 });
        }
        (plain > before).then(|| Refusal {
            at: given.get(before).and_then(|given| given.expr),
            why: Why::Surplus { taken: before, given: plain },
            reached: 0,
        })
    }

    /// The callable among the parts of an expected type.
    fn callable_part(&self, expected: Type) -> Option<crate::types::SignatureId> {
        crate::types::union::parts(self.db.store(), &expected).iter().find_map(|part| match part {
            Type::Callable(id) => Some(*id),
            _ => None,
        })
    }
}

/// What a signature that takes the arguments gives, and its solution; or why each one refuses them, by its number.
pub(crate) type Chosen = Result<(Type, Substitution), Vec<(usize, Refusal)>>;

/// Arguments to parameters, whoever calls.
pub(crate) trait Bind<'db>: GivenNone<'db> + Places<'db> + Spreads<'db> {
    /// The first candidate that takes the arguments, its result and solution; or all refusals, with the candidates' numbers.
    fn choose(&mut self, candidates: &Candidates, given: &[Argument]) -> Chosen {
        let plainly = std::mem::take(&mut self.plainly);
        let chosen =
            self.choose_plainly(candidates, given).unwrap_or_else(|| self.choose_among(candidates, given, true));
        self.plainly = plainly;
        chosen
    }

    /// The first of several signatures that takes the arguments without anything that only stands in for what is asked for.
    fn choose_plainly(&mut self, candidates: &Candidates, given: &[Argument]) -> Option<Chosen> {
        if candidates.len() <= 1 || self.strict {
            return None;
        }
        let point = self.point();
        (self.strict, self.plainly) = (true, true);
        let found = self.choose_among(candidates, given, false);
        (self.strict, self.plainly) = (false, false);
        if found.is_ok() {
            return Some(found);
        }
        if self.has_reported_since(point) || given.iter().any(|given| self.is_lambda(given)) {
            self.go_back(point);
        }
        None
    }

    fn choose_among(&mut self, candidates: &Candidates, given: &[Argument], expands: bool) -> Chosen {
        let mut refusals = Vec::new();
        // How many arguments `*args` gives is not known: signatures that take any number come first (typing specification,
        // "Overload call evaluation", step 4).
        let open = candidates.len() > 1 && given.iter().any(|given| self.is_open_star(*given));
        let takes_any = |candidate: &Candidate| {
            open && candidate.signature.params.iter().any(|param| param.kind == ParamKind::VarArgs)
        };
        let few = self.literal_argument(candidates, given).and_then(|literal| candidates.for_literal(literal));
        let count = few.as_ref().map_or(candidates.len(), Vec::len);
        let number_at = |place: usize| few.as_ref().map_or(place, |few| few[place]);
        let first = (0..count).position(|place| takes_any(&candidates[number_at(place)])).unwrap_or(0);
        let order = std::iter::once(first).chain((0..count).filter(|place| *place != first));
        for place in order.take(count) {
            let number = number_at(place);
            let candidate = &candidates[number];
            let point = self.point();
            match self.bind_arguments(candidate, given) {
                Ok(solution) => {
                    let mut result = self.candidate_result(candidate, &solution);
                    self.chosen = candidate.function;
                    if candidate.inferred {
                        result = self.result_for_receiver(candidate, result);
                        result = self.result_for(candidate, given, result);
                        result = self.without_given_none(candidate, given, result);
                    }
                    if candidate.function.is_some()
                        && candidate.takes_self
                        && let Some(first) = given.first()
                        && first.kind == ArgumentKind::Positional
                    {
                        // `super().__new__(cls)` gives an instance of what it is given, `Vessel.copy(ferry)` a ferry.
                        let class = self.argument_type(*first);
                        result = self.replace_self(result, class);
                    }
                    let result = self.call_result(candidate, result);
                    let result = self.limit_depth(result);
                    // Unknown arguments fit several overloads: what comes back is then unknown, unless all agree.
                    let is_open = |infer: &Self| infer.unknown_parameter(candidate).is_some();
                    if candidates.len() > 1 && (is_open(self) || self.any_dynamic(given)) {
                        let rest: Vec<&Candidate> = (place..count).map(|place| &candidates[number_at(place)]).collect();
                        return Ok((self.ambiguous(&rest, given, result), solution));
                    }
                    return Ok((result, solution));
                }
                Err(refusal) => {
                    // A lambda is looked at anew with what the next signature says of its parameters.
                    if candidates.len() > 1 && given.iter().any(|given| self.is_lambda(given)) {
                        self.go_back(point);
                    }
                    refusals.push((number, refusal));
                }
            }
        }
        if !expands {
            return Err(refusals);
        }
        if let Some(expanded) = self.expand_unions(candidates, given) {
            return Ok(expanded);
        }
        // Of those that take another literal nobody reads more than a few.
        let apart =
            few.iter().flat_map(|few| (0..candidates.len()).filter(|number| few.binary_search(number).is_err()));
        for number in apart.take(MOST_TOLD) {
            if let Err(refusal) = self.bind_arguments(&candidates[number], given) {
                refusals.push((number, refusal));
            }
        }
        Err(refusals)
    }

    /// The first argument of a call with very many signatures, where it is a literal given by position.
    fn literal_argument(&mut self, candidates: &Candidates, given: &[Argument]) -> Option<Type> {
        if !candidates.are_many() {
            return None;
        }
        let first = given.first().filter(|first| first.kind == ArgumentKind::Positional)?;
        self.literal(first)
    }

    /// Calls by the parts of a union: each part may use another overload, or another constraint (typing specification, "Overload call
    /// evaluation", step 3).
    fn expand_unions(&mut self, candidates: &Candidates, given: &[Argument]) -> Option<(Type, Substitution)> {
        // A single signature refuses a union where it refuses any part of it, unless the parts take other constraints.
        if !self.may_differ_by_part(candidates) || self.expansions >= MOST_EXPANDED {
            return None;
        }
        self.expansions += 1;
        let found = self.expand_one(candidates, given);
        self.expansions -= 1;
        found
    }

    fn expand_one(&mut self, candidates: &Candidates, given: &[Argument]) -> Option<(Type, Substitution)> {
        for (place, argument) in given.iter().enumerate() {
            if !matches!(argument.kind, ArgumentKind::Positional | ArgumentKind::Keyword(_)) {
                continue;
            }
            let ty = self.argument_type(*argument);
            let Some(parts) = self.expansion(ty) else { continue };
            let mut results = Vec::with_capacity(parts.len());
            let mut solution = Substitution::new();
            let mut inner = given.to_vec();
            for part in &parts {
                inner[place] = Argument { kind: argument.kind, expr: None, ty: *part };
                match self.choose(candidates, &inner) {
                    Ok((result, found)) => {
                        results.push(result);
                        solution = found;
                    }
                    Err(_) => break,
                }
            }
            if results.len() == parts.len() {
                return Some((self.join(results), solution));
            }
        }
        None
    }

    /// Candidates with the parameters that a call's own arguments bring; `None` where none of them has any.
    fn with_lists(&mut self, candidates: &Candidates, given: &[Argument]) -> Option<Candidates> {
        if candidates.are_many() && !candidates.take_lists {
            return None;
        }
        let mut changed: Option<Vec<Candidate>> = None;
        for (number, candidate) in candidates.iter().enumerate() {
            if let Some(found) = self.with_list(candidate, given).or_else(|| self.with_places(candidate, given)) {
                changed.get_or_insert_with(|| candidates.to_vec())[number] = found;
            }
        }
        changed.map(Candidates::from_iter)
    }

    fn with_list(&mut self, candidate: &Candidate, given: &[Argument]) -> Option<Candidate> {
        let (list, before) = self.open_end(&candidate.signature)?;
        let found = self.passed_list(candidate, given, list, before)?;
        // Passing one's own parameters on to oneself says nothing new.
        if crate::types::substitute::variables(self.db.store(), found).contains(&list) {
            return None;
        }
        let mut replace = |var| (var == list).then_some(found);
        let signature = crate::types::substitute::signature(self.db.store(), &candidate.signature, &mut replace);
        Some(self.with_signature(candidate, signature))
    }

    /// What stands for a variable for parameters, as a callable among the first arguments says: of
    /// `run(call: Callable[P, R], *args: P.args, **kwargs: P.kwargs)` the parameters of what is passed first.
    fn passed_list(&mut self, candidate: &Candidate, given: &[Argument], list: VarId, before: usize) -> Option<Type> {
        let store = self.db.store();
        for (place, param) in candidate.signature.params.iter().take(before).enumerate() {
            if !crate::types::substitute::variables(store, param.ty).contains(&list) {
                continue;
            }
            let by_name = given.iter().find(|given| given.kind == ArgumentKind::Keyword(param.name));
            let by_place = given.get(place).filter(|given| given.kind == ArgumentKind::Positional);
            let argument = *by_name.or(by_place)?;
            let ty = self.argument_type(argument);
            let mut solution = Substitution::new();
            self.unify(param.ty, ty, &mut solution);
            return solution.get(list);
        }
        None
    }

    /// Whether an argument is `*args` of unknown length.
    fn is_open_star(&mut self, given: Argument) -> bool {
        if given.kind != ArgumentKind::Star {
            return false;
        }
        let ty = self.argument_type(given);
        self.tuple_shape(ty).is_none_or(|id| self.db.store().tuple(id).rest.is_some())
    }

    fn any_dynamic(&mut self, given: &[Argument]) -> bool {
        given.iter().any(|given| {
            let ty = self.argument_type(*given);
            let parts = crate::types::union::parts(self.db.store(), &ty);
            parts.iter().any(|part| part.is_dynamic()) || self.base_unknown(ty).is_some()
        })
    }

    /// The cause of a base that is not known of a class that something may be of: it fits whatever is asked for.
    fn base_unknown(&self, ty: Type) -> Option<Type> {
        let store = self.db.store();
        crate::types::union::parts(store, &ty).iter().find_map(|part| {
            let Type::Instance(id) = part else { return None };
            crate::definitions::classes::info(self.db, store.instance(*id).class).unknown_base.map(Type::Unknown)
        })
    }

    /// What is unknown of the parameters of a signature: what one takes as a whole, or in it as it is declared, not what stands for the variables
    /// of a receiver.
    fn unknown_parameter(&self, candidate: &Candidate) -> Option<Type> {
        let store = self.db.store();
        let params = &candidate.signature.params;
        let whole = params.iter().map(|param| param.ty).find(|ty| ty.is_unknown());
        let in_part = || {
            let function = candidate.function?;
            params.iter().find_map(|param| unknown_in(store, param.ty))?;
            let declared = crate::definitions::functions::declared(self.db, function.file, function.function);
            declared.params.iter().find_map(|param| unknown_in(store, param.ty))
        };
        whole.or_else(in_part)
    }

    /// What several matching overloads give together (typing specification, "Overload call evaluation", step 5).
    fn ambiguous(&mut self, rest: &[&Candidate], given: &[Argument], first: Type) -> Type {
        for candidate in &rest[1..] {
            if let Ok(solution) = self.bind_arguments(candidate, given) {
                let result = self.candidate_result(candidate, &solution);
                let result = self.solved(result);
                if result != first {
                    let types: Vec<Type> = given.iter().map(|given| self.argument_type(*given)).collect();
                    let unknown = types.iter().copied().find(|ty| ty.is_unknown());
                    let unknown = unknown.or_else(|| types.iter().find_map(|ty| self.base_unknown(*ty)));
                    return unknown
                        .or_else(|| rest.iter().find_map(|candidate| self.unknown_parameter(candidate)))
                        .unwrap_or(Type::Any);
                }
            }
        }
        first
    }

    /// Binds arguments to a candidate's parameters and solves its variables.
    fn bind_arguments(&mut self, candidate: &Candidate, given: &[Argument]) -> Result<Substitution, Refusal> {
        if let Some(with_list) = self.with_list(candidate, given) {
            return self.bind_arguments(&with_list, given);
        }
        if let Some(with_places) = self.with_places(candidate, given) {
            return self.bind_arguments(&with_places, given);
        }
        let params = &candidate.signature.params;
        if let (Some(expected), Some(given)) = (candidate.refuses, candidate.receiver) {
            return Err(Refusal {
                at: None,
                why: Why::Argument { param: usize::MAX, place: 0, expected, given },
                reached: 0,
            });
        }
        // A method without parameters is called with the object all the same (data model, "Instance methods").
        if candidate.receiver.is_some()
            && candidate.skipped == 0
            && candidate.function.is_some()
            && !params.iter().any(|param| param.kind == ParamKind::VarArgs)
        {
            let taken =
                params.iter().filter(|param| matches!(param.kind, ParamKind::Normal | ParamKind::PositionalOnly));
            let count = given.iter().filter(|given| given.kind == ArgumentKind::Positional).count();
            let why = Why::Surplus { taken: taken.count(), given: count + 1 };
            return Err(Refusal { at: None, why, reached: 0 });
        }
        if let Some(refusal) = self.passes_on_otherwise(candidate, given) {
            return Err(refusal);
        }
        let mut bound = vec![false; params.len()];
        let mut pairs: Vec<(usize, Argument, u32)> = Vec::with_capacity(given.len());
        let positional: Vec<usize> = params
            .iter()
            .enumerate()
            .filter(|(_, param)| matches!(param.kind, ParamKind::PositionalOnly | ParamKind::Normal))
            .map(|(place, _)| place)
            .collect();
        let var_args = params.iter().position(|param| param.kind == ParamKind::VarArgs);
        let mut next = 0;
        let mut stars = false;
        let mut mappings: Vec<(Argument, u32)> = Vec::new();
        let count = given.iter().filter(|given| given.kind == ArgumentKind::Positional).count();
        for (place, argument) in given.iter().enumerate() {
            let place = u32::try_from(place).unwrap_or(u32::MAX);
            match argument.kind {
                ArgumentKind::Positional => {
                    // How many come before it is not known behind `*args`.
                    if let Some(param) = positional.get(next).filter(|_| !stars) {
                        bound[*param] = true;
                        pairs.push((*param, *argument, place));
                        next += 1;
                    } else if let Some(var_args) = var_args.filter(|_| next >= positional.len()) {
                        pairs.push((var_args, *argument, place));
                    } else if !stars {
                        let why = Why::Surplus { taken: positional.len(), given: count };
                        return Err(Refusal { at: argument.expr, why, reached: place });
                    }
                }
                ArgumentKind::Star => match self.spread(*argument) {
                    Spread::Items(items) => {
                        let all = count + items.len();
                        for element in items {
                            if let Some(param) = positional.get(next).filter(|_| !stars) {
                                bound[*param] = true;
                                pairs.push((*param, element, place));
                                next += 1;
                            } else if let Some(var_args) = var_args {
                                pairs.push((var_args, element, place));
                            } else if !stars {
                                let why = Why::Surplus { taken: positional.len(), given: all };
                                return Err(Refusal { at: argument.expr, why, reached: place });
                            }
                        }
                    }
                    Spread::Many(element, is_sure) => {
                        stars = true;
                        let element = Argument { kind: ArgumentKind::Star, expr: None, ty: element };
                        if let Some(var_args) = var_args {
                            pairs.push((var_args, element, place));
                        }
                        let is_last =
                            !given[place as usize + 1..].iter().any(|given| given.kind == ArgumentKind::Positional);
                        let is_named = |name: Name| given.iter().any(|given| given.kind == ArgumentKind::Keyword(name));
                        // How many there are cannot be told: from here on, parameters may be given.
                        for param in &positional[next.min(positional.len())..] {
                            let is_needed = !params[*param].optional && !is_named(params[*param].name);
                            if is_sure && is_last && is_needed && !bound[*param] {
                                pairs.push((*param, element, place));
                            }
                            bound[*param] = true;
                        }
                    }
                },
                ArgumentKind::Keyword(name) => {
                    if let Some(found) = self.named(params, name, &bound, stars, (*argument, place))? {
                        bound[found] |= params[found].kind != ParamKind::KwArgs;
                        pairs.push((found, *argument, place));
                    }
                }
                ArgumentKind::DoubleStar => match self.spread_names(*argument) {
                    Some(items) => {
                        for (item, is_there) in items {
                            let ArgumentKind::Keyword(name) = item.kind else { continue };
                            let at = Argument { expr: argument.expr, ..item };
                            match self.named(params, name, &bound, stars, (at, place)) {
                                Ok(Some(found)) => {
                                    bound[found] |= params[found].kind != ParamKind::KwArgs;
                                    pairs.push((found, item, place));
                                }
                                Err(refusal) if is_there => return Err(refusal),
                                Ok(None) | Err(_) => {}
                            }
                        }
                    }
                    None => mappings.push((*argument, place)),
                },
            }
        }
        for (mapping, place) in mappings {
            stars = true;
            let of_type = |ty: Type| Argument { kind: ArgumentKind::DoubleStar, expr: None, ty };
            let value = self.spread_values(mapping).map(of_type);
            // What is not known of the values, is not known of what takes any of them.
            let rest = value.or_else(|| self.unknown_at(&mapping).map(of_type));
            for (number, param) in params.iter().enumerate() {
                let is_named = matches!(param.kind, ParamKind::Normal | ParamKind::KeywordOnly);
                let is_needed = is_named && !param.optional && !bound[number];
                if let Some(value) = if param.kind == ParamKind::KwArgs { rest } else { value.filter(|_| is_needed) } {
                    pairs.push((number, value, place));
                }
                bound[number] |= is_named;
            }
        }
        let missing: Vec<Name> = params
            .iter()
            .zip(&bound)
            .filter(|(param, bound)| {
                !**bound && !param.optional && !matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs)
            })
            .map(|(param, _)| param.name)
            .collect();
        if !missing.is_empty() && !stars {
            let reached = u32::try_from(given.len()).unwrap_or(u32::MAX);
            return Err(Refusal { at: None, why: Why::Missing(missing), reached });
        }
        self.fit_all(candidate, &pairs).map_err(|mut refusal| {
            // What comes of `*args` is to be seen there.
            if let (None, Why::Argument { place, .. }) = (refusal.at, &refusal.why) {
                refusal.at = given.get(*place as usize).and_then(|given| given.expr);
            }
            refusal
        })
    }

    fn fit_all(&mut self, candidate: &Candidate, pairs: &[(usize, Argument, u32)]) -> Result<Substitution, Refusal> {
        let store = self.db.store();
        let params = &candidate.signature.params;
        let mut solution = candidate.start.clone();
        self.collect_places(params, pairs, &mut solution);
        let open: smallvec::SmallVec<[bool; 8]> =
            params.iter().map(|param| crate::solve::unify::has_own_variables(store, param.ty)).collect();
        let open_pairs = || pairs.iter().filter(|(param, ..)| open[*param]);
        // Lambdas come last: what the other arguments say gives their parameters types.
        // Callbacks come last but for lambdas: what they take says less than what is passed.
        for callbacks in [false, true] {
            for (param, argument, _) in open_pairs() {
                let wanted = params[*param].ty;
                if self.is_lambda(argument)
                    || (self.callable_part(wanted).is_some() || self.takes_variables(wanted)) != callbacks
                {
                    continue;
                }
                // What is expected of the call stands, where the argument goes with it.
                let expected = candidate.start.apply(store, wanted);
                if expected != wanted
                    && !crate::solve::unify::has_own_variables(store, expected)
                    && self.may_become(argument, expected)
                {
                    continue;
                }
                let given = self.argument_type(*argument);
                // Literal types that somebody declared stay (typing specification, "Literals").
                let given = if self.says(argument) { given } else { self.widen(given) };
                self.unify(wanted, given, &mut solution);
            }
        }
        for (param, argument, _) in pairs {
            if !self.is_lambda(argument) {
                continue;
            }
            let expected = solution.apply(store, params[*param].ty);
            self.take_lambda(argument, &|context| {
                let wanted = context.callable_part(expected);
                let types = wanted.map(|id| store.signature(id).params.iter().map(|param| context.solved(param.ty)));
                types.map(Iterator::collect).unwrap_or_default()
            });
            let given = self.argument_type(*argument);
            let given = self.widen(given);
            self.unify(params[*param].ty, given, &mut solution);
        }
        for (param, argument, place) in pairs {
            if is_variadic(store, params[*param].ty) {
                continue;
            }
            let mut expected = params[*param].ty;
            if open[*param] {
                expected = self.solved(solution.apply(store, expected));
                if let Some(bound) = self.broken_bound(params[*param].ty, &solution) {
                    expected = bound;
                }
            }
            let is_spread = matches!(argument.kind, ArgumentKind::Star | ArgumentKind::DoubleStar);
            let fits = match argument.expr {
                // Which element comes here nobody knows.
                None if is_spread => {
                    argument.ty == Type::Never
                        || crate::types::union::parts(store, &argument.ty)
                            .iter()
                            .any(|part| self.is_assignable(*part, expected))
                }
                _ => self.is_taken(argument, expected),
            };
            if !fits && !self.rests_on_loose(params, pairs, *param) {
                let given = self.argument_type(*argument);
                return Err(Refusal {
                    at: argument.expr,
                    why: Why::Argument { param: *param, place: *place, expected, given },
                    reached: 1_000 + place,
                });
            }
        }
        if self.notes(candidate) {
            for (param, argument, _) in pairs {
                let expected = match self.notes_expected() {
                    true => self.solved(solution.apply(store, params[*param].ty)),
                    false => Type::Any,
                };
                self.note(candidate, *param, argument, expected);
            }
        }
        Ok(solution)
    }

    /// Whether what a parameter takes was solved from another argument that is one of several types, and nobody can tell which:
    /// `map(len, self.data)`.
    fn rests_on_loose(&mut self, params: &[SignatureParam], pairs: &[(usize, Argument, u32)], param: usize) -> bool {
        let store = self.db.store();
        let variables = crate::types::substitute::variables(store, params[param].ty);
        let shares =
            |ty: Type| crate::types::substitute::variables(store, ty).iter().any(|var| variables.contains(var));
        !variables.is_empty()
            && pairs.iter().any(|(other, argument, _)| {
                *other != param && shares(params[*other].ty) && self.is_any_of_several(argument)
            })
    }

    /// What a parameter takes where what stands for one of its variables breaks that variable's bound.
    fn broken_bound(&self, wanted: Type, solution: &Substitution) -> Option<Type> {
        let store = self.db.store();
        let mut bounds = Substitution::new();
        let mut is_broken = false;
        for var in crate::types::substitute::variables(store, wanted) {
            let Some(bound) = crate::definitions::type_variables::bound(self.db, var) else { continue };
            let Some(found) = solution.get(var) else { continue };
            let is_plain = !crate::types::substitute::has_variables(store, bound) && !found.is_dynamic();
            if is_plain && found != Type::Var(var) && !self.is_assignable(found, bound) {
                is_broken = true;
                bounds.set(var, bound);
            }
        }
        is_broken.then(|| self.solved(bounds.apply(store, wanted)))
    }
}

impl<'db, C: Caller<'db>> Bind<'db> for C {}

/// What is unknown in a type.
fn unknown_in(store: &crate::types::store::Store, ty: Type) -> Option<Type> {
    let found = std::cell::Cell::new(None);
    let is_unknown = |part: Type| {
        let unknown = Some(part).filter(|part| part.is_unknown());
        found.set(unknown.or(found.get()));
        unknown.is_some()
    };
    crate::types::holds(store, ty, &is_unknown);
    found.get()
}
