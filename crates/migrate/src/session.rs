//! A project opened: its files, its findings, and what settings, demands and ledger make of them.

use std::collections::{BTreeSet, HashMap, HashSet};
use std::path::{Path, PathBuf};
use std::sync::Arc;

use leitmotiv_engine::base::database::{Database, FileChange};
use leitmotiv_engine::base::file::File;
use leitmotiv_engine::check::{Checked, timed};
use leitmotiv_engine::definitions::functions::qualified;
use leitmotiv_engine::findings::finding::Finding;
use leitmotiv_engine::findings::fingerprint::fingerprint;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::{demands, rules};
use leitmotiv_project::area::{Areas, PatternError};
use leitmotiv_project::settings::{Severity, nearest};
use leitmotiv_project::sources::SourcesError;
use leitmotiv_project::{Project, ProjectError};
use rayon::prelude::*;
use thiserror::Error;

use crate::gone::{Gone, gone};
use crate::held::{BREAKABLE, Held};
use crate::ledger::broken::{Broken, Looked, broken};
use crate::ledger::moves::{Move, moves};
use crate::ledger::settle::{Claim, Settlement, settle};
use crate::ledger::{self, Ledger, LedgerError};

/// Why a session cannot be opened or a check not begun.
#[derive(Debug, Error)]
pub enum SessionError {
    /// The configuration cannot be read any more.
    #[error(transparent)]
    Project(#[from] ProjectError),
    /// Files cannot be listed.
    #[error(transparent)]
    Sources(#[from] SourcesError),
    /// A pattern in an area is none.
    #[error("in `area`: {0}")]
    Pattern(#[from] PatternError),
    /// The ledger cannot be read.
    #[error(transparent)]
    Ledger(#[from] LedgerError),
    /// A rule that does not exist.
    #[error("there is no rule `{name}`{}", near(.nearest.as_deref()))]
    UnknownRule {
        /// As written.
        name: String,
        /// The nearest that exists.
        nearest: Option<String>,
    },
    /// A demand that does not exist.
    #[error("there is no demand `{name}`{}", near(.nearest.as_deref()))]
    UnknownDemand {
        /// As written.
        name: String,
        /// The nearest that exists.
        nearest: Option<String>,
    },
}

fn near(nearest: Option<&str>) -> String {
    nearest.map(|nearest| format!(" (is `{nearest}` meant?)")).unwrap_or_default()
}

/// How many threads read files.
const READERS: usize = 8;

/// A project opened. A clone is a handle for another thread, as it is with the database: before anything is changed it must be dropped.
#[derive(Clone)]
pub struct Session {
    /// The engine's database.
    pub db: Database,
    areas: Arc<Areas>,
    /// Holds and debts, those of files that have another name now under that name; empty until [`Session::with_ledger`].
    pub ledger: Arc<Ledger>,
    /// The files that have another name now, as of the last check.
    pub moved: Vec<Move>,
    /// The ledger as it was read.
    recorded: Arc<Ledger>,
    has_ledger: bool,
    /// What version control knows of files that are gone.
    gone: HashMap<String, Gone>,
    /// Rules that are off by themselves, and were asked for.
    asked_for: HashSet<&'static str>,
}

/// What one check is to do beside what is configured.
#[derive(Debug, Clone, Default)]
pub struct Asked {
    /// Severities on top of the configuration.
    pub severity: Vec<(String, Severity)>,
    /// Demands to try.
    pub demands: Vec<String>,
}

/// A finding with what the project makes of it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Reported {
    /// The finding.
    pub finding: Finding,
    /// Its severity here.
    pub severity: Severity,
    /// Whether it is a debt.
    pub owed: bool,
    /// The demand that made it an error, if one did.
    pub demand: Option<&'static str>,
}

/// The result of a check.
#[derive(Debug, Default)]
pub struct Report {
    /// The files checked, in order.
    pub files: Vec<File>,
    /// What checking each file gave, in the same order.
    pub checked: Vec<Arc<Checked>>,
    /// The findings at or above `note`, by path, position and rule.
    pub findings: Vec<Reported>,
    /// Lines checked.
    pub lines: usize,
    /// Whether the check of some file failed.
    pub fault: bool,
}

impl Session {
    /// Opens a session on a project.
    ///
    /// # Errors
    /// [`SessionError`] where the configuration names what does not exist.
    pub fn open(project: Project) -> Result<Session, SessionError> {
        let areas = Arc::new(areas(&project)?);
        Ok(Session {
            db: Database::new(project),
            areas,
            ledger: Arc::default(),
            moved: Vec::new(),
            recorded: Arc::default(),
            has_ledger: false,
            gone: HashMap::new(),
            asked_for: HashSet::new(),
        })
    }

    /// The session with the project's ledger. What needs none works without, so that a damaged one is in nobody's way.
    ///
    /// # Errors
    /// [`SessionError::Ledger`]
    pub fn with_ledger(self) -> Result<Session, SessionError> {
        let ledger = Arc::new(Ledger::read(&self.project().root)?);
        Ok(Session { recorded: ledger.clone(), ledger, has_ledger: true, ..self })
    }

    /// Makes the session current after files changed, came or went: sources and stubs of the project, what it imports, its
    /// configuration, its ledger, its environment. What does not depend on them is not worked out again.
    ///
    /// # Errors
    /// [`SessionError`] where the configuration or the ledger can no longer be used; then those from before still count.
    pub fn apply(&mut self, changes: &[FileChange]) -> Result<(), SessionError> {
        self.db.apply(changes);
        // Only what is saved is configuration, or a ledger.
        let is_saved = |change: &&FileChange| matches!(change, FileChange::OnDisk { .. });
        let saved: Vec<&Path> = changes.iter().filter(is_saved).map(FileChange::path).collect();
        let settings = self.read_settings(&saved);
        let ledger = self.read_ledger(&saved);
        settings.and(ledger)
    }

    fn read_settings(&mut self, saved: &[&Path]) -> Result<(), SessionError> {
        let project = self.project();
        let is_usual = |path: &Path| {
            let name = path.file_name().unwrap_or_default();
            path.parent() == Some(&project.root) && (name == "leitmotiv.toml" || name == "pyproject.toml")
        };
        let named = project.settings_file.as_deref();
        let is_setting = |path: &&Path| {
            is_usual(path) || named == Some(*path) || path.file_name().is_some_and(|name| name == "pyvenv.cfg")
        };
        if saved.iter().any(is_setting) {
            let config = named.filter(|path| !is_usual(path));
            let project = Project::open(&project.root, config, &project.surroundings)?;
            self.areas = Arc::new(areas(&project)?);
            self.db.reconfigure(project);
        }
        Ok(())
    }

    fn read_ledger(&mut self, saved: &[&Path]) -> Result<(), SessionError> {
        let root = &self.project().root;
        if self.has_ledger && saved.contains(&root.join(ledger::FILE).as_path()) {
            self.recorded = Arc::new(Ledger::read(root)?);
            self.ledger = self.recorded.clone();
        }
        Ok(())
    }

    /// The project.
    #[must_use]
    pub fn project(&self) -> &Project {
        self.db.project()
    }

    /// The files below some paths, or the configured sources.
    ///
    /// # Errors
    /// [`SessionError::Sources`]
    pub fn files(&self, paths: &[PathBuf]) -> Result<Vec<File>, SessionError> {
        let paths = self.db.sources(paths)?;
        let db = self.db.clone();
        let read = move || paths.par_iter().map_with(db, |db, path| db.source(path)).collect();
        // Reading is waiting for the disk for the most part: more threads than there are processors wait together.
        match rayon::ThreadPoolBuilder::new().num_threads(READERS).build() {
            Ok(readers) => Ok(readers.install(read)),
            Err(_) => Ok(read()),
        }
    }

    /// Checks the files below some paths.
    ///
    /// # Errors
    /// [`SessionError`] for paths, rules or demands that do not exist.
    pub fn check(&mut self, paths: &[PathBuf], asked: &Asked) -> Result<Report, SessionError> {
        self.prepare(asked)?;
        let files = self.files(paths)?;
        let mut report = self.report(files, asked);
        self.promised(paths, &mut report);
        Ok(report)
    }

    /// Makes ready for [`Session::report`]: looks where files of the ledger went, and says which rules are asked for. To be done again when
    /// files came or went, or the configuration or the ledger changed.
    ///
    /// # Errors
    /// [`SessionError`] for rules or demands that do not exist.
    pub fn prepare(&mut self, asked: &Asked) -> Result<(), SessionError> {
        for (rule, _) in &asked.severity {
            known_rule(rule)?;
        }
        for demand in &asked.demands {
            known_demand(demand)?;
        }
        self.follow();
        self.ask(asked);
        Ok(())
    }

    /// What settings, demands and ledger make of the findings of some files, after [`Session::prepare`]; what is told of the ledger itself left
    /// out ([`Session::promised`]).
    #[must_use]
    pub fn report(&self, files: Vec<File>, asked: &Asked) -> Report {
        let mut report = self.unsettled(files, asked);
        if self.ledger.is_there() {
            for slug in settling() {
                let (at, settlement) = self.settled(&report, slug);
                for (at, owed) in at.into_iter().zip(settlement.owed) {
                    report.findings[at].owed |= owed;
                }
            }
        }
        report
    }

    /// The same with nothing owed: what the ledger's debts stand for is known only of all files together.
    #[must_use]
    pub fn unsettled(&self, files: Vec<File>, asked: &Asked) -> Report {
        self.timed(files, asked).0
    }

    /// The same with what each file took, in millionths of a second.
    #[must_use]
    pub fn timed(&self, files: Vec<File>, asked: &Asked) -> (Report, Vec<u64>) {
        let (checked, took): (Vec<_>, Vec<_>) = timed(&self.db, &files).into_iter().unzip();
        let took = took.iter().map(|took| u64::try_from(took.as_micros()).unwrap_or(u64::MAX)).collect();
        let mut report = Report { fault: checked.iter().any(|checked| checked.fault), ..Report::default() };
        for (file, checked) in files.iter().zip(&checked) {
            report.lines += checked.lines;
            let path = file.path(&self.db);
            let local = self.areas.local(path);
            let held: Vec<&str> = self.ledger.held(path).collect();
            for finding in &checked.findings {
                let set = asked.severity.iter().rev().find(|(pattern, _)| rules::fits(pattern, finding.rule));
                let mut severity = match set {
                    Some((_, severity)) => *severity,
                    None => local.severity(finding.rule).unwrap_or(finding.severity),
                };
                let mut by_demand = None;
                for name in local.demands.iter().chain(&asked.demands).map(String::as_str).chain(held.iter().copied()) {
                    if let Some(demand) = demands::by_slug(name)
                        && demand.rules.contains(&finding.rule)
                    {
                        severity = Severity::Error;
                        by_demand = Some(demand.slug);
                        break;
                    }
                }
                if severity == Severity::Off {
                    continue;
                }
                report.findings.push(Reported { finding: finding.clone(), severity, owed: false, demand: by_demand });
            }
        }
        report.files = files;
        report.checked = checked;
        (report, took)
    }

    /// Says what is owed by debts of the same files alone, which stand for nothing else whatever other files there are.
    pub fn settle_within(&self, report: &mut Report) {
        if !self.ledger.is_there() {
            return;
        }
        let paths: HashSet<&str> = report.files.iter().map(|file| file.path(&self.db)).collect();
        let own = self.ledger.only(&|path| paths.contains(path));
        for slug in settling() {
            let (at, claims) = self.claims(report, slug);
            let owed = settle(&own, slug, &claims, &mut |_, _| false).owed;
            for (at, owed) in at.into_iter().zip(owed) {
                report.findings[at].owed |= owed;
            }
        }
    }

    /// The findings that stand against a demand, by their places in a report.
    fn claims<'a>(&'a self, report: &'a Report, demand: &str) -> (Vec<usize>, Vec<Claim<'a>>) {
        let is_against = |found: &Reported| is_against(demand, found.finding.rule, found.severity, found.demand);
        let against = report.findings.iter().enumerate().filter(|(_, found)| is_against(found));
        against.map(|(at, found)| (at, self.claim(&found.finding))).unzip()
    }

    /// Adds to a report of the files below some paths what is told of the ledger itself: promises that nobody keeps.
    pub fn promised(&self, paths: &[PathBuf], report: &mut Report) {
        if self.ledger.is_there() {
            let found = self.broken(paths, report);
            report.findings.extend(found);
            report.sort(&self.db);
        }
    }

    /// Looks for the files of the ledger that are gone under other names, and goes on with what is promised of them there.
    fn follow(&mut self) {
        let root = self.project().root.clone();
        let held = self.recorded.files().filter(|(_, promises)| !promises.holds.is_empty());
        let missing: Vec<String> =
            held.map(|(path, _)| path.to_owned()).filter(|path| !root.join(path).exists()).collect();
        if missing.is_empty() && self.moved.is_empty() {
            return;
        }
        self.ledger = self.recorded.clone();
        self.moved.clear();
        // Where the sources cannot be listed, nothing is known to be new.
        let Some(files) = self.files(&[]).ok().filter(|_| !missing.is_empty()) else { return };
        for path in &missing {
            if !self.gone.contains_key(path) {
                let known = gone(self.project(), path);
                self.gone.insert(path.clone(), known);
            }
        }
        let by_path: HashMap<&str, File> = files.iter().map(|file| (file.path(&self.db), *file)).collect();
        let module = |file: File| qualified(&self.db, file, None);
        // What version control calls a renaming is one; of the others the text tells, among files that the ledger does not know.
        let mut moved: Vec<Move> = Vec::new();
        let mut texts: Vec<(&str, &str)> = Vec::new();
        for from in &missing {
            let Some(known) = self.gone.get(from) else { continue };
            match known.renamed.as_ref().and_then(|to| Some((to, by_path.get(to.as_str())?))) {
                Some((to, file)) => moved.push(Move { from: from.clone(), to: to.clone(), module: module(*file) }),
                None => texts.extend(known.text.as_deref().map(|text| (from.as_str(), text))),
            }
        }
        let is_new = |file: &&File| {
            let path = file.path(&self.db);
            self.recorded.of(path).is_none() && moved.iter().all(|one| one.to != path)
        };
        let new: Vec<File> = files.iter().filter(is_new).copied().collect();
        let takers: Vec<(&str, &str)> = new.iter().map(|file| (file.path(&self.db), &**file.text(&self.db))).collect();
        let found = moves(&texts, &takers);
        moved.extend(found.into_iter().map(|(from, to)| Move {
            from: texts[from].0.to_owned(),
            to: takers[to].0.to_owned(),
            module: module(new[to]),
        }));
        self.moved = moved;
        Arc::make_mut(&mut self.ledger).follow(&self.moved);
    }

    /// Says which rules somebody asks for: those that are told by themselves, and those that settings, demands or the ledger name. Once
    /// asked for they stay so, so that asking for less does not make anything be worked out again.
    pub fn ask(&mut self, asked: &Asked) {
        let settings = &self.project().settings;
        let severities = settings.severity.iter().chain(settings.areas.iter().flat_map(|area| &area.severity));
        let patterns: Vec<&String> = severities
            .chain(&asked.severity)
            .filter(|(_, severity)| *severity != Severity::Off)
            .map(|(pattern, _)| pattern)
            .collect();
        let in_areas = settings.areas.iter().filter_map(|area| area.demands.as_ref()).flatten();
        let names = settings.demands.iter().chain(in_areas).chain(&asked.demands).map(String::as_str);
        let demanded: HashSet<&str> = names
            .chain(self.ledger.demands())
            .filter_map(demands::by_slug)
            .flat_map(|demand| demand.rules.iter().copied())
            .collect();
        let is_unasked = |slug: &&'static str| {
            !self.asked_for.contains(slug)
                && !demanded.contains(slug)
                && !patterns.iter().any(|pattern| rules::fits(pattern, slug))
        };
        let off = rules::ALL.iter().filter(|rule| rule.severity == Severity::Off).map(|rule| rule.slug);
        let (unasked, now): (Vec<&'static str>, Vec<&'static str>) = off.partition(is_unasked);
        self.asked_for.extend(now);
        self.db.set_unasked(unasked);
    }

    /// What files are held to that annotations could break.
    #[must_use]
    pub fn held(&self, files: &[File]) -> Held {
        let of = |file: &File| {
            let path = file.path(&self.db);
            let local = self.areas.local(path);
            let names = local.demands.iter().map(String::as_str).chain(self.ledger.held(path));
            let rules = names.filter_map(demands::by_slug).flat_map(|demand| demand.rules).copied();
            let rules: Vec<&'static str> = rules.filter(|rule| BREAKABLE.contains(rule)).collect();
            (!rules.is_empty()).then(|| (path.to_owned(), rules))
        };
        files.iter().filter_map(of).collect()
    }

    /// The findings that stand against a demand, by their places in a report, and how they are settled. Against
    /// [`ledger::AS_IT_IS`] stand all errors and warnings that no demand makes.
    #[must_use]
    pub fn settled(&self, report: &Report, demand: &str) -> (Vec<usize>, Settlement) {
        let (at, claims) = self.claims(report, demand);
        let by_path: HashMap<&str, File> = report.files.iter().map(|file| (file.path(&self.db), *file)).collect();
        let mut known: HashMap<String, HashSet<String>> = HashMap::new();
        let root = &self.project().root;
        let mut is_gone = |path: &str, symbol: &str| match by_path.get(path) {
            None => !root.join(path).exists(),
            Some(_) if symbol == "-" => false,
            Some(file) => {
                let symbols = known.entry(path.to_owned()).or_insert_with(|| self.symbols(*file));
                !symbols.contains(symbol)
            }
        };
        let settlement = settle(&self.ledger, demand, &claims, &mut is_gone);
        (at, settlement)
    }

    /// A finding as a claim on the ledger.
    #[must_use]
    pub fn claim<'a>(&'a self, finding: &'a Finding) -> Claim<'a> {
        Claim {
            path: finding.file.path(&self.db),
            rule: finding.rule,
            symbol: &finding.symbol,
            fingerprint: &finding.fingerprint,
            weight: finding.weight,
        }
    }

    /// The dotted names of a file's functions, and of itself.
    fn symbols(&self, file: File) -> HashSet<String> {
        let index = module_index(&self.db, file);
        let functions = index.functions.iter().map(|(function, _)| qualified(&self.db, file, Some(function)));
        functions.chain([qualified(&self.db, file, None)]).collect()
    }

    fn broken(&self, paths: &[PathBuf], report: &Report) -> Vec<Reported> {
        let checked: HashSet<&str> = report.files.iter().map(|file| file.path(&self.db)).collect();
        let silenced: HashSet<&str> =
            report.files.iter().filter(|file| self.is_silenced(**file)).map(|file| file.path(&self.db)).collect();
        self.broken_among(paths, &checked, &silenced)
    }

    /// Whether a comment at the head of a file hides all that is found in it.
    #[must_use]
    pub fn is_silenced(&self, file: File) -> bool {
        leitmotiv_engine::findings::suppress::hides_all(&self.db, file)
    }

    /// The symbols that debts of a file speak of and that are not in it any more.
    #[must_use]
    pub fn gone_from(&self, file: File) -> Vec<String> {
        let Some(promises) = self.ledger.of(file.path(&self.db)).filter(|promises| !promises.debts.is_empty()) else {
            return Vec::new();
        };
        let there = self.symbols(file);
        let named: BTreeSet<&str> = promises.debts.keys().map(|debt| debt.symbol.as_str()).collect();
        named.into_iter().filter(|symbol| *symbol != "-" && !there.contains(*symbol)).map(str::to_owned).collect()
    }

    /// The promises of the ledger that nobody keeps, as findings in it: of the files below some paths, where some are checked, and some of
    /// them silenced.
    #[must_use]
    pub fn broken_among(&self, paths: &[PathBuf], checked: &HashSet<&str>, silenced: &HashSet<&str>) -> Vec<Reported> {
        if !self.ledger.is_there() {
            return Vec::new();
        }
        let root = &self.project().root;
        let asked: Vec<PathBuf> = paths.iter().map(|path| root.join(path)).collect();
        let is_meant = |path: &str| asked.is_empty() || asked.iter().any(|asked| root.join(path).starts_with(asked));
        let is_there = |path: &str| root.join(path).exists();
        let looked = Looked { checked, silenced, is_there: &is_there, is_meant: &is_meant };
        let found = broken(&self.ledger, &looked);
        if found.is_empty() {
            return Vec::new();
        }
        let file = self.db.source(&root.join(ledger::FILE));
        found.into_iter().filter_map(|broken| self.told(file, &broken)).collect()
    }

    fn told(&self, file: File, broken: &Broken) -> Option<Reported> {
        let rule = &rules::CONFIG_LEDGER;
        let own = if broken.is_gone { Severity::Note } else { rule.severity };
        let severity = self.areas.local(ledger::FILE).severity(rule.slug).unwrap_or(own);
        Some(self.of_ledger(file, broken, severity)).filter(|_| severity != Severity::Off)
    }

    /// Something that is told of the ledger, where it speaks of the file concerned.
    fn of_ledger(&self, file: File, broken: &Broken, severity: Severity) -> Reported {
        let rule = &rules::CONFIG_LEDGER;
        // Where the ledger speaks of the file, in bytes.
        let text = file.text(&self.db);
        let name = ledger::text::escape(&broken.path);
        let mut start = 0;
        let mut range = leitmotiv_syntax::TextRange::default();
        for line in text.split_inclusive('\n') {
            let has = |wanted: &str| line.split([' ', '\n']).any(|field| field == wanted);
            if has(&name) && broken.fields.iter().all(|field| has(field)) {
                let size = |at: usize| leitmotiv_syntax::TextSize::try_from(at).unwrap_or_default();
                range = leitmotiv_syntax::TextRange::new(size(start), size(start + line.trim_end().len()));
                break;
            }
            start += line.len();
        }
        let finding = Finding {
            rule: rule.slug,
            severity: rule.severity,
            file,
            range,
            message: broken.words.clone(),
            symbol: String::new(),
            evidence: Vec::new(),
            remedies: rule.page.ways.iter().map(rules::Way::remedy).collect(),
            fingerprint: fingerprint(&broken.words),
            weight: 1,
            package: None,
            at_run_time: None,
        };
        Reported { finding, severity, owed: false, demand: None }
    }

    /// Adds errors to a report that are told of the ledger.
    pub fn add(&self, report: &mut Report, broken: &[Broken]) {
        if broken.is_empty() {
            return;
        }
        let file = self.db.source(&self.project().root.join(ledger::FILE));
        report.findings.extend(broken.iter().map(|broken| self.of_ledger(file, broken, Severity::Error)));
        report.sort(&self.db);
    }
}

/// The demands that the ledger has debts under, in the order in which they are settled.
pub fn settling() -> impl Iterator<Item = &'static str> {
    demands::ALL.iter().map(|demand| demand.slug).chain([ledger::AS_IT_IS])
}

