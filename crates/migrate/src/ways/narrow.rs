//! Checks that something is of a class, and attributes that a class declares.

use std::collections::BTreeSet;

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::definitions::classes;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::own_name;
use leitmotiv_engine::types::{ClassRef, Type};
use leitmotiv_syntax::edits::{Edit, line_end};
use leitmotiv_syntax::names::Name;
use leitmotiv_syntax::{TextRange, TextSize};

use super::declared::evaluated;
use super::held::Held;
use super::{Import, Way, Ways};
use crate::spell::spell;

impl Ways<'_> {
    /// It is asserted that the value is of a class.
    pub(super) fn narrow(&mut self, finding: &Finding, value: TextRange, to: &[ClassRef], way: &mut Way) -> Option<()> {
        let db = self.db;
        let instance = |class: ClassRef| Type::Instance(leitmotiv_engine::resolve::instance_of(db, class, &[]));
        // Named where it stands: by what the file has, or an import that cannot lead back to it.
        let spelled = |class: &ClassRef| {
            let spelled = spell(db, finding.file, instance(*class), evaluated(db, finding.file, value.start()))?;
            let is_name = spelled.text.chars().all(|char| char.is_alphanumeric() || matches!(char, '_' | '.'));
            (is_name && spelled.guarded.is_empty()).then_some(spelled)
        };
        let nearest = to.iter().find(|class| spelled(class).is_some_and(|spelled| spelled.imports.is_empty()));
        let class = nearest.or(to.first())?;
        let shown = classes::shown(db, *class);
        let others = match to.len() - 1 {
            0 => String::new(),
            1 => ", or another class that has it".to_owned(),
            more => format!(", or {more} other classes that have it"),
        };
        let record = &module_index(db, class.file).classes[class.class];
        let place = self.place(finding, class.file, record.name_range.start());
        way.title = format!("check that it is a `{shown}` ({place}){others}");
        "AssertionError where it is of another class".clone_into(&mut way.price);
        let code = self.code(finding.file);
        if let Some(spot) = code.spot(value)
            && let Some(held) = Held::of(&code, &spot, value)
            && let Some(spelled) = spelled(class)
        {
            let end = line_end(&code.text);
            let line = format!(
                "{}assert isinstance({}, {}){end}{}",
                held.before(spot.indent, end),
                held.name,
                spelled.text,
                spot.indent
            );
            way.edits = held.edits(finding.file, spot.range.start(), line);
            if !spelled.imports.is_empty() {
                let before = spot.range.start();
                way.import =
                    Some(Import { file: finding.file, before, names: spelled.imports, guarded: BTreeSet::new() });
            }
        }
        Some(())
    }

    /// An attribute is declared in a class: of what type, only a person knows.
    pub(super) fn attribute(&mut self, class: ClassRef, name: Name, way: &mut Way) -> Option<()> {
        let db = self.db;
        let name = db.names().text(name);
        let code = self.code(class.file);
        let record = &module_index(db, class.file).classes[class.class];
        let (place, indent) = code.class_start(record.name_range)?;
        let line = module_index(db, class.file).lines.0.index_of(place) + 1;
        let end = line_end(&code.text);
        let shown = classes::shown(db, class);
        way.title =
            format!("declare `{name}` in `{shown}`, if something else sets it ({}:{line})", class.file.path(db));
        way.edits = vec![(class.file, Edit::insert(place, format!("{name}: Any{end}{indent}")))];
        if own_name(db, class.file, db.names().intern("Any")).is_none() {
            way.import = Some(Import {
                file: class.file,
                before: TextSize::min(record.name_range.start(), place),
                names: BTreeSet::from([("typing".to_owned(), "Any".to_owned())]),
                guarded: BTreeSet::new(),
            });
        }
        Some(())
    }
}
