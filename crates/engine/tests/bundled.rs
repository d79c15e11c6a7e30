//! The stubs of the standard library are checked as a user's would be, in a package of their own: each can be read, and
//! every name they use is defined, in the oldest and in the newest version.

use leitmotiv_engine::check::check;

use crate::fixture::{Source, database};

/// `builtins` apart, whose names are found without an import, and `typing`, which begins before what it defines.
const APART: [&str; 2] = ["builtins.pyi", "typing.pyi"];

#[test]
fn bundled_stubs_use_no_name_that_is_not_there() {
    let mut sources = vec![Source { path: "lib/__init__.pyi".into(), text: String::new() }];
    for path in leitmotiv_stdlib::paths().into_iter().filter(|path| !APART.contains(path)) {
        let text = leitmotiv_stdlib::text(path).unwrap().to_owned();
        sources.push(Source { path: format!("lib/{path}"), text });
    }
    assert!(sources.len() > 80);
    for version in ["3.8", "3.13"] {
        let (folder, db) = database(&sources, Some(version));
        let root = folder.path().canonicalize().unwrap();
        let files: Vec<_> = sources.iter().map(|source| db.source(&root.join(&source.path))).collect();
        let mut told = Vec::new();
        for (source, checked) in sources.iter().zip(check(&db, &files)) {
            for finding in &checked.findings {
                if ["name.undefined", "name.unbound", "syntax.error"].contains(&finding.rule) {
                    told.push(format!("{} in {version}: {}", source.path, finding.message));
                }
            }
        }
        assert!(told.is_empty(), "{}", told.join("\n"));
    }
}
