//! What the walk makes of a text, looked at in its records.

use leitmotiv_syntax::names::Names;

use super::{Target, index_module};
use crate::tree::*;

fn indexed(text: &str) -> (Names, ModuleIndex) {
    let names = Names::new();
    let target = Target { version: (3, 11), platform: "linux".into(), is_stub: false };
    let index = index_module(text, &names, &target);
    (names, index)
}

/// The texts at some ranges.
fn texts<'a>(text: &'a str, ranges: &[leitmotiv_syntax::TextRange]) -> Vec<&'a str> {
    ranges.iter().map(|range| &text[usize::from(range.start())..usize::from(range.end())]).collect()
}

/// How each statement is reached, with its kind in a word.
fn reaches(index: &ModuleIndex) -> Vec<(&'static str, ReachId)> {
    let kind = |statement: &Statement| match statement.kind {
        StatementKind::Test(_) => "test",
        StatementKind::Expr(_) => "expr",
        StatementKind::Assign { .. } => "assign",
        StatementKind::Chain { .. } => "chain",
        StatementKind::Unmatched { .. } => "unmatched",
        _ => "other",
    };
    index.bodies[BodyId(0)].statements.iter().map(|statement| (kind(statement), statement.reach)).collect()
}

/// How each assignment of the module is reached.
fn assigns(index: &ModuleIndex) -> Vec<ReachId> {
    reaches(index).into_iter().filter(|(kind, _)| *kind == "assign").map(|(_, reach)| reach).collect()
}

#[test]
fn branches_that_the_version_decides_are_never_reached() {
    let (_, index) = indexed("import sys\nif sys.version_info >= (3, 12):\n    x = 1\nelse:\n    y = 2\n");
    assert_eq!(assigns(&index), [ReachId::EXCLUDED, ReachId::ALWAYS]);
}

#[test]
fn the_version_as_one_number_decides_as_well() {
    let (_, index) =
        indexed("import sys\nif sys.hexversion >= 0x30D00A2:\n    x = 1\nif sys.hexversion < 0x3090000:\n    x = 2\n");
    assert_eq!(assigns(&index), [ReachId::EXCLUDED, ReachId::EXCLUDED]);
    let (_, index) = indexed("import sys\nif sys.hexversion >= 0x30B00F0:\n    x = 1\n");
    assert_eq!(assigns(&index), [ReachId::ALWAYS]);
}

#[test]
fn the_platform_decides_as_well() {
    let (_, index) = indexed("import sys\nif sys.platform.startswith('win'):\n    x = 1\nx = 2\n");
    assert_eq!(assigns(&index), [ReachId::EXCLUDED, ReachId::ALWAYS]);
}

#[test]
fn constants_of_the_version_are_kept_until_they_are_no_longer_sure() {
    let text = "import sys\nNEW = sys.version_info[0] >= 3\nOLD = not NEW\nTWICE = NEW\nTWICE = 4\nFLAG = True\n";
    let (names, index) = indexed(text);
    let constant = |name: &str| index.constants.get(&names.intern(name)).copied();
    assert_eq!(constant("NEW"), Some(Some(true)));
    assert_eq!(constant("OLD"), Some(Some(false)));
    assert_eq!(constant("TWICE"), Some(None));
    assert_eq!(constant("FLAG"), None);
}

#[test]
fn a_flag_set_where_the_version_says_so_is_a_constant() {
    let (names, index) = indexed("import sys\nif sys.version_info < (3,):\n    NEW = False\nelse:\n    NEW = True\n");
    assert_eq!(index.constants.get(&names.intern("NEW")).copied(), Some(Some(true)));
}

#[test]
fn an_imported_condition_is_left_to_the_engine() {
    let (_, index) = indexed("from compat import NEW\nif NEW:\n    x = 1\n");
    assert!(index.reaches.iter().any(|(_, reach)| matches!(reach, Reach::Constant { positive: true, .. })));
    let (_, index) = indexed("def f(new):\n    if new:\n        return 1\n");
    assert!(!index.reaches.iter().any(|(_, reach)| matches!(reach, Reach::Constant { .. })));
}

#[test]
fn what_is_to_fail_is_marked() {
    let text =
        "with raises(TypeError):\n    1 + 'x'\nself.assertRaises(TypeError, lambda: 2)\nwith open('x'):\n    3\n";
    let (_, index) = indexed(text);
    assert_eq!(texts(text, &index.failing), ["1 + 'x'", "(TypeError, lambda: 2)"]);
}

#[test]
fn bodies_for_type_checking_are_marked() {
    let text = "import typing\nif typing.TYPE_CHECKING:\n    import ferry\nelse:\n    ferry = None\n";
    let (_, index) = indexed(text);
    assert_eq!(texts(text, &index.checking_only), ["import ferry"]);
}

#[test]
fn handlers_tell_what_their_block_expects() {
    let text = "try:\n    import ferry\nexcept ImportError:\n    pass\ntry:\n    ferry.tide\nexcept AttributeError:\n    pass\ntry:\n    ferry.go()\nexcept Exception:\n    pass\n";
    let (_, index) = indexed(text);
    assert_eq!(texts(text, &index.guarded), ["import ferry", "ferry.go()"]);
    assert_eq!(texts(text, &index.guarded_members), ["ferry.tide"]);
    assert_eq!(texts(text, &index.guarded_none), ["ferry.go()"]);
}

