//! Debts with their age: since when the ledger has each, and who last touched the code.

use std::collections::BTreeMap;

use leitmotiv_engine::demands;
use leitmotiv_engine::outline::module_index;
use rayon::prelude::*;
use serde::Serialize;

use crate::blame::{Line, blame};
use crate::ledger::text::escape;
use crate::ledger::{AS_IT_IS, FILE, folder_of};
use crate::session::{Report, Session};

/// A finding that is owed.
#[derive(Debug, Clone, PartialEq, Eq, Serialize)]
pub struct Owed {
    /// The demand that it is owed under.
    pub demand: &'static str,
    /// Its package, with `/` at the end.
    pub package: String,
    /// The file.
    pub path: String,
    /// Its line, from 1.
    pub line: usize,
    /// Its rule.
    pub rule: &'static str,
    /// What is wrong.
    pub message: String,
    /// Since when the ledger has it, as days since 1970; `None` where version control does not say.
    pub since: Option<i64>,
    /// Who last touched the line, and when, as days since 1970.
    pub touched: Option<(String, i64)>,
}

/// The findings of a report that are owed, oldest debts first within each package.
#[must_use]
pub fn owed(session: &Session, report: &Report) -> Vec<Owed> {
    let db = &session.db;
    let mut all: Vec<Owed> = Vec::new();
    let project = session.project();
    let ages = ages(session);
    for slug in demands::ALL.iter().map(|demand| demand.slug).chain([AS_IT_IS]) {
        let (at, settlement) = session.settled(report, slug);
        for (at, _) in at.into_iter().zip(&settlement.owed).filter(|(_, owed)| **owed) {
            let finding = &report.findings[at].finding;
            let path = finding.file.path(db);
            let debt = session.claim(finding).debt(slug);
            let key = format!(
                "debt {slug} {} {} {} {}",
                escape(path),
                escape(&debt.rule),
                escape(&debt.symbol),
                escape(&debt.fingerprint)
            );
            all.push(Owed {
                demand: slug,
                package: folder_of(path).to_owned(),
                path: path.to_owned(),
                line: module_index(db, finding.file).lines.0.index_of(finding.range.start()) + 1,
                rule: finding.rule,
                message: finding.message.clone(),
                since: ages.get(&key).copied(),
                touched: None,
            });
        }
    }
    let mut by_file: BTreeMap<String, Vec<usize>> = BTreeMap::new();
    for (place, owed) in all.iter().enumerate() {
        by_file.entry(owed.path.clone()).or_default().push(place);
    }
    let files: Vec<(String, Vec<usize>)> = by_file.into_iter().collect();
    let lines: Vec<Option<Vec<Line>>> = files.par_iter().map(|(path, _)| blame(project, path)).collect();
    for ((_, places), lines) in files.iter().zip(lines) {
        let Some(lines) = lines else { continue };
        for place in places {
            let line = lines.get(all[*place].line - 1);
            all[*place].touched = line.map(|line| (line.author.clone(), line.day));
        }
    }
    all.sort_by(|one, other| {
        let key = |owed: &Owed| (owed.package.clone(), owed.since.unwrap_or(i64::MAX), owed.path.clone(), owed.line);
        key(one).cmp(&key(other))
    });
    all
}

/// Since when the ledger has each debt, by the debt's line without its number.
fn ages(session: &Session) -> BTreeMap<String, i64> {
    let mut ages: BTreeMap<String, i64> = BTreeMap::new();
    for line in blame(session.project(), FILE).into_iter().flatten() {
        let fields: Vec<&str> = line.text.split(' ').collect();
        if let ["debt", demand, path, rule, symbol, fingerprint, ..] = fields.as_slice() {
            let fingerprint = fingerprint.split('/').next().unwrap_or(fingerprint);
            let key = format!("debt {demand} {path} {rule} {symbol} {fingerprint}");
            let known = ages.entry(key).or_insert(line.day);
            *known = line.day.min(*known);
        }
    }
    ages
}
