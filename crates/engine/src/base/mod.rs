//! What everything else stands on: files, inputs, the database.
//!
//! - [`mod@file`]: texts as inputs, and what a file is
//! - [`assumed`]: what is taken for granted of functions that nobody annotated
//! - [`db`]: what queries may ask for
//! - [`database`]: the one database of a session
//! - [`mod@observed`]: what was seen of the disk
//! - [`cycles`]: how queries that meet themselves come to an end

pub mod asked;
pub mod assumed;
pub(crate) mod cycles;
pub mod database;
pub mod db;
pub mod file;
pub mod observed;
pub mod runs;
pub mod said;
pub mod stored;