#[test]
fn chains_without_else_are_kept_with_their_tests() {
    let (_, index) =
        indexed("if a == 1:\n    x\nelif a == 2:\n    y\nif b:\n    z\nif c:\n    x\nelif d:\n    y\nelse:\n    z\n");
    let chains: Vec<usize> = index.bodies[BodyId(0)]
        .statements
        .iter()
        .filter_map(
            |statement| if let StatementKind::Chain { tests, .. } = &statement.kind { Some(tests.len()) } else { None },
        )
        .collect();
    assert_eq!(chains, [2]);
}

#[test]
fn a_chain_that_asks_about_one_place_and_goes_on_has_a_rest() {
    let has_rest = |text: &str| {
        let (_, index) = indexed(text);
        let is_rest = |statement: &Statement| matches!(statement.kind, StatementKind::Chain { rest: Some(_), .. });
        index.bodies[BodyId(0)].statements.iter().any(is_rest)
    };
    assert!(has_rest("if a == 1:\n    x\nelif a == 2:\n    y\n"));
    assert!(has_rest("if isinstance(a.b, int):\n    x\nelif isinstance(a.b, str):\n    raise x\n"));
    assert!(!has_rest("if a == 1:\n    x\nelif b == 2:\n    y\n"));
    assert!(!has_rest("if a == 1:\n    raise x\nelif a == 2:\n    raise y\n"));
}

#[test]
fn a_match_is_complete_with_a_case_for_everything() {
    let unmatched = |text: &str| reaches(&indexed(text).1).iter().filter(|(kind, _)| *kind == "unmatched").count();
    assert_eq!(unmatched("match x:\n    case 1:\n        pass\n"), 1);
    assert_eq!(unmatched("match x:\n    case 1:\n        pass\n    case _:\n        pass\n"), 0);
    assert_eq!(unmatched("match x:\n    case _ if x:\n        pass\n"), 1);
}

#[test]
fn attributes_of_other_objects_are_patches() {
    let (names, index) = indexed(
        "class A:\n    def __init__(self, other):\n        self.own = 1\n        other.theirs = 2\nA.late = 3\n",
    );
    let mut patched: Vec<&str> = index.patched.keys().map(|name| names.text(*name)).collect();
    patched.sort_unstable();
    assert_eq!(patched, ["late", "theirs"]);
    assert!(index.classes.iter().next().unwrap().1.attributes.contains_key(&names.intern("own")));
}

#[test]
fn casts_are_those_of_the_typing_module() {
    let quoted = |text: &str| {
        let (_, index) = indexed(text);
        index.exprs.iter().any(|(_, expr)| matches!(expr, Expr::Str(_)))
    };
    assert!(!quoted("import typing as t\nt.cast('Vessel', x)\n"));
    assert!(!quoted("from typing import cast\ncast('Vessel', x)\n"));
    assert!(quoted("import ffi\nffi.cast('Vessel', x)\n"));
}

#[test]
fn escapes_in_a_quoted_annotation_are_those_of_the_string() {
    let (names, index) = indexed("from typing import Literal\nx: \"Literal['\\\\n']\" = 1\n");
    let newline = names.intern("\n");
    assert!(index.exprs.iter().any(|(_, expr)| *expr == Expr::Str(Some(newline))));
}

#[test]
fn items_by_names_are_places() {
    let (_, index) = indexed("def f(d, k):\n    if d[k] is not None:\n        d[k].upper()\n");
    let known =
        index.exprs.iter().any(|(_, expr)| matches!(expr, Expr::Subscript { place, .. } if place.known().is_some()));
    assert!(known);
}

#[test]
fn exports_are_read_from_the_text() {
    let (names, index) = indexed("__all__ = ['a']\n__all__ += ['b']\n__all__.append('c')\n");
    let exported: Vec<&str> =
        index.exported.as_deref().unwrap_or_default().iter().map(|name| names.text(*name)).collect();
    assert_eq!(exported, ["a", "b", "c"]);
    assert_eq!(indexed("__all__ = names()\n").1.exported, None);
}

#[test]
fn names_of_the_class_that_a_receiver_belongs_to_are_its_own() {
    let (_, index) = indexed("class A:\n    def f(this):\n        this.__dict__.update(x=1)\n");
    assert!(index.classes.iter().next().unwrap().1.makes_attributes);
    assert_eq!(index.classes.iter().next().unwrap().1.methods.len(), 1);
}

