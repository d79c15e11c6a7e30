//! What everything else stands on: files, inputs, the database.

pub mod db;
