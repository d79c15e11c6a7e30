//! Calls whose result is expected to be of some type: what stands for type variables is then taken from there first
//! (typing specification, "Bidirectional inference").

use leitmotiv_index::tree::{Expr, ExprId};

use super::given;
use crate::call::{Argument, Bind, Caller, Candidate};
use crate::context::candidates::Constructor;
use crate::infer::Infer;
use crate::types::Type;
use crate::types::substitute::{Substitution, has_variables};
use crate::types::union::parts;

impl Infer<'_> {
    /// Whether a call gives what is expected once the expectation says what stands for its variables.
    pub(crate) fn call_fits(&mut self, expr: ExprId, expected: Type) -> bool {
        let index = self.index;
        let Expr::Call { callee, args } = &index.exprs[expr] else { return false };
        let callee = self.quietly(*callee);
        let given = given(args);
        // One of several, or all of them: `fares.get(port, False)` where `Fare | Literal[False]` is expected.
        let wanted: Vec<Type> = match expected {
            Type::Union(_) => parts(self.db.store(), &expected).iter().copied().chain([expected]).collect(),
            one => vec![one],
        };
        wanted.into_iter().filter(|part| *part != Type::None).any(|part| match callee {
            Type::Class(id) => {
                let Constructor::Candidates(candidates, _) = self.constructor(id) else { return false };
                let made = Type::Instance(self.in_own_terms(id));
                self.any_gives(&candidates, Some(made), &given, part)
            }
            Type::Function(_) | Type::Method(_) => {
                let candidates = self.candidates(callee);
                self.any_gives(&candidates, None, &given, part)
            }
            _ => false,
        })
    }

    /// Whether the candidate that takes the arguments gives `expected`; `made` is what constructors make, in terms of
    /// their class's variables.
    fn any_gives(&mut self, candidates: &[Candidate], made: Option<Type>, given: &[Argument], expected: Type) -> bool {
        let store = self.db.store();
        let taken =
            candidates.iter().find(|candidate| self.speculate(|infer| infer.bind_arguments(candidate, given).is_ok()));
        let Some(candidate) = taken else { return false };
        let result = made.unwrap_or(candidate.signature.returns);
        // The variables of the class or function around are types here like any other.
        let is_open =
            crate::types::substitute::variables(store, expected).iter().any(|var| !self.is_own_variable(*var));
        if !has_variables(store, result) || is_open {
            return false;
        }
        let mut start = candidate.start.clone();
        self.expect(result, expected, &mut start);
        let candidate = Candidate { start, ..candidate.clone() };
        // What a lambda takes is another thing once it is expected.
        let bound = match given.iter().any(|argument| self.is_lambda(argument)) {
            true => self.afresh().bind_arguments(&candidate, given),
            false => self.bind_arguments(&candidate, given),
        };
        let Ok(solution) = bound else { return false };
        let result = match self.solved(solution.apply(store, result)) {
            Type::Instance(id) => self.normal_instance(id),
            result => result,
        };
        self.is_assignable(result, expected)
    }

    /// Notes what must stand for the variables of `result` so that it fits `expected`.
    fn expect(&mut self, result: Type, expected: Type, solution: &mut Substitution) {
        let store = self.db.store();
        match result {
            Type::Var(var) => solution.set(var, expected),
            Type::Instance(id) => {
                let instance = store.instance(id).clone();
                let Some(args) = self.expected_args(instance.class, expected, instance.args.len()) else { return };
                for (arg, wanted) in instance.args.iter().zip(args) {
                    if !wanted.is_dynamic() {
                        self.expect(*arg, wanted, solution);
                    }
                }
            }
            Type::Union(id) => {
                for part in store.union_parts(id).to_vec() {
                    self.expect(part, expected, solution);
                }
            }
            _ => self.unify(result, expected, solution),
        }
    }
}
