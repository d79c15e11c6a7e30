//! The work on a project: what to begin with, what to write, what to hold.
//!
//! Asks the engine for types and evidence, and returns tables and edits; faces show or write them. In reading order:
//!
//! - [`session`]: a project opened, its findings under settings, demands and ledger
//! - [`ledger`]: holds and debts
//! - [`survey`]: taking stock
//! - [`suppressions`]: comments that hide findings, whether they still do, and why
//! - [`annotate`]: annotations from evidence
//! - [`ways`]: ways out of findings, as they would be written, with their price
//! - [`causes`]: what findings and unknown values have in common, and what changing that does
//! - [`fix`]: ways out that cannot change what the program does, made and proved
//! - [`docstrings`]: types that docstrings name, as evidence
//! - [`stub`]: stubs from source and from running modules, kept and verified
//! - [`import`]: an import that is to be added
//! - [`spell`]: types as text that means the same in a given file
//! - [`tighten`]: what demands cost
//! - [`exact`]: where the ledger says more than is so
//! - [`blame`]: who last touched a line, and when
//! - `git`: asking git, and nothing that it could run
//! - [`clean`]: which files are committed
//! - [`gone`]: what files were that are not there any more, and what they are called now
//! - [`churn`]: how often files were changed
//! - [`held`]: what files are held to that annotations could break
//! - [`history`]: how the ledger grew, and earlier revisions checked
//! - [`since`]: which lines changed since a revision
//! - [`remembered`]: what the last check found, and what went and came since
//! - [`diff`]: unified diffs
//! - [`trial`]: changed texts tried out on the database and taken back
//! - [`change`]: edits to files, as diffs, written all or nothing, taken back
//!
//! The entry is [`session::Session::open`].

pub mod annotate;
pub mod blame;
pub mod causes;
pub mod change;
pub mod churn;
pub mod clean;
pub mod diff;
pub mod docstrings;
pub mod exact;
pub mod fix;
mod git;
pub mod gone;
pub mod held;
pub mod history;
pub mod import;
pub mod ledger;
pub mod remembered;
pub mod session;
pub mod since;
pub mod spell;
pub mod stub;
pub mod suppressions;
pub mod survey;
pub mod tighten;
pub mod trial;
pub mod ways;
