//! What is left to decide: slots that nobody annotated, with what speaks for which type, and what would be known by deciding.

use std::sync::Arc;

use leitmotiv_engine::base::database::Database;
use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::check::check;
use leitmotiv_engine::definitions::functions;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::types::CauseKind;
use leitmotiv_engine::view::handled::Parameter;
use leitmotiv_index::anchor::Anchor;
use leitmotiv_index::tree::ModuleIndex;
use rustc_hash::{FxHashMap, FxHashSet};

use super::rounds::open_parameters;
use super::{Inquiry, Part, Proposal, Wanted};

/// A slot that is left to decide.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Undecided {
    /// The file, as it is shown.
    pub path: String,
    /// The line, from 1.
    pub line: usize,
    /// The dotted name of the function, or of the attribute's class.
    pub owner: String,
    /// What of it.
    pub part: Part,
    /// What speaks for a type, if anything does.
    pub proposal: Option<Arc<Proposal>>,
    /// How many expressions of the project are unknown because of it.
    pub gain: usize,
}

/// The slots of some files that nobody annotated and about which something is to be decided: those that something speaks for, and parameters
/// that others are unknown because of. What would make most known comes first.
#[must_use]
pub fn undecided(db: &Database, files: &[File], asked: &[File], wanted: &Wanted) -> Vec<Undecided> {
    let mut gains: FxHashMap<Parameter, usize> = FxHashMap::default();
    for checked in check(db, files) {
        for (cause, count) in &checked.unknown {
            let cause = db.store().cause(*cause);
            if let (CauseKind::Parameter, Anchor::Param(function, place)) = (cause.kind, cause.at) {
                *gains.entry(Parameter { file: cause.file, function, place }).or_default() += count;
            }
        }
    }
    let mut named: FxHashMap<(File, String, Part), usize> = FxHashMap::default();
    let mut all: Vec<Undecided> = Vec::new();
    let proposals = Inquiry::new(db, files).propose(asked, wanted);
    let told: FxHashSet<(File, String, Part)> = proposals.iter().map(|proposal| named_slot(proposal)).collect();
    for file in asked {
        let index = module_index(db, *file);
        for (function, record) in index.functions.iter() {
            let owner = functions::qualified(db, *file, Some(function));
            for parameter in open_parameters(db, *file, index, function) {
                let param = &record.params[parameter.place as usize];
                let part = Part::Parameter(db.names().text(param.name).to_owned());
                let gain = gains.get(&parameter).copied().unwrap_or_default();
                let slot = (*file, owner.clone(), part.clone());
                named.insert(slot.clone(), gain);
                if gain > 0 && !told.contains(&slot) {
                    let line = line(index, param.name_range.start());
                    let path = file.path(db).to_owned();
                    all.push(Undecided { path, line, owner: owner.clone(), part, proposal: None, gain });
                }
            }
        }
    }
    all.extend(proposals.into_iter().map(|proposal| Undecided {
        path: proposal.file.path(db).to_owned(),
        line: line(module_index(db, proposal.file), proposal.at),
        owner: proposal.function.clone(),
        part: proposal.part.clone(),
        gain: named.get(&named_slot(&proposal)).copied().unwrap_or_default(),
        proposal: Some(proposal),
    }));
    all.sort_by(|one, other| {
        other
            .gain
            .cmp(&one.gain)
            .then_with(|| (&one.path, one.line, &one.part).cmp(&(&other.path, other.line, &other.part)))
    });
    all
}

fn named_slot(proposal: &Proposal) -> (File, String, Part) {
    (proposal.file, proposal.function.clone(), proposal.part.clone())
}

fn line(index: &ModuleIndex, at: leitmotiv_syntax::TextSize) -> usize {
    index.lines.0.index_of(at) + 1
}
