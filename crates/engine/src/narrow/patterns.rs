//! Patterns of `match` (PEP 634).

use leitmotiv_index::tree::{ClassId, ExprId, PatternId, PatternKind};
use leitmotiv_syntax::names::{Name, known};

use crate::base::asked::{Ask, saw};
use crate::base::db::Db;
use crate::base::file::File;
use crate::context::TypeContext;
use crate::definitions::classes::{self, ClassKind};
use crate::infer::Infer;
use crate::outline::{module_index, reading};
use crate::types::union::parts;
use crate::types::{Literal, Type};

impl TypeContext<'_> {
    /// The attributes that a class pattern asks for, with their patterns; `None` in place of a name for the object itself, as in
    /// `int(x)`.
    pub(super) fn pattern_attributes(
        &mut self,
        instances: Type,
        positional: &[PatternId],
        keywords: &[(Name, PatternId)],
    ) -> Vec<(Option<Name>, PatternId)> {
        let names = if positional.is_empty() { Some(Vec::new()) } else { self.match_args(instances) };
        let mut all = Vec::with_capacity(positional.len() + keywords.len());
        for (place, pattern) in positional.iter().enumerate() {
            // Built-in classes match the whole by their one position (PEP 634, "Class Patterns").
            let name = names.as_ref().map(|names| names.get(place).copied().unwrap_or(known::EMPTY));
            all.push((name, *pattern));
        }
        all.extend(keywords.iter().map(|(name, pattern)| (Some(*name), *pattern)));
        all
    }

    /// The attributes that positions in a pattern of a class stand for; `None` for built-ins that match as wholes.
    fn match_args(&mut self, instances: Type) -> Option<Vec<Name>> {
        let db = self.db;
        let Type::Instance(id) = *parts(db.store(), &instances).first()? else { return Some(Vec::new()) };
        let class = db.store().instance(id).class;
        let info = classes::info(db, class);
        for entry in &info.mro {
            let entry = db.store().instance(*entry).class;
            if let Some(names) = written_match_args(db, entry.file, entry.class) {
                return Some(names.to_vec());
            }
            let entry_info = classes::info(db, entry);
            if entry_info.dataclass.is_some() || entry_info.kind == ClassKind::NamedTuple {
                let fields = classes::dataclass::all_fields(db, entry);
                let placed = fields.iter().filter(|field| field.init && !field.kw_only);
                return Some(placed.map(|field| field.name).collect());
            }
        }
        let by_whole =
            ["bool", "bytearray", "bytes", "dict", "float", "frozenset", "int", "list", "set", "str", "tuple"];
        let is_whole = by_whole.iter().any(|name| classes::derives_builtin(db, class, db.names().intern(name)));
        if is_whole { None } else { Some(Vec::new()) }
    }

    fn may_be_sequence(&mut self, part: Type) -> bool {
        let Type::Instance(id) = part else { return matches!(part, Type::Var(_)) };
        let class = self.db.store().instance(id).class;
        let is_text = [known::STR, known::BYTES, known::BYTEARRAY]
            .iter()
            .any(|name| classes::derives_builtin(self.db, class, *name));
        !is_text && (self.is_open_class(part) || self.is_surely(part, "Sequence"))
    }

    /// Whether values may be of other classes than can be seen: `object`, protocols, classes with unknown bases.
    fn is_open_class(&self, part: Type) -> bool {
        let Type::Instance(id) = part else { return false };
        let class = self.db.store().instance(id).class;
        classes::info(self.db, class).unknown_base.is_some()
            || classes::info(self.db, class).kind == ClassKind::Protocol && !self.is_surely(part, "Sequence")
            || crate::resolve::is_builtin(self.db, class, known::OBJECT)
    }

    /// Whether a class derives from that of `collections.abc`.
    fn is_surely(&self, part: Type, name: &str) -> bool {
        let Type::Instance(id) = part else { return false };
        let names = self.db.names();
        let class = self.db.store().instance(id).class;
        crate::resolve::standard_class(self.db, names.intern("collections.abc"), names.intern(name))
            .is_some_and(|of| classes::derives(self.db, class, of) == Some(true))
            || name == "Mapping" && matches!(classes::info(self.db, class).kind, ClassKind::TypedDict { .. })
    }

    /// `**rest`: a `dict` of what is left.
    fn rest_of_mapping(&mut self, ty: Type) -> Type {
        let all: Vec<Type> = parts(self.db.store(), &ty).to_vec();
        let keys: Vec<Type> = all.iter().map(|part| self.mapping_argument(*part, 0)).collect();
        let values: Vec<Type> = all.iter().map(|part| self.mapping_argument(*part, 1)).collect();
        let (key, value) = (self.join(keys), self.join(values));
        self.container(known::DICT, &[key, value])
    }

    fn mapping_argument(&mut self, part: Type, place: usize) -> Type {
        let names = self.db.names();
        let mapping = crate::resolve::standard_class(self.db, names.intern("collections.abc"), names.intern("Mapping"));
        if let (Type::Instance(id), Some(mapping)) = (part, mapping)
            && let Some(base) = classes::as_base(self.db, id, mapping)
            && let Some(argument) = self.db.store().instance(base).args.get(place)
        {
            return *argument;
        }
        if part.is_dynamic() { part } else { Type::Unknown(self.dynamic_cause()) }
    }
}

