//! Facts about modules that plans are made from.
