//! Whether the answers depend on how many threads there are: each package is checked with one and with four, and the bytes
//! are compared.

use std::process::Command;

use crate::corpus::{PACKAGES, environment_folder, folder, program};

pub fn run() -> Result<(), String> {
    let program = program()?;
    let mut differing = Vec::new();
    for package in PACKAGES {
        let folder = folder(package);
        if !folder.exists() {
            return Err("run `cargo xtask corpus` first".to_owned());
        }
        let check = |threads: &str| -> Result<Vec<u8>, String> {
            let output = Command::new(&program)
                .env("VIRTUAL_ENV", environment_folder())
                .env("RAYON_NUM_THREADS", threads)
                .arg("--project")
                .arg(&folder)
                .args(["check", "--no-cache", "--format", "json", "--fail-on", "never"])
                .output()
                .map_err(|error| error.to_string())?;
            Ok(output.stdout)
        };
        let one = check("1")?;
        let same = one == check("4")? && one == check("4")?;
        println!("{:<24}{:>10} bytes  {}", package.name, one.len(), if same { "same" } else { "DIFFERENT" });
        if !same {
            differing.push(package.name);
        }
    }
    if differing.is_empty() { Ok(()) } else { Err(format!("not the same: {}", differing.join(", "))) }
}
