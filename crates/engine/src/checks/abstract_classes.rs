//! The making of objects whose classes leave abstract methods open (library reference, "abc").

use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::ExprId;
use leitmotiv_syntax::names::Name;

use crate::definitions::classes;
use crate::infer::Infer;
use crate::types::{InstanceId, Type};

impl Infer<'_> {
    /// Reports the making of an object whose class leaves abstract methods open (library reference, "abc").
    pub(crate) fn check_abstract(&mut self, expr: ExprId, class: InstanceId) {
        // What is called by an object's own class, or one that is handed over, is mostly a subclass.
        if !self.checking || self.callee_of(expr).is_some_and(|callee| self.is_own_class(callee)) {
            return;
        }
        let db = self.db;
        let store = db.store();
        let record = store.instance(class).class;
        let info = classes::info(db, record);
        let is_bundled =
            |class: crate::types::ClassRef| class.file.origin(db) == leitmotiv_project::resolve::Origin::Bundled;
        if info.kind == classes::ClassKind::Protocol && !is_bundled(record) {
            let at = crate::outline::Site { file: record.file, at: Anchor::Class(record.class) };
            let class = Type::Instance(class);
            self.problem(expr, crate::problems::ProblemKind::ClassAbstract { class, missing: Vec::new(), at });
            return;
        }
        let Some(metaclass) = info.metaclass else { return };
        if info.unknown_base.is_some() || crate::outline::class_name(db, metaclass) != db.names().intern("ABCMeta") {
            return;
        }
        let mut settled: Vec<Name> = Vec::new();
        let mut missing: Vec<(Name, (crate::base::file::File, Anchor))> = Vec::new();
        for entry in &info.mro {
            let entry = store.instance(*entry).class;
            let is_general = db.names().text(entry.file.module(db)) == "collections.abc";
            if is_bundled(entry) && entry != record && !is_general {
                // What our stubs mark may be filled in by the interpreter; not so what is there to be derived from.
                break;
            }
            let outline = crate::outline::class(db, entry);
            for function in &outline.methods {
                let method = crate::outline::function(db, entry.file, *function);
                // `abstractproperty` and its kin as well.
                let mut marks = method.decorators.iter().filter_map(|decorator| decorator.bare);
                let is_abstract = marks.any(|name| db.names().text(name).starts_with("abstract"));
                if is_abstract && !settled.contains(&method.name) {
                    missing.push((method.name, (entry.file, Anchor::Function(*function))));
                }
            }
            settled.extend(outline.names.in_no_order());
        }
        let Some((_, (file, at))) = missing.first().copied() else { return };
        let at = crate::outline::Site { file, at };
        let missing = missing.into_iter().map(|(name, _)| name).collect();
        let class = Type::Instance(class);
        self.problem(expr, crate::problems::ProblemKind::ClassAbstract { class, missing, at });
    }
}
