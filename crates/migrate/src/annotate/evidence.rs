//! What evidence is: where it comes from, what it says, how much that is worth; and what is concluded from all of it.

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::definitions::classes;
use leitmotiv_engine::findings::source::excerpt;
use leitmotiv_engine::types::display::show;
use leitmotiv_engine::types::{ClassRef, Type};
use leitmotiv_syntax::TextRange;

/// A kind of evidence.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub enum Source {
    /// What docstrings say.
    Docstrings,
    /// What declarations of a command's options say.
    Declarations,
    /// Methods of bases that this one overrides, and what the language calls by itself.
    Bases,
    /// Conditions without which a function does not go on.
    Guards,
    /// What calls pass.
    Calls,
    /// What passed while the program ran.
    Traces,
    /// A parameter's default.
    Defaults,
    /// What a function returns.
    Returns,
    /// What is done with it.
    Uses,
    /// The attribute that it is kept as; what an attribute is filled with.
    Attributes,
    /// What has the same name elsewhere in the package.
    Names,
}

impl Source {
    /// All kinds, the strongest first.
    pub const ALL: [Source; 11] = [
        Source::Docstrings,
        Source::Declarations,
        Source::Bases,
        Source::Guards,
        Source::Calls,
        Source::Traces,
        Source::Defaults,
        Source::Returns,
        Source::Uses,
        Source::Attributes,
        Source::Names,
    ];

    /// Its name, as it is asked for.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Source::Docstrings => "docstrings",
            Source::Declarations => "declarations",
            Source::Bases => "bases",
            Source::Guards => "guards",
            Source::Calls => "calls",
            Source::Traces => "traces",
            Source::Defaults => "defaults",
            Source::Returns => "returns",
            Source::Uses => "uses",
            Source::Attributes => "attributes",
            Source::Names => "names",
        }
    }
}

/// How much a piece of evidence says.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Strength {
    /// It is often so, and often not.
    Weak,
    /// It is so as a rule.
    Medium,
    /// There is hardly another way.
    Strong,
}

/// How sure a conclusion is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Sureness {
    /// Other values are likely to be meant as well.
    Low,
    /// What is written covers what can be seen.
    Fair,
    /// Nothing else is possible.
    Sure,
}

impl Sureness {
    /// Its name.
    #[must_use]
    pub fn name(self) -> &'static str {
        match self {
            Sureness::Low => "low",
            Sureness::Fair => "fair",
            Sureness::Sure => "sure",
        }
    }
}

/// A piece of evidence.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Evidence {
    /// What kind it is.
    pub source: Source,
    /// What it says the type to be.
    pub ty: Type,
    /// How much that says.
    pub strength: Strength,
    /// The file that it lies in.
    pub file: File,
    /// Where in there.
    pub range: TextRange,
    /// What is seen there.
    pub why: Why,
    /// Whether it says only what something else is that it is passed on as: then the two are not two witnesses.
    pub passed_on: bool,
}

/// What is seen where a piece of evidence lies.
#[derive(Debug, Clone, PartialEq, Eq)]
pub enum Why {
    /// It is the default.
    Default,
    /// It is what a call passes.
    Passed,
    /// It is what is returned.
    Returned,
    /// It is what is yielded.
    Yielded,
    /// The function ends without a return.
    Ends,
    /// `__init__`.
    Init,
    /// The language itself calls a method of this name.
    Special(String),
    /// A method of this class has it so.
    Base(ClassRef),
    /// The docstring says so.
    Docstring,
    /// It is used so, in words.
    Used(String),
    /// An attribute is filled with it.
    Assigned,
    /// So many recorded calls did `what` with it, from so many places; the evidence lies at one of those with the fewest calls.
    Recorded {
        /// `pass`, `return`, `yield`, `send`, `hold`.
        what: &'static str,
        /// How many calls; 0 where they were not counted.
        count: u64,
        /// How many places.
        places: usize,
    },
    /// So many others of the name have it so.
    Named(usize),
    /// In words.
    Said(String),
}

impl Evidence {
    /// The evidence in words.
    #[must_use]
    pub fn words(&self, db: &Database) -> String {
        let code = || excerpt(db, self.file, self.range);
        let ty = || show(db, self.ty);
        match &self.why {
            Why::Default => format!("the default is {}", code()),
            Why::Passed if self.file.text(db)[..usize::from(self.range.start())].ends_with('@') => {
                format!("`@{}` decorates {}", code(), ty())
            }
            Why::Passed => format!("{} is passed: {}", code(), ty()),
            Why::Returned => format!("returns {}", ty()),
            Why::Yielded => format!("yields {}", ty()),
            Why::Ends => "ends without a return".to_owned(),
            Why::Init => "`__init__` always gives None".to_owned(),
            Why::Special(name) => format!("so the language has it with `{name}`"),
            Why::Base(class) => format!("`{}` has it as {}", classes::shown(db, *class), ty()),
            Why::Docstring => format!("the docstring says {}", ty()),
            Why::Used(words) | Why::Said(words) => words.clone(),
            Why::Assigned => format!("is given {}", ty()),
            Why::Recorded { what, count: 0, .. } => format!("a recorded run ends where it {what}s {}", ty()),
            Why::Recorded { what: "pass", count: 1, .. } => format!("1 recorded call passes {}", ty()),
            Why::Recorded { what, count: 1, .. } => format!("1 recorded call {what}s {}", ty()),
            Why::Recorded { what, count, places: 0 | 1 } => format!("{count} recorded calls {what} {}", ty()),
            Why::Recorded { what, count, places } => {
                format!("{count} recorded calls from {places} places {what} {}", ty())
            }
            Why::Named(1) => format!("another one of that name is {}", ty()),
            Why::Named(count) => format!("{count} others of that name are {}", ty()),
        }
    }
}

/// How much speaks for a conclusion and against it; ranks, the higher the more likely by itself.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Default)]
pub struct Weight {
    /// What it was concluded from.
    pub best: u32,
    /// The best of another kind that agrees.
    pub agreeing: u32,
    /// The best that does not.
    pub against: u32,
    /// Whether the code asks for other classes.
    pub asks_for_more: bool,
}

/// What is concluded for a slot.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Conclusion {
    /// The type.
    pub ty: Type,
    /// How sure that is.
    pub sureness: Sureness,
    /// The evidence that speaks for it.
    pub evidence: Vec<Evidence>,
    /// The evidence that says something else.
    pub conflicts: Vec<Evidence>,
    /// How much speaks for it.
    pub weight: Weight,
}

impl Conclusion {
    /// The kinds of evidence that agree, in the order of [`Source::ALL`].
    #[must_use]
    pub fn sources(&self) -> Vec<Source> {
        let mut sources: Vec<Source> = self.evidence.iter().map(|evidence| evidence.source).collect();
        sources.sort_unstable();
        sources.dedup();
        sources
    }
}
