//! What types pass while a project's program runs: recorded, kept, asked for.
//!
//! Knows programs, files and the store, but not what types mean. docs/traces.md tells what is recorded and how it is kept. In reading order:
//!
//! - [`seen`]: a type as it was seen
//! - `raw`: what one process wrote
//! - [`source`]: functions and calls in a text, by lines
//! - [`run`]: a program run with the recorder beside it
//! - [`store`]: the database
//! - [`records`]: all that it says, and what of it is old
//! - [`callers`]: who passed what
//! - [`follows`]: results that go with a parameter

pub mod callers;
pub mod follows;
mod raw;
pub mod records;
pub mod run;
pub mod seen;
pub mod source;
pub mod store;
