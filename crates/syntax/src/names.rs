//! Identifiers and short strings as small numbers.
//!
//! A [`Names`] table only grows; equal texts have equal numbers, whichever thread asks first. The numbers say nothing
//! about order: sort by text, never by number.

use std::cell::RefCell;
use std::fmt;
use std::hash::BuildHasherDefault;
use std::sync::Arc;

use dashmap::DashMap;
use rustc_hash::FxHasher;
use serde::de::Error as _;
use serde::ser::Error as _;
use serde::{Deserialize, Deserializer, Serialize, Serializer};

/// An interned text. Compare and hash it as a number; read it with [`Names::text`].
#[derive(Clone, Copy, PartialEq, Eq, Hash, PartialOrd, Ord)]
pub struct Name(u32);

thread_local! {
    /// The table by which names are written out on a thread, and read again.
    static SPOKEN: RefCell<Option<Names>> = const { RefCell::new(None) };
}

/// How long names are written out as texts on a thread, and read again from them: numbers mean something in one table only.
#[must_use]
pub struct Spoken {
    before: Option<Names>,
}

impl Drop for Spoken {
    fn drop(&mut self) {
        SPOKEN.set(self.before.take());
    }
}

impl fmt::Debug for Name {
    fn fmt(&self, to: &mut fmt::Formatter<'_>) -> fmt::Result {
        SPOKEN.with_borrow(|names| match names {
            Some(names) => write!(to, "{:?}", names.text(*self)),
            None => write!(to, "Name({})", self.0),
        })
    }
}

/// As its text, by the table that is spoken on the thread ([`Names::speak`]); where there is none that is an error.
impl Serialize for Name {
    fn serialize<S: Serializer>(&self, to: S) -> Result<S::Ok, S::Error> {
        SPOKEN.with_borrow(|names| match names {
            Some(names) => names.text(*self).serialize(to),
            None => Err(S::Error::custom("no table of names is spoken")),
        })
    }
}

impl<'de> Deserialize<'de> for Name {
    fn deserialize<D: Deserializer<'de>>(from: D) -> Result<Name, D::Error> {
        let text = <&str>::deserialize(from)?;
        SPOKEN.with_borrow(|names| match names {
            Some(names) => Ok(names.intern(text)),
            None => Err(D::Error::custom("no table of names is spoken")),
        })
    }
}

/// The table of all names of one session. Cloning shares the table.
#[derive(Clone)]
pub struct Names {
    table: Arc<Table>,
}

struct Table {
    numbers: DashMap<Arc<str>, u32, BuildHasherDefault<FxHasher>>,
    texts: boxcar::Vec<Arc<str>>,
}

impl Names {
    /// A table that holds the names in [`known`] and nothing else.
    #[must_use]
    pub fn new() -> Names {
        let names = Names { table: Arc::new(Table { numbers: DashMap::default(), texts: boxcar::Vec::new() }) };
        for (index, text) in known::ALL.iter().enumerate() {
            let name = names.intern(text);
            debug_assert_eq!(name.0 as usize, index, "`{text}` stands twice in the list of known names");
        }
        names
    }

    /// Writes names out by this table, on this thread, until what is given back is dropped.
    pub fn speak(&self) -> Spoken {
        Spoken { before: SPOKEN.replace(Some(self.clone())) }
    }

    /// The name for `text`.
    #[must_use]
    pub fn intern(&self, text: &str) -> Name {
        if let Some(number) = self.table.numbers.get(text) {
            return Name(*number);
        }
        let text: Arc<str> = Arc::from(text);
        let number = *self
            .table
            .numbers
            .entry(Arc::clone(&text))
            .or_insert_with(|| u32::try_from(self.table.texts.push(text)).unwrap_or(u32::MAX));
        Name(number)
    }

    /// The name for `text` if some part of the session has used it.
    #[must_use]
    pub fn find(&self, text: &str) -> Option<Name> {
        self.table.numbers.get(text).map(|number| Name(*number))
    }

    /// The text of a name.
    #[must_use]
    pub fn text(&self, name: Name) -> &str {
        self.table.texts.get(name.0 as usize).map_or("", |text| text)
    }
}

impl Default for Names {
    fn default() -> Names {
        Names::new()
    }
}

macro_rules! known {
    ($($constant:ident = $text:literal,)*) => {
        /// Names that the rooms above speak of; each has the same number in every session.
        #[allow(missing_docs)]
        pub mod known {
            use super::Name;

            pub(super) const ALL: &[&str] = &[$($text),*];

            #[allow(non_camel_case_types, clippy::upper_case_acronyms)]
            #[derive(Clone, Copy)]
            enum Index { $($constant),* }

            $(pub const $constant: Name = Name(Index::$constant as u32);)*
        }
    };
}