/// Whether a finding stands against a demand: one of a rule, of a severity, that a demand made an error of or none. Against
/// [`ledger::AS_IT_IS`] stand all errors and warnings that no demand makes.
#[must_use]
pub fn is_against(demand: &str, rule: &str, severity: Severity, made_by: Option<&str>) -> bool {
    match demand {
        ledger::AS_IT_IS => {
            let is_of_file = matches!(rule, "config.ledger" | "syntax.error" | "engine.fault");
            severity > Severity::Note && made_by.is_none() && !is_of_file
        }
        _ => demands::by_slug(demand).is_some_and(|demand| demand.rules.contains(&rule)),
    }
}

/// The project's areas.
///
/// # Errors
/// [`SessionError`] where the configuration names what does not exist.
fn areas(project: &Project) -> Result<Areas, SessionError> {
    let settings = &project.settings;
    for (rule, _) in settings.severity.iter().chain(settings.areas.iter().flat_map(|area| &area.severity)) {
        known_rule(rule)?;
    }
    let in_areas = settings.areas.iter().filter_map(|area| area.demands.as_ref()).flatten();
    for demand in settings.demands.iter().chain(in_areas) {
        known_demand(demand)?;
    }
    Ok(Areas::new(settings)?)
}

/// Whether a rule or family exists.
///
/// # Errors
/// [`SessionError::UnknownRule`] with the nearest name.
pub fn known_rule(name: &str) -> Result<(), SessionError> {
    if rules::exists(name) {
        return Ok(());
    }
    let nearest = nearest(name, rules::ALL.iter().map(|rule| rule.slug)).map(str::to_owned);
    Err(SessionError::UnknownRule { name: name.to_owned(), nearest })
}

/// Whether a demand exists.
///
/// # Errors
/// [`SessionError::UnknownDemand`] with the nearest name.
pub fn known_demand(name: &str) -> Result<(), SessionError> {
    if demands::by_slug(name).is_some() {
        return Ok(());
    }
    let nearest = nearest(name, demands::ALL.iter().map(|demand| demand.slug)).map(str::to_owned);
    Err(SessionError::UnknownDemand { name: name.to_owned(), nearest })
}

impl Report {
    /// Puts the findings in order: by path, then position, then rule.
    fn sort(&mut self, db: &Database) {
        self.findings.sort_by(|one, other| {
            let key = |reported: &Reported| (reported.finding.range.start(), reported.finding.rule);
            one.finding.file.path(db).cmp(other.finding.file.path(db)).then_with(|| key(one).cmp(&key(other)))
        });
    }

    /// How many findings there are of a severity that are not owed.
    #[must_use]
    pub fn count(&self, severity: Severity) -> usize {
        self.findings.iter().filter(|reported| !reported.owed && reported.severity == severity).count()
    }

    /// How many findings are owed.
    #[must_use]
    pub fn owed(&self) -> usize {
        self.findings.iter().filter(|reported| reported.owed).count()
    }
}
