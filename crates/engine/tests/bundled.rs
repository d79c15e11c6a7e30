//! The stubs of the standard library are checked as a user's would be, in a package of their own: each can be read, and
//! every name they use is defined, in the oldest and in the newest version.

use leitmotiv_engine::base::db::Db;
use leitmotiv_engine::check::check;
use leitmotiv_engine::definitions::classes::info;
use leitmotiv_engine::outline::module_index;
use leitmotiv_engine::resolve::standard_module;
use leitmotiv_engine::types::ClassRef;
use leitmotiv_index::tree::ReachId;

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

#[test]
fn classes_of_bundled_stubs_derive_from_what_each_version_has() {
    let paths: Vec<&str> = leitmotiv_stdlib::paths().into_iter().collect();
    for version in ["3.8", "3.10", "3.13"] {
        let text = "import enum\n".to_owned();
        let (_folder, db) = database(&[Source { path: "ferry.py".into(), text }], Some(version));
        let mut unknown = Vec::new();
        let mut count = 0;
        // What a mock has, nobody can say.
        for path in paths.iter().filter(|path| **path != "unittest/mock.pyi") {
            let module = path.trim_end_matches(".pyi").trim_end_matches("/__init__").replace('/', ".");
            let Some(file) = standard_module(&db, db.names().intern(&module)) else { continue };
            for (class, record) in module_index(&db, file).classes.iter() {
                count += 1;
                let is_there = module_index(&db, file).defs[record.def].reach != ReachId::EXCLUDED;
                if is_there && info(&db, ClassRef { file, class }).unknown_base.is_some() {
                    unknown.push(format!("{path}: {} in {version}", db.names().text(record.name)));
                }
            }
        }
        assert!(count > 500, "{count} classes");
        assert!(unknown.is_empty(), "{}", unknown.join("\n"));
    }
}
