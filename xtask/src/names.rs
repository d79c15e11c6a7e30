//! What modules of the standard library hold besides what is documented: `zipfile.ZIP_MAX_COMMENT`, and the modules that they
//! import for their own use. Read from the interpreter on the path and written into `crates/stdlib/undocumented.txt`.

use std::path::PathBuf;
use std::process::Command;

pub fn run() -> Result<(), String> {
    let root = PathBuf::from(env!("CARGO_MANIFEST_DIR")).join("..");
    let output = Command::new("python3")
        .arg("-I")
        .arg(root.join("xtask/src/names.py"))
        .arg(root.join("crates/stdlib/stubs"))
        .output()
        .map_err(|error| error.to_string())?;
    if !output.status.success() {
        return Err(String::from_utf8_lossy(&output.stderr).into_owned());
    }
    let target = root.join("crates/stdlib/undocumented.txt");
    std::fs::write(&target, &output.stdout).map_err(|error| error.to_string())?;
    let lines = output.stdout.iter().filter(|byte| **byte == b'\n').count();
    println!("{lines} lines written into {}", target.display());
    Ok(())
}
