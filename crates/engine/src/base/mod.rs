//! What everything else stands on: files, inputs, the database.

pub(crate) mod cycles;
pub mod db;
