//! What a person may want to write that an annotation alone does not say: types for what must not be mixed up, overloads, protocols, records.
//! Each suggestion has its places and the code to begin with; nothing is written.
//!
//! - `distinct`: types of their own for plain values that never meet
//! - `overloads`: functions whose result depends on what is passed
//! - `protocols`: classes that have nothing in common but what is asked of them
//! - `records`: dictionaries with the same constant keys

mod distinct;
mod overloads;
mod protocols;
mod records;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::Type;
use leitmotiv_engine::view::handled::Parameter;
use leitmotiv_index::tree::ScopeId;
use leitmotiv_syntax::TextSize;
use rustc_hash::FxHashSet;

use super::rounds::Concluded;
use super::{Inquiry, Sureness, Wanted, recorded};
use crate::spell::{Evaluated, Style, spell};

/// Kinds of suggestion.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Kind {
    /// Types of their own for plain values that are never mixed (typing specification, "NewType").
    Distinct,
    /// Functions whose result depends on what is passed (typing specification, "Overloads").
    Overloads,
    /// What classes have in common that are passed to one parameter (typing specification, "Protocols").
    Protocols,
    /// Dictionaries with the same constant keys (typing specification, "Typed dictionaries").
    Records,
}

/// A suggestion.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Suggestion {
    /// What kind it is.
    pub kind: Kind,
    /// The file that the code would go to, as it is shown.
    pub path: String,
    /// The line that it is about, from 1.
    pub line: usize,
    /// What is seen, in words.
    pub words: String,
    /// The code to begin with, with `\n` between its lines.
    pub code: String,
    /// The places that it would change or that it comes from: each as it is shown, its line from 1, and what is there.
    pub places: Vec<(String, usize, String)>,
}

/// Suggestions of some kinds for some of a project's files, of which `files` are all; those of a kind together, those that say most first.
#[must_use]
pub fn suggestions(db: &Database, files: &[File], asked: &[File], kinds: &[Kind]) -> Vec<Suggestion> {
    let mut inquiry = Inquiry::new(db, files);
    let _ = inquiry
        .propose(&[], &Wanted { at_least: Sureness::Fair, records: recorded(db.project()), ..Wanted::default() });
    let asked: FxHashSet<&str> = asked.iter().map(|file| file.path(db)).collect();
    let mut all = Vec::new();
    for kind in kinds {
        let Some(facts) = inquiry.facts() else { continue };
        let found = match kind {
            Kind::Distinct => distinct::of(&facts),
            Kind::Overloads => overloads::of(&mut inquiry),
            Kind::Protocols => protocols::of(&facts),
            Kind::Records => records::of(&facts),
        };
        all.extend(found.into_iter().filter(|one| asked.contains(one.path.as_str())));
    }
    all
}

/// What an inquiry has concluded, with the database in which that is taken for granted.
pub(super) struct Facts<'a> {
    pub(super) db: &'a Database,
    pub(super) files: Vec<File>,
    pub(super) concluded: &'a Concluded,
}

impl Facts<'_> {
    /// What a parameter is declared or concluded to be, at least fairly.
    fn parameter(&self, parameter: Parameter) -> Option<Type> {
        let record = &module_index(self.db, parameter.file).functions[parameter.function];
        if record.params[parameter.place as usize].annotation.is_some() {
            let declared = functions::declared(self.db, parameter.file, parameter.function);
            return Some(declared.params.get(parameter.place as usize)?.ty);
        }
        let conclusion = self.concluded.parameters.get(&parameter)?;
        (conclusion.sureness >= Sureness::Fair).then_some(conclusion.ty)
    }
}

/// The line of a place, from 1.
fn line(db: &Database, file: File, at: TextSize) -> usize {
    module_index(db, file).lines.0.index_of(at) + 1
}

/// A type as it would be written in a file; `None` where it cannot be.
fn written(db: &Database, file: File, ty: Type) -> Option<String> {
    let style = Style {
        bars: true,
        bare: false,
        any: true,
        evaluated: Evaluated::Never,
        subscripts: true,
        scope: ScopeId(0),
        self_types: true,
        makes_names: false,
    };
    spell(db, file, ty, style).map(|spelled| spelled.text)
}

/// `own_vessel` as the name of a class, `OwnVessel`.
fn camel(name: &str) -> String {
    let words = name.split('_').filter(|word| !word.is_empty());
    let capital = |word: &str| {
        let mut letters = word.chars();
        let first: String = letters.next().into_iter().flat_map(char::to_uppercase).collect();
        first + letters.as_str()
    };
    words.map(capital).collect()
}