/// Unions of more tuples than this are not taken apart any further by patterns. Said in docs/architecture.md.
const MOST_TUPLES: usize = 32;

impl Infer<'_> {
    /// What a subject is where a pattern matched it, or did not.
    pub(crate) fn narrow_pattern(&mut self, ty: Type, pattern: PatternId, positive: bool) -> Type {
        let index = self.index;
        let store = self.db.store();
        if ty == Type::Never {
            return ty;
        }
        match &index.patterns[pattern].kind {
            PatternKind::Value(value) => {
                let value = self.quietly(*value);
                self.narrow_equal(ty, value, positive, false)
            }
            PatternKind::Singleton(None) => self.narrow_equal(ty, Type::None, positive, true),
            PatternKind::Singleton(Some(value)) => {
                let literal = Type::Literal(store.intern_literal(Literal::Bool(*value)));
                self.narrow_equal(ty, literal, positive, true)
            }
            PatternKind::As { pattern: None } | PatternKind::Star => {
                if positive {
                    ty
                } else {
                    Type::Never
                }
            }
            PatternKind::As { pattern: Some(inner) } => self.narrow_pattern(ty, *inner, positive),
            PatternKind::Or(alternatives) => {
                if positive {
                    let mut rest = ty;
                    let mut matched = Vec::with_capacity(alternatives.len());
                    for alternative in alternatives {
                        matched.push(self.narrow_pattern(rest, *alternative, true));
                        rest = self.narrow_pattern(rest, *alternative, false);
                    }
                    self.join(matched)
                } else {
                    alternatives.iter().fold(ty, |ty, alternative| self.narrow_pattern(ty, *alternative, false))
                }
            }
            PatternKind::Class { class, positional, keywords } => {
                let class_type = self.quietly(*class);
                let instances = self.instances_of(class_type, *class);
                let is_open = parts(store, &instances).iter().any(|part| part.is_dynamic());
                if positive {
                    return if is_open { instances } else { self.intersect(ty, instances) };
                }
                if is_open {
                    return ty;
                }
                // A class is ruled out where all that the pattern asks for besides is sure to be so.
                let named = self.pattern_attributes(instances, positional, keywords);
                let all: Vec<Type> = parts(store, &ty).to_vec();
                let kept: Vec<Type> = all
                    .into_iter()
                    .filter(|part| {
                        part.is_dynamic()
                            || !parts(store, &instances).iter().any(|one| self.is_class_of(*part, *one) == Some(true))
                            || !named.iter().all(|(name, pattern)| self.surely_has(*part, *name, *pattern))
                    })
                    .collect();
                self.join(kept)
            }
            PatternKind::Sequence { patterns, star } => {
                let all: Vec<Type> = parts(store, &ty).to_vec();
                let may = |infer: &mut Self, part: &Type| infer.sequence_may(*part, patterns, *star, positive);
                let kept: Vec<Type> = all.into_iter().filter(|part| may(self, part)).collect();
                if positive || kept.len() > MOST_TUPLES {
                    return self.join(kept);
                }
                let left: Vec<Type> =
                    kept.into_iter().flat_map(|part| self.tuples_left(part, patterns, *star)).collect();
                self.join(left)
            }
            PatternKind::Mapping { keys, patterns } => {
                let all: Vec<Type> = parts(store, &ty).to_vec();
                let kept: Vec<Type> =
                    all.into_iter().filter(|part| self.mapping_may(*part, keys, patterns, positive)).collect();
                self.join(kept)
            }
        }
    }

    /// What a sequence pattern leaves of a tuple of known length, as tuples that have nothing in common: those whose first element
    /// it does not match, those whose first it matches and whose second it does not, and so on.
    fn tuples_left(&mut self, part: Type, patterns: &[PatternId], star: Option<u32>) -> Vec<Type> {
        let store = self.db.store();
        let Type::Tuple(id) = part else { return vec![part] };
        let tuple = store.tuple(id).clone();
        if star.is_some() || tuple.rest.is_some() || !tuple.suffix.is_empty() || tuple.prefix.len() != patterns.len() {
            return vec![part];
        }
        let mut left = Vec::new();
        let mut elements = tuple.prefix.to_vec();
        for (at, pattern) in patterns.iter().enumerate() {
            let element = elements[at];
            let rest = self.narrow_pattern(element, *pattern, false);
            if rest == element && left.is_empty() && elements == *tuple.prefix {
                return vec![part];
            }
            if rest != Type::Never {
                elements[at] = rest;
                let prefix = elements.clone().into();
                left.push(Type::Tuple(store.intern_tuple(crate::types::Tuple {
                    prefix,
                    rest: None,
                    suffix: [].into(),
                })));
            }
            elements[at] = self.narrow_pattern(element, *pattern, true);
            if elements[at] == Type::Never {
                break;
            }
        }
        left
    }

    /// Whether an attribute (or, without a name, the object itself) is sure to match a pattern.
    fn surely_has(&mut self, part: Type, name: Option<Name>, pattern: PatternId) -> bool {
        let ty = match name {
            None => Some(part),
            Some(name) => self.member(part, name),
        };
        ty.is_some_and(|ty| self.surely_matches(ty, pattern))
    }

    fn surely_matches(&mut self, ty: Type, pattern: PatternId) -> bool {
        let kind = &self.index.patterns[pattern].kind;
        if matches!(kind, PatternKind::As { pattern: None } | PatternKind::Star) {
            return true;
        }
        !ty.is_dynamic() && ty != Type::Never && self.narrow_pattern(ty, pattern, false) == Type::Never
    }

    /// Whether a part of the subject may still be meant where a sequence pattern matched, or did not.
    fn sequence_may(&mut self, part: Type, patterns: &[PatternId], star: Option<u32>, positive: bool) -> bool {
        if part.is_dynamic() || part == Type::Never {
            return true;
        }
        let fixed = patterns.len() - usize::from(star.is_some());
        if let Some(id) = self.tuple_shape(part) {
            let tuple = self.db.store().tuple(id).clone();
            let least = tuple.prefix.len() + tuple.suffix.len();
            let lengths_may = match (tuple.rest.is_some(), star.is_some()) {
                (false, false) => least == fixed,
                (false, true) => least >= fixed,
                (true, false) => least <= fixed,
                (true, true) => true,
            };
            if !lengths_may {
                return !positive;
            }
            if tuple.rest.is_some() {
                return positive || !(fixed == 0 && star.is_some());
            }
            let elements: Vec<(Type, PatternId)> = (0..patterns.len())
                .filter(|place| Some(*place) != star.map(|star| star as usize))
                .map(|place| {
                    let from_end = star.is_some_and(|star| place > star as usize);
                    let at = if from_end { least - (patterns.len() - place) } else { place };
                    (tuple.prefix[at], patterns[place])
                })
                .collect();
            return if positive {
                elements.into_iter().all(|(ty, pattern)| self.narrow_pattern(ty, pattern, true) != Type::Never)
            } else {
                !elements.into_iter().all(|(ty, pattern)| self.surely_matches(ty, pattern))
            };
        }
        if !self.may_be_sequence(part) {
            return !positive;
        }
        // `[*_]` takes all sequences.
        positive || !(fixed == 0 && star.is_some() && self.is_surely(part, "Sequence"))
    }

    /// Whether a part of the subject may still be meant where a mapping pattern matched, or did not.
    fn mapping_may(&mut self, part: Type, keys: &[ExprId], patterns: &[PatternId], positive: bool) -> bool {
        if part.is_dynamic() || matches!(part, Type::Never | Type::Var(_)) {
            return true;
        }
        let is_mapping = self.is_surely(part, "Mapping");
        if !is_mapping && !self.is_open_class(part) {
            return !positive;
        }
        if !positive {
            return !(keys.is_empty() && is_mapping);
        }
        // A tag may tell the dictionaries of a union apart.
        keys.iter().zip(patterns).all(|(key, pattern)| match self.typed_dict_item(part, *key) {
            Some(ty) => self.narrow_pattern(ty, *pattern, true) != Type::Never,
            None => true,
        })
    }

    /// What a name that a pattern captures is: the subject, walked down to where the name stands.
    pub(crate) fn captured(&mut self, whole: Type, wanted: PatternId) -> Type {
        let at = self.index.cases.partition_point(|case| *case < wanted);
        let Some(case) = self.index.cases.get(at).copied() else { return whole };
        self.capture_below(whole, case, wanted)
    }

    fn capture_below(&mut self, ty: Type, at: PatternId, wanted: PatternId) -> Type {
        let index = self.index;
        if at == wanted {
            if let PatternKind::Mapping { .. } = index.patterns[at].kind {
                let ty = self.narrow_pattern(ty, at, true);
                return self.rest_of_mapping(ty);
            }
            return self.narrow_pattern(ty, at, true);
        }
        // The first part that ends behind the wanted one holds it.
        let holds = |part: &PatternId| *part >= wanted;
        match &index.patterns[at].kind {
            PatternKind::As { pattern: Some(inner) } => self.capture_below(ty, *inner, wanted),
            PatternKind::Or(alternatives) => {
                let mut rest = ty;
                for alternative in alternatives {
                    if holds(alternative) {
                        return self.capture_below(rest, *alternative, wanted);
                    }
                    rest = self.narrow_pattern(rest, *alternative, false);
                }
                ty
            }
            PatternKind::Sequence { patterns, star } => {
                let Some(place) = patterns.iter().position(holds) else { return ty };
                let matched = self.narrow_pattern(ty, at, true);
                let number = |value: usize| u32::try_from(value).unwrap_or(u32::MAX);
                let step = leitmotiv_index::tree::UnpackStep {
                    index: number(place),
                    count: number(patterns.len()),
                    star: *star,
                };
                let element = self.unpack(matched, &[step]);
                self.capture_below(element, patterns[place], wanted)
            }
            PatternKind::Mapping { keys, patterns } => {
                let Some(place) = patterns.iter().position(holds) else { return ty };
                let matched = self.narrow_pattern(ty, at, true);
                let value = self.item_of_mapping(matched, keys[place]);
                self.capture_below(value, patterns[place], wanted)
            }
            PatternKind::Class { class, positional, keywords } => {
                let matched = self.narrow_pattern(ty, at, true);
                let class_type = self.quietly(*class);
                let instances = self.instances_of(class_type, *class);
                let named = self.pattern_attributes(instances, positional, keywords);
                let Some((name, pattern)) = named.into_iter().find(|(_, pattern)| holds(pattern)) else { return ty };
                let attribute = match name {
                    None => matched,
                    Some(name) => {
                        let found = self.member(matched, name);
                        found.unwrap_or_else(|| Type::Unknown(self.dynamic_cause()))
                    }
                };
                self.capture_below(attribute, pattern, wanted)
            }
            PatternKind::As { pattern: None }
            | PatternKind::Star
            | PatternKind::Value(_)
            | PatternKind::Singleton(_) => ty,
        }
    }

    fn item_of_mapping(&mut self, ty: Type, key: ExprId) -> Type {
        let all: Vec<Type> = parts(self.db.store(), &ty).to_vec();
        let mut found = Vec::with_capacity(all.len());
        for part in all {
            found.push(match self.typed_dict_item(part, key) {
                Some(ty) => ty,
                None => self.mapping_argument(part, 1),
            });
        }
        self.join(found)
    }
}

/// The names that a class's own `__match_args__` lists, empty for what is no text; `None` where it has none that can be read.
pub(crate) fn written_match_args(db: &dyn Db, file: File, class: ClassId) -> Option<&[Name]> {
    saw(db, file, Ask::WrittenMatchArgs(class));
    written_match_args_query(db, file, class)
}

#[salsa::tracked(returns(as_deref))]
fn written_match_args_query(db: &dyn Db, file: File, class: ClassId) -> Option<Box<[Name]>> {
    use leitmotiv_index::tree::{DefKind, Expr};
    let _reading = reading(db, file);
    let index = module_index(db, file);
    let name = db.names().find("__match_args__")?;
    let def = *index.scopes[index.classes[class].scope].symbols.get(&name)?.defs.first()?;
    let (DefKind::Assign { value, .. } | DefKind::Annotated { value: Some(value), .. }) = index.defs[def].kind else {
        return None;
    };
    let Expr::Tuple(items) = &index.exprs[value] else { return None };
    let texts = items.iter().map(|item| match index.exprs[*item] {
        Expr::Str(Some(text)) => text,
        _ => known::EMPTY,
    });
    Some(texts.collect())
}
