//! Checks: what walks a body, and what it holds against statements and definitions. Nothing here gives a type.
//!
//! - [`statements`]: the walk that checks a body: every statement that can be reached
//! - [`assignments`]: writing to names, attributes and items
//! - [`classes`]: class definitions
//! - [`overrides`]: members that stand in for those of bases
//! - [`overloads`]: definitions of overloaded functions
//! - [`annotations`]: the forms of annotations, and where each may stand
//! - [`type_variables`]: how type variables are defined
//! - [`type_parameters`]: type variables where they are used
//! - [`aliases`]: what aliases are given, and whether they come back to themselves
//! - [`new_types`]: what `NewType` is called with
//! - [`deletions`]: what `del` takes away
//! - [`augmented`]: what `+=` and its kin put back
//! - [`fields`]: fields of dataclasses and named tuples, members of enumerations
//! - [`finals`]: where `Final` says nothing
//! - [`typed_dicts`]: definitions of typed dictionaries
//! - [`patterns`]: how many parts of class patterns are given by position
//! - [`decorators`]: that they can be called with what stands below them
//! - [`imports`]: that imports lead somewhere, to a module with types, and to the one that is meant
//! - [`unbound`]: names that may not be bound
//! - [`unreachable`]: code that is never reached
//! - [`exhaustiveness`]: branches over closed sets
//! - [`usage`]: values that are used as what they cannot be
//! - [`isinstance`]: what `isinstance` is asked about
//! - [`formatting`]: texts that are formatted
//! - [`ordering`]: values that are put in order
//! - [`special_results`]: what special methods give
//! - [`deprecated`]: the use of what is deprecated
//! - [`spread`]: what stands behind `*` and `**` in calls
//! - [`abstract_classes`]: objects of classes that leave methods open
//! - [`asked`]: what is only wrong where a demand asks for more

mod abstract_classes;
mod aliases;
pub(crate) mod annotations;
mod asked;
mod assignments;
mod augmented;
mod classes;
mod decorators;
mod deletions;
pub(crate) mod deprecated;
mod exhaustiveness;
mod fields;
mod finals;
mod formatting;
mod imports;
mod isinstance;
mod new_types;
mod ordering;
mod overloads;
mod overrides;
mod patterns;
mod special_results;
mod spread;
pub mod statements;
mod type_parameters;
mod type_variables;
mod typed_dicts;
mod unbound;
mod unreachable;
pub(crate) mod usage;
