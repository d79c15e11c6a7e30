//! What files let others see: what their texts say of classes, functions and names, and where something stands.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::outline::functions::DefaultOutline;
use leitmotiv_engine::outline::names::{has_stars, imports_below, module_names};
use leitmotiv_engine::outline::places::{Bound, bound_at};
use leitmotiv_engine::outline::{class, class_name, function, module_index, module_name, range_of};
use leitmotiv_engine::types::{Binding, ClassRef};
use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::{BodyShape, FunctionId};

use crate::fixture::{Source, database};

const FLEET: &str = "
import ports.tides
from crews import Crew, Pilot as Steersman
from weather import *

__all__ = ['Ferry', 'Crew']

class Ferry(Base):
    __slots__ = ('name', 'berth')
    berths: int = 3
    def __init__(self, name, *, berth=None):
        self.name = name
        self.berth = berth
        self.freight: list[str] = []
    @property
    def draught(self) -> float:
        return 2.5
    @draught.setter
    def draught(self, metres): ...
    @classmethod
    @deprecated('use build')
    def built(cls, year=1999): yield year
    def denies(self, other):
        if other: return False
        return None
    class Deck: ...

def longest(names: list[str], /, most=3) -> str:
    raise NotImplementedError

async def arrive(): pass

berths = 3
berths = Ferry
";

struct Fleet {
    _folder: tempfile::TempDir,
    db: Database,
    file: File,
}

impl Fleet {
    fn new() -> Fleet {
        let (folder, db) = database(&[Source { path: "fleet.py".into(), text: FLEET.into() }], None);
        let file = db.source(&folder.path().canonicalize().unwrap().join("fleet.py"));
        Fleet { _folder: folder, db, file }
    }

    fn class(&self, name: &str) -> ClassRef {
        let name = self.db.names().intern(name);
        let mut classes = module_index(&self.db, self.file).classes.iter();
        let (class, _) = classes.find(|(_, record)| record.name == name).unwrap();
        ClassRef { file: self.file, class }
    }

    /// The last function of a name.
    fn function(&self, name: &str) -> FunctionId {
        let name = self.db.names().intern(name);
        let mut functions = module_index(&self.db, self.file).functions.iter().rev();
        functions.find(|(_, record)| record.name == name).unwrap().0
    }

    fn text(&self, at: Anchor) -> &str {
        let range = range_of(&self.db, self.file, at);
        &FLEET[usize::from(range.start())..usize::from(range.end())]
    }
}

#[test]
fn a_class_tells_its_names_and_what_they_are_bound_by() {
    let fleet = Fleet::new();
    let outline = class(&fleet.db, fleet.class("Ferry"));
    let name = |text: &str| fleet.db.names().intern(text);
    let texts = |names: &[leitmotiv_syntax::names::Name]| {
        names.iter().map(|name| fleet.db.names().text(*name).to_owned()).collect::<Vec<_>>().join(" ")
    };
    assert_eq!(texts(&outline.of_body), "__slots__ berths __init__ draught built denies Deck");
    assert_eq!(texts(&outline.of_methods), "name berth freight");
    let berths = outline.get(name("berths"));
    assert!(berths.in_body && berths.is_field && berths.is_declared && !berths.by_methods && !berths.is_definition);
    let freight = outline.get(name("freight"));
    assert!(freight.by_methods && freight.is_declared && !freight.in_body && !freight.is_field);
    assert!(outline.get(name("draught")).has_setter && !outline.get(name("built")).has_setter);
    assert!(outline.get(name("Deck")).is_definition);
    assert!(outline.has(name("name")) && !outline.has(name("tide")));
    assert_eq!(outline.get(name("tide")), Default::default());
    assert!(outline.slots.may_have(name("berth")) && !outline.slots.may_have(name("tide")));
    assert_eq!(fleet.db.names().text(class_name(&fleet.db, fleet.class("Deck"))), "Deck");
}

#[test]
fn a_function_tells_its_parameters_and_how_it_is_bound() {
    let fleet = Fleet::new();
    let of = |name: &str| function(&fleet.db, fleet.file, fleet.function(name));
    let init = of("__init__");
    let defaults: Vec<DefaultOutline> = init.params.iter().map(|param| param.default).collect();
    assert_eq!(defaults, [DefaultOutline::Absent, DefaultOutline::Absent, DefaultOutline::None]);
    assert!(init.class.is_some() && !init.is_annotated && !init.is_generator);
    assert_eq!(init.binding, Binding::Instance);
    let built = of("built");
    assert_eq!(built.binding, Binding::Class);
    assert!(built.is_generator && built.params[1].default == DefaultOutline::Some);
    assert!(built.is_under(fleet.db.names().intern("classmethod")));
    let called = built.decorators[1].called.unwrap();
    assert_eq!(fleet.db.names().text(called), "deprecated");
    let longest = of("longest");
    assert!(longest.is_annotated && longest.params[0].is_annotated && !longest.params[1].is_annotated);
    assert_eq!((longest.binding, longest.shape), (Binding::Static, BodyShape::NotImplemented));
    assert!(of("denies").only_denies && !of("draught").is_async && of("arrive").is_async);
}

#[test]
fn a_module_tells_its_names_one_by_one() {
    let fleet = Fleet::new();
    let of = |name: &str| module_name(&fleet.db, fleet.file, fleet.db.names().intern(name));
    assert!(of("Ferry").is_bound && of("Ferry").class == Some(fleet.class("Ferry")));
    assert!(of("Crew").is_only_imported && of("Crew").is_exported == Some(true));
    assert!(of("Steersman").is_only_imported && of("Steersman").is_imported);
    assert_eq!(of("Steersman").is_exported, Some(false));
    assert_eq!(of("Crew").import.map(|(module, ..)| fleet.db.names().text(module)), Some("crews"));
    assert!(!of("tide").is_bound && !of("tide").is_only_imported);
    assert!(has_stars(&fleet.db, fleet.file));
    let all = module_names(&fleet.db, fleet.file);
    assert!(all.contains(&fleet.db.names().intern("longest")) && !all.contains(&fleet.db.names().intern("draught")));
    assert!(imports_below(&fleet.db, fleet.file, fleet.db.names().intern("ports")));
    assert!(!imports_below(&fleet.db, fleet.file, fleet.db.names().intern("port")));
}

#[test]
fn anchors_lead_to_what_stands_there() {
    let fleet = Fleet::new();
    let function = fleet.function("longest");
    assert_eq!(fleet.text(Anchor::Function(function)), "longest");
    assert_eq!(fleet.text(Anchor::Param(function, 1)), "most");
    assert_eq!(fleet.text(Anchor::Class(fleet.class("Deck").class)), "Deck");
    let ferry = fleet.class("Ferry").class;
    let at = Anchor::Attribute(ferry, fleet.db.names().intern("freight"), 0);
    assert_eq!(fleet.text(at), "freight");
    assert_eq!(bound_at(&fleet.db, fleet.file, at), Bound::Annotated { has_value: true });
    assert_eq!(bound_at(&fleet.db, fleet.file, Anchor::Function(function)), Bound::Function(function));
    assert_eq!(bound_at(&fleet.db, fleet.file, Anchor::Param(function, 0)), Bound::Other);
    assert_eq!(bound_at(&fleet.db, fleet.file, Anchor::Module), Bound::Other);
}
