//! The language and the typing specification by example, one rule of theirs to a test. The marks are those of
//! [`crate::fixture`].

mod annotations;
mod calls;
mod classes;
mod containers;
mod decorators;
mod definitions;
mod demands;
mod flow;
mod generics;
mod imports;
mod library;
mod made_classes;
mod narrowing;
mod none;
mod overrides;
mod protocols;
mod quiet;
mod solving;
mod unfit;
mod variables;
mod writes;

use crate::fixture::holds;
