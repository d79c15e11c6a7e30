//! A check in parts, on several machines.

use std::collections::BTreeMap;
use std::io::IsTerminal;
use std::mem::ManuallyDrop;
use std::path::{Path, PathBuf};
use std::process::ExitCode;

use leitmotiv_migrate::session::{Asked, Session};
use leitmotiv_project::cache::{Sum, sum};
use leitmotiv_report::again::Looked;
use leitmotiv_report::parts::{Part, PartsError, divided, merged};
use leitmotiv_report::whole::{Telling, Whole, whole};
use serde::{Deserialize, Serialize};

use super::identity::Identity;
use super::kept::{self, Found, Kept, Of};
use super::{By, Check};
use crate::commands::{Context, print_bytes, print_bytes_to, print_to};
use crate::failure::Failure;

/// No check has more parts.
pub(super) const MOST: usize = 10_000;

/// What the file of costs says of itself.
const SCHEMA: &str = "leitmotiv.costs/1";

/// What files cost.
#[derive(Debug, Default, Serialize, Deserialize)]
struct Costs {
    schema: String,
    /// By path, in millionths of a second.
    files: BTreeMap<String, u64>,
}

impl Costs {
    /// Those of a file; none where it is not there.
    fn read(path: Option<&Path>) -> Result<Costs, Failure> {
        let Some(path) = path.filter(|path| path.exists()) else { return Ok(Costs::default()) };
        let bytes = std::fs::read(path)
            .map_err(|error| Failure::unusable(format!("cannot read `{}`: {error}", path.display())))?;
        let costs: Option<Costs> = serde_json::from_slice(&bytes).ok();
        costs.filter(|costs| costs.schema == SCHEMA).ok_or_else(|| {
            let path = path.display();
            Failure::unusable(format!(
                "`{path}` says no costs of files: `leitmotiv check --merge … --costs {path}` writes them"
            ))
        })
    }

    /// The cost of each file. Where none was measured, what its text says: as much as others of its length.
    fn of(&self, by: &Identity, lengths: &[u64]) -> Vec<u64> {
        let paths: Vec<String> = by.told.iter().map(|(path, ..)| shown(path)).collect();
        let known = paths.iter().zip(lengths).filter_map(|(path, length)| Some((*self.files.get(path)?, *length)));
        let (took, bytes) = known.fold((0_u128, 0_u128), |(took, bytes), (one, length)| {
            (took + u128::from(one), bytes + u128::from(length))
        });
        let guessed = |length: u64| match bytes {
            0 => length,
            bytes => u64::try_from(u128::from(length) * took / bytes).unwrap_or(u64::MAX),
        };
        paths
            .iter()
            .zip(lengths)
            .map(|(path, length)| self.files.get(path).copied().unwrap_or(guessed(*length)))
            .collect()
    }
}

fn shown(path: &Path) -> String {
    path.to_string_lossy().replace('\\', "/")
}

/// Checks one part of the files below some paths, and prints it.
pub(super) fn check(
    context: &Context,
    session: &mut ManuallyDrop<Session>,
    command: &Check,
    (part, of): (usize, usize),
    paths: &[PathBuf],
    asked: &Asked,
) -> Result<ExitCode, Failure> {
    if command.output.is_none() && std::io::stdout().is_terminal() {
        return Err(Failure::unusable("a part is for programs to read: write it to a file, `--output FILE`"));
    }
    let costs = Costs::read(command.costs.as_deref())?;
    let store = kept::store(command)?;
    let (by, ahead) = Identity::of(command, session, paths)?;
    let root = &session.project().root;
    let length = |(path, ..): &(PathBuf, PathBuf, String, Sum)| {
        ahead.texts.get(&root.join(path)).map_or(0, |(text, _)| text.len() as u64)
    };
    let lengths: Vec<u64> = by.told.iter().map(length).collect();
    let divided = divided(&costs.of(&by, &lengths), of);
    let places: Vec<usize> = (0..divided.len()).filter(|place| divided[*place] == part - 1).collect();
    let division = sum(format!("{divided:?}").as_bytes());
    let (asked_for, state) = (sum(by.asked_for().as_bytes()), sum(&[by.all(), division].concat()));
    let kept = Kept::of_part(by.part((part, of), division), command, session, store.as_ref());
    let (part, is_fault) = match kept.find_part() {
        Some(part) => (part, false),
        None => {
            let what = Of { paths, places: Some(&places), asked, with_owed: command.owed };
            let Found { looked, to_keep } = kept.check(context, session, ahead, what)?;
            let (is_fault, all) = (looked.is_fault(), kept.by.told.len());
            let Looked { files, took } = looked;
            let part = Part { asked: asked_for, state, place: (part, of), places: places.clone(), all, files, took };
            if let Some(observed) = to_keep {
                kept.keep_part(observed, &part);
            }
            (part, is_fault)
        }
    };
    let bytes = part.bytes().ok_or_else(|| Failure::fault("the part cannot be written"))?;
    match &command.output {
        Some(path) => print_bytes_to(path, &bytes)?,
        None => print_bytes(&bytes)?,
    }
    kept::finish(store, context);
    Ok(ExitCode::from(if is_fault { 3 } else { 0 }))
}

/// Puts together the parts that the command names.
pub(super) fn merge(
    session: &Session,
    command: &Check,
    paths: &[PathBuf],
    telling: Telling<'_>,
) -> Result<Whole, Failure> {
    if command.by == Some(By::Cause) {
        return Err(Failure::unusable(
            "causes are looked for in the files, which a merge does not check: leave out `--by cause`",
        ));
    }
    let mut parts = Vec::new();
    for path in &command.merge {
        let name = path.display().to_string();
        let bytes = std::fs::read(path).map_err(|error| Failure::unusable(format!("cannot read `{name}`: {error}")))?;
        let part = Part::of(&bytes).ok_or_else(|| Failure::unusable(PartsError::NoPart(name.clone()).to_string()))?;
        parts.push((name, part));
    }
    let asked = sum(Identity::named(command, session, paths).0.asked_for().as_bytes());
    if let Some((name, _)) = parts.iter().find(|(_, part)| part.asked != asked) {
        return Err(Failure::unusable(format!(
            "`{name}` was made of other files, or with other settings, options, another ledger or interpreter than are here"
        )));
    }
    let (files, took): (Vec<_>, Vec<u64>) =
        merged(parts).map_err(|error| Failure::unusable(error.to_string()))?.into_iter().unzip();
    if let Some(path) = &command.costs {
        let costs = files.iter().map(|file| file.path.clone()).zip(took).collect();
        let costs = Costs { schema: SCHEMA.to_owned(), files: costs };
        let text = serde_json::to_string_pretty(&costs).map_err(|error| Failure::fault(error.to_string()))?;
        print_to(path, &(text + "\n"))?;
    }
    Ok(whole(session, paths, files, telling))
}
