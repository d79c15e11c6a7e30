//! How things are called: the signatures that a call may use, as they are remembered and handed on.

use std::rc::Rc;

use leitmotiv_index::tree::ParamKind;
use leitmotiv_syntax::names::Name;
use rustc_hash::FxHashMap;

use crate::types::substitute::Substitution;
use crate::types::{FunctionRef, Signature, Type};

/// A signature that a call may use.
#[derive(Debug, Clone)]
pub struct Candidate {
    /// What it takes; a bound first argument is already taken off.
    pub signature: Signature,
    /// The function behind it.
    pub function: Option<FunctionRef>,
    /// What messages call it, where there is no function.
    pub name: Option<Name>,
    /// How many parameters were taken off.
    pub skipped: usize,
    /// What stands for variables before the call's own arguments say more.
    pub start: Substitution,
    /// Whether the result is still to be inferred from the function's body.
    pub inferred: bool,
    /// The object that it is bound to.
    pub receiver: Option<Type>,
    /// Whether its first argument, where none was taken off, is what `Self` stands for in it: a method's is, and that of `__new__`.
    pub takes_self: bool,
    /// What its first parameter is annotated to be, where the object that it is bound to is none.
    pub refuses: Option<Type>,
}

/// The signatures that a call may use, in order; cheap to hand on.
#[derive(Debug, Clone, Default)]
pub(crate) struct Candidates {
    all: Rc<[Candidate]>,
    /// Of very many: those that take a literal first, by that literal.
    by_literal: Option<Rc<ByLiteral>>,
    /// Of very many: whether any has parameters that a call's arguments bring (`*args: P.args`, `*args: *Ts`).
    pub(crate) take_lists: bool,
}

/// Many signatures by the literal that each takes first.
#[derive(Debug)]
struct ByLiteral {
    of: FxHashMap<Type, Vec<usize>>,
    /// Those that take something else first.
    others: Vec<usize>,
}

impl Candidates {
    /// One signature.
    pub(crate) fn only(candidate: Candidate) -> Candidates {
        Candidates { all: Rc::new([candidate]), by_literal: None, take_lists: false }
    }

    /// Whether there are so many that they are told apart by their first argument.
    pub(crate) fn are_many(&self) -> bool {
        self.by_literal.is_some()
    }

    /// The numbers of the signatures that may take a literal as their first argument, in order; `None` where each is to be
    /// tried.
    pub(crate) fn for_literal(&self, literal: Type) -> Option<Vec<usize>> {
        let by_literal = self.by_literal.as_ref()?;
        let mut numbers = by_literal.of.get(&literal).cloned().unwrap_or_default();
        numbers.extend(&by_literal.others);
        numbers.sort_unstable();
        Some(numbers)
    }
}

impl std::ops::Deref for Candidates {
    type Target = [Candidate];

    fn deref(&self) -> &[Candidate] {
        &self.all
    }
}

impl FromIterator<Candidate> for Candidates {
    fn from_iter<I: IntoIterator<Item = Candidate>>(all: I) -> Candidates {
        let all: Rc<[Candidate]> = all.into_iter().collect();
        let by_literal = (all.len() > MANY).then(|| {
            let mut known = ByLiteral { of: FxHashMap::default(), others: Vec::new() };
            for (number, candidate) in all.iter().enumerate() {
                match candidate.literal_first() {
                    Some(literal) => known.of.entry(literal).or_default().push(number),
                    None => known.others.push(number),
                }
            }
            Rc::new(known)
        });
        let take_lists = all.iter().flat_map(|candidate| candidate.signature.params.iter()).any(|param| {
            matches!(param.kind, ParamKind::VarArgs | ParamKind::KwArgs) && matches!(param.ty, Type::Var(_))
        });
        Candidates { all, by_literal, take_lists }
    }
}

/// From how many signatures on they are remembered, and those passed over that take another literal first: of a function
/// with thousands of them, as are made for keys, nearly all are.
const MANY: usize = 16;

impl Candidate {
    /// The literal that it takes as its first argument by position, and nothing else.
    fn literal_first(&self) -> Option<Type> {
        let first = self.signature.params.first()?;
        let is_placed = matches!(first.kind, ParamKind::Normal | ParamKind::PositionalOnly);
        (is_placed && matches!(first.ty, Type::Literal(_))).then_some(first.ty)
    }

    /// A signature with no function behind it.
    pub(crate) fn plain(signature: Signature, name: Option<Name>) -> Candidate {
        Candidate {
            signature,
            function: None,
            name,
            skipped: 0,
            start: Substitution::new(),
            inferred: false,
            receiver: None,
            takes_self: false,
            refuses: None,
        }
    }
}

/// How a class is called.
#[derive(Clone)]
pub(crate) enum Constructor {
    /// By one of these signatures.
    Candidates(Candidates, Made),
    /// Of a typed dictionary: by keywords, or from another dictionary.
    TypedDict(Box<(Candidate, Candidate)>),
    /// With any arguments.
    Anything,
    /// In a way that gives this, whatever the arguments.
    Unknown(Type),
}

/// What a constructor's call gives.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub(crate) enum Made {
    /// An instance of the class: `__init__`.
    Instance,
    /// What it says: `__new__`.
    Result,
}
