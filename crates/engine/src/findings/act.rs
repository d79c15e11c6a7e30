//! What a way out changes, as plain data; text is made of it where it is written (`migrate::ways`).

use leitmotiv_syntax::TextRange;
use leitmotiv_syntax::names::Name;

use crate::base::file::File;
use crate::types::{ClassRef, Type};

/// What a way out changes. Stretches are in bytes; where no file is named they are of the finding's own.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Act {
    /// A stretch becomes another text.
    Replace(TextRange, String),
    /// A value goes into a call: `int(value)`.
    Wrap(TextRange, &'static str),
    /// Something is done to a value: `value.encode()`.
    Append(TextRange, &'static str),
    /// A value is checked for None before the statement that it stands in.
    Check(TextRange),
    /// It is asserted before that statement that the value is not None.
    Assert(TextRange),
    /// It is asserted before that statement that the value is of a class, one of those here.
    Narrow {
        /// The value.
        value: TextRange,
        /// The classes, of which one is enough.
        to: Vec<ClassRef>,
    },
    /// An attribute is declared in a class of the project.
    Attribute {
        /// The class.
        class: ClassRef,
        /// The attribute.
        name: Name,
    },
    /// What gives the value gives no None any more. What it is but for None comes along.
    Origin(TextRange, Type),
    /// What is declared at a place takes another type as well.
    Widen {
        /// The file.
        file: File,
        /// The parameter, its annotation, that of a result or variable.
        at: TextRange,
        /// The type.
        by: Type,
    },
    /// What is declared at a place becomes another type.
    Annotate {
        /// The file.
        file: File,
        /// The parameter, its annotation, that of a result or variable.
        at: TextRange,
        /// The type.
        ty: Type,
    },
    /// A container that is declared at a place becomes the base that is only read, of the same elements.
    ReadOnly {
        /// The file.
        file: File,
        /// The parameter, its annotation, that of a result or variable.
        at: TextRange,
        /// A name of `collections.abc`.
        base: &'static str,
    },
    /// The comment that the finding stands at is taken out.
    Uncomment,
    /// The method whose name the finding stands at is marked with `@override`.
    Mark,
    /// The name that the finding stands at is imported, where an annotation names something of the typing module.
    Import,
    /// A name is bound before the statement by which only some ways bind it.
    Bind {
        /// The name.
        name: Name,
        /// Where it is bound first.
        first: TextRange,
        /// What is bound to it on these ways.
        ty: Type,
    },
    /// An argument of a call is left out, and so are those behind it that are given by position.
    Remove(TextRange),
    /// What a method asks for and its base's does not gets a default.
    Default {
        /// The base's file.
        file: File,
        /// The name of the base's method.
        at: TextRange,
    },
    /// A parameter of the method that the finding stands at is called otherwise.
    Rename {
        /// What it is called.
        from: Name,
        /// What it is to be called.
        to: Name,
    },
    /// A method takes a parameter as that of the base does.
    Take {
        /// The base's file.
        file: File,
        /// The name of the base's method.
        at: TextRange,
        /// The parameter.
        name: Name,
    },
}
