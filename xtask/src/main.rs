//! The workshop: corpora, speed, noise. `cargo xtask COMMAND`, an alias in `.cargo/config.toml`.
//!
//! Corpora are packages from PyPI, named and pinned in [`corpus`], unpacked into the ignored folder `corpora/`.

mod asserts;
mod attack;
mod causes;
mod corpus;
mod edits;
mod gain;
mod known;
mod latency;
mod library;
mod licences;
mod names;
mod noise;
mod order;
mod profile;
mod recover;
mod speed;
mod stubs;
mod suites;
mod verify;

use std::process::ExitCode;

/// Runs something in threads with stacks for inference, as the program itself has them.
fn in_pool(work: impl FnOnce() -> Result<(), String> + Send) -> Result<(), String> {
    let pool = rayon::ThreadPoolBuilder::new().stack_size(256 << 20).build().map_err(|error| error.to_string())?;
    pool.install(work)
}

fn main() -> ExitCode {
    let arguments: Vec<String> = std::env::args().skip(1).collect();
    let words: Vec<&str> = arguments.iter().map(String::as_str).collect();
    let result = match words.as_slice() {
        ["corpus"] => corpus::fetch(),
        ["speed", words @ ..] => speed::run(words),
        ["noise"] => noise::run(),
        ["noise", "generic"] => noise::generic(),
        ["library-coverage"] => library::run(),
        ["library-names"] => names::run(),
        ["asserts", words @ ..] => asserts::run(words),
        ["order"] => order::run(),
        ["profile", folder] => profile::run(folder),
        ["edits"] => edits::run(None),
        ["edits", "--runs", words @ ..] => edits::runs(words),
        ["edits", seed] => edits::run(Some(seed)),
        ["fuzz"] => edits::fuzz(None),
        ["fuzz", seed] => edits::fuzz(Some(seed)),
        ["recover", words @ ..] => recover::run(words),
        ["attack", words @ ..] => attack::run(words),
        ["causes", words @ ..] => causes::run(words),
        ["known", words @ ..] => known::run(words),
        ["gain", words @ ..] => gain::run(words),
        ["stubs"] => stubs::run(),
        ["suites", words @ ..] => suites::run(words),
        ["latency", words @ ..] => latency::run(words),
        ["library-verify", interpreters @ ..] => verify::run(interpreters),
        _ => {
            eprintln!("cargo xtask corpus   fetch the pinned packages into corpora/");
            eprintln!(
                "{}   a check from nothing, unchanged and edited, against the interpreter compiling the same files",
                speed::USAGE
            );
            eprintln!("cargo xtask noise    findings per 1,000 lines and known expressions on typed packages");
            eprintln!("cargo xtask noise generic   the same on packages that are heavily generic");
            eprintln!("cargo xtask library-coverage   how much of what packages use of the standard library is known");
            eprintln!(
                "cargo xtask library-names   note what modules of the standard library have besides what is documented"
            );
            eprintln!("cargo xtask stubs    stubs of packages without types: written, verified, used");
            eprintln!("cargo xtask library-verify [PYTHON…]   the stubs of the standard library against interpreters");
            eprintln!("{}   how many of the `assert_type` lines hold that packages ship", asserts::USAGE);
            eprintln!(
                "cargo xtask attack [WHAT]   a hostile project traced, interruptions, large inputs, real packages"
            );
            eprintln!(
                "cargo xtask recover [--low] [--unproved] [--weights] [--show] [--keep FOLDER] [--traces] [--environment FOLDER] [FOLDER…]"
            );
            eprintln!("    annotations taken off annotated packages, and written back");
            eprintln!("{}   the change that would settle each of 100 causes, made on trial", causes::USAGE);
            eprintln!("{}   how much is known of packages' expressions", known::USAGE);
            eprintln!("{}   the first steps of `survey`, really taken on copies", gain::USAGE);
            eprintln!("{}   test suites, plainly and recorded: cost and outcomes", suites::USAGE);
            eprintln!("{}   how long an editor waits", latency::USAGE);
            eprintln!("cargo xtask order    the same findings with one thread and with four");
            eprintln!("cargo xtask profile FOLDER   where the time of a check goes");
            eprintln!("cargo xtask edits [SEED]   random edits of the corpora: told of them, or from nothing");
            eprintln!("cargo xtask edits --runs [SEED [FOLDER]]   edits between runs: with a cache and without");
            eprintln!("cargo xtask fuzz [SEED]   damaged texts of the corpora: no faults, all findings in the text");
            return ExitCode::from(2);
        }
    };
    match result {
        Ok(()) => ExitCode::SUCCESS,
        Err(message) => {
            eprintln!("xtask: {message}");
            ExitCode::FAILURE
        }
    }
}
