//! Ways out that make sense where they are offered: nobody changes the standard library, or a package that is installed, to be
//! rid of a finding.

use leitmotiv_project::resolve::Origin;
use leitmotiv_syntax::names::known;

use super::{Context, Remedy, Worded};
use crate::base::file::File;
use crate::problems::{Callee, ProblemKind, Reason};
use crate::types::{ClassRef, Type};

impl Context<'_, '_> {
    /// Takes out what asks to change code that is not the project's, and says more exactly what is to be done where that can
    /// be told.
    pub(super) fn sensible_ways(&mut self, kind: &ProblemKind, worded: &mut Worded) {
        let foreign = self.out_of_reach(kind);
        worded.remedies.retain(|remedy| !foreign.contains(&remedy.id));
        if let Some(title) = self.conversion(kind) {
            match worded.remedies.iter_mut().find(|remedy| remedy.id == "convert") {
                Some(remedy) => remedy.title = title,
                None => worded.remedies.insert(0, convert(title)),
            }
        }
        if worded.remedies.is_empty() {
            worded.remedies.push(convert("pass another object, or convert it first".to_owned()));
        }
    }

    fn is_ours(&self, file: File) -> bool {
        matches!(file.origin(self.db()), Origin::Project | Origin::LocalStub)
    }

    fn is_own_class(&self, ty: Type) -> bool {
        let store = self.db().store();
        match ty {
            Type::Class(id) => self.is_ours(store.instance(id).class.file),
            Type::Module(file) => self.is_ours(file),
            Type::Union(id) => store.union_parts(id).iter().all(|part| self.is_own_class(*part)),
            ty => self.infer.nominal(ty).is_none_or(|id| self.is_ours(store.instance(id).class.file)),
        }
    }

    /// The ways, by their names, that would change what is not the project's.
    fn out_of_reach(&self, kind: &ProblemKind) -> &'static [&'static str] {
        let is_foreign = |callee: &Callee| callee.at.or(callee.param).is_some_and(|site| !self.is_ours(site.file));
        match kind {
            ProblemKind::CallArgument { callee, .. } if is_foreign(callee) => &["widen"],
            ProblemKind::NoneArgument { callee, .. } if is_foreign(callee) => &["parameter"],
            ProblemKind::CallSurplus { callee, .. } | ProblemKind::CallKeyword { callee, .. } if is_foreign(callee) => {
                &["take"]
            }
            ProblemKind::CallMissing { callee, .. } if is_foreign(callee) => &["default"],
            ProblemKind::CallOverload { callee, .. } if is_foreign(callee) => &["form"],
            ProblemKind::IndexUnsupported { object, .. } if !self.is_own_class(*object) => &["define"],
            ProblemKind::MemberAbsent { object, .. } if !self.is_own_class(*object) => &["declare"],
            ProblemKind::Explained { inner, reason: Reason::Protocol { class: ClassRef { file, .. }, .. } } => {
                let given = given(inner).is_none_or(|(given, _)| self.is_own_class(given));
                match (given, self.is_ours(*file)) {
                    (true, true) => &[],
                    (true, false) => &["ask-less"],
                    (false, true) => &["give"],
                    (false, false) => &["give", "ask-less"],
                }
            }
            ProblemKind::Explained { inner, reason: Reason::Invariant { .. } } => match &**inner {
                ProblemKind::CallArgument { callee, .. } if is_foreign(callee) => &["base"],
                _ => &[],
            },
            _ => &[],
        }
    }

    /// Between text and bytes there is one way.
    fn conversion(&self, kind: &ProblemKind) -> Option<String> {
        let (given, expected) = match kind {
            ProblemKind::Explained { inner, .. } => given(inner)?,
            kind => given(kind)?,
        };
        let infer = &self.infer;
        let (text, bytes) = (infer.builtin(known::STR), infer.builtin(known::BYTES));
        let is_only = |of: Type| !given.is_dynamic() && given != Type::Never && infer.is_assignable(given, of);
        if is_only(text) && !expected.is_dynamic() && infer.is_assignable(bytes, expected) {
            return Some("encode the text: `.encode()`".to_owned());
        }
        if is_only(bytes) && !expected.is_dynamic() && infer.is_assignable(text, expected) {
            return Some("decode the bytes: `.decode()`".to_owned());
        }
        None
    }
}

/// What is given, and what is asked for.
fn given(kind: &ProblemKind) -> Option<(Type, Type)> {
    match kind {
        ProblemKind::CallArgument { expected, given, .. } => Some((*given, *expected)),
        ProblemKind::ValueAssign { declared, given, .. } | ProblemKind::ValueReturn { declared, given, .. } => {
            Some((*given, *declared))
        }
        _ => None,
    }
}

fn convert(title: String) -> Remedy {
    Remedy { id: "convert", title, price: "one place changes", safe: false, act: None }
}