known! {
    EMPTY = "",
    SELF = "self",
    CLS = "cls",
    INIT = "__init__",
    NEW = "__new__",
    CALL = "__call__",
    POST_INIT = "__post_init__",
    DUNDER_ALL = "__all__",
    DUNDER_SLOTS = "__slots__",
    DUNDER_NAME = "__name__",
    DUNDER_FILE = "__file__",
    DUNDER_DOC = "__doc__",
    DUNDER_PATH = "__path__",
    DUNDER_CLASS = "__class__",
    DUNDER_DICT = "__dict__",
    GETATTR = "__getattr__",
    GETATTRIBUTE = "__getattribute__",
    SETATTR = "__setattr__",
    DELATTR = "__delattr__",
    GET = "__get__",
    PLAIN_GET = "get",
    NONMEMBER = "nonmember",
    SET = "__set__",
    GETITEM = "__getitem__",
    SETITEM = "__setitem__",
    DELITEM = "__delitem__",
    CLASS_GETITEM = "__class_getitem__",
    ITER = "__iter__",
    NEXT = "__next__",
    AITER = "__aiter__",
    ANEXT = "__anext__",
    AWAIT = "__await__",
    ENTER = "__enter__",
    EXIT = "__exit__",
    AENTER = "__aenter__",
    AEXIT = "__aexit__",
    CONTAINS = "__contains__",
    BOOL = "__bool__",
    LEN = "__len__",
    EQ = "__eq__",
    HASH = "__hash__",
    NEG = "__neg__",
    POS = "__pos__",
    INVERT = "__invert__",
    MATCH_ARGS = "__match_args__",
    BUILTINS = "builtins",
    TYPING = "typing",
    TYPING_EXTENSIONS = "typing_extensions",
    TYPES = "types",
    OBJECT = "object",
    TYPE = "type",
    INT = "int",
    FLOAT = "float",
    COMPLEX = "complex",
    STR = "str",
    BYTES = "bytes",
    BYTEARRAY = "bytearray",
    MEMORYVIEW = "memoryview",
    BOOL_CLASS = "bool",
    LIST = "list",
    TUPLE = "tuple",
    DICT = "dict",
    SET_CLASS = "set",
    FROZENSET = "frozenset",
    SLICE = "slice",
    RANGE = "range",
    SUPER = "super",
    PROPERTY = "property",
    WRAPS = "wraps",
    STATICMETHOD = "staticmethod",
    CLASSMETHOD = "classmethod",
    ISINSTANCE = "isinstance",
    ISSUBCLASS = "issubclass",
    CALLABLE = "callable",
    HASATTR = "hasattr",
    GETATTR_FUNCTION = "getattr",
    ELLIPSIS_TYPE = "EllipsisType",
    NOT_IMPLEMENTED = "NotImplemented",
    NOT_IMPLEMENTED_ERROR = "NotImplementedError",
    BASE_EXCEPTION = "BaseException",
    EXCEPTION = "Exception",
    GENERATOR = "Generator",
    ASYNC_GENERATOR = "AsyncGenerator",
    COROUTINE = "Coroutine",
    ITERATOR = "Iterator",
    ITERABLE = "Iterable",
    AWAITABLE = "Awaitable",
    MODULE_TYPE = "ModuleType",
    FUNCTION_TYPE = "FunctionType",
    METHOD_TYPE = "MethodType",
    NONE_TYPE = "NoneType",
    REVEAL_TYPE = "reveal_type",
    ASSERT_TYPE = "assert_type",
    ASSERT_NEVER = "assert_never",
    TYPE_CHECKING = "TYPE_CHECKING",
    VERSION_INFO = "version_info",
    PLATFORM = "platform",
    SYS = "sys",
    OVERLOAD = "overload",
    FINAL_MARK = "final",
    OVERRIDE_MARK = "override",
    ABSTRACTMETHOD = "abstractmethod",
    DATACLASS = "dataclass",
    SETTER = "setter",
    GETTER = "getter",
    DELETER = "deleter",
    NO_TYPE_CHECK = "no_type_check",
    APPEND = "append",
    ADD = "add",
    EXTEND = "extend",
    UPDATE = "update",
    INSERT = "insert",
    SETDEFAULT = "setdefault",
    APPENDLEFT = "appendleft",
    GLOBALS = "globals",
    LOCALS = "locals",
    NAMEDTUPLE = "namedtuple",
    METACLASS = "metaclass",
    TOTAL = "total",
    DEFAULT = "default",
    DEFAULT_FACTORY = "default_factory",
    FACTORY = "factory",
    KW_ONLY = "kw_only",
    FROZEN = "frozen",
    FIELD = "field",
    BOUND = "bound",
    COVARIANT = "covariant",
    CONTRAVARIANT = "contravariant",
    VALUE = "value",
    NAME = "name",
    IGNORE = "_ignore_",
    EXTRA_ITEMS = "extra_items",
    CONFTEST = "conftest",
}

/// The keywords of the language, soft ones left out (language reference, "Keywords").
pub const KEYWORDS: &[&str] = &[
    "False", "None", "True", "and", "as", "assert", "async", "await", "break", "class", "continue", "def", "del",
    "elif", "else", "except", "finally", "for", "from", "global", "if", "import", "in", "is", "lambda", "nonlocal",
    "not", "or", "pass", "raise", "return", "try", "while", "with", "yield",
];

/// Whether a text can be the name of something: an identifier, and no keyword.
#[must_use]
pub fn is_identifier(text: &str) -> bool {
    let mut chars = text.chars();
    chars.next().is_some_and(|first| first == '_' || first.is_alphabetic())
        && chars.all(|char| char == '_' || char.is_alphanumeric())
        && !KEYWORDS.contains(&text)
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn equal_texts_have_equal_names() {
        let names = Names::new();
        assert_eq!(names.intern("berth"), names.intern("berth"));
        assert_ne!(names.intern("berth"), names.intern("vessel"));
        assert_eq!(names.text(names.intern("berth")), "berth");
    }

    #[test]
    fn known_names_have_their_texts() {
        let names = Names::new();
        assert_eq!(names.intern("__init__"), known::INIT);
        assert_eq!(names.text(known::CONFTEST), "conftest");
        assert_eq!(names.find("never_used_before"), None);
    }
}
