//! Definitions of overloaded functions (typing specification, "Overload definition").

use leitmotiv_index::tree::{BodyShape, DefKind, FunctionId};
use leitmotiv_syntax::names::known;

use crate::definitions::classes::{self, ClassKind};
use crate::definitions::functions::{self, Declared};
use crate::infer::Infer;
use crate::problems::{BadOverload, ProblemKind};
use crate::types::{Binding, ClassRef};

/// Each signature is compared with so many before it: nobody writes more by hand. Said in docs/architecture.md.
const MOST_COMPARED: usize = 100;

impl Infer<'_> {
    /// Looks at the signatures of a function and at the definition behind them; told at its first signature.
    pub(crate) fn check_overloads(&mut self, function: FunctionId) {
        let index = self.index;
        let signatures = crate::outline::functions::signatures(self.db, self.file, self.index, function);
        let is_overload = |of: FunctionId| {
            index.functions[of].decorators.iter().any(|at| index.decorator_name(*at) == Some(known::OVERLOAD))
        };
        if signatures.first() != Some(&function) || !is_overload(function) {
            return;
        }
        let record = &index.functions[function];
        let name = record.name;
        let tell = |infer: &mut Self, at: FunctionId, why: BadOverload, other: Option<FunctionId>| {
            let at_other = other.map(|other| infer.index.functions[other].name_range);
            let range = infer.index.functions[at].name_range;
            infer.problem_at(range, None, ProblemKind::Overloads { name, why, at: at_other });
        };
        // What makes another class of the one around may bring the definition.
        let is_remade = record.class.is_some_and(|class| {
            index.classes[class]
                .decorators
                .iter()
                .any(|mark| crate::definitions::classes::remakes(self.db, self.file, *mark))
        });
        if is_remade {
            return;
        }
        if signatures.len() == 1 {
            tell(self, function, BadOverload::Single, None);
            return;
        }
        let binding = |of: FunctionId| crate::outline::functions::binding(self.db, self.index, of);
        if let Some(other) = signatures.iter().find(|one| binding(**one) != binding(function)) {
            tell(self, function, BadOverload::Binding, Some(*other));
            return;
        }
        let defs = index.scopes[index.defs[record.def].scope].symbols.get(&name).map(|symbol| symbol.defs.as_slice());
        let last = signatures.last().map_or(record.def, |last| index.functions[*last].def);
        let definition = defs.unwrap_or_default().iter().find_map(|def| match index.defs[*def].kind {
            DefKind::Function(other) => {
                let is_live = *def > last && !index.defs[*def].reach.is_never();
                Some(other).filter(|other| is_live && !is_overload(*other))
            }
            _ => None,
        });
        let is_bound_otherwise =
            defs.unwrap_or_default().iter().any(|def| !matches!(index.defs[*def].kind, DefKind::Function(_)));
        if definition.is_none() && !is_bound_otherwise && !self.may_lack_definition(function) {
            tell(self, function, BadOverload::Undefined, None);
        }
        let skipped = match record.class {
            Some(_) => {
                usize::from(crate::outline::functions::binding(self.db, self.index, function) != Binding::Static)
            }
            None => 0,
        };
        let all: Vec<&Declared> =
            signatures.iter().map(|signature| functions::declared(self.db, self.file, *signature)).collect();
        if let Some(definition) = definition.filter(|definition| index.functions[*definition].decorators.is_empty()) {
            let own = functions::declared(self.db, self.file, definition);
            for (signature, declared) in signatures.iter().zip(&all) {
                if self.parameters_clash(name, own, declared, skipped).is_some_and(|clash| !clash.is_of_names()) {
                    tell(self, *signature, BadOverload::Refused, Some(definition));
                } else if let (Some(gives), Some(said)) = (declared.returns, own.returns)
                    && self.does_not_fit(gives, said)
                    && self.does_not_fit(said, gives)
                {
                    tell(self, *signature, BadOverload::Result(gives, said), Some(definition));
                }
            }
        }
        // A receiver that is annotated chooses, too.
        let has_open_receiver = signatures.iter().any(|signature| {
            skipped > 0 && index.functions[*signature].params.first().is_some_and(|first| first.annotation.is_some())
        });
        if has_open_receiver || all.iter().any(|declared| self.is_open_signature(declared, skipped)) {
            return;
        }
        let mut above_is_told: Vec<usize> = Vec::new();
        // What only stands in for others is no reason to choose the one above.
        self.plainly = true;
        for (place, later) in all.iter().enumerate() {
            let nearest = place.saturating_sub(MOST_COMPARED);
            let takes_any = later.params.iter().any(|param| {
                matches!(
                    param.kind,
                    leitmotiv_index::tree::ParamKind::VarArgs | leitmotiv_index::tree::ParamKind::KwArgs
                )
            });
            let above = (nearest..place)
                .find(|above| !takes_any && self.parameters_clash(name, all[*above], later, skipped).is_none());
            if let Some(above) = above {
                tell(self, signatures[place], BadOverload::Hidden, Some(signatures[above]));
            }
            let overlapped = (nearest..place).find(|above| {
                let (Some(gives), Some(other)) = (all[*above].returns, later.returns) else { return false };
                !takes_any
                    && self.does_not_fit(gives, other)
                    && self.parameters_clash(name, later, all[*above], skipped).is_none()
                    && !above_is_told.contains(above)
            });
            if let Some(above) = overlapped
                && let (Some(gives), Some(other)) = (all[above].returns, later.returns)
            {
                above_is_told.push(above);
                tell(self, signatures[above], BadOverload::Overlap(gives, other), Some(signatures[place]));
            }
        }
        self.plainly = false;
    }

    /// In stubs and protocols, and of abstract methods, signatures are all there is.
    fn may_lack_definition(&self, function: FunctionId) -> bool {
        let record = &self.index.functions[function];
        let is_protocol = record.class.is_some_and(|class| {
            classes::info(self.db, ClassRef { file: self.file, class }).kind == ClassKind::Protocol
        });
        let is_abstract =
            record.decorators.iter().any(|at| self.index.decorator_name(*at) == Some(known::ABSTRACTMETHOD));
        self.file.is_stub(self.db)
            || is_protocol
            || is_abstract
            || self.is_for_checkers(record.name_range)
            || record.shape == BodyShape::Code
    }

    fn is_for_checkers(&self, range: leitmotiv_syntax::TextRange) -> bool {
        self.index.checking_only.iter().any(|body| body.contains_range(range))
    }
}
