//! What speaks of types alone, asked without any expression: members, calls with bare types, what fits.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::context::TypeContext;
use leitmotiv_engine::resolve::scope_type;
use leitmotiv_engine::types::Type;
use leitmotiv_engine::types::display::show;
use leitmotiv_index::tree::{BodyId, ScopeId};

use crate::fixture::{Source, database};

const HARBOUR: &str = "
from typing import Callable, Generic, Protocol, TypeVar, overload

T = TypeVar('T')

class Ferry:
    berths = 3
    def label(self, loud: bool = False) -> str: ...
    @classmethod
    def built(cls, year: int) -> 'Ferry': ...
    @property
    def draught(self) -> float: ...
    def __getitem__(self, deck: int) -> list[str]: ...

class Barge(Ferry): ...

class Labelled(Protocol):
    def label(self) -> str: ...

class Hold(Generic[T]):
    def __init__(self, freight: T) -> None: ...
    def freight(self) -> T: ...

@overload
def fare(zone: int) -> int: ...
@overload
def fare(zone: str) -> str: ...
def fare(zone): ...

def first(of: list[T], other: T) -> T: ...
def named(*, port: str) -> None: ...

ferry: Ferry
barge: Barge
labelled: Labelled
hold: Hold[int]
number: int
text: str
numbers: list[int]
either: int | str
takes_ferry: Callable[[Ferry], str]
takes_barge: Callable[[Barge], str]
";

struct Harbour {
    _folder: tempfile::TempDir,
    db: Database,
    file: File,
}

impl Harbour {
    fn new() -> Harbour {
        let (folder, db) = database(&[Source { path: "harbour.py".into(), text: HARBOUR.into() }], None);
        let file = db.source(&folder.path().canonicalize().unwrap().join("harbour.py"));
        Harbour { _folder: folder, db, file }
    }

    fn context(&self) -> TypeContext<'_> {
        TypeContext::new(&self.db, self.file, BodyId(0))
    }

    fn of(&self, name: &str) -> Type {
        scope_type(&self.db, self.file, ScopeId(0), self.db.names().intern(name))
    }

    /// What calling a name with values of the types of other names gives, as it is shown; `refused` where it does not take them.
    fn called(&self, name: &str, args: &[&str]) -> String {
        let args: Vec<Type> = args.iter().map(|arg| self.of(arg)).collect();
        self.context().try_call(self.of(name), &args).map_or("refused".to_owned(), |ty| show(&self.db, ty))
    }

    /// What an attribute of a name's value is, as it is shown; `absent` where it has none.
    fn read(&self, name: &str, attribute: &str) -> String {
        let attribute = self.db.names().intern(attribute);
        self.context().member(self.of(name), attribute).map_or("absent".to_owned(), |ty| show(&self.db, ty))
    }
}

#[test]
fn calls_with_bare_types_choose_signatures_and_solve_variables() {
    let harbour = Harbour::new();
    assert_eq!(harbour.called("fare", &["number"]), "int");
    assert_eq!(harbour.called("fare", &["text"]), "str");
    assert_eq!(harbour.called("fare", &["either"]), "int | str");
    assert_eq!(harbour.called("fare", &["ferry"]), "refused");
    assert_eq!(harbour.called("first", &["numbers", "number"]), "int");
    assert_eq!(harbour.called("first", &["number", "number"]), "refused");
    assert_eq!(harbour.called("named", &["text"]), "refused");
    assert_eq!(harbour.called("number", &[]), "refused");
}

#[test]
fn classes_are_called_to_make_their_objects() {
    let harbour = Harbour::new();
    assert_eq!(harbour.called("Ferry", &[]), "Ferry");
    assert_eq!(harbour.called("Hold", &["text"]), "Hold[str]");
}

#[test]
fn members_are_bound_to_what_they_are_read_from() {
    let harbour = Harbour::new();
    assert_eq!(harbour.read("ferry", "berths"), "int");
    assert_eq!(harbour.read("barge", "draught"), "float");
    assert_eq!(harbour.read("barge", "label"), "(loud: bool = ...) -> str");
    assert_eq!(harbour.read("Barge", "built"), "(year: int) -> Ferry");
    let mut context = harbour.context();
    let freight = context.member(harbour.of("hold"), harbour.db.names().intern("freight")).unwrap();
    assert_eq!(show(&harbour.db, context.call_with(freight, &[])), "int");
    assert_eq!(harbour.read("ferry", "tide"), "absent");
}

#[test]
fn what_fits_is_told_without_a_body() {
    let harbour = Harbour::new();
    let fits = |given: &str, expected: &str| harbour.context().is_assignable(harbour.of(given), harbour.of(expected));
    assert!(fits("barge", "ferry") && !fits("ferry", "barge"));
    assert!(fits("ferry", "labelled") && !fits("text", "labelled"));
    assert!(fits("number", "either") && !fits("either", "number"));
    // What takes any ferry takes a barge.
    assert!(fits("takes_ferry", "takes_barge") && !fits("takes_barge", "takes_ferry"));
}
