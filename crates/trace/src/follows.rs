//! Results that go with what a parameter is given: by type, or by which of a few words or truth values.

use std::collections::BTreeMap;

use crate::records::{Function, Outcome};
use crate::seen::{Bases, Seen, together};

/// From so many kinds of values on, no pairs are told.
const MOST: usize = 6;

/// A result that goes with a parameter.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Follows {
    /// The parameter.
    pub param: String,
    /// What was passed, and what came of it.
    pub pairs: Vec<(Seen, Seen)>,
    /// Whether what came was always of the type that was passed.
    pub is_same: bool,
}

/// The parameter that a function's result goes with: more than one kind of thing was given back, each value of the parameter always went
/// with one of them, and at least two of them went with different values. The first such parameter; `None` where there is none.
#[must_use]
pub fn follows(function: &Function) -> Option<Follows> {
    let one = |all: &[Seen]| together(all, &Bases::default());
    let is_method = function.name.contains('.');
    let calls = || function.current_calls().filter(|call| call.outcome == Outcome::Returned);
    let kinds = one(&calls().filter_map(|call| call.ty.as_ref().map(Seen::plain)).collect::<Vec<Seen>>());
    if kinds.len() < 2 {
        return None;
    }
    for (place, name) in function.params.iter().enumerate() {
        if name.starts_with('*') || is_method && place == 0 {
            continue;
        }
        // Told apart by value where the function names those values, else by type.
        for by_value in [false, true] {
            let mut pairs: BTreeMap<Seen, Vec<Seen>> = BTreeMap::new();
            for call in calls() {
                let (Some(Some(passed)), Some(came)) = (call.args.get(place), &call.ty) else { continue };
                let passed = if by_value { passed.clone() } else { passed.plain() };
                let came = came.plain();
                let known = pairs.entry(passed).or_default();
                if !known.contains(&came) {
                    known.push(came);
                }
            }
            let is_told_apart = pairs.values().all(|came| one(came).len() == 1);
            let results: Vec<Seen> = pairs.values().flat_map(|came| one(came)).collect();
            let is_varied = results.iter().any(|result| *result != results[0]);
            if pairs.len() < 2 || pairs.len() > MOST || !is_told_apart || !is_varied {
                continue;
            }
            let is_same = pairs.iter().all(|(passed, came)| *came == [passed.plain()]);
            let pairs = pairs.into_iter().map(|(passed, came)| (passed, one(&came)[0].clone())).collect();
            return Some(Follows { param: name.clone(), pairs, is_same });
        }
    }
    None
}

/// A value as it stands in a literal type (PEP 586); `None` where no single value is told.
#[must_use]
pub fn literal(seen: &Seen) -> Option<String> {
    match seen {
        Seen::Bool(Some(true)) => Some("True".to_owned()),
        Seen::Bool(Some(false)) => Some("False".to_owned()),
        Seen::Word(word) => Some(format!("{word:?}")),
        _ => None,
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::records::Call;

    fn builtin(name: &str) -> Seen {
        Seen::Class("builtins".to_owned(), name.to_owned())
    }

    fn function(calls: &[(Seen, Seen)]) -> Function {
        let calls = calls.iter().map(|(passed, came)| Call {
            site: None,
            args: vec![Some(passed.clone())],
            outcome: Outcome::Returned,
            ty: Some(came.clone()),
            count: 1,
            last: 0,
        });
        Function {
            path: "skerry/store.py".to_owned(),
            name: "read".to_owned(),
            module: "skerry.store".to_owned(),
            line: 1,
            last: 2,
            params: vec!["mode".to_owned()],
            is_current: true,
            calls: calls.collect(),
            attributes: Vec::new(),
        }
    }

    #[test]
    fn results_that_go_with_a_parameter_are_found() {
        let word = |word: &str| Seen::Word(word.to_owned());
        let by_word = function(&[(word("text"), builtin("str")), (word("raw"), builtin("bytes"))]);
        let found = follows(&by_word).unwrap();
        assert_eq!(found.pairs[0], (word("raw"), builtin("bytes")));
        assert_eq!(literal(&found.pairs[0].0).unwrap(), "\"raw\"");
        assert!(!found.is_same);
        let flag = [(Seen::Bool(Some(true)), builtin("str")), (Seen::Bool(Some(false)), Seen::None)];
        assert_eq!(follows(&function(&flag)).unwrap().pairs[1].0, Seen::Bool(Some(true)));
        let same = [(builtin("str"), builtin("str")), (builtin("bytes"), builtin("bytes"))];
        assert!(follows(&function(&same)).unwrap().is_same);
    }

    #[test]
    fn what_varies_by_itself_goes_with_nothing() {
        let mixed = [(builtin("str"), builtin("str")), (builtin("str"), Seen::None), (Seen::None, Seen::None)];
        assert_eq!(follows(&function(&mixed)), None);
        assert_eq!(follows(&function(&[(builtin("str"), builtin("int")), (Seen::None, builtin("int"))])), None);
    }
}
