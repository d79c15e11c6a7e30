//! What crates the program is made of: all from the registry, pinned in `Cargo.lock`, under licences that go with its own.

#[cfg(test)]
mod tests {
    use std::process::Command;

    use serde_json::Value;

    /// Licences that ask for no more than to be named.
    const PERMISSIVE: [&str; 11] = [
        "Apache-2.0",
        "Apache-2.0 WITH LLVM-exception",
        "BSD-2-Clause",
        "BSD-3-Clause",
        "BSL-1.0",
        "ISC",
        "MIT",
        "Unicode-3.0",
        "Unicode-DFS-2016",
        "Unlicense",
        "Zlib",
    ];

    /// Whether a licence expression (SPDX) can be met by permissive licences alone.
    fn is_permissive(expression: &str) -> bool {
        // Some write `/` where they mean a choice.
        let plain = expression.replace('/', " OR ").replace(['(', ')'], "");
        plain.split(" AND ").all(|part| part.split(" OR ").any(|one| PERMISSIVE.contains(&one.trim())))
    }

    #[test]
    fn expressions_are_met_by_one_of_each_choice() {
        assert!(is_permissive("MIT OR Apache-2.0 OR LGPL-2.1-or-later") && is_permissive("MIT/Apache-2.0"));
        assert!(is_permissive("(MIT OR Apache-2.0) AND Unicode-3.0"));
        assert!(!is_permissive("GPL-3.0-only") && !is_permissive("MIT AND GPL-3.0-only") && !is_permissive(""));
    }

    #[test]
    fn all_crates_are_pinned_from_the_registry_and_permissive() {
        let output = Command::new(env!("CARGO"))
            .args(["metadata", "--format-version", "1", "--locked", "--offline"])
            .current_dir(env!("CARGO_MANIFEST_DIR"))
            .output()
            .unwrap();
        assert!(output.status.success(), "{}", String::from_utf8_lossy(&output.stderr));
        let metadata: Value = serde_json::from_slice(&output.stdout).unwrap();
        let packages = metadata["packages"].as_array().unwrap();
        assert!(packages.len() > 20);
        for package in packages {
            let name = package["name"].as_str().unwrap();
            let source = package["source"].as_str();
            assert!(source.is_none_or(|source| source.starts_with("registry+")), "{name} is from {source:?}");
            let licence = package["license"].as_str().unwrap_or_default();
            assert!(is_permissive(licence), "{name} is under {licence:?}");
        }
    }
}