#[test]
fn reading_a_namespace_makes_no_attribute() {
    let made = |body: &str| {
        let (_, index) = indexed(&format!("class A:\n    def f(self, other, name):\n        {body}\n"));
        index.classes.iter().next().unwrap().1.makes_attributes
    };
    for read in [
        "return self.__dict__.get(name)",
        "return name in self.__dict__",
        "return self.__dict__[name]",
        "self.__dict__.pop(name)",
        "del self.__dict__[name]",
        "return {key: other for key in self.__dict__}",
        "return sorted(self.__dict__)",
        "return other(**self.__dict__)",
        "other.__dict__.update(self.__dict__)",
        "self.__dict__['vessel'] = other",
        "setattr(self, 'vessel', other)",
        "other.__dict__ = {k: v for k, v in self.__dict__.copy().items()}",
        "self.__dict__.update(other.__dict__)",
    ] {
        assert!(!made(read), "{read}");
    }
    for made_there in [
        "self.__dict__[name] = other",
        "self.__dict__.update(other)",
        "setattr(self, name, other)",
        "return self.__dict__",
    ] {
        assert!(made(made_there), "{made_there}");
    }
    let restored = "class A:\n    def __setstate__(self, state):\n        self.__dict__.update(state)\n";
    assert!(!indexed(restored).1.classes.iter().next().unwrap().1.makes_attributes);
}

/// The names of a class's own fields, with whether each has a default.
fn fields(index: &ModuleIndex, class: usize) -> Vec<(DefId, bool)> {
    let record = index.classes.iter().nth(class).unwrap().1;
    let mut found: Vec<(DefId, bool)> = index.scopes[record.scope]
        .symbols
        .values()
        .filter_map(|symbol| {
            let def = *symbol.defs.first()?;
            match index.defs[def].kind {
                DefKind::Annotated { value, .. } => Some((def, value.is_some())),
                DefKind::Assign { .. } => Some((def, true)),
                _ => None,
            }
        })
        .collect();
    found.sort_unstable_by_key(|(def, _)| *def);
    found
}

#[test]
fn calls_that_make_classes_give_class_records() {
    let (_, index) = indexed(
        "from typing import NamedTuple, NewType, TypedDict\nfrom collections import namedtuple as made\nimport enum\n\
         Leg = NamedTuple('Leg', [('port', str), ('tide', int)])\n\
         Stop = made('Stop', 'port, berth pier', defaults=(None,) * 2)\n\
         Fare = TypedDict('Fare', {'adult': float}, total=False)\n\
         Tide = enum.Enum('Tide', 'HIGH LOW')\n\
         Berth = NewType('Berth', int)\n",
    );
    let forms: Vec<ClassForm> = index.classes.iter().map(|(_, class)| class.form).collect();
    let wanted =
        [ClassForm::NamedTuple, ClassForm::PlainTuple, ClassForm::TypedDict, ClassForm::Enum, ClassForm::NewType];
    assert_eq!(forms, wanted);
    let defaults = |class| fields(&index, class).into_iter().map(|(_, has)| has).collect::<Vec<_>>();
    assert_eq!(defaults(0), [false, false]);
    assert_eq!(defaults(1), [false, true, true]);
    assert_eq!(defaults(2), [false]);
    assert_eq!(defaults(3), [true, true]);
    assert_eq!(defaults(4), [] as [bool; 0]);
}

#[test]
fn calls_that_cannot_be_read_make_no_classes() {
    let (_, index) = indexed(
        "from collections import namedtuple\nfrom elsewhere import NamedTuple\nnames = ['port']\n\
         A = namedtuple('A', names)\nB = namedtuple('B', 'x', rename=True)\nC = NamedTuple('C', [('x', int)])\n\
         D = namedtuple('D', 'not-a-name')\nE = namedtuple(*names)\n",
    );
    assert_eq!(index.classes.iter().count(), 0);
}

#[test]
fn what_is_switched_off_is_told_apart_from_what_cannot_be_reached() {
    let (_, index) = indexed("def f():\n    if False:\n        x = 1\n    return 2\n    x = 3\n");
    let body = index.bodies.iter().map(|(_, body)| body).find(|body| body.function.is_some()).unwrap();
    let assigned: Vec<ReachId> = body
        .statements
        .iter()
        .filter(|statement| matches!(statement.kind, StatementKind::Assign { .. }))
        .map(|statement| statement.reach)
        .collect();
    assert_eq!(assigned, [ReachId::EXCLUDED, ReachId::NEVER]);
}

#[test]
fn attributes_that_conditions_ask_about_are_noted() {
    let (names, index) = indexed(
        "class A:\n    def f(self):\n        if self.berth:\n            pass\n        known = self.name is not None\n        self.port.x\n        if self.stops[0]:\n            pass\n",
    );
    let asked = |name: &str| index.tested.contains_key(&names.intern(name));
    assert!(asked("berth") && asked("name"));
    assert!(!asked("port") && !asked("stops"));
}

#[test]
fn a_key_that_was_found_is_remembered_for_looking_it_up() {
    let look_ups = |text: &str| indexed(text).1.looked_up.len();
    assert_eq!(look_ups("def f(d, k):\n    if k in d:\n        return d.get(k)\n"), 1);
    assert_eq!(look_ups("def f(d, k):\n    if k not in d:\n        return d.get(k)\n"), 0);
    assert_eq!(look_ups("def f(d, k):\n    if k in d:\n        k = 3\n        return d.get(k)\n"), 0);
    assert_eq!(look_ups("def f(d):\n    if 'a' in d:\n        del d['a']\n        return d.get('a')\n"), 0);
}
