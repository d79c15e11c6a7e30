//! Queries that meet themselves: how their answers come to an end.

use super::db::Db;
use crate::types::canonical::canonical;
use crate::types::folded::{grown, without_itself};
use crate::types::{Cause, Type};

/// What a query that met itself goes on with. Values only grow from round to round, and after a few rounds the answer is
/// unknown, so that every cycle ends.
pub(crate) fn converge(db: &dyn Db, round: u32, last: Type, value: Type, cause: Cause) -> Type {
    if value == last {
        return value;
    }
    let unknown = || Type::Unknown(db.store().intern_cause(cause));
    if round >= 6 {
        return unknown();
    }
    if round >= 1 {
        // What holds itself, as a list that is put into itself does, is cut there, or it would grow from round to round.
        if let Some(folded) = without_itself(db.store(), value, last, unknown()) {
            return canonical(db, folded);
        }
        let joined = canonical(db, grown(db.store(), last, value));
        // Growing structure, such as a list of lists of lists, never ends by itself.
        return if round >= 4 && joined != last { unknown() } else { joined };
    }
    value
}
