//! Patterns of `match` (PEP 634).

use leitmotiv_index::tree::{PatternId, PatternKind};

use crate::infer::Infer;
use crate::types::union::{filter, parts};
use crate::types::{Literal, Type};

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
            PatternKind::As { pattern: None } => {
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
                if positive {
                    if parts(store, &instances).iter().any(|part| part.is_dynamic()) {
                        return instances;
                    }
                    return self.intersect(ty, instances);
                }
                // Only a pattern that asks for nothing but the class rules the class out.
                let bare = positional
                    .iter()
                    .chain(keywords.iter().map(|(_, pattern)| pattern))
                    .all(|pattern| matches!(index.patterns[*pattern].kind, PatternKind::As { pattern: None }));
                if !bare || instances.is_dynamic() {
                    return ty;
                }
                filter(store, ty, |part| {
                    part.is_dynamic()
                        || !parts(store, &instances).iter().any(|one| self.is_class_of(part, *one) == Some(true))
                })
            }
            PatternKind::Sequence { .. } | PatternKind::Mapping { .. } => {
                if positive {
                    filter(store, ty, |part| part != Type::None)
                } else {
                    ty
                }
            }
            PatternKind::Star => ty,
        }
    }
}
