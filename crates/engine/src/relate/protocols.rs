//! Protocols (PEP 544): what fits has all members, and each as the protocol has it, as far as both sides say what they are.

use leitmotiv_syntax::names::{Name, known};

use crate::classes::{self, ClassKind};
use crate::functions::Declared;
use crate::infer::Infer;
use crate::problems::Clash;
use crate::types::substitute::has_variables;
use crate::types::{InstanceId, Type};

/// How much deeper a protocol's members count than the protocol, and from where on they are no longer compared.
const PROTOCOL_STEP: u32 = 7;
const DEEPEST: u32 = 21;

impl Infer<'_> {
    pub(super) fn fits_protocol(&self, given: Type, expected: InstanceId, depth: u32) -> bool {
        self.protocol_flaw(given, expected, depth).is_none()
    }

    /// Why a type does not fit a protocol: the member concerned and, where it is there, what about it does not fit.
    pub(crate) fn protocol_flaw(&self, given: Type, expected: InstanceId, depth: u32) -> Option<(Name, Option<Clash>)> {
        let db = self.db;
        let store = db.store();
        let mut infer = Infer::new(db, self.file, self.body);
        // Members of members are looked at only so far: protocols may speak of themselves.
        let depth = depth + PROTOCOL_STEP;
        for name in protocol_members(self, expected) {
            if name == known::HASH {
                // Nearly everything can be hashed; what cannot says so by `None`.
                continue;
            }
            if name == known::ITER
                && infer.member(given, name).is_none()
                && infer.member(given, known::GETITEM).is_some()
            {
                // Iteration by index, as it was before there were iterators, still works (language reference, "__iter__").
                continue;
            }
            let Some(member) = infer.member(given, name) else { return Some((name, None)) };
            if member == Type::None {
                return Some((name, None));
            }
            if depth < DEEPEST
                && let Some(want) = infer.member(Type::Instance(expected), name)
                && let Some(clash) = infer.member_clash(name, member, want, depth)
            {
                return Some((name, Some(clash)));
            }
        }
        // Elements, where both sides say what they are.
        let want = store.instance(expected);
        if let [wanted] = want.args.as_ref()
            && matches!(
                classes::shown(db, want.class),
                "Iterable" | "Iterator" | "Collection" | "Reversible" | "Container"
            )
            && let Some(element) = infer.element(given, false)
        {
            let clash = || Clash::Gives(*wanted, element);
            return (!self.fits_within(element, *wanted, depth)).then(|| (known::ITER, Some(clash())));
        }
        None
    }

    /// Why a member cannot stand for that of a protocol, as far as both say what they are.
    fn member_clash(&mut self, name: Name, have: Type, want: Type, depth: u32) -> Option<Clash> {
        let fits = |infer: &Self, have: Type, want: Type| {
            have.is_dynamic() || want.is_dynamic() || infer.fits_within(have, want, depth)
        };
        let (Type::Method(_) | Type::Function(_), Type::Method(_) | Type::Function(_) | Type::Callable(_)) =
            (want, have)
        else {
            let is_value = !matches!(want, Type::Method(_) | Type::Function(_) | Type::Callable(_) | Type::Property(_));
            let is_open = has_variables(self.db.store(), have) || has_variables(self.db.store(), want);
            return (is_value && !is_open && !fits(self, have, want)).then_some(Clash::Holds(want, have));
        };
        let (mine, theirs) = (self.said_signatures(have), self.said_signatures(want));
        // Which of several signatures stands for which is a long story; what is generic by itself, too.
        let ([mine], [theirs]) = (mine.as_slice(), theirs.as_slice()) else { return None };
        let is_open = |declared: &Declared| {
            let is_open = |ty: Type| has_variables(self.db.store(), ty);
            declared.params.iter().any(|param| is_open(param.ty)) || declared.returns.is_some_and(is_open)
        };
        if is_open(mine) || is_open(theirs) {
            return None;
        }
        if let Some(clash) = self.parameters_clash(name, mine, theirs, 0) {
            return Some(clash);
        }
        let (gives, wanted) = (mine.returns?, theirs.returns?);
        (!fits(self, gives, wanted)).then_some(Clash::Gives(wanted, gives))
    }

    fn said_signatures(&mut self, ty: Type) -> Vec<Declared> {
        let candidates = self.candidates(ty);
        let said = candidates.into_iter().map(|candidate| Declared {
            params: candidate.signature.params,
            returns: Some(candidate.signature.returns).filter(|_| !candidate.inferred),
            guard: None,
        });
        said.collect()
    }

    /// What stands for a protocol's variables when a type is used as that protocol.
    pub(crate) fn protocol_arguments(&mut self, given: Type, protocol: InstanceId) -> Vec<(Type, Type)> {
        let db = self.db;
        let store = db.store();
        let class = store.instance(protocol).class;
        let info = classes::info(db, class);
        let vars: Vec<Type> = info.params.iter().map(|var| Type::Var(*var)).collect();
        let generic = crate::module::instance_of(db, class, &vars);
        let mut pairs = Vec::new();
        for name in protocol_members(self, generic) {
            let Some(have) = self.member(given, name) else { continue };
            let Some(want) = self.member(Type::Instance(generic), name) else { continue };
            let (have, want) = (self.result_of(have), self.open_result_of(want));
            pairs.push((want, have));
        }
        pairs
    }
}

/// The members that a protocol asks for, its bases' included.
fn protocol_members(infer: &Infer<'_>, protocol: InstanceId) -> Vec<Name> {
    let db = infer.db;
    let store = db.store();
    let mut all = Vec::new();
    for entry in &classes::info(db, store.instance(protocol).class).mro {
        let class = store.instance(*entry).class;
        if classes::info(db, class).kind != ClassKind::Protocol {
            continue;
        }
        let index = crate::module::module_index(db, class.file);
        let scope = &index.scopes[index.classes[class.class].scope];
        let mut own: Vec<(leitmotiv_index::tree::DefId, Name)> =
            scope.symbols.iter().filter_map(|(name, symbol)| symbol.defs.first().map(|def| (*def, *name))).collect();
        own.sort_by_key(|(def, _)| *def);
        for (_, name) in own {
            let text = db.names().text(name);
            if !all.contains(&name)
                && !matches!(
                    text,
                    "__slots__"
                        | "__doc__"
                        | "__module__"
                        | "__class_getitem__"
                        | "__init__"
                        | "__new__"
                        | "__init_subclass__"
                )
            {
                all.push(name);
            }
        }
    }
    all
}
